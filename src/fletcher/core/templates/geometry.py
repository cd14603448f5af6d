"""Shapes of templates: an outline moved outwards, a core parted round a web, the height of a dihedral gauge."""

from __future__ import annotations

import math

import numpy as np

from fletcher.core.common.arrays import Array

GAP_MM = 0.15
"""[J] Room for glue on each side of a web in a core."""
SLOT_MM = 0.2
"""[J] So much deeper than half is a half slot cut, for the two to close."""
_SHARPEST = 4.0
"""A corner is moved no further than so many times the offset."""


def outwards(outline: Array, by: float) -> Array:
    """A closed outline (n, 2), moved outwards by a distance all round, corners mitred; either turning sense."""
    p = outline[:-1] if np.allclose(outline[0], outline[-1]) else outline
    p = p[np.hypot(*(p - np.roll(p, 1, axis=0)).T) > 1e-9]
    x, y = p.T
    area = 0.5 * float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y))
    edge = np.roll(p, -1, axis=0) - p
    edge = edge / np.hypot(*edge.T)[:, None]
    normal = np.stack([edge[:, 1], -edge[:, 0]], 1) * (1 if area > 0 else -1)
    before = np.roll(normal, 1, axis=0)
    half = normal + before
    scale = 2 / np.maximum(np.sum(half * half, axis=1), 4 / _SHARPEST**2)
    return np.asarray(p + by * half * scale[:, None])


def core_split(chord: float, share: float, web: float, kerf: float, gap: float = GAP_MM) -> tuple[float, float, float]:
    """A core cut in two round a web: lengths of the front and rear piece along the chord, and what is taken off each
    face after one cut of the wire, mm. Front + rear + web + two gaps are the chord."""
    at = share * chord
    return at - web / 2 - gap, chord - at - web / 2 - gap, max((web + 2 * gap - kerf) / 2, 0.0)


def gauge_height(dihedral_deg: float, long: float, under_root: float, under_tip: float, at: float) -> float:
    """Height under the other half at a distance along its underside while one half lies flat on its own, mm: the
    undersides are no reference lines, each leans by β = atan((u_root − u_tip)/L)."""
    beta = math.atan((under_root - under_tip) / long)
    return at * math.sin(2 * (math.radians(dihedral_deg) + beta))


def half_slots(
    common: float, own: float, other: float, degrees: float = 90.0, clearance: float = SLOT_MM
) -> tuple[float, float]:  # fmt: skip
    """Width and depth of the slot in a plate that another one crosses at an angle, mm: half of the height that they
    have in common, edges cut square, t_other/sin φ + t_own/|tan φ| wide."""
    a = math.radians(degrees)
    lean = 0.0 if abs(degrees - 90) < 1e-9 else own / abs(math.tan(a))
    return other / math.sin(a) + lean, common / 2 + clearance


def root_face(dihedral_deg: float, deep: float) -> float:
    """How far a root face leans off square over its depth, mm."""
    return deep * math.tan(math.radians(dihedral_deg))
