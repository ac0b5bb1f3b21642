"""Sheets of paper as display lists: a frame on every page; text, tables and drawings flow from one to the next.

Coordinates are points, 72 to the inch. Everything reads in grey: marks differ in shape, colours are also named.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Final

import msgspec

from awlmark.core.job.papers import USUAL
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, END, MIDDLE, START, TEXT, Picture, set_width, shorten, text_width, wrap
from awlmark.draw.kit.severity_marks import mark

LETTER: Final = (612.0, 792.0)
A4: Final = (595.0, 842.0)
SIZES: Final = {"letter": LETTER, "a4": A4}
MARGIN: Final = 45.0
TOP: Final = 82.0
BOTTOM: Final = 66.0
MM: Final = 72 / 25.4


class Column(msgspec.Struct, frozen=True):
    """One column of a table."""

    head: str
    width: float
    """Share of the page's width."""
    right: bool = False


Block = Callable[[float], tuple[float, Callable[[Picture, float, float], None]]]
"""Given a width, how tall it is and what draws it at a place [pt]."""


class Sheets:
    """Pages under construction.

    Parameters
    ----------
    design : Design
        Whose name and verdict stand on every page.
    """

    def __init__(self, design: Design) -> None:
        self.design = design
        self.size = SIZES[design.job.papers.paper or USUAL[design.job.units]]
        self.pages: list[tuple[Picture, str]] = []
        self.y = 0.0
        self._title = ""
        self._stamp = ""

    def stamped(self, word: str) -> None:
        """A word across this sheet and every page it goes on to."""
        self._stamp = word
        self._across()

    def _across(self) -> None:
        """Large and pale, step by step down the page, so that no part of it can be cut out without it."""
        wide, tall = self.size
        for row in range(4):
            y = TOP + 90 + row * (tall - TOP - BOTTOM) / 4
            for column in range(2):
                x = MARGIN + 20 + column * (wide / 2 - 30) + (row % 2) * 40
                self.page.text(x, y, self._stamp.upper(), 34, BOLD, "faint")

    @property
    def width(self) -> float:
        """Between the margins."""
        return self.size[0] - 2 * MARGIN

    @property
    def foot(self) -> float:
        """Where the text ends."""
        return self.size[1] - BOTTOM

    @property
    def page(self) -> Picture:
        """The page being written."""
        return self.pages[-1][0]

    def begin(self, title: str) -> None:
        """A new sheet on a page of its own."""
        self._title, self._stamp = title, ""
        self._turn(title)

    def section(self, title: str, keep: float) -> None:
        """A new sheet, on the page that is open where so much of it is left [pt]; else on the next."""
        if not self.pages or self._stamp or self.y + keep > self.foot:
            self.begin(title)
            return
        self._title = title
        picture, before = self.pages[-1]
        self.pages[-1] = picture, f"{before}; {title[:1].lower()}{title[1:]}"
        self.y += 22
        self.page.line(MARGIN, self.y - 6, MARGIN + self.width, self.y - 6, "ink", 1)
        self.y += 12
        self.page.text(MARGIN, self.y, title, 14, BOLD)
        self.y += 2

    def columns(
        self, blocks: Sequence[Block], count: int = 2, gap: float = 18.0, heads: frozenset[int] = frozenset()
    ) -> None:
        """Blocks down one column after another, each whole, the columns of a page alike in height.

        ``heads`` are blocks, by their place, that stay with the one behind them.
        """
        wide = (self.width - gap * (count - 1)) / count
        made = [block(wide) for block in blocks]
        place = 0
        while place < len(made):
            top, rest = self.y, sum(tall for tall, _draw in made[place:])
            # A full page takes all it can; the last one is shared out evenly.
            room = min(self.foot - top, max(rest / count + max(tall for tall, _draw in made[place:]) / 2, 1.0))
            lowest = top
            for column in range(count):
                self.y = top
                begun = place
                while place < len(made):
                    tall, draw = made[place]
                    with_next = made[place + 1][0] if place in heads and place + 1 < len(made) else 0.0
                    if place > begun and self.y + tall + with_next > top + room:
                        break
                    draw(self.page, MARGIN + column * (wide + gap), self.y)
                    self.y += tall
                    place += 1
                lowest = max(lowest, self.y)
            self.y = lowest
            if place < len(made):
                self._turn(f"{self._title}, continued")

    def _turn(self, title: str) -> None:
        picture = Picture(*self.size, paper=True)
        picture.box(0, 0, *self.size, fill="sheet")
        self.pages.append((picture, title))
        self.y = TOP
        if self._stamp:
            self._across()

    def room(self, tall: float) -> bool:
        """Make room for something; whether a new page was begun."""
        if self.y + tall <= self.foot:
            return False
        self._turn(f"{self._title}, continued")
        return True

    def heading(self, text: str) -> None:
        """A heading that stays with what follows."""
        self.room(100)
        self.y += 26 if self.y > TOP else 18
        self.page.text(MARGIN, self.y, text, 13, BOLD)
        self.y += 8

    def lines(self, text: str, size: float = 10.0, face: str = TEXT, role: str = "ink", indent: float = 0.0) -> None:
        """A paragraph."""
        for line in wrap(text, face, size, self.width - indent):
            self.room(size * 1.5)
            self.y += size * 1.4
            self.page.sentence(MARGIN + indent, self.y, line, size, face, role)

    def marked(self, severity: str, head: str, text: str, more: Sequence[str] = ()) -> None:
        """A finding: its mark, its title, its words, its sums."""
        body = wrap(text, TEXT, 10, self.width - 18)
        self.room(16 + 14 * len(body))
        self.y += 16
        mark(self.page, severity, MARGIN + 6, self.y - 4, 9)
        self.page.text(MARGIN + 18, self.y, head, 10, BOLD)
        for line in body:
            self.room(14)
            self.y += 14
            self.page.sentence(MARGIN + 18, self.y, line, 10)
        for text in more:
            self.lines(text, 9, role="ink2", indent=30)

    def table(
        self, columns: Sequence[Column], rows: Sequence[Sequence[str]], *, tick: bool = False, size: float = 10.0
    ) -> None:
        """A table whose head is repeated on every page; a box to tick before each row when asked."""
        total = sum(column.width for column in columns)
        left, wide = MARGIN + (16 if tick else 0), self.width - (16 if tick else 0)
        xs, at = [], left
        for column in columns:
            xs.append((at, column.width / total * wide))
            at += column.width / total * wide
        row_tall = size * 1.6
        self.room(row_tall * 3)
        self._head(columns, xs, size)
        for row in rows:
            cells = [wrap(cell, TEXT, size, span - 6) or [""] for cell, (_x, span) in zip(row, xs, strict=True)]
            tall = row_tall + size * 1.25 * (max(len(cell) for cell in cells) - 1)
            if self.room(tall):
                self._head(columns, xs, size)
            if tick:
                self.page.box(MARGIN + 1, self.y + row_tall - size - 1, 9, 9, "ink", 0.8)
            for column, (x, span), cell in zip(columns, xs, cells, strict=True):
                for number, line in enumerate(cell):
                    y = self.y + row_tall - size * 0.35 + number * size * 1.25
                    if column.right:
                        self.page.sentence(x + span - 6, y, line, size, anchor=END)
                    else:
                        self.page.sentence(x, y, line, size)
            self.y += tall
            self.page.line(MARGIN, self.y + 1.5, MARGIN + self.width, self.y + 1.5, "faint", 0.5)

    def _head(self, columns: Sequence[Column], xs: Sequence[tuple[float, float]], size: float) -> None:
        if not any(column.head for column in columns):
            self.y += 6
            return
        self.y += size * 1.6
        for column, (x, span) in zip(columns, xs, strict=True):
            at, anchor = (x + span - 6, END) if column.right else (x, START)
            self.page.text(at, self.y - 2, shorten(column.head, BOLD, size, span), size, BOLD, "ink2", anchor)
        self.page.line(MARGIN, self.y + 2.5, MARGIN + self.width, self.y + 2.5, "ink", 0.8)
        self.y += 2

    def finished(self) -> list[Picture]:
        """Every page with its frame."""
        for number, (picture, title) in enumerate(self.pages, 1):
            self._frame(picture, title, number)
        return [picture for picture, _title in self.pages]

    def _frame(self, picture: Picture, title: str, number: int) -> None:
        wide, tall = self.size
        job = self.design.job
        picture.text(MARGIN, 44, shorten(job.name, BOLD, 12, wide * 0.55), 12, BOLD)
        room = wide - 2 * MARGIN - text_width(shorten(job.name, BOLD, 12, wide * 0.55), BOLD, 12) - 20
        picture.text(wide - MARGIN, 44, shorten(title, TEXT, 12, room), 12, anchor=END)
        papers, words = job.papers, self.design.book.words
        said = [papers.customer, papers.address, papers.permit and f"{words.permit} {papers.permit}"]
        told = "; ".join([self.design.book.title, *filter(None, said), f"{self.design.book.decider}."])
        picture.text(MARGIN, 60, shorten(told, TEXT, 9, wide - 2 * MARGIN), 9, role="ink2")
        picture.line(MARGIN, 68, wide - MARGIN, 68, "ink", 1)
        for row, line in enumerate(wrap(words.caution, TEXT, 8, wide - 2 * MARGIN)):
            picture.text(MARGIN, tall - 50 + 10 * row, line, 8, role="ink2")
        feet = job.units == "ft"
        long = 288.0 if feet else 100 * MM
        picture.box(MARGIN, tall - 28, long, 5, "ink", 0.8)
        for part in range(1, 4 if feet else 10):
            x = MARGIN + long * part / (4 if feet else 10)
            picture.line(x, tall - 28, x, tall - 23, "ink", 0.8)
        told = "4 in, or the print is not true" if feet else "100 mm, or the print is not true"
        picture.text(MARGIN + long + 6, tall - 23, told, 8, role="ink2")
        picture.text(wide - MARGIN, tall - 23, f"page {number} of {len(self.pages)}", 9, BOLD, anchor=END)
        if self.design.stops:
            told = "LINE BROKEN"
            half = set_width(told, BOLD, 13) / 2 + 12
            picture.box(wide / 2 - half, 24, 2 * half, 20, "stop", 1.6, "sheet")
            picture.text(wide / 2, 39, told, 13, BOLD, "stop", MIDDLE)
