"""The packet: what a permit office, the shop and the one with the saw each need, on paper."""

from __future__ import annotations

from awlmark.core.books.book import EARTH
from awlmark.core.books.words import cap
from awlmark.core.build.steps import hours_of, steps_of
from awlmark.core.options.side_by_side import sides
from awlmark.core.parts.quote import estimate
from awlmark.core.parts.takeoff import shop_lines
from awlmark.core.quantities import draw_length, draw_trade_size, print_length
from awlmark.core.report import marks_in_words
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, Picture
from awlmark.draw.stages.bends_view import NAMES, bends_of
from awlmark.draw.stages.quote_view import sums_of
from awlmark.paper.drawings import labels, plan_to_scale, walls_to_scale
from awlmark.paper.forms import form_sheets
from awlmark.paper.pages import Column, Sheets
from awlmark.paper.pdf import write_pdf
from awlmark.paper.permit import cover, panel_sheets, sums_sheet
from awlmark.paper.site_pages import energise_sheet, steps_sheets
from awlmark.paper.test_form import test_sheet


def packet_pages(design: Design) -> list[Picture]:
    """Every page of the packet, in points."""
    sheets = Sheets(design)
    cover(sheets)
    panel_sheets(sheets)
    if design.line.legs:
        sheets.section("Plan and walls", 330)
        plan_to_scale(sheets)
        walls_to_scale(sheets)
    sums_sheet(sheets)
    if design.parts:
        list_sheet(sheets)
        cut_sheet(sheets)
    _bends(sheets)
    if design.circuit is not None:
        if steps_of(design):
            steps_sheets(sheets)
            energise_sheet(sheets)
        label_sheet(sheets)
        quote_sheet(sheets)
        _ways(sheets)
        test_sheet(sheets)
        form_sheets(sheets)
    return sheets.finished()


def packet_pdf(design: Design) -> bytes:
    """The packet as PDF."""
    return write_pdf(packet_pages(design), f"{design.job.name}: packet")


def list_sheet(sheets: Sheets) -> None:
    design = sheets.design
    sheets.section("List, by aisle", 300)
    columns = (
        Column("Part", 46), Column("Buy", 14, right=True), Column("Each", 12, right=True),
        Column("Sum", 14, right=True), Column("For", 26),
    )  # fmt: skip
    lines = shop_lines(design.parts, design.job.prices)
    for aisle in design.book.goods.aisles:
        rows = []
        for line in (line for line in lines if line.part.aisle == aisle):
            each = "" if line.each is None else f"{line.each:.2f}"
            total = "" if line.total is None else f"{line.total:,.2f}"
            unit = "" if line.unit == "each" else f" {line.unit}"
            rows.append((line.name, f"{line.count:g}{unit}", each, total, marks_in_words(design, line.part.marks)))
        if rows:
            sheets.heading(aisle)
            sheets.table(columns, rows, tick=True)
    least = "from " if design.unpriced else ""
    sheets.heading(f"All of it {least}{design.job.currency}{design.cost:,.2f}")
    for part in design.parts:
        if part.bought.quantity < part.quantity - 1e-9:
            sheets.lines(f"{part.name}: {part.quantity:g} needed, the rest is in stock.", 9, role="ink2")


def cut_sheet(sheets: Sheets) -> None:
    """For the wall of the shop: large enough to read with a saw in hand."""
    design, units = sheets.design, sheets.design.job.units
    numbers = {walked.leg.id: walked.number for walked in design.line.legs}
    if not any(design.sticks(section) for section in design.line.sections):
        return
    sheets.section("Cut list", 240)
    assert design.circuit is not None
    number = 0
    for section in design.line.sections:
        sticks = design.sticks(section)
        if not sticks:
            continue
        trade = design.circuit.trade_sizes[section.number]
        size, full = draw_trade_size(trade) if trade else "", print_length(section.method.stick_m, units)
        sheets.heading(f"{size} {section.method.name}, {design.book.words.stick}s of {full}".strip())
        for stick in sticks:
            number += 1
            told = "; ".join(
                f"leg {numbers[piece.leg_id]}, {draw_length(piece.length_m, units)}" for piece in stick.pieces
            )
            left = f" (left {draw_length(stick.left_m, units)})" if stick.left_m > 1e-3 else ""
            sheets.lines(f"{number}.  {told}{left}", 14)
    sheets.lines(
        "Ream every end. Lengths are cut lengths: what elbows and bodies take up is off them.", 10, role="ink2"
    )


def _bends(sheets: Sheets) -> None:
    found = bends_of(sheets.design)
    if not found:
        return
    units, panel = sheets.design.job.units, sheets.design.book.words.panel
    sheets.section("Bending marks", 160)
    for bend in found:
        if bend.marked is None:
            sheets.marked("unread", f"Leg {bend.number}", bend.why)
            continue
        sheets.heading(f"Leg {bend.number}: {NAMES[bend.marked.shape]}, {bend.pipe}")
        assert bend.piece is not None
        cut, begins = draw_length(bend.piece.length_m, units), draw_length(bend.piece.start_m, units)
        sheets.lines(f"On the piece of {cut} that begins at {begins} of the tape.", 12)
        for number, one in enumerate(sorted(bend.marked.marks, key=lambda one: one.at_m), 1):
            sheets.lines(
                f"{number}. at {draw_length(one.at_m, units)} from its end toward the {panel}: {one.says}",
                12,
            )


def label_sheet(sheets: Sheets) -> None:
    design = sheets.design
    job, circuit = design.job, design.circuit
    assert circuit is not None
    sheets.section("Labels, at true size", 280)
    ends = f"{circuit.breaker_a:g} A, {circuit.poles}-pole"
    words, board = design.book.words, design.panel_name
    texts = [
        (f"EV {words.charger.removeprefix('charge ')}", [f"{board}: {ends}", job.name]),
        ("Fed from", [f"{board}, {ends}", f"{circuit.volts:g} V, charges at {circuit.charge_a:g} A"]),
        ("Shut off at", [board, f"{words.breaker} {ends}"]),
        *((where.capitalize(), [says.capitalize()]) for says, where in design.book.build.labels(design)),
    ]
    if job.local.label:
        texts.append(("Local rule", [job.local.label]))
    if job.charger.setting_a is not None and job.charger.setting_restricted:
        texts.append(
            ("Set and locked", [f"Charging current {circuit.charge_a:g} A. Not to be raised on this circuit."])
        )
    assert design.case is not None
    sized = [(wire.letter, circuit.ground if wire.role == EARTH else circuit.size) for wire in design.case.wires]
    wires = [f"{letter}  {size}" for letter, size in sized if size]
    labels(sheets, texts, [f"{wire} {end}" for end in design.book.prove.ends for wire in wires])
    sheets.lines("Cut along the dashes. The bar below tells whether the print is true.", 10, role="ink2")


def _ways(sheets: Sheets) -> None:
    """Outlet or hardwire, pipe or cable, copper or aluminium: the same table as at the desk."""
    found, money = sides(sheets.design), sheets.design.job.currency
    if len(found) < 2:
        return
    words = sheets.design.book.words
    sheets.section("The whole job, other ways", 280)
    columns = (
        Column("Ends", 20), Column("In", 9), Column("Metal", 11), Column(cap(words.breaker), 9, right=True),
        Column("Wires", 20),
        Column(f"Parts, {money}", 11, right=True), Column("Hours", 8, right=True), Column("Volts", 8, right=True),
        Column("Worst", 20),
    )  # fmt: skip
    rows = [
        (
            f"{side.ends}{' (as it is)' if side.here else ''}", side.wiring, side.metal, f"{side.breaker_a:g} A",
            side.wires, f"{'from ' if side.unpriced else ''}{side.price:,.0f}", f"{side.hours:.1f}",
            f"{side.volts:.1f}", f"{side.worst}{': ' if side.reason else ''}{side.reason}",
        )
        for side in found
    ]  # fmt: skip
    sheets.table(columns, rows, size=8.5)
    sheets.lines(f"Hours are of one person; volts at the {words.charger} while it draws all it may.", 9, role="ink2")


def quote_sheet(sheets: Sheets) -> None:
    design = sheets.design
    sums, money = estimate(design.job, design.parts, hours_of(design)), design.job.currency
    sheets.section("Quote", 240)
    rows = [
        (label, how, "unread" if amount is None else f"{amount:,.2f}")
        for label, how, amount, _act in sums_of(design, sums)
    ]
    sheets.table((Column("", 20), Column("", 50), Column(money, 20, right=True)), rows, size=12.0)
    least = "from " if design.unpriced else ""
    sheets.heading(f"Total {least}{money}{sums.total:,.2f}")
    sheets.heading(f"Hours of one person: {sums.all_hours:.1f}")
    for step, hours in sums.hours:
        sheets.lines(f"{step}: {hours:.1f}", 11)
    sheets.lines("", 10)
    sheets.lines("Hours are common practice until your own rates stand over them.", 10, face=BOLD)
