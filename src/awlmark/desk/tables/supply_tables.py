"""Loads and facts of the supply: two tables whose cells can be typed over."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QWidget

from awlmark.core.entry.loads import LOAD_COLUMNS, load_cells, load_columns
from awlmark.core.entry.supply_facts import supply_facts
from awlmark.core.job.supply import LOAD_KINDS
from awlmark.core.solve.design import Design
from awlmark.desk.tables.table import Cell, Table


class SupplyTables(QWidget):
    """Loads at the left, one row each and an empty one for the next; facts of the supply at the right."""

    load_typed = Signal(int, int, str)
    """Row, column and text of a load."""
    sorted = Signal(int)
    """Column that the loads are to stand by."""
    fact_typed = Signal(int, str)
    """Row and text of a fact."""

    def __init__(self) -> None:
        super().__init__()
        self.loads = Table(
            LOAD_COLUMNS, "Loads; type into the last row to add one, clear a name to remove one", grows=True
        )
        self.loads.verticalHeader().hide()
        self.loads.fix_columns({1: 66, 2: 68, 3: 48, 4: 64, 5: 42})
        self.facts = Table(("Fact",), "Facts of the supply; type over any of them")
        self.facts.horizontalHeader().hide()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(1)
        row.addWidget(self.loads, 4)
        row.addWidget(self.facts, 3)
        self.setFocusProxy(self.loads)
        head = self.loads.horizontalHeader()
        head.setSectionsClickable(True)
        head.sectionClicked.connect(self.sorted)
        self.loads.typed.connect(self.load_typed)
        self.facts.typed.connect(lambda row, _column, text: self.fact_typed.emit(row, text))

    def fill(self, design: Design) -> None:
        """Show a design's loads and facts."""
        job = design.job
        kinds = LOAD_COLUMNS.index("Kind")
        self.loads.rows.columns = load_columns(job)
        shown = [load_cells(job, load) for load in job.loads]
        rows = [
            tuple(Cell(text, typed=True, picks=LOAD_KINDS if at == kinds else ()) for at, text in enumerate(texts))
            for texts in (*shown, ("",) * len(LOAD_COLUMNS))
        ]
        rows[-1] = (Cell(typed=True, says="Type the name of the next load"), *rows[-1][1:])
        self.loads.show_rows(rows)
        facts = supply_facts(job)
        self.facts.show_rows(
            [(Cell(fact.show(job, None), typed=True),) for fact in facts], tuple(fact.label for fact in facts)
        )
