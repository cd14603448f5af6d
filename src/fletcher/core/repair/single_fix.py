"""One fix of one mark, tried with typical values: what the part holds with every glue after so many minutes.

Each mark is tried by itself, as if all else were whole. A whole repair is then no stronger than its weakest mark, and
its flexibilities add (`repair.pareto_search`); what is proposed is computed in full.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from fletcher.core.adhesion.adhesives import TIMES_MIN
from fletcher.core.adhesion.bond_line import CURED_MIN, hardened
from fletcher.core.common.abandon import look_up
from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Airframe, JointLayer, Layer, Part
from fletcher.core.document.damage import BarMark, Mark, PeeledMark
from fletcher.core.document.joint import Glued
from fletcher.core.estimate.analyse import Analysis, under_all
from fletcher.core.estimate.effort import effort_of, prices
from fletcher.core.estimate.prepare import Prepared, Shaking, points_of, prepare, sectioned
from fletcher.core.estimate.report import read_at, twist_at
from fletcher.core.joints.butt_and_scarf import MIXED, REACHED
from fletcher.core.joints.context import Many, Scene, Site
from fletcher.core.joints.failure_modes import ways_of
from fletcher.core.joints.joint_mass import joint_grams
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.repair.damage_model import as_damaged, parted_at
from fletcher.core.repair.operations import fixed_after
from fletcher.core.repair.phrasing import place_of
from fletcher.core.repair.recipe import REST, Fix, Recipe, mended
from fletcher.core.repair.repair_table import RepairStep, steps_of
from fletcher.core.repair.schema import MendWish
from fletcher.core.repair.speeds import judging
from fletcher.core.repair.way_glue import SPLICED, bed_glue, crack_glue, skin_glue, splice_glue
from fletcher.core.section.assembly import elements_of, line_span, place_joint
from fletcher.core.section.elements import Elements
from fletcher.core.section.setting import catalogue_in
from fletcher.core.strength.judgement import Judgement, carried_without
from fletcher.core.validation.airframe import check_part

MINUTES = (*TIMES_MIN[:7], CURED_MIN)
"""Minutes after gluing at which fixes are tried; the last is cured."""


@dataclass(frozen=True)
class Tried:
    """A fix: `holds` (cases, glues, times) times the load, `near` the same of the joints it makes; `strains`
    (cases, marks) of the faces at every mark over those of the whole part; bend and twist over the whole part's; grams,
    minutes of hands, looks, skill, credits; what it is made with."""

    fix: Fix
    steps: tuple[RepairStep, ...]
    holds: Array
    near: Array
    strains: Array
    bend: float
    twist: float
    grams: float
    minutes: float
    between: Array
    looks: int
    skill: int
    cost: float
    needs: frozenset[str]


@dataclass(frozen=True)
class _Look:
    prepared: Prepared
    analyses: list[Analysis]
    uses: list[Array]
    """Under each case the largest share of strength at every station, (n,)."""


def _many(keys: Sequence[str]) -> Many:
    return Many(tuple(Glued(adhesive=g) for g in keys), MINUTES)


class Trials:
    """Fixes of a damaged part, tried one by one; sections that were prepared are kept."""

    def __init__(self, airframe: Airframe, part: Part, glues: list[str], wish: MendWish | None = None) -> None:
        self.airframe, self.part, self.glues = airframe, part, glues
        wish = wish or MendWish()
        asked = wish.at_hand, wish.fly_in_min
        self.warmth = wish.warmth_C
        self.beds, self.cracks = ([way(g, part, *asked) for g in glues] for way in (bed_glue, crack_glue))
        self.splices = [splice_glue(g, *asked) for g in glues]
        """What takes the place of each glue of the seams in beds, cracks and splices."""
        self.whole_part = part.model_copy(update={"damage": ()})
        self.catalogue = catalogue_in(airframe.setting)
        self._seams, self._beds, self._cracks = (_many(keys) for keys in (glues, self.beds, self.cracks))
        self._looks: dict[tuple[Layer, ...], _Look | None] = {}
        self._lefts: dict[str, Array] = {}
        self._shaking: Shaking | None = None
        """The whole part's, which a fix hardly changes."""
        look = self._look(self.whole_part)
        assert look is not None
        self.whole, self._shaking = look, look.prepared.shaking
        self.whole_holds = np.array([1 / max(float(use.max()), 1e-9) for use in look.uses])
        self.whole_strains = [_strain(a) for a in look.analyses]
        self.places = [place_of(m) for m in part.damage]
        self.part_g = float(look.prepared.grams[:, 0].sum())
        self._cost = effort_of(self.whole_part).cost.typ

    def _look(self, part: Part) -> _Look | None:
        broken = as_damaged(part)
        if part.damage and parted_at(broken) is not None:
            return None
        if broken.layers not in self._looks:
            sound = self._look(part.model_copy(update={"damage": ()})) if part.damage else None
            self._looks[broken.layers] = self._prepared(broken, sound)
        return self._looks[broken.layers]

    def _prepared(self, broken: Part, sound: _Look | None) -> _Look | None:
        """A part under its cases; `sound` is it without the marks that stay: what is missing of it is no gain."""
        look_up()
        with samples(0):
            cut = sectioned(broken, points_of(broken), self.catalogue)
            with np.errstate(invalid="ignore"):
                p = prepare(cut, broken, self._shaking)
            if not _sane(p):  # bars so close to one another that the field model has no answer
                return None
            analyses = list(under_all(p, self.airframe, broken, list(judging(broken))))
            if sound is not None:
                analyses = [replace(a, whole=b) for a, b in zip(analyses, sound.analyses, strict=True)]
            return _Look(p, analyses, [a.judged.use[0] for a in analyses])

    def tried(self, mark: Mark, fix: Fix) -> Tried | None:
        """A fix of a mark; None where it cannot be made, or leaves the part in two."""
        part = self._mended(mark, fix)
        if part.layers != self.part.layers and check_part(part, reference()):
            return None
        own, bare = self._bare(part)
        try:
            look = self._look(bare)
        except (IndexError, ValueError, np.linalg.LinAlgError):
            return None
        if look is None:
            return None
        elements = elements_of(part, self.catalogue)
        with samples(0):
            holds, near, glued = self._holds(elements, own, look, mark, fix)
        if fix.adds:  # what only adds leaves the part no weaker than it was
            left = self._left(mark)[:, None, None]
            holds, near = np.maximum(holds, left), np.maximum(near, left)
        grams = 0.0
        if fix.way not in ("leave", "fill"):
            grams = float(look.prepared.grams[:, 0].sum()) - self.part_g + glued
        bend, twist = self._gives(look)
        steps = tuple(steps_of(fix, mark, self.part))
        return Tried(
            fix=fix, steps=steps, holds=holds, near=near, strains=self._strains(look), bend=bend, twist=twist,
            grams=grams, minutes=sum(s.minutes.typ for s in steps),
            between=np.array([self._between(steps, fix, n) for n in range(max(len(self.glues), 1))]),
            looks=min((s.looks for s in steps), default=_LEFT_LOOKS),
            skill=max((s.skill for s in steps), default=1), cost=self._costs(part, fix),
            needs=frozenset(new_stock(self.part, part, fix)),
        )  # fmt: skip

    def _left(self, mark: Mark) -> Array:
        """Times the load (cases,) that the part holds with one mark as it is, no more than whole."""
        if mark.id not in self._lefts:
            try:
                look = self._look(self.part.model_copy(update={"damage": (mark,)}))
            except (IndexError, ValueError, np.linalg.LinAlgError):
                look = None
            found = np.zeros_like(self.whole_holds)
            if look is not None:
                found = np.array([1 / max(float(use.max()), 1e-9) for use in look.uses])
            self._lefts[mark.id] = np.minimum(found, self.whole_holds)
        return self._lefts[mark.id]

    def _between(self, steps: tuple[RepairStep, ...], fix: Fix, glue: int) -> float:
        """Minutes that its steps wait for one another with one of the glues."""
        recipe = self.recipe((fix,), glue)
        mark = next(m for m in self.part.damage if m.id == fix.mark)
        return sum(fixed_after(step, mark, recipe, self.part, self.warmth) for step in steps[:-1])

    def _mended(self, mark: Mark, fix: Fix) -> Part:
        hurt = self.part.model_copy(update={"damage": (mark,)})
        return mended(hurt, self.recipe((fix,), 0))

    def recipe(self, fixes: tuple[Fix, ...], glue: int) -> Recipe:
        """A repair with one of the glues, by its number."""
        return Recipe(
            fixes=fixes, glue=self.glues[glue], bed_glue=self.beds[glue], crack_glue=self.cracks[glue],
            splice_glue=self.splices[glue],
        )  # fmt: skip

    def _glues(self, mark: Mark, fix: Fix) -> Many:
        """With what the joints of a mark's fix are glued, beside each glue of the seams."""
        if isinstance(mark, BarMark):
            return self._beds
        if fix.way == "pack":
            return self._cracks
        if isinstance(mark, PeeledMark):
            return _many([skin_glue(mark, self.part)] * len(self.glues))
        return self._seams

    def _bare(self, part: Part) -> tuple[list[int], Part]:
        """Places of the joints that the fix made or changed, and the part without them, lines at their places."""
        known = {la.id: la for la in self.part.layers}
        own = [n for n, la in enumerate(part.layers) if isinstance(la, JointLayer) and known.get(la.id) != la]
        layers = []
        for n, la in enumerate(part.layers):
            if n not in own:
                layers.append(la)
            elif la.id in known:
                layers.append(la.model_copy(update={"enabled": False}))
        return own, part.model_copy(update={"layers": tuple(layers)})

    def _holds(self, whole: Elements, own: list[int], look: _Look, mark: Mark, fix: Fix) -> tuple[Array, Array, float]:
        """Times the load (cases, glues, times) of the part and of its new joints; grams of glue and pins. A spliced bar
        is no stronger than its glue is by then."""
        shape = (len(self.glues) or 1, len(MINUTES))
        out: list[tuple[Array, Array]] = []
        grams = 0.0
        part = whole.part
        placed = [place_joint(part.layers[n], n, part, reference()) for n in own]  # type: ignore[arg-type]
        for c, a in enumerate(look.analyses):
            holds = np.full(shape, 1 / max(float(look.uses[c].max()), 1e-9))
            if fix.way in SPLICED:
                made = REACHED["mended"].typ * MIXED.typ  # by hand
                glued_so = np.array([[float(hardened(g, m)[0]) for m in MINUTES] for g in self.splices])
                holds = np.minimum(holds, _spliced(a, made * glued_so))
            near = np.full(shape, 1e9)
            elements = replace(a.scene.elements, part=part)
            scene = Scene(**{**vars(a.scene), "elements": elements})
            for p in placed:
                layer = part.layers[p.line]
                assert isinstance(layer, JointLayer)
                use = np.zeros(shape)
                for way in ways_of(Site(scene, p, layer.glue, None, self._glues(mark, fix))):
                    peak = way.use.max(1)
                    use = np.maximum(use, peak.reshape(shape) if len(peak) > 1 else peak)
                own_holds = 1 / np.maximum(use, 1e-9)
                holds = beside(holds, own_holds, a.judged, p.joint)
                near = beside(near, own_holds, a.judged, p.joint)
                if c == 0:
                    grams += float(joint_grams(p, elements, a.scene.draws, a.scene.geometry)[0])
            out.append((holds, near))
        return np.array([o[0] for o in out]), np.array([o[1] for o in out]), grams

    def _strains(self, look: _Look) -> Array:
        """Largest strain of the faces near every mark over that of the whole part, (cases, marks); 1 where the part is
        strained less, or hardly at all."""
        out = np.ones((len(look.analyses), len(self.part.damage)))
        y, was_y = look.prepared.geometry.y, self.whole.prepared.geometry.y
        for c, (a, was) in enumerate(zip(look.analyses, self.whole_strains, strict=True)):
            ratio = _strain(a) / np.maximum(np.interp(y, was_y, was), 1e-5)
            for n, at in enumerate(self.places):
                near = np.abs(y - at) <= NEAR_MM if at is not None else np.zeros(len(y), bool)
                if np.any(near):  # the least of them: a cut skin strains its own place alone
                    out[c, n] = max(float(ratio[near].min()), 1.0)
        return out

    def _gives(self, look: _Look) -> tuple[float, float]:
        """Bend and twist over those of the whole part, the largest of all cases."""
        bend, twist = 0.0, 0.0
        for a, b in zip(look.analyses, self.whole.analyses, strict=True):
            was, now = (float(np.abs(x.deflection[0, read_at(x)])) for x in (b, a))
            bend = max(bend, now / max(was, 1e-9))
            if np.any(b.loading.torque):
                was, now = (float(np.abs(x.twist[0, twist_at(x)])) for x in (b, a))
                twist = max(twist, now / max(was, 1e-9))
        return bend, twist or 1.0

    def _costs(self, part: Part, fix: Fix) -> float:
        more = effort_of(part.model_copy(update={"damage": ()})).cost.typ - self._cost
        return max(more, 0.0) + replaced_cost(self.part, fix)


_LEFT_LOOKS = 2
"""Looks of what is left as it is."""


def beside(part_holds: Array, joint_holds: Array, judged: Judgement, joint: object) -> Array:
    """Times the load that a part holds with a new joint: what is weaker of the two, but no less than it carries once
    the joint has let go of the line that it holds. Arrays of any one shape."""
    left = carried_without(judged, getattr(joint, "of", None))
    return np.minimum(part_holds, np.maximum(joint_holds, left))


def _spliced(a: Analysis, share: Array) -> Array:
    """Times the load that a part holds whose joints of bars have such shares of their strength: what they hold, but no
    less than it carries without those bars."""
    found = [m for m in a.modes if m.kind == "bar_splice"]
    use = max((float(m.use[0].max()) for m in found), default=0.0)
    ids = {a.scene.elements.part.layers[m.line].id for m in found if m.line is not None}
    left = max((carried_without(a.judged, i) for i in ids), default=0.0)
    return np.maximum(share / max(use, 1e-9), left)


def replaced_cost(part: Part, fix: Fix) -> float:
    """Credits for a bar that takes the place of a broken one; nothing else."""
    mark = next((m for m in part.damage if m.id == fix.mark), None)
    line = next((la for la in part.layers if la.id == getattr(mark, "of", "")), None)
    if fix.way != "replace_bar" or fix.stock not in prices() or line is None:
        return 0.0
    price = prices()[fix.stock]
    start, end = line_span(line, part)
    return price.credits.typ * (end - start) / price.amount


NEAR_MM = 20.0
"""Strains are looked at so far on either side of a mark."""


def _strain(a: Analysis) -> Array:
    """Largest strain of the faces (n,), typical."""
    g, s, r = a.prepared.geometry, a.prepared.sums, a.response
    axial = r.axial[0] + r.curvature[0] * s.host_z[0]
    return np.asarray(np.max(np.abs([axial - r.curvature[0] * z for z in (g.z_low, g.z_high)]), axis=0))


def _sane(p: Prepared) -> bool:
    return bool(np.all(np.isfinite(p.fields.torsion)) and np.all(np.isfinite(p.fields.flexibility)))


def new_stock(before: Part, after: Part, fix: Fix | None = None) -> Iterator[str]:
    """Keys of stock in lines that a repair made."""
    known = {la.id for la in before.layers}
    if fix is not None and fix.stock is not None:
        yield fix.stock
    for la in after.layers:
        if la.id in known or la.id.endswith(f"-{REST}"):
            continue
        for name in ("stock", "skin"):
            key = getattr(la, name, None)
            if isinstance(key, str):
                yield key
        if isinstance(la, JointLayer) and hasattr(la.joint, "braces"):
            yield from (b.stock for b in la.joint.braces)
