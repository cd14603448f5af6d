"""The build of an airframe as it is kept: what its builder changed of the plan, and what was pressed at the bench."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from fletcher.server.airframes.models import Airframe
from fletcher.server.common.ownership import OwnedManager

_OWNER = settings.AUTH_USER_MODEL


class Sheet(models.Model):
    """The changes of one airframe's plan, as `plan.work.Change`, and how often they were changed."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(_OWNER, on_delete=models.CASCADE, related_name="+")
    airframe = models.OneToOneField(Airframe, on_delete=models.CASCADE, related_name="+")
    revision = models.PositiveIntegerField(default=1)
    changes: models.JSONField[Any, Any] = models.JSONField(default=list)
    created = models.DateTimeField(default=timezone.now, editable=False)

    everyone = models.Manager["Sheet"]()
    objects = OwnedManager["Sheet"]()

    def __str__(self) -> str:
        return str(self.id)


class Pressed(models.Model):
    """Something pressed at the bench, as `plan.work.Press`; its id is the device's own, so that nothing comes twice."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(_OWNER, on_delete=models.CASCADE, related_name="+")
    airframe = models.ForeignKey(Airframe, on_delete=models.CASCADE, related_name="+")
    press: models.JSONField[Any, Any] = models.JSONField()
    created = models.DateTimeField(default=timezone.now, editable=False)

    everyone = models.Manager["Pressed"]()
    objects = OwnedManager["Pressed"]()

    class Meta:
        indexes = (models.Index(fields=["airframe", "created"]),)

    def __str__(self) -> str:
        return str(self.id)
