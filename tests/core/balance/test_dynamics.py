"""Leads, inertia, sideways balance, thrust line and targets of whole airframes."""

import math

import numpy as np
import pytest

from fletcher.core.balance.dynamics import inertia
from fletcher.core.balance.ledger import ledger
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.balance.wiring import copper_mm2, lead_g, lead_g_per_m
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import FilmLayer
from fletcher.core.document.equipment import Aim, Equipment, Lead
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import check

WARDEN = demo_airframes()[0].model_copy(update={"weighings": ()})
WING = next(p for p in WARDEN.parts if p.id == "wing")


def carrying(*items, **changes):
    return WARDEN.model_copy(update={"equipment": (*WARDEN.equipment, *items), **changes})


def told(airframe):
    assert list(check(airframe, reference())) == []
    return balance_sheet(airframe)


def test_a_lead_of_two_wires():
    lead = Lead(wires=2, gauge=22, insulation_mm=0.45, length_mm=340, plugs=0)
    assert copper_mm2(lead) == pytest.approx(0.325534, rel=1e-5)
    assert lead_g_per_m(lead) == pytest.approx(10.5055, rel=1e-5)
    assert lead_g(lead)[1] == pytest.approx(3.57187, rel=1e-5)
    plugged = lead_g(lead.model_copy(update={"plugs": 2}))
    assert plugged[1] - lead_g(lead)[1] == pytest.approx(4)
    assert plugged[0] < plugged[1] < plugged[2]
    by_area = lead.model_copy(update={"gauge": 40.0, "area_mm2": 0.325534})
    assert lead_g_per_m(by_area) == pytest.approx(10.5055, rel=1e-4)


def test_a_lead_lies_half_way_between_its_ends():
    motor, battery = (next(e for e in WARDEN.equipment if e.what == what) for what in ("motor", "battery"))
    lead = Equipment(id="power", what="lead", x_mm=700, lead=Lead(from_id=motor.id, to_id=battery.id))
    line = next(x for x in told(carrying(lead)).lines if x.item_id == "power")
    assert line.x_mm == pytest.approx((motor.x_mm + battery.x_mm) / 2)
    assert line.grams.typ == pytest.approx(lead_g(lead.lead)[1])
    loose = lead.model_copy(update={"lead": Lead(from_id=motor.id)})
    assert next(x for x in told(carrying(loose)).lines if x.item_id == "power").x_mm == 700


def test_a_lead_by_the_metre_weighs_by_its_length_and_needs_one():
    thin = Equipment(id="thin", what="lead", stock="lead_servo_thin", lead=Lead(length_mm=500))
    line = next(x for x in told(carrying(thin)).lines if x.item_id == "thin")
    assert line.grams.typ == pytest.approx(0.5 * reference().fittings["lead_servo_thin"].mass_g.typ)
    bare = thin.model_copy(update={"lead": None})
    assert [p.path for p in check(carrying(bare), reference())] == [f"equipment[{len(WARDEN.equipment)}].lead"]
    lost = thin.model_copy(update={"lead": Lead(from_id="thin", to_id="nowhere")})
    ends = [p.path.rsplit(".", 1)[1] for p in check(carrying(lost), reference())]
    assert ends == ["from_id", "to_id"]


def test_only_a_lead_has_wires_and_nothing_moves_it():
    wired = tuple(
        e.model_copy(update={"lead": Lead()}) if e.what == "battery" else e for e in WARDEN.equipment
    )  # fmt: skip
    at = next(i for i, e in enumerate(WARDEN.equipment) if e.what == "battery")
    wrong = list(check(WARDEN.model_copy(update={"equipment": wired}), reference()))
    assert [p.path for p in wrong] == [f"equipment[{at}].lead"]
    roomy = Equipment(id="power", what="lead", x_mm=300, from_mm=0, to_mm=600, lead=Lead(wires=2, gauge=12))
    assert all(w.item_id != "power" for w in told(carrying(roomy)).ways)


def test_glue_lies_along_bars_in_foam_that_have_none_entered():
    lines = {e.key: e for e in ledger(WARDEN)}
    glue = lines["wing/right/spar/glue"]
    spar = next(x for x in WING.layers if x.id == "spar")
    metres = ((spar.end_mm or WING.span_mm) - spar.start_mm) / 1000 * (2 if spar.place == "pair" else 1)
    assert glue.line.typ == pytest.approx(2.5 * metres) and glue.stage == "glued" and glue.wet
    assert not any(k.startswith("boom") and k.endswith("/glue") for k in lines)
    assert glue.line.x_mm == pytest.approx(lines["wing/right/spar"].line.x_mm)


def test_a_coat_is_paint_and_comes_after_the_skins():
    coat = FilmLayer(id="coat", skin="coat_acrylic", plies=2)
    painted = WING.model_copy(update={"layers": (*WING.layers, coat)})
    entry = next(e for e in ledger(WARDEN.model_copy(update={"parts": (painted,)})) if e.layer_id == "coat")
    assert (entry.group, entry.stage, entry.plies, entry.wet) == ("paint", "painted", 2, True)
    assert entry.line.causes == {"your use of paint": 0.60}


def test_inertia_of_a_plain_plank_is_that_of_a_plate():
    plain = WING.model_copy(update={
        "layers": (), "tip_setback_mm": 0.0, "tip_chord_mm": WING.root_chord_mm,
        "tip_thickness_mm": WING.root_thickness_mm, "controls": (),
    })  # fmt: skip
    airframe = WARDEN.model_copy(update={"parts": (plain,), "equipment": ()})
    entries = [e for e in ledger(airframe) if e.group == "foam"]
    whole, _ = inertia(airframe, entries)
    half, chord, rise = plain.span_mm, plain.root_chord_mm, math.radians(plain.place.dihedral_deg)
    per = whole.tensor / whole.grams
    out = np.linspace(0, half, 20_001) * math.cos(rise) + plain.place.y_mm
    up = np.linspace(0, half, 20_001) * math.sin(rise)
    assert per[0, 0] == pytest.approx(np.mean(out**2) + np.var(up), rel=2e-3)
    assert per[1, 1] == pytest.approx(chord**2 / 12 + np.var(up), rel=2e-2)
    assert per[0, 1] == pytest.approx(0, abs=1e-6) and per[1, 2] == pytest.approx(0, abs=1e-6)


def test_the_tensor_of_an_airframe_is_even_and_possible():
    sheet = told(WARDEN)
    i = sheet.inertia
    assert i.roll_kg_m2 + i.pitch_kg_m2 >= i.yaw_kg_m2 and i.swing_s > 0
    far = told(carrying(Equipment(id="tip", what="other", mass_g=10, x_mm=250, y_mm=500, pair=True)))
    assert far.inertia.roll_kg_m2 - i.roll_kg_m2 == pytest.approx(2 * 10 * 500**2 / 1e9, rel=0.02)
    assert "Left wing half" in i.says and "roll" in i.says


def test_a_weight_on_one_side_is_told_with_what_cures_it():
    assert told(WARDEN).sideways.says == "In the middle."
    sheet = told(carrying(Equipment(id="cam", what="other", mass_g=60, x_mm=300, y_mm=300)))
    side = sheet.sideways
    tip = side.off_mm * sheet.mass_g.typ / side.cure_g
    assert side.off_mm * sheet.mass_g.typ == pytest.approx(60 * 300, rel=1e-6)
    assert 400 < tip < 900 and "left tip" in side.says
    cured = Equipment(id="cure", what="ballast", mass_g=side.cure_g, x_mm=300, y_mm=-tip)
    both = carrying(Equipment(id="cam", what="other", mass_g=60, x_mm=300, y_mm=300), cured)
    assert told(both).sideways.off_mm == pytest.approx(0, abs=1e-6)
    small = told(carrying(Equipment(id="cam", what="other", mass_g=5, x_mm=300, y_mm=300))).sideways
    assert small.cure_g == 0 and small.off_mm > 0


def driven(**more):
    items = tuple(e.model_copy(update=more) if e.what == "motor" else e for e in WARDEN.equipment)
    return told(WARDEN.model_copy(update={"equipment": items}))


def test_thrust_through_the_centre_turns_nothing():
    assert told(WARDEN).thrust is None
    sheet = driven(thrust_N=6.0)
    motor = next(e for e in WARDEN.equipment if e.what == "motor")
    assert sheet.thrust.per_weight == pytest.approx(6 / (sheet.mass_g.typ / 1000 * 9.80665))
    assert sheet.thrust.pitch_N_mm == pytest.approx(-6 * (motor.z_mm - sheet.height_mm), rel=1e-3)
    angle = math.degrees(math.atan((motor.z_mm - sheet.height_mm) / (motor.x_mm - sheet.centre_mm.typ)))
    there = driven(thrust_N=6.0, down_deg=angle)
    assert there.thrust.pitch_N_mm == pytest.approx(0, abs=1e-6)
    word = "up" if angle < 0 else "down"
    assert f"Through the centre of gravity the shaft points {abs(angle):.1f}° {word}" in sheet.thrust.says
    assert sheet.thrust.says.endswith("it is straight.")
    assert driven(thrust_N=6.0, right_deg=2.0).thrust.yaw_N_mm > 0


def test_a_motor_at_the_centre_cannot_be_cured_by_its_angle():
    sheet = driven(thrust_N=6.0, x_mm=told(WARDEN).centre_mm.typ + 10)
    assert "no angle cures" in sheet.thrust.says


@pytest.mark.parametrize(("most", "grade"), [(900, "sure"), (735, "likely"), (715, "doubtful"), (600, "no")])
def test_targets_are_graded_by_their_band(most, grade):
    sheet = told(WARDEN.model_copy(update={"aim": Aim(mass_g=most, watts=100, watts_per_kg=1e5 / most)}))
    mass, power = sheet.targets
    assert (mass.grade, power.grade) == (grade, grade)
    assert mass.band == sheet.mass_g and power.band.typ == pytest.approx(1e5 / sheet.mass_g.typ)


def test_the_stall_target_tells_the_mass_that_reaches_it():
    sheet = told(WARDEN.model_copy(update={"aim": Aim(stall_m_s=8, loading_g_dm2=30)}))
    loading, stall = sheet.targets
    assert loading.grade == "no" and loading.band.typ == pytest.approx(sheet.loading_g_dm2)
    grams = sheet.mass_g.typ * (8 / sheet.stall_m_s.typ) ** 2
    assert stall.says == f"at most 8 m/s: reached at {grams:.0f} g"
