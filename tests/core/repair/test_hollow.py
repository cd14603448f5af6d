"""Repairs of walls: only under straps, by glues that stick to them, and honest about what a seam holds."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.document.airframe import Airframe, JointLayer, Part
from fletcher.core.document.damage import BentMark, BreakMark, CreaseMark, OpenedMark
from fletcher.core.document.joint import Strap, WallJoint
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import QUICK_SAMPLES, samples
from fletcher.core.repair.candidates import fixes_for, glues_for
from fletcher.core.repair.damage_model import CREASED
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.inspection import what_is_left
from fletcher.core.repair.phrasing import fix_words
from fletcher.core.repair.recipe import Fix, Recipe
from fletcher.core.repair.schema import MendOption, MendWish
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.validation.airframe import check_part

BREAK, CREASE = BreakMark(id="m", at_mm=200), CreaseMark(id="m", at_mm=200)
OPENED = OpenedMark(id="m", edge="front", start_mm=100, end_mm=300)


def broken(key: str, *marks) -> tuple[Airframe, Part]:
    way = CONSTRUCTIONS[key]
    part = way.part().model_copy(update={"damage": marks})
    return Airframe(
        name="x", all_up_mass_g=way.all_up_mass_g, top_speed_m_s=way.top_speed_m_s, parts=(part,)
    ), part  # fmt: skip


def mend(key: str, mark, glue: str = "aliphatic_wood", **fix) -> MendOption:
    airframe, part = broken(key, mark)
    way = {"way": "reglue" if mark.kind == "break" else "strap", **fix}
    return computed(airframe, part, Recipe(fixes=(Fix(mark="m", **way),), glue=glue), MendWish(fly_in_min=2000)).option


SPLINTED = {"over": "straps", "stock": "craftstick_10x2", "each_side_mm": 40.0, "count": 4}
SHEET = next(la.sheet for la in CONSTRUCTIONS["folded_wing"].part().layers if la.type == "wall")


def test_across_walls_nothing_is_glued_without_straps():
    for key, mark in (("folded_wing", BREAK), ("box_fuselage", CREASE), ("fluted_wing", CREASE)):
        fixes = fixes_for(mark, broken(key, mark)[1])
        assert fixes and all(f.over != "none" and f.each_side_mm >= 25 for f in fixes)
        assert not {f.over for f in fixes} & {"pins", "splints", "filament"} and not any(
            f.way == "scarf" for f in fixes
        )


def test_twin_wall_takes_rods_in_its_flutes_and_only_glues_that_stick_to_it():
    part = broken("fluted_wing", CREASE)[1]
    fixes = fixes_for(CREASE, part)
    assert {f.over for f in fixes} == {"straps", "flute_rods"}
    board = reference().sheets[next(la.sheet for la in part.layers if la.type == "wall")]
    for f in fixes:
        if f.over == "flute_rods":
            assert reference().bars[f.stock].diameter_mm <= board.thickness_mm.typ - 2 * board.wall_thickness_mm - 0.2
            assert f.each_side_mm >= 40
    glues = glues_for(part)
    assert "solvent_rubbery_structural_pp" in glues[:1]
    assert not {"epoxy_30min", "epoxy_5min", "pva_white", "ca_thin"} & set(glues)
    wooden = glues_for(broken("folded_wing", BREAK)[1])
    assert {"aliphatic_wood", "epoxy_30min"} <= set(wooden) and "hotmelt_low" not in wooden


def test_a_glue_that_eats_the_core_of_a_board_is_not_offered():
    part = broken("folded_wing", BREAK)[1]
    assert "contact_neoprene_solvent" not in glues_for(part), "its core is polystyrene"
    assert all(key in adhesives() for key in glues_for(part))


def test_more_and_longer_straps_hold_more_and_both_sides_more_than_one():
    held = [
        mend("folded_wing", BREAK, **{**SPLINTED, **more}).seam_percent.typ
        for more in ({"count": 2, "each_side_mm": 25.0}, {"count": 2}, {}, {"over": "straps_both"})
    ]
    assert held == sorted(held) and held[0] < held[1] < held[2] < held[3]


def test_the_seam_of_walls_is_uncertain_and_the_part_no_stronger_than_whole():
    o = mend("folded_wing", BREAK, **SPLINTED)
    assert o.seam_percent.low < 0.8 * o.seam_percent.typ
    assert 5 < o.strength_percent.low <= o.strength_percent.typ <= 100
    assert o.left == [] and o.grounded == "" and check_part(o.part, reference()) == []
    assert o.more_g.typ > 1


def test_straps_weigh_what_they_are_made_of():
    """Four sticks of 10 × 2 on each of two faces, 80 long, beside their glue."""
    o = mend("folded_wing", BREAK, **SPLINTED)
    stick = reference().bars["craftstick_10x2"]
    wood = 8 * 80 * stick.area_mm2 * stick.density_kg_m3.typ * 1e-6
    assert wood < o.more_g.typ < 2.0 * wood + 4


def test_a_crease_needs_less_of_its_straps_than_a_break():
    crease, parted = mend("folded_wing", CREASE, **SPLINTED), mend("folded_wing", BREAK, **SPLINTED)
    assert crease.seam_percent.typ == pytest.approx(parted.seam_percent.typ / 0.7, rel=0.05)


def test_an_open_nose_is_glued_shut_and_twists_as_before():
    airframe, part = broken("folded_wing", OPENED)
    assert [f.way for f in fixes_for(OPENED, part)] == ["close_seam"]
    recipe = Recipe(fixes=(Fix(mark="m", way="close_seam"),), glue="aliphatic_wood")
    o = computed(airframe, part, recipe, MendWish(fly_in_min=2000)).option
    assert o.twist_percent.typ == pytest.approx(100, abs=0.5) and o.more_g.typ < 1
    assert any(op.title.startswith("Glue the seam shut") for op in o.operations)


def test_a_kinked_box_is_strapped_and_not_warmed_and_a_bend_of_it_is_not_mended_by_heat():
    kink = BentMark(id="m", at_mm=200, tip_mm=3)
    fixes = fixes_for(kink, broken("box_fuselage", kink)[1])
    assert {f.way for f in fixes} == {"strap", "leave"}
    twin = fixes_for(BentMark(id="m", tip_mm=3), broken("fluted_wing")[1])
    assert "straighten" in {f.way for f in twin}, "fluted sheet straightens in warm water"
    assert "straighten" not in {f.way for f in fixes_for(BentMark(id="m", tip_mm=3), broken("box_fuselage")[1])}


def test_doublers_are_strips_of_a_size_and_not_the_whole_chord():
    o = mend("folded_wing", BREAK, over="doubler", stock=SHEET, each_side_mm=40.0)
    joint = next(la.joint for la in o.part.layers if isinstance(la, JointLayer) and la.name == "Repaired joint")
    assert joint.straps[0].wide_mm <= 60 and not any(la.name == "Doubler" for la in o.part.layers)


@pytest.mark.parametrize(
    ("change", "path", "says"),
    [
        ({"straps": (Strap(stock="craftstick_10x2", each_side_mm=300),)}, "straps[0].each_side_mm", "reaches out"),
        ({"along_mm": 50.0}, "face", "must be front or rear"),
        ({"along_mm": 900.0, "face": "rear"}, "along_mm", "reaches out"),
        ({"straps": (Strap(stock="nothing"),)}, "straps[0].stock", "is not in the Stockroom"),
    ],
)
def test_a_seam_of_walls_that_cannot_be_is_refused_at_its_field(change: dict, path: str, says: str):
    part = broken("folded_wing")[1]
    joint = JointLayer(
        id="j", start_mm=100, glue={"adhesive": "aliphatic_wood"}, joint=WallJoint().model_copy(update=change)
    )
    problems = check_part(part.model_copy(update={"layers": (*part.layers, joint)}), reference())
    assert any(p.path.endswith(f"joint.{path}") and says in p.message for p in problems), problems
    core = CONSTRUCTIONS["bead_wing"].part()
    wrong = check_part(core.model_copy(update={"layers": (*core.layers, joint)}), reference())
    assert any(p.path.endswith("joint.kind") and "hollow" in p.message for p in wrong)


def test_it_is_too_cold_for_the_glue_is_said_by_its_field():
    airframe, part = broken("folded_wing", BREAK)
    recipe = Recipe(fixes=(Fix(mark="m", way="reglue", **SPLINTED),), glue="aliphatic_wood")
    with pytest.raises(InvalidDocument, match="sets from") as refused:
        computed(airframe, part, recipe, MendWish(warmth_C=0))
    assert refused.value.problems[0].path == "wish.warmth_C"
    late = [computed(airframe, part, recipe, MendWish(warmth_C=t)).option.fly_min.typ for t in (25, 20, 12)]
    assert np.all(np.diff(late) > 0)


def test_R17_new_paper_over_a_crease(proof):
    """REPAIR, check R17: heavy board, paper 0.175 whose crease bears 11.5 MPa, core 4.65; the creased paper keeps 0.3,
    new paper of 0.095 lies over it with 0.85 of its face glued: M = σ (t_q + r t_p)(t_c + t_p) w, per width."""
    old, new, core, crease = 0.175, 0.095, 4.65, 11.5
    proof("R17 whole", crease * old * (core + old), 9.710, 1e-3)
    proof("R17 mended", 0.85 * crease * (new + CREASED * old) * (core + old), 6.957, 1e-3)


@pytest.mark.parametrize(("key", "offered"), [("folded_wing", True), ("box_fuselage", True), ("fluted_wing", False)])
def test_new_paper_is_offered_for_creased_boards_alone(key, offered):
    part = CONSTRUCTIONS[key].part().model_copy(update={"damage": (CreaseMark(id="crease", at_mm=60, face="lower"),)})
    over = {f.over for f in fixes_for(part.damage[0], part)}
    assert ("paper" in over) == offered


def test_new_paper_weighs_its_own_and_gives_back_what_the_crease_took():
    part = CONSTRUCTIONS["folded_wing"].part()
    hurt = part.model_copy(update={"damage": (CreaseMark(id="crease", at_mm=30, face="lower"),)})
    airframe = Airframe(name="A", all_up_mass_g=700, parts=(hurt,))
    fix = next(f for f in fixes_for(hurt.damage[0], hurt) if f.over == "paper" and f.each_side_mm == 25)
    recipe = Recipe(fixes=(fix,), glue="contact_foamsafe_clear")
    with samples(QUICK_SAMPLES):
        option = computed(airframe, hurt, recipe, MendWish(), []).option
    left = what_is_left(airframe, hurt)
    assert left.cases[0].left.typ < 0.9 * left.cases[0].whole.typ < option.cases[0].then.typ
    assert "paper" in fix_words(fix, hurt.damage[0])
    assert {n.key for n in option.needs} >= {"kraft_pva"} and option.more_g.typ > 0.1
