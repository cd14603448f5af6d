"""The stockroom: reference materials and presets."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from fletcher.core.airframe import Part
from fletcher.core.cases import FlightCase
from fletcher.core.defaults import CASES, NAMES
from fletcher.core.materials import Bar, Cloth, Foam, Resin, Skin, reference

router = Router(tags=["stockroom"])


class CatalogueOut(Schema):
    foams: list[Foam]
    skins: list[Skin]
    bars: list[Bar]
    bar_g_per_m: dict[str, float]
    """Weight of each bar by the table, for comparing with a weighing."""
    cloths: list[Cloth]
    resins: list[Resin]


class PresetOut(Schema):
    key: str
    title: str
    why: str
    part: Part


@router.get("/catalogue", response=CatalogueOut)
def read_catalogue(request: HttpRequest) -> CatalogueOut:
    """All reference materials with ranges, grades and the basis of each estimate."""
    catalogue = reference()
    return CatalogueOut(
        foams=list(catalogue.foams.values()),
        skins=list(catalogue.skins.values()),
        bars=list(catalogue.bars.values()),
        bar_g_per_m={b.key: round(b.density_kg_m3.typ * b.area_mm2 * 1e-3, 3) for b in catalogue.bars.values()},
        cloths=list(catalogue.cloths.values()),
        resins=list(catalogue.resins.values()),
    )


class CaseKind(Schema):
    """A kind of load case: its type in the document, what it is called, and whether it needs a wing in the air."""

    type: str
    name: str
    flies: bool


@router.get("/case-kinds", response=list[CaseKind])
def read_case_kinds(request: HttpRequest) -> list[CaseKind]:
    """All kinds of load case."""
    return [CaseKind(type=t, name=NAMES[t], flies=issubclass(kind, FlightCase)) for t, kind in CASES.items()]


@router.get("/presets", response=list[PresetOut])
def read_presets(request: HttpRequest) -> list[PresetOut]:
    """Parts to start from."""
    return [PresetOut(key=p.key, title=p.title, why=p.why, part=p.part) for p in PRESETS.values()]
