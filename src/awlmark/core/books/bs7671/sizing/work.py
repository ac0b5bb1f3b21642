"""The sums behind the checks, over a whole table: currents, earth faults, conduits; and the checks on them."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.books.bs7671.sizing.conduit import Fills, check_fill, fill_raceways
from awlmark.core.books.bs7671.sizing.current import (
    Carried,
    carried,
    check_conductor,
    check_device,
    smallest_sizes,
)
from awlmark.core.books.bs7671.sizing.drop import check_drop
from awlmark.core.books.bs7671.sizing.earth_fault import EarthFault, check_cpc, check_zs, earth_fault, smallest_cpc
from awlmark.core.books.rules import Check
from awlmark.core.circuit.case import Table, Work
from awlmark.core.circuit.chosen_row import Teller


class BsWork(Work, frozen=True, eq=False):
    """With the sums of this book."""

    carried: Carried
    fault: EarthFault
    fills: Fills


def work_out(table: Table) -> BsWork:
    """Work out a table."""
    found, fault = carried(table.case), earth_fault(table)
    fills = fill_raceways(table, fault.cpc)
    groups = len(table.breaker_a)
    usable = np.tile(found.usable_a, (groups, 1))
    rated = found.tabulated_a.min(axis=0) if len(found.tabulated_a) else found.usable_a
    return BsWork(
        column_c=(found.terminal_c,) * groups,
        rated_a=np.tile(rated, (groups, 1)),
        usable_a=usable,
        smallest=smallest_sizes(table, found),
        most_breaker_a=usable,
        earth=smallest_cpc(fault),
        trade=fills.trade,
        fits=fills.fits,
        carried=found,
        fault=fault,
        fills=fills,
    )


def worked(t: Teller) -> BsWork:
    """The sums behind one row.

    Raises
    ------
    TypeError
        For another book's sums.
    """
    work = t.seen.work
    if not isinstance(work, BsWork):
        raise TypeError(f"{t.book.title} is another book.")
    return work


CHECKS: Final = (
    Check("breaker", check_device),
    Check("conductor", check_conductor, of_size=True),
    Check("cpc", lambda _table, work: check_cpc(work.fault), chooses=False),
    Check("zs", lambda _table, work: check_zs(work.fault), chooses=False),
    Check("fill", lambda table, work: check_fill(table, work.fills)),
    Check("drop", check_drop, along=True),
)
