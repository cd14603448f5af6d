"""From the document to elements: a lay-up line "pair of rods" becomes two bars, "film wrapped" four membranes, a wall
its plates. A cut parts the membranes laid before it and takes out foam.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from fletcher.core.airframe import (
    BarLayer,
    CordLayer,
    CutLayer,
    EllipseSection,
    FilmLayer,
    FourDigitSection,
    Layer,
    Part,
    PointsSection,
    StripLayer,
    WallLayer,
)
from fletcher.core.elements import NOSE, TAIL, VOID, Edge, Elements, Hole, Membrane, PlacedBar, PlacedCord
from fletcher.core.laminates import skin_of
from fletcher.core.materials import Catalogue
from fletcher.core.outline import Ellipse, FourDigit, Outline, Points, Rectangle
from fletcher.core.plates import plate_of
from fletcher.core.weighing import bar_of, sheet_of


def outline_of(part: Part) -> Outline:
    """The outline family of a part."""
    if isinstance(part.section, FourDigitSection):
        return FourDigit(part.section.camber_percent / 100, part.section.camber_position_percent / 100)
    if isinstance(part.section, PointsSection):
        return Points(part.section.upper, part.section.lower)
    return Ellipse() if isinstance(part.section, EllipseSection) else Rectangle()


def line_span(layer: Layer, part: Part) -> tuple[float, float]:
    """Start and end of a lay-up line, mm."""
    return layer.start_mm, part.span_mm if layer.end_mm is None else layer.end_mm


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
    """Turn a checked part into elements. Lines that are switched off are left out."""
    membranes: list[Membrane] = []
    bars: list[PlacedBar] = []
    holes: list[Hole] = []
    cords: list[PlacedCord] = []
    openings: list[Hole] = []
    beneath = dict.fromkeys(("upper", "lower", "front", "rear", "web", "level"), 0.0)
    hollow = part.foam is None
    for line, layer in enumerate(part.layers):
        if not layer.enabled:
            continue
        if isinstance(layer, BarLayer):
            bars += _bars(layer, line, part, catalogue)
        elif isinstance(layer, CordLayer):
            start, end = line_span(layer, part)
            for face in ("front", "rear") if layer.face == "both" else (layer.face,):
                cords.append(PlacedCord(line, catalogue.cords[layer.cord], face, start, end))
        elif isinstance(layer, WallLayer):
            membranes += _walls(layer, line, part, catalogue, beneath, hollow)
        elif isinstance(layer, CutLayer):
            hole = _hole(layer, line, part)
            membranes = [piece for m in membranes for piece in _parted(m, hole, part)]
            openings.append(hole)
            if hole.depth_mm > 0 and not hollow:
                holes.append(hole)
        else:
            membranes += _skins(layer, line, part, catalogue, beneath)
    if hollow:
        walled = {m.face for m in membranes if m.plate is not None}
        membranes = [replace(m, slack=m.plate is None and m.face not in walled) for m in membranes]
        # uprights stand between the faces that run over their ends
        low, high = (
            max((m.plies * m.plate.thickness for m in membranes if m.face == f and m.plate), default=0.0)
            for f in _FACES
        )
        membranes = [replace(m, trim_mm=(low, high)) if m.upright and m.plate else m for m in membranes]
    membranes = [_between_caps(m, bars) if m.face == "web" else m for m in membranes]
    foam = VOID if part.foam is None else catalogue.foams[part.foam]
    return Elements(
        part, outline_of(part), foam, tuple(membranes), tuple(bars), tuple(holes), tuple(cords), tuple(openings)
    )


def _bars(layer: BarLayer, line: int, part: Part, catalogue: Catalogue) -> Iterator[PlacedBar]:
    start, end = line_span(layer, part)
    for side in ("upper", "lower") if layer.place == "pair" else (layer.place,):
        sleeve = layer.sleeve
        yield PlacedBar(
            line=line,
            stock=bar_of(layer, catalogue),
            side=side,
            start=start,
            end=end,
            root_fraction=layer.root_percent / 100,
            tip_fraction=layer.tip_percent / 100,
            cover_mm=layer.cover_mm,
            on_edge=layer.on_edge,
            joined_at_root=layer.joined_at_root,
            joiner=layer.joiner,
            taper=layer.end_size_percent / 100,
            sleeve=catalogue.bars[sleeve.stock] if sleeve else None,
            sleeve_span=(sleeve.start_mm, sleeve.end_mm) if sleeve else (0.0, 0.0),
            splices=tuple((s.at_mm, s.overlap_mm) for s in layer.splices),
        )


def _skins(
    layer: StripLayer | FilmLayer, line: int, part: Part, catalogue: Catalogue, beneath: dict[str, float]
) -> Iterator[Membrane]:
    skin = catalogue.skins[layer.skin] if isinstance(layer.skin, str) else skin_of(layer.skin, catalogue)
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
    for face in _COVERS.get(layer.face, (layer.face,)):
        for count, lifted, stop in plies:
            yield Membrane(
                line=line, skin=skin, plies=count, face=face, start=start, end=stop, strip=strip, front=front,
                rear=rear, beneath_mm=beneath[face] + lifted,
            )  # fmt: skip
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
    front, rear = (NOSE, TAIL) if layer.width_mm is None else _centred(layer, (layer.width_mm, layer.width_mm))
    return Hole(line, layer.face, front, rear, layer.depth_mm, start, end, layer.corner_radius_mm)


def _opens(hole: Hole, membrane: Membrane) -> bool:
    if membrane.face in ("web", "level"):
        return hole.face == "through"
    if membrane.face in ("front", "rear"):
        return hole.face == membrane.face
    return hole.face == membrane.face or hole.face == "through"


def _parted(m: Membrane, hole: Hole, part: Part) -> list[Membrane]:
    """What a cut leaves of a membrane that was laid before it."""
    a, b = max(m.start, hole.start), min(m.end, hole.end)
    if not _opens(hole, m) or b - a < 1e-6:
        return [m]
    fraction = np.array(0.5 * (a + b) / part.span_mm)
    chord = part.root_chord_mm + (part.tip_chord_mm - part.root_chord_mm) * fraction
    x0, x1, c0, c1 = (float(e.at(fraction, chord)) for e in (m.front, m.rear, hole.front, hole.rear))
    if (not m.upright and (c1 <= x0 or c0 >= x1)) or (m.face == "web" and not c0 <= x0 <= c1):
        return [m]
    pieces = []
    if a - m.start > 1e-6:
        pieces.append(replace(m, end=a))
    if m.end - b > 1e-6:
        pieces.append(replace(m, start=b))
    if m.upright:
        return pieces
    inside = replace(m, start=a, end=b)
    if c0 > x0 + 1e-6:
        pieces.append(replace(inside, rear=hole.front))
    if c1 < x1 - 1e-6:
        pieces.append(replace(inside, front=hole.rear))
    return pieces
