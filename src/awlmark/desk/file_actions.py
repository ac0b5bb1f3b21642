"""Files, tools and sheets of the window: open and save, true size, meter data, keys, what is checked, about."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, Final

from msgspec.structs import replace
from PySide6.QtCore import QSettings
from PySide6.QtGui import QAction, QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QWidget

from awlmark.core.errors import AwlmarkError, InputError, UnclearError
from awlmark.core.job.book_pins import family
from awlmark.core.job.edit import put
from awlmark.core.shelf import CODES
from awlmark.desk.background import Slow
from awlmark.desk.commands import Acts
from awlmark.desk.dialogs.files import FileDesk
from awlmark.desk.entry import EntryBar
from awlmark.desk.session import Session

if TYPE_CHECKING:
    from awlmark.core.panel.meter import Choices
    from awlmark.desk.start_sheet import StartSheet, Walking

REOPEN: Final = "reopen_last"
"""Setting: whether the jobs of the last time come back."""
LEAVE_IT: Final = "Leave it"
"""Answer that takes nothing in."""


Progress = Callable[[float], None]


def _raise(problem: AwlmarkError) -> None:
    raise problem


class Tools:
    """Mixed into the window; what each needs is imported when it is first used.

    A plain class: Qt's classes do not share a child.
    """

    open_file: Callable[[Path], object]
    """Takes a file that is dropped here; where there are more windows it may get its own."""
    session: Session
    settings: QSettings
    files: FileDesk
    entry: EntryBar
    acts: Acts
    scheme: str
    actions_by_id: dict[str, QAction]
    sheet: StartSheet
    walking: Walking
    _reading: Slow | None = None

    @property
    def _window(self) -> QWidget:
        assert isinstance(self, QWidget)
        return self

    def new_job(self) -> None:
        """Begin an empty job."""
        if self.files.may_leave():
            self.session.open(self.sheet.fresh(), None)
            self.session.see(stage="run", start=True)
            self.entry.line.setFocus()

    def keep_way(self) -> None:
        """Keep the line as a pattern for the start sheet."""
        self.acts.act(self._keep_way)

    def _keep_way(self) -> None:
        from awlmark.core.begin.ways import keep

        job = self.session.job
        if not job.legs:
            raise InputError("pattern", "There is no line to keep.", "a line with legs")
        path = keep(job, job.name, job.note or "A line of our own.", self.sheet.folder)
        self.entry.say(f"Kept as the pattern {job.name}: {path.name}. Job > New shows it.")

    def walk_on(self) -> None:
        """Walk along the line through everything that is guessed."""
        self.acts.act(self.walking.begin)

    def open_job(self) -> None:
        """Open a job's file."""
        if self.files.may_leave():
            path = self.files.ask_open()
            if path is not None:
                self.files.open(path)

    def _open_path(self, path: Path, _checked: bool = False) -> None:
        if self.files.may_leave():
            self.files.open(path)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if files_of(event):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        event.acceptProposedAction()
        for path in files_of(event):
            self.open_file(path)

    def open_demo(self) -> None:
        """Open the shipped demo of the rule book in hand."""
        self._open_demo(self.session.job.code)

    def open_other_demo(self) -> None:
        """Open the shipped demo of another country's rule book."""
        here = family(self.session.job.code)
        self._open_demo(next(code for code in reversed(CODES) if family(code) != here))

    def _open_demo(self, code: str) -> None:
        from awlmark.data import demo_job

        if self.files.may_leave():
            self.session.open(demo_job(code), None)

    def keep_open(self) -> None:
        """Whether the jobs that are open come back at the next start."""
        self.settings.setValue(REOPEN, not self.settings.value(REOPEN, False, bool))

    def save(self) -> None:
        """Save."""
        if self.files.save():
            self.entry.say(f"Saved to {self.session.path}")

    def save_as(self) -> None:
        """Save under another name."""
        if self.files.save_as():
            self.entry.say(f"Saved to {self.session.path}")

    def revert(self) -> None:
        """Go back to the saved file; the way there can be undone."""
        self.acts.act(lambda: self.session.take_file("revert to the saved job"))

    def recover(self) -> None:
        """Offer what a stopped Awlmark left behind."""
        if self.files.may_leave() and not self.files.recover() and not self.files.waiting:
            self.entry.say("Nothing else was left behind.")

    def export(self) -> None:
        """Ask what is written, and where; then write it."""
        from awlmark.desk.dialogs.leaving import ExportDialog

        dialog = ExportDialog(
            self._window, self.session.design, self.settings, self.files.folder(), self.files.ask, self.entry.progress
        )
        dialog.open()

    def print_out(self) -> None:
        """Ask what is printed, and show it first."""
        from awlmark.desk.dialogs.leaving import PrintDialog

        PrintDialog(self._window, self.session).open()

    def true_size(self) -> None:
        """Learn the screen's size from a bank card."""
        from awlmark.desk.dialogs.true_size import TrueSize

        dialog = TrueSize(self._window, self.session.look.pixels_per_mm, self.scheme)
        dialog.accepted.connect(lambda: self._sized(dialog.pixels_per_mm))
        dialog.open()

    def _sized(self, pixels_per_mm: float) -> None:
        self.settings.setValue("pixels_per_mm", pixels_per_mm)
        self.session.see(pixels_per_mm=pixels_per_mm)

    def read_meter(self) -> None:
        """Read a meter's interval data; its highest demand joins the sheet."""
        path = self.files.ask_meter()
        if path is None:
            return
        from awlmark.core.panel.meter import Choices

        self._read_meter(path, Choices())

    def _read_meter(self, path: Path, choices: Choices) -> None:
        """Read it with the answers so far; what can be read in more than one way is asked, and read again."""
        from awlmark.core.panel.meter import read_meter

        def done(came: object) -> None:
            if not isinstance(came, UnclearError):
                self._metered(came, path.name)
                return
            text = came.question + "\n\n" + "\n".join(came.rows[:4])
            answer = self.files.ask(path.name, text, (*came.answers, LEAVE_IT))
            if answer == LEAVE_IT:
                raise came
            self._read_meter(path, replace(choices, **{came.what: answer}))

        self._slowly(path, lambda progress: read_meter(path, progress, choices), done)

    def stop_reading(self) -> None:
        """Stop what is being read; nothing is taken from it."""
        if self._reading is not None:
            self._reading.stop()

    def invent_year(self) -> None:
        """Take an invented year of household data, about as high as the other loads come to."""
        from awlmark.core.panel.load_management import invented_for

        self._metered(invented_for(self.session.job), "invented")

    def save_meter(self) -> None:
        """Write the job's interval data as CSV."""
        from awlmark.core.job.disk import write_file
        from awlmark.core.panel.meter_data import kept, write_csv

        meter = self.session.job.meter
        if meter is None:
            self.entry.say("There are no meter data yet. Read some, or take an invented year.", trouble=True)
            return
        path = self.files.ask_save_csv()
        if path is not None and self.acts.act(lambda: write_file(path, write_csv(kept(meter)))):
            self.entry.say(f"The meter data are in {path}")

    def _metered(self, outcome: object, source: str) -> None:
        from awlmark.core.job.supply import SYSTEMS
        from awlmark.core.panel.meter_data import Metered, demand_edits, doubts

        assert isinstance(outcome, Metered)
        job = self.session.job
        edits = demand_edits(outcome, SYSTEMS[job.supply.system][0], source)
        if self.acts.act(lambda: self.session.apply("meter data", put(job, *edits))):
            self.session.see(stage="panel", page="year")
            told = " ".join([outcome.words() + ".", doubts(outcome), *outcome.left_out[:2]])
            self.entry.say(told.strip())

    def packet(self) -> None:
        """Write the printed packet: cover, diagram, sums, walls, list, cuts, labels, quote."""
        path = self.files.ask_packet()
        if path is None:
            return
        from awlmark.core.job.disk import write_file
        from awlmark.core.solve.design import settled
        from awlmark.paper.packet import packet_pdf

        self.entry.progress(path.name)
        if self.acts.act(lambda: write_file(path, packet_pdf(settled(self.session.design)))):
            self.entry.say(f"The packet is in {path}")

    def read_book(self) -> None:
        """Take in prices, notes, stock, what came and what was paid from a file."""
        path = self.files.ask_book()
        if path is None:
            return
        from awlmark.core.parts.price_file import book_edits, read_rows

        def take(rows: list[list[str]]) -> None:
            job = self.session.job
            self.session.apply(f"read {path.name}", put(job, *book_edits(rows, job)))
            self.session.see(stage="parts", pencils=False)
            self.entry.say(f"{path.name} is read: {self.session.design.unpriced} lines are still without a price.")

        self._slowly(path, lambda progress: read_rows(path, progress), take)

    def save_book(self) -> None:
        """Write the job's price book as CSV."""
        from awlmark.core.parts.price_file import write_book

        self._save("prices.csv", "Price books (*.csv)", lambda: write_book(self.session.job))

    def practise(self) -> None:
        """To the practice bench, or back to the job."""
        self.acts.do("practice:off" if self.session.look.practice is not None else "practice:next")

    def save_log(self) -> None:
        """Write the test log as CSV."""
        from awlmark.core.prove.log import write_log

        self._save("log.csv", "Test log (*.csv)", lambda: write_log(self.session.design))

    def save_reminders(self) -> None:
        """Write the reminders as a calendar file."""
        from awlmark.core.prove.remind import reminders

        self._save("reminders.ics", "Calendar (*.ics)", lambda: reminders(self.session.job))

    def _save(self, name: str, kind: str, text: Callable[[], str]) -> None:
        """Ask for a file and write a text into it; what cannot be written is told first."""
        from awlmark.core.job.disk import write_file

        made: list[str] = []
        if not self.acts.act(lambda: made.append(text())):
            return
        path = self.files.ask_save_as(name, kind)
        if path is not None and self.acts.act(lambda: write_file(path, made[0])):
            self.entry.say(f"Saved to {path}")

    def read_log(self) -> None:
        """Take in readings from CSV."""
        path = self.files.ask_book("Read a log", "Test log (*.csv);;All files (*)")
        if path is None:
            return
        from awlmark.core.prove.log import load_log, log_edits

        def take(rows: list[list[str]]) -> None:
            session = self.session
            session.apply(f"read {path.name}", put(session.job, *log_edits(rows, session.design)))
            session.see(stage="prove", pencils=False, practice=None)
            self.entry.say(f"{path.name} is read.")

        self._slowly(path, lambda _progress: load_log(path), take)

    def _slowly(self, path: Path, work: Callable[[Progress], object], done: Callable[[Any], object]) -> None:
        """Read a file off the window's thread; ``done`` gets what it holds, in one step, or nothing of it is taken."""
        self.entry.say(f"Reading {path.name}. Esc stops it.")
        self.actions_by_id["stop-reading"].setEnabled(True)
        self._reading = Slow(self.session, f"Reading {path.name}", self.entry)

        def ended(outcome: object) -> None:
            self._reading = None
            self.actions_by_id["stop-reading"].setEnabled(False)
            if isinstance(outcome, AwlmarkError) and not isinstance(outcome, UnclearError):
                self.acts.act(lambda: _raise(outcome))
            else:
                self.acts.act(lambda: done(outcome))

        self._reading.start(work, ended)

    def keep_pencil(self) -> None:
        """Keep the job in pencil and work on."""
        self.entry.say(f"Kept as {self.session.keep_pencil()}. Change the line; Alt+I shows both.")

    def flip(self) -> None:
        """Swap pen and the last pencil line."""
        if not self.session.pencils:
            self.entry.say("Nothing is kept in pencil yet. Alt+K keeps this line.", trouble=True)
            return
        self.acts.act(lambda: self.session.flip(len(self.session.pencils) - 1))

    def rub_pencils(self) -> None:
        """Rub out the pencil lines."""
        self.session.rub_pencils()

    def show_pencils(self) -> None:
        """Whole jobs side by side, or the stage again."""
        self.session.see(pencils=not self.session.look.pencils)

    def connections(self) -> None:
        """Show every way to connect the charger."""
        from awlmark.desk.dialogs import help_sheets

        help_sheets.show_connections(self._window, self.session.design)

    def audit(self) -> None:
        """Show what the circuit, as it is pinned, may be set to."""
        from awlmark.desk.dialogs import help_sheets

        help_sheets.show_audit(self._window, self.session.design)

    def verdict_tables(self) -> None:
        """Show where ground-fault breakers are wanted and where methods may run."""
        from awlmark.desk.dialogs import help_sheets

        help_sheets.show_tables(self._window, self.session.job)

    def what_is_checked(self) -> None:
        """Show what this version checks and what it leaves to others."""
        from awlmark.desk.dialogs import help_sheets

        help_sheets.show_checked(self._window, self.session.design.book)

    def about(self) -> None:
        """Show version, caution and licences."""
        from awlmark.desk.dialogs import help_sheets

        help_sheets.show_about(self._window, self.session.design.book)


def files_of(event: QDropEvent) -> list[Path]:
    """Files that are dragged here."""
    return [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]
