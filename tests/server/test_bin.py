"""What is deleted rests for thirty days; shelves and histories have room for so much and no more."""

from __future__ import annotations

import copy
from datetime import timedelta

import pytest
from django.utils import timezone

from fletcher.server.airframes import services
from fletcher.server.airframes.models import Airframe, Revision

pytestmark = pytest.mark.django_db


def test_a_deleted_airframe_is_taken_back_as_it_was(ann, ben, wing):
    at, part = f"airframes/{wing['id']}", wing["document"]["parts"][0]["id"]
    assert ann.send("POST", f"{at}/pins", {"part_id": part, "revision": 1, "name": "first"})[0] == 201
    ann.send("POST", f"crash/{at}/log", {"event": {"kind": "note", "says": "Trimmed."}})
    assert ann.send("DELETE", at)[0] == 204
    assert ann.send("GET", at)[0] == 404 and ann.send("GET", "airframes")[1] == []
    assert ann.send("PUT", at, {"revision": 1, "document": wing["document"]})[0] == 404
    (row,) = ann.send("GET", "bin")[1]
    assert row["id"] == wing["id"] and row["name"] == wing["document"]["name"]
    assert ben.send("GET", "bin")[1] == [] and ben.send("POST", f"bin/{wing['id']}/back")[0] == 404
    status, state = ann.send("POST", f"bin/{wing['id']}/back")
    assert status == 200 and state["document"] == wing["document"] and ann.send("GET", "bin")[1] == []
    assert [p["name"] for p in ann.send("GET", f"{at}/pins")[1]] == ["first"]
    assert len(ann.send("GET", f"crash/{at}/log")[1]["entries"]) == 1
    assert ann.send("POST", f"bin/{wing['id']}/back")[0] == 404


def test_what_has_rested_long_enough_goes_for_good(ann, wing, document):
    _, other = ann.send("POST", "airframes", {**document, "name": "Second"})
    ann.send("DELETE", f"airframes/{wing['id']}")
    for days, left in ((29, 2), (31, 1)):
        Airframe.everyone.filter(id=wing["id"]).update(deleted=timezone.now() - timedelta(days=days))
        assert len(ann.send("GET", "bin")[1]) == left - 1
        ann.send("DELETE", f"airframes/{other['id']}")
        assert Airframe.everyone.count() == left
        Airframe.everyone.filter(id=other["id"]).update(deleted=None)


def test_what_has_rested_too_long_is_not_taken_back(ann, wing):
    ann.send("DELETE", f"airframes/{wing['id']}")
    Airframe.everyone.update(deleted=timezone.now() - timedelta(days=31))
    assert ann.send("POST", f"bin/{wing['id']}/back")[0] == 404


def test_what_is_in_the_bin_is_deleted_for_good_on_demand_and_nothing_else_is(ann, wing):
    assert ann.send("DELETE", f"bin/{wing['id']}")[0] == 404
    ann.send("DELETE", f"airframes/{wing['id']}")
    assert ann.send("DELETE", f"bin/{wing['id']}")[0] == 204 and not Airframe.everyone.exists()


def test_a_full_shelf_is_told_as_that(ann, ben, wing, document, monkeypatch):
    monkeypatch.setattr(services, "MOST_AIRFRAMES", 2)
    assert ann.send("POST", "airframes", document)[0] == 201
    status, told = ann.send("POST", "airframes", document)
    assert status == 422 and "at most 2" in told["problems"][0]["message"]
    assert ben.send("POST", "airframes", document)[0] == 201
    ann.send("DELETE", f"airframes/{wing['id']}")
    assert ann.send("POST", "airframes", document)[0] == 201
    assert ann.send("POST", f"bin/{wing['id']}/back")[0] == 422


def test_old_revisions_are_thinned_pins_stay_and_undo_goes_on(ann, wing, monkeypatch):
    monkeypatch.setattr(services, "KEPT_REVISIONS", 20)
    at, part = f"airframes/{wing['id']}", wing["document"]["parts"][0]["id"]
    for n in range(1, 50):
        document = copy.deepcopy(wing["document"])
        document["parts"][0]["root_chord_mm"] = 150 + n
        assert ann.send("PUT", at, {"revision": n, "document": document})[0] == 200
        if n == 13:
            assert ann.send("POST", f"{at}/pins", {"part_id": part, "revision": 13, "name": "13"})[0] == 201
    numbers = list(Revision.objects.order_by("number").values_list("number", flat=True))
    assert numbers == [1, 10, 13, 20, 30, *range(31, 51)]
    assert [p["revision"] for p in ann.send("GET", f"{at}/pins")[1]] == [13]
    chords, revision = [], 50
    while True:
        state = ann.send("POST", f"{at}/undo", {"revision": revision})[1]
        if state["revision"] == revision:
            break
        revision = state["revision"]
        chords.append(state["document"]["parts"][0]["root_chord_mm"])
    assert chords[0] == 198 and chords[-1] == wing["document"]["parts"][0]["root_chord_mm"]
    assert chords == sorted(chords[:-1], reverse=True) + chords[-1:]
