"""What driving costs by the charger, and by fuel where its price is typed; what an ordinary outlet would still do."""

from __future__ import annotations

import msgspec
import numpy as np

from awlmark.core.job.cars import Need
from awlmark.core.need.plan import OUTLET, NeedPlan

WEEKS: float = 365 / 7


class Costs(msgspec.Struct, frozen=True):
    """Of a distance and of a year, in the job's currency."""

    year_km: float
    """All cars together [km]."""
    per_km: float
    """By the charger [currency/km]."""
    fuel_per_km: float | None
    """By fuel; None while its price or its use is not typed [currency/km]."""

    @property
    def saved(self) -> float | None:
        """Less than by fuel over a year [currency]; None where that is not known."""
        return None if self.fuel_per_km is None else (self.fuel_per_km - self.per_km) * self.year_km


class Outlet(msgspec.Struct, frozen=True):
    """What charging from an ordinary outlet would still do."""

    amps: float
    volts: float
    night_km: float
    """That a usual night brings the hardest driven car [km]."""
    day_km: float
    """That its usual day takes [km]."""
    short: int
    """Mornings of a year on which some car leaves short."""


def year_km(need: Need) -> float:
    """All cars' way in a year [km]."""
    return WEEKS * sum(sum(car.km) for car in need.cars)


def costs(need: Need, plan: NeedPlan, place: int) -> Costs | None:
    """What a charging current makes of the year.

    Parameters
    ----------
    need : Need
        Cars and prices.
    plan : NeedPlan
        Their year.
    place : int
        Of the current among those compared.

    Returns
    -------
    Costs
        None where nobody drives, or the current leaves mornings short: then not all of the way is charged here.
    """
    driven = year_km(need)
    if not driven or plan.year.short_nights[place]:
        return None
    fuel = None
    if need.fuel_per_l is not None and need.fuel_km_per_l:
        fuel = need.fuel_per_l / need.fuel_km_per_l
    return Costs(driven, float(plan.year.cost[place]) / driven, fuel)


def by_outlet(need: Need, plan: NeedPlan) -> Outlet:
    """Charging from the ordinary outlet of the book, 12 A at 120 V in the American one."""
    gained = []
    for car, ramps in zip(need.cars, plan.ramps, strict=True):
        day_km, hours = float(np.mean(car.km)), float(ramps.day_h[OUTLET])
        parked = (car.leave_h - car.arrive_h) % 24 or 24.0
        gained.append((day_km * min(parked / hours, 1.0) if hours > 0 else day_km, day_km))
    night_km, day_km = min(gained, key=lambda one: one[0] / one[1] if one[1] else 1.0)
    portable = plan.portable
    return Outlet(portable.amps, portable.volts, night_km, day_km, int(plan.year.short_nights[OUTLET]))
