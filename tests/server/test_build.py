"""The work of a build as it is kept: changed on what was seen, pressed once however often sent, its owner's alone."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from pypdf import PdfReader

from fletcher.core.demo.crash import crash_candidates, crashed_airframe
from fletcher.core.demo.world import demo_airframes
from fletcher.core.plan.cut_list import CutWish, cut_list
from fletcher.core.plan.operations import operations
from fletcher.core.plan.schema import ShopWish
from fletcher.server.build import services
from fletcher.server.build.models import Pressed, Sheet
from fletcher.server.keeping.archive import write_archive
from fletcher.server.keeping.intake import take_in
from fletcher.server.keeping.unpack import Unpacked
from tests.server.conftest import builder

pytestmark = pytest.mark.django_db
AIRFRAME = demo_airframes()[0]
STEPS = operations(AIRFRAME, ShopWish())
CORE, DATUM = STEPS[0].key, STEPS[1].key


@pytest.fixture
def here(ann) -> str:
    return "build/" + ann.send("POST", "airframes", AIRFRAME.model_dump(mode="json"))[1]["id"]


def pressed(what: str = "done", key: str = CORE, at: str = "2026-11-30T18:00:00Z", **more: Any) -> dict[str, Any]:
    return {"id": str(uuid4()), "at": at, "what": what, "key": key, **more}


LONGER = {"what": "time", "key": CORE, "minutes": 70}


def test_changes_are_kept_on_top_of_what_was_seen(ann, here):
    assert ann.send("GET", here) == (200, {"revision": 0, "work": {"changes": [], "presses": []}})
    status, kept = ann.send("PUT", f"{here}/changes", {"revision": 0, "changes": [LONGER]})
    assert (status, kept["revision"], kept["work"]["changes"]) == (200, 1, [LONGER])
    status, stale = ann.send("PUT", f"{here}/changes", {"revision": 0, "changes": []})
    assert status == 409 and stale == kept
    status, cleared = ann.send("PUT", f"{here}/changes", {"revision": 1, "changes": []})
    assert (status, cleared["revision"], cleared["work"]["changes"]) == (200, 2, [])


def test_a_change_that_makes_a_ring_is_refused_by_name_and_nothing_is_stored(ann, here):
    ring = {"what": "order", "key": CORE, "after": STEPS[1].key}
    status, said = ann.send("PUT", f"{here}/changes", {"revision": 0, "changes": [LONGER, ring]})
    assert status == 422 and said["problems"][0]["path"] == "changes"
    assert "wait for one another" in said["problems"][0]["message"] and "→" in said["problems"][0]["message"]
    assert ann.send("GET", here)[1]["revision"] == 0
    bad = {"what": "time", "key": CORE, "minutes": 0}
    status, said = ann.send("PUT", f"{here}/changes", {"revision": 0, "changes": [bad]})
    assert status == 422 and "changes[0]" in said["problems"][0]["path"]


def test_a_press_counts_once_however_often_it_is_sent(ann, here):
    one, two = pressed("begun"), pressed("done", at="2026-11-30T18:40:00Z", made_of=STEPS[0].made_of)
    for body in ([one], [one, two], [two, two, one]):
        status, kept = ann.send("POST", f"{here}/presses", {"presses": body})
        assert status == 200
    assert [p["id"] for p in kept["work"]["presses"]] == [one["id"], two["id"]]
    document = AIRFRAME.model_dump(mode="json")
    status, plan = ann.send("POST", "studies/plan", {"document": document, "work": kept["work"]})
    at = next(p for p in plan["planned"] if p["key"] == CORE)
    assert status == 200 and at["state"] == "done" and plan["done"] == 1


def test_what_was_measured_or_noted_goes_to_the_log(ann, here):
    said = [
        pressed("done", value=61.5, note="a little heavy"), pressed("begun", DATUM), pressed("done", DATUM),
        pressed("gate", DATUM, gate="hand", result="failed", note="two left ones"),
    ]  # fmt: skip
    ann.send("POST", f"{here}/presses", {"presses": said})
    ann.send("POST", f"{here}/presses", {"presses": said})
    airframe = here.removeprefix("build/")
    entries = ann.send("GET", f"crash/airframes/{airframe}/log")[1]["entries"]
    told = {e["event"]["says"] for e in entries}
    assert len(entries) == 2 and {e["event"]["kind"] for e in entries} == {"build"}
    assert any("61.5 a little heavy" in t and "cut the core" in t for t in told)
    assert any("failed" in t and "two left ones" in t for t in told)


@pytest.mark.parametrize(
    ("field", "value"),
    [("at", "1801-01-01T00:00:00Z"), ("at", "2026-11-30T18:00:00"), ("id", "x"), ("what", "jump"), ("key", "a b"),
     ("value", 1e9), ("note", "\u202e"), ("result", "sure")],
)  # fmt: skip
def test_a_press_that_cannot_be_is_refused_by_its_field(ann, here, field, value):
    status, said = ann.send("POST", f"{here}/presses", {"presses": [pressed(), pressed(**{field: value})]})
    assert status == 422 and said["problems"][0]["path"].endswith(f"presses[1].{field}")
    assert not Pressed.everyone.exists()


def test_no_more_presses_than_can_be_kept(ann, here, monkeypatch):
    monkeypatch.setattr(services, "MOST", 2)
    assert ann.send("POST", f"{here}/presses", {"presses": [pressed(), pressed()]})[0] == 200
    status, said = ann.send("POST", f"{here}/presses", {"presses": [pressed()]})
    assert status == 422 and "at most 2" in said["problems"][0]["message"]


def test_a_press_of_another_account_is_neither_seen_nor_changed(ann, ben, here):
    mine = pressed()
    ann.send("POST", f"{here}/presses", {"presses": [mine]})
    his = "build/" + ben.send("POST", "airframes", AIRFRAME.model_dump(mode="json"))[1]["id"]
    status, kept = ben.send("POST", f"{his}/presses", {"presses": [{**mine, "key": DATUM}]})
    assert status == 200 and kept["work"]["presses"] == []
    assert ann.send("GET", here)[1]["work"]["presses"][0]["key"] == CORE
    for method, path, body in (("GET", here, None), ("POST", f"{here}/presses", {"presses": []})):
        assert ben.send(method, path, body)[0] == 404


def test_a_build_goes_with_its_account_into_an_archive_and_out_of_it(ann, here):
    ann.send("PUT", f"{here}/changes", {"revision": 0, "changes": [LONGER]})
    ann.send("POST", f"{here}/presses", {"presses": [pressed("begun"), pressed()]})
    kept = ann.send("GET", here)[1]["work"]
    out = io.BytesIO()
    write_archive(User.objects.get(username="ann"), out)
    carol = builder("carol")
    owner = User.objects.get(username="carol")
    take_in(owner, Unpacked(io.BytesIO(out.getvalue())))
    there = carol.send("GET", "airframes")[1][0]["id"]
    found = carol.send("GET", f"build/{there}")[1]["work"]
    assert found["changes"] == kept["changes"]
    assert sorted(p["what"] for p in found["presses"]) == ["begun", "done"]
    take_in(owner, Unpacked(io.BytesIO(out.getvalue())))
    assert Pressed.everyone.filter(owner=owner).count() == 2 and Sheet.everyone.filter(owner=owner).count() == 1


def test_the_build_sheet_is_printed_with_steps_cards_and_cuts(ann, ben, here):
    airframe = here.removeprefix("build/")
    ann.send("POST", "stock/own", {"item": {"kind": "bar", "key": "carbon_rod_3", "count": 4, "length_mm": 1000}})
    shop = json.dumps({"hours": [{"from_hour": 20, "to_hour": 22}], "zone": "Europe/Berlin"})
    reply = ann.get("/api/build/sheet.pdf", {"airframe": airframe, "shop": shop})
    assert reply.status_code == 200 and reply["Content-Type"] == "application/pdf"
    text = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(reply.content)).pages)
    for word in (
        "build sheet",
        "First flight",
        "Cut the core",
        "Hot wire",
        "Set the sole to",
        "Cut list",
        "Carbon rod 3",
    ):
        assert word in text, word
    assert ben.get(f"/api/build/sheet.pdf?airframe={airframe}").status_code == 404
    assert "20:00" in text and "Carbon rod 3 mm, buy 0" in text  # in those hours, from the shelf
    for wrong, path in (({"zone": "Nowhere/Land"}, "shop"), ({"people": 9}, "shop.people"), ([], "shop.")):
        asked = {"airframe": airframe, "shop": json.dumps(wrong)}
        reply = ann.get("/api/build/sheet.pdf", asked)
        assert reply.status_code == 422 and reply.json()["problems"][0]["path"].startswith(path)


def test_a_change_that_can_no_longer_be_read_is_left_out(ann, here):
    ann.send("PUT", f"{here}/changes", {"revision": 0, "changes": [LONGER]})
    sheet = Sheet.everyone.get()
    sheet.changes = [{"what": "dance"}, *sheet.changes]
    sheet.save()
    assert ann.send("GET", here)[1]["work"]["changes"] == [LONGER]


def test_templates_are_taken_away_in_one_file(ann, ben, here):
    airframe = here.removeprefix("build/")
    reply = ann.get(f"/api/build/templates.zip?airframe={airframe}&paper=Letter")
    assert reply.status_code == 200
    names = zipfile.ZipFile(io.BytesIO(reply.content)).namelist()
    assert {n.rsplit(".", 1)[1] for n in names} == {"dxf", "svg", "pdf"} and any("wire-root" in n for n in names)
    assert ben.get(f"/api/build/templates.zip?airframe={airframe}").status_code == 404
    for wrong in ("paper=A9", "kerf_mm=-1"):
        assert ann.get(f"/api/build/templates.zip?airframe={airframe}&{wrong}").status_code == 422


TRACE = {
    "name": "Fin", "outline": [[100, 100], [500, 100], [500, 300], [100, 300]],
    "scale": {"first": [100, 400], "second": [300, 400], "mm": 100},
}  # fmt: skip


def test_a_traced_piece_is_measured_and_saved_and_what_is_wrong_with_it_is_named(ann):
    status, told = ann.send("POST", "build/trace", {"trace": TRACE})
    assert status == 200 and (told["long_mm"], told["wide_mm"]) == pytest.approx((200, 100))
    reply = ann.post("/api/build/trace.zip", {"trace": TRACE, "paper": "Letter"}, "application/json")
    assert reply.status_code == 200
    names = zipfile.ZipFile(io.BytesIO(reply.content)).namelist()
    assert names == ["traced-fin.dxf", "traced-fin.svg", "traced-fin.pdf"]
    for wrong, path in (
        ({"outline": TRACE["outline"][:2]}, "trace.outline"), ({"name": ""}, "trace.name"),
        ({"outline": [[0, 0], [9, 9], [9, 0], [0, 9]]}, "trace.outline"),
        ({"scale": {"first": [1, 1], "second": [2, 1], "mm": 100}}, "trace.scale.second"),
        ({"scale": {"first": [1, 1], "second": [200, 1], "mm": -1}}, "trace.scale.mm"),
    ):  # fmt: skip
        for where in ("build/trace", "build/trace.zip"):
            status, told = ann.send("POST", where, {"trace": TRACE | wrong})
            assert (status, [p["path"] for p in told["problems"]]) == (422, [path])


def adopted(client) -> tuple[str, dict[str, Any]]:
    """A crashed airframe with a repair that was taken up: where its work lies, and the job."""
    state = client.send("POST", "airframes", crashed_airframe().model_dump(mode="json"))[1]
    recipe = dict(crash_candidates())["Rod and contact glue"].model_dump(mode="json")
    body = {"revision": state["revision"], "part_id": "right-wing", "recipe": recipe}
    return "build/" + state["id"], client.send("POST", f"crash/airframes/{state['id']}/adopt", body)[1]["job"]


def mending(client, here: str, job: dict[str, Any], **more: Any) -> dict[str, Any]:
    work = client.send("GET", here)[1]["work"]
    status, told = client.send("POST", "build/repair-plan", {"job_id": job["id"], "work": work, **more})
    assert status == 200, told
    return told


def states(told: dict[str, Any]) -> list[str]:
    return [p["state"] for p in told["planned"]]


def test_an_adopted_repair_is_planned_and_bench_and_crash_desk_say_the_same(ann, ben):
    here, job = adopted(ann)
    told = mending(ann, here, job)
    does = [t for t in job["tasks"] if t["operation"]["minutes"]["high"] > 0]
    assert len(told["operations"]) == len(does) + 1 and set(states(told)) == {"open"}
    first = told["operations"][0]["key"]
    assert first == f"repair/{job['id']}/1" and told["operations"][0]["how"]
    ann.send("POST", f"{here}/presses", {"presses": [pressed(key=first)]})
    jobs = ann.send("GET", f"crash/airframes/{here[6:]}/jobs")[1]
    assert [t["done"] is not None for t in jobs[0]["tasks"]][:2] == [True, False]
    assert states(mending(ann, here, job))[0] == "done"
    ann.send("PUT", f"crash/jobs/{job['id']}/tasks/1", {"done": False})
    ann.send("PUT", f"crash/jobs/{job['id']}/tasks/2", {"done": True})
    by_key = {p["key"]: p["state"] for p in mending(ann, here, job)["planned"]}
    assert (by_key[first], by_key[f"repair/{job['id']}/2"]) == ("open", "done")
    assert ben.send("POST", "build/repair-plan", {"job_id": job["id"]})[0] == 422
    status, told = ann.send("POST", "build/repair-plan", {"job_id": job["id"], "shop": {"people": 9}})
    assert (status, told["problems"][0]["path"]) == (422, "shop.people")
    short = {"hours": [{"from_hour": 18, "to_hour": 18.05}]}
    status, told = ann.send("POST", "build/repair-plan", {"job_id": job["id"], "shop": short})
    assert status == 422 and "without a break" in told["problems"][0]["message"]


def test_changes_of_a_repair_stand_beside_those_of_the_build(ann):
    here, job = adopted(ann)
    first, second = (f"repair/{job['id']}/{n}" for n in (1, 2))
    longer = {"what": "time", "key": first, "minutes": 90}
    status, told = ann.send("PUT", f"{here}/changes", {"revision": 0, "changes": [longer]})
    assert status == 200
    assert mending(ann, here, job)["operations"][0]["minutes"]["typ"] == 90
    ring = [{"what": "order", "key": first, "after": second}]
    status, told = ann.send("PUT", f"{here}/changes", {"revision": 1, "changes": ring})
    assert status == 422 and "wait for one another" in told["problems"][0]["message"]
    gone = {"what": "time", "key": f"repair/{uuid4()}/1", "minutes": 5}
    assert ann.send("PUT", f"{here}/changes", {"revision": 1, "changes": [gone]})[0] == 200
    ann.send("POST", f"{here}/presses", {"presses": [pressed(key=gone["key"])]})  # of a job that is gone: kept, no more
    plan = {"document": crashed_airframe().model_dump(mode="json"), "work": ann.send("GET", here)[1]["work"]}
    assert not any("does nothing" in r for r in ann.send("POST", "studies/plan", plan)[1]["remarks"])


def shelf(client) -> list[tuple[str, float, float | None, int]]:
    rows = client.send("GET", "stock/own")[1]
    found = [(r["item"]["key"], r["item"]["length_mm"], r["item"]["width_mm"], r["item"]["count"]) for r in rows]
    return sorted(found, key=str)


def put_on(client, **item: Any) -> dict[str, Any]:
    return client.send("POST", "stock/own", {"item": item})[1]


def step_for(stock: str) -> str:
    """The step that the first piece of a stock of the airframe is cut for."""
    found = cut_list(AIRFRAME, CutWish())
    bars = [p.step for b in found.bars if b.key == stock for c in b.cuts for p in c.pieces]
    return bars[0] if bars else next(p.step for s in found.sheets if s.key == stock for x in s.sheets for p in x.pieces)


def test_a_step_that_is_done_uses_up_what_it_is_cut_from_and_gives_it_back(ann, here):
    rod = put_on(ann, kind="bar", key="carbon_rod_3", length_mm=1000, count=2)
    put_on(ann, kind="sheet", key="epp_30", length_mm=900, width_mm=600, count=1)
    before, step = shelf(ann), step_for("carbon_rod_3")
    done = pressed(key=step, at="2026-11-30T18:00:00Z")
    ann.send("POST", f"{here}/presses", {"presses": [done]})
    rods = [t for t in shelf(ann) if t[0] == "carbon_rod_3"]
    assert sum(n for _, mm, _, n in rods if mm == 1000) < 2
    cuts = ann.send("GET", f"stock/cuts/{here[6:]}")[1]
    assert all(step in c["steps"] for c in cuts) and cuts and all(c["key"] == "carbon_rod_3" for c in cuts)
    ann.send("POST", f"{here}/presses", {"presses": [done]})  # sent twice, taken once
    assert [t for t in shelf(ann) if t[0] == "carbon_rod_3"] == rods
    ann.send("POST", f"{here}/presses", {"presses": [pressed("undone", step, "2026-11-30T19:00:00Z")]})
    assert shelf(ann) == before and ann.send("GET", f"stock/cuts/{here[6:]}")[1] == []
    assert rod["id"]


def test_what_another_step_still_needs_is_not_given_back(ann, here):
    """One rod for both halves: it stays cut while either is done."""
    put_on(ann, kind="bar", key="carbon_rod_3", length_mm=2000)
    before = shelf(ann)
    ann.send("POST", f"{here}/presses", {"presses": [pressed(key=step_for("carbon_rod_3"))]})
    (cut,) = ann.send("GET", f"stock/cuts/{here[6:]}")[1]
    one, other = cut["steps"][:2]
    cutting = shelf(ann)
    first = step_for("carbon_rod_3")
    rest = other if first == one else one
    ann.send("POST", f"{here}/presses", {"presses": [pressed(key=rest, at="2026-11-30T18:10:00Z")]})
    assert shelf(ann) == cutting
    ann.send("POST", f"{here}/presses", {"presses": [pressed("undone", first, "2026-11-30T19:00:00Z")]})
    assert shelf(ann) == cutting
    ann.send("POST", f"{here}/presses", {"presses": [pressed("undone", rest, "2026-11-30T19:10:00Z")]})
    assert shelf(ann) == before


def test_a_sheet_goes_with_its_step_and_its_rest_comes_back(ann, here):
    put_on(ann, kind="sheet", key="epp_30", length_mm=900, width_mm=600, count=2)
    step = step_for("epp_30")
    ann.send("POST", f"{here}/presses", {"presses": [pressed(key=step)]})
    left = shelf(ann)
    assert ("epp_30", 900, 600, 1) in left and len(left) == 2
    (cut,) = ann.send("GET", f"stock/cuts/{here[6:]}")[1]
    assert cut["sheets"] and cut["pieces_mm"] == []
    made = [{"stock": "epp_30", "mm": [[p["long_mm"], p["wide_mm"]] for p in cut["sheets"]]}]
    document = ann.send("GET", f"airframes/{here[6:]}")[1]["document"]
    body = {"document": document, "wish": {"made_sheets": made}}
    assert not any(s["key"] == "epp_30" for s in ann.send("POST", "studies/cut-list", body)[1]["sheets"])


def test_what_is_reserved_elsewhere_scrapped_or_missing_is_left(ann, here):
    other = ann.send("POST", "airframes", AIRFRAME.model_dump(mode="json"))[1]["id"]
    rod = put_on(ann, kind="bar", key="carbon_rod_3", length_mm=1000)
    ann.send("PUT", f"stock/own/{rod['id']}", {"revision": 1, "item": rod["item"], "reserved_for": other})
    before, step = shelf(ann), step_for("carbon_rod_3")
    status, told = ann.send("POST", f"{here}/presses", {"presses": [pressed(key=step), pressed(key=CORE)]})
    assert status == 200 and len(told["work"]["presses"]) == 2 and shelf(ann) == before


def test_an_offcut_that_was_used_since_stays_cut(ann, here):
    put_on(ann, kind="bar", key="carbon_rod_3", length_mm=1000)
    step = step_for("carbon_rod_3")
    ann.send("POST", f"{here}/presses", {"presses": [pressed(key=step)]})
    (cut,) = ann.send("GET", f"stock/cuts/{here[6:]}")[1]
    for row in ann.send("GET", "stock/own")[1]:
        ann.send("DELETE", f"stock/own/{row['id']}")
    status, _ = ann.send("POST", f"{here}/presses", {"presses": [pressed("undone", step)]})
    assert status == 200
    left = ann.send("GET", f"stock/cuts/{here[6:]}")[1]
    assert [c["id"] for c in left] in ([cut["id"]], [])
