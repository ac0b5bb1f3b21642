"""What the user is looking at: the awl's place, the finding in hand."""

from __future__ import annotations

import msgspec

from awlmark.core.design import Design, Quote
from awlmark.core.finding import NOTE, RANK, STOP, TIGHT, UNREAD, Finding, worst

STAGES = ("need", "panel", "place", "run", "wire", "parts")
STAGE_NAMES = {"need": "Need", "panel": "Panel", "place": "Place", "run": "Run", "wire": "Wire", "parts": "Parts"}


class Look(msgspec.Struct, frozen=True):
    """State of the view; it never changes a result."""

    stage: str = "run"
    at_m: float = 0.0
    finding: str | None = None
    """Finding in hand; None takes the worst one."""
    quotes: tuple[Quote, ...] = ()
    """Fixes of the finding in hand, once they are priced."""
    pixels_per_mm: float | None = None
    """Set by the bank card; None until then, and captions say so."""
    page: str = "amps"
    """Page of the Panel stage: ``amps`` or ``spaces``."""
    pencils: bool = False
    """Whether whole jobs stand side by side in the stage's place."""
    run_page: str = "line"
    """Page of the Run stage: ``line`` or ``bends``."""
    parts_page: str = "sticks"
    """Page of the Parts stage: ``sticks`` or ``quote``."""
    car: int = 0
    """Car whose day the Need stage shows, by its place."""
    bus: str = ""
    """Bus whose sheet is shown; empty takes the last on the way."""


def in_hand(design: Design, look: Look) -> Finding | None:
    """The finding the slip shows: the chosen one, or the worst; where all hold, the one nearest its limit."""
    chosen = design.finding(look.finding) if look.finding else None
    if chosen is not None:
        return chosen
    open_ones = [f for f in design.findings if f.severity in (STOP, UNREAD, TIGHT, NOTE)]
    if open_ones:
        return min(open_ones, key=lambda f: RANK[f.severity])
    measured = [f for f in design.findings if f.found and f.needed]
    return max(measured, key=_share, default=None)


def _share(finding: Finding) -> float:
    found, needed = finding.found or 0.0, finding.needed or 0.0
    return found / needed if finding.sense == "most" else needed / found


def stage_mark(design: Design, stage: str) -> str:
    """Worst mark of a stage."""
    found = [finding for finding in design.findings if finding.stage == stage]
    if (stage == "need" and design.need is None) or (stage == "panel" and not design.buses):
        return UNREAD
    if stage == "place" and not (design.job.site.pins and design.job.site.bays):
        return worst(found) if found else UNREAD
    if stage == "parts":
        return UNREAD if design.unpriced or not design.parts else worst(found)
    if stage == "wire" and design.circuit is None:
        return UNREAD
    return worst(found)


def money(design: Design) -> str:
    """Cost of the parts as shown: ``from`` while prices are unread."""
    return f"{'from ' if design.unpriced else ''}{design.job.currency}{design.cost:,.0f}"
