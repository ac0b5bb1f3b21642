"""The feeder behind a sub-panel: its wire against its breaker, its ground, and the building it reaches."""

from __future__ import annotations

from typing import Any, Final

import numpy as np

from awlmark.core.books.nec.edition import COLUMNS_C, NecBook, nec
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS, Job
from awlmark.core.job.supply import RACEWAY, Board
from awlmark.core.names import METAL_NAMES
from awlmark.core.panel.bus import Supplied, path_of
from awlmark.core.quantities import print_amps, print_gauge

LARGE_A: Final = 100.0
"""Terminals above this are 75 C ones without a marking, 110.14(C)."""
OUTBUILDING_A: Final = 60.0
"""Least disconnect of a building with more than two circuits, 225.39(D) [A]."""


def feeder_findings(supplied: Supplied) -> list[Finding]:
    """Every feeder between the service and the circuit's own panel."""
    job, book = supplied.job, nec(supplied.book)
    found: list[Finding] = []
    for board_id in reversed(path_of(job, job.supply.board)):
        board = next(board for board in job.boards if board.id == board_id)
        found += _wire(job, board, book)
        found += _ground(board, book)
        found += _building(board, book)
    return found


def _about(board: Board, kind: str, severity: str, title: str, text: str, cite: str, **more: Any) -> Finding:
    return Finding(f"{kind}:{board.id}", severity, title, text, cite, where="panel", at_m=0.0, stage="panel", **more)


def carries(board: Board, book: NecBook, column_c: int) -> float:
    """Ampacity of a feeder's conductors in one terminal column [A]; 0 while its gauge is unread."""
    if board.feeder_size is None:
        return 0.0
    metal, size = MATERIALS.index(board.feeder_material), book.size_index(board.feeder_size)
    return float(book.ampacity_a[metal, COLUMNS_C.index(column_c), size])


def protects_a(board: Board, book: NecBook, column_c: int) -> float:
    """Largest breaker that protects a feeder's conductors in one terminal column [A] (240.4(B), (D))."""
    if board.feeder_size is None:
        return 0.0
    metal, size = MATERIALS.index(board.feeder_material), book.size_index(board.feeder_size)
    usable = carries(board, book, column_c)
    return min(float(book.next_rating(np.array([usable]))[0]), float(book.small_breaker_a[metal, size]))


def _wire(job: Job, board: Board, book: NecBook) -> list[Finding]:
    cite, ask = book.cite("feeder"), f"feeder {board.name} "
    if board.feeder_size is None or board.feeder_length_m is None:
        lacks = [
            name for name, value in (("wire", board.feeder_size), ("length", board.feeder_length_m)) if value is None
        ]
        text = (
            f"The feeder of {board.name}: its {' and '.join(lacks)} are not read. Its breaker and its drop hang on it."
        )
        return [_about(board, "feeder", UNREAD, "Feeder not read", text, cite, ask=ask, site=True)]
    wire = f"{print_gauge(board.feeder_size)} {METAL_NAMES[board.feeder_material]}"
    if board.feeder_a is None:
        return []
    cold = board.feeder_a <= LARGE_A
    column = 60 if cold and job.local.terminals_60 else 75
    most, amps = protects_a(board, book, column), carries(board, book, column)
    if board.feeder_a > most + 1e-9:
        text = (
            f"The feeder of {board.name} is {wire}, {print_amps(amps)} at {column} °C; "
            f"its {board.feeder_a:g} A breaker does not protect it: {most:g} A is the most."
        )
        return [_about(board, "feeder", STOP, "Feeder wire", text, cite, found=board.feeder_a, needed=most, unit="A",
                       sense="most")]  # fmt: skip
    text = f"{wire} carries {print_amps(amps)} at {column} °C; the {board.feeder_a:g} A breaker protects it."
    if cold and column == 75 and board.feeder_a > protects_a(board, book, 60) + 1e-9:
        text += " That wants 75 °C at both its ends: read the lugs."
        return [_about(board, "feeder", NOTE, "Feeder wire", text, f"{cite}, {book.clause('terminals')}")]
    return [_about(board, "feeder", HOLDS, "Feeder wire", text, cite)]


def _ground(board: Board, book: NecBook) -> list[Finding]:
    cite = book.cite("ground_table")
    if board.feeder_ground is None:
        text = f"Which ground comes with the feeder of {board.name}: a wire of what gauge, or the metal raceway?"
        fixes = (Fix("The metal raceway", (Put(f"boards[{board.id}].feeder_ground", RACEWAY),)),)
        ask = f"feeder {board.name} ground "
        return [_about(board, "feeder-ground", UNREAD, "Feeder's ground", text, cite, ask=ask, fixes=fixes, site=True)]
    if board.feeder_ground == RACEWAY or board.feeder_a is None:
        return []
    at = int(np.searchsorted(book.ground_to_a, board.feeder_a))
    if at >= len(book.ground_to_a):
        return []
    needed = book.sizes[int(book.ground_size[MATERIALS.index(board.feeder_material), at])]
    enough = book.size_index(board.feeder_ground) >= book.size_index(needed)
    wanted = f"{board.feeder_a:g} A asks for {print_gauge(needed)}"
    told = f"A {print_gauge(board.feeder_ground)} ground with the feeder; {wanted}."
    return [_about(board, "feeder-ground", HOLDS if enough else STOP, "Feeder's ground", told, cite)]


def _building(board: Board, book: NecBook) -> list[Finding]:
    """A building of its own: disconnect, electrode, rating (225.31, 225.39, 250.32)."""
    path = f"boards[{board.id}]"
    if board.outbuilding is None:
        text = f"Does {board.name} stand in another building than the service?"
        fixes = (
            Fix("In the same one", (Put(f"{path}.outbuilding", False),)),
            Fix("In another one", (Put(f"{path}.outbuilding", True),)),
        )
        cite, ask = book.cite("feeder_building"), f"feeder {board.name} building "
        return [_about(board, "building", UNREAD, "Another building", text, cite, fixes=fixes, ask=ask, site=True)]
    if not board.outbuilding:
        return []
    found = []
    for kind, value, clause, question, missing in (
        ("disconnect", board.disconnect, "building", "Is there a disconnect where its feeder arrives?",
         "no disconnect stands where its feeder arrives"),
        ("electrode", board.electrode, "electrode", "Has it a grounding electrode of its own, joined to the panel?",
         "it has no grounding electrode of its own"),
    ):  # fmt: skip
        there = (Fix(f"It has a{'n' if kind == 'electrode' else ''} {kind}", (Put(f"{path}.{kind}", True),)),)
        cite = book.cite(clause)
        if value is None:
            ask = f"feeder {board.name} {kind} "
            text = f"The building of {board.name}: {question}"
            found.append(_about(board, kind, UNREAD, kind.capitalize(), text, cite, ask=ask, fixes=there, site=True))
        elif not value:
            text = f"The building of {board.name}: {missing}."
            found.append(_about(board, kind, STOP, kind.capitalize(), text, cite, fixes=there))
    if board.feeder_a is not None and board.feeder_a < OUTBUILDING_A:
        own = f"its feeder is {board.feeder_a:g} A"
        text = f"A building with more than two circuits has a disconnect of 60 A at least; {own}."
        found.append(_about(board, "building", TIGHT, "Rating of the building", text, book.cite("building_rating")))
    return found
