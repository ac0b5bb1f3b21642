"""Smoke pass in a real window: under Xvfb (or the display at hand) the demo opens, is typed into, and paints."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time

PASS = """
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from awlmark.data import demo_job
from awlmark.desk.start import make_application, make_window

application = make_application()
assert QGuiApplication.platformName() == "xcb", QGuiApplication.platformName()
window = make_window(demo_job())
window.show()
assert QTest.qWaitForWindowExposed(window, 10000)
window.activateWindow()
for stage in (Qt.Key.Key_1, Qt.Key.Key_5, Qt.Key.Key_6, Qt.Key.Key_4):
    QTest.keyClick(window.entry.line, stage, Qt.KeyboardModifier.ControlModifier)
    QTest.qWait(100)
QTest.keyClicks(window.entry.line, "6 nm")
QTest.keyClick(window.entry.line, Qt.Key.Key_Return)
QTest.qWait(200)
assert window.session.design.stops, "the mistake must break the line"
QTest.keyClick(window.entry.line, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
QTest.qWait(100)
assert window.session.design.verdict == "holds", window.session.design.verdict
picture = window.screen().grabWindow(window.winId()).toImage()
colours = {picture.pixelColor(x, y).name() for x in range(0, picture.width(), 7) for y in range(0, picture.height(), 7)}
assert picture.width() >= 1120 and len(colours) > 8, (picture.width(), len(colours))
window.session.put_away()
window.session.undo_stack.setClean()
assert window.close()
print("real window: ok,", picture.width(), "x", picture.height(), "pixels,", len(colours), "colours")
"""


def main() -> int:
    """Run the pass; returns its exit status."""
    state = tempfile.mkdtemp(prefix="awlmark-real-")
    environment = {**os.environ, "QT_QPA_PLATFORM": "xcb", "XDG_STATE_HOME": state, "XDG_CONFIG_HOME": state}
    server = None
    if not environment.get("DISPLAY"):
        reader, writer = os.pipe()
        words = [
            shutil.which("Xvfb") or "Xvfb",
            "-displayfd",
            str(writer),
            "-screen",
            "0",
            "1400x1000x24",
            "-nolisten",
            "tcp",
        ]
        server = subprocess.Popen(words, pass_fds=[writer], stderr=subprocess.DEVNULL)
        os.close(writer)
        with os.fdopen(reader) as told:
            environment["DISPLAY"] = ":" + told.readline().strip()
    try:
        began = time.monotonic()
        status = subprocess.run(
            [sys.executable, "-W", "error", "-c", PASS], env=environment, check=False, timeout=120
        ).returncode
        print(f"real window: status {status} after {time.monotonic() - began:.1f} s")
        return status
    finally:
        if server is not None:
            server.terminate()
            server.wait()
        shutil.rmtree(state, ignore_errors=True)


if __name__ == "__main__":
    sys.exit(main())
