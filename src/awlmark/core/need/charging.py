"""What each charging current does for a car: power, distance an hour, hours to fill, a night and a year."""

from __future__ import annotations

import itertools
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books.book import Portable
from awlmark.core.job.cars import Car, Need
from awlmark.core.job.model import SETTINGS_A

DAYS: Final = 365
COLD_DAYS: Final = np.r_[0:59, 334:365]
"""January, February and December of a common year, 0 is 1 January."""
MONDAY_FIRST: Final = 3
"""The simulated year begins on a Thursday, so that no weekday is favoured by more than one."""


def currents_a(portable: Portable) -> Floats:
    """Charging currents compared, shape (A,) [A]: first the ordinary outlet's, then those at the system's volts."""
    return np.array([portable.amps, *SETTINGS_A])


class Ramps(msgspec.Struct, frozen=True, eq=False):
    """What every current does for one car; arrays of shape (A,) over :func:`currents_a`."""

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
    squared_kw2h: Floats
    """Power squared times its hours, for what a wire turns into heat [kW2 h]."""


def ramps(car: Car, need: Need, volts: float, portable: Portable) -> Ramps:
    """Work out what each charging current does for a car.

    Parameters
    ----------
    car : Car
        The vehicle.
    need : Need
        Efficiency.
    volts : float
        System voltage between the legs [V].
    portable : Portable
        The first, plug-in current.
    """
    amps = currents_a(portable)
    at_volts = np.full(len(amps), volts)
    at_volts[0] = portable.volts
    offered = amps * at_volts / 1000
    most = np.inf if car.onboard_kw is None else car.onboard_kw
    kw = np.minimum(offered, most)
    stored = kw * need.efficiency
    day_kwh = float(np.mean(car.km)) * car.use_kwh_per_km
    hours = day_kwh / stored
    return Ramps(
        amps=amps,
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


def simulate_year(need: Need, volts: float, portable: Portable) -> Year:
    """A year of evenings and mornings for all currents at once.

    Every day each car drives, comes home, charges until it is full or has to leave. Two cars share one circuit as
    ``need.sharing`` says: ``half`` each; ``managed``, each takes what the other cannot; or by ``turns``, one after the
    other, the one that came home first before the other. What is drawn is paid at the price of its own minute.

    Parameters
    ----------
    need : Need
        Cars and prices; without a car nothing is drawn.
    volts : float
        Of the system [V].
    portable : Portable
        The plug-in current.
    """
    amps = currents_a(portable)
    count = len(amps)
    cars = need.cars
    if not cars:
        return Year(np.zeros(count, dtype=np.intp), np.zeros(count), np.zeros(count), np.zeros(count))
    circuit_kw = amps * np.where(np.arange(count) == 0, portable.volts, volts) / 1000
    limits = np.array([np.minimum(circuit_kw, np.inf if car.onboard_kw is None else car.onboard_kw) for car in cars])
    weekday = (np.arange(DAYS + 1) + MONDAY_FIRST) % 7
    season = np.ones(DAYS + 1)
    season[COLD_DAYS] = need.cold_factor
    season[DAYS] = season[0]
    use = np.array([np.array(car.km)[weekday] * car.use_kwh_per_km * season for car in cars])
    battery = np.array([[car.battery_kwh] for car in cars])
    stored = np.repeat(battery * np.array([[car.level_percent / 100] for car in cars]), count, axis=1)
    spans = _spans(need, limits, circuit_kw)
    shared_h = np.zeros((len(spans), DAYS, count))
    alone_h = np.zeros((len(spans), DAYS, len(cars), count))
    morning = np.zeros((DAYS, len(cars), count))
    for day in range(DAYS):
        stored = np.maximum(stored - use[:, day, None], 0.0)
        left = (battery - stored) / need.efficiency
        for number, span in enumerate(spans):
            left = span.charge(left, shared_h[number, day], alone_h[number, day])
        stored = battery - left * need.efficiency
        morning[day] = stored
    wanted = np.minimum(use[:, 1:], battery).T
    late = (morning < wanted[:, :, None] - 1e-9).any(axis=1)
    drawn, squared, cost = np.zeros(count), np.zeros(count), np.zeros(count)
    for number, span in enumerate(spans):
        shared, alone = shared_h[number], alone_h[number]
        both = span.together_kw.sum(axis=0)
        drawn += both * shared.sum(axis=0) + (span.alone_kw * alone.sum(axis=0)).sum(axis=0)
        squared += both**2 * shared.sum(axis=0) + (span.alone_kw**2 * alone.sum(axis=0)).sum(axis=0)
        cost += both * _paid(need, span.start_h, shared).sum(axis=0)
        cost += (span.alone_kw * _paid(need, span.start_h + shared[:, None, :], alone).sum(axis=0)).sum(axis=0)
    return Year(late.sum(axis=0), drawn, cost, squared)


class _Span(msgspec.Struct, frozen=True, eq=False):
    """A stretch of the night in which the same cars are plugged in."""

    start_h: float
    hours: float
    together_kw: Floats
    """What each car draws while all that are here still want something, shape (C, A) [kW]; nought for one alone."""
    alone_kw: Floats
    """And once the others are full, shape (C, A) [kW]; nought for a car that is not here."""
    pair: bool

    def charge(self, left: Floats, shared_h: Floats, alone_h: Floats) -> Floats:
        """What each car still wants after it, shape (C, A) [kWh]; writes the hours of both parts."""
        rest: Floats | float = self.hours
        if self.pair:
            full_h = np.where(self.together_kw > 0, left / np.maximum(self.together_kw, 1e-12), np.inf)
            shared_h[:] = np.minimum(np.where(left <= 1e-12, 0.0, full_h).min(axis=0), self.hours)
            left = np.maximum(left - self.together_kw * shared_h, 0.0)
            rest = self.hours - shared_h
        alone_h[:] = np.where(self.alone_kw > 0, np.minimum(left / np.maximum(self.alone_kw, 1e-12), rest), 0.0)
        return np.maximum(left - self.alone_kw * alone_h, 0.0)


def in_turn(need: Need) -> tuple[Car, ...]:
    """The cars as they charge by turns: who comes home first before the other; of equals as they are listed."""
    return tuple(sorted(need.cars, key=lambda car: car.arrive_h))


def _spans(need: Need, limits: Floats, circuit_kw: Floats) -> list[_Span]:
    """The night in order, with what each car draws in every part of it."""
    cars = need.cars
    first = min(car.arrive_h for car in cars)
    stays = [((car.arrive_h - first) % 24, (car.arrive_h - first) % 24 + parked_h(car)) for car in cars]
    edges = sorted({edge for stay in stays for edge in stay})
    halved = need.sharing == "half" and len(cars) > 1
    alone = np.minimum(limits, circuit_kw / 2) if halved else limits
    together = alone
    if len(cars) > 1 and need.sharing == "managed":
        one = np.minimum(limits[0], np.maximum(circuit_kw / 2, circuit_kw - limits[1]))
        together = np.array([one, np.minimum(limits[1], circuit_kw - one)])
    elif len(cars) > 1 and need.sharing == "turns":
        together = limits * np.array([[car is in_turn(need)[0]] for car in cars])
    found = []
    for start, end in itertools.pairwise(edges):
        here = np.array([stay[0] <= start and end <= stay[1] for stay in stays])
        if here.any():
            pair = int(here.sum()) > 1
            at = here[:, None]
            found.append(_Span(first + start, end - start, together * pair, np.where(at, alone, 0.0), pair))
    return found


def price_steps(need: Need) -> tuple[Floats, Floats]:
    """Prices over one day: where each begins, from 0 [h], shape (K,), and what it is [currency/kWh], shape (K,).

    Of windows that overlap the last one counts.
    """
    edges = {0.0}.union(*({window.from_h % 24, window.to_h % 24} for window in need.windows))
    starts = np.array(sorted(edges))
    prices = np.full(len(starts), float(need.price))
    for window in need.windows:
        # From 0 to 24 is the whole day; one that ends where it begins is none.
        length = (window.to_h - window.from_h) % 24 or 24.0 * (window.to_h != window.from_h)
        prices[(starts - window.from_h) % 24 < length] = float(window.price)
    return starts, prices


def _paid(need: Need, start_h: Floats | float, hours: Floats) -> Floats:
    """What one kilowatt costs from an hour of the clock on, for so many hours [currency]; shape of ``hours``."""
    starts, prices = price_steps(need)
    # Four days, for a night may begin late and last long; between two prices the sum grows evenly.
    knots = np.append((24.0 * np.arange(4)[:, None] + starts).ravel(), 96.0)
    sums = np.append(0.0, np.cumsum(np.diff(knots) * np.tile(prices, 4)))
    paid: Floats = np.interp(start_h + hours, knots, sums) - np.interp(start_h, knots, sums)
    return paid
