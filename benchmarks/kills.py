"""Edits while processes are killed at random: every edit that was answered must be there, in its order.

    ./fletcher bench kills [EDITS]

Starts the demo from this folder on a port of its own and kills only what that start made: processes of the web server,
the web server itself, the database. Nothing else may run from this folder meanwhile.
"""

from __future__ import annotations

import http.cookiejar
import json
import os
import random
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tools import processes  # noqa: E402
from tools.database import Cluster, free_port  # noqa: E402


class Browser:
    """Asks as a page does: a token with every change, and again where there was no answer."""

    def __init__(self, address: str) -> None:
        self.address, self.csrf = address, ""
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar()))

    def once(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        data = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json", "X-CSRFToken": self.csrf}
        request = urllib.request.Request(self.address + path, data=data, headers=headers, method=method)
        try:
            with self.opener.open(request, timeout=20) as reply:
                return reply.status, json.loads(reply.read() or b"null")
        except urllib.error.HTTPError as refused:
            return refused.code, json.loads(refused.read() or b"null")

    def ask(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        for _ in range(600):
            try:
                status, told = self.once(method, path, body)
                if status == 403:
                    self.csrf = self.once("GET", "api/session")[1]["csrf"]
                elif status < 500:
                    return status, told
            except (OSError, ValueError):
                pass
            time.sleep(0.1)
        raise AssertionError(f"no answer to {method} {path} within a minute")


def victims(port: int, cluster: Cluster) -> dict[str, list[int]]:
    """What may be killed, by what it is."""
    web = sorted(pid for pid in processes.listening_on(port) if processes.is_ours(pid, ROOT))
    database = cluster.cluster / "postmaster.pid"
    return {
        "a process of the web server": web[1:], "the web server": web[:1],
        "the database": [int(database.read_text().split()[0])] if database.is_file() else [],
    }  # fmt: skip


def main(edits: int = 300, seed: int = 7) -> int:
    """Edit, kill, count. Exit code 1 if an answered edit is not in the history."""
    rng, port = random.Random(seed), free_port()
    launcher = subprocess.Popen(
        [sys.executable, ROOT / "fletcher", "demo"], env={**os.environ, "FLETCHER_PORT": str(port)}, cwd=ROOT
    )
    killed: dict[str, int] = {}
    try:
        browser = Browser(f"http://127.0.0.1:{port}/")
        browser.ask("GET", "api/session")
        cluster = Cluster("main", durable=True)
        document = browser.ask("GET", "api/airframes")[1][0]["document"]
        _, state = browser.ask("POST", "api/airframes", {**document, "name": "Kills"})
        at, revision, wanted = f"api/airframes/{state['id']}", state["revision"], []
        for n in range(edits):
            if rng.random() < 0.06:
                what, pids = rng.choice([v for v in victims(port, cluster).items() if v[1]])
                os.kill(rng.choice(pids), signal.SIGKILL)
                killed[what] = killed.get(what, 0) + 1
            chord = 150 + n / 10
            state["document"]["parts"][0]["root_chord_mm"] = chord
            status, state = browser.ask("PUT", at, {"revision": revision, "document": state["document"]})
            assert status == 200, (n, status, state)
            revision = state["revision"]
            wanted.append(chord)
        found = [browser.ask("GET", f"{at}/revisions/{n + 2}")[1]["document"] for n in range(edits)]
        kept = [d["parts"][0]["root_chord_mm"] for d in found]
        browser.ask("DELETE", at)
        print(f"{edits} edits, killed: {killed}; in the history, in order: {kept == wanted}; last revision {revision}")
        return 0 if kept == wanted and revision == edits + 1 else 1
    finally:
        launcher.send_signal(signal.SIGINT)
        launcher.wait(60)


if __name__ == "__main__":
    sys.exit(main(*(int(a) for a in sys.argv[1:])))
