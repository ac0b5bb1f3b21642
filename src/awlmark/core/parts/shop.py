"""The shop: what is on the shelf at home, what came, what is not to be had, and what else would serve."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats
from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, NOTE, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.memo import Memo
from awlmark.core.parts.buying import Bought, buy
from awlmark.core.run.line import Line, Section

RACEWAY_KINDS: Final = ("stick", "elbow", "coupling", "connector", "adapter and locknut", "strap", "body", "pull elbow",
                        "expansion", "bushing")  # fmt: skip


MOST_BILLS: Final = 4096


class Sizes(msgspec.Struct, frozen=True):
    """What the circuit of a list came out as."""

    hot: str | None
    ground: str | None
    trades: tuple[str | None, ...]
    """Trade size by section; None for cable."""

    def serves(self, size: str) -> tuple[bool, bool]:
        """Whether wire of a size is the hots and neutral, and whether it is the ground."""
        return size == self.hot, size == self.ground


class Column(msgspec.Struct, frozen=True, eq=False):
    """Prices of some keys by the piece, and in the last place of an unread size: nothing, and known."""

    each: Floats
    """Shape (K + 1,) [currency]; 0 where it is unread."""
    known: Flags
    """Shape (K + 1,)."""
    special: frozenset[int]
    """Places of what comes in packs, or is partly there already."""


class Shop(msgspec.Struct, frozen=True, eq=False):
    """Prices by the piece and by the pack, and what is there already."""

    each: dict[str, float]
    """By key; ``key@100`` is a pack of 100."""
    packs: dict[str, tuple[float, ...]]
    stock: dict[str, str]
    columns: dict[tuple[str, ...], Column] = msgspec.field(default_factory=dict)
    """Prices asked for so far."""
    bills: dict[tuple[object, ...], tuple[Floats, Flags]] = msgspec.field(default_factory=dict)
    """What one number of a part costs in each of its sizes, asked for so far."""

    def plain(self, key: str) -> bool:
        """Whether a key is bought by the piece alone, all of it."""
        return key not in self.packs and key not in self.stock

    def column(self, keys: tuple[str, ...]) -> Column:
        """Prices of keys as arrays."""
        column = self.columns.get(keys)
        if column is None:
            prices = [self.each.get(key) for key in keys]
            each = np.array([*(price or 0.0 for price in prices), 0.0])
            known = np.array([*(price is not None for price in prices), True])
            special = frozenset(at for at, key in enumerate(keys) if not self.plain(key))
            column = self.columns[keys] = Column(each, known, special)
        return column

    def billed(
        self, column: Column, keys: tuple[str, ...], quantity: float, pieces: tuple[float, ...], special: frozenset[int]
    ) -> tuple[Floats, Flags]:
        """What so many of a part cost in each of its sizes, and whether that is known: kept, most edits ask again.

        ``special`` are the places whose packs and stock count; the others go by the piece.
        """
        asked = id(column), quantity, pieces, special
        found = self.bills.get(asked)
        if found is None:
            total, known = column.each * math.ceil(quantity - 1e-9), column.known
            if special:
                known = known.copy()
            for at in special:
                bill = self.bill(keys[at], quantity, pieces).cost
                total[at], known[at] = bill or 0.0, bill is not None
            if len(self.bills) >= MOST_BILLS:
                self.bills.clear()
            found = self.bills[asked] = total, known
        return found

    def offers(self, key: str) -> tuple[float | None, tuple[tuple[float, float], ...]]:
        """Price by the piece, and every pack with its own [currency]."""
        packs = self.packs.get(key)
        if not packs:
            return self.each.get(key), ()
        return self.each.get(key), tuple([(size, self.each[f"{key}@{size:g}"]) for size in packs])

    def bill(self, key: str, quantity: float, pieces: tuple[float, ...]) -> Bought:
        """What is bought beyond the stock, where one line alone asks for the key."""
        return self.bill_all(key, ((quantity, pieces),))[0]

    def bill_all(self, key: str, asks: Sequence[tuple[float, tuple[float, ...]]]) -> list[Bought]:
        """What is bought beyond the stock for lines of one key, say two colours: what one takes the next does without.

        A length of wire comes off the shelf whole or not at all.
        """
        each, packs = self.offers(key)
        there, found = float(self.stock.get(key, 0)), []
        for quantity, pieces in asks:
            missing, left, there = _off_shelf(quantity, pieces, there)
            found.append(buy(missing, each, packs, left) if missing > 1e-9 else Bought(0.0, (), 0.0))
        return found


def _off_shelf(quantity: float, pieces: tuple[float, ...], there: float) -> tuple[float, tuple[float, ...], float]:
    """What is still missing, in which lengths, and what stays on the shelf."""
    if not pieces:
        return max(quantity - there, 0.0), (), max(there - quantity, 0.0)
    left: list[float] = []
    for piece in sorted(pieces, reverse=True):
        if piece <= there + 1e-9:
            there -= piece
        else:
            left.append(piece)
    return sum(left), tuple(left), there


def _open_shop(view: tuple[dict[str, str], dict[str, str]]) -> Shop:
    prices, stock = view
    return Shop({key: float(price) for key, price in prices.items()}, _packs(prices), stock)


_shops = Memo[tuple[dict[str, str], dict[str, str]], Shop](2, _open_shop)
"""An edit elsewhere leaves price book and shelf the same objects."""


def shop_of(job: Job) -> Shop:
    """The shop of a job."""
    return _shops((job.prices, job.stock))


def _packs(prices: dict[str, str]) -> dict[str, tuple[float, ...]]:
    """Sizes of pack by key: ``wire:cu:6:thwn-2@100`` is a coil of 100."""
    found: dict[str, list[float]] = {}
    for key in prices:
        plain, at, size = key.rpartition("@")
        if at:
            found.setdefault(plain, []).append(float(size))
    return {key: tuple(sorted(sizes)) for key, sizes in found.items()}


def shop_findings(job: Job, line: Line, book: Book, needed: dict[str, float], sizes: Sizes) -> list[Finding]:
    """What came short or over, and what else would serve for a part that is not to be had.

    Parameters
    ----------
    job : Job
        With what came and what is gone.
    line : Line
        The walked line.
    book : Book
        For sizes.
    needed : dict
        Quantity by key of the present list.
    sizes : Sizes
        What the circuit came out as.
    """
    found = []
    for key, came in job.delivered.items():
        short = needed.get(key, 0.0) - float(came) - float(job.stock.get(key, 0))
        if abs(short) < 1e-9:
            continue
        name = book.goods.name(key)
        text = f"{short:g} of {name} are still missing." if short > 0 else f"{-short:g} of {name} go back to the shop."
        severity = NOTE if short > 0 else HOLDS
        title = "Came short" if short > 0 else "Bring back"
        found.append(Finding(f"came:{key}", severity, title, text, "your check-in", where="line", stage="parts"))
    for key in job.gone:
        if key not in needed:
            continue
        fixes = substitutes(job, line, book, key, sizes)
        text = f"{book.goods.name(key)} is not to be had. " + (
            "What else would serve:" if fixes else "Nothing else serves: order it."
        )
        found.append(
            Finding(
                f"gone:{key}", NOTE, "Not in stock", text, "your check-in", where="line", fixes=fixes, stage="parts"
            )
        )
    return found


def substitutes(job: Job, line: Line, book: Book, key: str, sizes: Sizes) -> tuple[Fix, ...]:
    """Edits that would do without a part: the next size, another make of it, another way.

    None is tried here: what breaks a rule or takes the part all the same falls out when the fixes are quoted.
    """
    kind, *rest = key.split(":")
    if kind == "wire":
        metal, size, insulation = rest
        larger = book.sizes[book.sizes.index(size) + 1 :][:2]
        hots, ground = sizes.serves(size)
        fixes = []
        for other_size in larger if hots else ():
            put = (Put("circuit.size", other_size), Put("circuit.material", metal))
            fixes += [
                Fix(f"{book.print_size(other_size)} instead", put),
                Fix(
                    f"{book.print_size(other_size)} instead, {book.words.ground} too",
                    (*put, Put("circuit.ground_size", other_size)),
                ),
            ]
        if ground and not hots:
            fixes = [
                Fix(f"{book.print_size(name)} {book.words.ground} instead", (Put("circuit.ground_size", name),))
                for name in larger
            ]
        other = book.goods.other_insulation.get(insulation)
        if other:
            fixes.append(Fix(f"{other.upper()} instead", (Put("circuit.insulation", other),)))
        if hots and metal == "cu" and job.circuit.material is None:
            fixes.append(Fix("Aluminium instead", (Put("circuit.material", "al"),)))
        return tuple(fixes)
    if kind in RACEWAY_KINDS and len(rest) == 2:
        return _raceway(line, book, (rest[0], rest[1]), sizes.trades)
    if kind == "box":
        offered = book.goods.boxes
        larger_boxes = offered[offered.index(rest[0]) + 1 :] if rest[0] in offered else ()
        legs = [walked.leg.id for walked in line.legs if walked.leg.end == "box"]
        return tuple(
            Fix(f"{name} box", tuple(Put(f"legs[{leg}].box", name) for leg in legs)) for name in larger_boxes[:2]
        )
    if kind == "breaker":
        rating = float(rest[1])
        above = next((other for other in book.ratings_a if other > rating), None)
        return () if above is None else (Fix(f"{above:g} A {book.words.breaker}", (Put("circuit.breaker_a", above),)),)
    if kind == "receptacle":
        return (Fix("Hardwire it", (Put("charger.connection", "hardwired"),)),)
    return ()


def _raceway(line: Line, book: Book, key: tuple[str, str], trades: tuple[str | None, ...]) -> tuple[Fix, ...]:
    method, trade = key
    sections = [
        section for section in line.sections if section.method.key == method and trades[section.number] == trade
    ]
    if not sections:
        return ()
    legs = [walked.leg.id for section in sections for walked in section.legs]
    sizes = book.trade_sizes_of(book.methods[method])
    fixes = [
        Fix(
            f"{larger} {book.methods[method].name} instead",
            tuple(Put(f"legs[{leg}].trade_size", larger) for leg in legs),
        )
        for larger in sizes[sizes.index(trade) + 1 :][:1]
    ]
    other = book.methods[method].alternative
    if other:
        fixes.append(Fix(f"{book.methods[other].name} instead", _method(sections, other)))
    return tuple(fixes)


def _method(sections: list[Section], method: str) -> tuple[Put, ...]:
    edits: list[Put] = []
    for walked in (walked for section in sections for walked in section.legs):
        edits += [Put(f"legs[{walked.leg.id}].method", method), Put(f"legs[{walked.leg.id}].trade_size", None)]
    return tuple(edits)


def came_as(job: Job, line: Line, book: Book, key: str, what: str, sizes: Sizes) -> tuple[Put, ...] | None:
    """Edits that take a part as it was delivered: another gauge, trade size, rating or box; None where it is alike."""
    kind, *rest = key.split(":")
    if kind == "wire" and what in book.sizes:
        hots, ground = sizes.serves(rest[1])
        put = (
            *((Put("circuit.size", what),) if hots else ()),
            *((Put("circuit.ground_size", what),) if ground else ()),
        )
        return put or None
    if kind in RACEWAY_KINDS and len(rest) == 2 and what in book.trade_sizes_of(book.methods[rest[0]]):
        legs = [
            walked.leg.id
            for section in line.sections
            if section.method.key == rest[0] and sizes.trades[section.number] == rest[1]
            for walked in section.legs
        ]
        return tuple(Put(f"legs[{leg}].trade_size", what) for leg in legs)
    if kind == "breaker":
        rating = next((rating for rating in book.ratings_a if f"{rating:g}" == what), None)
        return None if rating is None else (Put("circuit.breaker_a", rating),)
    if kind == "box":
        legs = [walked.leg.id for walked in line.legs if walked.leg.end == "box"]
        return tuple(Put(f"legs[{leg}].box", what) for leg in legs)
    return None
