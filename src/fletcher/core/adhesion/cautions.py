"""Cautions at the step that needs them: hazard, what to do, what protects, whom to ask. No substitute for data sheets,
local rules and people who know."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache

from fletcher.core.common.model import Result
from fletcher.core.document.airframe import BarLayer, FilmLayer, Laminate, Part, StripLayer, WallLayer
from fletcher.core.document.shapes import FoldedSection
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.plates import lying
from fletcher.core.materials.tables import table_rows


class Caution(Result):
    """A caution: how serious (1 a note, 3 serious), what to mind, what protects, and what it defers to."""

    key: str
    hazard: str
    severity: int
    caution: str
    protect: str
    defer: str


@cache
def _table() -> tuple[tuple[frozenset[str], Caution], ...]:
    return tuple(
        (
            frozenset((*row["tags"].split(";"), f"key:{row['key']}")),
            Caution(
                key=row["key"], hazard=row["hazard"], severity=int(row["severity"]), caution=row["caution"],
                protect=row["protect"], defer=row["defer"],
            ),
        )
        for row in table_rows("cautions.csv", ())
    )  # fmt: skip


def cautions_for(tags: Iterable[str]) -> list[Caution]:
    """The cautions of any of these tags ("process:hot_wire", "adhesive:ca_thin", …), the most serious first."""
    wanted = frozenset(tags)
    found = [caution for own, caution in _table() if own & wanted]
    return sorted(found, key=lambda c: -c.severity)


_IRONED = frozenset({"hot_iron_film", "covering_film"})
_HARD = ("carbon", "glass")


def making_tags(part: Part, catalogue: Catalogue) -> set[str]:
    """What making a part asks for, as tags of cautions."""
    tags = {"process:cutting"}
    if part.foam is not None:
        tags.add("process:sanding")
        if catalogue.foams[part.foam].hot_wire and not isinstance(part.section, FoldedSection):
            tags.add("process:hot_wire")
    for layer in part.layers:
        if not layer.enabled:
            continue
        if isinstance(layer, FilmLayer | StripLayer):
            if isinstance(layer.skin, Laminate):
                tags.add("process:layup")
                tags.add("adhesive:epoxy_laminating")
                continue
            family = lying(layer.skin, catalogue).family
            tags |= {"process:film_iron"} if family in _IRONED else set()
            tags |= {"process:coating"} if family == "coat" else set()
            if family.endswith(("_cloth", "_ud")):
                tags |= {"process:layup", "adhesive:epoxy_laminating"}
        elif isinstance(layer, WallLayer) and layer.formed == "warm":
            tags.add("process:warm_forming")
        elif isinstance(layer, BarLayer) and layer.stock.startswith(_HARD):
            tags.add("primitive:sleeve_rod")  # sawing and sanding rods and tubes of fibre
    return tags
