"""Sheets, film, cloth and tape of airframes: every piece once, what is there first, what does not fit by name."""

from __future__ import annotations

import math
from collections import Counter, defaultdict

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import (
    BarLayer,
    CordLayer,
    FilmLayer,
    HingeLayer,
    Laminate,
    Ply,
    Sleeve,
    Splice,
    StripLayer,
    WallLayer,
)
from fletcher.core.estimate.effort import skin_area, wall_area
from fletcher.core.materials.tables import reference
from fletcher.core.plan.cut_list import CutWish, cut_list
from fletcher.core.plan.flat_pieces import board_mm, flat_pieces
from fletcher.core.plan.sheet_cuts import OwnSheets
from fletcher.core.plan.wrapping import LAP_MM
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.plan.test_cut_list import wing
from tests.core.plan.test_planning import with_part

FLEET = demo_airframes()
KEYS = [k for k, c in CONSTRUCTIONS.items() if c.part().kind != "plank"]


def pieces(airframe):
    found = defaultdict(list)
    for f in flat_pieces(airframe):
        found[f.key].append(f)
    return found


@pytest.mark.parametrize("key", KEYS)
def test_both_halves_take_twice_what_one_takes_and_as_many_left_as_right(key):
    one, both = with_part(key, hand="single"), with_part(key, hand="both")
    if one.parts[0].kind == "fuselage":
        return
    sizes = [Counter((f.key, f.long_mm, f.wide_mm) for f in flat_pieces(a)) for a in (one, both)]
    assert sizes[1] == Counter({k: 2 * n for k, n in sizes[0].items()})
    names = Counter(", right" in f.name for f in flat_pieces(both))
    assert names[True] == names[False] == sum(sizes[0].values())


@pytest.mark.parametrize("key", KEYS)
def test_every_line_of_sheet_film_and_cloth_is_cut_and_nothing_else(key):
    airframe = with_part(key)
    part = airframe.parts[0]
    found = pieces(airframe)
    wanted = Counter()
    for la in part.layers:
        if isinstance(la, FilmLayer | StripLayer) and isinstance(la.skin, str):
            wanted[la.skin] += skin_area(la, part)
        elif isinstance(la, FilmLayer | StripLayer):
            for ply in la.skin.plies:
                wanted[ply.cloth] += skin_area(la, part)
    for stock, area in wanted.items():
        net = sum(f.net_mm2 for f in found[stock])
        assert area * 0.98 <= net <= 1.25 * area, stock  # faces are curved, their planform is not
    walls = {la.sheet for la in part.layers if isinstance(la, WallLayer)}
    formers = {part.rib_sheet, getattr(part.section, "board", None)}
    cords = {la.cord for la in part.layers if isinstance(la, CordLayer)}
    assert set(found) <= {*wanted, *walls, *formers, *cords, part.foam}
    assert walls <= set(found) and (part.foam is None or part.foam in found)


def test_a_wall_is_as_large_as_the_estimate_counts_it_and_a_web_as_high_as_the_core_is_there():
    airframe = with_part("bead_wing")
    part = airframe.parts[0]
    wall = WallLayer(id="w", sheet="balsa_light_1.5", face="both", plies=2)
    web = WallLayer(id="v", sheet="balsa_light_3", face="web", root_percent=30, tip_percent=30)
    made = pieces(airframe.model_copy(update={"parts": (part.model_copy(update={"layers": (wall, web)}),)}))
    net = sum(f.net_mm2 for f in made["balsa_light_1.5"])
    assert len(made["balsa_light_1.5"]) == 4 and net == pytest.approx(wall_area(wall, part), rel=0.06)
    (upright,) = made["balsa_light_3"]
    assert upright.long_mm == part.span_mm and upright.wide_mm == pytest.approx(part.root_thickness_mm + 1, rel=0.02)
    assert "inner end" in upright.note and not upright.turns
    across = wall.model_copy(update={"grain": "across", "face": "upper", "plies": 1})
    turned = pieces(airframe.model_copy(update={"parts": (part.model_copy(update={"layers": (across,)}),)}))
    (piece,) = turned["balsa_light_1.5"]
    assert piece.wide_mm == part.span_mm  # its grain runs along the chord


def test_film_has_laps_and_strips_cover_the_face():
    airframe = with_part("bead_wing")
    part = airframe.parts[0]

    def made(layer):
        return next(iter(pieces(airframe.model_copy(update={"parts": (part.model_copy(
            update={"layers": (layer,), "foam": "epp_30"}),)})).values().__reversed__()))  # fmt: skip

    wrapped = made(FilmLayer(id="f", skin="lamfilm_38", face="wrapped"))
    assert len(wrapped) == 1 and wrapped[0].long_mm == part.span_mm + 2 * LAP_MM
    assert wrapped[0].wide_mm > 2 * part.root_chord_mm + LAP_MM
    one = made(FilmLayer(id="f", skin="bopp_tape_std", face="upper", tape_width_mm=48.0, overlap_mm=5.0))
    assert all(f.wide_mm == 48 for f in one) and 43 * len(one) + 5 >= part.root_chord_mm > 43 * (len(one) - 1)
    assert "tail" in one[0].note
    turned = Laminate(plies=(Ply(cloth="glass_49", angle_deg=45),))
    bias = made(StripLayer(id="s", skin=turned, face="upper", width_mm=60))
    box = pytest.approx((part.span_mm + 60) * 0.5**0.5, rel=1e-6)
    assert bias[0].long_mm == box and bias[0].wide_mm == box
    drops = made(StripLayer(id="s", skin="glass_49", face="upper", width_mm=60, plies=3, drop_mm=50))
    assert [f.long_mm for f in drops] == [part.span_mm, part.span_mm - 50, part.span_mm - 100]


def test_a_thick_core_is_glued_from_boards():
    airframe = with_part("bead_wing", root_thickness_mm=45.0, tip_thickness_mm=30.0)
    foam = airframe.parts[0].foam
    assert board_mm(foam) == 20
    cores = pieces(airframe)[foam]
    assert len(cores) == 3 and "glue 3 boards" in cores[0].note


def test_what_is_on_the_shelf_is_taken_first_and_what_it_costs_falls():
    airframe = FLEET[0]
    bare = cut_list(airframe, CutWish())
    foam = next(s for s in bare.sheets if s.key == "epp_30")
    own = CutWish(own_sheets=(OwnSheets(stock="epp_30", mm=((900, 600),)),))
    shelf = next(s for s in cut_list(airframe, own).sheets if s.key == "epp_30")
    assert (foam.buy, shelf.buy, shelf.sheets[0].own) == (1, 0, True) and shelf.cost.typ == 0 < foam.cost.typ
    assert cut_list(airframe, own).cost.typ < bare.cost.typ
    tape = CutWish(own_sheets=(OwnSheets(stock="filament_tape_uni", mm=((18_000, 25),)),))
    assert next(t for t in cut_list(airframe, tape).tapes if t.key == "filament_tape_uni").buy == 0


@pytest.mark.parametrize("airframe", FLEET, ids=lambda a: a.name)
def test_a_layout_never_takes_more_than_cutting_as_it_comes(airframe):
    made = cut_list(airframe, CutWish())
    for s in made.sheets:
        assert s.least <= s.buy <= s.careless
        assert sum(len(x.pieces) for x in s.sheets) == len(pieces(airframe)[s.key])
    for t in made.tapes:
        alone = sum(p.long_mm for p in t.strips) / 1e3
        assert alone - 0.01 <= t.metres <= 2 * alone + 0.01 and t.buy >= 1  # wide ones side by side


def test_a_piece_that_no_sheet_yields_is_named_and_the_rest_is_cut():
    airframe = with_part("bead_wing", span_mm=1500.0)
    made = cut_list(airframe, CutWish())
    assert any("core: 1500 mm" in r and "larger than any sheet" in r for r in made.remarks)
    assert any(s.key != airframe.parts[0].foam for s in made.sheets)


def test_all_turns_of_a_wrap_are_one_piece_and_a_taped_hinge_has_its_tapes():
    airframe = with_part("bead_wing")
    part = airframe.parts[0]

    def made(*layers):
        bare = part.model_copy(update={"layers": layers})
        return [f for f in flat_pieces(airframe.model_copy(update={"parts": (bare,)})) if f.key != part.foam]

    one, three = (made(FilmLayer(id="f", skin="lamfilm_38", face="wrapped", plies=n))[0] for n in (1, 3))
    thick = reference().skins["lamfilm_38"].total_thickness_mm
    assert three.wide_mm - LAP_MM == pytest.approx(3 * (one.wide_mm - LAP_MM) + math.pi * thick * 9)
    assert three.name.endswith("3 turns")
    both = made(HingeLayer(id="h", method="tape_both_sides_gap", gap_mm=0.5, bevel_deg=45, start_mm=100, end_mm=300))
    deep = min(part.root_thickness_mm, part.tip_thickness_mm)
    assert [round(f.wide_mm, 3) for f in both] == [24.5, round(24 + 2 * deep / math.cos(math.radians(22.5)), 3)]
    assert {f.long_mm for f in both} == {200} and {f.key for f in both} == {"bopp_tape_std"}
    assert len(made(HingeLayer(id="h", method="tape_one_side_bevel"))) == 1
    assert made(HingeLayer(id="h", method="point_nylon_pinned")) == []


def test_a_long_strip_on_the_bias_is_joined_from_lengths():
    airframe = with_part("bead_wing", span_mm=1450.0)
    part = airframe.parts[0]
    strip = StripLayer(id="s", skin=Laminate(plies=(Ply(cloth="glass_49", angle_deg=45),)), face="upper", width_mm=60)
    found = list(flat_pieces(airframe.model_copy(update={"parts": (part.model_copy(update={"layers": (strip,)}),)})))
    assert "2 lengths joined" in next(f for f in found if f.key == "glass_49").note


def test_cords_and_bindings_come_off_the_reel():
    """A cord along both edges of both halves; thread round the mouths of a sleeve and round a bound split."""
    bound = BarLayer(id="tube", stock="carbon_tube_8_6", place="middle", joined_at_root=False,
                     sleeve=Sleeve(stock="carbon_tube_6_4", start_mm=200, end_mm=320),
                     splices=(Splice(at_mm=260, overlap_mm=120, how="sleeved", bound=True),))  # fmt: skip
    split = BarLayer(id="rod", stock="carbon_rod_4", place="pair", root_percent=60, tip_percent=60,
                     splices=(Splice(at_mm=100, overlap_mm=18, how="wrapped"),))  # fmt: skip
    cord = CordLayer(id="cord", cord="polyester_braid_1", face="both")
    airframe = wing(cord, bound, split, hand="both", span=470)
    found = {t.key: t for t in cut_list(airframe, CutWish()).tapes}
    assert [p.long_mm for p in found["polyester_braid_1"].strips] == [470.0] * 4
    assert found["polyester_braid_1"].metres == pytest.approx(1.88)
    thread = found["polyester_thread_0.4"]
    mouths = 24 / 0.4 * math.hypot(math.pi * 8.4, 0.4)
    wound = 18 / 0.4 * math.hypot(math.pi * 4.4, 0.4)
    assert [round(p.long_mm, 1) for p in thread.strips] == [
        round(v, 1) for v in (mouths, wound, wound, mouths, wound, wound)
    ]
    assert thread.unit == "per metre" and thread.buy == math.ceil(thread.metres)
