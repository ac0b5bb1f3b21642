"""A listener on the accessibility bus, as a screen reader is one, and the program running beside it on a display."""

from __future__ import annotations

import os
import select
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Self

from jeepney import DBusAddress, HeaderFields, MatchRule, Message, message_bus, new_method_call
from jeepney.io.blocking import DBusConnection, open_dbus_connection

ACCESSIBLE = "org.a11y.atspi.Accessible"
ACTION = "org.a11y.atspi.Action"
EVENTS = "org.a11y.atspi.Event.Object"
LAUNCHERS = ("/usr/libexec/at-spi-bus-launcher", "/usr/lib/at-spi2-core/at-spi-bus-launcher")
LIMIT_S = 120.0
"""Only keeps what is broken from hanging."""

PROGRAM = """
import sys
from PySide6.QtCore import QSocketNotifier, Qt
from PySide6.QtGui import QAccessible
from PySide6.QtTest import QTest
from awlmark.data import demo_job
from awlmark.desk.start import make_application, make_window

application = make_application()
window = make_window(demo_job())
window.show()
window.activateWindow()

def take(_socket):
    told = sys.stdin.readline()
    if not told.strip():
        window.session.put_away()
        window.session.undo_stack.setClean()
        window.close()
        application.quit()
    elif told.startswith("key "):
        canvas = window.ladder.canvas
        canvas.setFocus()
        QTest.keyClick(canvas, getattr(Qt.Key, "Key_" + told.split()[1]))
    else:
        window.entry.line.setFocus()
        QTest.keyClicks(window.entry.line, told.strip())
        QTest.keyClick(window.entry.line, Qt.Key.Key_Return)

hears = QSocketNotifier(sys.stdin.fileno(), QSocketNotifier.Type.Read)
hears.activated.connect(take)
application.exec()
"""
"""The demo's window, that types what its input tells it to."""


def missing() -> str:
    """Which part of a desktop that is listened to is not installed; empty where none is missing."""
    wanted = {name: shutil.which(name) for name in ("Xvfb", "dbus-daemon")}
    wanted["at-spi-bus-launcher"] = next((path for path in LAUNCHERS if Path(path).exists()), None)
    return ", ".join(name for name, path in wanted.items() if not path)


Place = tuple[str, str]
"""Connection and path of one object."""


class Desktop:
    """A display, the buses of a desktop, the program, and who listens; closed behind itself."""

    def __init__(self) -> None:
        self._running: list[subprocess.Popen[str]] = []
        self._folder = tempfile.mkdtemp(prefix="awlmark-heard-")
        self.environment = {
            **os.environ, "QT_QPA_PLATFORM": "xcb", "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1",
            "XDG_STATE_HOME": self._folder, "XDG_CONFIG_HOME": self._folder, "XDG_RUNTIME_DIR": self._folder,
        }  # fmt: skip
        for name in ("AT_SPI_BUS_ADDRESS", "WAYLAND_DISPLAY"):
            self.environment.pop(name, None)

    def __enter__(self) -> Self:
        words = ["Xvfb", "-screen", "0", "1400x1000x24", "-nolisten", "tcp", "-displayfd"]
        self.environment["DISPLAY"] = ":" + self._told(words)
        words = ["dbus-daemon", "--session", "--nofork", "--nopidfile", "--print-address"]
        self.environment["DBUS_SESSION_BUS_ADDRESS"] = self._told(words, equals=True)
        launcher = next(path for path in LAUNCHERS if Path(path).exists())
        self._start([launcher, "--launch-immediately"], stdout=subprocess.DEVNULL)
        self.bus: DBusConnection = open_dbus_connection(self._accessibility_bus())
        self.bus.send_and_get_reply(message_bus.AddMatch(MatchRule(type="signal", interface=EVENTS)))
        registry = DBusAddress("/org/a11y/atspi/registry", "org.a11y.atspi.Registry", "org.a11y.atspi.Registry")
        for kind in ("object:announcement", "object:state-changed:focused"):
            # A program only tells what somebody asked for.
            self.bus.send_and_get_reply(new_method_call(registry, "RegisterEvent", "sass", (kind, [], "")))
        self.program = self._start([sys.executable, "-c", PROGRAM], stdin=subprocess.PIPE)
        return self

    def __exit__(self, *_problem: object) -> None:
        self.program.communicate("\n", timeout=LIMIT_S)
        self.bus.close()
        for process in reversed(self._running):
            process.terminate()
            process.wait(timeout=LIMIT_S)
        shutil.rmtree(self._folder, ignore_errors=True)

    def _accessibility_bus(self) -> str:
        """Its address, once the launcher is there to tell it."""
        session = open_dbus_connection(self.environment["DBUS_SESSION_BUS_ADDRESS"])
        bus = DBusAddress("/org/a11y/bus", "org.a11y.Bus", "org.a11y.Bus")
        limit = time.monotonic() + LIMIT_S
        told = ""
        while not told.startswith("unix:"):
            assert time.monotonic() < limit, f"The accessibility bus does not come: {told}"
            told = str(session.send_and_get_reply(new_method_call(bus, "GetAddress")).body[0])
        session.close()
        return told

    def _start(self, words: list[str], **options: Any) -> subprocess.Popen[str]:
        process = subprocess.Popen(words, env=self.environment, text=True, stderr=subprocess.DEVNULL, **options)
        self._running.append(process)
        return process

    def _told(self, words: list[str], *, equals: bool = False) -> str:
        """Start what tells its address on a pipe of its own; that address."""
        reader, writer = os.pipe()
        last = [f"{words.pop()}={writer}"] if equals else [words.pop(), str(writer)]
        self._start([*words, *last], pass_fds=[writer])
        os.close(writer)
        with os.fdopen(reader) as told:
            return told.readline().strip()

    # -- what it is told to do --------------------------------------------------------------------------------------

    def type(self, words: str) -> None:
        """Type an entry and take it; ``key Home`` presses a key in the ladder."""
        assert self.program.stdin is not None
        self.program.stdin.write(words + "\n")
        self.program.stdin.flush()

    # -- what is there to be read -----------------------------------------------------------------------------------

    def ask(self, place: Place, interface: str, method: str, signature: str | None = None, *words: object) -> Any:
        """Answer of one object to one question."""
        address = DBusAddress(place[1], place[0], interface)
        return self.bus.send_and_get_reply(new_method_call(address, method, signature, words)).body[0]

    def name(self, place: Place) -> str:
        """What a reader calls it."""
        told = self.ask(place, "org.freedesktop.DBus.Properties", "Get", "ss", ACCESSIBLE, "Name")
        return str(told[1])

    def description(self, place: Place) -> str:
        """What a reader adds."""
        told = self.ask(place, "org.freedesktop.DBus.Properties", "Get", "ss", ACCESSIBLE, "Description")
        return str(told[1])

    def role(self, place: Place) -> str:
        """What a reader says it is."""
        return str(self.ask(place, ACCESSIBLE, "GetRoleName"))

    def children(self, place: Place) -> list[Place]:
        """What stands in it."""
        return [(str(bus), str(path)) for bus, path in self.ask(place, ACCESSIBLE, "GetChildren")]

    def window(self) -> Place:
        """The program's window, once it is there."""
        limit = time.monotonic() + LIMIT_S
        while time.monotonic() < limit:
            root = ("org.a11y.atspi.Registry", "/org/a11y/atspi/accessible/root")
            for program in self.children(root):
                for window in self.children(program):
                    return window
            select.select([], [], [], 0.05)
        raise AssertionError("No window came.")

    def canvases(self, place: Place) -> dict[str, Place]:
        """Every drawing under an object, by name."""
        if self.role(place) == "canvas":
            return {self.name(place): place}
        return {name: found for child in self.children(place) for name, found in self.canvases(child).items()}

    # -- what is said -----------------------------------------------------------------------------------------------

    def hear(self, words: str) -> str:
        """Wait until something is announced that has these words in it; all of it."""
        said = (str(signal.body[3][1]) for signal in self._signals("Announcement"))
        return next(told for told in said if words in told)

    def focus(self) -> Place:
        """Wait until the focus comes to an object; which."""
        signal = next(one for one in self._signals("StateChanged") if one.body[:2] == ("focused", 1))
        fields = signal.header.fields
        return str(fields[HeaderFields.sender]), str(fields[HeaderFields.path])

    def _signals(self, kind: str) -> Iterator[Message]:
        """What comes over the bus from now on."""
        with self.bus.filter(MatchRule(type="signal", interface=EVENTS, member=kind), bufsize=4096) as queue:
            while True:
                yield self.bus.recv_until_filtered(queue, timeout=LIMIT_S)
