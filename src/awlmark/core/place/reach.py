"""Cords and cars: whether the coupling reaches the port, every way a car may stand."""

from __future__ import annotations

import functools
import math
from typing import Final

import msgspec

from awlmark.core.job.driving import Car
from awlmark.core.job.model import Job
from awlmark.core.job.site import Area, Bay, Pin, Site, Thing
from awlmark.core.place.string import Point, Shape, length, meets, rectangle, taut
from awlmark.core.quantities import FOOT_M

LONGEST_CORD_M: Final = 25 * FOOT_M
"""625.17: longer only with a device that manages it."""
PORT_AT: Final = {
    "front left": (0.5, 0.5), "front right": (0.5, -0.5), "front": (0.5, 0.0), "left": (0.0, 0.5),
    "right": (0.0, -0.5), "rear left": (-0.5, 0.5), "rear right": (-0.5, -0.5), "rear": (-0.5, 0.0),
}  # fmt: skip
"""Where a port lies, in lengths and widths from the car's middle, forward and to its left."""
SOFT_THINGS: Final = ("door", "meter")
"""Things a cord does not go round."""
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
    """Room whose wall it passes; nothing for none."""


def car_shape(car: Car, bay: Bay, nose: str) -> Shape:
    """Outline of a car in its bay."""
    return rectangle(bay.x, bay.y, car.long_m, car.wide_m, bay.heading_deg)


def port_of(car: Car, bay: Bay, nose: str) -> Point:
    """Where the port is [m]."""
    angle = math.radians(bay.heading_deg + (0 if nose == "in" else 180))
    forward, aside = PORT_AT[car.port]
    x, y = forward * car.long_m, aside * car.wide_m
    return bay.x + x * math.cos(angle) - y * math.sin(angle), bay.y + x * math.sin(angle) + y * math.cos(angle)


def shape_of(one: Area | Thing) -> Shape:
    """Outline of an area or a thing."""
    return rectangle(one.x + one.wide / 2, one.y + one.deep / 2, one.wide, one.deep)


def inside(point: Point, one: Area | Thing, margin: float = 0.01) -> bool:
    """Whether a point lies within a rectangle, its edge not counted."""
    return (
        one.x + margin < point[0] < one.x + one.wide - margin and one.y + margin < point[1] < one.y + one.deep - margin
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


def _reach(site: Site, pin: Pin, bay: Bay, car: Car, nose: str) -> Reach:
    start, end = (pin.x, pin.y), port_of(car, bay, nose)
    rooms = [area for area in site.areas if area.kind == "room"]
    apart = [room for room in rooms if inside(start, room) != inside(end, room)]
    solid = [shape_of(room) for room in rooms if not inside(start, room) and not inside(end, room)]
    solid += [
        shape_of(thing)
        for thing in site.things
        if thing.kind not in SOFT_THINGS and not inside(start, thing, -0.05) and not inside(end, thing, -0.05)
    ]
    own = car_shape(car, bay, nose)
    # Where two spots share their ground only one car stands.
    parked = [car_shape(car, other, nose) for other in site.bays if other is not bay]
    solid += [shape for shape in parked if not meets([*shape, shape[0]], own) and not _holds(shape, start)]
    path = taut(start, end, [*solid, own])
    needs = math.hypot(length(path), pin.height_m - car.port_m) if path else math.inf
    walks = tuple(area.name for area in site.areas if area.kind == "walk" and meets(path, shape_of(area)))
    return Reach(pin.id, car.name, bay.id, nose, tuple(path), needs, walks, apart[0].name if apart else "")
