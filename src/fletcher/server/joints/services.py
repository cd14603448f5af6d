"""What can be done to coupons and trials; always those of one owner."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.shortcuts import get_object_or_404
from pydantic import ValidationError

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.coupons import Coupon, coupon_problems
from fletcher.core.adhesion.curing import techniques
from fletcher.core.adhesion.fair_trial import TrialWish, plan
from fletcher.core.adhesion.joint_capacity import GlueNeed, seam_of
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference
from fletcher.server.common.ownership import held
from fletcher.server.common.refusals import refusal, require_room
from fletcher.server.joints import models

MOST = 2000
"""So many coupons, and a tenth as many trials, may one builder keep."""


def _require_possible(coupon: Coupon) -> None:
    known = adhesives().get(coupon.adhesive)
    if known is None:
        raise refusal("coupon.adhesive", "is not an adhesive in the Stockroom", repr(coupon.adhesive))
    if coupon.technique is not None and coupon.technique not in techniques(known):
        message = f"cannot be applied that way: choose {', '.join(techniques(known))}"
        raise refusal("coupon.technique", message, coupon.technique)
    try:
        seam_of(GlueNeed(one=coupon.one, other=coupon.other, schools={}), reference())
    except InvalidDocument as invalid:
        raise InvalidDocument([p.model_copy(update={"path": f"coupon.{p.path}"}) for p in invalid.problems]) from None
    problems = coupon_problems(coupon)
    if problems:
        raise InvalidDocument([p.model_copy(update={"path": f"coupon.{p.path}"}) for p in problems])


def add_coupon(owner: User, coupon: Coupon, trial_id: UUID | None) -> models.Coupon:
    """Keep a coupon, in a trial of the same owner if one is named."""
    _require_possible(coupon)
    trial = None if trial_id is None else get_object_or_404(models.Trial.objects.owned_by(owner), id=trial_id)
    with transaction.atomic():
        held(owner)
        require_room(models.Coupon.objects.owned_by(owner).count(), MOST, "coupons")
        row = models.Coupon(owner=owner, coupon=coupon.model_dump(mode="json"), trial=trial)
        row.save()
    return row


def coupons_by_trial(owner: User) -> dict[UUID | None, list[Coupon]]:
    """All coupons of an owner by their trial (None: of none), as the core reads them, in the order they were kept; one
    that is no longer valid is left out."""
    found: dict[UUID | None, list[Coupon]] = {}
    for trial, data in models.Coupon.objects.owned_by(owner).order_by("created").values_list("trial_id", "coupon"):
        try:
            found.setdefault(trial, []).append(Coupon.model_validate(data))
        except ValidationError:
            continue
    return found


def coupons_of(owner: User) -> list[Coupon]:
    """All coupons of an owner, in a trial or not."""
    return [coupon for those in coupons_by_trial(owner).values() for coupon in those]


def add_trial(owner: User, wish: TrialWish) -> models.Trial:
    """Keep a trial that can be planned."""
    plan(wish, reference())
    with transaction.atomic():
        held(owner)
        require_room(models.Trial.objects.owned_by(owner).count(), MOST // 10, "trials")
        row = models.Trial(owner=owner, wish=wish.model_dump(mode="json"))
        row.save()
    return row
