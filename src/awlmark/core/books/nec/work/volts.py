"""What volts without load mean: patterns of the two hots, the neutral and the ground at one place."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT
from awlmark.core.prove.meaning import Meaning
from awlmark.core.prove.test import RANGE_A
from awlmark.core.solve.design import Design

ADRIFT_V: Final = 15.0
"""So far from 120 V, or from one another, legs of one supply do not drift by load alone; common practice."""
NEAR: Final = 0.04
"""Share of the nominal volts within which a reading counts as that value."""
UNEVEN_V: Final = 3.0
"""Between the two legs this and more is worth a note; common practice."""


def pattern(one_two: float, one_n: float, two_n: float, ref: str = "neutral", nominal_v: float = 240.0) -> Meaning:
    """The fault that three volts at one place point at.

    Parameters
    ----------
    one_two, one_n, two_n : float
        Between the hots, and from each to neutral or ground [V].
    ref : {"neutral", "ground"}
        What the last two were read to; a hardwired unit has no neutral.
    nominal_v : float
        Between the hots, as the supply is entered [V].
    """

    def near(found: float, wanted: float) -> bool:
        return abs(found - wanted) <= max(NEAR * wanted, 4.0)

    if near(one_two, 0) and near(one_n, 120) and near(two_n, 120):
        return Meaning(STOP, "Both hots on one leg", "Nothing between the hots, 120 V from each: they share a leg.",
                       "Move one of them to the next space down: legs alternate.")  # fmt: skip
    if near(one_two, 120) and ((near(one_n, 120) and near(two_n, 0)) or (near(one_n, 0) and near(two_n, 120))):
        text = f"120 V between the hots, none from one to {ref}: it is landed there."
        where = "the neutral" if ref == "neutral" else "the neutral or the ground"
        return Meaning(STOP, f"Second hot on {where}", text, "Switch off, prove dead, land it on the breaker.")
    starred = near(nominal_v, 208) and not near(nominal_v, 240)
    if not starred and near(one_two, 208) and near(one_n, 120) and near(two_n, 120):
        return Meaning(NOTE, "Three-phase supply", "208 V between the hots: two legs of a three-phase supply.",
                       "Set the supply to 120/208; the charger gives less power.")  # fmt: skip
    # Between the hots all is well, from each of them it is not: what they are read to has come adrift.
    adrift = abs(one_n - two_n) >= ADRIFT_V if starred else near(one_n + two_n, one_two)
    if near(one_two, nominal_v) and not (near(one_n, 120) and near(two_n, 120)) and adrift:
        told = f"{one_two:.0f} V between the hots, {one_n:.0f} and {two_n:.0f} V to {ref}."
        return Meaning(STOP, "Loose neutral", told,
                       "Switch off now; the neutral upstream, then the utility.")  # fmt: skip
    if near(one_two, 0) and (near(one_n, 0) or near(two_n, 0)):
        return Meaning(STOP, "A leg is missing", "One hot shows nothing: breaker pole, lug or wire is open.",
                       "Prove dead, follow that wire from the breaker.")  # fmt: skip
    if one_two < nominal_v * (1 - RANGE_A):
        return Meaning(
            TIGHT,
            "Low supply",
            f"{one_two:.0f} V without load is below Range A.",
            "Read it at the service; ask the utility.",
        )
    if one_two > nominal_v * (1 + RANGE_A):
        return Meaning(TIGHT, "High supply", f"{one_two:.0f} V without load is above Range A.", "Ask the utility.")
    if abs(one_n - two_n) >= UNEVEN_V - 1e-9:
        return Meaning(
            NOTE,
            "Legs differ",
            f"{abs(one_n - two_n):.1f} V between the legs.",
            "Balance the loads; look at the neutral.",
        )
    return Meaning(HOLDS, "As it should be", f"{one_two:.0f}, {one_n:.0f} and {two_n:.0f} V.")


def pattern_one(one_n: float, one_g: float | None) -> Meaning:
    """The fault that the volts of a 120 V circuit point at: hot to neutral, and hot to ground."""

    def near(found: float, wanted: float) -> bool:
        return abs(found - wanted) <= max(NEAR * wanted, 4.0)

    if near(one_n, 240):
        return Meaning(STOP, "Second hot on the neutral", "240 V where 120 belong: the neutral is landed on a breaker.",
                       "Switch off, prove dead, land it on the neutral bar.")  # fmt: skip
    if near(one_n, 0) and one_g is not None and one_g > 60:
        return Meaning(STOP, "Neutral is open", "120 V to ground, none to neutral.",
                       "Prove dead, follow the neutral from the bar.")  # fmt: skip
    if near(one_n, 0):
        return Meaning(STOP, "A leg is missing", "The hot shows nothing: breaker, lug or wire is open.",
                       "Prove dead, follow that wire from the breaker.")  # fmt: skip
    if one_g is not None and near(one_n, 120) and one_g < 60:
        return Meaning(STOP, "Ground is open", "Full volts to neutral, about none to ground.",
                       "Do not charge. Follow the ground from the bar.")  # fmt: skip
    if abs(one_n - 120) >= ADRIFT_V:
        told = f"{one_n:.0f} V without load: so far off, the service's neutral is loose."
        return Meaning(STOP, "Loose neutral", told,
                       "Switch off now; read the other leg at the panel, then call the utility.")  # fmt: skip
    if one_n < 120 * (1 - RANGE_A):
        return Meaning(TIGHT, "Low supply", f"{one_n:.0f} V without load is below Range A.",
                       "Read the panel's other leg: high there is a loose neutral, low the supply.")  # fmt: skip
    if one_n > 120 * (1 + RANGE_A):
        return Meaning(TIGHT, "High supply", f"{one_n:.0f} V without load is above Range A.",
                       "Read the panel's other leg: low there is a loose neutral, high the supply.")  # fmt: skip
    return Meaning(HOLDS, "As it should be", f"{one_n:.0f} V.")


def ground_open(one_two: float, one_g: float, two_g: float) -> Meaning | None:
    """Full volts between the hots, about none to ground: an open ground, which a test of the hots never shows."""
    if one_two > 180 and one_g < 60 and two_g < 60:
        return Meaning(STOP, "Ground is open", "Full volts between the hots, about none from hot to ground.",
                       "Do not charge. Follow the ground from the bar.")  # fmt: skip
    return None


def read_volts(design: Design, value: Callable[[str], float | None]) -> list[Meaning]:
    """What the volts read without load mean, at both ends.

    Parameters
    ----------
    value : callable
        The latest reading of a test by its key; None where there is none.
    """
    found: list[Meaning] = []
    made = design.circuit
    nominal = made.volts if made is not None else 240.0
    for end in ("panel", "charger"):
        one_two, one_n, two_n = (value(f"{end} {pair}") for pair in ("1-2", "1-N", "2-N"))
        if made is not None and made.hots == 1:
            found += [] if one_n is None else [pattern_one(one_n, value(f"{end} 1-G"))]
            continue
        if one_two is not None and one_n is not None and two_n is not None:
            found.append(pattern(one_two, one_n, two_n, nominal_v=nominal))
        one_g, two_g = value(f"{end} 1-G"), value(f"{end} 2-G")
        if one_two is not None and one_g is not None and two_g is not None:
            opened = ground_open(one_two, one_g, two_g)
            found += [opened] if opened else []
            if one_n is None or two_n is None:
                # Without a neutral to read to, the ground tells the same faults.
                told = pattern(one_two, one_g, two_g, "ground", nominal)
                found += [told] if opened is None or told.severity != STOP else []
    return found
