r"""A strip bent far: large rotations under a load at its end, where small-bend theory no longer holds.

With s along the strip, θ its slope and x, z its line, x' = cos θ, z' = sin θ, θ' = κ(M, s), and
M(s) = M₀ (1 − x(s)/x(L)) for a load at the end that keeps its direction (the elastica where κ = M/EI; Euler 1744, Love
1927 § 260 ff.). The line is found by putting it in again: only its shape, not its size, enters the moments.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.integrate import cumulative_trapezoid

from fletcher.core.common.arrays import Array

POINTS = 81
"""Places along the strip, evenly spaced."""


@dataclass(frozen=True)
class Bent:
    """A strip bent by a load at its end: the load (N), how far its end has moved square to the strip and towards the
    root (mm), the end's slope (rad), and its line `x`, `z` (points,), mm."""

    load_N: float
    across_mm: float
    drawn_in_mm: float
    slope: float
    x: Array
    z: Array


def bend_strip(curvature: Callable[[Array], Array], length: float, moment: float) -> Bent | None:
    """A strip whose root takes `moment` (N·mm) under a load at its end; None if it curls up before.

    `curvature(M)` gives κ (1/mm) at all `POINTS` places for the moments (points,) there.
    """
    h = length / (POINTS - 1)
    x = np.linspace(0, length, POINTS)
    z, slope, pace, before = np.zeros(POINTS), 0.0, 1.0, np.inf
    for _ in range(80):
        bent = curvature(moment * (1 - x / x[-1]))
        theta = cumulative_trapezoid(bent, dx=h, initial=0)
        middle = 0.5 * (theta[1:] + theta[:-1])
        z = np.concatenate([[0.0], np.cumsum(h * np.sin(middle))])
        new = np.concatenate([[0.0], np.cumsum(h * np.cos(middle))])
        if new[-1] < 0.12 * length:
            return None
        slope, change = float(theta[-1]), float(np.abs(new - x).max())
        if change < 1e-5 * length:
            break
        if change > 0.7 * before:  # far bends swing about the answer
            pace = max(0.5 * pace, 0.1)
        x, before = x + pace * (new - x), change
    else:
        return None
    return Bent(moment / float(x[-1]), float(z[-1]), length - float(x[-1]), slope, x, z)
