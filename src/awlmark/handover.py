"""One program, a window a job: a second start hands its files to the one that runs, over a socket of the user's own."""

from __future__ import annotations

import hashlib
import json
import os
import socket
import tempfile
from pathlib import Path
from typing import Any, Final
from urllib.parse import unquote, urlsplit

from awlmark.core.job.autosave import state_folder

PATIENCE_S: Final = 2.0
"""How long the running program has to answer; one that hangs is left alone, and another starts."""
LONGEST: Final = 100
"""Bytes that the name of a socket may have, with some to spare."""
MOST_BYTES: Final = 2**20


def path_of(word: str) -> Path:
    """A file as it is told: a path, or the ``file://`` address that file managers hand over."""
    if not word.lower().startswith("file:"):
        return Path(word)
    return Path(unquote(urlsplit(word).path))


def address() -> str:
    """Where the running program listens: in the folder of its work, or for short where that name is too long."""
    own = str(state_folder() / "desk.socket")
    if len(os.fsencode(own)) < LONGEST:
        return own
    which = hashlib.sha256(os.fsencode(state_folder())).hexdigest()[:12]
    return str(Path(tempfile.gettempdir()) / f"awlmark-{os.getuid()}-{which}.socket")


def hand_over(asked: dict[str, Any]) -> bool:
    """Ask the running program to open something; False where none runs, or none answers.

    Parameters
    ----------
    asked : dict
        ``files`` (whole paths) and ``demo`` (a rule book's code, or None).
    """
    with socket.socket(socket.AF_UNIX) as line:
        line.settimeout(PATIENCE_S)
        try:
            if Path(address()).stat().st_uid != os.getuid():
                return False  # somebody else's: it gets no names of files
            line.connect(address())
            line.sendall(json.dumps(asked).encode() + b"\n")
            return line.recv(16).startswith(b"ok")
        except OSError:
            return False


def read_request(data: bytes) -> dict[str, Any] | None:
    """What a second start asks for; None where it makes no sense."""
    try:
        asked = json.loads(data)
    except ValueError:
        return None
    files = asked.get("files") if isinstance(asked, dict) else None
    if not isinstance(files, list) or not all(isinstance(name, str) and Path(name).is_absolute() for name in files):
        return None
    demo = asked.get("demo")
    return {"files": [Path(name) for name in files], "demo": demo if isinstance(demo, str) else None}
