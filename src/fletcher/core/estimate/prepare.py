"""What is prepared once per part, whatever the load: sections, fields, stiffness, mass, limits."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from fletcher.core.common.abandon import look_up
from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Part, Place, Setting, Targets
from fletcher.core.estimate.drawing import stretches_of
from fletcher.core.estimate.schema import Stretch
from fletcher.core.joints.joint_mass import joint_grams
from fletcher.core.joints.wing_root import root_give
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.uncertainty import (
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
from fletcher.core.section.assembly import elements_of
from fletcher.core.section.elements import Elements
from fletcher.core.section.partial_interaction import Mesh, Tie, mesh, tie
from fletcher.core.section.properties import (
    Draws,
    Geometry,
    Sums,
    bar_area_scale,
    draws_of,
    neutral_axis,
    outer_area,
    sums_of,
)
from fletcher.core.section.setting import catalogue_in
from fletcher.core.section.shear_stiffness import Fields, fields_along, shear_stiffness
from fletcher.core.strength.modes import Limits, limits_of
from fletcher.core.structure import frequencies, loads
from fletcher.core.structure.control_surfaces import flap
from fletcher.core.structure.cords import draw_cord
from fletcher.core.structure.divergence import Swept
from fletcher.core.structure.lift import slope_of
from fletcher.core.structure.loading import AIR_DENSITY_KG_M3

STATIONS = 60
"""About so many stations along a part."""


def mass_per_length(elements: Elements, draws: Draws, geometry: Geometry) -> Array:
    """Mass per length of every lay-up line and, last, of the foam less what the bars displace, or of a hollow part's
    ribs spread along it: (lines + 1, S, n) g/mm.

    Skins weigh by the true length around the section and their areal mass with adhesive or resin.
    """
    samples, n = len(draws.foam.G), len(geometry.y)
    out = np.zeros((len(elements.part.layers) + 1, samples, n))
    foam_area = geometry.foam_x[0].copy()
    size = bar_area_scale(elements, geometry) * geometry.bar_on
    for i, bar in enumerate(elements.bars):
        foam_area -= outer_area(bar) * size[i]
        twice = 1 + sum((geometry.inside > a) & (geometry.inside < b) for a, b in bar.laps)
        out[bar.line] += draws.bars[i].density[:, None] * bar.stock.area_mm2 * size[i] * twice
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
    if elements.ribs is not None:
        ribs = elements.ribs
        areal = lognormal(ribs.sheet.areal_mass_g_m2, normals(f"ribs/{ribs.sheet.key}", 1)[0, :samples]) * 1e-6
        each = ribs.solid * ribs.count / elements.part.span_mm
        out[-1] = areal[:, None] * geometry.foam_x[0] * each
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


@dataclass(frozen=True, eq=False)
class Prepared:
    """All that does not depend on the load: kept for the last few parts, so that a change of load is quick.
    Axes as in `section.properties`; `GA_s` (n,) without slip, N, typical; `line_mass` (lines + 1, S, n) g/mm, the
    foam or the ribs last; `centroid` (n,) of the foam aft of the local leading edge."""

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

    @cached_property
    def turned(self) -> Prepared:
        """The same for loads that press the lower face: each modulus of the foam acts on the other side of the neutral
        axis, which moves with it."""
        foam = self.draws.foam
        if self.elements.hollow or np.array_equal(foam.E_tension, foam.E_compression):
            return self
        swapped = replace(self.draws, foam=replace(foam, E_tension=foam.E_compression, E_compression=foam.E_tension))
        geometry = neutral_axis(self.elements, swapped, self.geometry.y, self.geometry.inside)
        sums = sums_of(self.elements, swapped, geometry)
        return replace(
            self, geometry=geometry, sums=sums, tied=_tied(self.elements, self.mesh, sums, self.fields),
            limits=limits_of(self.elements, self.draws, geometry, sums),
        )  # fmt: skip

    @cached_property
    def grams(self) -> Array:
        """Mass (lines + 1, S) of each line of the lay-up, the foam or the ribs last, g."""
        return self.mesh.integral(self.line_mass)

    @cached_property
    def stretches(self) -> list[Stretch]:
        """The stretches between its breaks, for drawing."""
        return stretches_of(self.elements)


@lru_cache(maxsize=24)
def _prepared(part: Part, points: tuple[float, ...], setting: Setting, count: int) -> Prepared:
    """Prepare a part of the reference materials in a setting, with so many samples; its load cases, and what does not
    bear on it, are left out of the key."""
    return prepare(sectioned(part, points, catalogue_in(setting)), part)


@dataclass(frozen=True)
class Sectioned:
    """A part cut into stations: what its sections are made of, before their fields are solved."""

    elements: Elements
    draws: Draws
    mesh: Mesh
    geometry: Geometry
    sums: Sums


def sectioned(part: Part, points: tuple[float, ...], catalogue: Catalogue) -> Sectioned:
    """The sections of a part; `points` are places that stations must not straddle."""
    elements = elements_of(part, catalogue)
    draws = draws_of(elements)
    breaks = elements.breaks()
    # a station each at both sides of a break
    spans = max(STATIONS - len(breaks) + 1, 10)
    grid = mesh(sorted({*breaks, *points}), spans, set(points) - set(breaks))
    geometry = neutral_axis(elements, draws, grid.y, grid.inside)
    return Sectioned(elements, draws, grid, geometry, sums_of(elements, draws, geometry))


def points_of(part: Part) -> tuple[float, ...]:
    """Places that stations of a part must not straddle, for its load cases."""
    return tuple(sorted({p for c in part.cases for p in loads.breaks_of(c, part) if p < part.span_mm}))


def prepare(cut: Sectioned, part: Part, shaking: Shaking | None = None) -> Prepared:
    """Everything about a part that does not depend on the load; how it shakes may be known from one nearly alike."""
    elements, draws, grid, geometry, sums = cut.elements, cut.draws, cut.mesh, cut.geometry, cut.sums
    fields = fields_along(elements, draws, geometry, sums, grid)
    tied = _tied(elements, grid, sums, fields)
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
        shaking=shaking or _shaking(part, tied, geometry, sums, fields, line_mass.sum(0)),
        root_give=root_give(elements, draws, geometry),
        inputs=_inputs(elements, draws),
    )


def _tied(elements: Elements, grid: Mesh, sums: Sums, fields: Fields) -> Tie:
    joined = np.array([b.joined_at_root for b in elements.bars], bool)
    return tie(grid, sums.host_EI, sums.host_EA, sums.bar_EA, sums.arm, fields.flexibility, joined)


def _first_sample(sums: Sums) -> Sums:
    return Sums(**{k: v[:1] if v.ndim > 1 else v for k, v in vars(sums).items()})


def divergence_speed(part: Part, geometry: Geometry, EI: Array, GJ: Array, shear_centre: Array) -> Array:
    """Speed (S,), m/s, at which a part with stiffnesses EI, GJ (S, n) twists or bends away; infinite where at none."""
    swept = Swept.of(geometry.y, EI, GJ, geometry.chord, shear_centre, part.tip_setback_mm, slope_of(part))
    return np.asarray(np.sqrt(2 * swept.divergence() * 1e6 / AIR_DENSITY_KG_M3))


def _shaking(part: Part, tied: Tie, geometry: Geometry, sums: Sums, fields: Fields, mass: Array) -> Shaking:
    """Frequencies and divergence. The polar inertia counts chord and distance to the shear centre, all mass spread
    along the chord as the foam is."""
    y, chord = geometry.y, geometry.chord
    area, first, second = geometry.foam_x
    about = second / area - 2 * fields.shear_centre * first / area + fields.shear_centre**2
    reverses = [
        frequencies.reversal_speed(
            y, chord, fields.shear_centre, fields.torsion, slope_of(part),
            flap(round(c.chord_percent / 100, 4)), (y >= c.start_mm) & (y <= c.end_mm),
        )
        for c in part.controls
    ]  # fmt: skip
    return Shaking(
        flap=frequencies.flap_frequency(tied, mass),
        edge=frequencies.edge_frequency(tied.mesh, mass, sums.edge_EI),
        twist=frequencies.twist_frequency(y, mass * about, fields.torsion),
        divergence=divergence_speed(part, geometry, sums.whole_EI, fields.torsion, fields.shear_centre),
        reversal=np.min(reverses, axis=0) if reverses else None,
    )


_NO_BEARING: dict[str, object] = {
    "cases": (), "damage": (), "name": "", "place": Place(), "hand": "both", "targets": Targets(),
}  # fmt: skip


def prepared_for(part: Part, setting: Setting, catalogue: Catalogue | None = None) -> Prepared:
    """What is prepared of a checked part; `catalogue` None is the reference in this setting, whose parts are kept.
    Every study passes here again and again: it ends here where nobody waits for it."""
    look_up()
    if catalogue is None:
        return _prepared(part.model_copy(update=_NO_BEARING), points_of(part), setting, drawn())
    return prepare(sectioned(part, points_of(part), catalogue), part)


def _inputs(elements: Elements, draws: Draws) -> Inputs:
    """Named samples of everything uncertain that acts in this part."""
    f = draws.foam
    named = (
        []
        if elements.hollow
        else [
            ("foam in tension", f.E_tension),
            ("foam in compression", f.E_compression),
            ("foam in shear", f.G),
            ("foam tensile strength", f.tensile),
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
            named.append((f"{name}: compressive strength", skin.compressive))
    for bar, d in zip(elements.bars, draws.bars, strict=True):
        named += [
            (f"{bar.stock.name}: stiffness", d.E),
            (f"{bar.stock.name}: tensile strength", d.tensile),
            (f"{bar.stock.name}: compressive strength", d.compressive),
            (f"{bar.stock.name}: density", d.density),
        ]
    if any(b.splices for b in elements.bars):
        named.append(("glue in a spliced spar", draw_factor(SPLICE_SHEAR)))
    if elements.hollow:
        named.append(("how well closed bays restrain a cut-out", draw_factor(WARPING_HELD)))
    if elements.bars:
        named += [("spar buckling model", draw_factor(BUCKLING_FACTOR)), ("slot waviness", draw_factor(SLOT_WAVE))]
    return Inputs(named)
