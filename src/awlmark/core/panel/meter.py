"""Reading interval data of a meter: CSV as utilities hand it out, and Green Button (ESPI) XML."""

from __future__ import annotations

import csv
import datetime as dt
import io
import re
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import TYPE_CHECKING, Final, cast

import numpy as np

from awlmark.core.book.edition import Floats
from awlmark.core.errors import FileError
from awlmark.core.panel.metered import Metered

if TYPE_CHECKING:
    from xml.etree.ElementTree import Element

MOST_ROWS: Final = 600_000
LARGEST_BYTES: Final = 64 * 1024 * 1024
LATEST_S: Final = 4_102_444_800.0
"""1 January 2100."""
MOST_TOLD: Final = 20
"""Rows left out that are named one by one; the rest is counted."""
_UNITS: Final = (("kwh", 1.0, True), ("wh", 0.001, True), ("kw", 1.0, False), ("w", 0.001, False))
"""Unit, factor to kilo, and whether it is energy of the interval."""
_VALUE: Final = ("usage", "consumption", "value", "energy", "demand", "import", "kwh", "kw", "wh")
_FORMATS: Final = (
    "%m/%d/%Y %H:%M:%S", "%m/%d/%Y %H:%M", "%m/%d/%Y %I:%M %p", "%d/%m/%Y %H:%M",
    "%d.%m.%Y %H:%M", "%m/%d/%y %H:%M",
)  # fmt: skip
_ZONE: Final = re.compile(r"(Z|[+-]\d\d:?\d\d)$")
_ESPI: Final = "{http://naesb.org/espi}"
_ESPI_VALUE: Final = f"{_ESPI}value"
_ESPI_PERIOD: Final = f"{_ESPI}timePeriod"
_ESPI_START: Final = f"{_ESPI}start"
_RECEIVED: Final = "19"
"""ESPI flow direction: from the customer to the grid."""
_CHUNK: Final = 1 << 19
_WATT_HOURS: Final = "72"
"""ESPI unit of measure: Wh."""


Progress = Callable[[float], None]
"""Told the share that is done, 0 to 1, every few thousand rows; it may raise to stop the reading."""
ROWS_A_TICK: Final = 2000


def read_meter(path: Path, progress: Progress = lambda share: None) -> Metered:
    """Read interval data from a file.

    Parameters
    ----------
    path : Path
        CSV with a header that names time and a unit (kWh, Wh, kW, W), or Green Button XML.
    progress : callable, optional
        Told how far the reading is; what it raises ends the reading.

    Raises
    ------
    FileError
        When it holds no interval data; the message says what was looked for.
    """
    try:
        with path.open("rb") as source:
            data = source.read(LARGEST_BYTES + 1)
    except OSError as problem:
        raise FileError(f"Can't read {path.name}: {(problem.strerror or str(problem)).lower()}.") from problem
    if len(data) > LARGEST_BYTES:
        raise FileError(f"{path.name} is larger than {LARGEST_BYTES // 2**20} MiB; cut it to one year.")
    if data.lstrip()[:1] == b"<":
        notes: list[str] = []
        count = data.count(b"IntervalReading>") // 2
        rest = _ticking(lambda share: progress(0.7 + 0.3 * share), count)
        rows = _espi_rows(data, path.name, notes, progress)
        both = f"flowDirection>{_RECEIVED}<".encode() in data
        return _finish(_net(rows) if both else rows, path.name, notes, rest)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    try:
        notes = []
        return _finish(_csv_rows(text, path.name, notes), path.name, notes, _ticking(progress, text.count("\n")))
    except csv.Error as problem:
        raise FileError(f"{path.name} is no CSV that can be read: {problem}.") from problem


Row = tuple[float, float | None, bool, str]
"""Start [s], kilo-value, whether it is energy, and the row's name for messages. A value of None was not readable."""


def _ticking(progress: Progress, rows: int) -> Callable[[int], None]:
    """Progress by the number of the row."""
    return lambda row: progress(min(row / max(rows, 1), 1.0)) if row % ROWS_A_TICK == 0 else None


def _csv_rows(text: str, name: str, notes: list[str]) -> Iterable[Row]:
    sample = text[:4096]
    delimiter = max(",;\t", key=sample.count)
    lines = io.StringIO(text.replace("\r\n", "\n").replace("\r", "\n").replace("\0", ""))
    reader = csv.reader(lines, delimiter=delimiter)
    head: list[str] = []
    for at, row in enumerate(reader, 1):
        lower = [cell.strip().lower() for cell in row]
        if _value_column(lower) is not None and _time_columns(lower):
            head, first = lower, at
            break
        if at > 60:
            break
    if not head:
        raise FileError(f"{name} has no header that names a time and a value in kWh, Wh, kW or W.")
    value = _value_column(head)
    assert value is not None
    times = _time_columns(head)
    times = times[:2] if "date" in head[times[0]] and "time" not in head[times[0]] and len(times) > 1 else times[:1]
    unit_at = next((n for n, cell in enumerate(head) if cell in ("unit", "units", "uom")), None)
    factor, energy = _unit(head[value])
    form: list[str] = []
    zones: set[str] = set()
    for number, row in enumerate(reader, first + 1):
        if not any(cell.strip() for cell in row):
            continue
        told = f"row {number}"
        if len(row) <= max(value, *times):
            yield np.nan, None, True, told
            continue
        start = _time(" ".join(row[n].strip() for n in times), form, zones)
        if unit_at is not None and unit_at < len(row):
            factor, energy = _unit(row[unit_at])
        try:
            amount = float(row[value].replace(",", "") if delimiter != "," else row[value]) * factor
        except ValueError:
            amount = np.nan
        yield start, None if not np.isfinite(amount) else amount, energy, told
    if len(zones) == 1 and zones & {"Z", "+00:00", "+0000"}:
        notes.append("Its times are universal time, not the meter's own clock")
    elif len(zones) > 1:
        notes.append(f"Its zone changes ({', '.join(sorted(zones))}): the clock as printed was kept")


def _value_column(head: list[str]) -> int | None:
    named = [
        n
        for n, cell in enumerate(head)
        if any(word in cell for word in _VALUE) and not re.search("date|time|cost", cell)
    ]
    with_unit = [n for n in named if re.search(r"\b(kwh|wh|kw|w)\b", head[n])]
    return next(iter(with_unit or named), None)


def _time_columns(head: list[str]) -> list[int]:
    """Columns that tell when an interval begins: a date and a time, or both in one."""
    value = _value_column(head)
    return [n for n, cell in enumerate(head) if n != value and re.search("date|time|start", cell) and "end" not in cell]


def _unit(text: str) -> tuple[float, bool]:
    lower = text.lower()
    for unit, factor, energy in _UNITS:
        if re.search(rf"\b{unit}\b", lower):
            return factor, energy
    return 1.0, True


def _time(text: str, form: list[str], zones: set[str]) -> float:
    """Seconds of a written time, NaN when it cannot be read; the first form that fits serves the rest."""
    plain = text.strip().replace("T", " ")
    zone = _ZONE.search(plain) if len(plain) > 10 else None
    if zone:
        zones.add(zone[1])
        plain = plain[: zone.start()].strip()
    if plain[4:5] == "-":
        try:
            return dt.datetime.fromisoformat(plain).replace(tzinfo=dt.UTC).timestamp()
        except ValueError:
            return float("nan")
    for shape in form or _FORMATS:
        try:
            found = dt.datetime.strptime(plain, shape).replace(tzinfo=dt.UTC).timestamp()
        except ValueError:
            continue
        if not form:
            form.append(shape)
        return found
    return float("nan")


def _net(rows: Iterable[Row]) -> list[Row]:
    """Delivered and received flows of one meter as one: what was received counts against what was delivered."""
    found: dict[float, Row] = {}
    unread = []
    for start, value, energy, told in rows:
        if value is None or not np.isfinite(start + value):
            unread.append((start, value, energy, told))
        else:
            before = found.get(start)
            found[start] = (start, value + (before[1] or 0.0 if before else 0.0), energy, told)
    return [found[start] for start in sorted(found)] + unread


def _espi_rows(data: bytes, name: str, notes: list[str], progress: Progress) -> Iterable[Row]:
    factor, sign, clock_s = 0.001, 1.0, 0.0
    for node in _espi_tree(data, name, progress).iter():
        if node.tag == f"{_ESPI}IntervalReading":
            start_text = value_text = None
            # By hand: a path search would cost more than all the rest.
            for child in node:
                if child.tag == _ESPI_VALUE:
                    value_text = child.text
                elif child.tag == _ESPI_PERIOD:
                    start_text = next((part.text for part in child if part.tag == _ESPI_START), None)
            start, value = _number(start_text, float("nan")), _number(value_text, float("nan"))
            yield start + clock_s, value * factor * sign, True, f"reading at {start_text}"
        elif node.tag == f"{_ESPI}tzOffset":
            clock_s = _number(node.text, 0.0)
            if not abs(clock_s) <= 86400:
                raise FileError(f"{name} has a time zone {clock_s:g} s off, which is more than a day.")
            notes.append(f"Its clock stands {clock_s / 3600:+g} h from universal time")
        elif node.tag == f"{_ESPI}ReadingType":
            unit = node.findtext(f"{_ESPI}uom") or _WATT_HOURS
            if unit != _WATT_HOURS:
                raise FileError(f"{name} measures in unit {unit}; only watt-hours (72) are taken.")
            sign = -1.0 if node.findtext(f"{_ESPI}flowDirection") == _RECEIVED else 1.0
            factor = 10 ** int(_number(node.findtext(f"{_ESPI}powerOfTenMultiplier"), 0)) / 1000


def _espi_tree(data: bytes, name: str, progress: Progress) -> Element:
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
    except (ElementTree.ParseError, ValueError) as problem:
        raise FileError(f"{name} is damaged or no Green Button file: {problem}.") from problem


def _number(text: str | None, otherwise: float) -> float:
    try:
        return float(text) if text else otherwise
    except ValueError:
        return otherwise


def _finish(rows: Iterable[Row], name: str, notes: list[str], tick: Callable[[int], None]) -> Metered:
    """Sort out what cannot be taken: unreadable rows, times that run backward; a repeated autumn hour is kept."""
    starts: list[float] = []
    values: list[float] = []
    energies: list[bool] = []
    out: list[str] = []
    repeated = 0.0
    for count, (start, value, energy, told) in enumerate(rows):
        tick(count)
        if count >= MOST_ROWS:
            out.append(f"everything after {told}: more than {MOST_ROWS:,} rows")
            break
        if value is None or not 0 <= start <= LATEST_S or not np.isfinite(value):
            out.append(f"{told}: time or value can't be read")
        elif abs(value) > 10_000:
            out.append(f"{told}: {value:g} is out of reach")
        elif starts and start <= starts[-1]:
            if 0 < starts[-1] - start <= 3600 and repeated == 0.0:
                # Clocks went back: the hour is told twice. It is kept once, with the higher value of the two.
                repeated = starts[-1]
                back = dt.datetime.fromtimestamp(start, dt.UTC)
                notes.append(f"The hour from {back:%Y-%m-%d %H:%M} is told twice; the higher value was kept")
            at = len(starts) - 1
            while at > 0 and starts[at] > start:
                at -= 1
            if repeated and start <= repeated and starts[at] == start:
                values[at] = max(values[at], value)
            else:
                out.append(f"{told}: its time does not come after the row before")
        else:
            starts.append(start)
            values.append(value)
            energies.append(energy)
    if len(starts) < 2:
        why = f" {out[0]}." if out else ""
        raise FileError(f"{name} holds no interval data that can be used.{why}")
    interval = float(np.median(np.diff(starts[:5000])))
    if interval > 3600 + 1:
        raise FileError(f"{name} has intervals of {interval / 3600:.0f} hours; demand wants an hour or less.")
    hours = np.where(energies, interval / 3600, 1.0)
    shown = (*out[:MOST_TOLD], *([f"and {len(out) - MOST_TOLD} more"] if len(out) > MOST_TOLD else []))
    kw: Floats = np.array(values) / hours
    return Metered(np.array(starts), kw, interval, shown, tuple(notes))
