r"""Static margin: the range of the centre, its band and its grade.

Margin = (x_np − x_c)/c̄. First order, of independent causes: σ_np² = Σ(∂x_np/∂ln f · σ_f)²; the centre's own variance
adds to it. Grade by the rear limit: the 5 % end, the typical, the 95 % end of the margin or none reaches the least.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from fletcher.core.balance.forecast import Z95
from fletcher.core.document.equipment import Manner

WANTED: dict[Manner, tuple[str, float, float]] = {
    "trainer": ("First trainer with a tail", 12, 20),
    "sport": ("Sport, camera, survey", 8, 15),
    "glider": ("Thermal glider", 6, 12),
    "fast": ("Fast", 8, 15),
    "aerobatic": ("Aerobatic", 3, 8),
    "swept_wing": ("Swept flying wing", 6, 10),
    "plank_wing": ("Plank flying wing", 4, 8),
    "canard": ("Canard", 10, 20),
    "tandem": ("Tandem", 12, 20),
}
"""[J] Static margins in per cent of the mean chord that builders of a kind aim at."""


@dataclass(frozen=True)
class Margin:
    """Neutral point and centre with their standard deviations, mean chord, and the margins wanted, as shares."""

    neutral_mm: float
    neutral_sd_mm: float
    centre_mm: float
    centre_sd_mm: float
    mean_chord_mm: float
    least: float
    most: float

    @property
    def range_mm(self) -> tuple[float, float]:
        """Where the centre is wanted, foremost and rearmost."""
        return tuple(self.neutral_mm - share * self.mean_chord_mm for share in (self.most, self.least))  # type: ignore[return-value]

    @property
    def sd_mm(self) -> float:
        """Of the distance of both."""
        return math.hypot(self.neutral_sd_mm, self.centre_sd_mm)

    @property
    def share(self) -> tuple[float, float, float]:
        """The static margin, typical and its 5–95 % band: typ, low, high."""
        typ = (self.neutral_mm - self.centre_mm) / self.mean_chord_mm
        wide = Z95 * self.sd_mm / self.mean_chord_mm
        return typ, typ - wide, typ + wide

    def chance_below(self, share: float) -> float:
        """Chance that the margin is less than a share."""
        z = (share * self.mean_chord_mm - (self.neutral_mm - self.centre_mm)) / self.sd_mm
        return 0.5 * math.erfc(-z / math.sqrt(2))

    @property
    def grade(self) -> Literal["sure", "likely", "doubtful", "no"]:
        """How sure it is that the margin is at least what is wanted."""
        typ, low, high = self.share
        if low >= self.least:
            return "sure"
        return "likely" if typ >= self.least else "doubtful" if high >= self.least else "no"

    @property
    def too_far_forward_mm(self) -> float:
        """How much further forward than needed the centre lies: a remark, not a fault."""
        return max(0.0, self.range_mm[0] - self.centre_mm)

    @property
    def rearmost_sure_mm(self) -> float:
        """Rearmost centre whose margin is surely what is wanted."""
        return self.neutral_mm - self.least * self.mean_chord_mm - Z95 * self.sd_mm


def spread(at: Callable[[Mapping[str, float]], float], sds: Mapping[str, float]) -> dict[str, float]:
    """Contribution of each cause to the standard deviation of a figure, signed: ∂/∂ln f · σ_f, by a step of a
    thousandth to both sides. `at` gives the figure for factors on its causes, 1 where one is not named."""
    step = 1e-3
    return {
        cause: (at({cause: 1 + step}) - at({cause: 1 - step})) / (2 * step) * sd for cause, sd in sds.items()
    }  # fmt: skip


def together(contributions: Mapping[str, float]) -> float:
    """Root of the sum of squares."""
    return math.sqrt(sum(v**2 for v in contributions.values()))
