"""Many people at once: times of answers, errors, memory.

./fletcher bench load [PEOPLE [SECONDS [WORKERS [THREADS]]]]     50 people for 60 s
./fletcher bench steady [MINUTES [PEOPLE]]                       memory, minute by minute
./fletcher bench fair [SECONDS]                                  one account asks ten dear questions, others save
./fletcher bench several [SECONDS]                               two web servers, one database, one server killed
"""

from __future__ import annotations

import json
import sys
import threading
import time
from collections.abc import Callable
from typing import Any

from benchmarks.people import Person, Servers, Tally, crowd
from fletcher.core.demo.world import demo_airframes


def _all(people: list[Person], until: float) -> list[threading.Thread]:
    threads = [threading.Thread(target=p.work, args=(until,)) for p in people]
    for thread in threads:
        thread.start()
    return threads


def load(people: int = 50, seconds: int = 60, workers: int = 2, threads: int = 12) -> int:
    """Times of answers with so many people at work."""
    tally = Tally()
    servers = Servers(FLETCHER_WORKERS=str(workers), FLETCHER_THREADS=str(threads))
    try:
        before = servers.memory_mb()
        running = _all(crowd(people, servers, tally), time.monotonic() + seconds)
        for thread in running:
            thread.join()
        print(f"{people} people, {seconds} s, {workers} processes of {threads} threads; "
              f"memory {before:.0f} MB at first, {servers.memory_mb():.0f} MB at last")  # fmt: skip
        tally.tell()
    finally:
        servers.stop()
    return 1 if tally.faults else 0


def steady(minutes: int = 30, people: int = 20) -> int:
    """Memory of the web server's processes while people work."""
    tally = Tally()
    servers = Servers()
    try:
        running = _all(crowd(people, servers, tally), time.monotonic() + 60 * minutes)
        for n in range(minutes):
            running[0].join(60)
            print(f"minute {n + 1}: {servers.memory_mb():.0f} MB", flush=True)
        for thread in running:
            thread.join()
        tally.tell()
    finally:
        servers.stop()
    return 1 if tally.faults else 0


def _questions(person: Person) -> dict[str, dict[str, Any]]:
    """The dearest questions, as the page asks them of the demo's wing, or of its broken one."""

    def study(document: dict[str, Any], **more: Any) -> dict[str, Any]:
        part = next((p for p in document["parts"] if p["damage"]), document["parts"][0])
        return {"document": document, "part_id": part["id"], "case_id": part["cases"][0]["id"], **more}

    wing = person.document
    broken = next(d.model_dump(mode="json") for d in demo_airframes() if d.state == "broken")
    wish = {
        "kind": "wing", "span_mm": 600, "root_chord_mm": 190, "tip_chord_mm": 150, "all_up_mass_g": 900,
        "top_speed_m_s": 20, "tools": ["iron"], "at_hand": [],
    }  # fmt: skip
    trainer = {"name": "A", "type": "trainer", "span_mm": 1200, "all_up_mass_g": 900, "top_speed_m_s": 20}
    return {
        "studies/choose": wish, "studies/new-airframe": trainer, "studies/sized": study(wing),
        "crash/mend": study(broken, wish={}), "studies/exactness": study(wing),
        "crash/toughen": study(wing, crash={}), "studies/reach": study(wing), "studies/worth": study(wing),
        "studies/scale": study(wing, span_mm=900), "studies/openings": study(wing),
        "crash/left": study(broken), "studies/joints": study(wing), "studies/making": study(wing),
        "crash/inspect": study(broken, crash={}), "joints/glue": {}, "joints/hinge": {}, "joints/hold": {},
    }  # fmt: skip


def dear(times: int = 5) -> int:
    """What each dear question takes by itself."""
    tally = Tally()
    servers = Servers(FLETCHER_WORKERS="1")
    try:
        (person,) = crowd(1, servers, tally)
        for _ in range(times):
            person.move()
            for path, body in _questions(person).items():
                person.ask(path, "POST", path, body)
            person.estimate(quick=True)
            person.estimate(quick=False)
            person.save()
            person.look()
            person.listen()
        tally.tell()
    finally:
        servers.stop()
    return 1 if tally.faults else 0


def _dear(person: Person, path: str, until: float) -> None:
    while time.monotonic() < until:
        person.move()
        status, _ = person.ask(path, "POST", path, _questions(person)[path])
        if status != 200:
            time.sleep(1)


def fair(seconds: int = 30) -> int:
    """One account asks ten dear questions at once, again and again; ten others save twice a second."""
    tally, asked = Tally(), Tally()
    servers = Servers()
    try:
        (greedy,) = crowd(1, servers, asked)
        until = time.monotonic() + seconds
        asking = []
        for path in list(_questions(greedy))[:10]:  # one account, ten connections
            twin = object.__new__(Person)
            twin.__dict__.update(greedy.__dict__, link=None)
            asking.append(threading.Thread(target=_dear, args=(twin, path, until)))
        people = crowd(10, servers, tally)

        def saves(person: Person) -> None:
            while time.monotonic() < until:
                person.move()
                person.save()
                time.sleep(0.5)

        threads = [*asking, *(threading.Thread(target=saves, args=(p,)) for p in people)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        print("one account asks ten dear questions at once; ten people save:")
        tally.tell()
        asked.tell()
    finally:
        servers.stop()
    return 1 if tally.faults or asked.faults else 0


def several(seconds: int = 30) -> int:
    """Two web servers on one database; in the middle one is killed. Every save that was answered is there, once."""
    tally = Tally()
    servers = Servers(2, FLETCHER_WORKERS="1")
    try:
        people = crowd(20, servers, tally)
        until = time.monotonic() + seconds

        def edits(person: Person) -> None:
            while time.monotonic() < until:
                person.move()
                tries = 0
                while not person.save() and tries < 200:  # as the page does: again, through whoever answers
                    tries += 1
                    time.sleep(0.05)
                time.sleep(0.1)

        threads = [threading.Thread(target=edits, args=(p,)) for p in people]
        for thread in threads:
            thread.start()
        time.sleep(seconds / 2)
        servers.kill(0)
        print("one of two web servers killed", flush=True)
        for person in people:  # as a balancer does that sees it gone
            person.ports = servers.ports[1:]
        for thread in threads:
            thread.join()
        wrong = [p for p in people if not _kept(p)]
        answered = sum(len(p.saved) for p in people)
        print(f"{answered} saves answered by two web servers; lost or doubled for {len(wrong)} of {len(people)} people")
        tally.faults = [f for f in tally.faults if f != "save: 0"]  # the killed one's
        tally.tell()
        return 1 if wrong or tally.faults else 0
    finally:
        servers.stop()


def _kept(person: Person) -> bool:
    """Whether the history holds every answered save once, in order."""
    found = []
    for number in range(2, person.revision + 1):
        status, told = person.ask("read", "GET", f"airframes/{person.id}/revisions/{number}")
        if status == 200:
            found.append(json.loads(told)["document"]["parts"][0]["root_chord_mm"])
    return found == person.saved


VERBS: dict[str, Callable[..., int]] = {"load": load, "steady": steady, "fair": fair, "dear": dear, "several": several}

if __name__ == "__main__":
    sys.exit(VERBS[sys.argv[1]](*(int(a) for a in sys.argv[2:])))
