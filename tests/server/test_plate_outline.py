"""Outlines of plates over the interface: corners out, corners in, and words for what is no outline."""

from __future__ import annotations

import pytest

from tests.core.studies.test_plate_outline import NOTCHED, PLATE

PART = PLATE.parts[0].model_dump(mode="json")


def test_corners_of_a_plate_and_another_outline(ann):
    status, told = ann.send("POST", "studies/plate-corners", {"part": PART})
    assert status == 200 and told["corners"] == [[0, 0], [0, 500], [100, 500], [100, 0]]
    status, found = ann.send("POST", "studies/plate-outline", {"part": PART, "corners": NOTCHED})
    assert status == 200 and found["span_mm"] == 400
    assert [(c["face"], c["start_mm"], c["end_mm"]) for c in found["cuts"]] == [
        ("front", 150, 200), ("front", 200, None), ("rear", 0, 80), ("rear", 350, None),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("corners", "path"),
    [([[0, 0], [100, 0]], "corners"), ([[0, 0], ["x", 1], [2, 3]], "corners[1][0]"), ([[0, 0]] * 61, "corners"),
     ([[0, 0], [1e9, 1], [2, 3]], "corners[1][0]")],
)  # fmt: skip
def test_what_is_no_outline_is_a_422_with_its_place(ann, corners, path):
    status, refused = ann.send("POST", "studies/plate-outline", {"part": PART, "corners": corners})
    assert status == 422 and refused["problems"][0]["path"].endswith(path)
