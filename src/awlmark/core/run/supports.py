"""Straps and staples: how far apart, and where on a leg."""

from __future__ import annotations

import itertools
import math
from collections import Counter
from collections.abc import Sequence
from typing import Final

from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, STOP, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.quantities import print_length
from awlmark.core.run.leg_finding import about_leg, named
from awlmark.core.run.line import Line, Walked

TOLD: Final = 6
"""Straps whose place is told; the drawing shows them all."""


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
    """The legs that straps or staples hold.

    None in a wall or a trench, none fished in a finished wall, none of pipe that is there already.
    """
    return [
        walked
        for walked in legs
        if not (
            walked.crosses
            or walked.place == "buried"
            or walked.leg.direction == "trench"
            or walked.leg.reused
            or walked.leg.mount == "fished"
        )
    ]


def straps(book: Book, walked: Walked, trade_size: str | None) -> list[float]:
    """Places of the straps of a leg along the tape [m]; none in a wall or a trench."""
    if not held((walked,)):
        return []
    offsets = strap_offsets(walked.leg.length_m, *book.run.support(walked.method, trade_size)[:2])
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
    found = _fished(job, line, book)
    for section, trade in zip(line.sections, trades, strict=True):
        between, from_end, clause = book.run.support(section.method, trade)
        legs = held(section.legs)
        count = strap_number(legs, between, from_end)
        if not count:
            continue
        places = list(itertools.islice((at_m for walked in legs for at_m in straps(book, walked, trade)), TOLD))
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
                cite=f"{book.title} {clause}",
                sums=(f"on the tape at {spots}",),
                at_m=section.start_m,
                where=section.legs[0].leg.id,
                stage="run",
            )
        )
    return found


def _fished(job: Job, line: Line, book: Book) -> list[Finding]:
    """Legs fished inside a finished wall: they hang free between their ends; what is stiff can't be fished."""
    found = []
    for walked in [one for one in line.legs if one.leg.mount == "fished"]:
        name, path = walked.method.name, f"legs[{walked.leg.id}]"
        if walked.method.fished:
            text = f"{name} on {named(walked)} is fished inside a finished wall: between its ends it needs no support."
            cite = f"{book.title} {walked.method.fished}"
            found.append(about_leg(walked, "fished", HOLDS, "Fished", text, cite))
            continue
        text = f"{name} can't be fished inside a finished wall on {named(walked)}: open the wall, or take what bends."
        cable = next((key for key, each in book.methods.items() if each.cable and each.fished), "")
        fixes = [Fix("The wall is opened", (Put(f"{path}.mount", "inside"),))]
        if cable:
            fixes.append(Fix(f"{book.methods[cable].name} there", (Put(f"{path}.method", cable),)))
        found.append(about_leg(walked, "fished", STOP, "Can't be fished", text, book.title, fixes=tuple(fixes)))
    return found
