"""An account as one ZIP of open files: what lies in it, and how it is written.

account.json                       what this is, and of when
airframes/NAME/airframe.json       the airframe as it is now: a file that can be opened by itself
airframes/NAME/about.json          its id and dates
airframes/NAME/history.jsonl       its revisions, one a line, the oldest first
airframes/NAME/variants.jsonl      what is pinned up
airframes/NAME/log.jsonl           its time line
airframes/NAME/work.jsonl          work lists
airframes/NAME/build.jsonl         what was changed of its plan
airframes/NAME/presses.jsonl       what was pressed at the bench
airframes/NAME/repairs.jsonl       kept repairs
airframes/NAME/pictures.jsonl      photographs at marks and entries, each in pictures/ID.jpg
stock.jsonl                        what is on the shelf of materials
trials.jsonl, coupons.jsonl        glue coupons, each with its photograph in coupons/ID.jpg
damaged/                           rows that cannot be read, as they are; they are not taken in again
"""

from __future__ import annotations

import json
import zipfile
from collections.abc import Callable, Iterable, Iterator
from datetime import datetime
from itertools import chain
from typing import IO, Annotated, Any, Literal
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import QuerySet
from django.utils import timezone
from pydantic import BaseModel, ConfigDict, Field

from fletcher.core.adhesion.coupons import Coupon
from fletcher.core.adhesion.fair_trial import TrialWish
from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.document.cases import PRINTABLE, Id
from fletcher.core.document.damage import Mark
from fletcher.core.plan.work import Change, Press
from fletcher.core.repair.events import Event
from fletcher.core.repair.recipe import Recipe
from fletcher.core.repair.schema import CheckAfter, Operation
from fletcher.core.stock.items import StockItem
from fletcher.server.airframes.models import Airframe, Pin, Revision
from fletcher.server.build import models as build
from fletcher.server.common.readable import readable
from fletcher.server.common.requests import Moment
from fletcher.server.crash import models as crash
from fletcher.server.joints import models as joints
from fletcher.server.keeping import damaged
from fletcher.server.stock import models as stock

Number = Annotated[int, Field(ge=1, le=2_147_483_647)]


class Line(BaseModel):
    """Base of what is kept: one line of a file."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, frozen=True)


class AccountFile(Line):
    """`account.json`."""

    format: Literal["fletcher-account"] = "fletcher-account"
    version: Literal[1] = 1
    made: Moment


class About(Line):
    """`about.json` of an airframe."""

    id: UUID
    created: Moment
    updated: Moment


class RevisionLine(Line):
    """A revision; undo and redo lead to the numbers that are named."""

    number: Number
    created: Moment
    undo_to: Number | None
    redo_to: Number | None
    document: Document


class VariantLine(Line):
    """A pin: of a revision, or of a document with a part from elsewhere."""

    part_id: Id
    name: Annotated[str, Field(min_length=1, max_length=60, pattern=PRINTABLE)]
    revision: Number | None = None
    document: Document | None = None
    created: Moment


class _Own(Line):
    """Something with an id of its own."""

    id: UUID
    created: Moment


class EarlierLine(Line):
    """How an entry read before it was corrected."""

    says: Annotated[str, Field(max_length=600)]
    happened: Moment
    changed: Moment


class LogLine(_Own):
    """An entry of a time line."""

    happened: Moment
    revision: Number | None
    event: Event
    earlier: Annotated[tuple[EarlierLine, ...], Field(max_length=20)] = ()


class TaskLine(Line):
    """An operation of a work list."""

    number: Number
    operation: Operation
    done: Moment | None
    note: Annotated[str, Field(max_length=400)]


class WorkLine(_Own):
    """A work list."""

    part_id: Id
    title: Annotated[str, Field(max_length=300)]
    checks: Annotated[tuple[CheckAfter, ...], Field(max_length=100)]
    values: dict[Annotated[str, Field(pattern=r"^\d{1,3}$")], float]
    marks: Annotated[tuple[Mark, ...], Field(max_length=24)]
    tasks: Annotated[tuple[TaskLine, ...], Field(max_length=400)]


class SheetLine(_Own):
    """What was changed of a plan."""

    changes: Annotated[tuple[Change, ...], Field(max_length=200)]


class PressLine(_Own):
    """Something pressed at the bench."""

    press: Press


class RepairLine(_Own):
    """A kept repair."""

    part_id: Id
    name: Annotated[str, Field(max_length=80)]
    recipe: Recipe


class PictureLine(_Own):
    """A photograph at a mark or at an entry of the time line; the picture itself lies beside."""

    part_id: Id | Literal[""]
    mark_id: Id | Literal[""]
    entry: UUID | None = None


class TrialLine(_Own):
    """A planned comparison of glues."""

    wish: TrialWish


class ThingLine(_Own):
    """A thing on the shelf of materials, and for which airframe it is reserved."""

    item: StockItem
    reserved_for: UUID | None


class CouponLine(_Own):
    """A broken coupon; `photo` says whether a photograph lies beside."""

    trial: UUID | None
    coupon: Coupon
    photo: bool


def folder_of(document: Document, airframe_id: UUID) -> str:
    """Where an airframe lies: a name that tells it and no other has."""
    plain = "".join(c if c.isascii() and c.isalnum() else "-" for c in document.name).strip("-").lower()
    return f"airframes/{plain[:40] or 'airframe'}-{str(airframe_id)[:8]}"


class _Writer:
    """Puts files into the ZIP."""

    def __init__(self, target: IO[bytes]) -> None:
        self.zip = zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED)

    def text(self, path: str, text: str) -> None:
        """One file."""
        self.zip.writestr(path, text)

    def bytes(self, path: str, data: bytes) -> None:
        """A photograph, which no packing makes smaller."""
        self.zip.writestr(path, data, zipfile.ZIP_STORED)

    def lines(self, path: str, lines: Iterable[Line]) -> None:
        """A file of lines; none where there are none."""
        found = iter(lines)
        first = next(found, None)
        if first is None:
            return
        with self.zip.open(path, "w", force_zip64=True) as out:
            for line in chain((first,), found):
                out.write(line.model_dump_json().encode() + b"\n")


def write_archive(owner: User, target: IO[bytes]) -> None:
    """Write everything of an account: what is on its shelf with histories, logs, work and photographs, its trials and
    coupons. What rests in the bin stays out; what is damaged is put in as it is."""
    out = _Writer(target)
    with out.zip:
        out.text("account.json", AccountFile(made=timezone.now()).model_dump_json(indent=2))
        out.text("read-me.txt", __doc__ or "")
        for airframe in Airframe.objects.owned_by(owner).order_by("created"):
            _write_airframe(out, owner, airframe)
        things = stock.Thing.objects.owned_by(owner).order_by("created")
        out.lines("stock.jsonl", _told(things, _thing))
        trials = joints.Trial.objects.owned_by(owner).order_by("created")
        out.lines("trials.jsonl", _told(trials, _trial))
        coupons: Any = joints.Coupon.objects.owned_by(owner).order_by("created")
        out.lines("coupons.jsonl", _told(coupons, _coupon))
        for row in coupons.filter(photo__isnull=False).iterator(chunk_size=20):
            out.bytes(f"coupons/{row.id}.jpg", bytes(row.photo))
        for broken in damaged.damaged(owner):
            raw = damaged.raw_of(owner, broken.kind, broken.id)
            out.text(f"damaged/{broken.kind}-{broken.id}.json", json.dumps(raw, indent=2, ensure_ascii=False))


def _told(rows: QuerySet[Any], tell: Callable[[Any], Line]) -> Iterator[Line]:
    """Rows as lines, without those that cannot be read."""
    return (line for _, line in readable(rows.iterator(chunk_size=100), tell))


def _write_airframe(out: _Writer, owner: User, airframe: Airframe) -> None:
    heads = list(readable([airframe], lambda a: Document.model_validate(a.head.document)))
    if not heads:
        return
    ((_, head),) = heads
    at = folder_of(head, airframe.id)
    about = About(id=airframe.id, created=airframe.created, updated=airframe.updated)
    out.text(f"{at}/airframe.json", head.model_dump_json(indent=2))
    out.text(f"{at}/about.json", about.model_dump_json(indent=2))
    out.lines(f"{at}/history.jsonl", _told(airframe.revisions.order_by("number"), _revision))
    out.lines(f"{at}/variants.jsonl", _told(airframe.pins.select_related("revision"), _variant))
    of: dict[str, Any] = {"airframe": airframe}
    entries = crash.Entry.objects.owned_by(owner).filter(**of, removed__isnull=True).order_by("happened", "created")
    out.lines(f"{at}/log.jsonl", _told(entries, _entry))
    jobs = crash.Job.objects.owned_by(owner).filter(**of).order_by("created").prefetch_related("tasks")
    out.lines(f"{at}/work.jsonl", _told(jobs, _work))
    out.lines(f"{at}/build.jsonl", _told(_of(build.Sheet, owner, of), _sheet))
    out.lines(f"{at}/presses.jsonl", _told(_of(build.Pressed, owner, of), _pressed))
    out.lines(f"{at}/repairs.jsonl", _told(_of(crash.Candidate, owner, of), _repair))
    pictures = _of(crash.Picture, owner, of).filter(entry__removed__isnull=True)
    out.lines(f"{at}/pictures.jsonl", _told(pictures.defer("photo"), _picture))
    for row in pictures.iterator(chunk_size=20):
        out.bytes(f"{at}/pictures/{row.id}.jpg", bytes(row.photo))


def _of(model: Any, owner: User, of: dict[str, Any]) -> QuerySet[Any]:
    found: QuerySet[Any] = model.objects.owned_by(owner).filter(**of).order_by("created")
    return found


def _revision(row: Revision) -> RevisionLine:
    return RevisionLine(number=row.number, created=row.created, undo_to=row.undo_to, redo_to=row.redo_to,
                        document=Document.model_validate(row.document))  # fmt: skip


def _variant(row: Pin) -> VariantLine:
    own = row.source if row.number is None else None
    return VariantLine(part_id=row.part_id, name=row.name, revision=row.number, document=own, created=row.created)


def _entry(row: crash.Entry) -> LogLine:
    return LogLine(id=row.id, created=row.created, happened=row.happened, revision=row.revision,
                   event=Event.model_validate(row.event), earlier=row.earlier)  # fmt: skip


def _work(row: crash.Job) -> WorkLine:
    tasks = tuple(
        TaskLine(number=t.number, operation=Operation.model_validate(t.operation), done=t.done, note=t.note)
        for t in row.tasks.all()
    )
    return WorkLine(id=row.id, created=row.created, part_id=row.part_id, title=row.title, checks=row.checks,
                    values=row.values, marks=row.marks, tasks=tasks)  # fmt: skip


def _sheet(row: build.Sheet) -> SheetLine:
    return SheetLine(id=row.id, created=row.created, changes=row.changes)


def _pressed(row: build.Pressed) -> PressLine:
    return PressLine(id=row.id, created=row.created, press=Press.model_validate({**row.press, "id": str(row.id)}))


def _repair(row: crash.Candidate) -> RepairLine:
    return RepairLine(id=row.id, created=row.created, part_id=row.part_id, name=row.name,
                      recipe=Recipe.model_validate(row.recipe))  # fmt: skip


def _picture(row: crash.Picture) -> PictureLine:
    return PictureLine(id=row.id, created=row.created, part_id=row.part_id, mark_id=row.mark_id, entry=row.entry_id)


def _trial(row: joints.Trial) -> TrialLine:
    return TrialLine(id=row.id, created=row.created, wish=TrialWish.model_validate(row.wish))


def _thing(row: stock.Thing) -> ThingLine:
    return ThingLine(id=row.id, created=row.created, item=StockItem.model_validate(row.item),
                     reserved_for=row.reserved_for_id)  # fmt: skip


def _coupon(row: joints.Coupon) -> CouponLine:
    return CouponLine(id=row.id, created=row.created, trial=row.trial_id, coupon=Coupon.model_validate(row.coupon),
                      photo=row.photo is not None)  # fmt: skip


def dated(moment: datetime) -> str:
    """The name under which an archive is saved."""
    return f"fletcher-{moment:%Y-%m-%d}.zip"
