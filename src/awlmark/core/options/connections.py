"""Outlet or hardwire: every way to connect the charger, each the whole job solved again, with what it brings along."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.circuit.case import CONNECTIONS, CONTINUOUS
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import SETTINGS_A
from awlmark.core.options.fixes import FORK_OUTLETS
from awlmark.core.run.line import WET
from awlmark.core.solve.design import Design, solve

PLUG_IN: Final = ("5-15", "5-20")
HEAVY: Final = (*FORK_OUTLETS, "14-60")


class Way(msgspec.Struct, frozen=True):
    """One way to connect."""

    connection: str
    charge_a: float
    kw: float
    breaker_a: float
    gfci: bool
    neutral: bool
    price: float
    """Difference to the job as it is."""
    priced: bool
    worst: str
    notes: tuple[str, ...]


def advise(design: Design) -> tuple[Way, ...]:
    """Every connection in the table.

    Parameters
    ----------
    design : Design
        Solved job; its nameplate is the most that is asked for.

    Returns
    -------
    tuple of Way
        Hardwired first; nothing while the charging current is unread.
    """
    charge = design.job.charger.nameplate_a
    if design.circuit is None or charge is None:
        return ()
    found = []
    for connection in CONNECTIONS:
        receptacle = design.book.receptacles.get(connection)
        most = charge if receptacle is None else min(charge, receptacle.amps / CONTINUOUS)
        amps = charge if receptacle is None else max((a for a in SETTINGS_A if a <= most + 1e-9), default=None)
        if amps is None:
            continue
        edits = [Put("charger.connection", connection), Put("charger.nameplate_a", amps)]
        if receptacle is not None:
            edits += [Put("charger.setting_a", None), Put("charger.setting_restricted", False)]
        after = solve(put(design.job, *edits))
        circuit = after.circuit
        if circuit is None:
            continue
        found.append(
            Way(
                connection=connection,
                charge_a=amps,
                kw=round(amps * circuit.volts / 1000, 2),
                breaker_a=circuit.breaker_a,
                gfci=circuit.gfci,
                neutral=circuit.neutral,
                price=round(after.cost - design.cost, 2),
                priced=after.unpriced <= design.unpriced,
                worst=after.verdict,
                notes=_notes(design, connection, circuit.gfci),
            )
        )
    return tuple(found)


def _notes(design: Design, connection: str, gfci: bool) -> tuple[str, ...]:
    """What comes along with a connection; common practice but for the clauses named."""
    wet = design.line.end_place in WET
    if connection == "hardwired":
        told = ["no contacts to wear", "its setting counts once nobody can raise it (625.42)"]
        return tuple([*told, "ground-fault breaker by edition and place"] if gfci else told)
    told = [
        "EV-duty receptacle with a torque on its label, not the ordinary grade" if connection in HEAVY else "light duty"
    ]
    if connection in PLUG_IN:
        told = ["only for a night's small need; ordinary receptacles soften at hours of full load"]
    told.append("the plug on the cord must fit it: no adapter, no extension")
    if wet:
        told.append("cover that keeps weather out with the plug in (406.9)")
    if connection in HEAVY:
        told.append(
            "deep box and a large plate; ground pin up where the cord leaves downward, down where it leaves upward"
        )
    if connection.startswith("14-"):
        told.append("four wires: the neutral makes a later swap to other equipment possible")
    if connection.startswith("6-"):
        told.append("three wires: a third less copper")
    told.append("wears with every plugging: feel it for heat after an hour, yearly")
    return tuple(told)
