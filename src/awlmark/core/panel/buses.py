"""Every bus between meter and charger: what it carries with the charger, and what is left."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.book import Book
from awlmark.core.book.tables import printed
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS, SETTINGS_A, Job
from awlmark.core.job.supply import Board, Load
from awlmark.core.panel.demand import Sheet, charger_va, feeder_sheet, service_sheet
from awlmark.core.panel.legs import breaker_of
from awlmark.core.panel.rearrange import cells
from awlmark.core.quantities import print_amps

CONTINUOUS_EXTRA: Final = 0.25
"""Charging is continuous: a feeder's conductor and breaker carry a quarter of it on top (215.2, 215.3)."""
SHARING_KINDS: Final = ("fixed", "range", "dryer")
"""Loads that bear waiting; motors, heat and cooling do not."""
HEAVY_A: Final = 5.0
"""Loads below this are not worth taking turns with."""
WHOLE_DROP_PERCENT: Final = 5.0
LEAST_CHARGE_A: Final = 6.0
"""Below this a car does not charge; common practice."""


class Bus(msgspec.Struct, frozen=True):
    """One bus on the way from the meter to the charger."""

    id: str
    """``service`` or the board's id."""
    name: str
    rating_a: float | None
    """Its breaker; None while unread."""
    sheet: Sheet
    needed_a: float
    """What has to be carried, the charger's continuous quarter with it on a feeder [A]."""
    others_a: float
    """Without the charger [A]."""

    @property
    def spare_a(self) -> float | None:
        """Left with the charger on [A]; negative when it is over."""
        return None if self.rating_a is None else self.rating_a - self.needed_a


def path_of(job: Job, board: str) -> list[str]:
    """Boards from one back to the service panel, itself first."""
    feeds = {one.id: one.fed_by for one in job.boards}
    found = []
    while board:
        found.append(board)
        board = feeds[board]
    return found


def set_point(job: Job) -> float | None:
    """What current sensors hold the service to [A]: as typed, never above its rating; None while that is unread."""
    rating, typed = job.supply.service_a, job.demand.set_point_a
    return rating if typed is None or rating is None else min(typed, rating)


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
    held = _held_va(job, charge_a, volts)
    return _buses(job, charge_a if held is None else held / volts, volts, held)


def _buses(job: Job, charge_a: float, volts: float, held: float | None) -> tuple[Bus, ...]:
    if job.demand.shares:
        # Never both at once: the larger of the two counts (220.60).
        apart = msgspec.structs.replace(job.demand, shares="")
        off = msgspec.structs.replace(job, demand=apart)
        alone = msgspec.structs.replace(off, loads=tuple(one for one in job.loads if one.id != job.demand.shares))
        both = zip(_buses(alone, charge_a, volts, held), _buses(off, 0.0, volts, 0.0), strict=True)
        return tuple(max(pair, key=lambda bus: bus.needed_a) for pair in both)
    sheet = service_sheet(job, charge_a, volts, held)
    rating = set_point(job) if job.demand.managed else job.supply.service_a
    service = Bus("service", "Service", rating, sheet, sheet.total_va / volts, sheet.others_va / volts)
    found = [service]
    for board_id in reversed(path_of(job, job.supply.board)):
        board = next(board for board in job.boards if board.id == board_id)
        loads = [load for load in job.loads if board_id in path_of(job, load.board)]
        unit = charger_va(job, charge_a, volts) if held is None else held
        sheet = feeder_sheet(job, loads, unit)
        needed = sheet.total_va / volts + CONTINUOUS_EXTRA * charge_a
        found.append(Bus(board.id, board.name, board.feeder_a, sheet, needed, sheet.others_va / volts))
    return tuple(found)


def _held_va(job: Job, charge_a: float, volts: float) -> float | None:
    """What management leaves the charger on its tightest bus [VA]; None without management."""
    if not job.demand.managed:
        return None
    left = charge_a
    for bus in _buses(job, 0.0, volts, 0.0):
        if bus.rating_a is not None:
            share = 1 + CONTINUOUS_EXTRA if bus.id != "service" else 1.0
            left = min(left, (bus.rating_a - bus.others_a) / share)
    return max(left, 0.0) * volts


def bus_findings(job: Job, found: tuple[Bus, ...], charge_a: float, volts: float, book: Book) -> list[Finding]:
    """Each bus against its rating; what is over offers a lower setting, management and another panel."""
    told = []
    for bus in found:
        clause = "220.87" if bus.sheet.method == "measured" else "215.2" if bus.id != "service" else "220.82"
        clause = {"standard": "220.40", "connected": "220.40", "existing": "220.83"}.get(bus.sheet.method, clause)
        cite = f"{book.title} {clause if bus.id == 'service' else '215.2'}"
        what = "The service" if bus.id == "service" else f"The feeder of {bus.name}"
        if bus.rating_a is None:
            text = f"{what} has no rating read. It has to carry {print_amps(bus.needed_a)} with the charger."
            told.append(
                Finding(f"demand:{bus.id}", UNREAD, "Rating not read", text, cite, where="panel", stage="panel")
            )
            continue
        severity = grade(bus.needed_a, bus.rating_a, "most")
        spare = bus.rating_a - bus.needed_a
        rest = f"{print_amps(-spare)} over." if severity == STOP else f"{print_amps(spare)} to spare."
        text = f"{what} is {bus.rating_a:g} A; with the charger it has to carry {print_amps(bus.needed_a)}: {rest}"
        told.append(
            Finding(
                id=f"demand:{bus.id}",
                severity=severity,
                title="Demand",
                text=text,
                cite=cite,
                found=bus.needed_a,
                needed=bus.rating_a,
                unit="A",
                sense="most",
                sums=(
                    f"others {print_amps(bus.others_a)}, charger {print_amps(bus.needed_a - bus.others_a)}",
                    f"{bus.sheet.method} method" + (", charger's quarter on top" if bus.id != "service" else ""),
                ),
                at_m=0.0,
                where="panel",
                stage="panel",
                fixes=_ways_out(job, found, charge_a, volts) if severity == STOP else (),
            )
        )
    if job.demand.managed and found:
        told.append(_management(found, charge_a, volts, book))
    shared = next((load for load in job.loads if load.id == job.demand.shares), None)
    if shared is not None:
        text = f"{shared.name} and charger run one at a time. Fit the switching unit, label it, test it both ways."
        cite = f"{book.title} 220.60, 750.30"
        words = management_words("shared", load=shared.name.lower())
        told.append(Finding("sharing", NOTE, "Shared circuit", text, cite, sums=words, where="panel", stage="panel"))
    return told


def feeder_ohm(job: Job, book: Book) -> float:
    """One conductor of every feeder on the way together, Table 8 at 75 C [ohm]; those not read count as nothing."""
    boards = {board.id: board for board in job.boards}
    return sum(_wire_ohm(boards[its_id], book) or 0.0 for its_id in path_of(job, job.supply.board))


def _wire_ohm(board: Board, book: Book) -> float | None:
    """One conductor of a board's feeder, Table 8 at 75 C [ohm]; None while its length or gauge is not read."""
    if board.feeder_length_m is None or board.feeder_size is None:
        return None
    metal, size = MATERIALS.index(board.feeder_material), book.size_index(board.feeder_size)
    return float(book.resistance[metal, 0, size]) * board.feeder_length_m / 1000


def feeder_drop_percent(job: Job, found: tuple[Bus, ...], volts: float, book: Book) -> float | None:
    """Drop of all feeders on the way at what they carry, charger whole [percent]; None while one is not read.

    Table 8 dc resistance at 75 C, out and back, unity power factor, as for the branch.
    """
    total = 0.0
    for bus in found[1:]:
        board = next(board for board in job.boards if board.id == bus.id)
        ohm = _wire_ohm(board, book)
        if ohm is None:
            return None
        total += 100 * 2 * bus.sheet.total_va / volts * ohm / volts
    return total


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
        cite=f"{book.title} 215.2 note",
        found=whole,
        needed=WHOLE_DROP_PERCENT,
        unit="%",
        sense="most",
        where="panel",
        stage="panel",
    )
    return [finding]


def _ways_out(job: Job, found: tuple[Bus, ...], charge_a: float, volts: float) -> tuple[Fix, ...]:
    fixes = []
    if job.charger.connection == "hardwired":
        for amps in (amps for amps in reversed(SETTINGS_A) if amps < charge_a):
            if all(bus.rating_a is None or bus.needed_a <= bus.rating_a for bus in _buses(job, amps, volts, None)):
                edits = (Put("charger.setting_a", amps), Put("charger.setting_restricted", True))
                fixes.append(Fix(f"Set charger to {amps:g} A, locked", edits))
                break
    if not job.demand.managed:
        fixes.append(Fix("Load management", (Put("demand.managed", True),)))
    for board in ["", *(board.id for board in job.boards)]:
        if board == job.supply.board:
            continue
        moved = msgspec.structs.replace(job, supply=msgspec.structs.replace(job.supply, board=board))
        if all(
            bus.rating_a is not None and bus.needed_a <= bus.rating_a for bus in _buses(moved, charge_a, volts, None)
        ):
            name = next((one.name for one in job.boards if one.id == board), "service panel")
            fixes.append(Fix(f"From the {name}", (Put("supply.board", board),)))
            break
    for load in sharing_loads(job, volts)[:1]:
        shared = share_edits(job, load, charge_a)
        if shared is not None and not job.demand.shares:
            fixes.append(Fix(f"Share the {load.name.lower()} circuit", shared))
    # Three are shown; turns with another load are the last resort among them.
    return tuple(fixes[:3])


def management_words(way: str, **words: str) -> tuple[str, ...]:
    """Label and commissioning test of a way of managing, from the shipped table."""
    row = next(row for row in printed("load_management").rows if row["way"] == way)
    return (f"Label: {row['label'].format(**words)}", f"Test: {row['test'].format(**words)}")


def _management(found: tuple[Bus, ...], charge_a: float, volts: float, book: Book) -> Finding:
    left = found[0].sheet.charger_va / volts
    stops = left < LEAST_CHARGE_A
    return Finding(
        id="management",
        severity=STOP if stops else TIGHT if left < charge_a - 1e-6 else HOLDS,
        title="Load management",
        text=(
            f"With all else on, management leaves the charger {print_amps(left)} of {print_amps(charge_a)}; "
            + ("below 6 A it pauses." if stops else "label its set point and test it.")
        ),
        cite=f"{book.title} 625.42, 750.30",
        found=left,
        needed=LEAST_CHARGE_A,
        unit="A",
        where="panel",
        stage="panel",
        sums=management_words("sensors", set_point=f"{found[0].rating_a:g}" if found[0].rating_a else "its rating"),
    )
