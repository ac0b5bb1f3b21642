"""The consumer unit as a row of ways: room for the new device side by side, and what stands there already."""

from __future__ import annotations

from typing import TYPE_CHECKING

import msgspec

from awlmark.core.books import Book
from awlmark.core.books.bs7671.sizing.requirements import BLIND
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding
from awlmark.core.job.model import Job
from awlmark.core.job.supply import ConsumerUnit, Device

if TYPE_CHECKING:
    from awlmark.core.solve.design import Design

MODULES = {1: 2, 3: 4}
"""Modules of a device that opens every live conductor, by lines."""


class Place(msgspec.Struct, frozen=True):
    """Where the new device goes."""

    way: int
    """First of its ways."""
    moved: tuple[Device, ...]
    """Devices that make room, each to a free way."""


def taken(unit: ConsumerUnit) -> dict[int, Device]:
    """Devices by every way they take; a blank takes none."""
    return {
        way: device
        for device in unit.devices
        if device.kind != "blank"
        for way in range(device.way, device.way + device.modules)
    }


def free_ways(unit: ConsumerUnit) -> set[int]:
    """Ways that are known to be free: seen so, or behind a blank."""
    blank = {way for one in unit.devices if one.kind == "blank" for way in range(one.way, one.way + one.modules)}
    return ({*unit.free} | blank) - set(taken(unit))


def find_place(unit: ConsumerUnit, modules: int) -> Place | None:
    """Ways side by side for a device, with the fewest moves; None where there is no such room.

    Only single-module devices are moved, each to a way that is known to be free.
    """
    if unit.ways is None:
        return None
    held, free, best = taken(unit), free_ways(unit), None
    for first in range(1, unit.ways - modules + 2):
        window = range(first, first + modules)
        if any(way not in free and way not in held for way in window):
            continue  # nobody has told what stands there
        moving = tuple(dict.fromkeys(held[way].id for way in window if way in held))
        devices = tuple(one for one in unit.devices if one.id in moving)
        if any(one.modules > 1 or one.kind in ("rccb", "switch") for one in devices):
            continue
        if len(devices) <= len(free - set(window)) and (best is None or len(devices) < len(best.moved)):
            best = Place(first, devices)
    return best


def way_findings(job: Job, breaker_a: float, book: Book, _trade: str | None) -> list[Finding]:
    """Room for the new device, and what the board itself says.

    Parameters
    ----------
    breaker_a : float
        Rating of the new device [A]; nought while the charger is unread.
    """
    unit, cite = job.supply.unit, book.cite("unit")
    found = [*_kind(unit, book), *_residual(unit, book)]
    modules = MODULES[3 if job.supply.system == "400" and job.charger.connection != "ev13" else 1]
    if unit.ways is None:
        text = "How many ways has the consumer unit, and which are free?"
        return [*found, _about("ways", UNREAD, "Ways not told", text, cite, ask="ways ", site=True)]
    if breaker_a <= 0:
        return found
    place = find_place(unit, modules)
    if place is None:
        untold = unit.ways - len(taken(unit)) - len(free_ways(unit))
        if untold > 0:
            text = f"{untold} of {unit.ways} ways are not told: which are free?"
            return [*found, _about("ways", UNREAD, "Ways not told", text, cite, ask="way ", site=True)]
        text = f"No {modules} ways side by side can be freed: a board of its own behind a connector block."
        return [*found, _about("ways", STOP, "No room", text, cite, found=float(len(free_ways(unit))),
                               needed=float(modules), unit="ways")]  # fmt: skip
    last = place.way + modules - 1
    text = f"Ways {place.way} to {last} take the new device."
    if place.moved:
        text += f" To be moved: {', '.join(one.name or f'way {one.way}' for one in place.moved)}."
    return [*found, _about("ways", NOTE if place.moved else HOLDS, "Room in the board", text, cite)]


def _about(its_id: str, severity: str, title: str, text: str, cite: str, **more: object) -> Finding:
    return Finding(its_id, severity, title, text, cite, where="panel", stage="panel", **more)  # type: ignore[arg-type]


def _kind(unit: ConsumerUnit, book: Book) -> list[Finding]:
    cite = book.cite("unit_case")
    if unit.kind == "rewirable":
        return [_about("unit", TIGHT, "Old board", "A rewirable board: new devices do not belong in it.", cite)]
    if unit.kind == "plastic":
        text = "A plastic consumer unit; in dwellings a new one is of metal."
        return [_about("unit", TIGHT, "Plastic board", text, cite)]
    if unit.kind is None:
        text = "What is the consumer unit: metal, plastic, or rewirable?"
        return [_about("unit", UNREAD, "Board not read", text, cite, ask="board ", site=True)]
    return []


def _residual(unit: ConsumerUnit, book: Book) -> list[Finding]:
    """An RCCB of type AC before the new circuit is blinded by smooth direct current."""
    blind = [one for one in unit.devices if one.kind == "rccb" and one.residual in BLIND]
    if not blind:
        return []
    text = f"The RCCB in way {blind[0].way} is type {blind[0].residual.upper()}: keep the new circuit off it."
    return [_about("upstream", NOTE, "Residual device before it", text, book.cite("rcd"))]


def new_place(design: Design) -> tuple[int, ...]:
    """Ways that the new device takes; none where they are not told or there is no room."""
    if design.circuit is None:
        return ()
    modules = MODULES[3 if design.circuit.hots == 3 else 1]
    place = find_place(design.job.supply.unit, modules)
    return () if place is None else tuple(range(place.way, place.way + modules))
