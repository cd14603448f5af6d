"""What a part costs and how long it takes: prices and minutes per line of its lay-up, from the tables of estimates.

Prices are of the share of a stock unit that is used; minutes are hands on the work; waits are for glue or resin:
those of one kind run side by side and count once, those of two kinds follow one another.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cache, partial

from fletcher.core.document.airframe import (
    BarLayer,
    CordLayer,
    CutLayer,
    FilmLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Laminate,
    Layer,
    Part,
    StripLayer,
)
from fletcher.core.document.airframe import WallLayer as Wall
from fletcher.core.document.joint import AcrossJoint, BandedJoint, BoltedJoint, PlateJoint, WallJoint
from fletcher.core.document.shapes import RectangleSection
from fletcher.core.materials.materials import Catalogue, Range
from fletcher.core.materials.own_rows import ByLike
from fletcher.core.materials.plates import lying
from fletcher.core.materials.reader import Listed, record, records
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.section.assembly import line_span


@dataclass(frozen=True)
class Price:
    """What a stock unit holds, in mm, mm², mm³ or g, and what it costs, credits; its largest piece."""

    unit: str
    per: str
    amount: float
    credits: Range
    length_mm: float | None
    width_mm: float | None


@dataclass(frozen=True)
class Task:
    """Work on one line: minutes to begin with and per metre, dm² or piece; hours to wait; tools."""

    title: str
    minutes: Range
    per: str
    per_minutes: Range
    wait_h: Range
    tools: Listed


@cache
def prices() -> dict[str, Price]:
    """The table of prices by material."""
    return ByLike(records("prices.csv", partial(record, Price, names={"credits": "price"})))


@cache
def tasks() -> dict[str, Task]:
    """The table of work by task."""
    return records("work.csv", partial(record, Task))


@dataclass(frozen=True)
class Use:
    """Stock that a line takes: material and amount in the unit of its price."""

    key: str
    amount: float


@dataclass(frozen=True)
class Step:
    """Work that a line takes: the task and its size in metres, dm² or pieces."""

    task: str
    size: float

    @property
    def minutes(self) -> float:
        """Typical minutes of hands."""
        t = tasks()[self.task]
        return t.minutes.typ * self.size if t.per == "each" else t.minutes.typ + t.per_minutes.typ * self.size


@dataclass(frozen=True)
class Effort:
    """What a part asks of purse and bench. Hours are of hands; waits are added where work must stop for them."""

    cost: Band
    hours: Band
    ready_h: Band
    """Hands and waits together: until it can be handled."""
    tools: tuple[str, ...]
    buys: tuple[str, ...]
    """Materials by key, each once."""
    uses: tuple[Use, ...]
    steps: tuple[Step, ...]


_SHELLS = frozenset({"both", "wrapped", "upper", "lower"})
"""Faces of what is laid over ribs or formers."""


def _stretch(part: Part, start: float, end: float) -> float:
    """Planform between two stations, mm²."""
    chord = [part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * y / part.span_mm for y in (start, end)]
    return 0.5 * sum(chord) * (end - start)


def _core(part: Part) -> Iterator[Use | Step]:
    if part.foam is None:
        if part.rib_sheet is not None:
            deep = 0.5 * (part.root_thickness_mm + part.tip_thickness_mm)
            yield Use(part.rib_sheet, (part.bays + 1) * part.area_mm2 / part.span_mm * deep)
        if part.rib_sheet is not None or any(
            isinstance(layer, Wall | FilmLayer) and layer.face in _SHELLS for layer in part.layers
        ):
            yield Step("rib", part.bays + 1)
        return
    thick = max(part.root_thickness_mm, part.tip_thickness_mm)
    yield Use(part.foam, part.area_mm2 * thick)
    boxy = isinstance(part.section, RectangleSection)
    narrow = max(part.root_chord_mm, part.tip_chord_mm) < 60
    whole = "core_wire" if reference().foams[part.foam].hot_wire else "core_saw"
    yield Step("core_plate" if boxy else "core_strip" if narrow else whole, part.area_mm2 / 1e4)


def _skin(skin: str | Laminate, area: float, catalogue: Catalogue) -> Iterator[Use]:
    """The stock in an area of one ply of a skin, mm²: film, tape or cloth, and resin where it is a laminate."""
    if isinstance(skin, str):
        yield Use(skin, area)
        return
    for ply in skin.plies:
        yield Use(ply.cloth, area)
        # as much resin as cloth by weight, and as much again stays in cup and brush
        yield Use(skin.resin, 2 * area * catalogue.cloths[ply.cloth].areal_mass_g_m2.typ * 1e-6)


def _skin_task(skin: str | Laminate, catalogue: Catalogue, strip: bool) -> str:
    if not isinstance(skin, str):
        return "laminate_vacuum" if skin.method == "vacuum" else "laminate"
    family = lying(skin, catalogue).family
    if family in ("glass_cloth", "carbon_cloth", "carbon_ud", "aramid_cloth"):
        return "laminate"
    if strip:
        return "strip"
    return {"tape": "tape", "paper_skin": "paper", "mesh_skin": "paper"}.get(family, "film")


def _lines(part: Part, catalogue: Catalogue) -> Iterator[Use | Step]:
    for layer in part.layers:
        if layer.enabled:
            yield from _line(layer, part, catalogue)


def _line(layer: Layer, part: Part, catalogue: Catalogue) -> Iterator[Use | Step]:
    start, end = line_span(layer, part)
    length = end - start
    if isinstance(layer, BarLayer):
        count = 2 if layer.place == "pair" else 1
        laps = sum(s.overlap_mm for s in layer.splices if s.how in ("side_by_side", "scarf"))
        yield Use(layer.stock, count * (length + laps))
        if layer.faced_with is not None:
            yield Use(layer.faced_with, 2 * count * length)
        if layer.sleeve is not None:
            yield Use(layer.sleeve.stock, count * (layer.sleeve.end_mm - layer.sleeve.start_mm))
        yield Step("bar", count * length / 1e3)
    elif isinstance(layer, StripLayer):
        faces = 2 if layer.face == "both" else 1
        area = skin_area(layer, part)
        yield from _skin(layer.skin, area, catalogue)
        task = _skin_task(layer.skin, catalogue, strip=True)
        full = sum(max(length - n * layer.drop_mm, 0.0) for n in range(layer.plies))
        yield Step(task, faces * full / 1e3 if task == "strip" else area / 1e4)
    elif isinstance(layer, FilmLayer):
        area = 1.05 * skin_area(layer, part)
        yield from _skin(layer.skin, area, catalogue)
        yield Step(_skin_task(layer.skin, catalogue, strip=False), area / 1e4)
    elif isinstance(layer, Wall):
        yield from _wall(layer, part, start, end)
    elif isinstance(layer, CordLayer):
        count = 2 if layer.face == "both" else 1
        yield Use(layer.cord, count * length)
        yield Step("cord", count * length / 1e3)
    elif isinstance(layer, FittingLayer):
        running = catalogue.fittings[layer.stock].running
        yield Use(layer.stock, length if running else 1)
        yield Step("fitting", 1)
        if layer.pocket:
            yield Step("cut", 1)
    elif isinstance(layer, CutLayer):
        if not layer.shapes:  # the core is cut to its outline anyway
            yield Step("cut", 1)
    elif isinstance(layer, JointLayer | HingeLayer):
        yield from _joints(layer, part, catalogue)


def skin_area(layer: StripLayer | FilmLayer, part: Part) -> float:
    """All plies of a skin on one piece, with the laps of its strips and without waste, mm²."""
    start, end = line_span(layer, part)
    if isinstance(layer, StripLayer):
        wide = 0.5 * (layer.width_mm + (layer.end_width_mm or layer.width_mm))
        full = sum(max(end - start - n * layer.drop_mm, 0.0) for n in range(layer.plies))
        return (2 if layer.face == "both" else 1) * wide * full
    faces = 1 if layer.face in ("upper", "lower") else 2
    lap = layer.tape_width_mm / (layer.tape_width_mm - layer.overlap_mm) if layer.tape_width_mm else 1.0
    return faces * layer.plies * lap * _stretch(part, start, end)


def _joints(layer: JointLayer | HingeLayer, part: Part, catalogue: Catalogue) -> Iterator[Use | Step]:
    """Stock and work of a joint or hinge; its few grams of glue have no price."""
    start, end = line_span(layer, part)
    if isinstance(layer, HingeLayer):
        yield Step("hinge", (end - start) / 100)
        return
    j = layer.joint
    yield Step("joint", 1)
    if isinstance(j, AcrossJoint):
        for brace in j.braces:
            long = brace.count * brace.each_side_mm * (1 if start < 1e-6 else 2)
            yield Use(brace.stock, long if brace.stock in catalogue.bars else long * (brace.deep_mm or 10.0))
            yield Step("brace", brace.count)
    elif isinstance(j, WallJoint):
        for strap in j.straps:
            long = 2 * strap.each_side_mm * strap.count * (2 if j.face == "all" else 1)
            long *= 2 if strap.lies == "both" else 1
            yield Use(strap.stock, long if strap.stock in catalogue.bars else long * (strap.wide_mm or 60.0))
            yield Step("brace", strap.count)
    elif isinstance(j, PlateJoint):
        yield Use(j.sheet, j.long_mm * j.wide_mm)
    elif isinstance(j, BoltedJoint):
        yield Use(j.bolt, j.bolts)
    elif isinstance(j, BandedJoint):
        yield Use(j.band, j.bands)
        yield Use(j.peg, 4 * j.peg_in_mm)


def _wall(layer: Wall, part: Part, start: float, end: float) -> Iterator[Use | Step]:
    area = wall_area(layer, part)
    yield Use(layer.sheet, area)
    yield Step("web", (end - start) / 1e3) if layer.face in ("web", "level") else Step("wall", area / 1e4)


def wall_area(layer: Wall, part: Part) -> float:
    """All plies of a wall on one piece, mm²."""
    start, end = line_span(layer, part)
    high = 0.5 * (part.root_thickness_mm + part.tip_thickness_mm)
    faces = {"both": 2, "wrapped": 2, "upper": 1, "lower": 1, "level": 1}.get(layer.face, 0)
    sides = {"front": 1, "rear": 1, "sides": 2, "wrapped": 2, "web": 1}.get(layer.face, 0)
    return layer.plies * (faces * _stretch(part, start, end) + sides * high * (end - start))


def sum_of(ranges: list[Range]) -> Band:
    """The band of a sum of independent estimates: typical values add, spreads as squares."""
    typ = sum(r.typ for r in ranges)
    low, high = (math.hypot(*(r.typ - getattr(r, e) for r in ranges)) if ranges else 0.0 for e in ("low", "high"))
    return Band(typ=typ, low=max(0.0, typ - low), high=typ + high)


def _times(value: Range, by: float) -> Range:
    return Range(value.low * by, value.typ * by, value.high * by)


def minutes_of(steps: Iterable[Step]) -> Band:
    """Minutes of hands of so much work."""
    return sum_of([m for step in steps for m in _minutes(step)])


def _minutes(step: Step) -> Iterator[Range]:
    task = tasks()[step.task]
    yield _times(task.minutes, step.size if task.per == "each" else 1.0)
    if task.per != "each":
        yield _times(task.per_minutes, step.size)


def work_by_line(part: Part, catalogue: Catalogue | None = None) -> dict[str | None, tuple[Step, ...]]:
    """Work of one piece of a checked part by the ids of its lines that are on; of its core or ribs under None."""
    catalogue = catalogue or reference()
    found: dict[str | None, tuple[Step, ...]] = {None: tuple(s for s in _core(part) if isinstance(s, Step))}
    for layer in part.layers:
        if layer.enabled:
            found[layer.id] = tuple(s for s in _line(layer, part, catalogue) if isinstance(s, Step))
    return found


def effort_of(part: Part, catalogue: Catalogue | None = None) -> Effort:
    """Cost, hours and tools of one piece of a checked part."""
    catalogue = catalogue or reference()
    found = [*_core(part), *_lines(part, catalogue)]
    uses = [f for f in found if isinstance(f, Use)]
    steps = [f for f in found if isinstance(f, Step)]
    known = tasks()
    minutes = [m for step in steps for m in _minutes(step)]
    hours = sum_of([_times(m, 1 / 60) for m in minutes])
    waits = sum_of([known[t].wait_h for t in dict.fromkeys(s.task for s in steps)])
    return Effort(
        cost=sum_of([_times(prices()[u.key].credits, u.amount / prices()[u.key].amount) for u in uses]),
        hours=hours,
        ready_h=Band(typ=hours.typ + waits.typ, low=hours.low + waits.low, high=hours.high + waits.high),
        tools=tuple(dict.fromkeys(t for s in steps for t in known[s.task].tools)),
        buys=tuple(dict.fromkeys(u.key for u in uses)),
        uses=tuple(uses),
        steps=tuple(steps),
    )
