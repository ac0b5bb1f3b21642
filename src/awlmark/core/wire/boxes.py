"""Boxes: volume by what is in them, pull boxes for large wire, and which standard box is enough."""

from __future__ import annotations

import functools
import math
from fractions import Fraction
from typing import Final

import msgspec

from awlmark.core.book import Book
from awlmark.core.book.tables import number, printed
from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.quantities import INCH_M, draw_trade_size, print_gauge
from awlmark.core.run.line import Section, Walked
from awlmark.core.wire.case import Case
from awlmark.core.wire.teller import Teller

LARGEST_COUNTED: Final = "6"
"""Table 314.16(B) ends here; larger wire goes by the pull-box rule 314.28."""
WIDE_GANGS: Final = 2
"""Gangs of a device wider than two inches, 314.16(B)(4)."""
OFFERED: Final = ("4 x 1-1/2 square", "4 x 2-1/8 square", "4-11/16 x 1-1/2 square", "4-11/16 x 2-1/8 square")
"""Boxes proposed for a splice or a pull, in the order of their price; common practice."""
RINGED: Final = " with its ring"
STRAIGHT: Final = 8.0
ANGLE: Final = 6.0
"""Length of a pull box over the largest raceway, 314.28(A)."""


class Contents(msgspec.Struct, frozen=True):
    """What counts in one box."""

    conductors: tuple[tuple[str, int], ...]
    """Size and how many count."""
    grounds: tuple[str, ...]
    """Sizes of the wire grounds that enter."""
    clamps: bool = False
    device_size: str | None = None
    """Largest wire on a device in it; None without one."""
    gangs: int = 1


@functools.cache
def allowance_in3(size: str) -> float | None:
    """Volume of one conductor [in3], Table 314.16(B); None where the table ends."""
    row = next((row for row in printed("box_allowance_314_16_b").rows if row["size"] == size), None)
    return None if row is None else number(row["volume_in3"])


@functools.cache
def standard_boxes() -> dict[str, float]:
    """Volumes of the standard metal boxes [in3], Table 314.16(A)."""
    return {row["description"]: number(row["min_volume_in3"]) for row in printed("boxes_314_16_a").rows}


def needed_in3(contents: Contents, edition: str) -> float | None:
    """Volume that the parts in a box ask for [in3], 314.16(B); None where a size is beyond the table.

    Conductors one allowance each; all clamps together one of the largest; a device two of the largest wire on it for
    each gang; grounds together one of the largest, and from 2020 a quarter more for each beyond four.
    """
    total, largest = 0.0, 0.0
    for size, count in contents.conductors:
        each = allowance_in3(size)
        if each is None:
            return None
        total += each * count
        largest = max(largest, each)
    grounds = [allowance_in3(size) for size in contents.grounds]
    if None in grounds:
        return None
    ground = max((each for each in grounds if each is not None), default=0.0)
    more = max(len(grounds) - 4, 0) if edition != "nec-2017" else 0
    total += ground * (1 + 0.25 * more)
    if contents.clamps:
        total += largest
    if contents.device_size is not None:
        total += 2 * contents.gangs * (allowance_in3(contents.device_size) or 0.0)
    return total


def contents_of(case: Case, walked: Walked, size: str, ground: int) -> Contents | None:
    """What the box at the end of a leg holds; None while a ground is unread (-1)."""
    if ground < 0:
        return None
    wires = case.hots + case.neutral
    # Spliced, each wire has two ends in the box; pulled through it counts once.
    ends = 2 if walked.leg.spliced or walked.method.cable else 1
    grounds = () if case.raceway_ground else (case.book.sizes[ground],) * ends
    return Contents(((size, wires * ends),), grounds, clamps=walked.method.cable)


def box_name(case: Case, walked: Walked, size: str, ground: int) -> str:
    """The box to buy for the end of a leg: as typed, or the smallest offered that is enough for a wire size."""
    if walked.leg.box is not None:
        return walked.leg.box
    contents = contents_of(case, walked, size, ground)
    needed = None if contents is None or _large(case.book, size) else needed_in3(contents, case.job.code)
    if needed is None or walked.leg.box_in3 is not None:
        return OFFERED[-1]
    return box_of(walked, needed)[0].removesuffix(RINGED)


def tell_boxes(t: Teller) -> list[Finding]:
    """Every box on the way, and the one behind a receptacle."""
    found, large = list[Finding | None](), _large(t.book, t.size)
    for section in t.case.sections:
        pipe = _raceway_of(t, section) if large else None
        for walked in section.legs:
            end = walked.leg.end
            if end == "body" and walked.leg.spliced:
                found.append(_spliced_body(t, walked))
            elif end == "box" and not large:
                found.append(_box(t, walked))
            elif end == "box" and pipe is not None:
                found.append(_pull_box(t, walked, pipe))
            elif end == "body" and pipe is not None:
                found.append(_body(t, walked, pipe))
    if t.case.receptacle is not None:
        found.append(_outlet_box(t))
    return [finding for finding in found if finding is not None]


def _large(book: Book, size: str) -> bool:
    return book.sizes.index(size) > book.sizes.index(LARGEST_COUNTED)


def _box(t: Teller, walked: Walked) -> Finding | None:
    contents = contents_of(t.case, walked, t.size, int(t.seen.grounds.size[t.row]))
    needed = None if contents is None else needed_in3(contents, t.case.job.code)
    if contents is None or needed is None:
        return None
    name, volume = box_of(walked, needed)
    cite = f"{t.book.title} 314.16"
    wires = ", ".join(f"{count} × {print_gauge(size)}" for size, count in contents.conductors)
    larger = [other for other in OFFERED if standard_boxes()[other] >= needed - 1e-9]
    path = f"legs[{walked.leg.id}].box"
    fixes = tuple(Fix(f"{other} box", (Put(path, other), Put(f"{path}_in3", None))) for other in larger[:2])
    sums = [wires]
    if contents.grounds:
        sums.append(f"{len(contents.grounds)} grounds, one allowance of {print_gauge(contents.grounds[0])}")
    if contents.clamps:
        sums.append("clamps, one allowance")
    severity = STOP if volume is None else grade(volume, needed, "least")
    told = f"{volume:g} in³" if volume is not None else "no standard box is enough"
    return Finding(
        id=f"box:{walked.leg.id}",
        severity=severity,
        title="Box volume",
        text=f"The box at leg {walked.number} has to hold {needed:g} in³; {name} has {told}.",
        cite=cite,
        found=volume,
        needed=needed,
        unit="in3",
        sums=tuple(sums),
        at_m=walked.end_m,
        where=walked.leg.id,
        fixes=fixes if severity != HOLDS else (),
    )


def box_of(walked: Walked, needed: float) -> tuple[str, float | None]:
    """The box in hand and its volume [in3]: as typed, as read off it, or the smallest offered that is enough."""
    ring, boxes = walked.leg.ring_in3 or 0.0, standard_boxes()
    name, volume = walked.leg.box, walked.leg.box_in3
    if volume is not None:
        name = name or "the box"
    elif name is not None:
        volume = boxes.get(name)
    else:
        name = next((each for each in OFFERED if boxes[each] + ring >= needed - 1e-9), OFFERED[-1])
        volume = boxes[name]
    return (f"{name}{RINGED}" if ring else name), None if volume is None else volume + ring


def _raceway_of(t: Teller, section: Section) -> str | None:
    """Trade size of a section; None for cable or while it is open."""
    trade = int(t.seen.fills.trade[t.row, section.number])
    return t.book.trade_sizes[trade] if trade >= 0 else None


@functools.cache
def _inches(trade_size: str) -> float:
    """A trade size as a number of inches."""
    return float(sum(Fraction(piece) for piece in trade_size.replace("-", " ").split()))


def _pull_box(t: Teller, walked: Walked, pipe: str) -> Finding:
    """314.28: eight times the raceway for a straight pull, six for an angle."""
    needed, text = _long_wanted(t.size, pipe, walked.turn_deg > 1e-6 or walked.leg.spliced)
    long = walked.leg.box_long_m
    severity = UNREAD if long is None else grade(long / INCH_M, needed, "least", stepped=True)
    fixes: tuple[Fix, ...] = ()
    if severity != HOLDS:
        inches = math.ceil(needed)
        fixes = (Fix(f"Box of {inches:g} in", (Put(f"legs[{walked.leg.id}].box_long_m", inches * INCH_M),)),)
    return Finding(
        id=f"box:{walked.leg.id}",
        severity=severity,
        title="Pull box",
        text=text + (" How long is it?" if long is None else ""),
        cite=f"{t.book.title} 314.28(A)",
        found=None if long is None else long / INCH_M,
        needed=needed,
        unit="in",
        at_m=walked.end_m,
        where=walked.leg.id,
        fixes=fixes,
    )


@functools.cache
def _long_wanted(size: str, trade_size: str, turns: bool) -> tuple[float, str]:
    """How long a pull box has to be [in], and that in words."""
    needed = _inches(trade_size) * (ANGLE if turns else STRAIGHT)
    kind = "an angle pull, six" if turns else "a straight pull, eight"
    through = f"{print_gauge(size)} through {draw_trade_size(trade_size)}"
    return needed, f"{through}: {kind} times the raceway, {needed:g} in."


def _body(t: Teller, walked: Walked, pipe: str) -> Finding:
    """Conduit bodies for 4 AWG and larger are long enough only where they are marked so (314.28(A)(3))."""
    return Finding(
        id=f"body:{walked.leg.id}",
        severity=NOTE,
        title="Conduit body",
        text=_mark_wanted(t.size, pipe),
        cite=f"{t.book.title} 314.28(A)",
        at_m=walked.end_m,
        where=walked.leg.id,
    )


@functools.cache
def _mark_wanted(size: str, trade_size: str) -> str:
    long = f"six times {draw_trade_size(trade_size)} long"
    return f"A body for {print_gauge(size)} must be marked for it, or be {long}. Read its marking."


def _spliced_body(t: Teller, walked: Walked) -> Finding | None:
    """A body holds splices only where a volume is marked on it, and by that volume (314.16(C)(2))."""
    contents = contents_of(t.case, walked, t.size, int(t.seen.grounds.size[t.row]))
    needed = None if contents is None else needed_in3(contents, t.case.job.code)
    if needed is None:
        return None
    volume = walked.leg.box_in3
    severity = UNREAD if volume is None else grade(volume, needed, "least")
    told = "No volume read off it" if volume is None else f"{volume:g} in³ is marked on it"
    text = f"Splices in the body at leg {walked.number} need {needed:g} in³ marked on it. {told}."
    fixes = (
        Fix("Pull through unspliced", (Put(f"legs[{walked.leg.id}].spliced", False),)),
        Fix("A box instead", (Put(f"legs[{walked.leg.id}].end", "box"),)),
    )
    return Finding(
        id=f"body:{walked.leg.id}",
        severity=severity,
        title="Splice in a body",
        text=text,
        cite=f"{t.book.title} 314.16(C)",
        found=volume,
        needed=needed,
        unit="in3",
        at_m=walked.end_m,
        where=walked.leg.id,
        fixes=fixes if severity != HOLDS else (),
    )


def _outlet_box(t: Teller) -> Finding | None:
    """The box behind a receptacle: a face wider than two inches counts twice a gang, and asks for a larger plate."""
    ground = int(t.seen.grounds.size[t.row])
    receptacle = t.case.receptacle
    if ground < 0 or receptacle is None or _large(t.book, t.size):
        return None
    wide = receptacle.amps > 20
    wires = t.case.hots + t.case.neutral
    cable = bool(t.case.sections) and t.case.sections[-1].method.cable
    contents = Contents(((t.size, wires),), (t.book.sizes[ground],), cable, t.size, WIDE_GANGS if wide else 1)
    needed = needed_in3(contents, t.case.job.code)
    if needed is None:
        return None
    fits = [name for name in OFFERED if standard_boxes()[name] >= needed - 1e-9]
    name = fits[0] if fits else "a box of that volume by its label"
    plate = "a two-gang plate for its large face" if wide else "a one-gang plate"
    return Finding(
        id="outlet-box",
        severity=HOLDS,
        title="Box of the receptacle",
        text=f"{receptacle.config} with {print_gauge(t.size)} needs {needed:g} in³: {name}, with {plate}.",
        cite=f"{t.book.title} 314.16(B)",
        needed=needed,
        unit="in3",
        sums=(
            f"{wires} × {print_gauge(t.size)}, ground {print_gauge(t.book.sizes[ground])}",
            f"device, {2 * contents.gangs} allowances",
        ),
        at_m=t.case.line.length_m,
        where="charger",
    )
