"""Steps in which stock comes: bars of one kind by section, sheets by weight, plies by number, tapes by width."""

from __future__ import annotations

from collections.abc import Iterator

from fletcher.core.common.quantities import G, in_mm
from fletcher.core.document.airframe import BarLayer, FilmLayer, Layer, StripLayer, WallLayer
from fletcher.core.materials.materials import Bar, Foam, Sheet, Skin
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


def _line_of(key: str) -> str:
    """What the sizes of one product have in common: its key without the size at the end."""
    return key.rsplit("_", 1)[0]


def skin_ladder(key: str) -> list[Skin]:
    """The skins that are one product in several weights, the lightest first."""
    skin, skins = reference().skins[key], reference().skins.values()
    alike = {s.key: s for s in (*skins, skin) if (s.family, _line_of(s.key)) == (skin.family, _line_of(key))}
    return sorted(alike.values(), key=lambda s: s.areal_mass_g_m2.typ)


def foam_ladder(key: str) -> list[Foam]:
    """The foams that are one product in several densities, the lightest first; a sheet of one thickness has none but
    itself."""
    foam, foams = reference().foams[key], reference().foams.values()
    alike = {f.key: f for f in foams if f.family == foam.family and _line_of(f.key) == _line_of(key) and _by_density(f)}
    return sorted({**alike, key: foam}.values(), key=lambda f: f.density_kg_m3.typ) if _by_density(foam) else [foam]


def _by_density(foam: Foam) -> bool:
    """Whether the size at the end of its key is its density, not the thickness of a sheet."""
    size = foam.key.rsplit("_", 1)[-1]
    return size.isdigit() and abs(int(size) / foam.density_kg_m3.typ - 1) < 0.2


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


_WIDTHS_MM = (5, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150, 200)
"""Widths to which a strip is cut from a piece."""


def width_ladder(layer: StripLayer) -> list[float]:
    """The widths in which a strip's roll comes, else those to which one cuts; its own among them."""
    skins = reference().skins
    roll = skins[layer.skin].widths_mm if isinstance(layer.skin, str) and layer.skin in skins else ()
    return sorted({*(roll or _WIDTHS_MM), layer.width_mm})


def widened(layer: StripLayer, width_mm: float) -> StripLayer:
    """A strip at another width, its taper kept in proportion."""
    end = layer.end_width_mm
    changes = {
        "width_mm": round(width_mm, 1),
        "end_width_mm": None if end is None else max(0.5, round(end * width_mm / layer.width_mm, 1)),
    }
    return layer.model_copy(update=changes)


def lighter(layer: Layer) -> Iterator[tuple[Layer, str]]:
    """Ways to leave out some of a line: the next thinner stock of its kind, a ply less, the next narrower width."""
    if isinstance(layer, BarLayer):
        ladder = bar_ladder(layer.stock)
        thinner = [b for b in ladder if b.area_mm2 < 0.98 * reference().bars[layer.stock].area_mm2]
        if thinner:
            yield with_bar(layer, thinner[-1]), f"use {thinner[-1].name} instead"
    elif isinstance(layer, WallLayer):
        sheets = sheet_ladder(layer.sheet)
        own = reference().sheets[layer.sheet].areal_mass_g_m2.typ
        thin = [s for s in sheets if s.areal_mass_g_m2.typ < 0.98 * own]
        if thin:
            changes = {"sheet": thin[-1].key, "weighed_g_per_m2": None}
            yield layer.model_copy(update=changes), f"use {thin[-1].name} instead"
    if isinstance(layer, StripLayer | FilmLayer) and isinstance(layer.skin, str) and layer.skin in reference().skins:
        grams = reference().skins[layer.skin].areal_mass_g_m2.typ
        thin_skins = [s for s in skin_ladder(layer.skin) if s.areal_mass_g_m2.typ < 0.98 * grams]
        if thin_skins:
            yield layer.model_copy(update={"skin": thin_skins[-1].key}), f"use {thin_skins[-1].name} instead"
    if isinstance(layer, StripLayer | FilmLayer | WallLayer) and layer.plies > 1:
        yield layer.model_copy(update={"plies": layer.plies - 1}), "one ply less"
    if isinstance(layer, StripLayer):
        narrower = [w for w in width_ladder(layer) if w < layer.width_mm]
        if narrower:
            yield widened(layer, narrower[-1]), f"{in_mm(narrower[-1], G)} wide"


_MOST_PLIES = {"tape": 2, "hot_iron_film": 2, "covering_film": 1}
"""Nobody lays more of a tape or a film on itself; of cloths and tows more."""


def _most_plies(layer: StripLayer | FilmLayer) -> int:
    skins = reference().skins
    family = skins[layer.skin].family if isinstance(layer.skin, str) and layer.skin in skins else "cloth"
    return _MOST_PLIES.get(family, 6)


def heavier(layer: Layer) -> Iterator[tuple[Layer, str]]:
    """Ways to give more of a line: the next two thicker bars, the next thicker sheet or skin of its kind, a ply more,
    the next wider roll."""
    if isinstance(layer, BarLayer):
        own = reference().bars[layer.stock].area_mm2
        thicker = [b for b in bar_ladder(layer.stock) if b.area_mm2 > 1.02 * own]
        for bar in thicker[:2]:
            yield with_bar(layer, bar), f"as {bar.name}"
    elif isinstance(layer, WallLayer):
        weight = reference().sheets[layer.sheet].areal_mass_g_m2.typ
        thick = [s for s in sheet_ladder(layer.sheet) if s.areal_mass_g_m2.typ > 1.02 * weight]
        if thick:
            yield layer.model_copy(update={"sheet": thick[0].key, "weighed_g_per_m2": None}), f"as {thick[0].name}"
    elif isinstance(layer, StripLayer | FilmLayer):
        if isinstance(layer.skin, str) and layer.skin in reference().skins:
            grams = reference().skins[layer.skin].areal_mass_g_m2.typ
            strong = [s for s in skin_ladder(layer.skin) if s.areal_mass_g_m2.typ > 1.02 * grams]
            if strong:
                yield layer.model_copy(update={"skin": strong[0].key}), f"as {strong[0].name}"
        if layer.plies < _most_plies(layer):
            yield layer.model_copy(update={"plies": layer.plies + 1}), "one ply more"
    if isinstance(layer, StripLayer):
        wider = [w for w in width_ladder(layer) if w > layer.width_mm]
        if wider:
            yield widened(layer, wider[0]), f"{in_mm(wider[0], G)} wide"
