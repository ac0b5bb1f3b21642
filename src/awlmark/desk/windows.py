"""Every window of the program: one a job, opened by hand, by a second start, or as they were the last time."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any, Final

from PySide6.QtCore import QObject, QSettings, QTimer
from PySide6.QtNetwork import QLocalServer, QLocalSocket
from PySide6.QtWidgets import QApplication

from awlmark.core.job.model import Job
from awlmark.desk.file_actions import REOPEN
from awlmark.desk.session import fresh_job
from awlmark.desk.window import Window
from awlmark.handover import MOST_BYTES, address, read_request

LAST: Final = "open_files"
"""Setting: which files were open."""


class Windows(QObject):
    """The windows, and the ear for second starts."""

    def __init__(self, first: Window, make: Callable[[Job], Window], settings: QSettings) -> None:
        super().__init__(QApplication.instance())
        self.all = [first]
        self._make, self._settings = make, settings
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._met)
        self._lines: list[QLocalSocket] = []
        self._watch(first)

    def listen(self) -> bool:
        """Hear second starts; False where another program has the place, or there is none to be had."""
        try:
            Path(address()).parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        except OSError:
            return False  # each start is a program of its own then
        if self._server.listen(address()):
            return True
        # What a killed program left behind answers nobody: whoever came here was not answered.
        QLocalServer.removeServer(address())
        return self._server.listen(address())

    @property
    def shown(self) -> list[Window]:
        """Windows that are open."""
        return [window for window in self.all if window.isVisible()]

    def open(self, path: Path) -> Window:
        """Open a job: the window that has it comes to the front, an untouched one takes it, else it gets its own."""
        there = next((window for window in self.shown if _same(window, path)), None)
        window = there or self._untouched() or self.add(fresh_job())
        if there is None:
            window.files.open(path)
        self.front(window)
        return window

    def add(self, job: Job) -> Window:
        """One more window."""
        window = self._make(job)
        self.all = [*self.shown, window]
        self._watch(window)
        window.show()
        return window

    def front(self, window: Window) -> None:
        """Bring a window before the others."""
        if window.isMinimized():
            window.showNormal()
        window.raise_()
        window.activateWindow()
        QApplication.alert(window)

    def reopen(self) -> None:
        """Open what was open the last time, where that is wanted; a file that is gone is left out."""
        if not self._settings.value(REOPEN, False, bool):
            return
        known = self._settings.value(LAST, [], list)
        for name in known if isinstance(known, list) else []:
            if Path(str(name)).is_file():
                self.open(Path(str(name)))

    def _untouched(self) -> Window | None:
        return next((one for one in self.shown if one.session.path is None and not one.session.unsaved
                     and not one.session.job.legs and not one.session.job.loads), None)  # fmt: skip

    def _watch(self, window: Window) -> None:
        window.open_file = self.open
        window.closing.connect(lambda: self._keep(without=window))
        window.session.filed.connect(lambda: self._keep(without=None))

    def _keep(self, without: Window | None) -> None:
        """Which files are open; those of the last window stay known when it closes."""
        left = [window for window in self.shown if window is not without]
        if left:
            paths = [str(window.session.path) for window in left if window.session.path is not None]
            self._settings.setValue(LAST, paths)

    def _met(self) -> None:
        line = self._server.nextPendingConnection()
        self._lines.append(line)
        line.readyRead.connect(lambda: self._read(line))
        line.disconnected.connect(lambda: self._lines.remove(line))

    def _read(self, line: QLocalSocket) -> None:
        if line.bytesAvailable() > MOST_BYTES:
            line.abort()
            return
        if not line.canReadLine():
            return
        asked = read_request(bytes(line.readLine().data()))
        line.write(b"ok\n" if asked is not None else b"no\n")
        line.flush()
        if asked is not None:
            # Windows are made once the line has had its answer, not within its own signal.
            QTimer.singleShot(0, self, lambda: self.take(asked))

    def take(self, asked: dict[str, Any]) -> None:
        """Do what a second start asks for; with nothing asked one more empty window is what it came for."""
        for path in asked["files"]:
            self.open(path)
        if asked["demo"]:
            from awlmark.data import demo_job

            self.front(self.add(demo_job(asked["demo"])))
        elif not asked["files"]:
            self.front(self._untouched() or self.add(fresh_job()))


def _same(window: Window, path: Path) -> bool:
    held = window.session.path
    try:
        return held is not None and held.samefile(path)
    except OSError:
        return held == path
