"""Builder's questions of sizing: do it twice, ask for less, switch a case off and on; on foam, board and hollow."""

import pytest

from fletcher.core.document.airframe import Airframe
from fletcher.core.document.defaults import usual_cases
from fletcher.core.estimate.report import estimate
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.sizing import sized

WAYS = ("tail_plate", "board_tail", "box_fuselage", "tube_boom")


def airframe_with(key, mass=None):
    way = CONSTRUCTIONS[key]
    airframe = Airframe(name="A", all_up_mass_g=mass or way.all_up_mass_g, top_speed_m_s=way.top_speed_m_s)
    part = way.part(None, airframe.all_up_mass_g, airframe.top_speed_m_s)
    return airframe, part.model_copy(update={"cases": usual_cases(airframe, part)})


@pytest.mark.parametrize("key", WAYS)
def test_sized_again_nothing_changes(key):
    airframe, part = airframe_with(key)
    once = sized(airframe, part)
    again = sized(airframe, once.part)
    assert again.part == once.part and again.holds is once.holds and not again.says


@pytest.mark.parametrize("key", WAYS)
def test_what_already_holds_is_not_made_heavier(key):
    airframe, part = airframe_with(key)
    found = sized(airframe, part)
    told = estimate(airframe.model_copy(update={"parts": (part,)}), part.id)
    if all(v.enough == "sure" for v in told.verdicts if v.counts):
        assert found.told.mass_g.typ <= told.mass_g.typ + 1e-9


@pytest.mark.parametrize("key", WAYS)
def test_a_case_switched_off_never_lowers_the_margin_and_back_on_it_is_as_before(key):
    airframe, part = airframe_with(key)
    whole = estimate(airframe.model_copy(update={"parts": (part,)}), part.id)
    for n in range(len(part.cases)):
        off = tuple(c.model_copy(update={"counts": False}) if k == n else c for k, c in enumerate(part.cases))
        told = estimate(airframe.model_copy(update={"parts": (part.model_copy(update={"cases": off}),)}), part.id)
        if any(c.counts for c in off):
            assert told.margin.typ >= whole.margin.typ - 1e-12
        assert [v.margin for v in told.verdicts] == [v.margin for v in whole.verdicts]  # each is computed as before
    again = estimate(airframe.model_copy(update={"parts": (part,)}), part.id)
    assert again.governs == whole.governs


def test_a_gram_more_to_carry_never_makes_a_part_lighter():
    found = [sized(*airframe_with("box_fuselage", mass)).told.mass_g.typ for mass in (300, 900, 2700)]
    assert found == sorted(found)
