"""Accounts: list, add, invite, set a password anew, disable, enable, delete, move as a file."""

from __future__ import annotations

import getpass
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError

from fletcher.core.document.problems import InvalidDocument
from fletcher.server.accounts.invitations import invite
from fletcher.server.accounts.names import named, require_new_name
from fletcher.server.keeping.archive import write_archive
from fletcher.server.keeping.intake import Fate, take_in
from fletcher.server.keeping.unpack import Unpacked

FATES: dict[Fate, str] = {
    "new": "new here", "newer": "went on elsewhere, put on top of the one here", "here": "here already",
    "beside": "went another way, put beside the one here", "same": "the same as another one here, left out",
}  # fmt: skip


class Command(BaseCommand):
    help = "Accounts of this server"

    def add_arguments(self, parser: ArgumentParser) -> None:
        verbs = parser.add_subparsers(dest="verb", required=True)
        verbs.add_parser("list", help="all accounts")
        for verb, says in (
            ("add", "make an account; asks for its password"),
            ("password", "set a password anew; ends the sessions of the account"),
            ("disable", "nobody can sign in with it; its things stay"),
            ("enable", "it can be signed in with again"),
            ("delete", "delete an account with all it has"),
        ):
            verbs.add_parser(verb, help=says).add_argument("name")
        for verb, says in (
            ("export", "write everything of an account into a ZIP of open files"),
            ("import", "take such a file into an account: all of it or nothing, nothing twice"),
        ):
            moving = verbs.add_parser(verb, help=says)
            moving.add_argument("name")
            moving.add_argument("file", type=Path)
        invitation = verbs.add_parser("invite", help="make a link with which somebody makes an account")
        invitation.add_argument("--days", type=int, default=7, help="it holds so long (1 to 60)")
        invitation.add_argument("--people", type=int, default=1, help="so many may use it (1 to 200)")

    def handle(self, *args: Any, verb: str, name: str = "", days: int = 7, people: int = 1, **options: Any) -> None:
        if verb == "list":
            for user in User.objects.order_by("username"):
                seen = f"last here {user.last_login:%Y-%m-%d}" if user.last_login else "never here"
                self.stdout.write(f"{user.username}  {'' if user.is_active else 'disabled, '}{seen}")
        elif verb == "invite":
            if not (1 <= days <= 60 and 1 <= people <= 200):
                raise CommandError("An invitation holds 1 to 60 days, for 1 to 200 people.")
            self.stdout.write(f"Open this address to make an account: {invite(days, people)}")
        elif verb == "add":
            self._add(name)
        elif verb in ("export", "import"):
            self._move(verb, self._named(name), options["file"])
        else:
            self._change(verb, name)

    def _named(self, name: str) -> User:
        user = named(name)
        if user is None:
            raise CommandError(f"There is no account {name}.")
        return user

    def _move(self, verb: str, user: User, file: Path) -> None:
        try:
            if verb == "export":
                with file.open("xb") as target:
                    write_archive(user, target)
                self.stdout.write(f"{file}: {file.stat().st_size / 1e6:.1f} MB")
                return
            with file.open("rb") as source:
                arrivals = take_in(user, Unpacked(source))
        except OSError as error:
            raise CommandError(f"{file}: {error.strerror}") from None
        except InvalidDocument as invalid:
            raise CommandError("Nothing was taken in. " + "; ".join(p.line() for p in invalid.problems)) from None
        for arriving in arrivals.airframes:
            self.stdout.write(f"{arriving.name}: {FATES[arriving.fate]}")
        self.stdout.write(f"{arrivals.trials} trials and {arrivals.coupons} coupons besides")

    def _add(self, name: str) -> None:
        user = User(username=name)
        try:
            require_new_name(name)
            user.full_clean(exclude=["password"])
            user.set_password(self._asked(user))
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        user.save()
        self.stdout.write(f"Account {name} created.")

    def _change(self, verb: str, name: str) -> None:
        user = self._named(name)
        if verb == "password":
            try:
                user.set_password(self._asked(user))
            except ValidationError as error:
                raise CommandError(" ".join(error.messages)) from None
            user.save()
            self.stdout.write(f"{user.username} has a new password; its sessions have ended.")
        elif verb == "delete":
            if input(f"Delete {user.username} with all airframes, logs and coupons? Type the name again: ") != name:
                raise CommandError("The names differ; nothing was deleted.")
            user.delete()
            self.stdout.write(f"Account {name} deleted.")
        else:
            user.is_active = verb == "enable"
            user.save()
            self.stdout.write(f"Account {user.username} {'enabled' if user.is_active else 'disabled'}.")

    def _asked(self, user: User) -> str:
        password = getpass.getpass("Password: ")
        validate_password(password, user)
        if getpass.getpass("Repeat password: ") != password:
            raise CommandError("The two passwords differ; nothing was changed.")
        return password
