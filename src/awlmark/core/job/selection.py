"""What the user points at while typing."""

from __future__ import annotations

import msgspec


class Spot(msgspec.Struct, frozen=True):
    """What the awl and the list point at when something is typed."""

    leg_id: str | None = None
    section_legs: tuple[str, ...] = ()
    part_key: str | None = None
    finding_id: str | None = None
    finding_text: str | None = None
    """What the finding in hand says, where it is a note."""
    car: int = 0
    """Place of the car whose day is shown."""
