"""A first look round: eight places of the desk, one after another, each in a sentence or two; left at any time."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final, NamedTuple

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from awlmark.core.books.words import Words
from awlmark.desk.theme import scaled
from awlmark.ink.painter import color

ROOM: Final = 12
WIDE: Final = 430
"""Of the card, at the usual text size [px]."""


class Stop(NamedTuple):
    """One place of the desk."""

    region: str
    """Name of the widget that is framed."""
    stage: str
    """Stage shown meanwhile; empty leaves it."""
    text: str


STOPS: Final = (
    Stop(
        "sill", "run",
        "Eight stages, from what the cars need to the signed tests. Each wears its worst mark: a stroke holds, a "
        "dashed ring is unread, a ring notes, a triangle is tight, a crossed square stops.",
    ),
    Stop(
        "scenes", "run",
        "The line on its walls. Pull its white end, or type: {leg}, charger. A double click on a number types "
        "another; the second button shows what can be done with a thing.",
    ),
    Stop(
        "entry", "run",
        "Everything can be typed here, from any stage. Suggestions stand over it while you type; Tab takes one. A "
        "whole quote works too: {quote}.",
    ),
    Stop("tape", "run", "The run as a tape measure. Drag the awl: section, volts and reasons follow it."),
    Stop(
        "loupe", "wire",
        "What was checked, the worst first. A question is answered here, a broken rule shows its way out with the "
        "price. Nothing holds that nobody was asked.",
    ),
    Stop(
        "ladder", "wire",
        "{ladder}",
    ),
    Stop(
        "scenes", "place",
        "Drag rooms, bays and spots out of the tray. Each spot shows what the whole job would cost with the run led "
        "there.",
    ),
    Stop(
        "scenes", "prove",
        "After the build every test has its row. Job > Print shows the papers before a printer gets them. F1 has every "
        "word; Help > Guide one whole job.",
    ),
)  # fmt: skip


class _Frame(QWidget):
    """A frame round the place that is told of; the mouse goes through it."""

    def __init__(self, parent: QWidget, scheme: Callable[[], str]) -> None:
        super().__init__(parent)
        self._scheme = scheme
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(QPen(color("scribe", self._scheme()), 4))
        painter.drawRect(self.rect().adjusted(2, 2, -2, -2))
        painter.end()


class Tour(QObject):
    """Shows one stop at a time over the window."""

    ended = Signal()

    def __init__(self, window: QWidget, places: dict[str, QWidget], show: Callable[[str], None],
                 scheme: Callable[[], str], words: Callable[[], Words] = Words) -> None:  # fmt: skip
        super().__init__(window)
        self.window, self.places, self._show, self._words = window, places, show, words
        self.at = 0
        self.frame = _Frame(window, scheme)
        self.card = QFrame(window)
        self.card.setObjectName("tour")
        self.card.setFrameShape(QFrame.Shape.Box)
        self.card.setAutoFillBackground(True)
        self.card.setFixedWidth(round(WIDE * scaled()))
        self.text = QLabel()
        self.text.setWordWrap(True)
        self.text.setTextFormat(Qt.TextFormat.PlainText)
        self.count = QLabel()
        self.back, self.next, self.leave = QPushButton("Back"), QPushButton("Next"), QPushButton("Leave")
        self.back.clicked.connect(lambda: self.go(self.at - 1))
        self.next.clicked.connect(lambda: self.go(self.at + 1))
        self.leave.clicked.connect(self.end)
        row = QHBoxLayout()
        row.addWidget(self.count, 1)
        for button in (self.back, self.leave, self.next):
            row.addWidget(button)
        column = QVBoxLayout(self.card)
        column.addWidget(self.text)
        column.addLayout(row)
        window.installEventFilter(self)
        for button in (self.back, self.next, self.leave):
            button.installEventFilter(self)
        self.go(0)

    def go(self, number: int) -> None:
        """Go to a stop; past the last one the tour is over."""
        if number >= len(STOPS):
            self.end()
            return
        self.at = max(number, 0)
        stop, words = STOPS[self.at], self._words()
        if stop.stage:
            self._show(stop.stage)
        self.text.setText(stop.text.format(quote=words.decisions[-1][0], ladder=words.ladder, leg=words.leg))
        self.count.setText(f"{self.at + 1} of {len(STOPS)}")
        self.back.setEnabled(self.at > 0)
        self.next.setText("Next" if self.at + 1 < len(STOPS) else "Begin")
        self._place()
        self.card.show()
        self.frame.show()
        self.frame.raise_()
        self.card.raise_()
        self.next.setFocus()

    def _place(self) -> None:
        """The frame over its place, the card where it hides none of it as far as there is room."""
        self.card.setFixedHeight(self.card.heightForWidth(self.card.width()))
        target = self.places[STOPS[self.at].region]
        area = target.rect().translated(target.mapTo(self.window, target.rect().topLeft()))
        self.frame.setGeometry(area)
        wide, tall, whole = self.card.width(), self.card.height(), self.window.rect()
        spots = (
            (area.left(), area.bottom() + ROOM), (area.left(), area.top() - tall - ROOM),
            (area.right() + ROOM, area.top() + ROOM), (area.left() - wide - ROOM, area.top() + ROOM),
            (area.center().x() - wide // 2, area.bottom() - tall - ROOM),
        )  # fmt: skip
        x, y = next(
            (
                (x, y) for x, y in spots
                if x >= 0 and y >= 0 and x + wide <= whole.width() and y + tall <= whole.height()
            ), spots[-1]
        )  # fmt: skip
        self.card.move(x, y)

    def end(self) -> None:
        """Leave; nothing of it stays."""
        self.window.removeEventFilter(self)
        self.ended.emit()
        self.card.hide()
        self.frame.hide()
        self.card.deleteLater()
        self.frame.deleteLater()
        self.deleteLater()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if watched is self.window and event.type() == QEvent.Type.Resize:
            self._place()
        if isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Escape:
            if event.type() == QEvent.Type.ShortcutOverride:
                event.accept()  # no menu's while the tour is in hand
                return True
            if event.type() == QEvent.Type.KeyPress:
                self.end()
                return True
        return False
