"""The legs of the line: where each one goes, what it is made of, what it meets."""

from __future__ import annotations

from typing import Final

from awlmark.core.job.node import Node

DIRECTIONS: Final = ("up", "down", "left", "right", "out", "in", "through", "trench")
CROSSING: Final = ("through", "in", "out")
"""Directions that pass what the line is on."""
ENDS: Final = ("bend", "corner", "box", "body", "pull elbow", "post", "charger")
PULL_POINTS: Final = ("box", "body", "pull elbow", "charger")
PLACES: Final = ("indoor", "garage", "attic", "crawl", "outdoor", "roof", "buried")
SURFACES: Final = ("soil", "concrete", "building", "slab", "street", "drive")
"""What lies over a trench, as the cover table groups it; ``drive`` is a dwelling's own drive or parking."""
BENDS: Final = ("elbow", "hand")
"""Bought, or bent by hand."""
BODIES: Final = ("LB", "LL", "LR", "T", "C")
"""Conduit bodies by where their cover faces and their hubs point."""
MOUNTS: Final = ("surface", "inside")
"""On the face of a wall, or inside its framing."""
MOST_LEGS: Final = 1000


class Layer(Node, frozen=True, kw_only=True):
    """One layer of a wall."""

    name: str
    thick_m: float


class Bundle(Node, frozen=True, kw_only=True):
    """Other conductors, or whole cables, in the same raceway."""

    count: int
    size: str = ""
    insulation: str = "thwn-2"
    diameter_m: float | None = None
    """Larger outside diameter of a cable; None for single conductors."""
    carries: bool = True
    """Whether they carry current; grounds and dead wires fill the pipe and do not warm it."""

    @property
    def current_carrying(self) -> int:
        """Conductors that count for adjustment: one of a single, two of a cable, none that carries nothing."""
        return self.count * (1 if self.diameter_m is None else 2) if self.carries else 0


class Leg(Node, frozen=True, kw_only=True):
    """One straight reading of the tape, and what stands at its end."""

    id: str
    direction: str
    length_m: float
    built_m: float | None = None
    """As it was built; None as planned [m]."""
    end: str = "bend"
    place: str | None = None
    method: str | None = None
    trade_size: str | None = None
    ambient_c: float | None = None
    cover_m: float | None = None
    wall: str = ""
    layers: tuple[Layer, ...] = ()
    """Build-up of a wall it passes, outermost last; empty while nobody has opened it."""
    fire: bool | None = None
    """A wall or floor that has to hold back fire, such as between garage and house; None while nobody has asked."""
    surface: str | None = None
    """Over a trench; None while nobody has said what lies there."""
    bend: str = "elbow"
    """How the turn at its end is made."""
    offset_m: float | None = None
    offset_deg: float = 30.0
    """Step sideways within the leg, made by two bends of this angle; None for none."""
    saddle_m: float | None = None
    """Height of something it steps over in its middle and comes back from; None for nothing."""
    saddle_wide_m: float = 0.0
    """Width of that; nought for a single pipe, which three bends pass."""
    box: str | None = None
    """Box at its end, by its name in Table 314.16(A); None takes the smallest that is enough."""
    box_in3: float | None = None
    """Volume marked on a box [in3]; in the table's own unit, for that is what the mark says."""
    ring_in3: float | None = None
    """Volume marked on an extension ring on that box [in3]; None for none."""
    box_long_m: float | None = None
    """Length of a pull box for large wire [m]; None while unread."""
    spliced: bool = False
    """Whether the wires are spliced in it; otherwise they pass unbroken."""
    splice_al: bool | None = None
    """Whether its connectors are listed for aluminium; None while unread."""
    box_others: tuple[Bundle, ...] = ()
    """Wires of other circuits in the box at its end, each counted once for every piece in it."""
    box_device: str | None = None
    """Largest wire on a device in that box, such as a switch; None without one."""
    body: str | None = None
    """Kind of conduit body at its end; None while any serves."""
    sleeve: str | None = None
    """Raceway, by its method, that a cable leg passes through for its protection; None for none."""
    sleeve_size: str | None = None
    """Its trade size; None takes the smallest that is enough."""
    mount: str | None = None
    edge_m: float | None = None
    """From the nearer edge of the framing it is bored through or runs along [m]; None while unread."""
    insulated: bool | None = None
    """Whether it lies in thermal insulation; None while nobody has looked."""
    beside: int | None = None
    """Other loaded cables that touch it in insulation, or pass the same sealed hole; None while uncounted."""
    deck_clear: bool | None = None
    """Whether it keeps 1-1/2 in from metal roof decking, or there is none; None while nobody has looked."""
    reused: bool = False
    """Raceway that is there already, with what may be in it."""
    slip: bool = False
    """An expansion fitting stands on it."""
    sun: bool = False
    exposed: bool | None = None
    """Where something can hit it; None while nobody has looked."""
    roof_m: float | None = None
    """Height above a roof [m]; None is taken as lying on it."""


class MakeUp(Node, frozen=True, kw_only=True):
    """Wire left beyond the tape so that it can be landed."""

    panel_tail_m: float = 1.2192
    unit_tail_m: float = 0.4572
    box_loop_m: float = 0.3048
