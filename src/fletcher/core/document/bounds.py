"""What a number may be: both ends of a field's range, of which a validator tells only the one that was passed.

The error names the field and the bound; the other end is what every model with such a field agrees upon.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from functools import cache

from annotated_types import Ge, Gt, Le, Lt
from pydantic import BaseModel

from fletcher.core.common.quantities import of_field

LOWER, UPPER = ("ge", "gt"), ("le", "lt")
Bound = tuple[str, float]
"""Kind ("ge", "gt", "le", "lt") and value."""


def _models(of: type[BaseModel] = BaseModel) -> Iterator[type[BaseModel]]:
    for model in of.__subclasses__():
        yield model
        yield from _models(model)


def _of_metadata(metadata: list[object]) -> Iterator[Bound]:
    for one in metadata:
        for kind, sort in (("ge", Ge), ("gt", Gt), ("le", Le), ("lt", Lt)):
            if isinstance(one, sort):
                yield kind, float(getattr(one, kind))


@cache
def _known(count: int) -> dict[tuple[str, Bound], set[Bound | None]]:
    """The other end of the range of fields of a name with a bound, by all models there are; `count` of them."""
    known: dict[tuple[str, Bound], set[Bound | None]] = defaultdict(set)
    for model in _models():
        for name, field in model.model_fields.items():
            bounds = list(_of_metadata(field.metadata))
            for one in bounds:
                ends = UPPER if one[0] in LOWER else LOWER
                known[name, one].add(next((b for b in bounds if b[0] in ends), None))
    return known


def allowed(field: str, bound: Bound) -> str:
    """What a field may be whose bound was passed, in words: both ends where they are known, with its unit."""
    others = _known(sum(1 for _ in _models())).get((field, bound), set())
    other = next(iter(others)) if len(others) == 1 else None
    low, high = (bound, other) if bound[0] in LOWER else (other, bound)
    alone = {"ge": "at least", "gt": "more than", "le": "at most", "lt": "less than"}
    if low is None or high is None:
        return f"{alone[bound[0]]} {of_field(bound[1], field)}"
    if (low[0], high[0]) == ("ge", "le"):
        return f"between {of_field(low[1], field)} and {of_field(high[1], field)}"
    return " and ".join(f"{alone[kind]} {of_field(value, field)}" for kind, value in (low, high))
