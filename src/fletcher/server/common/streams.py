"""Answers that grow while one watches: lines of JSON, each an object with one key that says what it is."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from typing import TypeVar

from django.http import HttpRequest, StreamingHttpResponse
from pydantic import BaseModel

from fletcher.core.common.abandon import Abandoned, while_wanted
from fletcher.core.common.quantities import Units, read_in, units
from fletcher.core.document.problems import InvalidDocument
from fletcher.server.common.computing import still_there

Step = TypeVar("Step", bound=BaseModel)


def streamed(request: HttpRequest, found: Iterator[Step], key: Callable[[Step], str]) -> StreamingHttpResponse:
    """The steps of a search as lines, each under its `key`. What is wrong from the start is a plain refusal, later a
    line "problems". When the page goes away the iterator is closed, and with it the search."""
    first = next(found, None)
    lines = _lines(found, first, key, units(), still_there(request))
    return StreamingHttpResponse(lines, content_type="application/x-ndjson")


def _lines(
    found: Iterator[Step], step: Step | None, key: Callable[[Step], str], reader: Units, wanted: Callable[[], bool]
) -> Iterator[bytes]:
    # written after the request's own frame has been left: units and the one who waits are put back for every step
    try:
        while step is not None:
            yield json.dumps({key(step): step.model_dump(mode="json")}).encode() + b"\n"
            with read_in(reader), while_wanted(wanted):
                step = next(found, None)
    except Abandoned:
        return
    except InvalidDocument as invalid:
        yield json.dumps({"problems": [p.model_dump() for p in invalid.problems]}).encode() + b"\n"
