"""The equipment grounding conductor: by the breaker, grown with the hots, as cables are made."""

from __future__ import annotations

from typing import Final

import msgspec
import numpy as np

from awlmark.core.book.edition import Floats, Ints
from awlmark.core.wire.ampacity import Carried
from awlmark.core.wire.case import Case, Table
from awlmark.core.wire.terms import Flags, Terms

NEARLY: Final = 0.001
"""A ground this close under the proportion is left to the inspector."""


class Grounds(msgspec.Struct, frozen=True, eq=False):
    """Grounds of the rows of a table."""

    needed_cmil: Floats
    """Shape (N,) [circular mils]."""
    base: Ints
    """Size index that the breaker alone asks for, shape (N,); -1 beyond the table."""
    size: Ints
    """Size index of the wire ground, shape (N,); -1 where nothing says what the cable carries."""
    cable: Flags
    """Sections whose ground is factory-made, shape (Z,)."""

    @property
    def unread(self) -> Flags:
        """Rows whose ground nobody has read, shape (N,)."""
        return (self.size < 0) | (self.base < 0)


def size_grounds(table: Table, carried: Carried) -> Grounds:
    """Size the ground of every row.

    The breaker gives it (Table 250.122). Where the hots are larger than the smallest size that carries the load after
    factors, it grows with their circular mils, strictly (250.122(B)); it need not pass the hots (250.122(A)).
    """
    case, book = table.case, table.case.book
    # One wire ground for several circuits goes by the largest breaker among them (250.122(C)).
    row_breaker = np.maximum(table.breaker_a[table.group], case.job.circuit.shared_ground_a or 0.0)
    at = np.searchsorted(book.ground_to_a, row_breaker)
    beyond = at >= len(book.ground_to_a)
    base = np.where(
        beyond, -1, book.ground_size[table.material[table.group], np.minimum(at, len(book.ground_to_a) - 1)]
    )
    least = carried.smallest[table.group].astype(int)
    hot_cmil = book.cmil[table.hot]
    least_cmil = np.where(least < len(book.sizes), book.cmil[np.minimum(least, len(book.sizes) - 1)], hot_cmil)
    grown = np.maximum(hot_cmil, least_cmil) / least_cmil
    needed = np.minimum(book.cmil[base] * grown, hot_cmil)
    # Exact products: 16,510 against 16,511 circular mils must not drown in rounding.
    enough = book.cmil[None, :] * least_cmil[:, None] >= (book.cmil[base] * np.maximum(hot_cmil, least_cmil))[:, None]
    size = np.minimum(np.argmax(enough, axis=1), table.hot)
    size = np.where(enough.any(axis=1), size, table.hot)
    if case.job.local.least_ground is not None:
        # The authority's own least; a ground still never has to pass the hots.
        size = np.maximum(size, np.minimum(book.size_index(case.job.local.least_ground), table.hot))
    cable = np.array([section.method.cable for section in case.sections], dtype=bool)
    if case.job.circuit.ground_size is not None:
        size = np.full(len(table.hot), book.size_index(case.job.circuit.ground_size))
    elif cable.any():
        size = np.minimum(factory_ground(case, table.hot), size) if not cable.all() else factory_ground(case, table.hot)
    return Grounds(needed, np.asarray(base), np.asarray(size), cable)


def factory_ground(case: Case, hot: Ints) -> Ints:
    """Ground size index that the run's cables are made with, shape of ``hot``; -1 where the tables are silent."""
    book = case.book
    found = np.full(hot.shape, len(book.sizes))
    for section in case.sections:
        if section.method.cable:
            made = book.cable_ground.get(section.method.key, {})
            each = np.array([book.size_index(made.get(book.sizes[index], "")) for index in hot])
            found = np.minimum(found, each)
    return found


def check_ground(table: Table, grounds: Grounds) -> Terms:
    """Circular mils of the ground against those needed."""
    book = table.case.book
    if table.case.raceway_ground:
        return Terms(np.full(len(table.hot), np.nan), grounds.needed_cmil, stepped=True)
    return Terms(book.cmil[grounds.size], grounds.needed_cmil, stepped=True, near=NEARLY, unknown=grounds.unread)
