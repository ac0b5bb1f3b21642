"""What stands around the line: the cars' need, the supply, the panel and the floor, kept while nothing of it changes.

Most edits of a job touch its legs, a pin of the circuit or a price. This module works from a copy of the job without
legs, prices and records, so its results stay valid when those change.
"""

from __future__ import annotations

from typing import Any, Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.finding import Finding
from awlmark.core.job.model import Job, Run
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.memo import Memo
from awlmark.core.need.plan import NeedPlan, need_findings, plan_need
from awlmark.core.panel.bus import Bus, Supplied
from awlmark.core.place.check import place_findings

APART: Final = (
    "name", "note", "made_up", "papers", "run", "buying",
    "existing", "prices", "price_notes", "hours", "stock", "delivered",
    "paid", "gone", "guessed",
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


OF_RUN: Final = ("charger", "circuit")
"""What of the run is looked at."""
_LOOKED_AT: Final = tuple(name for name in Job.__struct_fields__ if name not in APART)
_View = tuple[tuple[object, ...], Book, float, int | str | None]
"""The fields that are looked at, the book, amps, and spaces of the breaker or size of the raceway."""


def _view(job: Job, book: Book, amps: float, more: int | str | None) -> _View:
    return tuple([getattr(job, name) for name in (*OF_RUN, *_LOOKED_AT)]), book, amps, more


def _bare(view: _View) -> Job:
    """A job without what is apart: whoever asked it for a leg would find none."""
    run = Run(**dict(zip(OF_RUN, view[0], strict=False)))  # type: ignore[arg-type]
    fields: dict[str, Any] = dict(zip(_LOOKED_AT, view[0][len(OF_RUN) :], strict=True))
    return Job(**fields, run=run)


def _around(view: _View) -> Around:
    bare, book, charge_a, hots = _bare(view), *view[1:3], int(view[3] or 0)
    volts = SYSTEMS[bare.supply.system][0]
    rules = book.panel
    power_v = book.power_v.get(bare.supply.system, volts)
    quiet = () if bare.need.quiet_waived else book.quiet_h(bare)
    need, passed = plan_need(bare.need, power_v, book.portable, quiet), rules.buses(bare, charge_a, volts)
    supplied = Supplied(bare, book, passed, charge_a, volts, hots)
    return Around(
        need,
        passed,
        tuple(need_findings(bare, need, charge_a)),
        tuple([finding for rule in rules.supply for finding in rule(supplied)]),
        tuple(place_findings(bare, book)),
        tuple(rules.balance(bare, charge_a, hots, book)),
    )


def _of_panel(view: _View) -> tuple[Finding, ...]:
    return tuple(view[1].panel.equipment(_bare(view), view[2], view[1], None if view[3] is None else str(view[3])))


_arounds = Memo[_View, Around](MOST_KEPT, _around)
_panels = Memo[_View, tuple[Finding, ...]](MOST_KEPT, _of_panel)


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
    return _arounds(_view(job, book, charge_a, hots))


def of_panel(job: Job, book: Book, breaker_a: float, trade_size: str | None) -> tuple[Finding, ...]:
    """What the panel's own equipment says to a breaker [A] and to the raceway that leaves it."""
    return _panels(_view(job, book, breaker_a, trade_size))
