"""The time line of an airframe: reading by page, word and kind, writing, correcting with what stood before, counts."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from datetime import UTC, datetime
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Q, QuerySet
from django.db.models.fields.json import KT
from django.shortcuts import get_object_or_404
from django.utils import timezone

from fletcher.core.repair.events import Event, Finding, Kind, findings
from fletcher.core.repair.log_counts import Count, counts, followed
from fletcher.core.repair.log_table import LogLine, heading, log_line, read_log_csv
from fletcher.server.airframes.models import Airframe
from fletcher.server.common.paging import page_of
from fletcher.server.common.readable import readable
from fletcher.server.common.refusals import part_of, refusal, require_room
from fletcher.server.crash.models import Entry, Picture

MOST = 10_000
"""So many entries may one airframe have."""
EARLIER = 20
"""So many earlier wordings of an entry are kept."""
COUNTED = {"crash": "the last crash", "repair": "the last repair", "check": "the last check"}
"""Kinds since which flights are counted, in words."""


def airframe_of(owner: User, airframe_id: UUID, hold: bool = False) -> Airframe:
    """An airframe of an owner; to `hold` it until the transaction ends keeps what is counted of it from growing."""
    rows = Airframe.objects.owned_by(owner)
    return get_object_or_404(rows.select_for_update() if hold else rows.select_related("owner"), id=airframe_id)


def valid(rows: Iterable[Entry]) -> list[tuple[Entry, Event]]:
    """Entries with their events; one that is no longer valid is left out."""
    return list(readable(rows, lambda row: Event.model_validate(row.event)))


def _rows(airframe: Airframe) -> QuerySet[Entry]:
    return Entry.objects.owned_by(airframe.owner).filter(airframe=airframe, removed__isnull=True)


def time_line(
    airframe: Airframe, before: UUID | None, words: str = "", kinds: Sequence[Kind] = ()
) -> tuple[list[tuple[Entry, Event]], bool]:  # fmt: skip
    """The time line of an airframe, the newest first, a page before an entry; of some kinds, with all of some words in
    it; and whether there is more."""
    rows = _rows(airframe)
    if kinds:
        rows = rows.filter(event__kind__in=list(kinds))
    for word in words.split():
        rows = rows.filter(Q(event__says__icontains=word) | Q(event__flight__battery__icontains=word))
    found, more = page_of(rows, ("happened", "created"), before)
    return valid(found), more


def newest(airframe: Airframe, most: int) -> tuple[list[tuple[Entry, Event]], bool]:
    """The newest entries of an airframe, and whether there are more."""
    rows = list(_rows(airframe).order_by("-happened", "-created")[: most + 1])
    return valid(rows[:most]), len(rows) > most


def record_of_damage(airframe: Airframe) -> list[tuple[UUID, datetime, Event]]:
    """All damage and repairs of an airframe: what findings are drawn from."""
    rows = _rows(airframe).filter(event__kind__in=("damage", "repair"))
    return [(row.id, row.happened, e) for row, e in valid(rows)]


def summary(airframe: Airframe) -> tuple[list[Finding], list[Count], dict[UUID, str]]:
    """What all of the time line shows together: patterns of damage, flights counted, what came after each repair."""
    rows = _rows(airframe)
    flights = rows.filter(event__kind="flight").values_list(
        "happened", KT("event__flight__count"), KT("event__flight__minutes")
    )  # fmt: skip
    flown = [(when, int(count or 1), float(minutes or 0)) for when, count, minutes in flights]
    last: dict[str, datetime] = {}
    record = []
    for row in rows.filter(event__kind__in=["damage", *COUNTED]):
        kind = row.event["kind"]
        if kind in COUNTED:
            last[COUNTED[kind]] = max(row.happened, last.get(COUNTED[kind], row.happened))
        if kind in ("damage", "repair"):
            record.append(row)
    told = [(row.id, row.happened, e) for row, e in valid(record)]
    return findings([(at, e) for _, at, e in told]), counts(flown, last) if flown else [], followed(told, flown)


def pictured(airframe: Airframe, entries: Sequence[tuple[Entry, Event]]) -> dict[UUID, list[UUID]]:
    """Pictures of entries: their own, and those at the marks that an entry brought."""
    by_entry: dict[UUID, list[UUID]] = {}
    by_mark: dict[tuple[str, str], list[UUID]] = {}
    known = Picture.objects.owned_by(airframe.owner).filter(airframe=airframe).order_by("created")
    for key, entry_id, part_id, mark_id in known.values_list("id", "entry_id", "part_id", "mark_id"):
        if entry_id is not None:
            by_entry.setdefault(entry_id, []).append(key)
        else:
            by_mark.setdefault((part_id, mark_id), []).append(key)
    return {
        row.id: by_entry.get(row.id, []) + [p for m in e.marks for p in by_mark.get((e.part_id or "", m.id), [])]
        for row, e in entries
    }


def put(
    owner: User, airframe: Airframe, event: Event, happened: datetime | None, revision: int | None = None
) -> Entry:  # fmt: skip
    """A new row on the time line; `happened` None is now."""
    row = Entry(owner=owner, airframe=airframe, event=event.model_dump(mode="json"), revision=revision,
                happened=happened or timezone.now())  # fmt: skip
    row.save()
    return row


def _require_possible(airframe: Airframe, event: Event, happened: datetime | None) -> None:
    if event.part_id is not None:
        part = part_of(airframe.document, event.part_id)
        if event.at_mm is not None and event.at_mm > part.span_mm:
            raise refusal("event.at_mm", f"must be between 0 mm and {part.span_mm:g} mm", f"{event.at_mm:g}")
    if happened is not None and happened > timezone.now():
        raise refusal("happened", "is in the future: log only what has happened", happened.isoformat())


@transaction.atomic
def write(owner: User, airframe_id: UUID, event: Event, happened: datetime | None) -> Entry:
    """Put something on the time line; `happened` None is now."""
    airframe = airframe_of(owner, airframe_id, hold=True)
    _require_possible(airframe, event, happened)
    require_room(Entry.objects.owned_by(owner).filter(airframe=airframe).count(), MOST, "entries")
    return put(owner, airframe, event, happened)


@transaction.atomic
def correct(owner: User, entry_id: UUID, event: Event, happened: datetime | None) -> Entry:
    """Another wording of an entry; what stood before stays readable. What places computed of it is not rewritten."""
    row = get_object_or_404(Entry.objects.owned_by(owner).select_for_update(), id=entry_id, removed__isnull=True)
    old = Event.model_validate(row.event)
    if event.kind != old.kind:
        raise refusal("event.kind", f"stays {old.kind}: add another entry instead", event.kind)
    _require_possible(row.airframe, event, happened)
    kept = event.model_copy(update={"marks": old.marks, "recipe": old.recipe, "stretches_mm": old.stretches_mm})
    before = {"says": old.says, "happened": row.happened.isoformat(), "changed": timezone.now().isoformat()}
    row.earlier = [*row.earlier, before][-EARLIER:]
    row.event = kept.model_dump(mode="json")
    row.happened = happened or row.happened
    row.save()
    return row


def remove(owner: User, entry_id: UUID, back: bool = False) -> None:
    """Take an entry off the time line, or put it back."""
    row = get_object_or_404(Entry.objects.owned_by(owner), id=entry_id)
    row.removed = None if back else timezone.now()
    row.save(update_fields=["removed"])


def as_csv(airframe: Airframe) -> Iterator[str]:
    """All of the time line as a table, the oldest first, line by line."""
    names = {p.id: p.name for p in airframe.document.parts}
    yield heading()
    rows = _rows(airframe).order_by("happened", "created").iterator(500)
    for row, e in readable(rows, lambda r: Event.model_validate(r.event)):
        yield log_line(row.happened, e, names)


def from_table(owner: User, airframe_id: UUID, text: str, keep: bool) -> tuple[list[LogLine], int]:
    """Entries of a table that the time line does not have yet, and how many it has; to `keep` them puts them there, all
    of them or none."""
    with transaction.atomic():
        airframe = airframe_of(owner, airframe_id, hold=True)
        found = read_log_csv(text, airframe.document.parts, timezone.now())
        there = {_same(row.happened, e) for row, e in valid(_rows(airframe))}
        new = {_same(line.happened, line.event): line for line in found}
        lines = [line for key, line in new.items() if key not in there]
        if keep:
            count = Entry.objects.owned_by(owner).filter(airframe=airframe).count() + len(lines)
            require_room(count - 1, MOST, "entries")
            for line in lines:
                put(owner, airframe, line.event, line.happened)
    return lines, len(found) - len(lines)


def _same(happened: datetime | None, e: Event) -> tuple[object, ...]:
    """What makes two entries one: the minute, what, where and in which words."""
    minute = happened and happened.astimezone(UTC).replace(second=0, microsecond=0)
    return minute, e.kind, e.part_id, e.at_mm, e.flight, e.says
