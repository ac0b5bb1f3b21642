"""A way a line may go as a small sketch: panel, line, walls, ground, charger, car, drawn from the legs themselves."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from awlmark.core.job.leg import CROSSING, Leg
from awlmark.draw.kit.picture import Picture

STEPS: Final = {"up": (0, -1), "down": (0, 1), "left": (-1, 0)}
"""Where a leg goes in the sketch; whatever is not here goes on to the right."""
PANEL: Final = (24.0, 36.0)
CHARGER: Final = (13.0, 22.0)
CAR: Final = 78.0
CAR_TALL: Final = 30.0
WALL: Final = 0.35
"""How thick a wall is in the sketch, where a leg of a metre is 1."""
MOST_SCALE: Final = 46.0
"""Pixels for that metre, at most."""
MARGIN: Final = 14.0


def _points(legs: Sequence[Leg]) -> list[tuple[float, float]]:
    """Corners of the line, in lengths that a sketch can show: long legs are drawn shorter than they are."""
    points, x, y = [(0.0, 0.0)], 0.0, 0.0
    for number, leg in enumerate(legs):
        right, down = _step(legs, number)
        long = WALL if leg.direction in CROSSING else max(leg.length_m, 0.3) ** 0.5
        x, y = x + right * long, y + down * long
        points.append((x, y))
    return points


def _step(legs: Sequence[Leg], number: int) -> tuple[int, int]:
    """Where a leg goes: what passes a floor or a ceiling goes on as the leg before it."""
    leg = legs[number]
    if leg.direction == "through" and number:
        return _step(legs, number - 1)
    return STEPS.get(leg.direction, (1, 0))


def _climbs(legs: Sequence[Leg], number: int) -> bool:
    """Whether a leg passes a floor or a ceiling."""
    return legs[number].direction in CROSSING and _step(legs, number)[1] != 0


def draw_way(picture: Picture, legs: Sequence[Leg], left: float, top: float, width: float, height: float) -> None:
    """Draw a way into a frame.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    legs : sequence of Leg
        The line.
    left, top, width, height : float
        The frame [px].
    """
    picture.box(left, top, width, height, fill="ground")
    if not legs:
        return
    points = _points(legs)
    xs, ys = [x for x, _ in points], [y for _, y in points]
    upstairs = any(_climbs(legs, number) for number in range(len(legs)))
    room_x, room_y = width - 2 * MARGIN - CAR - PANEL[0], height - 2 * MARGIN - PANEL[1] / 2 - (38 if upstairs else 0)
    scale_x = min(room_x / max(max(xs) - min(xs), 1.0), MOST_SCALE)
    scale_y = min(room_y / max(max(ys) - min(ys), 1.6), MOST_SCALE)
    start_x = left + MARGIN + PANEL[0] / 2 - min(xs) * scale_x
    # It hangs at the height of a wall; what stands on the ground is below it.
    start_y = top + max(MARGIN, height - 52 - max(ys) * scale_y + min(ys) * scale_y) - min(ys) * scale_y
    start_y = min(start_y, top + height - 8 - PANEL[1] - 6)
    # A low frame has less room above the panel than below it.
    above = start_y - top - MARGIN / 2
    scale_y = min(scale_y, above / -min(ys)) if min(ys) < 0 else scale_y
    drawn = [(start_x + x * scale_x, start_y + y * scale_y) for x, y in points]
    floor = top + height - 8
    buried = [n for n, leg in enumerate(legs) if leg.direction == "trench"]
    if buried:
        ground = max(drawn[buried[0]][1] - 22, top + CAR_TALL + 4)
        wall = next((drawn[n + 1][0] for n, leg in enumerate(legs) if leg.direction == "out"), left)
        picture.box(wall, ground, left + width - wall, top + height - ground, fill="well")
        picture.line(wall, ground, left + width, ground, "edge", 1.5)
        floor = ground
    else:
        picture.line(left, floor, left + width, floor, "edge", 1.5)
    for number, leg in enumerate(legs):
        x, x2 = drawn[number][0], drawn[number + 1][0]
        if leg.end == "corner":
            picture.line(x2, top + 4, x2, top + height - 8, "edge", 1, dash=True)
        if _climbs(legs, number):
            middle = (drawn[number][1] + drawn[number + 1][1]) / 2
            picture.box(left, middle - 5, width, 10, "edge", 1, fill="well", hatch="slant")
            floor = middle - 5
        elif leg.direction in CROSSING:
            thick = max(x2 - x, 8.0)
            picture.box(x, top + 4, thick, height - 8, "edge", 1.0, fill="sheet", hatch="slant")
    end_x, end_y = drawn[-1]
    if any(leg.direction in CROSSING for leg in legs[-2:]):
        # It hangs on the far face of the wall.
        end_x += CHARGER[0] / 2
    wheel = 7.0
    car_left, car_top = min(end_x + 22, left + width - CAR - 6), floor - CAR_TALL
    picture.path(
        [
            (car_left, floor - wheel), (car_left, car_top + 12), (car_left + 12, car_top + 10),
            (car_left + 24, car_top), (car_left + 54, car_top), (car_left + 66, car_top + 11),
            (car_left + CAR, car_top + 14), (car_left + CAR, floor - wheel),
        ],
        "ink2", 1.5, fill="faint", closed=True,
    )  # fmt: skip
    for at in (18, 60):
        picture.disc(car_left + at, floor - wheel, wheel, "ink2", 1.5, fill="sheet")
    picture.path([(end_x + 5, end_y + 8), (end_x + 12, end_y + 26), (car_left + 1, car_top + 16)], "note", 1.5)
    first_x, first_y = drawn[0]
    picture.box(first_x - PANEL[0] / 2, first_y, *PANEL, "ink", 2, fill="sheet", radius=2)
    for row in range(4):
        picture.line(first_x - 6, first_y + 9 + row * 6, first_x + 6, first_y + 9 + row * 6, "ink2")
    for number, leg in enumerate(legs):
        ends = (*drawn[number], *drawn[number + 1])
        if leg.reused:
            picture.line(*ends, "edge", 6)
        picture.line(*ends, "sheet" if leg.reused else "scribe", 3, dash=not leg.reused)
    picture.box(end_x - CHARGER[0] / 2, end_y - 4, *CHARGER, "ink", 2, fill="sheet", radius=3)
    picture.disc(end_x, end_y + 9, 2.5, fill="ink")
