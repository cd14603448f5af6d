"""New lines as they come into the hand: whatever is offered can be put in, on every construction and on any size."""

from __future__ import annotations

import pytest

from fletcher.core.document.airframe import (
    BarLayer,
    CutLayer,
    FilmLayer,
    FittingLayer,
    Laminate,
    Part,
    Ply,
    StripLayer,
    WallLayer,
)
from fletcher.core.materials.tables import reference
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.starters import NEW_ID, starters
from fletcher.core.validation.airframe import check_part

ALL = {key: made.part() for key, made in CONSTRUCTIONS.items()}


def offered(part: Part) -> dict:
    return {s.label: s.layer for s in starters(part)}


def small(part: Part) -> Part:
    """A third of it, bare."""
    scale = {k: getattr(part, k) / 3 for k in ("span_mm", "root_chord_mm", "tip_chord_mm")}
    return part.model_copy(update={**scale, "layers": (), "control": None, "damage": (), "cases": part.cases[:1]})


@pytest.mark.parametrize("key", list(ALL))
def test_whatever_is_offered_can_be_put_in_and_something_always_is(key: str) -> None:
    for part in (ALL[key], small(ALL[key])):
        before = {(p.path, p.message) for p in check_part(part, reference())}
        found = starters(part)
        assert len(found) >= 5
        for starter in found:
            own = starter.layer.model_copy(update={"id": "mine"})
            then = part.model_copy(update={"layers": (*part.layers, own)})
            told = {(p.path, p.message) for p in check_part(then, reference())}
            assert told <= before, (starter.label, told - before)


def test_a_second_pair_of_bars_lies_beside_the_first() -> None:
    part = ALL["bead_wing"]
    (spar,) = [la for la in part.layers if isinstance(la, BarLayer)][:1]
    pair = offered(part)["Pair of spars"]
    assert spar.root_percent == 30.0
    assert pair.root_percent == pair.tip_percent == 45.0
    then = part.model_copy(update={"layers": (*part.layers, pair.model_copy(update={"id": "second"}))})
    assert offered(then)["Pair of spars"].root_percent == 60.0


def test_sizes_follow_the_narrower_end_and_the_thinner_one() -> None:
    part = ALL["plank"].model_copy(
        update={"span_mm": 500.0, "root_chord_mm": 40.0, "tip_chord_mm": 60.0,
                "root_thickness_mm": 30.0, "tip_thickness_mm": 20.0, "layers": ()}
    )  # fmt: skip
    found = offered(part)
    strip, cut, servo = (
        found[k] for k in ("Tape or cloth strip", "Cut-out: pocket, hole, slit", "Servo, battery or lead")
    )
    assert isinstance(strip, StripLayer) and isinstance(cut, CutLayer) and isinstance(servo, FittingLayer)
    assert strip.width_mm == 13.0
    assert (cut.start_mm, cut.end_mm, cut.width_mm, cut.depth_mm) == (100.0, 150.0, 10.0, 6.0)
    assert servo.pocket and servo.start_mm == 200.0
    brace = found["Butt or scarf joint"].joint.braces[0]
    assert (brace.each_side_mm, brace.deep_mm) == (60.0, 12.0)
    short = offered(part.model_copy(update={"span_mm": 60.0}))["Butt or scarf joint"].joint.braces[0]
    assert short.each_side_mm == 29.0
    assert found["Butt or scarf joint"].start_mm == 250.0
    assert found["Plate: mount or horn"].start_mm == 167.0


def test_what_suits_a_kind_of_part_alone_is_offered_to_that_kind() -> None:
    wing, surface, folded = offered(ALL["bead_wing"]), offered(ALL["control_surface"]), offered(ALL["folded_wing"])
    assert "Rubber bands and pegs" in wing and "Hinge at front edge" not in wing
    assert "Hinge at front edge" in surface and "Rubber bands and pegs" not in surface
    assert surface["Plate: mount or horn"].joint.load == "rod"
    assert wing["Plate: mount or horn"].joint.load == "given"
    assert not {"Glue under an item", "Butt or scarf joint", "Plate: mount or horn"} & set(folded)
    assert folded["Servo, battery or lead"].face == "inside"
    assert folded["Skin: film or cloth"].face == "both" and wing["Skin: film or cloth"].face == "wrapped"


def test_a_bare_part_has_nothing_to_lap_and_a_lap_is_of_the_last_line() -> None:
    part = ALL["bead_wing"]
    bare = offered(part.model_copy(update={"layers": ()}))
    assert not {"Lap joint", "Glue under an item"} & set(bare)
    last = [la.id for la in part.layers if la.type in ("bar", "strip", "film", "wall")][-1]
    assert offered(part)["Lap joint"].joint.of == last
    assert all(s.layer.id == NEW_ID for s in starters(part))


def test_an_impossible_draft_still_offers_lines() -> None:
    """What is wrong already is no reason to refuse a new line."""
    part = ALL["bead_wing"]
    broken = part.model_copy(update={"layers": (*part.layers, part.layers[0].model_copy(update={"id": "again"}))})
    assert check_part(broken, reference())
    assert "Tape or cloth strip" in offered(broken)


@pytest.mark.parametrize(
    ("key", "bar", "strip", "film"),
    [
        ("bead_wing", "carbon_rod_3", "filament_tape_uni", "lamfilm_75"),  # as it has them
        ("cut_core", "carbon_tube_5_3", "filament_tape_uni", "lamfilm_75"),
        ("plank", "carbon_rod_2", "filament_tape_uni", "coverfilm_lowtemp_po"),  # what extruded PS stands
        ("plate_wing", "carbon_strip_5x1", "bopp_tape_std", "bopp_tape_std"),  # PS sheet stands no iron
        ("folded_wing", "carbon_rod_2", "filament_tape_uni", "lamfilm_38"),  # paper stands it
        ("fluted_wing", "hardwood_dowel_5", "filament_tape_uni", "bopp_tape_std"),
        ("formers_skin", "balsa_5x10", "filament_tape_uni", "bopp_tape_std"),
    ],
)
def test_a_new_line_is_of_what_the_part_is_made_of_or_of_what_it_stands(key, bar, strip, film) -> None:
    found = offered(ALL[key])
    assert [found[k].stock for k in ("Pair of spars", "Single spar") if k in found] == [bar] * (
        ("Pair of spars" in found) + ("Single spar" in found)
    )
    assert found["Tape or cloth strip"].skin == strip and found["Skin: film or cloth"].skin == film


def test_a_part_in_cloth_gets_more_cloth_in_its_own_resin() -> None:
    film = FilmLayer(id="f", skin=Laminate(plies=(Ply(cloth="glass_80"),), resin="epoxy_flexible"))
    part = ALL["plank"].model_copy(update={"layers": (film,)})
    strip = offered(part)["Tape or cloth strip"].skin
    assert [p.cloth for p in strip.plies] == ["carbon_ud_50"] and strip.resin == "epoxy_flexible"
    only_strip = ALL["plank"].model_copy(update={"layers": (StripLayer(id="s", skin=strip),)})
    skin = offered(only_strip)["Skin: film or cloth"].skin
    assert [p.cloth for p in skin.plies] == ["glass_49"] and skin.resin == "epoxy_flexible"
    off = part.model_copy(update={"layers": (film.model_copy(update={"enabled": False}),)})
    assert offered(off)["Tape or cloth strip"].skin == "filament_tape_uni"  # what is left out is not of the part


def test_wood_gets_wood_and_a_web_like_its_web() -> None:
    sheeted = ALL["keel_skin"].model_copy(update={"layers": tuple(
        la for la in ALL["keel_skin"].layers if la.type == "wall"
    )})  # fmt: skip
    found = offered(sheeted)
    assert found["Single spar"].stock == "spruce_3x5"
    assert found["Sheeting or board"].sheet.startswith("balsa")
    assert offered(ALL["moulded_wing"])["Sheeting or board"].sheet == "balsa_light_1.5"  # nobody buys a moulding
    web = WallLayer(id="w", sheet="birchply_0.8", face="web")
    assert offered(ALL["plank"].model_copy(update={"layers": (web,)}))["Shear web"].sheet == "birchply_0.8"
    assert offered(ALL["plank"])["Shear web"].sheet == "balsa_light_3"
