"""History, variants that are pinned up, and taking an airframe off the shelf."""

from __future__ import annotations

import json
import threading

import pytest
from django.db import IntegrityError, connection, transaction

from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.validation.airframe import read
from fletcher.server.airframes.models import Airframe, Pin, Revision
from tests.server.conftest import JsonClient


def change(client, state, **fields):
    wing = state["document"]["parts"][0]
    parts = [{**wing, **fields}, *state["document"]["parts"][1:]]
    body = {"revision": state["revision"], "document": {**state["document"], "parts": parts}}
    status, after = client.send("PUT", f"airframes/{state['id']}", body)
    assert status == 200
    return after


def pin(client, state, name="Try", part_id="wing", revision=None):
    body = {"part_id": part_id, "revision": revision or state["revision"], "name": name}
    return client.send("POST", f"airframes/{state['id']}/pins", body)


def test_history_tells_every_change_in_words_the_newest_first(ann, wing):
    state = change(ann, wing, root_chord_mm=190)
    state = change(ann, state, root_chord_mm=200, foam="epp_45")
    status, entries = ann.send("GET", f"airframes/{wing['id']}/revisions")
    assert status == 200
    assert [e["number"] for e in entries] == [3, 2, 1]
    assert "Left wing half: root chord 190 mm → 200 mm" in entries[0]["says"]
    assert any("30 kg/m³ → Bead foam PP, 45 kg/m³" in s for s in entries[0]["says"])
    assert entries[2]["says"] == ["made"]
    assert "wing" in entries[0]["parts"]


def test_history_comes_in_pages(ann, wing):
    state = wing
    for n in range(44):
        state = change(ann, state, root_chord_mm=181 + n)
    first = ann.send("GET", f"airframes/{wing['id']}/revisions")[1]
    older = ann.send("GET", f"airframes/{wing['id']}/revisions?before={first[-1]['number']}")[1]
    assert [len(first), len(older)] == [40, 5]
    assert [e["number"] for e in first + older] == list(range(45, 0, -1))
    assert older[0]["says"] == ["Left wing half: root chord 183 mm → 184 mm"]


def test_any_earlier_state_can_be_read_and_pinned(ann, wing):
    state = change(ann, wing, root_chord_mm=190)
    path = f"airframes/{wing['id']}/revisions/1"
    assert ann.send("GET", path)[1]["document"] == wing["document"]
    status, made = pin(ann, state, "As it was", revision=1)
    assert status == 201
    assert made["part"]["root_chord_mm"] == 180
    assert ann.send("GET", f"airframes/{wing['id']}/pins")[1] == [made]


def test_six_variants_of_a_part_and_no_more(ann, wing):
    for n in range(6):
        assert pin(ann, wing, f"Try {n}")[0] == 201
    status, refused = pin(ann, wing, "Try 7")
    assert status == 422
    assert "six" in refused["problems"][0]["message"] or "6 variants" in refused["problems"][0]["message"]
    # another part has its own six
    assert pin(ann, wing, "Plank", part_id="plank")[0] == 201
    first = ann.send("GET", f"airframes/{wing['id']}/pins")[1][0]
    assert ann.send("DELETE", f"airframes/{wing['id']}/pins/{first['id']}")[0] == 204
    assert pin(ann, wing, "Try 7")[0] == 201


def elsewhere(client, state, part, name="Other", part_id="wing", **more):
    body = {"part_id": part_id, "part": part, "name": name, **more}
    return client.send("POST", f"airframes/{state['id']}/pins", body)


def test_a_part_from_elsewhere_is_pinned_checked_and_outlives_its_source(ann, wing, document):
    foam = {**wing["document"]["parts"][0], "id": "other", "tip_chord_mm": 111}
    other = ann.send("POST", "airframes", {**document, "name": "Other", "parts": [foam]})[1]
    status, made = elsewhere(ann, wing, foam)
    assert status == 201 and made["revision"] is None
    assert made["part"]["id"] == "wing" and made["part"]["tip_chord_mm"] == 111
    ann.send("DELETE", f"airframes/{other['id']}")
    assert ann.send("GET", f"airframes/{wing['id']}/pins")[1] == [made]
    assert ann.send("GET", f"airframes/{wing['id']}")[1]["revision"] == wing["revision"]  # the part itself is untouched


def test_what_cannot_be_a_variant_is_refused_whole(ann, wing):
    part = wing["document"]["parts"][0]
    assert elsewhere(ann, wing, {**part, "root_thickness_mm": 150})[0] == 422
    assert elsewhere(ann, wing, {**part, "foam": "own:nobody"})[0] == 422
    assert elsewhere(ann, wing, part, part_id="rudder")[0] == 422
    assert elsewhere(ann, wing, part, revision=1)[1]["problems"][0]["path"] == "revision"
    body = {"part_id": "wing", "name": "Neither"}
    assert ann.send("POST", f"airframes/{wing['id']}/pins", body)[0] == 422
    assert ann.send("GET", f"airframes/{wing['id']}/pins")[1] == []


def test_variants_travel_in_the_airframes_file(ann, wing):
    state = change(ann, wing, root_chord_mm=190)
    pin(ann, state, "As it was", revision=1)
    elsewhere(ann, state, {**wing["document"]["parts"][0], "tip_chord_mm": 111}, name="Shorter")
    file = json.loads(ann.get(f"/api/airframes/{wing['id']}/file").content)
    assert [v["name"] for v in file["variants"]] == ["As it was", "Shorter"]
    assert read(file).airframe == Document.model_validate(state["document"])  # the terminal reads it too
    status, back = ann.send("POST", "airframes", file)
    assert status == 201 and back["document"] == state["document"]
    told = ann.send("GET", f"airframes/{back['id']}/pins")[1]
    assert [(p["name"], p["part"]["root_chord_mm"], p["part"]["tip_chord_mm"]) for p in told] == [
        ("As it was", 180, 140), ("Shorter", 180, 111)
    ]  # fmt: skip
    assert back["revision"] == 1


def test_a_variant_of_a_measured_material_that_is_gone_still_travels(ann, document):
    rod = {"id": "my_rod", "table": "bar", "like": "carbon_rod_3", "name": "Rod from the drawer",
           "values": [{"of": "E_MPa", "typ": 90_000}]}  # fmt: skip
    wing, *others = document["parts"]
    spar = next(la for la in wing["layers"] if la["type"] == "bar")
    layers = [{**la, "stock": "my_rod"} if la is spar else la for la in wing["layers"]]
    own = {**document, "materials": [rod], "parts": [{**wing, "layers": layers}, *others]}
    status, state = ann.send("POST", "airframes", own)
    assert status == 201 and pin(ann, state, "With my rod", part_id=wing["id"])[0] == 201
    body = {"revision": 1, "document": {**document, "materials": []}}
    assert ann.send("PUT", f"airframes/{state['id']}", body)[0] == 200
    file = json.loads(ann.get(f"/api/airframes/{state['id']}/file").content)
    assert file["materials"] == [] and file["variants"][0]["document"]["materials"][0]["id"] == "my_rod"
    status, back = ann.send("POST", "airframes", file)
    assert status == 201, back
    (kept,) = ann.send("GET", f"airframes/{back['id']}/pins")[1]
    assert kept["name"] == "With my rod" and kept["part"]["id"] == wing["id"]


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"part_id": "rudder"}, "variants[0].part_id"),
        ({"name": ""}, "variants[0].name"),
        ({"thick": 150}, "variants[0].document.parts[0].root_thickness_mm"),
    ],
)
def test_a_file_with_a_bad_variant_puts_nothing_on_the_shelf(ann, wing, change, path):
    pin(ann, wing, "As it was", revision=1)
    file = json.loads(ann.get(f"/api/airframes/{wing['id']}/file").content)
    thick = change.pop("thick", None)
    file["variants"][0].update(change)
    if thick:
        file["variants"][0]["document"]["parts"][0]["root_thickness_mm"] = thick
    before = len(ann.send("GET", "airframes")[1])
    status, told = ann.send("POST", "airframes", file)
    assert status == 422 and told["problems"][0]["path"].startswith(path)
    many = {**file, "variants": [{**file["variants"][0], **({"part_id": "wing", "name": "V"})}] * 7}
    assert ann.send("POST", "airframes", many)[0] == 422
    assert len(ann.send("GET", "airframes")[1]) == before


def test_two_windows_cannot_pin_a_seventh_at_once(transactional_db, document):
    from tests.server.conftest import builder

    ann = builder("ann-at-once")
    wing = ann.send("POST", "airframes", document)[1]
    for n in range(5):
        pin(ann, wing, f"Try {n}")
    statuses: list[int] = []
    gate = threading.Barrier(2)

    def one():
        other = JsonClient()
        other.cookies = ann.cookies
        gate.wait()
        statuses.append(pin(other, wing, "at once")[0])
        connection.close()

    threads = [threading.Thread(target=one) for _ in range(2)]
    for t in threads:
        t.start()
    for t in threads:
        t.join(30)
    assert sorted(statuses) == [201, 422]


@pytest.mark.parametrize(
    ("body", "status", "path"),
    [
        ({"part_id": "nose", "revision": 1, "name": "x"}, 422, "part_id"),
        ({"part_id": "wing", "revision": 99, "name": "x"}, 404, None),
        ({"part_id": "wing", "revision": 1, "name": ""}, 422, "name"),
        ({"part_id": "wing", "revision": 1, "name": "a\u0000b"}, 422, "name"),
        ({"part_id": "wing", "revision": 1, "name": "n" * 61}, 422, "name"),
    ],
)
def test_a_pin_that_cannot_be_is_refused(ann, wing, body, status, path):
    got, told = ann.send("POST", f"airframes/{wing['id']}/pins", body)
    assert got == status
    if path:
        assert told["problems"][0]["path"] == path
    assert ann.send("GET", f"airframes/{wing['id']}/pins")[1] == []


def test_a_pin_is_renamed_and_keeps_its_state(ann, wing):
    made = pin(ann, wing, "Try 1")[1]
    change(ann, wing, root_chord_mm=190)
    status, renamed = ann.send("PUT", f"airframes/{wing['id']}/pins/{made['id']}", {"name": "Narrow"})
    assert status == 200
    assert renamed == {**made, "name": "Narrow"}


def test_nobody_sees_or_changes_what_is_pinned_on_anothers_shelf(ann, ben, wing):
    made = pin(ann, wing, "Mine")[1]
    base = f"airframes/{wing['id']}"
    tries = [
        ("GET", f"{base}/pins", None),
        ("POST", f"{base}/pins", {"part_id": "wing", "revision": 1, "name": "x"}),
        ("PUT", f"{base}/pins/{made['id']}", {"name": "x"}),
        ("DELETE", f"{base}/pins/{made['id']}", None),
        ("GET", f"{base}/revisions", None),
        ("GET", f"{base}/revisions/1", None),
        ("DELETE", base, None),
    ]
    for method, path, body in tries:
        assert ben.send(method, path, body)[0] == 404
    assert ann.send("GET", f"{base}/pins")[1] == [made]
    assert JsonClient().send("GET", f"{base}/pins")[0] == 401


def test_taking_an_airframe_off_takes_its_states_and_pins_along(ann, wing):
    pin(ann, wing, "Mine")
    change(ann, wing, root_chord_mm=190)
    assert ann.send("DELETE", f"airframes/{wing['id']}")[0] == 204
    assert ann.send("GET", "airframes")[1] == []
    assert ann.send("DELETE", f"bin/{wing['id']}")[0] == 204
    assert not Revision.objects.filter(airframe_id=wing["id"]).exists()
    assert not Pin.objects.filter(airframe_id=wing["id"]).exists()


def test_a_pin_without_a_name_is_impossible_in_the_database(ann, wing):
    revision = Revision.objects.get(airframe_id=wing["id"], number=1)
    with pytest.raises(IntegrityError), transaction.atomic():
        Pin.objects.create(airframe_id=wing["id"], part_id="wing", name="", revision=revision)


def test_asking_for_airframes_without_an_owner_is_an_error(ann):
    with pytest.raises(TypeError, match="name the owner"):
        Airframe.objects.all()


def test_what_another_window_changed_since_a_revision_is_told(ann, ben, wing):
    at = f"airframes/{wing['id']}"
    assert ann.send("GET", f"{at}/since/1")[1] == {"revision": 1, "says": [], "device": "", "state": None}
    wing["document"]["parts"][0]["root_chord_mm"] += 7
    ann.send("PUT", at, {"revision": 1, "document": wing["document"]})
    news = ann.send("GET", f"{at}/since/1")[1]
    assert news["revision"] == 2 and news["state"]["document"] == wing["document"] and len(news["says"]) == 1
    for said, told in (("phone", "phone"), ("a tern", ""), ("tablet", "tablet")):
        number = ann.send("GET", at)[1]["revision"]
        wing["document"]["parts"][0]["root_chord_mm"] += 1
        ann.defaults["HTTP_X_DEVICE"] = said
        ann.send("PUT", at, {"revision": number, "document": wing["document"]})
        assert ann.send("GET", f"{at}/since/{number}")[1]["device"] == told
    ann.send("POST", f"{at}/undo", {"revision": number + 1})
    assert ann.send("GET", f"{at}/since/{number}")[1]["device"] == "tablet"
    assert ann.send("GET", f"{at}/since/9")[0] == 404 and ben.send("GET", f"{at}/since/1")[0] == 404
    ann.send("DELETE", at)
    assert ann.send("GET", f"{at}/since/2")[0] == 404
