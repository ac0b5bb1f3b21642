"""The Place scene: the floor to scale, cars and cords on it; heights; where the line may end, and how."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.words import Words
from awlmark.core.options.fixes import Quote
from awlmark.core.options.spots import SpotWay
from awlmark.core.solve.design import Design
from awlmark.draw.figures.floor_plan import FloorPlan, floor_of, plan_height
from awlmark.draw.figures.place_ends import draw_elevation, draw_ends
from awlmark.draw.figures.tray import draw_tray
from awlmark.draw.kit.picture import BOLD, DRAW, MIDDLE, TEXT, Picture, wrap
from awlmark.draw.view_state import Look

_CARDS: Final = 344.0
_MARGIN: Final = 34.0
GRIP: Final = 26.0
"""Least side of what has a corner to pull at [px]."""


def draw_place(
    design: Design,
    look: Look,
    forks: tuple[Quote, ...],
    width: float,
    height: float,
    spots: tuple[SpotWay, ...] = (),
) -> Picture:
    """Draw the Place scene.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        The awl's place, and what is in hand.
    forks : tuple of Quote
        Outlet or hardwire, priced; nothing until they are.
    width, height : float
        Size of the scene [px].
    spots : tuple of SpotWay
        Each spot as a whole job; nothing until they are priced.
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    site, top = design.job.site, plan_height(height)
    FloorPlan(picture, design, look, spots, floor_of(design, width, height), (width, top)).draw()
    draw_tray(picture, 0.0, top)
    if not site.areas and not site.pins and not site.bays:
        picture.line(0, top + 0.5, width, top + 0.5, "edge")
        _ask(picture, design.book.words, width, top, height)
        return picture
    picture.line(0, top + 0.5, width, top + 0.5, "edge")
    cards = width - min(_CARDS, width * 0.46)
    draw_elevation(picture, design, (0.0, top, cards, height))
    picture.line(cards + 0.5, top, cards + 0.5, height, "edge")
    draw_ends(picture, design, forks, spots, (cards + 12, top, width - 12, height))
    return picture


def _ask(picture: Picture, words: Words, width: float, top: float, height: float) -> None:
    """An empty floor: what to drag, and the same in words."""
    middle, y = width / 2, top + (height - top) * 0.3
    picture.text(
        middle, y - 18, f"Where do cars stand, and where may the {words.charger} hang?", 20, BOLD, anchor=MIDDLE
    )
    told = f"Drag a room and a bay from the tray; the {words.panel} hangs on the wall at the top. Or type {words.axes}:"
    for number, line in enumerate(wrap(told, TEXT, 14, width - 40)):
        picture.text(middle, y + 8 + 18 * number, line, 14, role="ink2", anchor=MIDDLE)
    for number, entry in enumerate(words.start.split("|")):
        at = y + 58 + 28 * number
        picture.text(middle, at, entry, 18, DRAW, "scribe", MIDDLE)
        picture.hit(middle - 170, at - 20, 340, 28, f"ask-{number}", f"Type {entry}", f"type:{entry}")
