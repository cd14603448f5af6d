"""Starting points: complete airframes and parts that a builder can change at once."""

from __future__ import annotations

from dataclasses import dataclass

from fletcher.core.airframe import Airframe, BarLayer, FilmLayer, FourDigitSection, Part, RectangleSection, StripLayer
from fletcher.core.cases import PullUpCase, ThreePointCase


@dataclass(frozen=True)
class Preset:
    """A part to start from. `why` explains the choice of materials in a sentence or two."""

    key: str
    title: str
    why: str
    part: Part


_WING_CASES = (
    PullUpCase(id="pull-up", name="Pull-up in the air", speed_m_s=15),
    ThreePointCase(
        id="bench", name="Bench, weight in the middle", first_support_mm=60, second_support_mm=540, weight_g=1000
    ),
)

PRESETS: dict[str, Preset] = {
    p.key: p
    for p in (
        Preset(
            key="bead-wing-600",
            title="Bead-foam wing half, 600 mm, rod pair and film",
            why=(
                "Bead foam forgives hard landings; a pair of 3 mm carbon rods near the faces takes the bending with "
                "the foam between them as web. Film ironed all round keeps twist and dents down."
            ),
            part=Part(
                id="wing",
                name="Wing half",
                span_mm=600,
                root_chord_mm=180,
                tip_chord_mm=140,
                tip_setback_mm=20,
                root_thickness_mm=22,
                tip_thickness_mm=16,
                section=FourDigitSection(camber_percent=2, camber_position_percent=40),
                foam="epp_30",
                layers=(
                    BarLayer(id="spar", stock="carbon_rod_3", place="pair", end_mm=470, cover_mm=0.5),
                    StripLayer(id="tape", skin="filament_tape_uni", face="lower", width_mm=25, end_mm=560),
                    FilmLayer(id="film", skin="lamfilm_75", face="wrapped"),
                ),
                cases=_WING_CASES,
            ),
        ),
        Preset(
            key="plate-wing-450",
            title="Flat-plate wing half, 450 mm, extruded sheet",
            why=(
                "A 6 mm extruded sheet is quick to cut and light. It snaps when bent alone, so a flat carbon strip on "
                "edge through the sheet takes the bending and tape on both faces holds the pieces."
            ),
            part=Part(
                id="wing",
                name="Flat-plate wing half",
                span_mm=450,
                root_chord_mm=160,
                tip_chord_mm=120,
                tip_setback_mm=20,
                root_thickness_mm=6,
                tip_thickness_mm=6,
                section=RectangleSection(),
                foam="xps_sheet_6",
                layers=(
                    BarLayer(id="spar", stock="carbon_strip_5x1", place="middle", on_edge=True, end_mm=400),
                    StripLayer(id="tape", skin="bopp_tape_std", face="both", width_mm=48),
                ),
                cases=(
                    PullUpCase(id="pull-up", name="Pull-up in the air", speed_m_s=11, cl_max=0.8),
                    ThreePointCase(
                        id="bench",
                        name="Bench, weight in the middle",
                        first_support_mm=25,
                        second_support_mm=425,
                        weight_g=300,
                    ),
                ),
            ),
        ),
        Preset(
            key="cloth-wing-750",
            title="Cloth-skinned wing half, 750 mm, tape caps",
            why=(
                "Glass cloth all round carries twist and dents, one-way carbon strips under it carry bending over the "
                "whole chord of stiff foam as web: the construction for speed."
            ),
            part=Part(
                id="wing",
                name="Cloth-skinned wing half",
                span_mm=750,
                root_chord_mm=200,
                tip_chord_mm=120,
                tip_setback_mm=35,
                root_thickness_mm=19,
                tip_thickness_mm=11,
                section=FourDigitSection(camber_percent=2, camber_position_percent=40),
                foam="xps_40",
                layers=(
                    StripLayer(id="caps", skin="carbon_ud_100", face="both", width_mm=25, plies=2, end_mm=600),
                    FilmLayer(id="cloth", skin="glass_49", face="both"),
                ),
                cases=(
                    PullUpCase(id="pull-up", name="Pull-up in the air", speed_m_s=20, cl_max=0.9),
                    ThreePointCase(
                        id="bench",
                        name="Bench, weight in the middle",
                        first_support_mm=75,
                        second_support_mm=675,
                        weight_g=2000,
                    ),
                ),
            ),
        ),
        Preset(
            key="plank",
            title="Plain plank for the bench, 500 × 120 × 20 mm",
            why=(
                "A bare plank on two pegs is the cheapest test there is. Bend it, then add one thing at a time and see "
                "what each does."
            ),
            part=Part(
                id="plank",
                name="Test plank",
                kind="plank",
                span_mm=500,
                root_chord_mm=120,
                tip_chord_mm=120,
                root_thickness_mm=20,
                tip_thickness_mm=20,
                section=RectangleSection(),
                foam="xps_30",
                cases=(
                    ThreePointCase(
                        id="bench",
                        name="Bench, weight in the middle",
                        first_support_mm=10,
                        second_support_mm=490,
                        weight_g=1500,
                    ),
                ),
            ),
        ),
    )
}


def demo_airframes() -> tuple[Airframe, ...]:
    """The invented fleet of a salt-marsh survey group, for the demo account and the tests."""
    wing = PRESETS["bead-wing-600"].part
    return (
        Airframe(
            name="Reed Warden",
            state="building",
            all_up_mass_g=900,
            note=(
                "Slow camera glider for counting nests over the bird islands. The left half waits for its film; "
                "the plank is an offcut of the spare block."
            ),
            parts=(
                wing.model_copy(update={"id": "wing", "name": "Left wing half"}),
                PRESETS["plank"].part.model_copy(update={"id": "plank", "name": "Offcut plank"}),
            ),
        ),
    )
