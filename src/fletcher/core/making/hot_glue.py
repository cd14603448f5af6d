"""A bead of hot glue: what it weighs, and how long one may get before its beginning is stiff."""

from __future__ import annotations

import math
from dataclasses import dataclass

BEAD_MM = 3.0
"""[J] Width of a round bead from an ordinary nozzle."""
GUN_G_MIN = 10.0
"""[J] What a small gun melts, grams a minute (8 to 15)."""


@dataclass(frozen=True)
class Bead:
    """Mass per length (g/m) and the longest that is laid within the open time (mm)."""

    g_per_m: float
    longest_mm: float


def bead(density_kg_m3: float, open_min: float) -> Bead:
    """A bead of π d²/4 at a density; as fast as the gun melts, as long as it stays open."""
    grams = math.pi / 4 * BEAD_MM**2 * density_kg_m3 * 1e-3
    return Bead(grams, 1e3 * GUN_G_MIN / grams * open_min)
