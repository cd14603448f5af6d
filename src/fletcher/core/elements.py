"""From the document to what a section is made of: a core or none, membranes each on one line, bars each at one place.

A lay-up line "pair of rods" becomes two bars, "film wrapped" four membranes, a wall its plates; every element
remembers its line. A cut parts the membranes laid before it and takes out foam.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from fletcher.core.airframe import (
    BarLayer,
    CutLayer,
    FilmLayer,
    FourDigitSection,
    Layer,
    Part,
    PointsSection,
    StripLayer,
    WallLayer,
)
from fletcher.core.laminates import skin_of
from fletcher.core.materials import Bar, Catalogue, Foam, Range, Skin
from fletcher.core.outline import Array, FourDigit, Outline, Points, Rectangle, faces
from fletcher.core.plates import Plate, plate_of
from fletcher.core.weighing import bar_of

_NOTHING = Range(1e-9, 1e-9, 1e-9)
VOID = Foam(
    key="void", name="Hollow", family="void", grade="A", least_certain="", basis="air", note="", brittle=False,
    density_kg_m3=Range(0, 0, 0), E_tension_MPa=_NOTHING, E_compression_MPa=_NOTHING, G_MPa=_NOTHING,
    tensile_strength_MPa=_NOTHING, tensile_break_strain_pct=Range(100, 100, 100), crush_stress_MPa=_NOTHING,
    shear_strength_MPa=_NOTHING, poisson=0.0, through_thickness_ratio=1.0, springback=1.0,
)  # fmt: skip
"""What fills a hollow part."""


@dataclass(frozen=True)
class Edge:
    """A line along the part: a share of the chord from root to tip, and a distance aft of it from root to tip, mm."""

    root: float
    tip: float
    root_mm: float = 0.0
    tip_mm: float = 0.0

    def at(self, fraction: Array, chord: Array) -> Array:
        """Place aft of the local leading edge, mm."""
        share = self.root + (self.tip - self.root) * fraction
        return np.asarray(share * chord + self.root_mm + (self.tip_mm - self.root_mm) * fraction)


NOSE, TAIL = Edge(0, 0), Edge(1, 1)


@dataclass(frozen=True)
class Membrane:
    """A thin thing that carries in its plane, on one line of the section: the "upper" or "lower" face from `front` to
    `rear`, the "front" or "rear" side, an upright "web" at `front`, or a "level" plate at `height` of the depth.

    `out` is 1 outside its face, −1 inside it (walls of hollow parts), 0 for webs and level plates; `beneath_mm` is the
    thickness of what lies between it and the face; `trim_mm` what a web leaves free below and above for bars; `slack`
    a film over open bays, which bends nothing and shears only as a tension field. `plies` counts overlaps in.
    """

    line: int
    skin: Skin
    plies: float
    face: str
    start: float
    end: float
    beneath_mm: float = 0.0
    front: Edge = NOSE
    rear: Edge = TAIL
    strip: bool = False
    plate: Plate | None = None
    out: int = 1
    height: Edge = NOSE
    trim_mm: tuple[float, float] = (0.0, 0.0)
    slack: bool = False

    @property
    def thickness_mm(self) -> float:
        """What carries load, all plies."""
        return self.plies * self.skin.thickness_mm.typ

    @property
    def offset_mm(self) -> float:
        """Distance of the load-bearing line outside the face: adhesive lies beneath the film that carries."""
        if self.plate is not None:
            return self.out * (self.beneath_mm + 0.5 * self.thickness_mm + self.plate.centre)
        glue = self.skin.total_thickness_mm - self.skin.thickness_mm.typ
        return self.out * (self.beneath_mm + max(glue, 0.0) + 0.5 * self.thickness_mm)

    @property
    def upright(self) -> bool:
        """Whether it stands across the depth: a side or a web."""
        return self.face in ("front", "rear", "web")


@dataclass(frozen=True)
class PlacedBar:
    """One bar in the foam or on the walls; `side` is "upper", "lower" or "middle". `taper` is its size at the end over
    that at the start; `sleeve` a second bar glued to it over `sleeve_span`."""

    line: int
    stock: Bar
    side: str
    start: float
    end: float
    root_fraction: float
    tip_fraction: float
    cover_mm: float
    on_edge: bool
    joined_at_root: bool
    taper: float = 1.0
    sleeve: Bar | None = None
    sleeve_span: tuple[float, float] = (0.0, 0.0)
    splices: tuple[tuple[float, float], ...] = ()
    """Places and overlaps at which it is lapped from two lengths, mm."""

    def scale(self, y: Array) -> Array:
        """Size over that at the start: diameter, or width of a flat."""
        run = np.clip((y - self.start) / (self.end - self.start), 0, 1)
        return np.asarray(1 + (self.taper - 1) * run)

    def sizes(self, scale: float) -> tuple[float, float]:
        """Width and height in mm where its size is so much of that at its start."""
        width, height = self.stock.size(self.on_edge)
        if self.stock.shape != "flat":
            return width * scale, height * scale
        return (width, height * scale) if self.on_edge else (width * scale, height)

    @property
    def powers(self) -> tuple[int, int]:
        """How area and second moment (up and down) go with the size."""
        if self.stock.shape != "flat":
            return 2, 4
        return 1, 3 if self.on_edge else 1


@dataclass(frozen=True)
class Hole:
    """Foam that a cut takes out, between `front` and `rear`, by `depth_mm` from its face."""

    line: int
    face: str
    front: Edge
    rear: Edge
    depth_mm: float
    start: float
    end: float
    radius_mm: float


@dataclass(frozen=True)
class Elements:
    """Everything a part is made of, with its tapering geometry."""

    part: Part
    outline: Outline
    foam: Foam
    membranes: tuple[Membrane, ...]
    bars: tuple[PlacedBar, ...]
    holes: tuple[Hole, ...] = ()

    @property
    def hollow(self) -> bool:
        """Whether there is no core."""
        return self.foam is VOID

    def fraction(self, y: Array) -> Array:
        """Place along the part as a fraction of its span."""
        return np.asarray(y / self.part.span_mm)

    def chord(self, y: Array) -> Array:
        """Chord in mm at y."""
        p = self.part
        return p.root_chord_mm + (p.tip_chord_mm - p.root_chord_mm) * self.fraction(y)

    def thickness(self, y: Array) -> Array:
        """Largest thickness in mm at y."""
        p = self.part
        return p.root_thickness_mm + (p.tip_thickness_mm - p.root_thickness_mm) * self.fraction(y)

    def faces_at(self, x: Array, y: Array) -> tuple[Array, Array]:
        """Heights of lower and upper face at places x (n, …) mm aft of the leading edge, y (n,)."""
        shape = (-1,) + (1,) * (np.ndim(x) - 1)
        chord, thickness = self.chord(y).reshape(shape), self.thickness(y).reshape(shape)
        return faces(self.outline, np.clip(x / chord, 0, 1), chord, thickness)

    def bar_centre(self, bar: PlacedBar, y: Array) -> tuple[Array, Array]:
        """Centre of a bar: x aft of the local leading edge and z, mm, each of the shape of y."""
        fraction = bar.root_fraction + (bar.tip_fraction - bar.root_fraction) * self.fraction(y)
        chord = self.chord(y)
        lower, upper = faces(self.outline, fraction, chord, self.thickness(y))
        height = bar.stock.size(bar.on_edge)[1]
        if bar.side == "upper":
            z = upper - bar.cover_mm - height / 2
        elif bar.side == "lower":
            z = lower + bar.cover_mm + height / 2
        else:
            z = 0.5 * (upper + lower)
        return fraction * chord, z

    def edges(self, thing: Membrane | Hole, y: Array) -> tuple[Array, Array]:
        """Front and rear edge of a membrane or hole, mm aft of the local leading edge."""
        chord, fraction = self.chord(y), self.fraction(y)
        return thing.front.at(fraction, chord), thing.rear.at(fraction, chord)

    def web_place(self, membrane: Membrane, y: Array) -> Array:
        """Where a side or web stands, mm aft of the local leading edge; sides lie within the outline by half."""
        chord = self.chord(y)
        if membrane.face == "web":
            return membrane.front.at(self.fraction(y), chord)
        edge = 0.0 if membrane.face == "front" else 1.0
        inwards = membrane.offset_mm if membrane.plate is not None and membrane.out < 0 else 0.0
        return edge * chord - (1 if edge == 0 else -1) * inwards

    def breaks(self) -> list[float]:
        """Places where an element starts or ends, with root and tip, ascending, mm."""
        ends = {0.0, self.part.span_mm}
        things: tuple[Membrane | PlacedBar | Hole, ...] = (*self.membranes, *self.bars, *self.holes)
        for thing in things:
            ends |= {thing.start, thing.end}
        for bar in self.bars:
            ends |= {at for at, _ in bar.splices}
            if bar.sleeve is not None:
                ends |= set(bar.sleeve_span)
        return sorted(ends)


def outline_of(part: Part) -> Outline:
    """The outline family of a part."""
    if isinstance(part.section, FourDigitSection):
        return FourDigit(part.section.camber_percent / 100, part.section.camber_position_percent / 100)
    if isinstance(part.section, PointsSection):
        return Points(part.section.upper, part.section.lower)
    return Rectangle()


def line_span(layer: Layer, part: Part) -> tuple[float, float]:
    """Start and end of a lay-up line, mm."""
    return layer.start_mm, part.span_mm if layer.end_mm is None else layer.end_mm


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
    beneath = dict.fromkeys(("upper", "lower", "front", "rear", "web", "level"), 0.0)
    hollow = part.foam is None
    for line, layer in enumerate(part.layers):
        if not layer.enabled:
            continue
        if isinstance(layer, BarLayer):
            bars += _bars(layer, line, part, catalogue)
        elif isinstance(layer, WallLayer):
            membranes += _walls(layer, line, part, catalogue, beneath, hollow)
        elif isinstance(layer, CutLayer):
            hole = _hole(layer, line, part)
            membranes = [piece for m in membranes for piece in _parted(m, hole, part)]
            if hole.depth_mm > 0 and not hollow:
                holes.append(hole)
        else:
            membranes += _skins(layer, line, part, catalogue, beneath)
    if hollow:
        walled = {m.face for m in membranes if m.plate is not None}
        membranes = [replace(m, slack=m.plate is None and m.face not in walled) for m in membranes]
    membranes = [_between_caps(m, bars) if m.face == "web" else m for m in membranes]
    foam = VOID if part.foam is None else catalogue.foams[part.foam]
    return Elements(part, outline_of(part), foam, tuple(membranes), tuple(bars), tuple(holes))


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
    plate = plate_of(catalogue.sheets[layer.sheet], catalogue, layer.paper, layer.grain)
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
    trim = [0.0, 0.0]
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
