"""What the invented group wrote down of its airframes besides the crash: building steps, flights, wear."""

from __future__ import annotations

from datetime import UTC, datetime

from fletcher.core.repair.events import Event, Flight


def _flown(day: int, month: int, count: int, minutes: float, wind: float, says: str) -> tuple[datetime, Event]:
    flight = Flight(count=count, minutes=minutes, wind_m_s=wind, battery="3 cells, 2200 mAh")
    return datetime(2026, month, day, 9, 30, tzinfo=UTC), Event(kind="flight", says=says, flight=flight)


def post_flights() -> tuple[tuple[datetime, Event], ...]:
    """Flights of the airframe that met the fence post, the oldest first."""
    return (
        _flown(23, 8, 4, 52, 3, "Trim flights over the salt marsh"),
        _flown(6, 9, 3, 41, 5, "Tern island, first count"),
        _flown(27, 9, 5, 66, 4, "After the mended nose: flies as before"),
        _flown(18, 10, 6, 83, 6, "Autumn count, gusty"),
        (datetime(2026, 10, 18, 13, 0, tzinfo=UTC), Event(kind="wear", says="Wing band changed, it had cracks")),
    )  # fmt: skip


def warden_build() -> tuple[tuple[datetime, Event], ...]:
    """Building steps of the first airframe, the oldest first."""
    steps = (
        (3, "wing", 2, "Cores cut with the hot wire, both halves from one block"),
        (5, "wing", 10, "Rods glued into their slots, 12 h under weights"),
        (8, "wing", 260, "Soft spot pressed while handling: filled and sanded"),
    )
    return tuple(
        (datetime(2026, 11, day, 18, 0, tzinfo=UTC), Event(kind="build", part_id=part, at_mm=at, says=says))
        for day, part, at, says in steps
    )
