"""Where the mass lies: of one part, and of the airframe that its parts make at their places."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.estimate.effort import effort_of
from fletcher.core.estimate.prepare import Prepared, prepared_for
from fletcher.core.materials.materials import Range
from fletcher.core.materials.uncertainty import Band, band
from fletcher.core.section.setting import effects, setting_warnings


class PartMass(Result):
    """One part in the airframe: grams of one piece, how many there are, and where the mass of the one at its place
    lies, behind the datum, out from the middle, above the datum line."""

    part_id: str
    name: str
    count: int
    grams: Band
    x_mm: float
    y_mm: float
    z_mm: float


class Weathered(Result):
    """What the setting leaves of a material's stiffness and strength, shares of the reference values."""

    material: str
    stiffness: Band
    strength: Band


class Whole(Result):
    """The bare structure of an airframe: its parts, their mass together, where they balance behind the datum, what is
    left to the all-up mass for equipment, glue and paint; cost in credits and hours of hands."""

    parts: list[PartMass]
    structure_g: Band | None
    balance_mm: Band | None
    left_g: float | None
    cost: float
    hours: float
    weathered: list[Weathered]
    """Of every material in the airframe on which the setting bears."""
    warnings: list[str]
    """What heat where it lies, or the cold, does besides."""


def _line_places(p: Prepared) -> Array:
    """Place of the mass of every line and, last, of the foam, aft of the local leading edge, (lines + 1, n)."""
    g, elements = p.geometry, p.elements
    places = np.tile(0.5 * g.chord, (len(elements.part.layers) + 1, 1))
    weight = np.full_like(places, 1e-12)
    places *= weight

    def put(line: int, x: Array, grams: Array) -> None:
        places[line] += x * grams
        weight[line] += grams

    for i, bar in enumerate(elements.bars):
        put(bar.line, g.bar_x[i], g.bar_on[i] * bar.stock.area_mm2)
    for i, m in enumerate(elements.membranes):
        put(m.line, 0.5 * (g.skin_front[i] + g.skin_rear[i]), g.skin_on[i] * g.skin[i, 0])
    for cord in elements.cords:
        put(cord.line, g.chord if cord.face == "rear" else np.zeros_like(g.chord), np.ones_like(g.chord))
    places /= weight
    places[-1] = p.centroid
    return places


def places_aft(p: Prepared, part: Part) -> Array:
    """Place of the mass of every line and, last, of the foam, behind the part's root leading edge, (lines + 1, n); of a
    fuselage, whose length runs aft, behind its front end."""
    y = p.geometry.y
    if part.kind == "fuselage":
        return np.tile(y, (len(p.elements.part.layers) + 1, 1))
    return _line_places(p) + part.tip_setback_mm * y / part.span_mm


def centre_of_mass(p: Prepared, part: Part) -> tuple[Array, Array]:
    """The part's centre of mass behind its root's leading edge (a fuselage's front end) and out from its root, mm, (S,)
    each; a fuselage lies in the middle."""
    total = p.grams.sum(0)
    aft = p.mesh.integral(p.line_mass * places_aft(p, part)[:, None, :]).sum(0) / total
    if part.kind == "fuselage":
        return np.asarray(aft), np.zeros_like(aft)
    return np.asarray(aft), np.asarray(p.mesh.integral(p.line_mass * p.geometry.y).sum(0) / total)


_SIDES = {"both": {"left", "right"}, "left": {"left"}, "right": {"right"}, "single": {"middle"}}
_APART_MM = 1.0
"""Parts whose roots lie closer than this are in one place."""


def _in_one_place(airframe: Airframe) -> Iterator[str]:
    """Wings, tails and fuselages that lie in one another."""
    solid = [p for p in airframe.parts if p.kind in ("wing", "tail", "fuselage")]
    for one, other in itertools.combinations(solid, 2):
        sides = _SIDES[one.hand] & _SIDES[other.hand]
        far = max(abs(getattr(one.place, n) - getattr(other.place, n)) for n in ("x_mm", "y_mm", "z_mm"))
        if one.kind == other.kind and sides and far < _APART_MM:
            where = "on both sides" if len(sides) == 2 else f"on the {next(iter(sides))} side"
            where = "at mid-depth" if sides == {"middle"} else where
            yield (
                f"“{one.name}” and “{other.name}” lie in the same place {where}: make one of them the other half, or "
                "move it."
            )


def whole(airframe: Airframe) -> Whole:
    """The masses of all parts of a checked airframe at their places, and where they balance: the bare structure. What
    is left to the all-up mass is equipment, glue and paint."""
    parts, grams, moment = [], None, None
    cost = hours = 0.0
    inputs = []
    weathered: dict[str, Weathered] = {}
    warnings: dict[str, None] = {}
    for part in airframe.parts:
        p = prepared_for(part, airframe.setting)
        inputs.append(p.inputs)
        x, y = centre_of_mass(p, part)
        mass = p.grams.sum(0)
        rise = np.radians(part.place.dihedral_deg)
        effort = effort_of(part)
        for name, left in effects(p.elements, airframe.setting):
            weathered[name] = Weathered(material=name, stiffness=_shown(left.stiffness), strength=_shown(left.strength))
        warnings |= dict.fromkeys(setting_warnings(p.elements, airframe.setting))
        parts.append(
            PartMass(
                part_id=part.id,
                name=part.name,
                count=part.count,
                grams=band(mass, p.inputs),
                x_mm=part.place.x_mm + float(x[0]),
                y_mm=part.place.y_mm + float(y[0] * np.cos(rise)),
                z_mm=part.place.z_mm + float(y[0] * np.sin(rise)),
            )
        )
        cost += part.count * effort.cost.typ
        hours += part.count * effort.hours.typ
        if part.kind == "plank":  # a test piece does not fly
            continue
        grams = part.count * mass + (0.0 if grams is None else grams)
        moment = part.count * mass * (part.place.x_mm + x) + (0.0 if moment is None else moment)
    warnings |= dict.fromkeys(_in_one_place(airframe))
    return Whole(
        parts=parts,
        structure_g=band(grams, inputs[0]).model_copy(update={"causes": ()}) if grams is not None else None,
        balance_mm=band(moment / grams, inputs[0]).model_copy(update={"causes": ()})
        if grams is not None and moment is not None
        else None,
        left_g=airframe.all_up_mass_g - float(grams[0]) if grams is not None else None,
        cost=cost,
        hours=hours,
        weathered=list(weathered.values()),
        warnings=list(warnings),
    )


def _shown(left: Range) -> Band:
    return Band(typ=left.typ, low=left.low, high=left.high)
