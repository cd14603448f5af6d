"""Setting cards: what the tool is set to, how much is mixed and how hard it is pressed, at the step that needs it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from fletcher.core.adhesion.adhesives import SHEET_FACES, adhesives, curings, foam_families
from fletcher.core.adhesion.readiness import slowed
from fletcher.core.common.model import Result
from fletcher.core.common.quantities import F0, F1, G2, G, in_C, in_g, in_mm, number, quantity
from fletcher.core.document.airframe import (
    BarLayer,
    FilmLayer,
    Laminate,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.estimate.effort import skin_area, wall_area
from fletcher.core.layup.laminates import SOAK_G_M2, skin_of
from fletcher.core.layup.stackup import KERF_MM
from fletcher.core.making.hot_glue import BEAD_MM, bead
from fletcher.core.making.hot_wire import MOST, SPARE_MM, hot_wire
from fletcher.core.making.ironing import irons_of
from fletcher.core.making.pressing import devices, pressure_kPa, vacuum_kPa
from fletcher.core.making.resin_mix import USABLE, WET_MIN_DM2, largest_cup, mix
from fletcher.core.making.settings import setting
from fletcher.core.materials.tables import reference
from fletcher.core.section.assembly import line_span

SOLE_MM, STROKE_MM_S, COVERS = 60.0, 20.0, 0.7
"""[J] Width of an iron's sole, speed of a stroke, and the share of the sole that covers new film."""
LAP_MM = 12.0
"""[J] Lap of film where two pieces join."""
_HOT_STICKS = ("hotmelt_low", "hotmelt_high")
_COATS = "coat"
_TWO_COATS = ("paint_spray", "paint_acrylic_brush", "coat_acrylic", "coat_pu_varnish")
"""[J] What is put on in two coats."""


@dataclass(frozen=True)
class Means:
    """What a card is written for: warmth of the shop, a thermometer for the iron or its dial alone, hardener to 100
    parts of resin by weight (None: not known), the wire of the cutter."""

    warmth_C: float = 20.0
    probe: bool = True
    hardener_parts: float | None = None
    wire_mm: float = 0.4


class CardLine(Result):
    """A figure on a card: what it is, and its value as it is read."""

    name: str
    value: str


class SettingCard(Result):
    """What to set, mix or press, and how to go about it."""

    kind: Literal["iron", "glue_gun", "wire", "resin", "coats", "glue"]
    title: str
    lines: list[CardLine]
    do: list[str]
    wets_dm2: float | None = None
    """Of resin: area to wet, and for how many minutes a cup stays thin."""
    thin_min: float | None = None


def _card(
    kind: Literal["iron", "glue_gun", "wire", "resin", "coats", "glue"], title: str, lines: dict[str, str],
    do: list[str],
) -> SettingCard:  # fmt: skip
    return SettingCard(kind=kind, title=title, lines=[CardLine(name=k, value=v) for k, v in lines.items()], do=do)


def _between(low_C: float, high_C: float) -> str:
    return f"{number(low_C, '°C', F0)} to {in_C(high_C, F0)}"


def wire_card(part: Part, means: Means) -> SettingCard | None:
    """The hot wire for a core; None where it is not cut by one, or nothing is known of its foam."""
    family = foam_families().get(part.foam or "")
    if part.foam is None or family is None or not reference().foams[part.foam].hot_wire:
        return None
    heat, feed = setting("hot_wire", family, "wire_power_per_length"), setting("hot_wire", family, "feed_rate")
    if heat is None or feed is None:
        return None
    chords = (part.root_chord_mm, part.tip_chord_mm)
    w = hot_wire(heat.typ, feed.typ, chords, part.span_mm + SPARE_MM, means.wire_mm)
    ends = ("root", "tip") if chords[0] >= chords[1] else ("tip", "root")
    lines = {
        "Wire": f"{in_mm(means.wire_mm, G)} nickel-chromium, {in_mm(part.span_mm + SPARE_MM, F0)} between the clips",
        "Supply": f"{w.volts:.1f} V, {w.amps:.2f} A, {w.watts:.0f} W",
        f"Feed at the {ends[0]}": f"{in_mm(max(w.feed), G2)} per second",
        f"Feed at the {ends[1]}": f"{in_mm(min(w.feed), G2)} per second",
        "Kerf": f"about {in_mm(KERF_MM, F1)}; measure it on the scrap at both feeds",
    }
    do = ["Supply: isolated, low voltage. Try it on a scrap: fine threads between wire and foam are right."]
    if w.ratio > MOST:
        do.append(f"One end is {w.ratio:.1f} times slower and melts wide: cut it in two panels.")
    if heat.typ and w.ratio > 1.5:
        do.append("Two people, counting the marks aloud: the ends run at different speeds.")
    return _card("wire", "Hot wire", lines, do)


def iron_cards(part: Part, line_id: str, means: Means) -> list[SettingCard]:
    """The iron for a film of a part, on each thing that lies beneath it."""
    found = []
    layer = next(la for la in part.layers if la.id == line_id)
    for iron in irons_of(part, reference(), means.probe):
        if iron.line_id != line_id:
            continue
        lines = {"Foam stands": f"{in_C(iron.limit_C, F0)}; edges and thin places {in_C(iron.edge_C, F0)}"}
        do = [iron.says]
        if iron.set_C is not None and iron.tack_C is not None:
            lines = {"Set the sole to": in_C(iron.set_C, F0), "Tacks from": in_C(iron.tack_C, F0), **lines}
            if iron.bond_C:
                lines["Bonds"] = _between(*iron.bond_C)
            if iron.set_shrink_C is not None:
                lines["Shrinking pass"] = in_C(iron.set_shrink_C, F0)
            if isinstance(layer, FilmLayer | StripLayer):
                minutes = skin_area(layer, part) / (SOLE_MM * STROKE_MM_S * COVERS * 60)
                lines["One pass"] = f"{max(minutes, 1):.0f} min with a sole {in_mm(SOLE_MM, F0)} wide"
            do.append(f"From the middle outwards, faces in turn, nose last; lap joins by {in_mm(LAP_MM, F0)}.")
            if not means.probe:
                do.append("By its dial alone a sole is uncertain, so set it cooler; measure it to go hotter.")
        found.append(_card("iron", f"Iron on {iron.beneath}", lines, do))
    return found


def resin_card(layer: FilmLayer | StripLayer, part: Part, means: Means) -> SettingCard | None:
    """The resin for a skin of cloth; None where it is no cloth, or brings its resin with it."""
    plies = _plies(layer)
    if not plies:
        return None
    laminate = layer.skin if isinstance(layer.skin, Laminate) else None
    skin = skin_of(laminate, reference()) if laminate else reference().skins[str(layer.skin)]
    area = skin_area(layer, part) * 1e-6
    cloth = area * sum(reference().cloths[c].areal_mass_g_m2.typ for c, _ in plies)
    soak = SOAK_G_M2.typ * area / max(layer.plies, 1)
    on_part = max(area * skin.areal_mass_g_m2.typ - cloth, 0.0)
    resin = laminate.resin if laminate else "epoxy_laminating"
    key = resin if resin in adhesives() else "epoxy_laminating"
    times = slowed(curings()[key], means.warmth_C)
    pot = adhesives()[key].open_min.typ * times
    cup = largest_cup(adhesives()[key].open_min.typ)
    m = mix(cloth, max(on_part - soak, 0.0), min(soak, on_part), means.hardener_parts, cup)
    lines = {
        "Cloth": f"{in_g(m.cloth_g)}, {quantity(100 * area / len(plies), 'dm²')} in each ply",
        "Resin on the part": in_g(m.on_part_g),
        "Mix": in_g(m.mix_g) + (f" in {m.cups} cups" if m.cups > 1 else ""),
    }
    if m.resin_g is not None and m.hardener_g is not None:
        lines["Weigh"] = f"{in_g(m.resin_g / m.cups)} resin + {in_g(m.hardener_g / m.cups)} hardener" + (
            " a cup" if m.cups > 1 else ""
        )
    lines["Pot life"] = f"{pot:.0f} min in a shallow tray; thin for {USABLE * pot:.0f}"
    lines["Wetting out"] = f"about {100 * area * WET_MIN_DM2:.0f} min of work"
    for n, (cloth_key, angle) in enumerate(plies, 1):
        lines[f"Ply {n}"] = f"{reference().cloths[cloth_key].name}, warp {angle:g}° to the span"
    do = ["Weigh resin and hardener as the tin says; mix for two minutes, scrape the cup, pour it out flat."]
    if 100 * area * WET_MIN_DM2 / m.cups > USABLE * pot:
        do.append("It thickens before all is wet: mix half, wet it out, then mix again.")
    if laminate and laminate.method == "vacuum":
        foam = None if part.foam is None else reference().foams[part.foam]
        family = foam_families().get(part.foam or "")
        gauge = None if foam is None or family is None else vacuum_kPa(family, foam)
        if gauge is not None:
            lines["Vacuum"] = f"{gauge:.0f} kPa on the gauge, in its cradle"
        lines["Vacuum on within"] = f"{3 * pot:.0f} min of the first wet ply"
    wets = {"wets_dm2": 100 * area, "thin_min": USABLE * pot}
    return _card("resin", "Resin and cloth", lines, do).model_copy(update=wets)


def _plies(layer: FilmLayer | StripLayer) -> list[tuple[str, float]]:
    if isinstance(layer.skin, Laminate):
        return [(p.cloth, p.angle_deg) for p in layer.skin.plies]
    return [(layer.skin, 0.0)] if layer.skin in reference().cloths else []


def coat_card(layer: FilmLayer | StripLayer, part: Part) -> SettingCard | None:
    """Paint, primer, filler or varnish for a face; None where the skin is none of them."""
    skin = reference().skins.get(layer.skin) if isinstance(layer.skin, str) else None
    if skin is None or skin.family != _COATS:
        return None
    coats = 2 if skin.key in _TWO_COATS else 1
    dry = skin.areal_mass_g_m2.typ * skin_area(layer, part) * 1e-6
    lines = {
        "Adds": f"{in_g(dry)} when dry",
        "Coats": f"{coats}, {in_g(dry / coats)} dry in each" if coats > 1 else "1",
    }
    do = ["Thin, and try a scrap first: a solvent in the tin may eat the foam."]
    if coats > 1:
        do.append("Next coat as the tin says: inside its window, or after a light sanding.")
    return _card("coats", skin.name, lines, do)


def glue_card(key: str, part: Part, layer: Layer, means: Means) -> SettingCard:
    """Glue of a joint or a bar: how much, how long it stays open, how hard it is pressed; a glue gun's nozzle."""
    a = adhesives()[key]
    foam = None if part.foam is None else reference().foams[part.foam]
    times = slowed(curings()[key], means.warmth_C)
    lines: dict[str, str] = {}
    do = [f"{a.technique.rstrip('.')}."]
    area = _glued_mm2(layer, part)
    if key in _HOT_STICKS:
        nozzle = setting(
            "glue_gun", foam_families().get(part.foam or "") or _face(part) or "WOOD", "nozzle_temperature"
        )
        if nozzle is not None:
            lines["Nozzle"] = f"{in_C(nozzle.typ, F0)}; {_between(nozzle.low, nozzle.high)}"
        b = bead(a.density_kg_m3.typ, a.open_min.typ)
        lines["Bead"] = f"{in_mm(BEAD_MM, F0)} wide, {in_g(b.g_per_m)} a metre"
        lines["Longest bead"] = f"{in_mm(b.longest_mm, F0)} before the first of it is stiff"
        start, end = line_span(layer, part)
        if end - start > b.longest_mm:
            stretches = math.ceil((end - start) / b.longest_mm)
            do.append(f"Longer than one bead: glue it in {stretches} stretches, each closed before the next.")
        lines["Open for"] = f"{60 * a.open_min.typ:.0f} s; shorter on cold parts"
        do.append("Bead the tougher side first, close while it shines. The melt burns skin.")
    else:
        if area is not None:
            lines["Glue"] = f"about {in_g(a.spread_g_m2.typ * area * 1e-6)} wet"
        if a.flash_min.typ > 0:
            lines["Air it"] = f"{a.flash_min.typ * times:.0f} min"
        lines["Open for"] = f"{a.open_min.typ * times:.0f} min"
    pressed = pressure_kPa(key, foam)
    if pressed is not None:
        kPa, foam_rules = pressed
        lines["Press with"] = f"{kPa:.0f} kPa" + (", as much as the foam springs back from" if foam_rules else "")
        if foam_rules and a.kind == "contact":
            do.append("Press by hand and roll: clamps would crush this foam.")
        elif area is not None and isinstance(layer, WallLayer):
            tapes, clips = devices(kPa, area, "tape_strip_25mm"), devices(kPa, area, "spring_clip")
            lines["That is"] = f"{tapes} strips of tape or {clips} spring clips"
    lines["Gap it fills"] = f"up to {in_mm(a.gap_mm.typ, G2)}"
    return _card("glue_gun" if key in _HOT_STICKS else "glue", a.name, lines, do)


def _face(part: Part) -> str | None:
    sheets = [reference().sheets[la.sheet] for la in part.layers if isinstance(la, WallLayer)]
    return next((SHEET_FACES[s.family] for s in sheets if s.family in SHEET_FACES), None)


def _glued_mm2(layer: Layer, part: Part) -> float | None:
    """Faces that are wetted, mm²; None where the line does not tell."""
    start, end = line_span(layer, part)
    if isinstance(layer, BarLayer):
        wide, high = reference().bars[layer.stock].size(layer.on_edge)
        return (wide + 2 * high) * (end - start) * (2 if layer.place == "pair" else 1)
    return wall_area(layer, part) if isinstance(layer, WallLayer) else None


def cards_of(layer: Layer, part: Part, glue: str | None, means: Means) -> list[SettingCard]:
    """All cards of a line that is glued with an adhesive by its key (None: with none)."""
    return list(_cards(layer, part, glue, means))


def _cards(layer: Layer, part: Part, glue: str | None, means: Means) -> Iterator[SettingCard]:
    if isinstance(layer, FilmLayer | StripLayer):
        yield from iron_cards(part, layer.id, means)
        for card in (resin_card(layer, part, means), coat_card(layer, part)):
            if card is not None:
                yield card
    elif glue is not None and glue in adhesives():
        yield glue_card(glue, part, layer, means)
