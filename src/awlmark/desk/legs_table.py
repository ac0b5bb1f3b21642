"""The line as a table: the Run scene's twin, where every reading can be typed over."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem

from awlmark.core.design import Design
from awlmark.core.quantities import print_length

COLUMNS = ("Leg", "Way", "Reading", "Place", "Method", "Ends with")
READING = 2


class LegsTable(QTableWidget):
    """One row a leg; the reading takes a typed length."""

    reread = Signal(int, str)
    """Number of the leg and the text typed."""
    chosen = Signal(float)
    """Middle of the leg on the tape [m]."""

    def __init__(self) -> None:
        super().__init__(0, len(COLUMNS))
        self.setAccessibleName("The line, leg by leg; type a reading in the column Reading")
        self.setHorizontalHeaderLabels(COLUMNS)
        self.verticalHeader().hide()
        self.setShowGrid(False)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.setTabKeyNavigation(False)
        self._filling = False
        self._middles: list[float] = []
        self.itemChanged.connect(self._typed)
        self.currentCellChanged.connect(lambda row, *_rest: self._choose(row))

    def fill(self, design: Design) -> None:
        """Show the legs of a design, keeping the row in hand."""
        row = max(self.currentRow(), 0)
        self._filling = True
        self._middles = [(walked.start_m + walked.end_m) / 2 for walked in design.line.legs]
        self.setRowCount(len(design.line.legs))
        for at, walked in enumerate(design.line.legs):
            reading = print_length(walked.leg.length_m, design.job.units)
            cells = (
                str(walked.number),
                walked.leg.direction,
                reading,
                walked.place,
                walked.method.name,
                walked.leg.end,
            )
            for column, text in enumerate(cells):
                item = QTableWidgetItem(text)
                flags = Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled
                item.setFlags(flags | Qt.ItemFlag.ItemIsEditable if column == READING else flags)
                self.setItem(at, column, item)
        if self.rowCount():
            self.setCurrentCell(min(row, self.rowCount() - 1), READING)
        self._filling = False

    def _typed(self, item: QTableWidgetItem) -> None:
        if not self._filling and item.column() == READING:
            self.reread.emit(item.row() + 1, item.text())

    def _choose(self, row: int) -> None:
        if not self._filling and 0 <= row < len(self._middles):
            self.chosen.emit(self._middles[row])
