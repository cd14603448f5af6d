r"""What flying wings and foreplanes ask besides a range of the centre.

A flying wing trims where C_m0 = margin · C_L; washout θ gives C_m0 = −½·(a/(S c̄))·2∫θ c (x_¼ − x_ac) dy, half of what
strips alone would say (Schrenk's rule; [J] right within 15 %). A foreplane must reach its largest lift first.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from fletcher.core.balance.planform import Planform

STALL_FIRST = 1.1
"""[J] 1.05–1.25: the foreplane uses so much more of its largest lift than the wing."""
CRUISE = 1.4
"""[J] Cruise over stall speed."""
WASHOUT_MOST_DEG = 8.0
"""[J] More washout than that costs more than a section of its own moment."""
LEAST_EACH = 1e-4
"""C_m0 per degree of washout below which the wing is as good as straight."""
_STRIPS = 400


def washout_moment(wing: Planform, slope: float, tip_deg: float) -> float:
    """C_m0 of washout that grows evenly from the root to the tip (negative: nose down there)."""
    y, chord = wing.strips(_STRIPS)
    first = next(e.y_mm for e in wing.edges if e.y_mm > 0 or len(wing.edges) == 2)
    root = first if first < wing.edges[-1].y_mm else wing.edges[0].y_mm
    twist = math.radians(tip_deg) * np.clip((y - root) / (wing.edges[-1].y_mm - root), 0.0, 1.0)
    nose = np.interp(y, [e.y_mm for e in wing.edges], [e.x_mm for e in wing.edges])
    away = nose + 0.25 * chord - wing.centre_mm
    width = (wing.edges[-1].y_mm - wing.edges[0].y_mm) / _STRIPS
    half = float(np.sum(twist * chord * away)) * width
    return -0.5 * slope / (wing.area_mm2 * wing.mean_chord_mm) * wing.sides * half


def washout_for(wing: Planform, slope: float, moment: float) -> float | None:
    """Washout at the tip, degrees, that gives such a C_m0; None where the wing is too straight for it."""
    each = washout_moment(wing, slope, -1.0)
    return None if each <= LEAST_EACH else -moment / each


@dataclass(frozen=True)
class Loads:
    """How a foreplane and a wing share the weight: grams each, and the share of its largest lift that the foreplane
    uses over that of the wing."""

    fore_g: float
    wing_g: float
    first: float

    @property
    def flyable(self) -> bool:
        """Whether the foreplane stalls first."""
        return self.first >= STALL_FIRST


def shared(
    grams: float, centre_mm: float, fore: tuple[float, float, float], wing: tuple[float, float, float]
) -> Loads:  # fmt: skip
    """Loads of a foreplane and a wing, each with its aerodynamic centre (mm), area and largest lift coefficient; their
    sections have no moments of their own."""
    fore_share = (wing[0] - centre_mm) / (wing[0] - fore[0])
    fore_g, wing_g = grams * fore_share, grams * (1 - fore_share)
    used = (fore_g / fore[1] / fore[2]) / (wing_g / wing[1] / wing[2])
    return Loads(fore_g, wing_g, used)
