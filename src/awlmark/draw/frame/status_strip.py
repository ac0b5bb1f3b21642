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
    picture = Picture(width, HEIGHT)
    picture.box(0, 0, width, HEIGHT, fill="sheet")
    picture.line(0, HEIGHT - 0.5, width, HEIGHT - 0.5, "edge")
    picture.text(16, 26, shorten(design.job.name, BOLD, 15, LEFT - 24), 15, BOLD)
    picture.hit(0, 0, LEFT - 8, HEIGHT, "name", f"{design.job.name}: rename it", f"edit:name \t{design.job.name}")
    stage_width = 88 if width >= 1200 else 72
    for number, stage in enumerate(STAGES):
        left, here = LEFT + number * stage_width, stage == look.stage
        severity = stage_mark(design, stage)
        if here:
            picture.box(left, 0, stage_width, HEIGHT, fill="ground")
            picture.box(left, HEIGHT - 4, stage_width, 4, fill="scribe")
        mark(picture, severity, left + 18, 20)
        picture.text(left + 31, 26, design.book.words.stages[stage], 15, BOLD if here else "text")
        says = f"{design.book.words.stages[stage]}: {NAMES[severity]}" + (", shown" if here else "")
        picture.hit(left, 0, stage_width, HEIGHT, stage, says, f"stage:{stage}")
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
