"""The Prove scene: tests in their order, the bench, the heat curve, the log; or the practice bench."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Final

import numpy as np

from awlmark.core.prove.log import latest, print_value
from awlmark.core.prove.test import AIR_C, ORDER, tests_of
from awlmark.core.prove.thermal import an_hour
from awlmark.core.quantities import print_temperature
from awlmark.core.solve.design import Design
from awlmark.draw.figures.bench import draw_bench
from awlmark.draw.figures.record import draw_record
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import Look

ORDER_TALL: Final = 66.0
PAGES_TALL: Final = 100.0
"""Down to where the page begins [px]."""
BENCH_TALL: Final = 238.0
NAMES_OF: Final = {
    "dead": "dead", "continuity": "continuity", "insulation": "insulation", "polarity": "polarity",
    "live": "live volts", "loop": "loop", "residual": "residual", "function": "functions", "charge": "charging",
    "heat": "heat, 1 h",
}  # fmt: skip
HOTTEST_C: Final = 300.0
"""Nothing hotter is drawn [degC]."""
ROOMY: Final = 130.0
"""Width from which every quarter of the hour has room for its number [px]."""
MOST_LINES: Final = 14


def draw_prove(design: Design, look: Look, width: float, height: float) -> Picture:
    """Draw the Prove scene.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        Probes, switches, page.
    width, height : float
        Size of the scene [px].
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    if not tests_of(design):
        middle, y = width / 2, height / 2
        picture.text(middle, y - 14, "There is nothing to prove yet.", 24, BOLD, anchor=MIDDLE)
        picture.text(
            middle, y + 14, "What each test should show follows from the circuit.", 15, role="ink2", anchor=MIDDLE
        )
        return picture
    if look.practice is not None:
        from awlmark.draw.stages.practice_view import draw_practice

        draw_practice(picture, design, look, width, height)
        return picture
    _order(picture, design, width)
    picture.line(0, ORDER_TALL + 0.5, width, ORDER_TALL + 0.5, "edge")
    _pages(picture, look, width)
    if look.prove_page == "bench":
        draw_bench(picture, design, look, (PAGES_TALL, width, BENCH_TALL))
        top = PAGES_TALL + BENCH_TALL
        picture.line(0, top + 0.5, width, top + 0.5, "edge")
        _heat(picture, design, (0.0, top, width, height))
        return picture
    split = width * 0.6
    picture.line(split + 0.5, PAGES_TALL, split + 0.5, height, "edge")
    draw_record(picture, design, look.record_from, (0.0, PAGES_TALL, split, height))
    _heat(picture, design, (split, PAGES_TALL, width, height - 120))
    _meter(picture, design, (split, height - 118, width, height))
    return picture


def _order(picture: Picture, design: Design, width: float) -> None:
    """The stages of testing and the signature, each with its worst mark."""
    read, tests = latest(design), tests_of(design)
    names = [*(stage for stage in ORDER if any(test.stage == stage for test in tests)), "signed"]
    left, gap = 70.0, (width - 140) / (len(names) - 1)
    picture.line(left, 24, left + gap * (len(names) - 1), 24, "scribe", 2)
    crowded = max(text_width(NAMES_OF.get(name, name), TEXT, 13) for name in names) > gap - 8
    for place, stage in enumerate(names):
        x = left + place * gap
        if stage == "signed":
            readings = design.job.prove.readings
            open_ones = [reading for reading in readings if not reading.signed]
            severity = "holds" if readings and not open_ones else "unread"
            told, act = (
                f"revision {len(design.job.prove.signatures)}" if design.job.prove.signatures else "sign",
                "type:sign ",
            )
        else:
            mine = [test for test in tests if test.stage == stage]
            found = [read[test.key].severity for test in mine if test.key in read]
            bad = next((mark_name for mark_name in ("stop", "tight", "unread") if mark_name in found), "holds")
            severity = bad if len(found) == len(mine) and mine else "unread"
            told, act = NAMES_OF[stage], ""
            if bad in ("stop", "tight"):
                severity = bad
        picture.disc(x, 24, 12, "scribe", 1.6, "sheet")
        mark(picture, severity, x, 24, 12)
        picture.text(x, 46 + 14 * (place % 2) if crowded else 54, told, 13, anchor=MIDDLE)
        picture.hit(x - gap / 2 + 4, 6, gap - 8, 54, f"order-{stage}", f"{told}: {NAMES[severity]}", act)


def _pages(picture: Picture, look: Look, width: float) -> None:
    """The record, and apart from it the simulated bench."""
    for number, (page, name) in enumerate((("record", "The record"), ("bench", "Bench, simulated"))):
        left, here = 8.0 + number * 176, look.prove_page == page
        picture.box(
            left, ORDER_TALL + 5, 168, 24, "scribe" if here else "edge", 2 if here else 1,
            "notefill" if here else "ground", 3,
        )  # fmt: skip
        picture.text(left + 84, ORDER_TALL + 22, name, 13, BOLD if here else TEXT, anchor=MIDDLE)
        says = name + (", shown" if here else "")
        picture.hit(left, ORDER_TALL + 5, 168, 24, f"prove-{page}", says, f"provepage:{page}")


def _meter(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """How a reading gets into the record, and who signs it."""
    left, top, right, bottom = area
    picture.line(left, top + 0.5, right, top + 0.5, "edge")
    picture.text(left + 12, top + 19, "A reading is typed or read from a file", 13, BOLD, "ink2")
    wide = right - left - 24
    for number, (name, act, says) in enumerate((
        ("Type the next reading", "type:read ", "Type the reading of the next test: read and what it shows"),
        ("Read them from a meter's file…", "menu:read-log", "Readings from a meter's CSV: test, value, unit, when"),
        ("Sign what was read", "type:sign ", "Sign: proved dead, every test read, all in their bands or excepted"),
    )):  # fmt: skip
        y = top + 28 + number * 29
        if y + 26 > bottom:
            break
        picture.box(left + 12, y, wide, 25, "scribe", 1.2, "sheet", 3)
        picture.text(left + 12 + wide / 2, y + 17, shorten(name, BOLD, 13, wide - 8), 13, BOLD, "scribe", MIDDLE)
        picture.hit(left + 12, y, wide, 25, f"take-{number}", says, act)


def _heat(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """The expected hour, the band's top, and what was read."""
    zero, top, right, bottom = area
    units = design.job.units
    air = AIR_C if design.job.prove.ambient_c is None else design.job.prove.ambient_c
    amps = design.circuit.charge_a if design.circuit else 0.0
    picture.text(zero + 12, top + 19, f"Heat over an hour at {amps:g} A", 13, BOLD, "ink2")
    temps = an_hour(design, air)
    if temps is None:
        picture.text(zero + 12, top + 44, "The table is silent on this wire: no heat is worked out.", 13, role="ink2")
        return
    # Far too thin a wire runs away: past this its jacket is gone, and the model with it.
    temps = np.minimum(temps, HOTTEST_C)
    limits = {test.key: min(test.high, HOTTEST_C) for test in tests_of(design)}
    most = limits.get("lug 60 min", float(temps.max()) + 10)
    high = max(most + 6, float(temps.max()) + 4)
    named = {key: design.book.prove.heat_names.get(key, key).rpartition(" ")[2] for key in ("lug", "wire", "plug")}
    room = max(text_width(f"{word} {print_temperature(100, units)}", BOLD, 13) for word in named.values())
    left, foot, head, end = zero + 62.0, bottom - 30, top + 38, right - max(room + 12, 96)

    def x(minute: float) -> float:
        return left + (end - left) * minute / 60

    def y(celsius: float) -> float:
        return foot - (foot - head) * (celsius - air + 4) / (high - air + 4)

    step = 10 * math.ceil((high - air) / MOST_LINES / 10)
    for celsius in range(int(air // 10) * 10, int(high) + step, step):
        if head <= y(celsius) <= foot:
            picture.line(left, y(celsius), end, y(celsius), "faint")
            picture.text(left - 6, y(celsius) + 5, print_temperature(celsius, units), 13, role="ink2", anchor=END)
    for minute in (0, 15, 30, 45, 60) if end - left >= ROOMY else (0, 30, 60):
        picture.text(x(minute), bottom - 10, f"{minute}", 16, DRAW, anchor=MIDDLE)
    picture.line(x(5), head, x(5), foot, "edge", 1, dash=True)
    picture.text(x(5) + 5, head + 12, "5 min proves nothing", 13, role="ink2")
    picture.line(left, y(most), end, y(most), "tight", 1.6, dash=True)
    picture.text(end + 10, y(most) + 5, f"most {print_temperature(most, units)}", 13, BOLD, "tight")
    read = latest(design)
    spots: list[float] = [y(most)]
    for column, name, key, wide in ((1, "lug", "lug", 2.6), (0, "wire", "wire", 1.4), (3, "plug", "plug", 1.6)):
        if column == 3 and f"{key} 60 min" not in limits:
            continue
        points = [(x(minute), y(float(temps[minute, column]))) for minute in range(61)]
        picture.path(points, "scribe" if wide > 2 else "ink2", wide)
        at = y(float(temps[60, column])) + 5
        while any(abs(at - other) < 15 for other in spots):
            at += 4
        spots.append(at)
        told = f"{named[name]} {print_temperature(float(temps[60, column]), units)}"
        picture.text(end + 10, at, told, 13, BOLD if wide > 2 else TEXT)
        for minutes in (5, 60):
            each = read.get(f"{key} {minutes} min")
            if each is not None and each.reading.value is not None:
                picture.disc(x(minutes), y(each.reading.value), 5, "note", 2, "sheet")
    lug = print_temperature(float(temps[60, 1]), units)
    says = f"Expected terminal after an hour: {lug}, at most {print_temperature(most, units)}"
    picture.hit(left, head, end - left, foot - head, "heat", says)


def draw_volts_lane(picture: Picture, design: Design, x: Callable[[float], float]) -> None:
    """Volts along the run under load, the expected band, and what was read at its ends."""
    found = {test.key: test for test in tests_of(design)}
    near, far = design.book.prove.ends
    panel, charger = found.get(f"{near} loaded"), found.get(f"{far} loaded")
    if panel is None or charger is None:
        return
    start, end = x(0.0), x(design.line.length_m)
    high, low = panel.high + 1, charger.low - 1

    def y(volts: float) -> float:
        return 10 + 50 * (high - volts) / (high - low)

    picture.path([(start, y(panel.high)), (end, y(charger.high)), (end, y(charger.low)), (start, y(panel.low))],
                 "edge", 1, "notefill", closed=True)  # fmt: skip
    picture.line(start, y(panel.expected), end, y(charger.expected), "scribe", 2)
    read = latest(design)
    for test, at in ((panel, start), (charger, end)):
        each = read.get(test.key)
        value = each.reading.value if each is not None else None
        told = f"{test.key.split()[0]} {print_value(value if value is not None else test.expected, 'V')}"
        if value is not None:
            picture.disc(at, y(value), 5, "note", 2, "sheet")
        # Under the band at the panel, beside it at the charger.
        picture.text(at + 10, y(test.low) + 17 if at == start else y(test.expected) + 5, told, 13, BOLD)
