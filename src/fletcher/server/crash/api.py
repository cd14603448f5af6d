"""The crash desk's side of the server: search of repairs as a stream, adopting, the log, jobs, pictures, candidates."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Form, Router, Schema, Status, UploadedFile
from pydantic import Field

from fletcher.core.document.cases import PRINTABLE, Id
from fletcher.core.document.damage import Mark
from fletcher.core.document.problems import Problem
from fletcher.core.repair.build_mistakes import SlipAnswer, SlipWish, slip, slips
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.inspection import Crash, Inspection, Left, inspect, what_is_left
from fletcher.core.repair.mark_menu import Offer, offers_at
from fletcher.core.repair.pareto_search import search
from fletcher.core.repair.phrasing import FIELD_BOX, short_name
from fletcher.core.repair.recipe import Recipe
from fletcher.core.repair.reopening import reopened
from fletcher.core.repair.schema import CheckAfter, Mending, MendOption, MendWish, Operation, Progress
from fletcher.core.repair.toughen import Toughening, toughenings
from fletcher.server.airframes.api import AirframeOut
from fletcher.server.common.requests import Number, SignedIn
from fletcher.server.common.streams import streamed
from fletcher.server.crash import models, services
from fletcher.server.crash.standings import StandingOut, standings
from fletcher.server.studies.schemas import Study

router = Router(tags=["Crash desk"])


class CrashStudy(Study):
    """What happened: see `repair.inspection.Crash`."""

    crash: Crash


@router.post("/inspect", response=Inspection)
def read_inspection(request: SignedIn, payload: CrashStudy) -> Inspection:
    """Where to look first after a crash."""
    return inspect(payload.document, payload.part(), payload.crash)


class Pressed(Study):
    """A place of a part: mm from the root, per cent of the chord behind the nose (null: none in particular)."""

    at_mm: Annotated[float, Field(ge=0, le=5000)]
    percent: Annotated[float | None, Field(ge=0, le=100)] = None


@router.post("/offers", response=list[Offer])
def read_offers(request: SignedIn, payload: Pressed) -> list[Offer]:
    """The marks of damage that may be put where a part was pressed, each placed there."""
    return offers_at(payload.part(), payload.at_mm, payload.percent)


@router.post("/left", response=Left)
def read_left(request: SignedIn, payload: Study) -> Left:
    """What the marks of damage leave of the part, case by case, and what that means for flying."""
    return what_is_left(payload.document, payload.part())


class Reopening(Study):
    """Marks that a repair took away, whose check failed."""

    marks: Annotated[list[Mark], Field(max_length=24)]


@router.post("/reopen", response=list[Mark])
def read_reopened(request: SignedIn, payload: Reopening) -> list[Mark]:
    """Of the marks of a repair those that the part can have again."""
    return list(reopened(payload.part(), payload.marks))


class Thing(Schema):
    """A stock or an adhesive by its key."""

    key: str
    name: str


@router.get("/field-box", response=list[Thing])
def read_field_box(request: SignedIn) -> list[Thing]:
    """What is often at hand in the field, to say yes or no to."""
    return [Thing(key=key, name=short_name(key)) for key in FIELD_BOX]


class StandingLine(Schema):
    """A line of the stream: how one airframe stands."""

    standing: StandingOut | None = None
    problems: list[Problem] | None = None


@router.get("/standings", response=StandingLine)
def read_standings(request: SignedIn) -> StreamingHttpResponse:
    """How all airframes on the shelf stand: a line of JSON each, the last touched first."""
    return streamed(request, standings(request.user), lambda _: "standing")


class MendStudy(Study):
    """A damaged part, and what its repair is for."""

    wish: MendWish


class MendLine(Schema):
    """A line of the stream: progress, at last the answer, or what is wrong."""

    progress: Progress | None = None
    answer: Mending | None = None
    problems: list[Problem] | None = None


@router.post("/mend", response=MendLine)
def read_mending(request: SignedIn, payload: MendStudy) -> StreamingHttpResponse:
    """Search repairs for the damaged part: a line of JSON for every step of progress, the last one with the answer.
    Closing the connection ends the search."""
    part = payload.part()
    found = search(payload.document, part, payload.wish, services.scrap(request.user, payload.document.name))
    return streamed(request, found, lambda step: "progress" if isinstance(step, Progress) else "answer")


class OptionStudy(MendStudy):
    """One repair of a damaged part."""

    recipe: Recipe


@router.post("/mend-option", response=MendOption)
def read_option(request: SignedIn, payload: OptionStudy) -> MendOption:
    """One repair computed in full."""
    return computed(payload.document, payload.part(), payload.recipe, payload.wish).option


class SlipStudy(Study):
    """A slip while building: see `repair.build_mistakes.SlipWish`."""

    wish: SlipWish


class SlipKind(Schema):
    """A kind of slip."""

    key: str
    title: str
    says: str


@router.get("/slips", response=list[SlipKind])
def read_slips(request: SignedIn) -> list[SlipKind]:
    """All kinds of slip."""
    return [SlipKind(key=s.key, title=s.title, says=s.says) for s in slips().values()]


@router.post("/slip", response=SlipAnswer)
def read_slip(request: SignedIn, payload: SlipStudy) -> SlipAnswer:
    """What a slip costs, its remedies, and what must not be done."""
    return slip(payload.document, payload.part(), payload.wish)


@router.post("/toughen", response=list[Toughening])
def read_toughenings(request: SignedIn, payload: CrashStudy) -> list[Toughening]:
    """Changes that let the part take more of such a crash, with what they add and weigh."""
    return toughenings(payload.document, payload.part(), payload.crash)


class Adoption(Schema):
    """A repair to adopt, and the revision it was made from."""

    revision: Number
    part_id: str
    recipe: Recipe
    wish: MendWish = MendWish()


class TaskOut(Schema):
    """An operation of a job, when it was done, and what was noted."""

    number: int
    operation: Operation
    done: datetime | None
    note: str


class CheckOut(CheckAfter):
    """A check, what was measured, and whether that passes; null: not measured yet."""

    number: int
    value: float | None
    holds: bool | None


class JobOut(Schema):
    """A list of operations on a part, with the checks that follow and the marks that it mends: being mended until every
    step is done and every check passed."""

    id: UUID
    part_id: str
    title: str
    created: datetime
    tasks: list[TaskOut]
    checks: list[CheckOut]
    marks: list[Mark]
    state: services.JobState


class AdoptedOut(Schema):
    """The airframe with the repair in it, and the work."""

    airframe: AirframeOut
    job: JobOut


def _job(row: models.Job) -> JobOut:
    checks = [
        CheckOut(**c.model_dump(), number=n, value=v, holds=None if v is None else c.passed(v))
        for n, (c, v) in enumerate(services.checked(row))
    ]
    return JobOut(
        id=row.id, part_id=row.part_id, title=row.title, created=row.created, checks=checks, marks=row.marks,
        state=services.state_of(row),
        tasks=[TaskOut(number=t.number, operation=t.operation, done=t.done, note=t.note) for t in row.tasks.all()],
    )  # fmt: skip


@router.post("/airframes/{airframe_id}/adopt", response={200: AdoptedOut, 409: AirframeOut})
def adopt(request: SignedIn, airframe_id: UUID, payload: Adoption) -> AdoptedOut:
    """Make a repair part of the airframe: document, log and work in one transaction."""
    saved, job, _ = services.adopt(
        request.user, airframe_id, payload.revision, payload.part_id, payload.recipe, payload.wish
    )
    return AdoptedOut(airframe=AirframeOut.from_orm(saved), job=_job(job))


@router.get("/airframes/{airframe_id}/jobs", response=list[JobOut])
def read_jobs(request: SignedIn, airframe_id: UUID) -> list[JobOut]:
    """All jobs of an airframe, the newest first."""
    return [_job(row) for row in services.jobs(request.user, airframe_id)]


class Tick(Schema):
    """Whether an operation is done, and a note."""

    done: bool
    note: Annotated[str, Field(max_length=400, pattern=PRINTABLE)] = ""


@router.put("/jobs/{job_id}/tasks/{number}", response=JobOut)
def tick(request: SignedIn, job_id: UUID, number: Number, payload: Tick) -> JobOut:
    """Tick an operation off, or take the tick back."""
    return _job(services.tick(request.user, job_id, number, payload.done, payload.note))


class Measured(Schema):
    """What a check measured, in its unit; null takes it out."""

    value: Annotated[float | None, Field(ge=-100_000, le=100_000)]


@router.put("/jobs/{job_id}/checks/{number}", response=JobOut)
def measure(request: SignedIn, job_id: UUID, number: Number, payload: Measured) -> JobOut:
    """Put in what a check of the mended part measured."""
    return _job(services.measure(request.user, job_id, number, payload.value))


@router.delete("/jobs/{job_id}", response={204: None})
def remove_job(request: SignedIn, job_id: UUID) -> Status[None]:
    """Take a job out; document and log stay."""
    get_object_or_404(models.Job.objects.owned_by(request.user), id=job_id).delete()
    return Status(204, None)


class PictureOut(Schema):
    """A picture at a mark, or at an entry of the Log."""

    id: UUID
    part_id: str
    mark_id: str
    entry_id: UUID | None
    created: datetime


@router.get("/airframes/{airframe_id}/pictures", response=list[PictureOut])
def read_pictures(request: SignedIn, airframe_id: UUID) -> list[models.Picture]:
    """Pictures at the marks and log entries of an airframe."""
    return services.pictures(request.user, airframe_id)


@router.post("/airframes/{airframe_id}/pictures", response={201: PictureOut})
def add_picture(
    request: SignedIn, airframe_id: UUID, photo: File[UploadedFile], part_id: Form[Id], mark_id: Form[Id]
) -> Status[models.Picture]:
    """Put a picture to a mark."""
    return Status(201, services.add_picture(request.user, airframe_id, part_id, mark_id, photo))


@router.post("/log/{entry_id}/pictures", response={201: PictureOut})
def add_picture_to_entry(request: SignedIn, entry_id: UUID, photo: File[UploadedFile]) -> Status[models.Picture]:
    """Put a picture to an entry of the Log."""
    return Status(201, services.add_picture_to_entry(request.user, entry_id, photo))


@router.get("/pictures/{picture_id}", include_in_schema=False)
def read_picture(request: SignedIn, picture_id: UUID) -> HttpResponse:
    """A picture itself."""
    row = get_object_or_404(models.Picture.objects.owned_by(request.user), id=picture_id)
    answer = HttpResponse(bytes(row.photo), content_type="image/jpeg")
    answer["X-Content-Type-Options"] = "nosniff"
    return answer


@router.delete("/pictures/{picture_id}", response={204: None})
def remove_picture(request: SignedIn, picture_id: UUID) -> Status[None]:
    """Take a picture out."""
    get_object_or_404(models.Picture.objects.owned_by(request.user), id=picture_id).delete()
    return Status(204, None)


class CandidateOut(Schema):
    """A repair that is kept for comparison."""

    id: UUID
    part_id: str
    name: str
    recipe: Recipe


class CandidateIn(Schema):
    """A repair to keep for comparison."""

    part_id: str
    name: Annotated[str, Field(min_length=1, max_length=80, pattern=PRINTABLE)]
    recipe: Recipe


@router.get("/airframes/{airframe_id}/candidates", response=list[CandidateOut])
def read_candidates(request: SignedIn, airframe_id: UUID) -> list[models.Candidate]:
    """Repairs that are kept for comparison, in the order they were kept."""
    return services.candidates(request.user, airframe_id)


@router.post("/airframes/{airframe_id}/candidates", response={201: CandidateOut})
def keep_candidate(request: SignedIn, airframe_id: UUID, payload: CandidateIn) -> Status[models.Candidate]:
    """Keep a repair for comparison."""
    row = services.keep_candidate(request.user, airframe_id, payload.part_id, payload.name, payload.recipe)
    return Status(201, row)


@router.delete("/candidates/{candidate_id}", response={204: None})
def remove_candidate(request: SignedIn, candidate_id: UUID) -> Status[None]:
    """Take a kept repair out."""
    get_object_or_404(models.Candidate.objects.owned_by(request.user), id=candidate_id).delete()
    return Status(204, None)
