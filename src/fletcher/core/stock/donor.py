"""Foam from a scrapped part: the largest box that can be cut from its core, clear of bars, pockets and damage."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import BarLayer, CutLayer, FittingLayer, Part
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import outline_of, pocket_size
from fletcher.core.section.outline import faces
from fletcher.core.stock.items import StockItem

LEAST_MM = (60.0, 40.0, 15.0)
"""[J] Smallest block that is worth keeping: long, wide, thick."""
SKIN_MM = 1.0
"""[J] What is cut off under each face with its skin and glue."""
_ALONG, _ACROSS = 12, 24


def donor_block(part: Part) -> StockItem | None:
    """The largest box in the foam of a checked part, sound all through; None where there is no core or none so large.

    The box lies level between two stations and two shares of the chord: as wide as the narrower end gives, as thick as
    the space between the faces at its thinnest corner. Bars and what lies in pockets bound it.
    """
    if part.foam is None:
        return None
    catalogue = reference()
    outline = outline_of(part, catalogue)
    y = np.linspace(0, part.span_mm, _ALONG + 1)
    x = np.linspace(0.02, 0.98, _ACROSS + 1)
    share = (y / part.span_mm)[:, None]
    chord = part.root_chord_mm + share * (part.tip_chord_mm - part.root_chord_mm)
    thick = part.root_thickness_mm + share * (part.tip_thickness_mm - part.root_thickness_mm)
    lower, upper = faces(outline, x[None, :], chord, thick)
    bounds = sorted({0.0, 1.0, *_taken(part)})
    best: tuple[float, ...] = ()
    for a in range(_ALONG):
        for b in range(a + 1, _ALONG + 1):
            if _broken(part, y[a], y[b]):
                continue
            for left, right in pairwise(bounds):
                between = np.flatnonzero((x >= left) & (x <= right))
                if len(between) < 2:
                    continue
                ends = int(between[0]), int(between[-1])
                best = max(best, _box(y, x, chord, lower, upper, (a, b), ends))
    if not best:
        return None
    _, long, wide, deep = best
    return StockItem(
        kind="block", key=part.foam, length_mm=round(long), width_mm=round(wide), thick_mm=round(deep, 1),
        origin="scrap", note=f"from {part.name}"[:120],
    )  # fmt: skip


def _box(
    y: Array, x: Array, chord: Array, lower: Array, upper: Array, along: tuple[int, int], across: tuple[int, int]
) -> tuple[float, ...]:  # fmt: skip
    """Volume, length, width and thickness of the largest box between two stations and within shares of the chord."""
    a, b = along
    low, high = lower[a : b + 1].max(axis=0), upper[a : b + 1].min(axis=0)
    least = float(min(chord[a, 0], chord[b, 0]))
    best: tuple[float, ...] = ()
    for i in range(across[0], across[1]):
        for j in range(i + 1, across[1] + 1):
            deep = float(high[i : j + 1].min() - low[i : j + 1].max()) - 2 * SKIN_MM
            size = (float(y[b] - y[a]), float(x[j] - x[i]) * least, deep)
            if all(s >= m for s, m in zip(size, LEAST_MM, strict=True)):
                best = max(best, (size[0] * size[1] * size[2], *size))
    return best


def _taken(part: Part) -> list[float]:
    """Shares of the chord that bars and pockets stand at."""
    chord = 0.5 * (part.root_chord_mm + part.tip_chord_mm)
    out = []
    for la in part.layers:
        if not la.enabled or not isinstance(la, BarLayer | CutLayer | FittingLayer):
            continue
        if isinstance(la, BarLayer):
            wide = reference().bars[la.stock].size(la.on_edge)[0]
        else:
            wide = pocket_size(la, reference())[0] if isinstance(la, FittingLayer) else la.width_mm or chord
        at = 0.005 * (getattr(la, "root_percent", 50.0) + getattr(la, "tip_percent", 50.0))
        out += [at - 0.5 * wide / chord, at + 0.5 * wide / chord]
    return [min(max(s, 0.0), 1.0) for s in out]


def _broken(part: Part, start: float, end: float) -> bool:
    """Whether damage lies between two stations; a mark that names no place lies everywhere."""
    for mark in part.damage:
        at = getattr(mark, "at_mm", None)
        first, last = (at, at) if at is not None else (getattr(mark, "start_mm", 0.0), getattr(mark, "end_mm", None))
        if (first or 0.0) <= end and (part.span_mm if last is None else last) >= start:
            return True
    return False
