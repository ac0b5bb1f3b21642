"""What stands on the one-line diagram, from the service to the charger."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.words import cap
from awlmark.core.names import METAL_NAMES
from awlmark.core.panel.bus import Bus
from awlmark.core.panel.rearrange import cells
from awlmark.core.panel.spaces import new_breaker
from awlmark.core.quantities import draw_length, draw_trade_size, print_amps
from awlmark.core.solve.design import Design

POLES: Final = {1: "one-pole", 2: "two-pole", 3: "three-pole", 4: "four-pole"}


def feeder_words(design: Design, bus: Bus) -> str:
    """A feeder's wire, length and drop; empty for the service, or while none of it is read."""
    board = next((board for board in design.job.boards if board.id == bus.id), None)
    if board is None:
        return ""
    told = []
    if board.feeder_size:
        told.append(f"{design.book.print_size(board.feeder_size)} {METAL_NAMES[board.feeder_material]}")
    if board.feeder_length_m is not None:
        told.append(draw_length(board.feeder_length_m, design.job.units))
    if design.circuit is not None:
        drop = design.book.panel.feeder_drop(design.job, bus, design.circuit.volts, design.book)
        told += [] if drop is None else [f"{drop:.2f} % drop"]
    return ", ".join(told)


def one_line_boxes(design: Design) -> list[tuple[str, list[str]]]:
    """Name and lines of every box, in the order of the current."""
    job, circuit = design.job, design.circuit
    boxes: list[tuple[str, list[str]]] = []
    words, supply_a = design.book.words, design.book.panel.supply_a(job)
    service = "not read" if supply_a is None else print_amps(supply_a)
    panel = [design.panel_name] + ([f"bus {job.dead_front.bus_a:g} A"] if job.dead_front.bus_a else [])
    phase = "three phase" if job.supply.system == "400" else "single phase"
    boxes.append((words.first, [f"{job.supply.system} V, {phase}", service, ", ".join(panel)]))
    for bus in design.buses[1:]:
        wire = feeder_words(design, bus)
        rating = "not read" if bus.rating_a is None else print_amps(bus.rating_a)
        boxes.append((bus.name, [f"{words.feeder} {rating}", wire] if wire else [f"{words.feeder} {rating}"]))
    if circuit is not None:
        poles = POLES.get(circuit.poles, f"{circuit.poles}-pole")
        gfci = ", ground-fault" if circuit.gfci else ""
        made = new_breaker(job, circuit.hots, circuit.breaker_a)
        where = f", space {' and '.join(str(space) for space in cells(made[0]))}" if made is not None else ""
        told = [f"{circuit.breaker_a:g} A, {poles}{gfci}{where}", f"terminals {circuit.terminal_c} °C"]
        boxes.append((cap(words.breaker), told))
        kind = f" {circuit.insulation.upper()}" if circuit.insulation else ""
        wires = f"{circuit.hots} × {design.book.print_size(circuit.size)} {METAL_NAMES[circuit.material]}{kind}"
        neutral = f", neutral {design.book.print_size(circuit.size)}" if circuit.neutral else ", no neutral"
        ground = (
            design.book.print_size(circuit.ground)
            if circuit.ground
            else "raceway"
            if circuit.raceway_ground
            else "not read"
        )
        pipes = [
            f"{draw_trade_size(trade)} {section.method.name}" if trade else section.method.name
            for section, trade in zip(design.line.sections, circuit.trade_sizes, strict=True)
        ]
        left = circuit.volts - circuit.drop_v
        far = f"{draw_length(design.line.length_m, job.units)}, {circuit.drop_percent:.2f} % drop, {left:.1f} V left"
        boxes.append(("Run", [f"{wires}{neutral}, {words.ground} {ground}", ", ".join(dict.fromkeys(pipes)), far]))
        if job.charger.disconnect:
            boxes.append((cap(words.disconnect), ["lockable, within sight"]))
        rated = job.charger.nameplate_a or circuit.charge_a
        lowered = f", set to {circuit.charge_a:g} A" if circuit.charge_a < rated else ""
        counts = f"counts as {circuit.need_a:g} A"
        boxes.append(
            (
                cap(words.charger),
                [f"{rated:g} A{f' {words.plate}' if words.plate else ''}{lowered}, {counts}", job.charger.connection],
            )
        )
    return boxes
