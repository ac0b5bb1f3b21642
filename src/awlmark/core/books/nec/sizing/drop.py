"""Voltage drop over the tape length."""

from __future__ import annotations

import functools
from collections.abc import Callable
from typing import Final

import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books.nec.edition import COLUMNS_C, KFT_KM, TABLE_AMBIENT_C, nec
from awlmark.core.books.nec.printed import number, printed
from awlmark.core.books.nec.sizing.formulas import drop_v, loop_ohm
from awlmark.core.circuit.case import Case, Table, drop_limit
from awlmark.core.circuit.terms import Terms

RISE_75_C: Final = 45.0
"""A wire at its 75 C rating in 30 C air is this much warmer than it; the rise goes with the square of the current."""
ZERO_C: Final = (234.5, 228.1)
"""Temperature below nought at which copper's and aluminium's resistance would vanish, extrapolated [K]."""


def loop_resistance(case: Case) -> Floats:
    """Resistance of the two conductors that carry the current, over the whole run, shape (M, S) [ohm]."""
    return _along_run(case, resistance_per_km)


def loop_reactance(case: Case) -> Floats:
    """Reactance of both conductors over the whole run, shape (M, S) [ohm]; nought but by Table 9."""
    return _along_run(case, reactance_per_km)


def _along_run(case: Case, per_km: Callable[[Case, int], Floats]) -> Floats:
    book = nec(case.book)
    total = np.zeros((book.resistance.shape[0], len(book.sizes)))
    for section in case.sections:
        total += loop_ohm(per_km(case, section.number), section.length_m)
    return total


def resistance_per_km(case: Case, section: int) -> Floats:
    """Resistance of one conductor in one section by the job's formula, shape (M, S) [ohm/km].

    ``table 8``: dc at 75 C, stranded, solid where the cable is made so. ``table 9``: ac in the section's raceway.
    ``working``: Table 8 at the temperature that the charging current brings the wire to.
    """
    book, method = nec(case.book), case.sections[section].method
    form = case.job.circuit.drop_form
    if form == "table 9":
        resistance, _reactance = table9(book.sizes, case.sections[section].method.around)
        return np.where(np.isnan(resistance), book.resistance[:, 0], resistance)
    per_km: Floats = book.resistance[:, 0]
    if method.solid_to:
        per_km = per_km.copy()
        upto = book.size_index(method.solid_to) + 1
        per_km[:, :upto] = book.resistance[:, 1, :upto]
    return per_km * _warmth(case, section) if form == "working" else per_km


def reactance_per_km(case: Case, section: int) -> Floats:
    """Reactance of one conductor in one section, shape (M, S) [ohm/km]; nought but by Table 9."""
    if case.job.circuit.drop_form != "table 9":
        return np.zeros((2, len(case.book.sizes)))
    _resistance, reactance = table9(case.book.sizes, case.sections[section].method.around)
    return np.nan_to_num(reactance)


def _warmth(case: Case, section: int) -> Floats:
    """Resistance at the working temperature over that at 75 C, shape (M, S)."""
    ambient = case.sections[section].ambient_c
    rated = nec(case.book).ampacity_a[:, COLUMNS_C.index(75)]
    with np.errstate(divide="ignore", invalid="ignore"):
        rise = RISE_75_C * (case.charge_a / np.where(rated > 0, rated, np.nan)) ** 2
    warm = (TABLE_AMBIENT_C if ambient is None else ambient) + rise
    zero = np.array(ZERO_C)[:, None]
    return np.nan_to_num((zero + warm) / (zero + 75.0), nan=1.0)


@functools.cache
def table9(sizes: tuple[str, ...], around: str) -> tuple[Floats, Floats]:
    """Chapter 9 Table 9: ac resistance and reactance at 75 C, each of shape (M, S) [ohm/km]; NaN where it is silent.

    Parameters
    ----------
    sizes : tuple of str
        Conductor sizes in order.
    around : {"steel", "al", "pvc"}
        The raceway.
    """
    rows = {row["size"]: row for row in printed("impedance_ch9_t9").rows}
    resistance = np.full((2, len(sizes)), np.nan)
    reactance = np.full((2, len(sizes)), np.nan)
    for at, size in enumerate(sizes):
        row = rows.get(size)
        if row is None:
            continue
        reactance[:, at] = number(row["xl_steel" if around == "steel" else "xl_pvc_or_al"]) / KFT_KM
        for metal, name in enumerate(("cu", "al")):
            ohms = number(row[f"r_{name}_{around}"])
            resistance[metal, at] = ohms / KFT_KM if ohms > 0 else np.nan
    return resistance, reactance


def lost_volts(case: Case) -> Floats:
    """Volts lost between breaker and charger, for every metal and size, shape (M, S) [V].

    See :func:`awlmark.core.books.nec.sizing.formulas.drop_v`.
    """
    turned = loop_reactance(case) if case.job.circuit.drop_form == "table 9" else 0.0
    return drop_v(case.charge_a, case.volts, loop_resistance(case), turned)


def holds_to_m(case: Case, metal: int, size: int) -> float:
    """Length at which one size reaches the job's drop limit in the run's last section [m]; inf without a run."""
    if not case.sections:
        return float("inf")
    per_m = 2 * float(resistance_per_km(case, case.sections[-1].number)[metal, size]) / 1000
    return drop_limit(case) / 100 * case.volts / (case.charge_a * per_m)


def drop_along(case: Case, metal: int, size: int) -> list[tuple[float, float]]:
    """Percent lost along the tape for one size, at the ends of the sections.

    Parameters
    ----------
    case : Case
        With a charging current.
    metal, size : int
        Material and size index.

    Returns
    -------
    list of (float, float)
        Place on the tape [m] and share lost up to there [percent], from (0, 0) on.
    """
    points, lost = [(0.0, 0.0)], 0.0
    for section in case.sections:
        ohms = loop_ohm(float(resistance_per_km(case, section.number)[metal, size]), section.length_m)
        lost += 100 * case.charge_a * ohms / case.volts
        points.append((section.end_m, lost))
    return points


def drop_volts(table: Table) -> Floats:
    """Volts lost between breaker and charger at the charging current, shape (N,)."""
    volts: Floats = lost_volts(table.case)[table.material[table.group], table.hot]
    return volts


def check_drop(table: Table, lost_v: Floats) -> Terms:
    """Drop against the job's limit; advice unless the local authority made it a rule (210.19 informational note)."""
    case = table.case
    percent = 100 * lost_v / case.volts
    limit = np.full(percent.shape, drop_limit(case))
    return Terms(percent, limit, sense="most", advice=not case.job.local.drop_mandatory)
