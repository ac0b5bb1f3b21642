"""What readings point at."""

from __future__ import annotations

import msgspec


class Meaning(msgspec.Struct, frozen=True):
    """What readings point at."""

    severity: str
    title: str
    text: str
    do: str = ""
    """What to do next."""
