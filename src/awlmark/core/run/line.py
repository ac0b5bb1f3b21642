"""Walking the legs: where each one lies in space, in what place, by what method.

The walker faces the wall the line is on. Left and right are as seen so; *through* and *trench* keep the heading; *in*
and *out* pass the wall the line is on; a corner turns the walker onto the next wall.
"""

from __future__ import annotations

import bisect
import functools
import operator
from typing import Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.books.book import Method
from awlmark.core.books.rules import RunRules
from awlmark.core.errors import InputError
from awlmark.core.job.leg import CROSSING, PULL_POINTS, Leg
from awlmark.core.job.model import Job

Vector = tuple[float, float, float]
INSIDE: Final = ("indoor", "garage", "attic", "crawl")
WET: Final = ("outdoor", "roof", "buried")
"""Places where the inside of a raceway counts as wet."""
READ_AMBIENT: Final = ("attic", "roof")
"""Places too hot to be taken at the table's air: their temperature has to be read."""
_SAME_M: Final = 1e-9
"""Points of the tape nearer than this are the same."""
_end_m: Final = operator.attrgetter("end_m")


class Walked(msgspec.Struct, gc=False, frozen=True):
    """One leg, walked."""

    leg: Leg
    number: int
    start_m: float
    end_m: float
    start: Vector
    """East, north and up from the foot of the wall below the panel [m]."""
    end: Vector
    heading: Vector
    facing: Vector
    """Into the wall the leg is on."""
    place: str
    place_after: str
    method: Method
    ambient_c: float | None
    """None where it has to be read."""
    turn_deg: float
    """Change of direction into the next leg [degrees]."""

    offset_deg: float
    """Degrees bent within the leg: an offset counts twice, a saddle all its three or four bends."""
    crosses: bool
    """Whether it passes a wall or a ceiling."""
    pulls: bool
    """True if a pull point stands at the end of this leg."""

    def share_at(self, at_m: float) -> float:
        """Share of it that lies before a point of the tape [m]; nought for a wall that is not measured yet."""
        return (at_m - self.start_m) / self.leg.length_m if self.leg.length_m else 0.0

    def point_at(self, at_m: float) -> Vector:
        """Where a point of the tape on this leg lies [m]."""
        share, (x, y, z), (x2, y2, z2) = self.share_at(at_m), self.start, self.end
        return x + (x2 - x) * share, y + (y2 - y) * share, z + (z2 - z) * share


def bent_within_deg(leg: Leg) -> float:
    """Degrees bent within a leg: an offset counts twice, a saddle all its three or four bends."""
    if leg.offset_m is None and leg.saddle_m is None:
        return 0.0
    step = 0.0 if leg.offset_m is None else 2 * leg.offset_deg
    if leg.saddle_m is None:
        return step
    return step + (4 * leg.offset_deg if leg.saddle_wide_m else 90.0)


class Section(msgspec.Struct, gc=False, frozen=True):
    """A stretch of the run with one wiring method."""

    number: int
    method: Method
    legs: tuple[Walked, ...]
    trade_size: str | None
    """Pinned trade size."""
    ambient_c: float | None
    wet: bool
    buried: bool
    roof: bool
    nipple: bool
    """Short enough between two enclosures to be filled more."""
    insulated: bool = False
    """Whether a part of it lies in thermal insulation."""
    beside: int = 0
    """Current-carrying conductors of other cables that count with its own where they lie together."""

    @property
    def limit_c(self) -> int | None:
        """Temperature column that the method may not pass here [degC]; None where it sets no limit."""
        return self.method.insulated_c if self.insulated and self.method.insulated_c else self.method.limit_c

    @property
    def start_m(self) -> float:
        """Where it starts on the tape [m]."""
        return self.legs[0].start_m

    @property
    def end_m(self) -> float:
        """Where it ends on the tape [m]."""
        return self.legs[-1].end_m

    @property
    def length_m(self) -> float:
        """Length on the tape [m]."""
        return self.end_m - self.start_m


class Stretch(msgspec.Struct, gc=False, frozen=True):
    """From one pull point to the next."""

    start_m: float
    end_m: float
    bends_deg: float
    bends: int
    raceway: Method | None
    """A raceway in it; None when all of it is cable."""
    leg_id: str
    """Leg at which the degrees pass their limit, or the last one."""
    legs: tuple[Walked, ...]


class Line(msgspec.Struct, gc=False, frozen=True):
    """The whole run, walked."""

    legs: tuple[Walked, ...]
    sections: tuple[Section, ...]
    stretches: tuple[Stretch, ...]

    @property
    def length_m(self) -> float:
        """Length on the tape [m]."""
        return self.legs[-1].end_m if self.legs else 0.0

    @property
    def upright_m(self) -> float:
        """What of it goes up or down [m]."""
        return sum([walked.leg.length_m for walked in self.legs if walked.heading[2]])

    def leg_at(self, at_m: float) -> Walked | None:
        """Leg that lies at a point of the tape, of two that meet there the first; None before and beyond the line."""
        place = bisect.bisect_left(self.legs, at_m - _SAME_M, key=_end_m)
        return self.legs[place] if at_m >= -_SAME_M and place < len(self.legs) else None

    def section_at(self, at_m: float) -> Section | None:
        """Section that lies at a point of the tape; the last one beyond its end."""
        place = bisect.bisect_left(self.sections, at_m - _SAME_M, key=_end_m)
        return self.sections[min(place, len(self.sections) - 1)] if self.sections else None

    def stretch_at(self, at_m: float) -> Stretch | None:
        """Stretch between pull points that lies at a point of the tape; the last one beyond its end."""
        place = bisect.bisect_left(self.stretches, at_m - _SAME_M, key=_end_m)
        return self.stretches[min(place, len(self.stretches) - 1)] if self.stretches else None

    @property
    def by_method(self) -> dict[str, float]:
        """Length of every wiring method by its name, in the order they come [m]."""
        found: dict[str, float] = {}
        for section in self.sections:
            found[section.method.name] = found.get(section.method.name, 0.0) + section.length_m
        return found

    @property
    def closed(self) -> bool:
        """Whether the line reaches the charger."""
        return bool(self.legs) and self.legs[-1].leg.end == "charger"

    @property
    def bends_deg(self) -> float:
        """All bends that count, over all stretches [degrees]."""
        return sum(stretch.bends_deg for stretch in self.stretches)

    @property
    def end_place(self) -> str:
        """Place where the line ends."""
        return self.legs[-1].place_after if self.legs else "indoor"


_Step = tuple[Leg, int, float, float, Vector, Vector, Vector, Vector, str, str, Method, float | None]
"""The fields of a :class:`Walked` leg that are known before the next one has its heading."""


def walk(job: Job, book: Book) -> Line:
    """Walk the legs of a job.

    Parameters
    ----------
    job : Job
        The document.
    book : Book
        Supplies the methods and each place's usual one.
    """
    legs = _walk_legs(job, book)
    return Line(legs, _sections(legs, book.run), _stretches(legs, book.run.most_bend_deg))


def _walk_legs(job: Job, book: Book) -> tuple[Walked, ...]:
    leaves = next((one.below_top_m for one in job.dead_front.knockouts if one.id == job.supply.knockout), 0.0)
    point: Vector = (0.0, 0.0, job.supply.panel_top_m - leaves)
    facing: Vector = (0.0, 1.0, 0.0)
    ways = ways_along(facing)
    heading: Vector | None = None
    level: Vector | None = None
    home = place = job.supply.place
    air_c = book.run.air_c
    method: Method | None = None
    run_m = 0.0
    found: list[Walked] = []
    step: _Step | None = None
    for number, leg in enumerate(job.legs, 1):
        way = leg.direction
        crosses = way in CROSSING
        if way == "trench":
            heading, place = level or facing, "buried"
        elif crosses:
            heading = (heading or facing) if way == "through" else facing
        else:
            heading, place = ways[way], leg.place or ("outdoor" if place == "buried" else place)
        after = _place_beyond(leg, place, heading, home) if crosses else place
        if leg.method is not None:
            method = book.methods.get(leg.method)
            if method is None:
                raise InputError(
                    f"leg {number} method", f"{book.title} has no '{leg.method[:40]}'.", ", ".join(book.methods)
                )
        elif not (crosses and method is not None):
            method = book.methods[book.usual[place]]
        length, (x, y, z), (dx, dy, dz) = leg.length_m, point, heading
        start, point = point, (x + dx * length, y + dy * length, z + dz * length)
        known = None if place in READ_AMBIENT else air_c
        ambient = known if leg.ambient_c is None else leg.ambient_c
        if step is not None:
            # How far a leg turns is known when the next one has its heading.
            found.append(_stepped(step, _turn_deg(step[6], heading)))
        end_m = run_m + length
        step = (leg, number, run_m, end_m, start, point, heading, facing, place, after, method, ambient)
        run_m = end_m
        if dz == 0:
            level = heading
            if crosses or leg.end == "corner":
                facing = heading if place in INSIDE and not crosses else (-dx, -dy, 0.0)
                ways = ways_along(facing)
        place = after
    if step is not None:
        found.append(_stepped(step, 0.0))
    return tuple(found)


def _stepped(step: _Step, turn_deg: float) -> Walked:
    leg = step[0]
    return Walked(*step, turn_deg, bent_within_deg(leg), leg.direction in CROSSING, leg.end in PULL_POINTS)


@functools.lru_cache(maxsize=8)
def ways_along(facing: Vector) -> dict[str, Vector]:
    """Headings along a wall, by direction."""
    x, y, _level = facing
    return {"up": (0.0, 0.0, 1.0), "down": (0.0, 0.0, -1.0), "right": (y, -x, 0.0), "left": (-y, x, 0.0)}


def _place_beyond(leg: Leg, place: str, heading: Vector, home: str) -> str:
    if leg.place is not None:
        return leg.place
    if heading[2] > 0:
        return "roof" if place == "attic" else "attic" if place in INSIDE else place
    if heading[2] < 0:
        return home if place == "attic" else "crawl" if place in INSIDE else place
    if place in INSIDE:
        return "outdoor"
    return home if home in INSIDE else "indoor"


def _turn_deg(one: Vector, other: Vector) -> float:
    """Angle between two headings, which lie along the axes [degrees]."""
    return 90.0 - 90.0 * (one[0] * other[0] + one[1] * other[1] + one[2] * other[2])


def _sections(legs: tuple[Walked, ...], rules: RunRules) -> tuple[Section, ...]:
    groups: list[list[Walked]] = []
    pins: list[str | None] = []
    for walked in legs:
        pin = walked.leg.trade_size
        if groups and groups[-1][-1].method is walked.method and (pin is None or pins[-1] in (None, pin)):
            groups[-1].append(walked)
            pins[-1] = pins[-1] or pin
        else:
            groups.append([walked])
            pins.append(pin)
    found = []
    for number, (group, pin) in enumerate(zip(groups, pins, strict=True)):
        known = [walked.ambient_c for walked in group]
        places = {walked.place for walked in group}
        enclosed = number == 0 or groups[number - 1][-1].leg.end == "box"
        length = group[-1].end_m - group[0].start_m
        found.append(
            Section(
                number=number,
                method=group[0].method,
                legs=tuple(group),
                trade_size=pin,
                ambient_c=None if None in known else max(value for value in known if value is not None),
                wet=bool(places & set(WET)),
                buried="buried" in places,
                roof=any(
                    walked.place == "roof"
                    and (walked.leg.roof_m is None or walked.leg.roof_m < rules.roof_clear_m - 1e-9)
                    for walked in group
                ),
                nipple=enclosed and group[-1].leg.end in ("box", "charger") and length <= rules.nipple_m + 1e-9,
                insulated=any(walked.leg.insulated and walked.leg.mount != "surface" for walked in group),
                beside=max((_beside(walked) for walked in group), default=0),
            )
        )
    return tuple(found)


def _beside(walked: Walked) -> int:
    """Conductors of the cables beside one: from three cables on each brings its two."""
    others = walked.leg.beside or 0
    counts = walked.method.cable and not walked.crosses and walked.place != "buried"
    return 2 * others if counts and others >= 2 else 0


def _stretches(legs: tuple[Walked, ...], most_deg: float) -> tuple[Stretch, ...]:
    found: list[Stretch] = []
    first, start_m, degrees, bends, over = 0, 0.0, 0.0, 0, ""
    raceway: Method | None = None
    for walked in legs:
        if not walked.method.cable:
            raceway = walked.method
        last = walked is legs[-1]
        if walked.offset_deg:
            degrees += walked.offset_deg
            bends += 2 * (walked.leg.offset_m is not None)
            bends += 0 if walked.leg.saddle_m is None else 4 if walked.leg.saddle_wide_m else 3
            if degrees > most_deg + 1e-6 and not over:
                over = walked.leg.id
        if walked.pulls or last:
            inside = legs[first : walked.number]
            found.append(Stretch(start_m, walked.end_m, degrees, bends, raceway, over or walked.leg.id, inside))
            first, start_m, degrees, bends, over, raceway = walked.number, walked.end_m, 0.0, 0, "", None
        elif walked.turn_deg > 1e-6:
            degrees += walked.turn_deg
            bends += 1
            if degrees > most_deg + 1e-6 and not over:
                over = walked.leg.id
    return tuple(found)
