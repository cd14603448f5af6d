"""Tests as a table in CSV, in and out: a line a reading, the same headings both ways; read whole or not at all."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import ValidationError

from fletcher.core.document.csv_table import columns_of, csv_text, number_in, read_table
from fletcher.core.document.problems import InvalidDocument, Problem, from_validation
from fletcher.core.rig.rig_tests import GRAVITY, RigTest

HEADS = ("test", "part", "case", "instrument", "load N", "time s", "bend mm", "held N", "broke N", "answer")
MOST_LINES, MOST_CHARACTERS = 2000, 200_000
_FIELDS = {
    "test": "id", "part": "part_id", "case": "case_id", "instrument": "instrument", "load": "load_N", "time": "at_s",
    "bend": "bend_mm", "held": "held_N", "broke": "broke_N", "answer": "answer",
}  # fmt: skip
_UNITS = {"": 1.0, "n": 1.0, "g": GRAVITY / 1000, "kg": GRAVITY, "s": 1.0, "min": 60.0, "mm": 1.0, "cm": 10.0,
          "in": 25.4}  # fmt: skip
_NUMBERS = ("load_N", "at_s", "bend_mm", "held_N", "broke_N")
_READING = ("load_N", "at_s", "bend_mm")
_ONCE = ("part_id", "case_id", "instrument", "held_N", "broke_N", "answer")


def rig_csv(tests: Sequence[RigTest]) -> str:
    """A table of tests."""
    rows = []
    for t in tests:
        own = [t.id, t.part_id, t.case_id, t.instrument]
        end = [f"{v:.9g}" if v is not None else "" for v in (t.held_N, t.broke_N)] + [t.answer]
        for r in t.readings:
            rows.append([*own, f"{r.load_N:.9g}", f"{r.at_s:.9g}", f"{r.bend_mm:.9g}", *end])
        if not t.readings:
            rows.append([*own, "", "", "", *end])
    return csv_text(HEADS, rows)


def read_rig_csv(text: str) -> tuple[RigTest, ...]:
    """The tests of a table, all of them or none; lines of one test belong together wherever they stand.

    Raises
    ------
    InvalidDocument
        With a problem for every line and column that cannot be read.
    """
    table = read_table(text, MOST_LINES, MOST_CHARACTERS)
    columns, problems = columns_of(table.heads, _FIELDS, _UNITS, HEADS)
    lacking = {"id", "part_id", "case_id"} - {f for f, _ in columns.values()}
    if not problems and lacking:
        names = " and ".join(f"“{h}”" for h, f in _FIELDS.items() if f in lacking)
        problems.append(Problem(path=f"line {table.heads[0]}", message=f"lacks the heading {names}"))
    tests: dict[str, dict[str, Any]] = {}
    if not problems:
        for n, cells in table.rows[1:]:
            problems += _line(columns, cells, f"line {n}", table.comma, tests)
    if problems:
        raise InvalidDocument(problems[:50])
    return tuple(RigTest.model_validate(t) for t in tests.values())


def _line(
    columns: Mapping[int, tuple[str, float]], cells: Sequence[str], where: str, comma: bool,
    tests: dict[str, dict[str, Any]],
) -> list[Problem]:  # fmt: skip
    values: dict[str, Any] = {}
    problems = []
    for n, (field, unit) in columns.items():
        text = cells[n].strip() if n < len(cells) else ""
        if not text:
            continue
        if field in _NUMBERS:
            value = number_in(text, comma)
            if value is None:
                problems.append(Problem(path=f"{where}, {field}", message="is no number", value=text))
                continue
            values[field] = value * unit
        else:
            values[field] = text
    if problems:
        return problems
    key = str(values.get("id", ""))
    test = tests.setdefault(key, {"id": key, "readings": []})
    for field in _ONCE:
        if field in values and test.setdefault(field, values[field]) != values[field]:
            message = f"says otherwise than an earlier line of this test ({test[field]})"
            problems.append(Problem(path=f"{where}, {field}", message=message, value=str(values[field])))
    reading = {f: values[f] for f in _READING if f in values}
    if reading:
        lacking = [f for f in _READING if f not in reading]
        if lacking:
            problems.append(Problem(path=where, message=f"a reading lacks {' and '.join(lacking)}"))
        else:
            test["readings"].append(reading)
    if not problems:
        try:
            RigTest.model_validate(test)
        except ValidationError as error:
            problems += [p.model_copy(update={"path": f"{where}, {p.path}"}) for p in from_validation(error)]
    return problems
