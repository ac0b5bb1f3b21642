"""What each charging current does for a car: power, distance an hour, hours to fill, a night and a year."""

from __future__ import annotations

import itertools
from typing import Final

import msgspec
import numpy as np

from awlmark.core.book.edition import Floats
from awlmark.core.job.driving import Car, Need
from awlmark.core.job.model import SETTINGS_A

CURRENTS_A: Final = np.array([12.0, *SETTINGS_A])
"""Charging currents compared; the first one at the outlet voltage, the others at the system's [A]."""
QUARTER_H: Final = 0.25
DAYS: Final = 365
COLD_DAYS: Final = np.r_[0:59, 334:365]
"""January, February and December of a common year, 0 is 1 January."""
MONDAY_FIRST: Final = 3
"""The simulated year begins on a Thursday, so that no weekday is favoured by more than one."""


class Ramps(msgspec.Struct, frozen=True, eq=False):
    """What every current does for one car; arrays of shape (A,) over :data:`CURRENTS_A`."""

    amps: Floats
    volts: Floats
    kw: Floats
    """Drawn from the circuit, held to what the car's own charger takes [kW]."""
    km_per_h: Floats
    day_h: Floats
    """Hours for an average day's driving; inf where nothing flows."""
    from_20_to_80_h: Floats
    full_by_h: Floats
    """Hour of the day, past 24 on the next, when an average day is filled up again."""


class Year(msgspec.Struct, frozen=True, eq=False):
    """A simulated year; arrays over currents (A,)."""

    short_nights: np.ndarray[tuple[int], np.dtype[np.intp]]
    """Mornings on which some car leaves with less than its next day takes."""
    drawn_kwh: Floats
    cost: Floats
    """Over the year [currency]."""


def ramps(car: Car, need: Need, volts: float, outlet_volts: float = 120.0) -> Ramps:
    """Work out what each charging current does for a car.

    Parameters
    ----------
    car : Car
        The vehicle.
    need : Need
        Efficiency.
    volts : float
        System voltage between the legs [V].
    outlet_volts : float
        Voltage of the first, plug-in current [V].
    """
    at_volts = np.full(len(CURRENTS_A), volts)
    at_volts[0] = outlet_volts
    offered = CURRENTS_A * at_volts / 1000
    most = np.inf if car.onboard_kw is None else car.onboard_kw
    kw = np.minimum(offered, most)
    stored = kw * need.efficiency
    day_kwh = float(np.mean(car.km)) * car.use_kwh_per_km
    hours = day_kwh / stored
    return Ramps(
        amps=CURRENTS_A,
        volts=at_volts,
        kw=kw,
        km_per_h=stored / car.use_kwh_per_km,
        day_h=hours,
        from_20_to_80_h=0.6 * car.battery_kwh / stored,
        full_by_h=car.arrive_h + hours,
    )


def parked_h(car: Car) -> float:
    """Hours between arriving and leaving [h]; a car that leaves at the hour it came stays a whole day."""
    return (car.leave_h - car.arrive_h) % 24 or 24.0


def simulate_year(need: Need, volts: float, outlet_volts: float = 120.0) -> Year:
    """A year of evenings and mornings for all currents at once.

    Every day each car drives, comes home, charges until it is full or has to leave. Two cars share one circuit as
    ``need.sharing`` says. Cost follows the price of each quarter-hour, charging from the moment of arrival.

    Parameters
    ----------
    need : Need
        Cars and prices; without a car nothing is drawn.
    volts, outlet_volts : float
        System and plug-in voltage [V].
    """
    count = len(CURRENTS_A)
    cars = need.cars
    if not cars:
        return Year(np.zeros(count, dtype=np.intp), np.zeros(count), np.zeros(count))
    circuit_kw = CURRENTS_A * np.where(np.arange(count) == 0, outlet_volts, volts) / 1000
    limits = [np.minimum(circuit_kw, np.inf if car.onboard_kw is None else car.onboard_kw) for car in cars]
    weekday = (np.arange(DAYS + 1) + MONDAY_FIRST) % 7
    season = np.ones(DAYS + 1)
    season[COLD_DAYS] = need.cold_factor
    use = [np.array(car.km)[weekday] * car.use_kwh_per_km * season for car in cars]
    stored = [np.full(count, car.battery_kwh * car.level_percent / 100) for car in cars]
    drawn = np.zeros((DAYS, len(cars), count))
    morning = np.zeros((DAYS, len(cars), count))
    spans = _spans(cars)
    for day in range(DAYS):
        missing = []
        for number, car in enumerate(cars):
            stored[number] = np.maximum(stored[number] - use[number][day], 0.0)
            missing.append((car.battery_kwh - stored[number]) / need.efficiency)
        given = _night(need.sharing, spans, missing, limits, circuit_kw)
        for number in range(len(cars)):
            drawn[day, number] = given[number]
            stored[number] = stored[number] + given[number] * need.efficiency
            morning[day, number] = stored[number]
    wanted = np.array([np.minimum(use[number][1:], car.battery_kwh) for number, car in enumerate(cars)]).T
    late = (morning < wanted[:, :, None] - 1e-9).any(axis=1)
    cost = np.zeros(count)
    for number, car in enumerate(cars):
        share = 0.5 if need.sharing == "half" and len(cars) > 1 else 1.0
        kw = np.minimum(limits[number], circuit_kw * share)
        cost += _cost(need, car, drawn[:, number], kw)
    return Year(late.sum(axis=0), drawn.sum(axis=(0, 1)), cost)


def _spans(cars: tuple[Car, ...]) -> list[tuple[float, tuple[bool, ...]]]:
    """Stretches of the night in order: how long [h], and which cars are plugged in."""
    first = min(car.arrive_h for car in cars)
    stays = [((car.arrive_h - first) % 24, (car.arrive_h - first) % 24 + parked_h(car)) for car in cars]
    edges = sorted({edge for stay in stays for edge in stay})
    return [
        (end - start, tuple(stay[0] <= start and end <= stay[1] for stay in stays))
        for start, end in itertools.pairwise(edges)
    ]


def _night(
    sharing: str,
    spans: list[tuple[float, tuple[bool, ...]]],
    missing: list[Floats],
    limits: list[Floats],
    circuit_kw: Floats,
) -> list[Floats]:
    """Energy each car draws in one night [kWh], shape (A,) each."""
    if len(missing) == 1:
        return [np.minimum(missing[0], limits[0] * sum(hours for hours, _plugged in spans))]
    left = [energy.copy() for energy in missing]
    given = [np.zeros_like(energy) for energy in missing]
    for hours, plugged in spans:
        wants = [np.minimum(left[n], limits[n] * hours) if here else 0.0 * left[n] for n, here in enumerate(plugged)]
        room = circuit_kw * hours
        if sharing == "half":
            takes = [np.minimum(want, room / 2) for want in wants]
        elif sharing == "turns":
            takes = [np.minimum(wants[0], room), np.minimum(wants[1], room - np.minimum(wants[0], room))]
        else:
            one = np.minimum(wants[0], np.maximum(room / 2, room - wants[1]))
            takes = [one, np.minimum(wants[1], room - one)]
        for number, take in enumerate(takes):
            left[number] = left[number] - take
            given[number] = given[number] + take
    return given


def price_by_quarter(need: Need) -> Floats:
    """Price of each quarter-hour of the day [currency/kWh], shape (96,)."""
    hours = np.arange(96) * QUARTER_H
    prices = np.full(96, float(need.price))
    for window in need.windows:
        if window.from_h <= window.to_h:
            inside = (hours >= window.from_h) & (hours < window.to_h)
        else:
            inside = (hours >= window.from_h) | (hours < window.to_h)
        prices[inside] = float(window.price)
    return prices


def _cost(need: Need, car: Car, drawn: Floats, kw: Floats) -> Floats:
    """Cost of what one car draws over the year, from its arrival on at ``kw`` [currency], shape (A,)."""
    start = round(car.arrive_h / QUARTER_H) % 96
    prices = np.roll(price_by_quarter(need), -start)
    # What an hour-long draw of one kilowatt has cost by the end of each quarter; between them it grows evenly.
    paid = np.concatenate([[0.0], np.cumsum(prices) * QUARTER_H])
    hours = drawn / kw
    within: Floats = np.interp(hours, np.arange(97) * QUARTER_H, paid)
    # What sharing pushed beyond a day at full power is paid at the last quarter's price.
    beyond = np.maximum(hours - 24.0, 0.0) * prices[-1]
    cost: Floats = ((within + beyond) * kw).sum(axis=0)
    return cost
