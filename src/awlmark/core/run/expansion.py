"""How plastic pipe moves with the weather, and the fitting that lets it."""

from __future__ import annotations

from typing import Final

from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, STOP, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length, print_small
from awlmark.core.run.leg_finding import about_leg, legs_text
from awlmark.core.run.line import Line, Walked

PVC_PER_C: Final = 3.38e-5 * 1.8
"""Coefficient of PVC, 3.38e-5 in/in per degF [1/K]; from memory."""
FITTING_M: Final = 0.25 * INCH_M
"""Movement that wants a fitting [m]."""
TRAVEL_M: Final = 4 * INCH_M
"""What a common expansion fitting takes; common practice, read it off the part [m]."""
WIDE_RANGE_C: Final = 78.0
"""A wide range of weather, 140 degF: less movement than the limit over this needs no question asked."""
SUN_C: Final = 30 / 1.8
"""Pipe in the sun gets this much hotter than the air, 30 degF; common practice, from memory [K]."""


def movement_m(length_m: float, range_c: float) -> float:
    """How much a straight length of PVC moves over a range of temperature [m]."""
    return length_m * PVC_PER_C * range_c


def opening_m(site_low_c: float, site_high_c: float, install_c: float, travel_m: float = TRAVEL_M) -> float:
    """How far the piston of a fitting is left out when it is set [m], so that it reaches neither end.

    Parameters
    ----------
    site_low_c, site_high_c, install_c : float
        Coldest, hottest, and now [degC].
    travel_m : float
        What the fitting takes [m].
    """
    share = 0.5 if site_high_c <= site_low_c else (site_high_c - install_c) / (site_high_c - site_low_c)
    return min(max(share, 0.0), 1.0) * travel_m


def plastic(walked: Walked) -> bool:
    """Whether a leg is rigid plastic pipe that the weather reaches."""
    return walked.method.grows and walked.place in ("outdoor", "roof", "attic") and not walked.crosses


def straight_runs(line: Line) -> list[list[Walked]]:
    """Straight lengths of plastic pipe between fixed points: a reading that goes on straight is no end of one."""
    runs: list[list[Walked]] = []
    for walked in line.legs:
        if not plastic(walked):
            continue
        before = runs[-1][-1] if runs else None
        goes_on = (
            before is not None
            and before.number == walked.number - 1
            and before.turn_deg < 1e-6
            and not before.pulls
            and before.leg.end != "corner"
            and before.method is walked.method
        )
        if goes_on:
            runs[-1].append(walked)
        else:
            runs.append([walked])
    return runs


def expansion_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    """Every straight length of plastic pipe out of the ground."""
    site, cite, found = job.site, book.cite("expansion"), []
    for legs in straight_runs(line):
        walked = legs[0]
        length = sum(each.leg.length_m for each in legs)
        path = f"legs[{walked.leg.id}].slip"
        slip, sun = any(each.leg.slip for each in legs), any(each.leg.sun for each in legs)
        name = legs_text(legs)
        name = name[:1].upper() + name[1:]
        verb = "moves" if len(legs) == 1 else "move"
        if site.low_c is None or site.high_c is None:
            if movement_m(length, WIDE_RANGE_C) >= FITTING_M and not slip:
                text = f"{name} in plastic pipe {verb} with the weather. How cold and how hot does it get there?"
                found.append(about_leg(walked, "moves", UNREAD, "Expansion", text, cite, ask="site ", site=True))
            continue
        hot_c = site.high_c + (SUN_C if sun else 0.0)
        moves = movement_m(length, hot_c - site.low_c)
        inches = moves / INCH_M
        needs = moves >= FITTING_M - 1e-12
        weather = f"between {site.low_c:g} and {hot_c:.0f} °C{' in the sun' if sun else ''}"
        least = "6 mm" if job.units == "m" else "¼ in"
        told = print_small(moves, job.units)
        text = f"{name} {verb} {told} {weather}; from {least} it wants a fitting."
        swing = hot_c - site.low_c
        rate = f"6.08e-5 x {swing:.0f} °C" if job.units == "m" else f"3.38e-5 x {swing * 1.8:.0f} °F"
        sums = [f"{print_length(length, job.units)} x {rate} = {told}"]
        if slip and site.install_c is not None:
            out = print_small(opening_m(site.low_c, hot_c, site.install_c), job.units, 1)
            long = "102 mm" if job.units == "m" else "4 in"
            sums.append(f"Set it {out} open at {site.install_c:g} °C, for a fitting of {long}; leave straps loose.")
        elif slip:
            sums.append("Type the temperature when it is set, such as site now 12C, for its opening.")
        severity = STOP if needs and not slip else HOLDS
        fixes = (Fix("Expansion fitting", (Put(path, True),)),) if severity == STOP else ()
        found.append(
            about_leg(
                walked, "moves", severity, "Expansion", text, cite, found=inches if job.units == "ft" else moves * 1000,
                needed=FITTING_M / (INCH_M if job.units == "ft" else 0.001), unit="in" if job.units == "ft" else "mm",
                sense="most", sums=tuple(sums), fixes=fixes,
            )
        )  # fmt: skip
    return found
