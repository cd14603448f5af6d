"""Whose a row is: every route with another builder's real ids, Django's own tools, limits that hold, few queries."""

from __future__ import annotations

import io
import json
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.db import connection
from django.test.utils import CaptureQueriesContext
from PIL import Image

from fletcher.core.demo.crash import crash_candidates, crashed_airframe
from fletcher.server.airframes.models import Airframe, Pin, Revision
from fletcher.server.api import api
from fletcher.server.crash import models as crash
from fletcher.server.joints import models as joints
from tests.server.test_coupons import WISH
from tests.server.test_coupons import kept as kept_coupon

PART = "right-wing"
ROD = {"kind": "bar", "key": "carbon_rod_3", "length_mm": 1000}
RECIPE = next(r for n, r in crash_candidates() if n == "Rod and contact glue").model_dump(mode="json")


def photo() -> SimpleUploadedFile:
    out = io.BytesIO()
    Image.new("RGB", (40, 30), "tan").save(out, "JPEG")
    return SimpleUploadedFile("face.jpg", out.getvalue(), "image/jpeg")


@pytest.fixture
def hers(ann) -> dict[str, Any]:
    """One row of every kind that Ann owns, by the names that the routes give their ids."""
    document = crashed_airframe().model_dump(mode="json")
    state = ann.send("POST", "airframes", document)[1]
    here = f"crash/airframes/{state['id']}"
    mark = document["parts"][0]["damage"][0]["id"]
    picture = ann.post(f"/api/{here}/pictures", {"part_id": PART, "mark_id": mark, "photo": photo()}).json()
    adopted = ann.send("POST", f"{here}/adopt", {"revision": 1, "part_id": PART, "recipe": RECIPE})[1]
    ann.send("POST", f"airframes/{state['id']}/undo", {"revision": 2})  # the damage is back, the work stays
    candidate = ann.send("POST", f"{here}/candidates", {"part_id": PART, "name": "B", "recipe": RECIPE})[1]
    pin = ann.send("POST", f"airframes/{state['id']}/pins", {"part_id": PART, "revision": 1, "name": "before"})[1]
    entry = ann.send("POST", f"{here}/log", {"event": {"kind": "note", "says": "x"}})[1]
    thing = ann.send("POST", "stock/own", {"item": {**ROD, "count": 3}})[1]
    pieces = {"airframe_id": state["id"], "pieces_mm": [100]}
    cut = ann.send("POST", f"stock/own/{thing['id']}/cut", pieces)[1]
    trial = ann.send("POST", "joints/trials", WISH)[1]
    coupon = kept_coupon(ann)
    ann.post(f"/api/joints/coupons/{coupon['id']}/photo", {"photo": photo()})
    return {
        "airframe_id": state["id"], "pin_id": pin["id"], "number": 1, "candidate_id": candidate["id"],
        "job_id": adopted["job"]["id"], "picture_id": picture["id"], "coupon_id": coupon["id"],
        "trial_id": trial["id"], "mark_id": mark, "document": document, "kind": "trial", "row_id": trial["id"],
        "entry_id": entry["id"], "thing_id": thing["id"], "cut_id": cut["id"],
    }  # fmt: skip


def routes() -> list[tuple[str, str]]:
    """Every route with an id in its path, also those that the schema leaves out; what removes comes last,
    the airframe at the very end."""
    found = []
    for prefix, router in api._routers:
        for path, view in router.path_operations.items():
            for operation in view.operations:
                # the link itself is the right to it; instruments belong to the bench
                anybodys = path.startswith(("/invitations/", "/instruments/"))
                found += [(m, f"{prefix}{path}") for m in operation.methods if "{" in path and not anybodys]
    return sorted(found, key=lambda r: (r[0] == "DELETE", r == ("DELETE", "/airframes/{airframe_id}"), r))


def body(path: str, hers: dict[str, Any]) -> Any:
    """A body that the route takes."""
    last = path.rstrip("/").rsplit("/", 1)[-1]
    return {
        "{airframe_id}": {"revision": 3, "document": hers["document"]},
        "undo": {"revision": 3}, "redo": {"revision": 3},
        "pins": {"part_id": PART, "revision": 1, "name": "again"}, "{pin_id}": {"name": "other"},
        "adopt": {"revision": 3, "part_id": PART, "recipe": RECIPE},
        "candidates": {"part_id": PART, "name": "C", "recipe": RECIPE},
        "log": {"event": {"kind": "note", "says": "x"}}, "{entry_id}": {"event": {"kind": "note", "says": "y"}},
        "{number}": {"done": True},
        "checks": {"value": 1.0}, "{thing_id}": {"revision": 1, "item": ROD},
        "cut": {"airframe_id": hers["airframe_id"], "pieces_mm": [100]},
        "changes": {"revision": 0, "changes": []}, "presses": {"presses": []},
        "scrap": {"part_id": PART}, "log-from-table": {"text": "kind,entry\nnote,x\n"},
    }.get("checks" if "/checks/" in path else "scrap" if "/scrap/" in path else last)  # fmt: skip


def called(client: Any, method: str, path: str, hers: dict[str, Any]) -> int:
    at = "/api" + path.format(**hers)
    if method == "POST" and path.endswith(("/pictures", "/photo")):
        return client.post(at, {"part_id": PART, "mark_id": hers["mark_id"], "photo": photo()}).status_code
    data = body(path, hers)
    return client.generic(method, at, json.dumps(data) if data else "", content_type="application/json").status_code


def test_no_route_gives_or_changes_what_is_anothers(ann, ben, hers):
    """Ben is told 404 with Ann's real ids; Ann herself gets through to every one of them."""
    asked = routes()
    assert len(asked) >= 26
    for method, path in asked:
        assert called(ben, method, path, hers) == 404, (method, path)
    for method, path in [route for route in asked if "/bin/" not in route[1]]:
        whole = (method, path) == ("DELETE", "/damaged/{kind}/{row_id}")  # of hers nothing is damaged
        assert called(ann, method, path, hers) in ((404,) if whole else (200, 201, 204, 409, 422)), (method, path)
    for method, path in (("POST", "/bin/{airframe_id}/back"), ("DELETE", "/airframes/{airframe_id}"),
                         ("DELETE", "/bin/{airframe_id}")):  # fmt: skip
        assert called(ann, method, path, hers) in (200, 204), (method, path)
    assert not Airframe.everyone.exists() and not joints.Coupon.everyone.exists()  # what removes came last


def test_every_route_asks_for_a_session(client, hers):
    for method, path in routes():
        assert called(client, method, path, hers) == 401, (method, path)


def test_djangos_own_tools_see_all_rows_and_an_account_goes_with_all_it_has(hers, ann, ben, document):
    ben.send("POST", "airframes", document)
    out = io.StringIO()
    call_command("dumpdata", "airframes", "logbook", "coupons", stdout=out)
    dumped = {row["model"] for row in json.loads(out.getvalue())}
    assert dumped == {
        "airframes.airframe", "airframes.revision", "airframes.pin", "logbook.entry", "logbook.job", "logbook.task",
        "logbook.picture", "logbook.candidate", "coupons.coupon", "coupons.trial",
    }  # fmt: skip
    User.objects.get(username="ann").delete()
    left = [m.everyone.count() for m in (crash.Entry, crash.Job, crash.Picture, crash.Candidate, joints.Coupon)]
    assert left == [0] * 5 and not Pin.objects.exists() and not crash.Task.objects.exists()
    assert Airframe.everyone.count() == Revision.objects.count() == 1  # Ben's


def test_a_revision_that_is_pinned_up_cannot_be_taken_from_under_its_pin(hers):
    from django.db.models import RestrictedError

    with pytest.raises(RestrictedError):
        Revision.objects.filter(number=1).delete()
    assert Pin.objects.count() == 1


@pytest.mark.parametrize(
    ("method", "path"),
    [
        ("POST", "/crash/airframes/{airframe_id}/log"), ("POST", "/crash/airframes/{airframe_id}/pictures"),
        ("POST", "/crash/airframes/{airframe_id}/candidates"), ("POST", "/airframes/{airframe_id}/pins"),
    ],
)  # fmt: skip
def test_what_is_counted_cannot_grow_meanwhile(ann, hers, method, path):
    """The airframe's row is held before its rows are counted."""
    with CaptureQueriesContext(connection) as queries:
        assert called(ann, method, path, hers) == 201
    sql = [q["sql"] for q in queries]
    held = next(n for n, q in enumerate(sql) if "FOR UPDATE" in q)
    assert held < next(n for n, q in enumerate(sql) if "COUNT(" in q)


def test_coupons_and_trials_are_counted_while_the_account_is_held(ann):
    for make in (lambda: kept_coupon(ann), lambda: ann.send("POST", "joints/trials", WISH)[1]):
        with CaptureQueriesContext(connection) as queries:
            assert make()["id"]
        sql = [q["sql"] for q in queries]
        held = next(n for n, q in enumerate(sql) if "FOR UPDATE" in q and "auth_user" in q)
        assert held < next(n for n, q in enumerate(sql) if "COUNT(" in q)


def test_lists_take_as_many_queries_however_long_they_are(ann, hers, document):
    here = hers["airframe_id"]
    lists = ("airframes", f"airframes/{here}/pins", f"airframes/{here}/revisions", f"crash/airframes/{here}/log",
             f"crash/airframes/{here}/jobs", f"crash/airframes/{here}/pictures",
             f"crash/airframes/{here}/candidates", "joints/coupons", "joints/trials")  # fmt: skip

    def counted() -> list[int]:
        out = []
        for path in lists:
            with CaptureQueriesContext(connection) as queries:
                assert ann.send("GET", path)[0] == 200
            out.append(len(queries))
        return out

    first = counted()
    for n in range(3):
        ann.send("POST", "airframes", document)
        ann.send("POST", f"airframes/{here}/pins", {"part_id": PART, "revision": 1, "name": f"p{n}"})
        ann.send("POST", f"crash/airframes/{here}/log", {"event": {"kind": "note", "says": f"n{n}"}})
        ann.send("POST", f"crash/airframes/{here}/candidates", {"part_id": PART, "name": f"c{n}", "recipe": RECIPE})
        ann.post(f"/api/crash/airframes/{here}/pictures",
                 {"part_id": PART, "mark_id": hers["mark_id"], "photo": photo()})  # fmt: skip
        kept_coupon(ann)
        ann.send("POST", "joints/trials", WISH)
    asked = {"revision": 3, "part_id": PART, "recipe": RECIPE}
    assert ann.send("POST", f"crash/airframes/{here}/adopt", asked)[0] == 200
    assert counted() == first and max(first) <= 7
