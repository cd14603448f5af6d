"""What can be marked at a place of a part: damage that its construction can have, in the words of that construction;
each mark is placed and sized where the builder pressed."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Literal

from fletcher.core.common.model import Result
from fletcher.core.document.airframe import (
    BarLayer,
    FilmLayer,
    HingeLayer,
    JointLayer,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.damage import (
    BarMark,
    BentMark,
    BreakMark,
    CrackMark,
    CreaseMark,
    CrushMark,
    LooseMark,
    Mark,
    MissingMark,
    OpenedMark,
    PeeledMark,
)
from fletcher.core.document.shapes import FoldedSection, RectangleSection
from fletcher.core.estimate.phrasing import stock_name
from fletcher.core.materials.tables import reference
from fletcher.core.repair.damage_model import chord_at, thickness_at
from fletcher.core.repair.way_glue import CLOTHS
from fletcher.core.section.assembly import line_span

Construction = Literal[
    "cored", "sheet", "cloth", "sheeted", "surface", "moulded", "folded", "box", "twin_wall", "formers", "boom"
]

_THIN_MM = 15.0
"""A rectangle of foam no thicker than this is a sheet."""
_EDGE = 15.0
"""Per cent of the chord from an edge within which a press means the edge."""


class Offer(Result):
    """A mark that can be put here, in words."""

    says: str
    mark: Mark


def construction_of(part: Part) -> Construction:
    """How a part is built, as far as its damage goes."""
    if part.kind == "surface":
        return "surface"
    walls = [la for la in part.layers if isinstance(la, WallLayer) and la.enabled]
    if part.foam is not None:
        sizes = part.root_thickness_mm, part.tip_thickness_mm, part.root_chord_mm, part.tip_chord_mm
        thin = min(sizes) <= _THIN_MM
        if isinstance(part.section, RectangleSection) and thin:
            return "sheet"
        if any(w.face in ("upper", "lower", "both", "wrapped") for w in walls):
            return "sheeted"
        skins = (la.skin for la in part.layers if isinstance(la, FilmLayer) and la.enabled)
        cloth = any(not isinstance(s, str) or reference().skins[s].family in CLOTHS for s in skins)
        return "cloth" if cloth else "cored"
    if not walls:
        return "boom"
    if isinstance(part.section, FoldedSection):
        return "folded"
    families = {reference().sheets[w.sheet].family for w in walls if isinstance(w.sheet, str)}
    if "twin_wall" in families:
        return "twin_wall"
    if "moulded" in families:
        return "moulded"
    return "box" if part.rib_sheet is None else "formers"


class _Here:
    """A place that was pressed: mm from the root, per cent of the chord behind the nose, and words for it."""

    def __init__(self, part: Part, at_mm: float, percent: float) -> None:
        self.part, self.percent = part, min(max(percent, 0.0), 100.0)
        self.at = round(min(max(at_mm, 1.0), part.span_mm - 1.0), 1)
        self.long = min(60.0, part.span_mm / 4)
        self.start = round(min(max(self.at - self.long / 2, 0.0), part.span_mm - self.long), 1)
        self.end = round(self.start + self.long, 1)
        self.chord, self.thick = chord_at(part, self.at), thickness_at(part, self.at)
        taken = {m.id for m in part.damage}
        self.id = next(f"mark-{n}" for n in range(1, 99) if f"mark-{n}" not in taken)

    @property
    def edge(self) -> Literal["front", "rear"] | None:
        """The edge that was pressed, if any was."""
        return "front" if self.percent < _EDGE else "rear" if self.percent > 100 - _EDGE else None

    @property
    def stretch(self) -> tuple[float, float]:
        """A stretch of the chord about the place, per cent."""
        low = min(max(self.percent - 12.5, 2.0), 73.0)
        return round(low, 1), round(low + 25.0, 1)

    def lines(self, *kinds: type) -> Iterator[Layer]:
        """Lines of the lay-up of some kinds that lie here, those nearest along the chord first."""
        found = []
        for la in self.part.layers:
            first, last = line_span(la, self.part)
            if isinstance(la, kinds) and la.enabled and first <= self.at <= last:
                share = self.at / self.part.span_mm
                root, tip = getattr(la, "root_percent", self.percent), getattr(la, "tip_percent", self.percent)
                found.append((abs(root + (tip - root) * share - self.percent), la))
        yield from (la for _, la in sorted(found, key=lambda f: f[0]))


def _name(layer: Layer) -> str:
    return layer.name or stock_name(layer)


Maker = Callable[[_Here], Iterator[tuple[str, Mark]]]


def _snapped(h: _Here) -> Iterator[tuple[str, Mark]]:
    yield "Snapped right through", BreakMark(id=h.id, at_mm=h.at)


def _crack(h: _Here) -> Iterator[tuple[str, Mark]]:
    edge = h.edge
    if edge is not None:
        deep = round(min(0.3 * h.chord, 40.0), 1)
        yield f"Crack in from the {edge} edge", CrackMark(id=h.id, at_mm=h.at, face=edge, depth_mm=deep)
        return
    low, high = h.stretch
    deep = round(max(0.5, 0.4 * h.thick), 1)
    for face in ("upper", "lower"):
        yield f"Crack from the {face} face", CrackMark(
            id=h.id, at_mm=h.at, face=face, from_percent=low, to_percent=high, depth_mm=deep
        )  # fmt: skip


def _crushed(h: _Here) -> Iterator[tuple[str, Mark]]:
    low, high = h.stretch
    base = {"id": h.id, "start_mm": h.start, "end_mm": h.end, "from_percent": low, "to_percent": high}
    if h.edge is not None:
        says = "Crushed nose" if h.edge == "front" else "Crushed rear edge"
        yield says, CrushMark(**base, face=h.edge, depth_mm=round(min(6.0, 0.2 * h.chord), 1))
        return
    deep = round(max(min(4.0, 0.3 * h.thick), 0.3), 1)
    yield "Dent in the upper face", CrushMark(**base, face="upper", depth_mm=deep)
    yield "Dent in the lower face", CrushMark(**base, face="lower", depth_mm=deep)


def _missing(h: _Here) -> Iterator[tuple[str, Mark]]:
    base = {"id": h.id, "start_mm": h.start, "end_mm": h.end}
    if h.edge is not None:
        says = "Piece of the nose missing" if h.edge == "front" else "Piece of the rear edge missing"
        yield says, MissingMark(**base, face=h.edge, depth_mm=round(min(15.0, 0.25 * h.chord), 1))
        return
    low, high = h.stretch
    base = {**base, "from_percent": low, "to_percent": high, "depth_mm": round(max(0.4 * h.thick, 0.5), 1)}
    if h.part.foam is not None and h.thick < _THIN_MM:
        yield "A hole right through", MissingMark(**base, face="through")
        return
    for face in ("upper", "lower"):
        yield f"A hole in the {face} {'wall' if h.part.foam is None else 'face'}", MissingMark(**base, face=face)


def _peeled(what: str, *kinds: type, webs: bool = False) -> Maker:
    def offers(h: _Here) -> Iterator[tuple[str, Mark]]:
        for line in h.lines(*kinds):
            if isinstance(line, WallLayer) and (line.face in ("web", "level")) != webs:
                continue
            first, last = line_span(line, h.part)
            start, end = max(h.start, first), min(h.end, last)
            if end - start >= 1:
                yield f"{what}: {_name(line)}", PeeledMark(id=h.id, of=line.id, start_mm=start, end_mm=end)

    return offers


def _bars(h: _Here) -> Iterator[tuple[str, Mark]]:
    for line in h.lines(BarLayer):
        name = _name(line)
        yield f"Broken: {name}", BarMark(id=h.id, of=line.id, at_mm=h.at)
        yield f"Split lengthwise: {name}", BarMark(id=h.id, of=line.id, at_mm=h.at, how="split")
        if h.part.foam is not None:
            yield f"Pulled out from here on: {name}", BarMark(id=h.id, of=line.id, at_mm=h.at, how="pulled_out")


def _crease(h: _Here) -> Iterator[tuple[str, Mark]]:
    flutes = construction_of(h.part) == "twin_wall"
    what = "Creased across the flutes" if flutes else "Creased across"
    if h.part.kind == "fuselage" and h.edge is not None:
        yield f"{what}, the {'left' if h.edge == 'front' else 'right'} side", CreaseMark(
            id=h.id, at_mm=h.at, face=h.edge
        )  # fmt: skip
    for face in ("upper", "lower"):
        yield f"{what}, {face} wall", CreaseMark(id=h.id, at_mm=h.at, face=face)


def _opened(front: str, rear: str) -> Maker:
    def offers(h: _Here) -> Iterator[tuple[str, Mark]]:
        for edge, says in (("front", front), ("rear", rear)):
            if says and h.edge in (None, edge):
                yield says, OpenedMark(id=h.id, start_mm=h.start, end_mm=h.end, edge=edge)

    return offers


def _loose(h: _Here) -> Iterator[tuple[str, Mark]]:
    for line in h.part.layers:
        if isinstance(line, HingeLayer) and line.enabled:
            first, last = line_span(line, h.part)
            start, end = max(h.start, first), min(h.end, last)
            if end - start >= 1:
                yield f"Hinge torn: {_name(line)}", LooseMark(id=h.id, of=line.id, start_mm=start, end_mm=end)
        elif isinstance(line, JointLayer) and line.enabled:
            yield f"Come apart: {line.name or 'joint'}", LooseMark(id=h.id, of=line.id)


def _bent(h: _Here) -> Iterator[tuple[str, Mark]]:
    if any(isinstance(m, BentMark) for m in h.part.damage):
        return
    if h.part.kind == "fuselage":
        yield "Nose bent, tail twisted: it stayed so", BentMark(id=h.id, tip_mm=5.0)
        tube = next((la for la in h.part.layers if isinstance(la, BarLayer) and la.enabled), None)
        if construction_of(h.part) == "boom" and tube is not None:  # a kinked tube is a broken one
            yield "Kinked here", BarMark(id=h.id, of=tube.id, at_mm=h.at)
        else:
            yield "Kinked here", BentMark(id=h.id, at_mm=h.at, tip_mm=5.0)
    else:
        yield "Stayed bent or twisted", BentMark(id=h.id, tip_mm=5.0)


_SKIN = _peeled("Skin off or torn", FilmLayer, StripLayer)
_COVER = _peeled("Film or tape peeled off", FilmLayer, StripLayer)
_WEB = _peeled("Spar box or web loose", WallLayer, webs=True)
_FOLD = _opened("Nose fold split open", "Rear seam open")
_CORNER = _opened("Front corner split along", "Rear corner split along")
_SHELL = _opened("Seam open at the nose", "Seam open at the rear edge")
_OFFERS: dict[Construction, tuple[Maker, ...]] = {
    "cored": (_snapped, _crack, _crushed, _missing, _SKIN, _bars, _loose, _bent),
    "surface": (_snapped, _crack, _missing, _loose, _SKIN, _bars, _bent),
    "sheet": (_snapped, _crack, _missing, _peeled("Strip or skin off", FilmLayer, StripLayer, WallLayer), _bars, _loose,
              _bent),
    "cloth": (_snapped, _crack, _crushed, _missing, _peeled("Skin off the core", FilmLayer, StripLayer, WallLayer),
              _bars, _loose, _bent),
    "sheeted": (_snapped, _crack, _crushed, _missing, _peeled("Sheet off the core", WallLayer, FilmLayer, StripLayer),
                _WEB, _bars, _loose, _bent),
    "moulded": (_snapped, _crease, _missing, _SHELL, _WEB, _bars, _loose, _bent),
    "folded": (_snapped, _crease, _missing, _FOLD, _WEB, _COVER, _bars, _loose, _bent),
    "box": (_snapped, _crease, _missing, _CORNER, _WEB, _COVER, _bars, _loose, _bent),
    "twin_wall": (_snapped, _crease, _missing, _opened("Front corner open", "Rear corner open"), _WEB, _bars, _loose,
                  _bent),
    "formers": (_snapped, _missing, _peeled("Skin off its formers", WallLayer, FilmLayer), _crease, _WEB, _bars, _loose,
                _bent),
    "boom": (_snapped, _bars, _loose, _bent),
}  # fmt: skip
"""What may be marked, by the construction, in the order in which it is offered."""


def offers_at(part: Part, at_mm: float, percent: float | None = None) -> list[Offer]:
    """The marks that may be put on a part where it was pressed, in order; with no place along the chord all that may
    be, those of its edges among them."""
    places = [_Here(part, at_mm, p) for p in ((percent,) if percent is not None else (40.0, 4.0, 96.0))]
    found: dict[str, Offer] = {}
    for make in _OFFERS[construction_of(part)]:
        for here in places:
            for says, mark in make(here):
                found.setdefault(says, Offer(says=says, mark=mark))
    return list(found.values())
