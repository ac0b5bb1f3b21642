"""The job as one immutable tree of plain structs.

Every design decision is either open (``None``) or pinned by the user. Lengths are metres, temperatures degrees
Celsius, sizes text, money decimal text. ``extra`` keeps what a newer or foreign writer put there.
"""

from __future__ import annotations

import os
from typing import Any, Final

from awlmark.core.job.driving import Need
from awlmark.core.job.face import DeadFront
from awlmark.core.job.node import Node
from awlmark.core.job.site import Site
from awlmark.core.job.works import Build, Prove

EDITIONS: Final = ("nec-2017", "nec-2020", "nec-2023")
SYSTEMS: Final = {"120/240": (240.0, 120.0), "120/208": (208.0, 120.0), "230": (230.0, 230.0)}
"""Supply systems: volts that feed a charger, volts from a leg to neutral; one leg only where they are the same."""
DIRECTIONS: Final = ("up", "down", "left", "right", "out", "in", "through", "trench")
CROSSING: Final = ("through", "in", "out")
"""Directions that pass what the line is on."""
ENDS: Final = ("bend", "corner", "box", "body", "pull elbow", "post", "charger")
PULL_POINTS: Final = ("box", "body", "pull elbow", "charger")
PLACES: Final = ("indoor", "garage", "attic", "crawl", "outdoor", "roof", "buried")
MATERIALS: Final = ("cu", "al")
OCCUPANCIES: Final = ("dwelling", "other")
GFCI_READINGS: Final = ("edition", "always", "receptacles")
DROP_FORMS: Final = ("table 8", "table 9", "working")
"""How the drop is worked out: dc at 75 C, ac with reactance, or dc at the temperature the wire really gets."""
PREFERENCES: Final = ("price", "easy pull", "low loss")
LOAD_KINDS: Final = ("fixed", "range", "dryer", "heat", "heat 4+", "heat pump", "cooling", "motor", "general")
DEMAND_METHODS: Final = ("standard", "optional", "existing", "measured")
MOST_BOARDS: Final = 20
MOST_LOADS: Final = 200
LOAD_LEGS: Final = ("", "A", "B")
"""Bus leg of a load from leg to neutral; nothing for one across both legs, or not known."""
SURFACES: Final = ("soil", "concrete", "building", "slab", "street", "drive")
"""What lies over a trench, as the cover table groups it; ``drive`` is a dwelling's own drive or parking."""
BENDS: Final = ("elbow", "hand")
"""Bought, or bent by hand."""
MOUNTS: Final = ("surface", "inside")
"""On the face of a wall, or inside its framing."""
CHARGE_RANGE_A: Final = (1.0, 320.0)
SETTINGS_A: Final = (12.0, 16.0, 20.0, 24.0, 30.0, 32.0, 36.0, 40.0, 48.0, 56.0, 64.0, 72.0, 80.0)
"""Charging currents that units are set to, common practice; compared, stepped through and offered as a way out."""
DROP_RANGE_PERCENT: Final = (0.1, 20.0)
MOST_LEGS: Final = 1000
MOST_CONDUCTORS: Final = 100


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


class Charger(Node, frozen=True, kw_only=True):
    """The charging unit and how it is connected."""

    nameplate_a: float | None = None
    setting_a: float | None = None
    setting_restricted: bool = False
    connection: str = "hardwired"
    terminal_c: int | None = None
    lug: Lug = Lug()
    disconnect: bool = False
    """Whether a lockable disconnect stands by it."""
    separate: bool = False
    """Whether it stands on a structure of its own: a post, an outbuilding."""
    cord_m: float | None = None
    """Of its own cord; None while unread."""
    band_low_m: float | None = None
    band_high_m: float | None = None
    """Mounting heights its maker gives [m]; None while unread."""


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
    bonded: bool | None = None
    """Neutral and ground joined in it, which only the service may have; None while nobody has looked."""


class Load(Node, frozen=True, kw_only=True):
    """Something else that draws, as its plate says."""

    id: str
    name: str
    va: float
    kind: str = "fixed"
    count: int = 1
    board: str = ""
    leg: str = ""


class Demand(Node, frozen=True, kw_only=True):
    """How the demand is counted."""

    method: str = "optional"
    floor_m2: float | None = None
    small_appliance: int = 2
    laundry: int = 1
    pool: bool = False
    """Charger inside the 40 % pool of an optional method; outside it, whole, by default."""
    measured_a: float | None = None
    """Highest demand of a year, for the measured method."""
    managed: bool = False
    """Automatic load management holds the charger to what is left on every bus."""
    set_point_a: float | None = None
    """What the current sensors hold the service to; None takes its rating."""
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


class Bundle(Node, frozen=True, kw_only=True):
    """Other conductors, or whole cables, in the same raceway."""

    count: int
    size: str = ""
    insulation: str = "thwn-2"
    diameter_m: float | None = None
    """Larger outside diameter of a cable; None for single conductors."""

    @property
    def current_carrying(self) -> int:
        """Conductors that count for adjustment: one of a single, two of a cable."""
        return self.count * (1 if self.diameter_m is None else 2)


class Circuit(Node, frozen=True, kw_only=True):
    """The decisions of the circuit; ``None`` is open."""

    breaker_a: float | None = None
    material: str | None = None
    insulation: str | None = None
    size: str | None = None
    ground_size: str | None = None
    shared_ground_a: float | None = None
    """Largest other breaker whose circuit uses the same wire ground in the raceway; None for a ground of its own."""
    cable_wide_m: float | None = None
    """Larger outside diameter of the run's cable, wanted where it passes a sleeve; None while unread [m]."""
    raceway_ground: bool = False
    """Metal raceway all the way is the ground, no wire is pulled for it."""
    copper_tail: bool = False
    """Aluminium ends in a listed splice box before the charger, and copper goes on from there."""
    compact: bool = False
    max_drop_percent: float = 3.0
    drop_form: str = "table 8"
    extra_ccc: int = 0
    others: tuple[Bundle, ...] = ()
    prefer: str = "price"


class Layer(Node, frozen=True, kw_only=True):
    """One layer of a wall."""

    name: str
    thick_m: float


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
    fire: bool = False
    """A wall that has to hold back fire, such as between garage and house."""
    surface: str | None = None
    """Over a trench; None is taken as soil, and said so."""
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
    sleeve: str | None = None
    """Raceway, by its method, that a cable leg passes through for its protection; None for none."""
    sleeve_size: str | None = None
    """Its trade size; None takes the smallest that is enough."""
    mount: str | None = None
    edge_m: float | None = None
    """From the nearer edge of the framing it is bored through [m]; None while unread."""
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


class Buying(Node, frozen=True, kw_only=True):
    """How the list is bought and the work priced."""

    waste_percent: float = 0.0
    """Wire bought beyond its cut lengths."""
    spare_percent: float = 0.0
    """Fittings and fixings bought beyond what the line needs; rounded up to whole ones."""
    tax_percent: float = 0.0
    rate_per_h: str | None = None
    """Of labour; None while no labour is priced."""
    margin_percent: float = 0.0
    rebate_percent: float = 0.0
    rebate_cap: str | None = None
    """Most the rebate gives; None without a cap."""


class LocalRules(Node, frozen=True, kw_only=True):
    """What the local authority changes; shown beside the clause it changes."""

    drop_mandatory: bool = False
    garage_hardwired_gfci: bool = True
    gfci: str = "edition"
    """How the authority reads the ground-fault rules: by the edition, ``always``, or ``receptacles`` alone."""
    nm_forbidden: bool = False
    terminals_60: bool = False
    """60 C terminals whatever the marking, up to 100 A."""
    least_ground: str | None = None
    least_raceway: str | None = None
    surge: bool = False
    """A surge device at the panel."""
    label: str = ""
    """Text of a label the authority wants."""


class Existing(Node, frozen=True, kw_only=True):
    """What was seen on a circuit that is there already."""

    browned: bool = False
    double_tap: bool = False
    loose: bool = False


class Overrule(Node, frozen=True, kw_only=True):
    """A finding the user set aside, with the reason that prints."""

    finding: str
    reason: str


class Job(Node, frozen=True, kw_only=True):
    """One charger circuit, from bus to car."""

    id: str
    name: str = "New job"
    note: str = ""
    units: str = "ft"
    code: str = "nec-2023"
    occupancy: str = "dwelling"
    currency: str = "$"
    supply: Supply = Supply()
    need: Need = Need()
    charger: Charger = Charger()
    circuit: Circuit = Circuit()
    boards: tuple[Board, ...] = ()
    loads: tuple[Load, ...] = ()
    demand: Demand = Demand()
    dead_front: DeadFront = DeadFront()
    meter: Meter | None = None
    site: Site = Site()
    legs: tuple[Leg, ...] = ()
    makeup: MakeUp = MakeUp()
    buying: Buying = Buying()
    local: LocalRules = LocalRules()
    existing: Existing = Existing()
    # msgspec gives every job dictionaries of its own.
    prices: dict[str, str] = {}  # noqa: RUF012
    """By key of the part; ``key@100`` is a pack of 100."""
    price_notes: dict[str, str] = {}  # noqa: RUF012
    """Date and place of a price, as typed."""
    hours: dict[str, str] = {}  # noqa: RUF012
    """The user's own hours by kind of part."""
    stock: dict[str, str] = {}  # noqa: RUF012
    """On the shelf already, by key."""
    delivered: dict[str, str] = {}  # noqa: RUF012
    """What came, by key."""
    paid: dict[str, str] = {}  # noqa: RUF012
    """What a line really cost, by key."""
    gone: tuple[str, ...] = ()
    """Parts that are not to be had, by key."""
    overrules: tuple[Overrule, ...] = ()
    build: Build = Build()
    prove: Prove = Prove()
    guessed: tuple[str, ...] = ()
    """Paths that a quick quote assumed; each wears the dashed ring until the user confirms it."""


def new_job(name: str = "New job", **fields: Any) -> Job:
    """An empty job with an id of its own."""
    return Job(id=os.urandom(16).hex(), name=name, **fields)
