"""How a wing half shakes and when it runs away: first frequencies and the divergence speed. Cautions, no clearances."""

from __future__ import annotations

import numpy as np

from fletcher.core.beam import Mesh, Tie, respond
from fletcher.core.loads import AIR_DENSITY_KG_M3, inertia_moment, outboard
from fletcher.core.materials import G_GRAVITY
from fletcher.core.outline import Array


def _integral(values: Array, y: Array) -> Array:
    return np.asarray(np.trapezoid(values, y, axis=-1))


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
    slope = np.zeros_like(curvature)
    slope[:, 1:] = np.cumsum(0.5 * (curvature[:, 1:] + curvature[:, :-1]) * steps, 1)
    shape = np.zeros_like(curvature)
    rise = steps * slope[:, :-1] + steps**2 * (2 * curvature[:, :-1] + curvature[:, 1:]) / 6
    shape[:, 1:] = np.cumsum(rise, 1)
    return shape


def turned(y: Array, torque: Array, torsion: Array) -> Array:
    """Rotation (S, n), rad, of a part held at its root, θ′ = T/GJ."""
    rate = torque / torsion
    steps = 0.5 * (rate[:, 1:] + rate[:, :-1]) * np.diff(y)
    return np.concatenate([np.zeros((len(rate), 1)), np.cumsum(steps, 1)], 1)


def twist_frequency(y: Array, polar: Array, torsion: Array) -> Array:
    """First torsional frequency (S,), Hz, root held. `polar` (S, n) mass moment of inertia per length about the shear
    centre, g·mm; `torsion` GJ (S, n) N·mm²."""
    trial = np.broadcast_to(np.sin(0.5 * np.pi * y / y[-1]), polar.shape)
    answer = turned(y, outboard(polar * trial * 1e-6, y), torsion)
    return _quotient(polar, trial, answer, y)


def divergence_speed(y: Array, chord: Array, shear_centre: Array, torsion: Array, slope: float) -> Array:
    """Speed (S,), m/s, at which the lift of a twist is as great as the part's resistance to it; infinite where the
    lift acts behind the shear centre.

    Strip theory: (GJ θ′)′ + q c a e θ = 0, e = x_sc − c/4, θ(0) = 0, θ′(L) = 0, by iteration on the shape; q is the
    smallest positive eigenvalue (Bisplinghoff, Ashley & Halfman 1955). Arrays: y, chord (n,), the rest (S, n).
    """
    arm = chord * (shear_centre - 0.25 * chord) * slope
    theta = np.broadcast_to(np.sin(0.5 * np.pi * y / y[-1]), torsion.shape)
    pressure = np.full(len(torsion), np.inf)
    for _ in range(5):
        new = turned(y, outboard(arm * theta, y), torsion)
        gain = _integral(new * new, y) / np.where(np.abs(g := _integral(new * theta, y)) > 0, g, 1e-300)
        pressure = np.where(gain > 0, 1 / np.maximum(gain, 1e-300), np.inf)
        theta = new / np.maximum(np.max(np.abs(new), axis=1, keepdims=True), 1e-300)
    return np.asarray(np.sqrt(2 * pressure * 1e6 / AIR_DENSITY_KG_M3))
