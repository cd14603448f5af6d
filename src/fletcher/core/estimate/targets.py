"""What the builder wants against what the estimate says: targets are ranges, for some wings are meant to flex."""

from __future__ import annotations

from typing import Literal

from fletcher.core.document.airframe import Part
from fletcher.core.document.cases import Between, Case
from fletcher.core.estimate.schema import TargetResult, Warp
from fletcher.core.materials.uncertainty import Band


def judged(figure: str, wanted: Between | None, value: Band | None) -> TargetResult | None:
    """A figure against its range; None where nothing is wanted or nothing can be read."""
    if wanted is None or value is None or (wanted.low is None and wanted.high is None):
        return None
    low = -float("inf") if wanted.low is None else wanted.low
    high = float("inf") if wanted.high is None else wanted.high
    side: Literal["under", "over"] | None = "under" if value.typ < low else "over" if value.typ > high else None
    sure = value.low >= low and value.high <= high
    may = value.high >= low and value.low <= high
    return TargetResult(
        figure=figure,
        low=wanted.low,
        high=wanted.high,
        value=value,
        met=("doubtful" if may else "no") if side else "sure" if sure else "likely",
        side=side,
    )


def sized(value: Band | None) -> Band | None:
    """The band of a figure's size, whichever way it points."""
    if value is None or value.low >= 0:
        return value
    ends = (abs(value.low), abs(value.high))
    low = 0.0 if value.low < 0 < value.high else min(ends)
    return value.model_copy(update={"typ": abs(value.typ), "low": low, "high": max(ends)})


def targets_of(
    part: Part,
    case: Case,
    bend: Band,
    twist: Band | None,
    margin: Band,
    added: Band,
    balance: Band,
    toughness: Band | None,
    warp: Warp | None,
) -> list[TargetResult]:
    """Every target that is set on a part and its case."""
    asked = (
        ("bend", case.bend_mm, bend),
        ("twist", case.twist_deg, sized(twist)),
        ("margin", part.targets.margin, margin),
        ("added", part.targets.added_g, added),
        ("balance", part.targets.balance_mm, balance),
        ("toughness", part.targets.toughness_mJ, toughness),
        ("bow", part.targets.bow_mm, None if warp is None else sized(warp.bow_mm)),
    )
    return [t for t in (judged(*a) for a in asked) if t is not None]
