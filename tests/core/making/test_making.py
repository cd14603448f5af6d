"""Before the first cut: forming limits, drape, stack-up, folded boards laid flat, and the section that folds make."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest

from fletcher.core.adhesion.cautions import cautions_for
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, FilmLayer, WallLayer
from fletcher.core.document.shapes import EllipseSection, FoldedSection
from fletcher.core.estimate.report import estimate
from fletcher.core.layup.stackup import GLUE_MM, KERF_MM, stack_up
from fletcher.core.making.drape import SURE_PCT, gives, judge, patch, surfaces_of
from fletcher.core.making.folding import ends_of, folds_of, pattern_of, unroll
from fletcher.core.making.forming import formed_of, smallest_radius, state_of, states, ways_to_form
from fletcher.core.making.making import making
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import elements_of, outline_of
from fletcher.core.section.outline import Folded
from fletcher.core.studies.constructions import CONSTRUCTIONS

SHEETS = reference().sheets
FOLDED = CONSTRUCTIONS["folded_wing"].part()


def radius(key, paper="both", formed="plain", grain="along"):
    sheet = SHEETS[key]
    state = state_of(sheet, paper, formed)
    assert state is not None
    return float(smallest_radius(sheet, state, grain)[0])


def test_the_smallest_radius_is_half_the_thickness_over_the_strain(proof):
    sheet = SHEETS["balsa_light_1.5"]
    state = state_of(sheet, "both", "plain")
    assert state is not None
    strain = state.strain_pct.typ / 100
    proof("smallest radius of a sheet, t/2ε", radius("balsa_light_1.5"), sheet.thickness_mm.typ / 2 / strain, 1e-9)


def test_thin_sheets_and_the_easy_way_bend_further():
    assert radius("balsa_light_1.5") < radius("balsa_light_3")
    assert radius("balsa_light_1.5", grain="along") < radius("balsa_light_1.5", grain="across")


def test_paper_off_scored_and_warm_bend_further_than_a_board_as_it_comes():
    plain = radius("foamboard_light_5")
    for paper, formed in (
        ("none", "plain"),
        ("both", "rolled"),
        ("both", "scored"),
        ("both", "creased"),
        ("both", "warm"),
    ):
        assert radius("foamboard_light_5", paper, formed) < plain


def test_every_state_is_an_estimate_with_a_band_and_a_basis():
    assert len(states()) >= 20
    for key in ("foamboard_light_5", "balsa_light_1.5", "flutedpp_2", "birchply_0.8", "moulded_epo_6"):
        ways = ways_to_form(SHEETS[key])
        assert ways, key
        for w in ways:
            assert 0 < w.radius_mm.low < w.radius_mm.typ < w.radius_mm.high < 20_000
            assert 0 <= w.keeps.low <= w.keeps.typ <= w.keeps.high <= 1
            assert w.grade in "ABC" and len(w.basis) > 10


def rolled(sheet, thickness=26.0, **changes):
    part = CONSTRUCTIONS["sheeted_wing"].part()
    wall = WallLayer(id="skin", sheet=sheet, face="both", **changes)
    size = {"root_thickness_mm": thickness, "tip_thickness_mm": thickness, "tip_chord_mm": part.root_chord_mm}
    return part.model_copy(update={"layers": (wall,), **size})


def test_a_curved_skin_is_checked_at_every_former():
    part = rolled("balsa_light_1.5").model_copy(update={"foam": None, "rib_spacing_mm": 100.0})
    upper = next(f for f in formed_of(part, reference()) if f.face == "upper")
    assert [c.y_mm for c in upper.formers] == pytest.approx(np.linspace(0, 900, 10))
    assert upper.tightest_mm == min(c.radius_mm for c in upper.formers)


def test_a_thick_section_needs_a_tighter_bend_and_thick_ply_does_not_make_it():
    thin, thick = (formed_of(rolled("balsa_light_1.5", t), reference())[0] for t in (15.0, 40.0))
    assert thick.tightest_mm < thin.tightest_mm
    stiff = formed_of(rolled("birchply_1.5", 40.0, grain="across"), reference())[0]
    assert stiff.makes == "no" and "What helps" in stiff.says
    assert stiff.edge_N_per_mm > thin.edge_N_per_mm


def test_a_sheet_that_keeps_little_springs_back_wide_and_locks_much_in():
    f = formed_of(rolled("balsa_light_1.5", 30.0), reference())[0]
    assert f.springs_to_mm == pytest.approx(f.tightest_mm / f.keeps.typ, rel=1e-6)
    assert f.locked_share == pytest.approx((1 - f.keeps.typ) * f.radius_mm.typ / max(f.tightest_mm, f.radius_mm.typ))


def test_a_straight_wing_is_bent_one_way_and_a_taper_in_ratio_is_developable():
    wing = CONSTRUCTIONS["bead_wing"].part()
    straight = wing.model_copy(update={"tip_chord_mm": wing.root_chord_mm, "tip_thickness_mm": wing.root_thickness_mm})
    share = wing.tip_chord_mm / wing.root_chord_mm
    cone = wing.model_copy(update={"tip_thickness_mm": wing.root_thickness_mm * share})
    for part in (straight, cone):
        for surface in surfaces_of(part, reference()):
            assert surface.kind == "single"
            assert all(d.lies == "yes" for d in surface.drapes)


def test_a_body_whose_section_changes_kind_of_curve_is_bent_both_ways():
    body = CONSTRUCTIONS["box_fuselage"].part()
    pod = body.model_copy(
        update={
            "section": EllipseSection(), "root_chord_mm": 80.0, "tip_chord_mm": 80.0, "root_thickness_mm": 110.0,
            "tip_thickness_mm": 30.0, "span_mm": 250.0, "tip_setback_mm": 0.0, "layers": (), "foam": "epp_30",
        }
    )  # fmt: skip
    assert any(s.kind == "double" for s in surfaces_of(pod, reference()))


def test_a_ball_asks_half_the_square_of_the_half_width_over_its_radius(proof):
    """ε = b²/2R² at the edge of a skin of half width b on a ball."""
    asked = patch(100.0, 100.0, 60.0)
    proof("skin on a ball, strain asked at its edge", asked[0].asks_percent, 100 * 30**2 / (2 * 100**2), 1e-9)
    assert patch(100.0, -100.0, 60.0)[0].asks_percent == pytest.approx(asked[0].asks_percent)


def test_bias_cloth_lies_where_cloth_along_and_film_do_not_and_gores_are_narrow_enough():
    found = {g.key: d for g, d in zip(gives(), patch(60.0, 150.0, 80.0), strict=True)}
    bias, sheet = (next(d for g, d in zip(gives(), found.values(), strict=True) if test(g)) for test in (
        lambda g: g.angle_deg == 45, lambda g: "board" in g.families))  # fmt: skip
    assert bias.lies in ("yes", "just") and sheet.lies == "no"
    for give, d in zip(gives(), found.values(), strict=True):
        if d.pieces > 1:
            piece = judge(give, 1 / (60 * 150), 80.0 / d.pieces, [])
            assert piece.asks_percent <= max(give.gives_pct.typ, SURE_PCT) + 1e-9


def test_finished_outline_leaves_the_core_smaller_by_its_skins_and_kerf_is_told():
    part = CONSTRUCTIONS["sheeted_wing"].part().model_copy(update={"outline": "finished"})
    stack = stack_up(part, reference())
    rows = {r.name: r for r in stack.rows}
    sheet = SHEETS["balsa_light_1.5"].thickness_mm.typ
    assert rows["Finished thickness"].root_mm == pytest.approx(part.root_thickness_mm, abs=0.01)
    assert rows["Core: height"].root_mm == pytest.approx(part.root_thickness_mm - 2 * (sheet + GLUE_MM), abs=0.02)
    wire = rows["Hot-wire template: height"].root_mm
    assert wire == pytest.approx(rows["Core: height"].root_mm + KERF_MM, abs=0.02)
    assert stack.error_thickness_mm[0] == pytest.approx(2 * (sheet + GLUE_MM), abs=0.02)
    assert any(name.startswith("Shear web") for name in rows) and any(name.startswith("Recess") for name in rows)
    # and that core is what is analysed
    bare = elements_of(part, reference()).part
    assert bare.root_thickness_mm == pytest.approx(rows["Core: height"].root_mm, abs=0.02)


def test_an_outline_taken_for_the_finished_one_weighs_and_bends_as_the_smaller_core():
    part = CONSTRUCTIONS["sheeted_wing"].part()

    def result(outline):
        p = part.model_copy(update={"outline": outline})
        return estimate(Airframe(name="x", all_up_mass_g=1400, parts=(p,)), p.id)

    core, finished = result("core"), result("finished")
    assert finished.mass_g.typ < core.mass_g.typ
    assert finished.deflection_mm.typ > core.deflection_mm.typ


def test_slots_are_as_deep_as_bar_cover_and_glue():
    part = CONSTRUCTIONS["bead_wing"].part()
    rows = {r.name: r.root_mm for r in stack_up(part, reference()).rows}
    depth = next(v for k, v in rows.items() if k.startswith("Slot") and k.endswith("depth"))
    assert depth == pytest.approx(3 + 0.5 + 0.1)


def section(**changes):
    return FOLDED.model_copy(update={"section": FOLDED.section.model_copy(update=changes)})


def folded(part):
    outline = outline_of(part, reference())
    assert isinstance(outline, Folded)
    return outline


def test_the_nose_radius_comes_from_the_strip_the_bevels_or_the_creases(proof):
    chord, thick = FOLDED.root_chord_mm, FOLDED.root_thickness_mm
    strip = ends_of(folded(section(nose="strip", nose_mm=15)), chord, thick)
    proof("nose over a strip: radius times turn", strip.nose_radius_mm * math.radians(strip.turn_deg), 15, 1e-6)
    bevels = ends_of(folded(section(nose="bevels", nose_mm=15)), chord, thick)
    # two bevels that close leave three flats on the circle: the outer paper between them is w = 2 r tan(turn/4)
    proof("nose over paired bevels", 2 * bevels.nose_radius_mm * math.tan(math.radians(bevels.turn_deg) / 4), 15, 1e-6)
    few, many = (ends_of(folded(section(nose="creases", nose_mm=15, nose_creases=n)), chord, thick) for n in (3, 12))
    assert few.nose_radius_mm != many.nose_radius_mm
    assert many.nose_radius_mm == pytest.approx(strip.nose_radius_mm, rel=0.12), "many creases are nearly an arc"


def test_a_wider_strip_turns_a_rounder_nose_and_a_deeper_spar_a_thicker_section():
    narrow, wide = (ends_of(folded(section(nose_mm=w)), 200, 30).nose_radius_mm for w in (8, 20))
    assert wide > narrow
    low, high = (ends_of(folded(FOLDED), 200, t).spar_mm for t in (24, 34))
    board = SHEETS["foamboard_light_5"].thickness_mm.typ
    assert (low, high) == pytest.approx((24 - 2 * board, 34 - 2 * board))


def test_developed_lengths_are_those_of_the_outline():
    outline, chord, thick = folded(FOLDED), FOLDED.root_chord_mm, FOLDED.root_thickness_mm
    ends = ends_of(outline, chord, thick)
    x = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 6001)))
    low, high = outline.faces(x, np.array(chord), np.array(thick))
    arc = [np.hypot(np.diff(x * chord), np.diff(z)).sum() for z in (low, high)]
    assert sum(arc) == pytest.approx(ends.lower_mm + ends.nose_mm + ends.upper_mm, rel=2e-3)
    assert high.max() == pytest.approx(thick, rel=1e-6)


def test_the_folded_section_is_what_is_analysed_and_not_an_ideal_aerofoil():
    ideal = FOLDED.model_copy(update={"section": CONSTRUCTIONS["fluted_wing"].section})

    def stiffness(part):
        airframe = Airframe(name="x", all_up_mass_g=400, parts=(part,))
        e = estimate(airframe, part.id)
        return e.curves.EI_N_mm2[0], e.mass_g.typ

    assert isinstance(FOLDED.section, FoldedSection)
    (folded_EI, folded_g), (ideal_EI, ideal_g) = stiffness(FOLDED), stiffness(ideal)
    assert folded_EI != pytest.approx(ideal_EI, rel=0.05)
    assert folded_g != pytest.approx(ideal_g, rel=1e-4)


def test_laying_a_cone_flat_keeps_every_length():
    turn = np.linspace(0, np.pi, 40)
    root = np.stack([60 * np.cos(turn), np.zeros_like(turn), 60 * np.sin(turn)], 1)
    tip = np.stack([30 * np.cos(turn), np.full_like(turn, 400.0), 30 * np.sin(turn)], 1)
    flat = unroll(root, tip)
    for bent, laid in ((root, flat.root), (tip, flat.tip)):
        assert np.linalg.norm(np.diff(bent, axis=0), axis=1) == pytest.approx(
            np.linalg.norm(np.diff(laid, axis=0), axis=1)
        )
    assert np.linalg.norm(root - tip, axis=1) == pytest.approx(np.linalg.norm(flat.root - flat.tip, axis=1))
    assert flat.twisted < 1e-3


def test_the_flat_sheet_of_a_folded_wing_has_its_developed_width_and_says_whether_it_fits():
    pattern = pattern_of(FOLDED, reference())
    assert pattern is not None and pattern.root is not None
    skin = pattern.pieces[0]
    width = pattern.root.lower_mm + pattern.root.nose_mm + pattern.root.upper_mm
    assert skin.width_mm == pytest.approx(width, rel=2e-3) and skin.length_mm == pytest.approx(FOLDED.span_mm, rel=1e-3)
    assert skin.fits and {"foam_out", "crease", "bevel", "mark"} <= {line.kind for line in skin.lines}
    long = pattern_of(FOLDED.model_copy(update={"span_mm": 1400.0}), reference())
    assert long is not None and not long.pieces[0].fits and "too large" in long.pieces[0].says


def test_left_and_right_are_held_against_each_other():
    left = FOLDED.model_copy(update={"hand": "single"})
    right = left.model_copy(update={"id": "right", "name": "Right", "root_chord_mm": left.root_chord_mm + 4})
    same = pattern_of(left, reference(), left.model_copy(update={"id": "r"}))
    other = pattern_of(left, reference(), right)
    assert same is not None and other is not None
    assert "alike" in same.alike and "differs by up to 7" in other.alike
    airframe = Airframe(name="x", all_up_mass_g=400, parts=(left, right))
    told = making(airframe, left, reference()).pattern
    assert told is not None and told.alike == other.alike


def test_folds_of_a_board_take_their_foam_out():
    square, mitred, doubled, round_ = folds_of(5.0)
    assert (square.turn_deg, square.strip_mm) == (90, 5.0)
    assert (mitred.bevel_deg, mitred.strip_mm) == (45, 10.0), "each side leaves a wedge of t"
    assert doubled.strip_mm == 10.0 and round_.strip_mm == pytest.approx(np.pi * 5)


def test_a_box_is_folded_from_one_sheet_with_its_hatch_cut_out():
    box = CONSTRUCTIONS["box_fuselage"].part()
    pattern = pattern_of(box, reference())
    assert pattern is not None
    piece = pattern.pieces[0]
    assert [line.kind for line in piece.lines].count("foam_out") == 3
    around = 2 * (box.root_chord_mm + box.root_thickness_mm)
    root = piece.outline[: len(piece.outline) // 2]
    assert sum(math.dist(a, b) for a, b in itertools.pairwise(root)) == pytest.approx(around, rel=1e-3)
    hatch = next(line for line in piece.lines if line.kind == "cut")
    long = math.dist(hatch.points[0], hatch.points[3])
    assert long == pytest.approx(box.layers[1].end_mm - box.layers[1].start_mm, rel=0.01)


def test_parts_that_are_not_folded_have_no_pattern_and_every_demo_part_can_be_made():
    assert pattern_of(CONSTRUCTIONS["bead_wing"].part(), reference()) is None
    for airframe in demo_airframes():
        for part in airframe.parts:
            found = making(airframe, part, reference())
            assert len(found.surfaces) == 2 and found.stack.rows
            assert all(np.isfinite([r.root_mm, r.tip_mm]).all() for r in found.stack.rows)


def test_a_moulded_hollow_wing_has_its_dense_skin_and_walls_inside_the_outline():
    part = CONSTRUCTIONS["moulded_wing"].part()
    shell = SHEETS["moulded_epo_6"]
    assert shell.build == "faced" and shell.family == "moulded"
    rows = {r.name: r.root_mm for r in stack_up(part, reference()).rows}
    assert rows["Finished thickness"] == part.root_thickness_mm
    inside = next(v for k, v in rows.items() if k.startswith("Former") and "height" in k)
    assert inside == pytest.approx(part.root_thickness_mm - 2 * (shell.thickness_mm.typ + GLUE_MM), abs=0.3)
    covered = part.model_copy(update={"layers": (*part.layers, FilmLayer(id="film", skin="lamfilm_38", face="both"))})
    assert stack_up(covered, reference()).rows


def cautions(part):
    return {c.key for c in making(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part, reference()).cautions}


def test_cautions_stand_where_the_work_is():
    wing = CONSTRUCTIONS["bead_wing"].part()
    assert {"hot_wire_fumes", "iron_burn", "dust_composite", "knife"} <= cautions(wing)
    assert "epoxy_sensitiser" not in cautions(wing)
    assert {"epoxy_sensitiser", "dust_composite"} <= cautions(CONSTRUCTIONS["cloth_wing"].part())
    assert cautions(FOLDED) == {"knife"}
    warm = FOLDED.layers[0].model_copy(update={"formed": "warm"})
    assert "heat_gun_hot_water" in cautions(FOLDED.model_copy(update={"layers": (warm, *FOLDED.layers[1:])}))
    coat = FilmLayer(id="coat", skin="coat_epoxy_thin", face="both")
    assert "coats" in cautions(wing.model_copy(update={"layers": (*wing.layers, coat)}))


def test_every_caution_names_what_protects_and_defers():
    tags = ["process:hot_wire", "process:sanding", "process:coating", "process:layup", "process:bands", "repair:any"]
    found = cautions_for([*tags, "adhesive:ca_thin", "damage:nose", "check:bench_load", "result:any"])
    assert len(found) >= 12
    assert [c.severity for c in found] == sorted((c.severity for c in found), reverse=True)
    for c in found:
        assert len(c.caution) > 40 and c.protect and c.defer and 1 <= c.severity <= 3
