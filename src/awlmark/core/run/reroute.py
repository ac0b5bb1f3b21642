"""Changing the line while the wall is open: split, insert, reverse, step round, slide a leg aside."""

from __future__ import annotations

from typing import Final

from msgspec.structs import replace

from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Job

OPPOSITE: Final = {"up": "down", "down": "up", "left": "right", "right": "left", "in": "out", "out": "in"}
LEAST_M: Final = 0.005
"""A shorter piece is no leg."""


def _place(job: Job, number: int) -> int:
    if not 1 <= number <= len(job.legs):
        raise InputError("leg", f"There is no leg {number}.", f"1 to {len(job.legs)}" if job.legs else "a first leg")
    return number - 1


def _fresh(job: Job, count: int) -> list[str]:
    taken = {leg.id for leg in job.legs}
    return [f"leg-{n}" for n in range(1, len(job.legs) + count + 2) if f"leg-{n}" not in taken][:count]


def _plain(leg: Leg, leg_id: str, direction: str, length_m: float) -> Leg:
    """A leg beside another: its place and method, but none of what stands only once."""
    return replace(
        leg,
        id=leg_id,
        direction=direction,
        length_m=length_m,
        end="bend",
        offset_m=None,
        saddle_m=None,
        slip=False,
        layers=(),
        wall="",
    )


def split(job: Job, number: int, at_m: float) -> tuple[Put, ...]:
    """Two legs out of one, ``at_m`` from its start; nothing else changes.

    Raises
    ------
    InputError
        When the leg is not there, or not that long.
    """
    at = _place(job, number)
    leg = job.legs[at]
    if not LEAST_M <= at_m <= leg.length_m - LEAST_M:
        raise InputError("split", "That is not inside the leg.", "a length shorter than the leg's own")
    (new_id,) = _fresh(job, 1)
    first = _plain(leg, new_id, leg.direction, at_m)
    second = replace(leg, length_m=leg.length_m - at_m)
    return (Put("legs", (*job.legs[:at], first, second, *job.legs[at + 1 :])),)


def insert(job: Job, number: int, direction: str, length_m: float) -> tuple[Put, ...]:
    """A new leg before leg ``number``."""
    at = _place(job, number)
    (new_id,) = _fresh(job, 1)
    new = Leg(id=new_id, direction=direction, length_m=length_m)
    return (Put("legs", (*job.legs[:at], new, *job.legs[at:])),)


def go_round(job: Job, number: int, at_m: float, way: str, aside_m: float, wide_m: float) -> tuple[Put, ...]:
    """Step round something on a leg: aside at ``at_m``, past its width, and back.

    Raises
    ------
    InputError
        When the leg does not reach past it, or the way runs along the leg itself.
    """
    at = _place(job, number)
    leg = job.legs[at]
    if way not in OPPOSITE or way in (leg.direction, OPPOSITE.get(leg.direction)):
        raise InputError("round", f"'{way}' does not lead aside from a leg {leg.direction}.", "a way across the leg")
    rest = leg.length_m - at_m - wide_m
    if at_m < LEAST_M or rest < LEAST_M:
        raise InputError("round", "The leg does not reach past it.", "a start and a width inside the leg")
    ids = _fresh(job, 4)
    pieces = (
        _plain(leg, ids[0], leg.direction, at_m),
        _plain(leg, ids[1], way, aside_m),
        _plain(leg, ids[2], leg.direction, wide_m),
        _plain(leg, ids[3], OPPOSITE[way], aside_m),
        replace(leg, length_m=rest),
    )
    return (Put("legs", (*job.legs[:at], *pieces, *job.legs[at + 1 :])),)


def reverse(job: Job, number: int) -> tuple[Put, ...]:
    """A leg the other way."""
    leg = job.legs[_place(job, number)]
    if leg.direction not in OPPOSITE:
        raise InputError(
            "reverse", f"A leg {leg.direction} keeps the heading.", "a leg up, down, left, right, in or out"
        )
    return (Put(f"legs[{leg.id}].direction", OPPOSITE[leg.direction]),)


def slide(job: Job, number: int, way: str, by_m: float) -> tuple[Put, ...]:
    """Move a leg sideways; its neighbours, which must lead that way, grow and shrink with it.

    Raises
    ------
    InputError
        When no neighbour leads that way, or one would shrink to nothing.
    """
    at = _place(job, number)
    edits = []
    for beside, sign in ((at - 1, 1.0), (at + 1, -1.0)):
        if not 0 <= beside < len(job.legs):
            if beside < 0:
                raise InputError("slide", "The first leg hangs on the panel.", "a leg between two others")
            continue
        leg = job.legs[beside]
        if leg.direction not in (way, OPPOSITE.get(way)):
            if sign > 0:
                raise InputError(
                    "slide", f"The leg before does not lead {way}.", f"a leg that follows one {way} or back"
                )
            continue
        grown = leg.length_m + sign * by_m * (1 if leg.direction == way else -1)
        if grown < LEAST_M:
            raise InputError("slide", "A leg beside it would shrink to nothing.", "a shorter way, or rub that leg out")
        edits.append(Put(f"legs[{leg.id}].length_m", grown))
    return tuple(edits)
