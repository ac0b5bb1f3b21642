"""What the window shows: stages, the reading large, palettes."""

from __future__ import annotations

from PySide6.QtCore import QSettings
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication

from awlmark.desk import theme
from awlmark.desk.session import Session


class Views:
    """Mixed into the window. A plain class: Qt's classes do not share a child."""

    session: Session
    settings: QSettings
    mode: str
    dark: bool
    actions_by_id: dict[str, QAction]

    def _refresh(self) -> None:
        """Draw everything anew; the window's own."""
        raise NotImplementedError

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

    def go_light(self) -> None:
        """Light palette."""
        self._go(theme.LIGHT_MODE)

    def go_dark(self) -> None:
        """Dark palette."""
        self._go(theme.DARK_MODE)

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
        self.dark = theme.is_dark(self.mode)
        application = QApplication.instance()
        assert isinstance(application, QApplication)
        theme.dress(application, self.dark)
        self._refresh()
