"""Lines that cannot be built as they are read: each a mark at its place with the reason, never a refusal to draw."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, NOTE, STOP, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.quantities import print_length
from awlmark.core.run.leg_finding import about_leg, named
from awlmark.core.run.line import INSIDE, Line, Walked
from awlmark.core.run.storeys import standings

APART_M: Final = 0.02
"""Nearer than this two legs of one run touch."""
FLOOR_M: Final = 0.02
HIGH_M: Final = 2.0
"""Ground outside may lie higher than the floor inside, but not above a man's head."""


def odd_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Legs through the floor, trenches in the air, methods that change in a bend, a run that meets or turns back."""
    found: list[Finding] = []
    before: Walked | None = None
    for walked, floor in zip(line.legs, standings(line.legs, job.site.storeys), strict=False):
        level = floor.level_m
        if walked.leg.direction == "trench" or min(walked.start[2], walked.end[2]) < level - FLOOR_M:
            found += _level(job, walked, before, book, level)
        if before is not None and walked.method is not before.method and not before.pulls:
            found.append(_changes(before, walked, book))
        before = walked
    for before in [walked for walked in line.legs if walked.turn_deg > 179.0]:
        after = line.legs[before.number]
        if after.leg.direction != "through":
            text = f"{named(after).capitalize()} runs straight back over {named(before)}: no pipe turns so."
            fixes = (Fix("Rub it out", (Put("legs", tuple(leg for leg in job.legs if leg.id != after.leg.id)),)),)
            found.append(about_leg(after, "back", STOP, "Runs back", text, book.title, at_m=after.start_m, fixes=fixes))
    found += _crossings(line, book)
    return found


def _level(job: Job, walked: Walked, before: Walked | None, book: Book, floor: float) -> list[Finding]:
    low = min(walked.start[2], walked.end[2]) - floor
    if walked.leg.direction == "trench":
        if walked.start[2] <= FLOOR_M or (before is not None and before.leg.direction == "trench"):
            return []
        high = print_length(walked.start[2], job.units)
        if walked.start[2] > HIGH_M:
            text = f"{named(walked).capitalize()} is a trench {high} above the floor: a leg down is missing."
            return [about_leg(walked, "air", STOP, "Trench in the air", text, book.title, at_m=walked.start_m)]
        if before is None or before.heading[2] >= 0:
            text = f"No leg leads down into {named(walked)}. Does the ground outside lie {high} above the floor?"
            return [about_leg(walked, "air", NOTE, "No way down", text, book.title, at_m=walked.start_m)]
    elif low < -FLOOR_M and walked.place in INSIDE and walked.place != "crawl" and not walked.crosses:
        deep = print_length(-low, job.units)
        text = f"{named(walked).capitalize()} goes {deep} below the floor it stands on: through it, or shorter?"
        return [about_leg(walked, "floor", STOP, "Through the floor", text, book.title, at_m=walked.end_m)]
    return []


def _changes(before: Walked, after: Walked, book: Book) -> Finding:
    """One wiring method becomes another where nothing stands that joins them."""
    cable = before.method.cable or after.method.cable
    names = f"{before.method.name} becomes {after.method.name}"
    if before.method.family and before.method.family == after.method.family:
        text = f"{names} at the end of {named(before)}: a PVC coupling joins them."
        return about_leg(before, "changes", HOLDS, "Schedule changes", text, book.cite("schedule"), at_m=before.end_m)
    text = (
        f"{names} at the end of {named(before)}, where wires are joined: that wants a box."
        if cable
        else f"{names} at the end of {named(before)}: a box, a body or a fitting listed for both goes there."
    )
    kinds = ("box",) if cable else ("body", "box")
    fixes = tuple(Fix(f"{kind.capitalize()} there", (Put(f"legs[{before.leg.id}].end", kind),)) for kind in kinds)
    severity = STOP if cable else NOTE
    cite = book.cite("method_change")
    return about_leg(before, "changes", severity, "Method changes", text, cite, at_m=before.end_m, fixes=fixes)


def _crossings(line: Line, book: Book) -> list[Finding]:
    """Places where the run meets itself. Legs run along the axes, so two of them meet where their boxes do."""
    legs = line.legs
    if len(legs) < 3:
        return []
    points = np.array([legs[0].start, *[walked.end for walked in legs]])
    least, most = np.minimum(points[:-1], points[1:]), np.maximum(points[:-1], points[1:])
    # Swept along the axis the run spreads over most, so that few legs stand beside each other.
    axis = int(np.argmax(points.max(0) - points.min(0)))
    order = np.argsort(least[:, axis], kind="stable")
    low, high = least[order], most[order] + APART_M
    met: dict[int, int] = {}
    for apart in range(1, len(legs)):
        reach = low[apart:, axis] <= high[:-apart, axis]
        if not reach.any():
            break
        touch = reach & (low[apart:] <= high[:-apart]).all(1) & (low[:-apart] <= high[apart:]).all(1)
        for one, other in zip(order[:-apart][touch].tolist(), order[apart:][touch].tolist(), strict=True):
            first, second = (one, other) if one < other else (other, one)
            # Neighbours share an end, also those beside a wall that nobody measured yet.
            if second - first > 1 and legs[second].start_m - legs[first].end_m > APART_M:
                met[second] = min(first, met.get(second, first))
    found = []
    for second, first in sorted(met.items()):
        text = f"{named(legs[second]).capitalize()} meets {named(legs[first])}: step one of them aside."
        at_m = _meeting(legs[second], (least[first] + most[first]) / 2)
        found.append(about_leg(legs[second], "meets", NOTE, "Meets itself", text, book.title, at_m=at_m))
    return found


def _meeting(walked: Walked, other: Floats) -> float:
    """Where on the tape a leg comes to the middle of another [m]."""
    gone = float(np.dot(other - np.array(walked.start), np.array(walked.heading)))
    return walked.start_m + min(max(gone, 0.0), walked.leg.length_m)
