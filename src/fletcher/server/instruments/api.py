"""Which instruments stand on the bench, and what one of them says as long as somebody looks."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator

from django.conf import settings
from django.http import Http404
from django.http.response import HttpResponseBase
from ninja import Router, Schema

from fletcher.server.common.computing import still_there
from fletcher.server.common.faults import problem
from fletcher.server.common.requests import SignedIn
from fletcher.server.common.streams import streamed
from fletcher.server.instruments.reader import LiveReading, readings

router = Router(tags=["instruments"])
MOST, LONGEST_S = 2, 600.0
"""So many streams may a process send at once, each for so long: a page asks anew."""
_places = threading.BoundedSemaphore(MOST)


class Instrument(Schema):
    """An instrument on the bench: what it measures, and the smallest step that it shows."""

    name: str
    unit: str
    step: float


class ReadingLine(Schema):
    """A line of the stream."""

    reading: LiveReading | None = None


@router.get("/instruments", response=list[Instrument])
def read_instruments(request: SignedIn) -> list[Instrument]:
    """All instruments that this server is told of."""
    return [Instrument(name=n, unit=unit, step=step) for n, (_, unit, step) in settings.INSTRUMENTS.items()]


@router.get("/instruments/{name}/readings", response=ReadingLine)
def read_readings(request: SignedIn, name: str) -> HttpResponseBase:
    """What an instrument says, a line of JSON each time it says something new. Closing the connection ends it."""
    if name not in settings.INSTRUMENTS:
        raise Http404
    if not _places.acquire(blocking=False):
        return problem(429)
    url, unit, step = settings.INSTRUMENTS[name]
    there, until = still_there(request), time.monotonic() + LONGEST_S
    found = _given_back(readings(url, unit, step, lambda: there() and time.monotonic() < until))
    return streamed(request, found, lambda _: "reading")


def _given_back(found: Iterator[LiveReading]) -> Iterator[LiveReading]:
    try:
        yield from found
    finally:
        _places.release()
