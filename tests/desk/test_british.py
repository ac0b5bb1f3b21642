"""The window with a British job: every stage, the list twins, the whole-job table; another book as one undo step."""

from collections.abc import Iterator

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QComboBox, QListView, QTableView, QWidget

from awlmark.core.standing import STAGES
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk.region import Canvas
from tests.core import test_bs_job
from tests.core.test_bs_job import CODE, yard
from tests.desk.support import DeskCase
from tests.draw.test_said import foreign
from tests.said import AMERICAN

TEXTS = (
    "text", "toolTip", "statusTip", "placeholderText", "windowTitle", "accessibleName", "accessibleDescription",
    "toPlainText",
)  # fmt: skip
ROLES = (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole, Qt.ItemDataRole.AccessibleTextRole)


def shown(root: QWidget) -> Iterator[tuple[str, str]]:
    """Every text that a window shows or says: widgets, tables and lists, drawings, menus."""
    for widget in (root, *root.findChildren(QWidget)):
        name = type(widget).__name__
        for get in TEXTS:
            if get == "text" and isinstance(widget, Canvas | QTableView):
                continue
            text = getattr(widget, get)() if hasattr(widget, get) else ""
            yield name, text if isinstance(text, str) else ""
        if isinstance(widget, Canvas) and widget.picture is not None:
            yield from ((name, text.text) for text in widget.picture.texts())
            yield from ((name, hit.says) for hit in widget.picture.hits)
        if isinstance(widget, QComboBox):
            yield from ((name, widget.itemText(row)) for row in range(widget.count()))
        if isinstance(widget, QTableView | QListView) and widget.model() is not None:
            model = widget.model()
            columns = model.columnCount() if isinstance(widget, QTableView) else 1
            cells = [model.index(row, column) for row in range(model.rowCount()) for column in range(columns)]
            yield from ((name, str(model.data(cell, role) or "")) for cell in cells for role in ROLES)
            heads = (model.headerData(column, Qt.Orientation.Horizontal) for column in range(columns))
            yield from ((name, str(head or "")) for head in heads)
    for action in root.findChildren(QAction):
        yield "menu", f"{action.text()} {action.toolTip()} {action.statusTip()}".replace("&", "")


class British(DeskCase):
    def test_every_stage_stands(self) -> None:
        for job, wrong in ((test_bs_job.SupplyStage().typed("limit 60"), set()), (yard(system="400"), {"pme"})):
            window = self.open(job)
            for stage in STAGES:
                window.session.see(stage=stage)
                self.settle()
            self.assertEqual(window.session.design.book.key, CODE)
            self.assertEqual({finding.id for finding in window.session.design.stops}, wrong)

    def test_no_american_word_shows_anywhere_in_the_window(self) -> None:
        window = self.open(demo_job(FOUNDRY))
        found: list[str] = []
        for where, shown_now in self.everywhere(window):
            for root in shown_now:
                found.extend(foreign(set(shown(root)), AMERICAN, f"{where}: "))
        self.assertEqual(found, [])

    def test_another_book_is_asked_first_and_taken_back_in_one_step(self) -> None:
        window = self.open(demo_job())
        before = window.session.job
        self.type(window, "code bs")
        self.settle()
        self.assertEqual(window.session.job.code, before.code)
        self.assertIn("code bs open", window.entry.echo.text())
        self.type(window, " open")  # what was refused stays, to be gone on with
        self.settle()
        self.assertEqual(window.session.job.code, CODE)
        for stage in STAGES:
            window.session.see(stage=stage)
            self.settle()
        window.session.undo()
        self.assertEqual(window.session.job, before)

    def test_the_yard_is_typed_in_the_window(self) -> None:
        window = self.open(yard())
        for words in ("ze 0.8", "device c40", "neighbours 2", "rcd ac", "pen none"):
            self.type(window, words)
        self.settle()
        told = {finding.id for finding in window.session.design.stops}
        self.assertTrue({"rcd", "pme"} <= told, told)
        self.key(window.entry, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(window.session.job.charger.pen, "iv")
