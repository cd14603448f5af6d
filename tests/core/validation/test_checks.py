"""Bad input: every problem names its path and what is allowed; nothing gets through."""

from __future__ import annotations

import copy
import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.estimate.report import estimate
from fletcher.core.validation.airframe import parse_json, read

GOOD = demo_airframes()[0].model_dump(mode="json")


def spoiled(path: str, value: Any) -> dict[str, Any]:
    document = copy.deepcopy(GOOD)
    at: Any = document
    *steps, last = path.replace("]", "").replace("[", ".").split(".")
    for step in steps:
        at = at[int(step)] if step.isdigit() else at[step]
    at[int(last) if last.isdigit() else last] = value
    return document


def problems(document: Any) -> list[tuple[str, str]]:
    with pytest.raises(InvalidDocument) as caught:
        read(document)
    return [(p.path, p.message) for p in caught.value.problems]


@pytest.mark.parametrize(
    ("path", "value", "named", "says"),
    [
        ("parts[0].tip_chord_mm", 0, "parts[0].tip_chord_mm", "between 5 mm and 2000 mm"),
        ("parts[0].root_thickness_mm", -3, "parts[0].root_thickness_mm", "between 0.5 mm and 400 mm"),
        ("parts[0].root_thickness_mm", 120, "parts[0].root_thickness_mm", "at most 72"),
        ("parts[0].span_mm", 1e9, "parts[0].span_mm", "between 20 mm and 5000 mm"),
        ("parts[0].span_mm", float("nan"), "parts[0].span_mm", "finite number"),
        ("parts[0].span_mm", float("inf"), "parts[0].span_mm", "finite number"),
        ("parts[0].span_mm", "600 mm", "parts[0].span_mm", "number"),
        ("parts[0].foam", "epp_31", "parts[0].foam", "did you mean 'epp_30'"),
        ("parts[0].layers[0].stock", "gold_bar", "parts[0].layers[0].stock", "not a bar"),
        ("parts[0].layers[0].end_mm", 700, "parts[0].layers[0].end_mm", "at most 600"),
        ("parts[0].layers[0].start_mm", 480, "parts[0].layers[0].start_mm", "before the end"),
        ("parts[0].layers[0].root_percent", 100, "parts[0].layers[0].root_percent", "outside the foam"),
        ("parts[0].layers[0].cover_mm", 40, "parts[0].layers[0].cover_mm", "out of the foam"),
        ("parts[0].layers[0].cover_mm", 9, "parts[0].layers[0].cover_mm", "meet"),
        ("parts[0].layers[0].stock", "carbon_rw_12_10", "parts[0].layers[0].cover_mm", "meet"),
        ("parts[0].layers[1].width_mm", 130, "parts[0].layers[1].width_mm", "over the edge"),
        ("parts[0].layers[1].width_mm", -1, "parts[0].layers[1].width_mm", "at least 0.5"),
        ("parts[0].layers[1].plies", 2.5, "parts[0].layers[1].plies", "whole number"),
        ("parts[0].layers[1].id", "spar", "parts[0].layers[1].id", "twice"),
        ("parts[0].layers[1].type", "rope", "parts[0].layers[1]", "one of"),
        ("parts[0].layers[1].colour", "red", "parts[0].layers[1].colour", "not a known field"),
        ("parts[0].cases[1].second_support_mm", 61, "parts[0].cases[1].first_support_mm", "20 mm apart"),
        ("parts[0].cases[1].second_support_mm", 900, "parts[0].cases[1].second_support_mm", "at most 600"),
        ("parts[0].cases", [], "parts[0].cases", "too short"),
        ("name", "\x00", "name", "not allowed"),
        ("all_up_mass_g", None, "all_up_mass_g", "number"),
        ("version", 7, "version", "it reads 1 and 2"),
    ],
)
def test_each_fault_is_named(path, value, named, says):
    found = problems(spoiled(path, value))
    assert any(p == named and says in message for p, message in found), found


def test_a_tip_tapered_to_nothing_is_refused_in_words():
    document = spoiled("parts[0].tip_chord_mm", 8)
    document["parts"][0]["tip_thickness_mm"] = 3
    assert any("20 : 1" in message for _, message in problems(document))


def test_bars_of_two_lines_in_one_place_are_refused():
    document = copy.deepcopy(GOOD)
    layers = document["parts"][0]["layers"]
    layers.append({**layers[0], "id": "again"})
    assert any(p == "parts[0].layers[3].root_percent" and "item 1" in m for p, m in problems(document))


def test_all_problems_are_told_at_once():
    document = spoiled("parts[0].foam", "nothing")
    document["parts"][0]["layers"][0]["end_mm"] = 9000
    document["parts"][1]["span_mm"] = -1
    assert {p for p, _ in problems(document)} == {"parts[0].layers[0].end_mm", "parts[1].span_mm"}
    document["parts"][0]["layers"][0]["end_mm"] = 900
    document["parts"][1]["span_mm"] = 500
    assert {p for p, _ in problems(document)} == {"parts[0].foam", "parts[0].layers[0].end_mm"}


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ('{"name": "x",\n "parts": [}', "line 2"),
        ("", "line 1"),
        ("[" * 100_000, "nested too deeply"),
        (b"\xff\xfe{}", "JSON"),
        (" " * 600_000, "too large"),
    ],
)
def test_torn_files_are_refused(text, says):
    with pytest.raises(InvalidDocument, match=says) as caught:
        parse_json(text)
    assert len(caught.value.problems) == 1


@pytest.mark.parametrize("data", [None, [], 3, "text", {"parts": 1}, {}])
def test_what_is_no_document_is_refused(data):
    assert problems(data)


JSON = st.recursive(
    st.none() | st.booleans() | st.floats() | st.integers() | st.text(max_size=5),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=5), inner, max_size=3),
    max_leaves=6,
)
PATHS = [
    f"parts[0].{key}"
    for key in ("span_mm", "root_chord_mm", "tip_chord_mm", "tip_setback_mm", "root_thickness_mm", "tip_thickness_mm",
                "section", "layers[0]", "layers[0].cover_mm", "layers[0].root_percent", "layers[0].start_mm",
                "layers[0].end_mm", "layers[1].width_mm", "layers[1].tip_percent", "cases[1].first_support_mm",
                "cases[1].second_support_mm", "cases[1].weight_g")
]  # fmt: skip


@settings(max_examples=150, deadline=None)
@given(st.sampled_from(PATHS), JSON | st.floats(-1000, 3000) | st.floats(0, 30))
def test_whatever_is_put_in_is_either_refused_or_estimated(path, value):
    """A document that passes the checks gives finite results; any other is refused by path."""
    document = spoiled(path, value)
    try:
        airframe = read(document)
    except InvalidDocument as invalid:
        assert all(p.path for p in invalid.problems)
        return
    result = estimate(airframe, "wing", "bench")
    json.dumps(result.model_dump(), allow_nan=False)
    assert result.breaks_at.typ > 0


def test_bars_that_cross_between_their_ends_are_refused_where_they_do():
    from fletcher.core.document.airframe import Airframe, BarLayer
    from fletcher.core.materials.tables import reference
    from tests.core.factories import plank

    one = BarLayer(id="a", stock="carbon_rod_2", place="middle", root_percent=20, tip_percent=60)
    other = BarLayer(id="b", stock="carbon_strip_3x0.5", place="middle", on_edge=True, root_percent=35, tip_percent=35)
    part = plank(reference().foams["xps_30"], one, other)
    with pytest.raises(InvalidDocument) as refused:
        read(Airframe(name="x", all_up_mass_g=900, parts=(part,)).model_dump(mode="json"))
    assert "in the same place 1" in refused.value.problems[0].message  # they cross 188 mm out
