"""A job made ready for the checks: charging current that counts, conductors, volts; and sizes that can be judged."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.arrays import Flags
from awlmark.core.books.book import EARTH, LINE, NEUTRAL, Book, Conductor
from awlmark.core.books.nec.edition import COLUMNS_C, MORE, NIPPLE, ONE, TWO, nec
from awlmark.core.circuit.case import Case
from awlmark.core.job.model import Job
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.quantities import FOOT_M
from awlmark.core.run.line import Line, Section

CONTINUOUS: Final = 1.25
"""Charging is a continuous load (625.42): conductors and breaker carry 125 % of it."""
SMALLEST_BREAKER_A: Final = 15.0
CONNECTIONS: Final = ("hardwired", "5-15", "5-20", "6-15", "6-20", "6-30", "6-50", "14-30", "14-50", "14-60")
DEFAULT_INSULATION: Final = {"cu": "thwn-2", "al": "xhhw-2"}
DEFAULT_TERMINAL_C: Final = 75
LARGE_CIRCUIT_A: Final = 100.0
"""Circuits above this take the 75 C column without a marking (110.14(C)(1)(b))."""
ROOF_ADDER_C: Final = 33.0
"""Near a roof the air counts as so much warmer, 310.15(B)(2) [K]."""
SHORT_M: Final = 10 * FOOT_M
"""No longer part of a run may be left out of its ampacity, 310.14(A)(2) exception."""
HOTS: Final = (Conductor(LINE, "1", "black"), Conductor(LINE, "2", "red"))
WHITE: Final = Conductor(NEUTRAL, "N", "white")
GREEN: Final = Conductor(EARTH, "G", "green")


def open_circuit(job: Job, book: Book, line: Line) -> Case:
    """Make a job ready for the checks.

    A lower setting counts only where equipment is fixed in place and nobody can raise it (625.42).
    """
    charger, (between, to_neutral) = job.charger, SYSTEMS[job.supply.system]
    receptacle = book.receptacles[charger.connection] if charger.connection != "hardwired" else None
    hots = receptacle.hots if receptacle else 2
    lowered = charger.setting_a is not None and charger.setting_restricted and charger.connection == "hardwired"
    charge = charger.nameplate_a or 0.0
    if lowered and charger.setting_a is not None:
        charge = min(charge, charger.setting_a) if charge else charger.setting_a
    metal = bool(line.sections) and all(section.method.ground_path for section in line.sections)
    bonded = job.circuit.raceway_ground and metal
    neutral = receptacle.neutral if receptacle else False
    return Case(
        job=job,
        book=book,
        line=line,
        charge_a=charge,
        receptacle=receptacle,
        wires=(*HOTS[:hots], *((WHITE,) if neutral else ()), *(() if bonded else (GREEN,))),
        hots=hots,
        neutral=neutral,
        volts=between if hots == 2 else to_neutral,
        raceway_ground=bonded,
        short=any(section.length_m <= SHORT_M + 1e-9 for section in line.sections),
    )


def current_carrying(case: Case) -> int:
    """Conductors in one raceway that count for adjustment, 310.15(C)(1) and (E)."""
    own = 2 + (case.neutral and case.hots == 2 and case.job.supply.system == "120/208")
    circuit = case.job.circuit
    return own + circuit.extra_ccc + sum(bundle.current_carrying for bundle in circuit.others)


def ambient_c(case: Case, section: Section, insulation: str) -> float | None:
    """Temperature the correction factor of a section is taken at [degC]; None where it has to be read."""
    if section.ambient_c is None:
        return None
    exempt = insulation == "xhhw-2" and not section.method.cable
    return section.ambient_c + (ROOF_ADDER_C if section.roof and not exempt else 0.0)


def fill_column(case: Case, section: Section) -> int:
    """Column of Chapter 9 Table 4 that limits a section."""
    if section.nipple:
        return NIPPLE
    count = case.conductors + sum(bundle.count for bundle in case.job.circuit.others)
    return {1: ONE, 2: TWO}.get(count, MORE)


def judged_sizes(case: Case, material: int, insulation: int) -> Flags:
    """Sizes whose fill can be judged, shape (S,); none when the load needs larger ones than the dimension table has.

    An open size is not taken from where Table 5 is silent while a size that can be judged carries the load.
    """
    book = nec(case.book)
    if not any(not section.method.cable for section in case.sections):
        return np.ones(len(book.sizes), dtype=bool)
    judged: Flags = ~np.isnan(book.area_mm2[insulation])
    carried = book.ampacity_a[material, COLUMNS_C.index(DEFAULT_TERMINAL_C)]
    enough = carried[judged].max(initial=0.0) >= CONTINUOUS * case.charge_a
    return judged if enough else np.zeros_like(judged)
