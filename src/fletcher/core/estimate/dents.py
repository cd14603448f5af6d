r"""Dents: what a skin, coat or guard on foam takes before a blunt thing leaves a mark, and the grams that it costs.

A punch of radius r pressed in by δ makes a cone of radius a in the skin, which bends and stretches, over foam that
crushes (limit analysis, upper bound; Save & Massonnet 1972, with foam as a plastic bed, Soden 1996):

.. math:: F = \min_a \Bigl[ 4\pi M_p \frac{a}{a-r} + \pi N \frac{(a+r)\,\delta}{a-r}
   + \pi\sigma_c \frac{a^2 + a r + r^2}{3} \Bigr]

with M_p the plastic moment of all layers together and N their pull, at most their strength and at most E t ε for the
cone's strain ε = ½ (δ/(a − r))². Without a skin F = πr²σ_c.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.estimate.prepare import Prepared
from fletcher.core.estimate.schema import Dent
from fletcher.core.materials.materials import Catalogue, Skin
from fletcher.core.materials.uncertainty import Band, SkinDraw, band, draw_skin, drawn

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


class Hardening(Result):
    """Coats or a guard laid over both faces: the upper face's dent load then, over what it is now, and the grams."""

    key: str
    name: str
    load_N: Band
    times: float
    grams: float
    grade: str
    note: str


COATINGS: tuple[tuple[str, ...], ...] = (
    ("coat_rubbery",), ("coat_acrylic",), ("coat_pu_varnish",), ("coat_epoxy_thin",), ("filler_light", "primer_spray",
    "paint_spray"), ("coat_epoxy_thin", "filler_light", "paint_spray"), ("paint_acrylic_brush",), ("glass_49",),
    ("guard_pet_0.25",), ("guard_pp_0.5",), ("guard_ply_0.4",),
)  # fmt: skip
"""Coats from the foam outwards, and guards, that are tried on a face."""


RESIN = "Epoxy can cause allergy: wear gloves and eye protection and ventilate. Follow the data sheet."


@dataclass(frozen=True)
class _Face:
    """Layers on a face at the punch, from the foam outwards: strength and E (layers, S), thickness (layers,)."""

    strength: Array
    stiffness: Array
    thickness: Array
    lines: list[int]

    def under(self, skins: list[tuple[Skin, SkinDraw]], count: int) -> _Face:
        """The same with more skins on top."""
        strong, stiff, thick = (list(v) for v in (self.strength, self.stiffness, self.thickness))
        for skin, draw in skins:
            t = skin.thickness_mm.typ
            strong.append((draw.tensile if draw.draws_out is None else draw.draws_out)[:count])
            stiff.append(draw.Et[:count] / t)
            thick.append(t)
        shape = (len(thick), count)
        return _Face(np.reshape(strong, shape), np.reshape(stiff, shape), np.array(thick), self.lines)


def _count() -> int:
    return 1 + min(drawn(), _DRAWS)


def _face(p: Prepared, face: str) -> _Face:
    """What covers a face in the middle of the part; strips beside the punch do not count."""
    count = _count()
    k = int(np.argmin(np.abs(p.geometry.y - 0.5 * p.geometry.y[-1])))
    on = [
        (m, p.draws.skins[i])
        for i, m in enumerate(p.elements.membranes)
        if m.face == face and not m.strip and p.geometry.skin_on[i, k]
    ]
    on.sort(key=lambda pair: pair[0].beneath_mm)
    strength = np.array([(d.tensile if d.draws_out is None else d.draws_out)[:count] for _, d in on])
    stiff = np.array([d.Et[:count] * m.plies / m.thickness_mm for m, d in on])
    shape = (len(on), count)
    thick = np.array([m.thickness_mm for m, _ in on])
    return _Face(strength.reshape(shape), stiff.reshape(shape), thick, sorted({m.line for m, _ in on}))


def _load(p: Prepared, face: _Face) -> Array:
    crush = p.draws.foam.bearing[: _count()]
    return dent_load(crush, face.strength, face.thickness, face.stiffness)


def dents_of(p: Prepared) -> list[Dent]:
    """Dents of the upper and lower face in the middle of a part with a core."""
    if p.elements.hollow:
        return []
    grams = p.grams
    out = []
    for side in ("upper", "lower"):
        face = _face(p, side)
        out.append(
            Dent(
                face=side,
                load_N=band(_load(p, face), p.inputs.first(_count())),
                bare_N=float(np.pi * p.draws.foam.bearing[0] * PUNCH_MM**2),
                grams=float(sum(grams[line][0] for line in face.lines)),
                line_ids=[p.elements.part.layers[line].id for line in face.lines],
            )
        )
    return out


def hardened(p: Prepared, catalogue: Catalogue) -> list[Hardening]:
    """What coats and guards on both faces of a part with a core would do, the least grams for the load first."""
    if p.elements.hollow:
        return []
    face = _face(p, "upper")
    now = float(_load(p, face)[0])
    area = 2 * float(np.trapezoid(p.geometry.chord, p.geometry.y))  # both faces, flat
    out = []
    for keys in COATINGS:
        skins = [catalogue.skins[key] for key in keys]
        load = _load(p, face.under([(s, draw_skin(s)) for s in skins], _count()))
        out.append(
            Hardening(
                key="+".join(keys),
                name=", ".join(s.name if n == 0 else s.name[0].lower() + s.name[1:] for n, s in enumerate(skins)),
                load_N=band(load, p.inputs.first(_count())),
                times=float(load[0]) / now,
                grams=sum(s.areal_mass_g_m2.typ for s in skins) * 1e-6 * area,
                grade=max(s.grade for s in skins),
                note=skins[-1].note if skins[-1].family in ("coat", "guard") else RESIN,
            )
        )
    return sorted(out, key=lambda h: h.grams / max(h.load_N.typ - now, 1e-6))
