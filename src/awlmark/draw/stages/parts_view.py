"""The Parts scene above its list: sticks with their cuts, conductors by colour with their tails."""

from __future__ import annotations

import math
from typing import Final

from awlmark.core.books.words import cap
from awlmark.core.parts.cutting import plan_of
from awlmark.core.parts.run_items import span_length, spans
from awlmark.core.parts.sticks import KERF_M, Stick
from awlmark.core.quantities import FOOT_M, draw_length, draw_trade_size
from awlmark.core.run.line import Section
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, set_width, shorten, text_width
from awlmark.draw.stages.quote_view import QUOTE_TALL, draw_quote
from awlmark.draw.view_state import Look

_LEFT: Final = 124.0
_ROW: Final = 24.0
"""A stick with its words, whose fractions reach below their line [px]."""
_STEP: Final = 3


def _sticks_title(design: Design) -> str:
    long, sticks = design.longest_stick_m, f"{cap(design.book.words.stick)}s"
    return f"{sticks} of {draw_length(long, 'm')}" if design.job.units == "m" else f"{sticks} of {long / FOOT_M:g} ft"


def parts_height(design: Design, look: Look, room: float) -> float:
    """Height the drawing wants of the room it shares with the list [px]."""
    if look.parts_page == "quote":
        return min(QUOTE_TALL, room * 0.58)
    rows = len(_alike([(section, stick) for section in design.line.sections for stick in design.sticks(section)]))
    # In steps of a few, so that list and drawing do not change places at every edit.
    wanted = 66 + min(_STEP * math.ceil(rows / _STEP), 15) * _ROW + 40 + 24 * max(_wire_rows(design), 1)
    return min(wanted, room * 0.58)


def draw_parts(design: Design, look: Look, width: float, height: float) -> Picture:
    """Draw sticks and conductors, or the sums of the quote.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        For the page.
    width, height : float
        Size of the drawing [px].
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    if not design.line.legs or design.circuit is None:
        picture.text(
            width / 2, height / 2, "The list follows the line. Scribe the first leg.", 15, role="ink2", anchor=MIDDLE
        )
        return picture
    _pages(picture, look, width)
    if look.parts_page == "quote":
        draw_quote(picture, design, width, height)
        return picture
    sticks = [
        (section, stick)
        for section in design.line.sections
        if not section.method.cable
        for stick in design.sticks(section)
    ]
    wires_top = height - 30 - 24 * _wire_rows(design)
    right = width - 40
    stick_m = design.longest_stick_m
    pixels = (right - _LEFT) / stick_m
    title = _sticks_title(design) if sticks else "Cable, in one piece from box to box"
    picture.text(12, 21, title, 13, BOLD, "ink2")
    _proof(picture, design)
    step_m, step = (FOOT_M, 1.0) if design.job.units == "ft" else (0.5, 0.5)
    for mark in range(int(stick_m / step_m + 1e-9) + 1 if sticks else 0):
        x = _LEFT + mark * step_m * pixels
        picture.line(x, 48, x, 54, "edge")
        picture.text(x, 45, f"{mark * step:g}", 16, DRAW, "ink2", MIDDLE)
    room = max(1, int((wires_top - 66) / _ROW))
    y, before = 60.0, -1
    rows = _alike(sticks)
    for number, (numbers, section, stick) in enumerate(rows[:room], 1):
        if number == room and len(rows) > room:
            left = len(sticks) - numbers[0] + 1
            picture.text(
                _LEFT, y + 15, f"and {left} more {design.book.words.stick}s, in the list below", 13, role="ink2"
            )
            break
        if section.number != before:
            trade = design.circuit.trade_sizes[section.number]
            name = f"{draw_trade_size(trade) + ' ' if trade else ''}{section.method.name}"
            picture.text(12, y + 15, shorten(name, BOLD, 13, 72), 13, BOLD)
            before = section.number
        told = f"{numbers[0]}" if len(numbers) == 1 else f"{numbers[0]}–{numbers[-1]}"
        picture.text(_LEFT - 8, y + 15, told, 13, role="ink2", anchor=END)
        _stick(picture, design, stick, y, pixels)
        y += _ROW
    _wires(picture, design, wires_top, width)
    return picture


def _alike(sticks: list[tuple[Section, Stick]]) -> list[tuple[list[int], Section, Stick]]:
    """Sticks numbered; whole ones of the same leg stand in one row."""
    found: list[tuple[list[int], Section, Stick]] = []
    for number, (section, stick) in enumerate(sticks, 1):
        whole = len(stick.pieces) == 1 and stick.left_m < 1e-6
        last = found[-1][2] if found else None
        alike = last is not None and len(last.pieces) == 1 and last.left_m < 1e-6 and found[-1][1] is section
        if whole and alike and last is not None and last.pieces[0].leg_id == stick.pieces[0].leg_id:
            found[-1][0].append(number)
        else:
            found.append(([number], section, stick))
    return found


def _pages(picture: Picture, look: Look, width: float) -> None:
    """Two pages above the list: what is cut, and what it all comes to."""
    for number, (page, name) in enumerate((("sticks", "Cuts"), ("quote", "Quote"))):
        left, here = width - 8 - 84.0 * (2 - number), look.parts_page == page
        fill, role = ("notefill", "scribe") if here else ("ground", "edge")
        picture.box(left, 5, 78, 22, role, 2 if here else 1, fill, 3)
        picture.text(left + 39, 21, name, 13, BOLD if here else TEXT, anchor=MIDDLE)
        says = name + (", shown" if here else "")
        picture.hit(left, 5, 78, 22, f"parts-{page}", says, f"partspage:{page}")


def _proof(picture: Picture, design: Design) -> None:
    """Whether the sticks are proved the fewest."""
    plans = [
        plan_of(design.pieces(section), section.method.stick_m)
        for section in design.line.sections
        if not section.method.cable
    ]
    sticks = sum(plan.number for plan in plans)
    if not sticks:
        return
    least = sum(plan.least for plan in plans)
    done = all(plan.proved or plan.rounds for plan in plans)
    name = f"{design.book.words.stick}s"
    told = f"{sticks} {name}, proved the fewest" if sticks == least else f"{sticks} {name}, {least} at least"
    told += "" if done or sticks == least else ", searching"
    picture.text(_LEFT, 21, told, 13, role="ink2")


def _stick(picture: Picture, design: Design, stick: Stick, y: float, pixels: float) -> None:
    x, tall, units = _LEFT, _ROW - 3, design.job.units
    numbers = {walked.leg.id: walked.number for walked in design.line.legs}
    for piece in stick.pieces:
        wide = piece.length_m * pixels
        picture.box(x, y, wide, tall, "edge", 1, "well")
        length = draw_length(piece.length_m, units)
        full = f"leg {numbers[piece.leg_id]}, {length}"
        for told in (full, length):
            if set_width(told, TEXT, 13) < wide - 6:
                picture.sentence(x + wide / 2, y + 15, told, 13, anchor=MIDDLE)
                break
        says = f"Leg {numbers[piece.leg_id]}: cut {length}"
        picture.hit(x, y, wide, tall, piece.leg_id, says, f"awl:{piece.start_m + piece.length_m / 2:.4f}")
        x += wide
        if stick.left_m > 1e-6 or piece is not stick.pieces[-1]:
            picture.line(x, y - 1, x, y + tall + 1, "stop", 2)
            x += KERF_M * pixels
    if stick.left_m > 1e-3:
        wide = stick.left_m * pixels
        picture.box(x, y, wide, tall, "edge", 1, "sheet", hatch="slant:faint")
        told = f"left over {draw_length(stick.left_m, units)}"
        if set_width(told, TEXT, 13) < wide - 10:
            middle = x + wide / 2
            half = set_width(told, TEXT, 13) / 2 + 4
            picture.box(middle - half, y + 1, 2 * half, tall - 2, fill="sheet")
            picture.sentence(middle, y + 15, told, 13, role="ink2", anchor=MIDDLE)


def _wire_rows(design: Design) -> int:
    if design.case is None:
        return 0
    cables = spans(design.case)
    return len(cables) if all(is_cable for is_cable, _sections in cables) else len(design.case.wires)


def _cables(picture: Picture, design: Design, top: float, ends: tuple[float, float]) -> None:
    """One bar a cable: what is cut of it, its tails marked, the wires in it told."""
    case, circuit = design.case, design.circuit
    assert case is not None and circuit is not None
    (left, right), units, makeup = ends, design.job.units, design.job.makeup
    longest = max(span_length(case, sections) for _cable, sections in spans(case))
    wires = ", ".join(wire.colour for wire in case.wires)
    for number, (_cable, sections) in enumerate(spans(case)):
        y, long = top + 38 + number * 24, span_length(case, sections)
        end = left + (right - left) * long / longest
        method = sections[0].method
        size = design.book.print_size(circuit.size)
        name = f"{size} {method.name}"
        if method.short and text_width(name, BOLD, 13) > left - 28:
            name = f"{size} {method.short}"
        picture.text(16, y, shorten(name, BOLD, 13, left - 28), 13, BOLD)
        picture.box(left, y - 12, end - left, 16, "edge", 1.2, "well", 7)
        first, last = sections[0].number == 0, sections[-1].number == len(case.sections) - 1
        pixels = (end - left) / long if long else 0.0
        panel_tail = makeup.panel_tail_m if first else makeup.box_loop_m
        unit_tail = makeup.unit_tail_m if last else makeup.box_loop_m
        for at in (left + panel_tail * pixels, end - unit_tail * pixels):
            picture.line(at - 3, y + 4, at + 3, y - 12, "ink", 1.6)
        picture.sentence(right + 12, y, f"cut {draw_length(long, units)}", 13, BOLD)
        says = f"{name} cable with {wires}: cut {draw_length(long, units)}, tails counted"
        picture.hit(12, y - 16, picture.width - 24, 23, f"cable-{number}", says)


def _wires(picture: Picture, design: Design, top: float, width: float) -> None:
    """One line a conductor: tails at both ends, a loop where it can be got at."""
    case, circuit = design.case, design.circuit
    assert case is not None and circuit is not None
    picture.line(0, top + 0.5, width, top + 0.5, "edge")
    cabled = all(section.method.cable for section in case.sections)
    picture.text(
        12,
        top + 19,
        "Cable, with its tails" if cabled else f"{cap(design.book.words.wire)}, one line each",
        13,
        BOLD,
        "ink2",
    )
    makeup, units = design.job.makeup, design.job.units
    panel, unit = draw_length(makeup.panel_tail_m, units), draw_length(makeup.unit_tail_m, units)
    words = design.book.words
    tails = f"tails {panel} at the {words.panel}, {unit} at the {words.charger}"
    picture.sentence(width - 16, top + 19, tails, 13, role="ink2", anchor=END)
    left, right = 170.0, width - 130
    whole = span_length(case, list(case.sections))
    pixels = (right - left) / whole if whole else 0.0
    if cabled:
        _cables(picture, design, top, (left, right))
        return
    for number, wire in enumerate(case.wires):
        colour, letter = wire.colour, wire.letter
        y = top + 38 + number * 24
        size = circuit.ground if letter == "G" else circuit.size
        name = f"{design.book.print_size(size) if size else 'unread'} {colour}"
        picture.disc(22, y - 4, 8, "ink", 1, colour)
        picture.disc(22, y - 4, 5, fill="copper" if circuit.material == "cu" else "aluminium")
        picture.text(38, y, name, 13)
        picture.line(left, y - 4, right, y - 4, "edge", 7)
        picture.line(left, y - 4, right, y - 4, colour, 5)
        for at in (left + makeup.panel_tail_m * pixels, right - makeup.unit_tail_m * pixels):
            picture.line(at - 3, y + 3, at + 3, y - 11, "ink", 1.6)
        for walked in design.line.legs[:-1]:
            if walked.pulls:
                at = left + (makeup.panel_tail_m + walked.end_m) * pixels
                picture.disc(at, y - 8, 5, "edge", 5)
                picture.disc(at, y - 8, 5, colour, 3)
        told = f"cut {draw_length(whole, units)}"
        picture.sentence(right + 12, y, told, 13, BOLD)
        says = f"{name}: cut {draw_length(whole, units)}"
        picture.hit(12, y - 16, width - 24, 23, f"wire-{letter}", says)
