"""The plan of whole airframes: nothing before what it needs, nothing left out, no sooner than its chain."""

from __future__ import annotations

import math
from datetime import UTC, datetime, timedelta
from itertools import pairwise

import pytest
from icalendar import Calendar

from fletcher.core.adhesion.adhesives import adhesives, curings
from fletcher.core.adhesion.readiness import ready_after, slowed
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, BarLayer, FilmLayer, FittingLayer, JointLayer, Place
from fletcher.core.document.joint import BondJoint, Glued
from fletcher.core.plan.gates import GATES, two_of_one_hand
from fletcher.core.plan.ical import calendar_of
from fletcher.core.plan.operations import heat_too_late, operations
from fletcher.core.plan.planning import plan
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import Hours, ShopWish
from fletcher.core.studies.constructions import CONSTRUCTIONS

NOW = datetime(2026, 6, 1, 17, 0, 30, tzinfo=UTC)  # a Monday
FLEET = demo_airframes()
EVENINGS = ShopWish(hours=(Hours(from_hour=18, to_hour=22),))
GLUE = "contact_foamsafe_clear"


def with_part(key: str, *, hand: str = "single", **changes) -> Airframe:
    part = CONSTRUCTIONS[key].part().model_copy(update={"hand": hand, "place": Place(), **changes})
    return Airframe(name="x", all_up_mass_g=600, top_speed_m_s=14, parts=(part,))


def made(airframe: Airframe, shop: ShopWish = ShopWish()):  # noqa: B008 - frozen
    found = plan(airframe, shop, NOW)
    return found, {p.key: p for p in found.planned}, {o.key: o for o in found.operations}


def gap(at, first: str, then: str) -> float:
    return (at[then].begins - at[first].ends).total_seconds() / 60


@pytest.mark.parametrize("airframe", FLEET, ids=lambda a: a.name)
@pytest.mark.parametrize("shop", [ShopWish(), EVENINGS, ShopWish(people=2, boards=3)], ids=["any", "evenings", "two"])
def test_no_step_comes_before_what_it_needs_and_none_is_left_out(airframe, shop):
    found, at, by_key = made(airframe, shop)
    assert len(by_key) == len(found.operations) == len(at) == len(found.planned)
    for o in found.operations:
        for a in o.after:
            assert gap(at, a.key, o.key) >= a.wait_min, (a.key, o.key)
    lines = {(o.part_id, o.layer_id) for o in found.operations if o.layer_id}
    for part in airframe.parts:
        for la in part.layers:
            bond = la.type == "joint" and la.joint.kind in ("bond", "lap")
            if part.kind != "plank" and la.enabled and not bond and not getattr(la, "shapes", False):
                assert (part.id, la.id) in lines
    hands = sum((p.ends - p.begins for p in found.planned), timedelta())
    begins = NOW.replace(second=0)
    assert found.flies - begins >= timedelta(minutes=found.chain_min)
    assert found.flies - begins >= hands / shop.people
    assert found.flies_from <= found.flies <= found.flies_to and found.not_before <= found.flies
    for p in found.planned:
        if p.key == "flight":
            assert p.begins.hour >= 9 and (p.ends.hour, p.ends.minute) <= (16, 0)
        elif shop.hours:
            assert p.begins.hour >= 18 and (p.ends.hour < 22 or (p.ends.hour, p.ends.minute) == (22, 0))


@pytest.mark.parametrize("airframe", FLEET, ids=lambda a: a.name)
def test_hands_of_one_person_never_overlap(airframe):
    found, _, _ = made(airframe)
    ordered = sorted(found.planned, key=lambda p: p.begins)
    assert all(a.ends <= b.begins for a, b in pairwise(ordered))
    boards = sorted((p.begins, p.sets) for p, o in zip(found.planned, found.operations, strict=True)
                    if "boards" in o.hold)  # fmt: skip
    assert all(a[1] <= b[0] for a, b in pairwise(boards))


def test_two_halves_are_made_side_by_side_the_second_cut_once_the_first_ones_hand_is_checked():
    _, at, by_key = made(with_part("bead_wing", hand="both"))
    part = CONSTRUCTIONS["bead_wing"].part()
    assert f"{part.id}/left/core" in at and gap(at, f"{part.id}/right/datum", f"{part.id}/left/core") >= 0
    assert [g.key for g in by_key[f"{part.id}/right/datum"].gates] == ["hand"]
    single = made(with_part("bead_wing"))[2]
    assert not any(g.key == "hand" for o in single.values() for g in o.gates)


def test_a_glue_that_is_entered_sets_as_its_curve_says_and_slower_in_the_cold():
    part = CONSTRUCTIONS["bead_wing"].part()
    bar = next(la for la in part.layers if isinstance(la, BarLayer))
    film = FilmLayer(id="film", skin="lamfilm_38", face="both")
    bond = JointLayer(id="glue", joint=BondJoint(of=bar.id), glue=Glued(adhesive=GLUE))
    airframe = with_part("bead_wing", layers=(bar, bond, film))
    for warmth in (20.0, 12.0):
        _, at, by_key = made(airframe, ShopWish(warmth_C=warmth))
        o, coat = by_key[f"{part.id}/one/{bar.id}"], by_key[f"{part.id}/one/{bar.id}/coat"]
        assert o.fixed_min == ready_after(GLUE, "fixed", warmth) and coat.gates and not coat.glue
        (aired,) = o.after
        assert aired.wait_min == math.ceil(adhesives()[GLUE].flash_min.typ * slowed(curings()[GLUE], warmth))
        assert aired.wait_min <= gap(at, coat.key, o.key) <= aired.within_min
        assert o.loaded_min == ready_after(GLUE, "loaded", warmth, late=True)
        assert gap(at, o.key, f"{part.id}/one/film") >= o.fixed_min
        assert gap(at, o.key, "bench") >= o.loaded_min
    assert ready_after(GLUE, "loaded", 12.0, late=True) > ready_after(GLUE, "loaded", 20.0, late=True)
    with pytest.raises(Impossible, match="does not cure at -10 °C: warm the shop to"):
        operations(airframe, ShopWish(warmth_C=-10))


def test_a_hollow_part_is_cut_first_and_closed_last_wherever_its_lay_up_names_the_walls():
    part = CONSTRUCTIONS["folded_wing"].part()
    lead = FittingLayer(id="lead", stock="lead_servo", face="inside")
    _, at, by_key = made(with_part("folded_wing", layers=(*part.layers, lead)))
    shell = next(la.id for la in part.layers if la.type == "wall" and la.face in ("both", "wrapped"))
    webs = [la.id for la in part.layers if la.type == "wall" and la.face == "web"]
    key = f"{part.id}/one"
    assert webs
    for inner in (*webs, "lead"):
        assert gap(at, f"{key}/{shell}/flat", f"{key}/{inner}") >= 0
        assert gap(at, f"{key}/{inner}", f"{key}/{shell}") >= by_key[f"{key}/{inner}"].fixed_min
    assert "inside" in [g.key for g in by_key[f"{key}/{shell}"].gates]
    halves = by_key[f"{key}/{shell}/flat"].minutes.typ, by_key[f"{key}/{shell}"].minutes.typ
    assert halves[0] == halves[1]


def test_a_control_surface_is_weighed_then_hung_on_a_finished_wing():
    _, at, by_key = made(FLEET[0])
    surface = next(p for p in FLEET[0].parts if p.kind == "surface")
    hinge = next(la.id for la in surface.layers if la.type == "hinge")
    others = [la.id for la in surface.layers if la.type != "hinge" and f"{surface.id}/right/{la.id}" in by_key]
    assert others
    for side in ("right", "left"):
        hung = f"{surface.id}/{side}/{hinge}"
        for first in (
            f"wing/{side}/weigh",
            f"{surface.id}/{side}/weigh",
            *(f"{surface.id}/{side}/{n}" for n in others),
        ):
            assert gap(at, first, hung) >= 0
        assert gap(at, hung, "square") >= by_key[hung].fixed_min


def test_a_tube_that_is_the_part_is_cut_to_length_and_not_glued():
    _, _, by_key = made(with_part("tube_boom", kind="fuselage"))
    (tube,) = (o for o in by_key.values() if o.layer_id)
    assert tube.title.startswith("cut to length") and not tube.glue and not tube.gates


def test_electronics_before_the_iron_is_said():
    part = CONSTRUCTIONS["bead_wing"].part()
    servo = FittingLayer(id="servo", stock="servo_9g", name="Flap servo")
    film = FilmLayer(id="film", skin="lamfilm_38", face="both")
    first, then = (with_part("bead_wing", layers=x) for x in ((servo, film), (film, servo)))
    assert list(heat_too_late(first)) == [f"{part.name}: Flap servo is in before film is ironed on: heat first, then "
                                          "electronics."]  # fmt: skip
    assert list(heat_too_late(then)) == [] and plan(first, ShopWish(), NOW).remarks


def test_two_of_one_hand_are_found():
    a, b = (with_part("bead_wing", hand="left").parts[0].model_copy(update={"id": k, "name": k}) for k in "ab")
    pair = Airframe(name="x", all_up_mass_g=600, top_speed_m_s=14, parts=(a, b))
    assert list(two_of_one_hand(pair)) == ["a and b are both left ones: a pair needs one of each."]
    right = b.model_copy(update={"hand": "right"})
    assert list(two_of_one_hand(pair.model_copy(update={"parts": (a, right)}))) == []


@pytest.mark.parametrize(
    ("shop", "says"),
    [
        (ShopWish(zone="Nowhere/Land"), "is no time zone"),
        (ShopWish(hours=(Hours(from_hour=18, to_hour=18),)), "each must end later than it begins"),
        (ShopWish(hours=(Hours(from_hour=18, to_hour=18.2),)), "without a break; the longest working time is 12 min"),
    ],
)
def test_a_shop_that_cannot_be_is_named(shop, says):
    with pytest.raises(Impossible, match=says):
        plan(FLEET[0], shop, NOW)
    with pytest.raises(Impossible, match="nothing here is built"):
        plan(FLEET[0].model_copy(update={"parts": ()}), ShopWish(), NOW)


def test_the_calendar_holds_every_step_and_rings_when_glue_holds():
    found, at, _ = made(FLEET[0], EVENINGS)
    told = Calendar.from_ical(calendar_of(found, FLEET[0].name, NOW))
    events = {str(e["uid"]): e for e in told.walk("VEVENT")}
    assert set(events) == {f"{key}@{FLEET[0].name}" for key in at}
    for key, p in at.items():
        e = events[f"{key}@{FLEET[0].name}"]
        assert (e["dtstart"].dt, e["dtend"].dt) == (p.begins, p.ends)
        rings = [alarm["trigger"].dt for alarm in e.walk("VALARM")]
        assert rings == ([p.sets - p.begins] if p.sets else [])


def test_every_gate_is_used_or_belongs_to_what_is_not_drawn_yet():
    used = {g.key for a in FLEET for o in plan(a, ShopWish(), NOW).operations for g in o.gates}
    assert used <= set(GATES) and len(used) >= 15
