"""Draws of materials as tests have taught them, by a mark behind the key: "epp_30~t1a2b3c" is a batch of epp_30.

What was learned is a change of the standard normals that a material's values are drawn from; the tables stay as they
are, and so do materials without a mark, to the last digit.
"""

from __future__ import annotations

import re
import threading
from collections import OrderedDict
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Protocol

import numpy as np

from fletcher.core.common.arrays import Array

MARK = "~t"
_MOST = 256
_lock = threading.Lock()
_known: OrderedDict[str, Draws] = OrderedDict()
Bare = Callable[[str, int], Array]
"""Independent normals of a stream by its key, (count, 1 + draws), the first column at rest."""


class Draws(Protocol):
    """What becomes of the normals of a stream."""

    def of(self, stream: str, count: int, bare: Bare) -> Array:
        """Rows of a stream by the key of its material without a mark, (count, 1 + draws)."""
        ...


def put(mark: str, draws: Draws) -> None:
    """Remember what a mark stands for."""
    with _lock:
        _known[mark] = draws
        _known.move_to_end(mark)
        while len(_known) > _MOST:
            _known.popitem(last=False)


_MARKED = re.compile(MARK + "([0-9a-z]+)")
_at_rest: ContextVar[bool] = ContextVar("at_rest", default=False)


@contextmanager
def at_rest() -> Iterator[None]:
    """Within it all that carries no mark is typical in every draw: one unknown is looked at after another."""
    token = _at_rest.set(True)
    try:
        yield
    finally:
        _at_rest.reset(token)


def resting() -> bool:
    """Whether what carries no mark is typical now; whoever keeps draws keeps them by this as well."""
    return _at_rest.get()


def forget(mark: str) -> None:
    """What a mark stood for is not drawn any more."""
    with _lock:
        _known.pop(mark, None)


def seen(key: str, count: int, bare: Bare) -> Array:
    """Normals of a stream, changed where its material carries a mark, also within a name that was made of its key."""
    found = _MARKED.search(key)
    if found is None:
        values = bare(key, count)
        return np.zeros_like(values) if resting() else values
    draws = _known.get(found[1])
    if draws is None:  # never other draws in its place without a word
        raise LookupError(f"nothing is known of the mark of {key}")
    return draws.of(_MARKED.sub("", key), count, bare)
