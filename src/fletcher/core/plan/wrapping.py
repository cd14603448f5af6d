"""How long and wide pieces of film, tape and cloth are: round edges, in turns, in strips, on the bias."""

from __future__ import annotations

import math

import numpy as np

from fletcher.core.section.outline import Outline, faces

LAP_MM = 12.0
"""[J] Lap of film and paper at a seam or round an edge."""
_POINTS = 4001


def arc(outline: Outline, chord: float, thickness: float, face: str, start: float = 0.0, end: float = 1.0) -> float:
    """Length of the "upper" or "lower" face between two shares of the chord, mm."""
    first, last = (math.acos(1 - 2 * s) for s in (start, end))
    x = 0.5 * (1 - np.cos(np.linspace(first, last, _POINTS)))
    low, high = faces(outline, x, np.array([chord]), np.array([thickness]))
    z = np.ravel(high if face == "upper" else low)
    return float(np.hypot(np.diff(chord * x), np.diff(z)).sum())


def around(outline: Outline, chord: float, thickness: float) -> float:
    """Perimeter of a section with its upright edges in front and at the open tail, mm."""
    low, high = (np.ravel(v) for v in faces(outline, np.array([0.0, 1.0]), np.array([chord]), np.array([thickness])))
    return sum(arc(outline, chord, thickness, f) for f in ("upper", "lower")) + float(np.sum(high - low))


def turns(perimeter: float, count: float, lap: float, thick: float = 0.0) -> float:
    """What so many full turns take, mm; thick stuff lies further out with every turn, π t n²."""
    return count * perimeter + math.pi * thick * count**2 + lap


def thread_mm(around: float, along: float, pitch: float) -> float:
    """Thread that is wound round something, mm: a helix over a stretch, (ℓ/p) √((πd)² + p²) on a rod."""
    return along / pitch * math.hypot(around, pitch)


def hinge_tape(each_side: float, gap: float) -> float:
    """Width of a tape over a hinge line, mm."""
    return 2 * each_side + gap


def groove_tape(each_side: float, thick: float, bevels_deg: float) -> float:
    """Width of a tape into the open groove of bevels that make an angle together, mm."""
    return 2 * each_side + 2 * thick / math.cos(math.radians(bevels_deg / 2))


def strips(wide: float, strip: float, lap: float) -> int:
    """Strips of a width, lapped, that cover a face."""
    return max(math.ceil((wide - lap) / (strip - lap) - 1e-9), 1)


def bias_length(roll: float, wide: float, degrees: float) -> float:
    """Longest square-ended strip cut at an angle from a roll, mm."""
    a = math.radians(degrees)
    return roll / math.sin(a) - wide / math.tan(a)


def bias_lengths(long: float, lap: float, usable: float) -> int:
    """Lengths that a strip at an angle is joined from."""
    return 1 if long <= usable else math.ceil((long - lap) / (usable - lap) - 1e-9)
