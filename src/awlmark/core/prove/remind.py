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
    lines = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Awlmark//Awlmark//EN"]
    events = (
        ("first", signed + dt.timedelta(days=FIRST_DAYS), "Heat check", ""),
        ("yearly", signed + dt.timedelta(days=365), "Yearly heat check", "RRULE:FREQ=YEARLY"),
    )
    for name, day, title, rule in events:
        lines += [
            "BEGIN:VEVENT", f"UID:{_escaped(job.id)}-{name}@awlmark", f"DTSTAMP:{signed:%Y%m%d}T000000Z",
            f"DTSTART;VALUE=DATE:{day:%Y%m%d}", f"SUMMARY:{_escaped(f'{title}: {job.name}')}",
            f"DESCRIPTION:{_escaped(TEXT)}", *([rule] if rule else []), "END:VEVENT",
        ]  # fmt: skip
    lines.append("END:VCALENDAR")
    return "\r\n".join(_folded(line) for line in lines) + "\r\n"


def _escaped(text: str) -> str:
    """A value of a calendar's property: no line of its own, no end of its own (RFC 5545, 3.3.11)."""
    return printed(text).replace("\\", "\\\\").replace(";", "\\;").replace(",", "\\,")


def _folded(line: str) -> str:
    """Lines of more than 75 bytes go on after a blank (RFC 5545, 3.1)."""
    found: list[str] = []
    now = ""
    for letter in line:
        if len((now + letter).encode()) > (75 if not found else 74):
            found.append(now)
            now = ""
        now += letter
    return "\r\n ".join([*found, now])
