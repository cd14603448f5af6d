"""What is damaged on a shelf."""

from __future__ import annotations

import json
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.http import HttpResponse
from ninja import Router, Schema, Status

from fletcher.server.common.requests import SignedIn
from fletcher.server.keeping import damaged

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
