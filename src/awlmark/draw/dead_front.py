"""The dead front: numbered spaces, bus legs alternating, what is in them, and the moves that make room."""

from __future__ import annotations

from typing import Final

from awlmark.core.design import Design
from awlmark.core.panel.spaces import Freed, cells, fewest_moves, leg_of
from awlmark.draw.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten, wrap

_WIDE: Final = 420.0


def draw_dead_front(picture: Picture, design: Design, top: float, width: float, height: float) -> None:
    """Draw the panel's spaces at the left and the moves at the right.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        Its job's dead front.
    top, width, height : float
        Where the drawing begins, and its size [px].
    """
    front = design.job.dead_front
    if front.spaces == 0:
        middle, y = width / 2, (top + height) / 2
        picture.text(middle, y - 14, "How many spaces has the panel?", 24, BOLD, anchor=MIDDLE)
        picture.text(middle, y + 14, "Type them, then what is in each.", 15, role="ink2", anchor=MIDDLE)
        picture.text(middle, y + 42, "spaces 20", 18, DRAW, "scribe", MIDDLE)
        return
    freed = fewest_moves(front)
    rows = front.spaces // 2
    tall = min(24.0, (height - top - 22) / rows)
    _spaces(picture, design, freed, (top + 14, tall))
    _moves(picture, design, freed, (_WIDE + 16, top + 18, width - 12))


def _spaces(picture: Picture, design: Design, freed: Freed, area: tuple[float, float]) -> None:
    """Each row lies on one leg; dark tabs mark leg A, light ones leg B."""
    top, tall = area
    front, middle = design.job.dead_front, _WIDE / 2
    owner = {space: one for one in front.breakers for space in cells(one)}
    size = 13.0
    legible = tall >= 15
    picture.box(8, top - 6, _WIDE - 8, tall * (front.spaces // 2) + 12, "ink", 1.6, "ground", 4)
    for space in range(1, front.spaces + 1):
        row, right = (space - 1) // 2, space % 2 == 0
        y = top + row * tall
        left = middle + 6 if right else 40.0
        wide = middle - 46
        if legible:
            number_x = _WIDE - 12 if right else 34
            picture.text(number_x, y + tall / 2 + 5, f"{space}", size, role="ink2", anchor=END)
        picture.box(
            middle - 4 if not right else middle, y + 2, 4, tall - 4, fill="ink" if leg_of(space) == "A" else "faint"
        )
        one = owner.get(space)
        chosen = freed.pair is not None and space in freed.pair
        if one is None:
            role = "scribe" if chosen else "edge"
            picture.box(
                left, y + 1, wide, tall - 2, role, 2 if chosen else 1, "notefill" if chosen else "", hatch="slant:faint"
            )
            told = f"space {space}, leg {leg_of(space)}: free"
        else:
            first = space == one.space
            both = len(cells(one)) == 2
            if first:
                deep = tall * (2 if both else 1) - 2
                fill = "well" if not one.fixed else "faint"
                picture.box(left, y + 1, wide, deep, "scribe" if chosen else "ink", 2 if chosen else 1, fill)
                if legible:
                    amps = f"{one.rating_a:g} A " if one.rating_a else ""
                    extra = " tandem" if one.tandem else " stays" if one.fixed else ""
                    name = shorten(f"{amps}{one.name}{extra}".strip() or "in use", TEXT, size, wide - 10)
                    picture.text(left + 6, y + deep / 2 + 5, name, size)
            told = f"space {space}, leg {leg_of(space)}: {one.name or 'in use'}"
        picture.hit(left, y, wide, tall, f"slot-{space}", told, f"type:slot {space} ")


def _moves(picture: Picture, design: Design, freed: Freed, area: tuple[float, float, float]) -> None:
    left, y, right = area
    picture.text(left, y, "Room for two poles", 13, BOLD, "ink2")
    finding = design.finding("space")
    for line in wrap(finding.text if finding else "", TEXT, 15, right - left):
        y += 22
        picture.text(left, y, line, 15)
    for number, move in enumerate(freed.moves, 1):
        y += 28
        picture.disc(left + 9, y - 5, 9, "scribe", 1.4, "sheet")
        picture.text(left + 9, y, f"{number}", 13, BOLD, anchor=MIDDLE)
        picture.text(
            left + 26,
            y,
            shorten(f"{move.name}: {move.from_space} to {move.to_space}", BOLD, 13, right - left - 28),
            13,
            BOLD,
        )
    for line in wrap("Panel dead before the cover comes off. Line lugs stay live.", TEXT, 13, right - left):
        y += 24
        picture.text(left, y, line, 13, role="stop")
        y -= 5
