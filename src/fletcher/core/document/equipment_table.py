"""Equipment as a table in CSV: written with commas and points; read with what separates and what marks the decimals
found out, headings in any order, lengths in mm, cm or in, masses in g, kg or oz."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import get_args

from pydantic import ValidationError

from fletcher.core.document.csv_table import columns_of, csv_text, number_in, read_table
from fletcher.core.document.equipment import Equipment, What
from fletcher.core.document.problems import InvalidDocument, Problem, from_validation
from fletcher.core.materials.tables import reference

HEADS = ("name", "what", "stock", "mass g", "x mm", "y mm", "z mm", "pair", "from mm", "to mm")
MOST_LINES = 60
_FIELDS = {
    "name": "name", "what": "what", "type": "what", "stock": "stock", "mass": "mass_g", "x": "x_mm", "y": "y_mm",
    "z": "z_mm", "pair": "pair", "from": "from_mm", "to": "to_mm",
}  # fmt: skip
_UNITS = {"": 1.0, "mm": 1.0, "cm": 10.0, "in": 25.4, "g": 1.0, "kg": 1000.0, "oz": 28.349523125}
_YES, _NO = {"yes", "y", "true", "1", "x"}, {"", "no", "n", "false", "0"}
_NUMBERS = ("mass_g", "x_mm", "y_mm", "z_mm", "from_mm", "to_mm")


def equipment_csv(items: Iterable[Equipment]) -> str:
    """What is carried, a line each."""
    return csv_text(HEADS, (
        (e.name, e.what, e.stock, e.mass_g, e.x_mm, e.y_mm, e.z_mm, "yes" if e.pair else "no", e.from_mm, e.to_mm)
        for e in items
    ))  # fmt: skip


def read_equipment_csv(text: str) -> list[Equipment]:
    """The equipment of a table, all of it or none.

    Raises
    ------
    InvalidDocument
        With a problem for every line and column that cannot be read.
    """
    table = read_table(text, MOST_LINES)
    columns, problems = columns_of(table.heads, _FIELDS, _UNITS, HEADS)
    if not problems and "x_mm" not in {f for f, _ in columns.values()}:
        problems.append(Problem(path=f"line {table.heads[0]}", message="lacks the heading “x mm”"))
    found: list[Equipment] = []
    if not problems:
        for n, cells in table.rows[1:]:
            item, wrong = _item(columns, cells, n, table.comma, len(found))
            problems += wrong
            if item is not None:
                found.append(item)
    if problems:
        raise InvalidDocument(problems[:50])
    return found


def _item(
    columns: Mapping[int, tuple[str, float]], cells: Sequence[str], line: int, comma: bool, number: int
) -> tuple[Equipment | None, list[Problem]]:
    data: dict[str, object] = {"id": f"item-{number + 1}"}
    problems = []
    for n, (field, times) in columns.items():
        cell = cells[n].strip() if n < len(cells) else ""
        where = f"line {line}.{field}"
        if field in _NUMBERS:
            value = number_in(cell, comma)
            if cell and value is None:
                problems.append(Problem(path=where, message="must be a number", value=repr(cell[:40])))
            elif value is not None:
                data[field] = value * times
        elif field == "pair":
            if cell.lower() not in _YES | _NO:
                problems.append(Problem(path=where, message="must be yes or no", value=repr(cell[:40])))
            data["pair"] = cell.lower() in _YES
        elif cell:
            data[field] = cell.lstrip("'") if field == "name" else cell.lower()
    stock = data.get("stock")
    if isinstance(stock, str) and stock not in reference().fittings:
        problems.append(Problem(path=f"line {line}.stock", message="is no stock item", value=repr(stock[:40])))
    if data.get("what", "other") not in get_args(What):
        message = f"must be one of {', '.join(get_args(What))}"
        problems.append(Problem(path=f"line {line}.what", message=message, value=repr(data["what"])[:40]))
    if "mass_g" not in data and stock is None:
        problems.append(Problem(path=f"line {line}.mass_g", message="is missing: enter a mass or a stock item"))
    if problems:
        return None, problems
    try:
        return Equipment.model_validate(data), []
    except ValidationError as error:
        told = from_validation(error)
        return None, [p.model_copy(update={"path": f"line {line}.{p.path}"}) for p in told]
