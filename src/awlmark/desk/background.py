"""Slow work with its progress in the Entry, and a way to stop it."""

from __future__ import annotations

import threading
from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from awlmark.core.errors import FileError
from awlmark.desk.entry import EntryBar
from awlmark.desk.session import Session


class Slow(QObject):
    """One piece of work off the window's thread."""

    came_on = Signal(float)
    """Share that is done, told on the window's thread."""

    def __init__(self, session: Session, name: str, entry: EntryBar) -> None:
        super().__init__(session)
        self.session, self.name = session, name
        self._stopped = threading.Event()
        self.came_on.connect(lambda share: entry.say(f"{name}, {share:.0%}. Esc stops it."))

    def start(self, work: Callable[[Callable[[float], None]], object], done: Callable[[object], None]) -> None:
        """Begin; ``done`` gets the outcome, or the AwlmarkError that ended it."""

        def progress(share: float) -> None:
            if self._stopped.is_set():
                raise FileError(f"{self.name} was stopped; nothing was taken.")
            self.came_on.emit(share)

        def finished(outcome: object) -> None:
            self.deleteLater()
            done(outcome)

        self.session.behind(lambda: work(progress), finished)

    def stop(self) -> None:
        """End it at its next step."""
        self._stopped.set()
