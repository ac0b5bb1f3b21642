"""The smallest charging current that is enough, and why."""

from __future__ import annotations

import functools
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books.book import Portable
from awlmark.core.finding import HOLDS, NOTE, TIGHT, Finding, Fix
from awlmark.core.job.cars import Need
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.need.charging import Quiet, Ramps, Year, currents_a, ramps, simulate_year
from awlmark.core.quantities import print_amps

OUTLET: Final = 0
"""Place of the plug-in current among the compared ones."""


class NeedPlan(msgspec.Struct, frozen=True, eq=False):
    """What the driving asks for."""

    portable: Portable
    amps: Floats
    """Charging currents compared, shape (A,) [A]."""
    ramps: tuple[Ramps, ...]
    """By car."""
    year: Year
    enough: int
    """Place of the smallest current that leaves no morning short; the one with fewest, where all do."""
    useful_to: int
    """Place of the largest current that still fills some car faster than the one below it."""
    quiet: Quiet = ()
    """Hours of a weekday in which charging waits, from and to [h]."""

    def place_of(self, amps: float, outlet: bool = False) -> int:
        """Place of the largest compared current at or below ``amps``."""
        if outlet:
            return OUTLET
        return max(1, int(np.searchsorted(self.amps[1:], amps + 1e-9)))


def plan_need(need: Need, volts: float, portable: Portable, quiet: Quiet = ()) -> NeedPlan | None:
    """Plan for a job's cars; None without one.

    Parameters
    ----------
    need : Need
        Cars, prices, sharing.
    volts : float
        System voltage between the legs [V].
    portable : Portable
        Charging from an ordinary outlet.
    quiet : tuple
        Hours of a weekday in which charging waits.
    """
    return _plan(msgspec.json.encode(need), volts, portable, quiet) if need.cars else None


@functools.lru_cache(maxsize=16)
def _plan(encoded: bytes, volts: float, portable: Portable, quiet: Quiet) -> NeedPlan:
    """Plans are kept by their whole input: most edits of a job leave its cars alone."""
    need = msgspec.json.decode(encoded, type=Need)
    each = tuple(ramps(car, need, volts, portable, quiet) for car in need.cars)
    year = simulate_year(need, volts, portable, quiet)
    none_short = np.flatnonzero(year.short_nights == 0)
    enough = int(none_short[0]) if len(none_short) else int(np.argmin(year.short_nights))
    gains = np.any([np.diff(one.kw, prepend=0.0) > 0.005 * one.kw for one in each], axis=0)
    return NeedPlan(portable, currents_a(portable), each, year, enough, int(np.flatnonzero(gains)[-1]), quiet)


def reason(plan: NeedPlan) -> str:
    """Why the smallest is enough, in a sentence."""
    amps, short, outlet = plan.amps[plan.enough], plan.year.short_nights, plan.portable
    if short[plan.enough]:
        return f"No current fills every night; {amps:.0f} A leaves {_mornings(short[plan.enough])} a year short."
    if plan.enough == OUTLET:
        return f"{outlet.amps:g} A at {outlet.volts:g} V fills every night of the year."
    below = plan.enough - 1
    less = f"{plan.amps[below]:.0f} A" + (f" at {outlet.volts:g} V" if below == OUTLET else "")
    return f"{amps:.0f} A fills every night of the year; {less} leaves {_mornings(short[below])} short."


def _mornings(count: int) -> str:
    return f"{count} morning{'s' if count != 1 else ''}"


def need_findings(job: Job, plan: NeedPlan | None, charge_a: float) -> list[Finding]:
    """Whether the chosen current fills the cars, and whether some of it buys nothing."""
    if plan is None or charge_a <= 0:
        return []
    outlet = job.charger.connection in plan.portable.connections
    place = plan.place_of(charge_a, outlet)
    found = []
    mornings = int(plan.year.short_nights[place])
    if mornings and plan.enough != place:
        amps = float(plan.amps[plan.enough])
        found.append(
            Finding(
                id="short-nights",
                severity=TIGHT,
                title="Nights too short",
                text=f"At {print_amps(charge_a)} the car leaves short on {_mornings(mornings)} of a year.",
                cite="simulated year",
                where="charger",
                stage="need",
                sums=(reason(plan),),
                fixes=(Fix(f"{amps:.0f} A charger", choose(plan, plan.enough)),),
            )
        )
    if plan.quiet:
        hours = " and ".join(f"{begins:g} to {ends:g}" for begins, ends in plan.quiet)
        text = f"On weekdays charging waits from {hours} by default; at the other hours it begins within ten minutes."
        waive = Fix("The owner waives it", (Put("need.quiet_waived", True),))
        found.append(
            Finding("smart", HOLDS, "Smart charging", text, "rules on smart charge points, doubtful, check",
                    where="charger", stage="need", fixes=(waive,))
        )  # fmt: skip
    if place > plan.useful_to:
        amps = float(plan.amps[plan.useful_to])
        limits = ", ".join(f"{car.name} {car.onboard_kw:g} kW" for car in job.need.cars if car.onboard_kw)
        found.append(
            Finding(
                id="car-limit",
                severity=NOTE,
                title="More than the car takes",
                text=f"The car's own charger ends the gain: {limits}. Amps above {amps:.0f} buy nothing now.",
                cite="car's data plate",
                where="charger",
                stage="need",
                fixes=(Fix(f"{amps:.0f} A charger", choose(plan, plan.useful_to)),),
            )
        )
    return found


def choose(plan: NeedPlan, place: int) -> tuple[Put, ...]:
    """Edits that take a charging current by its place: the plug-in one brings its outlet, the others leave it."""
    edits = [Put("charger.nameplate_a", float(plan.amps[place])), Put("charger.setting_a", None)]
    if place == OUTLET and plan.portable.connections:
        edits.append(Put("charger.connection", plan.portable.connections[0]))
    return tuple(edits)
