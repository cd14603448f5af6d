r"""Masses with their places: centre, tensor of inertia, plates, rods and boxes in the airframe's axes.

x aft, y to the right, z up. r_c = Σmr/Σm; I = Σ[R·I_own·Rᵀ + m(|d|²·1 − d·dᵀ)], d from the centre; off-diagonals are
−∫xy dm (Beer & Johnston, Vector Mechanics). mm, g, g·mm².
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.materials.materials import G_GRAVITY


def _nothing() -> Array:
    return np.zeros((3, 3))


@dataclass(frozen=True)
class Mass:
    """A mass at a place (3,), with its own tensor about its centre (3, 3), g·mm²."""

    grams: float
    at: Array
    own: Array = field(default_factory=_nothing)

    def mirrored(self) -> Mass:
        """Its image on the other side of the middle."""
        flip = np.diag([1.0, -1.0, 1.0])
        return Mass(self.grams, flip @ self.at, flip @ self.own @ flip)


@dataclass(frozen=True)
class Balance:
    """Mass, centre (3,) and tensor about the centre (3, 3) of many masses."""

    grams: float
    at: Array
    tensor: Array

    @property
    def gyration_mm(self) -> Array:
        """Radii of gyration about the three axes, (3,)."""
        return np.asarray(np.sqrt(np.diag(self.tensor) / self.grams))

    def swing_s(self, apart_mm: float, strings_mm: float) -> float:
        """How long one swing in yaw lasts, hung level on two upright strings with its centre midway: from
        I = M g d² T²/(16 π² L)."""
        I = float(self.tensor[2, 2])  # noqa: E741 - the field's letter
        weight = self.grams * G_GRAVITY * 1e3  # g·mm/s²
        return math.sqrt(I * 16 * math.pi**2 * strings_mm / (weight * apart_mm**2))


def point_inertia(grams: float, away: Array) -> Array:
    """m(|d|²·1 − d·dᵀ)."""
    return np.asarray(grams * (float(away @ away) * np.eye(3) - np.outer(away, away)))


def balance(masses: Iterable[Mass]) -> Balance:
    """All masses together.

    Raises
    ------
    ValueError
        Where nothing weighs anything.
    """
    masses = [m for m in masses if m.grams > 0]
    total = sum(m.grams for m in masses)
    if total <= 0:
        raise ValueError("nothing weighs anything")
    at = np.asarray(sum((m.grams * m.at for m in masses), np.zeros(3)) / total)
    tensor = sum((m.own + point_inertia(m.grams, m.at - at) for m in masses), np.zeros((3, 3)))
    return Balance(total, at, np.asarray(tensor))


def point(grams: float, x: float, y: float = 0.0, z: float = 0.0) -> Mass:
    """A mass in one point."""
    return Mass(grams, np.array([x, y, z]))


def box(grams: float, at: Sequence[float], long: float, wide: float, high: float) -> Mass:
    """A box along the axes: m(b² + c²)/12."""
    a, b, c = long**2, wide**2, high**2
    return Mass(grams, np.array(at, dtype=float), np.diag([b + c, a + c, a + b]) * grams / 12)


def rod(grams: float, start: Sequence[float], end: Sequence[float]) -> Mass:
    """A thin rod from place to place."""
    a, b = np.array(start, dtype=float), np.array(end, dtype=float)
    return Mass(grams, (a + b) / 2, point_inertia(grams / 12, b - a))


def strips(
    grams: Array, aft: Array, out: Array, up: Array, chords: Array, root: Sequence[float], dihedral_deg: float
) -> Mass:  # fmt: skip
    """A panel of strips: grams (n,), own centres aft of the root's nose, out along the span and square to the panel,
    each (n,), and chords (n,) over which each is spread evenly; at its place in the airframe, on the right."""
    rise = math.radians(dihedral_deg)
    turn = np.array([[1, 0, 0], [0, math.cos(rise), -math.sin(rise)], [0, math.sin(rise), math.cos(rise)]])
    places = np.stack([aft, out, up], axis=1)
    middle = places.T @ grams / grams.sum()
    own = np.zeros((3, 3))
    for g, place, chord in zip(grams, places, chords, strict=True):
        own += point_inertia(float(g), place - middle)
        own += np.diag([0.0, 1.0, 1.0]) * float(g) * chord**2 / 12
    return Mass(float(grams.sum()), np.array(root, dtype=float) + turn @ middle, turn @ own @ turn.T)


def plate(
    grams: float, long: float, chords: tuple[float, float], setback: float, root: Sequence[float], dihedral_deg: float,
    count: int = 400,
) -> Mass:  # fmt: skip
    """A thin uniform panel: `chords` at root and tip, its tip's nose so far behind its root's."""
    edges = np.linspace(0.0, 1.0, count + 1)
    mid = (edges[:-1] + edges[1:]) / 2
    chord = chords[0] + mid * (chords[1] - chords[0])
    return strips(
        grams * chord / chord.sum(), mid * setback + chord / 2, mid * long, np.zeros(count), chord, root, dihedral_deg
    )
