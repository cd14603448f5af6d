"""Field solutions kept by content, and trials in which a section takes the solution of one nearly alike."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import replace
from threading import Lock

from fletcher.core.section.flexure_function import Flexibility, solve_all
from fletcher.core.section.grid import Station

Sorts = dict[object, list[Station]]
"""Sections by what they are made of."""

_rough: ContextVar[Sorts | None] = ContextVar("rough", default=None)
ALIKE = 0.06
"""Sections that differ by less, over the chord or the thickness, share a field solution where that is said to do."""


@contextmanager
def rough(seen: Sorts) -> Iterator[None]:
    """Within it a section takes the field solution of one nearly alike (`ALIKE`) out of `seen`, which grows; for trials
    of many variants, on a coarse grid. What else was computed before does not bear on it, and a full computation is not
    touched by it."""
    token = _rough.set(seen)
    try:
        yield
    finally:
        _rough.reset(token)


def is_rough() -> bool:
    """Whether sections share solutions at present."""
    return _rough.get() is not None


class _Solved:
    """Solutions kept by content; the oldest go when there are too many."""

    def __init__(self, most: int) -> None:
        self.most = most
        self.known: dict[Station, Flexibility] = {}
        self.coarse: dict[Station, Flexibility] = {}
        """Those of trials, on a coarse grid."""
        self.lock = Lock()

    def of(self, stations: list[Station]) -> list[Flexibility]:
        """Solutions of all stations; those not known are solved together."""
        seen = _rough.get()
        stand = {} if seen is None else _stand_ins(stations, seen)
        known = self.known if seen is None else self.coarse
        wanted = [stand.get(s, s) for s in stations]
        with self.lock:
            found = {s: known[s] for s in wanted if s in known}
        missing = list(dict.fromkeys(s for s in wanted if s not in found))
        if missing:
            new = dict(zip(missing, solve_all(missing, seen is not None), strict=True))
            found |= new
            with self.lock:
                known.update(new)
                while len(known) > self.most:
                    del known[next(iter(known))]
        return [found[s] if s is w else _resized(found[w], s, w) for s, w in zip(stations, wanted, strict=True)]


def _stand_ins(stations: list[Station], seen: Sorts) -> dict[Station, Station]:
    """For stations that are nearly alike to one that was seen, that one; the others are now seen."""
    out: dict[Station, Station] = {}
    for s in dict.fromkeys(stations):
        others = seen.setdefault(_made_of(s), [])
        other = next((o for o in others if o == s or _apart(s, o) < ALIKE), None)
        if other is None:
            others.append(s)
        elif other != s:
            out[s] = other
    return out


def _resized(one: Flexibility, wanted: Station, solved_for: Station) -> Flexibility:
    """A solution with its torsion constant brought to another size: it grows as the fourth power of lengths."""
    larger = (wanted.chord * wanted.thickness / (solved_for.chord * solved_for.thickness)) ** 2
    return replace(one, torsion=replace(one.torsion, constant=one.torsion.constant * larger))


def _made_of(s: Station) -> object:
    """What must be the same for one section to stand for another."""
    return s.outline, tuple(k.face for k in s.skins), len(s.bars), tuple(h.face for h in s.holes)


def _apart(a: Station, b: Station) -> float:
    """How far two sections made of the same things differ, over chord or thickness."""
    c, t = b.chord, b.thickness
    gaps = [abs(a.chord - c) / c, abs(a.thickness - t) / t, abs(a.split - b.split) / t]
    for k, m in zip(a.skins, b.skins, strict=True):
        gaps += [abs(k.x0 - m.x0) / c, abs(k.x1 - m.x1) / c, abs(k.shear_ratio - m.shear_ratio) / max(m.shear_ratio, t)]
    for p, q in zip(a.bars, b.bars, strict=True):
        gaps += [abs(p.x - q.x) / c, abs(p.z - q.z) / t, abs(p.width - q.width) / t, abs(p.height - q.height) / t]
    for v, w in zip(a.holes, b.holes, strict=True):
        gaps += [abs(v.x0 - w.x0) / c, abs(v.x1 - w.x1) / c, abs(v.depth - w.depth) / t]
    return max(gaps)


solved = _Solved(4096)
