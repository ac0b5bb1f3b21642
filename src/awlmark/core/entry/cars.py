"""Facts of the cars and the tariff as people write them: each with its label, its text and its reading."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, Final

import msgspec

from awlmark.core.books import open_book
from awlmark.core.errors import InputError
from awlmark.core.job.cars import PORTS, SHARINGS, Car, PriceWindow
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.quantities import MILE_KM, print_clock, read_money, read_number

DAYS: Final = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
_USE: Final = re.compile(r"(\d+(?:\.\d+)?)\s*(mi/kwh|wh/mi|kwh/100\s*km|wh/km|km/kwh|kwh/100\s*mi)", re.ASCII)
_CLOCK: Final = re.compile(r"(\d{1,2})(?::(\d{2}))?\s*(am|pm)?", re.ASCII)


class Fact(msgspec.Struct, frozen=True):
    """One fact: its label, how it prints, and the edits a typed text means."""

    label: str
    show: Callable[[Job, Car | None], str]
    read: Callable[[str, Job, Car | None], tuple[Put, ...]]


def read_use(text: str) -> float:
    """Consumption [kWh/km] from ``3.5 mi/kWh``, ``280 Wh/mi``, ``18 kWh/100 km`` and the like.

    Raises
    ------
    InputError
        When the unit is missing or the number is nought.
    """
    match = _USE.fullmatch(text.strip().lower())
    value = float(match[1]) if match else 0.0
    if match is None or value <= 0:
        raise InputError("use", f"Can't read '{text.strip()}'.", "such as 3.5 mi/kWh, 280 Wh/mi or 18 kWh/100 km")
    unit = match[2].replace(" ", "")
    per_km = {
        "mi/kwh": 1 / value / MILE_KM,
        "wh/mi": value / 1000 / MILE_KM,
        "kwh/100mi": value / 100 / MILE_KM,
        "kwh/100km": value / 100,
        "wh/km": value / 1000,
        "km/kwh": 1 / value,
    }
    return per_km[unit]


def read_clock(text: str, field: str) -> float:
    """Hour of the day [h] from ``18``, ``18:30``, ``6:30 pm``.

    Raises
    ------
    InputError
        When it is no time of day.
    """
    match = _CLOCK.fullmatch(text.strip().lower())
    if match:
        hour, minute = int(match[1]), int(match[2] or 0)
        if match[3]:
            hour = hour % 12 + (12 if match[3] == "pm" else 0) if 1 <= hour <= 12 else 99
        if hour <= 24 and minute < 60 and (hour < 24 or minute == 0):
            return hour + minute / 60
    raise InputError(field, f"Can't read '{text.strip()}'.", "a time such as 18:30 or 6:30 pm")


def read_windows(text: str) -> tuple[PriceWindow, ...]:
    """Price windows from ``22-6 0.09, 17-21 0.31``; nothing clears them.

    Raises
    ------
    InputError
        When a window is not two times and a price.
    """
    found = []
    for part in filter(None, (part.strip() for part in text.split(","))):
        match = re.fullmatch(r"(\S+?)\s*(?:-|–|to)\s*(\S+)\s+(\S+)", part)
        if match is None:
            raise InputError("price windows", f"Can't read '{part}'.", "such as 22-6 0.09, 17-21 0.31")
        start, end = read_clock(match[1], "price windows"), read_clock(match[2], "price windows")
        found.append(PriceWindow(from_h=start, to_h=end, price=read_money(match[3], "price windows")))
    return tuple(found)


def read_distance(text: str, job: Job, field: str) -> float:
    """A distance [km]: bare numbers are miles in a foot job, kilometres in a metre job."""
    plain = text.strip().lower().removesuffix("les").removesuffix("le")
    miles = plain.endswith("mi") or (in_miles(job) and not plain.endswith("km"))
    value = read_number(plain.removesuffix("km").removesuffix("mi"), field, 0, 1200)
    return value * MILE_KM if miles else value


def in_miles(job: Job) -> bool:
    """Whether distances by road are told in miles: in a foot job, and where the country's roads are."""
    return job.units == "ft" or open_book(job.code).miles


def print_distance(km: float, job: Job) -> str:
    """A distance in miles or in kilometres."""
    return f"{km / MILE_KM:.0f} mi" if in_miles(job) else f"{km:.0f} km"


def _path(car: Car | None, field: str) -> str:
    assert car is not None
    return f"need.cars[{car.id}].{field}"


def _number(field: str, label: str, low: float, high: float, unit: str) -> Fact:
    def show(_job: Job, car: Car | None) -> str:
        value = getattr(car, field)
        return "" if value is None else f"{value:g} {unit}"

    def read(text: str, _job: Job, car: Car | None) -> tuple[Put, ...]:
        plain = text.strip()
        value = None if field == "onboard_kw" and not plain else read_number(plain, label, low, high, unit)
        return (Put(_path(car, field), value),)

    return Fact(label, show, read)


def _clock(field: str, label: str) -> Fact:
    return Fact(
        label,
        lambda _job, car: print_clock(getattr(car, field)),
        lambda text, _job, car: (Put(_path(car, field), read_clock(text, label)),),
    )


def _onboard() -> Fact:
    plain = _number("onboard_kw", "On-board charger", 0.5, 50, "kW")

    def read(text: str, job: Job, car: Car | None) -> tuple[Put, ...]:
        """Amps are taken at 240 V, as cars are rated."""
        if re.fullmatch(r"\d+(\.\d+)?\s*a", text.strip().lower()):
            amps = read_number(text, "On-board charger", 2, 200, "a")
            return (Put(_path(car, "onboard_kw"), amps * 240 / 1000),)
        return plain.read(text, job, car)

    return Fact(plain.label, plain.show, read)


def _choice(field: str, label: str, known: tuple[str, ...]) -> Fact:
    def read(text: str, _job: Job, car: Car | None) -> tuple[Put, ...]:
        value = " ".join(text.lower().split())
        if value not in known:
            raise InputError(label, f"Can't use '{text.strip()}'.", "one of " + ", ".join(known))
        return (Put(_path(car, field) if car else f"need.{field}", value),)

    return Fact(label, lambda job, car: str(getattr(car or job.need, field)), read)


def _day(number: int) -> Fact:
    def read(text: str, job: Job, car: Car | None) -> tuple[Put, ...]:
        assert car is not None
        km = read_distance(text, job, DAYS[number])
        return (Put(_path(car, "km"), (*car.km[:number], km, *car.km[number + 1 :])),)

    return Fact(DAYS[number], lambda job, car: print_distance(car.km[number], job) if car else "", read)


def _days(label: str, first: int, last: int) -> Fact:
    """The same distance on several days of the week at once; nothing is shown where they differ."""

    def show(job: Job, car: Car | None) -> str:
        week = set(car.km[first:last]) if car else set()
        return print_distance(next(iter(week)), job) if len(week) == 1 else ""

    def read(text: str, job: Job, car: Car | None) -> tuple[Put, ...]:
        assert car is not None
        if not text.strip():
            return ()  # as it shows while the days differ: they stay as they are
        km = read_distance(text, job, label)
        return (Put(_path(car, "km"), tuple(km if first <= day < last else car.km[day] for day in range(7))),)

    return Fact(label, show, read)


def _name() -> Fact:
    def read(text: str, _job: Job, car: Car | None) -> tuple[Put, ...]:
        if not 0 < len(text.strip()) <= 40:
            raise InputError("Name", "A car wants a name.", "1 to 40 letters")
        return (Put(_path(car, "name"), text.strip()),)

    return Fact("Name", lambda _job, car: car.name if car else "", read)


def _use() -> Fact:
    def show(job: Job, car: Car | None) -> str:
        assert car is not None
        per_km = car.use_kwh_per_km
        return f"{1 / (per_km * MILE_KM):.3g} mi/kWh" if in_miles(job) else f"{per_km * 100:.3g} kWh/100 km"

    return Fact("Use", show, lambda text, _job, car: (Put(_path(car, "use_kwh_per_km"), read_use(text)),))


def _shared(field: str, label: str, low: float, high: float) -> Fact:
    return Fact(
        label,
        lambda job, _car: f"{getattr(job.need, field):g}",
        lambda text, _job, _car: (Put(f"need.{field}", read_number(text, label, low, high)),),
    )


def _windows_text(job: Job, _car: Car | None) -> str:
    windows = job.need.windows
    return ", ".join(f"{print_clock(w.from_h)}-{print_clock(w.to_h)} {w.price}" for w in windows)


_FUEL: Final = re.compile(
    r"[^\d]?(?P<price>\d+(?:\.\d+)?)\s*(?:/?\s*(?:a\s+)?(?P<unit>gal|gallon|l|litre))?\s+at\s+"
    r"(?P<use>\d+(?:\.\d+)?)\s*(?P<kind>mpg|l/100\s*km|km/l)",
    re.ASCII,
)


def _fuel() -> Fact:
    def show(job: Job, _car: Car | None) -> str:
        need = job.need
        if need.fuel_per_l is None or need.fuel_km_per_l is None:
            return ""
        book = open_book(job.code)
        gallon = book.gallon_l
        if book.miles:
            return f"{need.fuel_per_l:.2f}/l at {need.fuel_km_per_l * book.gallon_l / MILE_KM:.3g} mpg"
        if job.units == "ft":
            return f"{need.fuel_per_l * gallon:.2f}/gal at {need.fuel_km_per_l * gallon / MILE_KM:.3g} mpg"
        return f"{need.fuel_per_l:.2f}/l at {100 / need.fuel_km_per_l:.3g} l/100 km"

    def read(text: str, job: Job, _car: Car | None) -> tuple[Put, ...]:
        book = open_book(job.code)
        if text.strip().lower() in ("", "none", "open"):
            return Put("need.fuel_per_l", None), Put("need.fuel_km_per_l", None)
        match = _FUEL.fullmatch(text.strip().lower())
        if match is None or not float(match["use"]):
            accepted = (
                "such as 1.45 at 40 mpg, 1.45 at 7 l/100km"
                if book.miles
                else "such as 3.60 at 28 mpg, 1.65 at 7 l/100km"
            )
            raise InputError("fuel", f"Can't read '{text.strip()[:40]}'.", accepted)
        price, use, kind = float(match["price"]), float(match["use"]), match["kind"].replace(" ", "")
        gallons = match["unit"] in ("gal", "gallon") or (match["unit"] is None and kind == "mpg" and not book.miles)
        km_per_l = {"mpg": use * MILE_KM / book.gallon_l, "l/100km": 100 / use, "km/l": use}[kind]
        return (
            Put("need.fuel_per_l", price / book.gallon_l if gallons else price), Put("need.fuel_km_per_l", km_per_l)
        )  # fmt: skip

    return Fact("Fuel it replaces", show, read)


CAR_FACTS: Final[tuple[Fact, ...]] = (
    _name(),
    _number("battery_kwh", "Battery", 1, 1000, "kWh"),
    _use(),
    _onboard(),
    _number("level_percent", "Level now", 0, 100, "%"),
    _choice("port", "Port", PORTS),
    _clock("arrive_h", "Plugged in from"),
    _clock("leave_h", "Leaves at"),
    _days("Every day", 0, 7),
    _days("Weekdays", 0, 5),
    *(_day(number) for number in range(7)),
)
SHARED_FACTS: Final[tuple[Fact, ...]] = (
    _shared("cold_factor", "Winter takes, times", 1, 3),
    _shared("efficiency", "Charging efficiency", 0.5, 1),
    Fact(
        "Price a kWh",
        lambda job, _car: job.need.price,
        lambda text, _job, _car: (Put("need.price", read_money(text, "Price a kWh")),),
    ),
    Fact("Other prices by hour", _windows_text, lambda text, _job, _car: (Put("need.windows", read_windows(text)),)),
    _choice("sharing", "Cars share", SHARINGS),
    _fuel(),
)


def add_car(job: Job) -> tuple[Put, ...]:
    """Edits that put another car on the circuit."""
    taken = {car.id for car in job.need.cars}
    number = next(number for number in range(1, 100) if f"car-{number}" not in taken)
    car = Car(id=f"car-{number}", name="Car" if number == 1 else f"Car {number}")
    return (Put("need.cars", (*job.need.cars, car)),)


def remove_car(job: Job, car_id: str) -> tuple[Put, ...]:
    """Edits that take a car off the circuit."""
    kept: tuple[Any, ...] = tuple(car for car in job.need.cars if car.id != car_id)
    return (Put("need.cars", kept),)
