"""What a conductor carries: It of the tables, cut down section by section to Iz, and the checks Ib <= In <= Iz."""

from __future__ import annotations

from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats
from awlmark.core.books.bs7671.edition import BsBook, bs, least_size
from awlmark.core.books.bs7671.sizing.factors import Factors, column_of, section_factors
from awlmark.core.books.bs7671.sizing.opening import phases, terminal_c
from awlmark.core.circuit.case import Case, Table, Work, need_a
from awlmark.core.circuit.terms import Terms
from awlmark.core.memo import Memo

NEVER_A: Final = 1e4
"""Stands for a device that is not made."""


class Carried(msgspec.Struct, frozen=True, eq=False):
    """Currents of a case. Axes: Z sections, S sizes."""

    terminal_c: int
    tabulated_a: Floats
    """It, shape (Z, S) [A]."""
    factors: tuple[Factors, ...]
    """By section."""
    by_section_a: Floats
    """Iz, shape (Z, S) [A]; NaN where a factor is unread."""
    usable_a: Floats
    """The least over the sections, shape (S,) [A]; NaN where one is unread."""
    at_most_a: Floats
    """The same where what is unread takes nothing away, shape (S,) [A]."""

    def governing(self, size: int) -> int:
        """Section that holds a size down most: one that is unread before all."""
        column = self.by_section_a[:, size]
        return int(np.argmax(np.isnan(column))) if np.isnan(column).any() else int(np.argmin(column))


def made_in(book: BsBook, method: str) -> Flags:
    """Sizes of 1.5 mm2 and more that a method's cable is made in, shape (S,)."""
    sold = book.cable_ground.get(method)
    large: Flags = book.metal_mm2 >= least_size()
    return large if sold is None else large & np.array([size in sold for size in book.sizes])


def _carried(case: Case) -> Carried:
    book, sizes = bs(case.book), len(case.book.sizes)
    marked = terminal_c(case)
    column, phase = column_of(marked), phases(case)
    factors = tuple(section_factors(case, section, column) for section in case.sections)
    none = np.zeros((0, sizes))
    tabulated = np.array([book.ways[each.method.key].current_a[column, phase] for each in case.sections]).reshape(
        len(factors), sizes
    )
    for at, section in enumerate(case.sections):
        # What is not made, or below the least size, carries nothing.
        tabulated[at, ~made_in(book, section.method.key)] = 0.0
    products = np.array([each.product for each in factors])[:, None]
    best = np.array([each.at_most for each in factors])[:, None]
    # A cable without the cores for three phases carries nothing, whatever is unread.
    iz = np.where(tabulated == 0, 0.0, tabulated * products) if factors else none
    if not factors:
        silent = np.full(sizes, np.nan)
        return Carried(marked, none, (), none, silent, silent)
    at_most = np.where(np.isnan(tabulated), 0.0, tabulated * best).min(axis=0)
    return Carried(marked, tabulated, factors, iz, iz.min(axis=0), at_most)


carried: Final[Memo[Case, Carried]] = Memo(4, _carried)
"""Currents of a case, kept for the cases asked for last."""


def smallest_sizes(table: Table, found: Carried) -> Floats:
    """Index of the smallest size that is enough for each group's device, shape (G,); S where none is."""
    large = table.case.book.metal_mm2 >= least_size()
    enough = (found.at_most_a[None, :] >= table.breaker_a[:, None] - 1e-9) & large[None, :]
    return np.where(enough.any(axis=1), np.argmax(enough, axis=1), len(large)).astype(float)


def check_device(table: Table, _work: Work) -> Terms:
    """Ib <= In (433.1.1)."""
    found = np.where(np.isinf(table.breaker_a), 0.0, table.breaker_a)[table.group]
    return Terms(found, np.full(found.shape, need_a(table.case)), stepped=True)


def check_conductor(table: Table, work: Work) -> Terms:
    """In <= Iz after every factor (433.1.1); no device, no size is enough."""
    found = work.usable_a[table.group, table.hot]
    needed = np.where(np.isinf(table.breaker_a), NEVER_A, table.breaker_a)[table.group]
    return Terms(found, needed, stepped=True, unknown=np.isnan(found))
