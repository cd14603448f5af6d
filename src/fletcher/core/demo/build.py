"""How far the invented group is with the airframe that it builds, as it was pressed at the bench."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid5

from fletcher.core.document.airframe import Airframe
from fletcher.core.plan.operations import operations
from fletcher.core.plan.schema import ShopWish
from fletcher.core.plan.work import Change, OwnStep, Press

_SOURCE = UUID("9b1f8a52-4a0e-4c4a-9d0e-5f6a1c2b3d4e")
_EVENINGS = (datetime(2026, 11, 3, 17, 30, tzinfo=UTC), datetime(2026, 11, 5, 18, 5, tzinfo=UTC))
"""When its cores were cut, and when its spars went in."""


def warden_changes(airframe: Airframe) -> tuple[Change, ...]:
    """What the group put into its plan: the wing's cores lie flat overnight before anything is drawn on them."""
    wing = airframe.parts[0].id
    cut = [o.key for o in operations(airframe, ShopWish()) if o.part_id == wing and o.key.endswith("/core")]
    return (OwnStep(key="own/rest", title="lay both cores flat on the board", minutes=2, after=tuple(cut)),)


def warden_presses(airframe: Airframe) -> tuple[Press, ...]:
    """Steps of the wing that are done: its cores on one evening, all that is glued into them on another."""
    wing = airframe.parts[0].id
    steps = [o for o in operations(airframe, ShopWish()) if o.part_id == wing]
    cut = [o for o in steps if o.key.endswith(("/core", "/datum"))]
    glued = [o for o in steps if o.layer_id and o.title.startswith("slot")]
    out = []
    for began, evening in zip(_EVENINGS, (cut, glued), strict=True):
        at = began
        for o in evening:
            ends = at + timedelta(minutes=round(1.1 * o.minutes.typ))
            out += [_press(o.key, "begun", at), _press(o.key, "done", ends, o.made_of)]
            at = ends + timedelta(minutes=3)
    return tuple(out)


def _press(key: str, what: str, at: datetime, made_of: str = "") -> Press:
    return Press.model_validate(
        {"id": str(uuid5(_SOURCE, f"{what} {key}")), "at": at, "what": what, "key": key, "made_of": made_of}
    )
