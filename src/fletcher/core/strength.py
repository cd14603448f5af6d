"""What gives first: the share of its strength that each element uses, mode by mode.

Stresses follow the linear response of the beam; each mode has its own limit. "Breaks" part something; "gives" are
yield events (crushing foam, wrinkling skin, drawing film) after which the part still hangs together.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import k0

from fletcher.core.beam import Mesh, Response
from fletcher.core.elements import NOSE, TAIL, Elements, PlacedBar
from fletcher.core.evidence import BUCKLING_FACTOR, PEEL, SLOT_WAVE, SPLICE_SHEAR, draw_factor
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
    lay-up line it belongs to, None for the foam; `breaks` parts breaks from events after which it holds together;
    `item` the membrane or bar."""

    kind: str
    line: int | None
    where: str
    use: Array
    breaks: bool
    item: int | None = None


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
    for _ in range(12):
        q = (k / EI) ** 0.25
        k = 16 * np.pi * G * (1 - poisson) / (2 * (3 - 4 * poisson) * k0(q * radius) + 1)
    return k


def wrinkling_stress(k: Array, E_skin: Array, E_foam: Array, G_foam: Array) -> Array:
    """Compressive stress at which a skin wrinkles on its foam, σ = k (E_f E_c G_c)^⅓ (Hoff & Mautner 1945)."""
    return np.asarray(k * np.cbrt(E_skin * E_foam * G_foam))


def cover_of(elements: Elements, bar: PlacedBar, geometry: Geometry, i: int) -> Array:
    """Foam between a bar and the nearest face, mm (n,)."""
    lower, upper = faces(elements.outline, geometry.bar_x[i] / geometry.chord, geometry.chord, geometry.thickness)
    half = bar.stock.size(bar.on_edge)[1] / 2 * geometry.bar_scale[i]
    gap = np.minimum(upper - geometry.bar_z[i], geometry.bar_z[i] - lower) - half
    return np.asarray(np.maximum(gap, 0.0))


@dataclass(frozen=True)
class Acting:
    """What acts on the sections of a part under its load. `response` is the bending answer; `edge` (S, n) the edgewise
    curvature, positive where the rear edge is pulled, about `edge_x`; `shear` and `torque` (S, n) the size of shear
    force (N) and twisting moment (N·mm); `axial` the strain of a push or pull along the part."""

    response: Response
    edge: Array
    edge_x: Array
    shear: Array
    torque: Array
    axial: Array

    @property
    def bends(self) -> bool:
        """Whether anything strains the part lengthwise."""
        return bool(np.any(self.response.curvature) or np.any(self.edge) or np.any(self.axial))


@dataclass(frozen=True)
class Strains:
    """Largest strains of things that reach over a range of a section, under bending and edgewise bending together."""

    acting: Acting
    sums: Sums

    def between(self, low: Array, high: Array, front: Array, rear: Array) -> tuple[Array, Array]:
        """Largest pull and largest push (both ≥ 0) over heights low to high and places front to rear, (n,) each."""
        r = self.acting.response
        along = r.axial + self.acting.axial
        flap = [along - r.curvature * (z[None, :] - self.sums.host_z) for z in (low, high)]
        pull, push = np.maximum(*flap), np.maximum(-flap[0], -flap[1])
        if np.any(self.acting.edge):
            edge = [self.acting.edge * (x[None, :] - self.acting.edge_x) for x in (front, rear)]
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
    found = []
    if not elements.hollow:
        # the largest of bending and of twist, as if both stood at the same place
        stress = shear * fields.core_shear + torque * fields.twist_shear
        found.append(Mode("core_shear", None, "core", stress / f.shear[:, None], True))
        flow = at_stations(mesh, np.abs(acting.response.force_rate))
        for i, bar in enumerate(elements.bars):
            # half of the perimeter carries: glue runs down one side, and the slot's mouth is open
            grip = 0.5 * bar.stock.perimeter_mm * geometry.bar_scale[i]
            use = flow[:, i] / grip / f.shear[:, None] * geometry.bar_on[i]
            found.append(Mode("bar_bond", bar.line, bar.side, use, True, i))
    if elements.hollow and twisted:
        for i, bar in enumerate(elements.bars):
            # its share of the torque by its share of GJ, at its rim: τ = G r θ′
            G, rim = draws.bars[i].G[:, None], 0.5 * max(bar.sizes(1.0)) * geometry.bar_scale[i]
            use = torque / fields.torsion * G * rim / draws.bars[i].shear[:, None] * geometry.bar_on[i]
            found.append(Mode("bar_twist", bar.line, bar.side, use, True, i))
    for i, membrane in enumerate(elements.membranes):
        d = draws.skins[i]
        if twisted or membrane.plate is not None:
            flow = torque * fields.skin_flow[i]
            if membrane.plate is not None:
                flow = flow + shear * fields.wall_flow[i]
            use = flow / membrane.thickness_mm / d.shear[:, None] * geometry.skin_on[i]
            kind = "skin_shear" if membrane.plate is None else "wall_shear"
            found.append(Mode(kind, membrane.line, membrane.face, use, True, i))
        if not membrane.strip or elements.hollow:
            continue
        holds = f.shear if d.adhesive_shear is None else np.minimum(d.adhesive_shear, f.shear)
        arm = np.abs(0.5 * (geometry.skin_low[i] + geometry.skin_high[i]) - sums.whole_z)
        sliding = shear * sums.skin_Et[:, [i]] * arm / sums.whole_EI * geometry.skin_on[i]
        found.append(Mode("strip_bond", membrane.line, membrane.face, sliding / holds[:, None], True, i))
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
    if not acting.bends:
        return sheared
    strains = Strains(acting, sums)
    found = (
        []
        if elements.hollow
        else _foam_modes(draws, geometry, strains) + _notch_modes(elements, draws, geometry, strains)
    )
    f = draws.foam
    E_through = f.E_compression / elements.foam.through_thickness_ratio
    for i, membrane in enumerate(elements.membranes):
        if membrane.slack:
            continue
        d, on = draws.skins[i], geometry.skin_on[i]
        E = d.Et / membrane.skin.thickness_mm.typ
        if membrane.upright:
            front = rear = elements.web_place(membrane, geometry.y)
        else:
            front, rear = elements.edges(membrane, geometry.y)
        pull, push = strains.between(geometry.skin_low[i], geometry.skin_high[i], front, rear)
        pulled, pressed = pull * on * E[:, None], push * on * E[:, None]
        if d.draws_out is None:
            found.append(Mode("skin_tension", membrane.line, membrane.face, pulled / d.tensile[:, None], True, i))
        else:
            found.append(Mode("skin_yield", membrane.line, membrane.face, pulled / d.draws_out[:, None], False, i))
        if elements.hollow and membrane.plate is not None:
            vary = (d.Et / d.Et[0])[:, None]
            limit = vary * panel_buckling(elements, geometry, i)[None] / membrane.thickness_mm
            kind, parts = "wall_buckling", False
        else:
            limit = wrinkling_stress(d.wrinkling_k, E, E_through, f.G)[:, None]
            limit = np.maximum(limit, _backed(elements, draws, geometry, i, np.cbrt(E_through * f.G)))
            kind, parts = "skin_wrinkling", False
        if d.compressive is not None:
            k = int(np.argmax(pressed[0]))
            if d.compressive[0] < np.broadcast_to(limit, pressed.shape)[0, k]:
                kind = "skin_compression"
            limit = np.minimum(limit, d.compressive[:, None])
        found.append(Mode(kind, membrane.line, membrane.face, pressed / limit, parts, i))
        if membrane.strip and membrane.plate is None:
            found += _end_modes(elements, geometry, i, (pulled - pressed) * membrane.thickness_mm, E)
    for i in range(len(elements.bars)):
        found += _bar_modes(elements, draws, geometry, sums, strains, i, buckling[i])
    return found + sheared


def _backed(elements: Elements, draws: Draws, geometry: Geometry, i: int, medium: Array) -> Array:
    """Stress at which skin i wrinkles together with the skins that cover it wholly, (S, n) or zero where none does.

    Layers glued to one another are one face of thickness t, pull stiffness EA and bending stiffness D about its own
    neutral line; it wrinkles at N = k (12D/t³ · E_c G_c)^⅓ t (Hoff & Mautner 1945), skin i at its strain N/EA.
    `medium` (S,) is (E_c G_c)^⅓.
    """
    own, y = elements.membranes[i], geometry.y
    if own.upright or own.face == "level":
        return np.zeros((1, 1))
    front, rear = elements.edges(own, y)
    covers = []
    for n, m in enumerate(elements.membranes):
        if n != i and m.face == own.face and not m.slack:
            a, b = elements.edges(m, y)
            on = (geometry.skin_on[n] > 0) & (a <= front + 0.1) & (b >= rear - 0.1)
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


def _end_modes(elements: Elements, geometry: Geometry, i: int, force: Array, E: Array) -> list[Mode]:
    """A strip that ends where it is strained peels when the energy that its end would set free, N²/2Et per width,
    reaches what peeling costs, Γ: N = √(2ΓEt) (Kendall 1975). Its start at the root runs on. `force` (S, n) N/mm."""
    m, y = elements.membranes[i], geometry.y
    ends = np.zeros_like(y)
    for place, inside in ((m.start, geometry.inside > m.start), (m.end, geometry.inside < m.end)):
        if 1e-6 < place < elements.part.span_mm - 1e-6:
            ends += (np.abs(y - place) < 1e-6) & inside
    if not np.any(ends):
        return []
    cost = m.skin.peel_N_per_25mm.typ / 25 * draw_factor(PEEL)
    holds = np.sqrt(2 * cost * E * m.thickness_mm)
    return [Mode("strip_end", m.line, m.face, np.abs(force) * ends / holds[:, None], True, i)]


def panel_buckling(elements: Elements, geometry: Geometry, i: int) -> Array:
    """Compression per width (N/mm, (n,)) at which wall i of a hollow part buckles between what supports it.

    Webs, sides, nose and tail support a wall as hinges. Beside an opening its edge is free: it counts as half of a
    panel twice as wide.
    """
    wall, y = elements.membranes[i], geometry.y
    assert wall.plate is not None
    plate = wall.plate
    if wall.upright:
        widths = geometry.skin[i, 0] / (1 + sum(m.face == "level" for m in elements.membranes))
    else:
        front, rear = elements.edges(wall, y)
        free = (wall.front is not NOSE) + (wall.rear is not TAIL) if wall.face != "level" else 0
        stops = [front, rear]
        for n, m in enumerate(elements.membranes):
            if m.face == "web":
                place = elements.web_place(m, y)
                stops.append(np.where(geometry.skin_on[n] > 0, np.clip(place, front, rear), front))
        ordered = np.sort(np.array(stops), axis=0)
        widths = np.diff(ordered, axis=0).max(0) * (2 if free else 1)
    stiff = wall.plies**2  # plies glued together: D grows with the cube, load per ply with the square
    return np.array([plate.buckling_load(max(float(w), 1.0)) * stiff * wall.plies for w in widths])


NOTCH_FOAMS = frozenset({"EPS", "XPS", "foam_board_core"})
"""Brittle polystyrene foams, in which the corner of a cut starts a crack; bead foams that yield do not."""


def notch_factor(half_width: float, radius: float) -> float:
    """Stress at the corner of a cut over that beside it, 1 + 2√(a/(r + 2 mm)) [J] (Inglis 1913, with the cells'
    own roundness added to the radius)."""
    return float(1 + 2 * np.sqrt(half_width / (radius + 2.0)))


def _notch_modes(elements: Elements, draws: Draws, geometry: Geometry, strains: Strains) -> list[Mode]:
    """Corners of cuts in brittle foam: the stress beside the cut, of the section that is still whole there."""
    if elements.foam.family not in NOTCH_FOAMS:
        return []
    found, f = [], draws.foam
    for hole in elements.holes:
        front, rear = elements.edges(hole, geometry.y)
        beside = (np.abs(geometry.y - hole.start) < 1e-6) & (geometry.inside < hole.start)
        beside |= (np.abs(geometry.y - hole.end) < 1e-6) & (geometry.inside > hole.end)
        if not np.any(beside):
            continue
        depth = np.minimum(hole.depth_mm, geometry.z_high - geometry.z_low)
        low = geometry.z_low if hole.face != "upper" else geometry.z_high - depth
        high = geometry.z_high if hole.face != "lower" else geometry.z_low + depth
        if hole.face == "inside":
            middle = 0.5 * (geometry.z_low + geometry.z_high)
            low, high = middle - depth / 2, middle + depth / 2
        pull, _ = strains.between(low, high, front, rear)
        factor = notch_factor(float(np.mean(rear - front)) / 2, hole.radius_mm)
        use = pull * beside * factor * (f.E_tension / f.tensile)[:, None]
        found.append(Mode("notch", hole.line, hole.face, use, True))
    return found


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


def _bar_modes(
    elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, strains: Strains, i: int, buckling: Array
) -> list[Mode]:
    bar, acting = elements.bars[i], strains.acting
    d, on = draws.bars[i], geometry.bar_on[i]
    full = np.where(sums.bar_full[:, i] > 0, sums.bar_full[:, i], 1.0)
    width, height = (size * geometry.bar_scale[i] for size in bar.sizes(1.0))
    if elements.hollow:
        strain = acting.response.axial - acting.response.curvature * (geometry.bar_z[i] - sums.host_z) + acting.axial
    else:
        # the axial force counts what the bar carries beyond the foam it displaces
        excess = np.where(sums.bar_EA[:, i] > 0, sums.bar_EA[:, i], 1.0)
        strain = acting.response.bar_force[:, i] / excess + acting.axial
    bending = np.abs(acting.response.curvature) * d.E[:, None] * height / 2 * on
    if np.any(acting.edge):
        strain = strain + acting.edge * (geometry.bar_x[i] - acting.edge_x)
        bending = bending + np.abs(acting.edge) * d.E[:, None] * width / 2 * on
    stress, force = strain * d.E[:, None] * on, strain * full * on
    found = [
        Mode("bar_tension", bar.line, bar.side, np.maximum(stress + bending, 0) / d.tensile[:, None], True, i),
        Mode("bar_compression", bar.line, bar.side, np.maximum(bending - stress, 0) / d.compressive[:, None], True, i),
        Mode(
            "bar_strut" if elements.hollow else "bar_buckling",
            bar.line,
            bar.side,
            np.maximum(-force, 0) / buckling,
            True,
            i,
        ),
    ]
    return found + _splice_modes(elements, draws, geometry, force, i)


def _splice_modes(elements: Elements, draws: Draws, geometry: Geometry, force: Array, i: int) -> list[Mode]:
    """Lapped joints of a bar: its force against what the glue between the two lengths holds, on a quarter of the
    perimeter (the side where they touch) over the overlap."""
    bar = elements.bars[i]
    if not bar.splices:
        return []
    use = np.zeros_like(force)
    for at, overlap in bar.splices:
        k = int(np.argmin(np.abs(geometry.y - at)))
        glued = draw_factor(SPLICE_SHEAR) * 0.25 * bar.stock.perimeter_mm * geometry.bar_scale[i, k] * overlap
        use[:, k] = np.maximum(use[:, k], np.abs(force[:, k]) / np.maximum(glued, 1e-9))
    return [Mode("bar_splice", bar.line, bar.side, use, True, i)]
