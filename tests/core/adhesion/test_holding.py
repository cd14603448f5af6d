"""Holding things in, and cloth hinges: closed forms, wear, and the number that would do."""

from __future__ import annotations

import math

import pytest

from fletcher.core.adhesion.retention import MAGNET_SLIDES, PIN_IN_MM, PIN_MM, PUSH_OVER_G, HoldNeed, hold, holders
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.joints.hinge_making import cloth_hinge, steps, sunned_share
from fletcher.core.joints.hinges import HingeNeed, hinge, hinges
from fletcher.core.materials.materials import G_GRAVITY
from fletcher.core.materials.tables import reference


def held(**change):
    return hold(HoldNeed(**{"stop": False, "uses": 0, "months": 0, **change}), reference())


def one(found, key):
    return next(c for c in found.choices if c.key == key)


def test_a_nose_stop_asks_what_its_speed_and_way_make_of_it():
    found = held(speed_m_s=14, stop_mm=100)
    assert found.along_asked_g == pytest.approx(14**2 / (2 * G_GRAVITY * 0.1))
    assert found.off_asked_g == PUSH_OVER_G
    assert held(hangs=True, pull_up_g=9).off_asked_g == 9


def test_pins_plough_magnets_slide_and_straps_rub():
    found = held(mass_g=100, pieces=2)
    weight = 0.1 * G_GRAVITY
    foam = reference().foams["epp_30"]
    bearing = foam.crush_stress_MPa.typ / foam.through_thickness_ratio
    pin = 2 * bearing * PIN_MM * PIN_IN_MM * (math.sqrt(2) - 1)
    assert one(found, "pin_in_foam").along_g.typ == pytest.approx(pin / weight)
    magnet = one(found, "magnet_10x3")
    assert magnet.off_g.typ == pytest.approx(2 * holders()["magnet_10x3"].off_N.typ / weight)
    assert magnet.along_g.typ == pytest.approx(magnet.off_g.typ * MAGNET_SLIDES.typ)
    strap = one(found, "strap_hook_20")
    assert strap.along_g.typ == pytest.approx(0.45 * (2 * 2 * 15 + weight) / weight)
    plate = one(found, "pin_in_plate")
    assert plate.along_g.typ > 10 * one(found, "pin_in_foam").along_g.typ  # what thin plastic is for


def test_a_wall_in_front_adds_its_crushing_and_does_not_wear():
    free, walled = (one(held(stop=s, mass_g=200), "magnet_6x3") for s in (False, True))
    foam = reference().foams["epp_30"]
    wall = foam.crush_stress_MPa.typ / foam.through_thickness_ratio * 35 * 26 / (0.2 * G_GRAVITY)
    assert walled.along_g.typ - free.along_g.typ == pytest.approx(wall)
    worn = one(held(stop=True, mass_g=200, uses=20_000, months=240), "magnet_6x3")
    assert wall < worn.along_g.typ < walled.along_g.typ


def test_wear_and_age_take_their_share_and_tape_is_not_for_hatches():
    fresh, used = (one(held(uses=u), "foam_tape") for u in (0, 300))
    wear = holders()["foam_tape"].wear.typ
    assert used.along_g.typ == pytest.approx(fresh.along_g.typ * (1 - wear) ** 3)
    assert used.new_along_g == fresh.new_along_g
    bands = [one(held(months=m), "band_loop").off_g.typ for m in (0, 12)]
    assert bands[1] == pytest.approx(bands[0] * (1 - holders()["band_loop"].ages.typ) ** 12)


def test_the_number_that_would_do_does_and_one_less_does_not():
    need = {"speed_m_s": 8, "stop_mm": 150, "mass_g": 120}
    for c in held(**need).choices:
        if c.wanted is None or c.wanted == 1 or c.pieces is None:
            continue
        enough = one(held(**need, pieces=c.wanted), c.key)
        less = one(held(**need, pieces=c.wanted - 1), c.key)
        assert enough.enough != "no" and less.enough == "no"


def test_nothing_that_holds_is_said_with_the_closest():
    found = held(mass_g=4000, speed_m_s=40, stop_mm=10)
    assert found.says.startswith("✕ Nothing here survives") and found.choices[0].name in found.says
    assert all(c.enough == "no" for c in found.choices)
    assert found.cautions  # a battery torn loose
    with pytest.raises(InvalidDocument):
        held(foam="cheese")


def test_a_cloth_hinge_is_softest_on_the_bias_and_lies_in_the_tables_band():
    stiff = {a: float(cloth_hinge(a)[0][0]) for a in (0.0, 20.0, 45.0, 70.0, 90.0)}
    assert stiff[45.0] < stiff[20.0] < stiff[0.0]
    assert stiff[20.0] == pytest.approx(stiff[70.0], rel=1e-6) and stiff[0.0] == pytest.approx(stiff[90.0], rel=1e-6)
    for key, angle in (("cloth_bias_aramid", 45.0), ("cloth_0_90_aramid", 0.0)):
        assert hinges()[key].k.low <= stiff[angle] <= hinges()[key].k.high
    assert float(cloth_hinge(0.0)[1][0]) > float(cloth_hinge(45.0)[1][0])
    turned = [hinge(HingeNeed(made_of="composite", cloth_deg=a), reference()) for a in (45.0, 10.0)]
    back = [next(c for c in f.choices if c.key == "cloth_bias_aramid").back_N_mm.typ for f in turned]
    assert back[1] > 2 * back[0]


def test_the_sun_halves_tape_and_leaves_a_wire_hinge():
    assert float(sunned_share("tape_both_sides_gap", "EPP", 3)[0]) == pytest.approx(0.5)
    assert float(sunned_share("knuckle_pin_tube", "EPP", 60)[0]) == 1.0
    shaded, sunned = (hinge(HingeNeed(sun_hours=h), reference()) for h in (0, 1200))
    tape = [next(c for c in f.choices if c.key == "tape_both_sides_gap") for f in (shaded, sunned)]
    assert tape[1].tears_N.typ == pytest.approx(tape[0].tears_N.typ / 4)


def test_every_method_tells_its_making_with_the_angle_and_gap_asked_for():
    for key in hinges():
        made = steps(key, 37, 0.8, "top")
        assert "37°" in made[0] and "0.8 mm" in made[1] and len(made) >= 4
