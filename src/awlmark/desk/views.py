"""What the window shows: stages, the reading large, palettes."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QSettings
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication, QGridLayout, QWidget

from awlmark.desk import theme
from awlmark.desk.commands import Acts
from awlmark.desk.entry import EntryBar
from awlmark.desk.menus import name_stages
from awlmark.desk.region import Region
from awlmark.desk.scenes import Scenes
from awlmark.desk.session import Session
from awlmark.draw.frame.slip import WIDTH
from awlmark.draw.kit.severity_marks import NAMES

if TYPE_CHECKING:
    from awlmark.desk.dialogs.guide import Guide
    from awlmark.desk.tour import Tour
    from awlmark.desk.word_panel import WordPanel


TEXT_PERCENTS = (90, 100, 110, 125, 140, 160)
"""Sizes of the text [percent]."""


class Views:
    """Mixed into the window. A plain class: Qt's classes do not share a child."""

    session: Session
    settings: QSettings
    mode: str
    scheme: str
    actions_by_id: dict[str, QAction]
    loupe: Region
    regions: tuple[Region, ...]
    scenes: Scenes
    grid: QGridLayout
    entry: EntryBar
    acts: Acts
    whole: Callable[[], QWidget]
    """The window itself."""
    places: Callable[[], dict[str, QWidget]]
    """Parts of the desk by name."""
    _refresh: Callable[[], None]
    """Draws everything anew; the window's own."""
    _words: WordPanel | None = None
    text_percent = 100
    """What View > Text size asks."""
    text_scale = 1.0
    """How much larger than drawn everything is shown: the desktop has a say in it."""
    set_scale: Callable[[float], None]
    """Sizes every part of the window."""
    _guide: Guide | None = None
    _tour: Tour | None = None

    def _name_stages(self) -> None:
        if self.actions_by_id:
            name_stages(self.actions_by_id, self.session.design.book.words.stages)

    def swap_list(self) -> None:
        """Swap a drawing with its list: the focused region's, or the scene's."""
        now = QApplication.focusWidget()
        for region in self.regions:
            if now is region.focus_target():
                if region is self.scenes.drawing:
                    break
                region.swap()
                return
        self.scenes.swap()

    def _speak(self) -> None:
        """The verdict and the finding in hand, spoken where they changed."""
        design, look = self.session.design, self.session.look
        self.entry.told.now("verdict", f"The line: {design.said}")
        found = design.finding(look.finding) if look.finding else None
        words = f"{NAMES[found.severity]}: {found.title}. {found.text}" if found is not None else ""
        self.entry.told.now("finding", words)

    def show_guide(self) -> None:
        """The guide beside the work; it stays open while that goes on."""
        from awlmark.desk.dialogs.guide import Guide

        name = self.session.design.book.words.guide
        if self._guide is not None and self._guide.name != name:
            self._guide.deleteLater()
            self._guide = None
        if self._guide is None:
            self._guide = Guide(self.whole(), self.scheme, name)
        self._guide.show()
        self._guide.raise_()

    def look_round(self) -> None:
        """Eight places of the desk, one after another."""
        from awlmark.desk.tour import Tour

        if self._tour is not None:
            self._tour.end()

        def ended() -> None:
            self._tour = None
            self.entry.line.setFocus()

        self._tour = Tour(self.whole(), self.places(), lambda stage: self.session.see(stage=stage), lambda: self.scheme,
                          lambda: self.session.design.book.words)  # fmt: skip
        self._tour.ended.connect(ended)

    def key_card(self) -> None:
        """What can be typed, in the loupe's place; once more puts it away."""
        if self._words is None:
            from awlmark.desk.word_panel import WordPanel

            self._words = WordPanel(round(WIDTH * self.text_scale))
            self.grid.addWidget(self._words, 1, 2)
            self._words.picked.connect(lambda example: self.acts.do(f"type:{example}"))
            self._words.closed.connect(self.key_card)
            self._words.hide()
        opens = self._words.isHidden()
        if self.session.look.start:
            # It stands beside the scene: the start sheet gives way to an empty tape.
            self.session.see(stage=self.session.look.stage, start=False)
        self.loupe.setVisible(not opens)
        self._words.setVisible(opens)
        if opens:
            self._words.show_for(self.session.look.stage, self.session.job.code)
        else:
            self.loupe.refresh(self.scheme)
            self.entry.line.setFocus()

    def show_need(self) -> None:
        """Stage Need."""
        self.session.see(stage="need", pencils=False)

    def show_panel(self) -> None:
        """Stage Panel."""
        self.session.see(stage="panel", pencils=False)

    def show_place(self) -> None:
        """Stage Place."""
        self.session.see(stage="place", pencils=False)

    def show_run(self) -> None:
        """Stage Run."""
        self.session.see(stage="run", pencils=False)

    def show_wire(self) -> None:
        """Stage Wire."""
        self.session.see(stage="wire", pencils=False)

    def show_parts(self) -> None:
        """Stage Parts."""
        self.session.see(stage="parts", pencils=False)

    def show_build(self) -> None:
        """Stage Build."""
        self.session.see(stage="build", pencils=False)

    def show_prove(self) -> None:
        """Stage Prove."""
        self.session.see(stage="prove", pencils=False, practice=None)

    def big_reading(self) -> None:
        """The reading in hand large, and back."""
        self.session.see(big=not self.session.look.big)

    def text_larger(self) -> None:
        """Everything that is read a step larger."""
        self._text_step(1)

    def text_smaller(self) -> None:
        """And a step smaller."""
        self._text_step(-1)

    def text_usual(self) -> None:
        """As it is drawn."""
        self.take_text_size(100)

    def _text_step(self, by: int) -> None:
        at = TEXT_PERCENTS.index(self.text_percent) + by
        self.take_text_size(TEXT_PERCENTS[min(max(at, 0), len(TEXT_PERCENTS) - 1)])

    def take_text_size(self, percent: int) -> None:
        """Show text and drawings at a size, and remember it; an unknown one is the usual."""
        self.text_percent = percent if percent in TEXT_PERCENTS else 100
        self.settings.setValue("text_percent", self.text_percent)
        self._size_text()
        self.entry.say(f"Text at {self.text_percent} %. Ctrl++ and Ctrl+- change it, Ctrl+0 is the usual size.")

    def _size_text(self) -> None:
        """Show everything at the size that the view and the desktop ask now."""
        self.text_scale = theme.text_scale(self.text_percent)
        self.follow_desktop()
        self.set_scale(self.text_scale)
        if self._words is not None:
            # It is made anew where it is asked for next.
            if not self._words.isHidden():
                self.key_card()
            self._words.deleteLater()
            self._words = None

    def follow_text(self) -> None:
        """Take the desktop's size of text, where it is another now."""
        if theme.text_scale(self.text_percent) != self.text_scale:
            self._size_text()

    def go_light(self) -> None:
        """Light palette."""
        self._go(theme.LIGHT_MODE)

    def go_dark(self) -> None:
        """Dark palette."""
        self._go(theme.DARK_MODE)

    def go_contrast(self) -> None:
        """Palette of high contrast."""
        self._go(theme.CONTRAST_MODE)

    def go_system(self) -> None:
        """The desktop's palette."""
        self._go(theme.SYSTEM)

    def _go(self, mode: str) -> None:
        self.mode = mode
        self.settings.setValue("mode", mode)
        self.actions_by_id[mode].setChecked(True)
        self.follow_desktop()

    def follow_desktop(self) -> None:
        """Take the palette that the mode means now."""
        self.scheme = theme.scheme_of(self.mode)
        application = QApplication.instance()
        assert isinstance(application, QApplication)
        theme.dress(application, self.scheme, self.text_scale)
        self._refresh()
