"""The Log of an airframe at the terminal: its entries, found by words and kinds, or all of it as a table."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any, get_args

from django.core.management.base import BaseCommand, CommandError

from fletcher.core.repair.events import Kind
from fletcher.server.accounts.names import named
from fletcher.server.airframes.models import Airframe
from fletcher.server.common.readable import readable
from fletcher.server.crash import log


class Command(BaseCommand):
    help = "The Log of an airframe"

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("account")
        parser.add_argument("airframe", help="its name, or how that begins")
        parser.add_argument("--words", default="", help="entries with all of these words")
        parser.add_argument("--kinds", nargs="+", choices=get_args(Kind), default=[], help="entries of these kinds")
        parser.add_argument("--csv", action="store_true", help="all of it as a table, the oldest first")

    def handle(
        self, *args: Any, account: str, airframe: str, words: str, kinds: list[Kind], csv: bool, **options: Any
    ) -> None:
        owner = named(account)
        if owner is None:
            raise CommandError(f"No account {account!r}.")
        shelf = list(readable(Airframe.objects.owned_by(owner), lambda a: a.document.name))
        found = [(row, name) for row, name in shelf if name.lower().startswith(airframe.lower())]
        exact = [(row, name) for row, name in found if name.lower() == airframe.lower()]
        if len(exact or found) != 1:
            known = ", ".join(sorted(name for _, name in shelf)) or "none"
            raise CommandError(f"airframe: {len(found)} begin with {airframe!r}. On this shelf: {known}")
        row, name = (exact or found)[0]
        if csv:
            for line in log.as_csv(row):
                self.stdout.write(line, ending="")
            return
        findings, counts, followed = log.summary(row)
        self.stdout.write(name)
        for count in counts:
            since = f"since {count.since}" if count.when else count.since
            self.stdout.write(f"  flights {since}: {count.flights}, {count.minutes:.0f} min")
        for finding in findings:
            self.stdout.write(f"  ! {finding.says}")
        entries, more = log.time_line(row, None, words, kinds)
        for entry, event in entries:
            after = f" ({followed[entry.id]})" if entry.id in followed else ""
            self.stdout.write(f"  {entry.happened:%Y-%m-%d %H:%M}  {event.kind:<9} {event.says}{after}")
        if more:
            self.stdout.write("  … older ones: narrow it with --words or --kinds, or take --csv")
