r"""Shear flexibility of a cross-section by the two-dimensional flexure function.

The axial stresses of a bent part change along it; the shear that balances the change flows through the foam. With
ν = 0 the warping w of the section solves

.. math:: \nabla\cdot(G\nabla w) = -s,\qquad \text{natural boundaries,}

where s is the rate of change of axial stress (Pilkey 2002, ch. 6; MECHANICS section 1). Skins are line elements on
the faces, bars are sources. A bar much smaller than a cell is a nodal source whose missing near-field energy is
added in closed form, as for wells in reservoir grids (Peaceman 1978).

The solution is kept as a flexibility matrix over *basis sources* of unit modulus, so that one solve serves every
sample of the material values: the moduli enter afterwards as coefficients.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray, IntArray
from fletcher.core.section.grid import (
    ROWS,
    SHAPE,
    BarSpot,
    Edges,
    FaceSkin,
    Grid,
    HoleSpot,
    Piece,
    Station,
    assemble,
    cell_matrices,
    edges_of,
    grid_of,
    mean_slopes,
    shared,
    solve_band,
)
from fletcher.core.section.outline import Outline
from fletcher.core.section.torsion import Torsion, exceeded, torsion_of

SOURCE_RADIUS = 0.118
"""Radius, in cells, at which a bilinear nodal source equals the exact line source (tests/core/section/test_warping)."""


@dataclass(frozen=True)
class Flexibility:
    """What one solution of a station tells. Basis sources number 4 + 2·skins + bars; each carries with it the sideways
    bend that keeps it free of sideways shear.

    Order of the basis: foam below `split` with unit modulus and constant strain, foam below with strain z, foam above
    likewise two; then per skin constant and z (per unit E·t); then per bar a unit axial force rate.
    """

    matrix: Array
    """Work of one source on the warping of another, symmetric; contract with modulus coefficients and divide by the
    foam's G."""
    force: Array
    """Vertical shear force that each source's warping carries, up to a common factor."""
    torque: Array
    """Moment of the same shear about the nose of the chord line; torque over force is the shear centre."""
    warping: Array
    """Warping of each source at the station's nodes, (nodes, sources)."""
    corners: IntArray
    slopes: Array
    """Corner nodes (cells, 4) and shape function slopes (2, cells, 4) of its cells; those beside a bar are left out."""
    areas: Array
    """Area of those cells, mm²."""
    torsion: Torsion
    rim: tuple[tuple[IntArray, IntArray, Array], ...]
    """Of every skin the nodes before and after its cell edges, and its stiffness over their length, (edges,) each."""

    def peak(self, amounts: Array) -> float:
        """Gradient of the warping that sources in these amounts (sources,) make together, which a twentieth of the
        section exceeds."""
        along, up = (self.slopes * (self.warping @ amounts)[self.corners]).sum(-1)
        return exceeded(np.sqrt(along * along + up * up), self.areas)

    def flow(self, skin: int, amounts: Array) -> float:
        """Largest shear flow in a skin, per unit of the foam's G, of sources in these amounts (sources,)."""
        before, after, stiff = self.rim[skin]
        warping = self.warping @ amounts
        return float(np.abs(stiff * (warping[after] - warping[before])).max(initial=0.0))


VOID = 1e-5
"""Shear stiffness of a hole over that of the foam."""


def solve(
    outline: Outline,
    chord: float,
    thickness: float,
    split: float,
    skins: list[FaceSkin],
    bars: list[BarSpot],
    holes: tuple[HoleSpot, ...] = (),
) -> Flexibility:
    """Solve one station, see `solve_all`."""
    return solve_all([Station(outline, chord, thickness, split, tuple(skins), tuple(bars), holes)])[0]


def solve_all(stations: list[Station]) -> list[Flexibility]:
    """Solve the flexure function for all basis sources, and torsion, of several stations of one outline family.

    They share one grid of separate pieces: every step runs once for all of them. Stations that differ by thin bars
    alone share a piece: bars are sources, each reads its own.
    """
    pieces, places = shared(stations)
    grid = grid_of(pieces)
    count = len(grid.x)
    stiffness = np.ones_like(grid.px)
    resolved = [[_is_resolved(bar, piece) for bar in piece.station.bars] for piece in grid.pieces]
    for piece, wide in zip(grid.pieces, resolved, strict=True):
        px, pz = grid.px[piece.cells], grid.pz[piece.cells]
        for bar, is_wide in zip(piece.station.bars, wide, strict=True):
            if is_wide:
                within = (np.abs(px - bar.x) <= bar.width / 2) & (np.abs(pz - bar.z) <= bar.height / 2)
                stiffness[piece.cells][within] = bar.shear_ratio
    void = np.zeros(grid.px.shape, bool)
    for piece in grid.pieces:
        if piece.station.holes:
            void[piece.cells] = piece.void(grid.px[piece.cells], grid.pz[piece.cells])
    stiffness[void] = VOID
    weight = grid.det * stiffness
    cells = cell_matrices(weight, grid.dx, grid.dz)
    edges = edges_of(grid)
    corner = grid.corner

    line_i, line_j = [np.repeat(corner, 4, axis=1).ravel()], [np.tile(corner, 4).ravel()]
    line_k = [cells.ravel()]
    a, b, stiff = edges.first, edges.second, edges.ratio / edges.length
    line_i += [a, b, b]
    line_j += [a, b, a]
    line_k += [stiff, stiff, -stiff]
    matrix = assemble(count, np.concatenate(line_i), np.concatenate(line_j), np.concatenate(line_k))
    for piece in grid.pieces:  # holds the free constant; balanced sources never load it
        solid = np.nonzero(~np.any(void[piece.cells], axis=1))[0]  # a notch may leave nothing at the ends
        whole = len(solid) == len(corner[piece.cells])
        held = piece.nodes.start if whole else corner[piece.cells][solid[len(solid) // 2], 0]
        matrix[0, held] += float(np.mean(matrix[0, piece.nodes]))

    sources, near = _sources(grid, edges, resolved, void)
    warping = solve_band(matrix, sources)
    area = 2 * (sources[:, 0] + sources[:, 2])
    plain = cells
    if np.any(void):
        plain = cell_matrices(grid.det / np.where(void, VOID, 1.0), grid.dx, grid.dz)
        area = 2 * np.bincount(corner.ravel(), (grid.det @ SHAPE).ravel(), count).astype(np.float64)
    elif any(any(r) for r in resolved):
        plain = cell_matrices(grid.det, grid.dx, grid.dz)
    slopes = mean_slopes(grid)
    torsion = torsion_of(grid, plain, area, edges, slopes)
    up_pull, turn_pull = _resultants(grid, edges, weight)

    found = []
    for station, n in zip(stations, places, strict=True):
        piece, first = grid.pieces[n], 4 + 2 * len(station.skins)
        chosen = [pieces[n].bars.index(bar) for bar in station.bars]
        wide = [resolved[n][i] for i in chosen]
        columns = np.array([*range(first), *(first + i for i in chosen), first + len(pieces[n].bars)])
        at, w = sources[piece.nodes][:, columns], warping[piece.nodes][:, columns]
        start = piece.nodes.start
        corners = corner[piece.cells] - start
        # beside a bar the bond line is looked at instead
        beside = np.any(at[:, first:-1] != 0, axis=1)
        away = ~np.any(beside[corners], axis=1) & ~np.any(void[piece.cells], axis=1)
        flexibility = at.T @ w
        flexibility[np.diag_indices(len(columns))] += near[n][columns]
        _polarise(flexibility, piece, list(station.bars), w, grid.z, wide, first)
        _add_closeness(flexibility, list(station.bars), first)
        turn = _sideways(station, at, grid.x[piece.nodes], first)
        straight = turn @ _straight(at @ turn, grid.x[piece.nodes])
        found.append(
            Flexibility(
                matrix=0.5 * straight.T @ (flexibility + flexibility.T) @ straight,
                force=up_pull[piece.nodes] @ w @ straight,
                torque=turn_pull[piece.nodes] @ w @ straight,
                warping=w @ straight,
                corners=corners[away],
                slopes=slopes[:, piece.cells][:, away],
                areas=grid.det[piece.cells].sum(1)[away],
                torsion=torsion[n],
                rim=tuple((e.first - start, e.second - start, stiff[e.rows]) for e in edges.of_piece(n)),
            )
        )
    return found


def _straight(sources: Array, x: Array) -> Array:
    """What to add to every source so that it pushes nothing sideways, (sources + 1, sources).

    A load up and down alone has no sideways shear: where the section is lopsided (∫E x z dA ≠ 0) it bends sideways a
    little, and the axial stress of that bend, the last column of `sources` (nodes, sources + 1), balances it.
    """
    turned = x @ sources
    out = np.eye(len(turned))[:, :-1]
    out[-1] = -turned[:-1] / turned[-1]
    return np.asarray(out)


def _sideways(station: Station, at: Array, x: Array, first: int) -> Array:
    """What to add to the sources of a station so that the last, its sideways bend, counts its bars as well, a square
    matrix (sources, sources). `at` (nodes, sources) with the foam's and skins' in front, the bars' from `first` on."""
    out = np.eye(at.shape[1])
    stretch = dict(enumerate(station.stretch))
    host = np.zeros(at.shape[1])
    host[0], host[2] = stretch.get(0, 1.0), stretch.get(1, 1.0)
    for n in range(len(station.skins)):
        host[4 + 2 * n] = stretch.get(2 + n, 0.0)
    tied = np.array([stretch.get(2 + len(station.skins) + n, 0.0) for n in range(len(station.bars))])
    if not np.any(tied):
        return out
    amount = at @ host
    places = x @ at[:, first : first + len(tied)]
    own = float(x @ amount / amount.sum())
    middle = float((x @ amount + tied @ places) / (amount.sum() + tied.sum()))
    out[:, -1] += (own - middle) * host
    out[first : first + len(tied), -1] += tied * (places - middle)
    return out


def _sources(grid: Grid, edges: Edges, resolved: list[list[bool]], void: BoolArray) -> tuple[Array, list[Array]]:
    """Nodal weights of all basis sources (nodes, most sources of a piece), and per piece the near-field flexibility
    that the grid misses. Pieces share columns: their nodes are apart."""
    count = len(grid.x)
    sizes = [5 + 2 * len(p.station.skins) + len(p.station.bars) for p in grid.pieces]
    sources = np.zeros((count, max(sizes)))
    amount, sideways = np.zeros(count), np.zeros(count)
    stretch = [dict(enumerate(p.station.stretch)) for p in grid.pieces]
    cells = [p.cells.stop - p.cells.start for p in grid.pieces]
    split = np.repeat([p.station.split for p in grid.pieces], cells)
    below = grid.pz < split[:, None]
    flat = grid.corner.ravel()
    for column, mask in ((0, below), (2, ~below)):
        density = grid.det * (mask & ~void)
        sources[:, column] = np.bincount(flat, (density @ SHAPE).ravel(), count)
        sources[:, column + 1] = np.bincount(flat, ((density * grid.pz) @ SHAPE).ravel(), count)
        density = density * np.repeat([s[column // 2] for s in stretch], cells)[:, None]
        amount += np.bincount(flat, (density @ SHAPE).ravel(), count)
        sideways += np.bincount(flat, ((density * grid.px) @ SHAPE).ravel(), count)
    a, b, ds = edges.first, edges.second, edges.length
    sides = edges.each([e.skin.offset * {"upper": 1.0, "lower": -1.0}.get(e.skin.face, 0.0) for e in edges.skins])
    c = 4 + 2 * np.array([e.index for e in edges.skins], int)[edges.of]
    Et = edges.each([stretch[e.piece].get(2 + e.index, 0.0) for e in edges.skins])
    out = sides * np.abs(grid.x[b] - grid.x[a]) / ds
    for node, other in ((a, b), (b, a)):  # a node begins and ends at most one edge of a skin
        sources[node, c] += ds / 2
        sources[node, c + 1] += ds * (2 * grid.z[node] + grid.z[other] + 3 * out) / 6
        amount += np.bincount(node, Et * ds / 2, count)
        sideways += np.bincount(node, Et * ds * (2 * grid.x[node] + grid.x[other]) / 6, count)
    near = []
    for piece, wide, size in zip(grid.pieces, resolved, sizes, strict=True):
        own = np.zeros(size)
        first = 4 + 2 * len(piece.station.skins)
        for n, (bar, is_wide) in enumerate(zip(piece.station.bars, wide, strict=True)):
            nodes, shares, own[first + n] = _bar_source(bar, is_wide, piece)
            np.add.at(sources[:, first + n], nodes, shares)
        near.append(own)
        of, moment = amount[piece.nodes], sideways[piece.nodes]
        sources[piece.nodes, size - 1] = moment - moment.sum() / of.sum() * of
    return sources, near


def _resultants(grid: Grid, edges: Edges, weight: Array) -> tuple[Array, Array]:
    """Vertical force and moment about the nose of the shear stresses, as functionals (nodes,) of the warping."""
    count, flat = len(grid.x), grid.corner.ravel()
    up = np.einsum("ep,epi->ei", weight, grid.dz)
    turn = np.einsum("ep,epi->ei", weight * grid.px, grid.dz) - np.einsum("ep,epi->ei", weight * grid.pz, grid.dx)
    up_pull, turn_pull = (np.bincount(flat, v.ravel(), count).astype(np.float64) for v in (up, turn))
    a, b = edges.first, edges.second
    run_x, run_z, flow = grid.x[b] - grid.x[a], grid.z[b] - grid.z[a], edges.ratio / edges.length
    arm = 0.5 * (grid.x[a] + grid.x[b]) * run_z - 0.5 * (grid.z[a] + grid.z[b]) * run_x
    for pull, lever in ((up_pull, run_z), (turn_pull, arm)):
        pull += np.bincount(b, flow * lever, count) - np.bincount(a, flow * lever, count)
    return up_pull, turn_pull


def _radius(bar: BarSpot) -> float:
    """Radius of the round bar that spreads its force into the foam alike: exact for a rod and for a thin flat."""
    return (bar.width + bar.height) / 4


def _near_each_other(one: BarSpot, other: BarSpot) -> float | None:
    """Distance of two bars that lie within five diameters of each other, at least touching; None for others."""
    reach = _radius(one) + _radius(other)
    distance = max(math.hypot(one.x - other.x, one.z - other.z), reach)
    return distance if distance <= 5 * reach else None


def _polarise(
    flexibility: Array, piece: Piece, bars: list[BarSpot], warping: Array, z: Array, wide: list[bool], first: int
) -> None:
    """Take off what rigid bars spare the foam around them, 2π r² g·g for a rod in the gradient g of the warping that
    everything else makes there: other bars, faces (its own images) and the bending foam (Maxwell; a conducting
    cylinder in a field). An ellipse of the bar's width and height stands for a flat one.

    The gradient is read from the nodes beside the bar. The grid cannot tell the logarithms of the bar itself and of
    bars close by: they are taken off first, and those of the others added as they are.
    """
    xs, node = piece.xs, piece.node
    base = piece.nodes.start
    gradients = []
    for n, (bar, resolved) in enumerate(zip(bars, wide, strict=True)):
        if resolved:
            continue
        close = [m for m, other in enumerate(bars) if m == n or _near_each_other(bar, other) is not None]
        i = min(max(int(np.argmin(np.abs(xs - bar.x))), 1), len(xs) - 2)
        heights = z[node[i]]
        j = min(max(int(np.argmin(np.abs(heights - bar.z))), 1), len(heights) - 2)
        a, b = bar.width / 2, bar.height / 2
        pairs = {"x": ((i - 1, j), (i + 1, j)), "z": ((i, j - 1), (i, j + 1))}
        for axis, room in (("x", a), ("z", b)):
            ends = []
            for column, row in pairs[axis]:
                k = int(node[column, row])
                value = warping[k - base].copy()
                for m in close:
                    value[first + m] += math.log(math.hypot(xs[column] - bars[m].x, z[k] - bars[m].z)) / (2 * math.pi)
                ends.append((xs[column] if axis == "x" else z[k], value))
            (low, value_low), (high, value_high) = ends
            gradient = (value_high - value_low) / (high - low)
            for m in close:
                if m != n:
                    run = getattr(bar, axis) - getattr(bars[m], axis)
                    distance = _near_each_other(bar, bars[m]) or 1.0
                    gradient[first + m] -= run / (2 * np.pi * distance**2)
            gradients.append(math.sqrt(math.pi * room * (a + b)) * gradient)
    if gradients:
        found = np.array(gradients)
        flexibility -= found.T @ found


def _add_closeness(flexibility: Array, bars: list[BarSpot], first: int) -> None:
    """Correct bars that lie so close that each disturbs the flow around the other beyond the first order.

    Two rigid cylinders at a distance D exchange shear with a flexibility arcosh((D² − r² − s²)/2rs)/2πG, where line
    sources that polarise each other give (ln(D²/rs) − (r² + s²)/D²)/2πG (the two-wire line); touching rods cannot slide
    past each other at all. The difference goes to their opposed forces.
    """
    for i, one in enumerate(bars):
        for j in range(i):
            other = bars[j]
            r, s = _radius(one), _radius(other)
            distance = _near_each_other(one, other)
            if distance is None:
                continue
            exact = np.arccosh((distance**2 - r**2 - s**2) / (2 * r * s))
            change = (exact - np.log(distance**2 / (r * s)) + (r**2 + s**2) / distance**2) / (8 * np.pi)
            a, b = first + i, first + j
            flexibility[a, a] += change
            flexibility[b, b] += change
            flexibility[a, b] -= change
            flexibility[b, a] -= change


def least_slip(one: BarSpot, other: BarSpot, under_skin: bool) -> float:
    """Least flexibility, times G, with which two rigid bars that push each other slip in a core; 0 for bars far apart.

    In endless foam it is arcosh((D² − r² − s²)/2rs)/2π (the two-wire line). In a section between bare faces fine finite
    volumes find 0.94 to 1.15 of that; under a film, which carries shear past the bars, 0.55 + 0.3 ((r + s)/D)² to two
    hundredths (tests/core/section/test_close_bars).
    """
    r, s, distance = _radius(one), _radius(other), _near_each_other(one, other)
    if distance is None:
        return 0.0
    share = 0.55 + 0.3 * ((r + s) / distance) ** 2 if under_skin else 0.93
    return share * float(np.arccosh(max((distance**2 - r**2 - s**2) / (2 * r * s), 1.0)) / (2 * np.pi))


def _is_resolved(bar: BarSpot, piece: Piece) -> bool:
    """Whether a bar acts as a web, so that the grid must see its body: 0.4 of the depth, 1.5 cells wide. A bar on a web
    hands its force to the web, not to the foam beside it: it has no near field of its own either."""
    if any(s.face == "web" and abs(s.x0 - bar.x) <= 0.5 * bar.width for s in piece.station.skins):
        return True
    c = min(max(int(piece.xs.searchsorted(bar.x)), 1), len(piece.xs) - 1)
    return bool(bar.width >= 1.5 * (piece.xs[c] - piece.xs[c - 1]) and bar.height >= 0.4 * piece.depth(bar.x))


def _bar_source(bar: BarSpot, resolved: bool, piece: Piece) -> tuple[IntArray, Array, float]:
    """Nodes and weights of a unit axial force rate in a bar, and the near-field flexibility the grid misses (G = 1).

    A flat bar wider than a cell is spread over points along its longer side.
    """
    xs, zeta, node = piece.xs, piece.zeta, piece.node
    c = min(max(int(xs.searchsorted(bar.x)), 1), len(xs) - 2)
    step_x = 0.5 * (xs[c + 1] - xs[c - 1])
    step_z = piece.depth(bar.x) / ROWS
    long, short = max(bar.width, bar.height), min(bar.width, bar.height)
    flat = bar.width >= bar.height
    pieces = max(1, round(long / (step_x if flat else step_z))) if long > 2 * short else 1
    along = (np.arange(pieces) + 0.5) / pieces * long - long / 2
    points_x = np.minimum(np.maximum(bar.x + (along if flat else 0.0 * along), xs[0]), xs[-1])
    points_z = bar.z + (0.0 * along if flat else along)
    lo, up = np.interp(points_x, xs, piece.lower), np.interp(points_x, xs, piece.upper)
    level = np.minimum(np.maximum((points_z - lo) / (up - lo), 0), 1)
    i = np.minimum(np.maximum(xs.searchsorted(points_x, side="right") - 1, 0), len(xs) - 2)
    j = np.minimum(np.maximum(zeta.searchsorted(level, side="right") - 1, 0), len(zeta) - 2)
    fx = (points_x - xs[i]) / (xs[i + 1] - xs[i])
    fz = (level - zeta[j]) / (zeta[j + 1] - zeta[j])
    nodes = np.concatenate([node[i, j], node[i, j + 1], node[i + 1, j], node[i + 1, j + 1]])
    shares = np.concatenate([(1 - fx) * (1 - fz), (1 - fx) * fz, fx * (1 - fz), fx * fz]) / pieces
    if resolved:
        return nodes, shares, 0.0
    row = min(max(int(zeta.searchsorted(level[0])), 1), len(zeta) - 2)
    cell_z = 0.5 * (zeta[row + 1] - zeta[row - 1]) * step_z * ROWS
    grid_radius = SOURCE_RADIUS * math.sqrt(0.5 * (step_x**2 + cell_z**2))
    radius = (long / pieces + short) / 4
    return nodes, shares, math.log(grid_radius / radius) / pieces / (2 * math.pi)
