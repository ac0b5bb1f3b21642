"""Heights at the spot where the line ends, and the cards that choose spot and end."""

from __future__ import annotations

import itertools

from awlmark.core.finding import STOP
from awlmark.core.options.fixes import Quote, fork_ways
from awlmark.core.options.spots import SpotWay
from awlmark.core.place.check import chosen_pin, spot_reach, under_roof
from awlmark.core.place.reach import ANY_CAR
from awlmark.core.quantities import FOOT_M, draw_length
from awlmark.core.solve.design import Design
from awlmark.draw.kit.labels import Labels
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture, shorten, wrap
from awlmark.draw.kit.severity_marks import NAMES, mark


def draw_elevation(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """Heights: ground, least height, the maker's band, charger and port."""
    left, top, right, bottom = area
    job, pin = design.placed, chosen_pin(design.placed)
    picture.text(left + 12, top + 20, "Heights", 13, BOLD, "ink2")
    if pin is None:
        picture.text(left + 12, top + 46, "Choose a spot: pin A here", 15, role="ink2")
        return
    ground, most = bottom - 26, 2.2
    scale = (ground - top - 40) / most
    labels = Labels(picture, left + 2, top + 26, right - 2, bottom - 2)

    def y(metres: float) -> float:
        return ground - metres * scale

    picture.box(left + 46, ground, right - left - 62, 18, fill="ground", hatch="earth:faint")
    picture.line(left + 46, ground, right - 16, ground, "ink", 1.6)
    unit = FOOT_M if job.units == "ft" else 1.0
    for number in range(int(most / unit) + 1):
        if number % 2 == 0 or unit == 1.0:
            picture.line(left + 38, y(number * unit), left + 46, y(number * unit), "edge")
            picture.text(left + 34, y(number * unit) + 5, f"{number}", 16, DRAW, "ink2", END)
    rules = design.book.place
    least = rules.inside_m if under_roof(job, pin) else rules.outside_m
    low, high = job.charger.band_low_m, job.charger.band_high_m
    if low is not None and high is not None:
        picture.box(left + 46, y(high), right - left - 62, (high - low) * scale, fill="notefill")
    best = rules.best_m
    if best is not None:
        picture.box(left + 46, y(best[1]), right - left - 62, (best[1] - best[0]) * scale, "edge", 1, dash=True)
    else:
        picture.line(left + 46, y(least), right - 16, y(least), "tight", 1.2, dash=True)
    x = left + 96
    if pin.fixing in (None, "post"):
        picture.box(x - 3, y(pin.height_m) - 30, 6, ground - y(pin.height_m) + 42, "edge", 1, "well")
    else:
        # Seen from the side: the unit hangs on the wall's face.
        picture.box(x - 33, top + 34, 20, ground - top - 34, "ink", 1.4, "well", hatch="slant")
    picture.box(
        x - 13, y(pin.height_m) - 22, 26, 44, STOP if design.mark("height", "band") == STOP else "ink", 2, "sheet", 3
    )
    labels.block(x - 14, y(pin.height_m) - 30, 28, ground - y(pin.height_m) + 42)
    car = (job.need.cars or (ANY_CAR,))[0]
    cx, wide = left + (right - left) * 0.5, 112.0
    labels.block(cx, y(1.75), wide, 1.75 * scale)
    told = f"{pin.name}, {draw_length(pin.height_m, job.units)}"
    up = y(pin.height_m)
    labels.put(told, [(x + 20, up - 8, START), (x + 20, up + 20, START), (x - 14, up - 34, START)], 16, DRAW)
    if low is not None and high is not None:
        labels.put("maker's band", [(right - 18, y(high) - 5, END), (right - 18, y(high) + 15, END)], 13, TEXT, "note")
    if best is not None:
        labels.put(
            "serves best", [(right - 18, y(best[1]) - 5, END), (right - 18, y(best[0]) + 15, END)], 13, TEXT, "ink2"
        )
    else:
        told = f"least {draw_length(least, job.units)}"
        labels.put(told, [(right - 18, y(least) + 16, END), (right - 18, y(least) - 4, END)], 16, DRAW, "tight")
    picture.box(cx, y(1.75), wide, 1.45 * scale, "ink", 1.6, "well", 14)
    for wheel in (0.2, 0.8):
        picture.disc(cx + wide * wheel, y(0.3), 0.3 * scale, "ink", 1.6, "sheet")
    port = (cx, y(car.port_m))
    picture.disc(*port, 4.5, "note", 1.8, "sheet")
    start = (x + 13, y(pin.height_m))
    sag = max(start[1], port[1]) + 0.35 * scale
    curve = [
        ((1 - t) ** 2 * start[0] + 2 * (1 - t) * t * (start[0] + port[0]) / 2 + t * t * port[0],
         (1 - t) ** 2 * start[1] + 2 * (1 - t) * t * min(sag, ground - 3) + t * t * port[1])
        for t in [n / 12 for n in range(13)]
    ]  # fmt: skip
    picture.path(curve, "note", 2.2)
    picture.text(cx + wide / 2, y(1.0) + 5, shorten(car.name, TEXT, 13, wide - 12), 13, anchor=MIDDLE)
    fixing = pin.fixing or "not read"
    picture.text(left + 150, bottom - 9, f"screwed to: {fixing}", 13, role="ink2" if pin.fixing else "unread")
    hangs, port_up = draw_length(pin.height_m, job.units), draw_length(car.port_m, job.units)
    says = f"Heights: {design.book.words.charger} {hangs} up, port {port_up}"
    picture.hit(
        left + 46, top + 30, right - left - 62, ground - top - 30, "heights", says, f"type:pin {pin.name} high "
    )


def _lead(picture: Picture, design: Design, way: SpotWay, name: str, at: tuple[float, float]) -> None:
    """What a spot costs as a whole job, and the run led there by a click."""
    right, y = at
    if way.job is None:
        picture.text(right - 10, y + 18, "not led yet", 13, role="ink2", anchor=END)
        picture.hit(right - 92, y + 2, 88, 23, f"lead-{way.pin}", f"No run is led to {name}: {way.why}")
        return
    if way.job is design.job:
        picture.text(right - 10, y + 18, "run is here", 13, role="ink2", anchor=END)
        return
    sign = "+" if way.price >= 0 else "−"
    told = f"{sign}{design.job.currency}{abs(way.price):,.0f}"
    picture.box(right - 104, y + 3, 100, 21, "scribe", 1.2, "sheet", 3)
    mark(picture, way.worst, right - 92, y + 13, 10)
    picture.text(right - 10, y + 18, told, 13, BOLD, "scribe", END)
    long = draw_length(way.length_m, design.job.units)
    says = f"Lead the run to {name}: {told}, {long} on the tape, leaves {NAMES[way.worst]} beside what is guessed"
    picture.hit(right - 104, y + 3, 100, 21, f"lead-{way.pin}", says, f"lead:{way.pin}")


def draw_ends(
    picture: Picture,
    design: Design,
    forks: tuple[Quote, ...],
    spots: tuple[SpotWay, ...],
    area: tuple[float, float, float, float],
) -> None:
    """A card for each spot, and the fork at the line's end: hardwired or an outlet."""
    left, y, right, bottom = area
    job = design.placed
    picture.text(left, y + 20, "Where the line may end", 13, BOLD, "ink2")
    if spots:
        picture.text(right - 4, y + 20, "run led there", 13, role="ink2", anchor=END)
    y += 28
    for pin in job.site.pins:
        chosen = (here := chosen_pin(job)) is not None and here.id == pin.id
        severity, told = spot_reach(job, pin)
        fill, role = ("notefill", "scribe") if chosen else ("ground", "edge")
        picture.box(left, y, right - left, 27, role, 2 if chosen else 1, fill, 3)
        picture.disc(left + 16, y + 13, 9, "scribe", 1.6, "scribe" if chosen else "sheet")
        picture.text(left + 16, y + 18, pin.name, 13, BOLD, "sheet" if chosen else "scribe", MIDDLE)
        mark(picture, severity, left + 38, y + 13, 11)
        led = next((each for each in spots if each.pin == pin.id), None)
        room = right - left - 60 - (0 if led is None else 108)
        first, *more = wrap(told, TEXT, 13, room)
        picture.sentence(left + 52, y + 18, f"{first}…" if more else first, 13, TEXT)
        says = f"Spot {pin.name}: {NAMES[severity]}, {told}" + (", chosen" if chosen else "")
        act = f"put:site.pin={pin.id}" if design.job.site.pins else f"scribe:pin {pin.name} here"
        picture.hit(left, y, right - left, 27, f"end-{pin.id}", says, act)
        if led is not None:
            _lead(picture, design, led, pin.name, (right, y))
        y += 30
    ways = fork_ways(design)
    if ways:
        y += 6
        picture.text(left, y + 10, "How it ends", 13, BOLD, "ink2")
        y += 15
    for number, (way, quote) in enumerate(itertools.zip_longest(ways, forks)):
        here = way.edits[0].value == job.charger.connection
        if y + 28 > bottom - 4:
            break
        picture.box(left, y, right - left, 27, "scribe" if here else "edge", 2 if here else 1, "ground", 3)
        picture.text(left + 32, y + 18, way.label, 13, BOLD if here else TEXT)
        told, says = "…", f"{way.label}: price to come"
        if quote is not None:
            mark(picture, quote.worst, left + 16, y + 13, 11)
            told = f"{'+' if quote.price > 0 else '−' if quote.price < 0 else ''}{job.currency}{abs(quote.price):,.0f}"
            says = f"{way.label}: {told}, leaves {NAMES[quote.worst]}"
        says += ", as it is" if here else ""
        picture.text(right - 10, y + 18, told, 13, BOLD, anchor=END)
        picture.hit(
            left, y, right - left, 27, f"fork-{number}", says + (", as it is" if here else ""), f"fork:{number}"
        )
        y += 29
