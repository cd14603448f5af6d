"""Whether equipment can lie where it is said to: near the airframe, within its room, with a mass."""

from __future__ import annotations

import math
from collections.abc import Iterator

from fletcher.core.common.quantities import G, in_mm
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.equipment import Equipment
from fletcher.core.document.problems import Problem
from fletcher.core.materials.tables import reference

BEYOND_MM = 300.0
"""So far beyond the airframe something may still lie: a nose lengthened later, a wheel below it."""
_AXES = (("x_mm", "ahead of", "behind"), ("y_mm", "left of", "right of"), ("z_mm", "below", "above"))


def box_of(part: Part) -> tuple[tuple[float, float], tuple[float, float], tuple[float, float]]:
    """Foremost and rearmost, leftmost and rightmost, lowest and highest place of a part on all its sides, mm."""
    p, rise = part.place, math.radians(part.place.dihedral_deg)
    thick = 0.5 * max(part.root_thickness_mm, part.tip_thickness_mm)
    if part.kind == "fuselage":
        wide = 0.5 * max(part.root_chord_mm, part.tip_chord_mm)
        x, y, z = (p.x_mm, p.x_mm + part.span_mm), (p.y_mm - wide, p.y_mm + wide), (p.z_mm - thick, p.z_mm + thick)
    else:
        tip = p.x_mm + part.tip_setback_mm
        x = (min(p.x_mm, tip), max(p.x_mm + part.root_chord_mm, tip + part.tip_chord_mm))
        out, up = part.span_mm * math.cos(rise), part.span_mm * math.sin(rise)
        y = (min(p.y_mm, p.y_mm + out), max(p.y_mm, p.y_mm + out))
        z = (min(p.z_mm, p.z_mm + up) - thick, max(p.z_mm, p.z_mm + up) + thick)
    if part.hand in ("both", "left"):
        far = max(abs(y[0]), abs(y[1]))
        y = (-far, far if part.hand == "both" else -min(abs(y[0]), abs(y[1])))
    return x, y, z


def _lead_ends(airframe: Airframe, item: Equipment, path: str) -> Iterator[Problem]:
    """A lead begins and ends at other items."""
    for end in ("from_id", "to_id") if item.lead else ():
        other = getattr(item.lead, end)
        if other is not None and (other == item.id or other not in {e.id for e in airframe.equipment}):
            yield Problem(path=f"{path}.{end}", message="must be another item that it carries", value=repr(other))


def equipment_fits(airframe: Airframe) -> Iterator[Problem]:
    """Problems of the equipment and of where the airframe shall balance."""
    boxes = [box_of(p) for p in airframe.parts if p.kind != "plank"]
    for i, item in enumerate(airframe.equipment):
        path = f"equipment[{i}]"
        yield from _lead_ends(airframe, item, f"{path}.lead")
        if item.lead is not None and item.what != "lead":
            yield Problem(path=f"{path}.lead", message="belongs to a lead only", value=item.what)
        by_metre = item.stock in reference().fittings and reference().fittings[item.stock].running
        if by_metre and item.mass_g is None and item.lead is None:
            message = "is sold by the metre: enter the length of the lead"
            yield Problem(path=f"{path}.lead", message=message, value=repr(item.stock))
        if item.stock is None and item.mass_g is None and item.lead is None:
            yield Problem(path=f"{path}.mass_g", message="is missing: enter a mass, or choose a stock item")
        low, high = item.from_mm, item.to_mm
        if low is not None and high is not None and low > high:
            yield Problem(path=f"{path}.to_mm", message=f"must be at least {in_mm(low, G)}", value=f"{high:g}")
        elif (low is not None and item.x_mm < low) or (high is not None and item.x_mm > high):
            ends = " to ".join(in_mm(v, G) for v in (low, high) if v is not None)
            yield Problem(path=f"{path}.x_mm", message=f"lies outside its room, {ends}", value=f"{item.x_mm:g}")
        for axis, (name, less, more) in enumerate(_AXES if boxes else ()):
            at = getattr(item, name)
            first, last = min(b[axis][0] for b in boxes), max(b[axis][1] for b in boxes)
            off = first - at if at < first else at - last
            if off > BEYOND_MM:
                side = less if at < first else more
                message = f"lies {in_mm(off, G)} {side} the airframe: at most {in_mm(BEYOND_MM, G)}"
                yield Problem(path=f"{path}.{name}", message=message, value=f"{at:g}")
    aim = airframe.aim
    if aim.least_percent is not None and aim.most_percent is not None and aim.least_percent >= aim.most_percent:
        message = f"must be more than the least, {aim.least_percent:g} %"
        yield Problem(path="aim.most_percent", message=message, value=f"{aim.most_percent:g}")
