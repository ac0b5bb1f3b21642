"""Which files are open in which windows of Awlmark on this machine."""

from __future__ import annotations

import hashlib
import os
from pathlib import Path

from awlmark.core.errors import FileError
from awlmark.core.job.autosave import state_folder
from awlmark.core.job.disk import make_private, process_mark, reason, runs


def claim(path: Path) -> bool:
    """Say that a file is open in this process; whether it is open in another one too.

    Raises
    ------
    FileError
        When the state folder refuses.
    """
    folder, name = state_folder() / "open", _name_of(path)
    try:
        make_private(folder)
        own = process_mark(os.getpid())
        elsewhere = False
        for other in folder.glob(f"{name}.*"):
            mark = other.name.partition(".")[2]
            if not runs(mark):
                other.unlink(missing_ok=True)
            elif mark != own:
                elsewhere = True
        (folder / f"{name}.{own}").touch(mode=0o600)
    except OSError as problem:
        raise FileError(f"Can't note in {folder} that {path.name} is open: {reason(problem)}.") from problem
    return elsewhere


def release(path: Path) -> None:
    """Say that a file is no longer open in this process.

    Raises
    ------
    FileError
        When the state folder refuses.
    """
    note = state_folder() / "open" / f"{_name_of(path)}.{process_mark(os.getpid())}"
    try:
        note.unlink(missing_ok=True)
    except OSError as problem:
        raise FileError(f"Can't take {note} away: {reason(problem)}.") from problem


def _name_of(path: Path) -> str:
    return hashlib.sha256(os.fsencode(os.path.realpath(path))).hexdigest()[:24]
