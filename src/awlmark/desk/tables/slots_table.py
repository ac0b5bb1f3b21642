"""Devices of the panel as a table whose cells can be typed over: the dead front's twin."""

from __future__ import annotations

from awlmark.core.entry.spaces import SLOT_COLUMNS, slot_cells, sorted_breakers
from awlmark.core.solve.design import Design
from awlmark.desk.tables.table import Cell, Table


class SlotsTable(Table):
    """A row a device, by space; the row behind the last one makes a new device."""

    def __init__(self) -> None:
        super().__init__(
            SLOT_COLUMNS, "Devices of the panel; type over any cell, an empty space rubs one out", tall=24, grows=True
        )
        self.verticalHeader().setVisible(False)

    def fill(self, design: Design) -> None:
        """Show the devices of a design's job."""
        rows = [slot_cells(breaker) for breaker in sorted_breakers(design.job.dead_front)]
        self.show_rows([
            tuple(Cell(text, typed=True) for text in texts) for texts in (*rows, ("",) * len(SLOT_COLUMNS))
        ])  # fmt: skip
