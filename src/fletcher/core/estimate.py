"""The estimate of one part in one load case: from document to verdict."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from fletcher.core import loads, words
from fletcher.core.airframe import Airframe, Case, Part
from fletcher.core.beam import Mesh, Response, Tie, mesh, respond, tie
from fletcher.core.bending import snap
from fletcher.core.drawing import stretches_of
from fletcher.core.elements import Elements, elements_of
from fletcher.core.evidence import BUCKLING_FACTOR, SLOT_WAVE, Inputs, band, draw_factor, limits
from fletcher.core.materials import Catalogue, reference
from fletcher.core.outline import Array
from fletcher.core.results import Curves, Estimate, Failure, LineResult, SnapResult, Stretch
from fletcher.core.sections import Draws, Geometry, Sums, draws_of, neutral_axis, sums_of
from fletcher.core.shear import Fields, fields_along, shear_stiffness
from fletcher.core.strength import Mode, buckling_loads, modes
from fletcher.core.workings import workings_of

STATIONS = 60
_QUIET = 0.01
"""Below this share of the largest moment the case asks for next to nothing and no capacity is drawn."""
_FAR = 12.0
"""Modes that hold more than this many times what the first one holds are not listed."""


@dataclass(frozen=True)
class Analysis:
    """The arrays behind an estimate; axes as in `fletcher.core.sections`."""

    elements: Elements
    draws: Draws
    mesh: Mesh
    geometry: Geometry
    sums: Sums
    fields: Fields
    GA_s: Array
    """(n,) shear stiffness without slip, N, typical."""
    line_mass: Array
    """(lines + 1, S, n) mass per length in g/mm, the foam last."""
    loading: loads.Loading
    response: Response
    modes: list[Mode]
    twist: Array
    """(S, n) rotation of the section, rad, nose up positive."""
    stretches: list[Stretch]
    inputs: Inputs
    snaps: dict[int, list[SnapResult]]


def mass_per_length(elements: Elements, draws: Draws, geometry: Geometry) -> Array:
    """Mass per length of every lay-up line and, last, of the foam less what the bars displace: (lines + 1, S, n) g/mm.

    Skins weigh by the true length around the section and their areal mass with adhesive or resin.
    """
    samples, n = len(draws.foam.G), len(geometry.y)
    out = np.zeros((len(elements.part.layers) + 1, samples, n))
    foam_area = geometry.foam_x[0].copy()
    for i, bar in enumerate(elements.bars):
        area = bar.stock.area_mm2 * geometry.bar_on[i]
        width, height = bar.stock.size(bar.on_edge)
        outer = np.pi / 4 * width * height if bar.stock.shape != "flat" else width * height
        foam_area -= outer * geometry.bar_on[i]
        out[bar.line] += draws.bars[i].density[:, None] * area
    for i, membrane in enumerate(elements.membranes):
        out[membrane.line] += draws.skins[i].areal_mass[:, None] * (
            membrane.plies * geometry.skin[i, 0] * geometry.skin_on[i]
        )
    out[-1] = draws.foam.density[:, None] * foam_area
    return out


@dataclass(frozen=True)
class Prepared:
    """All that does not depend on the load: kept for the last few parts, so that a change of load is quick."""

    elements: Elements
    draws: Draws
    mesh: Mesh
    geometry: Geometry
    sums: Sums
    fields: Fields
    GA_s: Array
    line_mass: Array
    buckling: list[Array]
    tied: Tie
    snaps: dict[int, list[SnapResult]]
    """What the part does when snapped at a station, filled when asked for."""
    stretches: list[Stretch]
    inputs: Inputs


@lru_cache(maxsize=12)
def _prepared(part: Part, points: tuple[float, ...]) -> Prepared:
    """Prepare a part of the reference catalogue; its load cases are left out of the key."""
    return prepare(part, points, reference())


def prepare(part: Part, points: tuple[float, ...], catalogue: Catalogue) -> Prepared:
    """Everything about a part that does not depend on the load; `points` are places that stations must not straddle."""
    elements = elements_of(part, catalogue)
    draws = draws_of(elements)
    grid = mesh(sorted({*elements.breaks(), *points}), STATIONS)
    geometry = neutral_axis(elements, draws, grid.y, grid.inside)
    sums = sums_of(elements, draws, geometry)
    fields = fields_along(elements, draws, geometry, sums, grid)
    joined = np.array([b.joined_at_root for b in elements.bars], bool)
    return Prepared(
        elements=elements,
        draws=draws,
        mesh=grid,
        geometry=geometry,
        sums=sums,
        fields=fields,
        GA_s=shear_stiffness(fields.flexibility[:1], _first_sample(sums))[0],
        line_mass=mass_per_length(elements, draws, geometry),
        buckling=buckling_loads(elements, draws, geometry),
        tied=tie(grid, sums.host_EI, sums.host_EA, sums.bar_EA, sums.arm, fields.flexibility, joined),
        snaps={},
        stretches=stretches_of(elements),
        inputs=_inputs(elements, draws),
    )


def analyse(airframe: Airframe, part: Part, case: Case, catalogue: Catalogue | None = None) -> Analysis:
    """Run the whole computation for a checked part in one of its cases; `catalogue` None is the reference."""
    points = tuple(sorted({p for c in {*part.cases, case} for p in loads.breaks_of(c) if p < part.span_mm}))
    if catalogue is None:
        p = _prepared(part.model_copy(update={"cases": ()}), points)
    else:
        p = prepare(part, points, catalogue)
    grid, geometry, sums = p.mesh, p.geometry, p.sums
    mass = p.line_mass.sum(0)
    loading = loads.load(case, part, airframe.all_up_mass_g, grid.y, grid.left, mass)
    response = respond(p.tied, loading.moment, loading.supports)
    shear = (loading.moment[:, grid.left + 1] - loading.moment[:, grid.left]) / grid.length
    core = p.fields.core_shear
    found = modes(p.elements, p.draws, geometry, sums, response, shear, core, grid, p.buckling)
    twist = _twist(case, part, loading, geometry, p.fields, mass)
    return Analysis(
        p.elements, p.draws, grid, geometry, sums, p.fields, p.GA_s, p.line_mass, loading, response, found, twist,
        p.stretches, p.inputs, p.snaps,
    )  # fmt: skip


def _twist(
    case: Case, part: Part, loading: loads.Loading, geometry: Geometry, fields: Fields, mass_g_mm: Array
) -> Array:
    """Rotation (S, n) under the twisting moment, θ' = T/GJ from the root."""
    centroid = geometry.foam_x[1] / geometry.foam_x[0]
    torque = loads.twisting_moment(
        case, part, loading, geometry.y, geometry.chord, fields.shear_centre, centroid, mass_g_mm
    )
    rate = torque / fields.torsion
    steps = 0.5 * (rate[:, 1:] + rate[:, :-1]) * np.diff(geometry.y)
    return np.concatenate([np.zeros((len(rate), 1)), np.cumsum(steps, 1)], 1)


def estimate(airframe: Airframe, part_id: str, case_id: str | None = None) -> Estimate:
    """Estimate one part of a checked document in one of its cases (its first if none is named).

    Raises
    ------
    KeyError
        If the airframe has no such part, or the part no such case.
    """
    part = next((p for p in airframe.parts if p.id == part_id), None)
    if part is None:
        raise KeyError(f"no part {part_id!r}")
    case = part.cases[0] if case_id is None else next((c for c in part.cases if c.id == case_id), None)
    if case is None:
        raise KeyError(f"part {part_id!r} has no load case {case_id!r}")
    return _report(analyse(airframe, part, case), airframe, part, case)


def _integral(values: Array, grid: Mesh) -> Array:
    """∫ values dy along the last axis."""
    k = grid.left
    return np.asarray((0.5 * (values[..., k] + values[..., k + 1]) * grid.length).sum(-1))


def _inputs(elements: Elements, draws: Draws) -> Inputs:
    """Named samples of everything uncertain that acts in this part."""
    f = draws.foam
    named = [
        ("foam, pulled", f.E_tension),
        ("foam, pressed", f.E_compression),
        ("foam in shear", f.G),
        ("foam strength, pulled", f.tensile),
        ("foam crush stress", f.crush),
        ("foam density", f.density),
    ]
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
    if elements.bars:
        named += [(f.name, draw_factor(f)) for f in (BUCKLING_FACTOR, SLOT_WAVE)]
    return Inputs(named)


def _place(a: Analysis, mode: Mode, k: int) -> tuple[float, float]:
    """x and z in the cut at station k where a mode acts."""
    g = a.geometry
    if mode.kind.startswith("bar"):
        i = next(i for i, b in enumerate(a.elements.bars) if b.line == mode.line and b.side == mode.where)
        return float(g.bar_x[i, k]), float(g.bar_z[i, k])
    x = 0.3 * float(g.chord[k])
    if mode.kind == "core_shear":
        return x, 0.5 * float(g.z_high[k] + g.z_low[k])
    if mode.kind.startswith(("skin", "strip")):
        i = next(i for i, m in enumerate(a.elements.membranes) if m.line == mode.line and m.face == mode.where)
        membrane = a.elements.membranes[i]
        if membrane.face == "rear":
            x = float(g.chord[k])
        elif membrane.face == "front":
            x = 0.0
        elif membrane.width_mm is not None:
            x = float(np.mean([e[0] for e in a.elements.strip_edges(membrane, g.y[[k]])]))
        high = membrane.face == "upper"
    else:
        high = mode.where == "upper"
    return x, float(g.z_high[k] if high else g.z_low[k])


def _failures(a: Analysis, inputs: Inputs) -> list[Failure]:
    out = []
    strongest = max(float(m.use[0].max()) for m in a.modes)
    for mode in a.modes:
        peak = mode.use.max(1)
        if peak[0] * _FAR < strongest:
            continue
        k = int(np.argmax(mode.use[0]))
        x, z = _place(a, mode, k)
        out.append(
            Failure(
                kind=mode.kind,
                line_id=None if mode.line is None else a.elements.part.layers[mode.line].id,
                where=mode.where,
                sentence=words.failure_sentence(mode, a.elements),
                breaks=mode.breaks,
                at_mm=float(a.geometry.y[k]),
                x_mm=x,
                z_mm=z,
                holds=band(1 / np.maximum(peak, 1e-9), inputs),
            )
        )
    return sorted(out, key=lambda failure: failure.holds.typ)


def _snaps(a: Analysis) -> list[SnapResult]:
    """Both ways of bending at the place where the case asks for most."""
    k = int(np.argmax(np.abs(a.loading.moment[0])))
    if k in a.snaps:
        return a.snaps[k]
    found = [snap(a.elements, a.draws, a.geometry, k, direction) for direction in ("up", "down")]
    a.snaps[k] = [
        SnapResult(
            direction=s.direction,
            manner=s.manner,
            sentence=words.snap_sentence(s.manner, s.hangs_together),
            first_break_N_mm=s.first_break_N_mm,
            hangs_together=s.hangs_together,
        )
        for s in found
    ]
    return a.snaps[k]


def _bending_shares(a: Analysis) -> Array:
    """Share of every line and, last, of the foam in the bending stiffness, (lines + 1,), weighted along the part by
    where the bending is: ∫κ² EI_i dy over ∫κ² EI dy with κ = M/EI of the whole section."""
    g, s = a.geometry, a.sums
    z = s.whole_z[0]
    parts = np.zeros((len(a.elements.part.layers) + 1, len(g.y)))
    for i, membrane in enumerate(a.elements.membranes):
        length, first, second = g.skin[i] * g.skin_on[i]
        parts[membrane.line] += s.skin_Et[0, i] * (second - 2 * z * first + z**2 * length)
    for i, bar in enumerate(a.elements.bars):
        own = a.draws.bars[i].E[0] * bar.stock.second_moment_mm4(bar.on_edge) * g.bar_on[i]
        parts[bar.line] += s.bar_EA[0, i] * (g.bar_z[i] - z) ** 2 + own
    parts[-1] = s.whole_EI[0] - parts[:-1].sum(0)
    weight = (a.loading.moment[0] / s.whole_EI[0]) ** 2
    total = _integral(weight * s.whole_EI[0], a.mesh)
    return np.asarray(_integral(weight * parts, a.mesh) / total) if total > 0 else parts[:, 0] / parts[:, 0].sum()


def _lines(a: Analysis, factor: float, inputs: Inputs) -> list[LineResult]:
    grams, shares = _integral(a.line_mass, a.mesh), _bending_shares(a)
    layers = a.elements.part.layers
    out = []
    for n in (len(layers), *range(len(layers))):
        line = None if n == len(layers) else n
        used = [m.use[0] for m in a.modes if m.line == line]
        use = np.max(used, axis=0) * factor if used else np.zeros(len(a.geometry.y))
        out.append(
            LineResult(
                id="foam" if line is None else layers[line].id,
                label=words.line_label(a.elements, line),
                grams=band(grams[n], inputs),
                bending_share=float(shares[n]),
                use=_numbers(use, 4),
            )
        )
    return out


def _numbers(values: Array, digits: int = 6) -> list[float]:
    """Values rounded to significant digits, for compact JSON."""
    with np.errstate(divide="ignore"):
        scale = 10.0 ** (digits - 1 - np.floor(np.log10(np.abs(values))))
    scale = np.where(np.isfinite(scale), scale, 1.0)
    rounded: list[float] = (np.round(values * scale) / scale).tolist()
    return rounded


def _curves(a: Analysis, factor: float) -> Curves:
    moment = a.loading.moment
    use = np.max([m.use for m in a.modes], axis=0)
    loud = np.abs(moment[0]) > _QUIET * np.max(np.abs(moment[0]))
    capacity = np.abs(moment) / np.maximum(use, 1e-12)
    low, high = limits(capacity[1:])

    def seen(values: Array) -> list[float | None]:
        return [v if shown else None for v, shown in zip(_numbers(values, 5), loud, strict=True)]

    down, up = limits(a.response.deflection[1:])
    return Curves(
        y_mm=_numbers(a.geometry.y, 8),
        moment_N_mm=_numbers(moment[0]),
        capacity_N_mm=seen(capacity[0]),
        capacity_low_N_mm=seen(low),
        capacity_high_N_mm=seen(high),
        deflection_mm=_numbers(a.response.deflection[0]),
        deflection_low_mm=_numbers(down),
        deflection_high_mm=_numbers(up),
        use=_numbers(use[0] * factor, 4),
        EI_N_mm2=_numbers(a.sums.whole_EI[0]),
        edge_EI_N_mm2=_numbers(a.sums.edge_EI[0]),
        GA_s_N=_numbers(a.GA_s),
        EA_N=_numbers(a.sums.whole_EA[0]),
        centroid_z_mm=_numbers(a.sums.whole_z[0]),
        GJ_N_mm2=_numbers(a.fields.torsion[0]),
        shear_centre_mm=_numbers(a.fields.shear_centre[0]),
        twist_deg=_numbers(np.degrees(a.twist[0])),
    )


def _first_sample(sums: Sums) -> Sums:
    return Sums(**{k: v[:1] if v.ndim > 1 else v for k, v in vars(sums).items()})


def _report(a: Analysis, airframe: Airframe, part: Part, case: Case) -> Estimate:
    inputs = a.inputs
    grams = _integral(a.line_mass, a.mesh)
    total = grams.sum(0)
    if a.loading.supports is None:
        k = len(a.geometry.y) - 1
    else:
        k = int(np.argmin(np.abs(a.geometry.y - 0.5 * sum(a.loading.supports))))
    bend = np.abs(a.response.deflection[:, k])
    failures = _failures(a, inputs)
    holds = 1 / np.maximum(np.max([m.use.max(1) for m in a.modes], axis=0), 1e-9)
    return Estimate(
        part_id=part.id,
        case_id=case.id,
        says=a.loading.says,
        load_factor=a.loading.load_factor,
        force_N=a.loading.force_N,
        safety_factor=case.safety_factor,
        mass_g=band(total, inputs),
        added_g=band(total - grams[-1], inputs),
        deflection_mm=band(bend, inputs),
        deflection_at_mm=float(a.geometry.y[k]),
        twist_deg=band(np.degrees(a.twist[:, -1]), inputs) if a.loading.supports is None else None,
        span_mm=part.span_mm,
        holds=band(holds, inputs),
        first=failures[0],
        failures=failures,
        snaps=_snaps(a),
        lines=_lines(a, case.safety_factor, inputs),
        curves=_curves(a, case.safety_factor),
        stretches=a.stretches,
        workings=workings_of(a, words.ASSUMPTIONS),
        warnings=words.warnings_of(airframe, part, case, float(total[0]), float(bend[0])),
        assumptions=list(words.ASSUMPTIONS),
    )
