"""What is answered where something goes wrong: always a list of problems, whatever layer found it."""

from __future__ import annotations

import logging
import secrets
import sys

from django.db import Error as StoreError
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from psycopg.errors import DiskFull, OutOfMemory

log = logging.getLogger(__name__)

SAYS = {
    400: "is no request that can be read",
    401: "sign in first",
    403: "the page is out of date: reload it",
    404: "it is no longer there",
    405: "this cannot be done at this address",
    413: "it is too large",
    429: "the server is asked too often: wait a moment",
}
"""What a status means, where nothing tells it better."""


def problem(status: int, message: str = "", value: str = "") -> JsonResponse:
    """A refusal with one problem that belongs to no field."""
    told = {"path": "", "message": message or SAYS.get(status, SAYS[400]), "value": value}
    return JsonResponse({"problems": [told]}, status=status)


def fault(error: BaseException | None) -> JsonResponse:
    """Something that should never happen: logged with its traceback under a mark that the page shows."""
    mark = secrets.token_hex(4)
    log.error("fault %s", mark, exc_info=error)
    return problem(500, f"Fletcher has made a mistake. Nothing was stored. The server's log tells it as {mark}.", mark)


def store_fault(error: StoreError) -> JsonResponse:
    """The database says no: its disk is full, it is away for a moment, or a mistake of ours."""
    cause = error.__cause__
    if isinstance(cause, DiskFull | OutOfMemory):
        log.error("the store is full: %s", error)
        return problem(507, "the server's disk is full: nothing was stored; it goes on as soon as there is room")
    if isinstance(error, OperationalError | InterfaceError):
        log.error("the database is away: %s", error)
        return problem(503, "the database is away for a moment: nothing was stored; try again soon")
    return fault(error)


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """400 outside the API's own routes."""
    return problem(400)


def no_csrf(request: HttpRequest, reason: str = "") -> HttpResponse:
    """403 where the token of a change is missing or old."""
    return problem(403)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """404 outside the API's own routes."""
    return problem(404)


def server_error(request: HttpRequest) -> HttpResponse:
    """500 outside the API's own routes (its session among them); Django has logged it."""
    error = sys.exc_info()[1]
    if isinstance(error, StoreError):
        return store_fault(error)
    return problem(500, "Fletcher has made a mistake. Nothing was stored; the server's log tells more.")
