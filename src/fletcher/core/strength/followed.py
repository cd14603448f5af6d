"""A part followed as its load grows: what its stations carry, with members lost all along, and what a loss means for
the rest."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array, IntArray
from fletcher.core.section.moment_curvature import NEVER
from fletcher.core.strength.capacity import Capacity, capacity
from fletcher.core.strength.fibres import FOAM, Fibres, Label, Part, fibres_of
from fletcher.core.strength.modes import Mode

STRAINED = frozenset(
    {"foam_tension", "foam_crush", "notch", "skin_tension", "skin_yield", "skin_wrinkling", "skin_compression",
     "wall_buckling", "bar_tension", "bar_compression", "bar_buckling", "bar_strut", "bar_flute"}
)  # fmt: skip
"""Ways to fail that the strain of a section decides: they are followed through its changes."""
OF_A_MEMBER = frozenset({"bar_bond", "strip_bond", "strip_end", "bar_twist", "skin_shear"})
"""Ways to fail after which a member is lost all along."""
SHARED = frozenset({"core_shear", "skin_shear", "wall_shear", "bar_twist"})
"""Ways to fail of which a member that is lost leaves its share to the rest."""
_LOUD = 0.1
"""Stations with less than this share of the largest moment keep the linear answer …"""
_USED = 0.3
"""… unless it uses this share of the strength that the worst station does: an end that tapers away, or a lay-up that
stops."""
_GOVERN = 2
"""At so many stations the samples are marched."""


class Followed:
    """One part under one load."""

    def __init__(
        self, part: Part, modes: Sequence[Mode], drawn: Array, plain_shear: Array, excluded: frozenset[str]
    ) -> None:
        self.part, self.modes, self.drawn_strain = part, modes, drawn
        self.plain_shear, self.excluded = plain_shear, excluded
        self.samples, self.n = part.acting.edge.shape
        self.strained = [m for m in modes if m.kind in STRAINED]
        self.stations = stations = self._near()
        self.typical = None if not len(stations) else fibres_of(part, stations, 1)
        self.tried: dict[frozenset[int], tuple[Capacity, Fibres]] = {}
        self.known: dict[frozenset[int], Array] = {}
        self._drawn_at: IntArray = np.zeros(0, int)
        self._all: Fibres | None = None

    @cached_property
    def others(self) -> list[Mode]:
        """Ways to fail that no strain of a section decides."""
        return [m for m in self.modes if m.kind not in STRAINED]

    @cached_property
    def peaks(self) -> tuple[Array, IntArray]:
        """Of the `others` the largest use and its station, typical, each (modes,)."""
        if not self.others:
            return np.zeros(0), np.zeros(0, int)
        uses = np.array([m.use[0] for m in self.others])
        return uses.max(1), uses.argmax(1)

    @cached_property
    def flows(self) -> Array:
        """Largest force that each bar hands over per length, typical, N/mm (bars,)."""
        rate = self.part.acting.response.force_rate
        return np.asarray(np.abs(rate[0]).max(-1)) if rate.size else np.zeros(0)

    @cached_property
    def twisted(self) -> bool:
        """Whether anything twists it."""
        return bool(np.any(self.part.acting.torque))

    def _near(self) -> IntArray:
        """Stations that are loaded enough to govern."""
        if not self.strained or np.any(self.part.acting.axial):
            return np.zeros(0, int)
        load = np.abs(self.part.moment[0])
        if load.max() <= 0:
            return np.zeros(0, int)
        use = 1 / self.linear(frozenset())[0]
        return np.nonzero((load >= _LOUD * load.max()) | ((use >= _USED * use.max()) & (load > 0)))[0]

    def _drawn(self, f: Fibres) -> Array:
        """Strain at which the peel front of a tape runs, per fibre (F,)."""
        return np.append(self.drawn_strain, NEVER)[f.member]

    def typically(self, lost: frozenset[int]) -> tuple[Capacity, Fibres]:
        """What the near stations carry without the members that are lost, typical values."""
        if lost not in self.tried:
            assert self.typical is not None
            typical = self.typical.without(lost)
            self.tried[lost] = capacity(typical, 1, self._drawn(typical)), typical
        return self.tried[lost]

    def along(self, lost: frozenset[int]) -> Array:
        """Break load of every station (S, n) without the members that are lost. Samples are marched at those that
        govern; elsewhere their linear spread is kept."""
        if lost in self.known:
            return self.known[lost]
        k = self.stations
        cap = self.typically(lost)[0]
        linear = self.linear(lost)
        out = linear.copy()
        ratio = cap.most[0] / np.maximum(linear[0, k], 1e-12)
        out[:, k] = linear[:, k] * np.where(np.isfinite(ratio), ratio, 1.0)
        if self.samples > 1:
            chosen = self._govern(lost)
            again = self.sampled(chosen).without(lost)
            follow = np.any(cap.most[0, chosen] > (1 + 1e-9) * cap.first[0, chosen])
            full = capacity(again, self.samples, self._drawn(again), bool(follow))
            out[:, k[chosen]] = full.most
        self.known[lost] = out
        return out

    def _govern(self, lost: frozenset[int]) -> IntArray:
        """The few of the near stations that govern without the members that are lost."""
        most = self.typically(lost)[0].most[0]
        chosen: list[int] = []
        for i in np.argsort(most):
            if all(abs(int(i) - c) > 2 for c in chosen):
                chosen.append(int(i))
            if len(chosen) == _GOVERN or most[i] > 1.25 * most.min():
                break
        return np.sort(chosen)

    def prepare(self, losses: Iterable[frozenset[int]], more: IntArray) -> None:
        """Makes the fibres of all samples at the stations that govern after any of these losses, and at some `more` of
        the near stations, at once."""
        if self.samples > 1 and len(self.stations):
            self._draw(np.concatenate([more, *(self._govern(lost) for lost in losses)]))

    def _draw(self, chosen: IntArray) -> None:
        self._drawn_at = np.unique(chosen)
        self._all = fibres_of(self.part, self.stations[self._drawn_at], self.samples)

    def sampled(self, chosen: IntArray) -> Fibres:
        """All samples of some of the near stations."""
        if self._all is None or not np.all(np.isin(chosen, self._drawn_at)):
            self._draw(np.concatenate([self._drawn_at, chosen]))
        assert self._all is not None
        return self._all.stations(np.searchsorted(self._drawn_at, chosen))

    def linear(self, lost: frozenset[int]) -> Array:
        """Break load of every station by the linear answer, (S, n), large where nothing is strained."""
        use = np.full((self.samples, self.n), 1e-9)
        for m in self.strained:
            if (
                m.kind not in self.excluded
                and member_of(m, self.part) not in lost
                and (m.breaks or m.kind == "foam_crush")
            ):
                np.maximum(use, m.use if m.breaks else 0.2 * m.use, out=use)
        return np.asarray(1 / use)

    def label(self, f: Fibres, fibre: int, k: int) -> Label | None:
        """What has happened to a fibre at its limit: by the sign of its strain."""
        if fibre < 0:
            return None
        pulled, pushed, _, _ = f.labels[fibre]
        return pulled if f.section.shape[0, k, fibre] > 0 and pulled is not None else pushed or pulled


def member_of(mode: Mode, part: Part) -> int:
    """The member that a way to fail belongs to, as `strength.fibres` numbers them; −3 where it is none."""
    if mode.item is None:
        return FOAM if mode.line is None else -3
    return mode.item + (len(part.elements.membranes) if mode.kind.startswith(("bar", "joint_bearing")) else 0)


def members_of(part: Part, line: int) -> frozenset[int]:
    """Members that a line of the lay-up brings."""
    skins = len(part.elements.membranes)
    own = {i for i, m in enumerate(part.elements.membranes) if m.line == line}
    return frozenset(own | {skins + n for n, bar in enumerate(part.elements.bars) if bar.line == line})


def members_named(part: Part, layer_id: str | None) -> frozenset[int]:
    """Members of the line of the lay-up that has this id; none where there is no such line."""
    line = next((n for n, layer in enumerate(part.elements.part.layers) if layer.id == layer_id), None)
    return frozenset() if line is None else members_of(part, line)


def held_by(mode: Mode, part: Part) -> frozenset[int]:
    """Members of the line that a joint holds along it: without them it holds nothing, and cannot break."""
    if mode.line is None or not mode.kind.startswith("joint"):
        return frozenset()
    joint = getattr(part.elements.part.layers[mode.line], "joint", None)
    return members_named(part, getattr(joint, "of", None))


def loses(mode: Mode, j: Followed, lost: frozenset[int]) -> frozenset[int] | None:
    """Members that are lost all along when a mode comes; None where the part breaks with it."""
    bars = range(len(j.part.elements.membranes), len(j.part.elements.membranes) + len(j.part.elements.bars))
    if mode.kind in OF_A_MEMBER and mode.item is not None:
        return frozenset({member_of(mode, j.part)})
    if mode.kind in ("joint_glue", "joint_peel", "joint_foam"):
        return held_by(mode, j.part) or None
    if mode.kind == "core_shear":
        flows = j.flows
        left = [n for n in range(len(flows)) if bars[0] + n not in lost and flows[n] > 0] if len(flows) else []
        if left:  # the bar beside which most is handed over comes loose, with its fellow
            line = j.part.elements.bars[max(left, key=lambda n: flows[n])].line
            return frozenset(bars[0] + n for n, bar in enumerate(j.part.elements.bars) if bar.line == line)
    return None


def spread(m: Mode, j: Followed, lost: frozenset[int], count: int) -> Array:
    """Shares of strength (count, n) that a way to fail uses in the first samples once members are lost: the foam's
    shear falls to what the bars left concentrate, the twist of what is left grows by what lost skins carried."""
    use = m.use[:count]
    if not lost:
        return use
    skins = len(j.part.elements.membranes)
    if m.kind == "core_shear":
        plain, flows = j.plain_shear[:count], j.flows
        gone = np.isin(np.arange(len(flows)) + skins, list(lost))
        share = 1 - float(flows[gone].sum() / flows.sum()) if flows.sum() > 0 else 1.0
        use = np.minimum(use, plain + share * np.maximum(use - plain, 0.0))
    if m.kind in SHARED and j.twisted:
        carried = sum((j.part.skin_share[i] for i in lost if i < skins), np.zeros(j.n))
        use = use / np.maximum(1 - carried, 0.02)
    return use
