"""What bears compression, whatever the load: skins that wrinkle, walls that buckle, bars in foam."""

from __future__ import annotations

import numpy as np
from scipy.special import k0

from fletcher.core.common.arrays import Array
from fletcher.core.materials.materials import Sheet
from fletcher.core.materials.plates import Plate
from fletcher.core.materials.uncertainty import BUCKLING_FACTOR, SLOT_WAVE, SkinDraw, draw_factor
from fletcher.core.section.cap_buckling import cap_load, foam_under_cap, width_on_web
from fletcher.core.section.elements import NOSE, TAIL, Elements, Membrane, PlacedBar
from fletcher.core.section.outline import faces
from fletcher.core.section.properties import Draws, Geometry
from fletcher.core.section.wall_faces import face_of

COVER_MM = (0.0, 1.0, 3.0, 8.0, 20.0)
COVER_KNOCK_DOWN = (0.47, 0.50, 0.56, 0.75, 1.0)
"""[J] Share of the infinite-medium buckling load that a bar keeps under this cover of foam (MECHANICS section 2 up to
3 mm; beyond it the two outer points are judgement: a free face more than some diameters away no longer matters)."""


def bar_buckling_load(
    G: Array, poisson: float, EI_weak: Array, radius: float, cover: Array, wave: Array, tensile: Array, width: float,
    web: Array | float = 0.0,
) -> Array:  # fmt: skip
    r"""Compressive load (N) at which a straight bar in foam buckles and tears out; shapes broadcast.

    .. math:: P_{cr} = 2\sqrt{k\,EI},\quad k = \frac{16\pi G(1-\nu)}{2(3-4\nu)K_0(qr)+1},\quad q = (k/EI)^{1/4}

    (bar in an infinite elastic medium). Thin cover takes support away: P_cr times its knock-down f, which is the same
    as k f² in place of k. With that k, initial waviness w₀ grows to w₀ P/(P_cr − P) and the foam tears when
    k w = d σ_t, at P = P_cr / (1 + k w₀ / (d σ_t)). A `web` on the bar's line adds its stiffness (N/mm²) to the
    medium's in P_cr; the foam tears as before.
    """
    k = medium_stiffness(G, poisson, EI_weak, radius)
    k = k * np.interp(cover, COVER_MM, COVER_KNOCK_DOWN) ** 2
    return np.asarray(2 * np.sqrt((k + web) * EI_weak) / (1 + k * wave / (width * tensile)))


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
            found.append(vary * panel_buckling(elements, draws, geometry, i)[None] / membrane.thickness_mm)
            continue
        wall = wall_under(elements, i)
        if wall is not None:
            found.append(_on_a_wall(d, membrane, wall)[:, None])
            continue
        kind = (id(membrane.skin), membrane.plies)
        if kind not in alike:
            alike[kind] = _alone(elements, d, membrane, geometry, through, f.G)
        own = np.maximum(alike[kind], _backed(elements, draws, geometry, i, medium))
        held = _on_a_web(elements, draws, geometry, i, through)
        found.append(own if held is None else np.maximum(own, held))
    return found


def wall_under(elements: Elements, i: int) -> Plate | None:
    """The wall that skin i of a hollow part lies on; None where there is none."""
    own = elements.membranes[i]
    if not elements.hollow or own.plate is not None:
        return None
    if own.folded_over is not None:
        return own.folded_over
    for m in elements.membranes:
        if m.plate is not None and m.face == own.face and m.start <= own.start + 1e-6 and m.end >= own.end - 1e-6:
            return m.plate
    walls = [m.plate for m in elements.membranes if m.plate is not None and m.face == own.face]
    return walls[0] if walls else None


def _on_a_wall(d: SkinDraw, membrane: Membrane, wall: Plate) -> Array:
    """Stress (S,) at which a skin on a wall wrinkles: with the wall's outer paper as one face, on its core. Paper
    creases at its own strength, which the wall's modes tell."""
    own = d.Et * membrane.plies
    layers: list[tuple[Array, float]] = [(own, membrane.thickness_mm)]
    if wall.outer_Et:
        layers.insert(0, (np.full_like(own, wall.outer_Et), wall.outer_mm))
    strain = face_of(layers).wrinkles_at(d.wrinkling_k, np.asarray(wall.bed_E), np.asarray(wall.bed_G))
    return np.asarray(strain * d.Et / membrane.skin.thickness_mm.typ)


def _with_films(elements: Elements, draws: Draws, i: int) -> tuple[Plate, float]:
    """Wall i with the skins that lie on it as plies, and its share of the stiffness along the part."""
    wall = elements.membranes[i]
    assert wall.plate is not None
    plate, EA, films = wall.plate, wall.plate.skin.E_along_MPa.typ * wall.thickness_mm, 0.0
    for n, m in enumerate(elements.membranes):
        covers = m.start <= wall.start + 1e-6 and m.end >= wall.end - 1e-6
        if m.plate is None and not m.slack and not m.strip and m.face == wall.face and covers:
            Et, Gt = (float(v[0]) * m.plies for v in (draws.skins[n].Et, draws.skins[n].Gt))
            plate, films = plate.with_film(Et, Gt, m.thickness_mm), films + Et
    return plate, EA / (EA + films)


def web_beside(
    elements: Elements, geometry: Geometry, face: str, front: Array, rear: Array
) -> tuple[int, Array] | None:
    """The upright web that stands under something on a face between two places (n,), and where it does, (n,)."""
    if face not in ("upper", "lower"):
        return None
    for n, m in enumerate(elements.membranes):
        if m.face != "web" or m.plate is None:
            continue
        at = geometry.skin_front[n]
        under = (at >= front - 0.5) & (at <= rear + 0.5) & (geometry.skin_on[n] > 0)
        if np.any(under):
            return n, under
    return None


def web_stiffness(elements: Elements, geometry: Geometry, web: int) -> Array:
    """Stiffness (n,) N/mm² of an upright web under a cap, E_z t/H of half of its height: the other cap may be pressed
    as well when the load turns round (a safe bound)."""
    m = elements.membranes[web]
    assert m.plate is not None
    upright = m.plate.across_EA / m.plate.thickness
    height = np.maximum(geometry.skin_high[web] - geometry.skin_low[web], 1.0)
    return np.asarray(upright * m.thickness_mm / (0.5 * height))


def _on_a_web(elements: Elements, draws: Draws, geometry: Geometry, i: int, through: Array) -> Array | None:
    """Stress (S, n) at which a strip over an upright web buckles off it: a cap on foam and web (`cap_buckling`), of the
    width that a thin web holds, with the imperfection of a slot; None where no web stands under it."""
    m, d = elements.membranes[i], draws.skins[i]
    if not m.strip or elements.hollow:
        return None
    beside = web_beside(elements, geometry, m.face, geometry.skin_front[i], geometry.skin_rear[i])
    if beside is None:
        return None
    web, under = beside
    t, E = m.thickness_mm, float(d.Et[0]) * m.plies / m.thickness_mm
    wide = float(np.mean(geometry.skin_rear[i] - geometry.skin_front[i]))
    E_z, G = float(through[0]), float(draws.foam.G[0])
    k_web = float(np.median(web_stiffness(elements, geometry, web)[under]))
    foam = float(foam_under_cap(np.array(0.1), wide, np.array(E_z), np.array(G))) / wide
    held = min(wide, width_on_web(elements.membranes[web].thickness_mm, E * t**3 / 12, foam))
    load, _ = cap_load(np.array(E * held * t**3 / 12), held, np.array(E_z), np.array(G), k_web)
    stress = float(load) / (held * t) * IMPERFECT_CAP
    vary = draw_factor(BUCKLING_FACTOR) * np.sqrt(d.Et / d.Et[0])
    return np.asarray((vary * stress)[:, None] * under)


IMPERFECT_CAP = 0.5
"""[J] Share of its theoretical load that a cap glued to a web by hand reaches."""


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


def panel_buckling(elements: Elements, draws: Draws, geometry: Geometry, i: int) -> Array:
    """Compression per width (N/mm, (n,)) at which wall i of a hollow part buckles between what supports it.

    Webs, sides, nose and tail support a wall as hinges, and so do ribs at its ends. Beside an opening its edge is free:
    it counts as half of a panel twice as wide.
    """
    bay = None if elements.ribs is None else elements.ribs.spacing_mm
    wall = elements.membranes[i]
    plate, share = _with_films(elements, draws, i)
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
    return np.array([plate.buckling_load(max(float(w), 1.0), bay) * stiff * wall.plies * share for w in widths])


def flute_load(sheet: Sheet, EI: Array) -> Array:
    """Compression (S,) N at which a bar of bending stiffness EI (S,) N·mm² buckles out of a flute of twin-wall sheet.

    The wall of the flute is a strip of span p and thickness t held at its edges: under a line of load it gives
    k = 192 D/p³ per length, D = E t³/12(1 − ν²). On such a bed the bar holds 2√(k EI) (Hetényi 1946); half of that
    counts, for flutes have play. Flutes are about as wide as the sheet is thick, and of its pull stiffness nearly all
    but the webs' third is in the two walls.
    """
    t = sheet.wall_thickness_mm or 0.0
    E = (2 / 3) * sheet.E_along_MPa.typ * sheet.thickness_mm.typ / (2 * t)
    bed = 192 * E * t**3 / (12 * (1 - sheet.poisson**2)) / sheet.thickness_mm.typ**3
    return np.asarray(np.sqrt(bed * EI))


def buckling_loads(elements: Elements, draws: Draws, geometry: Geometry) -> list[Array]:
    """Buckling load (S, n) of every bar, with the spread of model and waviness."""
    found = []
    for i, bar in enumerate(elements.bars):
        width, height = bar.stock.size(bar.on_edge)
        if elements.hollow:
            # between ribs it is a hinged strut (Euler); a wall beside it would help
            strut = np.pi**2 * bar.stock.weak_second_moment_mm4 / elements.part.rib_spacing_mm**2
            size = geometry.bar_scale[i] ** bar.powers[1]
            if bar.flute is not None:
                held = flute_load(bar.flute, draws.bars[i].E * bar.stock.weak_second_moment_mm4)[:, None]
                found.append(held * np.sqrt(size) * draw_factor(BUCKLING_FACTOR)[:, None])
                continue
            found.append(draws.bars[i].E[:, None] * strut * size * draw_factor(BUCKLING_FACTOR)[:, None])
            continue
        web = web_beside(elements, geometry, bar.side, geometry.bar_x[i] - width, geometry.bar_x[i] + width)
        load = bar_buckling_load(
            G=draws.foam.G[:, None],
            poisson=elements.foam.poisson,
            EI_weak=(draws.bars[i].E * bar.stock.weak_second_moment_mm4)[:, None],
            radius=(width + height) / 4,
            cover=cover_of(elements, bar, geometry, i)[None, :],
            wave=draw_factor(SLOT_WAVE)[:, None],
            tensile=draws.foam.tensile[:, None],
            width=max(width, height) if bar.stock.shape == "flat" else width,
            web=0.0 if web is None else (web_stiffness(elements, geometry, web[0]) * web[1])[None, :],
        )
        found.append(load * draw_factor(BUCKLING_FACTOR)[:, None])
    return found
