"""How an airframe with all on board turns and pulls: inertia, sideways balance, thrust line, targets."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from fletcher.core.balance.flight import drag_moment, line_through, loading, mass_at, side_moment, thrust_moment
from fletcher.core.balance.ledger import Entry
from fletcher.core.balance.masses import Balance, Mass, balance
from fletcher.core.balance.schema_dynamics import InertiaAt, SidewaysAt, TargetAt, ThrustAt
from fletcher.core.balance.surfaces import Layout
from fletcher.core.balance.surprises import piece_name
from fletcher.core.common.quantities import F0, F1, in_g, in_m_s, in_mm
from fletcher.core.document.airframe import Airframe
from fletcher.core.materials.grades import Grade
from fletcher.core.materials.uncertainty import Band
from fletcher.core.validation.equipment import box_of

SIDEWAYS_WORTH = 0.005
"""[J] 0.003–0.01 of the span: so far off the middle a cure is worth it."""
STRINGS_MM, APART_MM = 1000.0, 300.0
"""How it is hung to check its inertia."""
STRAIGHT = 0.3
"""A motor nearer to the centre than so many mean chords cannot be cured by its angle."""
_SURFACE_DRAG, _BODY_DRAG = 0.015, 0.30
"""[J] Drag coefficients of surfaces by their area and of fuselages by their cross-section, for the height of drag."""
_PUSH_DEG = 8.0
"""[J] More thrust angle than that is told to be unusual."""


def inertia(airframe: Airframe, entries: Sequence[Entry]) -> tuple[Balance, InertiaAt]:
    """Tensor about the centre, what makes most of it in roll and in yaw, and the swing that would show it."""
    masses = [
        Mass(
            e.line.typ,
            np.array([e.line.x_mm, e.y_mm, e.z_mm]),
            e.line.typ * (np.trace(e.spread) * np.eye(3) - e.spread),
        )
        for e in entries
    ]
    whole = balance(masses)
    by_piece: dict[str, np.ndarray] = {}
    for e, m in zip(entries, masses, strict=True):
        away = m.at - whole.at
        own = m.own + m.grams * (float(away @ away) * np.eye(3) - np.outer(away, away))
        name = piece_name(airframe, e).rsplit(", ", 1)[0] if e.piece else e.line.name
        by_piece[name] = by_piece.get(name, np.zeros((3, 3))) + own
    shares = []
    for axis, word in ((0, "roll"), (2, "yaw")):
        name = max(by_piece, key=lambda n: by_piece[n][axis, axis])
        if whole.tensor[axis, axis] <= 0:
            continue
        share = by_piece[name][axis, axis] / whole.tensor[axis, axis]
        shares.append(f"In {word} {share:.0%} of it is {name}.".replace("%", " %"))
    roll, pitch, yaw = (float(whole.tensor[i, i]) / 1e6 for i in range(3))
    return whole, InertiaAt(
        roll_kg_m2=roll / 1e3, pitch_kg_m2=pitch / 1e3, yaw_kg_m2=yaw / 1e3,
        swing_s=whole.swing_s(APART_MM, STRINGS_MM), says=" ".join(shares),
    )  # fmt: skip


def sideways(airframe: Airframe, at: Balance) -> SidewaysAt:
    """How far off the middle it balances, and the grams at the other tip that cure it."""
    tip = max((box_of(p)[1][1] for p in airframe.parts if p.kind != "plank"), default=0.0)
    off = float(at.at[1])
    side = "right" if off > 0 else "left"
    if tip <= 0 or abs(off) <= SIDEWAYS_WORTH * 2 * tip:
        says = "In the middle." if abs(off) < 0.05 else f"{in_mm(abs(off), F1)} to the {side}: close enough."
        return SidewaysAt(off_mm=off, cure_g=0.0, says=says)
    grams = at.grams * abs(off) / tip
    other = "left" if off > 0 else "right"
    says = f"{in_mm(abs(off), F1)} to the {side}: {in_g(grams, F1)} at the {other} tip, {in_mm(tip, F0)} out, cure it."
    return SidewaysAt(off_mm=off, cure_g=grams, says=says)


def thrust(airframe: Airframe, layout: Layout, at: Balance) -> ThrustAt | None:
    """Thrust lines against the centre and the height of the drag; None where no motor's thrust is given."""
    motors = [(i, side) for i in airframe.equipment if i.thrust_N for side in ((1, -1) if i.pair else (1,))]
    if not motors:
        return None
    force = sum(i.thrust_N or 0.0 for i, _ in motors)
    x, z = (sum((i.thrust_N or 0.0) * v for (i, _), v in zip(motors, of, strict=True)) / force for of in (
        [i.x_mm for i, _ in motors], [i.z_mm for i, _ in motors]
    ))  # fmt: skip
    centre = (float(at.at[0]), float(at.at[2]))
    drag_z = _drag_height(airframe, layout, centre[1])
    pitch = sum(thrust_moment(i.thrust_N or 0.0, (i.x_mm, i.z_mm), centre, i.down_deg) for i, _ in motors)
    with_drag = pitch + drag_moment(force, drag_z, centre[1])
    yaw = sum(
        side_moment(
            i.thrust_N or 0.0, (i.x_mm, side * i.y_mm), centre[0], side * i.right_deg if i.pair else i.right_deg
        )
        for i, side in motors
    )
    chord = layout.surfaces[layout.main].planform.mean_chord_mm if layout.surfaces else 0.0
    now = sum((i.thrust_N or 0.0) * i.down_deg for i, _ in motors) / force
    return ThrustAt(
        thrust_N=force, per_weight=force / (at.grams / 1e3 * 9.80665), pitch_N_mm=pitch, level_N_mm=with_drag,
        yaw_N_mm=yaw, drag_z_mm=drag_z, down_deg=now, says=_thrust_says((x, z), centre, drag_z, chord, now),
    )  # fmt: skip


def _thrust_says(
    motor: tuple[float, float], centre: tuple[float, float], drag_z: float, chord: float, now: float
) -> str:
    if abs(motor[0] - centre[0]) < max(STRAIGHT * chord, 1.0):
        return "The motor lies so near to the centre of gravity that no angle cures its height."
    through = line_through(motor, centre)
    level = line_through(motor, (centre[0], drag_z))
    low, high = sorted((through, level))
    span = _angle(low) if high - low < 0.5 else f"between {_angle(low)} and {_angle(high)}"
    much = " That is unusually much: raise or lower the motor instead." if max(abs(low), abs(high)) > _PUSH_DEG else ""
    straight = "straight" if abs(now) < 0.05 else _angle(now)
    return (
        f"Through the centre of gravity the shaft points {_angle(through)}, through the middle of the drag "
        f"{_angle(level)}. Take {span}, a tractor up to 3° more down; it is {straight}.{much}"
    )


def _angle(deg: float) -> str:
    return f"{abs(deg):.1f}° {'down' if deg >= 0 else 'up'}"


def _drag_height(airframe: Airframe, layout: Layout, otherwise: float) -> float:
    """Height of the middle of the drag, from areas."""
    weights, heights = [], []
    for part in airframe.parts:
        if part.kind == "plank":
            continue
        _, wide, high = box_of(part)
        middle = (high[0] + high[1]) / 2
        if part.kind == "fuselage":
            area = _BODY_DRAG * (wide[1] - wide[0]) * (high[1] - high[0])
        else:
            area = _SURFACE_DRAG * part.count * part.span_mm * (part.root_chord_mm + part.tip_chord_mm) / 2
        weights.append(area)
        heights.append(middle)
    if not weights:
        return otherwise
    return math.fsum(w * h for w, h in zip(weights, heights, strict=True)) / math.fsum(weights)


def targets(
    airframe: Airframe, mass: Band, area_mm2: float | None, stall: Band | None, lift: float | None
) -> list[TargetAt]:
    """What is wished of the whole airframe against what is foreseen, each with its grade."""
    aim, found = airframe.aim, []
    if aim.mass_g is not None:
        found.append(_at_most("Flying mass", "g", aim.mass_g, mass, in_g(aim.mass_g, F0)))
    if area_mm2 and aim.loading_g_dm2 is not None:
        by = Band(**{k: loading(getattr(mass, k), area_mm2) for k in ("low", "typ", "high")})
        found.append(_at_most("Wing loading", "g/dm²", aim.loading_g_dm2, by, f"{aim.loading_g_dm2:g} g/dm²"))
    if stall is not None and aim.stall_m_s is not None and area_mm2 and lift:
        most = mass_at(aim.stall_m_s, area_mm2, lift)
        says = f"{in_m_s(aim.stall_m_s)}: reached at {in_g(most, F0)}"
        found.append(_at_most("Stall speed", "m/s", aim.stall_m_s, stall, says))
    if aim.watts is not None and aim.watts_per_kg is not None:
        least = aim.watts_per_kg
        by = Band(low=1e3 * aim.watts / mass.high, typ=1e3 * aim.watts / mass.typ, high=1e3 * aim.watts / mass.low)
        grade: Grade = "sure" if by.low >= least else "likely" if by.typ >= least else "doubtful"
        grade = "no" if by.high < least else grade
        found.append(TargetAt(name="Power per mass", unit="W/kg", wanted=least, band=by, grade=grade,
                              says=f"at least {least:g} W/kg"))  # fmt: skip
    return found


def _at_most(name: str, unit: str, most: float, band: Band, wanted: str) -> TargetAt:
    grade: Grade = "sure" if band.high <= most else "likely" if band.typ <= most else "doubtful"
    if band.low > most:
        grade = "no"
    return TargetAt(name=name, unit=unit, wanted=most, band=band, grade=grade, says=f"at most {wanted}")
