"""Accounts: made by invitation or at the terminal, changed, disabled, deleted; names without case; no lock-out."""

from __future__ import annotations

import getpass
from datetime import timedelta

import pytest
from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import CommandError
from django.utils import timezone

from fletcher.server.accounts import lockout
from fletcher.server.accounts.invitations import invite
from fletcher.server.accounts.models import Invitation
from fletcher.server.airframes.models import Airframe
from tests.server.conftest import JsonClient

pytestmark = pytest.mark.django_db
GOOD, OTHER = "tern over mudflat", "gull over mudflat"


@pytest.fixture(autouse=True)
def no_demo(settings):
    settings.MIDDLEWARE = [m.replace("sign_in_demo", "no_demo") for m in settings.MIDDLEWARE]
    settings.DEMO = False


@pytest.fixture
def joan(db) -> User:
    return User.objects.create_user("Joan", password=GOOD)


def signed_in(name: str, password: str, **kwargs) -> tuple[int, JsonClient]:
    client = JsonClient(**kwargs)
    return client.send("POST", "session", {"username": name, "password": password})[0], client


def users(*arguments: str) -> str:
    from io import StringIO

    out = StringIO()
    call_command("users", *arguments, stdout=out)
    return out.getvalue()


@pytest.fixture
def typed(monkeypatch):
    """What is typed at the terminal."""
    answers: list[str] = []
    monkeypatch.setattr(getpass, "getpass", lambda _: answers.pop(0))
    monkeypatch.setattr("builtins.input", lambda _: answers.pop(0))
    return answers


def test_names_are_compared_without_case(joan, typed):
    for name in ("Joan", "joan", "JOAN"):
        assert signed_in(name, GOOD)[0] == 200
    typed += [GOOD, GOOD]
    with pytest.raises(CommandError, match="An account of this name exists"):
        users("add", "joan")
    assert User.objects.count() == 1


def test_a_password_is_changed_by_its_owner_and_ends_all_other_sessions(joan):
    here, there = signed_in("joan", GOOD)[1], signed_in("joan", GOOD)[1]
    for now, then, path in (("wrong", OTHER, "now"), (GOOD, "short", "then"), (GOOD, "joan", "then")):
        status, told = here.send("PUT", "session/password", {"now": now, "then": then})
        assert status == 422 and told["problems"][0]["path"] == path
    assert here.send("PUT", "session/password", {"now": GOOD, "then": OTHER})[0] == 200
    assert here.send("GET", "airframes")[0] == 200 and there.send("GET", "airframes")[0] == 401
    assert signed_in("joan", GOOD)[0] == 403 and signed_in("joan", OTHER)[0] == 200


def test_accounts_are_kept_at_the_terminal(joan, typed, document):
    client = signed_in("joan", GOOD)[1]
    assert client.send("POST", "airframes", document)[0] == 201
    typed += [OTHER, OTHER, OTHER, OTHER]
    assert "Account ben created" in users("add", "ben") and "new password" in users("password", "JOAN")
    assert client.send("GET", "airframes")[0] == 401 and signed_in("joan", OTHER)[0] == 200
    users("disable", "joan")
    assert signed_in("joan", OTHER)[0] == 403 and "Joan  disabled" in users("list")
    users("enable", "joan")
    assert signed_in("joan", OTHER)[0] == 200 and "ben  never here" in users("list")
    typed += ["ben"]
    with pytest.raises(CommandError, match="names differ"):
        users("delete", "joan")
    typed += ["joan"]
    users("delete", "joan")
    assert not Airframe.everyone.exists() and User.objects.count() == 1
    with pytest.raises(CommandError, match="no account"):
        users("disable", "joan")


def join(token: str, name: str, password: str) -> tuple[int, dict]:
    return JsonClient().send("POST", f"invitations/{token}", {"username": name, "password": password})


def test_an_invitation_makes_as_many_accounts_as_it_is_for(joan):
    token = invite(days=3, people=2).rsplit("/", 1)[1]
    assert JsonClient().send("GET", f"invitations/{token}") == (200, {"holds": True})
    for name, password, path in (("JOAN", GOOD, "username"), ("a/b c", GOOD, "username"), ("ann", "1234", "password")):
        status, told = join(token, name, password)
        assert status == 422 and told["problems"][0]["path"] == path
    for name in ("ann", "ben"):
        status, told = join(token, name, GOOD)
        assert status == 200 and told["user"] == name
    assert JsonClient().send("GET", f"invitations/{token}")[1] == {"holds": False}
    assert join(token, "cat", GOOD)[0] == 422 and User.objects.count() == 3
    assert token not in str(list(Invitation.objects.values()))


def test_an_old_or_made_up_invitation_makes_none():
    token = invite(days=1, people=1).rsplit("/", 1)[1]
    Invitation.objects.update(until=timezone.now() - timedelta(seconds=1))
    assert join(token, "ann", GOOD)[0] == 422 and join("made-up", "ann", GOOD)[0] == 422
    assert not User.objects.exists()
    with pytest.raises(CommandError, match="1 to 60 days"):
        users("invite", "--days", "90")
    assert "/join/" in users("invite")


def test_guessing_from_elsewhere_locks_nobody_out(joan):
    for n in range(6):
        status = signed_in("JOAN" if n % 2 else "joan", "wrong", REMOTE_ADDR="10.0.0.9")[0]
    assert status == 429
    assert signed_in("joan", GOOD, REMOTE_ADDR="10.0.0.9")[0] == 429
    assert signed_in("joan", GOOD, REMOTE_ADDR="10.0.0.7")[0] == 200


def test_an_address_that_tries_many_names_is_locked(joan, monkeypatch):
    monkeypatch.setattr(lockout, "MOST_TRIES", 6)
    monkeypatch.setattr("fletcher.server.accounts.api.MOST_TRIES", 6)
    for n in range(6):
        assert signed_in(f"name{n}", "wrong", REMOTE_ADDR="10.0.0.9")[0] == 403
    assert signed_in("joan", GOOD, REMOTE_ADDR="10.0.0.9")[0] == 429
    assert signed_in("joan", GOOD, REMOTE_ADDR="10.0.0.8")[0] == 200


def test_a_session_of_demo_mode_is_void_outside_it(db):
    client = JsonClient()
    client.force_login(User.objects.create_user("demo"), backend="fletcher.server.accounts.names.ByName")
    assert client.send("GET", "session")[1]["user"] is None
    assert client.send("GET", "airframes")[0] == 401


def test_what_is_ones_own_is_kept_by_no_cache(joan):
    client = signed_in("joan", GOOD)[1]
    for path in ("session", "airframes", "nothing"):
        assert client.get(f"/api/{path}").headers["Cache-Control"] == "no-store"
