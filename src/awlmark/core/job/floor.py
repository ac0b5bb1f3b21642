"""The floor from above: where panel, charger and cars stand, and what is in the way."""

from typing import Annotated, Final

from awlmark.core.job.limits import Many, OneOf, Within
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
    kind: Annotated[str, OneOf(AREA_KINDS)] = "room"
    x_m: Annotated[float, Within(-1000, 1000, "m", "east of the panel")] = 0.0
    y_m: Annotated[float, Within(-1000, 1000, "m", "north of the panel")] = 0.0
    """South-west corner, east and north of the panel [m]; the panel's wall lies along y = 0, its room south of it."""
    wide_m: Annotated[float, Within(0.02, 1000, "m", "width")] = 4.0
    deep_m: Annotated[float, Within(0.02, 1000, "m", "depth")] = 4.0


class Thing(Node, frozen=True, kw_only=True):
    """Something that stands in the way, a rectangle."""

    id: str
    name: str
    kind: Annotated[str, OneOf(THING_KINDS)] = "other"
    x_m: Annotated[float, Within(-1000, 1000, "m", "east of the panel")] = 0.0
    y_m: Annotated[float, Within(-1000, 1000, "m", "north of the panel")] = 0.0
    wide_m: Annotated[float, Within(0.02, 1000, "m", "width")] = 1.0
    deep_m: Annotated[float, Within(0.02, 1000, "m", "depth")] = 0.5
    low_m: Annotated[float, Within(0, 20, "m")] = 0.0
    high_m: Annotated[float, Within(0.02, 20, "m")] = 1.0
    """From its foot to its top, above the floor: a duct hangs [m]."""
    open: bool | None = None
    """Whether a door stands open while a car charges; None while unread."""


class Pin(Node, frozen=True, kw_only=True):
    """A spot where the charger may hang."""

    id: str
    name: str
    x_m: Annotated[float, Within(-1000, 1000, "m", "east of the panel")]
    y_m: Annotated[float, Within(-1000, 1000, "m", "north of the panel")]
    height_m: Annotated[float, Within(0, 5, "m")] = 1.2192
    fixing: Annotated[str | None, OneOf(FIXINGS)] = None
    """What it is screwed to; None while unread."""


class Bay(Node, frozen=True, kw_only=True):
    """A parking spot; a car that goes nose in points this way."""

    id: str
    name: str
    x_m: Annotated[float, Within(-1000, 1000, "m", "east of the panel")]
    y_m: Annotated[float, Within(-1000, 1000, "m", "north of the panel")]
    """Its middle [m]."""
    heading_deg: Annotated[float, Within(-3600, 3600, "degrees")] = 0.0
    """Nose, anticlockwise from east."""
    noses: Annotated[tuple[str, ...], Many(2, each=OneOf(NOSES), least=1, called="nose")] = NOSES
    """Ways cars stand in it."""


class Storey(Node, frozen=True, kw_only=True):
    """One storey that the line stands on, by how many floors it lies over the panel's own."""

    id: str
    number: Annotated[int, Within(-9, 9, "", "storey")] = 0
    name: str = ""
    high_m: Annotated[float | None, Within(1.2, 20, "m", "storey height")] = None
    """Floor to ceiling [m]; None while nobody measured it."""


class Site(Node, frozen=True, kw_only=True):
    """The floor from above, and its weather."""

    areas: Annotated[tuple[Area, ...], Many(MOST_SITE, called="areas")] = ()
    things: Annotated[tuple[Thing, ...], Many(MOST_SITE, called="things")] = ()
    pins: Annotated[tuple[Pin, ...], Many(MOST_PINS, called="pins")] = ()
    pin: str = ""
    """Pin the line ends at, by id; empty while none is chosen."""
    storeys: Annotated[tuple[Storey, ...], Many(19, called="storeys")] = ()
    bays: Annotated[tuple[Bay, ...], Many(MOST_SITE, called="bays")] = ()
    low_c: Annotated[float | None, Within(-60, 85, "C", "coldest")] = None
    high_c: Annotated[float | None, Within(-60, 85, "C", "hottest")] = None
    """Coldest and hottest that the raceway gets [degC]; None while unread."""
    install_c: Annotated[float | None, Within(-60, 85, "C", "temperature at installing")] = None
