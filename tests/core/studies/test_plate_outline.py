"""Outlines of plates from points, and what notches and clipped corners do to the part."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fletcher.core.document.airframe import CutLayer, Part
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.report import estimate
from fletcher.core.studies.plate_outline import PlateOutline, corners_of, plate_outline
from tests.core.joints.test_joints import TAPE, plank

PLATE = plank(foam="xps_30", weight_g=40)
NOTCHED = [(0, 0), (0, 150), (20, 150), (20, 200), (0, 200), (30, 400), (90, 400), (120, 350), (120, 80), (100, 80),
           (100, 0)]  # fmt: skip


def area(points) -> float:
    x, y = np.array(points, float).T
    return float(abs(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))) / 2)


def shaped(points, part: Part = PLATE.parts[0]) -> tuple[PlateOutline, Part]:
    found = plate_outline(part, points)
    sizes = found.model_dump(exclude={"cuts"})
    return found, part.model_copy(update={**sizes, "layers": (*part.layers, *found.cuts)})


def clip(**more) -> dict:
    return {"type": "cut", "id": "clip", "face": "rear", "start_mm": 0, "end_mm": 500, "depth_mm": 0,
            "end_depth_mm": 50, "outline": True, **more}  # fmt: skip


def test_an_outline_is_its_trapezoid_and_what_is_cut_from_it():
    found, part = shaped(NOTCHED)
    assert (found.span_mm, found.root_chord_mm, found.tip_chord_mm, found.tip_setback_mm) == (400, 120, 120, 0)
    told = [(c.face, c.start_mm, c.end_mm, *c.notch_mm) for c in found.cuts]
    assert told == [("front", 150, 200, 20, 20), ("front", 200, None, 0, 30), ("rear", 0, 80, 20, 20),
                    ("rear", 350, None, 0, 30)]  # fmt: skip
    assert corners_of(part) == [(float(x), float(y)) for x, y in NOTCHED]
    assert plate_outline(part, corners_of(part)).cuts == found.cuts, "what it already has is taken anew"


def test_its_grams_are_those_of_the_area_within():
    _, part = shaped(NOTCHED)
    e = estimate(PLATE.model_copy(update={"parts": (part,)}), "p")
    assert e.mass_g.typ == pytest.approx(area(NOTCHED) * 20 * 30e-6, rel=1e-6)


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.tuples(st.floats(0, 0.4), st.floats(0.6, 1.0)), min_size=3, max_size=7),
    st.floats(60, 300),
    st.booleans(),
)
def test_any_outline_comes_back_as_it_was(edges, chord, backwards):
    """Corners along the front edge out and along the rear edge back, any start and way round."""
    places = np.linspace(0, 400, len(edges))
    out = [(round(f * chord, 1), float(y)) for (f, _), y in zip(edges, places, strict=True)]
    back = [(round(r * chord, 1), float(y)) for (_, r), y in zip(edges, places, strict=True)]
    points = [*out, *back[::-1]]
    turned = [*points[2:], *points[:2]]
    found, part = shaped(turned[::-1] if backwards else turned)
    assert area(corners_of(part)) == pytest.approx(area(points), rel=2e-3)
    assert all(min(c.notch_mm) >= 0 for c in found.cuts)
    whole = found.span_mm * (found.root_chord_mm + found.tip_chord_mm) / 2
    spans = [(c.end_mm or found.span_mm) - c.start_mm for c in found.cuts]
    off = sum(s * sum(c.notch_mm) / 2 for s, c in zip(spans, found.cuts, strict=True))
    assert whole - off == pytest.approx(area(points), rel=2e-3)


def test_a_plain_trapezoid_needs_no_cuts_wherever_it_lies():
    found, _ = shaped([(7, 30), (27, 330), (87, 330), (107, 30)])
    assert not found.cuts
    assert (found.span_mm, found.root_chord_mm, found.tip_chord_mm, found.tip_setback_mm) == (300, 100, 60, 20)


@pytest.mark.parametrize(
    ("points", "says"),
    [
        ([(0, 0), (100, 0)], "at least three corners"),
        ([(0, 0), (50, 0), (100, 0)], "encloses nothing"),
        ([(0, 0), (50, 300), (100, 0)], "ends in a point at the tip"),
        ([(50, 0), (0, 300), (100, 300)], "ends in a point at the root"),
        ([(0, 0), (0, 300), (30, 300), (30, 100), (60, 100), (60, 300), (100, 300), (100, 0)], "pieces side by side"),
        ([(0, 0), (100, 300), (0, 300), (100, 0)], "crosses itself"),
    ],
)
def test_what_is_no_outline_is_refused_in_words(points, says):
    with pytest.raises(InvalidDocument) as refused:
        plate_outline(PLATE.parts[0], points)
    assert says in refused.value.problems[0].message and refused.value.problems[0].path == "corners"


def test_only_plates_have_an_outline_of_points():
    wing = PLATE.parts[0].model_copy(update={"section": {"shape": "ellipse"}})
    with pytest.raises(InvalidDocument, match="is no plate"):
        plate_outline(wing, NOTCHED)


def test_a_plate_clipped_all_along_is_the_tapered_plate():
    """The same foam once as a trapezoid, once as a rectangle with a corner off."""
    clipped = plank(clip(), foam="xps_30", weight_g=40)
    part = PLATE.parts[0].model_copy(update={"tip_chord_mm": 50})
    tapered = PLATE.model_copy(update={"parts": (part,)})
    one, other = (analyse(a, a.parts[0], a.parts[0].cases[0]).prepared for a in (clipped, tapered))
    at = np.linspace(0, 500, 11)

    def along(p, values):
        return np.interp(at, p.geometry.y, values)

    for of in (lambda p: p.sums.whole_EI[0], lambda p: p.sums.edge_EI[0], lambda p: p.geometry.foam_x[0]):
        assert along(one, of(one)) == pytest.approx(along(other, of(other)), rel=1e-6)
    assert along(one, one.fields.torsion[0]) == pytest.approx(along(other, other.fields.torsion[0]), rel=1e-3)
    holds = [estimate(a, "p").breaks_at.typ for a in (clipped, tapered)]
    assert holds[0] == pytest.approx(holds[1], rel=0.01)


def test_an_outline_in_two_lines_has_no_corner_where_they_meet():
    whole = plank(clip(), foam="xps_30", weight_g=40)
    halves = plank(clip(id="a", end_mm=250, end_depth_mm=25), clip(id="b", start_mm=250, depth_mm=25), foam="xps_30",
                   weight_g=40)  # fmt: skip
    one, two = (estimate(a, "p") for a in (whole, halves))
    assert two.breaks_at.typ == pytest.approx(one.breaks_at.typ, rel=2e-3)
    step = plank(clip(start_mm=150, end_mm=250, depth_mm=0, end_depth_mm=30), foam="xps_30", weight_g=40)
    kinds = [f for f in estimate(step, "p").failures if f.kind == "notch"]
    assert kinds and math.isclose(kinds[0].at_mm, 250, abs_tol=1.0), "where it jumps back there is one"


def test_nothing_lies_beyond_the_outline_whenever_it_was_laid():
    film = {"type": "film", "id": "film", "skin": "lamfilm_38", "face": "both"}
    strip = {**TAPE, "root_percent": 90, "tip_percent": 90, "width_mm": 15}
    for line in (film, strip):
        first, last = (estimate(plank(*order, foam="xps_30"), "p") for order in ((clip(), line), (line, clip())))
        assert first.mass_g.typ == pytest.approx(last.mass_g.typ, rel=1e-9)
        assert first.breaks_at.typ == pytest.approx(last.breaks_at.typ, rel=1e-9)
        under = estimate(plank(clip(outline=False), line, foam="xps_30"), "p")
        assert under.mass_g.typ > first.mass_g.typ, "a notch that is no outline is covered by what comes later"


@pytest.mark.parametrize(
    ("cuts", "path", "says"),
    [
        ([clip(end_depth_mm=70)], "layers[0].end_depth_mm", "at most 60 mm deep"),
        ([clip(depth_mm=61)], "layers[0].depth_mm", "at most 60 mm deep"),
        ([clip(), clip(id="b", face="front", start_mm=400, depth_mm=45)], "layers[0].depth_mm", "too little at 500 mm"),
    ],
)
def test_notches_leave_something_to_hold(cuts, path, says):
    with pytest.raises(InvalidDocument) as refused:
        plank(*cuts, foam="xps_30")
    assert refused.value.problems[0].path == f"parts[0].{path}" and says in refused.value.problems[0].message


def test_a_cut_keeps_its_depth_where_none_is_told_for_its_end():
    assert CutLayer(id="c", face="front", depth_mm=7).notch_mm == (7, 7)
    pocket = CutLayer(id="c", face="upper", depth_mm=7, end_depth_mm=3, outline=True)
    assert pocket.notch_mm == (0, 0) and not pocket.shapes, "a pocket is no part of the outline"
