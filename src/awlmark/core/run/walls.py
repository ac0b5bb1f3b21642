"""Where the line passes a wall: what it is built of, the nipple, and what has to be closed."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length, print_small
from awlmark.core.run.leg_finding import about_leg, named
from awlmark.core.run.line import INSIDE, Line, Walked

NIPPLES_IN: Final = (2.0, 2.5, 3.0, 3.5, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 18.0, 24.0)
"""Lengths that nipples are sold in; common practice."""
STEEL_NIPPLE, SLEEVE, HOLE = "steel nipple", "a sleeve with bushings", "a bored hole"
THREADS_IN: Final = 1.0
"""What both locknuts and the bushing take of a nipple; common practice."""
MASONRY: Final = ("stone", "brick", "block", "concrete", "masonry")
"""Words that name walls of stone and the like, which move and sweat: pipe passes them in a sleeve."""
COLD: Final = ("outdoor", "roof", "buried", "attic", "crawl")


class Passage(msgspec.Struct, frozen=True):
    """What one passage through a wall takes."""

    leg_id: str
    thick_m: float
    nipple_in: float | None
    """None where no nipple of that length is sold: a cut stick serves."""
    kind: str
    """What passes: a steel or plastic nipple; cable and soft pipe by a hole, through masonry by a sleeve."""
    sleeved: bool
    """Whether the nipple itself goes through a sleeve."""
    weather: bool
    """From inside to outside: closed against rain and air."""
    fire: bool
    warm_to_cold: bool
    """Air of the warm side must not reach the cold one through the raceway."""


def masonry(walked: Walked) -> bool:
    """Whether the wall that a leg passes is of stone, brick or the like."""
    names = (walked.leg.wall, *(layer.name for layer in walked.leg.layers))
    return any(word in name.lower() for name in names for word in MASONRY)


def passage(walked: Walked) -> Passage:
    """Work out one passage."""
    thick = sum(layer.thick_m for layer in walked.leg.layers) or walked.leg.length_m
    wanted = thick / INCH_M + THREADS_IN
    nipple = next((length for length in NIPPLES_IN if length >= wanted - 1e-9), None)
    inner, outer = walked.place in INSIDE, walked.place_after in INSIDE
    cold = (walked.place in COLD) != (walked.place_after in COLD)
    stone, soft = masonry(walked), not walked.method.nipple
    kind = (SLEEVE if stone else HOLE) if soft else f"{walked.method.nipple} nipple"
    sleeved = stone and not soft
    return Passage(walked.leg.id, thick, nipple, kind, sleeved, inner != outer, bool(walked.leg.fire), cold)


def wall_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Every wall and ceiling the line passes."""
    found = []
    for walked in line.legs:
        if not walked.crosses:
            continue
        there, leg = passage(walked), walked.leg
        total = sum(layer.thick_m for layer in leg.layers)
        if leg.layers and abs(total - leg.length_m) > 0.25 * INCH_M:
            made, read = print_length(total, job.units), print_length(leg.length_m, job.units)
            text = f"The layers of {named(walked)} make {made}, its reading {read}."
            fixes = (Fix("Take the layers", (Put(f"legs[{leg.id}].length_m", total),)),)
            found.append(about_leg(walked, "layers", NOTE, "Wall", text, book.title, fixes=fixes))
        if not leg.length_m:
            what = "floor or ceiling" if walked.heading[2] else "wall"
            text = f"How thick is the {what} at {named(walked)}? Its nipple hangs on it."
            ask = f"leg {walked.number} "
            found.append(about_leg(walked, "thickness", UNREAD, "Wall not measured", text, book.title, ask=ask))
            continue
        if leg.length_m < 0.25 * INCH_M:
            text = f"The wall at {named(walked)} has no thickness: measure it, the nipple hangs on it."
            found.append(about_leg(walked, "thickness", STOP, "Wall without thickness", text, book.title))
        if leg.fire is None and walked.place in INSIDE and walked.place_after in INSIDE:
            what = "floor or ceiling" if walked.heading[2] else "wall"
            text = f"Has the {what} at {named(walked)} to hold back fire, as between garage and house?"
            ways = (
                Fix("It holds back fire", (Put(f"legs[{leg.id}].fire", True),)),
                Fix("It need not", (Put(f"legs[{leg.id}].fire", False),)),
            )
            ask = f"leg {walked.number} fire "
            cite = book.cite("fire")
            found.append(about_leg(walked, "fire", UNREAD, "Fire wall", text, cite, fixes=ways, ask=ask, site=True))
        closing = [
            word
            for word, needed in (
                ("against weather", there.weather),
                ("against fire", there.fire),
                ("warm from cold", there.warm_to_cold),
            )
            if needed
        ]
        if closing:
            thick = print_length(there.thick_m, job.units)
            piece = (
                f"{print_small(there.nipple_in * INCH_M, job.units, 0)} {there.kind}"
                if there.nipple_in
                else "cut piece"
            )
            piece = f"pipe or {piece}" if there.nipple_in else piece
            piece = there.kind if there.kind in (SLEEVE, HOLE) else f"{piece}{', in a sleeve' if there.sleeved else ''}"
            text = f"{thick} of {leg.wall or 'wall'}: {piece}; close it {', '.join(closing)}. Seal is on the list."
            rule = "fire_seal" if there.fire else "seal"
            found.append(about_leg(walked, "seal", HOLDS, "Wall passed", text, book.cite(rule)))
    return found
