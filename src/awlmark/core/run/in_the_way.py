"""What stands on the walls that the line takes: doors, heaters, ducts, and legs that run across them."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.errors import InputError
from awlmark.core.finding import NOTE, Finding, Fix
from awlmark.core.job.floor import Thing
from awlmark.core.job.leg import HIDDEN
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length
from awlmark.core.run.leg_finding import about_leg, named
from awlmark.core.run.line import Line, Vector, Walked
from awlmark.core.run.reroute import go_round

AGAINST_M: Final = 0.7
"""What stands nearer to a wall than this is drawn on it."""
TOUCH_M: Final = 3 * INCH_M
"""And nearer than this a pipe on the wall does not pass behind it."""
IN_WALL_M: Final = -0.1
"""What stands in a wall, as a door does, may reach so far behind its face."""
CLEAR_M: Final = 2 * INCH_M
"""Kept between a pipe and what it goes round; common practice."""
_GRAZE_M: Final = 0.01


class OnWall(msgspec.Struct, gc=False, frozen=True):
    """One thing as it is seen on a wall."""

    thing: Thing
    left_m: float
    right_m: float
    """Its sides along the wall, to the right of where the leg starts [m]."""
    off_m: float
    """Free between it and the wall; nought or less where it stands in the wall, as a door does [m]."""


_Lies = tuple[Thing, float, float, float, float]
"""A thing and its sides along a wall, to the right, and how far into it, least and most of each [m]."""


def _lies(facing: Vector, things: tuple[Thing, ...]) -> list[_Lies]:
    """How things lie to every wall that is faced this way."""
    fx, fy, _level = facing
    found = []
    for thing in things:
        corners = [(thing.x_m + a * thing.wide_m, thing.y_m + b * thing.deep_m) for a in (0, 1) for b in (0, 1)]
        along, into = [x * fy - y * fx for x, y in corners], [x * fx + y * fy for x, y in corners]
        found.append((thing, min(along), max(along), min(into), max(into)))
    return found


def _seen(walked: Walked, lies: list[_Lies], nearest_m: float) -> list[OnWall]:
    """What stands nearer than this to the wall of a leg, on the walker's side."""
    (fx, fy, _level), (x, y, _height) = walked.facing, walked.start
    along, into = x * fy - y * fx, x * fx + y * fy
    return [
        OnWall(thing, left - along, right - along, into - far)
        for thing, left, right, near, far in lies
        if into - far <= nearest_m and into - near >= IN_WALL_M
    ]


def on_wall(walked: Walked, things: tuple[Thing, ...]) -> list[OnWall]:
    """The things that stand against the wall that a leg is on, as the walker sees them."""
    return _seen(walked, _lies(walked.facing, things), AGAINST_M)


def obstacle_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Every leg that runs across something on its wall, with the ways round it."""
    things = job.site.things
    if not things:
        return []
    found: list[Finding] = []
    lies: dict[Vector, tuple[float, float, list[_Lies]]] = {}
    for walked in line.legs:
        facing = walked.facing
        if facing not in lies:
            those = _lies(facing, things)
            lies[facing] = min([near for *_rest, near, _far in those]), max([far for *_rest, far in those]), those
        near, far, those = lies[facing]
        into = walked.start[0] * facing[0] + walked.start[1] * facing[1]
        # Most walls of a long line have nothing near them.
        if into - far > TOUCH_M or into - near < IN_WALL_M or walked.crosses or walked.place == "buried":
            continue
        for seen in _seen(walked, those, TOUCH_M):
            # Inside the framing a leg passes behind what stands before the wall, but not through a door in it.
            hidden = walked.leg.mount in HIDDEN and seen.off_m > -_GRAZE_M
            span = None if hidden else _span(walked, seen)
            if span is not None:
                found.append(_about(job, walked, seen, span, book))
                break
    return found


def _span(walked: Walked, seen: OnWall) -> tuple[float, float] | None:
    """From where to where along a leg it runs across a thing [m]; None where it does not."""
    thing, height, length = seen.thing, walked.start[2], walked.leg.length_m
    up = walked.heading[2]
    if up:
        if not seen.left_m + _GRAZE_M < 0 < seen.right_m - _GRAZE_M:
            return None
        ends = (thing.low_m - height) * up, (thing.high_m - height) * up
    else:
        if not thing.low_m + _GRAZE_M < height < thing.high_m - _GRAZE_M:
            return None
        right = walked.heading[0] * walked.facing[1] - walked.heading[1] * walked.facing[0]
        ends = seen.left_m * right, seen.right_m * right
    start, end = max(min(ends), 0.0), min(max(ends), length)
    return (start, end) if end - start > _GRAZE_M else None


def _about(job: Job, walked: Walked, seen: OnWall, span: tuple[float, float], book: Book) -> Finding:
    thing, (start, end) = seen.thing, span
    if walked.heading[2]:
        asides = {"right": seen.right_m, "left": -seen.left_m}
    else:
        asides = {"up": thing.high_m - walked.start[2]} | (
            {"down": walked.start[2] - thing.low_m} if thing.low_m else {}
        )
    fixes = []
    for way, aside in sorted(asides.items(), key=lambda each: each[1]):
        label = f"Round it, {way} {print_length(aside + CLEAR_M, job.units)}"
        # Four bends more may be too many between two pull points: then one of them is a conduit body.
        for turn, more in (("bend", ""),) if walked.method.cable else (("bend", ""), ("body", ", with a body")):
            try:
                wide = end - start + 2 * CLEAR_M
                edits = go_round(job, walked.number, start - CLEAR_M, way, aside + CLEAR_M, wide, turn)
            except InputError:
                # It reaches past the leg's end, or what lies behind would move: the legs beside it move instead.
                continue
            fixes.append(Fix(label + more, edits))
    text = f"{named(walked).capitalize()} runs across {thing.name}: round it, or move one of them."
    at_m = walked.start_m + start
    return about_leg(walked, "across", NOTE, "In the way", text, book.title, at_m=at_m, fixes=tuple(fixes))
