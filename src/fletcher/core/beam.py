r"""The part as a beam whose bars are tied to the foam by shear.

Every bar g has its own axial force N_g(y), zero at a free end, so that run-outs, short bars and single bars come out
of the same equations as long pairs. Complementary energy, with a_g the arm of the bar about the host's centroid
(host = foam and skins):

.. math::
    U^* = \tfrac12\int \frac{(M-\sum N_g a_g)^2}{EI_h} + \frac{(\sum N_g)^2}{EA_h} + \sum\frac{N_g^2}{EA_g}
          + q^\top C\,q \;\mathrm{d}y, \qquad q = (M', N_1', \dots)

C is the shear flexibility of the section from the two-dimensional solution (`fletcher.core.warping`). For one bar
pair in a uniform part this is Newmark's (1951) partial interaction and Allen's (1969) thick-faced sandwich; without
bars it is a Timoshenko beam with 1/GA_s = C_00.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from fletcher.core.outline import Array, BoolArray, IntArray


@dataclass(frozen=True)
class Mesh:
    """Stations along the part. Where something starts or ends two stations share a place: `node` (n,) numbers the
    places; `left` (elements,) is the index of the first station of each element, the second is `left + 1`."""

    y: Array
    inside: Array
    node: IntArray
    left: IntArray

    @property
    def length(self) -> Array:
        """Length of each element, mm."""
        return np.asarray(self.y[self.left + 1] - self.y[self.left])


def mesh(breaks: list[float], elements: int = 60) -> Mesh:
    """Stations between the given ascending breaks, about `elements` elements in all, at least two per segment."""
    stops = [breaks[0]]
    for b in breaks[1:]:
        if b - stops[-1] > 1e-6 * max(1.0, breaks[-1]):
            stops.append(b)
    total = stops[-1] - stops[0]
    y: list[float] = []
    inside: list[float] = []
    node: list[int] = []
    left: list[int] = []
    place = 0
    for a, b in itertools.pairwise(stops):
        count = max(2, round(elements * (b - a) / total))
        points = np.linspace(a, b, count + 1)
        first = len(y)
        y.extend(points)
        inside.extend(np.clip(points, a + 1e-6 * (b - a), b - 1e-6 * (b - a)))
        node.extend(range(place, place + count + 1))
        left.extend(range(first, first + count))
        place += count
    return Mesh(np.array(y), np.array(inside), np.array(node), np.array(left))


@dataclass(frozen=True)
class Response:
    """Beam response: `curvature` (S, n) of the host, 1/mm; `bar_force` (S, bars, n), N, tension positive, excess over
    the displaced foam; `deflection` (S, n), mm, up positive; `axial` (S, n) strain at the host's centroid;
    `force_rate` (S, bars, elements), N/mm."""

    curvature: Array
    bar_force: Array
    axial: Array
    deflection: Array
    force_rate: Array


@dataclass(frozen=True)
class Tie:
    """A part whose bars are tied to the foam, ready for any load: section values along it, the rows of C that give the
    shear slope, `slip` (elements, G + 1, S), and the factorised equations of the bar forces. `free` (nodes, G) says
    where a force may act; nodes of the equations run from the tip to the root."""

    mesh: Mesh
    host_EI: Array
    host_EA: Array
    arm: Array
    slip: Array
    factor: Array
    free: BoolArray


def tie(
    mesh: Mesh, host_EI: Array, host_EA: Array, bar_EA: Array, arm: Array, flexibility: Array, joined: BoolArray
) -> Tie:
    """Set up and factorise the equations of the bar forces; they do not depend on the load.

    Parameters
    ----------
    host_EI, host_EA : (S, n), N·mm² and N.
    bar_EA, arm : (S, G, n), N and mm; bar_EA is zero where a bar is absent.
    flexibility : (S, n, G + 1, G + 1) shear flexibility C, 1/N-like; order: host shear, then bars.
    joined : (G,) whether a bar starting at the root runs on through it, when the root is held.

    Notes
    -----
    Linear elements for N with the strain terms lumped at the nodes, which keeps the forces free of oscillation where
    the transfer length is shorter than an element. Unknowns are ordered node by node from the tip to the root, so
    that the matrix is a band of 2 G − 1 under its diagonal, and a root that is not held is its leading part: one
    factorisation serves both. Samples come last in memory.
    """
    samples, bars, _ = bar_EA.shape
    k0, k1, h = mesh.left, mesh.left + 1, mesh.length
    nodes = int(mesh.node[-1]) + 1
    C = np.ascontiguousarray(flexibility.transpose(1, 2, 3, 0))
    mean_C = 0.5 * (C[k0] + C[k1])
    # a bar's force is free to act at a node only inside the bar, or at a joined root
    on_element = bar_EA[0][:, k0] > 0
    free = np.zeros((nodes, bars), bool)
    free[1:-1] = (on_element[:, 1:] & on_element[:, :-1]).T
    free[0] = on_element[:, 0] & joined

    a = np.ascontiguousarray(arm.transpose(2, 1, 0))
    bent = a / np.ascontiguousarray(host_EI.T)[:, None]
    inverse_EA = np.ascontiguousarray(1 / host_EA.T)
    inverse_bar = np.where(bar_EA > 0, 1 / np.where(bar_EA > 0, bar_EA, 1.0), 0.0).transpose(2, 1, 0)
    shear = mean_C[:, 1:, 1:] / h[:, None, None, None]
    band = np.zeros((max(2 * bars, 1), nodes * bars, samples))
    half = 0.5 * h[:, None]
    for i in range(bars):
        for j in range(i + 1):
            strain = bent[:, i] * a[:, j] + inverse_EA
            if i == j:
                strain += inverse_bar[:, i]
            block = np.zeros((nodes, samples))
            block[:-1] = half * strain[k0] + shear[:, i, j]
            block[1:] += half * strain[k1] + shear[:, i, j]
            block *= (free[:, i] & free[:, j])[:, None]
            if i == j:
                block += ~free[:, [i]]
            band[i - j, j::bars] = block[::-1]
        for j in range(bars):
            across = -shear[:, i, j] * (free[:-1, i] & free[1:, j])[:, None]
            band[bars + i - j, j : j + bars * (nodes - 1) : bars] = across[::-1]
    return Tie(mesh, host_EI, host_EA, arm, mean_C[:, 0], _factorise(band), free)


def respond(tied: Tie, moment: Array, supports: tuple[float, float] | None, held: bool = True) -> Response:
    """Forces in the bars and the deflected shape.

    Parameters
    ----------
    moment : (S, n) bending moment, N·mm, positive with the upper face in compression.
    supports : two places on which the part rests, or None for a part held at its root.
    held : whether the root is held where there are no supports; where not, bars end free there.

    Notes
    -----
    Deflections follow from the virtual work of a unit load carried by the host alone: w″ = κ_h, and the shear slope is
    conjugate to M′.
    """
    mesh, arm = tied.mesh, tied.arm
    k0, k1, h = mesh.left, mesh.left + 1, mesh.length
    samples = len(moment)
    slope = (moment[:, k1] - moment[:, k0]) / h
    force = _bar_forces(tied, moment, slope, held and supports is None)
    curvature = (moment - (force * arm).sum(1)) / tied.host_EI
    rate = (force[:, :, k1] - force[:, :, k0]) / h
    shear = tied.slip[:, 0].T * slope
    for i in range(arm.shape[1]):
        shear += tied.slip[:, i + 1].T * rate[:, i]

    steps = 0.5 * h * (curvature[:, k0] + curvature[:, k1])
    start = np.concatenate([np.zeros((samples, 1)), np.cumsum(steps, 1)[:, :-1]], 1)
    rise = h * start + h**2 * (2 * curvature[:, k0] + curvature[:, k1]) / 6 - h * shear
    places = np.concatenate([np.zeros((samples, 1)), np.cumsum(rise, 1)], 1)
    deflection = places[:, mesh.node]
    if supports is not None:
        a, b = (int(np.argmin(np.abs(mesh.y - s))) for s in supports)
        run = (mesh.y - mesh.y[a]) / (mesh.y[b] - mesh.y[a])
        deflection = deflection - deflection[:, [a]] - run * (deflection[:, [b]] - deflection[:, [a]])
    return Response(curvature, force, -force.sum(1) / tied.host_EA, deflection, rate)


def _bar_forces(tied: Tie, moment: Array, slope: Array, held: bool) -> Array:
    """Solve for the bar forces (S, G, n) under a bending moment (S, n) with its slope (S, elements); a root that is
    not `held` leaves the bars free there."""
    mesh = tied.mesh
    k0, k1, h = mesh.left, mesh.left + 1, mesh.length
    samples, bars, n = tied.arm.shape
    nodes = len(tied.free)
    if not bars or not np.any(moment):
        return np.zeros((samples, bars, n))
    bent = np.ascontiguousarray((moment / tied.host_EI).T)
    slope = np.ascontiguousarray(slope.T)
    half = 0.5 * h[:, None]
    load = np.zeros((nodes, bars, samples))
    for i in range(bars):
        pull = tied.arm[:, i].T * bent
        couple = tied.slip[:, i + 1] * slope
        load[:-1, i] = half * pull[k0] + couple
        load[1:, i] += half * pull[k1] - couple
    load *= tied.free[:, :, None]
    force = np.zeros((nodes * bars, samples))
    count = (nodes if held else nodes - 1) * bars
    force[:count] = _substitute(tied.factor[:, :count], load[::-1].reshape(nodes * bars, samples)[:count])
    at_stations = force.reshape(nodes, bars, samples)[::-1][mesh.node]
    return np.ascontiguousarray(at_stations.transpose(2, 1, 0))


def _factorise(band: Array) -> Array:
    """L D Lᵀ of symmetric positive definite bands, all samples at once; overwrites and returns `band`.

    `band` (w + 1, N, S) holds row j + d of column j at [d, j]; afterwards D at [0] and L below. SciPy's banded
    solvers take one matrix at a time.
    """
    width, count = band.shape[0] - 1, band.shape[1]
    for j in range(count - 1):
        reach = min(width, count - 1 - j)
        column = band[1 : reach + 1, j].copy()
        factor = band[1 : reach + 1, j]
        factor /= band[0, j]
        for d in range(reach):
            band[: reach - d, j + 1 + d] -= factor[d] * column[d:]
    return band


def _substitute(factor: Array, load: Array) -> Array:
    """Solve with factors from `_factorise`; `load` (N, S) is overwritten with the solution and returned."""
    width, count = factor.shape[0] - 1, factor.shape[1]
    for j in range(count - 1):
        reach = min(width, count - 1 - j)
        load[j + 1 : j + 1 + reach] -= factor[1 : reach + 1, j] * load[j]
    load /= factor[0]
    for j in range(count - 2, -1, -1):
        reach = min(width, count - 1 - j)
        load[j] -= np.einsum("ds,ds->s", factor[1 : reach + 1, j], load[j + 1 : j + 1 + reach])
    return load
