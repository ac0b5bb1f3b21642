"""Smoke passes in real windows, on X with a window manager and on Wayland: the demo opens, is typed into and paints.

Each runs where its programs are installed; what is not is said. ``tools/system_libraries.sh desktop`` installs them.
"""

from __future__ import annotations

import contextlib
import os
import shutil
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

SOCKET = "wayland-7"
SIZE = (1366, 768)
"""Of the screen: a common laptop's [px]."""
PASS = """
import sys
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from awlmark.data import demo_job
from awlmark.desk.start import make_application, make_window

application = make_application()
platform, managed = sys.argv[1], sys.argv[2] == "managed"
assert QGuiApplication.platformName() == platform, QGuiApplication.platformName()
window = make_window(demo_job())
window.show()
assert QTest.qWaitForWindowExposed(window, 10000)
window.activateWindow()
if managed:
    assert QTest.qWaitForWindowActive(window, 10000)
    for _ in range(100):
        if window.frameGeometry().height() > window.height() and window.screen().availableGeometry().contains(
            window.frameGeometry()
        ):
            break
        QTest.qWait(100)
    else:
        raise AssertionError(f"framed and on its screen: {window.frameGeometry()}")
for stage in (Qt.Key.Key_1, Qt.Key.Key_5, Qt.Key.Key_6, Qt.Key.Key_4):
    QTest.keyClick(window.entry.line, stage, Qt.KeyboardModifier.ControlModifier)
    QTest.qWait(100)
QTest.keyClicks(window.entry.line, "6 nm")
QTest.keyClick(window.entry.line, Qt.Key.Key_Return)
QTest.qWait(200)
assert window.session.design.stops, "the mistake must break the line"
if window.isActiveWindow():
    QTest.keyClick(window.entry.line, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
else:
    window.undo()  # a compositor without a keyboard activates nothing, and shortcuts go to what is active
QTest.qWait(100)
assert window.session.design.verdict == "holds", window.session.design.verdict
# Wayland shows no program what stands on the screen.
seen = window.screen().grabWindow(window.winId()) if platform == "xcb" else window.grab()
picture = seen.toImage()
colours = {picture.pixelColor(x, y).name() for x in range(0, picture.width(), 7) for y in range(0, picture.height(), 7)}
assert picture.width() >= 1120 and len(colours) > 8, (picture.width(), len(colours))
window.session.put_away()
window.session.undo_stack.setClean()
assert window.close()
print(picture.width(), "x", picture.height(), "pixels,", len(colours), "colours")
"""


@contextlib.contextmanager
def running(words: list[str], **environment: str) -> Iterator[subprocess.Popen[bytes]]:
    """A program beside the pass."""
    process = subprocess.Popen(words, env={**os.environ, **environment}, stdout=subprocess.DEVNULL,
                               stderr=subprocess.DEVNULL)  # fmt: skip
    try:
        yield process
    finally:
        process.terminate()
        process.wait()


@contextlib.contextmanager
def x_server() -> Iterator[str]:
    """A display of our own."""
    reader, writer = os.pipe()
    words = ["Xvfb", "-displayfd", str(writer), "-screen", "0", f"{SIZE[0]}x{SIZE[1]}x24", "-nolisten", "tcp"]
    server = subprocess.Popen(words, pass_fds=[writer], stderr=subprocess.DEVNULL)
    os.close(writer)
    with os.fdopen(reader) as told:
        name = ":" + told.readline().strip()
    try:
        yield name
    finally:
        server.terminate()
        server.wait()


@contextlib.contextmanager
def compositor(folder: str) -> Iterator[str]:
    """A Wayland compositor without a screen."""
    words = ["weston", "--backend=headless-backend.so", f"--socket={SOCKET}", "--idle-time=0", f"--width={SIZE[0]}",
             f"--height={SIZE[1]}", f"--log={folder}/weston.log"]  # fmt: skip
    with running(words, XDG_RUNTIME_DIR=folder):
        limit = time.monotonic() + 20
        with socket.socket(socket.AF_UNIX) as line:
            while line.connect_ex(f"{folder}/{SOCKET}") and time.monotonic() < limit:
                time.sleep(0.05)
        yield SOCKET


def one_pass(name: str, platform: str, managed: bool, state: str, **environment: str) -> int:
    """Run the pass once; returns its exit status."""
    began = time.monotonic()
    told = {**os.environ, "QT_QPA_PLATFORM": platform, "XDG_STATE_HOME": state, "XDG_CONFIG_HOME": state, **environment}
    words = [sys.executable, "-W", "error", "-c", PASS, platform, "managed" if managed else "bare"]
    done = subprocess.run(words, env=told, check=False, timeout=120, capture_output=True, text=True)
    said = done.stdout.strip() if done.returncode == 0 else f"FAILED\n{done.stdout}{done.stderr}"
    print(f"real window, {name}: {said} ({time.monotonic() - began:.1f} s)")
    return done.returncode


def main() -> int:
    """Run the passes; returns the exit status."""
    state, status = tempfile.mkdtemp(prefix="awlmark-real-"), 0
    Path(state).chmod(0o700)
    try:
        with x_server() as display:
            if shutil.which("openbox"):
                with running(["openbox"], DISPLAY=display):
                    status |= one_pass("X11 with a window manager", "xcb", True, state, DISPLAY=display)
            else:
                print("real window: no window manager is installed (openbox); without one:")
                status |= one_pass("X11", "xcb", False, state, DISPLAY=display)
        if shutil.which("weston"):
            with compositor(state) as name:
                shown = {"XDG_RUNTIME_DIR": state, "WAYLAND_DISPLAY": name}
                status |= one_pass("Wayland", "wayland", False, state, **shown)
        else:
            print("real window: no Wayland compositor is installed (weston); not tried there")
        return status
    finally:
        shutil.rmtree(state, ignore_errors=True)


if __name__ == "__main__":
    sys.exit(main())
