"""How the known loads lie on the two bus legs."""

from __future__ import annotations

from typing import Final

from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, NOTE, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.panel_face import Breaker
from awlmark.core.job.supply import SYSTEMS, Load
from awlmark.core.panel.rearrange import cells
from awlmark.core.panel.spaces import leg_of, move_breaker

UNEVEN: Final = 0.20
"""Legs further apart than this share of the heavier one are worth a note; common practice."""


def breaker_of(job: Job, load: Load) -> Breaker | None:
    """The device that carries a load's name, on the circuit's own panel."""
    if load.board != job.supply.board:
        return None
    plain = load.name.lower()
    return next((breaker for breaker in job.dead_front.breakers if breaker.name.lower() == plain), None)


def leg_of_load(job: Job, load: Load) -> str:
    """Leg a load lies on: as entered, or by the place of its breaker; nothing for both or unknown."""
    if load.leg:
        return load.leg
    breaker = breaker_of(job, load)
    return leg_of(breaker.space) if breaker is not None and len(cells(breaker)) == 1 else ""


def leg_amps(job: Job, charge_a: float, across: bool) -> tuple[float, float] | None:
    """Connected current of each leg on the circuit's own panel [A]; None where no load's leg is known.

    Parameters
    ----------
    job : Job
        Its loads; those without a leg count on both.
    charge_a : float
        Charging current that counts [A].
    across : bool
        Whether the charger lies across both legs; otherwise it is left out, its leg being open.
    """
    between, to_neutral = SYSTEMS[job.supply.system]
    legs = {"A": 0.0, "B": 0.0}
    known = False
    for load in job.loads:
        if load.board != job.supply.board:
            continue
        leg, va = leg_of_load(job, load), load.va * load.count
        if leg:
            legs[leg] += va / to_neutral
            known = True
        else:
            legs = {name: amps + va / between for name, amps in legs.items()}
    if not known or between == to_neutral:
        return None
    more = charge_a if across else 0.0
    return legs["A"] + more, legs["B"] + more


def leg_findings(job: Job, charge_a: float, hots: int, book: Book) -> list[Finding]:
    """Whether the legs share the loads that are known."""
    both = leg_amps(job, charge_a, hots == 2)
    if both is None:
        return []
    apart, most = abs(both[0] - both[1]), max(both)
    uneven = apart > UNEVEN * most
    return [
        Finding(
            id="legs",
            severity=NOTE if uneven else HOLDS,
            title="Legs of the bus",
            text=f"Connected: leg A {both[0]:.0f} A, leg B {both[1]:.0f} A, {apart:.0f} A apart."
            + (" An even panel leaves more on each." if uneven else ""),
            cite=f"common practice; {book.cite('balance')}",
            found=apart,
            needed=UNEVEN * most,
            unit="A",
            sense="most",
            where="panel",
            at_m=0.0,
            stage="panel",
            fixes=_evened(job, both, most) if uneven else (),
        )
    ]


def _evened(job: Job, both: tuple[float, float], most: float) -> tuple[Fix, ...]:
    """Set one device of the heavier leg into an empty space of the other, where that brings the legs nearer."""
    heavy = "A" if both[0] > both[1] else "B"
    apart, to_neutral = abs(both[0] - both[1]), SYSTEMS[job.supply.system][1]
    taken = {space for breaker in job.dead_front.breakers for space in cells(breaker)}
    empty = [space for space in range(1, job.dead_front.spaces + 1) if space not in taken and leg_of(space) != heavy]
    best: tuple[float, tuple[Put, ...], str] | None = None
    for load in job.loads:
        breaker = breaker_of(job, load)
        if (
            breaker is None
            or load.leg
            or breaker.stays
            or breaker.tandem
            or leg_of_load(job, load) != heavy
            or not empty
        ):
            continue
        left = abs(apart - 2 * load.va * load.count / to_neutral)
        if left < apart and (best is None or left < best[0]):
            best = left, move_breaker(job, breaker.space, empty[-1]), f"{load.name} to space {empty[-1]}"
    return (Fix(best[2], best[1]),) if best else ()
