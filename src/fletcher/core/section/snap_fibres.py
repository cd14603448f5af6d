r"""A section as fibres with uniaxial laws, and the moment that they give at a curvature.

Brittle foam is linear to its tensile strength; ductile bead foam yields in tension; all foam crushes at a plateau.
Films and tapes are linear to yield, then flat; in compression they are capped by wrinkling. Bars are linear to rupture,
in compression to buckling into the foam (MECHANICS section 2).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.section.buckling import bar_buckling_load, cover_of, wrinkling_stress
from fletcher.core.section.elements import Elements
from fletcher.core.section.moment_curvature import Laws, Section
from fletcher.core.section.properties import Draws, Geometry, columns_of
from fletcher.core.section.skin_midlines import heights_along

AFTER_BUCKLING = 0.3
"""[J] Share of its buckling load that a bar still carries once it has torn out sideways."""

PEEL_LENGTH_MM = 40.0
"""[J] Length over which a tape beyond the crack may come off before a snap in the hands has opened it."""

LEVELS = 36
"""So many levels of foam over the depth."""

_NEVER = 9.0
"""A strain at which nothing that does not break by strain would break."""


@dataclass(frozen=True)
class Fibres:
    """A section as fibres: height z (mm) with `half` its own half height, `amount` (mm²), `pull_breaks` and
    `push_breaks` whether reaching the limit parts the fibre, `foam` and `line` (lay-up line, −1 foam), each (f,);
    elastic `E_pull` and `E_push`, limits `pull` and `push`, `break_strain`, and `hold`, the most that a cracked section
    may rely on, each (S, f), MPa."""

    z: Array
    half: Array
    amount: Array
    pull_breaks: Array
    push_breaks: Array
    foam: Array
    line: Array
    E_pull: Array
    E_push: Array
    pull: Array
    push: Array
    break_strain: Array
    hold: Array

    @property
    def depth(self) -> float:
        """From the lowest edge to the highest, mm; edges that hold nothing count too."""
        return float((self.z + self.half).max() - (self.z - self.half).min())

    def mirrored(self) -> Fibres:
        """The same section upside down."""
        return Fibres(**{**vars(self), "z": -self.z})


def fibres_of(
    elements: Elements,
    draws: Draws,
    geometry: Geometry,
    k: int,
    count: int = 1,
    levels: int = LEVELS,
    skin_points: int = 9,
) -> Fibres:
    """Fibres of the section at station k for the first `count` samples, the typical values being the first: so many
    `levels` of foam over the depth, and places over the height of a skin."""
    f, plain, drawn = draws.foam, [], []
    E_c, tensile = f.E_compression[:count], f.tensile[:count]
    columns = columns_of(elements, geometry.y[[k]], geometry.inside[[k]])
    low, high, width = columns.lower[0], columns.upper[0], columns.weight[0]
    edges = np.linspace(float(geometry.z_low[k]), float(geometry.z_high[k]), levels + 1)
    inside = np.clip(np.minimum(edges[1:, None], high) - np.maximum(edges[:-1, None], low), 0, None)
    half = 0.5 * (edges[1] - edges[0])
    breaks = float(elements.foam.brittle)
    plain += [
        (z, half, area, breaks, 0.0, 1.0, -1.0)
        for z, area in zip(0.5 * (edges[1:] + edges[:-1]), np.maximum(inside @ width, 0.0), strict=True)
    ]
    strain = np.full_like(tensile, elements.foam.tensile_break_strain_pct.typ / 100)
    drawn += [(f.E_tension[:count], E_c, tensile, f.crush[:count], strain, np.zeros_like(strain))] * levels
    never = np.full_like(strain, _NEVER)
    through = E_c / elements.foam.through_thickness_ratio
    for i, m in enumerate(elements.membranes):
        if not geometry.skin_on[i, k]:
            continue
        d = draws.skins[i]
        t = m.thickness_mm
        E = d.Et[:count] * m.plies / t
        limit = wrinkling_stress(d.wrinkling_k[:count], E, through, f.G[:count])
        if d.compressive is not None:
            limit = np.minimum(limit, d.compressive[:count])
        strength = (d.tensile if d.draws_out is None else d.draws_out)[:count]
        fracture = m.skin.peel_N_per_25mm.typ / 25
        shear = f.shear[:count]
        glue = shear if d.adhesive_shear is None else np.minimum(d.adhesive_shear[:count], shear)
        anchored = np.minimum(np.minimum(strength * t, np.sqrt(2 * fracture * E * t)), glue * PEEL_LENGTH_MM)
        length = float(geometry.skin[i, 0, k])
        kinks = float(m.skin.wrinkle == "break")
        heights = heights_along(elements, m, float(geometry.y[k]), skin_points)
        shares = np.full(skin_points, 1 / (skin_points - 1))
        shares[[0, -1]] /= 2
        for z, share in zip(heights, shares, strict=True):
            plain.append((float(z), 0.0, length * t * share, float(d.draws_out is None), kinks, 0.0, float(m.line)))
            drawn.append((E, E, strength, limit, never, anchored / t))
    for i, bar in enumerate(elements.bars):
        if not geometry.bar_on[i, k]:
            continue
        b = draws.bars[i]
        scale = float(geometry.bar_scale[i, k])
        size, height = bar.sizes(scale)
        area = bar.stock.area_mm2 * scale ** bar.powers[0]
        E, pull = b.E[:count], b.tensile[:count]
        buckling = bar_buckling_load(
            f.G[:count],
            elements.foam.poisson,
            E * bar.stock.weak_second_moment_mm4 * scale**3,
            (size + height) / 4,
            cover_of(elements, bar, geometry, i)[k],
            np.array(0.2),
            tensile,
            size,
        )
        push = np.minimum(b.compressive[:count], buckling / area)
        for step in (-0.433, 0.0, 0.433):
            z = float(geometry.bar_z[i, k]) + step * height
            plain.append((z, 0.0, area / 3, 1.0, 1.0, 0.0, float(bar.line)))
            drawn.append((E, E, pull, push, never, pull))
    values = np.array(drawn)  # fibres, fields, samples
    return Fibres(*np.array(plain).T, *(values[:, n].T for n in range(values.shape[1])))


def moments(fibres: Fibres, curvature: Array, cracked: bool = False) -> tuple[Array, Array]:
    """Moment and strain at z = 0, each (S, c), at curvatures (S, c) or (1, c). `cracked`: foam pulls no more, tapes
    hold what their anchorage holds, bars have buckled."""
    hold = np.where(fibres.foam > 0, 0.0, np.minimum(fibres.pull, fibres.hold)) if cracked else fibres.pull
    push = fibres.push * np.where(fibres.push_breaks > 0, AFTER_BUCKLING, 1.0) if cracked else fibres.push
    E_pull, E_push, yields, gives = (
        v[:, None] for v in (fibres.E_pull, fibres.E_push, hold / fibres.E_pull, push / fibres.E_push)
    )
    flat = Laws(E_pull, E_push, yields, np.zeros_like(yields), gives)
    return Section(fibres.amount, -fibres.z, flat).at(np.broadcast_to(curvature, (len(hold), curvature.shape[-1])))


def first_reached(fibres: Fibres, curvature: Array, base: Array, breaking: bool) -> Array:
    """Curvature (S,) at which the first fibre reaches a limit, or one that parts it (`breaking`), read between the
    given curvatures (c,); infinite where none does. A fibre reaches its limit at its outer edge."""
    strain = base[..., None] - curvature[:, None] * fibres.z
    edge = curvature[:, None] * fibres.half
    pull = (strain + edge) * (fibres.E_pull / fibres.pull)[:, None]
    push = (edge - strain) * (fibres.E_push / fibres.push)[:, None]
    if breaking:
        pull, push = pull * (fibres.pull_breaks > 0), push * (fibres.push_breaks > 0)
    use = np.maximum(np.maximum(pull, push), (strain + edge) / fibres.break_strain[:, None])
    most = (use * (fibres.amount > 0)).max(-1)
    at = np.argmax(most >= 1, axis=1)
    rows = np.arange(len(most))
    found = most[rows, at] >= 1
    before = np.where(at > 0, most[rows, at - 1], 0.0)
    start = np.where(at > 0, curvature[at - 1], 0.0)
    share = np.clip((1 - before) / np.maximum(most[rows, at] - before, 1e-12), 0, 1)
    return np.where(found, start + share * (curvature[at] - start), np.inf)
