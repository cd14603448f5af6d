r"""What a scale says: one reading, two supports, out of level, sideways; each with its error.

M = R₁ + R₂, x_c = (R₁x₁ + R₂x₂)/M; nose up by θ the centre lies (w₁z₁ + w₂z₂ − z_c)·tan θ from there. Errors are
propagated to first order (Taylor, Error Analysis; JCGM 100). mm, g, degrees.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from fletcher.core.validation.weighings import LEAST_APART_MM


@dataclass(frozen=True)
class Supports:
    """A body on two supports: readings less cradles, where it touches them, its tilt nose up, and how high the supports
    and the centre lie on the body."""

    first_g: float
    second_g: float
    first_mm: float
    second_mm: float
    nose_up_deg: float = 0.0
    first_z_mm: float = 0.0
    second_z_mm: float = 0.0
    centre_z_mm: float = 0.0

    def __post_init__(self) -> None:
        if min(self.first_g, self.second_g) < 0 or self.first_g + self.second_g <= 0:
            raise ValueError("readings: neither below 0, and together more than 0")
        if abs(self.second_mm - self.first_mm) < LEAST_APART_MM:
            raise ValueError(f"supports: at least {LEAST_APART_MM:g} mm apart")

    @property
    def grams(self) -> float:
        """Both readings."""
        return self.first_g + self.second_g

    @property
    def level_mm(self) -> float:
        """Centre by the level formula."""
        return (self.first_g * self.first_mm + self.second_g * self.second_mm) / self.grams

    @property
    def _z_mm(self) -> float:
        return (self.first_g * self.first_z_mm + self.second_g * self.second_z_mm) / self.grams

    @property
    def centre_mm(self) -> float:
        """Centre with the tilt taken out."""
        return self.level_mm + (self._z_mm - self.centre_z_mm) * math.tan(math.radians(self.nose_up_deg))

    def sd_mm(self, reading_g: float, place_mm: float, tilt_deg: float) -> float:
        """Standard deviation of the centre."""
        x, m = self.level_mm, self.grams
        scale = math.hypot(x - self.first_mm, self.second_mm - x) * reading_g / m
        tape = math.hypot(self.first_g, self.second_g) * place_mm / m
        lean = (self.centre_z_mm - self._z_mm) * math.radians(tilt_deg)
        return math.sqrt(scale**2 + tape**2 + lean**2)


def with_mass_known(grams: float, first_mm: float, scale_mm: float, scale_g: float) -> tuple[float, float]:
    """Centre, and what the other support carries, of a body of known mass with one scale under it."""
    return first_mm + scale_g * (scale_mm - first_mm) / grams, grams - scale_g


def height_of_centre(level_mm: float, tilted_mm: float, nose_up_deg: float, supports_z_mm: float = 0.0) -> float:
    """Height of the centre from level formulas at 0° and nose up, on supports at one height."""
    return supports_z_mm + (tilted_mm - level_mm) / math.tan(math.radians(nose_up_deg))


def sideways(left_g: float, right_g: float, left_mm: float, right_mm: float, tip_mm: float) -> tuple[float, float]:
    """How far to the right the centre lies, and the grams at the tip of the other side that cure it."""
    mass = left_g + right_g
    off = (left_g * left_mm + right_g * right_mm) / mass
    return off, mass * abs(off) / tip_mm
