"""Outlet or hardwire, cable or pipe, copper or aluminium as a table of whole jobs, each to be taken."""

from __future__ import annotations

from typing import Final

from awlmark.core.options.side_by_side import Side
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, END, MIDDLE, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark

ROW: Final = 39.0
LEFT: Final = 12.0
COLUMNS: Final = ((30, "ends"), (172, "in"), (216, "metal"), (296, "breaker"), (352, "wires"))
FIGURES: Final = ((540, "parts"), (604, "hours"), (672, "volts"))
NARROW: Final = 760.0
"""Under this there is room for one short word only [px]."""
BUTTON: Final = 92.0


def draw_whole_jobs(picture: Picture, design: Design, sides: tuple[Side, ...], top: float, height: float) -> None:
    """Draw the table from a level down.

    Parameters
    ----------
    picture : Picture
        The scene.
    design : Design
        The job as it stands.
    sides : tuple of Side
        Every way, the job as it stands first; empty until they are priced.
    top, height : float
        From where, and how far down there is room [px].
    """
    if not sides:
        told = "Pricing every way…" if design.circuit is not None and design.line.legs else "Scribe the first leg."
        picture.text(LEFT, top + 24, told, 15, role="ink2")
        return
    stretch = (picture.width - BUTTON - 20) / (792 - BUTTON - 20)
    for at, name in COLUMNS:
        picture.text(at * stretch, top + 14, name, 13, role="ink2")
    for at, name in FIGURES:
        picture.text(at * stretch, top + 14, name, 13, role="ink2", anchor=END)
    tall = min(ROW, (height - top - 24) / len(sides))
    for number, side in enumerate(sides):
        _row(picture, design, side, number, (top + 22 + number * tall, tall, stretch))


def _row(picture: Picture, design: Design, side: Side, number: int, at: tuple[float, float, float]) -> None:
    y, tall, stretch = at
    currency, base = design.job.currency, y + 15
    role, fill = ("scribe", "notefill") if side.here else ("edge", "ground")
    picture.box(4, y, picture.width - 8, tall - 4, role, 2 if side.here else 1, fill, 3)
    mark(picture, side.worst, 17, y + 12, 11)
    face = BOLD if side.here else TEXT
    told = (side.ends, side.wiring, side.metal, f"{side.breaker_a:g} A", side.wires)
    edges = [place * stretch for place, _name in COLUMNS] + [(FIGURES[0][0] - 62) * stretch]
    for place, text in enumerate(told):
        picture.text(edges[place], base, shorten(text, face, 13, edges[place + 1] - edges[place] - 6), 13, face)
    price = f"{'from ' if side.unpriced else ''}{currency}{side.price:,.0f}"
    for (where, _name), text in zip(FIGURES, (price, f"{side.hours:.1f}", f"{side.volts:.1f}"), strict=True):
        picture.text(where * stretch, base, text, 13, BOLD if text is price else face, anchor=END)
    if side.reason and tall >= 34:
        room = FIGURES[-1][0] * stretch - 34
        picture.text(30 * stretch, y + 29, shorten(side.reason, TEXT, 13, room), 13, role=side.worst)
    left, words = picture.width - BUTTON - 6, design.book.words
    says = (
        f"{side.ends} in {side.wiring}, {side.metal}: {side.breaker_a:g} A {words.breaker}, {side.wires}, {price}, "
        f"{side.hours:.1f} hours, {side.volts:.1f} volts at the {words.charger}, {NAMES[side.worst]}"
    )
    if side.reason:
        says += f", {side.reason}"
    if side.here:
        picture.text(left + BUTTON / 2, base, "as it is", 13, BOLD, "scribe", MIDDLE)
        picture.hit(4, y, picture.width - 8, tall - 4, f"side-{number}", f"{says}; as it is")
        return
    picture.hit(4, y, left - 8, tall - 4, f"side-{number}", says)
    picture.box(left, y + 3, BUTTON, min(tall - 10, 24), "scribe", 1.2, "sheet", 3)
    picture.text(left + BUTTON / 2, y + 3 + min(tall - 10, 24) / 2 + 5, "Take this", 13, BOLD, "scribe", MIDDLE)
    picture.hit(left, y + 3, BUTTON, min(tall - 10, 24), f"take-{number}", f"Take this: {says}", f"side:{number}")


def page_button(picture: Picture, page: str, top: float) -> float:
    """Between the bores and the whole jobs; returns the width it takes."""
    says, other = ("Whole jobs side by side", "jobs") if page == "bores" else ("Back to the bores", "bores")
    name = ("Whole jobs" if picture.width >= NARROW else "Jobs") if page == "bores" else says
    wide = text_width(name, BOLD, 13) + 20
    left = picture.width - wide - 8
    picture.box(left, top, wide, 30 if page == "bores" else 22, "scribe", 1.2, "sheet", 3)
    picture.text(left + wide / 2, top + (20 if page == "bores" else 16), name, 13, BOLD, "scribe", MIDDLE)
    picture.hit(left, top, wide, 30 if page == "bores" else 22, f"wire-{other}", says, f"wirepage:{other}")
    return wide + 4
