"""What bears compression, whatever the load: skins that wrinkle, walls that buckle, bars in foam."""

from __future__ import annotations

import numpy as np
from scipy.special import k0

from fletcher.core.elements import NOSE, TAIL, Elements, Membrane, PlacedBar
from fletcher.core.evidence import BUCKLING_FACTOR, SLOT_WAVE, SkinDraw, draw_factor
from fletcher.core.outline import Array, faces
from fletcher.core.sections import Draws, Geometry

COVER_MM = (0.0, 1.0, 3.0, 8.0, 20.0)
COVER_KNOCK_DOWN = (0.47, 0.50, 0.56, 0.75, 1.0)
"""[J] Share of the infinite-medium buckling load that a bar keeps under this cover of foam (MECHANICS section 2 up to
3 mm; beyond it the two outer points are judgement: a free face more than some diameters away no longer matters)."""


def bar_buckling_load(
    G: Array, poisson: float, EI_weak: Array, radius: float, cover: Array, wave: Array, tensile: Array, width: float
) -> Array:
    r"""Compressive load (N) at which a straight bar in foam buckles and tears out; shapes broadcast.

    .. math:: P_{cr} = 2\sqrt{k\,EI},\quad k = \frac{16\pi G(1-\nu)}{2(3-4\nu)K_0(qr)+1},\quad q = (k/EI)^{1/4}

    (bar in an infinite elastic medium). Thin cover takes support away: P_cr times its knock-down f, which is the same
    as k f² in place of k. With that k, initial waviness w₀ grows to w₀ P/(P_cr − P) and the foam tears when
    k w = d σ_t, at P = P_cr / (1 + k w₀ / (d σ_t)).
    """
    k = medium_stiffness(G, poisson, EI_weak, radius)
    k = k * np.interp(cover, COVER_MM, COVER_KNOCK_DOWN) ** 2
    return np.asarray(2 * np.sqrt(k * EI_weak) / (1 + k * wave / (width * tensile)))


def medium_stiffness(G: Array, poisson: float, EI: Array, radius: float) -> Array:
    """Sideways stiffness (N/mm²) per length of an elastic medium against a bar in it, k = 16πG(1 − ν)/[2(3 − 4ν) K₀(qr)
    + 1], q = (k/EI)^¼, by iteration; shapes broadcast."""
    k = np.broadcast_to(np.asarray(G, float), np.broadcast_shapes(np.shape(G), np.shape(EI))).copy()
    for _ in range(8):
        q = np.sqrt(np.sqrt(k / EI))
        k = 16 * np.pi * G * (1 - poisson) / (2 * (3 - 4 * poisson) * k0(q * radius) + 1)
    return k


def wrinkling_stress(k: Array, E_skin: Array, E_foam: Array, G_foam: Array) -> Array:
    """Compressive stress at which a skin wrinkles on its foam, σ = k (E_f E_c G_c)^⅓ (Hoff & Mautner 1945)."""
    return np.asarray(k * np.cbrt(E_skin * E_foam * G_foam))


def thin_core(E_skin: float, E_foam: float, G_foam: float) -> float:
    """Core over skin thickness below which both skins wrinkle together: 1.82 (E_f E_c/G_c²)^⅓ (Hoff & Mautner 1945)."""
    return float(1.82 * np.cbrt(E_skin * E_foam / G_foam**2))


def thin_core_stress(k: Array, E_skin: Array, E_foam: Array, G_foam: Array, deep: Array) -> Array:
    """Stress (S, n) at which skins on a thin core wrinkle as mirror images, 0.817 √(E_f E_c/r) + 0.166 G_c r with
    r = t_c/t_f = `deep` (n,), scaled as the judged factor k stands to the theory's 0.91 (Hoff & Mautner 1945)."""
    part = 0.817 * np.sqrt(E_skin * E_foam)[:, None] / np.sqrt(deep) + 0.166 * G_foam[:, None] * deep
    return np.asarray((k / 0.91)[:, None] * part)


def cover_of(elements: Elements, bar: PlacedBar, geometry: Geometry, i: int) -> Array:
    """Foam between a bar and the nearest face, mm (n,)."""
    lower, upper = faces(elements.outline, geometry.bar_x[i] / geometry.chord, geometry.chord, geometry.thickness)
    half = bar.stock.size(bar.on_edge)[1] / 2 * geometry.bar_scale[i]
    gap = np.minimum(upper - geometry.bar_z[i], geometry.bar_z[i] - lower) - half
    return np.asarray(np.maximum(gap, 0.0))


def skin_limits(elements: Elements, draws: Draws, geometry: Geometry) -> list[Array]:
    """Stress at which each skin wrinkles or buckles, (S, n) or (S, 1)."""
    f = draws.foam
    through = f.E_compression / elements.foam.through_thickness_ratio
    medium = np.cbrt(through * f.G)
    found = []
    alike: dict[tuple[int, float], Array] = {}
    for i, membrane in enumerate(elements.membranes):
        d = draws.skins[i]
        if elements.hollow and membrane.plate is not None:
            vary = (d.Et / d.Et[0])[:, None]
            found.append(vary * panel_buckling(elements, geometry, i)[None] / membrane.thickness_mm)
            continue
        kind = (id(membrane.skin), membrane.plies)
        if kind not in alike:
            alike[kind] = _alone(elements, d, membrane, geometry, through, f.G)
        found.append(np.maximum(alike[kind], _backed(elements, draws, geometry, i, medium)))
    return found


def _alone(
    elements: Elements, d: SkinDraw, membrane: Membrane, geometry: Geometry, through: Array, G: Array
) -> Array:  # fmt: skip
    """Stress at which a skin wrinkles by itself, (S, n) or (S, 1)."""
    E = d.Et / membrane.skin.thickness_mm.typ
    alone = wrinkling_stress(d.wrinkling_k, E, through, G)[:, None]
    deep = geometry.foam_x[0] / geometry.chord / max(membrane.thickness_mm, 1e-6)
    if not elements.hollow and np.any(deep < thin_core(E[0], through[0], G[0])):
        alone = np.minimum(alone, thin_core_stress(d.wrinkling_k, E, through, G, deep))
    return np.asarray(alone)


def _backed(elements: Elements, draws: Draws, geometry: Geometry, i: int, medium: Array) -> Array:
    """Stress at which skin i wrinkles together with the skins that cover it wholly, (S, n) or zero where none does.

    Layers glued to one another are one face of thickness t, pull stiffness EA and bending stiffness D about its own
    neutral line; it wrinkles at N = k (12D/t³ · E_c G_c)^⅓ t (Hoff & Mautner 1945), skin i at its strain N/EA.
    `medium` (S,) is (E_c G_c)^⅓.
    """
    own, y = elements.membranes[i], geometry.y
    if own.upright or own.face == "level":
        return np.zeros((1, 1))
    front, rear = geometry.skin_front[i], geometry.skin_rear[i]
    covers = []
    for n, m in enumerate(elements.membranes):
        beside = m.end <= own.start or m.start >= own.end  # another stretch of the part
        if n != i and m.face == own.face and not m.slack and not beside:
            over = (geometry.skin_front[n] <= front + 0.1) & (geometry.skin_rear[n] >= rear - 0.1)
            on = (geometry.skin_on[n] > 0) & over
            if np.any(on):
                covers.append((n, on))
    if not covers:
        return np.zeros((1, 1))
    layers = sorted([(i, np.ones(len(y), bool)), *covers], key=lambda c: elements.membranes[c[0]].beneath_mm)
    thick = np.zeros((1, len(y)))
    EA = first = second = np.zeros((len(medium), len(y)))
    k = np.full((len(medium), 1), np.inf)
    for n, on in layers:
        t = elements.membranes[n].thickness_mm
        stiff = (draws.skins[n].Et * elements.membranes[n].plies)[:, None] * on
        middle = thick + t / 2
        EA, first, second = EA + stiff, first + stiff * middle, second + stiff * (middle**2 + t**2 / 12)
        thick = thick + t * on
        k = np.minimum(k, draws.skins[n].wrinkling_k[:, None])
    bends = np.maximum(second - first**2 / EA, 1e-12)
    load = k * np.cbrt(12 * bends / thick**3) * medium[:, None] * thick
    E = draws.skins[i].Et[:, None] / own.skin.thickness_mm.typ
    together = np.any([on for _, on in covers], axis=0)
    return np.asarray(load / EA * E * together)


def panel_buckling(elements: Elements, geometry: Geometry, i: int) -> Array:
    """Compression per width (N/mm, (n,)) at which wall i of a hollow part buckles between what supports it.

    Webs, sides, nose and tail support a wall as hinges. Beside an opening its edge is free: it counts as half of a
    panel twice as wide.
    """
    wall = elements.membranes[i]
    assert wall.plate is not None
    plate = wall.plate
    if wall.upright:
        widths = geometry.skin[i, 0] / (1 + sum(m.face == "level" for m in elements.membranes))
    else:
        front, rear = geometry.skin_front[i], geometry.skin_rear[i]
        free = (wall.front is not NOSE) + (wall.rear is not TAIL) if wall.face != "level" else 0
        stops = [front, rear]
        for n, m in enumerate(elements.membranes):
            if m.face == "web":
                stops.append(np.where(geometry.skin_on[n] > 0, np.clip(geometry.skin_front[n], front, rear), front))
        ordered = np.sort(np.array(stops), axis=0)
        widths = np.diff(ordered, axis=0).max(0) * (2 if free else 1)
    stiff = wall.plies**2  # plies glued together: D grows with the cube, load per ply with the square
    return np.array([plate.buckling_load(max(float(w), 1.0)) * stiff * wall.plies for w in widths])


def buckling_loads(elements: Elements, draws: Draws, geometry: Geometry) -> list[Array]:
    """Buckling load (S, n) of every bar, with the spread of model and waviness."""
    found = []
    for i, bar in enumerate(elements.bars):
        width, height = bar.stock.size(bar.on_edge)
        if elements.hollow:
            # between ribs it is a hinged strut (Euler); a wall beside it would help
            strut = np.pi**2 * bar.stock.weak_second_moment_mm4 / elements.part.rib_spacing_mm**2
            size = geometry.bar_scale[i] ** bar.powers[1]
            found.append(draws.bars[i].E[:, None] * strut * size * draw_factor(BUCKLING_FACTOR)[:, None])
            continue
        load = bar_buckling_load(
            G=draws.foam.G[:, None],
            poisson=elements.foam.poisson,
            EI_weak=(draws.bars[i].E * bar.stock.weak_second_moment_mm4)[:, None],
            radius=(width + height) / 4,
            cover=cover_of(elements, bar, geometry, i)[None, :],
            wave=draw_factor(SLOT_WAVE)[:, None],
            tensile=draws.foam.tensile[:, None],
            width=max(width, height) if bar.stock.shape == "flat" else width,
        )
        found.append(load * draw_factor(BUCKLING_FACTOR)[:, None])
    return found
