"""What is wrong with a document, in plain words: one problem per thing, named by the path of its field."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from pydantic import BaseModel, ConfigDict, ValidationError

from fletcher.core.document.bounds import allowed
from fletcher.core.document.defaults import CASES


class Problem(BaseModel):
    """One thing wrong with a document. `path` is like "parts[0].layers[2].end_mm"."""

    model_config = ConfigDict(frozen=True)

    path: str
    message: str
    value: str = ""

    def line(self) -> str:
        """One line for the command line."""
        found = f" (you entered {self.value})" if self.value else ""
        return f"{self.path or 'document'}: {self.message}{found}"


class InvalidDocument(ValueError):  # noqa: N818 - it is a finding, and reads so where it is caught
    """A document that makes no possible airframe; `problems` says why."""

    def __init__(self, problems: Iterable[Problem]) -> None:
        self.problems = list(problems)
        super().__init__("; ".join(p.line() for p in self.problems))


_MEMBERS = ("constrained-str", "function-wrap[_short()]")
"""Members of the one union that is told by its shape: a key of the stockroom, or a laminate (by the validator that
every document has)."""


def _path(location: Iterable[int | str]) -> str:
    """Pydantic's location as a path, without the names of union members."""
    layers = {"bar", "strip", "film", "wall", "cut", "cord"}
    tags = {*layers, "four_digit", "rectangle", "ellipse", "points", "held", "glued", "bands", *CASES}
    out = ""
    for step in location:
        if isinstance(step, int):
            out += f"[{step}]"
        elif step not in tags and step not in _MEMBERS:
            out += f".{step}" if out else str(step)
    return out


def shown(value: Any) -> str:
    """A found value as it is told, cut where it is long; nothing for containers."""
    if isinstance(value, Mapping | list | tuple):
        return ""
    text = repr(value) if isinstance(value, str) else str(value)
    return text if len(text) <= 60 else text[:57] + "..."


def _plain(error: Mapping[str, Any], field: str) -> str:
    """A Pydantic error of a field in plain words, with what is allowed there in the reader's units."""
    context = error.get("ctx", {})
    limits = {"greater_than_equal": "ge", "greater_than": "gt", "less_than_equal": "le", "less_than": "lt"}
    kind = str(error["type"])
    if kind in limits:
        key = limits[kind]
        return f"must be {allowed(field.rsplit('.', 1)[-1], (key, float(context[key])))}"
    fixed = {
        "missing": "is missing",
        "extra_forbidden": "is not a known field",
        "finite_number": "must be a finite number",
        "float_type": "must be a number",
        "float_parsing": "must be a number",
        "int_type": "must be a whole number",
        "int_parsing": "must be a whole number",
        "int_from_float": "must be a whole number",
        "bool_type": "must be true or false",
        "bool_parsing": "must be true or false",
        "string_type": "must be text",
        "string_pattern_mismatch": "contains characters that are not allowed",
        "union_tag_not_found": "needs a kind (type or shape)",
        "json_invalid": "is not valid JSON",
    }
    if kind in fixed:
        return fixed[kind]
    if kind in ("too_long", "string_too_long"):
        return f"is too long: no more than {context.get('max_length')}"
    if kind in ("too_short", "string_too_short"):
        return f"is too short: at least {context.get('min_length')}"
    if kind in ("literal_error", "union_tag_invalid"):
        return f"must be one of {context.get('expected') or context.get('expected_tags')}"
    return str(error["msg"])


MOST_TOLD = 50
"""So many problems are told of one document."""


def from_validation(error: ValidationError) -> list[Problem]:
    """Problems of a document whose shape is wrong."""
    return from_errors(error.errors())


def from_errors(errors: Iterable[Mapping[str, Any]]) -> list[Problem]:
    """Problems from Pydantic's list of errors. Of a skin that is neither key nor laminate, only the member that was
    meant is told."""
    found: list[Problem] = []
    short: set[str] = set()
    for e in errors:
        where = list(e["loc"])
        if "constrained-str" in where and not isinstance(e.get("input"), str):
            continue
        if where and where[-1] == _MEMBERS[1]:
            if isinstance(e.get("input"), str):
                continue
            e = {**e, "type": "literal_error", "ctx": {"expected": "a skin from the Stockroom or a laminate"}}
        dry = where and where[-1] == "resin" and e["type"] in ("string_type", "string_too_short", "missing")
        message = "a laminate needs a resin: choose one from the Stockroom" if dry else _plain(e, _path(where))
        found.append(Problem(path=_path(where), message=message, value="" if dry else shown(e.get("input"))))
        if e["type"] == "too_short":
            short.add(found[-1].path)
        if len(found) > MOST_TOLD:
            found[MOST_TOLD:] = [Problem(path="", message=f"has more than {MOST_TOLD} faults: these are the first")]
            break
    # a list whose only item is wrong is told as too short as well
    return [f for f in found if f.path not in short or not any(o.path.startswith(f.path + "[") for o in found)]
