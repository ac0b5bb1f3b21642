"""Each bus against its rating in words: what is asked first, what is over, and the ways out."""

from __future__ import annotations

from typing import Any, Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.books.nec.edition import nec
from awlmark.core.books.nec.facts import facts_of
from awlmark.core.books.nec.panel.buses import WAYS, count_buses, share_edits, sharing_loads
from awlmark.core.finding import HOLDS, LOWER, NOTE, STOP, TIGHT, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.job.model import SETTINGS_A, Job
from awlmark.core.job.supply import Load
from awlmark.core.panel.bus import LEAST_CHARGE_A, Bus, Supplied, path_of
from awlmark.core.quantities import print_amps

LEAST_OPTIONAL_A: Final = 100.0
"""Smallest service that 220.82 may be used on [A]."""


def bus_findings(supplied: Supplied) -> list[Finding]:
    """Each bus against its rating; what is over offers a lower setting, management and another panel.

    Parameters
    ----------
    supplied : Supplied
        Service, boards, loads, with every bus counted.
    """
    job, book, found = supplied.job, supplied.book, supplied.buses
    charge_a, volts = supplied.charge_a, supplied.volts
    if not found:
        text = "Nothing of the supply is entered: the service, its other loads, the floor area of a dwelling."
        return [_about("demand:service", UNREAD, "Demand not asked", text, book.cite("demand"),
                       ask="service " if job.supply.service_a is None else "load ", site=True)]  # fmt: skip
    told = [_bus(job, bus, found, charge_a, volts, book) for bus in found]
    told += _method(job, book)
    told += _kinds(job, book)
    if job.demand.managed:
        told += _management(job, found, charge_a, volts, book)
    shared = next((load for load in job.loads if load.id == job.demand.shares), None)
    if shared is not None:
        told.append(_shared(shared, charge_a, volts, book))
    return told


def _about(finding_id: str, severity: str, title: str, text: str, cite: str, **more: Any) -> Finding:
    return Finding(finding_id, severity, title, text, cite, where="panel", stage="panel", **more)


def _rule(bus: Bus) -> str:
    if bus.id != "service":
        return "demand_feeder"
    special = ("measured", "standard", "connected", "existing")
    return f"demand_{bus.sheet.method}" if bus.sheet.method in special else "demand"


def _missing(job: Job, bus: Bus) -> tuple[str, str] | None:
    """What nobody has entered of a bus, and the beginning of the entry that does; None where all is told."""
    if bus.sheet.method == "measured":
        return None
    if bus.id == "service":
        counted = job.loads
        if job.occupancy == "dwelling" and job.demand.floor_m2 is None:
            return "the floor area of the dwelling", "floor "
        if not counted and not job.demand.complete:
            return "its other loads", "load "
        if job.occupancy == "dwelling" and job.demand.method == "existing" and job.demand.heat_added is None:
            heating = any(load.kind in ("heat", "heat 4+", "heat pump", "cooling") for load in job.loads)
            return ("whether heating or cooling is added with this job", "heating added ") if heating else None
        return None
    board = next(board for board in job.boards if board.id == bus.id)
    hangs = any(bus.id in path_of(job, load.board) for load in job.loads)
    return None if hangs or board.complete else ("its other loads", "load ")


def _bus(job: Job, bus: Bus, found: tuple[Bus, ...], charge_a: float, volts: float, book: Book) -> Finding:
    cite = book.cite(_rule(bus))
    what = "The service" if bus.id == "service" else f"The feeder of {bus.name}"
    if bus.rating_a is None:
        text = f"{what} has no rating read. It has to carry {print_amps(bus.needed_a)} with the charger."
        ask = "service " if bus.id == "service" else f"panel {bus.name} "
        return _about(f"demand:{bus.id}", UNREAD, "Rating not read", text, cite, ask=ask, site=True)
    missing = _missing(job, bus)
    severity = grade(bus.needed_a, bus.rating_a, "most", stepped=bus.set_point_a is not None)
    spare = bus.rating_a - bus.needed_a
    rest = f"{print_amps(-spare)} over." if severity == STOP else f"{print_amps(spare)} to spare."
    ask, fixes = "", _ways_out(job, found, charge_a, volts) if severity == STOP else ()
    if missing is not None:
        rest += f" Not entered: {missing[0]}."
        if severity != STOP:
            severity, ask = UNREAD, missing[1]
            fixes = _none_more(job, bus) if missing[1] == "load " else ()
    text = f"{what} is {bus.rating_a:g} A; with the charger it has to carry {print_amps(bus.needed_a)}: {rest}"
    if bus.set_point_a is not None:
        text = (
            f"{what} is {bus.rating_a:g} A; the sensors hold it to {print_amps(bus.set_point_a)}, "
            f"which counts as {print_amps(bus.needed_a)}: {rest}"
        )
    own = f"others {print_amps(bus.others_a)}, charger {print_amps(max(bus.needed_a - bus.others_a, 0.0))}"
    quarter = bus.id != "service" or bus.sheet.method == "connected"
    return _about(
        f"demand:{bus.id}", severity, "Demand", text, cite, found=bus.needed_a, needed=bus.rating_a, unit="A",
        sense="most", at_m=0.0, fixes=fixes, ask=ask, site=missing is not None,
        sums=(own, f"{bus.sheet.method} method" + (", a quarter of what is continuous on top" if quarter else "")),
    )  # fmt: skip


def _none_more(job: Job, bus: Bus) -> tuple[Fix, ...]:
    path = "demand.complete" if bus.id == "service" else f"boards[{bus.id}].complete"
    return (Fix("Nothing else hangs on it", (Put(path, True),)),)


def _method(job: Job, book: Book) -> list[Finding]:
    """220.82 is for services of 100 A and more."""
    service = job.supply.service_a
    if job.occupancy != "dwelling" or job.demand.method != "optional" or service is None or service >= LEAST_OPTIONAL_A:
        return []
    text = f"The optional method is for services of 100 A and more; this one is {service:g} A."
    fixes = (
        Fix("Standard method", (Put("demand.method", "standard"),)),
        Fix(f"The dwelling stands already: {book.clause('demand_existing')}", (Put("demand.method", "existing"),)),
    )
    return [_about("demand-method", STOP, "Method of the demand", text, book.cite("demand_optional"), fixes=fixes)]


def _kinds(job: Job, book: Book) -> list[Finding]:
    """Kinds that were guessed from the names of loads, until somebody confirms them."""
    guessed = [load for load in job.loads if load.guessed]
    if not guessed:
        return []
    names = ", ".join(f"{load.name} as {load.kind}" for load in guessed[:4]) + (" and more" if len(guessed) > 4 else "")
    text = f"Guessed from its name: {names}. What it is decides what it counts as."
    fixes = (Fix("They are so", tuple(Put(f"loads[{load.id}].guessed", False) for load in guessed)),)
    return [_about("load-kinds", UNREAD, "Kind of load", text, book.cite("demand_kinds"), fixes=fixes,
                   ask=f"kind {guessed[0].name} ", site=True)]  # fmt: skip


def _shared(load: Load, charge_a: float, volts: float, book: Book) -> Finding:
    """The charger on a circuit that serves something else: an individual branch circuit is the rule (625.40)."""
    words = WAYS.words("shared", load=load.name.lower())
    small = volts <= 125 and charge_a <= nec(book).facts.shared_to_a
    if small:
        text = f"{load.name} and charger run one at a time. Fit the switching unit, label it, test it both ways."
        return _about("sharing", NOTE, "Shared circuit", text, book.cite("shared_small"), sums=words)
    cite = book.cite("separate")
    apart = Fix("A circuit of its own", (Put("demand.shares", ""),))
    if not nec(book).facts.shared_managed:
        text = f"A charger stands on a branch circuit of its own; {load.name} may not be on it."
        return _about("sharing", STOP, "Shared circuit", text, cite, sums=words, fixes=(apart,))
    text = (
        f"A charger above 16 A stands on a branch circuit of its own. With {load.name} on it only a switching unit "
        "that is listed as energy management may be read as an exception: your inspector decides."
    )
    return _about(
        "sharing", TIGHT, "Shared circuit", text, f"{cite}, {book.clause('management')}", sums=words, fixes=(apart,)
    )


def _ways_out(job: Job, found: tuple[Bus, ...], charge_a: float, volts: float) -> tuple[Fix, ...]:
    fixes = []
    if job.charger.connection == "hardwired":
        for amps in (amps for amps in reversed(SETTINGS_A) if amps < charge_a):
            if all(bus.rating_a is None or bus.needed_a <= bus.rating_a for bus in count_buses(job, amps, volts, None)):
                edits = (Put("charger.setting_a", amps), Put("charger.setting_restricted", True))
                fixes.append(Fix(f"Set charger to {amps:g} A, locked", edits, LOWER))
                break
    if not job.demand.managed:
        fixes.append(Fix("Load management", (Put("demand.managed", True),)))
    for board in ["", *(board.id for board in job.boards)]:
        if board == job.supply.board:
            continue
        moved = msgspec.structs.replace(job, supply=msgspec.structs.replace(job.supply, board=board))
        if all(
            bus.rating_a is not None and bus.needed_a <= bus.rating_a
            for bus in count_buses(moved, charge_a, volts, None)
        ):
            name = next((one.name for one in job.boards if one.id == board), "service panel")
            fixes.append(Fix(f"From the {name}", (Put("supply.board", board),)))
            break
    for load in sharing_loads(job, volts)[:1] if facts_of(job.code).shared_managed else ():
        shared = share_edits(job, load, charge_a)
        if shared is not None and not job.demand.shares:
            fixes.append(Fix(f"Share the {load.name.lower()} circuit", shared))
    # Three are shown; turns with another load are the last resort among them.
    return tuple(fixes[:3])


def _management(job: Job, found: tuple[Bus, ...], charge_a: float, volts: float, book: Book) -> list[Finding]:
    """What management leaves, where its sensors stand, and who set it."""
    sensed = next((bus for bus in found if bus.set_point_a is not None), None)
    if sensed is None or sensed.set_point_a is None:
        text = "Management holds a bus whose rating nobody has read: type it first."
        return [_about("management", UNREAD, "Load management", text, book.cite("management"), site=True)]
    left = found[-1].sheet.charger_va / volts
    pauses = left < LEAST_CHARGE_A
    cite = book.cite("managed")
    where = "the service" if sensed.id == "service" else f"the feeder of {sensed.name}"
    words = WAYS.words("sensors", set_point=f"{sensed.set_point_a:g}", bus=where)
    told = [
        _about(
            "management", TIGHT if left < charge_a - 1e-6 else HOLDS, "Load management",
            f"With all else on, management leaves the charger {print_amps(left)} of {print_amps(charge_a)}; "
            + ("below 6 A it waits until something goes off." if pauses else "label its set point and test it."),
            cite, found=left, needed=charge_a, unit="A", sums=(*words, *_fitting(where)),
        )
    ]  # fmt: skip
    if not job.demand.set_by:
        text = f"Who sets {sensed.set_point_a:g} A behind a lock or password, and when? It stands on the label."
        told.append(_about("managed-by", UNREAD, "Who set it", text, cite, ask="management by ", site=True))
    return told


def _fitting(where: str) -> tuple[str, ...]:
    """How the sensors and the controller are fitted; common practice, the maker's instructions decide."""
    return (
        f"Sensors: on both hots of {where}, ahead of all its loads, arrows toward the loads.",
        "Controller: on a two-pole breaker of its own; white to the neutral bar, green to the ground bar.",
    )
