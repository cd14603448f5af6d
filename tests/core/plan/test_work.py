"""A plan in the builder's hands: own changes, facts from the bench, clocks, and what they do to the rest."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from itertools import permutations
from uuid import UUID

import pytest

from fletcher.core.adhesion.adhesives import curings
from fletcher.core.adhesion.readiness import ready_after, set_after
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, BarLayer, JointLayer, Place
from fletcher.core.document.joint import BondJoint, Glued
from fletcher.core.plan.operations import operations
from fletcher.core.plan.planning import plan
from fletcher.core.plan.progress import facts, pace, warmths
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import Hours, ShopWish
from fletcher.core.plan.work import LeftOut, NotBefore, OwnOrder, OwnSplit, OwnStep, OwnTime, Press, Work
from fletcher.core.studies.constructions import CONSTRUCTIONS

NOW = datetime(2026, 6, 1, 9, tzinfo=UTC)
SHOP = ShopWish(boards=2)


def glued(glue: str = "epoxy_30min") -> Airframe:
    """A wing half of bead foam whose bar is glued in with a glue that is named."""
    part = CONSTRUCTIONS["bead_wing"].part().model_copy(update={"hand": "single", "place": Place()})
    bar = next(la for la in part.layers if isinstance(la, BarLayer))
    bond = JointLayer(id="bond", joint=BondJoint(of=bar.id), glue=Glued(adhesive=glue))
    part = part.model_copy(update={"layers": (*part.layers, bond)})
    return Airframe(name="x", all_up_mass_g=600, top_speed_m_s=14, parts=(part,))


AIRFRAME = glued()
PART = AIRFRAME.parts[0]
BAR = f"{PART.id}/one/{next(la.id for la in PART.layers if isinstance(la, BarLayer))}"
CORE, DATUM, WEIGH = (f"{PART.id}/one/{k}" for k in ("core", "datum", "weigh"))
FILM = f"{PART.id}/one/{next(la.id for la in PART.layers if la.type == 'film')}"
NEXT = next(o.key for o in operations(AIRFRAME, ShopWish()) for a in o.after if a.key == BAR and a.wait_min)
"""What is laid over the bar first."""


def press(n: int, what: str, key: str, minutes: float, **more) -> Press:
    return Press(id=str(UUID(int=n)), at=NOW + timedelta(minutes=minutes), what=what, key=key, **more)


def done(n: int, key: str, begins: float, ends: float, **more) -> list[Press]:
    return [press(n, "begun", key, begins), press(n + 500, "done", key, ends, **more)]


def made(work: Work, minutes: float = 0, airframe: Airframe = AIRFRAME, shop: ShopWish = SHOP):
    found = plan(airframe, shop, NOW + timedelta(minutes=minutes), work)
    return found, {p.key: p for p in found.planned}, {o.key: o for o in found.operations}


def after(at, key: str) -> float:
    return (at[key].begins - NOW).total_seconds() / 60


def test_glue_keeps_the_minutes_that_it_has_when_the_warmth_changes():
    """Worked check Q2."""
    assert set_after(900, 2.2, [(0, 18), (240, 35)]) == pytest.approx(452.99, abs=0.01)
    assert set_after(900, 2.2, [(0, 20)]) == 900 and set_after(100, 2.2, [(0, 20), (500, 5)]) == 100
    assert set_after(900, 2.2, [(0, 12)], 15) == float("inf")
    assert set_after(900, 2.2, [(0, 12), (300, 20)], 15) == 1200


def test_a_change_is_made_and_taken_back_to_the_same_plan():
    bare, at, _ = made(Work())
    longer, _, _ = made(Work(changes=(OwnTime(key=CORE, minutes=1000),)))
    again, at_again, _ = made(Work())
    assert longer.flies > bare.flies and again.flies == bare.flies and at_again == at
    assert longer.flies - bare.flies <= timedelta(minutes=1000)


def test_an_own_step_stands_between_what_it_was_put_between():
    own = OwnStep(key="own/tea", title="let the core rest", minutes=5, after=(CORE,), before=(DATUM,), wait_min=90)
    found, at, by_key = made(Work(changes=(own,)))
    assert at["own/tea"].begins >= at[CORE].ends
    assert at[DATUM].begins >= at["own/tea"].ends + timedelta(minutes=90)
    assert by_key["own/tea"].title == "let the core rest" and len(found.planned) == len(made(Work())[0].planned) + 1


def test_own_order_is_kept_and_a_ring_is_refused_by_name():
    with pytest.raises(Impossible, match=r"wait for one another: .*cut the core.* → .*weigh.* → .*cut the core"):
        made(Work(changes=(OwnOrder(key=CORE, after=WEIGH),)))
    box = next(a for a in demo_airframes() if any(la.type == "fitting" for p in a.parts for la in p.layers))
    steps = [o for o in operations(box, SHOP) if o.layer_id]
    one, other = steps[-1].key, steps[0].key
    _, at, _ = made(Work(changes=(OwnOrder(key=other, after=DATUM),)), airframe=box)
    assert one in at and other in at


def test_a_step_is_put_off_and_done_in_parts_and_left_out():
    late = NOW + timedelta(hours=30)
    _, at, _ = made(Work(changes=(NotBefore(key=FILM, at=late),)))
    assert at[FILM].begins >= late
    _, at, by_key = made(Work(changes=(OwnSplit(key=CORE, parts=(20, 15)),)))
    assert at[f"{CORE}/part1"].ends <= at[CORE].begins < at[DATUM].begins
    assert by_key[CORE].minutes.typ == 15 and by_key[CORE].gates == [] != by_key[f"{CORE}/part1"].gates
    with pytest.raises(Impossible, match="cannot be done in parts"):
        made(Work(changes=(OwnSplit(key=BAR, parts=(5, 5)),)))
    left, at, by_key = made(Work(changes=(LeftOut(key=DATUM, why="printed on the foam"),)))
    assert DATUM not in at and any("printed on the foam" in r for r in left.remarks)
    assert all(at[o.key].begins >= at[CORE].ends for o in by_key.values() if o.key in (BAR, FILM))
    for key in ("flight", "bench", "balance"):
        with pytest.raises(Impossible, match="never left out"):
            made(Work(changes=(LeftOut(key=key, why="no time"),)))


def test_a_change_of_a_step_that_is_gone_says_so_and_does_nothing():
    found, at, _ = made(Work(changes=(OwnTime(key="wing/one/gone", minutes=5),)))
    assert any("no longer in this plan" in r for r in found.remarks)
    assert at == made(Work())[1]


def test_presses_count_once_in_any_order_and_what_is_undone_is_as_it_was():
    presses = [*done(1, CORE, 0, 40), press(3, "more", BAR, 60, value=10), press(4, "warmth", "", 50, value=24)]
    first = facts(presses)
    for order in list(permutations(presses))[:12]:
        assert facts([*order, *order]) == first
    assert (first[CORE].begun, first[CORE].done) == (NOW, NOW + timedelta(minutes=40))
    assert first[BAR].more == 10 and warmths(presses) == [(NOW + timedelta(minutes=50), 24)]
    undone = facts([*presses, press(9, "undone", CORE, 45)])
    assert undone[CORE].done is None and undone[CORE].begun is None
    work = Work(presses=(*done(1, CORE, 0, 40), press(9, "undone", CORE, 45)))
    assert made(work, 46)[1][CORE].state == "open"


def test_what_is_done_is_not_moved_and_the_rest_follows_what_it_took():
    usual, slow = (made(Work(presses=tuple(done(1, CORE, 0, m))), m) for m in (36, 96))
    for (found, at, _), took in ((usual, 36), (slow, 96)):
        assert at[CORE].state == "done" and after(at, CORE) == 0
        assert (at[CORE].ends - at[CORE].begins).total_seconds() / 60 == took
        assert min(p.begins for p in found.planned if p.state == "open") >= NOW + timedelta(minutes=took)
        assert found.done == 1
    assert slow[0].flies - usual[0].flies in (timedelta(0), timedelta(minutes=60))


def test_a_running_step_lasts_at_least_until_now_and_more_minutes_are_added():
    running = Work(presses=(press(1, "begun", CORE, 0),))
    _, at, by_key = made(running, 5)
    usual = round(by_key[CORE].minutes.typ)
    assert at[CORE].state == "running" and (at[CORE].ends - NOW) == timedelta(minutes=usual)
    _, at, _ = made(running, usual + 30)
    assert at[CORE].ends == NOW + timedelta(minutes=usual + 30)
    more = Work(presses=(press(1, "begun", CORE, 0), press(2, "more", CORE, 3, value=25)))
    assert made(more, 5)[1][CORE].ends == NOW + timedelta(minutes=usual + 25)


def test_a_clock_runs_from_when_it_was_glued_and_follows_the_warmth():
    presses = (*done(1, CORE, 0, 30), *done(2, DATUM, 30, 35), *done(3, BAR, 35, 60))
    _, at, by_key = made(Work(presses=presses), 61)
    fixed = ready_after("epoxy_30min", "fixed", 20.0)
    assert at[BAR].sets - at[BAR].ends == timedelta(minutes=fixed) and at[NEXT].begins >= at[BAR].sets
    assert at[BAR].loaded - at[BAR].ends == timedelta(minutes=by_key[BAR].loaded_min) > timedelta(minutes=fixed)
    warm = made(Work(presses=(*presses, press(7, "warmth", "", 60, value=30))), 61)[1]
    rate = curings()["epoxy_30min"].rate_per_10C.typ
    assert (warm[BAR].sets - warm[BAR].ends).total_seconds() / 60 == pytest.approx(fixed / rate, abs=1.01)
    assert warm[NEXT].begins >= warm[BAR].sets
    half = made(Work(presses=(*presses, press(7, "warmth", "", 60 + fixed / 2, value=30))), 61 + fixed / 2)[1]
    expected = fixed / 2 + fixed / 2 / rate
    assert (half[BAR].sets - half[BAR].ends).total_seconds() / 60 == pytest.approx(expected, abs=1.01)


def test_what_was_not_right_is_done_again_before_what_waits_for_it():
    presses = (*done(1, CORE, 0, 30), *done(2, DATUM, 30, 35), press(3, "not_right", BAR, 60, note="too low"))
    _, at, by_key = made(Work(presses=presses), 61)
    again = f"{BAR}/again1"
    assert at[again].begins >= at[BAR].ends and by_key[again].glue == by_key[BAR].glue
    assert at[NEXT].begins >= at[again].sets and at[BAR].notes == ("too low",)
    twice = made(Work(presses=(*presses, press(5, "not_right", BAR, 90))), 91)[1]
    assert twice[NEXT].begins >= twice[f"{BAR}/again2"].sets and twice[f"{BAR}/again2"].begins >= twice[again].ends


def test_a_failed_gate_is_put_right_first_and_stays_failed_until_somebody_who_knows_decides():
    fail = press(1, "gate", BAR, 10, gate="dry_fit", result="failed", value=2.5)
    unaware = press(2, "gate", BAR, 12, gate="dry_fit", result="passed")
    aware = unaware.model_copy(update={"id": str(UUID(int=3)), "knows": (fail.id, unaware.id)})
    for presses in ((fail,), (fail, unaware), (unaware, fail)):
        _, at, by_key = made(Work(presses=presses), 13)
        right = f"{BAR}/right-dry_fit"
        assert at[BAR].begins >= at[right].ends and by_key[right].title.startswith("put right")
        assert next(g for g in at[BAR].gates if g.key == "dry_fit").stands == "failed"
    _, at, _ = made(Work(presses=(fail, unaware, aware)), 13)
    assert f"{BAR}/right-dry_fit" not in at
    assert next(g for g in at[BAR].gates if g.key == "dry_fit").stands == "passed"


def test_a_gate_is_waived_with_a_reason_and_some_never():
    key = "bench"
    for gate, note, stands in (
        ("bench", "no weights here", "waived"),
        ("bench", "", "open"),
        ("cured", "sure", "open"),
    ):
        p = press(1, "gate", key, 5, gate=gate, result="waived", note=note)
        assert facts([p])[key].gates[gate].stands == stands


def test_two_devices_tick_one_step_the_earlier_stays_and_the_later_value_is_a_note():
    two = [press(1, "done", WEIGH, 90, value=61.5), press(2, "done", WEIGH, 95, value=63)]
    f = facts(two)[WEIGH]
    assert f.done == NOW + timedelta(minutes=90) and f.notes == ("also 63",)


def test_contact_glue_past_its_open_time_is_coated_again():
    airframe = glued("contact_foamsafe_clear")
    coat = f"{BAR}/coat"
    presses = (*done(1, CORE, 0, 30), *done(2, DATUM, 30, 35), *done(3, coat, 35, 45))
    link = next(a for o in operations(airframe, SHOP) if o.key == BAR for a in o.after if a.key == coat)
    in_time, at, _ = made(Work(presses=presses), 45 + link.wait_min, airframe)
    assert f"{BAR}/coat2" not in at and not any("Open time" in r for r in in_time.remarks)
    late, at, _ = made(Work(presses=presses), 45 + link.within_min + 1, airframe)
    assert any("Open time is over" in r for r in late.remarks)
    assert at[BAR].begins >= at[f"{BAR}/coat2"].ends + timedelta(minutes=link.wait_min)


def test_own_pace_counts_from_the_third_finished_step_on():
    steps = operations(AIRFRAME, SHOP)
    keys = [o for o in steps if o.part_id][:3]
    presses, at = [], 0.0
    for n, o in enumerate(keys):
        presses += done(10 + n, o.key, at, at + 2 * o.minutes.typ)
        at += 2 * o.minutes.typ
    assert pace(steps, facts(presses[:4])) == 1.0
    assert pace(steps, facts(presses)) == pytest.approx(2 ** (3 / 7), rel=1e-6)


def test_what_was_done_before_its_line_was_changed_is_asked_about_and_never_undone():
    _, _, by_key = made(Work())
    presses = (*done(1, CORE, 0, 30, made_of=by_key[CORE].made_of),)
    assert not any("line was changed" in r for r in made(Work(presses=presses), 31)[0].remarks)
    thicker = PART.model_copy(update={"root_thickness_mm": PART.root_thickness_mm + 1})
    moved = AIRFRAME.model_copy(update={"parts": (thicker,)})
    found, at, _ = made(Work(presses=presses), 31, moved)
    assert any("Done before its line was changed: cut the core" in r for r in found.remarks)
    assert at[CORE].state == "done"


def test_contact_glue_that_was_only_ticked_is_closed_and_nothing_is_coated_again():
    airframe = glued("contact_foamsafe_clear")
    coat = f"{BAR}/coat"
    presses = (*done(1, CORE, 0, 30), *done(2, DATUM, 30, 35), *done(3, coat, 35, 45), press(4, "done", BAR, 58))
    found, at, _ = made(Work(presses=presses), 500, airframe)
    assert f"{BAR}/coat2" not in at and at[BAR].state == "done"
    assert not any("Open time" in r for r in found.remarks)


def test_contact_glue_missed_twice_is_coated_a_third_time_and_the_plan_goes_on():
    airframe = glued("contact_foamsafe_clear")
    coat = f"{BAR}/coat"
    first = (*done(1, CORE, 0, 30), *done(2, DATUM, 30, 35), *done(3, coat, 35, 45))
    again = (*first, *done(4, f"{BAR}/coat2", 200, 205))
    found, at, _ = made(Work(presses=again), 216, airframe)
    assert f"{BAR}/coat3" not in at and not any("Open time" in r for r in found.remarks)
    found, at, _ = made(Work(presses=again), 400, airframe)
    assert at[BAR].begins >= at[f"{BAR}/coat3"].ends and any("Open time is over" in r for r in found.remarks)


def test_what_was_coated_is_closed_out_of_hours_and_where_no_hands_are_free_the_plan_says_so():
    airframe = glued("contact_foamsafe_clear")
    coat = f"{BAR}/coat"
    presses = (*done(1, CORE, 0, 30), *done(2, DATUM, 30, 35), *done(3, coat, 35, 45))
    hours = ShopWish(boards=2, hours=(Hours(from_hour=9, to_hour=9.8),))
    found, at, _ = made(Work(presses=presses), 46, airframe, hours)
    assert (at[BAR].begins - at[coat].ends) <= timedelta(minutes=20)  # after 9:48, inside its open time
    busy = (*presses, press(9, "begun", "own/tea", 46))
    long = OwnStep(key="own/tea", title="paint the shed", minutes=300)
    found, at, _ = made(Work(changes=(long,), presses=busy), 47, airframe)
    assert any("no hands are free" in r for r in found.remarks) and at[BAR].begins > at["own/tea"].ends - timedelta(1)
