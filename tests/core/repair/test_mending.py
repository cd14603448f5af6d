"""Repairs: what a mended part holds against closed forms and plain sense, and what cannot be mended."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest

from fletcher.core.adhesion.bond_line import glue_line
from fletcher.core.demo.crash import crash_candidates, crashed_airframe
from fletcher.core.document.airframe import Airframe, BarLayer, Part, Sleeve, Splice
from fletcher.core.document.joint import Glued
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.analyse import analyse
from fletcher.core.joints.butt_and_scarf import REACHED
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import HOOP, SPLICE_SHEAR, WRAPPED, draw_bar, draw_factor, draw_foam, samples
from fletcher.core.repair.candidates import bar_reach, fixes_for, glues_for, skin_reach
from fletcher.core.repair.economics import worth_of
from fletcher.core.repair.evaluate import computed, moved
from fletcher.core.repair.inspection import what_is_left
from fletcher.core.repair.operations import CHECK_MIN, SAFE_MIN
from fletcher.core.repair.recipe import Fix, Recipe, mended
from fletcher.core.repair.repair_lines import STAGGER
from fletcher.core.repair.repair_table import repair_steps, steps_of
from fletcher.core.repair.schema import MendWish
from fletcher.core.section.assembly import elements_of
from fletcher.core.section.splices import scarf_stress, splice_bends, splice_holds
from fletcher.core.studies.joint_sheet import joint_sheets
from fletcher.core.validation.airframe import check, check_part, read
from tests.core.joints.test_joints import DEEP, WIDE, moment_at, plank
from tests.core.repair.test_crash import marked

POST = crashed_airframe()
RIGHT, LEFT = POST.parts
WISH = MendWish()
CRACK = {"kind": "crack", "at_mm": 60, "face": "upper", "from_percent": 0, "to_percent": 100}


def hurt_plank(*marks: dict, layers: tuple[dict, ...] = (), foam: str = "epp_30", grams: float = 100) -> Airframe:
    document = plank(*layers, foam=foam, weight_g=grams).model_dump(mode="json")
    document["parts"][0]["damage"] = [{"id": f"m{n}", **m} for n, m in enumerate(marks)]
    return read(document)


def repair(airframe: Airframe, *fixes: Fix, glue: str = "epoxy_30min", over_old: bool = False, wish: MendWish = WISH):
    part = airframe.parts[0]
    return computed(airframe, part, Recipe(fixes=fixes, glue=glue, over_old=over_old), wish).option


def seam_of(airframe: Airframe, option):
    """What the mended seam alone holds, times the load: the rest of a soft plank crushes before it."""
    mended_one = airframe.model_copy(update={"parts": (option.part,)})
    return next(s for s in joint_sheets(mended_one, option.part) if s.line_id == "mend-m0-seam").holds


def bar(stock: str, how: str, overlap: float = 40.0, sleeve: str | None = None):
    layer = BarLayer(
        id="b", stock=stock, splices=(Splice(at_mm=250, overlap_mm=overlap, how=how),),
        sleeve=None if sleeve is None else Sleeve(stock=sleeve, start_mm=200, end_mm=300),
    )  # fmt: skip
    part = plank().parts[0].model_copy(update={"layers": (layer,)})
    placed = elements_of(part, reference()).bars[0]
    return placed, placed.splices[0]


def test_joints_of_bars_hold_what_their_glue_area_or_their_own_strength_holds():
    shear = draw_factor(SPLICE_SHEAR)
    rod, splice = bar("carbon_rod_3", "side_by_side")
    assert splice_holds(rod, splice, 1.0) == pytest.approx(shear * math.pi * 3 / 4 * 40)
    strip, splice = bar("spruce_3x10", "scarf", 60.0)
    sloped = scarf_stress(60 / 3, 1.5 * shear, shear) * 3 * 10  # 60 long through 3 of height
    assert splice_holds(strip, splice, 1.0) == pytest.approx(sloped)
    assert splice_holds(strip, splice, 1.0)[0] == pytest.approx(shear[0] * 10 * 60, rel=0.01)
    tube, splice = bar("carbon_tube_6_4", "sleeved", 80.0, "carbon_rod_4")
    own = draw_bar(reference().bars["carbon_rod_4"])
    breaks = np.minimum(own.tensile, own.compressive) * math.pi * 4
    assert splice_holds(tube, splice, 1.0) == pytest.approx(np.minimum(shear * math.pi * 4 * 40, breaks))
    long, splice = bar("carbon_tube_6_4", "sleeved", 900.0, "carbon_rod_4")
    assert splice_holds(long, splice, 1.0)[0] == pytest.approx(breaks[0])  # glue enough: the sleeve itself gives
    split, splice = bar("carbon_rod_3", "wrapped")
    own = draw_bar(split.stock)
    whole = np.minimum(own.tensile, own.compressive) * math.pi * 2.25
    assert splice_holds(split, splice, 1.0) == pytest.approx(draw_factor(WRAPPED) * whole)


def test_joints_of_bars_hold_the_bending_of_the_bar_itself():
    shear = draw_factor(SPLICE_SHEAR)
    rod, splice = bar("carbon_rod_3", "side_by_side", 30.0)
    high = math.pi * 3 / 4  # the glued strip of a quarter of the round, turned in its own plane
    assert splice_bends(rod, splice, 1.0) == pytest.approx(shear * high * 30 * math.hypot(high, 30) / 6)
    strip, splice = bar("spruce_3x10", "scarf", 60.0)
    # lying flat, 10 wide and 3 high: what it holds over its area, at the edge of a bent bar
    sloped = scarf_stress(60 / 3, 1.5 * shear, shear)
    assert splice_bends(strip, splice, 1.0) == pytest.approx(sloped * 10 * 3**2 / 6)
    split, splice = bar("carbon_rod_3", "wrapped")
    own = draw_bar(split.stock)
    whole = np.minimum(own.tensile, own.compressive) * math.pi * 3**3 / 32
    assert splice_bends(split, splice, 1.0) == pytest.approx(draw_factor(WRAPPED) * whole)
    tube, splice = bar("carbon_tube_6_4", "sleeved", 80.0, "carbon_rod_4")
    own = draw_bar(reference().bars["carbon_rod_4"])
    sleeve = np.minimum(own.tensile, own.compressive) * math.pi * 4**3 / 32
    mouth = 40**2 / 3 * 1.0 * draw_factor(HOOP)
    assert splice_bends(tube, splice, 1.0) == pytest.approx(np.minimum(sleeve, mouth))


@pytest.mark.parametrize(
    ("each", "bound", "holds"), [(40, False, 5340.7), (40, True, 5340.7), (12, False, 960.0), (12, True, 3840.0)]
)
def test_a_sleeved_tube_bends_its_sleeve_or_splits_at_its_mouth(each: float, bound: bool, holds: float):
    """REPAIR, check R12: tube 6/4 on a solid rod of 4 (850 MPa), hoop 20 MPa over a wall of 1; thread adds 60 N/mm."""
    tube, splice = bar("carbon_tube_6_4", "sleeved", 2.0 * each, "carbon_rod_4")
    splice = splice.model_copy(update={"bound": bound})
    assert splice_bends(tube, splice, 1.0)[0] == pytest.approx(holds, rel=1e-3)


def test_a_metal_sleeve_over_a_tube_bends_as_itself():
    """As in R12 by σ π (D⁴ − d⁴)/32D: the tube's mouth is the sleeve's own, which does not split."""
    sleeve = reference().bars["alu_tube_8_7"]
    tube, splice = bar("carbon_tube_6_4", "sleeved", 80.0, sleeve.key)
    own = draw_bar(sleeve)
    bends = np.minimum(own.tensile, own.compressive) * math.pi * (8**4 - 7**4) / (32 * 8)
    assert splice_bends(tube, splice, 1.0)[0] == pytest.approx(bends[0], rel=1e-6)


def test_a_break_glued_face_to_face_holds_what_the_seam_of_the_whole_section_holds():
    airframe = hurt_plank({"kind": "break", "at_mm": 60})
    option = repair(airframe, Fix(mark="m0", way="reglue"))
    foam = reference().foams["epp_30"]
    line = glue_line(Glued(adhesive="epoxy_30min"), foam, draw_foam(foam), "foam", DEEP, None)
    M = moment_at(airframe, 60)
    sigma, tau = M / (WIDE * DEEP**2 / 6), 1.5 * 0.98 / (WIDE * DEEP)
    film = math.hypot(sigma / line.film_pull[0], tau / line.film_shear[0])
    bed = math.hypot(sigma / line.bed_pull[0], tau / line.bed_shear[0])
    hands = 0.95 * 0.97 * 0.95  # wetted, fit, mixed and cured
    assert seam_of(airframe, option).typ == pytest.approx(hands / max(film, bed), rel=0.02)
    assert option.seam_percent.typ == pytest.approx(100 * seam_of(airframe, option).typ / option.cases[0].whole.typ)
    assert option.cases[0].then.typ <= seam_of(airframe, option).typ * (1 + 1e-9)
    assert option.bend_percent.typ == pytest.approx(100, abs=0.5)


def test_a_mended_crack_holds_what_its_glue_or_its_sound_rest_holds_whichever_is_more():
    """The static theorem: glue can only add. Worked into a crack it holds its share of a seam (`REACHED`)."""
    foam = reference().foams["epp_30"]
    line = glue_line(Glued(adhesive="epoxy_30min"), foam, draw_foam(foam), "foam", DEEP, None)
    whole = what_is_left(hurt_plank(), hurt_plank().parts[0]).cases[0].left.typ
    before = math.inf
    for depth in (4, 8, 12, 16):
        airframe = hurt_plank({**CRACK, "depth_mm": depth})
        found = repair(airframe, Fix(mark="m0", way="pack")).cases[0].then.typ
        sound = ((DEEP - depth) / DEEP) ** 2 * draw_foam(foam).tensile[0]
        glued = REACHED["worked_in"].typ * min(line.bed_pull[0], line.film_pull[0])
        sigma = moment_at(airframe, 60) / (WIDE * DEEP**2 / 6)
        assert found == pytest.approx(min(max(sound, glued) / sigma, whole), rel=0.06)
        left = what_is_left(airframe, airframe.parts[0]).cases[0].left.typ
        assert found >= 0.93 * left and found <= before + 1e-9
        before = found


def test_a_patch_is_laid_with_staggered_ends_and_takes_part_of_the_moment():
    airframe = hurt_plank({"kind": "break", "at_mm": 150})
    plain = repair(airframe, Fix(mark="m0", way="reglue"))
    patch = Fix(mark="m0", way="reglue", over="cloth", stock="glass_49", each_side_mm=40)
    cloth = repair(airframe, patch)
    laid = [la for la in cloth.part.layers if la.type == "film"]
    assert [(la.face, la.start_mm, la.end_mm) for la in laid] == [
        ("lower", 110, 190), ("upper", 150 - 40 * STAGGER, 150 + 40 * STAGGER),
    ]  # fmt: skip
    assert seam_of(airframe, cloth).typ > 1.3 * seam_of(airframe, plain).typ
    assert cloth.bend_percent.typ > plain.bend_percent.typ and cloth.more_g.typ > plain.more_g.typ
    ends = {110.0, 190.0, 98.0, 202.0}
    assert cloth.steps_at and all(float(text.split(" ")[0]) in ends for text in cloth.steps_at)
    # laid too short it lets go sooner
    short = repair(airframe, patch.model_copy(update={"each_side_mm": 3.0}))
    assert seam_of(airframe, short).typ < seam_of(airframe, cloth).typ


def test_glue_is_waited_for_and_the_launch_comes_too_early_for_a_slow_one():
    airframe = hurt_plank({"kind": "break", "at_mm": 60})
    slow, quick = "epoxy_structural_slow", "hotmelt_low"
    fix = Fix(mark="m0", way="reglue")
    found = {glue: repair(airframe, fix, glue=glue, wish=MendWish(fly_in_min=40)) for glue in (slow, quick)}
    assert found[slow].launch_percent.typ < 0.2 * found[slow].strength_percent.typ
    assert found[quick].launch_percent.typ > 0.8 * found[quick].strength_percent.typ
    assert found[slow].fly_min.typ > 10 * found[quick].fly_min.typ
    for option in found.values():
        assert option.fly_min.typ >= option.minutes.typ
        cured = next(op for op in option.operations if op.title == "Let it cure")
        assert cured.wait_min.typ == pytest.approx(option.fly_min.typ - option.minutes.typ)
    early = repair(airframe, fix, glue=quick, wish=MendWish(fly_in_min=5))
    assert early.launch_percent.high == 0  # still at work


def test_faces_glued_in_haste_before_hold_less():
    airframe = hurt_plank({"kind": "break", "at_mm": 60})
    fix = Fix(mark="m0", way="reglue")
    clean, old = (repair(airframe, fix, over_old=o) for o in (False, True))
    ratio = seam_of(airframe, old).typ / seam_of(airframe, clean).typ
    assert ratio == pytest.approx(0.75 / 0.95, rel=1e-3)  # "costs 21 % of the seam"
    assert ratio == pytest.approx(REACHED["over_old"].typ / REACHED["mended"].typ)
    assert any(op.title == "Remove the quick fix" for op in old.operations)


def test_old_glue_never_makes_a_worked_in_crack_hold_more():
    """Two repairs one after the other: what the quick one left on the faces is no gain."""
    airframe = hurt_plank({"kind": "crack", "at_mm": 60, "face": "upper", "from_percent": 0, "to_percent": 100,
                           "depth_mm": 12})  # fmt: skip
    part = airframe.parts[0]
    for way in ("pack", "reglue"):
        c = computed(airframe, part, Recipe(fixes=(Fix(mark="m0", way=way),), glue="epoxy_30min"), MendWish())
        assert np.all(c.over_old() <= np.min(c.cures.holds(None) / c.whole.analyses[0].judged.breaks, axis=0) + 1e-9)


def test_a_sister_takes_the_broken_bars_load_and_a_longer_one_more_of_it():
    with samples(0):
        reaches = [60.0, 125.0, 200.0]
        bends = []
        for reach in reaches:
            part = RIGHT.model_copy(update={"damage": (RIGHT.damage[2],)})
            fix = Fix(mark="rod", way="sister", stock="carbon_rod_3", each_side_mm=reach)
            after = mended(part, Recipe(fixes=(fix,), glue="epoxy_30min"))
            assert check_part(after, reference()) == []
            case = LEFT.cases[1]
            a = analyse(POST, after, case)
            bends.append(float(np.abs(a.deflection).max()))
        whole = float(np.abs(analyse(POST, LEFT, LEFT.cases[1]).deflection).max())
        broken = what_is_left(POST, RIGHT.model_copy(update={"damage": (RIGHT.damage[2],)}))
    assert bends == sorted(bends, reverse=True)
    # two rods beside each other over a long stretch are stiffer than the one that was there
    assert bends[-1] < whole < bends[0] < whole / (broken.bend_percent.typ / 100) * 1.05


def test_what_is_laid_down_again_weighs_its_glue_over_the_stretch_alone():
    part = RIGHT.model_copy(update={"damage": (RIGHT.damage[3],)})
    airframe = POST.model_copy(update={"parts": (part,)})
    option = repair(airframe, Fix(mark="film", way="relay"))
    wide = 2 * (part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * 465 / 600) * 70
    foam = reference().foams["epp_30"]
    spread = glue_line(Glued(adhesive="contact_foamsafe_clear"), foam, draw_foam(foam), "wood", 30, None).grams_mm2
    assert option.more_g.typ == pytest.approx(wide * spread[0], rel=0.05)
    assert option.strength_percent.typ == pytest.approx(100, abs=1)


def test_a_graft_and_warmth_give_a_crushed_nose_back():
    deep = {"kind": "crush", "start_mm": 120, "end_mm": 260, "face": "upper", "from_percent": 5, "to_percent": 95}
    airframe = hurt_plank({**deep, "depth_mm": 12}, foam="eps_20")
    part = airframe.parts[0]
    left = what_is_left(airframe, part).bend_percent.typ
    warm = repair(airframe, Fix(mark="m0", way="warm"))
    graft = repair(airframe, Fix(mark="m0", way="graft"))
    assert left < warm.bend_percent.typ < 100
    assert graft.bend_percent.typ == pytest.approx(100, abs=1)
    assert warm.left == ["Crushed area 190 mm from the root"] and graft.left == []
    assert warm.part.damage[0].warmed and graft.part.damage == ()
    # filler mends the shape alone
    assert repair(airframe, Fix(mark="m0", way="fill")).bend_percent.typ == pytest.approx(left, abs=0.5)


def test_reaches_hand_over_what_a_patch_or_bar_can_carry():
    part = plank().parts[0]
    skin, foam = reference().skins["filament_tape_uni"], reference().foams["epp_30"]
    holds = min(skin.adhesive_shear_MPa.typ, foam.shear_strength_MPa.typ)
    assert skin_reach(part, "filament_tape_uni") <= skin.tensile_strength_MPa.typ * skin.thickness_mm.typ / holds + 1e-6
    rod = reference().bars["carbon_rod_2"]
    stiff = 2 * math.pi * foam.G_MPa.typ / math.log(0.5 * DEEP / 1.0)
    assert bar_reach(part, rod) == pytest.approx(math.sqrt(rod.E_MPa.typ * math.pi / stiff), rel=1e-3)


def test_no_glue_is_offered_that_hurts_the_foam():
    xps = hurt_plank(foam="xps_30").parts[0]
    assert "contact_neoprene_solvent" not in glues_for(xps) and "pu_foaming_white" in glues_for(xps)
    assert glues_for(xps, ("epoxy_5min",))[0] == "epoxy_5min"  # what is at hand is tried first
    warm = [f.way for m in RIGHT.damage for f in fixes_for(m, RIGHT)]
    assert "warm" in warm
    brittle = hurt_plank({**CRACK, "depth_mm": 5}, {"kind": "crush", "start_mm": 200, "end_mm": 260}, foam="xps_30")
    ways = [f.way for m in brittle.parts[0].damage for f in fixes_for(m, brittle.parts[0])]
    assert "warm" not in ways and "graft" in ways


@pytest.mark.parametrize(
    ("fixes", "glue", "said"),
    [
        ((Fix(mark="m0", way="reglue"),), "contact_neoprene_solvent", "dissolves or melts this foam"),
        ((Fix(mark="m0", way="reglue"),), "spit", "is not an adhesive in the Stockroom"),
        ((Fix(mark="gone", way="reglue"),), "epoxy_30min", "is not a damage mark on this part"),
        ((Fix(mark="m1", way="pack"),), "epoxy_30min", "leaves the part in two"),
        ((Fix(mark="m0", way="reglue", over="cloth", stock="silk", each_side_mm=40),), "epoxy_30min", "silk"),
    ],
)
def test_a_repair_that_cannot_be_made_is_refused_with_its_reason(fixes, glue, said):
    airframe = hurt_plank({"kind": "break", "at_mm": 60}, {**CRACK, "at_mm": 300, "depth_mm": 5}, foam="xps_30")
    with pytest.raises(InvalidDocument, match=said):
        repair(airframe, *fixes, glue=glue)


def test_worth_is_where_both_lines_of_money_and_hours_meet():
    from fletcher.core.estimate.effort import effort_of
    from fletcher.core.materials.uncertainty import Band

    anew = effort_of(LEFT)
    minutes, cost = Band(typ=60 * anew.hours.typ * 2, low=1, high=999), Band(typ=1.0, low=1, high=1)
    full = Band(typ=100, low=95, high=100)
    found = worth_of(minutes, cost, anew, full, 2.0, 0.0)
    assert found.mend and found.break_even == pytest.approx((anew.cost.typ - 1) / anew.hours.typ)
    assert not worth_of(minutes, cost, anew, full, 2.0, found.break_even * 1.01).mend
    assert worth_of(minutes, cost, anew, full, 2.0, found.break_even * 0.99).mend
    quick = worth_of(Band(typ=10, low=5, high=20), cost, anew, full, 2.0, 50.0)
    assert quick.mend and quick.break_even is None
    weak = worth_of(minutes, cost, anew, Band(typ=60, low=40, high=70), 0.0, 10.0)
    assert "stopgap" in weak.says


def test_every_step_stands_in_order_with_its_cautions_and_waits():
    _, recipe = crash_candidates()[2]
    option = computed(POST, RIGHT, recipe, WISH).option
    titles = [op.title for op in option.operations]
    assert titles[0] == "Make safe and measure" and titles[-1] == "First flight"
    steps = [
        (op.title.split(": ")[1], s.stage, op) for op in option.operations for s in repair_steps().values()
        if op.title.startswith(s.name + ":")
    ]  # fmt: skip
    assert len(steps) >= 4
    for mark in {m for m, _, _ in steps}:
        stages = [stage for m, stage, _ in steps if m == mark]
        assert stages == sorted(stages)
    begins = [op.starts_min for op in option.operations]
    assert begins == sorted(begins) and begins[-1] == option.fly_min.typ
    for before, after in itertools.pairwise(option.operations):
        assert after.starts_min >= before.starts_min + before.minutes.typ - 1e-9, "one pair of hands"
    told = {c.key for op in option.operations for c in op.cautions}
    assert {"battery_crash", "flying_repaired", "static_load_test", "epoxy_sensitiser"} <= told
    cloth = next(op for op in option.operations if op.title.startswith("Cloth patch"))
    assert cloth.wait_min.typ > 30 and "35 and 46 mm" in cloth.how
    hands = sum(s.minutes.typ for f in recipe.fixes for s in steps_of(f, mark_of(f), RIGHT))
    assert option.minutes.typ == hands + SAFE_MIN.typ + CHECK_MIN.typ
    checks = {c.what: c for c in option.checks}
    assert checks["Hung mass"].mended.typ == pytest.approx(checks["Hung mass"].whole.typ + option.more_g.typ, abs=1e-6)
    assert checks["Centre of gravity"].mended == option.rolls_g
    assert abs(option.balance_mm) < 0.5 and "it stays where it was" in checks["Centre of gravity"].how
    assert (moved(1.24), moved(-3.0), moved(0.4)) == ("it moves 1.2 mm aft", "it moves 3 mm forward", moved(0))
    assert checks["Bend"].mended.typ == pytest.approx(100 / option.bend_percent.typ * checks["Bend"].whole.typ, rel=0.1)


def mark_of(fix: Fix):
    return next(m for m in RIGHT.damage if m.id == fix.mark)


def test_the_demo_crash_is_possible_and_its_candidates_can_be_made():
    assert list(check(POST, reference())) == []
    assert what_is_left(POST, RIGHT).fly == "no" and LEFT.damage == ()  # a rod is broken
    for _, recipe in crash_candidates():
        option = computed(POST, RIGHT, recipe, WISH).option
        assert {f.mark for f in recipe.fixes} == {m.id for m in RIGHT.damage}
        assert 50 < option.strength_percent.typ < 115 and 90 < option.bend_percent.typ < 115


def test_the_mended_document_is_read_back_as_it_was_written():
    after: Part = computed(POST, RIGHT, crash_candidates()[0][1], WISH).option.part
    document = POST.model_copy(update={"parts": (after, LEFT)}).model_dump(mode="json")
    assert read(document).parts[0] == after


def test_marks_beside_each_other_are_mended_in_one_part():
    found = marked({"kind": "break", "at_mm": 200}, {"kind": "bar", "of": "spar", "at_mm": 200})
    option = repair(
        found, Fix(mark="m0", way="reglue", over="cloth", stock="glass_49", each_side_mm=40),
        Fix(mark="m1", way="sister", stock="carbon_rod_3", each_side_mm=150),
    )  # fmt: skip
    assert option.left == [] and 30 < option.strength_percent.typ < 110


def test_strips_on_both_faces_share_the_twist_and_a_wrap_closes_the_section():
    """Of a torque T the pair passes T·K/(K + G J), K = 4 b h² Gt Gt'/(Gt + Gt'); with open faces it passes all."""
    from fletcher.core.joints.butt_and_scarf import across
    from fletcher.core.joints.context import Site
    from fletcher.core.joints.failure_modes import sites_of

    twist = {"type": "tip_twist", "id": "w", "name": "Twist", "couple_N_mm": 300}
    document = hurt_plank({"kind": "break", "at_mm": 200}).model_dump(mode="json")
    document["parts"][0]["cases"] = [twist]
    airframe = read(document)
    seams = {}
    for over in ("none", "tape_both", "tape_wrap"):
        stock = None if over == "none" else "bopp_tape_std"
        fix = Fix(mark="m0", way="reglue", over=over, stock=stock, each_side_mm=0 if over == "none" else 60)
        after = mended(airframe.parts[0], Recipe(fixes=(fix,), glue="epoxy_30min"))
        assert check_part(after, reference()) == []
        a = analyse(airframe, after, airframe.parts[0].cases[0])
        (site,) = sites_of(a.scene)
        faces = next(w for w in across(site.placed.joint, site) if w.name.startswith("foam tears"))
        seams[over] = float(faces.use[0].max())
        if over == "tape_both":
            open_faces = site.placed.joint.model_copy(update={"faces": "open"})
            laps = list(across(open_faces, Site(a.scene, site.placed, site.glue, None)))
            flow = 300 / (2 * 48 * (DEEP + 0.048))
            told = next(w for w in laps if "tears over the joint" in w.name)
            assert float(told.asks[0]) == pytest.approx(flow, rel=0.05)
    assert seams["tape_wrap"] < seams["tape_both"] < seams["none"]
