"""Balance on the server: lessons of the builder's other airframes, tables out and in."""

import csv
import io

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.weighings import OnScale, Weighing
from fletcher.server.studies import lessons

pytestmark = pytest.mark.django_db
WARDEN = demo_airframes()[0].model_copy(update={"weighings": ()})
SPAR = tuple(f"wing/right/{k}" for k in ("core", "spar", "spar/glue"))


def weighed(grams):
    one = Weighing(id="a", lines=SPAR, reading=OnScale(grams=50))
    skin = Weighing(id="b", lines=(*SPAR, "wing/right/film", "wing/right/tape"), reading=OnScale(grams=grams))
    return WARDEN.model_copy(update={"weighings": (one, skin)})


def sheet(client, document, airframe_id=None):
    body = {"document": document.model_dump(mode="json"), "airframe_id": airframe_id}
    status, told = client.send("POST", "studies/balance", body)
    assert status == 200, told
    return told


def skins(told):
    return next(g["grams"]["typ"] for g in told["groups"] if g["group"] == "skins")


def test_what_one_airframe_taught_is_foreseen_for_the_next_and_only_for_its_builder(ann, ben):
    before = sheet(ann, WARDEN)
    own = ann.send("POST", "airframes", weighed(71.5).model_dump(mode="json"))[1]
    after = sheet(ann, WARDEN)
    assert skins(after) > skins(before) + 0.2
    assert sheet(ben, WARDEN) == before
    # its own weighings are not counted twice
    assert sheet(ann, WARDEN, own["id"]) == before
    ann.send("DELETE", f"airframes/{own['id']}")
    assert sheet(ann, WARDEN) == before


def test_only_some_airframes_are_learned_from(ann, monkeypatch):
    before = sheet(ann, WARDEN)
    ann.send("POST", "airframes", weighed(71.5).model_dump(mode="json"))
    ann.send("POST", "airframes", WARDEN.model_dump(mode="json"))
    monkeypatch.setattr(lessons, "AT_MOST", 0)
    assert sheet(ann, WARDEN) == before


def test_tables_go_out_and_come_in(ann):
    body = {"document": WARDEN.model_dump(mode="json")}
    ledger = ann.send("POST", "studies/ledger-table", body)[1]["text"]
    rows = list(csv.DictReader(io.StringIO(ledger)))
    assert {r["item"] for r in rows} == {x["name"] for x in sheet(ann, WARDEN)["lines"]}
    equipment = ann.send("POST", "studies/equipment-table", body)[1]["text"]
    status, items = ann.send("POST", "studies/equipment-from-table", {"text": equipment})
    assert status == 200 and [i["x_mm"] for i in items] == [e.x_mm for e in WARDEN.equipment]
    status, told = ann.send("POST", "studies/equipment-from-table", {"text": "name,mass g,x mm\nRod,heavy,3\n"})
    assert status == 422 and told["problems"][0]["path"] == "line 2.mass_g"


def test_a_weighing_that_cannot_be_is_refused_by_field(ann):
    odd = weighed(40).model_dump(mode="json")
    status, told = ann.send("POST", "studies/balance", {"document": odd})
    assert status == 422 and told["problems"][0]["path"].endswith("weighings[1].reading.grams")
    assert ann.send("POST", "airframes", odd)[0] == 422 and ann.send("GET", "airframes")[1] == []


def test_a_plan_is_made_in_the_hours_of_the_shop(ann, client):
    body = {"document": demo_airframes()[0].model_dump(mode="json"),
            "shop": {"hours": [{"from_hour": 18, "to_hour": 22}], "begins": "2026-06-01T18:00:00Z"}}  # fmt: skip
    status, told = ann.send("POST", "studies/plan", body)
    assert status == 200 and told["says"].startswith("First flight") and len(told["planned"]) == len(told["operations"])
    assert all("T18:" <= p["begins"][10:] < "T22:" for p in told["planned"] if p["key"] != "flight")
    assert "BEGIN:VEVENT" in ann.send("POST", "studies/plan-calendar", body)[1]["text"]
    body["shop"]["hours"][0]["to_hour"] = 18.1
    status, told = ann.send("POST", "studies/plan", body)
    assert status == 422 and "without a break" in told["problems"][0]["message"]
    assert ann.send("POST", "studies/plan-calendar", body)[0] == 422
    body["shop"] = {"people": 0, "zone": "../etc/passwd"}
    status, told = ann.send("POST", "studies/plan", body)
    assert {p["path"] for p in told["problems"]} == {"shop.people", "shop.zone"} and status == 422
    body["shop"] = {"zone": "x/../../y"}
    assert ann.send("POST", "studies/plan", body)[0] == 422


def test_a_cut_list_is_made_of_a_document(ann):
    body = {"document": demo_airframes()[0].model_dump(mode="json"),
            "wish": {"own": [{"stock": "carbon_rod_3", "mm": [980, 980]}]}}  # fmt: skip
    status, told = ann.send("POST", "studies/cut-list", body)
    rods = next(b for b in told["bars"] if b["key"] == "carbon_rod_3")
    assert status == 200 and rods["buy"] == 0 and all(c["own"] for c in rods["cuts"])
    assert told["long_bars"] == []
    body["wish"]["own"][0]["mm"] = []
    assert ann.send("POST", "studies/cut-list", body)[0] == 422


def test_a_spar_that_is_longer_than_stock_is_joined_where_it_is_offered(ann):
    document = demo_airframes()[0].model_dump(mode="json")
    part = next(p for p in document["parts"] if any(la["type"] == "bar" for la in p["layers"]))
    part["span_mm"] = 1300.0
    for la in part["layers"]:
        la["end_mm"] = None
    status, told = ann.send("POST", "studies/splices", {"document": document})
    assert status == 200 and told["offers"]
    offer = told["offers"][0]
    assert offer["part_id"] == part["id"] and "Join it" in offer["says"]
    for la in part["layers"]:
        if la["id"] == offer["layer_id"]:
            la |= offer["layer"]
    again = ann.send("POST", "studies/splices", {"document": document})[1]
    assert offer["layer_id"] not in [o["layer_id"] for o in again["offers"]]
    assert ann.send("POST", "studies/splices", {"document": document, "wish": {"kerf_mm": -1}})[0] == 422


def test_lighter_parts_are_computed_for_a_document(ann):
    body = {"document": demo_airframes()[0].model_dump(mode="json") | {"top_speed_m_s": 6.0}}
    status, told = ann.send("POST", "studies/lighter", body)
    assert status == 200 and told[0]["enough"] and told[0]["grams"] < 0
