"""The Entry: the reading being typed, its echo in words, the next keys, the undo name."""

from __future__ import annotations

from PySide6.QtCore import QEvent, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QSizePolicy, QWidget

from awlmark.ink.fonts import face_font

HEIGHT = 44
ARROWS = {Qt.Key.Key_Up: "up ", Qt.Key.Key_Down: "down ", Qt.Key.Key_Left: "left ", Qt.Key.Key_Right: "right "}


class EntryLine(QLineEdit):
    """The line itself. Empty, it gives arrows their direction and lets brackets step along the marks."""

    stepped = Signal(int)

    def event(self, event: QEvent) -> bool:
        # Empty, the line has nothing of its own to take back: undo and redo belong to the job.
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and not self.text():
            control = event.modifiers() & Qt.KeyboardModifier.ControlModifier
            if control and event.key() in (Qt.Key.Key_Z, Qt.Key.Key_Y):
                event.ignore()
                return False
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        bare = event.modifiers() in (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.KeypadModifier)
        if bare and key in ARROWS and (not self.text() or self.text() in ARROWS.values()):
            self.setText(ARROWS[key])
        elif bare and not self.text() and event.text() in ("[", "]"):
            self.stepped.emit(-1 if event.text() == "[" else 1)
        elif bare and key == Qt.Key.Key_Escape:
            self.clear()
        else:
            super().keyPressEvent(event)


class EntryBar(QWidget):
    """Line, echo, keys and undo name side by side."""

    committed = Signal(str)
    changed = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("entrybar")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedHeight(HEIGHT)
        self.line = EntryLine()
        self.line.setObjectName("entry")
        self.line.setAccessibleName("Entry: type a reading or a decision")
        self.line.setFont(face_font("draw", 22))
        self.line.setPlaceholderText("type here, always")
        self.line.setFixedWidth(250)
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
        row.addWidget(self.line)
        row.addWidget(self.echo, 1)
        row.addWidget(self.undo)
        self.line.returnPressed.connect(lambda: self.committed.emit(self.line.text()))
        self.line.textChanged.connect(self.changed)

    def say(self, words: str, *, trouble: bool = False) -> None:
        """Echo in words; trouble stands out and is announced."""
        told = "true" if trouble else "false"
        if self.echo.property("trouble") != told:
            self.echo.setProperty("trouble", told)
            self.echo.style().unpolish(self.echo)
            self.echo.style().polish(self.echo)
        self.echo.setText(words)
        self.echo.setAccessibleDescription(words)

    def progress(self, name: str) -> None:
        """Tell at once what is being made."""
        self.say(f"Writing {name}")
        self.repaint()

    def name_undo(self, name: str, room: int) -> None:
        """Show what Ctrl+Z would take back."""
        metrics = self.undo.fontMetrics()
        self.undo.setText(metrics.elidedText(f"Undo: {name}" if name else "F1 keys", Qt.TextElideMode.ElideRight, room))

    def type(self, text: str) -> None:
        """Type into the line from elsewhere and take the focus there."""
        self.line.setFocus()
        self.line.insert(text)
