"""The sheet of every joint and hinge of a part: what is asked in its worst case, every way it gives, what it holds
after so many minutes, and which change helps most."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np

from fletcher.core.adhesion.adhesives import TIMES_MIN, adhesives, foam_families, on_foams
from fletcher.core.adhesion.cautions import Caution, cautions_for
from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, G, in_mm
from fletcher.core.document.airframe import Airframe, HingeLayer, JointLayer, Layer, Part
from fletcher.core.document.cases import Case, DeflectedCase
from fletcher.core.document.joint import AcrossJoint, BandedJoint, BoltedJoint, LapJoint, PlateJoint, WallJoint
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis, under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.schema import Symbol
from fletcher.core.joints.context import Scene, Site, Way
from fletcher.core.joints.failure_modes import effective_mm, sites_of, ways_of
from fletcher.core.joints.hinges import HingeNeed, hinges, throw_of
from fletcher.core.joints.joint_mass import joint_grams
from fletcher.core.materials.grades import Grade, grade
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.uncertainty import Band, band
from fletcher.core.section.assembly import place_joint
from fletcher.core.section.setting import catalogue_in
from fletcher.core.validation.joints import hinge_fits, joint_fits

_WHAT: dict[str, Literal["glue", "foam", "piece", "bearing"]] = {
    "joint_glue": "glue", "joint_peel": "glue", "joint_foam": "foam", "joint_part": "piece", "joint_pull": "piece",
    "hinge_tears": "piece", "bands_give": "piece", "joint_pin": "bearing",
}  # fmt: skip

_FORMULAS = {
    "across": "(σ sin²θ/σ_a)² + (σ sinθ cosθ/τ_a)² ≤ 1;  M ≤ p d [ℓ²/2 − x²], x = (ℓ + V/(p d))/2;  M ≤ σ Z",
    "lap": "N ≤ τ ℓ_eff,  λ² = (1/E₁t₁ + 1/E₂t₂)/c,  c = t_a/G_a + t₁/3G₁ + t₂/3G₂",
    "bond": "τ ≥ |N′|/b;  at ends N ≤ √(2 Γ E t)",
    "plate": "(P/A + 6 F a/(b ℓ²))²/σ_a² + (F/(b ℓ_eff))²/τ_a² ≤ 1",
    "bolted": "F = L/n, or M/(a n/2) as a couple",
    "banded": "n F_band ≥ L;  F ≤ 4 p d ℓ",
    "hinge": "F = M_h/0.35 c + M_h/a ≤ T ℓ/3",
}
ASSUMPTIONS = (
    "Loads are those of the part in one piece: a very flexible joint would carry less.",
    "Torque passes through glued faces and bridging strips on both faces; braces are not counted.",
    "Faces fit, are roughened and clean, and were closed within the open time.",
)


class JointWay(Result):
    """One way in which a joint gives: what, in words, what is asked of it (with the factor) and what it bears, in a
    unit, and how many times the load that is."""

    says: str
    gives: Literal["glue", "foam", "piece", "bearing"]
    asked: Band
    bears: Band
    unit: str
    holds: Band
    at_mm: float


class JointAt(Result):
    """What the joint holds so many minutes after it was closed, times the load."""

    minutes: float
    holds: Band


class JointHelp(Result):
    """A change to the joint: what it then holds, typical, and weighs more; `layer` is the line as it would stand."""

    says: str
    holds: float
    more_g: float
    layer: Layer


class JointSheet(Result):
    """A joint or hinge of a part in the case that leaves it least. No ways where no case asks anything of it."""

    line_id: str
    title: str
    at_mm: float
    case_name: str
    asked: float
    """The factor of the case."""
    holds: Band | None
    enough: Grade | Literal["unasked"]
    ways: list[JointWay]
    effective_mm: float | None
    """Length over which it hands its force on."""
    grams: Band
    over_time: list[JointAt]
    enough_after_min: float | None
    """Minutes from closing until it typically holds what is asked; None where it never does, or nothing cures."""
    helps: list[JointHelp]
    formula: str
    symbols: list[Symbol]
    notes: list[str]
    """What a hinge leaves of the throw, and how it is made and looked after."""
    assumptions: list[str]
    cautions: list[Caution]


@dataclass(frozen=True)
class _Worst:
    """The case that leaves a joint least, and its site there."""

    case: Case
    analysis: Analysis
    site: Site
    ways: list[Way]

    @property
    def use(self) -> Array:
        """Largest share used, (S,), with the factor of the case."""
        return _use(self.ways) * self.case.safety_factor


def _use(ways: list[Way]) -> Array:
    return np.asarray(np.max([w.use.max(1) for w in ways], axis=0))


def joint_sheets(airframe: Airframe, part: Part) -> list[JointSheet]:
    """The sheets of all joints and hinges of a checked part, in the order of its lay-up."""
    prepared = prepared_for(part, airframe.setting)
    if not prepared.elements.joints:
        return []
    worst: dict[int, _Worst] = {}
    for a in under_all(prepared, airframe, part, list(part.counted)):
        for site in sites_of(a.scene):
            ways = ways_of(site)
            if not ways:
                continue
            found = _Worst(a.case, a, site, ways)
            old = worst.get(site.placed.line)
            if old is None or found.use[0] > old.use[0]:
                worst[site.placed.line] = found
    catalogue = catalogue_in(airframe.setting)
    out = []
    for placed in prepared.elements.joints:
        layer = part.layers[placed.line]
        assert isinstance(layer, JointLayer | HingeLayer)
        grams = band(joint_grams(placed, prepared.elements, prepared.draws, prepared.geometry), prepared.inputs)
        title = phrasing.line_label(prepared.elements, placed.line)
        out.append(_sheet(layer, worst.get(placed.line), title, grams, placed.at, part, catalogue))
    return out


def _sheet(
    layer: JointLayer | HingeLayer, found: _Worst | None, title: str, grams: Band, at: float, part: Part,
    catalogue: Catalogue,
) -> JointSheet:  # fmt: skip
    kind = "hinge" if isinstance(layer, HingeLayer) else layer.joint.kind
    common: dict[str, Any] = {
        "line_id": layer.id, "title": title, "at_mm": at, "grams": grams, "formula": _FORMULAS[kind],
        "assumptions": list(ASSUMPTIONS), "cautions": _cautions(layer), "notes": _notes(layer, part),
    }  # fmt: skip
    if found is None:
        return JointSheet(
            case_name="", asked=1.0, holds=None, enough="unasked", ways=[], effective_mm=None, over_time=[],
            enough_after_min=None, helps=[], symbols=[], **common,
        )  # fmt: skip
    inputs, factor = found.analysis.prepared.inputs, found.case.safety_factor
    holds = band(factor / np.maximum(found.use, 1e-9), inputs)
    ways = []
    # pieces of one skin, parted by a cut, are told once
    worst = {w.name: w for w in sorted(found.ways, key=lambda w: float(w.use[0].max()))}
    for w in reversed(worst.values()):
        peak = np.maximum(w.use.max(1), 1e-9)
        k = int(np.argmax(w.use[0]))
        ways.append(
            JointWay(
                says=w.name, gives=_WHAT[w.kind], asked=band(w.asks * factor, inputs), unit=w.unit,
                bears=band(w.asks / peak, inputs), holds=band(1 / peak, inputs),
                at_mm=float(found.analysis.prepared.geometry.y[k]),
            )
        )  # fmt: skip
    over_time = _over_time(found)
    ready = next((t.minutes for t in over_time if t.holds.typ >= factor), None)
    return JointSheet(
        case_name=found.case.name, asked=factor, holds=holds,
        enough=grade(holds, factor),
        ways=ways, effective_mm=effective_mm(found.site), over_time=over_time, enough_after_min=ready,
        helps=_helps(layer, found, part, catalogue), symbols=_symbols(found), **common,
    )  # fmt: skip


def _over_time(found: _Worst) -> list[JointAt]:
    if found.site.glue is None:
        return []
    out = []
    for minutes in TIMES_MIN:
        ways = ways_of(replace(found.site, minutes=minutes))
        out.append(
            JointAt(minutes=minutes, holds=band(1 / np.maximum(_use(ways), 1e-9), found.analysis.prepared.inputs))
        )
    return out


def _symbols(found: _Worst) -> list[Symbol]:
    """What passes the joint, and the section there; typical, without the factor."""
    site = found.site
    if not isinstance(site.placed.joint, AcrossJoint):
        return []
    moment, edge, pull, shear, torque = (float(v[0]) for v in site.passed(site.placed.joint.parted))
    area, flat, _ = site.core
    f = site.scene.draws.foam
    rows = [
        Symbol(symbol="M", meaning="moment across the joint", value=moment, unit="N·mm"),
        Symbol(symbol="M_e", meaning="fore and aft", value=edge, unit="N·mm"),
        Symbol(symbol="N", meaning="pull", value=pull, unit="N"),
        Symbol(symbol="V", meaning="shear", value=shear, unit="N"),
        Symbol(symbol="T", meaning="twist", value=torque, unit="N·mm"),
        Symbol(symbol="A", meaning="core area", value=area, unit="mm²"),
        Symbol(symbol="I", meaning="second moment of area", value=flat, unit="mm⁴"),
        Symbol(symbol="p", meaning="bearing of the foam", value=float(f.bearing[0]), unit="MPa"),
    ]
    if site.glue is not None:
        line = site.line("foam", site.deep)
        rows += [
            Symbol(symbol="σ_a", meaning="glue line in tension: glue", value=float(line.film_pull[0]), unit="MPa"),
            Symbol(
                symbol="η σ_f",
                meaning="glue line in tension: foam beside it",
                value=float(line.bed_pull[0]),
                unit="MPa",
            ),
            Symbol(
                symbol="τ_a",
                meaning="glue line in shear (weaker of glue and foam)",
                value=float(line.sheared()[0]),
                unit="MPa",
            ),
        ]
    return rows


def _changed(layer: JointLayer, says: str, glue: dict[str, Any] | None = None, **joint: object) -> tuple[str, Layer]:
    update: dict[str, Any] = {"joint": layer.joint.model_copy(update=joint)}
    if glue is not None and layer.glue is not None:
        update["glue"] = layer.glue.model_copy(update=glue)
    return says, layer.model_copy(update=update)


def _tries(layer: JointLayer | HingeLayer, part: Part) -> Iterator[tuple[str, Layer]]:
    """Changes worth trying on a joint, in words and as the line would stand."""
    if isinstance(layer, HingeLayer):
        made_of = foam_families().get(part.foam or "", "balsa")
        thick, chord = part.root_thickness_mm, 0.5 * (part.root_chord_mm + part.tip_chord_mm)
        for key, h in hinges().items():
            sized = h.thickness_mm.low <= thick <= h.thickness_mm.high and h.chord_mm.low <= chord <= h.chord_mm.high
            if key != layer.method and made_of in h.suits and layer.line in h.lines and sized:
                yield f"use hinge: {h.name}", layer.model_copy(update={"method": key})
        return
    j = layer.joint
    if layer.glue is not None:
        if layer.glue.after_min is not None:
            yield _changed(layer, "wait until fully cured", {"after_min": None})
        family = foam_families().get(part.foam or "")
        for key, a in adhesives().items():
            if key != layer.glue.adhesive and (family is None or on_foams()[key, family].verdict != "attacks"):
                yield _changed(layer, f"glue it with {a.name}", {"adhesive": key, "technique": None})
    if isinstance(j, AcrossJoint):
        if j.faces == "open" and layer.glue is not None:
            yield _changed(layer, "glue the faces as well", faces="butt")
        if j.faces == "butt":
            yield _changed(layer, "scarf the faces 1 : 4", faces="scarf", slope=4.0)
        if j.faces == "scarf" and j.slope <= 10:
            yield _changed(layer, f"a longer scarf, 1 : {2 * j.slope:g}", slope=2 * j.slope)
        for n, b in enumerate(j.braces):
            long, name = 1.5 * b.each_side_mm, b.stock.replace("_", " ")
            for says, update in (
                (f"{name} half as long again, {in_mm(long, F0)} each side", {"each_side_mm": long}),
                (f"one more {name}", {"count": b.count + 1}),
            ):
                braces = tuple(b.model_copy(update=update) if m == n else o for m, o in enumerate(j.braces))
                yield _changed(layer, says, braces=braces)
        for line in part.layers:
            if line.type in ("strip", "film", "wall") and line.enabled and line.id not in j.bridges:
                name = line.name or line.id
                yield _changed(layer, f"run “{name}” across the joint", bridges=(*j.bridges, line.id))
    elif isinstance(j, WallJoint):
        for n, strap in enumerate(j.straps):
            longer = 2 * strap.each_side_mm
            twice = f"straps twice as long, {in_mm(longer, F0)} each side"
            tries: list[tuple[str, dict[str, Any]]] = [
                (twice, {"each_side_mm": longer}), ("straps inside as well", {"lies": "both"}),
                ("one more strap on each face", {"count": strap.count + 1}),
            ]  # fmt: skip
            for says, update in tries:
                straps = tuple(s.model_copy(update=update) if m == n else s for m, s in enumerate(j.straps))
                if straps != j.straps:
                    yield _changed(layer, says, straps=straps)
    elif isinstance(j, LapJoint):
        yield _changed(layer, f"twice the overlap, {in_mm(2 * j.overlap_mm, G)}", overlap_mm=2 * j.overlap_mm)
    elif isinstance(j, PlateJoint):
        yield _changed(layer, f"a longer plate, {in_mm(1.5 * j.long_mm, F0)}", long_mm=1.5 * j.long_mm)
        yield _changed(layer, f"a wider plate, {in_mm(1.5 * j.wide_mm, F0)}", wide_mm=1.5 * j.wide_mm)
        yield _changed(layer, f"{j.keys + 8} glue keys of {in_mm(j.key_mm, G)}", keys=j.keys + 8)
        if part.foam is None and j.backed is None:
            screws = max(j.screws, 4)
            yield _changed(
                layer, f"the same sheet inside, {screws} screws that clamp it", backed=j.sheet, screws=screws
            )
        if j.screws:
            yield _changed(layer, "two more screws", screws=j.screws + 2)
    elif isinstance(j, BoltedJoint):
        yield _changed(layer, f"bolts further apart, {in_mm(1.5 * j.apart_mm, F0)}", apart_mm=1.5 * j.apart_mm)
        yield _changed(layer, f"larger washers, {in_mm(1.5 * j.washer_mm, F0)}", washer_mm=1.5 * j.washer_mm)
        yield _changed(layer, "one more bolt", bolts=j.bolts + 1)
    elif isinstance(j, BandedJoint):
        yield _changed(layer, "two more rubber bands", bands=j.bands + 2)
        yield _changed(layer, f"pegs deeper in, {in_mm(1.5 * j.peg_in_mm, F0)}", peg_in_mm=1.5 * j.peg_in_mm)
        if j.months > 0:
            yield _changed(layer, "new rubber bands", months=0.0)


_TOLD = 4
"""So many changes are told, of adhesives and methods of hinging the best alone."""


def _sort_of(layer: Layer, line: Layer, says: str) -> str:
    """Of which sort a change of a joint is: another method of hinging, another adhesive, or one of its own."""
    if isinstance(line, HingeLayer):
        return "hinge"
    before, after = (la.glue if isinstance(la, JointLayer) else None for la in (layer, line))
    return "glue" if before and after and before.adhesive != after.adhesive else says


def _helps(layer: JointLayer | HingeLayer, found: _Worst, part: Part, catalogue: Catalogue) -> list[JointHelp]:
    now = 1 / max(float(found.use[0]), 1e-9) * found.case.safety_factor
    scene, n = found.site.scene, found.site.placed.line
    p = found.analysis.prepared
    weighs = float(joint_grams(found.site.placed, scene.elements, scene.draws, scene.geometry)[0])
    helps: list[JointHelp] = []
    best: dict[str, JointHelp] = {}
    for says, line in _tries(layer, part):
        layers = tuple(line if m == n else la for m, la in enumerate(part.layers))
        other = part.model_copy(update={"layers": layers})
        fits = (
            list(hinge_fits(line, other, ""))
            if isinstance(line, HingeLayer)
            else list(joint_fits(line, other, catalogue, ""))
            if isinstance(line, JointLayer)
            else []
        )
        if fits or not isinstance(line, JointLayer | HingeLayer):
            continue
        placed = place_joint(line, n, other, catalogue)
        elements = replace(scene.elements, part=scene.elements.part.model_copy(update={"layers": layers}))
        tried = Scene(**{**vars(scene), "elements": elements})
        glue = line.glue if isinstance(line, JointLayer) else None
        ways = ways_of(Site(tried, placed, glue, glue.after_min if glue else None))
        if not ways:
            continue
        holds = 1 / max(float(_use(ways)[0]), 1e-9)
        more = float(joint_grams(placed, elements, p.draws, p.geometry)[0]) - weighs
        one = JointHelp(says=says, holds=holds, more_g=more, layer=line)
        if holds < 1.02 * now:
            continue
        sort = _sort_of(layer, line, says)
        if sort not in best or holds > best[sort].holds:
            best[sort] = one
    helps = sorted(best.values(), key=lambda h: -h.holds)
    return helps[:_TOLD]


def _notes(layer: JointLayer | HingeLayer, part: Part) -> list[str]:
    if isinstance(layer, JointLayer):
        faces = {getattr(la, "face", "") for la in part.layers if la.id in getattr(layer.joint, "bridges", ())}
        if len(faces) == 1 and faces <= {"upper", "lower"}:
            bends = "a strap on one side only bends the joint and peels (Goland & Reissner 1944): put one on each face."
            return [f"Everything that bridges the joint is on the {faces.pop()} face: {bends}"]
        return []
    h = hinges()[layer.method]
    thrown = max((c.deflection_deg for c in part.cases if isinstance(c, DeflectedCase)), default=20.0)
    need = HingeNeed(
        thickness_mm=min(part.root_thickness_mm, 60), line=layer.line, bevel_deg=layer.bevel_deg,
        gap_mm=layer.gap_mm, up_deg=min(thrown, 80), down_deg=min(thrown, 80),
    )  # fmt: skip
    return [throw_of(need).says, f"Bevel: {h.bevel}", f"Check: {h.checks}", f"In the sun: {h.sun}",
            f"If it tears: {h.repair}"]  # fmt: skip


def _cautions(layer: JointLayer | HingeLayer) -> list[Caution]:
    if isinstance(layer, HingeLayer):
        return cautions_for([f"key:{k}" for k in hinges()[layer.method].hazards])
    tags = [f"adhesive:{layer.glue.adhesive}"] if layer.glue else []
    return cautions_for(tags)
