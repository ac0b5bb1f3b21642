"""The Place scene: the floor to scale, cars and cords on it; heights; where the line may end, and how."""

from __future__ import annotations

import itertools
import math
from typing import Final

import msgspec

from awlmark.core.design import Design
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT
from awlmark.core.job.driving import Car
from awlmark.core.job.site import Area, Pin, Thing
from awlmark.core.panel.equipment import CLEAR_M
from awlmark.core.place.check import INSIDE_M, OUTSIDE_M, chosen_pin, in_the_way, under_roof
from awlmark.core.place.reach import Reach, car_shape, port_of, reaches, shape_of
from awlmark.core.quantities import FOOT_M, draw_length
from awlmark.core.trial import Quote, fork_ways
from awlmark.draw.labels import Labels
from awlmark.draw.marks import NAMES, mark
from awlmark.draw.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture, shorten

_CARDS: Final = 344.0
_MARGIN: Final = 34.0
_CAR: Final = Car(id="any", name="car")


class Floor(msgspec.Struct, frozen=True):
    """Scale and zero of the floor plan."""

    scale: float
    """Pixels per metre."""
    left: float
    bottom: float
    """Where the panel's foot lies [px]."""

    def at(self, x: float, y: float) -> tuple[float, float]:
        """Pixels of a point of the floor."""
        return self.left + x * self.scale, self.bottom - y * self.scale

    def metres(self, x: float, y: float) -> tuple[float, float]:
        """Point of the floor under a pixel [m]."""
        return (x - self.left) / self.scale, (self.bottom - y) / self.scale


def plan_height(height: float) -> float:
    """Height of the floor plan within the scene [px]."""
    return height * 0.58


def floor_of(design: Design, width: float, height: float) -> Floor:
    """Scale at which everything on the floor fits.

    Parameters
    ----------
    design : Design
        Its site, line and cars.
    width, height : float
        Size of the scene [px].
    """
    site = design.job.site
    xs, ys = [0.0, 1.0], [0.0, -1.0]
    for shape in [shape_of(area) for area in site.areas] + [shape_of(thing) for thing in site.things]:
        xs += [x for x, _ in shape]
        ys += [y for _, y in shape]
    for walked in design.line.legs:
        xs += [walked.start[0], walked.end[0]]
        ys += [walked.start[1], walked.end[1]]
    for bay in site.bays:
        xs += [bay.x - 3, bay.x + 3]
        ys += [bay.y - 3, bay.y + 3]
    for pin in site.pins:
        xs.append(pin.x)
        ys.append(pin.y)
    tall = plan_height(height)
    scale = min((width - 2 * _MARGIN) / (max(xs) - min(xs)), (tall - 60) / (max(ys) - min(ys)), 120.0)
    left = (width - (max(xs) - min(xs)) * scale) / 2 - min(xs) * scale
    return Floor(scale, left, 34 + max(ys) * scale + (tall - 60 - (max(ys) - min(ys)) * scale) / 2)


def draw_place(design: Design, forks: tuple[Quote, ...], width: float, height: float) -> Picture:
    """Draw the Place scene.

    Parameters
    ----------
    design : Design
        Solved job.
    forks : tuple of Quote
        Outlet or hardwire, priced; nothing until they are.
    width, height : float
        Size of the scene [px].
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    site = design.job.site
    if not site.areas and not site.pins and not site.bays:
        _ask(picture, width, height)
        return picture
    _Plan(picture, design, floor_of(design, width, height), width, plan_height(height)).draw()
    top = plan_height(height)
    picture.line(0, top + 0.5, width, top + 0.5, "edge")
    cards = width - min(_CARDS, width * 0.46)
    _elevation(picture, design, (0.0, top, cards, height))
    picture.line(cards + 0.5, top, cards + 0.5, height, "edge")
    _ends(picture, design, forks, (cards + 12, top, width - 12, height))
    return picture


def _ask(picture: Picture, width: float, height: float) -> None:
    middle, y = width / 2, height / 2
    picture.text(middle, y - 60, "Where do cars stand, and where may the charger hang?", 24, BOLD, anchor=MIDDLE)
    told = "Feet east and north of the panel; its wall lies along the top, its room below."
    picture.text(middle, y - 30, told, 15, role="ink2", anchor=MIDDLE)
    for number, words in enumerate(("room Garage 24x20 at -4 -20", "bay Left at 10 -10 facing 90", "pin A at 18 -1")):
        at = y + 8 + 34 * number
        picture.text(middle, at, words, 18, DRAW, "scribe", MIDDLE)
        picture.hit(middle - 170, at - 20, 340, 28, f"ask-{number}", f"Type {words}", f"type:{words}")


class _Plan:
    """Draws the floor."""

    def __init__(self, picture: Picture, design: Design, floor: Floor, width: float, height: float) -> None:
        self.picture, self.design, self.floor, self.width = picture, design, floor, width
        self.labels = Labels(picture, 4, 22, width - 4, height - 4)
        self.height = height

    def draw(self) -> None:
        """Areas first, then things, the line, cars, cords and spots."""
        site = self.design.job.site
        self.picture.text(12, 19, "Floor", 13, BOLD, "ink2")
        for area in sorted(site.areas, key=lambda area: ("yard", "walk", "canopy", "room").index(area.kind)):
            self._area(area)
        self._working_space()
        for thing in site.things:
            self._thing(thing)
        self._line()
        shown = self._shown()
        for bay in site.bays:
            self._car(bay.id, shown)
        self._cord(shown)
        for pin in site.pins:
            self._pin(pin)
        self._names()
        self._rule()

    def _box(self, one: Area | Thing) -> tuple[float, float, float, float]:
        x, y = self.floor.at(one.x, one.y + one.deep)
        return x, y, one.wide * self.floor.scale, one.deep * self.floor.scale

    def _area(self, area: Area) -> None:
        x, y, wide, deep = self._box(area)
        if area.kind == "room":
            self.picture.box(x, y, wide, deep, "ink", 3, "ground")
        elif area.kind == "canopy":
            self.picture.box(x, y, wide, deep, "ink2", 1.4, dash=True)
            for across, down in ((0, 0), (1, 0), (0, 1), (1, 1)):
                self.picture.box(x + across * wide - 3, y + down * deep - 3, 6, 6, fill="ink2")
        elif area.kind == "walk":
            self.picture.box(x, y, wide, deep, "", hatch="slant:faint")
        else:
            self.picture.box(x, y, wide, deep, "faint", 1, dash=True)
        says = f"{area.kind} {area.name}, {self._size(area)}"
        self.picture.hit(x, y, wide, 12, area.id, says, f"type:{area.kind} {area.name} ")

    def _size(self, one: Area | Thing) -> str:
        units = self.design.job.units
        return f"{draw_length(one.wide, units)} by {draw_length(one.deep, units)}"

    def _thing(self, thing: Thing) -> None:
        x, y, wide, deep = self._box(thing)
        blocks = thing in in_the_way(self.design.job)
        role = ("tight" if thing.kind == "door" else "stop") if blocks else "edge"
        self.picture.box(x, y, max(wide, 3), max(deep, 3), role, 2 if blocks else 1.2, "sheet")
        if thing.kind == "door":
            self.picture.sweep(x, y + deep / 2, wide, -90, 90, role, 1)
        self.labels.block(x, y, max(wide, 3), max(deep, 3))
        says = f"{thing.name}, {thing.kind}, {self._size(thing)}" + (": in the working space" if blocks else "")
        self.picture.hit(x - 2, y - 2, wide + 4, deep + 4, thing.id, says, f"type:{thing.kind} {thing.name} ")

    def _working_space(self) -> None:
        """The panel on its wall, and the room that stays free before it."""
        wide, deep = CLEAR_M[0][1], CLEAR_M[1][1]
        x, y = self.floor.at(-wide / 2, 0.0)
        wide, deep = wide * self.floor.scale, deep * self.floor.scale
        self.picture.box(x, y, wide, deep, "edge", 1, "", dash=True, hatch="slant:faint")
        px, py = self.floor.at(0.0, 0.0)
        self.picture.box(px - 6, py - 3, 12, 6, fill="ink")
        self.labels.block(px - 7, py - 4, 14, 8)
        self.picture.hit(
            x, y, wide, deep, "working-space", "Working space before the panel, 30 by 36 inches, kept free"
        )

    def _line(self) -> None:
        for walked in self.design.line.legs:
            if walked.heading[2] == 0:
                start, end = self.floor.at(*walked.start[:2]), self.floor.at(*walked.end[:2])
                self.picture.line(*start, *end, "scribe", 3, dash=walked.place == "buried")
                low_x, low_y = min(start[0], end[0]) - 2, min(start[1], end[1]) - 3
                self.labels.block(low_x, low_y, abs(end[0] - start[0]) + 4, abs(end[1] - start[1]) + 6)

    def _shown(self) -> dict[str, Reach]:
        """Of each bay the way to stand that takes most cord from the chosen pin."""
        pin = chosen_pin(self.design.job)
        found: dict[str, Reach] = {}
        for reach in reaches(self.design.job):
            known = found.get(reach.bay)
            if pin is not None and reach.pin == pin.id and (known is None or reach.needs_m > known.needs_m):
                found[reach.bay] = reach
        return found

    def _car(self, bay_id: str, shown: dict[str, Reach]) -> None:
        job = self.design.job
        bay = next(bay for bay in job.site.bays if bay.id == bay_id)
        reach = shown.get(bay_id)
        cars = job.need.cars or (_CAR,)
        car = next((car for car in cars if reach and car.name == reach.car), cars[0])
        nose = reach.nose if reach else bay.noses[0]
        points = [self.floor.at(x, y) for x, y in car_shape(car, bay, nose)]
        self.picture.path(points, "ink", 1.6, "well", closed=True)
        angle = math.radians(bay.heading_deg + (0 if nose == "in" else 180))
        for share, wide in ((0.32, 0.42), (0.44, 0.3)):
            # The bonnet: two strokes across, so that the nose is seen.
            x, y = bay.x + share * car.long_m * math.cos(angle), bay.y + share * car.long_m * math.sin(angle)
            dx, dy = -wide * car.wide_m * math.sin(angle), wide * car.wide_m * math.cos(angle)
            self.picture.line(*self.floor.at(x - dx, y - dy), *self.floor.at(x + dx, y + dy), "edge", 1.2)
        xs, ys = [x for x, _ in points], [y for _, y in points]
        self.labels.block(min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys))
        x, y = self.floor.at(bay.x, bay.y)
        if max(xs) - min(xs) > 40:
            self.picture.text(x, y + 5, shorten(car.name, TEXT, 13, max(xs) - min(xs) - 8), 13, anchor=MIDDLE)
        says = f"{car.name}, nose {nose}, at {bay.name}; drag it"
        self.picture.hit(
            min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys), f"bay-{bay.id}", says, f"move:bay:{bay.id}"
        )
        port = self.floor.at(*port_of(car, bay, nose))
        self.picture.disc(*port, 4, "note", 1.8, "sheet")

    def _cord(self, shown: dict[str, Reach]) -> None:
        """The string of the hardest way to stand, and the edge the cord reaches."""
        job, pin = self.design.job, chosen_pin(self.design.job)
        cord = job.charger.cord_m
        if pin is None or not shown:
            return
        reach = max(shown.values(), key=lambda reach: reach.needs_m)
        short = cord is not None and reach.needs_m > cord
        role = "stop" if short else "note"
        points = [self.floor.at(x, y) for x, y in reach.path]
        if points:
            self.picture.path(points, role, 2.4)
        if cord is not None:
            x, y = self.floor.at(pin.x, pin.y)
            flat = math.sqrt(max(cord**2 - (pin.height_m - 0.9) ** 2, 0.0)) * self.floor.scale
            for start in range(0, 360, 12):
                # Only what lies on the plan: the scene goes on below it.
                low = y - flat * math.sin(math.radians(start)), y - flat * math.sin(math.radians(start + 6))
                if max(low) < self.height - 2 and min(low) > 2:
                    self.picture.sweep(x, y, flat, start, 6, "note", 1)
        if math.isfinite(reach.needs_m):
            told = f"string {draw_length(reach.needs_m, job.units)}"
            told += f" of a {draw_length(cord, job.units)} cord" if cord is not None else ""
            x, y = points[len(points) // 2] if points else self.floor.at(pin.x, pin.y)
            spots = [(x, y - 24, MIDDLE), (x - 12, y - 30, END), (x + 12, y - 30, START), (x, y + 60, MIDDLE)]
            self.labels.put(told, spots, 16, DRAW, role, plate="sheet")

    def _pin(self, pin: Pin) -> None:
        chosen = chosen_pin(self.design.job) is pin or self.design.job.site.pin == pin.id
        x, y = self.floor.at(pin.x, pin.y)
        self.picture.disc(x, y, 11, "scribe", 2, "scribe" if chosen else "sheet")
        self.picture.text(x, y + 5, pin.name, 14, BOLD, "sheet" if chosen else "scribe", MIDDLE)
        self.labels.block(x - 12, y - 12, 24, 24)
        says = f"Spot {pin.name}, {draw_length(pin.height_m, self.design.job.units)} up" + (
            ", chosen" if chosen else ""
        )
        self.picture.hit(x - 12, y - 12, 24, 24, f"pin-{pin.id}", says + "; drag it", f"move:pin:{pin.id}")

    def _names(self) -> None:
        x, y = self.floor.at(0.0, 0.0)
        self.labels.put("Panel", [(x, y - 9, MIDDLE), (x + 12, y - 6, START), (x - 12, y - 6, END)], 13, BOLD)
        for thing in self.design.job.site.things:
            left, top, wide, deep = self._box(thing)
            spots = [(left + wide / 2, top + deep + 15, MIDDLE), (left + wide + 5, top + deep / 2 + 5, START),
                     (left + wide / 2, top - 5, MIDDLE), (left - 5, top + deep / 2 + 5, END)]  # fmt: skip
            self.labels.put(thing.name, spots, 13, TEXT, "ink2")
        for area in self.design.job.site.areas:
            left, top, wide, deep = self._box(area)
            spots = [(left + 8, top + deep - 8, START), (left + 8, top + 18, START),
                     (left + wide - 8, top + deep - 8, END),
                     (left + wide / 2, top + deep + 15, MIDDLE)]  # fmt: skip
            self.labels.put(area.name, spots, 13, TEXT, "ink2")
        for walked in self.design.line.legs:
            if walked.heading[2] == 0 and walked.leg.length_m * self.floor.scale > 60:
                (x, y), (x2, y2) = self.floor.at(*walked.start[:2]), self.floor.at(*walked.end[:2])
                told = draw_length(walked.leg.length_m, self.design.job.units)
                cx, cy = (x + x2) / 2, (y + y2) / 2
                self.labels.put(told, [(cx, cy - 9, MIDDLE), (cx, cy + 22, MIDDLE), (cx + 9, cy, START)], 16, DRAW)

    def _rule(self) -> None:
        """A scale bar of a round length."""
        feet = self.design.job.units == "ft"
        unit = FOOT_M if feet else 1.0
        size = next((n for n in (50, 20, 10, 5, 2, 1) if n * unit * self.floor.scale < 150), 1)
        long, y = size * unit * self.floor.scale, self.height - 12
        for part in range(4):
            self.picture.box(12 + long * part / 4, y - 4, long / 4, 6, "ink", 1, "ink" if part % 2 == 0 else "sheet")
        self.picture.text(18 + long, y + 4, draw_length(size * unit, self.design.job.units), 16, DRAW)


def _elevation(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """Heights: ground, least height, the maker's band, charger and port."""
    left, top, right, bottom = area
    job, pin = design.job, chosen_pin(design.job)
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
    least = INSIDE_M if under_roof(job, pin) else OUTSIDE_M
    low, high = job.charger.band_low_m, job.charger.band_high_m
    if low is not None and high is not None:
        picture.box(left + 46, y(high), right - left - 62, (high - low) * scale, fill="notefill")
    picture.line(left + 46, y(least), right - 16, y(least), "tight", 1.2, dash=True)
    x = left + 96
    severity = next((f.severity for f in design.findings if f.id in ("height", "band") and f.severity == STOP), HOLDS)
    picture.box(x - 3, y(pin.height_m) - 30, 6, ground - y(pin.height_m) + 42, "edge", 1, "well")
    picture.box(x - 13, y(pin.height_m) - 22, 26, 44, "stop" if severity == STOP else "ink", 2, "sheet", 3)
    labels.block(x - 14, y(pin.height_m) - 30, 28, ground - y(pin.height_m) + 42)
    car = (job.need.cars or (_CAR,))[0]
    cx, wide = left + (right - left) * 0.5, 112.0
    labels.block(cx, y(1.75), wide, 1.75 * scale)
    told = f"{pin.name}, {draw_length(pin.height_m, job.units)}"
    up = y(pin.height_m)
    labels.put(told, [(x + 20, up - 8, START), (x + 20, up + 20, START), (x - 14, up - 34, START)], 16, DRAW)
    if low is not None and high is not None:
        labels.put("maker's band", [(right - 18, y(high) - 5, END), (right - 18, y(high) + 15, END)], 13, TEXT, "note")
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
    says = f"Heights: charger {draw_length(pin.height_m, job.units)} up, port {draw_length(car.port_m, job.units)}"
    picture.hit(
        left + 46, top + 30, right - left - 62, ground - top - 30, "heights", says, f"type:pin {pin.name} high "
    )


def _ends(picture: Picture, design: Design, forks: tuple[Quote, ...], area: tuple[float, float, float, float]) -> None:
    """A card for each spot, and the fork at the line's end: hardwired or an outlet."""
    left, y, right, bottom = area
    job = design.job
    picture.text(left, y + 20, "Where the line may end", 13, BOLD, "ink2")
    y += 28
    for pin in job.site.pins:
        chosen = chosen_pin(job) is pin
        severity, told = _pin_words(design, pin)
        fill, role = ("notefill", "scribe") if chosen else ("ground", "edge")
        picture.box(left, y, right - left, 27, role, 2 if chosen else 1, fill, 3)
        picture.disc(left + 16, y + 13, 9, "scribe", 1.6, "scribe" if chosen else "sheet")
        picture.text(left + 16, y + 18, pin.name, 13, BOLD, "sheet" if chosen else "scribe", MIDDLE)
        mark(picture, severity, left + 38, y + 13, 11)
        picture.sentence(left + 52, y + 18, shorten(told, TEXT, 13, right - left - 60), 13, TEXT)
        says = f"Spot {pin.name}: {NAMES[severity]}, {told}" + (", chosen" if chosen else "")
        picture.hit(left, y, right - left, 27, f"end-{pin.id}", says, f"put:site.pin={pin.id}")
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


def _pin_words(design: Design, pin: Pin) -> tuple[str, str]:
    """How a spot serves the cars, in a few words."""
    job = design.job
    found = [reach for reach in reaches(job) if reach.pin == pin.id]
    cord = job.charger.cord_m
    if not found:
        return NOTE, "no parking spot entered"
    least, most = (pick(reach.needs_m for reach in found) for pick in (min, max))
    if cord is None:
        return NOTE, f"cord not read; takes {draw_length(most, job.units)}" if math.isfinite(most) else "no way there"
    if least > cord:
        short = draw_length(least - cord, job.units) if math.isfinite(least) else ""
        return STOP, f"cord {short} short" if short else "no way leads there"
    if most > cord:
        return TIGHT, f"reaches one way, {draw_length(most - cord, job.units)} short the other"
    return HOLDS, f"cord {draw_length(cord - most, job.units)} to spare"
