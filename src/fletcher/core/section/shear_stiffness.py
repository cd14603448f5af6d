"""Shear flexibility along the part: the two-dimensional solution at a few stations, read between them.

The solution is kept by content (outline, sizes, what lies where), so that a change of load, name or material
strength costs nothing.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array, IntArray
from fletcher.core.section.elements import Elements
from fletcher.core.section.flexure_function import Flexibility, least_slip
from fletcher.core.section.grid import BarSpot, FaceSkin, HoleSpot, Station
from fletcher.core.section.partial_interaction import Mesh
from fletcher.core.section.properties import Draws, Geometry, Sums, bar_twist_scale, skins_at
from fletcher.core.section.solution_cache import solved
from fletcher.core.section.thin_walled import Host, Walls, restrained, section_network

_LITTLE_TAPER = 0.015
"""A stretch whose size changes by less is solved in its middle alone."""
_STRONG_TAPER = 2.5
"""Size ratio along a stretch above which its middle is solved as well as its ends."""


@dataclass(frozen=True)
class Fields:
    """What the field solutions say. Leading axis samples, of length 1 where there is no spread; for a single station
    the others are missing, along a part a station axis (n) follows the samples.

    `flexibility` (n, G + 1, G + 1, S), samples last, ties bars and host by shear; `torsion` is GJ (N·mm²);
    `shear_centre` x aft of the local leading edge (mm); `core_shear` the largest shear stress in the foam, away from
    bars, per newton of shear force (1/mm²); `twist_shear` the same per N·mm of torque (1/mm³); `skin_flow`
    (membranes, S, n) the largest shear flow of each skin per N·mm of torque (1/mm²), `wall_flow` the same of plates
    per N of shear force (1/mm).
    """

    flexibility: Array
    torsion: Array
    shear_centre: Array
    core_shear: Array
    twist_shear: Array
    skin_flow: Array
    wall_flow: Array
    skin_share: Array
    """(membranes,), along a part (membranes, n): share of each skin or wall in GJ, typical."""
    bar_share: Array
    """The same of each bar, (bars,) or (bars, n); the foam has the rest."""


LEAST_FLOW = 1e-12
"""Stands for no shear flow, so that flows can be read between stations as powers."""


def _here(elements: Elements, geometry: Geometry, k: int) -> tuple[list[int], list[int]]:
    """Membranes and bars that are present at station k."""
    return skins_at(elements, geometry, k), [i for i in range(len(elements.bars)) if geometry.bar_on[i, k]]


def _station(elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, k: int) -> Station:
    """Station k as a field problem, with typical skin-to-foam shear ratios; rounded, to be found again."""
    g = geometry
    skins_here, bars_here = _here(elements, geometry, k)
    foam_G = float(draws.foam.G[0])
    skins = []
    for i in skins_here:
        m = elements.membranes[i]
        front, rear = float(g.skin_front[i, k]), float(g.skin_rear[i, k])
        ratio = float(draws.skins[i].Gt[0]) * m.plies / foam_G
        height = m.height.at(float(g.y[k]) / elements.part.span_mm, 1.0)
        skins.append(
            FaceSkin(m.face, round(front, 4), round(rear, 4), round(ratio, 4), round(m.offset_mm, 5), round(height, 5))
        )
    E = float(draws.foam.E_tension[0]), float(draws.foam.E_compression[0])
    carried = [float(sums.skin_Et[0, i]) for i in skins_here]
    tied = [float(sums.bar_EA[0, i, k]) for i in bars_here]
    holes = []
    for hole in elements.holes:
        if hole.start < g.inside[k] < hole.end:
            front, rear = (round(float(e[0]), 4) for e in elements.edges(hole, g.y[[k]]))
            holes.append(HoleSpot(hole.face, front, rear, hole.depth_mm))
    return Station(
        elements.outline,
        round(float(g.chord[k]), 4),
        round(float(g.thickness[k]), 4),
        round(float(g.split[k]), 3),
        tuple(skins),
        tuple(_spots(elements, draws, geometry, k, bars_here)),
        tuple(holes),
        tuple(round(float(v), 3) for v in (1.0, E[1] / E[0], *(stiff / E[0] for stiff in (*carried, *tied)))),
    )


def _spots(elements: Elements, draws: Draws, geometry: Geometry, k: int, bars_here: list[int]) -> list[BarSpot]:
    """The bars at station k as the field sees them."""
    g, spots = geometry, []
    for i in bars_here:
        bar = elements.bars[i]
        width, height = bar.sizes(float(g.bar_scale[i, k]))
        ratio = min(bar.stock.G_MPa.typ / float(draws.foam.G[0]), 1e4)
        spots.append(BarSpot(round(float(g.bar_x[i, k]), 4), round(float(g.bar_z[i, k]), 4), width, height, ratio))
    return spots


@dataclass(frozen=True)
class _Cored:
    """A part with a core, from whose solutions the fields of its stations come. Samples scale a solution with their
    foam's G, weight it with their moduli, and shift torsion by each skin's share in it."""

    elements: Elements
    draws: Draws
    geometry: Geometry
    sums: Sums

    @cached_property
    def moduli(self) -> Array:
        """E of the foam pulled and pressed, then E t of every membrane, (S, 2 + membranes)."""
        foam = self.draws.foam
        return np.concatenate([np.stack([foam.E_tension, foam.E_compression], 1), self.sums.skin_Et], 1)

    @cached_property
    def vary(self) -> Array:
        """By how much a skin is stiffer in shear against the foam than typical, (membranes, S)."""
        foam = self.draws.foam.G / self.draws.foam.G[0]
        return np.array([d.Gt / np.maximum(d.Gt[0], 1e-12) / foam for d in self.draws.skins])

    def field(self, k: int, solution: Flexibility) -> Fields:
        """The fields of station k from its solution."""
        elements, draws, geometry, sums = self.elements, self.draws, self.geometry, self.sums
        here, bars_here = _here(elements, geometry, k)
        at, G = slice(k, k + 1), draws.foam.G
        samples, bars, count = len(G), len(elements.bars), len(elements.membranes)
        EI, EA, z0 = sums.host_EI[:, at], sums.host_EA[:, at], sums.host_z[:, at]
        arm = sums.arm[:, bars_here, k]
        moduli = self.moduli[:, [0, 1, *(i + 2 for i in here)]]
        spread, n = 2 * moduli.shape[1], len(bars_here)  # each modulus with constant strain and with strain z
        basis = np.zeros((samples, 1 + n, spread + n))
        over = moduli / EI
        basis[:, 0, 0:spread:2], basis[:, 0, 1:spread:2] = over * z0, -over
        basis[:, 1:, 0:spread:2] = -(moduli / EA)[:, None]
        basis[:, 1:] -= arm[..., None] * basis[:, :1]
        for bar in range(n):
            basis[:, 1 + bar, spread + bar] += 1.0
        # a lopsided section sways: without sideways force its axial flow carries only this share of the shear force
        sways = float(sums.sways[0, k])
        small = basis @ solution.matrix @ basis.transpose(0, 2, 1) / (G[:, None, None] * sways**2)
        small = _stored(small)
        if not any(elements.membranes[i].face == "web" for i in here):  # a web between bars lets them slide less
            small = _kept_apart(small, _spots(elements, draws, geometry, k, bars_here), bool(here), G)
        flexibility = np.zeros((bars + 1, bars + 1, samples))
        flexibility[range(bars + 1), range(bars + 1)] = 1.0
        rows = np.array([0, *(i + 1 for i in bars_here)])
        flexibility[rows[:, None], rows] = small.transpose(1, 2, 0)

        # the whole section without slip, per unit of shear force
        slip_free = sums.bar_EA[:, bars_here, k] * (arm + (sums.whole_z[:, at] - sums.host_z[:, at]))
        v = basis[:, 0] + ((slip_free / sums.whole_EI[:, at])[:, None] @ basis[:, 1:])[:, 0]
        centre = (v @ solution.torque) / (v @ solution.force)
        # on a core the ratios of shear stiffness are typical ones: flows have no spread of their own
        skin_flow, wall_flow = (np.full((count, 1), LEAST_FLOW) for _ in range(2))
        skin_flow[here, 0] = np.maximum(solution.torsion.skin_flow, LEAST_FLOW)
        torsion, share = G * solution.torsion.constant, solution.torsion.skin_share
        if samples > 1 and here:
            torsion = torsion * np.prod(np.where(share[:, None] > 0, self.vary[here] ** share[:, None], 1.0), axis=0)
        skin_share, bar_share = np.zeros(count), np.zeros(bars)
        skin_share[here] = share * torsion[0]
        for i in bars_here:
            own = (
                draws.bars[i].G
                * elements.bars[i].stock.torsion_constant_mm4
                * bar_twist_scale(elements, geometry, i, k)
            )
            torsion, bar_share[i] = torsion + own, own[0]
        for skin, i in enumerate(here):
            m = elements.membranes[i]
            if m.plate is not None:
                length = float(geometry.skin[i, 0, k])
                flat = m.plate.torsion_per_width(length) * length * m.plies
                torsion = torsion + flat
                skin_share[i] += flat
                wall_flow[i] = max(solution.flow(skin, v[0]) / sways, LEAST_FLOW)
        return Fields(
            flexibility, torsion, centre, np.array([solution.peak(v[0]) / sways]),
            np.array([solution.torsion.core_shear]), skin_flow, wall_flow, skin_share / torsion[0], bar_share /
            torsion[0],
        )  # fmt: skip


_LEAST_SHARE = 1e-3
"""Of the largest flexibility of a section the least that any of it counts as."""


def _kept_apart(flexibility: Array, spots: list[BarSpot], under_skin: bool, G: Array) -> Array:
    """Flexibilities (S, r, r), host shear first, in which no two bars that push each other slip by less than they must.
    Where thick bars nearly fill the depth, the first order by which the field solution sees their bodies overshoots,
    down to slips against the push."""
    out = flexibility
    for i, j in itertools.combinations(range(len(spots)), 2):
        least = least_slip(spots[i], spots[j], under_skin) / G
        a, b = 1 + i, 1 + j
        missing = np.maximum(least - (out[:, a, a] - 2 * out[:, a, b] + out[:, b, b]), 0.0) / 4
        if np.any(missing > 0):
            out = out.copy()
            for row, column, sign in ((a, a, 1), (b, b, 1), (a, b, -1), (b, a, -1)):
                out[:, row, column] += sign * missing
    return out


def _stored(flexibility: Array) -> Array:
    """Flexibilities (S, r, r) that store work: bars so close that the grid between them cannot tell them apart come out
    of it as if they pushed themselves; they then give next to nothing against one another."""
    if np.all(np.diagonal(flexibility, axis1=1, axis2=2) > 0):
        return flexibility
    sizes, ways = np.linalg.eigh(0.5 * (flexibility + flexibility.transpose(0, 2, 1)))
    sizes = np.maximum(sizes, _LEAST_SHARE * sizes.max(1, keepdims=True))
    return np.asarray((ways * sizes[:, None, :]) @ ways.transpose(0, 2, 1))


def _walls_at(elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, wanted: list[int]) -> dict[int, Walls]:
    """The walls of a hollow part solved at stations; stations that are alike share one solution."""
    known: dict[tuple[object, ...], Walls] = {}
    found = {}
    for k in wanted:
        g = geometry
        widths = tuple(np.round(g.skin[g.skin_on[:, k] > 0, 0, k], 4))
        key = (*_here(elements, g, k), round(float(g.chord[k]), 4), round(float(g.thickness[k]), 4), widths)
        key = tuple(str(part) for part in key) + tuple(np.round(g.bar_scale[:, k], 4))
        if key not in known:
            bars = [i for i in range(len(elements.bars)) if geometry.bar_on[i, k]]
            host = None
            if elements.slips and bars:
                host = Host(sums.host_EI[:, k], sums.host_EA[:, k], sums.host_z[:, k], sums.arm[:, bars, k].T)
            known[key] = section_network(elements, draws, geometry, k).solve(sums.whole_EI[:, k], host)
        found[k] = known[key]
    return found


def _hollow_field(elements: Elements, draws: Draws, geometry: Geometry, found: Walls, k: int) -> Fields:
    """The fields of station k of a hollow part, from its walls as a network; every sample solved by itself."""
    here, _ = _here(elements, geometry, k)
    samples, bars, count = len(draws.foam.G), len(elements.bars), len(elements.membranes)
    flexibility = np.repeat(np.eye(bars + 1)[..., None], samples, -1)
    flexibility[0, 0] = found.flexibility
    if len(found.coupling):
        rows = np.array([0, *(i + 1 for i in range(bars) if geometry.bar_on[i, k])])
        flexibility[rows[:, None], rows] = found.coupling
        for i in rows:  # a bar on a node of stiff walls gives next to nothing
            flexibility[i, i] = np.maximum(flexibility[i, i], 1e-12)
    skin_flow, wall_flow = (np.full((count, samples), LEAST_FLOW) for _ in range(2))
    for n, i in enumerate(here):
        skin_flow[i] = np.maximum(found.twist_flow[n], LEAST_FLOW)
        wall_flow[i] = np.maximum(found.shear_flow[n], LEAST_FLOW)
    nothing = np.full(samples, LEAST_FLOW)
    skin_share, bar_share = np.zeros(count), np.zeros(bars)
    skin_share[here] = found.twist_share
    for i, bar in enumerate(elements.bars):
        size = bar_twist_scale(elements, geometry, i, k)
        own = float(draws.bars[i].G[0]) * bar.stock.torsion_constant_mm4 * size
        bar_share[i] = own * geometry.bar_on[i, k] / float(found.torsion[0])
    flows = (nothing, nothing, skin_flow, wall_flow)
    return Fields(flexibility, found.torsion, found.shear_centre, *flows, skin_share, bar_share)


def _between(a: Array, b: Array, t: Array) -> Array:
    """Log-linear between two positive values; t (n,) leads the result's first axis."""
    return np.asarray(np.exp(np.multiply.outer(1 - t, np.log(a)) + np.multiply.outer(t, np.log(b))))


def _size(elements: Elements, geometry: Geometry) -> Array:
    """Chord that notches leave, times the thickness, (n,) mm²."""
    chord = geometry.chord.copy()
    for hole in elements.holes:
        if hole.edge:
            front, rear = elements.edges(hole, geometry.y)
            chord -= (rear - front) * ((geometry.inside > hole.start) & (geometry.inside < hole.end))
    return np.asarray(np.maximum(chord, 1e-3) * geometry.thickness)


def _stretches(elements: Elements, size: Array, mesh: Mesh) -> list[tuple[IntArray, list[int]]]:
    """Stations of every stretch of one make, and those of them at which the fields are solved; by their `size`."""
    found: list[tuple[IntArray, list[int]]] = []
    for a, b in itertools.pairwise(elements.changes()):
        stations = np.nonzero((mesh.inside > a) & (mesh.inside < b))[0]
        if not len(stations):
            continue
        chosen = [int(stations[0]), int(stations[-1])]
        if min(size[chosen]) > (1 - _LITTLE_TAPER) * max(size[chosen]):
            chosen = [int(stations[len(stations) // 2])]
        elif max(size[chosen]) > _STRONG_TAPER * min(size[chosen]) and len(stations) > 4:
            chosen.insert(1, int(stations[len(stations) // 2]))
        found.append((stations, chosen))
    return found


def fields_along(elements: Elements, draws: Draws, geometry: Geometry, sums: Sums, mesh: Mesh) -> Fields:
    """The fields of every station, station axis second.

    Solved at the ends of every stretch over which the section is made alike (in its middle alone where it hardly
    tapers, there as well where it tapers strongly); between them positive values are read as powers of the section's
    size, couplings as correlations, the shear centre as a share of the chord.
    """
    samples, bars, n = len(draws.foam.G), len(elements.bars), len(mesh.y)
    flexibility = np.zeros((n, bars + 1, bars + 1, samples))
    spread = samples if elements.hollow else 1
    torsion, centre = (np.zeros((samples, n)) for _ in range(2))
    peak, twisted = (np.zeros((spread, n)) for _ in range(2))
    skin_flow, wall_flow = (np.zeros((len(elements.membranes), spread, n)) for _ in range(2))
    skin_share, bar_share = np.zeros((len(elements.membranes), n)), np.zeros((bars, n))
    size = _size(elements, geometry)
    stretches = _stretches(elements, size, mesh)
    wanted = [k for _, chosen in stretches for k in chosen]
    walls: dict[int, Walls] = {}
    if elements.hollow:
        walls = _walls_at(elements, draws, geometry, sums, wanted)
        field = {k: _hollow_field(elements, draws, geometry, walls[k], k) for k in wanted}
    else:
        solutions = solved.of([_station(elements, draws, geometry, sums, k) for k in wanted])
        cored = _Cored(elements, draws, geometry, sums)
        field = {k: cored.field(k, one) for k, one in zip(wanted, solutions, strict=True)}
    for stations, chosen in stretches:
        if len(chosen) == 1:  # as good as the same all along
            f = field[chosen[0]]
            flexibility[stations] = f.flexibility[None]
            torsion[:, stations] = f.torsion[:, None] * (size[stations] / size[chosen[0]]) ** 2
            peak[:, stations] = f.core_shear[:, None]
            twisted[:, stations], skin_flow[..., stations] = f.twist_shear[:, None], f.skin_flow[..., None]
            wall_flow[..., stations] = f.wall_flow[..., None]
            skin_share[:, stations], bar_share[:, stations] = f.skin_share[:, None], f.bar_share[:, None]
            centre[:, stations] = np.multiply.outer(
                f.shear_centre, geometry.chord[stations] / geometry.chord[chosen[0]]
            )
        for (k0, f0), (k1, f1) in itertools.pairwise((k, field[k]) for k in chosen):
            here = stations[(stations >= k0) & (stations <= k1)]
            t = (mesh.y[here] - mesh.y[k0]) / (mesh.y[k1] - mesh.y[k0])
            growth = np.log(size[k1] / size[k0])
            if abs(growth) > 0.02:
                t = np.log(size[here] / size[k0]) / growth
            root0, root1 = (np.sqrt(np.einsum("iis->is", f.flexibility)) for f in (f0, f1))
            scale = _between(root0, root1, t)
            c0 = f0.flexibility / (root0[:, None] * root0[None, :])
            c1 = f1.flexibility / (root1[:, None] * root1[None, :])
            coupling = np.multiply.outer(1 - t, c0) + np.multiply.outer(t, c1)
            coupling *= scale[:, :, None]
            coupling *= scale[:, None]
            flexibility[here] = coupling
            torsion[:, here] = _between(f0.torsion, f1.torsion, t).T
            peak[:, here] = _between(f0.core_shear, f1.core_shear, t).T
            twisted[:, here] = _between(f0.twist_shear, f1.twist_shear, t).T
            skin_flow[..., here] = np.moveaxis(_between(f0.skin_flow, f1.skin_flow, t), 0, 2)
            wall_flow[..., here] = np.moveaxis(_between(f0.wall_flow, f1.wall_flow, t), 0, 2)
            share0, share1 = f0.shear_centre / geometry.chord[k0], f1.shear_centre / geometry.chord[k1]
            for along, one, other in (
                (skin_share, f0.skin_share, f1.skin_share),
                (bar_share, f0.bar_share, f1.bar_share),
            ):
                along[:, here] = np.multiply.outer(one, 1 - t) + np.multiply.outer(other, t)
            share = np.multiply.outer(share0, 1 - t) + np.multiply.outer(share1, t)
            centre[:, here] = share * geometry.chord[here]
    if elements.hollow:
        torsion = restrained(mesh, torsion, [(here, walls[chosen[0]]) for here, chosen in stretches])
    return Fields(flexibility, torsion, centre, peak, twisted, skin_flow, wall_flow, skin_share, bar_share)


def shear_stiffness(flexibility: Array, sums: Sums) -> Array:
    """GA_s (S, n) in N of the section without slip: all bars take their full share of the moment. `flexibility` as in
    `Fields`.

    Bar forces then change with the moment as n_g = EA_g a_g / EI (about the whole centroid), and
    1/GA_s = q^T C q for a unit shear force.
    """
    samples, n = sums.whole_EI.shape
    q = np.ones((samples, n, flexibility.shape[1]))
    # strain of a bar without slip: curvature times its arm about the whole section's centroid
    about_whole = sums.arm + (sums.whole_z - sums.host_z)[:, None, :]
    q[..., 1:] = np.moveaxis(sums.bar_EA * about_whole / sums.whole_EI[:, None, :], 1, 2)
    return np.asarray(1 / np.einsum("sni,nijs,snj->sn", q, flexibility, q))
