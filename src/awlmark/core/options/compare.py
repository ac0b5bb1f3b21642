"""Every open decision spanned, every row checked, ranked: what else would do, and why the rest would not."""

from __future__ import annotations

import itertools
import operator
import re
from collections.abc import Callable
from typing import Any, Final

import msgspec
import numpy as np
from msgspec.structs import replace

from awlmark.core.arrays import Flags, Floats
from awlmark.core.books import open_book
from awlmark.core.circuit.case import Case, Table, need_a, open_case, span
from awlmark.core.circuit.evaluate import Evaluated, evaluate
from awlmark.core.circuit.pull_check import pulls, wires_of
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import MATERIALS, Job
from awlmark.core.parts.quote import own_hours, rates
from awlmark.core.parts.shop import shop_of
from awlmark.core.parts.takeoff import count_items, row_cost, row_hours
from awlmark.core.quantities import read_number
from awlmark.core.run.line import walk
from awlmark.core.run.pull_tension import LBF_N
from awlmark.core.shelf import NEWEST

"""Methods tried where the job leaves them open; common practice."""
BREAKERS: Final = 3
"""Standard ratings tried from the smallest that serves."""
RANKS: Final = ("price", "loss", "size", "pull", "hours")
AMOUNTS: Final = ("price", "drop", "loss", "breaker")
"""What a filter may hold against a number: price, drop [%], loss [W], breaker [A]."""
KINDS: Final = ("material", "insulation", "size", "method")
"""What a filter may hold against a word."""
_FILTER: Final = re.compile(r"\s*(?P<name>[a-z]+)\s*(?P<sign><=|>=|=|<|>)\s*(?P<value>\S+)\s*", re.ASCII)
_SIGNS: Final[dict[str, Callable[[Any, Any], Any]]] = {
    "<=": operator.le, ">=": operator.ge, "<": operator.lt, ">": operator.gt, "=": operator.eq,
}  # fmt: skip


class Choice(msgspec.Struct, frozen=True):
    """One circuit that would do, or would not."""

    method: str
    """Empty where the job's own methods stand."""
    connection: str
    breaker_a: float
    material: str
    insulation: str
    size: str
    ground: str | None
    trade_sizes: tuple[str | None, ...]
    price: float
    priced: bool
    """Whether every price that differs is known."""
    drop_percent: float
    loss_w: float
    """Heat in the wire at full draw [W]."""
    pull_lbf: float | None
    """Hardest pull at usual friction; None without raceway, or where its size is unread."""
    hours: float
    """Of one person, by the job's rates."""
    stops: tuple[str, ...]
    """Checks that are broken, in the order of the chain."""
    pareto: bool = False
    """True on the Pareto front of price and loss among the choices that hold and are fully priced."""


class Comparison(msgspec.Struct, frozen=True):
    """All that was looked at."""

    candidates: int
    holding: int
    """Rows without a stop or an unread value, and within the filters."""
    filtered: int
    """Rows that the filters leave out."""
    rejected: dict[str, int]
    """Rows by the first link that breaks."""
    best: tuple[Choice, ...]
    """Ranked; those that hold first."""


class _Sums(msgspec.Struct, frozen=True):
    """Sums of a row."""

    cost: float
    priced: bool
    hours: float


class Filter(msgspec.Struct, frozen=True):
    """One condition a row must meet."""

    name: str
    sign: str
    value: float | str


def read_filters(text: str) -> tuple[Filter, ...]:
    """Conditions from words such as "drop<=2, material=cu".

    Raises
    ------
    InputError
        For words that are no condition, an unknown name, or a word where a number belongs.
    """
    found, newest = [], open_book(NEWEST)
    accepted = "conditions such as drop<=2, price<900, loss<150, breaker=60, material=cu, size=4 or method=emt"
    for words in filter(None, (part.strip() for part in text.split(","))):
        match = _FILTER.fullmatch(words)
        if match is None or match["name"] not in (*AMOUNTS, *KINDS):
            raise InputError("where", f"Can't read '{words}'.", accepted)
        name, sign, value = match["name"], match["sign"], match["value"].lower()
        if name in AMOUNTS:
            found.append(Filter(name, sign, read_number(value, f"where {name}", 0, 1e9)))
            continue
        tried = newest.circuit.compared_insulations
        known = {"material": MATERIALS, "insulation": tried, "method": newest.compared}.get(name)
        if sign != "=" or (known and value not in known):
            raise InputError("where", f"Can't read '{words}'.", f"{name}= " + " or ".join(known or ("a gauge",)))
        found.append(Filter(name, sign, value))
    return tuple(found)


def compare(
    job: Job,
    top: int = 10,
    rank: str = "price",
    *,
    where: tuple[Filter, ...] = (),
    breakers: int = BREAKERS,
) -> Comparison:
    """Span what the job leaves open, check every row, and rank.

    Parameters
    ----------
    job : Job
        Pinned decisions stay; open ones are spanned: metal, insulation, breaker, size, and the method of legs whose
        method is open.
    top : int
        How many choices to return.
    rank : {"price", "loss", "size", "pull", "hours"}
        What they are ranked by.
    where : tuple of Filter, optional
        Conditions every choice meets; the marks are drawn among what is left.
    breakers : int
        Standard ratings tried above the need.

    Raises
    ------
    InputError
        For an unread charging current, or an unknown rank.
    """
    if rank not in RANKS:
        raise InputError("rank", f"Can't rank by '{rank}'.", ", ".join(RANKS))
    found: list[Choice] = []
    rejected: dict[str, int] = {}
    candidates = holding = filtered = 0
    each_hours = rates(job)
    for method, case in _cases(job):
        table = span_wide(case, breakers)
        evaluated = evaluate(table)
        items = count_items(table, evaluated.work.earth, evaluated.work.trade)
        cost, priced = row_cost(items, shop_of(job))
        broken = _broken(evaluated)
        barred = broken[1][:, -1]
        loss = evaluated.drop_v * case.charge_a
        met = _met(evaluated, method, cost, loss, where)
        good = (evaluated.stops == 0) & (evaluated.unread == 0) & ~barred & met
        candidates += len(cost)
        filtered += int((~met).sum())
        holding += int(good.sum())
        for name, flags in zip(broken[0], broken[1].T, strict=True):
            rejected[name] = rejected.get(name, 0) + int(flags.sum())
        hours = row_hours(items, each_hours) + own_hours(case.line, wire_ground=not case.raceway_ground)
        by = {"price": cost, "loss": loss, "size": case.book.metal_mm2[table.hot], "hours": hours}
        first = _pull_of(evaluated) if rank == "pull" else by[rank]
        order = np.lexsort((cost, first, ~priced, evaluated.unread, evaluated.stops + barred))
        # The best of each case, and those that none beats there: no more can come among the best of all, nor be marked.
        best = order[met[order]][: max(top, 1)]
        kept = np.union1d(best, _front(cost, loss, good & priced))
        found += [
            _choice(evaluated, int(row), method, _Sums(float(cost[row]), bool(priced[row]), float(hours[row])), broken)
            for row in kept
        ]
    sizes = open_book(job.code).sizes
    ranks: dict[str, Callable[[Choice], float]] = {
        "price": lambda choice: choice.price,
        "loss": lambda choice: choice.loss_w,
        "size": lambda choice: sizes.index(choice.size),
        "pull": lambda choice: choice.pull_lbf or 0.0,
        "hours": lambda choice: choice.hours,
    }
    found.sort(key=lambda choice: (len(choice.stops), not choice.priced, ranks[rank](choice), choice.price))
    return Comparison(candidates, holding, filtered, rejected, tuple(_marked(found)[:top]))


def _met(evaluated: Evaluated, method: str, cost: Floats, loss: Floats, where: tuple[Filter, ...]) -> Flags:
    """Which rows meet every condition, shape (N,)."""
    table = evaluated.table
    case, book = table.case, table.case.book
    met = np.ones(len(cost), dtype=bool)
    for each in where:
        if each.name == "method":
            # The job's own methods are asked of its legs: every leg is in the one named.
            met &= {method} == {each.value} if method else {leg.method for leg in case.job.legs} == {each.value}
            continue
        if each.name == "size":
            if each.value not in book.sizes:
                raise InputError("where size", f"No table has '{each.value}'.", ", ".join(book.sizes))
            met &= table.hot == book.sizes.index(str(each.value))
            continue
        columns: dict[str, Callable[[], Any]] = {
            "price": lambda: cost,
            "drop": lambda: 100 * evaluated.drop_v / case.volts,
            "loss": lambda: loss,
            "breaker": lambda: table.breaker_a[table.group],
            "material": lambda: np.array(MATERIALS)[table.material][table.group],
            "insulation": lambda: np.array(book.insulations)[table.insulation][table.group],
        }
        met &= _SIGNS[each.sign](columns[each.name](), each.value)
    return met


def _front(cost: Floats, loss: Floats, good: Flags) -> np.ndarray[tuple[int], np.dtype[np.intp]]:
    """Rows among the good that none beats in cost and loss together."""
    rows = np.flatnonzero(good)
    rows = rows[np.lexsort((loss[rows], cost[rows]))]
    least = np.minimum.accumulate(loss[rows])
    return rows[np.concatenate(([True], least[1:] < least[:-1]))[: len(rows)]]


def _cases(job: Job) -> list[tuple[str, Case]]:
    """The job's own methods, and each other method on the legs that leave theirs open."""
    book = open_book(job.code)
    open_legs = [leg.id for leg in job.legs if leg.method is None]
    found = []
    for method in ("", *book.compared) if open_legs else ("",):
        changed = put(job, *(Put(f"legs[{leg_id}].method", method) for leg_id in open_legs)) if method else job
        try:
            case = open_case(changed, book, walk(changed, book))
        except InputError:
            # A pinned size or metal that this method's cables are not made in: it is no candidate.
            continue
        if case.charge_a <= 0:
            raise InputError("charging current", "It is not read yet.", "the charger's nameplate, such as 48a")
        found.append((method, case))
    return found


def span_wide(case: Case, breakers: int = BREAKERS) -> Table:
    """Rows over metal, insulation, breaker and size, whatever of them is open."""
    job, book = case.job, case.book
    circuit = job.circuit
    # A cable that is not made in aluminium is no candidate in it.
    offered = MATERIALS if all(section.method.aluminium for section in case.sections) else MATERIALS[:1]
    metals = (circuit.material,) if circuit.material else offered
    cabled = bool(case.sections) and all(section.method.cable for section in case.sections)
    # A cable comes with its own insulation: only one stands for it.
    tried = book.circuit.compared_insulations
    kinds = (circuit.insulation,) if circuit.insulation else tried[:1] if cabled else tried
    need = max(need_a(case), book.circuit.least_breaker_a)
    ratings = [rating for rating in book.ratings_a if rating >= need - 1e-9][: max(breakers, 1)] or [float("inf")]
    if circuit.breaker_a is not None:
        ratings = [circuit.breaker_a]
    groups = list(itertools.product(metals, kinds, ratings))
    sizes: dict[str, np.ndarray[tuple[int], np.dtype[np.intp]]] = {}
    for metal in metals:
        try:
            metalled = job.with_run(circuit=replace(circuit, material=metal))
            narrow = span(replace(case, job=metalled))
        except InputError:
            continue
        sizes[metal] = np.unique(narrow.hot)
    groups = [group for group in groups if group[0] in sizes]
    hots = [sizes[metal] for metal, _kind, _rating in groups]
    return Table(
        case=case,
        breaker_a=np.array([rating for _metal, _kind, rating in groups]),
        material=np.array([MATERIALS.index(metal) for metal, _kind, _rating in groups]),
        insulation=np.array([book.insulations.index(kind) for _metal, kind, _rating in groups]),
        group=np.repeat(np.arange(len(groups)), [len(each) for each in hots]),
        hot=np.concatenate(hots),
    )


def _broken(evaluated: Evaluated) -> tuple[tuple[str, ...], Flags]:
    """Which checks each row breaks, shape (N, C), with the names of the checks; the last is the method's place."""
    names, columns = [], []
    for name, terms in evaluated.terms.items():
        flags = terms.broken(terms.spare())
        names.append(name)
        columns.append(flags if flags.ndim == 1 else flags.any(axis=1))
    barred = any(finding.broken for finding in evaluated.table.case.book.circuit.places(evaluated.table.case))
    names.append("place")
    columns.append(np.full(len(evaluated.stops), barred))
    return tuple(names), np.stack(columns, axis=1)


def _choice(evaluated: Evaluated, row: int, method: str, sums: _Sums, broken: tuple[tuple[str, ...], Flags]) -> Choice:
    table = evaluated.table
    case, book = table.case, table.case.book
    group, ground = int(table.group[row]), int(evaluated.work.earth[row])
    trades = [int(trade) for trade in evaluated.work.trade[row]]
    lost = float(evaluated.drop_v[row])
    return Choice(
        method=method,
        connection=case.job.charger.connection,
        breaker_a=float(table.breaker_a[group]),
        material=MATERIALS[table.material[group]],
        insulation=book.insulations[table.insulation[group]],
        size=book.sizes[int(table.hot[row])],
        ground=book.sizes[ground] if ground >= 0 else None,
        trade_sizes=tuple(book.trade_sizes[trade] if trade >= 0 else None for trade in trades),
        price=round(sums.cost, 2),
        priced=sums.priced,
        drop_percent=round(100 * lost / case.volts, 3),
        loss_w=round(lost * case.charge_a, 1),
        pull_lbf=_hardest(evaluated, row),
        hours=round(sums.hours, 2),
        stops=tuple(name for name, flag in zip(broken[0], broken[1][row], strict=True) if flag),
    )


def _hardest(evaluated: Evaluated, row: int) -> float | None:
    """Hardest pull of a row at usual friction [lbf]; None without raceway."""
    table = evaluated.table
    case, book = table.case, table.case.book
    group, ground = int(table.group[row]), int(evaluated.work.earth[row])
    trades = tuple(book.trade_sizes[at] if at >= 0 else None for at in evaluated.work.trade[row].tolist())
    place = int(table.insulation[group]), int(table.hot[row]), ground, int(table.material[group])
    wires = wires_of(book, place, case.hots, case.neutral, MATERIALS[table.material[group]])
    found = pulls(case.line, book, wires, trades) if wires else ()
    return max((round(one.usual_n / LBF_N, 1) for one in found), default=None)


def _pull_of(evaluated: Evaluated) -> Floats:
    """Hardest pull of every row [lbf], shape (N,): worked out once for each kind of row."""
    table = evaluated.table
    group = table.group
    columns = [
        table.insulation[group],
        table.material[group],
        table.hot,
        evaluated.work.earth,
        *evaluated.work.trade.T,
    ]
    _kinds, first, at = np.unique(np.stack(columns), axis=1, return_index=True, return_inverse=True)
    each = np.array([_hardest(evaluated, int(row)) or 0.0 for row in first])
    return each[at.reshape(-1)]


def _marked(found: list[Choice]) -> list[Choice]:
    """Mark the choices that no other one beats in price and loss together; a price not known beats none."""
    holding = [number for number, choice in enumerate(found) if not choice.stops and choice.priced]
    prices: Floats = np.array([found[number].price for number in holding])
    losses: Floats = np.array([found[number].loss_w for number in holding])
    best = {holding[row] for row in _front(prices, losses, np.ones(len(holding), dtype=bool))}
    return [replace(choice, pareto=number in best) for number, choice in enumerate(found)]
