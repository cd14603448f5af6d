"""Stock comes in lengths: which bars of a part are longer than what is sold, and where they could be joined."""

from __future__ import annotations

import itertools

from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.section.elements import Elements, PlacedBar


def longest_piece(bar: PlacedBar) -> float:
    """The longest piece of stock that a bar with its splices is made of, mm. A lap takes half of its overlap from the
    piece on either side."""
    joints = sorted((s for s in bar.splices if s.how != "wrapped"), key=lambda s: s.at_mm)
    ends = [(bar.start, 0.0), *((s.at_mm, s.overlap_mm / 2) for s in joints), (bar.end, 0.0)]
    return max(b - a + lap_a + lap_b for (a, lap_a), (b, lap_b) in itertools.pairwise(ends))


def too_long(elements: Elements) -> list[str]:
    """Bars that no piece of stock reaches along, with what to do."""
    told: dict[str, None] = {}
    for bar in elements.bars:
        sold = bar.stock.stock_length_mm
        needs = longest_piece(bar)
        if sold is not None and needs > sold + 0.5:
            told[
                f"{bar.stock.name} comes {in_mm(sold, F0)} long and this one is {in_mm(needs, F0)}: splice "
                "it away from the "
                "root, or take longer stock."
            ] = None
    return list(told)
