r"""How much resin a lay-up takes, in how many cups, and whether the pot lives long enough.

Resin in the plies follows from their share of fibre, q = ρ_r(1 − V)/(ρ_f V) of the cloth's mass; what soaks into the
foam comes on top, so the mix and the estimate count the same grams. What stays in cup and brush is added to the mix
only.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

WASTE, CUP_G = 1.15, 3.0
"""[J] So much of the mix stays in brush, roller and peel film; so much in the cup."""
FAST_G, SLOW_G = 15.0, 50.0
"""[J] Largest cup of a fast and of a slow resin before it heats itself."""
FAST_MIN = 15.0
"""[J] A resin whose pot lives shorter than this at 20 °C is a fast one."""
USABLE = 0.7
"""[J] Share of the pot life after which it is too thick to wet out."""
WET_MIN_DM2 = 0.9
"""[J] Minutes to wet out a dm² of cloth."""


@dataclass(frozen=True)
class Mix:
    """Grams: of cloth, of resin that stays on the part, to mix in all; of which resin and hardener where their parts
    are known; in so many equal cups."""

    cloth_g: float
    on_part_g: float
    mix_g: float
    resin_g: float | None
    hardener_g: float | None
    cups: int


def mix(
    cloth_g: float, in_plies_g: float, soak_g: float, hardener_parts: float | None = None, most_g: float = SLOW_G
) -> Mix:  # fmt: skip
    """What is mixed for so much cloth, by weight; `hardener_parts` to 100 of resin, `most_g` in one cup."""
    on_part = in_plies_g + soak_g
    whole = WASTE * on_part + CUP_G
    resin = None if hardener_parts is None else whole * 100 / (100 + hardener_parts)
    hardener = None if resin is None else whole - resin
    return Mix(cloth_g, on_part, whole, resin, hardener, max(math.ceil(whole / most_g - 1e-9), 1))


def largest_cup(pot_min: float) -> float:
    """Grams that may be mixed at once: no more than the pot stands, no more than is wetted while it is thin."""
    return FAST_G if pot_min < FAST_MIN else SLOW_G
