"""Load cases: from what happens to a part to bending, edgewise bending and twisting moments along it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from fletcher.core import cases
from fletcher.core.airframe import Part
from fletcher.core.lift import lift_moment, lift_per_length, lift_slope, pitching_moment
from fletcher.core.materials import G_GRAVITY
from fletcher.core.outline import Array, IntArray, Outline

AIR_DENSITY_KG_M3 = 1.225
"""Standard air at sea level; dense, so on the safe side for loads."""

GYRATION = 0.3
"""[J] Radius of gyration in yaw of the airframe without its wings, over the half span: a fuselage 0.7 spans long."""


@dataclass(frozen=True)
class Body:
    """What a case needs to know of the part. Arrays: stations (n,), samples (S, n) or (S,).

    `mass` g/mm, `shear_centre` and `centroid` mm aft of the local leading edge, `flap_hz` and `edge_hz` the first
    frequencies with the root held, `crush` the crush stress of the foam (MPa).
    """

    part: Part
    outline: Outline
    all_up_mass_g: float
    y: Array
    left: IntArray
    chord: Array
    thickness: Array
    centroid: Array
    mass: Array
    shear_centre: Array
    flap_hz: Array
    edge_hz: Array
    crush: Array

    @property
    def weight_N(self) -> float:
        """Weight of the whole airframe."""
        return self.all_up_mass_g * 1e-3 * G_GRAVITY

    @property
    def wing_area_m2(self) -> float:
        """Area of both halves."""
        return (self.part.root_chord_mm + self.part.tip_chord_mm) * self.part.span_mm * 1e-6

    @property
    def mean_chord_mm(self) -> float:
        """Mean chord."""
        return 0.5 * (self.part.root_chord_mm + self.part.tip_chord_mm)

    @property
    def aspect_ratio(self) -> float:
        """Full span over mean chord."""
        return 2 * self.part.span_mm / self.mean_chord_mm


@dataclass(frozen=True)
class Measure:
    """How big a load is, in the figure by which a builder knows it; it grows with the load."""

    name: str
    value: float
    unit: str


@dataclass(frozen=True)
class Loading:
    """Moments of a case along the part, (S, n), N·mm: `moment` presses the upper face, `edge` pulls the rear edge,
    `torque` turns the nose up. `supports` as `fletcher.core.beam.respond` takes them; `says` is the sentence that
    tells what the case stands for; `at` the place whose bend is read; `read` what is read there."""

    moment: Array
    edge: Array
    torque: Array
    says: str
    measure: Measure
    supports: tuple[float, float] | None = None
    read: str = "bend"
    notes: tuple[str, ...] = ()


PLACED = (cases.TipStrikeCase, cases.HandlingCase, cases.TipWeightCase)
"""Cases whose load acts at one place."""


def breaks_of(case: cases.Case, part: Part) -> list[float]:
    """Places at which the case's loads act, where the stations must not straddle."""
    if isinstance(case, cases.ThreePointCase):
        return [case.first_support_mm, 0.5 * (case.first_support_mm + case.second_support_mm), case.second_support_mm]
    if isinstance(case, cases.FlightCase):
        return [case.saddle_mm] if case.saddle_mm > 0 else []
    if isinstance(case, PLACED):
        return [place_of(case, part)]
    return []


def place_of(case: cases.TipStrikeCase | cases.HandlingCase | cases.TipWeightCase, part: Part) -> float:
    """Where a point load acts: as given, or near the tip."""
    if case.at_mm is not None:
        return case.at_mm
    return max(part.span_mm - 20.0, 0.5 * part.span_mm) if isinstance(case, cases.TipStrikeCase) else part.span_mm


def dynamic_factor(frequency_hz: Array, speed_m_s: float, stop_mm: float) -> Array:
    """Largest answer of a part to a steady deceleration that begins at once and lasts t = 2 s/V, over its static
    answer: 2 sin(π t f₁), at most 2 (undamped, one degree of freedom; Biggs 1964)."""
    lasts = 2 * stop_mm * 1e-3 / speed_m_s
    return np.asarray(np.where(lasts * frequency_hz < 0.5, 2 * np.sin(np.pi * lasts * frequency_hz), 2.0))


def inertia_moment(mass_g_mm: Array, left: IntArray, y: Array, load_factor: float) -> Array:
    """Bending moment (S, n), N·mm, of the part's own weight times n, which relieves the lift. `mass_g_mm` (S, n)."""
    q = mass_g_mm * 1e-3 * G_GRAVITY * load_factor
    h = y[left + 1] - y[left]
    inner, outer = q[:, left], q[:, left + 1]

    def outboard(values: Array) -> Array:
        """Sums of what lies outboard of each element (S, elements + 1), from its inner end; the tip last."""
        sums = np.cumsum(values[:, ::-1], 1)[:, ::-1]
        return np.concatenate([sums, np.zeros((len(values), 1))], 1)

    shear = outboard(0.5 * h * (inner + outer))
    moment = outboard(shear[:, 1:] * h + h**2 * (inner / 6 + outer / 3))
    found = np.zeros_like(q)
    found[:, left] = moment[:, :-1]
    found[:, left + 1] = moment[:, 1:]
    return found


def load(case: cases.Case, body: Body) -> Loading:
    """Moments along the part in one case, before any factor of safety."""
    return _LOADS[type(case)](case, body)


def _none(body: Body) -> Array:
    return np.zeros_like(body.mass)


def _flight(case: cases.FlightCase, body: Body, whole_lift: float, load_factor: float, says: str) -> Loading:
    """A part of a wing in the air: lift less its own weight times n, taken up evenly over the saddle.

    The twisting moment is about the shear centre: lift acts at a quarter of the chord, the section adds its own
    pitching moment, the weight acts at the centroid.
    """
    part, y, mass = body.part, body.y, body.mass
    up = lift_moment(case.lift, whole_lift / 2, part.span_mm, part.root_chord_mm, part.tip_chord_mm, y)
    moment = up[None, :] - inertia_moment(mass, body.left, y, load_factor)
    if case.saddle_mm > 0:
        # the fuselage pushes back evenly over its half width, so that the shear is gone at the centre line
        left = body.left
        own = (0.5 * (mass[:, left] + mass[:, left + 1]) * (y[left + 1] - y[left])).sum(1) * 1e-3 * G_GRAVITY
        inboard = np.clip(case.saddle_mm - y, 0.0, None)
        push = (whole_lift / 2 - own * load_factor)[:, None]
        moment = moment - push * inboard[None, :] ** 2 / (2 * case.saddle_mm)
    lift = lift_per_length(case.lift, whole_lift / 2, part.span_mm, body.chord, y)
    pressure = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * 1e-6
    weight = mass * 1e-3 * G_GRAVITY * load_factor
    per_length = lift * (body.shear_centre - 0.25 * body.chord) + weight * (body.centroid - body.shear_centre)
    per_length = per_length + pitching_moment(body.outline) * pressure * body.chord**2
    return Loading(
        moment=moment,
        edge=_none(body),
        torque=outboard(per_length, y),
        says=says,
        measure=Measure("load factor", load_factor, ""),
    )


def outboard(per_length: Array, y: Array) -> Array:
    """∫ from y to the tip of values (S, n)."""
    steps = 0.5 * (per_length[:, 1:] + per_length[:, :-1]) * np.diff(y)
    inner = np.cumsum(steps[:, ::-1], 1)[:, ::-1]
    return np.concatenate([inner, np.zeros((len(per_length), 1))], 1)


def _pull_up(case: cases.PullUpCase, body: Body) -> Loading:
    whole_lift = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * body.wing_area_m2 * case.cl_max
    n = whole_lift / body.weight_N
    says = (
        f"pull-up at {case.speed_m_s:g} m/s until the wing gives its most lift (C_L {case.cl_max:g}): "
        f"{n:.1f} g on {body.all_up_mass_g:.0f} g all up"
    )
    return _flight(case, body, whole_lift, n, says)


def _turn(case: cases.TurnCase, body: Body) -> Loading:
    n = 1 / np.cos(np.radians(case.bank_deg))
    lift = n * body.weight_N
    cl = lift / (0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * body.wing_area_m2)
    says = (
        f"steady turn banked {case.bank_deg:g}° at {case.speed_m_s:g} m/s: {n:.1f} g on {body.all_up_mass_g:.0f} g all "
        f"up, which asks the wing for a C_L of {cl:.2f}"
    )
    notes = () if cl <= 1.3 else (f"The wing would stall first: it cannot give a C_L of {cl:.2f} at this speed.",)
    return replace(_flight(case, body, lift, n, says), notes=notes)


def gust_factor(body: Body, speed_m_s: float, gust_m_s: float) -> float:
    """Change of load factor by a sharp gust, ρ V U a S K / 2W, with Pratt's (1953) alleviation K = 0.88 μ/(5.3 + μ),
    μ = 2 (m/S)/(ρ c a)."""
    slope = lift_slope(body.aspect_ratio)
    loading = body.all_up_mass_g * 1e-3 / body.wing_area_m2
    ratio = 2 * loading / (AIR_DENSITY_KG_M3 * body.mean_chord_mm * 1e-3 * slope)
    alleviation = 0.88 * ratio / (5.3 + ratio)
    lift = 0.5 * alleviation * AIR_DENSITY_KG_M3 * speed_m_s * gust_m_s * slope * body.wing_area_m2
    return lift / body.weight_N


def _gust(case: cases.GustCase, body: Body) -> Loading:
    change = gust_factor(body, case.speed_m_s, case.gust_m_s)
    n = 1 + change if case.way == "up" else 1 - change
    word = "upright" if case.way == "up" else "down"
    says = (
        f"{word} gust of {case.gust_m_s:g} m/s met at {case.speed_m_s:g} m/s in level flight (softened as Pratt says): "
        f"{n:.1f} g on {body.all_up_mass_g:.0f} g all up"
    )
    return _flight(case, body, n * body.weight_N, n, says)


def _tow(case: cases.TowCase, body: Body) -> Loading:
    lift = body.weight_N + case.pull_N
    says = (
        f"towed at {case.speed_m_s:g} m/s by a line that pulls the fuselage down with {case.pull_N:g} N; the wing "
        f"lifts {lift:.1f} N and is relieved by its own weight only"
    )
    loading = _flight(case, body, lift, 1.0, says)
    return replace(loading, measure=Measure("line pull", case.pull_N, "N"))


def _landing(case: cases.LandingCase, body: Body) -> Loading:
    mean = case.sink_m_s**2 / (2 * case.stop_mm * 1e-3) / G_GRAVITY
    g = 1 + mean * dynamic_factor(body.flap_hz, case.sink_m_s, case.stop_mm)[:, None]
    down = inertia_moment(body.mass, body.left, body.y, 1.0) * g
    weight = body.mass * 1e-3 * G_GRAVITY * g
    return Loading(
        moment=-down,
        edge=_none(body),
        torque=outboard(weight * (body.centroid - body.shear_centre), body.y),
        says=(
            f"flat landing at {case.sink_m_s:g} m/s down, stopped over {case.stop_mm:g} mm: {mean:.1f} g on the mean, "
            f"{float(g[0, 0]):.1f} g felt by the part as it springs; it bends down under its own weight"
        ),
        measure=Measure("felt", float(g[0, 0]), "g"),
    )


def _sudden_stop(case: cases.SuddenStopCase, body: Body) -> Loading:
    mean = case.speed_m_s**2 / (2 * case.stop_mm * 1e-3) / G_GRAVITY
    g = mean * dynamic_factor(body.edge_hz, case.speed_m_s, case.stop_mm)[:, None]
    return Loading(
        moment=_none(body),
        edge=inertia_moment(body.mass, body.left, body.y, 1.0) * g,
        torque=_none(body),
        says=(
            f"stopped from {case.speed_m_s:g} m/s over {case.stop_mm:g} mm: {mean:.0f} g on the mean, "
            f"{float(g[0, 0]):.0f} g felt by the part as it swings forwards, bent edgewise by its own mass"
        ),
        measure=Measure("felt", float(g[0, 0]), "g"),
        read="swing",
    )


def _hand_launch(case: cases.HandLaunchCase, body: Body) -> Loading:
    g = case.speed_m_s**2 / (2 * case.stroke_mm * 1e-3) / G_GRAVITY
    return Loading(
        moment=_none(body),
        edge=-inertia_moment(body.mass, body.left, body.y, g),
        torque=_none(body),
        says=(
            f"thrown to {case.speed_m_s:g} m/s over a stroke of {case.stroke_mm:g} mm: {g:.1f} g, which rises gently; "
            "the part lags behind and is bent edgewise"
        ),
        measure=Measure("thrown at", g, "g"),
        read="swing",
    )


def _tip_strike(case: cases.TipStrikeCase, body: Body) -> Loading:
    at = place_of(case, body.part)
    high = float(np.interp(at, body.y, body.thickness))
    force = body.crush * case.contact_mm * high
    part_mass, turning = (
        float(np.trapezoid(body.mass[0] * body.y**power, body.y)) for power in (0, 2)
    )  # one half; g and g·mm²
    rest = max(body.all_up_mass_g - 2 * part_mass, 0.1 * body.all_up_mass_g)
    inertia = 2 * turning + rest * (GYRATION * body.part.span_mm) ** 2
    effective = 1 / (1 / body.all_up_mass_g + at**2 / inertia)
    energy = 0.5 * effective * 1e-3 * case.speed_m_s**2
    depth = 1e3 * energy / float(force[0])
    chord = float(np.interp(at, body.y, body.chord))
    notes: tuple[str, ...] = ()
    if depth > 0.4 * chord:
        notes = (f"The edge would have to crush {depth:.0f} mm deep, most of the chord: expect the part to be cut.",)
    return Loading(
        moment=_none(body),
        edge=-force[:, None] * np.clip(at - body.y, 0.0, None),
        torque=_none(body),
        says=(
            f"struck on the leading edge {at:.0f} mm out at {case.speed_m_s:g} m/s: {energy:.1f} J of "
            f"{effective:.0f} g that has to be stopped there; the foam crushes about {depth:.0f} mm deep at "
            f"{float(force[0]):.0f} N"
        ),
        measure=Measure("strike", float(force[0]), "N"),
        read="swing",
        notes=notes,
    )


def _handling(case: cases.HandlingCase, body: Body) -> Loading:
    at = place_of(case, body.part)
    sign, does = (1.0, "lifts") if case.way == "up" else (-1.0, "presses")
    own = inertia_moment(body.mass, body.left, body.y, 1.0)
    return Loading(
        moment=sign * case.force_N * np.clip(at - body.y, 0.0, None)[None, :] - own,
        edge=_none(body),
        torque=_none(body),
        says=(f"a hand {does} with {case.force_N:g} N {at:.0f} mm out while the root is held"),
        measure=Measure("hand", case.force_N, "N"),
    )


def _three_point(case: cases.ThreePointCase, body: Body) -> Loading:
    a, b = case.first_support_mm, case.second_support_mm
    force = case.weight_g * 1e-3 * G_GRAVITY
    half = 0.5 * (b - a)
    arm = np.clip(np.minimum(body.y - a, b - body.y), 0.0, None)
    return Loading(
        moment=np.broadcast_to(0.5 * force * np.clip(arm, 0.0, half), body.mass.shape),
        edge=_none(body),
        torque=_none(body),
        says=f"{case.weight_g:.0f} g hung from the middle between two supports {b - a:.0f} mm apart",
        measure=Measure("hung", case.weight_g, "g"),
        supports=(a, b),
    )


def _tip_weight(case: cases.TipWeightCase, body: Body) -> Loading:
    at = place_of(case, body.part)
    force = case.weight_g * 1e-3 * G_GRAVITY
    return Loading(
        moment=np.broadcast_to(-force * np.clip(at - body.y, 0.0, None), body.mass.shape),
        edge=_none(body),
        torque=_none(body),
        says=f"root clamped, {case.weight_g:.0f} g hung {at:.0f} mm out; read from the sag under its own weight",
        measure=Measure("hung", case.weight_g, "g"),
    )


def _tip_twist(case: cases.TipTwistCase, body: Body) -> Loading:
    return Loading(
        moment=_none(body),
        edge=_none(body),
        torque=np.full_like(body.mass, case.couple_N_mm),
        says=f"root clamped, a couple of {case.couple_N_mm:g} N·mm turned at the tip, nose up",
        measure=Measure("couple", case.couple_N_mm, "N·mm"),
        read="twist",
    )


_LOADS: dict[type, Callable[..., Loading]] = {
    cases.PullUpCase: _pull_up,
    cases.TurnCase: _turn,
    cases.GustCase: _gust,
    cases.TowCase: _tow,
    cases.LandingCase: _landing,
    cases.SuddenStopCase: _sudden_stop,
    cases.HandLaunchCase: _hand_launch,
    cases.TipStrikeCase: _tip_strike,
    cases.HandlingCase: _handling,
    cases.ThreePointCase: _three_point,
    cases.TipWeightCase: _tip_weight,
    cases.TipTwistCase: _tip_twist,
}
