"""How exact must it be? For every placed dimension the millimetres that cost 5 % of strength or of stiffness.

Each dimension is moved both ways and the part tried again (typical values); the worse way is then narrowed down until
the loss is near 5 %.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial

from fletcher.core.document.airframe import Airframe, BarLayer, CutLayer, Layer, Part, StripLayer, WallLayer
from fletcher.core.section.assembly import line_span
from fletcher.core.studies.schema import Tolerance
from fletcher.core.studies.what_if import possible, trial, with_line

COSTS = 0.05
"""The loss that is asked about."""
_FAR_MM = 60.0
"""What may be off by more than this is not told closer."""


@dataclass(frozen=True)
class Dimension:
    """A dimension of a line that a builder sets at the bench: its `field` (None: where it lies across the chord, or the
    depth), and what it and moving it on and back are called."""

    line: Layer
    field: str | None
    name: str
    ways: tuple[str, str]
    value_mm: float

    def moved(self, part: Part, by_mm: float) -> dict[str, object]:
        """The fields of the line after a move."""
        la = self.line
        if self.field is None:
            assert isinstance(la, BarLayer | StripLayer | WallLayer | CutLayer)
            high = _is_level(la)
            size = part.root_thickness_mm if high else part.root_chord_mm
            tip = part.tip_thickness_mm if high else part.tip_chord_mm
            return {
                "root_percent": la.root_percent + 100 * by_mm / size,
                "tip_percent": la.tip_percent + 100 * by_mm / tip,
            }
        changes: dict[str, object] = {self.field: self.value_mm + by_mm}
        if self.field == "width_mm" and isinstance(la, StripLayer) and la.end_width_mm is not None:
            changes["end_width_mm"] = la.end_width_mm + by_mm
        return changes


def _is_level(layer: Layer) -> bool:
    return isinstance(layer, WallLayer) and layer.face == "level"


def dimensions(part: Part) -> Iterator[Dimension]:
    """Every dimension of a lay-up that is placed by hand."""
    for la in part.layers:
        if not la.enabled:
            continue
        start, end = line_span(la, part)
        if isinstance(la, BarLayer) and la.place != "middle":
            yield Dimension(la, "cover_mm", "cover", ("deeper", "closer to the face"), la.cover_mm)
        placed = isinstance(la, BarLayer | StripLayer) or (isinstance(la, CutLayer) and la.width_mm is not None)
        if placed or (isinstance(la, WallLayer) and la.face in ("web", "level")):
            ways = ("higher", "lower") if _is_level(la) else ("further aft", "further forward")
            yield Dimension(la, None, "chord position", ways, 0.0)
        if isinstance(la, StripLayer) or (isinstance(la, CutLayer) and la.width_mm is not None):
            yield Dimension(la, "width_mm", "width", ("wider", "narrower"), float(la.width_mm or 0))
        if isinstance(la, CutLayer) and la.depth_mm > 0 and la.face != "through":
            yield Dimension(la, "depth_mm", "depth", ("deeper", "shallower"), la.depth_mm)
        if start > 0:
            yield Dimension(la, "start_mm", "start", ("further outboard", "further inboard"), start)
        if end < part.span_mm:
            yield Dimension(la, "end_mm", "end", ("further outboard", "further inboard"), end)


def exactness(airframe: Airframe, part: Part, case_id: str) -> list[Tolerance]:
    """How far every placed dimension may be off before 5 % is lost, the most exacting first. The loss is of the margin
    of the case that leaves least, or of stiffness in the case `case_id`, whichever comes first."""
    now = trial(airframe, part)

    def loss(dim: Dimension, by_mm: float) -> tuple[float, str] | None:
        changes = dim.moved(part, by_mm)
        try:
            type(dim.line).model_validate({**dict(dim.line), **changes})
        except ValueError:
            return None
        other = with_line(part, dim.line.id, **changes)
        return max(now.losses(trial(airframe, other), case_id)) if possible(other) else None

    found = []
    for dim in dimensions(part):
        told = [
            (_narrowed(partial(lambda d, s, mm: loss(d, s * mm), dim, sign)), way)
            for sign, way in zip((1, -1), dim.ways, strict=True)
        ]
        known = [(off[0], off[1], way) for off, way in told if off is not None]
        off_mm, costs, way = min(known, default=(None, "", ""))
        found.append(Tolerance(line_id=dim.line.id, dimension=dim.name, off_mm=off_mm, way=way, costs=costs))
    return sorted(found, key=lambda t: 1e9 if t.off_mm is None else t.off_mm)


def _narrowed(loss: Callable[[float], tuple[float, str] | None]) -> tuple[float, str] | None:
    """The move in mm that costs 5 %, by trying 1 mm, then where a straight line from there leads, then bisecting; None
    if even the farthest possible one costs less."""
    low, high, why = 0.0, None, ""
    at, slope = 1.0, 0.0
    for _ in range(7):
        told = loss(at)
        if told is None:  # not possible that far: come back
            if at - low < 0.3:
                break
            at = 0.5 * (low + at)
            if high is not None and at >= high:
                break
            continue
        value, cause = told
        if value >= COSTS:
            high, why = at, cause
            if high < 0.3 or high - low < 0.2 * high:
                break
        else:
            low, slope = at, max(value, 1e-6) / at
            if low >= _FAR_MM:
                return None
        further = min(max(1.6 * low, min(1.05 * COSTS / max(slope, 1e-9), 8 * low)), _FAR_MM)
        at = further if high is None else 0.5 * (low + high)
    return None if high is None else (high, why)
