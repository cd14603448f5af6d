r"""Hollow sections as networks of thin walls: shear, torsion, shear centre and warping of boxes, boards and frames.

On a wall's mid-line s the warping w of a section under a shear force V, or under a twist θ′ with the tangent's arm r
about the pole, solves on all walls at once

.. math:: \frac{\mathrm d}{\mathrm ds}\Bigl[Gt\bigl(\tfrac{\mathrm dw}{\mathrm ds} + \theta' r\bigr)\Bigr]
   = -\frac{E t (z - \bar z) V}{EI}

Because w is one-valued, the redundant flows of closed cells come out by themselves: this is ∮q²/(Gt)ds with its
redundants, and multi-cell Bredt and Batho (Pilkey 2002, ch. 5-6). Linear elements are exact in torsion between nodes.
Open walls add their own torsion (`Plate.torsion_per_width`).
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from dataclasses import dataclass, field

import numpy as np
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import connected_components

from fletcher.core.common.arrays import Array, IntArray
from fletcher.core.materials.uncertainty import WARPING_HELD, draw_factor
from fletcher.core.section.elements import Elements, Membrane
from fletcher.core.section.outline import Rectangle
from fletcher.core.section.partial_interaction import Mesh
from fletcher.core.section.properties import Draws, Geometry, bar_stiffness, bar_twist_scale, skins_at

_HEIGHTS = (0.0, 0.25, 0.5, 0.75, 1.0)
_STRAIGHT = np.linspace(0, 1, 7)
_ROUND = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 17)))
"""Nodes along a straight and along a curved face: with them GA_s lies within 1 % of the limit of many."""
_CLOSED = 4.0
"""A stretch counts as a closed bay beside an open one if it is so many times as stiff in twist."""


@dataclass(frozen=True)
class Walls:
    """What a network says, arrays (S,): `flexibility` 1/GA_s (1/N), `torsion` GJ and `warping` EI_ω (N·mm², N·mm⁴),
    `shear_centre` aft of the nose (mm); flows (membranes here, S) per N of shear (1/mm) and per N·mm of torque."""

    flexibility: Array
    torsion: Array
    warping: Array
    shear_centre: Array
    shear_flow: Array
    twist_flow: Array
    coupling: Array
    """(1 + bars here, same, S) shear flexibility of the walls to the shear force and to what each bar hands over,
    1/N."""
    twist_share: Array
    """(membranes here,) share of each in GJ, typical; bars have the rest."""


@dataclass(frozen=True)
class Host:
    """The walls and skins of a station without its bars, (S,): EI, EA, height of their centroid, and the `arm` of every
    bar here about it (bars here, S)."""

    EI: Array
    EA: Array
    z: Array
    arm: Array


@dataclass
class Network:
    """Walls of one station: nodes (x, z), segments from `first` to `second`, and which membranes lie on each."""

    x: list[float] = field(default_factory=list)
    z: list[float] = field(default_factory=list)
    known: dict[tuple[float, float], int] = field(default_factory=dict)
    first: list[int] = field(default_factory=list)
    second: list[int] = field(default_factory=list)
    members: list[list[int]] = field(default_factory=list)
    stiff: Array = field(default_factory=lambda: np.zeros((0, 0)))
    """(membranes here, S) G t, N/mm."""
    pulls: Array = field(default_factory=lambda: np.zeros((0, 0)))
    """(membranes here, S) E t, N/mm."""
    open_torsion: Array = field(default_factory=lambda: np.zeros(0))
    open_share: Array = field(default_factory=lambda: np.zeros(0))
    """(membranes here,) what each adds to `open_torsion`, typical, N·mm²."""
    open_flow: Array = field(default_factory=lambda: np.zeros((0, 0)))
    """(membranes here, S) largest shear flow of the wall's own torsion per unit of twist rate, N."""
    booms: list[tuple[int, float, Array]] = field(default_factory=list)
    """Bars on the walls: node, height z, EA (S,)."""
    bar_shear: Array = field(default_factory=lambda: np.zeros(0))
    """(S,) shear stiffness of bars that stand alone, N; their place in `bar_x`."""
    bar_x: float = 0.0

    def node(self, x: float, z: float) -> int:
        """Number of the node at a place."""
        key = (round(x, 3), round(z, 3))
        if key not in self.known:
            self.known[key] = len(self.x)
            self.x.append(x)
            self.z.append(z)
        return self.known[key]

    def wall(self, a: int, b: int, members: list[int]) -> None:
        """A segment with the membranes on it; none makes no wall."""
        if members and a != b:
            self.first.append(a)
            self.second.append(b)
            self.members.append(members)

    def components(self) -> tuple[int, IntArray]:
        """Number of pieces that hang together, and each node's piece."""
        n = len(self.x)
        link = coo_matrix((np.ones(len(self.first)), (self.first, self.second)), shape=(n, n))
        count, label = connected_components(link, directed=False)
        return int(count), label

    def solve(self, EI: Array, host: Host | None = None) -> Walls:
        """Solve for shear and twist, every sample by itself; `EI` (S,) of the whole section. With a `host` also for
        what
        each bar hands over to it."""
        samples = len(EI)
        if not self.first:
            return self._bars_alone(EI)
        x, z = np.array(self.x), np.array(self.z)
        a, b = np.array(self.first), np.array(self.second)
        run_x, run_z = x[b] - x[a], z[b] - z[a]
        ds = np.hypot(run_x, run_z)
        Gt = np.array([self.stiff[m].sum(0) for m in self.members])  # (segments, S)
        Et = np.array([self.pulls[m].sum(0) for m in self.members])
        arm = (x[a] * run_z - z[a] * run_x) / ds
        n, k = len(x), Gt / ds[:, None]
        matrix = np.zeros((n, n, samples))
        amount, first = np.zeros((n, samples)), np.zeros((n, samples))
        turn = np.zeros((n, samples))
        np.add.at(matrix, (a, a), k)
        np.add.at(matrix, (b, b), k)
        np.add.at(matrix, (a, b), -k)
        np.add.at(matrix, (b, a), -k)
        for one, other in ((a, b), (b, a)):
            np.add.at(amount, one, Et * ds[:, None] / 2)
            np.add.at(first, one, Et * (ds * (2 * z[one] + z[other]) / 6)[:, None])
        np.add.at(turn, a, Gt * arm[:, None])
        np.add.at(turn, b, -Gt * arm[:, None])
        for node, height, EA in self.booms:
            amount[node] += EA
            first[node] += EA * height
        _, label = self.components()
        for piece in np.unique(label):  # holds the free constant of every piece
            node = int(np.argmax(label == piece))
            matrix[node, node] += np.maximum(matrix[node, node], 1e-9)
        centre = first.sum(0) / np.maximum(amount.sum(0), 1e-30)
        bend = (first - amount * centre) / EI
        # a load up and down alone pushes nothing sideways: the sideways bend of a lopsided section takes it back
        aside = amount * (x[:, None] - (amount * x[:, None]).sum(0) / np.maximum(amount.sum(0), 1e-30))
        stiff = (aside * x[:, None]).sum(0)
        bend = bend - np.where(stiff > 0, (bend * x[:, None]).sum(0) / np.where(stiff > 0, stiff, 1), 0) * aside
        ties = [] if host is None else self._ties(host, amount, first, aside, stiff, x)
        right = np.stack([bend, turn, *ties], 2).transpose(1, 0, 2)
        found = np.linalg.solve(matrix.transpose(2, 0, 1), right)
        w_shear, w_twist = found[..., 0].T, found[..., 1].T
        flow_shear = k * (w_shear[b] - w_shear[a])
        flow_twist = k * (w_twist[b] - w_twist[a]) + Gt * arm[:, None]
        force = (flow_shear * run_z[:, None]).sum(0)
        torque = (flow_shear * (arm * ds)[:, None]).sum(0)
        torsion = (flow_twist * (arm * ds)[:, None]).sum(0) + self.open_torsion
        coupling = np.zeros((len(ties), len(ties), samples))
        for p, source in enumerate(ties):
            for q in range(len(ties)):
                coupling[p, q] = (source * found[..., 2 + q].T).sum(0)
        shear_flow, twist_flow = np.zeros_like(self.stiff), np.zeros_like(self.stiff)
        shares = self.open_share.copy()
        for s, members in enumerate(self.members):
            for m in members:
                part = self.stiff[m] / Gt[s]
                shares[m] += float(flow_twist[s, 0] ** 2 * ds[s] / Gt[s, 0] * part[0])
                shear_flow[m] = np.maximum(shear_flow[m], np.abs(flow_shear[s]) * part)
                twist_flow[m] = np.maximum(twist_flow[m], np.abs(flow_twist[s]) * part)
        return Walls(
            flexibility=np.maximum((bend * w_shear).sum(0), 1e-12),
            torsion=np.maximum(torsion, 1e-6),
            warping=_sectorial(x, z, (a, b, ds, Et), [(node, EA) for node, _, EA in self.booms], w_twist),
            shear_centre=np.where(np.abs(force) > 1e-9, torque / np.where(force == 0, 1, force), x.mean()),
            shear_flow=shear_flow,
            twist_flow=(twist_flow + self.open_flow) / np.maximum(torsion, 1e-6),
            coupling=coupling,
            twist_share=shares / max(float(torsion[0]), 1e-6),
        )

    def _ties(self, host: Host, amount: Array, first: Array, aside: Array, stiff: Array, x: Array) -> list[Array]:
        """Sources (nodes, S) of the warping: the host bent by a unit shear force, and each bar handing over a unit of
        force per length, which the host takes up in its axis and in bending. None pushes sideways."""
        own, own_first = amount.copy(), first.copy()
        for node, height, EA in self.booms:
            own[node] -= EA
            own_first[node] -= EA * height
        shear = -(own_first - own * host.z) / host.EI
        out = [shear]
        for (node, _, _), arm in zip(self.booms, host.arm, strict=True):
            source = -own / host.EA - arm * shear
            source[node] += 1.0
            out.append(source)
        turned = np.where(stiff > 0, stiff, 1)
        return [s - np.where(stiff > 0, (s * x[:, None]).sum(0) / turned, 0) * aside for s in out]

    def _bars_alone(self, EI: Array) -> Walls:
        nothing = np.zeros((len(self.stiff), len(EI)))
        return Walls(
            flexibility=1 / np.maximum(self.bar_shear, 1e-9),
            torsion=np.maximum(self.open_torsion, 1e-6),
            warping=np.zeros_like(EI),
            shear_centre=np.full_like(EI, self.bar_x),
            shear_flow=nothing,
            twist_flow=nothing,
            coupling=np.zeros((0, 0, len(EI))),
            twist_share=np.zeros(len(self.stiff)),
        )


def _sectorial(
    x: Array,
    z: Array,
    walls: tuple[IntArray, IntArray, Array, Array],
    booms: list[tuple[int, Array]],
    warping: Array,
) -> Array:
    """EI_ω (S,): what of the warping is neither pull nor bending, ∫E ω² dA about the shear centre (Vlasov 1961).
    `walls`: first and second node, length and E t (segments, S); ω is linear along each. `booms`: node, EA (S,)."""
    a, b, ds, Et = walls
    basis = np.stack([np.ones_like(x), x - x.mean(), z - z.mean()], 1)
    weight = (Et * ds[:, None]).T

    def product(u: Array, v: Array) -> Array:
        """∫E u v dA of nodal values (S or 1, nodes, …)."""
        mixed = (2 * u[:, a] * v[:, a] + 2 * u[:, b] * v[:, b] + u[:, a] * v[:, b] + u[:, b] * v[:, a]) / 6
        found = (weight * mixed).sum(1)
        for node, EA in booms:
            found = found + EA * u[:, node] * v[:, node]
        return np.asarray(found)

    modes = [basis[None, :, i] for i in range(3)]
    gram = np.stack([np.stack([product(p, q) for q in modes], -1) for p in modes], -2)
    gram = gram + 1e-9 * np.trace(gram, axis1=1, axis2=2)[:, None, None] * np.eye(3)
    right = np.stack([product(p, warping.T) for p in modes], -1)
    omega = warping.T - np.linalg.solve(gram, right[..., None])[..., 0] @ basis.T
    return product(omega, omega)


def section_network(elements: Elements, draws: Draws, geometry: Geometry, k: int) -> Network:
    """The walls of a hollow part at station k."""
    y = geometry.y[[k]]
    here = skins_at(elements, geometry, k)
    things = [elements.membranes[i] for i in here]
    net = Network()
    samples = len(draws.foam.G)
    net.stiff = np.array([_shears(m, draws, i) for i, m in zip(here, things, strict=True)]).reshape(-1, samples)
    net.pulls = np.array(
        [np.zeros(samples) if m.slack else draws.skins[i].Et * m.plies for i, m in zip(here, things, strict=True)]
    ).reshape(-1, samples)
    _own_torsion(net, elements, draws, geometry, k, here)
    chord, places = float(elements.chord(y)[0]), _Lines(elements, things, y)
    around = _STRAIGHT if isinstance(elements.outline, Rectangle) else _ROUND
    xs = [places.nose, places.tail]
    spans = []
    for m in things:
        front, rear = (float(e[0]) for e in elements.edges(m, y))
        if m.upright:
            front = rear = float(np.clip(elements.web_place(m, y)[0], places.nose, places.tail))
        spans.append((front, rear))
        xs += [v for v in (front, rear) if places.nose < v < places.tail]
    bars = [i for i in range(len(elements.bars)) if geometry.bar_on[i, k]]
    xs += [float(np.clip(geometry.bar_x[i, k], places.nose, places.tail)) for i in bars]
    stops = _filled(sorted(xs), [places.nose + (places.tail - places.nose) * t for t in around], 0.02 * chord)
    places.know(stops)
    heights = sorted({*_HEIGHTS, *(places.level(m, y) for m in things if m.face == "level")})
    for p, q in itertools.pairwise(stops):
        middle = 0.5 * (p + q)
        for face, h in (("lower", 0.0), ("upper", 1.0)):
            on = [n for n, m in enumerate(things) if m.face == face and spans[n][0] <= middle <= spans[n][1]]
            net.wall(places.node(net, p, h), places.node(net, q, h), on)
        for h in heights[1:-1]:
            on = [n for n, m in enumerate(things) if m.face == "level" and abs(places.level(m, y) - h) < 1e-9]
            net.wall(places.node(net, p, h), places.node(net, q, h), on)
    uprights: dict[float, list[int]] = {}
    for n, m in enumerate(things):
        if m.upright and places.depth(spans[n][0]) > 0.3:
            at = stops[int(np.argmin(np.abs(np.array(stops) - spans[n][0])))]
            uprights.setdefault(at, []).append(n)
    for at, on in uprights.items():
        for low, high in itertools.pairwise(heights):
            net.wall(places.node(net, at, low), places.node(net, at, high), on)
    _add_bars(net, elements, draws, geometry, k, bars)
    return net


def _filled(wanted: list[float], more: Iterable[float], apart: float) -> list[float]:
    """Places that are wanted, once each, with more of them where none is near."""
    found = [wanted[0]]
    found += [v for v in wanted[1:] if v - found[-1] > 0.02]
    if len(found) > 1:
        found[-1] = wanted[-1]
    for v in more:
        if min(abs(v - u) for u in found) > apart:
            found.append(v)
    return sorted(found)


def _inset(things: list[Membrane], face: str) -> float:
    """How far within the outline the walls of a face run, mm: the mean of their mid-lines by shear stiffness."""
    walls = [(m.skin.G_MPa.typ * m.thickness_mm, -m.offset_mm) for m in things if m.face == face and m.out < 0]
    total = sum(stiff for stiff, _ in walls)
    return sum(stiff * at for stiff, at in walls) / total if total > 0 else 0.0


class _Lines:
    """The mid-lines of upper and lower walls at one station: where they run and where they meet."""

    def __init__(self, elements: Elements, things: list[Membrane], y: Array) -> None:
        self.elements, self.y = elements, y
        self.known: dict[float, tuple[float, float]] = {}
        chord = float(elements.chord(y)[0])
        self.inset = {face: _inset(things, face) for face in ("upper", "lower", "front", "rear")}
        self.nose, self.tail = self.inset["front"], chord - self.inset["rear"]
        x = np.linspace(self.nose, self.tail, 401)
        open_ = np.nonzero(self._gap(x) > 1e-6)[0]
        if len(open_):
            first, last = int(open_[0]), int(open_[-1])
            if first > 0:
                self.nose = self._closes(float(x[first - 1]), float(x[first]))
            if last < len(x) - 1:
                self.tail = self._closes(float(x[last + 1]), float(x[last]))
        self.pointed = tuple(self._gap(np.array([v]))[0] < 0.02 * chord for v in (self.nose, self.tail))

    def _closes(self, shut: float, wide: float) -> float:
        """Where between two places the walls meet, the first of them shut and the second open."""
        for _ in range(6):  # of 33 parts each: as near as thirty halvings
            x = np.linspace(shut, wide, 34)
            first = max(int(np.argmax(self._gap(x) > 1e-6)), 1)
            shut, wide = float(x[first - 1]), float(x[first])
        return wide

    def _heights(self, x: Array) -> tuple[Array, Array]:
        low, high = self.elements.faces_at(np.asarray(x)[None, :], self.y)
        return low[0] + self.inset["lower"], high[0] - self.inset["upper"]

    def _gap(self, x: Array) -> Array:
        low, high = self._heights(x)
        return np.asarray(high - low)

    def depth(self, x: float) -> float:
        """Distance of the mid-lines at x, mm."""
        return float(self._gap(np.array([x]))[0])

    def level(self, m: Membrane, y: Array) -> float:
        """Height of a level plate as a share of the depth."""
        return float(m.height.at(self.elements.fraction(y), np.ones(1))[0])

    def know(self, xs: list[float]) -> None:
        """Look the heights of many places up at once."""
        low, high = self._heights(np.array(xs))
        self.known.update(zip(xs, zip(low.tolist(), high.tolist(), strict=True), strict=True))

    def node(self, net: Network, x: float, height: float) -> int:
        """The node at a share of the depth; where upper and lower wall meet in a point there is one."""
        if x not in self.known:
            self.know([x])
        low, high = self.known[x]
        if (x <= self.nose and self.pointed[0]) or (x >= self.tail and self.pointed[1]):
            height = 0.5
        return net.node(x, low + height * (high - low))


def _shears(m: Membrane, draws: Draws, i: int) -> Array:
    """G t (S,) of a membrane; a slack film is a field of diagonal pulls, E t/4 (Wagner 1929)."""
    d = draws.skins[i]
    return np.asarray((np.minimum(d.Gt, d.Et / 4) if m.slack else d.Gt) * m.plies)


def _own_torsion(net: Network, elements: Elements, draws: Draws, geometry: Geometry, k: int, here: list[int]) -> None:
    samples = len(draws.foam.G)
    net.open_torsion, net.open_share = np.zeros(samples), np.zeros(len(here))
    net.open_flow = np.zeros((len(here), samples))
    for n, i in enumerate(here):
        m = elements.membranes[i]
        if m.plate is None:
            continue
        vary = draws.skins[i].Gt / draws.skins[i].Gt[0] * m.plies
        width = max(float(geometry.skin[i, 0, k]), 1e-6)
        own = m.plate.torsion_per_width(width) * width * vary
        net.open_torsion += own
        net.open_share[n] = own[0]
        face = 2 * m.plate.face_shear * m.plate.face_gap
        net.open_flow[n] = (face or m.skin.G_MPa.typ * m.plate.thickness**2) * vary
    net.bar_shear = np.zeros(samples)
    weight = 0.0
    for i, bar in enumerate(elements.bars):
        if geometry.bar_on[i, k]:
            size = geometry.bar_scale[i, k]
            twist = bar_twist_scale(elements, geometry, i, k)
            net.open_torsion += draws.bars[i].G * bar.stock.torsion_constant_mm4 * twist
            # shear factor of a thin tube 1/2, of a solid bar 0.9
            factor = 0.5 if bar.stock.bore_mm else 0.9
            net.bar_shear += factor * draws.bars[i].G * bar.stock.area_mm2 * size ** bar.powers[0]
            net.bar_x += float(geometry.bar_x[i, k]) * bar.stock.area_mm2
            weight += bar.stock.area_mm2
    net.bar_x = net.bar_x / weight if weight else float(geometry.chord[k]) / 2


def _add_bars(net: Network, elements: Elements, draws: Draws, geometry: Geometry, k: int, bars: list[int]) -> None:
    """Bars are booms on the nearest node of a wall."""
    used = sorted({*net.first, *net.second})
    if not used:
        return
    EA, _ = bar_stiffness(elements, draws, geometry)
    x, z = np.array(net.x)[used], np.array(net.z)[used]
    for i in bars:
        bx, bz = float(geometry.bar_x[i, k]), float(geometry.bar_z[i, k])
        net.booms.append((used[int(np.argmin(np.hypot(x - bx, z - bz)))], bz, EA[:, i, k]))


def restrained(mesh: Mesh, torsion: Array, stretches: list[tuple[IntArray, Walls]]) -> Array:
    r"""GJ (S, n) with openings between closed bays as stiff as the bays make them.

    Over an open length L whose ends cannot warp the twist is (TL/GJ)[1 − tanh(kL/2)/(kL/2)], with one such end
    (TL/GJ)[1 − tanh(kL)/(kL)], k² = GJ/EI_ω (Vlasov 1961). How well bays hold is judgement (`WARPING_HELD`): samples
    spread between free and held. `stretches`: the stations of each, and its walls at its root side.
    """
    out = torsion.copy()
    held = np.clip(draw_factor(WARPING_HELD), 0.0, 1.0)
    mean = [float(np.median(torsion[0, s])) for s, _ in stretches]
    for n, (stations, walls) in enumerate(stretches):
        sides = [m for m in (n - 1, n + 1) if 0 <= m < len(stretches) and mean[m] > _CLOSED * mean[n]]
        if not sides:
            continue
        length = float(mesh.y[stations[-1]] - mesh.y[stations[0]])
        stiff = held_stiffness(walls.torsion, walls.warping, length, len(sides))
        gain = np.maximum(stiff / walls.torsion, 1.0) ** held
        out[:, stations] *= gain[:, None]
    return out


def held_stiffness(torsion: Array, warping: Array, length: float, ends: int) -> Array:
    """GJ (S,) that an open length seems to have when one or both of its ends cannot warp."""
    reach = np.sqrt(torsion / np.maximum(warping, 1e-30)) * length / (2 if ends == 2 else 1)
    return np.asarray(torsion / np.maximum(1 - np.tanh(reach) / np.maximum(reach, 1e-12), 1e-12))
