"""What the editions say differently, read off a table: no rule asks for an edition by its name."""

from __future__ import annotations

import functools

import msgspec

from awlmark.core.books.nec.printed import printed


class Facts(msgspec.Struct, frozen=True):
    """What differs from edition to edition."""

    gfci_receptacle_to_a: float
    """Largest outlet for charging that wants ground-fault protection [A], 625.54."""
    gfci_outdoors: bool
    """Whether a dwelling's hardwired outlet outdoors does, 210.8(F)."""
    gfci_accessory: bool
    """And one in a building beside the dwelling."""
    gfci_garage: bool
    """And one in a garage, where the authority reads it so."""
    short_of_rest: bool
    """Whether a short hot part is held against the length of the rest, not of the whole, 310.14(A)(2)."""
    more_grounds: float
    """Of an allowance, what each ground beyond four takes of a box, 314.16(B)(5)."""
    names_setting: bool
    """Whether the text names adjustable settings, and their label, 625.42."""
    plaque: bool
    """Whether a disconnect out of sight is told by a plaque, 625.43."""
    shared_to_a: float
    """Largest 120 V charger that may share its circuit [A], 625.40."""
    shared_managed: bool
    """Whether energy management may be read as an exception to a circuit of its own, 625.40."""
    surge: bool
    """Whether a dwelling's new service has a surge device, 230.67."""
    set_point_share: float
    """Share of a bus that a set point may be, 220.70."""
    charger_least_va: float
    """Least load of a charger in the count [VA], 220.57."""


@functools.cache
def facts_of(edition: str) -> Facts:
    """What one edition says."""
    cells = {row["fact"]: row[edition] for row in printed("edition_facts").rows}
    read = {"yes": True, "no": False}
    return msgspec.convert({fact: read[cell] if cell in read else float(cell) for fact, cell in cells.items()}, Facts)
