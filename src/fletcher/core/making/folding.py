r"""Folded boards laid flat: the developed sheet of a wing folded over a spar, or of a box, and the lines to work on it.

Lines run straight from root to tip; between them lie flat panels, unrolled one after the other by the lengths of their
sides and one diagonal, which is exact for flat panels. Lengths are those of the outer paper, which stays whole in a
fold. A fold by ψ over the outer paper needs the foam gone between its sides: a V of ψ (ψ/2 each side), or a foam-free
strip, t wide where one edge sits on the other at 90°, 2 t where the board is doubled back on itself.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, F1, G, in_mm, number
from fletcher.core.document.airframe import CutLayer, Part, WallLayer
from fletcher.core.document.shapes import FoldedSection, RectangleSection
from fletcher.core.estimate.effort import prices
from fletcher.core.materials.materials import Catalogue, Sheet
from fletcher.core.section.assembly import elements_of, line_span, outline_of
from fletcher.core.section.outline import Folded

FLUTES = 1.15
"""[J] Pitch of the flutes of a twin-wall sheet over its thickness, where nobody measured it."""
_ARC = 8
"""Panels into which a round nose is parted to lay it flat."""

LAP_MM = 12.0
"""Width of the lap by which a box is closed."""


class SheetLine(Result):
    """A line to work on the flat sheet, inner face up: "cut", "score" (inner paper only), "crease", "foam_out" (a strip
    `width_mm` wide, to the outer paper), "bevel" (leaning by `angle_deg` off the upright, over `width_mm`), "mark"."""

    kind: str
    points: list[tuple[float, float]]
    width_mm: float
    angle_deg: float
    says: str


class Piece(Result):
    """One piece of sheet, laid flat with its inner face up: x across, y along the part; its lines; how often it is
    wanted; whether it fits the stock sheet."""

    name: str
    sheet: str
    outline: list[tuple[float, float]]
    lines: list[SheetLine]
    count: int
    width_mm: float
    length_mm: float
    stock_mm: tuple[float, float] | None
    fits: bool
    says: str


class Fold(Result):
    """A way to fold this board: by how much, how wide the foam-free strip, or how the sides lean."""

    name: str
    turn_deg: float
    strip_mm: float
    bevel_deg: float


class Ends(Result):
    """What the folds make of the section at one end: nose radius, how far the paper turns there, the facet behind it,
    developed lengths of nose, lower and upper side, thickness of the tail, inner height of the spar; mm and degrees."""

    nose_radius_mm: float
    turn_deg: float
    facet_deg: float
    nose_mm: float
    lower_mm: float
    upper_mm: float
    tail_mm: float
    spar_mm: float


class Pattern(Result):
    """A folded part laid flat. `twisted_mm` is by how much panels are not quite flat; `alike` tells left from right."""

    pieces: list[Piece]
    folds: list[Fold]
    root: Ends | None
    tip: Ends | None
    twisted_mm: float
    alike: str
    notes: list[str]


@dataclass(frozen=True)
class _Flat:
    """Lines laid flat: their ends at root and tip, (lines, 2) each, and by how much panels are twisted."""

    root: Array
    tip: Array
    twisted: float

    def at(self, index: float, share: float) -> tuple[float, float]:
        """A point between two lines (a broken index) at a share of the way from root to tip."""
        n = min(int(index), len(self.root) - 2)
        t = index - n
        root, tip = (v[n] + t * (v[n + 1] - v[n]) for v in (self.root, self.tip))
        x, y = root + share * (tip - root)
        return round(float(x), 2), round(float(y), 2)

    def line(self, index: float, start: float = 0.0, end: float = 1.0) -> list[tuple[float, float]]:
        """A line from root to tip."""
        return [self.at(index, start), self.at(index, end)]


def unroll(root: Array, tip: Array) -> _Flat:
    """Lay lines (lines, 3) from root to tip flat, panel by panel; x grows from the first line on."""
    flat_root, flat_tip = np.zeros((len(root), 2)), np.zeros((len(root), 2))
    flat_tip[0] = 0.0, np.linalg.norm(tip[0] - root[0])
    twisted = 0.0
    for n in range(1, len(root)):
        a, b = flat_root[n - 1], flat_tip[n - 1]
        flat_root[n] = _third(a, b, np.linalg.norm(root[n] - root[n - 1]), np.linalg.norm(root[n] - tip[n - 1]))
        flat_tip[n] = _third(flat_root[n], b, np.linalg.norm(tip[n] - root[n]), np.linalg.norm(tip[n] - tip[n - 1]))
        across = np.linalg.norm(flat_tip[n] - flat_root[n - 1])
        twisted = max(twisted, abs(float(across - np.linalg.norm(tip[n] - root[n - 1]))))
    return _Flat(flat_root, flat_tip, twisted)


def _third(a: Array, b: Array, from_a: np.floating, from_b: np.floating) -> Array:
    """The point at given distances from a and b, to the right of the way from a to b."""
    way = b - a
    length = float(np.linalg.norm(way))
    along = (float(from_a) ** 2 - float(from_b) ** 2 + length**2) / (2 * length)
    off = np.sqrt(max(float(from_a) ** 2 - along**2, 0.0))
    unit = way / length
    return np.asarray(a + along * unit + off * np.array([unit[1], -unit[0]]))


def sized(name: str, key: str, outline: list[tuple[float, float]], lines: list[SheetLine], count: int) -> Piece:
    """A piece of a sheet with its size, held against the stock sheet."""
    points = np.array(outline)
    width, length = (float(v) for v in points.max(0) - points.min(0))
    price = prices().get(key)
    stock = None if price is None or not price.length_mm or not price.width_mm else (price.length_mm, price.width_mm)
    fits = stock is None or (max(width, length) <= max(stock) and min(width, length) <= min(stock))
    says = "fits on one stock sheet"
    if stock is None:
        says = "stock size unknown"
    elif not fits:
        over = max(max(width, length) - max(stock), min(width, length) - min(stock))
        says = (
            f"is {in_mm(over, F0)} too large for a stock sheet of {number(max(stock), 'mm', G)} × "
            f"{in_mm(min(stock), G)}: join two lengths "
            "over a doubler, away from the root"
        )
    return Piece(
        name=name, sheet=key, outline=outline, lines=lines, count=count, width_mm=width, length_mm=length,
        stock_mm=stock, fits=fits, says=says,
    )  # fmt: skip


def folds_of(thickness: float) -> list[Fold]:
    """Folds of 90° and 180° of a board."""
    return [
        Fold(name="90° lapped: one edge sits on the other", turn_deg=90, strip_mm=thickness, bevel_deg=0),
        Fold(name="90° mitred: both edges bevelled", turn_deg=90, strip_mm=2 * thickness, bevel_deg=45),
        Fold(name="180° square fold", turn_deg=180, strip_mm=2 * thickness, bevel_deg=0),
        Fold(name="180° round fold", turn_deg=180, strip_mm=float(np.pi * thickness), bevel_deg=0),
    ]


def flute_vee(thick: float, turn_deg: float, pitch: float) -> tuple[float, int]:
    """Width of the V that is slit out of the inner liner of a twin-wall sheet so that it folds by an angle, 2h tan ψ/2,
    mm; and how many whole flutes that takes."""
    wide = 2 * thick * float(np.tan(np.radians(turn_deg) / 2))
    return wide, int(np.ceil(wide / pitch - 1e-9))


def strip_turn(thick: float, strip: float) -> float:
    """By how many degrees a twin-wall sheet folds where one strip of its inner liner is taken out, 2 atan(s/2h)."""
    return 2 * float(np.degrees(np.arctan(strip / (2 * thick))))


def ends_of(outline: Folded, chord: float, thickness: float) -> Ends:
    """What the folds make of one section."""
    one = np.array(chord), np.array(thickness)
    r, alpha = (float(v) for v in outline.nose_shape(*one))
    knots = np.array(outline.knots(chord, thickness))
    upper = float(np.hypot(*np.diff(knots, axis=0).T).sum())
    return Ends(
        nose_radius_mm=r,
        turn_deg=180 - float(np.degrees(alpha)),
        facet_deg=float(np.degrees(alpha)),
        nose_mm=r * (np.pi - alpha),
        lower_mm=chord - r,
        upper_mm=upper,
        tail_mm=float(outline.tail_mm(*one)),
        spar_mm=thickness - 2 * outline.board_mm,
    )


def pattern_of(part: Part, catalogue: Catalogue, other: Part | None = None) -> Pattern | None:
    """The flat sheets of a checked folded part or box; None for a part that is not folded. `other` is the part on the
    other side, if it is kept apart."""
    if isinstance(part.section, FoldedSection):
        return _wing(part, part.section, catalogue, other)
    boxes = [la for la in part.layers if isinstance(la, WallLayer) and la.enabled and la.face == "wrapped"]
    if part.foam is None and isinstance(part.section, RectangleSection) and boxes:
        return _box(part, boxes[0], catalogue, other)
    return None


def _wing(part: Part, section: FoldedSection, catalogue: Catalogue, other: Part | None) -> Pattern:
    outline = outline_of(part, catalogue)
    assert isinstance(outline, Folded)
    t = outline.board_mm
    sizes = [(part.root_chord_mm, part.root_thickness_mm), (part.tip_chord_mm, part.tip_thickness_mm)]
    ends = [ends_of(outline, *size) for size in sizes]
    lines3, names = _wing_lines(part, outline, sizes)
    flat = unroll(*lines3)
    first = {name: names.index(name) for name in dict.fromkeys(names)}
    nose_start, nose_end = first["nose"], len(names) - 1 - names[::-1].index("nose")
    lines = _nose_lines(flat, section, ends, nose_start, nose_end, t)
    for name in (n for n in first if n.startswith("crease")):
        lines.append(_mark("score", flat.line(first[name]), "score the inner paper, then fold over a straight edge"))
    facet, slope = ends[0].facet_deg, _tail_slope(outline, *sizes[0])
    lines.append(
        _mark("crease", flat.line(first["spar front"]), f"over the front edge of the spar, fold angle {facet:.0f}°")
    )
    lines.append(
        _mark("crease", flat.line(first["spar rear"]), f"over the rear edge of the spar, fold angle {slope:.0f}°")
    )
    if section.tail_bevel_mm > 0:
        for index, side in ((0, "lower"), (len(names) - 1, "upper")):
            lines.append(
                SheetLine(
                    kind="bevel", points=flat.line(index), width_mm=section.tail_bevel_mm,
                    angle_deg=90 - slope, says=f"thin the {side} tail from inside over "
                                               f"{in_mm(section.tail_bevel_mm, G)}",
                )
            )  # fmt: skip
    for share, name in ((outline.front, "front"), (outline.rear, "rear")):
        marks = [(1 - share) * c for c, _ in sizes]  # the lower side lies from tail to nose
        ends2 = [
            flat.root[0] + (flat.root[nose_start] - flat.root[0]) * marks[0] / ends[0].lower_mm,
            flat.tip[0] + (flat.tip[nose_start] - flat.tip[0]) * marks[1] / ends[1].lower_mm,
        ]
        points = [(round(float(x), 2), round(float(y), 2)) for x, y in ends2]
        lines.append(_mark("mark", points, f"position of the spar’s {name} wall"))
    border = [*map(_pair, flat.root), *map(_pair, flat.tip[::-1])]
    pieces = [sized("Skin, inner face up", section.board, border, lines, part.count)]
    pieces.append(_spar(part, section, outline, sizes))
    notes = []
    if 2 * ends[0].nose_radius_mm < 2 * t:
        notes.append(
            f"The nose is {in_mm(2 * ends[0].nose_radius_mm, F1)} high, less than two boards of "
            f"{in_mm(t, G)}: their inner "
            "edges meet. Bevel both beside the strip until they close."
        )
    return Pattern(
        pieces=pieces, folds=folds_of(t), root=ends[0], tip=ends[1], twisted_mm=flat.twisted,
        alike=_alike(part, other, catalogue), notes=notes,
    )  # fmt: skip


def _pair(point: Array) -> tuple[float, float]:
    return round(float(point[0]), 2), round(float(point[1]), 2)


def _mark(kind: str, points: list[tuple[float, float]], says: str) -> SheetLine:
    return SheetLine(kind=kind, points=points, width_mm=0.0, angle_deg=0.0, says=says)


def _tail_slope(outline: Folded, chord: float, thickness: float) -> float:
    """Angle (degrees) at which the upper side falls to the tail."""
    tail = float(outline.tail_mm(np.array(chord), np.array(thickness)))
    return float(np.degrees(np.arctan2(thickness - tail, (1 - outline.rear) * chord)))


def _wing_lines(part: Part, outline: Folded, sizes: list[tuple[float, float]]) -> tuple[tuple[Array, Array], list[str]]:
    """Lines of the outer paper from the lower tail round the nose to the upper tail, at root and tip, (lines, 3)."""
    sections, names = [], []
    for n, (chord, thickness) in enumerate(sizes):
        r, alpha = (float(v) for v in outline.nose_shape(np.array(chord), np.array(thickness)))
        turn = np.linspace(-0.5 * np.pi, 0.5 * np.pi - alpha, _ARC + 1)
        # from below the nose forwards and up, the chord line lying aft
        arc = [(r - r * np.cos(a), r + r * np.sin(a)) for a in turn]
        upper = outline.knots(chord, thickness)[1:]
        points = [(chord, 0.0), *arc, *upper]
        names = ["lower tail", *["nose"] * len(arc)]
        names += [f"crease {i}" for i in range(len(upper) - 3)] + ["spar front", "spar rear", "upper tail"]
        y = 0.0 if n == 0 else part.span_mm
        setback = 0.0 if n == 0 else part.tip_setback_mm
        sections.append(np.array([(x + setback, y, z) for x, z in points]))
    return (sections[0], sections[1]), names


def _nose_lines(
    flat: _Flat, section: FoldedSection, ends: list[Ends], start: int, end: int, t: float
) -> list[SheetLine]:
    """What is worked at the nose."""
    turn = ends[0].turn_deg
    if section.nose == "strip":
        middle = 0.5 * (start + end)
        says = (
            f"remove foam over {in_mm(section.nose_mm, G)} down to the outer paper; radius "
            f"{in_mm(ends[0].nose_radius_mm, F1)}"
        )
        return [SheetLine(kind="foam_out", points=flat.line(middle), width_mm=section.nose_mm, angle_deg=0, says=says)]
    if section.nose == "bevels":
        lean = turn / 4
        width = t * np.tan(np.radians(lean))
        says = f"V-groove to the outer paper, {lean:.0f}° each side; the two close to {turn:.0f}°"
        return [
            SheetLine(kind="bevel", points=flat.line(i), width_mm=2 * float(width), angle_deg=lean, says=says)
            for i in (start, end)
        ]
    places = np.linspace(start, end, section.nose_creases)
    says = f"crease, {turn / section.nose_creases:.0f}° each"
    return [_mark("crease", flat.line(float(i)), says) for i in places]


def _spar(part: Part, section: FoldedSection, outline: Folded, sizes: list[tuple[float, float]]) -> Piece:
    """The spar: front wall, top and rear wall folded from one strip, open below."""
    t, length = outline.board_mm, part.span_mm
    widths = [(d - 2 * t, (outline.rear - outline.front) * c) for c, d in sizes]
    places = [np.cumsum([0.0, high, wide, high]) for high, wide in widths]
    # straight folds, laid about the middle of the top
    middle = [p[1] + 0.5 * w[1] for p, w in zip(places, widths, strict=True)]
    root = [(float(x - middle[0]), 0.0) for x in places[0]]
    tip = [(float(x - middle[1]), length) for x in places[1]]
    shift = -min(x for x, _ in (*root, *tip))
    root, tip = ([(round(x + shift, 2), y) for x, y in line] for line in (root, tip))
    says = f"foam out {in_mm(t, G)} wide to the outer paper, fold 90°: the wall sits on the top's edge"
    lines = [SheetLine(kind="foam_out", points=[root[i], tip[i]], width_mm=t, angle_deg=0, says=says) for i in (1, 2)]
    return sized("Spar, inner face up", section.board, [*root, *tip[::-1]], lines, part.count)


def _box(part: Part, wall: WallLayer, catalogue: Catalogue, other: Part | None) -> Pattern:
    """Four walls and a lap in one sheet, folded over three edges."""
    sheet = catalogue.sheets[wall.sheet]
    t = sheet.thickness_mm.typ
    corners = []
    for chord, depth, y, setback in (
        (part.root_chord_mm, part.root_thickness_mm, 0.0, 0.0),
        (part.tip_chord_mm, part.tip_thickness_mm, part.span_mm, part.tip_setback_mm),
    ):
        # lower from rear to front, front up, upper from front to rear, rear down
        around = [(chord, -depth / 2), (0.0, -depth / 2), (0.0, depth / 2), (chord, depth / 2), (chord, -depth / 2)]
        corners.append(np.array([(x + setback, y, z) for x, z in around]))
    flat = unroll(corners[0], corners[1])
    kind, wide, says = _box_fold(sheet)
    lines = [SheetLine(kind=kind, points=flat.line(i), width_mm=wide, angle_deg=0, says=says) for i in (1, 2, 3)]
    panels = {"lower": (0, True), "front": (1, False), "upper": (2, False), "rear": (3, True)}
    elements = elements_of(part, catalogue)
    for hole in elements.openings:
        layer = part.layers[hole.line]
        if not isinstance(layer, CutLayer) or hole.face not in panels:
            continue
        start, end = (v / part.span_mm for v in line_span(layer, part))
        panel, back = panels[hole.face]
        across = (0.0, 1.0)
        if hole.face in ("upper", "lower"):
            at = np.array([start * part.span_mm, end * part.span_mm])
            edges = [np.clip(e / elements.chord(at), 0, 1) for e in elements.edges(hole, at)]
            across = (float(edges[0].mean()), float(edges[1].mean()))
        a, b = (1 - v if back else v for v in across)
        points = [
            flat.at(panel + a, start),
            flat.at(panel + b, start),
            flat.at(panel + b, end),
            flat.at(panel + a, end),
        ]
        lines.append(_mark("cut", [*points, points[0]], f"{layer.name or 'opening'}: cut out before folding"))
    border = [*map(_pair, flat.root), *map(_pair, flat.tip[::-1])]
    pieces = [sized("Box, inner face up", wall.sheet, border, lines, part.count)]
    if sheet.build == "twin_wall":
        lap = f"Closed along one edge: leave {in_mm(LAP_MM, G)} of the outer liner on one side as a lap, or tape it."
        inner = "Lengths are for the outer liner; flutes run along the part: look before you cut."
        return Pattern(
            pieces=pieces, folds=[], root=None, tip=None, twisted_mm=flat.twisted,
            alike=_alike(part, other, catalogue), notes=[lap, inner],
        )  # fmt: skip
    notes = [
        f"Closed along one edge: leave {in_mm(LAP_MM, G)} of outer paper free of foam on one side as a "
        "lap, or tape it.",
        "Lengths are for the outer paper; the inside is two board thicknesses smaller each way.",
    ]
    return Pattern(
        pieces=pieces, folds=folds_of(t), root=None, tip=None, twisted_mm=flat.twisted,
        alike=_alike(part, other, catalogue), notes=notes,
    )  # fmt: skip


def _box_fold(sheet: Sheet) -> tuple[str, float, str]:
    """What is done along an edge of a box that folds by 90°: kind of line, width, and words."""
    t = sheet.thickness_mm.typ
    if sheet.build != "twin_wall":
        return "foam_out", t, f"foam out {in_mm(t, G)} wide to the outer paper, fold 90°"
    pitch = FLUTES * t
    wide, flutes = flute_vee(t, 90.0, pitch)
    one = strip_turn(t, pitch)
    says = (
        f"slit the inner liner and take out {in_mm(wide, G)}, {flutes} flutes of about {in_mm(pitch, F1)}, fold 90°; "
        f"one strip alone turns {one:.0f}°"
    )
    return "score", wide, says


def _alike(part: Part, other: Part | None, catalogue: Catalogue) -> str:
    """Whether left and right come out alike."""
    if other is None:
        if part.count == 2:
            return "Left and right are mirror images: turn the template over for one set, same paper grain direction."
        return "Single piece: fold both sides to the same marks."
    mine, theirs = pattern_of(part, catalogue), pattern_of(other, catalogue)
    if mine is None or theirs is None:
        return f"“{other.name}” is not folded: left and right differ."
    gaps = [
        max(abs(a.width_mm - b.width_mm), abs(a.length_mm - b.length_mm))
        for a, b in zip(mine.pieces, theirs.pieces, strict=True)
    ]
    if max(gaps) < 0.3:
        return f"“{other.name}” lies flat alike, mirrored: within {in_mm(max(gaps), F1)}."
    return f"“{other.name}” differs by up to {in_mm(max(gaps), F1)} laid flat: make them alike, or it will turn."
