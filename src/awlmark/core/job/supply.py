"""Where the circuit starts: service, sub-panels, their loads, how the demand is counted, terminals."""

from __future__ import annotations

from typing import Final

from awlmark.core.job.node import Node

SYSTEMS: Final = {"120/240": (240.0, 120.0), "120/208": (208.0, 120.0), "230": (230.0, 230.0)}
"""Supply systems: volts that feed a charger, volts from a leg to neutral; one leg only where they are the same."""
LOAD_KINDS: Final = (
    "fixed", "range", "dryer", "heat", "heat 4+", "heat pump", "cooling", "motor", "lighting", "charging", "general"
)  # fmt: skip
SPOTS: Final = ("clear", "closet", "bathroom", "steps", "storage")
"""Where a panel stands: clear of all that, in a clothes closet, a bathroom, over steps, or behind stored things."""
DEMAND_METHODS: Final = ("standard", "optional", "existing", "measured")
MOST_BOARDS: Final = 20
MOST_LOADS: Final = 200
LOAD_LEGS: Final = ("", "A", "B")
"""Bus leg of a load from leg to neutral; nothing for one across both legs, or not known."""


class Lug(Node, frozen=True, kw_only=True):
    """A terminal, as its label says; everything unread is None."""

    least: str | None = None
    most: str | None = None
    """Smallest and largest gauge it takes."""
    copper_only: bool | None = None
    torque_lbf_in: float | None = None
    """In the unit of the label."""
    strip_m: float | None = None
    """Length of insulation to take off [m]."""


class Supply(Node, frozen=True, kw_only=True):
    """Where the circuit starts."""

    system: str = "120/240"
    service_a: float | None = None
    panel_name: str = "Panel"
    panel_top_m: float = 1.524
    place: str = "indoor"
    terminal_c: int | None = None
    lug: Lug = Lug()
    board: str = ""
    """Board the circuit hangs on, by id; empty is the service panel."""
    knockout: str = ""
    """Knockout the run leaves by, by id; empty while none is chosen."""
    handle_m: float | None = None
    """Centre of the highest breaker handle above the floor [m]; None while unread."""
    spot: str | None = None
    """What its place is; None while nobody has said."""
    fault_a: float | None = None
    """Fault current that can flow at the panel, as the utility says [A]; None while unread."""
    breaks_a: float | None = None
    """Fault current that the new breaker interrupts, as its label says [A]; None while unread."""
    fresh: bool = False
    """Whether the service or the circuit's feeder is new or replaced in this job."""


class Board(Node, frozen=True, kw_only=True):
    """A sub-panel and the feeder that brings its supply."""

    id: str
    name: str = "Sub-panel"
    fed_by: str = ""
    """Board it is fed from; empty is the service panel."""
    feeder_a: float | None = None
    """Breaker of the feeder; None while unread."""
    feeder_size: str | None = None
    feeder_material: str = "cu"
    feeder_length_m: float | None = None
    feeder_ground: str | None = None
    """Gauge of the feeder's wire ground; None while unread."""
    bonded: bool | None = None
    """Neutral and ground joined in it, which only the service may have; None while nobody has looked."""
    complete: bool = False
    """Whether the loads entered on it are all it has."""
    outbuilding: bool | None = None
    """Whether it stands in another building than the service; None while nobody has said."""
    disconnect: bool | None = None
    """Whether a disconnect stands where its feeder reaches that building; None while nobody has looked."""
    electrode: bool | None = None
    """Whether that building has a grounding electrode of its own, joined to the panel; None while nobody has looked."""


class Load(Node, frozen=True, kw_only=True):
    """Something else that draws, as its plate says."""

    id: str
    name: str
    va: float
    kind: str = "fixed"
    guessed: bool = False
    """Whether the kind was guessed from its name, and nobody has confirmed it."""
    count: int = 1
    board: str = ""
    leg: str = ""


class Demand(Node, frozen=True, kw_only=True):
    """How the demand is counted."""

    method: str = "optional"
    floor_m2: float | None = None
    complete: bool = False
    """Whether the loads entered on the service panel are all it has."""
    heat_added: bool | None = None
    """Whether heating or cooling is added with this job (220.83); None while nobody has said."""
    small_appliance: int = 2
    laundry: int = 1
    pool: bool = False
    """Charger inside the 40 % pool of an optional method; outside it, whole, by default."""
    measured_a: float | None = None
    """Highest demand of a year, for the measured method."""
    managed: bool = False
    """Automatic load management holds the charger to what is left on every bus."""
    set_point_a: float | None = None
    """What the current sensors hold the service to; None takes the rating of what they sense."""
    set_by: str = ""
    """Who set the set point behind its lock, and when; empty while nobody has."""
    shares: str = ""
    """Load, by id, whose circuit the charger takes over while that load is off."""


class Meter(Node, frozen=True, kw_only=True):
    """Interval data read into the job: mean power, step by step, without gaps."""

    source: str
    """Name of the file, or ``invented``."""
    start: str
    """First interval on the meter's clock, such as ``2025-01-01 00:00``."""
    interval_s: int
    step_w: int
    """What one count is worth [W]."""
    counts: str
    """Base64 of zlib of little-endian 16-bit counts, one an interval; -32768 is a missing one."""
