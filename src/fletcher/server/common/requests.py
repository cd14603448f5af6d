"""A request of somebody who is signed in: what every route but that of the session gets."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.http import HttpRequest


class SignedIn(HttpRequest):
    """For type checking: behind `auth` the user is always one."""

    user: User
