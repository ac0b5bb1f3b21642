"""Reminders to look again, as a calendar file."""

from __future__ import annotations

import datetime as dt
from typing import Final

from awlmark.core.errors import InputError
from awlmark.core.job.model import Job
from awlmark.core.plain import printed

FIRST_DAYS: Final = 21
"""Two to four weeks after the first charge; common practice."""
TEXT: Final = (
    "Look at both ends with an infrared thermometer after an hour of charging; "
    "torque again only where the maker allows it."
)


def reminders(job: Job) -> str:
    """Two events, three weeks and a year after the last signature, in the iCalendar format (RFC 5545).

    Raises
    ------
    InputError
        Before anything is signed.
    """
    if not job.prove.signatures:
        raise InputError("reminders", "Nothing is signed yet.", "a signed test sheet: sign <name>")
    when = job.prove.signatures[-1].when
    try:
        signed = dt.date.fromisoformat(when[:10])
    except ValueError as problem:
        raise InputError("signature", f"'{when[:20]}' is no date.", "a date such as 2026-05-02") from problem
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//Awlmark//Awlmark//EN")
    calendar.add("version", "2.0")
    events = (
        ("first", signed + dt.timedelta(days=FIRST_DAYS), "Heat check", False),
        ("yearly", signed + dt.timedelta(days=365), "Yearly heat check", True),
    )
    for name, day, title, yearly in events:
        event = Event()
        event.add("uid", f"{printed(job.id)}-{name}@awlmark")
        event.add("dtstamp", dt.datetime(signed.year, signed.month, signed.day, tzinfo=dt.UTC))
        event.add("dtstart", day)
        event.add("summary", printed(f"{title}: {job.name}"))
        event.add("description", TEXT)
        if yearly:
            event.add("rrule", {"freq": "yearly"})
        calendar.add_component(event)
    written: str = calendar.to_ical().decode("utf-8")
    return written
