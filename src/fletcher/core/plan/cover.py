"""Which line of a lay-up lies over which: only what overlaps has to wait (P1, P2).

A line takes up faces of its part, a stretch along it and a stretch of its chord. What is laid later over what was laid
before waits for it; what touches nothing of it may be done at any time. A pocket goes through what was laid before it
and under what is laid after it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from fletcher.core.document.airframe import (
    BarLayer,
    CordLayer,
    CutLayer,
    FilmLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import fitting_span, line_span, pocket_size

_ALL = frozenset({"upper", "lower", "front", "rear", "inside"})
_FACES = {
    "both": {"upper", "lower"}, "pair": {"upper", "lower"}, "wrapped": {"upper", "lower", "front", "rear"},
    "through": {"upper", "lower", "inside"}, "middle": {"upper", "lower", "inside"}, "sides": {"front", "rear"},
    "web": {"inside"}, "level": {"inside"},
}  # fmt: skip


@dataclass(frozen=True)
class Covers:
    """What a line takes up: faces, stretch along the part and share of the chord, both from and to."""

    faces: frozenset[str]
    along_mm: tuple[float, float]
    chord: tuple[float, float]

    def meets(self, other: Covers) -> bool:
        """Whether two lines have a place in common."""
        return (
            bool(self.faces & other.faces)
            and _overlap(self.along_mm, other.along_mm)
            and _overlap(self.chord, other.chord)
        )


def _overlap(a: tuple[float, float], b: tuple[float, float]) -> bool:
    return a[0] < b[1] and b[0] < a[1]


def covers(layer: Layer, part: Part) -> Covers:
    """What a line of a checked part takes up."""
    along = fitting_span(layer, part, reference()) if isinstance(layer, FittingLayer) else line_span(layer, part)
    chord = 0.5 * (part.root_chord_mm + part.tip_chord_mm)
    wide = width_of(layer)
    if wide is None:
        return Covers(_faces(layer), along, (0.0, 1.0))
    at = 0.005 * (getattr(layer, "root_percent", 50.0) + getattr(layer, "tip_percent", 50.0))
    return Covers(_faces(layer), along, (at - 0.5 * wide / chord, at + 0.5 * wide / chord))


def _faces(layer: Layer) -> frozenset[str]:
    if isinstance(layer, JointLayer):
        return _ALL
    if isinstance(layer, HingeLayer):
        return frozenset({"front", "upper", "lower"})
    where = layer.place if isinstance(layer, BarLayer) else layer.face
    return frozenset(_FACES.get(where, {where}))


def width_of(layer: Layer) -> float | None:
    """How much of the chord a line takes up, mm; None: all of it."""
    if isinstance(layer, BarLayer):
        return reference().bars[layer.stock].size(layer.on_edge)[0]
    if isinstance(layer, StripLayer):
        return max(layer.width_mm, layer.end_width_mm or 0.0)
    if isinstance(layer, CutLayer):
        return layer.width_mm
    if isinstance(layer, FittingLayer):
        return pocket_size(layer, reference())[0]
    return None


def edges(part: Part) -> Iterator[tuple[str, str]]:
    """Of every two lines that meet: the one that is laid first, and the one that waits for it, by their ids."""
    on = [la for la in part.layers if la.enabled and not bonds(la)]
    taken = {la.id: covers(la, part) for la in on}
    for n, later in enumerate(on):
        for earlier in on[:n]:
            if taken[earlier.id].meets(taken[later.id]):
                yield earlier.id, later.id


def bonds(layer: Layer) -> bool:
    """Whether a line is only the glue under another one."""
    return isinstance(layer, JointLayer) and layer.joint.kind in ("bond", "lap")


def shuts(layer: Layer, part: Part) -> bool:
    """Whether a line closes what lies inside a part: a wall or skin of a hollow one, a face of what is sheeted."""
    if isinstance(layer, FilmLayer | WallLayer | CordLayer):
        return part.foam is None and layer.face in ("both", "wrapped", "upper", "lower")
    return False


def inside(layer: Layer, part: Part) -> bool:
    """Whether a line lies where nobody gets at it once the part is closed: what is put inside, and in a hollow part
    its spars, webs and openings, which are made while it lies open."""
    if isinstance(layer, FittingLayer) and layer.face == "inside":
        return True
    if part.foam is not None:
        return False
    return isinstance(layer, BarLayer | CutLayer) or (isinstance(layer, WallLayer) and not shuts(layer, part))
