"""How processes hang together."""

from __future__ import annotations

import contextlib
import ctypes
import signal

_ON_PARENTS_DEATH = 1


def die_with_parent() -> None:
    """In a new process: end when the one that started it has ended, however that came about (Linux)."""
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None, use_errno=True).prctl(_ON_PARENTS_DEATH, signal.SIGTERM)
