"""What one airframe's weighings teach of the builder's hand, for the next airframe.

The posterior of a hand's cause, z with the standard deviation s, holds the information of its weighings beside the
standard normal it began with: precision p = 1/s² − 1 at the value z/(s²·p). Airframes are independent of each other.
"""

from __future__ import annotations

from collections.abc import Iterable

from fletcher.core.balance.forecast import Known
from fletcher.core.balance.ledger import ledger
from fletcher.core.balance.weighin import weigh_in
from fletcher.core.document.airframe import Airframe

HAND = "your "
"""Causes that begin so are about the builder and not about a block or a roll."""
_NOTHING = 1e-3


def lessons_of(airframe: Airframe) -> tuple[Known, ...]:
    """What the weighings of a checked airframe teach of the builder's hand."""
    entries = ledger(airframe)
    if not airframe.weighings or not entries:
        return ()
    found = []
    for cause, (z, sd) in weigh_in(entries, airframe.weighings).forecast.cause_values().items():
        precision = 1 / sd**2 - 1
        if cause.startswith(HAND) and precision > _NOTHING:
            found.append(Known(cause, z / sd**2 / precision, precision**-0.5))
    return tuple(found)


def together(lessons: Iterable[Iterable[Known]]) -> list[Known]:
    """Lessons of several airframes, one for each cause."""
    sums: dict[str, tuple[float, float]] = {}
    for lesson in lessons:
        for one in lesson:
            weight = 1 / one.sd**2
            total, value = sums.get(one.cause, (0.0, 0.0))
            sums[one.cause] = total + weight, value + weight * one.value
    return [Known(cause, value / total, total**-0.5) for cause, (total, value) in sums.items()]
