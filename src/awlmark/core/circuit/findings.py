"""One row of the table in words: every finding, in the order of the chain."""

from __future__ import annotations

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
from awlmark.core.circuit.evaluate import Evaluated
from awlmark.core.circuit.weakest_link import tell_weakest
from awlmark.core.finding import STOP, Finding


def tell(evaluated: Evaluated, row: int) -> list[Finding]:
    """All findings of one row.

    Parameters
    ----------
    evaluated : Evaluated
        Checked table.
    row : int
        Which row of it.
    """
    t = Teller(evaluated, row)
    found = [tell_breaker(t), *tell_receptacles(t), tell_conductor(t), tell_heat(t), tell_protection(t)]
    found += [tell_ground(t), tell_drop(t)]
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
    return [
        *found,
        *place_findings(t.case),
        *tell_notes(t),
        *tell_boxes(t),
        *tell_pull_boxes(t),
        *tell_sleeves(t),
        *tell_weakest(t),
        *tell_duties(t),
        *tell_unit(t),
        *tell_lugs(t),
        *tell_local(t),
    ]
