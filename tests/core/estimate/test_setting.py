"""The setting of an airframe: warmth, sun and damp as factors, and what they do to a part."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Setting
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference
from fletcher.core.section.setting import ROOM_C, catalogue_in, families, left_of, scaled, sunned, warm
from fletcher.core.studies.what_if import trial
from fletcher.core.validation.airframe import check

WARDEN = demo_airframes()[0]


def test_every_material_belongs_to_a_family_that_is_described():
    carried = {"fittings", "fasteners"}  # things, whose stiffness and strength no setting scales
    tables = [table for name, table in vars(reference()).items() if name not in carried]
    named = {m.family for table in tables for m in table.values()}
    assert named <= set(families()) | {"laminate"}
    for family in families().values():
        assert family.brittle_below_C < ROOM_C < family.softens_C.low
        assert 0 < family.wet_keeps.low <= family.damp_keeps.high <= 1


def test_warmth_leaves_all_at_room_temperature_and_about_a_third_where_it_softens():
    assert warm(95, ROOM_C) == warm(95, -20) == 1
    assert warm(95, 95) == pytest.approx(0.35)
    # straight in between
    assert warm(95, 59) == pytest.approx(1 - 0.65 * (59 - 23) / (95 - 23))
    assert 0 < warm(95, 200) < 0.1


def test_sun_halves_the_strength_in_its_half_life():
    assert sunned(3, 0) == 1
    assert sunned(3, 3) == pytest.approx(0.5)
    assert sunned(3, 6) == pytest.approx(0.25)


@given(st.floats(0.2, 1.0), st.floats(1.0, 2.0), st.floats(0.5, 1.0), st.floats(1.0, 1.5), st.floats(0.1, 1.0))
def test_the_range_of_a_product_is_wider_than_each_and_typical_values_multiply(low, high, f_low, f_high, f):
    value, factor = Range(low, 1.0, high), Range(f * f_low, f, f * f_high)
    product = scaled(value, factor)
    assert product.typ == pytest.approx(f)
    assert product.low <= min(low * f, f * f_low) + 1e-12
    assert product.high >= max(high * f, f * f_high) - 1e-12


def test_the_usual_setting_is_the_reference_itself():
    assert catalogue_in(Setting()) is reference()
    assert catalogue_in(Setting(parked_C=70, coldest_C=-10)) is reference()


def test_paper_loses_nearly_all_its_strength_wet_and_carbon_next_to_none():
    wet = Setting(damp="wet")
    paper = left_of(families()["paper_skin"], wet).strength
    carbon = left_of(families()["carbon_pultruded"], wet).strength
    assert paper.typ < 0.2 and carbon.typ > 0.95


@pytest.mark.parametrize("change", [{"hottest_C": 45.0}, {"sun_months": 12.0}, {"damp": "wet"}])
def test_a_harsher_setting_never_makes_a_part_stronger(change):
    before = estimate(WARDEN, "wing", "pull-up")
    harsher = WARDEN.model_copy(update={"setting": Setting(**change)})
    after = estimate(harsher, "wing", "pull-up")
    # a film that wrinkles does so by its stiffness: its age in the sun does not show there
    assert after.breaks_at.typ <= before.breaks_at.typ * (1 if "sun_months" in change else 0.9999)
    assert after.deflection_mm.typ >= before.deflection_mm.typ * 0.999
    assert after.mass_g.typ == pytest.approx(before.mass_g.typ)


def test_sun_ages_strength_and_not_stiffness():
    before = estimate(WARDEN, "wing", "pull-up")
    after = estimate(WARDEN.model_copy(update={"setting": Setting(sun_months=12)}), "wing", "pull-up")
    assert after.deflection_mm.typ == pytest.approx(before.deflection_mm.typ, rel=1e-6)


def test_a_tape_bears_a_quarter_after_two_half_lives_in_the_sun():
    aged = WARDEN.model_copy(update={"setting": Setting(sun_months=2 * families()["tape"].sun_half_months.typ)})
    wing = WARDEN.parts[0]
    tears = ("skin_tension", "tape")
    new, old = (trial(a, wing).of("bench").by_kind[tears] for a in (WARDEN, aged))
    assert old == pytest.approx(new / 4, rel=1e-6)


def test_a_parked_car_and_the_cold_are_told_and_change_no_figure():
    hot = WARDEN.model_copy(update={"setting": Setting(parked_C=75, coldest_C=-25)})
    told = estimate(hot, "wing", "pull-up")
    assert any("parked car" in w for w in told.warnings)
    assert any("turns brittle" in w for w in told.warnings)
    assert told.breaks_at.typ == pytest.approx(estimate(WARDEN, "wing", "pull-up").breaks_at.typ)


def test_a_coldest_day_above_the_hottest_is_refused_by_its_field():
    crossed = WARDEN.model_copy(update={"setting": Setting(hottest_C=10, coldest_C=20)})
    problems = list(check(crossed, reference()))
    assert [p.path for p in problems] == ["setting.coldest_C"]
    assert "10 °C" in problems[0].message
