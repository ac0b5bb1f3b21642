"""The window: regions around the scene, and every action."""

from __future__ import annotations

import functools
import os
from pathlib import Path

from PySide6.QtCore import QEvent, QSettings, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QAction, QCloseEvent, QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QGridLayout,
    QMainWindow,
    QMenu,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from awlmark.core.plain import shown
from awlmark.desk import theme
from awlmark.desk.commands import Acts
from awlmark.desk.dialogs.files import FileDesk
from awlmark.desk.edits import Edits
from awlmark.desk.entry import HEIGHT, EntryBar
from awlmark.desk.file_actions import REOPEN, Tools
from awlmark.desk.menus import build_menus
from awlmark.desk.mouse.dial import DialHand
from awlmark.desk.mouse.drag import Pull
from awlmark.desk.mouse.floor_hand import FloorHand
from awlmark.desk.mouse.pointing import Pointing
from awlmark.desk.offers import Offers
from awlmark.desk.placing import fit_screen, keep_place, take_place
from awlmark.desk.region import Region
from awlmark.desk.scenes import Scenes
from awlmark.desk.session import Session
from awlmark.desk.start_sheet import StartSheet, Walking
from awlmark.desk.table_edits import Typed
from awlmark.desk.timers import once_after
from awlmark.desk.typing_in import LANE_FOLDS_BELOW, Typing
from awlmark.desk.views import TEXT_PERCENTS, Views
from awlmark.draw.frame import ladder, lane, loupe, slip, status_strip, tape
from awlmark.draw.kit.bundle import width_for_all
from awlmark.draw.view_state import panel_page
from awlmark.ink.painter import color

DRAWN = QSize(1120, 680)
"""Smallest window whose drawings are whole; in a smaller one they scroll, and the Entry stays."""
SMALLEST = QSize(640, 400)
MENUS = 28
"""Height of the menu bar, taken until it is shown [px]."""
PRICING_MS = 20
IN_MENU = 8
"""Recent files that the menu names; the shelf shows the rest."""


class Window(Typing, Tools, Edits, Views, QMainWindow):
    """The application's window."""

    closing = Signal()
    """It is about to close."""

    def __init__(self, session: Session, settings: QSettings) -> None:
        super().__init__()
        self.session, self.settings = session, settings
        self.files = FileDesk(session, self, settings)
        self.open_file = self._open_path
        self.setAcceptDrops(True)
        self.mode = str(settings.value("mode", theme.SYSTEM))
        self.scheme = theme.scheme_of(self.mode)
        self.actions_by_id: dict[str, QAction] = {}
        self._told: tuple[str, str | None, bool, bool] = ("", None, False, False)
        """Stage and finding that the next keys were told for."""
        self._walked = False
        """Whether a walk was on at the last look."""
        self.setMinimumSize(SMALLEST)
        take_place(self, settings)
        self._build_regions()
        self.actions_by_id = build_menus(self, self._fill_recent)
        self.actions_by_id[self.mode].setChecked(True)
        self.actions_by_id["reopen"].setChecked(bool(settings.value(REOPEN, False, bool)))
        self.actions_by_id["stop-reading"].setEnabled(False)
        self._name_stages()
        kept = str(settings.value("text_percent", "100"))
        self.text_percent = int(kept) if kept.isdecimal() and int(kept) in TEXT_PERCENTS else 100
        self.text_scale = theme.text_scale(self.text_percent)
        self.set_scale(self.text_scale)
        self.acts.menu = lambda action: self.actions_by_id[action].trigger()
        # Well after the repaint, and once for edits that follow each other quickly.
        self.tidying: QTimer | None = None
        """Collects garbage when the hand rests; whoever starts the desk sets it."""
        self.pricing = once_after(self, PRICING_MS, session.price_fixes)
        session.solved.connect(self._solved)
        session.looked.connect(self._looked)
        session.filed.connect(self._filed)
        session.on_trouble = lambda problem: self.entry.say(str(problem), trouble=True)
        session.stepped.connect(self._stepped)
        known = settings.value("pixels_per_mm")
        if known is not None:
            session.see(pixels_per_mm=float(str(known)))
        self._filed()
        self._stepped()
        self._solved()

    # -- building ---------------------------------------------------------------------------------------------------

    def _build_regions(self) -> None:
        session = self.session
        self.sill = Region(
            "sill", "Stages and line state", lambda w, h: status_strip.draw_sill(session.design, session.look, w)
        )
        self.ladder = Region("ladder", "Ladder of amps", lambda w, h: ladder.draw_ladder(session.design, h))
        self.scenes = Scenes(session, lambda: self.entry.line.text())
        self.loupe = Region(
            "loupe",
            "Section and slip",
            self._draw_loupe,
            lambda: loupe.finding_rows(session.design, session.look),
        )
        self.lane = Region(
            "lane",
            "Lane",
            self._draw_lane,
            lambda: lane.draw_lane(session.design, session.look, self._roomy()).answers(),
        )
        self.tape = Region(
            "tape",
            "Tape",
            lambda w, h: tape.draw_tape(session.design, session.look, w),
            lambda: tape.draw_tape(session.design, session.look, self._roomy()).answers(),
        )
        self.entry = EntryBar(lambda role: color(role, self.scheme))
        self.acts = Acts(session, self.entry)
        middle = QWidget()
        grid = QGridLayout(middle)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(0)
        grid.addWidget(self.ladder, 1, 0)
        grid.addWidget(self.scenes, 1, 1)
        grid.addWidget(self.loupe, 1, 2)
        self.grid = grid
        grid.addWidget(self.lane, 2, 0, 1, 3)
        grid.addWidget(self.tape, 3, 0, 1, 3)
        grid.setRowStretch(1, 1)
        grid.setColumnStretch(1, 1)
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.view = QScrollArea()
        self.view.setFrameShape(QFrame.Shape.NoFrame)
        self.view.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.view.setWidgetResizable(True)
        self.pages = QStackedWidget()
        self.pages.addWidget(middle)
        self.view.setWidget(self.pages)
        # The state of the line stays in sight wherever the rest is scrolled to.
        column.addWidget(self.sill)
        column.addWidget(self.view, 1)
        column.addWidget(self.entry)
        self.setCentralWidget(whole)
        self.regions = (self.sill, self.ladder, self.scenes.drawing, self.loupe, self.lane, self.tape)
        for region in self.regions:
            region.acted.connect(self.acts.do)
            region.canvas.typed.connect(self.entry.type)
        self.sheet, self.walking = StartSheet(self), Walking(self)
        self.pages.addWidget(self.sheet.region)
        self.acts.sheet = self._sheet_act
        self.entry.line.backed.connect(lambda: self.acts.act(self.walking.back) if self.session.look.walk else None)
        self.entry.line.left.connect(self._leave)
        self.typed = Typed(session, self.scenes, self.acts)
        self.pointing = Pointing(session, (*self.regions, self.sheet.region), self.acts)
        self.scenes.drawing.canvas.zooms = True
        self.pull = Pull(session, self.scenes.drawing.canvas, self.tape.canvas, self.entry, self.acts)
        self.dial_hand = DialHand(session, self.scenes.drawing.canvas, self.entry)
        self.acts.turned = self.dial_hand.turned
        self.floor_hand = FloorHand(session, self.scenes.drawing.canvas, self.entry, self.acts)
        self.entry.committed.connect(self._commit)
        self.entry.changed.connect(self._echo)
        self.entry.line.stepped.connect(self.acts.step_mark)
        self.entry.chipped.connect(self._chip)
        self.offers = Offers(session, self.entry, self._offered)
        self.acts.suggest = self.offers.take
        self.entry.line.setFocus()

    def whole(self) -> QWidget:
        """The window itself, for what stands over it."""
        return self

    def places(self) -> dict[str, QWidget]:
        """Parts of the desk by name."""
        return {
            "sill": self.sill, "ladder": self.ladder, "scenes": self.scenes, "loupe": self.loupe, "tape": self.tape,
            "entry": self.entry,
        }  # fmt: skip

    def set_scale(self, scale: float) -> None:
        """Size every part of the window by the size of the text; what then has no room is scrolled to."""
        for region in (*self.regions, self.sheet.region):
            if region is not self.scenes.drawing:
                region.set_scale(scale)
        self._fit_sill()
        self.ladder.setFixedWidth(round(ladder.WIDTH * scale))
        self.loupe.setFixedWidth(round(slip.WIDTH * scale))
        self.lane.setFixedHeight(round(lane.HEIGHT * scale))
        self.tape.setFixedHeight(round(tape.HEIGHT * scale))
        self.entry.set_scale(scale)
        self.scenes.set_scale(scale)
        self._least()

    def _least(self) -> None:
        """The least that is scrolled: the start sheet has the sill's room too."""
        beside = HEIGHT if self.session.look.start else status_strip.HEIGHT + HEIGHT
        self.pages.setMinimumSize(DRAWN * self.text_scale - QSize(0, round(beside * self.text_scale) + MENUS))

    def _fit_sill(self) -> None:
        """The sill in one row or two, by its width."""
        high = round(status_strip.sill_height(self.width() / self.text_scale) * self.text_scale)
        if self.sill.height() != high:
            self.sill.setFixedHeight(high)

    def _roomy(self) -> float:
        """A width at which no mark of the line shares its answer with another [px]."""
        return width_for_all(
            [walked.leg.length_m for walked in self.session.design.line.legs], self.width() / self.tape.canvas.scale
        )

    def _fill_recent(self, menu: QMenu) -> None:
        menu.clear()
        for name in self.files.recent()[:IN_MENU]:
            told = shown(os.fsencode(name).decode("utf-8", errors="replace")).replace("&", "&&")
            menu.addAction(told).triggered.connect(functools.partial(self._open_path, Path(name)))
        if menu.isEmpty():
            menu.addAction("Nothing opened yet").setEnabled(False)

    # -- following the session --------------------------------------------------------------------------------------

    def _solved(self) -> None:
        if self._walked and not self.session.look.walk:
            self._looked()
        self.scenes.refresh_tables()
        self._name_stages()
        self._refresh()
        # Prices that come in later change nothing of what the keys are told for, and talk over no trouble.
        self._told = self._in_hand()
        self._echo(self.entry.line.text())
        self._speak()
        self.pricing.start()

    def _in_hand(self) -> tuple[str, str | None, bool, bool]:
        """What the next keys are told for."""
        look = self.session.look
        return look.stage, look.finding, look.practice is not None, look.start

    def _stepped(self) -> None:
        """Name what can be taken back."""
        undo, redo = (shown(text) for text in (self.session.undo_stack.undoText(), self.session.undo_stack.redoText()))
        # In a menu an ampersand would mark the letter behind it.
        self.actions_by_id["undo"].setText(f"&Undo {undo.replace('&', '&&')}" if undo else "&Undo")
        self.actions_by_id["redo"].setText(f"&Redo {redo.replace('&', '&&')}" if redo else "&Redo")
        self.actions_by_id["undo"].setEnabled(bool(undo))
        self.actions_by_id["redo"].setEnabled(bool(redo))
        self.entry.name_undo(undo, 240)

    def _looked(self) -> None:
        if self._walked and not self.session.look.walk:
            # The reading that was asked goes with its walk, however that ended.
            self.entry.line.clear()
        self._walked = bool(self.session.look.walk)
        self._refresh()
        if self._in_hand() != self._told:
            self._told = self._in_hand()
            self._echo(self.entry.line.text())
            self._speak()
        if self.session.unpriced:
            self.pricing.start()

    def _refresh(self) -> None:
        self.pages.setCurrentIndex(int(self.session.look.start))
        self.sill.setVisible(not self.session.look.start)
        self._least()
        if self.session.look.start:
            self.sheet.region.refresh(self.scheme)
            self.entry.show_chips(False)
            return
        self.scenes.show_stage(self.session.look.stage)
        for region in self.regions:
            region.refresh(self.scheme)
        design = self.session.design
        self.entry.show_chips(
            self.session.look.stage == "run" and self.session.look.practice is None and not design.line.closed
        )

    def _filed(self) -> None:
        session = self.session
        where = f" ({session.path.name})" if session.path else ""
        self.setWindowTitle(f"{'* ' if session.unsaved else ''}{shown(session.job.name)}{where}: Awlmark")
        if self.actions_by_id:
            self.actions_by_id["revert"].setEnabled(bool(session.path) and session.unsaved)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit_sill()
        self.lane.setVisible(bool(self.offers.found) or self.height() >= LANE_FOLDS_BELOW * self.text_scale)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self._refresh()
        if not event.spontaneous():
            QTimer.singleShot(0, self, lambda: fit_screen(self))

    # -- regions and marks --------------------------------------------------------------------------------------------

    def _stops(self) -> list[QWidget]:
        targets: list[QWidget] = []
        for region in self.regions:
            if region.isVisible():
                targets.append(self.scenes.focus_target() if region is self.scenes.drawing else region.focus_target())
        if self.session.look.stage == "parts":
            targets.insert(3, self.scenes.parts)
        if self.session.look.stage == "need":
            targets.insert(3, self.scenes.facts)
        if self.session.look.stage == "panel" and panel_page(self.session.design, self.session.look) == "amps":
            targets[3:3] = [self.scenes.supply.loads, self.scenes.supply.facts]
        return [*targets, self.entry.line]

    def next_region(self, way: int = 1) -> None:
        """Focus the next region."""
        stops = self._stops()
        now = QApplication.focusWidget()
        at = stops.index(now) if now in stops else -1
        there = stops[(at + way) % len(stops)]
        there.setFocus(Qt.FocusReason.TabFocusReason)
        if there is not self.entry.line:
            self.view.ensureWidgetVisible(there)

    def previous_region(self) -> None:
        """Focus the previous region."""
        self.next_region(-1)

    def previous_mark(self) -> None:
        """Awl to the mark before."""
        self.acts.step_mark(-1)

    def next_mark(self) -> None:
        """Awl to the next mark."""
        self.acts.step_mark(1)

    def why(self) -> None:
        """Go to the slip."""
        self.loupe.focus_target().setFocus(Qt.FocusReason.ShortcutFocusReason)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ThemeChange:
            self.follow_text()
        return super().event(event)

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.ActivationChange and self.isActiveWindow() and self.session.changed_on_disk:
            name = self.session.path.name if self.session.path else ""
            self.entry.say(f"{name} was changed on the disk by another window or program. Ctrl+S asks which to keep.")

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.files.may_leave():
            keep_place(self, self.settings)
            self.closing.emit()
            self.session.put_away()
            self.files.release()
            event.accept()
        else:
            event.ignore()
