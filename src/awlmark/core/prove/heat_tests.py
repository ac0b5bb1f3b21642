"""What the ends of the circuit should warm to in five minutes and in an hour."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.words import cap
from awlmark.core.prove.test import AIR_C, BREAKER, FACE, Test
from awlmark.core.prove.thermal import an_hour, thermal_of
from awlmark.core.solve.design import Design

HEAT_SHARE: Final = 1.6
"""Rise over the model's that still passes; common practice: above, look at the joint."""


def heat_tests(design: Design) -> list[Test]:
    """Tests of the heat stage; none before there is a circuit whose heat is known."""
    words, air = design.book.words, AIR_C if design.job.prove.ambient_c is None else design.job.prove.ambient_c
    temps, thermal = an_hour(design, air), thermal_of(design)
    if temps is None or thermal is None:
        return []
    found = []
    names = design.book.prove.heat_names
    plugged = design.job.charger.connection not in design.book.circuit.wired
    ends = [f"{cap(word)}'s terminal" for word in (words.charger, words.breaker)]
    places = [("lug", 1, ends[0]), (BREAKER, 1, ends[1]), ("wire", 0, "Wire beside it")]
    places += [("plug", 3, "Plug at its blades"), (FACE, 2, "Face of the outlet")] if plugged else []
    for place, column, name in places:
        for minutes in (5, 60):
            temp = float(temps[minutes, column])
            most = min(air + (temp - air) * HEAT_SHARE + 2.0, thermal.limit_c)
            key, told = f"{place} {minutes} min", f"{name} after {minutes} minutes"
            source = "thermal model; contact values from memory"
            label = f"{names[place]} {minutes} min" if place in names else ""
            found.append(Test(key, "heat", told, "C", temp, air - 5.0, most, source, minutes == 60, label=label))
    return found
