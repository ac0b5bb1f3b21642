"""Starting the application."""

from __future__ import annotations

import gc
import os
import sys
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QSettings, QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication

from awlmark.core.errors import AwlmarkError
from awlmark.core.job import autosave
from awlmark.core.job.model import Job
from awlmark.desk import theme
from awlmark.desk.session import Session, fresh_job
from awlmark.desk.window import Window
from awlmark.ink.fonts import load_fonts

TIDY_MS = 300
"""After the last edit or look garbage is collected."""
SETTLE_MS = 400
"""From the window shown to the clearing up after start-up, so that the first paint does not wait for it."""


def config_path() -> Path:
    """Where preferences live; nothing that changes a result is among them."""
    base = os.environ.get("XDG_CONFIG_HOME") or str(Path.home() / ".config")
    return Path(base) / "awlmark" / "awlmark.ini"


def make_application() -> QApplication:
    """The Qt application, dressed; no display means the offscreen platform."""
    if not (os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    existing = QApplication.instance()
    # The style as a word of the command line: asking for it as an object makes all that a style can be asked.
    words = [*sys.argv[:1], "-style", "fusion"]
    application = existing if isinstance(existing, QApplication) else QApplication(words)
    application.setApplicationName("Awlmark")
    load_fonts()
    return application


def make_window(job: Job, path: Path | None = None, settings: QSettings | None = None) -> Window:
    """A dressed window on a job."""
    settings = settings or QSettings(str(config_path()), QSettings.Format.IniFormat)
    application = QApplication.instance()
    assert isinstance(application, QApplication)
    window = Window(Session(job, path), settings)
    theme.dress(application, window.dark)
    # Garbage is not collected while an edit is drawn, which it would hold up, and on this thread alone: what belongs to
    # Qt must not be found dead, and cleared away, by another. The timer outlives any window.
    gc.disable()
    tidying = QTimer(application, singleShot=True, interval=TIDY_MS)
    tidying.timeout.connect(gc.collect)
    window.session.solved.connect(tidying.start)
    window.session.looked.connect(tidying.start)
    QGuiApplication.styleHints().colorSchemeChanged.connect(window.follow_desktop)
    return window


def show(demo: bool) -> Window:
    """The window, shown, on the demo or on an empty job."""
    make_application()
    if demo:
        from awlmark.data import demo_job

        window = make_window(demo_job())
    else:
        window = make_window(fresh_job())
    window.show()
    QTimer.singleShot(SETTLE_MS, window, settled)
    return window


def settled() -> None:
    """What start-up made stays: later collections need not look at it."""
    gc.collect()
    gc.freeze()


def start(file: Path | None, *, demo: bool = False) -> int:
    """Run the desk on a file, on the demo, or on an empty job."""
    window = show(demo)
    _guard(window)
    if not window.files.recover() and file is not None:
        window.files.open(file)
    return QApplication.exec()


def _guard(window: Window) -> None:
    """Anything unforeseen is logged and told, with the work already kept."""

    def caught(kind: type[BaseException], problem: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            QApplication.quit()
            return
        import traceback

        log = autosave.state_folder() / "awlmark.log"
        kept = "Your work is kept in the autosave."
        try:
            window.session.keep_now()
            with log.open("a", encoding="utf-8") as out:
                out.write("".join(traceback.format_exception(kind, problem, trace)))
        except (AwlmarkError, OSError) as trouble:
            kept = f"Save your work now: the autosave could not be written ({trouble})."
        window.files.tell(
            "Something went wrong", f"Awlmark met something unforeseen ({kind.__name__}). {kept} The log is {log}."
        )

    sys.excepthook = caught
