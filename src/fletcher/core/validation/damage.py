"""Whether marks of damage can be: on the part, no larger than it, and not against one another."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from fletcher.core.common.quantities import F0, G3, G, in_mm, number
from fletcher.core.document.airframe import BarLayer, FilmLayer, HingeLayer, JointLayer, Part, StripLayer, WallLayer
from fletcher.core.document.damage import (
    BarMark,
    BentMark,
    BreakMark,
    CrackMark,
    CreaseMark,
    CrossedMark,
    CrushMark,
    LooseMark,
    Mark,
    MissingMark,
    OpenedMark,
    PeeledMark,
)
from fletcher.core.document.problems import Problem
from fletcher.core.materials.materials import Catalogue
from fletcher.core.section.assembly import line_span, outline_of
from fletcher.core.section.outline import faces

_OF: dict[type, tuple[type, ...]] = {
    PeeledMark: (StripLayer, FilmLayer, WallLayer),
    BarMark: (BarLayer,),
    LooseMark: (JointLayer, HingeLayer),
}
_WORDS = {PeeledMark: "tape, skin or wall", BarMark: "bar", LooseMark: "joint or hinge"}


def damage_fits(part: Part, catalogue: Catalogue, path: str) -> Iterator[Problem]:
    """Problems of all marks of a part whose lines are in order."""
    seen: set[str] = set()
    for n, mark in enumerate(part.damage):
        here = f"{path}.damage[{n}]"
        if mark.id in seen:
            yield Problem(path=f"{here}.id", message="is used twice", value=repr(mark.id))
        seen.add(mark.id)
        yield from _mark(mark, part, catalogue, here)
        yield from _against(mark, part.damage[:n], here)


def _span(mark: Mark) -> tuple[float, float] | None:
    if isinstance(mark, CrackMark | BreakMark | BarMark | CreaseMark):
        return mark.at_mm, mark.at_mm
    if isinstance(mark, BentMark):
        return None if mark.at_mm is None else (mark.at_mm, mark.at_mm)
    if mark.start_mm is None or mark.end_mm is None:
        return None
    return mark.start_mm, mark.end_mm


def _mark(mark: Mark, part: Part, catalogue: Catalogue, here: str) -> Iterator[Problem]:
    span = _span(mark)
    if span is not None:
        start, end = span
        field = "at_mm" if start == end and hasattr(mark, "at_mm") else "end_mm"
        if end > part.span_mm:
            message = f"lies beyond the end of the part: at most {in_mm(part.span_mm, G)}"
            yield Problem(path=f"{here}.{field}", message=message, value=f"{end:g}")
            return
        if field == "end_mm" and end - start < 1:
            message = f"must lie at least {in_mm(1, G)} before the end at {in_mm(end, G)}"
            yield Problem(path=f"{here}.start_mm", message=message, value=f"{start:g}")
            return
    if isinstance(mark, CrossedMark):
        both = sorted(set(mark.whole) & set(mark.broken))
        if both:
            message = "is said to be whole and to be broken there: it is one of them"
            yield Problem(path=f"{here}.broken", message=message, value=repr(both[0]))
    if isinstance(mark, CreaseMark | OpenedMark):
        yield from _wall(mark, part, here)
    if isinstance(mark, CrackMark | CrushMark | MissingMark):
        yield from _extent(mark, part, catalogue, here)
    if isinstance(mark, PeeledMark | BarMark | LooseMark):
        yield from _of(mark, part, here)


def _extent(
    mark: CrackMark | CrushMark | MissingMark, part: Part, catalogue: Catalogue, here: str
) -> Iterator[Problem]:
    if part.foam is None and isinstance(mark, CrackMark | CrushMark):
        message = "needs a core: in a hollow part mark a crease, an open seam, walls as peeled, or a piece as missing"
        yield Problem(path=f"{here}.kind", message=message, value=mark.kind)
        return
    at = mark.at_mm if isinstance(mark, CrackMark) else 0.5 * (mark.start_mm + mark.end_mm)
    share = at / part.span_mm
    chord, thick = (
        getattr(part, f"root_{n}_mm") * (1 - share) + getattr(part, f"tip_{n}_mm") * share
        for n in ("chord", "thickness")
    )
    if mark.face in ("front", "rear"):
        if mark.depth_mm >= 0.97 * chord:
            message = f"is longer than the chord of {in_mm(chord, F0)} there: mark a clean break"
            yield Problem(path=f"{here}.depth_mm", message=message, value=f"{mark.depth_mm:g}")
        return
    if mark.from_percent >= mark.to_percent:
        message = f"must be greater than the start ({mark.from_percent:g} %)"
        yield Problem(path=f"{here}.to_percent", message=message, value=f"{mark.to_percent:g}")
        return
    if mark.face == "through":
        return
    where = np.linspace(mark.from_percent, mark.to_percent, 9) / 100
    full = np.ones_like(where)
    low, high = faces(outline_of(part, catalogue), where, chord * full, thick * full)
    room = float(np.max(high - low))
    if mark.depth_mm > room:
        message = f"is deeper than the part, {in_mm(room, G3)} there: mark it right through, or a clean break"
        yield Problem(path=f"{here}.depth_mm", message=message, value=f"{mark.depth_mm:g}")


def _wall(mark: CreaseMark | OpenedMark, part: Part, here: str) -> Iterator[Problem]:
    if part.foam is not None:
        message = "is for hollow parts: on a core mark a crack, a crushed zone or a peeled skin"
        yield Problem(path=f"{here}.kind", message=message, value=mark.kind)
    elif isinstance(mark, CreaseMark) and mark.from_percent >= mark.to_percent:
        message = f"must be greater than the start ({mark.from_percent:g} %)"
        yield Problem(path=f"{here}.to_percent", message=message, value=f"{mark.to_percent:g}")


def _of(mark: PeeledMark | BarMark | LooseMark, part: Part, here: str) -> Iterator[Problem]:
    line = next((la for la in part.layers if la.id == mark.of), None)
    if line is None or not isinstance(line, _OF[type(mark)]):
        allowed = [la.id for la in part.layers if isinstance(la, _OF[type(mark)])]
        message = f"must be a {_WORDS[type(mark)]} of this part: {', '.join(allowed) or 'it has none'}"
        yield Problem(path=f"{here}.of", message=message, value=repr(mark.of))
        return
    start, end = line_span(line, part)
    span = _span(mark)
    if span is not None and not isinstance(line, JointLayer) and (span[1] < start or span[0] > end):
        message = f"lies off the line, which runs from {number(start, 'mm', G)} to {in_mm(end, G)}"
        yield Problem(path=f"{here}.{'at_mm' if isinstance(mark, BarMark) else 'start_mm'}", message=message,
                      value=f"{span[0]:g}")  # fmt: skip
    if isinstance(mark, BarMark) and mark.side != "both" and getattr(line, "place", "") != "pair":
        yield Problem(path=f"{here}.side", message="applies to pairs only; this is a single spar", value=mark.side)


def _against(mark: Mark, before: tuple[Mark, ...], here: str) -> Iterator[Problem]:
    """Marks that cannot both be: a crack in what is missing, the same bar broken twice at one place."""
    span = _span(mark)
    for other in before:
        theirs = _span(other)
        if span is None or theirs is None:
            if isinstance(mark, BentMark) and isinstance(other, BentMark):
                yield Problem(path=f"{here}.kind", message="is already marked: only one “Bent or twisted” mark "
                                                           "per part",
                              value=mark.kind)  # fmt: skip
            continue
        meets = span[0] <= theirs[1] and theirs[0] <= span[1]
        if not meets:
            continue
        if isinstance(mark, CrackMark | BreakMark) and isinstance(other, BreakMark):
            message = f"is at a clean break already marked ({other.id})"
            yield Problem(path=f"{here}.at_mm", message=message, value=f"{mark.at_mm:g}")
        elif isinstance(mark, CrackMark | CrushMark) and isinstance(other, MissingMark) and other.face == "through":
            message = f"lies in a missing piece ({other.id})"
            yield Problem(path=f"{here}.kind", message=message, value=mark.kind)
        elif isinstance(mark, BarMark) and isinstance(other, BarMark) and mark.of == other.of:
            same = mark.side == other.side or "both" in (mark.side, other.side)
            if same and abs(mark.at_mm - other.at_mm) < 2:
                message = f"is already marked there ({other.id})"
                yield Problem(path=f"{here}.at_mm", message=message, value=f"{mark.at_mm:g}")
