"""The reading in hand, large enough to be read across a garage."""

from __future__ import annotations

from typing import Final

from awlmark.core.quantities import draw_length
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import DRAW, MIDDLE, Picture, text_width
from awlmark.draw.view_state import Look

TALL: Final = 160.0
"""Height of the reading [px]."""


def draw_big(design: Design, look: Look, typed: str, width: float, height: float) -> Picture:
    """Draw the reading in hand.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        The awl: the leg there is read while nothing is typed.
    typed : str
        What stands in the Entry.
    width, height : float
        Size of the scene [px].
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    legs, units = design.line.legs, design.job.units
    here = design.line.leg_at(look.seen_m)
    if typed:
        rows = [(typed, "as it is typed; Enter takes it")]
    elif here is None:
        rows = [(draw_length(0.0, units), "nothing scribed yet")]
    else:
        told = f"leg {here.number} of {len(legs)}, {here.leg.direction}, {here.method.name}"
        rows = [(draw_length(here.leg.length_m, units), told)]
        if here.leg.built_m is not None:
            rows = [(rows[0][0], f"{told}, as planned"), (draw_length(here.leg.built_m, units), "as built")]
    each = height / len(rows)
    for number, (reading, told) in enumerate(rows):
        size = min(TALL, TALL * (width - 40) / max(text_width(reading, DRAW, TALL), 1.0), each - 70)
        middle = each * (number + 0.5)
        picture.text(width / 2, middle + size * 0.28, reading, size, DRAW, "scribe" if typed else "ink", MIDDLE)
        picture.text(width / 2, middle + size * 0.28 + 44, told, 20, role="ink2", anchor=MIDDLE)
        picture.hit(20, middle - size / 2, width - 40, size, f"big-{number}", f"{reading}, {told}", "")
    keys = "[ and ] go to the next mark. Alt+B puts it away."
    picture.text(width / 2, height - 14, keys, 13, role="ink2", anchor=MIDDLE)
    return picture
