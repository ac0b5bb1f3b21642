"""The floor plan above the walls, and the question an empty tape asks."""

from __future__ import annotations

import itertools
from typing import Final

from awlmark.core.design import Design
from awlmark.core.quantities import draw_length
from awlmark.draw.bundle import bent, bundles, many
from awlmark.draw.labels import Labels
from awlmark.draw.picture import BOLD, DRAW, END, MIDDLE, START, Picture

LEFT: Final = 46.0
RIGHT: Final = 96.0
"""Margins of the scene beside the drawing [px]."""
NAMED: Final = 12.0
"""Legs drawn shorter than this are not told their length [px]."""
MOST_SCALE: Final = 124.0
"""Pixels per metre at most, so that a short run does not grow into a poster."""


def draw_question(picture: Picture) -> None:
    """Empty tape: one question, one key."""
    middle, y = picture.width / 2, picture.height / 2 + 14
    picture.text(middle, y - 174, "Where does the line leave the panel?", 24, BOLD, anchor=MIDDLE)
    picture.text(middle, y - 146, "Press an arrow, then type the first reading.", 15, role="ink2", anchor=MIDDLE)
    picture.box(middle - 46, y - 74, 92, 148, "ink", 2, "ground", 4)
    picture.box(middle - 32, y - 52, 64, 104, "edge", 1, "sheet")
    for row in range(6):
        for side in (-28, 3):
            picture.box(middle + side, y - 44 + row * 15, 25, 11, "edge", 1)
    for key, across, down, says in (
        ("↑", 0, -100, "up"), ("↓", 0, 100, "down"), ("←", -92, 0, "left"), ("→", 92, 0, "right"),
    ):  # fmt: skip
        picture.box(middle + across - 19, y + down - 19, 38, 38, "scribe", 2, "sheet", 4)
        picture.text(middle + across, y + down + 8, key, 24, DRAW, "scribe", MIDDLE)
        picture.hit(middle + across - 19, y + down - 19, 38, 38, f"arrow-{says}", f"Start {says}", f"type:{says} ")
    picture.text(middle, y + 158, "Or a whole quote at once, typed below:", 13, role="ink2", anchor=MIDDLE)
    picture.text(middle, y + 184, "48a 60ft emt", 20, DRAW, "scribe", MIDDLE)


def draw_plan(picture: Picture, design: Design, width: float, height: float, fixed: float | None = None) -> None:
    """The run from above: every level leg to scale, walls behind it, walls it passes hatched.

    ``fixed`` pixels to a metre, or as many as there is room for.
    """
    legs = design.line.legs
    points = [legs[0].start, *[walked.end for walked in legs]]
    xs, ys = [point[0] for point in points], [point[1] for point in points]
    across, deep = max(xs) - min(xs) or 1.0, max(ys) - min(ys)
    scale = min((width - LEFT - RIGHT - 30) / across, (height - 62) / max(deep, 0.6), MOST_SCALE)
    scale = scale if fixed is None else fixed
    left, middle = LEFT + 24 - min(xs) * scale, (height + 20) / 2 + (min(ys) + max(ys)) / 2 * scale
    picture.text(12, 19, "Floor", 13, BOLD, "ink2")
    labels = Labels(picture, 4, 22, width - 4, height - 3)
    drawn = [(left + x * scale, middle - y * scale) for x, y in zip(xs, ys, strict=True)]
    # From above, an upright leg is a point.
    whole = bundles([walked.leg.length_m * scale if walked.heading[2] == 0 else 0.0 for walked in legs])
    for first, past in whole:
        walked, (x, y), (x2, y2) = legs[first], drawn[first], drawn[first + 1]
        if past - first > 1 or walked.heading[2] != 0:
            continue
        if walked.crosses:
            side = 16.0
            if abs(x2 - x) >= abs(y2 - y):
                picture.box(min(x, x2), y - side, max(abs(x2 - x), 3), 2 * side, "ink", 1, "well", hatch="slant")
            else:
                picture.box(x - side, min(y, y2), 2 * side, max(abs(y2 - y), 3), "ink", 1, "well", hatch="slant")
        elif walked.leg.direction != "trench":
            fx, fy = walked.facing[0] * 5, -walked.facing[1] * 5
            picture.path([(x + fx, y + fy), (x2 + fx, y2 + fy)], "faint", 6)
    for crowded, group in itertools.groupby(whole, key=many):
        if crowded:
            ends = list(group)
            picture.path(bent(drawn[ends[0][0] : ends[-1][1] + 1]), "scribe", 3)
    for first, past in whole:
        walked, (x, y), (x2, y2) = legs[first], drawn[first], drawn[first + 1]
        if past - first > 1:
            (x, x2), (y, y2) = ((min(each), max(each)) for each in zip(*drawn[first : past + 1], strict=True))
        else:
            if walked.crosses:
                labels.block(min(x, x2) - 16, min(y, y2) - 17, abs(x2 - x) + 32, abs(y2 - y) + 34)
            picture.line(x, y, x2, y2, "scribe", 3, dash=walked.place == "buried")
        labels.block(min(x, x2) - 2, min(y, y2) - 3, abs(x2 - x) + 4, abs(y2 - y) + 6)
    start, end = drawn[0], drawn[-1]
    picture.box(start[0] - 7, start[1] - 4, 14, 8, "ink", 1, "ink")
    labels.block(start[0] - 8, start[1] - 6, 16, 12)
    labels.put(
        "Panel",
        [(start[0], start[1] + 22, MIDDLE), (start[0], start[1] - 12, MIDDLE), (start[0] + 12, start[1] + 22, START)],
        13,
        BOLD,
    )
    if design.line.closed:
        picture.box(end[0] - 5, end[1] - 5, 10, 10, fill="ink")
        labels.block(end[0] - 6, end[1] - 6, 12, 12)
        labels.put(
            "Charger",
            [(end[0] + 10, end[1] + 5, START), (end[0], end[1] + 22, MIDDLE), (end[0] - 10, end[1] - 10, END)],
            13,
            BOLD,
        )
    told = [walked for walked in legs if walked.leg.length_m * scale >= NAMED and walked.heading[2] == 0]
    for walked in sorted(told, key=lambda walked: -walked.leg.length_m):
        (x, y), (x2, y2) = drawn[walked.number - 1], drawn[walked.number]
        length = draw_length(walked.leg.length_m, design.job.units)
        cx, cy = (x + x2) / 2, (y + y2) / 2
        spots = [(cx, cy - 9, MIDDLE), (cx, cy + 24, MIDDLE), (cx + 9, cy + 6, START), (cx - 9, cy + 6, END)]
        labels.put(length, spots, 18, DRAW)
