"""The studies through the API: the core's answers, refusals with their field, nothing stored."""

from __future__ import annotations

import copy
import json

import pytest

from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.balance import whole
from fletcher.core.making.making import making
from fletcher.core.materials.tables import reference
from fletcher.core.repair.inspection import Crash, inspect, what_is_left
from fletcher.core.studies.break_first import CorridorWish, corridor
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.detail_wishes import DetailWish
from fletcher.core.studies.details import detail
from fletcher.core.studies.joint_sheet import joint_sheets
from fletcher.core.studies.line_worth import worth
from fletcher.core.studies.load_limits import reach
from fletcher.core.studies.openings import openings
from fletcher.core.studies.tolerances import exactness
from fletcher.server.airframes.models import Revision

STUDIES = (
    *(f"studies/{n}" for n in ("worth", "exactness", "reach", "making", "openings", "joints")),
    "crash/left",
)
WISHES = {"studies/corridor": {}, "studies/detail": {"detail": {"kind": "bracket"}}}


@pytest.fixture
def study(document):
    return {"document": document, "part_id": "wing", "case_id": "pull-up"}


def plain(results):
    return [r.model_dump(mode="json") for r in results]


def test_studies_say_what_the_core_says_and_store_nothing(ann, study):
    airframe = Airframe.model_validate(study["document"])
    part = airframe.parts[0]
    assert ann.send("POST", "studies/worth", study) == (200, plain(worth(airframe, part, "pull-up")))
    assert ann.send("POST", "studies/exactness", study) == (200, plain(exactness(airframe, part, "pull-up")))
    assert ann.send("POST", "studies/reach", study) == (200, reach(airframe, part).model_dump(mode="json"))
    assert ann.send("POST", "studies/whole", {"document": study["document"]}) == (
        200,
        whole(airframe).model_dump(mode="json"),
    )
    assert Revision.objects.count() == 0


@pytest.mark.parametrize("name", [*STUDIES, *WISHES, "studies/match", "studies/scale", "studies/compare"])
def test_a_part_or_case_that_is_not_there_is_told(ann, study, name):
    extra = {"line_id": "spar", "figure": "mass", "wanted": 60, "span_mm": 700, "parts": []}
    extra["wish"] = WISHES.get(name, {})
    for key in ("part_id", "case_id"):
        status, told = ann.send("POST", name, {**study, **extra, key: "nowhere"})
        assert status == 422
        assert told["problems"][0]["path"] == "part_id or case_id"


@pytest.mark.parametrize("name", STUDIES)
def test_a_study_of_an_impossible_document_names_the_field(ann, study, name):
    broken = copy.deepcopy(study)
    broken["document"]["parts"][0]["root_thickness_mm"] = 150
    status, told = ann.send("POST", name, broken)
    assert status == 422
    assert told["problems"][0]["path"] == "parts[0].root_thickness_mm"


@pytest.mark.parametrize(
    ("name", "change", "path"),
    [
        ("match", {"figure": "beauty"}, "figure"),
        ("match", {"wanted": -1}, "wanted"),
        ("match", {"wanted": "NaN"}, "wanted"),
        ("match", {"line_id": "nothing"}, "line_id"),
        ("scale", {"span_mm": 1e9}, "span_mm"),
        ("scale", {"all_up_mass_g": 0}, "all_up_mass_g"),
        ("scale", {"keep": "face"}, "keep"),
        ("scale", {"span_mm": 4900}, None),
    ],
)
def test_what_cannot_be_asked_is_refused_by_its_field(ann, study, name, change, path):
    asked = {"match": {"line_id": "tape", "figure": "mass", "wanted": 66}, "scale": {"span_mm": 700}}[name]
    status, told = ann.send("POST", f"studies/{name}", {**study, **asked, **change})
    if path is None:
        assert status in (200, 422)
    else:
        assert status == 422
        assert told["problems"][0]["path"].endswith(path)


def test_a_match_comes_with_the_changed_part(ann, study):
    status, told = ann.send("POST", "studies/match", {**study, "line_id": "tape", "figure": "mass", "wanted": 68})
    assert status == 200
    tape = next(la for la in told["part"]["layers"] if la["id"] == "tape")
    assert f"{tape['width_mm']:g} mm wide" == told["says"]
    assert told["reached"] == pytest.approx(68, rel=0.01)


def test_choices_are_ready_parts(ann):
    wish = {"kind": "tail", "span_mm": 250, "root_chord_mm": 120, "tip_chord_mm": 100, "all_up_mass_g": 500,
            "top_speed_m_s": 14, "tools": ["iron"], "at_hand": []}  # fmt: skip
    reply = ann.generic("POST", "/api/studies/choose", json.dumps(wish), content_type="application/json")
    ways = [json.loads(line)["choice"] for line in b"".join(reply.streaming_content).splitlines()]
    assert [(w["key"], w["settled"]) for w in ways] == [
        (key, done) for done in (False, True) for key in ("tail_plate", "board_tail")
    ]
    best = ways[2]
    document = {
        "format": "fletcher-airframe",
        "version": 3,
        "name": "New",
        "all_up_mass_g": 500,
        "parts": [best["part"]],
    }
    assert ann.send("POST", "airframes", document)[0] == 201
    assert ann.send("POST", "studies/choose", {**wish, "tools": ["dynamite"]})[0] == 422
    assert ann.send("POST", "studies/choose", {**wish, "span_mm": 0})[1]["problems"][0]["path"] == "span_mm"


def test_a_part_in_another_construction_is_the_cores(ann, study):
    status, told = ann.send("POST", "studies/in-construction", {**study, "key": "plate_wing"})
    assert status == 200 and told["part"]["root_thickness_mm"] == 6 and told["part"]["id"] == study["part_id"]
    status, told = ann.send("POST", "studies/in-construction", {**study, "key": "tube_boom"})
    assert status == 422 and told["problems"][0]["path"] == "key"


def test_variants_beside_the_present_part_are_checked_one_by_one(ann, study):
    wing = study["document"]["parts"][0]
    bad = {**wing, "root_thickness_mm": 150}
    status, told = ann.send("POST", "studies/compare", {**study, "parts": [wing, bad]})
    assert status == 422
    assert told["problems"][0]["path"] == "parts[1].root_thickness_mm"
    status, told = ann.send("POST", "studies/compare", {**study, "parts": [wing] * 2})
    assert status == 200 and told[0] == told[1]
    assert ann.send("POST", "studies/compare", {**study, "parts": [wing] * 7})[0] == 422


def test_a_quick_estimate_has_the_same_typical_values(ann, study):
    whole_one = ann.send("POST", "studies/estimate", study)[1]
    quick = ann.send("POST", "studies/estimate", {**study, "quick": True})[1]
    for figure in ("mass_g", "deflection_mm", "breaks_at", "margin"):
        assert quick[figure]["typ"] == whole_one[figure]["typ"]
    assert quick["snaps"] == [] and len(whole_one["snaps"]) == 2


def test_everything_asks_for_a_session(client, db, study):
    for name in (*STUDIES, *(f"studies/{n}" for n in ("match", "scale", "compare", "choose", "whole"))):
        assert client.post(f"/api/{name}", study, content_type="application/json").status_code == 401
    assert client.get("/api/stock/glossary").status_code == 401


def test_the_glossary_is_served(ann):
    words = ann.send("GET", "stock/glossary")[1]
    assert {"margin", "web", "band"} <= {w["key"] for w in words}


def test_making_openings_fasteners_and_details_are_the_cores(ann, study):
    slit = {"type": "cut", "id": "slit", "face": "lower", "width_mm": 4, "depth_mm": 4, "end_mm": 300}
    study["document"]["parts"][0]["layers"].append({**slit, "root_percent": 60, "tip_percent": 60})
    airframe = Airframe.model_validate(study["document"])
    part = airframe.parts[0]
    assert ann.send("POST", "studies/making", study) == (
        200,
        making(airframe, part, reference()).model_dump(mode="json"),
    )
    assert ann.send("POST", "studies/openings", study) == (200, plain(openings(airframe, part, "pull-up")))
    wish = {"mount_N": 80, "months": 12}
    expected = corridor(airframe, part, CorridorWish(**wish)).model_dump(mode="json")
    assert ann.send("POST", "studies/corridor", {**study, "wish": wish}) == (200, expected)
    wish = {"at_mm": 30, "detail": {"kind": "half_slot", "sheet": "birchply_1.5"}}
    expected = detail(airframe, part, DetailWish.model_validate(wish)).model_dump(mode="json")
    assert ann.send("POST", "studies/detail", {**study, "wish": wish}) == (200, expected)
    assert Revision.objects.count() == 0


@pytest.mark.parametrize(
    ("name", "wish", "path"),
    [
        ("studies/corridor", {"months": -1}, "months"),
        ("studies/corridor", {"stretch": 99}, "stretch"),
        ("studies/corridor", {"mount_N": "NaN"}, "mount_N"),
        ("studies/detail", {"detail": {"kind": "knot"}}, "detail"),
        ("studies/detail", {"detail": {"kind": "half_slot", "sheet": "unobtainium"}}, "detail.sheet"),
        ("studies/detail", {"detail": {"kind": "half_slot", "sheet": "birchply_1.5", "depth_mm": 1e9}}, "depth_mm"),
        ("studies/detail", {"at_mm": 4000, "detail": {"kind": "bracket"}}, "at_mm"),
        ("studies/detail", {"detail": {"kind": "fluted_edge", "sheet": "balsa_light_3"}}, "detail.sheet"),
    ],
)
def test_a_wish_that_cannot_be_is_refused_by_its_field(ann, study, name, wish, path):
    status, told = ann.send("POST", name, {**study, "wish": {**WISHES[name], **wish}})
    assert status == 422
    assert told["problems"][0]["path"].endswith(path)


def test_drape_of_a_place_of_ones_own(ann):
    place = {"first_radius_mm": 100, "second_radius_mm": 100, "width_mm": 60}
    status, found = ann.send("POST", "studies/drape", place)
    assert status == 200
    assert found[0]["asks_percent"] == pytest.approx(4.5)
    status, told = ann.send("POST", "studies/drape", {**place, "first_radius_mm": 0})
    assert (status, told["problems"][0]["path"]) == (422, "first_radius_mm")


def test_the_stockroom_tells_what_is_carried_and_what_fastens(ann):
    status, catalogue = ann.send("GET", "stock/catalogue")
    assert status == 200
    servo = next(f for f in catalogue["fittings"] if f["key"] == "servo_9g")
    assert servo["mass_g"]["typ"] > 0 and servo["grade"] in "ABC" and servo["basis"]
    assert {f["family"] for f in catalogue["fasteners"]} >= {"band", "tie", "bolt", "pin", "magnet"}


def test_joints_and_damage_are_the_cores_and_a_bad_mark_is_refused_by_its_field(ann, study):
    part = study["document"]["parts"][0]
    glue = {"adhesive": "contact_foamsafe_clear"}
    part["layers"].append({"type": "joint", "id": "seam", "start_mm": 200, "glue": glue, "joint": {"kind": "across"}})
    part["damage"] = [{"kind": "bar", "id": "m", "of": "spar", "at_mm": 100}]
    airframe = Airframe.model_validate(study["document"])
    wing = airframe.parts[0]
    assert ann.send("POST", "studies/joints", study) == (200, plain(joint_sheets(airframe, wing)))
    assert ann.send("POST", "crash/left", study) == (200, what_is_left(airframe, wing).model_dump(mode="json"))
    crash = {"what": "pole", "at_mm": 250}
    found = inspect(airframe, wing, Crash(**crash)).model_dump(mode="json")
    assert ann.send("POST", "crash/inspect", {**study, "crash": crash}) == (200, found)
    status, told = ann.send("POST", "crash/inspect", {**study, "crash": {"what": "bored"}})
    assert status == 422 and told["problems"][0]["path"].endswith("what")
    part["damage"][0]["at_mm"] = 9000
    status, told = ann.send("POST", "crash/left", study)
    assert status == 422 and told["problems"][0]["path"] == "parts[0].damage[0].at_mm"


_WISH = {"kind": "tail", "span_mm": 200, "root_chord_mm": 120, "tip_chord_mm": 100, "all_up_mass_g": 900,
         "top_speed_m_s": 18, "tools": [], "at_hand": []}  # fmt: skip
_WANTED = {"key": "bead_wing", "size": {}, "all_up_mass_g": 900, "top_speed_m_s": 18}
_PATCH = {"first_radius_mm": 100, "second_radius_mm": 300, "width_mm": 50}


@pytest.mark.parametrize(
    ("place", "field", "low", "high"),
    [
        ("studies/choose", "span_mm", 20, 5000),
        ("studies/choose", "root_chord_mm", 5, 2000),
        ("studies/choose", "tip_chord_mm", 5, 2000),
        ("studies/choose", "all_up_mass_g", 5, 50_000),
        ("studies/choose", "top_speed_m_s", 1, 120),
        ("stock/construct", "all_up_mass_g", 5, 50_000),
        ("stock/construct", "top_speed_m_s", 1, 120),
        ("studies/drape", "first_radius_mm", -10_000, 10_000),
        ("studies/drape", "second_radius_mm", -10_000, 10_000),
        ("studies/drape", "width_mm", 1, 2000),
        ("studies/scale", "span_mm", 20, 5000),
        ("studies/scale", "all_up_mass_g", 5, 50_000),
        ("studies/match", "wanted", 1e-9, 1e6),
    ],
)
def test_figures_are_taken_from_their_least_to_their_most_and_no_further(ann, study, place, field, low, high):
    bodies = {"studies/choose": _WISH, "stock/construct": _WANTED, "studies/drape": _PATCH}
    more = {"studies/scale": {"span_mm": 700}, "studies/match": {"line_id": "spar", "figure": "mass", "wanted": 60}}
    body = bodies.get(place) or {**study, **more[place]}

    def answer(value):
        reply = ann.generic(
            "POST", f"/api/{place}", json.dumps({**body, field: value}), content_type="application/json"
        )
        return reply.status_code, [json.loads(line) for line in reply.getvalue().splitlines()]

    def refused(value):
        status, (told,) = answer(value)
        return status == 422 and any(
            p["path"].endswith(field) and "input" not in p["message"] for p in told["problems"]
        )

    step = 0.01 * max(abs(low), 1)
    assert refused(low - step) and refused(high * 1.01 if high > 0 else high + 1)
    limits = [(told, bound) for v, bound in ((low, "at least"), (high, "at most")) for told in answer(v)[1]]
    for told, bound in limits:
        # whatever else is wrong with so small or large a thing, it is not this limit
        problems = told.get("problems", []) if isinstance(told, dict) else []
        refusals = (bound, "between")
        assert not any(p["path"].endswith(field) and any(r in p["message"] for r in refusals) for p in problems)


@pytest.mark.parametrize(
    ("spar", "bars"), [(None, ["carbon_rod_3"]), ("carbon_tube_4_3", ["carbon_tube_4_3"]), ("none", [])]
)
def test_a_part_is_sketched_with_the_spar_that_it_has(ann, spar, bars):
    size = CONSTRUCTIONS["bead_wing"].size.model_dump()
    status, built = ann.send("POST", "stock/construct", {**_WANTED, "size": size, "spar": spar})
    assert status == 200
    assert [la["stock"] for la in built["part"]["layers"] if la["type"] == "bar"] == bars


def test_a_spar_that_is_no_bar_is_refused(ann):
    size = CONSTRUCTIONS["bead_wing"].size.model_dump()
    status, reply = ann.send("POST", "stock/construct", {**_WANTED, "size": size, "spar": "glass_80"})
    assert status == 422 and reply["problems"][0]["path"] == "spar"


def test_a_whole_airframe_balances_and_what_does_not_fly_is_told(ann):
    airframe = demo_airframes()[0]
    status, told = ann.send("POST", "studies/balance", {"document": airframe.model_dump(mode="json")})
    expected = balance_sheet(airframe)
    assert status == 200 and told["says"] == expected.says
    assert told["centre_mm"]["typ"] == pytest.approx(expected.centre_mm.typ)
    bare = {**airframe.model_dump(mode="json"), "parts": [], "equipment": []}
    status, told = ann.send("POST", "studies/balance", {"document": bare})
    assert status == 422 and "nothing here flies" in told["problems"][0]["message"]
    bare["equipment"] = [{"id": "b", "what": "battery", "mass_g": 0, "x_mm": 10}]
    status, told = ann.send("POST", "studies/balance", {"document": bare})
    assert status == 422 and told["problems"][0]["path"].endswith("equipment[0].mass_g")
    assert told["problems"][0]["message"] == "must be more than 0 g and at most 50000 g"
