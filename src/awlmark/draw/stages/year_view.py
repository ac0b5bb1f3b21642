"""A measured year: every hour of it as a square, how long each current lasts, and ways round a larger supply."""

from __future__ import annotations

import datetime as dt
import functools
from typing import Final

import numpy as np

from awlmark.core.panel.load_management import LoadYear, Way, load_year
from awlmark.core.panel.meter_data import MONTHS, kept
from awlmark.core.quantities import print_amps
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, END, MIDDLE, START, TEXT, Picture, Tiles, shorten, text_width, wrap

_WAYS: Final = 300.0
_LEFT: Final = 46.0
_LINE: Final = 15.0
_SHARES: Final = (0.05, 0.15, 0.30, 0.50, 0.75, 1.0)
_LEVELS: Final = ("ground", "well", "faint", "edge", "ink2", "ink", "stop")
"""Fills of an hour between those shares of the service's rating; the last is above it."""
_EMPTY: Final = "sheet"


def draw_year(picture: Picture, design: Design, top: float, width: float, height: float) -> None:
    """Draw the year, or ask for one.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        Its job's meter data.
    top, width, height : float
        Where the drawing begins, and its size [px].
    """
    meter = design.job.meter
    if meter is None:
        _ask(picture, design, top, width, height)
        return
    year = load_year(design.job, kept(meter), design.circuit.charge_a if design.circuit else 0.0)
    right = width - min(_WAYS, width * 0.42)
    middle = top + (height - top) * 0.5
    _hours(picture, design, year, (_LEFT, top + 26, right - 18, middle - 26))
    _curve(picture, design, year, (_LEFT, middle + 22, right - 18, height - 26))
    picture.line(right + 0.5, top, right + 0.5, height, "edge")
    _ways(picture, design, year, (right + 12, top + 18, width - 12, height))


def _ask(picture: Picture, design: Design, top: float, width: float, height: float) -> None:
    middle, y = width / 2, (top + height) / 2
    picture.text(middle, y - 44, "What did this supply carry last year?", 24, BOLD, anchor=MIDDLE)
    for number, line in enumerate((design.book.words.meter_files,)):
        picture.text(middle, y - 16 + 18 * number, line, 15, role="ink2", anchor=MIDDLE)
    for shift, name, act in ((-106, "Read meter data", "meter"), (106, "Try an invented year", "invent")):
        picture.box(middle + shift - 96, y + 12, 192, 34, "scribe", 2, "sheet", 4)
        picture.text(middle + shift, y + 34, name, 15, BOLD, "scribe", MIDDLE)
        picture.hit(middle + shift - 96, y + 12, 192, 34, f"ask-{act}", name, f"menu:{act}")


def _hours(picture: Picture, design: Design, year: LoadYear, area: tuple[float, float, float, float]) -> None:
    """Days across, hours down; runs of one level are one box."""
    left, top, right, bottom = area
    days = len(year.others_a)
    wide, tall = (right - left) / days, (bottom - top) / 24
    rating = design.job.supply.service_a or max(year.highest_a, 1.0)
    source = design.job.meter.source if design.job.meter else ""
    head = f"Highest of every hour: {source}"
    picture.text(left, top - 8, shorten(head, BOLD, 13, right - left - 130), 13, BOLD, "ink2")
    picture.text(right, top - 8, f"highest {print_amps(year.highest_a)}", 13, role="ink2", anchor=END)
    picture.shapes += _squares(year, rating, (left, top, wide, tall))
    picture.box(left, top, right - left, bottom - top, "edge")
    for hour in (0, 6, 12, 18, 24):
        picture.text(left - 6, top + hour * tall + 5, f"{hour}", 13, role="ink2", anchor=END)
    last = -100.0
    for day in range(days):
        date = dt.date(1970, 1, 1) + dt.timedelta(days=year.first_day + day)
        x = left + day * wide
        if date.day == 1 and x - last > 30 and x + 26 < right:
            picture.line(x, bottom, x, bottom + 4, "edge")
            picture.text(x + 2, bottom + 16, MONTHS[date.month - 1], 13, role="ink2")
            last = x
    says = f"{days} days by the hour, highest {print_amps(year.highest_a)} of {print_amps(rating)}"
    picture.hit(left, top, right - left, bottom - top, "year-hours", says)


@functools.lru_cache(maxsize=4)
def _squares(year: LoadYear, rating: float, area: tuple[float, float, float, float]) -> list[Tiles]:
    """The year's squares by level, runs of one level in a day as one; kept, for they are the most of the drawing."""
    left, top, wide, tall = area
    by_level: dict[int, list[tuple[int, int, int, int]]] = {}
    shares = np.nan_to_num(year.others_a, nan=0.0) / rating
    level = np.where(np.isnan(year.others_a), -1, np.searchsorted(_SHARES, shares))
    across = [round(left + day * wide) for day in range(len(level) + 1)]
    down = [round(top + hour * tall) for hour in range(25)]
    for day, column in enumerate(level.tolist()):
        start = 0
        for end in range(1, 25):
            if end == 24 or column[end] != column[start]:
                size = across[day + 1] - across[day], down[end] - down[start]
                by_level.setdefault(column[start], []).append((across[day], down[start], *size))
                start = end
    # The lowest level is the ground they lie on.
    return [Tiles(0, 0, tuple(rects), _LEVELS[at] if at > 0 else _EMPTY) for at, rects in by_level.items() if at]


def _curve(picture: Picture, design: Design, year: LoadYear, area: tuple[float, float, float, float]) -> None:
    """Duration curves: the highest first; the new load stands on what was measured."""
    left, top, right, bottom = area
    rating = design.job.supply.service_a
    most = 1.08 * max(rating or 0.0, float(year.with_a[0]), 1.0)

    def points(curve: np.ndarray[tuple[int], np.dtype[np.float64]]) -> list[tuple[float, float]]:
        across = np.linspace(left, right, len(curve))
        up = bottom - (bottom - top) * np.maximum(curve, 0) / most
        return list(zip(across.tolist(), up.tolist(), strict=True))

    both, own = points(year.with_a), points(year.curve_a)
    picture.path([*both, *reversed(own)], fill="notefill", closed=True)
    picture.path([*own, (right, bottom), (left, bottom)], fill="well", closed=True)
    picture.path(own, "edge", 1.4)
    picture.path(both, "scribe", 2.4)
    picture.text(left, top - 8, "How long each current lasts", 13, BOLD, "ink2")
    if rating:
        y = bottom - (bottom - top) * rating / most
        picture.line(left, y, right, y, "stop", 2)
        picture.plate(
            right - 4, y + 17, f"{design.book.words.first.lower()} {rating:g} A", 13, BOLD, "stop", END, "sheet"
        )
    step = 50 if most > 120 else 20
    for amps in range(0, int(most) + 1, step):
        y = bottom - (bottom - top) * amps / most
        picture.line(left - 4, y, left, y, "edge")
        picture.text(left - 7, y + 5, f"{amps}", 13, role="ink2", anchor=END)
    picture.line(left, bottom, right, bottom, "ink", 1.2)
    for share in (0, 25, 50, 75, 100):
        told = f"{share} % of the time" if share == 100 else f"{share} %"
        anchor = START if share == 0 else END if share == 100 else MIDDLE
        if share != 75:
            picture.text(left + (right - left) * share / 100, bottom + 17, told, 13, role="ink2", anchor=anchor)
    x, y = both[len(both) * 3 // 10]
    told = "with the charger, whenever a car is in"
    told = told if x + 8 + text_width(told, BOLD, 13) < right else told.partition(",")[0]
    picture.plate(x + 8, y - 6, told, 13, BOLD, "scribe", START, "sheet")
    picture.text(left + 8, bottom - 7, "others", 13, role="ink2")
    over = f"{year.over_h:,.2g} h a year above the rating" if year.over_h else "never above the rating"
    says = f"Duration curve: with the charger {print_amps(float(year.with_a[0]))} at most, {over}"
    picture.hit(left, top, right - left, bottom - top, "year-curve", says)
    role = "stop" if year.over_h else "ink2"
    picture.text(
        right, top - 8, over if rating else f"{design.book.words.first.lower()} not read", 13, role=role, anchor=END
    )


def _ways(picture: Picture, design: Design, year: LoadYear, area: tuple[float, float, float, float]) -> None:
    """A card for each way round a larger supply."""
    left, y, right, bottom = area
    picture.text(left, y, "Instead of a larger supply", 13, BOLD, "ink2")
    if not year.ways:
        for line in wrap(
            f"Its rating and a {design.book.words.charger} are needed to try them.", TEXT, 13, right - left
        ):
            y += 20
            picture.text(left, y, line, 13)
        return
    told = "nights full" if design.job.need.cars else "50 km a day"
    picture.text(right, y, told, 13, role="ink2", anchor=END)
    y += 10
    room = (bottom - y - 8) / len(year.ways)
    for way in year.ways:
        _card(picture, design, way, (left, y, right, min(room, 236.0)))
        y += min(room, 236.0)


def _card(picture: Picture, design: Design, way: Way, area: tuple[float, float, float, float]) -> None:
    left, y, right, room = area
    demand, charger = design.job.demand, design.job.charger
    taken = (
        demand.managed
        if way.key == "sensors"
        else bool(demand.shares)
        if way.key == "shared"
        else charger.setting_restricted and not demand.shares
    )
    nights = way.nights
    role = "scribe" if taken else "edge"
    picture.box(left, y, right - left, room - 8, role, 2 if taken else 1, "notefill" if taken else "ground", 3)
    count = f"{nights.full} of {nights.nights}"
    picture.text(right - 10, y + 20, count, 13, BOLD, "ink" if nights.full == nights.nights else "tight", END)
    picture.text(left + 10, y + 20, shorten(way.name, BOLD, 13, right - left - 100), 13, BOLD)
    told = f"held back {nights.held_h:,.0f} h" if nights.held_h >= 0.5 else "never held back"
    told += f", paused {nights.paused_h:,.0f} h" if nights.paused_h >= 0.5 else ""
    told += f", over {nights.over_h:,.0f} h" if nights.over_h >= 0.5 else ""
    told += f"; {way.spaces or 'no'} spaces"
    lines = [(told, "stop" if nights.over_h >= 0.5 else "ink"), (f"Buy: {way.buy}", "ink2")]
    lines += [(f"Label: {way.label}", "ink2"), (f"Test: {way.test}", "ink2")]
    at = y + 38
    for text, colour in lines:
        wrapped = wrap(text, TEXT, 13, right - left - 20)
        if at + _LINE * (len(wrapped) - 1) > y + room - 14:
            continue
        for line in wrapped:
            picture.text(left + 10, at, line, 13, role=colour)
            at += _LINE
    says = f"{way.name}: {count} nights full, {told}. {way.buy}. {way.label} {way.test}"
    picture.hit(left, y, right - left, room - 8, f"way-{way.key}", says, f"way:{way.key}")
