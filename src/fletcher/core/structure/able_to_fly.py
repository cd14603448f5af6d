"""Whether an aircraft can carry itself at a speed: the lift that its wing can give over its weight."""

from __future__ import annotations

import math
from dataclasses import dataclass

from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.materials.materials import G_GRAVITY
from fletcher.core.structure.loading import AIR_DENSITY_KG_M3


@dataclass(frozen=True)
class Flight:
    """What a wing can do at a speed: its largest `load_factor` n = C_L,max q S/W, the speed from which it flies (m/s),
    and the steepest bank of a level turn (°; None where it cannot fly)."""

    load_factor: float
    flies_from_m_s: float
    bank_deg: float | None


def flight(mass_g: float, area_m2: float, cl_max: float, speed_m_s: float) -> Flight:
    """The most that a wing lifts at a speed (standard air)."""
    weight = mass_g * 1e-3 * G_GRAVITY
    most = 0.5 * AIR_DENSITY_KG_M3 * speed_m_s**2 * area_m2 * cl_max / weight
    slowest = speed_for(mass_g, area_m2, cl_max, 1.0)
    return Flight(most, slowest, math.degrees(math.acos(1 / most)) if most >= 1 else None)


def speed_for(mass_g: float, area_m2: float, cl_max: float, load_factor: float) -> float:
    """Speed (m/s) at which a wing's most lift is so many times the weight: V = √(2nW/(ρ S C_L)) (standard air)."""
    lift = load_factor * mass_g * 1e-3 * G_GRAVITY
    return math.sqrt(2 * lift / (AIR_DENSITY_KG_M3 * area_m2 * cl_max))


def most_lift(part: Part) -> float:
    """[J] Largest lift coefficient of a wing half that names none: flat plates stall early."""
    return 0.8 if isinstance(part.section, RectangleSection) else 1.1


def flies_from(airframe: Airframe, part: Part) -> float:
    """Speed (m/s) from which an airframe flies: on its wing, else on two of this part."""
    wing = next((p for p in airframe.parts if p.kind == "wing"), part)
    area = 2 * wing.area_mm2 * 1e-6
    return flight(airframe.all_up_mass_g, area, most_lift(wing), 1.0).flies_from_m_s
