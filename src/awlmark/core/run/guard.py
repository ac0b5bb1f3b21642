"""What can hurt the wire on its way: nails, feet, vehicles, sun; and holes bored for it."""

from __future__ import annotations

import math
from typing import Final

from awlmark.core.book import Book
from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length
from awlmark.core.run.line import INSIDE, Line, Walked
from awlmark.core.run.told import about_leg, named

EDGE_M: Final = 1.25 * INCH_M
"""Nearer to the face of the framing than this wants a steel plate, 300.4(A)."""
STUD_M: Final = 16 * INCH_M
"""Framing on its centres; common practice."""
SOFT: Final = ("nm", "uf", "ent", "ac", "ser")
"""Methods whose jacket a blow or a nail gets through."""
SUN_MARKED: Final = ("uf", "ser", "mc", "ac", "nm", "fmc", "lfmc", "lfnc", "ent")
"""Methods that the sun spoils unless their marking says otherwise; rigid pipe stands it (310.10(D), from memory)."""
GUARDS: Final = ("rmc", "imc", "emt", "pvc80")
"""Pipe over a cable that a blow does not get through, 334.15(B)."""


def studs_crossed(walked: Walked) -> int:
    """Studs or joists that a leg inside the framing is bored through."""
    if walked.leg.mount != "inside" or walked.heading[2] != 0 or walked.crosses or walked.place == "buried":
        return 0
    return math.floor(walked.leg.length_m / STUD_M + 1e-9)


def nail_plates(walked: Walked) -> int:
    """Steel plates a leg wants: one a stud, where its hole is too near the edge."""
    near = walked.leg.edge_m is not None and walked.leg.edge_m < EDGE_M - 1e-9
    metal = walked.method.key in ("rmc", "imc", "emt", "pvc40", "pvc80")
    return studs_crossed(walked) if near and not metal else 0


def guard_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Every leg that something can hurt; a bare quote of one leg says nothing about its wall."""
    if len(job.legs) < 2:
        return []
    found: list[Finding] = []
    for walked in line.legs:
        if walked.crosses or walked.place == "buried":
            continue
        if walked.method.key in SOFT:
            found += _soft(walked, book)
        elif walked.leg.exposed and walked.method.key in ("pvc40", "ent", "lfnc") and walked.heading[2] == 0:
            text = f"{walked.method.name} on {named(walked)} can be hit: Schedule 80 or rigid metal there."
            fixes = (Fix("Schedule 80", (Put(f"legs[{walked.leg.id}].method", "pvc80"),)),)
            found.append(about_leg(walked, "hit", STOP, "Can be hit", text, f"{book.title} 300.4, 352.12", fixes=fixes))
        if studs_crossed(walked) and walked.method.key in SOFT:
            found.append(_bored(job, walked, book))
        if walked.leg.sun and walked.place in ("outdoor", "roof") and walked.method.key in SUN_MARKED:
            text = f"{named(walked).capitalize()} lies in the sun: only {walked.method.name} marked sunlight resistant."
            found.append(about_leg(walked, "sun", NOTE, "In the sun", text, f"{book.title} 310.10(D)"))
    return found


def _soft(walked: Walked, book: Book) -> list[Finding]:
    """Cable on the face of a garage wall, or anywhere it can be hit, has to be guarded."""
    if walked.leg.sleeve in GUARDS:
        return []
    path = f"legs[{walked.leg.id}]"
    cite = f"{book.title} 334.15(B), 300.4"
    pipe = Fix("EMT there", (Put(f"{path}.method", "emt"),))
    sleeve = Fix("A sleeve over it", (Put(f"{path}.sleeve", "emt"),))
    inside = Fix("It runs inside the wall", (Put(f"{path}.mount", "inside"),))
    if walked.leg.exposed or (walked.place == "garage" and walked.leg.mount == "surface"):
        over = "what is over it is not rigid" if walked.leg.sleeve else "it wants pipe or boards over it"
        text = f"{walked.method.name} on {named(walked)} lies open where it can be hit; {over}."
        return [about_leg(walked, "hit", STOP, "Unprotected cable", text, cite, fixes=(sleeve, pipe, inside))]
    if walked.leg.mount is None and walked.leg.exposed is None and walked.place in INSIDE and walked.heading[2] <= 0:
        text = f"Is {named(walked)} inside the wall or on its face? {walked.method.name} on the face must not be hit."
        return [about_leg(walked, "hit", NOTE, "Cable's place", text, cite, fixes=(inside, pipe))]
    return []


def _bored(job: Job, walked: Walked, book: Book) -> Finding:
    cite, studs = f"{book.title} 300.4(A)", studs_crossed(walked)
    edge = walked.leg.edge_m
    least = print_length(EDGE_M, job.units)
    if edge is None:
        text = (
            f"{studs} studs are bored on {named(walked)}: how far from their edge? From {least} on no plate is needed."
        )
        fixes = (Fix(f"{least} and more", (Put(f"legs[{walked.leg.id}].edge_m", EDGE_M),)),)
        return about_leg(
            walked, "bored", UNREAD, "Bored holes", text, cite, fixes=fixes, ask=f"leg {walked.number} edge "
        )
    if nail_plates(walked):
        text = f"{print_length(edge, job.units)} from the edge of {studs} studs: a steel plate on each, on the list."
        return about_leg(walked, "bored", NOTE, "Nail plates", text, cite)
    text = f"{print_length(edge, job.units)} from the edge of {studs} studs; {least} is enough without plates."
    return about_leg(walked, "bored", HOLDS, "Bored holes", text, cite)
