"""Tapered pieces laid head to tail: two of them in one box, before the boxes are packed.

The second lies turned by half a turn in the plane, which keeps grain, face and hand, against the first: as near as the
kerf allows anywhere along them. Two are paired where their common box is smaller than their own two. Greedy: the pair
that saves most first. Sizes mm, along the grain and across.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise

from fletcher.core.plan.flat_pieces import Flat

Point = tuple[float, float]
SAVES = 0.04
"""A pair is made where it saves at least this share of two boxes."""
MOST = 160
"""So many pieces are looked at for pairs."""


@dataclass(frozen=True)
class Lain:
    """A piece by its number within a box: its corner, and whether it is turned by half a turn."""

    piece: int
    x: float
    y: float
    turned: bool


@dataclass(frozen=True)
class Pair:
    """A box with one piece or two."""

    long_mm: float
    wide_mm: float
    turns: bool
    lain: tuple[Lain, ...]


def outline_of(flat: Flat) -> tuple[Point, ...]:
    """Corners of a piece from the corner of its box."""
    return flat.outline or ((0.0, 0.0), (flat.long_mm, 0.0), (flat.long_mm, flat.wide_mm), (0.0, flat.wide_mm))


def half_turned(flat: Flat) -> tuple[Point, ...]:
    """The same, turned by half a turn within its box."""
    return tuple((flat.long_mm - x, flat.wide_mm - y) for x, y in outline_of(flat))


def _reach(outline: Sequence[Point], x: float, upper: bool) -> float | None:
    """The highest or lowest place of an outline at a place along it; None beyond its ends."""
    found = []
    for (ax, ay), (bx, by) in pairwise([*outline, outline[0]]):
        if min(ax, bx) - 1e-9 <= x <= max(ax, bx) + 1e-9:
            found += [ay, by] if abs(bx - ax) < 1e-9 else [ay + (x - ax) / (bx - ax) * (by - ay)]
    return None if not found else max(found) if upper else min(found)


def nearest(one: Sequence[Point], other: Sequence[Point], kerf_mm: float) -> float:
    """How far across the other has to lie for a kerf between them, mm."""
    apart = 0.0
    for x in {p[0] for p in (*one, *other)}:
        top, foot = _reach(one, x, True), _reach(other, x, False)
        if top is not None and foot is not None:
            apart = max(apart, top - foot)
    return apart + kerf_mm


def _paired(a: int, b: int, pieces: Sequence[Flat], kerf_mm: float) -> Pair:
    one, other = pieces[a], pieces[b]
    apart = nearest(outline_of(one), half_turned(other), kerf_mm)
    return Pair(
        max(one.long_mm, other.long_mm), max(one.wide_mm, apart + other.wide_mm), one.turns and other.turns,
        (Lain(a, 0.0, 0.0, turned=False), Lain(b, 0.0, apart, turned=True)),
    )  # fmt: skip


def paired(pieces: Sequence[Flat], kerf_mm: float, largest: tuple[float, float]) -> list[Pair]:
    """All pieces, each once, in pairs where that saves and the pair still fits on the largest sheet."""
    tapered = [n for n, p in enumerate(pieces) if p.outline][:MOST]
    found = []
    tried: dict[tuple[object, ...], Pair | None] = {}
    for a, b in combinations(tapered, 2):
        alike = (pieces[a].outline, pieces[b].outline)
        if alike not in tried:
            pair = _paired(a, b, pieces, kerf_mm)
            tried[alike] = pair if _saves(pair, pieces[a], pieces[b], kerf_mm, largest) > SAVES else None
        if tried[alike] is not None:
            pair = _paired(a, b, pieces, kerf_mm)
            found.append((_saves(pair, pieces[a], pieces[b], kerf_mm, largest), a, b, pair))
    out, taken = [], set[int]()
    for _, a, b, pair in sorted(found, key=lambda f: (-f[0], f[1], f[2])):
        if not {a, b} & taken:
            out.append(pair)
            taken |= {a, b}
    alone = [n for n in range(len(pieces)) if n not in taken]
    out += [
        Pair(pieces[n].long_mm, pieces[n].wide_mm, pieces[n].turns, (Lain(n, 0.0, 0.0, turned=False),)) for n in alone
    ]
    return out


def _saves(pair: Pair, one: Flat, other: Flat, kerf_mm: float, largest: tuple[float, float]) -> float:
    """Share of two boxes that a pair saves; 0 where it fits on no sheet."""
    fits = pair.long_mm <= largest[0] + 1e-6 and pair.wide_mm <= largest[1] + 1e-6
    if not fits and not (pair.turns and pair.long_mm <= largest[1] + 1e-6 and pair.wide_mm <= largest[0] + 1e-6):
        return 0.0
    own = sum((p.long_mm + kerf_mm) * (p.wide_mm + kerf_mm) for p in (one, other))
    return 1 - (pair.long_mm + kerf_mm) * (pair.wide_mm + kerf_mm) / own
