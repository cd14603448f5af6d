"""Fair shares of a process: what one account asks holds no other up, and what nobody waits for ends."""

from __future__ import annotations

import threading
from collections.abc import Callable

import pytest
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse

from fletcher.core.common.abandon import look_up
from fletcher.server.api import api
from fletcher.server.common import computing
from fletcher.server.common.computing import (
    DEAR_ALL,
    DEAR_EACH,
    DEAR_PATHS,
    LIVE_ALL,
    LIVE_EACH,
    LIVE_PATHS,
    WAIT_EACH,
    Shares,
)


def always() -> bool:
    return True


def posted() -> set[str]:
    """Every address that is posted to and has no id in it."""
    return {
        f"/api{prefix}{path}"
        for prefix, router in api._routers
        for path, view in router.path_operations.items()
        for operation in view.operations
        if "POST" in operation.methods and "{" not in path
    }


READ = {"/api/account/archive", "/api/crash/standings", "/api/crash/log.pdf", "/api/build/sheet.pdf",
        "/api/build/templates.zip"}  # fmt: skip
"""What computes and is asked with GET."""


def test_every_address_that_computes_takes_turns():
    stores = {
        "/api/airframes",
        "/api/session",
        "/api/joints/coupons",
        "/api/joints/trials",
        "/api/stock/construct",
        "/api/stock/own",
        "/api/stock/own-from-table",
        "/api/account/demo-fleet",
    }
    assert posted() - stores == (DEAR_PATHS | LIVE_PATHS) - READ


def test_one_account_gets_its_share_and_the_next_one_too():
    shares = Shares()
    assert all(shares.take_dear("ann", always) for _ in range(DEAR_EACH))
    started = threading.Thread(target=lambda: shares.take_dear("ann", always))
    started.start()
    assert shares.take_dear("ben", always)
    assert shares.running.total() == DEAR_ALL
    shares.give_dear("ann")
    started.join(20)
    assert not started.is_alive() and shares.running["ann"] == DEAR_EACH


def test_more_than_may_wait_are_refused_at_once():
    shares = Shares()
    for _ in range(DEAR_EACH):
        shares.take_dear("ann", always)
    waiting = [threading.Thread(target=lambda: shares.take_dear("ann", always)) for _ in range(WAIT_EACH)]
    for thread in waiting:
        thread.start()
    while shares.waiting["ann"] < WAIT_EACH:
        pass
    assert not shares.take_dear("ann", always)
    for _ in waiting:
        shares.give_dear("ann")
    for thread in waiting:
        thread.join(20)
    assert shares.waiting.total() == 0


def test_one_that_waits_and_is_wanted_no_more_gives_way():
    shares, wanted = Shares(), threading.Event()
    for _ in range(DEAR_EACH):
        shares.take_dear("ann", always)
    found: list[bool] = []
    thread = threading.Thread(target=lambda: found.append(shares.take_dear("ann", lambda: not wanted.is_set())))
    thread.start()
    while not shares.waiting["ann"]:
        pass
    wanted.set()  # nobody gives a turn back: it looks by itself
    thread.join(20)
    assert found == [False] and shares.running["ann"] == DEAR_EACH and shares.waiting["ann"] == 0


def test_live_questions_are_computed_one_after_another():
    shares = Shares()
    assert shares.take_live("ann", always)
    came: list[str] = []

    def ask(who: str) -> None:
        if shares.take_live(who, always):
            came.append(who)

    others = [threading.Thread(target=ask, args=(who,)) for who in ("ann", "ben")]
    for thread in others:
        thread.start()
    while shares.live.total() < 3:
        pass
    assert came == [] and shares.computing == LIVE_ALL
    for count in (1, 2):
        shares.give_live("ann" if count == 1 else came[0])
        while len(came) < count:
            pass
    for thread in others:
        thread.join(20)
    assert sorted(came) == ["ann", "ben"] and shares.computing == LIVE_ALL


def test_too_many_live_questions_of_one_account_are_refused_and_those_nobody_waits_for_let_go():
    shares = Shares()
    shares.live["ann"] = LIVE_EACH
    assert not shares.take_live("ann", always)
    assert not shares.take_live("ben", lambda: False) and shares.live["ben"] == shares.computing == 0
    assert shares.take_live("ben", always)


class _User:
    pk = 7


@pytest.fixture
def asked(monkeypatch) -> Callable[..., object]:
    monkeypatch.setattr(computing, "shares", Shares())

    def ask(answer, path="/api/studies/choose", gone=lambda: False):
        request = HttpRequest()
        request.method, request.path, request.user = "POST", path, _User()
        request.META["waitress.client_disconnected"] = gone
        return computing.fair_shares(answer)(request)

    return ask


@pytest.mark.parametrize("path", ["/api/studies/choose", "/api/studies/estimate"])
def test_a_turn_is_given_back_however_the_answer_ends(asked, path):
    def broken(_):
        raise ZeroDivisionError

    for _ in range(20):
        assert asked(lambda _: HttpResponse("x"), path).status_code == 200
        with pytest.raises(ZeroDivisionError):
            asked(broken, path)
    assert computing.shares.running.total() == computing.shares.live.total() == 0


def test_a_study_whose_asker_has_gone_ends(asked):
    def study(_):
        look_up()
        return HttpResponse("x")

    assert asked(study, gone=lambda: True).status_code == 204
    assert computing.shares.running.total() == 0


def test_too_much_at_once_is_told_as_that(asked, monkeypatch):
    monkeypatch.setattr(computing, "LIVE_ALL", 99)
    inner: list[int] = []

    def nested(_):
        inner.append(computing.shares.live.total())
        return asked(nested, "/api/studies/estimate")

    refused = asked(nested, "/api/studies/estimate")
    assert refused.status_code == 429 and b"asked too often" in refused.content and inner == [1, 2, 3, 4]


@pytest.mark.django_db
@pytest.mark.parametrize("read", ["all", "some", "none"])
def test_the_turn_of_a_stream_lasts_as_long_as_it_is_read(asked, read):
    response = asked(lambda _: StreamingHttpResponse(iter([b"a", b"b"])), "/api/crash/mend")
    lines = iter(response.streaming_content)
    assert computing.shares.running[7] == 1
    if read != "none":
        assert next(lines) == b"a"
    if read == "all":
        assert list(lines) == [b"b"]
    response.close()
    assert computing.shares.running[7] == 0
