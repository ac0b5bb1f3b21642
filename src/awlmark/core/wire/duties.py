"""Duties beside the sizes: disconnects, marks on conductors, insulating bushings."""

from __future__ import annotations

from typing import Final

from awlmark.core.book.tables import number, printed
from awlmark.core.finding import HOLDS, NOTE, STOP, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.quantities import print_gauge, print_length
from awlmark.core.wire.case import METAL_GROUNDS
from awlmark.core.wire.teller import Teller

DISCONNECT_A: Final = 60.0
DISCONNECT_V: Final = 150.0
"""Above either a lockable disconnect is wanted, 625.43."""
BUSHING_FROM: Final = "4"
"""From here on a raceway that enters an enclosure wants a smoothly rounded insulating fitting, 300.4(G)."""


def fallback_torque(size: str) -> float | None:
    """Torque for a slotted lug of a gauge where no label tells it [lbf-in], Annex I, Table I.1; None beyond it."""
    for row in printed("torque_annex_i").rows:
        if row["table"] != "I.1" or "over 0.047" not in row["description"]:
            continue
        low, _, high = row["size_or_screw"].removesuffix(" AWG").removesuffix(" kcmil").partition("-")
        ends = [_order(low), _order(high or low)]
        if min(ends) <= _order(size) <= max(ends):
            return number(row["torque_lbf_in"])
    return None


def _order(size: str) -> float:
    """Gauges in the order of their thickness."""
    if "/" in size:
        return float(size.split("/")[0])
    value = float(size)
    return value if value > 100 else 1 - value


def tell_lugs(t: Teller) -> list[Finding]:
    """Both ends' terminals: gauge range, metal, torque."""
    found = []
    job, book = t.case.job, t.book
    for end, lug, at_m in (("panel", job.supply.lug, 0.0), ("charger", job.charger.lug, t.case.line.length_m)):
        cite = f"{book.title} 110.14"
        metal = "cu" if end == "charger" and job.circuit.copper_tail else t.metal
        if lug.copper_only and metal == "al":
            opened = ("size", "ground_size", "insulation")
            edits = (Put("circuit.material", "cu"), *(Put(f"circuit.{field}", None) for field in opened))
            fixes = [Fix("Copper all the way", edits)]
            if end == "charger":
                fixes.append(Fix("Splice to a copper tail", (Put("circuit.copper_tail", True),)))
            text = f"The {end}'s terminals take copper only; aluminium works loose and burns in them."
            found.append(
                Finding(
                    f"lug:{end}", STOP, "Copper-only terminal", text, cite, where=end, at_m=at_m, fixes=tuple(fixes)
                )
            )
            continue
        sizes = book.sizes
        below = lug.least is not None and sizes.index(t.size) < sizes.index(lug.least)
        above = lug.most is not None and sizes.index(t.size) > sizes.index(lug.most)
        if below or above:
            limit = print_gauge(str(lug.least if below else lug.most))
            which = "small" if below else "large"
            text = f"{print_gauge(t.size)} is too {which} for the {end}'s terminals, which take {limit}."
            pin = Fix(limit, (Put("circuit.size", lug.least if below else lug.most),))
            found.append(Finding(f"lug:{end}", STOP, "Lug range", text, cite, where=end, at_m=at_m, fixes=(pin,)))
            continue
        if lug.torque_lbf_in is not None:
            text = f"Tighten the {end}'s terminals to {lug.torque_lbf_in:g} lbf-in, as their label says."
        else:
            fallback = fallback_torque(t.size)
            rest = f" Where none is marked, Annex I gives {fallback:g} lbf-in." if fallback else ""
            text = f"Torque of the {end}'s terminals: read it off the part, the label wins.{rest}"
        if lug.strip_m is not None:
            text += f" Strip {print_length(lug.strip_m, job.units)}."
        found.append(Finding(f"lug:{end}", HOLDS, "Terminal", text, f"{book.title} 110.14(D)", where=end, at_m=at_m))
    if job.circuit.copper_tail and t.metal == "al":
        text = "Aluminium ends in a splice box listed for both metals, with compound; copper goes on to the charger."
        found.append(Finding("tail", NOTE, "Copper tail", text, f"{book.title} 110.14(B)", where="charger"))
    return found


def tell_duties(t: Teller) -> list[Finding]:
    """What the chosen circuit asks for besides its parts' ratings."""
    found = []
    charger, book = t.case.job.charger, t.book
    if t.case.job.circuit.raceway_ground and not t.case.raceway_ground:
        plain = next((section for section in t.case.sections if section.method.key not in METAL_GROUNDS), None)
        name = plain.method.name if plain else "the run"
        fixes = (Fix("Pull a wire ground", (Put("circuit.raceway_ground", False),)),)
        text = f"{name} is no ground: the raceway serves only where it is metal all the way. A wire is pulled."
        found.append(Finding("raceway-ground", NOTE, "Raceway as ground", text, f"{book.title} 250.118",
                             where="line", fixes=fixes))  # fmt: skip
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
