"""What a builder at the bench is told: what to do now, and what sets until when."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from fletcher.core.plan.changes import told
from fletcher.core.plan.schema import BuildStep, Clock, Planned

FORGOTTEN_S = 3600.0
"""[J] So long a clock that has rung is still told."""


def next_steps(planned: Sequence[Planned], steps: Sequence[BuildStep], now: datetime) -> list[str]:
    """What runs, then what may begin now, in the order of the plan; none where all waits for something that sets."""
    ends = {p.key: p for p in planned}
    after = {o.key: o.after for o in steps}
    known = set(after)
    done = {p.key for p in planned if p.state == "done"}

    def free(p: Planned) -> bool:
        return all(
            a.key not in known or (a.key in done and ends[a.key].ends + timedelta(minutes=a.wait_min) <= now)
            for a in after[p.key]
        )

    running = [p.key for p in planned if p.state == "running"]
    open_ones = [p for p in planned if p.state == "open"]
    found = [p.key for p in open_ones if free(p)]
    return running + found


def clocks(planned: Sequence[Planned], steps: Sequence[BuildStep], now: datetime) -> list[Clock]:
    """What sets since it was done, the soonest first; what has carried its load for an hour is no longer told."""
    out = []
    for p, o in zip(planned, steps, strict=True):
        if p.state == "done" and p.sets is not None:
            for ends, what in ((p.sets, "holds itself"), (p.loaded, "carries its load")):
                if ends is not None and (now - ends).total_seconds() < FORGOTTEN_S:
                    says = f"{o.glue[:1].upper()}{o.glue[1:]}, {told(o)}: {what}"
                    out.append(Clock(key=p.key, says=says, begins=p.ends, ends=ends, ready=ends <= now))
    return sorted(out, key=lambda c: c.ends)
