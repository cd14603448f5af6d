"""Load cases: from what happens to the part to shear force and bending moment along it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.airframe import Case, FourDigitSection, Part, PullUpCase, ThreePointCase
from fletcher.core.materials import G_GRAVITY
from fletcher.core.outline import Array, IntArray

AIR_DENSITY_KG_M3 = 1.225
"""Standard air at sea level; dense, so on the safe side for loads."""


PITCHING_MOMENT_PER_CAMBER = 0.025
"""[J] Nose-down pitching moment coefficient about the quarter chord per per cent of camber (thin-aerofoil theory for a
camber line with its top at 40 %: 0.026)."""


@dataclass(frozen=True)
class Loading:
    """Bending moment of a case at the given stations.

    `moment` (S, n) N·mm; `supports` as `fletcher.core.beam.respond` takes them; `says` is the sentence that tells
    what the case stands for; `load_factor` is n of a flight case; `force_N` the lift of this part or the hung weight.
    """

    moment: Array
    supports: tuple[float, float] | None
    says: str
    force_N: float
    load_factor: float | None = None


def breaks_of(case: Case) -> list[float]:
    """Places at which the case's loads act, where the stations must not straddle."""
    if isinstance(case, ThreePointCase):
        return [case.first_support_mm, 0.5 * (case.first_support_mm + case.second_support_mm), case.second_support_mm]
    return [case.saddle_mm] if case.saddle_mm > 0 else []


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


def twisting_moment(
    case: Case, part: Part, loading: Loading, y: Array, chord: Array, shear_centre: Array, centroid: Array, mass: Array
) -> Array:
    """Twisting moment (S, n) in N·mm about the local shear centre, nose up positive.

    Lift acts at a quarter of the chord, the section adds its own pitching moment, the part's weight acts at its
    centroid. `chord`, `centroid` (n,), `shear_centre`, `mass` (S, n), mm aft of the local leading edge and g/mm. The
    sweep of the shear-centre line is left out.
    """
    if not isinstance(case, PullUpCase) or loading.load_factor is None:
        return np.zeros_like(shear_centre)
    lift = lift_per_length(case.lift, loading.force_N, part.span_mm, chord, y)
    camber = part.section.camber_percent if isinstance(part.section, FourDigitSection) else 0.0
    pressure = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * 1e-6
    weight = mass * 1e-3 * G_GRAVITY * loading.load_factor
    per_length = lift * (shear_centre - 0.25 * chord) + weight * (centroid - shear_centre)
    per_length = per_length - PITCHING_MOMENT_PER_CAMBER * camber * pressure * chord**2
    steps = 0.5 * (per_length[:, 1:] + per_length[:, :-1]) * np.diff(y)
    outboard = np.cumsum(steps[:, ::-1], 1)[:, ::-1]
    return np.concatenate([outboard, np.zeros((len(per_length), 1))], 1)


def inertia_moment(mass_g_mm: Array, left: IntArray, y: Array, load_factor: float) -> Array:
    """Bending moment (S, n), N·mm, of the part's own weight times n, which relieves the lift. `mass_g_mm` (S, n)."""
    q = mass_g_mm * 1e-3 * G_GRAVITY * load_factor
    samples, n = q.shape
    shear, moment = np.zeros((samples, n)), np.zeros((samples, n))
    v, m = np.zeros(samples), np.zeros(samples)
    for k in left[::-1]:
        h = y[k + 1] - y[k]
        shear[:, k + 1], moment[:, k + 1] = v, m
        m = m + v * h + h**2 * (q[:, k] / 6 + q[:, k + 1] / 3)
        v = v + 0.5 * h * (q[:, k] + q[:, k + 1])
        shear[:, k], moment[:, k] = v, m
    return moment


def load(case: Case, part: Part, all_up_mass_g: float, y: Array, left: IntArray, mass_g_mm: Array) -> Loading:
    """Bending moment along the part in one case, before any factor of safety.

    Parameters
    ----------
    y, left : stations (n,) and first station of each element, see `fletcher.core.beam.Mesh`.
    mass_g_mm : (S, n) own mass per length.
    """
    if isinstance(case, PullUpCase):
        return _pull_up(case, part, all_up_mass_g, y, left, mass_g_mm)
    a, b = case.first_support_mm, case.second_support_mm
    force = case.weight_g * 1e-3 * G_GRAVITY
    half = 0.5 * (b - a)
    arm = np.clip(np.minimum(y - a, b - y), 0.0, None)
    moment = np.broadcast_to(0.5 * force * np.clip(arm, 0.0, half), mass_g_mm.shape)
    return Loading(
        moment=moment,
        supports=(a, b),
        says=f"{case.weight_g:.0f} g hung from the middle between two supports {b - a:.0f} mm apart",
        force_N=force,
    )


def _pull_up(case: PullUpCase, part: Part, all_up_mass_g: float, y: Array, left: IntArray, mass_g_mm: Array) -> Loading:
    area_m2 = (part.root_chord_mm + part.tip_chord_mm) * part.span_mm * 1e-6
    whole_lift = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * area_m2 * case.cl_max
    load_factor = whole_lift / (all_up_mass_g * 1e-3 * G_GRAVITY)
    up = lift_moment(case.lift, whole_lift / 2, part.span_mm, part.root_chord_mm, part.tip_chord_mm, y)
    moment = up[None, :] - inertia_moment(mass_g_mm, left, y, load_factor)
    if case.saddle_mm > 0:
        # the fuselage pushes back evenly over its half width, so that the shear is gone at the centre line
        weight = mass_g_mm[:, left] + mass_g_mm[:, left + 1]
        own = (0.5 * weight * (y[left + 1] - y[left])).sum(1) * 1e-3 * G_GRAVITY * load_factor
        inboard = np.clip(case.saddle_mm - y, 0.0, None)
        moment = moment - (whole_lift / 2 - own)[:, None] * inboard[None, :] ** 2 / (2 * case.saddle_mm)
    return Loading(
        moment=moment,
        supports=None,
        says=(
            f"pull-up at {case.speed_m_s:g} m/s until the wing gives its most lift (C_L {case.cl_max:g}): "
            f"{load_factor:.1f} g on {all_up_mass_g:.0f} g all up"
        ),
        force_N=whole_lift / 2,
        load_factor=load_factor,
    )
