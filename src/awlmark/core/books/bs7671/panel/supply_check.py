"""The supply in words: cut-out, tails, earthing conductor, bonding, the distributor; the drop shared with a board."""

from __future__ import annotations

from typing import Any, Final

from awlmark.core.books import Book, open_book
from awlmark.core.books.bs7671.edition import U0
from awlmark.core.books.bs7671.panel.demand import buses, feeder_drop
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.drop import limit_percent
from awlmark.core.books.bs7671.sizing.earth_fault import table_54_7
from awlmark.core.books.printed import number
from awlmark.core.finding import HOLDS, LOWER, NOTE, STOP, TIGHT, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.supply import HOUSEHOLD
from awlmark.core.panel.bus import LEAST_CHARGE_A, Bus, Supplied
from awlmark.core.quantities import print_amps

FIRST_A: Final = 60.0
"""Above this a phase the distributor is asked first; to it, told within 28 days."""
BONDS: Final = ("water", "gas", "oil", "steel")
HALF_FROM, HALF_TO = (
    next(float(row["mm2"]) for row in printed("protective_minimum").rows if row["what"].endswith(what))
    for what in ("at least", "need not exceed")
)
"""Bounds of half the earthing conductor, 544.1.1 [mm2]."""


def _about(finding_id: str, severity: str, title: str, text: str, cite: str, **more: Any) -> Finding:
    return Finding(finding_id, severity, title, text, cite, where="panel", stage="panel", **more)


def supply_findings(supplied: Supplied) -> list[Finding]:
    """Everything about the supply, in the order of the current."""
    job, book = supplied.job, supplied.book
    told = [_bus(supplied, bus) for bus in supplied.buses] or [
        _about("demand:service", UNREAD, "Demand not asked", "What does the cut-out's fuse say, and what else draws?",
               book.cite("demand"), ask="cut-out ", site=True)
    ]  # fmt: skip
    if supplied.buses and not job.loads and not job.demand.complete and job.demand.measured_a is None:
        none = Fix("No others", (Put("demand.complete", True),))
        told.append(
            _about("loads", UNREAD, "Other loads not told", "What else draws from this supply?", book.cite("demand"),
                   ask="load ", fixes=(none,), site=True)
        )  # fmt: skip
    return [
        *told,
        *_distributor(supplied),
        *_main(job, book),
        *_tails(job, book),
        *_earth(job, book),
        *_bonding(job, book),
    ]


def _bus(supplied: Supplied, bus: Bus) -> Finding:
    job, cite = supplied.job, supplied.book.cite("demand")
    main = job.supply.service_a
    first = "The main switch" if main is not None and main == bus.rating_a != job.supply.cutout_a else "The cut-out"
    what = first if bus.id == "service" else f"The distribution circuit of {bus.name}"
    if bus.rating_a is None:
        text = f"{what} has no fuse read. It has to carry {print_amps(bus.needed_a)} with the charger."
        ask = "cut-out " if bus.id == "service" else f"sub-board {bus.name} "
        return _about(f"demand:{bus.id}", UNREAD, "Fuse not read", text, cite, ask=ask, site=True)
    severity = grade(bus.needed_a, bus.rating_a, "most", stepped=bus.set_point_a is not None)
    spare = bus.rating_a - bus.needed_a
    rest = f"{print_amps(abs(spare))} {'over' if spare < -1e-9 else 'to spare'}."
    text = f"{what} is {bus.rating_a:g} A; with the charger it has to carry {print_amps(bus.needed_a)}: {rest}"
    if bus.set_point_a is not None:
        left = max(0.0, bus.needed_a - bus.others_a)
        text = f"{what} is held to {print_amps(bus.set_point_a)}: the charger gets {print_amps(left)} with all running."
        if left < LEAST_CHARGE_A and severity == HOLDS:
            severity = TIGHT
            text += " Below 6 A a car does not charge."
    fixes = _ways_out(job, supplied.charge_a, bus) if severity == STOP else ()
    if job.demand.method == HOUSEHOLD and bus.sheet.method != "measured":
        cite = supplied.book.cite("household")
    sums = (f"others {bus.others_a:.2f} A, charger {bus.needed_a - bus.others_a:.2f} A, at {U0:g} V",)
    return _about(
        f"demand:{bus.id}", severity, "Demand", text, cite, found=bus.needed_a, needed=bus.rating_a, unit="A",
        sense="most", at_m=0.0, fixes=fixes, sums=sums,
    )  # fmt: skip


def _ways_out(job: Job, charge_a: float, over: Bus) -> tuple[Fix, ...]:
    fixes = []
    left = (over.rating_a or 0.0) - over.others_a
    steps = [amps for amps in open_book(job.code).circuit.settings_a if amps <= left and amps < charge_a]
    if steps:
        edits = (Put("charger.setting_a", steps[-1]), Put("charger.setting_restricted", True))
        fixes.append(Fix(f"Set charger to {steps[-1]:g} A, locked", edits, LOWER))
    if over.id == "service" and not job.demand.managed and left >= LEAST_CHARGE_A:
        fixes.append(Fix("Load curtailment", (Put("demand.managed", True),)))
    return tuple(fixes)


def _distributor(supplied: Supplied) -> list[Finding]:
    """What the distributor wants to know: asked first above 60 A or on a looped service, else told within 28 days."""
    job, cite = supplied.job, supplied.book.cite("distributor")
    if not supplied.buses:
        return []
    found = []
    if job.supply.looped is None:
        found.append(
            _about("looped", UNREAD, "Looped supply", "Does the supply go on to a neighbour?", cite, ask="looped ",
                   site=True)
        )  # fmt: skip
    most = buses(job, supplied.charge_a, supplied.volts)[0].needed_a
    first = most > FIRST_A or bool(job.supply.looped)
    why = "The supply is looped" if job.supply.looped else f"{print_amps(most)} a phase"
    text = f"{why}: apply to the distributor first." if first else f"{why}: connect, and tell within 28 days."
    return [*found, _about("distributor", NOTE, "Distributor", text, cite, found=most, needed=FIRST_A, unit="A",
                           sense="most")]  # fmt: skip


def _main(job: Job, book: Book) -> list[Finding]:
    """The main switch carries everything as well: until its rating is read, nothing of the demand holds for it."""
    if job.supply.service_a is not None:
        return []
    text = "What is the main switch rated? It carries all that the cut-out does."
    return [_about("main", UNREAD, "Main switch not read", text, book.cite("demand"), ask="main ", site=True)]


def _tails(job: Job, book: Book) -> list[Finding]:
    """Tails against what protects them: clipped singles."""
    supply, cite = job.supply, book.cite("tails")
    if supply.tails_mm2 is None:
        return [
            _about("tails", UNREAD, "Tails not read", "What size are the meter tails?", cite, ask="tails ", site=True)
        ]
    rows = {float(row["mm2"]): number(row["methodC_2c"]) for row in printed("t4d1a_singles_pvc70").rows}
    amps = rows.get(supply.tails_mm2)
    fuse = supply.cutout_a
    if amps is None or amps != amps or fuse is None:
        return []
    severity = grade(amps, fuse, "least", stepped=True)
    text = f"Tails of {supply.tails_mm2:g} mm² carry {amps:g} A behind a fuse of {fuse:g} A."
    return [_about("tails", severity, "Tails", text, cite, found=amps, needed=fuse, unit="A")]


def _earth(job: Job, book: Book) -> list[Finding]:
    """Main earthing conductor by Table 54.7."""
    supply, cite = job.supply, book.cite("cpc_table")
    if supply.earth_mm2 is None:
        text = "What size is the main earthing conductor?"
        return [_about("earth", UNREAD, "Earthing conductor not read", text, cite, ask="met ", site=True)]
    if supply.tails_mm2 is None:
        return []
    least = table_54_7(supply.tails_mm2)
    severity = grade(supply.earth_mm2, least, "least", stepped=True, advice=True)
    had = supply.earth_mm2
    text = f"Main earthing conductor {had:g} mm²; the table asks for {least:g} mm² beside such tails."
    return [_about("earth", severity, "Earthing conductor", text, cite, found=had, needed=least, unit="mm²")]


def bonding_mm2(job: Job) -> float | None:
    """Least main bonding conductor [mm2]: by the neutral under PME (Table 54.8), else half the earthing conductor."""
    supply = job.supply
    if supply.earthing == "tn-c-s":
        if supply.tails_mm2 is None:
            return None
        rows = printed("t54_8_bonding_pme").rows
        return next(
            float(row["bonding_mm2"]) for row in rows if supply.tails_mm2 <= float(row["neutral_to_mm2"] or "inf")
        )
    return None if supply.earth_mm2 is None else min(HALF_TO, max(HALF_FROM, supply.earth_mm2 / 2))


def _bonding(job: Job, book: Book) -> list[Finding]:
    """Bonding is put right before anything new is connected (132.16)."""
    bonding, cite = job.supply.bonding, book.cite("bonding")
    states = {name: getattr(bonding, name) for name in BONDS}
    missing = [name for name, state in states.items() if state == "no"]
    if missing:
        text = f"Not bonded: {', '.join(missing)}. It is put right before a new circuit is connected."
        return [_about("bonding", STOP, "Bonding", text, book.cite("before"))]
    unknown = [name for name, state in states.items() if state is None]
    if unknown:
        text = f"Is it bonded to the main earthing terminal: {', '.join(unknown)}?"
        return [_about("bonding", UNREAD, "Bonding not asked", text, cite, ask=f"bond {unknown[0]} ", site=True)]
    if "yes" not in states.values():
        return [_about("bonding", HOLDS, "Bonding", "Nothing here wants bonding.", cite)]
    least = bonding_mm2(job)
    if bonding.mm2 is None or least is None:
        text = "What size is the bonding conductor?"
        return [_about("bonding", UNREAD, "Bonding not read", text, cite, ask="bond size ", site=True)]
    severity = grade(bonding.mm2, least, "least", stepped=True)
    text = f"Bonding conductor {bonding.mm2:g} mm²; {least:g} mm² is the least here."
    return [_about("bonding", severity, "Bonding", text, cite, found=bonding.mm2, needed=least, unit="mm²")]


def whole_drop(job: Job, passed: tuple[Bus, ...], volts: float, book: Book, branch_percent: float) -> list[Finding]:
    """Distribution circuits and the final circuit share one limit."""
    drops = [feeder_drop(job, bus, volts, book) for bus in passed[1:]]
    if not drops:
        return []
    limit = job.circuit.max_drop_percent or limit_percent(job.supply.private)
    known = [drop for drop in drops if drop is not None]
    if len(known) < len(drops):
        text = "The drop of the distribution circuit is not read: its cable and length."
        return [_about("drop-whole", UNREAD, "Drop from the origin", text, book.cite("drop"), ask="distribution ")]
    whole = sum(known) + branch_percent
    text = (
        f"Distribution {sum(known):.2f} % and final circuit {branch_percent:.2f} % make {whole:.2f} % of {limit:g} %."
    )
    return [
        _about("drop-whole", grade(whole, limit, "most", advice=not job.local.drop_mandatory), "Drop from the origin",
               text, book.cite("drop"), found=whole, needed=limit, unit="%", sense="most")
    ]  # fmt: skip
