"""Load cases: from what happens to a part to bending, edgewise bending and twisting moments along it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import get_args

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import F0, F1, G2, G, from_root, in_g, in_m_s, in_mm, in_N, in_N_mm, quantity
from fletcher.core.document import cases
from fletcher.core.document.airframe import Part
from fletcher.core.materials.materials import G_GRAVITY, Range
from fletcher.core.materials.uncertainty import ModelFactor, draw_factor
from fletcher.core.structure import control_surfaces, fuselage
from fletcher.core.structure.able_to_fly import flight, most_lift
from fletcher.core.structure.cord_strike import BED, Caught, caught
from fletcher.core.structure.divergence import Swept
from fletcher.core.structure.lift import lift_moment, lift_per_length, pitching_moment, slope_of
from fletcher.core.structure.loading import (
    AIR_DENSITY_KG_M3,
    GYRATION,
    Body,
    Loading,
    Measure,
    dynamic_factor,
    inertia_moment,
    nothing,
    outboard,
)

PlacedCase = cases.TipStrikeCase | cases.HandlingCase | cases.TipWeightCase | cases.TailLoadCase | cases.StrapCase
PLACED = get_args(PlacedCase)
"""Cases whose load acts at one place."""


def breaks_of(case: cases.Case, part: Part) -> list[float]:
    """Places at which the case's loads act, where the stations must not straddle."""
    if isinstance(case, cases.ThreePointCase):
        return [case.first_support_mm, 0.5 * (case.first_support_mm + case.second_support_mm), case.second_support_mm]
    if isinstance(case, cases.FlightCase):
        return [case.saddle_mm] if case.saddle_mm > 0 else []
    if isinstance(case, PLACED):
        return [place_of(case, part)]
    if isinstance(case, cases.DeflectedCase):
        return [control_surfaces.horn_of(case, part)]
    return []


def place_of(case: PlacedCase, part: Part) -> float:
    """Where a point load acts: as given, or near the tip."""
    if case.at_mm is not None:
        return case.at_mm
    if isinstance(case, cases.StrapCase):
        return min(10.0, part.span_mm / 2)
    return max(part.span_mm - 20.0, 0.5 * part.span_mm) if isinstance(case, cases.TipStrikeCase) else part.span_mm


def load(case: cases.Case, body: Body) -> Loading:
    """Moments along the part in one case, before any factor of safety."""
    return _LOADS[type(case)](case, body)


FOLLOWED_FROM = 0.02
"""From this share of the divergence pressure on the lift's spread is followed as the part bends and twists."""
_RUNS_AWAY = 0.8
"""No more than this share of the divergence pressure is followed."""


def shifted(body: Body, lift: Array, speed_m_s: float) -> Array:
    """Lift per length (S, n), N/mm, of the same total that the bent and twisted part spreads at a speed: outwards
    where it twists nose up or is swept forward, inwards where it is swept back (`structure.divergence`)."""
    swept = Swept.of(
        body.y, body.whole_EI, body.torsion, body.chord, body.shear_centre, body.part.tip_setback_mm,
        slope_of(body.part),
    )  # fmt: skip
    c = float(np.cos(swept.sweep))
    pressure = 0.5 * AIR_DENSITY_KG_M3 * min(speed_m_s, _RUNS_AWAY**0.5 * float(body.divergence.min())) ** 2 * 1e-6
    more = swept.answer(lift * c, pressure).more_lift / c
    found = np.maximum(lift + more, 0.0)
    total = np.trapezoid(found, body.y, axis=1)
    return np.asarray(found * (np.trapezoid(lift, body.y) / np.maximum(total, 1e-12))[:, None])


def _moment_of(lift: Array, body: Body) -> Array:
    """Bending moment (S, n) of a lift per length (n,) or (S, n) by trapezes."""
    return outboard(outboard(np.atleast_2d(lift), body.y), body.y)


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
    if (case.speed_m_s / float(body.divergence[0])) ** 2 > FOLLOWED_FROM:
        lift = shifted(body, lift, case.speed_m_s)
        moment = moment + _moment_of(lift, body) - _moment_of(lift_per_length(
            case.lift, whole_lift / 2, part.span_mm, body.chord, y), body)  # fmt: skip
    pressure = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * 1e-6
    weight = mass * 1e-3 * G_GRAVITY * load_factor
    per_length = lift * (body.shear_centre - 0.25 * body.chord) + weight * (body.centroid - body.shear_centre)
    per_length = per_length + pitching_moment(body.outline) * pressure * body.chord**2
    return Loading(
        moment=moment,
        edge=nothing(body),
        torque=outboard(per_length, y),
        says=says,
        measure=Measure("load factor", load_factor, ""),
        whole_lift=whole_lift,
    )


def _capped(case: cases.FlightCase, body: Body, cl_max: float, load_factor: float) -> tuple[float, str, bool]:
    """The load factor that the wing can reach, what is told where that is less than asked or than its own weight, and
    whether the aircraft cannot fly at that speed."""
    able = flight(body.all_up_mass_g, body.wing_area_m2, cl_max, case.speed_m_s)
    speed = f"{in_m_s(case.speed_m_s, G)}"
    if able.load_factor < 1:
        return able.load_factor, (
            f"Cannot fly at {speed} — lift is only {able.load_factor:.2g} × gravity; it flies from "
            f"{in_m_s(able.flies_from_m_s, F1)}"
        ), True  # fmt: skip
    if load_factor > able.load_factor * (1 + 1e-9):
        return able.load_factor, f"Load factor limited to {able.load_factor:.2g} at {speed} (stall)", False
    return load_factor, "", False


def _pull_up(case: cases.PullUpCase, body: Body) -> Loading:
    whole_lift = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * body.wing_area_m2 * case.cl_max
    n = whole_lift / body.weight_N
    says = (
        f"pull-up at {in_m_s(case.speed_m_s, G)} up to the wing’s most lift (C_L {case.cl_max:g}): "
        f"{n:.1f} × gravity on {in_g(body.all_up_mass_g, F0)} all up"
    )
    _, stall, cannot = _capped(case, body, case.cl_max, n)
    return replace(_flight(case, body, whole_lift, n, says), stall=stall, cannot_fly=cannot)


def _turn(case: cases.TurnCase, body: Body) -> Loading:
    wanted = float(1 / np.cos(np.radians(case.bank_deg)))
    n, stall, cannot = _capped(case, body, most_lift(body.part), wanted)
    lift = n * body.weight_N
    cl = lift / (0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * body.wing_area_m2)
    says = (
        f"steady turn banked {case.bank_deg:g}° at {in_m_s(case.speed_m_s, G)}: {n:.1f} × gravity on "
        f"{in_g(body.all_up_mass_g, F0)} all up, which asks the wing for a C_L of {cl:.2f}"
    )
    return replace(_flight(case, body, lift, n, says), stall=stall, cannot_fly=cannot)


def gust_factor(body: Body, speed_m_s: float, gust_m_s: float) -> float:
    """Change of load factor by a sharp gust, ρ V U a S K / 2W, with Pratt's (1953) alleviation K = 0.88 μ/(5.3 + μ),
    μ = 2 (m/S)/(ρ c a)."""
    slope = slope_of(body.part)
    loading = body.all_up_mass_g * 1e-3 / body.wing_area_m2
    ratio = 2 * loading / (AIR_DENSITY_KG_M3 * body.mean_chord_mm * 1e-3 * slope)
    alleviation = 0.88 * ratio / (5.3 + ratio)
    lift = 0.5 * alleviation * AIR_DENSITY_KG_M3 * speed_m_s * gust_m_s * slope * body.wing_area_m2
    return lift / body.weight_N


def _gust(case: cases.GustCase, body: Body) -> Loading:
    change = gust_factor(body, case.speed_m_s, case.gust_m_s)
    wanted = 1 + change if case.way == "up" else 1 - change
    n, stall, cannot = _capped(case, body, most_lift(body.part), abs(wanted))
    n = n if wanted >= 0 else -n
    word = "upright" if case.way == "up" else "down"
    says = (
        f"{word} gust of {in_m_s(case.gust_m_s, G)} met at {in_m_s(case.speed_m_s, G)} in level flight "
        "(softened as Pratt says): "
        f"{n:.1f} × gravity on {in_g(body.all_up_mass_g, F0)} all up"
    )
    return replace(_flight(case, body, n * body.weight_N, n, says), stall=stall, cannot_fly=cannot)


def _tow(case: cases.TowCase, body: Body) -> Loading:
    lift = body.weight_N + case.pull_N
    says = (
        f"towed at {in_m_s(case.speed_m_s, G)} by a line that pulls the fuselage down with "
        f"{in_N(case.pull_N, G)}; the wing "
        f"lifts {in_N(lift, F1)} and is relieved by its own weight only"
    )
    loading = _flight(case, body, lift, 1.0, says)
    _, stall, cannot = _capped(case, body, most_lift(body.part), lift / body.weight_N)
    return replace(loading, measure=Measure("line tension", case.pull_N, "N"), stall=stall, cannot_fly=cannot)


def _landing(case: cases.LandingCase, body: Body) -> Loading:
    mean = case.sink_m_s**2 / (2 * case.stop_mm * 1e-3) / G_GRAVITY
    g = 1 + mean * dynamic_factor(body.flap_hz, case.sink_m_s, case.stop_mm)[:, None]
    end = case.end_mass_g * 1e-3 * G_GRAVITY * (body.part.span_mm - body.y)
    down = (inertia_moment(body.mass, body.left, body.y, 1.0) + end) * g
    weight = body.mass * 1e-3 * G_GRAVITY * g
    return Loading(
        moment=-down,
        edge=nothing(body),
        torque=outboard(weight * (body.centroid - body.shear_centre), body.y),
        says=(
            f"flat landing at {in_m_s(case.sink_m_s, G)} down, stopped over {in_mm(case.stop_mm, G)}: {mean:.1f} × "
            f"gravity on the "
            f"mean, {float(g[0, 0]):.1f} × gravity felt by the part as it springs; it bends down under its own weight"
        ),
        measure=Measure("felt", float(g[0, 0]), "× gravity"),
    )


def _sudden_stop(case: cases.SuddenStopCase, body: Body) -> Loading:
    mean = case.speed_m_s**2 / (2 * case.stop_mm * 1e-3) / G_GRAVITY
    g = mean * dynamic_factor(body.edge_hz, case.speed_m_s, case.stop_mm)[:, None]
    return Loading(
        moment=nothing(body),
        edge=inertia_moment(body.mass, body.left, body.y, 1.0) * g,
        torque=nothing(body),
        says=(
            f"stopped from {in_m_s(case.speed_m_s, G)} over {in_mm(case.stop_mm, G)}: {mean:.0f} × gravity on the "
            f"mean, {float(g[0, 0]):.0f} × gravity felt by the part as it swings forwards, bent fore and aft by its "
            f"own mass"
        ),
        measure=Measure("felt", float(g[0, 0]), "× gravity"),
        read="swing",
    )


def _hand_launch(case: cases.HandLaunchCase, body: Body) -> Loading:
    g = case.speed_m_s**2 / (2 * case.stroke_mm * 1e-3) / G_GRAVITY
    return Loading(
        moment=nothing(body),
        edge=-inertia_moment(body.mass, body.left, body.y, g),
        torque=nothing(body),
        says=(
            f"thrown to {in_m_s(case.speed_m_s, G)} over a stroke of {in_mm(case.stroke_mm, G)}: {g:.1f} × "
            "gravity, which "
            f"rises gently; "
            "the part lags behind and is bent fore and aft"
        ),
        measure=Measure("hand launch", g, "× gravity"),
        read="swing",
    )


def _tip_strike(case: cases.TipStrikeCase, body: Body) -> Loading:
    at = place_of(case, body.part)
    resists = body.edge[:, int(np.argmin(np.abs(body.y - at)))]
    force = resists * case.contact_mm
    part_mass, turning = (
        float(np.trapezoid(body.mass[0] * body.y**power, body.y)) for power in (0, 2)
    )  # one half; g and g·mm²
    rest = max(body.all_up_mass_g - 2 * part_mass, 0.1 * body.all_up_mass_g)
    inertia = 2 * turning + rest * (GYRATION * body.part.span_mm) ** 2
    effective = 1 / (1 / body.all_up_mass_g + at**2 / inertia)
    energy = 0.5 * effective * 1e-3 * case.speed_m_s**2
    bare_depth = 1e3 * energy / float(force[0])
    height = float(np.interp(at, body.y, body.thickness))
    bed = BED * resists * body.cord.wide / max(height, 1e-6) + 1e-9
    work = np.full_like(resists, 1e3 * energy)
    hit = caught(
        work, force, case.contact_mm, bed, body.cord.EA, body.glue * body.cord.grips, np.full_like(force,
        body.cord.bonded), body.cord.breaks,
    )  # fmt: skip
    force, depth = hit.force, float(hit.depth[0])
    chord = float(np.interp(at, body.y, body.chord))
    notes: tuple[str, ...] = ()
    if depth > 0.4 * chord:
        notes = (
            f"The edge would have to crush {in_mm(depth, F0)} deep, most of the chord: expect the part to be cut.",
        )
    return Loading(
        moment=nothing(body),
        edge=-force[:, None] * np.clip(at - body.y, 0.0, None),
        torque=nothing(body),
        says=(
            f"struck on the leading edge {from_root(at)} at {in_m_s(case.speed_m_s, G)}: {energy:.1f} J of "
            f"{in_g(effective, F0)} that has to be stopped there; the edge crushes about {in_mm(depth, F0)} deep at "
            f"{in_N(float(force[0]), F0)}" + (_cord_says(hit, bare_depth) if np.any(body.cord.EA) else "")
        ),
        measure=Measure("strike", float(force[0]), "N"),
        read="swing",
        depth=hit.depth,
        notes=notes,
    )


def _cord_says(hit: Caught, bare_mm: float) -> str:
    """What a cord makes of a strike, in words."""
    pull, spread, needs = (float(v[0]) for v in (hit.pull, hit.spread, hit.needs))
    told = (
        f" ({in_mm(bare_mm, F0)} without the cord, which spreads the blow over {in_mm(spread, F0)} "
        f"and is pulled with {in_N(pull, F0)}"
    )
    if np.isfinite(hit.gone_at[0]):
        return f"{told}; it snaps {in_mm(float(hit.gone_at[0]), F0)} deep, the foam alone stops the rest)"
    if np.isfinite(hit.slides_at[0]):
        return f"{told}; it slides from {in_mm(float(hit.slides_at[0]), F0)} on)"
    return f"{told}; it must be glued in for {in_mm(needs, F0)} beyond that on each side)"


def _handling(case: cases.HandlingCase, body: Body) -> Loading:
    at = place_of(case, body.part)
    sign, does = (1.0, "lifts") if case.way == "up" else (-1.0, "presses")
    own = inertia_moment(body.mass, body.left, body.y, 1.0)
    return Loading(
        moment=sign * case.force_N * np.clip(at - body.y, 0.0, None)[None, :] - own,
        edge=nothing(body),
        torque=nothing(body),
        says=(f"a hand {does} with {in_N(case.force_N, G)} {from_root(at)} while the root is held"),
        measure=Measure("hand", case.force_N, "N"),
    )


def _three_point(case: cases.ThreePointCase, body: Body) -> Loading:
    a, b = case.first_support_mm, case.second_support_mm
    force = case.weight_g * 1e-3 * G_GRAVITY
    half = 0.5 * (b - a)
    arm = np.clip(np.minimum(body.y - a, b - body.y), 0.0, None)
    return Loading(
        moment=np.broadcast_to(0.5 * force * np.clip(arm, 0.0, half), body.mass.shape),
        edge=nothing(body),
        torque=nothing(body),
        says=f"{in_g(case.weight_g, F0)} hung from the middle between two supports {in_mm(b - a, F0)} apart",
        measure=Measure("hung", case.weight_g, "g"),
        supports=(a, b),
    )


def _tip_weight(case: cases.TipWeightCase, body: Body) -> Loading:
    at = place_of(case, body.part)
    force = case.weight_g * 1e-3 * G_GRAVITY
    return Loading(
        moment=np.broadcast_to(-force * np.clip(at - body.y, 0.0, None), body.mass.shape),
        edge=nothing(body),
        torque=nothing(body),
        says=f"root clamped, {in_g(case.weight_g, F0)} hung {from_root(at)}; read from the sag under its own weight",
        measure=Measure("hung", case.weight_g, "g"),
    )


def _tip_twist(case: cases.TipTwistCase, body: Body) -> Loading:
    return Loading(
        moment=nothing(body),
        edge=nothing(body),
        torque=np.full_like(body.mass, case.couple_N_mm),
        says=f"root clamped, a couple of {in_N_mm(case.couple_N_mm, G)} turned at the tip, nose up",
        measure=Measure("couple", case.couple_N_mm, "N·mm"),
        read="twist",
    )


EDGE_CONTACT = ModelFactor(
    "depth of a strap's bearing", Range(3.0, 6.0, 10.0), "mm of the edge that a strap presses on as it bends round"
)


def _strap(case: cases.StrapCase, body: Body) -> Loading:
    wide = max(case.width_mm, case.hard_strip_mm)
    line = 0.5 * case.pull_N / wide
    hollow = body.part.foam is None
    bears = body.edge[:, 0] if hollow else body.crush * draw_factor(EDGE_CONTACT)
    helped = f" on a hard strip {in_mm(case.hard_strip_mm, G)} long" if case.hard_strip_mm > case.width_mm else ""
    return Loading(
        moment=nothing(body),
        edge=nothing(body),
        torque=nothing(body),
        says=(
            f"straps or bands, {in_mm(case.width_mm, G)} wide together, pull {in_N(case.pull_N, G)} round "
            f"the edges{helped}: "
            f"{quantity(line, 'N/mm', G2)} on each edge, which "
            f"{'the walls bear' if hollow else 'the foam bears'} up to "
            f"{quantity(float(bears[0]), 'N/mm', G2)}"
        ),
        measure=Measure("pull", case.pull_N, "N"),
        asks=(("strap_crush", line / bears),),
        at_mm=place_of(case, body.part),
    )


def _tail_lift(case: cases.TailLiftCase, body: Body) -> Loading:
    lift = 0.5 * AIR_DENSITY_KG_M3 * case.speed_m_s**2 * body.wing_area_m2 * case.cl
    sign = 1.0 if case.way == "up" else -1.0
    says = (
        f"tail carries {in_N(lift, F1)} {case.way}wards on both halves: C_L {case.cl:g} at "
        f"{in_m_s(case.speed_m_s, G)}, "
        "its own weight left out"
    )
    chord = body.chord
    up = lift_moment(case.lift, lift / 2, body.part.span_mm, body.part.root_chord_mm, body.part.tip_chord_mm, body.y)
    per_length = lift_per_length(case.lift, lift / 2, body.part.span_mm, chord, body.y)
    torque = outboard(sign * per_length * (body.shear_centre - 0.25 * chord), body.y)
    return Loading(
        moment=np.broadcast_to(sign * up, body.mass.shape),
        edge=nothing(body),
        torque=torque,
        says=says,
        measure=Measure("lift", lift, "N"),
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
    cases.StrapCase: _strap,
    cases.TailLiftCase: _tail_lift,
    cases.DeflectedCase: control_surfaces.deflected,
    cases.TailLoadCase: fuselage.tail_load,
    cases.MotorTorqueCase: fuselage.motor_torque,
    cases.NoseStrikeCase: fuselage.nose_strike,
}
