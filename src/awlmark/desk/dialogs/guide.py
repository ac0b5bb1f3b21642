"""The guide in the program: shipped with it, its pictures drawn from the demo as they are looked at."""

from __future__ import annotations

import functools
from pathlib import Path
from typing import Any, Final

from PySide6.QtCore import QSize, QUrl
from PySide6.QtGui import QImage, QPainter, QTextCursor, QTextDocument
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QHBoxLayout, QLineEdit, QTextBrowser, QVBoxLayout, QWidget

import awlmark.data
from awlmark.draw.kit.picture import Picture
from awlmark.draw.view_state import Look
from awlmark.ink.painter import color, paint

FOLDER: Final = Path(awlmark.data.__file__).parent
SIZE: Final = QSize(792, 562)
"""Of a stage as it is drawn for a picture [px]."""
WIDE: Final = 620
"""Width that a picture has in the guide [px]."""


def guide_text(name: str = "guide.md") -> str:
    """A guide as Markdown."""
    return (FOLDER / name).read_text(encoding="utf-8")


@functools.cache
def _drawn(name: str) -> Picture | None:
    """The stage that a picture's name begins with, drawn from the demo."""
    from awlmark.core.begin.ways import shipped
    from awlmark.core.options.side_by_side import sides
    from awlmark.core.solve.design import solve
    from awlmark.data import FOUNDRY, demo_job
    from awlmark.draw.stages.build_view import draw_build
    from awlmark.draw.stages.need_view import draw_need
    from awlmark.draw.stages.panel_view import draw_panel
    from awlmark.draw.stages.parts_view import draw_parts
    from awlmark.draw.stages.place_view import draw_place
    from awlmark.draw.stages.prove_view import draw_prove
    from awlmark.draw.stages.run_view import draw_run
    from awlmark.draw.stages.start_view import draw_start
    from awlmark.draw.stages.wire_view import draw_wire

    design, foundry, size = solve(demo_job()), solve(demo_job(FOUNDRY)), (SIZE.width(), SIZE.height())
    look, wide = Look(at_m=18.288), (1280, 700)
    made = {
        "start": lambda: draw_start(shipped(), [], -1, "", *wide, (design.book.title, "feet, inches")),
        "need": lambda: draw_need(design, look, size[0], 360),
        "panel-spaces": lambda: draw_panel(design, Look(page="spaces"), *size),
        "place": lambda: draw_place(design, look, (), *size),
        "run": lambda: draw_run(design, look, *size),
        "ways": lambda: draw_wire(design, None, Look(wire_page="jobs"), *size, sides(design)),
        "parts": lambda: draw_parts(design, look, size[0], 330),
        "build": lambda: draw_build(design, look, *size),
        "prove": lambda: draw_prove(design, look, *size),
        "supply": lambda: draw_panel(foundry, Look(), *size),
        "cable": lambda: draw_wire(foundry, None, Look(at_m=14.0), *size),
        "list": lambda: draw_parts(foundry, look, size[0], 330),
        "test": lambda: draw_prove(foundry, look, *size),
    }
    stem = name.removesuffix(".png").removesuffix("-light")
    return made[stem]() if stem in made else None


class Pages(QTextBrowser):
    """Shows the guide; a picture is drawn when it is asked for."""

    def __init__(self, scheme: str) -> None:
        super().__init__()
        self.scheme = scheme
        self.setOpenExternalLinks(False)
        self.setAccessibleName("Guide")

    def loadResource(self, kind: int, name: QUrl | str) -> Any:
        if kind != QTextDocument.ResourceType.ImageResource.value:
            return super().loadResource(kind, name)
        picture = _drawn(Path(name if isinstance(name, str) else name.path()).name)
        if picture is None:
            return super().loadResource(kind, name)
        scale = WIDE / picture.width
        image = QImage(WIDE, round(picture.height * scale), QImage.Format.Format_ARGB32)
        image.fill(color("sheet", self.scheme))
        painter = QPainter(image)
        painter.scale(scale, scale)
        paint(painter, picture, self.scheme)
        painter.end()
        return image


def _space(document: QTextDocument) -> None:
    """Room between paragraphs, which Markdown leaves to the reader."""
    cursor = QTextCursor(document)
    while True:
        block = cursor.blockFormat()
        listed = cursor.currentList() is not None
        block.setTopMargin(14 if block.headingLevel() else 0)
        block.setBottomMargin(2 if listed or block.hasProperty(block.Property.BlockCodeFence.value) else 8)
        cursor.setBlockFormat(block)
        if not cursor.movePosition(QTextCursor.MoveOperation.NextBlock):
            return


class Guide(QDialog):
    """The guide, with a line to find words in it."""

    def __init__(self, parent: QWidget, scheme: str, name: str) -> None:
        super().__init__(parent)
        self.name = name
        self.setWindowTitle("Guide")
        self.resize(700, 640)
        self.pages = Pages(scheme)
        self.pages.setMarkdown(guide_text(name))
        _space(self.pages.document())
        self.finds = QLineEdit()
        self.finds.setPlaceholderText("Find a word; Enter goes to the next")
        self.finds.setAccessibleName("Find in the guide")
        self.finds.returnPressed.connect(self._find)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.button(QDialogButtonBox.StandardButton.Close).setAutoDefault(False)
        buttons.rejected.connect(self.reject)
        column, foot = QVBoxLayout(self), QHBoxLayout()
        foot.addWidget(self.finds, 1)
        foot.addWidget(buttons)
        column.addWidget(self.pages)
        column.addLayout(foot)

    def _find(self) -> None:
        """Go to the next place of a word, from the top again behind the last."""
        if not self.pages.find(self.finds.text()):
            self.pages.moveCursor(self.pages.textCursor().MoveOperation.Start)
            self.pages.find(self.finds.text())
