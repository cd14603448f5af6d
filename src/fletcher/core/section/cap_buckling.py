r"""A cap on foam, with or without a web under it: the load at which it buckles into the core.

A strip of width w and bending stiffness EI on an elastic bed of stiffness k (N/mm per mm of length) buckles with half
waves π/q at the least of P(q) = EI q² + k/q². Deep foam under a uniform pressure over w, moving only through its
thickness, gives k_foam = π√(E_z G)/I(qw), I(β) = (2/β)∫₀^β K₀ ds − (2/β²)(1 − β K₁(β)) (Biot 1937; Allen 1969). An
upright web adds E_z t/H: H its height where one cap is pressed, half of it where both are.
"""

from __future__ import annotations

import numpy as np
from scipy.special import iti0k0, k1

from fletcher.core.common.arrays import Array

_WAVES = np.geomspace(1e-3, 3.0, 160)
"""Wave numbers q (1/mm) tried: half waves from 1 mm to 3 m."""


def foam_under_cap(q: Array, width: float, E_through: Array, G: Array) -> Array:
    """Stiffness k_foam (N/mm²) of deep foam under a strip of a width (mm) that buckles with wave number q (1/mm)."""
    beta = np.asarray(q) * width
    mean = 2 / beta * iti0k0(beta)[1] - 2 / beta**2 * (1 - beta * k1(beta))
    return np.asarray(np.pi * np.sqrt(E_through * G) / mean)


def web_under_cap(q: Array, thickness: float, height: float, E_through: Array, G: Array | None = None) -> Array:
    """Stiffness (N/mm²) of an upright web of a thickness (mm) whose far end stays still at `height` (mm): E_z t/H, and
    with its shear modulus `G` the form for short waves t √(E_z G) q coth(q H √(G/E_z)), which is never less."""
    if G is None:
        return np.broadcast_to(E_through * thickness / height, np.shape(q)).astype(float)
    root = np.sqrt(G / E_through)
    return np.asarray(thickness * np.sqrt(E_through * G) * q / np.tanh(q * height * root))


def least_load(EI: Array, stiffness: Array, waves: Array = _WAVES) -> tuple[Array, Array]:
    """The least of P(q) = EI q² + k(q)/q² over `waves` (m,), with `stiffness` (..., m), and its q; a parabola through
    the three lowest points in ln q refines it."""
    load = np.asarray(EI)[..., None] * waves**2 + stiffness / waves**2
    k = np.clip(np.argmin(load, -1), 1, len(waves) - 2)
    below, at, above = (np.take_along_axis(load, (k + d)[..., None], -1)[..., 0] for d in (-1, 0, 1))
    step = np.log(waves[1] / waves[0])
    bend = below - 2 * at + above
    shift = np.where(bend > 0, 0.5 * (below - above) / np.where(bend > 0, bend, 1), 0.0)
    return at - 0.25 * (below - above) * shift, waves[k] * np.exp(shift * step)


def cap_load(EI: Array, width: float, E_through: Array, G: Array, web: Array | float = 0.0) -> tuple[Array, Array]:
    """Buckling load (N) of a cap on deep foam with a `web` stiffness (N/mm²) beside it, and its wave number; (...)."""
    E_through, G, EI, web = (np.asarray(v, float)[..., None] for v in (E_through, G, EI, web))
    return least_load(EI[..., 0], foam_under_cap(_WAVES, width, E_through, G) + web)


def thick_face(thickness: float, E_face: float, E_through: float, G: float, deep: float | None = None) -> float:
    """Stress (MPa) at which a wide face of a thickness (mm) wrinkles on deep foam, or on foam `deep` (mm) thick whose
    far side stays still: the least of D q² + √(E_z G) coth(q h √(G/E_z))/q (Allen 1969). The face's own compressive
    strength must be compared."""
    D = E_face * thickness**3 / 12
    held = np.ones_like(_WAVES) if deep is None else 1 / np.tanh(_WAVES * deep * np.sqrt(G / E_through))
    load, _ = least_load(np.array(D), np.sqrt(E_through * G) * held * _WAVES)
    return float(load) / thickness


def width_on_web(web_mm: float, D_across: float, foam: float) -> float:
    """Width of a wide cap (mm) that a thin web holds, t_web + 2 (4 D/κ)^¼, κ (N/mm³) the foam's stiffness per width
    (beam on elastic foundation; Hetényi 1946): the rest is a strip on foam."""
    return float(web_mm + 2 * (4 * D_across / foam) ** 0.25)
