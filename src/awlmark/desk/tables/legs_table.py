"""The line as a table: the Run scene's twin, where every reading can be typed over."""

from __future__ import annotations

import functools
from collections.abc import Callable
from typing import Final

from PySide6.QtCore import Signal

from awlmark.core.job.leg import ENDS, PLACES
from awlmark.core.quantities import print_length
from awlmark.core.solve.design import Design
from awlmark.desk.tables.table import Cell, Table

COLUMNS: Final = ("Leg", "Way", "Reading", "As built", "Place", "Method", "Ends with", "Turn", "Held at")
READING, BUILT, PLACE, METHOD, END = 2, 3, 4, 5, 6


class LegsTable(Table):
    """One row a leg; reading, planned or as built, place, method and end can be typed over or picked."""

    reread = Signal(str)
    """The entry that a typed cell stands for."""
    chosen = Signal(float)
    """Middle of the leg on the tape [m]."""

    def __init__(self) -> None:
        super().__init__(COLUMNS, "The line, leg by leg; type over Reading, As built, Place, Method and Ends with")
        self.verticalHeader().hide()
        self.setShowGrid(False)
        self.fix_columns(dict.fromkeys(range(len(COLUMNS) - 1), 0))
        self._middles: list[float] = []
        self.typed.connect(self._told)
        self.row_chosen.connect(self._choose)

    def fill(self, design: Design) -> None:
        """Show the legs of a design, keeping the row in hand."""
        row = max(self.currentIndex().row(), 0)
        self._middles = [(walked.start_m + walked.end_m) / 2 for walked in design.line.legs]
        units = design.job.units
        methods, cells = tuple(design.book.methods), []
        for walked in design.line.legs:
            leg = walked.leg
            held = design.straps(walked)
            turned = walked.turn_deg + walked.offset_deg
            spots = ", ".join(print_length(at_m, units) for at_m in held)
            cells.append((
                Cell(str(walked.number)),
                Cell(leg.direction),
                Cell(print_length(leg.length_m, units), typed=True),
                Cell("" if leg.built_m is None else print_length(leg.built_m, units), typed=True),
                Cell(walked.place, typed=not walked.crosses, picks=PLACES),
                Cell(walked.method.name, typed=True, picks=methods),
                Cell(leg.end, typed=True, picks=ENDS),
                Cell(f"{turned:.0f}°" if turned else ""),
                Cell(spots, says=spots),
            ))  # fmt: skip
        self.show_rows(cells)
        if cells and not self.currentIndex().isValid():
            self.filling = True
            self.go_to(min(row, len(cells) - 1), READING)
            self.filling = False

    def _told(self, row: int, column: int, text: str) -> None:
        words = text.strip()
        if column == BUILT:
            self.reread.emit(f"built {row + 1} {words or 'as planned'}")
        else:
            self.reread.emit(f"leg {row + 1} {words}")

    def row_deeds(self, row: int) -> list[tuple[str, str, Callable[[], object]]]:
        """The other way, and rubbed out; both by their words."""
        words = (("The other way", f"reverse {row + 1}"), ("Rub it out", f"rub {row + 1}"))
        return [(name, entry, functools.partial(self.reread.emit, entry)) for name, entry in words]

    def _choose(self, row: int) -> None:
        if 0 <= row < len(self._middles):
            self.chosen.emit(self._middles[row])
