"""The build sheet's side of the server: what the builder changed of a plan, what was pressed at the bench."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from ninja import Router, Schema, Status
from pydantic import Field

from fletcher.core.plan.work import Change, Press, Work
from fletcher.server.build import services
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
