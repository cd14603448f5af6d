"""Steps in which stock comes: bars of one kind by section, sheets by weight, plies by number, tapes by width."""

from __future__ import annotations

from collections.abc import Iterator

from fletcher.core.common.quantities import G, in_mm
from fletcher.core.document.airframe import BarLayer, FilmLayer, Layer, StripLayer, WallLayer
from fletcher.core.materials.materials import Bar, Sheet
from fletcher.core.materials.tables import reference


def bar_ladder(key: str) -> list[Bar]:
    """All bars of the same family and shape, by section, the slenderest first."""
    bar, bars = reference().bars[key], reference().bars.values()
    alike = {b.key: b for b in (*bars, bar) if (b.family, b.shape) == (bar.family, bar.shape)}
    return sorted(alike.values(), key=lambda b: b.area_mm2)


def sheet_ladder(key: str) -> list[Sheet]:
    """All sheets of the same family and build, by weight, the lightest first."""
    sheet, sheets = reference().sheets[key], reference().sheets.values()
    alike = {s.key: s for s in (*sheets, sheet) if (s.family, s.build) == (sheet.family, sheet.build)}
    return sorted(alike.values(), key=lambda s: s.areal_mass_g_m2.typ)


def with_bar(layer: BarLayer, bar: Bar) -> BarLayer:
    """The line with another bar; what was made or weighed to fit the old one goes."""
    return layer.model_copy(
        update={"stock": bar.key, "weighed_g_per_m": None, "sleeve": None, "faced_with": None}
        if bar.key != layer.stock
        else {}
    )


def steps(layer: Layer) -> Iterator[tuple[Layer, str]]:
    """Every step in which a line's stock comes, with the words for it; nothing for what comes in any size."""
    if isinstance(layer, BarLayer):
        for bar in bar_ladder(layer.stock):
            yield with_bar(layer, bar), bar.name
    elif isinstance(layer, WallLayer):
        for sheet in sheet_ladder(layer.sheet):
            yield layer.model_copy(update={"sheet": sheet.key, "weighed_g_per_m2": None}), sheet.name
    elif isinstance(layer, FilmLayer):
        for plies in range(1, 7):
            yield layer.model_copy(update={"plies": plies}), "one ply" if plies == 1 else f"{plies} plies"


def widened(layer: StripLayer, width_mm: float) -> StripLayer:
    """A strip at another width, its taper kept in proportion."""
    end = layer.end_width_mm
    changes = {
        "width_mm": round(width_mm, 1),
        "end_width_mm": None if end is None else max(0.5, round(end * width_mm / layer.width_mm, 1)),
    }
    return layer.model_copy(update=changes)


def lighter(layer: Layer) -> Iterator[tuple[Layer, str]]:
    """Ways to leave out some of a line: the next thinner stock of its kind, a ply less, a quarter of its width less."""
    if isinstance(layer, BarLayer):
        ladder = bar_ladder(layer.stock)
        thinner = [b for b in ladder if b.area_mm2 < 0.98 * reference().bars[layer.stock].area_mm2]
        if thinner:
            yield with_bar(layer, thinner[-1]), f"as {thinner[-1].name}"
    elif isinstance(layer, WallLayer):
        sheets = sheet_ladder(layer.sheet)
        own = reference().sheets[layer.sheet].areal_mass_g_m2.typ
        thin = [s for s in sheets if s.areal_mass_g_m2.typ < 0.98 * own]
        if thin:
            changes = {"sheet": thin[-1].key, "weighed_g_per_m2": None}
            yield layer.model_copy(update=changes), f"as {thin[-1].name}"
    if isinstance(layer, StripLayer | FilmLayer | WallLayer) and layer.plies > 1:
        yield layer.model_copy(update={"plies": layer.plies - 1}), "one ply less"
    if isinstance(layer, StripLayer):
        narrow = widened(layer, max(0.5, 0.75 * layer.width_mm))
        yield narrow, f"{in_mm(narrow.width_mm, G)} wide"
