"""Why a damaged part is not flown, whatever the figures say: rules, the gravest first.

The rules are judgement [J]: broken bars, cracks to a bar, under a cap or deep into brittle foam,
joints and hinges that have let go, parts that are snapped, creased, kinked or open, what stayed twisted, and whatever
nobody has looked at.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from fletcher.core.common.quantities import F0, from_root, in_mm
from fletcher.core.document.airframe import FilmLayer, HingeLayer, JointLayer, Part, StripLayer, WallLayer
from fletcher.core.document.cases import DeflectedCase
from fletcher.core.document.damage import (
    BarMark,
    BentMark,
    BreakMark,
    CrackMark,
    CreaseMark,
    LooseMark,
    Mark,
    MissingMark,
    OpenedMark,
    PeeledMark,
)
from fletcher.core.estimate.phrasing import stock_name
from fletcher.core.materials.plates import lying
from fletcher.core.materials.tables import reference
from fletcher.core.repair.damage_model import Question, chord_at, crack_to_a_bar, questions, thickness_at
from fletcher.core.repair.way_glue import CLOTHS
from fletcher.core.section.assembly import line_span
from fletcher.core.structure.control_surfaces import horn_of

_BRITTLE_DEEP = 1 / 3
"""Of the depth of brittle foam."""
_FROM_EDGE = 0.1
"""Of the chord, from an edge across the flow of the load."""
_HALF_A_SIDE = 50.0
"""Per cent of a wall that a crease may cross."""
_SEAM_OVER = 2.0
"""A seam may be open over so many depths of the part."""
_TWISTED, _BENT, _SKEWED = 1.0, 0.01, 0.5
"""Degrees of twist against the other half, share of the span by which a tip stands off, degrees by which a tail stands
askew."""
_HINGE = 0.10
"""Of a hinge's length may be torn, away from its ends and the horn."""
_HORN_MM = 15.0
_CAPS = frozenset({"carbon_ud", "carbon_tow", "carbon_laminate", "glass_laminate", "carbon_pultruded", "wood", "balsa"})


def grounds(part: Part) -> list[str]:
    """Reasons why a part with marks of damage is not flown, the gravest first; none where no rule fits."""
    found: list[tuple[int, str]] = []
    for mark in part.damage:
        found += _of_mark(mark, part)
    for q in questions(part):
        name, at = asked_name(q), from_root(q.at_mm)
        if isinstance(q.mark, BreakMark):
            continue
        if q.found == "broken":
            found.append((1, f"{name} is broken, {at}"))
        elif q.found is None and isinstance(q.mark, BentMark):
            found.append((7, f"look first whether {name} cracked in the bend"))
        elif q.found is None:
            found.append((7, f"look first whether {name} is whole, {at}"))
    return list(dict.fromkeys(says for _, says in sorted(found, key=lambda f: f[0])))


def asked_name(q: Question) -> str:
    """What is asked after, by its name."""
    name = q.layer.name or stock_name(q.layer)
    return name if q.side == "both" else f"{name}, the {q.side} one"


def grounded_by(part: Part) -> str | None:
    """The gravest reason in a sentence, and how many more there are; None where nothing grounds the part."""
    return first_of(grounds(part))


def first_of(found: list[str]) -> str | None:
    """The first of some reasons, and how many more there are; None where there is none."""
    if not found:
        return None
    return found[0] if len(found) == 1 else f"{found[0]}, and {len(found) - 1} more"


def _of_mark(mark: Mark, part: Part) -> Iterator[tuple[int, str]]:
    names = {la.id: la.name or stock_name(la) for la in part.layers}
    if isinstance(mark, BreakMark):
        yield 0, f"broken through, {from_root(mark.at_mm)}"
    elif isinstance(mark, BarMark):
        how = {"broken": "is broken", "split": "is split: bind it first", "pulled_out": "is loose in its slot"}
        yield 1, f"{names.get(mark.of, 'a bar')} {how[mark.how]}, {from_root(mark.at_mm)}"
    elif isinstance(mark, CrackMark):
        yield from _crack(mark, part)
    elif isinstance(mark, CreaseMark):
        if mark.to_percent - mark.from_percent > _HALF_A_SIDE:
            yield 5, f"a wall is creased across, {from_root(mark.at_mm)}"
    elif isinstance(mark, OpenedMark):
        deep = thickness_at(part, mark.start_mm)
        if mark.end_mm - mark.start_mm > _SEAM_OVER * deep:
            yield 5, f"the {mark.edge} seam is open over {in_mm(mark.end_mm - mark.start_mm, F0)}"
    elif isinstance(mark, MissingMark):
        edge = mark.face in ("front", "rear") and part.foam is None
        if edge and mark.end_mm - mark.start_mm > chord_at(part, mark.start_mm):
            yield 5, f"the part is open along its {'nose' if mark.face == 'front' else 'rear edge'}"
    elif isinstance(mark, PeeledMark):
        line = next((la for la in part.layers if la.id == mark.of), None)
        web = part.foam is None and isinstance(line, WallLayer) and line.face in ("web", "level")
        if web and mark.end_mm - mark.start_mm > _SEAM_OVER * thickness_at(part, mark.start_mm):
            yield 1, f"{names[mark.of]} is loose, {from_root(mark.start_mm)}"
        cap = _over_a_cap(mark, part)
        if cap is not None:
            yield 2, f"{names[mark.of]} is off over {cap}, {from_root(mark.start_mm)}"
    elif isinstance(mark, LooseMark):
        yield from _loose(mark, part, names)
    elif isinstance(mark, BentMark):
        yield from _bent(mark, part)


def _crack(mark: CrackMark, part: Part) -> Iterator[tuple[int, str]]:
    at = from_root(mark.at_mm)
    bar = crack_to_a_bar(part, mark)
    foam = reference().foams.get(part.foam or "")
    if bar is not None:
        yield 2, f"a crack reaches {bar}, {at}"
    elif (cap := _under_a_cap(mark, part)) is not None:
        yield 2, f"a crack runs under {cap}, {at}"
    elif mark.face in ("front", "rear"):
        if mark.depth_mm >= _FROM_EDGE * chord_at(part, mark.at_mm):
            yield 3, f"a crack runs in from the {mark.face} edge, {at}"
    elif foam is not None and foam.brittle and mark.depth_mm > _BRITTLE_DEEP * thickness_at(part, mark.at_mm):
        yield 3, f"a crack goes deep into brittle foam, {at}"


def _under_a_cap(mark: CrackMark, part: Part) -> str | None:
    """Name of the stiff strip on the face of a crack that it runs under."""
    share = mark.at_mm / part.span_mm
    for layer in part.layers:
        if not isinstance(layer, StripLayer) or not layer.enabled or mark.face not in (layer.face, *_faces(layer)):
            continue
        family = lying(layer.skin, reference()).family if isinstance(layer.skin, str) else "carbon_laminate"
        first, last = line_span(layer, part)
        if family not in _CAPS or not first <= mark.at_mm <= last:
            continue
        middle = layer.root_percent + (layer.tip_percent - layer.root_percent) * share
        half = 50 * layer.width_mm / chord_at(part, mark.at_mm)
        if middle + half > mark.from_percent and middle - half < mark.to_percent:
            return layer.name or stock_name(layer)
    return None


def _over_a_cap(mark: PeeledMark, part: Part) -> str | None:
    """Name of the stiff strip that a peeled cloth or sheet holds down on the core; None where it is none."""
    line = next((la for la in part.layers if la.id == mark.of), None)
    if not isinstance(line, FilmLayer | WallLayer) or part.foam is None:
        return None
    if isinstance(line, FilmLayer) and isinstance(line.skin, str) and reference().skins[line.skin].family not in CLOTHS:
        return None  # film comes off and is laid down again: the strip beneath holds by itself
    for layer in part.layers:
        if isinstance(layer, StripLayer) and layer.enabled and set(_faces(layer)) & set(_faces(line)):
            family = lying(layer.skin, reference()).family if isinstance(layer.skin, str) else "carbon_laminate"
            first, last = line_span(layer, part)
            if family in _CAPS and first < mark.end_mm and last > mark.start_mm:
                return layer.name or stock_name(layer)
    return None


def _faces(layer: StripLayer | FilmLayer | WallLayer) -> tuple[str, ...]:
    return ("upper", "lower") if layer.face in ("both", "wrapped") else (layer.face,)


def _loose(mark: LooseMark, part: Part, names: Mapping[str, str]) -> Iterator[tuple[int, str]]:
    line = next((la for la in part.layers if la.id == mark.of), None)
    if isinstance(line, JointLayer):
        yield 4, f"{names[line.id]} has come apart"
    elif isinstance(line, HingeLayer):
        first, last = line_span(line, part)
        start, end = mark.start_mm or first, last if mark.end_mm is None else mark.end_mm
        where = ""
        horns = [horn_of(c, part) for c in part.cases if isinstance(c, DeflectedCase)]
        if any(start - _HORN_MM <= horn <= end + _HORN_MM for horn in horns):
            where = " beside the horn"
        elif start <= first + 1 or end >= last - 1:
            where = " at its end"
        if where or end - start > _HINGE * (last - first):
            yield 4, f"the hinge is torn{where}"


def _bent(mark: BentMark, part: Part) -> Iterator[tuple[int, str]]:
    if mark.at_mm is not None:
        yield 5, f"it is kinked, {from_root(mark.at_mm)}"
    most = _SKEWED if part.kind == "tail" else _TWISTED
    if abs(mark.twist_deg) > most:
        yield 6, f"it stayed twisted by {abs(mark.twist_deg):g}°"
    if abs(mark.tip_mm) > _BENT * part.span_mm:
        yield 6, f"its end stands {in_mm(abs(mark.tip_mm), F0)} off"
