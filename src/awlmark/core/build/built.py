"""The line as it was built, beside the plan: worked out again, and whether the wire that was cut reaches."""

from __future__ import annotations

import functools

import msgspec

from awlmark.core.finding import HOLDS
from awlmark.core.job.by_length import UNIT_M
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.parts.run_items import cut_length, span_length, spans
from awlmark.core.solve.design import Design, solve


class Deviation(msgspec.Struct, frozen=True):
    """What the built line changes."""

    legs: tuple[tuple[int, float, float], ...]
    """Number, planned and built of every leg that was measured [m]."""
    longer_m: float
    """Built line over the planned one."""
    spare_m: float
    """Wire cut for the plan over what the built line takes, the rounding to whole units with it; negative is short."""
    worse: tuple[str, ...]
    """Titles of findings that hold as planned and no longer do."""
    design: Design
    """As built."""


def as_built(design: Design) -> Job:
    """The job with every leg as it was built, and the wire, breaker and pipe that were bought for the plan."""
    job, made = design.job, design.circuit
    edits = [Put(f"legs[{leg.id}].length_m", leg.built_m) for leg in job.legs if leg.built_m is not None]
    if made is not None:
        bought = {"breaker_a": made.breaker_a, "material": made.material, "size": made.size, "ground_size": made.ground}
        edits += [Put(f"circuit.{name}", value) for name, value in bought.items()]
        edits += [
            Put(f"legs[{walked.leg.id}].trade_size", made.trade_sizes[section.number])
            for section in design.line.sections
            for walked in section.legs
            if not section.method.cable
        ]
    return put(job, *edits)


@functools.lru_cache(maxsize=2)
def deviation(design: Design) -> Deviation | None:
    """What the as-built readings change; None while there are none."""
    measured = tuple(
        (number, leg.length_m, leg.built_m) for number, leg in enumerate(design.job.legs, 1) if leg.built_m is not None
    )
    if not measured:
        return None
    built = solve(as_built(design))
    spare = 0.0
    if design.case is not None and built.case is not None and built.case.sections:
        # Each length of wire or cable was cut for its own stretch.
        cuts = [cut_length(design.case, sections) * UNIT_M[design.job.units] for _cable, sections in spans(design.case)]
        now = [span_length(built.case, sections) for _cable, sections in spans(built.case)]
        spare = min((cut - needed for cut, needed in zip(cuts, now, strict=True)), default=0.0)
    held = {finding.id for finding in design.findings if finding.severity == HOLDS}
    worse = tuple(finding.title for finding in built.findings if finding.severity != HOLDS and finding.id in held)
    return Deviation(measured, built.line.length_m - design.line.length_m, spare, worse, built)
