"""How hot the iron is for a film on a foam or the face of a sheet: tack, bond and shrink, and where the foam gives.

Foam takes up so little heat that its face comes to the sole's temperature within the seconds of a pass: what the iron
shows is what the foam gets. Thin sheet and edges are hot right through: their limit is lower.
"""

from __future__ import annotations

import math
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
PROBE_C, DIAL_C = 2.0, 8.0
"""[J] Error of the sole's temperature with a thermometer under the sock, and by the dial alone."""
THICKER_C = {"lamfilm_75": 3.0, "lamfilm_125": 7.0}
"""How much hotter a thicker film of a kind tacks and bonds; what the foam stands is the same."""


class Iron(Result):
    """The iron for a film on what lies beneath it, °C at the sole: from where it tacks, between which it bonds and
    shrinks (None: no shrinking pass), what the foam stands, on its edges and where it is thin, what to set it to for
    the bond and for the shrinking pass, and in words what to do. `avoid` where no temperature tacks the film and
    spares the foam: nothing is set then."""

    line_id: str
    skin: str
    beneath: str
    tack_C: float | None
    bond_C: tuple[float, float] | None
    shrink_C: tuple[float, float] | None
    limit_C: float
    edge_C: float
    set_C: float | None
    set_shrink_C: float | None
    verdict: Literal["good", "marginal", "avoid"]
    says: str


@cache
def _table() -> dict[tuple[str, str], dict[str, str]]:
    """Rows by skin and by the family of foam or face beneath it."""
    return {(skin, row["face"]): row for row in table_rows("irons.csv", ()) for skin in row["skins"].split(";")}


def _number(row: dict[str, str], name: str) -> float | None:
    return float(row[name]) if row[name] else None


def _pair(row: dict[str, str], name: str, hotter: float) -> tuple[float, float] | None:
    low, high = _number(row, f"{name}_from_C"), _number(row, f"{name}_to_C")
    return None if low is None or high is None else (low + hotter, high + hotter)


def _within(between: tuple[float, float] | None, here: float) -> tuple[float, float] | None:
    """So much of a range as the foam stands; None where it stands none of it."""
    return None if between is None or between[0] > here else (between[0], min(between[1], here))


def iron_for(skin: str, face: str, thick_mm: float, probe: bool = True) -> Iron | None:
    """The iron for a film by its key on a family of foam, or face of sheet, so thick.

    It is set to the middle of the range that bonds, and never within the error of its own temperature of what the foam
    stands: `PROBE_C` with a thermometer on the sole, `DIAL_C` by its dial alone. Below the range it only tacks.

    Returns
    -------
    Iron
        None where it is no film that is ironed, or nothing is known of the two.
    """
    row = _table().get((skin, face))
    if row is None:
        return None
    limit, edge = float(row["limit_C"]), float(row["thin_limit_C"])
    here = edge if thick_mm < THIN_MM else max(limit - MIDDLING_C, edge) if thick_mm < MIDDLING_MM else limit
    hotter = THICKER_C.get(skin, 0.0)
    most = here - (PROBE_C if probe else DIAL_C)
    tack, bond, shrink = _number(row, "tack_C"), _pair(row, "bond", hotter), _pair(row, "shrink", 0.0)
    tack = None if tack is None else tack + hotter
    at = None if bond is None else math.floor(min((bond[0] + bond[1]) / 2, most))
    verdict = row["verdict"]
    if tack is None or bond is None or at is None or at < tack:
        verdict, at = "avoid", None
    elif at < bond[0]:
        verdict = "marginal"
    bonds = None if at is None else _within(bond, here)
    shrinks = None if at is None or shrink is None or shrink[0] > most else _within(shrink, here)
    again = None if shrinks is None or shrink is None else math.floor(min((shrink[0] + shrink[1]) / 2, most))
    return Iron(
        line_id="", skin=skin, beneath=face, tack_C=None if at is None else tack, bond_C=bonds, shrink_C=shrinks,
        limit_C=here, edge_C=edge, set_C=at, set_shrink_C=again, verdict=verdict,
        says=_says(verdict, at, bonds, shrinks, here, edge),
    )  # fmt: skip


def _says(
    verdict: str, at: float | None, bonds: tuple[float, float] | None, shrinks: tuple[float, float] | None,
    here: float, edge: float,
) -> str:  # fmt: skip
    if at is None:
        return (
            f"Do not iron it on: what tacks it is too near the {in_C(here, G)} that the foam stands. Use tape, or "
            "contact glue."
        )
    out = "Thermometer on the sole, a sock over it, slowly and once."
    if at > edge:
        out += f" Edges stand {in_C(edge, G)} only: pass over them quicker."
    if shrinks is None:
        out += " No shrinking pass: pull it taut as it goes on."
    if bonds is None or at < bonds[0]:
        out += " So cool it only tacks: prime the foam first, go slowly, and try a scrap."
    elif verdict == "marginal":
        out += " Prime the foam first, and try a scrap: the film holds little at this heat."
    return out


def irons_of(part: Part, catalogue: Catalogue, probe: bool = True) -> list[Iron]:
    """The iron for every film and strip of a checked part, on each thing that lies beneath it; `probe`: its sole is
    measured."""
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
            found = iron_for(la.skin, face, thick, probe)
            if found is not None:
                skin = la.name or catalogue.skins[la.skin].name
                out.append(found.model_copy(update={"line_id": la.id, "skin": skin, "beneath": name}))
    return out
