"""Joints of two lengths of a bar: what they hold of its force and of its own bending."""

from __future__ import annotations

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Splice
from fletcher.core.materials.uncertainty import (
    HOOP,
    HOOP_METAL,
    HOOP_WOUND,
    SPLICE_SHEAR,
    WRAPPED,
    draw_bar,
    draw_factor,
)
from fletcher.core.section.elements import PlacedBar

_THREAD_N_MM = 60.0
"""[J] What two layers of strong thread, four turns to the mm, add to a mouth: half of 15 N a turn."""

_HELD_SHUT = 0.5
"""[J] Friction (0.3 to 0.7) of the faces of a split that thread holds shut."""
_COUNTED_MM = 25.0
"""[J] Of a stiff lap so much counts, from one side."""

_PULL_OVER_SHEAR = 1.5
"""[J] What a stiff glue bears in pull over its shear."""


def scarf_stress(slope: float, pull: Array, shear: Array) -> Array:
    """Stress along a bar, MPa, at which a scarf 1 : slope gives whose film bears these stresses:
    (σ sin²θ/σ_a)² + (σ sinθ cosθ/τ_a)² = 1 (stress transformation)."""
    angle = np.arctan2(1.0, slope)
    return np.asarray(1 / np.hypot(np.sin(angle) ** 2 / pull, np.sin(angle) * np.cos(angle) / shear))


def splice_holds(bar: PlacedBar, splice: Splice, scale: float) -> Array:
    """Force (S,) that a joint of a bar holds, N. Side by side: glue on a quarter of the perimeter over the overlap.
    Scarf: glue on the slope, `scarf_stress`. Sleeved: glue on each half of the sleeve, τ π d o/2, and the sleeve's own
    strength. Wrapped: a share of the bar's own, as the threads hold the split shut but mend no fibre."""
    shear, d = draw_factor(SPLICE_SHEAR), draw_bar(bar.stock)
    if splice.how == "wrapped":
        own = np.minimum(d.tensile, d.compressive) * bar.stock.area_mm2 * scale
        return np.asarray(draw_factor(WRAPPED) * own)
    if splice.how == "scarf":
        high = min(bar.sizes(scale))
        held = scarf_stress(splice.overlap_mm / high, _PULL_OVER_SHEAR * shear, shear)
        return np.asarray(held * bar.stock.area_mm2 * scale ** bar.powers[0])
    if splice.how == "sleeved" and bar.sleeve is not None:
        s = draw_bar(bar.sleeve)
        touches = min(bar.sleeve.diameter_mm or 1.0, bar.stock.diameter_mm or 1.0)
        own = np.minimum(s.tensile, s.compressive) * bar.sleeve.area_mm2
        return np.asarray(np.minimum(shear * np.pi * touches * splice.overlap_mm / 2, own))
    return np.asarray(shear * 0.25 * bar.stock.perimeter_mm * scale * splice.overlap_mm)


def _mouth(bar: PlacedBar, splice: Splice) -> Array:
    """Moment (S,) at which the outer tube splits at its mouth, N·mm."""
    assert bar.sleeve is not None
    outer = bar.stock if (bar.stock.bore_mm or 0.0) >= (bar.sleeve.diameter_mm or 0.0) else bar.sleeve
    wall = ((outer.diameter_mm or max(outer.size())) - (outer.bore_mm or 0.0)) / 2
    hoop = draw_factor(HOOP_METAL if outer.family in _METAL else HOOP_WOUND if "roll" in outer.family else HOOP)
    deep = splice.overlap_mm / 2
    return np.asarray(deep**2 / 3 * (hoop * wall + (_THREAD_N_MM if splice.bound else 0.0)))


_METAL = frozenset({"aluminium", "steel_wire"})


def splice_bends(bar: PlacedBar, splice: Splice, scale: float) -> Array:
    """Bending moment of the bar itself (S,) that a joint of it holds, N·mm.

    Scarfed and wrapped: the stress that it holds in pull, at the edge. Side by side: the glued strip, o long and a
    quarter of the perimeter high, turned in its own plane, M = τ h o √(h² + o²)/6. Sleeved: the sleeve's, unless the
    mouth of the tube splits first, (ℓ²/3)(σ_h t + N_h) with ℓ the depth on each side, t the wall, σ_h what it bears
    round its hoop and N_h what thread adds (linear bearing of a rigid rod in a tube, thin ring)."""
    holds = splice_holds(bar, splice, scale)
    if splice.how in ("scarf", "wrapped"):
        width_power, inertia_power = bar.powers
        area = bar.stock.area_mm2 * scale**width_power
        inertia = bar.stock.second_moment_mm4(bar.on_edge) * scale**inertia_power
        return np.asarray(holds / area * inertia / (bar.sizes(scale)[1] / 2))
    if splice.how == "sleeved" and bar.sleeve is not None:
        s, out = draw_bar(bar.sleeve), bar.sleeve.diameter_mm or max(bar.sleeve.size())
        own = np.minimum(s.tensile, s.compressive) * bar.sleeve.second_moment_mm4() / (out / 2)
        return np.asarray(np.minimum(own, _mouth(bar, splice)))
    high = 0.25 * bar.stock.perimeter_mm * scale
    return np.asarray(holds * np.hypot(high, splice.overlap_mm) / 6)


def flow_across(film: Array, thread: float, own: Array) -> Array:
    """Shear flow (N/mm) that passes a lengthwise split under thread: its glue's `film` or the friction of faces that
    the `thread` holds shut, N/mm round the bar, whichever is more; never beyond the wall's `own` (Bredt; hoop tie)."""
    return np.asarray(np.minimum(np.maximum(film, _HELD_SHUT * thread), own))


def splice_twists(bar: PlacedBar, splice: Splice) -> Array:
    """Share (S,) of its own strength in twist that a joint of a bar holds. Wrapped: the flow across the split over that
    of its wall. Sleeved: glue on the round of each half of the sleeve, τ π d²/2 · o/2, and the sleeve's own. Of other
    joints nothing is known: they hold what the bar does."""
    shear, d, stock = draw_factor(SPLICE_SHEAR), draw_bar(bar.stock), bar.stock
    out = stock.diameter_mm or max(stock.size())
    if splice.how == "wrapped":
        wall = (out - stock.bore_mm) / 2 if stock.bore_mm else out / 2
        own = d.shear * wall
        return flow_across(shear * wall, _THREAD_N_MM, own) / own
    if splice.how == "sleeved" and bar.sleeve is not None:
        inner = bar.sleeve.diameter_mm or max(bar.sleeve.size())
        touches = min(inner, out)
        film = shear * np.pi * touches**2 / 2 * min(splice.overlap_mm / 2, _COUNTED_MM)
        sleeve = draw_bar(bar.sleeve).shear * 2 * bar.sleeve.second_moment_mm4() / (inner / 2)
        own = d.shear * 2 * stock.second_moment_mm4() / (out / 2)
        return np.asarray(np.minimum(np.minimum(film, sleeve) / own, 1.0))
    return np.ones_like(d.shear)
