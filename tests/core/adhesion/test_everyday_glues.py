"""Gel, primed cyanoacrylate, silyl paste, canopy dispersion, foam tape: what each is for and must not touch."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import GlueChoice, glue
from fletcher.core.materials.tables import reference

STOCK = reference()


def row(key: str, one: str, other: str, **changes: object) -> GlueChoice:
    need = GlueNeed.model_validate({"one": one, "other": other, **changes})
    return next(c for c in glue(need, STOCK).choices if c.key == key)


def test_gel_fills_a_gap_that_runny_glue_does_not():
    assert any("gap" in v for v in row("ca_medium", "epp_30", "epp_30", gap_mm=0.5).vetoes)
    assert not row("ca_gel", "epp_30", "epp_30", gap_mm=0.5).vetoes
    assert any("gap" in v for v in row("ca_gel", "epp_30", "epp_30", gap_mm=1.0).vetoes)
    assert any("issolves" in v for v in row("ca_gel", "eps_20", "eps_20").vetoes)


def test_the_primer_makes_cyanoacrylate_hold_on_twin_wall_and_nowhere_near_polystyrene():
    plain, primed = (row(key, "flutedpp_3", "flutedpp_3") for key in ("ca_medium", "ca_primer"))
    assert plain.vetoes and not primed.vetoes
    assert primed.finally_N.typ / plain.finally_N.typ == pytest.approx(0.6 / 0.15, rel=1e-6)
    assert row("ca_primer", "eps_20", "eps_20").vetoes
    assert {c.key for c in primed.cautions} >= {"ca_bonding", "solvent_vapour"}


def test_silyl_paste_is_no_isocyanate_and_cures_through_closed_cells_only_if_misted():
    paste = adhesives()["hybrid_silyl"]
    assert {c.key for c in row("hybrid_silyl", "eps_20", "eps_20").cautions} == {"sealant_vapour"}
    misted, dry = (
        row(paste.key, "eps_20", "eps_20", technique=t, within_min=720).then_N.typ for t in ("misted", "dry")
    )
    assert misted > 1.5 * dry
    assert paste.water == "excellent" and paste.stretch_pct.typ > 100


def test_canopy_dispersion_is_for_clear_plastic_on_foam_where_one_face_breathes():
    clear = row("canopy_dispersion", "plastic", "foamboard_light_5", seen=True)
    assert not clear.vetoes and "clear" in clear.in_sun
    assert row("canopy_dispersion", "metal", "metal").vetoes or row("canopy_dispersion", "metal", "metal").points < 0


def test_foam_tape_holds_at_once_and_creeps():
    tape = row("tape_foam_acrylic", "plastic", "epo_31", gap_mm=0.4)
    assert not tape.vetoes
    assert tape.curve[0].load_N.typ > 0.4 * tape.finally_N.typ
    assert tape.steady_N.typ == pytest.approx(0.05 * tape.finally_N.typ, rel=1e-6)
    assert row("tape_transfer", "plastic", "epo_31", gap_mm=0.4).vetoes


def test_what_wipes_a_glue_off_must_not_eat_the_foam():
    for key in adhesives():
        assert "never acetone, thinner or petrol on this foam" in row(key, "xps_30", "wood").clean_up
        assert "on this foam" not in row(key, "epp_30", "wood").clean_up
    assert (
        "sun" in row("solvent_rubbery_clear", "epp_30", "epp_30").in_sun
        or "outdoors" in row("solvent_rubbery_clear", "epp_30", "epp_30").in_sun
    )
