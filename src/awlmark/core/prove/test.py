"""One test: what it should show, its band, and where that comes from; the tests of a design, as its book has them."""

from __future__ import annotations

import functools
from typing import Final

import msgspec

from awlmark.core.solve.design import Design

ORDER: Final = (
    "dead", "continuity", "insulation", "polarity", "live", "loop", "residual", "function", "charge", "heat",
)  # fmt: skip
"""Tests in this order: dead first, live last; a book has those it asks for."""
YES: Final = "yes"
"""Unit of a test that is passed or not: 1 and 0."""
LEADS_OHM: Final = 0.03
"""Clips of a meter whose leads are nulled; common practice."""
RANGE_A: Final = 0.05
"""Share that the supply's volts may be off either way without load, ANSI C84.1 Range A; from memory."""
AIR_C: Final = 20.0
FACE: Final = "face"
"""The receptacle's face, over its body."""
BREAKER: Final = "breaker"
"""The terminal at the panel's end; it warms as the one at the charger does."""


class Test(msgspec.Struct, frozen=True):
    """One test."""

    key: str
    stage: str
    name: str
    unit: str
    """``V``, ``ohm``, ``A``, ``kW``, ``C``, ``ms``, or :data:`YES`."""
    expected: float
    low: float
    high: float
    source: str
    strict: bool = False
    """Out of its band is a stop, not a caution."""
    probes: tuple[str, str] | None = None
    label: str = ""
    """What it is called where the key is shown, and as it may be typed; empty for the key."""
    must: bool = False
    """Whether nobody signs without it."""
    wires: tuple[str, ...] = ()
    """Letters of the wires it goes along; empty for all."""
    below_is_load: bool = False
    """Whether less than its band is what the car or a setting asks for, never a fault of the circuit."""

    @property
    def called(self) -> str:
        """Its label, or its key."""
        return self.label or self.key


@functools.lru_cache(maxsize=2)
def tests_of(design: Design) -> tuple[Test, ...]:
    """Every test of a design, in working order; none before there is a circuit."""
    return tuple(design.book.prove.tests(design))
