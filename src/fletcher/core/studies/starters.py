"""New lines of a lay-up as they come into the hand: a middling choice that fits the part."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal, TypeVar

from fletcher.core.document.airframe import (
    BarLayer,
    CordLayer,
    CutLayer,
    FilmLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Laminate,
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
    Brace,
    Glued,
    Joint,
    LapJoint,
    PlateJoint,
    Strap,
    WallJoint,
)
from fletcher.core.materials.tables import reference
from fletcher.core.studies.usual_stock import usual_stock
from fletcher.core.validation.airframe import check_part

NEW_ID = "new"
"""The id that a line has until whoever puts it in gives it one."""
_GLUED_TYPES = ("bar", "strip", "film", "wall")
_FACES: tuple[Literal["both", "upper", "lower"], ...] = ("both", "upper", "lower")
_ACROSS = (30.0, 45.0, 60.0, 20.0, 70.0, 80.0, 52.0)
"""Places across the chord, per cent, that are tried one after another."""
L = TypeVar("L", BarLayer, WallLayer, CutLayer, FittingLayer)
_EPOXY, _CONTACT = Glued(adhesive="epoxy_30min"), Glued(adhesive="contact_foamsafe_clear")


@dataclass(frozen=True)
class Starter:
    """A line that may be put in next, and what a builder calls it."""

    label: str
    layer: Layer


def starters(part: Part) -> list[Starter]:
    """The lines that go with a part, the commonest first, each where and how it fits; what fits nowhere is left out."""
    known = _faults(part)
    found = []
    for label, tries in _kinds(part):
        fits = (la for la in tries if _faults(part.model_copy(update={"layers": (*part.layers, la)})) <= known)
        layer = next(fits, None)
        if layer is not None:
            found.append(Starter(label, layer))
    return found


def _faults(part: Part) -> frozenset[tuple[str, str]]:
    """What a part is told of, whatever its values: a draft may be impossible already."""
    return frozenset((p.path, p.message) for p in check_part(part, reference()))


def _kinds(part: Part) -> Iterator[tuple[str, Iterator[Layer]]]:
    """What a builder calls each line, and the ways to put it in, the usual one first."""
    of = next((la.id for la in reversed(part.layers) if la.type in _GLUED_TYPES), None)
    cored, usual = part.foam is not None, usual_stock(part)
    yield "Pair of spars", _beside(BarLayer(id=NEW_ID, stock=usual.bar, cover_mm=0.5 if cored else 0))
    yield "Single spar", _beside(BarLayer(id=NEW_ID, stock=usual.bar, place="middle"))
    yield "Tape or cloth strip", (_strip(part, usual.strip, face) for face in _FACES)
    yield "Skin: film or cloth", iter([_film(part, usual.film)])
    yield "Sheeting or board", (WallLayer(id=NEW_ID, sheet=usual.sheet, face=face) for face in _FACES)
    yield "Patch, guard or skid of sheet", (_piece(part, face) for face in ("lower", "upper", "both"))
    yield "Shear web", _beside(WallLayer(id=NEW_ID, sheet=usual.web, face="web", grain="across"))
    yield "Cut-out: pocket, hole, slit", _beside(_cut(part))
    yield "Servo, battery or lead", _fittings(part)
    yield "Edge cord", iter([CordLayer(id=NEW_ID, cord="polyester_braid_1")])
    if cored:
        yield "Butt or scarf joint", _across(part)
    if of is not None:
        yield "Lap joint", iter([_joint(part, 1 / 2, LapJoint(of=of, overlap_mm=_lap(part)), _CONTACT)])
    if not cored:
        yield "Seam across the walls, strapped", _walls(part)
    if of is not None and cored:
        yield "Glue under an item", iter([_joint(part, 0, BondJoint(of=of), _CONTACT)])
    if cored:
        yield "Plate: mount or horn", iter([_plate(part)])
    yield (
        "Bolts or screws",
        (_joint(part, 0, BoltedJoint(), None).model_copy(update={"chord_percent": at}) for at in (40.0, *_ACROSS)),
    )
    if cored and part.kind == "wing":
        yield "Rubber bands and pegs", iter([_joint(part, 0, BandedJoint(), None)])
    if part.kind == "surface":
        yield "Hinge at front edge", iter([HingeLayer(id=NEW_ID)])


def _beside(layer: L) -> Iterator[L]:
    """The same line at one place across the chord after another."""
    for at in (layer.root_percent, *_ACROSS):
        yield layer.model_copy(update={"root_percent": at, "tip_percent": at})


def _joint(part: Part, share: float, joint: Joint, glue: Glued | None) -> JointLayer:
    return JointLayer(id=NEW_ID, start_mm=round(share * part.span_mm), joint=joint, glue=glue)


def _least_depth(part: Part) -> float:
    return min(part.root_thickness_mm, part.tip_thickness_mm)


def _narrowest(part: Part) -> float:
    return min(part.root_chord_mm, part.tip_chord_mm)


def _strip(part: Part, skin: str | Laminate, face: Literal["both", "upper", "lower"]) -> StripLayer:
    width = float(min(25, max(1, int(_narrowest(part) / 3))))
    return StripLayer(id=NEW_ID, skin=skin, face=face, width_mm=width)


def _piece(part: Part, face: Literal["both", "upper", "lower"]) -> StripLayer:
    """A piece of thin plywood of a size, as long as a hand is wide."""
    width = float(min(30, max(1, int(_narrowest(part) / 3))))
    start = round(0.1 * part.span_mm)
    end = min(start + 80, part.span_mm - 1)
    return StripLayer(id=NEW_ID, skin="birchply_0.4", face=face, width_mm=width, start_mm=start, end_mm=end)


def _film(part: Part, skin: str | Laminate) -> FilmLayer:
    """Wrapped round what has all its edges; on a folded hollow part the faces alone."""
    round_it = part.foam is not None or part.section.shape == "rectangle"
    return FilmLayer(id=NEW_ID, skin=skin, face="wrapped" if round_it else "both")


def _cut(part: Part) -> CutLayer:
    return CutLayer(
        id=NEW_ID,
        start_mm=round(0.2 * part.span_mm),
        end_mm=round(0.3 * part.span_mm),
        root_percent=55,
        tip_percent=55,
        width_mm=min(24, max(1, int(_narrowest(part) / 4))),
        depth_mm=max(1, int(0.3 * _least_depth(part))) if part.foam is not None else 0,
    )


def _fittings(part: Part) -> Iterator[FittingLayer]:
    """A servo let into the foam where it is deep enough, else on it; within what is hollow."""
    cored = part.foam is not None
    deep = cored and _least_depth(part) > 12
    for pocket in (True, False) if deep else (False,):
        yield from _beside(FittingLayer(
            id=NEW_ID, start_mm=round(0.4 * part.span_mm), stock="servo_5g", face="lower" if cored else "inside",
            pocket=pocket, root_percent=45, tip_percent=45,
        ))  # fmt: skip


def _across(part: Part) -> Iterator[JointLayer]:
    """A butt joint with a brace two thirds as high as the part, 60 mm to each side or as far as it goes; or bare."""
    reach = min(60.0, float(int(part.span_mm / 2) - 1))
    brace = Brace(stock="birchply_1.5", each_side_mm=reach, deep_mm=max(2, int(0.6 * _least_depth(part))))
    for braces in ((brace,), ()):
        yield _joint(part, 1 / 2, AcrossJoint(braces=braces), _EPOXY)


def _walls(part: Part) -> Iterator[JointLayer]:
    """Sticks over a seam in the walls of a hollow part, as far as it goes."""
    reach = min(40.0, float(int(part.span_mm / 2) - 1))
    if reach >= 5:
        strap = Strap(stock="craftstick_10x2", each_side_mm=reach)
        yield _joint(part, 1 / 2, WallJoint(straps=(strap,), reached="all"), Glued(adhesive="aliphatic_wood"))


def _lap(part: Part) -> float:
    return float(min(20, max(1, int(part.span_mm / 5))))


def _plate(part: Part) -> JointLayer:
    """A hard point; on a control surface its horn, which takes the push of the rod."""
    horn = part.kind == "surface"
    long = min(15.0 if horn else 40.0, 0.3 * part.span_mm)
    wide = float(min(15 if horn else 40, max(4, int(_narrowest(part)))))
    joint = PlateJoint(long_mm=long, wide_mm=wide, load="rod" if horn else "given")
    return _joint(part, 1 / 3, joint, _EPOXY)
