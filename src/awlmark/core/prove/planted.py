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
    earthings: tuple[str, ...] = ()
    """Kinds of earthing that can have it (:data:`network.PEN` and the like); empty for every one."""
    seen: str = ""
    """What the eye finds, where no meter does."""


def _lettered(faults: Faults, circuit: CircuitNetwork) -> Faults:
    """Faults of a line, on the first line of a circuit whose lines have other letters."""
    first, known = circuit.lines[0], (*circuit.source.letters, "N", circuit.source.earth)

    def wire(letter: str) -> str:
        return letter if letter in known else first

    def point(name: str) -> str:
        end, _, letter = name.rpartition(" ")
        return f"{end} {wire(letter)}"

    crossed = None if faults.crossed is None else (wire(faults.crossed[0]), wire(faults.crossed[1]))
    return msgspec.structs.replace(
        faults, crossed=crossed, open_at=tuple(point(name) for name in faults.open_at),
        loose_ohm={point(name): ohms for name, ohms in faults.loose_ohm.items()},
    )  # fmt: skip


def applicable(book: Book, circuit: CircuitNetwork | None) -> tuple[Planted, ...]:
    """The faults of the bench that a meter shows on a circuit: one with a single line has no second to misplace."""
    if circuit is None:
        return ()
    rules = book.prove
    joined = [
        each for each in rules.planted
        if not each.seen
        and (circuit.ground or each.key != "ground open")
        and (not each.earthings or circuit.source.earthing in each.earthings)
    ]  # fmt: skip
    joined = [msgspec.structs.replace(each, faults=_lettered(each.faults, circuit)) for each in joined]
    if circuit.hots >= len(circuit.source.letters):
        return tuple(joined)
    kept = [rules.single.get(each.key, each) for each in joined]
    return tuple(each for each in kept if each is not None)
