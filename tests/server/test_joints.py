"""The glue chooser through the API: the core's answer, refusals with their field."""

from __future__ import annotations

import pytest

from fletcher.core.adhesion.glue_table import TableWish, glue_table
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import glue
from fletcher.core.joints.hinges import HingeNeed, hinge
from fletcher.core.materials.tables import reference


def test_the_ranking_is_the_cores(ann):
    need = {"one": "epp_30", "other": "composite", "width_mm": 5, "hold_N": 40, "schools": {"hot_glue_use": "other"}}
    assert ann.send("POST", "joints/glue", need) == (200, glue(GlueNeed(**need), reference()).model_dump(mode="json"))


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"one": "unobtainium"}, "one"),
        ({"loaded": "sideways"}, "loaded"),
        ({"area_cm2": -1}, "area_cm2"),
        ({"area_cm2": "NaN"}, "area_cm2"),
        ({"hold_N": 1e12}, "hold_N"),
        ({"within_min": 0}, "within_min"),
        ({"one": "metal", "other": "film"}, "other"),
        ({"schools": {"moon": "one"}}, "schools.moon"),
        ({"schools": {"hot_glue_use": "both"}}, "hot_glue_use"),
        ({"colour": "red"}, "colour"),
    ],
)
def test_a_need_that_cannot_be_is_refused_by_its_field(ann, change, path):
    status, told = ann.send("POST", "joints/glue", change)
    assert status == 422
    assert told["problems"][0]["path"].endswith(path)


def test_schools_come_with_both_arguments(ann):
    status, found = ann.send("GET", "joints/schools")
    assert status == 200 and len(found) >= 8
    for school in found:
        assert school["one_argument"] and school["other_argument"] and school["settles"] and school["default"]


def test_hinges_are_the_cores_and_a_wrong_need_is_refused(ann):
    need = {"made_of": "xps_30", "line": "centre", "bevel_deg": 30}
    assert ann.send("POST", "joints/hinge", need) == (
        200,
        hinge(HingeNeed(**need), reference()).model_dump(mode="json"),
    )
    for change, path in (({"made_of": "x"}, "made_of"), ({"servo": "x"}, "servo"), ({"up_deg": 1e6}, "up_deg")):
        status, told = ann.send("POST", "joints/hinge", change)
        assert (status, told["problems"][0]["path"].split(".")[-1]) == (422, path)


def test_the_glue_table_is_told_and_refused_by_its_place(ann):
    wish = {"glues": ["epoxy_5min"], "pairs": [{"one": "epp_30", "other": "wood"}], "minutes": [10, 60]}
    status, told = ann.send("POST", "joints/glue-table", wish)
    assert (status, told) == (200, glue_table(TableWish(**wish), reference()).model_dump(mode="json"))
    for changes, path in (
        ({"minutes": [10, 20, 30, 40, 50]}, "minutes"),
        ({"pairs": []}, "pairs"),
        ({"glues": ["spit"]}, "glues[0]"),
    ):
        status, refused = ann.send("POST", "joints/glue-table", wish | changes)
        assert status == 422 and refused["problems"][0]["path"].endswith(path)
