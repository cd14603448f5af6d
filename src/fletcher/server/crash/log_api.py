"""The Log: what happened to an airframe, read by page, word and kind, written, corrected, taken away as a table."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpResponse, StreamingHttpResponse
from ninja import Query, Router, Schema
from ninja.responses import Status
from pydantic import Field

from fletcher.core.document.cases import PRINTABLE
from fletcher.core.repair.events import Event, Finding, Kind
from fletcher.core.repair.log_counts import Count
from fletcher.core.repair.log_table import MOST_CHARACTERS, LogLine
from fletcher.server.common.requests import Moment, SignedIn
from fletcher.server.crash import log
from fletcher.server.crash.log_print import log_pdf
from fletcher.server.crash.models import Entry

router = Router(tags=["log"])


class Earlier(Schema):
    """How an entry read before it was corrected."""

    says: str
    happened: datetime
    changed: datetime


class LogEntry(Schema):
    """Something on the time line, what came after it where it is a repair, and how it read before."""

    id: UUID
    happened: datetime
    revision: int | None
    event: Event
    followed: str | None = None
    earlier: Annotated[list[Earlier], Field(default_factory=list)]
    pictures: Annotated[list[UUID], Field(default_factory=list, description="At it, or at the marks that it brought")]


class LogOut(Schema):
    """A page of the time line, the newest first, whether there is `more`, and what all of it shows together."""

    entries: list[LogEntry]
    more: bool
    findings: list[Finding]
    counts: list[Count]


class LogIn(Schema):
    """Something to put on the time line; `happened` null is now."""

    event: Event
    happened: Moment | None = None


class LogWish(Schema):
    """Which entries: those before one, with all of some words in them, of some kinds (all where none is given)."""

    before: UUID | None = None
    words: Annotated[str, Field(max_length=120, pattern=PRINTABLE)] = ""
    kinds: Annotated[list[Kind], Field(default_factory=list, max_length=10)]


def _told(row: Entry, event: Event, followed: str | None = None, pictures: Sequence[UUID] = ()) -> LogEntry:
    return LogEntry(
        id=row.id, happened=row.happened, revision=row.revision, event=event, followed=followed, earlier=row.earlier,
        pictures=list(pictures),
    )  # fmt: skip


@router.get("/crash/airframes/{airframe_id}/log", response=LogOut)
def read_log(request: SignedIn, airframe_id: UUID, wanted: Query[LogWish]) -> LogOut:
    """What happened to an airframe, fifty entries at a time."""
    airframe = log.airframe_of(request.user, airframe_id)
    rows, more = log.time_line(airframe, wanted.before, wanted.words, wanted.kinds)
    findings, counts, followed = log.summary(airframe)
    pictures = log.pictured(airframe, rows)
    entries = [_told(row, event, followed.get(row.id), pictures[row.id]) for row, event in rows]
    return LogOut(entries=entries, more=more, findings=findings, counts=counts)


@router.post("/crash/airframes/{airframe_id}/log", response={201: LogEntry})
def write_log(request: SignedIn, airframe_id: UUID, payload: LogIn) -> Status[LogEntry]:
    """Put something on the time line."""
    row = log.write(request.user, airframe_id, payload.event, payload.happened)
    return Status(201, _told(row, payload.event))


@router.get("/crash/airframes/{airframe_id}/log.csv", include_in_schema=False)
def read_log_table(request: SignedIn, airframe_id: UUID) -> StreamingHttpResponse:
    """All of the time line as a table to take away."""
    airframe = log.airframe_of(request.user, airframe_id)
    answer = StreamingHttpResponse(log.as_csv(airframe), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="log.csv"'
    return answer


@router.get("/crash/log.pdf", include_in_schema=False)
def read_log_print(request: SignedIn, airframe: UUID) -> HttpResponse:
    """The time line to print."""
    answer = HttpResponse(log_pdf(log.airframe_of(request.user, airframe)), content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="log.pdf"'
    return answer


class LogTable(Schema):
    """A table of entries as CSV, with headings; to `keep` puts what is new into the Log, else it is only shown."""

    text: Annotated[str, Field(max_length=MOST_CHARACTERS)]
    keep: bool = False


class LogTableOut(Schema):
    """Entries of a table that are new here, and how many the Log has already."""

    entries: list[LogLine]
    known: int


@router.post("/crash/airframes/{airframe_id}/log-from-table", response=LogTableOut)
def read_log_from_table(request: SignedIn, airframe_id: UUID, payload: LogTable) -> LogTableOut:
    """Entries of a table, all of them or none: what is wrong is told by line and column."""
    entries, known = log.from_table(request.user, airframe_id, payload.text, payload.keep)
    return LogTableOut(entries=entries, known=known)


@router.put("/crash/log/{entry_id}", response=LogEntry)
def correct_entry(request: SignedIn, entry_id: UUID, payload: LogIn) -> LogEntry:
    """Another wording, time or place of an entry; how it read before is kept."""
    row = log.correct(request.user, entry_id, payload.event, payload.happened)
    event = Event.model_validate(row.event)
    return _told(row, event, pictures=log.pictured(row.airframe, [(row, event)])[row.id])


@router.delete("/crash/log/{entry_id}", response={204: None})
def remove_entry(request: SignedIn, entry_id: UUID) -> Status[None]:
    """Take an entry off the time line; it can be put back."""
    log.remove(request.user, entry_id)
    return Status(204, None)


@router.post("/crash/log/{entry_id}/back", response={204: None})
def put_entry_back(request: SignedIn, entry_id: UUID) -> Status[None]:
    """Put back an entry that was taken off."""
    log.remove(request.user, entry_id, back=True)
    return Status(204, None)
