"""What can be done to airframes. Every change makes a new revision; undo and redo are changes too."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import F, Q, QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import check
from fletcher.server.airframes.models import Airframe, Revision
from fletcher.server.common.ownership import held
from fletcher.server.common.readable import must_read, readable
from fletcher.server.common.refusals import require_room
from fletcher.server.common.storage import MOST_BYTES, require_storage, used_bytes


@dataclass(frozen=True)
class State:
    """An airframe's current revision."""

    id: UUID
    revision: int
    updated: datetime
    document: Any
    can_undo: bool
    can_redo: bool


class Stale(Exception):  # noqa: N818 - a state of affairs that the caller shows, not a fault
    """The change was made to an older revision than `current`."""

    def __init__(self, current: State) -> None:
        self.current = current
        super().__init__(f"current revision is {current.revision}")


def state_of(row: Revision) -> State:
    """A revision as it is told."""
    return State(
        id=row.airframe_id,
        revision=row.number,
        updated=row.created,
        document=row.document,
        can_undo=row.undo_to is not None,
        can_redo=row.redo_to is not None,
    )


def require_possible(document: Document) -> None:
    """Raise InvalidDocument if the document makes no possible airframe."""
    problems = list(check(document, reference()))
    if problems:
        raise InvalidDocument(problems)


def shelf(owner: User) -> list[State]:
    """All airframes of an owner, the last touched first."""
    rows = Revision.objects.filter(
        airframe__in=Airframe.objects.owned_by(owner), number=F("airframe__revision")
    ).order_by("-airframe__updated")
    return [state_of(row) for row, _ in readable(rows, lambda row: Document.model_validate(row.document))]


def current(owner: User, airframe_id: UUID) -> State:
    """The current state of one airframe; 404 if the owner has none such."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    head = airframe.head
    must_read(lambda: Document.model_validate(head.document))
    return state_of(head)


def create(owner: User, document: Document) -> State:
    """A new airframe with its first revision."""
    require_possible(document)
    data = document.model_dump(mode="json")
    with transaction.atomic():
        _require_shelf(owner)
        airframe = Airframe(owner_id=owner.pk)
        airframe.save(force_insert=True)
        return state_of(Revision.objects.create(airframe=airframe, number=1, document=data))


def _locked(owner: User, airframe_id: UUID) -> tuple[Airframe, Revision]:
    """An airframe and its current revision, held until the transaction ends."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner).select_for_update(), id=airframe_id)
    return airframe, airframe.head


def _advance(airframe: Airframe, document: Any, undo_to: int | None, redo_to: int | None, device: str) -> State:
    airframe.revision += 1
    airframe.save(update_fields=["revision", "updated"])
    row = Revision.objects.create(
        airframe=airframe, number=airframe.revision, document=document, undo_to=undo_to, redo_to=redo_to, device=device
    )
    _thin(airframe)
    return state_of(row)


def save(owner: User, airframe_id: UUID, revision: int, document: Document, device: str = "") -> State:
    """A new revision on top of `revision`, made on a device if one is named.

    Raises
    ------
    InvalidDocument
        If the document makes no possible airframe; nothing is stored.
    Stale
        If `revision` is not the current one; nothing is stored.
    """
    require_possible(document)
    data = document.model_dump(mode="json")
    with transaction.atomic():
        airframe, row = _locked(owner, airframe_id)
        if data == row.document:  # also when the same was stored just before and the answer was lost on its way
            return state_of(row)
        if airframe.revision != revision:
            raise Stale(state_of(row))
        return _advance(airframe, data, undo_to=row.number, redo_to=None, device=device)


@transaction.atomic
def step(owner: User, airframe_id: UUID, revision: int, forward: bool, device: str = "") -> State:
    """Undo (or redo, if `forward`): a new revision with the content of an earlier one. At the end of the history
    nothing changes."""
    airframe, row = _locked(owner, airframe_id)
    if airframe.revision != revision:
        raise Stale(state_of(row))
    target_number = row.redo_to if forward else row.undo_to
    if target_number is None:
        return state_of(row)
    target = airframe.revisions.get(number=target_number)
    must_read(lambda: Document.model_validate(target.document))
    if forward:
        return _advance(airframe, target.document, undo_to=row.number, redo_to=target.redo_to, device=device)
    return _advance(airframe, target.document, undo_to=target.undo_to, redo_to=row.number, device=device)


BIN_DAYS = 30
"""So long a deleted airframe can be taken back."""
MOST_AIRFRAMES = 400
"""So many may be on one shelf."""
KEPT_REVISIONS = 400
"""So many newest revisions of an airframe are kept in full; of older ones one in `THINNED`, and what is pinned."""
THINNED = 10
KEPT_WHEN_FULL = 20
"""So many newest ones are kept where the account is full; of older ones only what is pinned."""


@transaction.atomic
def delete(owner: User, airframe_id: UUID) -> None:
    """Put an airframe into the bin, with all that belongs to it; what has rested there long enough goes for good."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner).select_for_update(), id=airframe_id)
    airframe.deleted = timezone.now()
    airframe.save(update_fields=["deleted"])
    _empty(Airframe.objects.in_bin_of(owner).filter(deleted__lt=_long_enough()))


def _empty(rows: QuerySet[Airframe]) -> None:
    for airframe in rows:
        airframe.pins.all().delete()
        airframe.delete()


@dataclass(frozen=True)
class Binned:
    """An airframe in the bin, until when it can be taken back."""

    id: UUID
    name: str
    deleted: datetime
    until: datetime


def binned(owner: User) -> list[Binned]:
    """What is in the bin, the last deleted first."""
    heads = Revision.objects.filter(airframe__in=_rests(owner), number=F("airframe__revision"))
    rows = heads.order_by("-airframe__deleted").values_list("airframe_id", "document__name", "airframe__deleted")
    return [Binned(key, str(name or "?"), at, at + timedelta(days=BIN_DAYS)) for key, name, at in rows if at]


def _rests(owner: User) -> QuerySet[Airframe]:
    """What is in the bin and has not rested there long enough to go."""
    return Airframe.objects.in_bin_of(owner).filter(deleted__gte=_long_enough())


def _long_enough() -> datetime:
    return timezone.now() - timedelta(days=BIN_DAYS)


@transaction.atomic
def take_back(owner: User, airframe_id: UUID) -> State:
    """Put an airframe back on the shelf, as it was."""
    airframe = get_object_or_404(_rests(owner).select_for_update(), id=airframe_id)
    _require_shelf(owner)
    airframe.deleted = None
    airframe.save(update_fields=["deleted"])
    return state_of(airframe.head)


@transaction.atomic
def delete_for_good(owner: User, airframe_id: UUID) -> None:
    """Take an airframe out of the bin, with all its revisions and pins."""
    get_object_or_404(Airframe.objects.in_bin_of(owner), id=airframe_id)
    _empty(Airframe.objects.in_bin_of(owner).filter(id=airframe_id))


def _require_shelf(owner: User) -> None:
    held(owner)
    require_room(Airframe.objects.owned_by(owner).count(), MOST_AIRFRAMES, "airframes")
    require_storage(owner)


def _thin(airframe: Airframe) -> None:
    """Drop most of the old revisions, now and then; undo reaches as far back as the kept ones. Of a full account's
    airframes only the newest few stay.

    Raises
    ------
    InvalidDocument
        If the account has twice what it may have: nothing more is stored.
    """
    if airframe.revision % THINNED:
        return
    used = used_bytes(airframe.owner_id)
    if used >= 2 * MOST_BYTES:
        require_storage(airframe.owner)
    full = used >= MOST_BYTES
    least = airframe.revision - (KEPT_WHEN_FULL if full else KEPT_REVISIONS)
    if least < 1:
        return
    old = airframe.revisions.filter(number__lte=least, number__gt=1)
    if not full:
        old = old.annotate(rest=F("number") % THINNED).exclude(rest=0)
    old.exclude(pk__in=airframe.pins.filter(revision__isnull=False).values("revision_id")).delete()
    kept = list(airframe.revisions.order_by("number").values_list("number", flat=True))
    for row in airframe.revisions.filter(Q(undo_to__lte=least) | Q(redo_to__lte=least)):
        was = row.undo_to, row.redo_to
        if row.undo_to is not None:  # back to the next older that is kept, forward to the next newer
            row.undo_to = kept[bisect_right(kept, row.undo_to) - 1]
        if row.redo_to is not None:
            row.redo_to = kept[bisect_left(kept, row.redo_to)]
        if (row.undo_to, row.redo_to) != was:
            row.save(update_fields=["undo_to", "redo_to"])
