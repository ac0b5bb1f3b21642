"""The log of what nobody foresaw."""

from __future__ import annotations

import os
import time
import traceback
from pathlib import Path
from types import TracebackType
from typing import Final

from awlmark.core.errors import AwlmarkError
from awlmark.core.job.autosave import state_folder
from awlmark.core.job.disk import PRIVATE_FILE, make_private, reason

LARGEST_LOG: Final = 1_000_000
"""Bytes; a longer log begins anew, the last one kept beside it."""


class UnforeseenError(AwlmarkError):
    """What stands for an error that nobody foresaw, where its work was waited for."""


def log_file() -> Path:
    """Where the log is."""
    return state_folder() / "awlmark.log"


def record(kind: type[BaseException], problem: BaseException, trace: TracebackType | None) -> str:
    """Write an error into the log, from any thread; says where that is, or why it could not be written."""
    log = log_file()
    head = f"{time.strftime('%Y-%m-%d %H:%M:%S')} process {os.getpid()}\n"
    text = head + "".join(traceback.format_exception(kind, problem, trace)) + "\n"
    try:
        make_private(log.parent)
        if log.is_file() and log.stat().st_size > LARGEST_LOG:
            log.replace(log.with_name(log.name + "~"))
        handle = os.open(log, os.O_WRONLY | os.O_APPEND | os.O_CREAT | os.O_CLOEXEC, PRIVATE_FILE)
        try:
            os.write(handle, text.encode("utf-8", errors="backslashreplace"))
        finally:
            os.close(handle)
    except OSError as trouble:
        return f"No log could be written ({reason(trouble)})."
    return f"The log is {log}."
