"""Sentences with quantities: the reader's units, no more digits than before, ranges whole, nothing rewritten after."""

from __future__ import annotations

import re
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest

import fletcher.core
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.retention import HoldNeed, hold
from fletcher.core.adhesion.selection import glue
from fletcher.core.common.quantities import (
    F0,
    F1,
    G2,
    G3,
    G,
    in_C,
    in_g,
    in_m_s,
    in_mm,
    in_N,
    in_N_mm,
    number,
    of_field,
    quantity,
    read_in,
    units,
)
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.repair.inspection import what_is_left
from fletcher.core.validation.airframe import read


@pytest.mark.parametrize(
    ("write", "value", "form", "metric", "inch"),
    [
        (in_mm, 254, F0, "254 mm", "10 in"), (in_mm, 6, G, "6 mm", "0.2362 in"),
        (in_mm, 12.345, F1, "12.3 mm", "0.486 in"),
        (in_mm, 0, F0, "0 mm", "0 in"), (in_mm, -50.8, G3, "-50.8 mm", "-2 in"),
        (in_mm, 25400, F0, "25400 mm", "1000 in"),
        (in_g, 28.349523, G3, "28.3 g", "1 oz"), (in_N, 44.482216, G2, "44 N", "10 lbf"),
        (in_m_s, 10, G, "10 m/s", "22.37 mph"), (in_N_mm, 112.984829, F0, "113 N·mm", "1 in·lbf"),
        (in_C, 60, G, "60 °C", "140 °F"), (in_C, 0, G, "0 °C", "32 °F"),
    ],
)  # fmt: skip
def test_a_quantity_is_written_for_its_reader(write, value, form, metric, inch):
    assert write(value, form) == metric
    with read_in("inch"):
        assert write(value, form) == inch
    assert write(value, form) == metric  # what one reads is nothing to the next


def test_both_ends_of_a_range_and_areas_are_in_one_unit():
    def between() -> str:
        return f"between {number(2, 'mm', G)} and {in_mm(6, G)}, {quantity(12, 'mm²', G)}"

    assert between() == "between 2 and 6 mm, 12 mm²"
    with read_in("inch"):
        assert between() == "between 0.07874 and 0.2362 in, 0.0186 in²"
        assert quantity(1.7512685, "N/mm", G3) == "10 lbf/in"
        assert quantity(3, "×", G) == "3 ×"  # a unit that is the same for everybody


@pytest.mark.parametrize(
    ("field", "metric", "inch"),
    [
        ("parts[0].span_mm", "5000 mm", "196.9 in"), ("all_up_mass_g", "5000 g", "176.4 oz"),
        ("cases[0].torque_N_mm", "5000 N·mm", "44.25 in·lbf"), ("speed_m_s", "5000 m/s", "11180 mph"),
        ("cases[2].mount_g", "5000 × gravity", "5000 × gravity"), ("knock_g", "5000 × gravity", "5000 × gravity"),
        ("layers[0].root_percent", "5000 %", "5000 %"), ("angle_deg", "5000°", "5000°"),
        ("plies", "5000", "5000"), ("hottest_C", "5000 °C", "9032 °F"),
    ],
)  # fmt: skip
def test_what_is_allowed_in_a_field_is_told_in_the_unit_of_its_name(field, metric, inch):
    assert of_field(5000, field) == metric
    with read_in("inch"):
        assert of_field(5000, field) == inch


def test_a_refusal_of_a_document_is_in_the_readers_units():
    document = demo_airframes()[0].model_dump(mode="json")
    document["parts"][0]["span_mm"] = 9000

    def told() -> str:
        with pytest.raises(InvalidDocument) as refused:
            read(document)
        return refused.value.problems[0].message

    assert told() == "must be between 20 mm and 5000 mm"
    with read_in("inch"):
        assert told() == "must be between 0.7874 in and 196.9 in"
    document["parts"][0]["span_mm"] = 600
    document["parts"][0]["layers"][0]["start_mm"] = 700  # found by the whole part's check, which is kept
    assert "mm" in told()
    with read_in("inch"):
        assert re.search(r"\d in\b", told()) and " mm" not in told()
    assert "mm" in told()


def test_an_estimate_asked_in_turn_by_two_readers_says_each_their_own():
    """Kept answers are kept by the reader's units; figures are the same for both."""
    airframe = next(a for a in demo_airframes() if a.state == "broken")
    part = airframe.parts[0]

    def said() -> tuple[list[str], list[float]]:
        told, left = estimate(airframe, part.id), what_is_left(airframe, part)
        texts = [told.says, *(c.says for c in left.cases), left.says, *(f.sentence for f in told.failures)]
        return texts, [told.breaks_at.typ, told.deflection_mm.typ]

    metric, figures = said()
    with read_in("inch"):
        inch, same = said()
    assert said() == (metric, figures) and same == figures
    names = re.compile(r"rod \d mm")  # what a material is called is the same for everybody
    assert any(" mm" in names.sub("", t) for t in metric)
    assert not any(re.search(r"\d (mm|g|N|m/s)\b(?!/)", names.sub("", t)) for t in inch)


def test_readers_in_threads_do_not_meet():
    def asked(wanted: str) -> str:
        with read_in(wanted):
            return f"{units()} {in_mm(25.4, G)}"

    with ThreadPoolExecutor(4) as pool:
        found = list(pool.map(asked, ["inch", "metric"] * 20))
    assert found == ["inch 1 in", "metric 25.4 mm"] * 20


def test_a_field_that_ends_in_g_is_a_mass_or_a_known_multiple_of_gravity():
    """Every field of a document or a wish that ends in _g says grams or is named as a load factor."""
    masses = {"mass_g", "all_up_mass_g", "end_mass_g", "weight_g", "weighed_g", "added_g"}
    source = Path(fletcher.core.__file__).parent
    asked = {m for p in source.rglob("*.py") for m in re.findall(r"^    (\w+_g): Annotated", p.read_text(), re.M)}
    factors = {f for f in asked if of_field(1, f) == "1 × gravity"}
    assert factors == {"mount_g", "pull_up_g", "knock_g"} and asked - factors <= masses


def test_load_factors_are_no_mass_and_what_follows_a_quantity_is_in_its_unit():
    need = HoldNeed()
    with read_in("inch"):
        said = hold(need, reference()).says
    assert "× gravity forward" in said and " oz" not in said and hold(need, reference()).says == said
    with read_in("inch"):
        rows = [c.why_not for c in glue(GlueNeed(heat_C=90, workshop_C=2, schools={}), reference()).choices]
    assert any("°F" in r for r in rows)
    for text in rows:
        for low, high, limit in re.findall(r"cures from (\S+) to (\S+) °F, not at (\S+)", text):
            assert float(limit.rstrip(".;")) == pytest.approx(35.6) and float(low) < float(high)
