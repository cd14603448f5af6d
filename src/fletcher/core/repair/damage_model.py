"""A part as damaged: its marks turned into cuts, gaps and lines that are gone, so that the same analysis judges it.

A crack is a cut of `CRACK_MM` along the part: the section there is what is left, bars and whole skins bridge it by
their bond, and in brittle foam its tip is a corner without a radius. Foam hangs on `NECK_MM` about a whole bar [J]. A
crushed zone is gone by the share of its depth that does not come back [J] and has no corner; what came back is weaker
(`CRUSHED_KEEPS`, `WARMED_KEEPS` [J]). A split bar counts as broken until it is wrapped [J].
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from fletcher.core.document.airframe import (
    BarLayer,
    CordLayer,
    CutLayer,
    FilmLayer,
    HingeLayer,
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
    CrossedMark,
    CrushMark,
    LooseMark,
    Mark,
    MissingMark,
    OpenedMark,
    PeeledMark,
)
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import elements_of, line_span
from fletcher.core.section.properties import columns_of
from fletcher.core.validation.layup import hangs_together

CRACK_MM = 1.0
"""Length along the part that stands for a crack."""

LEAST_LEFT = 0.01
"""Share of its section below which a part counts as in two."""

NO_CORNER_MM = 1e6
"""Radius of the corners of a dent: it fades out [J]; a crack at its rim is a mark of its own."""

BACK_BY_WARMTH = 0.7
"""[J] Share of the lost depth of crushed bead foam that warmth swells back."""

CRUSHED_KEEPS = 0.6
"""[J] Share of its modulus and strength (0.4 to 0.8) that foam keeps whose cells were crushed and sprang back: part of
their walls stays whole (Gibson and Ashby 1997)."""

WARMED_KEEPS = 0.8
"""[J] The same share (0.6 to 0.95) after warmth."""

SEAM_MM = 1.0
"""Width that stands for a seam or fold that is open."""

CREASED = 0.3
"""[J] Share of a wall (0.15 to 0.5) that still counts where it is creased across."""

NECK_MM = 2.0
"""Foam that stays on each side of a bar where a crack passes it."""

_Face = Literal["upper", "lower", "through", "inside", "front", "rear"]


def chord_at(part: Part, at: float) -> float:
    """Chord at a place, mm."""
    return part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * at / part.span_mm


def thickness_at(part: Part, at: float) -> float:
    """Largest thickness at a place, mm."""
    return part.root_thickness_mm + (part.tip_thickness_mm - part.root_thickness_mm) * at / part.span_mm


def _cut(part: Part, span: tuple[float, float], face: _Face, percents: tuple[float, float], depth: float) -> CutLayer:
    """A cut between two shares of the chord, of the width that this has in the middle of its stretch."""
    start, end = max(0.0, span[0]), min(part.span_mm, span[1])
    wide = (percents[1] - percents[0]) / 100 * chord_at(part, 0.5 * (start + end))
    middle = 0.5 * sum(percents)
    edge = face in ("front", "rear")
    return CutLayer(
        id="damage", face=face, start_mm=start, end_mm=end, width_mm=None if edge else max(wide, 0.1), depth_mm=depth,
        corner_radius_mm=0.0, root_percent=middle, tip_percent=middle,
    )  # fmt: skip


def _holes(mark: Mark, part: Part) -> Iterator[tuple[CutLayer, bool]]:
    """Cuts of a mark, and whether they go through the skins; between bars that run on, of which foam hangs on."""
    if isinstance(mark, CrackMark | BreakMark | CreaseMark):
        span = mark.at_mm - CRACK_MM / 2, mark.at_mm + CRACK_MM / 2
    elif isinstance(mark, CrushMark | MissingMark | OpenedMark):
        span = mark.start_mm, mark.end_mm
    else:
        return
    face: _Face = "through" if isinstance(mark, BreakMark) else mark.edge if isinstance(mark, OpenedMark) else mark.face
    spread, depth = (0.0, 100.0), SEAM_MM
    if isinstance(mark, CreaseMark):
        spread = _creased(mark)
    elif not isinstance(mark, BreakMark | OpenedMark):
        spread, depth = (mark.from_percent, mark.to_percent), mark.depth_mm
    if isinstance(mark, CrushMark):
        depth = max(crushed_away(mark, part), 0.1)
    torn = isinstance(mark, BreakMark | MissingMark | CreaseMark | OpenedMark) or (
        isinstance(mark, CrackMark) and mark.skins_torn
    )
    chord = chord_at(part, 0.5 * sum(span))
    stops = (spread[0] / 100 * chord, spread[1] / 100 * chord)
    if face in ("front", "rear"):
        deep = min(depth, 0.97 * chord)
        stops = (0.0, deep) if face == "front" else (chord - deep, chord)
    held = _held(mark, part) if isinstance(mark, CreaseMark) else []
    if held:
        stops = (mark.from_percent / 100 * chord, mark.to_percent / 100 * chord)  # type: ignore[union-attr]
    gaps = [(x - half, x + half) for x, half in (*_necks(mark, part, span), *held)]
    for cut in _between(part, span, face, stops, depth, gaps):
        if part.foam is None and torn and cut.face in ("front", "rear"):
            # without a core an edge is what its walls make of it: both faces go with it
            cut = _cut(part, span, "through", (100 * stops[0] / chord, 100 * stops[1] / chord), 1.0)
        if isinstance(mark, CrushMark):
            cut = cut.model_copy(update={"corner_radius_mm": NO_CORNER_MM})
        yield cut, torn


def crushed_away(mark: CrushMark, part: Part) -> float:
    """Depth of sound foam that a crushed zone has lost, mm: what neither its cells nor warmth brought back, and of what
    came back the share that it is weaker by. Its height stands at its foot, so bending is a little too soft (2 to 3 %
    for a crushed plank, see the test)."""
    foam = reference().foams.get(part.foam or "")
    lost = 1.0 if foam is None else 1 - foam.springback
    lost *= 1 - BACK_BY_WARMTH if mark.warmed else 1.0
    return mark.depth_mm * (1 - (1 - lost) * (WARMED_KEEPS if mark.warmed else CRUSHED_KEEPS))


def _held(mark: CreaseMark, part: Part) -> list[tuple[float, float]]:
    """Where upright webs hold a creased wall, and half the width that counts at each, mm."""
    if mark.face not in ("upper", "lower"):
        return []
    chord, share = chord_at(part, mark.at_mm), mark.at_mm / part.span_mm
    webs = []
    for layer in part.layers:
        if isinstance(layer, WallLayer) and layer.enabled and layer.face == "web":
            first, last = line_span(layer, part)
            percent = layer.root_percent + (layer.tip_percent - layer.root_percent) * share
            if first < mark.at_mm < last and mark.from_percent < percent < mark.to_percent:
                webs.append(percent / 100 * chord)
    half = 0.005 * CREASED * (mark.to_percent - mark.from_percent) * chord / max(len(webs), 1)
    return [(x, half) for x in webs]


def _creased(mark: CreaseMark) -> tuple[float, float]:
    """The share of the chord that does not count where no web holds the wall: about the middle of the crease, for its
    corners hold it."""
    middle, half = 0.5 * (mark.from_percent + mark.to_percent), 0.5 * (mark.to_percent - mark.from_percent)
    return middle - (1 - CREASED) * half, middle + (1 - CREASED) * half


def _between(
    part: Part, span: tuple[float, float], face: _Face, stops: tuple[float, float], depth: float,
    gaps: list[tuple[float, float]],
) -> Iterator[CutLayer]:  # fmt: skip
    """Cuts over a stretch of the chord without its gaps, mm behind the nose; of one from an edge what does not touch
    the edge goes right through."""
    chord, start = chord_at(part, 0.5 * sum(span)), stops[0]
    for low, high in [*sorted(gaps), (stops[1], stops[1])]:
        end = min(low, stops[1])
        if end - start > 0.5:
            own, deep = face, depth
            if face in ("front", "rear"):
                touches = start <= 1e-6 if face == "front" else end >= chord - 1e-6
                own, deep = (face, end - start) if touches else ("through", 1.0)
            yield _cut(part, span, own, (100 * start / chord, 100 * end / chord), deep)
        start = max(start, high)


def _necks(mark: Mark, part: Part, span: tuple[float, float]) -> Iterator[tuple[float, float]]:
    """Place behind the nose and half width of the foam that hangs on every bar that runs on there, mm."""
    middle = 0.5 * sum(span)
    share = middle / part.span_mm
    for layer in part.layers:
        if not isinstance(layer, BarLayer) or not layer.enabled:
            continue
        bar = reference().bars.get(layer.stock)
        first, last = line_span(layer, part)
        if bar is None or last < span[0] or first > span[1]:
            continue
        hurt = [m for m in part.damage if isinstance(m, BarMark) and m.of == layer.id and m.side == "both"]
        if any(m.at_mm <= span[1] + 1 and (m.how == "pulled_out" or m.at_mm >= span[0] - 1) for m in hurt):
            continue
        percent = layer.root_percent + (layer.tip_percent - layer.root_percent) * share
        yield percent / 100 * chord_at(part, middle), bar.size(layer.on_edge)[0] / 2 + NECK_MM


def _pieces(layer: Layer, part: Part, start: float, end: float) -> list[Layer]:
    """What is left of a line between its start and its end without a stretch."""
    first, last = line_span(layer, part)
    if end <= first or start >= last:
        return [layer]
    out: list[Layer] = []
    if start - first > 1:
        out.append(layer.model_copy(update={"end_mm": start}))
    if last - end > 1:
        own = layer.id if not out else f"{layer.id}_2"[:40]
        out.append(layer.model_copy(update={"id": own, "start_mm": end}))
    return out


def _left(layer: Layer, marks: tuple[Mark, ...], part: Part) -> list[Layer]:
    """What marks leave of a line."""
    left = [layer]
    for mark in marks:
        if getattr(mark, "of", None) != layer.id:
            continue
        changed: list[Layer] = []
        for piece in left:
            first, last = line_span(piece, part)
            if isinstance(mark, PeeledMark) and isinstance(piece, StripLayer | FilmLayer | WallLayer):
                changed += _pieces(piece, part, mark.start_mm, mark.end_mm)
            elif isinstance(mark, BarMark) and isinstance(piece, BarLayer) and first <= mark.at_mm <= last:
                changed += _bar(piece, mark, part, marks)
            elif isinstance(mark, LooseMark):
                whole = mark.start_mm is None or mark.end_mm is None or not isinstance(piece, HingeLayer)
                changed += [] if whole else _pieces(piece, part, mark.start_mm or 0.0, mark.end_mm or part.span_mm)
            else:
                changed.append(piece)
        left = changed
    return left


def _bar(piece: BarLayer, mark: BarMark, part: Part, marks: tuple[Mark, ...]) -> list[Layer]:
    """A bar without what is lost of it: a gap where it broke, all of it in a piece that is missing or crushed there,
    and its rest to the end where it came out of its bed."""
    since, until = mark.at_mm - CRACK_MM / 2, mark.at_mm + CRACK_MM / 2
    for zone in marks:
        if isinstance(zone, CrushMark | MissingMark) and zone.start_mm - 1 <= mark.at_mm <= zone.end_mm + 1:
            gap = _gap(part, zone, mark.at_mm, piece)
            if gap is not None and zone.depth_mm > gap:
                since, until = min(since, zone.start_mm), max(until, zone.end_mm)
    if mark.how == "pulled_out":
        since, until = mark.at_mm, part.span_mm
    if piece.place != "pair" or mark.side == "both":
        return _pieces(piece, part, since, until)
    whole, hurt = parted_bar(piece, mark.side)
    return [whole, *_pieces(hurt, part, since, until)]


def parted_bar(pair: BarLayer, side: str) -> tuple[BarLayer, BarLayer]:
    """A pair as the line of its whole bar and the line of its hurt one."""
    other = "lower" if side == "upper" else "upper"
    hurt = pair.model_copy(update={"id": f"{pair.id}_{side}"[:40], "place": side})
    return pair.model_copy(update={"place": other}), hurt


def _depth(mark: Mark) -> float:
    """Deep marks are cut first, so that shallow ones in the same place add nothing."""
    if isinstance(mark, BreakMark):
        return 1e6
    if isinstance(mark, MissingMark) and mark.face == "through":
        return 1e5
    return float(getattr(mark, "depth_mm", 0.0))


def _across(cut: CutLayer, part: Part, at: float) -> tuple[float, float]:
    """Front and rear edge of a cut at a place, mm behind the nose."""
    chord, share = chord_at(part, at), at / part.span_mm
    if cut.face == "front":
        return 0.0, cut.depth_mm
    if cut.face == "rear":
        return chord - cut.depth_mm, chord
    middle = (cut.root_percent + (cut.tip_percent - cut.root_percent) * share) / 100 * chord
    half = (cut.width_mm or chord) / 2
    return middle - half, middle + half


def _clear(cut: CutLayer, taken: list[CutLayer], part: Part) -> list[CutLayer]:
    """What a cut takes out that no earlier one has: foam is not taken out twice."""
    first, last = line_span(cut, part)
    spans = [line_span(other, part) for other in taken]
    meets = [o for o, (a, b) in zip(taken, spans, strict=True) if a < last - 1e-9 and b > first + 1e-9]
    if not meets:
        return [cut]
    at = 0.5 * (first + last)
    start, end = _across(cut, part, at)
    thick = thickness_at(part, at)
    gone, depth = [], cut.depth_mm
    for other in meets:
        if {cut.face, other.face} == {"upper", "lower"}:  # from both faces: what is left between them, at most
            depth = min(depth, max(0.9 * thick - other.depth_mm, 0.1))
        else:
            gone.append(_across(other, part, at))
    return list(_between(part, (first, last), cut.face, (start, end), depth, gone))


def parted_at(part: Part) -> float | None:
    """Where a damaged part is in two, mm from the root; None where it still hangs together."""
    elements = elements_of(part, reference())
    if elements.hollow:
        try:
            slit = 0.25 * min(part.root_thickness_mm, part.tip_thickness_mm)
            return 0.0 if list(hangs_together(elements, "", slit)) else None
        except ValueError:
            return 0.0
    places = sorted({0.5 * (h.start + h.end) for h in elements.holes})
    if not places:
        return None
    y = np.array(places)
    columns = columns_of(elements, y, y)
    area = ((columns.upper - columns.lower) * columns.weight).sum(1)
    whole = replace(elements, holes=())
    full = columns_of(whole, y, y)
    left = area / ((full.upper - full.lower) * full.weight).sum(1)
    return float(y[int(np.argmin(left))]) if left.min() < LEAST_LEFT else None


_BESIDE_MM = {"upper": 5.0, "lower": 5.0, "front": 10.0, "rear": 10.0}
"""[J] A bar so near the tip of a crack from that side may have cracked with it, unseen."""


def _gap(part: Part, mark: CrackMark | CrushMark | MissingMark, at: float, layer: BarLayer) -> float | None:
    """How deep from the side of a mark the surface of a bar lies at a place, mm; None where it lies beside the mark."""
    bar = reference().bars.get(layer.stock)
    if bar is None:
        return None
    chord, share = chord_at(part, at), at / part.span_mm
    percent = layer.root_percent + (layer.tip_percent - layer.root_percent) * share
    x, (width, height) = percent / 100 * chord, bar.size(layer.on_edge)
    if mark.face in ("front", "rear"):
        return (x if mark.face == "front" else chord - x) - width / 2
    if not mark.from_percent - 2 <= percent <= mark.to_percent + 2:
        return None
    if mark.face == "through":
        return 0.0
    thick = thickness_at(part, at)
    near = layer.place in (mark.face, "pair")
    return layer.cover_mm if near else thick / 2 - height / 2 if layer.place == "middle" else thick - height


def _side(part: Part, mark: Mark, at: float, layer: BarLayer) -> Literal["both", "upper", "lower"]:
    """Which bars of a pair a mark may have taken along: from one face the one that lies there, unless it goes so deep
    that it reaches the other."""
    if layer.place != "pair" or not isinstance(mark, CrackMark | CrushMark | MissingMark):
        return "both"
    if mark.face not in ("upper", "lower"):
        return "both"
    other: Literal["upper", "lower"] = "lower" if mark.face == "upper" else "upper"
    far = _gap(part, mark, at, layer.model_copy(update={"place": other}))
    reach = mark.depth_mm + (_BESIDE_MM[mark.face] if isinstance(mark, CrackMark) else 0.0)
    return "both" if far is None or reach >= far - layer.cover_mm else mark.face


def crossing(part: Part, mark: Mark) -> Iterator[tuple[Layer, float]]:
    """Lines of the lay-up that may have gone with a mark, and where, mm from the root: at a clean break all that cross
    it; at a crack bars that it reaches or nearly reaches; in a zone that is crushed or missing those within; in a bend
    every bar, at a kink or crease those that cross it."""
    for layer in part.layers:
        if not layer.enabled or isinstance(layer, CutLayer):
            continue
        first, last = line_span(layer, part)
        if isinstance(mark, BreakMark):
            crosses = isinstance(layer, BarLayer | StripLayer | FilmLayer | WallLayer | CordLayer)
            if crosses and first < mark.at_mm < last:
                yield layer, mark.at_mm
        elif isinstance(layer, BarLayer):
            if isinstance(mark, BentMark):
                if mark.at_mm is None or first < mark.at_mm < last:
                    yield layer, 0.5 * (first + last) if mark.at_mm is None else mark.at_mm
            elif isinstance(mark, CreaseMark) and first < mark.at_mm < last:
                yield layer, mark.at_mm
            elif isinstance(mark, CrackMark) and first <= mark.at_mm <= last:
                gap = _gap(part, mark, mark.at_mm, layer)
                if gap is not None and mark.depth_mm + _BESIDE_MM[mark.face] >= gap:
                    yield layer, mark.at_mm
            elif isinstance(mark, CrushMark | MissingMark) and first < mark.end_mm and last > mark.start_mm:
                at = 0.5 * (max(first, mark.start_mm) + min(last, mark.end_mm))
                gap = _gap(part, mark, at, layer)
                if gap is not None and mark.depth_mm > gap:
                    yield layer, at


@dataclass(frozen=True)
class Question:
    """Whether a line that crosses a mark is still whole there; `found` is what the builder said, None: not seen yet."""

    mark: Mark
    layer: Layer
    at_mm: float
    found: Literal["whole", "broken"] | None
    side: Literal["both", "upper", "lower"] = "both"
    """Which bars of a pair are asked after."""


def questions(part: Part) -> list[Question]:
    """What has to be looked at, mark by mark. A bar with a mark of its own there was seen."""
    out = []
    for mark in part.damage:
        if not isinstance(mark, CrossedMark):
            continue
        for layer, at in crossing(part, mark):
            if any(isinstance(m, BarMark) and m.of == layer.id and abs(m.at_mm - at) < _SAME_MM for m in part.damage):
                continue
            found: Literal["whole", "broken"] | None = "broken" if layer.id in mark.broken else None
            side = _side(part, mark, at, layer) if isinstance(layer, BarLayer) else "both"
            out.append(Question(mark, layer, at, "whole" if layer.id in mark.whole else found, side))
    return out


def found_whole(mark: Mark, part: Part) -> Mark:
    """The mark as it is where all bars beside it were seen to be whole."""
    if not isinstance(mark, CrossedMark) or isinstance(mark, BreakMark):
        return mark
    return mark.model_copy(update={"whole": tuple(layer.id for layer, _ in crossing(part, mark))})


TAKEN = "taken-"
"""Begins the ids of marks that others took along."""
_SAME_MM = 5.0
"""Marks of one bar so close to one another are of one place."""


def taken_along(part: Part) -> Part:
    """The part with a mark for every bar that its marks took along: those found broken, and those that nobody saw. In a
    bend nobody knows where: that one is only asked after."""
    more: list[Mark] = []
    names = (f"{TAKEN}{n}" for n in itertools.count(1) if all(m.id != f"{TAKEN}{n}" for m in part.damage))
    for q in questions(part):
        bent = isinstance(q.mark, BentMark) and q.mark.at_mm is None
        if isinstance(q.layer, BarLayer) and q.found != "whole" and not bent:
            near = (m for m in more if isinstance(m, BarMark) and m.of == q.layer.id)
            if all(abs(m.at_mm - q.at_mm) >= _SAME_MM for m in near):
                more.append(BarMark(id=next(names), of=q.layer.id, at_mm=round(q.at_mm, 1), side=q.side))
    return part.model_copy(update={"damage": (*part.damage, *more)})


def crack_to_a_bar(part: Part, mark: CrackMark) -> str | None:
    """Name of the bar that a crack reaches, None where it reaches none."""
    for layer in part.layers:
        if not isinstance(layer, BarLayer) or not layer.enabled:
            continue
        first, last = line_span(layer, part)
        gap = _gap(part, mark, mark.at_mm, layer) if first <= mark.at_mm <= last else None
        if gap is not None and mark.depth_mm >= gap - 1e-6:
            return layer.name or reference().bars[layer.stock].name
    return None


def as_damaged(part: Part) -> Part:
    """A checked part as its marks leave it; not checked again, for a broken part need be no possible one."""
    marks = part.damage
    if not marks:
        return part
    before: list[Layer] = []
    broken: list[Layer] = []
    after: list[Layer] = []
    taken = [la for la in part.layers if isinstance(la, CutLayer) and la.enabled]
    for mark in sorted(marks, key=_depth, reverse=True):
        for cut, skins in _holes(mark, part):
            for piece in [cut] if part.foam is None else _clear(cut, taken, part):
                own = piece.model_copy(update={"id": f"damage_{len(taken)}", "corner_radius_mm": cut.corner_radius_mm})
                taken.append(own)
                (broken if isinstance(mark, BreakMark) else after if skins else before).append(own)
    breaks = [m for m in marks if isinstance(m, BreakMark)]
    lines: list[Layer] = []
    whole: list[Layer] = []
    for layer in part.layers:
        over = [m for m in breaks if line_span(layer, part)[0] < m.at_mm < line_span(layer, part)[1]]
        kept = bool(over) and all(layer.id in m.whole for m in over)
        (whole if kept else lines).extend(_left(layer, marks, part))
    # what was found whole runs on over the break: it comes after that cut
    return part.model_copy(update={"layers": (*before, *lines, *broken, *whole, *after), "damage": ()})
