"""Studies of a part as it stands in the page: they compute and store nothing."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import StreamingHttpResponse
from django.utils import timezone
from ninja import Router, Schema
from pydantic import Field

from fletcher.core.balance.ledger_table import ledger_csv
from fletcher.core.balance.schema import BalanceSheet
from fletcher.core.balance.sheet import balance_sheet
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.csv_table import MOST_CHARACTERS
from fletcher.core.document.equipment import Equipment
from fletcher.core.document.equipment_table import equipment_csv, read_equipment_csv
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.estimate.balance import Whole, whole
from fletcher.core.making.drape import Drape, patch
from fletcher.core.making.making import Making, making
from fletcher.core.materials.tables import reference
from fletcher.core.plan.cut_list import CutList, CutWish, cut_list
from fletcher.core.plan.ical import calendar_of
from fletcher.core.plan.planning import plan
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import Plan, ShopWish
from fletcher.core.plan.work import Work
from fletcher.core.studies.airframe_types import TYPES, Type, TypeKey
from fletcher.core.studies.break_first import Corridor, CorridorWish, corridor
from fletcher.core.studies.construction_choice import Tool, Wish, choose, in_construction
from fletcher.core.studies.constructions import Kind
from fletcher.core.studies.detail_wishes import DetailResult, DetailWish
from fletcher.core.studies.details import detail
from fletcher.core.studies.joint_sheet import JointSheet, joint_sheets
from fletcher.core.studies.lighter_parts import LighterWay, lighter_parts
from fletcher.core.studies.line_worth import worth
from fletcher.core.studies.load_limits import reach
from fletcher.core.studies.matching import Figure, match
from fletcher.core.studies.openings import Opening, openings
from fletcher.core.studies.scaling import Keep, scale
from fletcher.core.studies.schema import Choice, Figures, LineWorth, Match, Reach, Scaling, Tolerance
from fletcher.core.studies.sizing import Sized, sized
from fletcher.core.studies.splicing import Splicing, splicing
from fletcher.core.studies.tolerances import exactness
from fletcher.core.studies.variants import compare
from fletcher.core.studies.what_if import trial
from fletcher.core.studies.whole_airframe import NewAirframe, NewWish, PartStep, make
from fletcher.core.validation.airframe import check_part
from fletcher.server.airframes import services
from fletcher.server.common.refusals import refusal
from fletcher.server.common.requests import SignedIn
from fletcher.server.common.streams import streamed
from fletcher.server.studies.lessons import known_of
from fletcher.server.studies.schemas import Study

router = Router(tags=["studies"])

Size = Annotated[float, Field(ge=5, le=5000)]


class MatchStudy(Study):
    """The line to scale, and the figure that is to become so much."""

    line_id: str
    figure: Figure
    wanted: Annotated[float, Field(gt=0, le=1e6)]


class ScaleStudy(Study):
    """Another span, the all-up mass there (null: as it usually grows), and what is to be kept."""

    span_mm: Annotated[float, Field(ge=20, le=5000)]
    all_up_mass_g: Annotated[float | None, Field(ge=5, le=50_000)] = None
    keep: Keep = "bend"


class CompareStudy(Study):
    """Other states of the part, to be laid beside it under its own load cases."""

    parts: Annotated[list[Part], Field(max_length=6)]


class ConstructionStudy(Study):
    """The construction in which the part is to be built, by its key."""

    key: Annotated[str, Field(max_length=40)]


class WishIn(Schema):
    """What a part is to be: see `studies.construction_choice.Wish`."""

    kind: Kind
    span_mm: Annotated[float, Field(ge=20, le=5000)]
    root_chord_mm: Annotated[float, Field(ge=5, le=2000)]
    tip_chord_mm: Annotated[float, Field(ge=5, le=2000)]
    all_up_mass_g: Annotated[float, Field(ge=5, le=50_000)]
    top_speed_m_s: Annotated[float, Field(ge=1, le=120)]
    hours: Annotated[float | None, Field(gt=0, le=1000)] = None
    tools: list[Tool]
    at_hand: Annotated[list[str], Field(max_length=80)]
    load_factor: Annotated[float | None, Field(ge=1, le=60)] = None


class SizedOut(Schema):
    """The part sized to its load: what differs in words, grams more or less, whether it holds, and why not."""

    part: Part
    says: list[str]
    grams: float
    holds: bool
    short: str


class ChoiceLine(Schema):
    """A line of the stream: a construction, or what is wrong."""

    choice: Choice | None = None
    problems: list[Problem] | None = None


class NewLine(Schema):
    """A line of the stream: how far it is, at last the airframe, or what is wrong."""

    progress: PartStep | None = None
    answer: NewAirframe | None = None
    problems: list[Problem] | None = None


class TypeOut(Schema):
    """A type of airframe to start from."""

    key: TypeKey
    title: str
    why: str


@router.post("/worth", response=list[LineWorth])
def read_worth(request: SignedIn, payload: Study) -> list[LineWorth]:
    """What every line of the lay-up is worth: without it, and with less of it."""
    return worth(payload.document, payload.part(), payload.case_id)


@router.post("/exactness", response=list[Tolerance])
def read_exactness(request: SignedIn, payload: Study) -> list[Tolerance]:
    """How many millimetres every placed dimension may be off."""
    return exactness(payload.document, payload.part(), payload.case_id)


@router.post("/reach", response=Reach)
def read_reach(request: SignedIn, payload: Study) -> Reach:
    """The limits of the lay-up: how heavy, how fast, how hard a pull."""
    return reach(payload.document, payload.part())


@router.post("/match", response=Match)
def read_match(request: SignedIn, payload: MatchStudy) -> Match:
    """One line scaled until the part weighs, bends or twists as wanted."""
    part = payload.part()
    return match(payload.document, part, payload.case_id, payload.line_id, payload.figure, payload.wanted)


@router.post("/scale", response=Scaling)
def read_scaling(request: SignedIn, payload: ScaleStudy) -> Scaling:
    """The same design at another span."""
    part = payload.part()
    return scale(payload.document, part, payload.case_id, payload.span_mm, payload.all_up_mass_g, payload.keep)


@router.post("/compare", response=list[Figures])
def read_comparison(request: SignedIn, payload: CompareStudy) -> list[Figures]:
    """The figures of other states of the part, under its present load cases."""
    part = payload.part()
    for i, other in enumerate(payload.parts):
        problems = check_part(other, reference(), f"parts[{i}]")
        if problems:
            raise InvalidDocument(problems)
    return compare(payload.document, part, payload.case_id, payload.parts)


@router.post("/sized", response=SizedOut)
def read_sized(request: SignedIn, payload: Study) -> SizedOut:
    """The part as it is, its lay-up grown or thinned by stock steps to the lightest that holds."""
    part = payload.part()
    return _sized_out(payload, part, sized(payload.document, part))


@router.post("/in-construction", response=SizedOut)
def read_in_construction(request: SignedIn, payload: ConstructionStudy) -> SizedOut:
    """The part in another construction of its kind, at its span and chords, sized to its load cases."""
    part = payload.part()
    return _sized_out(payload, part, in_construction(payload.document, part, payload.key))


def _sized_out(payload: Study, part: Part, found: Sized) -> SizedOut:
    grams = found.told.mass_g.typ - trial(payload.document, part, part.cases[:1]).mass_g
    return SizedOut(part=found.part, says=list(found.says), grams=grams, holds=found.holds, short=found.short)


@router.post("/choose", response=ChoiceLine)
def read_choices(request: SignedIn, payload: WishIn) -> StreamingHttpResponse:
    """Every construction for a wanted size and airframe, sized to its load, a line of JSON each as it is found."""
    wish = payload.model_dump()
    found = choose(Wish(**{**wish, "tools": frozenset(wish["tools"]), "at_hand": frozenset(wish["at_hand"])}))
    return streamed(request, found, lambda _: "choice")


@router.get("/airframe-types", response=list[TypeOut])
def read_types(request: SignedIn) -> list[Type]:
    """The types of airframe that can be made at once."""
    return list(TYPES.values())


@router.post("/new-airframe", response=NewLine)
def read_new_airframe(request: SignedIn, payload: NewWish) -> StreamingHttpResponse:
    """A whole airframe of a type, its parts placed and sized: a line of JSON for every part, the last one with the
    airframe. Stores nothing."""
    return streamed(request, make(payload), lambda step: "progress" if isinstance(step, PartStep) else "answer")


class CorridorStudy(Study):
    """How the part is held: see `studies.break_first.CorridorWish`."""

    wish: CorridorWish


class DetailStudy(Study):
    """A detail at its place: see `studies.details.DetailWish`."""

    wish: DetailWish


class PatchIn(Schema):
    """A place with two radii (negative: hollow the other way) that a skin so wide is to cover."""

    first_radius_mm: Annotated[float, Field(ge=-10_000, le=10_000)]
    second_radius_mm: Annotated[float, Field(ge=-10_000, le=10_000)]
    width_mm: Annotated[float, Field(ge=1, le=2000)]


@router.post("/making", response=Making)
def read_making(request: SignedIn, payload: Study) -> Making:
    """Stack-up, forming, drape and flat pattern of the part."""
    return making(payload.document, payload.part(), reference())


@router.post("/openings", response=list[Opening])
def read_openings(request: SignedIn, payload: Study) -> list[Opening]:
    """What every opening costs, and the smallest patch that gives it back."""
    return openings(payload.document, payload.part(), payload.case_id)


@router.post("/corridor", response=Corridor)
def read_corridor(request: SignedIn, payload: CorridorStudy) -> Corridor:
    """What holds the part in the worst wanted case and lets go before it breaks."""
    return corridor(payload.document, payload.part(), payload.wish)


@router.post("/detail", response=DetailResult)
def read_detail(request: SignedIn, payload: DetailStudy) -> DetailResult:
    """A slot, edge, bolted centre, lock joint or bracket against what the part's cases ask there."""
    return detail(payload.document, payload.part(), payload.wish)


@router.post("/joints", response=list[JointSheet])
def read_joints(request: SignedIn, payload: Study) -> list[JointSheet]:
    """Every joint and hinge of the part against its worst case, what it holds when, and which change helps most."""
    return joint_sheets(payload.document, payload.part())


@router.post("/drape", response=list[Drape])
def read_drape(request: SignedIn, payload: PatchIn) -> list[Drape]:
    """How every kind of skin lies on a place with two radii."""
    for name in ("first_radius_mm", "second_radius_mm"):
        value = getattr(payload, name)
        if abs(value) < 1:
            message = "must be a radius of at least 1 mm, or negative where the surface is hollow"
            raise refusal(name, message, f"{value:g}")
    return patch(payload.first_radius_mm, payload.second_radius_mm, payload.width_mm)


class DocumentIn(Schema):
    """A document as it stands in the page."""

    document: Airframe


@router.post("/whole", response=Whole)
def read_whole(request: SignedIn, payload: DocumentIn) -> Whole:
    """The masses of all parts at their places, and where the bare structure balances."""
    services.require_possible(payload.document)
    return whole(payload.document)


class BalanceStudy(DocumentIn):
    """The document, and which airframe on the shelf it is of: the others teach what the builder's hand uses."""

    airframe_id: UUID | None = None


@router.post("/balance", response=BalanceSheet)
def read_balance(request: SignedIn, payload: BalanceStudy) -> BalanceSheet:
    """Mass, centre of gravity, neutral point, range and remedies of a whole airframe with what it carries."""
    services.require_possible(payload.document)
    sheet = balance_sheet(payload.document, known_of(request.user, payload.airframe_id))
    if sheet is None:
        raise refusal("document.parts", "nothing here flies: add a part or equipment to balance")
    return sheet


@router.post("/lighter", response=list[LighterWay])
def read_lighter(request: SignedIn, payload: BalanceStudy) -> list[LighterWay]:
    """What of the structure could be lighter on the heavy side, what that gives the balance, and what it loses."""
    services.require_possible(payload.document)
    return lighter_parts(payload.document, known_of(request.user, payload.airframe_id))


class TableOut(Schema):
    """A table as CSV, or a calendar."""

    text: str


class PlanStudy(DocumentIn):
    """The document, the shop that it is built in, and what was changed and done."""

    shop: ShopWish = ShopWish()
    work: Work = Work()


def _planned(payload: PlanStudy) -> Plan:
    services.require_possible(payload.document)
    try:
        return plan(payload.document, payload.shop, timezone.now(), payload.work)
    except Impossible as error:
        raise refusal("shop", str(error)) from None


@router.post("/plan", response=Plan)
def read_plan(request: SignedIn, payload: PlanStudy) -> Plan:
    """All operations of an airframe in the shop's hours: when each begins, what sets, and the first flight."""
    return _planned(payload)


class CutStudy(DocumentIn):
    """The document, what a cut takes, and what is on the shelf."""

    wish: CutWish = CutWish()


@router.post("/cut-list", response=CutList)
def read_cut_list(request: SignedIn, payload: CutStudy) -> CutList:
    """Which piece of every bar comes out of which length, what to buy, what is left."""
    services.require_possible(payload.document)
    return cut_list(payload.document, payload.wish)


@router.post("/splices", response=Splicing)
def read_splices(request: SignedIn, payload: CutStudy) -> Splicing:
    """Where bars that are longer than stock are joined, and what that costs."""
    services.require_possible(payload.document)
    return splicing(payload.document, payload.wish)


@router.post("/plan-calendar", response=TableOut)
def read_plan_calendar(request: SignedIn, payload: PlanStudy) -> TableOut:
    """The plan as calendar entries (iCalendar)."""
    made = calendar_of(_planned(payload), payload.document.name, timezone.now())
    return TableOut(text=made.decode())


class EquipmentTable(Schema):
    """A table of equipment as CSV, with headings."""

    text: Annotated[str, Field(max_length=MOST_CHARACTERS)]


@router.post("/ledger-table", response=TableOut)
def read_ledger_table(request: SignedIn, payload: BalanceStudy) -> TableOut:
    """The mass ledger as a table to take away."""
    return TableOut(text=ledger_csv(read_balance(request, payload)))


@router.post("/equipment-table", response=TableOut)
def read_equipment_table(request: SignedIn, payload: DocumentIn) -> TableOut:
    """The equipment as a table to take away."""
    return TableOut(text=equipment_csv(payload.document.equipment))


@router.post("/equipment-from-table", response=list[Equipment])
def read_equipment(request: SignedIn, payload: EquipmentTable) -> list[Equipment]:
    """The equipment of a table, all of it or none: what is wrong is told by line and column."""
    return read_equipment_csv(payload.text)
