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

from fletcher.core.outline import Array, IntArray


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


def respond(
    mesh: Mesh,
    moment: Array,
    host_EI: Array,
    host_EA: Array,
    bar_EA: Array,
    arm: Array,
    flexibility: Array,
    joined: Array,
    supports: tuple[float, float] | None,
) -> Response:
    """Forces in the bars and the deflected shape.

    Parameters
    ----------
    moment : (S, n) bending moment, N·mm, positive with the upper face in compression.
    host_EI, host_EA : (S, n), N·mm² and N.
    bar_EA, arm : (S, G, n), N and mm; bar_EA is zero where a bar is absent.
    flexibility : (S, n, G + 1, G + 1) shear flexibility C, 1/N-like; order: host shear, then bars.
    joined : (G,) whether a bar starting at the root runs on through it.
    supports : two places on which the part rests, or None for a part held at its root.

    Notes
    -----
    Linear elements for N with the strain terms lumped at the nodes, which keeps the forces free of oscillation where
    the transfer length is shorter than an element. Deflections follow from the virtual work of a unit load carried by
    the host alone: w″ = κ_h, and the shear slope is conjugate to M′.
    """
    samples, n = moment.shape
    bars = bar_EA.shape[1]
    k0, k1, h = mesh.left, mesh.left + 1, mesh.length
    slope = (moment[:, k1] - moment[:, k0]) / h
    mean_C = 0.5 * (flexibility[:, k0] + flexibility[:, k1])
    if bars:
        force = _bar_forces(mesh, moment, host_EI, host_EA, bar_EA, arm, mean_C, slope, joined)
    else:
        force = np.zeros((samples, 0, n))
    curvature = (moment - (force * arm).sum(1)) / host_EI
    rate = (force[:, :, k1] - force[:, :, k0]) / h
    shear = mean_C[:, :, 0, 0] * slope + np.einsum("seg,sge->se", mean_C[:, :, 0, 1:], rate)

    steps = 0.5 * h * (curvature[:, k0] + curvature[:, k1])
    start = np.concatenate([np.zeros((samples, 1)), np.cumsum(steps, 1)[:, :-1]], 1)
    rise = h * start + h**2 * (2 * curvature[:, k0] + curvature[:, k1]) / 6 - h * shear
    places = np.concatenate([np.zeros((samples, 1)), np.cumsum(rise, 1)], 1)
    deflection = places[:, mesh.node]
    if supports is not None:
        a, b = (int(np.argmin(np.abs(mesh.y - s))) for s in supports)
        run = (mesh.y - mesh.y[a]) / (mesh.y[b] - mesh.y[a])
        deflection = deflection - deflection[:, [a]] - run * (deflection[:, [b]] - deflection[:, [a]])
    return Response(curvature, force, -force.sum(1) / host_EA, deflection, rate)


def _bar_forces(
    mesh: Mesh,
    moment: Array,
    host_EI: Array,
    host_EA: Array,
    bar_EA: Array,
    arm: Array,
    mean_C: Array,
    slope: Array,
    joined: Array,
) -> Array:
    """Solve for the bar forces (S, G, n): block tridiagonal, all samples at once."""
    samples, bars, n = bar_EA.shape
    k0, k1, h = mesh.left, mesh.left + 1, mesh.length
    nodes = int(mesh.node[-1]) + 1
    present = bar_EA[0] > 0
    # a bar's force is free to act at a node only inside the bar, or at a joined root
    on_element = present[:, k0]
    free = np.zeros((bars, nodes), bool)
    free[:, 1:-1] = on_element[:, 1:] & on_element[:, :-1]
    free[:, 0] = on_element[:, 0] & joined

    weight = np.zeros(n)
    np.add.at(weight, k0, h / 2)
    np.add.at(weight, k1, h / 2)
    a = np.moveaxis(arm, 2, 1)
    strain = a[..., :, None] * a[..., None, :] / host_EI[..., None, None] + 1 / host_EA[..., None, None]
    inverse = np.where(present, 1 / np.where(bar_EA > 0, bar_EA, 1.0), 0.0)
    index = np.arange(bars)
    strain[..., index, index] += np.moveaxis(inverse, 2, 1)
    diagonal = np.zeros((samples, nodes, bars, bars))
    load = np.zeros((samples, nodes, bars))
    pull = a * (moment / host_EI)[..., None]
    for part in (k0, k1):
        diagonal[:, mesh.node[part]] += (h / 2)[:, None, None] * strain[:, part]
        load[:, mesh.node[part]] += (h / 2)[:, None] * pull[:, part]
    shear = mean_C[:, :, 1:, 1:] / h[:, None, None]
    couple = mean_C[:, :, 1:, 0] * slope[..., None]
    diagonal[:, :-1] += shear
    diagonal[:, 1:] += shear
    load[:, :-1] += couple
    load[:, 1:] -= couple

    mask = free.T.astype(float)
    diagonal *= mask[:, :, None] * mask[:, None, :]
    diagonal[..., index, index] += 1 - mask
    load *= mask
    upper = -shear * mask[:-1, :, None] * mask[1:, None, :]
    # block Thomas elimination along the span
    for k in range(1, nodes):
        factor = np.linalg.solve(diagonal[:, k - 1], np.concatenate([upper[:, k - 1], load[:, k - 1, :, None]], 2))
        across = np.swapaxes(upper[:, k - 1], 1, 2)
        diagonal[:, k] -= across @ factor[..., :bars]
        load[:, k] -= (across @ factor[..., bars:])[..., 0]
    force = np.zeros((samples, nodes, bars))
    force[:, -1] = np.linalg.solve(diagonal[:, -1], load[:, -1, :, None])[..., 0]
    for k in range(nodes - 2, -1, -1):
        rest = load[:, k] - (upper[:, k] @ force[:, k + 1, :, None])[..., 0]
        force[:, k] = np.linalg.solve(diagonal[:, k], rest[..., None])[..., 0]
    return np.moveaxis(force, 2, 1)[:, :, mesh.node]
