"""Bars as they lie in the part: weighed sticks, whose density tells their stiffness in wood, and faced wood."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from fletcher.core.document.airframe import BarLayer, WallLayer
from fletcher.core.materials.materials import Bar, Catalogue, Range, Sheet
from fletcher.core.materials.uncertainty import lognormal

WOODS = frozenset({"wood", "hardwood", "bamboo", "balsa"})
"""Families in which stiffness and strength go with density."""

_SHEET_FOLLOWS = (
    "E_along_MPa", "E_across_MPa", "G_MPa", "tensile_along_MPa", "tensile_across_MPa", "compressive_along_MPa",
    "compressive_across_MPa", "shear_MPa",
)  # fmt: skip

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
        basis=f"{bar.basis}. Your measurement of {g_per_m:g} g/m shifts it within the range of the species",
    )


def weighed_sheet(sheet: Sheet, g_per_m2: float) -> Sheet:
    """The sheet with its own weight; in wood stiffness and strength move with it."""
    mass = Range(g_per_m2 * (1 - SCALE_ERROR), g_per_m2, g_per_m2 * (1 + SCALE_ERROR))
    found = replace(sheet, key=f"{sheet.key}@{g_per_m2:g}", areal_mass_g_m2=mass)
    if sheet.family not in WOODS:
        return found
    z = float(np.clip(position(g_per_m2, sheet.areal_mass_g_m2), -2.5, 2.5))
    moved: dict[str, Any] = {name: _given(getattr(sheet, name), z) for name in _SHEET_FOLLOWS}
    gain = {p: moved[f"E_{p}_MPa"].typ / getattr(sheet, f"E_{p}_MPa").typ for p in ("along", "across")}
    shear = moved["G_MPa"].typ / sheet.G_MPa.typ
    return replace(
        found,
        **moved,
        EI_along_N_mm=sheet.EI_along_N_mm * gain["along"],
        EI_across_N_mm=sheet.EI_across_N_mm * gain["across"],
        shear_along_N_mm=sheet.shear_along_N_mm * shear,
        shear_across_N_mm=sheet.shear_across_N_mm * shear,
        basis=f"{sheet.basis}. Your measurement of {g_per_m2:g} g/m² shifts it within the range of the species",
    )


def sheet_of(layer: WallLayer, catalogue: Catalogue) -> Sheet:
    """The sheet of a wall, as weighed if it was."""
    sheet = catalogue.sheets[layer.sheet]
    return sheet if layer.weighed_g_per_m2 is None else weighed_sheet(sheet, layer.weighed_g_per_m2)


def faced(bar: Bar, strip: Bar, on_edge: bool) -> Bar:
    """A flat bar with a strip bonded on below and above, as one bar (transformed section).

    Its E is the mean over the whole section, `facing_gain` what bending up and down gains by the strips lying outside.
    It fails at the strain at which wood or strip does first; at the strips the wood is asked a little less than here.
    """
    w, h = bar.size(on_edge)
    t = strip.size()[1]
    height, core, outer = h + 2 * t, h / (h + 2 * t), 2 * t / (h + 2 * t)

    def mixed(a: Range, b: Range) -> Range:
        return Range(*(core * getattr(a, p) + outer * getattr(b, p) for p in ("low", "typ", "high")))

    E = mixed(bar.E_MPa, strip.E_MPa)
    bends = bar.E_MPa.typ * h**3 + strip.E_MPa.typ * (height**3 - h**3)

    def limit(a: Range, b: Range) -> Range:
        strain = min(a.typ / bar.E_MPa.typ, b.typ / strip.E_MPa.typ)
        governs = a if strain == a.typ / bar.E_MPa.typ else b
        return Range(*(strain * E.typ * getattr(governs, p) / governs.typ for p in ("low", "typ", "high")))

    wide, thin = (height, w) if on_edge else (w, height)
    return replace(
        bar,
        key=f"{bar.key}+{strip.key}/{on_edge}",
        name=f"{bar.name} faced with {strip.name[0].lower() + strip.name[1:]}",
        wide_mm=wide,
        thin_mm=thin,
        density_kg_m3=mixed(bar.density_kg_m3, strip.density_kg_m3),
        E_MPa=E,
        tensile_strength_MPa=limit(bar.tensile_strength_MPa, strip.tensile_strength_MPa),
        compressive_strength_MPa=limit(bar.compressive_strength_MPa, strip.compressive_strength_MPa),
        faced="on_edge" if on_edge else "flat",
        facing_gain=bends / (E.typ * height**3),
        basis=f"{bar.basis}. Faced: {strip.basis}",
    )


def bar_of(layer: BarLayer, catalogue: Catalogue) -> Bar:
    """The bar of a lay-up line, as weighed if it was, with what is bonded on."""
    bar = catalogue.bars[layer.stock]
    if layer.weighed_g_per_m is not None:
        bar = weighed(bar, layer.weighed_g_per_m)
    return bar if layer.faced_with is None else faced(bar, catalogue.bars[layer.faced_with], layer.on_edge)
