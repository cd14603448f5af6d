"""The Log as a table in CSV, in and out: one line an entry, the same headings both ways.

What is read comes whole or not at all. A date has a zone or is UTC; a part is told by its name or id.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import get_args

from pydantic import ValidationError

from fletcher.core.common.model import Result
from fletcher.core.document.airframe import Part
from fletcher.core.document.csv_table import columns_of, csv_text, number_in, read_table
from fletcher.core.document.problems import InvalidDocument, Problem, from_validation
from fletcher.core.repair.events import Event, Kind

HEADS = ("happened", "kind", "part", "place mm", "flights", "minutes", "wind m/s", "battery", "entry")
MOST_LINES = 2000
MOST_CHARACTERS = 1_000_000
_FIELDS = {
    "happened": "happened", "when": "happened", "date": "happened", "kind": "kind", "type": "kind", "part": "part",
    "place": "at_mm", "flights": "count", "minutes": "minutes", "wind": "wind_m_s", "battery": "battery",
    "entry": "says", "text": "says", "note": "says",
}  # fmt: skip
_UNITS = {"": 1.0, "mm": 1.0, "cm": 10.0, "in": 25.4, "m/s": 1.0, "km/h": 1 / 3.6, "kn": 0.514444, "mph": 0.44704}
_FLIGHT = ("count", "minutes", "wind_m_s", "battery")
_NUMBERS = ("at_mm", "count", "minutes", "wind_m_s")
_DAY = re.compile(r"(\d{1,2})\.(\d{1,2})\.(\d{4})(.*)$")


class LogLine(Result):
    """An entry of a table: when it happened (None: now), and what."""

    happened: datetime | None
    event: Event


def log_line(happened: datetime, event: Event, names: Mapping[str, str]) -> str:
    """An entry as a line of the table; `names` are the parts' by their ids."""
    f, part = event.flight, event.part_id or ""
    row = (
        happened.isoformat(timespec="minutes"), event.kind, names.get(part, part), event.at_mm,
        f and f.count, f and f.minutes, f and f.wind_m_s, f and f.battery, event.says,
    )  # fmt: skip
    return csv_text(("x",), (row,)).partition("\n")[2]


def heading() -> str:
    """The first line of the table."""
    return csv_text(HEADS, ())


def read_log_csv(text: str, parts: Sequence[Part], now: datetime) -> list[LogLine]:
    """The entries of a table, all of them or none.

    Raises
    ------
    InvalidDocument
        With a problem for every line and column that cannot be read.
    """
    table = read_table(text, MOST_LINES, MOST_CHARACTERS)
    columns, problems = columns_of(table.heads, _FIELDS, _UNITS, HEADS)
    lacking = {"kind", "says"} - {f for f, _ in columns.values()}
    if not problems and lacking:
        names = " and ".join(f"“{h}”" for h in ("kind", "entry") if _FIELDS[h] in lacking)
        problems.append(Problem(path=f"line {table.heads[0]}", message=f"lacks the heading {names}"))
    found: list[LogLine] = []
    if not problems:
        known = {key.lower(): p for p in parts for key in (p.name, p.id)}
        for n, cells in table.rows[1:]:
            line, wrong = _line(columns, cells, f"line {n}", table.comma, known, now)
            problems += wrong
            if line is not None:
                found.append(line)
    if problems:
        raise InvalidDocument(problems[:50])
    return found


def _line(
    columns: Mapping[int, tuple[str, float]], cells: Sequence[str], where: str, comma: bool,
    known: Mapping[str, Part], now: datetime,
) -> tuple[LogLine | None, list[Problem]]:  # fmt: skip
    data: dict[str, object] = {}
    problems = []

    def wrong(field: str, message: str, cell: str) -> None:
        problems.append(Problem(path=f"{where}.{field}", message=message, value=repr(cell[:40])))

    happened: datetime | None = None
    for n, (field, times) in columns.items():
        cell = cells[n].strip().removeprefix("'") if n < len(cells) else ""
        if not cell:
            continue
        if field in _NUMBERS:
            value = number_in(cell, comma)
            if value is None:
                wrong(field, "must be a number", cell)
            data[field] = None if value is None else value * times
        elif field == "happened":
            happened = _moment(cell)
            if happened is None or not datetime(1970, 1, 1, tzinfo=UTC) <= happened <= now:
                wrong(field, "must be a date from 1970 until now, as 2026-05-30 or 2026-05-30 14:20", cell)
        elif field == "kind" and cell.lower() not in get_args(Kind):
            wrong(field, f"must be one of {', '.join(get_args(Kind))}", cell)
        elif field == "part":
            part = known.get(cell.lower())
            if part is None:
                wrong(field, "is no part of this airframe", cell)
            data["part_id"] = part and part.id
        else:
            data[field] = cell.lower() if field == "kind" else cell
    problems += _beyond(data, known, where)
    if problems:
        return None, problems
    flight = {k: data.pop(k) for k in _FLIGHT if k in data}
    try:
        return LogLine(happened=happened, event=Event.model_validate({**data, "flight": flight or None})), []
    except ValidationError as error:
        return None, [p.model_copy(update={"path": f"{where}.{p.path}"}) for p in from_validation(error)]


def _beyond(data: Mapping[str, object], known: Mapping[str, Part], where: str) -> list[Problem]:
    """A place that no part has."""
    at = data.get("at_mm")
    if not isinstance(at, float):
        return []
    part = next((p for p in known.values() if p.id == data.get("part_id")), None)
    if part is None:
        return [Problem(path=f"{where}.at_mm", message="needs a part", value=f"{at:g}")]
    if not 0 <= at <= part.span_mm:
        message = f"must be between 0 mm and {part.span_mm:g} mm"
        return [Problem(path=f"{where}.at_mm", message=message, value=f"{at:g}")]
    return []


def _moment(cell: str) -> datetime | None:
    """A date, with or without time and zone; without a zone it is UTC."""
    day = _DAY.match(cell)
    text = f"{day[3]}-{day[2]:0>2}-{day[1]:0>2}{day[4]}" if day else cell
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        return None
    return at if at.tzinfo else at.replace(tzinfo=UTC)
