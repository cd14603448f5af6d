"""A mended part while its glues cure: what it holds so long after its seams were closed, and when it may fly."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from fletcher.core.adhesion.adhesives import curings
from fletcher.core.adhesion.bond_line import hardened
from fletcher.core.adhesion.curing import sampled_share
from fletcher.core.adhesion.readiness import slowed
from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import BarLayer, JointLayer, Part
from fletcher.core.document.joint import AcrossJoint
from fletcher.core.estimate.analyse import Analysis
from fletcher.core.joints.butt_and_scarf import MIXED, REACHED
from fletcher.core.joints.context import Site
from fletcher.core.joints.failure_modes import sites_of, ways_of
from fletcher.core.repair.recipe import Recipe
from fletcher.core.repair.single_fix import MINUTES
from fletcher.core.repair.way_glue import SPLICES
from fletcher.core.strength.judgement import carried_without

FLIES_AT = 0.95
"""Share of what it will hold from which on a part counts as ready, if that is less than what its cases ask."""


def spliced_by_hand() -> Array:
    """Share (S,) of a splice's strength that hands leave: what the glue reaches, how it was mixed and cured."""
    return np.asarray(sampled_share(REACHED["mended"], "reached/mended") * sampled_share(MIXED, "mixed"))


@dataclass(frozen=True)
class NewJoints:
    """What a repair glued: its `joints` and the bars that it `spliced`, by id, and the glue of its `splices`."""

    joints: frozenset[str]
    spliced: frozenset[str]
    splices: str


def new_joints(part: Part, after: Part, recipe: Recipe) -> NewJoints:
    """Joints and splices of the mended part that the damaged one had not."""
    known = {la.id: la for la in part.layers}
    joints = frozenset(la.id for la in after.layers if isinstance(la, JointLayer) and known.get(la.id) != la)
    before = {s for la in part.layers if isinstance(la, BarLayer) for s in la.splices}
    spliced = frozenset(
        la.id for la in after.layers
        if isinstance(la, BarLayer) and any(s.how != "wrapped" for s in set(la.splices) - before)
    )  # fmt: skip
    return NewJoints(joints, spliced, recipe.of_splices)


@dataclass(frozen=True)
class Cures:
    """The mended part under its cases, and what was glued."""

    analyses: Sequence[Analysis]
    own: NewJoints
    warmth_C: float = 20.0
    """Of the joints while they cure."""

    @cached_property
    def _sites(self) -> list[list[Site]]:
        """The new joints under each case."""
        return [
            [x for x in sites_of(a.scene) if a.scene.elements.part.layers[x.placed.line].id in self.own.joints]
            for a in self.analyses
        ]  # fmt: skip

    @cached_property
    def _left(self) -> dict[tuple[int, str | None], float]:
        """Times the load that is carried once a joint has let go of the line that it holds, by case and line."""
        held = [{getattr(x.placed.joint, "of", None) for x in sites} for sites in self._sites]
        return {
            (n, of): carried_without(a.judged, of)
            for n, (a, lines) in enumerate(zip(self.analyses, held, strict=True)) for of in lines
        }  # fmt: skip

    @cached_property
    def _cured(self) -> list[Array]:
        return [self._beside(a, None) for a in self.analyses]

    def _beside(self, a: Analysis, minutes: float | None) -> Array:
        """Times the load (S,) that the part holds beside its new joints; spliced bars as far as their glue is."""
        if not self.own.joints and not self.own.spliced:
            return a.judged.breaks
        layers = a.scene.elements.part.layers
        modes = [m for m in a.modes if m.line is None or layers[m.line].id not in self.own.joints]
        if self.own.spliced:
            set_ = hardened(self.own.splices, self._aged(self.own.splices, minutes))
            share = np.maximum((set_ * spliced_by_hand())[:, None], 1e-6)
            modes = [
                replace(m, use=m.use / share)
                if m.kind == "bar_splice" and m.line is not None and layers[m.line].id in self.own.spliced else m
                for m in modes
            ]  # fmt: skip
        return np.minimum(a.judged_by(modes).breaks, 1e9 if a.whole is None else a.whole.judged.breaks)

    def _aged(self, glue: str, minutes: float | None) -> float | None:
        """Minutes as they count at 20 °C."""
        return None if minutes is None else max(minutes / slowed(curings()[glue], self.warmth_C), 1e-3)

    def _site(self, a: Analysis, site: Site, minutes: float | None, over_old: bool, left: float) -> Array:
        """Times the load (S,) that the part holds with one joint so old, or without it."""
        placed, joint = site.placed, site.placed.joint
        if over_old and isinstance(joint, AcrossJoint) and joint.reached == "mended":  # old glue never helps
            placed = replace(placed, joint=joint.model_copy(update={"reached": "over_old"}))
        age = minutes if site.glue is None else self._aged(site.glue.adhesive, minutes)
        uses = [w.use.max(1) for w in ways_of(Site(a.scene, placed, site.glue, age))]
        return np.asarray(np.maximum(1 / np.maximum(np.max(uses, axis=0, initial=0.0), 1e-9), left))

    def holds(self, minutes: float | None, over_old: bool = False) -> Array:
        """Times the load (cases, S) that the part holds so long after its seams were closed (None: cured), on clean
        faces or over old glue."""
        aged = minutes is not None and bool(self.own.spliced)
        out = []
        for n, (a, sites) in enumerate(zip(self.analyses, self._sites, strict=True)):
            holds = self._beside(a, minutes) if aged else self._cured[n]
            for site in sites:
                left = self._left[n, getattr(site.placed.joint, "of", None)]
                holds = np.minimum(holds, self._site(a, site, minutes, over_old, left))
            out.append(holds)
        return np.array(out)

    def _each(self, minutes: float) -> dict[str, Array]:
        """Times the load (cases, S) by what was glued: the joints by id, and `SPLICES`."""
        out: dict[str, list[Array]] = {}
        for n, (a, sites) in enumerate(zip(self.analyses, self._sites, strict=True)):
            if self.own.spliced:
                out.setdefault(SPLICES, []).append(self._beside(a, minutes))
            for site in sites:
                left = self._left[n, getattr(site.placed.joint, "of", None)]
                own = a.scene.elements.part.layers[site.placed.line].id
                holds = self._site(a, site, minutes, False, left)
                out.setdefault(own, []).append(np.broadcast_to(holds, a.prepared.draws.foam.G.shape))
        return {key: np.array(holds) for key, holds in out.items()}

    def seams(self) -> Array | None:
        """Times the load (cases, S) at which the weakest joint that the repair made gives, cured, whatever stands
        beside it; None where it made none."""
        if not self.own.joints:
            return None
        out = []
        for a, sites in zip(self.analyses, self._sites, strict=True):
            use = np.max([w.use.max(1) for site in sites for w in ways_of(site)], axis=0, initial=1e-4)
            out.append(np.broadcast_to(1 / use, (len(a.prepared.draws.foam.G),)))
        return np.array(out)

    def waits(self, holds: Array, asked: Array) -> dict[str, Array]:
        """Minutes (S,) after it was closed until what was glued lets every case hold what is `asked`, or `FLIES_AT` of
        what the part will (`holds`), (cases, S): by the id of the joint, splices as `SPLICES`; read between the minutes
        of the cure curves on their logarithm."""
        wanted = np.minimum(asked, FLIES_AT * holds)
        count = holds.shape[1]
        wait: dict[str, Array] = {}
        before: dict[str, Array] = {}
        last = 1.0
        for minutes in MINUTES:
            for key, each in self._each(minutes).items():
                share = np.min(each / wanted, axis=0)
                known, was = wait.setdefault(key, np.full(count, np.inf)), before.get(key, np.zeros(count))
                along = np.clip((1 - was) / np.maximum(share - was, 1e-9), 0, 1)
                then = np.exp(math.log(last) + along * (math.log(minutes) - math.log(last)))
                wait[key] = np.where(np.isinf(known) & (share >= 1), then, known)
                before[key] = share
            if all(np.isfinite(w).all() for w in wait.values()):
                break
            last = minutes
        return {key: np.where(np.isfinite(w), w, MINUTES[-1]) for key, w in wait.items()}
