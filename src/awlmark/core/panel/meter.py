"""Reading interval data of a meter from a file, and sorting what was read into even steps."""

from __future__ import annotations

import csv
import datetime as dt
from collections.abc import Callable
from pathlib import Path
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.errors import FileError
from awlmark.core.job.disk import read_bounded
from awlmark.core.panel.meter_data import Metered

MOST_ROWS: Final = 600_000
LARGEST_BYTES: Final = 64 * 1024 * 1024
LATEST_S: Final = 4_102_444_800.0
"""1 January 2100."""
MOST_TOLD: Final = 20
"""Rows left out that are named one by one; the rest is counted."""
MOST_KW: Final = 10_000.0
HOUR_S: Final = 3600.0
SHARE_OF_STEP: Final = 0.01
"""A length of interval that fewer of the steps than this have is a gap or a slip, not an interval of the meter's."""
ROWS_A_TICK: Final = 2000
Progress = Callable[[float], None]
"""Told the share that is done, 0 to 1, every few thousand rows; it may raise to stop the reading."""


class Choices(msgspec.Struct, frozen=True):
    """What the user says where a file can be read in more than one way; None where nobody was asked."""

    order: str | None = None
    """``day`` or ``month``: which of them comes first in a date."""
    column: str | None = None
    """Head of the column with the values."""
    unit: str | None = None
    """``kWh``, ``Wh``, ``MWh``, ``kW`` or ``W``."""
    comma: str | None = None
    """``decimals`` or ``thousands``: what stands behind a comma."""


class Rows(msgspec.Struct, eq=False):
    """What a file's rows say, in the order of the file."""

    starts: Floats
    """Start of each interval on the meter's own clock [s since 1970], shape (N,); NaN where it cannot be read."""
    values: Floats
    """Energy [kWh] or power [kW] of each, shape (N,); NaN where it cannot be read."""
    energy: Flags
    """Whether a value is the energy of its interval, shape (N,)."""
    names: list[str]
    """What to call each row in messages."""
    notes: list[str]
    offsets_s: Floats | None = None
    """Clock ahead of universal time, row by row, where the file says so [s]."""
    generation: bool = False
    """Whether something else in the file tells of power made behind the meter."""
    unread: list[str] = []
    """Rows that could not even be begun."""


def read_meter(path: Path, progress: Progress = lambda share: None, choices: Choices | None = None) -> Metered:
    """Read interval data from a file.

    Parameters
    ----------
    path : Path
        CSV with a header that names time and value, or Green Button XML.
    progress : callable, optional
        Told how far the reading is; what it raises ends the reading.
    choices : Choices, optional
        Answers where the file can be read in more than one way.

    Raises
    ------
    UnclearError
        Where it can be read in more than one way and nothing in it decides: what to ask, and the first rows.
    FileError
        When it holds no interval data; the message says what was looked for.
    """
    from awlmark.core.panel.meter_csv import csv_rows
    from awlmark.core.panel.meter_espi import espi_rows

    data = read_bounded(path, LARGEST_BYTES, "year of one meter")
    if data.lstrip()[:1] == b"<":
        return sort_rows(espi_rows(data, path.name, progress), path.name)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    try:
        return sort_rows(csv_rows(text, path.name, progress, choices or Choices()), path.name)
    except csv.Error as problem:
        raise FileError(f"{path.name} is no CSV that can be read: {problem}.") from problem


def sort_rows(rows: Rows, name: str) -> Metered:
    """Rows in the order of time, on even steps; what cannot be taken is named and counted.

    A file may run backward, or come in blocks; a row that alone jumps back is left out. An hour told twice, as when
    clocks go back, is kept once at its higher value, in every year. Where the interval changes, each value counts by
    its own length, and the longer ones are spread over the shortest step.
    """
    out, notes = list(rows.unread), list(rows.notes)
    sound = np.isfinite(rows.starts) & (rows.starts >= 0) & (rows.starts <= LATEST_S) & np.isfinite(rows.values)
    out += [f"{rows.names[n]}: time or value can't be read" for n in np.flatnonzero(~sound).tolist()]
    keep = np.flatnonzero(sound)
    stray = _strays(rows.starts[keep], None if rows.offsets_s is None else rows.offsets_s[keep])
    out += [f"{rows.names[n]}: its time does not come after the row before" for n in keep[stray].tolist()]
    keep = keep[~stray]
    starts, values, energy = rows.starts[keep], rows.values[keep], rows.energy[keep]
    if len(starts) < 2:
        raise FileError(f"{name} holds no interval data that can be used.{f' {out[0]}.' if out else ''}")
    order = np.argsort(starts, kind="stable")
    keep, starts, values, energy = keep[order], starts[order], values[order], energy[order]
    keep, starts, values, energy = _once(keep, starts, values, energy, notes)
    if len(starts) < 2:
        raise FileError(f"{name} holds no interval data that can be used.")
    lengths = _lengths(starts)
    shortest = float(lengths.min())
    if shortest > HOUR_S + 1:
        raise FileError(f"{name} has intervals of {shortest / HOUR_S:.0f} hours; demand wants an hour or less.")
    kw = np.where(energy, values / (lengths / HOUR_S), values)
    wild = np.abs(kw) > MOST_KW
    out += [f"{rows.names[n]}: {kw[at]:g} kW is out of reach" for at, n in enumerate(keep.tolist()) if wild[at]]
    starts, kw, lengths = starts[~wild], kw[~wild], lengths[~wild]
    if len(starts) < 2:
        raise FileError(f"{name} holds no interval data that can be used. {out[0]}.")
    if lengths.max() > shortest + 1:
        told = " and ".join(f"{length / 60:.0f}" for length in np.unique(lengths).tolist())
        notes.append(f"Its interval changes ({told} minutes): each value counts by its own")
        starts, kw = _spread(starts, kw, lengths, shortest)
    shown = (*out[:MOST_TOLD], *([f"and {len(out) - MOST_TOLD} more"] if len(out) > MOST_TOLD else []))
    return Metered(starts, kw, shortest, shown, tuple(notes), len(out), rows.generation)


def _strays(starts: Floats, offsets_s: Floats | None) -> Flags:
    """Rows that alone stand out of the order of the file, shape (N,)."""
    stray = np.zeros(len(starts), dtype=bool)
    if len(starts) < 3:
        return stray
    # By universal time where the file tells it, so that a clock that goes back is in order.
    at = starts - (offsets_s if offsets_s is not None else 0.0)
    if (np.diff(at) < 0).sum() > (np.diff(at) > 0).sum():
        at = -at
    before, here, after = at[:-2], at[1:-1], at[2:]
    stray[1:-1] = (here < before - HOUR_S) & (after > before)
    return stray


def _once(
    keep: Ints, starts: Floats, values: Floats, energy: Flags, notes: list[str]
) -> tuple[Ints, Floats, Floats, Flags]:
    """Every time once, at the higher of its values; each hour told twice is noted."""
    first = np.flatnonzero(np.append(True, np.diff(starts) > 0))
    if len(first) == len(starts):
        return keep, starts, values, energy
    highest = np.maximum.reduceat(values, first)
    twice = starts[first[np.diff(np.append(first, len(starts))) > 1]]
    hours = [float(at) for n, at in enumerate(twice) if n == 0 or at - twice[n - 1] > HOUR_S]
    for at in hours[:3]:
        back = dt.datetime.fromtimestamp(at, dt.UTC)
        notes.append(f"The hour from {back:%Y-%m-%d %H:%M} is told twice; the higher value was kept")
    if len(hours) > 3:
        notes.append(f"and {len(hours) - 3} more hours are told twice")
    return keep[first], starts[first], highest, energy[first]


def _lengths(starts: Floats) -> Floats:
    """Length of every interval [s], shape (N,): to the next start, or as its neighbours where that is a gap."""
    steps = np.diff(starts)
    known, counts = np.unique(np.rint(steps), return_counts=True)
    usual = known[(counts >= max(2, SHARE_OF_STEP * len(steps))) & (known <= HOUR_S + 1)]
    if not len(usual):
        usual = np.array([float(np.median(steps))])
    is_usual = np.isin(np.rint(steps), usual)
    # A gap takes the length of the interval before it, at the beginning of the one behind.
    last = np.maximum.accumulate(np.where(is_usual, np.arange(len(steps)), -1))
    first = int(np.argmax(is_usual)) if is_usual.any() else 0
    lengths = np.where(is_usual, np.rint(steps), np.rint(steps)[np.where(last < 0, first, last)])
    return np.append(lengths, lengths[-1])


def _spread(starts: Floats, kw: Floats, lengths: Floats, step_s: float) -> tuple[Floats, Floats]:
    """Longer intervals as several of the shortest, each at the same power."""
    many = np.maximum(np.rint(lengths / step_s).astype(np.int64), 1)
    at = np.repeat(np.arange(len(starts)), many)
    within = np.arange(len(at)) - np.repeat(np.cumsum(many) - many, many)
    return starts[at] + within * step_s, kw[at]
