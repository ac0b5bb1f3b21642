"""Counting what the line needs: one takeoff for one candidate or for a whole table of them."""

from __future__ import annotations

import math
from collections.abc import Sequence

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.books.rules import Goods
from awlmark.core.circuit.case import Table
from awlmark.core.parts.buying import Bought
from awlmark.core.parts.shop import Shop
from awlmark.core.parts.tally import Item, Tally, taken, together


class Part(msgspec.Struct, gc=False, frozen=True):
    """One line of the list of the chosen circuit."""

    key: str
    aisle: str
    name: str
    quantity: float
    """That the line needs."""
    unit: str
    each: float | None
    """Price by the piece or the unit of length; None while unread."""
    marks: tuple[str, ...]
    """What on the line it serves."""
    bought: Bought
    """What the shop sells for it, least cost."""

    @property
    def where(self) -> str:
        """The first mark."""
        return self.marks[0] if self.marks else "line"

    @property
    def total(self) -> float | None:
        """Price of the line [currency]; None while unread."""
        return self.bought.cost


def count_items(table: Table, ground: Ints, trade: Ints) -> list[Item]:
    """Everything on the list.

    Parameters
    ----------
    table : Table
        Candidate circuits.
    ground : ndarray, shape (N,)
        Size index of the ground.
    trade : ndarray, shape (N, Z)
        Trade size index of each section; -1 for cable or none.
    """
    tally = Tally(table, ground, trade)
    for count in table.case.book.goods.counts:
        count(tally)
    spare = table.case.job.buying.spare_percent
    return tally.gathered() if not spare else [_with_spare(item, spare) for item in tally.gathered()]


def _with_spare(item: Item, percent: float) -> Item:
    """A line of small parts with its spares, whole ones; what the line is made of stays as it is."""
    if item.aisle not in ("Fittings", "Fixings"):
        return item
    more = 1 + percent / 100
    if isinstance(item.quantity, float):
        return msgspec.structs.replace(item, quantity=float(math.ceil(item.quantity * more - 1e-9)))
    return msgspec.structs.replace(item, quantity=np.ceil(item.quantity * more - 1e-9))


def row_cost(items: Sequence[Item], shop: Shop) -> tuple[Floats, Flags]:
    """Cost of every row, bought as cheaply as the shop sells it.

    Returns
    -------
    cost : ndarray, shape (N,)
        Sum of the known prices [currency].
    priced : ndarray of bool, shape (N,)
        Whether every price of the row that differs from row to row is known.
    """
    rows = len(items[0].index) if items else 0
    cost, priced = np.zeros(rows), np.ones(rows, dtype=bool)
    # Lines whose sizes go together are added up size by size, and dealt to the rows once.
    sums: dict[tuple[int, int], tuple[Ints, Floats, Flags]] = {}
    places: dict[int, list[int]] = {}
    flat = 0.0
    for item in items:
        keys, quantity, column = item.keys, item.quantity, shop.column(item.keys)
        one, special = len(keys) == 1, column.special
        if special:
            if id(item.index) not in places:
                places[id(item.index)] = taken(item.index)
            special = special.intersection(places[id(item.index)])
        if not isinstance(quantity, float):
            if special:
                _billed(item, quantity, shop, (cost, priced))
                continue
            if not one:
                priced &= column.known[item.index] | (quantity == 0)
            cost += column.each[item.index] * np.ceil(quantity - 1e-9)
            continue
        if one and not special:
            flat += float(column.each[0]) * math.ceil(quantity - 1e-9)
            continue
        slot = id(item.index), len(keys)
        if slot not in sums:
            # The last place stands for an unread size.
            sums[slot] = item.index, np.zeros(len(keys) + 1), np.ones(len(keys) + 1, dtype=bool)
        _index, total, sure = sums[slot]
        more, known = shop.billed(column, keys, quantity, item.pieces, special)
        total += more
        if not one:
            sure &= known
    for index, total, sure in sums.values():
        cost += total[index]
        priced &= sure[index]
    cost += flat
    for key in shop.stock:
        _shared_stock(key, items, shop, cost)
    return cost, priced


def _shared_stock(key: str, items: Sequence[Item], shop: Shop, cost: Floats) -> None:
    """Take back what several lines of one key, say two colours, were each let off for the same stock."""
    lines = [(item, item.keys.index(key)) for item in items if key in item.keys]
    if len(lines) < 2:
        return
    asked = np.stack([np.where(item.index == at, item.quantity, 0.0) for item, at in lines], axis=1)
    ways, which = np.unique(asked, axis=0, return_inverse=True)
    more = np.zeros(len(ways))
    for way, amounts in enumerate(ways.tolist()):
        asks = [(amount, item.pieces) for amount, (item, _at) in zip(amounts, lines, strict=True) if amount > 0]
        together_cost = sum(bought.cost or 0.0 for bought in shop.bill_all(key, asks))
        more[way] = together_cost - sum(shop.bill(key, *ask).cost or 0.0 for ask in asks)
    cost += more[which.reshape(-1)]


def list_parts(items: Sequence[Item], row: int, shop: Shop, goods: Goods) -> tuple[Part, ...]:
    """The list of one row, its keys named, in aisle order; lines of nothing are left out, equal lines joined."""
    joined: dict[tuple[str, str], Item] = {}
    for item in items:
        if item.of(row) <= 0:
            continue
        at = int(item.index[row])
        key = item.keys[at] if at >= 0 else item.keys[0].rsplit(":", 1)[0] + ":?"
        slot = key, item.detail
        joined[slot] = together(joined[slot], item) if slot in joined else item
    asks: dict[str, list[Item]] = {}
    for (key, _detail), item in joined.items():
        asks.setdefault(key, []).append(item)
    bills = {
        key: iter(shop.bill_all(key, [(item.of(row), item.pieces) for item in same])) for key, same in asks.items()
    }
    found = []
    for (key, detail), item in joined.items():
        quantity = item.of(row)
        name = goods.name(key) + (f", {detail}" if detail else "")
        each, _packs = shop.offers(key)
        bought = next(bills[key])
        found.append(Part(key, goods.aisle(item.aisle, key), name, quantity, item.unit, each, item.marks, bought))
    return tuple(sorted(found, key=lambda part: goods.aisles.index(part.aisle)))


def _billed(item: Item, quantities: Floats, shop: Shop, into: tuple[Floats, Flags]) -> None:
    """Add the cost of a line with packs or stock whose number differs: once for each pair of key and number."""
    cost, priced = into
    amounts, which = np.unique(quantities, return_inverse=True)
    slots = (item.index + 1) * len(amounts) + which.reshape(-1)
    bills, known = np.zeros(int(slots.max()) + 1), np.ones(int(slots.max()) + 1, dtype=bool)
    for slot in np.flatnonzero(np.bincount(slots)).tolist():
        index, quantity = slot // len(amounts) - 1, float(amounts[slot % len(amounts)])
        if quantity > 0:
            price = shop.bill(item.keys[index] if index >= 0 else "", quantity, item.pieces).cost
            bills[slot], known[slot] = price or 0.0, price is not None
    cost += bills[slots]
    if len(item.keys) > 1:
        priced &= known[slots]


def hours_each(key: str, each: dict[str, float]) -> float:
    """Hours of a part by its price key: of its kind and make (``cable:te``) where these are told, else of its kind."""
    kind, _, rest = key.partition(":")
    return each.get(f"{kind}:{rest.partition(':')[0]}", each.get(kind, 0.0))


def row_hours(items: Sequence[Item], each: dict[str, float]) -> Floats:
    """Hours of one person for every row, shape (N,)."""
    hours = np.zeros(len(items[0].index) if items else 0)
    for item in items:
        hours += hours_each(item.keys[0], each) * item.quantity
    return hours


class ShopLine(msgspec.Struct, frozen=True):
    """One line for the counter: so many pieces, units of length, coils or boxes of one part."""

    part: Part
    name: str
    count: float
    unit: str
    each: float | None

    @property
    def total(self) -> float | None:
        """Price of the line [currency]; None while unread."""
        return None if self.each is None else round(self.each * self.count, 2)


def shop_lines(parts: Sequence[Part], prices: dict[str, str]) -> tuple[ShopLine, ...]:
    """The list as it is asked for at the counter: a line for each size of pack."""
    found = []
    for part in parts:
        for size, count in part.bought.packs:
            if size == 1:
                found.append(ShopLine(part, part.name, float(count), part.unit, part.each))
                continue
            pack = "box" if part.unit == "each" else "coil"
            price = float(prices[f"{part.key}@{size:g}"])
            found.append(ShopLine(part, f"{part.name}, {pack} of {size:g}", float(count), pack, price))
    return tuple(found)
