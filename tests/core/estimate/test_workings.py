"""Every figure carries a working that a program can read, for every kind of case."""

from __future__ import annotations

import math

import pytest

from fletcher.cli import describe
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.cases import ControlRun
from fletcher.core.document.defaults import CASES, SUITS, default_case
from fletcher.core.estimate.report import estimate
from fletcher.core.studies.constructions import CONSTRUCTIONS

BUILT = {"wing": "bead_wing", "tail": "tail_plate", "surface": "control_surface", "fuselage": "box_fuselage"}


def with_case(kind):
    """An estimate of a kind of case, on the first kind of part that knows it."""
    way = next(BUILT[part] for part, kinds in SUITS.items() if kind in kinds)
    part = CONSTRUCTIONS[way].part()
    airframe = Airframe(name="x", all_up_mass_g=900, parts=(part,))
    case = default_case(kind, airframe, part)
    part = part.model_copy(update={"cases": (*part.cases, case)})
    return estimate(airframe.model_copy(update={"parts": (part,)}), part.id, case.id)


@pytest.fixture(scope="module", params=list(CASES))
def result(request):
    return with_case(request.param)


def test_every_figure_shown_has_a_working(result):
    shown = {"mass", "added", "bend", "shares", "section", "balance", "cost", "hours"} | {
        f.figure for f in result.failures
    }
    if result.twist_deg:
        shown |= {"twist"}
    if result.snaps:
        shown |= {"snap", "toughness", "dents"}
    if result.warp:
        shown |= {"warp"}
    if result.control:
        shown |= {"control"}
    if result.shakes:
        shown |= {"flap_Hz", "edge_Hz", "twist_Hz", "divergence_m_s"}
    assert {w.figure for w in result.workings} == shown
    for w in result.workings:
        assert w.formula_id and w.explanation and w.assumptions and (w.formula or w.formula_id.endswith(".nothing"))
        assert all(math.isfinite(s.value) and (s.meaning or s.symbol) for s in w.symbols)
    assert len({w.figure for w in result.workings}) == len(result.workings)
    assert {s.grade for s in result.sources} <= {"A", "B", "C"}


def test_the_working_of_the_margin_leads_to_the_margin(result):
    working = next(w for w in result.workings if w.figure == "breaks_at")
    symbols = {s.symbol: s.value for s in working.symbols}
    assert symbols["λ"] == pytest.approx(result.breaks_at.typ, rel=1e-6)
    assert symbols["λ"] * symbols["1/λ"] == pytest.approx(100, rel=1e-6)
    assert working.formula_id == f"comes_at.{result.first.kind}"
    assert symbols["y"] == pytest.approx(result.first.at_mm)


def test_first_to_give_and_the_order_agree(result):
    holds = [f.comes_at.typ for f in result.failures]
    assert holds == sorted(holds)
    assert result.first in result.failures and result.first.figure == "breaks_at"
    assert result.breaks_at.typ == pytest.approx(result.first.comes_at.typ, rel=1e-9)
    assert all(f.sentence[0].isupper() and "{" not in f.sentence for f in result.failures)


def test_bands_hold_the_typical_value_and_name_their_causes(result):
    for band in (result.mass_g, result.added_g, result.deflection_mm, result.breaks_at):
        assert band.low <= band.typ <= band.high
        if band.high > 1.05 * band.low > 0:
            assert band.causes and len(band.causes) <= 2


def test_the_command_line_tells_the_same_and_explains(result):
    short, long = describe(result, "x"), describe(result, "x", explain=True)
    assert long.startswith(short)
    assert result.first.sentence in short and result.says in short
    for w in result.workings:
        assert w.formula in long and w.formula_id in long
    for v in result.verdicts:
        assert v.name in short


def test_a_control_run_has_a_working_that_leads_to_its_buckling_load():
    part = CONSTRUCTIONS["control_surface"].part()
    run = ControlRun(rod="music_wire_1.5", length_mm=200, support_mm=100)
    part = part.model_copy(update={"cases": (part.cases[0].model_copy(update={"run": run}),)})
    result = estimate(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part.id)
    working = next(w for w in result.workings if w.figure == "run")
    symbols = {s.symbol: s.value for s in working.symbols}
    assert symbols["P_cr"] == pytest.approx(math.pi**2 * symbols["EI"] / symbols["L_s"] ** 2, rel=1e-9)
    assert symbols["P_cr"] == pytest.approx(result.control.run.buckles_N.typ)


def test_at_most_three_assumptions_are_told_and_they_are_those_of_the_part():
    told = {}
    for key, way in CONSTRUCTIONS.items():
        part = way.part()
        airframe = Airframe(name="x", all_up_mass_g=way.all_up_mass_g, parts=(part,))
        for case in part.cases:
            told[key, case.type] = estimate(airframe, part.id, case.id).assumptions
    assert all(1 <= len(texts) <= 3 and len(set(texts)) == len(texts) for texts in told.values())
    hollow = {key for (key, _), texts in told.items() if any("hollow" in t for t in texts)}
    assert hollow == {key for key, way in CONSTRUCTIONS.items() if way.foam is None}
    assert not any("Twist" in t for t in told["plank", "three_point"])
    assert any("glue under a spar" in t for t in told["bead_wing", "pull_up"])
