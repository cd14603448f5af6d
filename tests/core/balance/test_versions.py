"""Versions of one airframe: the same structure with other equipment, against worked figures."""

import math
import re

import pytest

from fletcher.core.balance.flight import loading, speed_at
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.balance.versions import battery_place, in_version, versions_of
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.equipment import Aim, Equipment
from fletcher.core.document.weighings import OnScale, Weighing
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import check

WARDEN = demo_airframes()[0].model_copy(update={"weighings": ()})


@pytest.mark.parametrize(
    ("more", "thrust", "mass", "battery", "wing", "stall", "pull"),
    [
        ([(95, 38)], 7.0, 797, 269.92, 36.9, 7.501, 0.8956),
        ([(130, 215), (24, 240)], 9.6, 856, 197.9, 39.63, 7.774, 1.144),
        ([(95, 38), (130, 215), (30, 180)], 14.5, 957, 339.87, 44.31, 8.219, 1.545),
    ],
)
def test_one_two_and_three_motors(more, thrust, mass, battery, wing, stall, pull):
    rest = [(520, 340), *more]
    grams = sum(m for m, _ in rest) + 182
    assert grams == mass and battery_place(rest, 182, 288) == pytest.approx(battery, abs=0.01)
    assert loading(grams, 21.6e4) == pytest.approx(wing, abs=0.01)
    assert speed_at(grams, 21.6e4, 1.05) == pytest.approx(stall, abs=1e-3)
    assert thrust / (grams / 1e3 * 9.80665) == pytest.approx(pull, abs=1e-3)


def versioned(aim=None):
    items = tuple(
        e.model_copy(update={"versions": ("one",), "thrust_N": 7.0}) if e.what == "motor" else e
        for e in WARDEN.equipment
    )
    two = Equipment(id="two", what="motor", stock="motor_22", x_mm=300, y_mm=210, pair=True, versions=("two", "three"),
                    thrust_N=4.8)  # fmt: skip
    nose = Equipment(id="nose", what="motor", stock="motor_28", x_mm=80, versions=("three",), thrust_N=7.0)
    return WARDEN.model_copy(update={"equipment": (*items, two, nose), "aim": aim or Aim()})


def told(airframe):
    assert list(check(airframe, reference())) == []
    return balance_sheet(airframe)


def test_each_version_is_what_it_would_be_alone():
    airframe = versioned()
    assert versions_of(airframe) == ["one", "two", "three"]
    sheet = told(airframe)
    assert sheet.version == "one" and [v.name for v in sheet.versions] == ["one", "two", "three"]
    for row in sheet.versions:
        alone = told(versioned(Aim(version=row.name)))
        assert alone.version == row.name
        assert (row.mass_g, row.centre_mm) == (pytest.approx(alone.mass_g.typ), pytest.approx(alone.centre_mm.typ))
        assert row.stall_m_s == pytest.approx(alone.stall_m_s.typ)
        assert row.thrust_per_weight == pytest.approx(alone.thrust.per_weight)
        assert row.battery_mm == pytest.approx(alone.bay.centre_mm, abs=0.5)
    assert sheet.versions[1].mass_g < sheet.versions[2].mass_g
    places = [v.battery_mm for v in sheet.versions]
    assert f"from {min(places):.0f} mm" in sheet.bay_of_all and f"to {max(places):.0f} mm" in sheet.bay_of_all


def test_an_airframe_without_versions_has_one():
    sheet = told(WARDEN)
    assert (sheet.version, sheet.versions, sheet.bay_of_all) == (None, [], "")
    assert in_version(WARDEN, "two") is WARDEN
    assert told(versioned(Aim(version="four"))).version == "one"


def test_what_was_weighed_weighs_so_in_every_version():
    one = Weighing(id="w", lines=("item/battery/one",), reading=OnScale(grams=195), trusted=True)
    before, after = told(versioned()), told(versioned().model_copy(update={"weighings": (one,)}))
    assert after.versions[0].mass_g == pytest.approx(after.mass_g.typ)
    for row, was in zip(after.versions, before.versions, strict=True):
        assert row.mass_g - was.mass_g == pytest.approx(13, abs=0.6)


def one_out(*, fin_span=None, out_mm=210.0, **more):
    motor = Equipment(id="two", what="motor", stock="motor_22", x_mm=300, y_mm=out_mm, pair=True, thrust_N=4.8)
    tail = next(p for p in WARDEN.parts if p.kind == "tail")
    parts = tuple(p for p in WARDEN.parts)
    if fin_span:
        place = tail.place.model_copy(update={"dihedral_deg": 90.0})
        fin = tail.model_copy(update={"id": "fin", "name": "Fin", "hand": "single", "place": place, "span_mm": fin_span,
                                      "root_chord_mm": 120.0, "tip_chord_mm": 120.0, "tip_setback_mm": 0.0,
                                      "control": None, "layers": ()})  # fmt: skip
        parts += (fin,)
    items = tuple(e for e in WARDEN.equipment if e.what != "motor")
    sheet = balance_sheet(WARDEN.model_copy(update={"equipment": (*items, motor), "parts": parts, **more}))
    return sheet, [r for r in sheet.remarks if "stopped" in r]


def test_a_stopped_wing_motor_is_held_by_the_fin_above_a_speed():
    sheet, (said,) = one_out(fin_span=160.0)
    tail = next(p for p in WARDEN.parts if p.kind == "tail")
    arm = tail.place.x_mm + 30 - sheet.centre_mm.typ
    speeds = [math.sqrt(2 * 4.8 * 0.210 / (1.225 * 0.160 * 0.120 * c * arm / 1000)) for c in (0.8, 1.0, 0.6)]
    assert "210 mm out" in said and "close the other throttle" in said
    told = [float(w) for w in re.findall(r"([\d.]+) m/s", said)][:3]
    assert told == [pytest.approx(v, rel=6e-3) for v in speeds]
    assert "nothing holds it straight" in one_out()[1][0]
    assert "down to its stall" in one_out(fin_span=160.0, out_mm=15.0)[1][0]
    assert one_out(fin_span=160.0, out_mm=5.0)[1] == []  # in the middle
