"""The job as one immutable tree of plain structs.

Every design decision is either open (``None``) or pinned by the user. Lengths are metres, temperatures degrees
Celsius, sizes text, money decimal text. ``extra`` keeps what a newer or foreign writer put there.
"""

from __future__ import annotations

import math
import os
from typing import Any, Final

import msgspec

from awlmark.core.errors import InputError
from awlmark.core.quantities import LONGEST_M, read_money

EDITIONS: Final = ("nec-2017", "nec-2020", "nec-2023")
SYSTEMS: Final = {"120/240": (240.0, 120.0), "120/208": (208.0, 120.0)}
"""Supply systems: volts between the two legs, volts from a leg to neutral."""
DIRECTIONS: Final = ("up", "down", "left", "right", "out", "in", "through", "trench")
ENDS: Final = ("bend", "corner", "box", "body", "pull elbow", "post", "charger")
PULL_POINTS: Final = ("box", "body", "pull elbow", "charger")
PLACES: Final = ("indoor", "garage", "attic", "crawl", "outdoor", "roof", "buried")
MATERIALS: Final = ("cu", "al")
OCCUPANCIES: Final = ("dwelling", "other")
PREFERENCES: Final = ("price", "easy pull", "low loss")
LOAD_KINDS: Final = ("fixed", "range", "dryer", "heat", "heat 4+", "heat pump", "cooling", "motor", "general")
DEMAND_METHODS: Final = ("standard", "optional", "existing", "measured")
MOST_BOARDS: Final = 20
MOST_LOADS: Final = 200
MOST_SPACES: Final = 84
SHARINGS: Final = ("half", "turns", "managed")
PORTS: Final = ("front left", "front right", "front", "left", "right", "rear left", "rear right", "rear")
MOST_CARS: Final = 2
CHARGE_RANGE_A: Final = (1.0, 320.0)
DROP_RANGE_PERCENT: Final = (0.1, 20.0)
MOST_LEGS: Final = 1000
MOST_CONDUCTORS: Final = 100


class Node(msgspec.Struct, frozen=True, kw_only=True, omit_defaults=False):
    """Base of every struct in the document."""

    extra: dict[str, Any] = {}


class Charger(Node, frozen=True, kw_only=True):
    """The charging unit and how it is connected."""

    nameplate_a: float | None = None
    setting_a: float | None = None
    setting_restricted: bool = False
    connection: str = "hardwired"
    terminal_c: int | None = None


class Supply(Node, frozen=True, kw_only=True):
    """Where the circuit starts."""

    system: str = "120/240"
    service_a: float | None = None
    panel_name: str = "Panel"
    panel_top_m: float = 1.524
    place: str = "indoor"
    terminal_c: int | None = None
    board: str = ""
    """Board the circuit hangs on, by id; empty is the service panel."""


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


class Load(Node, frozen=True, kw_only=True):
    """Something else that draws, as its plate says."""

    id: str
    name: str
    va: float
    kind: str = "fixed"
    count: int = 1
    board: str = ""


class Breaker(Node, frozen=True, kw_only=True):
    """One device in the panel; it takes ``space``, and the one below on its side when it has two poles."""

    id: str
    space: int
    name: str = ""
    rating_a: float | None = None
    poles: int = 1
    tied: bool = False
    """Two single poles with tied handles count as one two-pole device."""
    tandem: bool = False
    """Two breakers in one space; only where the panel allows it."""
    fixed: bool = False
    """Main, back-fed or otherwise not to be moved."""


class DeadFront(Node, frozen=True, kw_only=True):
    """Spaces of the panel, odd numbers left and even ones right, and what is in them."""

    spaces: int = 0
    """0 while nobody has counted them."""
    tandem_from: int | None = None
    """Lowest space that takes tandems; None where the panel takes none."""
    breakers: tuple[Breaker, ...] = ()


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
    compact: bool = False
    max_drop_percent: float = 3.0
    extra_ccc: int = 0
    others: tuple[Bundle, ...] = ()
    prefer: str = "price"


class Leg(Node, frozen=True, kw_only=True):
    """One straight reading of the tape, and what stands at its end."""

    id: str
    direction: str
    length_m: float
    end: str = "bend"
    place: str | None = None
    method: str | None = None
    trade_size: str | None = None
    ambient_c: float | None = None
    cover_m: float | None = None
    wall: str = ""


class Car(Node, frozen=True, kw_only=True):
    """One vehicle and its week."""

    id: str
    name: str = "Car"
    battery_kwh: float = 60.0
    use_kwh_per_km: float = 0.18
    onboard_kw: float | None = None
    """Most its own charger takes; None while unread."""
    level_percent: float = 50.0
    port: str = "front left"
    km: tuple[float, ...] = (50.0,) * 7
    """Driven each weekday, Monday first [km]."""
    arrive_h: float = 18.0
    leave_h: float = 7.0
    """Plugged in from, and away again by, hour of the day."""


class PriceWindow(Node, frozen=True, kw_only=True):
    """Hours of the day with a price of their own; may pass midnight."""

    from_h: float
    to_h: float
    price: str


class Need(Node, frozen=True, kw_only=True):
    """How much driving the charger has to fill up again."""

    cars: tuple[Car, ...] = ()
    sharing: str = "managed"
    """How two cars use one circuit: ``half`` each, ``turns`` one after the other, ``managed`` what the other leaves."""
    cold_factor: float = 1.0
    """What driving takes in December to February, as a multiple."""
    efficiency: float = 0.90
    """Share of the energy drawn that reaches the battery; common practice."""
    price: str = "0.15"
    windows: tuple[PriceWindow, ...] = ()


class MakeUp(Node, frozen=True, kw_only=True):
    """Wire left beyond the tape so that it can be landed."""

    panel_tail_m: float = 1.2192
    unit_tail_m: float = 0.4572
    box_loop_m: float = 0.3048


class LocalRules(Node, frozen=True, kw_only=True):
    """What the local authority changes; shown beside the clause it changes."""

    drop_mandatory: bool = False
    garage_hardwired_gfci: bool = True


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
    legs: tuple[Leg, ...] = ()
    makeup: MakeUp = MakeUp()
    local: LocalRules = LocalRules()
    prices: dict[str, str] = {}
    overrules: tuple[Overrule, ...] = ()
    guessed: tuple[str, ...] = ()
    """Paths that a quick quote assumed; each wears the dashed ring until the user confirms it."""


def new_job(name: str = "New job", **fields: Any) -> Job:
    """An empty job with an id of its own."""
    return Job(id=os.urandom(16).hex(), name=name, **fields)


def _choice(field: str, value: str | None, known: tuple[str, ...] | dict[str, Any]) -> None:
    if value is not None and value not in known:
        raise InputError(field, f"Can't use '{value[:60]}'.", "one of " + ", ".join(known))


def _within(field: str, value: float | None, low: float, high: float, unit: str) -> None:
    if value is not None and not (math.isfinite(value) and low <= value <= high):
        raise InputError(field, f"{value:g} is out of reach.", f"{low:g} to {high:g} {unit}")


def _check_need(need: Need) -> None:
    if len(need.cars) > MOST_CARS:
        raise InputError("cars", f"{len(need.cars)} cars are too many for one circuit.", f"up to {MOST_CARS}")
    if len({car.id for car in need.cars}) != len(need.cars):
        raise InputError("cars", "Two cars carry the same id.", "an id of its own for every car")
    _choice("sharing", need.sharing, SHARINGS)
    _within("cold factor", need.cold_factor, 1.0, 3.0, "times")
    _within("charging efficiency", need.efficiency, 0.5, 1.0, "(share)")
    for price in (need.price, *(window.price for window in need.windows)):
        read_money(price, "energy price")
    for window in need.windows:
        _within("price window", window.from_h, 0, 24, "h")
        _within("price window", window.to_h, 0, 24, "h")
    for car in need.cars:
        name = car.name
        _choice(f"{name} port", car.port, PORTS)
        _within(f"{name} battery", car.battery_kwh, 1, 1000, "kWh")
        _within(f"{name} use", car.use_kwh_per_km, 0.02, 3, "kWh/km")
        _within(f"{name} on-board charger", car.onboard_kw, 0.5, 50, "kW")
        _within(f"{name} level", car.level_percent, 0, 100, "%")
        _within(f"{name} arrival", car.arrive_h, 0, 24, "h")
        _within(f"{name} leaving", car.leave_h, 0, 24, "h")
        if len(car.km) != 7:
            raise InputError(f"{name} week", f"{len(car.km)} days make no week.", "seven distances, Monday first")
        for day in car.km:
            _within(f"{name} distance", day, 0, 2000, "km")


def _check_supply(job: Job) -> None:
    """Boards form a tree under the service; loads and the circuit hang on boards that exist."""
    if len(job.boards) > MOST_BOARDS or len(job.loads) > MOST_LOADS:
        raise InputError("panels", "More boards or loads than a job holds.", f"up to {MOST_BOARDS} and {MOST_LOADS}")
    feeds = {board.id: board.fed_by for board in job.boards}
    if len(feeds) != len(job.boards) or "" in feeds or len({load.id for load in job.loads}) != len(job.loads):
        raise InputError("panels", "Two boards or loads carry the same id.", "an id of its own for each")
    for name, at in (("circuit", job.supply.board), *((load.name, load.board) for load in job.loads)):
        if at and at not in feeds:
            raise InputError(f"{name} panel", f"There is no panel '{at[:40]}'.", ", ".join(["(service)", *feeds]))
    for board in job.boards:
        seen, at = {board.id}, board.fed_by
        while at:
            if at in seen or at not in feeds:
                raise InputError(
                    f"{board.name} feed", "Its feed leads nowhere or in a ring.", "a panel nearer the service"
                )
            seen.add(at)
            at = feeds[at]
        _within(f"{board.name} feeder", board.feeder_a, 15, 4000, "A")
        _within(f"{board.name} feeder length", board.feeder_length_m, 0.01, LONGEST_M, "m")
        _choice(f"{board.name} feeder metal", board.feeder_material, MATERIALS)
    for load in job.loads:
        _choice(f"{load.name} kind", load.kind, LOAD_KINDS)
        _within(f"{load.name} load", load.va, 1, 1e6, "VA")
        _within(f"{load.name} count", load.count, 1, 50, "of them")
    _check_dead_front(job.dead_front)
    demand = job.demand
    _choice("demand method", demand.method, DEMAND_METHODS)
    _within("floor area", demand.floor_m2, 1, 5000, "m2")
    _within("small-appliance circuits", demand.small_appliance, 0, 20, "circuits")
    _within("laundry circuits", demand.laundry, 0, 10, "circuits")
    _within("measured demand", demand.measured_a, 0, 4000, "A")


def _check_dead_front(front: DeadFront) -> None:
    """No two devices in one space, none outside the panel, tandems only where it takes them."""
    if front.spaces not in range(MOST_SPACES + 1) or front.spaces % 2:
        raise InputError("spaces", f"{front.spaces} spaces make no panel.", f"an even number up to {MOST_SPACES}")
    taken: dict[int, str] = {}
    for breaker in front.breakers:
        name = breaker.name or f"breaker in space {breaker.space}"
        if breaker.poles not in (1, 2):
            raise InputError(name, f"{breaker.poles} poles fit no space here.", "1 or 2")
        if breaker.tandem and (breaker.poles == 2 or breaker.tied):
            raise InputError(name, "A tandem takes one space.", "one pole and tandem, or two poles")
        if breaker.tandem and (front.tandem_from is None or breaker.space < front.tandem_from):
            raise InputError(name, f"Space {breaker.space} takes no tandem.", "a space that the panel's label allows")
        _within(f"{name} rating", breaker.rating_a, 5, 400, "A")
        for space in (breaker.space, breaker.space + 2)[: 2 if breaker.tied else breaker.poles]:
            if not 1 <= space <= front.spaces:
                raise InputError(name, f"There is no space {space}.", f"1 to {front.spaces}")
            if space in taken:
                raise InputError(name, f"Space {space} is taken by {taken[space]}.", "a free space")
            taken[space] = name


def check_values(job: Job) -> Job:
    """Refuse values that no job can hold, naming the field; returns the job unchanged.

    Raises
    ------
    InputError
        For the first value out of range. Sizes against the tables are checked where the book is open.
    """
    _choice("rule book (code)", job.code, EDITIONS)
    _choice("units", job.units, ("ft", "m"))
    _choice("occupancy", job.occupancy, OCCUPANCIES)
    _choice("supply system", job.supply.system, SYSTEMS)
    _choice("panel place", job.supply.place, PLACES)
    _within("service rating", job.supply.service_a, 15, 4000, "A")
    _within("panel top height", job.supply.panel_top_m, 0, 10, "m")
    _within("charger nameplate", job.charger.nameplate_a, *CHARGE_RANGE_A, "A")
    _within("charger setting", job.charger.setting_a, *CHARGE_RANGE_A, "A")
    for field, value in (("charger terminals", job.charger.terminal_c), ("panel terminals", job.supply.terminal_c)):
        if value not in (None, 60, 75):
            raise InputError(field, f"{value} C is no terminal marking here.", "60 or 75")
    _check_need(job.need)
    _check_supply(job)
    circuit = job.circuit
    _within("breaker", circuit.breaker_a, 15, 400, "A")
    _choice("conductor material", circuit.material, MATERIALS)
    _choice("preference", circuit.prefer, PREFERENCES)
    _within("drop limit", circuit.max_drop_percent, *DROP_RANGE_PERCENT, "percent")
    _within("extra current-carrying conductors", circuit.extra_ccc, 0, MOST_CONDUCTORS, "conductors")
    for bundle in circuit.others:
        _within("other conductors", bundle.count, 1, MOST_CONDUCTORS, "conductors")
        _within("other conductors, cable diameter", bundle.diameter_m, 0.001, 0.15, "m")
    _within("panel tail", job.makeup.panel_tail_m, 0, 10, "m")
    _within("charger tail", job.makeup.unit_tail_m, 0, 10, "m")
    _within("box loop", job.makeup.box_loop_m, 0, 10, "m")
    if len(job.legs) > MOST_LEGS:
        raise InputError("legs", f"{len(job.legs)} legs are too many.", f"up to {MOST_LEGS}")
    if len({leg.id for leg in job.legs}) != len(job.legs):
        raise InputError("legs", "Two legs carry the same id.", "an id of its own for every leg")
    for number, leg in enumerate(job.legs, 1):
        name = f"leg {number}"
        _choice(f"{name} direction", leg.direction, DIRECTIONS)
        _choice(f"{name} end", leg.end, ENDS)
        _choice(f"{name} place", leg.place, PLACES)
        _within(f"{name} length", leg.length_m, 1e-4, LONGEST_M, "m")
        _within(f"{name} ambient", leg.ambient_c, -60, 85, "C")
        _within(f"{name} cover", leg.cover_m, 0, 10, "m")
    return job
