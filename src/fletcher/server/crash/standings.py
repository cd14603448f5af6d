"""How the airframes of a shelf stand, each computed once for a revision and remembered by the process."""

from __future__ import annotations

import logging
from collections.abc import Iterator
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.core.cache import cache

from fletcher.core.common.quantities import units
from fletcher.core.document.airframe import Airframe
from fletcher.core.repair.schema import Operation
from fletcher.core.repair.standing import Standing, standing
from fletcher.server.airframes import services as airframes
from fletcher.server.common.readable import readable
from fletcher.server.crash import models
from fletcher.server.crash.services import read_job, state_of

log = logging.getLogger(__name__)

_REMEMBERED_S = 24 * 3600


class StandingOut(Standing):
    """How one airframe on the shelf stands; what is due by its open work goes before all else."""

    airframe_id: UUID
    revision: int


def standings(owner: User) -> Iterator[StandingOut]:
    """All airframes on a shelf, one after another, the last touched first. One that fails to compute is left out and
    logged: it must not take the others along."""
    open_work = _open_work(owner)
    for state in airframes.shelf(owner):
        try:
            told = _remembered(state.id, state.revision, state.document)
        except (ArithmeticError, LookupError, ValueError):
            log.exception("airframe %s, revision %s, cannot be told how it stands", state.id, state.revision)
            continue
        out = {"airframe_id": state.id, "revision": state.revision, **told.model_dump()}
        yield StandingOut(**{**out, **open_work.get(state.id, {})})


def _remembered(airframe_id: UUID, revision: int, document: Any) -> Standing:
    key = f"standing-{airframe_id}-{revision}-{units()}"
    found: Standing | None = cache.get(key)
    if found is None:
        found = standing(Airframe.model_validate(document))
        cache.set(key, found, _REMEMBERED_S)
    return found


def _open_work(owner: User) -> dict[UUID, dict[str, Any]]:
    """The next step of the newest open work of every airframe."""
    jobs = models.Job.objects.owned_by(owner).order_by("created").prefetch_related("tasks")
    due: dict[UUID, dict[str, Any]] = {}
    for job, _ in readable(jobs, read_job):
        due.pop(job.airframe_id, None)
        if state_of(job) != "open":
            continue
        task = next((t for t in sorted(job.tasks.all(), key=lambda t: t.number) if t.done is None), None)
        title = "Measure the mended part" if task is None else Operation.model_validate(task.operation).title
        due[job.airframe_id] = {"due": title, "at": "crash", "part_id": job.part_id}
    return due
