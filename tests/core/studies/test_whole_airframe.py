"""Whole airframes at once: proportions of their types, parts that hold, reasons, and wishes that cannot be."""

import math
import re

import pytest
from pydantic import ValidationError

from fletcher.core.balance.planform import Panel, planform_of
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.balance import whole
from fletcher.core.estimate.report import estimate
from fletcher.core.studies.airframe_types import TYPES, lacking
from fletcher.core.studies.whole_airframe import NewWish, PartStep, _jobs, make, plan_for
from fletcher.core.validation.airframe import read


def wish(**changes):
    values = {"name": "Marsh Harrier", "type": "profile", "span_mm": 900, "all_up_mass_g": 300, "top_speed_m_s": 13}
    return NewWish(**{**values, **changes})


def made(**changes):
    *steps, last = make(wish(**changes))
    assert all(isinstance(s, PartStep) and s.of == steps[0].of and 0 <= s.done < s.of for s in steps)
    return last


@pytest.mark.parametrize("key", [k for k in TYPES if k != "plank"])
def test_sizes_are_those_of_the_type(key):
    t, p = TYPES[key], plan_for(wish(type=key))
    assert p.half == 450 and p.area == pytest.approx(900**2 / t.aspect)
    assert 0.5 * (p.root + p.tip) * 900 == pytest.approx(p.area)
    assert p.tip / p.root == pytest.approx(t.taper)
    if t.volume_h:  # V_h = S_h l/(S c), l between the quarter chords
        lever = p.tail_x + 0.25 * p.tail_chord - p.wing_x - 0.25 * p.mean
        area = 2 * p.tail_half * p.tail_chord
        assert area * lever / (p.area * p.mean) == pytest.approx(t.volume_h)
        assert (2 * p.tail_half) ** 2 / area == pytest.approx(4)
    fins = 2 if key in ("flying_wing", "twin_boom") else 1
    if t.arm:
        lever = t.arm * p.mean
        assert fins * p.fin_high * p.fin_chord * lever / (p.area * 900) == pytest.approx(t.volume_v)


@pytest.mark.parametrize("key", ["trainer", "glider", "flying_wing"])
def test_the_mean_chord_is_that_of_the_planform_and_the_mass_that_of_the_loading(key):
    p = plan_for(wish(type=key, all_up_mass_g=None, wing_loading_g_dm2=30))
    wing = planform_of((0, 0, 0), [Panel(p.half, p.root, p.tip)])
    assert p.mean == pytest.approx(wing.mean_chord_mm)
    assert wing.area_mm2 == pytest.approx(p.area) and p.mass_g == pytest.approx(30 * p.area / 1e4)


@pytest.mark.parametrize(
    ("field", "most", "beyond"),
    [("all_up_mass_g", 50_000, 50_001), ("span_mm", 150, 149), ("load_factor", 1, 0.9), ("load_factor", 60, 61)],
)
def test_a_wish_has_its_limits(field, most, beyond):
    wish(**{field: most})
    with pytest.raises(ValidationError):
        wish(**{field: beyond})


def test_two_booms_carry_half_of_the_tail_each():
    areas = {}
    for key in ("trainer", "twin_boom"):
        wanted = wish(type=key)
        p = plan_for(wanted)
        booms = [j for j in _jobs(wanted, p) if j.tail_area_cm2]
        areas[key] = booms[0].tail_area_cm2 / (2 * p.tail_half * p.tail_chord / 100)
    assert areas == pytest.approx({"trainer": 1.0, "twin_boom": 0.5})


@pytest.fixture(scope="module")
def profile():
    return made()


def test_an_airframe_has_all_its_parts_and_they_hold(profile):
    airframe = read(profile.airframe.model_dump(mode="json"))
    assert [p.id for p in airframe.parts] == ["wing", "tail", "fin", "fuselage", "nose"]
    assert (airframe.name, airframe.all_up_mass_g, airframe.state) == ("Marsh Harrier", 300, "building")
    assert [r.part_id for r in profile.reasons] == [p.id for p in airframe.parts]
    for part, reason in zip(airframe.parts, profile.reasons, strict=True):
        told = estimate(airframe, part.id)
        assert reason.holds is all(v.enough == "sure" for v in told.verdicts if v.counts)
        assert reason.holds and len(re.split(r"[.:] ", reason.why)) >= 2 and reason.says
    wing, tail, fin, _, nose = airframe.parts
    assert 2 * wing.span_mm == 900 and wing.hand == tail.hand == "both" and fin.hand == "single"
    assert fin.place.dihedral_deg == 90 and wing.control is not None
    assert {c.type: c.counts for c in wing.cases} == {
        "pull_up": True, "gust": True, "landing": True, "handling": True, "hand_launch": True, "sudden_stop": False,
        "tip_strike": False,
    }  # fmt: skip
    assert next(c for c in nose.cases if c.type == "nose_strike").counts is False
    rear = airframe.part("fuselage")
    area = next(c for c in rear.cases if c.type == "tail_load").area_cm2
    assert area == pytest.approx(2 * tail.area_mm2 / 100, rel=0.1)  # tapered a little after that
    assert rear.place.x_mm + rear.span_mm == pytest.approx(tail.place.x_mm + tail.root_chord_mm, abs=3)
    told = whole(airframe)
    assert told.structure_g.typ == pytest.approx(
        sum(p.count * estimate(airframe, p.id).mass_g.typ for p in airframe.parts), rel=1e-6
    )
    assert told.left_g > 0.4 * 300


def test_what_is_at_hand_decides_what_it_is_made_of():
    board = made(type="trainer", at_hand=("board",), tools=(), all_up_mass_g=400, top_speed_m_s=14)
    assert all("oard" in r.construction for r in board.reasons) and not any(r.to_buy for r in board.reasons)
    fluted = made(type="trainer", at_hand=("twin_wall",), tools=(), all_up_mass_g=500, top_speed_m_s=14)
    by = {r.part_id: r for r in fluted.reasons}
    assert "Twin-wall" in by["wing"].construction and by["wing"].to_buy == []
    assert by["tail"].to_buy == ["extruded foam"] and by["fuselage"].to_buy == ["foam board"]


def test_a_load_factor_is_borne():
    found = made(load_factor=6)
    pull = next(c for c in found.airframe.parts[0].cases if c.type == "pull_up")
    told = estimate(found.airframe, "wing", pull.id)
    assert told.measure.value == pytest.approx(6, rel=0.01)
    assert next(v for v in told.verdicts if v.case_id == pull.id).margin.low >= 1 or not found.reasons[0].holds


def test_wing_loading_makes_the_mass():
    plan = plan_for(wish(all_up_mass_g=None, wing_loading_g_dm2=20))
    assert plan.mass_g == pytest.approx(20 * plan.area * 1e-4)


@pytest.mark.parametrize(
    ("changes", "path", "says"),
    [
        ({"wing_loading_g_dm2": 20}, "all_up_mass_g", "one of them"),
        ({"all_up_mass_g": None}, "all_up_mass_g", "one of them"),
        (
            {"type": "plank", "all_up_mass_g": None, "wing_loading_g_dm2": 2, "span_mm": 150},
            "wing_loading_g_dm2",
            "weighs",
        ),
        ({"all_up_mass_g": 4000}, "top_speed_m_s", "flies only from about"),
        ({"all_up_mass_g": None, "wing_loading_g_dm2": 250, "span_mm": 8000}, "wing_loading_g_dm2", "weighs between"),
    ],
)
def test_what_cannot_be_is_refused_by_its_field(changes, path, says):
    with pytest.raises(InvalidDocument) as refused:
        list(make(wish(**changes)))
    assert [(p.path, says in p.message) for p in refused.value.problems] == [(path, True)]


def test_the_speed_that_is_asked_for_is_enough():
    with pytest.raises(InvalidDocument) as refused:
        list(make(wish(all_up_mass_g=1200)))
    speed = float(refused.value.problems[0].message.split("at least ")[1].split()[0])
    area = plan_for(wish()).area * 1e-6
    assert speed == pytest.approx(1.5 * math.sqrt(2 * 1.2 * 9.81 / (1.225 * area * 0.9)), rel=0.04)


def test_a_plank_is_one_part():
    found = made(type="plank", span_mm=500)
    assert [p.kind for p in found.airframe.parts] == ["plank"] and found.airframe.parts[0].span_mm == 500


def test_where_nothing_is_said_of_foams_all_can_be_bought():
    assert lacking("cloth_wing", frozenset(), frozenset({"hot_wire", "resin"})) == ()
    assert lacking("cloth_wing", frozenset({"board"}), frozenset()) == ("extruded", "hot_wire", "resin")
