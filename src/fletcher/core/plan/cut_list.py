"""The cut list of an airframe: every piece, out of which length it is cut, what is bought and what is left.

A bar that runs through the root of a pair of halves is one piece, centred on the root, where stock is long enough; else
a piece a half, and the list says that they have to be joined. Splices that are entered cut a bar where they lie, half
of the overlap to each side; a sleeve butts.
"""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from typing import Annotated

from pydantic import Field

from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, in_mm
from fletcher.core.document.airframe import Airframe, BarLayer, JointLayer, Part
from fletcher.core.document.cases import Document, Key
from fletcher.core.document.joint import AcrossJoint
from fletcher.core.estimate.effort import prices
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band
from fletcher.core.plan.bar_splices import pieces_between
from fletcher.core.plan.bars import Cut, Length, TooLong, cut_bars, goes_back, naive
from fletcher.core.plan.flat_pieces import piece_key
from fletcher.core.plan.sheet_cuts import SAME_MM, MadeSheets, OwnSheets, SheetCuts, TapeCuts, sheet_cuts
from fletcher.core.section.assembly import line_span

STRAIGHT_DEG = 1.0
"""[J] A bar gives so much without being bent, degrees on each side of the root."""
UNSOLD_MM = 1000.0
"""[J] Length in which a bar is taken to be sold where the price table names none."""


class OwnBars(Document):
    """Lengths of a bar that are on the shelf, mm."""

    stock: Key
    mm: Annotated[tuple[Annotated[float, Field(gt=0, le=5000)], ...], Field(min_length=1, max_length=40)]


class MadeBars(Document):
    """Pieces of a bar that were cut already, mm."""

    stock: Key
    mm: Annotated[tuple[Annotated[float, Field(gt=0, le=5000)], ...], Field(min_length=1, max_length=400)]


class CutWish(Document):
    """How much a cut takes, what is on the shelf, and what was cut already."""

    kerf_mm: Annotated[float, Field(ge=0, le=5)] = 1.0
    own: Annotated[tuple[OwnBars, ...], Field(max_length=40)] = ()
    own_sheets: Annotated[tuple[OwnSheets, ...], Field(max_length=40)] = ()
    made: Annotated[tuple[MadeBars, ...], Field(max_length=40)] = ()
    made_sheets: Annotated[tuple[MadeSheets, ...], Field(max_length=40)] = ()


class BarPiece(Result):
    """A piece: its length, what it is for, and the step of the plan that it is cut for."""

    mm: float
    name: str
    step: str = ""


class CutAt(Result):
    """A length of stock and what is cut from it, in order; what is left, and whether that goes back to stock."""

    stock_mm: float
    own: bool
    pieces: list[BarPiece]
    left_mm: float
    goes_back: bool


class BarCuts(Result):
    """All cuts of one kind of bar: how many units are bought and what they cost, how many lengths any cutting needs at
    least, and how many somebody opens who cuts in the order of the list."""

    key: str
    name: str
    cuts: list[CutAt]
    unit: str
    buy: int
    cost: Band
    least: int
    careless: int


class LongBar(Result):
    """A line whose bar is longer than any stock."""

    part_id: str
    layer_id: str


class CutList(Result):
    """Cuts by kind of bar, sheet and tape, what all of them cost, what cannot be cut as it is drawn, and which bars of
    it a splice would help."""

    bars: list[BarCuts]
    long_bars: list[LongBar]
    sheets: list[SheetCuts]
    tapes: list[TapeCuts]
    cost: Band
    remarks: list[str]


def cut_list(airframe: Airframe, wish: CutWish) -> CutList:
    """The cut list of a checked airframe."""
    wanted: dict[str, list[BarPiece]] = defaultdict(list)
    remarks: list[str] = []
    for part in airframe.parts:
        if part.kind != "plank":
            for key, piece in _pieces(part, wish, remarks):
                wanted[key].append(piece)
    own = {o.stock: o.mm for o in wish.own}
    for m in wish.made:
        wanted[m.stock] = _left(wanted.get(m.stock, []), m.mm)
    bars = [b for key, pieces in wanted.items() if (b := _cut(key, pieces, own.get(key, ()), wish, remarks))]
    sheets, tapes = sheet_cuts(airframe, wish.own_sheets, wish.kerf_mm, remarks, wish.made_sheets)
    costs = [*(b.cost for b in bars), *(s.cost for s in sheets), *(t.cost for t in tapes)]
    total = Band(**{end: sum(getattr(c, end) for c in costs) for end in ("low", "typ", "high")})
    return CutList(
        bars=bars, long_bars=list(_long_bars(airframe, wish)), sheets=sheets, tapes=tapes, cost=total,
        remarks=list(dict.fromkeys(remarks)),
    )  # fmt: skip


def _left(pieces: Sequence[BarPiece], made: Sequence[float]) -> list[BarPiece]:
    """Pieces that were not made yet."""
    left = list(pieces)
    for mm in made:
        done = next((p for p in left if abs(p.mm - mm) < SAME_MM), None)
        if done is not None:
            left.remove(done)
    return left


def _long_bars(airframe: Airframe, wish: CutWish) -> Iterator[LongBar]:
    for part in airframe.parts:
        for la in part.layers:
            if la.enabled and isinstance(la, BarLayer) and part.kind != "plank":
                faces = ("upper", "lower") if la.place == "pair" else ("",)
                through = runs_straight_through(la, part)
                cut = [pieces_between(*line_span(la, part), [s.of_face(f) for s in la.splices], through) for f in faces]
                if max(mm for pieces in cut for mm in pieces) > _longest(la.stock, wish) + 1e-9:
                    yield LongBar(part_id=part.id, layer_id=la.id)


def _longest(key: str, wish: CutWish) -> float:
    own = [mm for o in wish.own if o.stock == key for mm in o.mm]
    return max([sold_mm(key), *own])


def sold_mm(key: str) -> float:
    """Length in which a bar is sold, mm."""
    row = prices().get(key)
    return (row.length_mm if row is not None else None) or UNSOLD_MM


def _pieces(part: Part, wish: CutWish, remarks: list[str]) -> Iterator[tuple[str, BarPiece]]:
    sides = ("right", "left") if part.hand == "both" else ("",)
    for layer in part.layers:
        if not layer.enabled:
            continue
        if isinstance(layer, BarLayer):
            yield from _of_bar(layer, part, sides, wish, remarks)
        elif isinstance(layer, JointLayer) and isinstance(layer.joint, AcrossJoint):
            for brace in layer.joint.braces:
                if brace.stock in reference().bars:
                    long = brace.each_side_mm * (1 if layer.start_mm < 1e-6 else 2)
                    for side in sides:
                        for _ in range(brace.count):
                            step = f"{piece_key(part, side)}/{layer.id}"
                            yield brace.stock, BarPiece(mm=long, name=_name(part, side, "brace"), step=step)


def _name(part: Part, side: str, what: str) -> str:
    return ", ".join(w for w in (part.name, side, what) if w)


def _of_bar(
    layer: BarLayer, part: Part, sides: Sequence[str], wish: CutWish, remarks: list[str]
) -> Iterator[tuple[str, BarPiece]]:  # fmt: skip
    start, end = line_span(layer, part)
    faces = ("upper", "lower") if layer.place == "pair" else ("",)
    label = layer.name or reference().bars[layer.stock].name
    through = len(sides) == 2 and runs_through(layer, part)
    hindered = ""
    if through and not _straight(layer, part):
        hindered = "but dihedral or sweep bends its line there"
    elif through and not layer.splices and 2 * end > _longest(layer.stock, wish) + 1e-9:
        hindered = f"but {in_mm(2 * end, F0)} is longer than stock"
    if hindered:
        remarks.append(
            f"{part.name}, {label}: runs through the root in the estimate, {hindered}. It is cut as two: join them "
            "with a joiner or braces, or splice it further out."
        )
        through = False
    for face in faces:
        what = f"{face} {label[0].lower()}{label[1:]}" if face else label
        cut = pieces_between(start, end, [s.of_face(face) for s in layer.splices], through)
        if through:
            yield from _faced(layer, cut.pop(0), part, "both halves", what, sides[0])
        for side in sides:
            for mm in cut:
                yield from _faced(layer, mm, part, side, what, side)
            if layer.sleeve is not None:
                s = layer.sleeve
                name, step = _name(part, side, f"sleeve of {what}"), f"{piece_key(part, side)}/{layer.id}"
                yield s.stock, BarPiece(mm=s.end_mm - s.start_mm, name=name, step=step)


def runs_straight_through(layer: BarLayer, part: Part) -> bool:
    """Whether it does so in one piece: without dihedral, square to the root."""
    return runs_through(layer, part) and _straight(layer, part)


def _faced(
    layer: BarLayer, mm: float, part: Part, where: str, what: str, side: str
) -> Iterator[tuple[str, BarPiece]]:  # fmt: skip
    """A piece of a bar, with its facings; cut for the step of one side."""
    step = f"{piece_key(part, side)}/{layer.id}"
    yield layer.stock, BarPiece(mm=mm, name=_name(part, where, what), step=step)
    if layer.faced_with is not None:
        for _ in range(2):
            yield layer.faced_with, BarPiece(mm=mm, name=_name(part, where, f"facing of {what}"), step=step)


def runs_through(layer: BarLayer, part: Part) -> bool:
    """Whether a bar of a pair of halves goes on through the root by the document."""
    start, _ = line_span(layer, part)
    return part.hand == "both" and layer.joined_at_root and start < 1e-6 and not layer.joiner


def _straight(layer: BarLayer, part: Part) -> bool:
    """Whether a bar goes on straight from one half into the other: without dihedral, square to the root."""
    root, tip = layer.root_percent / 100 * part.root_chord_mm, layer.tip_percent / 100 * part.tip_chord_mm
    aft = part.tip_setback_mm + tip - root
    return abs(part.place.dihedral_deg) <= STRAIGHT_DEG and abs(math.degrees(math.atan2(aft, part.span_mm))) <= (
        STRAIGHT_DEG
    )


def _cut(
    key: str, pieces: list[BarPiece], own: Sequence[float], wish: CutWish, remarks: list[str]
) -> BarCuts | None:  # fmt: skip
    name, sold, row = reference().bars[key].name, sold_mm(key), prices().get(key)
    credits = row.credits if row is not None else Range(0.0, 0.0, 0.0)
    each = max(int(row.amount // sold), 1) if row is not None and row.length_mm else 1
    fits = [p for p in pieces if p.mm <= max([sold, *own]) + 1e-9]
    for p in pieces:
        if p not in fits:
            remarks.append(f"{p.name}: {TooLong(p.mm, max([sold, *own]))}, away from the root, on the Bench.")
    if not fits:
        return None
    stock = [*(Length(mm, 0.0, n) for mm, n in Counter(own).items()), Length(sold, credits.typ / each or 1.0)]
    found = cut_bars(Counter(round(p.mm, 1) for p in fits), stock, wish.kerf_mm)
    names: dict[float, list[BarPiece]] = defaultdict(list)
    for p in fits:
        names[round(p.mm, 1)].append(p)
    buy = math.ceil(found.bought[sold] / each)
    return BarCuts(
        key=key, name=name, cuts=[_told(c, names, wish.kerf_mm) for c in found.cuts],
        unit=row.unit if row is not None else f"bar {in_mm(sold, F0)}", buy=buy,
        cost=Band(low=buy * credits.low, typ=buy * credits.typ, high=buy * credits.high), least=found.least,
        careless=naive([p.mm for p in fits], sold, wish.kerf_mm),
    )  # fmt: skip


def _told(cut: Cut, names: Mapping[float, list[BarPiece]], kerf_mm: float) -> CutAt:
    left = cut.left_mm(kerf_mm)
    return CutAt(
        stock_mm=cut.stock.mm, own=cut.stock.there is not None,
        pieces=[names[mm].pop(0).model_copy(update={"mm": mm}) for mm in cut.pieces],
        left_mm=left, goes_back=goes_back(left, cut.stock.mm),
    )  # fmt: skip
