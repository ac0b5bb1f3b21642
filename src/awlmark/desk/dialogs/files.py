"""Asking for files, and never losing work on the way."""

from __future__ import annotations

import os
from pathlib import Path
from urllib.parse import quote, unquote_to_bytes

from PySide6.QtCore import QSettings, Qt
from PySide6.QtWidgets import QWidget

from awlmark.core.errors import AwlmarkError
from awlmark.core.job import autosave, presence
from awlmark.core.job.disk import previous_copy
from awlmark.core.job.edit import Put, put
from awlmark.core.job.file import SUFFIX, read_job
from awlmark.core.job.model import NEW_NAME, Job
from awlmark.core.quantities import print_length
from awlmark.desk.regional import moment
from awlmark.desk.session import Session

MOST_RECENT = 500
_FILTER = f"Awlmark jobs (*{SUFFIX});;All files (*)"


class FileDesk:
    """Open, save and recover, with the questions they need. Tests replace the ``ask_`` methods."""

    def __init__(self, session: Session, window: QWidget, settings: QSettings) -> None:
        self.session, self.window, self.settings = session, window, settings
        self._claimed: Path | None = None
        self._elsewhere = False
        session.filed.connect(self._follow_path)
        self._follow_path()
        self.waiting = 0
        """Rescues of other files than the one asked for, not offered yet."""

    # -- questions --------------------------------------------------------------------------------------------------

    def ask_open(self) -> Path | None:
        """Ask which file to open."""
        from PySide6.QtWidgets import QFileDialog

        name, _kind = QFileDialog.getOpenFileName(self.window, "Open a job", self.folder(), _FILTER)
        return Path(name) if name else None

    def ask_save(self) -> Path | None:
        """Ask where to save."""
        from PySide6.QtWidgets import QFileDialog

        offered = str(Path(self.folder()) / (self.session.job.name.replace("/", "-") + SUFFIX))
        name, _kind = QFileDialog.getSaveFileName(self.window, "Save the job", offered, _FILTER)
        if not name:
            return None
        path = Path(name)
        return path if path.suffix else path.with_suffix(SUFFIX)

    def ask_meter(self) -> Path | None:
        """Ask for a file of interval data."""
        from PySide6.QtWidgets import QFileDialog

        kinds = "Interval data (*.csv *.xml);;All files (*)"
        name, _kind = QFileDialog.getOpenFileName(self.window, "Read meter data", self.folder(), kinds)
        return Path(name) if name else None

    def ask_book(
        self, title: str = "Read a price book", kinds: str = "Price books (*.csv *.xlsx);;All files (*)"
    ) -> Path | None:
        """Ask for a price book, a stock or delivered list, a log."""
        from PySide6.QtWidgets import QFileDialog

        name, _kind = QFileDialog.getOpenFileName(self.window, title, self.folder(), kinds)
        return Path(name) if name else None

    def ask_save_as(self, name: str, kind: str) -> Path | None:
        """Ask where to write a file of some kind."""
        from PySide6.QtWidgets import QFileDialog

        found, _kind = QFileDialog.getSaveFileName(self.window, "Save", str(Path(self.folder()) / name), kind)
        return Path(found) if found else None

    def ask_packet(self) -> Path | None:
        """Ask where to write the packet."""
        from PySide6.QtWidgets import QFileDialog

        offered = str(Path(self.folder()) / (self.session.job.name.replace("/", "-") + ".pdf"))
        name, _kind = QFileDialog.getSaveFileName(self.window, "Packet as PDF", offered, "PDF (*.pdf)")
        return Path(name) if name else None

    def ask_save_csv(self) -> Path | None:
        """Ask where to write interval data."""
        from PySide6.QtWidgets import QFileDialog

        offered = str(Path(self.folder()) / "meter.csv")
        name, _kind = QFileDialog.getSaveFileName(self.window, "Save meter data", offered, "Interval data (*.csv)")
        return Path(name) if name else None

    def ask_folder(self) -> Path | None:
        """Ask for a folder."""
        from PySide6.QtWidgets import QFileDialog

        name = QFileDialog.getExistingDirectory(self.window, "A folder of jobs", self.folder())
        return Path(name) if name else None

    def ask(self, title: str, text: str, answers: tuple[str, ...]) -> str:
        """Ask one question with named answers; the last is what Escape means."""
        from PySide6.QtWidgets import QMessageBox

        box = QMessageBox(self.window)
        box.setWindowTitle(title)
        # Names of jobs, files and parts are text, whatever they look like.
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(text)
        buttons = [box.addButton(answer, QMessageBox.ButtonRole.AcceptRole) for answer in answers]
        box.setDefaultButton(buttons[0])
        box.setEscapeButton(buttons[-1])
        box.exec()
        taken = box.clickedButton()
        # None was taken where the program was told to end meanwhile.
        return next((answer for answer, button in zip(answers, buttons, strict=True) if button is taken), answers[-1])

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
        return answer == "Don't save"

    def save(self) -> bool:
        """Save to the job's file, asking for one the first time."""
        path = self.session.path
        if path is None:
            return self.save_as()
        return self._settle_change(path) if self.session.changed_on_disk else self._save_to(path)

    def _settle_change(self, path: Path) -> bool:
        """Somebody else has written, or taken away, the job's file since it was read: nothing of either is lost."""
        if not path.exists():
            text = f"{path.name} was moved or taken away since you opened it. Your work is still open here."
            return self.ask("Gone from the disk", text, ("Save it there again", "Stay here")) != "Stay here" and (
                self._save_to(path)
            )
        text = (
            f"{path.name} was changed on the disk since you opened it, by another window or program.\n\n"
            "Keep mine: yours is saved, theirs stays as the previous copy. Keep theirs: theirs is read; undo brings "
            "yours back. Keep both: yours is saved under a name of its own."
        )
        answer = self.ask("Changed on the disk", text, ("Keep both", "Keep mine", "Keep theirs", "Stay here"))
        if answer == "Keep mine":
            return self._save_to(path)
        if answer == "Keep both":
            return self._save_to(_free_name(path))
        if answer == "Keep theirs":
            try:
                self.session.take_file("take what is on the disk")
            except AwlmarkError as problem:
                self.tell("Can't read it", f"{problem}\n\nYour work is still open here.")
                return False
            return True
        return False

    def save_as(self) -> bool:
        """Save to a file the user names."""
        path = self.ask_save()
        return path is not None and self._save_to(path)

    def _save_to(self, path: Path) -> bool:
        if self.session.job.name == NEW_NAME:
            # A job that nobody has named is called as its file.
            self.session.apply("name", put(self.session.job, Put("name", path.stem)))
        try:
            self.session.save(path)
        except AwlmarkError as problem:
            self.tell("Not saved", f"{problem}\n\nYour work is still open here. Save it somewhere else.")
            return False
        self.remember(path)
        return True

    def _follow_path(self) -> None:
        """Say which file is open here, whenever it is another one."""
        if self.session.path == self._claimed:
            return
        self.release()
        self._claimed = self.session.path
        if self._claimed is not None:
            try:
                self._elsewhere = presence.claim(self._claimed)
            except AwlmarkError as problem:
                self.session.on_trouble(problem)

    def release(self) -> None:
        """The file is no longer open here."""
        claimed, self._claimed, self._elsewhere = self._claimed, None, False
        if claimed is not None:
            try:
                presence.release(claimed)
            except AwlmarkError as problem:
                self.session.on_trouble(problem)

    def open(self, path: Path) -> bool:
        """Open a file; a damaged one offers its last good copy."""
        try:
            self.session.open_file(path)
        except AwlmarkError as problem:
            return self._open_previous(path, problem)
        self.remember(path)
        if self._elsewhere:
            self.tell(
                "Open twice",
                f"{path.name} is open in another window of Awlmark. Whoever saves last is asked which version to keep.",
            )
        return True

    def _open_previous(self, path: Path, problem: AwlmarkError) -> bool:
        previous = previous_copy(path)
        try:
            job = read_job(previous)
            saved_at = moment(previous.stat().st_mtime)
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

    def recover(self, asked: Path | None = None) -> bool:
        """Offer what a stopped Awlmark left behind; whether some of it was opened.

        Where a file was asked for, only work on that very file is offered; other work waits, and :meth:`waiting`
        counts it.
        """
        rescues, unreadable = autosave.left_behind()
        if unreadable:
            names = ", ".join(str(copy) for copy in unreadable)
            self.tell("Unreadable autosave", f"These autosaves can't be read and were put aside: {names}.")
        mine = [rescue for rescue in rescues if asked is None or _same_file(rescue.path, asked)]
        self.waiting = len(rescues) - len(mine)
        for rescue in mine:
            at = moment(rescue.saved_at)
            text = f"“{rescue.job.name}” was not saved when Awlmark stopped ({at}): {describe(rescue.job)}."
            answer = self.ask("Unsaved work found", text, ("Open it", "Throw it away", "Ask again later"))
            if answer == "Open it":
                return self._take_rescue(rescue)
            try:
                if answer == "Throw it away":
                    autosave.forget(rescue.copy)
            except AwlmarkError as problem:
                self.tell("Not thrown away", str(problem))
        return False

    def _take_rescue(self, rescue: autosave.Rescue) -> bool:
        """Open what was left behind; the copy goes only when this window keeps the work itself."""
        try:
            self.session.open_rescue(rescue)
            self.session.keep_now()
            autosave.forget(rescue.copy)
        except AwlmarkError as problem:
            self.tell("Unsaved work", f"{problem}\n\nThe autosave {rescue.copy} stays where it is.")
            return False
        return True

    # -- recent -----------------------------------------------------------------------------------------------------

    def remember(self, path: Path) -> None:
        """Put a file at the head of the recent ones."""
        found = [str(path.resolve()), *(name for name in self.recent() if name != str(path.resolve()))]
        # As bytes: a name need not be text.
        self.settings.setValue("recent", [quote(os.fsencode(name)) for name in found[:MOST_RECENT]])

    def forget(self, path: Path) -> None:
        """Take a file off the recent ones."""
        kept = [name for name in self.recent() if name != str(path)]
        self.settings.setValue("recent", [quote(os.fsencode(name)) for name in kept])

    def recent(self) -> list[str]:
        """Files opened lately, newest first."""
        found = self.settings.value("recent", [])
        names = found if isinstance(found, list) else [found] if isinstance(found, str) else []
        return [os.fsdecode(unquote_to_bytes(str(name))) for name in names]

    def folder(self) -> str:
        if self.session.path is not None:
            return str(self.session.path.parent)
        recent = self.recent()
        return str(Path(recent[0]).parent) if recent else str(Path.home())


def _same_file(one: str | None, other: Path) -> bool:
    return one is not None and os.path.realpath(one) == os.path.realpath(other)


def _free_name(path: Path) -> Path:
    """A name beside a file that nothing has yet."""
    number = 2
    while (found := path.with_name(f"{path.stem} ({number}){path.suffix}")).exists():
        number += 1
    return found


def describe(job: Job) -> str:
    """A job in a few words."""
    length = sum(leg.length_m for leg in job.legs)
    return f"{len(job.legs)} legs, {print_length(length, job.units)}"
