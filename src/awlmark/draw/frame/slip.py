"""The slip: one finding with its sum, its rule, and what would mend it."""

from __future__ import annotations

from typing import Final

from awlmark.core.finding import HOLDS, NOTE, Finding
from awlmark.core.options.fixes import Quote
from awlmark.core.solve.design import Design
from awlmark.core.standing import seen_by
from awlmark.draw.kit.picture import BOLD, END, TEXT, Picture, shorten, text_width, wrap
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import Look

WIDTH: Final = 296
ASK_ROW: Final = 31.0
FIX_ROW: Final = 45.0


def ask_words(finding: Finding) -> str:
    return f"Type {finding.ask}…"


def fix_words(design: Design, quote: Quote) -> str:
    own, line = f"this {NAMES[quote.own].lower()}", line_words(quote)
    return f"{quote.fix.label}, {_price(design, quote)}; then {own}, {line}"


def line_words(quote: Quote) -> str:
    """What the whole line has after a fix, in words."""
    if quote.worst == HOLDS:
        return "line: all holds"
    return f"line: {quote.count} {NAMES[quote.worst].lower()}"


def _price(design: Design, quote: Quote) -> str:
    return f"{'+' if quote.price >= 0 else '−'}{design.job.currency}{abs(quote.price):,.0f}"


def _lines(finding: Finding) -> list[str]:
    return wrap(finding.text, TEXT, 15, WIDTH - 56)


def slip_height(finding: Finding | None, look: Look) -> float:
    if finding is None:
        return 0.0
    bar = 42 if has_bar(finding) else 0
    rows = FIX_ROW * len(look.quotes) + ASK_ROW * (bool(finding.ask) + _tickable(finding))
    sums = sum([_tall(line) for line in _sums(finding)])
    return 40 + 20 * len(_lines(finding)) + bar + sums + rows + 16


def _tickable(finding: Finding) -> bool:
    """Whether it is a note that asks nothing: it can be ticked as seen, whether or not a fix is offered."""
    return finding.severity == NOTE and not finding.ask


def has_bar(finding: Finding) -> bool:
    return finding.found is not None and finding.needed is not None and finding.needed > 0


def _sums(finding: Finding) -> list[str]:
    return [line for told in finding.sums for line in wrap(told, TEXT, 13, WIDTH - 56)]


def _tall(line: str) -> int:
    """Height of a line of a sum [px]: stacked fractions want more."""
    return 22 if any(mark in line for mark in ('/2"', '/4"', '/8"')) else 18


def draw_slip(picture: Picture, design: Design, look: Look, finding: Finding, top: float, height: float) -> None:
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
    if has_bar(finding):
        y = _bar(picture, finding, left + 16, right - 12, y - 4) + 20
    for line in _sums(finding):
        picture.sentence(left + 16, y + _tall(line) - 18, line, 13, role="ink2")
        y += _tall(line)
    for number, quote in enumerate(look.quotes):
        _fix(picture, design, quote, number, left + 12, y - 6 + number * FIX_ROW, right - left - 22)
    if finding.ask:
        _ask(picture, finding, left + 12, y - 6 + len(look.quotes) * FIX_ROW, right - left - 22)
    elif _tickable(finding):
        _tick(picture, design, finding, left + 12, y - 6 + len(look.quotes) * FIX_ROW, right - left - 22)


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
    picture.box(left, top, width, FIX_ROW - 3, "edge", 1.0, "ground", 3)
    room = width - 24 - text_width(price, TEXT, 13)
    picture.text(left + 9, top + 17, shorten(quote.fix.label, BOLD, 13, room), 13, BOLD)
    picture.text(left + width - 9, top + 17, price, 13, anchor=END)
    mark(picture, quote.own, left + 15, top + 30, 10)
    picture.text(left + 27, top + 35, f"this {NAMES[quote.own].lower()}", 13)
    middle = left + width * 0.46
    picture.line(middle - 8, top + 25, middle - 8, top + 37, "faint")
    mark(picture, quote.worst, middle + 4, top + 30, 10)
    picture.text(middle + 16, top + 35, line_words(quote), 13)
    says = f"Fix {number + 1}: {fix_words(design, quote)}"
    picture.hit(left, top, width, FIX_ROW - 3, f"fix{number}", says, f"fix:{number}")


def _tick(picture: Picture, design: Design, finding: Finding, left: float, top: float, width: float) -> None:
    """A note that asks nothing is seen, and by whom."""
    by = seen_by(design.job, finding)
    told = f"Seen by {by}" if by else "Tick as seen, by…"
    picture.box(left, top, width, 28, "edge", 1.0, "ground", 3)
    picture.box(left + 9, top + 8, 12, 12, "ink", 1.4, "sheet")
    if by:
        picture.path([(left + 11, top + 14), (left + 14, top + 18), (left + 20, top + 9)], "ink", 2)
    picture.text(left + 30, top + 19, shorten(told, BOLD, 13, width - 40), 13, BOLD)
    picture.hit(left, top, width, 28, "seen", told, f"saw:{finding.id}")


def _ask(picture: Picture, finding: Finding, left: float, top: float, width: float) -> None:
    """What only the site knows is typed: the row begins the entry."""
    picture.box(left, top, width, 28, "scribe", 1.2, "sheet", 3, dash=True)
    picture.text(left + 10, top + 19, ask_words(finding), 13, BOLD, "scribe")
    picture.hit(left, top, width, 28, "ask", ask_words(finding), f"type:{finding.ask}")
