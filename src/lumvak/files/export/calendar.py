"""Days on which something is due, as a calendar (RFC 5545)."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, datetime, timedelta
from uuid import NAMESPACE_OID, uuid5

from lumvak.core.record_of_pack.dates import DueDay
from lumvak.core.spelling import PLAIN, Spelling, spoken


def calendar_bytes(name: str, days: Iterable[DueDay], spelling: Spelling = PLAIN) -> bytes:
    """A calendar with a whole day for each; the same pack gives the same entries again."""
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//Lumvak//EN")
    calendar.add("version", "2.0")
    for item in days:
        event = Event()
        event.add("uid", f"{uuid5(NAMESPACE_OID, f'{name}/{item.key}/{item.day}')}@lumvak")
        event.add("dtstamp", datetime(item.day.year, item.day.month, item.day.day, tzinfo=UTC))
        event.add("dtstart", item.day)
        event.add("dtend", item.day + timedelta(days=1))
        event.add("summary", f"{name}: {spoken(item.what, spelling)}")
        event.add("description", spoken(item.do, spelling))
        calendar.add_component(event)
    return bytes(calendar.to_ical())
