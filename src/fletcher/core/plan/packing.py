r"""Rectangles out of sheets and rolls: as few sheets as can be, own ones first.

Pieces and sheets grow by the kerf, so that every cut has its width. All heuristics of the packer are tried and the best
one is kept; where it takes more new sheets than the area asks for, CP-SAT looks for one less: no two pieces overlap
(`NoOverlap2D`), the sheet of a piece is told by its offset along x (Perron & Didier). What it proves impossible is
proved; else the packer's result stands, never worse than its plain one.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product

import rectpack
from ortools.sat.python import cp_model

SECONDS, WORKERS = 1.0, 8
"""For one sheet less."""
_ORDERS = (rectpack.SORT_AREA, rectpack.SORT_LSIDE, rectpack.SORT_SSIDE, rectpack.SORT_PERI)
_WAYS = (rectpack.MaxRectsBssf, rectpack.MaxRectsBaf, rectpack.MaxRectsBl, rectpack.GuillotineBssfSas,
         rectpack.SkylineMwf)  # fmt: skip
PLAIN = (rectpack.MaxRectsBssf, rectpack.SORT_AREA)
"""What the packer does by itself."""
_TENTH = 10
"""Sizes are packed in tenths of a millimetre."""


@dataclass(frozen=True)
class Sheet:
    """A sheet or a length of a roll: along its grain and across, mm; its own, or as it is bought."""

    long_mm: float
    wide_mm: float
    own: bool = False


@dataclass(frozen=True)
class Rect:
    """A piece: along the grain and across, mm; whether it may be turned by a quarter."""

    long_mm: float
    wide_mm: float
    turns: bool = False


@dataclass(frozen=True)
class Placed:
    """A piece, by its number, on a sheet: its corner along and across, its size there, mm."""

    piece: int
    x: float
    y: float
    long_mm: float
    wide_mm: float


@dataclass(frozen=True)
class Layout:
    """Sheets with what lies on each; how many new ones any cutting needs at least."""

    sheets: tuple[tuple[Sheet, tuple[Placed, ...]], ...]
    least: int

    @property
    def bought(self) -> int:
        """New sheets."""
        return sum(not s.own for s, _ in self.sheets)


class TooLarge(ValueError):  # noqa: N818 - shown to people as it is
    """A piece that fits on no sheet; its number."""

    def __init__(self, piece: int) -> None:
        super().__init__("fits on no sheet")
        self.piece = piece


def pack(pieces: Sequence[Rect], new: Sheet, own: Sequence[Sheet] = (), kerf_mm: float = 0.0) -> Layout:
    """Pieces on as few new sheets as can be, own ones first.

    Raises
    ------
    TooLarge
        Where a piece fits on none.
    """
    sheets = [*own, new]
    for n, p in enumerate(pieces):
        if not any(_fits(p, s) for s in sheets):
            raise TooLarge(n)
    if not pieces:
        return Layout((), 0)
    best = min((_packed(pieces, new, own, kerf_mm, w) for w in product(_WAYS, _ORDERS)), key=_worth)
    least = _least(pieces, new, own, kerf_mm)
    while not own and best.bought > least:
        fewer, proved = _one_less(pieces, new, kerf_mm, best.bought - 1)
        if fewer is None:
            least = best.bought if proved else least
            break
        best = Layout(fewer, least)
    return Layout(best.sheets, min(least, best.bought))


def plain(pieces: Sequence[Rect], new: Sheet, own: Sequence[Sheet] = (), kerf_mm: float = 0.0) -> Layout:
    """The packer's plain result."""
    return _packed(pieces, new, own, kerf_mm, PLAIN)


def _fits(p: Rect, s: Sheet) -> bool:
    straight = p.long_mm <= s.long_mm + 1e-6 and p.wide_mm <= s.wide_mm + 1e-6
    return straight or (p.turns and p.wide_mm <= s.long_mm + 1e-6 and p.long_mm <= s.wide_mm + 1e-6)


def _worth(made: Layout) -> tuple[int, float]:
    """Fewer new sheets, then less area opened."""
    return made.bought, sum(s.long_mm * s.wide_mm for s, _ in made.sheets)


def _grown(mm: float, kerf_mm: float) -> int:
    return math.ceil(_TENTH * (mm + kerf_mm) - 1e-6)


def _room(mm: float, kerf_mm: float) -> int:
    return math.floor(_TENTH * (mm + kerf_mm) + 1e-6)


def _packed(
    pieces: Sequence[Rect], new: Sheet, own: Sequence[Sheet], kerf_mm: float, way: tuple[object, object]
) -> Layout:  # fmt: skip
    """By one heuristic in one order. Pieces that may be turned and those that may not are never mixed in one call of
    the packer: what may not be turned goes first, what may fills up."""
    algorithm, order = way
    turns = all(p.turns for p in pieces)
    packer = rectpack.newPacker(
        mode=rectpack.PackingMode.Offline, bin_algo=rectpack.PackingBin.BFF, pack_algo=algorithm, sort_algo=order,
        rotation=turns,
    )  # fmt: skip
    for s in sorted(own, key=lambda s: s.long_mm * s.wide_mm):
        packer.add_bin(_room(s.long_mm, kerf_mm), _room(s.wide_mm, kerf_mm), bid=s)
    packer.add_bin(_room(new.long_mm, kerf_mm), _room(new.wide_mm, kerf_mm), count=len(pieces), bid=new)
    for n, p in enumerate(pieces):
        packer.add_rect(_grown(p.long_mm, kerf_mm), _grown(p.wide_mm, kerf_mm), rid=n)
    packer.pack()
    found = []
    for abin in packer:
        if len(abin):
            found.append((abin.bid, tuple(_placed(pieces, r, kerf_mm) for r in abin)))
    return Layout(tuple(found), 0)


def _placed(pieces: Sequence[Rect], r: rectpack.geometry.Rectangle, kerf_mm: float) -> Placed:
    p = pieces[r.rid]
    turned = (r.width, r.height) != (_grown(p.long_mm, kerf_mm), _grown(p.wide_mm, kerf_mm))
    long, wide = (p.wide_mm, p.long_mm) if turned else (p.long_mm, p.wide_mm)
    return Placed(r.rid, r.x / _TENTH, r.y / _TENTH, long, wide)


def _least(pieces: Sequence[Rect], new: Sheet, own: Sequence[Sheet], kerf_mm: float) -> int:
    """New sheets that the area asks for."""
    area = sum((p.long_mm + kerf_mm) * (p.wide_mm + kerf_mm) for p in pieces)
    there = sum((s.long_mm + kerf_mm) * (s.wide_mm + kerf_mm) for s in own)
    one = (new.long_mm + kerf_mm) * (new.wide_mm + kerf_mm)
    return max(math.ceil((area - there) / one - 1e-9), 0 if own else 1)


def _one_less(
    pieces: Sequence[Rect], new: Sheet, kerf_mm: float, sheets: int
) -> tuple[tuple[tuple[Sheet, tuple[Placed, ...]], ...] | None, bool]:  # fmt: skip
    """All pieces on so many sheets; None where that was not found, and whether it was proved impossible."""
    room = (_room(new.long_mm, kerf_mm), _room(new.wide_mm, kerf_mm))
    sizes = [(_grown(p.long_mm, kerf_mm), _grown(p.wide_mm, kerf_mm)) for p in pieces]
    unit = math.gcd(*room, *(v for size in sizes for v in size))
    wide, high = room[0] // unit, room[1] // unit
    m = cp_model.CpModel()
    lies: list[tuple[cp_model.IntVar, cp_model.IntVar, cp_model.IntVar, list[cp_model.IntVar]]] = []
    spans: list[list[tuple[cp_model.IntervalVar, cp_model.IntervalVar, int, cp_model.IntVar]]] = [
        [] for _ in range(sheets)
    ]
    for n, (p, (a, b)) in enumerate(zip(pieces, sizes, strict=True)):
        long, tall = a // unit, b // unit
        x, y = m.new_int_var(0, wide, f"x{n}"), m.new_int_var(0, high, f"y{n}")
        turned = m.new_bool_var(f"turned{n}")
        right, top = m.new_int_var(0, wide, f"right{n}"), m.new_int_var(0, high, f"top{n}")
        w = m.new_int_var(min(long, tall), max(long, tall), f"w{n}") if p.turns else m.new_constant(long)
        h = m.new_int_var(min(long, tall), max(long, tall), f"h{n}") if p.turns else m.new_constant(tall)
        m.add(w == long + (tall - long) * turned)
        m.add(h == tall + (long - tall) * turned)
        m.add(right == x + w)
        m.add(top == y + h)
        if not p.turns or long == tall:
            m.add(turned == 0)
        on = [m.new_bool_var(f"{n} on {s}") for s in range(sheets)]
        m.add_exactly_one(on)
        lies.append((x, y, turned, on))
        for s in range(sheets):
            along = m.new_optional_interval_var(x, w, right, on[s], f"x{n} on {s}")
            across = m.new_optional_interval_var(y, h, top, on[s], f"y{n} on {s}")
            spans[s].append((along, across, long * tall, on[s]))
    for one in spans:
        m.add_no_overlap_2d([i[0] for i in one], [i[1] for i in one])
        m.add(sum(area * on for _, _, area, on in one) <= wide * high)
        if not any(p.turns for p in pieces):
            m.add_cumulative([i[0] for i in one], [b // unit for _, b in sizes], high)
            m.add_cumulative([i[1] for i in one], [a // unit for a, _ in sizes], wide)
    m.add_bool_or([lies[0][3][0]])
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = SECONDS
    solver.parameters.num_workers = WORKERS
    solver.parameters.random_seed = 1
    found = solver.solve(m)
    if found not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None, found == cp_model.INFEASIBLE
    laid: list[list[Placed]] = [[] for _ in range(sheets)]
    for n, (p, (x, y, turned, on)) in enumerate(zip(pieces, lies, strict=True)):
        flat = bool(solver.value(turned))
        long_mm, wide_mm = (p.wide_mm, p.long_mm) if flat else (p.long_mm, p.wide_mm)
        at = unit * solver.value(x) / _TENTH, unit * solver.value(y) / _TENTH
        laid[next(s for s in range(sheets) if solver.value(on[s]))].append(Placed(n, *at, long_mm, wide_mm))
    return tuple((new, tuple(one)) for one in laid if one), False


def left_of(sheet: Sheet, placed: Sequence[Placed], kerf_mm: float) -> tuple[float, float]:
    """The largest rectangle that is left of a sheet, along and across, mm; nothing: (0, 0). Its edges lie at edges of
    pieces or of the sheet."""
    best = (0.0, 0.0)
    taken = [(p.x, p.y, p.x + p.long_mm + kerf_mm, p.y + p.wide_mm + kerf_mm) for p in placed]
    xs = sorted({0.0, *(t[2] for t in taken)})
    for x0, x1 in product(xs, sorted({sheet.long_mm, *(t[0] - kerf_mm for t in taken)})):
        if x1 - x0 <= 0 or x1 > sheet.long_mm:
            continue
        for y0, y1 in _gaps(taken, x0, x1 + kerf_mm, sheet.wide_mm, kerf_mm):
            if (x1 - x0) * (y1 - y0) > best[0] * best[1]:
                best = (x1 - x0, y1 - y0)
    return best


def _gaps(
    taken: Sequence[tuple[float, float, float, float]], x0: float, x1: float, wide: float, kerf_mm: float
) -> Iterator[tuple[float, float]]:  # fmt: skip
    """Free stretches across a sheet between two places along it."""
    y = 0.0
    for _, low, _, high in sorted((t for t in taken if t[0] < x1 - 1e-6 and t[2] > x0 + 1e-6), key=lambda t: t[1]):
        if low - kerf_mm > y:
            yield y, low - kerf_mm
        y = max(y, high)
    if y < wide:
        yield y, wide
