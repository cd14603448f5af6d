"""How hot the iron is for a film on a foam or the face of a sheet: tack, bond and shrink, and where the foam gives.

Foam takes up so little heat that its face comes to the sole's temperature within the seconds of a pass: what the iron
shows is what the foam gets. Thin sheet and edges are hot right through: their limit is lower.
"""

from __future__ import annotations

from functools import cache
from typing import Literal

from fletcher.core.adhesion.adhesives import SHEET_FACES, foam_families
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import G, in_C, in_mm
from fletcher.core.document.airframe import FilmLayer, Part, StripLayer, WallLayer
from fletcher.core.materials.materials import Catalogue
from fletcher.core.materials.tables import table_rows

THIN_MM, MIDDLING_MM = 3.0, 6.0
"""Below the first a foam has its thin limit throughout; below the second its limit is lower by `MIDDLING_C`."""
MIDDLING_C = 5.0


class Iron(Result):
    """The iron for a film on what lies beneath it, °C at the sole: from where it tacks, between which it bonds and
    shrinks (None: no shrinking pass), what the foam stands, on its edges and where it is thin, and in words what to do;
    `avoid` where no temperature bonds the film and spares the foam."""

    line_id: str
    skin: str
    beneath: str
    tack_C: float | None
    bond_C: tuple[float, float] | None
    shrink_C: tuple[float, float] | None
    limit_C: float
    edge_C: float
    verdict: Literal["good", "marginal", "avoid"]
    says: str


@cache
def _table() -> dict[tuple[str, str], dict[str, str]]:
    """Rows by skin and by the family of foam or face beneath it."""
    return {(skin, row["face"]): row for row in table_rows("irons.csv", ()) for skin in row["skins"].split(";")}


def _number(row: dict[str, str], name: str) -> float | None:
    return float(row[name]) if row[name] else None


def iron_for(skin: str, face: str, thick_mm: float) -> Iron | None:
    """The iron for a film by its key on a family of foam, or face of sheet, so thick; None where it is no film that is
    ironed, or nothing is known of the two."""
    row = _table().get((skin, face))
    if row is None:
        return None
    limit, edge = float(row["limit_C"]), float(row["thin_limit_C"])
    here = edge if thick_mm < THIN_MM else max(limit - MIDDLING_C, edge) if thick_mm < MIDDLING_MM else limit
    bond = (_number(row, "bond_from_C"), _number(row, "bond_to_C"))
    shrink = (_number(row, "shrink_from_C"), _number(row, "shrink_to_C"))
    verdict = row["verdict"]
    fits = bond[0] is not None and bond[1] is not None and bond[0] <= here
    bonds = (bond[0], min(bond[1], here)) if fits and bond[0] is not None and bond[1] is not None else None
    shrinks = None
    if bonds and shrink[0] is not None and shrink[1] is not None and shrink[0] <= here:
        shrinks = (shrink[0], min(shrink[1], here))
    if bonds is None:
        verdict = "avoid"
    elif verdict == "good" and bonds[1] - bonds[0] < MIDDLING_C:
        verdict = "marginal"
    return Iron(
        line_id="", skin=skin, beneath=face, tack_C=None if bonds is None else _number(row, "tack_C"), bond_C=bonds,
        shrink_C=shrinks, limit_C=here, edge_C=edge, verdict=verdict, says=_says(verdict, bonds, shrinks, here, edge),
    )  # fmt: skip


def _says(
    verdict: str, bonds: tuple[float, float] | None, shrinks: tuple[float, float] | None, here: float, edge: float
) -> str:  # fmt: skip
    if bonds is None:
        return (
            f"Do not iron it on: what bonds it is hotter than the {in_C(here, G)} that the foam stands. Use tape, or "
            "contact glue."
        )
    out = "Thermometer on the sole, a sock over it, slowly and once."
    if bonds[1] > edge:
        out += f" Edges stand {in_C(edge, G)} only: pass over them quicker."
    if shrinks is None:
        out += " No shrinking pass: pull it taut as it goes on."
    if verdict == "marginal":
        out += " Prime the foam first, and try a scrap: the film holds little at this heat."
    return out


def irons_of(part: Part, catalogue: Catalogue) -> list[Iron]:
    """The iron for every film and strip of a checked part, on each thing that lies beneath it."""
    beneath: list[tuple[str, str, float]] = []
    if part.foam is not None and part.foam in foam_families():
        thick = min(part.root_thickness_mm, part.tip_thickness_mm)
        beneath.append((foam_families()[part.foam], catalogue.foams[part.foam].name, thick))
    for la in part.layers:
        sheet = catalogue.sheets[la.sheet] if isinstance(la, WallLayer) and la.enabled else None
        face = None if sheet is None else SHEET_FACES.get(sheet.family) or foam_families().get(sheet.core or "")
        if sheet is not None and face is not None:
            beneath.append((face, f"{sheet.name}, {in_mm(sheet.thickness_mm.typ, G)}", sheet.thickness_mm.typ))
    out = []
    for la in part.layers:
        if not isinstance(la, FilmLayer | StripLayer) or not la.enabled or not isinstance(la.skin, str):
            continue
        if la.skin not in catalogue.skins:  # a piece of sheet is glued
            continue
        for face, name, thick in dict.fromkeys(beneath):
            found = iron_for(la.skin, face, thick)
            if found is not None:
                skin = la.name or catalogue.skins[la.skin].name
                out.append(found.model_copy(update={"line_id": la.id, "skin": skin, "beneath": name}))
    return out
