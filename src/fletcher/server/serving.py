"""The web server: a few processes on one port of this machine.

Each reads requests whole before a thread takes them up, so that a slow or half-sent one holds nobody up. The code is
loaded once, before the processes part. One that dies is started again; all end with the one that started them.

    python -m fletcher.server.serving PORT

FLETCHER_WORKERS and FLETCHER_THREADS say how many of each. As root the processes give their rights up to the account
FLETCHER_ACCOUNT, if one is named. FLETCHER_PROXY names the address of a proxy whose word about its visitors is taken.
"""

from __future__ import annotations

import os
import pwd
import signal
import socket
import sys
import time
import traceback
from importlib import import_module
from types import FrameType
from typing import Any

import waitress

from fletcher.server.common.processes import die_with_parent
from fletcher.server.middleware import MAX_ARCHIVE_BYTES

WORKERS, THREADS = 2, 24
_TOO_SOON_S = 1.0
"""A process that lives no longer than this is not started again at once."""


def listening(port: int, host: str = "127.0.0.1") -> socket.socket:
    """A socket that all processes accept from."""
    found = socket.socket()
    found.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    found.bind((host, port))
    found.listen(1024)
    found.setblocking(False)
    return found


def give_up_rights() -> None:
    """As root: go on as the account that is named, if any."""
    name = os.environ.get("FLETCHER_ACCOUNT", "")
    if os.geteuid() != 0 or not name:
        return
    account = pwd.getpwnam(name)
    os.setgroups([])
    os.setgid(account.pw_gid)
    os.setuid(account.pw_uid)


def _leave(*_: object) -> None:
    raise SystemExit(0)


def _work(application: Any, sock: socket.socket) -> None:
    """One process: serve until told to stop."""
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, _leave)
    proxy = os.environ.get("FLETCHER_PROXY", "")
    trusted = {
        "trusted_proxy": proxy, "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto"},
        "clear_untrusted_proxy_headers": True,
    } if proxy else {"clear_untrusted_proxy_headers": True}  # fmt: skip
    give_up_rights()
    die_with_parent()  # after that: a change of rights takes it back
    waitress.serve(
        application, sockets=[sock], threads=int(os.environ.get("FLETCHER_THREADS", THREADS)), _quiet=True,
        ident="fletcher", connection_limit=1000, channel_timeout=60, asyncore_use_poll=True,
        max_request_body_size=MAX_ARCHIVE_BYTES, send_bytes=1, channel_request_lookahead=1, **trusted,
    )  # fmt: skip


class Processes:
    """The processes that serve, and those that take their place."""

    def __init__(self, application: Any, sock: socket.socket, count: int) -> None:
        self.application, self.sock, self.count = application, sock, count
        self.started: dict[int, float] = {}
        self.stopping = False

    def start(self) -> None:
        """One more process."""
        pid = os.fork()
        if pid == 0:
            code = 1
            try:
                _work(self.application, self.sock)
                code = 0
            except SystemExit:
                code = 0
            except BaseException:
                traceback.print_exc()
            os._exit(code)
        self.started[pid] = time.monotonic()

    def stop(self, number: int, _: FrameType | None) -> None:
        """Tell all to end."""
        self.stopping = True
        for pid in self.started:
            os.kill(pid, signal.SIGTERM)

    def run(self) -> None:
        """Until told to stop."""
        for _ in range(self.count):
            self.start()
        while self.started:
            try:
                pid, status = os.wait()
            except ChildProcessError:
                return
            lived = time.monotonic() - self.started.pop(pid, 0.0)
            if not self.stopping:
                print(f"a process of the web server ended ({status}); another takes its place", file=sys.stderr)
                time.sleep(max(_TOO_SOON_S - lived, 0.0))
                self.start()


def main(port: int) -> None:
    """Serve the application on a port."""
    die_with_parent()
    sock = listening(port)
    application = import_module("fletcher.server.wsgi").application
    processes = Processes(application, sock, int(os.environ.get("FLETCHER_WORKERS", WORKERS)))
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, processes.stop)
    processes.run()


if __name__ == "__main__":
    main(int(sys.argv[1]))
