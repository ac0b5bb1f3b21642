"""Faults and mistakes of the practice bench on a supply of two legs."""

from __future__ import annotations

from typing import Final

from awlmark.core.job.edit import Put
from awlmark.core.prove.network import Faults
from awlmark.core.prove.planted import Planted


def _joined(key: str, level: int, name: str, why: str, faults: Faults) -> Planted:
    """A fault of how the circuit is joined."""
    return Planted(key, name, why, level, faults)


def _looked(key: str, level: int, name: str, why: str, seen: str) -> Planted:
    """A fault that the eye finds."""
    return Planted(key, name, why, level, seen=seen)


PLANTED: Final = (
    _joined(
        "leg missing", 0, "A leg is missing",
        "One pole is open: nothing between the hots, one hot dead.", Faults(open_at=("panel 2",)),
    ),
    _joined(
        "same leg", 0, "Both hots on one leg",
        "They share a leg: 120 V to ground from both, nothing between.", Faults(same_leg=True),
    ),
    _joined(
        "neutral for hot", 0, "Second hot landed on neutral",
        "120 V between the hots, nothing from the second to ground.", Faults(neutral_for_hot=True),
    ),
    _joined(
        "low supply", 0, "Low supply",
        "Below 228 V without any load: it comes from before the panel.", Faults(source=0.93),
    ),
    _joined(
        "ground open", 1, "Ground is open",
        "Full volts between the hots, none to ground: only that test shows it.", Faults(open_at=("charger G",)),
    ),
    _joined(
        "loose lug", 1, "Loose lug at the charger",
        "More sag than the wire explains, and a terminal hotter than its wire.", Faults(loose_ohm={"charger 1": 0.014}),
    ),
    _joined(
        "thin wire", 1, "A thinner wire than planned",
        "Loop, sag and the wire's own heat too large together: no joint, the gauge.", Faults(wire_factor=1.6),
    ),
    _joined(
        "loose breaker", 2, "Loose lug at the breaker",
        "The branch sags too much; the charger's end stays cool.", Faults(loose_ohm={"panel 1": 0.016}),
    ),
    _joined(
        "loose neutral", 2, "Loose neutral of the service",
        "The legs drift apart when the house draws: near 90 and 150 V.",
        Faults(service_neutral_ohm=2.0, house_a=(40.0, 12.0)),
    ),
    _looked(
        "dial high", 1, "Set above the breaker",
        "The unit would draw more than the breaker carries for long.", "the dial inside the unit stands at 80 A",
    ),
    _looked(
        "browned", 1, "Browned insulation",
        "Heat has been there before: cut back to sound wire, or replace.", "brown insulation at the lug",
    ),
    _looked(
        "tandem", 1, "Tandem in the wrong place",
        "This panel takes tandems only where its label says.", "a tandem breaker above the marked spaces",
    ),
    _looked(
        "full box", 2, "Overfull box",
        "More wire in the box than its volume allows.", "a box bulging with 6 AWG splices",
    ),
    _looked(
        "sensor", 2, "Current sensor reversed",
        "Load management takes what is drawn for what is given back.", "the sensor's arrow points to the load",
    ),
)  # fmt: skip
"""Faults of the bench; those with ``seen`` are found by eye."""
_MISSING = _joined("leg missing", 0, "A leg is missing", "The hot is open: nothing to neutral, nothing to ground.",
        Faults(open_at=("panel 1",)))  # fmt: skip
SINGLE: Final[dict[str, Planted | None]] = {"leg missing": _MISSING, "same leg": None, "neutral for hot": None}
"""What stands in for a fault on a circuit with one hot, by its key; None where there is no such fault."""
MISTAKES: Final = (
    Put("circuit.breaker_a", 50.0), Put("circuit.size", "8"), Put("circuit.ground_size", "12"),
    Put("legs[leg-5].trade_size", "1/2"), Put("circuit.insulation", "thhn"), Put("legs[leg-5].method", "nm"),
    Put("legs[leg-5].cover_m", 0.2), Put("charger.connection", "14-30"), Put("legs[leg-3].length_m", 0.001), None,
)  # fmt: skip
"""Made in the demo; the engine says what each breaks. None leaves it as it is."""
