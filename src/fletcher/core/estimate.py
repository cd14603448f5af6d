"""From a prepared part to the arrays behind an estimate: what each load case asks."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from fletcher.core import dynamics, loads
from fletcher.core.airframe import Airframe, Part
from fletcher.core.beam import Bend, Response, respond_all
from fletcher.core.body import Body, Loading
from fletcher.core.buckling import panel_buckling
from fletcher.core.cases import Case, NoseStrikeCase, TipStrikeCase
from fletcher.core.cords import cord_modes, front_cords, pulled_edge
from fletcher.core.elements import Elements
from fletcher.core.evidence import (
    draw_factor,
)
from fletcher.core.fuselage import PLATEAU
from fletcher.core.jointing import Scene
from fletcher.core.joints import bonded_lines, joint_modes
from fletcher.core.materials import Catalogue
from fletcher.core.outline import Array
from fletcher.core.preparing import (
    Prepared,
    prepared_for,
)
from fletcher.core.root import root_modes
from fletcher.core.sections import Draws, Geometry
from fletcher.core.strength import Acting, Mode, at_stations, modes


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

    @cached_property
    def deflection(self) -> Array:
        """(S, n) of the bend that the case reads: up, or edgewise; mm."""
        if self.loading.bend is not None:
            return self.loading.bend
        p = self.prepared
        if self.loading.read == "swing":
            return dynamics.swing(p.mesh, -self.edge_curvature)
        bend = self.response.deflection
        if self.loading.held and self.loading.supports is None:
            bend = bend + p.root_give[:, None] * self.loading.moment[:, [0]] * p.mesh.y
        return bend

    @cached_property
    def twist(self) -> Array:
        """(S, n) rotation of the section, rad, nose up positive."""
        if self.loading.twist is not None:
            return self.loading.twist
        return dynamics.turned(self.prepared.mesh.y, self.loading.torque, self.prepared.fields.torsion)

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
        first = panel_buckling(elements, geometry, i)[-1] / m.thickness_mm if elements.hollow else np.inf
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
    return under(prepared_for(part, airframe.setting, catalogue), airframe, part, case)


def under(p: Prepared, airframe: Airframe, part: Part, case: Case) -> Analysis:
    """A prepared part under one of its load cases."""
    return next(under_all(p, airframe, part, [case]))


def under_all(
    p: Prepared, airframe: Airframe, part: Part, wanted: list[Case], *, judged: bool = True
) -> Iterator[Analysis]:
    """A prepared part under each of several of its load cases: solved together, told one by one. Without being
    `judged` it only gives way: there are no modes of failure."""
    body = _body(p, airframe, part)
    loadings = []
    for case in wanted:
        EA, breaks = front_cords(p.elements, loads.place_of(case, part) if isinstance(case, TipStrikeCase) else None)
        loadings.append(loads.load(case, replace(body, cord_EA=EA, cord_breaks=breaks)))
    answers = respond_all(p.tied, [Bend(one.moment, one.supports, one.held) for one in loadings])
    for case, loading, answer in zip(wanted, loadings, answers, strict=True):
        yield _analysed(p, part, case, loading, answer, judged)


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
        end_crush=end_crush(p.elements, p.draws, geometry),
        cord_EA=none,
        cord_breaks=none,
    )


def _analysed(p: Prepared, part: Part, case: Case, loading: Loading, response: Response, judged: bool) -> Analysis:
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
        modes=_modes(p, case, acting, scene) if judged else [],
        edge_curvature=edge,
        scene=scene,
    )


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
