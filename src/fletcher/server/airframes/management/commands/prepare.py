"""Everything between a started database and a served page, in one process: importing the code is what takes time."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import transaction

from fletcher.server.accounts.demo import DEMO_USERNAME
from fletcher.server.keeping.demo_fleet import put_fleet


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
    put_fleet(User.objects.create_user(DEMO_USERNAME))  # no password: it can be entered in demo mode only
