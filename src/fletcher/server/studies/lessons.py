"""What a builder's other airframes taught of the builder's hand."""

from __future__ import annotations

from functools import lru_cache
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import F

from fletcher.core.balance.forecast import Known
from fletcher.core.balance.lessons import lessons_of, together
from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.materials.tables import reference
from fletcher.core.validation.airframe import check
from fletcher.server.airframes.models import Revision
from fletcher.server.common.readable import readable

AT_MOST = 12
"""So many airframes are learned from, those changed last."""


def known_of(user: User, without: UUID | None) -> list[Known]:
    """Lessons of the airframes on this user's shelf that were weighed, without the one that is looked at."""
    heads = Revision.objects.filter(
        airframe__owner=user, airframe__deleted__isnull=True, number=F("airframe__revision"),
        document__weighings__0__isnull=False,
    )  # fmt: skip
    if without is not None:
        heads = heads.exclude(airframe_id=without)
    newest = heads.order_by("-airframe__updated").only("airframe_id", "number")[:AT_MOST]
    return together(lesson for _, lesson in readable(newest, lambda r: _taught(r.pk)))


@lru_cache(maxsize=512)
def _taught(revision: int) -> tuple[Known, ...]:
    """Lessons of a revision, which never changes."""
    document = Document.model_validate(Revision.objects.get(pk=revision).document)
    return () if any(check(document, reference())) else lessons_of(document)
