"""From a prepared part to the arrays behind an estimate: what each load case asks."""

from __future__ import annotations

import logging
import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import Case, NoseStrikeCase, TipStrikeCase
from fletcher.core.estimate.prepare import (
    Prepared,
    divergence_speed,
    prepared_for,
)
from fletcher.core.joints.context import Scene
from fletcher.core.joints.failure_modes import bonded_lines, joint_modes
from fletcher.core.joints.wing_root import root_modes
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.uncertainty import draw_factor, samples
from fletcher.core.section.buckling import panel_buckling
from fletcher.core.section.elements import Elements
from fletcher.core.section.partial_interaction import Bend, Response, respond_all
from fletcher.core.section.properties import Draws, Geometry
from fletcher.core.strength.capacity import drawn_strains
from fletcher.core.strength.fibres import Part as Sections
from fletcher.core.strength.followed import STRAINED
from fletcher.core.strength.judgement import Judgement, Rest, judge
from fletcher.core.strength.modes import Acting, Mode, Strains, at_stations, modes
from fletcher.core.structure import frequencies, loads
from fletcher.core.structure.cords import FrontCord, cord_modes, front_cord, pulled_edge
from fletcher.core.structure.free_sway import TOLD_FROM
from fletcher.core.structure.fuselage import PLATEAU
from fletcher.core.structure.loading import Body, Loading

log = logging.getLogger(__name__)

HOLLOW_GRIP = 0.3
"""[J] Shear, MPa, that holds a cord along the edge of a hollow part."""
_NO_PART = 1e-3
"""Share of its stiffness below which what is left without a line is no part."""
_LEANS = 0.02
"""Share by which swaying strains a corner of a section more, from which on it is judged free to sway as well."""
_NO_NEARER = 1.1
"""What is free to sway and typically holds so many times what it does held straight is not followed in the samples."""
_KEPT = 64
_RESTS: dict[tuple[Airframe, Part, Case], tuple[tuple[float, float] | None]] = {}
"""What parts without one of their lines carry: sizes of that line are tried one after another, the rest is the same."""


@dataclass(frozen=True)
class Analysis:
    """A prepared part under one load case: the arrays behind an estimate."""

    prepared: Prepared
    part: Part
    case: Case
    loading: Loading
    response: Response
    modes: list[Mode]
    edge_curvature: Array
    """(S, n) edgewise, 1/mm, positive where the rear edge is pulled."""
    scene: Scene
    """What joints need of it."""
    acting: Acting
    airframe: Airframe
    catalogue: Catalogue | None
    """The materials it was prepared with; None the reference."""
    whole: Analysis | None = None
    """The same part undamaged: what is missing of it is never counted as a gain."""
    is_a_rest: bool = False
    """Whether a line of the lay-up was taken away to see what the rest holds."""

    @cached_property
    def judged(self) -> Judgement:
        """What the part does as the load grows."""
        found = self.judged_by(self.modes)
        return found if self.whole is None else found.no_later_than(self.whole.judged)

    def judged_by(self, modes: list[Mode]) -> Judgement:
        """What the part does as the load grows, by some of its ways to fail: held straight and free to sway, the worse
        of both."""
        held = self._judged(modes, False)
        assert held is not None
        if not self._leans:
            return held
        j, s = held.judge, self.prepared.sums
        if j.typical is not None and held.final.mode.kind not in STRAINED:
            # free to sway no corner is strained more than by so much: what its strains decide stays behind
            more = float(((1 + self._lean) / s.sways[0]).max())
            if float(j.typically(frozenset())[0].most.min()) > more * float(held.breaks[0]):
                return held
        free = self._judged(modes, True, held)
        return held if free is None else held.worse(free)

    def _judged(self, modes: list[Mode], free: bool, held: Judgement | None = None) -> Judgement | None:
        """`free` to sway or held straight; None where it typically breaks only well beyond what it does `held`."""
        p = self.prepared
        part = Sections(
            p.elements, p.draws, p.geometry, p.limits, Strains(self.acting, p.sums), self.acting,
            self.loading.edge if self.loading.read == "swing" else self.loading.moment, p.fields.skin_share, free,
        )  # fmt: skip
        excluded = frozenset({"foam_crush"}) if isinstance(self.case, NoseStrikeCase) else frozenset()
        rest = Rest(self._without, not self.is_a_rest) if modes is self.modes else None
        unless = math.inf if held is None else _NO_NEARER * float(held.breaks[0])
        return judge(part, modes, drawn_strains(p.elements, p.draws), self._plain_shear, excluded, rest, unless, held)

    @cached_property
    def _lean(self) -> Array:
        """(n,) by how much swaying strains a corner of the section more than its outer face, typical: κ_x c over
        κ_z t."""
        s, g = self.prepared.sums, self.prepared.geometry
        lean = np.abs(s.cross_EI[0]) / np.maximum(s.edge_EI[0], 1e-12)
        return np.asarray(lean * g.chord / np.maximum(g.z_high - g.z_low, 1e-9))

    @property
    def _leans(self) -> bool:
        """Whether swaying strains it more than can be left out, where nothing but its root or supports hold it."""
        return self._sways_at_all and bool(self._lean.max() > _LEANS)

    @property
    def _sways_at_all(self) -> bool:
        return self.loading.read == "bend" and self.loading.bend is None

    def _without(self, line: int) -> float:
        """Break load over this load, typical, of the part without a line of its lay-up; 0 where the rest is no part
        that can be computed."""
        layers = tuple(la.model_copy(update={"enabled": False}) if n == line else la
                       for n, la in enumerate(self.part.layers))  # fmt: skip
        other = self.part.model_copy(update={"layers": layers})
        if self.catalogue is not None:
            found = _rest(self.airframe, other, self.case, self.catalogue)
        else:
            found = self._kept_rest(other, line)
        if found is None or found[0] < _NO_PART * self.prepared.sums.whole_EI[0].min():
            return 0.0
        return found[1] / max(_largest(self.loading), 1e-12)

    def _kept_rest(self, other: Part, line: int) -> tuple[float, float] | None:
        """`_rest` of the part without a line; the same whatever that line is like: kept while the line is changed."""
        beside = tuple(p for p in self.airframe.parts if p.id != self.part.id)
        layers = (*other.layers[:line], *other.layers[line + 1 :])
        bare = other.model_copy(update={"layers": layers, "damage": (), "name": ""})
        key = self.airframe.model_copy(update={"parts": beside}), bare, self.case
        kept = _RESTS.get(key)
        if kept is None:
            kept = (_rest(self.airframe, other, self.case, None),)
            if len(_RESTS) >= _KEPT:
                _RESTS.clear()
            _RESTS[key] = kept
        return kept[0]

    @property
    def _plain_shear(self) -> Array:
        """Share of the foam's shear strength (S, n) without anything that concentrates it: 3V/2A, and the torque on an
        ellipse of the section's size, 16 T/π c t² (Timoshenko & Goodier)."""
        p = self.prepared
        area = np.maximum(p.geometry.foam_x[0], 1e-9)
        stress = 1.5 * self.acting.shear / area
        stress = stress + 16 * self.acting.torque / (np.pi * p.geometry.chord * p.geometry.thickness**2)
        return np.asarray(stress / p.draws.foam.shear[:, None])

    @cached_property
    def linear_deflection(self) -> Array:
        """(S, n) of the bend that the case reads: up, or edgewise; mm, as if nothing had changed."""
        return self._deflected(None)

    @cached_property
    def deflection(self) -> Array:
        """(S, n) of the bend that the case reads, mm, with what has changed at that load."""
        softened = self.judged.softened
        return self.linear_deflection if softened is None else self._deflected(softened.bends)

    def _deflected(self, softer: Array | None) -> Array:
        """The bend with curvatures so many times the linear ones (S, n)."""
        if self.loading.bend is not None:
            return self.loading.bend
        p = self.prepared
        if self.loading.read == "swing":
            return frequencies.swing(p.mesh, -self.edge_curvature * (1.0 if softer is None else softer))
        response = self.response
        more = np.ones_like(response.curvature) if softer is None else softer
        if self._sways_at_all:
            more = more / p.sums.sways
        bend = replace(response, curvature=response.curvature * more).deflection
        if self.loading.held and self.loading.supports is None:
            bend = bend + p.root_give[:, None] * self.loading.moment[:, [0]] * p.mesh.y
        return bend

    @cached_property
    def sways(self) -> bool:
        """Whether its stiff parts lie so far askew that it is told how it sways as it bends."""
        return self._sways_at_all and bool(1 / float(self.prepared.sums.sways[0].min()) > 1 + TOLD_FROM)

    @cached_property
    def held_deflection(self) -> Array:
        """(S, n) of the bend if something held it straight sideways, mm."""
        return self.response.deflection

    @cached_property
    def sideways(self) -> Array:
        """(S, n) by how much it sways, aft positive, mm: κ_x = −(EI_xz/EI_z) κ_z of every section."""
        p = self.prepared
        lean = p.sums.cross_EI / np.maximum(p.sums.edge_EI, 1e-12) / p.sums.sways
        return (
            replace(self.response, curvature=self.response.curvature * lean).deflection
            - replace(self.response, curvature=np.zeros_like(self.response.curvature)).deflection
        )

    @cached_property
    def linear_twist(self) -> Array:
        """(S, n) rotation of the section, rad, nose up positive, as if nothing had changed."""
        if self.loading.twist is not None:
            return self.loading.twist
        return frequencies.turned(self.prepared.mesh.y, self.loading.torque, self.prepared.fields.torsion)

    @cached_property
    def twist(self) -> Array:
        """(S, n) rotation of the section, rad, nose up positive, with what has changed at that load."""
        left = self.judged.softened
        if left is None or self.loading.twist is not None:
            return self.linear_twist
        return frequencies.turned(self.prepared.mesh.y, self.loading.torque, self.prepared.fields.torsion * left.GJ)

    @cached_property
    def divergence(self) -> Array:
        """Speed (S,), m/s, at which it twists or bends away at the load of the case: a small further load meets the
        tangents of what has changed by then."""
        p, left = self.prepared, self.judged.softened
        if left is None:
            return p.shaking.divergence
        EI, GJ = p.sums.whole_EI * left.EI, p.fields.torsion * left.GJ
        return divergence_speed(self.part, p.geometry, EI, GJ, p.fields.shear_centre)

    @property
    def asked(self) -> Array:
        """(S, n) the moment by which the case is drawn: bending, edgewise bending or twist, N·mm."""
        moments: dict[str, Array] = {
            "bend": self.loading.moment,
            "swing": self.loading.edge,
            "twist": self.loading.torque,
        }
        return moments[self.loading.read]


def end_crush(elements: Elements, draws: Draws, geometry: Geometry) -> Array:
    """Force (S,) that crushes the outer end of a part lengthwise, N: foam at its crush stress, walls and bars at the
    plateau of their crushing or buckling stress."""
    force = np.zeros(len(draws.foam.G))
    if not elements.hollow:
        force = force + draws.foam.crush * max(float(geometry.foam_x[0, -1]), 0.0)
    for i, m in enumerate(elements.membranes):
        if m.plate is None or not geometry.skin_on[i, -1]:
            continue
        first = panel_buckling(elements, draws, geometry, i)[-1] / m.thickness_mm if elements.hollow else np.inf
        pressed = draws.skins[i].compressive
        stress = np.full(len(force), first) if pressed is None else np.minimum(pressed, first)
        force = force + draw_factor(PLATEAU) * stress * m.thickness_mm * geometry.skin[i, 0, -1]
    for i, bar in enumerate(elements.bars):
        area = bar.stock.area_mm2 * geometry.bar_scale[i, -1] ** bar.powers[0] * geometry.bar_on[i, -1]
        force = force + draw_factor(PLATEAU) * draws.bars[i].compressive * area
    return np.maximum(force, 1e-3)


def _edge(elements: Elements, draws: Draws, geometry: Geometry) -> Array:
    """Force per length (S, n), N/mm, that crushes the front or rear edge inwards: foam over its height, or the plateau
    of what the walls of both faces bear on edge."""
    if not elements.hollow:
        return np.asarray(draws.foam.bearing[:, None] * geometry.thickness)
    walls = np.zeros(len(geometry.y))
    for i, m in enumerate(elements.membranes):
        if m.plate is not None and m.face in ("upper", "lower"):
            walls += m.plate.across * m.plies * geometry.skin_on[i]
    return np.asarray(draw_factor(PLATEAU)[:, None] * np.maximum(walls, 0.01))


def _at_place(share: Array, p: Prepared, loading: Loading) -> Array:
    """A limit that only the case knows, at the place where it acts: straps at their place, the rest at the end."""
    place = loading.at_mm if loading.at_mm is not None else p.mesh.y[-1]
    use = np.zeros((len(share), len(p.mesh.y)))
    use[:, int(np.argmin(np.abs(p.mesh.y - place)))] = share
    return use


def analyse(airframe: Airframe, part: Part, case: Case, catalogue: Catalogue | None = None) -> Analysis:
    """Run the whole computation for a checked part in one load case; `catalogue` None is the reference."""
    if case not in part.cases:
        part = part.model_copy(update={"cases": (*part.cases, case)})
    return under(prepared_for(part, airframe.setting, catalogue), airframe, part, case, catalogue)


def under(p: Prepared, airframe: Airframe, part: Part, case: Case, catalogue: Catalogue | None = None) -> Analysis:
    """A prepared part under one of its load cases; `catalogue` as in `analyse`."""
    return next(under_all(p, airframe, part, [case], catalogue=catalogue))


def _largest(loading: Loading) -> float:
    return max(float(np.abs(m[0]).max()) for m in (loading.moment, loading.edge, loading.torque))


def _rest(airframe: Airframe, part: Part, case: Case, catalogue: Catalogue | None) -> tuple[float, float] | None:
    """Least bending stiffness and largest moment at the break load of a part, typical; None where it is no part."""
    try:
        with samples(0), np.errstate(all="ignore"):
            p = prepared_for(part, airframe.setting, catalogue)
            a = replace(under(p, airframe, part, case, catalogue), is_a_rest=True)
            return float(p.sums.whole_EI[0].min()), float(a.judged.breaks[0]) * _largest(a.loading)
    except (IndexError, ValueError, np.linalg.LinAlgError):
        log.info("part %s without a line is no part that can be computed", part.id, exc_info=True)
        return None


def under_all(
    p: Prepared, airframe: Airframe, part: Part, wanted: list[Case], *, judged: bool = True,
    catalogue: Catalogue | None = None,
) -> Iterator[Analysis]:  # fmt: skip
    """A prepared part under each of several of its load cases: solved together, told one by one. Without being
    `judged` it only gives way: there are no modes of failure."""
    body = _body(p, airframe, part)
    loadings = []
    for case in wanted:
        cord = front_cord(p.elements, loads.place_of(case, part) if isinstance(case, TipStrikeCase) else None)
        loadings.append(loads.load(case, replace(body, cord=cord)))
    ways = [p.turned if _presses_lower(one) else p for one in loadings]
    answers: dict[int, Response] = {}
    for way in {id(w): w for w in ways}.values():
        own = [n for n, w in enumerate(ways) if w is way]
        bends = [Bend(loadings[n].moment, loadings[n].supports, loadings[n].held) for n in own]
        answers |= zip(own, respond_all(way.tied, bends), strict=True)
    for n, (case, loading) in enumerate(zip(wanted, loadings, strict=True)):
        yield _analysed(ways[n], airframe, part, case, loading, answers[n], judged, catalogue)


def _presses_lower(loading: Loading) -> bool:
    """Whether the lower face is pressed where a load bends a part most, typical."""
    moment = loading.moment[0]
    return bool(moment[int(np.argmax(np.abs(moment)))] < 0)


def _body(p: Prepared, airframe: Airframe, part: Part) -> Body:
    geometry = p.geometry
    none = np.zeros(len(p.draws.foam.G))
    return Body(
        part=part,
        outline=p.elements.outline,
        all_up_mass_g=airframe.all_up_mass_g,
        y=p.mesh.y,
        left=p.mesh.left,
        chord=geometry.chord,
        thickness=geometry.thickness,
        centroid=p.centroid,
        mass=p.line_mass.sum(0),
        shear_centre=p.fields.shear_centre,
        flap_hz=p.shaking.flap,
        edge_hz=p.shaking.edge,
        crush=p.draws.foam.bearing,
        edge=_edge(p.elements, p.draws, geometry),
        torsion=p.fields.torsion,
        whole_EI=p.sums.whole_EI,
        divergence=p.shaking.divergence,
        end_crush=end_crush(p.elements, p.draws, geometry),
        cord=FrontCord(none, none),
        glue=p.draws.foam.shear if not p.elements.hollow else none + HOLLOW_GRIP,
    )


def _analysed(
    p: Prepared, airframe: Airframe, part: Part, case: Case, loading: Loading, response: Response, judged: bool,
    catalogue: Catalogue | None,
) -> Analysis:  # fmt: skip
    """What the part's sections feel and, if it is judged, what they bear."""
    grid, geometry, sums = p.mesh, p.geometry, p.sums
    stiff = pulled_edge(p.elements, geometry, sums, loading.edge)
    edge = loading.edge / stiff.EI
    shear = at_stations(grid, np.abs(response.slope))
    axial = np.zeros_like(edge) if loading.axial is None else loading.axial / sums.whole_EA
    acting = Acting(response, edge, stiff.x, shear, np.abs(loading.torque), axial)
    scene = Scene(p.elements, p.draws, geometry, grid, sums, p.fields, response, edge, loading, shear)
    return Analysis(
        prepared=p,
        part=part,
        case=case,
        loading=loading,
        response=response,
        modes=[*_modes(p, case, acting, scene), *_bent_over(p, loading, response)] if judged else [],
        edge_curvature=edge,
        scene=scene,
        acting=acting,
        airframe=airframe,
        catalogue=catalogue,
    )


BENDS_OVER = float(np.radians(30))
"""[J] Slope against its root or supports at which a part counts as folded."""


def _bent_over(p: Prepared, loading: Loading, response: Response) -> list[Mode]:
    """How much of the slope that folds it a part uses, where it is steepest."""
    if loading.read != "bend" or loading.bend is not None or not np.any(loading.moment):
        return []
    y, w = p.mesh.y, response.deflection
    k0, k1 = p.mesh.left, p.mesh.left + 1
    slope = np.abs(w[:, k1] - w[:, k0]) / (y[k1] - y[k0])
    steepest = int(np.argmax(slope[0]))
    use = np.zeros_like(w)
    use[:, k1[steepest]] = slope[:, steepest] / BENDS_OVER
    return [Mode("bends_over", None, "part", use, True)]


def _modes(p: Prepared, case: Case, acting: Acting, s: Scene) -> list[Mode]:
    """Every way to fail that the part has in a case."""
    found = modes(p.elements, p.draws, p.geometry, p.sums, acting, p.fields, p.mesh, p.limits)
    if isinstance(case, NoseStrikeCase):  # the end is meant to crush: that it does is no failure
        found = [m for m in found if m.kind != "foam_crush"]
    found += root_modes(p.elements, p.draws, p.geometry, p.sums, s.response, s.loading, s.shear)
    if p.elements.joints:
        named = bonded_lines(p.elements)
        found = [m for m in found if m.line not in named or m.kind not in ("bar_bond", "strip_bond", "strip_end")]
        found += joint_modes(s)
    found += cord_modes(p.elements, p.draws, p.geometry, acting, p.mesh)
    return found + [Mode(kind, None, "part", _at_place(share, p, s.loading), True) for kind, share in s.loading.asks]
