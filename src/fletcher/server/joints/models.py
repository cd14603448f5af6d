"""Glue coupons and trials as they are stored, each with its owner; a coupon's photograph is kept re-encoded."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from fletcher.server.common.ownership import OwnedManager


class Trial(models.Model):
    """A planned comparison: what is compared, as `adhesion.fair_trial.TrialWish`."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    wish: models.JSONField[Any, Any] = models.JSONField()
    created = models.DateTimeField(default=timezone.now, editable=False)

    everyone = models.Manager["Trial"]()
    objects = OwnedManager["Trial"]()

    class Meta:
        indexes = (models.Index(fields=["owner", "-created"]),)

    def __str__(self) -> str:
        return str(self.id)


class Coupon(models.Model):
    """A broken coupon, as `adhesion.coupons.Coupon`; it may belong to a trial."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    trial = models.ForeignKey(Trial, on_delete=models.CASCADE, null=True, related_name="coupons")
    coupon: models.JSONField[Any, Any] = models.JSONField()
    photo = models.BinaryField(null=True)
    created = models.DateTimeField(default=timezone.now, editable=False)

    everyone = models.Manager["Coupon"]()
    objects = OwnedManager["Coupon"]()

    class Meta:
        indexes = (models.Index(fields=["owner", "-created"]),)

    def __str__(self) -> str:
        return str(self.id)
