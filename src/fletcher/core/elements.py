"""From the document to what a section is made of: one foam core, membranes each on one face, bars each at one place.

A lay-up line "pair of rods" becomes two bars, "film wrapped" four membranes; every element remembers its line.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.airframe import BarLayer, FilmLayer, FourDigitSection, Part, PointsSection, StripLayer
from fletcher.core.laminates import skin_of
from fletcher.core.materials import Bar, Catalogue, Foam, Skin
from fletcher.core.outline import Array, FourDigit, Outline, Points, Rectangle, faces
from fletcher.core.weighing import bar_of


@dataclass(frozen=True)
class Membrane:
    """A skin on one face ("upper", "lower", "front", "rear"). `width_mm` None covers the whole face;
    `beneath_mm` is the thickness of films already on that face."""

    line: int
    skin: Skin
    plies: int
    face: str
    start: float
    end: float
    beneath_mm: float
    width_mm: float | None = None
    root_fraction: float = 0.5
    tip_fraction: float = 0.5

    @property
    def offset_mm(self) -> float:
        """Distance of the load-bearing mid-plane outside the foam: adhesive lies beneath the film that carries."""
        glue = self.skin.total_thickness_mm - self.skin.thickness_mm.typ
        return self.beneath_mm + max(glue, 0.0) + 0.5 * self.plies * self.skin.thickness_mm.typ


@dataclass(frozen=True)
class PlacedBar:
    """One bar in the foam; `side` is "upper", "lower" or "middle"."""

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


@dataclass(frozen=True)
class Elements:
    """Everything a part is made of, with its tapering geometry."""

    part: Part
    outline: Outline
    foam: Foam
    membranes: tuple[Membrane, ...]
    bars: tuple[PlacedBar, ...]

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

    def strip_edges(self, membrane: Membrane, y: Array) -> tuple[Array, Array]:
        """Front and rear edge of a membrane on the upper or lower face, mm aft of the local leading edge."""
        chord = self.chord(y)
        if membrane.width_mm is None:
            return np.zeros_like(chord), chord
        centre = (membrane.root_fraction + (membrane.tip_fraction - membrane.root_fraction) * self.fraction(y)) * chord
        return centre - membrane.width_mm / 2, centre + membrane.width_mm / 2

    def breaks(self) -> list[float]:
        """Places where an element starts or ends, with root and tip, ascending, mm."""
        ends = {0.0, self.part.span_mm}
        for membrane in self.membranes:
            ends |= {membrane.start, membrane.end}
        for bar in self.bars:
            ends |= {bar.start, bar.end}
        return sorted(ends)


def outline_of(part: Part) -> Outline:
    """The outline family of a part."""
    if isinstance(part.section, FourDigitSection):
        return FourDigit(part.section.camber_percent / 100, part.section.camber_position_percent / 100)
    if isinstance(part.section, PointsSection):
        return Points(part.section.upper, part.section.lower)
    return Rectangle()


def line_span(layer: BarLayer | StripLayer | FilmLayer, part: Part) -> tuple[float, float]:
    """Start and end of a lay-up line, mm."""
    return layer.start_mm, part.span_mm if layer.end_mm is None else layer.end_mm


def elements_of(part: Part, catalogue: Catalogue) -> Elements:
    """Turn a checked part into elements. Lines that are switched off are left out."""
    membranes: list[Membrane] = []
    bars: list[PlacedBar] = []
    beneath = dict.fromkeys(("upper", "lower", "front", "rear"), 0.0)
    for line, layer in enumerate(part.layers):
        if not layer.enabled:
            continue
        start, end = line_span(layer, part)
        if isinstance(layer, BarLayer):
            sides = ("upper", "lower") if layer.place == "pair" else (layer.place,)
            bars += [
                PlacedBar(
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
                )
                for side in sides
            ]
            continue
        skin = catalogue.skins[layer.skin] if isinstance(layer.skin, str) else skin_of(layer.skin, catalogue)
        covered = {
            "both": ("upper", "lower"),
            "wrapped": ("upper", "lower", "front", "rear"),
        }.get(layer.face, (layer.face,))
        for face in covered:
            strip = isinstance(layer, StripLayer)
            membranes.append(
                Membrane(
                    line=line,
                    skin=skin,
                    plies=layer.plies,
                    face=face,
                    start=start,
                    end=end,
                    beneath_mm=beneath[face],
                    width_mm=layer.width_mm if isinstance(layer, StripLayer) else None,
                    root_fraction=layer.root_percent / 100 if isinstance(layer, StripLayer) else 0.5,
                    tip_fraction=layer.tip_percent / 100 if isinstance(layer, StripLayer) else 0.5,
                )
            )
            if not strip:
                beneath[face] += layer.plies * skin.total_thickness_mm
    return Elements(part, outline_of(part), catalogue.foams[part.foam], tuple(membranes), tuple(bars))
