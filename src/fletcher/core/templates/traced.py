"""A piece traced over a photograph: two points a known way apart set scale and direction, two more check it."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field
from shapely.geometry import Polygon

from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F1, in_mm
from fletcher.core.document.cases import PRINTABLE, Document
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.templates.sheets import Point, Stroke, Template, key_of

SQUARE = 0.02
"""A second distance that differs by more than this share: the camera did not look square at the piece."""
_LEAST_PX = 5.0
"""Points nearer than this are the same."""

Pixel = Annotated[float, Field(ge=0, le=20_000)]
Spot = tuple[Pixel, Pixel]


class KnownDistance(Document):
    """Two points of the picture and the way between them, mm."""

    first: Spot
    second: Spot
    mm: Annotated[float, Field(ge=1, le=5000)]


class Trace(Document):
    """An outline over a picture, x to the right and y down, pixels. `scale` sets how large it is and lies along the
    template; `check` is another distance, best one square to it."""

    name: Annotated[str, Field(min_length=1, max_length=60, pattern=PRINTABLE)]
    scale: KnownDistance
    check: KnownDistance | None = None
    outline: Annotated[tuple[Spot, ...], Field(min_length=3, max_length=400)]


class TraceLook(Result):
    """How large a traced piece is, mm and dm², and what is wrong with the picture; empty: nothing that shows."""

    long_mm: float
    wide_mm: float
    area_dm2: float
    off_percent: float | None
    says: str


def _way(pair: KnownDistance) -> float:
    return math.dist(pair.first, pair.second)


def _points(trace: Trace) -> list[Point]:
    """The outline in mm, along the line that set its scale, y up.

    Raises
    ------
    InvalidDocument
        Where points coincide or the outline crosses itself.
    """
    for name, pair in (("scale", trace.scale), ("check", trace.check)):
        if pair is not None and _way(pair) < _LEAST_PX:
            message = "needs two points that lie apart"
            raise InvalidDocument([Problem(path=f"trace.{name}.second", message=message, value="")])
    if not Polygon(trace.outline).is_valid or Polygon(trace.outline).area < _LEAST_PX**2:
        message = "crosses itself or encloses nothing: go round the piece once, corner by corner"
        raise InvalidDocument([Problem(path="trace.outline", message=message, value="")])
    (ax, ay), (bx, by) = trace.scale.first, trace.scale.second
    scale = trace.scale.mm / _way(trace.scale)
    turn = math.atan2(-(by - ay), bx - ax)
    c, s = math.cos(turn), math.sin(turn)
    found = [((x - ax) * scale, -(y - ay) * scale) for x, y in trace.outline]
    return [(round(c * x + s * y, 3), round(-s * x + c * y, 3)) for x, y in found]


def look(trace: Trace) -> TraceLook:
    """Size of a traced piece, and whether the picture was square to it; raises as `template_of`."""
    shape = Polygon(_points(trace))
    x0, y0, x1, y1 = shape.bounds
    off, says = None, ""
    if trace.check is not None:
        told = _way(trace.check) * trace.scale.mm / _way(trace.scale)
        off = 100 * (told / trace.check.mm - 1)
        if abs(off) > 100 * SQUARE:
            says = (
                f"The second distance comes out {in_mm(told, F1)} instead of {in_mm(trace.check.mm, F1)}: the picture "
                "is not square to the camera. Take it again from further away, straight from above."
            )
    return TraceLook(
        long_mm=x1 - x0, wide_mm=y1 - y0, area_dm2=shape.area / 1e4, off_percent=off, says=says,
    )  # fmt: skip


def template_of(trace: Trace) -> Template:
    """The traced piece as a template.

    Raises
    ------
    InvalidDocument
        Where points coincide or the outline crosses itself.
    """
    found = look(trace)
    how = (
        "one distance, not checked" if found.off_percent is None else f"a second one off by {found.off_percent:+.1f} %"
    )
    notes = (f"Traced over a photograph; scale by {how}. Check one side before you cut.", found.says)
    strokes = (Stroke("CUT", tuple(_points(trace)), True),)
    return Template(key_of("traced", trace.name), trace.name, "Traced", "", strokes, (), tuple(n for n in notes if n))
