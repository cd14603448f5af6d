"""When each operation begins, so that the whole is done soonest: people, windows, what is held while glue sets.

Integer minutes from now. Starts s_i lie where hands stay inside one window; hands of p people are one cumulative
resource; what an operation holds is held from its start until it is free. Precedences carry waits, and may carry a
latest start (open time). Levels: earliest finish; then, at that finish, fewest sessions, an operation following another
of the same run within `GAP_MIN` [J]; last, everything as early as that order allows. What may cure in a warm box does
so where that brings the finish forward: an optional interval of the box, entered at once. Solved by CP-SAT (OR-Tools;
Perron & Didier), from the schedule by longest tail first as a hint. Bounds: the longest chain, and all hands over all
people, are never beaten.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace

from ortools.sat.python import cp_model

GAP_MIN = 10
"""[J] Hands that rest no longer than this are still at one session."""
SECONDS = (1.8, 0.8)
"""For the earliest finish, and for the fewest sessions."""
LAST_SECONDS = 8.0
"""For any schedule at all, where none was found in that time and the one by longest tail breaks a latest start."""
WORK, PATIENCE = 0.1, 3.0
"""Work of the solver by its own count for each of these seconds, so that the same question has the same answer; and how
many of them a slow machine may take."""
FAR_MIN = 60 * 1440
"""Nothing is planned later than so many minutes from now."""


class Impossible(ValueError):  # noqa: N818 - shown to people as it is
    """No schedule at all: the message names the operation, what it needs and what there is."""


@dataclass(frozen=True)
class After:
    """An operation waits for another: until `wait` minutes after its hands ended, and at most `within` minutes;
    `warm` minutes where that other one went into a warm box."""

    key: str
    wait: int = 0
    within: int | None = None
    warm: int | None = None


@dataclass(frozen=True)
class Box:
    """A place in a warm box that an operation may take once its hands ended, for so many minutes; for `attended` of
    them somebody has to be in the house."""

    name: str
    minutes: int
    attended: int = 0


@dataclass(frozen=True)
class Step:
    """An operation: minutes of `hands` of so many `people`; what it uses while hands are at it, and what it holds from
    its start until `held` minutes after its hands ended."""

    key: str
    hands: int
    after: tuple[After, ...] = ()
    people: int = 1
    use: Mapping[str, int] = field(default_factory=dict)
    hold: Mapping[str, int] = field(default_factory=dict)
    held: int = 0
    windows: tuple[tuple[int, int], ...] = ()
    """Its own, instead of the shop's: a flight needs daylight, not a bench."""
    not_before: int = 0
    title: str = ""
    """As a reader knows it; empty: its key."""
    box: Box | None = None
    """It may go into a warm box; None: it stays in the room."""
    boxed: Box | None = None
    """It goes there, or went."""

    @property
    def name(self) -> str:
        """As a message calls it."""
        return self.title or self.key


@dataclass(frozen=True)
class Shop:
    """Who and what is there: people, how many of each tool, and when hands may work: windows of minutes from now,
    empty at any time. `busy` tools are away for a time: name, from, to."""

    people: int = 1
    has: Mapping[str, int] = field(default_factory=dict)
    windows: tuple[tuple[int, int], ...] = ()
    busy: tuple[tuple[str, int, int], ...] = ()


@dataclass(frozen=True)
class Schedule:
    """Starts by key, minutes from now; when the last hands end; whether no earlier finish exists, else what it cannot
    be earlier than; and how many sessions the work takes (None with several people: whose, is not planned)."""

    starts: Mapping[str, int]
    finish: int
    bound: int
    sessions: int | None
    warm: frozenset[str] = frozenset()
    """What goes into a warm box."""

    @property
    def proved(self) -> bool:
        """Whether nothing earlier exists."""
        return self.bound >= self.finish


def schedule(
    steps: Sequence[Step], shop: Shop, begun: Mapping[str, int] | None = None, now: int = 0,
    seconds: tuple[float, float] = SECONDS,
) -> Schedule:  # fmt: skip
    """The earliest finish of all steps, and with it the fewest sessions.

    Parameters
    ----------
    steps
        In any order; each key once.
    shop
        People, tools and windows.
    begun
        Starts that are facts: what is done or running is not moved.
    now
        Nothing else begins before it.

    Raises
    ------
    Impossible
        Where a step fits no window, needs more than there is, or steps wait for one another in a ring.
    """
    if not steps:
        return Schedule({}, now, now, 0)
    begun = begun or {}
    order = in_order(steps)
    _require_possible(steps, shop, begun, now)
    model = _Model(order, shop, begun, now)
    by_hand = by_tail(order, shop, begun, now)
    model.hint(by_hand)
    solver, found = _solve(model.model, seconds[0])
    known = kept(order, by_hand)
    if found == cp_model.UNKNOWN and not known:
        solver, found = _solve(model.model, LAST_SECONDS)
    warm: frozenset[str] = frozenset()
    if found in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        finish, bound = solver.value(model.end), model.bound(solver.best_objective_bound)
        starts, warm = model.told(solver)
    elif found == cp_model.UNKNOWN and known:
        starts = by_hand
        finish, bound = max(starts[s.key] + s.hands for s in order), longest_chain(steps)
    else:
        raise Impossible(
            f"nothing fits within {FAR_MIN // 1440} days: allow more hours, more people or more tools"
        )  # fmt: skip
    sessions = None
    if shop.people == 1:
        starts, warm = _fewer_sessions(model, starts, warm, finish, shop, seconds[1])
        sessions = sessions_of([s for s in steps if s.key not in begun], starts)
    starts = _sooner(in_boxes(order, warm), starts, shop, begun, now)
    return Schedule(starts, finish, bound, sessions, warm)


def in_boxes(steps: Sequence[Step], warm: Collection[str]) -> list[Step]:
    """The steps with the waits that they have where those named go into a warm box and the others stay in the room."""
    out = []
    for s in steps:
        after = tuple(
            After(a.key, a.warm, a.within) if a.warm is not None and a.key in warm else After(a.key, a.wait, a.within)
            for a in s.after
        )
        goes = s.box is not None and s.key in warm
        held = s.box.minutes if s.box is not None and goes else s.held
        out.append(replace(s, after=after, held=held, box=None, boxed=s.box if goes else s.boxed))
    return out


def _sooner(
    order: Sequence[Step], starts: dict[str, int], shop: Shop, begun: Mapping[str, int], now: int
) -> dict[str, int]:  # fmt: skip
    """The same order with everything as early as it can be, where that breaks no latest start and adds no session:
    what is done is done."""
    early = in_sequence(order, starts, shop, begun, now)
    ends = [max(at[s.key] + s.hands for s in order) for at in (early, starts)]
    more = shop.people == 1 and sessions_of(order, early) > sessions_of(order, starts)
    return early if kept(order, early) and ends[0] <= ends[1] and not more else starts


def sessions_of(steps: Sequence[Step], starts: Mapping[str, int]) -> int:
    """Runs of hands of one person that rest no longer than `GAP_MIN`."""
    runs, end = 0, -math.inf
    for s in sorted((s for s in steps if s.hands), key=lambda s: starts[s.key]):
        runs += starts[s.key] - end > GAP_MIN
        end = max(end, starts[s.key] + s.hands)
    return runs


def in_order(steps: Sequence[Step]) -> list[Step]:
    """The steps so that none comes before what it waits for, otherwise as they are given.

    Raises
    ------
    Impossible
        Where steps wait for one another in a ring; its shortest loop is named.
    """
    known = {s.key: s for s in steps}
    out: list[Step] = []
    done: set[str] = set()
    left = list(steps)
    while left:
        ready = [s for s in left if all(a.key in done or a.key not in known for a in s.after)]
        if not ready:
            names = {s.key: s.name for s in left}
            loop = " → ".join(names[key] for key in _ring(left))
            raise Impossible(f"steps wait for one another: {loop}")
        out.append(ready[0])
        done.add(ready[0].key)
        left.remove(ready[0])
    return out


def _ring(steps: Sequence[Step]) -> list[str]:
    """The shortest loop, beginning and ending with the same key."""
    before = {s.key: [a.key for a in s.after] for s in steps}
    best: list[str] = []
    for first in before:
        paths = [[first]]
        while paths and (not best or len(paths[0]) < len(best)):
            path = paths.pop(0)
            for key in before.get(path[-1], ()):
                if key == first and (not best or len(path) + 1 < len(best)):
                    best = [*path, key]
                elif key in before and key not in path:
                    paths.append([*path, key])
    return best[::-1]


def longest_chain(steps: Sequence[Step]) -> int:
    """Minutes of the longest chain of hands and waits, without people or windows."""
    ends: dict[str, int] = {}
    for s in in_order(steps):
        waits = [(a, a.wait if a.warm is None else min(a.wait, a.warm)) for a in s.after]
        start = max((ends[a.key] + wait for a, wait in waits if a.key in ends), default=0)
        ends[s.key] = start + s.hands
    return max(ends.values(), default=0)


def _require_possible(steps: Sequence[Step], shop: Shop, begun: Mapping[str, int], now: int) -> None:
    for s in steps:
        if s.people > shop.people:
            raise Impossible(f"{s.name} needs {s.people} people, there are {shop.people}")
        for what, many in [*s.use.items(), *s.hold.items()]:
            if many > shop.has.get(what, math.inf):
                raise Impossible(f"{s.name} needs {many} × {what}, there are {shop.has[what]}")
        windows = s.windows or shop.windows
        if s.key not in begun and windows:
            long = max((b - max(a, now) for a, b in windows), default=0)
            if s.hands > long:
                raise Impossible(
                    f"{s.name} takes {s.hands} min without a break; the longest working time is {long} min"
                )


class _Model:
    """The constraint model; see the head of the module for its terms."""

    def __init__(self, order: Sequence[Step], shop: Shop, begun: Mapping[str, int], now: int) -> None:
        self.order, self.shop, self.begun = order, shop, begun
        self.model = m = cp_model.CpModel()
        self.starts: dict[str, cp_model.IntVar] = {}
        self.warm: dict[str, cp_model.IntVar] = {}
        taken: dict[str, list[tuple[cp_model.IntervalVar, int, bool]]] = {}
        for s in order:
            at = m.new_int_var_from_domain(self._domain(s, begun, now), s.key)
            self.starts[s.key] = at
            fact = s.key in begun
            hands = {"": (s.hands, s.people), **{w: (s.hands, n) for w, n in s.use.items()}}
            if s.box is not None and not fact:
                self._may_warm(s, s.box, taken, now)
            if s.boxed is not None and fact:
                hands[s.boxed.name] = (s.hands + s.boxed.minutes, 1)
            holds = [] if s.key in self.warm else [(w, (s.hands + s.held, n)) for w, n in s.hold.items()]
            for what, (long, many) in [*hands.items(), *holds]:
                first = max(begun[s.key], now) if fact else at
                rest = begun[s.key] + long - max(begun[s.key], now) if fact else long
                if rest > 0:
                    interval = m.new_fixed_size_interval_var(first, rest, f"{s.key} {what}")
                    taken.setdefault(what, []).append((interval, many, fact))
        for what, first, last in shop.busy:
            away = m.new_fixed_size_interval_var(first, last - first, f"{what} away")
            taken.setdefault(what, []).append((away, shop.has.get(what, 1), False))
        for what, uses in taken.items():
            there = shop.people if not what else shop.has.get(what)
            if there is not None:  # what goes on already may be more than there is: it is not moved for that
                goes_on = sum(n for _, n, fact in uses if fact)
                m.add_cumulative([i for i, _, _ in uses], [n for _, n, _ in uses], max(there, goes_on))
        self.end = m.new_int_var(0, FAR_MIN, "end")
        for s in order:
            m.add(self.end >= self.starts[s.key] + s.hands)
            for a in s.after:
                if a.key in self.starts and s.key not in begun:
                    done = self.starts[a.key] + next(o.hands for o in order if o.key == a.key)
                    sooner = 0 if a.warm is None or a.key not in self.warm else (a.wait - a.warm) * self.warm[a.key]
                    m.add(self.starts[s.key] >= done + a.wait - sooner)
                    if a.within is not None:
                        m.add(self.starts[s.key] <= done + a.within)
        self._many = len(self.warm) + 1
        m.minimize(self._many * self.end + sum(self.warm.values()))  # a box only where it brings the end forward

    def _may_warm(
        self, s: Step, box: Box, taken: dict[str, list[tuple[cp_model.IntervalVar, int, bool]]], now: int
    ) -> None:  # fmt: skip
        """The choice between the room and a place in a box, with what it holds there as long as there."""
        m, at = self.model, self.starts[s.key]
        goes = self.warm[s.key] = m.new_bool_var(f"{s.key} warm")
        inside = m.new_optional_fixed_size_interval_var(at + s.hands, box.minutes, goes, f"{s.key} in {box.name}")
        taken.setdefault(box.name, []).append((inside, 1, False))
        if box.attended:
            domain = self._domain(s, {}, now, box.attended)
            m.add_linear_expression_in_domain(at, domain).only_enforce_if(goes)
        for what, many in s.hold.items():
            for chosen, long in ((goes, box.minutes), (goes.Not(), s.held)):
                interval = m.new_optional_fixed_size_interval_var(at, s.hands + long, chosen, f"{s.key} {what} {long}")
                taken.setdefault(what, []).append((interval, many, False))

    def bound(self, objective: float) -> int:
        """What the end cannot be earlier than, by a bound of the objective."""
        return math.ceil((objective - len(self.warm)) / self._many - 1e-6)

    def told(self, solver: cp_model.CpSolver) -> tuple[dict[str, int], frozenset[str]]:
        """Starts, and what goes into a box."""
        warm = frozenset(k for k, goes in self.warm.items() if solver.value(goes))
        return {key: solver.value(at) for key, at in self.starts.items()}, warm

    def _domain(self, s: Step, begun: Mapping[str, int], now: int, attended: int = 0) -> cp_model.Domain:
        if s.key in begun:
            return cp_model.Domain(begun[s.key], begun[s.key])
        windows = s.windows or self.shop.windows or ((0, FAR_MIN),)
        now = max(now, s.not_before)
        last = [(a, b - s.hands - attended) for a, b in windows]
        fits = [[max(a, now), b] for a, b in last if b >= max(a, now)]
        return cp_model.Domain.from_intervals(fits)

    def hint(self, starts: Mapping[str, int]) -> None:
        """Begin the search at a schedule that is known."""
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for key, at in starts.items():
            self.model.add_hint(self.starts[key], at)


def _solve(model: cp_model.CpModel, seconds: float) -> tuple[cp_model.CpSolver, cp_model.CpSolverStatus]:
    solver = cp_model.CpSolver()
    solver.parameters.max_deterministic_time = WORK * seconds
    solver.parameters.max_time_in_seconds = PATIENCE * seconds
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    return solver, solver.solve(model)


def _fewer_sessions(
    model: _Model, starts: dict[str, int], warm: frozenset[str], finish: int, shop: Shop, seconds: float
) -> tuple[dict[str, int], frozenset[str]]:  # fmt: skip
    """The schedule with the same finish that has the fewest sessions: every operation stays in its window, and follows
    at most one other within the gap."""
    m, busy = model.model, [s for s in model.order if s.hands and s.key not in model.begun]
    m.add(model.end <= finish)
    window: dict[str, tuple[int, int]] = {}
    for s in busy:
        at = starts[s.key]
        own = s.windows or shop.windows
        first, last = next((w for w in own if w[0] <= at and at + s.hands <= w[1]), (0, FAR_MIN))
        window[s.key] = first, last
        m.add(model.starts[s.key] >= first)
        m.add(model.starts[s.key] + s.hands <= last)
    follows: dict[tuple[str, str], cp_model.IntVar] = {}
    for one in busy:
        for other in busy:
            if one is not other and window[one.key] == window[other.key]:
                a = m.new_bool_var(f"{other.key} follows {one.key}")
                gap = model.starts[other.key] - (model.starts[one.key] + one.hands)
                m.add(gap >= 0).only_enforce_if(a)
                m.add(gap <= GAP_MIN).only_enforce_if(a)
                follows[one.key, other.key] = a
    for s in busy:
        for side in (0, 1):
            m.add_at_most_one(a for keys, a in follows.items() if keys[side] == s.key)
    m.maximize((len(model.warm) + 1) * sum(follows.values()) - sum(model.warm.values()))
    model.hint(starts)
    solver, found = _solve(m, seconds)
    if found not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return starts, warm
    steps = list(model.order)
    return min((model.told(solver), (starts, warm)), key=lambda told: sessions_of(steps, told[0]))


def by_tail(order: Sequence[Step], shop: Shop, begun: Mapping[str, int], now: int) -> dict[str, int]:
    """A schedule that is possible but for latest starts: always the operation with the longest tail next, as early as
    it can (Jackson 1955; parallel generation)."""
    tails: dict[str, int] = {}
    for s in reversed(order):
        waits = [a.wait + tails[o.key] for o in order for a in o.after if a.key == s.key and o.key in tails]
        tails[s.key] = s.hands + max(waits, default=0)
    known = {s.key: s for s in order}
    starts = dict(begun)
    left = [s for s in order if s.key not in begun]
    while left:
        ready = [s for s in left if all(a.key in starts or a.key not in known for a in s.after)]
        s = max(ready, key=lambda s: tails[s.key])
        least = max((starts[a.key] + known[a.key].hands + a.wait for a in s.after if a.key in known), default=now)
        starts[s.key] = _earliest(s, max(least, now), starts, known, shop)
        left.remove(s)
    return starts


def in_sequence(
    steps: Sequence[Step], order: Mapping[str, int], shop: Shop, begun: Mapping[str, int] | None = None, now: int = 0
) -> dict[str, int]:  # fmt: skip
    """Starts where everything is done in the order of a plan, each as early as it can; what has begun stays."""
    known = {s.key: s for s in steps}
    starts: dict[str, int] = dict(begun or {})
    for s in sorted((s for s in in_order(steps) if s.key not in starts), key=lambda s: order[s.key]):
        least = max((starts[a.key] + known[a.key].hands + a.wait for a in s.after if a.key in starts), default=now)
        starts[s.key] = _earliest(s, max(least, now), starts, known, shop)
    return starts


def kept(steps: Sequence[Step], starts: Mapping[str, int]) -> bool:
    """Whether a schedule made by longest tail keeps the latest starts, which it does not look at, and ends in time."""
    hands = {s.key: s.hands for s in steps}
    return all(starts[s.key] <= FAR_MIN for s in steps) and all(
        a.within is None or a.key not in hands or starts[s.key] <= starts[a.key] + hands[a.key] + a.within
        for s in steps
        for a in s.after
    )


def _earliest(s: Step, at: int, starts: Mapping[str, int], known: Mapping[str, Step], shop: Shop) -> int:
    at = max(at, s.not_before)
    while True:
        later = _hindered(s, at, starts, known, shop)
        if later is None or later > FAR_MIN:
            return at
        at = later


def _hindered(s: Step, at: int, starts: Mapping[str, int], known: Mapping[str, Step], shop: Shop) -> int | None:
    """The next minute worth trying where a step cannot begin at one; None where it can."""
    windows = s.windows or shop.windows
    stays = s.hands + (s.boxed.attended if s.boxed is not None else 0)
    if windows and not any(a <= at and at + stays <= b for a, b in windows):
        return min((a for a, b in windows if a > at and b - a >= stays), default=FAR_MIN + 1)
    others = [(known[k], b) for k, b in starts.items() if k in known]
    hands = [(b, b + o.hands, o.people) for o, b in others]
    if s.hands and (wait := _full(hands, at, at + s.hands, shop.people - s.people)) is not None:
        return wait
    for what, many in [*s.use.items(), *s.hold.items()]:
        if what in shop.has:
            taken = [(b, b + o.hands, o.use[what]) for o, b in others if what in o.use]
            taken += [(b, b + o.hands + o.held, o.hold[what]) for o, b in others if what in o.hold]
            taken += [(a, b, shop.has[what]) for w, a, b in shop.busy if w == what]
            end = at + s.hands + (s.held if what in s.hold else 0)
            if (wait := _full(taken, at, end, shop.has[what] - many)) is not None:
                return wait
    if s.boxed is not None:
        name = s.boxed.name
        inside = [(b + o.hands, b + o.hands + o.boxed.minutes, 1) for o, b in others
                  if o.boxed is not None and o.boxed.name == name]  # fmt: skip
        first = at + s.hands
        wait = _full(inside, first, first + s.boxed.minutes, shop.has.get(name, 1) - 1)
        if wait is not None:
            return wait - s.hands
    return None


def _full(taken: Sequence[tuple[int, int, int]], start: int, end: int, left: int) -> int | None:
    """The end of something that takes more than what is left at any time of a stretch; None where nothing does."""
    for t in sorted({start, *(a for a, _, _ in taken if start < a < end)}):
        now = [(a, b, n) for a, b, n in taken if a <= t < b]
        if sum(n for _, _, n in now) > left:
            return min(b for _, b, _ in now)
    return None
