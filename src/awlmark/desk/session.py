"""The open job: its design, its undo steps, its file, its autosave."""

from __future__ import annotations

import importlib
import string
import sys
from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QObject, Qt, QThreadPool, Signal
from PySide6.QtGui import QUndoCommand, QUndoStack

from awlmark.core.books import open_book
from awlmark.core.errors import AwlmarkError
from awlmark.core.finding import NOTE
from awlmark.core.job.autosave import Rescue
from awlmark.core.job.disk import Stamp, changed_since, stamp_of
from awlmark.core.job.file import read_stamped, save_job
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot
from awlmark.core.options.fixes import Quote, quote_fixes
from awlmark.core.parts.cutting import cut_exactly, plan_of
from awlmark.core.record import UnforeseenError
from awlmark.core.shelf import EDITIONS, NEWEST
from awlmark.core.solve.design import Design, beside, solve
from awlmark.core.standing import SITE_STAGES
from awlmark.desk.keeper import Keeper
from awlmark.desk.timers import once_after
from awlmark.desk.trials import Trials
from awlmark.draw.view_state import Look, in_hand

MOST_PENCILS = 3
RESTS_MS = 150
"""After the last edit the hand is taken to rest."""


class _Step(QUndoCommand):
    """One named edit: the job before and after."""

    def __init__(self, session: Session, name: str, before: Job, after: Job) -> None:
        super().__init__(name)
        self._session, self._before, self._after = session, before, after

    def redo(self) -> None:
        self._session._take(self._after)

    def undo(self) -> None:
        self._session._take(self._before)


class Session(QObject):
    """Owns the job. :meth:`apply` is the only way to change it; views observe."""

    solved = Signal()
    """The job, and so the design, changed."""
    looked = Signal()
    """Awl, stage, finding in hand or priced fixes changed."""
    stepped = Signal()
    """What can be taken back, or made again, changed."""
    _came = Signal(object, object)
    filed = Signal()
    """Path, or whether there is unsaved work, changed."""

    def __init__(self, job: Job, path: Path | None = None) -> None:
        super().__init__()
        self.job = job
        self.design: Design = solve(job)
        self.look = Look()
        self.path = path
        self.part_key: str | None = None
        self.undo_stack = QUndoStack(self)
        self.undo_stack.cleanChanged.connect(self._clean_changed)
        self._recovered = False
        self._ready: Design | None = None
        self._beside: Design | None = None
        self._beside_of: Design | None = None
        self.pencils: list[tuple[str, Job, Design]] = []
        """Whole jobs kept beside the one in pen, for as long as it is open."""
        self.trials = Trials()
        self._cutting = self._warm = False
        self._stamp: Stamp | None = None
        self.keeper = Keeper(self, lambda: self.unsaved)
        self.keeper.troubled.connect(self._troubled, Qt.ConnectionType.QueuedConnection)
        self._workers = QThreadPool(self)
        self._came.connect(lambda done, outcome: done(outcome), Qt.ConnectionType.QueuedConnection)
        # Python's threads take turns: a search beside quick edits would make each of them wait.
        self._cuts_soon = once_after(self, RESTS_MS, self._settle_cuts)
        self._warm_soon = once_after(self, RESTS_MS, self._warm_up)
        self.on_trouble: Callable[[AwlmarkError], None] = lambda problem: None

    def _troubled(self, problem: AwlmarkError) -> None:
        self.on_trouble(problem)

    def _clean_changed(self, _clean: bool) -> None:
        self.filed.emit()

    # -- edits ------------------------------------------------------------------------------------------------------

    def apply(self, name: str, job: Job) -> None:
        """Make an edit: one named undo step. Nothing happens when the job stays the same."""
        if job != self.job:
            self._ready = solve(job)  # refuses, before the step exists, what no design can be made of
            self.undo_stack.push(_Step(self, name, self.job, job))
            self.stepped.emit()

    def undo(self) -> None:
        """Take back the last edit."""
        self.undo_stack.undo()
        self.stepped.emit()

    def redo(self) -> None:
        """Make it again."""
        self.undo_stack.redo()
        self.stepped.emit()

    def _take(self, job: Job) -> None:
        grown = len(job.legs) > len(self.job.legs)
        self.job = job
        self.design = self._ready if self._ready is not None and self._ready.job is job else solve(job)
        self._ready = None
        end = self.design.line.length_m
        at_m = end if grown else min(self.look.at_m, end)
        self.look = replace(self.look, at_m=at_m, finding=None, quotes=(), start=False)
        self.solved.emit()
        self.filed.emit()
        self.keeper.edited(job, self.path)

    @property
    def spot(self) -> Spot:
        """What awl and list point at."""
        section = self.design.section_at(self.look.at_m)
        held = in_hand(self.design, self.look)
        note = held.text if held is not None and held.severity == NOTE else None
        spot = Spot(finding_id=held.id if held else None, finding_text=note, car=self.look.car)
        if section is None:
            return replace(spot, part_key=self.part_key)
        leg = self.design.line.leg_at(self.look.at_m) or section.legs[-1]
        legs = tuple(walked.leg.id for walked in section.legs)
        return replace(spot, leg_id=leg.leg.id, section_legs=legs, part_key=self.part_key)

    @property
    def beside(self) -> Design | None:
        """The same job in the other metal, solved when first asked for."""
        if self._beside_of is not self.design:
            self._beside, self._beside_of = beside(self.design), self.design
        return self._beside

    @property
    def unpriced(self) -> bool:
        """Whether something that is shown still waits for its price."""
        return not self.look.quotes or self.trials.wanted(self.design, self.look)

    def keep_pencil(self) -> str:
        """Keep the job in pencil; returns its name. The oldest goes when there is no room."""
        self.pencils = self.pencils[-(MOST_PENCILS - 1) :]
        taken = {name for name, _job, _design in self.pencils}
        name = next(f"Pencil {n}" for n in range(1, 10) if f"Pencil {n}" not in taken)
        self.pencils.append((name, self.job, self.design))
        self.looked.emit()
        return name

    def flip(self, number: int) -> None:
        """Take a pencil line in pen; what was in pen takes its place."""
        name, job, _design = self.pencils[number]
        before = (name, self.job, self.design)
        self.apply(f"flip to {name.lower()}", job)
        self.pencils[number] = before
        self.looked.emit()

    def rub_pencils(self) -> None:
        """Rub out every pencil line."""
        self.pencils.clear()
        self.looked.emit()

    # -- looking ----------------------------------------------------------------------------------------------------

    def see(self, **changes: object) -> None:
        """Change the view: stage, awl, finding in hand."""
        if "at_m" in changes:
            # Who sets the awl wants to see that point, wherever the mouse rests.
            changes = {"over_m": None, **changes}
        if "stage" in changes:
            changes = {"start": False, **changes}
        moved = changes.get("stage", self.look.stage) != self.look.stage
        if moved:
            # The big reading and the practice bench are put away by another stage.
            changes = {"big": False, "practice": None, **changes}
        look = replace(self.look, **changes)
        # The stages of the site hold findings of their own, the practice bench none: fixes of another are not theirs.
        to_site = moved and {look.stage, self.look.stage} & set(SITE_STAGES)
        practised = (look.practice is None) != (self.look.practice is None)
        if "finding" in changes or to_site or practised:
            look = replace(look, quotes=())
        if look != self.look:
            self.look = look
            self.looked.emit()

    def price_fixes(self) -> None:
        """Price the fixes of the finding in hand, and on Place the ways to end the line."""
        made = self.trials.make(self.design, self.look)
        finding = in_hand(self.design, self.look)
        quotes: tuple[Quote, ...] = quote_fixes(self.design, finding) if finding else ()
        if made or quotes != self.look.quotes:
            self.look = replace(self.look, quotes=quotes)
            self.looked.emit()

    # -- files ------------------------------------------------------------------------------------------------------

    @property
    def unsaved(self) -> bool:
        """Whether there is work that no file holds."""
        return self._recovered or not self.undo_stack.isClean()

    def open(self, job: Job, path: Path | None, *, recovered: bool = False) -> None:
        """Show another job; the one before must have been saved or put away."""
        self._ready = solve(job)
        self.keeper.take_on()
        self.undo_stack.clear()
        self._stamp = None
        self.path, self._recovered, self.part_key = path, recovered, None
        self.pencils.clear()
        self.look = Look(stage=self.look.stage, pixels_per_mm=self.look.pixels_per_mm)
        self._take(job)
        self.stepped.emit()
        if not recovered:
            self.keeper.forget()

    def open_file(self, path: Path) -> None:
        """Open a job's file.

        Raises
        ------
        AwlmarkError
            When it cannot be read; the job in hand stays.
        """
        job, stamp = read_stamped(path)
        self.open(job, path)
        self._stamp = stamp

    def open_rescue(self, rescue: Rescue) -> None:
        """Show work that a stopped Awlmark left behind; its file may have been written since."""
        path = Path(rescue.path) if rescue.path else None
        self.open(rescue.job, path, recovered=True)
        if path is not None and path.exists():
            older = path.stat().st_mtime <= rescue.saved_at
            self._stamp = stamp_of(path) if older else Stamp("", 0, 0)

    def take_file(self, name: str) -> None:
        """Take what the job's file holds now; the way there can be undone.

        Raises
        ------
        AwlmarkError
            When it cannot be read; the job in hand stays.
        """
        if self.path is None:
            return
        job, stamp = read_stamped(self.path)
        self.apply(name, job)
        self._stamp = stamp
        self.undo_stack.setClean()
        self._recovered = False
        self.keeper.forget()
        self.filed.emit()

    @property
    def changed_on_disk(self) -> bool:
        """Whether somebody else has written or taken away the job's file since it was read or saved here."""
        return self.path is not None and changed_since(self.path, self._stamp)

    def save(self, path: Path) -> None:
        """Save to a file and forget the autosave.

        Raises
        ------
        FileError
            When it cannot be written; the work stays open and kept.
        """
        self._stamp = save_job(self.job, path)
        self.path, self._recovered = path, False
        self.undo_stack.setClean()
        self.keeper.forget()
        self.filed.emit()

    def keep_now(self) -> None:
        """Write the autosave before anything else happens.

        Raises
        ------
        FileError
            When the state folder refuses.
        """
        self.keeper.keep_now()

    def settle_cuts(self) -> None:
        """Look for fewer sticks behind the window's back, once the hand rests."""
        self._cuts_soon.start()

    def _settle_cuts(self) -> None:
        """Search where the quick plan is not proved the fewest."""
        open_ones = []
        for section in self.design.line.sections:
            pieces, stick_m = self.design.pieces(section), section.method.stick_m
            if pieces and not (plan := plan_of(pieces, stick_m)).proved and not plan.rounds:
                open_ones.append((pieces, stick_m))
        if open_ones and not self._cutting:
            self._cutting = True
            self.behind(lambda: [cut_exactly(*each) for each in open_ones], self._cuts_settled)

    def warm_up(self) -> None:
        """Bring in what the heat of the Prove stage needs behind the window's back, one stage before it is shown."""
        if not self._warm:
            self._warm_soon.start()

    def _warm_up(self) -> None:
        if not self._warm:
            self._warm = True
            self.behind(lambda: importlib.import_module("scipy.integrate"), lambda _module: None)
            job, spot, stage = self.job, self.spot, self.look.stage
            self.behind(lambda: _first_suggestions(job, spot, stage), lambda _found: None)

    def _cuts_settled(self, _plans: object) -> None:
        self._cutting = False
        self.design = solve(self.job)
        self.solved.emit()

    def behind(self, work: Callable[[], object], done: Callable[[object], None]) -> None:
        """Do slow work off the window's thread; ``done`` gets its outcome, or its AwlmarkError, back on it.

        An error that nobody foresaw reaches the one place for those, and ``done`` as an UnforeseenError.
        """

        def run() -> None:
            try:
                outcome: object = work()
            except AwlmarkError as problem:
                outcome = problem
            except Exception as problem:  # noqa: BLE001 - told, logged, and whoever waits is answered
                sys.excepthook(type(problem), problem, problem.__traceback__)
                outcome = UnforeseenError(
                    f"Something unforeseen ended it ({type(problem).__name__}); nothing was taken."
                )
            self._came.emit(done, outcome)

        self._workers.start(run)

    def put_away(self) -> None:
        """The user let the work go: forget its autosave."""
        self._cuts_soon.stop()
        self._warm_soon.stop()
        self.keeper.forget()


def _first_suggestions(job: Job, spot: Spot, stage: str) -> object:
    """Suggest once for every letter, so that the first one typed finds all readers loaded."""
    from awlmark.core.entry.suggest import suggest

    return [suggest(letter, job, spot, stage) for letter in string.ascii_lowercase]


def fresh_job(code: str = NEWEST) -> Job:
    """A new job under a rule book: its units, its money, and example prices in its price book."""
    from awlmark.core.job.model import new_job
    from awlmark.core.job.supply import Supply

    book = open_book(code)
    system = next(iter(book.systems)) if code not in EDITIONS else Supply().system
    return new_job(
        code=code, units=book.units, currency=book.currency, prices=dict(book.goods.prices()),
        supply=Supply(system=system), makeup=book.goods.tails,
    )  # fmt: skip
