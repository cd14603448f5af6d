"""The mass ledger: every line of an airframe with its grams, place, group and what it has in common with others.

The structure is weighed by the estimate of each part; equipment by its own mass or the table's. Shares of the variance
that lines have in common are judgement [J], each ±0.2.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Literal

import numpy as np

from fletcher.core.balance.forecast import Z95, Line
from fletcher.core.balance.wiring import lead_g
from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import (
    Airframe,
    BarLayer,
    CordLayer,
    FilmLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Layer,
    Part,
    Setting,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.equipment import Equipment, Lead, What
from fletcher.core.document.weighings import Stage
from fletcher.core.estimate.balance import places_aft
from fletcher.core.estimate.phrasing import line_label
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.layup.weighing import WOODS
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import drawn

Group = Literal["foam", "spars", "skins", "glue", "paint", "hardware", "equipment", "not listed"]

TYPED_SD = 0.03
"""[J] 0.01–0.06: standard deviation of the logarithm of a mass that is typed."""
SLOT_GLUE = (1.0, 2.5, 6.0)
"""[J] Glue that stays along a bar in its slot where no glue is entered for it, g/m."""
_GLUE = {"your use of glue": 0.70}
NOT_LISTED = (0.005, 0.02, 0.05)
"""[J] Share of the structure that no line tells: tape ends, screws, labels."""
NOT_LISTED_KEY = "not-listed"
CARRIED: dict[str, What] = {
    "servo": "servo", "battery": "battery", "receiver": "receiver", "controller": "controller", "motor": "motor",
    "payload": "camera", "propeller": "propeller", "wheel": "wheel", "lead": "lead",
}  # fmt: skip
"""Families of stock that are equipment wherever they lie; brackets and horns are hardware."""


@dataclass(frozen=True)
class Entry:
    """A line of the ledger, on one side of the airframe: `line` with grams and place along it; out and up, and what it
    belongs to."""

    line: Line
    group: Group
    y_mm: float
    z_mm: float
    part_id: str | None
    layer_id: str | None
    item: Equipment | None
    what: What | None
    stock: str | None = None
    """Key of the stock that an item is."""
    key: str = ""
    """Names the line, for weighings: part, side and layer, or item and side."""
    piece: str = ""
    """What it is a line of: a part on one side, or an item."""
    stage: Stage = "finished"
    """From which on it is there."""
    plies: int = 1
    wet: bool = False
    """Whether it was wet when it was put on."""
    spread: Array = field(default_factory=lambda: np.zeros((3, 3)), compare=False)
    """How it is spread about its own centre, in the airframe's axes: mean of dᵢdⱼ over its mass, (3, 3), mm²."""


def ledger(airframe: Airframe) -> list[Entry]:
    """All that weighs in a checked airframe: the lines of its parts on each side, what it carries, and what no line
    tells. A test piece does not fly."""
    found = [e for part in airframe.parts if part.kind != "plank" for e in _of_part(part, airframe.setting, drawn())]
    if found:
        typ = sum(e.line.typ for e in found if e.group != "equipment")
        whole = sum(e.line.typ for e in found)
        x, z = (sum(e.line.typ * v for e, v in zip(found, at, strict=True)) / whole for at in (
            [e.line.x_mm for e in found], [e.z_mm for e in found]
        ))  # fmt: skip
        low, mid, high = (share * typ for share in NOT_LISTED)
        rest = Line("not listed: tape ends, screws, labels", mid, low, high, x)
        found.append(Entry(rest, "not listed", 0.0, z, None, None, None, None, key=NOT_LISTED_KEY))
    return found + carried(airframe)


def carried(airframe: Airframe) -> list[Entry]:
    """The equipment of an airframe that is not part of a part."""
    return [e for item in airframe.equipment for e in _of_item(item, airframe)]


@lru_cache(maxsize=64)
def _of_part(part: Part, setting: Setting, _: int) -> tuple[Entry, ...]:
    """Lines of a part, kept while equipment is moved about it; by the number of samples behind them."""
    return tuple(_lines_of(part, setting))


def _lines_of(part: Part, setting: Setting) -> Iterator[Entry]:
    p = prepared_for(part, setting)
    grams = p.grams
    at_aft, at_out = places_aft(p, part), p.geometry.y
    aft = p.mesh.integral((p.line_mass * at_aft[:, None, :])[:, 0, :])
    out = p.mesh.integral((p.line_mass * at_out)[:, 0, :])
    second = [
        p.mesh.integral((p.line_mass * one)[:, 0, :])
        for one in ((at_aft**2)[:, None, :], at_aft[:, None, :] * at_out, at_out**2, p.geometry.chord**2 / 12)
    ]
    rise = math.radians(part.place.dihedral_deg)
    bonds = {j.joint.of for j in part.layers if isinstance(j, JointLayer) and j.joint.kind == "bond"}
    for n in range(len(grams)):
        typ = float(grams[n, 0])
        if typ <= 1e-6:
            continue
        layer = part.layers[n] if n < len(part.layers) else None
        low, high = (float(v) for v in np.percentile(grams[n, 1:], [5, 95]))
        x, s = part.place.x_mm + float(aft[n]) / typ, float(out[n]) / typ
        if part.kind == "fuselage":
            y, z = part.place.y_mm, part.place.z_mm
        else:
            y, z = part.place.y_mm + s * math.cos(rise), part.place.z_mm + s * math.sin(rise)
        name = "foam" if layer is None and part.foam else "ribs" if layer is None else line_label(p.elements, n)
        spread = _spread(part, layer, [float(m[n]) / typ for m in second], float(aft[n]) / typ, s)
        what = _carried(layer)
        group = "equipment" if what else _group(layer)
        for side, word in _sides(part):
            line = Line(f"{part.name}{word}: {name}", typ, min(low, typ), max(high, typ), x, _causes(part, layer))
            piece = f"{part.id}/{_SIDE[word]}"
            yield Entry(
                line, group, side * y, z, part.id, layer.id if layer else None, None, what,
                layer.stock if isinstance(layer, FittingLayer) else None, f"{piece}/{layer.id if layer else 'core'}",
                piece, _stage(group, layer), _plies(layer), _wet(group, layer), side_of(spread, side),
            )  # fmt: skip
            if isinstance(layer, BarLayer) and part.foam and layer.id not in bonds and not layer.joiner:
                low_g, typ_g, high_g = (g * _slots_m(part, layer) for g in SLOT_GLUE)
                glue = Line(f"{part.name}{word}: glue along {name}", typ_g, low_g, high_g, x, _GLUE)
                yield Entry(
                    glue, "glue", side * y, z, part.id, layer.id, None, None,
                    key=f"{piece}/{layer.id}/glue", piece=piece, stage="glued", wet=True, spread=side_of(spread, side),
                )  # fmt: skip


def _spread(part: Part, layer: Layer | None, means: list[float], aft: float, out: float) -> Array:
    """Spread of a line about its centre on the right side, mm². What covers the chord is spread evenly over it."""
    xx, xy, yy, chord = means
    broad = chord if layer is None or isinstance(layer, FilmLayer | WallLayer) else 0.0
    if part.kind == "fuselage":  # runs along x
        return np.diag([xx - aft**2, broad, broad])
    own = np.array([[xx - aft**2 + broad, xy - aft * out, 0.0], [xy - aft * out, yy - out**2, 0.0], [0.0, 0.0, 0.0]])
    rise = math.radians(part.place.dihedral_deg)
    turn = np.array([[1, 0, 0], [0, math.cos(rise), -math.sin(rise)], [0, math.sin(rise), math.cos(rise)]])
    return np.asarray(turn @ own @ turn.T)


def side_of(spread: Array, side: int) -> Array:
    """A spread on the right (1) or mirrored to the left (-1)."""
    mirror = np.array([1.0, side, 1.0])
    return np.asarray(spread * mirror[:, None] * mirror)


_SIDE = {", right": "right", ", left": "left", "": "one"}


def _sides(part: Part) -> list[tuple[int, str]]:
    if part.hand == "both":
        return [(1, ", right"), (-1, ", left")]
    return [(-1, "")] if part.hand == "left" else [(1, "")]


def _group(layer: Layer | None) -> Group:
    """Where a line of the lay-up is counted."""
    if isinstance(layer, BarLayer | CordLayer) or (isinstance(layer, WallLayer) and layer.face in ("web", "level")):
        return "spars"
    if isinstance(layer, StripLayer | FilmLayer | WallLayer):
        return "paint" if _coat(layer) else "skins"
    if isinstance(layer, JointLayer):
        return "glue"
    return "hardware" if isinstance(layer, HingeLayer | FittingLayer) else "foam"


def _coat(layer: Layer | None) -> bool:
    """Whether it is paint, primer, varnish or filler."""
    skins = reference().skins
    key = layer.skin if isinstance(layer, StripLayer | FilmLayer) else None
    return isinstance(key, str) and key in skins and skins[key].family == "coat"


def _stage(group: Group, layer: Layer | None) -> Stage:
    """The stage of the work at which a line is there for the first time."""
    if layer is None or isinstance(layer, WallLayer):
        return "bare"
    stages: dict[Group, Stage] = {"spars": "glued", "glue": "glued", "skins": "skinned", "paint": "painted"}
    return stages.get(group, "finished")


def _plies(layer: Layer | None) -> int:
    return layer.plies if isinstance(layer, StripLayer | FilmLayer) else 1


def _wet(group: Group, layer: Layer | None) -> bool:
    laminate = isinstance(layer, StripLayer | FilmLayer) and not isinstance(layer.skin, str)
    return laminate or group in ("glue", "paint")


def _slots_m(part: Part, layer: BarLayer) -> float:
    """Length of glue along a bar, or along both of a pair."""
    end = part.span_mm if layer.end_mm is None else layer.end_mm
    return (end - layer.start_mm) / 1000 * (2 if layer.place == "pair" else 1)


def _carried(layer: Layer | None) -> What | None:
    return CARRIED.get(reference().fittings[layer.stock].family) if isinstance(layer, FittingLayer) else None


def _causes(part: Part, layer: Layer | None) -> dict[str, float]:
    """Shares of a line's variance by cause: all of its stock, this block, roll or hand."""
    if layer is None:
        stock = reference().foams[part.foam] if part.foam else reference().sheets[part.rib_sheet or ""]
        return {f"density of {stock.name}": 0.50, f"this block of {stock.name}, {part.name}": 0.35}
    if isinstance(layer, WallLayer):
        sheet = reference().sheets[layer.sheet].name
        return {f"mass of {sheet}": 0.50, f"these pieces of {sheet}, {part.name}": 0.35}
    if _coat(layer):
        return {"your use of paint": 0.60}
    if isinstance(layer, StripLayer | FilmLayer):
        if not isinstance(layer.skin, str):
            return {"your use of resin": 0.70}
        skins = {**reference().skins, **reference().sheets}
        return {f"this roll of {skins[layer.skin].name}": 0.50, "your overlaps of skins": 0.30}
    if isinstance(layer, BarLayer):
        bar = reference().bars[layer.stock]
        if bar.family in WOODS:
            return {f"density of {bar.family}": 0.20, f"this batch of {bar.name}": 0.10}
        return {f"mass of {bar.name}": 0.70}
    if isinstance(layer, JointLayer):
        return {"your use of glue": 0.40, f"your use of {layer.glue.adhesive if layer.glue else 'no glue'}": 0.30}
    if isinstance(layer, FittingLayer):
        return {f"mass of {reference().fittings[layer.stock].name}": 0.80}
    return {}


def _of_item(item: Equipment, airframe: Airframe) -> Iterator[Entry]:
    stock = reference().fittings.get(item.stock or "")
    name = item.name or (stock.name if stock else item.what)
    x, y, z = item.x_mm, item.y_mm, item.z_mm
    if item.lead is not None:
        x, y, z = _half_way(item.lead, airframe) or (x, y, z)
    if item.mass_g is not None:
        spread = math.exp(Z95 * TYPED_SD)
        low, typ, high = item.mass_g / spread, item.mass_g, item.mass_g * spread
    elif item.lead is not None and stock is not None:
        metres = item.lead.length_mm / 1000
        low, typ, high = (g * metres for g in (stock.mass_g.low, stock.mass_g.typ, stock.mass_g.high))
    elif item.lead is not None:
        low, typ, high = lead_g(item.lead)
    else:
        assert stock is not None
        low, typ, high = stock.mass_g.low, stock.mass_g.typ, stock.mass_g.high
    equal = item.pair or sum(e.stock == item.stock and e.mass_g is None for e in airframe.equipment) > 1
    causes = {f"mass of {name}": 0.80} if equal else {}
    what = CARRIED.get(stock.family, item.what) if stock and item.what == "other" else item.what
    size = np.array([stock.long_mm, stock.wide_mm, stock.high_mm]) if stock else np.zeros(3)
    for side in (1, -1) if item.pair else (1,):
        word = "" if not item.pair else ", right" if side > 0 else ", left"
        key = f"item/{item.id}/{_SIDE[word]}"
        yield Entry(
            Line(name + word, typ, low, high, x, causes), "equipment", side * y, z, None, None,
            item, what, item.stock, key, key, spread=np.diag(size**2) / 12,
        )  # fmt: skip


def _half_way(lead: Lead, airframe: Airframe) -> tuple[float, float, float] | None:
    """The middle between the items that a lead joins; None where it has not both ends."""
    ends = [e for e in airframe.equipment if e.id in (lead.from_id, lead.to_id)]
    if len(ends) != 2:
        return None
    a, b = ends
    return (a.x_mm + b.x_mm) / 2, (a.y_mm + b.y_mm) / 2, (a.z_mm + b.z_mm) / 2


def lacking(airframe: Airframe, entries: list[Entry]) -> list[str]:
    """What an airframe that flies has and the list has not, in words."""
    there = {e.what for e in entries}
    hinged = any(p.kind == "surface" or p.controls for p in airframe.parts)
    wanted: list[tuple[What, str]] = [("battery", "battery"), ("receiver", "receiver"), ("motor", "motor")]
    if hinged:
        wanted.append(("servo", "servo"))
    return [word for what, word in wanted if what not in there]
