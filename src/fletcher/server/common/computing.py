"""How much is computed at once, and for whom: fair shares of every process, and nothing that nobody waits for."""

from __future__ import annotations

import threading
import time
from collections import Counter
from collections.abc import Callable
from contextlib import suppress
from typing import Any

from django.http import FileResponse, HttpRequest, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase

from fletcher.core.common.abandon import Abandoned, while_wanted
from fletcher.server.common.faults import problem

_LIVE = {
    "studies": (
        "estimate",
        "aerofoil",
        "plate-corners",
        "plate-outline",
        "case",
        "starters",
        "whole",
        "drape",
        "balance",
        "ledger-table",
        "equipment-table",
        "equipment-from-table",
    ),
    "crash": ("offers", "reopen"),
    "stock": ("which-foam",),
    "build": ("trace",),
}
"""What follows every move of a hand: answered in a tenth of a second."""
_DEAR = {
    "studies": ("worth", "exactness", "reach", "match", "scale", "compare", "choose", "new-airframe", "sized",
                "in-construction", "making", "openings", "lighter", "plan", "plan-calendar", "cut-list", "splices",
                "corridor", "detail", "joints", "surface-ways"),
    "crash": ("inspect", "left", "standings", "mend", "mend-option", "slip", "toughen", "log.pdf"),
    "joints": ("glue", "glue-table", "hold", "hinge", "trial-plan"),
    "build": ("sheet.pdf", "templates.zip", "trace.zip", "repair-plan"),
    "account": ("archive", "archive/look", "archive/take"),
}  # fmt: skip
"""What takes from a fraction of a second to many (docs/operations.md says what each costs)."""
LIVE_EACH, LIVE_ALL = 4, 1
"""So many live questions of one account are taken by a process, more are refused; so many are computed at once. More at
once would make none of them earlier, and all that is saved and read meanwhile later."""
DEAR_EACH, DEAR_ALL = 2, 3
"""So many dear ones of one account, and of all, are computed at once by a process …"""
WAIT_EACH, WAIT_ALL = 2, 4
"""… and so many wait; more are refused."""
_WAIT_S, _LOOKS_EVERY_S = 60.0, 0.5
"""So long at most; and so often one who waits looks whether anybody still wants it."""


def _paths(sorts: dict[str, tuple[str, ...]]) -> frozenset[str]:
    return frozenset(f"/api/{place}/{name}" for place, names in sorts.items() for name in names)


LIVE_PATHS, DEAR_PATHS = _paths(_LIVE), _paths(_DEAR)


class Shares:
    """What one process computes at once, by account."""

    def __init__(self) -> None:
        self.turn = threading.Condition()
        self.running: Counter[object] = Counter()
        self.waiting: Counter[object] = Counter()
        self.live: Counter[object] = Counter()
        self.computing = 0

    def _free(self, account: object) -> bool:
        return self.running[account] < DEAR_EACH and self.running.total() < DEAR_ALL

    def _wait(self, free: Callable[[], bool], wanted: Callable[[], bool]) -> bool:
        """Wait for a turn, holding `turn`; false where nobody wants it any more, or it is long in coming."""
        until = time.monotonic() + _WAIT_S
        while not free():
            if not wanted() or time.monotonic() > until:
                return False
            self.turn.wait(_LOOKS_EVERY_S)
        return wanted()

    def take_dear(self, account: object, wanted: Callable[[], bool]) -> bool:
        """Wait for a turn; false where too many wait already, or nobody wants it any more."""
        with self.turn:
            if not self._free(account):
                if self.waiting[account] >= WAIT_EACH or self.waiting.total() >= WAIT_ALL:
                    return False
                self.waiting[account] += 1
                try:
                    if not self._wait(lambda: self._free(account), wanted):
                        return False
                finally:
                    self.waiting[account] -= 1
            self.running[account] += 1
            return True

    def give_dear(self, account: object) -> None:
        """A turn is over."""
        with self.turn:
            self.running[account] -= 1
            self.turn.notify_all()

    def take_live(self, account: object, wanted: Callable[[], bool]) -> bool:
        """Wait for a turn; false where the account asks too much at once, or nobody wants it any more."""
        with self.turn:
            if self.live[account] >= LIVE_EACH:
                return False
            self.live[account] += 1
            if not self._wait(lambda: self.computing < LIVE_ALL, wanted):
                self.live[account] -= 1
                return False
            self.computing += 1
            return True

    def give_live(self, account: object) -> None:
        """A turn is over."""
        with self.turn:
            self.live[account] -= 1
            self.computing -= 1
            self.turn.notify_all()


shares = Shares()


def still_there(request: HttpRequest) -> Callable[[], bool]:
    """How to see whether the one who asked is still connected; always, where the server cannot tell."""
    gone = request.META.get("waitress.client_disconnected")
    return (lambda: True) if gone is None else (lambda: not gone())


def fair_shares(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    """Middleware behind the session: questions take turns, and end where nobody waits for the answer."""

    def middleware(request: HttpRequest) -> HttpResponseBase:
        dear, live = request.path in DEAR_PATHS, request.path in LIVE_PATHS
        if not (dear or live):
            return get_response(request)
        account, wanted = request.user.pk, still_there(request)
        if not (shares.take_dear(account, wanted) if dear else shares.take_live(account, wanted)):
            return problem(429)
        give = shares.give_dear if dear else shares.give_live
        kept = False
        try:
            with while_wanted(wanted):
                response = get_response(request)
            if isinstance(response, StreamingHttpResponse) and not isinstance(response, FileResponse):
                # computed as it is sent: its turn lasts until the last line
                response.streaming_content = _Turn(response.streaming_content, lambda: give(account))
                kept = True
            return response
        except Abandoned:
            return HttpResponse(status=204)  # nobody reads it
        finally:
            if not kept:
                give(account)

    return middleware


class _Turn:
    """The lines of an answer; when they are read, or nobody reads on, the turn is over."""

    def __init__(self, lines: Any, over: Callable[[], None]) -> None:
        self.lines, self.left = lines, [over]

    def __iter__(self) -> _Turn:
        return self

    def __next__(self) -> bytes:
        try:
            return bytes(next(self.lines))
        except BaseException:
            self._over()
            raise

    def close(self) -> None:
        """Nobody reads on; the response itself closes what makes the lines."""
        self._over()

    def _over(self) -> None:
        with suppress(IndexError):
            self.left.pop()()
