"""What a joint is in the document: how two pieces meet, with what they are glued, how long ago, what holds them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.document.cases import Document, Id, Key

Technique = Literal["flashed", "wet", "misted", "dry", "plain", "accelerated", "vented"]


class Glued(Document):
    """The glue of a joint, how it was put on, and since when: what it holds grows with the minutes."""

    adhesive: Key
    technique: Annotated[Technique | None, Field(description="Null: usual application for this adhesive")] = None
    after_min: Annotated[
        float | None, Field(ge=0.5, le=20_160, description="Minutes since closing; null means fully cured")
    ] = None


class Brace(Document):
    """A dowel, bent wire, tube or upright plate that reaches so far into both sides. A bar lies in its slot as in the
    stockroom; a flat one, and a plate cut from sheet `deep_mm` high, stands on edge."""

    stock: Annotated[Key, Field(description="A spar, or the sheet a plate is cut from")]
    count: Annotated[int, Field(ge=1, le=8)] = 1
    each_side_mm: Annotated[float, Field(ge=3, le=1000)] = 60.0
    deep_mm: Annotated[float | None, Field(ge=2, le=200, description="Height of a plate cut from sheet")] = None
    glued: Annotated[bool, Field(description="If false, it slides in its hole and bears against it")] = True


class Extent(Document):
    """How much of the core a crack parted: so deep from a face between two places of the chord, or in from an edge
    and right through."""

    face: Literal["upper", "lower", "front", "rear"]
    from_percent: Annotated[float, Field(ge=0, le=100)] = 0.0
    to_percent: Annotated[float, Field(ge=0, le=100)] = 100.0
    depth_mm: Annotated[float, Field(gt=0, le=1000)]


class AcrossJoint(Document):
    """The part is in two pieces here: faces that meet, braces within, lines of the lay-up that bridge it. They share
    what has to pass by their stiffness."""

    kind: Literal["across"] = "across"
    parted: Annotated[
        Literal["core", "skins", "all"],
        Field(description="What is joined here: only the core, core and skins (spars continue), or everything"),
    ] = "core"
    faces: Annotated[Literal["open", "butt", "scarf"], Field(description="How the foam faces meet")] = "butt"
    slope: Annotated[float, Field(ge=1, le=20, description="Scarf slope: length ÷ depth")] = 4.0
    reached: Annotated[
        Literal["all", "mended", "worked_in", "over_old"],
        Field(
            description="By the glue: faces made for it, a break glued by hand, a crack that it was worked into, or "
            "faces with old glue"
        ),
    ] = "all"
    extent: Annotated[Extent | None, Field(description="Extent of a repaired crack; null: the core is cut through")] = (
        None
    )
    braces: Annotated[tuple[Brace, ...], Field(max_length=4)] = ()
    bridges: Annotated[tuple[Id, ...], Field(max_length=4, description="Strips that bridge the joint")] = ()


class LapJoint(Document):
    """A skin, wall or spar is made of two lengths that overlap here."""

    kind: Literal["lap"] = "lap"
    of: Id
    overlap_mm: Annotated[float, Field(ge=1, le=1000)] = 20.0


class BondJoint(Document):
    """The glue under a line of the lay-up, all along, or over a stretch that was glued anew: spar in its slot, cap
    strip, patch, wall on the core."""

    kind: Literal["bond"] = "bond"
    of: Id
    long_mm: Annotated[
        float | None, Field(ge=1, le=5000, description="Reglued length from its start; null means the whole item")
    ] = None
    tapered: Annotated[
        bool, Field(description="The ends of a stiff strip are taken down to half a millimetre: it stops softly")
    ] = False


class PlateJoint(Document):
    """A plate glued on a face that passes a load into the foam: hard point, gear or motor plate, control horn. `rod`
    takes the push of the control rod in place of forces that are given."""

    kind: Literal["plate"] = "plate"
    sheet: Key = "birchply_1.5"
    face: Literal["upper", "lower"] = "lower"
    long_mm: Annotated[float, Field(ge=4, le=500)] = 40.0
    wide_mm: Annotated[float, Field(ge=4, le=500)] = 40.0
    load: Annotated[Literal["given", "rod"], Field(description="Forces entered, or from the pushrod on a horn")] = (
        "given"
    )
    pull_N: Annotated[float, Field(ge=0, le=5000, description="Off the face")] = 10.0
    slide_N: Annotated[float, Field(ge=0, le=5000, description="Along the face")] = 20.0
    arm_mm: Annotated[
        float, Field(ge=0, le=300, description="Height of the pull above the face; for a horn, its arm")
    ] = 12.0
    screws: Annotated[int, Field(ge=0, le=12)] = 0
    screw_mm: Annotated[float, Field(ge=1, le=8)] = 3.0
    keys: Annotated[int, Field(ge=0, le=60, description="Glue-filled holes in the foam")] = 0
    key_mm: Annotated[float, Field(ge=1, le=10)] = 3.0
    key_deep_mm: Annotated[float, Field(ge=1, le=100)] = 8.0
    backed: Annotated[
        Key | None, Field(description="Sheet of the same size on the other side of a wall, clamped by the screws")
    ] = None


class BoltedJoint(Document):
    """Bolts or screws that hold the part down, with a washer or plate under each."""

    kind: Literal["bolted"] = "bolted"
    bolt: Key = "nylon_bolt_5"
    bolts: Annotated[int, Field(ge=1, le=8)] = 2
    apart_mm: Annotated[float, Field(ge=5, le=500, description="Along the part")] = 60.0
    washer_mm: Annotated[float, Field(ge=4, le=80)] = 15.0
    plate: Annotated[Key | None, Field(description="Sheet that spreads the washer load")] = None


class BandedJoint(Document):
    """Rubber bands over the part to pegs in the foam of the part that carries it."""

    kind: Literal["banded"] = "banded"
    band: Key = "band_80x4"
    bands: Annotated[int, Field(ge=1, le=20)] = 6
    months: Annotated[float, Field(ge=0, le=24, description="Age of the rubber bands, months")] = 2.0
    peg: Key = "hardwood_dowel_6"
    peg_in_mm: Annotated[float, Field(ge=3, le=200, description="Length of each peg end in the foam")] = 30.0


class Strap(Document):
    """Strips glued on a wall over a seam, or rods in its flutes, so many on each face and so far to each side of it."""

    stock: Key
    lies: Literal["outside", "inside", "both", "flutes"] = "outside"
    count: Annotated[int, Field(ge=1, le=12, description="Beside one another on each face")] = 2
    wide_mm: Annotated[
        float | None, Field(ge=2, le=500, description="Of a strip of sheet, tape or cloth; null is a bar's own width")
    ] = None
    each_side_mm: Annotated[float, Field(ge=5, le=500)] = 40.0


class WallJoint(Document):
    """Walls of a hollow part that are in two, or creased, across: their edges meet, glued, and straps hold them. Or a
    seam along an edge that was open: so long from its start."""

    kind: Literal["wall"] = "wall"
    face: Annotated[
        Literal["all", "upper", "lower", "front", "rear"], Field(description="Which wall; along: which edge")
    ] = "all"
    keeps: Annotated[float, Field(ge=0, le=1, description="Share of its force that the wall itself still passes")] = 0.0
    reached: Literal["all", "mended", "over_old"] = "mended"
    straps: Annotated[tuple[Strap, ...], Field(max_length=4)] = ()
    along_mm: Annotated[float | None, Field(ge=1, le=5000, description="Length of a seam along the part")] = None


Joint = Annotated[
    AcrossJoint | LapJoint | BondJoint | PlateJoint | BoltedJoint | BandedJoint | WallJoint,
    Field(discriminator="kind"),
]
