"""How far a bar runs beside pockets, cut-outs and fittings of its part, before its slot is cut (gate G02).

Clear is what lies `CLEAR_MM` apart in plan, or on another face. Where a bar runs into something the plan says so.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from fletcher.core.common.quantities import F0, F1, in_mm
from fletcher.core.document.airframe import Airframe, BarLayer, CutLayer, FittingLayer, Layer, Part
from fletcher.core.materials.tables import reference
from fletcher.core.plan.cover import covers, width_of
from fletcher.core.section.assembly import size_at

CLEAR_MM = 3.0
"""[J] Foam that is left between a bar and a pocket."""


@dataclass(frozen=True)
class Beside:
    """What lies nearest to a bar: its name, and how much foam is between, mm; below 0 the bar runs into it."""

    name: str
    mm: float


def nearest(bar: BarLayer, part: Part) -> Beside | None:
    """The nearest cut-out or fitting on the faces and the stretch of a bar; None where nothing lies there."""
    found = [
        Beside(_name(la), _apart(bar, la, part))
        for la in part.layers
        if la.enabled and isinstance(la, CutLayer | FittingLayer) and not _skins_only(la) and _meets(bar, la, part)
    ]
    return min(found, key=lambda b: b.mm, default=None)


def _skins_only(layer: CutLayer | FittingLayer) -> bool:
    """Whether only skins are slit and no foam is taken."""
    return isinstance(layer, CutLayer) and layer.face in ("upper", "lower") and layer.depth_mm == 0


def _meets(bar: BarLayer, other: Layer, part: Part) -> bool:
    a, b = covers(bar, part), covers(other, part)
    along = min(a.along_mm[1], b.along_mm[1]) - max(a.along_mm[0], b.along_mm[0])
    whole_face = width_of(other) is None  # what takes the whole face has no edge to keep clear of
    return bool(a.faces & b.faces) and along > 0 and not whole_face


def _apart(bar: BarLayer, other: Layer, part: Part) -> float:
    """Foam between two lines in plan, the least of both ends of the stretch that they share, mm; 0 less where they
    cross."""
    a, b = covers(bar, part).along_mm, covers(other, part).along_mm
    ends = max(a[0], b[0]), min(a[1], b[1])
    offsets = [_place(bar, part, y) - _place(other, part, y) for y in ends]
    half = 0.5 * ((width_of(bar) or 0.0) + (width_of(other) or 0.0))
    if offsets[0] * offsets[1] < 0:
        return -half
    return min(abs(o) for o in offsets) - half


def _place(layer: Layer, part: Part, y: float) -> float:
    """Where a line lies behind the leading edge at a station, mm."""
    share = y / part.span_mm
    root = float(getattr(layer, "root_percent", 50.0))
    percent = root + share * (float(getattr(layer, "tip_percent", root)) - root)
    return percent / 100 * size_at(part, y)[0]


def _name(layer: Layer) -> str:
    if layer.name:
        return layer.name
    return reference().fittings[layer.stock].name if isinstance(layer, FittingLayer) else "cut-out"


def computed(bar: BarLayer, part: Part) -> str:
    """What the drawing says of a bar's clearance, in words."""
    near = nearest(bar, part)
    if near is None:
        return "By the drawing nothing lies near it."
    if near.mm < 0:
        return f"By the drawing it runs into: {near.name}."
    return f"By the drawing {in_mm(near.mm, F0)} from: {near.name}."


def too_near(airframe: Airframe) -> Iterator[str]:
    """Bars that run into something, or leave less foam than stands."""
    for part in airframe.parts:
        for la in part.layers:
            near = nearest(la, part) if la.enabled and isinstance(la, BarLayer) and part.kind != "plank" else None
            if near is None or near.mm >= CLEAR_MM or not isinstance(la, BarLayer):
                continue
            bar = la.name or reference().bars[la.stock].name
            how = "runs into" if near.mm < 0 else f"leaves only {in_mm(near.mm, F1)} of foam beside"
            yield f"{part.name}: {bar} {how} {near.name}. Move one of them on the Bench before the slot is cut."
