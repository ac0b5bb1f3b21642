"""Driving the real window on the offscreen platform."""

from __future__ import annotations

import csv
import gc
import os
import re
import tempfile
import time
import unittest
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

from tests.support import LONG, OFFSCREEN, STATE

os.environ.setdefault("QT_QPA_PLATFORM", OFFSCREEN)

from PySide6.QtCore import QCoreApplication, QEvent, QPoint, QSettings, Qt, QTimer, QtMsgType, qInstallMessageHandler
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QWidget

from awlmark.core.job.model import Job
from awlmark.core.prove.log import HEADS, must_tests
from awlmark.core.prove.test import YES
from awlmark.core.solve.design import Design
from awlmark.core.standing import STAGES
from awlmark.desk.dialogs.guide import guide_text
from awlmark.desk.region import Canvas
from awlmark.desk.start import make_application, make_window
from awlmark.desk.window import Window

OPENED = ("connections", "audit", "verdict_tables", "what_is_checked", "about", "export", "print_out", "show_guide",
          "true_size")  # fmt: skip
"""What the menus open, beside the desk itself."""
ALLOWED_WARNINGS = (
    "This plugin does not support propagateSizeHints()",  # the offscreen platform has no window manager
    "This plugin does not support raise()",  # nor a stack of windows
    "This plugin does not support grabbing the keyboard",  # nor a keyboard that a menu could take
)
_warnings: list[str] = []


def _heard(kind: QtMsgType, _context: object, text: str) -> None:
    if kind in (QtMsgType.QtWarningMsg, QtMsgType.QtCriticalMsg) and not text.startswith(ALLOWED_WARNINGS):
        _warnings.append(text)


def guide_lines(name: str = "guide.md") -> list[str]:
    """What a guide says to type, in its order; a line with ``# 18 times`` as often."""
    found = []
    for block in re.findall(r"^```\n(.*?)^```", guide_text(name), re.MULTILINE | re.DOTALL):
        for line in block.splitlines():
            words, _, note = line.partition("#")
            found += [words.strip()] * (int(note.split()[0]) if note else 1)
    return [line for line in found if line != "help"]


def meter_file(design: Design, path: Path) -> None:
    """Write what a meter would give for every test that a design must pass, each well within its band."""
    with path.open("w", encoding="utf-8", newline="") as file:
        table = csv.writer(file)
        table.writerow(HEADS)
        for test in must_tests(design):
            value = "yes" if test.unit == YES else f"{test.low + 0.4 * (min(test.high, test.low + 2e6) - test.low):.4g}"
            unit = "" if test.unit == YES else test.unit
            table.writerow([test.key, value, unit, "2026-05-12 15:10", "R. Vale", "tester 3"] + [""] * (len(HEADS) - 6))


class DeskCase(unittest.TestCase):
    """A shown window a test; Qt warnings fail."""

    job: Job | None = None

    @classmethod
    def setUpClass(cls) -> None:
        cls.application = make_application()
        qInstallMessageHandler(_heard)

    @classmethod
    def tearDownClass(cls) -> None:
        qInstallMessageHandler(None)
        gc.collect()
        gc.enable()  # the window had switched it off

    def setUp(self) -> None:
        _warnings.clear()
        holder = tempfile.TemporaryDirectory(dir=STATE)
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)
        self.settings = QSettings(str(self.folder / "desk.ini"), QSettings.Format.IniFormat)
        self.answers: list[str] = []
        self.asked: list[str] = []

    def tearDown(self) -> None:
        self.assertEqual(_warnings, [])

    def open(self, job: Job, width: int = 1280, height: int = 800, path: Path | None = None) -> Window:
        """Show a window whose questions are answered from ``self.answers``."""
        window = make_window(job, path, self.settings)

        def ask(title: str, text: str, offered: tuple[str, ...]) -> str:
            self.asked.append(f"{title}: {text}")
            answer = self.answers.pop(0) if self.answers else offered[-1]
            self.assertIn(answer, offered)
            return answer

        window.files.ask = ask  # type: ignore[method-assign]
        window.resize(width, height)
        window.show()
        self.addCleanup(self._put_away, window)
        self.settle()
        return window

    def _put_away(self, window: Window) -> None:
        window.session.put_away()
        window.session.undo_stack.clear()  # its steps must not outlive it: they are Python's
        window.session._recovered = False
        window.close()
        window.deleteLater()
        # No event loop runs here that would clear it away; each that is left is dressed with all the others.
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)

    def settle(self) -> None:
        """Let the window paint and price its fixes."""
        for _ in range(6):
            self.application.processEvents()
        for window in self.application.topLevelWidgets():
            if isinstance(window, Window) and window.pricing.isActive():
                window.pricing.stop()
                window.session.price_fixes()
                for _ in range(3):
                    self.application.processEvents()

    def everywhere(self, window: Window, stages: Sequence[str] = STAGES) -> Iterator[tuple[str, list[QWidget]]]:
        """Everything a window can show, one after another: its name, and the window with the dialogs that are open."""

        def now(name: str) -> tuple[str, list[QWidget]]:
            self.settle()
            return name, [window, *(dialog for dialog in window.findChildren(QDialog) if dialog.isVisible())]

        for stage in stages:
            window.session.see(stage=stage)
            yield now(stage)
            window.swap_list()
            yield now(f"{stage} list")
            window.swap_list()
        window.key_card()
        for stage in stages:
            window._words.show_for(stage, window.session.job.code)  # type: ignore[union-attr]
            yield now(f"words {stage}")
        window.key_card()
        for name in OPENED:
            getattr(window, name)()
            yield now(name)
            for dialog in window.findChildren(QDialog):
                dialog.close()
        window.look_round()
        yield now("look round")
        window._tour.end()  # type: ignore[union-attr]
        window.practise()
        yield now("practice")
        window.session.see(start=True)
        yield now("start")

    def ring(self, timer: QTimer) -> None:
        """What a timer that is running would do at its time; nothing where it is not."""
        if timer.isActive():
            timer.stop()
            timer.timeout.emit()
            self.settle()

    def until(self, done: Callable[[], object]) -> None:
        """Let the window run until something is so; the limit only keeps a broken test from hanging."""
        limit = time.monotonic() + 120
        while not done():
            self.application.processEvents()
            if time.monotonic() > limit:
                self.fail("It never came about.")

    def read(self, window: Window) -> None:
        """Wait until what is being read off the window's thread is taken or refused."""
        self.until(lambda: window._reading is None)
        self.settle()

    def type(self, window: Window, text: str) -> int:
        """Type an entry and commit it; returns the key presses it took."""
        window.entry.line.setFocus()
        QTest.keyClicks(window.entry.line, text)
        QTest.keyClick(window.entry.line, Qt.Key.Key_Return)
        self.settle()
        return len(text) + 1

    def type_guide(self, window: Window, lines: list[str]) -> None:
        """Type a guide: key by key in the long target, here every fourth line, the others at once as from a paste."""
        for number, line in enumerate(lines):
            if LONG or number % 4 == 0:
                self.type(window, line)
            else:
                window.entry.line.setText(line)
                self.key(window.entry.line, Qt.Key.Key_Return)
            self.assertEqual(window.entry.line.text(), "", line)

    def key(self, widget: QWidget, key: Qt.Key, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        """Press one key."""
        QTest.keyClick(widget, key, modifier)
        self.settle()

    def click(self, canvas: Canvas, hit_id: str) -> None:
        """Click what a drawing shows."""
        hit = next(hit for hit in reversed(canvas.picture.hits) if hit.id == hit_id)
        QTest.mouseClick(
            canvas, Qt.MouseButton.LeftButton, pos=QPoint(round(hit.x + hit.w / 2), round(hit.y + hit.h / 2))
        )
        self.settle()
