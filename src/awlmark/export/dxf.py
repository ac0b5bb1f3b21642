"""Plan and unfolded walls as DXF: true scale, layers named by trade."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING, Final

from awlmark.core.place.reach import shape_of
from awlmark.core.plain import printed
from awlmark.core.quantities import INCH_M, draw_trade_size, print_length
from awlmark.core.solve.design import Design
from awlmark.draw.figures.oneline import one_line_boxes
from awlmark.draw.figures.unfold import CUT, Strip, unfold

if TYPE_CHECKING:
    from ezdxf.document import Drawing
    from ezdxf.layouts.layout import Modelspace

LAYERS: Final = {
    "WALL": 8, "FLOOR": 8, "RACEWAY": 5, "CABLE": 3, "TRENCH": 30, "STRAP": 6, "BOX": 1, "PANEL": 7, "CHARGER": 7,
    "DIMENSION": 2, "TEXT": 7, "ONE-LINE": 4,
}  # fmt: skip
"""Layers and their colour numbers."""
_GAP_M: Final = 1.5
_LETTER_M: Final = 0.09


def walls_dxf(design: Design) -> str:
    """Floor plan above, unfolded walls and yard below, the one-line diagram at the left, as DXF text.

    Units are inches in foot jobs, metres in metre jobs; the panel's foot is the plan's zero.

    Parameters
    ----------
    design : Design
        Solved job.
    """
    import ezdxf
    from ezdxf import units

    ezdxf.options.write_fixed_meta_data_for_testing = True  # type: ignore[attr-defined]
    feet = design.job.units == "ft"
    document = ezdxf.new("R2010", units=units.IN if feet else units.M)  # type: ignore[attr-defined]
    for name, color in LAYERS.items():
        document.layers.add(name, color=color)
    space = document.modelspace()
    scale = 1 / INCH_M if feet else 1.0
    _plan(space, design, scale)
    low = min((y for area in design.job.site.areas for _x, y in shape_of(area)), default=0.0)
    base = min(low, *(walked.end[1] for walked in design.line.legs), 0.0) - 2 * _GAP_M
    for strip in unfold(design.line) if design.line.legs else []:
        bottom, top = strip.heights_m()
        base -= max(top, 2.5) - min(bottom, 0.0) + _GAP_M
        _strip(space, design, strip, (base, scale))
    _one_line(space, design, scale)
    _steady(document)
    out = io.StringIO()
    document.write(out)
    return out.getvalue()


def _steady(document: Drawing) -> None:
    """The same bytes from every process: classes that are in use come in the order of a set, which is salted anew."""
    for name in sorted(document.entitydb.dxf_types_in_use()):
        document.classes.add_class(name)


def _plan(space: Modelspace, design: Design, scale: float) -> None:
    for area in design.job.site.areas:
        outline = [(x * scale, y * scale) for x, y in shape_of(area)]
        space.add_lwpolyline(outline, close=True, dxfattribs={"layer": "WALL" if area.kind == "room" else "FLOOR"})
        _letter(space, area.name, (area.x_m + 0.2, area.y_m + 0.2), scale)
    for thing in design.job.site.things:
        outline = [(x * scale, y * scale) for x, y in shape_of(thing)]
        space.add_lwpolyline(outline, close=True, dxfattribs={"layer": "FLOOR"})
        _letter(space, thing.name, (thing.x_m, thing.y_m + thing.deep_m + 0.05), scale)
    for pin in design.job.site.pins:
        space.add_circle((pin.x_m * scale, pin.y_m * scale), 0.12 * scale, dxfattribs={"layer": "CHARGER"})
        _letter(space, pin.name, (pin.x_m + 0.16, pin.y_m), scale)
    for walked in design.line.legs:
        if walked.heading[2] == 0:
            start, end = ((point[0] * scale, point[1] * scale) for point in (walked.start, walked.end))
            space.add_line(start, end, dxfattribs={"layer": _layer(walked.place, walked.method.cable)})
    space.add_lwpolyline(
        [(-0.18 * scale, -0.1 * scale), (0.18 * scale, -0.1 * scale), (0.18 * scale, 0), (-0.18 * scale, 0)],
        close=True, dxfattribs={"layer": "PANEL"},
    )  # fmt: skip


def _one_line(space: Modelspace, design: Design, scale: float) -> None:
    """Boxes from the service down to the charger, left of everything else; not to scale, as one-lines are."""
    left = (
        min([area.x_m for area in design.job.site.areas] + [walked.end[0] for walked in design.line.legs] + [0.0]) - 6.0
    )
    y = 0.0
    for number, (name, lines) in enumerate(one_line_boxes(design)):
        if number:
            start, end = ((left + 0.3) * scale, (y + 0.4) * scale), ((left + 0.3) * scale, y * scale)
            space.add_line(start, end, dxfattribs={"layer": "ONE-LINE"})
        tall = 0.3 + 0.16 * len(lines)
        corners = [(left, y), (left + 0.6, y), (left + 0.6, y - tall), (left, y - tall)]
        outline = [(across * scale, up * scale) for across, up in corners]
        space.add_lwpolyline(outline, close=True, dxfattribs={"layer": "ONE-LINE"})
        for row, line in enumerate([name, *lines]):
            _letter(space, line, (left + 0.75, y - 0.15 - 0.16 * row), scale)
        y -= tall + 0.4


def _layer(place: str, cable: bool) -> str:
    return "TRENCH" if place == "buried" else "CABLE" if cable else "RACEWAY"


def _strip(space: Modelspace, design: Design, strip: Strip, where: tuple[float, float]) -> None:
    base, scale = where
    circuit = design.circuit
    trades = {
        walked.leg.id: circuit.trade_sizes[section.number] if circuit else None
        for section in design.line.sections
        for walked in section.legs
    }

    def at(u: float, z: float) -> tuple[float, float]:
        return u * scale, (base + z) * scale

    for panel in strip.panels:
        if not strip.outdoors:
            corners = [at(panel.left, 0), at(panel.right, 0), at(panel.right, 2.44), at(panel.left, 2.44)]
            space.add_lwpolyline(corners, close=True, dxfattribs={"layer": "WALL"})
        if panel.kind == CUT:
            space.add_line(at(panel.left, 0), at(panel.right, 2.44), dxfattribs={"layer": "WALL"})
        for laid in panel.laid:
            walked, trade = laid.walked, trades.get(laid.walked.leg.id)
            layer = _layer(walked.place, walked.method.cable)
            space.add_line(at(laid.u, laid.z), at(laid.u2, laid.z2), dxfattribs={"layer": layer})
            pipe = f"{draw_trade_size(trade)} {walked.method.name}" if trade else walked.method.name
            told = f"{print_length(walked.leg.length_m, design.job.units)} {pipe}"
            middle = ((laid.u + laid.u2) / 2 + 0.05, (laid.z + laid.z2) / 2 + 0.05)
            _letter(space, told, (middle[0], base + middle[1]), scale, "DIMENSION")
            for strap_m in design.straps(walked):
                spot = laid.at(strap_m)
                if spot is not None:
                    space.add_circle(at(*spot), 0.02 * scale, dxfattribs={"layer": "STRAP"})
            if laid.share2 >= 1.0 and walked.leg.end in ("box", "body", "pull elbow"):
                u, z = laid.u2, laid.z2
                corners = [
                    at(u - 0.05, z - 0.05),
                    at(u + 0.05, z - 0.05),
                    at(u + 0.05, z + 0.05),
                    at(u - 0.05, z + 0.05),
                ]
                space.add_lwpolyline(corners, close=True, dxfattribs={"layer": "BOX"})
            if laid.share2 >= 1.0 and walked.leg.end == "charger":
                space.add_circle(at(laid.u2, laid.z2), 0.12 * scale, dxfattribs={"layer": "CHARGER"})


def _letter(space: Modelspace, text: str, where: tuple[float, float], scale: float, layer: str = "TEXT") -> None:
    attributes = {"layer": layer, "height": _LETTER_M * scale}
    space.add_text(printed(text), dxfattribs=attributes).set_placement((where[0] * scale, where[1] * scale))
