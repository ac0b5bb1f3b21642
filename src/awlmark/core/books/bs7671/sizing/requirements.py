"""What a charging circuit must have beside its conductors: outlet, residual device, an answer to a lost PEN, breaking
capacity, terminals, a place its cable is made for; and what nobody has told."""

from __future__ import annotations

import math
from typing import Final

from awlmark.core.books.book import NO
from awlmark.core.books.bs7671.edition import U0, volts_limit
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.earth_fault import earthing, usual_ze
from awlmark.core.books.bs7671.sizing.opening import EV13, FIXED, MODE_3, charge_most_a, rated_a, terminal_c
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.run.line import INSIDE

EV13_DEVICE_A: Final = 32.0
"""Largest device before a 13 A outlet: its plug has a fuse of its own [A]."""
HIGHEST: Final = volts_limit("Cmin and Cmax")
LOST_PEN_V: Final = volts_limit("touch voltage at a lost PEN")
BLIND: Final = ("ac", "s")
"""Residual devices that may not guard a charging point."""


def tell_socket(t: Teller) -> list[Finding]:
    """What the circuit ends in (722.55.101)."""
    connection, case = t.case.job.charger.connection, t.case
    most, device = charge_most_a(connection), EV13_DEVICE_A if connection == EV13 else rated_a(connection)
    if connection == FIXED:
        text = "Does the unit have a lead of its own, or an outlet for the driver's lead?"
        return [
            Finding("socket", UNREAD, "Lead or socket-outlet", text, t.book.cite("socket"), where="charger",
                    ask="tethered", site=True)
        ]  # fmt: skip
    if connection in MODE_3:
        return []
    over = case.charge_a > most + 1e-9 or t.breaker_a > device + 1e-9
    text = f"{connection} is good for {most:g} A of steady charging behind a device of up to {device:g} A."
    fixes: tuple[Fix, ...] = ()
    if over:
        text += f" Here {case.charge_a:g} A and {t.breaker_a:g} A."
        fixes = (Fix("Charge point with its own lead", (Put("charger.connection", "tethered"),)),)
    return [
        Finding("socket", STOP if over else HOLDS, "Socket-outlet", text, t.book.cite("socket"), found=case.charge_a,
                needed=most, unit="A", sense="most", where="charger", fixes=fixes)
    ]  # fmt: skip


def tell_residual(t: Teller) -> list[Finding]:
    """30 mA, type A at least, all live conductors; and direct current where the plug is of mode 3."""
    charger, there = t.case.job.charger, t.case.job.circuit.residual
    poles = t.case.poles
    text = f"30 mA, type {wanted_type(t)}, {poles}-pole, for this point alone."
    severity, fixes, ask, site = HOLDS, list[Fix](), "", False
    if there in BLIND:
        severity, text = STOP, f"Type {there.upper()} may not guard a charging point."
        fixes.append(Fix("Type A", (Put("circuit.residual", "a"),)))
    elif charger.connection in MODE_3 and wanted_type(t) != "B":
        if charger.dc_6ma is None:
            severity, ask, site = UNREAD, "dc in unit", True
            text += " Does the unit detect 6 mA of smooth direct current itself? If not: type B."
        elif not charger.dc_6ma:
            severity, text = STOP, text + " The unit detects no direct current: it has to be type B."
            fixes.append(Fix("Type B", (Put("circuit.residual", "b"),)))
        else:
            text += " The unit detects 6 mA of direct current."
    return [
        Finding("rcd", severity, "Residual device", text, t.book.cite("rcd"), where="panel", fixes=tuple(fixes),
                ask=ask, site=site)
    ]  # fmt: skip


def wanted_type(t: Teller) -> str:
    """Type of the residual device of a row."""
    return residual_type(t.case.job)


def residual_type(job: Job) -> str:
    """Type of the residual device: what is there, B where the unit detects no direct current, else A."""
    charger, there = job.charger, job.circuit.residual
    if there is not None:
        return there.upper()
    return "B" if charger.connection in MODE_3 and charger.dc_6ma is False else "A"


def tell_pen(t: Teller) -> list[Finding]:
    """A lost PEN of the supply where a car is charged outdoors (722.411.4.1)."""
    job, three = t.case.job, t.case.hots == 3
    if job.supply.earthing == "tn-s" and job.charger.pen is None:
        text = "A TN-S supply may be PME further up: ask the distributor. Then it wants an answer to a lost PEN."
        return [
            Finding("pme", UNREAD, "Lost PEN", text, t.book.cite("pme"), where="panel", ask="pen ", site=True)
        ]  # fmt: skip
    if job.supply.earthing == "tt":
        return []
    if job.supply.earthing is None:
        text = "How is the supply earthed: tn-c-s (PME), tn-s or tt?"
        return [Finding("pme", UNREAD, "Earthing", text, t.book.cite("earthing"), where="panel", ask="pme")]
    answer, cite = job.charger.pen, t.book.cite("pme")
    severity, text, ask = HOLDS, f"{t.book.clause('pme')} ({answer}) is the answer to a lost PEN.", ""
    fixes: list[Fix] = []
    if answer is None:
        severity, ask = UNREAD, "pen "
        text = "Can a car be charged outdoors? A PME earth wants an answer to a lost PEN: i to v, island, or indoors."
    elif answer == "none":
        severity, text = STOP, "A PME earth outdoors without an answer to a lost PEN."
    elif answer == "iv" and three:
        severity, text = STOP, "(iv) watches one phase only; this point has three."
    elif answer == "i" and not three:
        severity, text = STOP, "(i) is for a three-phase installation."
    elif answer == "ii":
        most = electrode_ohm(t.case.charge_a)
        ohm = job.supply.ra_ohm
        text = f"(ii) asks for an electrode of {most:.1f} ohm or less at {t.case.charge_a:g} A."
        severity = UNREAD if ohm is None else HOLDS if ohm <= most else STOP
        ask = "ra " if ohm is None else ""
    elif answer == "island":
        text = "The point has an earth of its own (TT); no metal of the PME earth within reach, about 2 m."
    elif answer == "indoors":
        text = "No car is charged outdoors from it."
    if severity == STOP:
        best = "v" if three else "iv"
        fixes.append(Fix(f"({best}) in the unit", (Put("charger.pen", best),)))
    return [
        Finding("pme", severity, "Lost PEN", text, cite, where="charger", fixes=tuple(fixes), ask=ask)
    ]  # fmt: skip


def electrode_ohm(charge_a: float) -> float:
    """Electrode that keeps a lost PEN below 70 V at one charging current: 70 U0 / (I (1.1 U0 - 70)) [ohm]."""
    return LOST_PEN_V * U0 / (charge_a * (HIGHEST * U0 - LOST_PEN_V)) if charge_a > 0 else math.inf


def tell_supply(t: Teller) -> list[Finding]:
    """Ze that nobody has told, and fault current against the device's breaking capacity."""
    supply, charger = t.case.job.supply, t.case.job.charger
    found = []
    system = earthing(charger.pen, supply.earthing)
    if system in ("tn-c-s", "tn-s") and supply.ze_ohm is None:
        text = f"Ze is taken at the usual greatest {usual_ze(system):g} ohm: ask the distributor, or measure it."
        found.append(
            Finding("ze", UNREAD, "Ze not told", text, t.book.cite("earthing"), where="panel", ask="ze ", site=True)
        )
    cite = t.book.cite("fault_current")
    if supply.fault_a is None or supply.breaks_a is None:
        text = "Prospective fault current at the board, and the breaking capacity of the device?"
        found.append(
            Finding("kA", UNREAD, "Fault current", text, cite, where="panel", ask="pfc ", site=True)
        )  # fmt: skip
    else:
        over = supply.fault_a > supply.breaks_a
        text = f"{supply.fault_a / 1000:g} kA against {supply.breaks_a / 1000:g} kA that the device breaks."
        found.append(
            Finding("kA", STOP if over else HOLDS, "Fault current", text, cite, found=supply.fault_a,
                    needed=supply.breaks_a, unit="A", sense="most", where="panel")
        )  # fmt: skip
    return found


def tell_terminals(t: Teller) -> list[Finding]:
    """The temperature the conductor is counted at (512.1.5)."""
    marked = terminal_c(t.case)
    told = t.case.job.supply.terminal_c, t.case.job.charger.terminal_c
    text = f"Counted at {marked} C, as both ends are marked." if None not in told else (
        "Counted at 70 C, which every device takes; 90 C only where both ends are marked for it."
    )  # fmt: skip
    return [Finding("terminals", HOLDS, "Terminals", text, t.book.cite("terminals"), needed=marked, unit="C")]


def tell_places(t: Teller) -> list[Finding]:
    """Cable where it is not made for, and circuits beside it that nobody has counted."""
    found = []
    for section in t.case.sections:
        for walked in section.legs:
            where = walked.place
            may = (
                section.method.buried if where == "buried"
                else section.method.outdoors if where not in INSIDE else indoors(section.method.key)
            )  # fmt: skip
            if may == NO:
                text = f"{section.method.name.capitalize()} is not for a leg that is {where}."
                severity = STOP if where == "buried" else TIGHT
                found.append(
                    Finding("place", severity, "Not for this place", text, t.book.cite("place"),
                            at_m=walked.start_m, where=walked.leg.id, stage="run")
                )  # fmt: skip
                break
    uncounted = [walked for section in t.case.sections for walked in section.legs if walked.leg.beside is None]
    if uncounted:
        text = f"How many loaded circuits lie beside leg {uncounted[0].number}? Each warms the others."
        found.append(
            Finding("beside", UNREAD, "Neighbours", text, t.book.cite("grouping"), at_m=uncounted[0].start_m,
                    where=uncounted[0].leg.id, ask=f"leg {uncounted[0].number} beside ", site=True)
        )  # fmt: skip
    return found


def indoors(method: str) -> str:
    """Whether a method may run inside."""
    return next(row["indoors"] for row in printed("wiring_methods").rows if row["method"] == method)


def tell_existing(t: Teller) -> list[Finding]:
    """A device that is there already has a type of its own, on which its loop hangs."""
    if t.case.job.existing.breaker is None or t.case.job.circuit.device is not None:
        return []
    text = "Of what type is the device that is there: b, c, d or a fuse? It is counted as type B so far."
    return [
        Finding("device", UNREAD, "Type of the device", text, t.book.cite("zs"), where="panel", ask="device ")
    ]  # fmt: skip


def tell_own(t: Teller) -> list[Finding]:
    """Every point has a final circuit of its own (722.533.101): asked of one that is there, never a ring."""
    job = t.case.job
    there = job.existing.breaker is not None or any(walked.leg.reused for walked in t.case.line.legs)
    own, cite = job.circuit.own, t.book.cite("own_circuit")
    if own is None and not there:
        return []
    if own is None:
        text = "Does the circuit that is there feed this point alone, or is it a ring or shared with sockets?"
        return [Finding("own", UNREAD, "A circuit of its own", text, cite, where="panel", ask="own ", site=True)]
    if own:
        return [Finding("own", HOLDS, "A circuit of its own", "The circuit feeds this point alone.", cite,
                        where="panel")]  # fmt: skip
    text = "A ring or a circuit shared with sockets may not charge a car: every point has a circuit of its own."
    fixes = (Fix("A new circuit", (Put("circuit.own", True), Put("existing.breaker", None))),)
    return [Finding("own", STOP, "Shared circuit", text, cite, where="panel", fixes=fixes)]


def tell_extension(t: Teller) -> list[Finding]:
    """No portable outlet, so no extension lead, where the driver brings a lead with a plug of its own (722.55.101)."""
    charger, cite = t.case.job.charger, t.book.cite("socket")
    if charger.extension:
        text = "An extension lead coils, heats, and has no residual device of its own: the outlet stands where the "
        text += "car's own lead reaches it."
        fixes = (Fix("No extension lead", (Put("charger.extension", False),)),)
        return [Finding("extension", STOP, "Extension lead", text, cite, where="charger", fixes=fixes)]
    if charger.connection in MODE_3 or charger.extension is False:
        return []
    text = "Does the car's own lead reach without an extension?"
    return [
        Finding("extension", UNREAD, "Extension lead", text, cite, where="charger", ask="extension ", site=True)
    ]  # fmt: skip


def requirements(t: Teller) -> list[Finding]:
    """All of them."""
    rules = (
        tell_existing,
        tell_own,
        tell_socket,
        tell_extension,
        tell_residual,
        tell_pen,
        tell_supply,
        tell_terminals,
        tell_places,
    )
    return [finding for rule in rules for finding in rule(t)]
