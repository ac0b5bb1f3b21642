"""The charging unit itself: what its label and its instructions say, its plug, who may raise it, what could hit it."""

from __future__ import annotations

from typing import Any, Final

import numpy as np

from awlmark.core.books.nec.edition import nec
from awlmark.core.books.nec.sizing.opening import CONNECTIONS, CONTINUOUS, SMALLEST_BREAKER_A
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.quantities import print_amps
from awlmark.core.run.line import WET

TAKES: Final = {"5-20": ("5-15",), "6-20": ("6-15",)}
"""Plugs that an outlet takes beside its own."""
OPEN_PLACES: Final = ("garage", *WET)
"""Where vehicles move."""
LARGEST_OUTLET_A: Final = 50.0
"""Largest outlet that every text of 625.44 names [A]."""
LIVING_CONNECTIONS: Final = ("5-15", "5-20")


def tell_unit(t: Teller) -> list[Finding]:
    """Everything about the unit but its terminals and its height."""
    return [
        *_own_breaker(t),
        *_setting(t),
        *_plug(t),
        *_marks(t),
        *_exports(t),
        *_weather(t),
        *_arc_fault(t),
        *_guarded(t),
        *_cabinet(t),
    ]


def _about(t: Teller, kind: str, severity: str, title: str, text: str, cite: str, **more: Any) -> Finding:
    return Finding(kind, severity, title, text, cite, where="charger", at_m=t.case.line.length_m, **more)


def _own_breaker(t: Teller) -> list[Finding]:
    """A breaker above the smallest that serves: the unit's instructions name the largest it may stand on (110.3(B))."""
    charger = t.case.job.charger
    rated = max(charger.nameplate_a or 0.0, t.case.charge_a)
    serves = float(t.book.next_rating(np.array([max(CONTINUOUS * rated, SMALLEST_BREAKER_A)]))[0])
    most = charger.most_breaker_a
    if most is not None and t.breaker_a > most + 1e-9:
        text = f"The unit's instructions allow a breaker of {most:g} A at most; this one is {t.breaker_a:g} A."
        fixes = (Fix("Breaker by the rule", (Put("circuit.breaker_a", None),)),)
        cite = t.book.cite("instructions")
        return [_about(t, "unit-breaker", STOP, "The unit's largest breaker", text, cite, found=t.breaker_a,
                       needed=most, unit="A", sense="most", fixes=fixes)]  # fmt: skip
    if most is not None:
        text = f"The unit's instructions allow a breaker up to {most:g} A; this one is {t.breaker_a:g} A."
        cite = t.book.cite("instructions")
        return [_about(t, "unit-breaker", HOLDS, "The unit's largest breaker", text, cite)]
    if t.breaker_a <= serves + 1e-9:
        return []
    text = f"{t.breaker_a:g} A is more than a unit of {rated:g} A needs. How large a breaker do its instructions allow?"
    fixes = (Fix("Breaker by the rule", (Put("circuit.breaker_a", None),)),)
    cite = t.book.cite("instructions")
    return [_about(t, "unit-breaker", UNREAD, "The unit's largest breaker", text, cite, fixes=fixes,
                   ask="unit breaker ")]  # fmt: skip


def _setting(t: Teller) -> list[Finding]:
    """A lower limit that counts: who set it behind its lock, and the label that says so (625.42)."""
    charger = t.case.job.charger
    lowered = charger.setting_a is not None and charger.nameplate_a is not None
    if not lowered or t.case.charge_a >= (charger.nameplate_a or 0.0) - 1e-9:
        return []
    cite = t.book.cite("setting")
    limit = print_amps(t.case.charge_a)
    if not charger.set_by:
        text = f"Who sets the unit to {limit} behind its lock, and when? It stands on the label beside its rating."
        return [_about(t, "set-by", UNREAD, "Who set it", text, cite, ask="set by ", site=True)]
    if not nec(t.book).facts.names_setting:
        text = f"Set to {limit} by {charger.set_by}, locked. The text of 2017 names no adjustable setting: doubtful, "
        text += "your inspector decides."
        return [_about(t, "set-by", TIGHT, "Setting in 2017", text, cite)]
    text = f"Set to {limit} by {charger.set_by}, locked; the label with the limit is on the list."
    return [_about(t, "set-by", HOLDS, "Who set it", text, cite)]


def _plug(t: Teller) -> list[Finding]:
    """The plug on the cord fits the outlet, and the cord is one (400.12)."""
    charger, receptacle = t.case.job.charger, t.case.receptacle
    if receptacle is None:
        return []
    found = []
    config = receptacle.config
    if charger.plug is None or charger.flexible is None:
        text = f"Which plug is on the unit's cord, and is it a flexible cord? The outlet is {config}; no adapter."
        its = (Put("charger.plug", config), Put("charger.flexible", True))
        ask = "plug " if charger.plug is None else "unit cord "
        fixes = (Fix(f"{config} on a flexible cord", its),)
        cite = t.book.cite("plug")
        found.append(_about(t, "plug", UNREAD, "Plug", text, cite, ask=ask, fixes=fixes, site=True))
    elif charger.plug != config and charger.plug not in TAKES.get(config, ()):
        text = f"A {charger.plug} plug does not go into a {config} outlet, and no adapter may stand between."
        ways: tuple[Fix, ...] = ()
        if charger.plug in CONNECTIONS:
            ways = (Fix(f"{charger.plug} outlet", (Put("charger.connection", charger.plug),)),)
        cite = t.book.cite("plug")
        found.append(_about(t, "plug", STOP, "Plug", text, cite, fixes=ways))
    if charger.flexible is False:
        text = "Building cable serves as the unit's cord: it is no flexible cord and works itself open."
        fixes = (Fix("A flexible cord made for it", (Put("charger.flexible", True),)),)
        cite = t.book.cite("cord_kind")
        found.append(_about(t, "cord-kind", STOP, "Cord", text, cite, fixes=fixes))
    return found


def _marks(t: Teller) -> list[Finding]:
    """Listed, and marked for charging without ventilation (625.5 or 625.6, 625.52)."""
    charger = t.case.job.charger
    clause = t.book.cite("unit_marks")
    yes = (Put("charger.listed", True), Put("charger.unvented", True), Put("charger.exports", False))
    if charger.listed is False:
        text = "The unit bears no testing laboratory's mark: it may not be installed."
        return [_about(t, "listed", STOP, "Unit not listed", text, clause)]
    if charger.unvented is False:
        text = "The unit is not marked for charging without ventilation: a fan that starts with it is needed indoors."
        if t.case.line.end_place in WET:
            return [_about(t, "vented", NOTE, "Ventilation", text, clause)]
        return [_about(t, "vented", STOP, "Ventilation", text, clause)]
    if charger.listed and charger.unvented:
        text = "Listed, and marked for charging without ventilation."
        return [_about(t, "listed", HOLDS, "The unit's marks", text, clause)]
    text = "Read the unit's plate: a testing laboratory's mark, 'ventilation not required', no feeding back of power?"
    fixes = (Fix("Listed, unvented, only charges", yes),)
    return [_about(t, "listed", UNREAD, "The unit's marks", text, clause, fixes=fixes, ask="unit listed ", site=True)]


def _exports(t: Teller) -> list[Finding]:
    """A unit that feeds power back is a source (625.48, Articles 702 and 705)."""
    exports = t.case.job.charger.exports
    if exports:
        text = "The unit feeds power back: a source of its own, with its own rules for the bus, transfer and marking."
        text += " They are not worked out here; a licensed electrician does."
        cite = t.book.cite("source")
        return [_about(t, "exports", UNREAD, "Feeds back", text, cite)]
    if exports is None and t.case.job.charger.listed is not None:
        text = "Does the unit feed power back from the car? Then it is a source, with rules of its own."
        fixes = (Fix("It only charges", (Put("charger.exports", False),)),)
        return [
            _about(
                t,
                "exports",
                UNREAD,
                "Feeds back",
                text,
                t.book.cite("exports"),
                fixes=fixes,
                ask="unit exports ",
                site=True,
            )
        ]
    return []


def _weather(t: Teller) -> list[Finding]:
    """Outlet in the weather: its type and its cover; small ones in dwellings with shutters."""
    receptacle = t.case.receptacle
    if receptacle is None:
        return []
    if receptacle.amps > LARGEST_OUTLET_A:
        text = (
            f"A {receptacle.config} for charging: some texts of {t.book.clause('outlet_kind')} end at 50 A. Doubtful, "
            "your inspector decides."
        )
        cite = t.book.cite("outlet_kind")
        return [_about(t, "outlet-kind", TIGHT, "Kind of outlet", text, cite)]
    small = receptacle.amps <= 20
    told = []
    if t.case.line.end_place in WET:
        kind = "weather-resistant, " if small else ""
        told.append(f"{kind}under an extra-duty cover that keeps weather out with the plug in")
    if small and t.case.job.occupancy == "dwelling":
        told.append("with shutters (tamper-resistant)")
    if not told:
        return []
    clauses = t.book.cite("weather_outlet")
    text = f"The {receptacle.config} is {', and '.join(told)}; so it stands on the list."
    return [_about(t, "outlet-kind", HOLDS, "Kind of outlet", text, clauses)]


def _arc_fault(t: Teller) -> list[Finding]:
    """A dwelling's 120 V outlet in a room people live in wants arc-fault protection (210.12)."""
    job = t.case.job
    if job.charger.connection not in LIVING_CONNECTIONS or job.occupancy != "dwelling":
        return []
    if t.case.line.end_place not in ("indoor",):
        return []
    if job.charger.living is None:
        text = "Does this 120 V outlet stand in a room people live in? There its breaker guards against arcs too."
        fixes = (
            Fix("In such a room", (Put("charger.living", True),)),
            Fix("Not in one", (Put("charger.living", False),)),
        )
        cite = t.book.cite("arc_fault")
        return [_about(t, "arc-fault", UNREAD, "Arc-fault protection", text, cite, fixes=fixes, ask="living ",
                       site=True)]  # fmt: skip
    if job.charger.living:
        text = "In a room people live in its breaker guards against arcs and ground faults; so it stands on the list."
        cite = t.book.cite("arc_fault")
        return [_about(t, "arc-fault", NOTE, "Arc-fault protection", text, cite)]
    return []


def _guarded(t: Teller) -> list[Finding]:
    """Kept from vehicles where they move (110.27(B))."""
    guarded = t.case.job.charger.guarded
    if t.case.line.end_place not in OPEN_PLACES or not t.case.line.closed:
        return []
    if guarded is False:
        text = "A car can drive against it: a post, a curb, another wall, or higher up."
        fixes = (Fix("It is kept from cars", (Put("charger.guarded", True),)),)
        return [
            _about(t, "guarded", STOP, "In the way of cars", text, t.book.cite("guarded"), stage="place", fixes=fixes)
        ]
    if guarded is None:
        text = "Can a car drive against the charger? A post, a curb or its height keeps it away."
        fixes = (Fix("It is kept from cars", (Put("charger.guarded", True),)),)
        cite = t.book.cite("guarded")
        return [_about(t, "guarded", UNREAD, "In the way of cars", text, cite, stage="place", fixes=fixes,
                       ask="unit guarded ", site=True)]  # fmt: skip
    return []


def _cabinet(t: Teller) -> list[Finding]:
    """A metal cabinet round the unit is bonded, lets heat out and keeps rain off."""
    if not t.case.job.charger.cabinet:
        return []
    text = "The metal cabinet is joined to the ground, lets the unit's heat out, and stands the weather it is in."
    cite = t.book.cite("cabinet")
    return [_about(t, "cabinet", NOTE, "Cabinet", text, cite, stage="place")]
