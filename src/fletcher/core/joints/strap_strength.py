r"""What a strip that is glued over a seam hands over, and what pairs of strips and doublers bear.

A lap between two stiffnesses K₁, K₂ (N) through the compliance c of glue and both sides, k = b/c,
λ² = k(1/K₁ + 1/K₂): a brittle bed gives where its shear peaks, at the end of the stiffer side; one that yields evens it
out over 4/λ (Volkersen 1938; Tsai, Oplinger & Morton 1998). A doubler of faced board passes its papers' force as far as
its core brings the inner paper along, φ (shear lag); on one side alone it is bent as well (Goland & Reissner, limit of
small loads). Forces N, lengths mm, stresses MPa.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from fletcher.core.adhesion.bond_line import YIELDS_OVER
from fletcher.core.common.arrays import Array
from fletcher.core.materials.materials import Range

PEAK = Range(1.0, 1.5, 2.2)
"""[J] How far a brittle bed bears more than its peak stress says, for its corners are not sharp."""
BENT = 0.5
"""[J] How far corners within reach keep a one-sided strap from bending (1: free)."""

Value = Array | float


def lap_rate(K1: Value, K2: Value, c: Value, wide: float) -> Array:
    """λ, 1/mm, of a lap `wide` mm wide between stiffnesses in N through a compliance c, mm/MPa."""
    return np.asarray(np.sqrt(wide / np.asarray(c) * (1 / np.asarray(K1) + 1 / np.asarray(K2))))


def lap_force(q_c: Value, K1: Value, K2: Value, rate: Value, length: float, brittle: bool, peak: Value = 1.0) -> Array:
    """Force (N) that a lap hands over which bears `q_c` N/mm: brittle by the peak of its shear, else over the length
    that counts."""
    rate = np.asarray(rate)
    if not brittle:
        return np.asarray(np.asarray(q_c) * np.minimum(length, YIELDS_OVER / rate))
    one, other = 1 / np.asarray(K1), 1 / np.asarray(K2)
    turns = rate * length
    share = np.maximum(one, other) * np.cosh(turns) + np.minimum(one, other)
    return np.asarray(peak * q_c * (one + other) * np.sinh(turns) / (rate * share))


def brings_along(E: float, paper: float, core: float, G: float, length: float) -> float:
    """φ: how far the inner paper of a doubler (`paper` mm, E MPa) is brought along by its core (`core` mm, G MPa) over
    a length each side."""
    reach = np.sqrt(E * paper * core / G)
    return float(1 - 1 / np.cosh(length / reach))


def butt_with_doublers(paper_N: Value, phi: float, lap: Value, sides: int, bent: float, wall: Value) -> Array:
    """Force per width (N/mm) across a butt in a wall under doublers on one or both `sides`: a paper bears `paper_N`
    N/mm, the lap of one `lap` N/mm; `bent` = k e/(core + paper) of one on one side alone; never above the `wall`."""
    paper_N = np.asarray(paper_N)
    if sides == 2:
        return np.asarray(np.minimum(2 * np.minimum(paper_N * (1 + phi), lap), wall))
    own = paper_N / (1 / (1 + phi) + bent)
    return np.asarray(np.minimum(np.minimum(own, lap), wall))


def offset_of(wall: float, paper: float, core: float, phi: float) -> float:
    """e, mm: how far the force in a one-sided doubler lies off the middle of the wall."""
    return (wall + paper) / 2 + phi * (core + paper) / (1 + phi)


def pairs_moment(pairs: Sequence[tuple[Value, float]]) -> Array:
    """Moment (N·mm) of pairs of strips, each by the force that one bears and its height ±z off the middle, mm: plane
    sections, so that a strip works by its height over that of the outermost."""
    most = max((z for _, z in pairs), default=0.0)
    return np.asarray(sum((2 * np.asarray(force) * z**2 / max(most, 1e-9) for force, z in pairs), np.zeros(1)))


def flute_pitch(thickness_mm: float) -> float:
    """Pitch of the flutes of a twin-wall sheet, mm: 1.2 mm + 0.7 of its thickness [J]."""
    return 1.2 + 0.7 * thickness_mm


def flute_bearing(yields: Value, wall: float, pitch: float) -> Array:
    """What the wall of a flute bears of a rod that presses against it, N/mm: a strip held at both ends yields at three
    hinges, 2 σ_y t²/p (plastic theory of beams)."""
    return np.asarray(2 * np.asarray(yields) * wall**2 / pitch)


def flute_rod_bends(bears: Value, length: float, own: Value) -> Array:
    """Moment (N·mm) that a rod passes across a crease, `length` mm in its flute on each side: p ℓ²/4 while it presses
    its walls (Broms 1964), or its own."""
    return np.asarray(np.minimum(np.asarray(bears) * length**2 / 4, own))
