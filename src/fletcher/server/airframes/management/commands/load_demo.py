"""Make the demo account and put the invented fleet on its shelf, once."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand
from django.db import transaction

from fletcher.core.presets import demo_airframes
from fletcher.server.accounts.demo import DEMO_USERNAME
from fletcher.server.airframes import services


class Command(BaseCommand):
    help = "Load the demo data; does nothing where the demo account exists"

    @transaction.atomic
    def handle(self, *args: Any, **options: Any) -> None:
        users = get_user_model().objects
        if users.filter(username=DEMO_USERNAME).exists():
            return
        demo = users.create_user(DEMO_USERNAME)  # no password: it can be entered in demo mode only
        for document in demo_airframes():
            services.create(demo, document)
        self.stdout.write("Demo fleet loaded.")
