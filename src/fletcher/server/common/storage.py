"""How much of the store an account takes up, and how much it may."""

from __future__ import annotations

import os

from django.contrib.auth.models import User
from django.db import connection

from fletcher.server.common.refusals import refusal

MOST_BYTES = int(os.environ.get("FLETCHER_STORAGE_MB", "500")) * 1_000_000
"""What an account may keep of documents and photographs; history is thinned beyond it, new things are refused."""

_KEPT = """
select coalesce((select sum(pg_column_size(r.document)) from airframes_revision r
                 join airframes_airframe a on a.id = r.airframe_id where a.owner_id = %(owner)s), 0)
     + coalesce((select sum(pg_column_size(n.document)) from airframes_pin n
                 join airframes_airframe a on a.id = n.airframe_id where a.owner_id = %(owner)s), 0)
     + coalesce((select sum(pg_column_size(p.photo)) from logbook_picture p where p.owner_id = %(owner)s), 0)
     + coalesce((select sum(pg_column_size(c.photo)) from coupons_coupon c where c.owner_id = %(owner)s), 0)
"""


def used_bytes(owner_id: int) -> int:
    """Bytes that an account's documents, with their histories, and its photographs take up in the store."""
    with connection.cursor() as cursor:
        cursor.execute(_KEPT, {"owner": owner_id})
        return int(cursor.fetchone()[0])


def require_storage(owner: User) -> None:
    """Refuse to keep anything more where an account is full.

    Raises
    ------
    InvalidDocument
        With what is used and what may be.
    """
    used = used_bytes(owner.pk)
    if used >= MOST_BYTES:
        message = (
            f"your account is full: at most {MOST_BYTES // 1_000_000} MB; save it as a file, then delete old airframes"
        )
        raise refusal("", message, f"{used / 1e6:.0f} MB")
