"""The fewest moves that free two spaces, one above the other, on opposite legs.

With the panel dead, breakers can be lifted out and set again in any order, so what counts is how many devices end up
somewhere else. A set of devices can be set elsewhere when the spaces left to them hold as many upright pairs as there
are two-pole devices among them, enough tandem spaces for the tandems, and enough of the rest for the single ones.
"""

from __future__ import annotations

import functools
import itertools
from collections.abc import Iterator
from typing import Final

import msgspec

from awlmark.core.book import Book
from awlmark.core.finding import HOLDS, NOTE, STOP, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Breaker, DeadFront, Job

MOST_EXTRA: Final = 4
"""Devices moved besides those that stand in the way; more than this frees nothing in a panel of singles and doubles."""


class Move(msgspec.Struct, frozen=True):
    """One device from one space to another."""

    breaker: str
    name: str
    from_space: int
    to_space: int


class Freed(msgspec.Struct, frozen=True):
    """What it takes to free a pair of spaces."""

    pair: tuple[int, int] | None
    """Upper and lower space; None when no moves free any."""
    moves: tuple[Move, ...]
    empty: int
    """Empty spaces in the panel."""


def leg_of(space: int) -> str:
    """Bus leg of a space: rows alternate."""
    return "A" if (space - 1) // 2 % 2 == 0 else "B"


def cells(breaker: Breaker) -> tuple[int, ...]:
    """Spaces a device takes."""
    return (breaker.space, breaker.space + 2) if breaker.poles == 2 or breaker.tied else (breaker.space,)


def fewest_moves(front: DeadFront) -> Freed:
    """Free two adjacent spaces on opposite legs with the fewest devices moved.

    Parameters
    ----------
    front : DeadFront
        The panel; devices marked fixed stay.

    Returns
    -------
    Freed
        The pair with the fewest moves (the highest in the panel among equals), in an order that can be followed.
    """
    return _fewest(msgspec.json.encode(front))


@functools.lru_cache(maxsize=32)
def _fewest(encoded: bytes) -> Freed:
    """The search itself, kept by its whole input: most edits of a job leave the panel alone."""
    front = msgspec.json.decode(encoded, type=DeadFront)
    owner = {space: breaker for breaker in front.breakers for space in cells(breaker)}
    empty = {space for space in range(1, front.spaces + 1) if space not in owner}
    movable = [breaker for breaker in front.breakers if not breaker.fixed]
    pairs: list[tuple[tuple[int, int], tuple[Breaker, ...]]] = []
    for upper in range(1, front.spaces - 1):
        pair = (upper, upper + 2)
        there = {owner[space].id: owner[space] for space in pair if space in owner}
        if not any(breaker.fixed for breaker in there.values()):
            pairs.append((pair, tuple(there.values())))
    if len(empty) >= 2:
        for count in range(MOST_EXTRA + 3):
            for pair, inside in pairs:
                extra = count - len(inside)
                if not 0 <= extra <= MOST_EXTRA:
                    continue
                for more in itertools.combinations([b for b in movable if b not in inside], extra):
                    moved: tuple[Breaker, ...] = (*inside, *more)
                    placed = _place(front, empty, pair, moved)
                    if placed is not None:
                        return Freed(pair, _in_order(moved, placed, empty), len(empty))
    return Freed(None, (), len(empty))


def _place(
    front: DeadFront, empty: set[int], pair: tuple[int, int], moved: tuple[Breaker, ...]
) -> dict[str, int] | None:
    """New upper space of every moved device, or None where they do not fit. None may stay where it was."""
    free = (empty | {space for breaker in moved for space in cells(breaker)}) - set(pair)
    doubles = [breaker for breaker in moved if len(cells(breaker)) == 2]
    tandems = [breaker for breaker in moved if breaker.tandem]
    singles = [breaker for breaker in moved if len(cells(breaker)) == 1 and not breaker.tandem]
    if len(free) < 2 * len(doubles) + len(tandems) + len(singles):
        return None
    takes = {space for space in free if front.tandem_from is not None and space >= front.tandem_from}
    for uppers in _upright_pairs(free, len(doubles)):
        left = free - {space for upper in uppers for space in (upper, upper + 2)}
        if len(left & takes) >= len(tandems) and len(left) >= len(tandems) + len(singles):
            # Tandem spaces go to tandems last of all, so that singles do not use them up.
            rest = sorted(left, key=lambda space: (space in takes, space))
            spots = sorted(left & takes)[len(left & takes) - len(tandems) :]
            plain = [space for space in rest if space not in spots]
            found = _keep_apart(doubles, list(uppers)) | _keep_apart(tandems, spots) | _keep_apart(singles, plain)
            if all(found[breaker.id] != breaker.space for breaker in moved):
                return found
    return None


def _keep_apart(breakers: list[Breaker], spots: list[int]) -> dict[str, int]:
    """Give each device a spot that is not its own where that can be."""
    found: dict[str, int] = {}
    left = list(spots)
    for breaker in breakers:
        spot = next((space for space in left if space != breaker.space), left[0])
        found[breaker.id] = spot
        left.remove(spot)
    return found


def _upright_pairs(free: set[int], count: int) -> Iterator[tuple[int, ...]]:
    """All ways to lay ``count`` upright pairs into the free spaces, by their upper spaces."""
    if count == 0:
        yield ()
        return
    uppers = sorted(space for space in free if space + 2 in free)
    for chosen in itertools.combinations(uppers, count):
        if all(b - a != 2 for a, b in itertools.combinations(chosen, 2)):
            yield chosen


def _in_order(moved: tuple[Breaker, ...], placed: dict[str, int], empty: set[int]) -> tuple[Move, ...]:
    """Moves so that each goes where it is empty by then; a ring of moves is begun by setting its first device aside."""
    waiting, free, found = list(moved), set(empty), []
    while waiting:
        for breaker in waiting:
            target = {placed[breaker.id] + 2 * step for step in range(len(cells(breaker)))}
            if target <= free | set(cells(breaker)):
                break
        else:
            breaker = waiting[0]
            target = {placed[breaker.id] + 2 * step for step in range(len(cells(breaker)))}
        waiting.remove(breaker)
        free = (free | set(cells(breaker))) - target
        found.append(Move(breaker.id, breaker.name or f"space {breaker.space}", breaker.space, placed[breaker.id]))
    return tuple(found)


def options(front: DeadFront) -> tuple[str, ...]:
    """What else can be done where no moves free a pair."""
    found = []
    singles = [
        breaker for breaker in front.breakers if len(cells(breaker)) == 1 and not breaker.tandem and not breaker.fixed
    ]
    if front.tandem_from is not None and len(singles) >= 2:
        found.append("put two single breakers into one tandem where the panel's label allows it")
    found += ["take another panel with room", "set a sub-panel and move circuits into it"]
    return tuple(found)


def space_findings(job: Job, hots: int, book: Book) -> list[Finding]:
    """Whether the panel has room for the circuit's breaker; nothing while its spaces are not counted."""
    front = job.dead_front
    if front.spaces == 0 or hots != 2:
        return []
    freed = fewest_moves(front)
    fixes: tuple[Fix, ...] = ()
    if freed.pair is None:
        severity = STOP
        text = f"No moves free two spaces, one above the other; {freed.empty} are empty. Ways out: {options(front)[0]}."
    elif not freed.moves:
        severity = HOLDS
        text = f"Spaces {freed.pair[0]} and {freed.pair[1]} are free, on legs A and B."
    else:
        severity = NOTE
        told = ", ".join(f"{move.name} from {move.from_space} to {move.to_space}" for move in freed.moves)
        text = f"Moving {told} frees {freed.pair[0]} and {freed.pair[1]}."
        edits = tuple(Put(f"dead_front.breakers[{move.breaker}].space", move.to_space) for move in freed.moves)
        fixes = (Fix("Set them so", edits),)
    finding = Finding(
        id="space",
        severity=severity,
        title="Room for the breaker",
        text=text,
        cite=f"{book.title} 408.54",
        where="panel",
        at_m=0.0,
        stage="panel",
        sums=tuple(f"Or {way}" for way in options(front)[1:]) if freed.pair is None else (),
        fixes=fixes,
    )
    return [finding]
