"""A copy of every unsaved edit, kept under the user's state folder until the job is saved or put away."""

from __future__ import annotations

import os
import secrets
import tempfile
from pathlib import Path
from urllib.parse import quote, unquote_to_bytes

import msgspec

from awlmark.core.errors import FileError
from awlmark.core.job import file
from awlmark.core.job.disk import PRIVATE_FILE, clear_spares, make_private, process_mark, reason, runs, writing
from awlmark.core.job.model import Job


class Rescue(msgspec.Struct, frozen=True):
    """Work that a stopped Awlmark left behind."""

    job: Job
    path: str | None
    """File the job belongs to; None when it was never saved."""
    copy: Path
    """The autosave itself."""
    saved_at: float
    """When it was kept, seconds since 1970."""


class _Wrapper(msgspec.Struct, frozen=True):
    process: str
    path: str | None = None
    """As older versions wrote it."""
    file: str | None = None
    """Bytes of the path, percent-encoded: a name may hold bytes that are no text."""

    @property
    def place(self) -> str | None:
        return self.path if self.file is None else os.fsdecode(unquote_to_bytes(self.file))


def state_folder() -> Path:
    """Where Awlmark keeps what must outlive a crash (``XDG_STATE_HOME/awlmark``)."""
    return home_of("XDG_STATE_HOME", ".local/state") / "awlmark"


def home_of(variable: str, usual: str) -> Path:
    """A base folder of the desktop's: what its variable says where that is a whole path, else the usual one.

    Where nobody has a home (an unknown user without HOME) it stands in the temporary folder, under the user's number.
    """
    told = Path(os.environ.get(variable, ""))
    if told.is_absolute():
        return told
    try:
        return Path.home() / usual
    except RuntimeError:
        return Path(tempfile.gettempdir()) / f"awlmark-{os.getuid()}" / usual


def new_document() -> str:
    """An id for a document that is opened: two windows on one job, or on copies of it, keep their work apart."""
    return secrets.token_hex(8)


def _copy_of(document: str, folder: Path) -> Path:
    return folder / "autosave" / f"{document}{file.SUFFIX}"


def keep(job: Job, path: Path | None, document: str, folder: Path | None = None) -> Path:
    """Write the autosave of a document, for its owner's eyes alone.

    Parameters
    ----------
    job : Job
        The job as it stands.
    path : Path or None
        File it belongs to.
    document : str
        Id of the open document (:func:`new_document`).
    folder : Path, optional
        State folder; :func:`state_folder` when not given.

    Raises
    ------
    FileError
        When the state folder refuses.
    """
    copy = _copy_of(document, folder or state_folder())
    try:
        make_private(copy.parent)
        wrapper = _Wrapper(process=process_mark(os.getpid()), file=quote(os.fsencode(path)) if path else None)
    except OSError as problem:
        raise FileError(f"Can't keep an autosave in {copy.parent}: {reason(problem)}.") from problem
    with writing(copy, mode=PRIVATE_FILE) as temporary:
        temporary.write_bytes(msgspec.json.encode(wrapper) + b"\n" + file.dumps(job))
    return copy


def drop(document: str, folder: Path | None = None) -> None:
    """Forget the autosave of a document that is saved or deliberately put away."""
    forget(_copy_of(document, folder or state_folder()))


def forget(copy: Path) -> None:
    """Take an autosave away.

    Raises
    ------
    FileError
        When the state folder refuses.
    """
    try:
        copy.unlink(missing_ok=True)
    except OSError as problem:
        raise FileError(f"Can't take the autosave {copy} away: {reason(problem)}.") from problem


def left_behind(folder: Path | None = None) -> tuple[list[Rescue], list[Path]]:
    """Autosaves whose Awlmark no longer runs.

    Returns
    -------
    list of Rescue
        Newest first.
    list of Path
        Autosaves that cannot be read, where they are now: put aside, so that they are told of once.
    """
    found: list[Rescue] = []
    unreadable: list[Path] = []
    state = folder or state_folder()
    clear_spares(state / "autosave")
    for copy in state.glob(f"autosave/*{file.SUFFIX}"):
        try:
            head, _, body = copy.read_bytes().partition(b"\n")
            wrapper = msgspec.json.decode(head, type=_Wrapper)
            if not runs(wrapper.process):
                found.append(Rescue(file.loads(body, copy.name), wrapper.place, copy, copy.stat().st_mtime))
        except (OSError, FileError, msgspec.DecodeError):
            unreadable.append(_put_aside(copy))
    return sorted(found, key=lambda rescue: -rescue.saved_at), unreadable


def _put_aside(copy: Path) -> Path:
    """Move an autosave that cannot be read out of the way; where the folder refuses it stays."""
    aside = copy.parent.parent / "unreadable" / copy.name
    try:
        make_private(aside.parent)
        return copy.replace(aside)
    except OSError:
        return copy
