"""Whether the charger hangs where it may, its cord reaches, and the panel can be worked on."""

from __future__ import annotations

import math
from typing import Final

from awlmark.core.books import Book, open_book
from awlmark.core.books.words import cap
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.floor import Pin, Thing
from awlmark.core.job.model import Job
from awlmark.core.place.reach import Reach, reaches
from awlmark.core.quantities import FOOT_M, INCH_M, draw_length, print_length

APART_M: Final = 0.3
"""A line that ends nearer than this to its spot has arrived: a charger is about so wide."""


def room_words(job: Job, book: Book) -> str:
    """The floor of the working space before a panel in the job's units."""
    wide, deep, _high = book.place.clear_m
    if job.units == "m":
        return f"{wide:.2f} m by {deep:.2f} m"
    return f"{wide / INCH_M:.0f} by {deep / INCH_M:.0f} in"


def chosen_pin(job: Job) -> Pin | None:
    """Pin the line is to end at; the only one where none is chosen."""
    pins = job.site.pins
    return next((pin for pin in pins if pin.id == job.site.pin), pins[0] if len(pins) == 1 else None)


def under_roof(job: Job, pin: Pin) -> bool:
    """Whether a pin hangs inside a room."""
    return any(
        area.kind == "room"
        and area.x_m <= pin.x_m <= area.x_m + area.wide_m
        and area.y_m <= pin.y_m <= area.y_m + area.deep_m
        for area in job.site.areas
    )


def in_the_way(job: Job, book: Book) -> list[Thing]:
    """Things within the working space before the panel, a door with the room its leaf takes."""
    wide, deep, _high = book.place.clear_m
    left, right, near = -wide / 2, wide / 2, -deep
    found = []
    for thing in job.site.things:
        swing = thing.wide_m if thing.kind == "door" else 0.0
        low, high = thing.y_m - swing, thing.y_m + thing.deep_m + swing
        overlaps = thing.x_m < right - 1e-9 and thing.x_m + thing.wide_m > left + 1e-9
        if overlaps and low < -1e-9 and high > near + 1e-9 and thing.kind != "meter":
            found.append(thing)
    return found


def place_findings(job: Job, book: Book) -> list[Finding]:
    """Everything about the floor but where the line ends on it; nothing while no spot is pinned.

    Parameters
    ----------
    job : Job
        Its site.
    book : Book
        For the edition's name.
    """
    found = _before_the_panel(job, book)
    pin = chosen_pin(job)
    if pin is None:
        if job.site.pins:
            text = f"{len(job.site.pins)} spots are pinned. Which one does the line end at?"
            fixes = tuple(Fix(f"At {one.name}", (Put("site.pin", one.id),)) for one in job.site.pins)
            found.append(_about("pin", UNREAD, "No spot chosen", text, book.title, fixes=fixes))
        return found
    return [*found, *_reach(job, pin, book), *_hangs(job, pin, book)]


def _about(kind: str, severity: str, title: str, text: str, cite: str, **more: object) -> Finding:
    return Finding(kind, severity, title, text, cite, where="charger", stage="place", **more)  # type: ignore[arg-type]


def _before_the_panel(job: Job, book: Book) -> list[Finding]:
    found = []
    for thing in in_the_way(job, book):
        door = thing.kind == "door"
        stands = "swings into" if door else "stands in"
        text = f"{thing.name} {stands} the working space before the panel, {room_words(job, book)}."
        severity = NOTE if door else STOP
        cite = book.cite("working_space")
        found.append(Finding(f"way:{thing.id}", severity, "Working space", text, cite, where="panel", stage="place"))
    return found


def by_length(job: Job) -> str:
    """How a cord is typed, in the job's unit."""
    name = open_book(job.code).words.cord
    return f"{name} 20ft" if job.units == "ft" else f"{name} 5m"


def _words(job: Job, reach: Reach) -> str:
    bay = next(bay.name for bay in job.site.bays if bay.id == reach.bay)
    return f"{reach.car}, nose {reach.nose}, at {bay}"


def _reach(job: Job, pin: Pin, book: Book) -> list[Finding]:
    found = [reach for reach in reaches(job) if reach.pin == pin.id]
    asked = next((reach.doors[0] for reach in found if reach.doors), None)
    if asked is not None:
        return [_door(job, asked, book)]
    cord, cite, name = job.charger.cord_m, book.cite("cord"), book.words.cord
    if not found:
        return []
    if cord is None:
        least = min(reach.needs_m for reach in found)
        text = f"How long is the {book.words.charger}'s {book.words.cord}? Type it, such as {by_length(job)}."
        if math.isfinite(least):
            text = f"The nearest port takes {print_length(least, job.units)} of {name}. {text}"
        return [_about("reach", UNREAD, f"{cap(name)} not read", text, cite, ask=f"{name} ", site=True)]
    wall = next((reach.through for reach in found if not math.isfinite(reach.needs_m) and reach.through), "")
    between = f"the wall of {wall} lies between" if wall else "no way leads there"
    worst = max(found, key=lambda reach: reach.needs_m)
    best = min(found, key=lambda reach: reach.needs_m)
    long = (
        ""
        if cord <= book.place.cord_m + 1e-9
        else f" Past {print_length(book.place.cord_m, job.units)} it wants a device that takes it up."
    )
    others = [
        Fix(f"Hang it at {one.name}", (Put("site.pin", one.id),))
        for one in job.site.pins
        if one.id != pin.id and all(reach.needs_m <= cord for reach in reaches(job) if reach.pin == one.id)
    ]
    told = print_length(cord, job.units)
    if best.needs_m > cord:
        short = between if not math.isfinite(best.needs_m) else f"{print_length(best.needs_m - cord, job.units)} short"
        text = f"A {told} {name} reaches no car from {pin.name}: {short}. No extension may be put on.{long}"
        if wall:
            text = f"No {name} reaches a car from {pin.name}: {between}, and no door in it stands open."
        return [_about("reach", STOP, f"{cap(name)} too short", text, cite, fixes=tuple(others))]
    trips = sorted({name for reach in found for name in reach.trips})
    sums = tuple(f"{_words(job, reach)}: {_needs(job, reach)}" for reach in found[:4])
    if worst.needs_m > cord:
        text = f"A {told} {name} reaches, but not {_words(job, worst)}: {_needs(job, worst)}.{long}"
        return [_about("reach", TIGHT, f"{cap(name)} short one way", text, cite, sums=sums, fixes=tuple(others))]
    text = f"At most {print_length(worst.needs_m, job.units)} of a {told} {name}, every way a car stands.{long}"
    if trips:
        text += f" It lies across {', '.join(trips)}."
    severity = NOTE if trips or long else HOLDS
    unit_m = FOOT_M if job.units == "ft" else 1.0
    return [
        _about(
            "reach", severity, cap(name), text, cite, found=worst.needs_m / unit_m, needed=cord / unit_m,
            unit=job.units, sense="most", sums=sums,
        )
    ]  # fmt: skip


def spot_reach(job: Job, pin: Pin) -> tuple[str, str]:
    """How the cord serves the cars from any spot, chosen or not: severity and a few words."""
    found = [reach for reach in reaches(job) if reach.pin == pin.id]
    cord, name = job.charger.cord_m, open_book(job.code).words.cord
    if not found:
        return NOTE, "no parking spot entered"
    if any(reach.doors for reach in found):
        return NOTE, "only through a door: open or shut?"
    least, most = (pick(reach.needs_m for reach in found) for pick in (min, max))
    if cord is None:
        return NOTE, f"{name} not read; takes {draw_length(most, job.units)}" if math.isfinite(most) else "no way there"
    if least > cord:
        short = draw_length(least - cord, job.units) if math.isfinite(least) else ""
        return STOP, f"{name} {short} short" if short else "no way leads there"
    if math.isinf(most):
        return TIGHT, "no way leads to one car"
    if most > cord:
        return TIGHT, f"{draw_length(most - cord, job.units)} short one way"
    return HOLDS, f"{name} {draw_length(cord - most, job.units)} to spare"


def _door(job: Job, door_id: str, book: Book) -> Finding:
    """A doorway is the only way for the cord: whether it stays open is asked."""
    name = next(thing.name for thing in job.site.things if thing.id == door_id)
    cord = book.words.cord
    text = f"The {cord} gets to a car only through {name}. Does it stand open while a car charges? Shut, it pinches."
    fixes = tuple(
        Fix(label, (Put(f"site.things[{door_id}].open", value),)) for label, value in (("Open", True), ("Shut", False))
    )
    return _about(
        "reach", UNREAD, "Through a door", text, book.cite("cord_door"), fixes=fixes, ask=f"door {name} ", site=True
    )


def _needs(job: Job, reach: Reach) -> str:
    return f"takes {print_length(reach.needs_m, job.units)}" if math.isfinite(reach.needs_m) else "no way leads there"


def height_findings(job: Job, inside: bool, end_m: float, at_m: float, book: Book) -> list[Finding]:
    """How high the coupling is kept, by where the line ends; without a spot the line's own end tells.

    Parameters
    ----------
    job : Job
        Its spots and how the charger is connected.
    inside : bool
        Whether the line ends inside.
    end_m : float
        How high it ends above the floor [m].
    at_m : float
        And where that is on the tape [m].
    book : Book
        For the edition's name.
    """
    pin = chosen_pin(job)
    inside = inside or (pin is not None and under_roof(job, pin))
    if book.place.point is not None:
        return book.place.point(job, pin, inside, end_m, at_m, book)
    least = book.place.inside_m if inside else book.place.outside_m
    where, cite = "inside" if inside else "outside", book.cite("height")
    high_m = end_m if pin is None else pin.height_m
    name = "The line's end" if pin is None else pin.name
    lies = "lies" if pin is None else "hangs"
    told, wanted = print_length(max(high_m, 0.0), job.units), print_length(least, job.units)
    if high_m >= least - 1e-9:
        text = f"{name} {lies} {told} up; {where} {wanted} is the least for the coupling when it is put away."
        return [_about("height", HOLDS, "Height", text, cite)]
    if pin is None:
        text = f"{name} {lies} {told} up. How high is the coupling kept? {wanted} {where} is the least: pin A high 4."
        return [_about("height", UNREAD, "Height", text, cite, ask="pin A ", at_m=at_m, site=True)]
    raised = (Fix(f"At {wanted}", (Put(f"site.pins[{pin.id}].height_m", least),)),)
    if job.charger.connection != "hardwired":
        text = f"The outlet at {name} hangs {told} up; it is the unit's coupling that is kept {wanted} up {where}."
        return [_about("height", NOTE, "Height", text, cite, fixes=raised)]
    text = f"{name} hangs {told} up; {where} the coupling is kept {wanted} or more above the ground."
    return [_about("height", STOP, "Too low", text, cite, fixes=raised)]


def _hangs(job: Job, pin: Pin, book: Book) -> list[Finding]:
    """Its maker's heights, and what it is screwed to."""
    found = []
    told = print_length(pin.height_m, job.units)
    low, high = job.charger.band_low_m, job.charger.band_high_m
    if (low is not None and pin.height_m < low - 1e-9) or (high is not None and pin.height_m > high + 1e-9):
        band = " to ".join("open" if end is None else print_length(end, job.units) for end in (low, high))
        text = f"{pin.name} hangs {told} up; the charger's maker says {band}."
        found.append(_about("band", STOP, "Maker's height", text, book.cite("instructions")))
    if pin.fixing is None:
        text = (
            f"What is {pin.name} screwed to: stud, backing, masonry or post? A board or anchors alone do not hold it."
        )
        kinds = ("stud", "backing", "masonry", "post")
        fixes = tuple(Fix(kind.capitalize(), (Put(f"site.pins[{pin.id}].fixing", kind),)) for kind in kinds)
        ask = f"pin {pin.name} "
        found.append(
            _about("fixing", UNREAD, "Fixing not read", text, "common practice", fixes=fixes, ask=ask, site=True)
        )
    return found


def end_findings(job: Job, end: tuple[float, float, float], at_m: float, book: Book) -> list[Finding]:
    """Whether the scribed line arrives at the pin.

    Parameters
    ----------
    job : Job
        Its site.
    end : tuple of float
        Where the line ends, east, north and up of the panel's foot [m].
    at_m : float
        And where that is on the tape [m].
    book : Book
        For the edition's name.
    """
    pin = chosen_pin(job)
    if pin is None:
        return []
    off = math.dist(end[:2], (pin.x_m, pin.y_m))
    if off <= APART_M:
        return []
    text = (
        f"The line ends {print_length(off, job.units)} from {pin.name}. Scribe on, or set the pin where the line ends."
    )
    edits = (Put(f"site.pins[{pin.id}].x_m", round(end[0], 4)), Put(f"site.pins[{pin.id}].y_m", round(end[1], 4)))
    fixes = (Fix("Pin at the line's end", edits),)
    return [_about("end", NOTE, "Line and spot apart", text, book.title, at_m=at_m, fixes=fixes)]
