"""Light, dark and in high contrast: palette and style of the ordinary widgets."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import Qt
from PySide6.QtGui import QFontDatabase, QGuiApplication, QPalette
from PySide6.QtWidgets import QApplication

from awlmark.draw.kit.palette import PALETTES
from awlmark.ink.fonts import BODY_FAMILY, face_font
from awlmark.ink.painter import color

SYSTEM: Final = "system"
LIGHT_MODE, DARK_MODE, CONTRAST_MODE = "light", "dark", "contrast"


def scheme_of(mode: str) -> str:
    """The scheme that a mode means now: its own, or what the desktop wishes."""
    if mode in PALETTES:
        return mode
    hints = QGuiApplication.styleHints()
    if hints.accessibility().contrastPreference() == Qt.ContrastPreference.HighContrast:
        return CONTRAST_MODE
    return DARK_MODE if hints.colorScheme() == Qt.ColorScheme.Dark else LIGHT_MODE


USUAL_PX: Final = (12.0, 15.0)
"""Text of a desktop for which everything is drawn [px]: 9 to 11 points."""
BODY_PX: Final = 14
"""Text of the ordinary widgets, as drawn [px]."""
SCALES: Final = (0.8, 2.0)
"""Least and most of what the desktop and View > Text size ask together."""


def text_scale(percent: int) -> float:
    """How much larger than drawn everything is shown: the desktop's text against the usual, times the view's size."""
    font = QFontDatabase.systemFont(QFontDatabase.SystemFont.GeneralFont)
    inch = QGuiApplication.primaryScreen().logicalDotsPerInch()
    px = font.pixelSize() if font.pixelSize() > 0 else font.pointSizeF() * inch / 72
    usual = min(max(px, USUAL_PX[0]), USUAL_PX[1])
    return round(min(max(px / usual * percent / 100, SCALES[0]), SCALES[1]), 2)


def scaled() -> float:
    """How much larger than drawn the ordinary widgets show their text now."""
    return QApplication.font().pixelSize() / BODY_PX


def dress(application: QApplication, scheme: str, scale: float = 1.0) -> None:
    """Give the ordinary widgets the palette's colours, and the size of the text."""
    roles = {
        QPalette.ColorRole.Window: "ground",
        QPalette.ColorRole.WindowText: "ink",
        QPalette.ColorRole.Base: "sheet",
        QPalette.ColorRole.AlternateBase: "ground",
        QPalette.ColorRole.Text: "ink",
        QPalette.ColorRole.Button: "ground",
        QPalette.ColorRole.ButtonText: "ink",
        QPalette.ColorRole.PlaceholderText: "ink2",
        QPalette.ColorRole.Highlight: "notefill",
        QPalette.ColorRole.HighlightedText: "ink",
        QPalette.ColorRole.ToolTipBase: "sheet",
        QPalette.ColorRole.ToolTipText: "ink",
    }
    palette = QPalette()
    for role, name in roles.items():
        palette.setColor(role, color(name, scheme))
    for role in (QPalette.ColorRole.WindowText, QPalette.ColorRole.Text, QPalette.ColorRole.ButtonText):
        palette.setColor(QPalette.ColorGroup.Disabled, role, color("edge", scheme))
    application.setPalette(palette)
    application.setFont(face_font("text", BODY_PX * scale))
    style = _style(PALETTES[scheme], scale)
    if application.styleSheet() != style:
        # Every widget there is would be dressed anew.
        application.setStyleSheet(style)


def _style(c: dict[str, str], scale: float) -> str:
    return f"""
QMenuBar, QMenu, QTableView, QListView, QHeaderView, QDialog, QTextBrowser {{
    font-family: "{BODY_FAMILY}"; font-size: {round(BODY_PX * scale)}px; }}
QMenuBar {{ background: {c["ground"]}; color: {c["ink"]}; border-bottom: 1px solid {c["well"]}; padding: 0; }}
QMenuBar::item {{ padding: 3px 12px; background: transparent; }}
QMenuBar::item:selected {{ background: {c["notefill"]}; }}
QMenu {{ background: {c["sheet"]}; color: {c["ink"]}; border: 1px solid {c["edge"]}; }}
QMenu::item {{ padding: 5px 28px 5px 22px; }}
QMenu::item:selected {{ background: {c["notefill"]}; }}
QMenu::item:disabled {{ color: {c["edge"]}; }}
QMenu::separator {{ height: 1px; background: {c["well"]}; margin: 3px 8px; }}
QTableView, QListView {{ background: {c["sheet"]}; color: {c["ink"]}; border: 0; gridline-color: {c["well"]};
    selection-background-color: {c["notefill"]}; selection-color: {c["ink"]}; outline: 0; }}
QTableView::item:selected:active, QListView::item:selected:active {{ background: {c["notefill"]}; color: {c["ink"]};
    border: 2px solid {c["scribe"]}; }}
QTableView:focus, QListView:focus {{ border: 3px solid {c["scribe"]}; }}
QTableView QLineEdit {{ background: {c["sheet"]}; color: {c["ink"]}; border: 2px solid {c["scribe"]}; padding: 0 3px; }}
QHeaderView::section {{ background: {c["ground"]}; color: {c["ink2"]}; border: 0; border-bottom: 1px solid {c["edge"]};
    padding: 3px 6px; font-weight: 400; }}
QHeaderView::section:vertical {{ border-bottom: 1px solid {c["well"]}; }}
QTableCornerButton::section {{ background: {c["ground"]}; border: 0; }}
QLineEdit#entry {{ background: transparent; border: 0; color: {c["ink"]}; placeholder-text-color: {c["ink2"]};
    selection-background-color: {c["faint"]}; selection-color: {c["ink"]}; }}
QWidget#entrybar {{ background: {c["well"]}; }}
QLabel#echo[trouble="true"] {{ color: {c["stop"]}; font-weight: 600; }}
QLabel#echo {{ color: {c["ink2"]}; }}
QPushButton#chip {{ background: {c["sheet"]}; color: {c["ink"]}; border: 1px solid {c["edge"]}; border-radius: 4px;
    padding: 4px 8px; font-size: {round(13 * scale)}px; font-weight: 600; }}
QPushButton#chip:hover {{ background: {c["notefill"]}; border: 2px solid {c["scribe"]}; padding: 3px 7px; }}
QWidget#wordpanel {{ background: {c["ground"]}; }}
QTreeView {{ background: {c["sheet"]}; color: {c["ink"]}; border: 0; outline: 0; }}
QTreeView::item {{ padding: 3px 0; }}
QTreeView::item:selected {{ background: {c["notefill"]}; color: {c["ink"]}; }}
QLabel#undo {{ color: {c["ink2"]}; }}
"""
