"""The builder's shelf: put on, changed on what was seen, reserved, cut and taken back, tables, scrap, which foam."""

from __future__ import annotations

from typing import Any

import pytest

from fletcher.core.demo.crash import crashed_airframe
from fletcher.core.demo.stock import demo_stock
from fletcher.server.stock import services
from fletcher.server.stock.models import Cut, Thing

pytestmark = pytest.mark.django_db
ROD = {"kind": "bar", "key": "carbon_rod_3", "length_mm": 1000.0}


def put(client: Any, **more: Any) -> dict[str, Any]:
    status, made = client.send("POST", "stock/own", {"item": {**ROD, **more}})
    assert status == 201
    return made


def shelf(client: Any) -> list[tuple[int, float, str]]:
    found = client.send("GET", "stock/own")[1]
    return [(t["item"]["count"], t["item"]["length_mm"], t["item"]["origin"]) for t in found]


def cut(client: Any, thing: dict[str, Any], airframe: dict[str, Any], *pieces: float) -> tuple[int, Any]:
    body = {"airframe_id": airframe["id"], "pieces_mm": pieces}
    return client.send("POST", f"stock/own/{thing['id']}/cut", body)


def test_a_thing_is_put_on_changed_on_what_was_seen_and_taken_off(ann):
    made = put(ann, place="tube rack")
    assert made["name"] and made["says"] == "1000 mm" and made["revision"] == 1
    body = {"revision": 1, "item": {**made["item"], "length_mm": 800.0}}
    status, changed = ann.send("PUT", f"stock/own/{made['id']}", body)
    assert (status, changed["says"], changed["revision"]) == (200, "800 mm", 2)
    status, stale = ann.send("PUT", f"stock/own/{made['id']}", body)
    assert status == 409 and stale["revision"] == 2
    assert ann.send("DELETE", f"stock/own/{made['id']}")[0] == 204 and ann.send("GET", "stock/own")[1] == []


@pytest.mark.parametrize(
    ("change", "path"),
    [({"key": "epp_30"}, "item.key"), ({"length_mm": None}, "item.length_mm"), ({"length_mm": -1}, "item.length_mm"),
     ({"kind": "rope"}, "item.kind"), ({"opened": "1801-01-01"}, "item.opened"), ({"note": "\u202e"}, "item.note"),
     ({"origin": "scrap"}, "item.origin"), ({"colour": "red"}, "item.colour")],
)  # fmt: skip
def test_what_is_no_thing_is_refused_by_its_field(ann, change, path):
    status, said = ann.send("POST", "stock/own", {"item": {**ROD, **change}})
    assert status == 422 and said["problems"][0]["path"].endswith(path) and not Thing.everyone.exists()


def test_what_is_cut_leaves_its_rest_and_a_cut_is_taken_back_to_the_millimetre(ann, wing):
    made = put(ann, count=2)
    status, first = cut(ann, made, wing, 300, 250)
    assert status == 201 and first["pieces_mm"] == [300, 250]
    assert sorted(shelf(ann)) == [(1, 448.0, "offcut"), (1, 1000.0, "bought")]
    second = cut(ann, made, wing, 900)[1]
    assert shelf(ann) == [(1, 448.0, "offcut")]
    assert [c["pieces_mm"] for c in ann.send("GET", f"stock/cuts/{wing['id']}")[1]] == [[900], [300, 250]]
    for c in (second, first):
        assert ann.send("DELETE", f"stock/own-cuts/{c['id']}")[0] == 200
    assert shelf(ann) == [(2, 1000.0, "bought")] and not Cut.everyone.exists()
    assert ann.send("GET", "stock/own")[1][0]["id"] == made["id"]


def test_a_cut_whose_rest_was_cut_since_is_taken_back_in_order(ann, wing):
    made = put(ann)
    first = cut(ann, made, wing, 300)[1]
    (rest,) = ann.send("GET", "stock/own")[1]
    second = cut(ann, rest, wing, 200)[1]
    status, said = ann.send("DELETE", f"stock/own-cuts/{first['id']}")
    assert status == 422 and "take that back first" in said["problems"][0]["message"]
    for c in (second, first):
        assert ann.send("DELETE", f"stock/own-cuts/{c['id']}")[0] == 200
    assert shelf(ann) == [(1, 1000.0, "bought")]


def test_a_cut_is_taken_back_beside_what_was_changed_since(ann, wing):
    made = put(ann, count=2)
    one = cut(ann, made, wing, 900)[1]
    (left,) = ann.send("GET", "stock/own")[1]
    shorter = {"revision": left["revision"], "item": {**left["item"], "length_mm": 800.0}}
    assert ann.send("PUT", f"stock/own/{made['id']}", shorter)[0] == 200
    assert ann.send("DELETE", f"stock/own-cuts/{one['id']}")[0] == 200
    assert sorted(shelf(ann)) == [(1, 800.0, "bought"), (1, 1000.0, "bought")]


def test_what_is_reserved_is_not_cut_for_another_and_too_long_a_piece_changes_nothing(ann, wing, document):
    other = ann.send("POST", "airframes", document)[1]
    made = put(ann)
    body = {"revision": 1, "item": made["item"], "reserved_for": other["id"]}
    assert ann.send("PUT", f"stock/own/{made['id']}", body)[1]["reserved_for"] == other["id"]
    status, said = cut(ann, made, wing, 10)
    assert status == 422 and "reserved" in said["problems"][0]["message"]
    status, said = cut(ann, made, other, 600, 401)
    assert status == 422 and said["problems"][0]["path"] == "pieces_mm" and shelf(ann) == [(1, 1000.0, "bought")]
    assert cut(ann, made, other, 600)[0] == 201


def test_a_table_is_looked_at_then_put_on_all_or_none_and_taken_away(ann):
    text = "kind,material,length mm,count\nbar,carbon_rod_3,500,2\nglue,epoxy_30min,,1\n"
    status, look = ann.send("POST", "stock/own-from-table", {"text": text})
    assert (status, look["put_on"], len(look["things"])) == (200, False, 2) and not Thing.everyone.exists()
    assert ann.send("POST", "stock/own-from-table", {"text": text, "put_on": True})[1]["put_on"]
    assert Thing.everyone.count() == 2
    status, said = ann.send("POST", "stock/own-from-table", {"text": text + "bar,rope,5,1\n", "put_on": True})
    assert status == 422 and said["problems"][0]["path"] == "line 4.key" and Thing.everyone.count() == 2
    taken = ann.send("GET", "stock/own-table")[1]["text"]
    assert ann.send("POST", "stock/own-from-table", {"text": taken})[1]["things"] == look["things"]


def test_no_more_things_than_can_be_kept(ann, monkeypatch):
    monkeypatch.setattr(services, "MOST", 3)
    text = "kind,material\n" + 4 * "glue,epoxy_30min\n"
    status, said = ann.send("POST", "stock/own-from-table", {"text": text, "put_on": True})
    assert status == 422 and "at most 3" in said["problems"][0]["message"] and not Thing.everyone.exists()


def test_foam_comes_from_a_broken_airframe_only_and_never_flies(ann, document):
    flying = ann.send("POST", "airframes", document)[1]
    part = document["parts"][0]["id"]
    status, said = ann.send("POST", f"stock/scrap/{flying['id']}", {"part_id": part})
    assert status == 422 and "never taken from a part that is to fly" in said["problems"][0]["message"]
    wreck = crashed_airframe()
    whole = next(p for p in wreck.parts if p.foam and p.kind == "wing" and not p.damage)
    foam = whole.model_copy(update={"root_thickness_mm": 32.0, "tip_thickness_mm": 26.0})
    parts = tuple(foam if p is whole else p for p in wreck.parts)
    broken = ann.send("POST", "airframes", wreck.model_copy(update={"parts": parts}).model_dump(mode="json"))[1]
    thin = ann.send("POST", "airframes", wreck.model_dump(mode="json"))[1]
    status, said = ann.send("POST", f"stock/scrap/{thin['id']}", {"part_id": foam.id})
    assert status == 422 and "no sound block" in said["problems"][0]["message"]
    status, block = ann.send("POST", f"stock/scrap/{broken['id']}", {"part_id": foam.id})
    assert status == 201 and block["item"]["origin"] == "scrap" and block["item"]["key"] == foam.foam
    assert "never as structure" in block["cautions"][0]
    body = {"revision": 1, "item": block["item"], "reserved_for": flying["id"]}
    assert ann.send("PUT", f"stock/own/{block['id']}", body)[0] == 422
    assert cut(ann, block, flying, 10)[0] == 422


def test_where_a_material_is_used_and_which_foam_a_scrap_is(ann, wing):
    uses = ann.send("GET", "stock/uses")[1]
    stock = next(la["stock"] for la in wing["document"]["parts"][0]["layers"] if la["type"] == "bar")
    assert uses[stock] == [wing["document"]["name"]]
    tests = ann.send("GET", "stock/foam-tests")[1]
    assert {t["test"] for t in tests} >= {"structure", "solvent"} and any(t["caution"] for t in tests)
    answers = {"structure": "beads", "sliver": "snaps", "solvent": "melts"}
    status, guess = ann.send("POST", "stock/which-foam", {"answers": answers})
    assert status == 200 and guess["odds"][0]["family"] == "EPS"
    status, said = ann.send("POST", "stock/which-foam", {"answers": {"dent": "blue"}})
    assert status == 422 and said["problems"][0]["path"] == "answers.dent"


def test_the_demo_shelf_is_possible_and_told(ann):
    for item in demo_stock():
        assert ann.send("POST", "stock/own", {"item": item.model_dump(mode="json")})[0] == 201
    told = ann.send("GET", "stock/own")[1]
    assert len(told) == len(demo_stock()) and sum(bool(t["cautions"]) for t in told) == 1
