"""Cords and cars: whether the coupling reaches the port, every way a car may stand."""

from __future__ import annotations

import functools
import math
from typing import Final

import msgspec

from awlmark.core.job.cars import Car
from awlmark.core.job.floor import Area, Bay, Pin, Site, Thing
from awlmark.core.job.model import Job
from awlmark.core.place.shortest_path import Point, Shape, length, meets, rectangle, taut

PORT_AT: Final = {
    "front left": (0.5, 0.5), "front right": (0.5, -0.5), "front": (0.5, 0.0), "left": (0.0, 0.5),
    "right": (0.0, -0.5), "rear left": (-0.5, 0.5), "rear right": (-0.5, -0.5), "rear": (-0.5, 0.0),
}  # fmt: skip
"""Where a port lies, in lengths and widths from the car's middle, forward and to its left."""
SOFT_THINGS: Final = ("door", "meter")
"""Things a cord does not go round."""
WALL_M: Final = 0.002
"""Thin enough that no spot on a face of it lies within."""
IN_WALL_M: Final = 0.3
"""A door that lies nearer than this to a wall's line opens it."""
ANY_CAR: Final = Car(id="any", name="car")
"""Stands in a bay while no car is entered."""


class Reach(msgspec.Struct, frozen=True):
    """One pin, one car, one bay, one way to stand in it."""

    pin: str
    car: str
    bay: str
    nose: str
    path: tuple[Point, ...]
    """Seen from above; empty where no way leads there."""
    needs_m: float
    """Cord it takes [m]; inf without a way."""
    trips: tuple[str, ...]
    """Ways people walk that it lies across."""
    through: str
    """Room whose wall lies between; nothing for none."""
    doors: tuple[str, ...] = ()
    """Doors it passes of which nobody has said whether they stand open, by id."""


def car_shape(car: Car, bay: Bay, nose: str) -> Shape:
    """Outline of a car in its bay."""
    return rectangle(bay.x_m, bay.y_m, car.long_m, car.wide_m, bay.heading_deg)


def port_of(car: Car, bay: Bay, nose: str) -> Point:
    """Where the port is [m]."""
    angle = math.radians(bay.heading_deg + (0 if nose == "in" else 180))
    forward, aside = PORT_AT[car.port]
    x, y = forward * car.long_m, aside * car.wide_m
    return bay.x_m + x * math.cos(angle) - y * math.sin(angle), bay.y_m + x * math.sin(angle) + y * math.cos(angle)


def shape_of(one: Area | Thing) -> Shape:
    """Outline of an area or a thing."""
    return rectangle(one.x_m + one.wide_m / 2, one.y_m + one.deep_m / 2, one.wide_m, one.deep_m)


def inside(point: Point, one: Area | Thing, margin: float = 0.01) -> bool:
    """Whether a point lies within a rectangle, its edge not counted."""
    return (
        one.x_m + margin < point[0] < one.x_m + one.wide_m - margin
        and one.y_m + margin < point[1] < one.y_m + one.deep_m - margin
    )


def reaches(job: Job) -> tuple[Reach, ...]:
    """Every pin against every car in every bay, nose in and nose out.

    Parameters
    ----------
    job : Job
        Its site and cars; without a car a common one stands in each bay.
    """
    if not job.site.pins or not job.site.bays:
        return ()
    return _reaches(msgspec.json.encode(job.site), msgspec.json.encode(job.need.cars))


@functools.lru_cache(maxsize=32)
def _reaches(encoded_site: bytes, encoded_cars: bytes) -> tuple[Reach, ...]:
    """Kept by its whole input: most edits leave the floor alone."""
    site = msgspec.json.decode(encoded_site, type=Site)
    cars = msgspec.json.decode(encoded_cars, type=tuple[Car, ...]) or (ANY_CAR,)
    found = []
    for pin in site.pins:
        for bay in site.bays:
            for car in cars:
                found += [_reach(site, pin, bay, car, nose) for nose in bay.noses]
    return tuple(found)


def _holds(shape: Shape, point: Point) -> bool:
    """Whether a point lies inside a convex outline."""
    x, y = point
    edges = zip(shape, (*shape[1:], shape[0]), strict=True)
    return all((x2 - x1) * (y - y1) - (y2 - y1) * (x - x1) > 0 for (x1, y1), (x2, y2) in edges)


def _side(point: Point, rooms: list[Area], car: Point) -> tuple[Point, list[Area]]:
    """A spot and the rooms it is in; one on a wall's very line hangs in the room of the car, else in the first."""
    within = [room for room in rooms if inside(point, room)]
    on_line = [room for room in rooms if room not in within and inside(point, room, -0.01)]
    if on_line and not within:
        room = next((room for room in on_line if inside(car, room)), on_line[0])
        x = min(max(point[0], room.x_m + 0.02), room.x_m + room.wide_m - 0.02)
        y = min(max(point[1], room.y_m + 0.02), room.y_m + room.deep_m - 0.02)
        return (x, y), [room]
    return point, within


def _walls(room: Area, doors: list[Thing]) -> list[Shape]:
    """The walls of a room as thin outlines, without what its open doors leave free."""
    found = []
    west, south = room.x_m, room.y_m
    east, north = west + room.wide_m, south + room.deep_m
    for level, along, low, high in (
        (south, True, west, east), (north, True, west, east), (west, False, south, north), (east, False, south, north),
    ):  # fmt: skip
        gaps = []
        for door in doors:
            off, deep = (door.y_m, door.deep_m) if along else (door.x_m, door.wide_m)
            start, wide = (door.x_m, door.wide_m) if along else (door.y_m, door.deep_m)
            # A door lies along its wall.
            if off - IN_WALL_M < level < off + deep + IN_WALL_M and wide >= deep:
                gaps.append((start, start + wide))
        # Walls lap at the corners, so that nothing slips through there.
        at, end = low - 0.05, high + 0.05
        for gap_low, gap_high in [*sorted(gaps), (end, end)]:
            if gap_low > at:
                middle, long = (at + min(gap_low, end)) / 2, min(gap_low, end) - at
                shape = (middle, level, long, WALL_M) if along else (level, middle, WALL_M, long)
                found.append(rectangle(*shape))
            at = max(at, gap_high)
    return found


def _reach(site: Site, pin: Pin, bay: Bay, car: Car, nose: str) -> Reach:
    end = port_of(car, bay, nose)
    rooms = [area for area in site.areas if area.kind == "room"]
    start, at_start = _side((pin.x_m, pin.y_m), rooms, end)
    at_end = [room for room in rooms if inside(end, room)]
    apart = [room for room in rooms if (room in at_start) != (room in at_end)]
    solid = [shape_of(room) for room in rooms if room not in at_start and room not in at_end]
    solid += [
        shape_of(thing)
        for thing in site.things
        if thing.kind not in SOFT_THINGS and not inside(start, thing, -0.05) and not inside(end, thing, -0.05)
    ]
    own = car_shape(car, bay, nose)
    # Where two spots share their ground only one car stands.
    parked = [car_shape(car, other, nose) for other in site.bays if other is not bay]
    solid += [shape for shape in parked if not meets([*shape, shape[0]], own) and not _holds(shape, start)]
    solid.append(own)
    doors = [thing for thing in site.things if thing.kind == "door" and thing.open is not False]
    sure = [door for door in doors if door.open]
    shell = [room for room in rooms if room in at_start or room in at_end]
    path = taut(start, end, [*solid, *(wall for room in shell for wall in _walls(room, sure))])
    asked: tuple[str, ...] = ()
    if not path and len(sure) < len(doors):
        path = taut(start, end, [*solid, *(wall for room in shell for wall in _walls(room, doors))])
        asked = tuple(door.id for door in doors if not door.open and meets(path, _leaf(door)))
    needs = math.hypot(length(path), pin.height_m - car.port_m) if path else math.inf
    walks = tuple(area.name for area in site.areas if area.kind == "walk" and meets(path, shape_of(area)))
    return Reach(pin.id, car.name, bay.id, nose, tuple(path), needs, walks, apart[0].name if apart else "", asked)


def _leaf(door: Thing) -> Shape:
    """The ground a doorway takes, as deep as a wall may be."""
    x, y = door.x_m + door.wide_m / 2, door.y_m + door.deep_m / 2
    wide = door.wide_m >= door.deep_m
    return rectangle(x, y, door.wide_m + (0 if wide else IN_WALL_M * 2), door.deep_m + (IN_WALL_M * 2 if wide else 0))
