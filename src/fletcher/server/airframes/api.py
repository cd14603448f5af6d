"""Airframes: the shelf, autosave with revision numbers, undo, and live estimates."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from fletcher.core.document.aerofoil import MAX_BYTES, read_coordinates
from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.cases import PRINTABLE, Case, DeflectedCase
from fletcher.core.document.defaults import CASES, default_case, kinds_for
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.document.shapes import PointsSection
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.schema import Estimate, SurfaceVariant
from fletcher.core.materials.uncertainty import QUICK_SAMPLES, SAMPLES, samples
from fletcher.core.section.outline import Points
from fletcher.core.studies.control_surface_ways import compare_surface
from fletcher.server.airframes import history, services
from fletcher.server.airframes.studies import Study

router = Router(tags=["airframes"])


class AirframeOut(Schema):
    """An airframe's current revision."""

    id: UUID
    revision: int
    updated: datetime
    document: Airframe
    can_undo: bool
    can_redo: bool


class Change(Schema):
    """A changed document and the revision it was made from."""

    revision: int
    document: Airframe


class From(Schema):
    """The revision that undo or redo starts from."""

    revision: int


class Question(Study):
    """A part and load case to estimate; `quick` while things change: bands from fewer samples, and without what it does
    when it is snapped by hand."""

    quick: bool = False


@router.get("/airframes", response=list[AirframeOut])
def read_shelf(request: HttpRequest) -> list[services.State]:
    """All airframes of the signed-in builder."""
    return services.shelf(request.user)


@router.post("/airframes", response={201: AirframeOut})
def add_airframe(request: HttpRequest, payload: Airframe) -> Status:
    """A new airframe."""
    return Status(201, services.create(request.user, payload))


@router.get("/airframes/{airframe_id}", response=AirframeOut)
def read_airframe(request: HttpRequest, airframe_id: UUID) -> services.State:
    """One airframe."""
    return services.current(request.user, airframe_id)


@router.put("/airframes/{airframe_id}", response={200: AirframeOut, 409: AirframeOut})
def save_airframe(request: HttpRequest, airframe_id: UUID, payload: Change) -> services.State:
    """Store a change. 409 with the current state if somebody else was first."""
    return services.save(request.user, airframe_id, payload.revision, payload.document)


@router.post("/airframes/{airframe_id}/undo", response={200: AirframeOut, 409: AirframeOut})
def undo(request: HttpRequest, airframe_id: UUID, payload: From) -> services.State:
    """Go back one change."""
    return services.step(request.user, airframe_id, payload.revision, forward=False)


@router.post("/airframes/{airframe_id}/redo", response={200: AirframeOut, 409: AirframeOut})
def redo(request: HttpRequest, airframe_id: UUID, payload: From) -> services.State:
    """Go forward again after undo."""
    return services.step(request.user, airframe_id, payload.revision, forward=True)


@router.get("/airframes/{airframe_id}/file", include_in_schema=False)
def download(request: HttpRequest, airframe_id: UUID) -> HttpResponse:
    """The document as a file, for `fletcher estimate` or for keeping."""
    document = Airframe.model_validate(services.current(request.user, airframe_id).document)
    name = "".join(c if c.isascii() and c.isalnum() else "-" for c in document.name).strip("-").lower() or "airframe"
    response = HttpResponse(document.model_dump_json(indent=2), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{name}.fletcher.json"'
    return response


@router.delete("/airframes/{airframe_id}", response={204: None})
def delete_airframe(request: HttpRequest, airframe_id: UUID) -> Status:
    """Take an airframe off the shelf for good."""
    services.delete(request.user, airframe_id)
    return Status(204, None)


class EntryOut(Schema):
    """A revision in the history, and what it changed."""

    number: int
    created: datetime
    says: list[str]
    parts: list[str]


@router.get("/airframes/{airframe_id}/revisions", response=list[EntryOut])
def read_history(request: HttpRequest, airframe_id: UUID, before: int | None = None) -> list[history.Entry]:
    """The revisions of an airframe, the newest first, forty at a time."""
    return history.history(request.user, airframe_id, before)


class DocumentOut(Schema):
    """A document as it was."""

    document: Airframe


@router.get("/airframes/{airframe_id}/revisions/{number}", response=DocumentOut)
def read_revision(request: HttpRequest, airframe_id: UUID, number: int) -> DocumentOut:
    """The document of one revision."""
    return DocumentOut(document=history.revision(request.user, airframe_id, number))


PinName = Annotated[str, Field(min_length=1, max_length=60, pattern=PRINTABLE)]


class PinOut(Schema):
    """A variant that is pinned up, with the part as it was."""

    id: int
    name: str
    part_id: str
    revision: int
    part: Part


class PinIn(Schema):
    """What to pin up: a part as it was in a revision, and a name for it."""

    part_id: str
    revision: int
    name: PinName


class PinNameIn(Schema):
    """Another name for a pin."""

    name: PinName


@router.get("/airframes/{airframe_id}/pins", response=list[PinOut])
def read_pins(request: HttpRequest, airframe_id: UUID) -> list[history.Pinned]:
    """All variants that are pinned up."""
    return history.pins(request.user, airframe_id)


@router.post("/airframes/{airframe_id}/pins", response={201: PinOut})
def add_pin(request: HttpRequest, airframe_id: UUID, payload: PinIn) -> Status:
    """Pin a part up as it was in a revision; six at most."""
    return Status(201, history.pin(request.user, airframe_id, payload.part_id, payload.revision, payload.name))


@router.put("/airframes/{airframe_id}/pins/{pin_id}", response=PinOut)
def rename_pin(request: HttpRequest, airframe_id: UUID, pin_id: int, payload: PinNameIn) -> history.Pinned:
    """Give a pin another name."""
    return history.rename_pin(request.user, airframe_id, pin_id, payload.name)


@router.delete("/airframes/{airframe_id}/pins/{pin_id}", response={204: None})
def remove_pin(request: HttpRequest, airframe_id: UUID, pin_id: int) -> Status:
    """Take a pin down."""
    history.unpin(request.user, airframe_id, pin_id)
    return Status(204, None)


class CoordinateFile(Schema):
    """The text of an aerofoil's coordinate file."""

    text: Annotated[str, Field(max_length=MAX_BYTES)]


class AerofoilOut(Schema):
    """A section read from a file, and its own thickness over the chord."""

    section: PointsSection
    thickness_ratio: float


@router.post("/aerofoil", response=AerofoilOut)
def read_aerofoil(request: HttpRequest, payload: CoordinateFile) -> AerofoilOut:
    """A section from a coordinate file; what is wrong is told by its line. Stores nothing."""
    section = read_coordinates(payload.text)
    return AerofoilOut(section=section, thickness_ratio=Points(section.upper, section.lower).thickness_ratio)


class CaseQuestion(Schema):
    """A document, one of its parts, and the kind of load case wanted for it."""

    document: Airframe
    part_id: str
    kind: str


class CaseOut(Schema):
    """A load case to start from."""

    case: Case


@router.post("/case", response=CaseOut)
def read_default_case(request: HttpRequest, payload: CaseQuestion) -> CaseOut:
    """A load case of a kind, its figures from the airframe's mass and speed and the part's size."""
    part = next((p for p in payload.document.parts if p.id == payload.part_id), None)
    if part is None or payload.kind not in kinds_for(part):
        kinds = ", ".join(CASES if part is None else kinds_for(part))
        message = f"names no part of the document, or no kind of case that suits it: one of {kinds}"
        raise InvalidDocument([Problem(path="part_id or kind", message=message, value=payload.kind)])
    return CaseOut(case=default_case(payload.kind, payload.document, part))


@router.post("/surface-ways", response=list[SurfaceVariant])
def compare_surface_ways(request: HttpRequest, payload: Study) -> list[SurfaceVariant]:
    """A control surface of the same size built in other ways; stores nothing."""
    services.require_possible(payload.document)
    part = next((p for p in payload.document.parts if p.id == payload.part_id), None)
    case = None if part is None else next((c for c in part.cases if c.id == payload.case_id), None)
    if part is None or not isinstance(case, DeflectedCase):
        message = "names no control surface with a case that holds it deflected"
        raise InvalidDocument([Problem(path="part_id or case_id", message=message, value=payload.case_id)])
    return compare_surface(payload.document, part, case)


@router.post("/estimate", response=Estimate)
def read_estimate(request: HttpRequest, payload: Question) -> HttpResponse:
    """The estimate of one part in one load case; stores nothing."""
    services.require_possible(payload.document)
    part = next((p for p in payload.document.parts if p.id == payload.part_id), None)
    if part is None:
        raise InvalidDocument([Problem(path="part_id", message="names no part", value=repr(payload.part_id))])
    if payload.case_id is not None and all(c.id != payload.case_id for c in part.cases):
        raise InvalidDocument([Problem(path="case_id", message="names no case", value=repr(payload.case_id))])
    with samples(QUICK_SAMPLES if payload.quick else SAMPLES):
        found = estimate(payload.document, payload.part_id, payload.case_id, brief=payload.quick)
    # straight from the model: to check and copy every curve again costs as much as the estimate
    return HttpResponse(found.model_dump_json(), content_type="application/json")
