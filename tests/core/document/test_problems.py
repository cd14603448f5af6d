"""What is told of a document that cannot be: the field, what is allowed, what was found, and no more than is read."""

from __future__ import annotations

import pytest
from pydantic import ValidationError

from fletcher.core.document.airframe import Airframe
from fletcher.core.document.problems import MOST_TOLD, from_validation, shown


@pytest.mark.parametrize(
    ("value", "told"),
    [
        ("a" * 58, f"'{'a' * 58}'"),
        ("a" * 59, f"'{'a' * 56}..."),
        (3.5, "3.5"),
        ([1], ""),
        ({"a": 1}, ""),
        (None, "None"),
    ],
)
def test_what_was_found_is_told_in_short(value, told):
    assert shown(value) == told and len(shown(value)) <= 60


def problems(document: dict) -> dict[str, str]:
    with pytest.raises(ValidationError) as found:
        Airframe.model_validate(document)
    return {p.path: p.message for p in from_validation(found.value)}


def test_choices_are_named():
    told = problems({"name": "x", "all_up_mass_g": 900, "state": "gone", "parts": [{"layers": [{"type": "rope"}]}]})
    assert "'building', 'flying' or 'broken'" in told["state"]
    assert told["parts[0].layers[0]"].startswith("must be one of") and "'strip'" in told["parts[0].layers[0]"]


def test_no_more_than_fifty_are_told():
    layers = [{"type": "bar", "one": 1, "two": 2, "three": 3} for _ in range(20)]
    told = problems({"name": "x", "all_up_mass_g": 900, "parts": [{"layers": layers}]})
    assert len(told) == MOST_TOLD + 1 and told[""].startswith(f"has more than {MOST_TOLD} faults")
