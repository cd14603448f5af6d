"""Rows of the tables with the builder's own materials beside them.

An own material is known by a key that carries a digest of its values ("rod~1a2b3c4d"), so that whatever is kept by a
part's keys is kept by what they mean. The reference tables look own keys up here; they never list them.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, TypeVar

from fletcher.core.materials.materials import Material

M = TypeVar("M", bound=Material)
V = TypeVar("V")

MARK = "~"
"""Stands between the key of an own material and the digest of its values."""
_MOST = 4096
"""So many are remembered; every document puts its own in again as it is read."""

_lock = threading.Lock()
_known: OrderedDict[str, tuple[str, Material, str]] = OrderedDict()


def plain(key: str) -> str:
    """The id of an own material, as the file names it; any other key as it is."""
    return key.split(MARK)[0]


def put(table: str, material: Material, like: str) -> None:
    """Remember an own material of a table, made from the reference row `like`."""
    with _lock:
        _known[material.key] = table, material, like
        _known.move_to_end(material.key)
        while len(_known) > _MOST:
            _known.popitem(last=False)


def like(key: str) -> str:
    """The reference row that an own material was made from; any other key itself."""
    found = _known.get(key)
    return key if found is None else found[2]


class Rows(dict[str, M]):
    """Materials of one table by key; own ones answer to theirs, as `seen` makes them."""

    def __init__(self, table: str, rows: dict[str, M], seen: Callable[[M], M] = lambda m: m) -> None:
        super().__init__(rows)
        self.table, self.seen = table, seen

    def __missing__(self, key: str) -> M:
        found = _known.get(key)
        if found is None or found[0] != self.table:
            raise KeyError(key)
        return self.seen(found[1])  # type: ignore[arg-type]

    def __contains__(self, key: object) -> bool:
        return super().__contains__(key) or _known.get(str(key), ("",))[0] == self.table

    def get(self, key: str, default: Any = None) -> Any:
        """The row of a key, or the default."""
        try:
            return self[key]
        except KeyError:
            return default


class ByLike(dict[str, V]):
    """What a table says of a material by its key; of an own one what it says of the row that it was made from."""

    def __missing__(self, key: str) -> V:
        row = like(key)
        if row == key:
            raise KeyError(key)
        return self[row]

    def __contains__(self, key: object) -> bool:
        return super().__contains__(like(str(key)))

    def get(self, key: str, default: Any = None) -> Any:
        """What the table says, or the default."""
        return super().get(like(key), default)
