"""The derivation of every figure of an estimate, in the one form of `estimate.derivation`."""

from __future__ import annotations

from fletcher.core.estimate.analyse import Analysis
from fletcher.core.estimate.derivations_in_hand import in_hand
from fletcher.core.estimate.derivations_of_effort import of_effort
from fletcher.core.estimate.derivations_of_load import of_load
from fletcher.core.estimate.effort import Effort
from fletcher.core.estimate.schema import Dent, SnapResult, Toughness, Warp, Working
from fletcher.core.strength.judgement import Event


def derivations(
    a: Analysis, told: list[Event], snaps: list[SnapResult], tough: list[Toughness], warp: Warp | None,
    dents: list[Dent], effort: Effort,
) -> list[Working]:  # fmt: skip
    """All of them; `told` are the failures in the order in which they are listed."""
    return [*of_load(a, told, snaps), *in_hand(a, tough, warp, dents), *of_effort(a, effort)]
