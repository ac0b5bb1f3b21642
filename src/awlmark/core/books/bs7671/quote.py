"""What a bare quote takes for granted: a unit with its own lead, a PME supply, the usual answer to a lost PEN."""

from __future__ import annotations

from typing import Final

from msgspec.structs import replace

from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.opening import FIXED
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Job

BETWEEN_M: Final = 10.0
"""Straight conduit between two boxes of a quote, at most."""


def usual_place(method: str) -> str:
    """Where a method lies unless told: above a ceiling, in the ground, or inside."""
    row = next((row for row in printed("wiring_methods").rows if row["method"] == method), None)
    if row is None:
        return "indoor"
    return "attic" if row["reference"] in ("100", "101") else "buried" if row["buried"] == "yes" else "indoor"


def quoted(job: Job) -> Job:
    """Fill in what the quote was not told."""
    charger, supply = job.charger, job.supply
    connection = "tethered" if charger.connection == FIXED else charger.connection
    earthing = supply.earthing or ("tt" if supply.ra_ohm is not None and supply.ze_ohm is None else "tn-c-s")
    three = supply.system == "400" and connection != "ev13"
    pen = charger.pen or (("v" if three else "iv") if earthing == "tn-c-s" else None)
    return replace(
        job.with_run(
            charger=replace(charger, connection=connection, pen=pen),
            legs=tuple(part for leg in job.legs for part in _boxed(leg)),
        ),
        supply=replace(supply, earthing=earthing),
    )


def _boxed(leg: Leg) -> list[Leg]:
    """A leg of conduit with a box every ten metres."""
    pipe = next(row["kind"] == "pipe" for row in printed("wiring_methods").rows if row["method"] == leg.method)
    if not pipe or leg.length_m <= BETWEEN_M + 1e-9:
        return [leg]
    found: list[Leg] = []
    left = leg.length_m
    while left > BETWEEN_M + 1e-9:
        found.append(replace(leg, id=f"{leg.id}-{len(found) + 1}", length_m=BETWEEN_M, end="box"))
        left -= BETWEEN_M
    return [*found, replace(leg, length_m=left)]
