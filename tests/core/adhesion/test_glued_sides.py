"""What can be glued to what: boards, twin-wall, moulded shells, bare foam sheet, hard cores, metal, plastic."""

from __future__ import annotations

import itertools

import pytest

from fletcher.core.adhesion.adhesives import FACED, SHEET_FACES, adhesives, between, joining, on_foams
from fletcher.core.adhesion.bond_line import EVEN, tear_table
from fletcher.core.adhesion.joint_capacity import HARD, GlueNeed, glued_sides, seam_of
from fletcher.core.adhesion.selection import glue
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference

STOCK = reference()


def ask(one, other, **changes):
    return glue(GlueNeed(one=one, other=other, **changes), STOCK)


def row(key, one, other, **changes):
    return next(c for c in ask(one, other, **changes).choices if c.key == key)


def test_every_side_that_is_offered_can_be_glued_to_itself_or_says_why_not():
    sides = glued_sides(STOCK)
    assert {s.key for s in sides} >= {*STOCK.foams, "foamboard_light_5", "flutedpp_3", "moulded_epo_6", "xps_plate_3"}
    assert len({s.key for s in sides}) == len(sides)
    refused = set()
    for side in sides:
        try:
            assert ask(side.key, side.key).choices
        except InvalidDocument:
            refused.add(side.key)
    assert refused == {"film", "slick"}


def test_of_all_pairs_only_those_of_film_and_slick_things_and_metal_on_plastic_are_unknown():
    unknown = set()
    for one, other in itertools.combinations_with_replacement([*HARD, "epp_30", "foamboard_light_5", "flutedpp_3"], 2):
        try:
            seam_of(GlueNeed(one=one, other=other), STOCK)
        except InvalidDocument:
            unknown.add((one, other))
    assert {p for p in unknown if not {*p} & {"film", "slick"}} == {("plastic", "metal")}
    assert not any({one, other} & {"epp_30", "foamboard_light_5", "flutedpp_3"} for one, other in unknown)


def test_paper_tears_off_a_board_at_its_own_strength_and_lets_water_out(proof):
    """0.2 MPa of paper on its core, times what the glue reaches on paper, times the face."""
    found = row("aliphatic_wood", "foamboard_light_5", "foamboard_heavy_5", area_cm2=10)
    on = on_foams()["aliphatic_wood", "PFB_PAPER"]
    proof("board on board, η σ A", found.finally_N.typ, 0.2 * on.efficiency.typ * 1000 * EVEN["shear"], 1e-6)
    assert found.fails == "the paper tears off first" and not found.vetoes
    assert "paper" in found.prepare
    # two closed-cell faces of the same size seal the same glue in
    sealed = row("aliphatic_wood", "xps_30", "xps_30", area_cm2=10)
    assert found.then_N.typ / found.finally_N.typ > 2 * sealed.then_N.typ / max(sealed.finally_N.typ, 1e-9)


def test_on_twin_wall_only_what_is_made_for_it_is_offered():
    choices = {c.key: c for c in ask("flutedpp_3", "flutedpp_3").choices}
    for key in ("aliphatic_wood", "epoxy_30min", "ca_medium", "pu_foaming_white"):
        assert choices[key].vetoes and "not hold" in choices[key].vetoes[0]
    for key in ("solvent_rubbery_structural_pp", "hotmelt_high", "contact_neoprene_solvent"):
        assert not choices[key].vetoes and choices[key].prepare.startswith("Scuff")
    assert choices["solvent_rubbery_structural_pp"].finally_N.typ == max(
        c.finally_N.typ for c in choices.values() if not c.vetoes
    )


@pytest.mark.parametrize("face", sorted(set(SHEET_FACES.values())))
@pytest.mark.parametrize("pair", ["foam_foam", "foam_wood", "foam_composite", "metal_foam"])
def test_a_face_of_sheet_is_no_better_than_its_own_verdict_nor_than_the_other_side(face, pair):
    most = {"good": 4, "ok": 3, "test_first": 2, "poor_adhesion": 0, "attacks": 0}
    for key in adhesives():
        found, other = joining(key, pair, (face,)), between()[key, pair]
        assert found is not None and found.suits <= most[on_foams()[key, face].verdict]
        if pair == "foam_foam":
            assert found.efficiency is None and found.prepare == FACED[face]
        else:
            assert found.suits <= other.suits and found.efficiency == other.efficiency
            assert found.prepare == f"{FACED[face]}; {other.prepare}"


def test_a_board_on_a_foam_is_as_doubtful_as_the_worse_of_the_two():
    both = joining("ca_thin", "foam_foam", ("PFB_PAPER", "EPS"))
    assert both is not None and both.suits == 0 and both.reason == on_foams()["ca_thin", "EPS"].reason
    assert "dissolves" in row("ca_thin", "foamboard_light_5", "eps_20").vetoes[0]


def test_a_moulded_shell_is_its_foam_and_bare_sheet_has_its_own_strength(proof):
    shell, foam = (row("contact_foamsafe_clear", k, k).finally_N.typ for k in ("moulded_epo_6", "epo_31"))
    assert shell == pytest.approx(foam, rel=1e-12)
    found = row("contact_foamsafe_clear", "xps_plate_3", "xps_plate_3", area_cm2=10)
    own = STOCK.sheets["xps_plate_3"].shear_MPa.typ
    reached = min(
        between()["contact_foamsafe_clear", "foam_foam"].efficiency.typ,
        on_foams()["contact_foamsafe_clear", "XPS"].efficiency.typ,
    )
    proof("bare sheet, η τ A", found.finally_N.typ, own * reached * 1000 * EVEN["shear"], 1e-6)
    assert row("ca_thin", "xps_plate_3", "wood").vetoes


def test_balsa_blocks_are_glued_like_wood_and_tear_along_the_grain(proof):
    found = row("aliphatic_wood", "balsa_block_light", "balsa_block_light", area_cm2=10)
    own = STOCK.foams["balsa_block_light"].shear_strength_MPa.typ
    proof("balsa, τ A", found.finally_N.typ, own * 1000 * EVEN["shear"], 1e-6)
    assert found.fails == "the wood tears first"


def test_metal_and_plastic_hold_what_their_glue_line_holds(proof):
    found = row("epoxy_structural_slow", "metal", "wood", area_cm2=10)
    proof("metal on wood, τ A", found.finally_N.typ, 12 * 1000 * EVEN["shear"], 1e-6)
    assert found.fails == "glue line fails first" and "bright" in found.prepare
    unknown = row("spray_contact_foamsafe", "metal", "metal")
    assert unknown.vetoes and "not known" in unknown.vetoes[0]


def test_peel_of_a_face_costs_what_its_paper_costs(proof):
    found = row("contact_foamsafe_clear", "foamboard_light_5", "film", loaded="peel", width_mm=20, area_cm2=20)
    paper = tear_table()["PFB_PAPER"].typ * 1e-3 * 20
    assert found.finally_N.typ <= paper * (1 + 1e-9)


def test_what_is_neither_foam_nor_sheet_is_refused_by_its_field():
    with pytest.raises(InvalidDocument) as refused:
        ask("epp_30", "moon_rock")
    (problem,) = refused.value.problems
    assert problem.path == "other" and "sheet" in problem.message and "wood" in problem.message
