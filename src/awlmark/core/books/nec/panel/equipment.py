"""What the panel itself allows: its types, its places, its bus with solar on it, the room before it, its age."""

from __future__ import annotations

from typing import Final

from awlmark.core.books import Book
from awlmark.core.books.nec.facts import facts_of
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.panel_face import CONDITIONS, Breaker, DeadFront
from awlmark.core.panel.bus import path_of
from awlmark.core.panel.rearrange import cells, takes_tandems
from awlmark.core.quantities import INCH_M, draw_trade_size, print_length

CLEAR_M: Final = (30 * INCH_M, 36 * INCH_M, 78 * INCH_M)
"""Working space before the panel, wide, deep, high, 110.26(A), or as wide as the panel where that is more [m]."""
HANDLE_M: Final = 79 * INCH_M
"""Highest centre of a breaker's handle, 240.24(A) [m]."""
BELOW_TOP_M: Final = 12 * INCH_M
"""The highest handle lies no further below the panel's top than this; common practice [m]."""
BAD_SPOTS: Final = {
    "closet": ("The panel hangs in a clothes closet, by things that burn.", "closet"),
    "bathroom": ("The panel hangs in a bathroom.", "bathroom"),
    "steps": ("The panel hangs over steps.", "steps"),
    "storage": ("Things stand before the panel or foreign pipes above it: its room is kept free.", "storage"),
}
SOURCE_SHARE: Final = 1.25
"""Of a source's current, 705.12."""
USUAL_BREAKS_A: Final = 10_000.0
"""What common breakers interrupt; common practice, the label tells [A]."""
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
    found += [*_families(front, book), *_working_space(job, book), *place_of_panel(job, book), *_fault(job, book)]
    found += _fresh(job, book)
    if front.spaces:
        found += [*_tandems(front, book), *_fillers(front, book), *_solar(job, breaker_a, book), _lugs(book)]
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
        return [_about("panel-age", STOP, "Obsolete panel", text, book.cite("panel_obsolete"))]
    if front.condition == "worn":
        text = "A worn panel: have a licensed electrician look at bus and lugs before anything is added."
        return [_about("panel-age", TIGHT, "Worn panel", text, book.cite("panel_worn"))]
    if front.condition is None:
        text = "Is the panel sound: no rust, heat or burnt bus, breakers that are still made and known to trip?"
        fixes = tuple(Fix(f"{word.capitalize()}", (Put("dead_front.condition", word),)) for word in CONDITIONS)
        return [_about("panel-age", UNREAD, "Panel not looked at", text, book.cite("panel_worn"), fixes=fixes,
                       ask="condition ", site=True)]  # fmt: skip
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
                _about(f"bonded:{board.id}", STOP, "Neutral and ground", text, book.cite("neutrals"), fixes=fixes)
            )
        else:
            text = f"Look in the {board.name}: neutral and ground must lie on bars of their own there."
            fixes = (Fix("Looked: they are apart", (Put(path, False),)),)
            found.append(
                _about(
                    f"bonded:{board.id}",
                    UNREAD,
                    "Neutral and ground",
                    text,
                    book.cite("neutrals"),
                    fixes=fixes,
                    ask=f"feeder {board.name} apart",
                    site=True,
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
    cite = book.cite("knockout")
    others = [one for one in job.dead_front.knockouts if one.state == "free" and one is not chosen]
    fixes = tuple(
        Fix(f"From the {draw_trade_size(one.trade_size)} at the {one.side}", (Put("supply.knockout", one.id),))
        for one in sorted(others, key=lambda one: one.trade_size != trade_size)
    )
    if chosen.state != "free":
        why = "is taken" if chosen.state == "used" else "is blocked: nothing can pass behind it"
        return [_about("knockout", STOP, "Knockout", f"{name} {why}.", cite, fixes=fixes)]
    if trade_size is None:
        text = f"{name} is free; the cable's connector is one for that size, or reducing washers close it."
        return [_about("knockout", HOLDS, "Knockout", text, cite)]
    if trade_size == chosen.trade_size:
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
        text = "Which breaker types does the panel's label take? A breaker of another make may not go in."
        return [_about("family", UNREAD, "Breaker type not read", text, book.cite("instructions"), ask="accepts ",
                       site=True)]  # fmt: skip
    wrong = [breaker for breaker in front.breakers if not accepted(front, breaker.family)]
    label = ", ".join(front.families)
    if not wrong:
        text = f"The panel's label takes type {label}; the new breaker is one of these."
        return [_about("family", HOLDS, "Breaker type", text, book.cite("instructions"))]
    names = ", ".join(f"{name_of(breaker)} ({breaker.family})" for breaker in wrong[:3])
    text = f"The panel's label takes type {label}, not {names}."
    return [_about("family", STOP, "Breaker type", text, book.cite("instructions"))]


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
    return [_about("tandem", STOP, "Tandem not allowed", text, book.cite("tandem"), fixes=fixes)]


def _fillers(front: DeadFront, book: Book) -> list[Finding]:
    taken = {space for breaker in front.breakers for space in cells(breaker)}
    gaping = sorted(set(front.opened) - set(front.fillers) - taken)
    if not gaping:
        return []
    spaces = ", ".join(str(space) for space in gaping)
    text = f"The cover is open at {spaces}: a finger reaches the bus. Close it with filler plates."
    edits = (Put("dead_front.fillers", tuple(sorted({*front.fillers, *gaping}))),)
    return [
        _about("fillers", STOP, "Open spaces", text, book.cite("fillers"), fixes=(Fix("Fit filler plates", edits),))
    ]


def _solar(job: Job, breaker_a: float, book: Book) -> list[Finding]:
    """Back-fed breakers against the bus: 120 % with the far end, or all breakers but the main within its rating."""
    front = job.dead_front
    sources = [breaker for breaker in front.breakers if breaker.kind == "back-fed"]
    if not sources:
        return []
    cite = book.cite("solar")
    board = next((one for one in job.boards if one.id == job.supply.board), None)
    main = board.feeder_a if board else job.supply.service_a
    if front.bus_a is None or main is None or any(breaker.rating_a is None for breaker in sources):
        text = "Solar feeds this bus: read the bus bars' rating, the main's and the back-fed breaker's. Type bus 200a."
        return [_about("solar", UNREAD, "Solar on the bus", text, cite, ask="bus ")]
    loose = [breaker for breaker in sources if not breaker.clamped]
    if loose:
        return [*_held(loose, book), *_bus_sum(job, breaker_a, main, sources, book)]
    return _bus_sum(job, breaker_a, main, sources, book)


def _held(loose: list[Breaker], book: Book) -> list[Finding]:
    """A back-fed device that comes off leaves live blades: it is held by a clamp or screw (408.36(D))."""
    names = ", ".join(name_of(breaker) for breaker in loose)
    fixes = (Fix("It is held", tuple(Put(f"dead_front.breakers[{one.id}].clamped", True) for one in loose)),)
    open_ones = any(breaker.clamped is None for breaker in loose)
    text = f"Is {names} held by a clamp or screw?" if open_ones else f"{names} is not held by a clamp or screw."
    text += " Pulled off, its blades stay live."
    return [_about("back-fed", UNREAD if open_ones else STOP, "Back-fed breaker", text, book.cite("back_fed"),
                   fixes=fixes, ask=f"slot {loose[0].space} ")]  # fmt: skip


def _bus_sum(job: Job, breaker_a: float, main: float, sources: list[Breaker], book: Book) -> list[Finding]:
    """The bus under its main and its sources (705.12)."""
    front, cite = job.dead_front, book.cite("solar")
    assert front.bus_a is not None
    fed = sum(_source_a(breaker) for breaker in sources)
    both, limit = main + fed, BUS_SHARE * front.bus_a
    far = all(max(cells(breaker)) > front.spaces - 2 for breaker in sources)
    every = breaker_a + sum(
        (breaker.rating_a or 0.0) * (2 if breaker.tandem or breaker.quad else 1)
        for breaker in front.breakers
        if breaker.kind != "main"
    )
    by_share, by_sum = both <= limit + 1e-9 and far, every <= front.bus_a + 1e-9
    if by_sum and not by_share and (not front.complete or any(one.rating_a is None for one in front.breakers)):
        text = f"The breakers entered come to {every:g} A of the {front.bus_a:g} A bus: are these all of them?"
        fixes = (Fix("These are all", (Put("dead_front.complete", True),)),)
        return [_about("solar", UNREAD, "Solar on the bus", text, cite, fixes=fixes, ask="slot ")]
    holds = by_share or by_sum
    what = "125 % of the source" if all(one.source_a is not None for one in sources) else "back-fed"
    text = f"Main {main:g} A and {what} {fed:g} A make {both:g} A; 120 % of the {front.bus_a:g} A bus is {limit:g} A"
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
    cite = book.cite("working_space")
    wanted = ", ".join(f"{print_length(least, units)} {name}" for name, least in zip(read, CLEAR_M, strict=True))
    short = [
        f"{name} {print_length(value, units)}"
        for name, least in zip(read, CLEAR_M, strict=True)
        if (value := read[name]) is not None and value < least - 1e-9
    ]
    if short:
        text = f"Before the panel only {', '.join(short)} is free; {wanted} must be. Clear it first."
        return [_about("working-space", STOP, "Working space", text, cite)]
    if None in read.values():
        text = f"Measure the free room before the panel: {wanted}. Type it, such as clear 30in 36in 6 6."
        return [_about("working-space", UNREAD, "Working space", text, cite, ask="clear ", site=True)]
    return [_about("working-space", HOLDS, "Working space", f"{wanted} is free before the panel.", cite)]


def _source_a(breaker: Breaker) -> float:
    """What a back-fed device counts as: 125 % of its source's current, its own rating while that is unread [A]."""
    return SOURCE_SHARE * breaker.source_a if breaker.source_a is not None else breaker.rating_a or 0.0


def place_of_panel(job: Job, book: Book) -> list[Finding]:
    """Where the panel hangs and how high its handles are (240.24, 110.26(E))."""
    supply, units = job.supply, job.units
    found = []
    cite = book.cite("handles")
    most = print_length(HANDLE_M, units)
    if supply.handle_m is not None:
        high = supply.handle_m > HANDLE_M + 1e-9
        text = f"The highest handle is {print_length(supply.handle_m, units)} up; {most} is the most."
        found.append(_about("handle", STOP if high else HOLDS, "Height of the handles", text, cite))
    elif supply.panel_top_m > HANDLE_M + 1e-9:
        top = print_length(supply.panel_top_m, units)
        far = supply.panel_top_m > HANDLE_M + BELOW_TOP_M + 1e-9
        text = f"The panel's top is {top} up: its highest handle may be above {most}. How high is it?"
        found.append(_about("handle", STOP if far else UNREAD, "Height of the handles", text, cite, ask="handle "))
    if supply.spot is None:
        text = "Is the panel clear of closets, bathrooms and steps, with nothing foreign above it or stored before it?"
        fixes = (Fix("Clear of all that", (Put("supply.spot", "clear"),)),)
        found.append(_about("panel-place", UNREAD, "Panel's place", text, book.cite("panel_place"),
                            fixes=fixes, ask="spot ", site=True))  # fmt: skip
    elif supply.spot != "clear":
        text, rule = BAD_SPOTS[supply.spot]
        found.append(_about("panel-place", STOP, "Panel's place", text, book.cite(rule)))
    return found


def _fault(job: Job, book: Book) -> list[Finding]:
    """Fault current that can flow against what the new breaker interrupts (110.9)."""
    flows, breaks = job.supply.fault_a, job.supply.breaks_a
    cite = book.cite("fault")
    if flows is None or breaks is None:
        text = "What fault current can flow at the panel, and what does the new breaker interrupt? The utility and the "
        text += "breaker's label tell; common breakers interrupt 10,000 A."
        ask = "fault " if flows is None else "breaks "
        usual = (Put("supply.fault_a", USUAL_BREAKS_A), Put("supply.breaks_a", USUAL_BREAKS_A))
        fixes = (Fix("10,000 A at most, and a breaker marked so", usual),)
        return [_about("fault", UNREAD, "Fault current", text, cite, ask=ask, fixes=fixes, site=True)]
    text = f"{flows:,.0f} A can flow; the breaker interrupts {breaks:,.0f} A."
    severity = HOLDS if breaks >= flows - 1e-9 else STOP
    if severity == STOP:
        text += f" A listed series rating with the main would be marked on the panel ({book.clause('series')})."
    return [_about("fault", severity, "Fault current", text, cite)]


def surge_wanted(job: Job) -> bool:
    """Whether a surge device belongs to the job: the authority's rule, or a dwelling's new service from 2020 on."""
    return job.local.surge or (job.supply.fresh and job.occupancy == "dwelling" and facts_of(job.code).surge)


def _fresh(job: Job, book: Book) -> list[Finding]:
    """What a new or replaced service or feeder brings along (230.67, 215.18, 225.42, 230.85)."""
    if not job.supply.fresh or not surge_wanted(job):
        return []
    feeder = bool(job.supply.board)
    rule = "new_feeder" if feeder else "new_service"
    text = "A new supply of a dwelling has a surge device, on the list"
    text += "." if feeder else ", and an emergency disconnect outdoors."
    return [_about("fresh", NOTE, "New supply", text, book.cite(rule))]


def _lugs(book: Book) -> Finding:
    text = "The line lugs stay live with the main off. Keep their cover on; prove dead what you will touch."
    return _about("line-lugs", HOLDS, "Line lugs", text, "common practice")
