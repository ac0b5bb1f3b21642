"""The walk along a line: what is guessed of it, asked one at a time, read by the same words as everything else."""

from __future__ import annotations

from typing import Final

import msgspec
from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.entry.legs import SLABS
from awlmark.core.entry.read import read_entry
from awlmark.core.entry.word import Reading
from awlmark.core.errors import InputError
from awlmark.core.job.edit import put, value_at
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import print_length, print_temperature

WAYS_IN_WORDS: Final = {
    "up": "up", "down": "down", "left": "along the wall, left", "right": "along the wall",
    "through": "through the wall", "out": "out through the wall", "in": "in through the wall",
    "trench": "in the trench",
}  # fmt: skip
OF_LEG: Final = {
    "length_m": ("", "leg {n} "),
    "wall": (", what the wall is built of", "leg {n} "),
    "place": (", where it lies", "leg {n} place "),
    "method": (", pipe or cable", "leg {n} "),
    "mount": (", on the wall or inside it", "leg {n} mount "),
    "direction": (", which way", "leg {n} "),
    "cover_m": (", cover over it", "leg {n} cover "),
    "surface": (", what lies over it", "leg {n} surface "),
    "ambient_c": (", how hot it gets", "leg {n} ambient "),
    "zone": (", in a zone of the wall where people expect it", "leg {n} zone "),
}
"""Fields of a leg that may be guessed: how each is asked, and the words that its answer stands behind."""
OF_JOB: Final = {
    "charger.nameplate_a": ("The charger draws", ""),
    "charger.connection": ("How it ends: hardwired, or an outlet", ""),
    "supply.service_a": ("Service, the main breaker", "service "),
    "existing.breaker": ("The breaker that is there: plain, gfci, none", "exists "),
    "supply.cutout_a": ("Fuse of the cut-out", "cut-out "),
    "supply.earthing": ("How the supply is earthed: pme, tn-s or tt", "earthing "),
    "supply.ra_ohm": ("The earth electrode", "ra "),
    "charger.pen": ("What guards a car outdoors against a lost PEN: i to v, island, indoors", "pen "),
    "charger.dc_6ma": ("Does the unit detect 6 mA of d.c. itself: in unit, or no", "dc "),
}


class Question(msgspec.Struct, frozen=True):
    """One thing that only the site knows."""

    path: str
    label: str
    """As it is asked: ``leg 2, along the wall``."""
    text: str
    """What is guessed, or was answered, as it would be typed."""
    guessed: bool
    leg: str = ""
    """Leg it is about, by its id; empty for the job."""


def question(job: Job, path: str) -> Question:
    """What is asked at a path.

    Raises
    ------
    InputError
        When the path leads nowhere any more, such as into a leg that was rubbed out.
    """
    value = value_at(job, path)
    leg = _leg(job, path)
    if leg is None:
        label = open_book(job.code).words.asked.get(path, OF_JOB[path][0])
    else:
        slab = next((slab for slab in SLABS if slab in leg.wall), None)
        way = f"through the {slab}" if slab else WAYS_IN_WORDS[leg.direction]
        field, words = _field(path), open_book(job.code).words
        label = f"Leg {job.legs.index(leg) + 1}, {way}{words.asked.get(field, OF_LEG[field][0])}"
    return Question(path, label, _typed(job, path, value), path in job.guessed, "" if leg is None else leg.id)


def questions(job: Job) -> tuple[Question, ...]:
    """Everything guessed that a walk can ask, in its order."""
    return tuple(question(job, path) for path in job.guessed if path in OF_JOB or _field(path) in OF_LEG)


def answer(job: Job, path: str, text: str) -> Reading:
    """Take an answer: what stands there kept, or a new value; other words are read as ever and leave the question.

    Raises
    ------
    InputError
        When it cannot be read.
    """
    asked = question(job, path)
    plain = " ".join(text.split())
    if not plain or plain == asked.text:
        kept = replace(job, guessed=tuple(one for one in job.guessed if one != path))
        return Reading(f"{asked.label}: {asked.text}, as it is", kept)
    leg = _leg(job, path)
    spot = Spot(asked.leg or None, (asked.leg,) if asked.leg else ())
    prefix = OF_JOB[path][1] if leg is None else OF_LEG[_field(path)][1].format(n=job.legs.index(leg) + 1)
    if path == "charger.nameplate_a" and plain.replace(".", "", 1).isdecimal():
        plain += "a"
    try:
        reading = read_entry(prefix + plain, job, spot)
    except InputError:
        # Not this reading: anything else that can be typed is taken too.
        reading = read_entry(text, job, spot)
    if path in reading.job.guessed and value_at(reading.job, path) == value_at(job, path):
        return reading
    return replace(reading, job=_same_method(job, reading.job, path))


def _same_method(before: Job, after: Job, path: str) -> Job:
    """A method that is answered once is meant for every leg that had the same one."""
    if _field(path) != "method":
        return after
    was, now = value_at(before, path), value_at(after, path)
    edits = [
        msgspec.structs.replace(leg, method=now, trade_size=None) if leg.method == was else leg for leg in after.legs
    ]
    return replace(put(after.with_run(legs=tuple(edits))), guessed=tuple(one for one in after.guessed if one != path))


def _leg(job: Job, path: str) -> Leg | None:
    if not path.startswith("legs["):
        return None
    its_id = path.partition("]")[0].removeprefix("legs[")
    found = next((leg for leg in job.legs if leg.id == its_id), None)
    if found is None:
        raise InputError("walk", "That leg is gone.", "a leg of the line")
    return found


def _field(path: str) -> str:
    return path.rpartition(".")[2]


def _typed(job: Job, path: str, value: object) -> str:
    """A value as it would be typed."""
    if value is None or value == "":
        return "none" if path == "existing.breaker" else ""
    field = _field(path)
    if isinstance(value, bool):
        return ("in unit" if field == "dc_6ma" else "yes") if value else "no"
    if field.endswith("_c"):
        return print_temperature(value, job.units)  # type: ignore[arg-type]
    if field.endswith("_ohm"):
        return f"{value:g}"
    if field.endswith("_m") and isinstance(value, float):
        return print_length(value, job.units)
    if field.endswith("_a") and isinstance(value, float):
        return f"{value:g} A"
    if field == "place":
        return open_book(job.code).words.place(str(value))
    if field == "method":
        return open_book(job.code).methods[str(value)].name
    return str(value)
