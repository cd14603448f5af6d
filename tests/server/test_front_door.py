"""The front door through the API: how a shelf stands, whole airframes, sized parts, the demo fleet for an account."""

from __future__ import annotations

import json

import pytest
from django.core.cache import cache

from fletcher.core.demo.crash import crash_candidates, crashed_airframe
from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.repair.standing import standing
from fletcher.core.studies.sizing import sized
from fletcher.core.studies.whole_airframe import NewWish, PartStep, make
from fletcher.server.crash import models, standings

POST = crashed_airframe()
RECIPE = dict(crash_candidates())["Rod and contact glue"].model_dump(mode="json")


def stream(client, method: str, path: str, body=None, **headers) -> list[dict]:
    reply = client.generic(method, f"/api/{path}", json.dumps(body), content_type="application/json", **headers)
    assert reply.status_code == 200 and reply["Content-Type"] == "application/x-ndjson"
    return [json.loads(line) for line in b"".join(reply.streaming_content).splitlines()]


@pytest.fixture(autouse=True)
def forgotten():
    cache.clear()


@pytest.fixture
def post(ann):
    status, state = ann.send("POST", "airframes", POST.model_dump(mode="json"))
    assert status == 201
    return state


def test_a_shelf_stands_as_its_parts_are_judged_and_nobody_sees_anothers(ann, ben, wing, post):
    found = [line["standing"] for line in stream(ann, "GET", "crash/standings")]
    assert [s["airframe_id"] for s in found] == [post["id"], wing["id"]]
    for told, state in zip(found, (post, wing), strict=True):
        own = standing(Airframe.model_validate(state["document"])).model_dump(mode="json")
        assert told == {"airframe_id": state["id"], "revision": 1, **own}
    assert (found[0]["due"], found[0]["at"], found[0]["part_id"]) == (
        "Choose a repair: Wing, right", "crash", "right-wing",
    )  # fmt: skip
    assert stream(ben, "GET", "crash/standings") == []


def test_a_standing_is_computed_once_for_a_revision_and_told_in_the_readers_units(ann, wing, monkeypatch):
    asked = []
    monkeypatch.setattr(standings, "standing", lambda a: asked.append(a) or standing(a))
    for _ in range(2):
        stream(ann, "GET", "crash/standings")
    assert len(asked) == 1
    stream(ann, "GET", "crash/standings", HTTP_X_UNITS="inch")
    assert len(asked) == 2
    changed = {**wing["document"], "all_up_mass_g": 2000}
    assert ann.send("PUT", f"airframes/{wing['id']}", {"revision": 1, "document": changed})[0] == 200
    (told,) = stream(ann, "GET", "crash/standings")
    assert len(asked) == 3 and told["standing"]["revision"] == 2


def test_open_work_is_what_is_due_until_it_is_done(ann, post):
    body = {"revision": 1, "part_id": "right-wing", "recipe": RECIPE}
    status, told = ann.send("POST", f"crash/airframes/{post['id']}/adopt", body)
    assert status == 200
    job = told["job"]

    def due():
        (line,) = stream(ann, "GET", "crash/standings")
        return line["standing"]["due"], line["standing"]["at"], line["standing"]["part_id"]

    assert due() == (job["tasks"][0]["operation"]["title"], "crash", "right-wing")
    for task in job["tasks"]:
        done = {"done": True, "note": ""}
        assert ann.send("PUT", f"crash/jobs/{job['id']}/tasks/{task['number']}", done)[0] == 200
    assert due() == ("Measure the mended part", "crash", "right-wing")
    for check in job["checks"]:
        value = {"value": check["check"]["repaired"]["typ"]} if "check" in check else None
        if value is None:
            break
        assert ann.send("PUT", f"crash/jobs/{job['id']}/checks/{check['number']}", value)[0] == 200
    assert due()[1] in ("crash", "whole", "bench")


def test_an_airframe_that_cannot_be_computed_takes_no_other_along(ann, document, monkeypatch):
    for name in ("Sound", "Odd"):
        assert ann.send("POST", "airframes", {**document, "name": name})[0] == 201
    whole = standings.standing

    def fails(airframe):
        if airframe.name == "Odd":
            raise ZeroDivisionError
        return whole(airframe)

    monkeypatch.setattr(standings, "standing", fails)
    told = [line["standing"]["airframe_id"] for line in stream(ann, "GET", "crash/standings")]
    shelf = {a["document"]["name"]: a["id"] for a in ann.send("GET", "airframes")[1]}
    assert told == [shelf["Sound"]]


def test_planks_may_break_and_an_empty_airframe_is_told_to_get_a_part():
    plank = next(p for p in demo_airframes()[0].parts if p.kind == "plank")
    heavy = plank.cases[0].model_copy(update={"weight_g": 20_000})
    airframe = Airframe(name="A", all_up_mass_g=900, parts=(plank.model_copy(update={"cases": (heavy,)}),))
    told = standing(airframe)
    assert told.parts[0].enough == "no" and told.due == ""
    assert standing(Airframe(name="A", all_up_mass_g=900)).due == "Add the first part"


def test_the_part_that_does_not_hold_is_due():
    warden = demo_airframes()[0]
    heavy = warden.model_copy(update={"all_up_mass_g": 9000.0, "top_speed_m_s": 60.0})
    fast = tuple(
        p.model_copy(update={"cases": tuple(c.model_copy(update={"speed_m_s": 60.0}) if hasattr(c, "speed_m_s") else c
                                            for c in p.cases)}) for p in heavy.parts
    )  # fmt: skip
    told = standing(heavy.model_copy(update={"parts": fast}))
    short = [p for p in told.parts if p.enough in ("no", "doubtful") and p.part_id != "plank"]
    assert short and told.at == "bench" and told.due == f"Strengthen {short[0].name}"


def test_a_whole_airframe_is_made_as_the_core_makes_it_and_nothing_is_stored(ann):
    wish = {"name": "Sand Martin", "type": "plank", "span_mm": 500, "all_up_mass_g": 300}
    lines = stream(ann, "POST", "studies/new-airframe", wish)
    *steps, last = make(NewWish(**wish))
    assert all(isinstance(s, PartStep) for s in steps)
    assert lines == [*({"progress": s.model_dump()} for s in steps), {"answer": last.model_dump(mode="json")}]
    assert ann.send("GET", "airframes") == (200, [])
    assert ann.send("POST", "airframes", lines[-1]["answer"]["airframe"])[0] == 201
    status, told = ann.send("POST", "studies/new-airframe", {**wish, "type": "trainer", "all_up_mass_g": 40_000})
    assert status == 422 and told["problems"][0]["path"].endswith("top_speed_m_s")
    assert ann.send("POST", "studies/new-airframe", {**wish, "at_hand": ["gold"]})[0] == 422
    assert ann.send("POST", "studies/new-airframe", {**wish, "tools": ["dynamite"]})[0] == 422


def test_a_part_is_sized_as_the_core_sizes_it(ann, wing):
    document = wing["document"]
    status, told = ann.send("POST", "studies/sized", {"document": document, "part_id": "wing", "case_id": "pull-up"})
    airframe = Airframe.model_validate(document)
    found = sized(airframe, airframe.parts[0])
    assert status == 200 and told["part"] == found.part.model_dump(mode="json")
    assert (told["holds"], told["says"]) == (found.holds, list(found.says))
    assert found.holds and told["grams"] < 0


def test_the_demo_fleet_is_put_on_a_shelf_of_ones_own(ann, ben):
    assert ann.send("POST", "account/demo-fleet")[0] == 204
    names = [a["document"]["name"] for a in ann.send("GET", "airframes")[1]]
    assert names == [a.name for a in demo_airframes()]
    assert ben.send("GET", "airframes")[1] == []
    assert len(ann.send("GET", "joints/coupons")[1]["coupons"]) > 3


def test_damaged_work_takes_no_shelf_along(ann, post):
    body = {"revision": 1, "part_id": "right-wing", "recipe": RECIPE}
    assert ann.send("POST", f"crash/airframes/{post['id']}/adopt", body)[0] == 200
    models.Task.objects.update(operation={"title": 7})
    (line,) = stream(ann, "GET", "crash/standings")
    assert line["standing"]["airframe_id"] == post["id"] and line["standing"]["parts"]
