"""What a weighed stick tells: its own density, and in wood its stiffness and strength within the species' band."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from fletcher.core.airframe import BarLayer
from fletcher.core.evidence import lognormal
from fletcher.core.materials import Bar, Catalogue, Range

WOODS = frozenset({"wood", "hardwood", "bamboo"})
"""Families in which stiffness and strength go with density."""

FOLLOWS = 0.8
"""[J] Correlation of stiffness and strength with density within one species of clear, straight-grained wood."""

SCALE_ERROR = 0.02
"""[J] Error of a weighing with length and section measured by hand, as a share (5-95 %)."""


def position(value: float, band: Range) -> float:
    """Where a value lies in its band, as a standard normal: −1.645 at low, 0 at typical, 1.645 at high."""
    side = band.low if value < band.typ else band.high
    step = abs(np.log(side / band.typ)) / 1.6448536269514722
    return float(np.log(value / band.typ) / step) if step > 0 else 0.0


def _given(band: Range, z: float) -> Range:
    """The band of a property once the density stands at z: moved by what follows, narrowed to what is left."""
    left = (1 - FOLLOWS**2) ** 0.5 * 1.6448536269514722
    low, typ, high = (float(lognormal(band, np.array([FOLLOWS * z + d]))[0]) for d in (-left, 0.0, left))
    return Range(low, typ, high)


def density_of(bar: Bar, g_per_m: float) -> float:
    """Density in kg/m³ of a bar of this section that weighs so much per metre."""
    return g_per_m * 1e3 / bar.area_mm2


def weighed(bar: Bar, g_per_m: float) -> Bar:
    """The bar with its own density; in wood stiffness and strength move with it."""
    density = density_of(bar, g_per_m)
    own = Range(density * (1 - SCALE_ERROR), density, density * (1 + SCALE_ERROR))
    found = replace(bar, key=f"{bar.key}@{g_per_m:g}", density_kg_m3=own)
    if bar.family not in WOODS:
        return found
    z = float(np.clip(position(density, bar.density_kg_m3), -2.5, 2.5))
    return replace(
        found,
        E_MPa=_given(bar.E_MPa, z),
        G_MPa=_given(bar.G_MPa, z),
        tensile_strength_MPa=_given(bar.tensile_strength_MPa, z),
        compressive_strength_MPa=_given(bar.compressive_strength_MPa, z),
        basis=f"{bar.basis}. Weighed by you at {g_per_m:g} g/m: moved within the species' band",
    )


def bar_of(layer: BarLayer, catalogue: Catalogue) -> Bar:
    """The bar of a lay-up line, as weighed if it was."""
    bar = catalogue.bars[layer.stock]
    return bar if layer.weighed_g_per_m is None else weighed(bar, layer.weighed_g_per_m)
