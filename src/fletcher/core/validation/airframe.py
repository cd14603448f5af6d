"""Whether a document makes a possible airframe: every problem with its path, the value, and what is allowed.

`read` is the one way from untrusted data to an `Airframe`; it reports all problems at once.
"""

from __future__ import annotations

import difflib
import json
from collections.abc import Iterable, Iterator, Mapping
from functools import lru_cache
from typing import Any

import numpy as np
from pydantic import ValidationError

from fletcher.core.common.quantities import G3, G4, G, Units, in_C, in_mm, units
from fletcher.core.document import cases
from fletcher.core.document.airframe import (
    READS,
    Airframe,
    BarLayer,
    ControlEdge,
    CordLayer,
    CutLayer,
    FilmLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.airframe_file import AirframeFile
from fletcher.core.document.defaults import SUITS
from fletcher.core.document.own_materials import faults
from fletcher.core.document.problems import InvalidDocument, Problem, from_validation, shown
from fletcher.core.document.shapes import EllipseSection, FoldedSection, PointsSection, RectangleSection
from fletcher.core.layup.stackup import bare
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.own_rows import plain
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import elements_of, fitting_span, line_span
from fletcher.core.structure.control_surfaces import centre_of_push
from fletcher.core.validation.damage import damage_fits
from fletcher.core.validation.equipment import equipment_fits
from fletcher.core.validation.joints import hinge_fits, joint_fits
from fletcher.core.validation.layup import bars_fit, bolts_fit, cuts_fit, hangs_together, line_fits
from fletcher.core.validation.weighings import weighings_fit

MAX_DOCUMENT_BYTES = 512_000


def parse_json(text: str | bytes) -> Any:
    """JSON to data, refusing what is too large or not JSON.

    Raises
    ------
    InvalidDocument
        Naming line and column of a syntax error.
    """
    size = len(text if isinstance(text, bytes) else text.encode())
    if size > MAX_DOCUMENT_BYTES:
        raise InvalidDocument(
            [Problem(path="", message=f"is too large: at most {MAX_DOCUMENT_BYTES} bytes", value=f"{size}")]
        )
    try:
        return json.loads(text)
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        raise InvalidDocument([Problem(path="", message=f"is not valid JSON at {where}: {error.msg}")]) from None
    except UnicodeDecodeError as error:
        raise InvalidDocument([Problem(path="", message=f"is not UTF-8 text at byte {error.start}")]) from None
    except RecursionError:
        raise InvalidDocument([Problem(path="", message="is nested too deeply")]) from None


def read(data: Any) -> AirframeFile:
    """Untrusted data to a checked airframe, with variants that could be built if it brings any.

    Raises
    ------
    InvalidDocument
        With every problem found.
    """
    if isinstance(data, Mapping) and data.get("version") not in (None, *READS):
        found, known = shown(data.get("version")), " and ".join(str(v) for v in READS)
        raise InvalidDocument(
            [Problem(path="version", message=f"has a version this program cannot read; it reads {known}", value=found)]
        )
    try:
        airframe = AirframeFile.model_validate(data)
    except ValidationError as error:
        raise InvalidDocument(from_validation(error)) from None
    problems = [*check(airframe, reference()), *check_variants(airframe, reference())]
    if problems:
        raise InvalidDocument(problems)
    return airframe


def check_variants(file: AirframeFile, catalogue: Catalogue) -> Iterator[Problem]:
    """Problems of the variants that come with an airframe."""
    for i, variant in enumerate(file.variants):
        path = f"variants[{i}]"
        if file.part(variant.part_id) is None or variant.document.part(variant.part_id) is None:
            message = "must be a part of the airframe and of the variant's document"
            yield Problem(path=f"{path}.part_id", message=message, value=repr(variant.part_id))
        for problem in check(variant.document, catalogue):
            yield problem.model_copy(update={"path": f"{path}.document.{problem.path}"})


def check(airframe: Airframe, catalogue: Catalogue) -> Iterator[Problem]:
    """Problems of a well-formed document: what cannot be built or computed."""
    yield from _unique((p.id for p in airframe.parts), "parts")
    if airframe.setting.coldest_C > airframe.setting.hottest_C:
        message = f"must not be above the hottest, {in_C(airframe.setting.hottest_C, G)}"
        yield Problem(path="setting.coldest_C", message=message, value=f"{airframe.setting.coldest_C:g}")
    yield from _unique((m.id for m in airframe.materials), "materials")
    for i, own in enumerate(airframe.materials):
        for field, message, found in faults(own):
            yield Problem(path=f"materials[{i}].{field}", message=message, value=found)
    for i, part in enumerate(airframe.parts):
        yield from check_part(part, catalogue, f"parts[{i}]")
    yield from _unique((e.id for e in airframe.equipment), "equipment")
    for i, item in enumerate(airframe.equipment):
        if item.stock is not None:
            yield from _known(item.stock, catalogue.fittings, f"equipment[{i}].stock", "stock item")
    yield from equipment_fits(airframe)
    yield from _unique((w.id for w in airframe.weighings), "weighings")
    yield from weighings_fit(airframe)


def check_part(part: Part, catalogue: Catalogue, path: str = "part") -> list[Problem]:
    """Problems of one part."""
    return (
        list(_against_reference(part, path, units())) if catalogue is reference() else _problems(part, catalogue, path)
    )


@lru_cache(maxsize=128)
def _against_reference(part: Part, path: str, _: Units) -> tuple[Problem, ...]:
    """What is checked with every answer, while most parts of an airframe stay as they are."""
    return tuple(_problems(part, reference(), path))


def _problems(part: Part, catalogue: Catalogue, path: str) -> list[Problem]:
    found = list(_part(part, catalogue, path))
    if found:
        return found
    elements = elements_of(part, catalogue)
    fits = [*bars_fit(elements, path), *cuts_fit(elements, path), *bolts_fit(elements, path)] or list(
        hangs_together(elements, path)
    )
    return fits or list(damage_fits(part, catalogue, path))


def _unique(ids: Iterable[str], path: str) -> Iterator[Problem]:
    seen: set[str] = set()
    for i, key in enumerate(ids):
        if key in seen:
            yield Problem(path=f"{path}[{i}].id", message="is used twice", value=repr(key))
        seen.add(key)


_BALANCED = 0.9
"""A surface may be balanced to this share of the distance to its air load."""


def _known(key: str, table: Mapping[str, Any], path: str, what: str) -> Iterator[Problem]:
    if key not in table:
        near = difflib.get_close_matches(key, table, n=1)
        hint = f"; did you mean {near[0]!r}?" if near else ""
        yield Problem(path=path, message=f"is not a {what} in the Stockroom{hint}", value=repr(plain(key)))


def _part(part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    if part.foam is not None:
        yield from _known(part.foam, catalogue.foams, f"{path}.foam", "foam")
    if part.rib_sheet is not None:
        yield from _known(part.rib_sheet, catalogue.sheets, f"{path}.rib_sheet", "sheet")
    if isinstance(part.section, PointsSection):
        yield from _points(part.section, f"{path}.section")
    elif isinstance(part.section, FoldedSection):
        yield from _folded(part, part.section, catalogue, path)
    if part.outline == "finished" and part.foam is not None:
        yield from _finished(part, catalogue, path)
    yield from _unique((layer.id for layer in part.layers), f"{path}.layers")
    yield from _unique((case.id for case in part.cases), f"{path}.cases")
    for end in ("root", "tip"):
        chord = getattr(part, f"{end}_chord_mm")
        thickness = getattr(part, f"{end}_thickness_mm")
        boxy = isinstance(part.section, RectangleSection | EllipseSection)
        most = 20 * chord if boxy else 0.4 * chord
        if thickness > most:
            yield Problem(
                path=f"{path}.{end}_thickness_mm",
                message=f"is more than this section allows: at most {in_mm(most, G4)} on a chord of {in_mm(chord, G4)}",
                value=f"{thickness:g}",
            )
        if thickness < chord / 200:
            yield Problem(
                path=f"{path}.{end}_thickness_mm",
                message=f"is thinner than a two-hundredth of the chord: at least {in_mm(chord / 200, G4)}",
                value=f"{thickness:g}",
            )
    if part.root_chord_mm > 20 * part.tip_chord_mm or part.tip_chord_mm > 20 * part.root_chord_mm:
        yield Problem(
            path=f"{path}.tip_chord_mm",
            message="tapers by more than 20 : 1: end the part before it becomes a point",
            value=f"{part.tip_chord_mm:g}",
        )
    for i, layer in enumerate(part.layers):
        here = f"{path}.layers[{i}]"
        if isinstance(layer, BarLayer):
            yield from _known(layer.stock, catalogue.bars, f"{here}.stock", "bar")
            yield from _weighed(layer, catalogue, here)
            if layer.sleeve is not None:
                yield from _known(layer.sleeve.stock, catalogue.bars, f"{here}.sleeve.stock", "bar")
            if layer.faced_with is not None:
                yield from _known(layer.faced_with, catalogue.bars, f"{here}.faced_with", "bar")
        elif isinstance(layer, WallLayer):
            yield from _known(layer.sheet, catalogue.sheets, f"{here}.sheet", "sheet")
            yield from _weighed_sheet(layer, catalogue, here)
        elif isinstance(layer, CordLayer):
            yield from _known(layer.cord, catalogue.cords, f"{here}.cord", "cord")
        elif isinstance(layer, FittingLayer):
            unknown = list(_known(layer.stock, catalogue.fittings, f"{here}.stock", "fitting"))
            if unknown:
                yield from unknown
                continue
        elif isinstance(layer, JointLayer):
            yield from joint_fits(layer, part, catalogue, here)
            continue
        elif isinstance(layer, HingeLayer):
            yield from hinge_fits(layer, part, here)
        elif isinstance(layer, CutLayer):
            pass
        elif isinstance(layer.skin, str):
            what, table = "skin", dict[str, Any](catalogue.skins)
            if isinstance(layer, StripLayer):
                what, table = "skin or sheet", table | catalogue.sheets
            yield from _known(layer.skin, table, f"{here}.skin", what)
        else:
            yield from _known(layer.skin.resin, catalogue.resins, f"{here}.skin.resin", "resin")
            for n, ply in enumerate(layer.skin.plies):
                yield from _known(ply.cloth, catalogue.cloths, f"{here}.skin.plies[{n}].cloth", "cloth")
        start, end_mm = line_span(layer, part)
        if isinstance(layer, FittingLayer):
            start, end_mm = fitting_span(layer, part, catalogue)
        if end_mm > part.span_mm + 1e-9:
            yield Problem(
                path=f"{here}.end_mm",
                message=f"lies beyond the end of the part: at most {in_mm(part.span_mm, G)}",
                value=f"{end_mm:g}",
            )
        elif end_mm - start < 1:
            yield Problem(
                path=f"{here}.start_mm",
                message=f"must lie at least {in_mm(1, G)} before the end at {in_mm(end_mm, G)}",
                value=f"{start:g}",
            )
        yield from line_fits(layer, part, catalogue, here)
    for i, case in enumerate(part.cases):
        yield from _case(case, part, f"{path}.cases[{i}]")
        if isinstance(case, cases.DeflectedCase):
            yield from _run(case, catalogue, f"{path}.cases[{i}]")
            most = 100 * _BALANCED * centre_of_push(case.chord_percent)
            if case.balance_percent > most:
                message = f"is so much that the air would throw it over: at most {most:.0f} % ahead of the hinge"
                yield Problem(
                    path=f"{path}.cases[{i}].balance_percent", message=message, value=f"{case.balance_percent:g}"
                )
        yield from _between(case.bend_mm, f"{path}.cases[{i}].bend_mm")
        yield from _between(case.twist_deg, f"{path}.cases[{i}].twist_deg")
    for name in ("margin", "added_g", "balance_mm", "toughness_mJ", "bow_mm"):
        yield from _between(getattr(part.targets, name), f"{path}.targets.{name}")
    yield from _controls(part, path)


def _controls(part: Part, path: str) -> Iterator[Problem]:
    for name in ("control", "second_control"):
        c: ControlEdge | None = getattr(part, name)
        if c is None:
            continue
        if part.kind not in ("wing", "tail"):
            yield Problem(path=f"{path}.{name}", message="is only for wings and tails", value=part.kind)
        if not c.start_mm < c.end_mm - 5 or c.end_mm > part.span_mm + 1e-9:
            message = f"must start at least {in_mm(5, G)} before its end, within the part's {in_mm(part.span_mm, G)}"
            yield Problem(path=f"{path}.{name}.end_mm", message=message, value=f"{c.start_mm:g} to {c.end_mm:g}")
    one, other = part.control, part.second_control
    if one is not None and other is not None and one.start_mm < other.end_mm and other.start_mm < one.end_mm:
        message = f"overlaps the first, which hangs from {one.start_mm:g} to {in_mm(one.end_mm, G)}"
        yield Problem(path=f"{path}.second_control.start_mm", message=message, value=f"{other.start_mm:g}")


_NEEDS: tuple[tuple[Any, str], ...] = (
    (cases.FlightCase, "wing"),
    (cases.TailLiftCase, "tail"),
    (cases.DeflectedCase, "surface"),
    (cases.TailLoadCase | cases.MotorTorqueCase | cases.NoseStrikeCase, "fuselage"),
)
"""Cases that only one kind of part knows."""


def _case(case: cases.Case, part: Part, path: str) -> Iterator[Problem]:
    """Places of loads and supports must lie on the part, and a lift needs a wing."""
    ends = {name: getattr(case, name, None) for name in ("at_mm", "saddle_mm", "horn_mm")}
    if isinstance(case, cases.ThreePointCase):
        ends["second_support_mm"] = case.second_support_mm
        if case.second_support_mm - case.first_support_mm < 20:
            yield Problem(
                path=f"{path}.first_support_mm",
                message=f"the supports must stand at least {in_mm(20, G)} apart, the first nearer the root",
                value=f"{case.first_support_mm:g} and {case.second_support_mm:g}",
            )
    for name, place in ends.items():
        if place is not None and place > part.span_mm + 1e-9:
            message = f"lies beyond the end of the part: at most {in_mm(part.span_mm, G)}"
            yield Problem(path=f"{path}.{name}", message=message, value=f"{place:g}")
    place = ends["at_mm"]
    if place is not None and place < 10 and not isinstance(case, cases.StrapCase):
        yield Problem(
            path=f"{path}.at_mm", message=f"must be at least {in_mm(10, G)} from the root", value=f"{place:g}"
        )
    needs = next((kind for kinds, kind in _NEEDS if isinstance(case, kinds)), None)
    if needs is not None and part.kind != needs:
        message = f"needs a {needs}. Load cases for this kind of part: {', '.join(SUITS[part.kind])}"
        yield Problem(path=f"{path}.type", message=message, value=case.type)


def _between(wanted: cases.Between | None, path: str) -> Iterator[Problem]:
    """A range must start below its end."""
    if wanted is not None and wanted.low is not None and wanted.high is not None and wanted.low > wanted.high:
        message = f"must not be more than the maximum ({wanted.high:g})"
        yield Problem(path=f"{path}.low", message=message, value=f"{wanted.low:g}")


def _weighed(layer: BarLayer, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """A weighing must make a density near what the material can have."""
    bar = catalogue.bars.get(layer.stock)
    if bar is None or layer.weighed_g_per_m is None:
        return
    low, high = (d * bar.area_mm2 * 1e-3 for d in (0.7 * bar.density_kg_m3.low, 1.4 * bar.density_kg_m3.high))
    if not low <= layer.weighed_g_per_m <= high:
        message = f"is not plausible for {bar.name}: {low:.3g} to {high:.3g} g per metre"
        yield Problem(path=f"{path}.weighed_g_per_m", message=message, value=f"{layer.weighed_g_per_m:g}")


def _weighed_sheet(layer: WallLayer, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    sheet = catalogue.sheets.get(layer.sheet)
    if sheet is None or layer.weighed_g_per_m2 is None:
        return
    low, high = 0.7 * sheet.areal_mass_g_m2.low, 1.4 * sheet.areal_mass_g_m2.high
    if not low <= layer.weighed_g_per_m2 <= high:
        message = f"is not plausible for {sheet.name}: {low:.3g} to {high:.3g} g per m²"
        yield Problem(path=f"{path}.weighed_g_per_m2", message=message, value=f"{layer.weighed_g_per_m2:g}")


def _folded(part: Part, section: FoldedSection, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """A folded board is hollow, its spar lies between nose and tail, and both skins leave room for the spar."""
    here = f"{path}.section"
    if section.board not in catalogue.sheets:
        yield from _known(section.board, catalogue.sheets, f"{here}.board", "sheet")
        return
    if part.foam is not None:
        yield Problem(path=f"{path}.foam", message="a folded board has no core: choose “Hollow”", value=part.foam)
    if section.spar_rear_percent < section.spar_front_percent + 3:
        least = section.spar_front_percent + 3
        message = f"must be behind the spar front wall: at least {least:g} % of the chord"
        yield Problem(path=f"{here}.spar_rear_percent", message=message, value=f"{section.spar_rear_percent:g}")
    t = catalogue.sheets[section.board].thickness_mm.typ
    for end in ("root", "tip"):
        depth = getattr(part, f"{end}_thickness_mm")
        if depth < 2 * t + 3:
            message = f"leaves no room for a spar between two boards of {in_mm(t, G)}: at least {in_mm(2 * t + 3, G3)}"
            yield Problem(path=f"{path}.{end}_thickness_mm", message=message, value=f"{depth:g}")


def _finished(part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """What lies on the core must leave some of it."""
    if any(
        (isinstance(la, WallLayer) and la.sheet not in catalogue.sheets)
        or (isinstance(la, FilmLayer) and isinstance(la.skin, str) and la.skin not in catalogue.skins)
        for la in part.layers
    ):
        return
    core = bare(part, catalogue)
    for name in ("root_thickness_mm", "tip_thickness_mm", "root_chord_mm", "tip_chord_mm"):
        if getattr(core, name) < (1.0 if "thickness" in name else 5.0):
            taken = getattr(part, name) - getattr(core, name)
            message = f"is the finished one, and its skins take {in_mm(taken, G3)} of it: too little is left for a core"
            yield Problem(path=f"{path}.{name}", message=message, value=f"{getattr(part, name):g}")


def _run(case: cases.DeflectedCase, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """A control run of things that are in the stockroom."""
    run = case.run
    if run is None:
        return
    yield from _known(run.rod, catalogue.bars, f"{path}.run.rod", "bar")
    if run.servo is not None:
        yield from _known(run.servo, catalogue.fittings, f"{path}.run.servo", "fitting")
        if run.servo in catalogue.fittings and catalogue.fittings[run.servo].torque_N_mm is None:
            yield Problem(path=f"{path}.run.servo", message="is not a servo", value=repr(run.servo))
    if run.support_mm > run.length_mm:
        message = f"is more than the run's length: at most {in_mm(run.length_mm, G)}"
        yield Problem(path=f"{path}.run.support_mm", message=message, value=f"{run.support_mm:g}")


def _points(section: PointsSection, path: str) -> Iterator[Problem]:
    """Faces must run from nose to trailing edge without turning back, and must not cross."""
    for name in ("upper", "lower"):
        face = np.array(getattr(section, name))
        back = np.nonzero(np.diff(face[:, 0]) <= 0)[0]
        if len(back):
            n = int(back[0]) + 1
            yield Problem(
                path=f"{path}.{name}[{n}]",
                message="must be further aft than the point before it",
                value=f"{face[n, 0]:g}",
            )
        if abs(face[0, 0]) > 1e-6 or abs(face[-1, 0] - 1) > 1e-6:
            yield Problem(
                path=f"{path}.{name}", message="must run from x = 0 at the leading edge to x = 1 at the trailing edge"
            )
        if np.abs(face[:, 1]).max() > 0.6:
            yield Problem(path=f"{path}.{name}", message="must stay within ± 0.6 of the chord line")
    at = np.linspace(0.02, 0.98, 49)
    upper, lower = (np.interp(at, *np.array(getattr(section, name)).T) for name in ("upper", "lower"))
    gap = upper - lower
    if np.min(gap) < -1e-6:
        place = 100 * float(at[int(np.argmin(gap))])
        message = f"crosses the upper face at {place:.0f} % chord; it must stay below it"
        yield Problem(path=f"{path}.lower", message=message)
    elif np.max(gap) < 0.005:
        message = "leaves no thickness: at least 0.5 % of the chord is needed"
        yield Problem(path=f"{path}.lower", message=message)
