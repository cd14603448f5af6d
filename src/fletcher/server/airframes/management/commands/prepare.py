"""Everything between a started database and a served page, in one process: importing the code is what takes time."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import transaction

from fletcher.core.demo import demo_airframes
from fletcher.server.accounts.demo import DEMO_USERNAME
from fletcher.server.airframes import services


class Command(BaseCommand):
    help = "Migrate, collect the page's files, and in demo mode make the demo account and its fleet, once"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--static", action="store_true", help="collect the page's files afresh")

    def handle(self, *args: Any, static: bool = False, **options: Any) -> None:
        call_command("migrate", interactive=False, verbosity=0)
        if static:
            call_command("collectstatic", interactive=False, clear=True, verbosity=0)
        if settings.DEMO:
            load_demo()


@transaction.atomic
def load_demo() -> None:
    """Make the demo account and put the invented fleet on its shelf; nothing where the account exists."""
    users = get_user_model().objects
    if users.filter(username=DEMO_USERNAME).exists():
        return
    demo = users.create_user(DEMO_USERNAME)  # no password: it can be entered in demo mode only
    for document in reversed(demo_airframes()):  # the last one made stands first on the shelf
        services.create(demo, document)
