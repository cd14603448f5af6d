"""Rows that belong to one builder."""

from __future__ import annotations

from typing import NoReturn, TypeVar

from django.contrib.auth.models import AbstractBaseUser
from django.db import models

Row = TypeVar("Row", bound=models.Model)


class OwnedManager(models.Manager[Row]):
    """Hands out rows of one owner only: a query that names no owner is an error, not a leak."""

    def owned_by(self, user: AbstractBaseUser) -> models.QuerySet[Row]:
        """Rows of this user."""
        return super().get_queryset().filter(owner_id=user.pk)

    def get_queryset(self) -> NoReturn:
        raise TypeError("name the owner: objects.owned_by(user)")
