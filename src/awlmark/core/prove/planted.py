"""Faults of the practice bench, as a book names them, and which of them a circuit can have."""

from __future__ import annotations

import msgspec

from awlmark.core.books import Book
from awlmark.core.prove.network import HEALTHY, CircuitNetwork, Faults


class Planted(msgspec.Struct, frozen=True):
    """One fault, and what gives it away."""

    key: str
    name: str
    why: str
    """What it does, and which reading tells."""
    level: int
    faults: Faults = HEALTHY
    seen: str = ""
    """What the eye finds, where no meter does."""


def applicable(book: Book, circuit: CircuitNetwork | None) -> tuple[Planted, ...]:
    """The faults of the bench that a meter shows on a circuit: one with a single line has no second to misplace."""
    if circuit is None:
        return ()
    rules = book.prove
    joined = [each for each in rules.planted if not each.seen and (circuit.ground or each.key != "ground open")]
    if circuit.hots == 2:
        return tuple(joined)
    kept = [rules.single.get(each.key, each) for each in joined]
    return tuple(each for each in kept if each is not None)
