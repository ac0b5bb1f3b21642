"""Room in conduit and trunking: the cables' terms against the conduit's, stretch by stretch (On-Site Guide, App. E).

A stretch runs from one drawing-in point to the next. Up to 3 m and straight it goes by Tables E1 and E2, else by E3
and E4: the next longer row, with its 90 degree bends. Trunking goes by E5 and E6 whatever its length.
"""

from __future__ import annotations

import functools
import math
from collections.abc import Iterable
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.books.book import EARTH, Book, Method
from awlmark.core.books.bs7671.edition import CHOSEN, LARGE_FROM, TRUNKING, bs
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.printed import number
from awlmark.core.circuit.case import Case, Table
from awlmark.core.circuit.terms import Terms
from awlmark.core.errors import InputError
from awlmark.core.job.leg import Bundle
from awlmark.core.run.line import Section

SHORT_M: Final = 3.0
SOLID_TO_MM2: Final = 2.5
"""Cores up to this are solid, larger ones stranded."""
WHOLE: Final = 100.0


class Stretch(msgspec.Struct, frozen=True):
    """Conduit between two drawing-in points."""

    length_m: float
    bends: int
    """Of 90 degrees; two sets count as one."""

    @property
    def short(self) -> bool:
        """Whether Tables E1 and E2 speak of it."""
        return self.length_m <= SHORT_M + 1e-9 and not self.bends


class Fills(msgspec.Struct, frozen=True, eq=False):
    """Fill of every row. Axes: N rows, Z sections, T trade sizes."""

    share: Floats
    """Terms of the cables over that of the conduit, shape (N, Z, T); NaN for cable and where the tables are silent."""
    trade: Ints
    """Pinned, or the smallest that fits, shape (N, Z); -1 for cable, where none fits, and while a trunking is open."""
    fits: Flags


@functools.cache
def cable_term(size: str, short: bool) -> float:
    """Term of one single-core thermoplastic cable in conduit; NaN where the table is silent."""
    strand = "solid" if float(size) <= SOLID_TO_MM2 else "stranded"
    asked = ("E1", strand) if short else ("E3", "either")
    for row in printed("conduit_cable_factors").rows:
        if (row["table"], row["strand"]) == asked and float(row["mm2"]) == float(size):
            return number(row["factor"])
    return math.nan


@functools.cache
def trunking_cable_term(size: str) -> float:
    """Term of one single-core thermoplastic cable in trunking; NaN where the table is silent."""
    strand = "solid" if float(size) <= SOLID_TO_MM2 else "stranded"
    for row in printed("trunking_cable_terms").rows:
        told = row["insulation"], row["strand"], float(row["mm2"])
        if told == ("thermoplastic", strand, float(size)):
            return number(row["term"])
    return math.nan


@functools.cache
def conduit_term(size: str, stretch: Stretch) -> float:
    """Term of a conduit; NaN past the table's lengths and bends, where a drawing-in box is wanted."""
    rows = printed("conduit_factors").rows
    if stretch.short:
        return next((number(row["factor"]) for row in rows if (row["table"], row["size_mm"]) == ("E2", size)), math.nan)
    larger = {row["size_mm"]: float(row["times_32"]) for row in printed("conduit_factors_large_two_readers").rows}
    named, times = (LARGE_FROM, larger[size]) if size in larger else (size, 1.0)
    fitting = [
        (float(row["length_m"]), number(row["factor"]))
        for row in rows
        if row["table"] == "E4" and row["size_mm"] == named and int(row["bends"]) == stretch.bends
        and float(row["length_m"]) >= stretch.length_m - 1e-9
    ]  # fmt: skip
    return times * min(fitting)[1] if fitting else math.nan


@functools.cache
def trunking_term(size: str) -> float:
    """Term of a trunking."""
    return next((number(row["term"]) for row in printed("trunking_factors").rows if row["size_mm"] == size), math.nan)


def stretches(section: Section) -> list[Stretch]:
    """A section from drawing-in point to drawing-in point."""
    found, length, degrees = [], 0.0, 0.0
    for walked in section.legs:
        length += walked.leg.length_m
        degrees += walked.offset_deg
        if walked.pulls or walked is section.legs[-1]:
            found.append(Stretch(length, math.ceil(degrees / 90 - 1e-6)))
            length, degrees = 0.0, 0.0
        else:
            degrees += walked.turn_deg
    return found


def terms_of(case: Case, hot: str, cpc: str, *, trunking: bool, short: bool = False) -> float:
    """Sum of the cables' terms in one section: this circuit's, and what else lies there; NaN where one is silent."""
    own = [(1, cpc if wire.role == EARTH else hot) for wire in case.wires]
    return _sum(own, trunking, short) + bundles_term(case.job.circuit.others, trunking=trunking, short=short)


def bundles_term(bundles: Iterable[Bundle], *, trunking: bool, short: bool) -> float:
    """The same of named conductors; a whole cable has no term."""
    bundles = tuple(bundles)
    if any(bundle.diameter_m is not None for bundle in bundles):
        return math.nan
    return _sum([(bundle.count, bundle.size) for bundle in bundles], trunking, short)


def _sum(counted: list[tuple[int, str]], trunking: bool, short: bool) -> float:
    return sum(count * (trunking_cable_term(size) if trunking else cable_term(size, short)) for count, size in counted)


def fill_raceways(table: Table, cpc: Ints) -> Fills:
    """Fill every section of conduit and trunking.

    Parameters
    ----------
    table : Table
        Candidates.
    cpc : ndarray, shape (N, Z)
        Size index of the protective conductor.
    """
    case, book = table.case, bs(table.case.book)
    rows, sections, sizes = len(table.hot), len(case.sections), len(book.trade_sizes)
    share = np.full((rows, sections, sizes), np.nan)
    trade = np.full((rows, sections), -1)
    for at, section in enumerate(case.sections):
        if section.method.cable:
            continue
        trunking = section.method.raceway == TRUNKING
        between, made = stretches(section), book.trade_sizes_of(section.method)
        # Rows of the same wires fill alike.
        pairs, alike = np.unique(np.stack([table.hot, cpc[:, at]]), axis=1, return_inverse=True)
        alike = alike.reshape(-1)
        each_share, each_trade = np.full((pairs.shape[1], sizes), np.nan), np.full(pairs.shape[1], -1)
        for row, (line, protective) in enumerate(pairs.T):
            hot, earth = book.sizes[int(line)], book.sizes[int(protective)]
            loads = [terms_of(case, hot, earth, trunking=trunking, short=each.short) for each in between]
            # A core larger than the tables takes at least the term of their largest.
            known = [known_size(each, trunking) for each in (hot, earth)]
            least = [terms_of(case, *known, trunking=trunking, short=each.short) for each in between]
            for size in made:
                rooms = [trunking_term(size) if trunking else conduit_term(size, each) for each in between]
                each_share[row, book.trade_sizes.index(size)] = _share(loads, least, rooms)
            each_trade[row] = _chosen(book, section, each_share[row], case.job.local.least_raceway)
        share[:, at], trade[:, at] = each_share[alike], each_trade[alike]
    fits: Flags = np.nan_to_num(share, nan=np.inf) <= 1 + 1e-9
    return Fills(share, trade, fits)


def _share(loads: list[float], least: list[float], rooms: list[float]) -> float:
    """Fill of the worst stretch; where a term is silent, the least it can be if that is too much already, else NaN."""
    worst = [load / room for load, room in zip(loads, rooms, strict=True)]
    if not any(value != value for value in worst):
        return max(worst, default=math.nan)
    bound = max((load / room for load, room in zip(least, rooms, strict=True)), default=math.nan)
    return bound if bound > 1 + 1e-9 else math.nan


@functools.cache
def known_size(size: str, trunking: bool) -> str:
    """A size, or the largest that the tables have a term for where they end below it."""
    table = "trunking_cable_terms" if trunking else "conduit_cable_factors"
    largest = max((row["mm2"] for row in printed(table).rows), key=float)
    return min(size, largest, key=float)


def _chosen(book: Book, section: Section, share: Floats, least: str | None) -> int:
    if section.trade_size is not None:
        return book.trade_sizes.index(section.trade_size)
    if section.method.raceway == TRUNKING:
        return -1
    for size in CHOSEN:
        at = book.trade_sizes.index(size)
        if least is not None and at < book.trade_sizes.index(least):
            continue
        if share[at] <= 1 + 1e-9:
            return at
    return -1


def check_fill(table: Table, fills: Fills) -> Terms:
    """Terms of the cables against that of the conduit [percent]; where none fits, against the largest chosen."""
    book, case = table.case.book, table.case
    largest = book.trade_sizes.index(CHOSEN[-1])
    at = np.where(fills.trade >= 0, fills.trade, largest)
    found = WHOLE * np.take_along_axis(fills.share, at[:, :, None], axis=2)[:, :, 0]
    applies = np.array([
        not section.method.cable and (section.method.raceway != TRUNKING or section.trade_size is not None)
        for section in case.sections
    ], dtype=bool)  # fmt: skip
    unknown = np.isnan(found) & applies[None, :]
    found = np.where(applies[None, :], found, np.nan)
    return Terms(found, np.full(found.shape, WHOLE), sense="most", unknown=unknown)


RACEWAYS: Final = {
    "pvc-conduit": "singles-conduit", "steel-conduit": "singles-conduit", "trunking": "singles-trunking",
}  # fmt: skip
"""What a bare fill may ask about, and a method that runs in it."""


def judge_fill(
    book: Book, method: Method, trade: str, bundles: tuple[Bundle, ...], length_m: float | None, bends: int = 0
) -> dict[str, float | bool | None]:
    """Fill of one conduit or trunking with named conductors.

    Raises
    ------
    InputError
        For a whole cable, a size without a term, or a conduit that wants a drawing-in box.
    """
    trunking = method.raceway == TRUNKING
    stretch = Stretch(length_m or 0.0, bends)
    cables = bundles_term(bundles, trunking=trunking, short=stretch.short)
    room = trunking_term(trade) if trunking else conduit_term(trade, stretch)
    if cables != cables:
        raise InputError("conductors", "The tables have no term for one of these.", "singles of 1.0 to 25 mm²")
    if room != room:
        raise InputError(
            "length", f"{stretch.length_m:g} m with {bends} bends is past the tables for {trade} mm.",
            "a drawing-in box between",
        )  # fmt: skip
    share = WHOLE * cables / room
    return {
        "fill_percent": round(share, 2), "limit_percent": WHOLE, "cable_terms": round(cables, 2),
        "conduit_term": round(room, 2), "holds": share <= WHOLE * (1 + 1e-9),
    }  # fmt: skip
