"""What gives first: the share of its strength that each element uses, mode by mode.

Stresses follow the linear response of the beam; each mode has its own limit. "Breaks" part something; "gives" are
yield events (crushing foam, wrinkling skin, drawing film) after which the part still hangs together.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import k0

from fletcher.core.beam import Mesh, Response
from fletcher.core.elements import Elements, PlacedBar
from fletcher.core.evidence import BUCKLING_FACTOR, SLOT_WAVE, draw_factor
from fletcher.core.materials import Foam
from fletcher.core.outline import Array, faces
from fletcher.core.sections import Draws, Geometry, Sums

COVER_MM = (0.0, 1.0, 3.0, 8.0, 20.0)
COVER_KNOCK_DOWN = (0.47, 0.50, 0.56, 0.75, 1.0)
"""[J] Share of the infinite-medium buckling load that a bar keeps under this cover of foam (MECHANICS section 2 up to
3 mm; beyond it the two outer points are judgement: a free face more than some diameters away no longer matters)."""


@dataclass(frozen=True)
class Mode:
    """One way to fail. `use` (S, n) is the share of strength used at the load (no factor of safety); `line` is the
    lay-up line it belongs to, None for the foam; `breaks` parts breaks from events after which it holds together."""

    kind: str
    line: int | None
    where: str
    use: Array
    breaks: bool


def bar_buckling_load(
    G: Array, poisson: float, EI_weak: Array, radius: float, cover: Array, wave: Array, tensile: Array, width: float
) -> Array:
    r"""Compressive load (N) at which a straight bar in foam buckles and tears out; shapes broadcast.

    .. math:: P_{cr} = 2\sqrt{k\,EI},\quad k = \frac{16\pi G(1-\nu)}{2(3-4\nu)K_0(qr)+1},\quad q = (k/EI)^{1/4}

    (bar in an infinite elastic medium). Thin cover takes support away: P_cr times its knock-down f, which is the same
    as k f² in place of k. With that k, initial waviness w₀ grows to w₀ P/(P_cr − P) and the foam tears when
    k w = d σ_t, at P = P_cr / (1 + k w₀ / (d σ_t)).
    """
    k = np.broadcast_to(np.asarray(G, float), np.broadcast_shapes(np.shape(G), np.shape(EI_weak))).copy()
    for _ in range(12):
        q = (k / EI_weak) ** 0.25
        k = 16 * np.pi * G * (1 - poisson) / (2 * (3 - 4 * poisson) * k0(q * radius) + 1)
    k = k * np.interp(cover, COVER_MM, COVER_KNOCK_DOWN) ** 2
    return np.asarray(2 * np.sqrt(k * EI_weak) / (1 + k * wave / (width * tensile)))


def wrinkling_stress(k: Array, E_skin: Array, E_foam: Array, G_foam: Array) -> Array:
    """Compressive stress at which a skin wrinkles on its foam, σ = k (E_f E_c G_c)^⅓ (Hoff & Mautner 1945)."""
    return np.asarray(k * np.cbrt(E_skin * E_foam * G_foam))


def _cover(elements: Elements, bar: PlacedBar, geometry: Geometry, i: int) -> Array:
    """Foam between a bar and the nearest face, mm (n,)."""
    lower, upper = faces(elements.outline, geometry.bar_x[i] / geometry.chord, geometry.chord, geometry.thickness)
    half = bar.stock.size(bar.on_edge)[1] / 2
    gap = np.minimum(upper - geometry.bar_z[i], geometry.bar_z[i] - lower) - half
    return np.asarray(np.maximum(gap, 0.0))


def _foam_modes(foam: Foam, draws: Draws, strain_low: Array, strain_high: Array) -> list[Mode]:
    f = draws.foam
    tension = np.maximum(strain_low, strain_high) * (f.E_tension / f.tensile)[:, None]
    crush = np.maximum(-strain_low, -strain_high) * (f.E_compression / f.crush)[:, None]
    lower_pulled = strain_low[0].sum() > strain_high[0].sum()
    faces_of = ("lower", "upper") if lower_pulled else ("upper", "lower")
    return [
        Mode("foam_tension", None, faces_of[0], np.maximum(tension, 0), True),
        Mode("foam_crush", None, faces_of[1], np.maximum(crush, 0), False),
    ]


def _at_stations(mesh: Mesh, per_element: Array) -> Array:
    """Values of elements (..., e) at stations (..., n): the larger of an element's neighbours in its stretch."""
    out = np.zeros((*per_element.shape[:-1], len(mesh.y)))
    out[..., mesh.left] = per_element
    right = mesh.left + 1
    out[..., right] = np.maximum(out[..., right], per_element)
    return out


def _shear_modes(
    elements: Elements,
    draws: Draws,
    geometry: Geometry,
    sums: Sums,
    response: Response,
    shear: Array,
    peak: Array,
    mesh: Mesh,
) -> list[Mode]:
    """Shear in the foam and along the bond lines of bars and strips. `shear` (S, n) is the shear force, N."""
    f = draws.foam
    found = [Mode("core_shear", None, "core", shear * peak / f.shear[:, None], True)]
    flow = _at_stations(mesh, np.abs(response.force_rate))
    for i, bar in enumerate(elements.bars):
        # half of the perimeter carries: glue runs down one side, and the slot's mouth is open
        use = flow[:, i] / (0.5 * bar.stock.perimeter_mm) / f.shear[:, None] * geometry.bar_on[i]
        found.append(Mode("bar_bond", bar.line, bar.side, use, True))
    for i, membrane in enumerate(elements.membranes):
        if membrane.width_mm is None or membrane.face not in ("upper", "lower"):
            continue
        glue = draws.skins[i].adhesive_shear
        holds = f.shear if glue is None else np.minimum(glue, f.shear)
        arm = np.abs(0.5 * (geometry.skin_low[i] + geometry.skin_high[i]) - sums.whole_z)
        stress = shear * sums.skin_Et[:, [i]] * arm / sums.whole_EI * geometry.skin_on[i]
        found.append(Mode("strip_bond", membrane.line, membrane.face, stress / holds[:, None], True))
    return found


def modes(
    elements: Elements,
    draws: Draws,
    geometry: Geometry,
    sums: Sums,
    response: Response,
    shear_per_element: Array,
    core_shear: Array,
    mesh: Mesh,
    buckling: list[Array],
) -> list[Mode]:
    """All modes of a part under the response to its load, shares of strength per station and sample."""

    def strain(z: Array) -> Array:
        """Strain of foam and skins at height z, (S, n) for z (n,)."""
        return np.asarray(response.axial - response.curvature * (z[None, :] - sums.host_z))

    found = _foam_modes(elements.foam, draws, strain(geometry.z_low), strain(geometry.z_high))
    f = draws.foam
    E_through = f.E_compression / elements.foam.through_thickness_ratio
    for i, membrane in enumerate(elements.membranes):
        d, on = draws.skins[i], geometry.skin_on[i]
        E = d.Et / membrane.skin.thickness_mm.typ
        ends = [strain(geometry.skin_low[i]) * on, strain(geometry.skin_high[i]) * on]
        pulled = np.maximum(np.maximum(*ends), 0) * E[:, None]
        pressed = np.maximum(np.maximum(-ends[0], -ends[1]), 0) * E[:, None]
        limit = wrinkling_stress(d.wrinkling_k, E, E_through, f.G)
        if d.draws_out is None:
            found.append(Mode("skin_tension", membrane.line, membrane.face, pulled / d.tensile[:, None], True))
        else:
            found.append(Mode("skin_yield", membrane.line, membrane.face, pulled / d.draws_out[:, None], False))
        kind = "skin_wrinkling"
        if d.compressive is not None:
            if d.compressive[0] < limit[0]:
                kind = "skin_compression"
            limit = np.minimum(limit, d.compressive)
        found.append(Mode(kind, membrane.line, membrane.face, pressed / limit[:, None], False))
    for i, bar in enumerate(elements.bars):
        found += _bar_modes(draws, geometry, response, i, bar, buckling[i])
    shear = _at_stations(mesh, np.abs(shear_per_element))
    return found + _shear_modes(elements, draws, geometry, sums, response, shear, core_shear, mesh)


def buckling_loads(elements: Elements, draws: Draws, geometry: Geometry) -> list[Array]:
    """Buckling load (S, n) of every bar, with the spread of model and waviness."""
    found = []
    for i, bar in enumerate(elements.bars):
        width, height = bar.stock.size(bar.on_edge)
        load = bar_buckling_load(
            G=draws.foam.G[:, None],
            poisson=elements.foam.poisson,
            EI_weak=(draws.bars[i].E * bar.stock.weak_second_moment_mm4)[:, None],
            radius=(width + height) / 4,
            cover=_cover(elements, bar, geometry, i)[None, :],
            wave=draw_factor(SLOT_WAVE)[:, None],
            tensile=draws.foam.tensile[:, None],
            width=max(width, height) if bar.stock.shape == "flat" else width,
        )
        found.append(load * draw_factor(BUCKLING_FACTOR)[:, None])
    return found


def _bar_modes(
    draws: Draws, geometry: Geometry, response: Response, i: int, bar: PlacedBar, buckling: Array
) -> list[Mode]:
    d, f, on = draws.bars[i], draws.foam, geometry.bar_on[i]
    area = bar.stock.area_mm2
    height = bar.stock.size(bar.on_edge)[1]
    # the axial force counts what the bar carries beyond the foam it displaces
    displaced = np.where(geometry.bar_z[i] < geometry.split, f.E_tension[:, None], f.E_compression[:, None])
    force = response.bar_force[:, i] * (d.E[:, None] / (d.E[:, None] - displaced)) * on
    bending = np.abs(response.curvature) * d.E[:, None] * height / 2 * on
    stress = force / area
    return [
        Mode("bar_tension", bar.line, bar.side, np.maximum(stress + bending, 0) / d.tensile[:, None], True),
        Mode("bar_compression", bar.line, bar.side, np.maximum(bending - stress, 0) / d.compressive[:, None], True),
        Mode("bar_buckling", bar.line, bar.side, np.maximum(-force, 0) / buckling, True),
    ]
