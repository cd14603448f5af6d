"""The invented fleet put on a shelf: its airframes, variants, record, repairs that are weighed up, and glue tests."""

from __future__ import annotations

from uuid import uuid4

from django.contrib.auth.models import User
from django.db import transaction

from fletcher.core.demo.build import warden_changes, warden_presses
from fletcher.core.demo.crash import crash_candidates, crash_record
from fletcher.core.demo.log import post_flights, warden_build
from fletcher.core.demo.stock import demo_stock
from fletcher.core.demo.world import demo_airframes, demo_trial, demo_variants
from fletcher.server.airframes import history, services
from fletcher.server.build.services import change, press
from fletcher.server.crash.log import write
from fletcher.server.crash.services import keep_candidate
from fletcher.server.joints.services import add_coupon, add_trial
from fletcher.server.stock.services import put_on


@transaction.atomic
def put_fleet(owner: User) -> None:
    """Put the invented fleet on a shelf, the first airframe on top."""
    for document in reversed(demo_airframes()):  # the last one made stands first on the shelf
        state = services.create(owner, document)
        if document.state == "broken":
            _put_crash(owner, state)
    for name, part in demo_variants():  # the first airframe's wing as the group tried it, then as it settled
        tried = document.model_copy(update={"parts": (part, *document.parts[1:])})
        state = services.save(owner, state.id, state.revision, tried)
        history.pin(owner, state.id, part.id, state.revision, name)
    services.save(owner, state.id, state.revision, document)
    for happened, event in warden_build():
        write(owner, state.id, event, happened)
    change(owner, state.id, 0, warden_changes(document))
    press(owner, state.id, [p.model_copy(update={"id": str(uuid4())}) for p in warden_presses(document)])
    put_on(owner, demo_stock())
    wish, coupons = demo_trial()
    trial = add_trial(owner, wish)
    for coupon in coupons:
        add_coupon(owner, coupon, trial.id)


def _put_crash(owner: User, state: services.State) -> None:
    for happened, event in (*post_flights(), *crash_record()):
        write(owner, state.id, event, happened)
    for name, recipe in crash_candidates():
        keep_candidate(owner, state.id, crash_record()[-1][1].part_id or "", name, recipe)
