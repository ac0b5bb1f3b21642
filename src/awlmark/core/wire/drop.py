"""Voltage drop over the tape length."""

from __future__ import annotations

import numpy as np

from awlmark.core.book.edition import Floats
from awlmark.core.wire.case import Case, Table
from awlmark.core.wire.terms import Terms


def loop_resistance(case: Case) -> Floats:
    """Resistance of the two conductors that carry the current, over the whole run.

    Returns
    -------
    ndarray, shape (M, S)
        Out and back [ohm]: dc at 75 C (Chapter 9 Table 8), stranded, solid where the cable is made so.
    """
    book = case.book
    total = np.zeros((book.resistance.shape[0], len(book.sizes)))
    for section in case.sections:
        total += 2 * resistance_per_km(case, section.number) * section.length_m / 1000
    return total


def resistance_per_km(case: Case, section: int) -> Floats:
    """Resistance of one conductor in one section, shape (M, S) [ohm/km]."""
    book, method = case.book, case.sections[section].method
    per_km: Floats = book.resistance[:, 0]
    if method.solid_to:
        per_km = per_km.copy()
        upto = book.size_index(method.solid_to) + 1
        per_km[:, :upto] = book.resistance[:, 1, :upto]
    return per_km


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
        ohms = 2 * float(resistance_per_km(case, section.number)[metal, size]) * section.length_m / 1000
        lost += 100 * case.charge_a * ohms / case.volts
        points.append((section.end_m, lost))
    return points


def drop_volts(table: Table) -> Floats:
    """Volts lost between breaker and charger at the charging current, unity power factor, shape (N,)."""
    case = table.case
    resistance = loop_resistance(case)[table.material[table.group], table.hot]
    volts: Floats = case.charge_a * resistance
    return volts


def check_drop(table: Table) -> Terms:
    """Drop against the job's limit; advice unless the local authority made it a rule (210.19 informational note)."""
    case = table.case
    percent = 100 * drop_volts(table) / case.volts
    limit = np.full(percent.shape, case.job.circuit.max_drop_percent)
    return Terms(percent, limit, sense="most", advice=not case.job.local.drop_mandatory)
