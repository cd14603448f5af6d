"""The work of a repair as a chain: one pair of hands, waits that run beside it, and the soonest time at which it flies.

Operations of one pair of hands never overlap; waits do. After an operation others may have to wait until it holds by
itself; the check, which ends the chain, waits longer: until what was glued is ready for a flight. The least finish over
all orders is searched (one machine, precedence with delays and delivery times; exact up to `EXACT` operations, beyond
that the longest tail first, Jackson 1955). Minutes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

EXACT = 9
"""So many operations are ordered exactly."""


@dataclass(frozen=True)
class Task:
    """An operation: minutes of `hands`; `after` others, by number, and minutes that must have passed since each was
    done; `ready` minutes after it until the check may begin; `open` minutes since the first of `after` within which it
    must begin."""

    hands: float
    after: tuple[tuple[int, float], ...] = ()
    ready: float = 0.0
    open: float = math.inf


@dataclass(frozen=True)
class Chain:
    """When each operation starts, in the order in which they are done, and when the check begins and ends, minutes."""

    order: tuple[int, ...]
    starts: tuple[float, ...]
    """By the number of the operation."""
    check: float
    flies: float


def soonest(tasks: Sequence[Task], check: float = 0.0) -> Chain:
    """The order in which a chain that ends with so many minutes of `check` is done soonest.

    Raises
    ------
    ValueError
        If operations wait for one another in a ring.
    """
    tails = _tails(tasks)
    search = _Search(tasks, tails)
    search.greedy()
    if len(tasks) <= EXACT:
        search.every(0.0, 0.0)
    begins = max((search.starts[n] + t.hands + t.ready for n, t in enumerate(tasks)), default=0.0)
    return Chain(tuple(search.order), tuple(search.starts), begins, begins + check)


def _tails(tasks: Sequence[Task]) -> list[float]:
    """Least minutes from the start of each operation to the check."""
    follows: list[list[tuple[int, float]]] = [[] for _ in tasks]
    for n, task in enumerate(tasks):
        for before, wait in task.after:
            follows[before].append((n, wait))
    tails: dict[int, float] = {}

    def tail(n: int, above: frozenset[int]) -> float:
        if n in above:
            raise ValueError("operations wait for one another")
        if n not in tails:
            later = (wait + tail(m, above | {n}) for m, wait in follows[n])
            tails[n] = tasks[n].hands + max(tasks[n].ready, *later, 0.0)
        return tails[n]

    return [tail(n, frozenset()) for n in range(len(tasks))]


class _Search:
    """The best order so far, and the one that is tried."""

    def __init__(self, tasks: Sequence[Task], tails: list[float]) -> None:
        self.tasks, self.tails = tasks, tails
        self.best = math.inf
        self.order: list[int] = []
        self.starts = [0.0] * len(tasks)
        self._tried: list[int] = []
        self._ends: dict[int, float] = {}
        self._begun: dict[int, float] = {}

    def _free(self) -> list[int]:
        """Operations whose turn it may be, the longest tail first."""
        free = (n for n, t in enumerate(self.tasks) if n not in self._ends and all(b in self._ends for b, _ in t.after))
        return sorted(free, key=lambda n: (-self.tails[n], n))

    def _earliest(self, n: int, now: float) -> float:
        return max([now, *(self._ends[before] + wait for before, wait in self.tasks[n].after)])

    def greedy(self) -> None:
        """Of what can begin now the longest tail first; where all must wait, what can begin first."""
        now = done = 0.0
        while free := self._free():
            drying = [n for n in free if self.tasks[n].open < math.inf]  # what airs is closed before all else
            first = min(self._earliest(n, now) for n in free)
            n = next(n for n in free if self._earliest(n, now) <= first + 1e-9)
            n = drying[0] if drying else n
            begins = self._earliest(n, now)
            now = self._place(n, begins)
            done = max(done, now + self.tasks[n].ready)
        self._keep(max(done, now))
        self._tried, self._ends, self._begun = [], {}, {}

    def _place(self, n: int, begins: float) -> float:
        self._tried.append(n)
        self._begun[n], self._ends[n] = begins, begins + self.tasks[n].hands
        return self._ends[n]

    def _keep(self, done: float) -> None:
        if done < self.best - 1e-9:
            self.best, self.order = done, list(self._tried)
            self.starts = [self._begun[n] for n in range(len(self.tasks))]

    def every(self, now: float, done: float) -> None:
        """Every order that may still be better."""
        free = self._free()
        if not free:
            self._keep(max(done, now))
            return
        for n in free:
            begins, task = self._earliest(n, now), self.tasks[n]
            late = task.after and begins > self._ends[task.after[0][0]] + task.open + 1e-9
            if late or begins + self.tails[n] >= self.best - 1e-9:
                continue
            ends = self._place(n, begins)
            self.every(ends, max(done, ends + task.ready))
            self._tried.pop()
            del self._ends[n], self._begun[n]
