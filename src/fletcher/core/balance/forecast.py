r"""Flying mass and centre of gravity while part of the airframe is weighed.

Each line i has a standard normal u_i = Σ_f √share_if · z_f + √(1 − Σ share) · r_i, all z and r independent, and weighs
m_i = typ·exp(u_i σ), σ = ln(high/typ)/1.645 above and ln(typ/low)/1.645 below. Weighings and centres update (z, r) at
their mode by Gauss–Newton, z ← Hᵀ(HHᵀ + R)⁻¹(y − h(z) + Hz) (Gelb, Applied Optimal Estimation; Gelman et al., Bayesian
Data Analysis). Axes: n lines, k factors, s draws.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array

Z95 = 1.6448536269514722
DRAWS = 2000
SEED = 20260401
_ROUNDS, _HALVE_FROM, _CLOSE = 40, 12, 1e-9


@dataclass(frozen=True)
class Line:
    """What weighs: grams, where along the airframe, and the shares of its variance that it has in common with others,
    by cause."""

    name: str
    typ: float
    low: float
    high: float
    x_mm: float
    causes: Mapping[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not 0 < self.low <= self.typ <= self.high:
            raise ValueError(f"{self.name}: needs 0 < low ≤ typical ≤ high")
        if sum(self.causes.values()) > 1 + 1e-9:
            raise ValueError(f"{self.name}: shares of the variance add up to more than 1")


def line(name: str, typ: float, x_mm: float, sd: float, causes: Mapping[str, float] | None = None) -> Line:
    """A line whose logarithm has the standard deviation `sd` on both sides."""
    return Line(name, typ, typ * math.exp(-Z95 * sd), typ * math.exp(Z95 * sd), x_mm, causes or {})


@dataclass(frozen=True)
class Weighed:
    """A set of lines that lay on the scale together, what it read, and the standard deviation of that."""

    lines: tuple[int, ...]
    grams: float
    sd_g: float


@dataclass(frozen=True)
class Centred:
    """Where the centre of a set of lines was found, and the standard deviation of that."""

    lines: tuple[int, ...]
    x_mm: float
    sd_mm: float


@dataclass(frozen=True)
class Known:
    """What is known of a common cause from elsewhere, in multiples of its own standard deviation, with the standard
    deviation of that."""

    cause: str
    value: float
    sd: float


Seen = Weighed | Centred | Known


class Forecast:
    """Lines and what was weighed of them. `mode` (k + n,) and `covariance` (k + n, k + n) of the causes and the lines'
    own parts."""

    def __init__(self, lines: Sequence[Line], seen: Sequence[Seen] = ()) -> None:
        self.lines = tuple(lines)
        self.causes = sorted({c for one in lines for c in one.causes})
        self.seen = tuple(s for s in seen if not isinstance(s, Known) or s.cause in self.causes)
        n = len(self.lines)
        self._typ = np.array([one.typ for one in lines])
        self._up = np.array([math.log(one.high / one.typ) / Z95 for one in lines])
        self._down = np.array([math.log(one.typ / one.low) / Z95 for one in lines])
        self._x = np.array([one.x_mm for one in lines])
        shares = np.array([[one.causes.get(c, 0.0) for c in self.causes] for one in lines]).reshape(n, -1)
        own = np.sqrt(np.maximum(1 - shares.sum(1), 0.0))
        self._to_u = np.hstack([np.sqrt(shares), np.diag(own)])
        self.mode, self.covariance = self._update()

    def _sigma(self, u: Array) -> Array:
        return np.where(u > 0, self._up, np.where(u < 0, self._down, (self._up + self._down) / 2))

    def grams_at(self, z: Array) -> Array:
        """Masses of all lines, (n,) or (s, n), for causes and own parts (k + n,) or (s, k + n)."""
        u = z @ self._to_u.T
        return np.asarray(self._typ * np.exp(u * self._sigma(u)))

    def _slopes(self, z: Array) -> tuple[Array, Array]:
        """Masses (n,) and their derivatives by z, (n, k + n)."""
        u = self._to_u @ z
        grams = self.grams_at(z)
        return grams, (grams * self._sigma(u))[:, None] * self._to_u

    def _predicted(self, one: Seen, z: Array, grams: Array, by: Array) -> tuple[float, Array, float, float]:
        """What a weighing should say, its derivative by z, what it said, and the variance of that."""
        if isinstance(one, Known):
            unit = np.zeros(by.shape[1])
            at_cause = self.causes.index(one.cause)
            unit[at_cause] = 1.0
            return float(z[at_cause]), unit, one.value, one.sd**2
        at = list(one.lines)
        total, d_total = float(grams[at].sum()), by[at].sum(0)
        if isinstance(one, Weighed):
            return math.log(total), d_total / total, math.log(one.grams), (one.sd_g / one.grams) ** 2
        centre = float(grams[at] @ self._x[at] / total)
        return centre, (self._x[at] - centre) @ by[at] / total, one.x_mm, one.sd_mm**2

    def _update(self) -> tuple[Array, Array]:
        size = self._to_u.shape[1]
        z = np.zeros(size)
        if not self.seen:
            return z, np.eye(size)
        for n in range(_ROUNDS):
            gain, H, told, said, _ = self._gain(z)
            new = gain @ (said - told + H @ z)
            step = (new - z) * (0.5 if n >= _HALVE_FROM else 1.0)
            z = z + step
            if np.max(np.abs(step)) < _CLOSE:
                break
        gain, H, *_ = self._gain(z)
        return z, np.eye(size) - gain @ H

    def _gain(self, z: Array) -> tuple[Array, Array, Array, Array, Array]:
        grams, by = self._slopes(z)
        rows = [self._predicted(one, z, grams, by) for one in self.seen]
        H = np.array([r[1] for r in rows])
        told, said, R = (np.array([r[i] for r in rows]) for i in (0, 2, 3))
        return H.T @ np.linalg.inv(H @ H.T + np.diag(R)), H, told, said, R

    @cached_property
    def _at_mode(self) -> tuple[Array, Array]:
        return self._slopes(self.mode)

    @property
    def grams(self) -> Array:
        """Masses of all lines at the mode, (n,)."""
        return self._at_mode[0]

    def cause_values(self) -> dict[str, tuple[float, float]]:
        """What was learned of every common cause, in multiples of its own standard deviation, and the standard
        deviation of that."""
        return {c: (float(self.mode[i]), math.sqrt(self.covariance[i, i])) for i, c in enumerate(self.causes)}

    def mass(self, of: Sequence[int] | None = None) -> tuple[float, float]:
        """Mass of a set of lines (None: of all) at the mode, and its first-order standard deviation."""
        at = list(range(len(self.lines)) if of is None else of)
        grams, by = self._at_mode
        slope = by[at].sum(0)
        return float(grams[at].sum()), math.sqrt(float(slope @ self.covariance @ slope))

    def centre(self) -> tuple[float, float]:
        """Centre of all lines along the airframe at the mode, and its first-order standard deviation."""
        grams, by = self._at_mode
        x = float(grams @ self._x / grams.sum())
        slope = (self._x - x) @ by / grams.sum()
        return x, math.sqrt(float(slope @ self.covariance @ slope))

    def correlation(self) -> float:
        """Of mass and centre, first order."""
        grams, by = self._at_mode
        x = float(grams @ self._x / grams.sum())
        a, b = by.sum(0), (self._x - x) @ by / grams.sum()
        both = float(a @ self.covariance @ b)
        return both / math.sqrt(float(a @ self.covariance @ a) * float(b @ self.covariance @ b))

    @cached_property
    def draws(self) -> Array:
        """Masses (s, n) of builds that agree with what was weighed, each beside its mirror image; always the same."""
        size = len(self.mode)
        half = np.random.default_rng(SEED).standard_normal((DRAWS // 2, size))
        values, vectors = np.linalg.eigh(self.covariance)
        spread = half @ (vectors * np.sqrt(np.maximum(values, 0.0))).T
        return self.grams_at(np.vstack([self.mode + spread, self.mode - spread]))

    def bands(self) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
        """5, 50 and 95 % of mass and of the centre."""
        grams = self.draws
        total = grams.sum(1)
        low, mid, high = np.percentile(total, [5, 50, 95])
        first, middle, last = np.percentile(grams @ self._x / total, [5, 50, 95])
        return (float(low), float(mid), float(high)), (float(first), float(middle), float(last))

    def surprise(self, one: Weighed) -> float:
        """How many standard deviations a weighing lies from what was forecast for it, heavier positive."""
        grams, by = self._at_mode
        told, slope, said, var = self._predicted(one, self.mode, grams, by)
        return (said - told) / math.sqrt(float(slope @ self.covariance @ slope) + var)

    def narrows(self, lines: Sequence[int], sd_g: float) -> float:
        """By how much weighing a set would lessen the variance of the centre, mm²."""
        grams, by = self._at_mode
        x = float(grams @ self._x / grams.sum())
        centre = (self._x - x) @ by / grams.sum()
        total = float(grams[list(lines)].sum())
        H = by[list(lines)].sum(0) / total
        seen = self.covariance @ H
        return float((centre @ seen) ** 2 / (H @ seen + (sd_g / total) ** 2))
