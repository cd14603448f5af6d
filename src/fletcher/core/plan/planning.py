"""The plan of an airframe: its operations in the shop's hours, when it may fly, and how sure that is."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, datetime

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.effort import sum_of
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import lognormal
from fletcher.core.plan.gates import two_of_one_hand
from fletcher.core.plan.local_time import moment, windows, zone_of
from fletcher.core.plan.operations import UNKNOWN, heat_too_late, operations
from fletcher.core.plan.schedule import (
    FAR_MIN,
    After,
    Impossible,
    Schedule,
    Shop,
    Step,
    in_sequence,
    longest_chain,
    schedule,
)
from fletcher.core.plan.schema import BuildStep, Hours, Plan, Planned, ShopWish

DAYLIGHT = Hours(from_hour=9, to_hour=16)
"""[J] When a first flight has light, the year round; local time."""
DRAWS = 60
"""So many builds are drawn for the range of the finish."""
PACE = Range(0.6, 1.0, 1.7)
"""[J] How fast a glue sets against its typical time."""


def plan(airframe: Airframe, shop: ShopWish, now: datetime) -> Plan:
    """The plan of a checked airframe.

    Parameters
    ----------
    now
        When nothing else is said: the work begins then.

    Raises
    ------
    Impossible
        With what does not fit: hours, people, warmth, time zone.
    """
    try:
        zone = zone_of(shop.zone)
    except ValueError as error:
        raise Impossible(str(error)) from None
    begins = shop.begins or now
    begins = (begins if begins.tzinfo else begins.replace(tzinfo=UTC)).replace(second=0, microsecond=0)
    found = operations(airframe, shop)
    if not any(o.part_id for o in found):
        raise Impossible("nothing here is built: add a part that flies")
    has = {"boards": shop.boards, "clamps": shop.clamps}
    hours = windows(begins, zone, shop.hours, FAR_MIN // 1440)
    if shop.hours and not hours:
        raise Impossible("no working hours: each must end later than it begins")
    there = Shop(shop.people, has, hours)
    light = windows(begins, zone, [DAYLIGHT], FAR_MIN // 1440)
    steps = [step_of(o, light) for o in found]
    made = schedule(steps, there)
    low, high = _spread(found, steps, made, there)
    by_start = sorted(found, key=lambda o: (made.starts[o.key], o.key))

    def at(minutes: float) -> datetime:
        return moment(begins, minutes, zone)

    hands = {s.key: s.hands for s in steps}
    planned = [_planned(o, made.starts[o.key], hands[o.key], at) for o in by_start]
    return Plan(
        says=_says(made, at(made.finish), at(made.bound)),
        operations=by_start,
        planned=planned,
        flies=at(made.finish),
        flies_from=at(min(low, made.finish)),
        flies_to=at(max(high, made.finish)),
        proved=made.proved,
        not_before=at(made.bound),
        sessions=made.sessions,
        chain_min=longest_chain(steps),
        hands_min=sum_of([Range(o.minutes.low, o.minutes.typ, o.minutes.high) for o in found]),
        remarks=[*two_of_one_hand(airframe), *heat_too_late(airframe), *_unknown(found)],
    )


def step_of(o: BuildStep, light: tuple[tuple[int, int], ...]) -> Step:
    """An operation as the schedule takes it: typical minutes, held until it is fixed, the flight by daylight."""
    after = tuple(After(a.key, a.wait_min, a.within_min) for a in o.after)
    return Step(
        o.key, max(round(o.minutes.typ), 1), after, o.people, hold=o.hold, held=o.fixed_min if o.hold else 0,
        windows=light if o.key == "flight" else (),
    )  # fmt: skip


def _planned(o: BuildStep, start: int, hands: int, at: Callable[[float], datetime]) -> Planned:
    end = start + hands
    return Planned(
        key=o.key, begins=at(start), ends=at(end), sets=at(end + o.fixed_min) if o.fixed_min else None
    )  # fmt: skip


def _spread(
    found: Sequence[BuildStep], steps: Sequence[Step], made: Schedule, shop: Shop
) -> tuple[float, float]:  # fmt: skip
    """5 and 95 % of the finish: the order is kept, one pace is drawn for each glue and one for hands, and everything
    begins as early as it can."""
    rng = np.random.default_rng(1)
    glues = sorted({o.glue for o in found if o.glue})
    hand = _draws(Range(0.75, 1.0, 1.5), rng.standard_normal(DRAWS))
    paces = {g: _draws(PACE, rng.standard_normal(DRAWS)) for g in glues}
    by_key = {o.key: o for o in found}
    ends = []
    for n in range(DRAWS):
        drawn = [_drawn(s, by_key, float(hand[n]), {g: float(p[n]) for g, p in paces.items()}) for s in steps]
        starts = in_sequence(drawn, made.starts, shop)
        ends.append(max(starts[s.key] + s.hands for s in drawn))
    low, high = np.percentile(ends, [5, 95])
    return float(low), float(high)


def _draws(band: Range, normals: Array) -> Array:
    return np.asarray(lognormal(band, normals))


def _drawn(s: Step, found: Mapping[str, BuildStep], hand: float, paces: Mapping[str, float]) -> Step:
    own = paces.get(found[s.key].glue, 1.0)
    after = tuple(After(a.key, round(a.wait * paces.get(found[a.key].glue, 1.0)), a.within) for a in s.after)
    return Step(s.key, max(round(s.hands * hand), 1), after, s.people, s.use, s.hold, round(s.held * own), s.windows)


def _unknown(found: Sequence[BuildStep]) -> list[str]:
    open_ones = [o for o in found if o.glue == UNKNOWN]
    if not open_ones:
        return []
    many = "1 step has" if len(open_ones) == 1 else f"{len(open_ones)} steps have"
    return [f"{many} no glue entered, so a usual wait is taken. Enter the joints' glue on the Bench."]


def _says(made: Schedule, flies: datetime, bound: datetime) -> str:
    """The first sentence."""
    when = f"{flies:%A} {flies.day} {flies:%b}, {flies:%H:%M}"
    if made.proved:
        return f"First flight {when} at the earliest, by typical times."
    return f"First flight {when} by the best plan so far; not before {bound:%A} {bound.day} {bound:%b}, {bound:%H:%M}."
