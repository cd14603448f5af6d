"""Ways to build a part from a few sizes: the constructions of the trade as lay-ups that can be changed at once."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from fletcher.core.document.airframe import Airframe, BarLayer, CutLayer, FilmLayer, Layer, Part, StripLayer, WallLayer
from fletcher.core.document.cases import Case, Document, ThreePointCase
from fletcher.core.document.defaults import default_case
from fletcher.core.document.shapes import (
    EllipseSection,
    FoldedSection,
    FourDigitSection,
    PointsSection,
    RectangleSection,
    Section,
)

Kind = Literal["wing", "tail", "surface", "fuselage", "plank"]


class Size(Document):
    """What a construction is made to. Of a fuselage the chords are its widths and the thicknesses its heights."""

    span_mm: Annotated[float, Field(ge=20, le=5000)]
    root_chord_mm: Annotated[float, Field(ge=5, le=2000)]
    tip_chord_mm: Annotated[float, Field(ge=5, le=2000)]
    root_thickness_mm: Annotated[float, Field(ge=0.5, le=400)]
    tip_thickness_mm: Annotated[float, Field(ge=0.5, le=400)]


def _with_spar(layers: tuple[Layer, ...], spar: str | None) -> tuple[Layer, ...]:
    """A lay-up whose bars are of another stock, or taken out."""
    if spar is None:
        return layers
    if spar == "none":
        return tuple(la for la in layers if not isinstance(la, BarLayer))
    return tuple(la.model_copy(update={"stock": spar}) if isinstance(la, BarLayer) else la for la in layers)


@dataclass(frozen=True)
class Construction:
    """One way to build. `why` explains the choice of materials in a sentence or two; `lay` makes the lay-up and `cases`
    names the load cases to start with, the first one shown first."""

    key: str
    title: str
    why: str
    kind: Kind
    name: str
    size: Size
    section: Section
    foam: str | None
    lay: Callable[[Size], tuple[Layer, ...]]
    cases: tuple[str, ...]
    all_up_mass_g: float
    top_speed_m_s: float
    setback_mm: float = 0.0
    rib_spacing_mm: float = 100.0
    rib_sheet: str | None = None

    @property
    def spar(self) -> str | None:
        """The bar that it has at its usual size; None where it has none."""
        return next((la.stock for la in self.lay(self.size) if isinstance(la, BarLayer)), None)

    def part(
        self, size: Size | None = None, all_up_mass_g: float | None = None, top_speed_m_s: float | None = None,
        spar: str | None = None,
    ) -> Part:  # fmt: skip
        """The part at a size, its load cases for an airframe of this mass and speed; what is not given is usual. `spar`
        is the key of the bar that takes the place of the usual one, or "none"."""
        size = size or self.size
        setback = self.setback_mm * size.span_mm / self.size.span_mm
        if self.kind == "fuselage":
            setback = 0.5 * (size.root_chord_mm - size.tip_chord_mm)
        part = Part(
            id=self.kind,
            name=self.name,
            kind=self.kind,
            hand="single" if self.kind in ("fuselage", "plank") else "both",
            tip_setback_mm=round(setback, 1),
            section=self.section,
            foam=self.foam,
            rib_spacing_mm=self.rib_spacing_mm,
            rib_sheet=self.rib_sheet,
            layers=_with_spar(self.lay(size), spar),
            cases=(ThreePointCase(id="none", name="none"),),
            **size.model_dump(),
        )
        airframe = Airframe(
            name="x",
            all_up_mass_g=all_up_mass_g or self.all_up_mass_g,
            top_speed_m_s=top_speed_m_s or self.top_speed_m_s,
        )
        made: tuple[Case, ...] = ()
        for kind in self.cases:
            case = default_case(kind, airframe, part.model_copy(update={"cases": made}))
            made += (case.model_copy(update={"id": kind.replace("_", "-")}),)
        return part.model_copy(update={"cases": made})


def _sized(value: float, steps: tuple[tuple[float, str], ...]) -> str:
    """The stock for a size: the first whose limit is not passed, else the last."""
    return next((stock for most, stock in steps if value <= most), steps[-1][1])


def _rod(span: float) -> str:
    return _sized(span, ((420, "carbon_rod_2"), (800, "carbon_rod_3"), (1100, "carbon_rod_4"), (1e9, "carbon_rod_5")))


def _tube(span: float) -> str:
    """A thick tube hands its force over to soft foam on twice the round of a rod of its weight."""
    steps = ((450, "carbon_tube_4_2"), (750, "carbon_tube_5_3"), (1100, "carbon_tube_6_4"), (1e9, "carbon_tube_8_6"))
    return _sized(span, steps)


def _out(size: Size, share: float) -> float:
    """A place along the part, to whole tens of millimetres."""
    return round(share * size.span_mm, -1) if size.span_mm >= 100 else round(share * size.span_mm, 1)


def _wide(size: Size, share: float, least: float = 3.0) -> float:
    """A width that fits both ends, to whole millimetres."""
    return max(least, round(share * min(size.root_chord_mm, size.tip_chord_mm)))


def _cut_core(s: Size) -> tuple[Layer, ...]:
    return (
        BarLayer(id="spar", stock=_tube(s.span_mm), place="pair", end_mm=_out(s, 0.8), cover_mm=0.5),
        FilmLayer(id="film", skin="lamfilm_75", face="wrapped"),
    )


def _bead_wing(s: Size) -> tuple[Layer, ...]:
    return (
        BarLayer(id="spar", stock=_rod(s.span_mm), place="pair", end_mm=_out(s, 0.783), cover_mm=0.5),
        StripLayer(
            id="tape", skin="filament_tape_uni", face="lower", width_mm=min(25, _wide(s, 0.2)), end_mm=_out(s, 0.933)
        ),
        FilmLayer(id="film", skin="lamfilm_75", face="wrapped"),
    )


def _plate_wing(s: Size) -> tuple[Layer, ...]:
    strip = _sized(
        min(s.root_thickness_mm, s.tip_thickness_mm), ((4.9, "carbon_strip_3x0.5"), (1e9, "carbon_strip_5x1"))
    )
    return (
        BarLayer(id="spar", stock=strip, place="middle", on_edge=True, end_mm=_out(s, 0.89)),
        StripLayer(id="tape", skin="bopp_tape_std", face="both", width_mm=min(48, _wide(s, 0.45))),
    )


def _folded_wing(s: Size) -> tuple[Layer, ...]:
    webs = {"sheet": "foamboard_light_5", "face": "web"}
    return (
        WallLayer(id="skin", sheet="foamboard_light_5", face="both", name="Board folded at the nose"),
        WallLayer(id="spar", **webs, root_percent=25, tip_percent=25, name="Front wall of the folded spar"),
        WallLayer(id="rear", **webs, root_percent=42, tip_percent=42, name="Rear wall of the folded spar"),
    )


def _sheeted_wing(s: Size) -> tuple[Layer, ...]:
    return (
        WallLayer(id="web", sheet="balsa_light_3", face="web", grain="across", name="Upright-grain balsa web"),
        StripLayer(
            id="caps", skin="carbon_ud_100", face="both", width_mm=min(12, _wide(s, 0.08)), plies=4,
            drop_mm=_out(s, 0.2), end_mm=_out(s, 0.95), name="Tow caps, stepped plies",
        ),
        WallLayer(id="sheeting", sheet="balsa_light_1.5", face="both", name="Balsa sheeting"),
    )  # fmt: skip


def _cloth_wing(s: Size) -> tuple[Layer, ...]:
    return (
        StripLayer(
            id="caps", skin="carbon_ud_100", face="both", width_mm=min(25, _wide(s, 0.21)), plies=4, end_mm=_out(s, 0.8)
        ),
        FilmLayer(id="cloth", skin="glass_49", face="both"),
    )


def _fluted_wing(s: Size) -> tuple[Layer, ...]:
    return (
        WallLayer(id="skin", sheet="flutedpp_2", face="both", name="Twin-wall sheet, flutes along the span"),
        WallLayer(id="web", sheet="flutedpp_2", face="web", grain="across", name="Web, flutes upright"),
        BarLayer(id="spar", stock="hardwood_dowel_5", place="middle", root_percent=32, tip_percent=32),
    )


def _moulded_wing(s: Size) -> tuple[Layer, ...]:
    at = {"root_percent": 32, "tip_percent": 32}
    shell = _sized(s.root_chord_mm, ((260, "moulded_epo_6"), (1e9, "moulded_epo_9")))
    return (
        WallLayer(id="shell", sheet=shell, face="both", name="Moulded shell"),
        WallLayer(id="web", sheet=shell, face="web", **at, name="Moulded web, glued in"),
        BarLayer(id="spar", stock="carbon_tube_6_4", place="middle", **at, end_mm=_out(s, 0.7), name="Tube spar"),
    )


def _box(s: Size) -> tuple[Layer, ...]:
    return (
        WallLayer(id="box", sheet="foamboard_light_5", face="wrapped", name="Folded board box"),
        CutLayer(
            id="hatch", face="upper", width_mm=None, depth_mm=0, start_mm=_out(s, 0.1), end_mm=_out(s, 0.3),
            name="Hatch",
        ),
    )  # fmt: skip


def _crossed(s: Size) -> tuple[Layer, ...]:
    middle = {"root_percent": 50, "tip_percent": 50}
    return (
        WallLayer(id="upright", sheet="foamboard_light_5", face="web", **middle, name="Vertical plate"),
        WallLayer(id="level", sheet="foamboard_light_5", face="level", **middle, name="Horizontal plate, half-slotted"),
    )


def _doubled(s: Size) -> tuple[Layer, ...]:
    return (
        WallLayer(
            id="ply", sheet="birchply_0.8", face="web", root_percent=50, tip_percent=50, end_mm=_out(s, 0.6),
            name="Thin ply between the boards",
        ),
    )  # fmt: skip


def _formers(s: Size) -> tuple[Layer, ...]:
    stringer = {"stock": "balsa_5x10", "place": "pair", "root_percent": 50, "tip_percent": 50, "cover_mm": 1.5}
    return (
        WallLayer(id="skin", sheet="balsa_light_1.5", face="both", name="Thin skin rolled over formers"),
        BarLayer(id="stringers", **stringer, name="Stringers above and below"),
    )


def _keel(s: Size) -> tuple[Layer, ...]:
    middle = {"root_percent": 50, "tip_percent": 50}
    return (
        WallLayer(id="keel", sheet="balsa_medium_3", face="web", **middle, name="Keel"),
        BarLayer(id="longerons", stock="spruce_3x10", place="pair", **middle, name="Keel edges"),
        WallLayer(id="edges", sheet="balsa_light_3", face="sides", name="Sides"),
        FilmLayer(id="film", skin="coverfilm_standard", face="both", name="Covering"),
    )


def _boom(s: Size) -> tuple[Layer, ...]:
    tubes = ((6.5, "carbon_tube_6_4"), (8.5, "carbon_tube_8_6"), (10.5, "carbon_rw_10_9"), (1e9, "carbon_rw_12_10"))
    return (BarLayer(id="tube", stock=_sized(s.root_chord_mm, tubes), place="middle", root_percent=50, tip_percent=50),)


def _surface(s: Size) -> tuple[Layer, ...]:
    return (FilmLayer(id="film", skin="lamfilm_38", face="both", name="Film on both faces"),)


def _tail(s: Size) -> tuple[Layer, ...]:
    return (
        BarLayer(id="spar", stock="carbon_strip_3x0.5", place="middle", on_edge=True, end_mm=_out(s, 0.9)),
        StripLayer(id="tape", skin="filament_tape_uni", face="both", width_mm=min(20, _wide(s, 0.25))),
    )


def _board_tail(s: Size) -> tuple[Layer, ...]:
    return (
        WallLayer(id="plate", sheet="foamboard_light_5", face="level", root_percent=50, tip_percent=50, name="Board"),
    )


def _nothing(_: Size) -> tuple[Layer, ...]:
    return ()


def _size(span: float, chords: tuple[float, float], thicknesses: tuple[float, float]) -> Size:
    return Size(
        span_mm=span, root_chord_mm=chords[0], tip_chord_mm=chords[1], root_thickness_mm=thicknesses[0],
        tip_thickness_mm=thicknesses[1],
    )  # fmt: skip


_WING = FourDigitSection(camber_percent=2, camber_position_percent=40)
_FLAT = RectangleSection()
_FOLDED = FoldedSection(
    board="foamboard_light_5", nose="strip", nose_mm=16, creases_percent=(12,), crease_rise_percent=8
)
_WEDGE_X = (0.0, 0.2, 0.4, 0.6, 0.8, 1.0)
_WEDGE = PointsSection(
    name="Wedge",
    upper=tuple((x, 0.1 * (1 - 0.85 * x)) for x in _WEDGE_X),
    lower=tuple((x, -0.1 * (1 - 0.85 * x)) for x in _WEDGE_X),
)
_AIR = ("pull_up", "three_point")
_BODY = ("tail_load", "motor_torque", "landing")

CONSTRUCTIONS: dict[str, Construction] = {
    c.key: c
    for c in (
        Construction(
            "bead_wing", "Moulded bead-foam wing half, rod pair and film",
            "Bead foam forgives hard landings. A pair of carbon rods near the faces carries the bending, with "
            "the foam between them as web. Ironed-on film all around resists twist and dents.",
            "wing", "Wing half", _size(600, (180, 140), (22, 16)),
            _WING, "epp_30", _bead_wing, _AIR, 900, 20, 20,
        ),
        Construction(
            "cut_core", "Cut-core wing half, tube pair and film",
            "A core cut from a block by wire is stiffer for its weight than bead foam, but it snaps: the tubes carry "
            "the bending, thick enough that the soft foam beside them does not shear; the film turns a crack into a "
            "fold.",
            "wing", "Wing half", _size(700, (190, 140), (21, 15)),
            _WING, "eps_20", _cut_core, _AIR, 900, 20, 25,
        ),
        Construction(
            "plate_wing", "Flat-plate wing half, extruded sheet",
            "A 6 mm extruded sheet is light and quick to cut, but snaps on its own. A carbon strip on edge "
            "through the sheet carries the bending, and tape on both faces holds the pieces together.",
            "wing", "Flat-plate wing half", _size(450, (160, 120), (6, 6)),
            _FLAT, "xps_sheet_6", _plate_wing, _AIR, 300, 13, 20,
        ),
        Construction(
            "folded_wing", "Folded-board wing half, inner box spar",
            "Foam board folded over a spar of the same board: no iron, no resin, one evening. The paper on "
            "both sides carries the load; with the inner paper peeled off it is lighter but buckles much "
            "sooner.",
            "wing", "Folded wing half", _size(500, (200, 200), (30, 30)),
            _FOLDED, None, _folded_wing, _AIR, 400, 12,
        ),
        Construction(
            "sheeted_wing", "Sheeted-core wing half, web and caps",
            "Balsa sheeting over a light core holds the shape and resists twist. Unidirectional carbon caps "
            "above and below an upright-grain web carry the bending; plies end as the moment falls.",
            "wing", "Sheeted wing half", _size(900, (220, 150), (26, 17)),
            _WING, "eps_15", _sheeted_wing, _AIR, 1400, 26, 35,
        ),
        Construction(
            "cloth_wing", "Cloth-skinned wing half, tape caps",
            "Glass cloth all around resists twist and dents; unidirectional carbon strips under it carry "
            "bending, with the stiff foam core as web. The construction for speed.",
            "wing", "Cloth-skinned wing half", _size(750, (200, 120), (19, 11)),
            _WING, "xps_40", _cloth_wing, _AIR, 1150, 30, 35,
        ),
        Construction(
            "fluted_wing", "Twin-wall wing half with dowel",
            "Twin-wall plastic folded over the nose survives rain and rough handling, but is heavy and "
            "flexible for its weight. Flutes run along the span; a web with upright flutes and a dowel carry "
            "the bending.",
            "wing", "Twin-wall wing half", _size(600, (220, 220), (28, 28)),
            _WING, None, _fluted_wing, _AIR, 500, 12,
        ),
        Construction(
            "moulded_wing", "Moulded hollow wing half with tube",
            "Two bead-foam shells with a dense moulded skin: light, tough and flexible. The shell carries "
            "twist and half the bending; a tube glued to a moulded web carries the rest to beyond mid-span.",
            "wing", "Moulded wing half", _size(600, (200, 150), (28, 20)),
            _WING, None, _moulded_wing, _AIR, 900, 20, 25,
        ),
        Construction(
            "tail_plate", "Tail half, flat plate",
            "A tail must above all be light. A plain sheet with a thin carbon strip on edge and tape on both "
            "faces is enough for a slow airframe.",
            "tail", "Tail half", _size(220, (130, 100), (6, 6)),
            _FLAT, "xps_sheet_6", _tail,
            ("tail_lift", "handling"), 600, 16, 15,
        ),
        Construction(
            "board_tail", "Tail half, plain foam board",
            "Foam board of the wing, cut to shape: its paper carries the load on both faces, and nothing has to be "
            "glued on. Paper that gets wet loses its strength, so seal the edges.",
            "tail", "Board tail half", _size(220, (130, 100), (5, 5)),
            _FLAT, None, _board_tail,
            ("tail_lift", "handling"), 600, 15, 15,
        ),
        Construction(
            "control_surface", "Control surface, wedge of foam",
            "A long narrow wedge twists easily; film on both faces closes it into a stiff cell. Compare bare "
            "foam, wrapped foam, balsa and an edge spar on the Bench.",
            "surface", "Control surface", _size(420, (42, 34), (7, 5)),
            _WEDGE, "epp_30", _surface,
            ("deflected",), 900, 20,
        ),
        Construction(
            "box_fuselage", "Box fuselage of board, wing to tail",
            "Four walls of foam board make a closed box, stiff in twist until something is cut out. The hatch "
            "near the wing shows what a cut-out costs.",
            "fuselage", "Rear fuselage", _size(520, (60, 34), (64, 34)),
            _FLAT, None, _box, _BODY, 620, 15,
        ),
        Construction(
            "crossed_plates", "Crossed plates, half-slotted",
            "Two boards slotted through each other: quick, flat to store and stiff in bending both ways, but "
            "weak in twist because nothing is closed.",
            "fuselage", "Crossed fuselage", _size(480, (60, 40), (70, 45)),
            _FLAT, None, _crossed, _BODY, 400, 13,
        ),
        Construction(
            "doubled_plate", "Doubled plate, thin ply between",
            "Two sheets on edge with thin ply between: the ply carries bolts, wing and motor; the foam keeps "
            "it from buckling.",
            "fuselage", "Profile fuselage", _size(480, (13, 13), (70, 34)),
            _FLAT, "xps_sheet_6", _doubled, _BODY, 400, 13,
        ),
        Construction(
            "formers_skin", "Formers with a thin skin",
            "A thin sheet rolled over formers makes a light round tube, stiff in twist. It can buckle between "
            "formers, so stringers help on the compression side.",
            "fuselage", "Round fuselage", _size(500, (70, 36), (74, 36)),
            EllipseSection(), None, _formers, _BODY, 900, 20, 0, 80, "balsa_light_3",
        ),
        Construction(
            "keel_skin", "Keel, sides and covering",
            "A balsa keel with spruce edges carries the heavy fittings, thin sides keep it straight, and "
            "covering above and below closes the box as far as film can.",
            "fuselage", "Keel fuselage", _size(480, (56, 36), (60, 38)),
            _FLAT, None, _keel, _BODY, 900, 18, 0, 90, "balsa_light_3",
        ),
        Construction(
            "tube_boom", "Tube boom",
            "A wrapped carbon tube is the lightest way to carry a tail. A spruce stick does the same for less "
            "money and more mass: change the spar.",
            "fuselage", "Tail boom", _size(520, (10.5, 10.5), (10.5, 10.5)),
            _FLAT, None, _boom,
            ("tail_load", "tip_weight"), 900, 20,
        ),
        Construction(
            "plank", "Plain test plank",
            "A bare plank on two supports is the simplest test there is. Load it, then add one thing at a time "
            "and see what each does.",
            "plank", "Test plank", _size(500, (120, 120), (20, 20)),
            _FLAT, "xps_30", _nothing, ("three_point",), 900, 20,
        ),
    )
}  # fmt: skip
"""Every construction by its key, wings first."""
