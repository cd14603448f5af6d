"""The reference tables: materials read from the CSV files beside this module, validated once when first read.

Every value is an engineering estimate with a 5-50-95 % range, a confidence grade and the basis of the estimate;
none is a verified citation.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache, partial
from typing import Any

from fletcher.core.materials.materials import (
    Bar,
    Catalogue,
    Cloth,
    Cord,
    Facing,
    Fastener,
    Fitting,
    Foam,
    Range,
    Resin,
    Sheet,
    Skin,
)
from fletcher.core.materials.own_rows import Rows
from fletcher.core.materials.reader import MaterialDataError, range_in, record, records, rows

Row = dict[str, str]


def _required(row: Row, column: str) -> Range:
    value = range_in(row, column)
    if value is None:
        raise ValueError(f"{column}: missing")
    return value


def _foam(row: Row) -> Foam:
    return record(
        Foam, row, springback=row["springback_typ"], through_thickness_ratio=row["through_thickness_ratio"] or 1.0
    )


def _skin(row: Row) -> Skin:
    widths = tuple(w for w in row["widths_mm"].split(";") if w.strip())
    return record(Skin, row, widths_mm=widths)


def _fitting(row: Row) -> Fitting:
    return record(Fitting, row, long_mm=row["long_mm"] or 0.0)


def _resin(row: Row) -> Resin:
    return record(Resin, row, family="resin")


def _sheet(row: Row) -> Sheet:
    faced, twin = row["build"] == "faced", row["build"] == "twin_wall"
    known: dict[str, Any] = {"facing": record(Facing, row, "facing_") if faced else None}
    known |= {} if faced else {"core": None, "core_thickness_mm": None}
    known |= {} if twin else {"wall_thickness_mm": None}
    return record(Sheet, row, **known)


@cache
def reference() -> Catalogue:
    """The reference materials, read and validated once.

    Raises
    ------
    MaterialDataError
        Naming table, line and column of the first value that cannot be right.
    """
    return Catalogue(
        Rows("foams", records("foams.csv", _foam)),
        Rows("skins", records("skins.csv", _skin)),
        Rows("bars", records("bars.csv", partial(record, Bar))),
        Rows("sheets", records("sheets.csv", _sheet)),
        Rows("cloths", records("cloths.csv", partial(record, Cloth))),
        records("resins.csv", _resin),
        records("cords.csv", partial(record, Cord)),
        records("fittings.csv", _fitting),
        records("fasteners.csv", partial(record, Fastener)),
    )


def name_of(key: str) -> str:
    """What a material is called, by its key in any of the tables."""
    return next((table[key].name for table in vars(reference()).values() if key in table), key)


def table_rows(table: str, ranges: tuple[str, ...]) -> Iterator[dict[str, Any]]:
    """Rows of a table with those columns read as ranges.

    Raises
    ------
    MaterialDataError
        Naming table and line of the first value that cannot be right.
    """
    for line, row in rows(table):
        try:
            yield {**row, **{name: _required(row, name) for name in ranges}}
        except ValueError as error:
            raise MaterialDataError(f"{table} line {line} ({row.get('key')}): {error}") from error


@dataclass(frozen=True)
class Word:
    """A word of the trade: what it means in a sentence, and what more there is to know."""

    key: str
    term: str
    plain: str
    more: str


@cache
def glossary() -> tuple[Word, ...]:
    """Every word that the product explains."""
    return tuple(Word(**{k: v.strip() for k, v in row.items()}) for _, row in rows("glossary.csv"))


_FAMILY_RANGES = ("softens_C", "stiffness_keeps_60C", "damp_keeps", "wet_keeps")


def family_rows() -> Iterator[tuple[str, dict[str, Any]]]:
    """The rows of the table of families: how each takes warmth, cold, sun and damp.

    Raises
    ------
    MaterialDataError
        Naming table and line of the first value that cannot be right.
    """
    for line, row in rows("families.csv"):
        try:
            values: dict[str, Any] = {n: _required(row, n) for n in _FAMILY_RANGES}
            values |= {n: row[n].strip() for n in ("parked", "grade", "basis")}
            values |= {
                "sun_half_months": range_in(row, "sun_half_months"),
                "brittle_below_C": float(row["brittle_below_C"]),
            }
        except (ValueError, KeyError) as error:
            raise MaterialDataError(f"families.csv line {line} ({row.get('family')}): {error}") from error
        yield row["family"], values
