"""Room for the breaker: legs of the spaces, moves taken into the job, and what else can be done."""

from __future__ import annotations

import msgspec

from awlmark.core.book import Book
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, NOTE, STOP, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.face import Breaker, DeadFront
from awlmark.core.job.model import Job
from awlmark.core.panel.rearrange import OUT, Freed, cells, fewest_moves


def leg_of(space: int) -> str:
    """Bus leg of a space: rows alternate."""
    return "A" if (space - 1) // 2 % 2 == 0 else "B"


def owner_of(front: DeadFront, space: int) -> Breaker | None:
    """Device that takes a space."""
    return next((breaker for breaker in front.breakers if space in cells(breaker)), None)


def follow(front: DeadFront, freed: Freed) -> tuple[Put, ...]:
    """Edits that set the devices as the moves say; spaces left empty get a filler plate, but for the pair itself."""
    new_space = {move.breaker: move.to_space for move in freed.moves}
    kept = tuple(
        msgspec.structs.replace(breaker, space=new_space.get(breaker.id, breaker.space))
        for breaker in front.breakers
        if new_space.get(breaker.id) != OUT
    )
    before = {space for breaker in front.breakers for space in cells(breaker)}
    now = {space for breaker in kept for space in cells(breaker)}
    opened = ((set(front.opened) | before) - now) - set(freed.pair or ())
    fillers = set(front.fillers) & opened | (before & opened)
    return (
        Put("dead_front.breakers", kept),
        Put("dead_front.opened", tuple(sorted(opened))),
        Put("dead_front.fillers", tuple(sorted(fillers))),
    )


def move_breaker(job: Job, space: int, to_space: int) -> tuple[Put, ...]:
    """Edits that set the device in one space into another; one of the same width there takes its place.

    Raises
    ------
    InputError
        When nothing is there to move, it has to stay, or it does not fit.
    """
    front = job.dead_front
    one, other = owner_of(front, space), owner_of(front, to_space)
    if one is None:
        raise InputError("move", f"Space {space} is empty.", "a space with a breaker in it")
    for breaker in filter(None, (one, other)):
        if breaker.stays:
            raise InputError("move", f"{breaker.name or 'That device'} has to stay.", "a device that may be moved")
    if other is one:
        other = None
    if other is not None and len(cells(other)) == len(cells(one)):
        return (
            Put(f"dead_front.breakers[{one.id}].space", other.space),
            Put(f"dead_front.breakers[{other.id}].space", one.space),
        )
    return (Put(f"dead_front.breakers[{one.id}].space", to_space),)


def options(front: DeadFront) -> tuple[str, ...]:
    """What else can be done where no moves free a pair, and what each takes."""
    found = []
    unproved = [breaker for breaker in front.breakers if breaker.idle and not breaker.spare and not breaker.stays]
    if unproved:
        names = ", ".join(breaker.name or f"space {breaker.space}" for breaker in unproved[:3])
        found.append(f"prove {names} idle at the panel and at the far end, then take it out: a tester, no parts")
    singles = [
        breaker for breaker in front.breakers if len(cells(breaker)) == 1 and not breaker.tandem and not breaker.stays
    ]
    if front.tandem_from is not None and len(singles) >= 2:
        found.append(
            "put two single breakers into one tandem where the panel's label allows it: one tandem for each two"
        )
    found += [
        "take another panel with room: a feeder run from there",
        "set a sub-panel and move circuits into it: a two-pole breaker, a feeder, a panel, and a pair for its breaker",
    ]
    return tuple(found)


def space_findings(job: Job, hots: int, book: Book) -> list[Finding]:
    """Whether the panel has room for the circuit's breaker; nothing while its spaces are not counted."""
    front = job.dead_front
    if front.spaces == 0 or hots != 2 or job.demand.shares:
        return []
    freed = fewest_moves(front)
    fixes: tuple[Fix, ...] = ()
    if freed.pair is None:
        severity = STOP
        text = f"No moves free two spaces, one above the other; {freed.empty} are empty. Way out: {options(front)[0]}."
    elif not freed.moves:
        severity = HOLDS
        text = f"Spaces {freed.pair[0]} and {freed.pair[1]} are free, on legs A and B."
    else:
        severity = NOTE
        told = ", ".join(
            f"taking out {move.name}"
            if move.to_space == OUT
            else f"moving {move.name} from {move.from_space} to {move.to_space}"
            for move in freed.moves
        )
        text = f"{told[0].upper()}{told[1:]} frees {freed.pair[0]} and {freed.pair[1]}."
        fixes = (Fix("Set them so", follow(front, freed)),)
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
