"""What has been worked out of a prepared part, kept as long as that part is: of several threads the first decides."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from threading import Lock
from typing import Any, TypeVar
from weakref import WeakKeyDictionary

from fletcher.core.common.quantities import units
from fletcher.core.estimate.prepare import Prepared

T = TypeVar("T")

_MOST = 200
"""So many answers are kept of a part; the oldest go first."""
_KEPT: WeakKeyDictionary[Prepared, dict[Hashable, Any]] = WeakKeyDictionary()
_LOCK = Lock()


def known(p: Prepared, key: Hashable) -> bool:
    """Whether an answer is kept."""
    with _LOCK:
        return (units(), key) in _KEPT.get(p, {})


def kept(p: Prepared, key: Hashable, make: Callable[[], T]) -> T:
    """The answer to `key` of a prepared part: what was kept, else what `make` returns, which nobody may change after.
    It is made outside the lock; where two threads make it at once, both go on with the first."""
    key = units(), key  # answers hold sentences
    with _LOCK:
        answers = _KEPT.setdefault(p, {})
        if key in answers:
            return answers[key]  # type: ignore[no-any-return]
    found = make()
    with _LOCK:
        while len(answers) >= _MOST:
            del answers[next(iter(answers))]
        return answers.setdefault(key, found)  # type: ignore[no-any-return]
