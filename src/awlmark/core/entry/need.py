"""What is typed of the cars, the tariff and the demand: the same facts that the tables hold, from any stage."""

from __future__ import annotations

from typing import Final

from msgspec.structs import replace

from awlmark.core.entry.cars import CAR_FACTS, DAYS, SHARED_FACTS, Fact, add_car
from awlmark.core.entry.supply_facts import supply_facts
from awlmark.core.entry.word import Reader, Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.cars import Car
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.quantities import read_number


def _rest(typed: Typed, label: str, example: str) -> str:
    """What stands behind the word, as it was typed."""
    rest = typed.text.split(None, 1)[1:]
    if not rest:
        raise InputError(label, "There is more to say.", f"such as {example}")
    return rest[0].strip()


def _car_in_hand(typed: Typed) -> tuple[Job, Car, tuple[Put, ...]]:
    """The job with a car in it, the car in hand, and what puts it there when there was none."""
    job = typed.job
    made = () if job.need.cars else add_car(job)
    job = put(job, *made)
    return job, job.need.cars[min(typed.spot.car, len(job.need.cars) - 1)], made


def _of_car(label: str, example: str) -> Reader:
    fact = _fact(CAR_FACTS, label)

    def read(typed: Typed) -> Told:
        job, car, made = _car_in_hand(typed)
        text = _rest(typed, label, example)
        return f"{car.name}: {label.lower()} {text}", (*made, *fact.read(text, job, car))

    return read


def _shared(label: str, example: str) -> Reader:
    fact = _fact(SHARED_FACTS, label)

    def read(typed: Typed) -> Told:
        text = _rest(typed, label, example)
        return f"{label.lower()} {text}", fact.read(text, typed.job, None)

    return read


def _of_supply(label: str, example: str) -> Reader:
    def read(typed: Typed) -> Told:
        text = _rest(typed, label, example)
        fact = next((fact for fact in supply_facts(typed.job) if fact.label == label), None)
        if fact is None:
            raise InputError(label, "Only a dwelling's demand asks for it.", "occupancy dwelling, first")
        return f"{label.lower()} {text}", fact.read(text, typed.job, None)

    return read


def _fact(facts: tuple[Fact, ...], label: str) -> Fact:
    return next(fact for fact in facts if fact.label == label)


def car_words(typed: Typed) -> Told:
    """``car Van``: another car by its name; ``car 2 battery 60``: a fact of a car by its number."""
    words, job = typed.words, typed.job
    if len(words) > 2 and words[1].isdecimal():
        number = int(read_number(words[1], "car", 1, max(len(job.need.cars), 1)))
        reader = NEED_WORDS.get(words[2])
        if reader is None or words[2] not in CAR_WORDS:
            raise InputError("car", f"Can't read '{words[2][:40]}'.", f"one of {', '.join(CAR_WORDS)}")
        text = typed.text.split(None, 2)[2]
        return reader(typed._replace(words=words[2:], text=text, spot=replace(typed.spot, car=number - 1)))
    name = _rest(typed, "car", "car Van")
    made = add_car(job)
    added = put(job, *made).need.cars[-1]
    return f"car {name}", (*made, *_fact(CAR_FACTS, "Name").read(name, job, added))


CAR_WORDS: Final = {
    "battery": _of_car("Battery", "battery 60 kWh"),
    "use": _of_car("Use", "use 3.5 mi/kWh"),
    "onboard": _of_car("On-board charger", "onboard 11 kW"),
    "level": _of_car("Level now", "level 40"),
    "port": _of_car("Port", "port front left"),
    "arrives": _of_car("Plugged in from", "arrives 18:30"),
    "leaves": _of_car("Leaves at", "leaves 7:00"),
    "daily": _of_car("Every day", "daily 40 mi"),
    "weekdays": _of_car("Weekdays", "weekdays 40 mi"),
    **{day.lower(): _of_car(day, f"{day.lower()} 40 mi") for day in DAYS},
}
"""Facts of the car in hand."""
NEED_WORDS: Final[dict[str, Reader]] = {
    **CAR_WORDS,
    "winter": _shared("Winter takes, times", "winter 1.3"),
    "efficiency": _shared("Charging efficiency", "efficiency 0.9"),
    "tariff": _shared("Price a kWh", "tariff 0.15"),
    "windows": _shared("Other prices by hour", "windows 22-6 0.09"),
    "sharing": _shared("Cars share", "sharing turns"),
    "fuel": _shared("Fuel it replaces", "fuel 3.60 at 28 mpg"),
    "system": _of_supply("System", "system 120/240"),
    "shares": _of_supply("Shares a circuit with", "shares dryer"),
    "appliance": _of_supply("Small-appliance circuits", "appliance 2"),
    "laundry": _of_supply("Laundry circuits", "laundry 1"),
    "pool": _of_supply("Charger in the 40 % pool", "pool no"),
    "measured": _of_supply("Highest demand of a year", "measured 60 A"),
}
"""First words of entries about cars, tariff and demand, and what reads them."""
