"""What comes along with each way to connect the charger."""

from __future__ import annotations

from typing import Final

from awlmark.core.run.line import WET
from awlmark.core.solve.design import Design

PLUG_IN: Final = ("5-15", "5-20")
FORKS: Final = ("14-50", "6-50")
"""Receptacles the line's end is compared with; common practice."""
HEAVY: Final = (*FORKS, "14-60")


def connection_notes(design: Design, connection: str, gfci: bool) -> tuple[str, ...]:
    """What comes along with a connection; common practice but for the clauses named."""
    wet = design.line.end_place in WET
    if connection == "hardwired":
        told = [
            "no contacts to wear",
            f"its setting counts once nobody can raise it ({design.book.clause('charger_load')})",
        ]
        return tuple([*told, "ground-fault breaker by edition and place"] if gfci else told)
    told = [
        "EV-duty receptacle with a torque on its label, not the ordinary grade" if connection in HEAVY else "light duty"
    ]
    if connection in PLUG_IN:
        told = ["only for a night's small need; ordinary receptacles soften at hours of full load"]
    told.append("the plug on the cord must fit it: no adapter, no extension")
    if wet:
        told.append(f"cover that keeps weather out with the plug in ({design.book.clause('weather_cover')})")
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
