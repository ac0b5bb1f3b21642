"""Every check over a whole table of candidates, and which row to take."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final, cast

import msgspec
import numpy as np
from msgspec.structs import replace

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.books.nec.sizing.ampacity import (
    Carried,
    carry,
    check_breaker,
    check_conductor,
    check_heat,
    check_protection,
)
from awlmark.core.books.nec.sizing.drop import check_drop, drop_volts
from awlmark.core.books.nec.sizing.fill import Fills, check_fill, check_jam, fill_raceways
from awlmark.core.books.nec.sizing.ground import Grounds, check_ground, size_grounds
from awlmark.core.books.nec.sizing.outlet import check_receptacle, check_receptacle_load
from awlmark.core.books.nec.sizing.permitted_uses import check_made, check_wet
from awlmark.core.circuit.case import Case, Table, span
from awlmark.core.circuit.terms import Terms
from awlmark.core.finding import ROUNDING
from awlmark.core.job.model import Charger, Circuit, Job, LocalRules
from awlmark.core.job.supply import Supply
from awlmark.core.memo import Memo
from awlmark.core.run.line import Line


class Evaluated(msgspec.Struct, frozen=True, eq=False):
    """A table with every check on it."""

    table: Table
    carried: Carried
    grounds: Grounds
    fills: Fills
    drop_v: Floats
    """Shape (N,) [V]."""
    terms: dict[str, Terms]

    stops: Ints
    """Broken mandatory rules, shape (N,)."""
    shortfall: Floats
    """How far the worst broken rule is passed, as a share, shape (N,)."""
    unread: Ints
    """Values that checks miss, shape (N,)."""


class _Fixed(msgspec.Struct, frozen=True, eq=False):
    """What the length of the run has no part in: all checks but the drop."""

    table: Table
    carried: Carried
    grounds: Grounds
    fills: Fills
    terms: dict[str, Terms]
    judged: tuple[Ints, Floats, Ints]
    """Stops, shortfall and missing values so far."""


def evaluate(table: Table) -> Evaluated:
    """Run all checks on all rows of a table."""
    return _with_drop(_but_drop(table), table)


def judge(case: Case) -> Evaluated:
    """Span the open decisions of a case and check every candidate.

    Keeps every check but the drop while only lengths change. Those checks get a case whose sections have no legs and
    whose job has nothing but the fields of :class:`_Seen`, so a check that asks for a length raises an error rather
    than return a stale answer. With a short part in the run they get the legs as well (310.14(A)(2) asks for them).
    """
    job = case.job
    sections = case.sections if case.short else tuple([replace(section, legs=()) for section in case.sections])
    seen = _Seen(job.charger, job.circuit, job.local, job.supply)
    fixed = _fixed(replace(case, job=cast(Job, seen), line=Line((), sections, ())))
    return _with_drop(fixed, replace(fixed.table, case=case))


class _Seen(msgspec.Struct, frozen=True):
    """All of a job that the checks but the drop look at."""

    charger: Charger
    circuit: Circuit
    local: LocalRules
    supply: Supply


def _but_drop(table: Table) -> _Fixed:
    carried = carry(table)
    grounds = size_grounds(table, carried)
    fills = fill_raceways(table, grounds.size)
    terms = {
        "breaker": check_breaker(table),
        "receptacle": check_receptacle(table),
        "receptacle-load": check_receptacle_load(table),
        "conductor": check_conductor(table, carried),
        "heat": check_heat(table, carried),
        "protection": check_protection(table, carried),
        "ground": check_ground(table, grounds),
        "fill": check_fill(table, fills),
        "jam": check_jam(table, fills),
        "wet": check_wet(table),
        "made": check_made(table),
    }
    rows = len(table.hot)
    clean = np.zeros(rows, dtype=int), np.zeros(rows), np.zeros(rows, dtype=int)
    return _Fixed(table, carried, grounds, fills, terms, _judge(terms.values(), clean))


MOST_KEPT: Final = 32
_fixed = Memo[Case, _Fixed](MOST_KEPT, lambda case: _but_drop(span(case)))


def _with_drop(fixed: _Fixed, table: Table) -> Evaluated:
    lost = drop_volts(table)
    drop = check_drop(table, lost)
    judged = _judge((drop,), fixed.judged)
    terms = {**fixed.terms, "drop": drop}
    return Evaluated(table, fixed.carried, fixed.grounds, fixed.fills, lost, terms, *judged)


def _judge(checks: Iterable[Terms], before: tuple[Ints, Floats, Ints]) -> tuple[Ints, Floats, Ints]:
    """Stops, worst shortfall and missing values of every row, on top of those before."""
    stops, shortfall, unread = before
    for terms in checks:
        spare = terms.spare()
        broken = terms.broken(spare)
        if terms.unknown is not None and terms.unknown.any():
            unread = unread + (terms.unknown if terms.unknown.ndim == 1 else terms.unknown.sum(axis=1))
        if broken.any():
            short = np.where(broken, -spare, 0.0)
            stops = stops + (broken if broken.ndim == 1 else broken.sum(axis=1))
            shortfall = np.maximum(shortfall, short if short.ndim == 1 else short.max(axis=1))
    return stops, shortfall, unread


def contenders(evaluated: Evaluated) -> Ints:
    """Rows that only their price still tells apart.

    The drop limit binds while the size is open: rows that meet it come first. Among them those without a stop, or
    those that break fewest rules by least; then, where the job prefers an easy pull or low loss, the best at that.
    Where no size meets the drop limit, those without a stop that lose least.

    Parameters
    ----------
    evaluated : Evaluated
        Checked table.
    """
    circuit = evaluated.table.case.job.circuit
    rows = np.arange(len(evaluated.stops))
    judged: list[Floats | Ints | Flags] = [evaluated.stops, evaluated.shortfall, evaluated.unread]
    beyond = evaluated.terms["drop"].spare() < -ROUNDING
    if circuit.size is None and beyond.all():
        judged.append(evaluated.drop_v)
    else:
        if circuit.size is None:
            judged.insert(0, beyond)
        if circuit.prefer != "price":
            judged.append(_cmil(evaluated) if circuit.prefer == "easy pull" else evaluated.drop_v)
    for each in judged:
        here = each[rows]
        rows = rows[here == here.min()]
    return rows


def _cmil(evaluated: Evaluated) -> Floats:
    return evaluated.table.case.book.cmil[evaluated.table.hot]


def pick(evaluated: Evaluated, rows: Ints, cost: Floats, priced: bool = True) -> int:
    """The cheapest of some rows, the smallest of those that cost the same; its place among them.

    Parameters
    ----------
    evaluated : Evaluated
        Checked table.
    rows : ndarray
        Contenders.
    cost : ndarray, shape of rows
        Price of each.
    priced : bool
        Whether every price behind ``cost`` is known; where one is unread, circular mils stand in for money.
    """
    cmil = _cmil(evaluated)[rows]
    return int(np.lexsort((cmil, cost if priced else cmil))[0])
