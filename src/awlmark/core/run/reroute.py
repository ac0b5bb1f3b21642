"""Changing the line while the wall is open: split, insert, reverse, step round, slide a leg aside."""

from __future__ import annotations

import math
from collections.abc import Collection
from typing import Final

from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.books.words import Words
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, put
from awlmark.core.job.leg import CROSSING, Leg
from awlmark.core.job.model import Job
from awlmark.core.quantities import print_length
from awlmark.core.run.line import Vector, Walked, walk, ways_along

OPPOSITE: Final = {"up": "down", "down": "up", "left": "right", "right": "left", "in": "out", "out": "in"}
LEAST_M: Final = 0.005
"""A shorter piece is no leg."""
_SAME_M: Final = 1e-6
"""Places nearer than this are the same."""


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


def _walked(job: Job) -> dict[str, Walked]:
    return {walked.leg.id: walked for walked in walk(job, open_book(job.code)).legs}


def _changed(before: Walked, after: Walked, words: Words) -> str:
    """What became of a leg that was not touched, but for its place; nothing where it lies as it did."""
    if before.heading != after.heading:
        return "lead another way"
    if before.facing != after.facing:
        return "lie on another wall"
    if (before.place, before.place_after) != (after.place, after.place_after):
        return f"count as {words.place(after.place)}"
    return f"be {after.method.name}" if before.method.key != after.method.key else ""


def _keeps(job: Job, edits: tuple[Put, ...], field: str, number: int, own: Collection[str]) -> tuple[Put, ...]:
    """The edits, once it is sure that they move nothing but the legs they name.

    Raises
    ------
    InputError
        Naming the first other leg that would lie elsewhere, or otherwise.
    """
    walked, accepted = _walked(put(job, *edits)), "a change that leaves the rest of the line where it is"
    for leg_id, before in _walked(job).items():
        after = walked[leg_id]
        if leg_id in own:
            continue
        why = _changed(before, after, open_book(job.code).words)
        far = max(math.dist(before.start, after.start), math.dist(before.end, after.end))
        if not why and far > _SAME_M:
            why = f"move {print_length(far, job.units)}"
        if why:
            behind = "behind it " if before.number > number else ""
            raise InputError(field, f"Leg {before.number} {behind}would {why}.", accepted)
    return edits


def moved_words(job: Job, edits: tuple[Put, ...], slid: int = 0) -> str:
    """What else a change of the line moves, to be read before it is taken; nothing where all of it stays.

    ``slid`` is the number of a leg that moves by its own name; else what moves as a whole is told by the line's end.
    """
    before, after, words = _walked(job), _walked(put(job, *edits)), open_book(job.code).words
    told = []
    kept = [(before[leg_id], after[leg_id]) for leg_id in before if leg_id in after]
    along = [str(other.number) for one, other in kept if one.leg == other.leg and one.start != other.start]
    if slid and (along := [number for number in along if number != str(slid)]):
        told.append(f"leg{'s'[: len(along) > 1]} {', '.join(along)} move{'s'[: len(along) == 1]} along")
    if kept and (far := math.dist(kept[-1][0].end, kept[-1][1].end)) > _SAME_M:
        told.append(f"the line's end moves {print_length(far, job.units)}")
    for one, other in kept:
        why = _changed(one, other, words) if one.leg == other.leg else ""
        if why:
            told.append(f"leg {other.number} would {why}")
    return "; ".join(("", *told))


def _wall(leg: Leg, number: int, field: str) -> None:
    """Refuse what would pass one wall twice."""
    if leg.direction in CROSSING:
        raise InputError(field, f"Leg {number} passes a wall, which is one piece.", "a leg along a wall or in a trench")


def split(job: Job, number: int, at_m: float) -> tuple[Put, ...]:
    """Two legs out of one, ``at_m`` from its start; nothing else changes.

    Raises
    ------
    InputError
        When the leg is not there, or not that long.
    """
    at = _place(job, number)
    leg = job.legs[at]
    _wall(leg, number, "split")
    if not LEAST_M <= at_m <= leg.length_m - LEAST_M:
        raise InputError("split", "That is not inside the leg.", "a length shorter than the leg's own")
    (new_id,) = _fresh(job, 1)
    first = _plain(leg, new_id, leg.direction, at_m)
    second = replace(leg, length_m=leg.length_m - at_m)
    edits = (Put("legs", (*job.legs[:at], first, second, *job.legs[at + 1 :])),)
    return _keeps(job, edits, "split", number, {leg.id})


def insert(job: Job, number: int, direction: str, length_m: float) -> tuple[Put, ...]:
    """A new leg before leg ``number``; all behind it moves (:func:`moved_words` says how far)."""
    at = _place(job, number)
    (new_id,) = _fresh(job, 1)
    new = Leg(id=new_id, direction=direction, length_m=length_m)
    return (Put("legs", (*job.legs[:at], new, *job.legs[at:])),)


def go_round(
    job: Job, number: int, at_m: float, way: str, aside_m: float, wide_m: float, end: str = "bend"
) -> tuple[Put, ...]:
    """Step round something on a leg: aside at ``at_m``, past its width, and back; the step aside ends as ``end``.

    Raises
    ------
    InputError
        When the leg does not reach past it, the way runs along the leg itself, the leg passes a wall, or what lies
        behind would not stay where it is: a trench keeps on the way of the last level leg before it.
    """
    at = _place(job, number)
    leg = job.legs[at]
    _wall(leg, number, "round")
    if way not in OPPOSITE or way in (leg.direction, OPPOSITE.get(leg.direction)):
        raise InputError("round", f"'{way}' does not lead aside from a leg {leg.direction}.", "a way across the leg")
    rest = leg.length_m - at_m - wide_m
    if at_m < LEAST_M or rest < LEAST_M:
        raise InputError("round", "The leg does not reach past it.", "a start and a width inside the leg")
    ids = _fresh(job, 4)
    pieces = (
        _plain(leg, ids[0], leg.direction, at_m),
        replace(_plain(leg, ids[1], way, aside_m), end=end),
        _plain(leg, ids[2], leg.direction, wide_m),
        _plain(leg, ids[3], OPPOSITE[way], aside_m),
        replace(leg, length_m=rest),
    )
    edits = (Put("legs", (*job.legs[:at], *pieces, *job.legs[at + 1 :])),)
    kept = _keeps(job, edits, "round", number, {leg.id})
    before, after = _walked(job)[leg.id], _walked(put(job, *edits))[leg.id]
    if _changed(before, after, open_book(job.code).words) or math.dist(before.end, after.end) > _SAME_M:
        raise InputError("round", f"Leg {number} would not lead on as it does: a trench keeps its way.", "another leg")
    return kept


def reverse(job: Job, number: int) -> tuple[Put, ...]:
    """A leg the other way; all behind it moves (:func:`moved_words` says how far)."""
    leg = job.legs[_place(job, number)]
    _wall(leg, number, "reverse")
    if leg.direction not in OPPOSITE:
        raise InputError("reverse", f"A leg {leg.direction} keeps the heading.", "a leg up, down, left or right")
    return (Put(f"legs[{leg.id}].direction", OPPOSITE[leg.direction]),)


def slide(job: Job, number: int, way: str, by_m: float) -> tuple[Put, ...]:
    """Move a leg sideways; the nearest legs before and behind that lead that way grow and shrink with it.

    What lies between them and the leg, such as a wall it passes next, moves along; the last leg takes the line's end
    along. All else stays.

    Raises
    ------
    InputError
        When no leg before or behind leads that way, one would shrink to nothing, or the rest of the line would move.
    """
    at = _place(job, number)
    line = walk(job, open_book(job.code)).legs
    aside = ways_along(line[at].facing).get(way)
    if at == 0:
        raise InputError(
            "slide",
            f"The first leg hangs on the {open_book(job.code).words.panel}.",
            "a leg behind one that leads the way it slides",
        )
    if aside is None or line[at].crosses or _along(line[at], aside):
        raise InputError("slide", f"Leg {number} does not slide {way}.", "a way along the wall and across the leg")
    before = next((other for other in reversed(line[:at]) if _along(other, aside) and not other.crosses), None)
    behind = next((other for other in line[at + 1 :] if _along(other, aside) and not other.crosses), None)
    if before is None or (behind is None and number < len(line)):
        side = "before" if before is None else "behind"
        raise InputError("slide", f"No leg {side} it leads {way} or back, to make up for it.", "a leg between two such")
    edits = []
    for beside, sign in ((before, 1.0), (behind, -1.0)):
        if beside is None:
            continue
        grown = beside.leg.length_m + sign * by_m * _along(beside, aside)
        if grown < LEAST_M:
            raise InputError("slide", f"Leg {beside.number} would shrink to nothing.", "a shorter way, or rub it out")
        edits.append(Put(f"legs[{beside.leg.id}].length_m", grown))
    own = {leg.id for leg in job.legs[before.number - 1 : behind.number if behind else None]}
    return _keeps(job, tuple(edits), "slide", number, own)


def _along(walked: Walked, way: Vector) -> int:
    """1 where a leg leads this way, -1 where it leads back, 0 where it leads across."""
    return round(sum(one * other for one, other in zip(walked.heading, way, strict=True)))
