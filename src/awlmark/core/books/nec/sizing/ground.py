"""The equipment grounding conductor: by the breaker, grown with the hots, as cables are made."""

from __future__ import annotations

from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.books.nec.edition import NecBook, nec
from awlmark.core.books.nec.sizing.ampacity import Carried
from awlmark.core.books.nec.sizing.formulas import grown_ground_cmil
from awlmark.core.circuit.case import Table, factory_ground
from awlmark.core.circuit.terms import Terms

NEARLY: Final = 0.001
"""A ground this close under the proportion is left to the inspector: the tables round further than that."""


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
    doubtful: Flags
    """Rows that fail only by a cable's ground which the table itself doubts, shape (N,)."""
    as_made: Flags
    """Rows whose factory-made ground serves the breaker and only did not grow with the hots, shape (N,)."""

    @property
    def unread(self) -> Flags:
        """Rows whose ground nobody has read, shape (N,)."""
        return (self.size < 0) | (self.base < 0) | self.doubtful


def size_grounds(table: Table, carried: Carried) -> Grounds:
    """Size the ground of every row.

    The breaker gives it (Table 250.122). Where the hots are larger than the smallest size that carries the load after
    factors, it grows with their circular mils, to the table's own rounding (250.122(B)); it need not pass the hots
    (250.122(A)). One that serves other circuits too goes by the largest breaker among them, and only that circuit's
    own hots would cap it (250.122(C)).
    """
    case, book = table.case, nec(table.case.book)
    metal = table.material[table.group]
    own = _by_breaker(book, metal, table.breaker_a[table.group])
    shared = np.zeros_like(own)
    if case.job.circuit.shared_ground_a is not None:
        shared = _by_breaker(book, metal, np.full(len(metal), case.job.circuit.shared_ground_a))
    # Beyond the table nothing is known, whichever breaker lies there.
    base = np.where((own < 0) | (shared < 0), -1, np.maximum(own, shared))
    shared_cmil = np.where(shared > 0, book.cmil[shared], 0.0) if shared.any() else np.zeros(len(own))
    least = carried.smallest[table.group].astype(int)
    hot_cmil = book.cmil[table.hot]
    least_cmil = np.where(least < len(book.sizes), book.cmil[np.minimum(least, len(book.sizes) - 1)], hot_cmil)
    needed = np.maximum(grown_ground_cmil(book.cmil[own], hot_cmil, least_cmil), shared_cmil)
    # By the gauge's definition two steps are one ratio; the tables round it, so a hair under is taken and told.
    enough = book.cmil[None, :] >= needed[:, None] * (1 - NEARLY)
    size = np.where(enough.any(axis=1), np.argmax(enough, axis=1), table.hot)
    if case.job.local.least_ground is not None:
        # The authority's own least; a ground still never has to pass the hots.
        size = np.maximum(size, np.minimum(book.size_index(case.job.local.least_ground), table.hot))
    cable = np.array([section.method.cable for section in case.sections], dtype=bool)
    if case.job.circuit.ground_size is not None:
        size = np.full(len(table.hot), book.size_index(case.job.circuit.ground_size))
    elif cable.any():
        size = np.minimum(factory_ground(case, table.hot), size) if not cable.all() else factory_ground(case, table.hot)
    serves = (base >= 0) & (book.cmil[size] >= np.maximum(book.cmil[own], shared_cmil) * (1 - NEARLY))
    # Pinned, it still comes as made where it is what the tables say, or what somebody read off the cable.
    factory = factory_ground(case, table.hot) if cable.any() else size
    comes = (factory < 0) | (factory == size) if case.job.circuit.ground_size is not None else True
    as_made = serves & cable.any() & (size >= 0) & comes
    doubted = np.zeros(len(table.hot), dtype=bool)
    if book.cable_doubt and case.job.circuit.ground_size is None:
        methods = {section.method.key for section in case.sections if section.method.cable}
        known = [any((method, size) in book.cable_doubt for method in methods) for size in book.sizes]
        doubted = np.array(known)[table.hot] & (size >= 0) & (base >= 0) & ~serves
    return Grounds(needed, np.asarray(base), np.asarray(size), cable, doubted, np.asarray(as_made))


def _by_breaker(book: NecBook, metal: Ints, breaker_a: Floats) -> Ints:
    """Ground size index that a breaker asks for, shape of ``breaker_a``; -1 beyond Table 250.122."""
    at = np.searchsorted(book.ground_to_a, breaker_a)
    found = book.ground_size[metal, np.minimum(at, len(book.ground_to_a) - 1)]
    return np.where(at >= len(book.ground_to_a), -1, found)


def check_ground(table: Table, grounds: Grounds) -> Terms:
    """Circular mils of the ground against those needed.

    A factory-made ground that serves the breaker is never broken for want of growth: no such cable is made with a
    larger one, and the inspector decides.
    """
    book = nec(table.case.book)
    if table.case.raceway_ground:
        return Terms(np.full(len(table.hot), np.nan), grounds.needed_cmil, stepped=True)
    near = np.where(grounds.as_made, 1.0, NEARLY)
    return Terms(book.cmil[grounds.size], grounds.needed_cmil, stepped=True, near=near, unknown=grounds.unread)
