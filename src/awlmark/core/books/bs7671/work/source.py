"""The supply as the network of the tests sees it: lines, neutral, and how its earth goes home."""

from __future__ import annotations

import cmath
import math
from typing import Final

from awlmark.core.books.bs7671.edition import U0
from awlmark.core.books.bs7671.sizing.earth_fault import earthing, usual_ze
from awlmark.core.prove.network import ELECTRODE, OPEN_OHM, PEN, SEPARATE, CircuitNetwork, Faults, Source, loop_ohm
from awlmark.core.prove.test import Test
from awlmark.core.solve.design import Design

ENDS: Final = ("board", "point")
KINDS: Final = {"tn-c-s": PEN, "tn-s": SEPARATE, "tt": ELECTRODE}
ROD_OHM: Final = 100.0
"""An electrode that nobody has measured; common practice, from memory [ohm]."""
TT_LINE_OHM: Final = 0.1
"""Line and neutral of a supply whose loop goes through the ground; from memory [ohm]."""
HIGHEST: Final = 1.1
"""Of the nominal volts, when a fault current is the largest (Cmax)."""


def source(design: Design) -> Source:
    """The supply of a design.

    Ze, told or the system's usual greatest, is half line and half return; where its return is the ground, line and
    neutral are taken at a usual value.
    """
    job, made = design.job, design.circuit
    system = job.supply.earthing or "tn-c-s"
    ze = job.supply.ze_ohm if job.supply.ze_ohm is not None else usual_ze(system)
    three = job.supply.system == "400"
    legs = tuple(U0 * cmath.exp(-2j * math.pi * place / 3) for place in range(3)) if three else (U0 + 0j,)
    lines = made.hots if made is not None else 1
    letters = ("L1", "L2", "L3") if three and lines == 3 else ("L", "L2", "L3")[: len(legs)]
    told = job.supply.ra_ohm
    rod = told if told is not None else ze if system == "tt" and job.supply.ze_ohm is not None else ROD_OHM
    line = TT_LINE_OHM if system == "tt" else ze / 2
    island = earthing(job.charger.pen, job.supply.earthing) == "tt" and system != "tt"
    return Source(
        legs=legs,
        letters=letters,
        pair=(letters[0], "N"),
        earth="E",
        ends=ENDS,
        line_ohm=line,
        neutral_ohm=line,
        earthing=KINDS[system],
        earth_ohm=ze - line,
        electrode_ohm=max(rod - line, 0.0) if system == "tt" else OPEN_OHM if told is None else told,
        island_ohm=rod if island else None,
        phased=True,
    )


def loop(circuit: CircuitNetwork, test: Test, faults: Faults) -> float:
    """What a loop tester shows: Ze with the earthing parted, Zs at the point, fault current at the board [ohm, A]."""
    if test.unit == "A":
        return largest_fault(circuit, faults)
    if test.key == "Ra":
        rod = circuit.source.island_ohm if circuit.source.island_ohm is not None else circuit.source.electrode_ohm
        return rod + faults.electrode_ohm
    return loop_ohm(circuit, 0 if test.key == "Ze" else 1, faults)


def largest_fault(circuit: CircuitNetwork, faults: Faults) -> float:
    """The largest fault current at the board, to neutral or to earth [A]."""
    ohms = min(loop_ohm(circuit, 0, faults, "N"), loop_ohm(circuit, 0, faults))
    return HIGHEST * abs(circuit.legs[0]) / ohms
