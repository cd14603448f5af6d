"""The history of an airframe and what is pinned up: a part as it was in one revision, or one from elsewhere."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.shortcuts import get_object_or_404

from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.document.airframe import Part
from fletcher.core.document.airframe_file import AirframeFile, Variant
from fletcher.core.document.changes import changes
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import check_variants
from fletcher.server.airframes.models import Airframe, Pin, Revision
from fletcher.server.airframes.services import State, create, require_possible, state_of
from fletcher.server.common.readable import must_read, readable
from fletcher.server.common.refusals import refusal
from fletcher.server.common.storage import require_storage

MOST_PINS = 6
"""So many variants of a part can be pinned up."""


@dataclass(frozen=True)
class Entry:
    """A revision in the history: when it came about, and what it changed."""

    number: int
    created: datetime
    says: list[str]
    parts: list[str]
    """Ids of the parts that it holds."""


@dataclass(frozen=True)
class Pinned:
    """A pin with the part that it holds."""

    id: int
    name: str
    part_id: str
    revision: int | None
    part: Any


def _document(row: Revision) -> Document:
    return must_read(lambda: Document.model_validate(row.document))


def history(owner: User, airframe_id: UUID, before: int | None, most: int = 40) -> list[Entry]:
    """The revisions of an airframe, the newest first: at most so many, those before a number if one is given."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    rows = airframe.revisions.order_by("-number")
    if before is not None:
        rows = rows.filter(number__lt=before)
    return list(_entries(list(rows[: most + 1]), most))


@dataclass(frozen=True)
class News:
    """What became of an airframe since one of its revisions: in words, on which device, and as it is now; nothing where
    that is its current one."""

    revision: int
    says: list[str]
    device: str
    state: State | None


def news(owner: User, airframe_id: UUID, since: int) -> News:
    """What has changed since a revision; 404 if the airframe is gone or had no such revision."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    if airframe.revision == since:
        return News(since, [], "", None)
    before, now = get_object_or_404(airframe.revisions, number=since), airframe.head
    return News(now.number, changes(_document(before), _document(now)), now.device, state_of(now))


def _entries(rows: list[Revision], most: int) -> Iterator[Entry]:
    known = {row.number: d for row, d in readable(rows, _document)}
    for n, row in enumerate(rows[:most]):
        document = known.get(row.number)
        before = known.get(rows[n + 1].number) if n + 1 < len(rows) else None
        if document is None:
            says = ["damaged: it cannot be read"]
        elif row.number == 1 or n + 1 >= len(rows):
            says = ["made"]
        else:
            says = ["the state before it is damaged"] if before is None else changes(before, document) or ["no change"]
        yield Entry(row.number, row.created, says, [p.id for p in document.parts] if document else [])


def revision(owner: User, airframe_id: UUID, number: int) -> Document:
    """The document as it was in one revision; 404 if there is none."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    return _document(get_object_or_404(airframe.revisions, number=number))


def _pinned(pin: Pin) -> Pinned:
    part = pin.source.part(pin.part_id)
    if part is None:
        raise refusal("part_id", "is not a part of what was kept", repr(pin.part_id))
    return Pinned(pin.pk, pin.name, pin.part_id, pin.number, part)


def _alone(pin: Pin) -> Document:
    """What a pin holds as a document of its own, with the materials that it knows."""
    return pin.source.model_copy(update={"parts": (_pinned(pin).part,)})


def pins(owner: User, airframe_id: UUID) -> list[Pinned]:
    """All pins of an airframe, the oldest first."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    return [told for _, told in readable(airframe.pins.select_related("revision"), _pinned)]


@transaction.atomic
def pin(owner: User, airframe_id: UUID, part_id: str, number: int, name: str) -> Pinned:
    """Pin a part up as it was in a revision.

    Raises
    ------
    InvalidDocument
        If six variants of it are up already, or the revision has no such part.
    """
    airframe = _room_for(owner, airframe_id, part_id)
    row = get_object_or_404(airframe.revisions, number=number)
    if _document(row).part(part_id) is None:
        raise refusal("part_id", f"is not a part in version {number}", repr(part_id))
    return _pinned(Pin.objects.create(airframe=airframe, part_id=part_id, name=name, revision=row))


@transaction.atomic
def pin_from_elsewhere(owner: User, airframe_id: UUID, part_id: str, part: Part, name: str) -> Pinned:
    """Pin a part from elsewhere up beside a part of the current revision, whose id it takes.

    Raises
    ------
    InvalidDocument
        If six variants of it are up already, there is no such part, or this one could not be built in its airframe.
    """
    airframe = _room_for(owner, airframe_id, part_id)
    head = airframe.document
    if head.part(part_id) is None:
        raise refusal("part_id", "is not a part of this airframe", repr(part_id))
    alone = head.model_copy(update={"parts": (part.model_copy(update={"id": part_id}),)})
    require_possible(alone)
    require_storage(owner)
    document = alone.model_dump(mode="json")
    return _pinned(Pin.objects.create(airframe=airframe, part_id=part_id, name=name, document=document))


@transaction.atomic
def create_from_file(owner: User, file: AirframeFile) -> State:
    """A new airframe with the variants that it brings.

    Raises
    ------
    InvalidDocument
        If it could not be built, or brings a variant that could not, or more of a part than can be kept.
    """
    problems = list(check_variants(file, reference()))
    if problems:
        raise InvalidDocument(problems)
    state = create(owner, file.airframe)
    for i, variant in enumerate(file.variants):
        if sum(v.part_id == variant.part_id for v in file.variants[: i + 1]) > MOST_PINS:
            raise refusal(f"variants[{i}]", f"is one too many: at most {MOST_PINS} of a part", repr(variant.name))
        document = variant.document.model_dump(mode="json")
        Pin.objects.create(airframe_id=state.id, part_id=variant.part_id, name=variant.name, document=document)
    return state


def as_file(owner: User, airframe_id: UUID) -> AirframeFile:
    """The airframe as it is now, with what is pinned up beside its parts."""
    head = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id).document
    rows = Pin.objects.filter(airframe_id=airframe_id).select_related("revision")
    kept = [(row, source) for row, source in readable(rows, _alone) if head.part(row.part_id) is not None]
    variants = tuple(Variant(part_id=row.part_id, name=row.name, document=source) for row, source in kept)
    return AirframeFile.model_construct(**dict(head), variants=variants)


def _room_for(owner: User, airframe_id: UUID, part_id: str) -> Airframe:
    """The airframe, held until the transaction ends, if one more variant of a part can be pinned up."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner).select_for_update(), id=airframe_id)
    if airframe.pins.filter(part_id=part_id).count() >= MOST_PINS:
        raise refusal("part_id", f"already has {MOST_PINS} variants: delete one first", repr(part_id))
    return airframe


def rename_pin(owner: User, airframe_id: UUID, pin_id: int, name: str) -> Pinned:
    """Give a pin another name."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    found = get_object_or_404(airframe.pins.select_related("revision"), pk=pin_id)
    found.name = name
    found.save(update_fields=["name"])
    return _pinned(found)


def unpin(owner: User, airframe_id: UUID, pin_id: int) -> None:
    """Take a pin down; its revision stays in the history."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    get_object_or_404(airframe.pins, pk=pin_id).delete()
