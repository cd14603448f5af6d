"""The glue chooser: what holds when, what is ruled out and why, grams, schools, honest answers to what cannot be."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.adhesion.adhesives import TIMES_MIN, adhesives, between, curings, foam_families, on_foams, schools
from fletcher.core.adhesion.bond_line import EVEN
from fletcher.core.adhesion.curing import GEL, cured, joint, techniques
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.preferences import TOPICS
from fletcher.core.adhesion.selection import glue
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference

STOCK = reference()


def ask(**changes):
    return glue(GlueNeed(**changes), STOCK)


def one(key, **changes):
    return next(c for c in ask(**changes).choices if c.key == key)


def test_every_adhesive_is_ranked_once_with_a_reason_and_the_ruled_out_come_last():
    found = ask()
    assert {c.key for c in found.choices} == set(adhesives()) and len(found.choices) == len(adhesives())
    out = [bool(c.vetoes) for c in found.choices]
    assert out == sorted(out)
    for c in found.choices:
        assert c.why and c.plan and c.prepare and c.grade in "ABC"
        assert c.then_N.low <= c.then_N.typ <= c.then_N.high
        assert 0 < c.grams.low <= c.grams.typ <= c.grams.high


def test_a_joint_holds_no_more_than_its_foam(proof):
    """Cured, the foam beside the glue tears: its own shear strength times what this adhesive reaches on it."""
    found = one("solvent_rubbery_clear", area_cm2=10)
    foam = STOCK.foams["epp_30"].shear_strength_MPa.typ
    share = min(
        between()["solvent_rubbery_clear", "foam_foam"].efficiency.typ,
        on_foams()["solvent_rubbery_clear", "EPP"].efficiency.typ,
    )
    proof("cured joint in foam, η τ A", found.finally_N.typ, foam * share * 1000 * EVEN["shear"], 1e-6)
    assert found.fails == "foam tears first"


def test_hard_pairs_hold_what_the_glue_line_holds(proof):
    found = one("aliphatic_wood", one="wood", other="wood", area_cm2=5)
    glue_line = between()["aliphatic_wood", "wood_wood"].shear_MPa.typ
    proof("wood on wood, τ A", found.finally_N.typ, glue_line * 500 * EVEN["shear"], 1e-6)


def test_strength_never_falls_with_time_and_a_warm_shop_is_sooner():
    for c in ask(within_min=30).choices:
        typical = [p.load_N.typ for p in c.curve]
        assert typical == sorted(typical), c.key
    cold, warm = (one("epoxy_30min", workshop_C=t, within_min=120).then_N.typ for t in (12, 28))
    assert warm > 2 * cold


@pytest.mark.parametrize("key", ["epoxy_structural_slow", "epoxy_laminating", "solvent_rubber_thick", "epoxy_30min"])
def test_nobody_is_told_that_slow_epoxy_or_a_wet_film_carries_a_nose_after_half_an_hour(key):
    found = one(key, hold_N=30, within_min=30, width_mm=40, schools={"contact_wet_or_dry": "other"})
    assert found.vetoes or found.meets in ("later", "no")
    assert found.then_N.typ < 0.1 * max(found.finally_N.typ, 1)


def test_a_wet_film_holds_far_less_than_its_share_of_cure(proof):
    share = np.array([[0.2, 0.4, 0.6]])
    glue, bed = np.array([3.0]), np.array([0.3])
    wet, flashed = joint(share, glue, bed, False)[0], joint(share, glue, bed, True)[0]
    proof("green strength at 0.4 of cure, 4 f³ of the joint", wet[1], 4 * 0.4**3 * 0.3, 1e-9)
    assert wet[0] < 0.2 * 0.3 and flashed[0] == pytest.approx(0.3)
    assert share[0, 2] > GEL and wet[2] == flashed[2] == pytest.approx(0.3)


def test_a_sealed_joint_twice_as_wide_dries_four_times_as_slowly(proof):
    a, c = adhesives()["pva_white"], curings()["pva_white"]
    minutes = np.array([1440.0, 4 * 1440.0])
    narrow, wide = (cured(a, c, minutes, 20, w, "plain")[0] for w in (30, 60))
    proof("wood glue between foam faces: width squared", wide[1], narrow[0], 0.02)
    vented = cured(a, c, minutes, 20, 60, "vented")[0]
    assert np.all(vented > wide)


def test_misting_lets_foaming_polyurethane_cure_between_foam_faces():
    misted, dry = (one("pu_foaming_brown", within_min=240, schools={"mist_polyurethane": s}) for s in ("one", "other"))
    assert (misted.technique, dry.technique) == ("misted", "dry")
    assert misted.then_N.typ > 1.5 * dry.then_N.typ
    assert misted.finally_N.typ == pytest.approx(dry.finally_N.typ, rel=0.05)


@pytest.mark.parametrize(
    ("key", "changes", "says"),
    [
        ("ca_medium", {"one": "eps_20", "other": "eps_20"}, "dissolves or melts this foam"),
        ("contact_neoprene_solvent", {"one": "xps_30", "other": "wood"}, "dissolves or melts this foam"),
        ("hotmelt_low", {"heat_C": 60}, "softens at"),
        ("pva_white", {"water": "wet"}, "water"),
        ("ca_thin", {"area_cm2": 300, "width_mm": 100}, "sets before this area can be closed"),
        ("ca_thin", {"gap_mm": 1}, "fills gaps up to"),
        ("pva_white", {"width_mm": 150, "area_cm2": 400}, "cannot dry sealed"),
        ("epoxy_laminating", {"workshop_C": 8}, "cures from"),
        ("epoxy_structural_slow", {"one": "eps_20", "other": "film"}, "does not hold on this pair"),
    ],
)
def test_vetoes_give_their_reason(key, changes, says):
    found = one(key, **changes)
    assert any(says in v for v in found.vetoes), found.vetoes
    assert found.why in found.vetoes


def test_large_faces_are_closed_in_stages_within_the_open_time():
    found = one("contact_waterbased", area_cm2=12_000 / 2, width_mm=300)
    assert not found.vetoes and any("stages" in step for step in found.plan)
    small = one("contact_waterbased", area_cm2=20)
    assert not any("stages" in step for step in small.plan)


def test_grams_follow_face_spread_and_what_evaporates(proof):
    a = adhesives()["contact_waterbased"]
    found = one("contact_waterbased", area_cm2=100, gap_mm=0)
    left = a.spread_g_m2.typ * 0.01 * a.solids.typ
    proof("grams left of a contact film", found.grams.typ, left, 1e-6)
    for row in adhesives().values():
        if row.faces == 2:  # the spread of the table is that of both faces: what stays of it is the line, once
            stays = row.spread_g_m2.typ / row.density_kg_m3.typ * row.solids.typ
            assert stays == pytest.approx(row.line_mm.typ, rel=0.35), row.key
    assert (
        one("epoxy_microballoon", area_cm2=100, gap_mm=3).grams.typ
        > 5 * one("epoxy_microballoon", area_cm2=100).grams.typ
    )


def test_a_gap_weakens_and_peel_and_bending_ask_for_more():
    tight, wide = (one("epoxy_30min", one="wood", other="wood", gap_mm=g).finally_N.typ for g in (0.1, 3.5))
    assert wide <= tight
    shear, peel = (one("epoxy_30min", loaded=how).finally_N.typ for how in ("shear", "peel"))
    assert peel < 0.3 * shear
    near, far = (one("epoxy_30min", loaded="bend", arm_mm=a).finally_N.typ for a in (50, 200))
    assert near == pytest.approx(4 * far)


def test_a_stiff_glue_drops_where_the_joint_must_flex():
    def place(flex):
        keys = [c.key for c in ask(flex_percent=flex, one="epp_30", other="epp_30").choices if not c.vetoes]
        return keys.index("ca_medium")

    assert place(10) > place(1)


def test_contradictory_needs_get_an_honest_answer():
    found = ask(one="xps_30", other="xps_30", area_cm2=5000, width_mm=250, hold_N=15_000, within_min=5, heat_C=70)
    assert found.says.startswith("✕ No glue") and "Closest: " in found.says
    assert all(c.vetoes or c.meets in ("later", "no") for c in found.choices)


def test_a_school_moves_places_and_says_what_that_costs_but_facts_stand():
    plain, mine = ask(other="wood"), ask(other="wood", schools={"hot_glue_use": "one"})
    assert plain.choices[0].key != mine.choices[0].key == "hotmelt_high"
    assert any(" g, " in text and " N " in text and " min " in text for text in mine.schools_say)
    assert plain.schools_say == []
    hot = next(c for c in ask(schools={"hot_glue_use": "one"}, heat_C=60).choices if c.key == "hotmelt_low")
    assert hot.vetoes
    polystyrene = ask(one="eps_20", other="eps_20", schools={"ca_on_bead_foam": "one"})
    assert next(c for c in polystyrene.choices if c.key == "ca_medium").vetoes
    assert {s.key for s in schools()} >= set(TOPICS)


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"one": "unobtainium"}, "one"),
        ({"other": "metal", "one": "slick"}, "other"),
        ({"one": "metal", "other": "film"}, "other"),
        ({"area_cm2": 1, "width_mm": 500}, "width_mm"),
        ({"schools": {"moon": "one"}}, "schools.moon"),
    ],
)
def test_a_joint_on_which_nothing_is_known_is_refused_by_its_field(changes, path):
    with pytest.raises(InvalidDocument) as refused:
        ask(**changes)
    assert refused.value.problems[0].path == path


def test_the_tables_are_whole_and_graded():
    for key, a in adhesives().items():
        assert a.grade in "ABC" and a.basis
        curve = curings()[key]
        assert len(curve.open) == len(curve.sealed) == len(TIMES_MIN)
        assert list(curve.open) == sorted(curve.open) and list(curve.sealed) == sorted(curve.sealed)
        assert all(s <= o + 1e-9 for o, s in zip(curve.open, curve.sealed, strict=True))
        assert techniques(a)
        for family in set(foam_families().values()):
            assert (key, family) in on_foams()


def test_cautions_come_with_the_adhesive():
    assert any(c.key == "ca_bonding" for c in one("ca_medium").cautions)
    assert any(c.key == "isocyanate" for c in one("pu_foaming_brown").cautions)
    assert any(c.key == "solvent_vapour" for c in one("contact_neoprene_solvent").cautions)
    assert any(c.key == "hot_glue_burn" for c in one("hotmelt_low").cautions)


def test_a_bead_is_its_length_by_its_width_and_a_habit_scales_the_grams():
    face = glue(GlueNeed(area_cm2=30, width_mm=5, schools={}), reference())
    bead = glue(GlueNeed(bead_mm=600, width_mm=5, schools={}), reference())
    assert [c.then_N for c in bead.choices] == [c.then_N for c in face.choices]
    heavy = glue(GlueNeed(area_cm2=30, width_mm=5, habit=2, schools={}), reference())
    for one in face.choices:
        two = next(c for c in heavy.choices if c.key == one.key)
        assert two.grams.typ == pytest.approx(2 * one.grams.typ)


def test_where_grams_matter_the_best_is_lighter_and_a_chosen_technique_is_used():
    usual = glue(GlueNeed(other="wood", schools={}), reference()).choices[0]
    light = glue(GlueNeed(other="wood", grams_matter="much", schools={}), reference()).choices[0]
    assert light.grams.typ < usual.grams.typ
    wet = glue(GlueNeed(technique="wet", schools={}), reference())
    assert next(c for c in wet.choices if c.key == usual.key).technique == "wet"


def test_every_adhesive_answers_why_not():
    found = glue(GlueNeed(one="eps_20", other="wood", schools={}), reference())
    assert found.choices[0].why_not.startswith("This is the best choice")
    for n, c in enumerate(found.choices[1:], 2):
        assert all(v in c.why_not for v in c.vetoes) if c.vetoes else c.why_not.startswith(f"Rank {n}.")


def test_schools_on_technique_are_weighed_against_the_ranking_without_them():
    wet = glue(GlueNeed(schools={"contact_wet_or_dry": "other"}), reference())
    assert wet.schools_say and any(": rank" in text for text in wet.schools_say)
