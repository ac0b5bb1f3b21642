"""The record of the Prove stage: every test as a row of a form, its expected band, a box for the reading, its mark."""

from __future__ import annotations

from typing import Final

from awlmark.core.prove.log import Judged, latest, print_value
from awlmark.core.prove.test import ORDER, YES, Test, tests_of
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, END, MIDDLE, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark

ROW: Final = 20.0
BOX: Final = 104.0
"""Width of the box that a reading stands in [px]."""
HEADS: Final = {
    "dead": "Proved dead", "continuity": "Whole wires", "insulation": "Insulation", "live": "Live, nothing drawn",
    "charge": "Charging", "heat": "Heat",
}  # fmt: skip
Area = tuple[float, float, float, float]
"""Left, top, right, bottom [px]."""
Line = tuple[str, Test | None, int]
"""A heading, or a test with its number."""


def band_words(test: Test, units: str) -> str:
    """A test's band in words."""
    if test.unit == YES:
        return "passed"
    if test.high > 1e9:
        return f"{print_value(test.low, test.unit, units)} up"
    low, high = print_value(test.low, test.unit, units), print_value(test.high, test.unit, units)
    return f"{low.rsplit(' ', 1)[0]} to {high}"


def record_lines(design: Design) -> list[Line]:
    """Every test under the heading of its stage, in working order, numbered through."""
    tests, found, number = tests_of(design), list[Line](), 0
    for stage in ORDER:
        mine = [test for test in tests if test.stage == stage]
        if mine:
            found.append((design.book.prove.heads.get(stage) or HEADS[stage], None, 0))
        for test in mine:
            number += 1
            found.append((stage, test, number))
    return found


def draw_record(picture: Picture, design: Design, first: int, area: Area) -> None:
    """Draw the form from one of its lines on; what there is no room for is turned to.

    Parameters
    ----------
    picture : Picture
        The scene.
    design : Design
        Its readings and its tests.
    first : int
        Line that stands at the top; less than nought follows the next test.
    area : tuple of float
        Left, top, right, bottom [px].
    """
    left, top, right, bottom = area
    picture.text(left + 12, top + 19, "Record", 13, BOLD, "ink2")
    if design.job.made_up:
        picture.text(left + 64, top + 19, "made up", 13, BOLD, "tight")
    edge = right - 40
    picture.text(edge - BOX - 12, top + 19, "expected", 13, role="ink2", anchor=END)
    picture.text(edge - BOX + 6, top + 19, "read", 13, role="ink2")
    lines, read = record_lines(design), latest(design)
    struck = [(number, one) for number, one in enumerate(design.job.prove.readings, 1) if one.struck]
    room = int((bottom - top - 34) / ROW)
    whole = len(lines) + (len(struck) + 1 if struck else 0)
    if whole > room:
        room -= 1
        if first < 0:
            # Nobody has turned it: it follows the test that is read next.
            coming = next((place for place, (_head, test, _n) in enumerate(lines) if test and test.key not in read), 0)
            first = coming - room // 2
        first = max(0, min(first, whole - room))
        _turn(picture, first, room, whole, (left, right, bottom))
    else:
        first = 0
    y = top + 40
    for text, test, number in lines[first : first + room]:
        if test is None:
            picture.text(left + 12, y, text, 13, BOLD)
            picture.line(left + 12, y + 5, right - 8, y + 5, "faint")
        else:
            _row(picture, design, test, number, read.get(test.key), (left, y, right))
        y += ROW
    left_over = first + room - len(lines)
    for number, one in struck[: max(left_over, 0)]:
        found = f"{number}  {one.test} {one.raw}"
        told = f"{found}, struck: {one.struck}"
        picture.text(left + 30, y, shorten(told, TEXT, 13, right - left - 50), 13, role="ink2")
        picture.line(left + 30, y - 4, left + 30 + text_width(found, TEXT, 13), y - 4, "ink2")
        picture.hit(left + 6, y - 14, right - left - 12, ROW, f"struck-{number}", told)
        y += ROW


def _row(
    picture: Picture, design: Design, test: Test, number: int, each: Judged | None, at: tuple[float, float, float]
) -> None:
    left, y, right = at
    units, edge = design.job.units, right - 40
    picture.text(left + 32, y, f"{number}", 13, role="ink2", anchor=END)
    band = band_words(test, units)
    room = edge - BOX - 22 - text_width(band, TEXT, 13) - left - 40
    picture.text(left + 40, y, shorten(test.called, TEXT, 13, room), 13)
    picture.text(edge - BOX - 12, y, band, 13, role="ink2", anchor=END)
    picture.box(edge - BOX, y - 13, BOX, 16, "scribe" if each is None else "edge", 1, "sheet", dash=each is None)
    found, severity = "", "unread"
    if each is not None:
        reading, severity = each.reading, each.severity
        found = reading.raw if reading.value is None else print_value(reading.value, test.unit, units)
        picture.text(edge - 6, y, shorten(found, BOLD, 13, BOX - 12), 13, BOLD, anchor=END)
    mark(picture, severity, right - 20, y - 5, 10)
    says = f"{test.name}, expected {band}: " + ("not read yet" if each is None else f"{found}, {NAMES[severity]}")
    says += f". {each.text}" if each is not None else ""
    picture.hit(left + 6, y - 15, right - left - 12, ROW, f"test-{test.key}", says, f"type:read {test.called} ")
    if each is not None and not each.reading.signed:
        at_place = next(n for n, one in enumerate(design.job.prove.readings, 1) if one is each.reading)
        picture.hit(
            right - 32, y - 15, 24, ROW, f"log-{at_place}", f"Strike it through: {says}", f"type:strike {at_place} "
        )


def _turn(picture: Picture, first: int, room: int, whole: int, at: tuple[float, float, float]) -> None:
    """Which lines are shown, and the way to the others."""
    left, right, bottom = at
    y = bottom - 10
    picture.text(left + 12, y, f"Lines {first + 1} to {min(first + room, whole)} of {whole}", 13, role="ink2")
    for place, (name, goes, able) in enumerate(
        (("next", first + room, first + room < whole), ("back", first - room, first > 0))
    ):
        x = right - 62 - place * 60
        role = "scribe" if able else "edge"
        picture.box(x, y - 15, 54, 20, role, 1.2, "sheet", 3)
        picture.text(x + 27, y, name, 13, BOLD, role if able else "ink2", MIDDLE)
        if able:
            picture.hit(x, y - 15, 54, 20, f"record-{name}", f"Show the {name} tests", f"record:{max(goes, 0)}")
