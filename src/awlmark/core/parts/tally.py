"""One line of the list for every candidate at once, and the tally that gathers them."""

from __future__ import annotations

import functools
from collections.abc import Sequence

import msgspec
import numpy as np

from awlmark.core.arrays import Floats, Ints
from awlmark.core.books.book import Method
from awlmark.core.circuit.case import Case, Table

FEW = 512
"""Rows up to which plain Python is the shorter way."""


class Item(msgspec.Struct, gc=False, frozen=True, eq=False):
    """One line of the list, for every row of a table at once.

    ``keys[index[row]]`` is the price key of a row, ``of(row)`` how many.
    """

    aisle: str
    keys: tuple[str, ...]
    index: Ints
    """Shape (N,); -1 where a size is unread."""
    quantity: Floats | float
    """Shape (N,), or one number where it is the same for every row."""
    unit: str
    detail: str = ""
    """What the key does not say: a colour."""
    pieces: tuple[float, ...] = ()
    """Lengths that must each be in one piece, the same for every row; empty for what may be made up."""
    marks: tuple[str, ...] = ()
    """What on the line it serves: legs by id, ``panel``, ``charger`` or ``line``; each once."""

    def of(self, row: int) -> float:
        """How many a row takes [its unit]."""
        return self.quantity if isinstance(self.quantity, float) else float(self.quantity[row])


def together(one: Item, other: Item) -> Item:
    """Two lines of the same key as one: their numbers, lengths and marks added."""
    marks = tuple(dict.fromkeys(one.marks + other.marks))
    quantity, pieces = one.quantity + other.quantity, one.pieces + other.pieces
    return msgspec.structs.replace(one, quantity=quantity, pieces=pieces, marks=marks)


def taken(index: Ints) -> list[int]:
    """Which places of its keys some row of an index takes, each once; an unread one (-1) left out."""
    if len(index) <= FEW:
        return sorted(set(index.tolist()) - {-1})
    return (np.flatnonzero(np.bincount(index + 1)[1:])).tolist()


def sized(kind: str, method: Method, case: Case) -> tuple[str, ...]:
    """Keys of a fitting in every trade size."""
    return _sized(kind, method.key, case.book.trade_sizes)


@functools.lru_cache(maxsize=512)
def _sized(kind: str, method: str, sizes: tuple[str, ...]) -> tuple[str, ...]:
    return tuple([f"{kind}:{method}:{size}" for size in sizes])


class Tally:
    """Gathers what the marks of the line ask for; equal parts become one line that names all its marks.

    Parameters
    ----------
    table : Table
        Candidate circuits.
    ground : ndarray, shape (N,)
        Size index of the ground; -1 where it is unread.
    trade : ndarray, shape (N, Z)
        Trade size index of each section; -1 for cable or none.
    """

    def __init__(self, table: Table, ground: Ints, trade: Ints) -> None:
        self.table, self.ground, self.trade = table, ground, trade
        self.rows = len(table.hot)
        self._counts: dict[tuple[str, str, int], float] = {}
        self._marks: dict[tuple[str, str, int], dict[str, None]] = {}
        self._made: dict[tuple[str, str, int], tuple[str, tuple[str, ...], Ints]] = {}
        self.items: list[Item] = []
        self._none = np.zeros(self.rows, dtype=int)
        self.columns = [trade[:, number] for number in range(trade.shape[1])]
        """One array of trade size indices per section; later steps group items by the identity of the array."""

    @property
    def units(self) -> str:
        """What lengths are bought in: ``ft`` or ``m``."""
        return self.table.case.job.units

    def add(self, aisle: str, key: str, mark: str, count: float = 1.0, unit: str = "each") -> None:
        """Count a part that is the same for every row."""
        self.many(aisle, key, (mark,), count, unit)

    def many(self, aisle: str, key: str, marks: Sequence[str], count: float, unit: str = "each") -> None:
        """Count a part that is the same for every row at several marks; ``count`` of it in all."""
        if not marks:
            return
        slot = (key, unit, -1)
        if slot not in self._made:
            self._made[slot] = aisle, (key,), self._none
        self._counts[slot] = self._counts.get(slot, 0.0) + count
        self._marks.setdefault(slot, {}).update(dict.fromkeys(marks))

    def fit(self, aisle: str, kind: str, section: int, *marks: str) -> None:
        """Count a fitting in the trade size of a section, one for each mark."""
        if not marks:
            return
        slot = (kind, "each", section)
        if slot not in self._made:
            method = self.table.case.sections[section].method
            self._made[slot] = aisle, sized(kind, method, self.table.case), self.columns[section]
        self._counts[slot] = self._counts.get(slot, 0.0) + len(marks)
        self._marks.setdefault(slot, {}).update(dict.fromkeys(marks))

    def has(self, key: str, unit: str = "each") -> bool:
        """Whether a part that is the same for every row has been counted."""
        return (key, unit, -1) in self._made

    def put(
        self, aisle: str, keys: tuple[str, ...], index: Ints | None, quantity: Floats | float, *marks: str,
        unit: str = "each", detail: str = "", pieces: tuple[float, ...] = (),
    ) -> None:  # fmt: skip
        """Count a part whose size or number differs from row to row."""
        at = self._none if index is None else index
        self.items.append(Item(aisle, keys, at, quantity, unit, detail, pieces, tuple(dict.fromkeys(marks))))

    def _joined(self) -> list[Item]:
        """Items of the same keys and the same sizes, as one."""
        found: dict[tuple[tuple[str, ...], str, int], Item] = {}
        for item in self.items:
            slot = item.keys, item.detail, id(item.index)
            before = found.get(slot)
            found[slot] = item if before is None else together(before, item)
        return list(found.values())

    def gathered(self) -> list[Item]:
        """Every line; those that no row needs are left out."""
        found = self._joined()
        for slot, (aisle, keys, index) in self._made.items():
            if self._counts[slot]:
                found.append(Item(aisle, keys, index, self._counts[slot], slot[1], marks=tuple(self._marks[slot])))
        return found
