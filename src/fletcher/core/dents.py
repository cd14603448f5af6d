r"""Dents: what a skin, coat or guard on foam takes before a blunt thing leaves a mark, and the grams that it costs.

A punch of radius r pressed in by δ makes a cone of radius a in the skin, which bends and stretches, over foam that
crushes (limit analysis, upper bound; Save & Massonnet 1972, with foam as a plastic bed, Soden 1996):

.. math:: F = \min_a \Bigl[ 4\pi M_p \frac{a}{a-r} + \pi N \frac{(a+r)\,\delta}{a-r}
   + \pi\sigma_c \frac{a^2 + a r + r^2}{3} \Bigr]

with M_p the plastic moment of all layers together and N their pull, at most their strength and at most E t ε for the
cone's strain ε = ½ (δ/(a − r))². Without a skin F = πr²σ_c.
"""

from __future__ import annotations

import numpy as np

from fletcher.core.estimate import Prepared
from fletcher.core.evidence import band, drawn
from fletcher.core.outline import Array
from fletcher.core.results import Dent
from fletcher.core.shares import integral

PUNCH_MM = 5.0
"""Radius of the punch: a finger, a stone, the end of a stick."""

DEPTH_MM = 1.0
"""How deep a dent counts."""

_DRAWS = 48


def dent_load(crush: Array, strength: Array, thickness: Array, stiffness: Array) -> Array:
    """Force (S,), N, of a dent. `crush` (S,) stress of the foam through its thickness; layers from the foam outwards:
    `strength` MPa and `stiffness` E MPa (layers, S), `thickness` mm (layers,)."""
    r, delta = PUNCH_MM, DEPTH_MM
    a = r * np.geomspace(1.02, 8.0, 40)[:, None]
    bed = np.pi * crush * (a**2 + a * r + r**2) / 3
    if not len(thickness):
        return np.asarray(np.pi * crush * r**2)
    bends = 4 * np.pi * plastic_moment(strength, thickness) * a / (a - r)
    strain = 0.5 * (delta / (a - r)) ** 2
    pull = sum(np.minimum(s * t, E * t * strain) for s, t, E in zip(strength, thickness, stiffness, strict=True))
    stretches = np.pi * pull * (a + r) * delta / (a - r)
    skinned = (bends + stretches + bed).min(0)
    return np.asarray(np.maximum(skinned, np.pi * crush * r**2))


def plastic_moment(strength: Array, thickness: Array) -> Array:
    """Plastic moment (S,) per width of layers glued together, N: ∫σ|z − z_p| dz, z_p parting their forces evenly."""
    edges = np.concatenate([[0.0], np.cumsum(thickness)])
    force = strength * thickness[:, None]
    below = np.concatenate([np.zeros((1, strength.shape[1])), np.cumsum(force, 0)])
    half = 0.5 * below[-1]
    n = np.clip((below[1:] < half).sum(0), 0, len(thickness) - 1)
    rows = np.arange(strength.shape[1])
    middle = edges[n] + (half - below[n, rows]) / strength[n, rows]
    total = np.zeros(strength.shape[1])
    for s, low, high in zip(strength, edges[:-1], edges[1:], strict=True):
        cut = np.clip(middle, low, high)
        total += s * (
            (cut - low) * np.abs(middle - 0.5 * (low + cut)) + (high - cut) * np.abs(0.5 * (cut + high) - middle)
        )
    return total


def dents_of(p: Prepared) -> list[Dent]:
    """Dents of the upper and lower face in the middle of a part with a core; strips beside the punch do not count."""
    if p.elements.hollow:
        return []
    count = 1 + min(drawn(), _DRAWS)
    k = int(np.argmin(np.abs(p.geometry.y - 0.5 * p.geometry.y[-1])))
    crush = p.draws.foam.bearing[:count]
    grams = integral(p.line_mass, p.mesh)
    out = []
    for face in ("upper", "lower"):
        on = [
            (m, p.draws.skins[i])
            for i, m in enumerate(p.elements.membranes)
            if m.face == face and not m.strip and p.geometry.skin_on[i, k]
        ]
        on.sort(key=lambda pair: pair[0].beneath_mm)
        strength = np.array([(d.tensile if d.draws_out is None else d.draws_out)[:count] for _, d in on])
        thick = np.array([m.thickness_mm for m, _ in on])
        stiff = np.array([d.Et[:count] * m.plies / m.thickness_mm for m, d in on])
        shape = (len(on), count)
        load = dent_load(crush, strength.reshape(shape), thick, stiff.reshape(shape))
        lines = {m.line for m, _ in on}
        out.append(
            Dent(
                face=face,
                load_N=band(load, p.inputs.first(count)),
                bare_N=float(np.pi * crush[0] * PUNCH_MM**2),
                grams=float(sum(grams[line][0] for line in lines)),
                line_ids=[p.elements.part.layers[line].id for line in sorted(lines)],
            )
        )
    return out
