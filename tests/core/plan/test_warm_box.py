"""A warm box: what may cure in it, how much sooner it is ready, and that it never costs a plan anything."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from itertools import pairwise
from uuid import UUID

import pytest

from fletcher.core.adhesion.adhesives import curings
from fletcher.core.adhesion.readiness import ready_after
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.plan.planning import plan
from fletcher.core.plan.schema import Plan, ShopWish, WarmBox
from fletcher.core.plan.warm_box import NAME, warm_cure
from fletcher.core.plan.work import Press, Work
from tests.core.plan.test_planning import with_part

NOW = datetime(2026, 6, 1, 9, tzinfo=UTC)
WARM = WarmBox(thermostat=True, places=2, long_mm=1500)


def cloth_wing() -> Airframe:
    """Two halves with cloth and resin on them."""
    return with_part("cloth_wing", hand="both")


def made(airframe: Airframe, work: Work = Work(), now: datetime = NOW, **shop) -> Plan:  # noqa: B008
    return plan(airframe, ShopWish(**shop), now, work)


def test_resin_is_fixed_as_its_rate_says_and_sets_on_in_the_room():
    cure = warm_cure("epoxy_laminating", 20, 35)
    assert cure is not None
    fixed, loaded = (ready_after("epoxy_laminating", s, 20.0, late=s == "loaded") for s in ("fixed", "loaded"))
    rate = curings()["epoxy_laminating"].rate_per_10C.typ
    assert cure.fixed == pytest.approx(fixed / rate**1.5, abs=1)
    assert cure.loaded == pytest.approx(cure.fixed + loaded - fixed, abs=1)
    assert cure.fixed <= cure.gelled < cure.loaded < loaded
    cold = warm_cure("epoxy_laminating", 16, 35)
    assert cold is not None and cold.fixed == cure.fixed and cold.loaded > cure.loaded


@pytest.mark.parametrize("key", ["ca_thin", "hotmelt_low", "contact_foamsafe_clear", "epoxy_5min"])
def test_what_warmth_does_not_help_stays_in_the_room(key):
    assert warm_cure(key, 20, 35) is None


def test_no_warmer_than_the_glue_may_be():
    most = curings()["epoxy_laminating"].most_C
    assert warm_cure("epoxy_laminating", 20, most) is not None
    assert warm_cure("epoxy_laminating", 20, most + 1) is None


def boxed(p: Plan) -> list[str]:
    return [o.key for o in p.operations if o.box_C is not None]


def test_a_box_brings_the_first_flight_forward_and_is_never_overfull():
    bare, warm = made(cloth_wing()), made(cloth_wing(), warm_box=WARM)
    assert boxed(bare) == [] and boxed(warm)
    assert warm.flies < bare.flies and warm.flies_from <= warm.flies <= warm.flies_to
    spans = [(p.ends, p.sets) for p in warm.planned if p.key in boxed(warm)]
    for at, _ in spans:
        assert sum(a <= at < b for a, b in spans if b is not None) <= WARM.places
    told = next(o for o in warm.operations if o.key == boxed(warm)[0])
    assert told.box_C == 35 and any(c.key == "warm_box_fire" for c in told.cautions)
    for o in warm.operations:
        for a in o.after:
            before = next((x for x in warm.operations if x.key == a.key), None)
            at = {p.key: p for p in warm.planned}
            assert before is None or at[o.key].begins >= at[a.key].ends + timedelta(minutes=a.wait_min)


@pytest.mark.parametrize(("more", "why"), [({"long_mm": 200.0}, "too short"), ({"warm_C": 60.0}, "too warm")])
def test_what_does_not_fit_or_is_too_warm_is_not_used(more, why):
    assert boxed(made(cloth_wing(), warm_box=WARM.model_copy(update=more))) == [], why


def test_one_place_is_taken_by_one_piece_at_a_time():
    one = made(cloth_wing(), warm_box=WARM.model_copy(update={"places": 1}))
    spans = sorted((p.ends, p.sets) for p in one.planned if p.key in boxed(one))
    assert all(a[1] is not None and a[1] <= b[0] for a, b in pairwise(spans))
    assert made(cloth_wing(), warm_box=WARM).flies <= one.flies


def press(n: int, what: str, key: str, at: datetime, **more) -> Press:
    return Press(id=str(UUID(int=n)), at=at, what=what, key=key, **more)


def test_what_was_put_in_is_fixed_sooner_and_what_was_not_is_not():
    airframe = cloth_wing()
    key = boxed(made(airframe, warm_box=WARM))[0]
    done = NOW + timedelta(minutes=40)
    in_it, in_room = (
        made(airframe, Work(presses=(press(1, "done", key, done, box_C=c),)), done + timedelta(minutes=1),
             warm_box=WARM)
        for c in (35.0, None)
    )  # fmt: skip
    sets = [next(p for p in m.planned if p.key == key).sets for m in (in_it, in_room)]
    assert sets[0] is not None and sets[1] is not None and sets[0] < sets[1]
    assert in_it.flies <= in_room.flies


@pytest.mark.parametrize("airframe", demo_airframes(), ids=lambda a: a.name)
def test_a_box_never_makes_it_later(airframe):
    bare, warm = made(airframe), made(airframe, warm_box=WARM)
    assert not (bare.proved and warm.proved) or warm.flies <= bare.flies
    assert NAME not in {w for o in warm.operations for w in o.hold}
