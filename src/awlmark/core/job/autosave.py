"""A copy of every unsaved edit, kept under the user's state folder until the job is saved or put away."""

from __future__ import annotations

import os
from pathlib import Path

import msgspec

from awlmark.core.errors import FileError
from awlmark.core.job import file
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
    path: str | None


def state_folder() -> Path:
    """Where Awlmark keeps what must outlive a crash (``XDG_STATE_HOME/awlmark``)."""
    base = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(base) / "awlmark"


def _copy_of(job_id: str, folder: Path) -> Path:
    kept = "".join(letter for letter in job_id if letter.isalnum() or letter in "-_")[:64] or "job"
    return folder / "autosave" / f"{kept}{file.SUFFIX}"


def keep(job: Job, path: Path | None, folder: Path | None = None) -> Path:
    """Write the job's autosave.

    Parameters
    ----------
    job : Job
        The job as it stands.
    path : Path or None
        File it belongs to.
    folder : Path, optional
        State folder; :func:`state_folder` when not given.

    Raises
    ------
    FileError
        When the state folder refuses.
    """
    copy = _copy_of(job.id, folder or state_folder())
    try:
        copy.parent.mkdir(parents=True, exist_ok=True)
    except OSError as problem:
        raise FileError(f"Can't keep an autosave in {copy.parent}: {problem.strerror}.") from problem
    wrapper = _Wrapper(process=_process(os.getpid()), path=str(path) if path else None)
    with file.writing(copy) as temporary:
        temporary.write_bytes(msgspec.json.encode(wrapper) + b"\n" + file.dumps(job))
    return copy


def drop(job_id: str, folder: Path | None = None) -> None:
    """Forget the autosave of a job that is saved or deliberately put away."""
    _copy_of(job_id, folder or state_folder()).unlink(missing_ok=True)


def left_behind(folder: Path | None = None) -> tuple[list[Rescue], list[Path]]:
    """Autosaves whose Awlmark no longer runs.

    Returns
    -------
    list of Rescue
        Newest first.
    list of Path
        Autosaves that cannot be read; they stay where they are.
    """
    found: list[Rescue] = []
    unreadable: list[Path] = []
    for copy in (folder or state_folder()).glob(f"autosave/*{file.SUFFIX}"):
        try:
            head, _, body = copy.read_bytes().partition(b"\n")
            wrapper = msgspec.json.decode(head, type=_Wrapper)
            if not _runs(wrapper.process):
                found.append(Rescue(file.loads(body, copy.name), wrapper.path, copy, copy.stat().st_mtime))
        except (OSError, FileError, msgspec.DecodeError):
            unreadable.append(copy)
    return sorted(found, key=lambda rescue: -rescue.saved_at), unreadable


def _process(pid: int) -> str:
    """A process by its number and the tick it started at: numbers come round again, pairs do not."""
    stat = Path(f"/proc/{pid}/stat").read_text(encoding="utf-8", errors="replace")
    return f"{pid}:{stat.rpartition(')')[2].split()[19]}"


def _runs(process: str) -> bool:
    try:
        return _process(int(process.partition(":")[0])) == process
    except (OSError, ValueError, IndexError):
        return False
