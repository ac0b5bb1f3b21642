"""What the slip says while proving; it never changes the verdict of the design."""

from __future__ import annotations

import functools

from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, ranked
from awlmark.core.prove.diagnose import meanings
from awlmark.core.prove.log import judged, latest, out_of_order, print_value, wanting
from awlmark.core.prove.split import fitting
from awlmark.core.prove.test import tests_of
from awlmark.core.solve.design import Design


@functools.lru_cache(maxsize=2)
def prove_findings(design: Design) -> tuple[Finding, ...]:
    """Readings out of their bands, what they mean together, and the next test; worst first."""
    found: list[Finding] = []
    for each in judged(design):
        if each.severity == HOLDS or (latest(design).get(each.reading.test) is not each and each.test is None):
            continue
        if each.test is not None and latest(design)[each.reading.test].reading is not each.reading:
            continue
        title = each.test.name if each.test else each.reading.test
        found.append(Finding(f"prove:{each.reading.id}", each.severity, title, each.text,
                             each.test.source if each.test else "your log", stage="prove"))  # fmt: skip
    for number, meaning in enumerate(meanings(design)):
        sums = (meaning.do,) if meaning.do else ()
        found.append(
            Finding(
                f"prove:meaning:{number}",
                meaning.severity,
                meaning.title,
                meaning.text,
                "common practice",
                sums=sums,
                at_m=design.line.length_m,
                stage="prove",
            )
        )
    for number in out_of_order(design):
        text = f"Reading {number} is dated before the one above it. It stays; check the clock."
        found.append(Finding(f"prove:order:{number}", NOTE, "Times out of order", text, "your log", stage="prove"))
    found += _next(design)
    return ranked(found)


def _next(design: Design) -> list[Finding]:
    read, tests = latest(design), tests_of(design)
    test = next((test for test in tests if test.key not in read), None)
    if test is None:
        signed = design.job.prove.signatures
        if not tests or (signed and all(reading.signed for reading in design.job.prove.readings)):
            return []
        missing = wanting(design)
        if missing:
            names = ", ".join(one.called for one, _why in missing[:4])
            text = f"Every test is read; signing waits for {names}: a repair and a new reading, or a reason."
            ask = f"except {missing[0][0].called} "
            return [Finding("prove:sign", UNREAD, "Not ready to sign", text, "your log", stage="prove", ask=ask)]
        text = "Every test is read. Type sign and your name."
        return [Finding("prove:sign", NOTE, "Ready to sign", text, "your log", stage="prove", ask="sign ")]
    left, splits = fitting(design)
    test = splits or test
    units = design.job.units
    low, wanted, high = (print_value(value, test.unit, units) for value in (test.low, test.expected, test.high))
    text = f"Next: {test.name}. Expected {wanted}, {low} to {high}. Type read and what it shows."
    if splits is not None:
        names = ", ".join(one.name.lower() for one in left[:2]) + (f" or {len(left) - 2} more" if len(left) > 2 else "")
        text = f"Fits so far: {names}. {test.name} parts them; expected {low} to {high}."
    return [Finding("prove:next", NOTE, "Next test", text, test.source, stage="prove", ask=f"read {test.called} ")]


def prove_mark(design: Design) -> str:
    """Worst mark of the log; unread while tests are missing."""
    worst = [each.severity for each in latest(design).values()]
    for severity in (STOP, TIGHT):
        if severity in worst:
            return severity
    return UNREAD if any(test.key not in latest(design) for test in tests_of(design)) or not worst else HOLDS
