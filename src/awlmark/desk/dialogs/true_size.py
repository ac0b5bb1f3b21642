"""Setting the true size of the screen by a bank card held to the glass."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QLabel, QSlider, QVBoxLayout, QWidget

from awlmark.ink.painter import color

CARD_MM: Final = (85.60, 53.98)
"""ISO/IEC 7810 ID-1, the size of every bank card."""
_TENTHS: Final = (20, 160)
"""Screens from 2 to 16 pixels a millimetre, in tenths."""


class _Card(QWidget):
    """The outline that must just vanish behind the card."""

    def __init__(self, scheme: str) -> None:
        super().__init__()
        self.scheme = scheme
        self.pixels_per_mm = 3.8
        self.setMinimumSize(720, 420)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), color("sheet", self.scheme))
        pen = QPen(color("scribe", self.scheme), 2, Qt.PenStyle.DashLine)
        painter.setPen(pen)
        wide, tall = (side * self.pixels_per_mm for side in CARD_MM)
        painter.drawRoundedRect(12.0, 12.0, wide, tall, 3.18 * self.pixels_per_mm, 3.18 * self.pixels_per_mm)  # type: ignore[call-overload]
        painter.end()


class TrueSize(QDialog):
    """Slide until the card just hides the shape."""

    def __init__(self, parent: QWidget, pixels_per_mm: float | None, scheme: str) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("True size")
        self.card = _Card(scheme)
        words = QLabel("Hold a bank card to the glass at the corner of the shape. Slide until the card just hides it.")
        words.setWordWrap(True)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setAccessibleName("Size of the card on this screen")
        self.slider.setRange(*_TENTHS)
        self.slider.valueChanged.connect(self._slid)
        self.slider.setValue(round((pixels_per_mm or 3.8) * 10))
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText("It fits")
        buttons.button(QDialogButtonBox.StandardButton.Cancel).setText("Later")
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        for widget in (words, self.card, self.slider, buttons):
            column.addWidget(widget)

    @property
    def pixels_per_mm(self) -> float:
        """What the slider says [px/mm]."""
        return self.slider.value() / 10

    def _slid(self) -> None:
        self.card.pixels_per_mm = self.pixels_per_mm
        self.card.update()
