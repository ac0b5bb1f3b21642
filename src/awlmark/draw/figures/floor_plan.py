"""The floor from above to scale: areas, things, the line, cars and cords."""

from __future__ import annotations

import math
from typing import Final

import msgspec

from awlmark.core.finding import STOP, TIGHT
from awlmark.core.job.floor import Area, Pin, Thing
from awlmark.core.options.spots import SpotWay
from awlmark.core.place.check import chosen_pin, in_the_way, room_words
from awlmark.core.place.reach import ANY_CAR, Reach, car_shape, port_of, reaches, shape_of
from awlmark.core.quantities import FOOT_M, draw_length
from awlmark.core.solve.design import Design
from awlmark.draw.figures.tray import WIDE as TRAY
from awlmark.draw.kit.labels import Labels
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture, shorten
from awlmark.draw.view_state import Look

_MARGIN: Final = 34.0
EDGES: Final = {
    "nw": "North-west corner", "n": "North side", "ne": "North-east corner", "e": "East side",
    "se": "Corner", "s": "South side", "sw": "South-west corner", "w": "West side",
}  # fmt: skip
"""What an area or a thing is pulled by."""
GRIP: Final = 26.0
"""Least side of what has a corner to pull at [px]."""


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
    bare = not (site.areas or site.bays or site.pins or site.things)
    xs, ys = ([-5.0, 9.0], [1.0, -8.0]) if bare else ([0.0, 1.0], [0.0, -1.0])
    for shape in [shape_of(area) for area in site.areas] + [shape_of(thing) for thing in site.things]:
        xs += [x for x, _ in shape]
        ys += [y for _, y in shape]
    for walked in design.line.legs:
        xs += [walked.start[0], walked.end[0]]
        ys += [walked.start[1], walked.end[1]]
    for bay in site.bays:
        xs += [bay.x_m - 3, bay.x_m + 3]
        ys += [bay.y_m - 3, bay.y_m + 3]
    for pin in design.placed.site.pins:
        xs.append(pin.x_m)
        ys.append(pin.y_m)
    tall = plan_height(height)
    room = width - TRAY
    scale = min((room - 2 * _MARGIN) / (max(xs) - min(xs)), (tall - 60) / (max(ys) - min(ys)), 120.0)
    left = TRAY + (room - (max(xs) - min(xs)) * scale) / 2 - min(xs) * scale
    return Floor(scale, left, 34 + max(ys) * scale + (tall - 60 - (max(ys) - min(ys)) * scale) / 2)


class FloorPlan:
    """Draws the floor."""

    def __init__(
        self,
        picture: Picture,
        design: Design,
        look: Look,
        spots: tuple[SpotWay, ...],
        floor: Floor,
        size: tuple[float, float],
    ) -> None:
        width, height = size
        self.picture, self.design, self.floor, self.width = picture, design, floor, width
        self.at_m, self.held, self.spots = look.seen_m, look.held, spots
        self.labels = Labels(picture, TRAY + 4, 22, width - 4, height - 4)
        self.height = height

    def draw(self) -> None:
        """Areas first, then things, the line, cars, cords and spots."""
        site = self.design.job.site
        self.picture.text(TRAY + 12, 19, "Floor", 13, BOLD, "ink2")
        self.picture.text(TRAY + 58, 19, "wheel zooms, drag pans, Home fits", 13, role="ink2")
        for area in sorted(site.areas, key=lambda area: ("yard", "walk", "canopy", "room").index(area.kind)):
            self._area(area)
        self._working_space()
        for thing in site.things:
            self._thing(thing)
        self._routes()
        self._line()
        shown = self._shown()
        for bay in site.bays:
            self._car(bay.id, shown)
        self._cord(shown)
        for pin in self.design.placed.site.pins:
            self._pin(pin)
        self._awl()
        self._names()
        self._rule()

    def _box(self, one: Area | Thing) -> tuple[float, float, float, float]:
        x, y = self.floor.at(one.x_m, one.y_m + one.deep_m)
        return x, y, one.wide_m * self.floor.scale, one.deep_m * self.floor.scale

    def _area(self, area: Area) -> None:
        x, y, wide, deep = self._box(area)
        if area.kind == "room":
            self.picture.box(x, y, wide, deep, "ink", 3, "ground")
            for wall in ((x, y, wide, 1), (x, y + deep, wide, 1), (x, y, 1, deep), (x + wide, y, 1, deep)):
                self.labels.block(*wall)
        elif area.kind == "canopy":
            self.picture.box(x, y, wide, deep, "ink2", 1.4, dash=True)
            for across, down in ((0, 0), (1, 0), (0, 1), (1, 1)):
                self.picture.box(x + across * wide - 3, y + down * deep - 3, 6, 6, fill="ink2")
        elif area.kind == "walk":
            self.picture.box(x, y, wide, deep, "", hatch="slant:faint")
        else:
            self.picture.box(x, y, wide, deep, "edge", 1, dash=True)
        says = f"{area.kind} {area.name}, {self._size(area)}; drag it"
        self.picture.hit(x, y - 4, wide, 14, area.id, says, f"move:area:{area.id}")
        self._corner(area, "area", x + wide, y + deep)

    def _corner(self, one: Area | Thing, kind: str, x: float, y: float) -> None:
        """Handles that stretch an area or a thing: its corner; of what is in hand all its corners and sides."""
        if one.id != self.held and min(one.wide_m, one.deep_m) * self.floor.scale < GRIP:
            return
        wide, deep = one.wide_m * self.floor.scale, one.deep_m * self.floor.scale
        for edges, name in EDGES.items() if one.id == self.held else (("se", EDGES["se"]),):
            across = x - (wide if "w" in edges else 0 if "e" in edges else wide / 2)
            down = y - (deep if "n" in edges else 0 if "s" in edges else deep / 2)
            role = "scribe" if one.id == self.held else "edge"
            self.picture.box(across - 3, down - 3, 6, 6, role, 1, "sheet")
            hit_id = f"corner-{one.id}" if edges == "se" else f"edge-{edges}-{one.id}"
            says = f"{name} of {one.name}: drag it"
            self.picture.hit(across - 6, down - 6, 12, 12, hit_id, says, f"stretch:{kind}:{one.id}:{edges}")

    def _size(self, one: Area | Thing) -> str:
        units = self.design.job.units
        return f"{draw_length(one.wide_m, units)} by {draw_length(one.deep_m, units)}"

    def _thing(self, thing: Thing) -> None:
        x, y, wide, deep = self._box(thing)
        blocks = thing in in_the_way(self.design.job, self.design.book)
        role = ("tight" if thing.kind == "door" else "stop") if blocks else "edge"
        self.picture.box(x, y, max(wide, 3), max(deep, 3), role, 2 if blocks else 1.2, "sheet")
        if thing.kind == "door":
            self.picture.sweep(x, y + deep / 2, wide, -90, 90, role, 1)
            self.labels.block(x, y + deep / 2, wide + 1, wide + 1)
        self.labels.block(x, y, max(wide, 3), max(deep, 3))
        says = f"{thing.name}, {thing.kind}, {self._size(thing)}" + (": in the working space" if blocks else "")
        self.picture.hit(x - 2, y - 2, wide + 4, deep + 4, thing.id, says + "; drag it", f"move:thing:{thing.id}")
        self._corner(thing, "thing", x + max(wide, 3), y + max(deep, 3))

    def _working_space(self) -> None:
        """The panel on its wall, and the room that stays free before it."""
        wide, deep, _high = self.design.book.place.clear_m
        panel = self.design.book.words.panel
        if not wide:
            x, y = self.floor.at(0.0, 0.0)
            self.picture.box(x - 6, y - 3, 12, 6, fill="ink")
            self.labels.block(x - 7, y - 4, 14, 8)
            self.picture.hit(x - 8, y - 6, 16, 12, "working-space", f"The {panel} on its wall; it wants free access")
            return
        x, y = self.floor.at(-wide / 2, 0.0)
        wide, deep = wide * self.floor.scale, deep * self.floor.scale
        self.picture.box(x, y, wide, deep, "edge", 1, "", dash=True, hatch="slant:faint")
        px, py = self.floor.at(0.0, 0.0)
        self.picture.box(px - 6, py - 3, 12, 6, fill="ink")
        self.labels.block(px - 7, py - 4, 14, 8)
        self.picture.hit(
            x,
            y,
            wide,
            deep,
            "working-space",
            f"Working space before the {panel}, {room_words(self.design.job, self.design.book)}, kept free",
        )

    def _awl(self) -> None:
        here = self.design.line.leg_at(self.at_m)
        if here is not None:
            self.picture.disc(*self.floor.at(*here.point_at(self.at_m)[:2]), 5, "ink", 2, "tape")

    def _routes(self) -> None:
        """The run led to each other spot, a thin line each."""
        here = chosen_pin(self.design.placed)
        for spot in self.spots:
            if spot.path and (here is None or spot.pin != here.id):
                points = [self.floor.at(*point) for point in spot.path]
                self.picture.path(points, "scribe", 1, dash=True)

    def _line(self) -> None:
        for walked in self.design.line.legs:
            if walked.heading[2] == 0:
                start, end = self.floor.at(*walked.start[:2]), self.floor.at(*walked.end[:2])
                self.picture.line(*start, *end, "scribe", 3, dash=walked.place == "buried")
                low_x, low_y = min(start[0], end[0]) - 2, min(start[1], end[1]) - 3
                self.labels.block(low_x, low_y, abs(end[0] - start[0]) + 4, abs(end[1] - start[1]) + 6)

    def _shown(self) -> dict[str, Reach]:
        """Of each bay the way to stand that takes most cord from the chosen pin."""
        pin = chosen_pin(self.design.placed)
        found: dict[str, Reach] = {}
        for reach in reaches(self.design.placed):
            known = found.get(reach.bay)
            if pin is not None and reach.pin == pin.id and (known is None or reach.needs_m > known.needs_m):
                found[reach.bay] = reach
        return found

    def _car(self, bay_id: str, shown: dict[str, Reach]) -> None:
        job = self.design.job
        bay = next(bay for bay in job.site.bays if bay.id == bay_id)
        reach = shown.get(bay_id)
        cars = job.need.cars or (ANY_CAR,)
        car = next((car for car in cars if reach and car.name == reach.car), cars[0])
        nose = reach.nose if reach else bay.noses[0]
        points = [self.floor.at(x, y) for x, y in car_shape(car, bay, nose)]
        self.picture.path(points, "ink", 1.6, "well", closed=True)
        angle = math.radians(bay.heading_deg + (0 if nose == "in" else 180))
        for share, wide in ((0.32, 0.42), (0.44, 0.3)):
            # The bonnet: two strokes across, so that the nose is seen.
            x, y = bay.x_m + share * car.long_m * math.cos(angle), bay.y_m + share * car.long_m * math.sin(angle)
            dx, dy = -wide * car.wide_m * math.sin(angle), wide * car.wide_m * math.cos(angle)
            self.picture.line(*self.floor.at(x - dx, y - dy), *self.floor.at(x + dx, y + dy), "edge", 1.2)
        xs, ys = [x for x, _ in points], [y for _, y in points]
        self.labels.block(min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys))
        x, y = self.floor.at(bay.x_m, bay.y_m)
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
        job, pin = self.design.job, chosen_pin(self.design.placed)
        cord = job.charger.cord_m
        if pin is None or not shown:
            return
        reach = max(shown.values(), key=lambda reach: reach.needs_m)
        severity = self.design.mark("reach")
        role = severity if severity in (STOP, TIGHT) else "note"
        for other in shown.values():
            if other is not reach and other.path:
                self.picture.path([self.floor.at(x, y) for x, y in other.path], "note", 1.2)
        points = [self.floor.at(x, y) for x, y in reach.path]
        if points:
            self.picture.path(points, role, 2.4)
        if cord is not None:
            x, y = self.floor.at(pin.x_m, pin.y_m)
            flat = math.sqrt(max(cord**2 - (pin.height_m - 0.9) ** 2, 0.0)) * self.floor.scale
            self._ring(x, y, flat, "note")
        if math.isfinite(reach.needs_m):
            told = f"string {draw_length(reach.needs_m, job.units)}"
            told += f" of a {draw_length(cord, job.units)} {self.design.book.words.cord}" if cord is not None else ""
            x, y = points[len(points) // 2] if points else self.floor.at(pin.x_m, pin.y_m)
            spots = [(x, y - 24, MIDDLE), (x - 12, y - 30, END), (x + 12, y - 30, START), (x, y + 60, MIDDLE)]
            self.labels.put(told, spots, 16, DRAW, role, plate="sheet")

    def _ring(self, x: float, y: float, radius: float, role: str) -> None:
        """A dashed circle, as far as it lies on the plan: the scene goes on below it."""
        for start in range(0, 360, 12):
            low = y - radius * math.sin(math.radians(start)), y - radius * math.sin(math.radians(start + 6))
            if max(low) < self.height - 2 and min(low) > 2:
                self.picture.sweep(x, y, radius, start, 6, role, 1)

    def _pin(self, pin: Pin) -> None:
        here = chosen_pin(self.design.placed)
        chosen = here is not None and here.id == pin.id
        x, y = self.floor.at(pin.x_m, pin.y_m)
        if chosen and self.design.job.charger.pen == "island":
            # Nothing that the supply earths may stand within it.
            clear = self.design.book.place.island_m
            self._ring(x, y, clear * self.floor.scale, "scribe")
            told, up = f"{draw_length(clear, self.design.job.units)} clear of its earth", clear * self.floor.scale
            self.labels.put(
                told, [(x, y + up + 14, MIDDLE), (x, y - up - 6, MIDDLE)], 13, TEXT, "scribe", plate="sheet"
            )
        self.picture.disc(x, y, 11, "scribe", 2, "scribe" if chosen else "sheet")
        self.picture.text(x, y + 5, pin.name, 14, BOLD, "sheet" if chosen else "scribe", MIDDLE)
        self.labels.block(x - 12, y - 12, 24, 24)
        says = f"Spot {pin.name}, {draw_length(pin.height_m, self.design.job.units)} up" + (
            ", chosen" if chosen else ""
        )
        self.picture.hit(x - 12, y - 12, 24, 24, f"pin-{pin.id}", says + "; drag it", f"move:pin:{pin.id}")

    def _names(self) -> None:
        x, y = self.floor.at(0.0, 0.0)
        self.labels.put(
            self.design.book.words.board, [(x, y - 9, MIDDLE), (x + 12, y - 6, START), (x - 12, y - 6, END)], 13, BOLD
        )
        for thing in self.design.job.site.things:
            left, top, wide, deep = self._box(thing)
            spots = [(left + wide / 2, top + deep + 15, MIDDLE), (left + wide + 5, top + deep / 2 + 5, START),
                     (left + wide / 2, top - 5, MIDDLE), (left - 5, top + deep / 2 + 5, END)]  # fmt: skip
            if thing.kind == "door":
                # Clear of its leaf first.
                spots = [(left + wide / 2, top + deep / 2 + wide + 16, MIDDLE), *spots]
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
            self.picture.box(
                TRAY + 12 + long * part / 4, y - 4, long / 4, 6, "ink", 1, "ink" if part % 2 == 0 else "sheet"
            )
        self.picture.text(TRAY + 18 + long, y + 4, draw_length(size * unit, self.design.job.units), 16, DRAW)
