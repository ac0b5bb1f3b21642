"""Duties beside the sizes: disconnects, marks on conductors, insulating bushings."""

from __future__ import annotations

from typing import Final

from awlmark.core.finding import HOLDS, NOTE, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import SYSTEMS
from awlmark.core.wire.teller import Teller

DISCONNECT_A: Final = 60.0
DISCONNECT_V: Final = 150.0
"""Above either a lockable disconnect is wanted, 625.43."""
BUSHING_FROM: Final = "4"
"""From here on a raceway that enters an enclosure wants a smoothly rounded insulating fitting, 300.4(G)."""


def tell_duties(t: Teller) -> list[Finding]:
    """What the chosen circuit asks for besides its parts' ratings."""
    found = []
    charger, book = t.case.job.charger, t.book
    rated = max(charger.nameplate_a or 0.0, t.case.charge_a)
    to_ground = SYSTEMS[t.case.job.supply.system][1]
    if (rated > DISCONNECT_A or to_ground > DISCONNECT_V) and not charger.disconnect:
        fixes = (Fix("A lockable disconnect in sight", (Put("charger.disconnect", True),)),)
        text = f"A unit of {rated:g} A wants a lockable disconnect within easy reach."
        found.append(Finding("disconnect", NOTE, "Disconnect", text, f"{book.title} 625.43", where="charger",
                             at_m=t.case.line.length_m, fixes=fixes))  # fmt: skip
    if charger.separate and not charger.disconnect:
        fixes = (Fix("A disconnect where it arrives", (Put("charger.disconnect", True),)),)
        text = "A post or an outbuilding is a structure of its own: a disconnect stands where the circuit arrives."
        found.append(Finding("structure", NOTE, "Separate structure", text, f"{book.title} 225.31", where="charger",
                             at_m=t.case.line.length_m, fixes=fixes))  # fmt: skip
    raceway = any(not section.method.cable for section in t.case.sections)
    if raceway and book.sizes.index(t.size) >= book.sizes.index(BUSHING_FROM):
        text = "From 4 AWG the raceway's end wants a smooth insulating bushing before the wire is pulled."
        found.append(Finding("bushing", HOLDS, "Bushings", text, f"{book.title} 300.4(G)", where="panel", at_m=0.0))
    cabled = any(section.method.cable for section in t.case.sections)
    if cabled and t.case.hots == 2 and not t.case.neutral:
        text = "The cable's white wire is a hot here: mark it black or red for good, at both ends."
        found.append(Finding("white", HOLDS, "White as a hot", text, f"{book.title} 200.7(C)", where="line"))
    return found
