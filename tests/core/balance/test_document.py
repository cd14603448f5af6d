"""What an airframe document becomes: bands and causes of its lines, its body, a longer nose, a bay of its length."""

import math

import numpy as np
import pytest

from fletcher.core.balance.forecast import Z95, Forecast
from fletcher.core.balance.ledger import ledger
from fletcher.core.balance.neutral_point import body_moment
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.balance.surfaces import layout_of
from fletcher.core.document.airframe import BarLayer
from fletcher.core.document.equipment import Equipment
from tests.core.balance.test_sheet import FITTED, WARDEN, fitted, item, told

WING = WARDEN.parts[0]
TAIL = next(p for p in WARDEN.parts if p.kind == "tail")
BOOM = next(p for p in WARDEN.parts if p.kind == "fuselage")


def entries(*equipment, airframe=WARDEN):
    return ledger(airframe.model_copy(update={"equipment": equipment}))


def sd(line):
    return math.log(line.high / line.low) / (2 * Z95)


def test_a_typed_mass_is_known_to_three_per_cent_and_two_of_a_stock_vary_together():
    typed, *pair = entries(item("camera", mass_g=100), item("servo", "servo_9g", pair=True))[-3:]
    assert sd(typed.line) == pytest.approx(0.03) and typed.line.typ == 100 and typed.line.causes == {}
    assert [e.line.name for e in pair] == ["Servo, 9 g class, right", "Servo, 9 g class, left"]
    assert [(e.line.low, e.line.typ, e.line.high) for e in pair] == [(8.2, 9.5, 11)] * 2
    assert [list(e.line.causes.values()) for e in pair] == [[0.8]] * 2
    single = entries(item("servo", "servo_9g"))[-1].line
    assert single.causes == {} and single.name == "Servo, 9 g class"


def test_what_is_not_listed_is_between_half_and_five_per_cent_of_the_structure():
    found = entries()
    rest, structure = found[-1].line, sum(e.line.typ for e in found[:-1] if e.group != "equipment")
    assert [rest.low / structure, rest.typ / structure, rest.high / structure] == pytest.approx([0.005, 0.02, 0.05])


@pytest.mark.parametrize(
    ("stock", "shares"), [("carbon_rod_3", [0.70]), ("spruce_3x5", [0.20, 0.10]), ("glass_rod_3", [0.70])]
)
def test_lines_share_as_much_of_their_variance_as_their_kind_does(stock, shares):
    wing = WING.model_copy(update={"layers": (BarLayer(id="bar", stock=stock, place="middle", end_mm=400),)})
    found = entries(airframe=WARDEN.model_copy(update={"parts": (wing,)}))
    bars = [e.line for e in found if e.layer_id == "bar" and e.group == "spars"]
    assert [list(b.causes.values()) for b in bars] == [shares] * 2
    foam = [e.line for e in found if e.group == "foam"]
    assert [list(f.causes.values()) for f in foam] == [[0.50, 0.35]] * 2


def test_halves_that_share_a_block_are_less_certain_together_than_apart():
    foam = [e.line for e in entries(airframe=WARDEN.model_copy(update={"parts": (WING,)})) if e.group == "foam"]
    together = Forecast(foam).mass()[1]
    assert together == pytest.approx(foam[0].typ * sd(foam[0]) * math.sqrt(2 * (1 + 0.85)), rel=0.02)


def test_a_fuselage_counts_ahead_of_the_wing_and_as_far_as_the_tail():
    place = BOOM.place.model_copy(update={"x_mm": 100.0})
    sizes = {"root_chord_mm": 60.0, "tip_chord_mm": 30.0, "span_mm": 800.0, "place": place}
    body = BOOM.model_copy(update=sizes)
    layout = layout_of(WARDEN.model_copy(update={"parts": (WING, TAIL, body)}))
    tail = max(layout.surfaces, key=lambda s: s.planform.centre_mm)
    x = np.linspace(100, 900, 80_001)
    wide = 60 - 30 * (x - 100) / 800
    nose_end, aft = WING.place.x_mm, WING.place.x_mm + WING.root_chord_mm
    ahead, behind = x < nose_end, (x > aft) & (x < tail.planform.centre_mm)
    found = layout.body
    assert found.nose_long_mm == nose_end - 100 and found.aft_long_mm == pytest.approx(tail.planform.centre_mm - aft)
    assert found.nose_wide_mm == pytest.approx(math.sqrt(np.mean(wide[ahead] ** 2)), rel=1e-3)
    assert found.aft_wide_mm == pytest.approx(math.sqrt(np.mean(wide[behind] ** 2)), rel=1e-3)
    assert body_moment(found, 1.0) == pytest.approx(
        math.pi / 2 * (1.3 * np.sum(wide[ahead] ** 2) + 0.5 * np.sum(wide[behind] ** 2)) * 0.01, rel=1e-3
    )
    twin = body.model_copy(update={"hand": "both", "place": body.place.model_copy(update={"y_mm": 100.0})})
    both = layout_of(WARDEN.model_copy(update={"parts": (WING, TAIL, twin)})).body
    assert both.nose_wide_mm == pytest.approx(found.nose_wide_mm * math.sqrt(2))
    flat = body.model_copy(update={"root_chord_mm": 10.0, "tip_chord_mm": 10.0})
    assert layout_of(WARDEN.model_copy(update={"parts": (WING, TAIL, flat)})).body is None
    assert layout_of(WARDEN.model_copy(update={"parts": (WING, body)})).body.aft_long_mm == 0  # no tail behind


def test_a_longer_nose_balances_where_it_was_said():
    nose = BOOM.model_copy(
        update={"id": "nose", "name": "Nose", "span_mm": 200.0, "place": BOOM.place.model_copy(update={"x_mm": 20.0})}
    )
    items = (e.model_copy(update={"x_mm": 460, "from_mm": None}) if e.id == "battery" else e for e in FITTED)
    airframe = fitted(*items, parts=(*WARDEN.parts, nose))
    sheet = told(airframe)
    way = next(w for w in sheet.ways if w.kind == "rebuild")
    by = float(way.says.split("nose by ")[1].split()[0])
    own = sum(e.line.typ for e in ledger(airframe) if e.part_id == "nose")
    per_mm = own / 200
    lines = [(line.grams.typ, line.x_mm - (by if line.x_mm < 220 else 0)) for line in sheet.lines]
    lines.append((per_mm * by, 220 - by / 2))
    centre = sum(m * x for m, x in lines) / sum(m for m, _ in lines)
    assert way.grams == pytest.approx(per_mm * by, abs=0.5 * per_mm)  # the words round to a millimetre
    assert centre == pytest.approx(way.centre_mm, abs=0.5)
    assert way.reaches == (abs(way.centre_mm - sheet.margin.target_mm) < 0.1)


def test_the_bay_is_as_long_as_the_battery_and_all_that_is_not_known():
    sheet = told(fitted())
    everything = ledger(fitted())
    battery = next(e for e in everything if e.what == "battery")
    rest = [e for e in everything if e is not battery]
    mass, target, total = battery.line.typ, sheet.margin.target_mm, sum(e.line.typ for e in rest)
    at = (target * (total + mass) - sum(e.line.typ * e.line.x_mm for e in rest)) / mass
    np_sd = (sheet.neutral.x_mm.high - sheet.neutral.x_mm.low) / (2 * Z95)
    var = sum(((target - e.line.x_mm) / mass * e.line.typ * sd(e.line)) ** 2 for e in rest)
    var += ((target - at) * sd(battery.line)) ** 2 + ((total + mass) / mass * np_sd) ** 2
    assert sheet.bay.centre_mm == pytest.approx(at)
    assert sheet.bay.to_mm - sheet.bay.from_mm == pytest.approx(105 + 2 * Z95 * math.sqrt(var))
    two = told(fitted(*FITTED, Equipment(id="b2", what="battery", stock="battery_2s_450", x_mm=300)))
    assert two.bay is None  # which of the two?


def test_the_spread_of_the_neutral_point_is_three_to_four_per_cent_of_the_mean_chord():
    n = balance_sheet(fitted()).neutral
    share = (n.x_mm.high - n.x_mm.low) / (2 * Z95) / n.mean_chord_mm
    assert 0.03 < share < 0.045 and n.x_mm.causes[0] == "downwash of the wing at the tail"


def test_a_second_piece_of_ballast_has_a_name_of_its_own():
    items = (e.model_copy(update={"x_mm": 400, "from_mm": 380}) if e.id == "battery" else e for e in FITTED)
    heavy = fitted(*items, Equipment(id="ballast", what="ballast", mass_g=1, x_mm=300))
    sheet = told(heavy)
    last = sheet.plan[-1]
    assert last.kind == "ballast" and last.centre_mm == pytest.approx(sheet.margin.target_mm, abs=0.1)
