"""The test sheet as a form: every test with its band and a box to write in; who signs, and what has to be so."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from awlmark.core.books.words import cap
from awlmark.core.finding import HOLDS, UNREAD
from awlmark.core.prove.at_setting import by_setting
from awlmark.core.prove.diagnose import meanings
from awlmark.core.prove.log import Judged, judge, latest, must_tests, print_value, wanting
from awlmark.core.prove.test import Test, tests_of
from awlmark.core.solve.design import Design
from awlmark.draw.figures.record import Line, band_words, record_lines
from awlmark.draw.kit.picture import BOLD, END, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.paper.pages import MARGIN, Block, Column, Sheets
from awlmark.paper.pdf import write_pdf

BOX: Final = (70.0, 14.0)
"""A box for a reading: printed in it, or written by hand [pt]."""
ROW: Final = 17.5


def test_sheet(sheets: Sheets) -> None:
    """The form on a page of its own; behind it what else the log tells."""
    design = sheets.design
    sheets.begin("Test sheet")
    if design.job.made_up:
        sheets.stamped("Made up")
        sheets.lines("Made up: an invented job and invented readings. No test of a real circuit.", 11, BOLD)
    lines, read = record_lines(design), latest(design)
    sheets.y += 8
    heads = frozenset(place for place, (_text, test, _number) in enumerate(lines) if test is None)
    sheets.columns([_line(design, line, read) for line in lines], gap=16, heads=heads)
    _exceptions(sheets)
    _instruments(sheets)
    _sign_block(sheets)
    _log(sheets)
    _settings(sheets)
    meant = meanings(design)
    if meant:
        sheets.heading("What the readings mean")
        for meaning in meant:
            sheets.marked(meaning.severity, meaning.title, meaning.text, [meaning.do] if meaning.do else [])


def _line(design: Design, line: Line, read: dict[str, Judged]) -> Block:
    """A heading, or one test: number, name, band, box, and its mark or a square to tick."""
    text, test, number = line

    def block(wide: float) -> tuple[float, Callable[[Picture, float, float], None]]:
        def draw(page: Picture, x: float, y: float) -> None:
            if test is None:
                page.text(x, y + 15, text, 11, BOLD)
                page.line(x, y + 19, x + wide, y + 19, "ink", 0.8)
            else:
                _test(page, design, test, number, read.get(test.key), (x, y, wide))

        return (22.0 if test is None else ROW), draw

    return block


def _test(
    page: Picture, design: Design, test: Test, number: int, each: Judged | None, at: tuple[float, float, float]
) -> None:
    x, y, wide = at
    units, base = design.job.units, y + 12
    band = band_words(test, units)
    edge = x + wide - 16 - BOX[0]
    page.text(x + 14, base, f"{number}", 9, BOLD, anchor=END)
    room = edge - 6 - text_width(band, TEXT, 8.5) - x - 26
    page.text(x + 20, base, shorten(test.called, TEXT, 9, room), 9)
    page.text(edge - 4, base, band, 8.5, role="ink2", anchor=END)
    page.box(edge, y + 1.5, *BOX, "ink", 0.8)
    if each is None:
        page.box(x + wide - 11, y + 4, 9, 9, "ink", 0.8)
        return
    found = each.reading.raw if each.reading.value is None else print_value(each.reading.value, test.unit, units)
    page.text(edge + BOX[0] - 4, base, shorten(found, BOLD, 9, BOX[0] - 8), 9, BOLD, anchor=END)
    mark(page, each.severity, x + wide - 7, base - 3, 8)


def _exceptions(sheets: Sheets) -> None:
    """Tests that are not read or out of their band, each with its reason, or a line to write one on."""
    design, numbers = sheets.design, {test.key: number for _t, test, number in record_lines(sheets.design) if test}
    reasons = {one.test: one.reason for one in design.job.prove.waived}
    found = [(test, why) for test, why in wanting(design) if test.key not in reasons]
    sheets.heading("Exceptions")
    sheets.lines("A test left out, or a reading outside its band, with the reason.", 9, role="ink2")
    tests = {test.key: test for test in tests_of(design)}
    for key, reason in reasons.items():
        name = tests[key].name if key in tests else key
        sheets.lines(f"{numbers.get(key, '')}  {name}: {reason}", 9)
    shown = found[:4]
    for test, why in shown:
        sheets.room(18)
        sheets.y += 17
        told = f"{numbers[test.key]}  {test.name}, {why}:"
        mark(sheets.page, UNREAD, MARGIN + 5, sheets.y - 3, 8)
        sheets.page.text(MARGIN + 14, sheets.y, told, 9)
        start = MARGIN + 20 + text_width(told, TEXT, 9)
        sheets.page.line(start, sheets.y + 2, MARGIN + sheets.width, sheets.y + 2, "ink2", 0.6)
    if len(found) > len(shown):
        sheets.lines(f"{len(found) - len(shown)} more are not read yet; their boxes are empty.", 9, role="ink2")


def _instruments(sheets: Sheets) -> None:
    """What was measured with, and when it was last checked."""
    used = list(dict.fromkeys(one.instrument for one in sheets.design.job.prove.readings if one.instrument))
    sheets.room(40)
    half = sheets.width / 2
    for number, name in enumerate(sheets.design.book.prove.instruments):
        x, y = MARGIN + number * half, sheets.y + 20
        sheets.page.text(x, y, name, 9, role="ink2")
        if number < len(used):
            sheets.page.text(x + 84, y, shorten(used[number], TEXT, 9, half - 170), 9)
        else:
            sheets.page.line(x + 84, y + 2, x + half - 96, y + 2, "ink2", 0.6)
        sheets.page.text(x + half - 92, y, "checked", 9, role="ink2")
        sheets.page.line(x + half - 56, y + 2, x + half - 12, y + 2, "ink2", 0.6)
    sheets.y += 26


def _sign_block(sheets: Sheets) -> None:
    """What has to be so before a name counts, as marks; then the name."""
    design = sheets.design
    read, tests = latest(design), tests_of(design)
    missing = wanting(design)
    excepted = {one.test for one in design.job.prove.waived}
    dead = [test for test in tests if test.stage == "dead"]
    must = must_tests(design)
    said = (
        (all(test.key in read and read[test.key].severity == HOLDS for test in dead), "proved dead before the work"),
        (not missing, f"every required test read: {sum(test.key in read for test in must)} of {len(must)}"),
        (
            not missing and all(read[key].severity in (HOLDS, "note") or key in excepted for key in read),
            "all in their bands, or each exception with a reason",
        ),
    )
    sheets.room(118)
    top, page = sheets.y + 12, sheets.page
    page.box(MARGIN, top, sheets.width, 100, "ink", 1.4)
    page.text(MARGIN + 12, top + 18, "Signed", 12, BOLD)
    page.text(MARGIN + 64, top + 18, "counts when all three hold", 9, role="ink2")
    for number, (holds, words) in enumerate(said):
        mark(page, HOLDS if holds else UNREAD, MARGIN + 20, top + 36 + 17 * number, 9)
        page.text(MARGIN + 32, top + 39 + 17 * number, words, 9.5)
    signed = design.job.prove.signatures
    for number, (name, value) in enumerate((
        ("Name", signed[-1].who if signed else ""),
        (cap(design.book.words.license), design.job.papers.licence if signed else ""),
        ("Signature", ""), ("Date", signed[-1].when if signed else ""),
    )):  # fmt: skip
        x = MARGIN + sheets.width * (0.54 if number % 2 == 0 else 0.8)
        y, wide = top + 44 + number // 2 * 26, sheets.width * (0.2 if number % 2 == 0 else 0.17)
        page.text(x, y - 12, name, 8, role="ink2")
        if design.job.made_up:
            page.box(x, y - 9, wide, 12, "", hatch="slant:edge")
        page.line(x, y + 3, x + wide, y + 3, "ink", 0.8)
        if value and not design.job.made_up:
            page.text(x + 2, y, shorten(value, BOLD, 9, wide - 4), 9, BOLD)
    if design.job.made_up:
        page.text(
            MARGIN + sheets.width * 0.54, top + 92, "Made up: a demonstration job. No name can stand here.", 9, BOLD
        )
    sheets.y = top + 104


def _settings(sheets: Sheets) -> None:
    """What the charger should show at each of its settings."""
    units = sheets.design.job.units
    rows = [
        tuple(print_value(value, unit, units) for value, unit in ((at.amps, "A"), (at.volts, "V"), (at.kw, "kW")))
        for at in by_setting(sheets.design)
    ]
    if rows:
        sheets.heading(f"At each setting, usual {sheets.design.book.words.service}")
        columns = Column("Setting", 20, right=True), Column("At the charger", 24, right=True)
        sheets.table((*columns, Column("Power", 20, right=True)), rows, size=9.0)


def _log(sheets: Sheets) -> None:
    """Every reading as it was taken: when, by whom, with what; struck ones with their reason; revisions signed."""
    design, units = sheets.design, sheets.design.job.units
    rows = []
    for number, reading in enumerate(design.job.prove.readings, 1):
        each = judge(design, reading)
        found = reading.raw
        if each.test is not None and reading.value is not None:
            found = print_value(reading.value, each.test.unit, units)
        verdict = f"struck: {reading.struck}" if reading.struck else NAMES[each.severity]
        who = ", ".join(part for part in (reading.who, reading.instrument) if part)
        name = each.test.name if each.test else reading.test
        rows.append((f"{number}", reading.when, name, found, verdict, who, f"{reading.signed or ''}"))
    if rows:
        sheets.heading("The log")
        columns = (
            Column("", 5, right=True), Column("When", 26), Column("Test", 42), Column("Found", 16, right=True),
            Column("", 24), Column("By", 24), Column("Rev", 7, right=True),
        )  # fmt: skip
        sheets.table(columns, rows, size=8.5)
    sheets.heading("Revisions signed")
    for one in design.job.prove.signatures:
        sheets.lines(f"Revision {one.revision}: {one.who}, {one.when}, {one.digest}", 9)
    if not design.job.prove.signatures:
        sheets.lines("Not signed.", 9)


def test_pages(design: Design) -> list[Picture]:
    """The test sheet on its own pages."""
    sheets = Sheets(design)
    test_sheet(sheets)
    return sheets.finished()


def tests_pdf(design: Design) -> bytes:
    """The test sheet as PDF."""
    return write_pdf(test_pages(design), f"{design.job.name}: test sheet")
