"""Loads and facts of the supply: two tables whose cells can be typed over."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QAbstractItemView, QHBoxLayout, QHeaderView, QTableWidget, QTableWidgetItem, QWidget

from awlmark.core.entry.supply_facts import LOAD_COLUMNS, load_cells, supply_facts
from awlmark.core.solve.design import Design


def _table(columns: int, name: str) -> QTableWidget:
    table = QTableWidget(0, columns)
    table.setAccessibleName(name)
    table.verticalHeader().setDefaultSectionSize(23)
    table.horizontalHeader().setHighlightSections(False)
    table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
    table.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
    table.setTabKeyNavigation(False)
    return table


class SupplyTables(QWidget):
    """Loads at the left, one row each and an empty one for the next; facts of the supply at the right."""

    load_typed = Signal(int, int, str)
    """Row, column and text of a load."""
    fact_typed = Signal(int, str)
    """Row and text of a fact."""

    def __init__(self) -> None:
        super().__init__()
        self.loads = _table(len(LOAD_COLUMNS), "Loads; type into the last row to add one, clear a name to remove one")
        self.loads.setHorizontalHeaderLabels(LOAD_COLUMNS)
        self.loads.verticalHeader().hide()
        for column, width in ((1, 58), (2, 68), (3, 48), (4, 64), (5, 42)):
            self.loads.horizontalHeader().setSectionResizeMode(column, QHeaderView.ResizeMode.Fixed)
            self.loads.setColumnWidth(column, width)
        self.facts = _table(1, "Facts of the supply; type over any of them")
        self.facts.horizontalHeader().hide()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(1)
        row.addWidget(self.loads, 4)
        row.addWidget(self.facts, 3)
        self.setFocusProxy(self.loads)
        self._filling = False
        self.loads.itemChanged.connect(self._load_typed)
        self.facts.itemChanged.connect(self._fact_typed)

    def fill(self, design: Design) -> None:
        """Show a design's loads and facts."""
        job = design.job
        self._filling = True
        self.loads.setRowCount(len(job.loads) + 1)
        for at, load in enumerate(job.loads):
            self._cells(self.loads, at, load_cells(job, load))
        self._cells(self.loads, len(job.loads), ("",) * len(LOAD_COLUMNS))
        facts = supply_facts(job)
        self.facts.setRowCount(len(facts))
        self.facts.setVerticalHeaderLabels([fact.label for fact in facts])
        for at, fact in enumerate(facts):
            self._cells(self.facts, at, (fact.show(job, None),))
        self._filling = False

    def _cells(self, table: QTableWidget, row: int, texts: tuple[str, ...]) -> None:
        for column, text in enumerate(texts):
            item = table.item(row, column)
            if item is None:
                item = QTableWidgetItem()
                table.setItem(row, column, item)
            if item.text() != text:
                item.setText(text)
            if table is self.loads and row == table.rowCount() - 1 and column == 0:
                item.setToolTip("Type the name of the next load")
            item.setTextAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)

    def _load_typed(self, item: QTableWidgetItem) -> None:
        if not self._filling:
            self.load_typed.emit(item.row(), item.column(), item.text())

    def _fact_typed(self, item: QTableWidgetItem) -> None:
        if not self._filling:
            self.fact_typed.emit(item.row(), item.text())
