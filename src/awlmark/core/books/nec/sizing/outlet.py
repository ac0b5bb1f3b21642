"""The far end: receptacle ratings and ground-fault protection."""

from __future__ import annotations

import numpy as np

from awlmark.core.books.nec.facts import facts_of
from awlmark.core.books.nec.printed import printed
from awlmark.core.books.nec.sizing.opening import CONTINUOUS
from awlmark.core.circuit.case import Case, Table
from awlmark.core.circuit.terms import Terms
from awlmark.core.job.model import Job, LocalRules
from awlmark.core.run.line import WET
from awlmark.core.shelf import EDITIONS

DUPLEX_A = 15.0
DUPLEX_ON_A = 20.0
GFCI_OUTLET_A = 50.0
"""Largest circuit whose hardwired outlet 210.8(F) reaches [A]."""


def check_receptacle(table: Table) -> Terms:
    """Receptacle rating against the circuit's (210.21(B)(1)): a single receptacle is not below its breaker."""
    breaker = table.breaker_a[table.group]
    rating = table.case.receptacle.amps if table.case.receptacle else np.nan
    needed = np.where(np.isinf(breaker), 0.0, breaker)
    duplex = table.case.job.charger.duplex
    # Two receptacles, or one duplex, of 15 A may be on 20 A: Table 210.21(B)(3).
    two = (rating == DUPLEX_A) & (needed == DUPLEX_ON_A)
    needed = np.where(two & (duplex is not False), rating, needed)
    unknown = np.asarray(two & (duplex is None))
    return Terms(np.full(breaker.shape, rating), needed, stepped=True, unknown=unknown)


def usual_on(receptacle_a: float, breaker_a: float) -> bool:
    """Whether an outlet of this rating is one that Table 210.21(B)(3) has on a circuit; yes where it is silent."""
    rows = printed("receptacle_on_circuit_210_21_b3").rows
    row = next((row for row in rows if row["circuit_a"] == f"{breaker_a:g}"), None)
    return row is None or f"{receptacle_a:g}" in row["receptacle_ratings"].split()


def check_receptacle_load(table: Table) -> Terms:
    """Receptacle rating against 125 % of the charging current (625.41, 210.21(B)(2))."""
    rating = table.case.receptacle.amps if table.case.receptacle else np.nan
    found = np.full(table.group.shape, rating)
    return Terms(found, np.full(found.shape, CONTINUOUS * table.case.charge_a), stepped=True)


def needs_gfci(case: Case, breaker_a: float) -> bool:
    """Whether the breaker of a case has to be a ground-fault one, by edition and the authority's reading."""
    job = case.job
    place, outlet = case.line.end_place, case.receptacle is not None
    apart = bool(job.charger.separate)
    # A receptacle goes by its own rating, whatever breaker is before it (625.54).
    amps = case.receptacle.amps if case.receptacle is not None else breaker_a
    return gfci_wanted(job.code, job.occupancy, place, outlet, amps, job.local, apart)


def gfci_wanted(
    edition: str,
    occupancy: str,
    place: str,
    receptacle: bool,
    breaker_a: float,
    local: LocalRules,
    accessory: bool = False,
) -> bool:
    """Whether an outlet wants a ground-fault breaker.

    Receptacles: 625.54, in 2017 up to 50 A, from 2020 without a limit. Hardwired: 210.8(F) for dwellings up to 50 A,
    outdoors from 2020, in accessory buildings from 2023, in garages from 2023 where the authority reads it so.

    Parameters
    ----------
    edition, occupancy, place : str
        As the job names them; the place where the line ends.
    receptacle : bool
        Or hardwired.
    breaker_a : float
        Breaker, or the receptacle's rating [A].
    local : LocalRules
        The authority's reading.
    accessory : bool
        Whether it stands in a building of its own beside the dwelling.
    """
    if local.gfci == "always":
        return True
    facts = facts_of(edition)
    if receptacle:
        return breaker_a <= facts.gfci_receptacle_to_a
    if local.gfci == "receptacles" or occupancy != "dwelling" or breaker_a > GFCI_OUTLET_A:
        return False
    if place in WET:
        return facts.gfci_outdoors
    garage = facts.gfci_garage and place == "garage" and local.garage_hardwired_gfci
    return garage or (facts.gfci_accessory and accessory)


def gfci_rows(job: Job) -> list[tuple[str, ...]]:
    """The whole verdict: edition, how it is connected, where, up to 50 A and above it."""
    rows = []
    for edition in EDITIONS:
        for receptacle in (True, False):
            for place in ("indoor", "garage", "outdoor"):
                verdicts = [
                    gfci_wanted(edition, job.occupancy, place, receptacle, amps, job.local) for amps in (50.0, 60.0)
                ]
                connection = "receptacle" if receptacle else "hardwired"
                told = ("ground-fault" if wanted else "plain" for wanted in verdicts)
                rows.append((edition.upper().replace("-", " "), connection, place, *told))
    return rows
