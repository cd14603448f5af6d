"""What requests hold: somebody who is signed in, numbers of rows, moments."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal, cast, get_args

from django.contrib.auth.models import User
from django.http import HttpRequest
from pydantic import AfterValidator, AwareDatetime, Field
from pydantic_core import PydanticCustomError

Number = Annotated[int, Field(ge=0, le=2_147_483_647)]
"""A number that a row may have."""


def _plausible(moment: datetime) -> datetime:
    if not 1970 <= moment.year <= 2100:
        raise PydanticCustomError("moment", "lies outside the years 1970 to 2100")
    return moment


Moment = Annotated[AwareDatetime, AfterValidator(_plausible)]
"""When something was, with its time zone."""


Device = Literal["phone", "tablet", "computer", ""]
"""On what somebody works, as the page says."""


def device_of(request: HttpRequest) -> Device:
    """The device that the page names in `X-Device`."""
    said = request.headers.get("X-Device", "")
    return cast("Device", said) if said in get_args(Device) else ""


class SignedIn(HttpRequest):
    """For type checking: behind `auth` the user is always one."""

    user: User
