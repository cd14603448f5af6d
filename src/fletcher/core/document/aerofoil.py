"""Aerofoil outlines from coordinate files: reading, checking, cleaning, writing.

Two layouts are in use. *Round*: one run of points from the trailing edge over the upper face to the nose and back
along the lower face. *Face by face*: a line with the two counts, then the upper face from nose to trailing edge, then
the lower one. A first line that is not two numbers is the name.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.document.shapes import PointsSection

MAX_BYTES = 100_000
_LEAST = 5
_MOST = 400
"""Fewest and most points of one face."""


@dataclass(frozen=True)
class _Point:
    line: int
    x: float
    z: float


def _refuse(line: int | None, message: str, value: str = "") -> InvalidDocument:
    where = f"line {line}" if line else "file"
    return InvalidDocument([Problem(path=where, message=message, value=value[:60])])


def _points(text: str) -> tuple[str, list[_Point]]:
    name = ""
    found: list[_Point] = []
    for number, raw in enumerate(text.splitlines(), start=1):
        line = raw.strip()
        if not line or line.startswith("#"):
            continue
        words = line.replace(",", " ").replace(";", " ").split()
        try:
            values = [float(w) for w in words]
        except ValueError:
            if found or name:
                raise _refuse(number, "must hold two numbers, x and z", line) from None
            name = "".join(c for c in line if c.isprintable())[:80]
            continue
        if len(values) != 2:
            if not found and not name:
                name = line[:80]
                continue
            raise _refuse(number, f"has {len(values)} numbers where x and z are expected", line)
        if not all(math.isfinite(v) and abs(v) < 1e6 for v in values):
            raise _refuse(number, "must hold two ordinary numbers", line)
        found.append(_Point(number, *values))
    return name, found


def _faces(points: list[_Point]) -> tuple[list[_Point], list[_Point]]:
    """Upper and lower face, each from nose to trailing edge."""
    if len(points) < 2 * _LEAST:
        raise _refuse(None, f"has {len(points)} points; an aerofoil needs at least {2 * _LEAST}")
    counts, rest = points[0], points[1:]
    first, second = counts.x, counts.z
    reach = max(p.x for p in points) - min(p.x for p in points)
    comes_back = abs(points[-1].x - first) <= 0.02 * reach  # a round in mm whose first point happens to be whole
    if min(first, second) > 1.5 and first == int(first) and second == int(second) and not comes_back:
        told = int(first + second)
        if told != len(rest):
            raise _refuse(
                rest[-1].line if rest else counts.line,
                f"the file ends after {len(rest)} points, but line {counts.line} promises {told}: it may be cut off",
            )
        return rest[: int(first)], rest[int(first) :]
    nose = min(range(len(points)), key=lambda i: points[i].x)
    if nose in (0, len(points) - 1):
        at = points[nose].line
        raise _refuse(at, "the leading edge is at the end of the list: one face or its point count is missing")
    return points[: nose + 1][::-1], points[nose:]


def _ordered(face: list[_Point], name: str) -> None:
    for a, b in itertools.pairwise(face):
        if b.x < a.x - 1e-9:
            later = max(a.line, b.line)
            raise _refuse(later, f"goes backwards along the {name} face: the points are out of order", f"{b.x:g}")
    if len(face) < _LEAST:
        raise _refuse(face[-1].line, f"the {name} face has only {len(face)} points; at least {_LEAST} are needed")
    if len(face) > _MOST:
        raise _refuse(face[_MOST].line, f"has too many points: no more than {_MOST} per face")


def read_coordinates(text: str) -> PointsSection:
    """Read a coordinate file of either layout into a section of unit chord.

    The chord is laid from the nose (the foremost point) to the middle of the trailing edge and turned level; twin
    points are dropped; the faces are swapped if the file has the lower one first.

    Raises
    ------
    InvalidDocument
        Naming the line that is wrong and what is wrong with it.
    """
    if len(text.encode()) > MAX_BYTES:
        raise _refuse(None, f"is too large for an aerofoil: no more than {MAX_BYTES // 1000} kB")
    name, points = _points(text)
    one, other = _faces(points)
    _ordered(one, "first")
    _ordered(other, "second")
    size = max(one[-1].x, other[-1].x) - min(one[0].x, other[0].x)
    if size <= 0:
        raise _refuse(one[-1].line, "all points have the same x: there is no chord")
    for face in (one, other):
        if max(one[-1].x, other[-1].x) - face[-1].x > 0.02 * size:
            raise _refuse(face[-1].line, "ends before the trailing edge: the file may be cut off", f"{face[-1].x:g}")
        if face[0].x - min(one[0].x, other[0].x) > 0.02 * size:
            raise _refuse(face[0].line, "starts behind the leading edge: the file may be cut off", f"{face[0].x:g}")
    nose = min((one[0], other[0]), key=lambda p: p.x)
    tail = np.array([0.5 * (one[-1].x + other[-1].x), 0.5 * (one[-1].z + other[-1].z)])
    run = tail - (nose.x, nose.z)
    chord = float(np.hypot(*run))
    turn = np.array([[run[0], run[1]], [-run[1], run[0]]]) / chord**2

    def clean(face: list[_Point]) -> Array:
        level = (np.array([(p.x, p.z) for p in face]) - (nose.x, nose.z)) @ turn.T
        keep = np.concatenate([[True], np.diff(level[:, 0]) > 1e-7])
        level = level[keep]
        level[0], level[-1, 0] = (0.0, level[0, 1] if len(face) > 2 and face[0] is not nose else 0.0), 1.0
        level[:, 0] = np.clip(level[:, 0], 0.0, 1.0)
        return np.asarray(level)

    a, b = clean(one), clean(other)
    at = np.linspace(0.02, 0.98, 49)
    gap = np.interp(at, a[:, 0], a[:, 1]) - np.interp(at, b[:, 0], b[:, 1])
    if gap.mean() < 0:
        a, b, one, other, gap = b, a, other, one, -gap
    if gap.min() < -1e-6:
        x = at[int(np.argmin(gap))]
        line = min(other, key=lambda p: abs((p.x - nose.x) / chord - x)).line
        raise _refuse(line, f"crosses the other face near {100 * x:.0f} % chord: the outline crosses itself")
    if gap.max() < 0.005:
        raise _refuse(None, "is too thin: less than 0.5 % of the chord")
    if gap.max() > 0.6 or max(np.abs(a[:, 1]).max(), np.abs(b[:, 1]).max()) > 0.6:
        raise _refuse(None, "is thicker than 60 % of its chord: are x and z in the same unit?")

    def pairs(face: Array) -> tuple[tuple[float, float], ...]:
        return tuple((round(float(x), 6), round(float(z), 6)) for x, z in face)

    return PointsSection(name=name or "Aerofoil from file", upper=pairs(a), lower=pairs(b))


def write_coordinates(section: PointsSection) -> str:
    """The section as a coordinate file, one round from the trailing edge over the upper face."""
    round_trip = [*section.upper[::-1], *section.lower[1 if section.lower[0] == section.upper[0] else 0 :]]
    return "\n".join([section.name, *(f"{x:.6f} {z:.6f}" for x, z in round_trip)]) + "\n"
