"""Underground: cover, trench and spoil, ribbon, frost, and protection where the line comes up."""

from __future__ import annotations

import functools
from typing import Final

import msgspec

from awlmark.core.book import Book
from awlmark.core.book.edition import Method
from awlmark.core.book.tables import printed
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length
from awlmark.core.run.line import Line, Walked
from awlmark.core.run.told import about_leg, named

LOCATIONS: Final = {
    "soil": "All locations not specified below",
    "concrete": "In trench below 2 in thick concrete or equivalent",
    "building": "Under a building",
    "slab": "Under min 4 in thick concrete exterior slab",
    "street": "Under streets highways roads alleys driveways and parking lots",
    "drive": "One- and two-family dwelling driveways",
}
"""Rows of Table 300.5, by how they begin."""
SURFACE_NAMES: Final = {
    "soil": "open ground",
    "concrete": "2 in of concrete in the trench",
    "building": "a building",
    "slab": "a slab nobody drives on",
    "street": "a road, drive or car park",
    "drive": "a dwelling's own drive",
}
TRENCH_WIDE_M: Final = 6 * INCH_M
"""Width of a trench cut by a narrow spade or chain; common practice."""
BED_M: Final = 3 * INCH_M
"""Sand under and over the raceway; common practice."""
SWELL: Final = 1.25
"""Loose spoil over ground in place; common practice."""
TOUGH: Final = ("rmc", "imc", "pvc80")


class Trench(msgspec.Struct, frozen=True):
    """What a trench leg takes."""

    length_m: float
    deep_m: float
    volume_m3: float
    spoil_m3: float
    """Loose."""
    sand_m3: float


@functools.cache
def least_cover_m(method: Method, surface: str) -> float:
    """Least cover over a raceway or cable [m], NEC Table 300.5."""
    group = (
        "RMC/IMC" if method.key in ("rmc", "imc") else "direct buried cable" if method.cable else "nonmetallic raceway"
    )
    row = next(
        row
        for row in printed("burial_300_5").rows
        if row["location"].startswith(LOCATIONS[surface]) and row["method"].startswith(group)
    )
    return float(row["min_cover_in"]) * INCH_M


def dig(walked: Walked) -> Trench | None:
    """Volume of a trench [m3]; None while its cover is unread."""
    cover = walked.leg.cover_m
    if walked.leg.direction != "trench" or cover is None:
        return None
    deep, length = cover + BED_M, walked.leg.length_m
    volume = length * deep * TRENCH_WIDE_M
    return Trench(length, deep, volume, volume * SWELL, length * 2 * BED_M * TRENCH_WIDE_M)


def trench_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Cover of every trench leg, and what holds at its risers."""
    found: list[Finding] = []
    for walked in line.legs:
        if walked.leg.direction == "trench":
            found += _cover(job, walked, book)
    for walked in _risers(line):
        found += _guard(walked, book)
        found += _frost(job, walked, book)
    return found


def _cover(job: Job, walked: Walked, book: Book) -> list[Finding]:
    leg, cite = walked.leg, f"{book.title} Table 300.5"
    least = least_cover_m(walked.method, leg.surface or "soil")
    over = SURFACE_NAMES[leg.surface or "soil"]
    if leg.cover_m is None:
        text = f"How deep is {named(walked)}? Under {over} {walked.method.name} wants {print_length(least, job.units)}."
        fixes = (Fix(f"Dig to {print_length(least, job.units)}", (Put(f"legs[{leg.id}].cover_m", least),)),)
        ask = f"leg {walked.number} cover "
        return [about_leg(walked, "cover", UNREAD, "Cover not read", text, cite, fixes=fixes, ask=ask)]
    severity = grade(leg.cover_m, least, "least", stepped=True)
    dug = dig(walked)
    assert dug is not None
    deep, wanted = print_length(leg.cover_m, job.units), print_length(least, job.units)
    text = f"{deep} of cover over {walked.method.name}; under {over} {wanted} is needed."
    sums = [
        _volume(dug, job),
        "Have buried services marked before you dig.",
        "Warning ribbon half way down (common practice).",
    ]
    if leg.surface is None and severity == HOLDS and len(job.legs) > 1:
        driven = least_cover_m(walked.method, "street")
        if leg.cover_m < driven - 1e-9:
            severity = NOTE
            text += f" Driven over it wants {print_length(driven, job.units)}; say so with surface street."
    ways: tuple[Fix, ...] = ()
    if severity == STOP:
        ways = (Fix(f"Dig to {print_length(least, job.units)}", (Put(f"legs[{leg.id}].cover_m", least),)),)
        if leg.cover_m >= least_cover_m(book.methods["rmc"], leg.surface or "soil") - 1e-9:
            edits = (Put(f"legs[{leg.id}].method", "rmc"), Put(f"legs[{leg.id}].trade_size", None))
            ways = (*ways, Fix("RMC instead", edits))
    unit_m, unit = (INCH_M, "in") if job.units == "ft" else (0.01, "cm")
    return [
        about_leg(
            walked, "cover", severity, "Cover", text, cite, found=leg.cover_m / unit_m, needed=least / unit_m,
            unit=unit, sums=tuple(sums), fixes=ways,
        )
    ]  # fmt: skip


def _volume(dug: Trench, job: Job) -> str:
    if job.units == "m":
        return f"Trench {dug.volume_m3:.1f} m³, spoil {dug.spoil_m3:.1f} m³ loose, sand {dug.sand_m3:.1f} m³"
    yards = 1 / 0.764554857984
    return (
        f"Trench {dug.volume_m3 * yards:.1f} yd³, spoil {dug.spoil_m3 * yards:.1f} yd³ loose, "
        f"sand {dug.sand_m3 * yards:.1f} yd³"
    )


def _risers(line: Line) -> list[Walked]:
    """Upright legs beside a trench, in the order of the tape; one between two trenches once for each."""
    legs = line.legs
    found = []
    for at in [walked.number - 1 for walked in legs if walked.leg.direction == "trench"]:
        found += [legs[beside] for beside in (at - 1, at + 1) if 0 <= beside < len(legs) and legs[beside].heading[2]]
    return found


def _guard(walked: Walked, book: Book) -> list[Finding]:
    """Where a riser can be hit, rigid metal or Schedule 80 from the trench to 8 ft."""
    cite = f"{book.title} 300.5(D)"
    if walked.method.key in TOUGH or walked.leg.exposed is False:
        return []
    path = f"legs[{walked.leg.id}]"
    tough = Fix("Schedule 80 there", (Put(f"{path}.method", "pvc80"), Put(f"{path}.trade_size", None)))
    if walked.leg.exposed:
        text = f"{walked.method.name} comes up where it can be hit: Schedule 80 or rigid metal from the trench to 8 ft."
        return [about_leg(walked, "guard", STOP, "Riser not guarded", text, cite, fixes=(tough,))]
    text = f"Can anything hit {named(walked)} where it comes up? Then Schedule 80 or rigid metal to 8 ft."
    fixes = (tough, Fix("Nothing can hit it", (Put(f"{path}.exposed", False),)))
    return [about_leg(walked, "guard", NOTE, "Riser", text, cite, fixes=fixes)]


def _frost(job: Job, walked: Walked, book: Book) -> list[Finding]:
    """Frost and settling lift a buried raceway; a riser glued solid tears what it is fixed to."""
    low = job.site.low_c
    if low is None or low >= 0 or walked.method.cable or walked.leg.slip:
        return []
    text = f"Frost lifts the ground under {named(walked)}; a raceway fixed at its head tears there. Fit a slip joint."
    fixes = (Fix("Slip joint", (Put(f"legs[{walked.leg.id}].slip", True),)),)
    return [about_leg(walked, "frost", TIGHT, "Frost at the riser", text, f"{book.title} 300.5(J)", fixes=fixes)]


def ribbon_m(line: Line) -> float:
    """Warning ribbon over every trench [m]."""
    return sum(walked.leg.length_m for walked in line.legs if walked.leg.direction == "trench")
