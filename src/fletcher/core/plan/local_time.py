"""Minutes from the start of the work and local dates: windows follow the clock on the wall, waits do not.

Time is kept in minutes of UTC from the start. A working day is local: where clocks change, a window moves and a wait
does not.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from fletcher.core.plan.schema import DAYS, Hours


def zone_of(name: str) -> ZoneInfo:
    """A time zone by its name.

    Raises
    ------
    ValueError
        Where there is none of that name.
    """
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise ValueError(f"{name!r} is no time zone: as Europe/Berlin or UTC") from None


def moment(start: datetime, minutes: float, zone: ZoneInfo) -> datetime:
    """So many minutes after the start, told in local time."""
    return (start.astimezone(UTC) + timedelta(minutes=minutes)).astimezone(zone)


def windows(start: datetime, zone: ZoneInfo, hours: Sequence[Hours], days: int) -> tuple[tuple[int, int], ...]:
    """When hands may work from the start on, for so many days: from and to in whole minutes, in order, none within
    another; empty where no hours are given: at any time."""
    found = []
    first = start.astimezone(zone).date()
    for n in range(-1, days):
        day = first + timedelta(days=n)
        for h in hours:
            if DAYS[day.weekday()] in h.days and h.to_hour > h.from_hour:
                a, b = (_minutes(start, datetime.combine(day, time(), zone), hour) for hour in (h.from_hour, h.to_hour))
                if b > 0:
                    found.append((max(a, 0), b))
    merged: list[tuple[int, int]] = []
    for a, b in sorted(found):
        if merged and a <= merged[-1][1]:
            merged[-1] = merged[-1][0], max(b, merged[-1][1])
        else:
            merged.append((a, b))
    return tuple(merged)


def _minutes(start: datetime, midnight: datetime, hour: float) -> int:
    """Minutes from the start until a local hour of a day."""
    whole = int(60 * hour)
    local = (midnight + timedelta(days=whole // 1440)).replace(hour=whole // 60 % 24, minute=whole % 60)
    return round((local.astimezone(UTC) - start.astimezone(UTC)).total_seconds() / 60)
