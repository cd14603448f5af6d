"""What a cut leaves of the membranes laid before it."""

from __future__ import annotations

import itertools
from dataclasses import replace

import numpy as np

from fletcher.core.document.airframe import Part
from fletcher.core.section.elements import Hole, Membrane


def _opens(hole: Hole, membrane: Membrane) -> bool:
    if membrane.face in ("web", "level"):
        return hole.face == "through"
    if membrane.face in ("front", "rear"):
        return membrane.face in (hole.face, hole.edge)
    return hole.face == membrane.face or hole.face == "through"


def _crossings(m: Membrane, hole: Hole, part: Part, a: float, b: float) -> list[float]:
    """Places between a and b at which a slanting edge of a notch passes an edge of a membrane."""
    inner = hole.front if hole.edge == "rear" else hole.rear
    if m.upright or inner.root_mm == inner.tip_mm:
        return []
    y = np.linspace(a, b, 33)
    f = y / part.span_mm
    chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * f
    found = []
    for edge in (m.front, m.rear):
        gap = np.asarray(inner.at(f, chord) - edge.at(f, chord))
        for k in np.nonzero(gap[:-1] * gap[1:] < 0)[0]:
            at = float(y[k] + (y[k + 1] - y[k]) * gap[k] / (gap[k] - gap[k + 1]))
            if a + 0.5 < at < b - 0.5:
                found.append(at)
    return sorted(found)


def parted(m: Membrane, hole: Hole, part: Part) -> list[Membrane]:
    """What a cut leaves of a membrane that was laid before it."""
    a, b = max(m.start, hole.start), min(m.end, hole.end)
    if b - a < 1e-6:
        return [m]
    crossed = _crossings(m, hole, part, a, b)
    if crossed:
        ends = [m.start, *crossed, m.end]
        runs = (replace(m, start=one, end=other) for one, other in itertools.pairwise(ends))
        return [left for run in runs for left in parted(run, hole, part)]
    fraction = 0.5 * (a + b) / part.span_mm
    chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * fraction
    x0, x1, c0, c1 = (e.at(fraction, chord) for e in (m.front, m.rear, hole.front, hole.rear))
    at_an_edge = (m.face == "front" and c0 <= 0.5) or (m.face == "rear" and c1 >= chord - 0.5)
    if not _opens(hole, m) and not (hole.face == "through" and at_an_edge):
        return [m]
    if (not m.upright and (c1 <= x0 or c0 >= x1)) or (m.face == "web" and not c0 <= x0 <= c1):
        return [m]
    pieces = []
    if a - m.start > 1e-6:
        pieces.append(replace(m, end=a))
    if m.end - b > 1e-6:
        pieces.append(replace(m, start=b))
    if m.upright:
        return pieces
    inside = replace(m, start=a, end=b)
    if c0 > x0 + 1e-6:
        pieces.append(replace(inside, rear=hole.front))
    if c1 < x1 - 1e-6:
        pieces.append(replace(inside, front=hole.rear))
    return pieces
