"""One raceway cut through: wall, bore and the conductors in it, at a true scale."""

from __future__ import annotations

import math
from typing import Final

import msgspec
import numpy as np

from awlmark.core.books import Book
from awlmark.core.books.book import EARTH, LINE, NEUTRAL, Method
from awlmark.core.circuit.case import factory_ground
from awlmark.core.job.model import MATERIALS
from awlmark.core.solve.design import Design
from awlmark.draw.kit.packing import pack
from awlmark.draw.kit.picture import BOLD, MIDDLE, Picture

_WALL_SHARE: Final = 1.12
"""Outside over inside diameter where the table of outside diameters is silent."""
_INK: Final = {"black": "letter", "red": "letter", "green": "letter", "white": "core"}


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

    A cable of another size comes with the ground it is made with.
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
        ground = int(factory_ground(case, np.array([hot]))[0])
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
    """Outside diameter of a raceway [mm], from its table or near it."""
    known = method.bending.outside_m.get(trade_size)
    return known * 1000 if known is not None else book.bore(method, trade_size) * _WALL_SHARE


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
    bore = book.bore(method, trade_size) / 2 * scale
    outer = outside_mm(book, method, trade_size) / 2 * scale
    picture.disc(x, y, outer, "ink", 1.6, "well" if method.metal else "ground")
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


def draw_strand(picture: Picture, strand: Strand, x: float, y: float, radius: float) -> None:
    """Draw one conductor: jacket in its colour, metal core, letter."""
    core = "copper" if strand.metal == "cu" else "aluminium"
    picture.disc(x, y, radius, "ink", 0.8, strand.colour)
    picture.disc(x, y, max(radius * 0.74, radius - 5), fill=core)
    if strand.letter and radius >= 6:
        size = max(9.0, min(13.0, radius * 1.15))
        role = "letter" if strand.metal == "cu" else "core"
        picture.text(x, y + size * 0.36, strand.letter, size, BOLD, role, MIDDLE)
