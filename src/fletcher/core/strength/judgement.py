r"""What a part does under a growing load: what softens or stays, what breaks first, and what the rest then carries.

- *First break* λ₁: the lowest multiple of the load at which a member breaks, with everything that has softened before.
- *Break load* λ_b = max(λ₁, what the rest carries): after a break the section is solved without that member. No member
  lowers it by changing or breaking first.
- *Change* λ_s: the lowest multiple at which something softens or stays.

A break of one section is local: the rest of that section takes over. A member whose glue lets go is lost all along.
Stations that are strained little keep the linear answer; the samples are marched at those that govern.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.strength.fibres import Label, Part
from fletcher.core.strength.followed import (
    OF_A_MEMBER,
    SHARED,
    STRAINED,
    Followed,
    held_by,
    loses,
    member_of,
    members_named,
    members_of,
    spread,
)
from fletcher.core.strength.modes import Mode
from fletcher.core.strength.softening import Softened, at_the_load, comes_later, softer_at

_CHANGES = frozenset({"strip_end", "cord_bond", "cord_pull", "strap_crush", "joint_pin", "joint_bearing"})
"""Ways to fail of which the part holds together: they change something, and it stays."""
_LOSSES = 8
"""So many members may be lost all along, one after another."""
_WORTH = 0.3
"""What is left after a break is followed further if its sections typically carry this share of it."""
_ALIKE = 0.05
"""What typically breaks within this share of something like it has its spread."""
_NEAR = 0.6
"""What typically holds less than this share of what holds longest does so in the samples too."""
UNLIMITED = 100.0
"""A margin above this says only that nothing computed here limits it."""


@dataclass(frozen=True, eq=False)
class Event:
    """Something that happens at the multiple `at` (S,) of the load: what, at which station, whether it breaks a member
    and whether it stays."""

    mode: Mode
    k: int
    at: Array
    breaks: bool
    stays: bool


@dataclass(frozen=True)
class Judgement:
    """What a part does as its load grows. `first` and `final` come at multiples (S,) of the load: the first break of a
    member and the break load; `along` (S, n) the break load of each station by itself, `bends` (S, n) what its
    section alone carries, joints and shear left aside."""

    first: Event
    final: Event
    along: Array
    bends: Array
    members: tuple[Event, ...]
    """Breaks of members in the order in which they come, typical."""
    judge: Followed

    @cached_property
    def changes(self) -> tuple[Event, ...]:
        """What softens or stays before the break load, in order, by typical values."""
        return _changes(self.judge, self.judge.modes, float(self.final.at[0]))

    @cached_property
    def softened(self) -> Softened | None:
        """What the changes cost at the load itself; None where nothing has changed there."""
        early = [e for e in self.changes if float(e.at[0] if e.mode.kind == "foam_crush" else np.min(e.at)) < 1]
        j = self.judge
        if not early:
            return None
        kinds = [(e.mode.kind, e.mode.item) for e in early]
        return at_the_load(j, kinds)

    @property
    def breaks(self) -> Array:
        """Break load over the load, (S,)."""
        return self.final.at

    def worse(self, other: Judgement) -> Judgement:
        """The one that breaks earlier, typical, with the lower of both break loads in every sample."""
        lead, rest = (self, other) if float(self.breaks[0]) <= float(other.breaks[0]) else (other, self)
        final = replace(lead.final, at=np.minimum(lead.final.at, rest.final.at))
        return replace(
            lead, final=final, along=np.minimum(lead.along, rest.along), bends=np.minimum(lead.bends, rest.bends)
        )

    def no_later_than(self, whole: Judgement) -> Judgement:
        """The same of a damaged part, whose break load counts for no more than that of the whole part: a fold that
        comes later because foam is missing, or a break that comes later beside a broken bar, is not relied on."""
        most = whole.final.at
        events = {e: replace(e, at=np.minimum(e.at, most)) for e in (self.first, self.final, *self.members)}
        less = (events[self.final].at / np.maximum(self.final.at, 1e-12))[:, None]
        return replace(
            self, first=events[self.first], final=events[self.final], along=self.along * less, bends=self.bends * less,
            members=tuple(events[e] for e in self.members),
        )  # fmt: skip

    @property
    def use(self) -> Array:
        """Share of its strength that each station uses at the load, (S, n)."""
        return 1 / np.maximum(self.along, 1e-9)


def figures_of(judgement: Judgement, told: Sequence[Event]) -> list[str]:
    """Names of the figures of what is told: "breaks_at" for what decides the break load, "comes_at.2" and on for the
    rest."""
    out, number = [], 1
    for event in told:
        final = event is judgement.final
        number += not final
        out.append("breaks_at" if final else f"comes_at.{number}")
    return out


@dataclass(frozen=True)
class Rest:
    """What is left of a part whose lines let go: its typical break load over the load, solved anew `without` a line of
    the lay-up (0 where that is no part). `first`: no line was taken away to get here."""

    without: Callable[[int], float]
    first: bool


def _peak(use: Array) -> tuple[Array, int]:
    """Multiple of the load (S,) at which a mode comes that uses such shares (S, n), and its typical station."""
    return 1 / np.maximum(use.max(1), 1e-9), int(np.argmax(use[0]))


def judge(
    part: Part, modes: Sequence[Mode], drawn: Array, plain_shear: Array, excluded: frozenset[str] = frozenset(),
    rest: Rest | None = None, unless: float = math.inf, like: Judgement | None = None,
) -> Judgement | None:  # fmt: skip
    """What a part does as its load grows.

    `modes` are its ways to fail by the linear answer; `drawn` (membranes + bars,) the strain at which each holds across
    a crack; `plain_shear` (S, n) the share of the foam's shear strength that the section uses without anything that
    concentrates it; `excluded` kinds are meant to happen. None where the part typically breaks only beyond `unless`;
    what typically breaks near one that it is `like` spreads as that does.
    """
    j = Followed(part, modes, drawn, plain_shear, excluded)
    lost: frozenset[int] = frozenset()
    followed: list[frozenset[int]] = []
    breaks: list[Event] = []
    last = 0
    for _ in range(_LOSSES):
        events = _breaks(j, lost, 1)
        if not events:
            break
        event = min(events, key=lambda e: float(e.at[0]))
        followed.append(lost)
        breaks.append(event)
        if float(event.at[0]) > float(breaks[last].at[0]):
            last = len(breaks) - 1
        more = loses(event.mode, j, lost)
        held = float(breaks[last].at[0])
        if more is None or (len(j.stations) and j.typically(lost | more)[0].most.min() < _WORTH * held):
            break
        lost = lost | more
    if breaks and float(breaks[last].at[0]) > unless:
        return None
    if breaks and like is not None and abs(float(breaks[last].at[0] / like.breaks[0]) - 1) < _ALIKE:
        share = breaks[last].at[0] / like.breaks[0]
        best, along = replace(breaks[last], at=like.breaks * share), like.along * share
        bends = like.bends * share
    elif breaks:
        # in each sample what holds longest counts, of all that typically comes near it
        near = [
            gone for gone, e in zip(followed, breaks, strict=True) if float(e.at[0]) > _NEAR * float(breaks[last].at[0])
        ]
        if j.typical is not None:
            j.prepare({*near, frozenset()}, softer_at(j.typical)[0])
        each = [np.min([e.at for e in _breaks(j, gone, j.samples)], axis=0) for gone in near]
        best = replace(breaks[last], at=np.max(each, axis=0))
        along = _along(j)
        bends = j.along(frozenset()) if len(j.stations) else j.linear(frozenset())
    else:
        nothing = Mode("nothing", None, "part", np.zeros((j.samples, j.n)), True)
        best = Event(nothing, 0, np.full(j.samples, 1e9), True, False)
        breaks, along = [best], np.full((j.samples, j.n), np.inf)
        bends = j.along(frozenset()) if len(j.stations) else j.linear(frozenset())
    first = breaks[0]
    local = _local_first(j, bends)
    if local is not None and float(local.at[0]) < float(first.at[0]):
        first = local
        breaks.insert(0, local)
    best = _at_least(j, first, best, rest)
    if float(best.at[0]) <= float(first.at[0]) * (1 + 1e-3):  # what comes with the first break is told as that
        best = replace(first, at=best.at)
    along, bends = (np.maximum(v, best.at[:, None]) for v in (along, bends))
    breaks = breaks[: last + 1 + (first is local)]  # what breaks of the rest at less load is no event of its own
    return Judgement(first, best, along, bends, tuple(breaks), j)


def _at_least(j: Followed, first: Event, best: Event, rest: Rest | None) -> Event:
    """The break load where a line of the lay-up breaks first: at least that of the part without it, and without any
    bar. A solid part is solved without those members, anew where the bars that are left would hand over more than its
    sections carry; what is left of a hollow one is no plane section: `rest` tells it."""
    line = first.mode.line
    if line is None:
        return best
    own, e = members_of(j.part, line), j.part.elements
    if not own:
        return best
    now = float(best.at[0])
    held = [0.0]
    if len(j.stations) and not e.hollow:
        bars = frozenset(range(len(e.membranes), len(e.membranes) + len(e.bars)))
        held += [_least(_breaks(j, gone, 1)) for gone in {own, own | bars}]
        carried = float(j.typically(own)[0].most.min())
        if rest is not None and bars - own and max(*held, now) < carried:
            held.append(rest.without(line))  # what the bars left hand over is another without it
    elif rest is not None:
        held.append(rest.without(line))
        if rest.first and best.mode.line not in (None, line):  # what breaks last is no better than absent
            held.append(rest.without(best.mode.line))
    if max(held) <= now * (1 + 1e-9):
        return best
    return replace(best, at=best.at * (max(held) / now) if now > 0 else np.full_like(best.at, max(held)))


def carried_without(whole: Judgement, layer_id: str | None) -> float:
    """Multiple of the load, typical, that a part carries once the line with this id has come loose all along: what is
    left where a joint along it lets go. Nothing where there is no such line."""
    j = whole.judge
    lost = members_named(j.part, layer_id)
    if not lost:
        return 0.0
    return _least(_breaks(j, lost, 1))


def _least(events: Sequence[Event]) -> float:
    return min((float(e.at[0]) for e in events), default=0.0)


def _along(j: Followed) -> Array:
    """Break load of every station with all that is local to it."""
    out = j.along(frozenset()).copy() if len(j.stations) else j.linear(frozenset())
    for m in j.others:
        if m.breaks and m.kind not in _CHANGES and m.kind not in j.excluded:
            np.minimum(out, 1 / np.maximum(m.use, 1e-9), out=out)
    return out


def _breaks(j: Followed, lost: frozenset[int], samples: int) -> list[Event]:
    """What may break the part with some members lost, for its first samples."""
    out = []
    most, places = j.peaks
    for n, m in enumerate(j.others):
        if m.kind in j.excluded or member_of(m, j.part) in lost or (m.kind in _CHANGES and m.kind not in OF_A_MEMBER):
            continue
        held = held_by(m, j.part) if lost else frozenset()
        if held and held <= lost:
            continue
        if samples == 1 and not (lost and m.kind in SHARED):
            at, k = 1 / np.maximum(most[n : n + 1], 1e-9), int(places[n])
        else:
            at, k = _peak(spread(m, j, lost, samples))
        if float(at[0]) < 1e8:
            out.append(Event(m, k, at, m.breaks, m.kind in _CHANGES))
    if len(j.stations):
        cap, typical = j.typically(lost)
        i = int(np.argmin(cap.most[0]))
        k = int(j.stations[i])
        mode = _mode_of(j, j.label(typical, int(cap.most_fibre[0, i]), i), k, float(cap.most[0, i]))
        at = cap.most.min(1) if samples == 1 else j.along(lost).min(1)
        out.append(Event(mode, k, at, True, False))
    else:
        for m in j.strained:
            if m.breaks and m.kind not in j.excluded and float(m.use[0].max()) > 1e-8:
                at, k = _peak(m.use[:samples])
                out.append(Event(m, k, at, True, False))
    return out


def _local_first(j: Followed, bends: Array) -> Event | None:
    """The first break of a member of a section after which the rest carries more; it spreads as what its section
    carries at most (S, n)."""
    if not len(j.stations):
        return None
    cap, typical = j.typically(frozenset())
    i = int(np.argmin(cap.first[0]))
    if cap.first[0, i] >= cap.most[0, i] * (1 - 1e-6):
        return None
    k = int(j.stations[i])
    mode = _mode_of(j, j.label(typical, int(cap.first_fibre[0, i]), i), k, float(cap.first[0, i]))
    return Event(mode, k, cap.first[0, i] * bends[:, k] / bends[0, k], True, False)


def _mode_of(j: Followed, label: Label | None, k: int, at: float) -> Mode:
    """The way to fail of a label: the part's own mode where it has one."""
    use = np.zeros((j.samples, j.n))
    use[:, k] = 1 / max(at, 1e-9)
    if label is None:
        return Mode("nothing", None, "part", use, True)
    skins = len(j.part.elements.membranes)
    line, item, where = None, None, label.where
    if 0 <= label.member < skins:
        line, item = j.part.elements.membranes[label.member].line, label.member
    elif label.member >= skins:
        item = label.member - skins
        line = j.part.elements.bars[item].line
    elif label.kind == "notch":
        line = next((m.line for m in j.strained if m.kind == "notch"), None)
    return Mode(label.kind, line, where, use, label.breaks, item)


def _changes(j: Followed, modes: Sequence[Mode], most: float) -> tuple[Event, ...]:
    """What softens or stays before the break load, in order; after the first of them by the march at typical values."""
    found: dict[tuple[str, int | None, str], Event] = {}
    for m in modes:
        if m.kind in _CHANGES or (m.kind not in STRAINED and not m.breaks):
            at, k = _peak(m.use)
            if float(at[0]) < min(most, 1e8):
                found[m.kind, m.line, m.where] = Event(m, k, at, False, True)
    if len(j.stations):
        assert j.typical is not None
        typical = j.typical
        linear: dict[tuple[str, int, str], tuple[float, int, Label]] = {}
        s = typical.section
        for n, (_, _, pulled, pushed) in enumerate(typical.labels):
            for label, limit, sign in ((pulled, typical.soft_pull, 1), (pushed, typical.soft_push, -1)):
                if label is None or label.kind in j.excluded:
                    continue
                use = np.maximum(sign * s.shape[0, :, n] / limit[0, :, n], 1e-12)
                i = int(np.argmax(use))
                key = (label.kind, label.member, label.where)
                if key not in linear or 1 / use[i] < linear[key][0]:
                    linear[key] = (float(1 / use[i]), i, label)
        order = sorted(linear.values(), key=lambda v: v[0])
        for rank, (straight, i, label) in enumerate(order):
            if straight > 2 * most:
                break
            comes = comes_later(typical, i, label, straight) if rank else straight
            if comes >= most:
                continue
            k = int(j.stations[i])
            mode = _mode_of(j, label, k, comes)
            same = next((m for m in j.strained if (m.kind, m.item) == (mode.kind, mode.item) and m.use[0, k] > 0), None)
            spread = np.ones(j.samples) if same is None else same.use[0, k] / np.maximum(same.use[:, k], 1e-12)
            key3 = (mode.kind, mode.line, mode.where)
            if key3 not in found or float(found[key3].at[0]) > comes:
                found[key3] = Event(mode, k, comes * spread, False, label.stays)
    return tuple(sorted(found.values(), key=lambda e: float(e.at[0])))
