"""The list of parts: a table whose prices, stock, check-in and receipts can be typed over."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem, QWidget

from awlmark.core.parts.aisles import AISLES
from awlmark.core.parts.takeoff import Part
from awlmark.core.solve.design import Design
from awlmark.desk.tips import tip
from awlmark.ink.fonts import face_font

COLUMNS = ("Part", "Needed", "Buy", "Each", "Sum", "Stock", "Came", "Paid")
EACH = 3
TYPED = {EACH: "price", 5: "stock", 6: "came", 7: "paid"}
"""Columns that take typing, and the word each is taken by."""
NUMBERS = (1, 2, 3, 4, 5, 6, 7)
WIDTHS = (72, 104, 66, 84, 52, 52, 66)
KEY_ROLE = Qt.ItemDataRole.UserRole


class PartsTable(QTableWidget):
    """One row a part, by aisle; prices, stock, what came and what was paid are typed over."""

    typed = Signal(str, str, str)
    """Part key, the word its column is taken by, and the text typed."""
    chosen = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(0, len(COLUMNS), parent)
        self.setAccessibleName("List of parts; type over Each, Stock, Came and Paid")
        self.setHorizontalHeaderLabels(COLUMNS)
        self.verticalHeader().hide()
        self.verticalHeader().setDefaultSectionSize(22)
        self.setShowGrid(False)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        head = self.horizontalHeader()
        head.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        head.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        head.setHighlightSections(False)
        for column in range(len(COLUMNS)):
            side = Qt.AlignmentFlag.AlignRight if column in NUMBERS else Qt.AlignmentFlag.AlignLeft
            head_item = QTableWidgetItem(COLUMNS[column])
            head_item.setTextAlignment(side | Qt.AlignmentFlag.AlignVCenter)
            self.setHorizontalHeaderItem(column, head_item)
        for column, width in enumerate(WIDTHS, 1):
            self.setColumnWidth(column, width)
        self.setTabKeyNavigation(False)
        self._filling = False
        self._shown: list[object] = []
        """What each row shows; None for what was typed over and may have to be shown anew."""
        self.itemChanged.connect(self._typed)
        self.currentCellChanged.connect(lambda row, *_rest: self._choose(row))

    def fill(self, design: Design) -> None:
        """Show the parts of a design, keeping the row in hand."""
        row, column = max(self.currentRow(), 0), max(self.currentColumn(), EACH)
        self._filling = True
        aisles = [aisle for aisle in AISLES if any(part.aisle == aisle for part in design.parts)]
        wanted = len(design.parts) + len(aisles)
        if wanted != self.rowCount():
            self.clearSpans()
            self.setRowCount(0)
            self.setRowCount(wanted)
            self._shown = [None] * wanted
        job, at = design.job, 0
        for aisle in aisles:
            self._head(at, aisle)
            at += 1
            for part in (part for part in design.parts if part.aisle == aisle):
                typed = tuple(table.get(part.key, "") for table in (job.stock, job.delivered, job.paid))
                note = job.price_notes.get(part.key, "")
                if self._shown[at] != (part, typed, note):
                    self._row(at, _cells(part, typed), part.key, note)
                    self._shown[at] = part, typed, note
                at += 1
        if self.rowCount():
            self.setCurrentCell(min(row, self.rowCount() - 1), column)
        self._filling = False

    def _head(self, at: int, aisle: str) -> None:
        here = self.item(at, 0)
        if here is not None and here.text() == aisle and self.columnSpan(at, 0) == len(COLUMNS):
            return
        self.setSpan(at, 0, 1, len(COLUMNS))
        head = QTableWidgetItem(aisle)
        head.setFont(face_font("bold", 14))
        head.setFlags(Qt.ItemFlag.NoItemFlags)
        self.setItem(at, 0, head)
        self._shown[at] = None

    def _row(self, at: int, cells: tuple[str, ...], key: str, note: str) -> None:
        """Show one part; cells that stay as they are cost nothing."""
        if self.columnSpan(at, 0) > 1:
            self.setSpan(at, 0, 1, 1)
        for column, text in enumerate(cells):
            here = self.item(at, column)
            if here is not None and here.data(KEY_ROLE) == key:
                if here.text() != text:
                    here.setText(text)
                continue
            item = QTableWidgetItem(text)
            flags = Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled
            item.setFlags(flags | Qt.ItemFlag.ItemIsEditable if column in TYPED else flags)
            if column in NUMBERS:
                item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
            item.setData(KEY_ROLE, key)
            self.setItem(at, column, item)
        priced = self.item(at, EACH)
        if priced is not None:
            priced.setToolTip(tip(note or ("" if cells[EACH] else "No price yet: type one")))

    def _typed(self, item: QTableWidgetItem) -> None:
        if not self._filling and item.column() in TYPED:
            self._shown[item.row()] = None
            self.typed.emit(item.data(KEY_ROLE), TYPED[item.column()], item.text())

    def _choose(self, row: int) -> None:
        item = self.item(row, EACH) if row >= 0 else None
        if item is not None and not self._filling:
            self.chosen.emit(item.data(KEY_ROLE))


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
