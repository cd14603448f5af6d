r"""Torsion of a solid core with skins, by Prandtl's stress function on the section grid."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.section.grid import Edge, Edges, Grid, Piece, assemble, solve_band


@dataclass(frozen=True)
class Torsion:
    """Torsion of one station. `constant` mm⁴ with foam G = 1 (GJ = G · constant); `skin_share` of each skin in it,
    d ln J / d ln S; `core_shear` the shear stress in the foam per unit of torque that a twentieth of it exceeds
    (1/mm³); `skin_flow` the largest shear flow of each skin per unit of torque (1/mm²)."""

    constant: float
    skin_share: Array
    core_shear: float
    skin_flow: Array


_SIDES = {"lower": 0, "upper": 1, "front": 2, "rear": 3}


def _cover(piece: Piece, edges: list[Edge], pointed: bool) -> tuple[Array, Array, Array]:
    """Nodes of every piece of the rim, first and second, and the shear stiffness of each skin there (skins, rim)."""
    node = piece.node
    lines = [node[:, 0], node[:, -1], node[0], node[-1]]
    starts, ends = np.concatenate([n[:-1] for n in lines]), np.concatenate([n[1:] for n in lines])
    offset = np.concatenate([[0], np.cumsum([len(n) - 1 for n in lines])])
    cover = np.zeros((len(edges), len(starts)))
    for n, edge in enumerate(edges):
        if edge.skin.face not in _SIDES:  # a web or level plate: see torsion_of
            continue
        side = _SIDES[edge.skin.face]
        cover[n, offset[side] + np.searchsorted(lines[side][:-1], edge.first)] = edge.skin.shear_ratio
    if pointed:
        for side, end in ((2, 0), (3, -1)):
            low, high = cover[:, offset[0] : offset[1]][:, end], cover[:, offset[1] : offset[2]][:, end]
            if low.sum() > 0 and high.sum() > 0:
                around = np.minimum(low.sum(), high.sum()) * (low + high) / (low.sum() + high.sum())
                cover[:, offset[side] : offset[side + 1]] = around[:, None]
    return starts, ends, cover


SHEARS_THROUGH = 0.05
"""[J] Share of the section that must be at the foam's shear strength before it shears through: what is strained more in
a corner, or where skins end, hands it on to its neighbours."""


def exceeded(values: Array, areas: Array) -> float:
    """The value that this share of the area exceeds; `values` and `areas` (cells,)."""
    order = np.argsort(-values)
    above = np.cumsum(areas[order])
    return float(values[order[int(np.searchsorted(above, SHEARS_THROUGH * above[-1]))]])


def torsion_of(grid: Grid, cells: Array, area: Array, edges: Edges, slopes: Array) -> list[Torsion]:
    r"""Torsion of every piece.

    .. math:: \nabla^2\varphi = -2\text{ in the foam},\quad \partial_n\varphi = -\varphi/S\text{ under a skin of shear
       stiffness } S,\quad \varphi = 0\text{ on bare foam},\quad J = 2\int\varphi\,\mathrm{d}A

    With a soft core this is Bredt and Batho's closed cell, with bare faces Saint-Venant's solid. Where both faces of
    an aerofoil are covered up to its pointed ends, the skin goes round them. Stresses under a torque T: T|∇φ|/J in
    the foam, the flow Tφ/J in a skin. Across a web or level plate φ would jump by its stiffness times the slope; that
    is left out, on the safe side. Holes are soft cells (1/G great), within which φ is flat.

    Parameters
    ----------
    cells : (cells, 4, 4) matrices of the bare foam.
    area : (nodes,) twice the area that belongs to each node, mm².
    slopes : (2, cells, corners) of the shape functions in the middle of every cell, 1/mm.
    """
    count = len(grid.x)
    bare = np.zeros(count, bool)
    rims = []
    for n, piece in enumerate(grid.pieces):
        starts, ends, cover = _cover(piece, edges.of_piece(n), bool(piece.xs[0] > 0))
        ratio = cover.sum(0)
        free = ratio == 0
        bare[starts[free]] = True
        bare[ends[free]] = True
        a, b = starts[~free], ends[~free]
        k = np.hypot(grid.x[a] - grid.x[b], grid.z[a] - grid.z[b]) / ratio[~free]
        rims.append((a, b, k, cover[:, ~free] / ratio[~free]))
    a, b, k = (np.concatenate([r[i] for r in rims]) for i in range(3))
    corner = grid.corner
    i = np.concatenate([np.repeat(corner, 4, axis=1).ravel(), a, b, a, b])
    j = np.concatenate([np.tile(corner, 4).ravel(), a, b, b, a])
    values = np.concatenate([cells.ravel(), k / 3, k / 3, k / 6, k / 6])
    values[bare[i] | bare[j]] = 0.0
    matrix = assemble(count, i, j, values)
    matrix[0, bare] = 1.0
    phi = solve_band(matrix, np.where(bare, 0.0, area)[:, None])[:, 0]
    found = []
    along, up = (slopes * phi[corner]).sum(-1)
    slope = np.sqrt(along * along + up * up)
    for piece, (a, b, k, shares) in zip(grid.pieces, rims, strict=True):
        constant = float(area[piece.nodes] @ phi[piece.nodes])
        energy = k * (phi[a] ** 2 + phi[b] ** 2 + phi[a] * phi[b]) / 3
        rim = 0.5 * (phi[a] + phi[b])
        found.append(
            Torsion(
                constant=constant,
                skin_share=shares @ energy / constant,
                core_shear=exceeded(slope[piece.cells], grid.det[piece.cells].sum(1)) / constant,
                skin_flow=(shares * rim).max(1, initial=0.0) / constant,
            )
        )
    return found
