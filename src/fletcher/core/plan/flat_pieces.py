"""Pieces of sheet, film, tape and cloth that an airframe takes: size, grain, hand, and the line that they are of."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.airframe import (
    Airframe,
    BarLayer,
    CordLayer,
    FilmLayer,
    HingeLayer,
    Laminate,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.shapes import FoldedSection, RectangleSection
from fletcher.core.estimate.effort import prices
from fletcher.core.making.folding import pattern_of
from fletcher.core.making.formers import formers_of
from fletcher.core.materials.tables import reference
from fletcher.core.plan.cover import shuts
from fletcher.core.plan.wrapping import (
    LAP_MM,
    arc,
    around,
    bias_length,
    bias_lengths,
    groove_tape,
    hinge_tape,
    strips,
    thread_mm,
    turns,
)
from fletcher.core.section.assembly import height_at, line_span, outline_of, size_at

SAND_MM = 1.0
"""[J] What a spar web is left higher, to sand."""
HINGE_TAPE, HINGE_SIDE_MM = "bopp_tape_std", 12.0
"""[J] Tape of a hinge where nothing else is said, and how far it sticks on each side of the line."""
THREAD, MOUTH_MM = "polyester_thread_0.4", 12.0
"""[J] Thread that is wound with touching turns, and how far on either mouth of a sleeve."""
_BOTH = frozenset({"tape_both_sides_gap", "film_tape_uv"})
_TAPED = _BOTH | {"tape_one_side_bevel"}
_COATS = frozenset({"coat"})
_STUCK = frozenset({"tape"})
_SIDE = {"upper": ("upper",), "lower": ("lower",), "both": ("upper", "lower"), "front": ("front",),
         "rear": ("rear",), "sides": ("front", "rear"), "wrapped": ("upper", "lower", "front", "rear")}  # fmt: skip


@dataclass(frozen=True)
class Flat:
    """A piece: of what, along its grain and across, mm; whether it may be turned; what it is for; its own area without
    laps and sanding, mm²; what to mind while cutting it."""

    key: str
    long_mm: float
    wide_mm: float
    turns: bool
    name: str
    net_mm2: float
    note: str = ""
    outline: tuple[tuple[float, float], ...] = ()
    """Its corners along and across, from the corner of its box; empty of a rectangle."""
    step: str = ""
    """The step of the plan that it is cut for."""


def flat_pieces(airframe: Airframe) -> Iterator[Flat]:
    """All pieces of a checked airframe but bars."""
    for part in airframe.parts:
        if part.kind == "plank":
            continue
        for side in ("right", "left") if part.hand == "both" else ("",):
            yield from _of_part(part, side)


def _of_part(part: Part, side: str) -> Iterator[Flat]:
    piece = piece_key(part, side)
    for flat in _bodies(part, side):
        shell = next((la for la in part.layers if la.enabled and isinstance(la, WallLayer) and shuts(la, part)), None)
        is_core = flat.key == part.foam
        yield replace(flat, step=f"{piece}/core" if is_core or shell is None else f"{piece}/{shell.id}/flat")
    folded = pattern_of(part, reference()) is not None
    for layer in part.layers:
        if layer.enabled:
            for flat in _of_layer(layer, part, side, folded):
                yield replace(flat, step=f"{piece}/{layer.id}")


def piece_key(part: Part, side: str) -> str:
    """How keys of the steps of a part on a side begin."""
    return f"{part.id}/{side or 'one'}"


def _bodies(part: Part, side: str) -> Iterator[Flat]:
    """The core, folded boards, ribs and formers."""
    if part.foam is not None:
        yield from _core(part, part.foam, side)
    pattern = pattern_of(part, reference())
    halves = 2 if part.hand == "both" else 1  # a pattern counts both halves
    folded_pieces = [(p, p.count // halves) for p in (pattern.pieces if pattern else ())]
    for piece, count in (*folded_pieces, *((p, p.count // halves) for p in formers_of(part, reference()))):
        for _ in range(count):
            name = _named(part, side, piece.name[0].lower() + piece.name[1:])
            area = piece.length_mm * piece.width_mm
            first, last = min(y for _, y in piece.outline), max(x for x, _ in piece.outline)
            outline = tuple((y - first, last - x) for x, y in piece.outline)  # turned by a quarter, never mirrored
            yield Flat(piece.sheet, piece.length_mm, piece.width_mm, False, name, area, "by its template", outline)


def _core(part: Part, key: str, side: str) -> Iterator[Flat]:
    """The core out of boards as they are sold, as many as its thickness takes."""
    first = min(0.0, part.tip_setback_mm)
    wide = max(part.root_chord_mm, part.tip_setback_mm + part.tip_chord_mm) - first
    thick = max(part.root_thickness_mm, part.tip_thickness_mm)
    board = board_mm(key)
    layers = max(math.ceil(thick / board - 0.02), 1) if board else 1
    note = f"{in_mm(thick, F0)} thick" + (f": glue {layers} boards of {in_mm(board, F0)}" if layers > 1 else "")
    what = "core plate" if isinstance(part.section, RectangleSection) else "core"
    tip = part.tip_setback_mm - first
    corners = ((0.0, -first), (part.span_mm, tip), (part.span_mm, tip + part.tip_chord_mm),
               (0.0, part.root_chord_mm - first))  # fmt: skip
    for _ in range(layers):
        yield Flat(key, part.span_mm, wide, True, _named(part, side, what), part.area_mm2, note, _tapered(corners))


def _tapered(corners: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
    """Corners of a piece; none where they are those of its box."""
    across = {y for _, y in corners}
    return corners if len(across) > 2 else ()


def board_mm(key: str) -> float:
    """Thickness of a foam board as it is sold, mm; 0 where the price table does not tell."""
    row = prices().get(key)
    if row is None or not row.length_mm or not row.width_mm or row.per != "mm3":
        return 0.0
    return row.amount / (row.length_mm * row.width_mm)


def _named(part: Part, side: str, what: str) -> str:
    return ", ".join(w for w in (part.name, side, what) if w)


def _of_layer(layer: Layer, part: Part, side: str, folded: bool) -> Iterator[Flat]:
    if isinstance(layer, WallLayer):
        if not (folded and (isinstance(part.section, FoldedSection) or layer.face in ("wrapped", "sides", "both"))):
            yield from _walls(layer, part, side)
    elif isinstance(layer, FilmLayer):
        yield from _films(layer, part, side)
    elif isinstance(layer, StripLayer):
        yield from _strips(layer, part, side)
    elif isinstance(layer, CordLayer):
        yield from _cords(layer, part, side)
    elif isinstance(layer, BarLayer):
        yield from _bound(layer, part, side)
    elif isinstance(layer, HingeLayer) and layer.method in _TAPED:
        yield from _hinge(layer, part, side)


def _ends(part: Part, layer: Layer) -> list[tuple[float, float]]:
    """Chord and thickness at both ends of a line."""
    return [size_at(part, y) for y in line_span(layer, part)]


def face_arcs(part: Part, layer: Layer, face: str) -> tuple[float, float]:
    """Developed width of a face at both ends of a line, mm."""
    outline = outline_of(part, reference())
    root, tip = (arc(outline, c, t, face) for c, t in _ends(part, layer))
    return root, tip


def _walls(layer: WallLayer, part: Part, side: str) -> Iterator[Flat]:
    start, end = line_span(layer, part)
    long, label = end - start, layer.name or reference().sheets[layer.sheet].name
    along = layer.grain == "along"

    def flat(ends: tuple[float, float], what: str, more: float, note: str) -> Flat:
        size = (long, max(ends) + more)
        area = long * 0.5 * sum(ends)
        a, b = size if along else size[::-1]
        corners: tuple[tuple[float, float], ...]
        corners = ((0.0, 0.0), (long, 0.0), (long, ends[1] + more), (0.0, ends[0] + more))
        corners = corners if along else tuple((y, long - x) for x, y in corners)
        shape = _tapered(corners) if abs(ends[0] - ends[1]) > 1e-6 else ()
        return Flat(layer.sheet, a, b, False, _named(part, side, f"{what} {label}".strip()), area, note, shape)

    for _ in range(layer.plies):
        if layer.face in ("web", "level"):
            high = (height_of(part, layer, 0), height_of(part, layer, 1))
            note = f"{in_mm(high[0], F0)} high at the inner end, {in_mm(high[1], F0)} at the outer; sand to fit"
            yield flat(high, "", SAND_MM, note)
            continue
        for face in _SIDE[layer.face]:
            if face in ("upper", "lower"):
                yield flat(face_arcs(part, layer, face), face, 0.0, "tapered: by its template")
            else:
                ends = _ends(part, layer)
                yield flat((ends[0][1], ends[1][1]), face, 0.0, "height of the side")


def height_of(part: Part, layer: WallLayer, end: int) -> float:
    """Height of an upright wall at one of its ends; of a level plate its width, the chord, mm."""
    y = line_span(layer, part)[end]
    if layer.face == "level":
        return size_at(part, y)[0]
    return height_at(part, y, (layer.root_percent, layer.tip_percent)[end], reference())


def _films(layer: FilmLayer, part: Part, side: str) -> Iterator[Flat]:
    start, end = line_span(layer, part)
    long = end - start
    for key, angle, name in _stuff(layer):
        label = layer.name or name
        if layer.face == "wrapped":  # all turns in one piece
            outline = outline_of(part, reference())
            once = [around(outline, c, t) for c, t in _ends(part, layer)]
            thick = _thick(key)
            ends = [turns(p, layer.plies, 0.0, thick if layer.plies > 1 else 0.0) for p in once]
            name_ = _named(part, side, label + (f", {layer.plies} turns" if layer.plies > 1 else ""))
            yield from _cut(layer, key, angle, long, ends, name_, side_lap=LAP_MM)
            continue
        for _ in range(layer.plies):
            for face in ("upper", "lower") if layer.face == "both" else (layer.face,):
                arcs = face_arcs(part, layer, face)
                what = f"{face} {label[0].lower()}{label[1:]}"
                yield from _cut(layer, key, angle, long, arcs, _named(part, side, what), side_lap=2 * LAP_MM)


def _thick(key: str) -> float:
    c = reference()
    return c.skins[key].total_thickness_mm if key in c.skins else 0.0


def _cut(
    layer: FilmLayer, key: str, angle: float, long: float, ends: tuple[float, float] | list[float], name: str,
    side_lap: float,
) -> Iterator[Flat]:  # fmt: skip
    """A face in one piece, or in the strips that its line names."""
    area = long * 0.5 * sum(ends)
    if layer.tape_width_mm:
        count = strips(max(ends), layer.tape_width_mm, layer.overlap_mm)
        for n in range(count):
            note = "from the tail forwards, laps face aft" if n == 0 else ""
            yield Flat(key, long, layer.tape_width_mm, False, f"{name}, strip {n + 1}", area / count, note)
        return
    whole = long + 2 * LAP_MM
    corners = ((0.0, 0.0), (whole, 0.0), (whole, ends[1] + side_lap), (0.0, ends[0] + side_lap))
    yield _turned(Flat(key, whole, max(ends) + side_lap, False, name, area, "", _tapered(corners)), angle)


def _turned(flat: Flat, angle: float) -> Flat:
    """A piece whose warp lies at an angle to the span; on the bias its square box is cut from the roll."""
    if abs(angle) < 1:
        return flat
    if abs(abs(angle) - 90) < 1:
        note, across = "warp across the span", tuple((y, flat.long_mm - x) for x, y in flat.outline)
        return Flat(flat.key, flat.wide_mm, flat.long_mm, False, flat.name, flat.net_mm2, note, across)
    a = math.radians(abs(angle))
    longest = bias_length(_roll_mm(flat.key), flat.wide_mm, abs(angle))
    count = bias_lengths(flat.long_mm, 2 * LAP_MM, longest) if longest > 2 * LAP_MM else 1
    joined = f"; {count} lengths joined" if count > 1 else ""
    long = flat.long_mm * math.cos(a) + flat.wide_mm * math.sin(a)
    wide = flat.long_mm * math.sin(a) + flat.wide_mm * math.cos(a)
    return Flat(flat.key, long, wide, False, flat.name, flat.net_mm2, f"warp at {angle:g}° to the span{joined}")


def _roll_mm(key: str) -> float:
    """Width of a roll as it is sold, mm."""
    row = prices().get(key)
    return (row.width_mm if row else None) or 1000.0


def _strips(layer: StripLayer, part: Part, side: str) -> Iterator[Flat]:
    start, end = line_span(layer, part)
    wide = max(layer.width_mm, layer.end_width_mm or 0.0)
    mean = 0.5 * (layer.width_mm + (layer.end_width_mm or layer.width_mm))
    for key, angle, name in _stuff(layer):
        label = layer.name or name
        for n in range(layer.plies):
            long = end - start - n * layer.drop_mm
            if long <= 0:
                continue
            for face in ("upper", "lower") if layer.face == "both" else (layer.face,):
                what = f"{face} {label[0].lower()}{label[1:]}"
                flat = Flat(key, long, wide, False, _named(part, side, what), long * mean)
                yield _turned(flat, angle)


def _hinge(layer: HingeLayer, part: Part, side: str) -> Iterator[Flat]:
    """Tapes of a hinge: over its line, and into the open groove where both faces are taped."""
    start, end = line_span(layer, part)
    deep = min(part.root_thickness_mm, part.tip_thickness_mm)
    widths = {"over the hinge line": hinge_tape(HINGE_SIDE_MM, layer.gap_mm)}
    if layer.method in _BOTH:
        widths["into the open groove"] = groove_tape(HINGE_SIDE_MM, deep, layer.bevel_deg)
    for where, wide in widths.items():
        name = _named(part, side, f"hinge tape {where}")
        yield Flat(HINGE_TAPE, end - start, wide, False, name, (end - start) * wide, "corners round; stop at the horn")


def _cords(layer: CordLayer, part: Part, side: str) -> Iterator[Flat]:
    """Cords let into the edges, each in one length."""
    start, end = line_span(layer, part)
    cord = reference().cords[layer.cord]
    for edge in ("front", "rear") if layer.face == "both" else (layer.face,):
        name = _named(part, side, f"{edge} {layer.name or cord.name}")
        wide = cord.diameter_mm
        yield Flat(layer.cord, end - start, wide, False, name, (end - start) * wide, "and 50 mm to pull it by")


def _bound(layer: BarLayer, part: Part, side: str) -> Iterator[Flat]:
    """Thread round splits that are bound shut and round the mouths of sleeves."""
    thread, bar = reference().cords[THREAD].diameter_mm, reference().bars[layer.stock]
    tube = reference().bars[layer.sleeve.stock] if layer.sleeve is not None else bar
    for s in layer.splices:
        outer, along = bar.perimeter_mm, s.overlap_mm
        if s.how == "sleeved" and s.bound:
            outer, along = max(bar.perimeter_mm, tube.perimeter_mm), 2 * MOUTH_MM
        elif s.how != "wrapped":
            continue
        long = thread_mm(outer + math.pi * thread, along, thread)
        for face in ("upper", "lower") if layer.place == "pair" else ("",):
            name = _named(part, side, f"{face} binding of {layer.name or bar.name}".strip())
            yield Flat(THREAD, long, thread, False, name, long * thread, "touching turns, pulled tight")


def _stuff(layer: FilmLayer | StripLayer) -> Iterator[tuple[str, float, str]]:
    """What a skin is cut from: its key, the angle of its warp, its name; coats are cut from nothing."""
    c = reference()
    if isinstance(layer.skin, Laminate):
        for ply in layer.skin.plies:
            yield ply.cloth, ply.angle_deg, c.cloths[ply.cloth].name
    elif layer.skin in c.sheets:
        yield layer.skin, 0.0, c.sheets[layer.skin].name
    elif c.skins[layer.skin].family not in _COATS:
        yield layer.skin, 0.0, c.skins[layer.skin].name


def is_tape(key: str) -> bool:
    """Whether something comes off a roll or reel of its own width."""
    if key in reference().cords:
        return True
    skin = reference().skins.get(key)
    return skin is not None and skin.family in _STUCK
