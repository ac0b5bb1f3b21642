"""One raceway cut through: wall, bore and the conductors in it, at a true scale."""

from __future__ import annotations

import math
from typing import Final

import msgspec
import numpy as np

from awlmark.core.books import Book
from awlmark.core.books.book import EARTH, LINE, NEUTRAL, Method
from awlmark.core.circuit.case import factory_ground
from awlmark.core.circuit.cuts import Outline
from awlmark.core.job.model import MATERIALS
from awlmark.core.solve.design import Design
from awlmark.draw.kit.packing import pack
from awlmark.draw.kit.picture import BOLD, MIDDLE, Picture

_WALL_SHARE: Final = 1.12
"""Outside over inside diameter where the table of outside diameters is silent."""
TWO_COLOURED: Final = "green and yellow"


SHEATH_MM: Final = 1.6
ARMOUR_MM: Final = 1.25
BEDDING_MM: Final = 1.0
"""How thick sheath, wires and bedding are drawn; common practice [mm]."""


class Strand(msgspec.Struct, frozen=True):
    """One conductor to draw."""

    diameter_mm: float
    colour: str
    letter: str
    metal: str
    role: str = ""
    """Of the conductor in its circuit; empty for another circuit's."""


def strands(design: Design, size: str | None = None) -> list[Strand]:
    """Conductors in the raceways of a design, others of the same pipe last; with hots of another ``size`` if given.

    A cable of another size comes with the ground it is made with; singles are drawn with one as large as the hots.
    """
    evaluated, case = design.evaluated, design.case
    if evaluated is None or case is None or design.circuit is None:
        return []
    book, group = design.book, int(evaluated.table.group[design.row])
    insulation = int(evaluated.table.insulation[group])
    metal = MATERIALS[evaluated.table.material[group]]
    compact = design.job.circuit.compact and metal == "al"
    sizes = (book.compact_diameter_mm if compact else book.diameter_mm)[insulation]
    hot, ground = int(evaluated.table.hot[design.row]), int(evaluated.work.earth[design.row])
    if size is not None and size != book.sizes[hot]:
        hot = book.size_index(size)
        ground = min(int(factory_ground(case, np.array([hot]))[0]), hot)
    found = []
    for wire in case.wires:
        index = ground if wire.role == EARTH else hot
        if index >= 0 and not math.isnan(sizes[index]):
            found.append(Strand(float(sizes[index]), wire.colour, wire.letter, metal, wire.role))
    for bundle in design.job.circuit.others:
        if bundle.diameter_m is not None:
            diameter = bundle.diameter_m * 1000
        else:
            diameter = float(book.diameter_mm[book.insulations.index(bundle.insulation), book.size_index(bundle.size)])
        if not math.isnan(diameter):
            found += [Strand(diameter, "white", "", "cu")] * bundle.count
    return found


def outside_mm(book: Book, method: Method, trade_size: str) -> float:
    """Outside diameter or width of a raceway [mm], from its table or near it.

    Metric conduit and trunking are called by their outsides, such as ``25`` and ``50x38``.
    """
    known = method.bending.outside_m.get(trade_size)
    if known is not None:
        return known * 1000
    bore = book.bore(method, trade_size)
    return bore * _WALL_SHARE if np.isfinite(bore) else float(trade_size.partition("x")[0])


def draw_bore(
    picture: Picture,
    book: Book,
    method: Method,
    trade_size: str,
    inside: list[Strand],
    x: float,
    y: float,
    scale: float,
) -> float:
    """Draw a raceway centred on a point.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    book : Book
        For the diameters.
    method : Method
        A raceway.
    trade_size : str
        Its trade size.
    inside : list of Strand
        What lies in it.
    x, y : float
        Centre [px].
    scale : float
        Pixels per millimetre.

    Returns
    -------
    float
        Outside radius [px].
    """
    wide, _times, high = trade_size.partition("x")
    fill = "well" if method.metal else "ground"
    if high:
        half, tall = float(wide) / 2 * scale, float(high) / 2 * scale
        picture.box(x - half, y - tall, 2 * half, 2 * tall, "ink", 1.6, fill)
        picture.box(x - half + 2, y - tall + 2, 2 * half - 4, 2 * tall - 4, "ink", 1.2, "sheet")
        across = x - half + 3
        for strand in inside:
            radius = strand.diameter_mm / 2 * scale
            draw_strand(picture, strand, across + radius, y + tall - 3 - radius, radius)
            across += 2 * radius
        return half
    outer = outside_mm(book, method, trade_size) / 2 * scale
    bore = book.bore(method, trade_size) / 2 * scale
    bore = bore if np.isfinite(bore) else outer / _WALL_SHARE
    picture.disc(x, y, outer, "ink", 1.6, fill)
    picture.disc(x, y, bore, "ink", 1.2, "sheet")
    circles = pack(bore, [strand.diameter_mm / 2 * scale for strand in inside])
    for strand, (across, up, radius) in zip(inside, circles, strict=True):
        draw_strand(picture, strand, x + across, y - up, radius)
    return outer


def draw_cable(picture: Picture, inside: list[Strand], x: float, y: float, scale: float) -> tuple[float, float]:
    """Draw a cable centred on a point: conductors side by side in one jacket (common practice; makers' jackets differ).

    Returns
    -------
    tuple of float
        Half width and half height [px].
    """
    live = [strand for strand in inside if strand.letter]
    half = (sum(strand.diameter_mm for strand in live) / 2 + 1.6) * scale
    tall = (max((strand.diameter_mm for strand in live), default=0.0) / 2 + 1.6) * scale
    picture.box(x - half, y - tall, 2 * half, 2 * tall, "ink", 1.4, "well", tall)
    at = x - half + 1.6 * scale
    lines = [strand for strand in live if strand.role == LINE]
    between = [strand for role in (NEUTRAL, EARTH) for strand in live if strand.role == role]
    for strand in (*lines[:1], *between, *lines[1:]):
        radius = strand.diameter_mm / 2 * scale
        draw_strand(picture, strand, at + radius, y, radius)
        at += 2 * radius
    return half, tall


def draw_made(
    picture: Picture, design: Design, method: Method, size: str, x: float, y: float, scale: float
) -> tuple[float, float]:
    """Draw a cable as it is made, centred on a point: flat or armoured where the book knows it, else side by side.

    Returns
    -------
    tuple of float
        Half width and half height [px].
    """
    inside = strands(design, size)
    made = outline_of(design, method, size)
    if made is None or not inside:
        return draw_cable(picture, inside, x, y, scale)
    wide, tall = made.wide_mm / 2 * scale, made.high_mm / 2 * scale
    if made.armoured:
        _armoured(picture, inside, x, y, wide, scale)
    else:
        _flat(picture, design, method, size, inside, (x, y, wide, tall, scale))
    return wide, tall


def outline_of(design: Design, method: Method, size: str) -> Outline | None:
    """Outside of a cable; None where the book does not tell."""
    find = design.book.circuit.outline
    if find is None or design.case is None or not method.cable:
        return None
    core = float(design.book.diameter_mm[0, design.book.size_index(size)])
    return find(method.made_as, size, design.case.conductors, core)


def _armoured(picture: Picture, inside: list[Strand], x: float, y: float, radius: float, scale: float) -> None:
    """Sheath, a ring of armour wires, bedding, and the cores together."""
    wire = min(ARMOUR_MM * scale / 2, radius * 0.09)
    ring = radius - SHEATH_MM * scale - wire
    bed = ring - wire
    picture.disc(x, y, radius, "ink", 1.2, "black")
    picture.disc(x, y, ring + wire, fill="grey")
    many = max(int(math.pi * ring / max(wire * 1.08, 0.5)), 8) if wire >= 1.4 else 0
    for number in range(many):
        angle = 2 * math.pi * number / many
        picture.disc(x + ring * math.cos(angle), y + ring * math.sin(angle), wire, "ink", 0.5, "aluminium")
    picture.disc(x, y, bed, fill="grey")
    core = bed - BEDDING_MM * scale
    picture.disc(x, y, core, fill="well")
    live = [strand for strand in inside if strand.letter]
    # The cores fill the bedding: they are drawn as large as they lie in it.
    most = core / {2: 2.0, 3: 2.155, 4: 2.414, 5: 2.701}.get(len(live), 3.0)
    each = min(max((strand.diameter_mm for strand in live), default=1.0) / 2 * scale, most)
    away = 0.0 if len(live) == 1 else each / math.sin(math.pi / len(live))
    for number, strand in enumerate(live):
        angle = math.radians(90 + 360 * number / len(live))
        draw_strand(picture, strand, x + away * math.cos(angle), y - away * math.sin(angle), each)


def _flat(
    picture: Picture, design: Design, method: Method, size: str, inside: list[Strand],
    at: tuple[float, float, float, float, float],
) -> None:  # fmt: skip
    """An oval with line and neutral, between them the bare protective conductor."""
    x, y, wide, tall, scale = at
    picture.box(x - wide, y - tall, 2 * wide, 2 * tall, "ink", 1.2, "aluminium", tall)
    live = [strand for strand in inside if strand.role != EARTH and strand.letter]
    earth = design.book.cable_ground.get(method.key, {}).get(size, "")
    bare = math.sqrt(4 * float(earth or 1.0) / math.pi) / 2 * scale
    radius = min(tall - 0.9 * scale, wide / 2 - bare / 2 - 0.4 * scale)
    for strand, side in zip(live[:2], (-1, 1), strict=False):
        draw_strand(picture, strand, x + side * (wide - radius - 0.9 * scale), y, radius)
    picture.disc(x, y, bare, "ink", 0.6, "copper")


def draw_strand(picture: Picture, strand: Strand, x: float, y: float, radius: float) -> None:
    """Draw one conductor: jacket in its colour, metal core, letter."""
    core = "copper" if strand.metal == "cu" else "aluminium"
    picture.disc(x, y, radius, "ink", 0.8, strand.colour)
    metal = max(radius * 0.74, radius - 5)
    if strand.colour == TWO_COLOURED:
        # Stripes round the jacket: yellow on its green.
        for start in (60, 240):
            picture.sweep(x, y, (radius + metal) / 2, start, 75, "wireyellow", max(radius - metal - 0.8, 0.8))
    picture.disc(x, y, metal, fill=core)
    if strand.letter and radius >= 6:
        size = max(9.0, min(13.0, radius * 1.15))
        role = "letter" if strand.metal == "cu" else "core"
        letter = strand.letter if size >= 13 else strand.letter[-1]
        picture.text(x, y + size * 0.36, letter, size, BOLD, role, MIDDLE)
