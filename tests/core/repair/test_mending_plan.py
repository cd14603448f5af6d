"""An adopted repair as a plan: it flies when the Crash desk said, keeps to the shop's hours, and ticks are presses."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from uuid import UUID

import pytest

from fletcher.core.demo.crash import crashed_airframe
from fletcher.core.document.damage import BarMark, BreakMark, CrushMark
from fletcher.core.materials.uncertainty import Band
from fletcher.core.plan.changes import concerning
from fletcher.core.plan.planning import plan
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import Hours, Plan, ShopWish
from fletcher.core.plan.work import LeftOut, OwnStep, OwnTime, Press, Work
from fletcher.core.repair.mending_plan import key_of, mending_steps, place_of_key, with_ticks
from fletcher.core.repair.operations import work_of
from fletcher.core.repair.recipe import Fix, Recipe

CRASHED = crashed_airframe()
WHOLE = CRASHED.parts[0].model_copy(update={"damage": ()})
NOW = datetime(2026, 6, 1, 9, tzinfo=UTC)
JOB = "1f0c6f8e-5a43-4d0e-9d2c-111111111111"
SEAM = BreakMark(id="seam", at_mm=200, whole=("spar", "film", "tape"))
CRUSH = CrushMark(id="dent", start_mm=400, end_mm=450, depth_mm=6)
ROD = BarMark(id="rod", of="spar", at_mm=440)
CASES = {
    "a seam": (Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue="epoxy_30min"), (SEAM,)),
    "contact": (Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue="contact_foamsafe_clear"), (SEAM,)),
    "hot glue": (Recipe(fixes=(Fix(mark="seam", way="reglue"),), glue="hotmelt_low"), (SEAM,)),
    "a seam and a dent": (Recipe(fixes=(Fix(mark="seam", way="reglue"), Fix(mark="dent", way="warm")),
                                 glue="epoxy_5min"), (SEAM, CRUSH)),
    "a broken rod": (Recipe(fixes=(Fix(mark="seam", way="reglue"), Fix(mark="rod", way="replace_bar",
                            stock="carbon_rod_3")), glue="pu_foaming_white", bed_glue="epoxy_30min"), (SEAM, ROD)),
}  # fmt: skip


def work(name: str, waits: dict[str, Band] | None = None):
    recipe, marks = CASES[name]
    return work_of(WHOLE.model_copy(update={"damage": marks}), recipe, waits or {}, "", [])


def made(name: str, shop: ShopWish = ShopWish(), known: Work = Work(), now: datetime = NOW) -> Plan:  # noqa: B008
    return plan(CRASHED, shop, now, known, mending_steps(JOB, WHOLE, work(name).operations))


def after_check(p: Plan) -> float:
    check = next(x for x in p.planned if any(g.key == "cured" for g in x.gates))
    return (check.ends - NOW).total_seconds() / 60


@pytest.mark.parametrize("name", CASES)
def test_it_flies_when_the_crash_desk_says(name):
    """Any hours, one person: the plan's check ends when the chain does, to the rounding of whole minutes."""
    chain = work(name)
    assert after_check(made(name)) == pytest.approx(chain.flies.typ, abs=len(chain.operations) / 2)


def test_it_keeps_to_the_shops_hours_and_daylight():
    evenings = ShopWish(hours=(Hours(from_hour=18, to_hour=22),))
    found = made("a seam and a dent", evenings)
    for p in found.planned[:-1]:
        assert 18 <= p.begins.hour < 22
    assert 9 <= found.flies.hour <= 16 and after_check(found) > after_check(made("a seam and a dent"))


def test_every_step_of_hands_is_there_with_what_it_says():
    chain = work("contact")
    steps = mending_steps(JOB, WHOLE, chain.operations)
    does = [op for op in chain.operations if op.minutes.high > 0]
    assert [s.title.lower() for s in steps[:-1]] == [op.title.lower() for op in does]
    assert steps[-1].daylight and steps[-1].title == "first flight" and not any(s.daylight for s in steps[:-1])
    assert all(s.how for s in steps) and {c.key for s in steps for c in s.cautions} >= {"flying_repaired"}
    closes = next(s for s in steps if any(a.within_min is not None for a in s.after))
    assert closes.title.startswith("close it") and closes.after[0].wait_min > 0
    for before, step in zip(does, steps[1:], strict=True):
        assert [g.says for g in step.gates if g.key.startswith("check_")] == before.checks
    assert steps[0].gates == [] and steps[-1].how.endswith("Afterwards: Joints after landing.")


def test_work_adopted_before_it_knew_what_waits_is_done_in_order():
    old = [op.model_copy(update={"after": []}) for op in work("a seam and a dent").operations]
    steps = mending_steps(JOB, WHOLE, old)
    assert [s.after[0].key for s in steps[1:]] == [s.key for s in steps[:-1]] and steps[0].after == []
    assert plan(CRASHED, ShopWish(), NOW, Work(), steps).done == 0


def test_keys_name_a_job_and_a_number():
    assert place_of_key(key_of(JOB, 3)) == (JOB, 3)
    assert place_of_key("wing/right/core") is None and place_of_key(f"repair/{JOB}/3/again1") is None


def press(n: int, what: str, number: int, minute: int) -> Press:
    return Press(id=str(UUID(int=n)), at=NOW + timedelta(minutes=minute), what=what, key=key_of(JOB, number))


def states(p: Plan) -> dict[int, str]:
    return {place_of_key(x.key)[1]: x.state for x in p.planned}


def test_a_tick_and_a_press_are_the_same():
    stored = (press(1, "done", 1, 10), press(2, "done", 2, 20))
    fresh = press(3, "done", 3, 30)
    ticked = {1: NOW + timedelta(minutes=10), 2: None, 3: None, 5: NOW + timedelta(minutes=25)}
    known = with_ticks(Work(presses=(*stored, fresh)), stored, JOB, ticked)
    found = states(made("a seam and a dent", known=known, now=NOW + timedelta(minutes=31)))
    assert [found[n] for n in (1, 2, 3, 5)] == ["done", "open", "done", "done"]
    again = with_ticks(known, stored, JOB, ticked)
    assert {p.id for p in again.presses} == {p.id for p in known.presses}  # asked twice, added once
    assert with_ticks(Work(presses=stored), stored, JOB, {1: NOW, 2: NOW}).presses == stored


def test_changes_of_a_repair_are_not_those_of_the_build():
    mine = OwnTime(key=key_of(JOB, 2), minutes=50)
    theirs = OwnTime(key="wing/right/core", minutes=50)
    between = OwnStep(key="own/tea", title="tea", minutes=5, after=(key_of(JOB, 1),))
    keys = {key_of(JOB, n) for n in range(1, 9)}
    assert concerning((mine, theirs, between), keys) == [mine, between]
    assert concerning((mine, theirs, between), None) == [theirs]
    longer = made("a seam", known=Work(changes=(mine, theirs)))
    assert after_check(longer) > after_check(made("a seam")) and longer.remarks == made("a seam").remarks


def test_neither_check_nor_flight_is_left_out():
    steps = mending_steps(JOB, WHOLE, work("a seam").operations)
    for step in steps[-2:]:
        with pytest.raises(Impossible, match="never left out"):
            made("a seam", known=Work(changes=(LeftOut(key=step.key, why="hurry"),)))
