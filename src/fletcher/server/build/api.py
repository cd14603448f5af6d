"""The build sheet's side of the server: what the builder changed of a plan, what was pressed at the bench."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from ninja import Query, Router, Schema, Status
from pydantic import Field, ValidationError

from fletcher.core.document.problems import InvalidDocument, from_validation
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import Plan, ShopWish
from fletcher.core.plan.work import Change, Press, Work
from fletcher.core.templates.files import files_from, files_of, zipped
from fletcher.core.templates.traced import Trace, TraceLook, look, template_of
from fletcher.core.templates.write_pdf import Paper
from fletcher.server.build import services
from fletcher.server.build.print import build_pdf
from fletcher.server.common.refusals import refusal
from fletcher.server.common.requests import Number, SignedIn
from fletcher.server.crash import log

router = Router(tags=["Build sheet"])


class WorkOut(Schema):
    """The work of an airframe, and how often its changes were changed."""

    revision: int
    work: Work


class ChangesIn(Schema):
    """Changes in place of those that stood at a revision (0: none yet)."""

    revision: Number
    changes: Annotated[list[Change], Field(max_length=200)]


class PressesIn(Schema):
    """What was pressed since the device was last heard."""

    presses: Annotated[list[Press], Field(max_length=200)]


def _out(kept: services.Kept) -> WorkOut:
    return WorkOut(revision=kept.revision, work=kept.work)


class PrintWish(Schema):
    """Which airframe, and the shop that it is built in as JSON (empty: at any time, by one)."""

    airframe: UUID
    shop: Annotated[str, Field(max_length=4000)] = "{}"


@router.get("/build/sheet.pdf")
def print_sheet(request: SignedIn, wanted: Query[PrintWish]) -> HttpResponse:
    """The build sheet to print: steps, checks, setting cards, cut list."""
    try:
        shop = ShopWish.model_validate_json(wanted.shop)
    except ValidationError as error:
        problems = from_validation(error)
        raise InvalidDocument(p.model_copy(update={"path": f"shop.{p.path}"}) for p in problems) from None
    made = build_pdf(log.airframe_of(request.user, wanted.airframe), shop)
    return HttpResponse(made, content_type="application/pdf")


class TemplateWish(Schema):
    """Which airframe, on which paper, and what the wire takes."""

    airframe: UUID
    paper: Paper = "A4"
    kerf_mm: Annotated[float, Field(ge=0, le=5)] = 1.2


@router.get("/build/templates.zip")
def read_templates(request: SignedIn, wanted: Query[TemplateWish]) -> HttpResponse:
    """All templates of an airframe as large as the pieces are: DXF, SVG and PDF, in one ZIP."""
    document = log.airframe_of(request.user, wanted.airframe).document
    try:
        made = zipped(files_of(document, wanted.kerf_mm, wanted.paper, timezone.now().date()))
    except OSError:
        raise refusal("", _NO_PRINT) from None
    return _zip(made, "templates.zip")


_NO_PRINT = "cannot be printed here: the server lacks Debian's libpango-1.0-0"


def _zip(data: bytes, name: str) -> HttpResponse:
    reply = HttpResponse(data, content_type="application/zip")
    reply["Content-Disposition"] = f'attachment; filename="{name}"'
    return reply


class RepairPlanIn(Schema):
    """Which adopted repair, the shop that it is done in, and what was changed and done."""

    job_id: UUID
    shop: ShopWish = ShopWish()
    work: Work = Work()


@router.post("/build/repair-plan", response=Plan)
def read_repair_plan(request: SignedIn, payload: RepairPlanIn) -> Plan:
    """The work of an adopted repair in the shop's hours: when each step begins, what sets, and the first flight."""
    try:
        return services.plan_of(request.user, payload.job_id, payload.shop, payload.work)
    except Impossible as error:
        raise refusal("shop", str(error)) from None


class TraceIn(Schema):
    """A piece traced over a photograph, and the paper that it is printed on."""

    trace: Trace
    paper: Paper = "A4"


@router.post("/build/trace", response=TraceLook)
def read_trace(request: SignedIn, payload: TraceIn) -> TraceLook:
    """How large a traced piece is, and whether the picture was square to it."""
    return look(payload.trace)


@router.post("/build/trace.zip")
def read_traced(request: SignedIn, payload: TraceIn) -> HttpResponse:
    """A traced piece as large as it is: DXF, SVG and PDF, in one ZIP."""
    made = f"Traced, {timezone.now().date().isoformat()}."
    try:
        return _zip(zipped(files_from([template_of(payload.trace)], made, payload.paper)), "traced.zip")
    except OSError:
        raise refusal("", _NO_PRINT) from None


@router.get("/build/{airframe_id}", response=WorkOut)
def read_work(request: SignedIn, airframe_id: UUID) -> WorkOut:
    """What the builder changed of the plan of an airframe, and what was pressed."""
    return _out(services.kept(log.airframe_of(request.user, airframe_id)))


@router.put("/build/{airframe_id}/changes", response={200: WorkOut, 409: WorkOut})
def put_changes(request: SignedIn, airframe_id: UUID, payload: ChangesIn) -> Status[WorkOut]:
    """Change the plan. 409 with what is there now if somebody else was first."""
    try:
        return Status(200, _out(services.change(request.user, airframe_id, payload.revision, payload.changes)))
    except services.StaleSheet as stale:
        return Status(409, _out(stale.current))


@router.post("/build/{airframe_id}/presses", response=WorkOut)
def send_presses(request: SignedIn, airframe_id: UUID, payload: PressesIn) -> WorkOut:
    """Keep what was pressed; the same press twice counts once."""
    return _out(services.press(request.user, airframe_id, payload.presses))
