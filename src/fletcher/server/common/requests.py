"""A request of somebody who is signed in: what every route but that of the session gets."""

from __future__ import annotations

from typing import Annotated

from django.contrib.auth.models import User
from django.http import HttpRequest
from pydantic import Field

Number = Annotated[int, Field(ge=0, le=2_147_483_647)]
"""A number that a row may have."""


class SignedIn(HttpRequest):
    """For type checking: behind `auth` the user is always one."""

    user: User
