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

import itertools
from dataclasses import dataclass

import numpy as np
from scipy.linalg.lapack import dpbsv

from fletcher.core.outline import Array, IntArray, Outline, faces

ROWS = 12
"""Cells through the thickness."""

SOURCE_RADIUS = 0.118
"""Radius, in cells, at which a bilinear nodal source equals the exact line source (tests/core/test_warping)."""

_G = 1 / np.sqrt(3)
_POINTS = np.array([(-_G, -_G), (_G, -_G), (_G, _G), (-_G, _G)])
_CORNERS = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)])
_N = np.array([[(1 + a * p) * (1 + b * q) / 4 for a, b in _CORNERS] for p, q in _POINTS])
_DN = np.array(
    [[[a * (1 + b * q) / 4 for a, b in _CORNERS], [b * (1 + a * p) / 4 for a, b in _CORNERS]] for p, q in _POINTS]
)


@dataclass(frozen=True)
class FaceSkin:
    """A membrane on one face of a station, for the shear solution. Lengths in mm, `shear_ratio` = G·t of the skin
    over G of the foam (mm), `offset` = distance of its mid-plane outside the foam."""

    face: str
    x0: float
    x1: float
    shear_ratio: float
    offset: float


@dataclass(frozen=True)
class BarSpot:
    """A bar in a station: centre (x, z), width and height in mm, and its G over that of the foam."""

    x: float
    z: float
    width: float
    height: float
    shear_ratio: float


def _columns(x_first: float, x_last: float, fine: list[float], cell: float, coarsest: float) -> Array:
    """Grid lines along the chord: one on every `fine` point, cells growing away from them by a quarter per cell."""
    stops = [x_first]
    for x in sorted(fine):
        if x - stops[-1] > 0.3 * cell and x_last - x > 0.3 * cell:
            stops.append(x)
    stops.append(x_last)
    special = np.array([*fine, x_first, x_last])
    lines = [np.array([x_first])]
    for a, b in itertools.pairwise(stops):
        # as many cells as the wanted sizes fill, each an equal share of ∫dx/size: alike from either end
        x = np.linspace(a, b, 65)
        size = np.minimum(coarsest, cell + 0.22 * np.min(np.abs(x[:, None] - special), axis=1))
        filled = np.concatenate([[0.0], np.cumsum(0.5 * (1 / size[1:] + 1 / size[:-1]) * np.diff(x))])
        count = max(1, round(float(filled[-1]) + 0.3))
        lines.append(np.interp(np.arange(1, count + 1) / count * filled[-1], filled, x))
    return np.concatenate(lines)


def _rows(levels: list[float]) -> Array:
    """Grid levels through the thickness in [0, 1], moved so that bars lie on them."""
    zeta = np.linspace(0, 1, ROWS + 1)
    anchors = {0: 0.0, ROWS: 1.0}
    for level in sorted(levels):
        row = int(np.clip(round(level * ROWS), 1, ROWS - 1))
        near = [abs(level - v) for v in anchors.values()]
        if row not in anchors and min(near) > 0.25 / ROWS:
            anchors[row] = level
    keys = sorted(anchors)
    values = [anchors[k] for k in keys]
    if any(b <= a for a, b in itertools.pairwise(values)):
        return zeta
    return np.interp(np.arange(ROWS + 1), keys, values)


@dataclass(frozen=True)
class Flexibility:
    """What one solution of a station tells. Basis sources number 4 + 2·skins + bars.

    Order of the basis: foam below `split` with unit modulus and constant strain, foam below with strain z, foam above
    likewise two; then per skin constant and z (per unit E·t); then per bar a unit axial force rate.
    """

    matrix: Array
    """Work of one source on the warping of another; contract with modulus coefficients and divide by the foam's G."""
    force: Array
    """Vertical shear force that each source's warping carries, up to a common factor."""
    torque: Array
    """Moment of the same shear about the nose of the chord line; torque over force is the shear centre."""
    peak: Array
    """Gradient of each source's warping at the cells, (2, cells, sources); cells beside a bar are left out."""
    torsion: float
    """Torsion constant with foam G = 1, mm⁴: GJ = G · torsion."""
    torsion_skin: Array
    """Share of each skin in the torsional stiffness, d ln GJ / d ln Gt; the foam has the rest."""


def solve(
    outline: Outline,
    chord: float,
    thickness: float,
    split: float,
    skins: list[FaceSkin],
    bars: list[BarSpot],
) -> Flexibility:
    """Solve the flexure function for all basis sources of one station.

    Parameters
    ----------
    chord, thickness : mm.
    split : height z (mm) that parts foam in tension (below) from foam in compression.
    skins, bars : what lies on and in the foam; shear stiffness relative to the foam's.

    Returns
    -------
    Flexibility with `matrix[i, j]` = work of source i on the warping of source j, N⁻¹·mm⁴-like units of the
    unit-modulus basis; contract with modulus coefficients and divide by the foam's G.
    """
    first, last = (0.0, chord)
    if faces(outline, np.array(0.0), np.array(chord), np.array(thickness))[1] <= 1e-9:
        first = 0.004 * chord
    cell = thickness / ROWS
    inside = [x for s in skins if s.face in ("upper", "lower") for x in (s.x0, s.x1)] + [b.x for b in bars]
    fine = [x for x in inside if first + 0.2 * cell < x < last - 0.2 * cell]
    xs = _columns(first, last, fine, cell, chord / 22)
    lower, upper = faces(outline, xs / chord, np.array(chord), np.array(thickness))

    def level(bar: BarSpot) -> float:
        lo, up = np.interp(bar.x, xs, lower), np.interp(bar.x, xs, upper)
        return float(np.clip((bar.z - lo) / (up - lo), 0.01, 0.99))

    zeta = _rows([level(b) for b in bars])
    nx, nz = len(xs) - 1, ROWS
    z = lower[:, None] + zeta[None, :] * (upper - lower)[:, None]
    x = np.broadcast_to(xs[:, None], z.shape)
    node = np.arange((nx + 1) * (nz + 1)).reshape(nx + 1, nz + 1)
    count = node.size

    corner = np.stack([node[:-1, :-1], node[1:, :-1], node[1:, 1:], node[:-1, 1:]], -1).reshape(-1, 4)
    ex, ez = x.ravel()[corner], z.ravel()[corner]
    px, pz = ex @ _N.T, ez @ _N.T
    jx, jz = np.einsum("pdk,ek->epd", _DN, ex), np.einsum("pdk,ek->epd", _DN, ez)
    det = jx[..., 0] * jz[..., 1] - jx[..., 1] * jz[..., 0]
    dx = (jz[..., 1, None] * _DN[None, :, 0] - jz[..., 0, None] * _DN[None, :, 1]) / det[..., None]
    dz = (jx[..., 0, None] * _DN[None, :, 1] - jx[..., 1, None] * _DN[None, :, 0]) / det[..., None]
    stiffness = np.ones_like(px)
    resolved = [_is_resolved(b, xs, float(np.interp(b.x, xs, upper - lower))) for b in bars]
    for bar, wide in zip(bars, resolved, strict=True):
        if wide:
            within = (np.abs(px - bar.x) <= bar.width / 2) & (np.abs(pz - bar.z) <= bar.height / 2)
            stiffness[within] = bar.shear_ratio
    weight = det * stiffness
    element = _elements(weight, dx, dz)

    rows_i = np.broadcast_to(corner[:, :, None], element.shape).ravel()
    rows_j = np.broadcast_to(corner[:, None, :], element.shape).ravel()
    edges = [(s, *_edge_nodes(s, node, xs)) for s in skins]
    line_i: list[IntArray] = [rows_i]
    line_j: list[IntArray] = [rows_j]
    line_k: list[Array] = [element.ravel()]
    xf, zf = x.ravel(), z.ravel()
    for skin, a, b in edges:
        if skin.shear_ratio > 0 and len(a):
            k = skin.shear_ratio / np.hypot(xf[b] - xf[a], zf[b] - zf[a])
            line_i += [a, b, a, b]
            line_j += [a, b, b, a]
            line_k += [k, k, -k, -k]
    i, j, k = np.concatenate(line_i), np.concatenate(line_j), np.concatenate(line_k)
    band = nz + 2
    keep = i >= j
    flat = np.bincount((i - j)[keep] * count + j[keep], weights=k[keep], minlength=(band + 1) * count)
    matrix = flat.reshape(band + 1, count)
    matrix[0, 0] += float(np.mean(matrix[0]))  # holds the free constant; balanced sources never load it

    sources = np.zeros((count, 4 + 2 * len(skins) + len(bars)))
    below = pz < split
    for column, mask in ((0, below), (2, ~below)):
        for power in (0, 1):
            density = det * mask * (pz if power else 1.0)
            sources[:, column + power] = np.bincount(corner.ravel(), (density @ _N).ravel(), count)
    for n, (skin, a, b) in enumerate(edges):
        if not len(a):
            continue
        ds = np.hypot(xf[b] - xf[a], zf[b] - zf[a])
        out = skin.offset * {"upper": 1.0, "lower": -1.0}.get(skin.face, 0.0) * np.abs(xf[b] - xf[a]) / ds
        za, zb = zf[a] + out, zf[b] + out
        c = 4 + 2 * n
        sources[:, c] = np.bincount(a, ds / 2, count) + np.bincount(b, ds / 2, count)
        sources[:, c + 1] = np.bincount(a, ds * (2 * za + zb) / 6, count) + np.bincount(
            b, ds * (za + 2 * zb) / 6, count
        )

    near = np.zeros(sources.shape[1])
    for n, (bar, wide) in enumerate(zip(bars, resolved, strict=True)):
        column = 4 + 2 * len(skins) + n
        sources[:, column], near[column] = _bar_source(bar, wide, xs, zeta, lower, upper, node)

    warping = _solve(matrix, sources)
    plain = _elements(det, dx, dz) if any(resolved) else element
    area = 2 * (sources[:, 0] + sources[:, 2])
    torsion, torsion_skin = _torsion(plain, corner, edges, xf, zf, area, node, band)

    # resultants of the shear stresses, as functionals of the warping
    up_pull = np.zeros(count) + np.bincount(corner.ravel(), np.einsum("ep,epi->ei", weight, dz).ravel(), count)
    twist_pull = np.einsum("ep,epi->ei", weight * px, dz) - np.einsum("ep,epi->ei", weight * pz, dx)
    turn_pull = np.zeros(count) + np.bincount(corner.ravel(), twist_pull.ravel(), count)
    for skin, a, b in edges:
        if len(a):
            run_x, run_z = xf[b] - xf[a], zf[b] - zf[a]
            flow = skin.shear_ratio / np.hypot(run_x, run_z) ** 2
            arm = 0.5 * (xf[a] + xf[b]) * run_z - 0.5 * (zf[a] + zf[b]) * run_x
            length = np.hypot(run_x, run_z)
            for nodes_, sign in ((b, 1.0), (a, -1.0)):
                up_pull = up_pull + sign * np.bincount(nodes_, flow * run_z * length, count)
                turn_pull = turn_pull + sign * np.bincount(nodes_, flow * arm * length, count)

    # mean gradient of the warping in every cell; beside a bar the bond line is looked at instead
    beside = np.zeros(count, bool)
    beside[np.any(np.abs(sources[:, 4 + 2 * len(skins) :]) > 0, axis=1)] = True
    cells = ~np.any(beside[corner], axis=1)
    at_corner = warping[corner[cells]]
    peak = np.stack([(d[cells].mean(1)[:, None] @ at_corner)[:, 0] for d in (dx, dz)])

    flexibility = sources.T @ warping
    flexibility[np.diag_indices_from(flexibility)] += near
    _add_closeness(flexibility, bars, 4 + 2 * len(skins))
    return Flexibility(
        matrix=0.5 * (flexibility + flexibility.T),
        force=up_pull @ warping,
        torque=turn_pull @ warping,
        peak=peak,
        torsion=torsion,
        torsion_skin=torsion_skin,
    )


def _torsion(
    element: Array,
    corner: IntArray,
    edges: list[tuple[FaceSkin, IntArray, IntArray]],
    x: Array,
    z: Array,
    area: Array,
    node: IntArray,
    band: int,
) -> tuple[float, Array]:
    r"""Torsion constant of the foam (G = 1) with its skins, by Prandtl's stress function.

    .. math:: \nabla^2\varphi = -2\text{ in the foam},\quad \partial_n\varphi = -\varphi/S\text{ under a skin of shear
       stiffness } S,\quad \varphi = 0\text{ on bare foam},\quad J = 2\int\varphi\,\mathrm{d}A

    With a soft core this is Bredt and Batho's closed cell, with bare faces Saint-Venant's solid. Where both faces of
    an aerofoil are covered up to its pointed ends, the skin goes round them.
    """
    count = node.size
    lines = [node[:, 0], node[:, -1], node[0], node[-1]]
    starts, ends = np.concatenate([n[:-1] for n in lines]), np.concatenate([n[1:] for n in lines])
    # shear stiffness of every skin on every piece of the rim, (skins, pieces)
    place = {"lower": 0, "upper": 1, "front": 2, "rear": 3}
    offset = np.concatenate([[0], np.cumsum([len(n) - 1 for n in lines])])
    cover = np.zeros((len(edges), len(starts)))
    for n, (skin, first, _) in enumerate(edges):
        at = place[skin.face]
        pieces = np.searchsorted(lines[at][:-1], first)
        cover[n, offset[at] + pieces] = skin.shear_ratio
    if x[node[0, 0]] > 0:
        for at, end in ((2, 0), (3, -1)):
            low, high = cover[:, offset[0] : offset[1]][:, end], cover[:, offset[1] : offset[2]][:, end]
            if low.sum() > 0 and high.sum() > 0:
                around = np.minimum(low.sum(), high.sum()) * (low + high) / (low.sum() + high.sum())
                cover[:, offset[at] : offset[at + 1]] = around[:, None]
    ratio = cover.sum(0)
    covered = ratio > 0
    bare = np.zeros(count, bool)
    bare[starts[~covered]] = True
    bare[ends[~covered]] = True
    a, b = starts[covered], ends[covered]
    k = np.hypot(x[a] - x[b], z[a] - z[b]) / ratio[covered]
    rows = [np.broadcast_to(corner[:, :, None], element.shape).ravel(), a, b, a, b]
    columns = [np.broadcast_to(corner[:, None, :], element.shape).ravel(), a, b, b, a]
    values = [element.ravel(), k / 3, k / 3, k / 6, k / 6]
    i_all, j_all, v_all = np.concatenate(rows), np.concatenate(columns), np.concatenate(values)
    fixed = bare[i_all] | bare[j_all]
    keep = (i_all >= j_all) & ~fixed
    flat = np.bincount((i_all - j_all)[keep] * count + j_all[keep], v_all[keep], (band + 1) * count)
    matrix = flat.reshape(band + 1, count)
    matrix[0, bare] = 1.0
    load = np.where(bare, 0.0, area)
    phi = _solve(matrix, load[:, None])[:, 0]
    constant = float(area @ phi)
    energy = k * (phi[a] ** 2 + phi[b] ** 2 + phi[a] * phi[b]) / 3
    shares = (cover[:, covered] / ratio[covered]) @ energy / constant
    return constant, shares


def _solve(band: Array, right: Array) -> Array:
    """Solve a symmetric positive definite band (lower form, overwritten) for right-hand sides (n, m)."""
    _, solution, failed = dpbsv(np.asfortranarray(band), right, lower=1, overwrite_ab=1)
    if failed:
        raise np.linalg.LinAlgError(f"the section's equations are singular at unknown {failed}")
    return np.asarray(solution)


def _elements(weight: Array, dx: Array, dz: Array) -> Array:
    """Element matrices ∫ G ∇N·∇N, (e, 4, 4), from weights (e, p) and gradients (e, p, 4)."""
    left = np.concatenate([dx, dz], 1) * np.concatenate([weight, weight], 1)[..., None]
    return np.asarray(np.swapaxes(left, 1, 2) @ np.concatenate([dx, dz], 1))


def _radius(bar: BarSpot) -> float:
    """Radius of the round bar that spreads its force into the foam alike: exact for a rod and for a thin flat."""
    return (bar.width + bar.height) / 4


def _add_closeness(flexibility: Array, bars: list[BarSpot], first: int) -> None:
    """Correct bars that lie so close that each disturbs the flow around the other.

    Two rigid cylinders at a distance D exchange shear with a flexibility arcosh((D² − r² − s²)/2rs)/2πG, where line
    sources give ln(D²/rs)/2πG (the two-wire line); touching rods cannot slide past each other at all. The difference
    goes to their opposed forces.
    """
    for i, one in enumerate(bars):
        for j in range(i):
            other = bars[j]
            r, s = _radius(one), _radius(other)
            distance = max(float(np.hypot(one.x - other.x, one.z - other.z)), r + s)
            if distance > 5 * (r + s):
                continue
            exact = np.arccosh((distance**2 - r**2 - s**2) / (2 * r * s))
            change = (exact - np.log(distance**2 / (r * s))) / (8 * np.pi)
            a, b = first + i, first + j
            flexibility[a, a] += change
            flexibility[b, b] += change
            flexibility[a, b] -= change
            flexibility[b, a] -= change


def _edge_nodes(skin: FaceSkin, node: IntArray, xs: Array) -> tuple[IntArray, IntArray]:
    """First and second node of every grid edge under a skin."""
    if skin.face in ("front", "rear"):
        line = node[0] if skin.face == "front" else node[-1]
        return line[:-1], line[1:]
    line = node[:, -1] if skin.face == "upper" else node[:, 0]
    middle = 0.5 * (xs[1:] + xs[:-1])
    under = (middle > skin.x0) & (middle < skin.x1)
    return line[:-1][under], line[1:][under]


def _is_resolved(bar: BarSpot, xs: Array, depth: float) -> bool:
    """Whether a bar acts as a web, so that the grid must see its body: 0.4 of the depth, 1.5 cells wide."""
    c = int(np.clip(np.searchsorted(xs, bar.x), 1, len(xs) - 1))
    return bool(bar.width >= 1.5 * (xs[c] - xs[c - 1]) and bar.height >= 0.4 * depth)


def _bar_source(
    bar: BarSpot, resolved: bool, xs: Array, zeta: Array, lower: Array, upper: Array, node: IntArray
) -> tuple[Array, float]:
    """Nodal weights of a unit axial force rate in a bar, and the near-field flexibility the grid misses (G = 1).

    A flat bar wider than a cell is spread over points along its longer side.
    """
    c = int(np.clip(np.searchsorted(xs, bar.x), 1, len(xs) - 2))
    step_x = 0.5 * (xs[c + 1] - xs[c - 1])
    step_z = float(np.interp(bar.x, xs, upper - lower)) / ROWS
    long, short = max(bar.width, bar.height), min(bar.width, bar.height)
    flat = bar.width >= bar.height
    pieces = max(1, round(long / (step_x if flat else step_z))) if long > 2 * short else 1
    along = (np.arange(pieces) + 0.5) / pieces * long - long / 2
    points_x = np.clip(bar.x + (along if flat else 0.0 * along), xs[0], xs[-1])
    points_z = bar.z + (0.0 * along if flat else along)
    lo, up = np.interp(points_x, xs, lower), np.interp(points_x, xs, upper)
    level = np.clip((points_z - lo) / (up - lo), 0, 1)
    i = np.clip(np.searchsorted(xs, points_x, side="right") - 1, 0, len(xs) - 2)
    j = np.clip(np.searchsorted(zeta, level, side="right") - 1, 0, len(zeta) - 2)
    fx = (points_x - xs[i]) / (xs[i + 1] - xs[i])
    fz = (level - zeta[j]) / (zeta[j + 1] - zeta[j])
    corners = np.concatenate([node[i, j], node[i, j + 1], node[i + 1, j], node[i + 1, j + 1]])
    shares = np.concatenate([(1 - fx) * (1 - fz), (1 - fx) * fz, fx * (1 - fz), fx * fz]) / pieces
    source = np.bincount(corners, shares, node.size)
    if resolved:
        return source, 0.0
    row = int(np.clip(np.searchsorted(zeta, level[0]), 1, len(zeta) - 2))
    cell_z = 0.5 * (zeta[row + 1] - zeta[row - 1]) * step_z * ROWS
    grid_radius = SOURCE_RADIUS * np.sqrt(0.5 * (step_x**2 + cell_z**2))
    radius = (long / pieces + short) / 4
    energy = np.log(grid_radius / radius) / pieces
    # a rigid bar near a face lies in the field of its own image and is polarised by it: -(r/D)² to first order
    for gap in (up[0] - bar.z, bar.z - lo[0]):
        energy -= (_radius(bar) / (2 * max(float(gap), _radius(bar)))) ** 2
    return source, float(energy / (2 * np.pi))
