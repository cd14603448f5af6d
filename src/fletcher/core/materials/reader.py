"""Rows of a CSV table as records: columns by the names of fields, three columns `x_low`, `x_typ`, `x_high` as one
range. Conversion and checks are Pydantic's, by the types of the fields."""

from __future__ import annotations

import csv
from collections.abc import Callable, Iterator, Mapping
from dataclasses import MISSING, fields
from functools import cache
from importlib import resources
from typing import TYPE_CHECKING, Annotated, Any, TypeVar

from pydantic import BeforeValidator, TypeAdapter, ValidationError

from fletcher.core.materials.materials import Range

if TYPE_CHECKING:
    from _typeshed import DataclassInstance

    T = TypeVar("T", bound=DataclassInstance)
else:
    T = TypeVar("T")

POINTS = ("low", "typ", "high")


def _parted(text: Any) -> Any:
    return [t.strip() for t in text.split(";") if t.strip()] if isinstance(text, str) else text


Listed = Annotated[tuple[str, ...], BeforeValidator(_parted)]
"""Several words in one column, parted by semicolons."""
Kinds = Annotated[frozenset[str], BeforeValidator(_parted)]
"""The same, in no order."""
_MAY_BE_EMPTY = ("str", "Listed", "Kinds")


class MaterialDataError(ValueError):
    """A reference table contradicts itself; the message names table, row and column."""


def rows(table: str) -> Iterator[tuple[int, dict[str, str]]]:
    """Lines of a table, each with its number, columns by name."""
    text = resources.files(__package__).joinpath("data", table).read_text(encoding="utf-8")
    yield from enumerate(csv.DictReader(text.splitlines()), start=2)


def range_in(row: dict[str, str], column: str) -> Range | None:
    """The range of three columns; None where they are empty.

    Raises
    ------
    ValueError
        If some of them are empty, or they are no range.
    """
    texts = [row[f"{column}_{point}"].strip() for point in POINTS]
    if not any(texts):
        return None
    if not all(texts):
        raise ValueError(f"{column}: enter low, typ and high, or leave all three empty")
    try:
        return Range(*(float(t) for t in texts))
    except ValueError as error:
        raise ValueError(f"{column}: {error}") from None


@cache
def _adapter(kind: type[T]) -> TypeAdapter[T]:
    return TypeAdapter(kind)


def record(
    kind: type[T], row: dict[str, str], prefix: str = "", names: Mapping[str, str] | None = None, **known: Any
) -> T:
    """A row as a record: every field from the column of its name behind `prefix`, or that `names` gives for it, or as
    it is `known`. An empty column leaves a field at its default or, where it may be, at None.

    Raises
    ------
    ValueError
        Naming the first column that cannot be right.
    """
    values = dict(known)
    for f in fields(kind):
        column = prefix + (names or {}).get(f.name, f.name)
        if f.name in known:
            continue
        if f"{column}_typ" in row and f"{column}_low" in row:
            values[f.name] = range_in(row, column)
            continue
        text = row.get(column, "").strip()
        if text or f.default is MISSING:
            values[f.name] = text if text or f.type in _MAY_BE_EMPTY else None
    adapter: TypeAdapter[T] = _adapter(kind)
    try:
        return adapter.validate_python(values)
    except ValidationError as error:
        first = error.errors()[0]
        raise ValueError(f"{prefix}{'.'.join(map(str, first['loc'][:1]))}: {first['msg']}") from None


def records(table: str, read: Callable[[dict[str, str]], T], key: str = "key") -> dict[str, T]:
    """All rows of a table as records, by their key, in the order of the file.

    Raises
    ------
    MaterialDataError
        Naming table, line and column of the first value that cannot be right.
    """
    found: dict[str, T] = {}
    for line, row in rows(table):
        if row[key] in found:
            raise MaterialDataError(f"{table} line {line}: key {row[key]!r} is used twice")
        try:
            found[row[key].strip()] = read(row)
        except (ValueError, KeyError, TypeError) as error:
            raise MaterialDataError(f"{table} line {line} ({row.get(key)}): {error}") from error
    return found
