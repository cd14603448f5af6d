"""A load case that does not count: damage is still judged by every case in the air, and by no crash that is switched
off."""

import pytest

from fletcher.core.demo.crash import crash_candidates, crashed_airframe
from fletcher.core.document.cases import TipStrikeCase
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.inspection import what_is_left
from fletcher.core.repair.schema import MendWish
from fletcher.core.repair.speeds import IN_THE_AIR, judging

POST = crashed_airframe()
WING = POST.parts[0]


def switched(part, *kinds):
    cases = tuple(c.model_copy(update={"counts": c.type not in kinds}) for c in part.cases)
    return part.model_copy(update={"cases": cases})


def within(part):
    return POST.model_copy(update={"parts": (part, *POST.parts[1:])})


def test_a_flight_case_switched_off_still_judges_what_is_left():
    whole = what_is_left(POST, WING)
    off = switched(WING, *IN_THE_AIR)
    assert off.counted != off.cases
    told = what_is_left(within(off), off)
    assert [c.case_id for c in told.cases] == [c.case_id for c in whole.cases]
    assert (told.fly, told.strength_percent) == (whole.fly, whole.strength_percent)


def test_a_crash_that_does_not_count_grounds_nothing_and_counted_it_does_tell():
    pole = TipStrikeCase(id="pole", name="Pole strike", speed_m_s=20, counts=False)
    part = WING.model_copy(update={"cases": (*WING.cases, pole)})
    assert judging(part) == WING.cases
    assert [c.case_id for c in what_is_left(within(part), part).cases] == [c.id for c in WING.cases]
    counted = WING.model_copy(update={"cases": (*WING.cases, pole.model_copy(update={"counts": True}))})
    assert [c.id for c in judging(counted)] == [c.id for c in counted.cases]


@pytest.mark.parametrize("kind", sorted(c.type for c in WING.cases))
def test_a_repair_is_computed_whatever_is_switched_off(kind):
    part = switched(WING, kind)
    option = computed(within(part), part, crash_candidates()[0][1], MendWish()).option
    assert [c.case_id for c in option.cases] == [c.id for c in judging(part)]
