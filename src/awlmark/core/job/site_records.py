"""What was done on site: steps, screws, readings, signatures."""

from typing import Annotated, Final

from awlmark.core.job.limits import LONGEST_NOTE, Many, OneOf, Text, Within
from awlmark.core.job.node import Node

TORQUE_SOURCES: Final = ("label", "instructions", "annex")
"""Where a torque came from: the part's label, its instructions, or the fallback table."""
MOST_READINGS: Final = 5000


class Torque(Node, frozen=True, kw_only=True):
    """One screw: what it is tightened to, and how far that has gone."""

    id: str
    lbf_in: Annotated[float | None, Within(1, 1000, "lbf-in", "torque")] = None
    """None while nobody has read it."""
    source: Annotated[str, OneOf(TORQUE_SOURCES, "torque source")] = "label"
    tight: bool = False
    wiggled: bool = False
    again: bool = False
    """Tightened once more after the wiggle."""


class Note(Node, frozen=True, kw_only=True):
    """A note from the site, with a link to a picture where there is one."""

    id: str
    text: Annotated[str, Text(LONGEST_NOTE)]
    photo: Annotated[str, Text(1000)] = ""


class Build(Node, frozen=True, kw_only=True):
    """How far the building has gone."""

    done: dict[str, str] = {}  # noqa: RUF012 - msgspec gives every job its own
    """Steps by id, and when they were done."""
    electrician: tuple[str, ...] = ()
    """Steps, by id, that are left to an electrician beside those that always are."""
    torques: Annotated[tuple[Torque, ...], Many(MOST_READINGS, called="torques")] = ()
    tool: str = ""
    """Torque tool in hand, and when it was last checked."""
    notes: Annotated[tuple[Note, ...], Many(MOST_READINGS, called="notes")] = ()
    rested: dict[str, str] = {}  # noqa: RUF012 - msgspec gives every job its own
    """Sessions of the work that ended: ``stopped`` for the night there, or ``went on``."""
    overruled: str = ""
    """Reason for energising with a torque unread; prints."""


class Reading(Node, frozen=True, kw_only=True):
    """One reading of the log; it is struck through, never removed."""

    id: str
    test: str
    value: Annotated[float | None, Within(-10000000000000.0, 10000000000000.0)]
    """In the base unit of its test; None where what was read makes no sense, and ``raw`` keeps it."""
    raw: str
    """As it was typed."""
    when: str = ""
    """Date and time, ISO, as typed or taken."""
    who: str = ""
    instrument: str = ""
    conditions: str = ""
    struck: str = ""
    """Reason it no longer counts."""
    signed: Annotated[int, Within(0, 100000)] = 0
    """Revision that froze it; 0 while it is open."""


class Waived(Node, frozen=True, kw_only=True):
    """A test that was left out or lies beyond its band, signed all the same, with the reason that prints."""

    test: str
    reason: str


class Signature(Node, frozen=True, kw_only=True):
    """A signed revision: what had been read until then stays as it was."""

    revision: Annotated[int, Within(1, 100000)]
    who: str
    when: str
    digest: str
    """Of design and readings at that moment."""


class Prove(Node, frozen=True, kw_only=True):
    """The log."""

    readings: Annotated[tuple[Reading, ...], Many(MOST_READINGS, called="readings")] = ()
    signatures: Annotated[tuple[Signature, ...], Many(MOST_READINGS, called="signatures")] = ()
    waived: tuple[Waived, ...] = ()
    ambient_c: Annotated[float | None, Within(-60, 85, "C", "air at the charger")] = None
    """Air at the charger during the heat test."""
