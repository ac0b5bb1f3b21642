"""What is done to the floor by hand: put on it, moved, stretched; each snaps to what stands there."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final, NamedTuple

from awlmark.core.job.edit import Put, value_at
from awlmark.core.job.floor import AREA_KINDS, THING_HIGH_M, Area, Bay, Pin, Thing
from awlmark.core.job.model import Job
from awlmark.core.quantities import FOOT_M, INCH_M, print_length

Box = tuple[float, float, float, float]
"""West, south, width and depth [m]."""
FROM_TRAY: Final[dict[str, tuple[str, float, float]]] = {
    "room": ("Room", 20 * FOOT_M, 16 * FOOT_M),
    "canopy": ("Lean-to", 20 * FOOT_M, 12 * FOOT_M),
    "walk": ("Path", 4 * FOOT_M, 12 * FOOT_M),
    "bay": ("Bay", 16 * FOOT_M, 6 * FOOT_M),
    "door": ("Door", 3 * FOOT_M, 0.5 * FOOT_M),
    "other": ("Thing", 4 * FOOT_M, 2 * FOOT_M),
    "pin": ("Spot", 0.0, 0.0),
}
"""What can be put on a floor: what it is called, and how large it is until somebody says [m]."""
PIN_NAMES: Final = ("A", "B", "C")


class Snap(NamedTuple):
    """Where something comes to lie, and the lines it was drawn to."""

    box: Box
    east_m: tuple[float, ...] = ()
    """Lines from north to south that an edge of it lies on."""
    north_m: tuple[float, ...] = ()


def _step(job: Job) -> float:
    """Half feet, or tenths of a metre."""
    return FOOT_M / 2 if job.units == "ft" else 0.1


def _lines(job: Job, but: str) -> tuple[list[float], list[float]]:
    """Edges of everything on the floor, the panel's wall among them."""
    east, north = [0.0], [0.0]
    boxes: tuple[Area | Thing, ...] = (*job.site.areas, *job.site.things)
    for one in boxes:
        if one.id != but:
            east += [one.x_m, one.x_m + one.wide_m]
            north += [one.y_m, one.y_m + one.deep_m]
    return east, north


def _nearest(edges: Iterable[float], lines: list[float], near_m: float) -> tuple[float, float] | None:
    """How far to go so that an edge lies on the nearest line, and that line."""
    found = [(line - edge, line) for edge in edges for line in lines if abs(line - edge) <= near_m]
    return min(found, key=lambda one: abs(one[0]), default=None)


def snapped(job: Job, box: Box, near_m: float, but: str = "", end: tuple[float, float] | None = None) -> Snap:
    """Where something dragged over the floor comes to lie.

    Parameters
    ----------
    job : Job
        What stands there already.
    box : tuple of float
        West, south, width and depth of what is dragged [m]; a spot has neither width nor depth.
    near_m : float
        How near an edge has to be to another to be drawn to it [m].
    but : str
        Id of what is dragged, where it stands there already.
    end : tuple of float
        Where the run ends; a spot is drawn to it [m].
    """
    x, y, wide, deep = box
    if not wide and end is not None and abs(end[0] - x) <= near_m and abs(end[1] - y) <= near_m:
        return Snap((*end, 0.0, 0.0), (end[0],), (end[1],))
    east, north = _lines(job, but)
    across, along = _nearest((x, x + wide), east, near_m), _nearest((y, y + deep), north, near_m)
    step = _step(job)
    x = x + across[0] if across else round(x / step) * step
    y = y + along[0] if along else round(y / step) * step
    return Snap((round(x, 4), round(y, 4), wide, deep), (across[1],) if across else (), (along[1],) if along else ())


def stretched(job: Job, box: Box, edges: str, by: tuple[float, float], near_m: float, but: str = "") -> Snap:
    """A box with some of its edges pulled: ``n``, ``s``, ``e``, ``w`` or two of them; the others stay.

    An edge is drawn to another near it, else the size comes to a half foot or a tenth of a metre.
    """
    x, y, wide, deep = box
    west, east, south, north = x, x + wide, y, y + deep
    lines, step = _lines(job, but), _step(job)
    drawn: tuple[list[float], list[float]] = ([], [])

    def pull(edge: float, other: float, by_m: float, axis: int) -> float:
        near = _nearest((edge + by_m,), lines[axis], near_m)
        if near is not None:
            drawn[axis].append(near[1])
            return near[1]
        sign = 1.0 if edge > other else -1.0
        return other + sign * max(round(abs(edge + by_m - other) / step) * step, step)

    if "e" in edges:
        east = pull(east, west, by[0], 0)
    if "w" in edges:
        west = pull(west, east, by[0], 0)
    if "n" in edges:
        north = pull(north, south, by[1], 1)
    if "s" in edges:
        south = pull(south, north, by[1], 1)
    size = max(round(east - west, 4), INCH_M), max(round(north - south, 4), INCH_M)
    return Snap((round(west, 4), round(south, 4), *size), tuple(drawn[0]), tuple(drawn[1]))


def in_wall(job: Job, box: Box, near_m: float) -> Snap:
    """A door drawn into the nearest wall of a room, along it; where none is near it lies as anything else."""
    x, y, wide, deep = box
    middle = x + wide / 2, y + deep / 2
    found: list[tuple[float, Box, tuple[tuple[float, ...], tuple[float, ...]]]] = []
    long, thick = max(wide, deep), min(wide, deep)
    for room in job.site.areas:
        if room.kind != "room":
            continue
        for level in (room.y_m, room.y_m + room.deep_m):
            if room.x_m <= middle[0] <= room.x_m + room.wide_m:
                found.append((abs(middle[1] - level), (x, level - thick / 2, long, thick), ((), (level,))))
        for level in (room.x_m, room.x_m + room.wide_m):
            if room.y_m <= middle[1] <= room.y_m + room.deep_m:
                along = middle[1] - long / 2
                found.append((abs(middle[0] - level), (level - thick / 2, along, thick, long), ((level,), ())))
    off, there, lines = min(found, key=lambda one: one[0], default=(near_m + 1.0, box, ((), ())))
    if off > near_m:
        return snapped(job, box, near_m)
    step, (east, north) = _step(job), lines
    x, y, *size = there
    x, y = (x, round(y / step) * step) if east else (round(x / step) * step, y)
    return Snap((round(x, 4), round(y, 4), size[0], size[1]), east, north)


def box_of(one: Area | Thing | Pin | Bay) -> Box:
    """Where something stands; of a bay its middle, of a spot the spot."""
    if isinstance(one, Area | Thing):
        return one.x_m, one.y_m, one.wide_m, one.deep_m
    return one.x_m, one.y_m, 0.0, 0.0


def boxed(path: str, box: Box) -> tuple[Put, ...]:
    """Edits that give an area or a thing its place and size."""
    names = ("x_m", "y_m", "wide_m", "deep_m")
    return tuple(Put(f"{path}.{name}", round(value, 4)) for name, value in zip(names, box, strict=True))


def moved(path: str, box: Box) -> tuple[Put, ...]:
    """Edits that move something; its size stays."""
    return Put(f"{path}.x_m", box[0]), Put(f"{path}.y_m", box[1])


def free_name(job: Job, kind: str) -> str:
    """A name for the next one of a kind."""
    site = job.site
    if kind == "pin":
        taken = {pin.name for pin in site.pins}
        return next((name for name in PIN_NAMES if name not in taken), PIN_NAMES[-1])
    every: tuple[Area | Thing | Bay, ...] = (*site.areas, *site.things, *site.bays)
    taken = {one.name.lower() for one in every}
    name = FROM_TRAY[kind][0]
    names = (name, *(f"{name} {number}" for number in range(2, 1000)))
    return next(one for one in names if one.lower() not in taken)


def print_box(job: Job, box: Box) -> tuple[str, str]:
    """Size and place as they are typed: ``12'6"x7'``, ``4 -9``."""
    size = "x".join(_signed(job, side) for side in box[2:])
    return size, " ".join(_signed(job, value) for value in box[:2])


def _signed(job: Job, metres: float) -> str:
    """A length in one word, with the side of the panel that it lies on."""
    if abs(metres) < 1e-6:
        return "0"
    told = print_length(abs(metres), job.units)
    told = f"{round(abs(metres) / INCH_M * 8) / 8:g}in" if "/" in told else told.replace(" ", "")
    return f"-{told}" if metres < -1e-9 else told


def words_for(job: Job, kind: str, name: str, box: Box) -> tuple[str, str]:
    """The entry that puts something there, and the part of it that is most likely typed over."""
    size, place = print_box(job, box)
    if kind == "pin":
        return f"pin {name} at {place}", place
    if kind == "bay":
        middle = print_box(job, (box[0] + box[2] / 2, box[1] + box[3] / 2, 0.0, 0.0))[1]
        turn = " facing 90" if box[3] > box[2] else ""
        return f"bay {name} at {middle}{turn}", middle
    return f"{kind} {name} {size} at {place}", size


def kind_of(job: Job, path: str) -> str:
    """The word that something on the floor goes by."""
    many = path.partition("site.")[2].partition("[")[0]
    return {"pins": "pin", "bays": "bay"}.get(many) or str(value_at(job, f"{path}.kind"))


def is_area(kind: str) -> bool:
    """Whether a kind lies on the floor, and does not stand on it."""
    return kind in AREA_KINDS


def tall_m(kind: str) -> float:
    """How high a thing of a kind is until somebody says [m]."""
    return THING_HIGH_M.get(kind, 1.0)
