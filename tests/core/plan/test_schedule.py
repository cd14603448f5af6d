"""The schedule against worked cases (two independent searches each), and laws that hold for any input."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fletcher.core.plan.schedule import (
    After,
    Box,
    Impossible,
    Shop,
    Step,
    by_tail,
    in_order,
    longest_chain,
    schedule,
    sessions_of,
)

BOARD = {"board": 1}


def halves(wait: int = 60, late_wait: int = 90) -> list[Step]:
    """Two halves: cut, slot, glue bars on the board until fixed, film; then joined and checked."""
    out = []
    for hand in "LR":
        out += [
            Step(f"A{hand}", 30),
            Step(f"B{hand}", 20, (After(f"A{hand}"),)),
            Step(f"C{hand}", 15, (After(f"B{hand}"),), hold=BOARD, held=wait),
            Step(f"D{hand}", 40, (After(f"C{hand}", wait),)),
        ]
    out.append(Step("join", 20, (After("DL"), After("DR")), hold=BOARD, held=late_wait))
    return [*out, Step("check", 25, (After("join", late_wait),))]


@pytest.mark.parametrize(("people", "boards", "finish"), [(1, 2, 365), (1, 1, 375), (2, 2, 300), (2, 1, 375)])
def test_two_halves(people, boards, finish):
    found = schedule(halves(), Shop(people, {"board": boards}))
    assert found.finish == finish and found.proved
    assert longest_chain(halves()) == 300 and sum(s.hands for s in halves()) == 255
    assert found.sessions == (2 if people == 1 else None)


def test_a_step_that_took_longer_moves_what_is_left():
    """AL 0, BL 30, CL 50, AR 65, BR 95, CR 115; CR takes 40 instead of 15, planned anew at 155."""
    steps = [Step(s.key, 40 if s.key == "CR" else s.hands, s.after, hold=s.hold, held=s.held) for s in halves()]
    begun = {"AL": 0, "BL": 30, "CL": 50, "AR": 65, "BR": 95, "CR": 115}
    found = schedule(steps, Shop(1, {"board": 2}), begun, now=155)
    assert found.finish == 390 and all(found.starts[k] == v for k, v in begun.items())


def test_a_cold_shop():
    """At 15 °C with r = 2: waits 84.85 and 127.28, rounded up."""
    slow = 2.0**0.5
    found = schedule(halves(math.ceil(60 * slow), math.ceil(90 * slow)), Shop(1, {"board": 2}))
    assert found.finish == 428


@pytest.mark.parametrize(("clamps", "finish", "sessions"), [(6, 245, 4), (8, 185, 3), (16, 135, 2)])
def test_five_joints_and_few_clamps(clamps, finish, sessions):
    joints = [(10, 4), (10, 3), (10, 3), (10, 2), (15, 4)]
    steps = [Step(f"J{n}", hands, hold={"clamp": many}, held=60) for n, (hands, many) in enumerate(joints)]
    steps.append(Step("last", 20, tuple(After(s.key, 60) for s in steps)))
    found = schedule(steps, Shop(1, {"clamp": clamps}))
    assert (found.finish, found.sessions) == (finish, sessions)


def evenings(lay: int, joint: int) -> list[Step]:
    out = []
    for hand in "LR":
        out += [
            Step(f"prepare {hand}", 40),
            Step(f"lay up {hand}", 75, (After(f"prepare {hand}"),), hold={"bag": 1}, held=lay),
            Step(f"trim {hand}", 30, (After(f"lay up {hand}", lay),)),
        ]
    out.append(Step("join", 45, (After("trim L"), After("trim R"))))
    return [*out, Step("balance", 40, (After("join", joint),))]


@pytest.mark.parametrize(
    ("bags", "lay", "joint", "finish"),
    [(1, 900, 150, 4360), (2, 900, 150, 2920), (1, 276, 150, 4360), (1, 276, 75, 3070), (2, 276, 75, 1660)],
)
def test_evenings_of_four_hours(bags, lay, joint, finish):
    windows = tuple((1440 * day, 1440 * day + 240) for day in range(8))
    assert schedule(evenings(lay, joint), Shop(1, {"bag": bags}, windows)).finish == finish


@pytest.mark.parametrize(("open_min", "finish"), [(15, 100), (20, 95), (30, 95)])
def test_contact_glue_is_closed_while_it_is_open(open_min, finish):
    steps = [Step("a", 30), Step("b", 20)]
    for n in range(3):
        steps += [Step(f"coat {n}", 10), Step(f"close {n}", 5, (After(f"coat {n}", 10, open_min),))]
    found = schedule(steps, Shop(1))
    assert found.finish == finish
    for n in range(3):
        assert 10 <= found.starts[f"close {n}"] - found.starts[f"coat {n}"] - 10 <= open_min


@pytest.mark.parametrize(
    ("steps", "shop", "says"),
    [
        ([Step("glue", 90)], Shop(windows=((0, 60), (1440, 1500))), "glue takes 90 min without a break"),
        ([Step("bag", 10, people=2)], Shop(1), "bag needs 2 people, there are 1"),
        ([Step("wire", 10, use={"wire": 2})], Shop(has={"wire": 1}), "wire needs 2 × wire, there are 1"),
        (
            [Step("skin", 5, (After("leads"),)), Step("leads", 5, (After("skin"),)), Step("x", 1)], Shop(),
            "leads → skin → leads|skin → leads → skin",
        ),
    ],
)  # fmt: skip
def test_what_cannot_be_is_named(steps, shop, says):
    with pytest.raises(Impossible) as refused:
        schedule(steps, shop)
    assert any(s in str(refused.value) for s in says.split("|"))


def test_a_tool_that_is_away_is_waited_for():
    step = Step("iron film", 20, use={"iron": 1})
    assert schedule([step], Shop(has={"iron": 1}, busy=(("iron", 5, 60),))).starts["iron film"] == 60
    assert schedule([step], Shop(has={"iron": 1}, busy=(("iron", 30, 60),))).starts["iron film"] == 0


def test_nothing_to_do_takes_no_time():
    assert schedule([], Shop()).finish == 0


def skins(attended: int = 0, places: int = 1, rooms: dict[str, int] | None = None) -> tuple[list[Step], Shop]:
    """Two skins, a warm box with one place that they may go into, trimmed and joined."""
    box = Box("warm box", 276, attended)
    steps = []
    for hand in "LR":
        steps.append(Step(f"lay up {hand}", 60, box=box))
        steps.append(Step(f"trim {hand}", 30, (After(f"lay up {hand}", 900, warm=276),)))
    steps.append(Step("join", 30, (After("trim L"), After("trim R"))))
    return steps, Shop(1, {"warm box": places, **(rooms or {})})


def test_a_warm_box_is_entered_at_once_where_it_brings_the_end_forward():
    """S5: room and room 1080, one in the box 1020, both in turn 672."""
    steps, shop = skins()
    found = schedule(steps, shop)
    assert (found.finish, found.proved, found.warm) == (672, True, {"lay up L", "lay up R"})
    assert schedule([replace(s, box=None) for s in steps], shop).finish == 1080
    one = [replace(s, box=None) if s.key == "lay up L" else s for s in steps]
    assert (schedule(one, shop).finish, schedule(one, shop).warm) == (1020, {"lay up R"})
    ends = [found.starts[f"lay up {h}"] + 60 for h in "LR"]
    assert abs(ends[0] - ends[1]) >= 276  # one place
    assert schedule(*skins(places=2)).finish == 60 + 60 + 276 + 30 + 30


def test_a_box_that_saves_nothing_stays_empty():
    steps = [Step("glue", 10, box=Box("warm box", 60)), Step("long", 300), Step("end", 5, (After("glue", 120, warm=60),
                                                                                          After("long")))]  # fmt: skip
    found = schedule(steps, Shop(1, {"warm box": 1}))
    assert (found.finish, found.warm) == (315, frozenset())


def test_a_box_without_a_thermostat_is_watched():
    """Evenings of four hours: with a watch of 276 min it never fits; with a thermostat it cures by night."""
    evenings = tuple((1440 * day, 1440 * day + 240) for day in range(8))
    alone, watched = (schedule(s, replace(shop, windows=evenings)) for s, shop in (skins(), skins(attended=276)))
    assert watched.warm == frozenset() and alone.finish <= watched.finish
    longer = tuple((1440 * day, 1440 * day + 360) for day in range(8))
    steps, shop = skins(attended=276)
    found = schedule(steps, replace(shop, windows=longer))
    for key in found.warm:
        at = found.starts[key]
        assert any(a <= at and at + 60 + 276 <= b for a, b in longer)


def test_what_lies_in_the_box_already_takes_its_place():
    steps, shop = skins()
    box = steps[0].box
    begun = [replace(s, box=None, boxed=box) if s.key == "lay up L" else s for s in steps]
    begun = [replace(s, after=tuple(After(a.key, 276) if a.key == "lay up L" else a for a in s.after)) for s in begun]
    found = schedule(begun, shop, {"lay up L": 0}, now=70)
    assert found.warm == {"lay up R"} and found.starts["lay up R"] + 60 >= 60 + 276
    assert found.starts["trim L"] >= 60 + 276 and found.finish == 672


@st.composite
def works(draw):
    steps = []
    for n in range(draw(st.integers(2, 7))):
        before = draw(st.lists(st.integers(0, n - 1), max_size=2, unique=True)) if n else []
        after = tuple(After(f"s{k}", draw(st.integers(0, 40))) for k in before)
        hold = {"board": 1} if draw(st.booleans()) else {}
        steps.append(Step(f"s{n}", draw(st.integers(1, 30)), after, hold=hold, held=draw(st.integers(0, 40))))
    return steps


def possible(steps, found, shop) -> bool:
    """Whether a schedule breaks nothing, checked minute by minute."""
    known = {s.key: s for s in steps}
    for s in steps:
        for a in s.after:
            if found.starts[s.key] < found.starts[a.key] + known[a.key].hands + a.wait:
                return False
    for t in range(found.finish + 100):
        at = [s for s in steps if found.starts[s.key] <= t < found.starts[s.key] + s.hands]
        held = [s for s in steps if s.hold and found.starts[s.key] <= t < found.starts[s.key] + s.hands + s.held]
        if len(at) > shop.people or len(held) > shop.has.get("board", 99):
            return False
    return True


@settings(max_examples=25, deadline=None)
@given(works())
def test_more_of_anything_never_makes_it_later(steps):
    poor, rich, people = (Shop(p, {"board": b}) for p, b in ((1, 1), (1, 2), (2, 1)))
    found = schedule(steps, poor)
    assert possible(steps, found, poor)
    in_a_row = sum(s.hands + max([s.held, *(a.wait for o in steps for a in o.after if a.key == s.key)]) for s in steps)
    assert longest_chain(steps) <= found.finish <= in_a_row
    assert found.finish >= sum(s.hands for s in steps)
    assert schedule(steps, rich).finish <= found.finish
    assert schedule(steps, people).finish <= found.finish
    tail = by_tail(in_order(steps), poor, {}, 0)
    assert max(tail[s.key] + s.hands for s in steps) >= found.finish
    quick = [Step(s.key, s.hands, tuple(After(a.key, a.wait // 2) for a in s.after), hold=s.hold, held=s.held)
             for s in steps]  # fmt: skip
    assert schedule(quick, poor).finish <= found.finish


def test_an_edge_more_never_makes_it_sooner_and_sessions_are_runs():
    steps = halves()
    more = [Step(s.key, s.hands, (*s.after, *([After("DL")] if s.key == "AR" else [])), hold=s.hold, held=s.held)
            for s in steps]  # fmt: skip
    shop = Shop(1, {"board": 2})
    assert schedule(more, shop).finish >= schedule(steps, shop).finish
    a, b, c = (Step(k, 10) for k in "abc")
    for gap, runs in ((10, 1), (11, 2)):
        assert sessions_of([a, b], {"a": 0, "b": 10 + gap}) == runs
    assert sessions_of([a, b, c], {"a": 0, "b": 40, "c": 80}) == 3
