"""Straps and staples: how far apart, and where on a leg."""

from __future__ import annotations

import functools
import itertools
import math
from collections import Counter
from collections.abc import Sequence
from typing import Final

from awlmark.core.books import Book
from awlmark.core.books.nec.edition import Method
from awlmark.core.books.nec.printed import printed
from awlmark.core.finding import HOLDS, Finding
from awlmark.core.job.model import Job
from awlmark.core.quantities import FOOT_M, INCH_M, print_length
from awlmark.core.run.line import Line, Walked

_PVC_ROWS = {"1/2": "PVC 1/2-1", "3/4": "PVC 1/2-1", "1": "PVC 1/2-1", "1-1/4": "PVC 1-1/4 to 2"} | {
    "1-1/2": "PVC 1-1/4 to 2",
    "2": "PVC 1-1/4 to 2",
    "2-1/2": "PVC 2-1/2 to 3",
    "3": "PVC 2-1/2 to 3",
}


TOLD: Final = 6
"""Straps whose place is told; the drawing shows them all."""


@functools.cache
def spacing(method: Method, trade_size: str | None) -> tuple[float, float]:
    """Farthest between supports and farthest from an end.

    Parameters
    ----------
    method : Method
        Wiring method.
    trade_size : str or None
        Needed for PVC, whose table goes by size; the closest spacing when None.

    Returns
    -------
    tuple of float
        Between supports, and from a box or fitting [m]. Source: supports.csv, sections named there.
    """
    name = _PVC_ROWS[trade_size or "1"] if method.support == "PVC" else method.support
    row = next(row for row in printed("supports").rows if row["method"] == name)
    return float(row["max_spacing_ft"]) * FOOT_M, float(row["within_in_of_box"]) * INCH_M


def strap_offsets(length_m: float, between_m: float, from_end_m: float) -> list[float]:
    """Where the fewest straps stand on a leg that is fixed at both ends.

    Returns
    -------
    list of float
        Distances from the start of the leg [m], evenly spread.
    """
    gaps = _number(length_m, between_m, from_end_m) - 1
    if not gaps:
        return [length_m / 2]
    inner = length_m - 2 * from_end_m
    return [from_end_m + inner * step / gaps for step in range(gaps + 1)]


def _number(length_m: float, between_m: float, from_end_m: float) -> int:
    """How many straps hold a leg: one in the middle of a short one, else one near each end and those between."""
    inner = length_m - 2 * from_end_m
    return 1 + max(1, math.ceil(inner / between_m - 1e-9)) if inner > 1e-9 else 1


def held(legs: Sequence[Walked]) -> list[Walked]:
    """The legs that straps or staples hold: none in a wall or a trench, none of pipe that is there already."""
    return [
        walked
        for walked in legs
        if not (walked.crosses or walked.place == "buried" or walked.leg.direction == "trench" or walked.leg.reused)
    ]


def straps(walked: Walked, trade_size: str | None) -> list[float]:
    """Places of the straps of a leg along the tape [m]; none in a wall or a trench."""
    if not held((walked,)):
        return []
    offsets = strap_offsets(walked.leg.length_m, *spacing(walked.method, trade_size))
    return [walked.start_m + offset for offset in offsets]


def strap_number(legs: Sequence[Walked], between_m: float, from_end_m: float) -> int:
    """How many straps hold some legs, each fixed at both ends."""
    alike = Counter([walked.leg.length_m for walked in legs])
    return sum([count * _number(length_m, between_m, from_end_m) for length_m, count in alike.items()])


def support_findings(job: Job, line: Line, trades: tuple[str | None, ...], book: Book) -> list[Finding]:
    """Straps or staples of every section: how many, how far apart, first and last; where they stand.

    Parameters
    ----------
    job : Job
        For the home units.
    line : Line
        The walked line.
    trades : tuple of str or None
        Trade size by section.
    book : Book
        For the edition's name.
    """
    found = []
    for section, trade in zip(line.sections, trades, strict=True):
        between, from_end = spacing(section.method, trade)
        legs = held(section.legs)
        count = strap_number(legs, between, from_end)
        if not count:
            continue
        places = list(itertools.islice((at_m for walked in legs for at_m in straps(walked, trade)), TOLD))
        units, kind = job.units, "staples" if section.method.cable else "straps"
        apart, end = print_length(between, units), print_length(from_end, units)
        counted = f"{count} {kind[:-1] if count == 1 else kind}"
        text = f"{section.method.name}: {counted}, at most {apart} apart and {end} from each end."
        spots = ", ".join(print_length(at_m, units) for at_m in places) + (", …" if count > TOLD else "")
        found.append(
            Finding(
                id=f"supports:{section.number + 1}",
                severity=HOLDS,
                title="Supports",
                text=text,
                cite=f"{book.title} {support_clause(section.method, trade)}",
                sums=(f"on the tape at {spots}",),
                at_m=section.start_m,
                where=section.legs[0].leg.id,
                stage="run",
            )
        )
    return found


@functools.cache
def support_clause(method: Method, trade_size: str | None) -> str:
    """Clause of a method's supports."""
    name = _PVC_ROWS[trade_size or "1"] if method.support == "PVC" else method.support
    return next(row["section"] for row in printed("supports").rows if row["method"] == name).split(" ")[0]
