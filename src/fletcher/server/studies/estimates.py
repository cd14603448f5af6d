"""Live estimates, and what a document starts from: they compute and store nothing."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpResponse
from ninja import Router, Schema
from pydantic import Field

from fletcher.core.document.aerofoil import MAX_BYTES, read_coordinates
from fletcher.core.document.airframe import Airframe, Layer, Part
from fletcher.core.document.cases import Case, DeflectedCase
from fletcher.core.document.defaults import CASES, default_case, kinds_for
from fletcher.core.document.shapes import PointsSection
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.schema import Estimate, SurfaceVariant
from fletcher.core.materials.uncertainty import QUICK_SAMPLES, SAMPLES, samples
from fletcher.core.section.outline import Points
from fletcher.core.studies.control_surface_ways import compare_surface
from fletcher.core.studies.plate_outline import PlateOutline, corners_of, plate_outline
from fletcher.core.studies.starters import starters
from fletcher.server.airframes import services
from fletcher.server.common.refusals import part_of, refusal
from fletcher.server.common.requests import SignedIn
from fletcher.server.studies.schemas import Study

router = Router(tags=["studies"])


class Question(Study):
    """A part and load case to estimate; `quick` while things change: bands from fewer samples, and without what it does
    when it is snapped by hand."""

    quick: bool = False


class CoordinateFile(Schema):
    """The text of an aerofoil's coordinate file."""

    text: Annotated[str, Field(max_length=MAX_BYTES)]


class AerofoilOut(Schema):
    """A section read from a file, and its own thickness over the chord."""

    section: PointsSection
    thickness_ratio: float


@router.post("/aerofoil", response=AerofoilOut)
def read_aerofoil(request: SignedIn, payload: CoordinateFile) -> AerofoilOut:
    """A section from a coordinate file; what is wrong is told by its line. Stores nothing."""
    section = read_coordinates(payload.text)
    return AerofoilOut(section=section, thickness_ratio=Points(section.upper, section.lower).thickness_ratio)


Corner = Annotated[float, Field(ge=-5000, le=5000)]


class PlateIn(Schema):
    """A plate."""

    part: Part


class PlatePoints(PlateIn):
    """A plate, and the corners round its new outline: x aft of any place, y out along it, mm."""

    corners: Annotated[list[tuple[Corner, Corner]], Field(max_length=60)]


class CornersOut(Schema):
    """The corners round a plate, (x, y) mm from its nose at the root."""

    corners: list[tuple[float, float]]


@router.post("/plate-corners", response=CornersOut)
def read_corners(request: SignedIn, payload: PlateIn) -> CornersOut:
    """The corners of a plate as it is. Stores nothing."""
    return CornersOut(corners=corners_of(payload.part))


@router.post("/plate-outline", response=PlateOutline)
def read_outline(request: SignedIn, payload: PlatePoints) -> PlateOutline:
    """An outline through these corners: the sizes of its trapezoid, and what is cut from it. Stores nothing."""
    return plate_outline(payload.part, payload.corners)


class CaseQuestion(Schema):
    """A document, one of its parts, and the kind of load case wanted for it."""

    document: Airframe
    part_id: str
    kind: str


class CaseOut(Schema):
    """A load case to start from."""

    case: Case


@router.post("/case", response=CaseOut)
def read_default_case(request: SignedIn, payload: CaseQuestion) -> CaseOut:
    """A load case of a kind, its figures from the airframe's mass and speed and the part's size."""
    part = payload.document.part(payload.part_id)
    if part is None or payload.kind not in kinds_for(part):
        kinds = ", ".join(CASES if part is None else kinds_for(part))
        message = f"does not name a part of this airframe, or a load case that suits it: one of {kinds}"
        raise refusal("part_id or kind", message, payload.kind)
    return CaseOut(case=default_case(payload.kind, payload.document, part))


class PartQuestion(Schema):
    """A part as it stands."""

    part: Part


class StarterOut(Schema):
    """A line that may be put into the lay-up next; whoever puts it in gives it an id."""

    label: str
    layer: Layer


@router.post("/starters", response=list[StarterOut])
def read_starters(request: SignedIn, payload: PartQuestion) -> list[StarterOut]:
    """The lines that go with a part, of sizes that fit it; stores nothing."""
    return [StarterOut(label=s.label, layer=s.layer) for s in starters(payload.part)]


@router.post("/surface-ways", response=list[SurfaceVariant])
def compare_surface_ways(request: SignedIn, payload: Study) -> list[SurfaceVariant]:
    """A control surface of the same size built in other ways; stores nothing."""
    services.require_possible(payload.document)
    part = payload.document.part(payload.part_id)
    case = None if part is None else next((c for c in part.cases if c.id == payload.case_id), None)
    if part is None or not isinstance(case, DeflectedCase):
        message = "does not name a control surface with a “Deflected in flight” load case"
        raise refusal("part_id or case_id", message, payload.case_id)
    return compare_surface(payload.document, part, case)


@router.post("/estimate", response=Estimate)
def read_estimate(request: SignedIn, payload: Question) -> HttpResponse:
    """The estimate of one part in one load case; stores nothing."""
    services.require_possible(payload.document)
    part = part_of(payload.document, payload.part_id)
    if payload.case_id is not None and all(c.id != payload.case_id for c in part.cases):
        raise refusal("case_id", "names no case", repr(payload.case_id))
    with samples(QUICK_SAMPLES if payload.quick else SAMPLES):
        found = estimate(payload.document, payload.part_id, payload.case_id, brief=payload.quick)
    # straight from the model: to check and copy every curve again costs as much as the estimate
    return HttpResponse(found.model_dump_json(), content_type="application/json")
