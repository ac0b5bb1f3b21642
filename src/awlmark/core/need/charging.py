"""What each charging current does for a car: power, distance an hour, hours to fill, a night and a year."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books.book import Portable
from awlmark.core.job.cars import Car, Need

DAYS: Final = 365
FULL_KWH: Final = 1e-12
"""A car that wants less than this is full."""
COLD_DAYS: Final = np.r_[0:59, 334:365]
"""January, February and December of a common year, 0 is 1 January."""
MONDAY_FIRST: Final = 3
"""The simulated year begins on a Thursday, so that no weekday is favoured by more than one."""


def currents_a(portable: Portable) -> Floats:
    """Charging currents compared, shape (A,) [A]: first the ordinary outlet's, then those at the system's volts."""
    return np.array([portable.amps, *portable.settings_a])


WORKDAYS: Final = 5
Quiet = tuple[tuple[float, float], ...]
"""Hours of a weekday in which charging waits, from and to [h]."""
_Wants = np.ndarray[tuple[int, ...], np.dtype[np.bool_]]
_Share = Callable[[_Wants], Floats]


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
    """Hour of the day, past 24 on the next, when an average day is filled up again, on a weekday."""
    begins_h: float
    """Hour at which a weekday's charging begins."""


class Year(msgspec.Struct, frozen=True, eq=False):
    """A simulated year; arrays over currents (A,)."""

    short_nights: np.ndarray[tuple[int], np.dtype[np.intp]]
    """Mornings on which some car leaves with less than its next day takes."""
    drawn_kwh: Floats
    cost: Floats
    """Over the year [currency]."""
    squared_kw2h: Floats
    """Power squared times its hours, for what a wire turns into heat [kW2 h]."""


def ramps(car: Car, need: Need, volts: float, portable: Portable, quiet: Quiet = ()) -> Ramps:
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
    quiet : tuple
        Hours of a weekday in which charging waits.
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
        full_by_h=np.array([_after(car.arrive_h, float(taken), quiet) for taken in hours]),
        begins_h=_after(car.arrive_h, 0.0, quiet),
    )


def _after(start_h: float, hours: float, quiet: Quiet) -> float:
    """The hour at which so many hours of charging have passed, those that wait left out; inf where it never ends."""
    if not np.isfinite(hours):
        return float("inf")
    now = start_h
    for day in range(4):
        for begins, ends in sorted(quiet):
            begins, ends = begins + 24.0 * day, ends + 24.0 * day
            if ends <= now:
                continue
            free = max(begins - now, 0.0)
            if hours <= free and not (hours == 0 and free == 0):
                return now + hours
            hours, now = hours - free, ends
    return now + hours


def parked_h(car: Car) -> float:
    """Hours between arriving and leaving [h]; a car that leaves at the hour it came stays a whole day."""
    return (car.leave_h - car.arrive_h) % 24 or 24.0


def simulate_year(need: Need, volts: float, portable: Portable, quiet: Quiet = ()) -> Year:
    """A year of evenings and mornings for all currents at once.

    Every day each car drives, comes home, charges until it is full or has to leave. Several cars share one circuit as
    ``need.sharing`` says: ``half``, an even part for each, taken or not; ``managed``, each takes what the others
    cannot; or by ``turns``, one after the other as they came home. What is drawn is paid at the price of its minute.

    Parameters
    ----------
    need : Need
        Cars and prices; without a car nothing is drawn.
    volts : float
        Of the system [V].
    portable : Portable
        The plug-in current.
    quiet : tuple
        Hours of a weekday in which charging waits.
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
    share = _sharing(need, limits, circuit_kw)
    spans = _spans(need, share, count, quiet)
    # A stretch of the night has as many phases as cars are there: each ends when one of them is full.
    hours = np.zeros((len(spans), len(cars), DAYS, count))
    power = np.zeros_like(hours)
    morning = np.zeros((DAYS, len(cars), count))
    for day in range(DAYS):
        stored = np.maximum(stored - use[:, day, None], 0.0)
        left = (battery - stored) / need.efficiency
        for number, span in enumerate(spans):
            if span.waits and weekday[day + int(span.start_h // 24)] < WORKDAYS:
                continue
            left = _charge(span, share, left, hours[number, :, day], power[number, :, day])
        stored = battery - left * need.efficiency
        morning[day] = stored
    wanted = np.minimum(use[:, 1:], battery).T
    late = (morning < wanted[:, :, None] - 1e-9).any(axis=1)
    drawn, squared, cost = np.zeros(count), np.zeros(count), np.zeros(count)
    for number, span in enumerate(spans):
        begun = np.full((DAYS, count), span.start_h)
        for phase, kw in zip(hours[number], power[number], strict=True):
            drawn += (kw * phase).sum(axis=0)
            squared += (kw**2 * phase).sum(axis=0)
            cost += (kw * _paid(need, begun, phase)).sum(axis=0)
            begun = begun + phase
    return Year(late.sum(axis=0), drawn, cost, squared)


class _Span(msgspec.Struct, frozen=True, eq=False):
    """A stretch of the night in which the same cars are plugged in."""

    start_h: float
    hours: float
    waits: bool
    """Whether a weekday's charging waits in it."""
    here: np.ndarray[tuple[int, int], np.dtype[np.bool_]]
    """Which cars, shape (C, 1)."""
    count: int
    kw: Floats
    """What each draws while all that are here want something, shape (C, A) [kW]."""


def _charge(span: _Span, share: _Share, left: Floats, hours: Floats, power: Floats) -> Floats:
    """What each car still wants after a stretch, shape (C, A) [kWh]; writes hours and power of its phases, (C, A)."""
    rest: Floats | float = span.hours
    for phase in range(span.count):
        wants = (left > FULL_KWH) & span.here
        if span.count == 1 or (phase == 0 and np.count_nonzero(wants) == span.count * left.shape[1]):
            kw = span.kw * wants
        elif not (wants & (rest > 0)).any():
            break
        else:
            kw = share(wants)
        ends = np.divide(left, kw, out=np.full(left.shape, np.inf), where=kw > 0)
        lasts = np.minimum(ends.min(axis=0), rest)
        hours[phase], power[phase] = lasts, kw.sum(axis=0)
        left, rest = np.maximum(left - kw * lasts, 0.0), rest - lasts
    return left


def in_turn(need: Need) -> tuple[Car, ...]:
    """The cars as they charge by turns: who comes home first before the other; of equals as they are listed."""
    return tuple(sorted(need.cars, key=lambda car: car.arrive_h))


def _sharing(need: Need, limits: Floats, circuit_kw: Floats) -> _Share:
    """What each car draws of the circuit while some of them want something: (C, A) of bool to (C, A) [kW]."""
    cars = len(need.cars)
    if cars == 1:
        return lambda wants: limits * wants
    if need.sharing == "half":
        return lambda wants: np.minimum(limits, circuit_kw / cars) * wants
    if need.sharing == "turns":
        order = [need.cars.index(car) for car in in_turn(need)]

        def one_by_one(wants: _Wants) -> Floats:
            first = wants[order] & (np.cumsum(wants[order], axis=0) == 1)
            found = np.zeros_like(limits)
            found[order] = limits[order] * first
            return found

        return one_by_one
    # Who can take least is served first: what it leaves is the others'.
    by_limit = sorted(range(cars), key=lambda car: need.cars[car].onboard_kw or np.inf)

    def what_others_leave(wants: _Wants) -> Floats:
        found, free, waiting = np.zeros_like(limits), circuit_kw.copy(), wants.sum(axis=0)
        for car in by_limit:
            found[car] = np.minimum(limits[car], free / np.maximum(waiting, 1)) * wants[car]
            free, waiting = free - found[car], waiting - wants[car]
        return found

    return what_others_leave


def _spans(need: Need, share: _Share, count: int, quiet: Quiet) -> list[_Span]:
    """The night in order, and who is there in every part of it; parted where the hours that wait begin and end."""
    cars = need.cars
    first = min(car.arrive_h for car in cars)
    stays = [((car.arrive_h - first) % 24, (car.arrive_h - first) % 24 + parked_h(car)) for car in cars]
    last = max(end for _start, end in stays)
    clock = {hour + 24.0 * day - first for pair in quiet for hour in pair for day in range(3)}
    edges = sorted({edge for stay in stays for edge in stay} | {edge for edge in clock if 0 < edge < last})
    found = []
    for start, end in itertools.pairwise(edges):
        here = np.array([[stay[0] <= start and end <= stay[1]] for stay in stays])
        if here.any():
            all_want = np.repeat(here, count, axis=1)
            middle = (first + (start + end) / 2) % 24
            waits = any(begins <= middle < ends for begins, ends in quiet)
            found.append(_Span(first + start, end - start, waits, here, int(here.sum()), share(all_want)))
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
