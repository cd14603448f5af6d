"""Finished steps use up what is on the shelf: lengths and sheets that the cut list takes for them, once each."""

from __future__ import annotations

import contextlib
import logging
from collections.abc import Collection, Sequence

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404

from fletcher.core.document.problems import InvalidDocument
from fletcher.core.plan.changes import MENDING
from fletcher.core.plan.cut_list import BarPiece, CutList, CutWish, MadeBars, OwnBars, cut_list
from fletcher.core.plan.sheet_cuts import SAME_MM, MadeSheets, OwnSheets, SheetLaid, SheetPiece
from fletcher.core.stock.items import StockItem, flies
from fletcher.server.airframes.models import Airframe
from fletcher.server.stock import services as stock
from fletcher.server.stock.models import Thing

log = logging.getLogger(__name__)
KERF_MM = 1.0
_MOST = 40


def use_up(owner: User, airframe: Airframe, steps: Collection[str]) -> None:
    """Take from the shelf what the cut list takes for steps that are done. What cannot be taken is left: a step is done
    all the same. Computed before anything is held."""
    if all(s.startswith(MENDING) for s in steps):
        return
    with contextlib.suppress(InvalidDocument, Http404):
        there = _there(owner, airframe)
        if not there:
            return
        found = cut_list(airframe.document, shelf_wish(owner, airframe))
        with transaction.atomic():
            _bars(owner, airframe, steps, found, there)
            _sheets(owner, airframe, steps, found, there)


@transaction.atomic
def give_back(owner: User, airframe: Airframe, undone: Collection[str], done: Collection[str]) -> None:
    """Put back what was cut for steps that are taken back, where nothing of it is for a step that stays done; what was
    cut on since stays cut."""
    for made in stock.cuts(owner, airframe.pk):
        if not set(made.steps) & set(undone) or set(made.steps) & set(done):
            continue
        try:
            with transaction.atomic():
                stock.take_back(owner, made.pk)
        except InvalidDocument:
            log.info("cut %s is not taken back: what was left of it was changed", made.pk)


def _free(row: Thing, item: StockItem, airframe: Airframe) -> bool:
    return flies(item) and row.reserved_for_id in (None, airframe.pk)


def _there(owner: User, airframe: Airframe) -> list[tuple[Thing, StockItem]]:
    return [(row, item) for row, item in stock.things(owner) if _free(row, item, airframe)]


def shelf_wish(owner: User, airframe: Airframe) -> CutWish:
    """What of the shelf may be cut for an airframe, free or reserved for it and not from a scrapped part, and what was
    cut for it already."""
    bars: dict[str, list[float]] = {}
    sheets: dict[str, list[tuple[float, float]]] = {}
    for _, item in _there(owner, airframe):
        if item.kind == "bar" and item.length_mm:
            bars.setdefault(item.key, []).extend([item.length_mm] * item.count)
        elif item.length_mm and item.width_mm:
            sheets.setdefault(item.key, []).extend([(item.length_mm, item.width_mm)] * min(item.count, 20))
    made_bars: dict[str, list[float]] = {}
    made_sheets: dict[str, list[tuple[float, float]]] = {}
    for made in stock.cuts(owner, airframe.pk):
        key = made.before["item"]["key"]
        made_bars.setdefault(key, []).extend(made.pieces)
        made_sheets.setdefault(key, []).extend((a, b) for a, b in made.sheets)
    return CutWish(
        kerf_mm=KERF_MM,
        own=tuple(OwnBars(stock=k, mm=tuple(v[:_MOST])) for k, v in list(bars.items())[:_MOST]),
        own_sheets=tuple(OwnSheets(stock=k, mm=tuple(v[:20])) for k, v in list(sheets.items())[:_MOST]),
        made=tuple(MadeBars(stock=k, mm=tuple(v[:400])) for k, v in list(made_bars.items())[:_MOST] if v),
        made_sheets=tuple(MadeSheets(stock=k, mm=tuple(v[:400])) for k, v in list(made_sheets.items())[:_MOST] if v),
    )  # fmt: skip


def _bars(
    owner: User, airframe: Airframe, steps: Collection[str], found: CutList, there: list[tuple[Thing, StockItem]]
) -> None:  # fmt: skip
    for b in found.bars:
        for c in b.cuts:
            if c.own and any(p.step in steps for p in c.pieces):
                row = next((r for r, i in there if i.key == b.key and _near(i.length_mm, c.stock_mm) and _is_there(r)),
                           None)  # fmt: skip
                if row is not None:
                    stock.cut(owner, row.pk, airframe.pk, [p.mm for p in c.pieces], KERF_MM, _steps(c.pieces))


def _sheets(
    owner: User, airframe: Airframe, steps: Collection[str], found: CutList, there: list[tuple[Thing, StockItem]]
) -> None:  # fmt: skip
    for s in found.sheets:
        for laid in s.sheets:
            if not laid.own or not any(p.step in steps for p in laid.pieces):
                continue
            row = next((r for r, i in there if i.key == s.key and _near(i.length_mm, laid.long_mm)
                        and _near(i.width_mm, laid.wide_mm) and _is_there(r)), None)  # fmt: skip
            if row is not None:
                pieces = [(p.long_mm, p.wide_mm) for p in laid.pieces]
                stock.cut_sheet(owner, row.pk, airframe.pk, pieces, _rest(laid), _steps(laid.pieces))


def _steps(pieces: Sequence[BarPiece] | Sequence[SheetPiece]) -> list[str]:
    return sorted({p.step for p in pieces})


def _rest(laid: SheetLaid) -> tuple[float, float] | None:
    return (laid.left_long_mm, laid.left_wide_mm) if laid.goes_back else None


def _near(mm: float | None, wanted: float) -> bool:
    return mm is not None and abs(mm - wanted) < SAME_MM


def _is_there(row: Thing) -> bool:
    return Thing.everyone.filter(pk=row.pk).exists()
