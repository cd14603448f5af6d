"""The real web server, in processes of its own, on the test's database."""

from __future__ import annotations

import contextlib
import os
import signal
import socket
import subprocess
import sys
import urllib.error
import urllib.request
from pathlib import Path

from django.db import connection


class Server:
    """The real web server in processes of its own, on the test's database."""

    def __init__(self) -> None:
        with socket.socket() as s:
            s.bind(("127.0.0.1", 0))
            self.port = s.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}/"

    def start(self, demo: bool = True) -> None:
        env = {**os.environ, "FLETCHER_DB_NAME": connection.settings_dict["NAME"], "FLETCHER_DEMO": str(int(demo))}
        self.process = subprocess.Popen(
            [sys.executable, "-m", "fletcher.server.serving", str(self.port)],
            env=env, cwd=Path(__file__).parents[1], start_new_session=True,
        )  # fmt: skip
        # the port is open before the code is loaded: the connection waits in its queue until the first answer
        for _ in range(600):
            try:
                urllib.request.urlopen(self.address + "api/session", timeout=60).close()
                return
            except urllib.error.HTTPError as refused:
                self.kill()
                raise AssertionError(f"the server starts with {refused.code}") from refused
            except OSError:
                with contextlib.suppress(subprocess.TimeoutExpired):
                    self.process.wait(0.1)
            if self.process.poll() is not None:
                break
        raise AssertionError("the server ended while starting")

    def kill(self) -> None:
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait(20)
