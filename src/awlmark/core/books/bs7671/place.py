"""Where the point stands: heights that read well, metal near an island of its own. Never a stop
for a height: the book names none."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.book import Book
from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.floor import Pin
from awlmark.core.job.model import Job
from awlmark.core.quantities import print_length

BEST_M: Final = (0.75, 1.2)
"""Heights at which a unit is read and reached best; common practice [m]."""
OUTLET_M: Final = (0.5, 1.5)
"""Heights of a socket-outlet; readers differ on where they stand [m]."""
ISLAND_M: Final = 2.0
"""Between an earth of its own and metal that is earthed by the supply; common practice [m]."""


def point_findings(job: Job, pin: Pin | None, _inside: bool, _end_m: float, at_m: float, book: Book) -> list[Finding]:
    """What the spot of the point says: its height, an island's distance.

    Parameters
    ----------
    pin : Pin or None
        The spot the line ends at; None while none is chosen.
    at_m : float
        Where that is on the tape [m].
    """
    found = [] if pin is None else [_height(job, pin, at_m)]
    if job.legs:
        found.append(_water(job, book, at_m))
    if job.charger.pen == "island":
        found.append(_island(job, book, at_m))
    return found


def _height(job: Job, pin: Pin, at_m: float) -> Finding:
    high, name = max(pin.height_m, 0.0), pin.name
    low, most = OUTLET_M if job.charger.connection not in ("tethered", "hardwired") else BEST_M
    told, units = print_length(high, job.units), job.units
    cite = "common practice"
    if low - 1e-9 <= high <= most + 1e-9:
        text = f"{name} is {told} up; {print_length(low, units)} to {print_length(most, units)} serves best."
        return _about("height", HOLDS, "Height", text, cite, at_m)
    text = f"{name} is {told} up; {print_length(low, units)} to {print_length(most, units)} serves best. No rule asks."
    fixes = (Fix("At 1 m", (Put(f"site.pins[{pin.id}].height_m", 1.0),)),)
    return _about("height", NOTE, "Height", text, cite, at_m, fixes=fixes)


def _water(job: Job, book: Book, at_m: float) -> Finding:
    """A bath, a shower and a pool have zones that no point may stand in."""
    cite, within = book.cite("water_zone"), job.charger.water_zone
    if within is None:
        text = "Is there a bath, a shower or a pool near the point? Within their zones none may stand."
        fixes = (Fix("None near", (Put("charger.water_zone", False),)),)
        return _about("water", UNREAD, "Bath or pool", text, cite, at_m, ask="pool ", fixes=fixes, site=True)
    if within:
        text = "The point stands within a zone of a bath, shower or pool: it goes somewhere else."
        return _about("water", STOP, "Bath or pool", text, cite, at_m)
    return _about("water", HOLDS, "Bath or pool", "No bath, shower or pool near the point.", cite, at_m)


def _island(job: Job, book: Book, at_m: float) -> Finding:
    """A TT island: nothing earthed by the supply may be touched together with the vehicle."""
    cite, clear = book.cite("pme"), job.charger.island_clear
    told = print_length(ISLAND_M, job.units)
    if clear is None:
        text = f"Is any metal that is earthed by the supply within {told} of the car: lamp, gate, pipe, building?"
        fixes = (Fix("None within reach", (Put("charger.island_clear", True),)),)
        return _about(
            "island", UNREAD, "Metal near the island", text, cite, at_m, ask="island ", fixes=fixes, site=True
        )
    if clear:
        return _about("island", HOLDS, "Metal near the island", f"Nothing earthed by the supply within {told}.", cite,
                      at_m)  # fmt: skip
    text = f"Metal that is earthed by the supply stands within {told}: it may not be touched together with the car."
    return _about("island", STOP, "Metal near the island", text, cite, at_m)


def _about(its_id: str, severity: str, title: str, text: str, cite: str, at_m: float, **more: object) -> Finding:
    return Finding(its_id, severity, title, text, cite, where="charger", at_m=at_m, stage="place", **more)  # type: ignore[arg-type]
