"""The sill: job, stages with their worst marks, rule book, price, state of the line."""

from __future__ import annotations

from awlmark.core.solve.design import Design
from awlmark.core.standing import STAGES, line_state, stage_mark
from awlmark.draw.kit.picture import BOLD, END, TEXT, Picture, set_width, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import Look, money

HEIGHT = 40
LEFT = 184
"""Where the stages begin; before them stands the name [px]."""
ONE_ROW = 1120.0
"""Width from which stages and state have room beside each other [px]."""


def sill_height(width: float) -> int:
    """Height at a width: narrow, the stages have a row of their own below [px]."""
    return HEIGHT if width >= ONE_ROW else 2 * HEIGHT


def draw_sill(design: Design, look: Look, width: float) -> Picture:
    """Draw the sill.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        For the stage shown.
    width : float
        Width of the window [px].
    """
    tall = sill_height(width)
    picture = Picture(width, tall)
    picture.box(0, 0, width, tall, fill="sheet")
    picture.line(0, tall - 0.5, width, tall - 0.5, "edge")
    picture.text(16, 26, shorten(design.job.name, BOLD, 15, LEFT - 24), 15, BOLD)
    picture.hit(0, 0, LEFT - 8, HEIGHT, "name", f"{design.job.name}: rename it", f"edit:name \t{design.job.name}")
    first, top = (LEFT, 0) if tall == HEIGHT else (0, HEIGHT)
    stage_width = (88 if width >= 1200 else 72) if tall == HEIGHT else width / len(STAGES)
    for number, stage in enumerate(STAGES):
        left, here = first + number * stage_width, stage == look.stage
        severity, name = stage_mark(design, stage), design.book.words.stages[stage]
        if here:
            picture.box(left, top, stage_width, HEIGHT, fill="ground")
            picture.box(left, top + HEIGHT - 4, stage_width, 4, fill="scribe")
        mark(picture, severity, left + 18, top + 20)
        face = BOLD if here else TEXT
        picture.text(left + 31, top + 26, shorten(name, face, 15, stage_width - 32), 15, face)
        says = f"{name}: {NAMES[severity]}" + (", shown" if here else "")
        picture.hit(left, top, stage_width, HEIGHT, stage, says, f"stage:{stage}")
    severity, words = line_state(design)
    words_width = set_width(words, BOLD, 13)
    right = width - 16
    picture.sentence(right - words_width, 25, words, 13, BOLD)
    mark(picture, severity, right - words_width - 14, 20)
    picture.hit(right - words_width - 24, 0, words_width + 40, HEIGHT, "line", f"{NAMES[severity]}: {words}", "worst")
    right -= words_width + 44
    price = text_width(money(design), BOLD, 15)
    picture.text(right, 26, money(design), 15, BOLD, anchor=END)
    picture.hit(right - price - 6, 0, price + 12, HEIGHT, "price", f"Price {money(design)}: show the quote", "quote:")
    right -= price + 22
    book = text_width(design.book.title, TEXT, 13)
    picture.text(right, 25, design.book.title, 13, role="ink2", anchor=END)
    says = f"Rule book {design.book.title}: take another edition"
    picture.hit(right - book - 6, 0, book + 12, HEIGHT, "book", says, "type:code ")
    return picture
