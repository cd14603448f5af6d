"""What an airframe's time line counts: flights and minutes in all and since the last of each kind of event, and what
came after every repair."""

from __future__ import annotations

from collections.abc import Hashable, Mapping, Sequence
from datetime import datetime
from typing import TypeVar

from fletcher.core.common.model import Result
from fletcher.core.repair.events import SAME_MM, Event
from fletcher.core.repair.phrasing import place_of

Key = TypeVar("Key", bound=Hashable)

Flown = Sequence[tuple[datetime, int, float]]
"""When, how many flights, how many minutes; in any order."""


class Count(Result):
    """Flights and minutes since something, and when that was."""

    since: str
    when: datetime | None
    flights: int
    minutes: float


def counts(flown: Flown, last: Mapping[str, datetime]) -> list[Count]:
    """Flights in all, and since the last event of each kind in `last`."""
    told = [Count(since="in all", when=None, flights=sum(f for _, f, _ in flown), minutes=sum(m for *_, m in flown))]
    for kind, when in sorted(last.items(), key=lambda pair: pair[1], reverse=True):
        after = [(f, m) for at, f, m in flown if at > when]
        told.append(Count(since=kind, when=when, flights=sum(f for f, _ in after), minutes=sum(m for _, m in after)))
    return told


def followed(record: Sequence[tuple[Key, datetime, Event]], flown: Flown) -> dict[Key, str]:
    """What came after each repair of a record: flights until it broke there again, or flights that it held so far."""
    ordered = sorted(record, key=lambda r: r[1])
    told: dict[Key, str] = {}
    for n, (key, when, event) in enumerate(ordered):
        if event.kind != "repair":
            continue
        again = next((at for _, at, later in ordered[n + 1 :] if at > when and _there(event, later)), None)
        flights = sum(f for at, f, _ in flown if at > when and (again is None or at <= again))
        number = "1 flight" if flights == 1 else f"{flights} flights" if flights else "no flight"
        told[key] = f"broken there again after {number}" if again else f"{number} since, nothing there again"
    return told


def _there(repair: Event, later: Event) -> bool:
    """Whether damage lies within a repair or next to it."""
    if later.kind != "damage" or later.part_id != repair.part_id:
        return False
    places = [p for m in later.marks if (p := place_of(m)) is not None]
    return any(a - SAME_MM <= p <= b + SAME_MM for p in places for a, b in repair.stretches_mm)
