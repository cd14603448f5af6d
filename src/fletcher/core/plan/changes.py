"""A plan as its builder changed it: own steps, own times, another order, later, in parts, left out.

A change whose step is no longer in the document does nothing; the plan says so. What cannot be is refused by name:
steps that wait for one another, a glued step in parts, a gate that nobody may pass by.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import datetime

from fletcher.core.materials.uncertainty import Band
from fletcher.core.plan.schedule import After, Impossible, Step, in_order
from fletcher.core.plan.schema import AfterAt, BuildStep
from fletcher.core.plan.work import Change, LeftOut, NotBefore, OwnOrder, OwnSplit, OwnStep, OwnTime

MENDING = "repair/"
"""How the key of a step of a repair begins."""
KEPT = frozenset({"bench", "flight", "balance"})
"""Steps that are never left out: nothing flies unweighed or untested."""


def changed(steps: list[BuildStep], changes: Sequence[Change]) -> tuple[list[BuildStep], list[str]]:
    """The steps after all changes, in order, and what is to be said of them.

    Raises
    ------
    Impossible
        Where a change cannot be; the steps that wait for one another are named.
    """
    out = {o.key: o for o in steps}
    remarks: list[str] = []
    for c in changes:
        if not isinstance(c, OwnStep) and c.key not in out:
            remarks.append(f"A change of yours does nothing: its step ({c.key}) is no longer in this plan.")
            continue
        if isinstance(c, OwnStep):
            _add(out, c)
        elif isinstance(c, OwnTime):
            out[c.key] = out[c.key].model_copy(update={"minutes": _exactly(c.minutes)})
        elif isinstance(c, OwnOrder):
            if c.after in out:
                _wait(out, c.key, AfterAt(key=c.after, wait_min=0, why="your order"))
        elif isinstance(c, OwnSplit):
            _split(out, c)
        elif isinstance(c, LeftOut):
            remarks.append(_leave_out(out, c))
    _require_no_ring(list(out.values()))
    return list(out.values()), remarks


def concerning(changes: Sequence[Change], steps: Collection[str] | None) -> list[Change]:
    """Changes of the steps of a repair; None: those of the build, which are all others."""

    def of_repair(c: Change) -> bool:
        keys = {*c.after, *c.before} if isinstance(c, OwnStep) else {c.key}
        return any(k.startswith(MENDING) for k in keys) if steps is None else bool(keys & set(steps))

    return [c for c in changes if of_repair(c) == (steps is not None)]


def put_off(changes: Sequence[Change]) -> dict[str, datetime]:
    """Before which moment a step does not begin, by its key: the last word of each."""
    return {c.key: c.at for c in changes if isinstance(c, NotBefore)}


def _exactly(minutes: float) -> Band:
    return Band(low=minutes, typ=minutes, high=minutes)


def _wait(out: dict[str, BuildStep], key: str, after: AfterAt) -> None:
    out[key] = out[key].model_copy(update={"after": [*out[key].after, after]})


def _add(out: dict[str, BuildStep], c: OwnStep) -> None:
    after = [AfterAt(key=k, wait_min=out[k].fixed_min, why="your order") for k in c.after if k in out]
    out[c.key] = BuildStep(
        key=c.key, part_id=None, layer_id=None, piece="", title=c.title, minutes=_exactly(c.minutes), people=1, glue="",
        glue_key="", fixed_min=0, loaded_min=0, after=after, hold={}, tools=[], gates=[], cards=[], cautions=[],
        undoes=True, made_of="",
    )  # fmt: skip
    for key in c.before:
        if key in out:
            _wait(out, key, AfterAt(key=c.key, wait_min=c.wait_min, why=c.title))


def _split(out: dict[str, BuildStep], c: OwnSplit) -> None:
    """All parts but the last come as steps of their own before it; the last one keeps the key, so that what waits for
    the step waits for it."""
    whole = out[c.key]
    if whole.glue or any(a.within_min is not None for o in out.values() for a in o.after if c.key in (a.key, o.key)):
        raise Impossible(f"{told(whole)}: cannot be done in parts, its glue sets")
    after = whole.after
    for n, minutes in enumerate(c.parts[:-1], 1):
        key = f"{c.key}/part{n}"
        out[key] = whole.model_copy(update={
            "key": key, "title": f"{whole.title}, part {n}", "minutes": _exactly(minutes), "after": after,
        })  # fmt: skip
        after = [AfterAt(key=key, wait_min=0, why="the part before")]
    out[c.key] = whole.model_copy(update={
        "title": f"{whole.title}, part {len(c.parts)}", "minutes": _exactly(c.parts[-1]), "after": after, "gates": [],
        "cautions": [],
    })  # fmt: skip


def _leave_out(out: dict[str, BuildStep], c: LeftOut) -> str:
    """What waited for the step waits for what it waited for."""
    gone = out[c.key]
    if c.key in KEPT or gone.daylight or any(g.key == "cured" for g in gone.gates):
        raise Impossible(f"{told(gone)}: is never left out")
    del out[c.key]
    for key, o in out.items():
        if any(a.key == c.key for a in o.after):
            kept = [a for a in o.after if a.key != c.key]
            known = {a.key for a in kept}
            out[key] = o.model_copy(update={"after": kept + [a for a in gone.after if a.key not in known]})
    return f"Left out: {told(gone)} ({c.why})."


def told(o: BuildStep) -> str:
    """A step as a reader knows it."""
    return f"{o.title} ({o.piece})" if o.piece else o.title


def _require_no_ring(steps: list[BuildStep]) -> None:
    in_order([Step(o.key, 1, tuple(After(a.key) for a in o.after), title=told(o)) for o in steps])
