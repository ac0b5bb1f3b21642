"""The line as a table: the Run scene's twin, where every reading can be typed over."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem

from awlmark.core.quantities import print_length
from awlmark.core.run.supports import straps
from awlmark.core.solve.design import Design
from awlmark.desk.tips import tip

COLUMNS = ("Leg", "Way", "Reading", "As built", "Place", "Method", "Ends with", "Turn", "Held at")
READING, BUILT = 2, 3


class LegsTable(QTableWidget):
    """One row a leg; the reading, planned or as built, takes a typed length."""

    reread = Signal(str)
    """The entry that a typed cell stands for."""
    chosen = Signal(float)
    """Middle of the leg on the tape [m]."""

    def __init__(self) -> None:
        super().__init__(0, len(COLUMNS))
        self.setAccessibleName("The line, leg by leg; type in the columns Reading and As built")
        self.setHorizontalHeaderLabels(COLUMNS)
        self.verticalHeader().hide()
        self.setShowGrid(False)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.horizontalHeader().setStretchLastSection(True)
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
        units, trades = design.job.units, design.circuit.trade_sizes if design.circuit else ()
        for at, walked in enumerate(design.line.legs):
            section = design.line.section_at(walked.end_m)
            held = straps(design.book, walked, trades[section.number] if trades and section is not None else None)
            cells = (
                str(walked.number),
                walked.leg.direction,
                print_length(walked.leg.length_m, units),
                "" if walked.leg.built_m is None else print_length(walked.leg.built_m, units),
                walked.place,
                walked.method.name,
                walked.leg.end,
                f"{walked.turn_deg + walked.offset_deg:.0f}°" if walked.turn_deg + walked.offset_deg else "",
                ", ".join(print_length(at_m, units) for at_m in held),
            )
            for column, text in enumerate(cells):
                item = QTableWidgetItem(text)
                flags = Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled
                item.setFlags(flags | Qt.ItemFlag.ItemIsEditable if column in (READING, BUILT) else flags)
                if column == len(cells) - 1:
                    item.setToolTip(tip(text))
                self.setItem(at, column, item)
        if self.rowCount():
            self.setCurrentCell(min(row, self.rowCount() - 1), READING)
        self._filling = False

    def _typed(self, item: QTableWidgetItem) -> None:
        if self._filling:
            return
        number, text = item.row() + 1, item.text().strip()
        if item.column() == READING:
            self.reread.emit(f"leg {number} {text}")
        elif item.column() == BUILT:
            self.reread.emit(f"built {number} {text or 'as planned'}")

    def _choose(self, row: int) -> None:
        if not self._filling and 0 <= row < len(self._middles):
            self.chosen.emit(self._middles[row])
