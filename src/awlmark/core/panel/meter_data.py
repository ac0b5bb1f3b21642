"""A year of interval data: what it covers, what is missing, how it is kept in a job, and an invented one."""

from __future__ import annotations

import base64
import binascii
import datetime as dt
import functools
import zlib
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.supply import Meter

MISSING: Final = -32768
MOST_LOST: Final = 0.01
"""Share of rows that may be missing where a highest demand is taken; common practice."""
MOST_COUNTS: Final = 700_000
"""Intervals that a job keeps; a year of minutes is 525,600."""
MONTHS: Final = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
_STAMP: Final = "%Y-%m-%d %H:%M"


class Metered(msgspec.Struct, frozen=True, eq=False):
    """What a meter told, interval by interval."""

    starts: Floats
    """Start of each interval, seconds since 1970 on the meter's own clock, shape (N,)."""
    kw: Floats
    """Mean power of each interval, shape (N,)."""
    interval_s: float
    left_out: tuple[str, ...] = ()
    """Rows that were not taken, and why."""
    notes: tuple[str, ...] = ()
    """What was put right while reading: clocks that went back, times in a zone of their own."""
    lost: int = 0
    """How many rows were not taken; ``left_out`` names the first of them."""
    generation: bool = False
    """Whether the file tells of power made behind the meter."""

    @property
    def highest_kw(self) -> float:
        """Highest demand [kW]."""
        return float(self.kw.max())

    @property
    def days(self) -> float:
        """Days covered by intervals [days]."""
        return len(self.kw) * self.interval_s / 86400

    def missing(self) -> list[tuple[float, float]]:
        """Spans without data, as (start, end) seconds."""
        ends = self.starts[:-1] + self.interval_s
        gaps = self.starts[1:] - ends
        return [(float(ends[n]), float(self.starts[n + 1])) for n in np.flatnonzero(gaps > self.interval_s * 0.5)]

    def gaps(self) -> list[str]:
        """Missing spans in words; an hour in the night of spring is the clock's own."""
        told = []
        for start, end in self.missing():
            at, hours = dt.datetime.fromtimestamp(start, dt.UTC), (end - start) / 3600
            clock = abs(hours - 1) < 1e-6 and at.hour in (0, 1, 2, 3) and at.month in (3, 4, 9, 10)
            long = f"{hours:.1f} h" if hours < 48 else f"{hours / 24:.0f} days"
            told.append(f"{long} from {at:{_STAMP}}" + (", clocks went forward" if clock else ""))
        return told

    def exports(self) -> bool:
        """Whether power ran back or was made behind the meter: solar, which a measured demand does not take."""
        return self.generation or bool((self.kw < -0.01).any())

    def missing_months(self) -> tuple[str, ...]:
        """Months of the year without a single day's worth of data."""
        count = np.zeros(12)
        days, each = np.unique(self.starts // 86400, return_counts=True)
        for day, intervals in zip(days, each, strict=True):
            count[dt.datetime.fromtimestamp(float(day) * 86400, dt.UTC).month - 1] += intervals * self.interval_s
        return tuple(name for name, seconds in zip(MONTHS, count, strict=True) if seconds < 86400)

    def words(self) -> str:
        """The data in a sentence."""
        first, last = (dt.datetime.fromtimestamp(at, dt.UTC).date() for at in (self.starts[0], self.starts[-1]))
        gaps = self.gaps()
        told = f"{self.days:.0f} days of {self.interval_s / 60:.0f}-minute data, {first} to {last}"
        told += f", {len(gaps)} gaps ({'; '.join(gaps[:2])})" if gaps else ""
        told += f", {self.lost} rows left out" if self.lost else ""
        return ". ".join([told, *self.notes])


def keep(metered: Metered, source: str) -> Meter:
    """Interval data as a job keeps them: even steps, counts of 10 W or, where that runs out, of more.

    Parameters
    ----------
    metered : Metered
        As it was read.
    source : str
        Name of the file.
    """
    place = np.rint((metered.starts - metered.starts[0]) / metered.interval_s).astype(np.int64)
    inside = place < MOST_COUNTS
    step_w = max(10, int(np.ceil(np.abs(metered.kw).max() * 1000 / 32000)))
    counts = np.full(int(place[inside][-1]) + 1, MISSING, dtype="<i2")
    counts[place[inside]] = np.rint(metered.kw[inside] * 1000 / step_w)
    start = dt.datetime.fromtimestamp(float(metered.starts[0]), dt.UTC)
    packed = base64.b64encode(zlib.compress(counts.tobytes(), 9)).decode("ascii")
    return Meter(
        source=source, start=f"{start:{_STAMP}}", interval_s=round(metered.interval_s), step_w=step_w, counts=packed
    )


def kept(meter: Meter) -> Metered:
    """The interval data that a job keeps.

    Raises
    ------
    InputError
        When they are damaged; the message names the field.
    """
    return _kept(meter.start, meter.interval_s, meter.step_w, meter.counts)


@functools.lru_cache(maxsize=4)
def _kept(start_text: str, interval_s: int, step_w: int, text: str) -> Metered:
    try:
        stretched = zlib.decompressobj()
        raw = stretched.decompress(base64.b64decode(text, validate=True), 2 * MOST_COUNTS + 2)
        if not stretched.eof:
            raise ValueError("they end early")
        counts = np.frombuffer(raw, dtype="<i2")
        start = dt.datetime.strptime(start_text, _STAMP).replace(tzinfo=dt.UTC).timestamp()
    except (ValueError, binascii.Error, zlib.error) as problem:
        raise InputError(
            "meter data", f"They are damaged: {problem}.", "data read again from the meter's file"
        ) from problem
    known = counts != MISSING
    if known.sum() < 2 or len(counts) > MOST_COUNTS:
        raise InputError("meter data", "They hold no intervals.", f"2 to {MOST_COUNTS:,} intervals")
    starts = np.asarray(start + np.flatnonzero(known) * interval_s, dtype=np.float64)
    kw = np.asarray(counts[known] * (step_w / 1000), dtype=np.float64)
    return Metered(starts, kw, float(interval_s))


def invented_year(seed: int = 7, interval_s: int = 900, peak_kw: float = 9.0) -> Metered:
    """A year of invented household data: nights, mornings, evenings, winter and chance.

    Parameters
    ----------
    seed : int
        The same seed gives the same year.
    interval_s : int
        Length of an interval [s].
    peak_kw : float
        Its highest quarter-hour [kW].
    """
    chance = np.random.default_rng(seed)
    count = 365 * 86400 // interval_s
    start = dt.datetime(2025, 1, 1, tzinfo=dt.UTC).timestamp()
    seconds = np.arange(count) * interval_s
    hour, day = seconds % 86400 / 3600, seconds // 86400
    season = 1 + 0.35 * np.cos(2 * np.pi * (day - 15) / 365)
    shape = 0.25 + 0.5 * np.exp(-(((hour - 7.5) / 1.2) ** 2)) + 1.0 * np.exp(-(((hour - 19) / 2.2) ** 2))
    kw = shape * season * chance.gamma(6, 1 / 6, count)
    kw *= peak_kw / kw.max()
    return Metered((start + seconds).astype(np.float64), np.round(kw, 3), float(interval_s))


def write_csv(metered: Metered) -> str:
    """Interval data as CSV text: start, kWh."""
    lines = ["start,usage kWh"]
    hours = metered.interval_s / 3600
    for start, kw in zip(metered.starts, metered.kw, strict=True):
        at = dt.datetime.fromtimestamp(start, dt.UTC).strftime("%Y-%m-%d %H:%M")
        lines.append(f"{at},{kw * hours:.4f}")
    return "\n".join(lines) + "\n"


def demand_edits(metered: Metered, volts: float, source: str) -> tuple[Put, ...]:
    """Edits that take the data into the job, and their highest demand where they cover what the rule asks.

    A measured demand wants a year, or 30 days of quarter-hours, and no generation behind the meter. What falls short is
    kept and drawn, and gives no demand.
    """
    edits = [Put("meter", keep(metered, source))]
    if covers(metered):
        edits.append(Put("demand.measured_a", round(max(metered.highest_kw, 0.0) * 1000 / volts, 2)))
        edits.append(Put("demand.method", "measured"))
    return tuple(edits)


def covers(metered: Metered) -> bool:
    """Whether data reach for a measured demand: a whole year, or 30 days of quarter-hours, nothing fed back."""
    year = metered.days >= 360 and not metered.missing_months()
    month = metered.days >= 30 and metered.interval_s <= 900
    return (year or month) and not metered.exports() and metered.lost <= MOST_LOST * len(metered.kw)


def doubts(metered: Metered) -> str:
    """What stands against using the data for a measured demand, in a sentence; nothing when all is well."""
    if metered.exports():
        return "Power ran back to the grid: with solar behind the meter the measured method does not count."
    if metered.lost > MOST_LOST * len(metered.kw):
        return f"{metered.lost:,} rows could not be read: a highest demand is not taken from what is left."
    if metered.days < 30:
        return f"{metered.days:.0f} days are too few: a year, or 30 days of quarter-hours."
    if metered.days < 360 and metered.interval_s > 900:
        return "Less than a year wants quarter-hours."
    missing = metered.missing_months()
    if missing:
        return f"Nothing from {', '.join(missing)}: add what heats or cools then."
    return "" if metered.days >= 360 else "Less than a year: look whether the season with the most is in it."
