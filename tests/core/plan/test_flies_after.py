"""Flies-after of the Crash desk is this plan's: a repair's chain and the schedule of the same steps end together."""

from __future__ import annotations

import math

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from fletcher.core.plan.schedule import After, Impossible, Shop, Step, schedule
from fletcher.core.repair.chain import Task, soonest

CHECK = 8


def as_steps(tasks: list[Task]) -> list[Step]:
    """The operations of a repair as the plan takes them; the check waits until all is ready."""
    steps = [
        Step(
            str(n),
            int(t.hands),
            tuple(
                After(str(b), int(w), None if i or math.isinf(t.open) else int(t.open))
                for i, (b, w) in enumerate(t.after)
            ),
        )
        for n, t in enumerate(tasks)
    ]
    return [*steps, Step("check", CHECK, tuple(After(str(n), int(t.ready)) for n, t in enumerate(tasks)))]


@st.composite
def chains(draw) -> list[Task]:
    tasks = []
    for n in range(draw(st.integers(1, 6))):
        before = draw(st.lists(st.integers(0, n - 1), unique=True, max_size=2)) if n else []
        waits = draw(st.lists(st.integers(0, 40), min_size=len(before), max_size=len(before)))
        tasks.append(Task(
            float(draw(st.integers(1, 20))), tuple((b, float(w)) for b, w in zip(before, waits, strict=True)),
            float(draw(st.sampled_from([0, 0, 15, 60]))),
        ))  # fmt: skip
    return tasks


@given(chains())
@settings(max_examples=40, deadline=None)
def test_a_repair_flies_when_the_plan_of_its_steps_does(tasks):
    made = schedule(as_steps(tasks), Shop())
    assert made.proved and made.finish == round(soonest(tasks, CHECK).flies)


@given(st.integers(2, 15), st.integers(2, 10), st.integers(0, 30), st.integers(1, 12))
@settings(max_examples=20, deadline=None)
def test_what_is_coated_and_aired_is_closed_in_time_in_both(hands, airs, other, room):
    tasks = [Task(float(hands)), Task(2.0, ((0, float(airs)),), 5.0, float(airs + room)), Task(float(other + 1))]
    try:
        made = schedule(as_steps(tasks), Shop())
    except Impossible:
        assume(False)
    assert made.finish == round(soonest(tasks, CHECK).flies)
