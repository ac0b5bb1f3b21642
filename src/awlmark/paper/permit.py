"""Sheets that a permit desk reads: cover with the one-line diagram, panel schedule as a drawing, load sheet, sums."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from awlmark.core.books.words import cap
from awlmark.core.entry.loads import print_va
from awlmark.core.finding import HOLDS, RANK, Finding
from awlmark.core.job.panel_face import Breaker
from awlmark.core.panel.rearrange import cells
from awlmark.core.panel.spaces import leg_of, new_breaker, untold
from awlmark.core.quantities import print_amps
from awlmark.core.report import circuit_rows
from awlmark.core.solve.design import Design
from awlmark.core.standing import seen_by
from awlmark.draw.figures.dead_front import device_words
from awlmark.draw.kit.picture import BOLD, END, MIDDLE, TEXT, Picture, shorten, wrap
from awlmark.draw.kit.severity_marks import mark
from awlmark.paper.drawings import one_line
from awlmark.paper.pages import MARGIN, Block, Column, Sheets

SUM_SIZE: Final = 8.5
SPACE_TALL: Final = 16.0


def numbered(design: Design) -> dict[str, int]:
    """The number that each check is referred to by, in the order they print."""
    return {finding.id: number for number, finding in enumerate(design.findings, 1)}


def cover(sheets: Sheets) -> None:
    """Who, where, what; the one-line diagram beside it; what is open; lines to sign on."""
    design = sheets.design
    sheets.begin("Circuit for an electric-vehicle charger")
    broken = "Line broken: not to be built as drawn"
    sheets.heading(broken if design.stops else f"{design.said.capitalize()} by {design.book.title}")
    if design.job.note:
        sheets.lines(design.job.note)
    _for_whom(sheets)
    top = sheets.y
    if design.circuit is not None:
        one_line(sheets, MARGIN + sheets.width * 0.56, top + 26)
        drawn = sheets.y
        sheets.y = top
    sheets.heading("The circuit")
    rows = circuit_rows(design)
    rows.append(("Parts", f"{'from ' if design.unpriced else ''}{design.job.currency}{design.cost:,.2f}"))
    _facts(sheets, rows, sheets.width * 0.52)
    if design.circuit is not None:
        sheets.y = max(sheets.y, drawn)
    _signed(sheets)
    _open(sheets)


def _for_whom(sheets: Sheets) -> None:
    """Customer, site, permit, designer: what is typed, and lines to write on for the rest."""
    papers, half = sheets.design.job.papers, sheets.width / 2
    words = sheets.design.book.words
    who = f", {words.license} ".join(filter(None, (papers.designer, papers.licence)))
    fields = (
        ("Customer", papers.customer), ("Site", papers.address), (cap(words.permit), papers.permit),
        ("Designed by", who),
    )  # fmt: skip
    sheets.y += 10
    for number, (name, value) in enumerate(fields):
        x, y = MARGIN + number % 2 * half, sheets.y + 14 + number // 2 * 18
        sheets.page.text(x, y, name, 9, role="ink2")
        if value:
            sheets.page.text(x + 62, y, shorten(value, BOLD, 10, half - 74), 10, BOLD)
        else:
            sheets.page.line(x + 62, y + 2, x + half - 12, y + 2, "ink2", 0.6)
    sheets.y += 36


def _facts(sheets: Sheets, rows: list[tuple[str, str]], wide: float) -> None:
    """Names and values down the left of the page."""
    for name, value in rows:
        lines = wrap(value, TEXT, 10, wide - 74)
        sheets.page.text(MARGIN, sheets.y + 14, name, 10, role="ink2")
        for row, line in enumerate(lines):
            sheets.page.sentence(MARGIN + 74, sheets.y + 14 + 13 * row, line, 10)
        sheets.y += 16 + 13 * (len(lines) - 1)
        sheets.page.line(MARGIN, sheets.y + 2, MARGIN + wide, sheets.y + 2, "faint", 0.5)


def _signed(sheets: Sheets) -> None:
    """Lines to sign on."""
    sheets.y += 18
    for at, told in ((0.0, "Designed by, date"), (0.52, "Seen by, date")):
        x = MARGIN + at * sheets.width
        sheets.page.line(x, sheets.y + 16, x + 0.46 * sheets.width, sheets.y + 16, "ink", 0.8)
        sheets.page.text(x, sheets.y + 28, told, 9, role="ink2")
    sheets.y += 34


def _open(sheets: Sheets) -> None:
    """What does not hold, each with the number of its sum; notes that were seen; what was set aside."""
    design, numbers = sheets.design, numbered(sheets.design)
    open_ones = [finding for finding in design.findings if finding.severity != HOLDS]
    sheets.heading("Open, tight, or to be noted" if open_ones else "Every rule checked holds")
    for finding in sorted(open_ones, key=lambda finding: RANK[finding.severity]):
        head = f"{finding.title} ({numbers[finding.id]})"
        sheets.marked(finding.severity, head, finding.text, [finding.cite])
    seen = [(one, seen_by(design.job, one)) for one in design.findings if seen_by(design.job, one)]
    if seen:
        sheets.heading("Notes that were seen")
        for finding, by in seen:
            sheets.lines(f"{finding.title} ({numbers[finding.id]}): seen by {by}")
    if design.job.overrules:
        sheets.heading("Overruled, with reasons")
        for one in design.job.overrules:
            found = design.finding(one.finding)
            sheets.lines(f"{found.title.removeprefix('Overruled: ') if found else one.finding}: {one.reason}")


def panel_sheets(sheets: Sheets) -> None:
    """The panel as it will be, space by space, and the load sheet of every bus."""
    design, front = sheets.design, sheets.design.job.dead_front
    if not front.spaces and not design.buses:
        return
    sheets.section(f"{cap(design.book.words.panel)} schedule and demand" if front.spaces else "Demand", 320)
    if front.spaces:
        _schedule(sheets)
    for bus in design.buses:
        rating = "not read" if bus.rating_a is None else print_amps(bus.rating_a)
        sheets.heading(f"Demand on {bus.name}, {rating}: {bus.needed_a:.0f} A")
        lines = [
            (row.text, print_va(row.connected_va), "in the pool" if row.pooled else print_va(row.counted_va), row.cite)
            for row in bus.sheet.rows
        ]
        lines.append(("Together", "", print_va(bus.sheet.total_va), ""))
        columns = Column("Load", 44), Column("Connected", 18, right=True), Column("Counted", 18, right=True)
        sheets.table((*columns, Column("Clause", 20)), lines, size=9.0)


def _schedule(sheets: Sheets) -> None:
    """The dead front drawn: odd spaces left, even ones right, the legs between, the new breaker outlined."""
    design, front = sheets.design, sheets.design.job.dead_front
    bus = "bus not read" if front.bus_a is None else f"bus {front.bus_a:g} A"
    told = f"{design.panel_name}, {front.spaces} spaces, {bus}"
    sheets.heading(told)
    circuit = design.circuit
    made = None if circuit is None else new_breaker(design.job, circuit.hots, circuit.breaker_a)
    moves = made[1] if made is not None else ()
    devices = [*front.breakers, *([made[0]] if made is not None and not moves else [])]
    rows = front.spaces // 2
    sheets.room(rows * SPACE_TALL + 24)
    top, half, page = sheets.y + 10, sheets.width / 2, sheets.page
    page.box(MARGIN, top - 4, sheets.width, rows * SPACE_TALL + 8, "ink", 1.4)
    for space in range(1, front.spaces + 1):
        right, y = space % 2 == 0, top + (space - 1) // 2 * SPACE_TALL
        x = MARGIN + (half + 8 if right else 4)
        number = MARGIN + sheets.width - 6 if right else MARGIN + 20
        page.text(number, y + 12, f"{space}", 9, role="ink2", anchor=END)
        left, wide = (x, half - 34) if right else (x + 20, half - 32)
        leg = leg_of(space)
        if not right:
            page.text(MARGIN + half, y + 12, leg, 8, BOLD, "ink2", MIDDLE)
        one = next((device for device in devices if space in cells(device)), None)
        if one is None:
            bare = "not told" if untold(front, (space,)) else "free"
            filler = "filler plate" if space in front.fillers else "open" if space in front.opened else bare
            page.box(left, y + 1, wide, SPACE_TALL - 2, "faint", 0.6, dash=True)
            page.text(left + 5, y + 12, filler, 9, role="ink2")
        elif space == one.space:
            _device(page, one, (left, y + 1, wide, SPACE_TALL * len(cells(one)) - 2), one.id == "new")
    sheets.y = top + rows * SPACE_TALL + 6
    if made is not None and moves:
        spaces = " and ".join(f"{space}" for space in cells(made[0]))
        sheets.lines(f"New, {made[0].rating_a:g} A for the charger: spaces {spaces}, after the moves the steps name.")


def _device(page: Picture, one: Breaker, area: tuple[float, float, float, float], new: bool) -> None:
    left, y, wide, tall = area
    page.box(left, y, wide, tall, "ink", 2 if new else 0.8, dash=one.idle)
    told = f"{one.rating_a:g} A, {one.poles}-pole, {one.name}, new" if new else _words(one)
    face = BOLD if new else TEXT
    page.text(left + 5, y + tall / 2 + 3.5, shorten(told, face, 9, wide - 10), 9, face)


def _words(one: Breaker) -> str:
    """A device in words, its rating first."""
    rating = f"{one.rating_a:g} A" if one.rating_a else "rating not read"
    kind = "tandem" if one.tandem else "quad" if one.quad else "two 1-pole, tied" if one.tied else f"{one.poles}-pole"
    told = [part for part in device_words(one).split(", ") if not part.endswith(" A")]
    return ", ".join([rating, kind, *told])


def sums_sheet(sheets: Sheets) -> None:
    """Every check by its number, with its sum and its clause, in two columns."""
    design = sheets.design
    sheets.section("The sums, with their reasons", 240)
    sheets.y += 8
    numbers = numbered(design)
    sheets.columns([_sum_block(finding, numbers[finding.id]) for finding in design.findings])


def _sum_block(finding: Finding, number: int) -> Block:
    size, step = SUM_SIZE, SUM_SIZE * 1.3

    def block(wide: float) -> tuple[float, Callable[[Picture, float, float], None]]:
        body = wrap(finding.text, TEXT, size, wide - 30)
        more = [line for text in (*finding.sums, finding.cite) for line in wrap(text, TEXT, size - 0.5, wide - 36)]
        tall = step * (1 + len(body)) + (step - 0.6) * len(more) + 7

        def draw(page: Picture, x: float, y: float) -> None:
            at = y + step
            page.text(x + 14, at, f"{number}", size, BOLD, anchor=END)
            mark(page, finding.severity, x + 21, at - 3, 7)
            page.text(x + 30, at, shorten(finding.title, BOLD, size, wide - 30), size, BOLD)
            for line in body:
                at += step
                page.sentence(x + 30, at, line, size)
            for line in more:
                at += step - 0.6
                page.sentence(x + 36, at, line, size - 0.5, role="ink2")

        return tall, draw

    return block
