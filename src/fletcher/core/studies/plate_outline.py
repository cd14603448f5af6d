"""The outline of a plate from the points round it: a trapezoid, and what is cut from its front and rear edge.

A part runs between its chords at the root and at the tip; whatever lies between a straight edge and the outline is a
notch or a clipped corner (`document.airframe.CutLayer` of the `outline`). Of all straight edges through two corners
that keep the whole outline on their inner side the one that cuts off least is taken. Places: x aft of the nose at the
root, y out from the root, mm.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F1, in_mm
from fletcher.core.document.airframe import CutLayer, Part
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.section.assembly import line_span

Point = tuple[float, float]

LEAST_MM = 5.0
"""Shortest chord at the root and at the tip."""
_SAME_MM = 0.05
"""What lies closer is at one place."""
NAME = "Outline"
_Face = Literal["front", "rear"]
_FACES: tuple[_Face, _Face] = ("front", "rear")


@dataclass(frozen=True)
class _Strip:
    """The outline between two places along the part, where it has one front and one rear edge: x at both ends."""

    start: float
    end: float
    front: tuple[float, float]
    rear: tuple[float, float]


def _refuse(path: str, message: str, value: str = "") -> InvalidDocument:
    return InvalidDocument([Problem(path=path, message=message, value=value)])


def _crossed(points: Sequence[Point], a: float, b: float) -> list[tuple[float, float]]:
    """x at a and at b of every side that runs from one to the other, by its middle."""
    found = []
    for (x0, y0), (x1, y1) in zip(points, [*points[1:], points[0]], strict=True):
        if min(y0, y1) <= a + 1e-9 and max(y0, y1) >= b - 1e-9 and abs(y1 - y0) > _SAME_MM / 2:
            found.append((x0 + (x1 - x0) * (a - y0) / (y1 - y0), x0 + (x1 - x0) * (b - y0) / (y1 - y0)))
    return sorted(found, key=sum)


def _strips(points: Sequence[Point]) -> list[_Strip]:
    places = sorted({y for _, y in points})
    places = [y for n, y in enumerate(places) if n == 0 or y - places[n - 1] > _SAME_MM]
    out = []
    for a, b in itertools.pairwise(places):
        sides = _crossed(points, a, b)
        if len(sides) != 2:
            message = (
                f"has {len(sides) // 2} pieces side by side between {in_mm(a, F1)} and {in_mm(b, F1)} from the root; a "
                "part has one front and one rear edge"
            )
            raise _refuse("corners", message)
        front, rear = sides
        if front[0] > rear[0] + _SAME_MM or front[1] > rear[1] + _SAME_MM:
            raise _refuse("corners", f"crosses itself between {in_mm(a, F1)} and {in_mm(b, F1)} from the root")
        out.append(_Strip(a, b, front, rear))
    return out


def _edge(places: Array, at: Array, outward: float) -> tuple[float, float]:
    """The straight edge x = p + q y that keeps all corners (y `places`, x `at`) on its inner side and cuts off least;
    `outward` is −1 for a front edge, 1 for a rear one."""
    best: tuple[float, float, float] | None = None
    for i, j in itertools.combinations(range(len(places)), 2):
        if places[j] - places[i] < _SAME_MM:
            continue
        q = (at[j] - at[i]) / (places[j] - places[i])
        p = at[i] - q * places[i]
        gap = outward * (p + q * places - at)
        if gap.min() > -_SAME_MM and (best is None or gap.sum() < best[0]):
            best = float(gap.sum()), float(p), float(q)
    assert best is not None  # two corners of a hull always make one
    return best[1], best[2]


@dataclass(frozen=True)
class _Cut:
    """What is cut off from one place to another, so deep at either."""

    start: float
    end: float
    first: float
    last: float

    @property
    def grows(self) -> float:
        return (self.last - self.first) / (self.end - self.start)

    def goes_on(self, other: _Cut) -> bool:
        """Whether the other carries on in the same line."""
        meets = abs(self.end - other.start) < 1e-9 and abs(self.last - other.first) <= _SAME_MM
        return meets and abs(self.grows - other.grows) < 1e-3


def _cuts(strips: Sequence[_Strip], face: _Face, p: float, q: float) -> list[_Cut]:
    """What is cut off between a straight edge and the outline, neighbours in one line made one."""
    found: list[_Cut] = []
    for s in strips:
        x = s.front if face == "front" else s.rear
        first, last = (max(abs(x[n] - (p + q * y)), 0.0) for n, y in enumerate((s.start, s.end)))
        now = _Cut(s.start, s.end, first, last)
        if found and found[-1].goes_on(now):
            found[-1] = _Cut(found[-1].start, s.end, found[-1].first, last)
        else:
            found.append(now)
    return [c for c in found if max(c.first, c.last) > _SAME_MM]


class PlateOutline(Result):
    """Sizes of the trapezoid, and what is cut from its edges."""

    span_mm: float
    root_chord_mm: float
    tip_chord_mm: float
    tip_setback_mm: float
    cuts: list[CutLayer]


def plate_outline(part: Part, points: Sequence[Point]) -> PlateOutline:
    """The outline that runs through these points, one after the other round the part.

    Raises
    ------
    InvalidDocument
        Where the points make no plate: naming what is wrong, and the place along it.
    """
    if part.foam is None or not isinstance(part.section, RectangleSection):
        raise _refuse("part", "is no plate: an outline of points needs a core with a rectangular section")
    if len(points) > 2 and np.hypot(*np.subtract(points[0], points[-1])) <= _SAME_MM:
        points = points[:-1]
    if len(points) < 3:
        raise _refuse("corners", "needs at least three corners", f"{len(points)}")
    lowest = min(y for _, y in points)
    points = [(x, y - lowest) for x, y in points]
    strips = _strips(points)
    if not strips:
        raise _refuse("corners", "encloses nothing: all corners are at one place along the part")
    span = strips[-1].end
    for name, strip, n in (("root", strips[0], 0), ("tip", strips[-1], 1)):
        chord = strip.rear[n] - strip.front[n]
        if chord < LEAST_MM:
            message = f"ends in a point at the {name}: its edge there must be at least {in_mm(LEAST_MM, F1)} long"
            raise _refuse("corners", message, f"{chord:.1f}")
    y = np.array([v for s in strips for v in (s.start, s.end)])
    front, rear = (np.array([v for s in strips for v in getattr(s, side)]) for side in _FACES)
    (p0, q0), (p1, q1) = _edge(y, front, -1.0), _edge(y, rear, 1.0)
    taken = {la.id for la in part.layers if not (isinstance(la, CutLayer) and la.shapes)}
    free = (key for n in itertools.count(1) if (key := f"outline-{n}") not in taken)
    cuts = [
        CutLayer(id=next(free), name=NAME, face=face, width_mm=None, corner_radius_mm=0.0, outline=True,
                 start_mm=round(c.start, 2), end_mm=None if c.end >= span - 1e-6 else round(c.end, 2),
                 depth_mm=round(c.first, 2), end_depth_mm=round(c.last, 2))
        for face, p, q in zip(_FACES, (p0, p1), (q0, q1), strict=True) for c in _cuts(strips, face, p, q)
    ]  # fmt: skip
    return PlateOutline(
        span_mm=round(span, 2), root_chord_mm=round(p1 - p0, 2), tip_chord_mm=round(p1 - p0 + (q1 - q0) * span, 2),
        tip_setback_mm=round(q0 * span, 2), cuts=cuts,
    )  # fmt: skip


def corners_of(part: Part) -> list[Point]:
    """The corners of a plate as it is, round it from the nose at the root: along the front edge out, and back along the
    rear edge; of a notch both corners at each end."""

    def edge(face: str) -> list[Point]:
        cuts = [la for la in part.layers if isinstance(la, CutLayer) and la.shapes and la.enabled and la.face == face]
        found = []
        spans = {line_span(la, part): la.notch_mm for la in cuts}
        for y in sorted({0.0, part.span_mm, *(v for span in spans for v in span)}):
            share = y / part.span_mm
            x = share * part.tip_setback_mm
            inwards = 1.0
            if face == "rear":
                x += part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * share
                inwards = -1.0
            before = [deep[1] for (_, end), deep in spans.items() if abs(end - y) < _SAME_MM]
            after = [deep[0] for (start, _), deep in spans.items() if abs(start - y) < _SAME_MM]
            within = [d[0] + (d[1] - d[0]) * (y - a) / (b - a) for (a, b), d in spans.items() if a < y < b]
            steps = [max([0.0, *within, *(before if y > 0 else after)]),
                     max([0.0, *within, *(after if y < part.span_mm else before)])]  # fmt: skip
            found += [(round(x + inwards * s, 2), round(y, 2)) for s in dict.fromkeys(steps)]
        return found

    return edge("front") + edge("rear")[::-1]
