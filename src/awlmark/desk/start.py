"""Starting the application."""

from __future__ import annotations

import gc
import sys
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QSettings, QTimer
from PySide6.QtGui import QGuiApplication, QIcon
from PySide6.QtWidgets import QApplication

import awlmark.data
from awlmark.core.job import autosave
from awlmark.core.job.model import Job
from awlmark.core.shelf import NEWEST
from awlmark.desk import accessible, theme
from awlmark.desk.guard import Guard
from awlmark.desk.session import Session, fresh_job
from awlmark.desk.timers import once_after
from awlmark.desk.window import Window
from awlmark.desk.windows import Windows
from awlmark.ink.fonts import load_fonts

TIDY_MS = 300
"""After the last edit or look garbage is collected."""
SETTLE_MS = 400
"""From the window shown to the clearing up after start-up, so that the first paint does not wait for it."""


def config_path() -> Path:
    """Where preferences live; nothing that changes a result is among them."""
    return autosave.home_of("XDG_CONFIG_HOME", ".config") / "awlmark" / "awlmark.ini"


def make_application() -> QApplication:
    """The Qt application, dressed."""
    existing = QApplication.instance()
    # The style as a word of the command line: asking for it as an object makes all that a style can be asked.
    words = [*sys.argv[:1], "-style", "fusion"]
    application = existing if isinstance(existing, QApplication) else QApplication(words)
    application.setApplicationName("Awlmark")
    application.setDesktopFileName("awlmark")
    application.setWindowIcon(icon())
    accessible.install()
    load_fonts()
    return application


def icon() -> QIcon:
    """The program's own: an awl over a marked tape."""
    return QIcon(str(Path(awlmark.data.__file__).with_name("awlmark.svg")))


def make_window(job: Job, path: Path | None = None, settings: QSettings | None = None) -> Window:
    """A dressed window on a job."""
    settings = settings or QSettings(str(config_path()), QSettings.Format.IniFormat)
    application = QApplication.instance()
    assert isinstance(application, QApplication)
    window = Window(Session(job, path), settings)
    theme.dress(application, window.scheme, window.text_scale)
    # Garbage is not collected while an edit is drawn, which it would hold up, and on this thread alone: what belongs to
    # Qt must not be found dead, and cleared away, by another. The timer outlives any window.
    gc.disable()
    tidying = window.tidying = once_after(application, TIDY_MS, gc.collect)
    window.session.solved.connect(tidying.start)
    window.session.looked.connect(tidying.start)
    hints = QGuiApplication.styleHints()
    hints.colorSchemeChanged.connect(window.follow_desktop)
    hints.accessibility().contrastPreferenceChanged.connect(window.follow_desktop)
    return window


def show(demo: bool, code: str = NEWEST) -> Window:
    """The window, shown, on the demo of a rule book or on an empty job."""
    make_application()
    if demo:
        from awlmark.data import demo_job

        window = make_window(demo_job(code))
    else:
        window = make_window(fresh_job())
        fresh = window.sheet.fresh()
        if replace(fresh, id=window.session.job.id) != window.session.job:
            window.session.open(fresh, None)
        window.session.see(stage="run", start=True)
    window.show()
    QTimer.singleShot(SETTLE_MS, window, settled)
    return window


def settled() -> None:
    """What start-up made stays: later collections need not look at it."""
    gc.collect()
    gc.freeze()


def start(files: list[Path], *, demo: bool = False, code: str = NEWEST) -> int:
    """Run the desk on files, each in a window of its own, on the demo, or on an empty job."""
    window = show(demo) if code == NEWEST else show(demo, code)
    windows = Windows(window, lambda job: make_window(job, settings=window.settings), window.settings)
    Guard(window).windows = lambda: windows.shown
    windows.listen()
    file = files[0] if files else None
    if not window.files.recover(file) and file is not None:
        window.files.open(file)
    for path in files[1:]:
        windows.open(path)
    if not files and not demo:
        windows.reopen()
    if window.files.waiting:
        window.entry.say("Unsaved work on another job was left behind: Job > Unsaved work left behind.")
    return QApplication.exec()
