"""What can be done with log, jobs, pictures and candidates; always those of one owner. Adopting a repair changes the
document, writes the log and lists the work in one transaction: all of it or nothing."""

from __future__ import annotations

from typing import Any, Literal, cast
from uuid import UUID

from django.contrib.auth.models import User
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone
from pydantic import TypeAdapter

from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.document.airframe import Part
from fletcher.core.document.damage import Mark
from fletcher.core.repair.evaluate import computed, makeable
from fletcher.core.repair.events import Event
from fletcher.core.repair.phrasing import mark_words
from fletcher.core.repair.recipe import Recipe
from fletcher.core.repair.schema import CheckAfter, MendOption, MendWish, Operation
from fletcher.server.airframes import services as airframes
from fletcher.server.common.photographs import kept_photo
from fletcher.server.common.readable import readable
from fletcher.server.common.refusals import part_of, refusal, require_room
from fletcher.server.common.storage import require_storage
from fletcher.server.crash import log, models

MOST = 2000
"""A fifth as many pictures may one airframe have, a fiftieth as many candidates a part."""

JobState = Literal["open", "failed", "passed"]


def scrap(owner: User, but: str) -> list[tuple[str, Part]]:
    """Broken parts of all airframes of an owner that are broken, but for those of one name, each by its name and its
    airframe's: a part that is to fly is no scrap."""
    out = []
    for state in airframes.shelf(owner):
        document = Document.model_validate(state.document)
        if document.name != but and document.state == "broken":
            out += [(f"{p.name} of {document.name}", p) for p in document.parts if p.damage]
    return out


def stretches_of(before: Part, after: Part) -> tuple[tuple[float, float], ...]:
    """Where a repair lies along the part: the stretches of the lines that it made."""
    known = {la.id for la in before.layers}
    out = []
    for la in after.layers:
        if la.id not in known:
            end = la.end_mm if la.end_mm is not None else la.start_mm if la.type == "joint" else after.span_mm
            out.append((la.start_mm, max(end, la.start_mm)))
    return tuple(dict.fromkeys(out))[:64]


def adopt(
    owner: User, airframe_id: UUID, revision: int, part_id: str, recipe: Recipe, wish: MendWish
) -> tuple[airframes.State, models.Job, MendOption]:
    """Make a repair part of the airframe: its lines in the document, its damage and itself in the log, its operations
    as a job.

    Raises
    ------
    InvalidDocument
        If the repair cannot be made; nothing is stored.
    Stale
        If `revision` is not the current one; nothing is stored.
    """
    state = airframes.current(owner, airframe_id)
    if state.revision != revision:
        raise airframes.Stale(state)
    document = Document.model_validate(state.document)
    part = part_of(document, part_id)
    if not part.damage:
        raise refusal("recipe", "has nothing to repair: no damage is marked on this part")
    option = computed(document, part, recipe, wish).option
    parts = tuple(option.part if p.id == part_id else p for p in document.parts)
    mended = document.model_copy(update={"parts": parts})
    with transaction.atomic():
        return _adopted(owner, airframe_id, revision, part, recipe, option, mended)


def _adopted(
    owner: User, airframe_id: UUID, revision: int, part: Part, recipe: Recipe, option: MendOption, mended: Document
) -> tuple[airframes.State, models.Job, MendOption]:  # fmt: skip
    """Store what was computed: document, log and work, and take the candidates off the table."""
    part_id = part.id
    saved = airframes.save(owner, airframe_id, revision, mended)
    airframe = log.airframe_of(owner, airframe_id)
    now = timezone.now()
    told = [e for *_, e in log.record_of_damage(airframe) if e.kind == "damage" and e.part_id == part_id]
    known = [m for e in told for m in e.marks]
    fresh = tuple(m for m in part.damage if m not in known)
    if fresh:
        says = "; ".join(mark_words(m) for m in fresh)[:600]
        log.put(owner, airframe, Event(kind="damage", part_id=part_id, says=says, marks=fresh), now, revision)
    repair = Event(kind="repair", part_id=part_id, says=option.says[:600], recipe=recipe,
                   stretches_mm=stretches_of(part, option.part))  # fmt: skip
    log.put(owner, airframe, repair, now, saved.revision)
    job = models.Job(owner=owner, airframe=airframe, part_id=part_id, title=f"{part.name}: {option.says}"[:300],
                     checks=[c.model_dump(mode="json") for c in option.checks],
                     marks=_mended(part, option.part))  # fmt: skip
    job.save()
    tasks = [models.Task(job=job, number=n + 1, operation=op.model_dump(mode="json"))
             for n, op in enumerate(option.operations)]  # fmt: skip
    models.Task.objects.bulk_create(tasks)
    models.Candidate.objects.owned_by(owner).filter(airframe=airframe, part_id=part_id).delete()
    return saved, job, option


def _mended(before: Part, after: Part) -> list[Any]:
    """The marks that a repair takes away, as they are kept."""
    left = {m.id for m in after.damage}
    return [m.model_dump(mode="json") for m in before.damage if m.id not in left]


def checked(job: models.Job) -> list[tuple[CheckAfter, float | None]]:
    """The checks of a job with what was measured, None where nothing was yet."""
    return [(CheckAfter.model_validate(c), job.values.get(str(n))) for n, c in enumerate(job.checks)]


def state_of(job: models.Job) -> JobState:
    """Failed where a check did; passed where every step is done and every check passed."""
    values = checked(job)
    if any(v is not None and not c.passed(v) for c, v in values):
        return "failed"
    waits = any(v is None for _, v in values) or any(t.done is None for t in job.tasks.all())
    return "open" if waits else "passed"


@transaction.atomic
def measure(owner: User, job_id: UUID, number: int, value: float | None) -> models.Job:
    """Put in what a check measured, or take it out again."""
    job = get_object_or_404(models.Job.objects.owned_by(owner).select_for_update(), id=job_id)
    if not 0 <= number < len(job.checks):
        raise refusal("number", f"names no check of this work: 0 to {len(job.checks) - 1}", str(number))
    was = state_of(job)
    values = {k: v for k, v in job.values.items() if k != str(number)}
    job.values = values if value is None else {**values, str(number): value}
    job.save(update_fields=["values"])
    _told_when_done(owner, job, was)
    return job


def _told_when_done(owner: User, job: models.Job, was: str) -> None:
    if was != "passed" and state_of(job) == "passed":
        says = f"All done and every check passed: {job.title}"[:600]
        log.put(owner, job.airframe, Event(kind="check", part_id=job.part_id, says=says), None)


def read_job(job: models.Job) -> None:
    """Raise if a job is damaged."""
    checked(job)
    for task in job.tasks.all():
        Operation.model_validate(task.operation)
    for mark in job.marks:
        _MARK.validate_python(mark)


_MARK: TypeAdapter[Mark] = TypeAdapter(Mark)


def jobs(owner: User, airframe_id: UUID) -> list[models.Job]:
    """Jobs of an airframe, the newest first; one that is damaged is left out."""
    rows = models.Job.objects.owned_by(owner).filter(airframe=log.airframe_of(owner, airframe_id))
    return [row for row, _ in readable(rows.order_by("-created").prefetch_related("tasks"), read_job)]


def job_of(owner: User, job_id: UUID) -> models.Job:
    """A job, or 404."""
    return get_object_or_404(models.Job.objects.owned_by(owner).prefetch_related("tasks"), id=job_id)


@transaction.atomic
def tick(owner: User, job_id: UUID, number: int, done: bool, note: str) -> models.Job:
    """Tick an operation off, or take the tick back; the last one done, with every check passed, puts the job on the
    time line."""
    job = get_object_or_404(models.Job.objects.owned_by(owner).select_for_update(), id=job_id)
    task = get_object_or_404(job.tasks.all(), number=number)
    was = state_of(job)
    task.done, task.note = (task.done or timezone.now()) if done else None, note
    task.save()
    _told_when_done(owner, job, was)
    return job


def add_picture(
    owner: User, airframe_id: UUID, part_id: str, mark_id: str, upload: UploadedFile[bytes]
) -> models.Picture:  # fmt: skip
    """Put a picture to a mark of the airframe as it is stored."""
    photo = kept_photo(upload)
    with transaction.atomic():
        airframe = log.airframe_of(owner, airframe_id, hold=True)
        if mark_id not in {m.id for m in part_of(airframe.document, part_id).damage}:
            raise refusal("mark_id", "does not name a saved damage mark: wait until the mark is saved", mark_id)
        return _kept(models.Picture(owner=owner, airframe=airframe, part_id=part_id, mark_id=mark_id, photo=photo))


def add_picture_to_entry(owner: User, entry_id: UUID, upload: UploadedFile[bytes]) -> models.Picture:
    """Put a picture to an entry of the Log."""
    photo = kept_photo(upload)
    with transaction.atomic():
        entry = get_object_or_404(models.Entry.objects.owned_by(owner), id=entry_id, removed__isnull=True)
        airframe = log.airframe_of(owner, entry.airframe_id, hold=True)
        part = Event.model_validate(entry.event).part_id or ""
        return _kept(models.Picture(owner=owner, airframe=airframe, part_id=part, entry=entry, photo=photo))


def _kept(row: models.Picture) -> models.Picture:
    """A picture, kept where there is room for it."""
    known = models.Picture.objects.owned_by(row.owner).filter(airframe=row.airframe)
    require_room(known.count(), MOST // 5, "pictures")
    require_storage(row.owner)
    row.save()
    return row


def pictures(owner: User, airframe_id: UUID) -> list[models.Picture]:
    """Pictures of an airframe without their bytes, in the order they were put."""
    rows: Any = models.Picture.objects.owned_by(owner).filter(airframe=log.airframe_of(owner, airframe_id))
    return cast("list[models.Picture]", list(rows.defer("photo").order_by("created")))


def candidates(owner: User, airframe_id: UUID) -> list[models.Candidate]:
    """Kept repairs of an airframe, in the order they were kept."""
    rows = models.Candidate.objects.owned_by(owner).filter(airframe=log.airframe_of(owner, airframe_id))
    return [row for row, _ in readable(rows.order_by("created"), lambda row: Recipe.model_validate(row.recipe))]


def keep_candidate(
    owner: User, airframe_id: UUID, part_id: str, name: str, recipe: Recipe
) -> models.Candidate:  # fmt: skip
    """Keep a repair for comparison, if it can be made on the part as it is stored."""
    makeable(part_of(log.airframe_of(owner, airframe_id).document, part_id), recipe)
    data = recipe.model_dump(mode="json")
    with transaction.atomic():
        airframe = log.airframe_of(owner, airframe_id, hold=True)
        rows = models.Candidate.objects.owned_by(owner).filter(airframe=airframe, part_id=part_id)
        require_room(rows.count(), MOST // 50, "candidates")
        row = models.Candidate(owner=owner, airframe=airframe, part_id=part_id, name=name, recipe=data)
        row.save()
    return row
