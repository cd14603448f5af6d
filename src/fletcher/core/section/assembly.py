"""From the document to elements: a lay-up line "pair of rods" becomes two bars, "film wrapped" four membranes, a wall
its plates. A cut parts the membranes laid before it and takes out foam.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

import numpy as np

from fletcher.core.document.airframe import (
    BarLayer,
    CordLayer,
    CutLayer,
    FilmLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.document.joint import (
    AcrossJoint,
    BandedJoint,
    BoltedJoint,
    BondJoint,
    LapJoint,
    PlateJoint,
    WallJoint,
)
from fletcher.core.document.shapes import EllipseSection, FoldedSection, FourDigitSection, PointsSection
from fletcher.core.layup.laminates import skin_of
from fletcher.core.layup.stackup import bare
from fletcher.core.layup.weighing import bar_of, sheet_of
from fletcher.core.materials.materials import Catalogue, Fitting, Range, Sheet
from fletcher.core.materials.plates import lying, plate_of
from fletcher.core.section.elements import (
    NOSE,
    TAIL,
    VOID,
    Edge,
    Elements,
    Hole,
    JointStock,
    Membrane,
    PlacedBar,
    PlacedCord,
    PlacedFitting,
    PlacedJoint,
    PlacedRibs,
)
from fletcher.core.section.outline import Ellipse, Folded, FourDigit, Outline, Points, Rectangle, faces
from fletcher.core.section.parted import parted
from fletcher.core.section.piece_of_sheet import taken_up


def outline_of(part: Part, catalogue: Catalogue) -> Outline:
    """The outline family of a part; a folded one depends on its board."""
    s = part.section
    if isinstance(s, FoldedSection):
        return Folded(
            board_mm=catalogue.sheets[s.board].thickness_mm.typ,
            front=s.spar_front_percent / 100,
            rear=s.spar_rear_percent / 100,
            nose=s.nose,
            nose_mm=s.nose_mm,
            nose_creases=s.nose_creases,
            creases=tuple(sorted(s.creases_percent)),
            rise=s.crease_rise_percent / 100,
            tail_bevel_mm=s.tail_bevel_mm,
            ratio=part.root_thickness_mm / part.root_chord_mm,
        )
    if isinstance(part.section, FourDigitSection):
        return FourDigit(part.section.camber_percent / 100, part.section.camber_position_percent / 100)
    if isinstance(part.section, PointsSection):
        return Points(part.section.upper, part.section.lower)
    return Ellipse() if isinstance(part.section, EllipseSection) else Rectangle()


def size_at(part: Part, y: float) -> tuple[float, float]:
    """Chord and thickness of a part at a station, mm."""
    share = y / part.span_mm
    return (
        part.root_chord_mm + share * (part.tip_chord_mm - part.root_chord_mm),
        part.root_thickness_mm + share * (part.tip_thickness_mm - part.root_thickness_mm),
    )


def height_at(part: Part, y: float, percent: float, catalogue: Catalogue) -> float:
    """Height between the faces of a part at a station and a place of its chord, mm."""
    chord, thick = size_at(part, y)
    at, outline = np.array([percent / 100]), outline_of(part, catalogue)
    low, high = faces(outline, at, np.array([chord]), np.array([thick]))
    return float(np.ravel(high - low)[0])


def line_span(layer: Layer, part: Part) -> tuple[float, float]:
    """Start and end of a lay-up line, mm; of a fitting without an end see `fitting_span`."""
    return layer.start_mm, part.span_mm if layer.end_mm is None else layer.end_mm


def fitting_span(layer: FittingLayer, part: Part, catalogue: Catalogue) -> tuple[float, float]:
    """Start and end of something carried, with the air around it, mm."""
    stock = catalogue.fittings[layer.stock]
    if layer.end_mm is not None or stock.running:
        return line_span(layer, part)
    return layer.start_mm, layer.start_mm + stock.long_mm + (2 * layer.clearance_mm if layer.pocket else 0.0)


_FACES = ("lower", "upper")
_COVERS = {
    "both": ("upper", "lower"),
    "wrapped": ("upper", "lower", "front", "rear"),
    "sides": ("front", "rear"),
}


def _centred(layer: StripLayer | CutLayer, widths: tuple[float, float]) -> tuple[Edge, Edge]:
    """Front and rear edge of something of a width at root and tip, centred on a line."""
    root, tip = layer.root_percent / 100, layer.tip_percent / 100
    front = Edge(root, tip, -widths[0] / 2, -widths[1] / 2)
    return front, Edge(root, tip, widths[0] / 2, widths[1] / 2)


def _strip_widths(layer: StripLayer, part: Part) -> tuple[float, float]:
    """Width at root and tip of the part, so that the strip has its widths at its own ends."""
    if layer.end_width_mm is None:
        return layer.width_mm, layer.width_mm
    start, end = line_span(layer, part)
    slope = (layer.end_width_mm - layer.width_mm) / (end - start)
    return layer.width_mm - slope * start, layer.width_mm + slope * (part.span_mm - start)


def elements_of(part: Part, catalogue: Catalogue) -> Elements:
    """Turn a checked part into elements. Lines that are switched off are left out. Where the outline is the finished
    one, the core is what is left under its skins."""
    part = bare(part, catalogue)
    membranes: list[Membrane] = []
    bars: list[PlacedBar] = []
    holes: list[Hole] = []
    cords: list[PlacedCord] = []
    openings: list[Hole] = []
    fittings: list[PlacedFitting] = []
    joints: list[PlacedJoint] = []
    beneath = dict.fromkeys(("upper", "lower", "front", "rear", "web", "level"), 0.0)
    hollow = part.foam is None
    shape = [isinstance(la, CutLayer) and la.shapes for la in part.layers]
    for line in sorted(range(len(part.layers)), key=shape.__getitem__):  # the outline is cut out of all the rest
        layer = part.layers[line]
        if not layer.enabled:
            continue
        if isinstance(layer, BarLayer):
            bars += _bars(layer, line, part, catalogue)
        elif isinstance(layer, CordLayer):
            start, end = line_span(layer, part)
            for face in ("front", "rear") if layer.face == "both" else (layer.face,):
                cords.append(PlacedCord(line, catalogue.cords[layer.cord], face, start, end))
        elif isinstance(layer, JointLayer | HingeLayer):
            joints.append(place_joint(layer, line, part, catalogue))
        elif isinstance(layer, WallLayer):
            membranes += _walls(layer, line, part, catalogue, beneath, hollow)
        elif isinstance(layer, CutLayer | FittingLayer):
            if isinstance(layer, FittingLayer):
                fittings.append(_fitting(layer, line, part, catalogue))
                if not layer.pocket:
                    continue
                hole = _pocket(layer, line, part, catalogue)
            else:
                hole = _hole(layer, line, part)
            membranes = [piece for m in membranes for piece in parted(m, hole, part)]
            openings.append(hole)
            if hole.depth_mm > 0 and not hollow:
                holes.append(hole)
        else:
            membranes += _skins(layer, line, part, catalogue, beneath, tuple(membranes))
    if hollow:
        walled = {m.face for m in membranes if m.plate is not None}
        membranes = [
            piece
            for m in membranes
            for piece in ((m,) if m.plate is not None or m.face in walled else _over_an_edge(m, membranes, part))
        ]
        # uprights stand between the faces that run over their ends
        low, high = (
            max((m.plies * m.plate.thickness for m in membranes if m.face == f and m.plate), default=0.0)
            for f in _FACES
        )
        membranes = [replace(m, trim_mm=(low, high)) if m.upright and m.plate else m for m in membranes]
    membranes = [replace(m, slack=True) if m.skin.pull == "none" else m for m in membranes]
    membranes = [_between_caps(m, bars) if m.face == "web" else m for m in membranes]
    foam = VOID if part.foam is None else catalogue.foams[part.foam]
    return Elements(
        part, outline_of(part, catalogue), foam, tuple(membranes), tuple(bars), tuple(holes), tuple(cords),
        tuple(openings), tuple(fittings), tuple(joints), _ribs(part, catalogue),
    )  # fmt: skip


def _ribs(part: Part, catalogue: Catalogue) -> PlacedRibs | None:
    """Ribs or formers, one at either end and so many between that none lie further apart than asked."""
    if part.foam is not None or part.rib_sheet is None:
        return None
    bays = part.bays
    sheet = catalogue.sheets[part.rib_sheet]
    return PlacedRibs(sheet, bays + 1, part.span_mm / bays, 1 - part.rib_open_percent / 100)


def joint_span(layer: JointLayer, part: Part) -> tuple[float, float]:
    """The stretch that a joint takes up, mm."""
    at, j = layer.start_mm, layer.joint
    before = after = 1.0
    if isinstance(j, BondJoint):
        of = next((la for la in part.layers if la.id == j.of), None)
        first, last = (at, at) if of is None else line_span(of, part)
        return (first, last) if j.long_mm is None else (max(first, at), min(last, at + j.long_mm))
    if isinstance(j, AcrossJoint):
        before = after = max([1.0, *(b.each_side_mm for b in j.braces)])
    elif isinstance(j, LapJoint):
        before = after = j.overlap_mm / 2
    elif isinstance(j, WallJoint):
        before = after = max([1.0, *(s.each_side_mm for s in j.straps)])
        if j.along_mm is not None:
            before, after = 0.0, j.along_mm
    elif isinstance(j, PlateJoint):
        before, after = 0.0, j.long_mm
    elif isinstance(j, BoltedJoint):
        before, after = 1.0, j.apart_mm + 1
    elif isinstance(j, BandedJoint):
        after = 20.0
    start = max(0.0, at - before)
    return start, min(max(at + after, start + 2), part.span_mm)


def stock_keys(layer: JointLayer) -> Iterator[tuple[str, str, tuple[str, ...]]]:
    """What a joint is made with: the field that names it, the key, and the tables in which it may stand."""
    j = layer.joint
    if isinstance(j, AcrossJoint):
        for n, brace in enumerate(j.braces):
            yield f"braces[{n}].stock", brace.stock, ("bars", "sheets")
    elif isinstance(j, WallJoint):
        for n, strap in enumerate(j.straps):
            yield f"straps[{n}].stock", strap.stock, ("bars", "sheets", "skins")
    elif isinstance(j, PlateJoint):
        yield "sheet", j.sheet, ("sheets",)
        if j.backed is not None:
            yield "backed", j.backed, ("sheets",)
    elif isinstance(j, BoltedJoint):
        yield "bolt", j.bolt, ("fasteners",)
        if j.plate is not None:
            yield "plate", j.plate, ("sheets",)
    elif isinstance(j, BandedJoint):
        yield "band", j.band, ("fasteners",)
        yield "peg", j.peg, ("bars",)


def place_joint(layer: JointLayer | HingeLayer, line: int, part: Part, catalogue: Catalogue) -> PlacedJoint:
    """A joint or hinge at its place, with the stocks that it names."""
    if isinstance(layer, HingeLayer):
        start, end = line_span(layer, part)
        return PlacedJoint(line, None, start, start, end)
    stocks: list[tuple[str, JointStock]] = []
    for _, key, tables in stock_keys(layer):
        found = next(getattr(catalogue, t)[key] for t in tables if key in getattr(catalogue, t))
        stocks.append((key, found))
    return PlacedJoint(line, layer.joint, layer.start_mm, *joint_span(layer, part), tuple(stocks))


def _bars(layer: BarLayer, line: int, part: Part, catalogue: Catalogue) -> Iterator[PlacedBar]:
    start, end = line_span(layer, part)
    for side in ("upper", "lower") if layer.place == "pair" else (layer.place,):
        sleeve = layer.sleeve_of(side if layer.place == "pair" else "")
        fluted = flutes_of(part, side, catalogue) if layer.in_flute else None
        cover = None if fluted is None else fluted.wall_thickness_mm
        yield PlacedBar(
            line=line,
            stock=bar_of(layer, catalogue),
            side=side,
            start=start,
            end=end,
            root_fraction=layer.root_percent / 100,
            tip_fraction=layer.tip_percent / 100,
            cover_mm=cover if cover is not None else layer.cover_mm,
            on_edge=layer.on_edge,
            joined_at_root=layer.joined_at_root,
            joiner=layer.joiner,
            taper=layer.end_size_percent / 100,
            sleeve=catalogue.bars[sleeve.stock] if sleeve else None,
            sleeve_span=(sleeve.start_mm, sleeve.end_mm) if sleeve else (0.0, 0.0),
            splices=tuple(s.of_face(side) if layer.place == "pair" else s for s in layer.splices),
            flute=fluted,
        )


def flutes_of(part: Part, side: str, catalogue: Catalogue) -> Sheet | None:
    """The twin-wall sheet on a face of a part, if there is one."""
    for layer in part.layers:
        if isinstance(layer, WallLayer) and layer.enabled and layer.face in (side, "both", "wrapped"):
            sheet = catalogue.sheets.get(layer.sheet)
            if sheet is not None and sheet.build == "twin_wall":
                return sheet
    return None


def _fitting(layer: FittingLayer, line: int, part: Part, catalogue: Catalogue) -> PlacedFitting:
    stock = catalogue.fittings[layer.stock]
    start, end = fitting_span(layer, part, catalogue)
    grams = stock.mass_g
    if layer.weighed_g is not None:
        grams = Range(0.98 * layer.weighed_g, layer.weighed_g, 1.02 * layer.weighed_g)
    elif stock.running:
        share = (end - start) / 1e3
        grams = Range(grams.low * share, grams.typ * share, grams.high * share)
    return PlacedFitting(line, stock, start, end, grams)


def fitting_size(layer: FittingLayer, stock: Fitting) -> tuple[float, float]:
    """Width along the chord and height of a fitting as it lies, mm; one with a length lies on its broad side."""
    flat = layer.upright == stock.running
    return (stock.high_mm, stock.wide_mm) if flat else (stock.wide_mm, stock.high_mm)


def pocket_size(layer: FittingLayer, catalogue: Catalogue) -> tuple[float, float]:
    """Width along the chord and depth of the pocket of a fitting, mm: its own size and the air around it."""
    across, deep = fitting_size(layer, catalogue.fittings[layer.stock])
    return across + 2 * layer.clearance_mm, deep + layer.clearance_mm


def _pocket(layer: FittingLayer, line: int, part: Part, catalogue: Catalogue) -> Hole:
    start, end = fitting_span(layer, part, catalogue)
    width, depth = pocket_size(layer, catalogue)
    root, tip = layer.root_percent / 100, layer.tip_percent / 100
    front, rear = (Edge(root, tip, s * width / 2, s * width / 2) for s in (-1, 1))
    return Hole(line, layer.face, front, rear, depth, start, end, 1.0)


def _skins(
    layer: StripLayer | FilmLayer,
    line: int,
    part: Part,
    catalogue: Catalogue,
    beneath: dict[str, float],
    below: tuple[Membrane, ...],
) -> Iterator[Membrane]:
    skin = lying(layer.skin, catalogue) if isinstance(layer.skin, str) else skin_of(layer.skin, catalogue)
    start, end = line_span(layer, part)
    strip = isinstance(layer, StripLayer)
    front, rear = _centred(layer, _strip_widths(layer, part)) if isinstance(layer, StripLayer) else (NOSE, TAIL)
    plies: list[tuple[float, float, float]] = [(float(layer.plies), 0.0, end)]
    if isinstance(layer, StripLayer) and layer.drop_mm > 0 and layer.plies > 1:
        t = skin.total_thickness_mm
        plies = [(1.0, n * t, end - n * layer.drop_mm) for n in range(layer.plies)]
    elif isinstance(layer, FilmLayer) and layer.tape_width_mm is not None:
        lapped = layer.tape_width_mm / (layer.tape_width_mm - layer.overlap_mm)
        plies = [(layer.plies * lapped, 0.0, end)]
    piece = strip and isinstance(layer.skin, str) and layer.skin not in catalogue.skins
    for face in _COVERS.get(layer.face, (layer.face,)):
        for count, lifted, stop in plies:
            made = Membrane(
                line=line, skin=skin, plies=count, face=face, start=start, end=stop, strip=strip, front=front,
                rear=rear, beneath_mm=beneath[face] + lifted,
            )  # fmt: skip
            yield replace(made, takes=taken_up(made, part, catalogue, below)) if piece else made
        if not strip:
            beneath[face] += layer.plies * skin.total_thickness_mm


def _walls(
    layer: WallLayer, line: int, part: Part, catalogue: Catalogue, beneath: dict[str, float], hollow: bool
) -> Iterator[Membrane]:
    plate = plate_of(sheet_of(layer, catalogue), catalogue, layer.paper, layer.grain)
    start, end = line_span(layer, part)
    place = Edge(layer.root_percent / 100, layer.tip_percent / 100)
    for face in _COVERS.get(layer.face, (layer.face,)):
        inner = face in ("web", "level")
        yield Membrane(
            line=line,
            skin=plate.skin,
            plies=layer.plies,
            face=face,
            start=start,
            end=end,
            beneath_mm=0.0 if inner else beneath[face],
            front=place if face == "web" else NOSE,
            rear=place if face == "web" else TAIL,
            height=place if face == "level" else NOSE,
            plate=plate,
            out=0 if inner else -1 if hollow else 1,
        )
        if not inner:
            beneath[face] += layer.plies * plate.thickness


def _over_an_edge(m: Membrane, others: list[Membrane], part: Part) -> tuple[Membrane, ...]:
    """What a skin does where no wall lies beneath it: a strip over the edge of an upright plate lies on the edge and is
    folded down both sides; anything else hangs over an open bay."""
    slack = (replace(m, slack=True),)
    if not m.strip:
        return slack
    middle = 0.5 * (m.start + m.end) / part.span_mm
    chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * middle
    front, rear = m.front.at(middle, chord), m.rear.at(middle, chord)
    web = next((w for w in others if w.face == "web" and w.plate is not None and w.start < m.end and w.end > m.start
                and front <= w.front.at(middle, chord) <= rear), None)  # fmt: skip
    if web is None or web.plate is None:
        return slack
    thick, place = web.thickness_mm, web.front
    start, end = max(m.start, web.start), min(m.end, web.end)

    def piece(share: Callable[[float], float], lowered: float) -> Membrane:
        """So much of its width, at the edge or lowered from it."""
        root, tip = (share(r - f) / 2 for f, r in ((m.front.root_mm, m.rear.root_mm), (m.front.tip_mm, m.rear.tip_mm)))
        return replace(
            m, start=start, end=end, beneath_mm=m.beneath_mm - lowered, folded_over=web.plate,
            front=Edge(place.root, place.tip, -root, -tip), rear=Edge(place.root, place.tip, root, tip),
        )  # fmt: skip

    on_edge = piece(lambda w: min(w, thick), 0.0)
    down = 0.5 * max(0.5 * (rear - front - thick), 0.0)
    pieces = (on_edge, piece(lambda w: max(w - thick, 0.0), down)) if down > 0.5 else (on_edge,)
    gone = [replace(m, slack=True, start=a, end=b) for a, b in ((m.start, start), (end, m.end)) if b - a > 1e-6]
    return (*pieces, *gone)


def _between_caps(web: Membrane, bars: list[PlacedBar]) -> Membrane:
    """A web that stands between bars on the same line ends at them."""
    trim = list(web.trim_mm)
    for bar in bars:
        along = abs(bar.root_fraction - web.front.root) < 0.005 and abs(bar.tip_fraction - web.front.tip) < 0.005
        if along and bar.side in ("upper", "lower"):
            n = 1 if bar.side == "upper" else 0
            trim[n] = max(trim[n], bar.cover_mm + bar.stock.size(bar.on_edge)[1])
    return replace(web, trim_mm=(trim[0], trim[1]))


def _hole(layer: CutLayer, line: int, part: Part) -> Hole:
    start, end = line_span(layer, part)
    if part.foam is not None and max(layer.notch_mm) > 0:
        first, last = layer.notch_mm
        grows = (last - first) / (end - start)
        root, tip = first - grows * start, first + grows * (part.span_mm - start)
        inner = Edge(1, 1, -root, -tip) if layer.face == "rear" else Edge(0, 0, root, tip)
        front, rear = (inner, TAIL) if layer.face == "rear" else (NOSE, inner)
        deepest = max(layer.notch_mm)
        return Hole(line, "through", front, rear, deepest, start, end, layer.corner_radius_mm, layer.face)
    front, rear = (NOSE, TAIL) if layer.width_mm is None else _centred(layer, (layer.width_mm, layer.width_mm))
    return Hole(line, layer.face, front, rear, layer.depth_mm, start, end, layer.corner_radius_mm)
