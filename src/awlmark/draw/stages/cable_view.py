"""The Cable scene of a book that cuts amps section by section: cards at one true scale, bars of Iz, the chain."""

from __future__ import annotations

import math
from typing import Final

from awlmark.core.circuit.cuts import Card, Chip, Cut
from awlmark.core.finding import HOLDS, STOP, UNREAD
from awlmark.core.solve.design import Design
from awlmark.draw.figures.bore import draw_bore, draw_made, outline_of, outside_mm, strands
from awlmark.draw.kit.picture import BOLD, END, MIDDLE, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.view_state import Look

CARDS_TOP: Final = 46.0
CARDS_TALL: Final = 178.0
ROW: Final = 25.5
CHAIN_TALL: Final = 92.0
MOST_PX_MM: Final = 4.6
EASY: Final = 0.4
"""Share of a conduit that a drawing fills at most; the circuit's own conduit is worked out by its book."""


def draw_cable_scene(picture: Picture, design: Design, look: Look) -> None:
    """Draw what stands under the chips of methods.

    Parameters
    ----------
    picture : Picture
        The scene.
    design : Design
        Solved job with a circuit.
    look : Look
        The awl chooses the section whose cards are shown.
    """
    rules, width, height = design.book.circuit, picture.width, picture.height
    section = design.section_at(look.seen_m)
    if section is None:
        picture.text(24, height / 2, "Scribe the first leg to choose its cable.", 15, role="ink2")
        return
    _cards(picture, design, rules.cards(design, section))
    top = CARDS_TOP + CARDS_TALL + 8
    picture.line(0, top + 0.5, width, top + 0.5, "edge")
    chain = height - CHAIN_TALL
    _bars(picture, design, rules.section_cuts(design) if rules.section_cuts else (), top, chain)
    picture.line(0, chain + 0.5, width, chain + 0.5, "edge")
    _chain(picture, design, rules.chips(design), look, chain)


def _cards(picture: Picture, design: Design, cards: tuple[Card, ...]) -> None:
    """One card a way to run the section, its sizes at one scale, the own one widest."""
    if not cards:
        return
    room = picture.width - 24 - 10 * (len(cards) - 1)
    counts = [len(card.sizes) for card in cards]
    wides = [room * count / sum(counts) for count in counts]
    scale = _scale(design, cards, wides)
    left = 12.0
    for card, wide in zip(cards, wides, strict=True):
        role = "scribe" if card.chosen else "edge"
        fill = "notefill" if card.chosen else "sheet"
        picture.box(left, CARDS_TOP, wide, CARDS_TALL, role, 2 if card.chosen else 1, fill, 4)
        worst = _mark_of(card, design)
        mark(picture, worst, left + 16, CARDS_TOP + 18, 11)
        used = picture.text(left + 28, CARDS_TOP + 23, shorten(card.name, BOLD, 13, wide - 40), 13, BOLD)
        if text_width(card.scope, TEXT, 13) < wide - used - 46:
            picture.text(left + wide - 10, CARDS_TOP + 23, card.scope, 13, role="ink2", anchor=END)
        cell = wide / max(len(card.sizes), 1)
        for number, (size, amps, severity) in enumerate(card.sizes):
            _size(picture, design, card, (size, amps, severity), (left + (number + 0.5) * cell, cell), scale)
        says = f"{card.name}, {card.scope}: {NAMES[worst]}" + (", chosen" if card.chosen else ": lay it")
        act = "" if card.chosen else f"method:{card.method}"
        picture.hit(left, CARDS_TOP, wide, 30, f"card-{card.method}", says, act)
        left += wide + 10


def _mark_of(card: Card, design: Design) -> str:
    """Of the own size; of another way, whether a size of it would do."""
    assert design.circuit is not None
    own = next((severity for size, _amps, severity in card.sizes if size == design.circuit.size), None)
    if card.chosen and own is not None:
        return own
    known = [severity for _size, _amps, severity in card.sizes]
    return HOLDS if HOLDS in known else UNREAD if UNREAD in known else STOP


def _scale(design: Design, cards: tuple[Card, ...], wides: list[float]) -> float:
    """Pixels to a millimetre at which everything fits."""
    found = [MOST_PX_MM]
    for card, wide in zip(cards, wides, strict=True):
        for size, _amps, _severity in card.sizes:
            across, tall = _outside(design, card.method, size)
            found.append(min((wide / len(card.sizes) - 14) / across, (CARDS_TALL - 84) / tall))
    return min(found)


def _outside(design: Design, key: str, size: str) -> tuple[float, float]:
    """Width and height of what a card shows [mm]."""
    method = design.book.methods[key]
    made = outline_of(design, method, size)
    if made is not None:
        return made.wide_mm, made.high_mm
    trade = _conduit_for(design, key, size)
    wide = outside_mm(design.book, method, trade)
    return wide, float(trade.partition("x")[2] or wide)


def _size(
    picture: Picture, design: Design, card: Card, told: tuple[str, float, str], at: tuple[float, float], scale: float
) -> None:
    (size, amps, severity), (x, wide) = told, at
    method, book = design.book.methods[card.method], design.book
    assert design.circuit is not None
    y = CARDS_TOP + 34 + (CARDS_TALL - 84) / 2
    if method.cable:
        draw_made(picture, design, method, size, x, y, scale)
    else:
        _in_conduit(picture, design, card.method, size, (x, y), scale)
    here = card.chosen and size == design.circuit.size
    face = BOLD if here else TEXT
    foot = CARDS_TOP + CARDS_TALL
    picture.text(x, foot - 30, book.print_size(size), 13, BOLD, "scribe" if here else "ink", MIDDLE)
    carried = "unread" if math.isnan(amps) else f"{amps:.1f} A"
    words = text_width(carried, face, 13)
    mark(picture, severity, x - words / 2 - 9, foot - 16, 10)
    picture.text(x - words / 2 + 3, foot - 11, carried, 13, face)
    says = f"{book.print_size(size)} {method.name}: carries {carried} on its worst section, {NAMES[severity]}"
    act = f"size:{size}={design.circuit.material}" if card.chosen else f"method:{card.method}"
    picture.hit(x - wide / 2 + 3, CARDS_TOP + 32, wide - 6, CARDS_TALL - 36, f"card-{card.method}-{size}", says, act)


def _in_conduit(
    picture: Picture, design: Design, key: str, size: str, at: tuple[float, float], scale: float
) -> None:  # fmt: skip
    """Singles in a conduit or trunking that holds them easily."""
    method = design.book.methods[key]
    trade = _conduit_for(design, key, size)
    draw_bore(picture, design.book, method, trade, strands(design, size), *at, scale)


def _conduit_for(design: Design, key: str, size: str) -> str:
    """The smallest conduit that draws a size's conductors in easily; the largest where none does."""
    method, book = design.book.methods[key], design.book
    made = book.trade_sizes_of(method)
    filled = sum(strand.diameter_mm**2 for strand in strands(design, size))
    return next((trade for trade in made if filled <= EASY * outside_mm(book, method, trade) ** 2), made[-1])


def _bars(picture: Picture, design: Design, cuts: tuple[Cut, ...], top: float, bottom: float) -> None:
    """It by the table, each factor hatched off, Iz beside the device's rating."""
    picture.text(12, top + 20, "It, cut down to Iz, section by section", 13, BOLD, "ink2")
    if not cuts:
        return
    names = [name for name, _value in cuts[0].factors if any(dict(cut.factors)[name] != 1.0 for cut in cuts)]
    names = names or [cuts[0].factors[0][0]]
    right = picture.width - 12
    columns = right - 92 - 52 - 42 * len(names)
    left, bar_end = 172.0, columns - 20
    most = max([cut.full_a for cut in cuts] + [cuts[0].needed_a]) * 1.05 or 1.0
    heads_y = top + 40
    for number, name in enumerate(names):
        picture.text(columns + 42 * (number + 1) - 4, heads_y, name, 13, BOLD, "ink2", END)
    iz_x = columns + 42 * len(names) + 48
    picture.text(iz_x, heads_y, "Iz", 13, BOLD, "ink2", END)
    needed = cuts[0].needed_a
    known = math.isfinite(needed)
    picture.text(right, heads_y, f"over In {needed:g}" if known else "no device", 13, BOLD, "ink2", END)
    room = int((bottom - heads_y - 10) // ROW)
    shown = _fitting(cuts, room)
    need_x = left + (bar_end - left) * needed / most if known else bar_end
    y, before = heads_y + 8, ""
    for cut in shown:
        if before and cut.size != before:
            picture.line(12, y - 1, right, y - 1, "faint")
        before = cut.size
        _bar(picture, design, cut, names, (left, bar_end, y), (columns, iz_x, right), most)
        y += ROW
    if known:
        picture.line(need_x, heads_y - 4, need_x, y - 4, "scribe", 3)
        picture.text(need_x, heads_y - 8, f"In {needed:g}", 13, BOLD, "scribe", MIDDLE)


def _fitting(cuts: tuple[Cut, ...], room: int) -> list[Cut]:
    """As many rows as there is room for: the circuit's own size before all, its closest sections first."""
    if len(cuts) <= room:
        return list(cuts)
    own = sorted((cut for cut in cuts if cut.chosen), key=lambda cut: (not math.isnan(cut.left_a), cut.left_a))
    kept = [*own[: max(room - 2, 1)], *(cut for cut in cuts if not cut.chosen)][:room]
    return [cut for cut in cuts if cut in kept]


def _bar(
    picture: Picture, design: Design, cut: Cut, names: list[str], area: tuple[float, float, float],
    columns: tuple[float, float, float], most: float,
) -> None:  # fmt: skip
    (left, end, y), (first, iz_x, right) = area, columns
    face = BOLD if cut.chosen else TEXT
    size = design.book.print_size(cut.size)
    used = picture.text(12, y + 14, size, 13, face, "scribe" if cut.chosen else "ink")
    picture.text(12 + max(used + 8, 52), y + 14, shorten(cut.where, TEXT, 13, left - 76), 13)
    pixels = (end - left) / most
    role = "scribe" if cut.chosen else "edge"
    picture.box(left, y, cut.full_a * pixels, 17, role, 1, hatch="slant")
    kept = 0.0 if math.isnan(cut.left_a) else cut.left_a
    fill = "notefill" if cut.chosen else "well"
    picture.box(left, y, kept * pixels, 17, role, 2 if cut.chosen else 1, fill)
    told = f"It {cut.full_a:g}"
    if text_width(told, TEXT, 13) + 12 < max(kept * pixels, 60):
        picture.text(left + 7, y + 13, told, 13)
    values = dict(cut.factors)
    for number, name in enumerate(names):
        value = values[name]
        bites = not math.isnan(value) and abs(value - 1) > 1e-9
        said = "?" if math.isnan(value) else f"{value:.2f}"
        picture.text(first + 42 * (number + 1) - 4, y + 14, said, 13, BOLD if bites else TEXT,
                     "ink" if bites else "ink2", END)  # fmt: skip
    iz = "unread" if math.isnan(cut.left_a) else f"{cut.left_a:.4g}"
    picture.text(iz_x, y + 14, iz, 13, BOLD, anchor=END)
    spare = cut.left_a - cut.needed_a
    room = "" if math.isnan(spare) or math.isinf(spare) else f"{spare:.1f}" if spare >= -1e-9 else f"{-spare:.1f} short"
    picture.text(right, y + 14, room, 13, face, "stop" if cut.severity == STOP else "ink", END)
    mark(picture, cut.severity, right - 10 - text_width(room, face, 13), y + 9, 10)
    factors = ", ".join(f"{name} {'unread' if math.isnan(value) else f'{value:.2f}'}" for name, value in cut.factors)
    says = f"{size}, {cut.where}: It {cut.full_a:g} A, {factors}; Iz {iz}, {NAMES[cut.severity]}"
    picture.hit(12, y - 3, right - 12, ROW, f"cut-{cut.size}-{cut.where}", says, f"size:{cut.size}=cu")


def _chain(picture: Picture, design: Design, chips: tuple[Chip, ...], look: Look, top: float) -> None:
    """One chip a link, in the order of the chain; a click shows its finding."""
    picture.text(12, top + 18, "The chain", 13, BOLD, "ink2")
    wide = (picture.width - 24 - 3 * 16) / 4
    for number, chip in enumerate(chips[:8]):
        x, y = 12 + (number % 4) * (wide + 16), top + 26 + (number // 4) * 32
        here = look.finding == chip.finding
        if number % 4:
            picture.line(x - 16, y + 13, x, y + 13, "scribe", 2)
        picture.box(x, y, wide, 27, "scribe" if here else "edge", 2 if here else 1, "notefill" if here else "ground", 3)
        severity = design.mark(chip.finding)
        mark(picture, severity, x + 14, y + 13, 10)
        face = BOLD if here else TEXT
        picture.text(x + 26, y + 18, shorten(chip.text, face, 13, wide - 30), 13, face)
        says = f"{chip.text}: {NAMES[severity]}"
        picture.hit(x, y, wide, 27, f"chain-{chip.finding}", says, f"select:{chip.finding}")
