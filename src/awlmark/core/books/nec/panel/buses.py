"""Every bus between meter and charger: what it carries with the charger, and what is left."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.books.nec.facts import facts_of
from awlmark.core.books.nec.panel.demand import CONTINUOUS_EXTRA, charger_va, feeder_sheet, service_sheet
from awlmark.core.books.nec.printed import printed
from awlmark.core.finding import Finding, grade
from awlmark.core.job.edit import Put
from awlmark.core.job.model import SETTINGS_A, Job
from awlmark.core.job.supply import Board, Load
from awlmark.core.panel.bus import Bus, Sheet, Ways, path_of, wire_ohm
from awlmark.core.panel.leg_balance import breaker_of
from awlmark.core.panel.rearrange import cells

SHARING_KINDS: Final = ("fixed", "range", "dryer")
"""Loads that bear waiting; motors, heat and cooling do not."""
HEAVY_A: Final = 5.0
"""Loads below this are not worth taking turns with."""
WHOLE_DROP_PERCENT: Final = 5.0


def set_point(job: Job, rating_a: float | None) -> float | None:
    """What current sensors hold a bus to [A]: as typed, never above what its rating allows; None while that is unread.

    From 2023 the set point counts as continuous load (220.70), before that the rating itself is the limit.
    """
    if rating_a is None:
        return None
    most = rating_a * facts_of(job.code).set_point_share
    return most if job.demand.set_point_a is None else min(job.demand.set_point_a, most)


def share_edits(job: Job, load: Load, charge_a: float) -> tuple[Put, ...] | None:
    """Edits that let the charger share a load's circuit, one at a time; None where its breaker is too small for that.

    Parameters
    ----------
    job : Job
        Its dead front tells the load's breaker, by name.
    load : Load
        What it takes turns with.
    charge_a : float
        Charging current that counts [A]; the circuit's own breaker may lower it.
    """
    edits = [Put("demand.shares", load.id), Put("demand.managed", False)]
    breaker = breaker_of(job, load)
    if breaker is not None and breaker.rating_a is not None and breaker.rating_a / (1 + CONTINUOUS_EXTRA) < charge_a:
        fits = [amps for amps in SETTINGS_A if amps <= breaker.rating_a / (1 + CONTINUOUS_EXTRA) + 1e-9]
        if len(cells(breaker)) != 2 or not fits or job.charger.connection != "hardwired":
            return None
        edits += [Put("charger.setting_a", fits[-1]), Put("charger.setting_restricted", True)]
    return tuple(edits)


def sharing_loads(job: Job, volts: float) -> list[Load]:
    """Loads on the circuit's own panel that are worth taking turns with, the largest first."""
    heavy = [
        load
        for load in job.loads
        if load.board == job.supply.board and load.count == 1 and not load.leg and load.kind in SHARING_KINDS
    ]
    return sorted((load for load in heavy if load.va / volts >= HEAVY_A), key=lambda load: -load.va)


def buses(job: Job, charge_a: float, volts: float) -> tuple[Bus, ...]:
    """Every bus the charger's current passes, the service first.

    Parameters
    ----------
    job : Job
        Boards, loads, method.
    charge_a : float
        Charging current that counts [A].
    volts : float
        System voltage between the legs [V].

    Returns
    -------
    tuple of Bus
        Nothing where neither a load nor a feeder is entered: there is nothing to count.
    """
    if not job.loads and not job.boards and job.demand.floor_m2 is None and job.demand.measured_a is None:
        return ()
    sensed = _sensed(job, charge_a, volts)
    if sensed is None:
        return count_buses(job, charge_a, volts, None)
    at, point, left = sensed
    held = count_buses(job, left, volts, left * volts)
    found = []
    for bus in held:
        if bus.id == at:
            # The sensors hold all of it to the set point; a continuous one takes a quarter more of the rating.
            needed = max(point / facts_of(job.code).set_point_share, bus.others_a)
            bus = msgspec.structs.replace(bus, needed_a=needed, set_point_a=point)
        found.append(bus)
    return tuple(found)


def count_buses(job: Job, charge_a: float, volts: float, held: float | None) -> tuple[Bus, ...]:
    """Every bus with the charger at a current [A], or held to a load [VA] by management."""
    if job.demand.shares:
        # Never both at once: the larger of the two counts (220.60).
        apart = msgspec.structs.replace(job.demand, shares="")
        off = msgspec.structs.replace(job, demand=apart)
        alone = msgspec.structs.replace(off, loads=tuple(one for one in job.loads if one.id != job.demand.shares))
        both = zip(count_buses(alone, charge_a, volts, held), count_buses(off, 0.0, volts, 0.0), strict=True)
        return tuple(max(pair, key=lambda bus: bus.needed_a) for pair in both)
    sheet = service_sheet(job, charge_a, volts, held)
    # A dwelling's methods have their own allowance; elsewhere the service carries a quarter of what is continuous.
    dwelling = job.occupancy == "dwelling" or sheet.method == "measured"
    found = [_bus("service", "Service", job.supply.service_a, sheet, 0.0 if dwelling else charge_a, volts, dwelling)]
    for board_id in reversed(path_of(job, job.supply.board)):
        board = next(board for board in job.boards if board.id == board_id)
        loads = [load for load in job.loads if board_id in path_of(job, load.board)]
        unit = charger_va(job, charge_a, volts) if held is None else held
        found.append(_bus(board.id, board.name, board.feeder_a, feeder_sheet(job, loads, unit), charge_a, volts))
    return tuple(found)


def _bus(
    bus_id: str, name: str, rating_a: float | None, sheet: Sheet, charge_a: float, volts: float, plain: bool = False
) -> Bus:
    """A bus with what it carries: a quarter of what is continuous on top, unless ``plain``."""
    others = sheet.others_va / volts
    if not plain:
        others += CONTINUOUS_EXTRA * sheet.continuous_va / volts
    return Bus(bus_id, name, rating_a, sheet, others + sheet.charger_va / volts + CONTINUOUS_EXTRA * charge_a, others)


def _sensed(job: Job, charge_a: float, volts: float) -> tuple[str, float, float] | None:
    """Bus that the sensors stand on, its set point, and what that leaves the charger [A]; None without management.

    The tightest bus on the way is the one to sense. What was measured is held against the set point as it was, without
    the quarter that a calculation adds.
    """
    if not job.demand.managed:
        return None
    found: list[tuple[float, str, float]] = []
    for bus in count_buses(job, 0.0, volts, 0.0):
        most = set_point(msgspec.structs.replace(job, demand=msgspec.structs.replace(job.demand, set_point_a=None)),
                         bus.rating_a)  # fmt: skip
        if most is None:
            continue
        others = bus.others_a
        if bus.sheet.method == "measured":
            others = job.demand.measured_a or 0.0
        # Before 2023 the charger's own quarter counts where the bus has to carry it.
        quarter = facts_of(job.code).set_point_share == 1 and (bus.id != "service" or job.occupancy != "dwelling")
        found.append(((most - others) / (1 + CONTINUOUS_EXTRA * quarter), bus.id, others))
    if not found:
        return None
    _left, at, others = min(found, key=lambda each: each[0])
    rating = job.supply.service_a if at == "service" else _board(job, at).feeder_a
    point = set_point(job, rating) or 0.0
    left = min([charge_a, point - others, *(each[0] for each in found)])
    return at, point, max(left, 0.0)


def _board(job: Job, board_id: str) -> Board:
    return next(board for board in job.boards if board.id == board_id)


def feeder_drop_percent(job: Job, found: tuple[Bus, ...], volts: float, book: Book) -> float | None:
    """Drop of all feeders on the way at what they carry, charger whole [percent]; None while one is not read.

    Table 8 dc resistance at 75 C, out and back, unity power factor, as for the branch.
    """
    drops = [feeder_drop(job, bus, volts, book) for bus in found[1:]]
    return None if None in drops else sum(drop for drop in drops if drop is not None)


def feeder_drop(job: Job, bus: Bus, volts: float, book: Book) -> float | None:
    """Drop of one feeder at what it carries [percent]; None while its wire is not read, or for the service."""
    board = next((board for board in job.boards if board.id == bus.id), None)
    ohm = None if board is None else wire_ohm(board, book)
    return None if ohm is None else 100 * 2 * bus.sheet.total_va / volts * ohm / volts


def whole_drop_finding(
    job: Job, found: tuple[Bus, ...], volts: float, book: Book, branch_percent: float
) -> list[Finding]:
    """Feeders and branch together against 5 %, advice of the notes to 210.19 and 215.2."""
    feeders = feeder_drop_percent(job, found, volts, book) if len(found) > 1 else None
    if feeders is None:
        return []
    whole = feeders + branch_percent
    finding = Finding(
        id="drop-whole",
        severity=grade(whole, WHOLE_DROP_PERCENT, "most", advice=True),
        title="Drop from the service",
        text=f"Feeder {feeders:.2f} % and branch {branch_percent:.2f} % make {whole:.2f} %; 5 % is advice for both.",
        cite=book.cite("drop_whole"),
        found=whole,
        needed=WHOLE_DROP_PERCENT,
        unit="%",
        sense="most",
        where="panel",
        stage="panel",
    )
    return [finding]


WAYS: Final = Ways(set_point, sharing_loads, share_edits, {row["way"]: row for row in printed("load_management").rows})
"""From the shipped table."""
