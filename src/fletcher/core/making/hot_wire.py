r"""A hot wire: what heats it so that it cuts, and how fast its two ends run.

A wire of diameter d and resistivity ρ has R' = 4ρ/πd² ohms per metre; p' watts per metre take I = √(p'/R') and, over
the length ℓ between the clips, U = √(p'R')·ℓ. Both ends pass their templates in the same time, so their feeds are as
the chords; where the tip is more than `MOST` times slower it melts wide, and the panel is cut in two.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

NICHROME = 1.10e-6
"""Resistivity of nickel-chromium wire, Ω·m (80/20 alloy, 1.08 to 1.12 over its range of heat)."""
SPARE_MM = 100.0
"""[J] Wire between the clips beyond the panel."""
MOST = 2.0
"""[J] Largest ratio of the feeds of the two ends."""


@dataclass(frozen=True)
class Wire:
    """Ohms per metre, amperes, volts and watts; feeds of root and tip in mm/s and the larger over the smaller."""

    ohm_m: float
    amps: float
    volts: float
    watts: float
    feed: tuple[float, float]
    ratio: float


def hot_wire(
    watts_m: float, feed_mm_s: float, chords_mm: tuple[float, float], long_mm: float, wire_mm: float = 0.4,
    resistivity: float = NICHROME,
) -> Wire:  # fmt: skip
    """A wire for a panel.

    Parameters
    ----------
    watts_m
        Heat per metre of wire that cuts this foam.
    feed_mm_s
        At the end with the longer chord.
    chords_mm
        Of the cut at root and tip.
    long_mm
        Wire between the clips.
    """
    ohm_m = 4 * resistivity / (math.pi * (wire_mm / 1e3) ** 2)
    amps, volts = math.sqrt(watts_m / ohm_m), math.sqrt(watts_m * ohm_m) * long_mm / 1e3
    longest = max(chords_mm)
    feeds = (feed_mm_s * chords_mm[0] / longest, feed_mm_s * chords_mm[1] / longest)
    return Wire(ohm_m, amps, volts, amps * volts, feeds, longest / min(chords_mm))
