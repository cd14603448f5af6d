"""What is left of a thing once a piece was taken from it, and whether that goes back to the shelf.

Back goes a bar of 120 mm and a tenth of its length, a sheet whose rest is 100 × 50, film 300 long at full width, cloth
150 both ways [J]; smaller is scrap.
"""

from __future__ import annotations

from collections.abc import Sequence

from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.stock.items import StockItem

LEAST_MM = {"bar": 120.0, "roll": 300.0, "cloth": 150.0, "sheet": 100.0}
"""[J] Shortest rest that is kept, by kind."""
SHARE = 0.1
"""[J] A bar's rest is kept from this share of its length on."""


def after_layout(item: StockItem, rest_mm: tuple[float, float] | None) -> list[StockItem]:
    """What is on the shelf after pieces were cut from one sheet of a thing: the others as they are, and its largest
    rest where that is kept (along the grain and across; None: nothing)."""
    left = [item.model_copy(update={"count": item.count - 1})] if item.count > 1 else []
    if rest_mm is not None:
        origin = "offcut" if item.origin == "bought" else item.origin
        size = {"length_mm": round(rest_mm[0], 1), "width_mm": round(rest_mm[1], 1)}
        left.append(item.model_copy(update={"count": 1, "origin": origin, **size}))
    return left


def after_cut(item: StockItem, pieces_mm: Sequence[float], kerf_mm: float) -> list[StockItem]:
    """What is on the shelf after pieces were cut along the length of one of a thing: the others as they are, and its
    rest where that is worth keeping.

    Raises
    ------
    InvalidDocument
        Where the pieces are longer than it is.
    """
    if item.length_mm is None or not pieces_mm:
        raise InvalidDocument([Problem(path="pieces_mm", message="is cut along a length, in pieces")])
    taken = sum(pieces_mm) + kerf_mm * (len(pieces_mm) - 1)
    if taken > item.length_mm + 1e-6:
        message = f"must fit into {item.length_mm:g} mm"
        raise InvalidDocument([Problem(path="pieces_mm", message=message, value=f"{taken:g} mm")])
    left = [item.model_copy(update={"count": item.count - 1})] if item.count > 1 else []
    rest = item.length_mm - taken - kerf_mm
    least = LEAST_MM.get(item.kind, 0.0)
    if rest >= (max(least, SHARE * item.length_mm) if item.kind == "bar" else least) and rest > 0:
        origin = "offcut" if item.origin == "bought" else item.origin
        left.append(item.model_copy(update={"count": 1, "length_mm": round(rest, 1), "origin": origin}))
    return left
