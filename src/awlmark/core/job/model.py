"""The job as one immutable tree of plain structs.

Every design decision is either open (``None``) or pinned by the user. Lengths are metres, temperatures degrees
Celsius, sizes text, money decimal text. ``extra`` keeps what a newer or foreign writer put there.
"""

import os
from typing import Annotated, Any, Final

import msgspec

from awlmark.core.job.cars import Need
from awlmark.core.job.floor import Site
from awlmark.core.job.leg import METALS, MOST_CONDUCTORS, MOST_LEGS, Bundle, Leg, MakeUp
from awlmark.core.job.limits import LONGEST_NOTE, Amount, Keyed, Many, Named, OneOf, PartKey, Text, Unnamed, Within
from awlmark.core.job.node import Node
from awlmark.core.job.panel_face import DeadFront
from awlmark.core.job.papers import Papers
from awlmark.core.job.site_records import Build, Prove
from awlmark.core.job.supply import MOST_BOARDS, MOST_LOADS, TERMINALS_C, Board, Demand, Load, Lug, Meter, Supply
from awlmark.core.shelf import CODES, NEWEST

MATERIALS: Final = METALS
NEW_NAME: Final = "New job"
"""Until somebody names it, or saves it under a name."""
OCCUPANCIES: Final = ("dwelling", "other")
GFCI_READINGS: Final = ("edition", "always", "receptacles")
DROP_FORMS: Final = ("table 8", "table 9", "working")
"""How the drop is worked out: dc at 75 C, ac with reactance, or dc at the temperature the wire really gets."""
DEVICES: Final = ("b", "c", "d", "bs88-2")
"""Protective devices by their curve, where a rule book tells them apart."""
RESIDUAL_TYPES: Final = ("ac", "a", "f", "b", "s")
PEN_ANSWERS: Final = ("none", "i", "ii", "iii", "iv", "v", "island", "indoors")
"""What guards a car outdoors against a lost neutral of the supply: nothing, one of five ways, an earth of its own, or
no car is ever outdoors."""
PREFERENCES: Final = ("price", "easy pull", "low loss")
CHARGE_RANGE_A: Final = (1.0, 320.0)
SETTINGS_A: Final = (12.0, 16.0, 20.0, 24.0, 30.0, 32.0, 36.0, 40.0, 48.0, 56.0, 64.0, 72.0, 80.0)
"""Charging currents that units are set to, common practice; compared, stepped through and offered as a way out."""
DROP_RANGE_PERCENT: Final = (0.1, 20.0)


class Charger(Node, frozen=True, kw_only=True):
    """The charging unit and how it is connected."""

    nameplate_a: Annotated[float | None, Within(CHARGE_RANGE_A[0], CHARGE_RANGE_A[1], "A")] = None
    setting_a: Annotated[float | None, Within(CHARGE_RANGE_A[0], CHARGE_RANGE_A[1], "A")] = None
    setting_restricted: bool = False
    connection: str = "hardwired"
    terminal_c: Annotated[int | None, OneOf(TERMINALS_C, "charger terminals")] = None
    lug: Annotated[Lug, Named("charger lug")] = Lug()
    set_by: str = ""
    """Who set a lower limit behind its lock, and when; empty while nobody has."""
    most_breaker_a: Annotated[float | None, Within(15, 400, "A", "largest breaker of the unit")] = None
    """Largest breaker its instructions allow [A]; None while unread."""
    pigtail: str | None = None
    """Gauge of leads of its own, which are spliced; None where the run lands in it."""
    duplex: bool | None = None
    """Whether a 15 A outlet is a duplex one, which counts as two; None while unread."""
    living: bool | None = None
    """Whether a 120 V outlet stands in a room people live in; None while nobody has said."""
    plug: str | None = None
    """Plug on its cord; None while unread."""
    flexible: bool | None = None
    """Whether that cord is a flexible one made for it, and no building cable; None while nobody has looked."""
    listed: bool | None = None
    """Whether a testing laboratory's mark is on it; None while nobody has looked."""
    unvented: bool | None = None
    """Whether it is marked for charging without ventilation; None while unread."""
    pen: Annotated[str | None, OneOf(PEN_ANSWERS, "answer to a lost PEN")] = None
    """What stands in for a lost neutral of the supply where a car is charged outdoors; None while nobody has said."""
    extension: bool | None = None
    """Whether a car hangs on it by an extension lead; None while nobody has said."""
    island_clear: bool | None = None
    """Whether no metal earthed by the supply is within reach of an island's own earth; None while nobody has looked."""
    water_zone: bool | None = None
    """Whether it stands within the zones of a bath, shower or pool; None while nobody has looked."""
    dc_6ma: bool | None = None
    """Whether it detects 6 mA of smooth direct current itself; None while unread."""
    exports: bool | None = None
    """Whether it feeds power back from the car; None while nobody has said."""
    cabinet: bool = False
    """Whether it hangs in a metal cabinet."""
    disconnect: bool | None = None
    """Whether a lockable disconnect stands by it; None while nobody has said."""
    disconnect_lug: Annotated[Lug, Named("disconnect lug")] = Lug()
    """Terminals of that disconnect."""
    separate: bool | None = None
    """Whether it stands on a structure of its own: a post, an outbuilding; None while nobody has said."""
    guarded: bool | None = None
    """Whether a vehicle is kept from it, by its height, a wall or a post; None while nobody has looked."""
    cord_m: Annotated[float | None, Within(0.3, 7.7, "m", "cord")] = None
    """Of its own cord; None while unread."""
    band_low_m: Annotated[float | None, Within(0, 3, "m", "maker's lowest height")] = None
    band_high_m: Annotated[float | None, Within(0, 3, "m", "maker's highest height")] = None
    """Mounting heights its maker gives [m]; None while unread."""


class Circuit(Node, frozen=True, kw_only=True):
    """The decisions of the circuit; ``None`` is open."""

    breaker_a: Annotated[float | None, Within(6, 400, "A", "breaker")] = None
    device: Annotated[str | None, OneOf(DEVICES, "device")] = None
    """Kind of the protective device, by its curve; None takes the book's usual one."""
    residual: Annotated[str | None, OneOf(RESIDUAL_TYPES, "residual device")] = None
    """Type of the residual-current device that is there; None while it is chosen."""
    own: bool | None = None
    """Whether the circuit that is there feeds the point alone; None while nobody has looked."""
    residual_apart: bool = False
    """Whether that device stands before the breaker, not in one with it."""
    material: Annotated[str | None, OneOf(MATERIALS, "conductor material")] = None
    insulation: str | None = None
    size: str | None = None
    ground_size: str | None = None
    shared_ground_a: Annotated[float | None, Within(15, 400, "A", "shared ground")] = None
    """Largest other breaker whose circuit uses the same wire ground in the raceway; None for a ground of its own."""
    cable_wide_m: Annotated[float | None, Within(0.001, 0.3, "m", "cable diameter")] = None
    """Larger outside diameter of the run's cable, wanted where it passes a sleeve; None while unread [m]."""
    raceway_ground: bool = False
    """Metal raceway all the way is the ground, no wire is pulled for it."""
    copper_tail: bool = False
    """Aluminium ends in a listed splice box before the charger, and copper goes on from there."""
    compact: bool = False
    max_drop_percent: Annotated[
        float | None, Within(DROP_RANGE_PERCENT[0], DROP_RANGE_PERCENT[1], "percent", "drop limit")
    ] = None
    """Most that the branch may drop [percent]; None takes the rule book's own."""
    drop_form: Annotated[str, OneOf(DROP_FORMS, "drop formula")] = "table 8"
    extra_ccc: Annotated[int, Within(0, 100, called="other current-carrying conductors")] = 0
    others: Annotated[tuple[Bundle, ...], Many(MOST_CONDUCTORS, called="other conductors")] = ()
    others_told: bool = False
    """Whether that is all that is in the pipe beside this circuit."""
    prefer: Annotated[str, OneOf(PREFERENCES, "preference")] = "price"


class Buying(Node, frozen=True, kw_only=True):
    """How the list is bought and the work priced."""

    waste_percent: Annotated[float, Within(0, 100, "%")] = 0.0
    """Wire bought beyond its cut lengths."""
    spare_percent: Annotated[float, Within(0, 100, "%")] = 0.0
    """Fittings and fixings bought beyond what the line needs; rounded up to whole ones."""
    tax_percent: Annotated[float, Within(0, 100, "%")] = 0.0
    rate_per_h: Annotated[str | None, Amount(10000)] = None
    """Of labour; None while no labour is priced."""
    margin_percent: Annotated[float, Within(0, 500, "%")] = 0.0
    rebate_percent: Annotated[float, Within(0, 100, "%")] = 0.0
    rebate_cap: Annotated[str | None, Amount()] = None
    """Most the rebate gives; None without a cap."""


class LocalRules(Node, frozen=True, kw_only=True):
    """What the local authority changes; shown beside the clause it changes."""

    drop_mandatory: bool = False
    garage_hardwired_gfci: bool = True
    gfci: Annotated[str, OneOf(GFCI_READINGS, "ground-fault reading")] = "edition"
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
    melted: bool = False
    """The outlet's face or the plug's blades."""
    breaker: Annotated[str | None, OneOf(("plain", "gfci"), "existing breaker")] = None
    """The breaker that is there: ``plain`` or ``gfci``; None where none is."""
    double_tap: bool = False
    loose: bool = False


class Overrule(Node, frozen=True, kw_only=True):
    """A finding the user set aside, with the reason that prints."""

    finding: Annotated[str, Text(200)]
    reason: str


class Seen(Node, frozen=True, kw_only=True):
    """A note that somebody has seen, as it stood then."""

    finding: Annotated[str, Text(200)]
    text: str
    by: Annotated[str, Text(60)]


class Run(Node, frozen=True, kw_only=True):
    """What belongs to one circuit, from the panel to its charger; all else belongs to the property."""

    charger: Charger = Charger()
    circuit: Circuit = Circuit()
    legs: Annotated[tuple[Leg, ...], Many(MOST_LEGS, called="legs")] = ()
    makeup: MakeUp = MakeUp()
    overrules: tuple[Overrule, ...] = ()
    seen: tuple[Seen, ...] = ()
    build: Build = Build()
    prove: Prove = Prove()


RUN_FIELDS: Final = tuple(name for name in Run.__struct_fields__ if name != "extra")


class Job(Node, frozen=True, kw_only=True):
    """A property and the circuit of a charger on it."""

    id: str
    name: str = NEW_NAME
    note: Annotated[str, Text(LONGEST_NOTE)] = ""
    made_up: bool = False
    """Whether its readings and facts are invented, as in the demo: every test it prints says so."""
    units: Annotated[str, OneOf(("ft", "m"), "units")] = "ft"
    code: Annotated[str, OneOf(CODES, "rule book (code)")] = NEWEST
    occupancy: Annotated[str, OneOf(OCCUPANCIES, "occupancy")] = "dwelling"
    currency: Annotated[str, Text(8, called="currency")] = "$"
    supply: Supply = Supply()
    need: Need = Need()
    boards: Annotated[tuple[Board, ...], Many(MOST_BOARDS, called="panels")] = ()
    loads: Annotated[tuple[Load, ...], Many(MOST_LOADS, called="loads")] = ()
    demand: Demand = Demand()
    dead_front: DeadFront = DeadFront()
    meter: Meter | None = None
    site: Site = Site()
    run: Annotated[Run, Unnamed()] = Run()
    buying: Buying = Buying()
    local: LocalRules = LocalRules()
    existing: Existing = Existing()
    papers: Papers = Papers()
    # msgspec gives every job dictionaries of its own.
    prices: Annotated[dict[str, str], Keyed(key=PartKey(True), value=Amount(), called="price")] = {}  # noqa: RUF012
    """By key of the part; ``key@100`` is a pack of 100."""
    price_notes: Annotated[dict[str, str], Keyed(key=PartKey(True), value=Text(), called="note on the price")] = {}  # noqa: RUF012
    """Date and place of a price, as typed."""
    hours: Annotated[dict[str, str], Keyed(value=Amount(100_000), called="hours")] = {}  # noqa: RUF012
    """The user's own hours by kind of part."""
    stock: Annotated[dict[str, str], Keyed(value=Amount(100_000), called="stock")] = {}  # noqa: RUF012
    """On the shelf already, by key."""
    delivered: Annotated[dict[str, str], Keyed(value=Amount(100_000), called="came")] = {}  # noqa: RUF012
    """What came, by key."""
    paid: Annotated[dict[str, str], Keyed(value=Amount(), called="paid")] = {}  # noqa: RUF012
    """What a line really cost, by key."""
    gone: Annotated[tuple[str, ...], Many(each=PartKey(True), called="parts that are gone")] = ()
    """Parts that are not to be had, by key."""
    guessed: tuple[str, ...] = ()
    """Paths that a quick quote assumed; each wears the dashed ring until the user confirms it."""

    @property
    def charger(self) -> Charger:
        """The run's charger."""
        return self.run.charger

    @property
    def circuit(self) -> Circuit:
        """The run's circuit, as far as it is pinned."""
        return self.run.circuit

    @property
    def legs(self) -> tuple[Leg, ...]:
        """The run's legs."""
        return self.run.legs

    @property
    def makeup(self) -> MakeUp:
        """Tails and loops of the run."""
        return self.run.makeup

    @property
    def overrules(self) -> tuple[Overrule, ...]:
        """Findings about the run that were set aside."""
        return self.run.overrules

    @property
    def seen(self) -> tuple[Seen, ...]:
        """Notes about the run that somebody has seen."""
        return self.run.seen

    @property
    def build(self) -> Build:
        """How far the run is built."""
        return self.run.build

    @property
    def prove(self) -> Prove:
        """The run's log."""
        return self.run.prove

    def with_run(self, **fields: Any) -> "Job":
        """The same property with other values in its run."""
        return msgspec.structs.replace(self, run=msgspec.structs.replace(self.run, **fields))


def new_job(name: str = NEW_NAME, **fields: Any) -> Job:
    """An empty job with an id of its own; the fields of its run may be given beside its own."""
    run = Run(**{name: fields.pop(name) for name in RUN_FIELDS if name in fields})
    return Job(id=os.urandom(16).hex(), name=name, run=run, **fields)
