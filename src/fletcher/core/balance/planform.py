r"""Mean chord, aerodynamic centre and lift slope of a surface of straight-edged panels.

\bar c = ∫c² dy/∫c dy over the projected half, its nose x_LE = ∫c x_LE dy/∫c dy, aerodynamic centre a quarter behind it
(Raymer, Aircraft Design; Torenbeek, Synthesis). Lift slope of Etkin & Reid, Dynamics of Flight:
a = 2πA/(2 + √(4 + (A²/κ²)(1 + tan²Λ_½))). Lengths in mm, areas in mm², slopes per radian.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array


@dataclass(frozen=True)
class Edge:
    """A chord across a surface: how far out it lies (projected), where its nose is, how long and how high it is, mm."""

    y_mm: float
    x_mm: float
    chord_mm: float
    z_mm: float = 0.0


@dataclass(frozen=True)
class Planform:
    """The half of a surface, from the middle outwards; `both` sides carry unless it is a single panel."""

    edges: tuple[Edge, ...]
    both: bool = True

    @property
    def _pieces(self) -> list[tuple[float, Edge, Edge]]:
        return [(b.y_mm - a.y_mm, a, b) for a, b in zip(self.edges, self.edges[1:], strict=False)]

    @property
    def area_mm2(self) -> float:
        """Projected area of all that carries."""
        return self.sides * sum(d * (a.chord_mm + b.chord_mm) / 2 for d, a, b in self._pieces)

    @property
    def sides(self) -> int:
        """Two halves, or one panel."""
        return 2 if self.both else 1

    @property
    def span_mm(self) -> float:
        """From tip to tip, projected."""
        if self.both:
            return 2 * self.edges[-1].y_mm
        return self.edges[-1].y_mm - self.edges[0].y_mm

    @property
    def mean_chord_mm(self) -> float:
        """∫c² dy/∫c dy."""
        squares = sum(
            d * (a.chord_mm**2 + a.chord_mm * b.chord_mm + b.chord_mm**2) / 3 for d, a, b in self._pieces
        )  # fmt: skip
        return squares * self.sides / self.area_mm2

    @property
    def mean_nose_mm(self) -> float:
        """Where the mean chord begins, aft of the datum."""
        return self._by_chord(lambda e: e.x_mm)

    @property
    def mean_out_mm(self) -> float:
        """How far out the mean chord lies."""
        return self._by_chord(lambda e: e.y_mm)

    @property
    def height_mm(self) -> float:
        """How high its root lies: there its vortex is laid."""
        return self.edges[0].z_mm

    @property
    def centre_mm(self) -> float:
        """Aerodynamic centre, aft of the datum."""
        return self.mean_nose_mm + 0.25 * self.mean_chord_mm

    @property
    def aspect(self) -> float:
        """Aspect ratio b²/S."""
        return self.span_mm**2 / self.area_mm2

    @property
    def tan_half(self) -> float:
        """Tangent of the sweep of the half-chord line, weighted with the area."""
        moments = sum(
            (b.x_mm + b.chord_mm / 2 - a.x_mm - a.chord_mm / 2) * (a.chord_mm + b.chord_mm) / 2
            for _, a, b in self._pieces
        )  # fmt: skip
        return moments * self.sides / self.area_mm2

    def slope(self, kappa: float) -> float:
        """Lift slope per radian; `kappa` is that of the section over 2π."""
        return lift_slope(self.aspect, self.tan_half, kappa)

    def strips(self, count: int) -> tuple[Array, Array]:
        """Middles of so many strips of the half, mm out, and their chords, each (count,)."""
        first, last = self.edges[0].y_mm, self.edges[-1].y_mm
        y = first + (np.arange(count) + 0.5) * (last - first) / count
        return y, np.interp(y, [e.y_mm for e in self.edges], [e.chord_mm for e in self.edges])

    def _by_chord(self, of: Callable[[Edge], float]) -> float:
        """Mean of what changes linearly along each panel, weighted with the chord."""
        sums = sum(
            d * (2 * a.chord_mm * of(a) + a.chord_mm * of(b) + b.chord_mm * of(a) + 2 * b.chord_mm * of(b)) / 6
            for d, a, b in self._pieces
        )  # fmt: skip
        return sums * self.sides / self.area_mm2


def lift_slope(aspect: float, tan_half: float, kappa: float) -> float:
    """Lift slope of a surface per radian (Etkin & Reid; Helmbold where it is straight)."""
    root = math.sqrt(4 + (aspect / kappa) ** 2 * (1 + tan_half**2))
    return 2 * math.pi * aspect / (2 + root)


def lift_slope_by_kappa(aspect: float, tan_half: float, kappa: float) -> float:
    """∂ln a/∂ln κ = (R − 2)/R, R the root in the formula of the lift slope."""
    root = math.sqrt(4 + (aspect / kappa) ** 2 * (1 + tan_half**2))
    return (root - 2) / root


@dataclass(frozen=True)
class Panel:
    """A straight-edged panel in its own plane: its length, chords, how far its tip's nose lies behind its root's, and
    its rise outwards."""

    long_mm: float
    root_chord_mm: float
    tip_chord_mm: float
    setback_mm: float = 0.0
    dihedral_deg: float = 0.0


def planform_of(
    root: tuple[float, float, float], panels: Sequence[Panel], middle_mm: float = 0.0, both: bool = True
) -> Planform:  # fmt: skip
    """The half of a surface whose root's nose lies at (x, y, z), with the strip `middle_mm` wide on each side between
    the halves, which counts with the root's chord and is straight."""
    x, y, z = root
    chord = panels[0].root_chord_mm
    edges = [Edge(y - middle_mm, x, chord, z)] if middle_mm > 0 else []
    edges.append(Edge(y, x, chord, z))
    for p in panels:
        rise = math.radians(p.dihedral_deg)
        x, y, z = x + p.setback_mm, y + p.long_mm * math.cos(rise), z + p.long_mm * math.sin(rise)
        edges.append(Edge(y, x, p.tip_chord_mm, z))
    return Planform(tuple(edges), both)
