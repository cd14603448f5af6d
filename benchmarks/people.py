"""People at work on the real web server: accounts with sessions, and what a page asks as somebody drags, types, looks.

The server runs in processes of its own on the tests' cluster; only loopback is asked.
"""

from __future__ import annotations

import copy
import http.client
import json
import os
import random
import signal
import subprocess
import sys
import threading
import time
from collections import defaultdict
from pathlib import Path
from typing import Any

import django

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "fletcher.server.settings")
django.setup()

from django.conf import settings  # noqa: E402
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY  # noqa: E402
from django.contrib.auth.models import User  # noqa: E402
from django.contrib.sessions.backends.db import SessionStore  # noqa: E402
from django.db import connections  # noqa: E402
from tools.database import free_port  # noqa: E402

from fletcher.core.demo.world import demo_airframes  # noqa: E402
from fletcher.server.airframes import services  # noqa: E402


class Tally:
    """Times of answers by what was asked, and what went wrong."""

    def __init__(self) -> None:
        self.times: dict[str, list[float]] = defaultdict(list)
        self.busy: dict[str, int] = defaultdict(int)
        self.faults: list[str] = []
        self.lock = threading.Lock()

    def note(self, what: str, seconds: float, status: int) -> None:
        """One answer."""
        with self.lock:
            if status == 429:
                self.busy[what] += 1
            elif status >= 400 or status == 0:
                self.faults.append(f"{what}: {status}")
            else:
                self.times[what].append(seconds)

    def tell(self) -> None:
        """Print one line for each kind of question."""
        for what, times in sorted(self.times.items()):
            times.sort()
            at = {p: 1e3 * times[min(int(len(times) * p / 100), len(times) - 1)] for p in (50, 95, 99)}
            turned = f", {self.busy[what]} told to come again" if self.busy[what] else ""
            figures = "  ".join(f"{p} % {ms:6.0f} ms" for p, ms in at.items())
            print(f"{what:16} {len(times):6}  {figures}{turned}")
        print(f"errors: {len(self.faults)} {sorted(set(self.faults))[:5]}")


class Servers:
    """Web servers in processes of their own, each on a port of its own, on one database."""

    def __init__(self, count: int = 1, **env: str) -> None:
        self.ports = [free_port() for _ in range(count)]
        base = {**os.environ, "FLETCHER_DEMO": "0", **env}
        self.processes = [
            subprocess.Popen([sys.executable, "-m", "fletcher.server.serving", str(port)], env=base, cwd=ROOT,
                             start_new_session=True)
            for port in self.ports
        ]  # fmt: skip
        for port in self.ports:
            self._wait(port)

    def _wait(self, port: int) -> None:
        for _ in range(600):
            try:
                link = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
                link.request("GET", "/api/health")
                if link.getresponse().status == 200:
                    return
            except OSError:
                time.sleep(0.1)
        raise AssertionError("a web server does not start")

    def memory_mb(self) -> float:
        """What all processes hold, their own pages and their share of common ones."""
        return sum(_pss(pid) for group in self.processes for pid in _group(group.pid)) / 1024

    def kill(self, n: int) -> None:
        """End one of them without a word."""
        os.killpg(self.processes[n].pid, signal.SIGKILL)
        self.processes[n].wait(20)

    def stop(self) -> None:
        """End all."""
        for process in self.processes:
            if process.poll() is None:
                process.terminate()
        for process in self.processes:
            process.wait(30)


def _group(leader: int) -> list[int]:
    children = Path(f"/proc/{leader}/task/{leader}/children").read_text().split()
    return [leader, *map(int, children)]


def _pss(pid: int) -> int:
    for line in Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines():
        if line.startswith("Pss:"):
            return int(line.split()[1])
    return 0


class Person:
    """Somebody with an account and an airframe, in front of a page."""

    def __init__(self, name: str, ports: list[int], tally: Tally) -> None:
        user = User.objects.create_user(name)
        session = SessionStore()
        session.update({
            SESSION_KEY: str(user.pk), BACKEND_SESSION_KEY: "fletcher.server.accounts.names.ByName",
            HASH_SESSION_KEY: user.get_session_auth_hash(),
        })  # fmt: skip
        session.save()
        self.token = "b" * 32
        self.headers = {
            "Content-Type": "application/json", "X-CSRFToken": self.token,
            "Cookie": f"{settings.SESSION_COOKIE_NAME}={session.session_key}; csrftoken={self.token}",
        }  # fmt: skip
        self.ports, self.tally, self.rng = list(ports), tally, random.Random(name)
        self.document = demo_airframes()[0].model_dump(mode="json")
        state = services.create(user, demo_airframes()[0])
        self.id, self.revision = state.id, 1
        self.saved: list[float] = []
        self.moves = 0
        self.link: http.client.HTTPConnection | None = None

    def ask(self, what: str, method: str, path: str, body: Any = None) -> tuple[int, bytes]:
        """One question, timed; its status is 0 where there was no answer."""
        data = None if body is None else json.dumps(body)
        started = time.perf_counter()
        try:
            if self.link is None:
                self.link = http.client.HTTPConnection("127.0.0.1", self.rng.choice(self.ports), timeout=120)
            self.link.request(method, f"/api/{path}", data, self.headers)
            reply = self.link.getresponse()
            status, told = reply.status, reply.read()
        except (OSError, http.client.HTTPException):
            status, told, self.link = 0, b"", None
        self.tally.note(what, time.perf_counter() - started, status)
        return status, told

    def move(self) -> None:
        """Move something of the wing, to where it has not been."""
        self.document = copy.deepcopy(self.document)
        part = self.document["parts"][0]
        self.moves += 1
        part["root_chord_mm"] = round(160 + self.moves * 0.618034 % 1 * 60, 4)

    def estimate(self, quick: bool) -> None:
        """The live estimate."""
        part = self.document["parts"][0]
        body = {"document": self.document, "part_id": part["id"], "case_id": part["cases"][0]["id"], "quick": quick}
        self.ask("quick estimate" if quick else "full estimate", "POST", "studies/estimate", body)

    def save(self) -> bool:
        """Autosave."""
        body = {"revision": self.revision, "document": self.document}
        status, told = self.ask("save", "PUT", f"airframes/{self.id}", body)
        if status == 200:
            self.revision = json.loads(told)["revision"]
            self.saved.append(self.document["parts"][0]["root_chord_mm"])
        return status == 200

    def drag(self) -> None:
        """Drag something for a second and a half, then let it rest."""
        for _ in range(12):
            self.move()
            self.estimate(quick=True)
            time.sleep(0.03)
        time.sleep(0.3)
        self.save()
        self.estimate(quick=False)

    def type(self) -> None:
        """Type three figures, a second apart."""
        for _ in range(3):
            self.move()
            self.estimate(quick=True)
            self.save()
            time.sleep(1)

    def look(self) -> None:
        """Look at the shelf, what is pinned, the log."""
        for path in ("airframes", f"airframes/{self.id}/pins", f"crash/airframes/{self.id}/log"):
            self.ask("read", "GET", path)

    def listen(self) -> None:
        """Whether another window has changed the airframe."""
        self.ask("listen", "GET", f"airframes/{self.id}/since/{self.revision}")

    def work(self, until: float) -> None:
        """Do one thing and another until a moment, with pauses; listen for changes meanwhile."""
        time.sleep(self.rng.uniform(0, 25))
        while time.monotonic() < until:
            self.rng.choices((self.drag, self.type, self.look), (5, 3, 2))[0]()
            for _ in range(self.rng.randint(4, 12)):
                if time.monotonic() > until:
                    return
                time.sleep(3)
                self.listen()


def crowd(count: int, servers: Servers, tally: Tally) -> list[Person]:
    """So many people, each with an account of its own."""
    people = [Person(f"p{n}-{User.objects.count()}", servers.ports, tally) for n in range(count)]
    connections.close_all()
    return people
