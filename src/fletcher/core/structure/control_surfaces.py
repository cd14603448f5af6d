"""Control surfaces: air load and hinge moment, twist away from the horn, what deflection arrives, best horn place."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.integrate import cumulative_trapezoid

from fletcher.core.common.arrays import Array, IntArray
from fletcher.core.common.quantities import F0, G, from_root, in_m_s, in_N_mm
from fletcher.core.document import cases
from fletcher.core.document.airframe import Part
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import ModelFactor, draw_factor
from fletcher.core.structure.control_linkage import left_of, run_of
from fletcher.core.structure.loading import AIR_DENSITY_KG_M3, Body, Loading, Measure, nothing

HINGE_LOSS = ModelFactor(
    "hinge moment of real flow",
    Range(0.5, 0.7, 0.9),
    "share of the thin-aerofoil hinge moment left in real (viscous) flow",
)


@dataclass(frozen=True)
class Flap:
    """Per radian of deflection: lift of the whole section over its chord, its moment about the quarter chord (nose up),
    and on the flap alone its normal force and hinge moment over the flap's own chord (both as sizes)."""

    lift: float
    moment: float
    normal: float
    hinge: float


@lru_cache(maxsize=64)
def flap(ratio: float) -> Flap:
    """Thin-aerofoil coefficients of a plain flap with this share of the chord (Glauert 1927).

    Pressure 4/π {(π − θ_h)(1 + cos θ)/sin θ + ln|sin ½(θ + θ_h)/sin ½(θ − θ_h)|}, x = c(1 − cos θ)/2, hinge at
    cos θ_h = 2·ratio − 1. The flap's force and moment are integrated over Gauss points behind the hinge, with the
    logarithm smoothed by u² from it.
    """
    hinge = float(np.arccos(2 * ratio - 1))
    lift = float(2 * (np.pi - hinge + np.sin(hinge)))
    moment = float(-0.5 * np.sin(hinge) * (1 - np.cos(hinge)))
    nodes, weights = np.polynomial.legendre.leggauss(60)
    u = 0.5 * (nodes + 1)
    theta = hinge + (np.pi - hinge) * u**2
    step = 0.5 * weights * 2 * u * (np.pi - hinge)
    pressure = (np.pi - hinge) * (1 + np.cos(theta)) / np.sin(theta)
    pressure = 4 / np.pi * (pressure + np.log(np.sin(0.5 * (theta + hinge)) / np.abs(np.sin(0.5 * (theta - hinge)))))
    x, area = 0.5 * (1 - np.cos(theta)), 0.5 * np.sin(theta) * step
    normal = float((pressure * area).sum()) / ratio
    turned = float((pressure * (x - (1 - ratio)) * area).sum()) / ratio**2
    return Flap(lift, moment, normal, turned)


def horn_of(case: cases.DeflectedCase, part: Part) -> float:
    """Where the horn stands, mm."""
    return 0.5 * part.span_mm if case.horn_mm is None else case.horn_mm


def _nodes(y: Array) -> tuple[Array, IntArray]:
    """Distinct places (m,) and the place of every station (n,)."""
    places, inverse = np.unique(np.round(y, 9), return_inverse=True)
    return places, inverse


def blown_back(y: Array, torsion: Array, give: Array, deflection: float, horn: float) -> Array:
    """Twist (S, n), rad, of a surface held at its horn, its ends free: (GJ θ′)′ = k (δ + θ), k the hinge moment per
    length and radian `give` (S, n), N. Linear elements, the tridiagonal equations of all samples solved at once."""
    places, inverse = _nodes(y)
    first = np.array([np.nonzero(inverse == m)[0][-1] for m in range(len(places))])
    last = np.array([np.nonzero(inverse == m)[0][0] for m in range(len(places))])
    h = np.diff(places)
    stiff = 0.5 * (torsion[:, first[:-1]] + torsion[:, last[1:]]) / h
    held = 0.5 * (give[:, first[:-1]] + give[:, last[1:]]) * h / 2
    diag = np.zeros((len(torsion), len(places)))
    diag[:, :-1] += stiff + held
    diag[:, 1:] += stiff + held
    right = np.zeros_like(diag)
    right[:, :-1] -= held * deflection
    right[:, 1:] -= held * deflection
    off = -stiff
    k = int(np.argmin(np.abs(places - horn)))
    diag[:, k] += 1e9 * diag.max()
    for m in range(1, len(places)):
        share = off[:, m - 1] / diag[:, m - 1]
        diag[:, m] -= share * off[:, m - 1]
        right[:, m] -= share * right[:, m - 1]
    theta = np.zeros_like(right)
    theta[:, -1] = right[:, -1] / diag[:, -1]
    for m in range(len(places) - 2, -1, -1):
        theta[:, m] = (right[:, m] - off[:, m] * theta[:, m + 1]) / diag[:, m]
    return np.asarray(theta[:, inverse])


def arriving(y: Array, chord: Array, twist: Array, deflection: float) -> Array:
    """Mean deflection that arrives over the one at the horn, (S,), weighted by the chord."""
    return np.asarray(np.trapezoid((deflection + twist) * chord, y, axis=-1) / (deflection * np.trapezoid(chord, y)))


def best_horn(y: Array, chord: Array, torsion: Array, give: Array, deflection: float) -> float:
    """Place of the horn at which most of the deflection arrives, mm, by trying forty; typical values."""
    places = np.linspace(0.03, 0.97, 41) * y[-1]
    found = [
        float(arriving(y, chord, blown_back(y, torsion[:1], give[:1], deflection, p), deflection)[0]) for p in places
    ]
    return float(places[int(np.argmax(found))])


def centre_of_push(chord_percent: float) -> float:
    """Where the air load of a deflected surface stands, share of its own chord behind its front edge."""
    f = flap(round(chord_percent / 100, 4))
    return f.hinge / f.normal


def hinge_give(case: cases.DeflectedCase, chord: Array) -> Array:
    """Hinge moment per length and radian (S, n), N·mm/mm: c_h ½ρV² c². A hinge behind the front edge of the surface is
    so much nearer to its air load: c_h = c_n (x − b) with the load at x and the hinge at b of the surface's chord."""
    pressure = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * 1e-6
    ahead = centre_of_push(case.chord_percent) - case.balance_percent / 100
    coefficient = flap(round(case.chord_percent / 100, 4)).normal * ahead
    return np.asarray(draw_factor(HINGE_LOSS)[:, None] * coefficient * pressure * chord**2)


def deflected(case: cases.DeflectedCase, body: Body) -> Loading:
    """A surface held at its horn in the air stream, hung on evenly spaced hinges."""
    y, L = body.y, body.part.span_mm
    delta, horn = np.radians(case.deflection_deg), horn_of(case, body.part)
    give = hinge_give(case, body.chord)
    twist = blown_back(y, body.torsion, give, delta, horn)
    moment_per_length = give * (delta + twist)
    inner = cumulative_trapezoid(moment_per_length, y, axis=1, initial=0)
    # from the horn outwards: what lies between a section and the nearer free end
    torque = np.where(y < horn - 1e-9, inner, inner - inner[:, [-1]])
    pressure = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * 1e-6
    push = flap(round(case.chord_percent / 100, 4)).normal * pressure * body.chord * delta
    hinges = tuple((i + 0.5) / case.hinges * L for i in range(case.hinges))
    moment = _between_hinges(y, push, hinges)
    bend = _hung(y, moment / body.whole_EI, hinges)
    moment = np.broadcast_to(moment, body.mass.shape)
    total = inner[:, -1]
    arrives = arriving(y, body.chord, twist, delta)
    run, left = None, None
    if case.run is not None:  # everything is in proportion to the deflection that reaches the horn
        run = run_of(case.run)
        left = left_of(run, total, delta)
        moment, bend, torque = (left[:, None] * v for v in (moment, bend, torque))
        twist = left[:, None] * (delta + twist) - delta
        total, arrives = left * total, left * arrives
    best = best_horn(y, body.chord, body.torsion, give, delta)
    better = float(arriving(y, body.chord, blown_back(y, body.torsion[:1], give[:1], delta, best), delta)[0])
    says = (
        f"held at {case.deflection_deg:g}° at {in_m_s(case.speed_m_s, G)} by a horn {from_root(horn)}: "
        "the servo holds "
        f"{in_N_mm(float(total[0]), F0)}, {100 * float(arrives[0]):.0f} % of the deflection arrives on the mean"
    )
    notes: tuple[str, ...] = ()
    if better - float(arrives[0]) > 0.01 and left is None:
        notes = (f"With the horn {from_root(best)}, {100 * better:.0f} % would reach the air.",)
    return Loading(
        moment=moment,
        edge=nothing(body),
        torque=torque,
        says=says,
        measure=Measure("deflected", case.deflection_deg, "°"),
        read="twist",
        notes=notes,
        held=False,
        twist=twist,
        bend=bend,
        horn_mm=horn,
        hinges_mm=hinges,
        arrives=arrives,
        servo=total,
        best_horn_mm=best,
        run=run,
        run_left=left,
    )


def _between_hinges(y: Array, push: Array, hinges: tuple[float, ...]) -> Array:
    """Bending moment (n,) of an even push on spans that each hinge ends and on free ends beyond the outer hinges; the
    spans are taken as simple beams, which leaves out the help of their neighbours. N·mm."""
    mean = float(np.trapezoid(push, y) / y[-1])
    a = np.array([0.0, *hinges, y[-1]])
    k = np.clip(np.searchsorted(a, y, side="right") - 1, 0, len(a) - 2)
    left, right = a[k], a[k + 1]
    span = 0.5 * mean * (y - left) * (right - y)
    out = np.where(k == 0, -0.5 * mean * y**2, np.where(k == len(a) - 2, -0.5 * mean * (y[-1] - y) ** 2, span))
    return np.asarray(-out)


def _hung(y: Array, curvature: Array, hinges: tuple[float, ...]) -> Array:
    """Deflection (S, n) that vanishes at every hinge, from curvature (S, n)."""
    shape = cumulative_trapezoid(cumulative_trapezoid(curvature, y, axis=1, initial=0), y, axis=1, initial=0)
    at = np.array([int(np.argmin(np.abs(y - h))) for h in hinges])
    # straight lines through the hinges; beyond the outer ones the line of the span beside goes on
    k = np.clip(np.searchsorted(y[at], y, side="right") - 1, 0, len(at) - 2)
    low, high = at[k], at[k + 1]
    run = (y - y[low]) / (y[high] - y[low])
    return np.asarray(shape - shape[:, low] - run * (shape[:, high] - shape[:, low]))
