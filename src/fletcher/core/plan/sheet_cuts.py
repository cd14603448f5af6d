"""Pieces of sheet, foam board, film and cloth laid out on what is there and what is bought; tape by the metre.

Own sheets and offcuts first, the smallest that fits; rests of 100 × 50 and more go back to the shelf [J]. Held against
cutting in the order of the list, every sheet full before the next.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.airframe import Airframe
from fletcher.core.document.cases import Document, Key
from fletcher.core.estimate.effort import Price, prices
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.plan.flat_pieces import Flat, flat_pieces, is_tape
from fletcher.core.plan.packing import Layout, Placed, Rect, Sheet, TooLarge, left_of, pack
from fletcher.core.plan.pairing import Lain, Pair, half_turned, outline_of, paired

SAME_MM = 0.6
"""Sizes that differ by less are of the same piece."""
KEEP_MM = (100.0, 50.0)
"""[J] Smallest rest of a sheet that goes back."""
UNSOLD_MM = (1000.0, 500.0)
"""[J] Size of a sheet where the price table names none."""


class MadeSheets(Document):
    """Pieces of a sheet, roll or tape that were cut already: along the grain and across, mm."""

    stock: Key
    mm: Annotated[
        tuple[tuple[Annotated[float, Field(gt=0, le=200_000)], Annotated[float, Field(gt=0, le=5000)]], ...],
        Field(min_length=1, max_length=400),
    ]


class OwnSheets(Document):
    """Sheets, boards and lengths of roll that are on the shelf: along the grain and across, mm."""

    stock: Key
    mm: Annotated[
        tuple[tuple[Annotated[float, Field(gt=0, le=200_000)], Annotated[float, Field(gt=0, le=5000)]], ...],
        Field(min_length=1, max_length=20),
    ]


class SheetPiece(Result):
    """A piece on a sheet: its corner along and across, its size there, mm; what it is for, and what to mind; of one
    that is no rectangle its corners on the sheet."""

    x_mm: float
    y_mm: float
    long_mm: float
    wide_mm: float
    name: str
    note: str
    step: str = ""
    """The step of the plan that it is cut for."""
    outline: list[tuple[float, float]] = Field(default_factory=list)


class SheetLaid(Result):
    """A sheet with what is cut from it, and the largest rest, mm; whether that goes back to the shelf."""

    long_mm: float
    wide_mm: float
    own: bool
    pieces: list[SheetPiece]
    left_long_mm: float
    left_wide_mm: float
    goes_back: bool


class SheetCuts(Result):
    """All cuts of one material: how many units are bought and what they cost, how many any cutting needs at least, and
    how many somebody opens who cuts in the order of the list."""

    key: str
    name: str
    unit: str
    sheets: list[SheetLaid]
    buy: int
    cost: Band
    least: int
    careless: int


class TapeCuts(Result):
    """Tape by the metre: strips by name and length, mm; metres in all, and rolls to buy."""

    key: str
    name: str
    unit: str
    strips: list[SheetPiece]
    metres: float
    own_metres: float
    buy: int
    cost: Band


def sheet_cuts(
    airframe: Airframe, own: Sequence[OwnSheets], kerf_mm: float, remarks: list[str], made: Sequence[MadeSheets] = ()
) -> tuple[list[SheetCuts], list[TapeCuts]]:  # fmt: skip
    """All flat pieces of a checked airframe that were not made yet, laid out; what cannot be cut is told in
    `remarks`."""
    wanted: dict[str, list[Flat]] = defaultdict(list)
    there_already = {m.stock: list(m.mm) for m in made}
    for flat in flat_pieces(airframe):
        done = there_already.get(flat.key, [])
        alike = next((d for d in done if _same(d, flat)), None)
        if alike is None:
            wanted[flat.key].append(flat)
        else:
            done.remove(alike)
    there = {o.stock: [Sheet(a, b, own=True) for a, b in o.mm] for o in own}
    laid, tapes = [], []
    for key, pieces in wanted.items():
        if is_tape(key):
            tapes.append(_tape(key, pieces, there.get(key, ())))
        else:
            laid_out = _laid(key, pieces, there.get(key, ()), kerf_mm, remarks)
            if laid_out is not None:
                laid.append(laid_out)
    return laid, tapes


def _same(size: tuple[float, float], flat: Flat) -> bool:
    own = sorted((flat.long_mm, flat.wide_mm))
    return all(abs(a - b) < SAME_MM for a, b in zip(sorted(size), own, strict=True))


def _name(key: str) -> str:
    c = reference()
    return next(t[key].name for t in (c.sheets, c.foams, c.skins, c.cloths, c.cords) if key in t)


def _size(long: float, wide: float) -> str:
    return f"{in_mm(long, F0)} × {in_mm(wide, F0)}"


def _sold(key: str) -> tuple[Sheet, Price | None]:
    row = prices().get(key)
    size = UNSOLD_MM if row is None or not row.length_mm or not row.width_mm else (row.length_mm, row.width_mm)
    return Sheet(*size), row


def _laid(
    key: str, pieces: list[Flat], own: Sequence[Sheet], kerf_mm: float, remarks: list[str]
) -> SheetCuts | None:  # fmt: skip
    new, row = _sold(key)
    cut = kerf_mm if key in reference().sheets or key in reference().foams else 0.0
    left = list(pieces)
    while left:
        try:
            made = pack([Rect(p.long_mm, p.wide_mm, p.turns) for p in left], new, own, cut)
            boxes = [Pair(p.long_mm, p.wide_mm, p.turns, (Lain(n, 0, 0, turned=False),)) for n, p in enumerate(left)]
            break
        except TooLarge as large:
            gone = left.pop(large.piece)
            size, sheet = _size(gone.long_mm, gone.wide_mm), _size(new.long_mm, new.wide_mm)
            remarks.append(
                f"{gone.name}: {size} is larger than any sheet or roll of {_name(key)} ({sheet}): join two pieces, "
                "away from the root."
            )
    else:
        return None
    nearer = paired(left, cut, (new.long_mm, new.wide_mm))
    if len(nearer) < len(left):
        other = pack([Rect(p.long_mm, p.wide_mm, p.turns) for p in nearer], new, own, cut)
        if _used(other, cut) < _used(made, cut):
            made, boxes = Layout(other.sheets, min(made.least, other.least)), nearer
    buy = made.bought
    cost = Band(**{e: buy * getattr(row.credits, e) if row else 0.0 for e in ("low", "typ", "high")})
    return SheetCuts(
        key=key, name=_name(key), unit=row.unit if row else f"sheet {_size(new.long_mm, new.wide_mm)}",
        sheets=[_sheet(s, on, boxes, left, cut) for s, on in made.sheets], buy=buy, cost=cost, least=made.least,
        careless=_careless(left, new, cut),
    )  # fmt: skip


def _used(made: Layout, kerf_mm: float) -> tuple[int, float, float]:
    """New sheets, area that is opened, and what is not left in one piece of it, mm²."""
    opened = sum(s.long_mm * s.wide_mm for s, _ in made.sheets)
    left = [left_of(s, on, kerf_mm) for s, on in made.sheets]
    return made.bought, opened, -sum(a * b for a, b in left)


def _sheet(s: Sheet, on: Sequence[Placed], boxes: Sequence[Pair], pieces: Sequence[Flat], kerf_mm: float) -> SheetLaid:
    rest = left_of(s, on, kerf_mm)
    return SheetLaid(
        long_mm=s.long_mm, wide_mm=s.wide_mm, own=s.own, left_long_mm=round(rest[0], 1),
        left_wide_mm=round(rest[1], 1),
        goes_back=max(rest) >= KEEP_MM[0] and min(rest) >= KEEP_MM[1],
        pieces=[
            _piece(p, boxes[p.piece], lain, pieces[lain.piece])
            for p in sorted(on, key=lambda p: (p.x, p.y))
            for lain in boxes[p.piece].lain
        ],
    )  # fmt: skip


def _piece(p: Placed, box: Pair, lain: Lain, flat: Flat) -> SheetPiece:
    """A piece of a box where it lies on the sheet; a box may lie turned by a quarter."""
    quarter = abs(p.long_mm - box.long_mm) > 1e-6
    shape = half_turned(flat) if lain.turned else outline_of(flat)
    at = [(lain.x + x, lain.y + y) for x, y in shape]
    if quarter:
        at = [(box.wide_mm - y, x) for x, y in at]
    at = [(round(p.x + x, 1), round(p.y + y, 1)) for x, y in at]
    x0, y0 = min(x for x, _ in at), min(y for _, y in at)
    x1, y1 = max(x for x, _ in at), max(y for _, y in at)
    return SheetPiece(
        x_mm=x0, y_mm=y0, long_mm=round(x1 - x0, 1), wide_mm=round(y1 - y0, 1), name=flat.name, note=flat.note,
        step=flat.step, outline=at if flat.outline else [],
    )  # fmt: skip


def _careless(pieces: Sequence[Flat], new: Sheet, kerf_mm: float) -> int:
    """Sheets of somebody who lays pieces side by side in rows as they come in the list, and starts a new row, then a
    new sheet, where the next does not fit."""
    sheets, x, y, row = 1, 0.0, 0.0, 0.0
    for p in pieces:
        if y + p.wide_mm > new.wide_mm + 1e-6:
            x, y, row = x + row, 0.0, 0.0
        if x + p.long_mm > new.long_mm + 1e-6:
            sheets, x, y, row = sheets + 1, 0.0, 0.0, 0.0
        y += p.wide_mm + kerf_mm
        row = max(row, p.long_mm + kerf_mm)
    return sheets


def _tape(key: str, pieces: list[Flat], own: Sequence[Sheet]) -> TapeCuts:
    """Strips off rolls as wide as they are; wider ones side by side."""
    row = prices().get(key)
    roll = (row.length_mm or (row.amount if row.per == "mm" else None) if row else None) or 10_000.0
    broad = (row.width_mm if row else None) or 50.0
    strips = [
        SheetPiece(
            x_mm=0, y_mm=0, long_mm=p.long_mm, wide_mm=p.wide_mm, name=p.name, note=_side_by_side(p, broad), step=p.step
        )
        for p in pieces
    ]
    needed = sum(p.long_mm * max(math.ceil(p.wide_mm / broad - 0.02), 1) for p in pieces)
    there = sum(s.long_mm for s in own)
    buy = max(math.ceil((needed - there) / roll - 1e-9), 0)
    credits = row.credits if row else None
    cost = Band(**{e: buy * getattr(credits, e) if credits else 0.0 for e in ("low", "typ", "high")})
    return TapeCuts(
        key=key, name=_name(key), unit=row.unit if row else "roll", strips=strips, metres=round(needed / 1e3, 2),
        own_metres=round(there / 1e3, 2), buy=buy, cost=cost,
    )  # fmt: skip


def _side_by_side(p: Flat, broad: float) -> str:
    many = max(math.ceil(p.wide_mm / broad - 0.02), 1)
    return p.note if many == 1 else f"{many} strips side by side"
