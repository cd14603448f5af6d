"""Which construction? Every way to build a part of a kind at a size, its lay-up sized to the load (`sizing`), with what
rules it out: tools, hours, strength, weight."""

from __future__ import annotations

import logging
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from fletcher.core.common.abandon import look_up
from fletcher.core.common.quantities import F0, in_g, in_mm
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import PullUpCase
from fletcher.core.document.defaults import usual_cases
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.cut_schema import Cut
from fletcher.core.estimate.effort import Effort, effort_of, prices
from fletcher.core.estimate.schema import Estimate
from fletcher.core.materials.tables import reference
from fletcher.core.structure.able_to_fly import speed_for
from fletcher.core.studies.constructions import CONSTRUCTIONS, Construction, Kind, Size
from fletcher.core.studies.schema import Choice
from fletcher.core.studies.sizing import Sized, estimated, sized
from fletcher.core.validation.airframe import check_part

log = logging.getLogger(__name__)

Tool = Literal["iron", "hot_wire", "resin", "vacuum"]
TOOLS: dict[str, str] = {
    "iron": "a film iron",
    "hot_wire": "a hot wire",
    "resin": "scales, gloves and a place to work with resin",
    "vacuum": "a vacuum pump and bag",
}
"""Tools that not every bench has, in words."""


@dataclass(frozen=True)
class Wish:
    """What is wanted: a kind of part at a span and chords, for an airframe; hours at most (None: as many as it takes);
    tools that are there; sheets and foams at hand (empty: anything can be bought)."""

    kind: Kind
    span_mm: float
    root_chord_mm: float
    tip_chord_mm: float
    all_up_mass_g: float
    top_speed_m_s: float
    hours: float | None = None
    tools: frozenset[str] = frozenset(TOOLS)
    at_hand: frozenset[str] = frozenset()
    load_factor: float | None = None
    """Times gravity that a wing must bear in a pull-up; None: what its speed gives."""


_PROFILE = 0.5
"""A fuselage narrower than so much of its depth is a profile cut from sheet."""
_LARGEST_MM = 400.0
"""No part is deeper."""


def size_for(way: Construction, wish: Wish) -> Size | None:
    """A construction's own proportions at the wanted span and chords; plates keep the thickness of their sheet, and a
    profile cut from sheet is as high as a fuselage would be wide. None where it would be deeper than a part can be."""
    if way.kind == "fuselage" and max(wish.root_chord_mm, wish.tip_chord_mm) > _LARGEST_MM:
        return None
    if way.kind == "fuselage" and way.size.root_chord_mm < _PROFILE * way.size.root_thickness_mm:
        return way.size.model_copy(update={
            "span_mm": wish.span_mm, "root_thickness_mm": wish.root_chord_mm, "tip_thickness_mm": wish.tip_chord_mm,
        })  # fmt: skip
    if isinstance(way.section, RectangleSection) and way.kind != "fuselage":
        thick = (way.size.root_thickness_mm, way.size.tip_thickness_mm)
    elif way.kind == "fuselage":
        across = wish.root_chord_mm / way.size.root_chord_mm
        thick = (way.size.root_thickness_mm * across, way.size.tip_thickness_mm * across)
    else:
        thick = (
            way.size.root_thickness_mm / way.size.root_chord_mm * wish.root_chord_mm,
            way.size.tip_thickness_mm / way.size.tip_chord_mm * wish.tip_chord_mm,
        )
    if max(thick) > _LARGEST_MM:
        return None
    return Size(
        span_mm=wish.span_mm,
        root_chord_mm=wish.root_chord_mm,
        tip_chord_mm=wish.tip_chord_mm,
        root_thickness_mm=round(thick[0], 1),
        tip_thickness_mm=round(thick[1], 1),
    )


def pulled(case: PullUpCase, airframe: Airframe, wing: Part, load_factor: float) -> PullUpCase:
    """A pull-up flown at the speed at which the wing's most lift is so many times the weight."""
    speed = speed_for(airframe.all_up_mass_g, 2e-6 * wing.area_mm2, case.cl_max, load_factor)
    return case.model_copy(update={"speed_m_s": min(max(round(speed, 2), 1.0), 120.0)})


def choose(wish: Wish) -> Iterator[Choice]:
    """All constructions of the wanted kind that can be built at this size: first each as it is usually built, so that
    all are there in a moment, then each again as it is sized, what can be made with what is there first. One that fails
    to compute is left out and logged: it must not take the others along."""
    usual = []
    for trying in _buildable(wish):
        look_up()
        found = _guarded(trying, wish, settled=False)
        if found is not None:
            usual.append((found, trying))
            yield found
    for _, trying in sorted(usual, key=lambda u: (len(u[0].ruled_out) > 0, len(u[0].to_buy))):
        settled = _guarded(trying, wish, settled=True)
        if settled is not None:
            yield settled


def in_construction(airframe: Airframe, part: Part, key: str) -> Sized:
    """A checked part built in another construction of its kind: at its span and chords, in the construction's own
    thickness, under its own load cases, sized to them.

    Raises
    ------
    InvalidDocument
        If there is no such construction of this kind, or it cannot be built at this size or under these cases.
    """
    way = CONSTRUCTIONS.get(key)
    if way is None or way.kind != part.kind:
        message = f"is no construction of a {part.kind}"
        raise InvalidDocument([Problem(path="key", message=message, value=repr(key))])
    mass, speed = airframe.all_up_mass_g, airframe.top_speed_m_s
    size = size_for(way, Wish(way.kind, part.span_mm, part.root_chord_mm, part.tip_chord_mm, mass, speed))
    if size is None:
        raise InvalidDocument([Problem(path="key", message="cannot be built at this size", value=repr(key))])
    kept = {name: getattr(part, name) for name in ("id", "name", "hand", "place", "cases", "tip_setback_mm")}
    other = way.part(size, mass, speed).model_copy(update=kept)
    problems = check_part(other, reference())
    if problems:
        raise InvalidDocument(problems)
    return sized(airframe, other)


Trying = tuple[Construction, Airframe, Part]


def _buildable(wish: Wish) -> Iterator[Trying]:
    """The constructions of the kind with their usual parts at this size, under the wished load."""
    for way in CONSTRUCTIONS.values():
        size = size_for(way, wish) if way.kind == wish.kind else None
        if size is None:
            continue
        airframe = Airframe(name="x", all_up_mass_g=wish.all_up_mass_g, top_speed_m_s=wish.top_speed_m_s)
        part = way.part(size, wish.all_up_mass_g, wish.top_speed_m_s)
        cases = usual_cases(airframe, part)
        if wish.load_factor is not None:
            asked = wish.load_factor
            cases = tuple(pulled(c, airframe, part, asked) if isinstance(c, PullUpCase) else c for c in cases)
        part = part.model_copy(update={"cases": cases})
        if not check_part(part, reference()):
            yield way, airframe.model_copy(update={"parts": (part,)}), part


def _guarded(trying: Trying, wish: Wish, settled: bool) -> Choice | None:
    way, airframe, part = trying
    try:
        found = sized(airframe, part) if settled else estimated(airframe, part)
        return _choice(way, wish, found, settled)
    except (IndexError, KeyError, ValueError, np.linalg.LinAlgError):
        log.exception("construction %s cannot be computed for %s", way.key, wish)
        return None


def _choice(way: Construction, wish: Wish, found: Sized, settled: bool) -> Choice:
    part, told = found.part, found.told
    effort = effort_of(part)
    names = {key: m.name for t in vars(reference()).values() for key, m in t.items()}
    missing = [key for key in effort.buys if wish.at_hand and key not in wish.at_hand and _is_sheet(key)]
    tough = min((t.first_mJ for t in told.toughness), key=lambda b: b.typ, default=None)
    worst = next(v for v in told.verdicts if v.case_id == told.governs)
    return Choice(
        key=way.key,
        title=way.title,
        why=way.why,
        settled=settled,
        part=part,
        sized=list(found.says),
        mass_g=told.mass_g,
        bend_mm=told.deflection_mm,
        margin=told.margin,
        enough=worst.enough,
        first=f"{worst.name}: {phrasing.inline(phrasing.out_at(worst.sentence, worst.at_mm))}",
        cut=_cut(told),
        tough_mJ=tough,
        cost=effort.cost,
        hours=effort.hours,
        ready_h=effort.ready_h,
        tools=list(effort.tools),
        ruled_out=_against(part, wish, found, settled, effort),
        to_buy=[names[key] for key in missing],
        too_short=_joints(part, effort.buys, names),
    )


def _cut(told: Estimate) -> Cut:
    """The cross-section a quarter of the way out, near which parts are mostly loaded most."""
    at = 0.25 * told.stretches[-1].tip_side.y_mm
    stretch = next((s for s in told.stretches if s.tip_side.y_mm >= at), told.stretches[-1])
    return stretch.root_side


def _is_sheet(key: str) -> bool:
    return key in reference().foams or key in reference().sheets


def _joints(part: Part, buys: tuple[str, ...], names: dict[str, str]) -> list[str]:
    """Stock that is shorter than the part."""
    short = []
    for key in buys:
        longest = prices()[key].length_mm
        if longest is not None and longest < part.span_mm and (_is_sheet(key) or key in reference().bars):
            short.append(f"{names[key]} comes {in_mm(longest, F0)} long: needs a joint")
    return short


def _against(part: Part, wish: Wish, found: Sized, settled: bool, effort: Effort) -> list[str]:
    """What rules a construction out; that it does not hold only once it is sized."""
    grams, hours = found.told.mass_g.typ, effort.hours.typ
    out = [f"Needs {TOOLS[t]}." for t in effort.tools if t not in wish.tools]
    if settled and not found.holds:
        out.append(f"Not sure to hold: {phrasing.inline(found.short)}.")
    if wish.hours is not None and part.count * hours > wish.hours:
        out.append(f"Takes about {part.count * hours:.1f} h hands-on, more than your {wish.hours:g} h.")
    if part.count * grams > 0.6 * wish.all_up_mass_g:
        out.append(
            f"Weighs {in_g(part.count * grams, F0)}, most of the {in_g(wish.all_up_mass_g, F0)} of the airframe."
        )
    return out
