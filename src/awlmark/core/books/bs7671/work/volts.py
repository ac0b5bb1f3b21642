"""What readings on a dead load mean: line, neutral and earth at one place, and the loop beside its parts."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from awlmark.core.books.bs7671.edition import U0
from awlmark.core.books.bs7671.work.expect import STRAY_V, band_v, cold_ohms
from awlmark.core.books.bs7671.work.source import ENDS
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT
from awlmark.core.prove.meaning import Meaning
from awlmark.core.prove.network import circuit_of
from awlmark.core.prove.test import LEADS_OHM
from awlmark.core.solve.design import Design

NEAR_V: Final = 15.0
"""Within this a reading counts as the supply's volts, or as none; common practice."""
EARTH_LOST_V: Final = 150.0
"""Line to earth below this, with full volts to neutral, is no earth; common practice."""
MORE: Final = 0.3
"""A loop larger than its parts by this share has a joint in it; common practice."""


def pattern(line_n: float, line_e: float | None, n_e: float | None, end: str) -> Meaning:
    """The fault that the volts of one line at one place point at.

    Parameters
    ----------
    line_n, line_e, n_e : float
        Line to neutral, line to earth, neutral to earth [V]; None where nobody has read it.
    end : str
        Where they were read.
    """
    low, high = band_v("single phase")
    window_low, window_high = band_v("PEN-fault window")
    told = f"{line_n:.0f} V line to neutral"
    full = line_n >= U0 - 2 * NEAR_V
    if full and line_e is not None and line_e < NEAR_V and (n_e is None or n_e > EARTH_LOST_V):
        return Meaning(STOP, "Line and neutral reversed", f"{told}, but none from line to earth: they are crossed.",
                       "Isolate, prove dead, put them right at both ends; test polarity again.")  # fmt: skip
    if full and line_e is not None and line_e < EARTH_LOST_V:
        return Meaning(STOP, "Earth is open", f"{told}, {line_e:.0f} V line to earth.",
                       "Do not charge. Follow the protective conductor from the main earthing terminal.")  # fmt: skip
    if line_n < NEAR_V and line_e is not None and line_e > EARTH_LOST_V:
        return Meaning(STOP, "Neutral is open", f"{told}, {line_e:.0f} V to earth.",
                       "Isolate, prove dead, follow the neutral from its bar.")  # fmt: skip
    if line_n < NEAR_V:
        return Meaning(STOP, "Line is open", "Nothing from line to neutral: device, terminal or core is open.",
                       "Isolate, prove dead, follow the line from its device.")  # fmt: skip
    if not window_low <= line_n <= window_high:
        told += f": outside {window_low:g} to {window_high:g} V, the supply's neutral is open. "
        return Meaning(STOP, "Lost PEN or neutral of the supply", f"{told}Metal that is earthed by it may be live.",
                       "Touch nothing that is earthed, keep cars off it, call the distributor now.")  # fmt: skip
    if not low <= line_n <= high:
        side = "Low" if line_n < low else "High"
        return Meaning(TIGHT, f"{side} supply", f"{told}; {low:g} to {high:g} V is declared.",
                       "Read it at the cut-out; tell the distributor.")  # fmt: skip
    if n_e is not None and n_e > STRAY_V:
        return Meaning(NOTE, "Neutral off earth", f"{n_e:.0f} V between neutral and earth at the {end}, nothing drawn.",
                       "Read it at the origin too; a neutral carries load, or its joint is poor.")  # fmt: skip
    return Meaning(HOLDS, "As it should be", f"{told} at the {end}.")


def read_volts(design: Design, value: Callable[[str], float | None]) -> list[Meaning]:
    """What volts and loops mean together, at both ends.

    Parameters
    ----------
    value : callable
        The latest reading of a test by its key; None where there is none.
    """
    circuit = circuit_of(design)
    if circuit is None:
        return []
    earth, found = circuit.source.earth, list[Meaning]()
    for end in ENDS:
        for line in circuit.lines:
            told = value(f"{end} {line}-N")
            if told is not None:
                found.append(pattern(told, value(f"{end} {line}-{earth}"), value(f"{end} N-{earth}"), end))
    zs, ze = value("Zs"), value("Ze")
    if zs is not None and ze is not None:
        cold = value("R1+R2")
        own = cold if cold is not None else cold_ohms(design)[0]
        if zs - ze > own * (1 + MORE) + 2 * LEADS_OHM:
            text = f"Zs {zs:.2f} ohm is {zs - ze - own:.2f} ohm more than Ze and R1+R2 together."
            do = "Glands, banjos, earth terminals at both ends: isolate, remake, test again."
            found.append(Meaning(STOP, "A joint in the earth path", text, do))
    return found
