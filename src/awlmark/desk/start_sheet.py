"""The start sheet in the window: taking a way, finding a job on the shelf, and the walk along the line."""

from __future__ import annotations

import functools
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer

from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.job.papers import USUAL
from awlmark.core.shelf import CODES, EDITIONS, NEWEST
from awlmark.desk import regional
from awlmark.desk.region import Region
from awlmark.desk.session import fresh_job
from awlmark.draw.kit.picture import Picture

if TYPE_CHECKING:
    from awlmark.core.begin.walk import Question
    from awlmark.core.begin.ways import Way
    from awlmark.desk.shelf_files import Shelf
    from awlmark.desk.window import Window
    from awlmark.draw.stages.start_view import Shelved


class StartSheet(QObject):
    """Ways at the left, the shelf at the right; what is typed in the Entry finds one of them."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self.window, self.session = window, window.session
        self.region = Region("start", "Start sheet", self._draw)
        self.region.acted.connect(window.acts.do)
        self.region.canvas.typed.connect(window.entry.type)
        window.entry.line.offered.connect(self._step)
        self._typed = ""
        self._chosen = 0
        """Place of the row that Enter opens, among those that fit and can be opened."""
        self._rows: list[Shelved] = []

    @functools.cached_property
    def shelf(self) -> Shelf:
        """The shelf, made when the sheet is first shown."""
        from awlmark.desk.shelf_files import Shelf

        return Shelf(self.session, self.window.files, self.window.settings, self._changed)

    @property
    def folder(self) -> Path:
        """Where a shop keeps its own ways."""
        return Path(self.window.settings.fileName()).with_name("patterns")

    def ways(self) -> tuple[Way, ...]:
        """The ways that ship, then the shop's own."""
        from awlmark.core.begin.ways import own, shipped

        code = self.session.job.code
        return (*shipped(code), *own(self.folder, code))

    def _changed(self) -> None:
        if self.session.look.start:
            self.region.refresh(self.window.scheme)

    def _draw(self, width: float, height: float) -> Picture:
        from awlmark.draw.stages.start_view import draw_start

        ways = self.ways()
        filtered = "" if self._numbered(self._typed) is not None or self._quoted(self._typed) else self._typed
        self._rows = self.shelf.rows(filtered)
        chosen = self._chosen_row() if filtered else None
        opens = next((n for n, row in enumerate(self._rows) if chosen is not None and row.path == chosen.path), -1)
        job = self.session.job
        starts_with = self.session.design.book.title, "metres" if job.units == "m" else "feet, inches"
        return draw_start(ways, self._rows, opens, filtered, width, height, starts_with)

    # -- what is typed ----------------------------------------------------------------------------------------------

    def _numbered(self, text: str) -> int | None:
        """Place of the way that a number names."""
        plain = text.strip()
        ways = self.ways()
        if plain.isdecimal() and 1 <= int(plain) <= len(ways) and ways[int(plain) - 1].job is not None:
            return int(plain) - 1
        return None

    def _quoted(self, text: str) -> bool:
        """Whether it reads as an entry."""
        if not text.strip():
            return False
        try:
            self.window.acts.read(text)
        except InputError:
            return False
        return True

    def echo(self, text: str) -> str:
        """Follow what is typed; what Enter would do, in words."""
        if text.strip() != self._typed:
            self._typed, self._chosen = text.strip(), 0
        self.window.entry.line.offers = 0
        self._changed()
        number = self._numbered(text)
        if not self._typed:
            return self._hint()
        if number is not None:
            return f"Enter takes {number + 1}: {self.ways()[number].name}."
        if self._quoted(text):
            return self.window.acts.read(text).says
        fits = self._fits()
        first = self._chosen_row()
        if first is None or first.summary is None:
            return f"Nothing on the shelf fits. {self._hint()}"
        self.window.entry.line.offers = len(fits)
        return f"Enter opens {first.summary.name}." + (" Down goes to the next one." if len(fits) > 1 else "")

    def _hint(self) -> str:
        """What can be typed here."""
        quote = self.session.design.book.words.decisions[-1][0]
        return f"A number takes a pattern. A quote such as {quote} is priced. Anything else finds a job on the shelf."

    def _fits(self) -> list[Shelved]:
        """Rows that fit what is typed and can be opened."""
        return [row for row in self.shelf.rows(self._typed) if not row.trouble]

    def _chosen_row(self) -> Shelved | None:
        fits = self._fits()
        return fits[self._chosen % len(fits)] if fits else None

    def _step(self, way: int) -> None:
        """Choose the next row that fits, or the one before."""
        if self.session.look.start and self._fits():
            self._chosen = (self._chosen + way) % len(self._fits())
            self.window.entry.say(self.echo(self.window.entry.line.text()))

    def commit(self, text: str) -> None:
        """Take what is typed: a way by its number, a quote, or the first job that fits.

        Raises
        ------
        InputError
            When it is none of them.
        """
        number = self._numbered(text)
        if number is not None:
            self.begin(number)
        elif self._quoted(text):
            self.window.acts.scribe(text)
        else:
            self._typed = text.strip()
            first = self._chosen_row()
            if first is None:
                self.window.acts.scribe(text)  # says what it cannot read
            else:
                self.open(first.path)

    # -- what is taken ----------------------------------------------------------------------------------------------

    def begin(self, number: int) -> None:
        """Scribe a way, everything guessed, and begin the walk along it."""
        from awlmark.core.begin.ways import begin

        way = self.ways()[number]
        if way.job is None:
            return
        self._typed = ""
        here = self.session.job
        job = put(begin(way.job), Put("code", here.code), Put("units", here.units), Put("guessed", way.job.guessed))
        # The empty job of the start sheet becomes this one: taking it back leads to the sheet's blank tape.
        self.session.apply(f"pattern {way.name[0].lower()}{way.name[1:]}", replace(job, id=self.session.job.id))
        self.session.see(stage="run", start=False)
        self.window.walking.begin()

    def fresh(self) -> Job:
        """An empty job that starts with the rule book and the unit chosen last, at first with the region's."""
        code = str(self.window.settings.value("new_code", regional.first_code()))
        job = fresh_job(code if code in CODES else NEWEST)
        units = str(self.window.settings.value("new_units", regional.first_units()))
        # British tables are metric: feet are an American choice.
        if units in ("ft", "m") and job.code in EDITIONS:
            job = put(job, Put("units", units))
        paper = regional.first_paper()
        return put(job, Put("papers.paper", paper)) if paper and paper != USUAL[job.units] else job

    def start_with(self, which: str) -> None:
        """The next rule book, or the other unit, for this line and those to come."""
        known: tuple[str, ...] = CODES if which == "code" else ("ft", "m")
        now = self.session.job.code if which == "code" else self.session.job.units
        value = known[(known.index(now) + 1) % len(known)]
        self.window.settings.setValue(f"new_{which}", value)
        self.session.open(self.fresh() if which == "code" else put(self.session.job, Put(which, value)), None)
        self.session.see(stage="run", start=True)

    def row(self, number: int) -> None:
        """Open a row of the shelf."""
        self.open(self._rows[number].path)

    def open(self, name: str) -> None:
        """Open a file of the shelf."""
        if self.window.files.may_leave():
            self._typed = ""
            self.window.entry.line.clear()
            self.window.files.open(Path(name))

    def drop(self, number: int) -> None:
        """Take a file that is gone or no job off the shelf."""
        self.shelf.take_off(self._rows[number].path)
        self._changed()

    def find(self, number: int) -> None:
        """Open a file that is gone from its new place; it stands on the shelf from there on."""
        gone = self._rows[number].path
        path = self.window.files.ask_open() if self.window.files.may_leave() else None
        if path is not None:
            self.shelf.take_off(gone)
            self.window.files.open(path)

    def door(self, which: str) -> None:
        """A blank tape, the practice bench, or a folder for the shelf."""
        if which == "blank":
            self.session.see(stage="run", start=False)
            self.window.entry.line.setFocus()
        elif which == "practice":
            self.session.see(start=False)
            self.window.practise()
        elif which == "folder":
            folder = self.window.files.ask_folder()
            if folder is not None:
                self.shelf.put_folder(folder)
                self._changed()


class Walking(QObject):
    """The walk along the line: each guess stands selected in the Entry until it is answered."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self.window, self.session = window, window.session

    def begin(self) -> None:
        """Walk through everything that is guessed."""
        from awlmark.core.begin.walk import questions

        asked = questions(self.session.job)
        if not asked:
            raise InputError("walk", "Nothing is guessed.", "a line begun from a pattern, or a whole quote")
        self.session.see(stage="run", start=False, walk=tuple(one.path for one in asked), step=0)
        self._ask()

    def asked(self) -> tuple[Question, ...]:
        """Every question of the walk as it stands now; those of legs that are gone fall out."""
        from awlmark.core.begin.walk import question

        found = []
        for path in self.session.look.walk:
            try:
                found.append(question(self.session.job, path))
            except InputError:
                continue  # its leg was rubbed out, and the question with it
        return tuple(found)

    def now(self) -> Question | None:
        """The question that is asked now."""
        look = self.session.look
        if not look.walk:
            return None
        asked = self.asked()
        return asked[min(look.step, len(asked) - 1)] if asked else None

    def echo(self) -> str:
        """The question in words."""
        one = self.now()
        return (
            "" if one is None else f"{one.label}?  Enter keeps it, or type over it. Shift+Enter goes back, Esc leaves."
        )

    def untouched(self, text: str) -> bool:
        """Whether the reading that is asked stands in the Entry as it was put there."""
        one = self.now()
        return one is None or not text.strip() or text == one.text

    def preview(self, text: str) -> str:
        """What Enter would do with what is typed over the reading."""
        from awlmark.core.begin.walk import answer

        one = self.now()
        if one is None or self.untouched(text):
            return self.echo()
        try:
            read = answer(self.session.job, one.path, self._pointed(one, text))
            return f"{one.label}: {read.says}"
        except InputError as problem:
            return f"{one.label}? {problem.problem} Accepted: {problem.accepted}."

    def _ask(self) -> None:
        """Put the reading into the Entry, selected, and the awl on its leg."""
        one = self.now()
        if one is None:
            self.leave()
            return
        walked = next((leg for leg in self.session.design.line.legs if leg.leg.id == one.leg), None)
        if walked is not None:
            self.session.see(at_m=(walked.start_m + walked.end_m) / 2)
        line = self.window.entry.line
        line.setFocus()
        line.setText(one.text)
        line.selectAll()

    def _pointed(self, one: Question, text: str) -> str:
        """An answer with its decimals behind points; what stood there is as it was printed."""
        return text if self.untouched(text) or one.path == "name" else regional.typed(text)

    def answer(self, text: str) -> None:
        """Take an answer and go on to the next question that is open.

        Raises
        ------
        InputError
            When it cannot be read; it stays in the Entry, selected.
        """
        from awlmark.core.begin.walk import answer

        one = self.now()
        if one is None:
            return
        try:
            reading = answer(self.session.job, one.path, self._pointed(one, text))
        except InputError:
            self.window.entry.line.selectAll()
            raise
        step = self.session.look.step
        self.session.apply(reading.says, reading.job)
        if one.path in self.session.job.guessed:
            self._ask()  # something else was typed: the question stays
        elif step + 1 < len(self.asked()):
            self.session.see(step=step + 1)
            self._ask()
        else:
            self.leave()

    def take(self, which: str) -> None:
        """Keep what stands in the Entry, go back, or leave."""
        if which == "keep":
            self.answer(self.window.entry.line.text())
        elif which == "back":
            self.back()
        else:
            self.leave()

    def to(self, number: int) -> None:
        """Go to a question."""
        self.session.see(step=max(0, min(number, len(self.asked()) - 1)))
        self._ask()

    def back(self) -> None:
        """Go back to the question before."""
        self.to(self.session.look.step - 1)

    def leave(self) -> None:
        """Leave the walk; what is not answered stays guessed."""
        still = sum(one.guessed for one in self.asked())
        self.session.see(walk=(), step=0)
        self.window.entry.line.clear()
        told = (
            f"{still} readings stay guessed; Alt+G walks on."
            if still
            else "Every reading is yours. Ctrl+6 is the list."
        )
        # After what the cleared Entry says of itself.
        QTimer.singleShot(0, self, lambda: self.window.entry.say(told))
