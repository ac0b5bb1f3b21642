"""Room for the breaker: legs of the spaces, moves taken into the job, and what else can be done."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import msgspec
from msgspec.structs import replace

from awlmark.core.books import Book
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.panel_face import Breaker, DeadFront
from awlmark.core.panel.bus import Supplied
from awlmark.core.panel.rearrange import OUT, Freed, Move, cells, fewest_moves


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


def space_findings(supplied: Supplied) -> list[Finding]:
    """Whether the panel has room for the circuit's breaker, and for the controller's where it is managed."""
    job, hots, book = supplied.job, supplied.hots, supplied.book
    front = job.dead_front
    if job.demand.shares:
        return []
    if front.spaces == 0:
        text = "How many spaces has the panel, and what is in them? The new breaker needs a place."
        return [_about_space(UNREAD, text, book, ask="spaces ", site=True)]
    if hots == 1:
        return [_one_space(front, book)]
    found = _pair(front, book)
    if job.demand.managed:
        found += _second_pair(front, book)
    return found


def _about_space(severity: str, text: str, book: Book, **more: Any) -> Finding:
    told = {"id": "space", "title": "Room for the breaker", "cite": book.cite("spaces")} | more
    return Finding(severity=severity, text=text, where="panel", at_m=0.0, stage="panel", **told)


def untold(front: DeadFront, spaces: Iterable[int]) -> list[int]:
    """Spaces among some that are taken as free though nobody has looked into them."""
    if front.complete:
        return []
    seen = {*front.free, *front.opened, *front.fillers}
    seen |= {space for breaker in front.breakers if breaker.idle for space in cells(breaker)}
    taken = {space for breaker in front.breakers for space in cells(breaker)}
    return sorted(set(spaces) - seen - taken)


def _look_first(front: DeadFront, spaces: list[int], book: Book) -> Finding:
    """Spaces that count as free only because nothing was said of them."""
    told = " and ".join(str(space) for space in spaces)
    text = f"Nobody has said what is in space{'s' if len(spaces) > 1 else ''} {told}: taken as free so far. Look."
    fixes = (
        Fix(f"{'They are' if len(spaces) > 1 else 'It is'} free", (Put("dead_front.free", (*front.free, *spaces)),)),
        Fix("Every device is entered", (Put("dead_front.complete", True),)),
    )
    return _about_space(UNREAD, text, book, id="space-told", title="Space not told", fixes=fixes,
                        ask=f"slot {spaces[0]} ", site=True)  # fmt: skip


def _one_space(front: DeadFront, book: Book) -> Finding:
    """A place for a one-pole breaker: an empty space, or an idle device's."""
    taken = {space for breaker in front.breakers for space in cells(breaker)}
    empty = [space for space in range(1, front.spaces + 1) if space not in taken]
    spare = next((breaker for breaker in front.breakers if breaker.spare), None)
    if empty:
        asked = untold(front, empty[:1])
        if asked:
            return _look_first(front, asked, book)
        return _about_space(HOLDS, f"Space {empty[0]} is free.", book)
    if spare is not None:
        return _about_space(NOTE, f"Taking out {spare.name or 'the idle device'} frees {spare.space}.", book)
    return _about_space(STOP, f"No space is free. Way out: {options(front)[0]}.", book,
                        sums=tuple(f"Or {way}" for way in options(front)[1:]))  # fmt: skip


def _second_pair(front: DeadFront, book: Book) -> list[Finding]:
    """The load controller stands on a two-pole breaker of its own: a second pair behind the charger's."""
    freed = fewest_moves(front)
    if freed.pair is None:
        return []
    moved = {edit.path: edit.value for edit in follow(front, freed)}
    charger = Breaker(id="new charger", space=min(freed.pair), name="charger", poles=2, fixed=True)
    after = replace(front, breakers=(*moved["dead_front.breakers"], charger))
    second = fewest_moves(after)
    title = {"id": "space-controller", "title": "Room for the controller"}
    if second.pair is None:
        text = "The load controller stands on a two-pole breaker of its own, and no second pair can be freed."
        return [_about_space(STOP, text, book, **title)]
    more = f" after {len(second.moves)} more moves" if second.moves else ""
    text = f"Spaces {second.pair[0]} and {second.pair[1]} take the load controller's breaker{more}."
    return [_about_space(NOTE if second.moves else HOLDS, text, book, **title)]


def _pair(front: DeadFront, book: Book) -> list[Finding]:
    """Two spaces one above the other, on both legs, with the fewest devices moved."""
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
        cite=book.cite("spaces"),
        where="panel",
        at_m=0.0,
        stage="panel",
        sums=tuple(f"Or {way}" for way in options(front)[1:]) if freed.pair is None else (),
        fixes=fixes,
    )
    asked = untold(front, freed.pair) if freed.pair is not None and not freed.moves else []
    # What leans on spaces that nobody looked into does not hold: it is asked.
    return [_look_first(front, asked, book)] if asked else [finding]


def new_breaker(job: Job, hots: int, breaker_a: float) -> tuple[Breaker, tuple[Move, ...]] | None:
    """The circuit's own breaker where it will stand, and the moves that make room for it.

    None where the circuit is there already, shares another's, or no room can be made.
    """
    front = job.dead_front
    if job.existing.breaker is not None or job.demand.shares or not front.spaces:
        return None
    if hots == 1:
        taken = {space for breaker in front.breakers for space in cells(breaker)}
        pair: tuple[int, ...] = tuple(space for space in range(1, front.spaces + 1) if space not in taken)[:1]
        moves: tuple[Move, ...] = ()
    else:
        freed = fewest_moves(front)
        pair, moves = freed.pair or (), freed.moves
    if not pair:
        return None
    poles = 2 if hots == 2 else 1
    return Breaker(id="new", space=min(pair), name="EV charger", rating_a=breaker_a, poles=poles), moves
