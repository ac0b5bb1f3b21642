"""What a book shows of a circuit beyond its checks: amps cut down section by section, the chain in short, curves
along the run, and cables cut through."""

from __future__ import annotations

import msgspec


class Cut(msgspec.Struct, frozen=True):
    """One size on one section: what it carries by the table, each factor, what is left."""

    size: str
    where: str
    """The section in a few words."""
    full_a: float
    factors: tuple[tuple[str, float], ...]
    """Name and value; NaN where one is unread."""
    left_a: float
    """NaN where a factor is unread."""
    needed_a: float
    severity: str
    chosen: bool
    """Whether it is the circuit's own size."""


class Card(msgspec.Struct, frozen=True):
    """One way to run a section, with what its sizes carry there."""

    method: str
    name: str
    scope: str
    """Where it would lie, in a few words."""
    chosen: bool
    sizes: tuple[tuple[str, float, str], ...]
    """Size, what it carries on its worst section [A], severity."""


class Chip(msgspec.Struct, frozen=True):
    """One link of the chain in a few letters."""

    text: str
    finding: str


class Face(msgspec.Struct, frozen=True):
    """A quantity along the run."""

    key: str
    name: str
    unit: str
    points: tuple[tuple[float, float], ...]
    """Places on the tape [m] and values."""
    limits: tuple[tuple[float, str, str], ...]
    """Value, word, severity."""
    told: str
    """How it grows, in a few words."""


class Outline(msgspec.Struct, frozen=True):
    """A cable cut through."""

    wide_mm: float
    high_mm: float
    """Less than the width where it is flat."""
    armoured: bool
    known: bool
    """Whether the outside is read off a table; else drawn from its cores."""
