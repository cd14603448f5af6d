"""What a person prefers, and invitations to become one."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Preferences(models.Model):
    """Units, colours and keys of one person; without a row the defaults hold."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    units = models.CharField(max_length=10, default="metric")
    colours = models.CharField(max_length=10, default="system")
    single_keys = models.BooleanField(default=True)

    class Meta:
        constraints = (
            models.CheckConstraint(condition=models.Q(units__in=("metric", "inch")), name="preferences_units"),
            models.CheckConstraint(
                condition=models.Q(colours__in=("system", "light", "dark", "contrast")), name="preferences_colours"
            ),
        )

    def __str__(self) -> str:
        return f"preferences of {self.user_id}"


class Invitation(models.Model):
    """A link with which people make accounts: a hash of its secret part, how long it holds, and for how many more."""

    mark = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()
    left = models.PositiveIntegerField(default=1)

    def __str__(self) -> str:
        return f"invitation until {self.until:%Y-%m-%d}"
