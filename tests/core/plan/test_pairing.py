"""Tapered pieces head to tail: inside their sheet, a kerf apart, never mirrored, never worse than boxes."""

from __future__ import annotations

import itertools

import pytest
from shapely.geometry import Polygon, box

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.plan.cut_list import CutWish, cut_list
from fletcher.core.plan.flat_pieces import Flat
from fletcher.core.plan.pairing import half_turned, nearest, outline_of, paired
from fletcher.core.plan.sheet_cuts import SheetLaid
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.plan.test_planning import with_part

TAPERED = ((0.0, 0.0), (600.0, 0.0), (600.0, 100.0), (0.0, 180.0))


def flat(outline=TAPERED, name: str = "core") -> Flat:
    long, wide = max(x for x, _ in outline), max(y for _, y in outline)
    return Flat("epp_30", long, wide, True, name, 0.0, "", outline)


def test_two_tapered_pieces_share_a_box():
    (pair,) = paired([flat(), flat()], 1.0, (900, 600))
    assert (pair.long_mm, pair.wide_mm) == (600, 281)
    assert [lain.turned for lain in pair.lain] == [False, True]


@pytest.mark.parametrize("kerf", [0.0, 1.0, 2.5])
def test_they_lie_a_kerf_apart_and_no_further(kerf):
    swept = ((0.0, 0.0), (500.0, 60.0), (500.0, 160.0), (0.0, 200.0))
    bent = ((0.0, 0.0), (250.0, 40.0), (500.0, 20.0), (500.0, 120.0), (250.0, 170.0), (0.0, 140.0))
    for one, other in itertools.product((TAPERED, swept, bent), repeat=2):
        a, b = flat(one), flat(other)
        apart = nearest(outline_of(a), half_turned(b), kerf)
        upper = Polygon([(x, y + apart) for x, y in half_turned(b)])
        gap = Polygon(outline_of(a)).buffer(0).distance(upper)
        assert gap <= kerf + 1e-6
        lifted = Polygon([(x, y + apart - kerf) for x, y in half_turned(b)])
        assert Polygon(outline_of(a)).intersection(lifted).area < 1e-6
        closer = Polygon([(x, y + apart - kerf - 0.5) for x, y in half_turned(b)])
        assert Polygon(outline_of(a)).intersects(closer)


def test_what_is_straight_or_would_not_fit_stays_alone():
    straight = Flat("epp_30", 600, 180, True, "core", 0.0)
    assert [len(p.lain) for p in paired([straight, straight], 1, (900, 600))] == [1, 1]
    assert [len(p.lain) for p in paired([flat(), flat()], 1, (900, 250))] == [1, 1]
    assert [len(p.lain) for p in paired([flat(), flat(), flat()], 1, (900, 600))] == [2, 1]


def lies(sheet: SheetLaid) -> list[Polygon]:
    return [
        Polygon(p.outline) if p.outline else box(p.x_mm, p.y_mm, p.x_mm + p.long_mm, p.y_mm + p.wide_mm)
        for p in sheet.pieces
    ]


def airframes() -> list[Airframe]:
    keys = [k for k, c in CONSTRUCTIONS.items() if c.part().kind not in ("plank", "fuselage")]
    return [*demo_airframes(), *(with_part(k, hand="both") for k in keys)]


@pytest.mark.parametrize("airframe", airframes(), ids=lambda a: a.parts[0].name)
def test_every_layout_can_be_cut(airframe):
    found = cut_list(airframe, CutWish(kerf_mm=1.0))
    for s in found.sheets:
        for sheet in s.sheets:
            room = box(0, 0, sheet.long_mm, sheet.wide_mm).buffer(0.06)
            pieces = lies(sheet)
            assert all(p.is_valid and room.contains(p) for p in pieces), s.name
            for a, b in itertools.combinations(pieces, 2):
                assert a.distance(b) >= -1e-6 and a.intersection(b).area < 1.0, s.name


def test_two_halves_are_cut_of_one_board_where_boxes_need_two():
    """Cores of 600 × 330 tapered to 250 on boards of 900 × 600."""
    two = with_part("bead_wing", hand="both", span_mm=600, root_chord_mm=330, tip_chord_mm=250, tip_setback_mm=40,
                    root_thickness_mm=18, tip_thickness_mm=14)  # fmt: skip
    found = cut_list(two, CutWish())
    foam = next(s for s in found.sheets if s.key == two.parts[0].foam)
    assert foam.buy == len(foam.sheets) == 1
    sides = {p.name.split(", ")[1] for sheet in foam.sheets for p in sheet.pieces}
    assert sides == {"left", "right"}


def test_no_piece_is_mirrored():
    """Every outline on a sheet goes round the same way as its piece does, and has its area."""
    airframe = with_part("bead_wing", hand="both", tip_setback_mm=60)
    part = airframe.parts[0]
    for s in cut_list(airframe, CutWish()).sheets:
        for sheet in s.sheets:
            for p in sheet.pieces:
                if p.outline and p.name.endswith("core"):
                    shape = Polygon(p.outline)
                    assert shape.exterior.is_ccw and shape.area == pytest.approx(part.area_mm2, rel=2e-3)
