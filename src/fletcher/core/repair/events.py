"""The airframe's time line: what happened to it, and what the record shows together: a break beside a repair, damage
at one place again and again."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, from_root, in_mm
from fletcher.core.document.cases import PRINTABLE, Along, Document, Id
from fletcher.core.document.damage import Mark
from fletcher.core.repair.inspection import Crash
from fletcher.core.repair.phrasing import mark_words, place_of
from fletcher.core.repair.recipe import Recipe

BESIDE_MM = 60.0
"""[J] So near to the end of a repair a new break is laid to it."""
SAME_MM = 60.0
"""[J] Damage within this distance is damage at one place."""


class Flight(Document):
    """Flights that are logged together: how many, how long in all, in what wind, on which battery."""

    count: Annotated[int, Field(ge=1, le=500)] = 1
    minutes: Annotated[float | None, Field(ge=0, le=6000, description="Of all of them together")] = None
    wind_m_s: Annotated[float | None, Field(ge=0, le=40)] = None
    battery: Annotated[str, Field(max_length=80, pattern=PRINTABLE)] = ""


Kind = Literal["crash", "damage", "repair", "check", "note", "build", "weighing", "test", "flight", "wear"]


class Event(Document):
    """Something that happened to an airframe. Kinds are added as places need them; what a kind does not use is left
    out."""

    kind: Kind
    part_id: Id | None = None
    at_mm: Annotated[Along | None, Field(description="Where on the part")] = None
    flight: Flight | None = None
    says: Annotated[str, Field(min_length=1, max_length=600, pattern=PRINTABLE)]
    crash: Crash | None = None
    marks: Annotated[tuple[Mark, ...], Field(max_length=24)] = ()
    recipe: Recipe | None = None
    stretches_mm: Annotated[
        tuple[tuple[Along, Along], ...], Field(max_length=64, description="Where a repair lies along the part")
    ] = ()


class Finding(Result):
    """What the record shows: where, since when, and what it says."""

    kind: Literal["beside_repair", "repeated"]
    part_id: str
    at_mm: float
    times: list[datetime]
    says: str


def findings(record: Sequence[tuple[datetime, Event]]) -> list[Finding]:
    """Breaks within `BESIDE_MM` of the end of an earlier repair, and places that broke more than once; the record may
    be in any order."""
    out: list[Finding] = []
    ordered = sorted(record, key=lambda r: r[0])
    hits: dict[str, list[tuple[float, datetime]]] = {}
    for n, (when, event) in enumerate(ordered):
        if event.kind != "damage" or event.part_id is None:
            continue
        for mark in event.marks:
            at = place_of(mark)
            if at is None:
                continue
            hits.setdefault(event.part_id, []).append((at, when))
            for before, repair in ordered[:n]:
                if repair.kind == "repair" and repair.part_id == event.part_id and before < when:
                    end = _beside(at, repair)
                    if end is not None:
                        says = (
                            f"{mark_words(mark)}, beside the end at {in_mm(end, F0)} of the repair of "
                            f"{before:%d %b %Y}: its end made the next weak place. Reach further, stagger the ends."
                        )
                        out.append(Finding(kind="beside_repair", part_id=event.part_id, at_mm=at,
                                           times=[before, when], says=says))  # fmt: skip
    return [*_once(out), *_repeated(hits)]


def _beside(at: float, repair: Event) -> float | None:
    """The end of a repair that a place lies next to; None where it lies on a seam of its own or far away."""
    ends = [end for stretch in repair.stretches_mm for end in stretch]
    near = min(ends, key=lambda e: abs(e - at), default=None)
    return near if near is not None and 3 < abs(near - at) <= BESIDE_MM else None


def _once(found: list[Finding]) -> list[Finding]:
    """The first finding of each place and date."""
    seen: dict[tuple[str, float, datetime], Finding] = {}
    for f in found:
        seen.setdefault((f.part_id, f.at_mm, f.times[-1]), f)
    return list(seen.values())


def _repeated(hits: dict[str, list[tuple[float, datetime]]]) -> list[Finding]:
    out = []
    for part_id, places in hits.items():
        left = sorted(places)
        while left:
            group = [p for p in left if p[0] - left[0][0] <= SAME_MM]
            left = left[len(group) :]
            times = sorted({when for _, when in group})
            if len(times) > 1:
                at = sum(p for p, _ in group) / len(group)
                again = "reinforce it there instead of repairing it again."
                says = f"Broken {len(times)} times about {from_root(at)}: {again}"
                out.append(Finding(kind="repeated", part_id=part_id, at_mm=at, times=times, says=says))
    return out
