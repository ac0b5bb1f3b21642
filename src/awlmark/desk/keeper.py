"""The autosave of the open document, never more than a second behind the hand."""

from __future__ import annotations

import sys
import threading
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QElapsedTimer, QObject, QThreadPool, Signal

from awlmark.core.errors import AwlmarkError, FileError
from awlmark.core.job import autosave
from awlmark.core.job.model import Job
from awlmark.desk.timers import once_after

AUTOSAVE_MS = 400
"""From the first edit that is not kept to its keeping, however fast others follow."""


class Keeper(QObject):
    """Writes the work in hand into the autosave of its document, off the window's thread."""

    troubled = Signal(object)
    """An AwlmarkError: the autosave could not be written or taken away."""

    def __init__(self, parent: QObject, unsaved: Callable[[], bool]) -> None:
        super().__init__(parent)
        self._unsaved = unsaved
        self.document = autosave.new_document()
        self._latest: tuple[Job, Path | None] | None = None
        self._written = threading.Lock()
        self._since = QElapsedTimer()
        self._soon = once_after(self, AUTOSAVE_MS, self.keep)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)

    def edited(self, job: Job, path: Path | None) -> None:
        """An edit was made: it is kept within a second."""
        self._latest = job, path
        if not self._since.isValid():
            self._since.start()
            self._soon.start()
        elif self._since.elapsed() >= AUTOSAVE_MS:
            # The timer waits its turn behind keys that are held down; they do not.
            self.keep()

    def keep(self) -> None:
        """Write it behind the window's back; what has come back to its file needs no keeping."""
        if not self._unsaved():
            self.forget()
            return
        self._soon.stop()
        self._since.invalidate()
        self._pool.start(self._write)

    def keep_now(self) -> None:
        """Write it before anything else happens; on the window's thread alone.

        Raises
        ------
        FileError
            When the state folder refuses.
        """
        self._rest()
        if self._latest is not None and self._unsaved():
            autosave.keep(*self._latest, self.document)
        self._latest = None

    def forget(self) -> None:
        """The document is saved, or was let go: its autosave goes."""
        self._rest()
        self._latest = None
        try:
            autosave.drop(self.document)
        except FileError as problem:
            self.troubled.emit(problem)

    def take_on(self) -> None:
        """Another document: what the one before left stays with it."""
        self.forget()
        self.document = autosave.new_document()

    def _rest(self) -> None:
        self._soon.stop()
        self._since.invalidate()
        self._pool.waitForDone()

    def _write(self) -> None:
        """On the keeper's thread: the latest of the work, nothing where that is written already."""
        latest, self._latest = self._latest, None
        if latest is None:
            return
        try:
            autosave.keep(*latest, self.document)
        except AwlmarkError as problem:
            self._latest = self._latest or latest
            self.troubled.emit(problem)
        except Exception as problem:  # noqa: BLE001 - told, logged, and the thread goes on
            self._latest = self._latest or latest
            sys.excepthook(type(problem), problem, problem.__traceback__)
            self.troubled.emit(FileError(f"The autosave failed ({type(problem).__name__}). Save your work now."))
