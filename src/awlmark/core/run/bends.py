"""Bends between pull points."""

from __future__ import annotations

import functools
from typing import Final

from msgspec.structs import replace

from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, STOP, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.run.line import Line, Stretch

MANY: Final = 24
"""More stretches than this are not told one by one while they hold: the worst speaks for all."""


def check_bends(job: Job, line: Line, book: Book) -> list[Finding]:
    """Degrees between pull points of every stretch of raceway: one finding a stretch, or the worst of very many.

    Parameters
    ----------
    job : Job
        Not looked at.
    line : Line
        The walked line.
    book : Book
        For the limit and the clause.
    """
    pipes = [(number, stretch) for number, stretch in enumerate(line.stretches, 1) if stretch.raceway is not None]
    most_deg = book.run.most_bend_deg
    if len(pipes) <= MANY:
        return [_about(book, number, stretch) for number, stretch in pipes]
    broken = [(number, stretch) for number, stretch in pipes if stretch.bends_deg > most_deg + 1e-6]
    found = [_about(book, number, stretch) for number, stretch in broken]
    worst = max(pipes, key=lambda pipe: pipe[1].bends_deg)
    if not broken:
        most = _about(book, *worst)
        found.append(replace(most, text=f"Most of {len(pipes)} stretches: {most.text[:1].lower()}{most.text[1:]}"))
    return found


def _about(book: Book, number: int, stretch: Stretch) -> Finding:
    """What one stretch of raceway says."""
    most_deg = book.run.most_bend_deg
    over = stretch.bends_deg > most_deg + 1e-6
    text, sums = _words(stretch.bends, stretch.bends_deg, most_deg, over)
    assert stretch.raceway is not None
    return Finding(
        id=f"bends:{number}",
        severity=STOP if over else HOLDS,
        title="Bends",
        text=text,
        cite=f"{book.title} {stretch.raceway.bend_cite}",
        found=stretch.bends_deg,
        needed=most_deg,
        unit="deg",
        sense="most",
        sums=sums,
        at_m=next(walked.end_m for walked in stretch.legs if walked.leg.id == stretch.leg_id),
        where=stretch.leg_id,
        stage="run",
        fixes=_fixes(stretch, most_deg) if over else (),
    )


@functools.lru_cache(maxsize=1024)
def _words(bends: int, degrees: float, most_deg: float, over: bool) -> tuple[str, tuple[str, ...]]:
    """Text and sum of a stretch, kept: a long line has many alike."""
    end = f"wire past {most_deg:.0f}° tears in the pull." if over else f"{most_deg:.0f}° is the most."
    left = "" if over else f", {most_deg - degrees:.0f}° left to the next pull point"
    return f"{_count(bends)} {degrees:.0f}° between two pull points; {end}", (
        f"{degrees:.0f}° of {most_deg:.0f}°{left}",
    )


def _fixes(stretch: Stretch, most_deg: float) -> tuple[Fix, ...]:
    points = pull_points(stretch, most_deg)
    where = "here" if len(points) < 2 else f"at {len(points)} bends"
    return tuple(
        Fix(f"{label} {where}", tuple(Put(f"legs[{leg_id}].end", end) for leg_id in points))
        for label, end in (("Conduit body", "body"), ("Box", "box"), ("Pull elbow", "pull elbow"))
    )


def pull_points(stretch: Stretch, most_deg: float) -> tuple[str, ...]:
    """Legs whose ends become pull points so that no stretch between two passes the limit [degrees]: the fewest.

    Walking on as far as the degrees allow before the wire is got at can never need more points than stopping sooner.
    A body, box or pull elbow at a turn takes the place of its bend.
    """
    found: list[str] = []
    degrees, before = 0.0, ""
    for walked in stretch.legs:
        degrees += walked.offset_deg
        if degrees > most_deg + 1e-6 and before:
            found.append(before)
            degrees = walked.offset_deg
        if walked is not stretch.legs[-1] and walked.turn_deg > 1e-6:
            if degrees + walked.turn_deg > most_deg + 1e-6:
                found.append(walked.leg.id)
                degrees = 0.0
            else:
                degrees += walked.turn_deg
        before = walked.leg.id
    return tuple(dict.fromkeys(found))


def _count(bends: int) -> str:
    return "No bend:" if bends == 0 else "One bend makes" if bends == 1 else f"{bends} bends make"
