"""Everything between a started database and a served page, in one process: importing the code is what takes time."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import transaction

from fletcher.core.demo.crash import crash_candidates, crash_record
from fletcher.core.demo.world import demo_airframes, demo_trial, demo_variants
from fletcher.server.accounts.demo import DEMO_USERNAME
from fletcher.server.airframes import history, services
from fletcher.server.crash.services import keep_candidate, write
from fletcher.server.joints.services import add_coupon, add_trial


class Command(BaseCommand):
    help = "Migrate the database, collect static files and, in demo mode, create the demo account and fleet once"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--static", action="store_true", help="collect static files again")

    def handle(self, *args: Any, static: bool = False, **options: Any) -> None:
        call_command("migrate", interactive=False, verbosity=0)
        if static:
            call_command("collectstatic", interactive=False, clear=True, verbosity=0)
        if settings.DEMO:
            load_demo()


@transaction.atomic
def load_demo() -> None:
    """Make the demo account and put the invented fleet on its shelf; nothing where the account exists."""
    if User.objects.filter(username=DEMO_USERNAME).exists():
        return
    demo = User.objects.create_user(DEMO_USERNAME)  # no password: it can be entered in demo mode only
    for document in reversed(demo_airframes()):  # the last one made stands first on the shelf
        state = services.create(demo, document)
        if document.state == "broken":
            _load_crash(demo, state)
    for name, part in demo_variants():  # the first airframe's wing as the group tried it, then as it settled
        tried = document.model_copy(update={"parts": (part, *document.parts[1:])})
        state = services.save(demo, state.id, state.revision, tried)
        history.pin(demo, state.id, part.id, state.revision, name)
    services.save(demo, state.id, state.revision, document)
    wish, coupons = demo_trial()
    trial = add_trial(demo, wish)
    for coupon in coupons:
        add_coupon(demo, coupon, trial.id)


def _load_crash(demo: User, state: services.State) -> None:
    """The record of the broken airframe, and the repairs that the group weighs."""
    for happened, event in crash_record():
        write(demo, state.id, event, happened)
    for name, recipe in crash_candidates():
        keep_candidate(demo, state.id, crash_record()[-1][1].part_id or "", name, recipe)
