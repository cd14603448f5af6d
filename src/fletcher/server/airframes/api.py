"""Airframes: the shelf, autosave with revision numbers, undo, and live estimates."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from django.http import HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.airframe_file import AirframeFile
from fletcher.core.document.cases import PRINTABLE
from fletcher.server.airframes import history, services
from fletcher.server.common.refusals import refusal
from fletcher.server.common.requests import Device, Number, SignedIn, device_of

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

    revision: Number
    document: Airframe


class From(Schema):
    """The revision that undo or redo starts from."""

    revision: Number


@router.get("/airframes", response=list[AirframeOut])
def read_shelf(request: SignedIn) -> list[services.State]:
    """All airframes of the signed-in builder."""
    return services.shelf(request.user)


@router.post("/airframes", response={201: AirframeOut})
def add_airframe(request: SignedIn, payload: AirframeFile) -> Status[services.State]:
    """A new airframe, with the variants that its file brings."""
    return Status(201, history.create_from_file(request.user, payload))


@router.get("/airframes/{airframe_id}", response=AirframeOut)
def read_airframe(request: SignedIn, airframe_id: UUID) -> services.State:
    """One airframe."""
    return services.current(request.user, airframe_id)


@router.put("/airframes/{airframe_id}", response={200: AirframeOut, 409: AirframeOut})
def save_airframe(request: SignedIn, airframe_id: UUID, payload: Change) -> services.State:
    """Store a change. 409 with the current state if somebody else was first."""
    return services.save(request.user, airframe_id, payload.revision, payload.document, device_of(request))


@router.post("/airframes/{airframe_id}/undo", response={200: AirframeOut, 409: AirframeOut})
def undo(request: SignedIn, airframe_id: UUID, payload: From) -> services.State:
    """Go back one change."""
    return services.step(request.user, airframe_id, payload.revision, forward=False, device=device_of(request))


@router.post("/airframes/{airframe_id}/redo", response={200: AirframeOut, 409: AirframeOut})
def redo(request: SignedIn, airframe_id: UUID, payload: From) -> services.State:
    """Go forward again after undo."""
    return services.step(request.user, airframe_id, payload.revision, forward=True, device=device_of(request))


@router.get("/airframes/{airframe_id}/file", include_in_schema=False)
def download(request: SignedIn, airframe_id: UUID) -> HttpResponse:
    """The document with its variants as a file, for `fletcher estimate` or for keeping."""
    document = history.as_file(request.user, airframe_id)
    text = document.model_dump_json(indent=2, exclude=None if document.variants else {"variants"})
    name = "".join(c if c.isascii() and c.isalnum() else "-" for c in document.name).strip("-").lower() or "airframe"
    response = HttpResponse(text, content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{name}.fletcher.json"'
    return response


@router.delete("/airframes/{airframe_id}", response={204: None})
def delete_airframe(request: SignedIn, airframe_id: UUID) -> Status[None]:
    """Put an airframe into the bin, from which it can be taken back for thirty days."""
    services.delete(request.user, airframe_id)
    return Status(204, None)


class BinnedOut(Schema):
    """An airframe in the bin, and until when it can be taken back."""

    id: UUID
    name: str
    deleted: datetime
    until: datetime


@router.get("/bin", response=list[BinnedOut])
def read_bin(request: SignedIn) -> list[services.Binned]:
    """What was deleted and can be taken back."""
    return services.binned(request.user)


@router.post("/bin/{airframe_id}/back", response=AirframeOut)
def take_back(request: SignedIn, airframe_id: UUID) -> services.State:
    """Put an airframe back on the shelf."""
    return services.take_back(request.user, airframe_id)


@router.delete("/bin/{airframe_id}", response={204: None})
def delete_for_good(request: SignedIn, airframe_id: UUID) -> Status[None]:
    """Delete an airframe in the bin for good."""
    services.delete_for_good(request.user, airframe_id)
    return Status(204, None)


class EntryOut(Schema):
    """A revision in the history, and what it changed."""

    number: int
    created: datetime
    says: list[str]
    parts: list[str]


@router.get("/airframes/{airframe_id}/revisions", response=list[EntryOut])
def read_history(request: SignedIn, airframe_id: UUID, before: Number | None = None) -> list[history.Entry]:
    """The revisions of an airframe, the newest first, forty at a time."""
    return history.history(request.user, airframe_id, before)


class NewsOut(Schema):
    """What became of an airframe since a revision: what changed in words, the device on which it was changed last
    (empty where unknown), and its current state; null where it is that revision still."""

    revision: int
    says: list[str]
    device: Device
    state: AirframeOut | None


@router.get("/airframes/{airframe_id}/since/{number}", response=NewsOut)
def read_news(request: SignedIn, airframe_id: UUID, number: Number) -> history.News:
    """Whether another window has changed an airframe since a revision, and what."""
    return history.news(request.user, airframe_id, number)


class DocumentOut(Schema):
    """A document as it was."""

    document: Airframe


@router.get("/airframes/{airframe_id}/revisions/{number}", response=DocumentOut)
def read_revision(request: SignedIn, airframe_id: UUID, number: Number) -> DocumentOut:
    """The document of one revision."""
    return DocumentOut(document=history.revision(request.user, airframe_id, number))


PinName = Annotated[str, Field(min_length=1, max_length=60, pattern=PRINTABLE)]


class PinOut(Schema):
    """A variant that is pinned up, with the part as it was."""

    id: int
    name: str
    part_id: str
    revision: int | None
    part: Part


class PinIn(Schema):
    """What to pin up beside a part: it as it was in a revision, or a part from elsewhere, and a name for it."""

    part_id: str
    revision: Number | None = None
    part: Part | None = None
    name: PinName


class PinNameIn(Schema):
    """Another name for a pin."""

    name: PinName


@router.get("/airframes/{airframe_id}/pins", response=list[PinOut])
def read_pins(request: SignedIn, airframe_id: UUID) -> list[history.Pinned]:
    """All variants that are pinned up."""
    return history.pins(request.user, airframe_id)


@router.post("/airframes/{airframe_id}/pins", response={201: PinOut})
def add_pin(request: SignedIn, airframe_id: UUID, payload: PinIn) -> Status[history.Pinned]:
    """Pin a part up as it was in a revision, or one from elsewhere; six at most."""
    if (payload.revision is None) == (payload.part is None):
        raise refusal("revision", "enter a version or a part from elsewhere, one of them")
    to = (request.user, airframe_id, payload.part_id)
    if payload.part is not None:
        return Status(201, history.pin_from_elsewhere(*to, payload.part, payload.name))
    return Status(201, history.pin(*to, payload.revision or 0, payload.name))


@router.put("/airframes/{airframe_id}/pins/{pin_id}", response=PinOut)
def rename_pin(request: SignedIn, airframe_id: UUID, pin_id: Number, payload: PinNameIn) -> history.Pinned:
    """Give a pin another name."""
    return history.rename_pin(request.user, airframe_id, pin_id, payload.name)


@router.delete("/airframes/{airframe_id}/pins/{pin_id}", response={204: None})
def remove_pin(request: SignedIn, airframe_id: UUID, pin_id: Number) -> Status[None]:
    """Take a pin down."""
    history.unpin(request.user, airframe_id, pin_id)
    return Status(204, None)
