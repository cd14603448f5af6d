"""Links with which people make their own accounts on a club's server. Only a hash of what is in the link is kept."""

from __future__ import annotations

import hashlib
import os
import secrets
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta

from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.utils import timezone

from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.server.accounts.models import Invitation
from fletcher.server.accounts.names import require_new_name


def _mark(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def invite(days: int, people: int) -> str:
    """The address of a new invitation."""
    token = secrets.token_urlsafe(24)
    until = timezone.now() + timedelta(days=days)
    Invitation.objects.create(mark=_mark(token), until=until, left=people)
    origins = settings.CSRF_TRUSTED_ORIGINS
    here = origins[0] if origins else f"http://127.0.0.1:{os.environ.get('FLETCHER_PORT', '8321')}"
    return f"{here}/join/{token}"


def holds(token: str) -> bool:
    """Whether an invitation can be used."""
    return Invitation.objects.filter(mark=_mark(token), until__gt=timezone.now(), left__gt=0).exists()


@contextmanager
def _refused_as(path: str) -> Iterator[None]:
    try:
        yield
    except ValidationError as error:
        raise InvalidDocument([Problem(path=path, message=" ".join(error.messages))]) from None


@transaction.atomic
def accept(token: str, name: str, password: str) -> User:
    """A new account by an invitation, which then holds for one less.

    Raises
    ------
    InvalidDocument
        If the invitation holds no more, the name is taken, or the password too weak.
    """
    rows = Invitation.objects.select_for_update().filter(mark=_mark(token), until__gt=timezone.now(), left__gt=0)
    invitation = rows.first()
    if invitation is None:
        raise InvalidDocument([Problem(path="", message="this invitation holds no more: ask for another")])
    user = User(username=name)
    with _refused_as("username"):
        require_new_name(name)
        user.full_clean(exclude=["password"])
    with _refused_as("password"):
        validate_password(password, user)
    user.set_password(password)
    user.save()
    invitation.left -= 1
    invitation.save(update_fields=["left"])
    return user
