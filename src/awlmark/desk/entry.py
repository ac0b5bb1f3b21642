"""The Entry: the reading being typed, its echo in words, the next keys, the undo name."""

from __future__ import annotations

import functools
from collections.abc import Callable

from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QSizePolicy, QWidget

from awlmark.desk.announce import Told
from awlmark.desk.timers import once_after
from awlmark.ink.fonts import face_font

HEIGHT = 44
ARROWS = {Qt.Key.Key_Up: "up ", Qt.Key.Key_Down: "down ", Qt.Key.Key_Left: "left ", Qt.Key.Key_Right: "right "}


EDITS = {
    Qt.Key.Key_A, Qt.Key.Key_C, Qt.Key.Key_V, Qt.Key.Key_X, Qt.Key.Key_Z, Qt.Key.Key_Y, Qt.Key.Key_Left,
    Qt.Key.Key_Right, Qt.Key.Key_Backspace, Qt.Key.Key_Delete, Qt.Key.Key_Insert,
}  # fmt: skip
"""With Ctrl, what a line of text does for itself while something stands in it; every other key is a shortcut's."""
PASTES = {Qt.Key.Key_A, Qt.Key.Key_C, Qt.Key.Key_V}
"""What is left of that while it is empty."""
CHIPS = (
    ("Left", "left "), ("Right", "right "), ("Up", "up "), ("Down", "down "), ("Corner", "corner"),
    ("Wall", "through "), ("Floor", "through floor "), ("Trench", "trench "), ("Box", "box"), ("Charger", "charger"),
)  # fmt: skip
"""What goes on with an open line: its name, and the words it types; without a blank at their end they are whole."""
BESIDE = 6
"""Above and below the echo [px]."""
CHIPS_FROM = 1060
"""Width from which the chips have room beside the line [px]."""


class EntryLine(QLineEdit):
    """The line itself. Empty, it gives arrows their direction and lets brackets step along the marks."""

    stepped = Signal(int)
    offered = Signal(int)
    """Down or Up through the suggestions."""
    backed = Signal()
    """Shift and Enter: one question back."""
    left = Signal()
    """Escape with nothing of its own typed."""
    took = Signal()
    """The chosen suggestion is taken."""

    def __init__(self, color: Callable[[str], QColor]) -> None:
        super().__init__()
        self._color = color
        self.offers = 0
        """How many suggestions stand above it."""
        self.strays: tuple[tuple[int, int], ...] = ()
        """Where words stand that nothing knows: they are underlined."""

    def event(self, event: QEvent) -> bool:
        # A shortcut stays one while the caret is here: the line keeps only what edits its text.
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            strong = event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
            if strong and Qt.Key(event.key()) not in (EDITS if self.text() else PASTES):
                event.ignore()
                return False
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
            if plain and event.key() == Qt.Key.Key_Tab and self.offers:
                self.took.emit()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        bare = event.modifiers() in (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.KeypadModifier)
        if bare and key in ARROWS and (not self.text() or self.text() in ARROWS.values()):
            self.setText(ARROWS[key])
        elif bare and self.offers and key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            self.offered.emit(1 if key == Qt.Key.Key_Down else -1)
        elif bare and not self.text() and event.text() in ("[", "]"):
            self.stepped.emit(-1 if event.text() == "[" else 1)
        elif bare and key == Qt.Key.Key_Escape:
            if not self.text() or self.hasSelectedText():
                self.left.emit()
            self.clear()
        elif event.modifiers() & Qt.KeyboardModifier.ShiftModifier and key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.backed.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if not self.strays:
            return
        metrics, text = self.fontMetrics(), self.text()
        # The caret tells where the text begins, however far it is scrolled.
        start = self.cursorRect().center().x() - metrics.horizontalAdvance(text[: self.cursorPosition()])
        foot = (self.height() + metrics.ascent()) / 2 + 2.0
        painter = QPainter(self)
        painter.setPen(QPen(self._color("stop"), 2.5, Qt.PenStyle.DotLine))
        for first, last in self.strays:
            left, right = (start + metrics.horizontalAdvance(text[:at]) for at in (first, last))
            painter.drawLine(QPointF(left, foot), QPointF(right, foot))
        painter.end()


class EntryBar(QWidget):
    """Line, echo, keys and undo name side by side."""

    committed = Signal(str)
    changed = Signal(str)
    chipped = Signal(str)
    """Words of a chip."""

    def __init__(self, color: Callable[[str], QColor]) -> None:
        super().__init__()
        self.setObjectName("entrybar")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedHeight(HEIGHT)
        self.line = EntryLine(color)
        # A file that is dropped is the window's to open, wherever it falls.
        self.line.setAcceptDrops(False)
        self.line.setObjectName("entry")
        self.line.setAccessibleName("Entry: type a reading or a decision")
        self.line.setFont(face_font("draw", 22))
        self.line.setPlaceholderText("type here, always")
        self.line.setMinimumWidth(250)
        self.line.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.line.setMaxLength(200)
        self.echo = QLabel()
        self.echo.setObjectName("echo")
        self.echo.setProperty("trouble", "false")
        self.echo.setFont(face_font("text", 14))
        self.echo.setTextFormat(Qt.TextFormat.PlainText)
        self.echo.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.echo.setWordWrap(True)
        self.echo.setAccessibleName("Echo of the entry")
        self.undo = QLabel()
        self.undo.setObjectName("undo")
        self.undo.setTextFormat(Qt.TextFormat.PlainText)
        self.undo.setFont(face_font("text", 13))
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 0, 16, 0)
        row.setSpacing(12)
        row.addWidget(self.line, 5)
        row.addWidget(self.echo, 6)
        self.chips = self._make_chips()
        row.addWidget(self.chips)
        row.addWidget(self.undo)
        self._open, self._scale = False, 1.0
        self._fitting = once_after(self, 0, self._fit)
        """Its height, once all of it has its place."""
        self.told = Told(self.line)
        """What is said of the entry, spoken."""
        self.line.returnPressed.connect(lambda: self.committed.emit(self.line.text()))
        self.line.textChanged.connect(lambda _text: self.show_chips(self._open))
        self.line.textChanged.connect(self.changed)

    def set_scale(self, scale: float) -> None:
        """Line, echo and chips by the size of the text."""
        self.setFixedHeight(round(HEIGHT * scale))
        self.line.setFont(face_font("draw", 22 * scale))
        self.line.setMinimumWidth(round(250 * scale))
        self.echo.setFont(face_font("text", 14 * scale))
        self.undo.setFont(face_font("text", 13 * scale))
        for chip in self.chips.findChildren(QPushButton):
            chip.setFont(face_font("text", 13 * scale))
        self._scale = scale
        self.show_chips(self._open)
        self._fitting.start()

    def _fit(self) -> None:
        """As high as the echo takes, and never lower than usual."""
        high = max(round(HEIGHT * self._scale), self.echo.heightForWidth(self.echo.width()) + BESIDE)
        if high != self.height():
            self.setFixedHeight(high)

    def _make_chips(self) -> QWidget:
        """What goes on with an open line, for the hand."""
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        for name, words in CHIPS:
            chip = QPushButton(name)
            chip.setObjectName("chip")
            chip.setFont(face_font("text", 13))
            chip.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            chip.setToolTip(f"Types {words.strip()}" + (" and waits for a reading" if words.endswith(" ") else ""))
            chip.clicked.connect(functools.partial(self._chip, words))
            row.addWidget(chip)
        holder.hide()
        return holder

    def _chip(self, words: str, _down: bool = False) -> None:
        self.chipped.emit(words)

    def show_chips(self, line_open: bool) -> None:
        """Show the chips while a line is open; they give way to what is typed, and to its echo."""
        self._open = line_open
        bare = not self.line.text().strip() or self.line.text() in (words for _name, words in CHIPS)
        shown = line_open and bare and self.width() >= CHIPS_FROM * self._scale
        self.chips.setVisible(shown)
        self.undo.setVisible(not shown)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.show_chips(self._open)
        self._fitting.start()

    def mark_strays(self, spans: tuple[tuple[int, int], ...]) -> None:
        """Underline words that nothing knows."""
        if spans != self.line.strays:
            self.line.strays = spans
            self.line.update()

    def say(self, words: str, *, trouble: bool = False) -> None:
        """Echo in words; trouble stands out and is announced."""
        told = "true" if trouble else "false"
        if self.echo.property("trouble") != told:
            self.echo.setProperty("trouble", told)
            self.echo.style().unpolish(self.echo)
            self.echo.style().polish(self.echo)
        self.echo.setText(words)
        self.echo.setAccessibleDescription(words)
        self._fitting.start()
        self.told.soon(words, urgent=trouble)

    def progress(self, name: str) -> None:
        """Tell at once what is being made."""
        self.say(f"Writing {name}")
        self.repaint()

    def name_undo(self, name: str, room: int) -> None:
        """Show what Ctrl+Z would take back."""
        metrics, room = self.undo.fontMetrics(), round(room * self._scale)
        self.undo.setText(
            metrics.elidedText(f"Undo: {name}" if name else "F1 what can be typed", Qt.TextElideMode.ElideRight, room)
        )

    def type(self, text: str) -> None:
        """Type into the line from elsewhere and take the focus there."""
        self.line.setFocus()
        self.line.insert(text)
