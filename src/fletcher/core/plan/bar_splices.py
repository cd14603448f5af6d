"""Where a bar that is longer than its stock is joined: as far out as stock allows, in the fewest lengths.

Pieces overlap: Σ length = L + Σ overlap. A bar that runs through both halves is centred on the root and never joined
there. Of the places that are allowed the outermost is taken that needs the fewest lengths of stock, all other pieces of
the same bar counted. Lengths and places mm, places measured from the start of the bar.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fletcher.core.document.airframe import Splice
from fletcher.core.plan.bars import Length, cut_bars

STEP_MM = 5.0
"""Places are tried in steps of so much."""
MOST = 4
"""Joints that a bar may have."""
LAP_SIZES = {"side_by_side": 20.0, "scarf": 12.0, "sleeved": 20.0}
"""[J] Least overlap over the size of the bar: its diameter side by side and in a sleeve (half on each side), its
height on a slope."""
SURE = 1.5
"""A joint that is strained bears so many times the force of the bar there."""


class NowhereToJoin(ValueError):  # noqa: N818 - shown to people as it is
    """No place that is allowed gives pieces that fit stock; the piece that is left, mm, and what is sold."""

    def __init__(self, mm: float, stock_mm: float) -> None:
        super().__init__(f"{mm:g} mm out of lengths of {stock_mm:g} mm: no place along it may be joined")
        self.mm, self.stock_mm = mm, stock_mm


@dataclass(frozen=True)
class Joined:
    """Where a bar is joined, and how many lengths of stock all its copies and the other pieces take."""

    at: tuple[float, ...]
    lengths: int


def elliptic_moment(along: float) -> float:
    """Moment over that at the root under elliptic lift, at a share of the half span (closed form of the integral)."""
    rest = math.sqrt(max(1 - along**2, 0.0))
    return rest**3 - 1.5 * along * (math.acos(along) - along * rest)


def least_overlap(how: str, size_mm: float, force_N: float, shear_MPa: float, wide_mm: float) -> float:
    """Overlap (mm) of a joint: so many sizes of the bar, and what carries `SURE` times the force by a glue of a shear
    strength over a width, 1.5 F/(τ b)."""
    return max(LAP_SIZES[how] * size_mm, SURE * force_N / (shear_MPa * wide_mm))


def pieces_between(start: float, end: float, splices: Sequence[Splice], centred: bool = False) -> list[float]:
    """Lengths of the pieces of a bar from its start on, mm. Half of an overlap comes from either side, a sleeve butts,
    a split that is bound is no joint. A bar `centred` on the root runs as far to the other side."""
    ends, pieces = start, []
    for s in sorted((s for s in splices if s.how != "wrapped"), key=lambda s: s.at_mm):
        half = 0.0 if s.how == "sleeved" else s.overlap_mm / 2
        pieces.append(s.at_mm + half - ends)
        ends = s.at_mm - half
    pieces.append(end - ends)
    return [2 * pieces[0], *pieces[1:]] if centred else pieces


def _cut_at(long: float, places: Sequence[float], overlap: float, how: str, centred: bool) -> list[float]:
    joints = [Splice(at_mm=p, overlap_mm=overlap, how="sleeved" if how == "sleeved" else "side_by_side")
              for p in places]  # fmt: skip
    found = pieces_between(0.0, long, joints, centred)
    return [*found, *found[1:]] if centred else found


def join(
    long: float, copies: Sequence[float], stock_mm: float, overlap: float, allowed: Sequence[float],
    others: Mapping[float, int], kerf_mm: float = 1.0, *, how: str = "side_by_side", centred: bool = False,
) -> Joined:  # fmt: skip
    """Where a bar is joined.

    Parameters
    ----------
    long
        Its length; `centred`: from the root to one end.
    copies
        How much nearer the root each copy is joined: an upper and a lower one never at one place.
    stock_mm, overlap
        What is sold, and the overlap of a joint.
    allowed
        Places that may be joined, ascending.
    others
        Other pieces of the same bar, by length and how many.

    Raises
    ------
    NowhereToJoin
        Where no place does.
    """
    best: Joined | None = None
    for first in reversed(allowed):
        places = _further(first, long, copies, stock_mm, overlap, allowed, how, centred)
        if places is None:
            continue
        pieces = Counter(others)
        for less in copies:
            pieces.update(round(mm, 1) for mm in _cut_at(long, [p - less for p in places], overlap, how, centred))
        lengths = len(cut_bars(pieces, [Length(stock_mm, 1.0)], kerf_mm).cuts)
        if best is None or (len(places), lengths) < (len(best.at), best.lengths):
            best = Joined(tuple(places), lengths)
    if best is None:
        raise NowhereToJoin(2 * long if centred else long, stock_mm)
    return best


def _further(
    first: float, long: float, copies: Sequence[float], stock_mm: float, overlap: float, allowed: Sequence[float],
    how: str, centred: bool,
) -> list[float] | None:  # fmt: skip
    """Places from a first one on, each as far out as stock allows; None where a piece stays too long."""
    places = [first]
    while True:
        if any(p - less not in allowed for p in places for less in copies):
            return None
        pieces = [_cut_at(long, [p - less for p in places], overlap, how, centred) for less in copies]
        if all(mm <= stock_mm + 1e-6 for cut in pieces for mm in cut):
            return places
        rest = [mm for cut in pieces for mm in (cut[: len(places)])]
        if len(places) == MOST or any(mm > stock_mm + 1e-6 for mm in rest):
            return None
        lap = 0.0 if how == "sleeved" else overlap
        beyond = [p for p in allowed if places[-1] < p <= places[-1] + stock_mm - lap + 1e-6]
        if not beyond:
            return None
        places.append(beyond[-1])
