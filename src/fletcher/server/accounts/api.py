"""Signing in and out."""

from __future__ import annotations

from typing import Annotated, Literal

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status
from ninja.utils import check_csrf
from pydantic import Field

from fletcher.server.accounts import invitations
from fletcher.server.accounts.lockout import MOST_TRIES, TOO_MANY, tries_from
from fletcher.server.accounts.models import Preferences
from fletcher.server.common.refusals import refusal
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
    username: Annotated[str, Field(max_length=150)]
    password: Annotated[str, Field(max_length=200)]


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


@router.post("/session", response={200: SessionOut, 403: Denied, 429: Denied}, auth=None)
def sign_in(request: HttpRequest, payload: SignIn) -> SessionOut | Status[Denied]:
    """Sign in with name and password. Five failures lock that name from that address for a quarter of an hour, so many
    with any names the address."""
    if check_csrf(request) is not None:
        return Status(403, Denied(message="This page is out of date. Reload it and try again."))
    if tries_from(request) >= MOST_TRIES:
        return Status(429, Denied(message=TOO_MANY))
    user = authenticate(request, username=payload.username, password=payload.password)
    if user is None:
        return Status(403, Denied(message="Name or password is wrong."))
    login(request, user)
    return _session(request)


class NewPassword(Schema):
    """The present password, and the one to take its place."""

    now: Annotated[str, Field(max_length=200)]
    then: Annotated[str, Field(max_length=200)]


@router.put("/session/password", response=SessionOut)
def change_password(request: SignedIn, payload: NewPassword) -> SessionOut:
    """Change one's password. This session goes on, all others of the account end."""
    user = request.user
    if not user.check_password(payload.now):
        raise refusal("now", "is not your present password")
    try:
        validate_password(payload.then, user)
    except ValidationError as error:
        raise refusal("then", " ".join(error.messages)) from None
    user.set_password(payload.then)
    user.save()
    update_session_auth_hash(request, user)
    return _session(request)


class InvitationOut(Schema):
    """Whether an invitation can be used."""

    holds: bool


@router.get("/invitations/{token}", response=InvitationOut, auth=None)
def read_invitation(request: HttpRequest, token: str) -> InvitationOut:
    """An invitation, by the secret part of its link."""
    return InvitationOut(holds=invitations.holds(token))


@router.post("/invitations/{token}", response={200: SessionOut, 403: Denied}, auth=None)
def accept_invitation(request: HttpRequest, token: str, payload: SignIn) -> SessionOut | Status[Denied]:
    """Make an account by an invitation, and sign in with it."""
    if check_csrf(request) is not None:
        return Status(403, Denied(message="This page is out of date. Reload it and try again."))
    user = invitations.accept(token, payload.username, payload.password)
    login(request, user, backend="fletcher.server.accounts.names.ByName")
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
