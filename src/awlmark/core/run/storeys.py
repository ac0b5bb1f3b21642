"""The storeys that a line passes: the floor each leg stands on, what each is called, how high it is."""

from __future__ import annotations

from typing import Final, NamedTuple

from awlmark.core.books import Book
from awlmark.core.finding import NOTE, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.floor import Storey
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length
from awlmark.core.run.leg_finding import about_leg, named
from awlmark.core.run.line import Line, Walked

STOREY_M: Final = 2.44
"""Height of a storey that nobody measured: eight feet; common practice."""
AGREES_M: Final = 2 * INCH_M
"""A ceiling read twice with a tape agrees so far; common practice."""


class Standing(NamedTuple):
    """The floor that something stands on."""

    number: int
    """Storeys above the panel's own; less than nought below it."""
    level_m: float
    """Of its floor above the panel's own [m]."""


def id_of(number: int) -> str:
    """A storey by its number, as paths name it."""
    return f"storey{number:+}"


def storey_of(storeys: tuple[Storey, ...], number: int) -> Storey:
    """What is told of a storey; one without name and height where nothing is."""
    return next((each for each in storeys if each.number == number), Storey(id=id_of(number), number=number))


def height_of(storeys: tuple[Storey, ...], number: int) -> float:
    """Floor to ceiling of a storey [m]; the usual one where nobody measured it."""
    told = storey_of(storeys, number).high_m
    return STOREY_M if told is None else told


def standings(legs: tuple[Walked, ...], storeys: tuple[Storey, ...]) -> tuple[Standing, ...]:
    """The floor that each leg stands on, and after them the one where the line ends.

    A leg that goes up through a floor stands on what it leaves; those behind it stand on the floor passed. Down again
    leads to the floor before, or to one a storey lower where the line never stood on it.
    """
    under, found = [Standing(0, 0.0)], []
    for walked in legs:
        here = under[-1]
        found.append(here)
        if walked.crosses and walked.heading[2] > 0:
            under.append(Standing(here.number + 1, walked.end[2]))
        elif walked.crosses and walked.heading[2] < 0:
            below = here.number - 1
            under = under[:-1] or [Standing(below, walked.end[2] - height_of(storeys, below))]
    return (*found, under[-1])


def storey_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Where the line passes a ceiling at another height than that storey is told to have."""
    found = []
    floors = standings(line.legs, job.site.storeys)
    for walked, floor in zip(line.legs, floors, strict=False):
        told = storey_of(job.site.storeys, floor.number)
        if not walked.crosses or walked.heading[2] <= 0 or told.high_m is None:
            continue
        passed = walked.start[2] - floor.level_m
        if abs(passed - told.high_m) <= AGREES_M:
            continue
        name = told.name or "This storey"
        text = (
            f"{name} is told as {print_length(told.high_m, job.units)} high; {named(walked)} passes its ceiling at "
            f"{print_length(passed, job.units)}. One of the two was read wrongly."
        )
        fixes = [Fix("Take the line's", (Put(f"site.storeys[{told.id}].high_m", passed),))]
        before = line.legs[walked.number - 2] if walked.number > 1 else None
        if before is not None and before.heading[2] > 0 and not before.crosses:
            rise = before.leg.length_m + told.high_m - passed
            if rise > AGREES_M:
                put = Put(f"legs[{before.leg.id}].length_m", rise)
                fixes.append(Fix(f"Leg {before.number} rises {print_length(rise, job.units)}", (put,)))
        found.append(about_leg(walked, "storey", NOTE, "Storey", text, book.title, fixes=tuple(fixes)))
    return found
