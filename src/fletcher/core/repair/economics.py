"""Whether mending is worth it: hours, money, grams and strength that is left, against the part built anew."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fletcher.core.common.quantities import F1, in_g
from fletcher.core.estimate.effort import Effort, prices
from fletcher.core.materials.uncertainty import Band

WEAK = 80.0
"""[J] Below this per cent of its strength a mended part is told to be a stopgap."""


@dataclass(frozen=True)
class Worth:
    """Reasons in words, the worth of an hour at which both cost the same (None: one is always cheaper), and whether
    mending is cheaper at the worth that was asked."""

    says: str
    break_even: float | None
    mend: bool


def packs_of(needs: Sequence[tuple[str, str, bool | None]], cost: Band) -> float:
    """Credits on top of the shares that are used for whole packs of what is not at hand (`needs`: key, name, at
    hand)."""
    packs = sum(prices()[key].credits.typ for key, _, at_hand in needs if at_hand is False and key in prices())
    return max(packs - cost.typ, 0.0) if packs else 0.0


def worth_of(
    minutes: Band, cost: Band, anew: Effort, strength: Band, more_g: float, hour_worth: float
) -> Worth:  # fmt: skip
    """Mending costs m + h r and building anew m' + h' r at a worth r of an hour; they meet at (m' − m)/(h − h')."""
    hours = minutes.typ / 60
    spare_h, spare = anew.hours.typ - hours, anew.cost.typ - cost.typ
    mend = cost.typ + hours * hour_worth <= anew.cost.typ + anew.hours.typ * hour_worth
    meet = None
    if spare_h * spare < 0:
        meet = -spare / spare_h
    told = [
        (
            f"{hours:.1f} h and {cost.typ:.1f} for the repair; {anew.hours.typ:.1f} h and {anew.cost.typ:.1f} for "
            "a new part"
        )
    ]
    if strength.typ < WEAK:
        told.append(f"but with {strength.typ:.0f} % of the strength it is only a stopgap")
    elif strength.low < WEAK:
        told.append(f"{strength.typ:.0f} % of the strength ({strength.low:.0f} % at the low end)")
    else:
        told.append(f"{strength.typ:.0f} % of the strength")
    if more_g > 0.5:
        told.append(f"{in_g(more_g, F1)} heavier")
    return Worth("; ".join(told) + ".", meet, mend)
