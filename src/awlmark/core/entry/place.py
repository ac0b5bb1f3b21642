"""What is typed about the floor: areas, things, spots, parking, cord."""

from __future__ import annotations

import re
from typing import Any, Final

from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.entry.word import Reader, Told, Typed
from awlmark.core.entry.words import such
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.floor import AREA_KINDS, FIXINGS, NOSES, THING_HIGH_M, THING_KINDS, Area, Bay, Pin, Thing
from awlmark.core.job.model import Job
from awlmark.core.place.end_spot import spot_at_end
from awlmark.core.quantities import read_length, read_number
from awlmark.core.run.line import walk

_SIZE: Final = r"(?P<wide>[^x,\s]+)\s*x\s*(?P<deep>[^x,\s]+)"
_AT: Final = r"at\s+(?P<x>-?[^,\s]+)\s*,?\s+(?P<y>-?[^,\s]+)"
PIN_NAMES: Final = ("A", "B", "C")


def _length(text: str, field: str, job: Job) -> float:
    """A length that may lie to the west or south: a minus before it."""
    return -read_length(text[1:], field, job.units) if text.startswith("-") else _nought(text, field, job)


DOOR_WAYS: Final = {"open": True, "shut": False, "unread": None}


def _nought(text: str, field: str, job: Job) -> float:
    return 0.0 if text in ("0", "0ft", "0m") else read_length(text, field, job.units)


def _free(prefix: str, taken: set[str]) -> str:
    return next(f"{prefix}-{n}" for n in range(1, 1000) if f"{prefix}-{n}" not in taken)


def _add(many: str, old: tuple[Any, ...], new: Any) -> tuple[Put, ...]:
    """Put a thing in; one of the same name gives it its place in the list, and its id."""
    same = next((one for one in old if one.name.lower() == new.name.lower()), None)
    if same is None:
        return (Put(f"site.{many}", (*old, new)),)
    there = replace(new, id=same.id)
    return (Put(f"site.{many}", tuple(there if one is same else one for one in old)),)


def _area(typed: Typed) -> Told:
    """``room press house 22x16 at -4 -16``: south-west corner east and north of the panel; ``... low 6 high 8``.

    ``door side shut``: of a door that is there, whether it stands open while a car charges.
    """
    text, job = typed.text, typed.job
    known = re.fullmatch(r"door\s+(?P<name>.+?)\s+(?:is\s+|stands\s+)?(?P<how>open|shut|unread)", text, re.IGNORECASE)
    if known is not None:
        doors = [one for one in job.site.things if one.kind == "door"]
        door = next((one for one in doors if one.name.lower() == known["name"].lower()), None)
        if door is None:
            names = ", ".join(one.name for one in doors)
            raise InputError(
                "door", f"No door is called '{known['name'][:40]}'.", names or "a door with its size and place"
            )
        return text, (Put(f"site.things[{door.id}].open", DOOR_WAYS[known["how"].lower()]),)
    tall = r"(?:\s+low\s+(?P<low>.+?))?(?:\s+high\s+(?P<high>.+?))?"
    match = re.fullmatch(rf"(?P<kind>\w+)\s+(?P<name>.+?)\s+{_SIZE}\s+{_AT}{tall}", text, re.IGNORECASE)
    kind = match["kind"].lower() if match else ""
    if match is None or kind not in (*AREA_KINDS, *THING_KINDS):
        raise InputError("floor", f"Can't read '{text[:60]}'.", "kind, name, size and place: room shop 24x20 at -4 -20")
    name = match["name"][:40]
    wide, deep, x, y = (_length(match[part], f"{name}, {part}", job) for part in ("wide", "deep", "x", "y"))
    if kind in AREA_KINDS:
        area_id = _free("area", {one.id for one in job.site.areas})
        area = Area(id=area_id, name=name, kind=kind, wide_m=wide, deep_m=deep, x_m=x, y_m=y)
        return f"{kind} {area.name}", _add("areas", job.site.areas, area)
    thing_id = _free("thing", {one.id for one in job.site.things})
    low = _length(match["low"], f"{name}, low", job) if match["low"] else 0.0
    high = _length(match["high"], f"{name}, high", job) if match["high"] else max(THING_HIGH_M[kind], low + 0.3)
    thing = Thing(id=thing_id, name=name, kind=kind, wide_m=wide, deep_m=deep, x_m=x, y_m=y, low_m=low, high_m=high)
    return f"{kind} {thing.name}", _add("things", job.site.things, thing)


def _pin(typed: Typed) -> Told:
    """``pin B at 93 0``, ``pin B post``, ``pin B high 4``, ``pin B here``, ``pin B rub``."""
    text, job = typed.text, typed.job
    words = text.split()
    name = words[1].upper() if len(words) > 1 else ""
    if name not in PIN_NAMES:
        raise InputError("pin", "Which pin?", f"A, B or C, {such(job, 'pin')}")
    old = next((pin for pin in job.site.pins if pin.name == name), None)
    first: tuple[Put, ...] = ()
    rest = " ".join(words[2:]).lower()
    told = spot_at_end(job, walk(job, open_book(job.code))) if old is None and name == PIN_NAMES[0] else None
    if told is not None and not re.fullmatch(_AT, rest):
        # The run tells where the charger stands: what is said of that spot sets it.
        old, first = told, (Put("site.pins", (told,)),)
    match = re.fullmatch(_AT, rest)
    if match:
        x, y = _length(match["x"], f"pin {name}, east", job), _length(match["y"], f"pin {name}, north", job)
        new = replace(old, x_m=x, y_m=y) if old else Pin(id=name.lower(), name=name, x_m=x, y_m=y)
        return text, _add("pins", job.site.pins, new)
    if old is None:
        raise InputError("pin", f"There is no pin {name} yet.", f"its place first, such as pin {name} at 93 0")
    if rest == "rub":
        chosen = (Put("site.pin", ""),) if job.site.pin == old.id else ()
        return text, (*chosen, Put("site.pins", tuple(pin for pin in job.site.pins if pin is not old)))
    if rest in ("here", "end"):
        return text, (*first, Put("site.pin", old.id))
    if rest in FIXINGS:
        return text, (*first, Put(f"site.pins[{old.id}].fixing", rest))
    if rest.startswith("high "):
        high = read_length(rest[5:], "pin height", job.units)
        return text, (*first, Put(f"site.pins[{old.id}].height_m", high))
    raise InputError("pin", f"Can't read '{rest[:40]}'.", f"at 93 0, high 4, here, rub, {', '.join(FIXINGS)}")


def _bay(typed: Typed) -> Told:
    """``bay north at 100 -4 facing 180 nose in``: middle, way a car's nose points, ways cars stand."""
    text, job = typed.text, typed.job
    match = re.fullmatch(
        rf"bay\s+(?P<name>.+?)\s+{_AT}(?:\s+facing\s+(?P<turn>-?\d+(?:\.\d+)?))?(?:\s+nose\s+(?P<nose>in|out|both))?",
        text, re.IGNORECASE,
    )  # fmt: skip
    if match is None:
        raise InputError("bay", f"Can't read '{text[:60]}'.", "such as bay north at 100 -4 facing 180 nose in")
    noses = NOSES if match["nose"] in (None, "both") else (match["nose"].lower(),)
    bay = Bay(
        id=_free("bay", {one.id for one in job.site.bays}),
        name=match["name"][:40],
        x_m=_length(match["x"], "bay, east", job),
        y_m=_length(match["y"], "bay, north", job),
        heading_deg=read_number(match["turn"], "bay facing", -360, 360) if match["turn"] else 0.0,
        noses=noses,
    )
    return f"bay {bay.name}", _add("bays", job.site.bays, bay)


def _cord(typed: Typed) -> Told:
    text, job = typed.text, typed.job
    words = text.lower().split()
    value = None if words[1:] == ["open"] else read_length(" ".join(words[1:]), "cord", job.units)
    return text, (Put("charger.cord_m", value),)


def _band(typed: Typed) -> Told:
    """``band 24in to 48in``: heights the charger's maker gives."""
    text, job = typed.text, typed.job
    low, _, high = text.lower().removeprefix("band").strip().partition(" to ")
    if not high:
        raise InputError("band", "From how low to how high?", such(job, "band"))
    return text, (
        Put("charger.band_low_m", read_length(low, "maker's lowest height", job.units)),
        Put("charger.band_high_m", read_length(high, "maker's highest height", job.units)),
    )


def _charger_word(field: str) -> Reader:
    def read(typed: Typed) -> Told:
        text = typed.text
        known = {"yes": True, "no": False, "open": None}
        word = text.partition(" ")[2].strip().lower()
        if word not in known:
            raise InputError(field, f"Can't use '{word[:40]}'.", "yes, no or open")
        return text, (Put(f"charger.{field}", known[word]),)

    return read


def _clear(typed: Typed) -> Told:
    """``clearfloor bench``: takes an area, a thing or a bay off the floor."""
    text, job = typed.text, typed.job
    name = text.partition(" ")[2].strip().lower()
    site = job.site
    edits = []
    groups: tuple[tuple[str, tuple[Area | Thing | Bay, ...]], ...] = (
        ("areas", site.areas), ("things", site.things), ("bays", site.bays)
    )  # fmt: skip
    for many, old in groups:
        kept = tuple(one for one in old if one.name.lower() != name)
        if len(kept) != len(old):
            edits.append(Put(f"site.{many}", kept))
    if not edits:
        names = ", ".join(one.name for _many, old in groups for one in old)
        raise InputError("floor", f"Nothing is called '{name[:40]}'.", names or "an area, a thing or a bay")
    return text, tuple(edits)


PLACE_WORDS: Final[dict[str, Reader]] = {
    **dict.fromkeys((*AREA_KINDS, *(kind for kind in THING_KINDS if kind != "post")), _area),
    "pin": _pin, "bay": _bay, "cord": _cord, "band": _band, "clearfloor": _clear,
    "disconnect": _charger_word("disconnect"), "separate": _charger_word("separate"),
}  # fmt: skip
"""First words of entries about the floor, and what reads them."""
