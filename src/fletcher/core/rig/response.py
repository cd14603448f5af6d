r"""How what a test reads follows from what is unknown: the tool's own beam, tried one unknown at a time.

Every stream of normals that a part's materials are drawn from is an unknown. The part is computed once with all at rest
and once with each at +1 and at −1; the logarithm of what is read is then a + Σ (b z + c z²), a parabola in each. What
hardly matters is dropped.
"""

from __future__ import annotations

import itertools
from collections.abc import Collection
from dataclasses import dataclass, field, replace
from functools import lru_cache

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import Case
from fletcher.core.document.own_materials import TABLES, named_in, renamed
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.report import read_at
from fletcher.core.materials import learned, own_rows
from fletcher.core.materials.learned import MARK, Bare
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.rig.scatter import Kind

Row = tuple[str, int]
"""An unknown: the stream that it is drawn in, and its row there."""
HARDLY = 0.004
"""[J] An unknown that changes the logarithm by less than this, at one standard deviation, is dropped."""


@dataclass
class _Asked:
    """Notes which streams are drawn, and changes nothing."""

    streams: dict[str, int] = field(default_factory=dict)

    def of(self, stream: str, count: int, bare: Bare) -> Array:
        """As it is."""
        self.streams[stream] = max(self.streams.get(stream, 0), count)
        return bare(stream, count)


@dataclass(frozen=True)
class _Tried:
    """One unknown after another at +1 and −1: column 1 + 2k is the first of them."""

    rows: tuple[Row, ...]

    def of(self, stream: str, count: int, bare: Bare) -> Array:
        """All at rest but one."""
        z = np.zeros_like(bare(stream, count))
        for k, (of, row) in enumerate(self.rows):
            if of == stream and row < count:
                z[row, 1 + 2 * k], z[row, 2 + 2 * k] = 1.0, -1.0
        return z


@dataclass(frozen=True)
class Response:
    """The logarithm of what is read: `at_rest`, where all unknowns are, + Σ (slope z + bow z²)."""

    at_rest: float
    rows: tuple[Row, ...]
    slope: Array
    bow: Array

    def of(self, z: Array) -> Array:
        """The logarithm at unknowns (n, rows)."""
        return np.asarray(self.at_rest + z @ self.slope + (z * z) @ self.bow)


def marked(part: Part, mark: str, only: Collection[str] | None = None) -> Part:
    """A part whose materials, all or some of them, answer to a mark; the very part where none does."""
    data = part.model_dump(mode="json")
    names = {}
    for key in sorted(k for k in named_in(data) if only is None or k in only):
        for table in TABLES.values():
            rows = getattr(reference(), table)
            if key in rows:
                names[key] = f"{key}{MARK}{mark}"
                own_rows.put(table, replace(rows[key], key=names[key]), own_rows.like(key))
    return Part.model_validate(renamed(data, names)) if names else part


_marks = itertools.count()


def _mark() -> str:
    """A mark that no draw is kept under yet."""
    return f"try{next(_marks)}"


def _read(airframe: Airframe, part: Part, case: Case, kind: Kind) -> Array:
    """What a test of a part reads at its load, (S,): its bend, mm, or its break load over the load."""
    a = analyse(airframe, part, case)
    if kind == "break":
        return np.asarray(a.judged.breaks)
    return np.abs(a.deflection[:, read_at(a)])


@lru_cache(maxsize=128)
def response(airframe: Airframe, part: Part, case: Case, kind: Kind) -> Response:
    """How what a test of a checked part reads follows from its unknowns."""
    asked = _Asked()
    mark = _mark()
    learned.put(mark, asked)
    with samples(0):
        _read(airframe, marked(part, mark), case, kind)
    learned.forget(mark)
    rows = tuple((s, n) for s in sorted(asked.streams) for n in range(asked.streams[s]))
    mark = _mark()
    learned.put(mark, _Tried(rows))
    # an odd number of draws, which nothing else is drawn in: what is kept by their number is not kept for others
    with samples(2 * len(rows) + 1), learned.at_rest():
        logs = np.log(np.maximum(_read(airframe, marked(part, mark), case, kind), 1e-12))
    learned.forget(mark)
    up, down = logs[1:-1:2] - logs[0], logs[2:-1:2] - logs[0]
    kept = [k for k in range(len(rows)) if max(abs(up[k]), abs(down[k])) > HARDLY]
    return Response(
        float(logs[0]), tuple(rows[k] for k in kept), np.array([0.5 * (up[k] - down[k]) for k in kept]),
        np.array([0.5 * (up[k] + down[k]) for k in kept]),
    )  # fmt: skip
