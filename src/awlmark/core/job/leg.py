"""The legs of the line: where each one goes, what it is made of, what it meets."""

from typing import Annotated, Final

from awlmark.core.job.limits import Many, OneOf, Within
from awlmark.core.job.node import Node
from awlmark.core.quantities import LONGEST_M

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
MOUNTS: Final = ("surface", "inside", "fished")
HIDDEN: Final = ("inside", "fished")
"""On the face of a wall, inside its open framing, or fished inside a finished wall."""
MOST_LEGS: Final = 1000
MOST_CONDUCTORS: Final = 100
METALS: Final = ("cu", "al")


class Layer(Node, frozen=True, kw_only=True):
    """One layer of a wall."""

    name: str
    thick_m: Annotated[float, Within(0.0005, 3, "m", "thickness")]


class Bundle(Node, frozen=True, kw_only=True):
    """Other conductors, or whole cables, in the same raceway."""

    count: Annotated[int, Within(1, MOST_CONDUCTORS)]
    size: str = ""
    insulation: str = "thwn-2"
    diameter_m: Annotated[float | None, Within(0.0005, 0.3, "m")] = None
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
    direction: Annotated[str, OneOf(DIRECTIONS)]
    length_m: Annotated[float, Within(0, LONGEST_M, "m")]
    built_m: Annotated[float | None, Within(0.0001, LONGEST_M, "m")] = None
    """As it was built; None as planned [m]."""
    end: Annotated[str, OneOf(ENDS)] = "bend"
    place: Annotated[str | None, OneOf(PLACES)] = None
    method: str | None = None
    trade_size: str | None = None
    ambient_c: Annotated[float | None, Within(-60, 85, "C")] = None
    cover_m: Annotated[float | None, Within(0, 10, "m")] = None
    wall: str = ""
    layers: Annotated[tuple[Layer, ...], Many(20)] = ()
    """Build-up of a wall it passes, outermost last; empty while nobody has opened it."""
    fire: bool | None = None
    """A wall or floor that has to hold back fire, such as between garage and house; None while nobody has asked."""
    surface: Annotated[str | None, OneOf(SURFACES)] = None
    """Over a trench; None while nobody has said what lies there."""
    bend: Annotated[str, OneOf(BENDS)] = "elbow"
    """How the turn at its end is made."""
    offset_m: Annotated[float | None, Within(0.001, 5, "m")] = None
    offset_deg: Annotated[float, Within(5, 90, "degrees", "offset angle")] = 30.0
    """Step sideways within the leg, made by two bends of this angle; None for none."""
    saddle_m: Annotated[float | None, Within(0.001, 1, "m")] = None
    """Height of something it steps over in its middle and comes back from; None for nothing."""
    saddle_wide_m: Annotated[float, Within(0, 3, "m", "saddle width")] = 0.0
    """Width of that; nought for a single pipe, which three bends pass."""
    box: str | None = None
    """Box at its end, by its name in the table of boxes; None takes the smallest that is enough."""
    box_in3: Annotated[float | None, Within(1, 2000, "in3", "box volume")] = None
    """Volume marked on a box [in3]; in the table's own unit, for that is what the mark says."""
    ring_in3: Annotated[float | None, Within(1, 500, "in3", "extension ring")] = None
    """Volume marked on an extension ring on that box [in3]; None for none."""
    box_long_m: Annotated[float | None, Within(0.02, 3, "m", "box length")] = None
    """Length of a pull box for large wire [m]; None while unread."""
    spliced: bool = False
    """Whether the wires are spliced in it; otherwise they pass unbroken."""
    splice_al: bool | None = None
    """Whether its connectors are listed for aluminium; None while unread."""
    box_others: Annotated[tuple[Bundle, ...], Many(MOST_CONDUCTORS)] = ()
    """Wires of other circuits in the box at its end, each counted once for every piece in it."""
    box_device: str | None = None
    """Largest wire on a device in that box, such as a switch; None without one."""
    body: Annotated[str | None, OneOf(BODIES)] = None
    """Kind of conduit body at its end; None while any serves."""
    sleeve: str | None = None
    """Raceway, by its method, that a cable leg passes through for its protection; None for none."""
    sleeve_size: str | None = None
    """Its trade size; None takes the smallest that is enough."""
    mount: Annotated[str | None, OneOf(MOUNTS, "mounting")] = None
    edge_m: Annotated[float | None, Within(0, 1, "m", "distance from the edge")] = None
    """From the nearer edge of the framing it is bored through or runs along [m]; None while unread."""
    insulated: bool | None = None
    """Whether it lies in thermal insulation; None while nobody has looked."""
    beside: Annotated[int | None, Within(0, MOST_CONDUCTORS, "cables", "cables beside it")] = None
    """Other loaded cables that touch it in insulation, or pass the same sealed hole; None while uncounted."""
    insulated_m: Annotated[float | None, Within(0, 100, "m", "length in insulation")] = None
    """Length on which thermal insulation surrounds it [m]; None while unread."""
    zone: bool | None = None
    """Whether it lies in a wall where people expect cable; None while nobody has said."""
    spread: str = ""
    """How the circuits beside it lie, by the rule book's name; empty takes the usual one of its method."""
    ground_c: Annotated[float | None, Within(-20, 60, "C", "ground temperature")] = None
    soil: Annotated[float | None, Within(0.2, 10, "K m/W", "soil")] = None
    """Thermal resistivity of the soil [K m/W]."""
    deck_clear: bool | None = None
    """Whether it keeps 1-1/2 in from metal roof decking, or there is none; None while nobody has looked."""
    reused: bool = False
    """Raceway that is there already, with what may be in it."""
    slip: bool = False
    """An expansion fitting stands on it."""
    sun: bool = False
    exposed: bool | None = None
    """Where something can hit it; None while nobody has looked."""
    roof_m: Annotated[float | None, Within(0, 10, "m", "height above the roof")] = None
    """Height above a roof [m]; None is taken as lying on it."""


class MakeUp(Node, frozen=True, kw_only=True):
    """Wire left beyond the tape so that it can be landed."""

    panel_tail_m: Annotated[float, Within(0, 20, "m", "tail at the panel")] = 1.2192
    unit_tail_m: Annotated[float, Within(0, 20, "m", "tail at the unit")] = 0.4572
    box_loop_m: Annotated[float, Within(0, 20, "m", "loop in a box")] = 0.3048
