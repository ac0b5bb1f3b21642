"""The floor plan above the walls, and the question an empty tape asks."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from typing import Final

from awlmark.core.books.words import Words
from awlmark.core.job.model import Job
from awlmark.core.place.check import APART_M, chosen_pin
from awlmark.core.place.reach import ANY_CAR, car_shape, shape_of
from awlmark.core.place.shortest_path import Shape
from awlmark.core.quantities import draw_length
from awlmark.core.solve.design import Design
from awlmark.core.standing import unread_length
from awlmark.draw.kit.bundle import bent, bundles, many
from awlmark.draw.kit.labels import Area, Labels
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture, text_width

LEFT: Final = 46.0
RIGHT: Final = 96.0
"""Margins of the scene beside the drawing [px]."""
NAMED: Final = 30.0
"""Legs drawn shorter than this are not told their length [px]."""
MOST_SCALE: Final = 124.0
"""Pixels per metre at most, so that a short run does not grow into a poster."""


def draw_question(picture: Picture, words: Words) -> None:
    """Empty tape: one question, one key."""
    middle, y = picture.width / 2, picture.height / 2 + 14
    picture.text(middle, y - 174, f"Where does the line leave the {words.panel}?", 24, BOLD, anchor=MIDDLE)
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
    picture.text(middle, y + 184, words.decisions[-1][0], 20, DRAW, "scribe", MIDDLE)


class _Surroundings:
    """The floor round the line, faint, as far as the plan shows it."""

    def __init__(
        self, picture: Picture, labels: Labels, at: Callable[[float, float], tuple[float, float]], bounds: Area
    ) -> None:
        self.picture, self.labels, self.at, self.bounds = picture, labels, at, bounds

    def draw(self, job: Job) -> None:
        """Rooms and roofs, what stands in them, and the cars."""
        for area in job.site.areas:
            if area.kind in ("room", "canopy"):
                self._outline(shape_of(area), "edge", area.kind != "room")
        for thing in job.site.things:
            self._outline(shape_of(thing), "edge", False)
        cars = job.need.cars or (ANY_CAR,)
        for bay in job.site.bays:
            self._outline(car_shape(cars[0], bay, bay.noses[0]), "edge", False)

    def names(self, job: Job) -> None:
        """What the cars and rooms are called, where there is room."""
        for bay in job.site.bays:
            car = (job.need.cars or (ANY_CAR,))[0]
            corners = [self.at(x, y) for x, y in car_shape(car, bay, bay.noses[0])]
            left, top = min(x for x, _y in corners), min(y for _x, y in corners)
            right, low = max(x for x, _y in corners), max(y for _x, y in corners)
            self.labels.put(car.name, [((left + right) / 2, (top + low) / 2 + 5, MIDDLE)], 13, TEXT, "ink2")
            self.labels.block(left, top, right - left, low - top)
        for area in job.site.areas:
            if area.kind in ("room", "canopy"):
                (x, y), (x2, y2) = self.at(area.x_m, area.y_m + area.deep_m), self.at(area.x_m + area.wide_m, area.y_m)
                low = min(y2, self.bounds[3])
                spots = [(x + 7, low - 7, START), (x + 7, max(y, self.bounds[1]) + 16, START), (x2 - 7, low - 7, END)]
                self.labels.put(area.name, spots, 13, TEXT, "ink2")

    def _outline(self, shape: Shape, role: str, dash: bool) -> None:
        points = [self.at(x, y) for x, y in shape]
        for start, end in zip(points, (*points[1:], points[0]), strict=True):
            seen = _within(start, end, self.bounds)
            if seen is not None:
                self.picture.line(*seen, role, 1.2, dash=dash)


def _within(
    start: tuple[float, float], end: tuple[float, float], bounds: Area
) -> tuple[float, float, float, float] | None:
    """The part of a stroke inside a rectangle (Liang and Barsky, 1984); None where it lies outside."""
    (x, y), (dx, dy) = start, (end[0] - start[0], end[1] - start[1])
    left, top, right, bottom = bounds
    enter, leave = 0.0, 1.0
    for way, room in ((-dx, x - left), (dx, right - x), (-dy, y - top), (dy, bottom - y)):
        if abs(way) < 1e-9:
            if room < 0:
                return None
        elif way < 0:
            enter = max(enter, room / way)
        else:
            leave = min(leave, room / way)
    return (x + dx * enter, y + dy * enter, x + dx * leave, y + dy * leave) if enter < leave else None


def _lean(job: Job, south: float, north: float, scale: float, most: float) -> float:
    """How far the line is moved off the middle of the plan, so that more of the floor beside it is seen [px]."""
    shapes = [*map(shape_of, job.site.areas), *map(shape_of, job.site.things)]
    if not shapes:
        return 0.0
    ys = [y for shape in shapes for _x, y in shape]
    over, under = max(max(ys) - north, 0.0), max(south - min(ys), 0.0)
    return min(max((over - under) * scale / 2, -most), most)


def draw_measures(picture: Picture, design: Design, room: float) -> None:
    """What the line measures, beside the plan's name: all of it, upright, with its tails; below that by method.

    ``room`` pixels there are on the first line.
    """
    units, line, wire_m = design.job.units, design.line, design.wire_m
    told = [("", line.length_m, " on the tape"), ("", line.upright_m, " of it upright")]
    told += [] if wire_m is None else [(f"each {design.book.words.wire} ", wire_m, " with tails")]
    ways = line.by_method if len(line.by_method) > 1 else {}
    second = sum(text_width(f"{name} ", TEXT, 13) + 70 for name in ways) + (0 if wire_m is None else 170)
    short = {method.name: method.short or method.name for method in design.book.methods.values()}
    told += [(f"{short[name] if second > picture.width - 140 else name} ", length, "") for name, length in ways.items()]
    x, y, says = 58.0, 19.0, list[str]()
    for number, (before, length_m, behind) in enumerate(told):
        length = draw_length(length_m, units)
        words = ((before, TEXT, 13.0), (length, DRAW, 16.0), (behind, TEXT, 13.0))
        wide = sum([text_width(*each) for each in words]) + 12
        if y < 20 and (x + wide > room + 58 or (number and not behind)):
            x, y = 58.0, 41.0
        says.append(f"{before}{length}{behind}")
        if x + wide > picture.width:
            continue
        for text, face, size in words:
            if text:
                picture.text(x, y, text, size, face, "ink2")
                x += text_width(text, face, size)
        x += 12
    picture.hit(54, 4, room, 36, "measures", f"The line: {', '.join(says)}", "")


def draw_plan(
    picture: Picture, design: Design, width: float, height: float, fixed: float | None = None, at_m: float = -1.0
) -> None:
    """The run from above: every level leg to scale, walls behind it, walls it passes hatched, the floor round it.

    ``fixed`` pixels to a metre, or as many as there is room for; the awl stands at ``at_m`` on the tape.
    """
    legs = design.line.legs
    points = [legs[0].start, *[walked.end for walked in legs]]
    xs, ys = [point[0] for point in points], [point[1] for point in points]
    pin = chosen_pin(design.job)
    apart = 0.0 if pin is None else math.dist(points[-1][:2], (pin.x_m, pin.y_m))
    seen = [] if pin is None or apart <= APART_M else [(pin.x_m, pin.y_m)]
    xs, ys = [*xs, *(x for x, _y in seen)], [*ys, *(y for _x, y in seen)]
    across, deep = max(xs) - min(xs) or 1.0, max(ys) - min(ys)
    # On the screen what the line measures is told over the plan.
    head = 22.0 if fixed is not None else 44.0
    scale = min((width - LEFT - RIGHT - 30) / across, (height - head - 40) / max(deep, 0.6), MOST_SCALE)
    scale = scale if fixed is None else fixed
    left, middle = LEFT + 24 - min(xs) * scale, (height + head - 2) / 2 + (min(ys) + max(ys)) / 2 * scale
    if fixed is None:
        middle += _lean(design.job, min(ys), max(ys), scale, (height - head - 40 - deep * scale) / 2)
    picture.text(12, 19, "Floor", 13, BOLD, "ink2")
    labels = Labels(picture, 4, head, width - 4, height - 3)
    drawn = [(left + x * scale, middle - y * scale) for x, y in zip(xs, ys, strict=True)][: len(points)]
    bounds = (4.0, head + 2, width - 4.0, height - 3.0)
    around = _Surroundings(picture, labels, lambda x, y: (left + x * scale, middle - y * scale), bounds)
    around.draw(design.job)
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
            if x != x2 or y != y2:
                picture.line(
                    x, y, x2, y2, "scribe", 3, dash=walked.place == "buried" or unread_length(design.job, walked.leg.id)
                )
        labels.block(min(x, x2) - 2, min(y, y2) - 3, abs(x2 - x) + 4, abs(y2 - y) + 6)
    start, end = drawn[0], drawn[-1]
    picture.box(start[0] - 7, start[1] - 4, 14, 8, "ink", 1, "ink")
    labels.block(start[0] - 8, start[1] - 6, 16, 12)
    labels.put(
        design.book.words.board,
        [(start[0], start[1] + 22, MIDDLE), (start[0], start[1] - 12, MIDDLE), (start[0] + 12, start[1] + 22, START)],
        13,
        BOLD,
    )
    for x, y in seen:
        # The line is still short of the spot it is meant for.
        x, y = left + x * scale, middle - y * scale
        picture.line(end[0], end[1], x, y, "unread", 1.6, dash=True)
        picture.disc(x, y, 6, "scribe", 2, "sheet")
        labels.block(x - 8, y - 8, 16, 16)
        short = f"{draw_length(apart, design.job.units)} short of {pin.name if pin else ''}"
        spots = [((end[0] + x) / 2, max(end[1], y) + 22, MIDDLE), (x, y - 12, END), (x - 10, y + 22, END)]
        labels.put(short, spots, 13, BOLD, "note")
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
        spots += [(cx + aside, cy + 24, MIDDLE) for aside in (16, -16) if abs(x2 - x) > abs(y2 - y)]
        labels.put(length, spots, 13 if picture.paper else 18, DRAW, number=walked.number if picture.paper else 0)
    around.names(design.job)
    here = design.line.leg_at(at_m)
    if here is not None:
        picture.disc(*around.at(*here.point_at(at_m)[:2]), 5, "ink", 2, "tape")
