"""What the hands need to know before they make a part: its stack-up, what must be formed, what lies, what is folded."""

from __future__ import annotations

from fletcher.core.adhesion.cautions import Caution, cautions_for, making_tags
from fletcher.core.common.model import Result
from fletcher.core.document.airframe import Airframe, Part, WallLayer
from fletcher.core.document.shapes import FoldedSection
from fletcher.core.estimate.dents import Hardening, hardened
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.layup.stackup import StackUp, stack_up
from fletcher.core.making.drape import Surface, surfaces_of
from fletcher.core.making.folding import Pattern, Piece, pattern_of
from fletcher.core.making.formers import formers_of
from fletcher.core.making.forming import PAPER_WEATHER_PCT, Formed, FormState, curl_radius, formed_of, ways_to_form
from fletcher.core.making.ironing import Iron, irons_of
from fletcher.core.materials.materials import Catalogue, Sheet
from fletcher.core.materials.uncertainty import Band


class SheetForming(Result):
    """Every state in which a sheet can be bent, and the radius to which it curls once one paper is peeled off and the
    air turns dry (None for a sheet without paper)."""

    key: str
    name: str
    states: list[FormState]
    curls_to_mm: Band | None


class Making(Result):
    """The making of a part: what lies on what, sheets over its formers, skins on its faces, its flat pattern (None
    where nothing is folded), its ribs or formers as pieces, how its sheets bend, what coats and guards would do, how
    hot its films are ironed, what to mind while making it."""

    stack: StackUp
    formed: list[Formed]
    surfaces: list[Surface]
    pattern: Pattern | None
    formers: list[Piece]
    sheets: list[SheetForming]
    hardening: list[Hardening]
    irons: list[Iron]
    cautions: list[Caution]


def sheet_forming(sheet: Sheet, catalogue: Catalogue) -> SheetForming:
    """How a sheet can be bent."""
    return SheetForming(
        key=sheet.key,
        name=sheet.name,
        states=ways_to_form(sheet),
        curls_to_mm=curl_radius(sheet, catalogue, PAPER_WEATHER_PCT),
    )


def making(airframe: Airframe, part: Part, catalogue: Catalogue) -> Making:
    """The making of a checked part. A single folded part is held against the next single one of its kind."""
    pairs = (p for p in airframe.parts if p.id != part.id and p.kind == part.kind and p.hand == part.hand == "single")
    other = next((p for p in pairs if isinstance(p.section, FoldedSection)), None)
    used = dict.fromkeys(la.sheet for la in part.layers if isinstance(la, WallLayer) and la.enabled)
    return Making(
        stack=stack_up(part, catalogue),
        formed=formed_of(part, catalogue),
        surfaces=surfaces_of(part, catalogue),
        pattern=pattern_of(part, catalogue, other),
        formers=formers_of(part, catalogue),
        sheets=[sheet_forming(catalogue.sheets[key], catalogue) for key in used],
        hardening=hardened(prepared_for(part, airframe.setting), catalogue),
        irons=irons_of(part, catalogue),
        cautions=cautions_for(making_tags(part, catalogue)),
    )
