"""Raceway fill and jam ratio."""

from __future__ import annotations

import math
from typing import Any, Final

import msgspec
import numpy as np
from msgspec.structs import replace

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.books import Book
from awlmark.core.books.book import Method
from awlmark.core.books.nec.edition import FILL_PERCENT, INCH2_MM2, MORE, NIPPLE, NIPPLE_M, ONE, TWO, nec
from awlmark.core.books.nec.sizing.formulas import fill_percent
from awlmark.core.books.nec.sizing.opening import fill_column
from awlmark.core.books.rules import Bore
from awlmark.core.circuit.case import Case, Table
from awlmark.core.circuit.terms import Terms
from awlmark.core.errors import InputError
from awlmark.core.finding import worst_of
from awlmark.core.job.leg import Bundle
from awlmark.core.run.line import Section

JAM_WINDOW: Final = (2.8, 3.2)
"""Bore over diameter at which three equal conductors wedge side by side (Chapter 9 Table 1, note)."""


class Fills(msgspec.Struct, frozen=True, eq=False):
    """Conductors and raceways of the rows of a table; Z sections, T trade sizes."""

    area_mm2: Floats
    """What is in the raceway, shape (N,); NaN where Table 5 is silent."""
    equal: Flags
    """Whether all conductors have one size and insulation, shape (N,)."""
    fits: Flags
    """Shape (N, Z, T)."""
    trade: Ints
    """Trade size index, pinned or the smallest that fits, shape (N, Z); -1 for cable or where none fits."""


def bundle_area(book: Book, bundles: tuple[Bundle, ...]) -> float:
    """Area of conductors and cables given as bundles [mm2]; NaN where Table 5 is silent.

    A cable counts as one conductor; an oval one by its larger diameter (Chapter 9 note 9).
    """
    total = 0.0
    for bundle in bundles:
        if bundle.diameter_m is not None:
            total += bundle.count * math.pi / 4 * (bundle.diameter_m * 1000) ** 2
        else:
            at = book.insulations.index(bundle.insulation), book.size_index(bundle.size)
            total += bundle.count * float(book.area_mm2[at])
    return total


def share_percent(book: Book, method: Method, trade: int | Ints, area_mm2: float | Floats) -> Floats:
    """Share of a raceway that conductors fill [percent]."""
    share: Floats = 100 * np.asarray(area_mm2) / nec(book).bore_area_mm2[method.raceway, trade]
    return share


def within(area: Floats, limit: Floats, *, each: Floats | None = None, count: int = 0) -> Flags:
    """Whether conductors fit, by area or, where all are equal, by the rounded count of Chapter 9 note 7.

    Parameters
    ----------
    area, limit : ndarray
        Conductors' area and the printed limit [mm2], broadcastable.
    each : ndarray, optional
        Area of one conductor where all are equal, NaN elsewhere [mm2].
    count : int
        Number of conductors.
    """
    fits: Flags = area <= limit + 1e-6
    if each is not None:
        with np.errstate(invalid="ignore"):
            fits = fits | (count <= np.floor(limit / each + 0.2 + 1e-9))
    return fits


def fill_raceways(table: Table, ground: Ints) -> Fills:
    """Choose raceways and test them for every row and section.

    Parameters
    ----------
    table : Table
        Candidate circuits.
    ground : ndarray, shape (N,)
        Size index of each row's ground, insulated like the hots; -1 where unread.
    """
    case, book = table.case, nec(table.case.book)
    insulation, metal = table.insulation[table.group], table.material[table.group]
    compact = case.job.circuit.compact & (metal == 1)
    hot_area = np.where(compact, book.compact_area_mm2[insulation, table.hot], book.area_mm2[insulation, table.hot])
    ground_area = np.where(compact, book.compact_area_mm2[insulation, ground], book.area_mm2[insulation, ground])
    ground_area = np.where(ground < 0, np.nan, ground_area)
    if case.raceway_ground:
        ground_area = np.zeros_like(hot_area)
    others = case.job.circuit.others
    live = case.hots + case.neutral
    area = live * hot_area + ground_area + bundle_area(book, others)
    equal = np.ones(len(table.hot), dtype=bool) if case.raceway_ground else ground == table.hot
    for bundle in others:
        if bundle.diameter_m is not None:
            equal = np.zeros_like(equal)
            continue
        at = book.insulations.index(bundle.insulation), book.size_index(bundle.size)
        equal = equal & (book.area_mm2[at] == hot_area)
    count = case.conductors + sum(bundle.count for bundle in others)
    each = np.where(equal, hot_area, np.nan)
    sections = case.sections
    fits = np.zeros((len(table.hot), len(sections), len(book.trade_sizes)), dtype=bool)
    trade = np.full((len(table.hot), len(sections)), -1)
    for section in sections:
        if section.method.cable:
            continue
        limit = book.fill_mm2[section.method.raceway, fill_column(case, section)]
        here = within(area[:, None], limit[None, :], each=each[:, None], count=count)
        if case.job.local.least_raceway is not None:
            here = here & (np.arange(len(book.trade_sizes)) >= book.trade_sizes.index(case.job.local.least_raceway))
        fits[:, section.number] = here
        if section.trade_size is not None:
            trade[:, section.number] = book.trade_sizes.index(section.trade_size)
        else:
            trade[:, section.number] = np.where(here.any(axis=1), np.argmax(here, axis=1), -1)
    return Fills(area, equal, fits, trade)


def check_fill(table: Table, fills: Fills) -> Terms:
    """Share of each raceway that is filled against Chapter 9 Table 1, shape (N, Z) [percent].

    Where note 7 lets equal conductors pass the printed share, the share itself is the limit.
    """
    case, book = table.case, nec(table.case.book)
    found = np.full(fills.trade.shape, np.nan)
    needed = np.full(fills.trade.shape, np.nan)
    unknown = np.zeros(fills.trade.shape, dtype=bool)
    rows = np.arange(len(table.hot))
    for section in case.sections:
        if section.method.cable:
            continue
        number = section.number
        column = fill_column(case, section)
        made = np.isfinite(book.bore_area_mm2[section.method.raceway])
        largest = int(np.flatnonzero(made)[-1])
        trade = np.where(fills.trade[:, number] < 0, largest, fills.trade[:, number])
        share = share_percent(book, section.method, trade, fills.area_mm2)
        holds = fills.fits[rows, number, trade]
        nominal = FILL_PERCENT[column]
        needed[:, number] = np.where(holds, np.maximum(share, nominal), nominal)
        found[:, number] = share
        unknown[:, number] = np.isnan(share)
    return Terms(np.where(unknown, 0.0, found), needed, sense="most", unknown=unknown)


def jam_ratio(bore_mm: float, diameter_mm: float) -> float:
    """Bore over conductor diameter, for three equal conductors: a ratio."""
    return bore_mm / diameter_mm


def check_jam(table: Table, fills: Fills) -> Terms:
    """Distance of the jam ratio from the middle of its window against the window's half width, shape (N, Z)."""
    case, book = table.case, nec(table.case.book)
    found = np.full(fills.trade.shape, np.nan)
    three = fills.equal & (case.conductors + sum(bundle.count for bundle in case.job.circuit.others) == 3)
    compact = case.job.circuit.compact & (table.material[table.group] == 1)
    insulation = table.insulation[table.group]
    diameter = np.where(
        compact, book.compact_diameter_mm[insulation, table.hot], book.diameter_mm[insulation, table.hot]
    )
    for section in case.sections:
        if not section.method.cable:
            trade = fills.trade[:, section.number]
            ratio = book.bore_mm[section.method.raceway, trade] / diameter
            found[:, section.number] = np.where(three & (trade >= 0), ratio, np.nan)
    middle, half = sum(JAM_WINDOW) / 2, (JAM_WINDOW[1] - JAM_WINDOW[0]) / 2
    away = np.abs(found - middle)
    return Terms(away, np.full(found.shape, half), stepped=True, advice=True)


def judge_bore(table: Table, work: Any, row: int, section: int, trade: int) -> Bore | None:
    """A row's conductors in one trade size of a section, chosen or not: the checks of fill and jam.

    Parameters
    ----------
    work : NecWork
        Its fills.
    row, section, trade : int
        Row of the table, number of the section, index of the trade size in the book.
    """
    fills: Fills = work.fills
    case, at = table.case, slice(row, row + 1)
    one = replace(table, group=table.group[at], hot=table.hot[at])
    sizes = fills.trade[at].copy()
    sizes[0, section] = trade
    here = Fills(fills.area_mm2[at], fills.equal[at], fills.fits[at], sizes)
    fill, jam = check_fill(one, here), check_jam(one, here)
    method = case.sections[section].method
    share = float(share_percent(nec(case.book), method, trade, float(fills.area_mm2[row])))
    severity = worst_of(check.severity((0, section)) for check in (fill, jam))
    return Bore(share, fill_limit(case, case.sections[section]), severity, JAM_WINDOW)


def fill_limit(case: Case, section: Section) -> float:
    """Share of a section's room that may be filled, Chapter 9 Table 1 [percent]."""
    return float(FILL_PERCENT[fill_column(case, section)])


def judge_fill(
    book: Book,
    method: Method,
    trade_size: str,
    bundles: tuple[Bundle, ...],
    length_m: float | None = None,
    _bends: int = 0,
) -> dict[str, float | bool | None]:
    """Fill of one raceway with named conductors.

    Parameters
    ----------
    book : Book
        Any edition; the dimension tables do not differ.
    method : Method
        A raceway.
    trade_size : str
        Trade size it is made in.
    bundles : tuple of Bundle
        What is in it, grounds among them.
    length_m : float, optional
        Length; up to 24 in counts as a nipple (note 4).
    _bends : int
        Play no part in it.

    Returns
    -------
    dict
        ``fill_percent``, ``limit_percent``, ``area_in2``, ``internal_area_in2``, ``jam_ratio`` (only for exactly three
        equal conductors), ``holds``.

    Raises
    ------
    InputError
        When Table 5 has no dimensions for a conductor.
    """
    trade = book.trade_sizes.index(trade_size)
    area = bundle_area(book, bundles)
    if math.isnan(area):
        raise InputError(
            "conductors", "The dimension table is silent on one of them.", "sizes from 14 AWG to 250 kcmil"
        )
    count = sum(bundle.count for bundle in bundles)
    column = NIPPLE if length_m is not None and length_m <= NIPPLE_M + 1e-9 else {1: ONE, 2: TWO}.get(count, MORE)
    singles = [
        (book.insulations.index(bundle.insulation), book.size_index(bundle.size))
        for bundle in bundles
        if bundle.diameter_m is None
    ]
    equal = len(singles) == len(bundles) and len({float(book.area_mm2[at]) for at in singles}) == 1
    bores = nec(book)
    bore, limit = bores.bore_area_mm2[method.raceway, trade], bores.fill_mm2[method.raceway, column, trade]
    each = np.array(area / count if equal else np.nan)
    jam = None
    if equal and count == 3:
        jam = round(jam_ratio(float(book.bore_mm[method.raceway, trade]), float(book.diameter_mm[singles[0]])), 2)
    return {
        "fill_percent": round(fill_percent([area], float(bore)), 1),
        "limit_percent": float(FILL_PERCENT[column]),
        "area_in2": round(area / INCH2_MM2, 4),
        "internal_area_in2": round(float(bore) / INCH2_MM2, 3),
        "jam_ratio": jam,
        "holds": bool(within(np.array(area), limit, each=each, count=count)),
    }
