"""The far end: receptacle ratings and ground-fault protection."""

from __future__ import annotations

import numpy as np

from awlmark.core.run.line import WET
from awlmark.core.wire.case import CONTINUOUS, Case, Table
from awlmark.core.wire.terms import Terms

GFCI_OUTLET_A = 50.0
"""Largest circuit whose hardwired outlet 210.8(F) reaches [A]."""


def check_receptacle(table: Table) -> Terms:
    """Receptacle rating against the circuit's (210.21(B)(1)): a single receptacle is not below its breaker."""
    breaker = table.breaker_a[table.group]
    rating = table.case.receptacle.amps if table.case.receptacle else np.nan
    return Terms(np.full(breaker.shape, rating), np.where(np.isinf(breaker), 0.0, breaker), stepped=True)


def check_receptacle_load(table: Table) -> Terms:
    """Receptacle rating against 125 % of the charging current (625.41, 210.21(B)(2))."""
    rating = table.case.receptacle.amps if table.case.receptacle else np.nan
    found = np.full(table.group.shape, rating)
    return Terms(found, np.full(found.shape, CONTINUOUS * table.case.charge_a), stepped=True)


def needs_gfci(case: Case, breaker_a: float) -> bool:
    """Whether the breaker has to be a ground-fault one, by edition.

    Receptacles: 625.54, in 2017 up to 50 A, from 2020 without a limit. Hardwired: 210.8(F) for dwellings up to 50 A,
    outdoors from 2020, in garages from 2023 where the authority reads it so.
    """
    edition = case.job.code
    if case.receptacle:
        return edition != "nec-2017" or breaker_a <= GFCI_OUTLET_A
    if case.job.occupancy != "dwelling" or breaker_a > GFCI_OUTLET_A or edition == "nec-2017":
        return False
    place = case.line.end_place
    if place in WET:
        return True
    return edition == "nec-2023" and place == "garage" and case.job.local.garage_hardwired_gfci
