"""What a builder reaches for next: the stock that a part is made of already, else what goes with its foam.

A part with cloth in resin gets more cloth, one with tape more tape; a film is one that can be ironed on there.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import TypeVar

from fletcher.core.adhesion.adhesives import SHEET_FACES, foam_families
from fletcher.core.document.airframe import BarLayer, FilmLayer, Laminate, Part, Ply, StripLayer, WallLayer
from fletcher.core.making.ironing import iron_for
from fletcher.core.materials.tables import reference

_IRONED = ("lamfilm_38", "coverfilm_lowtemp_po")
"""Films from the cheaper to the cooler."""
_STUCK = "bopp_tape_std"
"""Covers what stands no iron."""
T = TypeVar("T", BarLayer, StripLayer, FilmLayer, WallLayer)


@dataclass(frozen=True)
class Usual:
    """Stock for a new line of each kind: a bar, a strip, a skin, a sheet on a face, a shear web."""

    bar: str
    strip: str | Laminate
    film: str | Laminate
    sheet: str
    web: str


def usual_stock(part: Part) -> Usual:
    """Stock that goes with a part."""
    bars, walls = list(_last(part, BarLayer)), list(_last(part, WallLayer))
    strips = [la.skin for la in _last(part, StripLayer) if not isinstance(la.skin, str) or la.skin in reference().skins]
    films = [la.skin for la in _last(part, FilmLayer)]
    laminate = next((s for s in (*strips, *films) if isinstance(s, Laminate)), None)
    faces = [la.sheet for la in walls if la.face not in ("web", "level") and la.sheet in reference().sheets]
    wooden = bool(faces) and reference().sheets[faces[0]].family == "balsa"
    strip = strips[0] if strips else None if laminate is None else _in_resin("carbon_ud_50", laminate)
    film = films[0] if films else None if laminate is None else _in_resin("glass_49", laminate)
    return Usual(
        bar=bars[0].stock if bars else "spruce_3x5" if wooden else "carbon_rod_2",
        strip=strip or "filament_tape_uni",
        film=film or _covering(part, faces),
        sheet=next((s for s in faces if reference().sheets[s].family != "moulded"), "balsa_light_1.5"),
        web=next((la.sheet for la in walls if la.face == "web"), "balsa_light_3"),
    )


def _last(part: Part, kind: type[T]) -> Iterator[T]:
    return (la for la in reversed(part.layers) if isinstance(la, kind) and la.enabled)


def _in_resin(cloth: str, like: Laminate) -> Laminate:
    return like.model_copy(update={"plies": (Ply(cloth=cloth),)})


def _covering(part: Part, faces: list[str]) -> str:
    """The first film that can be ironed well on what lies outermost."""
    if faces:
        sheet = reference().sheets[faces[0]]
        beneath = SHEET_FACES.get(sheet.family) or foam_families().get(sheet.core or "")
        thick = sheet.thickness_mm.typ
    else:
        beneath = foam_families().get(part.foam or "")
        thick = min(part.root_thickness_mm, part.tip_thickness_mm)
    irons = [(skin, beneath and iron_for(skin, beneath, thick)) for skin in _IRONED]
    return next((skin for skin, iron in irons if iron and iron.verdict == "good"), _STUCK)
