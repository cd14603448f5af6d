"""Coupons with their photographs, and trials with what they say so far."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.db.models import Q
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Router, Schema, Status, UploadedFile

from fletcher.core.adhesion.coupons import Coupon
from fletcher.core.adhesion.fair_trial import TrialPlan, TrialReading, TrialWish, plan, read_trial
from fletcher.core.materials.tables import reference
from fletcher.server.common.paging import page_of
from fletcher.server.common.photographs import kept_photo
from fletcher.server.common.readable import readable
from fletcher.server.common.requests import SignedIn
from fletcher.server.common.storage import require_storage
from fletcher.server.joints import models, services

router = Router(tags=["joints"])


class CouponOut(Schema):
    """A kept coupon."""

    id: UUID
    created: datetime
    trial_id: UUID | None
    has_photo: bool
    coupon: Coupon


class CouponIn(Schema):
    """A broken coupon, and the trial it belongs to."""

    coupon: Coupon
    trial_id: UUID | None = None


class TrialOut(Schema):
    """A kept trial: its plan, and what its broken coupons say."""

    id: UUID
    created: datetime
    wish: TrialWish
    plan: TrialPlan
    reading: TrialReading


def _told(row: models.Coupon, has_photo: bool) -> CouponOut:
    coupon = Coupon.model_validate(row.coupon)
    return CouponOut(id=row.id, created=row.created, trial_id=row.trial_id, has_photo=has_photo, coupon=coupon)


class CouponPage(Schema):
    """A page of coupons, the newest first, and whether there is `more`."""

    coupons: list[CouponOut]
    more: bool


@router.get("/coupons", response=CouponPage)
def read_coupons(request: SignedIn, before: UUID | None = None) -> CouponPage:
    """The coupons of the signed-in builder, fifty at a time."""
    rows: Any = models.Coupon.objects.owned_by(request.user).defer("photo").annotate(seen=Q(photo__isnull=False))
    found, more = page_of(rows, ("created",), before)
    return CouponPage(coupons=[told for _, told in readable(found, lambda row: _told(row, row.seen))], more=more)


@router.post("/coupons", response={201: CouponOut})
def add_coupon(request: SignedIn, payload: CouponIn) -> Status[CouponOut]:
    """Keep a broken coupon."""
    row = services.add_coupon(request.user, payload.coupon, payload.trial_id)
    return Status(201, _told(row, False))


def _coupon(request: SignedIn, coupon_id: UUID) -> models.Coupon:
    return get_object_or_404(models.Coupon.objects.owned_by(request.user), id=coupon_id)


@router.delete("/coupons/{coupon_id}", response={204: None})
def remove_coupon(request: SignedIn, coupon_id: UUID) -> Status[None]:
    """Take a coupon out, with its photograph."""
    _coupon(request, coupon_id).delete()
    return Status(204, None)


@router.post("/coupons/{coupon_id}/photo", response=CouponOut)
def add_photo(request: SignedIn, coupon_id: UUID, photo: File[UploadedFile]) -> CouponOut:
    """Put a photograph of the broken face to a coupon, in place of one that is there."""
    row = _coupon(request, coupon_id)
    require_storage(request.user)
    row.photo = kept_photo(photo)
    row.save(update_fields=["photo"])
    return _told(row, True)


@router.get("/coupons/{coupon_id}/photo")
def read_photo(request: SignedIn, coupon_id: UUID) -> HttpResponse:
    """The photograph of a coupon."""
    photo = _coupon(request, coupon_id).photo
    if photo is None:
        return HttpResponse(status=404)
    answer = HttpResponse(bytes(photo), content_type="image/jpeg")
    answer["X-Content-Type-Options"] = "nosniff"
    return answer


@router.post("/trial-plan", response=TrialPlan)
def read_plan(request: SignedIn, payload: TrialWish) -> TrialPlan:
    """Plan a trial; stores nothing."""
    return plan(payload, reference())


def _trial(row: models.Trial, coupons: list[Coupon]) -> TrialOut:
    wish = TrialWish.model_validate(row.wish)
    return TrialOut(
        id=row.id, created=row.created, wish=wish, plan=plan(wish, reference()), reading=read_trial(wish, coupons)
    )


@router.get("/trials", response=list[TrialOut])
def read_trials(request: SignedIn) -> list[TrialOut]:
    """All trials of the signed-in builder, the newest first."""
    rows = models.Trial.objects.owned_by(request.user).order_by("-created")
    coupons = services.coupons_by_trial(request.user)
    return [told for _, told in readable(rows, lambda row: _trial(row, coupons.get(row.id, [])))]


@router.post("/trials", response={201: TrialOut})
def add_trial(request: SignedIn, payload: TrialWish) -> Status[TrialOut]:
    """Keep a trial."""
    return Status(201, _trial(services.add_trial(request.user, payload), []))


@router.delete("/trials/{trial_id}", response={204: None})
def remove_trial(request: SignedIn, trial_id: UUID) -> Status[None]:
    """Take a trial out, with its coupons."""
    get_object_or_404(models.Trial.objects.owned_by(request.user), id=trial_id).delete()
    return Status(204, None)
