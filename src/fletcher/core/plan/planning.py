"""The plan of an airframe: its operations in the shop's hours, when it may fly, and how sure that is."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Literal
from zoneinfo import ZoneInfo

import numpy as np

from fletcher.core.adhesion.readiness import State
from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.effort import sum_of
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import lognormal
from fletcher.core.plan.changes import changed, concerning, put_off, told
from fletcher.core.plan.clearance import too_near
from fletcher.core.plan.gates import two_of_one_hand
from fletcher.core.plan.local_time import moment, windows, zone_of
from fletcher.core.plan.operations import UNKNOWN, heat_too_late, operations
from fletcher.core.plan.progress import Fact, facts, pace, sets_in, warmths, with_rework
from fletcher.core.plan.schedule import (
    FAR_MIN,
    After,
    Impossible,
    Schedule,
    Shop,
    Step,
    in_boxes,
    in_sequence,
    longest_chain,
    schedule,
)
from fletcher.core.plan.schema import BuildStep, GateAt, Hours, Plan, Planned, ShopWish
from fletcher.core.plan.warm_box import NAME, WarmCure, box_for, put_in, warm_cures
from fletcher.core.plan.work import Work

DAYLIGHT = Hours(from_hour=9, to_hour=16)
"""[J] When a first flight has light, the year round; local time."""
DRAWS = 60
"""So many builds are drawn for the range of the finish."""
PACE = Range(0.6, 1.0, 1.7)
"""[J] How fast a glue sets against its typical time."""


@dataclass(frozen=True)
class _Time:
    """Minutes from a moment, in the zone in which its clocks hang; what was done lies before it."""

    begins: datetime
    zone: ZoneInfo

    def at(self, minutes: float) -> datetime:
        """A moment so many minutes after the start."""
        return moment(self.begins, minutes, self.zone)

    def minute(self, when: datetime) -> int:
        """Minutes from the start to a moment."""
        return round((when - self.begins).total_seconds() / 60)


def plan(
    airframe: Airframe, shop: ShopWish, now: datetime, work: Work = Work(),  # noqa: B008 - frozen
    mending: Sequence[BuildStep] | None = None,
) -> Plan:  # fmt: skip
    """The plan of a checked airframe.

    Parameters
    ----------
    now
        When nothing else is said: the work begins then. Once something was pressed, nothing new begins before it.
    work
        What the builder changed, and what was done.
    mending
        Steps of a repair; None: those that build the whole airframe.

    Raises
    ------
    Impossible
        With what does not fit: hours, people, warmth, time zone, a change.
    """
    try:
        zone = zone_of(shop.zone)
    except ValueError as error:
        raise Impossible(str(error)) from None
    known = facts(work.presses)
    aware = now if now.tzinfo else now.replace(tzinfo=UTC)
    time = _time(shop, known, zone, aware)
    whole = operations(airframe, shop) if mending is None else list(mending)
    found, remarks = changed(whole, concerning(work.changes, None if mending is None else {o.key for o in whole}))
    if not any(o.part_id for o in found):
        raise Impossible("nothing here is built: add a part that flies")
    found, said = with_rework(found, known, aware)
    log = warmths(work.presses)
    cures = warm_cures(found, airframe, shop)
    in_box = frozenset(k for k in cures if k in known and known[k].box_C is not None and known[k].done is not None)
    warm_C = shop.warm_box.warm_C if shop.warm_box is not None else 0.0
    found = put_in(found, cures, in_box, warm_C)
    found = [_as_it_set(o, known.get(o.key), found, known, log, shop) for o in found]
    hours = windows(time.begins, zone, shop.hours, FAR_MIN // 1440)
    if shop.hours and not hours:
        raise Impossible("no working hours: each must end later than it begins")
    has = {"boards": shop.boards, "clamps": shop.clamps, NAME: shop.warm_box.places if shop.warm_box else 0}
    there = Shop(shop.people, has, hours)
    light = windows(time.begins, zone, [DAYLIGHT], FAR_MIN // 1440)
    own = pace(found, known)
    off = {k: max(time.minute(at), 0) for k, at in put_off(work.changes).items()}
    begun = {o.key: _begun(o, known[o.key], time) for o in found if _has_begun(known.get(o.key))}
    steps = [_fact(step_of(o, light, own, off.get(o.key, 0)), o, known.get(o.key), begun, time) for o in found]
    steps = [_with_box(s, found, cures, in_box, shop, begun) for s in steps]
    steps, made, late = _in_time(steps, there, begun)
    steps, found = in_boxes(steps, made.warm), put_in(found, cures, made.warm, warm_C)
    low, high = _spread(found, steps, made, there, begun)
    by_start = sorted(found, key=lambda o: (made.starts[o.key], o.key))
    hands = {s.key: s.hands for s in steps}
    planned = [_planned(o, made.starts[o.key], hands[o.key], time.at, known.get(o.key)) for o in by_start]
    return Plan(
        says=_says(made, time.at(made.finish), time.at(made.bound)),
        operations=by_start,
        planned=planned,
        done=sum(p.state == "done" for p in planned),
        flies=time.at(made.finish),
        flies_from=time.at(min(low, made.finish)),
        flies_to=time.at(max(high, made.finish)),
        proved=made.proved,
        not_before=time.at(made.bound),
        sessions=made.sessions,
        chain_min=longest_chain(steps),
        hands_min=sum_of([Range(o.minutes.low, o.minutes.typ, o.minutes.high) for o in found]),
        remarks=[*remarks, *said, *late, *(_of_the_drawing(airframe) if mending is None else ()), *_unknown(found)],
    )


def _in_time(steps: list[Step], shop: Shop, begun: Mapping[str, int]) -> tuple[list[Step], Schedule, list[str]]:
    """The schedule. What was coated is closed out of hours too; where hands are not free in time the plan says so
    instead of failing."""
    free = [replace(s, windows=((0, FAR_MIN),)) if _airing(s, begun) else s for s in steps]
    try:
        return free, schedule(free, shop, begun), []
    except Impossible:
        waiting = [s for s in free if _airing(s, begun)]
        if not waiting:
            raise
    given_up = [replace(s, after=tuple(replace(a, within=None) for a in s.after)) for s in waiting]
    by_key = {s.key: s for s in given_up}
    steps = [by_key.get(s.key, s) for s in free]
    said = [f"{s.name}: no hands are free before its open time is over. Close it now, or coat again." for s in given_up]
    return steps, schedule(steps, shop, begun), said


def _airing(s: Step, begun: Mapping[str, int]) -> bool:
    """Whether a step has to follow in time what was done already."""
    return s.key not in begun and any(a.within is not None and a.key in begun for a in s.after)


def _of_the_drawing(airframe: Airframe) -> Iterator[str]:
    """What the document itself has wrong for whoever builds from it."""
    yield from two_of_one_hand(airframe)
    yield from heat_too_late(airframe)
    yield from too_near(airframe)


def _time(shop: ShopWish, known: Mapping[str, Fact], zone: ZoneInfo, now: datetime) -> _Time:
    """The work begins when the shop says, or now; what goes on already goes on from now."""
    begins = shop.begins or now
    begins = begins if begins.tzinfo else begins.replace(tzinfo=UTC)
    return _Time((max(begins, now) if known else begins).replace(second=0, microsecond=0), zone)


def _has_begun(f: Fact | None) -> bool:
    return f is not None and (f.begun is not None or f.done is not None)


def _begun(o: BuildStep, f: Fact, time: _Time) -> int:
    """The minute a step began: what was only ticked took as long as the table says."""
    if f.begun is not None:
        return time.minute(f.begun)
    assert f.done is not None
    return time.minute(f.done) - max(round(o.minutes.typ), 1)


def _fact(step: Step, o: BuildStep, f: Fact | None, begun: Mapping[str, int], time: _Time) -> Step:
    """A step as long as it took; one that runs at least until now."""
    if f is None or o.key not in begun:
        return step
    if f.done is not None:
        return replace(step, hands=max(time.minute(f.done) - begun[o.key], 1), windows=())
    return replace(step, hands=max(step.hands + round(f.more), -begun[o.key]), windows=())


def _as_it_set(
    o: BuildStep, f: Fact | None, steps: Sequence[BuildStep], known: Mapping[str, Fact],
    log: Sequence[tuple[datetime, float]], shop: ShopWish,
) -> BuildStep:  # fmt: skip
    """A step whose waits are those of the warmth that there was."""
    by_key = {s.key: s for s in steps}
    after = []
    for a in o.after:
        glued, done = by_key.get(a.key), known[a.key].done if a.key in known else None
        if (
            glued is not None
            and glued.box_C is None
            and done is not None
            and log
            and a.wait_min in (glued.fixed_min, glued.loaded_min)
        ):
            state: State = "fixed" if a.wait_min == glued.fixed_min else "loaded"
            a = a.model_copy(update={"wait_min": sets_in(glued, state, done, log, shop.warmth_C)})
        after.append(a)
    waits = {"after": after}
    if f is not None and f.done is not None and o.glue and log and o.box_C is None:
        fixed = sets_in(o, "fixed", f.done, log, shop.warmth_C)
        waits |= {"fixed_min": fixed, "loaded_min": sets_in(o, "loaded", f.done, log, shop.warmth_C)}  # type: ignore[dict-item]
    return o.model_copy(update=waits)


def step_of(o: BuildStep, light: tuple[tuple[int, int], ...], own_pace: float = 1.0, not_before: int = 0) -> Step:
    """An operation as the schedule takes it: typical minutes, held until it is fixed, the flight by daylight."""
    after = tuple(After(a.key, a.wait_min, a.within_min) for a in o.after)
    hands = max(round(own_pace * o.minutes.typ), 1) if o.minutes.high > 0 else 0
    return Step(
        o.key, hands, after, o.people, hold=o.hold, held=o.fixed_min if o.hold else 0,
        windows=light if o.daylight else (), not_before=not_before, title=told(o),
    )  # fmt: skip


def _with_box(
    s: Step, found: Sequence[BuildStep], cures: Mapping[str, WarmCure], in_box: frozenset[str], shop: ShopWish,
    begun: Mapping[str, int],
) -> Step:  # fmt: skip
    """A step with its place in the warm box: offered, or taken already; and what it waits for after what may lie
    there."""
    by_key = {o.key: o for o in found}
    waits = {a.key: a for a in by_key[s.key].after}
    after = tuple(
        replace(a, warm=cures[a.key].wait(by_key[a.key], waits[a.key]))
        if a.key in cures and a.key not in begun and a.key in waits
        else a
        for a in s.after
    )
    s = replace(s, after=after)
    if s.key not in cures or shop.warm_box is None:
        return s
    box = box_for(cures[s.key], shop.warm_box)
    if s.key in begun:
        return replace(s, boxed=box) if s.key in in_box else s
    return replace(s, box=box)


def _planned(o: BuildStep, start: int, hands: int, at: Callable[[float], datetime], f: Fact | None) -> Planned:
    end = start + hands
    state: Literal["open", "running", "done"] = "open"
    if _has_begun(f):
        state = "done" if f is not None and f.done is not None else "running"
    gates = dict(f.gates) if f is not None else {}
    return Planned(
        key=o.key, begins=at(start), ends=at(end), sets=at(end + o.fixed_min) if o.fixed_min else None,
        loaded=at(end + o.loaded_min) if o.loaded_min else None, state=state,
        gates=tuple(gates.get(g.key) or GateAt(key=g.key, stands="open") for g in o.gates),
        notes=f.notes if f is not None else (),
    )  # fmt: skip


def _spread(
    found: Sequence[BuildStep], steps: Sequence[Step], made: Schedule, shop: Shop, begun: Mapping[str, int]
) -> tuple[float, float]:  # fmt: skip
    """5 and 95 % of the finish: the order is kept, one pace is drawn for each glue and one for hands, and everything
    begins as early as it can; what is done stays."""
    rng = np.random.default_rng(1)
    glues = sorted({o.glue for o in found if o.glue})
    hand = _draws(Range(0.75, 1.0, 1.5), rng.standard_normal(DRAWS))
    paces = {g: _draws(PACE, rng.standard_normal(DRAWS)) for g in glues}
    by_key = {o.key: o for o in found}
    ends = []
    for n in range(DRAWS):
        drawn = [
            s if s.key in begun else _drawn(s, by_key, float(hand[n]), {g: float(p[n]) for g, p in paces.items()})
            for s in steps
        ]
        starts = in_sequence(drawn, made.starts, shop, begun)
        ends.append(max(starts[s.key] + s.hands for s in drawn))
    low, high = np.percentile(ends, [5, 95])
    return float(low), float(high)


def _draws(band: Range, normals: Array) -> Array:
    return np.asarray(lognormal(band, normals))


def _drawn(s: Step, found: Mapping[str, BuildStep], hand: float, paces: Mapping[str, float]) -> Step:
    own = paces.get(found[s.key].glue, 1.0)
    after = tuple(After(a.key, round(a.wait * paces.get(found[a.key].glue, 1.0)), a.within) for a in s.after)
    boxed = replace(s.boxed, minutes=max(round(s.boxed.minutes * own), 1)) if s.boxed is not None else None
    return replace(s, hands=max(round(s.hands * hand), 1), after=after, held=round(s.held * own), boxed=boxed)


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
