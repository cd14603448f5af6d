"""What is damaged on a shelf."""

from __future__ import annotations

import json
import tempfile
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.http import FileResponse, HttpResponse
from django.utils import timezone
from ninja import File, Form, Router, Schema, Status, UploadedFile

from fletcher.server.common.requests import SignedIn
from fletcher.server.common.storage import MOST_BYTES, used_bytes
from fletcher.server.keeping import damaged, intake
from fletcher.server.keeping.archive import dated, write_archive
from fletcher.server.keeping.demo_fleet import put_fleet
from fletcher.server.keeping.unpack import Unpacked

router = Router(tags=["keeping"])

Sort = Literal["airframe", "entry", "job", "candidate", "coupon", "trial"]


class DamagedOut(Schema):
    """A row that cannot be read."""

    kind: Sort
    id: UUID
    created: datetime


@router.get("/damaged", response=list[DamagedOut])
def read_damaged(request: SignedIn) -> list[damaged.Damaged]:
    """Everything of the signed-in builder that is stored and cannot be read any more."""
    return list(damaged.damaged(request.user))


@router.get("/damaged/{kind}/{row_id}", include_in_schema=False)
def read_raw(request: SignedIn, kind: Sort, row_id: UUID) -> HttpResponse:
    """What such a row holds, as a file."""
    text = json.dumps(damaged.raw_of(request.user, kind, row_id), indent=2, ensure_ascii=False)
    answer = HttpResponse(text, content_type="application/json")
    answer["Content-Disposition"] = f'attachment; filename="damaged-{kind}-{row_id}.json"'
    return answer


@router.delete("/damaged/{kind}/{row_id}", response={204: None})
def remove_damaged(request: SignedIn, kind: Sort, row_id: UUID) -> Status[None]:
    """Take such a row out for good."""
    damaged.take_out(request.user, kind, row_id)
    return Status(204, None)


class StorageOut(Schema):
    """Bytes that an account has in the store, and may have."""

    used_bytes: int
    most_bytes: int


@router.get("/account/storage", response=StorageOut)
def read_storage(request: SignedIn) -> StorageOut:
    """How full the account is."""
    return StorageOut(used_bytes=used_bytes(request.user.pk), most_bytes=MOST_BYTES)


@router.get("/account/archive", include_in_schema=False)
def save_archive(request: SignedIn) -> FileResponse:
    """Everything of the account as one ZIP of open files."""
    kept = tempfile.SpooledTemporaryFile(max_size=4_000_000)  # noqa: SIM115 - the answer closes it
    write_archive(request.user, kept)
    kept.seek(0)
    return FileResponse(kept, as_attachment=True, filename=dated(timezone.now()), content_type="application/zip")


class ArrivingOut(Schema):
    """An airframe of an archive, and what becomes of it."""

    folder: str
    name: str
    fate: intake.Fate
    from_bin: bool
    revisions: int
    pictures: int


class ArrivalsOut(Schema):
    """What an archive brings to the account."""

    airframes: list[ArrivingOut]
    trials: int
    coupons: int
    damaged: int


@router.post("/account/archive/look", response=ArrivalsOut)
def look_at_archive(request: SignedIn, archive: File[UploadedFile]) -> intake.Arrivals:
    """What an archive would bring; stores nothing."""
    return intake.look(request.user, Unpacked(archive))


@router.post("/account/archive/take", response=ArrivalsOut)
def take_archive(request: SignedIn, archive: File[UploadedFile], leave: Form[list[str]] = []) -> intake.Arrivals:  # noqa: B006
    """Take an archive in, but for the airframes that are left: all of it or nothing."""
    return intake.take_in(request.user, Unpacked(archive), leave)


@router.post("/account/demo-fleet", response={204: None})
def add_demo_fleet(request: SignedIn) -> Status[None]:
    """Put the invented fleet on the shelf, to try things on."""
    put_fleet(request.user)
    return Status(204, None)
