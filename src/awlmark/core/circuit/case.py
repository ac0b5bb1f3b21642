"""What the checks look at: the job with its line walked, and the table of candidate circuits.

A *group* shares everything that the size of the conductor follows from (charging current, breaker, material,
insulation); a *row* is a group with one hot size. Axes: G groups, N rows, S sizes of the book, Z sections of the run,
T trade sizes.
"""

from __future__ import annotations

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.books import Book
from awlmark.core.books.book import Conductor, Receptacle
from awlmark.core.errors import InputError
from awlmark.core.job.leg import Bundle
from awlmark.core.job.model import MATERIALS, Job
from awlmark.core.run.line import Line, Section


class Case(msgspec.Struct, frozen=True, eq=False):
    """A job made ready for the checks."""

    job: Job
    book: Book
    line: Line
    charge_a: float
    """Charging current that counts: the nameplate, or a lower setting that nobody can raise [A]."""
    receptacle: Receptacle | None
    wires: tuple[Conductor, ...]
    """Conductors of this circuit in one raceway, its wire earth among them."""
    hots: int
    """Lines among them."""
    neutral: bool
    volts: float
    """Between the conductors that carry the charging current [V]."""
    raceway_ground: bool
    """Whether the raceway is the earth: asked for, and fit for it all the way."""
    short: bool = False
    """Whether the book's sums over sections look at their lengths."""
    least_a: float = 0.0
    """What the circuit has to carry whatever charges on it: what an outlet is made for [A]."""
    opened: int | None = None
    """Conductors that the breaker opens; None where it opens the lines alone."""

    @property
    def poles(self) -> int:
        """Poles of the breaker."""
        return self.hots if self.opened is None else self.opened

    @property
    def sections(self) -> tuple[Section, ...]:
        """Sections of the run."""
        return self.line.sections

    @property
    def conductors(self) -> int:
        """Conductors of this circuit in one raceway."""
        return len(self.wires)


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


class Work(msgspec.Struct, frozen=True, eq=False):
    """What a book worked out for a table; a book may add sums of its own."""

    column_c: tuple[int, ...]
    """Temperature that each group's conductors may reach at their ends [degC]."""
    rated_a: Floats
    """What each size carries at its ends, before the factors of its way, shape (G, S) [A]."""
    usable_a: Floats
    """And after all factors, shape (G, S) [A]; NaN where a temperature has to be read."""
    smallest: Floats
    """Index of the smallest size that is enough, shape (G,); S where none is."""
    most_breaker_a: Floats
    """Largest breaker that protects each size, shape (G, S) [A]."""
    earth: Ints
    """Size index of the earth conductor, shape (N,); -1 where it is unread."""
    trade: Ints
    """Trade size index, pinned or the smallest that fits, shape (N, Z); -1 for cable or where none fits."""
    fits: Flags
    """Whether the wires fit, shape (N, Z, T)."""


def open_case(job: Job, book: Book, line: Line) -> Case:
    """Make a job ready for the checks.

    Raises
    ------
    InputError
        For a connection, size, insulation, method or trade size that the book does not have, or a metal that a
        cable of the run is not offered in.
    """
    check_book_values(job, book)
    return book.circuit.open_case(job, book, line)


def check_book_values(job: Job, book: Book) -> None:
    """Refuse names and sizes that the open book does not have.

    Raises
    ------
    InputError
        Naming the field and what the book has.
    """
    circuit = job.circuit
    _one_of("connection", job.charger.connection, book.circuit.connections)
    _one_of("conductor material", circuit.material, book.circuit.metals)
    for end, marked in (("panel", job.supply.terminal_c), ("charger", job.charger.terminal_c)):
        _one_of(
            f"{end} terminals",
            None if marked is None else f"{marked}",
            tuple(f"{each}" for each in book.circuit.terminals_c),
        )
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


def need_a(case: Case) -> float:
    """What breaker and conductors of a case have to carry [A]."""
    return max(case.book.circuit.load_share * case.charge_a, case.least_a)


def drop_limit(case: Case) -> float:
    """Most that the branch may drop, as the job tells or the book has it [percent]."""
    told = case.job.circuit.max_drop_percent
    return case.book.circuit.drop_percent(case) if told is None else told


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
    circuit, rules = job.circuit, book.circuit
    metals = (circuit.material,) if circuit.material else materials or ("cu",)
    need = np.array([max(need_a(case), rules.least_breaker_a)])
    breaker = circuit.breaker_a if circuit.breaker_a is not None else float(book.next_rating(need)[0])
    material = np.array([MATERIALS.index(metal) for metal in metals])
    insulation = np.array([book.insulations.index(circuit.insulation or rules.insulation[metal]) for metal in metals])
    hots = [np.arange(len(book.sizes)) for _ in metals]
    if circuit.size is not None:
        hots = [np.array([book.size_index(circuit.size)]) for _ in metals]
    else:
        made = _made_in_cable(case)
        known = [
            made & rules.offered(case, int(metal), int(kind)) for metal, kind in zip(material, insulation, strict=True)
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


def _made_in_cable(case: Case) -> Flags:
    """Which sizes every cable of the run is made in, shape (S,); all of them where the tables are silent."""
    made = np.ones(len(case.book.sizes), dtype=bool)
    for section in case.sections:
        grounds = case.book.cable_ground.get(section.method.key)
        if grounds is not None:
            made &= np.array([size in grounds for size in case.book.sizes])
    return made if made.any() else np.ones_like(made)


def factory_ground(case: Case, hot: Ints) -> Ints:
    """Earth size index that the run's cables are made with, shape of ``hot``; -1 where the tables are silent."""
    book = case.book
    found = np.full(hot.shape, len(book.sizes))
    for section in case.sections:
        if section.method.cable:
            made = book.cable_ground.get(section.method.key, {})
            each = np.array([book.size_index(made.get(book.sizes[index], "")) for index in hot])
            found = np.minimum(found, each)
    return found
