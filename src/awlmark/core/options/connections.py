"""Outlet or hardwire: every way to connect the charger, each the whole job solved again, with what it brings along."""

from __future__ import annotations

import msgspec

from awlmark.core.job.edit import Put, put
from awlmark.core.solve.design import Design, solve


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
    for connection in design.book.circuit.connections:
        receptacle = design.book.receptacles.get(connection)
        most = charge if receptacle is None else min(charge, receptacle.amps / design.book.circuit.load_share)
        steps = design.book.circuit.settings_a
        amps = charge if receptacle is None else max((a for a in steps if a <= most + 1e-9), default=None)
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
                notes=design.book.goods.connection_notes(design, connection, circuit.gfci),
            )
        )
    return tuple(found)
