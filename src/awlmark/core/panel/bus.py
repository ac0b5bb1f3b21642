"""Every bus between meter and charger: the sheet of its demand, and what a book knows of ways round a larger supply."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS, Job
from awlmark.core.job.supply import Board, Load

LEAST_CHARGE_A: Final = 6.0
"""Below this a car does not charge; common practice."""


class Row(msgspec.Struct, frozen=True):
    """One line of the sheet."""

    text: str
    connected_va: float
    counted_va: float
    cite: str = ""
    pooled: bool = False
    """Whether it counts only with the others, in a pool that a line of its own counts."""


class Sheet(msgspec.Struct, frozen=True):
    """A worksheet: its lines, and what they come to."""

    method: str
    rows: tuple[Row, ...]
    others_va: float
    """Counted without the charger [VA]."""
    charger_va: float
    """What the charger adds to the count [VA]."""
    continuous_va: float = 0.0
    """What of the others is continuous and counts a quarter more [VA]."""

    @property
    def total_va(self) -> float:
        """All of it [VA]."""
        return self.others_va + self.charger_va


class Bus(msgspec.Struct, frozen=True):
    """One bus on the way from the meter to the charger."""

    id: str
    """``service`` or the board's id."""
    name: str
    rating_a: float | None
    """Its breaker; None while unread."""
    sheet: Sheet
    needed_a: float
    """What has to be carried, the charger's continuous quarter with it on a feeder [A]."""
    others_a: float
    """Without the charger [A]."""
    set_point_a: float | None = None
    """What current sensors on it hold it to [A]; None where none stand on it."""

    @property
    def spare_a(self) -> float | None:
        """Left with the charger on [A]; negative when it is over."""
        return None if self.rating_a is None else self.rating_a - self.needed_a


def path_of(job: Job, board: str) -> list[str]:
    """Boards from one back to the service panel, itself first."""
    feeds = {one.id: one.fed_by for one in job.boards}
    found = []
    while board:
        found.append(board)
        board = feeds[board]
    return found


class Supplied(msgspec.Struct, frozen=True, eq=False):
    """What the rules on the supply look at."""

    job: Job
    book: Book
    buses: tuple[Bus, ...]
    """Empty while nothing is entered."""
    charge_a: float
    """Charging current that counts [A]."""
    volts: float
    """Between the lines [V]."""
    hots: int
    """Lines of the circuit."""


class Ways(msgspec.Struct, frozen=True, eq=False):
    """Ways round a larger supply, as a book allows them."""

    set_point: Callable[[Job, float | None], float | None]
    """What current sensors hold a bus of a rating to [A]; None while that is unread."""
    sharing_loads: Callable[[Job, float], list[Load]]
    """Loads worth taking turns with, the largest first."""
    share_edits: Callable[[Job, Load, float], tuple[Put, ...] | None]
    """Edits that let the charger share a load's circuit; None where its breaker is too small for that."""
    rows: dict[str, dict[str, str]]
    """Name, goods, spaces, label and test of each way."""

    def words(self, way: str, **words: str) -> tuple[str, ...]:
        """Label and commissioning test of a way."""
        row = self.rows[way]
        return (f"Label: {row['label'].format(**words)}", f"Test: {row['test'].format(**words)}")


def feeder_ohm(job: Job, book: Book) -> float:
    """One conductor of every feeder on the way together at 75 C [ohm]; those not read count as nothing."""
    boards = {board.id: board for board in job.boards}
    return sum(wire_ohm(boards[its_id], book) or 0.0 for its_id in path_of(job, job.supply.board))


def wire_ohm(board: Board, book: Book) -> float | None:
    """One conductor of a board's feeder at 75 C [ohm]; None while its length or gauge is not read."""
    if board.feeder_length_m is None or board.feeder_size is None:
        return None
    metal, size = MATERIALS.index(board.feeder_material), book.size_index(board.feeder_size)
    return float(book.ohm_per_km[metal, size]) * board.feeder_length_m / 1000
