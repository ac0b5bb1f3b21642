"""Where a design stands: the mark of every stage, of every leg, and of the whole line."""

from __future__ import annotations

import functools
import math
from typing import Final

from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, worst
from awlmark.core.job.model import Job
from awlmark.core.quantities import draw_length
from awlmark.core.solve.design import Design

STAGES: Final = ("need", "panel", "place", "run", "wire", "parts", "build", "prove")
"""In working order."""
SITE_STAGES: Final = ("build", "prove")
"""Stages whose findings never change the verdict of the design."""


def site_findings(design: Design, stage: str) -> tuple[Finding, ...]:
    """Findings of Build or Prove, worst first."""
    if stage == "build":
        from awlmark.core.build.findings import build_findings

        return build_findings(design)
    from awlmark.core.prove.findings import prove_findings

    return prove_findings(design)


@functools.lru_cache(maxsize=2)
def _worst_by_stage(design: Design) -> dict[str, str]:
    """Mark of each stage that has findings; they stand worst first."""
    found: dict[str, str] = {}
    for finding in design.findings:
        found.setdefault(finding.stage, finding.severity)
    return found


def stage_mark(design: Design, stage: str) -> str:
    """Worst mark of a stage."""
    found = _worst_by_stage(design).get(stage)
    if (stage == "need" and design.need is None) or (stage == "panel" and not design.buses):
        return UNREAD
    if stage == "place" and not (design.job.site.pins and design.job.site.bays):
        return UNREAD if found in (None, HOLDS) else found
    if stage == "parts":
        return UNREAD if design.unpriced or not design.parts else found or HOLDS
    if stage == "wire" and design.circuit is None:
        return UNREAD
    if stage == "build":
        return _build_mark(design)
    if stage == "prove":
        if not design.job.prove.readings or design.circuit is None:
            return UNREAD
        from awlmark.core.prove.findings import prove_mark

        return prove_mark(design)
    return found or HOLDS


def _build_mark(design: Design) -> str:
    """Unread until every step is done and every torque read; nothing is worked out before the building has begun."""
    build = design.job.build
    if design.circuit is None or not (build.done or build.torques):
        return UNREAD
    from awlmark.core.build.findings import build_findings
    from awlmark.core.build.steps import steps_of

    open_ones = [finding.severity for finding in build_findings(design)]
    if STOP in open_ones or TIGHT in open_ones:
        return worst(list(build_findings(design)))
    done = all(step.id in build.done for step in steps_of(design))
    return HOLDS if done and UNREAD not in open_ones else UNREAD


def leg_marks(design: Design) -> dict[str, str]:
    """Worst mark of each leg by its id, stops apart (they stand where they break); a guessed value is unread."""
    found: dict[str, str] = {}
    for finding in design.findings:
        if finding.severity in (UNREAD, TIGHT, NOTE):
            # Findings stand worst first, so the first of a leg is its worst.
            found.setdefault(finding.where, finding.severity)
    for path in design.job.guessed:
        found[path.partition("]")[0].removeprefix("legs[")] = UNREAD
    return found


def seen_by(job: Job, finding: Finding) -> str:
    """Who has seen a note as it stands now; empty while nobody has, or since it says something else."""
    found = (one.by for one in job.seen if (one.finding, one.text) == (finding.id, finding.text))
    return next(found, "") if finding.severity == NOTE else ""


def distance(finding: Finding) -> str:
    """How far a finding is from its limit, in words."""
    if finding.severity == UNREAD:
        return "not read"
    if finding.found is None or finding.needed is None:
        return {STOP: "broken", TIGHT: "close", NOTE: "note"}.get(finding.severity, "")
    least = finding.sense == "least"
    spare = finding.found - finding.needed if least else finding.needed - finding.found
    unit = {"cmil": "cmil", "deg": "°", "C": "°C"}.get(finding.unit, finding.unit)
    blank = "" if unit in ("%", "°", "") else " "
    told = "to spare" if spare >= 0 else "short" if least else "over"
    return f"{abs(spare):,.3g}{blank}{unit} {told}" if abs(spare) > 1e-9 else "just enough"


def closest_first(findings: list[Finding]) -> list[Finding]:
    """Findings by their share of room to the limit; those without a measure stand last."""

    def share(finding: Finding) -> float:
        if finding.found is None or not finding.needed:
            return math.inf
        return abs(finding.found - finding.needed) / abs(finding.needed)

    return sorted(findings, key=share)


def unread_length(job: Job, leg_id: str) -> bool:
    """Whether the length of a leg is guessed, and nobody has read it yet."""
    return f"legs[{leg_id}].length_m" in job.guessed


def line_state(design: Design) -> tuple[str, str]:
    """Mark and words for the state of the whole line."""
    units = design.job.units
    if not design.line.legs:
        return UNREAD, "Nothing scribed"
    stop = next(iter(design.stops), None)
    if stop is not None:
        where = f" at {draw_length(stop.at_m, units)}" if stop.at_m is not None else ""
        return STOP, f"Broken{where}"
    if not design.line.closed:
        return UNREAD, f"Open at {draw_length(design.line.length_m, units)}"
    if design.verdict == UNREAD:
        return UNREAD, "Unread values" if design.said == UNREAD else design.said.capitalize()
    return design.verdict, "Line holds" if design.verdict == HOLDS else "Line whole"
