"""The walk in the loupe's place: what is asked, what was answered, what it comes to so far."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from awlmark.core.begin.walk import Question
from awlmark.core.finding import HOLDS, UNREAD
from awlmark.core.quantities import draw_length
from awlmark.core.solve.design import Design
from awlmark.draw.frame.slip import WIDTH
from awlmark.draw.kit.picture import BOLD, END, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import money

ROW: Final = 25.0
FOOT: Final = 148.0
"""What the sum and the two ways on take at the foot [px]."""


def draw_walk(design: Design, asked: Sequence[Question], step: int, height: float) -> Picture:
    """Draw the list of the walk.

    Parameters
    ----------
    design : Design
        Solved job.
    asked : sequence of Question
        Every question, in the order of the walk.
    step : int
        Place of the one that is asked now.
    height : float
        Height of the column [px].
    """
    picture = Picture(WIDTH, height)
    picture.box(0, 0, WIDTH, height, fill="ground")
    picture.line(0.5, 0, 0.5, height, "edge")
    left, right = 12.0, WIDTH - 12.0
    still = sum(one.guessed for one in asked)
    picture.text(left, 24, "First walk", 13, role="ink2")
    picture.text(left, 50, f"{still} of {len(asked)} to read" if still else "Every reading is yours", 20, BOLD)
    room = int((height - 66 - FOOT) // ROW)
    first = min(max(step - room // 2, 0), max(len(asked) - room, 0))
    y = 66.0
    for number, one in list(enumerate(asked))[first : first + room]:
        here = number == step
        picture.box(left, y, right - left, ROW - 3, "scribe" if here else "", 2, "notefill" if here else "sheet", 3)
        mark(picture, UNREAD if one.guessed else HOLDS, left + 14, y + 11, 10)
        value_width = text_width(one.text, BOLD, 13)
        face = BOLD if here else "text"
        picture.text(left + 28, y + 16, shorten(one.label, face, 13, right - left - 48 - value_width), 13, face)
        picture.sentence(right - 8, y + 16, one.text, 13, BOLD, anchor=END)
        says = f"{one.label}: {one.text}, {'guessed' if one.guessed else 'read'}"
        picture.hit(left, y, right - left, ROW - 3, f"ask-{number}", says, f"ask:{number}")
        y += ROW
    _sum(picture, design, height - FOOT, left, right)
    wide = (right - left - 16) / 3
    ways = (("Keep", "Enter", "walk:keep"), ("Back", "Shift", "walk:back"), ("Leave", "Esc", "walk:leave"))
    for number, (name, key, act) in enumerate(ways):
        x = left + number * (wide + 8)
        picture.box(x, height - 40, wide, 30, "edge", 1, fill="sheet", radius=4)
        picture.text(x + 8, height - 20, name, 13, BOLD)
        picture.text(x + wide - 6, height - 20, key, 13, role="ink2", anchor=END)
        picture.hit(x, height - 40, wide, 30, act, f"{name}, {key}", act)
    return picture


def _sum(picture: Picture, design: Design, top: float, left: float, right: float) -> None:
    """What the line comes to with what is known now."""
    picture.box(left, top, right - left, 100, "edge", 1, fill="sheet")
    picture.box(left, top, 6, 100, fill="unread")
    picture.text(left + 16, top + 22, "What it comes to so far", 13, BOLD)
    circuit, units, words = design.circuit, design.job.units, design.book.words
    rows = [(f"{draw_length(design.line.length_m, units)} from {words.panel} to {words.charger}", money(design))]
    if circuit is not None:
        metal = "copper" if circuit.material == "cu" else "aluminium"
        rows.insert(0, (f"{design.book.print_size(circuit.size)} {metal}", f"{circuit.breaker_a:g} A {words.breaker}"))
    for line, (told, value) in enumerate(rows):
        picture.sentence(left + 16, top + 44 + 20 * line, told, 13)
        picture.text(right - 10, top + 44 + 20 * line, value, 13, BOLD, anchor=END)
    mark(picture, design.verdict, left + 22, top + 84, 10)
    picture.text(left + 34, top + 88, f"{NAMES[design.verdict]} so far; dashed until each is yours", 13, role="ink2")
