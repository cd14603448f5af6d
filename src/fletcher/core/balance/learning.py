r"""What weighings teach: likely causes of a surprise, and the builder's own grams.

p_h ∝ π_h·N(ln y; ln ŷ_h, σ_h² + (σ_s/y)²). Own grams per area: precision 1/τ_B² + Σ 1/(τ_w² + σ_k²), the next job with
τ_w² more (Gelman et al., Bayesian Data Analysis: normal model with known variances).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Cause:
    """What may be behind a surprise: its chance beforehand, and what the piece would then weigh."""

    says: str
    chance: float
    grams: float
    sd: float
    """Of the logarithm."""


def likely(causes: Sequence[Cause], grams: float, sd_g: float) -> list[tuple[Cause, float]]:
    """The causes with their chance after the reading, the likeliest first."""

    def log_density(c: Cause) -> float:
        return math.log(c.chance) - 0.5 * _off(c, grams, sd_g) ** 2 - 0.5 * math.log(_variance(c, grams, sd_g))

    logs = [log_density(c) for c in causes]
    most = max(logs)  # far from all of them every density alone is as good as nothing
    weights = [math.exp(v - most) for v in logs]
    total = sum(weights)
    return sorted(((c, w / total) for c, w in zip(causes, weights, strict=True)), key=lambda pair: -pair[1])


def explains(cause: Cause, grams: float, sd_g: float, within: float) -> bool:
    """Whether a reading lies within so many standard deviations of what a cause would give."""
    return abs(_off(cause, grams, sd_g)) <= within


def _variance(c: Cause, grams: float, sd_g: float) -> float:
    return c.sd**2 + (sd_g / grams) ** 2


def _off(c: Cause, grams: float, sd_g: float) -> float:
    return math.log(grams / c.grams) / math.sqrt(_variance(c, grams, sd_g))


def two_sided(z: float) -> float:
    """Chance of lying at least so many standard deviations away."""
    return math.erfc(abs(z) / math.sqrt(2))


@dataclass(frozen=True)
class Job:
    """A wet step weighed before and after, on so much area or length."""

    before_g: float
    after_g: float
    sd_g: float
    size: float
    size_sd: float
    """Of its logarithm."""

    @property
    def value(self) -> float:
        """Grams per area or length."""
        return (self.after_g - self.before_g) / self.size

    @property
    def sd(self) -> float:
        """Of its logarithm: σ² = 2σ_s²/Δm² + σ_A²/A²."""
        return math.sqrt(2 * (self.sd_g / (self.after_g - self.before_g)) ** 2 + self.size_sd**2)


def own_value(table: float, builders_sd: float, jobs_sd: float, jobs: Sequence[Job]) -> tuple[float, float, float]:
    """The builder's own value, its standard deviation and that of the next job (both of the logarithm)."""
    precision, mean = 1 / builders_sd**2, math.log(table) / builders_sd**2
    for job in jobs:
        weight = 1 / (jobs_sd**2 + job.sd**2)
        precision += weight
        mean += weight * math.log(job.value)
    return math.exp(mean / precision), math.sqrt(1 / precision), math.sqrt(1 / precision + jobs_sd**2)
