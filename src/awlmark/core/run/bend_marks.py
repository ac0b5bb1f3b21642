"""Where to mark a stick for a bend by hand: stubs, offsets, saddles, back-to-back; heat for plastic."""

from __future__ import annotations

import functools
import math
from typing import Final

import msgspec

from awlmark.core.books.book import Method
from awlmark.core.errors import InputError
from awlmark.core.quantities import INCH_M

SHOE: Final = "shoe"
SADDLE_CENTRE_DEG: Final = 45.0
SADDLE_SIDE_DEG: Final = 22.5
SADDLE_SPREAD: Final = 2.5
"""Centre to side mark over the height of a three-point saddle; common practice."""
SADDLE_SHRINK: Final = 3 / 16
"""Centre mark moves forward by this share of the height; common practice."""


class BendMark(msgspec.Struct, frozen=True):
    """One mark on the stick."""

    at_m: float
    """From the stick's end [m]."""
    angle_deg: float
    says: str


class Marked(msgspec.Struct, frozen=True):
    """A stick marked for one shape."""

    shape: str
    marks: tuple[BendMark, ...]
    shrink_m: float
    """How much the stick gets shorter between its ends."""
    gain_m: float
    """How much a 90 saves against its two straight legs."""
    radius_m: float
    """To the centre line of the bend [m]."""


def bend_radius_m(method: Method, trade_size: str, *, one_shot: bool = True) -> float:
    """Least radius of a bend to its centre line [m].

    Raises
    ------
    InputError
        For a size the book does not have.
    """
    known = method.bending.radius_m
    if trade_size not in known:
        raise InputError("trade size", f"No bend radius is known for {trade_size}.", ", ".join(known))
    return known[trade_size][not one_shot]


def _bender(method: Method, trade_size: str) -> tuple[float, float]:
    """Take-up and gain of a hand bender for a 90 [m]."""
    made = method.bending.bender_m
    if trade_size not in made:
        raise InputError("trade size", f"No hand bender is known for {trade_size} {method.name}.", ", ".join(made))
    return made[trade_size]


def outside_m(method: Method, trade_size: str) -> float:
    """Outside diameter of a raceway [m]; nothing known is an inch."""
    return method.bending.outside_m.get(trade_size, INCH_M)


def hand_radius_m(method: Method, trade_size: str) -> float:
    """Radius of a bend made by hand to its centre line [m]: in a shoe, or with heat."""
    return bend_radius_m(method, trade_size, one_shot=method.bends == SHOE)


@functools.cache
def hand_gain_m(method: Method, trade_size: str) -> float:
    """What a 90 by hand saves [m]: the bender's own figure, plain geometry where there is no hand bender."""
    if method.bends == SHOE and trade_size in method.bending.bender_m:
        return _bender(method, trade_size)[1]
    return gain_m(hand_radius_m(method, trade_size), outside_m(method, trade_size))


@functools.cache
def hand_reach_m(method: Method, trade_size: str) -> float:
    """Raceway that a 90 by hand wants before its corner [m]: its radius to the back, or the bender's take-up."""
    reach = hand_radius_m(method, trade_size) + outside_m(method, trade_size) / 2
    shod = method.bends == SHOE and trade_size in method.bending.bender_m
    return max(reach, _bender(method, trade_size)[0]) if shod else reach


def gain_m(radius_m: float, outside_m: float) -> float:
    """What a 90 saves: its two legs to the back of the bend less its own length [m], plain geometry."""
    return 2 * (radius_m + outside_m / 2) - math.pi / 2 * radius_m


def trade_factors(method: Method, angle_deg: float) -> tuple[float, float]:
    """Multiplier, and shrink over height, of an offset as benders print them: ratios; exact where they print none."""
    for printed_deg, multiplier, shrink in method.bending.factors:
        if math.isclose(printed_deg, angle_deg):
            return multiplier, shrink
    return exact_factors(angle_deg)


def exact_factors(angle_deg: float) -> tuple[float, float]:
    """Multiplier, and shrink over height, by geometry: the cosecant and the tangent of half the angle, ratios."""
    angle = math.radians(angle_deg)
    return 1 / math.sin(angle), math.tan(angle / 2)


def mark_stub(method: Method, trade_size: str, stub_m: float) -> Marked:
    """A 90 whose far leg stands ``stub_m`` high: one mark, take-up back from the height.

    Plastic is heated, so there is no shoe: the heat begins where the bend does and is as long as its arc.
    """
    radius, gain = hand_radius_m(method, trade_size), hand_gain_m(method, trade_size)
    if method.bends != SHOE:
        arc = math.pi / 2 * radius
        start = stub_m - outside_m(method, trade_size) / 2 - radius
        _reach(start, "stub", "taller than the bend's own radius")
        marks = (BendMark(start, 0.0, "heat from here"), BendMark(start + arc, 90.0, "to here, bend to 90°"))
        return Marked("stub", marks, 0.0, gain, radius)
    takeup, _gain = _bender(method, trade_size)
    _reach(stub_m - takeup, "stub", "taller than the bender's take-up")
    return Marked("stub", (BendMark(stub_m - takeup, 90.0, "arrow here, bend to 90°"),), 0.0, gain, radius)


def mark_offset(
    method: Method, trade_size: str, far_m: float, deep_m: float, angle_deg: float, *, exact: bool = False
) -> Marked:
    """A step of ``deep_m``, its far bend ``far_m`` from the stick's end to the obstacle.

    The far mark moves forward by the shrink; the near one stands the multiplied depth behind it.
    """
    multiplier, shrink = exact_factors(angle_deg) if exact else trade_factors(method, angle_deg)
    second = far_m + shrink * deep_m
    first = second - multiplier * deep_m
    _reach(first, "offset", "farther from the stick's end, or steeper")
    marks = (
        BendMark(first, angle_deg, f"bend to {angle_deg:g}°"),
        BendMark(second, angle_deg, f"turn it over, bend back {angle_deg:g}°"),
    )
    return Marked("offset", marks, shrink * deep_m, 0.0, bend_radius_m(method, trade_size))


def mark_saddle3(method: Method, trade_size: str, centre_m: float, high_m: float, *, exact: bool = False) -> Marked:
    """Three bends over a pipe: 45 in the middle, 22.5 on both sides."""
    spread, share = exact_factors(SADDLE_SIDE_DEG) if exact else (SADDLE_SPREAD, SADDLE_SHRINK)
    shrink, side = share * high_m, spread * high_m
    middle = centre_m + shrink
    _reach(middle - side, "saddle", "farther from the stick's end")
    marks = (
        BendMark(middle - side, SADDLE_SIDE_DEG, "third: bend back 22.5°"),
        BendMark(middle, SADDLE_CENTRE_DEG, "first: rim notch here, bend to 45°"),
        BendMark(middle + side, SADDLE_SIDE_DEG, "second: bend back 22.5°"),
    )
    return Marked("saddle 3", marks, shrink, 0.0, bend_radius_m(method, trade_size))


def mark_saddle4(
    method: Method,
    trade_size: str,
    near_m: float,
    wide_m: float,
    high_m: float,
    angle_deg: float,
    *,
    exact: bool = False,
) -> Marked:
    """Four bends over something wide: an offset up, its width, an offset down."""
    multiplier, shrink = exact_factors(angle_deg) if exact else trade_factors(method, angle_deg)
    up = mark_offset(method, trade_size, near_m, high_m, angle_deg, exact=exact)
    third = up.marks[1].at_m + wide_m
    marks = (
        *up.marks,
        BendMark(third, angle_deg, f"bend down {angle_deg:g}°"),
        BendMark(third + multiplier * high_m, angle_deg, f"turn it over, bend back {angle_deg:g}°"),
    )
    return Marked("saddle 4", marks, 2 * shrink * high_m, 0.0, bend_radius_m(method, trade_size))


def _reach(at_m: float, field: str, accepted: str) -> None:
    if at_m < 0:
        raise InputError(field, "Its first mark would lie before the stick's end.", f"one {accepted}")
