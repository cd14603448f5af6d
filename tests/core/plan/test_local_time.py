"""Waits and windows where the clocks change."""

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

import pytest

from fletcher.core.plan.local_time import moment, windows, zone_of
from fletcher.core.plan.schema import Hours

BERLIN = ZoneInfo("Europe/Berlin")


def test_a_cure_over_the_night_when_clocks_go_back():
    start = datetime(2026, 10, 24, 22, 0, tzinfo=BERLIN)
    assert moment(start, 900, BERLIN).replace(tzinfo=None) == datetime(2026, 10, 25, 12, 0)


def test_windows_follow_the_clock_on_the_wall():
    start = datetime(2026, 10, 24, 18, 0, tzinfo=BERLIN)  # a Saturday
    evening = Hours(from_hour=18, to_hour=22)
    assert windows(start, BERLIN, [evening], 3) == ((0, 240), (1500, 1740), (2940, 3180))
    spring = datetime(2026, 3, 28, 18, 0, tzinfo=BERLIN)
    assert windows(spring, BERLIN, [evening], 2) == ((0, 240), (1380, 1620))


def test_only_on_the_days_that_are_named_and_what_overlaps_is_one():
    start = datetime(2026, 5, 29, 20, 30, tzinfo=UTC)  # a Friday
    zone = ZoneInfo("UTC")
    hours = [Hours(days=("fri",), from_hour=18, to_hour=22), Hours(days=("sat", "sun"), from_hour=9.5, to_hour=24)]
    assert windows(start, zone, hours, 3) == ((0, 90), (780, 1650), (2220, 3090))
    twice = [Hours(from_hour=18, to_hour=21), Hours(from_hour=20, to_hour=22)]
    assert windows(start, zone, twice, 1) == ((0, 90),)
    assert windows(start, zone, [Hours(from_hour=8, to_hour=8)], 3) == ()


def test_a_zone_that_is_none_is_named():
    with pytest.raises(ValueError, match="'Mars/Olympus' is no time zone"):
        zone_of("Mars/Olympus")
