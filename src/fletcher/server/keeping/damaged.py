"""Rows that no page can show any more: told, saved as they are, taken out. The others live."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import OuterRef, QuerySet, Subquery
from django.http import Http404
from django.shortcuts import get_object_or_404

from fletcher.core.adhesion.coupons import Coupon
from fletcher.core.adhesion.fair_trial import TrialWish
from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.repair.events import Event
from fletcher.core.repair.recipe import Recipe
from fletcher.server.airframes.models import Airframe, Revision
from fletcher.server.common.readable import readable
from fletcher.server.crash import models as crash
from fletcher.server.crash.services import read_job
from fletcher.server.joints import models as joints


@dataclass(frozen=True)
class Damaged:
    """A row that cannot be read: of which kind, its id, when it was stored."""

    kind: str
    id: UUID
    created: datetime


@dataclass(frozen=True)
class _Sort:
    """A sort of row: its table, how a row is read, and what a raw file of it holds."""

    rows: Callable[[User], QuerySet[Any]]
    read: Callable[[Any], object]
    raw: Callable[[Any], object]


def _job(row: crash.Job) -> object:
    tasks = [{"number": t.number, "operation": t.operation, "note": t.note} for t in row.tasks.all()]
    return {"title": row.title, "checks": row.checks, "values": row.values, "marks": row.marks, "tasks": tasks}


def _airframes(owner: User) -> QuerySet[Airframe]:
    """Airframes with the document of their current revision."""
    head = Revision.objects.filter(airframe=OuterRef("pk"), number=OuterRef("revision"))
    return Airframe.objects.owned_by(owner).annotate(head_document=Subquery(head.values("document")[:1]))


SORTS = {
    "airframe": _Sort(
        _airframes, lambda r: Document.model_validate(r.head_document), lambda r: r.head_document
    ),
    "entry": _Sort(
        lambda u: crash.Entry.objects.owned_by(u), lambda r: Event.model_validate(r.event), lambda r: r.event
    ),
    "job": _Sort(lambda u: crash.Job.objects.owned_by(u).prefetch_related("tasks"), read_job, _job),
    "candidate": _Sort(
        lambda u: crash.Candidate.objects.owned_by(u), lambda r: Recipe.model_validate(r.recipe), lambda r: r.recipe
    ),
    "coupon": _Sort(
        lambda u: joints.Coupon.objects.owned_by(u).defer("photo"), lambda r: Coupon.model_validate(r.coupon),
        lambda r: r.coupon,
    ),
    "trial": _Sort(
        lambda u: joints.Trial.objects.owned_by(u), lambda r: TrialWish.model_validate(r.wish), lambda r: r.wish
    ),
}  # fmt: skip
"""Everything of a builder that may be damaged."""


def damaged(owner: User) -> Iterator[Damaged]:
    """All rows of an owner that cannot be read."""
    for kind, sort in SORTS.items():
        rows = list(sort.rows(owner))
        well = {row.pk for row, _ in readable(rows, sort.read)}
        yield from (Damaged(kind, row.pk, row.created) for row in rows if row.pk not in well)


def raw_of(owner: User, kind: str, row_id: UUID) -> object:
    """What a row holds, as it is; 404 if the owner has none such."""
    sort = SORTS[kind]
    return sort.raw(get_object_or_404(sort.rows(owner), pk=row_id))


def take_out(owner: User, kind: str, row_id: UUID) -> None:
    """Delete a row that cannot be read. One that can is taken out at its own place: 404, as if there were none such."""
    sort = SORTS[kind]
    row = get_object_or_404(sort.rows(owner), pk=row_id)
    if any(readable([row], sort.read)):
        raise Http404
    if isinstance(row, Airframe):
        row.pins.all().delete()
    row.delete()
