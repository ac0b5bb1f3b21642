"""More than one window: second starts, dropped files, the jobs of the last time."""

import threading
from pathlib import Path

from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication

from awlmark.core.job import file
from awlmark.core.job.model import Job
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk.session import fresh_job
from awlmark.desk.start import icon
from awlmark.desk.window import Window
from awlmark.desk.windows import Windows
from awlmark.handover import hand_over, path_of, read_request
from tests.desk.support import DeskCase


class Several(DeskCase):
    def windows(self, job: Job | None = None) -> Windows:
        first = self.open(job or fresh_job())
        made = Windows(first, lambda job: self.open(job), self.settings)
        self.addCleanup(made.deleteLater)
        return made

    def saved(self, name: str) -> Path:
        path = self.folder / f"{name}.awlmark"
        file.save_job(demo_job(), path)
        return path

    def second(self, asked: dict[str, object]) -> bool:
        """What a second start gets, asked from beside the window's thread."""
        got: list[bool] = []
        thread = threading.Thread(target=lambda: got.append(hand_over(asked)))
        thread.start()
        self.until(lambda: got)
        thread.join()
        self.settle()
        return got[0]

    def paths(self, windows: Windows) -> list[str]:
        return [window.session.path.name if window.session.path else "" for window in windows.shown]

    def test_a_second_start_hands_its_files_over(self) -> None:
        windows = self.windows()
        self.assertFalse(hand_over({"files": [], "demo": None}), "nobody listens yet")
        self.assertTrue(windows.listen())
        one, two = self.saved("one"), self.saved("two")
        self.assertTrue(self.asked_for(one))
        self.assertEqual(self.paths(windows), ["one.awlmark"], "an untouched window takes it")
        self.assertTrue(self.asked_for(two))
        self.assertTrue(self.asked_for(one))
        self.assertEqual(self.paths(windows), ["one.awlmark", "two.awlmark"], "what is open comes to the front")
        self.assertTrue(self.asked_demo())
        self.assertEqual(windows.shown[-1].session.job.name, demo_job(FOUNDRY).name)
        self.assertEqual(len(windows.shown), 3)

    def asked_for(self, *paths: Path) -> bool:
        return self.second({"files": [str(path) for path in paths], "demo": None})

    def asked_demo(self) -> bool:
        return self.second({"files": [], "demo": FOUNDRY})

    def test_a_stranger_on_the_line_is_refused(self) -> None:
        for data in (b"", b"[]", b"{", b'{"files": ["relative"]}', b'{"files": [3]}', b'{"files": "x"}'):
            self.assertIsNone(read_request(data), data)
        self.assertEqual(read_request(b'{"files": ["/a b"], "demo": 3}'), {"files": [Path("/a b")], "demo": None})

    def test_an_address_is_a_path(self) -> None:
        self.assertEqual(path_of("file:///tmp/Cider%20yard.awlmark"), Path("/tmp/Cider yard.awlmark"))
        self.assertEqual(path_of("a/b.awlmark"), Path("a/b.awlmark"))

    def test_a_dropped_file_opens(self) -> None:
        windows = self.windows()
        window, path = windows.all[0], self.saved("dropped")
        told = QMimeData()
        told.setUrls([QUrl.fromLocalFile(str(path))])
        self.drop(window, told)
        self.assertEqual(self.paths(windows), ["dropped.awlmark"])
        self.assertFalse(window.entry.line.acceptDrops())

    def drop(self, window: Window, told: QMimeData) -> None:
        where, act, button, keys = (
            QPoint(300, 300), Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
        )  # fmt: skip
        # As the desktop sends them, so that the window's own handlers are found.
        for event in (
            QDragEnterEvent(where, act, told, button, keys),
            QDropEvent(QPointF(where), act, told, button, keys),
        ):
            QApplication.sendEvent(window, event)
            self.assertTrue(event.isAccepted())
        self.settle()

    def test_the_jobs_of_the_last_time_come_back_where_that_is_wanted(self) -> None:
        windows = self.windows()
        for path in (self.saved("one"), self.saved("two")):
            windows.open(path)
        windows.all[0].keep_open()
        windows.shown[0].close()
        windows.shown[0].close()
        again = self.windows()
        again.reopen()
        self.assertEqual(self.paths(again), ["two.awlmark"], "the first was closed before the second")
        again.all[0].keep_open()
        third = self.windows()
        third.reopen()
        self.assertEqual(self.paths(third), [""])

    def test_the_window_has_a_picture_of_its_own(self) -> None:
        self.open(fresh_job())
        self.assertFalse(icon().isNull())
        self.assertFalse(self.application.windowIcon().isNull())
        self.assertEqual(self.application.desktopFileName(), "awlmark")
