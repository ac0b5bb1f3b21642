"""The one table of the desk: rows of cells, some of which can be typed over, picked, copied and pasted."""

from __future__ import annotations

import functools
from collections.abc import Callable, Sequence
from typing import Any, Final

import msgspec
from PySide6.QtCore import QAbstractTableModel, QEvent, QModelIndex, QPersistentModelIndex, QRect, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QKeyEvent, QKeySequence, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractItemDelegate,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QHeaderView,
    QMenu,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QWidget,
)

from awlmark.desk.tables.widths import share
from awlmark.desk.tips import tip
from awlmark.ink.fonts import face_font

Index = QModelIndex | QPersistentModelIndex
MOST_PASTED: Final = 2000
"""Cells that one paste may bring."""
BESIDE: Final = 14
"""Room beside a cell's text, its frame in hand counted [px]."""
WRAPS: Final = 150
"""A column may be so narrow before its texts are cut, not wrapped, at the usual text size [px]."""


class Cell(msgspec.Struct, frozen=True):
    """One cell."""

    text: str = ""
    typed: bool = False
    """Whether it can be typed over."""
    right: bool = False
    says: str = ""
    """Its tooltip."""
    picks: tuple[str, ...] = ()
    """What may be picked; other text may be typed as well."""
    known: bool = True
    """Whether there is anything it could show; a cell that is not cannot be gone to."""
    heading: bool = False
    """Whether it heads the rows below, over all columns."""


class Rows(QAbstractTableModel):
    """The cells as Qt asks for them; what is typed is told on, never kept: the next filling shows what became of it."""

    typed = Signal(int, int, str)
    """Row, column and the text typed."""

    def __init__(self, columns: Sequence[str]) -> None:
        super().__init__()
        self.columns = tuple(columns)
        self.labels: tuple[str, ...] = ()
        """Names of the rows, where they have any."""
        self.cells: list[tuple[Cell, ...]] = []
        self.scale = 1.0
        """How much larger than usual the text is."""

    def fill(self, cells: list[tuple[Cell, ...]], labels: tuple[str, ...] = ()) -> None:
        """Show other cells; only what differs is told to the view."""
        if labels != self.labels:
            self.labels = labels
            self.headerDataChanged.emit(Qt.Orientation.Vertical, 0, max(len(labels) - 1, 0))
        old, new = len(self.cells), len(cells)
        if new > old:
            self.beginInsertRows(QModelIndex(), old, new - 1)
            self.cells += cells[old:]
            self.endInsertRows()
        elif new < old:
            self.beginRemoveRows(QModelIndex(), new, old - 1)
            del self.cells[new:]
            self.endRemoveRows()
        for row, (shown, wanted) in enumerate(zip(self.cells, cells, strict=True)):
            if shown != wanted:
                self.cells[row] = wanted
                self.dataChanged.emit(self.index(row, 0), self.index(row, len(self.columns) - 1))

    def name_columns(self, columns: Sequence[str]) -> None:
        """Give the columns other names."""
        if tuple(columns) != self.columns:
            self.columns = tuple(columns)
            self.headerDataChanged.emit(Qt.Orientation.Horizontal, 0, len(self.columns) - 1)

    def rowCount(self, parent: Index | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.cells)

    def columnCount(self, parent: Index | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.columns)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        cell = self.cells[index.row()][index.column()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole):
            return cell.text
        if role == Qt.ItemDataRole.TextAlignmentRole:
            side = Qt.AlignmentFlag.AlignRight if cell.right else Qt.AlignmentFlag.AlignLeft
            return side | Qt.AlignmentFlag.AlignVCenter
        if role == Qt.ItemDataRole.ToolTipRole:
            return tip(cell.says)
        if role == Qt.ItemDataRole.FontRole and cell.heading:
            return face_font("bold", 14 * self.scale)
        return None

    def flags(self, index: Index) -> Qt.ItemFlag:
        cell = self.cells[index.row()][index.column()]
        if cell.heading or not cell.known:
            return Qt.ItemFlag.NoItemFlags
        plain = Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled
        return plain | Qt.ItemFlag.ItemIsEditable if cell.typed else plain

    def setData(self, index: Index, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        if role != Qt.ItemDataRole.EditRole or not self.cells[index.row()][index.column()].typed:
            return False
        self.typed.emit(index.row(), index.column(), str(value))
        return True

    def headerData(self, at: int, way: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.TextAlignmentRole and way == Qt.Orientation.Horizontal:
            right = any(cells[at].right for cells in self.cells[:4] if at < len(cells))
            side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignHCenter
            return side | Qt.AlignmentFlag.AlignVCenter
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        names = self.columns if way == Qt.Orientation.Horizontal else self.labels
        return names[at] if at < len(names) else None


def _enter() -> QKeyEvent:
    return QKeyEvent(QEvent.Type.KeyPress, Qt.Key.Key_Return, Qt.KeyboardModifier.NoModifier)


class Picker(QStyledItemDelegate):
    """Opens a list to pick from where a cell has one; any text can be typed into it too."""

    def createEditor(self, parent: QWidget, option: QStyleOptionViewItem, index: Index) -> QWidget:
        picks = index.model().cells[index.row()][index.column()].picks  # type: ignore[attr-defined]
        if not picks:
            return super().createEditor(parent, option, index)
        box = QComboBox(parent)
        box.setEditable(True)
        box.addItems(list(picks))
        # What is picked is taken as if Enter had been pressed.
        box.activated.connect(lambda _at: QApplication.postEvent(box, _enter()))
        return box

    def setEditorData(self, editor: QWidget, index: Index) -> None:
        if isinstance(editor, QComboBox):
            editor.setCurrentText(str(index.data()))
            line = editor.lineEdit()
            if line is not None:
                line.selectAll()
        else:
            super().setEditorData(editor, index)

    def setModelData(self, editor: QWidget, model: Any, index: Index) -> None:
        if isinstance(editor, QComboBox):
            model.setData(index, editor.currentText())
        else:
            super().setModelData(editor, model, index)


class Table(QTableView):
    """A table whose cells are typed over: Enter goes down, a block is copied and pasted."""

    typed = Signal(int, int, str)
    """Row, column and the text typed."""
    pasting = Signal(bool)
    """Whether what is typed now comes from one paste."""
    row_chosen = Signal(int)

    def __init__(
        self, columns: Sequence[str], name: str, parent: QWidget | None = None, *, tall: int = 23, grows: bool = False
    ) -> None:
        """``grows``: its last row makes a new one, and a row goes when its first cell is emptied."""
        super().__init__(parent)
        self.filling = False
        self.grows = grows
        self.menu: QMenu | None = None
        self.rows = Rows(columns)
        self.setModel(self.rows)
        self.setItemDelegate(Picker(self))
        self.setAccessibleName(name)
        self.tall, self.fixed = tall, dict[int, int]()
        """Height of a row, and least widths of the columns that take no more than they need, at the usual text size
        [px]."""
        self.verticalHeader().setDefaultSectionSize(tall)
        self.verticalHeader().setHighlightSections(False)
        self.horizontalHeader().setHighlightSections(False)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self.horizontalHeader().setMinimumSectionSize(8)
        self.setHorizontalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self._measured, self._wide = 0, functools.lru_cache(1)(self.fontMetrics().horizontalAdvance)
        """Size of the text whose widths are kept [px], and those widths."""
        self._wrapped: set[int] = set()
        """Rows of more than one line."""
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setTabKeyNavigation(False)
        self.rows.typed.connect(self._typed)

    def fix_columns(self, widths: dict[int, int]) -> None:
        """Give columns a least width and no more than they need; the others share what is left."""
        self.fixed = widths

    def set_scale(self, scale: float) -> None:
        """Rows and columns by the size of the text."""
        self.rows.scale = scale
        self.verticalHeader().setDefaultSectionSize(round(self.tall * scale))
        for row in self._wrapped:
            self.setRowHeight(row, round(self.tall * scale))
        self._wrapped.clear()
        self.fit()

    def fit(self) -> None:
        """Widths by what the cells hold, and rows as high as their texts take."""
        scale, columns = self.rows.scale, range(len(self.rows.columns))
        spanned = [row[0].heading for row in self.rows.cells]
        if self.font().pixelSize() != self._measured:
            self._measured = self.font().pixelSize()
            self._wide = functools.lru_cache(4096)(self.fontMetrics().horizontalAdvance)
        wide = self._wide
        head = self.horizontalHeader().fontMetrics().horizontalAdvance
        needs = [0.0 if self.isColumnHidden(at) else head(self.rows.columns[at]) + BESIDE for at in columns]
        for row, spans in zip(self.rows.cells, spanned, strict=True):
            if not spans:
                for at, cell in enumerate(row):
                    if needs[at]:
                        needs[at] = max(needs[at], wide(cell.text) + BESIDE)
        room = self.viewport().width()
        wished = [max(need, self.fixed.get(at, 0) * scale) if need else 0.0 for at, need in enumerate(needs)]
        widths = share(wished if sum(wished) <= room else needs, room, WRAPS * scale, self.fixed)
        for at, width in enumerate(widths):
            if needs[at] and self.columnWidth(at) != width:
                self.setColumnWidth(at, width)
        tight = [at for at in columns if needs[at] > widths[at] + 1]
        wrapped = {
            at for at, (row, spans) in enumerate(zip(self.rows.cells, spanned, strict=True))
            if not spans and any(wide(row[column].text) + BESIDE > widths[column] + 1 for column in tight)
        }  # fmt: skip
        for at in wrapped | self._wrapped:
            high = round(self.tall * scale)
            for column in tight if at in wrapped else ():
                area, text = QRect(0, 0, widths[column] - BESIDE, 0), self.rows.cells[at][column].text
                high = max(high, self.fontMetrics().boundingRect(area, Qt.TextFlag.TextWordWrap, text).height() + 6)
            if at < self.rows.rowCount():
                self.setRowHeight(at, high)
        self._wrapped = wrapped

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.fit()

    def show_rows(self, cells: Sequence[tuple[Cell, ...]], labels: tuple[str, ...] = ()) -> None:
        """Fill it, keeping the cell in hand."""
        heads = [at for at, row in enumerate(cells) if row[0].heading]
        spanned = [at for at in range(self.rows.rowCount()) if self.columnSpan(at, 0) > 1]
        self.filling = True
        self.rows.fill(list(cells), labels)
        if heads != spanned:
            self.clearSpans()
            for at in heads:
                self.setSpan(at, 0, 1, len(self.rows.columns))
        self.fit()
        self.filling = False

    def text(self, row: int, column: int) -> str:
        """What a cell shows."""
        return self.rows.cells[row][column].text

    def type_over(self, row: int, column: int, text: str) -> bool:
        """Type a text over a cell, as the keyboard does; whether it can be."""
        return self.rows.setData(self.rows.index(row, column), text)

    def go_to(self, row: int, column: int) -> None:
        """Take a cell in hand."""
        self.setCurrentIndex(self.rows.index(row, column))

    def _typed(self, row: int, column: int, text: str) -> None:
        if not self.filling:
            self.typed.emit(row, column, text)

    def currentChanged(self, current: Index, previous: Index) -> None:
        super().currentChanged(current, previous)
        if not self.filling and current.isValid() and current.row() != previous.row():
            self.row_chosen.emit(current.row())

    def closeEditor(self, editor: QWidget, hint: QAbstractItemDelegate.EndEditHint) -> None:
        super().closeEditor(editor, hint)
        if hint == QAbstractItemDelegate.EndEditHint.SubmitModelCache:
            self._down()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.state() != self.State.EditingState:
            self._down()
        elif event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and not event.modifiers():
            self.empty()
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """What can be done with the cell under the mouse, or with the block in hand; each row names its key."""
        under = self.indexAt(event.pos())
        if under.isValid() and under not in self.selectedIndexes():
            self.setCurrentIndex(under)
        here = self.currentIndex()
        if not here.isValid():
            return
        self.menu = QMenu(self)
        typed = bool(self.rows.flags(here) & Qt.ItemFlag.ItemIsEditable)
        for name, key, able, do in (
            ("Type over it", "F2", typed, lambda: self.edit(here)),
            ("Copy", "Ctrl+C", True, self.copy),
            ("Paste from here on", "Ctrl+V", bool(QApplication.clipboard().text()), self.paste),
            ("Empty it", "Del", typed, self.empty),
        ):
            self.menu.addAction(f"{name}\t{key}", do).setEnabled(able)
        rows = self.row_deeds(here.row())
        if rows:
            self.menu.addSeparator()
        for name, words, deed in rows:
            self.menu.addAction(f"{name}\t{words}" if words else name, deed)
        self.menu.popup(event.globalPos())

    def row_deeds(self, row: int) -> list[tuple[str, str, Callable[[], object]]]:
        """What can be done with a whole row: its name, the words that do the same, and the doing."""
        if not self.grows:
            return []
        last = self.rows.rowCount() - 1
        found: list[tuple[str, str, Callable[[], object]]] = [("Another row", "", functools.partial(self._begin, last))]
        if row < last:
            found.append(("Remove the row", "", lambda: self.type_over(row, 0, "")))
        return found

    def _begin(self, row: int) -> None:
        self.go_to(row, 0)
        self.edit(self.currentIndex())

    def empty(self) -> None:
        """Type nothing over the selected cells."""
        self._write([(at.row(), at.column(), "") for at in self.selectedIndexes()])

    def _down(self) -> None:
        """To the next cell below that can be gone to."""
        here = self.currentIndex()
        for row in range(here.row() + 1, self.rows.rowCount()):
            below = self.rows.index(row, here.column())
            if self.rows.flags(below) & Qt.ItemFlag.ItemIsEnabled:
                self.setCurrentIndex(below)
                return

    def copy(self) -> None:
        """The selected block as text: columns parted by tabs, rows by line ends."""
        chosen = self.selectedIndexes()
        if not chosen:
            return
        rows, columns = sorted({at.row() for at in chosen}), sorted({at.column() for at in chosen})
        block = "\n".join("\t".join(self.text(row, column) for column in columns) for row in rows)
        QApplication.clipboard().setText(block)

    def paste(self) -> None:
        """Type a block over the cells from the one in hand on; what cannot be typed over is passed by."""
        here, text = self.currentIndex(), QApplication.clipboard().text()
        if not here.isValid() or not text:
            return
        lines = [line.split("\t") for line in text.rstrip("\r\n").splitlines()]
        block = [
            (here.row() + down, here.column() + right, words.strip())
            for down, line in enumerate(lines)
            for right, words in enumerate(line)
        ]
        self._write(block[:MOST_PASTED])

    def _write(self, block: list[tuple[int, int, str]]) -> None:
        self.pasting.emit(True)
        for row, column, text in block:
            # A row that the one before made is there by now.
            if row < self.rows.rowCount() and column < self.rows.columnCount():
                self.type_over(row, column, text)
        self.pasting.emit(False)
