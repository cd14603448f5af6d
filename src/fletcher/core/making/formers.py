"""Ribs and formers as pieces to be cut: outline under the skin, opening, slots for webs, holes for bars, grams."""

from __future__ import annotations

import numpy as np

from fletcher.core.common.arrays import Array
from fletcher.core.common.quantities import F1, G2, from_root, in_g, in_mm
from fletcher.core.document.airframe import Part
from fletcher.core.making.folding import Piece, SheetLine, sized
from fletcher.core.materials.materials import Catalogue
from fletcher.core.section.assembly import elements_of
from fletcher.core.section.elements import Elements
from fletcher.core.section.outline import faces

_POINTS = 41
_ROOM_MM = 0.2
"""Room round a bar in its hole."""
_LEAST_MM = 3.0
"""What is lower or shorter than this is no piece."""


def formers_of(part: Part, catalogue: Catalogue) -> list[Piece]:
    """The ribs or formers of a checked hollow part, root first, alike ones together; none where it has none.

    A piece lies with its front to the left and its upper edge up: x of the piece runs down. Its outline is the part's
    less the walls above, below and at both sides; its opening is the part's share of the area, of the same shape about
    the middle. A web that passes is slotted to half of the depth, from above the piece.
    """
    elements = elements_of(part, catalogue)
    if elements.ribs is None:
        return []
    pieces: list[Piece] = []
    for y in np.linspace(0, part.span_mm, part.bays + 1):
        made = _former(elements, float(y), part.rib_open_percent / 100)
        if made is None:
            continue
        places = from_root(float(y))
        alike = next((p for p in pieces if p.outline == made.outline and p.lines == made.lines), None)
        if alike is None:
            pieces.append(made.model_copy(update={"name": f"Former {places}"}))
        else:
            more = {"count": alike.count + made.count, "name": f"{alike.name}, {places}"}
            pieces[pieces.index(alike)] = alike.model_copy(update=more)
    return pieces


def _walls(elements: Elements, face: str, y: float) -> float:
    """Thickness of the walls on a face at y, mm."""
    return sum(
        m.plies * m.plate.thickness
        for m in elements.membranes
        if m.plate is not None and m.face == face and m.start <= y <= m.end
    )


def _former(elements: Elements, y: float, share: float) -> Piece | None:
    ribs = elements.ribs
    assert ribs is not None
    at = np.array([y])
    chord, thick = float(elements.chord(at)[0]), float(elements.thickness(at)[0])
    front, rear = _walls(elements, "front", y), chord - _walls(elements, "rear", y)
    x = front + (rear - front) * 0.5 * (1 - np.cos(np.linspace(0, np.pi, _POINTS)))
    lower, upper = (v[0] for v in faces(elements.outline, (x / chord)[None], np.array([[chord]]), np.array([[thick]])))
    lower, upper = lower + _walls(elements, "lower", y), upper - _walls(elements, "upper", y)
    there = upper - lower > 0.1
    if rear - front < _LEAST_MM or not np.any(there) or float((upper - lower).max()) < _LEAST_MM:
        return None
    x, lower, upper = x[there], lower[there], upper[there]
    outline = np.concatenate([np.stack([-upper, x], 1), np.stack([-lower, x], 1)[::-1]])
    area, middle = _area(outline)
    lines = []
    from_edge = "from the left" if elements.part.kind == "fuselage" else "aft of the leading edge"
    if share > 0:
        inner = middle + (outline - middle) * np.sqrt(share)
        lines.append(_line("cut", np.concatenate([inner, inner[:1]]), f"opening: {100 * share:.0f} % of its area"))
    for m in elements.membranes:
        if m.face == "web" and m.plate is not None and m.start <= y <= m.end:
            place, wide = float(elements.web_place(m, at)[0]), m.plies * m.plate.thickness
            if x[0] < place < x[-1]:
                top, foot = (float(np.interp(place, x, v)) for v in (upper, lower))
                half = 0.5 * (top + foot)
                slot = np.array([[-top, place - wide / 2], [-half, place - wide / 2], [-half, place + wide / 2],
                                 [-top, place + wide / 2]])  # fmt: skip
                lines.append(
                    _line("cut", slot, f"slot for {m.skin.name}, {in_mm(wide, G2)} wide, to half of the depth")
                )
    for bar in elements.bars:
        if bar.start <= y <= bar.end and bar.flute is None:
            bx, bz = (float(v[0]) for v in elements.bar_centre(bar, at))
            wide, high = bar.sizes(float(bar.scale(at)[0]))
            hole = np.array([-bz, bx]) + np.array([high / 2 + _ROOM_MM, wide / 2 + _ROOM_MM]) * _round(bar.stock.shape)
            inside = np.interp(hole[:, 1], x, upper) >= -hole[:, 0], np.interp(hole[:, 1], x, lower) <= -hole[:, 0]
            what = "hole" if np.all(inside) else "notch"
            lines.append(_line("cut", hole, f"{what} for {bar.stock.name}, {in_mm(bx, F1)} {from_edge}"))
    grams = area * (1 - share) * ribs.sheet.areal_mass_g_m2.typ * 1e-6
    piece = sized("Former", ribs.sheet.key, _pairs(outline), lines, elements.part.count)
    return piece.model_copy(update={"says": f"{in_g(grams, G2)} each; {piece.says}"})


def _round(shape: str) -> Array:
    """A hole of half size 1 each way: a circle, or a rectangle for a flat bar, (points, 2)."""
    if shape == "flat":
        return np.array([[-1.0, -1.0], [-1.0, 1.0], [1.0, 1.0], [1.0, -1.0], [-1.0, -1.0]])
    turn = np.linspace(0, 2 * np.pi, 25)
    return np.stack([-np.sin(turn), np.cos(turn)], 1)


def _area(outline: Array) -> tuple[float, Array]:
    """Area (mm²) and centroid (2,) of a closed outline (n, 2): Gauss's formula."""
    a, b = outline, np.roll(outline, -1, 0)
    cross = a[:, 0] * b[:, 1] - b[:, 0] * a[:, 1]
    twice = float(cross.sum())
    return abs(twice) / 2, ((a + b) * cross[:, None]).sum(0) / (3 * twice)


def _pairs(points: Array) -> list[tuple[float, float]]:
    return [(round(float(a), 2), round(float(b), 2)) for a, b in points]


def _line(kind: str, points: Array, says: str) -> SheetLine:
    return SheetLine(kind=kind, points=_pairs(points), width_mm=0.0, angle_deg=0.0, says=says)
