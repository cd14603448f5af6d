"""The shelf: putting on, changing, reserving, cutting and taking a cut back."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Sequence
from typing import Any
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction
from django.shortcuts import get_object_or_404

from fletcher.core.document.airframe import Airframe as Document
from fletcher.core.document.problems import InvalidDocument
from fletcher.core.materials.tables import reference
from fletcher.core.stock.cutting_up import after_cut, after_layout
from fletcher.core.stock.donor import donor_block
from fletcher.core.stock.items import StockItem, flies, problems_of
from fletcher.server.airframes import services as airframes
from fletcher.server.airframes.models import Airframe
from fletcher.server.common.ownership import held
from fletcher.server.common.readable import readable
from fletcher.server.common.refusals import part_of, refusal, require_room
from fletcher.server.stock.models import Cut, Thing

MOST = 2000
"""So many things may be on one shelf."""


class StaleThing(Exception):  # noqa: N818 - a state, told with what is there now
    """Somebody else changed the thing first."""

    def __init__(self, current: Thing) -> None:
        super().__init__("the thing was changed elsewhere")
        self.current = current


def things(owner: User) -> list[tuple[Thing, StockItem]]:
    """All that is on a shelf, in the order in which it came; what is no longer valid is left out."""
    rows = Thing.objects.owned_by(owner).order_by("created", "pk")
    return list(readable(rows, lambda row: StockItem.model_validate(row.item)))


def require_possible(item: StockItem, where: str = "item") -> None:
    """Raise InvalidDocument if there is no such thing."""
    found = list(problems_of(item))
    if found:
        raise InvalidDocument([p.model_copy(update={"path": f"{where}.{p.path}"}) for p in found])


@transaction.atomic
def put_on(owner: User, items: Sequence[StockItem]) -> list[Thing]:
    """Put things on the shelf: all or none."""
    for n, item in enumerate(items):
        require_possible(item, "item" if len(items) == 1 else f"items[{n}]")
    held(owner)
    require_room(Thing.objects.owned_by(owner).count() + len(items) - 1, MOST, "things")
    return [_new(owner, item, None) for item in items]


def _new(owner: User, item: StockItem, reserved_for: Airframe | None) -> Thing:
    row = Thing(owner=owner, item=item.model_dump(mode="json"), reserved_for=reserved_for)
    row.save(force_insert=True)
    return row


def _held_thing(owner: User, thing_id: UUID) -> Thing:
    return get_object_or_404(Thing.objects.owned_by(owner).select_for_update(), id=thing_id)


@transaction.atomic
def change(owner: User, thing_id: UUID, revision: int, item: StockItem, reserved_for: UUID | None) -> Thing:
    """Change a thing, or for whom it is reserved.

    Raises
    ------
    StaleThing
        If it was changed since.
    """
    require_possible(item)
    row = _held_thing(owner, thing_id)
    if row.revision != revision:
        raise StaleThing(row)
    wanted = None
    if reserved_for is not None:
        wanted = get_object_or_404(Airframe.objects.owned_by(owner), id=reserved_for)
        if not flies(item):
            raise refusal("reserved_for", "foam from a scrapped part is never kept for an airframe")
    row.item, row.reserved_for, row.revision = item.model_dump(mode="json"), wanted, row.revision + 1
    row.save()
    return row


def remove(owner: User, thing_id: UUID) -> None:
    """Take a thing off the shelf."""
    get_object_or_404(Thing.objects.owned_by(owner), id=thing_id).delete()


@transaction.atomic
def cut(
    owner: User, thing_id: UUID, airframe_id: UUID, pieces_mm: Sequence[float], kerf_mm: float,
    steps: Sequence[str] = (),
) -> Cut:  # fmt: skip
    """Cut pieces from one of a thing for an airframe; what is left goes back to the shelf."""

    def left(item: StockItem) -> list[StockItem]:
        return after_cut(item, pieces_mm, kerf_mm)

    return _cut(owner, thing_id, airframe_id, left, Cut(pieces=list(pieces_mm), steps=list(steps)))


@transaction.atomic
def cut_sheet(
    owner: User, thing_id: UUID, airframe_id: UUID, pieces_mm: Sequence[tuple[float, float]],
    rest_mm: tuple[float, float] | None, steps: Sequence[str],
) -> Cut:  # fmt: skip
    """Cut pieces from one sheet of a thing for an airframe; its largest rest goes back to the shelf."""
    made = Cut(sheets=[list(p) for p in pieces_mm], steps=list(steps))
    return _cut(owner, thing_id, airframe_id, lambda item: after_layout(item, rest_mm), made)


def _cut(
    owner: User, thing_id: UUID, airframe_id: UUID, left_of: Callable[[StockItem], list[StockItem]], made: Cut
) -> Cut:  # fmt: skip
    row = _held_thing(owner, thing_id)
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    item = StockItem.model_validate(row.item)
    if row.reserved_for_id not in (None, airframe.pk):
        raise refusal("thing", "is reserved for another airframe")
    if not flies(item):
        raise refusal("thing", "comes from a scrapped part and is not cut for an airframe")
    left = left_of(item)
    made.owner, made.airframe, made.before = owner, airframe, _whole(row)
    others = [i for i in left if (i.origin, i.length_mm, i.width_mm) == (item.origin, item.length_mm, item.width_mm)]
    if others:
        row.item, row.revision = others[0].model_dump(mode="json"), row.revision + 1
        row.save()
    else:
        row.delete()
    made.left = [str(_new(owner, i, row.reserved_for).pk) for i in left if i not in others]
    made.save(force_insert=True)
    return made


def _whole(row: Thing) -> dict[str, Any]:
    reserved = str(row.reserved_for_id) if row.reserved_for_id else None
    return {"id": str(row.pk), "item": row.item, "reserved_for": reserved, "created": row.created.isoformat()}


@transaction.atomic
def take_back(owner: User, cut_id: UUID) -> Thing:
    """Undo a cut: the thing is whole again, its rest is gone."""
    made = get_object_or_404(Cut.objects.owned_by(owner).select_for_update(), id=cut_id)
    left = Thing.objects.owned_by(owner).filter(pk__in=made.left)
    if left.count() < len(made.left):
        raise refusal("cut", "what was left of it is no longer on the shelf as it was: take that back first")
    left.delete()
    was = StockItem.model_validate(made.before["item"])
    row = Thing.objects.owned_by(owner).filter(pk=made.before["id"]).first()
    now = None if row is None else StockItem.model_validate(row.item)
    if row is not None and now is not None and now.model_copy(update={"count": was.count}) == was:
        row.item = now.model_copy(update={"count": now.count + 1}).model_dump(mode="json")
        row.revision += 1
    else:  # all of it was cut, or what is left was changed since: the one that was cut comes back by itself
        reserved = Airframe.objects.owned_by(owner).filter(pk=made.before["reserved_for"]).first()
        item = {**was.model_dump(mode="json"), "count": 1}
        key = made.before["id"] if row is None else uuid4()
        row = Thing(id=key, owner=owner, item=item, reserved_for=reserved, created=made.before["created"])
    row.save()
    made.delete()
    return row


def cuts(owner: User, airframe_id: UUID) -> list[Cut]:
    """What was cut for an airframe, the last first."""
    airframe = get_object_or_404(Airframe.objects.owned_by(owner), id=airframe_id)
    return list(Cut.objects.owned_by(owner).filter(airframe=airframe).order_by("-created")[:400])


def scrap(owner: User, airframe_id: UUID, part_id: str) -> Thing:
    """Foam from a part of a broken airframe onto the shelf: the largest box in its core."""
    document = airframes.current(owner, airframe_id).document
    read = Document.model_validate(document)
    part = part_of(read, part_id)
    if read.state != "broken":
        raise refusal("airframe", "is not broken: foam is never taken from a part that is to fly")
    block = donor_block(part)
    if block is None:
        raise refusal("part", "holds no sound block of foam that is worth keeping")
    return put_on(owner, [block])[0]


def uses(owner: User) -> dict[str, list[str]]:
    """Names of the airframes on the shelf that are made with each material, by its key."""
    found: dict[str, list[str]] = defaultdict(list)
    known = _all_keys()
    for state in airframes.shelf(owner):
        name = str(state.document["name"])
        for key in sorted(set(_strings(state.document)) & known):
            found[key].append(name)
    return dict(found)


def _all_keys() -> set[str]:
    c = reference()
    tables = (c.bars, c.sheets, c.foams, c.skins, c.cloths, c.resins, c.cords, c.fittings, c.fasteners)
    return {key for table in tables for key in table}


def _strings(value: Any) -> Iterable[str]:
    if isinstance(value, str):
        yield value
    elif isinstance(value, dict):
        for v in value.values():
            yield from _strings(v)
    elif isinstance(value, list | tuple):
        for v in value:
            yield from _strings(v)
