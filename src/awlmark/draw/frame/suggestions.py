"""What could be typed next, in the lane's place while something is typed: the tape stays in sight."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final, Protocol

from awlmark.draw.frame.lane import HEIGHT
from awlmark.draw.kit.picture import BOLD, DRAW, END, Picture, shorten, text_width

LEFT: Final = 168
GAP: Final = 4
COLUMNS: Final = 2
ROW: Final = (HEIGHT - 4 * GAP) / 3


class Offer(Protocol):
    """What a suggestion tells."""

    @property
    def shown(self) -> str: ...
    @property
    def does(self) -> str: ...
    @property
    def now(self) -> str: ...


def draw_suggestions(offers: Sequence[Offer], chosen: int, width: float) -> Picture:
    """Draw up to six suggestions, two side by side.

    Parameters
    ----------
    offers : sequence of Offer
        What could be typed: word, what it does, the value now.
    chosen : int
        Place of the one that Tab takes; the others follow by Down.
    width : float
        Width of the window [px].
    """
    picture = Picture(width, HEIGHT)
    picture.box(0, 0, width, HEIGHT, fill="sheet")
    picture.line(0, 0.5, width, 0.5, "edge")
    picture.text(16, 20, "Or type", 13, BOLD)
    picture.text(16, 38, "Tab takes it,", 13, role="ink2")
    picture.text(16, 55, "Down the next.", 13, role="ink2")
    wide = (width - LEFT - 12 - GAP * (COLUMNS - 1)) / COLUMNS
    for number, offer in enumerate(offers):
        left = LEFT + (number % COLUMNS) * (wide + GAP)
        top = GAP + (number // COLUMNS) * (ROW + GAP)
        here = number == chosen
        picture.box(left, top, wide, ROW, "scribe" if here else "", 2, fill="notefill" if here else "ground", radius=3)
        foot = top + ROW - 5
        said = shorten(offer.shown, DRAW, 17, wide * 0.36)
        picture.text(left + 8, foot, said, 17, DRAW, role="scribe")
        now = f"now {offer.now}" if offer.now else ""
        room = wide - wide * 0.38 - 16 - (text_width(now, "text", 13) + 12 if now else 0)
        picture.text(left + wide * 0.38, foot, shorten(offer.does, "text", 13, room), 13)
        if now:
            picture.text(left + wide - 8, foot, now, 13, role="ink2", anchor=END)
        says = f"{offer.shown}: {offer.does}{', ' + now if now else ''}"
        picture.hit(left, top, wide, ROW, f"suggestion-{number}", says, f"suggest:{number}")
    return picture
