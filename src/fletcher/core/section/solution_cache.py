"""Field solutions kept by content."""

from __future__ import annotations

from threading import Lock

from fletcher.core.section.flexure_function import Flexibility, solve_all
from fletcher.core.section.grid import Station


class _Solved:
    """Solutions kept by content; those not asked for the longest go when there are too many."""

    def __init__(self, most: int) -> None:
        self.most = most
        self.known: dict[Station, Flexibility] = {}
        self.lock = Lock()

    def of(self, stations: list[Station]) -> list[Flexibility]:
        """Solutions of all stations; those not known are solved together."""
        with self.lock:
            found = {s: self.known.pop(s) for s in dict.fromkeys(stations) if s in self.known}
            self.known |= found  # asked for just now
        missing = list(dict.fromkeys(s for s in stations if s not in found))
        if missing:
            new = dict(zip(missing, solve_all(missing), strict=True))
            found |= new
            with self.lock:
                self.known.update(new)
                while len(self.known) > self.most:
                    del self.known[next(iter(self.known))]
        return [found[s] for s in stations]


solved = _Solved(1536)
"""A solution takes some 65 kB: 100 MB of a process in all."""
