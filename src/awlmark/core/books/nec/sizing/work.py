"""The sums behind the checks, over a whole table: ampacities, grounds, raceways; and the checks on them."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.nec.edition import COLUMNS_C, nec
from awlmark.core.books.nec.sizing.ampacity import (
    Carried,
    carry,
    check_breaker,
    check_conductor,
    check_heat,
    check_protection,
)
from awlmark.core.books.nec.sizing.drop import check_drop
from awlmark.core.books.nec.sizing.fill import Fills, check_fill, check_jam, fill_raceways
from awlmark.core.books.nec.sizing.ground import Grounds, check_ground, size_grounds
from awlmark.core.books.nec.sizing.outlet import check_receptacle, check_receptacle_load
from awlmark.core.books.nec.sizing.permitted_uses import check_made, check_wet
from awlmark.core.books.rules import Check
from awlmark.core.circuit.case import Table, Work
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.quantities import print_temperature


class NecWork(Work, frozen=True, eq=False):
    """With the sums of this book."""

    carried: Carried
    grounds: Grounds
    fills: Fills


def work_out(table: Table) -> NecWork:
    """Work out a table."""
    carried = carry(table)
    grounds = size_grounds(table, carried)
    fills = fill_raceways(table, grounds.size)
    return NecWork(
        column_c=carried.column_c,
        rated_a=carried.terminal_a,
        usable_a=carried.usable_a,
        smallest=carried.smallest,
        most_breaker_a=carried.allowed_breaker_a,
        earth=grounds.size,
        trade=fills.trade,
        fits=fills.fits,
        carried=carried,
        grounds=grounds,
        fills=fills,
    )


def full_a(table: Table, work: NecWork, group: int, size: int) -> float:
    """What a size of a group carries before any cut [A]: in the warmest column of its sections, or at its terminals."""
    by_column = nec(table.case.book).ampacity_a[table.material[group]]
    column = max((COLUMNS_C.index(heat.column_c) for heat in work.carried.heats[group]), default=2)
    return max(float(by_column[column, size]), float(work.rated_a[group, size]))


def cuts(work: Work, group: int, units: str) -> str:
    """What cuts a group's ampacity in the first section, in a few words."""
    if not isinstance(work, NecWork):
        return ""
    return ", ".join(
        f"× {heat.ambient_factor:.2f} at {print_temperature(heat.ambient_c or 0, units)}"
        for heat in work.carried.heats[group][:1]
    )


def worked(t: Teller) -> NecWork:
    """The sums behind a row.

    Raises
    ------
    TypeError
        For a table that another book worked out.
    """
    if not isinstance(t.seen.work, NecWork):
        raise TypeError("Another book worked this table out.")
    return t.seen.work


CHECKS: Final = (
    Check("breaker", lambda table, work: check_breaker(table)),
    Check("receptacle", lambda table, work: check_receptacle(table)),
    Check("receptacle-load", lambda table, work: check_receptacle_load(table)),
    Check("conductor", lambda table, work: check_conductor(table, work.carried), of_size=True),
    Check("heat", lambda table, work: check_heat(table, work.carried), of_size=True),
    Check("protection", lambda table, work: check_protection(table, work.carried), of_size=True),
    Check("ground", lambda table, work: check_ground(table, work.grounds)),
    Check("fill", lambda table, work: check_fill(table, work.fills)),
    Check("jam", lambda table, work: check_jam(table, work.fills)),
    Check("wet", lambda table, work: check_wet(table)),
    Check("made", lambda table, work: check_made(table)),
    Check("drop", lambda table, found: check_drop(table, found.lost_v), along=True),
)
"""In the order of the chain."""
