"""Processes of this machine, as Linux tells them: who listens on a port, who is left from an earlier start."""

from __future__ import annotations

import contextlib
import os
import signal
import time
from collections.abc import Iterator
from pathlib import Path

_LISTENS = "0A"


def _sockets(port: int) -> set[str]:
    """Inodes of the sockets that listen on a port of this machine."""
    found = set()
    for table in ("/proc/net/tcp", "/proc/net/tcp6"):
        with contextlib.suppress(OSError):
            for line in Path(table).read_text().splitlines()[1:]:
                field = line.split()
                if field[3] == _LISTENS and int(field[1].rsplit(":", 1)[1], 16) == port:
                    found.add(f"socket:[{field[9]}]")
    return found


def _processes() -> Iterator[int]:
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit():
            yield int(entry.name)


def listening_on(port: int) -> list[int]:
    """Ids of the processes that listen on a port, as far as this user may see."""
    wanted, found = _sockets(port), []
    for pid in _processes() if wanted else ():
        with contextlib.suppress(OSError):
            if any(str(fd.readlink()) in wanted for fd in Path(f"/proc/{pid}/fd").iterdir()):
                found.append(pid)
    return found


def called(pid: int) -> str:
    """The command of a process, in short; empty where it is gone or hidden."""
    with contextlib.suppress(OSError):
        return Path(f"/proc/{pid}/cmdline").read_text().replace("\0", " ").strip()[:120]
    return ""


def is_ours(pid: int, root: Path) -> bool:
    """Whether a process is a web server that was started from this folder."""
    with contextlib.suppress(OSError):
        return "fletcher.server.serving" in called(pid) and Path(f"/proc/{pid}/cwd").readlink() == root
    return False


def end(pids: list[int], seconds: float = 10.0) -> None:
    """Ask processes to end, and make them where they do not."""
    for number in (signal.SIGTERM, signal.SIGKILL):
        for pid in pids:
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, number)
        deadline = time.monotonic() + seconds
        while any(Path(f"/proc/{pid}/stat").exists() and _lives(pid) for pid in pids):
            if time.monotonic() > deadline:
                break
            time.sleep(0.05)
        else:
            return


def _lives(pid: int) -> bool:
    with contextlib.suppress(OSError):
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    return False
