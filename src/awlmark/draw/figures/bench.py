"""The meter bench: panel and charger with points to probe, the meter, the breaker, the charging switch."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.words import cap
from awlmark.core.prove.at_setting import points_of
from awlmark.core.prove.instruments import Bench, clamp_amps, meter_volts
from awlmark.core.prove.log import print_value
from awlmark.core.prove.network import HEALTHY, Faults
from awlmark.core.prove.test import Test, tests_of
from awlmark.core.quantities import draw_length
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten
from awlmark.draw.view_state import Look

WIRE_ROLES: Final = {
    "1": "black", "2": "red", "N": "white", "G": "green", "L": "brown", "L1": "brown", "L2": "black", "L3": "grey",
    "E": "green and yellow",
}  # fmt: skip
PANEL_X: Final = 132.0
METER_WIDE: Final = 220.0
BORDER: Final = 7.0
"""Width of the stripes round what is simulated [px]."""
SCRATCH: Final = 3
"""Notes off the bench that are shown."""
LEFT: Final = 16.0
"""Where the bench begins [px]."""


def bench_of(design: Design, look: Look, faults: Faults = HEALTHY) -> Bench:
    """How the bench stands."""
    full = design.circuit.charge_a if design.circuit is not None else 0.0
    amps = full if look.bench_amps and look.bench_closed else 0.0
    return Bench(look.bench_closed, amps, 60.0 if amps else 0.0, faults)


def test_at(design: Design, look: Look) -> Test | None:
    """The test that the probes and switches stand at; None where they stand at none."""
    for test in tests_of(design):
        if test.probes is None or set(test.probes) != set(look.probes):
            continue
        stage = "charge" if look.bench_amps and look.bench_closed else "live" if look.bench_closed else "dead"
        if test.stage == stage:
            return test
    return None


def draw_bench(
    picture: Picture, design: Design, look: Look, area: tuple[float, float, float], faults: Faults = HEALTHY
) -> None:
    """Draw the bench.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        The circuit.
    look : Look
        Where the probes are, and how the switches stand.
    area : tuple of float
        Top, width and height [px].
    faults : Faults
        Planted for practice; none on a job's own bench.
    """
    top, width, height = area
    if look.practice is None:
        striped(picture, 0, top, width, height)
    meter = min(METER_WIDE, width * 0.29)
    far = width - meter - 172
    picture.text(LEFT, top + 22, "Bench, simulated: it teaches and records nothing", 13, BOLD, "tight")
    points, bench = points_of(design), bench_of(design, look, faults)
    near, far_name = design.book.prove.ends
    wires = [point.removeprefix(f"{near} ") for point in points if point.startswith(f"{near} ")]
    first, gap = top + 52, min(34.0, (height - 96) / max(len(wires), 1))
    low = first + gap * (len(wires) - 1)
    picture.box(LEFT, top + 28, 92, low - top + 10, "ink", 1.6, "ground", 4)
    picture.text(62, low + 32, cap(near), 13, BOLD, anchor=MIDDLE)
    picture.box(far + 26, top + 28, 108, low - top + 10, "ink", 1.6, "ground", 4)
    picture.text(far + 80, low + 32, cap(far_name), 13, BOLD, anchor=MIDDLE)
    middle, half = (PANEL_X + far) / 2, min(52.0, (far - PANEL_X) / 2 - 24)
    picture.box(middle - half, top + 34, 2 * half, low - top, "edge", 1, "well", 3)
    for number, wire in enumerate(wires):
        y, role = first + number * gap, WIRE_ROLES[wire]
        there = f"{far_name} {wire}" in points
        end = far + 40 if there else middle - half
        picture.line(80, y, end, y, "edge", 6)
        picture.line(80, y, end, y, role, 4)
        picture.box(middle - half + 1, y - 5, 2 * half - 2, 10, fill="well")
    picture.text(
        middle, (first + low) / 2 + 5, draw_length(design.line.length_m, design.job.units), 18, DRAW, anchor=MIDDLE
    )
    _switches(picture, design, look, bench, (first, low, far))
    spots = {
        f"{at} {wire}": (PANEL_X if at == near else far, first + number * gap)
        for number, wire in enumerate(wires)
        for at in (near, far_name)
    }
    _leads(picture, look, spots, low, (width - meter - 12, top + 150))
    for point, (x, y) in spots.items():
        if point in points:
            _point(picture, look, point, point.partition(" ")[2], x, y)
    _meter(picture, design, look, bench, (width - meter - 12, top + 16, meter, height - 24))


def striped(picture: Picture, left: float, top: float, width: float, height: float) -> None:
    """A striped border: what stands inside it is made up."""
    right, foot = left + width - BORDER, top + height - BORDER
    for x, y, w, h in ((left, top, width, BORDER), (left, foot, width, BORDER), (left, top, BORDER, height),
                       (right, top, BORDER, height)):  # fmt: skip
        picture.box(x, y, w, h, "tight", 1, "tightfill", hatch="slant:tight")


def _point(picture: Picture, look: Look, point: str, wire: str, x: float, y: float) -> None:
    held = look.probes.index(point) if point in look.probes else None
    picture.disc(x, y, 11, "note" if held is not None else "ink", 3 if held is not None else 1.4, "sheet")
    picture.text(x, y + 5, wire, 13, BOLD, anchor=MIDDLE)
    which = "" if held is None else f", {('black', 'red')[held]} probe on it"
    picture.hit(x - 14, y - 14, 28, 28, f"point-{point}", f"{point}{which}", f"probe:{point}")


def _switches(picture: Picture, design: Design, look: Look, bench: Bench, span: tuple[float, float, float]) -> None:
    first, low, far = span
    middle = (first + low) / 2
    picture.box(26, middle - 22, 44, 44, "ink", 1.4, "notefill" if look.bench_closed else "sheet", 3)
    rating = f"{design.circuit.breaker_a:g}" if design.circuit else ""
    picture.text(48, middle - 2, rating, 16, DRAW, anchor=MIDDLE)
    picture.text(48, middle + 15, "on" if look.bench_closed else "off", 13, BOLD, anchor=MIDDLE)
    says = f"{cap(design.book.words.breaker)} {'on' if look.bench_closed else 'off'}: switch it"
    picture.hit(26, middle - 22, 44, 44, "bench-breaker", says, "bench:closed")
    x = far + 88
    picture.box(x - 34, middle - 22, 68, 44, "ink", 1.4, "notefill" if bench.amps else "sheet", 3)
    told = f"{bench.amps:g} A" if bench.amps else "idle"
    picture.text(x, middle - 2, told, 16, DRAW, anchor=MIDDLE)
    picture.text(x, middle + 15, "charging" if bench.amps else "charge", 13, anchor=MIDDLE)
    picture.hit(x - 34, middle - 22, 68, 44, "bench-charge", "Charging on or off", "bench:amps")


def _leads(
    picture: Picture, look: Look, spots: dict[str, tuple[float, float]], low: float, meter: tuple[float, float]
) -> None:
    """The leads hang from their points to the meter, as a cord does."""
    for number, point in enumerate(look.probes):
        if point not in spots:
            continue
        x, y = spots[point]
        hang, end = low + 96 + 10 * number, (meter[0], meter[1] + number * 14)
        path = []
        for step in range(17):
            t = step / 16
            u = 1 - t
            across = u**3 * x + 3 * u**2 * t * x + 3 * u * t**2 * (meter[0] - 50) + t**3 * end[0]
            down = u**3 * (y + 11) + 3 * u**2 * t * hang + 3 * u * t**2 * hang + t**3 * end[1]
            path.append((across, down))
        # Rimmed as the wires are, so that a black one shows on a dark ground.
        picture.path(path, "edge", 4.4)
        picture.path(path, ("black", "red")[number], 2.4)


def _meter(picture: Picture, design: Design, look: Look, bench: Bench, area: tuple[float, float, float, float]) -> None:
    """Its display, the clamp, and what was noted off them; nothing here reaches a job."""
    left, top, wide, tall = area
    picture.box(left, top, wide, tall, "ink", 1.6, "ink2", 8)
    picture.box(left + 12, top + 12, wide - 24, 62, "ink", 1, "sheet", 4)
    one, other = look.probes
    volts = meter_volts(design, bench, one, other) if one and other and one != other else 0.0
    names = f"{one} to {other}" if one and other else "hold both probes to a point"
    picture.text(left + 20, top + 28, shorten(names, TEXT, 13, wide - 40), 13)
    picture.text(left + wide - 44, top + 66, f"{volts:.1f}", 30, DRAW, anchor=END)
    picture.text(left + wide - 22, top + 66, "V", 15, BOLD, anchor=END)
    picture.hit(left + 12, top + 12, wide - 24, 62, "meter", f"Meter: {names}, {volts:.1f} volts")
    y = top + 84
    test = test_at(design, look) if look.practice is None else None
    if test is not None:
        low, high = print_value(test.low, "V"), print_value(test.high, "V")
        low, high = low.removesuffix(" V"), high.removesuffix(" V")
        picture.text(left + 20, y + 12, f"sound: {low} to {high} V", 13, role="sheet")
        y += 20
    amps = clamp_amps(design, bench)
    picture.box(left + 12, y, wide - 24, 28, "edge", 1, "ground", 3)
    picture.text(left + 22, y + 19, f"Clamp {amps:.1f} A", 13, BOLD)
    same = one.partition(" ")[0] == other.partition(" ")[0]
    ends = f"{one}-{other.partition(' ')[2]}" if same else names
    told = f"{ends}|{volts:.1f} V, {amps:.1f} A"
    here = one and other and look.practice is None
    if here:
        picture.text(left + wide - 22, y + 19, "note it", 13, role="scribe", anchor=END)
    says = f"Clamp on one {design.book.words.hot}: {amps:.1f} A" + ("; note it on the bench's own list" if here else "")
    picture.hit(left + 12, y, wide - 24, 28, "clamp", says, f"bench:note {told}" if here else "")
    y += 46
    for what, shown in look.scratch[-SCRATCH:]:
        picture.text(left + 20, y, shorten(f"{what}: {shown}", TEXT, 13, wide - 34), 13, role="sheet")
        y += 17
