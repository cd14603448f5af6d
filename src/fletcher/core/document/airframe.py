"""The airframe document: the one definition behind the file format, the API and the front end's types.

A document is data only. What it may contain is said here field by field; whether it makes a possible part is
decided by `validation.airframe`.
"""

from __future__ import annotations

import math
from typing import Annotated, Any, Final, Literal

from pydantic import Field, model_validator

from fletcher.core.document.cases import PRINTABLE, Along, Between, Case, Document, Id, Key, Name, Percent
from fletcher.core.document.damage import Mark
from fletcher.core.document.equipment import Aim, Equipment
from fletcher.core.document.joint import Glued, Joint
from fletcher.core.document.own_materials import OwnMaterial, inside, remember
from fletcher.core.document.shapes import Section
from fletcher.core.document.weighings import Weighing

FORMAT: Final = "fletcher-airframe"
VERSION: Final = 6
READS: Final = (1, 2, 3, 4, 5, 6)
"""Versions that are read; older ones become the present one when loaded. Version 2 brought hollow parts of walls, cuts,
cords, faced, sleeved, spliced and tapered bars, roots, control surfaces, and kinds of part and case besides wings.
Version 3 brought places and hands of parts, targets, the setting of the airframe, and notes on lines. Version 4 brought
folded sections, fittings from stock, strains laid into skins, bars in flutes, outlines that are the finished ones, and
control runs. Version 5 brought joints, hinges and
marks of damage. Version 6 brought load cases that do not count."""


class LayerBase(Document):
    """What every line of the lay-up has. `end_mm` null means: to the end of the part, but of a thing or joint: as long
    as it is."""

    id: Id
    name: Annotated[str, Field(max_length=80, pattern=PRINTABLE)] = ""
    enabled: bool = True
    start_mm: Along = 0.0
    end_mm: Along | None = None
    note: Annotated[str, Field(max_length=400, pattern=PRINTABLE)] = ""


class Sleeve(Document):
    """A tube over a bar, or a bar within a tube, glued to it along a stretch."""

    stock: Key
    start_mm: Along
    end_mm: Along


class Splice(Document):
    """Where a bar is joined from two lengths: side by side over an overlap, on a slope so long, end to end under a
    sleeve; or where a lengthwise split is wrapped with thread."""

    at_mm: Along
    overlap_mm: Annotated[float, Field(ge=0, le=1000)] = 60.0
    how: Literal["side_by_side", "scarf", "sleeved", "wrapped"] = "side_by_side"
    bound: Annotated[bool, Field(description="Thread is bound round the mouths of a sleeved tube")] = False
    stagger_mm: Annotated[
        float, Field(ge=0, le=1000, description="The lower spar of a pair is joined so much nearer the root")
    ] = 0.0

    def of_face(self, face: str) -> Splice:
        """The joint of the upper or the lower bar of a pair."""
        return self.model_copy(update={"at_mm": self.at_mm - self.stagger_mm}) if face == "lower" else self


class BarLayer(LayerBase):
    """A spar from stock, or a pair one above the other, let into a slot in the foam."""

    type: Literal["bar"] = "bar"
    stock: Key
    place: Literal["upper", "lower", "pair", "middle"] = "pair"
    root_percent: Percent = 30.0
    tip_percent: Percent = 30.0
    cover_mm: Annotated[float, Field(ge=0, le=200, description="Foam cover between spar and face")] = 0.0
    on_edge: bool = False
    weighed_g_per_m: Annotated[
        float | None,
        Field(gt=0, le=10_000, description="Measured mass per metre of this spar; null uses the table value"),
    ] = None
    joined_at_root: Annotated[bool, Field(description="Continues through the root joint")] = True
    end_size_percent: Annotated[
        float, Field(ge=10, le=100, description="Width (flat) or diameter at the far end, in % of the start")
    ] = 100.0
    faced_with: Annotated[
        Key | None, Field(description="Flat strip bonded on above and below, such as carbon on wood")
    ] = None
    joiner: Annotated[
        bool,
        Field(description="Removable wing joiner: slides in the foam and bears against it from the root to its end"),
    ] = False
    in_flute: Annotated[
        bool, Field(description="Inside a flute of the twin-wall sheet on that face: no slot, no foam cover")
    ] = False
    sleeve: Sleeve | None = None
    splices: Annotated[tuple[Splice, ...], Field(max_length=4)] = ()

    def sleeve_of(self, face: str) -> Sleeve | None:
        """The sleeve of the upper or the lower bar of a pair: it moves with the joint that it holds."""
        moves = next((s.stagger_mm for s in self.splices if s.how == "sleeved"), 0.0)
        if self.sleeve is None or face != "lower" or not moves:
            return self.sleeve
        ends = {"start_mm": max(self.sleeve.start_mm - moves, self.start_mm), "end_mm": self.sleeve.end_mm - moves}
        return self.sleeve.model_copy(update=ends)


class Ply(Document):
    """One cloth of a laminate; the angle of its warp from the span."""

    cloth: Key
    angle_deg: Annotated[float, Field(ge=-90, le=90)] = 0.0


class Laminate(Document):
    """A skin made on the part: cloths wetted out with resin, the innermost first."""

    plies: Annotated[tuple[Ply, ...], Field(min_length=1, max_length=12)]
    resin: Key = "epoxy_laminating"
    method: Annotated[
        Literal["hand", "squeegee", "vacuum"], Field(description="Brushed, squeegeed or vacuum-bagged")
    ] = "squeegee"
    fibre_percent: Annotated[
        float | None,
        Field(ge=15, le=70, description="Own volume share of fibre; null: usual for the method"),
    ] = None


class StripLayer(LayerBase):
    """A strip of tape, cloth or paper along the part on one face or both, or a piece of sheet of a size: a patch, a
    guard, a skid."""

    type: Literal["strip"] = "strip"
    skin: Annotated[Key | Laminate, Field(description="A skin or a sheet of the stockroom by its key, or a laminate")]
    face: Literal["upper", "lower", "both"] = "both"
    width_mm: Annotated[float, Field(ge=0.5, le=2000)] = 25.0
    root_percent: Percent = 30.0
    tip_percent: Percent = 30.0
    plies: Annotated[int, Field(ge=1, le=8)] = 1
    end_width_mm: Annotated[
        float | None, Field(ge=0.5, le=2000, description="Width at the far end; null means constant width")
    ] = None
    drop_mm: Annotated[
        float, Field(ge=0, le=2000, description="Distance by which each ply ends short of the one below")
    ] = 0.0
    shrink_percent: Annotated[
        float | None,
        Field(ge=-2, le=5, description="Shrinkage or pre-stretch relative to the foam; null uses the table value"),
    ] = None
    laid: Annotated[
        Literal["together", "upper_first", "lower_first"],
        Field(description="For a skin on both faces: both tightened together, or one face first"),
    ] = "together"


class FilmLayer(LayerBase):
    """A skin over one face, over both, or wrapped around the edges."""

    type: Literal["film"] = "film"
    skin: Annotated[Key | Laminate, Field(description="Key of a skin in the Stockroom, or a laminate")]
    face: Literal["upper", "lower", "both", "wrapped"] = "wrapped"
    plies: Annotated[int, Field(ge=1, le=8)] = 1
    tape_width_mm: Annotated[float | None, Field(ge=5, le=2000, description="Strip width; null means one piece")] = None
    overlap_mm: Annotated[float, Field(ge=0, le=500, description="Overlap of adjacent strips")] = 0.0
    shrink_percent: Annotated[
        float | None,
        Field(ge=-2, le=5, description="Shrinkage or pre-stretch relative to the foam; null uses the table value"),
    ] = None
    laid: Annotated[
        Literal["together", "upper_first", "lower_first"],
        Field(description="For a skin on both faces: both tightened together, or one face first"),
    ] = "together"


class WallLayer(LayerBase):
    """A sheet as a wall: on faces and sides, or as an upright web or a level plate within the part.

    On a foam core the faces lie outside the core; a hollow part's walls lie inside its outline. `root_percent` and
    `tip_percent` place a web behind the nose and a level plate above the lower face.
    """

    type: Literal["wall"] = "wall"
    sheet: Key
    face: Literal["upper", "lower", "both", "front", "rear", "sides", "wrapped", "web", "level"] = "both"
    root_percent: Percent = 30.0
    tip_percent: Percent = 30.0
    plies: Annotated[int, Field(ge=1, le=4)] = 1
    grain: Annotated[
        Literal["along", "across"], Field(description="Direction of grain, flutes or paper fibre relative to the part")
    ] = "along"
    paper: Annotated[
        Literal["both", "outer", "inner", "none"], Field(description="Which paper of a faced board is kept")
    ] = "both"
    formed: Annotated[
        Literal["plain", "rolled", "scored", "creased", "warm"],
        Field(description="How the sheet is bent: as supplied, pre-rolled, scored, creased or heat-formed"),
    ] = "plain"
    weighed_g_per_m2: Annotated[
        float | None,
        Field(gt=0, le=20_000, description="Measured mass per area of this sheet; null uses the table value"),
    ] = None


class CutLayer(LayerBase):
    """A pocket, hole, slit or opening: it goes through all that was laid before it and into the foam.

    `width_mm` null is the whole face. "through" goes right through, "inside" is a hollow closed above and below;
    "front" and "rear" take the skin off that edge, and out of a core a notch `depth_mm` deep, or a clipped corner that
    grows to `end_depth_mm`. What belongs to the `outline` is cut out of what is laid later as well.
    """

    type: Literal["cut"] = "cut"
    face: Literal["upper", "lower", "through", "inside", "front", "rear"] = "upper"
    root_percent: Percent = 50.0
    tip_percent: Percent = 50.0
    width_mm: Annotated[float | None, Field(ge=0.1, le=2000)] = 20.0
    depth_mm: Annotated[float, Field(ge=0, le=400, description="Depth in the foam; 0 cuts only the skins")] = 10.0
    corner_radius_mm: Annotated[float, Field(ge=0, le=200)] = 2.0
    end_depth_mm: Annotated[
        float | None, Field(ge=0, le=400, description="Of a notch: its depth at its end; null is as deep as it starts")
    ] = None
    outline: Annotated[
        bool, Field(description="Of a cut from an edge: the shape of the part itself, nothing lies beyond it")
    ] = False

    @property
    def shapes(self) -> bool:
        """Whether it belongs to the outline of the part."""
        return self.outline and self.face in ("front", "rear")

    @property
    def notch_mm(self) -> tuple[float, float]:
        """How deep a notch is at its start and at its end, mm; nothing where it is none."""
        if self.face not in ("front", "rear"):
            return 0.0, 0.0
        return self.depth_mm, self.depth_mm if self.end_depth_mm is None else self.end_depth_mm


class FittingLayer(LayerBase):
    """Something from stock that the part carries: servo, battery, lead, bracket. It weighs where it sits, and it may
    lie in a pocket of its own size. `end_mm` null: as long as the thing itself, or to the end for leads and tubes."""

    type: Literal["fitting"] = "fitting"
    stock: Key
    face: Literal["upper", "lower", "through", "inside"] = "lower"
    root_percent: Percent = 40.0
    tip_percent: Percent = 40.0
    pocket: Annotated[bool, Field(description="Recessed in the foam; otherwise on the face")] = True
    upright: Annotated[bool, Field(description="On its narrow side")] = False
    clearance_mm: Annotated[float, Field(ge=0, le=20, description="Clearance on every side")] = 0.5
    weighed_g: Annotated[float | None, Field(gt=0, le=20_000, description="Measured mass")] = None


class CordLayer(LayerBase):
    """A cord recessed into the front or rear edge; it carries tension only."""

    type: Literal["cord"] = "cord"
    cord: Key
    face: Literal["front", "rear", "both"] = "both"


class JointLayer(LayerBase):
    """A joint at `start_mm`, or under the item it glues. It adds mass and may fail first."""

    type: Literal["joint"] = "joint"
    joint: Joint
    glue: Annotated[Glued | None, Field(description="Null: not glued, or held by the strip’s own adhesive")] = None
    chord_percent: Annotated[Percent, Field(description="Chord position of plate, bolts or braces")] = 40.0


class HingeLayer(LayerBase):
    """The hinge of a control surface along its front edge, from start to end."""

    type: Literal["hinge"] = "hinge"
    method: Annotated[Key, Field(description="Key of a hinge type")] = "tape_both_sides_gap"
    line: Annotated[Literal["top", "centre", "bottom"], Field(description="Hinge line position in the thickness")] = (
        "top"
    )
    bevel_deg: Annotated[float, Field(ge=0, le=120, description="Total bevel angle of both edges")] = 45.0
    gap_mm: Annotated[float, Field(ge=0, le=10)] = 0.5
    horn_arm_mm: Annotated[float, Field(ge=3, le=80)] = 12.0


Layer = Annotated[
    BarLayer | StripLayer | FilmLayer | WallLayer | CutLayer | CordLayer | FittingLayer | JointLayer | HingeLayer,
    Field(discriminator="type"),
]


class HeldRoot(Document):
    """The root is held without give: it is made in one piece with the rest, or clamped."""

    kind: Literal["held"] = "held"


class GluedRoot(Document):
    """The foam of the root is glued face to face; bars that run on go through. `covered`: tape, film or cloth
    runs over the seam, so that skins carry across it."""

    kind: Literal["glued"] = "glued"
    covered: bool = True


class BandsRoot(Document):
    """Elastic bands hold the wing down on the fuselage, with so much pull together."""

    kind: Literal["bands"] = "bands"
    hold_N: Annotated[float, Field(ge=0.5, le=2000)] = 60.0


Root = Annotated[HeldRoot | GluedRoot | BandsRoot, Field(discriminator="kind")]


class ControlEdge(Document):
    """Where a control surface hangs on this part: from, to, and its share of the chord."""

    start_mm: Along
    end_mm: Along
    chord_percent: Annotated[float, Field(ge=5, le=60)] = 25.0


class Place(Document):
    """Where a part's root leading edge lies in the airframe: behind the datum at the nose, out from the middle, above
    the datum line; and by how much the part rises outwards."""

    x_mm: Annotated[float, Field(ge=-5000, le=5000)] = 0.0
    y_mm: Annotated[float, Field(ge=-5000, le=5000)] = 0.0
    z_mm: Annotated[float, Field(ge=-2000, le=2000)] = 0.0
    dihedral_deg: Annotated[float, Field(ge=-90, le=90)] = 0.0


class Targets(Document):
    """Targets for the part in every load case; null means no target."""

    margin: Annotated[Between | None, Field(description="Lowest margin of all load cases")] = None
    added_g: Annotated[Between | None, Field(description="Mass of all lay-up items")] = None
    balance_mm: Annotated[
        Between | None, Field(description="Centre of gravity of the part, aft of its root leading edge")
    ] = None
    toughness_mJ: Annotated[
        Between | None, Field(description="Energy to the first break when bent by hand, in the weaker direction")
    ] = None
    bow_mm: Annotated[Between | None, Field(description="Built-in bow (magnitude)")] = None


class Part(Document):
    """A wing half, tail half, control surface, fuselage or test piece between a root and a tip station, with its
    lay-up: on a core of foam, or hollow. Of a fuselage the chord is its width and the thickness its height."""

    id: Id
    name: Name
    kind: Literal["wing", "tail", "surface", "fuselage", "plank"] = "wing"
    span_mm: Annotated[float, Field(ge=20, le=5000, description="Length of this part along y")]
    root_chord_mm: Annotated[float, Field(ge=5, le=2000)]
    tip_chord_mm: Annotated[float, Field(ge=5, le=2000)]
    tip_setback_mm: Annotated[
        float, Field(ge=-2000, le=2000, description="Sweep-back of the tip leading edge relative to the root")
    ] = 0.0
    root_thickness_mm: Annotated[float, Field(ge=0.5, le=400)]
    tip_thickness_mm: Annotated[float, Field(ge=0.5, le=400)]
    section: Section
    outline: Annotated[
        Literal["core", "finished"],
        Field(description="Whether chords and thicknesses describe the bare core or the finished part"),
    ] = "core"
    foam: Annotated[Key | None, Field(description="Core material; null for a hollow part of walls and skins")]
    root: Annotated[Root, Field(description="Root joint")] = HeldRoot()
    control: Annotated[
        ControlEdge | None, Field(description="Control surface on the rear edge, used for the reversal speed")
    ] = None
    second_control: Annotated[
        ControlEdge | None, Field(description="A second one beside it, a flap; it must not overlap the first")
    ] = None
    lift_slope: Annotated[
        float | None,
        Field(ge=1, le=7, description="Lift per radian of incidence, of the whole wing; null takes 2π AR/(AR + 2)"),
    ] = None
    rib_spacing_mm: Annotated[float, Field(ge=5, le=2000, description="Rib or former spacing of a hollow part")] = 100.0
    rib_sheet: Annotated[
        Key | None, Field(description="Sheet that the ribs or formers of a hollow part are cut from; null: it has none")
    ] = None
    rib_open_percent: Annotated[
        float, Field(ge=0, le=95, description="Share of every rib or former that is cut away inside")
    ] = 40.0
    hand: Annotated[
        Literal["both", "left", "right", "single"],
        Field(description="“both”: built twice, the second mirrored; left and right can also be separate parts"),
    ] = "both"
    place: Place = Place()
    targets: Targets = Targets()
    layers: Annotated[tuple[Layer, ...], Field(max_length=32)] = ()
    damage: Annotated[tuple[Mark, ...], Field(max_length=24, description="Damage not yet repaired")] = ()
    cases: Annotated[tuple[Case, ...], Field(min_length=1, max_length=12)]

    @property
    def counted(self) -> tuple[Case, ...]:
        """The load cases by which it is judged: those that count, or all where none does."""
        return tuple(c for c in self.cases if c.counts) or self.cases

    @property
    def controls(self) -> tuple[ControlEdge, ...]:
        """The control surfaces along its rear edge."""
        return tuple(c for c in (self.control, self.second_control) if c is not None)

    @property
    def area_mm2(self) -> float:
        """Its plan, without what its outline cuts off."""
        whole = 0.5 * (self.root_chord_mm + self.tip_chord_mm) * self.span_mm
        cuts = [la for la in self.layers if isinstance(la, CutLayer) and la.enabled and la.shapes]
        ends = [self.span_mm if la.end_mm is None else la.end_mm for la in cuts]
        return whole - sum(
            0.5 * sum(la.notch_mm) * (end - la.start_mm) for la, end in zip(cuts, ends, strict=True) if self.foam
        )

    @property
    def bays(self) -> int:
        """How many bays its ribs or formers make, none longer than asked; there is one rib more."""
        return max(1, math.ceil(self.span_mm / self.rib_spacing_mm - 1e-9))

    @property
    def count(self) -> int:
        """How many of it the airframe has."""
        return 2 if self.hand == "both" else 1


class Setting(Document):
    """The environment of the airframe; it affects the materials of every part."""

    sun_months: Annotated[float, Field(ge=0, le=120, description="Sun exposure in months, past or planned")] = 0.0
    hottest_C: Annotated[float, Field(ge=-30, le=90, description="Hottest flying temperature")] = 23.0
    coldest_C: Annotated[float, Field(ge=-50, le=40, description="Coldest flying temperature")] = 15.0
    parked_C: Annotated[
        float, Field(ge=-30, le=110, description="Highest storage temperature, such as a parked car")
    ] = 30.0
    damp: Annotated[
        Literal["dry", "damp", "wet"], Field(description="Moisture: kept dry, damp air or dew, rain and wet grass")
    ] = "dry"


class Airframe(Document):
    """An airframe: its flying mass and its parts. This is the file format, version 6."""

    format: Literal["fletcher-airframe"] = FORMAT
    version: Literal[6] = VERSION
    name: Name
    state: Literal["building", "flying", "broken"] = "building"
    top_speed_m_s: Annotated[float, Field(ge=1, le=120, description="Top speed")] = 20.0
    all_up_mass_g: Annotated[float, Field(ge=5, le=50_000, description="All-up mass, ready to fly")]
    note: Annotated[str, Field(max_length=4000, pattern=PRINTABLE)] = ""
    setting: Setting = Setting()
    materials: Annotated[tuple[OwnMaterial, ...], Field(max_length=40, description="Measured by the builder")] = ()
    parts: Annotated[tuple[Part, ...], Field(max_length=24)] = ()
    equipment: Annotated[tuple[Equipment, ...], Field(max_length=60, description="What it carries")] = ()
    aim: Aim = Aim()
    weighings: Annotated[tuple[Weighing, ...], Field(max_length=120, description="What was weighed, in order")] = ()

    @model_validator(mode="before")
    @classmethod
    def _migrated(cls, data: Any) -> Any:
        """An older document is one of version 6 that uses none of what is new; its fuselages and test pieces are
        single."""
        if not isinstance(data, dict):
            return data
        data = _with_own(data)
        if data.get("version") not in READS[:-1]:
            return data
        parts = data.get("parts")
        if isinstance(parts, list | tuple):
            parts = [
                {"hand": "single", **p} if isinstance(p, dict) and p.get("kind") in ("fuselage", "plank") else p
                for p in parts
            ]
            data = {**data, "parts": parts}
        return {**data, "version": VERSION}

    @model_validator(mode="after")
    def _remembered(self) -> Airframe:
        """The tables answer to its own materials from here on."""
        remember(self.materials)
        return self

    def part(self, part_id: str) -> Part | None:
        """The part of this id; None if there is none."""
        return next((p for p in self.parts if p.id == part_id), None)


def _with_own(data: dict[str, Any]) -> dict[str, Any]:
    """A document with its own materials named by their keys inside the program."""
    parts = data.get("parts")
    if not isinstance(parts, list | tuple):
        return data
    plain = [p.model_dump() if isinstance(p, Part) and data.get("materials") else p for p in parts]
    return {**data, "parts": inside(plain, data.get("materials"))}
