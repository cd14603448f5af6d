"""Templates of what is cut flat: walls, crossed plates with their half slots, guards, hard points, horns, braces."""

from __future__ import annotations

import math
from collections.abc import Iterator

from fletcher.core.common.quantities import F0, F1, in_mm
from fletcher.core.document.airframe import JointLayer, Part, StripLayer, WallLayer
from fletcher.core.document.joint import AcrossJoint, PlateJoint
from fletcher.core.materials.plates import plate_of
from fletcher.core.materials.tables import reference
from fletcher.core.plan.flat_pieces import SAND_MM, face_arcs, height_of
from fletcher.core.plan.wrapping import arc
from fletcher.core.section.assembly import line_span, outline_of, size_at
from fletcher.core.templates.geometry import half_slots
from fletcher.core.templates.sheets import Point, Stroke, Template, key_of

_ALONG = (("tip", "right"), ("up", "up"))
_FLAT = (("tip", "right"), ("nose", "up"), ("up", "out"))
_EDGE_MM = 2.5
"""[J] A screw sits so many of its diameters in from the edge of its plate."""
_EYE_MM = 1.6
"""[J] Hole of a horn for the wire of a rod, diameter."""


def plates_of(part: Part) -> Iterator[Template]:
    """Templates of the flat pieces of a part."""
    for layer in part.layers:
        if not layer.enabled:
            continue
        if isinstance(layer, WallLayer):
            yield from _walls(part, layer)
        elif isinstance(layer, StripLayer) and _is_guard(layer):
            yield _guard(part, layer)
        elif isinstance(layer, JointLayer) and isinstance(layer.joint, PlateJoint):
            yield from _hard_point(part, layer, layer.joint)
        elif isinstance(layer, JointLayer) and isinstance(layer.joint, AcrossJoint):
            yield from _braces(part, layer, layer.joint)


def _thick(layer: WallLayer) -> float:
    return layer.plies * plate_of(reference().sheets[layer.sheet], reference()).thickness


def _name(layer: WallLayer) -> str:
    return layer.name or reference().sheets[layer.sheet].name


def _walls(part: Part, layer: WallLayer) -> Iterator[Template]:
    start, end = line_span(layer, part)
    long = end - start
    grain = "along the arrow" if layer.grain == "along" else "across the arrow"
    if layer.face == "web":
        high = [round(height_of(part, layer, n) + SAND_MM, 2) for n in (0, 1)]
        slots, words = _slots(part, layer, long)
        outline = _slotted([(0.0, 0.0), (long, 0.0), (long, high[1]), (0.0, high[0])], slots, high)
        grain_line = ((long * 0.3, high[0] / 2), (long * 0.7, high[0] / 2))
        strokes: tuple[Stroke, ...] = (Stroke("CUT", outline, True), Stroke("MARK", grain_line))
        ends = f"{in_mm(high[0], F1)} at the inner end, {in_mm(high[1], F1)} at the outer, {SAND_MM:.0f} mm to sand."
        notes = (f"Grain {grain}. {ends}", *words)
        yield Template(
            key_of(part.name, "web", layer.id), f"web: {_name(layer)}", part.name, "", strokes, _ALONG, notes
        )
    elif layer.face == "level":
        yield _level(part, layer, long, grain)
    elif part.foam is not None and layer.face in ("upper", "lower", "both"):
        for face in ("upper", "lower") if layer.face == "both" else (layer.face,):
            a, b = face_arcs(part, layer, face)
            strokes = (Stroke("CUT", ((0.0, 0.0), (long, 0.0), (long, round(b, 2)), (0.0, round(a, 2))), True),)
            notes = (f"Grain {grain}. As wide as the face is long round its curve; its straight edge may be the tail.",)
            yield Template(
                key_of(part.name, face, layer.id), f"{face} face: {_name(layer)}", part.name, "", strokes, _FLAT, notes
            )


def _level(part: Part, layer: WallLayer, long: float, grain: str) -> Template:
    """A level plate from above, about its own middle line, with the slots of the uprights that cross it."""
    start, end = line_span(layer, part)
    wide = [size_at(part, y)[0] for y in (start, end)]
    strokes = [Stroke("MARK", ((0.0, 0.0), (long, 0.0)))]
    slots, words = [], []
    for other in part.layers:
        if other is not layer and isinstance(other, WallLayer) and other.enabled and other.face == "web":
            slot, deep = half_slots(_shared(part, layer, other), _thick(layer), _thick(other))
            at = wide[0] / 2 - other.root_percent / 100 * wide[0]
            slots.append((at, slot, deep))
            words.append(f"Slot for {_name(other)}: {in_mm(slot, F1)} wide, {in_mm(deep, F1)} from the outer end.")
    points: list[Point] = [(0.0, -wide[0] / 2), (long, -wide[1] / 2)]
    for at, slot, deep in sorted(slots):
        points += [(long, at - slot / 2), (long - deep, at - slot / 2), (long - deep, at + slot / 2),
                   (long, at + slot / 2)]  # fmt: skip
    points += [(long, wide[1] / 2), (0.0, wide[0] / 2)]
    strokes.append(Stroke("CUT", tuple((round(x, 3), round(y, 3)) for x, y in points), True))
    notes = (f"Grain {grain}.", *words)
    name = f"level plate: {_name(layer)}"
    return Template(key_of(part.name, "level", layer.id), name, part.name, "", tuple(strokes), _FLAT, notes)


def _shared(part: Part, one: WallLayer, other: WallLayer) -> float:
    """Stretch along which two plates run through each other, mm."""
    a, b = line_span(one, part), line_span(other, part)
    return max(min(a[1], b[1]) - max(a[0], b[0]), 0.0)


def _slots(part: Part, web: WallLayer, long: float) -> tuple[list[tuple[float, float, float]], list[str]]:
    """Slots in an upright for level plates, from its inner end: height above its foot as a share, width, depth."""
    found, words = [], []
    for other in part.layers:
        if isinstance(other, WallLayer) and other.enabled and other.face == "level":
            wide, deep = half_slots(_shared(part, web, other), _thick(web), _thick(other))
            if 0 < deep < long:
                found.append((other.root_percent / 100, wide, deep))
                says = f"{in_mm(wide, F1)} wide, {in_mm(deep, F1)} from the inner end"
                words.append(f"Slot for {_name(other)}: {says}.")
    return sorted(found), words


def _slotted(
    corners: list[Point], slots: list[tuple[float, float, float]], high: list[float]
) -> tuple[Point, ...]:  # fmt: skip
    """An upright with slots cut into its inner end; from the upper corner there down to the foot."""
    points = list(corners)
    for share, wide, deep in sorted(slots, reverse=True):
        at = share * high[0]
        points += [(0.0, at + wide / 2), (deep, at + wide / 2), (deep, at - wide / 2), (0.0, at - wide / 2)]
    return tuple((round(x, 3), round(y, 3)) for x, y in points)


def _is_guard(layer: StripLayer) -> bool:
    skin = layer.skin
    if not isinstance(skin, str):
        return False
    known = reference().skins.get(skin)
    return skin in reference().sheets or (known is not None and known.family == "guard")


def _guard(part: Part, layer: StripLayer) -> Template:
    """A guard or a patch of sheet, laid flat; how far behind the edge of the section it begins, round the curve."""
    start, end = line_span(layer, part)
    long = end - start
    widths = (layer.width_mm, layer.end_width_mm or layer.width_mm)
    outline = outline_of(part, reference())
    face = "upper" if layer.face == "both" else layer.face
    percents = (layer.root_percent, layer.tip_percent)
    edges = []
    for y, wide in zip((start, end), widths, strict=True):
        chord, thick = size_at(part, y)
        along = y / part.span_mm
        percent = percents[0] + along * (percents[1] - percents[0])
        middle = arc(outline, chord, thick, face, 0.0, min(max(percent / 100, 0.0), 1.0))
        edges.append(middle - wide / 2)
    corners = ((0.0, -widths[0] / 2), (long, -widths[1] / 2), (long, widths[1] / 2), (0.0, widths[0] / 2))
    strokes = (Stroke("CUT", corners, True), Stroke("MARK", ((0.0, 0.0), (long, 0.0))))
    c = reference()
    name = layer.name or (c.skins[layer.skin].name if layer.skin in c.skins else c.sheets[str(layer.skin)].name)
    round_it = min(edges) < 0
    where = (
        "Laid round the edge: its middle line lies "
        + " and ".join(in_mm(e + w / 2, F0) for e, w in zip(edges, widths, strict=True))
        + " behind it"
        if round_it
        else "Its front edge lies " + " and ".join(in_mm(e, F0) for e in edges) + " behind the leading edge"
    )
    notes = (f"{where}, along the face, at the inner and outer end. From {in_mm(start, F0)} out.",)
    key = key_of(part.name, "guard", layer.id)
    return Template(key, f"guard: {name}", part.name, "", strokes, _FLAT, notes)


def _ring(x: float, y: float, across: float, sort: str = "CUT") -> Stroke:
    """A round hole."""
    turn = [2 * math.pi * n / 36 for n in range(36)]
    points = tuple((round(x + across / 2 * math.cos(a), 3), round(y + across / 2 * math.sin(a), 3)) for a in turn)
    return Stroke("CUT" if sort == "CUT" else "MARK", points, True)


def _spread(count: int, long: float, wide: float, edge: float) -> list[Point]:
    """So many places in two rows over a plate, an edge away from its sides; one alone in the middle."""
    if count == 1:
        return [(long / 2, wide / 2)]
    first, second = math.ceil(count / 2), count // 2
    out = []
    for many, y in ((first, edge), (second, wide - edge)):
        step = 0.0 if many == 1 else (long - 2 * edge) / (many - 1)
        out += [(edge + n * step if many > 1 else long / 2, y) for n in range(many)]
    return out


def _hard_point(part: Part, layer: JointLayer, joint: PlateJoint) -> Iterator[Template]:
    """A hard point with the holes of its screws and the places of its keys; of a horn its blade too."""
    long, wide = joint.long_mm, joint.wide_mm
    strokes = [Stroke("CUT", ((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)), True)]
    edge = min(_EDGE_MM * joint.screw_mm, long / 2, wide / 2)
    strokes += [_ring(x, y, joint.screw_mm) for x, y in _spread(joint.screws, long, wide, edge)] if joint.screws else []
    inset = min(1.5 * joint.key_mm, long / 3, wide / 3)
    if joint.keys:
        strokes += [_ring(x, y, joint.key_mm, "MARK") for x, y in _spread(joint.keys, long, wide, inset)]
    sheet = reference().sheets[joint.sheet].name
    name = layer.name or ("horn plate" if joint.load == "rod" else "hard point")
    notes = [
        f"Of {sheet}. Its middle lies {in_mm(layer.start_mm, F0)} out, at {layer.chord_percent:.0f} % of the chord."
    ]
    if joint.keys:
        notes.append(f"Thin rings: holes in the foam, {in_mm(joint.key_mm, F1)} wide, {in_mm(joint.key_deep_mm, F0)} "
                     "deep, filled with glue.")  # fmt: skip
    key = key_of(part.name, "plate", layer.id)
    yield Template(key, name, part.name, "", tuple(strokes), _FLAT, tuple(notes))
    if joint.backed is not None:
        back = f"{name}: the same on the other side, of {reference().sheets[joint.backed].name}"
        yield Template(key_of(part.name, "backing", layer.id), back, part.name, "", tuple(strokes), _FLAT, ())
    if joint.load == "rod" and joint.arm_mm > 0:
        yield _blade(part, layer, joint, name)


def _blade(part: Part, layer: JointLayer, joint: PlateJoint, name: str) -> Template:
    """The blade of a horn: its eye as high above the face as the arm, straight above the hinge line at the front."""
    foot, high = min(joint.long_mm, joint.wide_mm), joint.arm_mm + 2.5 * _EYE_MM
    half = 2.5 * _EYE_MM
    outline = ((0.0, 0.0), (foot, 0.0), (half, high), (-half, high), (-half, high - 2 * half), (0.0, 0.0))
    strokes = (
        Stroke("CUT", outline[:-1], True), _ring(0.0, joint.arm_mm, _EYE_MM),
        Stroke("MARK", ((-6.0, 0.0), (foot + 6.0, 0.0))),
        Stroke("SCORE", ((0.0, 0.0), (0.0, joint.arm_mm))),
    )  # fmt: skip
    notes = (
        f"Eye {in_mm(joint.arm_mm, F1)} above the face, straight above the hinge line (scored). Make the other hand "
        "with the sheet turned over.",
    )
    arrows = (("nose", "left"), ("up", "up"))
    return Template(key_of(part.name, "horn", layer.id), f"{name}: blade", part.name, "", strokes, arrows, notes)


def _braces(part: Part, layer: JointLayer, joint: AcrossJoint) -> Iterator[Template]:
    """Braces that are cut from sheet, on edge; at the root of a pair of halves bent by the dihedral."""
    for n, brace in enumerate(joint.braces):
        if brace.deep_mm is None:
            continue
        at_root = layer.start_mm < 1e-6 and part.hand == "both"
        turn = math.radians(part.place.dihedral_deg) if at_root else 0.0
        long, deep = brace.each_side_mm, brace.deep_mm
        rise, lean = long * math.sin(turn), deep * math.sin(turn)
        reach = long * math.cos(turn)
        outline = (
            (0.0, 0.0), (reach, rise), (reach - lean, rise + deep * math.cos(turn)), (0.0, deep / math.cos(turn)),
            (-reach + lean, rise + deep * math.cos(turn)), (-reach, rise),
        )  # fmt: skip
        middle = (0.0, deep / math.cos(turn))
        strokes = (Stroke("CUT", tuple((round(x, 3), round(y, 3)) for x, y in outline), True),
                   Stroke("MARK", ((0.0, 0.0), middle)))  # fmt: skip
        bent = f", bent by {2 * part.place.dihedral_deg:.1f}°" if turn else ""
        notes = (f"{brace.count} of {reference().sheets[brace.stock].name}, {in_mm(long, F0)} into each side{bent}.",)
        key = key_of(part.name, "brace", layer.id, str(n + 1))
        yield Template(key, "brace", part.name, "", strokes, (("up", "up"),), notes)
