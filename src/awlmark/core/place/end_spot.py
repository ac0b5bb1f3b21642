"""Where the charger hangs while nobody has set a spot: at the end of the run, on the side its line came along."""

from __future__ import annotations

from typing import Final

from msgspec.structs import replace

from awlmark.core.finding import Finding
from awlmark.core.job.edit import Put
from awlmark.core.job.floor import Pin, Site
from awlmark.core.job.model import Job
from awlmark.core.memo import Memo
from awlmark.core.run.line import Line
from awlmark.core.run.storeys import standings

OFF_WALL_M: Final = 0.1
"""Off the line's wall, on its own side: half as deep as a charger is."""
AT_END: Final = "a"
"""Id of the spot."""


def spot_at_end(job: Job, line: Line) -> Pin | None:
    """The spot that the run itself tells; None while it does not reach the charger or a spot is set already."""
    if not line.closed or job.site.pins:
        return None
    last = line.legs[-1]
    x, y, z = last.end
    into = last.facing
    high = z - standings(line.legs, job.site.storeys)[-1].level_m
    return Pin(
        id=AT_END, name="A", x_m=round(x - into[0] * OFF_WALL_M, 4), y_m=round(y - into[1] * OFF_WALL_M, 4),
        height_m=round(min(max(high, 0.0), 5.0), 4),
    )  # fmt: skip


def _set(view: _View) -> Site:
    site, x, y, high = view
    pin = Pin(id=AT_END, name="A", x_m=x, y_m=y, height_m=high)
    return replace(site, pins=(pin,), pin=pin.id)


_View = tuple[Site, float, float, float]
"""A site, and the place and height of the spot that is set on it; what it is screwed to is asked."""
_sites: Memo[_View, Site] = Memo(2, _set)
"""Kept, so that what looks at the floor alone finds the same one after every edit that leaves it alone."""


def placed(job: Job, line: Line) -> Job:
    """The job with the charger standing on its floor: as it is, or with the spot that its run tells.

    Only a job whose floor somebody has drawn has one; on an empty floor there is nothing to stand in the way.
    """
    pin = spot_at_end(job, line) if job.site.areas or job.site.bays or job.site.things else None
    if pin is None:
        return job
    return replace(job, site=_sites((job.site, pin.x_m, pin.y_m, pin.height_m)))


def with_spot_first(findings: tuple[Finding, ...], there: Job, job: Job) -> list[Finding]:
    """Findings about a spot that only the run tells: whatever answers one sets the spot first."""
    if there is job:
        return list(findings)
    first = Put("site.pins", there.site.pins)
    return [
        replace(one, fixes=tuple(replace(fix, edits=(first, *fix.edits)) for fix in one.fixes)) if one.fixes else one
        for one in findings
    ]
