"""Faults and mistakes of the practice bench on a supply of line, neutral and earth."""

from __future__ import annotations

import cmath
import math
from typing import Final

from awlmark.core.books.bs7671.edition import U0
from awlmark.core.job.edit import Put
from awlmark.core.prove.network import ELECTRODE, PEN, Faults
from awlmark.core.prove.planted import Planted

DEAD_MS: Final = 2000.0
"""What a tester shows of a device that does not open at all [ms]."""
NEIGHBOURS: Final = ((U0 * cmath.exp(-2j * math.pi / 3), 7.7),)
"""Loads of the neighbours on another phase, which a lost PEN leaves in series with the house [V, ohm]."""


def _joined(key: str, level: int, name: str, why: str, faults: Faults, *earthings: str) -> Planted:
    """A fault that instruments show."""
    return Planted(key, name, why, level, faults, earthings)


def _looked(key: str, level: int, name: str, why: str, seen: str) -> Planted:
    """A fault that the eye finds."""
    return Planted(key, name, why, level, seen=seen)


PLANTED: Final = (
    _joined(
        "reversed polarity", 0, "Line and neutral reversed",
        "Full volts between them, none from line to earth; the polarity test fails before any of it is live.",
        Faults(crossed=("L", "N")),
    ),
    _joined(
        "earth open", 0, "The protective conductor is open",
        "R1+R2 shows nothing, and live there are no volts from line to earth.", Faults(open_at=("point E",)),
    ),
    _joined(
        "low supply", 0, "Low supply",
        "Below 216 V without any load: it comes from before the consumer unit.", Faults(source=0.92),
    ),
    _joined(
        "dead residual device", 0, "The residual device does not open",
        "The loop holds, only its own test shows it.", Faults(trips_ms=DEAD_MS, no_function="RCD button"),
    ),
    _joined(
        "slow residual device", 1, "The residual device opens too late",
        "More than 300 ms at 30 mA.", Faults(trips_ms=420.0),
    ),
    _joined(
        "high loop", 1, "A poor joint in the earth path",
        "R1+R2 and Zs too large, Ze as it was: a gland or an earth terminal.", Faults(loose_ohm={"point E": 1.4}),
    ),
    _joined(
        "neutral and earth crossed", 1, "Neutral and earth crossed",
        "Volts look right; polarity fails, and the residual device opens with the first load.",
        Faults(crossed=("N", "E")),
    ),
    _joined(
        "loose terminal", 1, "Loose terminal at the charge point",
        "More sag than the cable explains, and a terminal hotter than its core.", Faults(loose_ohm={"point L": 0.03}),
    ),
    _joined(
        "thin cable", 1, "A thinner cable than planned",
        "Loop, sag and the cable's own heat too large together: no joint, the size.", Faults(wire_factor=1.6),
    ),
    _joined(
        "lost PEN", 2, "The supply's PEN is lost",
        "Line to neutral leaves 207 to 253 V with the loads of the street; what is earthed by it may be live.",
        Faults(lost_pen=True, house_a=(15.0,), neighbours=NEIGHBOURS), PEN,
    ),
    _joined(
        "PEN device dead", 2, "The PEN-fault device does not open",
        "Everything else is right; only its maker's own test shows it.", Faults(no_function="PEN device"), PEN,
    ),
    _joined(
        "dry electrode", 2, "The electrode has dried out",
        "Above 200 ohm it may not stay: deeper, or another rod.", Faults(electrode_ohm=400.0), ELECTRODE,
    ),
    _joined(
        "loose device", 2, "Loose terminal at the device",
        "The circuit sags too much; the charge point's end stays cool.", Faults(loose_ohm={"board L": 0.03}),
    ),
    _looked(
        "type AC", 0, "Type AC residual device", "Smooth direct current blinds it: type A at least, or B.",
        "a device marked with one wave in a box",
    ),
    _looked(
        "ring", 0, "Charging from the ring", "A ring carries sockets; a point has a circuit of its own.",
        "the new cable starts behind a socket in the kitchen",
    ),
    _looked(
        "lead", 1, "Extension lead to the car", "It coils, heats and has no residual device of its own.",
        "an orange drum under the bonnet",
    ),
    _looked(
        "banjo", 1, "Gland without its earth", "The armour hangs on paint.",
        "a gland tightened onto a painted wall of a box",
    ),
    _looked(
        "bond", 2, "Bonding clamp missing", "It is put right before anything new is connected.",
        "a bare water pipe beside the stopcock",
    ),
    _looked(
        "buried in fluff", 2, "Cable under insulation", "Above a ceiling under insulation it carries far less.",
        "twin and earth that vanishes into mineral wool",
    ),
)  # fmt: skip
"""Faults of the bench; those with ``seen`` are found by eye."""
MISTAKES: Final = (
    Put("circuit.breaker_a", 20.0), Put("circuit.size", "4"), Put("circuit.residual", "ac"),
    Put("charger.pen", "none"), Put("charger.dc_6ma", False), Put("supply.bonding.water", "no"),
    Put("legs[leg-6].method", "te-clipped"), Put("charger.connection", "ev13"), Put("circuit.device", "c"), None,
)  # fmt: skip
"""Made in the demo; the engine says what each breaks. None leaves it as it is."""
