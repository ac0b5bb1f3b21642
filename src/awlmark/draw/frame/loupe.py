"""The loupe: the section at the awl, and the slip with the finding in hand."""

from __future__ import annotations

import functools
import math
from typing import Final

from awlmark.core.names import METAL_NAMES
from awlmark.core.quantities import draw_length, draw_trade_size
from awlmark.core.run.line import Section
from awlmark.core.solve.design import Design
from awlmark.core.standing import SITE_STAGES, site_findings
from awlmark.draw.figures.bore import draw_bore, draw_cable, draw_made, outline_of, outside_mm, strands
from awlmark.draw.frame.open_list import draw_list, list_height
from awlmark.draw.frame.slip import WIDTH, ask_words, fix_words, slip_height
from awlmark.draw.kit.picture import BOLD, MIDDLE, TEXT, Picture, Segment, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES
from awlmark.draw.view_state import Look, in_hand

CENTRE: Final = 148.0
EIGHTH_MM: Final = 25.4 / 8
LEAST_DISC: Final = 44.0
MOST_DISC: Final = 112.0
BESIDE: Final = 62.0
"""A disc smaller than this has its words beside it, or gives way [px]."""
WITH_DISC: Final = ("run", "wire")
"""Stages on which the section under the awl says something."""


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
    if look.practice is not None:
        _disc(picture, design, look, 124, 112.0, CENTRE)
        return picture
    slip = slip_height(finding, look)
    wanted = slip + list_height(design, look)
    radius = max(LEAST_DISC, min(MOST_DISC, (height - wanted - 74) / 2))
    if radius < BESIDE and look.stage in WITH_DISC:
        # The disc gives way to the list: small, with its words beside it.
        _disc(picture, design, look, 12 + LEAST_DISC, LEAST_DISC, 12 + LEAST_DISC)
        _caption_beside(picture, design, look, 2 * LEAST_DISC + 24, 40)
        top = 2 * LEAST_DISC + 20
    elif radius < BESIDE:
        top = 6.0
    else:
        _disc(picture, design, look, 12 + radius, radius, CENTRE)
        _caption(picture, design, look, 32 + 2 * radius)
        top = 2 * radius + 58
    draw_list(picture, design, look, finding, top, height)
    return picture


def finding_rows(design: Design, look: Look) -> list[tuple[str, str]]:
    """The slip's twin: fixes of the finding in hand, then every finding with its act."""
    rows = []
    for number, quote in enumerate(look.quotes):
        rows.append((f"Fix {number + 1}: {fix_words(design, quote)}", f"fix:{number}"))
    finding = in_hand(design, look)
    if finding is not None and finding.ask:
        rows.append((ask_words(finding), f"type:{finding.ask}"))
    site = site_findings(design, look.stage) if look.stage in SITE_STAGES and look.practice is None else ()
    for finding in (*site, *design.findings):
        rows.append((f"{NAMES[finding.severity]}. {finding.text} {finding.cite}", f"select:{finding.id}"))
    return rows


def _disc(picture: Picture, design: Design, look: Look, y: float, radius: float, x: float) -> None:
    picture.disc(x, y, radius, "edge", 1.2, "sheet")
    section = design.section_at(look.seen_m)
    inside = strands(design)
    scale = look.pixels_per_mm
    trade = None
    if section is not None and design.circuit is not None:
        trade = design.circuit.trade_sizes[section.number]
    if scale is None:
        widest = outside_mm(design.book, section.method, trade) if section and trade else 30.0
        scale = min(5.2, (radius - 16) * 2 / widest)
    picture.shapes += _rim(x, y, radius, scale * (EIGHTH_MM if design.job.units == "ft" else 2.5))
    if section is None or not inside:
        picture.text(x, y + 5, "nothing cut yet", 13, role="ink2", anchor=MIDDLE)
        return
    if section.method.cable:
        _cable(picture, design, section, (x, y, radius), scale)
    elif trade is None:
        picture.text(x, y + 5, "no size fits", 13, BOLD, "stop", MIDDLE)
    else:
        draw_bore(picture, design.book, section.method, trade, inside, x, y, scale)


@functools.lru_cache(maxsize=16)
def _rim(x: float, y: float, radius: float, apart: float) -> tuple[Segment, ...]:
    """The rim's ticks at the scale of what it shows: eighths of an inch, or 2.5 mm."""
    step = math.degrees(apart / radius)
    found = []
    for number in range(int(360 / step)):
        angle = math.radians(90 - number * step)
        inner = radius - (7 if number % 8 == 0 else 4)
        across, up = math.cos(angle), math.sin(angle)
        found.append(Segment(x + across * radius, y - up * radius, x + across * inner, y - up * inner, "edge"))
    return tuple(found)


def _cable(
    picture: Picture, design: Design, section: Section, at: tuple[float, float, float], scale: float
) -> None:  # fmt: skip
    """A cable, no wider than the disc; what its book knows as it is made fills most of it."""
    (x, y, radius), inside = at, strands(design)
    size = design.circuit.size if design.circuit is not None else ""
    made = outline_of(design, section.method, size)
    if made is not None:
        draw_made(picture, design, section.method, size, x, y, (radius - 22) * 2 / made.wide_mm)
        return
    live = [strand for strand in inside if strand.letter]
    width = sum(strand.diameter_mm for strand in live) + 4
    draw_cable(picture, inside, x, y, min(scale, (radius - 20) * 2 / width))


def _caption(picture: Picture, design: Design, look: Look, y: float) -> None:
    section, circuit = design.section_at(look.seen_m), design.circuit
    sized = "true size" if look.pixels_per_mm else "not to size"
    if section is None or circuit is None:
        picture.text(16, y, f"Section, {sized}", 13, BOLD)
        return
    trade = circuit.trade_sizes[section.number]
    at = draw_length(look.seen_m, design.job.units)
    room = WIDTH - 28 - text_width(f" at {at}, {sized}", BOLD, 13)
    picture.sentence(16, y, f"{_name(section, trade, room)} at {at}, {sized}", 13, BOLD)
    made = _made(design, section, trade)
    picture.text(16, y + 20, shorten(made, TEXT, 13, WIDTH - 28), 13, role="ink2")


def _name(section: Section, trade: str | None, room: float) -> str:
    """A section's method with its size, in short where the whole name does not fit."""
    name = f"{draw_trade_size(trade)} {section.method.name}" if trade else section.method.name
    return name if text_width(name, BOLD, 13) <= room else section.method.short or name


def _made(design: Design, section: Section, trade: str | None) -> str:
    """Conductors of a section; of a cable whose outside is known that too."""
    circuit = design.circuit
    assert circuit is not None
    conductors = design.book.print_wires(circuit.hots + circuit.neutral, circuit.size, circuit.ground)
    made = f"{conductors} {METAL_NAMES[circuit.material]}"
    outside = outline_of(design, section.method, circuit.size)
    if outside is not None and outside.known:
        return f"{made}, {outside.wide_mm:g} mm over all"
    return f"{made}, {circuit.insulation.upper()}" if circuit.insulation and trade else made


def _caption_beside(picture: Picture, design: Design, look: Look, left: float, top: float) -> None:
    """The words of a small disc, beside it."""
    section, circuit = design.section_at(look.seen_m), design.circuit
    if section is None or circuit is None:
        return
    room = WIDTH - left - 10
    trade = circuit.trade_sizes[section.number]
    name = _name(section, trade, room)
    wires = design.book.print_wires(circuit.hots + circuit.neutral, circuit.size, circuit.ground)
    picture.sentence(left, top, name, 13, BOLD)
    picture.text(left, top + 20, shorten(wires, TEXT, 13, room), 13, role="ink2")
    picture.sentence(left, top + 40, f"at {draw_length(look.seen_m, design.job.units)}", 13, role="ink2")
