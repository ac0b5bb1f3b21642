"""The Panel scene: every bus between meter and charger as a stack against its rating, and the sheet behind it."""

from __future__ import annotations

from typing import Final

from awlmark.core.entry.words import by_name
from awlmark.core.finding import HOLDS
from awlmark.core.panel.bus import Bus, Row
from awlmark.core.quantities import print_amps
from awlmark.core.solve.design import Design
from awlmark.draw.figures.dead_front import draw_dead_front
from awlmark.draw.figures.oneline import feeder_words
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import Look, panel_page

_SHEET: Final = 372.0
_ROW: Final = 19.0
_HEAD: Final = 38.0


def draw_panel(design: Design, look: Look, width: float, height: float) -> Picture:
    """Draw the stacks and the worksheet.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        Which bus the sheet speaks for.
    width, height : float
        Size of the drawing [px].
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    page = panel_page(design, look)
    _pages(picture, design, page)
    if page == "row":
        from awlmark.draw.stages.supply_view import draw_supply

        draw_supply(picture, design, _HEAD)
        return picture
    if page == "spaces":
        draw_dead_front(picture, design, _HEAD, width, height)
        return picture
    if page == "year":
        from awlmark.draw.stages.year_view import draw_year

        draw_year(picture, design, _HEAD, width, height)
        return picture
    if not design.buses:
        middle, y = width / 2, height / 2
        picture.text(middle, y - 24, "What else hangs on this supply?", 24, BOLD, anchor=MIDDLE)
        picture.text(middle, y + 6, "Type the loads below, one by one, such as:", 15, role="ink2", anchor=MIDDLE)
        picture.text(middle, y + 34, by_name(design.job.code)["load"].example, 18, DRAW, "scribe", MIDDLE)
        return picture
    buses = design.buses
    shown = next((bus for bus in buses if bus.id == look.bus), buses[-1])
    stack = width - min(_SHEET, width * 0.5)
    tall = min(86.0, (height - _HEAD - 8) / len(buses))
    most = max(max(bus.needed_a, bus.rating_a or 0.0) for bus in buses) * 1.12
    for number, bus in enumerate(buses):
        _stack(picture, design, bus, (_HEAD + number * tall, tall, stack, most), bus is shown)
    picture.line(stack + 0.5, _HEAD, stack + 0.5, height, "edge")
    _sheet(picture, shown, look, stack + 12, width - 12, height)
    return picture


def _pages(picture: Picture, design: Design, shown: str) -> None:
    """Pages of one stage: what the buses carry, what is in the panel, what a year's data say."""
    for number, (page, name) in enumerate(design.book.panel.pages):
        left, here = 8.0 + number * 176, shown == page
        picture.box(
            left, 6, 168, 26, "scribe" if here else "edge", 2 if here else 1, "notefill" if here else "ground", 3
        )
        picture.text(left + 84, 24, name, 13, BOLD if here else TEXT, anchor=MIDDLE)
        picture.hit(left, 6, 168, 26, f"page-{page}", name + (", shown" if here else ""), f"page:{page}")


def _stack(picture: Picture, design: Design, bus: Bus, area: tuple[float, float, float, float], chosen: bool) -> None:
    top, tall, width, most = area
    left, right = 16.0, width - 20
    pixels = (right - left) / most
    finding = design.finding(f"demand:{bus.id}")
    severity = finding.severity if finding else HOLDS
    picture.box(6, top, width - 12, tall - 6, "scribe" if chosen else "edge", 2 if chosen else 1, "ground", 3)
    mark(picture, severity, 22, top + 17, 11)
    rating = f"{bus.rating_a:g} A" if bus.rating_a is not None else "rating not read"
    picture.text(34, top + 22, f"{bus.name}, {rating}", 13, BOLD)
    spare = bus.spare_a
    told = (
        f"{print_amps(bus.needed_a)} to carry"
        if spare is None
        else (f"{print_amps(spare)} to spare" if spare >= 0 else f"{print_amps(-spare)} over")
    )
    picture.text(width - 16, top + 22, told, 13, BOLD, severity, END)
    y, bar = top + 31, 18.0
    charger = bus.needed_a - bus.others_a
    picture.box(left, y, max(bus.others_a * pixels, 0.5), bar, "edge", 1, "well")
    start = left + bus.others_a * pixels
    picture.box(start, y, max(charger * pixels, 0.5), bar, "scribe", 1.4, "notefill")
    if bus.id != "service" and design.circuit is not None:
        extra = min(design.book.panel.continuous_extra * design.circuit.charge_a, charger) * pixels
        picture.box(start + charger * pixels - extra, y, extra, bar, "", hatch="slant:scribe")
    if bus.rating_a is not None:
        at = left + bus.rating_a * pixels
        picture.line(at, y - 5, at, y + bar + 5, severity, 3)
    if tall >= 76:
        words = f"others {print_amps(bus.others_a)}, charger {print_amps(charger)}"
        words += " with its quarter on top" if bus.id != "service" else ""
        words = f"{feeder}; {words}" if (feeder := feeder_words(design, bus)) else words
        picture.text(left, y + bar + 17, shorten(words, TEXT, 13, right - left), 13, role="ink2")
    says = f"{bus.name}, {rating}: {told}, {NAMES[severity]}"
    picture.hit(6, top, width - 12, tall - 6, f"bus-{bus.id}", says, f"bus:{bus.id}")


def _sheet(picture: Picture, bus: Bus, look: Look, left: float, right: float, height: float) -> None:
    """The worksheet of one bus, line by line."""
    picture.text(left, _HEAD + 18, f"{bus.name}: {bus.sheet.method} sheet", 13, BOLD, "ink2")
    picture.text(right, _HEAD + 18, "VA counted", 13, role="ink2", anchor=END)
    rows, first, room = _shown_rows(bus, look, height)
    if room < len(bus.sheet.rows):
        _turn(picture, bus, (first, room), (left, right, height))
    for number, row in enumerate(rows):
        y = _HEAD + 40 + number * _ROW
        counted = f"{row.counted_va:,.0f}" if not row.pooled else f"pooled {row.connected_va:,.0f}"
        picture.text(right, y, counted, 13, TEXT if row.pooled else BOLD, "ink2" if row.pooled else "ink", END)
        space = right - left - text_width(counted, BOLD, 13) - 10
        clause = f"  {row.cite}" if row.cite else ""
        picture.text(left, y, shorten(row.text + clause, TEXT, 13, space), 13)
        picture.hit(left, y - 14, right - left, _ROW, f"row-{first + number}", _row_says(row))
    y = _HEAD + 48 + len(rows) * _ROW
    picture.line(left, y - 15, right, y - 15, "ink", 1.4)
    picture.text(left, y + 2, "All of it", 13, BOLD)
    picture.text(right, y + 2, f"{bus.sheet.total_va:,.0f}", 13, BOLD, anchor=END)
    picture.text(left, y + 22, f"{print_amps(bus.needed_a)} to carry", 13, role="ink2")


def _shown_rows(bus: Bus, look: Look, height: float) -> tuple[tuple[Row, ...], int, int]:
    """Lines of a sheet that there is room for, the place of the first, and how many there is room for."""
    rows = bus.sheet.rows
    room = max(2, int((height - _HEAD - 82) / _ROW))
    if len(rows) <= room:
        return rows, 0, room
    room -= 1
    first = min(look.sheet_from, max(len(rows) - room, 0))
    return rows[first : first + room], first, room


def _turn(picture: Picture, bus: Bus, at: tuple[int, int], area: tuple[float, float, float]) -> None:
    """Which lines of a long sheet are shown, and the way to the others."""
    (first, room), (left, right, height) = at, area
    count, y = len(bus.sheet.rows), height - 12
    picture.text(left, y, f"Lines {first + 1} to {min(first + room, count)} of {count}", 13, role="ink2")
    last = first + room >= count
    told, goes = ("first lines", 0) if last else ("next lines", first + room)
    wide = text_width(told, BOLD, 13) + 16
    picture.box(right - wide, y - 15, wide, 21, "edge", 1, "ground", 3)
    picture.text(right - wide / 2, y, told, 13, BOLD, anchor=MIDDLE)
    picture.hit(right - wide, y - 15, wide, 21, "sheet-turn", f"Show the {told}", f"sheet:{goes}")


def _row_says(row: Row) -> str:
    if row.pooled:
        return f"{row.text}: {row.connected_va:,.0f} volt-amperes, counted in the pool below"
    return f"{row.text}: {row.counted_va:,.0f} volt-amperes counted"
