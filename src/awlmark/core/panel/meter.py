"""Interval data of a meter: CSV as utilities hand it out, and Green Button (ESPI) XML; the demand in it."""

from __future__ import annotations

import csv
import datetime as dt
import io
import re
from collections.abc import Iterable
from pathlib import Path
from typing import Final

import msgspec
import numpy as np

from awlmark.core.book.edition import Floats
from awlmark.core.errors import FileError
from awlmark.core.job.edit import Put

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
_WATT_HOURS: Final = "72"
"""ESPI unit of measure: Wh."""


class Metered(msgspec.Struct, frozen=True, eq=False):
    """What a meter told, interval by interval."""

    starts: Floats
    """Start of each interval, seconds since 1970 on the meter's own clock, shape (N,)."""
    kw: Floats
    """Mean power of each interval, shape (N,)."""
    interval_s: float
    left_out: tuple[str, ...] = ()
    """Rows that were not taken, and why."""

    @property
    def highest_kw(self) -> float:
        """Highest demand [kW]."""
        return float(self.kw.max())

    @property
    def days(self) -> float:
        """Days covered by intervals."""
        return len(self.kw) * self.interval_s / 86400

    def missing(self) -> list[tuple[float, float]]:
        """Spans without data, as (start, end) seconds."""
        ends = self.starts[:-1] + self.interval_s
        gaps = self.starts[1:] - ends
        return [(float(ends[n]), float(self.starts[n + 1])) for n in np.flatnonzero(gaps > self.interval_s * 0.5)]

    def exports(self) -> bool:
        """Whether power ran back: solar, which 220.87 does not take."""
        return bool((self.kw < -0.01).any())

    def words(self) -> str:
        """The data in a sentence."""
        first, last = (dt.datetime.fromtimestamp(at, dt.UTC).date() for at in (self.starts[0], self.starts[-1]))
        gaps = len(self.missing())
        told = f"{self.days:.0f} days of {self.interval_s / 60:.0f}-minute data, {first} to {last}"
        told += f", {gaps} gaps" if gaps else ""
        return told + (f", {len(self.left_out)} rows left out" if self.left_out else "")


def read_meter(path: Path) -> Metered:
    """Read interval data from a file.

    Parameters
    ----------
    path : Path
        CSV with a header that names time and a unit (kWh, Wh, kW, W), or Green Button XML.

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
        return _finish(_espi_rows(data, path.name), path.name)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    try:
        return _finish(_csv_rows(text, path.name), path.name)
    except csv.Error as problem:
        raise FileError(f"{path.name} is no CSV that can be read: {problem}.") from problem


Row = tuple[float, float | None, bool, str]
"""Start [s], kilo-value, whether it is energy, and the row's name for messages. A value of None was not readable."""


def _csv_rows(text: str, name: str) -> Iterable[Row]:
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
    for number, row in enumerate(reader, first + 1):
        if not any(cell.strip() for cell in row):
            continue
        told = f"row {number}"
        if len(row) <= max(value, *times):
            yield np.nan, None, True, told
            continue
        start = _time(" ".join(row[n].strip() for n in times), form)
        if unit_at is not None and unit_at < len(row):
            factor, energy = _unit(row[unit_at])
        try:
            amount = float(row[value].replace(",", "") if delimiter != "," else row[value]) * factor
        except ValueError:
            amount = np.nan
        yield start, None if not np.isfinite(amount) else amount, energy, told


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


def _time(text: str, form: list[str]) -> float:
    """Seconds of a written time, NaN when it cannot be read; the first form that fits serves the rest."""
    plain = text.strip().replace("T", " ")
    if plain.endswith("Z") or plain[-6:-5] in ("+", "-"):
        plain = _ZONE.sub("", plain).strip()
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


def _espi_rows(data: bytes, name: str) -> Iterable[Row]:
    from defusedxml import ElementTree
    from defusedxml.common import DefusedXmlException

    try:
        tree = ElementTree.fromstring(data)
    except DefusedXmlException as problem:
        raise FileError(f"{name} defines entities of its own, which no meter file does.") from problem
    except (ElementTree.ParseError, ValueError) as problem:
        raise FileError(f"{name} is damaged or no Green Button file: {problem}.") from problem
    factor = 0.001
    start_path, value_path = f"{_ESPI}timePeriod/{_ESPI}start", f"{_ESPI}value"
    for node in tree.iter():
        if node.tag == f"{_ESPI}ReadingType":
            unit = node.findtext(f"{_ESPI}uom") or _WATT_HOURS
            if unit != _WATT_HOURS:
                raise FileError(f"{name} measures in unit {unit}; only watt-hours (72) are taken.")
            factor = 10 ** int(_number(node.findtext(f"{_ESPI}powerOfTenMultiplier"), 0)) / 1000
        elif node.tag == f"{_ESPI}IntervalReading":
            told = node.findtext(start_path)
            start, value = _number(told, float("nan")), _number(node.findtext(value_path), float("nan"))
            yield start, value * factor, True, f"reading at {told}"


def _number(text: str | None, otherwise: float) -> float:
    try:
        return float(text) if text else otherwise
    except ValueError:
        return otherwise


def _finish(rows: Iterable[Row], name: str) -> Metered:
    """Sort out what cannot be taken: unreadable rows, times that run backward; a repeated autumn hour is kept."""
    starts: list[float] = []
    values: list[float] = []
    energies: list[bool] = []
    out: list[str] = []
    repeated = 0.0
    for count, (start, value, energy, told) in enumerate(rows):
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
    return Metered(np.array(starts), kw, interval, shown)


def invented_year(seed: int = 7, interval_s: int = 900, peak_kw: float = 9.0) -> Metered:
    """A year of invented household data: nights, mornings, evenings, winter and chance.

    Parameters
    ----------
    seed : int
        The same seed gives the same year.
    interval_s : int
        Length of an interval [s].
    peak_kw : float
        About how high it goes [kW].
    """
    chance = np.random.default_rng(seed)
    count = 365 * 86400 // interval_s
    start = dt.datetime(2025, 1, 1, tzinfo=dt.UTC).timestamp()
    seconds = np.arange(count) * interval_s
    hour, day = seconds % 86400 / 3600, seconds // 86400
    season = 1 + 0.35 * np.cos(2 * np.pi * (day - 15) / 365)
    shape = 0.25 + 0.5 * np.exp(-(((hour - 7.5) / 1.2) ** 2)) + 1.0 * np.exp(-(((hour - 19) / 2.2) ** 2))
    kw = shape * season * chance.gamma(6, 1 / 6, count) * peak_kw / 3.2
    return Metered((start + seconds).astype(np.float64), np.round(kw, 3), float(interval_s))


def write_csv(metered: Metered) -> str:
    """Interval data as CSV text: start, kWh."""
    lines = ["start,usage kWh"]
    hours = metered.interval_s / 3600
    for start, kw in zip(metered.starts, metered.kw, strict=True):
        at = dt.datetime.fromtimestamp(start, dt.UTC).strftime("%Y-%m-%d %H:%M")
        lines.append(f"{at},{kw * hours:.4f}")
    return "\n".join(lines) + "\n"


def demand_edits(metered: Metered, volts: float) -> tuple[Put, ...]:
    """Edits that take the highest demand into the job, and the measured method where the data reach for it.

    220.87 wants a year, or 30 days of quarter-hours, and no generation behind the meter.
    """
    edits = [Put("demand.measured_a", round(metered.highest_kw * 1000 / volts, 2))]
    long_enough = metered.days >= 360 or (metered.days >= 30 and metered.interval_s <= 900)
    if long_enough and not metered.exports():
        edits.append(Put("demand.method", "measured"))
    return tuple(edits)


def doubts(metered: Metered) -> str:
    """What stands against using the data for 220.87, in a sentence; nothing when all is well."""
    if metered.exports():
        return "Power ran back to the grid: with solar behind the meter the measured method does not count."
    if metered.days < 30:
        return f"{metered.days:.0f} days are too few: a year, or 30 days of quarter-hours."
    if metered.days < 360 and metered.interval_s > 900:
        return "Less than a year wants quarter-hours."
    if metered.days < 360:
        return "Less than a year: add for the season that is missing."
    return ""
