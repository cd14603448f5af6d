"""What can be done to coupons and trials; always those of one owner."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth.models import User
from django.shortcuts import get_object_or_404
from pydantic import ValidationError

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.coupons import Coupon, coupon_problems
from fletcher.core.adhesion.curing import techniques
from fletcher.core.adhesion.fair_trial import TrialWish, plan
from fletcher.core.adhesion.joint_capacity import GlueNeed, seam_of
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.materials.tables import reference
from fletcher.server.joints import models

MOST = 2000
"""So many coupons, and a tenth as many trials, may one builder keep."""


def _refuse(path: str, message: str, value: str = "") -> InvalidDocument:
    return InvalidDocument([Problem(path=path, message=message, value=value)])


def _require_possible(coupon: Coupon) -> None:
    known = adhesives().get(coupon.adhesive)
    if known is None:
        raise _refuse("coupon.adhesive", "is not an adhesive in the stockroom", repr(coupon.adhesive))
    if coupon.technique is not None and coupon.technique not in techniques(known):
        message = f"is not how this is put on: {', '.join(techniques(known))}"
        raise _refuse("coupon.technique", message, coupon.technique)
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
    if models.Coupon.objects.owned_by(owner).count() >= MOST:
        raise _refuse("", f"there are as many coupons as can be kept: at most {MOST}; take old ones out")
    row = models.Coupon(owner=owner, coupon=coupon.model_dump(mode="json"), trial=trial)
    row.save()
    return row


def coupons_of(owner: User, trial: models.Trial | None = None) -> list[Coupon]:
    """All coupons of an owner, or those of a trial, as the core reads them; one that is no longer valid is left out."""
    rows = models.Coupon.objects.owned_by(owner).order_by("created")
    found = []
    for data in (rows if trial is None else rows.filter(trial=trial)).values_list("coupon", flat=True):
        try:
            found.append(Coupon.model_validate(data))
        except ValidationError:
            continue
    return found


def add_trial(owner: User, wish: TrialWish) -> models.Trial:
    """Keep a trial that can be planned."""
    plan(wish, reference())
    if models.Trial.objects.owned_by(owner).count() >= MOST // 10:
        raise _refuse("", f"there are as many trials as can be kept: at most {MOST // 10}; take old ones out")
    row = models.Trial(owner=owner, wish=wish.model_dump(mode="json"))
    row.save()
    return row
