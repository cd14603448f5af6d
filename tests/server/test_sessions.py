"""Signing in: real accounts, argon2, CSRF, rate limit, safe defaults."""

from __future__ import annotations

import json
import os
import subprocess
import sys

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from fletcher.core.demo.world import demo_airframes
from fletcher.server.airframes.management.commands.prepare import load_demo

pytestmark = pytest.mark.django_db


@pytest.fixture
def visitor(settings):
    """A browser with CSRF checks on, outside demo mode."""
    settings.MIDDLEWARE = [m for m in settings.MIDDLEWARE if "demo" not in m]
    settings.DEMO = False
    get_user_model().objects.create_user("ann", password="tern over mudflat")
    return Client(enforce_csrf_checks=True)


def sign_in(client, password, token=None, name="ann"):
    token = token if token is not None else client.get("/api/session").json()["csrf"]
    body = json.dumps({"username": name, "password": password})
    return client.post("/api/session", body, content_type="application/json", headers={"X-CSRFToken": token})


def test_sign_in_and_out(visitor):
    assert visitor.get("/api/session").json()["user"] is None
    assert visitor.get("/api/airframes").status_code == 401
    reply = sign_in(visitor, "tern over mudflat")
    assert reply.status_code == 200 and reply.json()["user"] == "ann"
    assert visitor.get("/api/airframes").json() == []
    assert visitor.delete("/api/session", headers={"X-CSRFToken": reply.json()["csrf"]}).json()["user"] is None
    assert visitor.get("/api/airframes").status_code == 401


def test_passwords_are_kept_as_argon2(visitor):
    assert get_user_model().objects.get().password.startswith("argon2$")


def test_changes_need_the_token(visitor, document):
    assert sign_in(visitor, "tern over mudflat", token="").status_code == 403
    token = sign_in(visitor, "tern over mudflat").json()["csrf"]
    post = {"path": "/api/airframes", "data": json.dumps(document), "content_type": "application/json"}
    assert visitor.post(**post).status_code == 403
    assert visitor.post(**post, headers={"X-CSRFToken": token}).status_code == 201


def test_guessing_is_stopped(visitor):
    assert [sign_in(visitor, "wrong").status_code for _ in range(4)] == [403] * 4
    assert sign_in(visitor, "wrong").status_code == 429
    locked = sign_in(visitor, "tern over mudflat")
    assert locked.status_code == 429
    assert "Too many" in locked.json()["message"]


def test_demo_account_has_no_password_and_is_made_once(visitor):
    load_demo()
    load_demo()
    assert not get_user_model().objects.get(username="demo").has_usable_password()
    assert sign_in(visitor, "", name="demo").status_code in (403, 422)


def test_demo_mode_signs_visitors_in_to_the_demo_fleet():
    load_demo()
    client = Client()
    assert client.get("/api/session").json()["user"] == "demo"
    assert [a["document"]["name"] for a in client.get("/api/airframes").json()] == [a.name for a in demo_airframes()]


def test_every_answer_forbids_foreign_content():
    for path in ("/", "/api/session", "/bench/x/y"):
        policy = Client().get(path)["Content-Security-Policy"]
        assert "default-src 'self'" in policy and "frame-ancestors 'none'" in policy


def test_defaults_outside_demo_mode_are_safe():
    code = (
        "from django.conf import settings as s;"
        "print(s.DEBUG, s.SESSION_COOKIE_SECURE, s.CSRF_COOKIE_SECURE, s.SECURE_HSTS_SECONDS > 0,"
        " any(m.endswith('sign_in_demo') for m in s.MIDDLEWARE))"
    )
    env = {**os.environ, "FLETCHER_DEMO": "0", "PYTHONPATH": "src"}
    out = subprocess.run([sys.executable, "-c", code], env=env, capture_output=True, text=True, check=True).stdout
    assert out.split() == ["False", "True", "True", "True", "False"]
    del env["FLETCHER_SECRET_KEY"]
    refused = subprocess.run([sys.executable, "-c", code], env=env, capture_output=True, text=True)
    assert refused.returncode != 0 and "FLETCHER_SECRET_KEY is not set" in refused.stderr


def test_preferences_are_kept_per_person(ann, ben):
    usual = {"units": "metric", "colours": "system", "single_keys": True}
    assert ann.send("GET", "session")[1]["preferences"] == usual
    wanted = {"units": "inch", "colours": "contrast", "single_keys": False}
    assert ann.send("PUT", "preferences", wanted) == (200, wanted)
    assert ann.send("GET", "session")[1]["preferences"] == wanted
    assert ben.send("GET", "session")[1]["preferences"] == usual
    assert ann.send("PUT", "preferences", {**wanted, "units": "cubits"})[0] == 422
    assert ann.send("GET", "session")[1]["preferences"] == wanted
