"""What would follow: a fix, an outlet or a plug tried on the whole job, each the job solved again."""

from __future__ import annotations

import msgspec

from awlmark.core.books.words import cap
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, RANK, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.solve.design import Design, solve


class Quote(msgspec.Struct, frozen=True):
    """A fix, taken on trial."""

    fix: Fix
    job: Job
    price: float
    """Difference in cost."""
    worst: str
    """Worst mark it would leave."""
    mends: bool
    """Whether the finding it answers gets better."""
    stops: int = 0
    """Rules it would leave broken."""
    own: str = HOLDS
    """Mark of the finding it answers, after it."""
    count: int = 0
    """Findings of the worst mark it would leave."""


def quote_fixes(design: Design, finding: Finding) -> tuple[Quote, ...]:
    """Take each fix of a finding on trial: what it costs and the worst mark it leaves.

    The best stands first: least harm left, then least price. Left out are fixes that cannot be taken at all, those that
    leave their reason standing, and those that break a rule that held; a question's answers all stay, for each of them
    may be the true one.
    """
    found = []
    for fix in finding.fixes:
        try:
            job = put(design.job, *fix.edits)
            after = solve(job)
        except InputError:
            continue
        left = after.finding(finding.id)
        mends = left is None or RANK[left.severity] > RANK[finding.severity]
        price = round(after.cost - design.cost, 2)
        new_stops = {stop.id for stop in after.stops} - {stop.id for stop in design.stops}
        if finding.severity != UNREAD and (new_stops or not (mends or _helps(finding, left))):
            continue
        own = left.severity if left is not None else HOLDS
        found.append(Quote(fix, job, price, after.verdict, mends, len(after.stops), own, _count(after)))
    if finding.severity == UNREAD:
        return tuple(found[:3])
    return tuple(sorted(found, key=lambda quote: (not quote.mends, quote.stops, -RANK[quote.worst], quote.price))[:3])


def _count(design: Design) -> int:
    """Findings that wear the worst mark."""
    return sum(finding.severity == design.verdict for finding in design.findings)


def _helps(before: Finding, after: Finding | None) -> bool:
    """Whether a measure comes nearer its limit, though not within it."""
    if after is None or before.found is None or after.found is None or before.needed is None or after.needed is None:
        return False
    spare = [(one.found or 0.0) - (one.needed or 0.0) for one in (before, after)]
    return spare[1] > spare[0] + 1e-9 if before.sense == "least" else spare[1] < spare[0] - 1e-9


def fork_ways(design: Design) -> tuple[Fix, ...]:
    """The line's end both ways: hardwired, and each receptacle that carries the charge or the nearest below it.

    The first edit of each is its connection.
    """
    charge = design.job.charger.nameplate_a
    if design.circuit is None or charge is None:
        return ()
    usual = design.book.circuit.wired[0]
    wired = Fix(f"{cap(usual)}, {charge:g} A", (Put("charger.connection", usual),))
    ways = [wired]
    for outlet in design.book.goods.forks:
        most = design.book.receptacles[outlet].amps / design.book.circuit.load_share
        amps = max((step for step in design.book.circuit.settings_a if step <= min(charge, most) + 1e-9), default=None)
        if amps is not None:
            edits = (
                Put("charger.connection", outlet), Put("charger.nameplate_a", amps),
                Put("charger.setting_a", None), Put("charger.setting_restricted", False),
            )  # fmt: skip
            ways.append(Fix(f"Outlet {outlet}, {amps:g} A", edits))
    return tuple(ways)


def fork(design: Design) -> tuple[Quote, ...]:
    """Each way to end the line as the whole job solved again.

    Price with breaker, ground-fault device and box, and the worst mark it leaves.
    """
    found = []
    for way in fork_ways(design):
        job = put(design.job, *way.edits)
        after = solve(job)
        found.append(Quote(way, job, round(after.cost - design.cost, 2), after.verdict, True))
    return tuple(found)
