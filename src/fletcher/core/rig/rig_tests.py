"""A bench test as it was made: which part or scrap, how it lay, what hung on it, what was read, where it broke."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.common.quantities import G3, in_mm, quantity
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import Case, Document, HandlingCase, Id, ThreePointCase, TipWeightCase
from fletcher.core.document.problems import Problem

GRAVITY = 9.80665
TESTED = (ThreePointCase, TipWeightCase, HandlingCase)
"""Cases that are tests: on two supports, a weight at a place, a push of the hand."""


class RigReading(Document):
    """A load that hung there, when it was read, and the bend, mm."""

    load_N: Annotated[float, Field(ge=0, le=5000)]
    at_s: Annotated[float, Field(ge=0, le=200_000)]
    bend_mm: Annotated[float, Field(ge=-2000, le=2000)]


class RigTest(Document):
    """A test of a part in one of its cases. `held_N`: what it bore; `broke_N`: the next load, under which it broke
    (null: it did not). `answer` is the builder's, where a test looked like a slip."""

    id: Id
    part_id: Id
    case_id: Id
    instrument: Literal["ruler", "dial_gauge"] = "ruler"
    readings: Annotated[tuple[RigReading, ...], Field(max_length=200)] = ()
    held_N: Annotated[float | None, Field(gt=0, le=5000)] = None
    broke_N: Annotated[float | None, Field(gt=0, le=5000)] = None
    answer: Literal["none", "real", "slip"] = "none"


def load_of(case: Case) -> float:
    """The load of a case that is a test, N.

    Raises
    ------
    ValueError
        Of a case that no weight makes.
    """
    if isinstance(case, HandlingCase):
        return case.force_N
    if isinstance(case, ThreePointCase | TipWeightCase):
        return case.weight_g * GRAVITY / 1000
    raise ValueError(f"{case.name} is no test: take a weight between supports, at a place, or a push")


def part_and_case(airframe: Airframe, test: RigTest) -> tuple[Part, Case] | None:
    """What a test is of; None where that is no longer there, or no test."""
    part = airframe.part(test.part_id)
    case = next((c for c in part.cases if c.id == test.case_id), None) if part is not None else None
    return (part, case) if part is not None and isinstance(case, TESTED) else None


def problems_of(airframe: Airframe, tests: tuple[RigTest, ...]) -> Iterator[Problem]:
    """What is wrong with tests, each with its place among them."""
    for n, t in enumerate(tests):
        if any(other.id == t.id for other in tests[:n]):
            yield Problem(path=f"tests[{n}].id", message="is there twice", value=t.id)
        part = airframe.part(t.part_id)
        if part is None:
            names = ", ".join(p.id for p in airframe.parts)
            yield Problem(path=f"tests[{n}].part_id", message=f"is no part of this airframe: {names}", value=t.part_id)
            continue
        found = part_and_case(airframe, t)
        if found is None:
            usable = ", ".join(c.id for c in part.cases if isinstance(c, TESTED)) or "none yet: add one on the Bench"
            message = f"is no test of {part.name} with a weight or a push: {usable}"
            yield Problem(path=f"tests[{n}].case_id", message=message, value=t.case_id)
        if t.held_N is not None and t.broke_N is not None and t.broke_N <= t.held_N:
            message = f"must lie above the {quantity(t.held_N, 'N', G3)} that it held"
            yield Problem(path=f"tests[{n}].broke_N", message=message, value=f"{t.broke_N:g}")
        beyond = [r for r in t.readings if t.broke_N is not None and r.load_N >= t.broke_N]
        for r in beyond:
            message = f"is a bend of {in_mm(r.bend_mm, G3)} under a load at which it had broken"
            yield Problem(path=f"tests[{n}].readings", message=message, value=f"{r.load_N:g} N")
        if not t.readings and t.held_N is None and t.broke_N is None:
            message = "needs readings of the bend, or what it held or broke at"
            yield Problem(path=f"tests[{n}].readings", message=message)
