"""The Log to print: counts, findings and entries with their pictures, as PDF."""

from __future__ import annotations

import base64
from collections.abc import Iterable
from uuid import UUID

from django.utils import timezone
from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString

from fletcher.core.common.quantities import from_root
from fletcher.core.repair.events import Event
from fletcher.core.repair.log_counts import Count
from fletcher.server.airframes.models import Airframe
from fletcher.server.common.pdf import as_pdf
from fletcher.server.crash import log
from fletcher.server.crash.models import Entry, Picture

MOST_ENTRIES = 500
"""So many entries are printed, the newest; the table in CSV has all."""
MOST_PICTURES = 40
_NO = SafeString("")


def log_pdf(airframe: Airframe) -> bytes:
    """The newest entries of an airframe's time line, to print."""
    name = str(airframe.document.name)
    rows, more = log.newest(airframe, MOST_ENTRIES)
    findings, counts, followed = log.summary(airframe)
    parts = {p.id: p.name for p in airframe.document.parts}
    pictures = log.pictured(airframe, rows)
    shown = [key for row, _ in rows for key in pictures[row.id]][:MOST_PICTURES]
    known = Picture.objects.owned_by(airframe.owner).filter(id__in=shown).values_list("id", "photo")
    photos = {key: bytes(photo) for key, photo in known}
    told = f"Printed {timezone.now():%d %b %Y}, times in UTC. " + (
        f"The newest {MOST_ENTRIES} entries." if more else "All entries."
    )
    lines = (_line(row, e, parts, followed.get(row.id, ""), pictures[row.id], photos) for row, e in rows)
    body = format_html(
        '<p class="soft">{}</p>{}{}<h2>Entries</h2><table><tbody>{}</tbody></table>',
        told,
        _counts(counts),
        format_html_join("", '<p class="warn">{}: {}</p>', ((parts.get(f.part_id, ""), f.says) for f in findings)),
        format_html_join("", "{}", ((line,) for line in lines)),
    )
    return as_pdf(f"{name}: log", body)


def _counts(counts: Iterable[Count]) -> SafeString:
    return format_html_join(
        "",
        "<p>Flights {}: <b>{}</b>{}</p>",
        (
            (f"since {c.since}" if c.when else c.since, c.flights, f", {c.minutes:g} min" if c.minutes else "")
            for c in counts
        ),
    )


def _line(
    row: Entry, e: Event, parts: dict[str, str], followed: str, pictures: list[UUID], photos: dict[UUID, bytes]
) -> SafeString:  # fmt: skip
    where = [parts.get(e.part_id or "", "")] + ([] if e.at_mm is None else [from_root(e.at_mm)])
    return format_html(
        '<tr><td class="num soft">{}</td><td><b>{}</b></td><td>{}{}<span class="soft"> {}</span>{}{}{}</td></tr>',
        f"{row.happened:%d %b %Y %H:%M}",
        e.kind.capitalize(),
        _flight(e),
        e.says,
        ", ".join(w for w in where if w),
        format_html("<br>{}", followed) if followed else _NO,
        format_html_join("", "<br>until {}: <del>{}</del>", ((o["changed"][:10], o["says"]) for o in row.earlier)),
        _pictures(e, [photos[key] for key in pictures if key in photos]),
    )


def _pictures(e: Event, photos: Iterable[bytes]) -> SafeString:
    return format_html_join(
        "",
        '<br><img src="data:image/jpeg;base64,{}" alt="Photo of {}">',
        ((base64.b64encode(photo).decode(), e.says) for photo in photos),
    )


def _flight(e: Event) -> str:
    if e.flight is None:
        return ""
    f = e.flight
    said = [f"{f.count} flight{'s' if f.count > 1 else ''}"]
    said += [f"{f.minutes:g} min"] if f.minutes is not None else []
    said += [f"wind {f.wind_m_s:g} m/s"] if f.wind_m_s is not None else []
    said += [f.battery] if f.battery else []
    words = ", ".join(said)
    return "" if e.says == words else f"{words}: "
