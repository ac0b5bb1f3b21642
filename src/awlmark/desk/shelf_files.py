"""The jobs on the shelf: files opened or saved lately and those of chosen folders, summed up and remembered."""

from __future__ import annotations

import datetime as dt
import os
from collections.abc import Callable
from pathlib import Path

import msgspec
from PySide6.QtCore import QSettings

from awlmark.core.begin.summary import Summary, summarise
from awlmark.core.errors import AwlmarkError
from awlmark.core.job.file import SUFFIX, read_job
from awlmark.core.plain import shown
from awlmark.desk.dialogs.files import FileDesk
from awlmark.desk.regional import day
from awlmark.desk.session import Session
from awlmark.draw.stages.start_view import BROKEN, GONE, WAITING, Shelved

MOST = 2000
"""Files that a folder may put on the shelf."""


class _Kept(msgspec.Struct):
    """What was made of a file, and of which state of it."""

    changed_ns: int
    size: int
    summary: Summary | None
    told: str = ""


class Shelf:
    """Sums up each file once; one that changed is read again, off the window's thread."""

    def __init__(self, session: Session, files: FileDesk, settings: QSettings, changed: Callable[[], None]) -> None:
        self.session, self.files, self.settings, self._changed = session, files, settings, changed
        self._home = Path(settings.fileName()).with_name("shelf.json")
        self._kept: dict[str, _Kept] | None = None
        self._reading: str | None = None

    # -- what is on it ----------------------------------------------------------------------------------------------

    def rows(self, filtered: str = "") -> list[Shelved]:
        """The files on the shelf, the last touched first, each as what it is."""
        now = dt.datetime.now().astimezone()
        wanted = filtered.lower().split()
        found: list[tuple[float, Shelved]] = []
        stale: str | None = None
        for name in self._names():
            file = shown(os.fsencode(name).decode("utf-8", errors="replace"))
            place = f"{Path(file).name}, in {Path(file).parent.name}"
            try:
                state = Path(name).stat()
            except OSError:
                told = "The file is not where it was. Open it from its new place, or take it off."
                kept = self._memory.get(name)
                found.append((0.0, Shelved(name, place, "", kept.summary if kept else None, GONE, told)))
                continue
            touched = _touched(state.st_mtime, now)
            kept = self._memory.get(name)
            if kept is None or (kept.changed_ns, kept.size) != (state.st_mtime_ns, state.st_size):
                stale = stale or name
                row = Shelved(name, place, touched, None, WAITING, "being read")
            elif kept.summary is None:
                row = Shelved(name, place, touched, None, BROKEN, kept.told)
            else:
                row = Shelved(name, place, touched, kept.summary)
            found.append((state.st_mtime, row))
        if stale is not None:
            self._read(stale)
        found.sort(key=lambda pair: -pair[0])
        return [row for _when, row in found if all(word in _searched(row) for word in wanted)]

    def _names(self) -> list[str]:
        names = dict.fromkeys(self.files.recent())
        for folder in self._folders():
            listed = sorted(Path(folder).glob(f"*{SUFFIX}"))[:MOST] if Path(folder).is_dir() else ()
            names |= dict.fromkeys(str(path) for path in listed)
        return list(names)

    def _folders(self) -> list[str]:
        found = self.settings.value("shelf_folders", [])
        return [str(name) for name in found] if isinstance(found, list) else [str(found)] if found else []

    def put_folder(self, folder: Path) -> None:
        """Put every job of a folder on the shelf, for as long as it lies there."""
        self.settings.setValue("shelf_folders", list(dict.fromkeys([*self._folders(), str(folder.resolve())])))

    def take_off(self, name: str) -> None:
        """Take a file off the shelf; the file itself is left alone."""
        self.files.forget(Path(name))
        self._memory.pop(name, None)
        self._write()

    # -- what was made of each --------------------------------------------------------------------------------------

    @property
    def _memory(self) -> dict[str, _Kept]:
        if self._kept is None:
            try:
                self._kept = msgspec.json.decode(self._home.read_bytes(), type=dict[str, _Kept])
            except (OSError, msgspec.MsgspecError):
                self._kept = {}  # nothing remembered yet, or not readable: every file is read again
        return self._kept

    def _write(self) -> None:
        try:
            self._home.parent.mkdir(parents=True, exist_ok=True)
            self._home.write_bytes(msgspec.json.encode(self._memory))
        except OSError as problem:
            self.session.on_trouble(AwlmarkError(f"The shelf can't be remembered: {problem.strerror}."))

    def _read(self, name: str) -> None:
        """Read one changed file behind the window; the next follows when it is in."""
        if self._reading is not None:
            return
        self._reading = name
        today = dt.date.today()

        def work() -> _Kept:
            state = Path(name).stat()
            try:
                return _Kept(state.st_mtime_ns, state.st_size, summarise(read_job(Path(name)), today))
            except AwlmarkError as problem:
                return _Kept(state.st_mtime_ns, state.st_size, None, str(problem)[:200])

        def done(outcome: object) -> None:
            self._reading = None
            if isinstance(outcome, _Kept):
                self._memory[name] = outcome
                self._write()
                self._changed()

        self.session.behind(work, done)


def _searched(row: Shelved) -> str:
    about = f"{row.summary.name} {row.summary.text} {row.summary.due}" if row.summary else ""
    return f"{about} {row.file}".lower()


def _touched(when: float, now: dt.datetime) -> str:
    """When a file was changed, as people say it."""
    then = dt.datetime.fromtimestamp(when).astimezone()
    minutes = (now - then).total_seconds() / 60
    if minutes < 1:
        return "just now"
    if minutes < 60:
        return f"{minutes:.0f} min ago"
    if then.date() == now.date():
        return f"today, {then:%H:%M}"
    if (now.date() - then.date()).days == 1:
        return f"yesterday, {then:%H:%M}"
    return day(when)
