"""Mid-planes of membranes as curves across the section, for all stations at once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.common.arrays import Array, BoolArray
from fletcher.core.section.elements import Edge, Elements, Membrane, own_bending
from fletcher.core.section.outline import faces

_ACROSS = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 33)))
"""Places across a membrane, closer at its edges."""


@dataclass(frozen=True)
class Arcs:
    """z moments and x moments, ∫ds, ∫z ds, ∫z² ds (items, 3, n), ∫xz ds and lowest and highest z (items, n), all of
    mid-planes with their own bending."""

    z: Array
    x: Array
    xz: Array
    low: Array
    high: Array


def arcs_of(elements: Elements, y: Array, inside: Array) -> Arcs:
    """The mid-planes of all membranes at stations y (n,), where their line is and one station beyond; zero elsewhere.
    `inside` as in `section.properties.geometry_of`."""
    count, n = len(elements.membranes), len(y)
    out = Arcs(*(np.zeros((count, 3, n)) for _ in range(2)), *(np.zeros((count, n)) for _ in range(3)))
    for i, m in enumerate(elements.membranes):
        if m.upright:
            for name, values in _upright(elements, m, y).items():
                getattr(out, name)[i] = values
    on_faces = [i for i, m in enumerate(elements.membranes) if not m.upright]
    if on_faces:
        _lay(out, elements, on_faces, y, inside)
    return out


def heights_along(elements: Elements, m: Membrane, y: float, count: int) -> Array:
    """Heights z (count,) of a membrane at station y at places as far from one another along it, its ends among them."""
    if m.upright:
        at = elements.web_place(m, np.array([y]))
        low, high = elements.faces_at(at, np.array([y]))
        return np.linspace(float(low[0]) + m.trim_mm[0], float(high[0]) - m.trim_mm[1], count)
    line, outside = _line_of(m)
    x, z, centre = (v[0] for v in _curves(elements, [line], [np.array([y])]))
    pieces = np.hypot(np.diff(x), np.diff(z))
    along = np.concatenate([[0.0], np.cumsum(pieces)])
    slope = np.diff(x) / np.maximum(pieces, 1e-12)
    cosine = 0.5 * (np.append(slope, slope[-1]) + np.append(slope[0], slope))
    if line.inwards:
        z = (np.maximum if line.face == "upper" else np.minimum)(z + line.inwards * cosine, centre)
    return np.asarray(np.interp(np.linspace(0.0, along[-1], count), along, z + outside * cosine))


def _upright(elements: Elements, m: Membrane, y: Array) -> dict[str, Array]:
    """A side or web."""
    x = elements.web_place(m, y)
    low, high = elements.faces_at(x, y)
    low, high = low + m.trim_mm[0], high - m.trim_mm[1]
    length, middle = np.maximum(high - low, 0.0), 0.5 * (high + low)
    z = np.stack([length, length * middle, length * middle**2 + length**3 / 12])
    x_moments = np.stack([length, length * x, length * (x**2 + own_bending(m))])
    return {"z": z, "x": x_moments, "xz": length * middle * x, "low": low, "high": high}


@dataclass(frozen=True)
class _Line:
    """A line of the section beside which membranes lie. Walls inside their face fold at the nose and meet at the tail:
    they have a line of their own, `inwards` of the face."""

    face: str
    front: Edge
    rear: Edge
    height: Edge
    inwards: float


def _line_of(m: Membrane) -> tuple[_Line, float]:
    """The line of a membrane, and how far it lies outside it."""
    out = m.offset_mm if m.face == "upper" else -m.offset_mm
    if m.out < 0:
        return _Line(m.face, m.front, m.rear, m.height, out), 0.0
    return _Line(m.face, m.front, m.rear, m.height, 0.0), out


def _lay(out: Arcs, elements: Elements, which: list[int], y: Array, inside: Array) -> None:
    r"""Write skins and level plates. All stations of all lines are worked as rows of one array. A skin at a distance o
    outside its line z(x), of slope angle α, lies at z + o cos α:

    .. math:: \int z_o^2\,ds = \int z^2\,ds + 2o\int z\,dx + o^2\int\cos\alpha\,dx
    """
    number: dict[_Line, int] = {}
    there: list[BoolArray] = []
    placed = []
    for i in which:
        m = elements.membranes[i]
        (line, outside), on = _line_of(m), (inside > m.start) & (inside < m.end)
        n = number.setdefault(line, len(there))
        if n == len(there):
            there.append(np.zeros(len(y), bool))
        there[n] |= on
        placed.append((i, n, outside, own_bending(m)))
    for on in there:
        on[1:], on[:-1] = on[1:] | on[:-1], on[:-1] | on[1:]
    stations = [np.nonzero(on)[0] for on in there]
    ends = np.cumsum([len(s) for s in stations])
    rows = [slice(int(b) - len(s), int(b)) for s, b in zip(stations, ends, strict=True)]
    lines = list(number)
    x, z, centre = _curves(elements, lines, [y[s] for s in stations])
    dx, dz = np.diff(x), np.diff(z)
    ds = np.sqrt(dx * dx + dz * dz)
    cosine = dx / np.maximum(ds, 1e-12)
    middle, x_middle, centre = (0.5 * (v[:, 1:] + v[:, :-1]) for v in (z, x, centre))
    for line, r in zip(lines, rows, strict=True):
        if line.inwards:
            past = np.maximum if line.face == "upper" else np.minimum
            middle[r] = past(middle[r] + line.inwards * cosine[r], centre[r])
    half = np.abs(dz) / 2
    low, high = middle - half, middle + half
    weighed = ds * middle
    length, first, second = ds.sum(1), weighed.sum(1), (weighed * middle + ds * dz**2 / 12).sum(1)
    x_first, x_second = (ds * x_middle).sum(1), (ds * (x_middle**2 + dx**2 / 12)).sum(1)
    level, lying, bent, turned = dx.sum(1), (dx * cosine).sum(1), (dx * middle).sum(1), (dx * x_middle).sum(1)
    mixed = (weighed * x_middle + ds * dx * dz / 12).sum(1)
    for i, n, o, own in placed:
        r, at = rows[n], stations[n]
        z_moments = length[r], first[r] + o * level[r], second[r] + 2 * o * bent[r] + (o**2 + own) * lying[r]
        out.z[i][:, at], out.x[i][:, at] = z_moments, (length[r], x_first[r], x_second[r])
        out.xz[i, at] = mixed[r] + o * turned[r]
        out.low[i, at], out.high[i, at] = (low[r] + o * cosine[r]).min(1), (high[r] + o * cosine[r]).max(1)


def _curves(elements: Elements, lines: list[_Line], places: list[Array]) -> tuple[Array, Array, Array]:
    """Points x, heights z and heights of the middle of the section of lines at their stations, one after another,
    (all stations, points)."""
    y = np.concatenate(places)
    fraction, chord, thickness = (
        elements.fraction(y)[:, None],
        elements.chord(y)[:, None],
        elements.thickness(y)[:, None],
    )
    ends = [
        edge.at(elements.fraction(at), elements.chord(at))
        for edges in zip(*((line.front, line.rear) for line in lines), strict=True)
        for edge, at in zip(edges, places, strict=True)
    ]
    front, rear = np.concatenate(ends).reshape(2, -1, 1)
    x = np.clip(front + _ACROSS * (rear - front), 0.0, chord)
    lower, upper = faces(elements.outline, x / chord, chord, thickness)
    many = [len(p) for p in places]
    up = np.repeat([line.face == "upper" for line in lines], many)[:, None]
    z = np.where(up, upper, lower)
    if any(line.face == "level" for line in lines):
        level = np.repeat([line.face == "level" for line in lines], many)[:, None]
        root, tip = (np.repeat([getattr(line.height, end) for line in lines], many)[:, None] for end in ("root", "tip"))
        z = np.where(level, lower + (root + (tip - root) * fraction) * (upper - lower), z)
    return x, z, 0.5 * (lower + upper)
