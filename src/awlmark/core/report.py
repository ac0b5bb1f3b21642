"""A design as plain values: what the command line prints and a file can hold."""

from __future__ import annotations

import math
from typing import Any, Final

from msgspec.structs import replace

from awlmark.core.books.words import cap
from awlmark.core.finding import HOLDS, NOTE, TIGHT, UNREAD, Finding, ranked, worst
from awlmark.core.job.model import Job
from awlmark.core.names import METAL_NAMES
from awlmark.core.options.compare import Choice, Comparison
from awlmark.core.quantities import print_length
from awlmark.core.solve.design import Design
from awlmark.core.solve.pick_circuit import Circuit


def _rounded(value: float | None, places: int = 4) -> float | None:
    return None if value is None or not math.isfinite(value) else round(value, places)


def finding_values(finding: Finding) -> dict[str, Any]:
    """A finding as the command-line contract has it."""
    return {
        "id": finding.id,
        "severity": finding.severity,
        "cite": finding.cite,
        "text": finding.text,
        "found": _rounded(finding.found),
        "needed": _rounded(finding.needed),
        "unit": finding.unit,
    }


def raceway_values(design: Design) -> list[dict[str, Any]]:
    """Raceways of the run in order; cable sections are left out."""
    circuit = design.circuit
    if circuit is None:
        return []
    return [
        {
            "type": section.method.key,
            "trade_size": circuit.trade_sizes[section.number],
            "fill_percent": _rounded(circuit.fill_percent[section.number], 2),
            "limit_percent": _rounded(circuit.limit_percent[section.number], 2),
        }
        for section in design.line.sections
        if not section.method.cable
    ]


LOOKED_AT: Final = ("breaker", "wire", "ground", "pipe", "drop")
"""What a bare quote is asked about."""


def quoted(design: Design) -> tuple[Finding, ...]:
    """Findings of a bare quote, which tells one length and one place: what only a visit tells is left to the list of
    what was not asked. The terminals' marking is a note there, as the 75 C column is taken."""
    found = []
    for finding in design.findings:
        if finding.id == "terminals" and finding.severity != HOLDS:
            found.append(replace(finding, severity=NOTE))
        elif not (finding.site and finding.severity == UNREAD):
            found.append(finding)
    return ranked(found)


def not_asked_values(design: Design) -> list[dict[str, str]]:
    """What nobody has told, each with the beginning of the entry that answers it."""
    return [{"id": one.id, "title": one.title, "stage": one.stage, "ask": one.ask.strip()} for one in design.not_asked]


def circuit_values(design: Design, *, quote: bool = True) -> dict[str, Any]:
    """The circuit as ``size`` prints it; values are null while the charging current is unread.

    Parameters
    ----------
    design : Design
        Solved.
    quote : bool
        A bare quote: what only a visit tells stands in ``not_asked`` alone.
    """
    circuit = design.circuit
    raceways = raceway_values(design)
    findings = quoted(design) if quote else design.findings
    values: dict[str, Any] = {
        "verdict": worst(findings),
        "charge_a": None,
        "needed_a": None,
        "breaker": None,
        "conductor": None,
        "neutral": None,
        "ground": None,
        "ampacity_a": None,
        "drop": None,
        "raceway": None,
        "findings": [finding_values(finding) for finding in findings],
        "not_asked": not_asked_values(design),
    }
    if circuit is not None:
        values |= _known(circuit)
        # With several raceways the one that is filled most speaks for the run.
        values["raceway"] = max(raceways, key=lambda raceway: raceway["fill_percent"] or 0.0) if raceways else None
        values |= design.book.circuit.more_values(design, values)
    return values


def _known(circuit: Circuit) -> dict[str, Any]:
    wire = {"size": circuit.size, "material": circuit.material, "insulation": circuit.insulation}
    return {
        "charge_a": circuit.charge_a,
        "needed_a": _rounded(circuit.need_a),
        "breaker": {"rating_a": _rounded(circuit.breaker_a), "poles": circuit.poles, "gfci": circuit.gfci},
        "conductor": {**wire, "count": circuit.hots},
        "neutral": {**wire, "count": 1} if circuit.neutral else None,
        "ground": {"size": circuit.ground, "material": circuit.material},
        "ampacity_a": _rounded(circuit.usable_a, 2),
        "drop": {
            "volts": _rounded(circuit.drop_v, 3),
            "percent": _rounded(circuit.drop_percent, 3),
            "at_charger_v": _rounded(circuit.volts - circuit.drop_v, 3),
        },
    }


def job_values(design: Design) -> dict[str, Any]:
    """The whole job as ``check`` prints it."""
    line = design.line
    return {
        "job": design.job.name,
        "code": design.job.code,
        "verdict": design.verdict,
        "said": design.said,
        "design": circuit_values(design, quote=False),
        "raceways": raceway_values(design),
        "run": {
            "length_m": _rounded(line.length_m),
            "upright_m": _rounded(line.upright_m),
            "wire_m": _rounded(design.wire_m),
            "by_method_m": {name: _rounded(length) for name, length in line.by_method.items()},
            "bends_deg": _rounded(line.bends_deg, 1),
            "legs": len(line.legs),
            "pull_points": max(0, len(line.stretches) - 1),
            "reaches_charger": line.closed,
        },
        "findings": [finding_values(finding) for finding in design.findings],
        "not_asked": not_asked_values(design),
        "overruled": [finding.id for finding in design.overruled],
        "parts": [
            {
                "item": part.name,
                "qty": part.quantity,
                "unit": part.unit,
                "each": part.each,
                "total": part.total,
                "mark": part.where,
            }
            for part in design.parts
        ],
        "cost": {"total": design.cost, "currency": design.job.currency, "unpriced": design.unpriced},
    }


def marks_in_words(design: Design, marks: tuple[str, ...]) -> str:
    """What a part serves: ``legs 1 to 3, 5, panel``."""
    numbers = {walked.leg.id: walked.number for walked in design.line.legs}
    named_here = {"panel": design.book.words.panel, "charger": design.book.words.charger}
    legs = sorted(numbers[mark] for mark in marks if mark in numbers)
    runs: list[list[int]] = []
    for number in legs:
        if runs and number == runs[-1][-1] + 1:
            runs[-1].append(number)
        else:
            runs.append([number])
    told = [f"{run[0]} to {run[-1]}" if len(run) > 2 else ", ".join(map(str, run)) for run in runs]
    named = [f"leg{'s' if len(legs) > 1 else ''} {', '.join(told)}"] if legs else []
    return ", ".join([*named, *(named_here.get(mark, mark) for mark in marks if mark not in numbers)])


def head(design: Design, *, quote: bool = False) -> str:
    """The verdict in one line, with what it rests on."""
    title = design.book.title
    if quote:
        looked = worst(quoted(design))
        said = {HOLDS: "HOLDS", NOTE: "HOLDS", TIGHT: "TIGHT"}.get(looked)
        if said is not None:
            return f"{said} as far as asked by {title}: {', '.join(LOOKED_AT)}; {design.book.decider}."
        return f"{looked.upper()} by {title}; {design.book.decider}."
    said = design.said
    if said == design.verdict:
        return f"{said.upper()} by {title}; {design.book.decider}."
    many = len(design.not_asked)
    questions = f"{many} question{'s' if many > 1 else ''} open"
    return f"{said.split()[0].upper()} as far as asked by {title}, {questions}; {design.book.decider}."


def circuit_rows(design: Design) -> list[tuple[str, str]]:
    """What the circuit is made of, each with its name; nothing while there is none."""
    circuit, line = design.circuit, design.line
    if circuit is None:
        return []
    metal = METAL_NAMES[circuit.material]
    wire = f"{design.book.print_size(circuit.size)} {metal}"
    words = design.book.words
    bonded = "the raceway" if circuit.raceway_ground else "unread"
    made = circuit.insulation.upper() if circuit.insulation else "cable, as made"
    usable = "unread" if circuit.usable_a is None else f"{circuit.usable_a:.1f} A"
    known = math.isfinite(circuit.drop_v)
    left = f"{circuit.volts - circuit.drop_v:.1f} V at the {words.charger}"
    rows = [
        ("Charging", f"{circuit.charge_a:g} A, counts as {circuit.need_a:g} A"),
        (
            cap(words.breaker),
            f"{circuit.breaker_a:g} A, {circuit.poles}-pole" + (", ground-fault" if circuit.gfci else ""),
        ),
        ("Conductor", f"{circuit.hots} x {wire}, {made}"),
        ("Neutral", wire if circuit.neutral else "none"),
        (cap(words.ground), f"{design.book.print_size(circuit.ground)} {metal}" if circuit.ground else bonded),
        (words.ampacity, f"{usable} with {circuit.terminal_c} C terminals"),
        ("Run", print_length(line.length_m, design.job.units)),
        ("Drop", f"{circuit.drop_v:.2f} V, {circuit.drop_percent:.2f} %, {left}" if known else "unread"),
    ]
    for raceway in raceway_values(design):
        size = raceway["trade_size"] or "no size fits"
        rows.append((cap(words.raceway), f"{size} {raceway['type']}, {raceway['fill_percent']} % full"))
    return [*rows, *design.book.circuit.more_rows(design)]


def circuit_text(design: Design, *, quote: bool = False) -> list[str]:
    """The design in lines for a person."""
    told = [head(design, quote=quote), *(f"{name:11}{text}" for name, text in circuit_rows(design))]
    for finding in quoted(design) if quote else design.findings:
        if finding.severity != HOLDS:
            told.append(f"{finding.severity.upper():7}{finding.title}: {finding.text} ({finding.cite})")
    if quote and design.not_asked:
        names = dict.fromkeys(finding.title.lower() for finding in design.not_asked)
        told.append(f"Not asked  {', '.join(names)}")
    return told


def comparison_values(job: Job, found: Comparison) -> dict[str, Any]:
    """A comparison as ``compare`` prints it."""
    return {
        "job": job.name,
        "code": job.code,
        "currency": job.currency,
        "candidates": found.candidates,
        "holding": found.holding,
        "filtered": found.filtered,
        "rejected": found.rejected,
        "choices": [_choice_values(choice) for choice in found.best],
    }


def _choice_values(choice: Choice) -> dict[str, Any]:
    return {
        "method": choice.method or None,
        "connection": choice.connection,
        "breaker_a": _rounded(choice.breaker_a),
        "conductor": {"size": choice.size, "material": choice.material, "insulation": choice.insulation},
        "ground": choice.ground,
        "trade_sizes": list(choice.trade_sizes),
        "price": choice.price if choice.priced else None,
        "drop_percent": choice.drop_percent,
        "loss_w": choice.loss_w,
        "pull_lbf": choice.pull_lbf,
        "hours": choice.hours,
        "pareto": choice.pareto,
        "broken": list(choice.stops),
    }


def comparison_text(job: Job, found: Comparison) -> list[str]:
    """A comparison in lines for a person."""
    outside = f", {found.filtered:,} outside the conditions" if found.filtered else ""
    told = [f"{found.candidates:,} circuits looked at, {found.holding:,} hold{outside}."]
    for number, choice in enumerate(found.best, 1):
        price = f"{job.currency}{choice.price:,.2f}" if choice.priced else f"from {job.currency}{choice.price:,.2f}"
        sizes = ", ".join(size or "cable" for size in dict.fromkeys(choice.trade_sizes))
        verdict = f"broken: {', '.join(choice.stops)}" if choice.stops else "none better" if choice.pareto else ""
        told.append(
            f"{number:3}  {price:>11}  {choice.size} {METAL_NAMES[choice.material]} {choice.insulation.upper()}, "
            f"{choice.breaker_a:g} A, {choice.method or 'methods as they are'} {sizes}, "
            f"{choice.drop_percent:.2f} %, {choice.loss_w:.0f} W, {choice.hours:.1f} h"
            f"{'' if choice.pull_lbf is None else f', pull {choice.pull_lbf:.0f} lbf'}  {verdict}".rstrip()
        )
    worst = sorted(((count, name) for name, count in found.rejected.items() if count), reverse=True)
    if worst:
        told.append("Broken links: " + ", ".join(f"{name} {count:,}" for count, name in worst[:6]))
    return told
