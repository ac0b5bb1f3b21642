"""Underground: cover, frost, and protection where the line comes up, Section 300.5."""

from __future__ import annotations

import functools
from typing import Final

from awlmark.core.books import Book
from awlmark.core.books.book import LISTED, Method
from awlmark.core.books.nec.printed import printed
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length
from awlmark.core.run.leg_finding import about_leg, named
from awlmark.core.run.line import Line, Walked
from awlmark.core.run.trench import Trench, dig, in_ground, risers

SURFACE_NAMES: Final = {
    "soil": "open ground",
    "concrete": "2 in of concrete in the trench",
    "building": "a building",
    "slab": "a slab nobody drives on",
    "street": "a road, drive or car park",
    "drive": "a dwelling's own drive",
}
STEEL_PIPE: Final = "RMC/IMC"
SHALLOW_A: Final = 20.0
"""Largest breaker of a circuit that may lie shallow, Table 300.5 column 4 [A]."""


def shallow(job: Job) -> bool:
    """Whether the circuit may lie as shallow as Table 300.5, column 4 has it.

    A dwelling's branch circuit of 120 V with ground-fault protection and a breaker of 20 A at most; every receptacle
    for charging has that protection (625.54).
    """
    small = job.circuit.breaker_a is None or job.circuit.breaker_a <= SHALLOW_A
    return job.occupancy == "dwelling" and job.charger.connection in ("5-15", "5-20") and small


@functools.cache
def least_cover_m(method: Method, surface: str, shallow: bool = False, dwelling: bool = True) -> float:
    """Least cover over a raceway or cable [m], NEC Table 300.5.

    Parameters
    ----------
    method : Method
        Raceway or cable.
    surface : str
        What lies over it, one of ``SURFACES``.
    shallow : bool
        A dwelling's 120 V, 20 A circuit with ground-fault protection, column 4.
    dwelling : bool
        Only a dwelling's own drive is easier than a street.
    """
    if surface == "drive" and not dwelling:
        surface = "street"
    group = method.cover_group
    if shallow and group != STEEL_PIPE:
        group = "residential 120V GFCI 20A"
        if surface == "slab":
            group += " direct burial" if method.cable else " in raceway"
    row = next(
        row for row in printed("burial_300_5").rows if row["surface"] == surface and row["method"].startswith(group)
    )
    return float(row["min_cover_in"]) * INCH_M


def trench_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Cover of every trench leg, and what holds at its risers."""
    found: list[Finding] = []
    for walked in in_ground(line):
        if walked.heading[2] == 0:
            found += _cover(job, walked, book)
            found += _under_building(walked, book)
    for walked in risers(line):
        found += _guard(walked, book)
        found += _frost(job, walked, book)
    return found


def _cover(job: Job, walked: Walked, book: Book) -> list[Finding]:
    leg, cite = walked.leg, book.cite("cover")
    rule = shallow(job), job.occupancy == "dwelling"
    least = least_cover_m(walked.method, leg.surface or "soil", *rule)
    over = SURFACE_NAMES[leg.surface or "soil"]
    if leg.surface == "drive" and not rule[1]:
        over = "the drive of a business"
    if leg.cover_m is None:
        text = f"How deep is {named(walked)}? Under {over} {walked.method.name} wants {print_length(least, job.units)}."
        fixes = (Fix(f"Dig to {print_length(least, job.units)}", (Put(f"legs[{leg.id}].cover_m", least),)),)
        ask = f"leg {walked.number} cover "
        return [about_leg(walked, "cover", UNREAD, "Cover not read", text, cite, fixes=fixes, ask=ask)]
    severity = grade(leg.cover_m, least, "least", stepped=True)
    ask = ""
    dug = dig(walked)
    assert dug is not None
    deep, wanted = print_length(leg.cover_m, job.units), print_length(least, job.units)
    text = f"{deep} of cover over {walked.method.name}; under {over} {wanted} is needed."
    sums = [
        _volume(dug, job),
        "Have buried services marked before you dig.",
        "Warning ribbon half way down (common practice).",
    ]
    ways: tuple[Fix, ...] = ()
    if leg.surface is None and severity == HOLDS:
        driven = least_cover_m(walked.method, "street", *rule)
        if leg.cover_m < driven - 1e-9:
            severity, ask = UNREAD, f"leg {walked.number} surface "
            text += f" Is it driven over? Then it wants {print_length(driven, job.units)}."
            open_ground = Fix("Open ground, nobody drives there", (Put(f"legs[{leg.id}].surface", "soil"),))
            ways = (open_ground, Fix("A drive", (Put(f"legs[{leg.id}].surface", "drive"),)))
    if severity == STOP:
        ways = (Fix(f"Dig to {print_length(least, job.units)}", (Put(f"legs[{leg.id}].cover_m", least),)),)
        if leg.cover_m >= least_cover_m(book.methods["rmc"], leg.surface or "soil", *rule) - 1e-9:
            edits = (Put(f"legs[{leg.id}].method", "rmc"), Put(f"legs[{leg.id}].trade_size", None))
            ways = (*ways, Fix("RMC instead", edits))
    unit_m, unit = (INCH_M, "in") if job.units == "ft" else (0.01, "cm")
    return [
        about_leg(
            walked, "cover", severity, "Cover", text, cite, found=leg.cover_m / unit_m, needed=least / unit_m,
            unit=unit, sums=tuple(sums), fixes=ways, ask=ask,
        )
    ]  # fmt: skip


def _under_building(walked: Walked, book: Book) -> list[Finding]:
    """Cable under a building lies in a raceway; the table's nought is for that (300.5(C))."""
    leg = walked.leg
    if leg.surface != "building" or not walked.method.cable or leg.sleeve is not None:
        return []
    path = f"legs[{leg.id}]"
    fixes = (
        Fix("A raceway over it", (Put(f"{path}.sleeve", "pvc40"),)),
        Fix("PVC 40 instead", (Put(f"{path}.method", "pvc40"),)),
    )
    text = f"{walked.method.name} under a building lies in a raceway that comes out beyond its walls."
    severity = STOP
    if walked.method.buried == LISTED:
        severity, text = NOTE, "Under a building only MC marked for direct burial lies without a raceway."
    return [about_leg(walked, "under", severity, "Under a building", text, book.cite("under_building"), fixes=fixes)]


def _volume(dug: Trench, job: Job) -> str:
    if job.units == "m":
        return f"Trench {dug.volume_m3:.1f} m³, spoil {dug.spoil_m3:.1f} m³ loose, sand {dug.sand_m3:.1f} m³"
    yards = 1 / 0.764554857984
    return (
        f"Trench {dug.volume_m3 * yards:.1f} yd³, spoil {dug.spoil_m3 * yards:.1f} yd³ loose, "
        f"sand {dug.sand_m3 * yards:.1f} yd³"
    )


def _guard(walked: Walked, book: Book) -> list[Finding]:
    """Direct-buried cable comes up in a raceway to 8 ft always; where it can be hit, in rigid metal or Schedule 80."""
    cite = book.cite("riser")
    path = f"legs[{walked.leg.id}]"
    if walked.method.cable and walked.place != "buried":
        return _cable_riser(walked, book)
    if walked.method.guards_riser or walked.leg.exposed is False:
        return []
    tough = Fix("Schedule 80 there", (Put(f"{path}.method", "pvc80"), Put(f"{path}.trade_size", None)))
    if walked.leg.exposed:
        text = f"{walked.method.name} comes up where it can be hit: Schedule 80 or rigid metal from the trench to 8 ft."
        return [about_leg(walked, "guard", STOP, "Riser not guarded", text, cite, fixes=(tough,))]
    return [_ask_riser(walked, tough, cite)]


def _cable_riser(walked: Walked, book: Book) -> list[Finding]:
    """Cable that comes out of the ground: in a raceway from its depth, 18 in at most, to 8 ft (300.5(D)(1))."""
    leg, cite = walked.leg, book.cite("cable_riser")
    path = f"legs[{leg.id}].sleeve"
    pipe = Fix("Schedule 80 over it", (Put(path, "pvc80"),))
    if leg.sleeve is None:
        text = (
            f"{walked.method.name} comes up on {named(walked)} without a raceway: from 18 in below ground to 8 ft "
            "above it lies in one, wherever it comes up."
        )
        return [about_leg(walked, "guard", STOP, "Riser not guarded", text, cite, fixes=(pipe,))]
    cite = book.cite("riser_guard")
    if (leg.sleeve is not None and book.methods[leg.sleeve].guards_riser) or leg.exposed is False:
        text = f"{walked.method.name} on {named(walked)} in {leg.sleeve.upper()}, from 18 in below ground to 8 ft."
        text += f" A bushing at its end keeps the edge off the jacket ({book.clause('riser_bushing')})."
        return [about_leg(walked, "guard", HOLDS, "Riser", text, cite)]
    if leg.exposed:
        text = f"The riser on {named(walked)} can be hit: Schedule 80 or rigid metal, from the trench to 8 ft."
        return [about_leg(walked, "guard", STOP, "Riser not guarded", text, cite, fixes=(pipe,))]
    return [_ask_riser(walked, pipe, cite)]


def _ask_riser(walked: Walked, guard: Fix, cite: str) -> Finding:
    """Whether a riser can be hit, with the guard that it takes if so."""
    text = f"Can anything hit {named(walked)} where it comes up? Then Schedule 80 or rigid metal to 8 ft."
    fixes = (guard, Fix("Nothing can hit it", (Put(f"legs[{walked.leg.id}].exposed", False),)))
    ask = f"leg {walked.number} exposed "
    return about_leg(walked, "guard", UNREAD, "Riser", text, cite, fixes=fixes, ask=ask, site=True)


def _frost(job: Job, walked: Walked, book: Book) -> list[Finding]:
    """Frost and settling lift a buried raceway; a riser glued solid tears what it is fixed to."""
    low = job.site.low_c
    if walked.method.cable or walked.leg.slip or (low is not None and low >= 0):
        return []
    if low is None:
        text = f"Does the ground freeze where {named(walked)} comes up? Type the weather: frost lifts the raceway."
        cite = book.cite("frost")
        return [about_leg(walked, "frost", UNREAD, "Frost at the riser", text, cite, ask="site ", site=True)]
    text = f"Frost lifts the ground under {named(walked)}; a raceway fixed at its head tears there. Fit a slip joint."
    fixes = (Fix("Slip joint", (Put(f"legs[{walked.leg.id}].slip", True),)),)
    return [about_leg(walked, "frost", TIGHT, "Frost at the riser", text, book.cite("frost"), fixes=fixes)]
