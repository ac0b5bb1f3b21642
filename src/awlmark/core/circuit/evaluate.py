"""Every check over a whole table of candidates, and which row to take."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final, cast

import msgspec
import numpy as np
from msgspec.structs import replace

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.circuit.case import Case, Table, Work, drop_limit, span
from awlmark.core.circuit.terms import Terms
from awlmark.core.finding import ROUNDING, grade, worst_of
from awlmark.core.job.model import Charger, Circuit, Job, LocalRules
from awlmark.core.job.supply import Supply
from awlmark.core.memo import Memo
from awlmark.core.run.line import Line


class Evaluated(msgspec.Struct, frozen=True, eq=False):
    """A table with every check on it."""

    table: Table
    work: Work
    drop_v: Floats
    """Shape (N,) [V]."""
    terms: dict[str, Terms]

    stops: Ints
    """Broken mandatory rules, shape (N,)."""
    shortfall: Floats
    """How far the worst broken rule is passed, as a share, shape (N,)."""
    unread: Ints
    """Values that checks miss, shape (N,)."""


class Along(msgspec.Struct, frozen=True, eq=False):
    """What checks along the line get: the book's sums, and the volts lost."""

    work: Work
    lost_v: Floats
    """Shape (N,) [V]."""


class _Fixed(msgspec.Struct, frozen=True, eq=False):
    """What the length of the run has no part in: all checks but those along the line."""

    table: Table
    work: Work
    terms: dict[str, Terms]
    judged: tuple[Ints, Floats, Ints]
    """Stops, shortfall and missing values so far."""


def evaluate(table: Table) -> Evaluated:
    """Run all checks on all rows of a table."""
    return _with_lengths(_but_lengths(table), table)


def judge(case: Case) -> Evaluated:
    """Span the open decisions of a case and check every candidate.

    Keeps every check but those along the line while only lengths change. The others get a case whose sections have no
    legs and whose job has nothing but the fields of :class:`_Seen`, so a check that asks for a length raises an error
    rather than return a stale answer. Where the book's sums look at lengths (``Case.short``) they get the legs as well.
    """
    job = case.job
    sections = case.sections if case.short else tuple([replace(section, legs=()) for section in case.sections])
    seen = _Seen(job.charger, job.circuit, job.local, job.supply)
    fixed = _fixed(replace(case, job=cast(Job, seen), line=Line((), sections, ())))
    return _with_lengths(fixed, replace(fixed.table, case=case))


class _Seen(msgspec.Struct, frozen=True):
    """All of a job that the checks but those along the line look at."""

    charger: Charger
    circuit: Circuit
    local: LocalRules
    supply: Supply


def _but_lengths(table: Table) -> _Fixed:
    rules = table.case.book.circuit
    work = rules.work(table)
    terms = {check.id: check.terms(table, work) for check in rules.checks if not check.along}
    rows = len(table.hot)
    clean = np.zeros(rows, dtype=int), np.zeros(rows), np.zeros(rows, dtype=int)
    return _Fixed(table, work, terms, _judge(terms.values(), clean))


MOST_KEPT: Final = 32
_fixed = Memo[Case, _Fixed](MOST_KEPT, lambda case: _but_lengths(span(case)))


def _with_lengths(fixed: _Fixed, table: Table) -> Evaluated:
    rules = table.case.book.circuit
    found = Along(fixed.work, rules.lost_v(table))
    along = {check.id: check.terms(table, found) for check in rules.checks if check.along}
    judged = _judge(along.values(), fixed.judged)
    return Evaluated(table, fixed.work, found.lost_v, {**fixed.terms, **along}, *judged)


def size_severity(evaluated: Evaluated, group: int, size: int) -> str:
    """Severity of one size with the breaker of a group, whether or not the table has it as a row.

    The worst of the checks that judge a size by itself: the very checks of the chosen row.

    Parameters
    ----------
    group, size : int
        Index of the group and of the size in the book.
    """
    table, work = evaluated.table, evaluated.work
    one = replace(table, group=np.array([group]), hot=np.array([size]))
    checks = [check for check in table.case.book.circuit.checks if check.of_size]
    return worst_of(check.terms(one, work).severity((0,)) for check in checks)


def drop_severity(case: Case, percent: float) -> str:
    """Severity of a drop at the charger [percent], of whatever size: as the check of the chosen row has it."""
    return grade(percent, drop_limit(case), "most", advice=not case.job.local.drop_mandatory)


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
    """Rows that only their price still tells apart, as indices of the table, shape (K,).

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
    judged: list[Floats | Ints | Flags] = [evaluated.stops, evaluated.shortfall, _missed(evaluated)]
    drop = evaluated.terms.get("drop")
    beyond = np.zeros(len(rows), dtype=bool) if drop is None else drop.spare() < -ROUNDING
    if circuit.size is None and beyond.all():
        judged.append(evaluated.drop_v)
    else:
        if circuit.size is None:
            judged.insert(0, beyond)
        if circuit.prefer != "price":
            judged.append(_metal(evaluated) if circuit.prefer == "easy pull" else evaluated.drop_v)
    for each in judged:
        here = each[rows]
        rows = rows[here == here.min()]
    return rows


def _missed(evaluated: Evaluated) -> Ints:
    """Missing values that speak against a row, shape (N,)."""
    missed = evaluated.unread
    for check in evaluated.table.case.book.circuit.checks:
        unknown = None if check.chooses else evaluated.terms[check.id].unknown
        if unknown is not None:
            missed = missed - (unknown if unknown.ndim == 1 else unknown.sum(axis=1))
    return missed


def _metal(evaluated: Evaluated) -> Floats:
    return evaluated.table.case.book.metal_mm2[evaluated.table.hot]


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
        Whether every price behind ``cost`` is known; where one is unread, metal stands in for money.
    """
    metal = _metal(evaluated)[rows]
    return int(np.lexsort((metal, cost if priced else metal))[0])
