"""The grid on which a cross-section's fields are solved: four-cornered cells fitted between the faces of the foam.

Several stations of one part make one grid of separate pieces, so that the arithmetic of all of them runs at once.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from scipy.linalg.lapack import dpbsv

from fletcher.core.common.arrays import Array, BoolArray, IntArray
from fletcher.core.section.outline import Outline, faces

ROWS = 12
"""Cells through the thickness."""

BAND = ROWS + 2
"""Sub-diagonals of the equations: a node's farthest neighbour in the numbering, column by column."""

_G = 1 / np.sqrt(3)
_POINTS = np.array([(-_G, -_G), (_G, -_G), (_G, _G), (-_G, _G)])
_CORNERS = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)])
SHAPE: Array = np.array([[(1 + a * p) * (1 + b * q) / 4 for a, b in _CORNERS] for p, q in _POINTS])
"""Bilinear shape functions at the integration points, (point, corner)."""
_SLOPE = np.array(
    [[[a * (1 + b * q) / 4 for a, b in _CORNERS], [b * (1 + a * p) / 4 for a, b in _CORNERS]] for p, q in _POINTS]
)


@dataclass(frozen=True)
class FaceSkin:
    """A membrane on one face of a station, for the shear solution. Lengths in mm, `shear_ratio` = G·t of the skin
    over G of the foam (mm), `offset` = distance of its mid-plane outside the foam. A "web" stands at x0; a "level"
    plate lies at `height` of the depth."""

    face: str
    x0: float
    x1: float
    shear_ratio: float
    offset: float
    height: float = 0.0


@dataclass(frozen=True)
class BarSpot:
    """A bar in a station: centre (x, z), width and height in mm, and its G over that of the foam."""

    x: float
    z: float
    width: float
    height: float
    shear_ratio: float


@dataclass(frozen=True)
class HoleSpot:
    """Foam taken out between x0 and x1 (mm): by `depth` (mm) from the "upper" or "lower" face, about the middle
    ("inside"), or right through."""

    face: str
    x0: float
    x1: float
    depth: float

    def heights(self, lower: Array, upper: Array) -> tuple[Array, Array]:
        """Between which heights it lies where the faces are at `lower` and `upper`."""
        depth = np.minimum(self.depth, upper - lower)
        if self.face == "upper":
            return upper - depth, upper
        if self.face == "lower":
            return lower, lower + depth
        if self.face == "inside":
            middle = 0.5 * (lower + upper)
            return middle - depth / 2, middle + depth / 2
        return lower, upper


@dataclass(frozen=True)
class Station:
    """One cross-section to solve: chord and thickness in mm, `split` the height z (mm) that parts foam in tension
    (below) from foam in compression, and what lies on and in the foam."""

    outline: Outline
    chord: float
    thickness: float
    split: float
    skins: tuple[FaceSkin, ...]
    bars: tuple[BarSpot, ...]
    holes: tuple[HoleSpot, ...] = ()
    stretch: tuple[float, ...] = (1.0, 1.0)
    """E of the foam below and above `split`, then E t of every skin (mm), over one modulus; missing ones count as 0."""

    def __hash__(self) -> int:
        return self._hash

    @cached_property
    def _hash(self) -> int:
        """Known stations are looked up often."""
        return hash(tuple(v for k, v in vars(self).items() if k != "_hash"))


_THIN = 0.3
"""A bar lower than this share of the thickness is a source and never a web of its own."""
_ALIKE = 0.1
"""Neutral axes so near to each other, over the thickness, part the same foam: strain vanishes between them."""


def shared(stations: list[Station]) -> tuple[list[Station], list[int]]:
    """Stations to solve, with the bars of all that share them, and the number of the one that serves each."""
    found: list[Station] = []
    places = []
    for s in stations:
        plain = all(b.height < _THIN * s.thickness for b in s.bars) and all(k.face != "web" for k in s.skins)
        n = next((i for i, other in enumerate(found) if plain and _same_but_bars(s, other)), None)
        if n is None:
            found.append(s)
            places.append(len(found) - 1)
        else:
            found[n] = replace(found[n], bars=(*found[n].bars, *(b for b in s.bars if b not in found[n].bars)))
            places.append(n)
    return found, places


def _same_but_bars(one: Station, other: Station) -> bool:
    return (
        (one.chord, one.thickness, one.skins, one.holes) == (other.chord, other.thickness, other.skins, other.holes)
        and abs(one.split - other.split) < _ALIKE * one.thickness
        and one.outline == other.outline
        and all(b.height < _THIN * one.thickness for b in other.bars)
    )


@dataclass(frozen=True)
class Piece:
    """The part of a grid that belongs to one station: its columns at `xs` with the faces' heights there, its levels
    `zeta` in [0, 1], the numbers of its nodes (columns, levels), and the slices of nodes and cells."""

    station: Station
    xs: Array
    zeta: Array
    lower: Array
    upper: Array
    node: IntArray
    nodes: slice
    cells: slice

    def depth(self, x: float) -> float:
        """Foam between the faces at x, mm."""
        return float(np.interp(x, self.xs, self.upper - self.lower))

    def void(self, x: Array, z: Array) -> BoolArray:
        """Whether places lie in a hole."""
        lower, upper = np.interp(x, self.xs, self.lower), np.interp(x, self.xs, self.upper)
        found = np.zeros(np.shape(x), bool)
        for hole in self.station.holes:
            low, high = hole.heights(lower, upper)
            found |= (x > hole.x0) & (x < hole.x1) & (z >= low) & (z <= high)
        return found


@dataclass(frozen=True)
class Grid:
    """Cells and nodes of all pieces. `x`, `z` (nodes,); `corner` (cells, 4) node numbers; `px`, `pz`, `det` (cells, 4)
    place and area of the integration points; `dx`, `dz` (cells, 4 points, 4 corners) slopes of the shape functions."""

    pieces: list[Piece]
    x: Array
    z: Array
    corner: IntArray
    px: Array
    pz: Array
    det: Array
    dx: Array
    dz: Array


def _stops(x_first: float, x_last: float, bars: list[float], edges: list[float], cell: float) -> list[float]:
    """Places along the chord that must have a grid line: bars first, then edges of skins and holes; none so near to one
    before it that the cell between them would be a sliver."""
    kept: list[float] = []
    for places, apart in ((bars, 0.1 * cell), (edges, 0.3 * cell)):
        for place in sorted(places):
            if all(abs(place - other) > apart for other in kept) and x_first + 0.2 * cell < place < x_last - 0.2 * cell:
                kept.append(place)
    return [x_first, *sorted(kept), x_last]


def _columns(stops: list[float], cell: float, coarsest: float) -> Array:
    """Grid lines along the chord: one on every stop, cells growing away from them by a quarter per cell."""
    special = np.array(stops)
    start, run = np.array(stops[:-1])[:, None], np.diff(stops)[:, None]
    # as many cells as the wanted sizes fill, each an equal share of ∫dx/size: alike from either end
    x = start + run * _EVEN
    rate = 1 / np.minimum(coarsest, cell + 0.22 * np.min(np.abs(x[..., None] - special), axis=-1))
    filled = np.zeros(x.shape)
    np.cumsum((0.5 * run / (len(_EVEN) - 1)) * (rate[:, 1:] + rate[:, :-1]), axis=1, out=filled[:, 1:])
    counts = np.maximum(np.round(filled[:, -1] + 0.3), 1).astype(int)
    lines = [
        np.interp(np.arange(1, count + 1) / count * size[-1], size, at)
        for count, size, at in zip(counts, filled, x, strict=True)
    ]
    return np.concatenate([stops[:1], *lines])


_EVEN = np.linspace(0, 1, 65)


def _rows(bars: list[float], holes: list[float]) -> Array:
    """Grid levels through the thickness in [0, 1], moved so that bars lie on them and, where there is room, floors of
    holes: a bar beside its level would be spread over two, and seem held better than it is."""
    zeta = np.linspace(0, 1, ROWS + 1)
    anchors = {0: 0.0, ROWS: 1.0}
    for level in (*sorted(bars), *sorted(holes)):
        row = min(max(round(level * ROWS), 1), ROWS - 1)
        near = [abs(level - v) for v in anchors.values()]
        if row not in anchors and min(near) > 0.25 / ROWS:
            anchors[row] = level
    keys = sorted(anchors)
    values = [anchors[k] for k in keys]
    if any(b <= a for a, b in itertools.pairwise(values)):
        return zeta
    return np.interp(np.arange(ROWS + 1), keys, values)


_BOTH_ENDS = np.array([0.0, 1.0])


def grid_of(stations: list[Station]) -> Grid:
    """The grid of several stations of one outline family."""
    all_xs = []
    for s in stations:
        first, last = 0.0, s.chord
        chord, thickness = np.array(s.chord), np.array(s.thickness)
        low, high = faces(s.outline, _BOTH_ENDS, chord, thickness)
        if high[0] - low[0] <= 1e-9:
            first = 0.004 * s.chord
        if high[1] - low[1] <= 1e-9:
            last = 0.996 * s.chord
        cell = s.thickness / ROWS
        ends = [x for k in s.skins if k.face not in ("front", "rear") for x in (k.x0, k.x1)]
        ends += [x for hole in s.holes for x in (hole.x0, hole.x1)]
        stops = _stops(first, last, [b.x for b in s.bars], ends, cell)
        all_xs.append(_columns(stops, cell, s.chord / 22))
    pieces, x_parts, z_parts, corners = [], [], [], []
    base = cells = 0
    for s, xs in zip(stations, all_xs, strict=True):
        lower, upper = faces(s.outline, xs / s.chord, np.array(s.chord), np.array(s.thickness))
        levels: list[float] = []
        floors: list[float] = []
        for bar in s.bars:
            lo, up = np.interp(bar.x, xs, lower), np.interp(bar.x, xs, upper)
            levels.append(min(max(float((bar.z - lo) / (up - lo)), 0.01), 0.99))
        for hole in s.holes:
            at = 0.5 * (hole.x0 + hole.x1)
            lo, up = np.interp(at, xs, lower), np.interp(at, xs, upper)
            floors += [float((z - lo) / (up - lo)) for z in hole.heights(np.asarray(lo), np.asarray(up)) if lo < z < up]
        zeta = _rows(levels, floors)
        node = base + np.arange(len(xs) * (ROWS + 1)).reshape(len(xs), ROWS + 1)
        count = (len(xs) - 1) * ROWS
        pieces.append(
            Piece(s, xs, zeta, lower, upper, node, slice(base, base + node.size), slice(cells, cells + count))
        )
        x_parts.append(np.repeat(xs, ROWS + 1))
        z_parts.append((lower[:, None] + zeta * (upper - lower)[:, None]).ravel())
        corners.append(np.stack([node[:-1, :-1], node[1:, :-1], node[1:, 1:], node[:-1, 1:]], -1).reshape(-1, 4))
        base, cells = base + node.size, cells + count
    x, z, corner = np.concatenate(x_parts), np.concatenate(z_parts), np.concatenate(corners)
    ex, ez = x[corner], z[corner]
    jx, jz = (e @ _SLOPE.reshape(8, 4).T for e in (ex, ez))
    jx, jz = jx.reshape(-1, 4, 2), jz.reshape(-1, 4, 2)
    det = jx[..., 0] * jz[..., 1] - jx[..., 1] * jz[..., 0]
    over = (1 / det)[..., None]
    dx = (jz[..., 1, None] * _SLOPE[None, :, 0] - jz[..., 0, None] * _SLOPE[None, :, 1]) * over
    dz = (jx[..., 0, None] * _SLOPE[None, :, 1] - jx[..., 1, None] * _SLOPE[None, :, 0]) * over
    return Grid(pieces, x, z, corner, ex @ SHAPE.T, ez @ SHAPE.T, det, dx, dz)


def mean_slopes(grid: Grid) -> Array:
    """Slopes of the shape functions in the middle of every cell, (2, cells, corners)."""
    return np.stack([grid.dx.mean(1), grid.dz.mean(1)])


def cell_matrices(weight: Array, dx: Array, dz: Array) -> Array:
    """Cell matrices ∫ weight ∇N·∇N, (cells, 4, 4), from weights (cells, points) and slopes (cells, points, 4)."""
    slopes = np.concatenate([dx, dz], 1)
    return np.asarray(np.swapaxes(slopes * np.concatenate([weight, weight], 1)[..., None], 1, 2) @ slopes)


def assemble(count: int, i: IntArray, j: IntArray, value: Array) -> Array:
    """Lower band (BAND + 1, count) of a symmetric matrix from its entries; those above the diagonal are left out."""
    keep = i >= j
    i, j = i[keep], j[keep]
    flat = np.bincount((i - j) * count + j, value[keep], (BAND + 1) * count)
    return np.asarray(flat, float).reshape(BAND + 1, count)


def solve_band(band: Array, right: Array) -> Array:
    """Solve a symmetric positive definite band (lower form, overwritten) for right-hand sides (n, m)."""
    _, solution, failed = dpbsv(np.asfortranarray(band), right, lower=1, overwrite_ab=1)
    if failed:
        raise np.linalg.LinAlgError(f"the section's equations are singular at unknown {failed}")
    return np.asarray(solution)


@dataclass(frozen=True)
class Edge:
    """A skin of a piece with the first and second node of every cell edge under it, `rows` of all such."""

    piece: int
    index: int
    skin: FaceSkin
    first: IntArray
    second: IntArray
    rows: slice


@dataclass(frozen=True)
class Edges:
    """The skins of all pieces, each on its cell edges; and all cell edges in one row: nodes, length (mm), the shear
    stiffness of their skin and its number among `skins`, (edges,) each."""

    skins: list[Edge]
    first: IntArray
    second: IntArray
    length: Array
    ratio: Array
    of: IntArray

    def each(self, values: list[float]) -> Array:
        """Values of the skins for all cell edges."""
        return np.array(values, float)[self.of]

    def of_piece(self, piece: int) -> list[Edge]:
        """The skins of a piece."""
        return [e for e in self.skins if e.piece == piece]


def edges_of(grid: Grid) -> Edges:
    """The skins of all pieces on their cell edges."""
    found: list[Edge] = []
    count = 0

    def add(piece: int, index: int, skin: FaceSkin, first: IntArray, second: IntArray) -> None:
        nonlocal count
        found.append(Edge(piece, index, skin, first, second, slice(count, count + len(first))))
        count += len(first)

    for n, piece in enumerate(grid.pieces):
        middle = 0.5 * (piece.xs[1:] + piece.xs[:-1])
        for k, skin in enumerate(piece.station.skins):
            if skin.face in ("front", "rear"):
                line = piece.node[0] if skin.face == "front" else piece.node[-1]
                add(n, k, skin, line[:-1], line[1:])
                continue
            if skin.face == "web":
                line = piece.node[int(np.argmin(np.abs(piece.xs - skin.x0)))]
                add(n, k, skin, line[:-1], line[1:])
                continue
            row = {"upper": ROWS, "lower": 0}.get(skin.face, int(np.argmin(np.abs(piece.zeta - skin.height))))
            line = piece.node[:, row]
            under = (middle > skin.x0) & (middle < skin.x1)
            add(n, k, skin, line[:-1][under], line[1:][under])
    of = np.repeat(np.arange(len(found)), [len(e.first) for e in found])
    first, second = (
        np.concatenate([np.zeros(0, int), *(getattr(e, end) for e in found)]) for end in ("first", "second")
    )
    run, rise = grid.x[second] - grid.x[first], grid.z[second] - grid.z[first]
    ratio = np.array([e.skin.shear_ratio for e in found])[of]
    return Edges(found, first, second, np.sqrt(run * run + rise * rise), ratio, of)
