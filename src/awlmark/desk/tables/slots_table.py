"""Devices of the panel as a table whose cells can be typed over: the dead front's twin."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHeaderView, QTableWidget, QTableWidgetItem

from awlmark.core.entry.spaces import SLOT_COLUMNS, slot_cells, sorted_breakers
from awlmark.core.solve.design import Design


class SlotsTable(QTableWidget):
    """A row a device, by space; the row behind the last one makes a new device."""

    typed = Signal(int, int, str)
    """Row, column and the text typed."""

    def __init__(self) -> None:
        super().__init__(0, len(SLOT_COLUMNS))
        self.setAccessibleName("Devices of the panel; type over any cell, an empty space rubs one out")
        self.setHorizontalHeaderLabels(list(SLOT_COLUMNS))
        self.verticalHeader().setVisible(False)
        self.verticalHeader().setDefaultSectionSize(24)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.horizontalHeader().setSectionResizeMode(2, QHeaderView.ResizeMode.ResizeToContents)
        self.horizontalHeader().setHighlightSections(False)
        self.setTabKeyNavigation(False)
        self._filling = False
        self.itemChanged.connect(self._typed)

    def fill(self, design: Design) -> None:
        """Show the devices of a design's job."""
        self._filling = True
        rows = [slot_cells(breaker) for breaker in sorted_breakers(design.job.dead_front)]
        self.setRowCount(len(rows) + 1)
        for at, texts in enumerate([*rows, ("",) * len(SLOT_COLUMNS)]):
            for column, text in enumerate(texts):
                item = self.item(at, column)
                if item is None:
                    item = QTableWidgetItem()
                    self.setItem(at, column, item)
                if item.text() != text:
                    item.setText(text)
        self._filling = False

    def _typed(self, item: QTableWidgetItem) -> None:
        if not self._filling:
            self.typed.emit(item.row(), item.column(), item.text())
