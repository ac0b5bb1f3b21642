"""Counting what the line needs: one takeoff for one candidate or for a whole table of them."""

from __future__ import annotations

import functools
import math
from collections.abc import Sequence
from typing import Final

import msgspec
import numpy as np

from awlmark.core.book.edition import Floats, Ints, Method
from awlmark.core.parts.sticks import STICK_M, cut, pieces_of
from awlmark.core.quantities import FOOT_M, draw_trade_size, print_gauge
from awlmark.core.run.guard import nail_plates
from awlmark.core.run.line import Section
from awlmark.core.run.supports import straps
from awlmark.core.run.trench import ribbon_m
from awlmark.core.run.walls import passage
from awlmark.core.wire.case import Case, Table
from awlmark.core.wire.outlet import needs_gfci
from awlmark.core.wire.terms import Flags
from awlmark.core.words import METAL_NAMES

RUN_NAMES: Final = {
    "nail plate": "Steel nail plate",
    "fire seal": "Fire seal, one passage",
    "duct seal": "Seal, weather and air, one passage",
    "warning ribbon": "Warning ribbon",
    "splice kit": "Splice box and connectors for both metals, compound",
    "surge": "Surge device for the panel",
    "disconnect": "Lockable disconnect",
}
AISLES: Final = ("Wire", "Raceway", "Fittings", "Boxes and outlets", "Panel")


class Item(msgspec.Struct, frozen=True, eq=False):
    """One line of the list, for every row of a table at once.

    ``keys[index[row]]`` is the price key of a row, ``quantity[row]`` how many.
    """

    aisle: str
    keys: tuple[str, ...]
    index: Ints
    """Shape (N,); -1 where a size is unread."""
    quantity: Floats
    """Shape (N,)."""
    unit: str
    detail: str = ""
    """What the key does not say: a colour."""
    where: str = ""
    """Leg, ``panel``, ``charger`` or ``line``."""


class Part(msgspec.Struct, frozen=True):
    """One line of the list of the chosen circuit."""

    key: str
    aisle: str
    name: str
    quantity: float
    unit: str
    each: float | None
    """Price; None while unread."""
    where: str

    @property
    def total(self) -> float | None:
        """Price of the line; None while unread."""
        return None if self.each is None else round(self.each * self.quantity, 2)


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
    case, rows = table.case, len(table.hot)
    found = _wire(table, ground)
    for section in case.sections:
        if not section.method.cable:
            found += _raceway(table, section, trade)
        else:
            found.append(_staples(section, rows))
    found += _run_parts(table, trade)
    found += _boxes(table, trade)
    return found + _ends(table)


def row_cost(items: Sequence[Item], prices: dict[str, str]) -> tuple[Floats, Flags]:
    """Cost of every row.

    Returns
    -------
    cost : ndarray, shape (N,)
        Sum of the known prices [currency].
    priced : ndarray of bool, shape (N,)
        Whether every price of the row that differs from row to row is known.
    """
    rows = len(items[0].index) if items else 0
    cost, priced = np.zeros(rows), np.ones(rows, dtype=bool)
    for item in items:
        if len(item.keys) == 1:
            cost += float(prices.get(item.keys[0], 0)) * item.quantity
            continue
        # Only the keys that some row takes; the last place stands for an unread size.
        each, known = np.zeros(len(item.keys) + 1), np.ones(len(item.keys) + 1, dtype=bool)
        for at in set(item.index.tolist()) - {-1}:
            price = prices.get(item.keys[at])
            each[at], known[at] = float(price or 0), price is not None
        priced &= known[item.index] | (item.quantity == 0)
        cost += each[item.index] * item.quantity
    return cost, priced


def list_parts(items: Sequence[Item], row: int, prices: dict[str, str]) -> tuple[Part, ...]:
    """The list of one row, in aisle order; lines of nothing are left out, equal lines joined."""
    joined: dict[tuple[str, str], Part] = {}
    for item in items:
        quantity = float(item.quantity[row])
        if quantity <= 0:
            continue
        at = int(item.index[row])
        key = item.keys[at] if at >= 0 else item.keys[0].rsplit(":", 1)[0] + ":?"
        name = item_name(key) + (f", {item.detail}" if item.detail else "")
        each = float(prices[key]) if key in prices else None
        before = joined.get((key, name))
        total = quantity + (before.quantity if before else 0.0)
        where = before.where if before else item.where
        joined[key, name] = Part(key, item.aisle, name, total, item.unit, each, where)
    return tuple(sorted(joined.values(), key=lambda part: AISLES.index(part.aisle)))


def item_name(key: str) -> str:
    """A price key in words."""
    kind, *rest = key.split(":")
    if "?" in rest:
        return f"{kind}, size unread"
    if kind == "wire":
        return f"{print_gauge(rest[1])} {METAL_NAMES[rest[0]]} {rest[2].upper()}"
    if kind == "cable":
        return f"{rest[2]}/{rest[3]} {METAL_NAMES[rest[1]]} {rest[0].upper()} cable"
    if kind == "breaker":
        return f"{rest[1]} A {'two' if rest[0] == '2' else 'one'}-pole breaker" + (", GFCI" if rest[2:] else "")
    if kind == "receptacle":
        return f"{rest[0]} receptacle, EV duty"
    if kind == "charger":
        return f"{rest[0]} A charging unit"
    if kind == "box":
        return f"{rest[0]} box with cover"
    if kind in RUN_NAMES:
        return RUN_NAMES[kind]
    if kind == "filler":
        return "Filler plate for an empty space"
    if kind == "management":
        return "Load controller with two current sensors" if rest[0] == "sensors" else "Circuit-sharing switching unit"
    if kind == "reducer":
        return "Reducing bushing"
    if kind in ("staple", "clamp"):
        return f"{rest[0].upper()} cable {kind}"
    names = {
        "expansion": "expansion fitting",
        "stick": "stick, 10 ft",
        "elbow": "elbow, 90°",
        "body": "conduit body, cover, gasket",
    }
    method = {"emt": "EMT", "pvc40": "PVC 40", "pvc80": "PVC 80"}.get(rest[0], rest[0].upper())
    return f"{draw_trade_size(rest[1])} {method} {names.get(kind, kind)}"


def _spans(case: Case) -> list[tuple[bool, list[Section]]]:
    """Neighbouring sections that one set of conductors passes through: raceways together, each cable alone."""
    spans: list[tuple[bool, list[Section]]] = []
    for section in case.sections:
        cable = section.method.cable
        if spans and spans[-1][0] == cable and not cable:
            spans[-1][1].append(section)
        else:
            spans.append((cable, [section]))
    return spans


def span_length(case: Case, sections: list[Section]) -> float:
    """Length of one conductor through neighbouring sections with what it takes to land it [m]."""
    makeup, legs = case.job.makeup, [walked for section in sections for walked in section.legs]
    first, last = sections[0].number == 0, sections[-1].number == len(case.sections) - 1
    inside = sum(makeup.box_loop_m for walked in legs[:-1] if walked.pulls)
    tails = (makeup.panel_tail_m if first else makeup.box_loop_m) + (makeup.unit_tail_m if last else makeup.box_loop_m)
    return sum(section.length_m for section in sections) + inside + tails


def conductors(case: Case) -> tuple[tuple[str, str], ...]:
    """Colour and letter of each conductor."""
    hots = (("black", "1"), ("red", "2"))[: case.hots]
    ground = () if case.raceway_ground else (("green", "G"),)
    return (*hots, *((("white", "N"),) if case.neutral else ()), *ground)


def _wire(table: Table, ground: Ints) -> list[Item]:
    case, book, rows = table.case, table.case.book, len(table.hot)
    insulation, metal = table.insulation[table.group], table.material[table.group]
    sizes = len(book.sizes)
    found = []
    for cable, sections in _spans(case):
        feet = float(math.ceil(span_length(case, sections) / FOOT_M - 1e-6))
        length = np.full(rows, feet)
        where = sections[0].legs[0].leg.id
        if cable:
            ways = case.hots + case.neutral
            method = sections[0].method.key
            keys = tuple(f"cable:{method}:{m}:{s}:{ways}" for m in METAL_NAMES for s in book.sizes)
            found.append(Item("Wire", keys, metal * sizes + table.hot, length, "ft", where=where))
            found.append(
                Item(
                    "Fittings", (f"clamp:{method}",), np.zeros(rows, dtype=int), np.full(rows, 2.0), "each", where=where
                )
            )
            continue
        keys = _wire_keys(book.sizes, book.insulations)
        base = (metal * len(book.insulations) + insulation) * sizes
        for colour, letter in conductors(case):
            size = ground if letter == "G" else table.hot
            index = np.where(size < 0, -1, base + size)
            found.append(Item("Wire", keys, index, length, "ft", colour, where))
    return found


@functools.cache
def _wire_keys(sizes: tuple[str, ...], insulations: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(f"wire:{m}:{s}:{i}" for m in METAL_NAMES for i in insulations for s in sizes)


def _sized(kind: str, method: Method, case: Case) -> tuple[str, ...]:
    return tuple(f"{kind}:{method.key}:{size}" for size in case.book.trade_sizes)


def _raceway(table: Table, section: Section, trade: Ints) -> list[Item]:
    case, method, rows = table.case, section.method, len(table.hot)
    index = trade[:, section.number]
    pieces = pieces_of(section)
    sticks = cut(pieces)
    whole = sum(1 for piece in pieces if abs(piece.length_m - STICK_M) < 1e-9)
    elbows = sum(
        1 for walked in section.legs[:-1] if not walked.pulls and walked.turn_deg > 1e-6 and walked.leg.bend == "elbow"
    )
    last = section.legs[-1]
    if not last.pulls and last.turn_deg > 1e-6 and last.leg.bend == "elbow" and section.number < len(case.sections) - 1:
        elbows += 1
    runs = 1 + sum(1 for walked in section.legs[:-1] if walked.pulls)
    joints = len(pieces) + elbows - runs
    belled = method.key.startswith("pvc")
    couplings = max(0, joints - whole) if belled else joints
    ends = 2 * runs
    where = section.legs[0].leg.id
    counts = [
        ("Raceway", "stick", len(sticks)),
        ("Raceway", "elbow", elbows),
        ("Fittings", "coupling", couplings),
        ("Fittings", "adapter and locknut" if belled else "connector", ends),
    ]
    found = [
        Item(aisle, _sized(kind, method, case), index, np.full(rows, float(count)), "each", where=where)
        for aisle, kind, count in counts
    ]
    by_size = np.zeros(len(case.book.trade_sizes))
    for at in set(index.tolist()) - {-1}:
        by_size[at] = sum(len(straps(walked, case.book.trade_sizes[at])) for walked in section.legs)
    found.append(Item("Fittings", _sized("strap", method, case), index, by_size[index], "each", where=where))
    return found


def _run_parts(table: Table, trade: Ints) -> list[Item]:
    """What the way itself asks for: nipples, seals, plates, expansion fittings, ribbon."""
    case, rows = table.case, len(table.hot)
    none, one = np.zeros(rows, dtype=int), np.ones(rows)
    found: list[Item] = []

    def add(key: str, count: float, where: str, unit: str = "each") -> None:
        if count:
            found.append(Item("Fittings", (key,), none, one * count, unit, where=where))

    for section in case.sections:
        for walked in section.legs:
            if walked.leg.slip and section.method.key in ("pvc40", "pvc80"):
                keys, index = _sized("expansion", section.method, case), trade[:, section.number]
                found.append(Item("Fittings", keys, index, one, "each", where=walked.leg.id))
            add("nail plate", nail_plates(walked), walked.leg.id)
            if not walked.crosses:
                continue
            there = passage(walked)
            if there.fire:
                add("fire seal", 1, walked.leg.id)
            elif there.weather or there.warm_to_cold:
                add("duct seal", 1, walked.leg.id)
    add("warning ribbon", ribbon_m(case.line), "line", "m")
    return found


def _staples(section: Section, rows: int) -> Item:
    count = float(sum(len(straps(walked, None)) for walked in section.legs))
    keys = (f"staple:{section.method.key}",)
    return Item("Fittings", keys, np.zeros(rows, dtype=int), np.full(rows, count), "each", where=section.legs[0].leg.id)


def _boxes(table: Table, trade: Ints) -> list[Item]:
    case, rows = table.case, len(table.hot)
    none = np.zeros(rows, dtype=int)
    found = []
    for section in case.sections:
        for walked in section.legs:
            end = walked.leg.end
            if end == "box":
                key = f"box:{walked.leg.box or '4-11/16 in'}"
                found.append(Item("Boxes and outlets", (key,), none, np.ones(rows), "each", where=walked.leg.id))
            elif end in ("body", "pull elbow") and not section.method.cable:
                here = trade[:, section.number]
                following = walked is section.legs[-1] and section.number + 1 < len(case.sections)
                beyond = trade[:, section.number + 1] if following else here
                beyond = np.where(beyond < 0, here, beyond)
                size = np.maximum(here, beyond)
                kind = "body" if end == "body" else "pull elbow"
                found.append(
                    Item(
                        "Fittings", _sized(kind, section.method, case), size, np.ones(rows), "each", where=walked.leg.id
                    )
                )
                uneven = (here != beyond).astype(float)
                found.append(Item("Fittings", ("reducer",), none, uneven, "each", where=walked.leg.id))
    return found


def _ends(table: Table) -> list[Item]:
    case, rows = table.case, len(table.hot)
    none, one = np.zeros(rows, dtype=int), np.ones(rows)
    keys, index = np.unique(table.breaker_a, return_inverse=True)
    gfci = ":gfci" if needs_gfci(case, float(table.breaker_a[0])) else ""
    breakers = tuple(f"breaker:{case.hots}:{rating:g}{gfci}" for rating in keys)
    found = [Item("Panel", breakers, index[table.group], one, "each", where="panel")]
    if case.receptacle:
        found.append(
            Item("Boxes and outlets", (f"receptacle:{case.receptacle.config}",), none, one, "each", where="charger")
        )
        found.append(Item("Boxes and outlets", ("box:2-gang deep",), none, one, "each", where="charger"))
    demand, fillers = case.job.demand, len(case.job.dead_front.fillers)
    if fillers:
        found.append(Item("Panel", ("filler",), none, one * fillers, "each", where="panel"))
    if demand.managed or demand.shares:
        kind = "sensors" if demand.managed else "switch"
        found.append(Item("Panel", (f"management:{kind}",), none, one, "each", where="panel"))
    if case.job.circuit.copper_tail and bool((table.material == 1).all()):
        found.append(Item("Boxes and outlets", ("splice kit",), none, one, "each", where="charger"))
    if case.job.local.surge:
        found.append(Item("Panel", ("surge",), none, one, "each", where="panel"))
    if case.job.charger.disconnect:
        found.append(Item("Boxes and outlets", ("disconnect",), none, one, "each", where="charger"))
    nameplate = case.job.charger.nameplate_a
    if nameplate:
        found.append(Item("Boxes and outlets", (f"charger:{nameplate:g}",), none, one, "each", where="charger"))
    return found
