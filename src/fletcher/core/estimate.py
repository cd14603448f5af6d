"""From the document to the arrays behind an estimate: what is prepared once per part, what each load case asks."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache

import numpy as np

from fletcher.core import dynamics, loads
from fletcher.core.airframe import Airframe, Part, Place, Setting, Targets
from fletcher.core.assembly import elements_of
from fletcher.core.beam import Bend, Mesh, Response, Tie, mesh, respond_all, tie
from fletcher.core.bending import Snap
from fletcher.core.body import Body, Loading
from fletcher.core.buckling import panel_buckling
from fletcher.core.cases import Case, NoseStrikeCase, TipStrikeCase
from fletcher.core.cords import cord_modes, draw_cord, front_cords, pulled_edge
from fletcher.core.drawing import stretches_of
from fletcher.core.elements import Elements
from fletcher.core.evidence import (
    BUCKLING_FACTOR,
    SLOT_WAVE,
    SPLICE_SHEAR,
    WARPING_HELD,
    Inputs,
    draw_factor,
    drawn,
    lognormal,
    normals,
)
from fletcher.core.fuselage import PLATEAU
from fletcher.core.joint_mass import joint_grams
from fletcher.core.jointing import Scene
from fletcher.core.joints import bonded_lines, joint_modes
from fletcher.core.lift import lift_slope
from fletcher.core.materials import Catalogue
from fletcher.core.outline import Array
from fletcher.core.results import CaseVerdict, Dent, Stretch, Toughness, Warp
from fletcher.core.root import root_give, root_modes
from fletcher.core.sections import Draws, Geometry, Sums, bar_area_scale, draws_of, neutral_axis, outer_area, sums_of
from fletcher.core.setting import catalogue_in
from fletcher.core.shear import Fields, fields_along, shear_stiffness
from fletcher.core.strength import Acting, Limits, Mode, at_stations, limits_of, modes
from fletcher.core.surfaces import flap

STATIONS = 60
"""About so many stations along a part."""


def mass_per_length(elements: Elements, draws: Draws, geometry: Geometry) -> Array:
    """Mass per length of every lay-up line and, last, of the foam less what the bars displace: (lines + 1, S, n) g/mm.

    Skins weigh by the true length around the section and their areal mass with adhesive or resin.
    """
    samples, n = len(draws.foam.G), len(geometry.y)
    out = np.zeros((len(elements.part.layers) + 1, samples, n))
    foam_area = geometry.foam_x[0].copy()
    size = bar_area_scale(elements, geometry) * geometry.bar_on
    for i, bar in enumerate(elements.bars):
        foam_area -= outer_area(bar) * size[i]
        out[bar.line] += draws.bars[i].density[:, None] * bar.stock.area_mm2 * size[i]
        sleeve = draws.sleeves[i]
        if sleeve is not None and bar.sleeve is not None:
            out[bar.line] += sleeve.density[:, None] * bar.sleeve.area_mm2 * geometry.sleeve_on[i] * geometry.bar_on[i]
    for i, membrane in enumerate(elements.membranes):
        if membrane.face in ("web", "level"):
            foam_area -= membrane.thickness_mm * geometry.skin[i, 0] * geometry.skin_on[i]
        out[membrane.line] += draws.skins[i].areal_mass[:, None] * (
            membrane.plies * geometry.skin[i, 0] * geometry.skin_on[i]
        )
    for cord in elements.cords:
        on = (geometry.inside > cord.start) & (geometry.inside < cord.end)
        out[cord.line] += draw_cord(cord.stock).mass[:, None] * on
    out[-1] = draws.foam.density[:, None] * np.maximum(foam_area, 0.0)
    for fitting in elements.fittings:
        on = (geometry.inside > fitting.start) & (geometry.inside < fitting.end)
        grams = lognormal(fitting.grams, normals("fitting/" + fitting.stock.key, 1)[0, : 1 + drawn()])
        out[fitting.line] += grams[:, None] / (fitting.end - fitting.start) * on
    for joint in elements.joints:
        on = (geometry.inside > joint.start) & (geometry.inside < joint.end)
        out[joint.line] += joint_grams(joint, elements, draws, geometry)[:, None] / (joint.end - joint.start) * on
    return out


@dataclass(frozen=True)
class Shaking:
    """First frequencies with the root held (Hz) and the speeds of divergence and of reversal (m/s, infinite where there
    is none), (S,); no reversal without a control surface."""

    flap: Array
    edge: Array
    twist: Array
    divergence: Array
    reversal: Array | None


@dataclass(frozen=True)
class Prepared:
    """All that does not depend on the load: kept for the last few parts, so that a change of load is quick.
    Axes as in `fletcher.core.sections`; `GA_s` (n,) without slip, N, typical; `line_mass` (lines + 1, S, n) g/mm, the
    foam last; `centroid` (n,) of the foam aft of the local leading edge."""

    elements: Elements
    draws: Draws
    mesh: Mesh
    geometry: Geometry
    sums: Sums
    fields: Fields
    GA_s: Array
    line_mass: Array
    centroid: Array
    limits: Limits
    tied: Tie
    shaking: Shaking
    root_give: Array
    """Rotation of the root per moment (S,), 1/(N·mm)."""
    inputs: Inputs
    snaps: dict[int, tuple[Snap, Snap]] = field(default_factory=dict)
    """What the part does when snapped at a station, filled when asked for."""
    verdicts: dict[tuple[Case, float], CaseVerdict] = field(default_factory=dict)
    """What each case says at an all-up mass, filled when asked for."""
    hands: dict[int, list[Toughness]] = field(default_factory=dict)
    """How tough it is at a station, but for tears, which hang on the load."""
    warps: list[Warp | None] = field(default_factory=list)
    """How it warps, filled when asked for."""
    dents: list[Dent] = field(default_factory=list)
    """What leaves a dent, filled when asked for."""

    @cached_property
    def stretches(self) -> list[Stretch]:
        """The stretches between its breaks, for drawing."""
        return stretches_of(self.elements)


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


@lru_cache(maxsize=24)
def _prepared(part: Part, points: tuple[float, ...], setting: Setting, count: int) -> Prepared:
    """Prepare a part of the reference materials in a setting, with so many samples; its load cases, and what does not
    bear on it, are left out of the key."""
    return prepare(part, points, catalogue_in(setting))


def prepare(part: Part, points: tuple[float, ...], catalogue: Catalogue) -> Prepared:
    """Everything about a part that does not depend on the load; `points` are places that stations must not straddle."""
    elements = elements_of(part, catalogue)
    draws = draws_of(elements)
    breaks = elements.breaks()
    # a station each at both sides of a break
    spans = max(STATIONS - len(breaks) + 1, 10)
    grid = mesh(sorted({*breaks, *points}), spans, set(points) - set(breaks))
    geometry = neutral_axis(elements, draws, grid.y, grid.inside)
    sums = sums_of(elements, draws, geometry)
    fields = fields_along(elements, draws, geometry, sums, grid)
    joined = np.array([b.joined_at_root for b in elements.bars], bool)
    tied = tie(grid, sums.host_EI, sums.host_EA, sums.bar_EA, sums.arm, fields.flexibility, joined)
    line_mass = mass_per_length(elements, draws, geometry)
    return Prepared(
        elements=elements,
        draws=draws,
        mesh=grid,
        geometry=geometry,
        sums=sums,
        fields=fields,
        GA_s=shear_stiffness(fields.flexibility[..., :1], _first_sample(sums))[0],
        line_mass=line_mass,
        centroid=sums.edge_x[0] if elements.hollow else geometry.foam_x[1] / geometry.foam_x[0],
        limits=limits_of(elements, draws, geometry, sums),
        tied=tied,
        shaking=_shaking(part, tied, geometry, sums, fields, line_mass.sum(0)),
        root_give=root_give(elements, draws, geometry),
        inputs=_inputs(elements, draws),
    )


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


def _first_sample(sums: Sums) -> Sums:
    return Sums(**{k: v[:1] if v.ndim > 1 else v for k, v in vars(sums).items()})


def _shaking(part: Part, tied: Tie, geometry: Geometry, sums: Sums, fields: Fields, mass: Array) -> Shaking:
    """Frequencies and divergence. The polar inertia counts chord and distance to the shear centre, all mass spread
    along the chord as the foam is."""
    y, chord = geometry.y, geometry.chord
    area, first, second = geometry.foam_x
    about = second / area - 2 * fields.shear_centre * first / area + fields.shear_centre**2
    reversal = None
    if part.control is not None:
        c = part.control
        reversal = dynamics.reversal_speed(
            y, chord, fields.shear_centre, fields.torsion, lift_slope(2 * part.span_mm / float(np.mean(chord))),
            flap(round(c.chord_percent / 100, 4)), (y >= c.start_mm) & (y <= c.end_mm),
        )  # fmt: skip
    aspect = 4 * part.span_mm / (part.root_chord_mm + part.tip_chord_mm)
    return Shaking(
        flap=dynamics.flap_frequency(tied, mass),
        edge=dynamics.edge_frequency(tied.mesh, mass, sums.edge_EI),
        twist=dynamics.twist_frequency(y, mass * about, fields.torsion),
        divergence=dynamics.divergence_speed(y, chord, fields.shear_centre, fields.torsion, lift_slope(aspect)),
        reversal=reversal,
    )


_NO_BEARING: dict[str, object] = {
    "cases": (), "damage": (), "name": "", "place": Place(), "hand": "both", "targets": Targets(),
}  # fmt: skip


def prepared_for(part: Part, setting: Setting, catalogue: Catalogue | None = None) -> Prepared:
    """What is prepared of a checked part; `catalogue` None is the reference in this setting, whose parts are kept."""
    points = tuple(sorted({p for c in part.cases for p in loads.breaks_of(c, part) if p < part.span_mm}))
    if catalogue is None:
        return _prepared(part.model_copy(update=_NO_BEARING), points, setting, drawn())
    return prepare(part, points, catalogue)


def analyse(airframe: Airframe, part: Part, case: Case, catalogue: Catalogue | None = None) -> Analysis:
    """Run the whole computation for a checked part in one load case; `catalogue` None is the reference."""
    if case not in part.cases:
        part = part.model_copy(update={"cases": (*part.cases, case)})
    return under(prepared_for(part, airframe.setting, catalogue), airframe, part, case)


def under(p: Prepared, airframe: Airframe, part: Part, case: Case) -> Analysis:
    """A prepared part under one of its load cases."""
    return next(under_all(p, airframe, part, [case]))


def under_all(p: Prepared, airframe: Airframe, part: Part, wanted: list[Case]) -> Iterator[Analysis]:
    """A prepared part under each of several of its load cases: solved together, told one by one."""
    body = _body(p, airframe, part)
    loadings = []
    for case in wanted:
        EA, breaks = front_cords(p.elements, loads.place_of(case, part) if isinstance(case, TipStrikeCase) else None)
        loadings.append(loads.load(case, replace(body, cord_EA=EA, cord_breaks=breaks)))
    answers = respond_all(p.tied, [Bend(one.moment, one.supports, one.held) for one in loadings])
    for case, loading, answer in zip(wanted, loadings, answers, strict=True):
        yield _analysed(p, part, case, loading, answer)


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


def _analysed(p: Prepared, part: Part, case: Case, loading: Loading, response: Response) -> Analysis:
    """What the part's sections feel and what they bear."""
    grid, geometry, sums = p.mesh, p.geometry, p.sums
    stiff = pulled_edge(p.elements, geometry, sums, loading.edge)
    edge = loading.edge / stiff.EI
    shear = at_stations(grid, np.abs(response.slope))
    axial = np.zeros_like(edge) if loading.axial is None else loading.axial / sums.whole_EA
    acting = Acting(response, edge, stiff.x, shear, np.abs(loading.torque), axial)
    found = modes(p.elements, p.draws, geometry, sums, acting, p.fields, grid, p.limits)
    if isinstance(case, NoseStrikeCase):  # the end is meant to crush: that it does is no failure
        found = [m for m in found if m.kind != "foam_crush"]
    found += root_modes(p.elements, p.draws, geometry, sums, response, loading, shear)
    scene = Scene(p.elements, p.draws, geometry, grid, sums, p.fields, response, edge, loading, shear)
    if p.elements.joints:
        named = bonded_lines(p.elements)
        found = [m for m in found if m.line not in named or m.kind not in ("bar_bond", "strip_bond", "strip_end")]
        found += joint_modes(scene)
    found += cord_modes(p.elements, p.draws, geometry, acting, grid)
    found += [Mode(kind, None, "part", _at_place(share, p, loading), True) for kind, share in loading.asks]
    return Analysis(
        prepared=p,
        part=part,
        case=case,
        loading=loading,
        response=response,
        modes=found,
        edge_curvature=edge,
        scene=scene,
    )


def _inputs(elements: Elements, draws: Draws) -> Inputs:
    """Named samples of everything uncertain that acts in this part."""
    f = draws.foam
    named = (
        []
        if elements.hollow
        else [
            ("foam, pulled", f.E_tension),
            ("foam, pressed", f.E_compression),
            ("foam in shear", f.G),
            ("foam strength, pulled", f.tensile),
            ("foam crush stress", f.crush),
            ("foam density", f.density),
        ]
    )
    for membrane, skin in zip(elements.membranes, draws.skins, strict=True):
        name = membrane.skin.name
        named += [
            (f"{name}: stiffness", skin.Et),
            (f"{name}: strength", skin.tensile if skin.draws_out is None else skin.draws_out),
            (f"{name}: wrinkling", skin.wrinkling_k),
            (f"{name}: mass", skin.areal_mass),
        ]
        if skin.compressive is not None:
            named.append((f"{name}: crushing stress", skin.compressive))
    for bar, d in zip(elements.bars, draws.bars, strict=True):
        named += [
            (f"{bar.stock.name}: stiffness", d.E),
            (f"{bar.stock.name}: strength, pulled", d.tensile),
            (f"{bar.stock.name}: strength, pressed", d.compressive),
            (f"{bar.stock.name}: density", d.density),
        ]
    if any(b.splices for b in elements.bars):
        named.append((SPLICE_SHEAR.name, draw_factor(SPLICE_SHEAR)))
    if elements.hollow:
        named.append((WARPING_HELD.name, draw_factor(WARPING_HELD)))
    if elements.bars:
        named += [(f.name, draw_factor(f)) for f in (BUCKLING_FACTOR, SLOT_WAVE)]
    return Inputs(named)
