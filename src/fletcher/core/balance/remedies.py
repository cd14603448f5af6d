r"""What brings a centre of gravity to its target, what each costs, and in which order.

Δ = x_c − x_t > 0 is tail-heavy, D = M Δ the missing g·mm. Lever arithmetic; what a remedy gives is grams times distance
towards the target. Ranking: free moves, grams off, a useful swap, grams off with a loss, rebuilding, ballast last.
mm, g, g·mm.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import IntEnum

from fletcher.core.balance.forecast import Z95

DENSITY = {"lead": 11.34, "brass": 8.5, "steel": 7.85}
"""g/cm³."""
WORTH = 0.03
"""[J] A step that gives less than this share of what is missing is left out, unless nothing else reaches the target."""


class Class(IntEnum):
    """How dear a remedy is, in kind."""

    MOVE = 0
    LIGHTER = 1
    SWAP = 2
    THINNER = 3
    REBUILD = 4
    BALLAST = 5


@dataclass(frozen=True)
class Remedy:
    """A remedy: its class, the most it gives (g·mm towards the target), grams added per g·mm (negative: taken off),
    minutes, and whether every margin stays sufficient."""

    name: str
    kind: Class
    most: float
    grams_per: float
    minutes: float
    enough: bool = True


@dataclass(frozen=True)
class Step:
    """A remedy taken so far: what it gives, g·mm, and what it weighs more."""

    remedy: Remedy
    gives: float

    @property
    def grams(self) -> float:
        """Grams added."""
        return self.gives * self.remedy.grams_per


def ranked(remedies: Sequence[Remedy], missing: float) -> tuple[list[Remedy], list[Remedy]]:
    """The remedies in the order in which to take them, and those that are refused since they weaken the airframe."""
    good = [r for r in remedies if r.enough]

    def order(r: Remedy) -> tuple[int, bool, float, float, float]:
        gives = min(r.most, missing)
        return r.kind, r.most < missing, gives * r.grams_per, r.minutes, -gives

    return sorted(good, key=order), [r for r in remedies if not r.enough]


def plan(remedies: Sequence[Remedy], missing: float) -> list[Step]:
    """Remedies in order, each to its limit, the last just enough; steps that give next to nothing are left out where
    the rest does."""
    order, _ = ranked(remedies, missing)
    worth = [r for r in order if min(r.most, missing) >= WORTH * missing]
    for chosen in (worth, order):
        steps, left = [], missing
        for r in chosen:
            if left <= 1e-9 * missing:
                break
            gives = min(r.most, left)
            if gives > 0:
                steps.append(Step(r, gives))
                left -= gives
        if left <= 1e-9 * missing:
            return steps
    return steps


def forward(missing: float, grams: float) -> float:
    """How far forward an item of so many grams must move."""
    return missing / grams


def swapped(mass: float, centre: float, old: tuple[float, float], new: tuple[float, float]) -> tuple[float, float]:
    """Mass and centre once an item (grams, place) is another."""
    after = mass - old[0] + new[0]
    return after, (mass * centre - old[0] * old[1] + new[0] * new[1]) / after


def longer_nose(missing: float, target: float, cut: float, ahead_g: float, g_per_mm: float) -> float:
    """By how much a nose cut at `cut` with `ahead_g` in front of it must grow, of so many grams per mm:
    ½μn² + [m_n + μ(x_t − x_k)]n − D = 0.

    Raises
    ------
    ValueError
        Where nothing lies ahead and the new piece weighs nothing.
    """
    half, lever = 0.5 * g_per_mm, ahead_g + g_per_mm * (target - cut)
    if half == 0:
        if lever <= 0:
            raise ValueError("nothing lies ahead of the cut")
        return missing / lever
    return (-lever + math.sqrt(lever**2 + 4 * half * missing)) / (2 * half)


def price(at: float, target: float, foremost: float) -> float:
    """Grams at the foremost place that one gram at a place costs, to keep the target; negative: it helps.

    Raises
    ------
    ValueError
        Where no place lies ahead of the target.
    """
    if foremost >= target:
        raise ValueError("no place ahead of the target: no price")
    return (at - target) / (target - foremost)


def taken_off(missing: float, at: float, target: float) -> float:
    """Grams to take off at a place."""
    return missing / (at - target)


def wing_aft(off_mm: float, share_of_lift: float, share_of_mass: float) -> float:
    """How far aft the wing must move at a fixed margin: d = Δ/(λ − m_w/M)."""
    return off_mm / (share_of_lift - share_of_mass)


BALLAST_MOST = 0.2
"""[J] Nobody carries more of the flying mass as ballast: then the layout is wrong."""


def ballast(missing: float, target: float, at: float) -> float:
    """Grams of ballast at a place."""
    return missing / (target - at)


def ballast_size(grams: float, material: str, rod_mm: float) -> tuple[float, float, float]:
    """Of ballast: its volume in cm³, edge of a cube and length of a rod so thick, mm."""
    cm3 = grams / DENSITY[material]
    return cm3, 10 * cm3 ** (1 / 3), 4e3 * cm3 / (math.pi * rod_mm**2)


@dataclass(frozen=True)
class Bay:
    """Where the battery's centre must lie, its standard deviation, and the room that holds it at 90 %."""

    centre_mm: float
    sd_mm: float
    long_mm: float

    @property
    def ends_mm(self) -> tuple[float, float]:
        """From where to where the bay is cut."""
        half = 0.5 * self.long_mm + Z95 * self.sd_mm
        return self.centre_mm - half, self.centre_mm + half


def battery_bay(
    rest: Sequence[tuple[float, float, float]], battery: tuple[float, float, float], target: tuple[float, float]
) -> Bay:  # fmt: skip
    """Where a battery must go before its bay is cut: x_b = [x_t(M₀ + m_b) − Q₀]/m_b, ∂x_b/∂mᵢ = (x_t − xᵢ)/m_b,
    ∂x_b/∂x_t = (M₀ + m_b)/m_b. `rest` grams, place and standard deviation of the logarithm of all else; `battery` its
    grams, that deviation and its length; `target` and its deviation."""
    grams, sd, long_mm = battery
    x_t, sd_t = target
    mass = sum(m for m, _, _ in rest)
    at = (x_t * (mass + grams) - sum(m * x for m, x, _ in rest)) / grams
    var = sum(((x_t - x) / grams * m * s) ** 2 for m, x, s in rest)
    var += ((x_t - at) * sd) ** 2 + ((mass + grams) / grams * sd_t) ** 2
    return Bay(at, math.sqrt(var), long_mm)
