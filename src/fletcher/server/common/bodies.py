"""The body of a request: read as JSON, and looked through before anything is made of it."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any

from django.http import HttpRequest
from ninja.parser import Parser

from fletcher.core.document.problems import InvalidDocument, Problem

_UNWANTED = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\u202a-\u202e\u2066-\u2069\ud800-\udfff]")
"""Control characters, those that turn the direction of what follows, halves of pairs that stand alone."""
MOST_ENTRIES = 400
"""No list of any document is longer."""
_DEEPEST = 24
"""No document is nested more deeply."""


def unwanted(text: str) -> bool:
    """Whether a text holds characters that no field takes."""
    return _UNWANTED.search(text) is not None


class LookedThrough(Parser):
    """Reads JSON. What no document can hold is refused before it is validated: endless lists, deep nesting, characters
    that cannot be stored or shown."""

    def parse_body(self, request: HttpRequest) -> dict[str, Any]:
        """The body; its first fault is told as a problem of its field."""
        try:
            data: dict[str, Any] = json.loads(request.body)
        except (ValueError, RecursionError):
            raise InvalidDocument([Problem(path="", message="is not valid JSON")]) from None
        look_through(data)
        return data


def look_through(data: Any) -> None:
    """Refuse what no document can hold.

    Raises
    ------
    InvalidDocument
        With the first that was found.
    """
    first = next(_faults(data, "", 0), None)
    if first is not None:
        raise InvalidDocument([first])


def _faults(value: Any, path: str, depth: int) -> Iterator[Problem]:
    if depth > _DEEPEST:
        yield Problem(path=path, message=f"is nested too deeply: at most {_DEEPEST} levels")
    elif isinstance(value, str):
        if unwanted(value):
            yield Problem(path=path, message="contains characters that are not allowed")
    elif isinstance(value, dict):
        for key, inner in value.items():
            if unwanted(key):
                yield Problem(path=path, message="has a field whose name contains characters that are not allowed")
            else:
                yield from _faults(inner, f"{path}.{key}" if path else key, depth + 1)
    elif isinstance(value, list):
        if len(value) > MOST_ENTRIES:
            yield Problem(path=path, message=f"is too long: no more than {MOST_ENTRIES}", value=f"{len(value)} entries")
            return
        for n, inner in enumerate(value):
            yield from _faults(inner, f"{path}[{n}]", depth + 1)
