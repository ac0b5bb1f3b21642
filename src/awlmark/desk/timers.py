"""Timers that run once."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer


def once_after(parent: QObject, ms: int, then: Callable[[], object]) -> QTimer:
    """A timer that calls ``then`` once, so long after it was last started.

    Set by methods: a property's name is looked up in the letters of the desktop's language, and the capital of an i is
    not the same in all of them.
    """
    timer = QTimer(parent)
    timer.setSingleShot(True)
    timer.setInterval(ms)
    timer.timeout.connect(then)
    return timer
