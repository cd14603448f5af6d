"""What a section is made of: a core or none, membranes each on one line, bars each at one place, holes, cords.

Every element remembers its lay-up line. `section.assembly` makes them from the document.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TypeVar

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Part, Splice
from fletcher.core.document.joint import Joint
from fletcher.core.materials.materials import Bar, Cord, Fastener, Fitting, Foam, Range, Sheet, Skin
from fletcher.core.materials.plates import Plate
from fletcher.core.section.outline import Outline, faces

_NOTHING = Range(1e-9, 1e-9, 1e-9)
VOID = Foam(
    key="void", name="Cavity", family="void", grade="A", least_certain="", basis="air", note="", brittle=False,
    hot_wire=False,
    density_kg_m3=Range(0, 0, 0), E_tension_MPa=_NOTHING, E_compression_MPa=_NOTHING, G_MPa=_NOTHING,
    tensile_strength_MPa=_NOTHING, tensile_break_strain_pct=Range(100, 100, 100), crush_stress_MPa=_NOTHING,
    shear_strength_MPa=_NOTHING, poisson=0.0, through_thickness_ratio=1.0, springback=1.0,
)  # fmt: skip
"""What fills a hollow part."""


_Number = TypeVar("_Number", float, Array)


@dataclass(frozen=True)
class Edge:
    """A line along the part: a share of the chord from root to tip, and a distance aft of it from root to tip, mm."""

    root: float
    tip: float
    root_mm: float = 0.0
    tip_mm: float = 0.0

    def at(self, fraction: _Number, chord: _Number) -> _Number:
        """Place aft of the local leading edge, mm."""
        share = self.root + (self.tip - self.root) * fraction
        return share * chord + self.root_mm + (self.tip_mm - self.root_mm) * fraction


NOSE, TAIL = Edge(0, 0), Edge(1, 1)


@dataclass(frozen=True)
class Membrane:
    """A thin thing that carries in its plane, on one line of the section: the "upper" or "lower" face from `front` to
    `rear`, the "front" or "rear" side, an upright "web" at `front`, or a "level" plate at `height` of the depth.

    `out` is 1 outside its face, −1 inside it (walls of hollow parts), 0 for webs and level plates; `beneath_mm` is the
    thickness of what lies between it and the face; `trim_mm` what a web leaves free below and above for bars; `slack`
    a film over open bays, which bends nothing and shears only as a tension field. `plies` counts overlaps in;
    `takes` is the share of the strain of its place that it takes on the mean: a short stiff piece slips on its core;
    `folded_over` is the upright plate over whose edge a strip is folded where no wall lies beneath it.
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
    takes: float = 1.0
    folded_over: Plate | None = None

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


def own_bending(membrane: Membrane) -> float:
    """Square of the radius of gyration of its own thickness, mm²: D/Et."""
    if membrane.plate is None:
        return 0.0
    Et = membrane.skin.E_along_MPa.typ * membrane.skin.thickness_mm.typ
    return membrane.plate.D11 * membrane.plies**2 / Et


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
    joiner: bool = False
    """Slides in the foam: it bends, but takes up no axial force."""
    taper: float = 1.0
    sleeve: Bar | None = None
    sleeve_span: tuple[float, float] = (0.0, 0.0)
    splices: tuple[Splice, ...] = ()
    """Where it is joined from two lengths."""
    flute: Sheet | None = None
    """The twin-wall sheet in a flute of which it lies."""

    @property
    def laps(self) -> tuple[tuple[float, float], ...]:
        """Stretches on which two lengths lie side by side, mm."""
        beside = [s for s in self.splices if s.how == "side_by_side"]
        return tuple((s.at_mm - s.overlap_mm / 2, s.at_mm + s.overlap_mm / 2) for s in beside)

    def buckling_kind(self, hollow: bool) -> str:
        """Kind of failure by which it buckles."""
        return "bar_flute" if self.flute is not None else "bar_strut" if hollow else "bar_buckling"

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
    """Foam that a cut takes out, between `front` and `rear`, by `depth_mm` from its face. A notch goes through from the
    "front" or "rear" `edge` inwards."""

    line: int
    face: str
    front: Edge
    rear: Edge
    depth_mm: float
    start: float
    end: float
    radius_mm: float
    edge: str = ""


@dataclass(frozen=True)
class PlacedCord:
    """A cord along the "front" or "rear" edge."""

    line: int
    stock: Cord
    face: str
    start: float
    end: float


@dataclass(frozen=True)
class PlacedFitting:
    """Something carried between two places; `grams` of all of it."""

    line: int
    stock: Fitting
    start: float
    end: float
    grams: Range


JointStock = Bar | Sheet | Fastener | Skin
"""What joints are made with."""


@dataclass(frozen=True)
class PlacedJoint:
    """A joint at its place, or a hinge (no `joint`), with the stretch over which it weighs and the stocks that it
    names."""

    line: int
    joint: Joint | None
    at: float
    start: float
    end: float
    stocks: tuple[tuple[str, JointStock], ...] = ()

    def stock(self, key: str) -> JointStock:
        """What it is made with, by its key."""
        return dict(self.stocks)[key]


@dataclass(frozen=True)
class PlacedRibs:
    """Ribs or formers of a hollow part: `spacing_mm` apart, `solid` the share of each that is left."""

    sheet: Sheet
    count: int
    spacing_mm: float
    solid: float


@dataclass(frozen=True)
class Elements:
    """Everything a part is made of, with its tapering geometry."""

    part: Part
    outline: Outline
    foam: Foam
    membranes: tuple[Membrane, ...]
    bars: tuple[PlacedBar, ...]
    holes: tuple[Hole, ...] = ()
    cords: tuple[PlacedCord, ...] = ()
    openings: tuple[Hole, ...] = ()
    """Every cut, also those that take skins only."""
    fittings: tuple[PlacedFitting, ...] = ()
    joints: tuple[PlacedJoint, ...] = ()
    ribs: PlacedRibs | None = None

    @property
    def hollow(self) -> bool:
        """Whether there is no core."""
        return self.foam is VOID

    @cached_property
    def slips(self) -> bool:
        """Whether bars are tied to the rest by what shears between them: foam, or walls from end to end. Where a hollow
        part has stretches without walls its bars are the beam."""
        if not self.hollow:
            return True
        span = self.part.span_mm
        return any(m.plate is not None and m.start <= 1e-6 and m.end >= span - 1e-6 for m in self.membranes)

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

    def changes(self) -> list[float]:
        """Places where the section changes, with root and tip, ascending, mm."""
        ends = {0.0, self.part.span_mm}
        things: tuple[Membrane | PlacedBar | Hole, ...] = (*self.membranes, *self.bars, *self.holes)
        for thing in things:
            ends |= {thing.start, thing.end}
        for bar in self.bars:
            if bar.sleeve is not None:
                ends |= set(bar.sleeve_span)
        return sorted(ends)

    def breaks(self) -> list[float]:
        """Places where the section changes or anything else starts or ends, ascending, mm."""
        ends = set(self.changes())
        things: tuple[PlacedCord | PlacedFitting | PlacedJoint, ...] = (*self.cords, *self.fittings, *self.joints)
        for thing in things:
            ends |= {thing.start, thing.end}
        ends |= {j.at for j in self.joints}
        ends |= {s.at_mm for bar in self.bars for s in bar.splices}
        ends |= {end for bar in self.bars for lap in bar.laps for end in lap}
        return sorted(ends)
