r"""A section that has cracked through and hangs on its tape: one hinge, no tension in the foam.

The pressed strip of foam is rigid and plastic at its crush stress σ_c, the pressed tape carries its wrinkling force
F_w = σ_w t w, the pulled tape T = σ_d t w. With C = T − F_w the strip is c = C/(σ_c b) high, and

.. math:: M_r = T (h + t) - C (c + t)/2

about the pressed tape. The tape peels from both sides of the crack while it is drawn: the front runs at the stress σ_d
at which :math:`t\int_0^{\sigma_d} \varepsilon\,d\sigma = \Gamma` (Kendall 1975 for an elastic film, √(2ΓEt)/t).
"""

from __future__ import annotations

import numpy as np

from fletcher.core.common.arrays import Array


def drawn_stress(fracture: Array, thickness: float, E: Array, yields: Array, tears_at: Array, tears: Array) -> Array:
    """Stress σ_d (MPa) that a tape holds while its peel front runs; shapes broadcast.

    `fracture` Γ (N/mm) what peeling costs per area, `E` (MPa), `yields` its yield stress, `tears_at` and `tears` strain
    and stress at break: linear between (yields/E, yields) and (tears_at, tears), flat where tears = yields.
    """
    given = fracture / thickness
    elastic = np.sqrt(2 * given * E)
    at_yield = yields / E
    rest = np.maximum(given - yields**2 / (2 * E), 0.0)
    hardens = np.maximum(tears - yields, 0.0) / np.maximum(tears_at - at_yield, 1e-9)
    # ε_y x + x²/2H = rest, x the stress beyond yield
    beyond = hardens * (np.sqrt(at_yield**2 + 2 * rest / np.maximum(hardens, 1e-12)) - at_yield)
    return np.asarray(np.where(elastic <= yields, np.minimum(elastic, tears), np.minimum(yields + beyond, tears)))


def hinge_moment(
    height: float, width: float, crush: Array, tape: float, pulled: Array, pressed: Array
) -> tuple[Array, Array]:
    """Moment M_r (N·mm) of the cracked section and the height of its pressed strip (mm); shapes broadcast.

    `height` and `width` of the foam (mm), `crush` its crush stress (MPa), `tape` thickness (mm), `pulled` and `pressed`
    the forces of both tapes (N).
    """
    force = np.maximum(pulled - pressed, 0.0)
    strip = force / (crush * width)
    return pulled * (height + tape) - force * (strip / 2 + tape / 2), strip


def bonded_for(opening: Array, lever: float, drawn: Array, anchor: Array) -> Array:
    """Bonded length (mm) that a tape needs on each side of the crack: what is drawn out while it opens by `opening`
    (rad) at a `lever` (mm), θ·lever/(2 ε_d), and the `anchor` beyond it (mm)."""
    return np.asarray(opening * lever / (2 * drawn) + anchor)
