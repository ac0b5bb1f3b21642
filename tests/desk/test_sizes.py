"""Nothing is cut at any size of the text: labels, buttons, menus, tables, drawings, dialogs."""

from collections.abc import Iterator, Sequence
from unittest import mock

from PySide6.QtCore import QRect, Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QComboBox,
    QLabel,
    QLineEdit,
    QMenuBar,
    QTableView,
    QWidget,
)

from awlmark.core.job.model import Job
from awlmark.core.standing import STAGES
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk import theme
from awlmark.desk.region import Canvas
from tests.desk import test_layout
from tests.desk.support import DeskCase
from tests.support import LONG


def cut(root: QWidget) -> Iterator[str]:
    """Everything of a window that has less room than its text takes."""
    for widget in root.findChildren(QWidget):
        if not widget.isVisibleTo(root):
            continue
        room, metrics = widget.contentsRect(), widget.fontMetrics()
        named = f"{type(widget).__name__} {widget.objectName() or widget.accessibleName()}"
        over = widget.parentWidget()
        if isinstance(widget, QLabel | QAbstractButton | QLineEdit) and not over.rect().contains(widget.geometry()):
            yield f"{named}: stands at {widget.geometry()} in {over.rect()}"
        if isinstance(widget, QLabel) and widget.text():
            wide = widget.heightForWidth(room.width()) if widget.wordWrap() else widget.sizeHint().height()
            if wide > widget.height() + 1:
                yield f"{named}: {wide} px high in {widget.height()}: {widget.text()[:60]}"
            if not widget.wordWrap() and widget.sizeHint().width() > widget.width() + 1:
                yield f"{named}: {widget.sizeHint().width()} px in {widget.width()}: {widget.text()[:60]}"
        elif isinstance(widget, QAbstractButton) and widget.text():
            wanted = metrics.boundingRect(QRect(), Qt.TextFlag.TextShowMnemonic, widget.text())
            if wanted.width() > widget.width() or metrics.height() > widget.height() + 1:
                yield f"{named}: {wanted.size()} in {widget.size()}: {widget.text()}"
        elif isinstance(widget, QComboBox | QLineEdit):
            if metrics.height() > widget.height():
                yield f"{named}: {metrics.height()} px high in {widget.height()}"
        elif isinstance(widget, QMenuBar):
            for action in widget.actions():
                if not widget.rect().contains(widget.actionGeometry(action)):
                    yield f"menu {action.text()}"
        elif isinstance(widget, QTableView):
            yield from cut_cells(widget, named)


def cut_cells(table: QTableView, named: str) -> Iterator[str]:
    """Heads and cells that are cut, and rows that are too low."""
    model, head = table.model(), table.horizontalHeader()
    for column in range(model.columnCount()):
        if table.isColumnHidden(column):
            continue
        text = str(model.headerData(column, Qt.Orientation.Horizontal) or "")
        if head.fontMetrics().horizontalAdvance(text) > head.sectionSize(column):
            yield f"{named}: head {text!r} in {head.sectionSize(column)} px"
        for row in range(model.rowCount()):
            if table.columnSpan(row, column) > 1:
                continue
            cell = model.index(row, column)
            text, high = str(cell.data() or ""), table.rowHeight(row)
            if table.fontMetrics().height() > high + 1:
                yield f"{named}: row {row} is {high} px high"
            room = QRect(0, 0, table.columnWidth(column) - 10, 0)
            taken = table.fontMetrics().boundingRect(room, Qt.TextFlag.TextWordWrap, text)
            if taken.width() > room.width() + 1 or taken.height() > high + 1:
                yield f"{named}: {text!r} in {table.columnWidth(column)} x {high} px"


class NothingCut(DeskCase):
    def look(
        self, job: Job, width: int, height: int, scale: float, stages: tuple[str, ...] = STAGES
    ) -> set[str]:  # fmt: skip
        """Everything that is cut in a window whose text is so much larger than drawn."""
        found: set[str] = set()
        with mock.patch.object(theme, "text_scale", lambda _percent: scale):
            window = self.open(job, width, height)
            self.assertEqual(window.text_scale, scale)

            def judge(where: str, roots: Sequence[QWidget]) -> None:
                for root in roots:
                    found.update(f"{where}: {each}" for each in cut(root))
                    for canvas in root.findChildren(Canvas):
                        if canvas.isVisible():
                            test_layout.NothingOverlaps.judge(self, canvas.picture)  # type: ignore[arg-type]

            for words in ("right banana", "swing 90 over the hill", "leg 99 5ft", "name " + "y " * 95, "size 7", "car"):
                self.type(window, words)
                judge(words[:12], [window])
            window.entry.line.clear()
            for where, roots in self.everywhere(window, stages):
                judge(where, roots)
        return found

    def test_at_the_desktop_s_size_and_at_the_largest(self) -> None:
        few = STAGES if LONG else ("run", "parts")  # the drawings at this size are looked at elsewhere
        self.assertEqual(self.look(demo_job(), 1280, 800, 1.0, few), set())
        self.assertEqual(self.look(demo_job(), 1280, 800, 1.6), set())

    def test_between_them_with_the_other_book(self) -> None:
        self.assertEqual(self.look(demo_job(FOUNDRY), 1280, 800, 1.3), set())

    def test_double_text_on_a_common_screen(self) -> None:
        self.assertEqual(self.look(demo_job(), 1920, 1080, 2.0, ("run", "wire", "parts", "prove")), set())
