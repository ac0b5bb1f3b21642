"""The Wire scene: bores at one true scale, copper beside aluminium, and the amps left after each cut."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.books import Book
from awlmark.core.books.rules import Bore
from awlmark.core.circuit.evaluate import size_severity
from awlmark.core.finding import HOLDS, STOP
from awlmark.core.job.model import MATERIALS
from awlmark.core.job.supply import Lug
from awlmark.core.names import METAL_NAMES
from awlmark.core.options.side_by_side import Side
from awlmark.core.quantities import draw_trade_size, print_near
from awlmark.core.run.line import Section
from awlmark.core.run.method_use import use_severity
from awlmark.core.solve.design import Design
from awlmark.core.solve.pick_circuit import Circuit
from awlmark.draw.figures.bore import draw_bore, outside_mm, strands
from awlmark.draw.figures.cables import draw_cables
from awlmark.draw.figures.whole_jobs import draw_whole_jobs, page_button
from awlmark.draw.kit.picture import BOLD, MIDDLE, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.stages.cable_view import draw_cable_scene
from awlmark.draw.view_state import Look

_FOOT: Final = 124.0


def draw_wire(
    design: Design,
    beside: Design | None,
    look: Look,
    width: float,
    height: float,
    sides: tuple[Side, ...] = (),
) -> Picture:
    """Draw the Wire scene.

    Parameters
    ----------
    design : Design
        Solved job.
    beside : Design or None
        The same job in the other metal; None where the run is not offered in it.
    look : Look
        The awl chooses which section the method chips speak for.
    width, height : float
        Size of the scene [px].
    sides : tuple of Side
        Whole jobs side by side, for the page of them; empty until they are priced.
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    if design.circuit is None:
        picture.text(
            width / 2,
            height / 2 - 10,
            f"How many amps does the {design.book.words.charger} draw?",
            24,
            BOLD,
            anchor=MIDDLE,
        )
        picture.text(
            width / 2,
            height / 2 + 20,
            f"Type its current below, such as {design.book.words.decisions[0][0].partition(',')[0]}.",
            15,
            role="ink2",
            anchor=MIDDLE,
        )
        return picture
    if look.wire_page == "jobs":
        picture.text(12, 25, design.book.words.whole_jobs, 15, BOLD)
        page_button(picture, look.wire_page, 8)
        draw_whole_jobs(picture, design, sides, 36, height)
        return picture
    section, taken = design.section_at(look.seen_m), page_button(picture, look.wire_page, 8)
    if section is not None:
        _chips(picture, design, section, width - taken)
    if design.book.circuit.section_cuts is not None:
        draw_cable_scene(picture, design, look)
        return picture
    pair = (design, beside) if design.circuit.material == "cu" else (beside, design)
    rows = _rows(design, look, height)
    top, foot = 46.0, height - _FOOT
    split = 12 + (width - 24) * 0.58
    _headings(picture, pair, split, top)
    picture.line(split - 6, top, split - 6, foot, "faint")
    if rows:
        tall = (foot - top - 22) / len(rows)
        scale = _scale(design, pair, rows, width, tall)
        for number, shown in enumerate(rows):
            y = top + 22 + number * tall
            if number:
                picture.line(0, y + 0.5, width, y + 0.5, "faint")
            _row(picture, design, pair, shown, (y, tall, split, width), scale)
    elif design.line.sections:
        draw_cables(picture, design, (top + 22, foot, split))
    else:
        picture.text(24, (top + foot) / 2, "Scribe the first leg to choose its pipe.", 15, role="ink2")
    picture.line(0, foot + 0.5, width, foot + 0.5, "edge")
    _amps(picture, design, beside, foot, width)
    return picture


def _chips(picture: Picture, design: Design, section: Section, width: float) -> None:
    """Wiring methods of the section under the awl; the mark says whether they may lie there."""
    keys = list(design.book.chips)
    if section.method.key not in keys:
        keys[-1] = section.method.key
    wide = (width - 24 - 8 * (len(keys) - 1)) / len(keys)
    place = "buried" if section.buried else "outdoors" if section.wet else section.legs[0].place
    for number, key in enumerate(keys):
        method, left = design.book.methods[key], 12 + number * (wide + 8)
        chosen = key == section.method.key
        severity = use_severity(method, section)
        picture.box(
            left, 8, wide, 30, "scribe" if chosen else "edge", 2 if chosen else 1, "notefill" if chosen else "ground", 3
        )
        mark(picture, severity, left + 15, 23, 11)
        name = method.short or method.name
        used = text_width(name, BOLD, 13)
        picture.text(left + 27, 28, name, 13, BOLD)
        if chosen:
            room = wide - used - 38
            if text_width(place, TEXT, 13) <= room:
                picture.text(left + 33 + used, 28, place, 13, role="ink2")
        says = f"{method.name} from leg {section.legs[0].number}: {NAMES[severity]}" + (", chosen" if chosen else "")
        picture.hit(left, 8, wide, 30, f"method-{key}", says, f"method:{key}")


def _rows(design: Design, look: Look, height: float) -> list[Section]:
    """Raceway sections to show, one of each kind, the awl's own first when there are too many."""
    most = 2 if height < 640 else 3
    kinds: dict[tuple[str, str | None, bool], Section] = {}
    for section in design.line.sections:
        if not section.method.cable:
            kinds.setdefault((section.method.key, section.trade_size, section.nipple), section)
    found = list(kinds.values())
    here = design.section_at(look.seen_m)
    while len(found) > most:
        found.remove(next(section for section in reversed(found) if section is not here))
    return found


def _headings(picture: Picture, pair: tuple[Design | None, Design | None], split: float, top: float) -> None:
    for solved, metal, x in ((pair[0], "cu", 12.0), (pair[1], "al", split + 6)):
        name = METAL_NAMES[metal].capitalize()
        if solved is None or solved.circuit is None:
            picture.text(x, top + 15, f"{name}: not offered here", 13, role="ink2")
            continue
        told = f"{name}, {wire_words(solved.book, solved.circuit)}"
        picture.text(x, top + 15, told, 13, BOLD)
        says = f"{told}. Take it."
        picture.hit(
            x - 4, top, text_width(told, BOLD, 13) + 8, 21, f"metal-{metal}", says, f"put:circuit.material={metal}"
        )


def wire_words(book: Book, circuit: Circuit) -> str:
    """Conductors of a circuit: ``2 × 6 + 1 × 10 AWG``."""
    return book.print_wires(circuit.hots + circuit.neutral, circuit.size, circuit.ground)


def _choices(solved: Design, section: Section, most: int) -> list[str]:
    """Trade sizes to show: one under the right one, the right one, and up."""
    assert solved.evaluated is not None and solved.circuit is not None
    sizes = solved.book.trade_sizes_of(section.method)
    fits = solved.evaluated.work.fits[solved.row, section.number]
    chosen = solved.circuit.trade_sizes[section.number] or sizes[-1]
    right = next((size for size in sizes if fits[solved.book.trade_sizes.index(size)]), chosen)
    at = sizes.index(right)
    first = max(0, min(at - (1 if most > 2 else 0), len(sizes) - most))
    shown = list(sizes[first : first + most])
    if chosen not in shown:
        shown[-1] = chosen
    return sorted(shown, key=sizes.index)


def _scale(
    design: Design, pair: tuple[Design | None, Design | None], rows: list[Section], width: float, tall: float
) -> float:
    """One scale for all bores shown [px/mm]."""
    widest, sums = 1.0, [1.0]
    for section in rows:
        outer = 0.0
        for solved, most in zip(pair, (3, 2), strict=True):
            if solved is not None and solved.circuit is not None:
                each = [outside_mm(design.book, section.method, size) for size in _choices(solved, section, most)]
                widest = max(widest, *each)
                outer += sum(each)
        sums.append(outer)
    return max(1.0, min((tall - 66) / widest, (width - 24 - 5 * 44) / max(sums), 5.0))


def _row(
    picture: Picture, design: Design, pair: tuple[Design | None, Design | None], section: Section,
    area: tuple[float, float, float, float], scale: float,
) -> None:  # fmt: skip
    top, tall, split, width = area
    place = "buried" if section.buried else "outdoors" if section.wet else section.legs[0].place
    label = f"{section.method.name}, {place}" + (", nipple" if section.nipple else "")
    picture.text(12, top + 16, label, 13, role="ink2")
    for solved, left, right, most in ((pair[0], 12.0, split - 12, 3), (pair[1], split, width - 12, 2)):
        if solved is None or solved.circuit is None:
            continue
        shown = _choices(solved, section, most)
        wide = (right - left) / len(shown)
        for number, size in enumerate(shown):
            _bore(picture, design, solved, section, size, (left + number * wide, top + 20, wide, tall - 24), scale)


def _bore(
    picture: Picture, design: Design, solved: Design, section: Section, size: str,
    cell: tuple[float, float, float, float], scale: float,
) -> None:  # fmt: skip
    left, top, wide, tall = cell
    book, evaluated, circuit = solved.book, solved.evaluated, solved.circuit
    assert evaluated is not None and circuit is not None
    trade = book.trade_sizes.index(size)
    chosen = solved is design and circuit.trade_sizes[section.number] == size
    judged = book.circuit.bore(evaluated.table, evaluated.work, solved.row, section.number, trade)
    found = judged or Bore(float("nan"), 100.0, HOLDS)
    share, limit, severity = found.share_percent, found.limit_percent, found.severity
    ratio = _jam(solved, section, trade)
    if chosen:
        picture.box(left + 3, top, wide - 6, tall, "scribe", 2, "notefill", 3)
    x, y = left + wide / 2, top + (tall - 24) / 2 + 2
    outer = draw_bore(picture, book, section.method, size, strands(solved), x, y, scale)
    radius = outer + 7
    if radius < (tall - 26) / 2 + 8:
        picture.sweep(x, y, radius, 225, 90, "well", 5)
        span = min(1.0, share / 100) * 90
        picture.sweep(x, y, radius, 225, span, severity if severity != HOLDS else "scribe", 5)
        tick = 225 + 0.9 * limit
        picture.sweep(x, y, radius, tick - 0.8, 1.6, "ink", 11)
        if ratio is not None:
            _jam_arc(picture, x, y, radius, ratio, found.wedges)
    told = f"{draw_trade_size(size)}: {print_near(share, limit)}%" + (f", jam {ratio:.2f}" if ratio is not None else "")
    if not np.isfinite(share):
        told = f"{draw_trade_size(size)}: unread"
    words = text_width(told, BOLD if chosen else TEXT, 13)
    mark(picture, severity, x - words / 2 - 10, top + tall - 11, 11)
    picture.text(x - words / 2 + 2, top + tall - 6, told, 13, BOLD if chosen else TEXT)
    says = (
        f"{draw_trade_size(size)} {section.method.name} in {METAL_NAMES[circuit.material]}: {told}, {NAMES[severity]}"
    )
    act = f"trade:{section.number}={size}" if solved is design else f"put:circuit.material={circuit.material}"
    picture.hit(left + 3, top, wide - 6, tall, f"bore-{circuit.material}-{section.number}-{size}", says, act)


def _jam(solved: Design, section: Section, trade: int) -> float | None:
    """Jam ratio of three equal conductors at a trade size; None for other heaps."""
    inside = strands(solved)
    if len(inside) != 3 or len({round(strand.diameter_mm, 4) for strand in inside}) != 1:
        return None
    return float(solved.book.bore_mm[section.method.raceway, trade]) / inside[0].diameter_mm


def _jam_arc(picture: Picture, x: float, y: float, radius: float, ratio: float, wedges: tuple[float, float]) -> None:
    """Ratio 2 to 4 over the head of the bore, the window to avoid in the middle of it."""

    def angle(value: float) -> float:
        return 135 - (min(4.0, max(2.0, value)) - 2) / 2 * 90

    picture.sweep(x, y, radius, 45, 90, "well", 5)
    picture.sweep(x, y, radius, angle(wedges[1]), angle(wedges[0]) - angle(wedges[1]), "tight", 5)
    picture.sweep(x, y, radius + 1, angle(ratio) - 2, 4, "ink", 11)


def _amps(picture: Picture, design: Design, beside: Design | None, top: float, width: float) -> None:
    """What each size carries, cut down by heat, bundling and terminals, against the need."""
    circuit, evaluated = design.circuit, design.evaluated
    assert circuit is not None and evaluated is not None
    group, hot = int(evaluated.table.group[design.row]), int(evaluated.table.hot[design.row])
    picture.text(12, top + 18, "Amps left after each cut", 13, BOLD, "ink2")
    rows = [(design, group, index) for index in (hot - 1, hot, hot + 1) if 0 <= index < len(design.book.sizes)]
    if beside is not None and beside.evaluated is not None:
        table = beside.evaluated.table
        rows.insert(2, (beside, int(table.group[beside.row]), int(table.hot[beside.row])))
    left, right = 128.0, width - 316
    full = [float(_full(solved, g, index)) for solved, g, index in rows]
    # Where none of them carries anything, or the tables are silent, the need alone gives the scale.
    most = max((amps for amps in full if amps > 0), default=circuit.need_a or 1.0) * 1.05
    need_x = left + (right - left) * circuit.need_a / most
    for number, (solved, g, index) in enumerate(rows[:4]):
        y = top + 28 + number * 23
        _amp_bar(picture, design, solved, (g, index), (left, right, y), most)
    picture.line(need_x, top + 24, need_x, top + _FOOT - 4, "scribe", 2)
    picture.text(need_x + 6, top + 18, f"need {circuit.need_a:g}", 13, BOLD, "scribe")
    picture.line(width - 172, top + 6, width - 172, top + _FOOT - 6, "faint")
    _terminals(picture, design, width - 164, top)


def _full(solved: Design, group: int, index: int) -> float:
    assert solved.evaluated is not None
    return solved.book.circuit.full_a(solved.evaluated.table, solved.evaluated.work, group, index)


def _amp_bar(
    picture: Picture, design: Design, solved: Design, at: tuple[int, int], area: tuple[float, float, float], most: float
) -> None:
    (group, index), (left, right, y) = at, area
    circuit, evaluated = solved.circuit, solved.evaluated
    assert circuit is not None and evaluated is not None and design.circuit is not None
    table, work = evaluated.table, evaluated.work
    metal = MATERIALS[table.material[group]]
    size = solved.book.sizes[index]
    chosen = solved is design and size == design.circuit.size
    usable, full = float(work.usable_a[group, index]), _full(solved, group, index)
    pixels = (right - left) / most
    name = f"{_short_size(solved, size)} {METAL_NAMES[metal]}"
    face = BOLD if chosen else TEXT
    picture.text(12, y + 13, shorten(name, face, 13, left - 16), 13, face)
    shown = 0.0 if np.isnan(usable) else usable
    picture.box(left, y, full * pixels, 16, "edge", 1, hatch="slant")
    picture.box(
        left,
        y,
        shown * pixels,
        16,
        "scribe" if chosen else "edge",
        2 if chosen else 1,
        "notefill" if chosen else "well",
    )
    severity = size_severity(evaluated, group, index)
    told = _room(usable, circuit, severity == STOP, float(work.most_breaker_a[group, index]))
    mark(picture, severity, right + 14, y + 8, 11)
    picture.text(right + 26, y + 13, told, 13, BOLD if chosen else TEXT)
    cut = solved.book.circuit.cuts(work, group, design.job.units)
    says = f"{solved.book.print_size(size)} {METAL_NAMES[metal]}: {told}; terminals {work.column_c[group]} °C; {cut}"
    act = f"size:{size}={metal}"
    picture.hit(12, y - 2, right + 130, 21, f"amps-{metal}-{size}", says, act)


def _short_size(solved: Design, size: str) -> str:
    """A size in the bars: its unit only where it is not the one most sizes have."""
    told = solved.book.print_size(size)
    usual = solved.book.print_size(solved.book.sizes[0]).partition(" ")[2]
    return told.removesuffix(f" {usual}") if usual else told


def _room(usable_a: float, circuit: Circuit, broken: bool, protected_a: float) -> str:
    """What is left of a size after all cuts, in words."""
    if np.isnan(usable_a):
        return "heat unread"
    spare = usable_a - circuit.need_a
    if broken and spare < 0:
        return f"{print_near(usable_a, circuit.need_a)} A, {print_near(-spare, 0.0)} short"
    if broken:
        # What stands under "at most" in the slip, too: the breaker that this size may have.
        return f"{usable_a:.0f} A, at most {protected_a:g}"
    # Beyond heat and bundling a size may carry less than 125 % as long as it serves the charge itself.
    if spare < 0:
        return f"{usable_a:.0f} A, serves {circuit.charge_a:g}"
    return f"{print_near(usable_a, circuit.need_a)} A, {print_near(spare, 0.0)} to spare"


def lug_in_short(lug: Lug) -> str:
    """What a terminal's label says: gauges, metal, torque; or that nobody has read it."""
    span = f"{lug.least}–{lug.most}" if lug.least and lug.most else ""
    metal = "" if lug.copper_only is None else "Cu" if lug.copper_only else "Cu Al"
    torque = f"{lug.torque_lbf_in:g} in-lb" if lug.torque_lbf_in is not None else ""
    return " ".join(part for part in (span, metal, torque) if part) or "lug unread"


def _terminals(picture: Picture, design: Design, left: float, top: float) -> None:
    """Markings of both ends: what was read off them, or a dashed ring."""
    picture.text(left, top + 18, "Terminal marks", 13, BOLD, "ink2")
    ends = (("supply", "Panel", design.job.supply.terminal_c), ("charger", "Charger", design.job.charger.terminal_c))
    for number, (path, name, value) in enumerate(ends):
        y = top + 28 + number * 46
        used = picture.text(left, y + 14, name, 13)
        lug = design.job.supply.lug if path == "supply" else design.job.charger.lug
        told = lug_in_short(lug)
        picture.text(left + used + 8, y + 14, shorten(told, TEXT, 13, 124 - used), 13, role="ink2")
        end = name.lower()
        picture.hit(left, y, 132, 18, f"lug-{end}", f"{name} lug: {told}", f"type:lug {end} ")
        mark(picture, "unread" if value is None else HOLDS, left + 138, y + 9, 11)
        for place, celsius in enumerate(design.book.circuit.terminals_c):
            x = left + place * 74
            here = value == celsius
            picture.box(
                x, y + 19, 68, 22, "scribe" if here else "edge", 2 if here else 1, "notefill" if here else "ground", 3
            )
            picture.text(x + 34, y + 35, f"{celsius} °C", 13, BOLD if here else TEXT, anchor=MIDDLE)
            says = f"{name} terminals are marked {celsius} degrees" + (", chosen" if here else "")
            picture.hit(x, y + 19, 68, 22, f"{path}-{celsius}", says, f"put:{path}.terminal_c={celsius}")
