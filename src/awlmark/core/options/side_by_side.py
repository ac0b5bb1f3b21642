"""Outlet or hardwire, cable or pipe, copper or aluminium: each of them the whole job, side by side."""

from __future__ import annotations

import itertools

import msgspec

from awlmark.core.books import Book
from awlmark.core.books.book import Method
from awlmark.core.errors import InputError
from awlmark.core.finding import RANK, Fix, worst
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import MATERIALS, Job
from awlmark.core.names import METAL_NAMES
from awlmark.core.options.fixes import fork_ways
from awlmark.core.parts.quote import kind_hours, own_hours
from awlmark.core.run.line import Section
from awlmark.core.run.method_use import method_edits, use_severity
from awlmark.core.solve.design import Design, solve
from awlmark.core.solve.pick_circuit import opened

PIPE, CABLE, MIXED = "pipe", "cable", "pipe and cable"


class Side(msgspec.Struct, frozen=True):
    """One way to do the whole job."""

    ends: str
    """``Hardwired, 48 A`` or the outlet."""
    wiring: str
    metal: str
    job: Job
    breaker_a: float
    wires: str
    price: float
    """Cost of its parts."""
    unpriced: int
    hours: float
    """Of one person."""
    volts: float
    """At the charger, at full draw."""
    worst: str
    """Worst mark beside what is guessed."""
    reason: str
    """Title of the worst finding; empty where all of it holds."""
    here: bool
    """Whether it is the job as it stands."""


def wiring_of(design: Design) -> str:
    """Whether a run is pipe, cable or both."""
    kinds = {section.method.cable for section in design.line.sections}
    return MIXED if len(kinds) == 2 else CABLE if kinds == {True} else PIPE


def sides(design: Design) -> tuple[Side, ...]:
    """Every way to end it, in pipe and in cable, in copper and in aluminium.

    Parameters
    ----------
    design : Design
        Solved job; what it pins beside these three stays pinned, gauge and trade size apart.

    Returns
    -------
    tuple of Side
        The job as it stands first, then by worst mark and price; nothing without a line and amps.
    """
    if design.circuit is None or not design.line.legs:
        return ()
    found = [_side(design, design, _ends(design), wiring_of(design), design.job, here=True)]
    now = design.job.charger.connection, wiring_of(design), design.circuit.material
    for fix, wiring, metal in itertools.product(fork_ways(design), (PIPE, CABLE), MATERIALS):
        if (fix.edits[0].value, wiring, metal) == now:
            continue
        try:
            job = put(_wired(design, wiring), *fix.edits)
            job = job.with_run(circuit=opened(job.circuit, metal))
            after = solve(job)
        except InputError:
            continue  # no such cable or outlet in this metal
        if after.circuit is not None and after.circuit.material == metal:
            found.append(_side(design, after, fix, wiring, job, here=False))
    first, *others = found
    return (first, *sorted(others, key=lambda side: (-RANK[side.worst], side.price)))


def _ends(design: Design) -> Fix:
    ways = fork_ways(design)
    connection = design.job.charger.connection
    return next((way for way in ways if way.edits[0].value == connection), Fix(f"Outlet {connection}", ()))


def _side(before: Design, design: Design, fix: Fix, wiring: str, job: Job, *, here: bool) -> Side:
    circuit = design.circuit
    assert circuit is not None
    told = [finding for finding in design.findings if finding.id != "guessed"]
    mark = worst(told)
    known = {finding.id for finding in before.findings if finding.severity == mark}
    # What is wrong with this way, and not what is wrong with all of them.
    own = [one for one in told if one.severity == mark and (here or one.id not in known)] or [
        one for one in told if one.severity == mark
    ]
    hours = sum(kind_hours(design.parts, job).values()) + own_hours(design.line, wire_ground=circuit.ground is not None)
    return Side(
        fix.label, wiring, METAL_NAMES[circuit.material], job, circuit.breaker_a,
        design.book.print_wires(circuit.hots + circuit.neutral, circuit.size, circuit.ground), design.cost,
        design.unpriced, round(hours, 2), round(circuit.volts - circuit.drop_v, 2), mark,
        own[0].title if own and mark != "holds" else "", here,
    )  # fmt: skip


def _wired(design: Design, wiring: str) -> Job:
    """The job in pipe or in cable: the usual one of its kind where each section lies."""
    if wiring_of(design) == wiring:
        return design.job
    edits: list[Put] = []
    for section in design.line.sections:
        if section.method.cable != (wiring == CABLE):
            kind = _cable_for if wiring == CABLE else _pipe_for
            edits += method_edits(section, kind(section, design.book))
    return put(design.job, *edits)


def _pipe_for(section: Section, book: Book) -> str:
    """The raceway that is usual there, or where a cable is, the likeliest that may lie there."""
    usual = book.methods[book.usual["buried" if section.buried else section.legs[0].place]]
    if not usual.cable:
        return usual.key
    return _likeliest([each for each in book.methods.values() if not each.cable], section)


def _cable_for(section: Section, book: Book) -> str:
    """The cable that may lie there: of those that may, the likeliest."""
    return _likeliest([each for each in book.methods.values() if each.cable], section)


def _likeliest(methods: list[Method], section: Section) -> str:
    return min(methods, key=lambda each: (-RANK[use_severity(each, section)], not each.chip)).key
