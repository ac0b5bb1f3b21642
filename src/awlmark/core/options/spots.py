"""Where the charger may hang: the run led to each spot, and the whole job solved for it."""

from __future__ import annotations

import itertools
import math
from typing import Final

import msgspec
from msgspec.structs import replace

from awlmark.core.errors import InputError
from awlmark.core.finding import worst
from awlmark.core.job.edit import Put, put
from awlmark.core.job.floor import Area, Pin
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Job
from awlmark.core.place.check import APART_M, chosen_pin, under_roof
from awlmark.core.run.line import INSIDE, Vector, Walked, ways_along
from awlmark.core.solve.design import Design, solve

LEAST_M: Final = 0.02
"""What is shorter than this is no leg of its own."""
OFF_WALL_M: Final = 0.9
"""A spot farther from every wall of its room than this hangs on none of them."""
NO_TRENCH_M: Final = 1.5
"""Less than this is led along the wall instead of in a trench; common practice."""
OPEN: Final = {
    "end": "bend", "built_m": None, "layers": (), "wall": "", "offset_m": None, "saddle_m": None, "slip": False,
    "box": None, "ring_in3": None, "box_in3": None,
    "box_others": (), "box_device": None, "body": None, "spliced": False,
}  # fmt: skip
"""What stands on one leg only: a leg drawn after it has none of this."""
Step = tuple[Vector, float]
"""A heading and a length [m]."""


class SpotWay(msgspec.Struct, frozen=True):
    """One spot as a whole job."""

    pin: str
    job: Job | None
    """The run led there, its lengths guessed from the plan; None where the plan does not tell how."""
    price: float = 0.0
    """Difference in cost to the job as it is."""
    length_m: float = 0.0
    worst: str = ""
    path: tuple[tuple[float, float], ...] = ()
    """Of that run on the floor, east and north of the panel [m]."""
    why: str = ""
    """Why no run is led there."""


def spot_ways(design: Design) -> tuple[SpotWay, ...]:
    """Every spot with a run of its own.

    Parameters
    ----------
    design : Design
        Solved job; its run is the pattern: what passes the wall, how it lies, where it rises.

    Returns
    -------
    tuple of SpotWay
        In the order of the spots; nothing without a run that reaches the charger.
    """
    if not design.line.closed:
        return ()
    return tuple(_way(design, pin) for pin in design.job.site.pins)


def _way(design: Design, pin: Pin) -> SpotWay:
    ends = math.dist(design.line.legs[-1].end[:2], (pin.x_m, pin.y_m)) <= APART_M
    if ends and chosen_pin(design.job) is pin:
        return SpotWay(pin.id, design.job, 0.0, design.line.length_m, design.verdict, _path(design))
    try:
        job = lead_to(design, pin)
        after = solve(job)
    except InputError as problem:
        return SpotWay(pin.id, None, why=problem.problem)
    price = round(after.cost - design.cost, 2)
    # Its lengths are guessed, of course: what else is wrong with it counts.
    left = worst(finding for finding in after.findings if finding.id != "guessed")
    return SpotWay(pin.id, job, price, after.line.length_m, left, _path(after))


def _path(design: Design) -> tuple[tuple[float, float], ...]:
    legs = design.line.legs
    return (legs[0].start[:2], *(walked.end[:2] for walked in legs))


def lead_to(design: Design, pin: Pin) -> Job:
    """The job with its run led to a spot, and that spot chosen.

    Inside it goes along the walls, the shorter way round; outdoors it keeps what leads out through the wall and down,
    goes on straight and then across. Lengths that follow from the plan stand as guessed until the tape tells them.

    Raises
    ------
    InputError
        When the plan does not tell how: a storey between, no wall passed yet, the spot behind the wall.
    """
    legs = design.line.legs
    if any(walked.crosses and walked.heading[2] for walked in legs):
        raise InputError("spot", "The run passes a floor: lead it there by hand.", "a run on one storey")
    crossing = next((place for place, walked in enumerate(legs) if walked.crosses), None)
    if under_roof(design.job, pin) and legs[0].place in INSIDE:
        stub = tuple(itertools.takewhile(lambda walked: walked.heading[2] and not walked.crosses, legs))
        steps = _along_walls(design, stub[-1].end if stub else legs[0].start, pin)
        high = pin.height_m
        pattern = next((walked for walked in legs[len(stub) :] if not walked.crosses and not walked.heading[2]), None)
    elif crossing is not None or legs[0].place not in INSIDE:
        kept = 0 if crossing is None else crossing + 1
        high = _outside_m(design, pin)
        rising = itertools.takewhile(lambda walked: walked.heading[2], legs[kept:-1])
        stub = (*legs[:kept], *rising)
        heading = legs[crossing].heading if crossing is not None else (legs[0].facing[1], -legs[0].facing[0], 0.0)
        steps = _across(stub[-1].end if stub else legs[0].start, heading, pin)
        pattern = next((walked for walked in legs[len(stub) :] if not walked.heading[2]), None)
        if kept and pattern is not None and pattern.place == "buried" and sum(far for _way, far in steps) < NO_TRENCH_M:
            # Nobody digs for so little: it stays on the wall that it came through.
            stub, risers = legs[:kept], stub[kept:]
            pattern = replace(risers[0], place="outdoor") if risers else None
    else:
        raise InputError("spot", "No wall is passed on the way yet: lead the run out first.", "a run that leads out")
    if pattern is None and steps:
        raise InputError("spot", "The run has no level leg to go by.", "a run along a wall or in a trench")
    return _led(design, stub, steps, pattern, pin, high)


def _outside_m(design: Design, pin: Pin) -> float:
    """How high over the panel's floor a spot outdoors hangs [m]: the ground there need not lie as high."""
    last, chosen = design.line.legs[-1], chosen_pin(design.job)
    if chosen is not None and math.dist(last.end[:2], (chosen.x_m, chosen.y_m)) <= APART_M:
        return last.end[2] + pin.height_m - chosen.height_m
    trench = next((walked for walked in design.line.legs if walked.place == "buried"), None)
    if trench is not None and trench.leg.cover_m is not None:
        return trench.end[2] + trench.leg.cover_m + pin.height_m
    return last.end[2]


def _led(
    design: Design, stub: tuple[Walked, ...], steps: list[Step], pattern: Walked | None, pin: Pin, high: float
) -> Job:
    """Legs of a stub, then along the steps, then up or down to how high a spot hangs."""
    last, taken = design.line.legs[-1], {walked.leg.id for walked in stub}
    names = (name for number in itertools.count(1) if (name := f"leg-{number}") not in taken)
    point, facing = (stub[-1].end, _facing(stub[-1])) if stub else (last.start, design.line.legs[0].facing)
    level = (
        stub[-1].heading
        if stub and stub[-1].crosses
        else next((walked.heading for walked in reversed(stub) if not walked.heading[2]), facing)
    )
    made: list[Leg] = []
    for heading, length in steps:
        assert pattern is not None
        buried = pattern.place == "buried"
        if made and not buried and heading != level:
            made[-1] = replace(made[-1], end="corner")
            facing = level if pattern.place in INSIDE else (-level[0], -level[1], 0.0)
        direction = _direction(heading, level, facing, buried)
        facts = {**OPEN, "id": next(names), "direction": direction, "length_m": round(length, 4)}
        lies = "buried" if buried else pattern.place
        made.append(replace(pattern.leg, **facts, place=lies, method=pattern.method.key))
        level = heading
    up = high - point[2]
    if abs(up) >= LEAST_M:
        way = "up" if up > 0 else "down"
        template = last if last.heading[2] else None
        facts = {**OPEN, "id": next(names), "direction": way, "length_m": round(abs(up), 4)}
        method = (template or pattern or last).method.key
        place = template.place if template is not None and pattern is not None else None
        base = template.leg if template is not None else Leg(id="leg", direction=way, length_m=1.0)
        made.append(replace(base, **facts, method=method, place=place))
    if not made:
        raise InputError("spot", "The spot stands where the run begins.", "a spot away from the panel")
    made[-1] = replace(made[-1], end="charger")
    kept = tuple(walked.leg for walked in stub)
    if kept and kept[-1].end == "charger":
        kept = (*kept[:-1], replace(kept[-1], end="bend"))
    guessed = tuple(f"legs[{leg.id}].length_m" for leg in made)
    job = put(design.job, Put("legs", (*kept, *made)), Put("site.pin", pin.id))
    old = tuple(path for path in job.guessed if not path.startswith("legs["))
    stays = tuple(path for path in job.guessed if any(path.startswith(f"legs[{leg.id}]") for leg in kept))
    return replace(job, guessed=(*old, *stays, *guessed))


def _facing(walked: Walked) -> Vector:
    """The wall that the line is on behind a leg."""
    if walked.crosses:
        return (-walked.heading[0], -walked.heading[1], 0.0)
    return walked.facing


def _direction(heading: Vector, level: Vector, facing: Vector, buried: bool) -> str:
    """The word for a heading: a trench keeps the last one."""
    if buried and heading == level:
        return "trench"
    for word, way in ways_along(facing).items():
        if math.dist(way, heading) < 1e-6:
            return word
    raise InputError("spot", "The way there leaves the wall.", "a spot along the walls or the trench")


def _across(start: Vector, heading: Vector, pin: Pin) -> list[Step]:
    """Straight on as the line leads out, then across."""
    east, north = pin.x_m - start[0], pin.y_m - start[1]
    onward = east * heading[0] + north * heading[1]
    side = (heading[1], -heading[0], 0.0)
    aside = east * side[0] + north * side[1]
    if onward < -APART_M:
        raise InputError("spot", "It lies behind the wall that the run comes out of.", "a spot before that wall")
    across = side if aside > 0 else (-side[0], -side[1], 0.0)
    return [(way, length) for way, length in ((heading, onward), (across, abs(aside))) if length > APART_M / 2]


def _along_walls(design: Design, start: Vector, pin: Pin) -> list[Step]:
    """Along the walls of the room that the panel and the spot are in, the shorter way round."""
    room = next((area for area in design.job.site.areas if _holds(area, pin) and _holds_panel(area)), None)
    if room is None:
        raise InputError(
            "spot", "A wall lies between panel and spot: lead the run there by hand.", "a spot in its room"
        )
    west, east, south, north = room.x_m, room.x_m + room.wide_m, room.y_m, 0.0
    gaps = {"n": north - pin.y_m, "e": east - pin.x_m, "s": pin.y_m - south, "w": pin.x_m - west}
    wall = min(gaps, key=lambda name: abs(gaps[name]))
    if abs(gaps[wall]) > OFF_WALL_M:
        raise InputError("spot", "It stands away from every wall of its room.", "a spot on a wall")
    corners = {"ne": (east, north), "se": (east, south), "sw": (west, south), "nw": (west, north)}
    ends = {"n": (pin.x_m, north), "e": (east, pin.y_m), "s": (pin.x_m, south), "w": (west, pin.y_m)}
    clockwise = {"n": ("",), "e": ("ne",), "s": ("ne", "se"), "w": ("ne", "se", "sw")}
    other = {"n": ("",), "w": ("nw",), "s": ("nw", "sw"), "e": ("nw", "sw", "se")}
    ways = []
    for turns in (clockwise[wall], other[wall]):
        points = [start[:2], *(corners[turn] for turn in turns if turn), ends[wall]]
        steps = [_step(a, b) for a, b in itertools.pairwise(points)]
        ways.append([step for step in steps if step[1] > APART_M / 2])
    return min(ways, key=lambda steps: sum(length for _way, length in steps))


def _step(start: tuple[float, ...], end: tuple[float, ...]) -> Step:
    east, north = end[0] - start[0], end[1] - start[1]
    if abs(east) >= abs(north):
        return (1.0 if east > 0 else -1.0, 0.0, 0.0), abs(east)
    return (0.0, 1.0 if north > 0 else -1.0, 0.0), abs(north)


def _holds(area: Area, pin: Pin) -> bool:
    return (
        area.kind == "room"
        and area.x_m - 0.01 <= pin.x_m <= area.x_m + area.wide_m + 0.01
        and area.y_m - 0.01 <= pin.y_m <= area.y_m + area.deep_m + 0.01
    )


def _holds_panel(area: Area) -> bool:
    """Whether the panel hangs on the north wall of a room."""
    return area.x_m <= 0.0 <= area.x_m + area.wide_m and abs(area.y_m + area.deep_m) <= OFF_WALL_M
