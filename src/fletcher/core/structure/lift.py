"""Lift along the span: how it is spread, and how it answers to a change of angle."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Part
from fletcher.core.section.outline import Outline

_THETA = (np.arange(400) + 0.5) * np.pi / 400


@lru_cache(maxsize=64)
def pitching_moment(outline: Outline) -> float:
    """Moment coefficient about the quarter chord of a camber line, nose up positive: −π/4 (A₁ − A₂), with A_n the
    cosine coefficients of its slope (thin-aerofoil theory, Abbott & von Doenhoff 1959, ch. 4)."""
    x = 0.5 * (1 - np.cos(_THETA))
    step = 1e-4
    ahead, behind = (outline.camber(np.clip(x + s, 0, 1)) for s in (step, -step))
    slope = (ahead - behind) / (np.clip(x + step, 0, 1) - np.clip(x - step, 0, 1))
    first, second = (2 * float(np.mean(slope * np.cos(n * _THETA))) for n in (1, 2))
    return -np.pi / 4 * (first - second)


def lift_slope(aspect_ratio: float) -> float:
    """Lift slope of a straight wing per radian, 2π AR/(AR + 2) (lifting line, elliptic; Prandtl)."""
    return 2 * np.pi * aspect_ratio / (aspect_ratio + 2)


def slope_of(part: Part) -> float:
    """Lift slope of the whole wing that a part is a half of, per radian: its own, or by its aspect ratio."""
    aspect_ratio = 2 * part.span_mm**2 / part.area_mm2
    return lift_slope(aspect_ratio) if part.lift_slope is None else part.lift_slope


def lift_moment(kind: str, lift: float, span: float, root_chord: float, tip_chord: float, y: Array) -> Array:
    """Bending moment (n,) in N·mm of the lift outboard of each y on one half wing.

    `kind` "elliptic" spreads the lift as an ellipse over the half span; "schrenk" takes the mean of that and of a
    spread like the chord (Schrenk 1940). Closed forms of ∫(s − y) l(s) ds.
    """
    u = np.clip(y / span, 0.0, 1.0)
    root = np.sqrt(1 - u**2)
    area = 0.5 * (u * root + np.arcsin(u))
    elliptic = 4 / np.pi * (root**3 / 3 - u * (np.pi / 4 - area))
    if kind == "elliptic":
        return np.asarray(lift * span * elliptic)
    slope = tip_chord - root_chord
    chordwise = root_chord * (1 - u) ** 2 / 2 + slope * ((1 - u**3) / 3 - u * (1 - u**2) / 2)
    chordwise = chordwise / (0.5 * (root_chord + tip_chord))
    return np.asarray(lift * span * 0.5 * (elliptic + chordwise))


def lift_per_length(kind: str, lift: float, span: float, chord: Array, y: Array) -> Array:
    """Lift per length (n,) in N/mm, of the same spread as `lift_moment`; `chord` (n,) at y."""
    elliptic = 4 / np.pi * np.sqrt(np.maximum(1 - (y / span) ** 2, 0)) * lift / span
    if kind == "elliptic":
        return np.asarray(elliptic)
    mean_chord = np.trapezoid(chord, y) / span
    return np.asarray(0.5 * (elliptic + chord / mean_chord * lift / span))
