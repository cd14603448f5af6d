r"""A pole that strikes an edge with a cord in it: how deep it cuts, how far the blow is spread, what the cord feels.

A pole crushes F₀ = σ D H. A cord of diameter d lies on a rigid-plastic bed q_b = β σ d: pushed in by s with the pull T
it bows over a = √(2Ts/q_b) on either side and adds 2√(2 q_b T s), so that

.. math:: F = F_0 + 2\sqrt{2 q_b T s},\qquad \int_0^{\text{depth}} F\,\mathrm{d}s = \text{energy}.

The pull comes from the stretch of the bow, shared by the bow itself and by the cord that slips in its glue beyond it:
:math:`(2\sqrt2/3)\sqrt{q_b}\,s^{1.5}/\sqrt T = 2T^{1.5}\sqrt{2s/q_b}/EA + T^2/(\tau EA)`. It is at most what the bonded
length holds (then the cord slides: a state) and its own strength (then it is gone and F₀ is left). A cord never deepens
a cut.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.integrate import cumulative_trapezoid

from fletcher.core.common.arrays import Array, BoolArray
from fletcher.core.common.roots import root_between

BED = 1.0
"""[J] β: pressure under a cord over the crush stress of the foam."""
_STEPS = 160


def bow_pull(depth: Array, bed: Array, EA: Array, grip: Array) -> Array:
    """Pull T (N) of a bonded cord pushed in by `depth` (mm); `bed` q_b (N/mm), `EA` (N), `grip` its bond τ per length
    (N/mm). Shapes broadcast. The root in ln T of the stretch wanted, which falls with T, less the stretch given, which
    rises: Chandrupatla's method."""
    depth, *held = np.broadcast_arrays(depth, bed, EA, grip)
    bed, EA, grip = (np.maximum(v, 1e-9) for v in held)
    low, high = np.full(depth.shape, -80.0), np.log(np.maximum(EA, 1.0))

    def short(ln_T: Array, s: Array, bed: Array, EA: Array, grip: Array) -> Array:
        T = np.exp(ln_T)
        wanted = 2 * np.sqrt(2) / 3 * np.sqrt(bed) * s**1.5 / np.sqrt(T)
        return np.asarray(wanted - 2 * T**1.5 * np.sqrt(2 * s / bed) / EA - T**2 / (grip * EA))

    T = np.exp(root_between(short, low, high, (np.maximum(depth, 1e-6), bed, EA, grip)))
    return np.asarray(T * (depth > 0))


@dataclass(frozen=True)
class Caught:
    """What a cord makes of a strike, each (S,): `depth` of the cut, `bare` without the cord (mm), `force` at its end
    and the cord's largest `pull` (N), `spread` of the blow along the edge (mm), `needs` bonded beyond the bow on each
    side so that it does not slide (mm), `slides_at` and `gone_at` the depth at which it slides or parts (infinite where
    it does not)."""

    depth: Array
    bare: Array
    force: Array
    pull: Array
    spread: Array
    needs: Array
    slides_at: Array
    gone_at: Array


def caught(
    energy: Array, crushes: Array, contact: float, bed: Array, EA: Array, grip: Array, bonded: Array, breaks: Array,
    pull: Array | None = None,
) -> Caught:  # fmt: skip
    """A strike of `energy` (N·mm) on an edge that `crushes` at F₀ (N) over a `contact` (mm), with a cord on a `bed` q_b
    (N/mm) of stiffness `EA` (N), `grip` (N/mm), `bonded` so far beyond the strike on its shorter side (mm), that
    parts at `breaks` (N); all (S,). A constant `pull` (N) may be given instead of the cord's own stretch."""
    bare = energy / crushes
    share = np.linspace(0, 1, _STEPS + 1) ** 1.5  # closer at first
    s = bare[:, None] * share
    column = [np.asarray(v, float).reshape(-1, 1) for v in (bed, EA, grip, bonded, breaks, crushes)]
    bed, EA, grip, bonded, breaks, crushes = column
    T = bow_pull(s, bed, np.maximum(EA, 1e-9), np.maximum(grip, 1e-9)) if pull is None else 0 * s + pull.reshape(-1, 1)
    holds = grip * bonded
    slides = (holds < breaks) & (holds <= T)
    gone = (breaks <= T) & (holds >= breaks)
    gone = np.logical_or.accumulate(gone, axis=1)
    T = np.where(gone, 0.0, np.minimum(T, holds)) if pull is None else T
    T = np.where(EA > 0, T, 0.0)
    force = crushes + 2 * np.sqrt(2 * bed * T * s)
    spent = cumulative_trapezoid(force, s, axis=1, initial=0)
    rows = np.arange(len(s))
    n = np.clip((spent < energy[:, None]).sum(1) - 1, 0, _STEPS - 1)
    part = (energy - spent[rows, n]) / np.maximum(spent[rows, n + 1] - spent[rows, n], 1e-12)

    def at_end(values: Array) -> Array:
        return np.asarray(values[rows, n] + part * (values[rows, n + 1] - values[rows, n]))

    depth, tension = at_end(s), at_end(T)
    most = np.where(np.arange(_STEPS + 1) <= n[:, None], T, 0.0).max(1)
    most = np.maximum(most, tension)

    def first(happens: BoolArray) -> Array:
        k = np.argmax(happens, axis=1)
        return np.where(happens[rows, k] & (s[rows, k] <= depth), s[rows, k], np.inf)

    return Caught(
        depth=depth,
        bare=bare,
        force=at_end(force),
        pull=most,
        spread=contact + 2 * np.sqrt(2 * tension * depth / bed[:, 0]),
        needs=most / np.maximum(grip[:, 0], 1e-9),
        slides_at=first(slides & (EA > 0)),
        gone_at=first(gone & (EA > 0)),
    )


def round_a_corner(pull: float, straight: float, grip: float, radius: float, angle: float, friction: float) -> Array:
    """Pull (N) of a cord before and after a hard corner, and the bonded length (mm) beyond it that the rest needs:
    dT/dφ = −μT − τr (rope friction with bond; Euler–Eytelwein). On bare foam there is no such corner: the cord cuts in
    until its radius is T/q_b."""
    before = pull - grip * straight
    held = grip * radius / friction
    after = (before + held) * np.exp(-friction * angle) - held
    return np.array([before, after, max(after, 0.0) / grip])
