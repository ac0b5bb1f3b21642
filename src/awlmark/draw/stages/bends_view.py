"""Bends by hand: every stick with its marks measured from its end."""

from __future__ import annotations

import math
from typing import Final

from awlmark.core.parts.marking import HandBend, hand_bends
from awlmark.core.quantities import FOOT_M, INCH_M, draw_length
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, MIDDLE, TEXT, Picture, fold

_ROW: Final = 104.0
TRUE_PX_PER_M: Final = 96 / INCH_M
"""Pixels of an SVG to a metre at true size: 96 to the inch."""
NAMES: Final = {
    "stub": "90° stub", "offset": "Offset", "saddle 3": "Saddle, three bends", "saddle 4": "Saddle, four bends",
}  # fmt: skip


def bends_of(design: Design) -> tuple[HandBend, ...]:
    """Bends of a design that are made by hand; none while its sizes are unread."""
    return hand_bends(design.line, design.circuit.trade_sizes) if design.circuit else ()


def draw_bends(picture: Picture, design: Design, top: float, width: float, height: float) -> None:
    """A row for each stick, to the scale of its length.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        Its line.
    top, width, height : float
        Where the rows begin, and the size of the drawing [px].
    """
    found = bends_of(design)
    if not found:
        middle, y = width / 2, (top + height) / 2
        picture.text(middle, y - 26, "Which bends do you make yourself?", 24, BOLD, anchor=MIDDLE)
        told = "Put the awl on a leg, then type one of these; bought elbows need no marks."
        picture.text(middle, y + 2, told, 15, role="ink2", anchor=MIDDLE)
        picture.text(middle, y + 34, "bent hand", 18, DRAW, "scribe", MIDDLE)
        picture.text(
            middle, y + 62, "offset 10cm 30" if design.job.units == "m" else "offset 4in 30", 18, DRAW, "scribe", MIDDLE
        )
        return
    rows = max(1, int((height - top - 8) / _ROW))
    for number, bend in enumerate(found[:rows]):
        _stick(picture, design, bend, (top + number * _ROW, width))
    if len(found) > rows:
        picture.text(width - 12, height - 8, f"and {len(found) - rows} more in the list", 13, role="ink2", anchor="end")


def _stick(picture: Picture, design: Design, bend: HandBend, area: tuple[float, float]) -> None:
    top, width = area
    left, right, y = 20.0, width - 20, top + 58
    units = design.job.units
    if bend.marked is None:
        picture.sentence(left, top + 20, f"Leg {bend.number}, {bend.pipe}: {bend.why}", 13, BOLD, "tight")
        picture.hit(
            left, top, right - left, 30, f"bend-{bend.leg_id}", f"Leg {bend.number}: {bend.why}", f"awl:{bend.at_m:.4f}"
        )
        return
    marked = bend.marked
    head = f"Leg {bend.number}: {NAMES[marked.shape]}, {bend.pipe}"
    picture.text(left, top + 20, head, 13, BOLD)
    assert bend.piece is not None
    facts = [f"on the piece of {draw_length(bend.piece.length_m, units)} from {draw_length(bend.piece.start_m, units)}"]
    facts += [f"radius {draw_length(marked.radius_m, units)}"]
    facts += [f"shrinks {draw_length(marked.shrink_m, units)}"] if marked.shrink_m else []
    facts += [f"gains {draw_length(marked.gain_m, units)}"] if marked.gain_m else []
    picture.sentence(right, top + 20, ", ".join(facts), 13, TEXT, "ink2", "end")
    pixels = (right - left) / design.longest_stick_m
    picture.box(left, y - 8, bend.piece.length_m * pixels, 16, "ink", 1.4, "well")
    for foot in range(1, math.ceil(bend.piece.length_m / FOOT_M - 1e-6)):
        picture.line(left + foot * FOOT_M * pixels, y + 4, left + foot * FOOT_M * pixels, y + 8, "edge")
    says, edge = [], -100.0
    for number, one in enumerate(sorted(marked.marks, key=lambda one: one.at_m), 1):
        x = left + one.at_m * pixels
        picture.line(x, y - 14, x, y + 14, "scribe", 2.6)
        told = draw_length(one.at_m, units)
        picture.disc(x, y - 24, 8, "scribe", 1.4, "sheet")
        picture.text(x, y - 19, f"{number}", 13, BOLD, anchor=MIDDLE)
        line = f"{number} at {told}: {one.says}"
        says.append(line)
        edge = max(edge, x)
    told = ";  ".join(says)
    for number, line in enumerate(fold(told, TEXT, 13, right - left, 2)):
        picture.sentence(left, y + 28 + 16 * number, line, 13, TEXT)
    sentence = f"{head}, {facts[0]}. Marks from its end toward the panel: {'; '.join(says)}"
    picture.hit(
        left, top, right - left, _ROW - 8, f"bend-{bend.leg_id}-{bend.at_m:.3f}", sentence, f"awl:{bend.at_m:.4f}"
    )


def true_size(design: Design) -> Picture:
    """Every stick with its marks at true size, for a strip to lay beside the pipe; a check bar of four inches first."""
    found = [bend for bend in bends_of(design) if bend.marked is not None]
    long = max((mark.at_m for bend in found for mark in (bend.marked.marks if bend.marked else ())), default=0.2)
    picture = Picture((long + 0.15) * TRUE_PX_PER_M, 120 + 110 * max(len(found), 1))
    picture.box(0, 0, picture.width, picture.height, fill="sheet")
    picture.box(20, 20, 4 * INCH_M * TRUE_PX_PER_M, 14, "ink", 1.4, "well")
    picture.text(20, 56, "This bar is 4 inches long, or the print is not true.", 13)
    for number, bend in enumerate(found):
        assert bend.marked is not None
        y = 130.0 + 110 * number
        picture.text(
            20,
            y - 34,
            f"Leg {bend.number}: {NAMES[bend.marked.shape]}, {bend.pipe}",
            13,
            BOLD,
        )
        picture.line(20, y, picture.width - 20, y, "ink", 1.4)
        for mark in bend.marked.marks:
            x = 20 + mark.at_m * TRUE_PX_PER_M
            picture.line(x, y - 18, x, y + 18, "scribe", 2)
            picture.sentence(x + 6, y + 16, f"{draw_length(mark.at_m, design.job.units)} {mark.says}", 13, TEXT)
    return picture
