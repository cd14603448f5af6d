"""Notches and clipped corners of a core: how deep they may go, and that something is left between two of them."""

from __future__ import annotations

from collections.abc import Iterator

from fletcher.core.common.quantities import G4, in_mm
from fletcher.core.document.airframe import CutLayer, Part
from fletcher.core.document.problems import Problem
from fletcher.core.section.assembly import line_span

NOTCH_SHARE = 0.6
"""[J] Share of the chord up to which a notch may go in from an edge."""
_LEFT_SHARE = 0.1
"""[J] Share of the chord that is left between notches from both edges, at least."""


def _chord(part: Part, y: float) -> float:
    return part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * y / part.span_mm


def notch_fits(layer: CutLayer, part: Part, path: str) -> Iterator[Problem]:
    """A notch by itself, and against those from the other edge."""
    for name, y, deep in zip(("depth_mm", "end_depth_mm"), line_span(layer, part), layer.notch_mm, strict=True):
        most = NOTCH_SHARE * _chord(part, y)
        if deep > most:
            message = f"notches too far into the part: at most {in_mm(most, G4)} deep"
            yield Problem(path=f"{path}.{name}", message=message, value=f"{deep:g}")
            return
    others = [la for la in part.layers if isinstance(la, CutLayer) and la.enabled and max(la.notch_mm) > 0]
    for other in others:
        if other.face == layer.face:
            continue
        start, end = (pick(line_span(la, part)[n] for la in (layer, other)) for n, pick in ((0, max), (1, min)))
        for y in (start, end) if end - start > 1e-6 else ():
            room = (1 - _LEFT_SHARE) * _chord(part, y) - _deep(other, part, y)
            if _deep(layer, part, y) > room:
                message = (
                    f"and the notch from the other edge leave too little at {in_mm(y, G4)} from the root: at most "
                    f"{in_mm(max(room, 0.0), G4)} deep there"
                )
                yield Problem(path=f"{path}.depth_mm", message=message, value=f"{_deep(layer, part, y):g}")
                return


def _deep(layer: CutLayer, part: Part, y: float) -> float:
    (start, end), (first, last) = line_span(layer, part), layer.notch_mm
    return first + (last - first) * (y - start) / max(end - start, 1e-9)
