"""The shipped typefaces."""

from __future__ import annotations

import functools
from pathlib import Path

from PySide6.QtGui import QFont, QFontDatabase

FILES = ("AtkinsonHyperlegibleNext_400Regular.ttf", "AtkinsonHyperlegibleNext_600SemiBold.ttf", "routed-gothic.ttf")
BODY_FAMILY = "Atkinson Hyperlegible Next"
DRAW_FAMILY = "Routed Gothic"


@functools.cache
def load_fonts() -> None:
    """Register the shipped fonts with Qt, once."""
    for name in FILES:
        QFontDatabase.addApplicationFont(str(Path(__file__).parent / "fonts" / name))


@functools.cache
def face_font(face: str, size: float, *, tabular: bool = True) -> QFont:
    """The font of a drawing face: ``text``, ``bold`` or ``draw``, ``size`` in pixels."""
    font = QFont(DRAW_FAMILY if face == "draw" else BODY_FAMILY)
    font.setPixelSize(round(size))
    if face == "bold":
        font.setWeight(QFont.Weight.DemiBold)
    if face != "draw":
        # Said outright even where it is off: once it has been on, Qt keeps it for fonts that say nothing.
        font.setFeature(QFont.Tag("tnum"), int(tabular))
    font.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    return font
