"""How a wing half shakes and when it runs away: first frequencies and the divergence speed. Cautions, no clearances."""

from __future__ import annotations

import numpy as np
from scipy.integrate import cumulative_trapezoid

from fletcher.core.common.arrays import Array, BoolArray, IntArray
from fletcher.core.common.roots import root_between
from fletcher.core.materials.materials import G_GRAVITY
from fletcher.core.section.partial_interaction import Mesh, Tie, respond
from fletcher.core.structure.control_surfaces import Flap
from fletcher.core.structure.loading import AIR_DENSITY_KG_M3, inertia_moment, outboard


def _integral(values: Array, y: Array) -> Array:
    """∫ along the last axis by trapezes."""
    steps = np.diff(y)
    weights = np.zeros_like(y)
    weights[:-1] += steps / 2
    weights[1:] += steps / 2
    return np.asarray(values @ weights)


def _quotient(mass: Array, trial: Array, answer: Array, y: Array) -> Array:
    """Frequency (S,) in Hz from a trial shape and the shape that its inertia forces (per ω²) bend the part to:
    ω² = ∫m w₀ w₁ / ∫m w₁² (improved Rayleigh quotient; Temple & Bickley 1933). Mass in g/mm, shapes in mm; w₁ in
    mm per (rad/s)²."""
    omega2 = _integral(mass * trial * answer, y) / _integral(mass * answer**2, y)
    return np.asarray(np.sqrt(np.maximum(omega2, 0)) / (2 * np.pi))


def _trial(y: Array) -> Array:
    """A cantilever's sag under an even load, tip 1."""
    u = y / y[-1]
    return np.asarray((6 * u**2 - 4 * u**3 + u**4) / 3)


def flap_frequency(tied: Tie, mass: Array) -> Array:
    """First bending frequency (S,), Hz, root held; bars slip and foam shears as under any load. `mass` (S, n) g/mm."""
    mesh, trial = tied.mesh, _trial(tied.mesh.y)
    # inertia force per length of shape w at ω = 1 rad/s: m w, g·mm/s² per mm = 1e-6 N/mm
    moment = inertia_moment(mass * trial, mesh.left, mesh.y, 1e-3 / G_GRAVITY)
    return _quotient(mass, trial, respond(tied, moment, None).deflection, mesh.y)


def edge_frequency(mesh: Mesh, mass: Array, edge_EI: Array) -> Array:
    """First edgewise frequency (S,), Hz, root held, without slip and shear. `edge_EI` (S, n) N·mm²."""
    moment = inertia_moment(mass * _trial(mesh.y), mesh.left, mesh.y, 1e-3 / G_GRAVITY)
    return _quotient(mass, _trial(mesh.y), swing(mesh, moment / edge_EI), mesh.y)


def swing(mesh: Mesh, curvature: Array) -> Array:
    """Deflection (S, n) of a part held at its root from its curvature."""
    steps = np.diff(mesh.y)
    slope = cumulative_trapezoid(curvature, mesh.y, axis=1, initial=0)
    shape = np.zeros_like(curvature)
    rise = steps * slope[:, :-1] + steps**2 * (2 * curvature[:, :-1] + curvature[:, 1:]) / 6
    shape[:, 1:] = np.cumsum(rise, 1)
    return shape


def turned(y: Array, torque: Array, torsion: Array) -> Array:
    """Rotation (S, n), rad, of a part held at its root, θ′ = T/GJ."""
    return np.asarray(cumulative_trapezoid(torque / torsion, y, axis=1, initial=0))


def twist_frequency(y: Array, polar: Array, torsion: Array) -> Array:
    """First torsional frequency (S,), Hz, root held. `polar` (S, n) mass moment of inertia per length about the shear
    centre, g·mm; `torsion` GJ (S, n) N·mm²."""
    trial = np.broadcast_to(np.sin(0.5 * np.pi * y / y[-1]), polar.shape)
    answer = turned(y, outboard(polar * trial * 1e-6, y), torsion)
    return _quotient(polar, trial, answer, y)


def reversal_speed(
    y: Array, chord: Array, shear_centre: Array, torsion: Array, slope: float, surface: Flap, on: BoolArray
) -> Array:
    r"""Speed (S,), m/s, at which the twist that a control surface forces on the part takes back the roll that it gives.

    Strip theory: (GJ θ′)′ + q c [e (a θ + a_δ δ) + c m_δ δ] = 0 with the lift's arm e = x_sc − c/4; roll moment
    ∫q c (a θ + a_δ δ) y dy = 0 (Bisplinghoff, Ashley & Halfman 1955). The surface's lift is scaled by the slope of the
    wing over 2π. Shapes of θ: three sines, Galerkin; the first root q by steps and bisection. Infinite above 500 m/s.
    Arrays: y, chord, on (n,), the rest (S, n).
    """
    lift = surface.lift * slope / (2 * np.pi) * on
    moment = surface.moment * on
    arm = chord * (shear_centre - 0.25 * chord)
    waves = [np.sin((i + 0.5) * np.pi * y / y[-1]) for i in range(3)]
    slopes = [(i + 0.5) * np.pi / y[-1] * np.cos((i + 0.5) * np.pi * y / y[-1]) for i in range(3)]
    stiff = np.stack([np.stack([_integral(torsion * a * b, y) for b in slopes], -1) for a in slopes], -2)
    turns = np.stack([np.stack([_integral(arm * slope * a * b, y) for b in waves], -1) for a in waves], -2)
    forced = np.stack([_integral((arm * lift + chord**2 * moment) * a, y) for a in waves], -1)
    rolls = np.array([_integral(chord * slope * a * y, y) for a in waves])
    wanted = float(_integral(chord * lift * y, y))

    every = np.arange(len(torsion))

    def left(pressure: Array, which: Array | IntArray = every) -> Array:
        """Roll moment per unit of pressure and deflection."""
        q, which = pressure[:, None], which.astype(int)
        shape = np.linalg.solve(stiff[which] - q[..., None] * turns[which], (q * forced[which])[..., None])[..., 0]
        return np.asarray(wanted + shape @ rolls)

    fastest = 0.5 * AIR_DENSITY_KG_M3 * 500.0**2 * 1e-6
    low, top = np.zeros(len(torsion)), np.full(len(torsion), np.inf)
    for pressure in np.geomspace(1e-3, 1, 60) * fastest:
        turned_over = (left(np.full(len(torsion), pressure)) <= 0) & np.isinf(top)
        top = np.where(turned_over, pressure, top)
        low = np.where(np.isinf(top), pressure, low)
    at = np.full(len(torsion), np.inf)
    turns_over = np.nonzero(np.isfinite(top))[0]
    if len(turns_over):
        bracket = low[turns_over], top[turns_over]
        at[turns_over] = root_between(left, *bracket, (turns_over.astype(float),), relative=1e-7)
    return np.asarray(np.sqrt(2 * at * 1e6 / AIR_DENSITY_KG_M3))
