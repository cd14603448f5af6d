"""A thing on the shelf: what it is, how large, how old, where it lies, and whether it may fly."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from datetime import date
from typing import Annotated, Any, Literal, get_args

from pydantic import AfterValidator, Field

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.common.quantities import F0, G, in_g, in_mm
from fletcher.core.document.cases import PRINTABLE, Document, Key
from fletcher.core.document.problems import Problem
from fletcher.core.materials.tables import reference

Kind = Literal["bar", "sheet", "roll", "cloth", "block", "glue", "thing"]
KINDS: tuple[Kind, ...] = get_args(Kind)
_SIZES: dict[Kind, tuple[str, ...]] = {
    "bar": ("length_mm",), "sheet": ("length_mm", "width_mm"), "roll": ("length_mm", "width_mm"),
    "cloth": ("length_mm", "width_mm"), "block": ("length_mm", "width_mm", "thick_mm"), "glue": (), "thing": (),
}  # fmt: skip
"""What a thing of a kind is measured by."""


def _plausible(day: date) -> date:
    if not 1970 <= day.year <= 2100:
        raise ValueError("lies outside the years 1970 to 2100")
    return day


Day = Annotated[date, AfterValidator(_plausible)]
Short = Annotated[str, Field(max_length=120, pattern=PRINTABLE)]
Size = Annotated[float, Field(gt=0, le=200_000)]


class StockItem(Document):
    """A thing on the shelf, or several that are alike. `origin` tells an offcut and what was cut from a scrapped part:
    that never flies as structure."""

    kind: Kind
    key: Key
    count: Annotated[int, Field(ge=1, le=10_000)] = 1
    length_mm: Annotated[Size | None, Field(description="Length left; of a sheet along its grain")] = None
    width_mm: Size | None = None
    thick_mm: Size | None = None
    grams: Annotated[float | None, Field(gt=0, le=100_000, description="What is left in the tube or tin")] = None
    opened: Annotated[Day | None, Field(description="Day on which it was opened or cut")] = None
    keeps_until: Day | None = None
    place: Short = ""
    batch: Short = ""
    price: Annotated[float | None, Field(ge=0, le=100_000, description="Of one")] = None
    note: Short = ""
    origin: Literal["bought", "offcut", "scrap"] = "bought"


def stocked(kind: Kind) -> Mapping[str, Any]:
    """Materials that a thing of a kind may be made of, by key."""
    c = reference()
    found: dict[Kind, Mapping[str, Any]] = {
        "bar": c.bars, "sheet": {**c.sheets, **c.foams}, "roll": c.skins, "cloth": {**c.cloths, **c.skins},
        "block": c.foams, "glue": adhesives(), "thing": {**c.fittings, **c.fasteners, **c.cords},
    }  # fmt: skip
    return found[kind]


def problems_of(item: StockItem) -> Iterator[Problem]:
    """What is impossible about a thing, by field."""
    if item.key not in stocked(item.kind):
        yield Problem(path="key", message=f"is no material of a {item.kind}", value=item.key)
    for field in _SIZES[item.kind]:
        if getattr(item, field) is None:
            yield Problem(path=field, message=f"is needed for a {item.kind}")
    if item.origin == "scrap" and item.kind != "block":
        yield Problem(path="origin", message="only a foam block comes from a scrapped part", value=item.origin)


def name_of(item: StockItem) -> str:
    """What it is made of, by name."""
    found = stocked(item.kind).get(item.key)
    return str(found.name) if found is not None else item.key


def told(item: StockItem) -> str:
    """Its size in words, as many as there are."""
    sizes = [in_mm(v, F0) for f in ("length_mm", "width_mm", "thick_mm") if (v := getattr(item, f)) is not None]
    if item.kind == "bar" and item.length_mm is not None:
        sizes = [in_mm(item.length_mm, F0)]
    size = " × ".join(sizes) + (f"{', ' if sizes else ''}{in_g(item.grams, G)}" if item.grams is not None else "")
    return f"{item.count} of {size}" if item.count > 1 and size else size or str(item.count)


def cautions_of(item: StockItem, today: date) -> list[str]:
    """What to mind of a thing: past its date, from a scrapped part."""
    found = []
    if item.keeps_until is not None and item.keeps_until < today:
        found.append(f"past its date ({item.keeps_until.isoformat()}): try a scrap first, and never a spar joint")
    if item.origin == "scrap":
        found.append("from a scrapped part: for trials, jigs and fillers, never as structure that flies")
    return found


def flies(item: StockItem) -> bool:
    """Whether it may become structure of an airframe."""
    return item.origin != "scrap"
