"""What tests teach of real parts: agreement narrows, order and removal leave no trace, nothing else is touched."""

from __future__ import annotations

import math

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.report import estimate, read_at
from fletcher.core.rig.readings import Step, crept
from fletcher.core.rig.response import response
from fletcher.core.rig.rig_report import rig_report
from fletcher.core.rig.rig_table import read_rig_csv, rig_csv
from fletcher.core.rig.rig_tests import RigReading, RigTest, load_of, problems_of
from fletcher.core.rig.teaching import lessons, taught

FLEET = demo_airframes()
REED = FLEET[0]


def case_of(part_id: str, case_id: str = "bench", airframe: Airframe = REED):
    part = airframe.part(part_id)
    return part, next(c for c in part.cases if c.id == case_id)


def made(part_id: str, times: float = 1.0, *, key: str = "t", case_id: str = "bench", **more) -> RigTest:
    """A test whose readings creep as the model has it, so many times what is expected."""
    _, case = case_of(part_id, case_id)
    whole = load_of(case)
    compliance = times * estimate(REED, part_id, case_id).deflection_mm.typ / whole
    steps = [Step(0.5 * whole * n / 5, 60.0 * n) for n in range(6)]
    readings = tuple(
        RigReading(load_N=s.load_N, at_s=s.from_s + 10, bend_mm=compliance * crept(steps, s.from_s + 10, 0.04))
        for s in steps
    )
    return RigTest(id=key, part_id=part_id, case_id=case_id, instrument="dial_gauge", readings=readings, **more)


def spread(b) -> float:
    return math.log(b.high / b.low)


def told(part_id: str, *tests: RigTest, case_id: str = "bench"):
    part = taught(REED, tests, REED.part(part_id))
    changed = REED.model_copy(update={"parts": tuple(part if p.id == part_id else p for p in REED.parts)})
    return estimate(changed, part_id, case_id, brief=True)


def test_a_response_is_what_the_beam_says_of_stiffer_foam():
    part, case = case_of("plank")
    f = response(REED, part, case, "bend")
    a = analyse(REED, part, case)
    assert f.at_rest == pytest.approx(math.log(abs(a.deflection[0, read_at(a)])), abs=1e-9)
    assert {stream for stream, _ in f.rows} == {"foam/xps_30"}
    assert all(f.slope[n] < 0 for n, (_, row) in enumerate(f.rows) if row < 3)
    breaks = response(REED, part, case, "break")
    assert all(v > 0 for v in breaks.slope) and any(row == 3 for _, row in breaks.rows)


@pytest.mark.parametrize("part_id", ["plank", "wing"])
def test_a_test_that_agrees_narrows_and_does_not_move(part_id):
    before, after = told(part_id), told(part_id, made(part_id))
    old, new = before.deflection_mm, after.deflection_mm
    assert spread(new) < 0.8 * spread(old)
    moved = abs(math.log(new.typ / old.typ))
    assert moved < 0.15 * 0.5 * spread(old)


def test_a_softer_reading_bends_more_and_breaks_no_later():
    soft, stiff = told("plank", made("plank", 1.25)), told("plank", made("plank", 0.8))
    assert soft.deflection_mm.typ > 1.2 * stiff.deflection_mm.typ
    assert soft.verdict.margin.typ < stiff.verdict.margin.typ  # stiffer foam is stronger foam


def test_order_and_removal_leave_no_trace():
    one, other = made("plank", 1.1, key="a"), made("wing", 0.9, key="b")
    first, second = lessons(REED, (one, other)), lessons(REED, (other, one))
    assert (first.found.mean == second.found.mean).all() and first.slips == second.slips
    assert taught(REED, (), REED.part("wing")) is REED.part("wing")
    alone = told("plank", one)
    told("plank", one, other)
    assert told("plank", one) == alone
    assert estimate(REED, "plank", brief=True) == told("plank", case_id=REED.part("plank").cases[0].id)


def test_a_part_that_shares_nothing_is_not_touched():
    assert taught(REED, (made("plank"),), REED.part("wing")) is REED.part("wing")
    assert taught(REED, (made("plank"),), REED.part("plank")) is not REED.part("plank")


def test_another_piece_of_the_batch_learns_less_than_the_one_that_was_tested():
    """A second plank of the same board."""
    twin = REED.part("plank").model_copy(update={"id": "twin"})
    airframe = REED.model_copy(update={"parts": (*REED.parts, twin)})
    tests = (made("plank", 1.2),)
    own, other = (
        estimate(airframe.model_copy(update={"parts": tuple(
            taught(airframe, tests, p) if p.id == name else p for p in airframe.parts)}), name, "bench", brief=True)
        for name in ("plank", "twin")
    )  # fmt: skip
    bare = estimate(airframe, "twin", "bench", brief=True).deflection_mm
    assert spread(own.deflection_mm) < spread(other.deflection_mm) < spread(bare)


def test_a_slip_of_the_decimal_point_is_seen_and_loses_its_pull():
    wrong = made("plank", 10.0)
    known = lessons(REED, (wrong,))
    assert known.slips[0] > 0.95
    report = rig_report(REED, (wrong,))
    assert not report.tests[0].inside and "does not count until you say so" in report.tests[0].says
    left_out = told("plank", wrong.model_copy(update={"answer": "slip"}))
    assert left_out.deflection_mm == told("plank").deflection_mm
    real = told("plank", made("plank", 1.6, answer="real")).deflection_mm
    assert real.typ > told("plank", made("plank", 1.6)).deflection_mm.typ


def test_what_held_and_what_broke_move_the_margin():
    bare = told("plank").verdict.margin
    whole = load_of(case_of("plank")[1])
    held = told("plank", RigTest(id="h", part_id="plank", case_id="bench", held_N=1.8 * whole)).verdict.margin
    broke = told("plank", RigTest(id="b", part_id="plank", case_id="bench", held_N=1.1 * whole,
                                  broke_N=1.2 * whole)).verdict.margin  # fmt: skip
    assert broke.typ < bare.typ < held.typ and held.low > bare.low
    little = told("plank", RigTest(id="l", part_id="plank", case_id="bench", held_N=0.3 * whole)).verdict.margin
    assert little.typ == pytest.approx(bare.typ, rel=0.03)


def test_the_report_tells_before_and_after():
    report = rig_report(REED, (made("plank", 1.1),))
    assert report.says == "1 of 1 readings inside what was expected."
    assert any(m.key == "xps_30" and m.property == "E pulled" and m.surer > 1.5 for m in report.materials)
    changed = {p.part_id for p in report.parts if p.changed}
    assert changed == {"plank"} and next(p for p in report.parts if p.part_id == "wing").margin_before
    gone = made("plank").model_copy(update={"part_id": "gone"})
    assert rig_report(REED, (gone,)).refused == ["Test t: its part or case is no longer there."]


def test_a_table_is_read_as_it_is_written():
    tests = (made("plank", key="a"), RigTest(id="b", part_id="wing", case_id="bench", held_N=5.0, broke_N=6.0))
    again = read_rig_csv(rig_csv(tests))
    assert [t.model_dump(exclude={"readings"}) for t in again] == [t.model_dump(exclude={"readings"}) for t in tests]
    assert [r.bend_mm for r in again[0].readings] == pytest.approx([r.bend_mm for r in tests[0].readings], rel=1e-8)
    grams = read_rig_csv("test,part,case,load g,time min,bend mm\nx,plank,bench,100,1,2\nx,plank,bench,200,2,4\n")
    assert grams[0].readings[0].load_N == pytest.approx(0.980665) and grams[0].readings[1].at_s == 120


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("test,part,case,load N,time s,bend mm\nx,plank,bench,two,1,2\n", "line 2, load_N: is no number"),
        ("test,part,load N\nx,plank,2\n", "lacks the heading “case”"),
        ("test,part,case,load N,time s,bend mm\nx,plank,bench,2,1,\n", "line 2: a reading lacks bend_mm"),
        ("test,part,case,held N\nx,plank,bench,2\nx,wing,bench,2\n", "says otherwise than an earlier line"),
        ("test,part,case,held N\nx,plank,bench,-2\n", "must be more than 0 N"),
    ],
)
def test_what_is_wrong_with_a_table_is_named(text, says):
    with pytest.raises(InvalidDocument) as refused:
        read_rig_csv(text)
    assert any(says in f"{p.path}: {p.message}" for p in refused.value.problems), refused.value.problems


def test_what_cannot_be_is_named_at_its_test():
    wing = made("plank").model_copy(update={"part_id": "wing", "case_id": "pull-up"})
    broken = made("plank", key="c", broke_N=0.5)
    tests = (made("plank"), made("plank"), wing, broken, RigTest(id="e", part_id="none", case_id="x"),
             RigTest(id="f", part_id="plank", case_id="bench"),
             RigTest(id="g", part_id="plank", case_id="bench", held_N=5, broke_N=4))  # fmt: skip
    found = {p.path: p.message for p in problems_of(REED, tests)}
    assert "twice" in found["tests[1].id"] and "no test of" in found["tests[2].case_id"]
    assert "had broken" in found["tests[3].readings"] and "no part" in found["tests[4].part_id"]
    assert "needs readings" in found["tests[5].readings"] and "must lie above" in found["tests[6].broke_N"]
