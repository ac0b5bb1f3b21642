"""Cover over a trench (custom, never a stop), cable in walls (522.6), walls and floors that are passed (527.2)."""

from __future__ import annotations

import functools
from typing import Final

from awlmark.core.books import Book
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.leg import HIDDEN
from awlmark.core.job.model import Job
from awlmark.core.quantities import print_length
from awlmark.core.run.leg_finding import about_leg, named
from awlmark.core.run.line import INSIDE, Line, Walked

DEEP_M: Final = 0.05
"""A cable deeper than this in a wall is out of reach of nails and screws [m]."""


@functools.cache
def usual_cover() -> dict[str, float]:
    """Cover that is usual by what lies over it, common practice [m]."""
    return {row["surface"]: float(row["cover_mm"]) / 1000 for row in printed("cover_practice").rows}


def cover_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Every trench: no depth is a rule, less than the usual is a note; the street's authority decides in streets."""
    found = []
    for walked in line.legs:
        if walked.leg.direction != "trench":
            continue
        leg, cite = walked.leg, f"common practice; {book.cite('ground')}"
        over = leg.surface or "soil"
        usual = usual_cover().get(over, usual_cover()["soil"])
        fixes = (Fix(f"Dig to {print_length(usual, job.units)}", (Put(f"legs[{leg.id}].cover_m", usual),)),)
        if leg.cover_m is None:
            text = f"How deep does {named(walked)} lie? {print_length(usual, job.units)} is usual."
            found.append(
                about_leg(walked, "cover", UNREAD, "Cover not read", text, cite, ask=f"leg {walked.number} cover ",
                          fixes=fixes)
            )  # fmt: skip
            continue
        less = leg.cover_m < usual - 1e-9
        text = f"{print_length(leg.cover_m, job.units)} of cover; {print_length(usual, job.units)} is usual."
        if over == "street":
            less, text = True, f"{text} The street authority decides."
        found.append(
            about_leg(walked, "cover", NOTE if less else HOLDS, "Cover", text, cite, found=leg.cover_m, needed=usual,
                      unit="m", fixes=fixes if less and over != "street" else ())
        )  # fmt: skip
    return found


def zone_findings(_job: Job, line: Line, book: Book) -> list[Finding]:
    """Cable in a wall: in a zone where people expect it, 50 mm deep, or behind earthed metal; asked once a leg."""
    found = []
    for walked in line.legs:
        leg = walked.leg
        if not walked.method.soft or leg.mount not in HIDDEN or walked.crosses:
            continue
        cite, ask = book.cite("nails"), f"leg {walked.number} zone "
        if leg.sleeve or leg.zone or (leg.edge_m is not None and leg.edge_m >= DEEP_M - 1e-9):
            text = f"The cable of {named(walked)} lies where a nail is not expected, or is guarded from it."
            found.append(about_leg(walked, "zone", HOLDS, "Cable in the wall", text, cite))
        elif leg.zone is None:
            zone = "a zone (straight from an accessory, or 150 mm along a corner or the top)"
            text = f"Does {named(walked)} lie in {zone}, or 50 mm deep?"
            fixes = (Fix("It lies in a zone", (Put(f"legs[{leg.id}].zone", True),)),)
            found.append(about_leg(walked, "zone", UNREAD, "Cable in the wall", text, cite, ask=ask, fixes=fixes))
        else:
            text = f"The cable of {named(walked)} lies in no zone, less than 50 mm deep: armoured, or in earthed steel."
            found.append(about_leg(walked, "zone", STOP, "Cable in the wall", text, cite))
    return found


def passage_findings(_job: Job, line: Line, book: Book) -> list[Finding]:
    """Every wall and floor that is passed: how thick, and whether it holds back fire."""
    return [finding for walked in line.legs if walked.crosses for finding in _passed(walked, book)]


def _passed(walked: Walked, book: Book) -> list[Finding]:
    leg, cite = walked.leg, book.cite("storeys")
    what = "floor or ceiling" if walked.heading[2] else "wall"
    if not leg.length_m:
        text, ask = f"How thick is the {what} at {named(walked)}?", f"leg {walked.number} "
        return [about_leg(walked, "thickness", UNREAD, "Wall not measured", text, cite, ask=ask)]
    inside = walked.place in INSIDE and walked.place_after in INSIDE
    if inside and leg.fire is None:
        text = f"Has the {what} at {named(walked)} to hold back fire, as between garage and house?"
        ways = (
            Fix("It holds back fire", (Put(f"legs[{leg.id}].fire", True),)),
            Fix("It need not", (Put(f"legs[{leg.id}].fire", False),)),
        )
        ask = f"leg {walked.number} fire "
        return [about_leg(walked, "fire", UNREAD, "Fire barrier", text, cite, fixes=ways, ask=ask)]
    if leg.fire:
        text = f"Seal {named(walked)} so that it holds back fire as before, inside the sleeve too."
        return [about_leg(walked, "fire", NOTE, "Fire barrier", text, cite)]
    text = f"A sleeve at {named(walked)}" + (", sealed." if inside else " that falls outwards, sealed.")
    return [about_leg(walked, "passage", HOLDS, "Wall passed", text, cite)]
