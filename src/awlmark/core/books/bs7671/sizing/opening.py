"""A job made ready for the checks: charging current that counts, conductors, volts; and sizes that may be taken."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.arrays import Flags
from awlmark.core.books.book import EARTH, LINE, NEUTRAL, Book, Conductor
from awlmark.core.books.bs7671.edition import U0, least_size
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.factors import check_spread
from awlmark.core.circuit.case import Case, need_a
from awlmark.core.job.model import Job
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.run.line import Line

LEAST_DEVICE_A: Final = 16.0
FIXED: Final = "hardwired"
"""A fixed unit of which nobody has said whether it has a lead of its own or an outlet."""
CONNECTIONS: Final = (FIXED, *(row["connection"] for row in printed("sockets").rows))
EV13: Final = "ev13"
SOCKETS: Final = ("type2", "ev13", "ind16", "ind32", FIXED)
"""What counts as a socket-outlet for the time of disconnection (411.3.2): the safe side where it is not told."""
MODE_3: Final = (FIXED, "tethered", "type2")
"""Connections with an EN 62196 outlet or connector, which bring smooth direct current."""
PHASES: Final = (Conductor(LINE, "L1", "brown"), Conductor(LINE, "L2", "black"), Conductor(LINE, "L3", "grey"))
ONE_LINE: Final = (Conductor(LINE, "L", "brown"),)
REST: Final = (Conductor(NEUTRAL, "N", "blue"), Conductor(EARTH, "E", "green and yellow"))


def rated_a(connection: str) -> float:
    """What an outlet is made for [A]; the greatest of a unit that is wired."""
    return next(
        (float(row["rated_a"]) for row in printed("sockets").rows if row["connection"] == connection), float("inf")
    )


def charge_most_a(connection: str) -> float:
    """Steady charging that an outlet is good for [A]."""
    return next(
        (float(row["charge_most_a"]) for row in printed("sockets").rows if row["connection"] == connection),
        float("inf"),
    )


def open_circuit(job: Job, book: Book, line: Line) -> Case:
    """Make a job ready for the checks.

    A lower setting counts only on a unit that is wired, where only a skilled person can raise it (722.311.201).

    Raises
    ------
    InputError
        For circuits told to lie together in a way that the method has not.
    """
    charger = job.charger
    three = job.supply.system == "400" and charger.connection != EV13
    lowered = charger.setting_a is not None and charger.setting_restricted and charger.connection in MODE_3
    charge = charger.nameplate_a or 0.0
    if lowered and charger.setting_a is not None:
        charge = min(charge, charger.setting_a) if charge else charger.setting_a
    lines = PHASES if three else ONE_LINE
    case = Case(
        job=job,
        book=book,
        line=line,
        charge_a=charge,
        receptacle=None,
        wires=(*lines, *REST),
        hots=len(lines),
        neutral=True,
        volts=SYSTEMS["400"][0] if three else U0,
        raceway_ground=False,
        short=True,
        least_a=rated_a(EV13) if charger.connection == EV13 else 0.0,
        opened=len(lines) + 1,
    )
    check_spread(case)
    return case


def phases(case: Case) -> int:
    """Column of the tables by number of lines: 0 for one, 1 for three."""
    return int(case.hots == 3)


def terminal_c(case: Case) -> int:
    """Temperature that the conductor may reach at its ends: 90 C where both ends are marked for it (512.1.5)."""
    marked = case.job.supply.terminal_c, case.job.charger.terminal_c
    cool = case.job.circuit.insulation == "pvc70"
    return 90 if marked == (90, 90) and not cool else 70


def device_a(case: Case) -> float:
    """Rating of the protective device: pinned, or the smallest MCB at or above the design current [A]."""
    pinned = case.job.circuit.breaker_a
    if pinned is not None:
        return pinned
    return float(case.book.next_rating(np.array([max(need_a(case), LEAST_DEVICE_A)]))[0])


def offered(case: Case, _metal: int, _insulation: int) -> Flags:
    """Sizes that may be taken while the size is open, shape (S,): of 1.5 mm2 and more, and Iz not below In.

    A factor that has to be read takes nothing away here; the conductor is unread then.
    """
    from awlmark.core.books.bs7671.sizing.current import carried

    enough: Flags = carried(case).at_most_a >= device_a(case) - 1e-9
    return enough & (case.book.metal_mm2 >= least_size())
