"""A plan as calendar entries (iCalendar, RFC 5545): hands as events, what sets as an alarm at its end."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import cast

from icalendar import Alarm, Calendar, Event

from fletcher.core.plan.schema import Plan


def calendar_of(plan: Plan, name: str, made: datetime) -> bytes:
    """The plan of an airframe of that name as a calendar; entries keep their ids when it is made again."""
    out = Calendar()
    out.add("prodid", "-//Fletcher//Build sheet//EN")
    out.add("version", "2.0")
    out.add("x-wr-calname", f"{name}: build")
    by_key = {o.key: o for o in plan.operations}
    for p in plan.planned:
        if p.state == "done":
            continue
        o = by_key[p.key]
        title = f"{o.title[:1].upper()}{o.title[1:]}"
        event = Event()
        event.add("uid", f"{p.key}@{name}")
        event.add("dtstamp", made.astimezone(UTC))
        event.add("dtstart", p.begins.astimezone(UTC))
        event.add("dtend", p.ends.astimezone(UTC))
        event.add("summary", f"{title} ({o.piece})" if o.piece else title)
        lines = [g.says for g in o.gates] + ([f"{o.glue} holds itself at {p.sets:%H:%M}"] if p.sets else [])
        lines += [f"{c.hazard}: {c.caution} {c.protect}" for c in o.cautions]
        if lines:
            event.add("description", "\n".join(lines))
        if p.sets is not None:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", f"{o.glue} holds itself: {o.piece or name}")
            alarm.add("trigger", timedelta(minutes=round((p.sets - p.begins).total_seconds() / 60)))
            event.add_component(alarm)
        out.add_component(event)
    return cast("bytes", out.to_ical())
