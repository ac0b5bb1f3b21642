"""The chain link by link: what each would let the charger draw, and which is the weakest."""

from __future__ import annotations

import math

import msgspec
import numpy as np

from awlmark.core.circuit.case import CONTINUOUS
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, LOWER, NOTE, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import SETTINGS_A
from awlmark.core.names import METAL_NAMES
from awlmark.core.quantities import print_amps, print_gauge


class Link(msgspec.Struct, frozen=True):
    """One link of the chain."""

    name: str
    charge_a: float
    """Charging current it allows [A]."""
    raised_by: str
    """What would raise it."""


def links(t: Teller) -> tuple[Link, ...]:
    """Every link with a rating of its own, in the order of the chain; unread ones are left out.

    Parameters
    ----------
    t : Teller
        The row that was picked.
    """
    found = []
    charger = t.case.job.charger
    if charger.nameplate_a is not None:
        found.append(Link("charger's nameplate", charger.nameplate_a, "a larger unit"))
    if np.isfinite(t.breaker_a):
        found.append(Link(f"{t.breaker_a:g} A breaker", t.breaker_a / CONTINUOUS, "a larger breaker"))
    if t.case.receptacle is not None:
        found.append(Link(f"{t.case.receptacle.config} receptacle", t.case.receptacle.amps / CONTINUOUS, "hardwiring"))
    terminal = float(t.seen.carried.terminal_a[t.group, t.hot])
    column = t.seen.carried.column_c[t.group]
    wire = f"{print_gauge(t.size)} {METAL_NAMES[t.metal]}"
    if terminal > 0:
        found.append(Link(f"{wire} at {column} °C terminals", terminal / CONTINUOUS, "the next size up"))
    factored = float(t.seen.carried.factored_a[t.group, t.hot])
    if np.isfinite(factored) and factored > 0:
        found.append(Link(f"{wire} after heat and bundling", factored, "the next size up, or a cooler way"))
        allowed = float(t.seen.terms["protection"].needed[t.row])
        if np.isfinite(allowed) and allowed > 0:
            found.append(Link(f"largest breaker over {wire}", allowed / CONTINUOUS, "the next size up"))
    ground = t.case.job.circuit.ground_size
    if ground is not None:
        metal = int(t.seen.table.material[t.group])
        carried = [
            float(top)
            for top, size in zip(t.book.ground_to_a, t.book.ground_size[metal], strict=True)
            if int(size) <= t.book.size_index(ground)
        ]
        if carried:
            found.append(Link(f"{print_gauge(ground)} ground", max(carried) / CONTINUOUS, "a larger ground"))
    return tuple(found)


def honest_setting(found: tuple[Link, ...]) -> float | None:
    """Highest charging current that every link carries, as units are set [A]; None below all settings."""
    least = min((link.charge_a for link in found), default=math.inf)
    fitting = [amps for amps in SETTINGS_A if amps <= least + 1e-9]
    return fitting[-1] if fitting else None


def _charge(link: Link) -> float:
    return link.charge_a


def tell_weakest(t: Teller) -> list[Finding]:
    """The weakest link, what it limits the charger to, and what would raise it."""
    found = links(t)
    if not found:
        return []
    weakest = min(found, key=lambda link: link.charge_a)
    short = weakest.charge_a < t.case.charge_a - 1e-9
    honest = honest_setting(found)
    carries = print_amps(weakest.charge_a)
    text = f"Weakest link: the {weakest.name}, for {carries} of charging. Raised by {weakest.raised_by}."
    fixes: tuple[Fix, ...] = ()
    if short and honest is not None:
        text = f"The {weakest.name} holds the charger to {honest:g} A. Raised by {weakest.raised_by}."
        if t.case.receptacle is None and t.case.job.charger.nameplate_a is not None:
            edits = (Put("charger.setting_a", honest), Put("charger.setting_restricted", True))
            fixes = (Fix(f"Set charger to {honest:g} A, locked", edits, LOWER),)
    return [
        Finding(
            id="weakest",
            severity=NOTE if short else HOLDS,
            title="Weakest link",
            text=text,
            cite=t.book.cite("breaker"),
            sums=tuple(f"{one.name}: {print_amps(one.charge_a)}" for one in sorted(found, key=_charge)),
            where="line",
            fixes=fixes,
        )
    ]
