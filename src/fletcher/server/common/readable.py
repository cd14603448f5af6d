"""Stored rows that may be damaged: one that no longer fits its model never takes the others with it."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable, Iterator
from typing import TypeVar

from django.db import models
from pydantic import ValidationError

from fletcher.core.document.problems import InvalidDocument, Problem

Row = TypeVar("Row", bound=models.Model)
Told = TypeVar("Told")

log = logging.getLogger(__name__)

UNREADABLE = "is damaged in the store and cannot be read: the shelf has its raw file"


def readable(rows: Iterable[Row], read: Callable[[Row], Told]) -> Iterator[tuple[Row, Told]]:
    """Rows with what is read of them; those that cannot be read are left out."""
    for row in rows:
        try:
            yield row, read(row)
        except (ValidationError, InvalidDocument, KeyError, TypeError, ValueError) as error:
            log.warning("%s %s cannot be read: %s", type(row).__name__, row.pk, str(error)[:300])


def must_read(read: Callable[[], Told]) -> Told:
    """What is read of one row that was asked for.

    Raises
    ------
    InvalidDocument
        If it is damaged.
    """
    try:
        return read()
    except (ValidationError, KeyError, TypeError):
        raise InvalidDocument([Problem(path="", message=UNREADABLE)]) from None
