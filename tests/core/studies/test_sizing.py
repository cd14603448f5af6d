"""Lay-ups sized to their load: what comes out holds, is no heavier than its steps make it, and says why not."""

import pytest

from fletcher.core.document.airframe import Airframe
from fletcher.core.document.defaults import usual_cases
from fletcher.core.document.stock_steps import foam_ladder, heavier, lighter, skin_ladder, width_ladder
from fletcher.core.estimate.report import estimate
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.sizing import sized
from fletcher.core.studies.what_if import trial


def ask(key, mass=None, speed=None):
    way = CONSTRUCTIONS[key]
    airframe = Airframe(name="x", all_up_mass_g=mass or way.all_up_mass_g, top_speed_m_s=speed or way.top_speed_m_s)
    part = way.part(None, airframe.all_up_mass_g, airframe.top_speed_m_s)
    part = part.model_copy(update={"cases": usual_cases(airframe, part)})
    return airframe.model_copy(update={"parts": (part,)}), part


@pytest.mark.parametrize(("key", "mass"), [("bead_wing", 1500), ("folded_wing", 400), ("tail_plate", 1200)])
def test_what_is_sized_holds_at_its_low_end_by_the_whole_estimate(key, mass):
    airframe, part = ask(key, mass)
    found = sized(airframe, part)
    told = estimate(airframe.model_copy(update={"parts": (found.part,)}), part.id)
    assert found.holds and not found.short
    assert all(v.enough == "sure" for v in told.verdicts if v.counts)
    assert told.mass_g.typ == pytest.approx(found.told.mass_g.typ)


def test_no_single_step_less_would_still_hold():
    airframe, part = ask("tail_plate")
    found = sized(airframe, part)
    for layer in found.part.layers:
        for other, _ in lighter(layer):
            layers = tuple(other if la.id == layer.id else la for la in found.part.layers)
            thin = found.part.model_copy(update={"layers": layers})
            told = estimate(airframe.model_copy(update={"parts": (thin,)}), part.id)
            least = min(min(v.margin.low, v.first_break.low) for v in told.verdicts if v.counts)
            lighter_than_it = told.mass_g.typ < found.told.mass_g.typ
            assert least < 1.05 or not lighter_than_it, (layer.id, least)


def test_twice_the_mass_is_never_lighter_and_too_much_is_told():
    masses = []
    for mass in (600, 1200, 2400):
        airframe, part = ask("bead_wing", mass)
        masses.append(sized(airframe, part).told.mass_g.typ)
    assert masses == sorted(masses)
    airframe, part = ask("plate_wing", 3000, 25)
    found = sized(airframe, part)
    assert not found.holds and found.short and "stock" in found.short


def test_a_crash_that_does_not_count_does_not_size_and_does_not_govern():
    airframe, part = ask("bead_wing")
    strike = next(c for c in part.cases if c.type == "tip_strike")
    assert not strike.counts and part.counted == tuple(c for c in part.cases if c.counts)
    told = estimate(airframe, part.id)
    assert min(told.verdicts, key=lambda v: v.margin.typ).case_id == strike.id != told.governs
    every = part.model_copy(update={"cases": tuple(c.model_copy(update={"counts": True}) for c in part.cases)})
    assert estimate(airframe.model_copy(update={"parts": (every,)}), part.id).governs == strike.id
    assert trial(airframe, part).governs.case_id == told.governs
    none = part.model_copy(update={"cases": tuple(c.model_copy(update={"counts": False}) for c in part.cases)})
    assert none.counted == none.cases
    assert estimate(airframe.model_copy(update={"parts": (none,)}), part.id).governs == strike.id


def test_stock_comes_in_its_steps():
    assert [s.key for s in skin_ladder("lamfilm_75")] == ["lamfilm_38", "lamfilm_75", "lamfilm_125"]
    assert [f.key for f in foam_ladder("eps_20")] == ["eps_12", "eps_15", "eps_20", "eps_25", "eps_30"]
    assert [f.key for f in foam_ladder("xps_sheet_6")] == ["xps_sheet_6"]  # a sheet of one thickness
    tape = next(la for la in CONSTRUCTIONS["bead_wing"].part().layers if la.type == "strip")
    assert width_ladder(tape) == [12, 19, 25, 50]
    film = next(la for la in CONSTRUCTIONS["bead_wing"].part().layers if la.type == "film")
    assert [(la.skin, la.plies) for la, _ in heavier(film)] == [("lamfilm_125", 1), ("lamfilm_75", 2)]
    assert [(la.skin, la.plies) for la, _ in heavier(film.model_copy(update={"plies": 2}))] == [("lamfilm_125", 2)]
    assert [(la.skin, la.plies) for la, _ in lighter(film)] == [("lamfilm_38", 1)]
    spar = next(la for la in CONSTRUCTIONS["bead_wing"].part().layers if la.type == "bar")
    assert [la.stock for la, _ in heavier(spar)] == ["carbon_rod_4", "carbon_rod_5"]


def test_board_walls_take_a_step_together_with_the_board_that_is_folded():
    airframe, part = ask("folded_wing")
    found = sized(airframe, part).part
    boards = {la.sheet for la in found.layers if la.type == "wall"} | {found.section.board}
    assert len(boards) == 1 and boards != {"foamboard_light_5"}


def test_a_part_that_no_case_judges_is_sized_by_all_of_them_and_says_which_is_short():
    airframe, part = ask("plate_wing", 3000, 25)
    off = part.model_copy(update={"cases": tuple(c.model_copy(update={"counts": False}) for c in part.cases)})
    found = sized(airframe.model_copy(update={"parts": (off,)}), off)
    least = min(found.told.verdicts, key=lambda v: v.margin.low)
    assert not found.holds and found.short.startswith(least.name)
