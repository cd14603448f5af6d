"""Materials that the builder measured: a row of a reference table with values of its own, kept in the airframe's file.

They are named by their id wherever a key of the stockroom is; inside the program the key carries a digest of the values
(`own_rows`). What is not given is that of the row that the material is like.
"""

from __future__ import annotations

import hashlib
import math
import re
import types
import typing
from collections.abc import Iterable, Iterator
from dataclasses import replace
from functools import cache
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator

from fletcher.core.document.cases import PRINTABLE, Document, Id, Key, Name
from fletcher.core.materials import own_rows
from fletcher.core.materials.materials import Material, Range, Sheet
from fletcher.core.materials.tables import reference

TABLES = {"foam": "foams", "skin": "skins", "bar": "bars", "sheet": "sheets", "cloth": "cloths"}
_KEYS = frozenset({"foam", "stock", "skin", "sheet", "cloth", "board", "rib_sheet", "faced_with", "plate"})
"""Fields of a document that name a material."""
_UNIT = re.compile(r"_(MPa|kg_m3|g_m2|mm|pct|N_per_25mm|N_mm|g_cm3)$")
_FAR = 10.0
"""An own value may lie at most so many times above or below that of the row it is like."""


class OwnValue(Document):
    """A measured value: typical with its range, or with a coefficient of variation, in the unit of its column."""

    of: Annotated[Key, Field(description="Column of the table, such as E_MPa")]
    typ: Annotated[float, Field(gt=0, le=1e7)]
    low: Annotated[float | None, Field(gt=0, le=1e7)] = None
    high: Annotated[float | None, Field(gt=0, le=1e7)] = None
    cv_percent: Annotated[
        float | None, Field(ge=0, le=60, description="Standard deviation over mean, instead of low and high")
    ] = None

    @model_validator(mode="after")
    def _one_way(self) -> OwnValue:
        if (self.low is None) != (self.high is None):
            raise ValueError("give low and high, or neither")
        if self.low is not None and self.cv_percent is not None:
            raise ValueError("give a range or a coefficient of variation, not both")
        if self.low is not None and self.high is not None and not self.low <= self.typ <= self.high:
            raise ValueError("must lie between low and high")
        return self

    @property
    def range(self) -> Range:
        """The 5, 50 and 95 % points; of a coefficient of variation those of a lognormal spread."""
        if self.low is not None and self.high is not None:
            return Range(self.low, self.typ, self.high)
        spread = math.exp(1.6448536 * math.sqrt(math.log(1 + ((self.cv_percent or 0.0) / 100) ** 2)))
        return Range(self.typ / spread, self.typ, self.typ * spread)


class OwnMaterial(Document):
    """A material of the builder's own: like a row of a reference table but for the values that are given."""

    id: Id
    table: Literal["foam", "skin", "bar", "sheet", "cloth"]
    like: Key
    name: Name
    values: Annotated[tuple[OwnValue, ...], Field(max_length=40)] = ()
    note: Annotated[str, Field(max_length=400, pattern=PRINTABLE)] = ""

    @property
    def key(self) -> str:
        """Its key inside the program."""
        digest = hashlib.sha256(self.model_dump_json(exclude={"note"}).encode()).hexdigest()[:12]
        return f"{self.id}{own_rows.MARK}{digest}"


@cache
def columns(table: str) -> dict[str, bool]:
    """The numbers of a table by name, and whether they are ranges."""
    kind = type(next(iter(getattr(reference(), TABLES[table]).values())))
    found = {}
    for name, hint in typing.get_type_hints(kind).items():
        parts = set(typing.get_args(hint)) if isinstance(hint, types.UnionType) else {hint}
        if parts & {Range, float} and parts <= {Range, float, type(None)}:
            found[name] = Range in parts
    return found


def faults(own: OwnMaterial) -> Iterator[tuple[str, str, str]]:
    """What is wrong with an own material: field, what is allowed, what was found."""
    rows = getattr(reference(), TABLES[own.table])
    if dict.__contains__(rows, own.id):
        yield "id", "is the key of a reference row: take another", repr(own.id)
    if not dict.__contains__(rows, own.like):
        yield "like", f"is not a {own.table} of the reference tables", repr(own.like)
        return
    for i, value in enumerate(own.values):
        if value.of not in columns(own.table):
            yield f"values[{i}].of", f"is no value of a {own.table}: {', '.join(columns(own.table))}", repr(value.of)
            continue
        if value.of in {v.of for v in own.values[:i]}:
            yield f"values[{i}].of", "is given twice", repr(value.of)
        now = getattr(rows[own.like], value.of)
        usual = now.typ if isinstance(now, Range) else now
        if usual and not usual / _FAR <= value.typ <= usual * _FAR:
            message = f"is far from {rows[own.like].name}: between {usual / _FAR:.3g} and {usual * _FAR:.3g}"
            yield f"values[{i}].typ", message, f"{value.typ:g}"


def made(own: OwnMaterial) -> Material:
    """The row that an own material without problems makes. A sheet's bending stiffness goes with its E and thickness
    unless it is given."""
    base: Material = getattr(reference(), TABLES[own.table])[own.like]
    ranges = columns(own.table)
    given: dict[str, Any] = {v.of: v.range if ranges[v.of] else v.typ for v in own.values}
    if isinstance(base, Sheet):
        thick = given.get("thickness_mm", base.thickness_mm).typ / base.thickness_mm.typ
        for way in ("along", "across"):
            stiff = given.get(f"E_{way}_MPa", getattr(base, f"E_{way}_MPa")).typ / getattr(base, f"E_{way}_MPa").typ
            given.setdefault(f"EI_{way}_N_mm", getattr(base, f"EI_{way}_N_mm") * stiff * thick**3)
    measured = sorted(_UNIT.sub("", v.of).replace("_", " ") for v in own.values)
    note = f" {own.note}" if own.note else ""
    return replace(
        base, key=own.key, name=own.name, grade="A" if measured else base.grade,
        basis=f"Yours: {', '.join(measured) or 'nothing'} measured, the rest as {base.name}.{note}", **given,
    )  # fmt: skip


def remember(materials: Iterable[OwnMaterial]) -> None:
    """Let the tables answer to the keys of own materials; one with problems is left for the checks to tell."""
    for own in materials:
        if not any(faults(own)):
            own_rows.put(TABLES[own.table], made(own), own.like)


def _renamed(data: Any, names: dict[str, str]) -> Any:
    if isinstance(data, list | tuple):
        return [_renamed(v, names) for v in data]
    if not isinstance(data, dict):
        return data
    out = {}
    for field, value in data.items():
        named = field in _KEYS and isinstance(value, str)
        out[field] = names.get(own_rows.plain(value), own_rows.plain(value)) if named else _renamed(value, names)
    return out


def renamed(data: Any, names: dict[str, str]) -> Any:
    """A document or a piece of one, as plain data, with materials under other keys; all others under their own."""
    return _renamed(data, names)


def named_in(data: Any) -> set[str]:
    """Keys of materials that a document or a piece of one names, as plain data."""
    if isinstance(data, list | tuple):
        return set().union(*(named_in(v) for v in data)) if data else set()
    if not isinstance(data, dict):
        return set()
    own = {v for field, v in data.items() if field in _KEYS and isinstance(v, str)}
    return own.union(*(named_in(v) for v in data.values()))


def inside(data: Any, materials: Any) -> Any:
    """Parts of a document with own materials named by their keys inside the program."""
    names = {}
    for raw in materials if isinstance(materials, list | tuple) else ():
        try:
            own = OwnMaterial.model_validate(raw)
        except ValidationError:
            continue  # told where the document is validated
        names[own.id] = own.key
    return _renamed(data, names)
