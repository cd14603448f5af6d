"""How an airframe stands: the grade of every part and its reason in a line, and what is to be done next about it."""

from __future__ import annotations

from typing import Literal

from fletcher.core.common.abandon import look_up
from fletcher.core.common.model import Result
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.grades import GRADES, Grade
from fletcher.core.repair.inspection import what_is_left

_FLY: dict[str, Grade] = {"sure": "sure", "likely": "likely", "reduced": "doubtful", "no": "no"}


class PartStanding(Result):
    """A part with its grade: of its worst load case that counts, or of what damage leaves of it."""

    part_id: str
    name: str
    enough: Grade
    says: str
    damaged: bool


class Standing(Result):
    """The parts of an airframe in their order. `due` is what to do next, "" where nothing is; `at` the place where it
    is done, for the part `part_id`."""

    parts: list[PartStanding]
    due: str
    at: Literal["bench", "crash", "whole"]
    part_id: str | None


def standing(airframe: Airframe) -> Standing:
    """How a checked airframe stands, by estimates of all its parts.

    Raises
    ------
    Abandoned
        If nobody waits for it any more.
    """
    parts = []
    for part in airframe.parts:
        look_up()
        parts.append(_damaged(airframe, part) if part.damage else _sound(airframe, part))
    return _due(airframe, parts)


def _sound(airframe: Airframe, part: Part) -> PartStanding:
    told = estimate(airframe, part.id, brief=True)
    worst = next(v for v in told.verdicts if v.case_id == told.governs)
    if worst.limited:
        says = f"{worst.name}: breaks at {worst.breaks_at.typ:.2g} × this load, needs {worst.asked:g}"
    else:
        says = f"{worst.name}: not limited by anything computed here"
    return PartStanding(part_id=part.id, name=part.name, enough=worst.enough, says=says, damaged=False)


def _damaged(airframe: Airframe, part: Part) -> PartStanding:
    left = what_is_left(airframe, part)
    says = left.grounds[0] if left.grounds else left.says.split(". ")[0]
    return PartStanding(
        part_id=part.id, name=part.name, enough=_FLY[left.fly], says=phrasing.capital(says), damaged=True
    )


def _due(airframe: Airframe, parts: list[PartStanding]) -> Standing:
    """Damage comes first, then what does not hold, the worst first."""
    if not parts:
        return Standing(parts=[], due="Add the first part", at="whole", part_id=None)
    damaged = [p for p in parts if p.damaged]
    if damaged:
        first = max(damaged, key=lambda p: GRADES.index(p.enough))
        return Standing(parts=parts, due=f"Choose a repair: {first.name}", at="crash", part_id=first.part_id)
    flying = {p.id for p in airframe.parts if p.kind != "plank"}  # a test piece may break: that is what it is for
    worst = max((p for p in parts if p.part_id in flying), key=lambda p: GRADES.index(p.enough), default=parts[0])
    if worst.part_id in flying and worst.enough in ("no", "doubtful"):
        return Standing(parts=parts, due=f"Strengthen {worst.name}", at="bench", part_id=worst.part_id)
    return Standing(parts=parts, due="", at="whole", part_id=None)
