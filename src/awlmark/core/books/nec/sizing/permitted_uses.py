"""What may not be where: insulation in wet raceways, methods outdoors and underground, plastic pipe in heat."""

from __future__ import annotations

import numpy as np

from awlmark.core.books import Book
from awlmark.core.books.nec.edition import nec
from awlmark.core.books.nec.sizing.opening import DEFAULT_INSULATION, ROOF_ADDER_C
from awlmark.core.circuit.case import Case, Table
from awlmark.core.circuit.terms import Terms
from awlmark.core.finding import HOLDS, STOP, TIGHT, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.quantities import print_gauge
from awlmark.core.run.line import Section
from awlmark.core.run.method_use import method_edits, use_severity


def check_wet(table: Table) -> Terms:
    """Insulation in raceways that count as wet inside (310.10(C), 300.5(B), 300.9), shape (N, Z)."""
    case = table.case
    found = np.full((len(table.group), len(case.sections)), np.nan)
    allowed = nec(case.book).wet_c[table.insulation[table.group]] >= 0
    for section in case.sections:
        if section.wet and not section.method.cable:
            found[:, section.number] = allowed
    return Terms(found, np.ones(found.shape), stepped=True)


def check_made(table: Table) -> Terms:
    """Size against the largest that a cable's article lets it be made in (334.104 and its like), shape (N, Z)."""
    case = table.case
    found = np.full((len(table.group), len(case.sections)), np.nan)
    most = np.ones(found.shape)
    for section in case.sections:
        if section.method.largest:
            found[:, section.number] = table.hot
            most[:, section.number] = case.book.size_index(section.method.largest)
    return Terms(found, most, sense="most", stepped=True)


def made_finding(case: Case, section: Section, size: str, severity: str) -> Finding:
    """The made check of one section in words; only a pinned size can break it."""
    method = section.method
    largest = print_gauge(method.largest)
    article = method.ampacity_cite.split(".")[0]
    text = f"{method.name} cable is made up to {largest} copper; {print_gauge(size)} is not."
    return Finding(
        id=f"made:{section.number + 1}",
        severity=severity,
        title="Size of the cable",
        text=text,
        cite=f"{case.book.title} {article}.104",
        at_m=section.start_m,
        where=section.legs[0].leg.id,
        fixes=(
            Fix("Size by the rule", (Put("circuit.size", None), Put("circuit.ground_size", None))),
            Fix("Singles in conduit instead", method_edits(section, None)),
        ),
    )


def wet_finding(case: Case, section: Section, insulation: str, metal: str, severity: str) -> Finding:
    """The wet check of one section in words."""
    dry_only = severity == STOP
    good = DEFAULT_INSULATION[metal]
    return Finding(
        id=f"wet:{section.number + 1}",
        severity=severity,
        title="Wet raceway",
        text=(
            f"{insulation.upper()} is for dry places. This {section.method.name} counts as wet inside."
            if dry_only
            else f"{insulation.upper()} may lie in this wet raceway."
        ),
        cite=case.book.cite("wet"),
        at_m=section.start_m,
        where=section.legs[0].leg.id,
        fixes=(Fix(f"{good.upper()} wire", (Put("circuit.insulation", good),)),) if dry_only else (),
    )


def place_findings(case: Case) -> list[Finding]:
    """Sections whose method may not be, or only if listed, where they lie."""
    found = []
    for section in case.sections:
        method = section.method
        severity = use_severity(method, section)
        if severity == HOLDS:
            continue
        spot = "underground" if section.buried else "outdoors or in a wet place"
        barred = severity == STOP
        fixes = [Fix("PVC 40 here", method_edits(section, "pvc40"))]
        if section.buried:
            fixes.append(Fix("Rigid steel here", method_edits(section, "rmc")))
        found.append(
            Finding(
                id=f"place:{section.number + 1}",
                severity=severity,
                title=f"{method.name} {spot}",
                text=(
                    f"{method.name} may not run {spot}."
                    if barred
                    else f"{method.name} may run {spot} only where it is listed for that: read its marking."
                ),
                cite=f"{case.book.title} {method.place_cite}",
                at_m=section.start_m,
                where=section.legs[0].leg.id,
                stage="run",
                fixes=tuple(fixes),
            )
        )
    return found + _heat_findings(case)


def uses_rows(book: Book) -> list[tuple[str, ...]]:
    """Where each method may run, as the checks read it: name, indoors, outdoors, underground, hottest air, clause."""
    words = {"yes": "yes", "no": "no", "listed": "if listed for it"}
    return [
        (
            method.name,
            "yes",
            words[method.outdoors],
            words[method.buried],
            "" if method.hottest_c is None else f"{method.hottest_c:g} °C",
            method.place_cite,
        )
        for method in book.methods.values()
    ]


def _heat_findings(case: Case) -> list[Finding]:
    found = []
    for section in case.sections:
        hottest = section.method.hottest_c
        if hottest is None or section.ambient_c is None:
            continue
        roof_c = section.ambient_c + (ROOF_ADDER_C if section.roof else 0.0)
        if roof_c <= hottest:
            continue
        stop, name = section.ambient_c > hottest, section.method.name
        found.append(
            Finding(
                id=f"hot:{section.number + 1}",
                severity=STOP if stop else TIGHT,
                title="Plastic pipe in heat",
                text=(
                    f"{name} is not for air above {hottest:.0f} °C; it is {section.ambient_c:.0f} °C here."
                    if stop
                    else f"On the roof this {name} may pass {hottest:.0f} °C; your inspector decides."
                ),
                cite=f"{case.book.title} {section.method.place_cite.split('.')[0]}.12",
                found=section.ambient_c,
                needed=hottest,
                unit="C",
                sense="most",
                at_m=section.start_m,
                where=section.legs[0].leg.id,
                stage="run",
                fixes=(
                    Fix("EMT here", method_edits(section, "emt")),
                    Fix("Rigid steel here", method_edits(section, "rmc")),
                ),
            )
        )
    return found
