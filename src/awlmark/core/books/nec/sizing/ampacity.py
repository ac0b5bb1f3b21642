"""What a conductor carries: at the coolest terminal, and after heat and bundling."""

from __future__ import annotations

from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.books.nec.edition import COLUMNS_C, nec
from awlmark.core.books.nec.sizing.formulas import continuous_a, derated_ampacity_a
from awlmark.core.books.nec.sizing.opening import (
    CONTINUOUS,
    DEFAULT_TERMINAL_C,
    LARGE_CIRCUIT_A,
    SHORT_M,
    ambient_c,
    current_carrying,
)
from awlmark.core.circuit.case import Case, Table
from awlmark.core.circuit.terms import Terms


class Heat(msgspec.Struct, frozen=True):
    """Factors of one section for one insulation."""

    section: int
    column_c: int
    ambient_c: float | None
    ambient_factor: float
    """NaN where the temperature has to be read."""
    bundling_factor: float


class Carried(msgspec.Struct, frozen=True, eq=False):
    """Ampacities over groups and sizes, each shape (G, S) [A]."""

    column_c: tuple[int, ...]
    """Terminal column of each group."""
    terminal_a: Floats
    factored_a: Floats
    """NaN where a temperature has to be read."""
    heats: tuple[tuple[Heat, ...], ...]
    """Factors by group and section."""
    governing: Ints
    """Section with the lowest ampacity, shape (G, S); -1 without a run."""
    smallest: Floats
    """Index of the smallest size that terminals, heat and breaker allow, shape (G,); S where none does."""
    allowed_breaker_a: Floats
    """Largest breaker that protects each size, shape (G, S) [A]."""

    @property
    def usable_a(self) -> Floats:
        """The lower of terminal and factored ampacity, shape (G, S) [A]; NaN where heat has to be read."""
        return np.minimum(self.terminal_a, self.factored_a)


def carry(table: Table) -> Carried:
    """Ampacities of every group and size of a table.

    Source: Table 310.16 columns; 110.14(C) for the terminal column; 310.15(B), (B)(2), (C)(1) for the factors, on the
    insulation's own column; 334.80 and 340.80 for cables held to 60 C; 240.4(B) and (D) for the breaker.
    """
    case, book = table.case, nec(table.case.book)
    groups, sizes = len(table.breaker_a), len(book.sizes)
    terminal, factored, allowed = (np.zeros((groups, sizes)) for _ in range(3))
    columns: list[int] = []
    heats: list[tuple[Heat, ...]] = []
    governing = np.full((groups, sizes), -1)
    smallest = np.full(groups, float(sizes))
    alike: dict[tuple[int, int, int], int] = {}
    for group in range(groups):
        material, insulation = int(table.material[group]), int(table.insulation[group])
        column = terminal_column(case, float(table.breaker_a[group]))
        columns.append(column)
        # Groups that differ only in their breaker share ampacities; recompute only the breaker comparison.
        twin = alike.setdefault((material, insulation, column), group)
        if twin != group:
            terminal[group], factored[group], allowed[group] = terminal[twin], factored[twin], allowed[twin]
            heats.append(heats[twin])
            governing[group] = governing[twin]
        else:
            by_column = book.ampacity_a[material]
            terminal[group] = by_column[COLUMNS_C.index(column)]
            factored[group], found, worst = _factored(case, by_column, insulation)
            heats.append(found)
            governing[group] = worst
            known = np.where(np.isnan(factored[group]), terminal[group], factored[group])
            protects = book.next_rating(np.minimum(terminal[group], known))
            allowed[group] = np.minimum(protects, book.small_breaker_a[material])
            allowed[group, terminal[group] <= 0] = 0.0
        known = np.where(np.isnan(factored[group]), terminal[group], factored[group])
        fits = (
            (terminal[group] >= CONTINUOUS * case.charge_a - 1e-9)
            & (known >= case.charge_a - 1e-9)
            & (allowed[group] >= table.breaker_a[group])
        )
        if fits.any():
            smallest[group] = float(np.argmax(fits))
    return Carried(tuple(columns), terminal, factored, tuple(heats), governing, smallest, allowed)


def _factored(case: Case, by_column: Floats, insulation: int) -> tuple[Floats, tuple[Heat, ...], Ints]:
    """Ampacity after the factors of the section that governs; the factors of all; that section by size, -1 for none."""
    found = tuple(_heat(case, number, insulation) for number in range(len(case.sections)))
    if not found:
        none = np.full(by_column.shape[1], -1)
        return by_column[_own_column(case, insulation, wet=False)], found, none
    each = np.array(
        [derated_ampacity_a(by_column[COLUMNS_C.index(h.column_c)], h.ambient_factor, h.bundling_factor) for h in found]
    )
    left_in = governing_sections(case, each)
    known = np.where(np.isnan(each[left_in]), np.inf, each[left_in])
    worst = np.array(left_in)[known.argmin(axis=0)]
    if np.isnan(each).any():
        return np.full(each.shape[1], np.nan), found, worst
    return known.min(axis=0), found, worst


SHORT_SHARE: Final = 0.10


def governing_sections(case: Case, each: Floats) -> list[int]:
    """Sections whose ampacity counts: all but a short hot part.

    A part of lower ampacity may be left out where it is no longer than 10 ft and than a tenth of the whole circuit
    (310.14(A)(2) exception; before 2020, 310.15(A)(2), a tenth of the length at the higher ampacity).

    Parameters
    ----------
    each : ndarray, shape (Z, S)
        Ampacity of every section and size [A]; NaN while a temperature is unread.
    """
    numbers = list(range(len(each)))
    if len(numbers) < 2 or not case.short or np.isnan(each).any():
        return numbers
    middle = each.shape[1] // 2
    total, gone = sum(section.length_m for section in case.sections), 0.0
    for number in sorted(numbers, key=lambda n: float(each[n, middle]))[:-1]:
        gone += case.sections[number].length_m
        whole = total - gone if nec(case.book).facts.short_of_rest else total
        if gone > min(SHORT_M, SHORT_SHARE * whole) + 1e-9:
            break
        numbers.remove(number)
    return numbers


def terminal_column(case: Case, breaker_a: float) -> int:
    """Terminal column [degC]: the cooler marking of the two ends, and no cable above its own limit."""
    marked = [mark or DEFAULT_TERMINAL_C for mark in (case.job.supply.terminal_c, case.job.charger.terminal_c)]
    if case.job.local.terminals_60:
        marked.append(60)
    column = DEFAULT_TERMINAL_C if breaker_a > LARGE_CIRCUIT_A else min(marked)
    return min([column, *(limit for section in case.sections if (limit := section.limit_c) is not None)])


def _own_column(case: Case, insulation: int, *, wet: bool) -> int:
    column = int((nec(case.book).wet_c if wet else nec(case.book).dry_c)[insulation])
    return column if column >= 0 else int(nec(case.book).dry_c[insulation])


def _heat(case: Case, number: int, insulation: int) -> Heat:
    section, book = case.sections[number], nec(case.book)
    if section.method.factor_c is not None:
        column = COLUMNS_C.index(section.method.factor_c)
    else:
        column = _own_column(case, insulation, wet=section.wet)
    ambient = ambient_c(case, section, book.insulations[insulation])
    factor = float("nan") if ambient is None else float(book.ambient_row(ambient)[column])
    bundling = 1.0 if section.nipple else book.adjustment(current_carrying(case) + section.beside)
    return Heat(number, COLUMNS_C[column], ambient, factor, bundling)


def check_conductor(table: Table, carried: Carried) -> Terms:
    """Terminal-column ampacity against 125 % of the charging current, before factors (210.19(A)(1))."""
    found = carried.terminal_a[table.group, table.hot]
    return Terms(found, np.full(found.shape, continuous_a(table.case.charge_a)), stepped=True)


def check_heat(table: Table, carried: Carried) -> Terms:
    """Ampacity after ambient correction and adjustment against the charging current (310.15)."""
    found = carried.factored_a[table.group, table.hot]
    unknown: Flags = np.isnan(found)
    charge = np.full(found.shape, table.case.charge_a)
    return Terms(np.where(unknown, 0.0, found), charge, unknown=unknown)


def check_protection(table: Table, carried: Carried) -> Terms:
    """Breaker against the largest that protects the conductor: next standard size up, small conductors (240.4)."""
    most = carried.allowed_breaker_a[table.group, table.hot]
    return Terms(table.breaker_a[table.group], most, sense="most", stepped=True)


def check_breaker(table: Table) -> Terms:
    """Breaker against 125 % of the charging current (625.41)."""
    found = table.breaker_a[table.group]
    found = np.where(np.isinf(found), 0.0, found)
    return Terms(found, np.full(found.shape, CONTINUOUS * table.case.charge_a), stepped=True)
