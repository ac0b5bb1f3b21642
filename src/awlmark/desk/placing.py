"""Where the window stands: on its screen with its frame, and where it stood last."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import QByteArray, QSettings, QSize
from PySide6.QtWidgets import QWidget

FIRST: Final = QSize(1280, 800)
FRAME: Final = QSize(16, 48)
"""Room that a frame takes round the window, until the desktop has told."""
_KEY: Final = "window"


def take_place(window: QWidget, settings: QSettings) -> None:
    """Size and place of last time, or the first size as far as the screen has room for it and a frame."""
    window.resize(FIRST.boundedTo(window.screen().availableSize() - FRAME).expandedTo(window.minimumSize()))
    kept = settings.value(_KEY)
    if isinstance(kept, QByteArray):
        window.restoreGeometry(kept)


def keep_place(window: QWidget, settings: QSettings) -> None:
    """Remember size and place."""
    settings.setValue(_KEY, window.saveGeometry())


def fit_screen(window: QWidget) -> None:
    """Bring a shown window, frame and all, onto its screen."""
    room, frame = window.screen().availableGeometry(), window.frameGeometry()
    if window.isMaximized() or window.isFullScreen() or room.contains(frame):
        return
    around = frame.size() - window.size()
    window.resize(window.size().boundedTo(room.size() - around).expandedTo(window.minimumSize()))
    frame = window.frameGeometry()
    window.move(
        max(room.left(), min(frame.left(), room.right() - frame.width() + 1)),
        max(room.top(), min(frame.top(), room.bottom() - frame.height() + 1)),
    )
