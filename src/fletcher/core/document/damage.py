"""What a crash left, as the document keeps it: every mark with its place and extent on the part."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.document.cases import PRINTABLE, Along, Document, Id, Percent


class MarkBase(Document):
    """What every mark has."""

    id: Id
    note: Annotated[str, Field(max_length=400, pattern=PRINTABLE)] = ""


class CrossedMark(MarkBase):
    """A mark where lines of the lay-up cross or lie hidden, which may have gone with it: what was found of each. What
    is neither found `whole` nor `broken` was not seen, and counts as broken until it is."""

    whole: Annotated[tuple[Id, ...], Field(max_length=32, description="Lines that were found whole there")] = ()
    broken: Annotated[tuple[Id, ...], Field(max_length=32, description="Lines that were found broken there")] = ()


class CrackMark(CrossedMark):
    """A crack across the part, so deep from a face; from the front or rear edge it goes so far in and right through."""

    kind: Literal["crack"] = "crack"
    at_mm: Along
    face: Literal["upper", "lower", "front", "rear"] = "upper"
    from_percent: Percent = 10.0
    to_percent: Percent = 60.0
    depth_mm: Annotated[float, Field(gt=0, le=1000)] = 8.0
    skins_torn: bool = False


class BreakMark(CrossedMark):
    """A clean break of core and skins, and of all that crosses it but what the builder found `whole`."""

    kind: Literal["break"] = "break"
    at_mm: Along


class CrushMark(CrossedMark):
    """An area crushed in from a face to a given depth."""

    kind: Literal["crush"] = "crush"
    start_mm: Along
    end_mm: Along
    face: Literal["upper", "lower", "front", "rear"] = "front"
    from_percent: Percent = 5.0
    to_percent: Percent = 30.0
    depth_mm: Annotated[float, Field(gt=0, le=400)] = 6.0
    warmed: Annotated[bool, Field(description="Beads already swelled with heat")] = False


class MissingMark(CrossedMark):
    """A piece that is gone, with its skins: out of a face or an edge so deep, or right through."""

    kind: Literal["missing"] = "missing"
    start_mm: Along
    end_mm: Along
    face: Literal["upper", "lower", "front", "rear", "through"] = "rear"
    from_percent: Percent = 70.0
    to_percent: Percent = 95.0
    depth_mm: Annotated[float, Field(gt=0, le=400)] = 20.0


class PeeledMark(MarkBase):
    """A length over which a tape, skin or wall has come off."""

    kind: Literal["peeled"] = "peeled"
    of: Id
    start_mm: Along
    end_mm: Along


class BarMark(MarkBase):
    """A bar that is broken, split lengthwise, or pulled out of its bed from a place to its end; of a pair one or both.
    A split one counts as broken until it is wrapped."""

    kind: Literal["bar"] = "bar"
    of: Id
    at_mm: Along
    how: Literal["broken", "split", "pulled_out"] = "broken"
    side: Literal["both", "upper", "lower"] = "both"


class LooseMark(MarkBase):
    """A joint that has come apart, or a torn length of hinge (null: all of it)."""

    kind: Literal["loose"] = "loose"
    of: Id
    start_mm: Along | None = None
    end_mm: Along | None = None


class CreaseMark(CrossedMark):
    """A wall of a hollow part, or a sheet, that is creased across: its faces are whole, but it folds there."""

    kind: Literal["crease"] = "crease"
    at_mm: Along
    face: Literal["upper", "lower", "front", "rear"] = "upper"
    from_percent: Percent = 0.0
    to_percent: Percent = 100.0


class OpenedMark(MarkBase):
    """A seam or fold of a hollow part that is open along its front or rear edge."""

    kind: Literal["opened"] = "opened"
    start_mm: Along
    end_mm: Along
    edge: Literal["front", "rear"] = "rear"


class BentMark(CrossedMark):
    """A part that stayed bent or twisted, measured against a straight edge: by how much the tip stands off, up
    positive, and its twist, nose up. A kink lies at a place; what crosses it counts as broken until it was seen."""

    kind: Literal["bent"] = "bent"
    at_mm: Annotated[Along | None, Field(description="Place of a kink; null: bent all along")] = None
    tip_mm: Annotated[float, Field(ge=-1000, le=1000)] = 0.0
    twist_deg: Annotated[float, Field(ge=-90, le=90)] = 0.0


Mark = Annotated[
    CrackMark
    | BreakMark
    | CrushMark
    | MissingMark
    | CreaseMark
    | OpenedMark
    | PeeledMark
    | BarMark
    | LooseMark
    | BentMark,
    Field(discriminator="kind"),
]
