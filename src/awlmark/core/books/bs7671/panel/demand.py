"""Demand on cut-out, main switch and distribution circuits: every load with its share, the charger whole (311)."""

from __future__ import annotations

from typing import Final

from msgspec.structs import replace

from awlmark.core.books import Book
from awlmark.core.books.bs7671.edition import TITLE, U0, clauses
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.job.model import Job
from awlmark.core.job.supply import HOUSEHOLD, Load
from awlmark.core.panel.bus import Bus, Row, Sheet, path_of, wire_ohm

WHOLE: Final = 100.0


def counted_va(load: Load) -> float:
    """What of a load counts with the rest [VA]."""
    share = WHOLE if load.share_percent is None else load.share_percent
    return load.va * load.count * share / WHOLE


KINDS: Final = {
    "lighting": "lighting", "range": "cooking", "heat": "heating and power", "heat 4+": "heating and power",
    "heat pump": "heating and power", "cooling": "heating and power", "dryer": "heating and power",
    "general": "standard socket circuit",
}  # fmt: skip
"""Row of the household table by kind of load; another kind counts whole."""


def household_va(loads: list[Load]) -> dict[str, float]:
    """What each load counts in a household by On-Site Guide Table A2, by its id [VA].

    The largest of a kind counts first, the rest by the table's share; a share typed for a load stands over it.
    """
    rows = {row["kind"]: row for row in printed("diversity_household").rows}
    found = {load.id: counted_va(load) for load in loads}
    for kind in set(KINDS.values()):
        row = rows[kind]
        mine = [load for load in loads if KINDS.get(load.kind) == kind and load.share_percent is None]
        ordered = sorted(mine, key=lambda load: -load.va * load.count)
        if row["rule"] == "share":
            found |= {load.id: counted_va(load) * float(row["then_percent"]) / WHOLE for load in ordered}
        elif row["rule"] == "by rank":
            shares = [float(row[name]) for name in ("largest_percent", "next_percent", "others_percent")]
            found |= {load.id: counted_va(load) * shares[min(place, 2)] / WHOLE for place, load in enumerate(ordered)}
        elif row["rule"].startswith("first and rest"):
            room = float(row["first_a"]) * U0
            for load in ordered:
                first = min(room, counted_va(load))
                room -= first
                found[load.id] = first + (counted_va(load) - first) * float(row["then_percent"]) / WHOLE
    return found


def _sheet(job: Job, loads: list[Load], charger_va: float) -> Sheet:
    """Loads one by one; a logged year stands for all of them."""
    cite = f"{TITLE} {clauses()['demand']}"
    measured = job.demand.measured_a
    if job.demand.method == "measured" and measured is not None:
        rows: tuple[Row, ...] = (Row("Greatest half-hour of a logged year", measured * U0, measured * U0, cite),)
        return Sheet("measured", rows, measured * U0, charger_va)
    counted = {load.id: counted_va(load) for load in loads}
    if job.demand.method == HOUSEHOLD:
        counted, cite = household_va(loads), f"{TITLE} {clauses()['household']}"
    rows = tuple(Row(_told(load), load.va * load.count, counted[load.id], cite) for load in loads)
    return Sheet("connected", rows, sum(counted.values()), charger_va)


def _told(load: Load) -> str:
    many = f"{load.count} x " if load.count > 1 else ""
    share = "" if load.share_percent is None else f", {load.share_percent:g} %"
    return f"{many}{load.name}{share}"


def buses(job: Job, charge_a: float, _volts: float) -> tuple[Bus, ...]:
    """Cut-out and every distribution circuit on the way, one phase at 230 V.

    On three phases every load is taken to be on the charger's fullest one: the safe side.

    Parameters
    ----------
    job : Job
        Cut-out, boards, loads.
    charge_a : float
        Charging current that counts [A a phase].

    Returns
    -------
    tuple of Bus
        Nothing where neither a cut-out, a load nor a board is entered.
    """
    supply = job.supply
    if supply.cutout_a is None and not job.loads and not job.boards and job.demand.measured_a is None:
        return ()
    rating = least_rating(job)
    found = [_bus("service", "Supply", rating, _sheet(job, list(job.loads), charge_a * U0))]
    for board_id in reversed(path_of(job, supply.board)):
        board = next(board for board in job.boards if board.id == board_id)
        loads = [load for load in job.loads if board_id in path_of(job, load.board)]
        apart = replace(job, demand=replace(job.demand, measured_a=None))
        found.append(_bus(board.id, board.name, board.feeder_a, _sheet(apart, loads, charge_a * U0)))
    return _curtailed(job, found, charge_a)


def least_rating(job: Job) -> float | None:
    """The smaller of cut-out and main switch [A]; None while the cut-out is unread."""
    supply = job.supply
    if supply.cutout_a is None:
        return None
    return supply.cutout_a if supply.service_a is None else min(supply.cutout_a, supply.service_a)


def _bus(its_id: str, name: str, rating_a: float | None, sheet: Sheet) -> Bus:
    return Bus(its_id, name, rating_a, sheet, sheet.total_va / U0, sheet.others_va / U0)


def limit_a(job: Job) -> float | None:
    """What load curtailment holds the supply to [A]; None without it, or while the cut-out is unread."""
    if not job.demand.managed:
        return None
    known = [value for value in (least_rating(job), job.demand.set_point_a) if value is not None]
    return min(known, default=None)


def _curtailed(job: Job, found: list[Bus], charge_a: float) -> tuple[Bus, ...]:
    """Curtailment leaves the charger what the others do not take (722.311.201)."""
    limit = limit_a(job)
    if limit is None:
        return tuple(found)
    first = found[0]
    left = min(charge_a, max(0.0, limit - first.others_a))
    held = [replace(bus, sheet=replace(bus.sheet, charger_va=left * U0), needed_a=bus.others_a + left) for bus in found]
    return (replace(held[0], set_point_a=limit), *held[1:])


def feeder_drop(job: Job, bus: Bus, _volts: float, book: Book) -> float | None:
    """Drop of one distribution circuit at what it carries [percent]; None while its cable is not read."""
    board = next((board for board in job.boards if board.id == bus.id), None)
    ohm = None if board is None else wire_ohm(board, book)
    return None if ohm is None else 100 * 2 * bus.needed_a * ohm / U0
