"""Airframes as they are stored: one row per airframe, one per revision of its document. Nothing is overwritten."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models
from django.utils import timezone

from fletcher.core.document.airframe import Airframe as Document
from fletcher.server.common.ownership import OwnedManager
from fletcher.server.common.readable import must_read


class ShelfManager(OwnedManager["Airframe"]):
    """Airframes of one owner: those on the shelf, or those in the bin."""

    def owned_by(self, user: User) -> models.QuerySet[Airframe]:
        """What is on the shelf of this user."""
        return super().owned_by(user).filter(deleted__isnull=True)

    def in_bin_of(self, user: User) -> models.QuerySet[Airframe]:
        """What this user has deleted and can still take back."""
        return super().owned_by(user).filter(deleted__isnull=False)


class Airframe(models.Model):
    """An airframe; `revision` is the number of its current revision. One that was `deleted` rests in the bin."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    revision = models.PositiveIntegerField(default=1)
    created = models.DateTimeField(default=timezone.now, editable=False)
    updated = models.DateTimeField(auto_now=True)
    deleted = models.DateTimeField(null=True)

    everyone = models.Manager["Airframe"]()
    objects = ShelfManager()

    class Meta:
        indexes = (models.Index(fields=["owner", "-updated"]),)
        constraints = (models.CheckConstraint(condition=models.Q(revision__gte=1), name="airframe_revision_from_1"),)

    def __str__(self) -> str:
        return str(self.id)

    @property
    def head(self) -> Revision:
        """The current revision."""
        return self.revisions.get(number=self.revision)

    @property
    def document(self) -> Document:
        """What it is now."""
        head = self.head
        return must_read(lambda: Document.model_validate(head.document))


class Revision(models.Model):
    """One state of an airframe's document, where undo and redo lead from it, and on which `device` it was made."""

    airframe = models.ForeignKey(Airframe, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    document: models.JSONField[Any, Any] = models.JSONField()
    undo_to = models.PositiveIntegerField(null=True)
    redo_to = models.PositiveIntegerField(null=True)
    device = models.CharField(max_length=10, blank=True)
    created = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=["airframe", "number"], name="revision_number_once"),
            models.CheckConstraint(condition=models.Q(number__gte=1), name="revision_number_from_1"),
        )

    def __str__(self) -> str:
        return f"{self.airframe_id} revision {self.number}"


class Pin(models.Model):
    """A state of a part that is pinned up for comparison, under a name: the part as it was in one revision, or one from
    elsewhere, alone in a `document` of this airframe."""

    airframe = models.ForeignKey(Airframe, on_delete=models.CASCADE, related_name="pins")
    part_id = models.CharField(max_length=40)
    name = models.CharField(max_length=60)
    revision = models.ForeignKey(Revision, on_delete=models.RESTRICT, related_name="+", null=True)
    document: models.JSONField[Any, Any] = models.JSONField(null=True)
    created = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ("created", "id")
        constraints = (
            models.CheckConstraint(condition=~models.Q(name=""), name="pin_has_a_name"),
            models.CheckConstraint(
                condition=models.Q(revision__isnull=True) ^ models.Q(document__isnull=True), name="pin_has_one_source"
            ),
        )

    def __str__(self) -> str:
        return f"{self.name} ({self.part_id})"

    @property
    def source(self) -> Document:
        """The document that it is pinned from."""
        data = self.document if self.revision is None else self.revision.document
        return must_read(lambda: Document.model_validate(data))

    @property
    def number(self) -> int | None:
        """The number of its revision; None where it comes from elsewhere."""
        return None if self.revision is None else self.revision.number
