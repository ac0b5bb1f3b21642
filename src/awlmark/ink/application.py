"""Painting without a window: fonts and PDF need a Qt application, of whatever kind there is."""

from __future__ import annotations

import os

from PySide6.QtCore import QCoreApplication
from PySide6.QtGui import QGuiApplication

from awlmark.ink.fonts import load_fonts


def offscreen_application() -> QCoreApplication:
    """The running application, or one without a screen made for the purpose; the caller keeps it."""
    application = QCoreApplication.instance()
    if application is None:
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
        application = QGuiApplication(["awlmark"])
    load_fonts()
    return application
