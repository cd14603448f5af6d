"""The same design at another span: sizes scaled in proportion, bars chosen anew from stock so that the bend over the
span, or the margin, stays what it was."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from typing import Literal

from fletcher.core.document.airframe import Airframe, BarLayer, ControlEdge, CutLayer, Layer, Part, StripLayer
from fletcher.core.document.cases import Case, ThreePointCase
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.document.shapes import FoldedSection
from fletcher.core.document.stock_steps import bar_ladder, with_bar
from fletcher.core.studies.schema import ScaledDesign, Scaling
from fletcher.core.studies.what_if import Trial, possible, trial

Keep = Literal["bend", "margin"]
_SLACK = 0.02
"""So much worse still counts as kept."""
_MOST_TRIALS = 60
_WITH_MASS = ("weight_g", "force_N", "couple_N_mm", "pull_N", "end_mass_g", "torque_N_mm", "area_cm2")
"""Figures of cases that grow with the airframe."""
_WITH_SPAN = ("at_mm", "saddle_mm", "horn_mm", "first_support_mm", "second_support_mm", "contact_mm", "height_mm")


def _rounded(value: float) -> float:
    return round(value, 1)


def _line(layer: Layer, k: float) -> Layer:
    changes: dict[str, object] = {"start_mm": _rounded(k * layer.start_mm)}
    if layer.end_mm is not None:
        changes["end_mm"] = _rounded(k * layer.end_mm)
    if isinstance(layer, StripLayer):
        end = layer.end_width_mm
        changes |= {
            "width_mm": max(0.5, _rounded(k * layer.width_mm)),
            "end_width_mm": None if end is None else max(0.5, _rounded(k * end)),
            "drop_mm": _rounded(k * layer.drop_mm),
        }
    if isinstance(layer, CutLayer) and (layer.width_mm is not None or layer.shapes):
        sizes = {n: getattr(layer, n) for n in ("width_mm", "depth_mm", "end_depth_mm")}
        changes |= {n: _rounded(k * v) for n, v in sizes.items() if v is not None}
    if isinstance(layer, BarLayer):
        sleeve = layer.sleeve
        changes["splices"] = tuple(s.model_copy(update={"at_mm": _rounded(k * s.at_mm)}) for s in layer.splices)
        if sleeve is not None:
            ends = {"start_mm": _rounded(k * sleeve.start_mm), "end_mm": _rounded(k * sleeve.end_mm)}
            changes["sleeve"] = sleeve.model_copy(update=ends)
    return layer.model_copy(update=changes)


def _case(case: Case, k: float, mass: float) -> Case:
    """A case of the scaled airframe: places by the span, loads by the mass, speeds so that the lift coefficient stays
    (V ∝ √(wing loading))."""
    changes: dict[str, object] = {}
    for name in _WITH_SPAN:
        value = getattr(case, name, None)
        if value is not None:
            changes[name] = _rounded(k * value)
    for name in _WITH_MASS:
        value = getattr(case, name, None)
        if value is not None:
            changes[name] = value * (
                mass * k if name in ("couple_N_mm", "torque_N_mm") else k**2 if name == "area_cm2" else mass
            )
    run = getattr(case, "run", None)
    if run is not None:
        changes["run"] = run.model_copy(update={"length_mm": _rounded(k * run.length_mm)})
    speed = getattr(case, "speed_m_s", None)
    if speed is not None:
        changes["speed_m_s"] = min(120.0, max(1.0, speed * (mass / k**2) ** 0.5))
    return case.model_copy(update=changes)


def scaled_part(part: Part, k: float, mass_ratio: float) -> Part:
    """Every size of a part times k, its cases for an airframe of so many times the mass; stock as it was."""
    sizes = ("span_mm", "root_chord_mm", "tip_chord_mm", "tip_setback_mm", "root_thickness_mm", "tip_thickness_mm")
    changes: dict[str, object] = {name: _rounded(k * getattr(part, name)) for name in sizes}
    changes["rib_spacing_mm"] = part.rib_spacing_mm
    changes["layers"] = tuple(_line(la, k) for la in part.layers)
    changes["cases"] = tuple(_case(c, k, mass_ratio) for c in part.cases)
    if isinstance(part.section, FoldedSection):
        folds = {n: _rounded(k * getattr(part.section, n)) for n in ("nose_mm", "tail_bevel_mm")}
        changes["section"] = part.section.model_copy(update=folds)
    for name in ("control", "second_control"):
        edge: ControlEdge | None = getattr(part, name)
        if edge is not None:
            ends = {"start_mm": _rounded(k * edge.start_mm), "end_mm": _rounded(k * edge.end_mm)}
            changes[name] = edge.model_copy(update=ends)
    return part.model_copy(update=changes)


def _bars(part: Part) -> Iterator[tuple[Part, list[str]]]:
    """The part with every combination of neighbouring stock for its bars, nearest to the present ones first."""
    lines = [la for la in part.layers if isinstance(la, BarLayer) and la.enabled]
    ladders = [bar_ladder(la.stock) for la in lines]
    own = [next(n for n, b in enumerate(ld) if b.key == la.stock) for la, ld in zip(lines, ladders, strict=True)]
    spread = sorted(
        itertools.product(*(range(len(ld)) for ld in ladders)),
        key=lambda picks: sum(abs(n - o) for n, o in zip(picks, own, strict=True)),
    )
    for picks in spread[:_MOST_TRIALS]:
        chosen = {la.id: ld[n] for la, ld, n in zip(lines, ladders, picks, strict=True)}
        layers = tuple(
            with_bar(la, chosen[la.id]) if isinstance(la, BarLayer) and la.id in chosen else la for la in part.layers
        )
        says = [
            f"{la.name or 'Bar'}: {chosen[la.id].name}" + ("" if chosen[la.id].key != la.stock else " unchanged")
            for la in lines
        ]
        yield part.model_copy(update={"layers": layers}), says


def _span_of(part: Part, case_id: str) -> float:
    """Length over which a case bends: between supports, or the whole part."""
    case = next(c for c in part.cases if c.id == case_id)
    if isinstance(case, ThreePointCase):
        return case.second_support_mm - case.first_support_mm
    return part.span_mm


def scale(
    airframe: Airframe, part: Part, case_id: str, span_mm: float, all_up_mass_g: float | None, keep: Keep
) -> Scaling:
    """A checked part at another span, for an airframe of another mass, with stock chosen so that the bend over the span
    in a case, or the margin, stays: the lightest that keeps it first, then the next best. Without a mass the wing
    loading grows with the root of the size, as it does among like airframes: mass ∝ span^2.5.

    Raises
    ------
    InvalidDocument
        If the part cannot be built at that span.
    """
    k = span_mm / part.span_mm
    all_up_mass_g = all_up_mass_g or round(airframe.all_up_mass_g * k**2.5, 1)
    mass_ratio = all_up_mass_g / airframe.all_up_mass_g
    base = scaled_part(part, k, mass_ratio)
    top = min(120.0, max(1.0, airframe.top_speed_m_s * (mass_ratio / k**2) ** 0.5))
    larger = airframe.model_copy(update={"all_up_mass_g": all_up_mass_g, "top_speed_m_s": top})
    now = trial(airframe, part)
    ratio = now.of(case_id).bend_mm / _span_of(part, case_id)
    found = []
    for other, says in _bars(base):
        if possible(other):
            told = trial(larger, other)
            found.append((other, says, told, _kept(told, other, case_id, keep, ratio, now)))
    if not found:
        message = "leads to a part that cannot be built from this stock: try a span closer to today’s"
        raise InvalidDocument([Problem(path="span_mm", message=message, value=f"{span_mm:g}")])
    found.sort(key=lambda f: (0, f[2].mass_g) if f[3] >= 1 - _SLACK else (1, -f[3]))
    designs = [
        ScaledDesign(
            part=other,
            all_up_mass_g=all_up_mass_g,
            says=says or ["No spars to choose: all sizes scale in proportion."],
            mass_g=told.mass_g,
            bend_mm=told.of(case_id).bend_mm,
            bend_ratio=told.of(case_id).bend_mm / _span_of(other, case_id),
            margin=told.governs.margin,
            first=told.governs.sentence,
            keeps=kept >= 1 - _SLACK,
        )
        for other, says, told, kept in found[:5]
    ]
    return Scaling(bend_ratio=ratio, margin=now.governs.margin, designs=designs)


def _kept(told: Trial, part: Part, case_id: str, keep: Keep, ratio: float, now: Trial) -> float:
    """How much of what was asked is kept: 1 is all, above 1 is better."""
    if keep == "margin":
        return told.governs.margin / now.governs.margin
    bend = told.of(case_id).bend_mm / _span_of(part, case_id)
    return ratio / bend if bend > 0 else 1.0
