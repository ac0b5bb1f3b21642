"""One step of the work."""

from __future__ import annotations

import msgspec


class Step(msgspec.Struct, frozen=True):
    """One step."""

    id: str
    session: str
    title: str
    text: str
    """What to do, and why where that is not plain."""
    at_m: float
    """Its mark on the tape [m]."""
    hours: float = 0.0
    hands: int = 1
    tools: tuple[str, ...] = ()
    electrician: bool = False
    """Always theirs: it is done at or in the panel."""
