"""What waits for what in a lay-up: only lines that meet, in the order of the lay-up."""

from __future__ import annotations

from fletcher.core.document.airframe import CutLayer, FilmLayer, FittingLayer, StripLayer
from fletcher.core.plan.cover import edges, inside, shuts
from fletcher.core.studies.constructions import CONSTRUCTIONS


def wing(*layers):
    part = CONSTRUCTIONS["bead_wing"].part()
    spar = next(la for la in part.layers if la.type == "bar")
    return part.model_copy(update={"layers": (spar.model_copy(update={"id": "bar"}), *layers)})


FILM = FilmLayer(id="film", skin="lamfilm_38", face="both")
POCKET = CutLayer(id="pocket", face="lower", start_mm=200, end_mm=240, root_percent=45, tip_percent=45, width_mm=25,
                  depth_mm=9)  # fmt: skip
TAPE = StripLayer(id="tape", skin="bopp_tape_std", face="lower", width_mm=25, root_percent=48, tip_percent=48)


def test_bar_then_film_then_pocket_then_tape():
    found = set(edges(wing(FILM, POCKET, TAPE)))
    assert {("bar", "film"), ("film", "pocket"), ("pocket", "tape"), ("film", "tape")} == found


def test_what_does_not_meet_does_not_wait():
    away = POCKET.model_copy(update={"id": "away", "root_percent": 70.0, "tip_percent": 70.0})
    above = TAPE.model_copy(update={"id": "above", "face": "upper"})
    short = TAPE.model_copy(update={"id": "short", "start_mm": 300.0, "end_mm": 400.0})
    found = set(edges(wing(POCKET, away, above, short)))
    assert found == set()
    off = FILM.model_copy(update={"enabled": False})
    assert not any("film" in e for e in edges(wing(off, POCKET)))


def test_the_order_of_the_lay_up_is_the_order_of_work():
    assert ("pocket", "film") in set(edges(wing(POCKET, FILM))) and ("film", "pocket") not in set(
        edges(wing(POCKET, FILM))
    )


def test_a_hollow_part_is_shut_by_its_walls_and_not_by_its_web():
    part = CONSTRUCTIONS["folded_wing"].part()
    shut = [la for la in part.layers if shuts(la, part)]
    assert shut and all(getattr(la, "face", "") != "web" for la in shut)
    solid = wing(FILM)
    assert not any(shuts(la, solid) for la in solid.layers)
    lead = FittingLayer(id="lead", stock="lead_servo", face="inside")
    assert inside(lead, solid) and not inside(POCKET, solid)
    assert not inside(lead.model_copy(update={"face": "lower"}), solid)
    assert all(inside(la, part) != shuts(la, part) for la in part.layers if la.type == "wall")
