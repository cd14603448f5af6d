"""Which construction? Every way to build a part of a kind, made to the wanted size and estimated, with what rules it
out: tools, hours, strength, weight."""

from __future__ import annotations

import logging
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.quantities import F0, in_g, in_mm
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.effort import effort_of, prices
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.studies.constructions import CONSTRUCTIONS, Construction, Kind, Size
from fletcher.core.studies.schema import Choice
from fletcher.core.validation.airframe import check_part

log = logging.getLogger(__name__)

TOOLS = {
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


def choose(wish: Wish) -> list[Choice]:
    """All constructions of the wanted kind that can be built at this size, those that nothing rules out first, each
    group the lightest first. One that fails to compute is left out and logged: it must not take the others along."""
    found = []
    for way in CONSTRUCTIONS.values():
        if way.kind != wish.kind:
            continue
        try:
            found.append(_choice(way, wish))
        except (IndexError, KeyError, ValueError, np.linalg.LinAlgError):
            log.exception("construction %s cannot be computed for %s", way.key, wish)
    return sorted((c for c in found if c is not None), key=lambda c: (len(c.ruled_out) > 0, c.mass_g.typ))


def _choice(way: Construction, wish: Wish) -> Choice | None:
    size = size_for(way, wish)
    if size is None:
        return None
    part = way.part(size, wish.all_up_mass_g, wish.top_speed_m_s)
    if check_part(part, reference()):
        return None
    airframe = Airframe(name="x", all_up_mass_g=wish.all_up_mass_g, top_speed_m_s=wish.top_speed_m_s, parts=(part,))
    told = estimate(airframe, part.id)
    effort = effort_of(part)
    names = {key: m.name for t in vars(reference()).values() for key, m in t.items()}
    missing = [key for key in effort.buys if wish.at_hand and key not in wish.at_hand and _is_sheet(key)]
    return Choice(
        key=way.key,
        title=way.title,
        why=way.why,
        part=part,
        mass_g=told.mass_g,
        bend_mm=told.deflection_mm,
        margin=told.margin,
        first=phrasing.out_at(told.first.sentence, told.first.at_mm),
        behaviour=told.snaps[0].sentence if told.snaps else "buckles or creases, then hangs by its skin",
        cost=effort.cost,
        hours=effort.hours,
        ready_h=effort.ready_h,
        tools=list(effort.tools),
        ruled_out=_against(part, wish, told.margin.typ, told.mass_g.typ, effort.hours.typ, effort.tools),
        to_get=[names[key] for key in missing] + _joints(part, effort.buys, names),
    )


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


def _against(part: Part, wish: Wish, margin: float, grams: float, hours: float, tools: tuple[str, ...]) -> list[str]:
    """What rules a construction out."""
    out = [f"Needs {TOOLS[t]}." for t in tools if t not in wish.tools]
    if margin < 1:
        out.append(f"Not strong enough as supplied (margin {margin:.2g}): add to its lay-up.")
    if wish.hours is not None and part.count * hours > wish.hours:
        out.append(f"Takes about {part.count * hours:.1f} h hands-on, more than your {wish.hours:g} h.")
    if part.count * grams > 0.6 * wish.all_up_mass_g:
        out.append(
            f"Weighs {in_g(part.count * grams, F0)}, most of the {in_g(wish.all_up_mass_g, F0)} of the airframe."
        )
    return out
