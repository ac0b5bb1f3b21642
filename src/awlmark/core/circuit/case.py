"""What the checks look at: the job with its line walked, and the table of candidate circuits.

A *group* shares everything that the size of the conductor follows from (charging current, breaker, material,
insulation); a *row* is a group with one hot size. Axes: G groups, N rows, S sizes of the book, Z sections of the run.
"""

from __future__ import annotations

from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats, Ints
from awlmark.core.books import Book
from awlmark.core.books.nec.edition import COLUMNS_C, MORE, NIPPLE, ONE, TWO, Receptacle
from awlmark.core.errors import InputError
from awlmark.core.job.leg import Bundle
from awlmark.core.job.model import MATERIALS, Job
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.quantities import FOOT_M
from awlmark.core.run.line import ROOF_ADDER_C, Line, Section

CONTINUOUS: Final = 1.25
"""Charging is a continuous load (625.42): conductors and breaker carry 125 % of it."""
SMALLEST_BREAKER_A: Final = 15.0
CONNECTIONS: Final = ("hardwired", "5-15", "5-20", "6-15", "6-20", "6-30", "6-50", "14-30", "14-50", "14-60")
DEFAULT_INSULATION: Final = {"cu": "thwn-2", "al": "xhhw-2"}
DEFAULT_TERMINAL_C: Final = 75
LARGE_CIRCUIT_A: Final = 100.0
"""Circuits above this take the 75 C column without a marking (110.14(C)(1)(b))."""


SHORT_M: Final = 10 * FOOT_M
"""No longer part of a run may be left out of its ampacity, 310.14(A)(2) exception."""


class Case(msgspec.Struct, frozen=True, eq=False):
    """A job made ready for the checks."""

    job: Job
    book: Book
    line: Line
    charge_a: float
    """Charging current that counts: the nameplate, or a lower restricted setting (625.42) [A]."""
    receptacle: Receptacle | None
    hots: int
    neutral: bool
    volts: float
    """Between the conductors that carry the charging current [V]."""
    raceway_ground: bool
    """Whether the raceway is the ground: asked for, and metal all the way (250.118)."""
    conductors: int
    """Conductors of this circuit in one raceway, its wire ground among them."""
    short: bool
    """Whether a section is short enough to be left out of the ampacity."""

    @property
    def sections(self) -> tuple[Section, ...]:
        """Sections of the run."""
        return self.line.sections

    @property
    def current_carrying(self) -> int:
        """Conductors in one raceway that count for adjustment."""
        own = 2 + (self.neutral and self.hots == 2 and self.job.supply.system == "120/208")
        circuit = self.job.circuit
        return own + circuit.extra_ccc + sum(bundle.current_carrying for bundle in circuit.others)

    def ambient_c(self, section: Section, insulation: str) -> float | None:
        """Temperature the correction factor of a section is taken at [degC]; None where it has to be read."""
        if section.ambient_c is None:
            return None
        exempt = insulation == "xhhw-2" and not section.method.cable
        return section.ambient_c + (ROOF_ADDER_C if section.roof and not exempt else 0.0)

    def fill_column(self, section: Section) -> int:
        """Column of Chapter 9 Table 4 that limits a section."""
        if section.nipple:
            return NIPPLE
        count = self.conductors + sum(bundle.count for bundle in self.job.circuit.others)
        return {1: ONE, 2: TWO}.get(count, MORE)


class Table(msgspec.Struct, frozen=True, eq=False):
    """Candidate circuits, one a row."""

    case: Case
    breaker_a: Floats
    """Shape (G,) [A]; inf when the standard ratings end below the need."""
    material: Ints
    insulation: Ints
    group: Ints
    """Group of each row, shape (N,)."""
    hot: Ints
    """Index of the hot size of each row, shape (N,)."""


def open_case(job: Job, book: Book, line: Line) -> Case:
    """Make a job ready for the checks.

    Raises
    ------
    InputError
        For a connection, size, insulation, method or trade size that the book does not have, or a metal that a
        cable of the run is not offered in.
    """
    check_book_values(job, book)
    charger, (between, to_neutral) = job.charger, SYSTEMS[job.supply.system]
    receptacle = book.receptacles[charger.connection] if charger.connection != "hardwired" else None
    hots = receptacle.hots if receptacle else 2
    lowered = charger.setting_a is not None and charger.setting_restricted and charger.connection == "hardwired"
    charge = charger.nameplate_a or 0.0
    if lowered and charger.setting_a is not None:
        charge = min(charge, charger.setting_a) if charge else charger.setting_a
    metal = bool(line.sections) and all(section.method.ground_path for section in line.sections)
    bonded = job.circuit.raceway_ground and metal
    neutral = receptacle.neutral if receptacle else False
    return Case(
        job=job,
        book=book,
        line=line,
        charge_a=charge,
        receptacle=receptacle,
        hots=hots,
        neutral=neutral,
        volts=between if hots == 2 else to_neutral,
        raceway_ground=bonded,
        conductors=hots + neutral + (not bonded),
        short=any(section.length_m <= SHORT_M + 1e-9 for section in line.sections),
    )


def check_book_values(job: Job, book: Book) -> None:
    """Refuse names and sizes that the open book does not have.

    Raises
    ------
    InputError
        Naming the field and what the book has.
    """
    circuit = job.circuit
    _one_of("connection", job.charger.connection, CONNECTIONS)
    _one_of("conductor size", circuit.size, book.sizes)
    _one_of("ground size", circuit.ground_size, book.sizes)
    lugs = ("panel", job.supply.lug), ("charger", job.charger.lug), ("disconnect", job.charger.disconnect_lug)
    for end, lug in lugs:
        _one_of(f"{end} lug, smallest", lug.least, book.sizes)
        _one_of(f"{end} lug, largest", lug.most, book.sizes)
    _one_of("least ground (local)", job.local.least_ground, book.sizes)
    _one_of("least raceway (local)", job.local.least_raceway, book.trade_sizes)
    _one_of("insulation", circuit.insulation, book.insulations)
    if circuit.breaker_a is not None and circuit.breaker_a not in book.ratings_a:
        ratings = ", ".join(f"{rating:g}" for rating in book.ratings_a)
        raise InputError("breaker", f"{circuit.breaker_a:g} A is no standard rating.", f"one of {ratings}")
    for knockout in job.dead_front.knockouts:
        _one_of(f"knockout {knockout.id} size", knockout.trade_size, book.trade_sizes)
    for board in job.boards:
        _one_of(f"{board.name} feeder size", board.feeder_size, book.sizes)
        _one_of(f"{board.name} feeder ground", board.feeder_ground, book.sizes)
    _one_of("leads of the unit", job.charger.pigtail, book.sizes)
    _check_bundles("other conductors", circuit.others, book)
    for number, leg in enumerate(job.legs, 1):
        _check_bundles(f"leg {number} other wires of the box", leg.box_others, book)
        _one_of(f"leg {number} wire of the device", leg.box_device, book.sizes)
        if leg.method is None and leg.trade_size is None and leg.sleeve is None:
            continue
        _one_of(f"leg {number} method", leg.method, tuple(book.methods))
        method = book.methods.get(leg.method or "")
        if method and not method.aluminium and circuit.material == "al":
            raise InputError(
                "conductor material", f"Aluminium {method.name} is not offered.", f"cu with {method.name}, or a raceway"
            )
        if method and not method.cable:
            _one_of(f"leg {number} trade size", leg.trade_size, book.trade_sizes_of(method))
        elif leg.trade_size is not None:
            _one_of(f"leg {number} trade size", leg.trade_size, book.trade_sizes)
        if leg.sleeve is not None:
            pipes = tuple(key for key, method in book.methods.items() if not method.cable)
            _one_of(f"leg {number} sleeve", leg.sleeve, pipes)
            _one_of(f"leg {number} sleeve size", leg.sleeve_size, book.trade_sizes_of(book.methods[leg.sleeve]))


def _check_bundles(field: str, bundles: tuple[Bundle, ...], book: Book) -> None:
    for bundle in bundles:
        if bundle.diameter_m is None:
            _one_of(f"{field}, size", bundle.size, book.sizes)
            _one_of(f"{field}, insulation", bundle.insulation, book.insulations)


def _one_of(field: str, value: str | None, known: tuple[str, ...]) -> None:
    if value is not None and value not in known:
        raise InputError(field, f"Can't use '{value[:60]}'.", "one of " + ", ".join(known))


def span(case: Case, materials: tuple[str, ...] | None = None) -> Table:
    """Span the open decisions over what the job allows.

    Parameters
    ----------
    case : Case
        With a charging current.
    materials : tuple of str, optional
        Metals to span when the job leaves the metal open; copper alone by default.

    Returns
    -------
    Table
        One group a (material, breaker), every size that the run's cables are made in, or the pinned one.
    """
    job, book = case.job, case.book
    circuit = job.circuit
    metals = (circuit.material,) if circuit.material else materials or ("cu",)
    need = np.array([max(CONTINUOUS * case.charge_a, SMALLEST_BREAKER_A)])
    breaker = circuit.breaker_a if circuit.breaker_a is not None else float(book.next_rating(need)[0])
    material = np.array([MATERIALS.index(metal) for metal in metals])
    insulation = np.array([book.insulations.index(circuit.insulation or DEFAULT_INSULATION[metal]) for metal in metals])
    hots = [np.arange(len(book.sizes)) for _ in metals]
    if circuit.size is not None:
        hots = [np.array([book.size_index(circuit.size)]) for _ in metals]
    else:
        made = _made_in_cable(case)
        known = [
            made & _fits_judged(case, int(metal), int(kind)) for metal, kind in zip(material, insulation, strict=True)
        ]
        hots = [sizes[(good if good.any() else made)[sizes]] for sizes, good in zip(hots, known, strict=True)]
    return Table(
        case=case,
        breaker_a=np.full(len(metals), breaker),
        material=material,
        insulation=insulation,
        group=np.repeat(np.arange(len(metals)), [len(sizes) for sizes in hots]),
        hot=np.concatenate(hots),
    )


def _fits_judged(case: Case, material: int, insulation: int) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
    """Sizes whose fill can be judged, shape (S,); none when the load needs larger ones than the dimension table has.

    An open size is not taken from where Table 5 is silent while a size that can be judged carries the load.
    """
    book = case.book
    if not any(not section.method.cable for section in case.sections):
        return np.ones(len(book.sizes), dtype=bool)
    judged: np.ndarray[tuple[int], np.dtype[np.bool_]] = ~np.isnan(book.area_mm2[insulation])
    carried = book.ampacity_a[material, COLUMNS_C.index(DEFAULT_TERMINAL_C)]
    enough = carried[judged].max(initial=0.0) >= CONTINUOUS * case.charge_a
    return judged if enough else np.zeros_like(judged)


def _made_in_cable(case: Case) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
    """Which sizes every cable of the run is made in, shape (S,); all of them where the tables are silent."""
    made = np.ones(len(case.book.sizes), dtype=bool)
    for section in case.sections:
        grounds = case.book.cable_ground.get(section.method.key)
        if grounds is not None:
            made &= np.array([size in grounds for size in case.book.sizes])
    return made if made.any() else np.ones_like(made)
