"""Requests that no page sends: refused quickly and in words, whatever is in them."""

from __future__ import annotations

import json

import psycopg
import pytest
from django.contrib.sessions.backends.db import SessionStore
from django.db import IntegrityError, InterfaceError, OperationalError
from django.test import Client

from fletcher.core.document.airframe import Airframe, Part
from fletcher.server.airframes import services
from fletcher.server.airframes.models import Revision

pytestmark = pytest.mark.django_db


def told(reply) -> str:
    """Path and message of the only problem."""
    (problem,) = reply["problems"]
    return f"{problem['path']} {problem['message']}".strip()


def test_a_list_that_is_too_long_is_refused_before_anything_in_it_is_looked_at(ann, monkeypatch):
    looked: list[object] = []
    inner = Part.__pydantic_validator__
    monkeypatch.setattr(Part, "model_validate", lambda *a, **k: looked.append(a) or inner.validate_python(*a, **k))
    status, reply = ann.send("POST", "airframes", {"name": "many", "all_up_mass_g": 900, "parts": [{}] * 20_000})
    assert status == 422 and told(reply) == "parts is too long: no more than 400"
    status, reply = ann.send("POST", "airframes", {"name": "many", "all_up_mass_g": 900, "parts": [{}] * 200})
    assert status == 422 and told(reply) == "parts is too long: no more than 24"


def test_at_most_fifty_problems_are_told(ann, document):
    layer = {"type": "bar", "nonsense": 1, "more": 2, "and": 3, "so": 4}
    document["parts"][0]["layers"] = [layer] * 30
    status, reply = ann.send("POST", "airframes", document)
    assert status == 422 and len(reply["problems"]) == 51
    assert reply["problems"][-1]["message"].startswith("has more than 50 faults")


@pytest.mark.parametrize("text", ["a\x00b", "a\ud800b", "a\x1bb", "a\u202eb", "\u2066a"])
def test_text_that_cannot_be_kept_or_shown_is_refused_by_its_field(ann, document, text):
    document["parts"][0]["name"] = text
    status, reply = ann.send("POST", "airframes", json.dumps(document))
    assert status == 422 and told(reply) == "parts[0].name contains characters that are not allowed"
    status, reply = ann.send("POST", "session", json.dumps({"username": text, "password": "x"}))
    assert status == 422 and told(reply).startswith("username contains characters")


def test_a_field_whose_name_cannot_be_kept_is_refused(ann):
    status, reply = ann.send("POST", "airframes", json.dumps({"na\x00me": 1}))
    assert status == 422 and "name contains characters" in told(reply)


def test_deep_nesting_and_broken_json_are_refused(ann):
    status, reply = ann.send("POST", "airframes", '{"a":' * 40 + "1" + "}" * 40)
    assert status == 422 and "nested too deeply" in told(reply)
    for body in ("[" * 100_000, "{", b"\xff\xfe"):
        status, reply = ann.send("POST", "airframes", body)
        assert status == 422 and told(reply) == "is not valid JSON"


def test_a_refusal_shows_what_was_found(ann, document):
    document["all_up_mass_g"] = -4
    _, reply = ann.send("POST", "airframes", document)
    assert reply["problems"][0]["value"] == "-4"


@pytest.mark.parametrize(
    ("happened", "status"),
    [("0001-01-01T00:00:00Z", 422), ("9999-12-31T23:59:59Z", 422), ("2026-01-02T10:00:00Z", 201)],
)
def test_dates_that_no_log_can_hold_are_refused(ann, wing, happened, status):
    event = {"kind": "note", "says": "Trimmed."}
    found, reply = ann.send("POST", f"crash/airframes/{wing['id']}/log", {"event": event, "happened": happened})
    assert found == status
    if status == 422:
        assert told(reply) == "happened lies outside the years 1970 to 2100"


@pytest.mark.parametrize("number", ["99999999999999999999", "-1", "x"])
def test_numbers_that_no_row_has_are_refused_or_not_found(ann, wing, number):
    for path in (f"airframes/{wing['id']}/revisions/{number}", f"airframes/{wing['id']}/revisions?before={number}"):
        status, reply = ann.send("GET", path)
        assert status == 422 and reply["problems"]


def test_every_refusal_is_a_list_of_problems(ann, settings):
    settings.MIDDLEWARE = [m for m in settings.MIDDLEWARE if "demo" not in m]
    nobody = "00000000-0000-4000-8000-000000000000"
    asked = [(401, Client(), "airframes"), (404, ann, f"airframes/{nobody}"), (404, ann, "nothing/here")]
    for status, client, path in asked:
        reply = client.get(f"/api/{path}")
        assert reply.status_code == status and len(reply.json()["problems"]) == 1, path
    ann.handler.enforce_csrf_checks = True
    status, reply = ann.send("DELETE", f"airframes/{nobody}")
    assert status == 403 and told(reply) == "the page is out of date: reload it"


def test_a_fault_is_told_with_the_mark_that_the_log_has(ann, monkeypatch, caplog):
    def broken(*_):
        raise ZeroDivisionError("of all things")

    monkeypatch.setattr(services, "shelf", broken)
    status, reply = ann.send("GET", "airframes")
    (problem,) = reply["problems"]
    assert status == 500 and problem["value"] in problem["message"] and "of all things" not in json.dumps(reply)
    assert f"fault {problem['value']}" in caplog.text and "of all things" in caplog.text


def test_lists_of_a_file_are_measured_before_they_are_read():
    with pytest.raises(ValueError, match="at most 24") as found:
        Airframe.model_validate({"name": "x", "all_up_mass_g": 9, "parts": [{}] * 30})
    assert len(found.value.errors()) == 1


@pytest.mark.parametrize(
    ("kind", "cause", "status", "says"),
    [
        (OperationalError, psycopg.errors.DiskFull(), 507, "disk is full"),
        (OperationalError, psycopg.OperationalError(), 503, "away for a moment"),
        (InterfaceError, psycopg.InterfaceError(), 503, "away for a moment"),
        (IntegrityError, psycopg.errors.UniqueViolation(), 500, "made a mistake"),
    ],
)
def test_what_the_database_refuses_is_told_as_what_it_is(ann, wing, monkeypatch, kind, cause, status, says):
    def refuse(*_: object, **__: object) -> None:
        raise kind("no") from cause

    ann.raise_request_exception = False
    monkeypatch.setattr(Revision.objects, "create", refuse)
    document = {**wing["document"], "name": "Other"}
    got, told = ann.send("PUT", f"airframes/{wing['id']}", {"revision": 1, "document": document})
    assert got == status and says in told["problems"][0]["message"]
    monkeypatch.setattr(SessionStore, "load", refuse)  # outside the interface's own routes
    got, told = ann.send("GET", "airframes")
    assert got == status and ("mistake" in told["problems"][0]["message"]) == (status == 500)
    monkeypatch.undo()
    assert ann.send("GET", f"airframes/{wing['id']}")[1]["revision"] == 1
