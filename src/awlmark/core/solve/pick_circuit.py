"""The circuit that is picked: every candidate checked, the contenders counted and priced, the cheapest taken."""

from __future__ import annotations

import msgspec
import numpy as np
from msgspec.structs import replace

from awlmark.core.circuit.case import Case, need_a
from awlmark.core.circuit.evaluate import Evaluated, contenders, judge, pick
from awlmark.core.circuit.pull_check import StretchPull, pulls, wires_of
from awlmark.core.job.model import MATERIALS
from awlmark.core.job.model import Circuit as Pins
from awlmark.core.memo import Memo
from awlmark.core.parts.shop import Sizes, shop_of
from awlmark.core.parts.takeoff import count_items, row_cost
from awlmark.core.parts.tally import Item


class Circuit(msgspec.Struct, frozen=True):
    """The circuit that was picked."""

    charge_a: float
    need_a: float
    breaker_a: float
    poles: int
    gfci: bool
    size: str
    material: str
    insulation: str | None
    """None where all of the run is cable."""
    hots: int
    neutral: bool
    ground: str | None
    """None while unread, or where the raceway is the ground."""
    raceway_ground: bool
    terminal_c: int
    usable_a: float | None
    """None while a temperature is unread [A]."""
    volts: float
    drop_v: float
    drop_percent: float
    trade_sizes: tuple[str | None, ...]
    """By section; None for cable, or where none fits."""
    fill_percent: tuple[float | None, ...]
    limit_percent: tuple[float | None, ...]


def sizes_of(circuit: Circuit) -> Sizes:
    """What a list has to know of its circuit: gauges and trade sizes."""
    return Sizes(circuit.size, circuit.ground, circuit.trade_sizes)


class Picked(msgspec.Struct, frozen=True, eq=False):
    """One row of the checked table."""

    evaluated: Evaluated
    row: int
    circuit: Circuit
    items: list[Item]
    """What the contenders need."""
    place: int
    """Which of the contenders the row is."""


def pick_circuit(case: Case) -> Picked:
    """Span, check, price and pick: the one way to a circuit.

    Parameters
    ----------
    case : Case
        With a charging current.
    """
    evaluated = judge(case)
    table, rows = evaluated.table, contenders(evaluated)
    contending = replace(table, group=table.group[rows], hot=table.hot[rows])
    items = count_items(contending, evaluated.work.earth[rows], evaluated.work.trade[rows])
    place = 0
    if len(rows) > 1:
        cost, priced = row_cost(items, shop_of(case.job))
        place = pick(evaluated, rows, cost, bool(priced.all()))
    row = int(rows[place])
    return Picked(evaluated, row, _circuit(evaluated, row), items, place)


def _circuit(evaluated: Evaluated, row: int) -> Circuit:
    table = evaluated.table
    case, book = table.case, table.case.book
    group, hot = int(table.group[row]), int(table.hot[row])
    usable = float(evaluated.work.usable_a[group, hot])
    ground = int(evaluated.work.earth[row])
    fill = evaluated.terms.get("fill")
    trades, fills, limits = [], [], []
    for section in case.sections:
        trade = int(evaluated.work.trade[row, section.number])
        trades.append(book.trade_sizes[trade] if trade >= 0 else None)
        known = fill is not None and trade >= 0 and not (fill.unknown is not None and fill.unknown[row, section.number])
        fills.append(float(fill.found[row, section.number]) if fill is not None and known else None)
        limits.append(book.circuit.fill_limit(case, section) if known else None)
    drop = float(evaluated.drop_v[row])
    breaker = float(table.breaker_a[group])
    cabled = bool(case.sections) and all(section.method.cable for section in case.sections)
    return Circuit(
        charge_a=case.charge_a,
        need_a=need_a(case),
        breaker_a=breaker,
        poles=case.poles,
        gfci=book.circuit.residual(case, breaker),
        size=book.sizes[hot],
        material=MATERIALS[table.material[group]],
        insulation=None if cabled else book.insulations[table.insulation[group]],
        hots=case.hots,
        neutral=case.neutral,
        ground=book.sizes[ground] if ground >= 0 and not case.raceway_ground else None,
        raceway_ground=case.raceway_ground,
        terminal_c=evaluated.work.column_c[group],
        usable_a=None if np.isnan(usable) else usable,
        volts=case.volts,
        drop_v=drop,
        drop_percent=100 * drop / case.volts,
        trade_sizes=tuple(trades),
        fill_percent=tuple(fills),
        limit_percent=tuple(limits),
    )


def pull_circuit(case: Case, picked: Picked) -> tuple[StretchPull, ...]:
    """Pulling force of every stretch of raceway; nothing while a size is unread."""
    evaluated, row, circuit = picked.evaluated, picked.row, picked.circuit
    table = evaluated.table
    group, ground = int(table.group[row]), int(evaluated.work.earth[row])
    if circuit.raceway_ground:
        ground = -1
    place = int(table.insulation[group]), int(table.hot[row]), ground, int(table.material[group])
    wires = wires_of(case.book, place, circuit.hots, circuit.neutral, circuit.material)
    return pulls(case.line, case.book, wires, circuit.trade_sizes) if wires else ()


def _turn(view: tuple[Pins, str]) -> Pins:
    pins, metal = view
    return replace(pins, material=metal, size=None, ground_size=None, insulation=None)


_turned = Memo[tuple[Pins, str], Pins](2, _turn)
"""Returns the identical object for the same pins, because other memos know pins by identity."""


def opened(pins: Pins, metal: str) -> Pins:
    """The same pins with another metal, its sizes open."""
    return _turned((pins, metal))
