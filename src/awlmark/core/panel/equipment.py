"""What the panel itself allows: its types, its places, its bus with solar on it, the room before it, its age."""

from __future__ import annotations

from typing import Final

from awlmark.core.book import Book
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.face import Breaker, DeadFront
from awlmark.core.job.model import Job
from awlmark.core.panel.buses import path_of
from awlmark.core.panel.rearrange import cells, takes_tandems
from awlmark.core.quantities import INCH_M, draw_trade_size, print_length

CLEAR_M: Final = (("wide", 30 * INCH_M), ("deep", 36 * INCH_M), ("high", 78 * INCH_M))
"""Working space before the panel, 110.26(A), or as wide as the panel where that is more [m]."""
BUS_SHARE: Final = 1.2
"""Main and back-fed breaker together against the bus bars, the back-fed one at the far end, 705.12."""


def panel_findings(job: Job, breaker_a: float, book: Book, trade_size: str | None = None) -> list[Finding]:
    """Everything about the panel but its load and its room; nothing while nobody has described it.

    Parameters
    ----------
    job : Job
        Its dead front, boards.
    breaker_a : float
        Breaker of the new circuit [A]; 0 while it is unread.
    book : Book
        For the edition's name and its trade sizes.
    trade_size : str, optional
        Raceway that leaves the panel; None for a cable.
    """
    front = job.dead_front
    found = [*_condition(front, book), *_neutrals(job, book), *_knockout(job, trade_size, book)]
    if front.spaces:
        found += [*_families(front, book), *_tandems(front, book), *_fillers(front, book)]
        found += [*_solar(job, breaker_a, book), *_working_space(job, book), _lugs(book)]
    return found


def _about(finding_id: str, severity: str, title: str, text: str, cite: str, **more: object) -> Finding:
    return Finding(finding_id, severity, title, text, cite, where="panel", at_m=0.0, stage="panel", **more)  # type: ignore[arg-type]


def name_of(breaker: Breaker) -> str:
    """What to call a device."""
    return breaker.name or f"space {breaker.space}"


def _condition(front: DeadFront, book: Book) -> list[Finding]:
    if front.condition == "obsolete":
        text = (
            "An obsolete panel: its breakers may not trip. Leave it closed; a licensed electrician replaces it first."
        )
        return [_about("panel-age", STOP, "Obsolete panel", text, f"{book.title} 110.3")]
    if front.condition == "worn":
        text = "A worn panel: have a licensed electrician look at bus and lugs before anything is added."
        return [_about("panel-age", TIGHT, "Worn panel", text, f"{book.title} 110.12(B)")]
    return []


def _neutrals(job: Job, book: Book) -> list[Finding]:
    found = []
    for board in job.boards:
        if board.id not in path_of(job, job.supply.board) or board.bonded is False:
            continue
        path = f"boards[{board.id}].bonded"
        if board.bonded:
            text = f"In the {board.name} neutral and ground are joined; past the service they stay apart."
            fixes = (Fix("Parted, by a licensed electrician", (Put(path, False),)),)
            found.append(
                _about(
                    f"bonded:{board.id}", STOP, "Neutral and ground", text, f"{book.title} 250.24, 408.40", fixes=fixes
                )
            )
        else:
            text = f"Look in the {board.name}: neutral and ground must lie on bars of their own there."
            fixes = (Fix("Looked: they are apart", (Put(path, False),)),)
            found.append(
                _about(
                    f"bonded:{board.id}", NOTE, "Neutral and ground", text, f"{book.title} 250.24, 408.40", fixes=fixes
                )
            )
    return found


def accepted(front: DeadFront, family: str) -> bool:
    """Whether a breaker's type is one the panel's label names; with either unread nothing speaks against it."""
    known = {" ".join(one.lower().split()) for one in front.families}
    return not known or not family or " ".join(family.lower().split()) in known


def _knockout(job: Job, trade_size: str | None, book: Book) -> list[Finding]:
    """The hole the run begins at: there, free, and of its size."""
    chosen = next((one for one in job.dead_front.knockouts if one.id == job.supply.knockout), None)
    if chosen is None:
        return []
    name = f"The {draw_trade_size(chosen.trade_size)} knockout at the {chosen.side}"
    cite = f"{book.title} 312.5"
    others = [one for one in job.dead_front.knockouts if one.state == "free" and one is not chosen]
    fixes = tuple(
        Fix(f"From the {draw_trade_size(one.trade_size)} at the {one.side}", (Put("supply.knockout", one.id),))
        for one in sorted(others, key=lambda one: one.trade_size != trade_size)
    )
    if chosen.state != "free":
        why = "is taken" if chosen.state == "used" else "is blocked: nothing can pass behind it"
        return [_about("knockout", STOP, "Knockout", f"{name} {why}.", cite, fixes=fixes)]
    if trade_size is None or trade_size == chosen.trade_size:
        return [_about("knockout", HOLDS, "Knockout", f"{name} is free and fits the run.", cite)]
    size = draw_trade_size(trade_size)
    if book.trade_sizes.index(trade_size) > book.trade_sizes.index(chosen.trade_size):
        return [
            _about(
                "knockout", TIGHT, "Knockout", f"{name} is too small for {size}: punch it larger.", cite, fixes=fixes
            )
        ]
    text = f"{name} is too large for {size}: a pair of reducing washers closes it."
    return [_about("knockout", NOTE, "Knockout", text, cite, fixes=fixes)]


def _families(front: DeadFront, book: Book) -> list[Finding]:
    if not front.families:
        return []
    wrong = [breaker for breaker in front.breakers if not accepted(front, breaker.family)]
    label = ", ".join(front.families)
    if not wrong:
        text = f"The panel's label takes type {label}; the new breaker is one of these."
        return [_about("family", HOLDS, "Breaker type", text, f"{book.title} 110.3(B)")]
    names = ", ".join(f"{name_of(breaker)} ({breaker.family})" for breaker in wrong[:3])
    text = f"The panel's label takes type {label}, not {names}."
    return [_about("family", STOP, "Breaker type", text, f"{book.title} 110.3(B)")]


def _tandems(front: DeadFront, book: Book) -> list[Finding]:
    wrong = [
        breaker
        for breaker in front.breakers
        if (breaker.tandem or breaker.quad) and not takes_tandems(front, breaker.space)
    ]
    if not wrong:
        return []
    taken = {space for breaker in front.breakers for space in cells(breaker)}
    edits: list[Put] = []
    for breaker in wrong:
        wide = len(cells(breaker))
        spot = next(
            (
                space
                for space in range(front.tandem_from or front.spaces + 1, front.spaces + 1)
                if not {space + 2 * n for n in range(wide)} & taken and space + 2 * (wide - 1) <= front.spaces
            ),
            None,
        )
        if spot is None or breaker.stays:
            edits = []
            break
        taken |= {spot + 2 * n for n in range(wide)}
        edits.append(Put(f"dead_front.breakers[{breaker.id}].space", spot))
    names = ", ".join(f"{name_of(breaker)} in {breaker.space}" for breaker in wrong[:3])
    where = "none of its spaces" if front.tandem_from is None else f"spaces {front.tandem_from} and up"
    text = f"The panel takes tandems and quads in {where}; {names} may not stay."
    fixes = (Fix("Set where they may be", tuple(edits)),) if edits else ()
    return [_about("tandem", STOP, "Tandem not allowed", text, f"{book.title} 408.54, 110.3(B)", fixes=fixes)]


def _fillers(front: DeadFront, book: Book) -> list[Finding]:
    taken = {space for breaker in front.breakers for space in cells(breaker)}
    gaping = sorted(set(front.opened) - set(front.fillers) - taken)
    if not gaping:
        return []
    spaces = ", ".join(str(space) for space in gaping)
    text = f"The cover is open at {spaces}: a finger reaches the bus. Close it with filler plates."
    edits = (Put("dead_front.fillers", tuple(sorted({*front.fillers, *gaping}))),)
    return [
        _about("fillers", STOP, "Open spaces", text, f"{book.title} 408.7", fixes=(Fix("Fit filler plates", edits),))
    ]


def _solar(job: Job, breaker_a: float, book: Book) -> list[Finding]:
    """Back-fed breakers against the bus: 120 % with the far end, or all breakers but the main within its rating."""
    front = job.dead_front
    sources = [breaker for breaker in front.breakers if breaker.kind == "back-fed"]
    if not sources:
        return []
    cite = f"{book.title} 705.12"
    board = next((one for one in job.boards if one.id == job.supply.board), None)
    main = board.feeder_a if board else job.supply.service_a
    if front.bus_a is None or main is None or any(breaker.rating_a is None for breaker in sources):
        text = "Solar feeds this bus: read the bus bars' rating, the main's and the back-fed breaker's. Type bus 200a."
        return [_about("solar", UNREAD, "Solar on the bus", text, cite, ask="bus ")]
    fed = sum(breaker.rating_a or 0.0 for breaker in sources)
    both, limit = main + fed, BUS_SHARE * front.bus_a
    far = all(max(cells(breaker)) > front.spaces - 2 for breaker in sources)
    every = breaker_a + sum(
        (breaker.rating_a or 0.0) * (2 if breaker.tandem or breaker.quad else 1)
        for breaker in front.breakers
        if breaker.kind != "main"
    )
    holds = (both <= limit + 1e-9 and far) or every <= front.bus_a + 1e-9
    text = f"Main {main:g} A and back-fed {fed:g} A make {both:g} A; 120 % of the {front.bus_a:g} A bus is {limit:g} A"
    text += "." if far else ", and the back-fed breaker is not at the far end."
    sums = (f"or all breakers but the main: {every:g} A of {front.bus_a:g} A",)
    return [
        _about(
            "solar", HOLDS if holds else STOP, "Solar on the bus", text, cite,
            found=both, needed=limit, unit="A", sense="most", sums=sums,
        )
    ]  # fmt: skip


def _working_space(job: Job, book: Book) -> list[Finding]:
    front, units = job.dead_front, job.units
    read = {"wide": front.clear_wide_m, "deep": front.clear_deep_m, "high": front.clear_high_m}
    cite = f"{book.title} 110.26(A)"
    wanted = ", ".join(f"{print_length(least, units)} {name}" for name, least in CLEAR_M)
    short = [
        f"{name} {print_length(value, units)}"
        for name, least in CLEAR_M
        if (value := read[name]) is not None and value < least - 1e-9
    ]
    if short:
        text = f"Before the panel only {', '.join(short)} is free; {wanted} must be. Clear it first."
        return [_about("working-space", STOP, "Working space", text, cite)]
    if None in read.values():
        text = f"Measure the free room before the panel: {wanted}. Type it, such as clear 30in 36in 6 6."
        return [_about("working-space", NOTE, "Working space", text, cite, ask="clear ")]
    return [_about("working-space", HOLDS, "Working space", f"{wanted} is free before the panel.", cite)]


def _lugs(book: Book) -> Finding:
    text = "The line lugs stay live with the main off. Keep their cover on; prove dead what you will touch."
    return _about("line-lugs", HOLDS, "Line lugs", text, "common practice")
