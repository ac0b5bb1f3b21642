"""Green Button (ESPI) XML: blocks of readings, each by the type of reading it belongs to."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final, NamedTuple, cast

import numpy as np

from awlmark.core.errors import FileError
from awlmark.core.panel.meter import MOST_ROWS, ROWS_A_TICK, Progress, Rows

if TYPE_CHECKING:
    from xml.etree.ElementTree import Element

_ESPI: Final = "{http://naesb.org/espi}"
_ATOM: Final = "{http://www.w3.org/2005/Atom}"
_VALUE: Final = f"{_ESPI}value"
_PERIOD: Final = f"{_ESPI}timePeriod"
_START: Final = f"{_ESPI}start"
_CHUNK: Final = 1 << 19
RECEIVED: Final = "19"
"""ESPI flow direction: from the customer to the grid; from memory."""
WATT_HOURS: Final = "72"
"""ESPI unit of measure: Wh; from memory."""


class _Type(NamedTuple):
    """How the values of a block are meant."""

    factor: float = 0.001
    sign: float = 1.0


def espi_rows(data: bytes, name: str, progress: Progress) -> Rows:
    """Rows of a Green Button file; what ran back to the grid counts against what was delivered.

    A block goes by the reading type that its links lead to, or the only one of the file, wherever that stands; else by
    the last one before it, or the first one behind it.
    """
    tree = _tree(data, name, progress)
    notes: list[str] = []
    clock_s = 0.0
    for node in tree.iter(f"{_ESPI}tzOffset"):
        clock_s = _number(node.text, 0.0)
        if not abs(clock_s) <= 86400:
            raise FileError(f"{name} has a time zone {clock_s:g} s off, which is more than a day.")
    if clock_s:
        notes.append(f"Its clock stands {clock_s / 3600:+g} h from universal time")
    starts: list[float] = []
    values: list[float] = []
    names: list[str] = []
    blocks = _blocks(tree, name)
    count = sum(len(block) for block, _kind in blocks)
    for block, kind in blocks:
        for node in block:
            if node.tag != f"{_ESPI}IntervalReading":
                continue
            start_text = value_text = None
            # By hand: a path search would cost more than all the rest.
            for child in node:
                if child.tag == _VALUE:
                    value_text = child.text
                elif child.tag == _PERIOD:
                    start_text = next((part.text for part in child if part.tag == _START), None)
            starts.append(_number(start_text, float("nan")) + clock_s)
            values.append(_number(value_text, float("nan")) * kind.factor * kind.sign)
            names.append(f"reading at {start_text}")
            if len(names) % ROWS_A_TICK == 0:
                progress(0.7 + 0.3 * len(names) / max(count, 1))
            if len(names) > MOST_ROWS:
                raise FileError(f"{name} has more than {MOST_ROWS:,} readings; cut it to one year.")
    rows = Rows(np.array(starts), np.array(values), np.ones(len(starts), dtype=bool), names, notes)
    directions = {kind.sign for _block, kind in blocks}
    return _net(rows) if len(directions) == 2 else rows


def _blocks(tree: Element, name: str) -> list[tuple[Element, _Type]]:
    """Every block of readings with the type it goes by."""
    types: dict[str, _Type] = {}
    leads: dict[str, str] = {}
    found: list[tuple[Element, str, int]] = []
    in_order: list[tuple[int, _Type]] = []
    entries = list(tree.iter(f"{_ATOM}entry")) or [tree]
    for number, entry in enumerate(entries):
        links = {link.get("rel", ""): link.get("href", "") for link in entry.iter(f"{_ATOM}link")}
        for node in entry.iter(f"{_ESPI}ReadingType"):
            kind = _type(node, name)
            types[links.get("self", "")] = kind
            in_order.append((number, kind))
        if next(entry.iter(f"{_ESPI}MeterReading"), None) is not None:
            related = [link.get("href", "") for link in entry.iter(f"{_ATOM}link") if link.get("rel") == "related"]
            leads[links.get("self", "")] = next((href for href in related if "ReadingType" in href), "")
        found += [(block, links.get("up", ""), number) for block in entry.iter(f"{_ESPI}IntervalBlock")]
    kinds = {kind for _number, kind in in_order}
    return [(block, _of(up, number, types, leads, in_order, kinds)) for block, up, number in found]


def _of(
    up: str, number: int, types: dict[str, _Type], leads: dict[str, str], in_order: list[tuple[int, _Type]],
    kinds: set[_Type],
) -> _Type:  # fmt: skip
    if len(kinds) <= 1:
        return next(iter(kinds), _Type())
    for reading, href in leads.items():
        if reading and up.startswith(reading) and href in types:
            return types[href]
    before = [kind for at, kind in in_order if at <= number]
    return before[-1] if before else in_order[0][1]


def _type(node: Element, name: str) -> _Type:
    unit = node.findtext(f"{_ESPI}uom") or WATT_HOURS
    if unit != WATT_HOURS:
        raise FileError(f"{name} measures in unit {unit}; only watt-hours ({WATT_HOURS}) are taken.")
    sign = -1.0 if node.findtext(f"{_ESPI}flowDirection") == RECEIVED else 1.0
    power = _number(node.findtext(f"{_ESPI}powerOfTenMultiplier"), 0.0)
    if not -12 <= power <= 12:
        raise FileError(f"{name} has a multiplier of 10 to the {power:g}, which no meter uses.")
    return _Type(10 ** int(power) / 1000, sign)


def _net(rows: Rows) -> Rows:
    """Delivered and received flows of one meter as one, time by time."""
    sound = np.isfinite(rows.starts) & np.isfinite(rows.values)
    starts, where = np.unique(rows.starts[sound], return_inverse=True)
    values = np.zeros(len(starts))
    np.add.at(values, where, rows.values[sound])
    names = [f"reading at {start:.0f}" for start in starts.tolist()]
    lost = [f"{rows.names[n]}: time or value can't be read" for n in np.flatnonzero(~sound).tolist()]
    return Rows(starts, values, np.ones(len(starts), dtype=bool), names, rows.notes, generation=True, unread=lost)


def _tree(data: bytes, name: str, progress: Progress) -> Element:
    from xml.etree.ElementTree import TreeBuilder

    from defusedxml import ElementTree
    from defusedxml.common import DefusedXmlException

    try:
        parser = ElementTree.DefusedXMLParser(target=TreeBuilder())
        for at in range(0, len(data), _CHUNK):
            progress(0.7 * at / len(data))
            parser.feed(data[at : at + _CHUNK])
        return cast("Element", parser.close())
    except DefusedXmlException as problem:
        raise FileError(f"{name} defines entities of its own, which no meter file does.") from problem
    except (ElementTree.ParseError, ValueError, LookupError) as problem:
        raise FileError(f"{name} is damaged or no Green Button file: {problem}.") from problem


def _number(text: str | None, otherwise: float) -> float:
    try:
        return float(text) if text else otherwise
    except ValueError:
        return otherwise
