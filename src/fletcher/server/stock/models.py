"""The shelf of a builder as it is kept: things, and what was cut from them, to be taken back."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from fletcher.server.airframes.models import Airframe
from fletcher.server.common.ownership import OwnedManager

_OWNER = settings.AUTH_USER_MODEL


class Thing(models.Model):
    """A thing on the shelf, as `stock.items.StockItem`; `reserved_for` keeps it from being offered elsewhere."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(_OWNER, on_delete=models.CASCADE, related_name="+")
    item: models.JSONField[Any, Any] = models.JSONField()
    reserved_for = models.ForeignKey(Airframe, on_delete=models.SET_NULL, null=True, related_name="+")
    revision = models.PositiveIntegerField(default=1)
    created = models.DateTimeField(default=timezone.now, editable=False)

    everyone = models.Manager["Thing"]()
    objects = OwnedManager["Thing"]()

    class Meta:
        indexes = (models.Index(fields=["owner", "-created"]),)

    def __str__(self) -> str:
        return str(self.id)


class Cut(models.Model):
    """Pieces that were cut from a thing, by length, or of a sheet by length and width: what it was before, the things
    that were left of it, and the steps of a plan that they are for, if one took it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(_OWNER, on_delete=models.CASCADE, related_name="+")
    airframe = models.ForeignKey(Airframe, on_delete=models.SET_NULL, null=True, related_name="+")
    before: models.JSONField[Any, Any] = models.JSONField()
    left: models.JSONField[Any, Any] = models.JSONField(default=list)
    pieces: models.JSONField[Any, Any] = models.JSONField(default=list)
    sheets: models.JSONField[Any, Any] = models.JSONField(default=list)
    steps: models.JSONField[Any, Any] = models.JSONField(default=list)
    created = models.DateTimeField(default=timezone.now, editable=False)

    everyone = models.Manager["Cut"]()
    objects = OwnedManager["Cut"]()

    class Meta:
        indexes = (models.Index(fields=["owner", "-created"]),)

    def __str__(self) -> str:
        return str(self.id)
