r"""Thrust line, wing loading, stall and power against mass and centre.

Moment about the centre, nose up positive: −(z_m − z_c)T cos δ + (x_m − x_c)T sin δ + D(z_D − z_c), δ down thrust;
stall √(2W/ρSC_Lmax), in a bank ÷ √cos φ (McCormick, Aerodynamics). mm, g, N, degrees, m/s.
"""

from __future__ import annotations

import math

from fletcher.core.materials.materials import G_GRAVITY

AIR = 1.225
"""kg/m³."""


def thrust_moment(
    thrust: float, motor: tuple[float, float], centre: tuple[float, float], down_deg: float
) -> float:  # fmt: skip
    """Pitching moment of the thrust about the centre, N·mm, nose up; places (x, z)."""
    d = math.radians(down_deg)
    return -(motor[1] - centre[1]) * thrust * math.cos(d) + (motor[0] - centre[0]) * thrust * math.sin(d)


def drag_moment(drag: float, drag_z: float, centre_z: float) -> float:
    """Of the drag, N·mm, nose up."""
    return drag * (drag_z - centre_z)


def line_through(motor: tuple[float, float], place: tuple[float, float]) -> float:
    """Down thrust that leads the thrust line through a place (x, z), degrees; negative is up: tan δ =
    (z_m − z)/(x_m − x). None that could where the motor lies above or below the place.

    Raises
    ------
    ValueError
        Where both lie at one x.
    """
    if motor[0] == place[0]:
        raise ValueError("the motor lies straight above or below: no angle leads the line there")
    return math.degrees(math.atan((motor[1] - place[1]) / (motor[0] - place[0])))


def side_moment(
    thrust: float, motor: tuple[float, float], centre_x: float, right_deg: float
) -> float:  # fmt: skip
    """Yawing moment of side thrust, N·mm; motor (x, y)."""
    d = math.radians(right_deg)
    return thrust * math.sin(d) * (centre_x - motor[0]) + thrust * math.cos(d) * motor[1]


def torque(watts: float, turns_per_min: float, grams: float) -> tuple[float, float]:
    """Torque of a propeller, N·mm, and how far off the middle the centre would do the same, mm."""
    q = 1e3 * watts / (2 * math.pi * turns_per_min / 60)
    return q, q / (grams / 1e3 * G_GRAVITY)


def loading(grams: float, area_mm2: float) -> float:
    """Wing loading, g/dm²."""
    return grams / (area_mm2 / 1e4)


def speed_at(grams: float, area_mm2: float, lift: float, bank_deg: float = 0.0) -> float:
    """Speed at which a lift coefficient carries it, m/s."""
    weight = grams / 1e3 * G_GRAVITY / math.cos(math.radians(bank_deg))
    return math.sqrt(2 * weight / (AIR * area_mm2 / 1e6 * lift))


def mass_at(speed: float, area_mm2: float, lift: float) -> float:
    """Mass that such a lift coefficient carries at a speed, g."""
    return 1e3 * 0.5 * AIR * speed**2 * area_mm2 / 1e6 * lift / G_GRAVITY


def held_above(thrust: float, out_mm: float, fin_mm2: float, lift: float, arm_mm: float) -> float:
    """Speed above which the fin holds one wing motor's thrust so far out, m/s."""
    return math.sqrt(2 * thrust * out_mm / (AIR * fin_mm2 / 1e6 * lift * arm_mm))
