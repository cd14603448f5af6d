"""The shelf as a table in CSV, in and out: one line a thing, the same headings both ways; read whole or not at all."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from pydantic import ValidationError

from fletcher.core.document.csv_table import columns_of, csv_text, number_in, read_table
from fletcher.core.document.problems import InvalidDocument, Problem, from_validation
from fletcher.core.stock.items import KINDS, StockItem, problems_of, stocked

HEADS = ("kind", "material", "count", "length mm", "width mm", "thickness mm", "left g", "opened", "until", "place",
         "batch", "price", "origin", "note")  # fmt: skip
MOST_LINES = 2000
MOST_CHARACTERS = 400_000
_FIELDS = {
    "kind": "kind", "material": "key", "key": "key", "count": "count", "length": "length_mm", "width": "width_mm",
    "thickness": "thick_mm", "left": "grams", "opened": "opened", "until": "keeps_until", "place": "place",
    "batch": "batch", "price": "price", "origin": "origin", "note": "note",
}  # fmt: skip
_UNITS = {"": 1.0, "mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "g": 1.0, "kg": 1000.0, "oz": 28.349523125}
_NUMBERS = ("count", "length_mm", "width_mm", "thick_mm", "grams", "price")


def stock_csv(items: Sequence[StockItem]) -> str:
    """A table of things."""
    fields = list(dict.fromkeys(_FIELDS.values()))
    rows = [[getattr(i, f) if getattr(i, f) is not None else "" for f in fields] for i in items]
    return csv_text(HEADS, [[str(c) if not isinstance(c, float) else f"{c:g}" for c in row] for row in rows])


def read_stock_csv(text: str) -> list[StockItem]:
    """The things of a table, all of them or none. A material is told by its name or its key.

    Raises
    ------
    InvalidDocument
        With a problem for every line and column that cannot be read.
    """
    table = read_table(text, MOST_LINES, MOST_CHARACTERS)
    columns, problems = columns_of(table.heads, _FIELDS, _UNITS, HEADS)
    lacking = {"kind", "key"} - {f for f, _ in columns.values()}
    if not problems and lacking:
        names = " and ".join(f"“{h}”" for h, f in (("kind", "kind"), ("material", "key")) if f in lacking)
        problems.append(Problem(path=f"line {table.heads[0]}", message=f"lacks the heading {names}"))
    found = []
    if not problems:
        for n, cells in table.rows[1:]:
            item, wrong = _line(columns, cells, f"line {n}", table.comma)
            problems += wrong
            if item is not None:
                found.append(item)
    if problems:
        raise InvalidDocument(problems[:50])
    return found


def _line(
    columns: Mapping[int, tuple[str, float]], cells: Sequence[str], where: str, comma: bool
) -> tuple[StockItem | None, list[Problem]]:  # fmt: skip
    data: dict[str, object] = {}
    problems = []
    for n, (field, times) in columns.items():
        cell = cells[n].strip().removeprefix("'") if n < len(cells) else ""
        if not cell:
            continue
        if field in _NUMBERS:
            value = number_in(cell, comma)
            if value is None:
                problems.append(Problem(path=f"{where}.{field}", message="must be a number", value=repr(cell[:40])))
            data[field] = None if value is None else value * times
        else:
            data[field] = cell.lower() if field in ("kind", "origin") else cell
    kind = data.get("kind")
    if kind not in KINDS:
        problems.append(Problem(path=f"{where}.kind", message=f"must be one of {', '.join(KINDS)}", value=repr(kind)))
    else:
        names = {m.name.lower(): key for key, m in stocked(kind).items()}
        said = str(data.get("key", ""))
        data["key"] = names.get(said.lower(), said)
    if problems:
        return None, problems
    try:
        item = StockItem.model_validate(data)
    except ValidationError as error:
        return None, [p.model_copy(update={"path": f"{where}.{p.path}"}) for p in from_validation(error)]
    wrong = [p.model_copy(update={"path": f"{where}.{p.path}"}) for p in problems_of(item)]
    return (None, wrong) if wrong else (item, [])
