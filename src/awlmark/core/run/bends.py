"""Bends between pull points."""

from __future__ import annotations

from typing import Final

from awlmark.core.book import Book
from awlmark.core.finding import HOLDS, STOP, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.run.line import Line

MOST_DEG: Final = 360.0
"""Most degrees of bend between pull points (NEC 358.26 and its neighbours)."""


def check_bends(line: Line, book: Book) -> list[Finding]:
    """Degrees between pull points of every stretch of raceway; one finding a stretch.

    Parameters
    ----------
    line : Line
        The walked line.
    book : Book
        For the clause.
    """
    found = []
    for number, stretch in enumerate(line.stretches, 1):
        if stretch.raceway is None:
            continue
        over = stretch.bends_deg > MOST_DEG + 1e-6
        fixes = (
            Fix("Conduit body here", (Put(f"legs[{stretch.leg_id}].end", "body"),)),
            Fix("Box here", (Put(f"legs[{stretch.leg_id}].end", "box"),)),
            Fix("Pull elbow here", (Put(f"legs[{stretch.leg_id}].end", "pull elbow"),)),
        )
        at = next(walked.end_m for walked in line.legs if walked.leg.id == stretch.leg_id)
        found.append(
            Finding(
                id=f"bends:{number}",
                severity=STOP if over else HOLDS,
                title="Bends",
                text=(
                    f"{_count(stretch.bends)} {stretch.bends_deg:.0f}° between two pull points; "
                    + ("wire past 360° tears in the pull." if over else "360° is the most.")
                ),
                cite=f"{book.title} {stretch.raceway.bend_cite}",
                found=stretch.bends_deg,
                needed=MOST_DEG,
                unit="deg",
                sense="most",
                sums=(f"{stretch.bends_deg:.0f}° of 360°",),
                at_m=at if over else stretch.end_m,
                where=stretch.leg_id,
                stage="run",
                fixes=fixes if over else (),
            )
        )
    return found


def _count(bends: int) -> str:
    return "No bend:" if bends == 0 else "One bend makes" if bends == 1 else f"{bends} bends make"
