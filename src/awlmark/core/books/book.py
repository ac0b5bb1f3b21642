"""What a rule book answers to the engine, the stages and the drawings: data, and rules as callables.

A book is put together of parts, one a stage (:mod:`awlmark.core.books.rules`). No stage may ask which book it is.
"""

from __future__ import annotations

from collections.abc import Callable

import msgspec
import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books.rules import BuildRules, CircuitRules, Goods, PanelRules, PlaceRules, ProveRules, RunRules
from awlmark.core.books.words import Words
from awlmark.core.job.model import SETTINGS_A, Job
from awlmark.core.quantities import GALLON_L, read_gauge, read_trade_size

LINE, NEUTRAL, EARTH = "line", "neutral", "earth"
"""Roles of a conductor."""
YES, LISTED, NO = "yes", "listed", "no"
"""Whether a method may run somewhere: listed for it only, or not at all."""


class Bending(msgspec.Struct, frozen=True, eq=False):
    """How a raceway is bent, joined and cut, by trade size."""

    radius_m: dict[str, tuple[float, float]]
    """Least radius to the centre line: in a shoe, and otherwise [m]."""
    bender_m: dict[str, tuple[float, float]]
    """Take-up and gain of a 90, where a hand bender is made [m]."""
    factors: tuple[tuple[float, float, float], ...]
    """Angle [degrees], multiplier, and shrink over the height, as benders print them."""
    takes_m: dict[str, tuple[float, float]]
    """Straight part at each end of a bought elbow, and a conduit body from its corner to its hub [m]."""
    outside_m: dict[str, float]
    """Outside diameter of the raceway [m]."""


class Method(msgspec.Struct, frozen=True, eq=False):
    """One wiring method: its traits, and its own clauses (without the book's title)."""

    key: str
    name: str
    cable: bool
    raceway: int
    support: str
    metal: bool
    factor_c: int | None
    limit_c: int | None
    insulated_c: int | None
    """Column it may not pass in thermal insulation [degC]."""
    largest: str
    """Largest copper size its article lets it be made in; empty where it names none."""
    aluminium: bool
    solid_to: str
    outdoors: str
    buried: str
    hottest_c: float | None
    place_cite: str
    ampacity_cite: str
    bend_cite: str
    flexible: bool
    """Whether it comes in coils and is bent as it lies: no sticks, elbows or couplings."""
    soft: bool
    """Whether a nail gets through it."""
    hit_cite: str
    """Clause by which it may not be where it can be hit; empty for what a blow does not get through."""
    guards_riser: bool
    """Whether it guards what comes out of the ground where it can be hit."""
    joint: str
    """``glued``, ``threaded``, ``screwed``, or empty."""
    bends: str
    """How it is bent by hand: ``shoe``, ``heat``, or empty."""
    grows: bool
    """Whether warmth lengthens it so that it wants expansion fittings."""
    ground_path: bool
    """Whether it may be the equipment ground."""
    around: str
    """What lies round the wires: ``steel``, ``al``, ``pvc``."""
    sun: bool
    """Whether it stands the sun without a marking."""
    screw_proof: bool
    """Whether roof screws do not get through it."""
    rusts: bool
    """Whether it rusts in the earth."""
    cover_group: str
    """Its group in the table of covers."""
    nipple: str
    """What passes a wall with it: ``steel``, ``PVC``, or empty."""
    family: str
    """Raceways of one family are joined by a coupling."""
    bushed: bool
    """Whether its armour is cut under an insulating bushing."""
    stronger: str
    alternative: str
    """Methods offered in its place: where it can be hit, and where it is not to be had."""
    chip: int
    compared: int
    """Its place among the methods that are offered at a click, and compared; nought for none."""

    stick_m: float
    """Length that its sticks come in [m]; nought for what comes in coils."""
    bending: Bending
    cable_kind: str = ""
    """Cable it is run in, where several methods run the same; empty for one of its own."""
    short: str = ""
    """Its name where there is little room; empty for the whole one."""
    fastener: str = ""
    """What holds it, where that is neither a staple (of cable) nor a strap."""
    fished: str = ""
    """The clause by which it needs no support where it is fished in a finished wall; empty where it can't be."""

    @property
    def held_by(self) -> str:
        """What holds it, in a word."""
        return self.fastener or ("staple" if self.cable else "strap")

    @property
    def made_as(self) -> str:
        """What is bought for it, as the keys of parts have it."""
        return self.cable_kind or self.key

    @property
    def guards(self) -> bool:
        """Whether a blow does not get through it: rigid pipe over a cable."""
        return not self.cable and not self.flexible and not self.hit_cite


class Receptacle(msgspec.Struct, frozen=True):
    """One receptacle configuration."""

    config: str
    amps: float
    neutral: bool
    hots: int


class Conductor(msgspec.Struct, frozen=True):
    """One conductor of the circuit."""

    role: str
    """:data:`LINE`, :data:`NEUTRAL` or :data:`EARTH`."""
    letter: str
    """As it is named at terminals and on the test sheet."""
    colour: str
    """Of its insulation where it is pulled through a raceway."""


class Portable(msgspec.Struct, frozen=True):
    """Charging from an ordinary outlet by the unit that comes with a car."""

    amps: float
    volts: float
    connections: tuple[str, ...]
    """Outlets that it goes into, the one that is chosen for it first; empty where the book has none."""
    settings_a: tuple[float, ...] = SETTINGS_A
    """Charging currents that are compared with it [A]."""


class Book(msgspec.Struct, frozen=True, eq=False, kw_only=True):
    """One edition of a rule book.

    Axes: S conductor sizes (smallest first), M materials (cu, al), I insulations, R raceways, T trade sizes.
    """

    key: str
    title: str
    """The edition as people write it."""
    clauses: dict[str, str]
    """Clause of each rule in this edition."""
    systems: dict[str, complex]
    """Supply systems that this book sizes circuits for: their second line over the first, nought for one line only."""
    sizes: tuple[str, ...]
    print_size: Callable[[str], str]
    """A size with its unit: ``6 AWG``."""
    metal_mm2: Floats
    """Cross-section of the metal [mm2], shape (S,)."""
    ohm_per_km: Floats
    """Resistance of one stranded conductor to direct current at 75 C [ohm/km], shape (M, S)."""
    insulations: tuple[str, ...]
    area_mm2: Floats
    """Area of a wire with its insulation [mm2], shape (I, S); NaN where the tables are silent."""
    diameter_mm: Floats
    """Diameter of a wire with its insulation [mm], shape (I, S)."""
    compact_diameter_mm: Floats
    """The same for compact strands, shape (I, S)."""
    raceways: tuple[str, ...]
    trade_sizes: tuple[str, ...]
    bore_mm: Floats
    """Inside diameters [mm], shape (R, T); NaN where not made."""
    ratings_a: Floats
    """Standard ratings of breakers for a circuit [A]."""
    methods: dict[str, Method]
    short_methods: dict[str, str] = {}
    """Other words for a method, as they are typed."""
    usual: dict[str, str]
    """Method that is usual at a place."""
    receptacles: dict[str, Receptacle]
    portable: Portable
    cable_ground: dict[str, dict[str, str]]
    """Earth conductor by method and hot size, as cables are made."""
    read_size: Callable[[str, tuple[str, ...], str], str] = read_gauge
    """Reads a conductor size that was typed, of those known; the name of the field."""
    read_trade: Callable[[str, tuple[str, ...], str], str] = read_trade_size
    """The same for a raceway's size."""
    miles: bool = False
    """Whether roads are told in miles where lengths are metres."""
    gallon_l: float = GALLON_L
    quiet_h: Callable[[Job], tuple[tuple[float, float], ...]] = lambda _job: ()
    """Hours of a weekday in which charging waits unless the owner has waived it, from and to [h]."""
    units: str = "ft"
    """What a bare length means, and a new job is drawn in."""
    currency: str = "$"
    power_v: dict[str, float] = {}
    """By supply system, what an ampere of charging is worth [W]: volts over all lines; empty where the system's volts
    are it, and power is not typed."""
    decider: str = "your inspector decides"
    """Who has the last word."""
    asks: tuple[str, ...] = ("charger.nameplate_a", "charger.connection", "supply.service_a")
    """What the walk along a line asks before its legs, by path."""
    curves: tuple[str, ...] = ()
    """Letters of the curves that devices are made in, as they are typed before a rating."""
    words: Words = Words()
    """What things are called."""
    checked: tuple[str, ...] = ()
    """What it checks, in words."""
    left_out: tuple[str, ...] = ()
    """And what it leaves out."""
    circuit: CircuitRules
    panel: PanelRules
    place: PlaceRules
    run: RunRules
    goods: Goods
    build: BuildRules
    prove_rules: Callable[[], ProveRules]
    """Made when they are first asked for."""

    @property
    def prove(self) -> ProveRules:
        """The tests."""
        return self.prove_rules()

    def cite(self, rule: str) -> str:
        """Title and clause of a rule in this edition; the title alone where it has none of that name."""
        return f"{self.title} {self.clauses[rule]}" if rule in self.clauses else self.title

    def clause(self, rule: str) -> str:
        """Clause of a rule without the title, for a sentence."""
        return self.clauses.get(rule, self.title)

    def print_wires(self, live: int, size: str, ground: str | None) -> str:
        """The conductors of a circuit: ``2 × 6 + 1 × 10 AWG``, ``2 × 300 kcmil + 1 × 4 AWG``."""
        wire = self.print_size(size)
        if ground is None:
            return f"{live} × {wire}"
        earth = self.print_size(ground)
        alike = wire.removeprefix(size) == earth.removeprefix(ground)
        return f"{live} × {size if alike else wire} + 1 × {earth}"

    def size_index(self, size: str) -> int:
        """Position of a conductor size; -1 when the book has none such."""
        return self.sizes.index(size) if size in self.sizes else -1

    def bore(self, method: Method, trade_size: str) -> float:
        """Inside diameter of a raceway [mm]; NaN where it is not made."""
        return float(self.bore_mm[method.raceway, self.trade_sizes.index(trade_size)])

    def next_rating(self, amps: Floats) -> Floats:
        """Smallest standard rating at or above each current [A]; inf above the table."""
        at = np.searchsorted(self.ratings_a, amps - 1e-9)
        found: Floats = np.where(
            at < len(self.ratings_a), self.ratings_a[np.minimum(at, len(self.ratings_a) - 1)], np.inf
        )
        return found

    @property
    def chips(self) -> tuple[str, ...]:
        """Methods that are offered at a click, in their order."""
        found = [key for key, each in self.methods.items() if each.chip]
        return tuple(sorted(found, key=lambda key: self.methods[key].chip))

    @property
    def compared(self) -> tuple[str, ...]:
        """Methods that are compared, in their order."""
        found = [key for key, each in self.methods.items() if each.compared]
        return tuple(sorted(found, key=lambda key: self.methods[key].compared))

    def trade_sizes_of(self, method: Method) -> tuple[str, ...]:
        """Trade sizes a raceway is made in."""
        made = np.isfinite(self.bore_mm[method.raceway])
        return tuple(size for size, is_made in zip(self.trade_sizes, made, strict=True) if is_made)
