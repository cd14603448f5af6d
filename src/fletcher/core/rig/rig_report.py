"""What tests say of an airframe: each against its prediction, materials and parts before and after, what to doubt."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from typing import Any, Literal

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band, draw_bar, draw_foam, draw_skin
from fletcher.core.rig.rig_tests import RigTest, part_and_case
from fletcher.core.rig.teaching import Lessons, Reading, batches, lessons, predicted, taught

DOUBT = 0.5
"""Odds of a slip from which on a test is shown as suspect."""


class ReadingTold(Result):
    """A test against its prediction before any was made: bend per load in mm/N or break in N, its odds of being a slip,
    and in words."""

    test_id: str
    kind: Literal["bend", "break"]
    unit: str
    predicted: Band
    measured: float | None
    held: float | None
    inside: bool
    slip: float
    says: str


class MaterialTold(Result):
    """A property of a material before and after, and how many times as sure it is."""

    key: str
    name: str
    property: str
    unit: str
    before: Band
    after: Band
    surer: float


class PartTold(Result):
    """A part before and after in the case that leaves least: its margin, and its bend in the case first named, mm."""

    part_id: str
    name: str
    changed: bool
    margin_before: Band
    margin: Band
    bend_before: Band
    bend: Band


class RigReport(Result):
    """What tests teach of an airframe."""

    tests: list[ReadingTold]
    materials: list[MaterialTold]
    parts: list[PartTold]
    refused: list[str]
    says: str


def rig_report(airframe: Airframe, tests: Sequence[RigTest]) -> RigReport:
    """What tests of a checked airframe teach."""
    known = lessons(airframe, tests)
    told = [_test(airframe, r, known, n) for n, r in enumerate(known.readings)]
    gone = [t.id for t in tests if part_and_case(airframe, t) is None]
    refused = [f"Test {key}: {why}." for key, why in known.refused]
    refused += [f"Test {key}: its part or case is no longer there." for key in gone]
    inside = sum(t.inside for t in told)
    return RigReport(
        tests=told, materials=list(_materials(airframe, tests)),
        parts=[_part(airframe, p, tests) for p in airframe.parts if p.cases], refused=refused,
        says=f"{inside} of {len(told)} readings inside what was expected." if told else "No test yet.",
    )  # fmt: skip


def _band(values: Array) -> Band:
    low, high = (float(v) for v in np.percentile(values[1:], [5, 95]))
    return Band(low=low, typ=float(values[0]), high=high)


def _test(airframe: Airframe, r: Reading, known: Lessons, n: int) -> ReadingTold:
    expected = predicted(airframe, r)
    slip = known.slips[n] if known.slips else 0.0
    unit = "mm/N" if r.kind == "bend" else "N"
    value = math.exp(r.value) if r.how == "read" else None
    held = math.exp(r.value) if r.how != "read" else None
    middle = math.exp(0.5 * (r.value + r.upper)) if r.how == "between" else value
    inside = expected.low <= middle <= expected.high if middle is not None else (held or 0.0) <= expected.high
    if r.how == "held":
        seen = f"held {held:.3g} N"
    elif r.how == "between":
        seen = f"broke between {held:.3g} and {math.exp(r.upper):.3g} N"
    else:
        seen = f"bends {value:.3g} mm/N"
    doubt = (
        f" One in {1 / max(1 - slip, 1e-3):.0f} chances that this reading is real: it does not count until you say so."
        if slip > DOUBT and r.test.answer == "none"
        else ""
    )
    return ReadingTold(
        test_id=r.test.id, kind=r.kind, unit=unit, predicted=expected, measured=value, held=held, inside=inside,
        slip=slip, says=f"{seen}; expected {expected.typ:.3g} ({expected.low:.3g} to {expected.high:.3g}).{doubt}",
    )  # fmt: skip


_FOAM = (("E_compression", "E pushed", "MPa"), ("E_tension", "E pulled", "MPa"), ("G", "G", "MPa"),
         ("tensile", "tears at", "MPa"), ("crush", "crushes at", "MPa"), ("shear", "shears at", "MPa"))  # fmt: skip
_SKIN = (("Et", "E × thickness", "N/mm"), ("tensile", "tears at", "MPa"))
_BAR = (("E", "E", "MPa"), ("tensile", "breaks pulled at", "MPa"), ("compressive", "breaks pressed at", "MPa"))
TOLD = 1.05
"""A property that is less than so many times as sure is not told."""


def _materials(airframe: Airframe, tests: Sequence[RigTest]) -> Iterator[MaterialTold]:
    seen = set[str]()
    for part in airframe.parts:
        for key, now in batches(airframe, tests, part).items():
            if key not in seen:
                seen.add(key)
                yield from _properties(key, now)


def _properties(key: str, now: str) -> Iterator[MaterialTold]:
    c = reference()
    found: tuple[tuple[Any, Callable[[Any], Any], tuple[tuple[str, str, str], ...]], ...] = (
        (c.foams, draw_foam, _FOAM), (c.skins, draw_skin, _SKIN), (c.bars, draw_bar, _BAR)
    )  # fmt: skip
    for table, draw, told in found:
        if key not in table:
            continue
        before, after = draw(table[key]), draw(table[now])
        for field, name, unit in told:
            a, b = _band(getattr(before, field)), _band(getattr(after, field))
            surer = math.log(a.high / a.low) / max(math.log(b.high / b.low), 1e-9)
            if surer > TOLD:
                yield MaterialTold(key=key, name=table[key].name, property=name, unit=unit, before=a, after=b,
                                   surer=surer)  # fmt: skip


def _part(airframe: Airframe, part: Part, tests: Sequence[RigTest]) -> PartTold:
    after = taught(airframe, tests, part)
    before = estimate(airframe, part.id, brief=True)
    changed = airframe.model_copy(update={"parts": tuple(after if p.id == part.id else p for p in airframe.parts)})
    now = before if after is part else estimate(changed, part.id, brief=True)
    return PartTold(
        part_id=part.id, name=part.name, changed=after is not part, margin_before=before.verdict.margin,
        margin=now.verdict.margin, bend_before=before.deflection_mm, bend=now.deflection_mm,
    )  # fmt: skip
