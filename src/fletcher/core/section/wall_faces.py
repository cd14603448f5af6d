r"""A film or coat on a wall is a ply of that wall: face wrinkling and plate buckling of the two together.

Paper and what is laid on it are one face with stiffness EA and bending stiffness D about its own neutral axis; it
wrinkles on the core at :math:`N_w = k\,(12 D E_z G)^{1/3}` per width (Hoff & Mautner 1945), at the strain N_w/EA. The
wall buckles as an orthotropic plate with D* = D − B A⁻¹ B (Jones 1999; Timoshenko & Gere 1961). It never buckles as a
free film over the width of the wall.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array


@dataclass(frozen=True)
class Ply:
    """One layer of a plate: middle `z` and thickness `t` (mm), moduli along and across, Poisson's ratio for a pull
    along, shear modulus (MPa)."""

    z: float
    t: float
    E1: float
    E2: float
    nu: float
    G: float

    @property
    def reduced(self) -> tuple[float, float, float, float]:
        """Q₁₁, Q₂₂, Q₁₂, Q₆₆ in plane stress (MPa)."""
        less = 1 - self.nu**2 * self.E2 / self.E1
        return self.E1 / less, self.E2 / less, self.nu * self.E2 / less, self.G


@dataclass(frozen=True)
class PlateBending:
    """D* of a plate (N·mm), about the plane that leaves its in-plane forces at nothing."""

    D11: float
    D22: float
    D12: float
    D66: float

    def buckling_load(self, width: float) -> float:
        """Compression (N/mm) at which a long panel hinged along its edges buckles,
        (2π²/b²)[√(D₁₁D₂₂) + D₁₂ + 2D₆₆] (Timoshenko & Gere 1961)."""
        return float(2 * np.pi**2 / width**2 * (np.sqrt(self.D11 * self.D22) + self.D12 + 2 * self.D66))


def plate_bending(plies: Sequence[Ply]) -> PlateBending:
    """D − B A⁻¹ B of a stack of plies (classical lamination theory; Jones 1999, ch. 4)."""
    A, B, D = (np.zeros((3, 3)) for _ in range(3))
    for ply in plies:
        q11, q22, q12, q66 = ply.reduced
        Q = np.array([[q11, q12, 0], [q12, q22, 0], [0, 0, q66]])
        A += Q * ply.t
        B += Q * ply.t * ply.z
        D += Q * ply.t * (ply.z**2 + ply.t**2 / 12)
    own = D - B @ np.linalg.solve(A, B)
    return PlateBending(*(float(v) for v in (own[0, 0], own[1, 1], own[0, 1], own[2, 2])))


@dataclass(frozen=True)
class Face:
    """A face of paper or sheet with what lies on it: `EA` (N/mm), `D` (N·mm) about its own neutral axis, which lies
    `middle` (mm) outside the middle of its innermost layer."""

    EA: Array
    D: Array
    middle: Array

    def wrinkles_at(self, k: Array, E_through: Array, G: Array) -> Array:
        """Strain at which the face wrinkles on its core."""
        return np.asarray(k * np.cbrt(12 * self.D * E_through * G) / self.EA)


def face_of(layers: Sequence[tuple[Array, float]]) -> Face:
    """A face of layers from the core outwards, each E·t (N/mm) and thickness (mm)."""
    EA, first, second = (np.zeros_like(np.asarray(layers[0][0], float)) for _ in range(3))
    place = -0.5 * layers[0][1]
    for stiff, t in layers:
        middle = place + t / 2
        EA, first = EA + stiff, first + stiff * middle
        second = second + stiff * (middle**2 + t**2 / 12)
        place += t
    return Face(EA, second - first**2 / EA, first / EA)
