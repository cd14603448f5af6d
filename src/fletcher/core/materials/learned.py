"""Draws of materials as tests have taught them, by a mark behind the key: "epp_30~t1a2b3c" is a batch of epp_30.

What was learned is a change of the standard normals that a material's values are drawn from; the tables stay as they
are, and so do materials without a mark, to the last digit.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Protocol

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


def seen(key: str, count: int, bare: Bare) -> Array:
    """Normals of a stream, changed where its material carries a mark."""
    stream, found, mark = key.rpartition(MARK)
    draws = _known.get(mark) if found else None
    return bare(key, count) if draws is None else draws.of(stream, count, bare)
