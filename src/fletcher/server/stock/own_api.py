"""The builder's own shelf: what is there, tables in and out, cutting, foam from scrapped parts, which foam is this."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import Field

from fletcher.core.document.cases import Id
from fletcher.core.stock.items import StockItem, cautions_of, name_of, told
from fletcher.core.stock.stock_table import MOST_CHARACTERS, read_stock_csv, stock_csv
from fletcher.core.stock.which_foam import FoamGuess, FoamSeen, FoamTest, foam_tests, which_foam
from fletcher.server.common.refusals import refusal
from fletcher.server.common.requests import Number, SignedIn
from fletcher.server.stock import services
from fletcher.server.stock.models import Cut, Thing

router = Router(tags=["stockroom"])


class ThingOut(Schema):
    """A thing on the shelf: what it is, in words, what to mind of it, and for which airframe it is reserved."""

    id: UUID
    revision: int
    item: StockItem
    name: str
    says: str
    cautions: list[str]
    reserved_for: UUID | None


class ThingIn(Schema):
    """A thing to put on the shelf."""

    item: StockItem


class ThingChange(ThingIn):
    """A thing as it is to be, on top of the revision that was seen."""

    revision: Number
    reserved_for: UUID | None = None


def _out(row: Thing, item: StockItem | None = None) -> ThingOut:
    item = item or StockItem.model_validate(row.item)
    return ThingOut(
        id=row.id, revision=row.revision, item=item, name=name_of(item), says=told(item),
        cautions=cautions_of(item, timezone.now().date()), reserved_for=row.reserved_for_id,
    )  # fmt: skip


@router.get("/own", response=list[ThingOut])
def read_own(request: SignedIn) -> list[ThingOut]:
    """All that is on the shelf."""
    return [_out(row, item) for row, item in services.things(request.user)]


@router.post("/own", response={201: ThingOut})
def put_on(request: SignedIn, payload: ThingIn) -> Status[ThingOut]:
    """Put a thing on the shelf."""
    return Status(201, _out(services.put_on(request.user, [payload.item])[0]))


@router.put("/own/{thing_id}", response={200: ThingOut, 409: ThingOut})
def change_thing(request: SignedIn, thing_id: UUID, payload: ThingChange) -> Status[ThingOut]:
    """Change a thing, or reserve it. 409 with what is there now if somebody else was first."""
    try:
        made = services.change(request.user, thing_id, payload.revision, payload.item, payload.reserved_for)
    except services.StaleThing as stale:
        return Status(409, _out(stale.current))
    return Status(200, _out(made))


@router.delete("/own/{thing_id}", response={204: None})
def remove_thing(request: SignedIn, thing_id: UUID) -> Status[None]:
    """Take a thing off the shelf."""
    services.remove(request.user, thing_id)
    return Status(204, None)


class StockTable(Schema):
    """The shelf as CSV, with headings."""

    text: str


class StockTableIn(Schema):
    """A table to read; `put_on` puts all of it on the shelf, else it is only looked at."""

    text: Annotated[str, Field(max_length=MOST_CHARACTERS)]
    put_on: bool = False


class TableLook(Schema):
    """What a table holds, in words."""

    things: list[str]
    put_on: bool


@router.get("/own-table", response=StockTable)
def read_table(request: SignedIn) -> StockTable:
    """The shelf as a table to take away."""
    return StockTable(text=stock_csv([item for _, item in services.things(request.user)]))


@router.post("/own-from-table", response=TableLook)
def take_table(request: SignedIn, payload: StockTableIn) -> TableLook:
    """Things of a table: looked at, or put on the shelf, all or none."""
    items = read_stock_csv(payload.text)
    if payload.put_on:
        services.put_on(request.user, items)
    return TableLook(things=[f"{name_of(i)}: {told(i)}" for i in items], put_on=payload.put_on)


class CutIn(Schema):
    """Pieces to cut from a thing for an airframe, mm, and what each cut takes."""

    airframe_id: UUID
    pieces_mm: Annotated[list[Annotated[float, Field(gt=0, le=200_000)]], Field(min_length=1, max_length=100)]
    kerf_mm: Annotated[float, Field(ge=0, le=5)] = 1.0


class SheetCutOut(Schema):
    """A piece that was cut from a sheet, along the grain and across."""

    long_mm: float
    wide_mm: float


class CutOut(Schema):
    """What was cut: from what, which pieces, by length or of a sheet along and across, for which steps of a plan (none:
    by hand), and when."""

    id: UUID
    name: str
    key: str
    pieces_mm: list[float]
    sheets: list[SheetCutOut]
    steps: list[str]
    created: datetime


def _cut(row: Cut) -> CutOut:
    item = StockItem.model_validate(row.before["item"])
    return CutOut(
        id=row.id, name=f"{name_of(item)}, {told(item)}", key=item.key, pieces_mm=row.pieces,
        sheets=[SheetCutOut(long_mm=a, wide_mm=b) for a, b in row.sheets],
        steps=row.steps, created=row.created,
    )  # fmt: skip


@router.post("/own/{thing_id}/cut", response={201: CutOut})
def cut_thing(request: SignedIn, thing_id: UUID, payload: CutIn) -> Status[CutOut]:
    """Cut pieces from a thing; its rest goes back to the shelf."""
    made = services.cut(request.user, thing_id, payload.airframe_id, payload.pieces_mm, payload.kerf_mm)
    return Status(201, _cut(made))


@router.get("/cuts/{airframe_id}", response=list[CutOut])
def read_cuts(request: SignedIn, airframe_id: UUID) -> list[CutOut]:
    """What was cut for an airframe, the last first."""
    return [_cut(c) for c in services.cuts(request.user, airframe_id)]


@router.delete("/own-cuts/{cut_id}", response=ThingOut)
def take_cut_back(request: SignedIn, cut_id: UUID) -> ThingOut:
    """Undo a cut."""
    return _out(services.take_back(request.user, cut_id))


class ScrapIn(Schema):
    """A part of a broken airframe."""

    part_id: Id


@router.post("/scrap/{airframe_id}", response={201: ThingOut})
def scrap_part(request: SignedIn, airframe_id: UUID, payload: ScrapIn) -> Status[ThingOut]:
    """The largest box of foam in a scrapped part, onto the shelf."""
    return Status(201, _out(services.scrap(request.user, airframe_id, payload.part_id)))


@router.get("/uses", response=dict[str, list[str]])
def read_uses(request: SignedIn) -> dict[str, list[str]]:
    """Which airframes are made with each material."""
    return services.uses(request.user)


@router.get("/foam-tests", response=list[FoamTest])
def read_foam_tests(request: SignedIn) -> list[FoamTest]:
    """What can be tried on a scrap of unknown foam."""
    return foam_tests()


@router.post("/which-foam", response=FoamGuess)
def guess_foam(request: SignedIn, payload: FoamSeen) -> FoamGuess:
    """Which foam a scrap is, with odds, and what would settle it."""
    try:
        return which_foam(payload)
    except ValueError as error:
        path, _, says = str(error).partition(": ")
        raise refusal(path, says) from None
