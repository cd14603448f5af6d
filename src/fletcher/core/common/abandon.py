"""Work that nobody waits for any more is given up.

Whoever asks says how to see that the answer is still wanted; whatever takes long looks now and then.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_wanted: ContextVar[Callable[[], bool] | None] = ContextVar("wanted", default=None)


class Abandoned(BaseException):
    """Nobody waits for the answer."""


@contextmanager
def while_wanted(wanted: Callable[[], bool]) -> Iterator[None]:
    """Within it, work goes on only as long as it is `wanted`."""
    token = _wanted.set(wanted)
    try:
        yield
    finally:
        _wanted.reset(token)


def look_up() -> None:
    """Raise `Abandoned` where nobody waits any more."""
    wanted = _wanted.get()
    if wanted is not None and not wanted():
        raise Abandoned
