"""Templates of what is cut flat: worked checks H1 and V1, plates that close, holes where screws go."""

from __future__ import annotations

import math

import numpy as np
import pytest
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from fletcher.core.document.airframe import Airframe, JointLayer, Place, StripLayer, WallLayer
from fletcher.core.document.joint import AcrossJoint, Brace, PlateJoint
from fletcher.core.making.folding import flute_vee, pattern_of, strip_turn
from fletcher.core.materials.tables import reference
from fletcher.core.templates.drawn import templates_of
from fletcher.core.templates.geometry import half_slots
from fletcher.core.templates.sheets import Template
from tests.core.plan.test_planning import with_part


def test_half_slots_as_worked_check_h1():
    assert half_slots(60, 5.2, 4.8) == (4.8, 30.2) and half_slots(60, 4.8, 5.2) == (5.2, 30.2)
    wide, deep = half_slots(50, 5.2, 5.2, 60)
    assert (round(wide, 4), deep) == (9.0067, 25.2)
    assert half_slots(50, 5.2, 5.2, 120)[0] == pytest.approx(wide)


def test_a_slot_is_as_wide_as_the_shadow_of_the_other_plate():
    """A plate of 5.2 crossing at 60° through one of 5.2: its corners, seen along the slotted plate."""
    a = math.radians(60)
    corners = [(s / math.sin(a) * 2.6 + t / math.tan(a)) for s in (-1, 1) for t in (-2.6, 2.6)]
    assert max(corners) - min(corners) == pytest.approx(half_slots(50, 5.2, 5.2, 60)[0])


def test_twin_wall_folds_as_worked_check_v1():
    assert flute_vee(3.5, 90, 4) == (pytest.approx(7.0), 2)
    assert strip_turn(3.5, 4) == pytest.approx(59.49, abs=0.005)
    assert flute_vee(3.5, 90, 3.5) == (pytest.approx(7.0), 2)


def templates(airframe: Airframe) -> dict[str, Template]:
    return {t.key: t for t in templates_of(airframe)}


def cut(t: Template) -> list[BaseGeometry]:
    return [Polygon(s.points) for s in t.strokes if s.sort == "CUT" and s.closed]


def test_crossed_plates_close_to_their_full_length():
    airframe = with_part("crossed_plates")
    part = airframe.parts[0]
    found = templates(airframe)
    upright, level = (next(t for k, t in found.items() if w in k) for w in ("web", "level"))
    slots = []
    for t, wide in ((upright, part.root_thickness_mm), (level, part.root_chord_mm)):
        shape = cut(t)[0]
        assert shape.is_valid
        x0, y0, x1, y1 = shape.bounds
        assert x1 - x0 == pytest.approx(part.span_mm) and y1 - y0 == pytest.approx(wide, abs=1.1)
        slots.append(shape.convex_hull.difference(shape))
    thick = reference().sheets["foamboard_light_5"].thickness_mm.typ
    for slot in slots:
        x0, y0, x1, y1 = max(getattr(slot, "geoms", [slot]), key=lambda g: g.area).bounds
        assert x1 - x0 == pytest.approx(part.span_mm / 2 + 0.2, abs=0.01)
        assert y1 - y0 == pytest.approx(thick, abs=0.1)
    ends = [max(getattr(s, "geoms", [s]), key=lambda g: g.area).bounds for s in slots]
    assert ends[0][0] == pytest.approx(0) and ends[1][2] == pytest.approx(part.span_mm)  # open to opposite sides


def fitted(*layers, key="plate_wing", **changes) -> Airframe:
    return with_part(key, layers=layers, **changes)


def test_a_hard_point_has_its_screws_and_keys_inside_its_edge():
    joint = PlateJoint(long_mm=60, wide_mm=40, screws=5, screw_mm=3, keys=6, key_mm=4, backed="birchply_0.8")
    found = templates(fitted(JointLayer(id="gear", start_mm=100, joint=joint)))
    plate = next(t for k, t in found.items() if "plate-gear" in k)
    outline, *holes = cut(plate)
    assert outline.area == 2400 and len(holes) == 5 and all(outline.contains(h) for h in holes)
    assert [h.area for h in holes] == pytest.approx([math.pi * 2.25] * 5, rel=0.01)
    assert min(a.distance(b) for a in holes for b in holes if a is not b) > 5
    keys = [s for s in plate.strokes if s.sort == "MARK" and s.closed]
    assert len(keys) == 6 and any("backing" in k for k in found) and not any("horn" in k for k in found)


def test_a_horn_has_its_eye_straight_above_the_hinge_line():
    joint = PlateJoint(long_mm=15, wide_mm=15, load="rod", arm_mm=12)
    found = templates(fitted(JointLayer(id="h", start_mm=100, joint=joint)))
    blade = next(t for k, t in found.items() if "horn" in k)
    outline, eye = cut(blade)
    assert outline.is_valid and outline.contains(eye)
    assert (eye.centroid.x, eye.centroid.y) == pytest.approx((0, 12), abs=0.01)
    assert outline.exterior.distance(eye) > 1.5


def test_a_brace_is_bent_by_the_dihedral_of_both_halves():
    joint = AcrossJoint(braces=(Brace(stock="birchply_1.5", each_side_mm=80, deep_mm=12),))
    bent = with_part("bead_wing", hand="both").parts[0].model_copy(update={
        "layers": (JointLayer(id="root", joint=joint),), "place": Place(dihedral_deg=4),
    })  # fmt: skip
    brace = next(t for k, t in templates(with_part("bead_wing").model_copy(update={"parts": (bent,)})).items()
                 if "brace" in k)  # fmt: skip
    shape = cut(brace)[0]
    points = np.array(shape.exterior.coords)
    tips = points[np.abs(points[:, 0]).argsort()[-2:]]
    assert np.degrees(np.arctan2(tips[:, 1], np.abs(tips[:, 0]))) == pytest.approx([4, 4], abs=0.01)
    assert "bent by 8.0°" in brace.notes[0] and np.hypot(*tips[0]) == pytest.approx(80, abs=0.01)
    straight = with_part("bead_wing", layers=(JointLayer(id="root", start_mm=200, joint=joint),))
    flat = next(t for k, t in templates(straight).items() if "brace" in k)
    assert cut(flat)[0].bounds == pytest.approx((-80, 0, 80, 12))


def test_a_guard_says_where_it_lies_along_the_face():
    guard = StripLayer(id="g", skin="guard_ply_0.4", face="lower", width_mm=20, end_width_mm=10, root_percent=30,
                       tip_percent=30, end_mm=200)  # fmt: skip
    found = templates(with_part("bead_wing", layers=(guard,)))
    flat = next(t for k, t in found.items() if "guard" in k)
    assert cut(flat)[0].area == pytest.approx(200 * 15)
    assert "Its front edge lies" in flat.notes[0]
    nose = guard.model_copy(update={"root_percent": 1.0, "tip_percent": 1.0})
    told = next(t for k, t in templates(with_part("bead_wing", layers=(nose,))).items() if "guard" in k)
    assert told.notes[0].startswith("Laid round the edge")
    tape = guard.model_copy(update={"skin": "bopp_tape_std"})
    assert not any("guard" in k for k in templates(with_part("bead_wing", layers=(tape,))))


def test_walls_on_a_core_are_as_wide_as_the_face_is_round():
    wall = WallLayer(id="w", sheet="balsa_light_1.5", face="both")
    airframe = with_part("bead_wing", layers=(wall,))
    part = airframe.parts[0]
    sheets = [t for k, t in templates(airframe).items() if k.endswith("-w")]
    assert len(sheets) == 2
    for t in sheets:
        x0, y0, x1, y1 = cut(t)[0].bounds
        assert x1 - x0 == part.span_mm and part.root_chord_mm < y1 - y0 < 1.1 * part.root_chord_mm


def test_a_twin_wall_box_is_slit_by_whole_flutes():
    airframe = with_part("box_fuselage")
    part = airframe.parts[0]
    layers = tuple(
        la.model_copy(update={"sheet": "flutedpp_3"}) if isinstance(la, WallLayer) and la.face == "wrapped" else la
        for la in part.layers
    )
    pattern = pattern_of(part.model_copy(update={"layers": layers}), reference())
    assert pattern is not None
    slits = [line for line in pattern.pieces[0].lines if line.kind == "score"]
    assert len(slits) == 3 and all("2 flutes" in line.says for line in slits) and pattern.folds == []
    assert slits[0].width_mm == pytest.approx(6.0)
