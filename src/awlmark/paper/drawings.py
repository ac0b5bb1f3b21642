"""Drawings of the packet: the one-line diagram, the plan and the walls at a true scale, labels at their own size."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.words import Words, cap
from awlmark.core.quantities import FOOT_M
from awlmark.draw.figures.oneline import one_line_boxes
from awlmark.draw.figures.plan import draw_plan
from awlmark.draw.figures.unfold import unfold
from awlmark.draw.figures.wall_strip import StripView
from awlmark.draw.figures.walls import levels_of
from awlmark.draw.kit.picture import BOLD, DRAW, MIDDLE, TEXT, Picture, wrap
from awlmark.draw.view_state import Look
from awlmark.paper.pages import MARGIN, MM, Sheets

SCALES: Final = (10, 20, 25, 50, 75, 100, 150, 200, 250, 500, 1000)
"""One to so many; the largest drawing that fits the page is taken."""
LABEL: Final = (76.2 * MM, 25.4 * MM)
"""A label, 3 by 1 in."""
TAG: Final = (50.8 * MM, 15.0 * MM)
"""A lug tag."""


def points_per_m(scale: int) -> float:
    """Points of the page to a metre at one to ``scale``."""
    return 1000 * MM / scale


def best_scale(metres: float, points: float) -> int:
    """The largest usual scale at which a length still fits."""
    return next((scale for scale in SCALES if metres * points_per_m(scale) <= points), SCALES[-1])


def one_line(sheets: Sheets, x: float, y: float) -> None:
    """Service, feeders, breaker, run and charger, from top to bottom, from a point of the page on."""
    page, wide = sheets.page, MARGIN + sheets.width - x - 60
    page.text(x, y, "One-line diagram", 11, BOLD)
    y += 14
    for number, (name, told) in enumerate(one_line_boxes(sheets.design)):
        lines = [line for text in told for line in wrap(text, TEXT, 9, wide)]
        tall = max(18 + 12 * len(lines), 34.0)
        if number:
            page.line(x + 22, y - 14, x + 22, y, "ink", 1.6)
        page.box(x, y, 44, tall, "ink", 1.4)
        _symbol(page, sheets.design.book.words, name, x + 22, y + tall / 2)
        page.text(x + 54, y + 12, name, 10, BOLD)
        for row, line in enumerate(lines):
            page.sentence(x + 54, y + 25 + 12 * row, line, 9)
        y += tall + 14
    sheets.y = y


def _symbol(page: Picture, words: Words, name: str, x: float, y: float) -> None:
    """What a box stands for, drawn plainly: an arc for a breaker, an open blade for a disconnect, and letters."""
    kinds = {cap(words.breaker): "Breaker", cap(words.disconnect): "Disconnect", words.first: "Service",
             cap(words.charger): "Charger"}  # fmt: skip
    name = kinds.get(name, name)
    if name == "Breaker":
        page.disc(x, y - 9, 2, fill="ink")
        page.disc(x, y + 9, 2, fill="ink")
        page.sweep(x, y, 9, -90, 180, "ink", 1.6)
    elif name == "Disconnect":
        page.disc(x, y - 9, 2, fill="ink")
        page.disc(x, y + 9, 2, fill="ink")
        page.line(x, y + 9, x + 9, y - 6, "ink", 1.6)
    elif name == "Run":
        for shift in (-4.0, 0.0, 4.0):
            page.line(x + shift - 4, y + 5, x + shift + 4, y - 5, "ink", 1.2)
    else:
        page.text(x, y + 5, {"Service": "S", "Charger": "EV"}.get(name, "P"), 13, BOLD, anchor=MIDDLE)


def plan_to_scale(sheets: Sheets) -> None:
    """The floor plan of the run, with a bar of its scale."""
    legs = sheets.design.line.legs
    xs = [point[0] for walked in legs for point in (walked.start, walked.end)]
    ys = [point[1] for walked in legs for point in (walked.start, walked.end)]
    across, deep = max(xs) - min(xs) or 1.0, max(ys) - min(ys)
    scale = max(best_scale(across + 0.5, sheets.width - 180), best_scale(deep + 0.5, 250))
    tall = max(deep * points_per_m(scale) + 80, 110)
    sheets.heading(f"Plan, 1 : {scale}")
    sheets.room(tall + 20)
    drawn = Picture(sheets.width, tall, paper=True)
    draw_plan(drawn, sheets.design, sheets.width, tall, points_per_m(scale))
    _place(sheets, drawn, tall)
    _bar(sheets, scale)


def walls_to_scale(sheets: Sheets) -> None:
    """Every strip of unfolded wall at the largest usual scale."""
    design = sheets.design
    for strip in unfold(design.line):
        low, high = levels_of(strip, design)
        scale = max(best_scale(strip.width_m, sheets.width - 150), best_scale(high - low, 420))
        # Words about a trench stand below it.
        tall = (high - low) * points_per_m(scale) + (108 if strip.outdoors else 60)
        sheets.room(tall + 60)
        sheets.heading(f"{'Yard, cut through' if strip.outdoors else 'Walls, unfolded'}, 1 : {scale}")
        drawn = Picture(sheets.width, tall, paper=True)
        StripView(drawn, design, Look(at_m=-1.0), strip, 0.0, sheets.width, tall, points_per_m(scale)).draw()
        _place(sheets, drawn, tall)
        _bar(sheets, scale)


def _place(sheets: Sheets, drawn: Picture, tall: float) -> None:
    """Set a drawing into the page at the cursor."""
    from awlmark.draw.kit.shift import moved

    sheets.page.shapes.extend(moved(drawn.shapes, MARGIN, sheets.y))
    sheets.y += tall


def _bar(sheets: Sheets, scale: int) -> None:
    """A bar that tells the scale on the page itself."""
    feet = sheets.design.job.units == "ft"
    unit = FOOT_M if feet else 1.0
    long = next(n for n in (1, 2, 5, 10, 20, 50, 100) if n * unit * points_per_m(scale) >= 60 or n == 100)
    points = long * unit * points_per_m(scale)
    sheets.y += 14
    sheets.page.box(MARGIN, sheets.y - 6, points, 4, fill="ink")
    sheets.page.text(MARGIN + points + 6, sheets.y, f"{long} {'ft' if feet else 'm'}", 9)
    sheets.y += 6


def labels(sheets: Sheets, texts: list[tuple[str, list[str]]], tags: list[str]) -> None:
    """Labels and lug tags at their true size, with lines to cut along."""
    page, (wide, tall) = sheets.page, LABEL
    x, y = MARGIN, sheets.y + 14
    for head, told in texts:
        if x + wide > MARGIN + sheets.width + 1:
            x, y = MARGIN, y + tall + 12
        page.box(x, y, wide, tall, "ink", 0.8, dash=True)
        lines = [line for text in told for line in wrap(text, "text", 9, wide - 14)][:4]
        page.text(x + 7, y + 15, head, 11, BOLD)
        for row, line in enumerate(lines):
            page.sentence(x + 7, y + 29 + 12 * row, line, 9)
        x += wide + 12
    x, y = MARGIN, y + tall + 24
    for tag in tags:
        if x + TAG[0] > MARGIN + sheets.width + 1:
            x, y = MARGIN, y + TAG[1] + 10
        page.box(x, y, *TAG, "ink", 0.8, dash=True)
        page.text(x + TAG[0] / 2, y + TAG[1] / 2 + 5, tag, 13, DRAW, anchor=MIDDLE)
        x += TAG[0] + 10
    sheets.y = y + TAG[1] + 20
