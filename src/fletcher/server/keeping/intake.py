"""Taking an archive of an account in: first what would come of it, then all of it or nothing.

Nothing comes twice. An airframe, an entry, a picture keeps its id, and what is here under that id stays as it is; an
airframe that went on elsewhere comes on top of the one here, as one change; one that went another way is put beside it.
Where an id belongs to somebody else on this server, another is made of it, always the same.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import product
from typing import Any, Literal
from uuid import UUID, uuid5

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F
from pydantic import ValidationError

from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.document.problems import InvalidDocument
from fletcher.server.airframes import services
from fletcher.server.airframes.history import MOST_PINS
from fletcher.server.airframes.models import Airframe, Pin, Revision
from fletcher.server.build import models as build
from fletcher.server.build.services import MOST as MOST_PRESSES
from fletcher.server.common.ownership import held
from fletcher.server.common.refusals import refusal, require_room
from fletcher.server.common.storage import require_storage
from fletcher.server.crash import models as crash
from fletcher.server.crash.log import MOST as MOST_LOG
from fletcher.server.crash.services import MOST as MOST_ENTRIES
from fletcher.server.joints import models as joints
from fletcher.server.joints.services import MOST as MOST_COUPONS
from fletcher.server.keeping.archive import (
    About,
    CouponLine,
    LogLine,
    PictureLine,
    PressLine,
    RepairLine,
    RevisionLine,
    SheetLine,
    ThingLine,
    TrialLine,
    VariantLine,
    WorkLine,
)
from fletcher.server.keeping.unpack import Unpacked
from fletcher.server.stock import models as stock
from fletcher.server.stock.services import MOST as MOST_THINGS

Fate = Literal["new", "newer", "here", "beside", "same"]


@dataclass(frozen=True)
class Arriving:
    """An airframe of an archive and what becomes of it: `new`; `newer`, on top of the one here; `here` already;
    `beside` the one here, which went another way; the `same` as another one here, left out."""

    folder: str
    name: str
    fate: Fate
    from_bin: bool
    revisions: int
    pictures: int
    id: UUID
    """Under which it is kept here."""


@dataclass(frozen=True)
class Arrivals:
    """What an archive brings."""

    airframes: list[Arriving]
    trials: int
    coupons: int
    damaged: int
    """Files of rows that could not be read where they came from: left out."""


def _ids(owner: User, model: Any, wanted: Iterable[UUID]) -> dict[UUID, UUID]:
    """The id that each row has here: its own, or another where that one is somebody else's."""
    wanted = list(wanted)
    taken = model.everyone.filter(pk__in=wanted).exclude(owner_id=owner.pk).values_list("pk", flat=True)
    others = set(taken)
    return {key: uuid5(key, f"account {owner.pk}") if key in others else key for key in wanted}


class _Reader:
    """The archive against what the account has."""

    def __init__(self, owner: User, unpacked: Unpacked) -> None:
        self.owner, self.unpacked = owner, unpacked
        heads = Revision.objects.filter(airframe__in=Airframe.objects.owned_by(owner), number=F("airframe__revision"))
        self.heads = {row.airframe_id: row.document for row in heads}

    def airframe(self, folder: str) -> Arriving:
        """What becomes of one airframe. All its files are read."""
        about = self.unpacked.one(f"{folder}/about.json", About)
        key = _ids(self.owner, Airframe, [about.id])[about.id]
        here = Airframe.everyone.filter(pk=key).first()
        last, before, count = None, None, 0
        for line in self.unpacked.lines(f"{folder}/history.jsonl", RevisionLine):
            if last is not None and line.number <= last.number:
                raise refusal(f"{folder}/history.jsonl", "must name its revisions in order", str(line.number))
            if here is not None and line.number == here.revision:
                before = line.document
            last, count = line, count + 1
        if last is None:
            raise refusal(f"{folder}/history.jsonl", "holds no revision")
        _possible(last.document, f"{folder}/history.jsonl")
        pictures = sum(1 for _ in self.unpacked.lines(f"{folder}/pictures.jsonl", PictureLine))
        told = Arriving(folder, last.document.name, "new", False, count, pictures, key)
        data = last.document.model_dump(mode="json")
        if here is None:
            twin = data in self.heads.values()
            return replace(told, fate="same") if twin else told
        told = replace(told, from_bin=here.deleted is not None)
        if _has(here, data):
            return replace(told, fate="here")
        if before is not None and before.model_dump(mode="json") == _plain(here.head.document):
            return replace(told, fate="newer")
        beside = uuid5(key, f"beside {last.number} {last.created.isoformat()}")
        there = Airframe.everyone.filter(pk=beside).first()
        if there is not None:
            return replace(told, fate="here", id=beside, from_bin=there.deleted is not None)
        return replace(told, fate="beside", id=beside, from_bin=False)


def _plain(document: Any) -> Any:
    """A stored document as one of today's version; nothing where it is damaged."""
    try:
        return Document.model_validate(document).model_dump(mode="json")
    except (ValidationError, KeyError, TypeError):
        return None


def _has(here: Airframe, data: Any) -> bool:
    """Whether an airframe is, or once was, what a document says."""
    return any(_plain(d) == data for d in here.revisions.filter(document=data).values_list("document", flat=True)) or (
        _plain(here.head.document) == data
    )


def _possible(document: Document, path: str) -> None:
    try:
        services.require_possible(document)
    except InvalidDocument as invalid:
        raise InvalidDocument(
            [p.model_copy(update={"path": f"{path}, last line: {p.path}"}) for p in invalid.problems]
        ) from None


def look(owner: User, unpacked: Unpacked) -> Arrivals:
    """What would come of taking an archive in; nothing is stored.

    Raises
    ------
    InvalidDocument
        With what is wrong in the archive, by file and line.
    """
    reader = _Reader(owner, unpacked)
    found = [reader.airframe(folder) for folder in unpacked.folders()]
    read: list[tuple[str, Any]] = [("variants.jsonl", VariantLine), *((sort.path, sort.line) for sort in _SORTS)]
    for folder, (path, line) in product(unpacked.folders(), read):
        for _ in unpacked.lines(f"{folder}/{path}", line):
            pass
    trials = [t.id for t in unpacked.lines("trials.jsonl", TrialLine)]
    coupons = [c.id for c in unpacked.lines("coupons.jsonl", CouponLine)]
    for _ in unpacked.lines("stock.jsonl", ThingLine):
        pass
    if len({a.id for a in found}) < len(found):
        raise refusal("airframes", "holds one airframe twice")
    return Arrivals(
        found, len(_missing(owner, joints.Trial, trials)), len(_missing(owner, joints.Coupon, coupons)),
        sum(f.startswith("damaged/") for f in unpacked.files),
    )  # fmt: skip


def _missing(owner: User, model: Any, ids: Sequence[UUID]) -> set[UUID]:
    here = set(_ids(owner, model, ids).values())
    return here - set(model.objects.owned_by(owner).filter(pk__in=here).values_list("pk", flat=True))


@transaction.atomic
def take_in(owner: User, unpacked: Unpacked, leave: Iterable[str] = ()) -> Arrivals:
    """Take an archive in, but for the airframes whose folders are left: all of it or nothing.

    Raises
    ------
    InvalidDocument
        With what is wrong in the archive, or what there is no room for.
    """
    held(owner)
    found = look(owner, unpacked)
    left = set(leave)
    for arriving in found.airframes:
        if arriving.fate != "same" and arriving.folder not in left:
            require_storage(owner)
            _Taker(owner, unpacked, arriving).take()
    shelf = Airframe.objects.owned_by(owner).count()
    require_room(shelf - 1, services.MOST_AIRFRAMES, "airframes")
    _take_coupons(owner, unpacked)
    _take_stock(owner, unpacked)
    require_storage(owner)
    return found


class _Taker:
    """Puts one airframe of an archive into the account."""

    def __init__(self, owner: User, unpacked: Unpacked, arriving: Arriving) -> None:
        self.owner, self.unpacked, self.arriving = owner, unpacked, arriving
        self.entries: dict[UUID, UUID] = {}
        """Entries of the time line by the ids that they have in the archive."""

    def take(self) -> None:
        """The airframe with all that belongs to it."""
        key, fate = self.arriving.id, self.arriving.fate
        if self.arriving.from_bin:
            Airframe.everyone.filter(pk=key).update(deleted=None)
        if fate in ("new", "beside"):
            self._make()
        self.airframe = Airframe.everyone.get(pk=key)
        if fate == "newer":
            *_, last = self._history()
            services.save(self.owner, key, self.airframe.revision, last.document)
        elif fate in ("new", "beside"):
            self._pin()
        for sort in _SORTS:
            self._rows(sort)

    def _history(self) -> Iterable[RevisionLine]:
        return self.unpacked.lines(f"{self.arriving.folder}/history.jsonl", RevisionLine)

    def _make(self) -> None:
        about = self.unpacked.one(f"{self.arriving.folder}/about.json", About)
        airframe = Airframe(id=self.arriving.id, owner_id=self.owner.pk, created=about.created)
        airframe.save(force_insert=True)
        numbers = {line.number for line in self._history()}
        for batch in _batches(self._history(), 100):
            Revision.objects.bulk_create(
                Revision(
                    airframe=airframe, number=line.number, created=line.created, document=self._named(line.document),
                    undo_to=line.undo_to if line.undo_to in numbers else None,
                    redo_to=line.redo_to if line.redo_to in numbers else None,
                ) for line in batch
            )  # fmt: skip
        Airframe.everyone.filter(pk=airframe.pk).update(revision=max(numbers), updated=about.updated)

    def _named(self, document: Document) -> Any:
        data = document.model_dump(mode="json")
        if self.arriving.fate == "beside":
            data["name"] = f"{data['name'][:48]} (from file)"
        return data

    def _pin(self) -> None:
        path, count = f"{self.arriving.folder}/variants.jsonl", Counter[str]()
        for line in self.unpacked.lines(path, VariantLine):
            self._require_source(path, line)
            count[line.part_id] += 1
            if count[line.part_id] > MOST_PINS:
                raise refusal(path, f"pins up more variants of a part than can be: at most {MOST_PINS}", line.part_id)
            revision = None if line.revision is None else self.airframe.revisions.get(number=line.revision)
            document = line.document and line.document.model_dump(mode="json")
            Pin.objects.create(airframe=self.airframe, part_id=line.part_id, name=line.name, revision=revision,
                               document=document, created=line.created)  # fmt: skip

    def _require_source(self, path: str, line: VariantLine) -> None:
        """A variant comes from a revision that is here, or brings a document; either holds its part."""
        if line.document is not None and line.revision is None:
            services.require_possible(line.document)
            found: Document | None = line.document
        elif line.document is None and line.revision is not None:
            row = self.airframe.revisions.filter(number=line.revision).first()
            found = None if row is None else Document.model_validate(row.document)
        else:
            raise refusal(path, "names a revision or brings a document: one of them", line.name)
        if found is None or found.part(line.part_id) is None:
            raise refusal(path, "names a revision or a part that the history does not hold", line.name)

    def _rows(self, sort: _Sort) -> None:
        """Rows of one sort: those that are not here yet."""
        path = f"{self.arriving.folder}/{sort.path}"
        lines: list[Any] = list(self.unpacked.lines(path, sort.line))
        ids = _ids(self.owner, sort.model, (line.id for line in lines))
        if self.arriving.fate == "beside":
            ids = {was: uuid5(key, str(self.airframe.pk)) for was, key in ids.items()}
        here = set(sort.model.everyone.filter(pk__in=ids.values()).values_list("pk", flat=True))
        for line in lines:
            key = ids[line.id]
            if key not in here:
                here.add(key)
                row = sort.model(id=key, owner=self.owner, airframe=self.airframe, created=line.created)
                if isinstance(line, PictureLine) and line.entry is not None:
                    row.entry_id = self._entry_of(path, line.entry)
                sort.fill(row, line, self.unpacked, self.arriving.folder)
                row.save(force_insert=True)
                if isinstance(line, WorkLine):
                    _tasks(row, line)
        if sort.line is LogLine:
            self.entries = ids
        count = sort.model.objects.owned_by(self.owner).filter(airframe=self.airframe).count()
        if count > sort.most:
            raise refusal(path, f"has more lines than can be kept: at most {sort.most}", str(count))

    def _entry_of(self, path: str, was: UUID) -> UUID:
        if was not in self.entries:
            raise refusal(path, "names an entry that the log does not hold", str(was))
        return self.entries[was]


def _entry(row: Any, line: LogLine, *_: object) -> None:
    data = line.model_dump(mode="json")
    row.happened, row.revision, row.event, row.earlier = line.happened, line.revision, data["event"], data["earlier"]


def _candidate(row: Any, line: RepairLine, *_: object) -> None:
    row.part_id, row.name, row.recipe = line.part_id, line.name, line.recipe.model_dump(mode="json")


def _job(row: Any, line: WorkLine, *_: object) -> None:
    data = line.model_dump(mode="json")
    for field in ("part_id", "title", "checks", "values", "marks"):
        setattr(row, field, data[field])


def _tasks(job: crash.Job, line: WorkLine) -> None:
    crash.Task.objects.bulk_create(
        crash.Task(job=job, number=t.number, operation=t.operation.model_dump(mode="json"), done=t.done, note=t.note)
        for t in line.tasks
    )


def _sheet(row: Any, line: SheetLine, *_: object) -> None:
    row.changes = line.model_dump(mode="json")["changes"]


def _pressed(row: Any, line: PressLine, *_: object) -> None:
    row.press = line.press.model_dump(mode="json")


def _picture(row: Any, line: PictureLine, unpacked: Unpacked, folder: str) -> None:
    row.part_id, row.mark_id = line.part_id, line.mark_id
    row.photo = unpacked.photo(f"{folder}/pictures/{line.id}.jpg")


@dataclass(frozen=True)
class _Sort:
    """What belongs to an airframe: its file, what a line of it is, its table, how a row is filled, and how many there
    may be."""

    path: str
    line: type[Any]
    model: Any
    fill: Any
    most: int


_SORTS = (
    _Sort("log.jsonl", LogLine, crash.Entry, _entry, MOST_LOG),
    _Sort("repairs.jsonl", RepairLine, crash.Candidate, _candidate, MOST_ENTRIES // 2),
    _Sort("work.jsonl", WorkLine, crash.Job, _job, MOST_ENTRIES),
    _Sort("build.jsonl", SheetLine, build.Sheet, _sheet, 1),
    _Sort("presses.jsonl", PressLine, build.Pressed, _pressed, MOST_PRESSES),
    _Sort("pictures.jsonl", PictureLine, crash.Picture, _picture, MOST_ENTRIES // 5),
)


def _batches(lines: Iterable[RevisionLine], size: int) -> Iterable[list[RevisionLine]]:
    batch: list[RevisionLine] = []
    for line in lines:
        batch.append(line)
        if len(batch) == size:
            yield batch
            batch = []
    if batch:
        yield batch


def _take_stock(owner: User, unpacked: Unpacked) -> None:
    lines = list(unpacked.lines("stock.jsonl", ThingLine))
    ids = _ids(owner, stock.Thing, (t.id for t in lines))
    missing = _missing(owner, stock.Thing, list(ids))
    mine = set(Airframe.objects.owned_by(owner).values_list("pk", flat=True))
    for line in lines:
        if ids[line.id] in missing:
            wanted = line.reserved_for if line.reserved_for in mine else None
            stock.Thing(
                id=ids[line.id], owner=owner, item=line.item.model_dump(mode="json"), created=line.created,
                reserved_for_id=wanted,
            ).save(force_insert=True)  # fmt: skip
    require_room(stock.Thing.objects.owned_by(owner).count() - 1, MOST_THINGS, "things")


def _take_coupons(owner: User, unpacked: Unpacked) -> None:
    lines = list(unpacked.lines("trials.jsonl", TrialLine))
    trials = _ids(owner, joints.Trial, (t.id for t in lines))
    missing = _missing(owner, joints.Trial, list(trials))
    for trial in lines:
        if trials[trial.id] in missing:
            wish = trial.wish.model_dump(mode="json")
            joints.Trial(id=trials[trial.id], owner=owner, wish=wish, created=trial.created).save(force_insert=True)
    coupons = list(unpacked.lines("coupons.jsonl", CouponLine))
    ids = _ids(owner, joints.Coupon, (c.id for c in coupons))
    missing = _missing(owner, joints.Coupon, list(ids))
    for line in coupons:
        if line.trial is not None and line.trial not in trials:
            raise refusal("coupons.jsonl", "names a trial that is not in trials.jsonl", str(line.trial))
        if ids[line.id] in missing:
            joints.Coupon(
                id=ids[line.id], owner=owner, coupon=line.coupon.model_dump(mode="json"), created=line.created,
                photo=unpacked.photo(f"coupons/{line.id}.jpg") if line.photo else None,
                trial_id=trials[line.trial] if line.trial else None,
            ).save(force_insert=True)  # fmt: skip
    for model, most, what in ((joints.Coupon, MOST_COUPONS, "coupons"), (joints.Trial, MOST_COUPONS // 10, "trials")):
        require_room(model.objects.owned_by(owner).count() - 1, most, what)
