"""Tables in CSV: written with commas and points; read with what separates and what marks the decimals found out."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from fletcher.core.document.problems import InvalidDocument, Problem

MOST_CHARACTERS = 100_000


def safe_cell(value: object) -> object:
    """A cell; a text that a table program would take for a formula is marked as text."""
    if value is None:
        return ""
    return f"'{value}" if isinstance(value, str) and value[:1] in ("=", "+", "-", "@") else value


def csv_text(heads: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """A table with its headings."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(heads)
    writer.writerows([safe_cell(c) for c in row] for row in rows)
    return out.getvalue()


@dataclass(frozen=True)
class Table:
    """Cells of a table with the number of the line where each row stands; the first row holds the headings. `comma`
    tells that a comma marks decimals, as it does not separate the columns."""

    rows: list[tuple[int, list[str]]]
    comma: bool

    @property
    def heads(self) -> tuple[int, list[str]]:
        """The headings and their line."""
        return self.rows[0]


def read_table(text: str, most_lines: int, most_characters: int = MOST_CHARACTERS) -> Table:
    """The rows of a table that hold anything; what separates is what the first line has most of.

    Raises
    ------
    InvalidDocument
        Where it is too long or empty.
    """
    if len(text) > most_characters:
        raise InvalidDocument([Problem(path="file", message=f"must have at most {most_characters} characters")])
    lines = text.lstrip("\ufeff").splitlines(keepends=True)
    head = next((line for line in lines if line.strip()), "")
    mark = max(";\t,", key=head.count)
    reader = csv.reader(lines, delimiter=mark)
    rows, at = [], 1
    for cells in reader:
        if any(c.strip() for c in cells):
            rows.append((at, cells))
        at = reader.line_num + 1
    if not rows:
        raise InvalidDocument([Problem(path="file", message="is empty: the first line holds the headings")])
    if len(rows) - 1 > most_lines:
        message = f"must have at most {most_lines} lines"
        raise InvalidDocument([Problem(path="file", message=message, value=f"{len(rows) - 1}")])
    return Table(rows, mark != ",")


def columns_of(
    heads: tuple[int, Sequence[str]], fields: Mapping[str, str], units: Mapping[str, float], known: Sequence[str]
) -> tuple[dict[int, tuple[str, float]], list[Problem]]:  # fmt: skip
    """Which field each column holds, and times how much by the unit after its heading; a problem for every heading that
    is not known. `fields` by the first word of a heading; `known` are the headings as they are told."""
    line, cells = heads
    columns: dict[int, tuple[str, float]] = {}
    problems = []
    for n, head in enumerate(cells):
        word = re.match(r"\s*([a-z]+)\W*([a-z/]*)\W*$", head.strip().lower())
        field = fields.get(word[1]) if word else None
        if word and field is not None and word[2] in units:
            columns[n] = field, units[word[2]]
        elif head.strip():
            message = f"is no known heading: {', '.join(known)}"
            problems.append(Problem(path=f"line {line}", message=message, value=repr(head.strip()[:40])))
    return columns, problems


def number_in(cell: str, comma: bool) -> float | None:
    """A number; a comma marks the decimals where it does not separate the columns."""
    text = cell.replace("\u2212", "-").replace("\u00a0", "").replace(" ", "")
    if comma and "," in text:
        text = text.replace(".", "").replace(",", ".") if "." in text else text.replace(",", ".")
    return float(text) if re.fullmatch(r"[-+]?(\d+\.?\d*|\.\d+)", text) else None
