"""What happened to airframes and what is to be done: time line, jobs with their operations, pictures at marks, kept
candidates for a repair. Every row has its owner."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from fletcher.server.airframes.models import Airframe
from fletcher.server.common.ownership import OwnedManager

_OWNER = settings.AUTH_USER_MODEL


class _OfAirframe(models.Model):
    """Something that belongs to an airframe of somebody."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(_OWNER, on_delete=models.CASCADE, related_name="+")
    airframe = models.ForeignKey(Airframe, on_delete=models.CASCADE, related_name="+")
    created = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        abstract = True


class Entry(_OfAirframe):
    """Something on an airframe's time line, as `repair.events.Event`; `revision` is the document it led to. `earlier`
    are wordings that were corrected; a `removed` one can be put back."""

    happened = models.DateTimeField()
    revision = models.PositiveIntegerField(null=True)
    event: models.JSONField[Any, Any] = models.JSONField()
    earlier: models.JSONField[Any, Any] = models.JSONField(default=list)
    removed = models.DateTimeField(null=True)

    everyone = models.Manager["Entry"]()
    objects = OwnedManager["Entry"]()

    class Meta:
        indexes = (models.Index(fields=["airframe", "-happened"]),)

    def __str__(self) -> str:
        return str(self.id)


class Job(_OfAirframe):
    """An ordered list of operations on a part; its `checks`, the `values` that were measured, by the number of the
    check, and the `marks` that it mends."""

    part_id = models.CharField(max_length=40)
    title = models.CharField(max_length=300)
    checks: models.JSONField[Any, Any] = models.JSONField(default=list)
    values: models.JSONField[Any, Any] = models.JSONField(default=dict)
    marks: models.JSONField[Any, Any] = models.JSONField(default=list)

    everyone = models.Manager["Job"]()
    objects = OwnedManager["Job"]()

    class Meta:
        indexes = (models.Index(fields=["airframe", "-created"]),)

    def __str__(self) -> str:
        return self.title


class Task(models.Model):
    """One operation of a job, as `repair.schema.Operation`: its place in the order, when it was done, what
    was noted or measured."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="tasks")
    number = models.PositiveIntegerField()
    operation: models.JSONField[Any, Any] = models.JSONField()
    done = models.DateTimeField(null=True)
    note = models.CharField(max_length=400, blank=True)

    class Meta:
        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=["job", "number"], name="task_number_once"),)

    def __str__(self) -> str:
        return f"{self.number}"


class Picture(_OfAirframe):
    """A photograph at a mark of damage, or at an entry of the time line, whose place on the part is then its own."""

    part_id = models.CharField(max_length=40, blank=True)
    mark_id = models.CharField(max_length=40, blank=True)
    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="pictures", null=True)
    photo = models.BinaryField()

    everyone = models.Manager["Picture"]()
    objects = OwnedManager["Picture"]()

    class Meta:
        indexes = (models.Index(fields=["airframe", "part_id"]),)

    def __str__(self) -> str:
        return str(self.id)


class Candidate(_OfAirframe):
    """A repair that is kept for comparison, as `repair.recipe.Recipe`."""

    part_id = models.CharField(max_length=40)
    name = models.CharField(max_length=80)
    recipe: models.JSONField[Any, Any] = models.JSONField()

    everyone = models.Manager["Candidate"]()
    objects = OwnedManager["Candidate"]()

    class Meta:
        indexes = (models.Index(fields=["airframe", "part_id"]),)

    def __str__(self) -> str:
        return self.name
