"""The loupe: the section at the awl, and the slip with the finding in hand."""

from __future__ import annotations

import functools
import math
from typing import Final

from awlmark.core.finding import Finding
from awlmark.core.names import METAL_NAMES
from awlmark.core.options.fixes import Quote
from awlmark.core.quantities import draw_length, draw_trade_size
from awlmark.core.solve.design import Design
from awlmark.core.standing import SITE_STAGES, site_findings
from awlmark.draw.figures.bore import Strand, draw_bore, draw_cable, outside_mm, strands
from awlmark.draw.kit.picture import BOLD, END, MIDDLE, TEXT, Picture, Segment, shorten, text_width, wrap
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import Look, in_hand

WIDTH: Final = 296
_CENTRE: Final = 148.0
_ROW: Final = 31.0


def draw_loupe(design: Design, look: Look, height: float) -> Picture:
    """Draw disc and slip.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        Awl, finding in hand, priced fixes, screen size.
    height : float
        Height of the region [px].
    """
    picture = Picture(WIDTH, height)
    picture.box(0, 0, WIDTH, height, fill="ground")
    picture.line(0.5, 0, 0.5, height, "edge")
    finding = in_hand(design, look)
    slip = _slip_height(finding, look)
    radius = max(58.0, min(112.0, (height - slip - 74) / 2))
    top = 12.0
    _disc(picture, design, look, top + radius, radius)
    caption = top + 2 * radius + 20
    _caption(picture, design, look, caption)
    if finding is not None:
        _slip(picture, design, look, finding, max(caption + 32, height - slip - 12), slip)
    return picture


def finding_rows(design: Design, look: Look) -> list[tuple[str, str]]:
    """The slip's twin: fixes of the finding in hand, then every finding with its act."""
    rows = []
    for number, quote in enumerate(look.quotes):
        rows.append((f"Fix {number + 1}: {_fix_words(design, quote)}", f"fix:{number}"))
    finding = in_hand(design, look)
    if finding is not None and finding.ask:
        rows.append((_ask_words(finding), f"type:{finding.ask}"))
    site = site_findings(design, look.stage) if look.stage in SITE_STAGES and look.practice is None else ()
    for finding in (*site, *design.findings):
        rows.append((f"{NAMES[finding.severity]}. {finding.text} {finding.cite}", f"select:{finding.id}"))
    return rows


def _ask_words(finding: Finding) -> str:
    return f"Type {finding.ask}…"


def _fix_words(design: Design, quote: Quote) -> str:
    return f"{quote.fix.label}, {_price(design, quote)}; leaves {NAMES[quote.worst]}"


def _price(design: Design, quote: Quote) -> str:
    return f"{'+' if quote.price >= 0 else '−'}{design.job.currency}{abs(quote.price):,.0f}"


def _disc(picture: Picture, design: Design, look: Look, y: float, radius: float) -> None:
    picture.disc(_CENTRE, y, radius, "edge", 1.2, "sheet")
    section = design.section_at(look.seen_m)
    inside = strands(design)
    scale = look.pixels_per_mm
    trade = None
    if section is not None and design.circuit is not None:
        trade = design.circuit.trade_sizes[section.number]
    if scale is None:
        widest = outside_mm(design.book, section.method, trade) if section and trade else 30.0
        scale = min(5.2, (radius - 16) * 2 / widest)
    picture.shapes += _rim(y, radius, scale)
    if section is None or not inside:
        picture.text(_CENTRE, y + 5, "nothing cut yet", 13, role="ink2", anchor=MIDDLE)
        return
    if section.method.cable:
        _cable(picture, inside, y, radius, scale)
    elif trade is None:
        picture.text(_CENTRE, y + 5, "no trade size fits", 13, BOLD, "stop", MIDDLE)
    else:
        draw_bore(picture, design.book, section.method, trade, inside, _CENTRE, y, scale)


@functools.lru_cache(maxsize=16)
def _rim(y: float, radius: float, scale: float) -> tuple[Segment, ...]:
    """The rim's ticks, in eighths of an inch at the scale of what it shows."""
    step = math.degrees(25.4 / 8 * scale / radius)
    found = []
    for number in range(int(360 / step)):
        angle = math.radians(90 - number * step)
        inner = radius - (7 if number % 8 == 0 else 4)
        across, up = math.cos(angle), math.sin(angle)
        found.append(
            Segment(_CENTRE + across * radius, y - up * radius, _CENTRE + across * inner, y - up * inner, "edge")
        )
    return tuple(found)


def _cable(picture: Picture, inside: list[Strand], y: float, radius: float, scale: float) -> None:
    """A cable, no wider than the disc."""
    live = [strand for strand in inside if strand.letter]
    width = sum(strand.diameter_mm for strand in live) + 4
    draw_cable(picture, inside, _CENTRE, y, min(scale, (radius - 20) * 2 / width))


def _caption(picture: Picture, design: Design, look: Look, y: float) -> None:
    section, circuit = design.section_at(look.seen_m), design.circuit
    sized = "true size" if look.pixels_per_mm else "not to size"
    if section is None or circuit is None:
        picture.text(16, y, f"Section, {sized}", 13, BOLD)
        return
    trade = circuit.trade_sizes[section.number]
    name = f"{draw_trade_size(trade)} {section.method.name}" if trade else section.method.name
    picture.sentence(16, y, f"{name} at {draw_length(look.seen_m, design.job.units)}, {sized}", 13, BOLD)
    conductors = design.book.print_wires(circuit.hots + circuit.neutral, circuit.size, circuit.ground)
    made = f"{conductors} {METAL_NAMES[circuit.material]}"
    if circuit.insulation and trade:
        made += f", {circuit.insulation.upper()}"
    picture.text(16, y + 20, shorten(made, TEXT, 13, WIDTH - 28), 13, role="ink2")


def _lines(finding: Finding) -> list[str]:
    return wrap(finding.text, TEXT, 15, WIDTH - 56)


def _slip_height(finding: Finding | None, look: Look) -> float:
    if finding is None:
        return 0.0
    bar = 42 if _has_bar(finding) else 0
    rows = len(look.quotes) + bool(finding.ask)
    sums = sum([_tall(line) for line in _sums(finding)])
    return 40 + 20 * len(_lines(finding)) + bar + sums + _ROW * rows + 16


def _has_bar(finding: Finding) -> bool:
    return finding.found is not None and finding.needed is not None and finding.needed > 0


def _sums(finding: Finding) -> list[str]:
    return [line for told in finding.sums for line in wrap(told, TEXT, 13, WIDTH - 56)]


def _tall(line: str) -> int:
    """Height of a line of a sum [px]: stacked fractions want more."""
    return 22 if any(mark in line for mark in ('/2"', '/4"', '/8"')) else 18


def _slip(picture: Picture, design: Design, look: Look, finding: Finding, top: float, height: float) -> None:
    left, right = 12.0, WIDTH - 12.0
    severity = finding.severity
    picture.box(left, top, right - left, height, "edge", 1.0, "sheet")
    picture.box(left, top, 5, height, fill=severity)
    mark(picture, severity, left + 24, top + 21)
    picture.text(left + 38, top + 26, NAMES[severity], 15, BOLD, severity)
    room = right - left - 38 - text_width(NAMES[severity], BOLD, 15) - 22
    picture.text(right - 10, top + 25, shorten(finding.cite, TEXT, 13, room), 13, role="ink2", anchor=END)
    picture.hit(left, top, right - left, 34, finding.id, f"{NAMES[severity]}. {finding.text} {finding.cite}", "next")
    y = top + 52
    for line in _lines(finding):
        picture.sentence(left + 16, y, line, 15)
        y += 20
    if _has_bar(finding):
        y = _bar(picture, finding, left + 16, right - 12, y - 4) + 20
    for line in _sums(finding):
        picture.sentence(left + 16, y + _tall(line) - 18, line, 13, role="ink2")
        y += _tall(line)
    for number, quote in enumerate(look.quotes):
        _fix(picture, design, quote, number, left + 12, y - 6 + number * _ROW, right - left - 22)
    if finding.ask:
        _ask(picture, finding, left + 12, y - 6 + len(look.quotes) * _ROW, right - left - 22)


def _bar(picture: Picture, finding: Finding, left: float, right: float, y: float) -> float:
    found, needed = finding.found or 0.0, finding.needed or 0.0
    full = max(found, needed) * 1.08
    width = right - left
    picture.box(left, y, width, 6, fill="well")
    picture.box(left, y, width * min(found / full, 1.0), 6, fill=finding.severity)
    limit = left + width * min(needed / full, 1.0)
    picture.line(limit, y - 3, limit, y + 9, "ink", 2)
    unit = {"cmil": "circular mils", "deg": "°", "C": "°C"}.get(finding.unit, finding.unit)
    space = "" if unit in ("%", "°", "") else " "
    digits = ",.0f" if finding.unit == "cmil" else ",.4g"
    told = f"found {found:{digits}}{space}{unit}"
    limit_text = f"{'at least' if finding.sense == 'least' else 'at most'} {needed:{digits}}"
    if text_width(told, BOLD, 13) + text_width(limit_text, TEXT, 13) > width - 8:
        told = f"{found:{digits}}"
    picture.text(left, y + 23, told, 13, BOLD)
    picture.text(right, y + 23, limit_text, 13, role="ink2", anchor=END)
    return y + 24


def _fix(picture: Picture, design: Design, quote: Quote, number: int, left: float, top: float, width: float) -> None:
    price = _price(design, quote)
    picture.box(left, top, width, 28, "edge", 1.0, "ground", 3)
    mark(picture, quote.worst, left + 15, top + 14, 11)
    room = width - 44 - text_width(price, TEXT, 13)
    picture.text(left + 28, top + 19, shorten(quote.fix.label, BOLD, 13, room), 13, BOLD)
    picture.text(left + width - 9, top + 19, price, 13, anchor=END)
    says = f"Fix {number + 1}: {_fix_words(design, quote)}"
    picture.hit(left, top, width, 28, f"fix{number}", says, f"fix:{number}")


def _ask(picture: Picture, finding: Finding, left: float, top: float, width: float) -> None:
    """What only the site knows is typed: the row begins the entry."""
    picture.box(left, top, width, 28, "scribe", 1.2, "sheet", 3, dash=True)
    picture.text(left + 10, top + 19, _ask_words(finding), 13, BOLD, "scribe")
    picture.hit(left, top, width, 28, "ask", _ask_words(finding), f"type:{finding.ask}")
