"""What the user is looking at: the awl's place, the finding in hand."""

from __future__ import annotations

from typing import Any

import msgspec

from awlmark.core.finding import HOLDS, Finding
from awlmark.core.options.fixes import Quote
from awlmark.core.solve.design import Design
from awlmark.core.standing import SITE_STAGES, STAGES, site_findings

STAGE_NAMES = {stage: stage.capitalize() for stage in STAGES}


class Practice(msgspec.Struct, frozen=True):
    """An exercise on the practice bench, or a card with one mistake; it belongs to no job."""

    exercise: Any
    """:class:`awlmark.core.prove.practice.Exercise` or ``Card``; loosely, so that the window starts without it."""
    score: Any
    answered: str = ""
    told: str = ""


class Look(msgspec.Struct, frozen=True):
    """State of the view; it never changes a result."""

    stage: str = "run"
    at_m: float = 0.0
    """Where the awl stands: what is typed goes to the leg there."""
    over_m: float | None = None
    """Point of the tape under the mouse; every drawing answers for it, until the mouse leaves."""
    big: bool = False
    """Whether the reading in hand fills the scene, to be read across a garage."""
    finding: str | None = None
    """Finding in hand; None takes the worst one."""
    quotes: tuple[Quote, ...] = ()
    """Fixes of the finding in hand, once they are priced."""
    pixels_per_mm: float | None = None
    """Set by the bank card; None until then, and captions say so."""
    page: str = ""
    """Page of the stage of the supply, by its key; empty, or one that the book has not, for its first."""
    pencils: bool = False
    """Whether whole jobs stand side by side in the stage's place."""
    run_page: str = "line"
    """Page of the Run stage: ``line`` or ``bends``."""
    prove_page: str = "record"
    """Page of the Prove stage: ``record`` or ``bench``."""
    record_from: int = -1
    """Line of the record that stands at the top; less than nought follows the test that is read next."""
    wire_page: str = "bores"
    """Page of the Wire stage: ``bores`` or ``jobs``."""
    lane: str = ""
    """Face of the lane on the stage of the conductors, where the book has several: its key, or ``volts``."""
    parts_page: str = "sticks"
    """Page of the Parts stage: ``sticks`` or ``quote``."""
    probes: tuple[str, str] = ("", "")
    """Points that the black and the red probe are at."""
    scratch: tuple[tuple[str, str], ...] = ()
    """What was noted off the simulated bench: what, and what it showed. It belongs to no job."""
    bench_closed: bool = False
    bench_amps: bool = False
    """Breaker of the bench closed; charging."""
    practice: Practice | None = None
    held: str = ""
    """What of the floor is in hand, by its id: it shows its handles."""
    car: int = 0
    """Car whose day the Need stage shows, by its place."""
    all_stages: bool = True
    """Whether the list of what is open goes over all stages, or the one shown."""
    holding: bool = False
    """Whether what holds is unfolded in it."""
    start: bool = False
    """Whether the start sheet stands in the desk's place."""
    walk: tuple[str, ...] = ()
    """What the walk along the line asks, by path; empty while nobody walks."""
    step: int = 0
    """Place of the question that is asked now."""
    step_told: str = ""
    """Step of the work that is told in full, by its id."""
    sheet_from: int = 0
    """First line shown of a sheet that is longer than its room."""
    bus: str = ""
    """Bus whose sheet is shown; empty takes the last on the way."""

    @property
    def asked_leg(self) -> str:
        """Leg that the walk asks about now, by its id; empty for none."""
        path = self.walk[min(self.step, len(self.walk) - 1)] if self.walk else ""
        return path.partition("]")[0].removeprefix("legs[") if path.startswith("legs[") else ""

    @property
    def seen_m(self) -> float:
        """Point of the tape that the drawings answer for [m]."""
        return self.at_m if self.over_m is None else self.over_m


def panel_page(design: Design, look: Look) -> str:
    """Page that the stage of the supply shows, as the book has them."""
    known = [key for key, _name in design.book.panel.pages]
    return look.page if look.page in known else known[0]


def in_hand(design: Design, look: Look) -> Finding | None:
    """The finding the slip shows: the chosen one, or the worst; where all hold, the one nearest its limit.

    None on the practice bench, which belongs to no job.
    """
    if look.practice is not None:
        return None
    chosen = design.finding(look.finding) if look.finding else None
    if chosen is not None:
        return chosen
    if look.stage in SITE_STAGES:
        found = site_findings(design, look.stage)
        held = next((finding for finding in found if finding.id == look.finding), None)
        return held or next(iter(found), None)
    if design.findings and design.findings[0].severity != HOLDS:
        # They stand worst first.
        return design.findings[0]
    measured = [f for f in design.findings if f.found and f.needed]
    return max(measured, key=_share, default=None)


def _share(finding: Finding) -> float:
    found, needed = finding.found or 0.0, finding.needed or 0.0
    return found / needed if finding.sense == "most" else needed / found


def money(design: Design) -> str:
    """Cost of the parts as shown: ``from`` while prices are unread."""
    return f"{'from ' if design.unpriced else ''}{design.job.currency}{design.cost:,.0f}"
