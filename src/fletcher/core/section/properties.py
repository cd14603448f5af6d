"""Section sums: modulus-weighted areas and moments of every station, for all samples at once.

Arrays carry axes (samples, stations) = (S, n); geometry alone has (n,), element geometry (items, n).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.materials.uncertainty import BarDraw, FoamDraw, SkinDraw, draw_bar, draw_foam, draw_skin
from fletcher.core.section.elements import Elements, Membrane, PlacedBar
from fletcher.core.section.grid import HoleSpot
from fletcher.core.section.outline import COLUMN_WEIGHT, COLUMN_X, faces
from fletcher.core.section.skin_midlines import arcs_of

_HOLE_NODES, _HOLE_WEIGHTS = np.polynomial.legendre.leggauss(8)


@dataclass(frozen=True)
class Draws:
    """Sampled values of all materials of one part, in the order of its elements."""

    foam: FoamDraw
    skins: tuple[SkinDraw, ...]
    bars: tuple[BarDraw, ...]
    sleeves: tuple[BarDraw | None, ...] = ()


def draws_of(elements: Elements) -> Draws:
    """Sampled material values of a part's foam, membranes and bars."""
    return Draws(
        draw_foam(elements.foam),
        skin_draws(elements.membranes),
        tuple(draw_bar(b.stock) for b in elements.bars),
        tuple(None if b.sleeve is None else draw_bar(b.sleeve) for b in elements.bars),
    )


def skin_draws(membranes: Sequence[Membrane]) -> tuple[SkinDraw, ...]:
    """Sampled values of the skins of membranes; pieces of one skin share them."""
    skins = {id(m.skin): m.skin for m in membranes}
    drawn = {key: draw_skin(skin) for key, skin in skins.items()}
    return tuple(drawn[id(m.skin)] for m in membranes)


@dataclass(frozen=True)
class Geometry:
    """Geometry of n stations. Foam moments are split at `split` (n,), the neutral axis: `foam_below` and
    `foam_above` are (3, n): ∫dA, ∫z dA, ∫z² dA. `skin` is (membranes, 3, n): ∫ds, ∫z ds, ∫z² ds along the mid-plane
    of each membrane with its own bending; `bar_x`, `bar_z` (bars, n), `bar_scale` their size over that at their start,
    `sleeve_on` where they are sleeved. `*_on` are 0 or 1. `z_low`, `z_high`, `skin_low`, `skin_high` bound z;
    `skin_front` and `skin_rear` (membranes, n) x, mm aft of the local leading edge.
    """

    y: Array
    inside: Array
    chord: Array
    thickness: Array
    split: Array
    foam_below: Array
    foam_above: Array
    foam_x: Array
    foam_xz: Array
    skin: Array
    skin_x: Array
    skin_xz: Array
    skin_low: Array
    skin_high: Array
    skin_front: Array
    skin_rear: Array
    skin_on: Array
    bar_x: Array
    bar_z: Array
    bar_on: Array
    bar_scale: Array
    sleeve_on: Array
    z_low: Array
    z_high: Array


@dataclass(frozen=True)
class Columns:
    """Foam as upright columns: places x, heights and weights (mm), each (n, columns). Holes are columns of negative
    weight, so that sums over columns are sums over what is left."""

    x: Array
    lower: Array
    upper: Array
    weight: Array

    def moments(self, lower: Array, upper: Array) -> Array:
        """∫dA, ∫z dA, ∫z² dA between two heights, (3, n)."""
        depth, total = (upper - lower) * self.weight, upper + lower
        return np.stack(
            [
                depth.sum(-1),
                (depth * total).sum(-1) / 2,
                (depth * (total * total - upper * lower)).sum(-1) / 3,
            ]
        )

    def split(self, z: Array) -> tuple[Array, Array]:
        """Moments below and above heights z (n,)."""
        cut = np.clip(z[:, None], self.lower, self.upper)
        return self.moments(self.lower, cut), self.moments(cut, self.upper)


def columns_of(elements: Elements, y: Array, inside: Array) -> Columns:
    """The foam of stations at y (n,) as columns."""
    chord, thickness = elements.chord(y)[:, None], elements.thickness(y)[:, None]
    lower, upper = faces(elements.outline, COLUMN_X[None, :], chord, thickness)
    parts = [(COLUMN_X * chord, lower, upper, COLUMN_WEIGHT * chord)]
    for hole in elements.holes:
        front, rear = (np.clip(e, 0.0, chord[:, 0]) for e in elements.edges(hole, y))
        half = 0.5 * (rear - front)[:, None]
        x = 0.5 * (front + rear)[:, None] + half * _HOLE_NODES
        spot = HoleSpot(hole.face, 0.0, 0.0, hole.depth_mm)
        low, high = spot.heights(*faces(elements.outline, x / chord, chord, thickness))
        there = ((inside > hole.start) & (inside < hole.end))[:, None]
        parts.append((x, low, high, -_HOLE_WEIGHTS * half * there))
    return Columns(*(np.concatenate(values, 1) for values in zip(*parts, strict=True)))


def geometry_of(
    elements: Elements, y: Array, inside: Array, split: Array | None = None, columns: Columns | None = None
) -> Geometry:
    """Geometry of stations at y (n,). `inside` (n,) is a place just within the segment a station belongs to, which
    decides what is present where elements start and end. `split` parts tension from compression in the foam."""
    columns = columns or columns_of(elements, y, inside)
    if split is None:
        whole = columns.moments(columns.lower, columns.upper)
        split = whole[1] / whole[0]
    below, above = columns.split(split)
    column = (columns.upper - columns.lower) * columns.weight
    foam_xz = ((columns.upper**2 - columns.lower**2) * columns.weight * columns.x).sum(1) / 2
    foam_x = np.stack([column.sum(1), (column * columns.x).sum(1), (column * columns.x**2).sum(1)])
    n, b = len(y), len(elements.bars)
    arcs = arcs_of(elements, y, inside)
    front, rear = _sides(elements, y)
    centres = [elements.bar_centre(bar, y) for bar in elements.bars]

    def presence(spans: list[tuple[float, float]]) -> Array:
        on = [(inside > start) & (inside < end) for start, end in spans]
        return np.array(on, dtype=np.float64).reshape(len(spans), n)

    return Geometry(
        y=y,
        inside=inside,
        chord=elements.chord(y),
        thickness=elements.thickness(y),
        split=split,
        foam_below=below,
        foam_above=above,
        foam_x=foam_x,
        foam_xz=foam_xz,
        skin=arcs.z,
        skin_x=arcs.x,
        skin_xz=arcs.xz,
        skin_low=arcs.low,
        skin_high=arcs.high,
        skin_front=front,
        skin_rear=rear,
        skin_on=presence([(i.start, i.end) for i in elements.membranes]),
        bar_x=np.array([c[0] for c in centres]).reshape(b, n),
        bar_z=np.array([c[1] for c in centres]).reshape(b, n),
        bar_on=presence([(i.start, i.end) for i in elements.bars]),
        bar_scale=np.array([i.scale(y) for i in elements.bars]).reshape(b, n),
        sleeve_on=presence([i.sleeve_span for i in elements.bars]),
        z_low=columns.lower[:, : len(COLUMN_X)].min(1) + _gone(elements, y, inside, "lower"),
        z_high=columns.upper[:, : len(COLUMN_X)].max(1) - _gone(elements, y, inside, "upper"),
    )


def _sides(elements: Elements, y: Array) -> tuple[Array, Array]:
    """Front and rear of every membrane, (membranes, n) mm aft of the local leading edge; both where an upright one
    stands."""
    fraction, chord = elements.fraction(y), elements.chord(y)
    ends = [(e.root, e.tip, e.root_mm, e.tip_mm) for m in elements.membranes for e in (m.front, m.rear)]
    root, tip, root_mm, tip_mm = np.array(ends).reshape(-1, 2, 4, 1).transpose(2, 1, 0, 3)
    front, rear = (root + (tip - root) * fraction) * chord + root_mm + (tip_mm - root_mm) * fraction
    for i, m in enumerate(elements.membranes):
        if m.upright:
            front[i] = rear[i] = elements.web_place(m, y)
    return front, rear


def _gone(elements: Elements, y: Array, inside: Array, face: str) -> Array:
    """By how much a cut over the whole chord takes a face back, (n,) mm: beside narrower cuts it stands."""
    gone, chord = np.zeros_like(y), elements.chord(y)
    for hole in elements.holes:
        front, rear = elements.edges(hole, y)
        over = (front <= 0.01 * chord) & (rear >= 0.99 * chord) & (inside > hole.start) & (inside < hole.end)
        if hole.face == face:
            gone = np.maximum(gone, over * hole.depth_mm)
    return gone


@dataclass(frozen=True)
class Sums:
    """Stiffness sums (S, n) unless said otherwise. The *host* is foam with skins; bars are tied to it by the foam in
    shear. `whole` means all together without slip. `bar_EA` (S, bars, n) is the excess over the foam displaced,
    zero where a bar is absent; `arm` (S, bars, n) = −(z_bar − z_host). In a part
    whose bars do not slip (`Elements.slips`) they belong to the host and `bar_EA` is zero."""

    host_EA: Array
    host_z: Array
    host_EI: Array
    bar_EA: Array
    arm: Array
    whole_EA: Array
    whole_z: Array
    whole_EI: Array
    edge_EI: Array
    cross_EI: Array
    """∫E (x − x̄)(z − z̄) dA: bending up and down bends it sideways as well."""
    sways: Array
    """EI free to sway over EI held straight, 1 − EI_xz²/(EI_x EI_z): 1 where the stiff parts lie square."""
    edge_x: Array
    """Modulus-weighted centroid aft of the local leading edge, mm."""
    skin_Et: Array
    """(S, membranes) stiffness per width of all plies, N/mm."""
    bar_full: Array
    """(S, bars, n) EA of bars with their sleeves, N."""
    edge_follows: Array
    """(bars, n) share of the strain of their place that bars take in edgewise bending: what ties them gives way."""


def sums_of(elements: Elements, draws: Draws, geometry: Geometry) -> Sums:
    """Modulus-weighted sums of every station and sample.

    EA = ∫E dA, z̄ = ∫E z dA / EA, EI = ∫E (z − z̄)² dA (transformed-section method, Timoshenko & Gere). Foam below
    the split takes its tension modulus, foam above its compression modulus.
    """
    g = geometry
    e_t, e_c = draws.foam.E_tension[:, None], draws.foam.E_compression[:, None]
    moments = [e_t * g.foam_below[p] + e_c * g.foam_above[p] for p in range(3)]
    samples = len(draws.foam.G)
    skin_Et = np.array([_carries(elements, draws, i) for i in range(len(elements.membranes))]).reshape(-1, samples).T
    for p in range(3):
        moments[p] = moments[p] + skin_Et @ (g.skin[:, p] * g.skin_on)
    host_EA = moments[0]
    host_z = moments[1] / host_EA

    full_EA, own = bar_stiffness(elements, draws, g)
    area = np.array([outer_area(b) for b in elements.bars]).reshape(-1, 1) * bar_area_scale(elements, g)
    displaced = np.where(g.bar_z < g.split, e_t[..., None], e_c[..., None])
    slides = np.array([b.joiner for b in elements.bars], bool).reshape(-1, 1)
    bar_EA = np.where(slides, 0.0, np.maximum(full_EA - displaced * area * g.bar_on, 0.0))
    own_EI = own.sum(1)
    if not elements.slips:
        for p in range(3):
            moments[p] = moments[p] + (bar_EA * g.bar_z**p).sum(1)
        host_EA = moments[0]
        host_z = moments[1] / host_EA
    host_EI = moments[2] - host_EA * host_z**2 + own_EI
    glued, bar_EA = bar_EA, bar_EA if elements.slips else np.zeros_like(bar_EA)
    whole_EA = host_EA + bar_EA.sum(1)
    whole_z = (moments[1] + (bar_EA * g.bar_z).sum(1)) / whole_EA
    whole_EI = moments[2] + (bar_EA * g.bar_z**2).sum(1) + own_EI - whole_EA * whole_z**2

    mean_E = 0.5 * (e_t + e_c)
    follows = _edge_follows(elements, draws, g, full_EA[0])
    tied = glued * follows
    x_moments = [
        mean_E * g.foam_x[p] + skin_Et @ (g.skin_x[:, p] * g.skin_on) + (tied * g.bar_x**p).sum(1) for p in range(3)
    ]
    # the product of stiffness is taken with one modulus of the foam throughout: with two, a symmetric part would lean
    mixed = mean_E * g.foam_xz + skin_Et @ (g.skin_xz * g.skin_on) + (tied * g.bar_x * g.bar_z).sum(1)
    upright = mean_E * (g.foam_below[1] + g.foam_above[1]) + skin_Et @ (g.skin[:, 1] * g.skin_on)
    upright = upright + (tied * g.bar_z).sum(1)
    edge_EI = x_moments[2] - x_moments[1] ** 2 / x_moments[0] + _edge_own(elements, draws, g)
    cross = mixed - x_moments[1] * upright / x_moments[0]
    return Sums(
        host_EA=host_EA,
        host_z=host_z,
        host_EI=host_EI,
        bar_EA=bar_EA,
        arm=host_z[:, None, :] - g.bar_z[None],
        whole_EA=whole_EA,
        whole_z=whole_z,
        whole_EI=whole_EI,
        edge_EI=edge_EI,
        cross_EI=cross,
        sways=np.clip(1 - cross**2 / np.maximum(whole_EI * edge_EI, 1e-30), 0.02, 1.0),
        edge_x=x_moments[1] / x_moments[0],
        skin_Et=skin_Et,
        bar_full=full_EA,
        edge_follows=follows,
    )


def _edge_follows(elements: Elements, draws: Draws, geometry: Geometry, EA: Array) -> Array:
    """Share of the strain of its place that each bar takes when the part is swung, (bars, n), typical: 1/(1 + (π/2L)²
    EA/k_s) for a half wave of twice the span, k_s = 2πG/ln(R/r) in foam (Cox 1952), the walls' G t over a quarter of
    the chord in a hollow part."""
    out = np.ones((len(elements.bars), len(geometry.y)))
    if not elements.slips:
        return out
    wave = (np.pi / (2 * elements.part.span_mm)) ** 2
    walls = [
        draws.skins[i].Gt[0] * m.plies * geometry.skin_on[i]
        for i, m in enumerate(elements.membranes) if m.face in ("upper", "lower")
    ]  # fmt: skip
    for i, bar in enumerate(elements.bars):
        if elements.hollow:
            stiff = np.max(walls, axis=0, initial=0.0) * 4 / geometry.chord
        else:
            radius = max(sum(bar.sizes(1.0)) / 4, 1e-3)
            stiff = 2 * np.pi * draws.foam.G[0] / np.log(np.maximum(geometry.thickness / radius, 1.5))
        out[i] = 1 / (1 + wave * EA[i] / np.maximum(stiff, 1e-9))
    return out


def skins_at(elements: Elements, geometry: Geometry, k: int) -> list[int]:
    """Membranes that carry something at station k: paint does not."""
    return [i for i, m in enumerate(elements.membranes) if geometry.skin_on[i, k] and m.skin.pull != "none"]


def principal_angle(sums: Sums) -> Array:
    """Angle (S, n), rad, by which the axis about which the section bends most easily leans, nose up positive:
    tan 2α = −2 EI_xz/(EI_e − EI) (Mohr's circle)."""
    return np.asarray(-0.5 * np.arctan2(2 * sums.cross_EI, sums.edge_EI - sums.whole_EI))


def outer_area(bar: PlacedBar) -> float:
    """Foam that a bar displaces, mm², at its start; a tube displaces its bore too."""
    width, height = bar.stock.size(bar.on_edge)
    return width * height if bar.stock.shape == "flat" else float(np.pi / 4 * width * height)


def bar_area_scale(elements: Elements, geometry: Geometry) -> Array:
    """Area of tapered bars over that at their start, (bars, n)."""
    powers = np.array([b.powers[0] for b in elements.bars]).reshape(-1, 1)
    return np.asarray(geometry.bar_scale**powers)


def bar_twist_scale(elements: Elements, geometry: Geometry, i: int, k: int) -> float:
    """Torsion constant of a tapered bar at station k over that at its start: the fourth power of its size, of a flat
    one
    that of its sides."""
    bar, scale = elements.bars[i], float(geometry.bar_scale[i, k])
    if bar.stock.shape != "flat" or bar.stock.wide_mm is None or bar.stock.thin_mm is None:
        return scale**4

    def constant(wide: float) -> float:
        long, short = max(wide, bar.stock.thin_mm or 1.0), min(wide, bar.stock.thin_mm or 1.0)
        return long * short**3 * (1 - 0.63 * short / long)

    return constant(bar.stock.wide_mm * scale) / constant(bar.stock.wide_mm)


def bar_stiffness(elements: Elements, draws: Draws, geometry: Geometry) -> tuple[Array, Array]:
    """EA and own EI (up and down) of every bar with its sleeve, (S, bars, n) N and N·mm²; zero where it is absent."""
    g, samples = geometry, len(draws.foam.G)
    EA = np.zeros((samples, len(elements.bars), len(g.y)))
    EI = np.zeros_like(EA)
    for i, bar in enumerate(elements.bars):
        E, (n, m) = draws.bars[i].E[:, None], bar.powers
        EA[:, i] = E * bar.stock.area_mm2 * g.bar_scale[i] ** n * g.bar_on[i]
        EI[:, i] = E * bar.stock.second_moment_mm4(bar.on_edge) * g.bar_scale[i] ** m * g.bar_on[i]
        sleeve = draws.sleeves[i] if draws.sleeves else None
        if sleeve is not None and bar.sleeve is not None:
            on = g.sleeve_on[i] * g.bar_on[i]
            EA[:, i] += sleeve.E[:, None] * bar.sleeve.area_mm2 * on
            EI[:, i] += sleeve.E[:, None] * bar.sleeve.second_moment_mm4() * on
    return EA, EI


def _edge_own(elements: Elements, draws: Draws, geometry: Geometry) -> Array:
    """Own EI of all bars edgewise, (S, n)."""
    total = np.zeros((len(draws.foam.G), len(geometry.y)))
    for i, bar in enumerate(elements.bars):
        flat = bar.stock.shape == "flat"
        size = geometry.bar_scale[i] ** ((1 if bar.on_edge else 3) if flat else 4)
        own = bar.stock.second_moment_mm4(not bar.on_edge) * size * geometry.bar_on[i]
        total += draws.bars[i].E[:, None] * own
    return total


def _carries(elements: Elements, draws: Draws, i: int) -> Array:
    """E t (S,) with which a membrane bends: none if it is slack, less the foam that it displaces if it is within."""
    m, d = elements.membranes[i], draws.skins[i]
    if m.slack:
        return np.zeros_like(d.Et)
    if m.face in ("web", "level") and not elements.hollow:
        mean = 0.5 * (draws.foam.E_tension + draws.foam.E_compression)
        return np.asarray(np.maximum(d.Et * m.plies - mean * m.thickness_mm, 0.0))
    return np.asarray(d.Et * m.plies * m.takes)


def _typical(draws: Draws) -> Draws:
    def first(values: object) -> object:
        return type(values)(**{k: None if v is None else v[:1] for k, v in vars(values).items()})

    return Draws(
        first(draws.foam),  # type: ignore[arg-type]
        tuple(first(s) for s in draws.skins),  # type: ignore[misc]
        tuple(first(b) for b in draws.bars),  # type: ignore[misc]
        tuple(None if b is None else first(b) for b in draws.sleeves),  # type: ignore[misc]
    )


def neutral_axis(elements: Elements, draws: Draws, y: Array, inside: Array) -> Geometry:
    """Geometry split at the neutral axis of the whole section, found with typical values.

    Samples share this split: strain is zero there, so that a small shift changes the sums in second order only.
    The iteration is a fixed point on the modulus-weighted centroid; foams differ by less than 1.7 in modulus, and
    it contracts by about that difference over four each round. Which modulus of the foam a bar displaces is left as at
    the first guess.
    """
    typical = _typical(draws)
    columns = columns_of(elements, y, inside)
    geometry = geometry_of(elements, y, inside, columns=columns)
    if elements.hollow:
        return geometry
    # what skins and bars pull with stays; only the foam's share moves with the axis, its modulus by side
    first = sums_of(elements, typical, geometry)
    E_t, E_c = float(typical.foam.E_tension[0]), float(typical.foam.E_compression[0])
    foam = [E_t * geometry.foam_below[p] + E_c * geometry.foam_above[p] for p in range(2)]
    others = first.whole_EA[0] - foam[0], first.whole_EA[0] * first.whole_z[0] - foam[1]
    centroid, before = first.whole_z[0], geometry.split
    for _ in range(8):
        below, above = columns.split(centroid)
        if float(np.max(np.abs(centroid - before) / geometry.thickness)) < 1e-6:
            break
        before = centroid
        amount, moment = (E_t * below[p] + E_c * above[p] + others[p] for p in range(2))
        centroid = moment / amount
    return Geometry(**{**vars(geometry), "split": before, "foam_below": below, "foam_above": above})
