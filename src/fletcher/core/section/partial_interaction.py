r"""The part as a beam whose bars are tied to the foam by shear.

Every bar g has its own axial force N_g(y), zero at a free end, so that run-outs, short bars and single bars come out
of the same equations as long pairs. Complementary energy, with a_g the arm of the bar about the host's centroid
(host = foam and skins):

.. math::
    U^* = \tfrac12\int \frac{(M-\sum N_g a_g)^2}{EI_h} + \frac{(\sum N_g)^2}{EA_h} + \sum\frac{N_g^2}{EA_g}
          + q^\top C\,q \;\mathrm{d}y, \qquad q = (M', N_1', \dots)

C is the shear flexibility of the section from the two-dimensional solution (`section.flexure_function`). For one bar
pair in a uniform part this is Newmark's (1951) partial interaction and Allen's (1969) thick-faced sandwich; without
bars it is a Timoshenko beam with 1/GA_s = C_00.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.linalg.lapack import dpbtrf, dpbtrs

from fletcher.core.common.arrays import Array, BoolArray, IntArray


@dataclass(frozen=True)
class Mesh:
    """Stations along the part. Where something starts or ends two stations share a place: `node` (n,) numbers the
    places; `left` (elements,) is the index of the first station of each element, the second is `left + 1`."""

    y: Array
    inside: Array
    node: IntArray
    left: IntArray

    @cached_property
    def length(self) -> Array:
        """Length of each element, mm."""
        return np.asarray(self.y[self.left + 1] - self.y[self.left])

    def integral(self, values: Array) -> Array:
        """∫ values dy along the last axis (trapezoids), (...)."""
        return np.asarray(values @ self._weights)

    @cached_property
    def _weights(self) -> Array:
        half, many = self.length / 2, len(self.y)
        return np.asarray(np.bincount(self.left, half, many) + np.bincount(self.left + 1, half, many), float)

    @cached_property
    def beside(self) -> tuple[IntArray, IntArray]:
        """The elements before and after each station in its own stretch, (n,) each; the same one at its ends."""
        before, after = np.full((2, len(self.y)), -1)
        before[self.left + 1] = after[self.left] = np.arange(len(self.left))
        return np.where(before < 0, after, before), np.where(after < 0, before, after)

    def differences(self, values: Array) -> Array:
        """Rise over each element (..., elements) of values (..., n)."""
        return np.take(np.diff(values, axis=-1), self.left, axis=-1)


def mesh(breaks: list[float], elements: int = 60, plain: Iterable[float] = ()) -> Mesh:
    """Stations between the given ascending breaks, about `elements` elements in all, at least two per segment. At
    `plain` breaks only a load acts: nothing of the part starts or ends there, and one station is enough."""
    single = set(plain)
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
        shared = bool(y) and a in single
        first = len(y) - shared
        y.extend(points[shared:])
        inside.extend(np.clip(points, a + 1e-6 * (b - a), b - 1e-6 * (b - a))[shared:])
        node.extend(range(place + shared, place + count + 1))
        left.extend(range(first, first + count))
        place += count
    return Mesh(np.array(y), np.array(inside), np.array(node), np.array(left))


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
    across: Array
    """`arm` over the host's EI with samples last, (n, G, S)."""


def tie(
    mesh: Mesh, host_EI: Array, host_EA: Array, bar_EA: Array, arm: Array, flexibility: Array, joined: BoolArray,
    *, settled: bool = False,
) -> Tie:  # fmt: skip
    """Set up and factorise the equations of the bar forces; they do not depend on the load.

    Parameters
    ----------
    host_EI, host_EA : (S, n), N·mm² and N.
    bar_EA, arm : (S, G, n), N and mm; bar_EA is zero where a bar is absent.
    flexibility : (n, G + 1, G + 1, S) shear flexibility C, 1/N-like; order: host shear, then bars.
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
    mean_C = (0.5 * (flexibility[:-1] + flexibility[1:]))[k0]
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
    factor = _factorise(band)
    if factor is None:
        if settled:
            raise np.linalg.LinAlgError("the equations of the bars are singular")
        return tie(mesh, host_EI, host_EA, bar_EA, arm, _positive(flexibility), joined, settled=True)
    return Tie(mesh, host_EI, host_EA, arm, mean_C[:, 0], factor, free, bent)


def _positive(flexibility: Array) -> Array:
    """Shear flexibilities (n, m, m, S) with no negative work in them: bars that lie close to one another, or in a
    sliver of foam at an edge, can leave the field solution a little indefinite. Their least eigenvalues are raised to
    1e-4 of the largest."""
    matrices = np.moveaxis(flexibility, -1, 1)
    values, vectors = np.linalg.eigh(0.5 * (matrices + np.swapaxes(matrices, -1, -2)))
    floor = 1e-4 * values[..., -1:]
    raised = (vectors * np.maximum(values, floor)[..., None, :]) @ np.swapaxes(vectors, -1, -2)
    return np.ascontiguousarray(np.moveaxis(raised, 1, -1))


@dataclass(frozen=True)
class Response:
    """Beam response: `curvature` (S, n) of the host, 1/mm; `bar_force` (S, bars, n), N, tension positive, excess over
    the displaced foam; `axial` (S, n) strain at the host's centroid; `force_rate` (S, bars, elements), N/mm; `slope`
    (S, elements) of the bending moment, N; `supports` as `respond` takes them."""

    tied: Tie
    curvature: Array
    bar_force: Array
    axial: Array
    force_rate: Array
    slope: Array
    supports: tuple[float, float] | None

    @cached_property
    def deflection(self) -> Array:
        """(S, n), mm, up positive: virtual work of a unit load carried by the host alone, w″ = κ_h, with the shear
        slope conjugate to M′."""
        tied, mesh, curvature = self.tied, self.tied.mesh, self.curvature
        k0, k1, h = mesh.left, mesh.left + 1, mesh.length
        shear = tied.slip[:, 0].T * self.slope
        for i in range(self.bar_force.shape[1]):
            shear += tied.slip[:, i + 1].T * self.force_rate[:, i]
        none = np.zeros((len(curvature), 1))
        steps = 0.5 * h * (curvature[:, k0] + curvature[:, k1])
        start = np.concatenate([none, np.cumsum(steps, 1)[:, :-1]], 1)
        rise = h * start + h**2 * (2 * curvature[:, k0] + curvature[:, k1]) / 6 - h * shear
        found = np.concatenate([none, np.cumsum(rise, 1)], 1)[:, mesh.node]
        if self.supports is not None:
            a, b = (int(np.argmin(np.abs(mesh.y - s))) for s in self.supports)
            run = (mesh.y - mesh.y[a]) / (mesh.y[b] - mesh.y[a])
            found = found - found[:, [a]] - run * (found[:, [b]] - found[:, [a]])
        return np.asarray(found)


@dataclass(frozen=True)
class Bend:
    """What bends a part: `moment` (S, n), N·mm, positive with the upper face in compression; two `supports` on which it
    rests, or None; without them, whether its root is `held` (else bars end free there)."""

    moment: Array
    supports: tuple[float, float] | None = None
    held: bool = True


def respond(tied: Tie, moment: Array, supports: tuple[float, float] | None = None) -> Response:
    """Forces in the bars and the deflected shape under one moment, see `Bend`."""
    return respond_all(tied, [Bend(moment, supports)])[0]


def respond_all(tied: Tie, bends: list[Bend]) -> list[Response]:
    """The response to each of several moments; the equations are solved for all of them at once."""
    mesh, arm = tied.mesh, tied.arm
    slopes = [mesh.differences(b.moment) / mesh.length for b in bends]
    none = np.zeros(arm.shape)
    forces: list[tuple[Array, Array]] = [(none, none[:, :, : len(mesh.left)])] * len(bends)
    chosen = [n for n, b in enumerate(bends) if np.any(b.moment)]
    if chosen and arm.shape[1]:
        held = [bends[n].held and bends[n].supports is None for n in chosen]
        found = _bar_forces(tied, [bends[n].moment for n in chosen], [slopes[n] for n in chosen], held)
        for n, one in zip(chosen, found, strict=True):
            forces[n] = one
    out = []
    for b, slope, (force, rate) in zip(bends, slopes, forces, strict=True):
        curvature = (b.moment - np.einsum("sgn,sgn->sn", force, arm)) / tied.host_EI
        out.append(Response(tied, curvature, force, -force.sum(1) / tied.host_EA, rate, slope, b.supports))
    return out


def _bar_forces(tied: Tie, moments: list[Array], slopes: list[Array], held: list[bool]) -> list[tuple[Array, Array]]:
    """Solve for the bar forces (S, G, n) and their rates (S, G, elements) under bending moments (S, n) with their
    slopes (S, elements); a root that is not `held` leaves the bars free there."""
    mesh = tied.mesh
    k0, k1, h = mesh.left, mesh.left + 1, mesh.length
    samples, bars, _ = tied.arm.shape
    nodes, count = len(tied.free), len(moments)
    half = 0.5 * h[:, None]
    load = np.zeros((nodes, bars, count, samples))
    for n, (moment, slope) in enumerate(zip(moments, slopes, strict=True)):
        turned, across = np.ascontiguousarray(moment.T), np.ascontiguousarray(slope.T)
        for i in range(bars):
            pull = tied.across[:, i] * turned
            couple = tied.slip[:, i + 1] * across
            load[:-1, i, n] = half * pull[k0] + couple
            load[1:, i, n] += half * pull[k1] - couple
    load *= tied.free[:, :, None, None]
    loose = [n for n in range(count) if not held[n]]
    force = _substitute(tied.factor, load[::-1].reshape(nodes * bars, count, samples), bars, loose)
    at_nodes = force.reshape(nodes, bars, count, samples)[::-1]
    rates = np.diff(at_nodes, axis=0) / h[:, None, None, None]
    at_stations = at_nodes[mesh.node]
    return [
        (
            np.ascontiguousarray(at_stations[:, :, n].transpose(2, 1, 0)),
            np.ascontiguousarray(rates[:, :, n].transpose(2, 1, 0)),
        )
        for n in range(count)
    ]


def _factorise(band: Array) -> Array | None:
    """Cholesky factors (S, N, w + 1) of symmetric positive definite bands (w + 1, N, S), whose [d, j] is row j + d of
    column j; None where one is not positive definite."""
    factors = np.ascontiguousarray(band.transpose(2, 1, 0))
    for one in factors:
        _, failed = dpbtrf(one.T, lower=1, overwrite_ab=1)
        if failed:
            return None
    return factors


def _substitute(factors: Array, load: Array, root: int, loose: list[int]) -> Array:
    """Solve with factors from `_factorise` for loads (N, loads, S). The last `root` unknowns are kept at zero in the
    `loose` loads: their equations are the leading part of the others, and so are their factors."""
    solved = np.ascontiguousarray(load.transpose(2, 1, 0))
    free = load.shape[0] - root
    solved[:, loose, free:] = 0.0
    held = [n for n in range(load.shape[1]) if n not in loose]
    for which, size in ((held, load.shape[0]), (loose, free)):
        if which:
            some = np.ascontiguousarray(solved[:, which, :size])
            for factor, right in zip(factors, some, strict=True):
                dpbtrs(factor[:size].T, right.T, lower=1, overwrite_b=1)
            solved[:, which, :size] = some
    return solved.transpose(2, 1, 0)
