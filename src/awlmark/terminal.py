"""The terminal's side of the command: what it can show, what it cannot take, and what nobody foresaw."""

from __future__ import annotations

import codecs
import errno
import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Final

from awlmark.core.errors import AwlmarkError

INPUT: Final = 2
"""Exit status for what cannot be used, or cannot be done here."""
UNFORESEEN: Final = 3
STOPPED: Final = 130
"""Exit status after Ctrl+C, as shells know it."""
_NO_ROOM: Final = (errno.ENOSPC, errno.EDQUOT, errno.EFBIG, errno.EIO, errno.EBADF)
"""Files of ours answer for themselves: what comes here is the terminal, or what it was led into."""
FIRST_PORT: Final = 6000
"""Of the first X display that is reached over a line; ssh leads the tenth and later ones here."""
PATIENCE_S: Final = 3.0
"""How long a display at the other end may take."""
OF_QT: Final = (
    ("libEGL.so.1", "libegl1"), ("libGL.so.1", "libgl1"), ("libxkbcommon.so.0", "libxkbcommon0"),
    ("libdbus-1.so.3", "libdbus-1-3"), ("libfontconfig.so.1", "libfontconfig1"), ("libglib-2.0.so.0", "libglib2.0-0"),
)  # fmt: skip
OF_X11: Final = (
    ("libxcb-cursor.so.0", "libxcb-cursor0"), ("libxcb-icccm.so.4", "libxcb-icccm4"),
    ("libxcb-image.so.0", "libxcb-image0"), ("libxcb-keysyms.so.1", "libxcb-keysyms1"),
    ("libxcb-render-util.so.0", "libxcb-render-util0"), ("libxkbcommon-x11.so.0", "libxkbcommon-x11-0"),
)  # fmt: skip
"""Libraries that Qt loads, and the Debian packages that bring them."""
_SPELLED: Final = {
    "°": " deg ", "×": "x", "–": "-", "…": "...", "¾": "3/4", "½": "1/2", "¼": "1/4", "′": "'", "″": '"', "Ω": "ohm",
    "²": "2", "³": "3", "µ": "u", "“": '"', "”": '"', "’": "'", "≥": ">=", "≤": "<=",
}  # fmt: skip


def run_command(run: Callable[[list[str]], int], given: list[str]) -> int:
    """Run a command and its exit status; every trouble is one line on stderr, none is a traceback.

    Parameters
    ----------
    run : callable
        Takes the words behind the command's name, returns the exit status.
    given : list of str
        Those words.
    """
    _spell_out()
    try:
        status = run(given)
        sys.stdout.flush()
        return status
    except AwlmarkError as problem:
        return _say(str(problem), INPUT)
    except BrokenPipeError:
        # The reader of our output went away (head, less): nothing is left to tell it.
        _drop_output()
        return 0
    except KeyboardInterrupt:
        return _say("stopped", STOPPED)
    except Exception as problem:  # noqa: BLE001 - logged, told, and its own exit status
        if isinstance(problem, OSError) and problem.errno in _NO_ROOM:
            return _say(f"the output can't be written: {(problem.strerror or str(problem)).lower()}", INPUT)
        from awlmark.core.record import record

        where = record(type(problem), problem, problem.__traceback__)
        return _say(f"something unforeseen happened ({type(problem).__name__}). {where}", UNFORESEEN)


def wants_a_display() -> None:
    """Refuse to open a window that nobody could see.

    Raises
    ------
    AwlmarkError
        Where there is no display; it says what works without one.
    """
    if os.environ.get("QT_QPA_PLATFORM") or os.environ.get("WAYLAND_SOCKET"):
        return
    modern, name = os.environ.get("WAYLAND_DISPLAY", ""), os.environ.get("DISPLAY", "")
    place = Path(os.environ.get("XDG_RUNTIME_DIR", "")) / modern
    if (modern and _takes(str(place))) or (name and _answers(name)):
        return
    told = " and ".join(filter(None, (modern, name)))
    why = f"the display {told} does not answer" if told else "there is no display"
    raise AwlmarkError(f"No window can be shown here: {why}. 'awlmark check FILE' and 'awlmark size' work without one.")


def wants_libraries() -> None:
    """Refuse to start Qt without what it needs of the system: it would say so in its own words and abort.

    Raises
    ------
    AwlmarkError
        Naming the packages that bring what is missing.
    """
    import ctypes

    platform = os.environ.get("QT_QPA_PLATFORM", "").partition(":")[0]
    on_x11 = platform == "xcb" or (not platform and not os.environ.get("WAYLAND_DISPLAY"))
    missing = []
    for library, package in (*OF_QT, *(OF_X11 if on_x11 else ())):
        try:
            ctypes.CDLL(library)
        except OSError:
            missing.append(package)
    if missing:
        raise AwlmarkError(
            f"Qt needs what is not installed here: {', '.join(missing)}. On Debian and Ubuntu: "
            f"sudo apt-get install {' '.join(missing)}"
        )


def _answers(name: str) -> bool:
    """Whether an X display takes connections, here or at the other end of a line."""
    import socket

    host, _, rest = name.rpartition(":")
    number = rest.partition(".")[0]
    if "/" in name:  # a socket by its path, with or without the screen's number behind it
        path = name.removeprefix("unix:")
        return _takes(path) or _takes(path.rpartition(":")[0])
    if not number.isdigit():
        return False
    if host in ("", "unix"):
        return any(_takes(place) for place in (f"\0/tmp/.X11-unix/X{number}", f"/tmp/.X11-unix/X{number}"))
    try:
        socket.create_connection((host.strip("[]"), FIRST_PORT + int(number)), PATIENCE_S).close()
    except OSError:
        return False
    return True


def _takes(place: str) -> bool:
    """Whether somebody listens at a socket of this machine."""
    import socket

    with socket.socket(socket.AF_UNIX) as probe:
        try:
            return probe.connect_ex(place) == 0
        except OSError:  # a name too long for one
            return False


def nearest(word: str, known: tuple[str, ...]) -> str:
    """What a word that is no command was perhaps meant for, as words to add to a message."""
    import difflib

    close = difflib.get_close_matches(word, known, 1, 0.6)
    return f" Did you mean '{close[0]}'?" if close else ""


def _say(text: str, status: int) -> int:
    _drop_output()
    sys.stderr.write("awlmark: " + " ".join(text.split()) + "\n")
    return status


def _drop_output() -> None:
    """What is still unwritten goes nowhere: the interpreter would try once more at its end."""
    out = sys.__stdout__
    if out is not None and sys.stdout is out:
        os.dup2(os.open(os.devnull, os.O_WRONLY), out.fileno())


def _spell_out() -> None:
    """A terminal that cannot show a sign gets it spelled out."""
    codecs.register_error("awlmark-spelled", _spelled)
    for stream in (sys.stdout, sys.stderr):
        if stream is sys.__stdout__ or stream is sys.__stderr__:
            stream.reconfigure(errors="awlmark-spelled")  # type: ignore[union-attr]


def _spelled(problem: UnicodeError) -> tuple[str, int]:
    assert isinstance(problem, UnicodeEncodeError)
    signs = problem.object[problem.start : problem.end]
    return "".join(_SPELLED.get(sign, "?") for sign in signs), problem.end
