"""The chain link by link: what each would let the charger draw, and which is the weakest."""

from __future__ import annotations

import math

import msgspec

from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, LOWER, NOTE, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import SETTINGS_A
from awlmark.core.quantities import print_amps


class Link(msgspec.Struct, frozen=True):
    """One link of the chain."""

    name: str
    charge_a: float
    """Charging current it allows [A]."""
    raised_by: str
    """What would raise it."""


def honest_setting(found: tuple[Link, ...], settings: tuple[float, ...] = SETTINGS_A) -> float | None:
    """Highest charging current that every link carries, as units are set [A]; None below all settings."""
    least = min((link.charge_a for link in found), default=math.inf)
    fitting = [amps for amps in settings if amps <= least + 1e-9]
    return fitting[-1] if fitting else None


def _charge(link: Link) -> float:
    return link.charge_a


def tell_weakest(t: Teller) -> list[Finding]:
    """The weakest link, what it limits the charger to, and what would raise it."""
    found = t.book.circuit.links(t)
    if not found:
        return []
    weakest = min(found, key=lambda link: link.charge_a)
    short = weakest.charge_a < t.case.charge_a - 1e-9
    honest = honest_setting(found, t.book.circuit.settings_a)
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
