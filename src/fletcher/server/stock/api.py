"""The stockroom: reference materials and presets."""

from __future__ import annotations

from typing import Annotated

from ninja import Router, Schema
from pydantic import Field

from fletcher.core.adhesion.adhesives import adhesives, foam_families, on_foams
from fletcher.core.adhesion.bond_line import SORT
from fletcher.core.adhesion.curing import techniques
from fletcher.core.adhesion.joint_capacity import GluedSide, glued_sides
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import Key
from fletcher.core.document.defaults import CASES, NAMES, SUITS, usual_cases
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.joints.hinges import hinges
from fletcher.core.materials.materials import Bar, Cloth, Cord, Fastener, Fitting, Foam, Resin, Sheet, Skin
from fletcher.core.materials.tables import glossary, reference
from fletcher.core.studies.constructions import CONSTRUCTIONS, Kind, Size
from fletcher.core.validation.airframe import check_part
from fletcher.server.common.refusals import refusal
from fletcher.server.common.requests import SignedIn

router = Router(tags=["stockroom"])


class AdhesiveOut(Schema):
    """An adhesive by name, its kind, the ways in which it is put on, and the foams (keys) that it attacks."""

    key: str
    name: str
    family: str
    techniques: dict[str, str]
    attacks: list[str]
    grade: str


class HingeMethodOut(Schema):
    """A method of hinging by name, and where its line may lie."""

    key: str
    name: str
    lines: list[str]
    grade: str


class CatalogueOut(Schema):
    foams: list[Foam]
    skins: list[Skin]
    bars: list[Bar]
    bar_g_per_m: dict[str, float]
    """Weight of each bar by the table, for comparing with a weighing."""
    cloths: list[Cloth]
    resins: list[Resin]
    sheets: list[Sheet]
    cords: list[Cord]
    fittings: list[Fitting]
    fasteners: list[Fastener]
    adhesives: list[AdhesiveOut]
    hinges: list[HingeMethodOut]
    sorts: dict[str, str]
    """What sort of thing a family of material is to a glue."""
    sides: list[GluedSide]
    """Everything that can be one side of a joint."""


class ConstructionOut(Schema):
    """A way to build a part, with the size, mass and speed that are usual for it."""

    key: str
    title: str
    why: str
    kind: Kind
    name: str
    size: Size
    all_up_mass_g: float
    top_speed_m_s: float
    spar: str | None


@router.get("/catalogue", response=CatalogueOut)
def read_catalogue(request: SignedIn) -> CatalogueOut:
    """All reference materials with ranges, grades and the basis of each estimate."""
    catalogue = reference()
    return CatalogueOut(
        foams=list(catalogue.foams.values()),
        skins=list(catalogue.skins.values()),
        bars=list(catalogue.bars.values()),
        bar_g_per_m={b.key: round(b.density_kg_m3.typ * b.area_mm2 * 1e-3, 3) for b in catalogue.bars.values()},
        cloths=list(catalogue.cloths.values()),
        resins=list(catalogue.resins.values()),
        sheets=list(catalogue.sheets.values()),
        cords=list(catalogue.cords.values()),
        fittings=list(catalogue.fittings.values()),
        fasteners=list(catalogue.fasteners.values()),
        adhesives=[
            AdhesiveOut(
                key=a.key,
                name=a.name,
                family=a.kind,
                techniques=techniques(a),
                grade=a.grade,
                attacks=[k for k, f in foam_families().items() if on_foams()[a.key, f].verdict == "attacks"],
            )
            for a in adhesives().values()
        ],
        sorts=SORT,
        sides=glued_sides(catalogue),
        hinges=[HingeMethodOut(key=h.key, name=h.name, lines=list(h.lines), grade=h.grade) for h in hinges().values()],
    )


class CaseKind(Schema):
    """A kind of load case: its type in the document, what it is called, and the kinds of part that it suits."""

    type: str
    name: str
    suits: list[str]


@router.get("/case-kinds", response=list[CaseKind])
def read_case_kinds(request: SignedIn) -> list[CaseKind]:
    """All kinds of load case."""
    return [CaseKind(type=t, name=NAMES[t], suits=[k for k, of in SUITS.items() if t in of]) for t in CASES]


@router.get("/constructions", response=list[ConstructionOut])
def read_constructions(request: SignedIn) -> list[ConstructionOut]:
    """Ways to build a part."""
    return [
        ConstructionOut(
            key=c.key, title=c.title, why=c.why, kind=c.kind, name=c.name, size=c.size, all_up_mass_g=c.all_up_mass_g,
            top_speed_m_s=c.top_speed_m_s, spar=c.spar,
        )
        for c in CONSTRUCTIONS.values()
    ]  # fmt: skip


class WordOut(Schema):
    """A word of the trade, explained."""

    key: str
    term: str
    plain: str
    more: str


@router.get("/glossary", response=list[WordOut])
def read_glossary(request: SignedIn) -> list[WordOut]:
    """Every word that the product explains."""
    return [WordOut(**vars(word)) for word in glossary()]


class Wanted(Schema):
    """A construction, the size wanted, the airframe that the part is for, and its spar: null as is usual at that size,
    "none", or a bar of the stockroom."""

    key: str
    size: Size
    all_up_mass_g: Annotated[float, Field(ge=5, le=50_000)]
    top_speed_m_s: Annotated[float, Field(ge=1, le=120)]
    spar: Key | None = None


class BuiltOut(Schema):
    """A part to start from."""

    part: Part


@router.post("/construct", response=BuiltOut)
def construct(request: SignedIn, payload: Wanted) -> BuiltOut:
    """A part in one construction, at the size wanted, checked; stores nothing."""
    way = CONSTRUCTIONS.get(payload.key)
    if way is None:
        message = f"is not a known construction: choose one of {', '.join(CONSTRUCTIONS)}"
        raise refusal("key", message, payload.key)
    if payload.spar not in (None, "none") and payload.spar not in reference().bars:
        raise refusal("spar", "is no bar of the stockroom", str(payload.spar))
    part = way.part(payload.size, payload.all_up_mass_g, payload.top_speed_m_s, payload.spar)
    airframe = Airframe(name="x", all_up_mass_g=payload.all_up_mass_g, top_speed_m_s=payload.top_speed_m_s)
    part = part.model_copy(update={"cases": usual_cases(airframe, part)})
    problems = check_part(part, reference())
    if problems:
        raise InvalidDocument(problems)
    return BuiltOut(part=part)
