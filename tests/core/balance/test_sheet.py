"""The balance of whole airframes: what weighs, where it balances, what would help; and what it refuses."""

import pytest

from fletcher.core.balance.ledger import ledger
from fletcher.core.balance.neutral_point import neutral_point
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.balance.surfaces import layout_of
from fletcher.core.common.quantities import read_in
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, FittingLayer
from fletcher.core.document.equipment import Aim, Equipment
from fletcher.core.estimate.balance import whole
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import check

WARDEN = demo_airframes()[0].model_copy(update={"equipment": (), "weighings": ()})


def item(what, stock=None, x=0.0, **more):
    return Equipment(id=more.pop("id", what), what=what, stock=stock, x_mm=x, **more)


FITTED = (
    item("motor", "motor_28", 20), item("propeller", "propeller_8", 5), item("controller", "controller_30", 90),
    item("battery", "battery_3s_2200", 560, from_mm=150, to_mm=700), item("receiver", "receiver_6", 380),
    item("servo", "servo_9g", 600, y_mm=20, pair=True),
)  # fmt: skip


def fitted(*equipment, airframe=WARDEN, **changes):
    return airframe.model_copy(update={"equipment": equipment or FITTED, **changes})


def told(airframe):
    assert list(check(airframe, reference())) == []
    return balance_sheet(airframe)


def test_the_structure_weighs_what_its_parts_do_and_what_no_line_tells_is_a_line():
    entries = ledger(WARDEN)
    structure = sum(e.line.typ for e in entries if e.group not in ("equipment", "not listed"))
    glue = sum(e.line.typ for e in entries if e.key.endswith("/glue"))
    assert structure - glue == pytest.approx(whole(WARDEN).structure_g.typ, rel=1e-3)
    assert entries[-1].group == "not listed" and entries[-1].line.typ == pytest.approx(0.02 * structure)
    sheet = told(WARDEN)
    assert sheet.mass_g.typ == pytest.approx(1.02 * structure)
    assert sum(g.grams.typ for g in sheet.groups) == pytest.approx(sheet.mass_g.typ)
    moment = sum(line.grams.typ * line.x_mm for line in sheet.lines)
    assert sheet.centre_mm.typ == pytest.approx(moment / sheet.mass_g.typ)
    assert sheet.structure_g.typ == pytest.approx(sheet.mass_g.typ)


def test_a_pair_lies_on_both_sides_and_the_middle_stays():
    sheet = told(fitted())
    servos = [line for line in sheet.lines if line.item_id == "servo"]
    assert [line.y_mm for line in servos] == [20, -20] and servos[0].grams == servos[1].grams
    off = told(fitted(*FITTED, item("other", x=300, y_mm=100, mass_g=50)))
    assert off.sideways.off_mm * off.mass_g.typ == pytest.approx(
        sheet.sideways.off_mm * sheet.mass_g.typ + 5000, rel=1e-6
    )


def test_a_servo_in_a_wing_is_equipment_on_both_sides():
    wing = WARDEN.parts[0]
    servo = FittingLayer(id="s", stock="servo_5g", start_mm=200, pocket=False)
    with_servo = wing.model_copy(update={"layers": (*wing.layers, servo), "hand": "both"})
    found = [e for e in ledger(fitted(parts=(with_servo,))) if e.layer_id == "s"]
    assert [e.group for e in found] == ["equipment"] * 2 and {e.what for e in found} == {"servo"}
    assert found[0].y_mm == -found[1].y_mm != 0


def test_moving_a_mass_moves_the_centre_by_its_share_and_the_neutral_point_not():
    before, moved = told(fitted()), [e.model_copy(update={"x_mm": 400}) if e.id == "battery" else e for e in FITTED]
    after = told(fitted(*moved))
    grams = next(line.grams.typ for line in before.lines if line.item_id == "battery")
    assert after.centre_mm.typ - before.centre_mm.typ == pytest.approx(-160 * grams / before.mass_g.typ)
    assert after.neutral.x_mm.typ == before.neutral.x_mm.typ


def shifted(airframe, by):
    parts = tuple(
        p.model_copy(update={"place": p.place.model_copy(update={"x_mm": p.place.x_mm + by})}) for p in airframe.parts
    )
    return airframe.model_copy(update={"parts": parts, "equipment": tuple(
        e.model_copy(update={n: None if getattr(e, n) is None else getattr(e, n) + by
                             for n in ("x_mm", "from_mm", "to_mm")}) for e in airframe.equipment
    )})  # fmt: skip


def test_the_datum_changes_no_margin_price_or_remedy():
    here, there = told(fitted()), told(shifted(fitted(), 250))
    assert there.centre_mm.typ == pytest.approx(here.centre_mm.typ + 250)
    assert there.neutral.x_mm.typ == pytest.approx(here.neutral.x_mm.typ + 250)
    assert there.margin.percent.typ == pytest.approx(here.margin.percent.typ)
    assert [line.price for line in there.lines] == pytest.approx([line.price for line in here.lines])
    assert [r.says for r in there.plan] == [r.says for r in here.plan] != []
    assert there.bay.from_mm == pytest.approx(here.bay.from_mm + 250)


@pytest.mark.parametrize("battery", [560, 250, 640])
def test_a_plan_applied_gives_what_it_promised(battery):
    airframe = fitted(*(e.model_copy(update={"x_mm": battery}) if e.id == "battery" else e for e in FITTED))
    sheet = told(airframe)
    if not sheet.plan:
        front, rear = sheet.margin.front_mm, sheet.margin.rear_mm
        assert front <= sheet.centre_mm.typ <= rear
        return
    if sheet.centre_mm.typ > sheet.margin.rear_mm:
        assert sheet.plan[-1].centre_mm == pytest.approx(sheet.margin.target_mm, abs=0.1)
    for step in sheet.plan:
        assert step.kind in ("move", "ballast")
        items = airframe.equipment
        if step.kind == "move":
            items = tuple(e.model_copy(update={"x_mm": step.to_mm}) if e.id == step.item_id else e for e in items)
        else:
            items = (*items, item("ballast", x=step.to_mm, mass_g=step.grams))
        airframe = airframe.model_copy(update={"equipment": items})
        assert told(airframe).centre_mm.typ == pytest.approx(step.centre_mm, abs=0.1)
    after = told(airframe)
    assert after.plan == [] and after.grade in ("sure", "likely")


def test_ballast_is_never_before_a_free_move_and_only_where_moves_do_not_reach():
    far, near = (
        told(fitted(*(e.model_copy(update={"from_mm": end}) if e.id == "battery" else e for e in FITTED)))
        for end in (150, 360)
    )
    assert [s.kind for s in far.plan] == ["move"]
    assert near.plan[0].kind == "move" and near.plan[-1].kind in ("ballast", "rebuild")
    assert near.plan[0].to_mm == 360  # to the end of its room


def test_a_heavy_nose_is_a_remark_and_nobody_puts_lead_in_the_tail_for_it():
    ahead = fitted(*(e.model_copy(update={"x_mm": 150, "to_mm": 200}) if e.id == "battery" else e for e in FITTED))
    sheet = told(ahead)
    assert "further forward than needed" in sheet.says and sheet.grade == "sure"
    assert {s.kind for s in (*sheet.plan, *sheet.ways)} <= {"move", "swap"} and sheet.plan[0].to_mm <= 200


def test_more_lead_than_a_fifth_of_it_all_is_not_advised_but_told_to_be_another_layout():
    bare = told(
        fitted(
            item("battery", "battery_2s_450", 700), item("motor", "motor_28", 600), item("receiver", "receiver_6", 600)
        )
    )
    assert not any(s.kind == "ballast" for s in (*bare.plan, *bare.ways))
    assert bare.says.endswith("Nothing that is entered brings it into its range: put more weight further forward.")
    assert "ahead of the nose" in bare.bay.says and "Cut its bay" not in bare.bay.says


def test_a_larger_battery_is_taken_whole_one_on_each_side_where_there_are_two():
    def swap(**more):
        sheet = told(fitted(*(e for e in FITTED if e.id != "battery"), item("camera", x=700, mass_g=150),
                            item("battery", "battery_2s_450", 225, **more)))  # fmt: skip
        return sheet, next(w for w in sheet.ways if w.kind == "swap")

    for pair, grams in ((False, 22), (True, 44)):
        before, way = swap(pair=pair, y_mm=60)
        assert way.stock == "battery_2s_850" and way.grams == pytest.approx(grams)
        moment = before.mass_g.typ * before.centre_mm.typ + grams * 225
        assert way.centre_mm == pytest.approx(moment / (before.mass_g.typ + grams))


def test_causes_are_told_in_words_and_a_battery_within_a_part_has_its_length():
    for airframe in demo_airframes():
        assert not any("_" in cause for cause in told(airframe).causes)
    wing = WARDEN.parts[0]
    inside = FittingLayer(id="b", stock="battery_4s_3000", start_mm=20, pocket=False)
    single = wing.model_copy(update={"layers": (*wing.layers, inside), "hand": "single"})
    own = told(fitted(item("battery", "battery_4s_3000", 300))).bay
    within = balance_sheet(fitted(item("other", mass_g=1, x=300), parts=(single, *WARDEN.parts[2:]))).bay
    assert own is not None and within is not None and within.to_mm - within.from_mm > 136


def test_what_is_left_out_is_said_and_nothing_is_advised_without_a_battery():
    bare = told(WARDEN)
    assert bare.missing == ["battery", "receiver", "motor", "servo"] and bare.plan == [] and bare.grade is None
    assert bare.says.startswith("Cannot be told yet: no battery, receiver, motor or servo entered.")
    glider = told(fitted(*(e for e in FITTED if e.what not in ("motor", "propeller", "controller"))))
    assert glider.missing == ["motor"] and glider.says.startswith("Without motor it ")
    assert told(fitted()).missing == []


def test_the_wanted_margin_makes_the_range():
    sport, trainer = told(fitted()), told(fitted(aim=Aim(manner="trainer")))
    chord, at = sport.neutral.mean_chord_mm, sport.neutral.x_mm.typ
    assert (sport.margin.front_mm, sport.margin.rear_mm) == pytest.approx((at - 0.15 * chord, at - 0.08 * chord))
    assert (trainer.margin.front_mm, trainer.margin.rear_mm) == pytest.approx((at - 0.20 * chord, at - 0.12 * chord))
    assert {m.key: (m.least_percent, m.most_percent) for m in sport.manners}["canard"] == (10, 20)
    own = told(fitted(aim=Aim(least_percent=5, most_percent=6)))
    assert (own.margin.front_mm, own.margin.rear_mm) == pytest.approx((at - 0.06 * chord, at - 0.05 * chord))


def test_every_demo_airframe_has_a_neutral_point_behind_its_quarter_chord_or_at_it():
    for airframe in demo_airframes():
        layout = layout_of(airframe)
        found = neutral_point(layout.surfaces, layout.body)
        wing = layout.surfaces[layout.main].planform
        assert found.x_mm >= wing.centre_mm - 0.02 * wing.mean_chord_mm, airframe.name
        if len(layout.surfaces) > 1:
            assert found.x_mm > wing.centre_mm


def test_the_planned_camera_glider_is_told_to_move_its_battery():
    sheet = told(demo_airframes()[0])
    assert sheet.missing == [] and [r.kind for r in sheet.plan] == ["move"] and sheet.plan[0].item_id == "battery"
    assert "tail-heavy" in sheet.says and sheet.grade == "doubtful"


def test_panels_that_go_on_from_one_another_are_one_wing():
    wing = WARDEN.parts[0].model_copy(update={"hand": "both"})
    end = wing.place.model_copy(
        update={"y_mm": wing.place.y_mm + wing.span_mm, "x_mm": wing.place.x_mm + wing.tip_setback_mm}
    )
    outer = wing.model_copy(update={"id": "outer", "root_chord_mm": wing.tip_chord_mm, "tip_chord_mm": 100.0,
                                    "place": end, "span_mm": 200.0, "tip_setback_mm": 10.0})  # fmt: skip
    layout = layout_of(WARDEN.model_copy(update={"parts": (wing, outer)}))
    assert len(layout.surfaces) == 1 and layout.surfaces[0].planform.span_mm > 2 * (wing.span_mm + 190)
    fin = wing.model_copy(
        update={"id": "fin", "kind": "tail", "place": wing.place.model_copy(update={"dihedral_deg": 90.0})}
    )
    vee = wing.model_copy(
        update={"id": "v", "kind": "tail", "place": wing.place.model_copy(update={"dihedral_deg": 35.0, "x_mm": 800.0})}
    )
    found = layout_of(WARDEN.model_copy(update={"parts": (wing, fin, vee)}))
    assert [s.v_deg for s in found.surfaces] == [0.0, 35.0]


def test_a_test_piece_alone_has_no_balance_and_a_body_alone_has_no_range():
    plank = next(p for p in WARDEN.parts if p.kind == "plank")
    assert balance_sheet(WARDEN.model_copy(update={"parts": (plank,)})) is None
    tail = next(p for p in WARDEN.parts if p.kind == "tail")
    alone = told(WARDEN.model_copy(update={"parts": (tail,), "equipment": (item("battery", mass_g=100, x=800),)}))
    assert alone.neutral is None and "No wing" in alone.says
    boom = next(p for p in WARDEN.parts if p.kind == "fuselage")
    sheet = told(WARDEN.model_copy(update={"parts": (boom,), "equipment": (item("battery", mass_g=100, x=300),)}))
    assert sheet.neutral is None and sheet.margin is None and "No wing" in sheet.says
    only = told(Airframe(name="x", all_up_mass_g=100, equipment=(item("battery", mass_g=100, x=300),)))
    assert only.centre_mm.typ == 300 and only.neutral is None


@pytest.mark.parametrize(
    ("changes", "path", "says"),
    [
        ({"stock": None}, "equipment[0].mass_g", "enter a mass"),
        ({"stock": "battery_9s"}, "equipment[0].stock", "is not a stock item"),
        ({"x_mm": -500}, "equipment[0].x_mm", "ahead of the airframe: at most 300 mm"),
        ({"x_mm": 5000}, "equipment[0].x_mm", "behind the airframe"),
        ({"y_mm": -2000}, "equipment[0].y_mm", "left of the airframe"),
        ({"z_mm": 900}, "equipment[0].z_mm", "above the airframe"),
        ({"from_mm": 300}, "equipment[0].x_mm", "lies outside its room"),
        ({"from_mm": 300, "to_mm": 200}, "equipment[0].to_mm", "must be at least 300 mm"),
    ],
)
def test_what_cannot_be_is_told_by_its_field(changes, path, says):
    battery = item("battery", "battery_3s_2200", 230).model_copy(update=changes)
    found = [(p.path, p.message) for p in check(fitted(battery), reference())]
    assert len(found) == 1 and found[0][0] == path and says in found[0][1], found


def test_margins_the_wrong_way_round_and_two_of_one_name_are_refused():
    wrong = fitted(aim=Aim(least_percent=15, most_percent=8))
    assert [p.path for p in check(wrong, reference())] == ["aim.most_percent"]
    twice = fitted(FITTED[0], FITTED[0])
    assert [p.path for p in check(twice, reference())] == ["equipment[1].id"]


def test_sentences_are_in_the_readers_units():
    with read_in("inch"):
        assert " in" in balance_sheet(fitted()).says and " mm" not in balance_sheet(fitted()).says


def test_a_flying_wing_is_told_its_washout_and_a_foreplane_whether_it_stalls_first():
    wing = next(p for p in WARDEN.parts if p.id == "wing")
    assert told(fitted()).remarks == []
    alone = told(fitted(airframe=WARDEN.model_copy(update={"parts": (wing,)})))
    (need,) = alone.remarks
    assert need.startswith("No tail is entered") and "reflexed section, for washout alone" in need
    swept = wing.model_copy(update={"tip_setback_mm": 400.0})
    aim = Aim(manner="swept_wing")
    (need,) = told(fitted(airframe=WARDEN.model_copy(update={"parts": (swept,), "aim": aim}))).remarks
    assert need.startswith("A flying wing") and "° of washout at the tips" in need
    tail = next(p for p in WARDEN.parts if p.id == "tail")
    fore = tail.model_copy(update={"place": tail.place.model_copy(update={"x_mm": -250.0})})
    duck = WARDEN.model_copy(update={"parts": (wing, fore)})
    aft = (item("battery", "battery_3s_2200", 330), item("motor", "motor_28", 340))
    (first,) = told(fitted(*aft, airframe=duck)).remarks
    assert "that cannot be flown" in first
    ahead = (item("battery", "battery_3s_2200", -200), item("motor", "motor_28", -150))
    (first,) = told(fitted(*ahead, airframe=duck)).remarks
    assert "stalls before the wing, as it must" in first
