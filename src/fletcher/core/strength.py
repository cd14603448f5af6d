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
from fletcher.core.outline import Array, faces
from fletcher.core.sections import Draws, Geometry, Sums
from fletcher.core.shear import Fields

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


@dataclass(frozen=True)
class Acting:
    """What acts on the sections of a part under its load. `response` is the bending answer; `edge` (S, n) the edgewise
    curvature, positive where the rear edge is pulled; `shear` and `torque` (S, n) the size of shear force (N) and
    twisting moment (N·mm)."""

    response: Response
    edge: Array
    shear: Array
    torque: Array


@dataclass(frozen=True)
class Strains:
    """Largest strains of things that reach over a range of a section, under bending and edgewise bending together."""

    acting: Acting
    sums: Sums

    def between(self, low: Array, high: Array, front: Array, rear: Array) -> tuple[Array, Array]:
        """Largest pull and largest push (both ≥ 0) over heights low to high and places front to rear, (n,) each."""
        r = self.acting.response
        flap = [r.axial - r.curvature * (z[None, :] - self.sums.host_z) for z in (low, high)]
        pull, push = np.maximum(*flap), np.maximum(-flap[0], -flap[1])
        if np.any(self.acting.edge):
            edge = [self.acting.edge * (x[None, :] - self.sums.edge_x) for x in (front, rear)]
            pull, push = pull + np.maximum(*edge), push + np.maximum(-edge[0], -edge[1])
        return np.maximum(pull, 0), np.maximum(push, 0)


def _foam_modes(draws: Draws, geometry: Geometry, strains: Strains) -> list[Mode]:
    f = draws.foam
    nose, tail = np.zeros_like(geometry.chord), geometry.chord
    pull, push = strains.between(geometry.z_low, geometry.z_high, nose, tail)
    acting = strains.acting
    if np.any(acting.edge):
        rear_pulled = acting.edge[0].sum() > 0
        pulled, pressed = ("rear", "front") if rear_pulled else ("front", "rear")
    else:
        pulled, pressed = ("lower", "upper") if acting.response.curvature[0].sum() >= 0 else ("upper", "lower")
    return [
        Mode("foam_tension", None, pulled, pull * (f.E_tension / f.tensile)[:, None], True),
        Mode("foam_crush", None, pressed, push * (f.E_compression / f.crush)[:, None], False),
    ]


def at_stations(mesh: Mesh, per_element: Array) -> Array:
    """Values of elements (..., e) at stations (..., n): the larger of an element's neighbours in its stretch."""
    out = np.zeros((*per_element.shape[:-1], len(mesh.y)))
    out[..., mesh.left] = per_element
    right = mesh.left + 1
    out[..., right] = np.maximum(out[..., right], per_element)
    return out


def _shear_modes(
    elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, acting: Acting, fields: Fields, mesh: Mesh
) -> list[Mode]:
    """Shear in the foam, along the bond lines of bars and strips, and in the skins of a twisted part."""
    f = draws.foam
    shear, torque = acting.shear, acting.torque
    if not (np.any(shear) or np.any(torque)):
        return []
    twisted = bool(np.any(torque))
    # the largest of bending and of twist, as if both stood at the same place
    stress = shear * fields.core_shear + torque * fields.twist_shear
    found = [Mode("core_shear", None, "core", stress / f.shear[:, None], True)]
    flow = at_stations(mesh, np.abs(acting.response.force_rate))
    for i, bar in enumerate(elements.bars):
        # half of the perimeter carries: glue runs down one side, and the slot's mouth is open
        use = flow[:, i] / (0.5 * bar.stock.perimeter_mm) / f.shear[:, None] * geometry.bar_on[i]
        found.append(Mode("bar_bond", bar.line, bar.side, use, True))
    for i, membrane in enumerate(elements.membranes):
        d = draws.skins[i]
        thickness = membrane.plies * membrane.skin.thickness_mm.typ
        if twisted:
            use = torque * fields.skin_flow[i] / thickness / d.shear[:, None] * geometry.skin_on[i]
            found.append(Mode("skin_shear", membrane.line, membrane.face, use, True))
        if membrane.width_mm is None or membrane.face not in ("upper", "lower"):
            continue
        holds = f.shear if d.adhesive_shear is None else np.minimum(d.adhesive_shear, f.shear)
        arm = np.abs(0.5 * (geometry.skin_low[i] + geometry.skin_high[i]) - sums.whole_z)
        sliding = shear * sums.skin_Et[:, [i]] * arm / sums.whole_EI * geometry.skin_on[i]
        found.append(Mode("strip_bond", membrane.line, membrane.face, sliding / holds[:, None], True))
    return found


def modes(
    elements: Elements,
    draws: Draws,
    geometry: Geometry,
    sums: Sums,
    acting: Acting,
    fields: Fields,
    mesh: Mesh,
    buckling: list[Array],
) -> list[Mode]:
    """All modes of a part under what acts on it, shares of strength per station and sample. What does not act (no
    bending in a pure twist, no shear in a swing) has no modes."""
    sheared = _shear_modes(elements, draws, geometry, sums, acting, fields, mesh)
    if not (np.any(acting.response.curvature) or np.any(acting.edge)):
        return sheared
    strains = Strains(acting, sums)
    found = _foam_modes(draws, geometry, strains)
    f = draws.foam
    E_through = f.E_compression / elements.foam.through_thickness_ratio
    for i, membrane in enumerate(elements.membranes):
        d, on = draws.skins[i], geometry.skin_on[i]
        E = d.Et / membrane.skin.thickness_mm.typ
        if membrane.face in ("front", "rear"):
            front = rear = geometry.chord * (membrane.face == "rear")
        else:
            front, rear = elements.strip_edges(membrane, geometry.y)
        pull, push = strains.between(geometry.skin_low[i], geometry.skin_high[i], front, rear)
        pulled, pressed = pull * on * E[:, None], push * on * E[:, None]
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
        found += _bar_modes(draws, geometry, sums, acting, i, bar, buckling[i])
    return found + sheared


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
    draws: Draws, geometry: Geometry, sums: Sums, acting: Acting, i: int, bar: PlacedBar, buckling: Array
) -> list[Mode]:
    d, f, on = draws.bars[i], draws.foam, geometry.bar_on[i]
    area = bar.stock.area_mm2
    width, height = bar.stock.size(bar.on_edge)
    # the axial force counts what the bar carries beyond the foam it displaces
    displaced = np.where(geometry.bar_z[i] < geometry.split, f.E_tension[:, None], f.E_compression[:, None])
    force = acting.response.bar_force[:, i] * (d.E[:, None] / (d.E[:, None] - displaced)) * on
    bending = np.abs(acting.response.curvature) * d.E[:, None] * height / 2 * on
    if np.any(acting.edge):
        force = force + d.E[:, None] * area * acting.edge * (geometry.bar_x[i] - sums.edge_x) * on
        bending = bending + np.abs(acting.edge) * d.E[:, None] * width / 2 * on
    stress = force / area
    return [
        Mode("bar_tension", bar.line, bar.side, np.maximum(stress + bending, 0) / d.tensile[:, None], True),
        Mode("bar_compression", bar.line, bar.side, np.maximum(bending - stress, 0) / d.compressive[:, None], True),
        Mode("bar_buckling", bar.line, bar.side, np.maximum(-force, 0) / buckling, True),
    ]
