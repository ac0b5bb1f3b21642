"""Straps and staples: how far apart, and where on a leg."""

from __future__ import annotations

import itertools
import math
from collections import Counter
from collections.abc import Sequence
from typing import Final

from awlmark.core.books import Book
from awlmark.core.books.book import Method
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


def straps(book: Book, walked: Walked, size: str | None) -> list[float]:
    """Places of the straps of a leg along the tape [m]; none in a wall or a trench.

    ``size`` is a raceway's trade size or a cable's conductors, as :attr:`RunRules.support` takes it.
    """
    if not held((walked,)):
        return []
    offsets = strap_offsets(walked.leg.length_m, *book.run.support(walked.method, size, upright(walked))[:2])
    return [walked.start_m + offset for offset in offsets]


def upright(walked: Walked) -> bool:
    """Whether a leg goes up or down."""
    return walked.heading[2] != 0


def strap_number(book: Book, method: Method, legs: Sequence[Walked], size: str | None) -> int:
    """How many straps hold some legs of a method, each fixed at both ends."""
    alike = Counter([(walked.leg.length_m, upright(walked)) for walked in legs])
    return sum(
        [count * _number(long_m, *book.run.support(method, size, up)[:2]) for (long_m, up), count in alike.items()]
    )


def support_findings(job: Job, line: Line, sizes: tuple[str | None, ...], book: Book) -> list[Finding]:
    """Straps or staples of every section: how many, how far apart, first and last; where they stand.

    Parameters
    ----------
    job : Job
        For the home units.
    line : Line
        The walked line.
    sizes : tuple of str or None
        By section, what its supports go by.
    book : Book
        For the edition's name.
    """
    found = _fished(job, line, book)
    for section, size in zip(line.sections, sizes, strict=True):
        legs = held(section.legs)
        count = strap_number(book, section.method, legs, size)
        if not count:
            continue
        between, from_end, clause = book.run.support(section.method, size, False)
        above = book.run.support(section.method, size, True)[0]
        places = list(itertools.islice((at_m for walked in legs for at_m in straps(book, walked, size)), TOLD))
        units, kind = job.units, section.method.held_by
        apart = print_length(between, units)
        apart += f" apart, {print_length(above, units)} upright" if above != between else " apart"
        end = "" if from_end == between / 2 else f" and {print_length(from_end, units)} from each end"
        text = f"{section.method.name}: {count} {kind}{'' if count == 1 else 's'}, at most {apart}{end}."
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
