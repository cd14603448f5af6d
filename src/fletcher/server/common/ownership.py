"""Rows that belong to one builder.

A model that has an owner declares `everyone` first, a plain manager for Django's own tools (dumps, deletes that
cascade), and then `objects`, which is what the product's code uses.
"""

from __future__ import annotations

from typing import NoReturn, TypeVar

from django.contrib.auth.models import User
from django.db import models

Row = TypeVar("Row", bound=models.Model)


class OwnedManager(models.Manager[Row]):
    """Hands out rows of one owner only: a query that names no owner is an error, not a leak."""

    def owned_by(self, user: User) -> models.QuerySet[Row]:
        """Rows of this user."""
        return super().get_queryset().filter(owner_id=user.pk)

    def get_queryset(self) -> NoReturn:
        raise TypeError("name the owner: objects.owned_by(user)")


def held(owner: User) -> None:
    """Hold an account's row until the transaction ends: what is counted of it next cannot grow meanwhile."""
    User.objects.select_for_update().get(pk=owner.pk)
