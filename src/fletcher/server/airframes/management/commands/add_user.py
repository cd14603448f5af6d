"""Make an account for a builder; asks for the password twice."""

from __future__ import annotations

import getpass
from argparse import ArgumentParser
from typing import Any

from django.contrib.auth import get_user_model
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError


class Command(BaseCommand):
    help = "Make an account"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("name")

    def handle(self, *args: Any, name: str, **options: Any) -> None:
        user = get_user_model()(username=name)
        try:
            user.full_clean(exclude=["password"])
            password = getpass.getpass("Password: ")
            validate_password(password, user)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        if getpass.getpass("Once more: ") != password:
            raise CommandError("The two passwords differ; nothing was made.")
        user.set_password(password)
        user.save()
        self.stdout.write(f"Account {name} made.")
