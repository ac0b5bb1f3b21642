"""The floor from above: where panel, charger and cars stand, and what is in the way."""

from __future__ import annotations

from typing import Final

from awlmark.core.job.node import Node

AREA_KINDS: Final = ("room", "canopy", "yard", "walk")
THING_KINDS: Final = ("door", "bench", "heater", "meter", "post", "other")
THING_HIGH_M: Final = {
    "door": 2.032,
    "bench": 0.9144,
    "heater": 1.524,
    "meter": 1.8288,
    "post": 1.2192,
    "other": 1.2192,
}
"""Taken until a height is typed; common practice [m]."""
FIXINGS: Final = ("stud", "backing", "masonry", "post")
NOSES: Final = ("in", "out")
MOST_PINS: Final = 3
MOST_SITE: Final = 60


class Area(Node, frozen=True, kw_only=True):
    """A rectangle of the floor: a room with walls, a roof on posts, a yard, a way people walk."""

    id: str
    name: str
    kind: str = "room"
    x: float = 0.0
    y: float = 0.0
    """South-west corner, east and north of the panel [m]; the panel's wall lies along y = 0, its room south of it."""
    wide: float = 4.0
    deep: float = 4.0


class Thing(Node, frozen=True, kw_only=True):
    """Something that stands in the way, a rectangle."""

    id: str
    name: str
    kind: str = "other"
    x: float = 0.0
    y: float = 0.0
    wide: float = 1.0
    deep: float = 0.5
    low: float = 0.0
    high: float = 1.0
    """From its foot to its top, above the floor: a duct hangs [m]."""
    open: bool | None = None
    """Whether a door stands open while a car charges; None while unread."""


class Pin(Node, frozen=True, kw_only=True):
    """A spot where the charger may hang."""

    id: str
    name: str
    x: float
    y: float
    height_m: float = 1.2192
    fixing: str | None = None
    """What it is screwed to; None while unread."""


class Bay(Node, frozen=True, kw_only=True):
    """A parking spot; a car that goes nose in points this way."""

    id: str
    name: str
    x: float
    y: float
    """Its middle [m]."""
    heading_deg: float = 0.0
    """Nose, anticlockwise from east."""
    noses: tuple[str, ...] = NOSES
    """Ways cars stand in it."""


class Site(Node, frozen=True, kw_only=True):
    """The floor from above, and its weather."""

    areas: tuple[Area, ...] = ()
    things: tuple[Thing, ...] = ()
    pins: tuple[Pin, ...] = ()
    pin: str = ""
    """Pin the line ends at, by id; empty while none is chosen."""
    bays: tuple[Bay, ...] = ()
    low_c: float | None = None
    high_c: float | None = None
    """Coldest and hottest that the raceway gets [degC]; None while unread."""
    install_c: float | None = None
