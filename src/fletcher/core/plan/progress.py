r"""How far the work is: facts from what was pressed, what they add to the plan, and the pace of whoever works.

- A step that was done or is running is a fact: it is not moved. One that runs past its time lasts at least until now.
- *Not right*: the step is done again, and all that waited for it waits for that.
- A failed gate: what is wrong is put right first (`RIGHT_MIN`), then the gate is looked at again. Passed on one device
  and failed on another counts as failed until somebody who knows of the failure decides.
- What was coated and aired past its open time is coated again.
- Glue that sets at another warmth keeps the minutes that it has: ∫ r^{(T−20)/10} dτ = t₂₀.
- Own pace: exp(Σ ln(actual/typical)/(n + `PRIOR`)) on what is left, from the third finished step on [J].
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime

from fletcher.core.adhesion.adhesives import curings
from fletcher.core.adhesion.readiness import State, ready_after, set_after
from fletcher.core.materials.uncertainty import Band
from fletcher.core.plan.changes import told
from fletcher.core.plan.gates import GATES, NEVER_WAIVED
from fletcher.core.plan.schema import AfterAt, BuildStep, GateAt
from fletcher.core.plan.work import Press

RIGHT_MIN = 15.0
"""[J] Minutes to put right what a gate found."""
PRIOR = 4
"""[J] So many steps at the table's pace stand against one's own."""
FROM = 3
"""Own pace counts from so many finished steps on."""


@dataclass(frozen=True)
class Fact:
    """What is known of a step: when it was begun and done, minutes that were added, how often it was not right, how
    its gates stand and what was noted."""

    begun: datetime | None = None
    done: datetime | None = None
    more: float = 0.0
    again: tuple[datetime, ...] = ()
    gates: Mapping[str, GateAt] = field(default_factory=dict)
    notes: tuple[str, ...] = ()
    made_of: str = ""
    box_C: float | None = None
    """It went into a warm box."""


def facts(presses: Sequence[Press]) -> dict[str, Fact]:
    """Facts by step, from presses in any order and as often as they come."""
    once = {p.id: p for p in presses}
    out: dict[str, Fact] = {}
    for p in sorted(once.values(), key=lambda p: (p.at, p.id)):
        if p.what != "warmth" and p.key:
            out[p.key] = _after(out.get(p.key, Fact()), p)
    return out


def _after(f: Fact, p: Press) -> Fact:
    note = (p.note,) if p.note and p.what != "gate" else ()
    if p.what == "undone":
        return Fact()
    if p.what == "begun":
        return replace(f, begun=f.begun or p.at, notes=f.notes + note)
    if p.what == "more":
        return replace(f, begun=f.begun or p.at, more=f.more + max(p.value or 10.0, 0.0), notes=f.notes + note)
    if p.what == "not_right":
        return replace(f, done=f.done or p.at, again=(*f.again, p.at), notes=f.notes + note)
    if p.what == "done":
        if f.done is not None:  # ticked on a second device: the earlier stays, the later is a note
            later = "" if p.value is None else f"{p.value:g}"
            return replace(f, notes=(*f.notes, *note, *((f"also {later}",) if later else ())))
        return replace(f, done=p.at, notes=f.notes + note, made_of=p.made_of, box_C=p.box_C)
    return replace(f, gates={**f.gates, p.gate: _gate(f.gates.get(p.gate), p)})


def _gate(was: GateAt | None, p: Press) -> GateAt:
    knows = (*(was.knows if was else ()), p.id)
    stands = p.result or "passed"
    if stands == "waived" and (p.gate in NEVER_WAIVED or not p.note):
        return was or GateAt(key=p.gate, stands="open")
    if was is not None and was.stands == "failed" and not set(was.knows) <= set(p.knows):
        stands = "failed"
    return GateAt(key=p.gate, stands=stands, value=p.value, note=p.note or (was.note if was else ""), knows=knows)


def warmths(presses: Sequence[Press]) -> list[tuple[datetime, float]]:
    """Warmth of the shop from each moment on that it was told."""
    return sorted((p.at, p.value) for p in presses if p.what == "warmth" and p.value is not None)


def with_rework(
    steps: Sequence[BuildStep], known: Mapping[str, Fact], now: datetime
) -> tuple[list[BuildStep], list[str]]:  # fmt: skip
    """The steps with what facts add to them, and what is to be said: done again, put right, coated again, and what was
    done before its line was changed."""
    out = {o.key: o for o in steps}
    remarks = []
    for key, f in known.items():
        o = out.get(key)
        if o is None:
            continue
        for n in range(1, len(f.again) + 1):
            _again(out, key, n)
        for gate in f.gates.values():
            if gate.stands == "failed" and f.done is None:
                _put_right(out, key, gate)
        if f.done is not None and f.made_of and o.made_of and f.made_of != o.made_of:
            remarks.append(f"Done before its line was changed: {told(o)}. Do it again, or leave it?")
    for o in list(out.values()):
        many = 0
        while f"{o.key}/coat" in out and (late := _too_late(out[o.key], known, now)) is not None:
            many += 1
            _coat_again(out, o.key, late, many)
        if many and f"{o.key}/coat{many + 1}" not in known:
            remarks.append(f"Open time is over: {told(o)}. Coat both faces again.")
    return list(out.values()), remarks


def _again(out: dict[str, BuildStep], key: str, n: int) -> None:
    whole = out[key]
    last = key if n == 1 else f"{key}/again{n - 1}"
    new = f"{key}/again{n}"
    for k, o in list(out.items()):
        waits = [a for a in o.after if a.key == last]
        if waits:
            out[k] = o.model_copy(update={"after": [*o.after, *(a.model_copy(update={"key": new}) for a in waits)]})
    out[new] = whole.model_copy(update={
        "key": new, "title": f"again: {whole.title}", "after": [AfterAt(key=last, wait_min=0, why="it was not right")],
    })  # fmt: skip


def _put_right(out: dict[str, BuildStep], key: str, gate: GateAt) -> None:
    new = f"{key}/right-{gate.key}"
    whole = out[key]
    band = Band(low=RIGHT_MIN / 2, typ=RIGHT_MIN, high=2 * RIGHT_MIN)
    out[new] = whole.model_copy(update={
        "key": new, "title": f"put right: {GATES.get(gate.key, gate.key)}", "minutes": band, "glue": "", "glue_key": "",
        "fixed_min": 0, "loaded_min": 0, "hold": {}, "gates": [], "cards": [], "cautions": [],
    })  # fmt: skip
    after = AfterAt(key=new, wait_min=0, why="put right first")
    out[key] = whole.model_copy(update={"after": [*whole.after, after]})


def _too_late(o: BuildStep, known: Mapping[str, Fact], now: datetime) -> AfterAt | None:
    """The link whose latest start a step has missed."""
    own = known.get(o.key)
    if own is not None and (own.begun is not None or own.done is not None):
        return None
    for a in o.after:
        done = known[a.key].done if a.key in known else None
        if a.within_min is not None and done is not None and (now - done).total_seconds() > 60 * a.within_min:
            return a
    return None


def _coat_again(out: dict[str, BuildStep], key: str, late: AfterAt, many: int) -> None:
    coat, new = out[f"{key}/coat"], f"{key}/coat{many + 1}"
    half = Band(**{e: max(getattr(coat.minutes, e) / 2, 1.0) for e in ("low", "typ", "high")})
    out[new] = coat.model_copy(update={
        "key": new, "title": f"coat both faces again: {coat.title.partition(':')[0]}", "minutes": half,
        "after": [AfterAt(key=late.key, wait_min=0, why="its open time is over")], "gates": [],
    })  # fmt: skip
    after = [a for a in out[key].after if a is not late and a.key != late.key]
    out[key] = out[key].model_copy(update={"after": [*after, late.model_copy(update={"key": new})]})


def pace(steps: Sequence[BuildStep], known: Mapping[str, Fact]) -> float:
    """How long a builder takes over what the table says, from the steps that were begun and done at the bench."""
    found = []
    for o in steps:
        f = known.get(o.key)
        if f is not None and f.begun is not None and f.done is not None and f.done > f.begun and not f.again:
            minutes = (f.done - f.begun).total_seconds() / 60
            found.append(math.log(min(max(minutes / o.minutes.typ, 0.2), 5.0)))
    return math.exp(sum(found) / (len(found) + PRIOR)) if len(found) >= FROM else 1.0


def sets_in(o: BuildStep, state: State, done: datetime, log: Sequence[tuple[datetime, float]], shop_C: float) -> int:
    """Minutes from the end of a glued step until a state, with the shop as warm as it was."""
    usual = o.fixed_min if state == "fixed" else o.loaded_min
    first = [w for w in log if w[0] <= done]
    later = [((at - done).total_seconds() / 60, warm) for at, warm in log if at > done]
    at_first = first[-1][1] if first else shop_C
    if not o.glue_key or (not later and at_first == shop_C):
        return usual
    at_20 = ready_after(o.glue_key, state, 20.0, late=state == "loaded")
    curing = curings()[o.glue_key]
    minutes = set_after(at_20, curing.rate_per_10C.typ, [(0.0, at_first), *later], curing.least_C)
    return usual if math.isinf(minutes) else math.ceil(minutes)
