"""One row of the table in words: every finding, in the order of the chain."""

from __future__ import annotations

from awlmark.core.finding import STOP, Finding
from awlmark.core.wire.boxes import tell_boxes
from awlmark.core.wire.checks import Evaluated
from awlmark.core.wire.duties import tell_duties
from awlmark.core.wire.links import tell_weakest
from awlmark.core.wire.local import tell_local
from awlmark.core.wire.places import made_finding, place_findings, wet_finding
from awlmark.core.wire.pull_boxes import tell_pull_boxes
from awlmark.core.wire.sleeve import tell_sleeves
from awlmark.core.wire.tell_chain import (
    tell_breaker,
    tell_conductor,
    tell_drop,
    tell_ground,
    tell_heat,
    tell_protection,
)
from awlmark.core.wire.tell_ends import tell_fill, tell_jam, tell_notes, tell_receptacles
from awlmark.core.wire.teller import Teller
from awlmark.core.wire.terminals import tell_lugs
from awlmark.core.wire.unit import tell_unit


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
