"""The quote: what the job comes to, hours by step, and what was paid."""

from __future__ import annotations

from typing import Final

from awlmark.core.build.steps import hours_of
from awlmark.core.parts.quote import Estimate, estimate
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, TEXT, Picture

QUOTE_TALL: Final = 300.0
_ROW: Final = 24.0


def sums_of(design: Design, sums: Estimate) -> list[tuple[str, str, float | None, str]]:
    """Lines of the quote: label, how it comes about, amount, and what a click begins to type."""
    buying, money = design.job.buying, design.job.currency
    rate = "no rate set" if buying.rate_per_h is None else f"{sums.all_hours:.1f} h at {money}{buying.rate_per_h}"
    cap = f", {money}{buying.rebate_cap} at most" if buying.rebate_cap is not None else ""
    return [
        ("Parts", f"{len(design.parts)} lines", sums.parts, ""),
        (design.book.words.tax, f"{buying.tax_percent:g} % of the parts", sums.tax, "tax "),
        ("Labour", rate, sums.labour, "rate "),
        ("Margin", f"{buying.margin_percent:g} % of parts and labour", sums.margin, "margin "),
        ("Rebate", f"{buying.rebate_percent:g} %{cap}", -sums.rebate if sums.rebate else 0.0, "rebate "),
    ]


def draw_quote(picture: Picture, design: Design, width: float, height: float) -> None:
    """Draw the sums at the left, the hours at the right.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        Solved job.
    width, height : float
        Size of the drawing [px].
    """
    sums, money = estimate(design.job, design.parts, hours_of(design)), design.job.currency
    split = width * 0.52
    picture.text(12, 21, "What it comes to", 13, BOLD, "ink2")
    y = 54.0
    for label, how, amount, begins in sums_of(design, sums):
        picture.text(24, y, label, 15, BOLD)
        picture.text(96, y, how, 13, role="ink2")
        told = "unread" if amount is None else f"{amount:,.2f}"
        picture.text(split - 30, y, told, 15, anchor=END)
        says = f"{label}, {how}: {told}"
        picture.hit(16, y - 17, split - 38, _ROW, f"quote-{label.lower()}", says, f"type:{begins}" if begins else "")
        y += _ROW
    picture.line(24, y - 10, split - 30, y - 10, "ink", 1.4)
    least = "from " if design.unpriced else ""
    picture.text(24, y + 14, "Total", 15, BOLD)
    picture.text(split - 30, y + 14, f"{least}{money}{sums.total:,.2f}", 20, DRAW, anchor=END)
    picture.hit(16, y - 6, split - 38, 26, "quote-total", f"Total: {least}{money}{sums.total:,.2f}")
    y += 44
    if design.job.paid:
        over = sums.paid - sums.planned
        told = f"{abs(over):,.2f} {'over' if over > 0 else 'under'} plan" if abs(over) > 0.005 else "as planned"
        picture.text(24, y, f"Paid so far {sums.paid:,.2f} for lines listed at {sums.planned:,.2f}: {told}", 13)
    else:
        picture.text(24, y, "Receipts: type them into the column Paid below.", 13, role="ink2")
    _hours(picture, sums, split, width)


def _hours(picture: Picture, sums: Estimate, split: float, width: float) -> None:
    """Hours of one person by step of the work, as bars."""
    left, right = split + 10, width - 24
    picture.line(split - 6, 40, split - 6, 270, "edge")
    picture.text(left, 54, f"Hours of one person: {sums.all_hours:.1f}", 13, BOLD, "ink2")
    longest = max((hours for _step, hours in sums.hours), default=0.0) or 1.0
    y = 84.0
    for step, hours in sums.hours:
        picture.text(left, y, step, 13)
        picture.box(left, y + 6, max((right - left - 50) * hours / longest, 1.5), 9, "edge", 1, "well")
        picture.text(right, y + 15, f"{hours:.1f}", 13, TEXT, "ink", END)
        picture.hit(left, y - 14, right - left, 32, f"hours-{step}", f"{step}: {hours:.1f} hours")
        y += 40
    picture.text(left, y + 4, "Hours: common practice; your own win.", 13, role="ink2")
