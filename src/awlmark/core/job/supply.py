"""Where the circuit starts: service, sub-panels, their loads, how the demand is counted, terminals."""

from typing import Annotated, Final

from awlmark.core.job.leg import METALS, PLACES
from awlmark.core.job.limits import Many, Matches, Named, OneOf, Text, Within
from awlmark.core.job.node import Node
from awlmark.core.quantities import LONGEST_M

SYSTEMS: Final = {"120/240": (240.0, 120.0), "120/208": (208.0, 120.0), "230": (230.0, 230.0), "400": (400.0, 230.0)}
"""Supply systems: volts that feed a charger, volts from a leg to neutral; one leg only where they are the same."""
LOAD_KINDS: Final = (
    "fixed", "range", "dryer", "heat", "heat 4+", "heat pump", "cooling", "motor", "lighting", "charging", "general"
)  # fmt: skip
RACEWAY: Final = "raceway"
"""What is typed where the metal raceway is the feeder's ground."""
SPOTS: Final = ("clear", "closet", "bathroom", "steps", "storage")
"""Where a panel stands: clear of all that, in a clothes closet, a bathroom, over steps, or behind stored things."""
DEMAND_METHODS: Final = ("standard", "optional", "existing", "measured")
HOUSEHOLD: Final = "household"
"""Shares of a table by kind of load, where a rule book has one."""
TERMINALS_C: Final = (60, 70, 75, 90)
"""Markings of terminals, over all rule books [degC]."""
EARTHINGS: Final = ("tn-c-s", "tn-s", "tt")
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
    torque_lbf_in: Annotated[float | None, Within(1, 1000, "lbf-in")] = None
    """In the unit of the label."""
    strip_m: Annotated[float | None, Within(0.002, 0.1, "m", "strip length")] = None
    """Length of insulation to take off [m]."""


BONDED: Final = ("yes", "no", "none")
"""Whether something is bonded: it is, it is not, or there is no such thing."""


class Bonding(Node, frozen=True, kw_only=True):
    """What is joined to the main earthing terminal; None while nobody has looked."""

    water: Annotated[str | None, OneOf(BONDED, "water")] = None
    gas: Annotated[str | None, OneOf(BONDED, "gas")] = None
    oil: Annotated[str | None, OneOf(BONDED, "oil")] = None
    steel: Annotated[str | None, OneOf(BONDED, "steel")] = None
    mm2: Annotated[float | None, Within(1, 300, "mm2", "bonding conductor")] = None
    """Its smallest conductor [mm2]."""


UNIT_DEVICES: Final = ("mcb", "rcbo", "rccb", "surge", "switch", "blank", "fuse")
UNIT_KINDS: Final = ("metal", "plastic", "rewirable")
MOST_WAYS: Final = 60


class Device(Node, frozen=True, kw_only=True):
    """What stands in a row of ways."""

    id: str
    way: Annotated[int, Within(1, MOST_WAYS, "ways", "way")]
    """The first it takes, counted from the main switch."""
    modules: Annotated[int, Within(1, 8, "modules", "modules")] = 1
    kind: Annotated[str, OneOf(UNIT_DEVICES, "device of the consumer unit")] = "mcb"
    rating_a: Annotated[float | None, Within(1, 200, "A", "device rating")] = None
    curve: str = ""
    residual: str = ""
    """Type of its residual part, such as ``ac`` or ``a``; empty for none, or not read."""
    name: str = ""


class ConsumerUnit(Node, frozen=True, kw_only=True):
    """A row of ways behind a main switch, as some rule books know a board."""

    ways: Annotated[int | None, Within(1, MOST_WAYS, "ways", "ways")] = None
    """None while nobody has counted."""
    devices: Annotated[tuple[Device, ...], Many(MOST_WAYS, called="devices of the consumer unit")] = ()
    free: Annotated[tuple[int, ...], Many(MOST_WAYS, called="free ways")] = ()
    """Ways that somebody saw free; the rest is not told."""
    kind: Annotated[str | None, OneOf(UNIT_KINDS, "consumer unit")] = None


REGIONS: Final = ("england", "wales", "scotland", "ni")


class Supply(Node, frozen=True, kw_only=True):
    """Where the circuit starts."""

    system: Annotated[str, OneOf(tuple(SYSTEMS), "supply system")] = "120/240"
    service_a: Annotated[float | None, Within(15, 4000, "A", "service rating")] = None
    panel_name: Annotated[str, Text(40, called="panel name")] = "Panel"
    panel_top_m: Annotated[float, Within(0, 10, "m", "panel top height")] = 1.524
    place: Annotated[str, OneOf(PLACES, "panel place")] = "indoor"
    terminal_c: Annotated[int | None, OneOf(TERMINALS_C, "panel terminals")] = None
    lug: Annotated[Lug, Named("panel lug")] = Lug()
    board: str = ""
    """Board the circuit hangs on, by id; empty is the service panel."""
    knockout: str = ""
    """Knockout the run leaves by, by id; empty while none is chosen."""
    handle_m: Annotated[float | None, Within(0, 10, "m", "highest handle")] = None
    """Centre of the highest breaker handle above the floor [m]; None while unread."""
    spot: Annotated[str | None, OneOf(SPOTS, "panel's place")] = None
    """What its place is; None while nobody has said."""
    fault_a: Annotated[float | None, Within(10, 200_000, "A", "fault current")] = None
    """Fault current that can flow at the panel, as the utility says [A]; None while unread."""
    breaks_a: Annotated[float | None, Within(1000, 200_000, "A", "what the breaker interrupts")] = None
    """Fault current that the new breaker interrupts, as its label says [A]; None while unread."""
    earthing: Annotated[str | None, OneOf(EARTHINGS, "earthing")] = None
    """How the supply is earthed; None while nobody has said."""
    ze_ohm: Annotated[float | None, Within(0.001, 5000, "ohm", "external loop (ze)")] = None
    """Earth-fault loop outside the installation, declared or measured [ohm]; None while unread."""
    ra_ohm: Annotated[float | None, Within(0.1, 5000, "ohm", "electrode (ra)")] = None
    """Earth electrode with its conductor [ohm]; None while unread."""
    cutout_a: Annotated[float | None, Within(5, 800, "A", "cut-out")] = None
    """Fuse of the distributor's cut-out [A]; None while unread."""
    looped: bool | None = None
    """Whether the service feeds a neighbour too; None while nobody has looked."""
    tails_mm2: Annotated[float | None, Within(1, 300, "mm2", "tails")] = None
    """Meter tails [mm2]; None while unread."""
    earth_mm2: Annotated[float | None, Within(1, 300, "mm2", "main earthing conductor")] = None
    bonding: Annotated[Bonding, Named("bonding")] = Bonding()
    unit: Annotated[ConsumerUnit, Named("consumer unit")] = ConsumerUnit()
    region: Annotated[str | None, OneOf(REGIONS, "region")] = None
    """Whose building rules go, where a book's country has several; None while nobody has said."""
    private: bool = False
    """Whether the supply is the owner's own, from high voltage on."""
    fresh: bool = False
    """Whether the service or the circuit's feeder is new or replaced in this job."""


class Board(Node, frozen=True, kw_only=True):
    """A sub-panel and the feeder that brings its supply."""

    id: str
    name: str = "Sub-panel"
    fed_by: str = ""
    """Board it is fed from; empty is the service panel."""
    feeder_a: Annotated[float | None, Within(15, 4000, "A", "feeder")] = None
    """Breaker of the feeder; None while unread."""
    feeder_size: str | None = None
    feeder_material: Annotated[str, OneOf(METALS, "feeder metal")] = "cu"
    feeder_length_m: Annotated[float | None, Within(0.01, LONGEST_M, "m", "feeder length")] = None
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
    va: Annotated[float, Within(1, 1000000.0, "VA", "load")]
    kind: Annotated[str, OneOf(LOAD_KINDS)] = "fixed"
    guessed: bool = False
    """Whether the kind was guessed from its name, and nobody has confirmed it."""
    count: Annotated[int, Within(1, 50, "of them")] = 1
    board: str = ""
    leg: Annotated[str, OneOf(LOAD_LEGS)] = ""
    share_percent: Annotated[float | None, Within(0, 100, "%", "share")] = None
    """Share of it that counts at the same time as the rest (diversity) [percent]; None for all of it."""


class Demand(Node, frozen=True, kw_only=True):
    """How the demand is counted."""

    method: Annotated[str, OneOf((*DEMAND_METHODS, HOUSEHOLD), "demand method")] = "optional"
    floor_m2: Annotated[float | None, Within(1, 5000, "m2", "floor area")] = None
    complete: bool = False
    """Whether the loads entered on the service panel are all it has."""
    heat_added: bool | None = None
    """Whether heating or cooling is added with this job; None while nobody has said."""
    small_appliance: Annotated[int, Within(0, 20, "circuits", "small-appliance circuits")] = 2
    laundry: Annotated[int, Within(0, 10, "circuits", "laundry circuits")] = 1
    pool: bool = False
    """Charger inside the 40 % pool of an optional method; outside it, whole, by default."""
    measured_a: Annotated[float | None, Within(0, 4000, "A", "measured demand")] = None
    """Highest demand of a year, for the measured method."""
    managed: bool = False
    """Automatic load management holds the charger to what is left on every bus."""
    set_point_a: Annotated[float | None, Within(15, 4000, "A", "set point")] = None
    """What the current sensors hold the service to; None takes the rating of what they sense."""
    set_by: str = ""
    """Who set the set point behind its lock, and when; empty while nobody has."""
    shares: str = ""
    """Load, by id, whose circuit the charger takes over while that load is off."""


class Meter(Node, frozen=True, kw_only=True):
    """Interval data read into the job: mean power, step by step, without gaps."""

    source: str
    """Name of the file, or ``invented``."""
    start: Annotated[
        str,
        Matches(pattern=r"\d{4}-\d\d-\d\d \d\d:\d\d", accepted="such as 2025-01-01 00:00", called="meter data, start"),
    ]
    """First interval on the meter's clock, such as ``2025-01-01 00:00``."""
    interval_s: Annotated[int, Within(60, 3600, "s", "meter data, interval")]
    step_w: Annotated[int, Within(1, 1000000, "W", "meter data, step")]
    """What one count is worth [W]."""
    counts: Annotated[str, Text(8_000_000, called="meter data")]
    """Base64 of zlib of little-endian 16-bit counts, one an interval; -32768 is a missing one."""
