"""Long lists come a page at a time, in one order, whole, and only the owner's."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta

import pytest
from django.utils import timezone

from fletcher.core.repair.events import Event
from fletcher.server.airframes.models import Airframe
from fletcher.server.common.paging import PAGE
from fletcher.server.crash import models as crash
from fletcher.server.joints import models as joints
from tests.server.test_coupons import CLEAN
from tests.server.test_logbook import POST

pytestmark = pytest.mark.django_db


@pytest.fixture
def post(ann):
    return ann.send("POST", "airframes", POST.model_dump(mode="json"))[1]


def written(post: dict, count: int) -> None:
    """So many notes, three at every moment."""
    airframe = Airframe.everyone.get(id=post["id"])
    start = datetime(2026, 5, 1, tzinfo=UTC)
    crash.Entry.everyone.bulk_create(
        crash.Entry(owner=airframe.owner, airframe=airframe, happened=start + timedelta(days=n // 3),
                    event=Event(kind="note", says=f"n{n}").model_dump(mode="json"))
        for n in range(count)
    )  # fmt: skip


def pages(send, path: str, key: str) -> list[list[dict]]:
    out, before = [], ""
    while True:
        status, told = send("GET", f"{path}{before}")
        assert status == 200
        out.append(told[key])
        if not told["more"]:
            return out
        before = f"?before={told[key][-1]['id']}"


def test_a_time_line_comes_whole_in_pages_the_newest_first(ann, post):
    written(post, 2 * PAGE + 7)
    found = pages(ann.send, f"crash/airframes/{post['id']}/log", "entries")
    assert [len(page) for page in found] == [PAGE, PAGE, 7]
    rows = [row for page in found for row in page]
    assert len({row["id"] for row in rows}) == 2 * PAGE + 7
    assert [row["happened"] for row in rows] == sorted((row["happened"] for row in rows), reverse=True)


def test_what_is_written_meanwhile_moves_nothing(ann, post):
    written(post, PAGE + 5)
    path = f"crash/airframes/{post['id']}/log"
    first = ann.send("GET", path)[1]["entries"]
    assert ann.send("POST", path, {"event": {"kind": "note", "says": "new"}})[0] == 201
    rest = ann.send("GET", f"{path}?before={first[-1]['id']}")[1]
    assert len(rest["entries"]) == 5 and not rest["more"]
    assert not {r["id"] for r in rest["entries"]} & {r["id"] for r in first}


def test_a_page_ends_exactly_where_the_list_does(ann, post):
    written(post, PAGE)
    told = ann.send("GET", f"crash/airframes/{post['id']}/log")[1]
    assert len(told["entries"]) == PAGE and told["more"] is False


def test_coupons_come_in_pages(ann):
    from django.contrib.auth.models import User

    coupons = [joints.Coupon(owner=User.objects.get(username="ann"), coupon=CLEAN) for _ in range(PAGE + 1)]
    joints.Coupon.everyone.bulk_create(coupons)
    joints.Coupon.everyone.update(created=timezone.now())  # all in one moment
    found = pages(ann.send, "joints/coupons", "coupons")
    assert [len(page) for page in found] == [PAGE, 1]
    assert len({c["id"] for page in found for c in page}) == PAGE + 1


def test_a_page_before_a_row_of_somebody_else_or_of_nothing_is_refused(ann, ben, post):
    written(post, 1)
    path = f"crash/airframes/{post['id']}/log"
    row = ann.send("GET", path)[1]["entries"][0]["id"]
    theirs = ben.send("POST", "airframes", POST.model_dump(mode="json"))[1]
    assert ben.send("GET", f"crash/airframes/{theirs['id']}/log?before={row}")[0] == 404
    assert ann.send("GET", f"{path}?before={uuid.uuid4()}")[0] == 404
    assert ann.send("GET", f"{path}?before=yesterday")[0] == 422
