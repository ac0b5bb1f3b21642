"""Interval data in CSV, as utilities hand it out: which column, which unit, how numbers and dates are written.

What the file itself decides is decided by all of its rows, never by the first one; what nothing in it decides is asked
(:class:`awlmark.core.panel.meter.UnclearError`).
"""

from __future__ import annotations

import csv
import datetime as dt
import io
import itertools
import re
from collections.abc import Sequence
from typing import Final, NamedTuple

import numpy as np

from awlmark.core.arrays import Flags, Floats
from awlmark.core.errors import FileError, UnclearError
from awlmark.core.panel.meter import MOST_ROWS, ROWS_A_TICK, Choices, Progress, Rows

UNITS: Final = {"mwh": (1000.0, True), "kwh": (1.0, True), "wh": (0.001, True), "kw": (1.0, False), "w": (0.001, False)}
"""Factor to kilo, and whether it is energy of the interval."""
UNIT_NAMES: Final = ("kWh", "Wh", "MWh", "kW", "W")
_SPELLED: Final = {
    "kilowatt hour": "kwh", "kilowatt-hour": "kwh", "kilowatthour": "kwh", "watt hour": "wh", "watt-hour": "wh",
    "watthour": "wh", "megawatt hour": "mwh", "kilowatt": "kw", "watts": "w", "watt": "w",
}  # fmt: skip
_UNIT_WORD: Final = re.compile(r"(?<![a-z])(mwh|kwh|wh|kw|w)(?![a-z])")
_VALUE: Final = ("usage", "consumption", "consumed", "value", "energy", "demand", "import", "delivered", "from grid",
                 "power", "reading", "kwh", "kw", "wh", "watt")  # fmt: skip
_OTHER: Final = re.compile(
    "date|time|cost|price|amount|charge|temp|notes|quality|status|rate|estimate|flag|register|total"
)
_MADE: Final = re.compile(r"generat|export|solar|produc|received|to grid|feed.?in|surplus|net")
_DATE: Final = re.compile(r"(\d{1,4})([-/.])(\d{1,2})\2(\d{1,4})")
_CLOCK: Final = re.compile(r"(\d{1,2})(?::?(\d{2}))(?::(\d{2})(?:\.\d+)?)?\s*([ap])?\.?m?\.?", re.IGNORECASE)
_ZONE: Final = re.compile(r"\s*(Z|UTC|[+-]\d\d:?\d\d)$")
LOOKED_AT: Final = 60
"""Lines before the header that are passed over."""


class _Table(NamedTuple):
    """A file cut into its cells."""

    head: list[str]
    first: int
    """Number of the first row behind the header."""
    rows: list[list[str]]
    more: bool
    """Whether rows beyond the most that are read were left."""


def csv_rows(text: str, name: str, progress: Progress, choices: Choices) -> Rows:
    """Rows of a CSV file.

    Parameters
    ----------
    text : str
        The file.
    name : str
        What to call it.
    progress : callable
        Told how far the reading is.
    choices : Choices
        Answers to what the file leaves open.
    """
    table = _cut(text, name)
    notes: list[str] = []
    at = _value_column(table, name, choices)
    times = _time_columns(table.head, at)
    if not times:
        raise FileError(f"{name} has no column that tells when an interval begins, beside '{table.head[at]}'.")
    if "date" in table.head[times[0]] and "time" not in table.head[times[0]] and len(times) > 1:
        times = times[:2]
    else:
        times = times[:1]
    wide = max(at, *times)
    numbered = [(n, row) for n, row in enumerate(table.rows, table.first) if any(cell.strip() for cell in row)]
    short = [f"row {n}: time or value can't be read" for n, row in numbered if len(row) <= wide]
    whole = [(n, row) for n, row in numbered if len(row) > wide]
    if not whole:
        raise FileError(f"{name} holds no interval data that can be used.")
    names = [f"row {n}" for n, _row in whole]
    values = _numbers([row[at] for _n, row in whole], name, choices)
    factors, energy = _units([row for _n, row in whole], table.head, at, name, choices)
    texts = [" ".join(row[n].strip() for n in times) for _n, row in whole]
    starts, offsets = _times(texts, name, choices, progress, notes)
    if table.more:
        short.append(f"everything after row {table.first + len(table.rows) - 1}: more than {MOST_ROWS:,} rows")
    made = [head for n, head in enumerate(table.head) if n != at and _MADE.search(head) and _UNIT_WORD.search(head)]
    if made:
        notes.append(f"Its column '{made[0]}' tells of power made behind the meter")
    return Rows(starts, values * factors, energy, names, notes, offsets, bool(made), short)


def _cut(text: str, name: str) -> _Table:
    """Header and rows, by the delimiter under which a header is found."""
    plain = text.replace("\r\n", "\n").replace("\r", "\n").replace("\0", "")
    sample = plain[:4096]
    for delimiter in sorted(",;\t|", key=sample.count, reverse=True):
        reader = csv.reader(io.StringIO(plain), delimiter=delimiter, skipinitialspace=True)
        for number, row in enumerate(reader, 1):
            lower = [" ".join(cell.lower().split()) for cell in row]
            if any(_time_columns(lower, at) for at in _candidates(lower)):
                rows = []
                for cells in reader:
                    rows.append(cells)
                    if len(rows) > MOST_ROWS:
                        return _Table(lower, number + 1, rows[:MOST_ROWS], True)
                return _Table(lower, number + 1, rows, False)
            if number > LOOKED_AT:
                break
    raise FileError(f"{name} has no header that names a time and a value in kWh, Wh, kW or W.")


def _candidates(head: Sequence[str]) -> list[int]:
    """Columns that may hold the values: named so, with a unit first."""
    named = [
        n
        for n, cell in enumerate(head)
        if any(word in cell for word in _VALUE) and not _OTHER.search(cell) and cell not in ("unit", "units", "uom")
    ]
    with_unit = [n for n in named if _unit_of(head[n]) is not None]
    return with_unit or named


def _value_column(table: _Table, name: str, choices: Choices) -> int:
    """The column of what was drawn from the grid; asked where several may be."""
    found = _candidates(table.head)
    if choices.column is not None and choices.column.lower() in table.head:
        return table.head.index(choices.column.lower())
    drawn = [n for n in found if not _MADE.search(table.head[n])] or found
    if len(drawn) > 1:
        answers = tuple(table.head[n] for n in drawn)
        raise UnclearError(name, "column", "Which column is what the house draws?", answers, _first(table))
    return drawn[0]


def _first(table: _Table) -> tuple[str, ...]:
    return (", ".join(table.head), *(", ".join(row) for row in table.rows[:3]))


def _time_columns(head: Sequence[str], value: int | None) -> list[int]:
    """Columns that tell when an interval begins: a date and a time, or both in one."""
    return [
        n
        for n, cell in enumerate(head)
        if n != value and re.search("date|time|start", cell) and not re.search(r"\bend|zone|\bto\b", cell)
    ]


def _unit_of(text: str) -> str | None:
    lower = text.lower()
    for spelled, unit in _SPELLED.items():
        if spelled in lower:
            return unit
    match = _UNIT_WORD.search(lower)
    return match[1] if match else None


def _units(rows: list[list[str]], head: Sequence[str], at: int, name: str, choices: Choices) -> tuple[Floats, Flags]:
    """Factor to kilo of every row, and whether it is energy; asked where nothing names a unit."""
    count = len(rows)
    column = next((n for n, cell in enumerate(head) if cell in ("unit", "units", "uom")), None)
    if column is not None and choices.unit is None:
        texts = [row[column].strip() if column < len(row) else "" for row in rows]
        known = {text: _unit_of(text) for text in set(texts)}
        strange = sorted(text for text, unit in known.items() if unit is None)
        if strange:
            question = f"In which unit is '{strange[0] or 'nothing'}' of its unit column?"
            raise UnclearError(name, "unit", question, UNIT_NAMES, tuple(", ".join(row) for row in rows[:3]))
        pairs = [UNITS[str(known[text])] for text in texts]
        return np.array([factor for factor, _e in pairs]), np.array([energy for _f, energy in pairs], dtype=bool)
    unit = choices.unit.lower() if choices.unit else _unit_of(head[at])
    if unit not in UNITS:
        raise UnclearError(
            name, "unit", f"In which unit is its column '{head[at]}'?", UNIT_NAMES,
            tuple(", ".join(row) for row in rows[:3]),
        )  # fmt: skip
    factor, energy = UNITS[unit]
    return np.full(count, factor), np.full(count, energy, dtype=bool)


# -- numbers ---------------------------------------------------------------------------------------------------------

_THOUSANDS: Final = re.compile(r"-?[1-9]\d{0,2}(?:,\d{3})+")


def _numbers(texts: list[str], name: str, choices: Choices) -> Floats:
    """Numbers as written, shape (N,); NaN where one cannot be read.

    What a comma means is decided by the whole column: thousands where points stand for decimals too, or where it parts
    three digits and the file has larger plain numbers; decimals where another number of digits follows, or a nought
    stands before it.
    """
    plain = [re.sub(r"[\s'’]", "", text) for text in texts]
    commas = [text for text in plain if "," in text]
    if not commas:
        return _floats(plain)
    if choices.comma is not None:
        return _floats([_swapped(text) if choices.comma == "decimals" else text.replace(",", "") for text in plain])
    points = [text for text in plain if "." in text]
    both = [text for text in commas if "." in text]
    if both:
        decimals = all(text.rindex(",") > text.rindex(".") for text in both)
    elif any(not _THOUSANDS.fullmatch(text) for text in commas):
        decimals = True
    elif points:
        decimals = False
    else:
        question = f"Is {commas[0]} so many thousands, or decimals?"
        raise UnclearError(name, "comma", question, ("thousands", "decimals"), tuple(texts[:3]))
    return _floats([_swapped(text) if decimals else text.replace(",", "") for text in plain])


def _swapped(text: str) -> str:
    return text.replace(".", "").replace(",", ".")


def _floats(texts: list[str]) -> Floats:
    try:
        return np.array(texts, dtype=np.float64)
    except ValueError:
        return np.array([_one(text) for text in texts])


def _one(text: str) -> float:
    try:
        return float(text)
    except ValueError:
        return float("nan")


# -- dates -----------------------------------------------------------------------------------------------------------


def _times(
    texts: list[str], name: str, choices: Choices, progress: Progress, notes: list[str]
) -> tuple[Floats, Floats | None]:
    """Starts [s since 1970 on the clock as printed] and, where zones are printed, the clock's lead over UTC [s]."""
    dates: dict[str, tuple[int, ...] | None] = {}
    clocks: dict[str, float] = {}
    parts: list[tuple[str, str]] = []
    offsets = np.zeros(len(texts))
    zones: dict[str, float] = {}
    for n, text in enumerate(texts):
        if n % ROWS_A_TICK == 0:
            progress(0.5 * n / len(texts))
        plain = text.replace("T", " ", 1) if text[10:11] == "T" else text
        zone = _ZONE.search(plain) if len(plain) > 10 else None
        if zone is not None:
            lead = zones.get(zone[1])
            if lead is None:
                lead = zones[zone[1]] = _lead(zone[1])
            offsets[n] = lead
            plain = plain[: zone.start()]
        date, _, clock = plain.strip().partition(" ")
        parts.append((date, clock.strip()))
        if date not in dates:
            dates[date] = _date_parts(date)
        if clock not in clocks:
            clocks[clock.strip()] = _clock(clock.strip())
    known = [numbers for numbers in dates.values() if numbers is not None]
    day_first = _day_first(known, parts, dates, name, choices)
    day_s = {date: _day(numbers, day_first) for date, numbers in dates.items()}
    starts = np.empty(len(texts))
    for n, (date, clock) in enumerate(parts):
        if n % ROWS_A_TICK == 0:
            progress(0.5 + 0.5 * n / len(texts))
        starts[n] = day_s[date] + clocks[clock]
    if set(zones) and all(lead == 0 for lead in zones.values()):
        notes.append("Its times are universal time, not the meter's own clock")
    elif len(set(zones.values())) > 1:
        notes.append(f"Its zone changes ({', '.join(sorted(zones))}): the clock as printed was kept")
    return starts, offsets if zones else None


def _lead(zone: str) -> float:
    if zone in ("Z", "UTC"):
        return 0.0
    digits = zone[1:].replace(":", "")
    return (-1.0 if zone[0] == "-" else 1.0) * (int(digits[:2]) * 3600 + int(digits[2:]) * 60)


def _date_parts(text: str) -> tuple[int, ...] | None:
    """Three numbers of a date and how they stand: 0 year first, 1 day first by its points, 2 not known yet."""
    match = _DATE.fullmatch(text)
    if match is None:
        return None
    one, two, three = int(match[1]), int(match[3]), int(match[4])
    if len(match[1]) == 4:
        return one, two, three, 0
    year = three if len(match[4]) > 2 else 2000 + three
    return one, two, year, 1 if match[2] == "." else 2


def _day_first(
    known: list[tuple[int, ...]], parts: list[tuple[str, str]], dates: dict[str, tuple[int, ...] | None], name: str,
    choices: Choices,
) -> bool:  # fmt: skip
    """Whether the day stands before the month: by a number above 12, by points, by which of both runs on evenly."""
    # The first of January is that either way.
    open_ones = [numbers for numbers in known if numbers[3] == 2 and numbers[0] != numbers[1]]
    if not open_ones:
        return True
    day = any(one > 12 for one, _two, _year, _kind in open_ones)
    month = any(two > 12 for _one, two, _year, _kind in open_ones)
    if day != month:
        return day
    if choices.order is not None:
        return choices.order == "day"
    if day and month:
        # Both cannot be: the order under which more dates can be read.
        first = sum(1 for one, two, _y, _k in open_ones if two <= 12)
        return first > sum(1 for one, two, _y, _k in open_ones if one <= 12)
    seen = list(dict.fromkeys(date for date, _clock in parts if dates[date] is not None))
    even = [_even([_day(dates[date], order) for date in seen]) for order in (True, False)]
    if len(seen) > 1 and even[0] != even[1]:
        return even[0] > even[1]
    shown = tuple(" ".join(part) for part in parts[:3])
    raise UnclearError(name, "order", f"Is {seen[0]} read day first or month first?", ("month", "day"), shown)


def _even(days: list[float]) -> int:
    """How many dates follow each other by one day, either way."""
    return sum(1 for one, other in itertools.pairwise(days) if abs(other - one) == 86400)


def _day(numbers: tuple[int, ...] | None, day_first: bool) -> float:
    """Seconds of a date's midnight; NaN where there is no such date."""
    if numbers is None:
        return float("nan")
    one, two, three, kind = numbers
    year, month, day = three, one, two
    if kind == 0:
        year, month, day = one, two, three
    elif kind == 1 or day_first:
        year, month, day = three, two, one
    try:
        return dt.datetime(year, month, day, tzinfo=dt.UTC).timestamp()
    except ValueError:
        return float("nan")


def _clock(text: str) -> float:
    """Seconds since midnight; nought where no time of day is told, NaN where it cannot be read."""
    if not text:
        return 0.0
    match = _CLOCK.fullmatch(text)
    if match is None:
        return float("nan")
    hour, minute, second = int(match[1]), int(match[2]), int(match[3] or 0)
    if match[4]:
        if not 1 <= hour <= 12:
            return float("nan")
        hour = hour % 12 + (12 if match[4].lower() == "p" else 0)
    if minute > 59 or second > 59 or hour > 24 or (hour == 24 and minute + second):
        return float("nan")
    return hour * 3600.0 + minute * 60 + second
