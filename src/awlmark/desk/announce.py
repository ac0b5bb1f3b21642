"""What a screen reader is told without the focus moving: verdict, refusals, echoes, the finding in hand."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import QObject
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent, QAccessibleEvent
from PySide6.QtWidgets import QWidget

from awlmark.desk.timers import once_after

REST_MS: Final = 600
"""An echo is told once the typing rests: before that the reader speaks the letters."""


def announce(widget: QWidget, words: str, *, urgent: bool = False) -> None:
    """Tell words at once; what is urgent breaks in."""
    if not words:
        return
    event = QAccessibleAnnouncementEvent(widget, words)
    kind = QAccessible.AnnouncementPoliteness
    event.setPoliteness(kind.Assertive if urgent else kind.Polite)
    send(event)


def send(event: QAccessibleEvent) -> None:
    """Hand an event to whoever listens."""
    QAccessible.updateAccessibility(event)


class Told(QObject):
    """Tells each thing once: what was told last is not told again."""

    def __init__(self, widget: QWidget) -> None:
        super().__init__(widget)
        self._widget = widget
        self._last: dict[str, str] = {}
        self._waits: tuple[str, bool] = ("", False)
        self._rest = once_after(self, REST_MS, self._speak)

    def now(self, kind: str, words: str, *, urgent: bool = False) -> None:
        """Tell of a kind of thing, where its words changed; the first of a kind is only remembered."""
        if kind in self._last and words != self._last[kind]:
            announce(self._widget, words, urgent=urgent)
        self._last[kind] = words

    def soon(self, words: str, *, urgent: bool = False) -> None:
        """Tell once nothing else came for a moment; what is urgent at once."""
        self._waits = words, urgent
        if urgent:
            self._rest.stop()
            self._speak()
        else:
            self._rest.start()

    def _speak(self) -> None:
        words, urgent = self._waits
        if words != self._last.get("echo"):
            self._last["echo"] = words
            announce(self._widget, words, urgent=urgent)
