"""What can be typed, beside the scene: grouped by stage, searched by typing, put into the Entry by a click."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLabel, QLineEdit, QPushButton, QTreeWidget, QTreeWidgetItem, QVBoxLayout, QWidget

from awlmark.core.books import open_book
from awlmark.core.entry.words import words
from awlmark.core.shipped import shipped_rows
from awlmark.core.standing import STAGES
from awlmark.desk.actions import ACTIONS
from awlmark.desk.theme import scaled
from awlmark.desk.tips import tip
from awlmark.ink.fonts import face_font

EXAMPLE = Qt.ItemDataRole.UserRole
WHOLE = "The whole job"
FIRST = "To begin with"
OPEN_AT_FIRST = 2
"""Groups that stand open."""


def glossary(code: str) -> list[tuple[str, str]]:
    """Words of the desk, and what they mean under a rule book."""
    told = {row["term"]: row["means"] for row in shipped_rows(__file__, "glossary.csv")}
    return [(term, means) for term, means in {**told, **open_book(code).words.glossary}.items() if means]


class WordPanel(QWidget):
    """Words by stage, the present stage first; then keys, marks and terms."""

    picked = Signal(str)
    """An example to be put into the Entry."""
    closed = Signal()

    def __init__(self, width: int) -> None:
        super().__init__()
        self.setFixedWidth(width)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setObjectName("wordpanel")
        self.search = QLineEdit()
        self.search.setPlaceholderText("search: miles, drop, wall")
        self.search.setAccessibleName("Search what can be typed")
        self.search.setClearButtonEnabled(True)
        self.tree = QTreeWidget()
        self.tree.setHeaderHidden(True)
        self.tree.setIndentation(10)
        self.tree.setWordWrap(True)
        self.tree.setAccessibleName("What can be typed, by stage")
        self.tree.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        title = QLabel("What can be typed")
        title.setFont(face_font("bold", 15 * scaled()))
        close = QPushButton("Close (F1)")
        close.clicked.connect(self.closed)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 8, 8, 8)
        column.setSpacing(6)
        for widget in (title, self.search, self.tree, close):
            column.addWidget(widget)
        self._groups: list[tuple[QTreeWidgetItem, list[QTreeWidgetItem]]] = []
        self.search.textChanged.connect(self._filter)
        self.search.returnPressed.connect(self._pick_first)
        self.tree.itemClicked.connect(self._pick)
        self.tree.itemActivated.connect(self._pick)

    def show_for(self, stage: str, code: str) -> None:
        """Fill it with the words of a rule book, those of a stage first."""
        self.tree.clear()
        self._groups = []
        names = open_book(code).words.stages
        order = [stage, "", *(other for other in STAGES if other != stage)]
        self._group(FIRST, [(example, told, example) for example, told in open_book(code).words.decisions])
        for one in order:
            own = [word for word in words(code) if word.stage == one]
            rows = [(word.example, _told(word.help, word.others), word.example) for word in own]
            self._group(names.get(one, WHOLE), rows)
        self._group("Keys", [(act.keys, act.text.replace("&", ""), "") for act in ACTIONS if act.keys])
        self._group("Marks and terms", [(term, means, "") for term, means in glossary(code)])
        self._filter(self.search.text())
        self.search.setFocus()

    def _group(self, name: str, rows: list[tuple[str, str, str]]) -> None:
        if not rows:
            return
        head, made = QTreeWidgetItem([name]), []
        head.setFont(0, face_font("bold", 14 * scaled()))
        self.tree.addTopLevelItem(head)
        for shown, told, example in rows:
            row = QTreeWidgetItem([f"{shown}\n{told}"])
            row.setData(0, EXAMPLE, example)
            row.setToolTip(0, tip(f"{shown}: {told}"))
            head.addChild(row)
            made.append(row)
        self._groups.append((head, made))

    def _filter(self, text: str) -> None:
        """Only what holds every word of the search; without one the first two groups are open."""
        wanted = text.lower().split()
        for number, (head, rows) in enumerate(self._groups):
            for row in rows:
                row.setHidden(not all(word in row.text(0).lower() for word in wanted))
            head.setHidden(all(row.isHidden() for row in rows))
            head.setExpanded(bool(wanted) or number < OPEN_AT_FIRST)

    def _pick(self, item: QTreeWidgetItem) -> None:
        example = item.data(0, EXAMPLE)
        if example:
            self.picked.emit(example.split(", ")[0])

    def _pick_first(self) -> None:
        found = (row for _head, rows in self._groups for row in rows if not row.isHidden() and row.data(0, EXAMPLE))
        first = next(found, None)
        if first is not None:
            self._pick(first)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.closed.emit()
        else:
            super().keyPressEvent(event)


def _told(told: str, others: tuple[str, ...]) -> str:
    return told + (f" (also {', '.join(others)})" if others else "")
