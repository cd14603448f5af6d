"""What of the structure could be lighter: promises kept, nothing weakened below what is needed, nothing in vain."""

from __future__ import annotations

import pytest

from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe, Place
from fletcher.core.document.equipment import Equipment
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.lighter_parts import _longest_free, lighter_parts
from fletcher.core.studies.what_if import without
from fletcher.core.validation.airframe import check


def placed(key: str, part_id: str, x_mm: float, **more):
    part = CONSTRUCTIONS[key].part()
    return part.model_copy(update={"id": part_id, "name": part_id, "place": Place(x_mm=x_mm), **more})


def airframe(battery_mm: float, tail: str = "tail_plate", top_speed_m_s: float = 12.0) -> Airframe:
    parts = (
        placed("bead_wing", "wing", 300.0),
        placed(tail, "tail", 950.0),
        placed("box_fuselage", "rear", 430.0),
    )
    battery = Equipment(id="b", what="battery", stock="battery_3s_1300", x_mm=battery_mm)
    made = Airframe(
        name="x", all_up_mass_g=700, top_speed_m_s=top_speed_m_s, parts=parts, equipment=(battery,)
    )  # fmt: skip
    assert list(check(made, reference())) == []
    return made


HEAVY = airframe(330.0)


@pytest.fixture(scope="module")
def ways():
    return lighter_parts(HEAVY)


def test_what_is_promised_is_what_the_balance_then_says(ways):
    before = balance_sheet(HEAVY)
    assert before.centre_mm.typ > before.margin.rear_mm and len(ways) >= 4
    for w in ways:
        after = balance_sheet(HEAVY.model_copy(update={
            "parts": tuple(w.part if p.id == w.part.id else p for p in HEAVY.parts)
        }))  # fmt: skip
        assert after.centre_mm.typ == pytest.approx(w.centre_mm, abs=1e-9) and w.centre_mm < before.centre_mm.typ
        assert after.mass_g.typ - before.mass_g.typ == pytest.approx(w.grams) and w.grams < 0
        # what is missing, in g·mm, is the mass times how far its centre lies behind the target
        then, now = (
            s.mass_g.typ * (s.centre_mm.typ - before.margin.target_mm) for s in (after, before)
        )  # fmt: skip
        assert w.gives_percent == pytest.approx(100 * (1 - then / now))


def test_nothing_is_advised_that_moves_the_centre_the_wrong_way():
    """What lies between target and centre weighs on the tail, and yet without it the centre lies further aft."""
    for battery in (150.0, 210.0, 270.0, 330.0):
        made = airframe(battery, top_speed_m_s=6.0)
        sheet = balance_sheet(made)
        off = abs(sheet.centre_mm.typ - sheet.margin.target_mm)
        assert all(abs(w.centre_mm - sheet.margin.target_mm) < off for w in lighter_parts(made))
    demo = demo_airframes()[0].model_copy(update={"top_speed_m_s": 6.0})
    sheet = balance_sheet(demo)
    wing = next(p for p in demo.parts if p.kind == "wing")
    bare = demo.model_copy(update={"parts": tuple(
        without(p, "film") if p is wing else p for p in demo.parts
    )})  # fmt: skip
    assert balance_sheet(bare).centre_mm.typ > sheet.centre_mm.typ > sheet.margin.rear_mm  # lighter, and further aft
    assert not any(w.part.id == wing.id for w in lighter_parts(demo))


def test_what_is_advised_still_holds_and_what_is_refused_says_why(ways):
    for w in ways:
        made = HEAVY.model_copy(update={"parts": tuple(w.part if p.id == w.part.id else p for p in HEAVY.parts)})
        assert list(check(made, reference())) == []
        least = min((v for v in estimate(made, w.part.id).verdicts if v.counts), key=lambda v: v.margin.low)
        assert w.margin == least.margin
        if w.enough:
            assert w.margin.low >= min(1.0, w.margin_before.low)
        else:
            assert "Too weak under" in w.loses or "divergence" in w.loses or "reverse" in w.loses
    enough = [w.enough for w in ways]
    assert enough == sorted(enough, reverse=True)


def test_an_opened_belly_tells_its_torsion_and_leaves_the_hatch_alone(ways):
    opened = next(w for w in ways if w.loss == "opened")
    assert opened.torsion_percent < 50 and f"{opened.torsion_percent:.0f} % of its torsional" in opened.loses
    hatch, cut = (la for la in opened.part.layers if la.type == "cut")
    assert cut.start_mm >= hatch.end_mm + 25 or cut.end_mm <= hatch.start_mm - 25
    assert cut.end_mm <= opened.part.span_mm


def test_the_longest_stretch_between_openings_is_taken():
    rear = HEAVY.parts[2]  # 520 long, its hatch from 30 to 130 mm or so
    hatch = next(la for la in rear.layers if la.type == "cut")
    assert _longest_free(rear, 0.0) == (hatch.end_mm + 25, pytest.approx(0.95 * rear.span_mm))
    assert _longest_free(rear, 400.0) == (400.0, pytest.approx(0.95 * rear.span_mm))
    start, end = _longest_free(rear, rear.span_mm)
    assert end <= start


def test_paper_is_peeled_where_it_can_be_and_never_from_a_part_that_then_folds():
    found = [w for w in lighter_parts(airframe(330.0, "board_tail")) if w.loss == "peeled"]
    assert found and all(not w.enough or w.margin.low >= min(1.0, w.margin_before.low) for w in found)
    assert {w.part.id for w in found} <= {"tail", "rear"}


def test_a_fast_airframe_keeps_the_tape_that_a_slow_one_may_do_without():
    def tape(speed: float):
        return [w for w in lighter_parts(airframe(330.0, top_speed_m_s=speed)) if w.loss == "left_out"
                and w.part.id == "tail"]  # fmt: skip

    slow, fast = tape(6.0), tape(40.0)
    assert slow and all(w.enough for w in slow)
    assert fast and not any(w.enough for w in fast)


def test_what_is_in_its_range_or_unknown_is_left_alone():
    sheet = balance_sheet(HEAVY)
    battery = next(x.grams.typ for x in sheet.lines if x.item_id)
    forward = sheet.mass_g.typ * (sheet.centre_mm.typ - sheet.margin.target_mm) / battery
    right = airframe(330.0 - forward)
    assert balance_sheet(right).centre_mm.typ == pytest.approx(sheet.margin.target_mm, abs=0.01)
    assert lighter_parts(right) == []
    assert lighter_parts(HEAVY.model_copy(update={"equipment": ()})) == []
