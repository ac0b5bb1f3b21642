"""Values that no job can hold, refused at the edge: each field by its declaration, then what several must agree on."""

from __future__ import annotations

from awlmark.core.errors import InputError
from awlmark.core.job.leg import CROSSING
from awlmark.core.job.limits import Within, check_fields
from awlmark.core.job.model import Job
from awlmark.core.job.panel_face import DeadFront


def check_values(job: Job, before: Job | None = None) -> Job:
    """Refuse values that no job can hold, naming the field; returns the job unchanged.

    Parameters
    ----------
    job : Job
        The document.
    before : Job, optional
        One that was checked: what both share is not looked at again.

    Raises
    ------
    InputError
        For the first value out of range. Sizes against the tables are checked where the book is open.
    """
    check_fields(job, before)

    def new(*names: str) -> bool:
        return before is None or any(getattr(job, name) is not getattr(before, name) for name in names)

    if new("boards", "loads", "supply", "demand"):
        _check_tree(job)
    if new("dead_front", "supply"):
        _check_dead_front(job.dead_front)
        _named("knockout", job.supply.knockout, [knockout.id for knockout in job.dead_front.knockouts])
    if new("site"):
        _check_site(job)
    if new("legs"):
        _check_legs(job)
    return job


def _named(what: str, wanted: str, known: list[str]) -> None:
    if wanted and wanted not in known:
        raise InputError(what, f"There is no {what} '{wanted[:40]}'.", ", ".join(known[:20]) or "none is entered yet")


def _check_tree(job: Job) -> None:
    """Boards form a tree under the service; loads and the circuit hang on boards that exist."""
    feeds = {board.id: board.fed_by for board in job.boards}
    for name, at in (("circuit", job.supply.board), *((load.name, load.board) for load in job.loads)):
        if at and at not in feeds:
            raise InputError(f"{name} panel", f"There is no board '{at[:40]}'.", ", ".join(["(service)", *feeds]))
    for board in job.boards:
        seen, at = {board.id}, board.fed_by
        while at:
            if at in seen or at not in feeds:
                raise InputError(
                    f"{board.name} feed", "Its feed leads nowhere or in a ring.", "a board nearer the supply"
                )
            seen.add(at)
            at = feeds[at]
    if job.demand.shares and job.demand.shares not in {load.id for load in job.loads}:
        raise InputError("shared circuit", "The load it would share with is gone.", "a load of this job")


def _check_site(job: Job) -> None:
    """A chosen pin that exists, things of some height, temperatures the right way round."""
    site = job.site
    for thing in site.things:
        Within(thing.low_m + 0.02, 20, "m").check(f"{thing.name} high", thing.high_m)
    _named("pin", site.pin, [pin.id for pin in site.pins])
    if site.low_c is not None and site.high_c is not None and site.low_c > site.high_c:
        raise InputError("coldest", f"{site.low_c:g} C is above the hottest, {site.high_c:g} C.", "a colder one")


def _check_dead_front(front: DeadFront) -> None:
    """No two devices in one space, none outside the panel. What the panel does not allow is a finding, not refused."""
    if front.spaces % 2:
        raise InputError("spaces", f"{front.spaces} spaces make no panel.", "an even number")
    taken: dict[int, str] = {}
    for breaker in front.breakers:
        name = breaker.name or f"breaker in space {breaker.space}"
        if breaker.tandem and (breaker.poles == 2 or breaker.tied or breaker.quad):
            raise InputError(name, "A tandem takes one space.", "one pole and tandem, or two poles")
        if breaker.quad and breaker.poles != 2:
            raise InputError(name, "A quad takes two spaces.", "two poles and quad")
        for space in (breaker.space, breaker.space + 2)[: 2 if breaker.tied else breaker.poles]:
            if not 1 <= space <= front.spaces:
                raise InputError(name, f"There is no space {space}.", f"1 to {front.spaces}")
            if space in taken:
                raise InputError(name, f"Space {space} is taken by {taken[space]}.", "a free space")
            taken[space] = name
    for space in (*front.opened, *front.fillers, *front.free):
        if not 1 <= space <= max(front.spaces, 1):
            raise InputError("open space", f"There is no space {space}.", f"1 to {front.spaces}")


def _check_legs(job: Job) -> None:
    """Every leg has a length but one through a wall, whose thickness nobody may have measured yet."""
    for number, leg in enumerate(job.legs, 1):
        if leg.length_m < 1e-4 and leg.direction not in CROSSING:
            Within(1e-4, 1e5, "m").check(f"leg {number} length", leg.length_m)
