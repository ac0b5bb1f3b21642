"""The parts of a rule book, one a stage: what the book is asked there.

Each is plain data and callables; whoever writes a book puts them together from functions of its own and from those of
the stages that need only its numbers. A default says nothing, so that a book may be silent about a stage.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, Any

import msgspec

from awlmark.core.arrays import Flags, Floats
from awlmark.core.job.leg import MakeUp
from awlmark.core.job.model import SETTINGS_A

if TYPE_CHECKING:
    from awlmark.core.books.book import Book, Method
    from awlmark.core.build.form import Form
    from awlmark.core.build.step import Step
    from awlmark.core.circuit.case import Case, Table, Work
    from awlmark.core.circuit.chosen_row import Teller
    from awlmark.core.circuit.cuts import Card, Chip, Cut, Face, Outline
    from awlmark.core.circuit.terms import Terms
    from awlmark.core.circuit.weakest_link import Link
    from awlmark.core.finding import Finding
    from awlmark.core.job.edit import Put
    from awlmark.core.job.floor import Pin
    from awlmark.core.job.leg import Bundle
    from awlmark.core.job.model import Job
    from awlmark.core.panel.bus import Bus, Supplied, Ways
    from awlmark.core.parts.tally import Tally
    from awlmark.core.prove.meaning import Meaning
    from awlmark.core.prove.network import CircuitNetwork, Faults, Source
    from awlmark.core.prove.planted import Planted
    from awlmark.core.prove.test import Test
    from awlmark.core.run.line import Line, Section, Walked
    from awlmark.core.solve.design import Design


def nothing(*_asked: Any) -> list[Any]:
    """The rule that says nothing."""
    return []


class Check(msgspec.Struct, frozen=True, eq=False):
    """One check over a whole table of candidate circuits."""

    id: str
    terms: Callable[[Table, Any], Terms]
    """From the table and the book's own sums on it (:class:`Along` where it looks along the line)."""
    along: bool = False
    """Whether it looks at lengths along the line: then it is worked out anew when a leg changes."""
    of_size: bool = False
    """Whether it judges a conductor's size by itself, for every size that is drawn."""
    chooses: bool = True
    """Whether what it misses speaks against a size while the size is open."""


class Bore(msgspec.Struct, frozen=True):
    """Conductors in one trade size of a raceway."""

    share_percent: float
    """Of the room that is filled; NaN where the tables are silent."""
    limit_percent: float
    severity: str
    wedges: tuple[float, float] = (0.0, 0.0)
    """Ratios of bore over wire between which three equal ones wedge."""


class CircuitRules(msgspec.Struct, frozen=True, eq=False, kw_only=True):
    """The circuit: what may be chosen, and the checks on it."""

    load_share: float
    """Of the charging current, what conductors and breaker have to carry: it is a continuous load."""
    least_breaker_a: float
    connections: tuple[str, ...]
    """Ways to connect the charger, ``hardwired`` first."""
    wired: tuple[str, ...] = ("hardwired",)
    """Those of them whose unit is wired, with no outlet of the circuit before it."""
    insulation: dict[str, str]
    """Usual insulation by metal."""
    terminals_c: tuple[int, ...]
    """Markings of terminals [degC]."""
    open_case: Callable[[Job, Book, Line], Case]
    offered: Callable[[Case, int, int], Flags]
    """Sizes that may be taken while the size is open, for a metal and an insulation, shape (S,)."""
    work: Callable[[Table], Work]
    checks: tuple[Check, ...]
    lost_v: Callable[[Table], Floats]
    """Volts lost between breaker and charger, shape (N,) [V]."""
    drop_along: Callable[[Case, int, int], list[tuple[float, float]]]
    """Percent lost along the tape for a metal and a size: places [m] and shares [percent]."""
    tell: tuple[Callable[[Teller], list[Finding]], ...]
    """One row in words, in the order of the chain."""
    free_a: Callable[[Book, int, int, int], float]
    """What a metal and a size carry in the table's air at a temperature [A]; nought where it is silent."""
    fill_limit: Callable[[Case, Section], float] = lambda *_at: 100.0
    """Share of a section's room that may be filled [percent]."""
    full_a: Callable[[Table, Any, int, int], float] = lambda _table, work, group, size: float(work.rated_a[group, size])
    """What a size of a group carries before any cut [A]."""
    metals: tuple[str, ...] = ("cu", "al")
    """Metals that conductors are sized in."""
    drop_percent: Callable[[Case], float] = lambda _case: 3.0
    """Most that the branch may drop where the job does not tell [percent]."""
    more_values: Callable[[Design, dict[str, Any]], dict[str, Any]] = lambda _design, _values: {}
    """What the command line tells beyond the common keys, or in their place."""
    more_rows: Callable[[Design], list[tuple[str, str]]] = nothing
    """The same as rows of text."""
    compared_insulations: tuple[str, ...] = ()
    """Insulations that are tried when options are compared, the usual one first."""
    quote_words: tuple[str, ...] = ()
    """Options of the command line that this book alone takes."""
    usual_place: Callable[[str], str] = lambda _method: "indoor"
    """Where a method lies in a bare quote that does not tell."""
    quote: Callable[[Job], Job] = lambda job: job
    """What a bare quote may take for granted under this book."""
    audits: dict[str, tuple[str, ...]] = {}
    """Parts of a circuit that stands, and the findings that speak of each."""
    links: Callable[[Teller], tuple[Link, ...]] = nothing  # type: ignore[assignment]
    """Every link with a rating of its own, in the order of the chain."""
    residual: Callable[[Case, float], bool] = lambda _case, _breaker_a: False
    """Whether a breaker [A] has to guard against ground faults."""
    residual_rows: Callable[[Job], list[tuple[str, ...]]] = nothing
    """That verdict as a table: edition, connection, place, up to 50 A and above it."""
    places: Callable[[Case], list[Finding]] = nothing
    """Methods that may not run where they do."""
    place_rows: Callable[[Book], list[tuple[str, ...]]] = nothing
    """Where each method may run, as a table."""
    bore: Callable[[Table, Any, int, int, int], Bore | None] = lambda *_at: None
    """Row, section, trade size."""
    cuts: Callable[[Work, int, str], str] = lambda _work, _group, _units: ""
    """What cuts a group's ampacity, in a few words."""
    fill: (
        Callable[[Book, Method, str, tuple[Bundle, ...], float | None, int], dict[str, float | bool | None]] | None
    ) = None
    """Fill of one raceway with named conductors, over a length [m] with some bends."""
    fill_raceways: dict[str, str] = {}
    """Raceways a bare fill may name, each with a method that runs in it; empty where they are the methods."""
    section_cuts: Callable[[Design], tuple[Cut, ...]] | None = None
    """Amps cut down section by section; None where the book cuts them once for the whole run."""
    cards: Callable[[Design, Section], tuple[Card, ...]] = nothing  # type: ignore[assignment]
    """Ways to run the section in hand, with what their sizes carry there, where amps are cut section by section."""
    chips: Callable[[Design], tuple[Chip, ...]] = nothing  # type: ignore[assignment]
    """The chain link by link."""
    faces: Callable[[Design], tuple[Face, ...]] = nothing  # type: ignore[assignment]
    """What else changes along the run beside the volts."""
    outline: Callable[[str, str, int, float], Outline] | None = None
    """A cable cut through, by its make, size, number of cores and the diameter of one [mm]."""
    device_label: Callable[[Job, float], str] = lambda _job, rating_a: f"breaker {rating_a:g}"
    """The protective device in a few letters, by its rating [A]."""
    settings_a: tuple[float, ...] = SETTINGS_A
    """Charging currents that units are set to [A]."""


class PanelRules(msgspec.Struct, frozen=True, eq=False, kw_only=True):
    """Service, feeders, and the panel itself."""

    buses: Callable[[Job, float, float], tuple[Bus, ...]] = nothing  # type: ignore[assignment]
    """Every bus on the way for a charging current [A] at the system's volts, the service first."""
    ways: Ways | None = None
    """Ways round a larger supply."""
    supply: tuple[Callable[[Supplied], list[Finding]], ...] = ()
    """Rules on what carries the charger."""
    balance: Callable[[Job, float, int, Book], list[Finding]] = nothing
    equipment: Callable[[Job, float, Book, str | None], list[Finding]] = nothing
    """What the panel says to a breaker [A] and to the raceway that leaves it."""
    whole_drop: Callable[[Job, tuple[Bus, ...], float, Book, float], list[Finding]] = nothing
    feeder_drop: Callable[[Job, Bus, float, Book], float | None] = lambda *_of: None
    """Drop of one feeder at the system's volts [percent]; None while its wire is not read."""
    supply_a: Callable[[Job], float | None] = lambda job: job.supply.service_a
    """What the supply as a whole may carry, as its first device says [A]; None while unread."""
    pages: tuple[tuple[str, str], ...] = (
        ("amps", "Amps on every bus"), ("spaces", "Spaces of the panel"), ("year", "A measured year"),
    )  # fmt: skip
    """Pages of the stage with their names: the demand, the board itself (``spaces`` in two columns, or a ``row`` of
    ways), a year's data."""
    shares: bool = False
    """Whether loads count by a share of diversity that is typed, and hang on no leg."""
    first_path: str = "supply.service_a"
    """Where the rating of what stands before everything else is kept."""
    managed: str = "Load management"
    new_place: Callable[[Design], tuple[int, ...]] = lambda _design: ()
    """Ways of a row that the new device goes into; none where it is not told, or there is no room."""
    continuous_extra: float = 0.0
    """Of continuous load, what counts on top on a feeder."""


class PlaceRules(msgspec.Struct, frozen=True, eq=False, kw_only=True):
    """Heights, reach and room."""

    inside_m: float = 0.0
    outside_m: float = 0.0
    """Least height of the coupling when it is put away [m]."""
    cord_m: float = float("inf")
    """A longer cord wants a device that takes it up [m]."""
    clear_m: tuple[float, float, float] = (0.0, 0.0, 0.0)
    """Free room before the panel: wide, deep, high [m]."""
    best_m: tuple[float, float] | None = None
    """Heights that serve best, where no rule names a least one [m]."""
    island_m: float = 0.0
    """Between a charger on an earth of its own and metal earthed by the supply [m]."""
    point: Callable[[Job, Pin | None, bool, float, float, Book], list[Finding]] | None = None
    """What the spot says: job, spot, whether it is inside, height of the line's end and its place on the tape [m, m];
    None for the least heights above."""


class RunRules(msgspec.Struct, frozen=True, eq=False, kw_only=True):
    """The line on its way."""

    most_bend_deg: float
    """Between pull points [degrees]."""
    support: Callable[[Method, str | None, bool], tuple[float, float, str]]
    """Farthest between supports and from an end [m], and the clause: by method, size (of a raceway its trade size, of a
    cable its conductors, ``6x3``; None where it is not known) and whether the leg stands upright."""
    air_c: float
    """Air that the ampacities are printed for [degC]."""
    nipple_m: float = 0.0
    """Longest raceway between two enclosures that counts as a nipple [m]."""
    roof_clear_m: float = 0.0
    """At this height above a roof its heat falls away [m]."""
    edge_m: float = 0.0
    """Nearer to the face of the framing than this a nail may reach [m]."""
    one_piece: bool = False
    """Whether the first cable that is named is taken for the whole line, which then goes in one piece."""
    fixings_on_tape: bool = False
    """Whether the tape shows what holds the line."""
    findings: tuple[Callable[[Job, Line, Book], list[Finding]], ...] = ()


class Goods(msgspec.Struct, frozen=True, eq=False, kw_only=True):
    """What is bought."""

    name: Callable[[str], str]
    """A price key in words."""
    counts: tuple[Callable[[Tally], None], ...]
    """What the line asks for, in the order of the list."""
    tails: MakeUp = MakeUp()
    """What is usually left beyond the tape so that it can be landed; common practice."""
    boxes: tuple[str, ...] = ()
    """Boxes that are offered, in the order of their price."""
    every_box: tuple[str, ...] = ()
    """All whose volume is known."""
    box: Callable[[Case, Walked, str, int], str] = lambda *_at: ""
    """The box to buy at the end of a leg, for a gauge and an earth conductor."""
    more_boxes: tuple[str, ...] = ()
    """Names it may give beyond these."""
    sleeve: Callable[[Book, Walked, float | None], str | None] = lambda *_at: None
    """Trade size of the sleeve over a cable leg."""
    bushing_from: str = ""
    """Smallest size whose ends in metal want an insulating throat; empty for none."""
    other_insulation: dict[str, str] = {}
    """Which insulation stands in for another."""
    forks: tuple[str, ...] = ()
    """Outlets that the line's end is compared with."""
    connection_notes: Callable[[Design, str, bool], tuple[str, ...]] = nothing  # type: ignore[assignment]
    aisles: tuple[str, ...] = ("Wire", "Raceway", "Fittings", "Boxes and outlets", "Panel", "Fixings", "Sundries")
    """Of the shop, in the order of the list."""
    aisle: Callable[[str, str], str] = lambda aisle, _key: aisle
    """Aisle of a line by the engine's own name for it and its price key."""
    hours: Callable[[], dict[str, float]] = dict
    """Hours of one person by kind of part, of what is sold by length for a metre or a foot as :attr:`Book.units`."""
    prices: Callable[[], dict[str, str]] = dict
    """Invented prices that a new job starts with, decimal text."""
    surge: Callable[[Job], bool] = lambda _job: False


class BuildRules(msgspec.Struct, frozen=True, eq=False, kw_only=True):
    """The work."""

    steps: Callable[[Design], Sequence[Step]] = nothing
    screw: Callable[[str], str] = lambda wire: f"Panel {wire}"
    """What a screw in the panel is called, by the letter of its wire."""
    torque: Callable[[str], float | None] = lambda _size: None
    """Torque where no label tells it, by size [lbf-in]."""
    torque_source: str = ""
    torque_unit: str = "lbf-in"
    """What torques are told in: ``lbf-in`` or ``N m``."""
    rests: dict[str, str] = {}
    """Sessions in their order, with what is told where one ends; empty for the usual ones."""
    nights: dict[str, str] = {}
    """Sessions after which the work may stop for the night, and what has to be so then."""
    isolate: str = "Power down"
    """The session whose steps go in their order only."""
    isolate_head: str = "Power down, then prove dead"
    stays_live: str = "Line-side lugs stay live: shield them"
    comes_back: str = "Back on: main, then branches one by one, the new one last"
    wear: str = "eye protection, gloves; arc-rated clothing for the one who proves dead"
    forms: Callable[[Design], Sequence[Form]] = nothing
    """Forms of the book's own, which print behind the test sheet."""
    labels: Callable[[Design], list[tuple[str, str]]] = nothing
    """Notices beside the usual labels: what each says, and where it goes."""
    own_hours: dict[str, float] = {}
    """Hours of steps besides their parts, by the first word of their id; empty for the usual ones."""


class ProveRules(msgspec.Struct, frozen=True, eq=False, kw_only=True):
    """The tests."""

    tests: Callable[[Design], Sequence[Test]] = nothing
    volts: Callable[[Design, Callable[[str], float | None]], list[Meaning]] = nothing
    """What volts without load mean, by reading."""
    source: Callable[[Design], Source] | None = None
    """Where the circuit is fed from; None for two legs, bonded at the bus."""
    loop: Callable[[CircuitNetwork, Test, Faults], float] = lambda _circuit, test, _faults: test.expected
    """What a loop tester shows on a test of that stage [its unit]."""
    ends: tuple[str, str] = ("panel", "charger")
    """First word of every point and of the tests at it."""
    loops: tuple[str, ...] = ("ohm 1-2", "ohm 1-N")
    """Tests of the loop of the wires that carry the load."""
    earth_loop: str = "ohm G"
    """And of the earth with one of them."""
    heads: dict[str, str] = {}
    """Titles of the kinds of test, where they are called otherwise here."""
    heat_names: dict[str, str] = {}
    """What the places of the heat tests are called, by their key, where that is another word here."""
    instruments: tuple[str, ...] = ("Meter", "Insulation tester")
    planted: tuple[Planted, ...] = ()
    """Faults of the practice bench."""
    single: dict[str, Planted | None] = {}
    """What stands in for a fault on a circuit with one line, by its key; None where there is no such fault."""
    card_amps: tuple[float, ...] = (40.0, 48.0)
    """Charging currents of the practice cards [A]."""
    mistakes: tuple[Put | None, ...] = ()
    """Made in the demo on a practice card; None leaves it as it is."""
