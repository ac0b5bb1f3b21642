"""Cables beside each other in the Wire scene, as they are made."""

from __future__ import annotations

from awlmark.core.circuit.evaluate import size_severity
from awlmark.core.quantities import print_amps
from awlmark.core.solve.design import Design
from awlmark.draw.figures.bore import draw_cable, strands
from awlmark.draw.kit.picture import BOLD, TEXT, Picture, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark


def draw_cables(picture: Picture, design: Design, area: tuple[float, float, float]) -> None:
    """Draw the chosen cable between its neighbours in size, at one scale.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        A design whose run is all cable.
    area : tuple of float
        Top, foot and right edge [px].
    """
    circuit, evaluated = design.circuit, design.evaluated
    assert circuit is not None and evaluated is not None
    top, foot, right = area
    method = design.line.sections[0].method
    made = design.book.cable_ground.get(method.key, {circuit.size: circuit.ground or ""})
    sizes = [size for size in design.book.sizes if size in made]
    at = sizes.index(circuit.size) if circuit.size in sizes else 0
    shown = sizes[max(0, at - 1) : at + 2]
    picture.text(
        12,
        top + 16,
        f"{method.name}, {design.book.words.place(design.line.legs[0].place)}, as it is made",
        13,
        role="ink2",
    )
    insides = [strands(design, size) for size in shown]
    widest = max(sum(strand.diameter_mm for strand in inside) + 4 for inside in insides)
    cell = (right - 24) / len(shown)
    scale = min((cell - 24) / widest, 9.0)
    group = int(evaluated.table.group[design.row])
    for number, (size, inside) in enumerate(zip(shown, insides, strict=True)):
        left, middle = 12 + number * cell, (top + foot) / 2
        chosen = size == circuit.size
        carried = float(evaluated.work.rated_a[group, design.book.size_index(size)])
        severity = size_severity(evaluated, group, design.book.size_index(size))
        if chosen:
            picture.box(left + 3, middle - 70, cell - 6, 140, "scribe", 2, "notefill", 3)
        draw_cable(picture, inside, left + cell / 2, middle - 14, scale)
        told = f"{size}/{circuit.hots + circuit.neutral}: {print_amps(carried)}"
        wide = text_width(told, BOLD if chosen else TEXT, 13)
        mark(picture, severity, left + cell / 2 - wide / 2 - 10, middle + 50, 11)
        picture.text(left + cell / 2 - wide / 2 + 2, middle + 55, told, 13, BOLD if chosen else TEXT)
        ground = made[size] or "unread"
        says = f"{size} {method.name} with a {ground} ground carries {print_amps(carried)}: {NAMES[severity]}"
        picture.hit(left + 3, middle - 70, cell - 6, 140, f"cable-{size}", says, f"size:{size}={circuit.material}")
