"""Voltage drop by mV/A/m (Appendix 4, section 6) against the limits of Table 4Ab."""

from __future__ import annotations

import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books.bs7671.edition import AIR_C, INSULATIONS, bs
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.current import carried
from awlmark.core.books.bs7671.sizing.factors import air_c, column_of
from awlmark.core.books.bs7671.sizing.opening import phases, terminal_c
from awlmark.core.circuit.case import Case, Table, drop_limit
from awlmark.core.circuit.evaluate import Along
from awlmark.core.circuit.terms import Terms

WORKING = "working"
ZERO_OHM_C, MOST_MM2 = 230.0, 16.0
"""Temperature below which copper is taken to have no resistance; largest size whose drop is resistance alone."""
LONG_M, MORE_PERCENT_M, MORE_PERCENT = 100.0, 0.005, 0.5
"""Beyond so many metres so much a metre may be added, and so much in all."""


def mv_per_a_m(case: Case) -> Floats:
    """Drop of every section and size, shape (Z, S) [mV/A/m]; NaN where the tables are silent."""
    book, column, phase = bs(case.book), column_of(terminal_c(case)), phases(case)
    found = [book.ways[section.method.key].mv[column, phase] for section in case.sections]
    return np.array(found).reshape(len(found), len(book.sizes))


def drop_each(case: Case) -> Floats:
    """The same as the drop is worked out: by the table, or at the temperature the conductor really gets.

    Ct = (230 + tp - (Ca^2 Cg^2 - Ib^2 / It^2) (tp - 30)) / (230 + tp), to 16 mm2, in air of 30 C and above (Appendix 4,
    section 6.1): a doubtful rule, used only where the job asks for it (``form working``).
    """
    every = mv_per_a_m(case)
    if case.job.circuit.drop_form != WORKING:
        return every
    found, book = carried(case), bs(case.book)
    factor = np.ones_like(every)
    for at, section in enumerate(case.sections):
        way, own = book.ways[section.method.key], found.factors[at]
        air = air_c(section, way)
        if way.ground or air is None or air < AIR_C - 1e-9 or own.ca != own.ca or own.cg != own.cg:
            continue
        hot = float(found.terminal_c if way.insulation[column_of(found.terminal_c)] == INSULATIONS[1] else 70)
        share = (own.ca * own.cg) ** 2 - (
            case.charge_a / np.where(found.tabulated_a[at] > 0, found.tabulated_a[at], np.inf)
        ) ** 2
        cooler = (ZERO_OHM_C + hot - share * (hot - AIR_C)) / (ZERO_OHM_C + hot)
        factor[at] = np.where(book.metal_mm2 <= MOST_MM2, np.fmin(1.0, cooler), 1.0)
    worked: Floats = every * factor
    return worked


def drop_volts(table: Table) -> Floats:
    """Volts lost between device and charger at the charging current, shape (N,) [V]."""
    case = table.case
    lengths = np.array([section.length_m for section in case.sections])
    lost: Floats = (drop_each(case) * lengths[:, None]).sum(axis=0) * case.charge_a / 1000
    return lost[table.hot]


def drop_along(case: Case, _metal: int, size: int) -> list[tuple[float, float]]:
    """Percent lost along the tape for a size: places [m] and shares [percent], from (0, 0) on."""
    points, lost, every = [(0.0, 0.0)], 0.0, drop_each(case)
    for number, section in enumerate(case.sections):
        lost += 100 * float(every[number, size]) * case.charge_a * section.length_m / 1000 / case.volts
        points.append((section.end_m, lost))
    return points


def drop_percent(case: Case) -> float:
    """Limit of Table 4Ab from the origin to the charger, a little more beyond 100 m [percent]."""
    limit = limit_percent(case.job.supply.private)
    length = sum(section.length_m for section in case.sections)
    return limit + min(MORE_PERCENT, max(0.0, length - LONG_M) * MORE_PERCENT_M)


def limit_percent(private: bool) -> float:
    """Limit of Table 4Ab to the load [percent]."""
    supply = "private" if private else "public"
    return next(float(row["other_percent"]) for row in printed("drop_limits").rows if row["supply"] == supply)


def check_drop(table: Table, along: Along) -> Terms:
    """Drop against the limit: advice by its words, unless the job makes it a rule."""
    case = table.case
    percent = 100 * along.lost_v / case.volts
    return Terms(
        percent, np.full(percent.shape, drop_limit(case)), sense="most", advice=not case.job.local.drop_mandatory,
        unknown=np.isnan(percent),
    )  # fmt: skip
