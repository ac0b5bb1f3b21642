"""The tape: every fitting at its foot, the awl over it."""

from __future__ import annotations

import functools
import itertools
import math
from collections.abc import Callable, Sequence
from typing import Final

from awlmark.core.books.words import cap
from awlmark.core.finding import HOLDS, RANK, STOP
from awlmark.core.quantities import FOOT_M, draw_length
from awlmark.core.run.line import Walked
from awlmark.core.solve.design import Design
from awlmark.core.standing import leg_marks, unread_length
from awlmark.draw.kit.bundle import FEW, TINY, bundles
from awlmark.draw.kit.picture import BOLD, DRAW, MIDDLE, TEXT, Picture, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import Look

HEIGHT: Final = 56
LEFT: Final = 180.0
RIGHT_MARGIN: Final = 120.0
_STEPS: Final = (0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000)


class TapeScale:
    """Pixels along the tape, shared by tape and lane."""

    def __init__(self, length_m: float, width: float) -> None:
        self.length_m = max(length_m, 0.3)
        self.left = LEFT
        self.right = width - RIGHT_MARGIN

    def x(self, at_m: float) -> float:
        """Where a point of the tape lies [px]."""
        return self.left + (self.right - self.left) * min(at_m / self.length_m, 1.0)

    def at_m(self, x: float) -> float:
        """Which point of the tape lies there [m]."""
        share = (x - self.left) / (self.right - self.left)
        return min(max(share, 0.0), 1.0) * self.length_m


def scale_of(design: Design, width: float) -> TapeScale:
    """The tape's scale: the whole line, or forty feet while nothing is scribed."""
    return TapeScale(design.line.length_m or 40 * FOOT_M, width)


END_NAMES: Final = {"corner": "Corner", "box": "Box", "body": "Body", "pull elbow": "Pull elbow", "post": "Post"}


def end_label(walked: Walked, following: Walked | None) -> str:
    """What stands at the end of a leg, in a word; ``following`` is the leg after it."""
    if walked.leg.end == "charger":
        return "Charger"
    if walked.leg.end in END_NAMES:
        return END_NAMES[walked.leg.end]
    if walked.turn_deg > 0.5:
        return f"{walked.turn_deg:.0f}°"
    return "End" if following is None else "Wall" if following.crosses else "Joint"


def draw_tape(design: Design, look: Look, width: float) -> Picture:
    """Draw the tape with its marks and the awl.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        Where the awl stands.
    width : float
        Width of the window [px].
    """
    picture = Picture(width, HEIGHT)
    picture.box(0, 0, width, HEIGHT, fill="tape")
    picture.line(0, 0.5, width, 0.5, "tapeink")
    picture.line(0, HEIGHT - 0.5, width, HEIGHT - 0.5, "tapeink")
    units = design.job.units
    total = draw_length(design.line.length_m, units)
    size = 30 if text_width(total, DRAW, 30) < 120 else 24
    picture.text(16, 36, total, size, DRAW, "tapeink")
    scale = scale_of(design, width)
    awl_x = scale.x(look.seen_m)
    _ticks(picture, scale, units)
    stops = [finding for finding in design.stops if finding.at_m is not None]
    taken = _marks(picture, design, scale)
    _lengths(picture, design, scale, taken)
    if design.book.run.fixings_on_tape:
        _fixings(picture, design, scale)
    shown = -math.inf
    for finding in stops:
        x = scale.x(finding.at_m or 0.0)
        if abs(x - shown) >= TINY / 2:
            picture.box(x - 3, 1, 6, HEIGHT - 2, fill="ground")
            mark(picture, STOP, x, 40, 13, on_tape=True)
            shown = x
        picture.hit(x - 10, 26, 20, 28, finding.id, f"Stop: {finding.text}", f"select:{finding.id}")
    _scribed(picture, design, scale)
    _awl(picture, awl_x)
    return picture


def _fixings(picture: Picture, design: Design, scale: TapeScale) -> None:
    """A stroke for every clip, cleat or saddle, under the ticks; none where they are too near to be told apart."""
    for walked in design.line.legs:
        places = [scale.x(at_m) for at_m in design.straps(walked)]
        if len(places) < 2 or places[1] - places[0] >= 4:
            picture.tiles([(round(x - 0.5), 24, 2, 5) for x in places], "tapeink")


def _scribed(picture: Picture, design: Design, scale: TapeScale) -> None:
    """The line along the tape's foot: whole where it was read, dashed where it is guessed."""
    guessed = [unread_length(design.job, walked.leg.id) for walked in design.line.legs]
    for is_guessed, group in itertools.groupby(zip(design.line.legs, guessed, strict=True), key=lambda pair: pair[1]):
        legs = [walked for walked, _guessed in group]
        left, right = scale.x(legs[0].start_m), scale.x(legs[-1].end_m)
        picture.line(left, HEIGHT - 3.5, right, HEIGHT - 3.5, "tapeink", 3, dash=is_guessed)


def _ticks(picture: Picture, scale: TapeScale, units: str) -> None:
    unit_m = FOOT_M if units == "ft" else 1.0
    pixels = (scale.right - scale.left) / (scale.length_m / unit_m)
    step = next((step for step in _STEPS if step * pixels >= 46), _STEPS[-1])
    minor = step / 5 if step * pixels / 5 >= 5 else step
    ticks: list[tuple[int, int, int, int]] = []
    for number in range(int(scale.length_m / unit_m / minor + 1e-6) + 1):
        x = scale.left + number * minor * pixels
        long = number % 5 == 0 or minor == step
        ticks.append((round(x - 0.5), 1, 1, 19 if long else 4))
        if long and x + 26 < picture.width:
            picture.text(x + 5, 19, f"{number * minor:g}", 17, DRAW, "tapeink")
    picture.tiles(ticks, "tapeink")


def _marks(picture: Picture, design: Design, scale: TapeScale) -> bytearray:
    """Marks with their names, most telling first; names that would run into another are left out."""
    nodes: list[tuple[int, float, str, str, str | Callable[[], str], str]] = [
        (0, 0.0, design.book.words.board, HOLDS, f"{cap(design.book.words.panel)}, zero of the tape", "panel")
    ]
    legs = design.line.legs
    told = leg_marks(design)
    sizes = [(scale.right - scale.left) * walked.leg.length_m / scale.length_m for walked in legs]
    if sizes:
        sizes[-1] = math.inf
    ranks = [RANK[told.get(walked.leg.id, HOLDS)] for walked in legs]
    for first, past in bundles(sizes):
        # Of several the first of the worst; the last where all hold.
        worst = min(ranks[first:past])
        walked = legs[ranks.index(worst, first)] if worst < RANK[HOLDS] else legs[past - 1]
        severity = told.get(walked.leg.id, HOLDS)
        if past - first > 1:
            tell = functools.partial(_many_say, legs[first:past], design.job.units, severity)
            nodes.append((9, walked.end_m, "", severity, tell, walked.leg.id))
            continue
        label = end_label(walked, legs[first + 1] if past < len(legs) else None)
        if label.endswith("°") and not math.isfinite(design.book.run.most_bend_deg):
            label = ""  # degrees are not counted here
        rank = 1 if label == "Charger" else 2 if walked.pulls else 4
        tell = functools.partial(_one_says, label, walked.end_m, design.job.units, severity)
        nodes.append((rank, walked.end_m, label, severity, tell, walked.leg.id))
    taken = bytearray(int(picture.width) + 200)
    for _rank, at_m, _label, severity, says, where in nodes:
        x = scale.x(at_m)
        _take(taken, x - 6, x + 6)
        mark(picture, severity, x, 40, 12, on_tape=True)
        picture.hit(x - 9, 24, 18, 30, where, says, f"awl:{at_m:.4f}")
    for _rank, at_m, label, _severity, _says, _where in sorted(nodes, key=lambda node: node[0]):
        if not label:
            continue
        x, wide = scale.x(at_m), text_width(label, BOLD, 13)
        for left in (x + 10, x - 10 - wide) if at_m > 0 else (x - 10 - wide, x + 10):
            if left > 130 and left + wide < picture.width - 4 and _free(taken, left, left + wide):
                picture.text(left, 45, label, 13, BOLD, "tapeink")
                _take(taken, left, left + wide)
                break
    return taken


def _many_say(legs: Sequence[Walked], units: str, severity: str) -> str:
    ends = " to ".join(draw_length(walked.end_m, units) for walked in (legs[0], legs[-1]))
    return f"{len(legs)} marks from {ends}: {NAMES[severity]}"


def _one_says(label: str, at_m: float, units: str, severity: str) -> str:
    return f"{label} at {draw_length(at_m, units)}: {NAMES[severity]}"


def _lengths(picture: Picture, design: Design, scale: TapeScale, taken: bytearray) -> None:
    pixels = (scale.right - scale.left) / scale.length_m
    crowd = len(design.line.legs) > FEW
    for walked in sorted(design.line.legs, key=lambda walked: -walked.leg.length_m):
        if crowd and walked.leg.length_m * pixels < TINY:
            break
        length, what = draw_length(walked.leg.length_m, design.job.units), walked.method.name
        long, wide = text_width(length, DRAW, 17), text_width(what, TEXT, 13)
        middle = (scale.x(walked.start_m) + scale.x(walked.end_m)) / 2
        number = str(walked.number)
        disc = 18.0 if len(number) < 3 else 26.0
        for total, named in ((disc + 6 + long + 6 + wide, True), (disc + 6 + long, False), (disc, None)):
            left = middle - total / 2
            if _free(taken, left - 4, left + total + 4):
                picture.box(left, 32, disc, 17, "tapeink", 1.2, radius=8.5)
                picture.text(left + disc / 2, 45, number, 13, BOLD, "tapeink", MIDDLE)
                if named is not None:
                    picture.text(left + disc + 6, 46, length, 17, DRAW, "tapeink")
                if named:
                    picture.text(left + disc + 6 + long + 6, 46, what, 13, TEXT, "tapeink")
                _take(taken, left, left + total)
                break


def _free(taken: bytearray, left: float, right: float) -> bool:
    """Whether a stretch of the tape, pixel by pixel, holds nothing yet; three pixels apart."""
    return not any(taken[max(int(left) - 3, 0) : int(right) + 4])


def _take(taken: bytearray, left: float, right: float) -> None:
    start, end = max(int(left), 0), min(int(right) + 1, len(taken))
    taken[start:end] = b"\1" * max(end - start, 0)


def _awl(picture: Picture, x: float) -> None:
    picture.line(x, 0, x, 24, "tapeink", 2.4)
    picture.path([(x - 2.5, 18), (x + 2.5, 18), (x, 30)], fill="tapeink", closed=True)
    picture.hit(x - 7, 0, 14, 24, "awl", "The awl: drag it along the tape, or press the arrow keys", "awl")
