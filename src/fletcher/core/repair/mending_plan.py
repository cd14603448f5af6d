"""An adopted repair as steps of a plan: the same work in the shop's hours, with clocks at the bench.

Operations keep their number as their key, so that a tick at the Crash desk and a press at the bench are the same. What
is to be checked before it goes on stands before the next step. Waits before the check are those of the chain: the slow
end of every glue. What was adopted before operations knew what they wait for is done one after another.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta
from typing import Literal
from uuid import NAMESPACE_OID, uuid5

from fletcher.core.document.airframe import Part
from fletcher.core.plan.changes import MENDING
from fletcher.core.plan.gates import gates
from fletcher.core.plan.progress import facts
from fletcher.core.plan.schema import AfterAt, BuildStep, Gate
from fletcher.core.plan.work import Press, Work
from fletcher.core.repair.schema import AfterOperation, Operation

_SETS = ("glue", "resin")
"""How what has to be waited for begins where something sets."""


def key_of(job: str, number: int) -> str:
    """Key of an operation of a job."""
    return f"{MENDING}{job}/{number}"


def place_of_key(key: str) -> tuple[str, int] | None:
    """Job and number of a key; None of other keys, and of what was added to a step."""
    job, _, number = key.removeprefix(MENDING).partition("/")
    return (job, int(number)) if key.startswith(MENDING) and number.isdigit() else None


def mending_steps(job: str, part: Part | None, operations: Sequence[Operation]) -> list[BuildStep]:
    """Steps of a job; waits alone are no steps."""
    known = any(op.after for op in operations)
    does = [(n, op) for n, op in enumerate(operations, 1) if op.minutes.high > 0 or op is operations[-1]]
    numbers = [n for n, _ in does]
    out = []
    for place, (n, op) in enumerate(does):
        after = op.after
        if not known and place:
            before = does[place - 1]
            wait = before[1].wait_min.typ if before[1].wait_min is not None else 0.0
            after = [AfterOperation(number=before[0], wait_min=wait)]
        last, check = op is operations[-1], len(does) > 1 and place == len(does) - 2
        looked_at = does[place - 1][1].checks if place else []
        checks = [Gate(key=f"check_{k}", says=says, waivable=True) for k, says in enumerate(looked_at, 1)]
        afterwards = f" Afterwards: {'; '.join(op.checks)}." if last and op.checks else ""
        glued = op.wait_for.startswith(_SETS) and op.wait_min is not None
        out.append(BuildStep(
            key=key_of(job, n), part_id=part.id if part else None, layer_id=None, piece=part.name if part else "",
            title=op.title[0].lower() + op.title[1:], minutes=op.minutes, people=1,
            glue=op.wait_for.split()[0] if glued else "", glue_key="",
            fixed_min=math.ceil(op.wait_min.typ) if glued and op.wait_min is not None else 0, loaded_min=0,
            after=[_after(a, operations, job) for a in after if a.number in numbers], hold={}, tools=op.tools,
            gates=[*(gates(["cured"]) if check else []), *checks], cards=[], cautions=op.cautions,
            undoes=not glued, made_of="", how=op.how + afterwards, never=op.never, daylight=last,
        ))  # fmt: skip
    return out


def _after(a: AfterOperation, operations: Sequence[Operation], job: str) -> AfterAt:
    op = operations[a.number - 1]
    why = f"{op.wait_for}" if op.wait_for and a.wait_min else f"{op.title} first"
    within = None if a.within_min is None else max(math.floor(a.within_min), math.ceil(a.wait_min) + 1)
    return AfterAt(key=key_of(job, a.number), wait_min=math.ceil(a.wait_min - 1e-9), why=why, within_min=within)


def with_ticks(work: Work, stored: Sequence[Press], job: str, done: Mapping[int, datetime | None]) -> Work:
    """The work with what was ticked at the Crash desk since presses were `stored`: what is on its way from a device
    comes after it."""
    known, more = facts(stored), []
    for number, when in done.items():
        key = key_of(job, number)
        pressed = key in known and known[key].done is not None
        if pressed == (when is not None):
            continue
        at = when or max(p.at for p in stored if p.key == key) + timedelta(milliseconds=1)
        what: Literal["done", "undone"] = "undone" if when is None else "done"
        more.append(Press(id=str(uuid5(NAMESPACE_OID, f"{key} {what} {at}")), at=at, what=what, key=key))
    return Work(changes=work.changes, presses=(*work.presses, *more))
