"""How slowly a part that holds less than it needs may be flown: loads in flight grow with the square of the speed."""

from __future__ import annotations

import math
from dataclasses import dataclass

from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import Case
from fletcher.core.structure.able_to_fly import flies_from

IN_THE_AIR = frozenset({"pull_up", "turn", "gust", "tow", "tail_lift", "tail_load", "deflected", "motor_torque"})
"""Kinds of case in flight; landing and handling ask the same at any speed."""
_SLOWEST = 1.3
"""[J] No part is flown slower than so many times its stalling speed."""


def judging(part: Part) -> tuple[Case, ...]:
    """The load cases by which damage and repairs are judged: those that count, and all in the air. Whether something
    mended flies is never decided with a flight case switched off."""
    counted = part.counted
    return tuple(c for c in part.cases if c in counted or c.type in IN_THE_AIR)


@dataclass(frozen=True)
class Speeds:
    """How fast the aircraft is flown in its cases, and from which speed on it flies, m/s; None where no case says."""

    top_m_s: float | None
    stall_m_s: float


def speeds_of(airframe: Airframe, part: Part) -> Speeds:
    """The speeds of an airframe, by the cases of one of its parts."""
    fast = [v for c in part.cases if c.type in IN_THE_AIR and (v := getattr(c, "speed_m_s", None)) is not None]
    return Speeds(max(fast, default=None), flies_from(airframe, part))


def speed_left(share: float, top_m_s: float, stall_m_s: float) -> float | None:
    """Share of the top speed at which a part that holds this share of what is needed in flight may be flown, √share as
    loads grow with the square of the speed; None where that is too near the stall."""
    left = math.sqrt(max(min(share, 1.0), 0.0))
    return left if left * top_m_s >= _SLOWEST * stall_m_s else None
