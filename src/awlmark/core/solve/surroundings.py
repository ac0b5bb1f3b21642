"""What stands around the line: the cars' need, the supply, the panel and the floor, kept while nothing of it changes.

Most edits of a job touch its legs, a pin of the circuit or a price. What is told here sees none of the legs and
papers (they are taken out of the job before anything looks), so it can be kept from one edit to the next.
"""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.finding import Finding
from awlmark.core.job.model import Job
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.need.plan import NeedPlan, need_findings, plan_need
from awlmark.core.panel.buses import Bus, buses
from awlmark.core.panel.demand_check import bus_findings
from awlmark.core.panel.equipment import panel_findings
from awlmark.core.panel.feeders import feeder_findings
from awlmark.core.panel.leg_balance import leg_findings
from awlmark.core.panel.spaces import space_findings
from awlmark.core.place.check import place_findings

APART: Final = (
    "name", "note", "made_up", "legs", "makeup", "buying", "existing", "prices", "price_notes", "hours", "stock",
    "delivered", "paid", "gone", "overrules", "build", "prove", "guessed",
)  # fmt: skip
"""Fields of a job that nothing here may look at."""
MOST_KEPT: Final = 16


class Around(msgspec.Struct, frozen=True, eq=False):
    """Need, supply and place of a job for one charging current, each with its findings."""

    need: NeedPlan | None
    """None without a car."""
    buses: tuple[Bus, ...]
    """From the service to the circuit's own board; empty while nothing else is entered."""
    of_need: tuple[Finding, ...]
    of_supply: tuple[Finding, ...]
    of_place: tuple[Finding, ...]
    of_balance: tuple[Finding, ...]


class _Kept(msgspec.Struct, frozen=True, eq=False):
    """A job without what is apart, and what was told of it so far."""

    bare: Job
    around: dict[tuple[float, int], Around]
    panel: dict[tuple[float, str | None], tuple[Finding, ...]]


_kept: dict[tuple[int, ...], _Kept] = {}
"""By the identity of every field that is looked at; an edit leaves the others the same objects."""
_LOOKED_AT: Final = tuple(name for name in Job.__struct_fields__ if name not in APART)


def _of(job: Job) -> _Kept:
    key = tuple([id(getattr(job, name)) for name in _LOOKED_AT])
    kept = _kept.pop(key, None)
    if kept is None:
        bare = Job(**{name: getattr(job, name) for name in _LOOKED_AT})
        kept = _Kept(bare, {}, {})
        while len(_kept) >= MOST_KEPT:
            _kept.pop(next(iter(_kept)))
    # Last come stays longest; the fields in it keep their identity as long as it stands here.
    _kept[key] = kept
    return kept


def around(job: Job, book: Book, charge_a: float, hots: int) -> Around:
    """Need, supply and place of a job.

    Parameters
    ----------
    job : Job
        The document.
    book : Book
        Edition.
    charge_a : float
        Charging current that counts [A].
    hots : int
        Spaces the breaker takes.
    """
    kept = _of(job)
    found = kept.around.get((charge_a, hots))
    if found is None:
        bare, volts = kept.bare, SYSTEMS[job.supply.system][0]
        need, passed = plan_need(bare.need, volts), buses(bare, charge_a, volts)
        found = kept.around[charge_a, hots] = Around(
            need,
            passed,
            tuple(need_findings(bare, need, charge_a)),
            (
                *bus_findings(bare, passed, charge_a, volts, book),
                *feeder_findings(bare, book),
                *space_findings(bare, hots, book),
            ),
            tuple(place_findings(bare, book)),
            tuple(leg_findings(bare, charge_a, hots, book)),
        )
    return found


def of_panel(job: Job, book: Book, breaker_a: float, trade_size: str | None) -> tuple[Finding, ...]:
    """What the panel's own equipment says to a breaker [A] and to the raceway that leaves it."""
    kept = _of(job)
    if (breaker_a, trade_size) not in kept.panel:
        kept.panel[breaker_a, trade_size] = tuple(panel_findings(kept.bare, breaker_a, book, trade_size))
    return kept.panel[breaker_a, trade_size]
