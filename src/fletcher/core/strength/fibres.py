r"""The sections of a part under a load as fibres with laws: what `section.moment_curvature` strains.

A fibre takes the strain of the part's linear answer as its shape, so that bars slip as they do there; its lever is its
distance from the neutral axis, so that the work over the lever is the moment. Once members are lost the rest bends as a
plane section, in which bars follow as far as they did. Limits that part a member and limits after which
something softens or stays are kept apart (`strength.judgement` says which is which). Arrays (S, n, F): samples,
stations, fibres.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray, IntArray
from fletcher.core.materials.plates import Slice
from fletcher.core.materials.uncertainty import WRINKLED, draw_factor
from fletcher.core.section.elements import Elements, Membrane, PlacedBar, own_bending
from fletcher.core.section.moment_curvature import NEVER, Laws, Section, at_stations
from fletcher.core.section.properties import Draws, Geometry, columns_of
from fletcher.core.strength.modes import Acting, Limits, Strains, notch_factor, notched

LEVELS = 12
"""So many fibres of foam over the depth, or as many columns as a section has along the chord."""
FOLDS = 0.10
"""[J] Strain of the pressed core at which a part counts as folded: it then bends about five of its depths."""
DRAWN_AT = 0.10
"""Strain at which the drawn stress of a film is given."""
FOAM = -1
"""The member that the foam is."""
_TELLS = 0.1
"""Share of the half depth from the neutral axis beyond which a bar's strain tells how far it slips."""
_KINKS = ("skin_wrinkling", "skin_compression")
DUCTILE_BARS = frozenset({"wood", "hardwood", "balsa", "bamboo", "aluminium", "steel_wire"})
"""Families of bars that crush or yield in compression before they break."""


@dataclass(frozen=True)
class Label:
    """What happens when a fibre reaches a limit: the kind of failure, the member (`FOAM`, or the number of a skin, or
    of a bar after all skins), whether that breaks it, and whether it stays."""

    kind: str
    member: int
    where: str
    breaks: bool
    stays: bool = False


Value = Array | float
Labels = tuple[Label | None, Label | None, Label | None, Label | None]
_Places = tuple[Array, Array, Array]
"""Shares and places x and z, each (b, n)."""


@dataclass(frozen=True)
class _Alike:
    """So many (b) fibres of one law before they are strained: their place (x, z), each (b or 1, n); their law E_pull,
    E_push, yields, hardens, gives; the strains at which they break (pulled, pushed) and soften (pulled, pushed), and
    the labels of each. A bar brings its own `strain` (b, S, n), its `middle` (x, z), and by how much that `follows` its
    plane section; about its middle it bends as the section does."""

    member: int
    amount: Value
    place: tuple[Array, Array]
    law: tuple[Value, Value, Value, Value, Value]
    limits: tuple[Value, Value, Value, Value]
    labels: tuple[Labels, ...]
    strain: Array | None
    middle: tuple[Array, Array]
    follows: Value


@dataclass(frozen=True)
class Fibres:
    """Sections under a load. `section` (S, n, F); strains at which a fibre breaks (`pull`, `push`) or something of it
    softens or stays (`soft_pull`, `soft_push`); the `member` (F,) that it belongs to; its four labels in that order."""

    section: Section
    pull: Array
    push: Array
    soft_pull: Array
    soft_push: Array
    member: IntArray
    labels: tuple[Labels, ...]
    full: Array
    """Moment (S, n) of the whole section at the load while nothing has changed, N·mm."""
    plane: Array
    """Strains (S, n, F) at the load if it stayed a plane section, bars following as far as they do."""
    follows: Array
    """By how much each fibre (S, n, F) follows its plane section: 1, less for a bar that slips."""

    @cached_property
    def folds(self) -> BoolArray:
        """Whether the section folds where a fibre (F,) reaches its limit in push."""
        return np.array([pushed is not None and pushed.kind == "folds" for _, pushed, _, _ in self.labels])

    @cached_property
    def kinks(self) -> BoolArray:
        """Whether a fibre (F,) of a skin kinks where it reaches its limit in push."""
        return np.array([pushed is not None and pushed.kind in _KINKS for _, pushed, _, _ in self.labels])

    def stations(self, k: IntArray) -> Fibres:
        """The sections at some of the stations, in order."""
        if len(k) == self.full.shape[1]:
            return self
        pull, push, soft_pull, soft_push, plane, follows = (
            at_stations(v, k) for v in (self.pull, self.push, self.soft_pull, self.soft_push, self.plane, self.follows)
        )
        return replace(
            self, section=self.section.stations(k), pull=pull, push=push, soft_pull=soft_pull, soft_push=soft_push,
            full=self.full[:, k], plane=plane, follows=follows,
        )  # fmt: skip

    def without(self, members: frozenset[int]) -> Fibres:
        """The same sections without some of their members."""
        if not members:
            return self
        gone = np.isin(self.member, list(members))
        never = np.where(gone, NEVER, 0.0)
        s = self.section
        return replace(
            self,
            section=Section(np.where(gone, 0.0, s.amount), self.plane, s.laws, self.follows, s.lever),
            pull=self.pull + never,
            push=self.push + never,
            soft_pull=self.soft_pull + never,
            soft_push=self.soft_push + never,
        )


@dataclass(frozen=True)
class Part:
    """What the fibres of a part are made from."""

    elements: Elements
    draws: Draws
    geometry: Geometry
    limits: Limits
    strains: Strains
    acting: Acting
    moment: Array
    """Bending or edgewise bending (S, n) that strains the sections, N·mm."""
    skin_share: Array
    """(membranes, n) share of each skin in GJ."""
    free: bool = False
    """Whether it sways as it bends, where stiff parts lie askew, or is held straight."""


def fibres_of(part: Part, stations: IntArray, count: int) -> Fibres:
    """The sections at some stations of a part under its load, for the first `count` samples."""
    builder = _Builder(part, stations, count)
    builder.core()
    for i in range(len(part.elements.membranes)):
        builder.skin(i)
    for i in range(len(part.elements.bars)):
        builder.bar(i)
    made = builder.made
    ends = np.cumsum([len(f.labels) for f in made])
    rows = [slice(end - len(f.labels), end) for end, f in zip(ends, made, strict=True)]

    def whole(values: Iterable[Value], usual: float | None = None, samples: int = count) -> Array:
        # each station in one piece, so that some of them are soon taken; written to as they are made
        made = np.empty((len(stations), ends[-1], samples))
        out = made.transpose(1, 2, 0)
        if usual is not None:
            made.fill(usual)
        for row, value in zip(rows, values, strict=True):
            if not (isinstance(value, float) and value == usual):
                out[row] = value
        return out

    def last(values: Array) -> Array:
        return values.transpose(1, 2, 0)

    x, z = (whole((f.place[n][..., None, :] for f in made), samples=1) for n in range(2))
    off, follows, shape = builder.off(x, z), whole((f.follows for f in made), 1.0), builder.strain(x, z)
    middle = (whole((f.middle[n][..., None, :] for f in made), samples=1) for n in range(2))
    slides = builder.off(*middle) * (1 - follows)
    for row, f in zip(rows, made, strict=True):
        if f.strain is not None:
            shape[row] = f.strain
    usual = (None, None, NEVER, 0.0, NEVER)
    laws = Laws(*(last(whole((f.law[n] for f in made), usual[n])) for n in range(5)))
    section = Section(last(whole((f.amount for f in made), 0.0)), last(shape), laws, last(follows), last(off))
    moment = np.abs(part.moment[:count, stations])
    full = moment if builder.swings else section.elastic  # edgewise the linear answer takes one modulus of the foam
    full = np.where(np.abs(full / moment - 1) < 0.5, full, moment)
    pull, push, soft_pull, soft_push = (last(whole((f.limits[n] for f in made), NEVER)) for n in range(4))
    return Fibres(
        section, pull, push, soft_pull, soft_push, np.repeat([f.member for f in made], [len(f.labels) for f in made]),
        tuple(labels for f in made for labels in f.labels),
        full, last(builder.bent * (off - slides)), last(follows),
    )  # fmt: skip


class _Builder:
    """Adds the fibres of one part."""

    def __init__(self, part: Part, stations: IntArray, count: int) -> None:
        self.p, self.k, self.count = part, stations, count
        self.made: list[_Alike] = []
        self.swings = part.strains.swings
        g = part.geometry
        self.curvature = part.acting.response.curvature[:count, stations]
        self.along = part.strains.along[:count, stations]
        self.edge, self.edge_x = part.acting.edge[:count, stations], part.acting.edge_x[:count, stations]
        sums = part.strains.sums
        self.way = np.where(part.moment[:count, stations] < 0, -1.0, 1.0)
        stiff = sums.edge_EI if self.swings else sums.whole_EI
        self.bent = np.abs(part.moment[:count, stations]) / stiff[:count, stations]
        self.z_axis = sums.whole_z[:count, stations]
        self.z_middle = 0.5 * (g.z_low + g.z_high)[stations]
        self.chord = g.chord[stations]

    def strain(self, x: Array, z: Array) -> Array:
        """Linear strain at places (..., 1, n) aft of the leading edge and heights (..., 1, n), (..., S, n)."""
        if self.swings:
            return np.asarray(self.edge * (x - self.edge_x))
        return np.asarray(self.along - self.curvature * z + self.swayed(x, z))

    def swayed(self, x: Array, z: Array) -> Array:
        """Strain (..., S, n) that swaying adds: −κ_z (z − z̄) of the further bend and −κ_x (x − x̄) (unsymmetrical
        bending)."""
        if not self.p.free:
            return np.zeros_like(self.curvature)
        s, c = self.p.strains.sums, self.count
        sways = s.sways[:c, self.k]
        lean = s.cross_EI[:c, self.k] / s.edge_EI[:c, self.k]
        up = self.curvature / sways
        return np.asarray(-(up - self.curvature) * (z - self.z_axis) + lean * up * (x - s.edge_x[:c, self.k]))

    def off(self, x: Array, z: Array) -> Array:
        """Distance (..., S, n) from the neutral axis, towards what the load pulls."""
        return np.asarray(self.way * ((x - self.edge_x) if self.swings else (self.z_axis - z)))

    def add(
        self,
        member: int,
        amount: Value,
        place: tuple[Array, Array],
        law: tuple[Value, Value, Value, Value, Value],
        breaks: tuple[Value, Value] = (NEVER, NEVER),
        softens: tuple[Value, Value] = (NEVER, NEVER),
        labels: Labels | list[Labels] = (None, None, None, None),
        strain: Array | None = None,
        middle: tuple[Array, Array] | None = None,
        follows: Value = 1.0,
    ) -> None:
        """Fibres of one law at places (x, z), each (b or 1, n), with labels of each or the same for all."""
        each = tuple(labels) if isinstance(labels, list) else (labels,) * max(len(v) for v in place)
        self.made.append(
            _Alike(member, amount, place, law, (*breaks, *softens), each, strain, middle or place, follows)
        )

    def core(self) -> None:
        """Foam: levels over the depth, or columns along the chord; its edges break, crush and fold."""
        e, g, f = self.p.elements, self.p.geometry, self.p.draws.foam
        if e.hollow:
            return
        c = self.count
        E_t, E_c = f.E_tension[:c, None], f.E_compression[:c, None]
        tears, crush = f.tensile[:c, None] / E_t, f.crush[:c, None] / E_c
        law = (E_t, E_c, NEVER if e.foam.brittle else tears, 0.0, crush)
        columns = columns_of(e, g.y[self.k], g.inside[self.k])
        if self.swings:
            depth = ((columns.upper - columns.lower) * columns.weight).T
            self.add(FOAM, depth[:, None], (columns.x.T, self.z_middle[None]), law)
            corners = [(np.zeros_like(self.chord), self.z_middle, "front"), (self.chord, self.z_middle, "rear")]
        else:
            low, high = g.z_low[self.k], g.z_high[self.k]
            edges = low + (high - low) * np.linspace(0, 1, LEVELS + 1)[:, None]
            bottom, top = edges[:-1, :, None], edges[1:, :, None]
            within = np.clip(np.minimum(top, columns.upper) - np.maximum(bottom, columns.lower), 0, None)
            area = within * columns.weight
            amount = np.maximum(area.sum(-1), 0.0)
            x = (area * columns.x).sum(-1) / np.maximum(amount, 1e-9)
            self.add(FOAM, amount[:, None], (x, 0.5 * (edges[:-1] + edges[1:])), law)
            corners = [(self.chord, low, "lower"), (self.chord, high, "upper")]
            if self.p.free:
                corners = [(s * self.chord, z, where) for _, z, where in corners for s in (0.1, 0.9)]
        breaks = tears if e.foam.brittle else f.break_strain[:c, None]
        self.add(
            FOAM, 0.0, (np.array([x for x, _, _ in corners]), np.array([z for _, z, _ in corners])), law,
            (breaks, FOLDS), (NEVER if e.foam.brittle else tears, crush),
            [
                (Label("foam_tension", FOAM, where, True), Label("folds", FOAM, where, True),
                 Label("foam_yield", FOAM, where, False, True), Label("foam_crush", FOAM, where, False, True))
                for _, _, where in corners
            ],
        )  # fmt: skip
        for hole, beside, low, high, front, rear, width in notched(e, g):
            if not np.any(beside[self.k]):
                continue
            factor = notch_factor(width if hole.edge else width / 2, hole.radius_mm)
            limit = np.where(beside[self.k], tears / factor[self.k], NEVER)
            x, z = np.array([front, rear])[:, self.k], np.array([low, high])[:, self.k]
            label = Label("notch", FOAM, hole.face, True)
            self.add(FOAM, 0.0, (x, z), law, (limit, NEVER), labels=(label, None, None, None))

    def skin(self, i: int) -> None:
        """A membrane: a few fibres over its height or width, of every slice that it is made of."""
        e, g, k, c = self.p.elements, self.p.geometry, self.k, self.count
        m = e.membranes[i]
        if m.slack or not np.any(g.skin_on[i, k]):
            return
        on, length = g.skin_on[i, k], g.skin[i, 0, k]
        Et = self.p.strains.sums.skin_Et[:c, [i]] / m.thickness_mm
        there = np.where(on > 0, 0.0, NEVER)
        slices = (Slice(0.0, 1.0, 1.0, True),) if m.plate is None or m.upright else m.plate.slices
        thick, outwards = m.thickness_mm, m.plies * (-1 if m.face == "lower" else 1)
        edges, within = self._places(i, len(slices) > 1)
        for s in slices:
            law, breaks, softens, labels = self._skin_law(i, m, s, Et)
            aside = s.offset * outwards
            torn, soft = ((pulled + there, pushed + there) for pulled, pushed in (breaks, softens))
            amount = on * length * thick * s.share
            shares, x, z = edges
            self.add(i, (amount * shares)[:, None], (x, z + aside), law, torn, soft, labels)
            if within is not None:
                shares, x, z = within
                self.add(i, (amount * shares)[:, None], (x, z + aside), law)

    def _places(self, i: int, layered: bool) -> tuple[_Places, _Places | None]:
        """Shares of a membrane and the places (x, z) where they stand for it: its edges, where its limits are read, and
        two places between, which have its length, centroid and second moment."""
        g, k = self.p.geometry, self.k
        length = np.maximum(g.skin[i, 0, k], 1e-9)
        x, z = g.skin_x[i, 1, k] / length, g.skin[i, 1, k] / length
        front, rear, low, high = (v[i, k] for v in (g.skin_front, g.skin_rear, g.skin_low, g.skin_high))
        if self.swings:
            (ends, at), (inner, between) = _nodes(front, rear, x, g.skin_x[i, 2, k] / length - x**2)
            return (ends, at, z[None]), (inner, between, z[None])
        spread = g.skin[i, 2, k] / length - z**2
        if layered:  # its layers lie at their own heights
            spread = np.maximum(spread - own_bending(self.p.elements.membranes[i]), 0.0)
        flat = np.all(high - low < 1e-6)
        if not self.p.free:
            if flat:
                return (np.ones_like(z)[None], x[None], z[None]), None
            (ends, at), (inner, between) = _nodes(low, high, z, spread)
            return (ends, x[None], at), (inner, x[None], between)
        # what sways is strained along the chord as well: at each height the membrane lies where it does on the whole
        shares, heights = np.ones_like(z)[None], z[None]
        if not flat:
            shares, heights = (np.concatenate(v) for v in zip(*_nodes(low, high, z, spread), strict=True))
        lean = (g.skin_xz[i, k] / length - x * z) / np.maximum(spread, 1e-9)
        corners = np.zeros((2, len(x))), np.array([front, rear]), np.array([low, high])
        return corners, (shares, x + lean * (heights - z), heights)

    def _skin_law(
        self, i: int, m: Membrane, s: Slice, E: Array
    ) -> tuple[tuple[Value, Value, Value, Value, Value], tuple[Array, Array], tuple[Array, Array], Labels]:
        c, limit, d = self.count, self.p.limits.skins[i], self.p.draws.skins[i]
        never = np.full((c, 1), NEVER)
        mean, E = E, E * s.stiff
        if not s.leads:  # the core of a board: its papers lead, it follows until it tears or folds
            law: tuple[Value, Value, Value, Value, Value] = (E, E, NEVER, 0.0, s.crushes)
            crush = Label("core_crush", i, m.face, False, True)
            torn, folds = Label("core_tears", i, m.face, True), Label("folds", i, m.face, True)
            return (
                law,
                (never * 0 + s.tears, never * 0 + FOLDS),
                (never, never * 0 + s.crushes),
                (torn, folds, None, crush),
            )
        crushes = bool(limit.crushes[int(self.k[0])])
        kind = "skin_compression" if crushes else "skin_wrinkling"
        if m.skin.pull == "state" and d.draws_out is not None:
            yields = d.draws_out[:c, None] / mean
            drawn = 0.0 if d.drawn is None else np.maximum(d.drawn[:c] - d.draws_out[:c], 0.0)[:, None] / DRAWN_AT
            soft_pull, label_soft = yields, Label("skin_yield", i, m.face, False, True)
            tears = never if d.break_strain is None else d.break_strain[:c, None]
            hardens: Value = drawn
        else:
            yields, hardens, soft_pull, label_soft = never, 0.0, never, None
            tears = d.tensile[:c, None] / mean
        label_pull = Label("skin_tension", i, m.face, m.skin.pull == "break", m.skin.pull == "state")
        gives = self._at(limit.gives)
        if limit.buckles is not None:
            # a wall between its supports buckles, keeps that load, and creases
            plateau, push = self._at(limit.buckles), gives
            label_push = Label("skin_compression", i, m.face, True)
            soft_push, label_state = plateau, Label("wall_buckling", i, m.face, False)
            law = (E, E, yields, hardens, np.minimum(plateau, push))
        elif m.skin.wrinkle == "break":
            push, label_push = gives, Label(kind, i, m.face, True)
            soft_push, label_state = never, None
            law = (E, E, yields, hardens, gives)
        else:
            push, label_push = never, None
            soft_push, label_state = gives, Label(kind, i, m.face, False, m.skin.wrinkle == "stays")
            law = (E, E, yields, hardens, gives * draw_factor(WRINKLED)[:c, None])
        return law, (tears, push), (soft_pull, soft_push), (label_pull, label_push, label_soft, label_state)

    def _at(self, values: Array) -> Array:
        """Values (S or 1, n or 1) at the stations, for the samples in use."""
        wide = values[: self.count]
        return wide[:, self.k] if wide.shape[1] > 1 else wide

    def bar(self, i: int) -> None:
        """A bar: two fibres with its own bending, its edges and its middle, which buckles."""
        e, g, limit = self.p.elements, self.p.geometry, self.p.limits.bars[i]
        bar, k, c = e.bars[i], self.k, self.count
        on = g.bar_on[i, k]
        if not np.any(on):
            return
        number = len(e.membranes) + i
        E = self.p.draws.bars[i].E[:c, None]
        sums = self.p.strains.sums
        x, z = g.bar_x[i, k], g.bar_z[i, k]
        middle = self.strain(x, z) * (sums.edge_follows[i, k] if self.swings else 1.0)
        if e.slips and not self.swings:
            middle = self.p.acting.response.bar_force[:c, i][:, k] * limit.strain[:c][:, k] + self.swayed(x, z)
        force = sums.bar_EA[:c, i][:, k] if e.slips else sums.bar_full[:c, i][:, k]
        amount = np.where(on > 0, force / E, 0.0)
        scale = g.bar_scale[i, k]
        size = scale * bar.sizes(1.0)[0 if self.swings else 1] / 2
        spread = self.edge if self.swings else -self.curvature
        radius = _gyration(bar, self.swings) * scale
        there = np.where(on > 0, 0.0, NEVER)
        push = 1 / limit.compressive[:c] / E
        soft = e.bars[i].stock.family in DUCTILE_BARS
        law = (E, E, NEVER, 0.0, push if soft else NEVER)
        follows = self._follows(i, middle, self.off(x, z))

        sides = np.array([-1.0, 1.0])[:, None]

        def place(out: Array) -> tuple[Array, Array]:
            return (x + out, z[None]) if self.swings else (x[None], z + out)

        def strained(out: Array) -> Array:
            return np.asarray(middle + spread * out[:, None])

        self.add(
            number, amount / 2, place(sides * radius), law,
            strain=strained(sides * radius), middle=(x, z), follows=follows,
        )  # fmt: skip
        tears = 1 / limit.tensile[:c] / E + there
        crush = Label("bar_compression", number, bar.side, not soft, soft)
        self.add(
            number, 0.0, place(sides * size), law, (tears, NEVER if soft else push + there),
            (NEVER, push + there if soft else NEVER),
            (Label("bar_tension", number, bar.side, True), None if soft else crush, None, crush if soft else None),
            strained(sides * size), (x, z), follows,
        )  # fmt: skip
        buckles = 1 / np.maximum(limit.buckles[:c][:, k], 1e-12) + there
        label = Label(bar.buckling_kind(e.hollow), number, bar.side, True)
        self.add(
            number, 0.0, (x[None], z[None]), law, (NEVER, buckles), labels=(None, label, None, None),
            strain=middle[None], follows=follows,
        )  # fmt: skip

    def _follows(self, i: int, middle: Array, off: Array) -> Array:
        """By how much a bar takes the strain of its plane section (S, n). Near the neutral axis its own strain does not
        tell; there, and edgewise, it follows as far as its length lets it."""
        along = self.p.strains.sums.edge_follows[i, self.k] + np.zeros_like(off)
        if self.swings:
            return np.asarray(along)
        half = 0.5 * (self.p.geometry.z_high - self.p.geometry.z_low)[self.k]
        with np.errstate(divide="ignore", invalid="ignore"):
            ratio = np.clip(np.nan_to_num(middle / (self.bent * off), nan=1.0), 0.0, 1.0)
        return np.where(np.abs(off) > _TELLS * half, ratio, along)


def _nodes(low: Array, high: Array, mean: Array, spread: Array) -> tuple[tuple[Array, Array], tuple[Array, Array]]:
    """Shares and places, each (2, n), of the ends of something that lies between `low` and `high`, and of two places
    between, with that mean and second moment `spread` about it: half way between its two-point rule (mean ± √spread)
    and that of its ends and its mean, whose shares are no less than nothing as spread ≤ (high − mean)(mean − low). Past
    a yield one tells too much and the other too little; this one is within 4 % for a face, a ring and an upright
    wall."""
    below, above = np.maximum(mean - low, 1e-9), np.maximum(high - mean, 1e-9)
    spread = np.clip(spread, 0.0, below * above)
    first, last = (spread / (side * (below + above)) / 2 for side in (below, above))
    within = 1 - first - last
    off = np.sqrt(spread / (2 * within))
    ends = np.array([first, last]), np.array([low, high])
    return ends, (np.array([within / 2, within / 2]), np.array([mean - off, mean + off]))


def _gyration(bar: PlacedBar, edgewise: bool) -> float:
    """Radius of gyration of a bar about its own middle, mm."""
    upright = bar.on_edge != edgewise
    return float(np.sqrt(bar.stock.second_moment_mm4(upright) / bar.stock.area_mm2))
