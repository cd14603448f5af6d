"""Shapes of a cross-section in the airframe document: aerofoils, plates, ellipses, and boards folded over a spar."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.document.cases import Document, Key, Name, Percent


class FourDigitSection(Document):
    """Four-digit aerofoil: camber and its place in per cent of the chord; the thickness is the part's."""

    shape: Literal["four_digit"] = "four_digit"
    camber_percent: Annotated[float, Field(ge=0, le=9)] = 2.0
    camber_position_percent: Annotated[float, Field(ge=10, le=90)] = 40.0


class RectangleSection(Document):
    """Plain rectangle: plate, plank or test piece."""

    shape: Literal["rectangle"] = "rectangle"


class EllipseSection(Document):
    """An ellipse: a round or oval fuselage, a boom."""

    shape: Literal["ellipse"] = "ellipse"


Pair = Annotated[tuple[float, ...], Field(min_length=2, max_length=2)]
Face = Annotated[
    tuple[Pair, ...],
    Field(
        min_length=5,
        max_length=400,
        description="Points (x, z) from leading to trailing edge, as fractions of the chord",
    ),
]


class PointsSection(Document):
    """An aerofoil given by points of its two faces. Its thickness is the part's; its camber goes with the chord."""

    shape: Literal["points"] = "points"
    name: Name = "Aerofoil from file"
    upper: Face
    lower: Face


class FoldedSection(Document):
    """A board folded over an inner spar: flat below, over the spar's walls above, closed at nose and tail. What flies
    is what the folds make of it; the part's thickness is its depth over the spar with both skins."""

    shape: Literal["folded"] = "folded"
    board: Key
    spar_front_percent: Annotated[float, Field(ge=4, le=60)] = 25.0
    spar_rear_percent: Annotated[float, Field(ge=8, le=85)] = 42.0
    nose: Annotated[
        Literal["bevels", "strip", "creases"],
        Field(description="Nose fold: two bevels that close, a strip of bare paper, or parallel creases"),
    ] = "strip"
    nose_mm: Annotated[
        float, Field(ge=0.2, le=120, description="Width of the bare strip, or total crease width; unused for bevels")
    ] = 12.0
    nose_creases: Annotated[int, Field(ge=2, le=12)] = 4
    creases_percent: Annotated[
        tuple[Percent, ...], Field(max_length=6, description="Creases in the upper face ahead of the spar")
    ] = ()
    crease_rise_percent: Annotated[
        float, Field(ge=0, le=40, description="Rise of the upper face at the creases, in % of spar depth")
    ] = 0.0
    tail_bevel_mm: Annotated[float, Field(ge=0, le=120, description="Length of the rear-edge bevel on the inside")] = (
        25.0
    )


Section = Annotated[
    FourDigitSection | RectangleSection | EllipseSection | PointsSection | FoldedSection, Field(discriminator="shape")
]
