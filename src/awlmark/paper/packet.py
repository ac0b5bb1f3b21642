"""The packet: what a permit office, the shop and the one with the saw each need, on paper."""

from __future__ import annotations

from awlmark.core.build.steps import hours_of, steps_of
from awlmark.core.entry.loads import print_va
from awlmark.core.entry.spaces import sorted_breakers
from awlmark.core.finding import HOLDS, RANK
from awlmark.core.options.side_by_side import sides
from awlmark.core.panel.rearrange import cells
from awlmark.core.panel.spaces import leg_of, new_breaker
from awlmark.core.parts.aisles import AISLES
from awlmark.core.parts.quote import estimate
from awlmark.core.parts.takeoff import shop_lines
from awlmark.core.quantities import draw_length, draw_trade_size, print_amps, print_length
from awlmark.core.report import circuit_rows, marks_in_words
from awlmark.core.solve.design import Design
from awlmark.core.standing import seen_by
from awlmark.draw.kit.picture import BOLD, Picture
from awlmark.draw.stages.bends_view import NAMES, bends_of
from awlmark.draw.stages.quote_view import sums_of
from awlmark.paper.drawings import labels, one_line, plan_to_scale, walls_to_scale
from awlmark.paper.pages import MARGIN, Column, Sheets
from awlmark.paper.pdf import write_pdf
from awlmark.paper.site_pages import energise_sheet, steps_sheets, test_sheet


def packet_pages(design: Design) -> list[Picture]:
    """Every page of the packet, in points."""
    sheets = Sheets(design)
    _cover(sheets)
    if design.circuit is not None:
        sheets.begin("One-line diagram")
        one_line(sheets)
    _panel(sheets)
    _sums(sheets)
    if design.line.legs:
        sheets.begin("Plan and walls")
        plan_to_scale(sheets)
        walls_to_scale(sheets)
    if design.parts:
        _list(sheets)
        _cuts(sheets)
    _bends(sheets)
    if design.circuit is not None:
        if steps_of(design):
            steps_sheets(sheets)
            energise_sheet(sheets)
        _labels(sheets)
        _quote(sheets)
        _ways(sheets)
        if design.job.prove.readings:
            test_sheet(sheets)
    return sheets.finished()


def packet_pdf(design: Design) -> bytes:
    """The packet as PDF."""
    return write_pdf(packet_pages(design), f"{design.job.name}: packet")


def _cover(sheets: Sheets) -> None:
    design = sheets.design
    sheets.begin("Circuit for an electric-vehicle charger")
    verdict = (
        "Line broken: not to be built as drawn"
        if design.stops
        else f"{design.verdict.capitalize()} by {design.book.title}"
    )
    sheets.heading(verdict)
    if design.job.note:
        sheets.lines(design.job.note)
    sheets.heading("The circuit")
    rows = circuit_rows(design)
    rows.append(("Parts", f"{'from ' if design.unpriced else ''}{design.job.currency}{design.cost:,.2f}"))
    sheets.table((Column("", 18), Column("", 82)), rows, size=11.0)
    _signed(sheets)
    open_ones = [finding for finding in design.findings if finding.severity != HOLDS]
    sheets.heading("Open, tight, or to be noted" if open_ones else "Every rule checked holds")
    for finding in sorted(open_ones, key=lambda finding: RANK[finding.severity]):
        sheets.marked(finding.severity, finding.title, finding.text, [finding.cite])
    seen = [(one, seen_by(design.job, one)) for one in design.findings if seen_by(design.job, one)]
    if seen:
        sheets.heading("Notes that were seen")
        for finding, by in seen:
            sheets.lines(f"{finding.title}: seen by {by}")
    if design.job.overrules:
        sheets.heading("Overruled, with reasons")
        for one in design.job.overrules:
            found = design.finding(one.finding)
            sheets.lines(f"{found.title.removeprefix('Overruled: ') if found else one.finding}: {one.reason}")


def _signed(sheets: Sheets) -> None:
    """Lines to sign on."""
    sheets.y += 26
    for at, told in ((0.0, "Designed by, date"), (0.52, "Seen by, date")):
        x = MARGIN + at * sheets.width
        sheets.page.line(x, sheets.y + 16, x + 0.46 * sheets.width, sheets.y + 16, "ink", 0.8)
        sheets.page.text(x, sheets.y + 28, told, 9, role="ink2")
    sheets.y += 34


def _panel(sheets: Sheets) -> None:
    design, front = sheets.design, sheets.design.job.dead_front
    if not front.spaces and not design.buses:
        return
    sheets.begin("Panel schedule and demand")
    if front.spaces:
        sheets.heading(f"{design.job.supply.panel_name}, {front.spaces} spaces")
        rows: list[tuple[str, ...]] = []
        for breaker in sorted_breakers(front):
            double = breaker.poles == 2 or breaker.tied
            spaces = f"{breaker.space}, {breaker.space + 2}" if double else f"{breaker.space}"
            legs = "A and B" if double else leg_of(breaker.space)
            rating = "not read" if breaker.rating_a is None else print_amps(breaker.rating_a)
            kind = "tandem" if breaker.tandem else "quad" if breaker.quad else f"{breaker.poles}-pole"
            kind = "two 1-pole, tied" if breaker.tied else kind
            rows.append((spaces, legs, breaker.name or "not named", rating, kind))
        rows += _new_row(design)
        sheets.table(
            (
                Column("Spaces", 12),
                Column("Leg", 12),
                Column("Feeds", 44),
                Column("Rating", 16, right=True),
                Column("Kind", 16),
            ),
            rows,
        )
    for bus in design.buses:
        rating = "not read" if bus.rating_a is None else print_amps(bus.rating_a)
        sheets.heading(f"Demand on {bus.name}, {rating}: {bus.needed_a:.0f} A")
        lines = [
            (row.text, print_va(row.connected_va), "in the pool" if row.pooled else print_va(row.counted_va), row.cite)
            for row in bus.sheet.rows
        ]
        lines.append(("Together", "", print_va(bus.sheet.total_va), ""))
        sheets.table(
            (
                Column("Load", 44),
                Column("Connected", 18, right=True),
                Column("Counted", 18, right=True),
                Column("Clause", 20),
            ),
            lines,
        )


def _new_row(design: Design) -> list[tuple[str, ...]]:
    """The charger's own breaker in the schedule, where it will stand."""
    if design.circuit is None:
        return []
    made = new_breaker(design.job, design.circuit.hots, design.circuit.breaker_a)
    if made is None:
        return []
    one, moves = made
    legs = "A and B" if one.poles == 2 else leg_of(one.space)
    kind = f"{one.poles}-pole, new" + (", after the moves" if moves else "")
    spaces = ", ".join(f"{space}" for space in cells(one))
    return [(spaces, legs, one.name, print_amps(design.circuit.breaker_a), kind)]


def _sums(sheets: Sheets) -> None:
    sheets.begin("The sums, with their reasons")
    for finding in sheets.design.findings:
        sheets.marked(finding.severity, finding.title, finding.text, [*finding.sums, finding.cite])


def _list(sheets: Sheets) -> None:
    design = sheets.design
    sheets.begin("List, by aisle")
    columns = (
        Column("Part", 46), Column("Buy", 14, right=True), Column("Each", 12, right=True),
        Column("Sum", 14, right=True), Column("For", 26),
    )  # fmt: skip
    lines = shop_lines(design.parts, design.job.prices)
    for aisle in AISLES:
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


def _cuts(sheets: Sheets) -> None:
    """For the wall of the shop: large enough to read with a saw in hand."""
    design, units = sheets.design, sheets.design.job.units
    numbers = {walked.leg.id: walked.number for walked in design.line.legs}
    if not any(design.sticks(section) for section in design.line.sections):
        return
    sheets.begin("Cut list")
    assert design.circuit is not None
    number = 0
    for section in design.line.sections:
        sticks = design.sticks(section)
        if not sticks:
            continue
        trade = design.circuit.trade_sizes[section.number]
        size, full = draw_trade_size(trade) if trade else "", print_length(section.method.stick_m, units)
        sheets.heading(f"{size} {section.method.name}, sticks of {full}".strip())
        for stick in sticks:
            number += 1
            told = "; ".join(
                f"leg {numbers[piece.leg_id]}, {draw_length(piece.length_m, units)}" for piece in stick.pieces
            )
            left = f" (left {draw_length(stick.left_m, units)})" if stick.left_m > 1e-3 else ""
            sheets.lines(f"{number}.  {told}{left}", 16)
    sheets.lines(
        "Ream every end. Lengths are cut lengths: what elbows and bodies take up is off them.", 10, role="ink2"
    )


def _bends(sheets: Sheets) -> None:
    found = bends_of(sheets.design)
    if not found:
        return
    units = sheets.design.job.units
    sheets.begin("Bending marks")
    for bend in found:
        if bend.marked is None:
            sheets.marked("unread", f"Leg {bend.number}", bend.why)
            continue
        sheets.heading(f"Leg {bend.number}: {NAMES[bend.marked.shape]}, {bend.pipe}")
        assert bend.piece is not None
        cut, begins = draw_length(bend.piece.length_m, units), draw_length(bend.piece.start_m, units)
        sheets.lines(f"On the piece of {cut} that begins at {begins} of the tape.", 12)
        for number, one in enumerate(sorted(bend.marked.marks, key=lambda one: one.at_m), 1):
            sheets.lines(f"{number}. at {draw_length(one.at_m, units)} from its end toward the panel: {one.says}", 12)


def _labels(sheets: Sheets) -> None:
    design = sheets.design
    job, circuit = design.job, design.circuit
    assert circuit is not None
    sheets.begin("Labels, at true size")
    ends = f"{circuit.breaker_a:g} A, {circuit.poles}-pole"
    texts = [
        ("EV charger", [f"{job.supply.panel_name}: {ends}", job.name]),
        ("Fed from", [f"{job.supply.panel_name}, {ends}", f"{circuit.volts:g} V, charges at {circuit.charge_a:g} A"]),
        ("Shut off at", [job.supply.panel_name, f"breaker {ends}"]),
    ]
    if job.local.label:
        texts.append(("Local rule", [job.local.label]))
    if job.charger.setting_a is not None and job.charger.setting_restricted:
        texts.append(
            ("Set and locked", [f"Charging current {circuit.charge_a:g} A. Not to be raised on this circuit."])
        )
    wires = [f"{letter}  {circuit.size}" for letter in ("1", "2")[: circuit.hots]]
    wires += [f"N  {circuit.size}"] if circuit.neutral else []
    wires += [f"G  {circuit.ground}"] if circuit.ground else []
    labels(sheets, texts, [f"{wire} {end}" for end in ("panel", "charger") for wire in wires])
    sheets.lines("Cut along the dashes. The bar at the foot tells whether the print is true.", 10, role="ink2")


def _ways(sheets: Sheets) -> None:
    """Outlet or hardwire, pipe or cable, copper or aluminium: the same table as at the desk."""
    found, money = sides(sheets.design), sheets.design.job.currency
    if len(found) < 2:
        return
    sheets.begin("The whole job, other ways")
    columns = (
        Column("Ends", 20), Column("In", 9), Column("Metal", 11), Column("Breaker", 9, right=True), Column("Wires", 22),
        Column(f"Parts, {money}", 11, right=True), Column("Hours", 8, right=True), Column("Volts", 8, right=True),
    )  # fmt: skip
    rows = [
        (
            f"{side.ends}{' (as it is)' if side.here else ''}", side.wiring, side.metal, f"{side.breaker_a:g} A",
            side.wires, f"{'from ' if side.unpriced else ''}{side.price:,.0f}", f"{side.hours:.1f}",
            f"{side.volts:.1f}",
        )
        for side in found
    ]  # fmt: skip
    sheets.table(columns, rows)
    sheets.lines("Hours are of one person; volts at the charger while it draws all it may.", 9, role="ink2")
    for side in found:
        if side.reason:
            sheets.marked(side.worst, f"{side.ends}, {side.wiring}, {side.metal}", side.reason)


def _quote(sheets: Sheets) -> None:
    design = sheets.design
    sums, money = estimate(design.job, design.parts, hours_of(design)), design.job.currency
    sheets.begin("Quote")
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
