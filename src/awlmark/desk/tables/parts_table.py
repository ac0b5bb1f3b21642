"""The list of parts: a table whose prices, stock, check-in and receipts can be typed over."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from awlmark.core.parts.takeoff import Part
from awlmark.core.solve.design import Design
from awlmark.desk.tables.table import Cell, Table

COLUMNS: Final = ("Part", "Needed", "Buy", "Each", "Sum", "Stock", "Came", "Paid")
EACH: Final = 3
TYPED: Final = {EACH: "price", 5: "stock", 6: "came", 7: "paid"}
"""Columns that take typing, and the word each is taken by."""
WIDTHS: Final = (72, 104, 66, 84, 52, 52, 66)


class PartsTable(Table):
    """One row a part, by aisle; prices, stock, what came and what was paid are typed over."""

    part_typed = Signal(str, str, str)
    """Part key, the word its column is taken by, and the text typed."""
    chosen = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(COLUMNS, "List of parts; type over Each, Stock, Came and Paid", parent, tall=22)
        self.verticalHeader().hide()
        self.setShowGrid(False)
        self.fix_columns(dict(enumerate(WIDTHS, 1)))
        self.keys: list[str] = []
        """Key of the part of each row; empty for the name of an aisle."""
        self.typed.connect(self._told)
        self.row_chosen.connect(self._choose)

    def fill(self, design: Design) -> None:
        """Show the parts of a design, keeping the row in hand."""
        job, cells, self.keys = design.job, list[tuple[Cell, ...]](), []
        for aisle in design.book.goods.aisles:
            parts = [part for part in design.parts if part.aisle == aisle]
            if parts:
                cells.append((Cell(aisle, heading=True), *(Cell(known=False),) * (len(COLUMNS) - 1)))
                self.keys.append("")
            for part in parts:
                typed = tuple(table.get(part.key, "") for table in (job.stock, job.delivered, job.paid))
                note = job.price_notes.get(part.key, "") or ("" if part.each is not None else "No price yet: type one")
                cells.append(tuple(
                    Cell(text, typed=column in TYPED, right=column > 0, says=note if column == EACH else "")
                    for column, text in enumerate(_cells(part, typed))
                ))  # fmt: skip
                self.keys.append(part.key)
        self.show_rows(cells)
        if cells and not self.currentIndex().isValid():
            self.filling = True
            self.go_to(1, EACH)
            self.filling = False

    def _told(self, row: int, column: int, text: str) -> None:
        self.part_typed.emit(self.keys[row], TYPED[column], text)

    def _choose(self, row: int) -> None:
        if row < len(self.keys) and self.keys[row]:
            self.chosen.emit(self.keys[row])


def _cells(part: Part, typed: tuple[str, ...]) -> tuple[str, ...]:
    """A part in the columns of the table."""
    unit = "" if part.unit == "each" else f" {part.unit}"
    packs = [
        f"{count:,}{unit}" if size == 1 else f"{count} {'box' if part.unit == 'each' else 'coil'} of {size:g}"
        for size, count in part.bought.packs
    ]
    total = "unread" if part.total is None else f"{part.total:,.2f}"
    each = "" if part.each is None else f"{part.each:.2f}"
    return (part.name, f"{part.quantity:g}{unit}", " + ".join(packs) or "none", each, total, *typed)
