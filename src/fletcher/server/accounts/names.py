"""Names of accounts: compared without case, so that "Joan" and "joan" are one."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.backends import ModelBackend
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.http import HttpRequest


def named(name: str) -> User | None:
    """The account of a name."""
    return User.objects.filter(username__iexact=name).first()


def require_new_name(name: str) -> None:
    """Raise if an account has the name already, or it is too long to be one."""
    if not 1 <= len(name) <= 60:
        raise ValidationError("A name has 1 to 60 letters.")
    if named(name) is not None:
        raise ValidationError("An account of this name exists.")


def tried_name(request: HttpRequest | None, credentials: dict[str, Any] | None = None) -> str:
    """The name that somebody tries to sign in with, as tries are counted by it."""
    return str((credentials or {}).get("username") or "").lower()


class ByName(ModelBackend):
    """Signs in by name and password, the name without case."""

    def authenticate(
        self, request: HttpRequest | None, username: str | None = None, password: str | None = None, **kwargs: Any
    ) -> User | None:
        """The account, if the password is its own."""
        user = None if username is None else named(username)
        found = super().authenticate(request, username if user is None else user.username, password, **kwargs)
        return found if isinstance(found, User) else None
