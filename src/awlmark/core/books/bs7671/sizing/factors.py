"""Rating factors of a section: Iz = It x Ca x Cg x Ci x Cs x Cc (Appendix 4, section 5).

Between rows the tables are not read: the next warmer, next worse or next longer row counts. NaN is unread.
"""

from __future__ import annotations

import math
from typing import Final

import msgspec

from awlmark.core.books.bs7671.edition import GROUND_C, INSULATIONS, SOIL, BsBook, Way, bs
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.printed import number
from awlmark.core.circuit.case import Case
from awlmark.core.errors import InputError
from awlmark.core.job.leg import HIDDEN
from awlmark.core.run.line import Section

NAMES: Final = ("ca", "cg", "ci", "cs", "cc")
HALF_FROM_M: Final = 0.4
"""Beyond the last row but one of Table 52.2 half the rating counts (523.9) [m]."""


class Factors(msgspec.Struct, frozen=True):
    """Rating factors of one section; NaN where one is unread."""

    ca: float
    cg: float
    ci: float
    cs: float
    cc: float
    missing: tuple[str, ...] = ()
    """What has to be told, in words."""

    @property
    def product(self) -> float:
        """All of them; NaN where one is unread."""
        return self.ca * self.cg * self.ci * self.cs * self.cc

    @property
    def at_most(self) -> float:
        """All that are read: what the product is if the others take nothing away."""
        return math.prod(value for value in (self.ca, self.cg, self.ci, self.cs, self.cc) if value == value)


def section_factors(case: Case, section: Section, column: int) -> Factors:
    """Rating factors of a section.

    Parameters
    ----------
    case : Case
        The job made ready.
    section : Section
        With its legs.
    column : int
        0 where the circuit works at 70 C, 1 at 90 C.
    """
    way = bs(case.book).ways[section.method.key]
    insulation = way.insulation[column]
    if way.ground:
        warmest = max((GROUND_C if leg.leg.ground_c is None else leg.leg.ground_c) for leg in section.legs)
        ca = next_row("t4b2_ground_temp", "c", insulation, warmest)
    else:
        air = air_c(section, way)
        ca = math.nan if air is None else next_row("t4b1_ambient", "c", insulation, air)
    cg, ci, cs = _grouped(section, way), _insulated(section, way), 1.0
    if way.soil:
        cs = next_row("t4b3_soil", "km_per_w", way.soil, max(leg.leg.soil or SOIL for leg in section.legs))
    told = (
        (ca, "the temperature there"), (cg, "how the circuits lie together"), (ci, "the length in insulation"),
        (cs, "the soil"),
    )  # fmt: skip
    return Factors(ca, cg, ci, cs, way.cc, tuple(words for value, words in told if value != value))


def air_c(section: Section, way: Way) -> float | None:
    """Air of a section [degC]; None where it has to be read: a loft, or a roof."""
    unread = way.loft and any(leg.place == "attic" and leg.leg.ambient_c is None for leg in section.legs)
    return None if unread else section.ambient_c


def next_row(table: str, key: str, column: str, value: float) -> float:
    """Factor of the first row at or beyond a value, rows being in rising order; NaN beyond the table."""
    for row in printed(table).rows:
        if float(row[key]) >= value - 1e-9:
            return number(row[column])
    return math.nan


def spreads(method: str, book: BsBook) -> tuple[str, ...]:
    """How circuits of a method may be told to lie together."""
    way = book.ways[method]
    air = tuple(row["key"] for row in printed("t4c1_grouping").rows)
    if not way.ground:
        return air
    kind = "duct" if way.soil == "in_duct" else "direct"
    buried = tuple(row["key"] for row in printed("t4c2_t4c3_buried_groups").rows if row["key"].startswith(kind))
    return (*buried, "bunched")


def check_spread(case: Case) -> None:
    """Refuse a way of lying together that the method has not.

    Raises
    ------
    InputError
        Naming the leg.
    """
    for section in case.sections:
        known = spreads(section.method.key, bs(case.book))
        for leg in section.legs:
            if leg.leg.spread and leg.leg.spread not in known:
                raise InputError(
                    f"leg {leg.number} spread", f"Can't use '{leg.leg.spread[:40]}'.", "one of " + ", ".join(known)
                )


def _grouped(section: Section, way: Way) -> float:
    """Cg: the least over the legs, each with the circuits that lie beside it."""
    found = []
    for walked in section.legs:
        circuits = 1 + (walked.leg.beside or 0)
        key = walked.leg.spread or way.group
        tables = ("t4c1_grouping", "t4c2_t4c3_buried_groups")
        row = next(row for table in tables for row in printed(table).rows if row["key"] == key)
        found.append(number(row.get(f"n{circuits}", "")))
    return math.nan if any(value != value for value in found) else min(found)


def _insulated(section: Section, way: Way) -> float:
    """Ci: by the longest part in insulation, for cable rated as clipped; the other methods have it in their rating."""
    longest = 0.0
    for walked in section.legs:
        if walked.leg.insulated_m is not None:
            longest = max(longest, walked.leg.insulated_m)
        elif way.clipped and (walked.leg.insulated or (walked.leg.insulated is None and walked.leg.mount in HIDDEN)):
            return math.nan  # inside a wall, and nobody has told what lies round it
    if longest <= 0:
        return 1.0
    if not way.clipped:
        return math.nan
    rows = printed("t52_2_insulation").rows
    if longest > HALF_FROM_M + 1e-9:
        return float(rows[-1]["factor"])
    return next_row("t52_2_insulation", "length_mm", "factor", longest * 1000)


def column_of(terminal_c: int) -> int:
    """Column of the tables by working temperature."""
    return 1 if terminal_c == 90 else 0


def insulation_of(case: Case, terminal_c: int) -> str:
    """What the conductor is counted as over the whole run."""
    ways = bs(case.book).ways
    kinds = {ways[section.method.key].insulation[column_of(terminal_c)] for section in case.sections}
    return INSULATIONS[1] if kinds == {INSULATIONS[1]} else INSULATIONS[0]
