"""A template: strokes in millimetres, with what each is for, and what every sheet carries."""

from __future__ import annotations

import re
import textwrap
from dataclasses import dataclass, field, replace
from typing import Literal

Sort = Literal["CUT", "SCORE", "MARK", "TEXT"]
Point = tuple[float, float]
BAR_MM = 100.0
"""Length of the bars that check a print."""
_FOOT_MM = 108.0
"""Height of the foot with its bars, arrows and words; the drawing stands above it."""


@dataclass(frozen=True)
class Stroke:
    """A line, closed or open, or words at its first point; x to the right, y up, mm."""

    sort: Sort
    points: tuple[Point, ...]
    closed: bool = False
    text: str = ""
    size_mm: float = 3.5


@dataclass(frozen=True)
class Template:
    """A drawing of one piece. `hand` is "left", "right" or empty; `up`, `nose` and `tip` say where its arrows point:
    to the "right", "left", "up" or "down" of the sheet, or "out" of it."""

    key: str
    name: str
    part: str
    hand: str
    strokes: tuple[Stroke, ...]
    arrows: tuple[tuple[str, str], ...] = ()
    notes: tuple[str, ...] = field(default=())

    def box(self) -> tuple[float, float, float, float]:
        """Least x and y, greatest x and y, mm."""
        xs = [p[0] for s in self.strokes for p in s.points]
        xs += [s.points[0][0] + _LETTER * s.size_mm * len(s.text) for s in self.strokes if s.sort == "TEXT"]
        ys = [p[1] for s in self.strokes for p in s.points]
        return min(xs), min(ys), max(xs), max(ys)


_LETTER, _LEAST_LETTERS, _MOST_LINES = 0.58, 62, 7
"""Width of a letter over its height; so many stand in a line at least; so many lines of notes."""


def key_of(*words: str) -> str:
    """A key of a template, fit for the name of a file."""
    return re.sub(r"[^a-z0-9]+", "-", "-".join(w for w in words if w).lower()).strip("-")[:80]


_WAYS: dict[str, Point] = {"right": (1, 0), "left": (-1, 0), "up": (0, 1), "down": (0, -1)}


def framed(t: Template, made: str) -> Template:
    """A template with its foot: name, part, hand, scale, what it was made from, arrows, notes and two bars of 100 mm;
    moved so that its lower left corner is at the origin."""
    x0, y0, _, _ = t.box()
    moved = [replace(s, points=tuple((x - x0, y - y0 + _FOOT_MM) for x, y in s.points)) for s in t.strokes]
    title = ", ".join(w for w in (t.part, t.hand, t.name) if w)
    x1 = t.box()[2]
    room = max(int((x1 - x0 - 12.0) / (_LETTER * 3.2)), _LEAST_LETTERS)
    notes = [line for note in t.notes[:3] for line in textwrap.wrap(note, room)]
    words = [title, f"1:1 - both bars measure {BAR_MM:.0f} mm. {made}", *notes[:_MOST_LINES]]
    foot = [Stroke("TEXT", ((12.0, 96.0 - 6.0 * n),), text=w, size_mm=3.2 if n else 4.2) for n, w in enumerate(words)]
    foot += [Stroke("MARK", ((2.0, 2.0), (2.0 + BAR_MM, 2.0))), Stroke("MARK", ((2.0, 2.0), (2.0, 2.0 + BAR_MM)))]
    foot += [Stroke("MARK", ((x, 0.5), (x, 3.5))) for x in (2.0, 2.0 + BAR_MM)]
    foot += [Stroke("MARK", ((0.5, y), (3.5, y))) for y in (2.0, 2.0 + BAR_MM)]
    foot += [Stroke("TEXT", ((44.0, 3.6),), text="100 mm", size_mm=3.0)]
    foot += [Stroke("TEXT", ((4.0, 46.0),), text="100 mm", size_mm=3.0)]
    for n, (name, way) in enumerate(t.arrows):
        foot += _arrow(34.0 + 28.0 * n, 28.0, name, way)
    return replace(t, strokes=(*moved, *foot))


def _arrow(x: float, y: float, name: str, way: str) -> list[Stroke]:
    if way not in _WAYS:
        ring = tuple((x + 4 * c, y + 4 * s) for c, s in ((1, 0), (0.7, 0.7), (0, 1), (-0.7, 0.7), (-1, 0), (-0.7, -0.7),
                                                         (0, -1), (0.7, -0.7)))  # fmt: skip
        return [Stroke("MARK", ring, True), Stroke("TEXT", ((x - 6, y - 9),), text=f"{name}: out", size_mm=3.0)]
    dx, dy = _WAYS[way]
    head = (x + 8 * dx, y + 8 * dy)
    barbs = ((head[0] - 3 * dx + 1.5 * dy, head[1] - 3 * dy + 1.5 * dx), head,
             (head[0] - 3 * dx - 1.5 * dy, head[1] - 3 * dy - 1.5 * dx))  # fmt: skip
    return [
        Stroke("MARK", ((x - 6 * dx, y - 6 * dy), head)), Stroke("MARK", barbs),
        Stroke("TEXT", ((x - 5, y - 11),), text=name, size_mm=3.0),
    ]  # fmt: skip
