"""Cutting bars: which pieces come out of which length of stock, so that what must be bought costs least.

min Σ c_p x_p, Σ a_ip x_p ≥ d_i, x whole, over cutting patterns p; a pattern fits where Σ(l + k) ≤ S + k, k the kerf.
All patterns where they are few, else those that column generation finds (Gilmore and Gomory 1961: duals of the linear
relaxation price a knapsack). Own lengths cost nothing and are there once each. Whole numbers by HiGHS (`scipy.milp`);
first-fit decreasing stands where that finds nothing better. Lengths mm, to a tenth.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, linprog, milp
from scipy.sparse import csr_array

from fletcher.core.common.arrays import Array

MOST_PATTERNS = 20_000
"""So many patterns are listed in full; beyond that they are generated."""
_OPENED = 1e-4
"""What opening a length of stock counts beside its cost: of equals, fewer lengths are opened."""
SECONDS = 1.5
KEPT_LEAST_MM, KEPT_SHARE = 120.0, 0.1
"""An offcut goes back to stock if it is at least so long, and this share of the stock that it is of."""


@dataclass(frozen=True)
class Length:
    """A length of stock: mm, cost, and how many there are; None: as many as are bought."""

    mm: float
    cost: float = 0.0
    there: int | None = None


@dataclass(frozen=True)
class Cut:
    """One length of stock with the pieces that come out of it, mm, the longest first."""

    stock: Length
    pieces: tuple[float, ...]

    def left_mm(self, kerf_mm: float) -> float:
        """What is left of it, after the last cut."""
        used = sum(self.pieces) + kerf_mm * len(self.pieces)
        return max(self.stock.mm - used, 0.0)


@dataclass(frozen=True)
class Cutting:
    """What is cut out of what, what has to be bought costs, and the least number of lengths that any cutting needs."""

    cuts: tuple[Cut, ...]
    cost: float
    least: int

    @property
    def bought(self) -> Counter[float]:
        """How many lengths of each kind are bought."""
        return Counter(c.stock.mm for c in self.cuts if c.stock.there is None)


class TooLong(ValueError):  # noqa: N818 - shown to people as it is
    """A piece that no stock yields."""

    def __init__(self, mm: float, longest: float) -> None:
        super().__init__(f"{mm:g} mm is longer than any stock, at most {longest:g} mm: splice it")
        self.mm, self.longest = mm, longest


def cut_bars(pieces: Mapping[float, int], stock: Sequence[Length], kerf_mm: float = 1.0) -> Cutting:
    """The cheapest cutting of pieces, by length and how many.

    Raises
    ------
    TooLong
        Where a piece is longer than all stock.
    """
    wanted = sorted(((mm, n) for mm, n in pieces.items() if n > 0), reverse=True)
    if not wanted:
        return Cutting((), 0.0, 0)
    longest = max(s.mm for s in stock)
    if wanted[0][0] > longest + 1e-9:
        raise TooLong(wanted[0][0], longest)
    whole = sum(n * (mm + kerf_mm) for mm, n in wanted)
    least = math.ceil(whole / (longest + kerf_mm) - 1e-9)
    naive = first_fit(wanted, stock, kerf_mm)
    better = _solved(wanted, stock, kerf_mm)
    best = min((c for c in (naive, better) if c is not None), key=lambda c: (round(_cost(c), 6), len(c)))
    return Cutting(tuple(best), _cost(best), least)


def _cost(cuts: Sequence[Cut]) -> float:
    return sum(c.stock.cost for c in cuts)


def first_fit(
    wanted: Sequence[tuple[float, int]], stock: Sequence[Length], kerf_mm: float
) -> list[Cut] | None:  # fmt: skip
    """The longest piece first, into the first length that still holds it; own lengths first, the shortest that fits.
    None where what there is does not do."""
    open_cuts: list[tuple[Length, list[float]]] = []
    own = sorted((s for s in stock if s.there is not None for _ in range(s.there)), key=lambda s: s.mm)
    for mm in (mm for mm, n in wanted for _ in range(n)):
        for _, taken in (cut for cut in open_cuts if _fits([*cut[1], mm], cut[0].mm, kerf_mm)):
            taken.append(mm)
            break
        else:
            fits = [s for s in own if s.mm >= mm] or sorted(
                (s for s in stock if s.there is None and s.mm >= mm), key=lambda s: s.cost
            )
            if not fits:
                return None
            if fits[0].there is not None:
                own.remove(fits[0])
            open_cuts.append((fits[0], [mm]))
    return [Cut(s, tuple(taken)) for s, taken in open_cuts]


def _fits(pieces: Sequence[float], stock_mm: float, kerf_mm: float) -> bool:
    return sum(pieces) + kerf_mm * (len(pieces) - 1) <= stock_mm + 1e-9


def _solved(wanted: Sequence[tuple[float, int]], stock: Sequence[Length], kerf_mm: float) -> list[Cut] | None:
    lengths = [mm for mm, _ in wanted]
    need = np.array([n for _, n in wanted], dtype=float)
    patterns = _all_patterns(wanted, stock, kerf_mm)
    if patterns is None:
        patterns = _generated(lengths, need, stock, kerf_mm)
    a = np.array([p for _, p in patterns], dtype=float).T
    cost = np.array([stock[s].cost + _OPENED for s, _ in patterns])
    rows, upper = [], []
    for n, s in enumerate(stock):
        if s.there is not None:
            rows.append([1.0 if k == n else 0.0 for k, _ in patterns])
            upper.append(float(s.there))
    limits = [LinearConstraint(csr_array(a), need, np.inf)]
    if rows:
        limits.append(LinearConstraint(csr_array(np.array(rows)), -np.inf, np.array(upper)))
    found = milp(cost, constraints=limits, integrality=np.ones(len(cost)), bounds=Bounds(0, np.inf),
                 options={"time_limit": SECONDS})  # fmt: skip
    if found.x is None:
        return None
    return _without_surplus(patterns, np.round(found.x).astype(int), lengths, need, stock)


def _without_surplus(
    patterns: Sequence[tuple[int, tuple[int, ...]]], times: Array, lengths: Sequence[float], need: Array,
    stock: Sequence[Length],
) -> list[Cut]:  # fmt: skip
    """The lengths that are opened, and of what a pattern yields only what is wanted."""
    left = need.astype(int)
    cuts = []
    for (s, pattern), many in zip(patterns, times, strict=True):
        for _ in range(int(many)):
            taken: list[float] = []
            for n, count in enumerate(pattern):
                take = min(count, int(left[n]))
                left[n] -= take
                taken += [lengths[n]] * take
            if taken:
                cuts.append(Cut(stock[s], tuple(taken)))
    return cuts


def _all_patterns(
    wanted: Sequence[tuple[float, int]], stock: Sequence[Length], kerf_mm: float
) -> list[tuple[int, tuple[int, ...]]] | None:  # fmt: skip
    """Every pattern to which nothing more can be added; None where they are too many."""
    found: list[tuple[int, tuple[int, ...]]] = []
    for n, s in enumerate(stock):
        for pattern in _patterns(wanted, s.mm + kerf_mm, kerf_mm):
            if any(pattern):
                found.append((n, pattern))
            if len(found) > MOST_PATTERNS:
                return None
    return found


def _patterns(wanted: Sequence[tuple[float, int]], room: float, kerf_mm: float) -> Iterator[tuple[int, ...]]:
    """Patterns that fill a room, each piece with its kerf, as many of the first length as may be first."""
    if not wanted:
        yield ()
        return
    (mm, most), *rest = wanted
    for count in range(min(most, int((room + 1e-9) // (mm + kerf_mm))), -1, -1):
        left = room - count * (mm + kerf_mm)
        for more in _patterns(rest, left, kerf_mm):
            pattern = (count, *more)
            if count == most or left - _used(more, rest, kerf_mm) < mm + kerf_mm - 1e-9:
                yield pattern


def _used(pattern: Sequence[int], wanted: Sequence[tuple[float, int]], kerf_mm: float) -> float:
    return sum(n * (mm + kerf_mm) for n, (mm, _) in zip(pattern, wanted, strict=True))


def _generated(
    lengths: Sequence[float], need: Array, stock: Sequence[Length], kerf_mm: float
) -> list[tuple[int, tuple[int, ...]]]:  # fmt: skip
    """Patterns by column generation, beginning with each length by itself."""
    patterns: list[tuple[int, tuple[int, ...]]] = []
    for s, one in enumerate(stock):
        for n, mm in enumerate(lengths):
            if mm <= one.mm:
                many = min(int((one.mm + kerf_mm) // (mm + kerf_mm)), int(need[n]))
                patterns.append((s, tuple(many if k == n else 0 for k in range(len(lengths)))))
    for _ in range(200):
        a = np.array([p for _, p in patterns], dtype=float).T
        cost = np.array([stock[s].cost + _OPENED for s, _ in patterns])
        rows = [[1.0 if k == n else 0.0 for k, _ in patterns] for n, s in enumerate(stock) if s.there is not None]
        own = [float(s.there) for s in stock if s.there is not None]
        upper = np.vstack([-a, *([np.array(rows)] if rows else [])])
        found = linprog(cost, A_ub=upper, b_ub=np.concatenate([-need, own]), method="highs")
        worth = -found.ineqlin.marginals[: len(lengths)]
        price = dict(zip([n for n, s in enumerate(stock) if s.there is not None],
                         -found.ineqlin.marginals[len(lengths) :], strict=True))  # fmt: skip
        fresh = []
        for n, length in enumerate(stock):
            value, pattern = _knapsack(lengths, need, worth, length.mm + kerf_mm, kerf_mm)
            if value > length.cost + _OPENED + price.get(n, 0.0) + 1e-7 and (n, pattern) not in patterns:
                fresh.append((n, pattern))
        if not fresh:
            break
        patterns += fresh
    return patterns


def _knapsack(
    lengths: Sequence[float], need: Array, worth: Array, room: float, kerf_mm: float
) -> tuple[float, tuple[int, ...]]:  # fmt: skip
    """The pattern worth most, in tenths of a millimetre, each length as often as it is wanted."""
    size = int(10 * room + 1e-6)
    best = np.zeros(size + 1)
    taken: list[Array] = []
    for n, mm in enumerate(lengths):
        step = math.ceil(10 * (mm + kerf_mm) - 1e-6)
        count = np.zeros(size + 1)
        base = best.copy()
        for many in range(1, min(int(need[n]), size // step) + 1):
            better = base[: size + 1 - many * step] + many * worth[n] > best[many * step :] + 1e-12
            at = np.nonzero(better)[0] + many * step
            best[at] = base[at - many * step] + many * worth[n]
            count[at] = many
        taken.append(count)
    pattern = [0] * len(lengths)
    filled = int(np.argmax(best))
    for n in range(len(lengths) - 1, -1, -1):
        pattern[n] = int(taken[n][filled])
        filled -= pattern[n] * math.ceil(10 * (lengths[n] + kerf_mm) - 1e-6)
    return float(best.max()), tuple(pattern)


def naive(pieces: Sequence[float], stock_mm: float, kerf_mm: float = 1.0) -> int:
    """Lengths that are opened by somebody who takes pieces in the order of the list and a new length whenever the one
    in hand is too short."""
    used, left = 0, 0.0
    for mm in pieces:
        if mm > left + 1e-9:
            used, left = used + 1, stock_mm
        left -= mm + kerf_mm
    return used


def goes_back(left_mm: float, stock_mm: float) -> bool:
    """Whether an offcut goes back to stock."""
    return left_mm >= max(KEPT_LEAST_MM, KEPT_SHARE * stock_mm)
