"""Whole jobs side by side: their tapes on one scale, and only what differs."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from awlmark.core.job_diff import differences, different_parts
from awlmark.core.quantities import draw_length
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import money

_ROW: Final = 58.0
_NAME: Final = 108.0
_RIGHT: Final = 150.0


def draw_pencils(design: Design, pencils: Sequence[tuple[str, Design]], width: float, height: float) -> Picture:
    """Draw the job in pen above those kept in pencil.

    Parameters
    ----------
    design : Design
        The job in hand.
    pencils : sequence of (str, Design)
        Names and designs kept.
    width, height : float
        Size of the scene [px].
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    if not pencils:
        middle, y = width / 2, height / 2
        picture.text(middle, y - 24, "Nothing is kept in pencil yet.", 24, BOLD, anchor=MIDDLE)
        told = "Keep this line, then change the copy: both stay, side by side."
        picture.text(middle, y + 4, told, 15, role="ink2", anchor=MIDDLE)
        picture.box(middle - 100, y + 22, 200, 34, "scribe", 2, "sheet", 4)
        picture.text(middle, y + 44, "Keep it in pencil", 15, BOLD, "scribe", MIDDLE)
        picture.hit(middle - 100, y + 22, 200, 34, "keep-pencil", "Keep this line in pencil", "menu:keep-pencil")
        return picture
    rows = [("In pen", design), *pencils]
    longest = max(one.line.length_m for _name, one in rows) or 1.0
    picture.text(12, 19, "Tapes on one scale", 13, BOLD, "ink2")
    for number, (name, one) in enumerate(rows):
        _tape(picture, (number, name, one), longest, (30 + number * _ROW, width), design)
    top = 30 + len(rows) * _ROW + 8
    picture.line(0, top + 0.5, width, top + 0.5, "edge")
    _differing(picture, rows, (top + 20, width, height))
    return picture


def _tape(
    picture: Picture, row: tuple[int, str, Design], longest: float, area: tuple[float, float], pen: Design
) -> None:
    (number, name, one), (top, width) = row, area
    left, right = _NAME, width - _RIGHT
    scale = (right - left) / longest
    picture.text(12, top + 24, shorten(name, BOLD, 13, _NAME - 18), 13, BOLD if number == 0 else TEXT)
    end = left + one.line.length_m * scale
    picture.box(left, top + 8, max(end - left, 2), 26, "edge", 1, "tape" if number == 0 else "ground", dash=number > 0)
    marks = {round(walked.end_m, 3) for walked in pen.line.legs}
    takes: list[tuple[float, float, float, float, str, str, str]] = []
    for walked in one.line.legs:
        x = left + walked.end_m * scale
        # Marks that the pen line does not have stand out.
        differs = number > 0 and round(walked.end_m, 3) not in marks
        role = "tapeink" if number == 0 else "ink" if differs or walked.pulls else "edge"
        picture.line(x, top + 8, x, top + 34, role, 2.4 if differs else 1.2)
        mine = next((leg for leg in pen.job.legs if leg.id == walked.leg.id), None)
        if number > 0 and mine != walked.leg:
            start = left + walked.start_m * scale
            long = draw_length(walked.leg.length_m, one.job.units)
            words = f"Take leg {walked.number} from {name}: {walked.leg.direction} {long}"
            act = f"takeleg:{number - 1}:{walked.leg.id}"
            takes.append((start, top + 8, max(x - start, 6), 26, f"take-{number}-{walked.leg.id}", words, act))
    for stop in one.stops[:12]:
        if stop.at_m is not None:
            mark(picture, stop.severity, left + stop.at_m * scale, top + 21, 11, on_tape=number == 0)
    picture.text(
        min(end + 6, right - 4), top + 50, draw_length(one.line.length_m, one.job.units), 16, DRAW, "ink2", END
    )
    mark(picture, one.verdict, right + 18, top + 21, 12)
    picture.text(width - 12, top + 19, money(one), 15, BOLD, anchor=END)
    if one.circuit is not None:
        volts = f"{one.circuit.volts - one.circuit.drop_v:.1f} V"
        picture.text(width - 12, top + 38, volts, 13, role="ink2", anchor=END)
    says = f"{name}: {NAMES[one.verdict]}, {money(one)}, {draw_length(one.line.length_m, one.job.units)}"
    act = f"flip:{number - 1}" if number else ""
    picture.hit(8, top, width - 16, _ROW - 6, f"pencil-{number}", says + ("; takes it in pen" if number else ""), act)
    for x, y, w, h, its_id, words, its_act in takes:
        picture.hit(x, y, w, h, its_id, words, its_act)


def _differing(picture: Picture, rows: list[tuple[str, Design]], area: tuple[float, float, float]) -> None:
    top, width, height = area
    designs = [one for _name, one in rows]
    found = differences(designs)
    picture.text(12, top, "Only what differs", 13, BOLD, "ink2")
    column = (width - 140) / len(rows)
    for number, (name, _one) in enumerate(rows):
        picture.text(140 + number * column, top, shorten(name, BOLD, 13, column - 10), 13, BOLD, "ink2")
    y = top
    for label, texts in found:
        y += 21
        if y > height - 8:
            return
        picture.text(12, y, label, 13, role="ink2")
        for number, text in enumerate(texts):
            changed = text != texts[0]
            face = BOLD if changed else TEXT
            picture.sentence(140 + number * column, y, shorten(text or "none", face, 13, column - 16), 13, face)
        picture.hit(8, y - 15, width - 16, 20, f"differs-{label}", f"{label}: " + "; ".join(texts))
    if not found:
        picture.text(12, y + 24, "Nothing: the lines are the same.", 13)
        return
    for name, here, there in different_parts(designs[0], designs[1]):
        y += 21
        if y > height - 8:
            return
        picture.text(12, y, shorten(name, TEXT, 13, 122), 13, role="ink2")
        picture.text(140, y, f"{here:g}", 13)
        picture.text(140 + column, y, f"{there:g}", 13, BOLD)
        picture.hit(8, y - 15, width - 16, 20, f"part-{name}", f"{name}: {here:g} here, {there:g} in {rows[1][0]}")
