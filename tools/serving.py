"""Serving: the database and the web server, kept running until somebody stops them."""

from __future__ import annotations

import contextlib
import fcntl
import os
import signal
import subprocess
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from typing import IO

from tools import processes, setup
from tools.database import Cluster, port_is_free
from tools.setup import DATA, MANAGE, PYTHON, ROOT, Trouble, say

NOBODY = "nobody"
"""The account without rights that the web server runs under where it is started as root."""
_LOOKS_EVERY_S = 1.0
"""So often it is seen whether database and web server still run."""
_SOON_S, _SLOWEST_S = 10.0, 10.0
"""What dies again so soon is started again more slowly, at most so much."""
_IN_VAIN = 5
"""So often in a row either is started again in vain before the command gives up."""


@contextlib.contextmanager
def only_one(name: str) -> Iterator[IO[str]]:
    """Hold the lock of a verb for as long as it runs."""
    DATA.mkdir(exist_ok=True)
    with (DATA / f"{name}.lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            lock.seek(0)
            where = lock.read().strip() or "another terminal"
            raise Trouble(
                f"Fletcher already runs from this folder: {where}. Stop it there with Ctrl-C first."
            ) from None
        yield lock


def _answers(address: str) -> bool:
    try:
        with urllib.request.urlopen(address + "api/health", timeout=5) as reply:
            return bool(reply.status == 200)
    except (urllib.error.URLError, OSError):
        return False


def _port() -> int:
    try:
        port = int(os.environ.get("FLETCHER_PORT", "8321"))
    except ValueError:
        port = 0
    if not 1 <= port <= 65535:
        raise Trouble("FLETCHER_PORT must be a number from 1 to 65535, such as 8321.")
    return port


def _free(port: int) -> None:
    """See that a port is free: what an earlier start from this folder left on it is ended, anything else is named."""
    if port_is_free(port):
        return
    there = processes.listening_on(port)
    left = [pid for pid in there if processes.is_ours(pid, ROOT)]
    if left:
        say("a web server of an earlier start was still running; it has been ended")
        processes.end(left)
    if not port_is_free(port):
        who = next((f" ({processes.called(pid)}, process {pid})" for pid in there if pid not in left), "")
        raise Trouble(
            f"port {port} is in use by another program{who}. Choose another: "
            f"FLETCHER_PORT={port + 1 if port < 65535 else port - 1} ./fletcher demo"
        )


def _account() -> str:
    """As root: the account that the web server goes on as, if it can read this folder; no name otherwise."""
    if os.geteuid() != 0:
        return ""
    standard = setup.run([PYTHON, "-c", "import os; print(os.__file__)"], "asking Python where it lies").strip()
    needed = (standard, str(ROOT / "frontend" / "dist" / "index.html"), str(PYTHON))
    reach = ["runuser", "-u", NOBODY, "--", "test", "-r"]
    closed = [path for path in needed if subprocess.run([*reach, path], cwd="/", capture_output=True).returncode]
    if not closed:
        return NOBODY
    say(f"the account {NOBODY!r} cannot read {closed[0]}, so the web server keeps the rights of root")
    return ""


class _Web:
    """The web server's processes."""

    def __init__(self, port: int, env: dict[str, str]) -> None:
        self.port, self.env, self.address = port, env, f"http://127.0.0.1:{port}/"
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start it, and wait until it answers."""
        self.process = subprocess.Popen(
            [PYTHON, "-m", "fletcher.server.serving", str(self.port)],
            env={"FLETCHER_ACCOUNT": _account(), **self.env}, cwd=ROOT, start_new_session=True,
        )  # fmt: skip
        deadline = time.monotonic() + 60
        while not _answers(self.address):
            if self.process.poll() is not None:
                raise Trouble("the web server stopped while starting; see its output above.")
            if time.monotonic() > deadline:
                raise Trouble("the web server did not answer within a minute.")
            time.sleep(0.1)

    def runs(self) -> bool:
        """Whether it runs."""
        return self.process is not None and self.process.poll() is None

    def stop(self) -> None:
        """End it, and give what is under way a quarter of a minute."""
        if self.process is None or self.process.poll() is not None:
            return
        self.process.terminate()
        try:
            self.process.wait(15)
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()


def _stop(*_: object) -> None:
    raise KeyboardInterrupt


def serve(demo: bool, on_look: Callable[[Cluster], None]) -> int:
    """Set up, migrate, serve on loopback until Ctrl-C. What dies meanwhile is started again."""
    port = _port()
    with only_one("serve") as lock:
        _free(port)
        setup.system_packages(tests=False)
        setup.python_packages(tests=False)
        setup.frontend_build()
        lock.truncate(0)
        lock.write(f"http://127.0.0.1:{port}/")
        lock.flush()
        cluster = Cluster("main", durable=True)
        # a shell starts background jobs with Ctrl-C ignored, a closed terminal hangs up: all ways of stopping must work
        for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            signal.signal(number, _stop)
        web = None
        try:
            if cluster.start():
                say("the database of an earlier start was still running; it is used as it is")
            env = cluster.environment(demo)
            mark, built = DATA / "static-build", setup.build_mark()
            fresh = mark.is_file() and mark.read_text() == built
            setup.run([PYTHON, MANAGE, "prepare", *([] if fresh else ["--static"])], "preparing the database", env=env)
            mark.write_text(built)
            web = _Web(port, env)
            web.start()
            print(
                f"\n  Fletcher is ready: {web.address}\n  Ctrl-C stops it. The data stay in {cluster.folder}\n",
                flush=True,
            )
            return _watch(web, cluster, on_look)
        except KeyboardInterrupt:
            with contextlib.suppress(OSError):  # the terminal may be gone
                print()
                say("stopping")
            return 0
        finally:
            for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
                signal.signal(number, signal.SIG_IGN)
            if web is not None:
                web.stop()
            cluster.stop()


def _watch(web: _Web, cluster: Cluster, on_look: Callable[[Cluster], None]) -> int:
    """See that both run, and start again what has died, more slowly if it dies again and again; only where that fails
    several times in a row it is given up. `on_look` is called at every look."""
    failed, last, in_vain = 0, 0.0, 0
    while True:
        time.sleep(_LOOKS_EVERY_S)
        on_look(cluster)
        dead = [name for name, runs in (("database", cluster.runs()), ("web server", web.runs())) if not runs]
        if not dead:
            continue
        failed = failed + 1 if time.monotonic() - last < _SOON_S else 0
        time.sleep(min(failed, _SLOWEST_S))
        try:
            for name in dead:
                say(f"the {name} has stopped; it is started again")
                if name == "database":
                    cluster.start()
                else:
                    processes.end([pid for pid in processes.listening_on(web.port) if processes.is_ours(pid, ROOT)])
                    web.start()
            in_vain = 0
        except Trouble as trouble:
            in_vain += 1
            if in_vain > _IN_VAIN:
                raise
            say(f"that failed and is tried again: {trouble}")
        last = time.monotonic()
