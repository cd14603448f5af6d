"""What is kept of a build: read whole, changed on top of what was seen, pressed once however often sent."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from pydantic import TypeAdapter, ValidationError

from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.plan.changes import changed, told
from fletcher.core.plan.operations import operations
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import ShopWish
from fletcher.core.plan.work import Change, Press, Work
from fletcher.core.repair.events import Event
from fletcher.server.airframes.models import Airframe
from fletcher.server.build.models import Pressed, Sheet
from fletcher.server.common.readable import readable
from fletcher.server.common.refusals import refusal
from fletcher.server.crash import log

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
    _require_plan(airframe.document, changes)
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


def _require_plan(document: Document, changes: Sequence[Change]) -> None:
    try:
        changed(operations(document, ShopWish()), changes)
    except Impossible as error:
        raise refusal("changes", str(error)) from None


@transaction.atomic
def press(owner: User, airframe_id: UUID, presses: Sequence[Press]) -> Kept:
    """Keep what a device sends; what is known already changes nothing. What was measured or noted goes to the Log."""
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
    _to_log(owner, airframe, [p for p in fresh.values() if p.value is not None or p.note])
    return kept(airframe)


def _to_log(owner: User, airframe: Airframe, measured: Sequence[Press]) -> None:
    worth = [p for p in measured if p.what in ("done", "not_right", "gate")]
    if not worth:
        return
    try:
        names = {o.key: (told(o), o.part_id) for o in operations(airframe.document, ShopWish())}
    except Impossible:
        names = {}
    for p in worth:
        title, part_id = names.get(p.key, (p.key, None))
        value = "" if p.value is None else f" {p.value:g}"
        result = {"": "", "passed": ", passed", "failed": ", failed", "waived": ", passed by"}[p.result]
        not_right = ", not right" if p.what == "not_right" else ""
        says = f"Build: {title}{result}{not_right}.{value}{' ' if p.note else ''}{p.note}"
        log.put(owner, airframe, Event(kind="build", part_id=part_id, says=says[:600]), p.at)
