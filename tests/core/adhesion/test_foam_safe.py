"""What may attack a foam is never told as sure, nor named for a hinge on it: by the table of adhesives and foams."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.adhesives import adhesives, between, foam_families, on_foams, suits_foam
from fletcher.core.adhesion.coupons import Coupon
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import TESTED, glue
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.joints.hinges import HingeNeed, hinge, hinges
from fletcher.core.materials.tables import reference

FOAMS = ["epp_30", "epo_31", "eps_20", "xps_30", "xps_sheet_6", "epe_33", "fb_core_light"]
OTHERS = ["epp_30", "eps_20", "xps_30", "balsa_block_light", "carbon_rod_3"]


def verdicts(foam: str) -> dict[str, str]:
    family = foam_families()[foam]
    return {key: on.verdict for (key, of), on in on_foams().items() if of == family}


@pytest.mark.parametrize("other", OTHERS)
@pytest.mark.parametrize("foam", FOAMS)
def test_what_has_to_be_tried_first_says_so_and_is_never_sure(foam, other):
    try:
        found = glue(GlueNeed(one=foam, other=other, schools={}, hold_N=1.0, within_min=1440), reference())
    except InvalidDocument:
        pytest.skip("nothing is known about this pair")
    on = [verdicts(k) for k in (foam, other) if k in foam_families()]
    for c in found.choices:
        doubtful = any(v.get(c.key) == "test_first" for v in on)
        assert bool(c.test_first) == (doubtful and not c.vetoes), c.key
        assert not (doubtful and c.meets == "sure"), c.key
        assert not doubtful or not c.test_first or c.test_first.startswith("Try it on a scrap first: ")
    best = found.choices[0]
    assert not best.test_first or "Try it on a scrap first." in found.says


@pytest.mark.parametrize("foam", ["eps_20", "xps_30", "xps_sheet_6"])
def test_on_polystyrene_what_surely_holds_comes_before_what_may_dissolve_it(foam):
    found = glue(GlueNeed(one=foam, other=foam, schools={}, hold_N=1.0, within_min=1440), reference())
    fits = [c for c in found.choices if not c.vetoes]
    assert fits[0].meets == "sure" and not fits[0].test_first
    doubtful = [n for n, c in enumerate(fits) if c.test_first]
    sure = [n for n, c in enumerate(fits) if c.meets == "sure"]
    assert doubtful and min(doubtful) > max(sure)


def test_own_coupons_answer_the_doubt():
    need = GlueNeed(one="eps_20", other="eps_20", schools={}, hold_N=1.0, within_min=1440)
    key = "solvent_rubbery_clear"
    torn = Coupon.model_validate({
        "adhesive": key, "one": "eps_20", "other": "eps_20", "technique": None, "prepared": "roughened",
        "minutes": 1440, "warmth_C": 20, "broken": "snap", "load_N": None, "effort": "medium", "area_cm2": 12,
        "width_mm": 20, "arm_mm": 60, "control": False, "label": "", "note": "",
        "face": {"foam_deep": 100, "surface_layer": 0, "clean_seam": 0, "beside_seam": 0, "elsewhere": 0,
                 "glue_soft": 0, "foam_softened": 0, "paint_lifted": 0},
    })  # fmt: skip

    def told(coupons):
        return next(c for c in glue(need, reference(), coupons).choices if c.key == key)

    assert told([]).test_first
    answered = told([torn] * 8)
    assert answered.own.odds.after.typ >= TESTED and not answered.test_first
    eaten = torn.model_copy(update={"face": torn.face.model_copy(update={"foam_deep": 0, "foam_softened": 100})})
    assert told([eaten] * 8).test_first


@pytest.mark.parametrize("foam", [f for f in FOAMS if f != "fb_core_light"])
def test_no_hinge_names_a_glue_that_eats_its_foam(foam):
    names = {adhesives()[k].name: v for k, v in verdicts(foam).items()}
    told = hinge(HingeNeed(made_of=foam), reference())
    assert len(told.choices) == len(hinges())
    for c in told.choices:
        for name in c.glues:
            plain = name.removesuffix(" (try it on a scrap first)")
            assert names.get(plain) not in ("attacks", "poor_adhesion"), (c.key, name)
            assert (plain != name) == (names.get(plain) == "test_first"), (c.key, name)
        listed = [adhesives()[k].name for k in hinges()[c.key].glues]
        for name in listed:
            assert names.get(name) != "attacks" or f"Nor {name}, which attacks this foam." in c.keep_out


def test_every_foam_is_of_a_family_or_takes_epoxy_alone():
    """Foams of another density are of the family of their kind; what the table knows nothing of is not called safe."""
    families = foam_families()
    for key, foam in reference().foams.items():
        alike = {families.get(k) for k, f in reference().foams.items() if f.family == foam.family}
        assert len(alike) == 1 or foam.family == "XPS", key
        safe = {k for k in adhesives() if suits_foam(k, key)}
        if key in families:
            assert safe == {k for k, v in verdicts(key).items() if v not in ("attacks", "poor_adhesion", "test_first")}
        else:  # balsa is glued like wood
            assert foam.family == "balsa"
            assert safe == {k for k in adhesives() if (row := between().get((k, "wood_wood"))) and row.suits >= 3}
            assert {"aliphatic_wood", "epoxy_30min"} <= safe and "hotmelt_low" not in safe
    for key in ("pvc_60", "pmi_52"):  # hard cores: epoxy and polyurethane; what may soften them is tried first
        safe = {k for k in adhesives() if suits_foam(k, key)}
        assert {"epoxy_30min", "pu_foaming_white"} <= safe and "solvent_rubber_thick" not in safe
    assert "ca_thin" not in {k for k in adhesives() if suits_foam(k, "eps_12")}
    assert all(suits_foam(k, None) for k in adhesives())
