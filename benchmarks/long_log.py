"""A Log of ten thousand entries: how long its first page, a later one, and what is found by words and kinds take.

Run with ./fletcher bench log; the answers come through the whole stack but the socket.
"""

from __future__ import annotations

import os
import statistics
import time
from datetime import timedelta
from typing import Any

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "fletcher.server.settings")
django.setup()

from django.contrib.auth.models import User  # noqa: E402
from django.test import Client  # noqa: E402
from django.utils import timezone  # noqa: E402

from fletcher.core.repair.events import Event, Flight  # noqa: E402
from fletcher.server.airframes.models import Airframe  # noqa: E402
from fletcher.server.crash.models import Entry  # noqa: E402

ENTRIES, TIMES = 10_000, 12


def _event(n: int) -> dict[str, Any]:
    if n % 3:
        flight = Flight(count=1 + n % 4, minutes=11.0, battery="Blue")
        return Event(kind="flight", says=f"Circuits {n}", flight=flight).model_dump(mode="json")
    return Event(kind="note" if n % 2 else "build", says=f"Entry {n}: film edge pressed down again").model_dump(
        mode="json"
    )


def main() -> None:
    """Fill a Log and print medians."""
    owner = User.objects.first()
    assert owner is not None
    airframe = Airframe.objects.owned_by(owner).first()
    assert airframe is not None
    now = timezone.now()
    Entry.everyone.bulk_create(
        Entry(owner=owner, airframe=airframe, happened=now - timedelta(hours=n), event=_event(n))
        for n in range(ENTRIES)
    )  # fmt: skip
    client = Client(HTTP_HOST="127.0.0.1")
    client.force_login(owner, backend="fletcher.server.accounts.names.ByName")
    address = f"/api/crash/airframes/{airframe.pk}/log"
    before = client.get(address).json()["entries"][-1]["id"]
    for what, query in (
        ("first page", ""), ("a page further on", f"?before={before}"), ("found by two words", "?words=film+edge"),
        ("of two kinds", "?kinds=note&kinds=build"), ("a word that is nowhere", "?words=feather"),
    ):  # fmt: skip
        took = []
        for _ in range(TIMES):
            start = time.perf_counter()
            assert client.get(address + query).status_code == 200
            took.append(1e3 * (time.perf_counter() - start))
        print(f"Log of {ENTRIES} entries, {what:<24} median {statistics.median(took):7.1f} ms   wanted < 200 ms")


if __name__ == "__main__":
    main()
