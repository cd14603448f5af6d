"""The stockroom: reference materials and presets."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from fletcher.core.airframe import Part
from fletcher.core.materials import Bar, Foam, Skin, reference
from fletcher.core.presets import PRESETS

router = Router(tags=["stockroom"])


class CatalogueOut(Schema):
    foams: list[Foam]
    skins: list[Skin]
    bars: list[Bar]


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
        foams=list(catalogue.foams.values()), skins=list(catalogue.skins.values()), bars=list(catalogue.bars.values())
    )


@router.get("/presets", response=list[PresetOut])
def read_presets(request: HttpRequest) -> list[PresetOut]:
    """Parts to start from."""
    return [PresetOut(key=p.key, title=p.title, why=p.why, part=p.part) for p in PRESETS.values()]
