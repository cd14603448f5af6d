"""Signing in and out."""

from __future__ import annotations

from typing import Literal

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status
from ninja.utils import check_csrf

from fletcher.server.accounts.models import Preferences
from fletcher.server.common.requests import SignedIn

router = Router(tags=["session"])


class PreferencesOut(Schema):
    """Units, colours, and whether keys without a modifier do things."""

    units: Literal["metric", "inch"] = "metric"
    colours: Literal["system", "light", "dark", "contrast"] = "system"
    single_keys: bool = True


class SessionOut(Schema):
    """Who is signed in. `csrf` goes back in the X-CSRFToken header of every change."""

    user: str | None
    demo: bool
    csrf: str
    preferences: PreferencesOut


class SignIn(Schema):
    username: str
    password: str


class Denied(Schema):
    message: str


def _session(request: HttpRequest) -> SessionOut:
    user = request.user.get_username() if request.user.is_authenticated else None
    row = Preferences.objects.filter(user__username=user).first() if user else None
    kept = PreferencesOut() if row is None else PreferencesOut.from_orm(row)
    return SessionOut(user=user, demo=settings.DEMO, csrf=get_token(request), preferences=kept)


@router.get("/session", response=SessionOut, auth=None)
def read_session(request: HttpRequest) -> SessionOut:
    """The current session."""
    return _session(request)


@router.post("/session", response={200: SessionOut, 403: Denied}, auth=None)
def sign_in(request: HttpRequest, payload: SignIn) -> SessionOut | Status[Denied]:
    """Sign in with name and password. Five failures lock that name from that address for a quarter of an hour."""
    if check_csrf(request) is not None:
        return Status(403, Denied(message="The page is out of date. Reload it and try again."))
    user = authenticate(request, username=payload.username, password=payload.password)
    if user is None:
        return Status(403, Denied(message="Name and password do not match."))
    login(request, user)
    return _session(request)


@router.delete("/session", response=SessionOut)
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    logout(request)
    return _session(request)


@router.put("/preferences", response=PreferencesOut)
def save_preferences(request: SignedIn, payload: PreferencesOut) -> PreferencesOut:
    """Keep what a person prefers."""
    Preferences.objects.update_or_create(user=request.user, defaults=payload.dict())
    return payload
