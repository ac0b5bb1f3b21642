"""Asking for files, and never losing work on the way."""

from __future__ import annotations

import time
from pathlib import Path

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QWidget

from awlmark.core.errors import AwlmarkError
from awlmark.core.job import autosave
from awlmark.core.job.file import SUFFIX, previous_copy, read_job
from awlmark.core.job.model import Job
from awlmark.core.quantities import print_length
from awlmark.desk.session import Session

MOST_RECENT = 8
_FILTER = f"Awlmark jobs (*{SUFFIX});;All files (*)"


class FileDesk:
    """Open, save and recover, with the questions they need. Tests replace the ``ask_`` methods."""

    def __init__(self, session: Session, window: QWidget, settings: QSettings) -> None:
        self.session, self.window, self.settings = session, window, settings

    # -- questions --------------------------------------------------------------------------------------------------

    def ask_open(self) -> Path | None:
        """Ask which file to open."""
        from PySide6.QtWidgets import QFileDialog

        name, _kind = QFileDialog.getOpenFileName(self.window, "Open a job", self._folder(), _FILTER)
        return Path(name) if name else None

    def ask_save(self) -> Path | None:
        """Ask where to save."""
        from PySide6.QtWidgets import QFileDialog

        offered = str(Path(self._folder()) / (self.session.job.name.replace("/", "-") + SUFFIX))
        name, _kind = QFileDialog.getSaveFileName(self.window, "Save the job", offered, _FILTER)
        if not name:
            return None
        path = Path(name)
        return path if path.suffix else path.with_suffix(SUFFIX)

    def ask_meter(self) -> Path | None:
        """Ask for a file of interval data."""
        from PySide6.QtWidgets import QFileDialog

        kinds = "Interval data (*.csv *.xml);;All files (*)"
        name, _kind = QFileDialog.getOpenFileName(self.window, "Read meter data", self._folder(), kinds)
        return Path(name) if name else None

    def ask_book(
        self, title: str = "Read a price book", kinds: str = "Price books (*.csv *.xlsx);;All files (*)"
    ) -> Path | None:
        """Ask for a price book, a stock or delivered list, a log."""
        from PySide6.QtWidgets import QFileDialog

        name, _kind = QFileDialog.getOpenFileName(self.window, title, self._folder(), kinds)
        return Path(name) if name else None

    def ask_save_as(self, name: str, kind: str) -> Path | None:
        """Ask where to write a file of some kind."""
        from PySide6.QtWidgets import QFileDialog

        found, _kind = QFileDialog.getSaveFileName(self.window, "Save", str(Path(self._folder()) / name), kind)
        return Path(found) if found else None

    def ask_packet(self) -> Path | None:
        """Ask where to write the packet."""
        from PySide6.QtWidgets import QFileDialog

        offered = str(Path(self._folder()) / (self.session.job.name.replace("/", "-") + ".pdf"))
        name, _kind = QFileDialog.getSaveFileName(self.window, "Packet as PDF", offered, "PDF (*.pdf)")
        return Path(name) if name else None

    def ask_save_csv(self) -> Path | None:
        """Ask where to write interval data."""
        from PySide6.QtWidgets import QFileDialog

        offered = str(Path(self._folder()) / "meter.csv")
        name, _kind = QFileDialog.getSaveFileName(self.window, "Save meter data", offered, "Interval data (*.csv)")
        return Path(name) if name else None

    def ask_folder(self) -> Path | None:
        """Ask where exports go."""
        from PySide6.QtWidgets import QFileDialog

        name = QFileDialog.getExistingDirectory(self.window, "Folder for the list and the walls", self._folder())
        return Path(name) if name else None

    def ask(self, title: str, text: str, answers: tuple[str, ...]) -> str:
        """Ask one question with named answers; the last is what Escape means."""
        from PySide6.QtWidgets import QMessageBox

        box = QMessageBox(self.window)
        box.setWindowTitle(title)
        box.setText(text)
        buttons = [box.addButton(answer, QMessageBox.ButtonRole.AcceptRole) for answer in answers]
        box.setDefaultButton(buttons[0])
        box.setEscapeButton(buttons[-1])
        box.exec()
        return answers[buttons.index(box.clickedButton())]  # type: ignore[arg-type]

    def tell(self, title: str, text: str) -> None:
        """Tell something that must be seen."""
        self.ask(title, text, ("Go on",))

    # -- doing ------------------------------------------------------------------------------------------------------

    def may_leave(self) -> bool:
        """Whether the job in hand may be put away: saved, let go, or nothing to lose."""
        session = self.session
        if not session.unsaved:
            return True
        name = session.job.name
        answer = self.ask("Unsaved work", f"Save what you did on “{name}”?", ("Save", "Don't save", "Stay here"))
        if answer == "Save":
            return self.save()
        if answer == "Don't save":
            session.put_away()
            return True
        return False

    def save(self) -> bool:
        """Save to the job's file, asking for one the first time."""
        return self._save_to(self.session.path) if self.session.path else self.save_as()

    def save_as(self) -> bool:
        """Save to a file the user names."""
        path = self.ask_save()
        return path is not None and self._save_to(path)

    def _save_to(self, path: Path) -> bool:
        try:
            self.session.save(path)
        except AwlmarkError as problem:
            self.tell("Not saved", f"{problem}\n\nYour work is still open here. Save it somewhere else.")
            return False
        self.remember(path)
        return True

    def open(self, path: Path) -> bool:
        """Open a file; a damaged one offers its last good copy."""
        try:
            self.session.open_file(path)
        except AwlmarkError as problem:
            return self._open_previous(path, problem)
        self.remember(path)
        return True

    def _open_previous(self, path: Path, problem: AwlmarkError) -> bool:
        previous = previous_copy(path)
        try:
            job = read_job(previous)
            saved_at = time.strftime("%Y-%m-%d %H:%M", time.localtime(previous.stat().st_mtime))
        except (AwlmarkError, OSError):
            self.tell(
                "Can't open it",
                f"{problem}\n\nThere is no earlier copy that can be read. The job you had open is untouched.",
            )
            return False
        copy = f"The copy before the last save ({saved_at}) can be read: {describe(job)}."
        text = f"{problem}\n\n{copy} What came after it is missing."
        if self.ask("Damaged file", text, ("Open the earlier copy", "Leave it")) == "Open the earlier copy":
            self.session.open(job, path, recovered=True)
            return True
        return False

    def recover(self) -> bool:
        """Offer what a stopped Awlmark left behind; whether some of it was opened."""
        rescues, unreadable = autosave.left_behind()
        if unreadable:
            names = ", ".join(copy.name for copy in unreadable)
            self.tell("Unreadable autosave", f"These autosaves can't be read and stay where they are: {names}.")
        for rescue in rescues:
            at = time.strftime("%Y-%m-%d %H:%M", time.localtime(rescue.saved_at))
            text = f"“{rescue.job.name}” was not saved when Awlmark stopped ({at}): {describe(rescue.job)}."
            answer = self.ask("Unsaved work found", text, ("Open it", "Throw it away", "Ask again later"))
            if answer == "Open it":
                path = Path(rescue.path) if rescue.path else None
                self.session.open(rescue.job, path, recovered=True)
                self.session.keep_now()
                return True
            if answer == "Throw it away":
                autosave.drop(rescue.job.id)
        return False

    # -- recent -----------------------------------------------------------------------------------------------------

    def remember(self, path: Path) -> None:
        """Put a file at the head of the recent ones."""
        found = [str(path.resolve()), *(name for name in self.recent() if name != str(path.resolve()))]
        self.settings.setValue("recent", found[:MOST_RECENT])

    def recent(self) -> list[str]:
        """Files opened lately, newest first."""
        found = self.settings.value("recent", [])
        return [str(name) for name in found] if isinstance(found, list) else [found] if isinstance(found, str) else []

    def _folder(self) -> str:
        if self.session.path is not None:
            return str(self.session.path.parent)
        recent = self.recent()
        return str(Path(recent[0]).parent) if recent else str(Path.home())


def describe(job: Job) -> str:
    """A job in a few words."""
    length = sum(leg.length_m for leg in job.legs)
    return f"{len(job.legs)} legs, {print_length(length, job.units)}"
