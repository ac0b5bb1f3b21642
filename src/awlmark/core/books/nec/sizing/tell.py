"""One row in words: what is told of each section, and everything in the order of the chain."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from awlmark.core.books.nec.sizing.boxes import tell_boxes
from awlmark.core.books.nec.sizing.local_rules import tell_local
from awlmark.core.books.nec.sizing.permitted_uses import made_finding, place_findings, wet_finding
from awlmark.core.books.nec.sizing.pull_boxes import tell_pull_boxes
from awlmark.core.books.nec.sizing.requirements import tell_duties
from awlmark.core.books.nec.sizing.sleeve import tell_sleeves
from awlmark.core.books.nec.sizing.tell_circuit import (
    tell_breaker,
    tell_conductor,
    tell_drop,
    tell_ground,
    tell_heat,
    tell_protection,
)
from awlmark.core.books.nec.sizing.tell_ends import tell_fill, tell_jam, tell_notes, tell_receptacles
from awlmark.core.books.nec.sizing.terminals import tell_lugs
from awlmark.core.books.nec.sizing.unit import tell_unit
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.circuit.weakest_link import tell_weakest
from awlmark.core.finding import STOP, Finding


def _chain(t: Teller) -> list[Finding]:
    found = [tell_breaker(t), *tell_receptacles(t), tell_conductor(t), tell_heat(t), tell_protection(t)]
    return [*found, tell_ground(t), tell_drop(t)]


def _sections(t: Teller) -> list[Finding]:
    found = []
    for section in t.case.sections:
        if t.severity("fill", section.number):
            found.append(tell_fill(t, section.number))
        if t.severity("jam", section.number):
            found.append(tell_jam(t, section.number))
        wet = t.severity("wet", section.number)
        made = t.severity("made", section.number)
        if made == STOP:
            found.append(made_finding(t.case, section, t.size, made))
        if wet:
            found.append(wet_finding(t.case, section, t.insulation, t.metal, wet))
    return found


def _places(t: Teller) -> list[Finding]:
    return place_findings(t.case)


TELL: Final[tuple[Callable[[Teller], list[Finding]], ...]] = (
    _chain, _sections, _places, tell_notes, tell_boxes, tell_pull_boxes, tell_sleeves, tell_weakest, tell_duties,
    tell_unit, tell_lugs, tell_local,
)  # fmt: skip
"""In the order of the chain."""
