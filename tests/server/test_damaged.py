"""One bad row never takes a page: it is told as damaged, its raw file can be saved, the rest lives."""

from __future__ import annotations

import copy
import json

import pytest

from fletcher.core.demo.world import demo_trial
from fletcher.server.airframes.models import Airframe, Revision
from fletcher.server.common.readable import UNREADABLE
from fletcher.server.crash import models as crash
from fletcher.server.joints import models as joints

pytestmark = pytest.mark.django_db


def damaged(client) -> list[tuple[str, str]]:
    return [(row["kind"], row["id"]) for row in client.send("GET", "damaged")[1]]


@pytest.fixture
def two(ann, wing, document):
    """Two airframes of which the second is damaged, and its row."""
    _, other = ann.send("POST", "airframes", {**document, "name": "Torn"})
    Revision.objects.filter(airframe_id=other["id"]).update(document={"name": "Torn", "parts": "gone"})
    return wing, other


def test_a_damaged_airframe_leaves_the_rest_of_the_shelf(ann, ben, two):
    whole, torn = two
    status, shelf = ann.send("GET", "airframes")
    assert status == 200 and [a["id"] for a in shelf] == [whole["id"]]
    assert damaged(ann) == [("airframe", torn["id"])] and damaged(ben) == []
    at = f"damaged/airframe/{torn['id']}"
    assert ann.send("GET", at) == (200, {"name": "Torn", "parts": "gone"})
    assert ben.send("GET", at)[0] == 404 and ben.send("DELETE", at)[0] == 404
    for path in (f"airframes/{torn['id']}", f"airframes/{torn['id']}/file", f"airframes/{torn['id']}/revisions/1"):
        status, told = ann.send("GET", path)
        assert status == 422 and told["problems"][0]["message"] == UNREADABLE, path
    assert ann.send("GET", f"crash/airframes/{torn['id']}/log")[0] == 200
    assert ann.send("DELETE", at)[0] == 204 and damaged(ann) == []
    assert Airframe.everyone.count() == 1


def test_what_can_be_read_is_not_taken_out_as_damaged(ann, wing):
    assert ann.send("DELETE", f"damaged/airframe/{wing['id']}")[0] == 404
    assert ann.send("GET", f"airframes/{wing['id']}")[0] == 200


def test_a_damaged_state_of_the_past_is_told_in_the_history_and_not_gone_back_to(ann, wing):
    at = f"airframes/{wing['id']}"
    for revision, chord in ((1, 181), (2, 182), (3, 183)):
        document = copy.deepcopy(wing["document"])
        document["parts"][0]["root_chord_mm"] = chord
        assert ann.send("PUT", at, {"revision": revision, "document": document})[0] == 200
    Revision.objects.filter(airframe_id=wing["id"], number=3).update(document={})
    told = {row["number"]: row["says"] for row in ann.send("GET", f"{at}/revisions")[1]}
    assert told[3] == ["damaged: it cannot be read"] and told[4] == ["the state before it is damaged"]
    assert told[1] == ["made"] and "root chord" in told[2][0].lower()
    status, refused = ann.send("POST", f"{at}/undo", {"revision": 4})
    assert status == 422 and refused["problems"][0]["message"] == UNREADABLE
    assert ann.send("GET", at)[1]["revision"] == 4


def test_bad_coupons_and_trials_leave_the_others(ann):
    wish, coupons = demo_trial()
    _, trial = ann.send("POST", "joints/trials", wish.model_dump(mode="json"))
    ids = [
        ann.send("POST", "joints/coupons", {"coupon": c.model_dump(mode="json"), "trial_id": trial["id"]})[1]["id"]
        for c in coupons[:3]
    ]
    joints.Coupon.everyone.filter(id=ids[1]).update(coupon={"adhesive": 7})
    status, page = ann.send("GET", "joints/coupons")
    assert status == 200 and {c["id"] for c in page["coupons"]} == {ids[0], ids[2]}
    assert damaged(ann) == [("coupon", ids[1])]
    assert ann.send("GET", f"damaged/coupon/{ids[1]}")[1] == {"adhesive": 7}
    joints.Trial.everyone.update(wish=[])
    assert ann.send("GET", "joints/trials") == (200, [])
    assert set(damaged(ann)) == {("coupon", ids[1]), ("trial", trial["id"])}


def test_a_bad_log_entry_a_bad_job_and_a_bad_candidate_leave_the_others(ann, wing):
    at = f"crash/airframes/{wing['id']}"
    for says in ("one", "two"):
        assert ann.send("POST", f"{at}/log", {"event": {"kind": "note", "says": says}})[0] == 201
    bad = crash.Entry.everyone.order_by("created").first()
    assert bad is not None
    crash.Entry.everyone.filter(pk=bad.pk).update(event={"kind": "?"})
    owner = Airframe.everyone.get().owner
    job = crash.Job.everyone.create(owner=owner, airframe_id=wing["id"], part_id="wing", title="t", marks=[{"kind": 1}])
    kept = crash.Candidate.everyone.create(owner=owner, airframe_id=wing["id"], part_id="wing", name="n", recipe={})
    assert [e["event"]["says"] for e in ann.send("GET", f"{at}/log")[1]["entries"]] == ["two"]
    assert ann.send("GET", f"{at}/jobs") == (200, []) and ann.send("GET", f"{at}/candidates") == (200, [])
    assert damaged(ann) == [("entry", str(bad.pk)), ("job", str(job.pk)), ("candidate", str(kept.pk))]
    assert json.loads(json.dumps(ann.send("GET", f"damaged/job/{job.pk}")[1]))["marks"] == [{"kind": 1}]


def test_a_pin_of_a_damaged_state_leaves_the_other_pins(ann, wing):
    at = f"airframes/{wing['id']}"
    document = copy.deepcopy(wing["document"])
    document["parts"][0]["root_chord_mm"] += 1
    ann.send("PUT", at, {"revision": 1, "document": document})
    part = document["parts"][0]["id"]
    for number in (1, 2):
        assert ann.send("POST", f"{at}/pins", {"part_id": part, "revision": number, "name": f"as {number}"})[0] == 201
    Revision.objects.filter(airframe_id=wing["id"], number=1).update(document={"parts": 1})
    assert [p["name"] for p in ann.send("GET", f"{at}/pins")[1]] == ["as 2"]
