"""Duties beside the sizes: disconnects, marks on conductors, insulating bushings."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.nec.edition import nec
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.run.line import INSIDE, WET
from awlmark.core.run.trench import buried

DISCONNECT_A: Final = 60.0
DISCONNECT_V: Final = 150.0
"""Above either a lockable disconnect is wanted, 625.43."""
BUSHING_FROM: Final = "4"
"""From here on a raceway that enters an enclosure wants a smoothly rounded insulating fitting, 300.4(G)."""


def tell_duties(t: Teller) -> list[Finding]:
    """What the chosen circuit asks for besides its parts' ratings."""
    found = []
    book = t.book
    if t.case.job.circuit.raceway_ground and not t.case.raceway_ground:
        plain = next((section for section in t.case.sections if not section.method.ground_path), None)
        name = plain.method.name if plain else "the run"
        fixes = (Fix("Pull a wire ground", (Put("circuit.raceway_ground", False),)),)
        text = f"{name} is no ground: the raceway serves only where it is metal all the way. A wire is pulled."
        found.append(Finding("raceway-ground", NOTE, "Raceway as ground", text, book.cite("raceway_ground"),
                             where="line", fixes=fixes))  # fmt: skip
    found += _disconnect(t)
    found += _structure(t)
    found += _aluminium_ground(t)
    found += _corrosion(t)
    raceway = any(not section.method.cable for section in t.case.sections)
    if raceway and book.sizes.index(t.size) >= book.sizes.index(BUSHING_FROM):
        text = "From 4 AWG the raceway's end wants a smooth insulating bushing before the wire is pulled."
        found.append(Finding("bushing", HOLDS, "Bushings", text, book.cite("bushing"), where="panel", at_m=0.0))
    cabled = any(section.method.cable for section in t.case.sections)
    if cabled and t.case.hots == 2 and not t.case.neutral:
        text = "The cable's white wire is a hot here: mark it black or red for good, at both ends."
        found.append(Finding("white", HOLDS, "White as a hot", text, book.cite("white"), where="line"))
    return found


def _disconnect(t: Teller) -> list[Finding]:
    """A lockable disconnect above 60 A or 150 V to ground (625.43); a plaque where it is out of sight, from 2020."""
    charger, book = t.case.job.charger, t.book
    rated = max(charger.nameplate_a or 0.0, t.case.charge_a)
    to_ground = SYSTEMS[t.case.job.supply.system][1]
    if rated <= DISCONNECT_A and to_ground <= DISCONNECT_V:
        return []
    cite, at_m = book.cite("disconnect"), t.case.line.length_m
    plaque = "" if not nec(book).facts.plaque else " Out of sight of the unit a plaque there says where it is."
    if charger.disconnect:
        text = f"A lockable disconnect serves the unit of {rated:g} A; it is on the list.{plaque}"
        return [Finding("disconnect", HOLDS, "Disconnect", text, cite, where="charger", at_m=at_m)]
    fixes = (Fix("A lockable disconnect within reach", (Put("charger.disconnect", True),)),)
    text = f"A unit of {rated:g} A must have a lockable disconnect within easy reach."
    severity = UNREAD if charger.disconnect is None else STOP
    text += " Is there one?" if severity == UNREAD else ""
    return [Finding("disconnect", severity, "Disconnect", text, cite, where="charger", at_m=at_m, fixes=fixes,
                    ask="disconnect ")]  # fmt: skip


def _structure(t: Teller) -> list[Finding]:
    """A second structure, which has a disconnect where the circuit arrives (225.31); a bare post is read both ways."""
    charger, book, line = t.case.job.charger, t.book, t.case.line
    told = {"where": "charger", "at_m": line.length_m}
    cite = book.cite("building")
    post = bool(line.legs) and line.legs[-1].leg.end == "post"
    post = post or any(pin.fixing == "post" for pin in t.case.job.site.pins if pin.id == t.case.job.site.pin)
    fixes = (Fix("A disconnect where it arrives", (Put("charger.disconnect", True),)),)
    if charger.separate:
        if charger.disconnect:
            text = "The circuit ends on another structure; a disconnect stands where it arrives."
            return [Finding("structure", HOLDS, "Second structure", text, cite, **told)]  # type: ignore[arg-type]
        text = "The circuit ends on another structure: a disconnect must stand where it arrives."
        severity = UNREAD if charger.disconnect is None else STOP
        text += " Is there one?" if severity == UNREAD else ""
        return [Finding("structure", severity, "Second structure", text, cite, fixes=fixes, ask="disconnect ",
                        **told)]  # type: ignore[arg-type]  # fmt: skip
    under = any(buried(walked) for walked in line.legs)
    again = any(walked.place in WET for walked in line.legs) and line.end_place in INSIDE
    outside = under or again
    if charger.separate is None and outside:
        text = "Does the line end at another building than it begins? That wants a disconnect where it arrives."
        text += " A bare post or pedestal is read both ways."
        ways = (
            Fix("Another building", (Put("charger.separate", True),)),
            Fix("The same building, or a bare post", (Put("charger.separate", False),)),
        )
        return [Finding("structure", UNREAD, "Second structure", text, cite, fixes=ways, ask="separate ", site=True,
                        **told)]  # type: ignore[arg-type]  # fmt: skip
    if post and not charger.disconnect:
        text = "A bare post that carries equipment: some read it as a structure of its own, which wants a disconnect."
        return [Finding("structure", NOTE, "On a post", text, cite, fixes=fixes, **told)]  # type: ignore[arg-type]
    return []


def _aluminium_ground(t: Teller) -> list[Finding]:
    """An aluminium ground outdoors or underground: insulated, and landed 18 in above the earth (250.120(B))."""
    spots = [section for section in t.case.sections if section.wet]
    if t.metal != "al" or t.case.raceway_ground or not spots:
        return []
    text = (
        "An aluminium ground outdoors or underground: never bare, and no end of it within 18 in of the earth. "
        "Some read that as copper only; your inspector decides."
    )
    fixes = (t.copper(),)
    return [Finding("al-ground", TIGHT, "Aluminium ground outdoors", text, t.book.cite("al_ground"),
                    where=spots[0].legs[0].leg.id, at_m=spots[0].start_m, fixes=fixes)]  # fmt: skip


def _corrosion(t: Teller) -> list[Finding]:
    """Metal pipe in the earth keeps only with a coating that suits the soil (300.6)."""
    found = []
    for section in t.case.sections:
        if section.buried and section.method.rusts:
            text = f"{section.method.name} in the earth rusts: wrapped or coated where the soil asks for it."
            article = section.method.place_cite.split(".")[0]
            found.append(Finding(f"rust:{section.number + 1}", NOTE, "Steel in the earth", text,
                                 f"{t.book.cite('rust')}, {article}.10", where=section.legs[0].leg.id,
                                 at_m=section.start_m))  # fmt: skip
    return found
