"""Cable in a sleeve: pipe over it where it could be hit, and how much of the pipe it fills."""

from __future__ import annotations

import math
from typing import Final

from awlmark.core.books import Book
from awlmark.core.books.nec.edition import FILL_PERCENT, NIPPLE_M, nec
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, STOP, TIGHT, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.quantities import draw_trade_size, print_length
from awlmark.core.run.line import Walked


def sleeve_percent(wide_m: float, bore_area_mm2: float) -> float:
    """Share of a bore that one cable takes: an oval cable counts as a circle of its larger diameter (note 9)."""
    return 100 * math.pi / 4 * (wide_m * 1000) ** 2 / bore_area_mm2


BORE_PERCENT: Final = 100 * 0.9**2
"""A cable wider than nine tenths of a sleeve's bore does not slide through it; common practice."""
NOTE_7: Final = 0.8
"""A single cable may be taken where the table's share is this much of it (Chapter 9, note 7, later editions)."""


def protects_only(t: Teller, walked: Walked) -> bool:
    """Whether a sleeve guards a part of a cable: Table 1 speaks of complete raceways (Chapter 9, note 2)."""
    section = t.case.line.section_at((walked.start_m + walked.end_m) / 2)
    return section is None or not all(each.leg.sleeve for each in section.legs)


def sleeve_limit(walked: Walked) -> float:
    """Most of the bore that one cable may fill [percent]: 53, or 60 in 24 in and less (Chapter 9, Table 1, note 4)."""
    return float(FILL_PERCENT[0] if walked.leg.length_m <= NIPPLE_M + 1e-9 else FILL_PERCENT[1])


def sleeve_size(book: Book, walked: Walked, wide_m: float | None) -> str | None:
    """Trade size of a leg's sleeve: as typed, or the smallest that the cable may fill; None while that is unread."""
    leg = walked.leg
    if leg.sleeve is None or leg.sleeve_size is not None or wide_m is None:
        return leg.sleeve_size
    method = book.methods[leg.sleeve]
    areas = nec(book).bore_area_mm2[method.raceway]
    for size in book.trade_sizes_of(method):
        if sleeve_percent(wide_m, float(areas[book.trade_sizes.index(size)])) <= sleeve_limit(walked) + 1e-9:
            return size
    return None


def tell_sleeves(t: Teller) -> list[Finding]:
    """Every sleeve: does its bore take the cable."""
    return [_sleeve(t, walked) for walked in t.case.line.legs if walked.leg.sleeve and walked.method.cable]


def _sleeve(t: Teller, walked: Walked) -> Finding:
    wide, book, leg = t.case.job.circuit.cable_wide_m, t.book, walked.leg
    method = book.methods[str(leg.sleeve)]
    size = sleeve_size(book, walked, wide)
    limit = sleeve_limit(walked)
    found, severity = None, UNREAD
    fixes: tuple[Fix, ...] = ()
    if wide is None:
        text = f"How wide is the {walked.method.name} cable? Type it, such as cable 0.75in: the sleeve goes by it."
    elif size is None:
        severity, text = STOP, f"No {method.name} takes a cable {print_length(wide, t.case.job.units)} wide."
    else:
        area = float(nec(book).bore_area_mm2[method.raceway, book.trade_sizes.index(size)])
        found = sleeve_percent(wide, area)
        pipe = f"{draw_trade_size(size)} {method.name}"
        text = f"The cable fills {found:.1f} % of its {pipe} sleeve; {limit:.0f} % is the most."
        severity = grade(found, limit, "most")
        if found > BORE_PERCENT:
            severity = STOP
        elif severity == STOP and protects_only(t, walked):
            severity, limit = HOLDS, BORE_PERCENT
            text = f"The cable fills {found:.1f} % of its {pipe} sleeve, which only guards it: no limit, it slides."
        elif severity == STOP and found * NOTE_7 <= limit + 1e-9:
            severity = TIGHT
            text += " A single cable is taken by note 7 of later editions; your inspector decides."
        if severity != HOLDS and leg.sleeve_size is not None:
            fixes = (Fix("A sleeve it fits", (Put(f"legs[{leg.id}].sleeve_size", None),)),)
    return Finding(
        id=f"sleeve:{leg.id}",
        severity=severity,
        title="Cable in a sleeve",
        text=text,
        cite=book.cite("sleeve_fill"),
        found=found,
        needed=limit,
        unit="%",
        sense="most",
        sums=("an oval cable counts as a circle of its larger diameter",),
        at_m=walked.start_m,
        where=leg.id,
        fixes=fixes,
        ask="cable " if wide is None else "",
    )
