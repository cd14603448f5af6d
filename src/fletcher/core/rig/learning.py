r"""What tests tell of what is unknown: the posterior of whitened unknowns, z ~ N(0, I).

A test is the logarithm of something that was read, with what the model makes of it at any z. Read: the density; held
without a break: the chance of holding so much; broken between two loads: the chance of that. Each is a slip of the
decimal point, the unit or the place with odds π, flat over a factor of twenty either way: its pull then goes to zero.
Errors that tests share are unknowns of their own.

Up to two unknowns a grid is exact. Beyond, importance: damped Newton steps to the best point, its curvature, fixed
Sobol points of a multivariate t with eight degrees about it, weighted by the true posterior (Kong 1992 for their
effective number).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import minimize
from scipy.special import chdtri, log_ndtr, logsumexp, ndtr, ndtri
from scipy.stats import qmc

from fletcher.core.common.arrays import Array

SLIP, FLAT = 0.05, 1 / (2 * math.log(20))
"""[J] Odds that a test is a slip, and its density then, per unit of the logarithm."""
LINE, SQUARE, REACH = 2001, 301, 6.0
"""Grid points of one unknown, and along either of two, and how far out."""
POINTS, MORE, DEGREES = 2048, 8192, 8
"""Sobol points, how many where too few of them count, and degrees of the t."""
FEWEST, ROUNDS, _KEPT = 200.0, 4, 0.7
_STEP = 1e-3

Model = Callable[[Array], Array]


@dataclass(frozen=True)
class Seen:
    """The logarithm of what was read, `model` (n, d) -> (n,) of what it should be, and the spread between both. `held`:
    it was at least so much; `between`: it lay between that and `upper`. `sure`: somebody looked, it is no slip."""

    model: Model
    value: float
    spread: float
    how: Literal["read", "held", "between"] = "read"
    upper: float = math.inf
    sure: bool = False

    def logs(self, z: Array) -> tuple[Array, Array]:
        """Logarithms of what it says if it is right, and of what a slip would say, (n,)."""
        f = self.model(z)
        if self.how == "read":
            off = (self.value - f) / self.spread
            right = -0.5 * off**2 - math.log(self.spread * math.sqrt(2 * math.pi))
            return right, np.full_like(f, math.log(FLAT))
        held = log_ndtr((f - self.value) / self.spread)
        if self.how == "held":
            return held, np.full_like(f, math.log(0.5))
        low, high = ((v - f) / self.spread for v in (self.value, self.upper))
        right = np.log(np.maximum(ndtr(high) - ndtr(low), 1e-300))
        return right, np.full_like(f, math.log(max((self.upper - self.value) * FLAT, 1e-12)))

    def told(self, z: Array) -> tuple[Array, Array]:
        """Logarithm of its likelihood at z, and its odds of being a slip there, (n,)."""
        right, slip = self.logs(z)
        if self.sure:
            return right, np.zeros_like(right)
        a, b = right + math.log(1 - SLIP), slip + math.log(SLIP)
        whole = np.logaddexp(a, b)
        return whole, np.exp(b - whole)


@dataclass(frozen=True)
class Posterior:
    """Points (n, d) with weights that add up to one; mean and covariance of them; how many of them count; and the odds
    of each test to be a slip."""

    points: Array
    weights: Array
    mean: Array
    covariance: Array
    effective: float
    slips: tuple[float, ...]

    def quantiles(self, values: Array, at: Sequence[float] = (0.05, 0.5, 0.95)) -> tuple[float, ...]:
        """Weighted quantiles of something (n,) at the points."""
        ordered, which = np.unique(np.round(values, 12), return_inverse=True)  # a grid has the same value many times
        weights = np.bincount(which, self.weights)
        return tuple(float(v) for v in np.interp(at, np.cumsum(weights) - 0.5 * weights, ordered))


def learn(unknowns: int, tests: Sequence[Seen]) -> Posterior:
    """The posterior of so many unknowns after tests, in whichever order they come."""
    if unknowns <= 2:
        return _weighed(_grid(unknowns), None, tests)
    best, curved = _best(unknowns, tests)
    root: Array = np.asarray(np.linalg.cholesky(np.linalg.inv(curved)))
    found = _drawn(best, root, tests, POINTS)
    for _ in range(ROUNDS):
        if found.effective >= FEWEST:
            break
        # too few points count: about where they lie now, a little wider
        spread = (1 - _KEPT) * root @ root.T + _KEPT * found.covariance
        root = np.asarray(np.linalg.cholesky(1.2 * spread + 1e-9 * np.eye(unknowns)))
        found = _drawn(found.mean, root, tests, MORE)
    return found


def _grid(unknowns: int) -> Array:
    if unknowns == 1:
        return np.linspace(-REACH, REACH, LINE)[:, None]
    one = np.linspace(-REACH, REACH, SQUARE)
    return np.stack(np.meshgrid(one, one, indexing="ij"), -1).reshape(-1, 2)


def _log_posterior(z: Array, tests: Sequence[Seen]) -> Array:
    out = -0.5 * (z * z).sum(1)
    for t in tests:
        out = out + t.told(z)[0]
    return np.asarray(out)


def _best(unknowns: int, tests: Sequence[Seen]) -> tuple[Array, Array]:
    """The best point, and the curvature of the posterior there, at least that of the prior over ten."""
    steps = _STEP * np.eye(unknowns)

    def slope(z: Array) -> Array:
        values = _log_posterior(np.concatenate([z + steps, z - steps]), tests)
        return np.asarray(-(values[:unknowns] - values[unknowns:]) / (2 * _STEP))

    found = minimize(lambda z: float(-_log_posterior(z[None], tests)[0]), np.zeros(unknowns), jac=slope,
                     method="BFGS", options={"gtol": 1e-4, "maxiter": 200})  # fmt: skip
    best = np.asarray(found.x)
    wide = 0.05  # across a kink of a two-piece range rather than at it
    curved = np.array([(slope(best + wide * e) - slope(best - wide * e)) / (2 * wide) for e in np.eye(unknowns)])
    values, vectors = np.linalg.eigh(0.5 * (curved + curved.T))
    return best, np.asarray((vectors * np.maximum(values, 0.1)) @ vectors.T)


def _drawn(best: Array, root: Array, tests: Sequence[Seen], count: int) -> Posterior:
    d = len(best)
    uniform = np.clip(qmc.Sobol(d + 1, scramble=True, seed=1).random(count), 1e-9, 1 - 1e-9)
    normal = ndtri(uniform[:, :d])
    scale = np.sqrt(DEGREES / chdtri(DEGREES, uniform[:, d]))
    z = best + (normal * scale[:, None]) @ root.T
    apart = (normal * normal).sum(1) * scale**2
    log_t = -0.5 * (DEGREES + d) * np.log1p(apart / DEGREES)
    return _weighed(z, log_t, tests)


def _weighed(z: Array, log_drawn: Array | None, tests: Sequence[Seen]) -> Posterior:
    logs = _log_posterior(z, tests) - (0.0 if log_drawn is None else log_drawn)
    weights = np.exp(logs - logsumexp(logs))
    mean = weights @ z
    off = z - mean
    slips = tuple(float(weights @ t.told(z)[1]) for t in tests)
    return Posterior(z, weights, mean, (weights[:, None] * off).T @ off, float(1 / (weights @ weights)), slips)
