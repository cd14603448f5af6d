"""Long lists, some rows at a time."""

from __future__ import annotations

from typing import TypeVar
from uuid import UUID

from django.db.models import Model, Q, QuerySet
from django.shortcuts import get_object_or_404

M = TypeVar("M", bound=Model)

PAGE = 50
"""So many rows are sent at a time."""


def page_of(
    rows: QuerySet[M], by: tuple[str, ...], before: UUID | None, most: int = PAGE
) -> tuple[list[M], bool]:  # fmt: skip
    """The newest rows by some fields, one deciding where the one before is alike, at most so many, those before one of
    them if its id is given; and whether there are more. What is put in while somebody reads on moves nothing. 404 if
    no row has that id."""
    order = (*by, "pk")
    if before is not None:
        last, older, alike = get_object_or_404(rows, pk=before), Q(), Q()
        for field in order:
            value = getattr(last, field)
            older |= alike & Q(**{f"{field}__lt": value})
            alike &= Q(**{field: value})
        rows = rows.filter(older)
    found = list(rows.order_by(*(f"-{field}" for field in order))[: most + 1])
    return found[:most], len(found) > most
