"""The real page in headless Chromium, served by Django's live server in demo mode."""

from __future__ import annotations

import os

import pytest
from django.db import connection
from django.test import Client
from playwright.sync_api import expect

os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
# a borrowed machine may stand still for seconds; what is right is right then too
expect.set_options(timeout=20_000)


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    flags = [
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost",
    ]
    if os.geteuid() == 0:
        flags.append("--no-sandbox")
    return {**browser_type_launch_args, "executable_path": os.environ["FLETCHER_CHROMIUM"], "args": flags}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce"}


@pytest.fixture
def fleet(live_server, monkeypatch):
    """The demo fleet, served. Returns the address."""
    from fletcher.server.airframes.management.commands.prepare import load_demo
    from fletcher.server.common import computing

    for most in ("DEAR_EACH", "DEAR_ALL", "LIVE_EACH", "LIVE_ALL"):  # this server cannot see that an asker has gone
        monkeypatch.setattr(computing, most, 100)

    load_demo()
    with connection.cursor() as cursor:
        # an answer that the page gave up may still write while all tables are emptied after the test: if both wait for
        # one another, it is the one that gives way
        cursor.execute("SET deadlock_timeout = '60s'")
    return live_server.url


@pytest.fixture
def stored(fleet):
    """What the server has stored of an airframe, the wing's unless named, read past the page."""

    def read(name: str = "Reed Warden") -> dict:
        shelf = Client().get("/api/airframes").json()
        return next(a for a in shelf if a["document"]["name"] == name)

    return read


@pytest.fixture
def loud_page(page):
    """A page on which an error in the console, or a request to anywhere else, fails the test."""
    faults: list[str] = []
    page.on("pageerror", lambda error: faults.append(str(error)))
    own = ("http://127.0.0.1", "http://localhost", "data:", "blob:")
    page.on("request", lambda request: None if request.url.startswith(own) else faults.append(request.url))
    under_way: set[object] = set()
    page.on("request", lambda request: under_way.add(request))
    page.on("requestfinished", lambda request: under_way.discard(request))
    page.on("requestfailed", lambda request: under_way.discard(request))
    yield page
    if under_way:  # the database is emptied next: no answer may still be reading it
        page.wait_for_load_state("networkidle", timeout=120_000)
    assert faults == []
