"""Load management over a year of interval data: what each way leaves the charger, and the nights that fill the cars."""

from __future__ import annotations

import functools
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats, Ints
from awlmark.core.books import open_book
from awlmark.core.job.cars import Car, Need
from awlmark.core.job.edit import Put
from awlmark.core.job.model import SETTINGS_A, Job, Run
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.need.charging import in_turn, parked_h
from awlmark.core.panel.bus import LEAST_CHARGE_A
from awlmark.core.panel.meter_data import Metered, invented_year

SHARED_ON: Final = 0.8
"""A load counts as running whenever the whole supply draws this share of its plate or more; the safe side."""
FULL_KWH: Final = 0.01
THURSDAY: Final = 3
"""1 January 1970, from which the data count their seconds; Monday is 0."""


class Nights(msgspec.Struct, frozen=True):
    """How a year of nights went."""

    nights: int
    full: int
    """On which every car was full again by its leaving time."""
    held_h: float
    """Hours with a car waiting and less offered than its whole current; waiting for the other car is not held back."""
    paused_h: float
    """Of these, hours at nothing, the least charging current not being free."""
    over_h: float
    """Hours in which the supply would carry more than its rating."""


class Way(msgspec.Struct, frozen=True):
    """One alternative to a larger supply."""

    key: str
    name: str
    nights: Nights
    buy: str
    spaces: int
    label: str
    test: str
    edits: tuple[Put, ...]
    """Edits that take it."""


def allowed_a(others_a: Floats, charge_a: float, most_a: float) -> Floats:
    """What current sensors leave the charger, interval by interval [A], shape (N,).

    Parameters
    ----------
    others_a : ndarray, shape (N,)
        Everything else on the supply [A].
    charge_a : float
        Charging current without management [A].
    most_a : float
        Set point of the sensors [A].
    """
    left = np.minimum(most_a - others_a, charge_a)
    return np.where(left >= LEAST_CHARGE_A, left, 0.0)


def simulate_nights(
    need: Need, metered: Metered, allowed: Floats, volts: float, charge_a: float, rating_a: float | None
) -> Nights:
    """Charge the cars night by night from what is allowed.

    A car that did not fill takes the rest along to the next night, its battery at most. Two cars share the circuit as
    ``need.sharing`` says: half each, the second takes what the first leaves, or waits for it; below the least charging
    current a car stands still.

    Parameters
    ----------
    need : Need
        Cars, their week, efficiency.
    metered : Metered
        Interval data; missing intervals count as the highest.
    allowed : ndarray, shape (N,)
        Current the charger may take, on the even steps of :func:`even_kw` [A].
    volts, charge_a : float
        System voltage [V], and the current without management [A].
    rating_a : float or None
        Rating of the supply [A].
    """
    step_h = metered.interval_s / 3600
    others = even_kw(metered) * 1000 / volts
    first_h, first_day = metered.starts[0] % 86400 / 3600, int(metered.starts[0] // 86400)
    days = int(len(others) * step_h // 24)
    left = np.minimum(allowed, charge_a) * volts / 1000
    drawn = np.zeros(len(others))
    counted, good = np.zeros(days, dtype=bool), np.ones(days, dtype=bool)
    held = paused = 0.0
    share = 1 / len(need.cars) if need.sharing == "half" and need.cars else 1.0
    for car in in_turn(need) if need.sharing == "turns" else need.cars:
        begin = np.rint((24.0 * np.arange(days) + car.arrive_h - first_h) / step_h).astype(np.int64)
        steps = round(parked_h(car) / step_h)
        inside = (begin >= 0) & (begin + steps <= len(others))
        counted |= inside
        # One row a night: what may be drawn, and what that comes to by each step.
        at = begin[inside, None] + np.arange(steps)
        most = np.inf if car.onboard_kw is None else car.onboard_kw
        wish = min(charge_a * volts / 1000 * share, most)
        # The least charging current holds for each car by itself: less than it is nothing.
        offer = _from_floor(left[at] * share, volts)
        taken = drawn[at] if share == 1.0 else 0.0
        free = np.where(taken > 0.0, 0.0, offer) if need.sharing == "turns" else _from_floor(offer - taken, volts)
        power = np.clip(free, 0.0, wish)
        whole = np.cumsum(power, axis=1) * step_h
        use = _use_kwh(car, need.cold_factor, first_day + np.flatnonzero(inside))
        got, short = _carried(use, whole[:, -1], car.battery_kwh, need.efficiency)
        until = np.where(short, steps, np.where(got > FULL_KWH, (whole < got[:, None] - FULL_KWH).sum(axis=1) + 1, 0))
        charging = np.arange(steps) < until[:, None]
        held += float((charging & (offer < wish - 1e-6)).sum()) * step_h
        paused += float((charging & (offer <= 0.0)).sum()) * step_h
        np.add.at(drawn, at[charging], power[charging])
        good[inside] &= ~short
    over = 0.0 if rating_a is None else float((others + drawn * 1000 / volts > rating_a + 0.05).sum()) * step_h
    return Nights(int(counted.sum()), int((counted & good).sum()), held, paused, over)


def _from_floor(kw: Floats, volts: float) -> Floats:
    """Power where the current comes to the least that a car charges at [kW], nought elsewhere; any shape."""
    return np.where(kw * 1000 / volts >= LEAST_CHARGE_A - 1e-9, kw, 0.0)


def _use_kwh(car: Car, cold_factor: float, days: Ints) -> Floats:
    """What each day's driving takes out of the battery [kWh]; days count from 1970, winter is December to February."""
    months = days.astype("datetime64[D]").astype("datetime64[M]").astype(np.int64) % 12
    season = np.where(np.isin(months, (11, 0, 1)), cold_factor, 1.0)
    use: Floats = np.array(car.km)[(days + THURSDAY) % 7] * car.use_kwh_per_km * season
    return use


def _carried(use: Floats, offered: Floats, battery_kwh: float, efficiency: float) -> tuple[Floats, Flags]:
    """What each night draws [kWh], and whether it ended short; what is short waits for the next night."""
    got, short = np.zeros(len(use)), np.zeros(len(use), dtype=bool)
    owed = 0.0
    for night, (used, most) in enumerate(zip(use.tolist(), offered.tolist(), strict=True)):
        owed = min(owed + used, battery_kwh)
        got[night] = min(owed / efficiency, most)
        short[night] = owed / efficiency - got[night] > FULL_KWH
        owed -= got[night] * efficiency
    return got, short


def even_kw(metered: Metered) -> Floats:
    """Mean power on even steps from the first to the last interval [kW], shape (N,); missing ones at the highest."""
    place = np.rint((metered.starts - metered.starts[0]) / metered.interval_s).astype(np.int64)
    even = np.full(int(place[-1]) + 1, metered.highest_kw)
    even[place] = metered.kw
    return even


def ways(job: Job, metered: Metered, charge_a: float) -> tuple[Way, ...]:
    """Every alternative to a larger supply, simulated on a year of data.

    Parameters
    ----------
    job : Job
        Cars, service, loads. Without a car a night's whole charging is asked for, as :func:`nights_of` says.
    metered : Metered
        The year.
    charge_a : float
        Charging current without management [A].
    """
    volts = SYSTEMS[job.supply.system][0]
    known, rating = open_book(job.code).panel.ways, job.supply.service_a
    most = known.set_point(job, rating) if known is not None else None
    if known is None or rating is None or most is None or charge_a <= 0:
        return ()
    others = even_kw(metered) * 1000 / volts
    found = []

    def add(key: str, allowed: Floats, charging_a: float, edits: tuple[Put, ...], **words: str) -> None:
        row = known.rows[key]
        nights = simulate_nights(nights_of(job), metered, allowed, volts, charging_a, rating)
        label, test = (text.partition(": ")[2] for text in known.words(key, **words))
        name = row["name"].format(**words)
        found.append(Way(key, name, nights, row["buy"], int(row["spaces"]), label, test, edits))

    add(
        "sensors",
        allowed_a(others, charge_a, most),
        charge_a,
        (Put("demand.managed", True), Put("demand.shares", "")),
        set_point=f"{most:g}",
        bus="the service",
    )
    for load in known.sharing_loads(job, volts)[:1]:
        edits = known.share_edits(job, load, charge_a)
        if edits is not None:
            amps = next((float(put.value) for put in edits if put.path == "charger.setting_a"), charge_a)
            running = others * volts >= SHARED_ON * load.va
            add("shared", np.where(running, 0.0, amps), amps, edits, load=load.name.lower())
    highest = float(others.max())
    lower = [amps for amps in SETTINGS_A if amps < charge_a and highest + amps <= rating]
    if lower and job.charger.connection == "hardwired":
        amps = lower[-1]
        edits = (Put("charger.setting_a", amps), Put("charger.setting_restricted", True), Put("demand.managed", False))
        add("lower", np.full(len(others), amps), amps, edits, amps=f"{amps:g}")
    return tuple(found)


def nights_of(job: Job) -> Need:
    """The job's cars; without one a car that drives 50 km a day, which the drawing says."""
    return (
        job.need
        if job.need.cars
        else msgspec.structs.replace(job.need, cars=(Car(id="any", name="a car, 50 km a day"),))
    )


def invented_for(job: Job) -> Metered:
    """An invented year whose highest demand is about what the job's other loads are counted as; 9 kW without any."""
    volts = SYSTEMS[job.supply.system][0]
    plain = msgspec.structs.replace(
        job, demand=msgspec.structs.replace(job.demand, measured_a=None, managed=False, shares="")
    )
    found = open_book(job.code).panel.buses(plain, 0.0, volts)
    return invented_year(peak_kw=found[0].sheet.others_va / 1000 if found and found[0].sheet.others_va else 9.0)


class LoadYear(msgspec.Struct, frozen=True, eq=False):
    """A year as it is drawn."""

    first_day: int
    """Days since 1970 of the first column."""
    others_a: Floats
    """Highest of each hour, shape (D, 24) [A]; NaN where nothing was measured."""
    curve_a: Floats
    """Duration curve: highest first, shape (P,) over even shares of the time."""
    with_a: Floats
    """The same with the new load on at every hour cars are in, shape (P,)."""
    highest_a: float
    over_h: float
    """Hours a year above the service rating with the charger whole."""
    ways: tuple[Way, ...]


POINTS: Final = 121


def load_year(job: Job, metered: Metered, charge_a: float) -> LoadYear:
    """Everything the year's picture shows, kept by its whole input.

    Parameters
    ----------
    job : Job
        Supply, loads, cars, how demand is managed.
    metered : Metered
        The year.
    charge_a : float
        Charging current that counts [A].
    """
    inputs = msgspec.structs.replace(
        job,
        name="",
        note="",
        prices={},
        meter=None,
        dead_front=type(job.dead_front)(),
        run=Run(charger=job.charger, circuit=job.circuit),
    )
    return _load_year(msgspec.json.encode(inputs), metered, charge_a)


@functools.lru_cache(maxsize=8)
def _load_year(encoded: bytes, metered: Metered, charge_a: float) -> LoadYear:
    job = msgspec.json.decode(encoded, type=Job)
    volts, rating = SYSTEMS[job.supply.system][0], job.supply.service_a
    others = even_kw(metered) * 1000 / volts
    first_day = int(metered.starts[0] // 86400)
    place = (metered.starts // 3600 - first_day * 24).astype(np.int64)
    hours = np.full((int(place[-1]) // 24 + 1) * 24, -np.inf)
    np.maximum.at(hours, place, metered.kw * 1000 / volts)
    grid = np.where(np.isinf(hours), np.nan, hours).reshape(-1, 24)
    clock_h = (metered.starts[0] % 86400 + np.arange(len(others)) * metered.interval_s) % 86400 / 3600
    parked = np.zeros(len(others), dtype=bool)
    for car in nights_of(job).cars:
        parked |= (clock_h - car.arrive_h) % 24 < parked_h(car)
    known = open_book(job.code).panel.ways
    least = known.set_point(job, rating) if known is not None else None
    charging = np.full(len(others), charge_a)
    if job.demand.managed and least is not None:
        charging = allowed_a(others, charge_a, least)
    both = others + np.where(parked, charging, 0.0)
    at = np.linspace(0, len(others) - 1, POINTS).astype(np.int64)
    over = 0.0 if rating is None else float((both > rating + 0.05).sum()) * metered.interval_s / 3600
    return LoadYear(
        first_day=first_day,
        others_a=grid,
        curve_a=np.sort(others)[::-1][at],
        with_a=np.sort(both)[::-1][at],
        highest_a=float(others.max()),
        over_h=over,
        ways=ways(job, metered, charge_a),
    )
