"""Crash desk on the server: the search as a stream, adopting all or nothing, log, jobs, pictures, candidates."""

from __future__ import annotations

import copy
import io
import json
import uuid

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from fletcher.cli import main
from fletcher.core.demo.crash import crash_candidates, crash_record, crashed_airframe
from fletcher.core.document.airframe import Airframe
from fletcher.core.repair.build_mistakes import SlipWish, slip
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.mark_menu import offers_at
from fletcher.core.repair.pareto_search import search
from fletcher.core.repair.schema import Mending, MendWish
from fletcher.server.airframes.models import Revision
from fletcher.server.crash import models, services

POST = crashed_airframe()
RECIPES = {name: recipe.model_dump(mode="json") for name, recipe in crash_candidates()}
RECIPE = RECIPES["Rod and contact glue"]
STUDY = {"document": POST.model_dump(mode="json"), "part_id": "right-wing", "case_id": "pull-up"}


@pytest.fixture
def post(ann):
    status, state = ann.send("POST", "airframes", POST.model_dump(mode="json"))
    assert status == 201
    return state


def adopt(client, state, **change):
    body = {"revision": state["revision"], "part_id": "right-wing", "recipe": RECIPE, **change}
    return client.send("POST", f"crash/airframes/{state['id']}/adopt", body)


def lines(client, wish: dict) -> list[dict]:
    reply = client.generic(
        "POST", "/api/crash/mend", json.dumps({**STUDY, "wish": wish}), content_type="application/json"
    )
    assert reply.status_code == 200 and reply["Content-Type"] == "application/x-ndjson"
    return [json.loads(line) for line in b"".join(reply.streaming_content).splitlines()]


def test_the_stream_ends_with_the_answer_that_core_and_terminal_give(ann, tmp_path, capsys):
    told = lines(ann, {"fly_in_min": 90})
    assert [set(line) for line in told[:-1]] == [{"progress"}] * (len(told) - 1)
    done = [line["progress"]["done"] for line in told[:-1]]
    assert done == sorted(done) and len(done) > len(POST.parts[0].damage)
    answer = told[-1]["answer"]
    (own,) = (x for x in search(POST, POST.parts[0], MendWish(fly_in_min=90)) if isinstance(x, Mending))
    assert answer == own.model_dump(mode="json")
    file = tmp_path / "post.json"
    file.write_text(POST.model_dump_json())
    assert main(["mend", str(file), "fly_in_min=90", "--json"]) == 0
    assert json.loads(capsys.readouterr().out) == [answer]


def test_foam_is_found_on_broken_parts_of_the_builders_other_airframes(ann, ben, post):
    other = POST.model_dump(mode="json") | {"name": "Old Dunlin"}
    ben.send("POST", "airframes", POST.model_dump(mode="json") | {"name": "Bens"})
    assert lines(ann, {})[-1]["answer"]["pieces"][0]["donors"] == []
    ann.send("POST", "airframes", other)
    donors = lines(ann, {})[-1]["answer"]["pieces"][0]["donors"]
    assert donors == ["Wing, right of Old Dunlin (the same foam)"]


def test_a_stream_that_is_left_ends_the_search(ann, monkeypatch):
    closed = []

    def endless(*_):
        try:
            while True:
                yield next(search(POST, POST.parts[0], MendWish()))
        finally:
            closed.append(True)

    monkeypatch.setattr("fletcher.server.crash.api.search", endless)
    reply = ann.generic("POST", "/api/crash/mend", json.dumps({**STUDY, "wish": {}}), content_type="application/json")
    stream = iter(reply.streaming_content)
    next(stream)
    next(stream)
    reply.close()
    assert closed == [True]


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"part_id": "left-wing"}, "damage"),
        ({"part_id": "tail"}, "part_id or case_id"),
        ({"wish": {"fly_in_min": 1e9}}, "wish.fly_in_min"),
        ({"wish": {"hour_worth": "much"}}, "wish.hour_worth"),
        ({"wish": {"soon": True}}, "wish.soon"),
    ],
)
def test_a_search_that_cannot_be_is_refused_before_it_begins(ann, change, path):
    status, told = ann.send("POST", "crash/mend", {**STUDY, "wish": {}, **change})
    assert status == 422 and told["problems"][0]["path"] == path, told


def test_what_may_be_marked_where_a_part_is_pressed_is_told_as_the_core_tells_it(ann):
    body = {**STUDY, "at_mm": 300, "percent": 50}
    status, told = ann.send("POST", "crash/offers", body)
    part = POST.parts[0]
    assert status == 200 and told == [o.model_dump(mode="json") for o in offers_at(part, 300, 50)]
    assert ann.send("POST", "crash/offers", {**body, "percent": None})[0] == 200
    for wrong, path in (({"at_mm": -1}, "at_mm"), ({"percent": 101}, "percent")):
        status, told = ann.send("POST", "crash/offers", {**body, **wrong})
        assert status == 422 and told["problems"][0]["path"].endswith(path)


def test_one_repair_and_a_slip_are_told_as_the_core_tells_them(ann):
    status, told = ann.send("POST", "crash/mend-option", {**STUDY, "wish": {}, "recipe": RECIPE})
    recipe = dict(crash_candidates())["Rod and contact glue"]
    assert status == 200
    assert told == computed(POST, POST.parts[0], recipe, MendWish()).option.model_dump(mode="json")
    kinds = ann.send("GET", "crash/slips")[1]
    assert {"key", "title", "says"} == set(kinds[0])
    wish = {"slip": "nick", "at_mm": 200}
    left = {**STUDY, "part_id": "left-wing"}
    status, told = ann.send("POST", "crash/slip", {**left, "wish": wish})
    assert (status, told) == (200, slip(POST, POST.parts[1], SlipWish(**wish)).model_dump(mode="json"))
    assert ann.send("POST", "crash/slip", {**left, "wish": {"slip": "nick", "at_mm": -5}})[0] == 422
    crash = {"what": "tip_strike", "at_mm": 200, "speed_m_s": 4}
    status, told = ann.send("POST", "crash/toughen", {**left, "crash": crash})
    assert status == 200 and told[0]["depth_mm"]["typ"] < told[0]["depth_before_mm"]["typ"]


@pytest.mark.parametrize(
    ("send", "path"),
    [
        (("POST", "crash/offers", {**STUDY, "at_mm": 5001}), "at_mm"),
        (("POST", "airframe/candidates", {"part_id": "right-wing", "name": "n" * 81, "recipe": RECIPE}), "name"),
        (("PUT", "job/checks/0", {"value": 100_001}), "value"),
        (("PUT", "job/checks/0", {"value": -100_001}), "value"),
    ],
)
def test_a_figure_or_name_beyond_what_is_allowed_is_refused_by_its_field(ann, post, send, path):
    job = adopt(ann, post)[1]["job"]
    method, place, body = send
    place = place.replace("airframe/", f"crash/airframes/{post['id']}/").replace("job/", f"crash/jobs/{job['id']}/")
    status, told = ann.send(method, place, body)
    assert status == 422 and told["problems"][0]["path"].endswith(path)
    allowed = ("no more than", "at most", "at least", "between")
    assert any(words in told["problems"][0]["message"] for words in allowed), told


def test_an_adopted_repair_is_in_document_log_and_work(ann, post):
    ann.send(
        "POST", f"crash/airframes/{post['id']}/candidates", {"part_id": "right-wing", "name": "A", "recipe": RECIPE}
    )
    status, told = adopt(ann, post)
    assert status == 200
    option = computed(POST, POST.parts[0], dict(crash_candidates())["Rod and contact glue"], MendWish()).option
    document = Airframe.model_validate(told["airframe"]["document"])
    assert document.parts[0] == option.part and told["airframe"]["revision"] == post["revision"] + 1
    assert ann.send("GET", f"airframes/{post['id']}")[1]["document"] == told["airframe"]["document"]
    job = told["job"]
    assert [t["operation"] for t in job["tasks"]] == [op.model_dump(mode="json") for op in option.operations]
    own = [{k: v for k, v in c.items() if k not in ("number", "value", "holds")} for c in job["checks"]]
    assert own == [c.model_dump(mode="json") for c in option.checks]
    assert all(c["value"] is None and c["holds"] is None for c in job["checks"]) and job["state"] == "open"
    assert {m["id"] for m in job["marks"]} == {m.id for m in POST.parts[0].damage} - {m.id for m in option.part.damage}
    log = ann.send("GET", f"crash/airframes/{post['id']}/log")[1]
    assert [e["event"]["kind"] for e in log["entries"]] == ["repair", "damage"]
    assert log["entries"][0]["event"]["recipe"] == RECIPE and log["entries"][0]["revision"] == 2
    assert {m["id"] for m in log["entries"][1]["event"]["marks"]} == {m.id for m in POST.parts[0].damage}
    stretches = log["entries"][0]["event"]["stretches_mm"]
    assert any(start == 200 for start, _ in stretches)  # the longer sister's: 400 less its reach
    assert ann.send("GET", f"crash/airframes/{post['id']}/candidates")[1] == []
    # undo takes the lines out again; what happened stays on the record
    undone = ann.send("POST", f"airframes/{post['id']}/undo", {"revision": 2})[1]
    assert undone["document"] == post["document"]
    assert len(ann.send("GET", f"crash/airframes/{post['id']}/log")[1]["entries"]) == 2


@pytest.mark.parametrize(
    ("change", "status"),
    [
        ({"revision": 7}, 409),
        ({"part_id": "tail"}, 422),
        ({"part_id": "left-wing"}, 422),
        ({"recipe": {**RECIPE, "glue": "spit"}}, 422),
        ({"recipe": {**RECIPE, "fixes": []}}, 422),
        ({"recipe": {**RECIPE, "fixes": [{"mark": "gone", "way": "warm"}]}}, 422),
    ],
)
def test_what_cannot_be_adopted_leaves_nothing_behind(ann, post, change, status):
    assert adopt(ann, post, **change)[0] == status
    assert Revision.objects.count() == 1 and models.Task.objects.count() == 0
    assert ann.send("GET", f"crash/airframes/{post['id']}/log")[1]["entries"] == []
    assert ann.send("GET", f"crash/airframes/{post['id']}/jobs")[1] == []


def test_a_fault_half_way_takes_everything_back(ann, post, monkeypatch):
    def torn(*_):
        raise RuntimeError("disk full")

    monkeypatch.setattr(models.Task.objects, "bulk_create", torn)
    assert adopt(ann, post)[0] == 500
    assert Revision.objects.count() == 1
    assert ann.send("GET", f"crash/airframes/{post['id']}/log")[1]["entries"] == []
    assert ann.send("GET", f"crash/airframes/{post['id']}/jobs")[1] == []


def passes_all(client, job) -> dict:
    """Every check measured as it is foreseen."""
    told = job
    for c in job["checks"]:
        value = 0.0 if c["mended"] is None else c["mended"]["typ"]
        status, told = client.send("PUT", f"crash/jobs/{job['id']}/checks/{c['number']}", {"value": value})
        assert status == 200 and told["checks"][c["number"]]["holds"] is True
    return told


def test_checks_stay_open_until_they_are_measured_and_one_that_fails_keeps_the_part_from_flying(ann, ben, post):
    job = adopt(ann, post)[1]["job"]
    at = f"crash/jobs/{job['id']}/checks"
    assert passes_all(ann, job)["state"] == "open", "no step is done yet"
    for task in job["tasks"]:
        told = ann.send("PUT", f"crash/jobs/{job['id']}/tasks/{task['number']}", {"done": True})[1]
    assert told["state"] == "passed"
    twist = next(c["number"] for c in job["checks"] if c["what"] == "Twist")
    for value, holds, state in ((1.0, True, "passed"), (1.01, False, "failed"), (-1.5, False, "failed")):
        told = ann.send("PUT", f"{at}/{twist}", {"value": value})[1]
        assert (told["checks"][twist]["holds"], told["state"]) == (holds, state)
    told = ann.send("PUT", f"{at}/{twist}", {"value": None})[1]
    assert told["checks"][twist]["value"] is None and told["state"] == "open"
    weight = next(c for c in job["checks"] if c["what"] == "Hung mass")
    for value, holds in ((weight["mended"]["high"] + 0.49, True), (weight["mended"]["high"] + 0.51, False)):
        told = ann.send("PUT", f"{at}/{weight['number']}", {"value": value})[1]
        assert told["checks"][weight["number"]]["holds"] is holds
    assert ann.send("PUT", f"{at}/99", {"value": 1.0})[0] == 422
    assert ann.send("PUT", f"{at}/0", {"value": 1e9})[0] == 422
    assert ben.send("PUT", f"{at}/0", {"value": 1.0})[0] == 404
    done = [
        e for e in ann.send("GET", f"crash/airframes/{post['id']}/log")[1]["entries"] if e["event"]["kind"] == "check"
    ]
    assert len(done) == 1, "passed once, told once"


def test_operations_are_ticked_off_and_the_last_one_is_recorded(ann, post):
    job = adopt(ann, post)[1]["job"]
    for task in job["tasks"]:
        status, told = ann.send("PUT", f"crash/jobs/{job['id']}/tasks/{task['number']}", {"done": True, "note": "so"})
        assert status == 200
    assert all(t["done"] and t["note"] == "so" for t in told["tasks"])
    assert told["state"] == "open", "its checks are not measured yet"
    passes_all(ann, job)
    entries = ann.send("GET", f"crash/airframes/{post['id']}/log")[1]["entries"]
    assert entries[0]["event"]["kind"] == "check"
    assert entries[0]["event"]["says"].startswith("All done and every check passed")
    ann.send("PUT", f"crash/jobs/{job['id']}/tasks/1", {"done": False})
    assert ann.send("GET", f"crash/airframes/{post['id']}/jobs")[1][0]["tasks"][0]["done"] is None
    assert ann.send("PUT", f"crash/jobs/{job['id']}/tasks/99", {"done": True})[0] == 404
    assert ann.send("PUT", f"crash/jobs/{job['id']}/tasks/1", {"done": True, "note": "x" * 401})[0] == 422
    assert ann.send("DELETE", f"crash/jobs/{job['id']}")[0] == 204


def test_the_record_shows_what_broke_beside_a_repair(ann, post):
    for happened, event in crash_record():
        body = {"event": event.model_dump(mode="json"), "happened": happened.isoformat()}
        assert ann.send("POST", f"crash/airframes/{post['id']}/log", body)[0] == 201
    log = ann.send("GET", f"crash/airframes/{post['id']}/log")[1]
    assert [e["event"]["kind"] for e in log["entries"]] == ["damage", "crash", "repair", "damage"]
    assert {f["kind"] for f in log["findings"]} == {"beside_repair", "repeated"}
    # adopting now does not write the same damage down again
    adopt(ann, post)
    entries = ann.send("GET", f"crash/airframes/{post['id']}/log")[1]["entries"]
    assert [e["event"]["kind"] for e in entries].count("damage") == 2


@pytest.mark.parametrize(
    ("body", "path"),
    [
        ({"event": {"kind": "note", "says": ""}}, "event.says"),
        ({"event": {"kind": "party", "says": "x"}}, "event.kind"),
        ({"event": {"kind": "note", "says": "x", "part_id": "tail"}}, "part_id"),
        ({"event": {"kind": "note", "says": "x"}, "happened": "2999-01-01T00:00:00Z"}, "happened"),
        ({"event": {"kind": "note", "says": "x"}, "happened": "2026-01-01T00:00:00"}, "happened"),
        ({"event": {"kind": "crash", "says": "x", "crash": {"what": "pole", "speed_m_s": "nan"}}}, "crash.speed_m_s"),
    ],
)
def test_what_cannot_stand_on_the_time_line_is_refused_by_field(ann, post, body, path):
    status, told = ann.send("POST", f"crash/airframes/{post['id']}/log", body)
    assert status == 422 and told["problems"][0]["path"].endswith(path), told
    assert ann.send("GET", f"crash/airframes/{post['id']}/log")[1]["entries"] == []


def photo(kind: str = "PNG") -> SimpleUploadedFile:
    out = io.BytesIO()
    Image.new("RGB", (1800, 900), (90, 60, 30)).save(out, kind)
    return SimpleUploadedFile("crack.png", out.getvalue())


def test_pictures_stand_at_marks_and_only_at_marks(ann, ben, post):
    address = f"/api/crash/airframes/{post['id']}/pictures"
    reply = ann.post(address, {"photo": photo(), "part_id": "right-wing", "mark_id": "crack"})
    assert reply.status_code == 201
    kept = ann.send("GET", f"crash/airframes/{post['id']}/pictures")[1]
    assert [(p["part_id"], p["mark_id"]) for p in kept] == [("right-wing", "crack")]
    shown = ann.get(f"/api/crash/pictures/{kept[0]['id']}")
    assert Image.open(io.BytesIO(shown.content)).format == "JPEG" and shown["Content-Type"] == "image/jpeg"
    for bad in (
        {"photo": photo(), "part_id": "right-wing", "mark_id": "gone"},
        {"photo": SimpleUploadedFile("a.png", b"no picture"), "part_id": "right-wing", "mark_id": "crack"},
        {"photo": photo(), "part_id": "tail", "mark_id": "crack"},
    ):
        assert ann.post(address, bad).status_code == 422
    assert ben.get(f"/api/crash/pictures/{kept[0]['id']}").status_code == 404
    assert ann.send("DELETE", f"crash/pictures/{kept[0]['id']}")[0] == 204
    assert ann.send("GET", f"crash/airframes/{post['id']}/pictures")[1] == []


def test_candidates_are_kept_if_they_can_be_made(ann, post):
    address = f"crash/airframes/{post['id']}/candidates"
    for name, recipe in RECIPES.items():
        assert ann.send("POST", address, {"part_id": "right-wing", "name": name, "recipe": recipe})[0] == 201
    kept = ann.send("GET", address)[1]
    assert [c["name"] for c in kept] == list(RECIPES) and kept[0]["recipe"] == RECIPES[kept[0]["name"]]
    bad = copy.deepcopy(RECIPE) | {"glue": "contact_neoprene"}
    assert ann.send("POST", address, {"part_id": "right-wing", "name": "x", "recipe": bad})[0] == 422
    assert ann.send("POST", address, {"part_id": "right-wing", "name": "", "recipe": RECIPE})[0] == 422
    assert ann.send("DELETE", f"crash/candidates/{kept[0]['id']}")[0] == 204
    assert len(ann.send("GET", address)[1]) == 2


def test_nobody_sees_or_changes_what_is_anothers(ann, ben, post):
    job = adopt(ann, post)[1]["job"]
    ann.send("POST", f"crash/airframes/{post['id']}/log", {"event": {"kind": "note", "says": "mine"}})
    here = f"crash/airframes/{post['id']}"
    for method, path, body in (
        ("GET", f"{here}/log", None), ("GET", f"{here}/jobs", None), ("GET", f"{here}/pictures", None),
        ("POST", f"{here}/log", {"event": {"kind": "note", "says": "yours"}}),
        ("POST", f"{here}/candidates", {"part_id": "right-wing", "name": "x", "recipe": RECIPE}),
        ("PUT", f"crash/jobs/{job['id']}/tasks/1", {"done": True}), ("DELETE", f"crash/jobs/{job['id']}", None),
        ("DELETE", f"crash/pictures/{uuid.uuid4()}", None), ("DELETE", f"crash/candidates/{uuid.uuid4()}", None),
    ):  # fmt: skip
        assert ben.send(method, path, body)[0] == 404, path
    assert adopt(ben, post)[0] == 404
    assert ben.send("GET", f"{here}/candidates")[0] == 404
    with pytest.raises(TypeError):
        models.Entry.objects.all()


def test_a_repair_lies_where_its_new_lines_do():
    """A line without an end runs to the tip, a seam lies at its place, and what was there before is no repair."""
    part = POST.parts[0]
    film, seam = part.layers[0], {"type": "joint", "id": "s", "start_mm": 120, "joint": {"kind": "across"}}
    whole = part.model_dump(mode="json")
    whole["layers"] += [{**film.model_dump(mode="json"), "id": "new", "start_mm": 40, "end_mm": None}, seam,
                        {**film.model_dump(mode="json"), "id": "short", "start_mm": 10, "end_mm": 60}]  # fmt: skip
    after = type(part).model_validate(whole)
    assert services.stretches_of(part, after) == ((40, part.span_mm), (120, 120), (10, 60))
    assert services.stretches_of(after, after) == ()


def test_marks_that_can_stand_again_are_told_and_others_left_out(ann):
    part = STUDY["document"]["parts"][0]
    bare = copy.deepcopy(STUDY)
    bare["document"]["parts"][0]["damage"] = []
    status, back = ann.send("POST", "crash/reopen", {**bare, "marks": part["damage"]})
    assert status == 200 and [m["id"] for m in back] == [m["id"] for m in part["damage"]]
    assert ann.send("POST", "crash/reopen", {**STUDY, "marks": part["damage"]}) == (200, [])
    assert ann.send("POST", "crash/reopen", {**bare, "marks": part["damage"] * 9})[0] == 422
