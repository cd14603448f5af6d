"""What is kept of a build: read whole, changed on top of what was seen, pressed once however often sent."""

from __future__ import annotations

import contextlib
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404
from django.utils import timezone
from pydantic import TypeAdapter, ValidationError

from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.plan.changes import changed, concerning, told
from fletcher.core.plan.operations import operations
from fletcher.core.plan.planning import plan
from fletcher.core.plan.progress import facts
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import BuildStep, Plan, ShopWish
from fletcher.core.plan.work import Change, OwnStep, Press, Work
from fletcher.core.repair.events import Event
from fletcher.core.repair.mending_plan import mending_steps, place_of_key, with_ticks
from fletcher.core.repair.schema import Operation
from fletcher.server.airframes.models import Airframe
from fletcher.server.build.models import Pressed, Sheet
from fletcher.server.build.using_up import give_back, use_up
from fletcher.server.common.readable import readable
from fletcher.server.common.refusals import refusal
from fletcher.server.crash import log
from fletcher.server.crash import services as crash
from fletcher.server.crash.models import Job

MOST = 4000
"""So many presses may one airframe have."""
_CHANGE: TypeAdapter[Change] = TypeAdapter(Change)


@dataclass(frozen=True)
class Kept:
    """The work of an airframe, and how often its changes were changed."""

    revision: int
    work: Work


class StaleSheet(Exception):  # noqa: N818 - a state, told with what is there now
    """Somebody else changed the plan first."""

    def __init__(self, current: Kept) -> None:
        super().__init__("the plan was changed elsewhere")
        self.current = current


def kept(airframe: Airframe) -> Kept:
    """All work of an airframe, presses as they were received; a row that is no longer valid is left out."""
    sheet = Sheet.objects.owned_by(airframe.owner).filter(airframe=airframe).first()
    rows = Pressed.objects.owned_by(airframe.owner).filter(airframe=airframe).order_by("created", "pk")
    changes = tuple(_valid(sheet.changes)) if sheet else ()
    return Kept(sheet.revision if sheet else 0, Work(changes=changes, presses=tuple(presses_of(rows))))


def _valid(changes: Iterable[object]) -> Iterator[Change]:
    """Changes that can be read; one of an earlier time that no longer can is left out."""
    for one in changes:
        try:
            yield _CHANGE.validate_python(one)
        except ValidationError:
            continue


def presses_of(rows: Iterable[Pressed]) -> list[Press]:
    """Presses of rows, each under the id of its row."""
    return [p for _, p in readable(rows, lambda row: Press.model_validate({**row.press, "id": str(row.id)}))]


def change(owner: User, airframe_id: UUID, revision: int, changes: Sequence[Change]) -> Kept:
    """Put these changes in place of those that stood at a revision.

    Raises
    ------
    InvalidDocument
        If the plan could not be made with them; nothing is stored.
    StaleSheet
        If they were changed since; nothing is stored.
    """
    airframe = log.airframe_of(owner, airframe_id)
    _require_plan(owner, airframe.document, changes)
    data = [c.model_dump(mode="json") for c in changes]
    with transaction.atomic():
        airframe = log.airframe_of(owner, airframe_id, hold=True)
        sheet = Sheet.objects.owned_by(owner).filter(airframe=airframe).first()
        if (sheet.revision if sheet else 0) != revision:
            raise StaleSheet(kept(airframe))
        if sheet is None:
            Sheet(id=airframe.pk, owner=owner, airframe=airframe, changes=data).save(force_insert=True)
        else:
            sheet.changes, sheet.revision = data, sheet.revision + 1
            sheet.save(update_fields=["changes", "revision"])
        return kept(airframe)


def _require_plan(owner: User, document: Document, changes: Sequence[Change]) -> None:
    try:
        changed(operations(document, ShopWish()), concerning(changes, None))
        for job in _jobs_of(changes):
            with contextlib.suppress(Http404):  # of a repair that is gone: kept, and without effect
                steps = steps_of(crash.job_of(owner, job))
                changed(steps, concerning(changes, {o.key for o in steps}))
    except Impossible as error:
        raise refusal("changes", str(error)) from None


def _jobs_of(changes: Sequence[Change]) -> set[UUID]:
    keys = [k for c in changes for k in ((*c.after, *c.before) if isinstance(c, OwnStep) else (c.key,))]
    return {job for k in keys if (job := _job_in(k)) is not None}


def _job_in(key: str) -> UUID | None:
    """The job that a step is of; None of a step of the build."""
    place = place_of_key(key)
    try:
        return None if place is None else UUID(place[0])
    except ValueError:
        return None


def steps_of(job: Job) -> list[BuildStep]:
    """The steps of a repair that was adopted."""
    part = job.airframe.document.part(job.part_id)
    return mending_steps(str(job.id), part, [Operation.model_validate(t.operation) for t in job.tasks.all()])


def plan_of(owner: User, job_id: UUID, shop: ShopWish, work: Work) -> Plan:
    """The plan of a repair that was adopted.

    Raises
    ------
    Impossible
        Where it fits no hours.
    InvalidDocument
        Where there is no such repair.
    """
    try:
        job = crash.job_of(owner, job_id)
    except Http404:
        raise refusal("job_id", "names no repair of yours", str(job_id)) from None
    stored = kept(job.airframe).work.presses
    work = with_ticks(work, stored, str(job.id), {t.number: t.done for t in job.tasks.all()})
    return plan(job.airframe.document, shop, timezone.now(), work, steps_of(job))


def press(owner: User, airframe_id: UUID, presses: Sequence[Press]) -> Kept:
    """Keep what a device sends; what is known already changes nothing. What was measured or noted goes to the Log; what
    is done uses up what it was cut from, what is taken back gives it back."""
    now, fresh = _keep(owner, airframe_id, presses)
    airframe, known = log.airframe_of(owner, airframe_id), facts(now.work.presses)
    done = {key for key, f in known.items() if f.done is not None}
    give_back(owner, airframe, {p.key for p in fresh if p.what == "undone"} - done, done)
    use_up(owner, airframe, {p.key for p in fresh if p.what == "done"} & done)
    return now


@transaction.atomic
def _keep(owner: User, airframe_id: UUID, presses: Sequence[Press]) -> tuple[Kept, list[Press]]:
    """What is kept then, and what of it is new."""
    airframe = log.airframe_of(owner, airframe_id, hold=True)
    once = {UUID(p.id): p for p in presses}
    there = set(Pressed.everyone.filter(pk__in=once).values_list("pk", flat=True))
    fresh = {key: p for key, p in once.items() if key not in there}
    count = Pressed.objects.owned_by(owner).filter(airframe=airframe).count()
    if count + len(fresh) > MOST:
        raise refusal("presses", f"there are as many as can be kept: at most {MOST}", str(count))
    Pressed.everyone.bulk_create(
        Pressed(id=key, owner=owner, airframe=airframe, press=p.model_dump(mode="json")) for key, p in fresh.items()
    )
    _tick(owner, fresh.values())
    _to_log(owner, airframe, [p for p in fresh.values() if p.value is not None or p.note])
    return kept(airframe), list(fresh.values())


def _tick(owner: User, presses: Iterable[Press]) -> None:
    """What is done at the bench is ticked at the Crash desk; of a job that is no longer there nothing is."""
    for p in sorted(presses, key=lambda p: p.at):
        place, job = place_of_key(p.key), _job_in(p.key)
        if place is not None and job is not None and p.what in ("done", "not_right", "undone"):
            with contextlib.suppress(Http404):
                crash.tick(owner, job, place[1], p.what != "undone", p.note)


def _to_log(owner: User, airframe: Airframe, measured: Sequence[Press]) -> None:
    worth = [p for p in measured if p.what in ("done", "not_right", "gate")]
    if not worth:
        return
    try:
        names = {o.key: (told(o), o.part_id) for o in operations(airframe.document, ShopWish())}
    except Impossible:
        names = {}
    for job in {j for p in worth if (j := _job_in(p.key)) is not None}:
        with contextlib.suppress(Http404):
            names |= {o.key: (told(o), o.part_id) for o in steps_of(crash.job_of(owner, job))}
    for p in worth:
        title, part_id = names.get(p.key, (p.key, None))
        value = "" if p.value is None else f" {p.value:g}"
        result = {"": "", "passed": ", passed", "failed": ", failed", "waived": ", passed by"}[p.result]
        not_right = ", not right" if p.what == "not_right" else ""
        says = f"Build: {title}{result}{not_right}.{value}{' ' if p.note else ''}{p.note}"
        log.put(owner, airframe, Event(kind="build", part_id=part_id, says=says[:600]), p.at)
