"""The one place that every unforeseen error reaches, whatever thread it happened on."""

from __future__ import annotations

import contextlib
import signal
import socket
import sys
import threading
from collections.abc import Callable
from types import FrameType, TracebackType

from PySide6.QtCore import QObject, QSocketNotifier, Qt, Signal
from PySide6.QtWidgets import QApplication

from awlmark.core.errors import AwlmarkError
from awlmark.core.record import record
from awlmark.desk.window import Window


class Guard(QObject):
    """Logs what nobody foresaw, keeps the work and tells the user, on the window's thread; ends on a signal."""

    _met = Signal(str, str)

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self._window = window
        self.windows: Callable[[], list[Window]] = lambda: [window]
        """All whose work is kept."""
        self._telling = False
        self._met.connect(self._tell, Qt.ConnectionType.QueuedConnection)
        sys.excepthook = self.caught
        threading.excepthook = lambda args: self.caught(
            args.exc_type, args.exc_value or args.exc_type(), args.exc_traceback
        )
        self._listen()

    def caught(self, kind: type[BaseException], problem: BaseException, trace: TracebackType | None) -> None:
        """Log an error, on whatever thread; the window's own keeps the work and tells it when it is back at rest."""
        if issubclass(kind, KeyboardInterrupt):
            self._end()
            return
        self._met.emit(kind.__name__, record(kind, problem, trace))

    def _tell(self, kind: str, where: str) -> None:
        kept = "Your work is kept in the autosave."
        try:
            for window in self.windows():
                window.session.keep_now()
        except Exception as trouble:  # noqa: BLE001 - whatever it is, the user is told to save
            kept = f"Save your work now: the autosave could not be written ({trouble})."
        if self._telling:
            # One box at a time: the log has the rest.
            return
        self._telling = True
        try:
            text = f"Awlmark met something unforeseen ({kind}). {kept} {where}"
            self._window.files.tell("Something went wrong", text)
        finally:
            self._telling = False

    def _listen(self) -> None:
        """A signal from the terminal or the session wakes the window's thread, which Python alone would not see."""
        if threading.current_thread() is not threading.main_thread():
            return
        self._ear, self._mouth = socket.socketpair()
        for end in (self._ear, self._mouth):
            end.setblocking(False)
        self._notifier = QSocketNotifier(self._ear.fileno(), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._hear)
        signal.set_wakeup_fd(self._mouth.fileno())
        for name in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            signal.signal(name, self._signalled)

    def _hear(self) -> None:
        with contextlib.suppress(BlockingIOError):
            # Nothing to read means that another wake-up has read it.
            self._ear.recv(64)

    def _signalled(self, _number: int, _frame: FrameType | None) -> None:
        self._end()

    def _end(self) -> None:
        """Leave at once, with the work in the autosave."""
        for window in self.windows():
            try:
                window.session.keep_now()
            except AwlmarkError as trouble:
                sys.stderr.write(f"awlmark: {trouble}\n")
        # Not quit(), which would ask every window first.
        QApplication.exit(0)
