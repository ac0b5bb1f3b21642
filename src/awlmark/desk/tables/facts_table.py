"""The facts of the cars and the tariff: a table whose cells can be typed over."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem

from awlmark.core.entry.cars import CAR_FACTS, SHARED_FACTS
from awlmark.core.job.cars import MOST_CARS
from awlmark.core.solve.design import Design


class FactsTable(QTableWidget):
    """A row a fact, a column a car; the facts they share stand below in the first column."""

    typed = Signal(int, int, str)
    """Row, column of the car, and the text typed."""

    def __init__(self) -> None:
        super().__init__(len(CAR_FACTS) + len(SHARED_FACTS), MOST_CARS)
        self.setAccessibleName("Facts of the cars and the tariff; type over any of them")
        self.setVerticalHeaderLabels([fact.label for fact in (*CAR_FACTS, *SHARED_FACTS)])
        self.verticalHeader().setDefaultSectionSize(23)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.horizontalHeader().setHighlightSections(False)
        self.verticalHeader().setHighlightSections(False)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setTabKeyNavigation(False)
        self._filling = False
        for row in range(self.rowCount()):
            for column in range(self.columnCount()):
                self.setItem(row, column, QTableWidgetItem())
        self.itemChanged.connect(self._typed)

    def fill(self, design: Design) -> None:
        """Show the facts of a design's job."""
        job = design.job
        self._filling = True
        names = [car.name for car in job.need.cars]
        self.setHorizontalHeaderLabels(names + ["no car"] * (MOST_CARS - len(names)))
        for row, fact in enumerate((*CAR_FACTS, *SHARED_FACTS)):
            shared = row >= len(CAR_FACTS)
            for column in range(MOST_CARS):
                known = column == 0 if shared else column < len(job.need.cars)
                car = None if shared or not known else job.need.cars[column]
                self._cell(row, column, fact.show(job, car) if known else "", known)
        self._filling = False

    def _cell(self, row: int, column: int, text: str, known: bool) -> None:
        item = self.item(row, column)
        assert item is not None
        flags = Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsEditable
        wanted = flags if known else Qt.ItemFlag.NoItemFlags
        if item.flags() != wanted:
            item.setFlags(wanted)
        if item.text() != text:
            item.setText(text)

    def _typed(self, item: QTableWidgetItem) -> None:
        if not self._filling:
            self.typed.emit(item.row(), item.column(), item.text())
